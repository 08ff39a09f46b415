"""The reel: where its shots lie in its time, what of its spans lies over each, and how it is delivered."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property, lru_cache

from msgspec.structs import replace

from young_tremor.base.errors import TremorError, UnknownName
from young_tremor.base.frames import SourceInfo
from young_tremor.base.units import parse_rate
from young_tremor.engine.media import footage
from young_tremor.model.project import Media, Over, Project, Shot, Size

Know = Callable[[Media], SourceInfo | None]
LOST = 5.0  # seconds that a shot takes whose footage is not known


@dataclass(frozen=True)
class PlacedShot:
    """A shot in the reel: its first frame and how many it has, at the reel's rate; ``at`` in seconds."""

    shot: Shot
    first: int
    frames: int
    rate: Fraction

    @cached_property
    def at(self) -> float:
        """The seconds of the reel at which it begins."""
        return float(self.first / self.rate)

    @cached_property
    def end(self) -> float:
        """The seconds of the reel at which it ends."""
        return float((self.first + self.frames) / self.rate)


def try_info(media: Media) -> SourceInfo | None:
    """What a plate's picture is; None where it cannot be read."""
    try:
        return footage.info_of(media, footage.HD)
    except TremorError:
        return None


def seconds_of(shot: Shot, info: SourceInfo | None) -> float:
    """How long a shot is, of which the lowest plate's facts are known, or not."""
    if info is None:
        return max((shot.end or shot.start + LOST) - shot.start, 0.04)
    end = info.seconds if shot.end is None else shot.end if info.still else min(shot.end, info.seconds)
    return max(end - shot.start, 0.04)


def rate_of(project: Project, know: Know = try_info) -> Fraction:
    """Frames a second of the reel: as set, or its first shot's."""
    if project.rate is not None:
        return parse_rate(project.rate)
    for shot in project.shots[:1]:
        if shot.rate is not None:
            return parse_rate(shot.rate)
        info = know(shot.footage.media)
        if info is not None:
            return info.rate
    return Fraction(24)


def size_of(project: Project, know: Know = try_info) -> Size:
    """The reel's delivery size: as set, or its first shot's."""
    if project.size is not None:
        return project.size
    for shot in project.shots[:1]:
        if shot.size is not None:
            return shot.size
        info = know(shot.footage.media)
        if info is not None:
            return Size(*info.size, str(info.pixel_aspect))
    return Size(*footage.HD)


def place_shots(project: Project, know: Know = try_info) -> tuple[PlacedShot, ...]:
    """The shots one after the other, each of as many whole frames of the reel as it is delivered in."""
    rate, at, out = rate_of(project, know), 0, []
    for shot in project.shots:
        frames = _frames(seconds_of(shot, know(shot.footage.media)), rate)
        out.append(PlacedShot(shot, at, frames, rate))
        at += frames
    return tuple(out)


@lru_cache(maxsize=4096)
def _frames(seconds: float, rate: Fraction) -> int:
    return max(1, math.floor(Fraction(seconds).limit_denominator(10**6) * rate + Fraction(1, 1000)))


def under_spans(project: Project, each: PlacedShot) -> Shot:
    """A shot with the spans that lie over any of it."""
    over = tuple(Over(s, each.at) for s in project.spans if s.on and s.start < each.end and s.end > each.at)
    return replace(each.shot, over=over) if over else each.shot


def find_shot(project: Project, name: str) -> Shot:
    """The shot of a name, or of an id. UnknownName if there is none."""
    for shot in project.shots:
        if name == shot.id or name.casefold() == shot.name.casefold():
            return shot
    names = ", ".join(f"“{shot.name}”" for shot in project.shots) or "none"
    raise UnknownName(f"There is no shot “{name}” in the project: it has {names}.")


def viewed_shot(project: Project, shot_id: str, know: Know = try_info) -> Shot:
    """A shot as it is looked at: with the spans over it. KeyError if it is gone."""
    if not project.spans:
        return project.shot(shot_id)
    return under_spans(project, next(place for place in place_shots(project, know) if place.shot.id == shot_id))


def delivered_shots(project: Project, know: Know = try_info) -> tuple[Shot, ...]:
    """All shots as the reel delivers them: its size and rate, the spans over them, each cut to whole frames of it."""
    size, out = size_of(project, know), []
    for place in place_shots(project, know):
        shot = under_spans(project, place)
        out.append(replace(shot, size=size, rate=str(place.rate)))
    return tuple(out)


def at_frame(places: tuple[PlacedShot, ...], frame: int) -> tuple[PlacedShot, int] | None:
    """The shot at a frame of the reel, and which frame of it that is, at the reel's rate; the last one's last frame
    past the end; None in an empty reel."""
    for place in places:
        if frame < place.first + place.frames:
            return place, max(frame - place.first, 0)
    return (places[-1], places[-1].frames - 1) if places else None
