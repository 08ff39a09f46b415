"""A limiter that looks ahead: no true peak passes −1 dB, and nothing is touched where none would.

The factor that each sample needs is taken as the least over some time on either side and averaged over the same time:
each value that is averaged holds the sample's own need, so it cannot come out above it.
"""

from __future__ import annotations

import numpy as np
import scipy

BLOCK = 4800  # samples of the fixed grid
HALF = 1200  # samples on either side over which the least is taken, and again for the mean
CEILING = 10.0 ** (-1.0 / 20)  # of a true peak (ITU-R BS.1770)
OVER = 8  # moments looked at to each sample: twice what the standard asks
EDGE = 12  # samples that the finer sampling needs on either side
SAFE = 0.6 * CEILING  # samples below which no true peak can pass
MARGIN = 0.995  # what the finer sampling still misses
_AT = np.arange(2 * EDGE) - (EDGE - 1)
_TAPS = np.stack([np.sinc(_AT - part / OVER) * np.kaiser(2 * EDGE, 5.0) for part in range(1, OVER)], axis=1).astype(
    np.float32
)


def limit_block(before: np.ndarray, now: np.ndarray, after: np.ndarray) -> tuple[np.ndarray, float]:
    """The block in the middle of three (BLOCK, 2), limited; and the least factor that was needed."""
    reach = 2 * HALF
    whole = np.concatenate([before[-reach - EDGE :], now, after[: reach + EDGE]])
    if max(float(whole.max(initial=0)), -float(whole.min(initial=0))) <= SAFE:
        return now, 1.0
    near = _peaks(whole)
    need = np.minimum(1.0, MARGIN * CEILING / np.maximum(near, 1e-9))
    least = scipy.ndimage.minimum_filter1d(need, 2 * HALF + 1, mode="nearest")
    factor = scipy.ndimage.uniform_filter1d(least, 2 * HALF + 1, mode="nearest")[reach:-reach]
    return now * factor[:, None], float(factor.min())


def _peaks(whole: np.ndarray) -> np.ndarray:
    """The largest true peak at each sample but EDGE on either side, looked for where samples are loud."""
    sides = np.abs(whole)
    plain = np.maximum(sides[:, 0], sides[:, 1])
    out = plain.copy()
    loud = np.flatnonzero(np.maximum(plain[:-1], plain[1:]) > SAFE)
    loud = loud[(loud >= EDGE - 1) & (loud < len(whole) - EDGE)]
    if len(loud):
        windows = whole.astype(np.float32)[loud + _AT[:, None]]  # (taps, k, 2)
        finer = np.abs(_TAPS.T @ windows.reshape(len(_AT), -1)).max(axis=0)
        between = np.maximum(finer[::2], finer[1::2])
        out[loud] = np.maximum(out[loud], between)
        out[loud + 1] = np.maximum(out[loud + 1], between)
    return out[EDGE:-EDGE]
