"""The footage of shots: facts, readers, sound, prints. All by way of the one door in ``media.sources``."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import msgspec
import numpy as np

from young_tremor.base.colour_spaces import is_known, space_named
from young_tremor.base.errors import TremorError
from young_tremor.base.frames import DrawnSource, Frame, FrameSource, SourceInfo
from young_tremor.base.pixels import ColourTags, without_alpha
from young_tremor.base.units import parse_rate
from young_tremor.engine.library import settings
from young_tremor.media import audio_cache, fonts, sources, svg_drawing, title_drawing, vector_source
from young_tremor.media.container import identity
from young_tremor.media.image_sequence import KINDS, is_pattern
from young_tremor.media.sound_writer import SoundTrack
from young_tremor.media.sources import Facts, facts, known_facts, open_source, resolve_path, take_facts
from young_tremor.model.curve import Curve
from young_tremor.model.project import Held, Media, Placement, Plate, Project, Shot, Size, new_id
from young_tremor.render import camera_spaces, depth_map
from young_tremor.render.screen import reduce, to_rgb

HD = (1920, 1080)
__all__ = [
    "Facts",
    "facts",
    "fit_graphic",
    "frame_size",
    "info_of",
    "infos",
    "installed_fonts",
    "is_picture",
    "known_facts",
    "open_source",
    "paths",
    "resolve_path",
    "sound_blocks",
    "sound_of",
    "sources_of",
    "stamps",
    "take_facts",
    "thumbnail",
]


def installed_fonts() -> tuple[str, ...]:
    """Names of the shipped fonts and of those installed on this machine."""
    return tuple(face.name for face in fonts.faces())


def paths(shot: Shot) -> tuple[str, ...]:
    """The files of a shot's plates, bottom to top; those of depth pictures last."""
    shown = [plate.media.path for plate in shot.plates if not plate.media.drawn]
    return (*shown, *(plate.depth.path for plate in shot.plates if plate.depth is not None and plate.depth.path))


def infos(shot: Shot) -> tuple[SourceInfo, ...]:
    """What the plates of a shot show. TremorError if one of them cannot be used."""
    size = frame_size(shot)
    return tuple(info_of(plate.media, size) for plate in shot.plates)


def info_of(media: Media, size: tuple[int, int]) -> SourceInfo:
    """What a plate's picture is; ``size`` is that of the frame it is drawn in, where it has none of its own."""
    return vector_source.info_of(media, size) if media.drawn else apply_media_settings(facts(media.path).info, media)


def frame_size(shot: Shot) -> tuple[int, int]:
    """A shot's frame in square pixels, without asking more than it takes: as it is set, its lowest file's, or full
    HD."""
    if shot.size is not None:
        return square((shot.size.width, shot.size.height), Fraction(shot.size.pixel_aspect))
    if not shot.footage.media.drawn:
        info = facts(shot.footage.media.path).info
        return square(info.size, info.pixel_aspect)
    return HD


def drawn_info(shot: Shot) -> SourceInfo | None:
    """What the lowest plate of a shot is, if it is drawn here; None for a font file that cannot be used."""
    try:
        return info_of(shot.footage.media, frame_size(shot))
    except TremorError:
        return None


def graphic_shot(plate: Plate, project: Project) -> Shot:
    """A shot of a title or a fill by itself: as large and fast as the reel is, or full HD at 24 frames a second."""
    size, rate = HD, str(vector_source.RATE)
    if project.shots:
        first = project.shots[0]
        try:
            info = infos(first)[0]
            size = (first.size.width, first.size.height) if first.size else info.size
            rate = first.rate or str(info.rate)
        except TremorError:
            pass  # lost footage: as if there were none
    return Shot(
        new_id(),
        plate.name,
        (plate,),
        end=vector_source.FRAMES / float(vector_source.RATE),
        size=Size(*size),
        rate=rate,
    )


def square(size: tuple[int, int], aspect: Fraction) -> tuple[int, int]:
    """A size in square pixels of the same height."""
    return (max(round(size[0] * aspect), 1), size[1])


def apply_media_settings(info: SourceInfo, media: Media) -> SourceInfo:
    """What a file shows as its plate says: numbered pictures have no rate of their own, and what colours are to alpha
    may be said otherwise than the file tells."""
    if media.rate is not None and is_pattern(media.path):
        info = _at_rate(info, media.rate)
    if media.alpha != "told" and info.alpha != "none":
        info = _with_alpha_handling(info, media.alpha)
    return _in_space(info, media.space) if media.space else info


@lru_cache(maxsize=64)
def _at_rate(info: SourceInfo, rate: str) -> SourceInfo:
    return replace(info, rate=parse_rate(rate))


@lru_cache(maxsize=64)
def _with_alpha_handling(info: SourceInfo, alpha: Held) -> SourceInfo:
    if alpha == "ignored":
        return replace(info, alpha="none", format=without_alpha(info.format), drawn=False)
    return replace(info, alpha="straight" if alpha == "straight" else "premultiplied")


def use_colour_settings(now: settings.Settings) -> bool:
    """Take colour spaces, and the view of the screen, from where the settings say; whether that is new."""
    return camera_spaces.use_configuration(now.colour_config, now.colour_view)


def colour_views() -> tuple[tuple[str, str], ...]:
    """The displays of the colour configuration, each with its views; RequestError where it cannot be read."""
    return camera_spaces.views()


def _in_space(info: SourceInfo, space: str) -> SourceInfo:
    tags = space_named(space).tags(info.colour)
    if not is_known(tags):
        use_colour_settings(settings.load())
        camera_spaces.check(tags.space)
    return _with_tags(info, tags)


@lru_cache(maxsize=64)
def _with_tags(info: SourceInfo, tags: ColourTags) -> SourceInfo:
    return replace(info, colour=tags)


def bounds(media: Media, size: tuple[int, int]) -> tuple[float, float, float, float]:
    """What of a picture of ``size`` is meant when it is outlined: all of it, or the text of a title; left, top, right
    and bottom in pixels."""
    if media.title is not None:
        return title_drawing.bounds(media.title, size)
    return (0.0, 0.0, float(size[0]), float(size[1]))


@lru_cache(maxsize=8)
def _nearness(path: str, stamp: tuple[int, ...], aspect: float) -> np.ndarray:
    source = open_source(path)
    try:
        return depth_map.of_frame(source.read(0), aspect)
    finally:
        source.close()


def nearness(path: str, aspect: float) -> np.ndarray:
    """How near a depth picture says points are, of its first frame: (rows, columns) 0…1. TremorError if it cannot be
    used."""
    return _nearness(path, identity(path).stamp, aspect)


def is_sequence(media: Media) -> bool:
    """Whether a plate shows numbered pictures."""
    return not media.drawn and is_pattern(media.path)


def is_picture(path: Path) -> bool:
    """Whether a file is a picture rather than a film, by its name."""
    return path.suffix.lower() in (*KINDS, *svg_drawing.KINDS)


def fit_graphic(plate: Plate, size: tuple[int, int]) -> Plate:
    """A graphic as it is laid over a picture of ``size``: pixel for pixel, or as large as fits if it is larger.
    TremorError if it cannot be used."""
    if plate.media.drawn:
        return plate
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
        size = frame_size(shot)
        for plate in shot.plates:
            opened.append(open_plate(plate, size))
    except BaseException:
        for source in opened:
            source.close()
        raise
    return opened


def open_media(media: Media, size: tuple[int, int]) -> FrameSource:
    """A new reader of a plate's picture, for the thread that calls; ``size``: see :func:`info_of`."""
    if media.drawn:
        return vector_source.open_drawn(media, size)
    source = open_source(media.path)
    if media.alpha == "ignored":
        source = _WithoutAlpha(source)
    return _OfSpace(source, media.space) if media.space else source


def open_plate(plate: Plate, size: tuple[int, int]) -> FrameSource:
    """The same with the plate's depth picture, if it is a file."""
    source = open_media(plate.media, size)
    if plate.depth is None or not plate.depth.path:
        return source
    try:
        return _WithDepth(source, open_source(plate.depth.path))
    except BaseException:
        source.close()
        raise


class _WithDepth:
    """A source whose pictures carry how near their points are, from another: still, or as far on as they are."""

    def __init__(self, source: FrameSource, depth: FrameSource) -> None:
        self._source, self._depth = source, depth
        self._last: tuple[int, np.ndarray] | None = None

    @property
    def info(self) -> SourceInfo:
        return self._source.info

    def read(self, index: int) -> Frame:
        return replace(self._source.read(index), near=self._near(index))

    def draw(self, scale: float) -> Frame:
        frame = self._source.draw(scale) if isinstance(self._source, DrawnSource) else self._source.read(0)
        return replace(frame, near=self._near(0))

    def _near(self, index: int) -> np.ndarray:
        depth, info = self._depth.info, self._source.info
        number = 0 if depth.still else min(int(index / info.rate * depth.rate + Fraction(1, 1000)), depth.frames - 1)
        if self._last is None or self._last[0] != number:
            aspect = info.size[0] * float(info.pixel_aspect) / info.size[1]
            self._last = number, depth_map.of_frame(self._depth.read(number), aspect)
        return self._last[1]

    def close(self) -> None:
        self._source.close()
        self._depth.close()


class _OfSpace:
    """Another source's pictures as ones of a colour space that its file does not tell."""

    def __init__(self, source: FrameSource, space: str) -> None:
        self._source, self._space = source, space
        self._last: tuple[Frame, Frame] | None = None  # what is made of a picture is kept as long as it is the same

    @property
    def info(self) -> SourceInfo:
        return _in_space(self._source.info, self._space)

    def read(self, index: int) -> Frame:
        return self._tagged(self._source.read(index))

    def draw(self, scale: float) -> Frame:
        return self._tagged(self._source.draw(scale) if isinstance(self._source, DrawnSource) else self._source.read(0))

    def _tagged(self, frame: Frame) -> Frame:
        if self._last is None or self._last[0] is not frame:
            self._last = frame, replace(frame, colour=space_named(self._space).tags(frame.colour))
        return self._last[1]

    def close(self) -> None:
        self._source.close()


class _WithoutAlpha:
    """Another source's pictures without their alpha."""

    def __init__(self, source: FrameSource) -> None:
        self._source = source

    @property
    def info(self) -> SourceInfo:
        return (
            _with_alpha_handling(self._source.info, "ignored")
            if self._source.info.alpha != "none"
            else self._source.info
        )

    def read(self, index: int) -> Frame:
        frame = self._source.read(index)
        if not frame.format.alpha:
            return frame
        return replace(frame, planes=frame.planes[: frame.format.colours], format=without_alpha(frame.format))

    def close(self) -> None:
        self._source.close()


def sound_of(shot: Shot, seconds: float) -> SoundTrack:
    """The sound that belongs to a shot of ``seconds``."""
    path = shot.footage.media.path
    if shot.footage.media.drawn:
        return SoundTrack(None, seconds)
    known = facts(path)
    if not known.sounds:
        return SoundTrack(None, seconds)
    whole = shot.start == 0 and (shot.end is None or shot.end >= known.info.seconds)
    return SoundTrack(Path(path), seconds, known.origin, shot.start, whole)


def sound_blocks(shot: Shot, start: float) -> Iterator[np.ndarray]:
    """Stereo sound of a shot from ``start`` seconds of it on, for playing: blocks (n, 2) float32 at 48 kHz."""
    path = shot.footage.media.path
    return audio_cache.blocks(path, shot.start + start, origin=facts(path).origin)


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
