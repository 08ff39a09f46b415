"""Ready shapes of the intensity at the playhead or over the marks: “swell here”, “still up to here”."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace

from young_tremor.base.units import timecode
from young_tremor.engine.asking.entries import ChangeShot, Entry
from young_tremor.engine.asking.question import Question
from young_tremor.engine.asking.settings_index import Place
from young_tremor.engine.library import word_table
from young_tremor.model import curve_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Shot

LENGTH = 1.0  # seconds that a swell takes if nothing is said
RISE, FADE, LEAST = 0.5, 0.2, 0.04  # seconds
LABELS = {
    "still": "Still up to here",
    "swell": "Swell around here",
    "rise": "Rise to here",
    "fall": "Fall from here to the end",
    "between": "Only between the marks",
}


def shapes(question: Question) -> list[Entry]:
    """The shapes that a sentence speaks of; it has to say *here*, or speak of the marks."""
    lengths = [question.clock.seconds(figure) for figure in question.figures if figure.unit in ("s", "ms", "f")]
    if not question.says("here") or len(lengths) != len(question.figures):
        return []
    place, names = question.place, word_table.meaning("shapes at the playhead")
    length = lengths[0] if lengths and lengths[0] and lengths[0] > 0 else LENGTH
    detail = f"Intensity, {length:g} s at {timecode(round(place.now * place.rate), place.rate)}"
    return [
        Entry("set", LABELS[name], detail, ChangeShot(LABELS[name], partial(_shaped, name, place, length)), 2.5)
        for name in dict.fromkeys(names[word] for word in question.words if word in names)
    ]


def _shaped(name: str, place: Place, length: float, shot: Shot) -> Shot:
    """A shot with its intensity in a shape."""
    shake = replace(shot.shake, intensity=_change(name, place, length)(shot.shake.intensity))
    return replace(shot, shake=shake)


def _change(name: str, place: Place, length: float) -> Callable[[Curve], Curve]:
    """What a shape makes of a curve."""
    now, end = place.now, place.now + LENGTH if place.seconds is None else place.seconds
    first, last = place.marks or (max(now - length / 2, 0.0), min(now + length / 2, end))
    return {
        "still": partial(curve_edits.still_up_to, t=now, rise=min(length, RISE)),
        "swell": partial(curve_edits.swell_around, t=now, half=length / 2),
        "rise": partial(curve_edits.ramp_in, a=0.0, b=max(now, LEAST)),
        "fall": partial(curve_edits.ramp_out, a=now, b=max(end, now + LEAST)),
        "between": partial(curve_edits.only_between, a=first, b=max(last, first + LEAST), fade=FADE),
    }[name]
