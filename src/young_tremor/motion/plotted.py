"""Plotted: motion placed by hand, key by key, and carried on to the end if wished."""

from __future__ import annotations

import numpy as np

from young_tremor.model.shake import PLOTTED, Plotted
from young_tremor.motion import seeded_random

JOIN = 0.2  # share of a round in which its end is led back to its beginning


def sample(plotted: Plotted, t: np.ndarray) -> np.ndarray:
    """The six channels of a plotted strand at amount 100 %.

    Past its last key the motion holds, or with ``repeat`` goes round: each round's end is led smoothly back to the
    beginning, and with ``irregular`` 0…1 rounds differ in size (up to a half) and in their course in time (up to a
    tenth of the round), seeded and without a jump.

    Parameters
    ----------
    t : (n,) float64
        Seconds from the shot's first frame, any order.

    Returns
    -------
    (n, 6) float64
    """
    out = np.zeros((len(t), 6))
    times = [key.t for name in PLOTTED for key in plotted.curve(name).keys]
    first, last = (min(times), max(times)) if times else (0.0, 0.0)
    long = last - first
    again = plotted.repeat and long > 0
    local, size, lead = t, np.ones(len(t)), np.zeros(len(t))
    if again:
        turns = (t - first) / long
        count = np.floor(turns)
        phase = np.clip(turns - count, 0.0, 1.0)
        past = turns >= 0
        irregular = min(max(plotted.irregular, 0.0), 1.0)
        here, following = (
            np.where(count + k >= 1, seeded_random.uniform(plotted.seed, count + k) - 0.5, 0.0) for k in (0, 1)
        )
        size = 1 + irregular * np.where(past, here + (following - here) * seeded_random.smoothstep(phase), 0.0)
        swing = seeded_random.uniform(plotted.seed + 7, count) - 0.5
        phase = phase + np.where(count >= 1, irregular * 0.2 * swing * np.sin(np.pi * phase) ** 2, 0.0)
        local = np.where(past, first + np.clip(phase, 0.0, 1.0) * long, t)
        lead = np.where(past, seeded_random.smoothstep((phase - 1 + JOIN) / JOIN), 0.0)
    ends = np.array([first, last])
    for channel, name in enumerate(PLOTTED):
        curve = plotted.curve(name)
        if curve.constant and curve.value == 0:
            continue
        value = curve.at(local)
        if again:
            start, end = curve.at(ends)
            value = value + lead * (start - end)
        out[:, channel] = value * size
    return out
