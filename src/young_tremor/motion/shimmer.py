"""Shimmer: smooth noise over the picture that keeps changing, as places that are looked up elsewhere."""

from __future__ import annotations

import math
from functools import lru_cache

import cv2
import numpy as np

from young_tremor.model.shake import Shimmer
from young_tremor.motion import seeded_random

SPAN = 2.6  # frame heights that the lattice covers to each side of the centre


def displacement(shimmer: Shimmer, q: np.ndarray, clock: float) -> np.ndarray:
    """Where places of the picture are moved to look, at amount 100 %.

    Value noise on a lattice (K. Perlin, 1985, in its simplest form) with smooth interpolation in space and time.

    Parameters
    ----------
    q : (..., 2) float
        Places in frame units.
    clock : float
        Seconds of the shake's own time.

    Returns
    -------
    (..., 2) float32
        In frame units, at most ``x`` and ``y`` percent.
    """
    shape = q.shape[:-1]
    flat = q.reshape(-1, q.shape[-2], 2)  # rows and columns, each fewer than the resampler's 32,767
    total = np.zeros(flat.shape, np.float32)
    whole = 0.0
    for octave in range(min(max(shimmer.octaves, 1), 6)):
        cell = max(shimmer.size / 100 / 2**octave, 2e-3)
        share = 0.5**octave
        total += share * _octave(shimmer.seed * 64 + octave, flat, cell, clock * shimmer.speed * 2**octave)
        whole += share
    out: np.ndarray = total.reshape(*shape, 2) / np.float32(whole)
    return out * np.array([shimmer.x, shimmer.y], np.float32) / 100


def _octave(seed: int, q: np.ndarray, cell: float, age: float) -> np.ndarray:
    """-1…1 for places (r, m, 2): (r, m, 2) float32."""
    count = 2 * math.ceil(SPAN / cell) + 3
    step = math.floor(age)
    share = float(seeded_random.smoothstep(np.array([age - step]))[0])
    lattice = (1 - share) * _lattice(seed, step, count) + share * _lattice(seed, step + 1, count)
    at = q / cell + (count - 1) / 2
    low = np.floor(at)
    part = at - low
    at = np.clip(low + part * part * (3 - 2 * part), 0, count - 1).astype(np.float32)
    return cv2.remap(lattice, at[..., 0], at[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)


@lru_cache(maxsize=24)
def _lattice(seed: int, step: int, count: int) -> np.ndarray:
    """Numbers -1…1 of a time step: (count, count, 2) float32."""
    ys, xs = np.mgrid[0:count, 0:count] - count // 2
    index = (xs * 73856093) ^ (ys * 19349663) ^ (step * 83492791)
    both = [2 * seeded_random.uniform(seed * 2 + k, index) - 1 for k in (0, 1)]
    return np.stack(both, axis=-1).astype(np.float32)
