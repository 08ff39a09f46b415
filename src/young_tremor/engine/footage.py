"""The footage of shots: facts, readers, sound, prints. All by way of the one door in ``media.sources``."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache
from pathlib import Path

import msgspec
import numpy as np

from young_tremor.base.frames import FrameSource, SourceInfo
from young_tremor.base.units import parse_rate
from young_tremor.media import audio, sources
from young_tremor.media.container import identity
from young_tremor.media.sequence import KINDS, is_pattern
from young_tremor.media.sound_writer import SoundTrack
from young_tremor.media.sources import Facts, facts, named, open_source
from young_tremor.model.curve import Curve
from young_tremor.model.project import Media, Placement, Plate, Shot
from young_tremor.render.screen import reduce, to_rgb

__all__ = [
    "Facts", "facts", "infos", "is_picture", "laid", "named", "open_source", "paths", "sound_blocks", "sound_of",
    "sources_of", "stamps", "thumbnail",
]  # fmt: skip


def paths(shot: Shot) -> tuple[str, ...]:
    """The files of a shot's plates, bottom to top."""
    return tuple(plate.media.path for plate in shot.plates)


def infos(shot: Shot) -> tuple[SourceInfo, ...]:
    """What the plates of a shot show. TremorError if one of them cannot be used."""
    return tuple(rated(facts(plate.media.path).info, plate.media) for plate in shot.plates)


def rated(info: SourceInfo, media: Media) -> SourceInfo:
    """What a file shows at the rate that is said for it: numbered pictures have none of their own."""
    if media.rate is None or not is_pattern(media.path):
        return info
    return _at_rate(info, media.rate)


@lru_cache(maxsize=64)
def _at_rate(info: SourceInfo, rate: str) -> SourceInfo:
    return replace(info, rate=parse_rate(rate))


def is_picture(path: Path) -> bool:
    """Whether a file is a picture rather than a film, by its name."""
    return path.suffix.lower() in KINDS


def laid(plate: Plate, size: tuple[int, int]) -> Plate:
    """A graphic as it is laid over a picture of ``size``: pixel for pixel, or as large as fits if it is larger.
    TremorError if it cannot be used."""
    info = facts(plate.media.path).info
    wide, high = info.size[0] * float(info.pixel_aspect), info.size[1]
    across, down = size[0] / wide, size[1] / high
    factor = min(1.0, across, down) / max(across, down)  # of what fills the frame
    return msgspec.structs.replace(plate, placement=Placement(size=Curve(round(factor, 6))))


def stamps(shot: Shot) -> tuple[tuple[int, ...], ...]:
    """In which state the files of a shot are now; an empty one for a file that is not there."""
    out = []
    for path in paths(shot):
        try:
            out.append(identity(path).stamp)
        except Exception:  # whatever it is, reading the file will say it
            out.append(())
    return tuple(out)


def sources_of(shot: Shot) -> list[FrameSource]:
    """New readers of a shot's plates, for the thread that calls."""
    opened: list[FrameSource] = []
    try:
        for path in paths(shot):
            opened.append(open_source(path))
    except BaseException:
        for each in opened:
            each.close()
        raise
    return opened


def sound_of(shot: Shot, seconds: float) -> SoundTrack:
    """The sound that belongs to a shot of ``seconds``."""
    path = shot.footage.media.path
    known = facts(path)
    if not known.sounds:
        return SoundTrack(None, seconds)
    whole = shot.start == 0 and (shot.end is None or shot.end >= known.info.seconds)
    return SoundTrack(Path(path), seconds, known.origin, shot.start, whole)


def sound_blocks(shot: Shot, start: float) -> Iterator[np.ndarray]:
    """Stereo sound of a shot from ``start`` seconds of it on, for playing: blocks (n, 2) float32 at 48 kHz."""
    path = shot.footage.media.path
    return audio.blocks(path, shot.start + start, origin=facts(path).origin)


def thumbnail(path: str, size: tuple[int, int] = (240, 136)) -> np.ndarray:
    """The first picture of a file, small, as RGB (rows, columns, 3)."""
    reader = sources.open_source(path)
    try:
        frame = reader.read(0)
        aspect = float(reader.info.pixel_aspect)
    finally:
        reader.close()
    width, height = frame.size
    scale = max(size[0] / (width * aspect), size[1] / height)
    return to_rgb(reduce(frame, (2 * round(width * aspect * scale / 2), 2 * round(height * scale / 2))))
