"""Measuring a clip: decoding ahead in one thread, tracking in another."""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np

from young_tremor.base.ahead import ahead
from young_tremor.base.errors import RequestError
from young_tremor.base.frames import Frame
from young_tremor.measure import path as measure_path
from young_tremor.measure.path import Boxes, Prepared, TooLittle, prepare
from young_tremor.measure.path import Path as Measured
from young_tremor.media.video_reader import VideoReader

AHEAD = 6  # pictures decoded ahead

Report = Callable[[int, int], None]


def luma_of(frame: Frame, aspect: Fraction) -> np.ndarray:
    """A frame's luma as (rows, columns) uint8 in square pixels."""
    plane = frame.planes[0]
    if frame.format.depth > 8:
        plane = (plane >> (frame.format.depth - 8)).astype(np.uint8)
    if aspect != 1:
        plane = cv2.resize(plane, (round(plane.shape[1] * float(aspect)), plane.shape[0]), interpolation=cv2.INTER_AREA)
    return plane


def prepared(reader: VideoReader, start: float = 0.0, end: float | None = None) -> Iterator[tuple[float, Prepared]]:
    """Times and pictures of a clip, decoded and made ready in a thread of their own."""

    def work() -> Iterator[tuple[float, Prepared]]:
        for t, frame in reader.pictures(start, end):
            yield t, prepare(luma_of(frame, reader.info.pixel_aspect))

    return ahead(work, AHEAD, "decode to measure")


def measure(
    path: Path, report: Report, *, start: float = 0.0, end: float | None = None, shields: Boxes = (),
    watch: Callable[[float, np.ndarray], None] | None = None,
) -> Measured:  # fmt: skip
    """The path of a clip from ``start`` to ``end`` seconds; TremorError in one sentence where it cannot be told.

    ``report(done, total)`` may raise to stop; ``watch(seconds, (4,))`` gets the newest values as they come.
    """
    sys.setswitchinterval(min(sys.getswitchinterval(), 0.0005))  # decoding must not hold the tracking up
    reader = VideoReader(path)
    try:
        last = reader.info.seconds if end is None else min(end, reader.info.seconds)
        if last <= start:
            raise RequestError(f"{path.name} lasts {reader.info.seconds:.2f} s: mark a stretch inside it.")
        total = max(1, round((last - start) * float(reader.info.rate)))

        def progress(done: int, values: np.ndarray) -> None:
            if watch is not None:
                watch(start + done / float(reader.info.rate), values)
            report(min(done, total), total)

        try:
            return measure_path.measure(prepared(reader, start, end), shields, progress)
        except TooLittle as error:
            raise RequestError(f"{path.name} {error}.") from error
    finally:
        reader.close()
