"""Jolts: every hit excites a motion that rises fast, rings and dies away."""

from __future__ import annotations

import math
import zlib
from collections.abc import Iterable
from functools import lru_cache
from operator import attrgetter
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from young_tremor.model.shake import Hit, Jolts, Strand, blows
from young_tremor.motion import seeded_random

SOUND = 343.0  # metres per second in air
LINES = 10  # of the rattle
PUSH = 0.98  # of the push that any later swing may reach
TURN = 2 * math.pi
X, Y, ROLL, ZOOM = range(4)
FORGETS = 10.0  # seconds without a hit after which the next one is the first
# by how much hits differ from the named ones at most: shares, and degrees
SIZE_DIFFERS, RING_DIFFERS, SETTLE_DIFFERS, TURNED = 0.2, 0.12, 0.25, 25.0
_GONE = 9.2  # decay times after which a ten-thousandth is left


def sample(jolts: Jolts, hits: tuple[Hit, ...], t: np.ndarray) -> np.ndarray:
    """The six channels of a jolts strand at amount 100 %.

    With u = t - t₀ - delay ≥ 0 and strength s each hit adds
    s · (1 - exp(-u/rise)) · [(1 - ρ) · sin(2π f u + φ) + ρ · noise around f]
    · [(1 - tail) · exp(-u/settle) + tail · exp(-u/(4·settle))], scaled so that the largest displacement of one
    isolated hit of strength 1 is the reach and goes the named way; roll and zoom each with a reach of their own.
    ρ grows from 0 to the rattle over the swing after the first half one: the push comes first. Where hits differ, each
    has a size, direction, ring and settling of its own, by its id.

    Parameters
    ----------
    t : (n,) float64
        Seconds from the shot's first frame, any order.

    Returns
    -------
    (n, 6) float64
    """
    out = np.zeros((len(t), 6))
    if not len(t):
        return out
    wait = jolts.delay + max(jolts.distance, 0.0) / SOUND
    lasting = _GONE * max(jolts.settle, 1e-3) * (4 if jolts.tail > 0 else 1) * (1 + SETTLE_DIFFERS * jolts.differ)
    left = _left_by_habit(jolts, hits)
    for hit in hits:
        u = t - (hit.t + wait)
        on = np.flatnonzero((u > 0) & (u < lasting))
        if not on.size or hit.strength == 0:
            continue
        seed = _hit_seed(jolts, hit)
        angle = math.radians(direction(jolts, hit))
        own, strength = of_hit(jolts, seed), hit.strength * left.get(hit.id, 1.0)
        moved = strength * waveform(own, seed, u[on])
        out[on, X] += own.reach * math.cos(angle) * moved
        out[on, Y] += own.reach * math.sin(angle) * moved
        for channel, reach in ((ROLL, own.roll), (ZOOM, own.zoom)):
            if reach:
                sign = 1.0 if channel == ZOOM or _hit_random(seed, channel) < 0.5 else -1.0
                out[on, channel] += sign * reach * strength * waveform(own, seed + channel, u[on])
    return out


def _left_by_habit(jolts: Jolts, hits: tuple[Hit, ...]) -> dict[str, float]:
    """What is left of each hit, by its id, where further ones bring less until none came for a while."""
    left: dict[str, float] = {}
    if jolts.habit >= 1:
        return left
    before, share = -math.inf, 1.0
    for hit in sorted(hits, key=attrgetter("t")):
        share = share * jolts.habit if hit.t - before < FORGETS else 1.0
        before = hit.t
        left[hit.id] = share
    return left


def startled(flinch: Jolts, strands: Iterable[Strand]) -> Jolts:
    """A flinch among the strands that count, as far from the blow as the nearest of their jolts, if it has no distance
    of its own: who only hears a blow starts when the sound is there."""
    away = min((strand.distance for strand in blows(strands)), default=0.0)
    return flinch if flinch.distance > 0 else replace(flinch, distance=away)


def direction(jolts: Jolts, hit: Hit) -> float:
    """Which way a hit goes, in degrees: 0 right, 90 down."""
    seed = _hit_seed(jolts, hit)
    if jolts.direction is None:
        return 360.0 * _hit_random(seed, 5)
    return jolts.direction + (TURNED * jolts.differ * _either_way(seed, 21) if jolts.differ else 0.0)


def of_hit(jolts: Jolts, seed: int) -> Jolts:
    """The jolts as one hit has them: its own size, ring and settling about the named ones."""
    if not jolts.differ:
        return jolts
    size, ring, settle = (
        1 + share * jolts.differ * _either_way(seed, salt)
        for salt, share in ((22, SIZE_DIFFERS), (23, RING_DIFFERS), (24, SETTLE_DIFFERS))
    )
    return replace(
        jolts,
        reach=jolts.reach * size,
        roll=jolts.roll * size,
        zoom=jolts.zoom * size,
        ring=jolts.ring * ring,
        settle=jolts.settle * settle,
    )


def _either_way(seed: int, salt: int) -> float:
    """A number of the hit's own, -1…1."""
    return 2 * _hit_random(seed, salt) - 1


def _hit_seed(jolts: Jolts, hit: Hit) -> int:
    """By the hit's id: hits that come or go elsewhere change nothing of it."""
    return (jolts.seed * 8191 + zlib.crc32(hit.id.encode(errors="surrogatepass")) * 31) & 0x7FFFFFFFFFFF


class _HitCourse(NamedTuple):
    """What the course of one hit depends on, within the limits it can be worked out in."""

    ring: float
    settle: float
    rise: float
    rattle: float
    tail: float
    phase: float
    seed: int
    rule: int

    @classmethod
    def of(cls, jolts: Jolts, seed: int) -> _HitCourse:
        settle, rise = max(jolts.settle, 1e-3), max(jolts.rise, 1e-4)
        rattle, tail = min(max(jolts.rattle, 0.0), 1.0), min(max(jolts.tail, 0.0), 1.0)
        return cls(jolts.ring, settle, rise, rattle, tail, jolts.phase, seed, jolts.rule)

    def lines(self) -> tuple[np.ndarray, np.ndarray]:
        """Frequencies (k,) of the rattle's lines, and where in its turn each begins."""
        cells = np.arange(LINES)
        hz = self.ring * np.exp(0.9 * (seeded_random.uniform(self.seed + 11, cells) - 0.5))
        return hz, seeded_random.uniform(self.seed + 13, cells)

    def seconds(self) -> np.ndarray:
        """Seconds at which the whole of it is looked at."""
        lasting = _GONE * self.settle * (4 if self.tail > 0 else 1)
        step = min(1 / (160 * max(self.ring, 0.1)), max(self.rise, 1e-3) / 8, lasting / 400)
        return np.arange(1, min(int(lasting / step), 40000) + 2) * step


def waveform(jolts: Jolts, seed: int, u: np.ndarray) -> np.ndarray:
    """The course of one hit at ``u`` (n,) seconds after it, (n,); its largest value is 1 and positive."""
    course = _HitCourse.of(jolts, seed)
    loud = 1.0 if course.rule == 1 else _noise(course)
    return _raw(course, u, loud) / _peak(course, loud)


def _raw(course: _HitCourse, u: np.ndarray, loud: float) -> np.ndarray:
    """A course as it is, its rattle so ``loud``."""
    settle, tail = course.settle, course.tail
    shape = (1 - np.exp(-u / course.rise)) * ((1 - tail) * np.exp(-u / settle) + tail * np.exp(-u / (4 * settle)))
    grown = course.rattle * (seeded_random.smoothstep(u * course.ring - 0.5) if course.rule > 1 else 1.0)
    motion = (1 - grown) * np.sin(TURN * course.ring * u + math.radians(course.phase))
    if course.rattle:
        hz, start = course.lines()
        noise = np.sin(TURN * (np.multiply.outer(u, hz) + start)).sum(axis=1) * math.sqrt(2 / LINES)
        motion = motion + loud * grown * noise
    return shape * motion


@lru_cache(maxsize=1024)
def _peak(course: _HitCourse, loud: float) -> float:
    """The largest absolute value of a course, found on a fine grid and refined by a parabola; with its sign,
    but by rule 1."""
    bare, noise, _ = _evenly(course)
    whole = bare + loud * noise
    size = np.abs(whole)
    top = int(np.argmax(size))
    sign = 1.0 if course.rule == 1 or whole[top] >= 0 else -1.0
    return sign * _refine_peak(size, top)


@lru_cache(maxsize=4)
def _evenly(course: _HitCourse) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """A course on a fine grid of time (n,): without its rattle; its rattle at its loudest; and as if it had none.

    The same numbers as of :func:`_raw`, but each wave is a product of coarse and fine turns: ten times as fast.
    """
    ring, settle, rattle, tail = course.ring, course.settle, course.rattle, course.tail
    u = course.seconds()
    step, few = float(u[0]), math.isqrt(len(u) - 1) + 1
    coarse, fine = u[::few, None], step * np.arange(few)

    def decay(seconds: float) -> np.ndarray:
        return np.exp(-coarse / seconds) * np.exp(-fine / seconds)

    def waves(hz: np.ndarray, start: np.ndarray) -> np.ndarray:
        at, on = TURN * (coarse * hz + start), TURN * np.multiply.outer(hz, fine)
        return np.sin(at) @ np.cos(on) + np.cos(at) @ np.sin(on)

    shape = (1 - decay(course.rise)) * ((1 - tail) * decay(settle) + tail * decay(4 * settle))
    free = shape * waves(np.array([ring]), np.array([math.radians(course.phase) / TURN]))
    bare, noise = free, np.zeros(free.shape)
    if rattle:
        ramp = coarse * ring - 0.5 + fine * ring
        grown = rattle * (seeded_random.smoothstep(ramp) if course.rule > 1 else np.ones(free.shape))
        bare = (1 - grown) * free
        noise = shape * grown * waves(*course.lines()) * math.sqrt(2 / LINES)
    every = tuple(part.ravel()[: len(u)] for part in (bare, noise, free))
    for part in every:
        part.flags.writeable = False
    return every  # type: ignore[return-value]


@lru_cache(maxsize=1024)
def _noise(course: _HitCourse) -> float:
    """How loud the rattle may be for the push to stay the largest: 1 or less."""
    if not course.rattle:
        return 1.0
    bare, noise, free = _evenly(course)
    late = course.seconds() * course.ring > 0.5
    room = PUSH * float(np.abs(free).max()) - np.abs(bare[late])
    return float(min(1.0, max(np.min(room / np.maximum(np.abs(noise[late]), 1e-9), initial=1.0), 0.0)))


def _refine_peak(size: np.ndarray, top: int) -> float:
    if 0 < top < len(size) - 1:
        a, b, c = size[top - 1 : top + 2]
        bend = a - 2 * b + c
        return float(b - (a - c) ** 2 / (8 * bend)) if bend < 0 else float(b)
    return max(float(size[top]), 1e-12)


def _hit_random(seed: int, index: int) -> float:
    return float(seeded_random.uniform(seed, np.array([index]))[0])
