"""Blows found in sound: a curve of how suddenly and broadly it gets louder, and the peaks of that curve.

Magnitudes in bands a third of an octave wide are compared just after and just before each moment, against what is
usual in that band over some seconds; the logarithms of the rises are averaged over the bands. Speech and held notes
rise in few bands or slowly, a blow in all at once. (Spectral flux; see J. P. Bello et al., "A tutorial on onset
detection in music signals", IEEE Transactions on Speech and Audio Processing 13, 2005.)
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

RATE = 48000
HOP = 240  # samples, 5 ms
WINDOW = 1024
LOWEST, HIGHEST = 40.0, 16000.0
APART = 0.09  # seconds between two hits
WEIGHT = 0.6  # how much plain loudness counts beside suddenness
USUAL = 3.0  # seconds over which a band's usual level is taken


@dataclass(frozen=True)
class Onsets:
    """``curve`` (n,) 0…1 at ``step`` seconds from ``start``; ``times`` (k,) of its peaks, ``heights`` (k,) of each.

    ``weak``: peaks above this height are never taken for weak ones."""

    curve: np.ndarray
    step: float
    start: float
    times: np.ndarray
    heights: np.ndarray
    weak: float = 0.5

    def above(self, threshold: float) -> np.ndarray:
        """Which peaks reach a threshold: indices."""
        return np.flatnonzero(self.heights >= threshold)

    @property
    def threshold(self) -> float:
        """Where the strong part from the weak: in the widest gap (as a ratio) between heights of 0.15 and ``weak``."""
        heights = np.sort(self.heights)
        if len(heights) < 2:
            return 0.3
        middle = np.sqrt(heights[:-1] * heights[1:])
        gap = np.where((middle >= 0.15) & (middle <= self.weak), heights[1:] / np.maximum(heights[:-1], 1e-6), 0.0)
        return float(middle[np.argmax(gap)]) if gap.max() > 0 else 0.3


def find(blocks: Iterable[np.ndarray], *, start: float = 0.0) -> Onsets:
    """Peaks of sudden loudness in a sound.

    Parameters
    ----------
    blocks : iterable of (n, channels) float32
        At 48 kHz, one after the other.
    start : float
        Seconds of the first sample.
    """
    bands = _bands(blocks)
    if len(bands) < 8:
        return Onsets(np.zeros(1), HOP / RATE, start, np.zeros(0), np.zeros(0))
    curve, power = _rise(bands)
    curve = curve / max(float(curve.max()), 1e-9) if curve.max() > 0.05 else np.zeros_like(curve)
    times, heights = _peaks(curve, power)
    return Onsets(curve, HOP / RATE, start, times + start, heights)


def find_in_changes(change: np.ndarray, step: float) -> Onsets:
    """Peaks of sudden change in a picture.

    Parameters
    ----------
    change : (n,) float64
        How much each frame differs from the one before (0 for the first), in 8-bit code values; differences
        below half a code are a codec's doing, and so are those of the first frames.
    step : float
        Seconds between frames.
    """
    if len(change) < 5:
        return Onsets(np.zeros(1), step, 0.0, np.zeros(0), np.zeros(0))
    change = np.where(np.arange(len(change)) < 4, np.median(change), change)
    half = max(2, round(0.25 / step))
    padded = np.pad(change, (half, 0), mode="edge")
    usual = np.median(np.lib.stride_tricks.sliding_window_view(padded, half + 1)[:, :-1], axis=1)
    rise = np.log1p(np.maximum(change - 1.5 * usual - 0.4, 0.0) / (usual + 0.5))
    curve = rise / max(float(rise.max()), 0.5)
    gap = max(1, round(APART / step))
    tops = [
        k
        for k in np.argsort(-curve).tolist()
        if curve[k] > 0.05 and curve[k] == curve[max(k - gap, 0) : k + gap + 1].max()
    ]
    values = np.array(sorted(tops), dtype=int)
    return Onsets(curve, step, 0.0, values * step, curve[values], weak=0.65)


def _bands(blocks: Iterable[np.ndarray]) -> np.ndarray:
    """Magnitudes (frames, bands) float32; frame k is centred on sample k·HOP."""
    hz = np.fft.rfftfreq(WINDOW, 1 / RATE)
    edges = LOWEST * 2 ** (np.arange(int(3 * np.log2(HIGHEST / LOWEST)) + 2) / 3)
    which = np.searchsorted(edges, hz) - 1
    sums = np.zeros((len(hz), len(edges) - 1), np.float32)
    for number, band in enumerate(which):
        if 0 <= band < sums.shape[1]:
            sums[number, band] = 1
    sums = sums[:, sums.any(axis=0)]
    taper = np.hanning(WINDOW).astype(np.float32)
    rest = np.zeros(WINDOW // 2, np.float32)
    out = []
    for block in (*blocks, np.zeros((WINDOW // 2, 1), np.float32)):
        rest = np.concatenate([rest, block.mean(axis=1, dtype=np.float32)])
        count = (len(rest) - WINDOW) // HOP + 1
        if count > 0:
            frames = np.lib.stride_tricks.sliding_window_view(rest, WINDOW)[: count * HOP : HOP]
            power = np.abs(np.fft.rfft(frames * taper, axis=1)).astype(np.float32) ** 2
            out.append(np.sqrt(power @ sums))
            rest = rest[count * HOP :]
    return np.concatenate(out) if out else np.zeros((0, sums.shape[1]), np.float32)


def _rise(bands: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The onset curve (frames,) and the loudness (frames,) it came from."""
    near = 5  # frames, 25 ms
    total = np.cumsum(np.vstack([np.zeros((1, bands.shape[1])), bands]), axis=0)

    def mean(first: int, last: int) -> np.ndarray:
        """Mean of frames k + first … k + last - 1 for each k."""
        n = len(bands)
        a = np.clip(np.arange(n) + first, 0, n)
        b = np.clip(np.arange(n) + last, 0, n)
        return (total[b] - total[a]) / np.maximum(b - a, 1)[:, None]

    after, before = mean(0, near + 1), mean(-near - 2, -1)
    half = round(USUAL / 2 * RATE / HOP)
    usual = mean(-half, half) + 0.02 * bands.mean(axis=0) + 1e-4
    rise = np.log1p(np.maximum(after - before, 0.0) / usual).mean(axis=1)
    rise[: near + 2] = 0.0  # that a sound begins is no blow
    louder = np.maximum(np.linalg.norm(after, axis=1) - np.linalg.norm(before, axis=1), 0.0)
    return rise * (louder / max(float(louder.max()), 1e-9)) ** WEIGHT, np.sqrt((bands**2).sum(axis=1))


def _peaks(curve: np.ndarray, loudness: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Times (seconds) and heights of the curve's peaks, the higher first where two are too close."""
    gap = round(APART * RATE / HOP)
    tops = np.flatnonzero((curve[1:-1] >= curve[:-2]) & (curve[1:-1] > curve[2:]) & (curve[1:-1] > 0.02)) + 1
    numbers: list[int] = []
    for top in tops[np.argsort(-curve[tops], kind="stable")].tolist():
        if all(abs(top - number) >= gap for number in numbers):
            numbers.append(top)
    numbers.sort()
    times = []
    for top in numbers:
        # the blow itself is where the loudness climbs fastest
        low = max(top - 6, 0)
        climb = np.diff(loudness[low : top + 8])
        times.append((low + 1 + int(np.argmax(climb))) * HOP / RATE if climb.size else top * HOP / RATE)
    return np.array(times), curve[numbers]
