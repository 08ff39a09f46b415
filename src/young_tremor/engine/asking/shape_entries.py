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
from young_tremor.engine.asking.settings_index import Edit, Place, Setting
from young_tremor.engine.asking.word_search import stems
from young_tremor.engine.library import word_table
from young_tremor.model.curve_shapes import SHAPES, Anchors, CurveShape
from young_tremor.model.fields import Number

LENGTH = 1.0  # seconds that a swell takes if nothing is said


def shapes(question: Question) -> list[Entry]:
    """The shapes that a sentence speaks of; it has to say where: *here*, *at* a time, from one time to another, at the
    marks or the hits."""
    named = _stretch(question) or _beginning(question)
    return _shapes_at(question) if named is None else [named]


def _shapes_at(question: Question) -> list[Entry]:
    """The shapes at one place."""
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


def _stretch(question: Question) -> Entry | None:
    """“Shake only from 2 s to 4 s”: nothing but the stretch, where nothing else is spoken of."""
    if len(question.figures) != 2 or question.says("off"):
        return None
    times = _times(question)
    spans = question.says("from") or question.says("to") or _shape_named(question, "between")
    if not spans or not times or not times[0] < times[1]:
        return None
    detail = f"Intensity, {times[0]:.2f} s to {times[1]:.2f} s"
    change = _of_intensity("between", replace(question.place, marks=(times[0], times[1])))
    return Entry("set", "Only there", detail, ChangeShot("Only there", change), 2.5)


def _beginning(question: Question) -> Entry | None:
    """“No shake in the first two seconds”: still up to there."""
    quiet = question.says("off") or _shape_named(question, "still")
    if not (quiet and question.says("first")):
        return None
    times = _times(question) if question.figures else _one_second(question)
    if len(times) != 1 or times[0] <= 0:
        return None
    detail = f"Intensity, nothing up to {times[0]:.2f} s"
    change = _of_intensity("still", replace(question.place, now=times[0], marks=None))
    return Entry("set", "Still at first", detail, ChangeShot("Still at first", change), 2.5)


def _times(question: Question) -> list[float]:
    """The times that a sentence about the shake alone speaks of, in seconds of the shot; none where it says more."""
    times = [question.clock.seconds(figure) for figure in question.figures]
    within = [time for time in times if time is not None and time >= 0]
    end = question.place.seconds
    if len(within) < len(times) or not _speaks_of_shake_alone(question):
        return []
    return within if end is None or min(within, default=0.0) < end else []


def _one_second(question: Question) -> list[float]:
    """“The first second”, which no figure says."""
    return [1.0] if question.says("second") and _speaks_of_shake_alone(question) else []


def _speaks_of_shake_alone(question: Question) -> bool:
    """Whether no word is about anything but the shake and times."""
    sections = ("filler", "stop", "from", "to", "for", "first", "off", "second")
    particles = set().union(*(word_table.words(section) for section in sections))
    return all(word in particles or _is_shape_word(word, "between", "still") for word in question.words)


def _is_shape_word(word: str, *shapes: str) -> bool:
    return word_table.meaning("shapes at the playhead").get(word) in shapes


def _shape_named(question: Question, shape: str) -> bool:
    return any(_is_shape_word(word, shape) for word in question.words)


def _of_intensity(word: str, place: Place) -> Edit:
    """What a shape makes of the shake's intensity."""
    setting = settings_index.named("Shake.intensity")
    shape = next(shape for shape in SHAPES if shape.word == word)
    anchors = _anchors(setting, place, LENGTH)
    return settings_index.reshaped(setting, place, lambda curve: shape.change(curve, anchors))


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
