"""Opened footage: facts once, readers on demand."""

from __future__ import annotations

import os
import threading
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from young_tremor.base.frames import FrameSource, SourceInfo
from young_tremor.media import audio
from young_tremor.media.video_reader import VideoReader
from young_tremor.media.video_writer import SoundTrack
from young_tremor.model.project import Shot
from young_tremor.render.screen import reduce, to_rgb


@dataclass(frozen=True)
class Facts:
    """What is known of a file: its picture, and the file's time of its first picture."""

    info: SourceInfo
    origin: float


_known: dict[tuple[str, int, int], Facts] = {}
_lock = threading.Lock()


def facts(path: str) -> Facts:
    """Facts of a file, read once as long as the file does not change. TremorError if it cannot be used."""
    try:
        stat = os.stat(path)
        key = (path, stat.st_mtime_ns, stat.st_size)
    except OSError:
        key = (path, 0, 0)
    with _lock:
        if key in _known:
            return _known[key]
    reader = VideoReader(path)
    try:
        found = Facts(reader.info, reader.start)
    finally:
        reader.close()
    with _lock:
        _known[key] = found
    return found


def open_source(path: str) -> FrameSource:
    """A new reader, for the thread that calls."""
    return VideoReader(path)


def sound_of(shot: Shot, seconds: float) -> SoundTrack:
    """The sound that belongs to a shot of ``seconds``; all of it, as it is, where the shot is all of its footage."""
    path = shot.plates[0].media.path
    known = facts(path)
    if not known.info.audio:
        return SoundTrack(None, 0.0, 0.0, seconds)
    whole = shot.start == 0 and shot.end is None
    return SoundTrack(Path(path), known.origin, shot.start, None if whole else seconds)


def sound_blocks(shot: Shot, start: float) -> Iterator[np.ndarray]:
    """Stereo sound of a shot from ``start`` seconds of it on, for playing: blocks (n, 2) float32 at 48 kHz."""
    path = shot.plates[0].media.path
    return audio.blocks(path, shot.start + start, origin=facts(path).origin)


def thumbnail(path: str, size: tuple[int, int] = (240, 136)) -> np.ndarray:
    """The first picture of a file, small, as RGB (rows, columns, 3)."""
    reader = VideoReader(path)
    try:
        frame = reader.read(0)
        aspect = float(reader.info.pixel_aspect)
    finally:
        reader.close()
    width, height = frame.size
    scale = max(size[0] / (width * aspect), size[1] / height)
    return to_rgb(reduce(frame, (2 * round(width * aspect * scale / 2), 2 * round(height * scale / 2))))
