"""Footage in: frame-accurate random access by timestamp, conformed to a constant rate."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import av

from young_tremor.base.errors import DecodeError
from young_tremor.base.frames import Frame, SourceInfo
from young_tremor.media.container import Identity, open_container, still_as
from young_tremor.media.decoder_formats import decoder_of, picture_stream, reading, to_frame
from young_tremor.media.frame_index import Timing

KEEP = 3  # decoded frames kept for going back a step
FORWARD = 48  # frames worth decoding through instead of seeking
FAR = 60_000_000  # pixels that are decoded on the way to a frame that is far
SEEK = 4  # frames that seeking costs


class VideoReader:
    """A :class:`~young_tremor.base.frames.FrameSource` on a video file. One container, one thread at a time.

    Made by :func:`young_tremor.media.sources.open_source`, which knows the facts of the file.
    """

    def __init__(
        self,
        known: Identity,
        info: SourceInfo,
        timing: Timing,
        coded: Any,
        turns: int,
        mirrored: bool,
        first: Any = None,
    ) -> None:
        """``first``: the only picture of the file, where it was decoded just now."""
        self.path = Path(known.path)
        self._known, self._info, self._timing = known, info, timing
        self._coded, self._turns, self._mirrored = coded, turns, mirrored
        self._container: Any = None
        self._decoder: Any = None
        self._next = -1
        self._wanted = 0
        self._recent: OrderedDict[int, Frame] = OrderedDict()
        self._first = first
        self.look: Callable[[], None] = lambda: None  # called on the way to a frame; what it raises ends the reading
        if first is None:
            self._reopen()

    @property
    def info(self) -> SourceInfo:
        return self._info

    def read(self, index: int) -> Frame:
        """Conformed frame ``index``, held at both ends. DecodeError where it cannot be read, WorkError where the file
        is not what it was when it was opened."""
        index = min(max(index, 0), self._timing.frames - 1)
        picture = self._timing.picture(index)
        if picture in self._recent:
            self._recent.move_to_end(picture)
            return self._recent[picture]
        still_as(self._known)
        with reading(self.path):
            frame = self._decode(picture)
        self._recent[picture] = frame
        while len(self._recent) > KEEP:
            self._recent.popitem(last=False)
        return frame

    def nearby(self, index: int) -> int | None:
        """The frame before ``index`` that is read much sooner, a key picture; None where that itself is read soon."""
        timing = self._timing
        if not timing.constant or timing.counted or index in self._recent or not 0 <= index < timing.frames:
            return None
        key = timing.key_before(index)
        start = int(timing.keys[key]) if key >= 0 else 0
        if self._decoder is not None and start < self._next <= index:
            start = self._next
        large = self._info.size[0] * self._info.size[1] * (index - start)
        return int(timing.keys[key]) if key >= 0 and large > FAR else None

    def pictures(self, start: float = 0.0, end: float | None = None) -> Iterator[tuple[float, Frame]]:
        """Pictures as they are stored, in order, with their own times: seconds from the file's first picture, the
        first one not before ``start``, none from ``end`` on. Nothing else may be read meanwhile."""
        base = float(self._timing.time_base)
        seconds = (self._timing.pts - self._timing.pts[0]) * base
        first = int(seconds.searchsorted(start - 1e-6))
        if first >= len(seconds):
            return
        with reading(self.path):
            if self._container is None:
                self._reopen()
            self._wanted = int(self._timing.pts[first])
            key = self._timing.key_before(first) - (1 if self._timing.settles else 0)
            self._seek(key if key >= 0 else -2)
            for number, decoded in self._stamped():
                t = float(seconds[min(number, len(seconds) - 1)])
                if number < first:
                    continue
                if end is not None and t >= end - 1e-6:
                    break
                still_as(self._known)
                yield t, self._frame(decoded)
        self._decoder = None
        self._next = -1

    def close(self) -> None:
        self._decoder = None
        self._recent.clear()
        if self._container is not None:
            self._container.close()

    def _reopen(self) -> None:
        if self._container is not None:
            self._container.close()
        self._container = open_container(self.path)
        self._stream = picture_stream(self._container, self.path.name)
        self._stream.thread_type = "AUTO"
        self._context = decoder_of(self._stream)
        self._decoder, self._next, self._unsettled = self._decoded(), 0, 0

    def _decode(self, picture: int) -> Frame:
        """Picture by its number: from where the decoder stands, else from the key picture before it, else from an
        earlier one, at last from the file's beginning."""
        first, self._first = self._first, None
        if first is not None:
            return self._frame(first)
        if self._container is None:
            self._reopen()
        timing = self._timing
        key = timing.key_before(picture)
        self._wanted = int(timing.pts[picture])
        ahead = picture - self._next
        near = self._decoder is not None and ahead >= 0
        if near and key >= 0 and int(timing.keys[key]) > self._next:  # a whole picture lies on the way
            near = ahead <= (min(picture - int(timing.keys[key]) + SEEK, FORWARD) if timing.exact else FORWARD)
        elif near and ahead > FORWARD:
            near = key >= 0
        earlier = 1 if timing.settles else 0
        starts = [*([None] if near else []), max(key - earlier, -1), max(key - 2 - earlier, -1), -2]
        last = None
        for start in starts:
            if start is not None:
                self._seek(start)
            for number, decoded in self._stamped():
                self.look()
                if number > picture:
                    break  # the seek landed late, or the picture is damaged
                last = decoded
                if number == picture:
                    return self._frame(decoded)
        self._decoder, self._next = None, -1
        if last is None:
            raise DecodeError(f"{self.path.name}: frame {picture} cannot be decoded: the file may be damaged.")
        return self._frame(last)

    def _stamped(self) -> Iterator[tuple[int, Any]]:
        """Decoded pictures with their numbers."""
        timing, before = self._timing, -2
        for decoded in self._decoder:
            if timing.counted:
                number = self._next
            elif decoded.pts is None:
                continue
            else:
                number = int(timing.pts.searchsorted(decoded.pts + timing.slack, side="right")) - 1
            self._next = number + 1
            if self._unsettled:
                self._unsettled = self._unsettled - 1 if number == before + 1 else timing.settles
                before = number
                if self._unsettled:
                    continue
            yield number, decoded

    def _frame(self, decoded: Any) -> Frame:
        return to_frame(decoded, self._coded, self._info.colour, self._turns, mirrored=self._mirrored)

    def _seek(self, key: int) -> None:
        """Go to a key picture by its place among them; -1: the container finds one; -2: the file's beginning."""
        timing = self._timing
        if key == -2 or (timing.counted and (key < 0 or not len(timing.seek))):
            self._reopen()
            return
        stamp = int(timing.seek[key]) if key >= 0 else self._wanted
        try:
            self._container.seek(stamp, stream=self._stream, backward=True)
        except av.FFmpegError:
            self._reopen()
            return
        self._context.flush_buffers()
        self._decoder = self._decoded()
        self._next = int(timing.keys[key]) if key >= 0 else 0
        self._unsettled = timing.settles

    def _decoded(self) -> Iterator[Any]:
        """Pictures in order from where the file stands. On the way to the wanted one, those that no other picture
        is made from are passed over: half the time on files with B-frames."""
        timing, context = self._timing, self._context
        first = True
        for packet in self._container.demux(self._stream):
            if first and timing.counted and timing.decoding is not None and packet.dts is not None:
                self._next = int(timing.decoding.searchsorted(packet.dts))
            first = False
            on_the_way = timing.exact and packet.pts is not None and packet.pts < self._wanted
            context.skip_frame = "NONREF" if on_the_way else "DEFAULT"
            try:
                yield from context.decode(packet)
            except av.error.InvalidDataError:
                continue  # a damaged packet: what follows may be whole
            except EOFError:
                return
