"""Seeded chance as a pure function of a whole number: cell 7 has the same numbers whoever asks, in any order."""

from __future__ import annotations

import numpy as np

_STEP = np.uint64(0x9E3779B97F4A7C15)


def uniform(seed: int, index: np.ndarray) -> np.ndarray:
    """Numbers 0…1 for whole numbers ``index`` (n,), (n,) float64.

    SplitMix64 (Steele, Lea, Flood, "Fast splittable pseudorandom number generators", 2014) of seed and index.
    """
    with np.errstate(over="ignore"):
        z = np.asarray(index).astype(np.int64).astype(np.uint64) * _STEP + np.uint64(seed & 0xFFFFFFFFFFFF) * np.uint64(
            0xD1342543DE82EF95
        )
        z = (z ^ (z >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
        z = (z ^ (z >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
        z = z ^ (z >> np.uint64(31))
    return (z >> np.uint64(11)).astype(np.float64) / float(1 << 53)


def smoothstep(x: np.ndarray) -> np.ndarray:
    """0 below 0, 1 above 1, smooth between."""
    x = np.clip(x, 0.0, 1.0)
    return x * x * (3 - 2 * x)
