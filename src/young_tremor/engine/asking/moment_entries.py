"""Times to go to, and hits to set: “f95”, “-12f”, “hit 3.5 s 80 %”."""

from __future__ import annotations

from msgspec.structs import replace

from young_tremor.base.units import timecode
from young_tremor.engine.asking.entries import ChangeShot, Entry, GoTo
from young_tremor.engine.asking.grammar import FRAMES, TIMES, Clock, Quantity
from young_tremor.engine.asking.question import Question
from young_tremor.engine.asking.settings_index import Place
from young_tremor.engine.library import word_table
from young_tremor.model.project import Shot, new_id
from young_tremor.model.shake import Hit

UNITS_OF_TIME = ("", FRAMES, *TIMES)
UNITS_OF_STRENGTH = {"%": 0.01, "×": 1.0}
NEAR = 0.01  # seconds within which a hit takes another's place


def times(question: Question) -> list[Entry]:
    """A place in time: “95”, “f95”, “2:10”, “3.5 s”, “-12f” (from the playhead)."""
    allowed = word_table.words("go") | word_table.words("stop")
    if len(question.figures) != 1 or not allowed.issuperset(question.words):
        return []
    quantity = question.figures[0]
    bare = quantity.unit in ("", FRAMES)
    whole = quantity.value == int(quantity.value)
    if quantity.unit not in UNITS_OF_TIME or quantity.relation == "*" or (bare and not whole):
        return []
    frame = _frame(quantity, question.place)
    detail = f"frame {frame}, {timecode(frame, question.place.rate)}"
    score = 1.4 if bare and not question.words else 2.0
    return [Entry("time", f"Go to frame {frame}", detail, GoTo(frame), score)]


def _frame(quantity: Quantity, place: Place) -> int:
    """The frame of a shot that a time means; one below 0, or with a +, counts from the playhead."""
    seconds = None if quantity.unit in ("", FRAMES) else Clock(place.rate).seconds(quantity)
    frames = quantity.value if seconds is None else seconds * float(place.rate)
    if quantity.value < 0 or quantity.relation:
        frames += round(place.now * place.rate)
    last = round(place.seconds * place.rate) - 1 if place.seconds else round(frames)
    return max(0, min(round(frames), last))


def hits(question: Question) -> list[Entry]:
    """A hit at a time, or at the playhead: “hit 3.5 s 80 %”."""
    if not question.says("hits") or not question.figures:
        return []
    strengths = [figure for figure in question.figures if figure.unit in UNITS_OF_STRENGTH]
    moments = [figure for figure in question.figures if figure.unit in UNITS_OF_TIME]
    if max(len(moments), len(strengths)) > 1 or len(moments) + len(strengths) < len(question.figures):
        return []
    place = question.place
    t = _seconds(moments[0], question.clock) if moments else place.now
    strength = strengths[0].value * UNITS_OF_STRENGTH[strengths[0].unit] if strengths else 1.0
    if not 0 <= t <= (t if place.seconds is None else place.seconds) or abs(strength) > 100:
        return []
    hit = Hit(new_id(), t, strength)

    def edit(shot: Shot) -> Shot:
        others = [other for other in shot.hits if abs(other.t - t) > NEAR]
        return replace(shot, hits=tuple(sorted((*others, hit), key=_time_of)))

    detail = f"at {t:.2f} s, strength {100 * strength:.0f} %"
    return [Entry("hit", "Hit", detail, ChangeShot("Add hit", edit), 2.6)]


def _seconds(quantity: Quantity, clock: Clock) -> float:
    """The time of a hit: a whole number without a unit counts frames."""
    counts = quantity.unit == FRAMES or (quantity.unit == "" and quantity.value == int(quantity.value))
    return clock.seconds(Quantity(quantity.value, "f") if counts else quantity) or 0.0


def _time_of(hit: Hit) -> float:
    return hit.t
