"""Steps: what walks has no two strides alike, and lands with a knock."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from young_tremor.model.shake import Steps
from young_tremor.motion import seeded_random

TURN = 2 * math.pi
KNOCK_HZ, KNOCK_SETTLE = 9.0, 0.055  # ring and decay of a heel strike
LOUD = 1.6  # makes its first swing 1
ROOT = math.sqrt(12.0)  # of a number between -0.5 and 0.5, to unit variance


@dataclass(frozen=True)
class Gait:
    """Steps at some times. ``turn`` (n,): the beat's angle, a turn a step, no two of the same length. ``size`` (n,):
    how large each step is. ``since`` (n,): seconds since a step landed, which is where its turn ends; ``strength``
    (n,): how hard it did."""

    turn: np.ndarray
    size: np.ndarray
    since: np.ndarray
    strength: np.ndarray

    def knock(self) -> np.ndarray:
        """The heel strike: starts and ends at 0, its first swing at about 1: (n,)."""
        ring = np.sin(TURN * KNOCK_HZ * self.since) * np.exp(-self.since / KNOCK_SETTLE)
        return self.strength * ring * LOUD


HURST = 0.75  # of stride intervals (J. Hausdorff et al., Journal of Applied Physiology 78, 1995)
SLOWEST, LINES = 1 / 8192, 64  # cycles a step, and how many sines make up the way that steps wander
LEFT_RIGHT = (0.01, 0.03)  # by which left and right intervals differ


@lru_cache(maxsize=64)
def _wandering(seed: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Sines (cycles a step, phase in turns, size) after the spectrum of fractional Brownian motion whose increments
    from step to step have unit variance."""
    edges = np.geomspace(SLOWEST, 0.5, LINES + 1)
    cells = np.arange(LINES)
    hz = edges[:-1] * (edges[1:] / edges[:-1]) ** seeded_random.uniform(seed + 21, cells)
    size = np.sqrt(np.diff(edges) * hz ** -(2 * HURST + 1))
    step = float((0.5 * (2 * size * np.sin(np.pi * hz)) ** 2).sum())
    return hz, seeded_random.uniform(seed + 22, cells), size / math.sqrt(step)


def _ahead(seed: int, index: np.ndarray, blend: np.ndarray) -> np.ndarray:
    """By how many spreads of an interval steps are ahead of an even beat: at the steps ``index`` (n,) and,
    by ``blend`` (n,), on the way to the next."""
    if not len(index):
        return np.zeros(0)
    hz, phase, size = _wandering(seed)
    first, last = int(index.min()), int(index.max()) + 1
    if last - first <= 2 * len(index):
        steps, place = np.arange(first, last + 1), index - first
    else:  # far apart
        steps = np.unique(np.stack([index, index + 1]))
        place = np.searchsorted(steps, index)
    ahead = np.cos(TURN * (steps[:, None] * hz + phase)) @ size
    here = ahead[place]
    return np.asarray(here + blend * (ahead[place + 1] - here))


@dataclass(frozen=True)
class _Beat:
    """A seed's beat at ``beats`` (n,) turns: the step ``index`` (n,) that it is in, how far it went over to the next by
    ``blend`` (n,), and on which ``side`` (n,) it is, 1 or -1."""

    seed: int
    index: np.ndarray
    blend: np.ndarray
    side: np.ndarray

    @classmethod
    def at(cls, beats: np.ndarray, seed: int) -> _Beat:
        whole = np.floor(beats)
        index = whole.astype(np.int64)
        side = np.where(index % 2 == 0, 1.0, -1.0)
        return cls(seed, index, seeded_random.smoothstep(beats - whole), side)

    def between(self, salt: int) -> np.ndarray:
        """A number of each step's own, of unit variance, that goes over to the next one's: (n,)."""
        here = _of_step(self.seed + salt, self.index)
        return here + self.blend * (_of_step(self.seed + salt, self.index + 1) - here)

    def other_foot(self) -> np.ndarray:
        """1 on one foot, -1 on the other: (n,)."""
        return self.side * (1 - 2 * self.blend)


def _of_step(seed: int, number: np.ndarray) -> np.ndarray:
    return ROOT * (seeded_random.uniform(seed, number) - 0.5)


def gait(steps: Steps, turn: np.ndarray, hz: float, seed: int, stands: np.ndarray) -> Gait:
    """The steps of a beat that stands at ``turn`` (n,) radians and goes ``hz`` times a second. Where it comes to rest,
    at the angles ``stands`` (m,), rising, steps that run free have just landed."""
    beats = turn / TURN
    beat = _Beat.at(beats, seed)
    size = 1.0 + steps.size * beat.between(5) + 0.5 * steps.uneven * beat.other_foot()
    walked = beats - _moved(steps, beat)
    if steps.free and len(stands):
        at = stands / TURN
        walked = _landing(walked, at - _moved(steps, _Beat.at(at, seed)))
    landed = np.floor(walked)
    strength = 1.0 + steps.size * _of_step(seed + 7, landed.astype(int))
    return Gait(TURN * walked, size, (walked - landed) / max(hz, 1e-6), strength)


def _moved(steps: Steps, beat: _Beat) -> np.ndarray:
    """By which share of a step a beat's steps end late: (n,). Where a step ends is moved by a seeded share of it, which
    goes over smoothly within a step; the moved ends of neighbours make lengths differ by twice their variance, so each
    moves by less. Steps that run free are moved by the sum of what the steps before differed by."""
    if not steps.free:
        return beat.between(3) * steps.length / math.sqrt(2.0)
    least, most = LEFT_RIGHT
    apart = least + (most - least) * float(seeded_random.uniform(beat.seed + 23, np.zeros(1, np.int64))[0])
    return steps.length * _ahead(beat.seed, beat.index, beat.blend) + 0.25 * apart * beat.other_foot()


def _landing(walked: np.ndarray, stood: np.ndarray) -> np.ndarray:
    """Steps walked (n,), stretched between the places ``stood`` (m,) so that each of them is a whole step."""
    stood = np.maximum.accumulate(stood)
    whole = np.round(stood)
    shift = np.interp(walked, stood, whole - stood)
    return np.asarray(walked + shift)
