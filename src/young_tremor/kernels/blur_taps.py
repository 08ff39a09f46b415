"""Taps that draw a picture out along a way, and the pattern that rounding is dithered with: double precision, the same
numbers as the compiled kernels make, operation by operation."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

FINE = 4  # points of a way for each pixel of its length
LEAST_TAP = 0.001  # of the largest: smaller ones are left out
MOST_POINTS = 16384


@dataclass(frozen=True, eq=False)
class Taps:
    """``dx``, ``dy`` (n,) int: offsets in pixels. ``shares`` (n,) int16 add up to 32768, ``parts`` float32 to 1."""

    dx: np.ndarray
    dy: np.ndarray
    shares: np.ndarray
    parts: np.ndarray


def cubic_shares(t: np.ndarray) -> np.ndarray:
    """Weights of the samples at -1, 0, 1 and 2 for places t between 0 and 1 (R. Keys, 1981, a = -1/2): (n, 4)."""
    u = 1.0 - t
    return np.stack(
        [
            -0.5 * t * u * u,
            (1.5 * t - 2.5) * t * t + 1.0,
            (1.5 * u - 2.5) * u * u + 1.0,
            -0.5 * u * t * t,
        ],
        axis=-1,
    )


def draw(way: np.ndarray, ramp_in: float, ramp_out: float) -> Taps:
    """Taps that average along a way.

    Parameters
    ----------
    way : (points, 2) float64
        Offsets in pixels, evenly spaced in time.
    ramp_in, ramp_out : float
        Shares of it over which it grows at its start and fades at its end.
    """
    points = len(way)
    length = 0.0
    for step in np.diff(way, axis=0):
        length += math.sqrt(step[0] * step[0] + step[1] * step[1])
    count = min(max(math.ceil(length * FINE), 8), MOST_POINTS)
    at = (np.arange(count) + 0.5) / count
    place = at * (points - 1)
    low = np.minimum(place.astype(int), points - 2)
    share = place - low
    held = np.ones(count)
    if ramp_in > 0:
        held = np.where(at < ramp_in, at / ramp_in, held)
    if ramp_out > 0:
        held = np.where(1.0 - at < ramp_out, np.minimum(held, (1.0 - at) / ramp_out), held)
    held = held * held * (3.0 - 2.0 * held)  # smoothly: what one loses the next gains
    x, y = (way[low, k] * (1.0 - share) + way[low + 1, k] * share for k in range(2))
    left, up = (math.floor(float(way[:, k].min())) - 1 for k in range(2))
    columns, rows = (math.floor(float(way[:, k].max())) + 3 - first for k, first in ((0, left), (1, up)))
    cx, cy = np.floor(x).astype(int), np.floor(y).astype(int)
    wx, wy = cubic_shares(x - cx), cubic_shares(y - cy)
    sums = np.zeros(rows * columns)
    cells = (cy[:, None, None] - 1 - up + np.arange(4)[:, None]) * columns + cx[:, None, None] - 1 - left + np.arange(4)
    np.add.at(sums, cells.ravel(), ((held[:, None] * wy)[:, :, None] * wx[:, None, :]).ravel())
    sums[np.abs(sums) < LEAST_TAP * np.abs(sums).max()] = 0.0
    used = np.flatnonzero(sums)
    kept = 0.0
    for value in sums[used].tolist():
        kept += value
    parts = sums[used] / kept
    values = np.minimum(np.floor(parts * 32768.0 + 0.5), 32767).astype(np.int64)
    greatest = int(np.argmax(values))
    values[greatest] = min(values[greatest] + 32768 - int(values.sum()), 32767)
    return Taps(left + used % columns, up + used // columns, values.astype(np.int16), parts.astype(np.float32))


def bayer(x: np.ndarray, y: np.ndarray) -> np.ndarray:
    """An ordered pattern (B. Bayer, 1973) at whole places: 0 … 63."""
    out = np.zeros(np.broadcast(x, y).shape, np.int64)
    for k in range(3):
        a, b = (x >> k) & 1, (y >> k) & 1
        out += ((a ^ b) * 2 + b) << (4 - 2 * k)
    return out
