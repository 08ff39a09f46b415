"""What a motion is in figures: peak, reach and rate of every channel, and its spectrum."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from young_tremor.base.frames import SourceInfo
from young_tremor.engine.analysis import traces
from young_tremor.geometry import camera
from young_tremor.model.project import Preset, Shot
from young_tremor.model.shake import CHANNELS, UNITS, Hit
from young_tremor.motion import sample
from young_tremor.render.motion_layers import channels as moving

MOST = 60_000  # looks at a stretch
HZ = 120.0  # looks per second where the stretch allows it
COURSE_HZ = 60.0
WINDOW = 8.0  # seconds of the spectrum's windows


@dataclass(frozen=True)
class ChannelFigures:
    """One channel over a stretch: ``peak`` and ``reach`` (95 % quantile) of the absolute value in its ``unit`` and in
    pixels of the delivery (roll and zoom half a frame height from the centre), ``rate`` in swings per second."""

    channel: str
    unit: str
    peak: float
    reach: float
    peak_px: float
    reach_px: float
    rate: float


@dataclass(frozen=True)
class MotionFigures:
    """``hz`` (m,) and the amplitude of the swings there in pixels, (6, m); a row for each channel that moves."""

    hz: np.ndarray
    pixels: np.ndarray
    rows: tuple[ChannelFigures, ...]


def of_shot(shot: Shot, info: SourceInfo, first: float, last: float, strand: str | None = None) -> MotionFigures:
    """The whole shake of a shot from ``first`` to ``last`` seconds, or one strand of it with its amount; a long stretch
    is looked at in pieces of a spectrum's window, spread over it."""
    span = last - first
    if span * HZ <= MOST:
        count = max(round(span * HZ), 32)
        t, rate, pieces = np.linspace(first, last, count, endpoint=False), count / span, False
    else:
        starts = np.linspace(first, last - WINDOW, int(MOST / (WINDOW * HZ)))
        t, rate, pieces = np.add.outer(starts, np.arange(int(WINDOW * HZ)) / HZ).ravel(), HZ, True
    number = next((n for n, s in enumerate(shot.shake.strands) if s.id == strand), None)
    channels = moving(shot, shot.footage, t) if number is None else traces.strand_at(shot, number, t)
    return of_channels(channels, rate, pixels_of(shot, info), pieces=pieces)


def pixels_of(shot: Shot, info: SourceInfo) -> np.ndarray:
    """Pixels of the delivery that one unit of each channel moves the picture: (6,)."""
    return traces.effect(shot, info) / 100 * (shot.size.height if shot.size else info.size[1])


def of_channels(channels: np.ndarray, rate: float, pixels: np.ndarray, *, pieces: bool = False) -> MotionFigures:
    """The figures of channels (n, 6) sampled ``rate`` times a second; ``pixels`` (6,) that one unit of each moves.
    ``pieces``: they are pieces as long as a spectrum's window, put one after the other."""
    rows = []
    for number, name in enumerate(CHANNELS):
        values = channels[:, number]
        size = np.abs(values)
        if size.max() <= 1e-9:
            continue
        peak, reach = float(size.max()), float(np.quantile(size, 0.95))
        px = float(pixels[number])
        rows.append(ChannelFigures(name, UNITS[name], peak, reach, peak * px, reach * px, crossings(values, rate)))
    hz, amplitude = spectrum(channels, rate, 0.0 if pieces else 0.5)
    return MotionFigures(hz, amplitude * pixels[:, None], tuple(rows))


@dataclass(frozen=True)
class PresetFigures:
    """A preset by figures: ``reach`` of the picture's middle (95 % quantile) in pixels of 1080 lines, ``turn`` (that of
    roll) in degrees, ``rate`` in swings a second of the axis that moves most, ``fast``: share of the speed's power
    above 4 Hz, ``kurtosis`` of that axis: 3 is even, more is quiet with blows. ``blows``: the kurtosis of its speed;
    ``together``: how much x, y and roll are busy at the same seconds, 0…1; ``repeats``: how much that axis is like
    itself 20 to 40 s later, 0…1."""

    reach: float
    turn: float
    rate: float
    fast: float
    kurtosis: float
    blows: float
    together: float
    repeats: float


def course(preset: Preset, seconds: float, hits: tuple[Hit, ...]) -> np.ndarray:
    """A preset's way of the picture's middle, x and y in pixels of 1080 lines (16:9), and roll in degrees: (n, 3) at
    :data:`COURSE_HZ` a second."""
    moved = sample.sample(preset.shake, np.arange(0, seconds, 1 / COURSE_HZ), hits=hits)
    focal = camera.focal(preset.focal_mm, 16 / 9)
    x = 10.8 * moved[:, 0] + 1080 * focal * np.tan(np.radians(moved[:, 4]))
    y = 10.8 * moved[:, 1] + 1080 * focal * np.tan(np.radians(moved[:, 5]))
    return np.column_stack([x, y, moved[:, 2]])


def portrait(way: np.ndarray) -> PresetFigures:
    """The figures of a course (n, 3) from :func:`course`."""
    lead = way[:, int(np.argmax(way[:, :2].std(axis=0)))]
    power = (np.abs(np.fft.rfft(np.diff(way[:, :2], axis=0), axis=0)) ** 2).sum(axis=1)
    hz = np.fft.rfftfreq(len(way) - 1, 1 / COURSE_HZ)
    return PresetFigures(
        float(np.quantile(np.hypot(way[:, 0], way[:, 1]), 0.95)),
        float(np.quantile(np.abs(way[:, 2]), 0.95)),
        crossings(lead, COURSE_HZ),
        float(power[hz > 4].sum() / max(power.sum(), 1e-12)),
        kurtosis(lead),
        kurtosis(np.diff(lead)),
        busy_together(way),
        repetition(lead),
    )


def kurtosis(values: np.ndarray) -> float:
    """The fourth moment about the mean, in that of the variance: 3 for noise."""
    return float(((values - values.mean()) ** 4).mean() / max(values.var() ** 2, 1e-12))


def busy_together(way: np.ndarray) -> float:
    """The mean correlation of the activity of axes (n, k), the log of their speed's size in each second."""
    speed, count = np.diff(way, axis=0), round(COURSE_HZ)
    seconds = len(speed) // count
    sizes = np.sqrt((speed[: seconds * count].reshape(seconds, count, -1) ** 2).mean(axis=1))
    busy = np.log(sizes[:, sizes.max(axis=0) > 1e-6] + 1e-6)
    if busy.shape[1] < 2 or seconds < 3 or not busy.std(axis=0).all():
        return 0.0
    return float(np.corrcoef(busy.T)[np.triu_indices(busy.shape[1], 1)].mean())


def repetition(values: np.ndarray) -> float:
    """The largest correlation of values with themselves 20 to 40 s later."""
    centred = values - values.mean()
    first, last = round(20 * COURSE_HZ), min(round(40 * COURSE_HZ), len(values) // 2)
    if last <= first or not centred.any():
        return 0.0
    power = np.abs(np.fft.rfft(centred, 2 * len(centred))) ** 2
    alike = np.fft.irfft(power)[: len(centred)] / np.arange(len(centred), 0, -1)
    return float(np.abs(alike[first:last]).max() / alike[0])


def crossings(values: np.ndarray, rate: float) -> float:
    """Upward crossings of the middle per second."""
    centred = values - values.mean()
    return float(np.sum((centred[:-1] < 0) & (centred[1:] >= 0)) * rate / max(len(values) - 1, 1))


def spectrum(channels: np.ndarray, rate: float, overlap: float = 0.5) -> tuple[np.ndarray, np.ndarray]:
    """Amplitude of the swings at each frequency (Welch, Hann windows overlapping by a share): (m,) Hz and (k, m).

    A sine of amplitude a stands as a at its frequency; the mean is left out.
    """
    window = int(min(len(channels), WINDOW * rate))
    hz, power = scipy.signal.welch(
        channels, rate, nperseg=window, noverlap=int(overlap * window), scaling="spectrum", axis=0
    )
    return hz[1:], np.sqrt(2.0 * power[1:]).T
