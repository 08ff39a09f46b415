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


def gait(steps: Steps, turn: np.ndarray, hz: float, seed: int) -> Gait:
    """The steps of a beat that stands at ``turn`` (n,) radians and goes ``hz`` times a second.

    Where a step ends is moved by a seeded share of it, and its size is its own; both go over smoothly within a step.
    The moved ends of neighbours make lengths differ by twice their variance, so each moves by less. Steps that run free
    are moved by the sum of what the steps before differed by.
    """
    beats = turn / TURN
    whole = np.floor(beats)
    into = beats - whole
    index = whole.astype(np.int64)
    blend = seeded_random.smoothstep(into)

    def each(salt: int, k: np.ndarray) -> np.ndarray:
        return ROOT * (seeded_random.uniform(seed + salt, k) - 0.5)

    def between(salt: int) -> np.ndarray:
        return each(salt, index) + blend * (each(salt, index + 1) - each(salt, index))

    side = np.where(index % 2 == 0, 1.0, -1.0)
    if steps.free:
        least, most = LEFT_RIGHT
        apart = least + (most - least) * float(seeded_random.uniform(seed + 23, np.zeros(1, np.int64))[0])
        moved = steps.length * _ahead(seed, index, blend) + 0.25 * apart * side * (1 - 2 * blend)
    else:
        moved = between(3) * steps.length / math.sqrt(2.0)
    # left goes over to right within a step
    size = 1.0 + steps.size * between(5) + 0.5 * steps.uneven * side * (1 - 2 * blend)
    walked = beats - moved
    landed = np.floor(walked)
    return Gait(TURN * walked, size, (walked - landed) / max(hz, 1e-6), 1.0 + steps.size * each(7, landed.astype(int)))
