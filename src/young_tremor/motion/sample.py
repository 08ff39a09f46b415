"""A shake at any times: the sum of its strands, with pace, level and intensity."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from msgspec.structs import replace

from young_tremor.model.curve import Curve
from young_tremor.model.holder import FLINCH
from young_tremor.model.shake import Hit, Jolts, Point, Shake, Strand, Stretch, Together, blows
from young_tremor.motion import jolts, seeded_random
from young_tremor.motion.strand_kinds import kind_of

X, Y, ROLL, ZOOM = range(4)
FRAME = 1 / 24  # seconds
KEPT = (64, 20_000)  # how many times an answer may have to be kept: 96 of them are 92 MB at most


def sample(shake: Shake, t: np.ndarray, pivot: Point = Point(), hits: tuple[Hit, ...] = ()) -> np.ndarray:
    """All six channels of a whole shake.

    Parameters
    ----------
    shake : Shake
    t : (n,) float64
        Seconds from the shot's first frame; any order.
    pivot : Point
        The frame's pivot, for strands that have none of their own.
    hits : tuple of Hit
        What the jolts answer to.

    Returns
    -------
    (n, 6) float64
        Percent of frame height, degrees, percent, degrees; turn and scale about the frame's centre.
    """
    t = np.asarray(t, dtype=np.float64)
    total = np.zeros((len(t), 6))
    for number in range(len(shake.strands)):
        total += strand(shake, number, t, pivot, hits)
    return total * intensity(shake, t)[:, None]


def intensity(shake: Shake, t: np.ndarray) -> np.ndarray:
    """How much of a shake there is at ``t`` (n,): a held key gives way to the next one over a frame's time."""
    return shake.intensity.softened(t, FRAME)


def sample_everywhere(shake: Shake, t: np.ndarray, pivot: Point = Point(), hits: tuple[Hit, ...] = ()) -> np.ndarray:
    """The strands that act everywhere, as :func:`sample`."""
    everywhere = tuple(s if s.region is None else replace(s, on=False) for s in shake.strands)
    return sample(replace(shake, strands=everywhere), t, pivot, hits)


def gain(shake: Shake, number: int, t: np.ndarray) -> np.ndarray:
    """How much of a strand counts at ``t`` (n,): amount, stretch and the shake's intensity."""
    strand = shake.strands[number]
    if not counts(shake, strand):
        return np.zeros(len(t))
    return strand.amount.at(t) * acting(strand.stretch, t) * intensity(shake, t)


def strand(shake: Shake, number: int, t: np.ndarray, pivot: Point = Point(), hits: tuple[Hit, ...] = ()) -> np.ndarray:
    """One strand of a shake with its amount, without the intensity: (n, 6). Zero while it does not count."""
    strand = shake.strands[number]
    if kind_of(strand).field is not None or not counts(shake, strand):
        return np.zeros((len(t), 6))
    moved = bare(strand, shake, hits, t) * strand.amount.at(t)[:, None]
    if strand.stretch != Stretch():
        moved *= acting(strand.stretch, t)[:, None]
    return about(strand.pivot or pivot, t, moved)


def bare(each: Strand, shake: Shake, hits: tuple[Hit, ...], t: np.ndarray) -> np.ndarray:
    """A strand's motion at amount 100 % in a shake: (n, 6), not to be changed. While one number of a shake is dragged,
    what does not depend on it is asked for at the same times again and again, so the last answers are kept."""
    kind = kind_of(each)
    if each.origin == FLINCH and isinstance(each, Jolts):
        each = jolts.startled(each, [strand for strand in shake.strands if counts(shake, strand)])
    together = shake.together if kind.together else None
    course = _Course(_motion_key(each), shake.clock, hits if kind.hears else (), together)
    if len(t) > KEPT[1]:
        return _motion(course, t)
    return (_cached_sample if len(t) >= KEPT[0] else _few_kept)(course, np.ascontiguousarray(t).tobytes())


@dataclass(frozen=True)
class _Course:
    """All that a strand's motion follows from: itself, the pace, the hits that it answers to, and what belongs
    together, if it does."""

    strand: Strand
    pace: Curve
    hits: tuple[Hit, ...]
    together: Together | None


@lru_cache(maxsize=1024)
def _motion_key(each: Strand) -> Strand:
    """A strand without what does not change its motion at amount 100 %."""
    own = replace(each, id="", name="", note="", on=True, solo=False, amount=Curve(1.0), pivot=None)
    return replace(own, stretch=Stretch(), origin="", region=None)


@lru_cache(maxsize=96)
def _cached_sample(course: _Course, times: bytes) -> np.ndarray:
    moved = _motion(course, np.frombuffer(times))
    moved.flags.writeable = False
    return moved


@lru_cache(maxsize=256)
def _few_kept(course: _Course, times: bytes) -> np.ndarray:
    moved = _motion(course, np.frombuffer(times))
    moved.flags.writeable = False
    return moved


def _motion(course: _Course, t: np.ndarray) -> np.ndarray:
    more = () if course.together is None else (course.together,)
    return kind_of(course.strand).sample(course.strand, t, course.pace, course.hits, *more)


def heading(shake: Shake, hit: Hit | None) -> float:
    """Which way a hit sends the picture, in degrees (0 right, 90 down): as the first jolts of a shake that count do,
    and down where there are none."""
    leading = next((strand for strand in blows(shake.strands) if counts(shake, strand)), Jolts(""))
    return jolts.direction(leading, hit) if hit is not None else 90.0


def counts(shake: Shake, each: Strand) -> bool:
    """Whether a strand moves pictures: it is on, not for outlines alone, and if any strand is solo, one of them."""
    return each.on and not each.matte and (each.solo or not any(s.solo for s in shake.strands))


def acting(stretch: Stretch, t: np.ndarray) -> np.ndarray:
    """How much of a strand acts at ``t`` (n,): 0 outside its stretch, 1 inside, smooth over the fades."""
    gain = np.ones(len(t))
    if stretch.start is not None:
        fade = max(stretch.fade_in, 1e-6)
        gain *= seeded_random.smoothstep((t - stretch.start) / fade)
    if stretch.end is not None:
        fade = max(stretch.fade_out, 1e-6)
        gain *= seeded_random.smoothstep((stretch.end - t) / fade)
    return gain


def about(pivot: Point, t: np.ndarray, channels: np.ndarray) -> np.ndarray:
    """Turn and scale about ``pivot`` in centre form: the shift gains (I − sR)·v. (n, 6) at times (n,) → (n, 6)."""
    if pivot.central:
        return channels
    vx, vy = pivot.x.at(t), pivot.y.at(t)
    roll, scale = np.radians(channels[:, ROLL]), np.exp(channels[:, ZOOM] / 100.0)
    c, s = scale * np.cos(roll), scale * np.sin(roll)
    moved = channels.copy()
    moved[:, X] += 100.0 * (vx - (c * vx - s * vy))
    moved[:, Y] += 100.0 * (vy - (s * vx + c * vy))
    return moved
