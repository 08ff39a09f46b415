"""Shimmer: smooth noise over the picture that keeps changing, as places that are looked up elsewhere."""

from __future__ import annotations

import math
from functools import lru_cache

import cv2
import numpy as np

from young_tremor.model.shake import Shimmer
from young_tremor.motion import seeded_random

SPAN = 2.6  # frame heights that the lattice covers to each side of the centre


class ShimmerField:
    """A shimmer over places ``q`` (..., 2) in frame units, which is asked for at several moments.

    Value noise on a lattice (K. Perlin, 1985, in its simplest form) with smooth interpolation in space and time.
    """

    def __init__(self, shimmer: Shimmer, q: np.ndarray) -> None:
        self._shape = q.shape
        flat = q.reshape(-1, q.shape[-2], 2)  # rows and columns, each fewer than the resampler's 32,767
        numbers = range(min(max(shimmer.octaves, 1), 6))
        cells = [max(shimmer.size / 100 / 2**number, 2e-3) for number in numbers]
        self._octaves = [_Octave(shimmer.seed * 64 + n, flat, cell) for n, cell in zip(numbers, cells, strict=True)]
        self._speed = shimmer.speed
        self._most = np.array([shimmer.x, shimmer.y], np.float32) / 100

    def at(self, clock: float) -> np.ndarray:
        """Where the places are moved to look at ``clock`` seconds of the shake's own time, at amount 100 %: (..., 2)
        float32 in frame units, at most ``x`` and ``y`` percent."""
        shares = [0.5**number for number in range(len(self._octaves))]
        values = [
            share * octave.at(clock * self._speed * 2**number)
            for number, (share, octave) in enumerate(zip(shares, self._octaves, strict=True))
        ]
        out: np.ndarray = sum(values[1:], values[0]).reshape(self._shape) / np.float32(sum(shares))
        return out * self._most


class _Octave:
    """One octave over places (r, m, 2): -1…1, each time step of the noise looked up once."""

    def __init__(self, seed: int, q: np.ndarray, cell: float) -> None:
        self._seed, self._count = seed, 2 * math.ceil(SPAN / cell) + 3
        at = q / cell + (self._count - 1) / 2
        low = np.floor(at)
        part = at - low
        at = np.clip(low + part * part * (3 - 2 * part), 0, self._count - 1).astype(np.float32)
        self._x, self._y = np.ascontiguousarray(at[..., 0]), np.ascontiguousarray(at[..., 1])
        self._steps: dict[int, np.ndarray] = {}

    def at(self, age: float) -> np.ndarray:
        """(r, m, 2) float32."""
        step = math.floor(age)
        share = np.float32(seeded_random.smoothstep(np.array([age - step]))[0])
        before, after = self._step(step), self._step(step + 1)
        return np.asarray(before + (after - before) * share)

    def _step(self, number: int) -> np.ndarray:
        values = self._steps.get(number)
        if values is None:
            lattice = _lattice(self._seed, number, self._count)
            values = cv2.remap(lattice, self._x, self._y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
            self._steps[number] = values
        return values


@lru_cache(maxsize=24)
def _lattice(seed: int, step: int, count: int) -> np.ndarray:
    """Numbers -1…1 of a time step: (count, count, 2) float32."""
    ys, xs = np.mgrid[0:count, 0:count] - count // 2
    index = (xs * 73856093) ^ (ys * 19349663) ^ (step * 83492791)
    both = [2 * seeded_random.uniform(seed * 2 + k, index) - 1 for k in (0, 1)]
    return np.stack(both, axis=-1).astype(np.float32)
