"""Rests: stretches in which a drift holds still, reached and left by slowing its time."""

from __future__ import annotations

import numpy as np

from young_tremor.motion import seeded_random

EASE = 0.35  # seconds in which time slows down or picks up again, at most a third of what is left of a cell


def warp_clock(clock: np.ndarray, share: float, hold: float, seed: int, rule: int = 2) -> np.ndarray:
    """A clock that stands still for ``share`` of the time, ``hold`` seconds at a time.

    Time is divided into cells of hold / share seconds (0.7 to 1.3 times the hold within each, at a seeded place; less
    apart where a cell has little room besides). In each cell the clock's rate falls smoothly to 0, stays there for the
    hold and rises again; what is returned is the rate's running integral, so motion stops and goes on without a jump.
    By ``rule`` 1 falling and rising were part of the hold.

    Parameters
    ----------
    clock : (n,) float64
        Seconds, any order.
    share : float
        0…0.95; 0 returns the clock as it is.
    hold : float
        Typical hold in seconds.

    Returns
    -------
    (n,) float64
        Seconds of motion; 0 at clock 0.
    """
    share = min(max(share, 0.0), 0.95)
    if share == 0 or hold <= 0 or not len(clock):
        return clock
    cell = hold / share
    index = np.floor(clock / cell).astype(np.int64)
    low, high = min(int(index.min()), 0), max(int(index.max()), 0)
    cells = np.arange(low, high + 1)
    if rule == 1:
        long = np.minimum(hold * (0.7 + 0.6 * seeded_random.uniform(seed, cells)), 0.98 * cell)
        ease = np.minimum(EASE, long / 3)
    else:
        apart = min(0.3, 0.5 * (cell / hold - 1))
        still = hold * (1 - apart + 2 * apart * seeded_random.uniform(seed, cells))
        ease = np.minimum(EASE, (cell - still) / 3)
        long = still + 2 * ease
    start = cells * cell + seeded_random.uniform(seed + 1, cells) * (cell - long)
    lost = np.concatenate([[0.0], np.cumsum(_lost(long, long, ease))])
    here = index - low
    total = lost[here] + _lost(np.clip(clock - start[here], 0.0, long[here]), long[here], ease[here])
    first = slice(-low, -low + 1)
    zero = lost[-low] + _lost(np.clip(-start[first], 0.0, long[first]), long[first], ease[first])
    return clock - (total - zero)


def _lost(u: np.ndarray, long: np.ndarray, ease: np.ndarray) -> np.ndarray:
    """Seconds lost by ``u`` seconds into a hold of ``long``: a smooth rise, a flat top, a smooth fall."""

    def ramp(x: np.ndarray) -> np.ndarray:
        # the integral of smoothstep(x / ease) from 0 to x, x within 0…ease
        y = x / ease
        return ease * (y**3 - y**4 / 2)

    rise = ramp(np.minimum(u, ease))
    flat = np.clip(u - ease, 0.0, long - 2 * ease)
    late = np.clip(u - (long - ease), 0.0, ease)
    return rise + flat + (ease / 2 - ramp(ease - late))
