"""A take on a shot: splined in seconds, so that rates, sizes and lengths may differ."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from scipy.interpolate import CubicSpline
from scipy.signal import butter, sosfiltfilt

from young_tremor.model.shake import Taken
from young_tremor.model.take import Take
from young_tremor.motion import chance, endless

REST = 0.6  # seconds in which it comes to rest at an end


def sample(taken: Taken, clock: np.ndarray) -> np.ndarray:
    """The six channels of a take strand at amount 100 %.

    Parameters
    ----------
    taken : Taken
    clock : (n,) float64
        Seconds of the shake's own time (pace already applied); any order, any real value.

    Returns
    -------
    (n, 6) float64
        In channel units.
    """
    clock = np.asarray(clock, dtype=np.float64) + taken.offset
    if not len(clock):
        return np.zeros((0, 6))
    if taken.only_endless:
        out = endless.sample(taken.endless, taken.seed, clock)
    else:
        out = _course(taken, clock)
    gains = taken.gains
    out = out * np.array([gains.x, gains.y, gains.roll, gains.zoom, gains.x, gains.y])
    if taken.mirrored:
        out *= (-1, 1, -1, 1, -1, 1)
    return -out if taken.opposed else out


def channels(take: Take, *, by_angle: bool = False) -> np.ndarray:
    """A take's samples in channel units, (n, 6); ``by_angle``: shifts as turns of the lens it was filmed with."""
    table = take.table()
    x, y, roll, scale, pan, tilt = table[:, 1:7].T
    zoom = 100.0 * np.log(np.maximum(scale, 1e-6))
    if by_angle and take.focal_mm:
        pixels = take.focal_mm / 36.0 * max(take.width, take.height)
        turned = np.degrees(np.arctan(np.column_stack([x, y]) / pixels))
        return np.column_stack([np.zeros((len(x), 2)), roll, zoom, pan + turned[:, 0], tilt + turned[:, 1]])
    percent = 100.0 / take.height
    return np.column_stack([x * percent, y * percent, roll, zoom, pan, tilt])


def slow_path(t: np.ndarray, values: np.ndarray, cutoff: float) -> np.ndarray:
    """What of a motion is slower than ``cutoff`` seconds: zero-phase low-pass (Butterworth, forward and back).

    ``t`` (n,) seconds, evenly spaced; ``values`` (n, k). Its straight line where the whole is shorter than the cut-off.
    """
    count, step = len(t), (t[-1] - t[0]) / max(len(t) - 1, 1)
    edge = 2.0 * step / cutoff
    if count < 12 or cutoff > (t[-1] - t[0]) or edge >= 0.9:
        if edge >= 0.9:
            return values
        line = np.polynomial.polynomial.polyfit(t, values, 1)
        return np.polynomial.polynomial.polyval(t, line).T
    sections = butter(2, edge, output="sos")
    pad = min(count - 1, int(3 * cutoff / step))
    return np.asarray(sosfiltfilt(sections, values, axis=0, padtype="odd", padlen=pad))


@lru_cache(maxsize=24)
def _spline(take: Take, by_angle: bool, cutoff: float) -> tuple[CubicSpline, float]:
    """The course as a function of seconds from the take's first sample, and its length."""
    t = take.table()[:, 0] - take.table()[0, 0]
    values = channels(take, by_angle=by_angle)
    spline = CubicSpline(t, values, axis=0)
    if cutoff > 0:
        step = float(np.median(np.diff(t)))
        even = np.linspace(0, t[-1], max(12, round(t[-1] / step) + 1))
        whole = spline(even)
        spline = CubicSpline(even, whole - slow_path(even, whole, cutoff), axis=0)
    return spline, float(t[-1])


def _course(taken: Taken, clock: np.ndarray) -> np.ndarray:
    """The take at seconds of its trimmed self, and what comes before and after it."""
    spline, whole = _spline(taken.take, taken.by_angle, max(taken.cutoff, 0.0))
    first = min(max(taken.start, 0.0), whole)
    last = whole if taken.end is None else min(max(taken.end, first), whole)
    long = last - first
    if long <= 0:
        return np.repeat(spline([first]), len(clock), axis=0)
    fade = min(max(taken.fade, 0.0), 0.45 * long)

    def at(u: np.ndarray) -> np.ndarray:
        return spline(first + np.clip(u, 0.0, long))

    if taken.beyond == "loop":
        period = long - fade
        turn = np.floor(clock / period)
        u = clock - turn * period
        # in the first seconds of each round but the first, the round before runs out
        again = (turn != 0) if taken.offset >= 0 else np.ones(len(u), bool)
        lead = np.where(again, chance.smoothstep(u / max(fade, 1e-6)), 1.0)[:, None]
        return lead * at(u) + (1 - lead) * at(u + period)
    if taken.beyond == "back":
        return at(_to_and_fro(clock, long, min(0.5, 0.25 * long)))
    held = _resting(clock, long, min(REST, 0.5 * long))
    if taken.beyond == "rest":
        return at(held)
    out = at(held)
    outside = (clock > long - fade) | (clock < 0)
    if outside.any():
        u = clock[outside]
        past = np.where(u < 0, -u, u - long + fade)
        lead = chance.smoothstep(past / max(fade, 1e-6))[:, None]
        beyond = np.array(taken.endless.level) + endless.sample(taken.endless, taken.seed, u)
        out[outside] = (1 - lead) * out[outside] + lead * beyond
    return out


def _resting(clock: np.ndarray, long: float, ease: float) -> np.ndarray:
    """Seconds of the take that run out smoothly at both ends instead of stopping dead."""
    tail = clock - (long - ease)
    slowed = long - ease + ease * (1 - np.exp(-np.maximum(tail, 0) / ease))
    return np.where(clock < 0, 0.0, np.where(tail > 0, slowed, clock))


def _to_and_fro(clock: np.ndarray, long: float, ease: float) -> np.ndarray:
    """There and back for ever; the turns are rounded so that speed does not jump."""
    u = np.abs(clock) % (2 * long)
    way = np.where(u > long, 2 * long - u, u)

    def rounded(gap: np.ndarray) -> np.ndarray:
        # distance from a turn: near it a parabola that meets the straight line with its slope
        return np.where(gap < ease, (gap**2 + ease**2) / (2 * ease), gap)

    turned = long - rounded(long - way)
    return np.where((way < ease) & (np.abs(clock) > ease), rounded(way), turned)
