"""What can be learned from a take: a drift that goes on for ever like it, and the drift settings that come nearest."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from young_tremor.model.take import Endless, Take, pack_rows
from young_tremor.motion import spectrum, take

HIGHEST = 30.0  # Hz
LINES = 420  # at most
RARE = 0.02  # takes of a hand that corrects nothing in which one moment is as quick as a correction
SLOWEST = 5.5  # swings in the whole take: what is slower counts as its slow part
WINDOW = 0.35  # seconds over which speed is taken


@np.errstate(over="ignore", invalid="ignore")  # what is made of absurd motion is refused as a value
def endless(
    taken: Take, *, by_angle: bool = False, cutoff: float = 0.0, start: float = 0.0, end: float | None = None
) -> Endless:
    """A drift of no end with a take's spectrum in each channel, the same play between the channels, and the same
    occasional larger corrections.

    The corrections (quick one-way moves of shift or lens, after which it stays) are taken out of the take and kept by
    themselves; what is left, without its straight line, goes into lines by the Fourier transform, as sines and cosines
    of all channels together. Where there would be more than 420 lines, neighbours above 2 Hz are thinned out in size.
    """
    t, values = _even_samples(taken, by_angle, cutoff, start, end)
    step, long = t[1] - t[0], t[-1] - t[0] + (t[1] - t[0])
    rest, steps = _without_corrections(t, values)
    few = max(1, round(0.1 / step))
    # the straight line from its beginning to its end, so that the one meets the other
    line = np.linspace(0, 1, len(t))[:, None] * (rest[-few:].mean(axis=0) - rest[:few].mean(axis=0))
    size = rest.var(axis=0)
    rest = rest - line - (rest - line).mean(axis=0)
    parts = np.fft.rfft(rest, axis=0) * 2 / len(t)
    hz = np.fft.rfftfreq(len(t), step)
    keep = (hz > 0) & (hz <= min(HIGHEST, 0.5 / step - 1e-9))
    hz, parts = hz[keep], parts[keep]
    # what taking the line out did to the slowest lines is made good, so that the size is the take's
    slow = hz < SLOWEST / long
    power = 0.5 * np.abs(parts) ** 2
    wanted = np.maximum(size - power[~slow].sum(axis=0), 0.0)
    parts[slow] *= np.sqrt(wanted / np.maximum(power[slow].sum(axis=0), 1e-30))
    hz, parts = _merge_lines(hz, parts)
    lines = np.empty((len(hz), 13))
    lines[:, 0], lines[:, 1::2], lines[:, 2::2] = hz, parts.real, -parts.imag
    every = long / len(steps) if len(steps) else 0.0
    level = values.mean(axis=0)
    return Endless(pack_rows(lines), pack_rows(steps) if len(steps) else b"", every, tuple(level.tolist()))


def _even_samples(
    taken: Take, by_angle: bool, cutoff: float, start: float, end: float | None
) -> tuple[np.ndarray, np.ndarray]:
    """A stretch of a take in channel units at even times: (n,) and (n, 6)."""
    t = taken.table()[:, 0] - taken.table()[0, 0]
    last = t[-1] if end is None else min(max(end, start), t[-1])
    step = max(float(np.median(np.diff(t))), (last - start) / 20_000)
    count = max(16, int((last - start) / step) + 1)
    even = np.linspace(start, last, count)
    values = take.through(t, take.channels(taken, by_angle=by_angle))(even)
    if cutoff > 0:
        values = values - take.slow_path(even, values, cutoff)
    return even, values


def _without_corrections(t: np.ndarray, values: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """What is left when the corrections are taken out (n, 6), and the corrections (k, 7): seconds, and how far."""
    step = t[1] - t[0]
    width = max(5, round(WINDOW / step) | 1)
    if len(t) < 3 * width:
        return values.copy(), np.zeros((0, 7))
    speed = scipy.signal.savgol_filter(values, width, 2, deriv=1, delta=step, axis=0)
    # shift and lens turns as one number, each against its usual size
    usual = np.median(np.abs(speed), axis=0)
    moving = [k for k in (0, 1, 4, 5) if usual[k] > 1e-9]
    if not moving:
        return values.copy(), np.zeros((0, 7))
    size = np.sqrt(np.mean([(speed[:, k] / usual[k]) ** 2 for k in moving], axis=0))
    # under motion that is all noise the speed of k channels together is as a chi distribution of k degrees
    common, rare = (
        np.sqrt(2 * scipy.special.gammaincinv(0.5 * len(moving), p)) for p in (0.5, 1 - RARE * WINDOW / (t[-1] - t[0]))
    )
    quick = size > rare / common * np.median(size)
    rest, steps = values.copy(), []
    edges = np.flatnonzero(np.diff(np.concatenate([[0], quick.astype(np.int8), [0]])))
    for a, b in edges.reshape(-1, 2):
        a, b = max(a - 1, 0), min(b, len(t) - 1)
        long = t[b] - t[a]
        gone = values[b] - values[a]
        stays = values[min(b + round(0.4 / step), len(t) - 1)] - values[a]
        if not 0.12 <= long <= 1.5 or gone[moving] @ stays[moving] < 0.5 * gone[moving] @ gone[moving]:
            continue  # a swing, not a correction
        u = np.clip((t - t[a]) / long, 0, 1)
        rest -= (u**3 * (10 - 15 * u + 6 * u**2))[:, None] * gone
        steps.append([long, *gone])
    return rest, np.array(steps).reshape(-1, 7)


def _merge_lines(hz: np.ndarray, parts: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """At most :data:`LINES` lines: neighbours of the upper ones stand for each other, their power kept."""
    if len(hz) <= LINES:
        return hz, parts
    slow = max(int(np.searchsorted(hz, 2.0)), 1)
    slow = min(slow, LINES // 2)
    groups = np.array_split(np.arange(slow, len(hz)), LINES - slow)
    chosen, scaled = [hz[:slow]], [parts[:slow]]
    for group in groups:
        power = (np.abs(parts[group]) ** 2).sum(axis=0)
        middle = group[len(group) // 2]
        own = np.abs(parts[middle]) ** 2
        chosen.append(hz[middle : middle + 1])
        scaled.append((parts[middle] * np.sqrt(power / np.maximum(own, 1e-30)))[None])
    return np.concatenate(chosen), np.concatenate(scaled)


@dataclass(frozen=True)
class DriftMatch:
    """Drift settings that come nearest to a take: ``reach`` (6,) in channel units, ``rate`` in Hz, ``roughness``."""

    reach: np.ndarray
    rate: float
    roughness: float


def match(taken: Take, *, by_angle: bool = False, cutoff: float = 0.0) -> DriftMatch:
    """Fit a drift to a take: each channel's reach is its 95 % quantile, the rate its upward crossings, and roughness
    that whose spectrum is nearest to the take's, in the logarithm of power from 0.2 Hz up."""
    t, values = _even_samples(taken, by_angle, cutoff, 0.0, None)
    step = t[1] - t[0]
    line = np.polynomial.polynomial.polyfit(t, values, 1)
    values = values - np.polynomial.polynomial.polyval(t, line).T
    size = values.std(axis=0)
    reach = np.quantile(np.abs(values), 0.95, axis=0)
    moving = np.flatnonzero(size > 0.02 * size.max()) if size.max() > 0 else np.array([], int)
    if not moving.size:
        return DriftMatch(np.zeros(6), 0.5, 0.0)
    ups = [np.sum((values[:-1, k] < 0) & (values[1:, k] >= 0)) / (t[-1] - t[0]) for k in moving]
    rate = float(np.clip(np.average(ups, weights=reach[moving] / reach[moving].max()), 0.05, 12.0))
    hz, power = scipy.signal.welch(
        values[:, moving] / size[moving], 1 / step, nperseg=min(len(t), round(8 / step)), axis=0
    )
    seen = (hz >= 0.2) & (hz <= min(12.0, 0.45 / step))
    target = np.log(power[seen].mean(axis=1) + 1e-9)
    best = min(
        np.linspace(0, 1, 21), key=lambda rough: float(np.mean((_drift_log_power(hz[seen], rate, rough) - target) ** 2))
    )
    return DriftMatch(reach, rate, float(best))


def _drift_log_power(hz: np.ndarray, rate: float, roughness: float) -> np.ndarray:
    """Log power density of a drift of unit variance at frequencies, averaged over some seeds."""
    step = 1 / (2.5 * max(hz[-1], 1.0))
    clock = np.arange(int(40 / step)) * step
    total = np.zeros(len(hz))
    for seed in (3, 29):
        request = spectrum.SpectrumRequest(1.0, rate, 1.0, 0.0, roughness, (0.0, roughness), (), seed)
        lines = spectrum.channel_spectrum(request)
        value = spectrum.lines_of([lines]).at(clock)[0]
        f, power = scipy.signal.welch(
            value / max(value.std(), 1e-9), 1 / step, nperseg=min(len(clock), round(8 / step))
        )
        total += np.interp(hz, f, power)
    return np.log(total / 2 + 1e-9)
