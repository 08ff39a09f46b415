"""Motion that goes on for ever like a take: its lines with other phases, its corrections at other times."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from young_tremor.model.take import Endless
from young_tremor.motion import seeded_random

TURN = 2 * np.pi
SPREAD = 0.45  # of the distance between lines, by which each line's frequency is moved: nothing repeats
BLOCK = 4096


def sample(endless: Endless, seed: int, clock: np.ndarray) -> np.ndarray:
    """The six channels at ``clock`` (n,) seconds, about the take's middle: (n, 6).

    Each line keeps its size in every channel and how the channels stand to each other, and gets a phase of its own
    (phase-randomised surrogates: D. Prichard and J. Theiler, "Generating surrogate data for time series with several
    simultaneously measured variables", Physical Review Letters 73, 1994). Corrections go from one seeded place to the
    next along minimum-jerk ways (T. Flash and N. Hogan, Journal of Neuroscience 5, 1985).
    """
    clock = np.asarray(clock, dtype=np.float64)
    out = np.zeros((len(clock), 6))
    hz, parts = _lines(endless, seed)
    for first in range(0, len(clock), BLOCK):
        part = clock[first : first + BLOCK]
        angle = np.multiply.outer(part, TURN * hz)
        angle -= TURN * np.floor(angle / TURN)
        single = angle.astype(np.float32)
        out[first : first + BLOCK] = np.cos(single) @ parts[0] + np.sin(single) @ parts[1]
    if endless.steps and endless.every > 0 and len(clock):
        out += _corrections(endless, seed, clock)
    return out


@lru_cache(maxsize=32)
def _lines(endless: Endless, seed: int) -> tuple[np.ndarray, tuple[np.ndarray, np.ndarray]]:
    """Frequencies (m,), and the parts (m, 6) of cosine and sine after each line has got its phase."""
    rows = np.frombuffer(endless.lines, "<f8").reshape(-1, 13)
    if not len(rows):
        return np.zeros(0), (np.zeros((0, 6), np.float32), np.zeros((0, 6), np.float32))
    number = np.arange(len(rows))
    gap = np.gradient(rows[:, 0]) if len(rows) > 1 else np.zeros(1)
    hz = rows[:, 0] + SPREAD * gap * (2 * seeded_random.uniform(seed + 17, number) - 1)
    phase = TURN * seeded_random.uniform(seed + 5, number)[:, None]
    a, b = rows[:, 1::2], rows[:, 2::2]
    cosine, sine = a * np.cos(phase) + b * np.sin(phase), b * np.cos(phase) - a * np.sin(phase)
    return hz, (cosine.astype(np.float32), sine.astype(np.float32))


def _corrections(endless: Endless, seed: int, clock: np.ndarray) -> np.ndarray:
    """One correction in each cell of ``every`` seconds, at a seeded time, to a seeded place."""
    steps = np.frombuffer(endless.steps, "<f8").reshape(-1, 7)
    cell = np.floor(clock / endless.every).astype(np.int64)
    low, high = int(cell.min()), int(cell.max())
    cells = np.arange(low - 1, high + 1)
    kind = np.minimum((seeded_random.uniform(seed + 23, cells) * len(steps)).astype(int), len(steps) - 1)
    way = np.where(seeded_random.uniform(seed + 29, cells) < 0.5, -0.5, 0.5)
    place = steps[kind, 1:] * (way * (0.6 + 0.8 * seeded_random.uniform(seed + 31, cells)))[:, None]
    long = np.minimum(steps[kind, 0], 0.9 * endless.every)
    start = cells * endless.every + seeded_random.uniform(seed + 37, cells) * (endless.every - long)
    here = cell - (low - 1)
    u = np.clip((clock - start[here]) / long[here], 0.0, 1.0)
    gone = (u**3 * (10 - 15 * u + 6 * u**2))[:, None]
    return place[here - 1] + gone * (place[here] - place[here - 1])
