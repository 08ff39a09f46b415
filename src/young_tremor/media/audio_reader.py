"""Sound in: samples of a stretch of a track, placed by the file's own clock."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import av
import numpy as np

from young_tremor.base.errors import DecodeError
from young_tremor.media.container import open_container
from young_tremor.media.decoder_formats import reading

RATE = 48000
EARLIER = 1.0  # seconds before the wanted ones from which is decoded: some codecs need a run-up
GAP = 0.02  # seconds by which stamps may stray before it is a gap
SILENCE = 1 << 16  # samples of silence given at once


def blocks(
    path: Path | str,
    start: float,
    *,
    origin: float,
    rate: int = RATE,
    layout: str = "stereo",
    stream: int = 0,
) -> Iterator[np.ndarray]:
    """Sound from ``start`` seconds on, in blocks, without a hole: where the track has none, there is silence.

    Parameters
    ----------
    start : float
        Seconds from the first picture, whose own time in the file is ``origin``.
    stream : int
        Which of the file's audio streams.

    Yields
    ------
    (n, channels) float32, -1 … 1. Sample k of all of them together sounds at start + k / rate seconds.
    """
    container = open_container(path)
    try:
        with reading(path):
            if stream >= len(container.streams.audio):
                return
            source = container.streams.audio[stream]
            begin = start + origin
            first = float(source.start_time * source.time_base) if source.start_time is not None else 0.0
            at = round(begin * rate)
            if begin - EARLIER > first:
                container.seek(int((begin - EARLIER) / source.time_base), stream=source, backward=True)
            parts = _placed_blocks(container, source, rate, layout)
            found = next(parts, None)
            if found is not None and found[0] > at and begin - EARLIER > first:
                # the seek landed late: from the beginning then
                container.close()
                container = open_container(path)
                parts = _placed_blocks(container, container.streams.audio[stream], rate, layout)
                found = next(parts, None)
            while found is not None:
                place, samples = found
                while place > at:
                    count = min(place - at, SILENCE)
                    yield np.zeros((count, samples.shape[1]), np.float32)
                    at += count
                if place + len(samples) > at:
                    yield samples[at - place :]
                    at = place + len(samples)
                found = next(parts, None)
    finally:
        container.close()


def exactly(found: Iterator[np.ndarray], count: int, channels: int) -> Iterator[np.ndarray]:
    """The first ``count`` samples of blocks, silence after their end."""
    left = count
    for block in found:
        if left <= 0:
            return
        yield block[:left]
        left -= min(len(block), left)
    while left > 0:
        yield np.zeros((min(left, SILENCE), channels), np.float32)
        left -= min(left, SILENCE)


def _placed_blocks(container: Any, source: Any, rate: int, layout: str) -> Iterator[tuple[int, np.ndarray]]:
    """Decoded blocks of a track, and which sample of the file's clock each begins with."""
    resampler: Any = None
    expected, place = 0.0, 0

    def drained() -> Iterator[tuple[int, np.ndarray]]:
        nonlocal place
        if resampler is not None:
            for part in resampler.resample(None):
                samples = _samples(part)
                yield place, samples
                place += len(samples)

    for packet in container.demux(source):
        try:
            frames = packet.decode()
        except av.error.InvalidDataError:
            continue  # a damaged packet is a gap
        except EOFError:
            break
        for frame in frames:
            if not frame.samples or not frame.sample_rate:
                continue
            stamp = float(frame.pts * frame.time_base) if frame.pts is not None else expected
            if resampler is None or abs(stamp - expected) > GAP:
                yield from drained()
                resampler = av.AudioResampler(format="flt", layout=layout, rate=rate)
                expected, place = stamp, round(stamp * rate)
            expected += frame.samples / frame.sample_rate
            frame.pts = None
            for part in resampler.resample(frame):
                samples = _samples(part)
                yield place, samples
                place += len(samples)
    yield from drained()


def _samples(part: Any) -> np.ndarray:
    return np.asarray(part.to_ndarray()).reshape(-1, part.layout.nb_channels)


def length(path: Path | str) -> float:
    """Seconds of a file's first sound, by its own account; DecodeError where it has none."""
    container = open_container(path)
    try:
        with reading(path):
            if not container.streams.audio:
                raise DecodeError(f"{Path(path).name} has no sound: choose a sound file.")
            stream = container.streams.audio[0]
            if stream.duration is not None:
                return float(stream.duration * stream.time_base)
            if container.duration is not None:
                return float(container.duration) / av.time_base
    finally:
        container.close()
    return sum(len(block) for block in blocks(path, 0.0, origin=0.0)) / RATE


def read_sound(path: Path | str, most: float) -> np.ndarray:
    """A file's first sound from its beginning: (n, 2) float64 at 48 kHz, at most so many seconds."""
    begin = first_stamp(path)
    parts, left = [np.zeros((0, 2))], round(most * RATE)
    for block in blocks(path, 0.0, origin=begin):
        parts.append(np.asarray(block[:left], np.float64))
        left -= len(parts[-1])
        if left <= 0:
            break
    return np.concatenate(parts)


def first_stamp(path: Path | str) -> float:
    """The file's time of the first sample of its first sound; DecodeError where it has none."""
    container = open_container(path)
    try:
        if not container.streams.audio:
            raise DecodeError(f"{Path(path).name} has no sound: choose a sound file.")
        stream = container.streams.audio[0]
        return float(stream.start_time * stream.time_base) if stream.start_time is not None else 0.0
    finally:
        container.close()
