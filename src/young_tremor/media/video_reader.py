"""Footage in: frame-accurate random access by timestamp, conformed to a constant rate."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

from young_tremor.base.errors import DecodeError, MissingFile, RequestError
from young_tremor.base.frames import ColourTags, Frame, SourceInfo
from young_tremor.base.units import STANDARD_RATES, format_rate, nearest_rate
from young_tremor.media.formats import pixel_format, planar_name, reading, to_frame, upright

KEEP = 3  # decoded frames kept for going back a step
FORWARD = 48  # frames worth decoding through instead of seeking


@dataclass(frozen=True)
class Timing:
    """Timestamps of a stream's pictures in order (ticks), which are key pictures, and the conformed rate."""

    pts: np.ndarray
    keys: np.ndarray
    rate: Fraction
    constant: bool
    time_base: Fraction

    @property
    def frames(self) -> int:
        if self.constant:
            return len(self.pts)
        shown = (int(self.pts[-1] - self.pts[0])) * self.time_base
        return max(1, int(shown * self.rate) + 1)

    def picture(self, index: int) -> int:
        """Which coded picture stands at conformed frame ``index``: the last one not later."""
        if self.constant:
            return index
        ticks = Fraction(index) / self.rate / self.time_base + int(self.pts[0])
        return int(np.searchsorted(self.pts, float(ticks) + 0.5, side="right")) - 1


class VideoReader:
    """A :class:`~young_tremor.base.frames.FrameSource` on a video file. One container, one thread at a time."""

    def __init__(self, path: Path | str) -> None:
        self.path = Path(path)
        if not self.path.exists():
            raise MissingFile(f"{self.path} is not there: check the name and the folder.")
        with reading(self.path):
            self._container = av.open(str(self.path))
            if not self._container.streams.video:
                self._container.close()
                raise RequestError(f"{self.path.name} has no picture: choose a video file.")
            self._stream = self._container.streams.video[0]
            self._stream.thread_type = "AUTO"
            try:
                self._timing = _index(self._container, self._stream, self.path)
                self._look()
            except BaseException:
                self._container.close()
                raise
        self._decoder: Any = None
        self._next = -1
        self._wanted = 0
        self._recent: OrderedDict[int, Frame] = OrderedDict()

    @property
    def info(self) -> SourceInfo:
        return self._info

    @property
    def start(self) -> float:
        """The file's own time of the first picture, in seconds (sound is placed against it)."""
        return float(int(self._timing.pts[0]) * self._timing.time_base)

    def read(self, index: int) -> Frame:
        """Conformed frame ``index``, held at both ends."""
        index = min(max(index, 0), self._timing.frames - 1)
        picture = self._timing.picture(index)
        if picture in self._recent:
            self._recent.move_to_end(picture)
            return self._recent[picture]
        with reading(self.path):
            frame = self._decode(picture)
        self._recent[picture] = frame
        while len(self._recent) > KEEP:
            self._recent.popitem(last=False)
        return frame

    def pictures(self, start: float = 0.0, end: float | None = None) -> Iterator[tuple[float, Frame]]:
        """Pictures as they are stored, in order, with their own times: seconds from the file's first picture, the
        first one not before ``start``, none from ``end`` on. Nothing else may be read meanwhile."""
        first = int(
            np.searchsorted((self._timing.pts - self._timing.pts[0]) * float(self._timing.time_base), start - 1e-6)
        )
        if first >= len(self._timing.pts):
            return
        with reading(self.path):
            self._wanted = int(self._timing.pts[first])
            self._seek(self._key(first))
            for decoded in self._decoder:
                if decoded.pts is None or decoded.pts < self._wanted:
                    continue
                t = float((decoded.pts - int(self._timing.pts[0])) * self._timing.time_base)
                if end is not None and t >= end - 1e-6:
                    break
                yield t, self._frame(decoded)
        self._decoder = None
        self._next = -1

    def close(self) -> None:
        self._decoder = None
        self._recent.clear()
        self._container.close()

    def _decode(self, picture: int) -> Frame:
        wanted = self._wanted = int(self._timing.pts[picture])
        ahead = picture - self._next
        if self._decoder is None or ahead < 0 or (ahead > FORWARD and self._key(picture) > self._next):
            self._seek(self._key(picture))
        for attempt in range(3):
            last = None
            for decoded in self._decoder:
                if decoded.pts is None:
                    continue
                if decoded.pts > wanted:
                    break
                last = decoded
                if decoded.pts == wanted:
                    self._next = picture + 1
                    return self._frame(decoded)
            # the seek landed late, or the picture is damaged: start further back, at last from the beginning
            if attempt == 2 and last is not None:
                self._next = -1
                self._decoder = None
                return self._frame(last)
            self._seek(self._key(max(0, self._key(picture) - 1)) if attempt == 0 else 0)
        raise DecodeError(f"{self.path.name}: frame {picture} cannot be decoded: the file may be damaged.")

    def _frame(self, decoded: Any) -> Frame:
        return to_frame(decoded, self._coded, self._info.colour, self._turns)

    def _key(self, picture: int) -> int:
        keys = self._timing.keys
        at = int(np.searchsorted(keys, picture, side="right")) - 1
        return int(keys[max(at, 0)]) if len(keys) else 0

    def _seek(self, picture: int) -> None:
        self._container.seek(int(self._timing.pts[picture]), stream=self._stream, backward=True)
        self._decoder = self._decoded()
        self._next = picture

    def _decoded(self) -> Iterator[Any]:
        """Pictures in order from where the file stands. On the way to the wanted one, those that no other picture
        is made from are passed over: half the time on files with B-frames."""
        context = self._stream.codec_context
        for packet in self._container.demux(self._stream):
            on_the_way = packet.pts is not None and packet.pts < self._wanted
            context.skip_frame = "NONREF" if on_the_way else "DEFAULT"
            yield from packet.decode()

    def _look(self) -> None:
        """Decode one picture for what only a picture tells: its true format, rotation, colour."""
        self._container.seek(int(self._timing.pts[0]), stream=self._stream, backward=True)
        first = next(self._container.decode(self._stream), None)
        if first is None:
            raise DecodeError(f"{self.path.name} holds no picture that can be decoded: the file may be damaged.")
        coded = pixel_format(planar_name(first.format.name))
        assert coded is not None
        self._coded = coded
        self._turns = round((getattr(first, "rotation", 0) or 0) / 90) % 4
        context = self._stream.codec_context
        full = {1: False, 2: True}.get(int(context.color_range))
        if first.format.name.startswith("yuvj"):
            full = True
        colour = ColourTags(int(context.color_primaries), int(context.color_trc), int(context.colorspace), full)
        aspect = Fraction(self._stream.sample_aspect_ratio or 1) or Fraction(1)
        size = (first.width, first.height)
        if self._turns % 2:
            size, aspect = size[::-1], 1 / aspect
        notes = []
        if not self._timing.constant:
            notes.append(f"variable frame rate, taken as a constant {format_rate(self._timing.rate)} frames/s")
        if self._turns:
            notes.append(f"turned upright by {(-90 * self._turns) % 360}° as its rotation mark says")
        if first.interlaced_frame:
            notes.append("interlaced: fields are treated as whole frames")
        if first.format.name.replace("yuvj", "yuv") != coded.name:
            notes.append(f"{first.format.name} is processed as {coded.name}")
        audio = tuple(_audio_words(stream) for stream in self._container.streams.audio)
        self._info = SourceInfo(
            self.path.name, size, aspect, self._timing.rate, self._timing.frames, upright(coded, self._turns), colour,
            context.name, audio, tuple(notes),
        )  # fmt: skip


def _audio_words(stream: Any) -> str:
    return f"{stream.codec_context.name} {stream.codec_context.sample_rate} Hz {stream.codec_context.layout.name}"


def _index(container: Any, stream: Any, path: Path) -> Timing:
    """Timestamps of all pictures, from the packets alone (nothing is decoded)."""
    stamps: list[tuple[int, bool]] = []
    for packet in container.demux(stream):
        stamp = packet.pts if packet.pts is not None else packet.dts
        if packet.size and stamp is not None and not getattr(packet, "is_discard", False):
            stamps.append((stamp, packet.is_keyframe))
    if not stamps:
        raise DecodeError(f"{path.name} holds no picture: the file may be empty or damaged.")
    stamps.sort()
    pts, first = np.unique(np.array([s[0] for s in stamps], np.int64), return_index=True)
    keys = np.flatnonzero(np.array([s[1] for s in stamps])[first])
    base = Fraction(stream.time_base)
    if len(pts) == 1:
        return Timing(pts, keys, nearest_rate(float(stream.average_rate or 24)), True, base)
    gaps = np.diff(pts)
    mean = float(pts[-1] - pts[0]) / len(gaps)
    constant = bool(np.abs(pts - (pts[0] + mean * np.arange(len(pts)))).max() <= max(1.5, 0.04 * mean))
    told = float(stream.guessed_rate or stream.average_rate or 1 / (mean * base))
    counted = 1 / (mean * float(base))
    if constant:
        # a coarse clock (milliseconds) counts a standard rate only roughly
        slack = max(0.0004, 1.5 / float(pts[-1] - pts[0]))
        near = nearest_rate(told, 0.0004) if abs(told - counted) <= slack * counted else nearest_rate(counted, slack)
        return Timing(pts, keys, near, True, base)
    typical = 1 / (float(np.median(gaps)) * float(base))
    rate = min(STANDARD_RATES, key=lambda each: abs(float(each) / typical - 1))
    return Timing(pts, keys, rate if abs(float(rate) / typical - 1) < 0.15 else nearest_rate(typical), False, base)
