"""Measuring a clip: decoding ahead in one thread, tracking in another."""

from __future__ import annotations

import sys
import threading
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.errors import RequestError
from young_tremor.base.frames import Frame
from young_tremor.base.prefetch import ahead
from young_tremor.measure import camera_path as measure_path
from young_tremor.measure.camera_path import WIDEST, Boxes, MeasuredFrame, TooLittleMotion, prepare
from young_tremor.measure.camera_path import ClipPath as Measured
from young_tremor.media.image_sequence import SequenceReader
from young_tremor.media.sources import open_footage
from young_tremor.media.video_reader import VideoReader

AHEAD = 6  # pictures decoded ahead
_turns, _asked, _before = threading.Lock(), 0, 0.005

Report = Callable[[int, int], None]


def luma_of(frame: Frame, aspect: Fraction) -> np.ndarray:
    """A frame's luma as (rows, columns) uint8 in square pixels."""
    plane = colour.luma8(frame)
    if aspect != 1:
        plane = cv2.resize(plane, (round(plane.shape[1] * float(aspect)), plane.shape[0]), interpolation=cv2.INTER_AREA)
    return plane


def prepared_frames(
    reader: VideoReader | SequenceReader,
    start: float = 0.0,
    end: float | None = None,
    *,
    field: bool = False,
    widest: int = WIDEST,
) -> Iterator[tuple[float, MeasuredFrame]]:
    """Times and pictures of a clip, decoded and made ready in a thread of their own; of first fields alone if asked."""

    def work() -> Iterator[tuple[float, MeasuredFrame]]:
        for t, frame in reader.pictures(start, end):
            yield t, prepare(luma_of(frame, reader.info.pixel_aspect), field=field, widest=widest)

    return ahead(work, AHEAD, "decode to measure")


def measure(
    path: Path,
    report: Report,
    *,
    start: float = 0.0,
    end: float | None = None,
    shields: Boxes = (),
    widest: int = WIDEST,
    watch: Callable[[float, np.ndarray], None] | None = None,
) -> Measured:
    """The path of a clip from ``start`` to ``end`` seconds; TremorError in one sentence where it cannot be told.

    ``widest``: across the picture that is looked at, in pixels. ``report(done, total)`` may raise to stop;
    ``watch(seconds, (4,))`` gets the newest values as they come.
    """
    with _quick_turns(), closing(open_footage(path)) as reader:
        last = reader.info.seconds if end is None else min(end, reader.info.seconds)
        if last <= start:
            raise RequestError(f"{path.name} lasts {reader.info.seconds:.2f} s: mark a stretch inside it.")
        total = max(1, round((last - start) * float(reader.info.rate)))

        def progress(done: int, values: np.ndarray) -> None:
            if watch is not None:
                watch(start + done / float(reader.info.rate), values)
            report(min(done, total), total)

        try:
            frames = prepared_frames(reader, start, end, widest=widest)
            found_path = measure_path.measure(frames, shields, progress)
            if found_path.faults.interlaced:  # two moments in each frame: once more by one of them
                frames = prepared_frames(reader, start, end, field=True, widest=widest)
                found_path = measure_path.measure(frames, shields, progress)
            return found_path
        except TooLittleMotion as error:
            raise RequestError(f"{path.name} {error}.") from error


@contextmanager
def _quick_turns() -> Iterator[None]:
    """Let threads take turns more often, so that decoding does not hold the tracking up; put back when the last
    measuring that asked for it ends."""
    global _asked, _before
    with _turns:
        if _asked == 0:
            _before = sys.getswitchinterval()
            sys.setswitchinterval(min(_before, 0.0005))
        _asked += 1
    try:
        yield
    finally:
        with _turns:
            _asked -= 1
            if _asked == 0:
                sys.setswitchinterval(_before)
