"""Reduced copies of heavy footage: made in the background for the screen alone, kept in the cache, never delivered.

Decoding a picture of 4K takes most of the time that playing has. A copy of a quarter of the pixels, in which every
eighth picture is whole by itself, is read many times faster, and where fewer pixels still are shown it is not seen.
"""

from __future__ import annotations

import hashlib
import os
import shutil
import threading
import time
from collections.abc import Callable, Iterable
from contextlib import suppress
from dataclasses import replace
from pathlib import Path

from young_tremor.base import places
from young_tremor.base.errors import TremorError
from young_tremor.base.frames import Frame, FrameSource, SourceInfo
from young_tremor.engine import footage, log
from young_tremor.media.codecs import codec
from young_tremor.media.video_writer import VideoWriter, form_of
from young_tremor.render.screen import reduce

HEAVY = 2600 * 1400  # pixels of a picture from which on a copy is worth its room
WIDE = 1920  # pixels of a copy
MOST = 20 << 30  # bytes of all copies; the ones used longest ago go
FREE = 4 << 30  # bytes that are left to others
NICE = 15  # less of the machine than anything else gets
QUIET = 1.5  # seconds without a wish of the person's before work goes on
LOOK = 0.2  # seconds between two looks whether it may
FORM = replace(
    codec("h264"), kept=True, lossless=False,
    options=(("preset", "ultrafast"), ("tune", "fastdecode"), ("crf", "14"), ("g", "8"), ("bf", "0")),
)  # fmt: skip


class _Stopped(Exception):
    """The work is given up."""


def size_of(info: SourceInfo) -> tuple[int, int] | None:
    """The size of a copy of footage; None where none is made: of what is light, drawn, or of a form that the encoder
    does not hold as it is."""
    width, height = info.size
    if info.still or info.drawn or width * height < HEAVY or info.alpha != "none":
        return None
    size = (min(WIDE, width // 2) // 2 * 2, max(2, round(height * min(WIDE, width // 2) / width / 2) * 2))
    with suppress(TremorError):
        if form_of(FORM, info.format, info.colour, size).target.format == info.format:
            return size
    return None


def place_of(path: str, info: SourceInfo) -> Path:
    """Where the copy of a file in this state is kept."""
    said = f"{os.path.realpath(path)}|{info.stamp}|{WIDE}|{FORM.options}"
    return places.caches() / "reduced" / f"{hashlib.blake2s(said.encode(), digest_size=16).hexdigest()}.mkv"


def make(path: str, report: Callable[[int, int], None]) -> Path | None:
    """Make the copy of a file, whole or not at all; None where there is none of it. What ``report`` raises stops it."""
    info = footage.facts(path).info
    size, place = size_of(info), place_of(path, info)
    if size is None or not places.made(place.parent):
        return None
    source = footage.open_source(path)
    try:
        writer = VideoWriter(
            place, FORM, size=size, rate=info.rate, format=info.format, colour=info.colour,
            pixel_aspect=info.pixel_aspect, overwrite=True,
        )  # fmt: skip
        try:
            for index in range(info.frames):
                report(index, info.frames)
                writer.write(reduce(source.read(index), size))
            writer.finish()
        finally:
            writer.abandon()
    finally:
        source.close()
    return place


class Copies:
    """Makes copies one after the other while the person rests. Everything may be called from any thread."""

    def __init__(self, now: Callable[[], float] = time.monotonic, quiet: float = QUIET) -> None:
        self._now, self._quiet = now, quiet
        self._wake = threading.Condition()
        self._waiting: list[str] = []
        self._known: dict[tuple[str, tuple[int, ...]], Path | None] = {}
        self._busy, self._stop = now(), False
        self._thread: threading.Thread | None = None

    def touch(self) -> None:
        """The person wants something: what is being made rests."""
        self._busy = self._now()

    def wanted(self, paths: Iterable[str], *, first: bool = True) -> None:
        """Put files into the queue: before the others, or behind them."""
        with self._wake:
            new = list(dict.fromkeys(paths))
            rest = [path for path in self._waiting if path not in new] if first else self._waiting
            self._waiting = new + rest if first else rest + [path for path in new if path not in rest]
            if self._waiting and self._thread is None and not self._stop:
                self._thread = threading.Thread(target=self._run, name="copies", daemon=True)
                self._thread.start()
            self._wake.notify()

    def ready(self, path: str, info: SourceInfo) -> Path | None:
        """The copy of a file in this state, if it is there."""
        return self._known.get((path, info.stamp))

    def bad(self, path: str, info: SourceInfo) -> None:
        """A copy that cannot be read: it is not used again."""
        place = self._known.get((path, info.stamp))
        self._known[path, info.stamp] = None
        if place is not None:
            with suppress(OSError):
                place.unlink()

    def close(self) -> None:
        """Stop; what is half made is given up."""
        with self._wake:
            self._stop = True
            self._wake.notify()
        if self._thread is not None:
            self._thread.join(2.0)

    def _run(self) -> None:
        with suppress(OSError, AttributeError):
            os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), NICE)  # of this thread and those it starts
        while True:
            with self._wake:
                while not self._stop and not self._waiting:
                    self._wake.wait()
                if self._stop:
                    return
                path = self._waiting.pop(0)
            try:
                self._one(path)
            except (TremorError, OSError, _Stopped):
                continue  # it is read as it is
            except Exception as error:
                log.unexpected(error)

    def _one(self, path: str) -> None:
        info = footage.facts(path).info
        if (path, info.stamp) in self._known or size_of(info) is None:
            return
        place = place_of(path, info)
        if place.exists():
            with suppress(OSError):
                os.utime(place)  # used just now
        else:
            self._rest(0, 1)
            _make_room(place.parent)
            if make(path, self._rest) is None:
                return
        self._known[path, info.stamp] = place

    def _rest(self, done: int, total: int) -> None:
        while self._now() - self._busy < self._quiet and not self._stop:
            time.sleep(LOOK)
        if self._stop:
            raise _Stopped


def read(copy: FrameSource, index: int, info: SourceInfo) -> Frame:
    """A picture out of a copy, as one of its footage."""
    return replace(copy.read(index), colour=info.colour)


def _make_room(folder: Path) -> None:
    """Remove copies used longest ago; the work is given up where there is no room for another even so."""
    if not places.made(folder):
        raise _Stopped
    kept = sorted(folder.glob("*.mkv"), key=lambda each: each.stat().st_mtime)
    whole = sum(each.stat().st_size for each in kept)
    while kept and (whole > MOST or shutil.disk_usage(folder).free < FREE):
        gone = kept.pop(0)
        whole -= gone.stat().st_size
        gone.unlink()
    if shutil.disk_usage(folder).free < FREE:
        raise _Stopped
