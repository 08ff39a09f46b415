"""Corrections of the framing: now and then a hand puts right what it holds, and is steadier for a while after."""

from __future__ import annotations

import numpy as np

from young_tremor.model.shake import CHANNELS, Drift
from young_tremor.motion import seeded_random

CALM = 0.35  # what is left of the drift right after a correction
STEADY = 1.2  # seconds after which it is as it was
SOONEST = 0.25  # of the time between corrections, in which none ends: what stillness there is has room


def sample(drift: Drift, clock: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """What corrections add to a drift and how much of its own motion they leave.

    Each cell of 60 / rate seconds has one, at a seeded time, from the last cell's seeded place to its own, in one
    direction, along a minimum-jerk way (T. Flash and N. Hogan, Journal of Neuroscience 5, 1985).

    Parameters
    ----------
    clock : (n,) float64
        Seconds of the shake's own time, any order.

    Returns
    -------
    added : (n, 6) float64
        In channel units.
    left : (n,) float64
        0…1.
    """
    corrections, added = drift.corrections, np.zeros((len(clock), 6))
    pair = next((p for p in (("pan", "tilt"), ("x", "y")) if any(drift.channels[c].reach for c in p)), None)
    if pair is None or corrections.size <= 0 or corrections.rate <= 0 or not len(clock):
        return added, np.ones(len(clock))
    every = 60.0 / corrections.rate
    cell = np.floor(clock / every).astype(np.int64)
    low, high = int(cell.min()), int(cell.max())
    cells = np.arange(low - 1, high + 1)
    seed = drift.seed * 16 + 11
    long = np.minimum(corrections.long * (0.55 + 0.9 * seeded_random.uniform(seed, cells)), (1 - SOONEST) * every)
    start = cells * every + seeded_random.uniform(seed + 1, cells) * (every - long)
    # from side to side of a circle of half the size, so that a move goes as far as is said and nothing strays
    turn = 2 * np.pi * seeded_random.uniform(seed + 2, cells)
    far = 0.5 * corrections.size * (0.6 + 0.8 * seeded_random.uniform(seed + 3, cells))
    here = cell - (low - 1)
    u = np.clip((clock - start[here]) / long[here], 0.0, 1.0)
    gone = u**3 * (10 - 15 * u + 6 * u**2)
    for name, ways in zip(pair, (np.cos(turn), np.sin(turn)), strict=True):
        place = drift.channels[name].reach * far * ways
        added[:, CHANNELS.index(name)] = place[here - 1] + gone * (place[here] - place[here - 1])
    ended = start + long
    since = np.where(clock >= ended[here], clock - ended[here], clock - ended[here - 1])
    moving = np.where(clock >= start[here], np.minimum(u * 4, 1.0), 0.0)
    calm = np.maximum(1 - seeded_random.smoothstep(since / STEADY), np.where(u < 1, moving, 0.0))
    return added, 1 - (1 - CALM) * calm
