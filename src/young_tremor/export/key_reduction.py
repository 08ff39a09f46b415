"""Motion as keys: a row a key, as few as a tolerance allows, straight lines between them."""

from __future__ import annotations

import numpy as np

from young_tremor.base.errors import UnreadableValue
from young_tremor.base.motion_csv import DIGITS


def needed_keys(times: np.ndarray, values: np.ndarray, tolerance: float) -> np.ndarray:
    """Which values (n,) stay so that straight lines between them miss none by more than a tolerance: numbers (k,), the
    first and last among them. Each line reaches as far as it can."""
    count = len(values)
    if tolerance <= 0 or count < 3:
        return np.arange(count)
    out, at = [0], 0
    while at < count - 1:
        span = times[at + 1 :] - times[at]
        rise = values[at + 1 :] - values[at]
        low = np.maximum.accumulate((rise - tolerance) / span)
        high = np.minimum.accumulate((rise + tolerance) / span)
        slope = rise / span
        # a line to k misses none before k: its slope lies within what they all allow
        fits = np.ones(len(span), bool)
        fits[1:] = (slope[1:] >= low[:-1]) & (slope[1:] <= high[:-1])
        closed = np.flatnonzero(low > high)
        until = int(closed[0]) if len(closed) else len(span)
        at += int(np.flatnonzero(fits[: max(until, 1)])[-1]) + 1
        out.append(at)
    return np.array(out)


def table(columns: dict[str, np.ndarray], channel: str | None, tolerance: float) -> str:
    """Keys as CSV: channel, frame, time_s, value; of one channel, or of all."""
    if not (np.isfinite(tolerance) and tolerance >= 0):
        raise UnreadableValue(f"A tolerance of {tolerance:g} cannot be used: give 0 or more.")
    names = [name for name in columns if name not in ("frame", "time_s")]
    if channel is not None:
        texts = [name for name in names if channel in (name, name.rpartition("_")[0])]
        if not texts:
            raise UnreadableValue(f"“{channel}” is no channel: choose one of {', '.join(names)}.")
        names = texts
    lines = ["channel,frame,time_s,value"]
    for name in names:
        for k in needed_keys(columns["time_s"], columns[name], tolerance):
            when = format(columns["time_s"][k], DIGITS["time_s"])
            lines.append(f"{name},{columns['frame'][k]:.0f},{when},{format(columns[name][k], DIGITS[name])}")
    return "\n".join(lines) + "\n"
