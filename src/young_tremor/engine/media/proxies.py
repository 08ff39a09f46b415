"""Reduced copies of heavy footage: made in the background for the screen alone, kept in the cache, never delivered.

Decoding a picture of 4K takes most of the time that playing has. A copy of a quarter of the pixels, in which every
fourth picture is whole by itself, is read many times faster, and where fewer pixels still are shown it is not seen.
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

from young_tremor.base import xdg
from young_tremor.base.errors import TremorError
from young_tremor.base.frames import Frame, FrameSource, SourceInfo
from young_tremor.engine.media import footage
from young_tremor.engine.system import log
from young_tremor.engine.system.priority import PriorityGate
from young_tremor.media.codecs import codec
from young_tremor.media.video_writer import FilmHeader, VideoWriter, form_of
from young_tremor.render.screen import reduce

HEAVY = 2600 * 1400  # pixels of a picture from which on a copy is worth its room
WIDE = 1920  # pixels of a copy
MOST = 20 << 30  # bytes of all copies; the ones used longest ago go
FREE = 4 << 30  # bytes that are left to others
NICE = 15  # less of the machine than anything else gets
QUIET = 1.5  # seconds without a wish of the person's before work goes on
LOOK = 0.2  # seconds between two looks whether it may
FORM = replace(
    codec("h264"),
    full_chroma=True,
    lossless=False,
    options=(
        ("preset", "ultrafast"),
        ("tune", "fastdecode"),
        ("crf", "22"),
        ("g", "4"),
        ("bf", "0"),
        ("maxrate", "48M"),
        ("bufsize", "24M"),
    ),
)


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
    text = f"{os.path.realpath(path)}|{info.stamp}|{WIDE}|{FORM.options}"
    return xdg.caches() / "reduced" / f"{hashlib.blake2s(text.encode(), digest_size=16).hexdigest()}.mp4"


def make(path: str, report: Callable[[int, int], None]) -> Path | None:
    """Make the copy of a file, whole or not at all; None where there is none of it. What ``report`` raises stops it."""
    info = footage.facts(path).info
    size, place = size_of(info), place_of(path, info)
    if size is None or not xdg.make_folder(place.parent):
        return None
    source = footage.open_source(path)
    try:
        header = FilmHeader(size, info.rate, info.format, info.colour, info.pixel_aspect)
        writer = VideoWriter(place, FORM, header, overwrite=True)
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


class ProxyMaker:
    """Makes copies one after the other while the person rests. Everything may be called from any thread."""

    def __init__(self, rest: PriorityGate, quiet: float = QUIET) -> None:
        self._rest, self._quiet = rest, quiet
        self._wake = threading.Condition()
        self._waiting: list[str] = []
        self._new: list[str] = []  # those of them that were not looked for yet
        self._unread: list[Path] = []  # copies of which nothing is known yet but that they are there
        self._known: dict[tuple[str, tuple[int, ...]], Path | None] = {}
        self._stop = False
        self._thread: threading.Thread | None = None

    def wanted(self, paths: Iterable[str], *, first: bool = True) -> None:
        """Put files into the queue: before the others, or behind them."""
        with self._wake:
            new = list(dict.fromkeys(paths))
            rest = [path for path in self._waiting if path not in new] if first else self._waiting
            self._waiting = new + rest if first else rest + [path for path in new if path not in rest]
            self._new += new
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
                self._find()
                self._one(path)
            except (TremorError, OSError, _Stopped):
                continue  # it is read as it is
            except Exception as error:
                log.unexpected(error)

    def _find(self) -> None:
        """Those that were made before are there at once, also while one is being made."""
        with self._wake:
            new, self._new = self._new, []
        for path in new:
            with suppress(TremorError, OSError):
                info = footage.facts(path).info
                place = place_of(path, info)
                if (path, info.stamp) not in self._known and place.exists():
                    os.utime(place, ns=(time.time_ns(), place.stat().st_mtime_ns))  # used just now, and not changed
                    self._known[path, info.stamp] = place
                    self._unread.append(place)
        while self._unread and not self._new and not self._stop:
            self._rest.wait()
            with suppress(TremorError):
                footage.facts(str(self._unread.pop(0)))  # so that opening it takes no time

    def _one(self, path: str) -> None:
        info = footage.facts(path).info
        if (path, info.stamp) in self._known or size_of(info) is None:
            return
        self._turn(0, 1)
        _make_room(place_of(path, info).parent)
        place = make(path, self._turn)
        if place is not None:
            footage.facts(str(place))
            self._known[path, info.stamp] = place

    def _turn(self, done: int, total: int) -> None:
        self._find()
        while self._rest.idle < self._quiet and not self._stop:
            time.sleep(LOOK)
            self._find()
        if self._stop:
            raise _Stopped


def read(copy: FrameSource, index: int, info: SourceInfo) -> Frame:
    """A picture out of a copy, as one of its footage."""
    return replace(copy.read(index), colour=info.colour)


def _make_room(folder: Path) -> None:
    """Remove copies used longest ago; the work is given up where there is no room for another even so."""
    if not xdg.make_folder(folder):
        raise _Stopped
    paths = sorted(folder.glob("*.mp4"), key=lambda item: item.stat().st_atime)
    whole = sum(path.stat().st_size for path in paths)
    while paths and (whole > MOST or shutil.disk_usage(folder).free < FREE):
        gone = paths.pop(0)
        whole -= gone.stat().st_size
        gone.unlink()
    if shutil.disk_usage(folder).free < FREE:
        raise _Stopped
