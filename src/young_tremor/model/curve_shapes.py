"""Ready shapes of a curve, anchored at the playhead, the marks and the hits; they keep the height that was set."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from msgspec.structs import replace

from young_tremor.model import curve_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.shake import Hit

RISE, FADE, LEAST = 0.5, 0.2, 0.04  # seconds
PULSE_RISE, PULSE_FALL, PULSE_KNEE = 0.04, 0.6, 0.3  # seconds, seconds, height at half of the fall


@dataclass(frozen=True)
class Anchors:
    """Where shapes stand, in seconds of the shot: the playhead, the shot's end, the marks if there are any, the hits.
    ``length``: how long a swell takes; ``nothing``: the value that is none, in the curve's unit."""

    now: float
    end: float
    marks: tuple[float, float] | None = None
    hits: tuple[Hit, ...] = ()
    length: float = 1.0
    nothing: float = 0.0


@dataclass(frozen=True)
class CurveShape:
    """One shape: its ``word`` in tables of words, its ``label``, and what it makes of a curve. ``needs``: what there
    has to be: "marks", "hits" or nothing."""

    word: str
    label: str
    change: Callable[[Curve, Anchors], Curve]
    needs: str = ""

    def can_stand(self, anchors: Anchors) -> bool:
        """Whether there is what it needs."""
        return not self.needs or bool(getattr(anchors, self.needs))


def height_at(curve: Curve, t: float, nothing: float) -> float:
    """The height of a curve, or the largest that was set where it is nothing."""
    here = curve_edits.height_at(curve, t)
    largest = max((curve.value, *(key.value for key in curve.keys)), key=lambda value: abs(value - nothing))
    return here if abs(here - nothing) > 1e-3 * abs(largest - nothing) else largest


def still_up_to(curve: Curve, at: Anchors) -> Curve:
    """Nothing before the playhead, then up to the height within half a second."""
    return _from(curve, at.now, min(at.length, RISE), at.nothing)


def from_here_on(curve: Curve, at: Anchors) -> Curve:
    """Nothing before the playhead, and all of it from there on."""
    return _from(curve, max(at.now - LEAST, 0.0), LEAST, at.nothing)


def _from(curve: Curve, t: float, rise: float, nothing: float) -> Curve:
    end = t + rise
    keys = (Key(t, nothing), Key(end, height_at(curve, end, nothing)))
    return curve_edits.replace_keys(curve, 0.0, end, keys, before=nothing)


def rise_to(curve: Curve, at: Anchors) -> Curve:
    """From nothing at the shot's start to the height at the playhead."""
    t = max(at.now, LEAST)
    height = height_at(curve, t, at.nothing)
    return curve_edits.replace_keys(curve, 0.0, t, (Key(0.0, at.nothing), Key(t, height)), before=at.nothing)


def swell_around(curve: Curve, at: Anchors) -> Curve:
    """Nothing but a swell to the height, around the playhead or over the marks."""
    first, last = at.marks or (at.now - at.length / 2, at.now + at.length / 2)
    middle = (first + last) / 2
    height = height_at(curve, middle, at.nothing)
    return replace(curve, keys=(Key(first, at.nothing), Key(middle, height), Key(last, at.nothing)))


def only_between(curve: Curve, at: Anchors) -> Curve:
    """Nothing outside of the marks, or of a stretch around the playhead; inside, as it is."""
    first, last = at.marks or (max(at.now - at.length / 2, 0.0), min(at.now + at.length / 2, at.end))
    last = max(last, first + LEAST)
    fade = min(FADE, (last - first) / 2)
    a, b = first + fade, last - fade
    inside = tuple(key for key in curve.keys if a + curve_edits.NEAR < key.t < b - curve_edits.NEAR)
    keys = (*inside, *(Key(t, height_at(curve, t, at.nothing)) for t in (a, b)))
    return curve_edits.sort_keys(curve, (*keys, Key(first, at.nothing), Key(last, at.nothing)))


def fall_to_end(curve: Curve, at: Anchors) -> Curve:
    """From the height at the playhead to nothing at the shot's end."""
    a, b = at.now, max(at.end, at.now + LEAST)
    keys = (Key(a, height_at(curve, a, at.nothing)), Key(b, at.nothing))
    return curve_edits.replace_keys(curve, a, b, keys, after=at.nothing)


def pulse_at_hits(curve: Curve, at: Anchors) -> Curve:
    """Nothing but a pulse at each hit, as high as the hit is strong, dying away."""
    keys: list[Key] = []
    none = at.nothing
    top = height_at(curve, at.now, none) - none
    for hit in sorted(at.hits, key=lambda hit: hit.t):
        first = max(hit.t - PULSE_RISE, 0.0)
        if keys:
            first = max(first, keys[-3].t + LEAST)
            left = curve_edits.height_at(Curve(none, tuple(keys)), first)
            keys = [key for key in keys if key.t < first]
        else:
            left = none
        peak = max(hit.t, first + LEAST)
        height = top * abs(hit.strength)
        keys += [
            Key(first, left),
            Key(peak, none + height),
            Key(peak + PULSE_FALL / 2, none + PULSE_KNEE * height),
            Key(peak + PULSE_FALL, none),
        ]
    return replace(curve, keys=tuple(keys)) if keys else curve


SHAPES = (
    CurveShape("still", "Still up to here", still_up_to),
    CurveShape("from", "From here on", from_here_on),
    CurveShape("rise", "Rise to here", rise_to),
    CurveShape("swell", "Swell around here", swell_around),
    CurveShape("between", "Only between the marks", only_between),
    CurveShape("fall", "Fall from here to the end", fall_to_end),
    CurveShape("pulse", "Pulse at each hit", pulse_at_hits, needs="hits"),
)
