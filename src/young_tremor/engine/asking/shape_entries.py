"""Ready shapes of a curve at the playhead, a time, the marks and the hits: “swell here”, “swell at 3 s”, “shutter still
up to here”."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

from young_tremor.base.units import timecode
from young_tremor.engine.asking import settings_index
from young_tremor.engine.asking.entries import ChangeShot, DoCommand, Entry
from young_tremor.engine.asking.grammar import Quantity, Word
from young_tremor.engine.asking.question import Question
from young_tremor.engine.asking.settings_index import Place, Setting
from young_tremor.engine.asking.word_search import stems
from young_tremor.engine.library import word_table
from young_tremor.model.curve_shapes import SHAPES, Anchors, CurveShape
from young_tremor.model.fields import Number

LENGTH = 1.0  # seconds that a swell takes if nothing is said


def shapes(question: Question) -> list[Entry]:
    """The shapes that a sentence speaks of; it has to say where: *here*, *at* a time, the marks or the hits."""
    time, place = _time(question), question.place
    if time is not None:
        place = replace(place, now=question.clock.seconds(time) or 0.0, marks=None)
    figures = [figure for figure in question.figures if figure is not time]
    lengths = [question.clock.seconds(figure) for figure in figures if figure.unit in ("s", "ms", "f")]
    chosen = _shapes_of(question, placed=time is not None) if len(lengths) == len(figures) else []
    if not chosen:
        return []
    length = lengths[0] if lengths and lengths[0] and lengths[0] > 0 else LENGTH
    setting = _curve(question)
    anchors = _anchors(setting, place, length)
    return [_entry(shape, setting, place, anchors) for shape in chosen]


def _time(question: Question) -> Quantity | None:
    """The figure that says where, after *at*: a time within the shot."""
    last = question.place.seconds
    for word, figure in pairwise(question.tokens):
        if isinstance(word, Word) and word.text in word_table.words("at") and isinstance(figure, Quantity):
            seconds = question.clock.seconds(figure)
            if seconds is not None and seconds >= 0 and (last is None or seconds <= last):
                return figure
    return None


def _shapes_of(question: Question, *, placed: bool) -> list[CurveShape]:
    """The shapes that are named: a pulse only where hits are spoken of, a swell otherwise. ``placed``: at a time."""
    names, hits = word_table.meaning("shapes at the playhead"), question.says("hits")
    named = [names[word] for word in question.words if word in names]
    if hits and "pulse" in named:
        named = ["pulse"]
    elif not placed and not question.says("here"):
        return []
    named = ["swell" if word == "pulse" and not hits else word for word in named]
    return [shape for word in dict.fromkeys(named) for shape in SHAPES if shape.word == word]


def _curve(question: Question) -> Setting:
    """What is named of all that can change along the way; the intensity if nothing is."""
    content, place = set(stems(" ".join(question.words))), question.place
    shape_words = word_table.meaning("shapes at the playhead")
    content -= {stem for word in question.words if word in shape_words for stem in stems(word)}
    best: tuple[int, Setting] | None = None
    for setting in settings_index.settings():
        called = (setting.name, *word_table.phrases("settings", setting.key).split(","))
        own = max((set(stems(name)) for name in called if set(stems(name)) <= content), key=len, default=set())
        if len(own) > (best or (0,))[0] and settings_index.curve_of(setting, place) is not None:
            best = (len(own), setting)
    return best[1] if best else settings_index.named("Shake.intensity")


def _anchors(setting: Setting, place: Place, length: float) -> Anchors:
    assert isinstance(setting.field, Number)
    scale = setting.field.shown_as
    nothing = scale.limits[0] / setting.field.per if scale.unit == "dB" else 0.0
    end = place.now + LENGTH if place.seconds is None else place.seconds
    return Anchors(place.now, end, place.marks, place.shot.hits, length, nothing)


def _entry(shape: CurveShape, setting: Setting, place: Place, anchors: Anchors) -> Entry:
    where = timecode(round(place.now * place.rate), place.rate)
    lasting = f", {anchors.length:g} s" if shape.word in ("swell", "between") and anchors.marks is None else ""
    detail = f"{setting.name}{lasting} at {where}"
    if not shape.can_stand(anchors):
        return Entry("do", "Hit at the playhead", f"{shape.label}: there are no hits yet", DoCommand("hit"), 2.5)
    if shape.needs == "hits":
        detail = f"{setting.name}, {len(anchors.hits)} hits"
    change = settings_index.reshaped(setting, place, lambda curve: shape.change(curve, anchors))
    return Entry("set", shape.label, detail, ChangeShot(shape.label, change), 2.5)
