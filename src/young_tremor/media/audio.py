"""Sound in: decoded samples of a stretch, and which packets can be passed on as they are."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import av
import numpy as np

from young_tremor.media.formats import reading

RATE = 48000


def blocks(
    path: Path | str,
    start: float,
    *,
    origin: float,
    rate: int = RATE,
    layout: str = "stereo",
    stream: int = 0,
) -> Iterator[np.ndarray]:
    """Sound from ``start`` seconds on, in blocks.

    Parameters
    ----------
    start : float
        Seconds from the first picture, whose own time in the file is ``origin``. Silence fills what lies before
        the first sample.
    stream : int
        Which of the file's audio streams.

    Yields
    ------
    (n, channels) float32, -1 … 1.
    """
    with reading(path), av.open(str(path)) as container:
        if stream >= len(container.streams.audio):
            return
        source = container.streams.audio[stream]
        resampler = av.AudioResampler(format="flt", layout=layout, rate=rate)
        begin = start + origin
        container.seek(int(max(begin - 0.5, 0) / source.time_base), stream=source, backward=True)
        position: int | None = None
        wanted = round(begin * rate)
        for frame in container.decode(source):
            if position is None:
                position = round(float(frame.pts * frame.time_base) * rate) if frame.pts is not None else wanted
                if position > wanted:
                    channels = len(resampler.layout.channels)
                    yield np.zeros((position - wanted, channels), np.float32)
                    wanted = position
            for part in resampler.resample(frame):
                samples = part.to_ndarray().reshape(-1, len(part.layout.channels))
                skip = wanted - position
                position += len(samples)
                if skip < len(samples):
                    wanted = position
                    yield samples[max(skip, 0) :]
