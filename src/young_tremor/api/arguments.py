"""What the functions of the library share: how a request is written, and where it is refused."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from fractions import Fraction
from pathlib import Path
from typing import Protocol

from young_tremor.api.checks import check_arguments
from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.base.units import parse_rate, parse_size, parse_time
from young_tremor.engine.analysis import reel_layout as reels
from young_tremor.engine.delivery import actions, batch
from young_tremor.engine.library import preset_library, takes
from young_tremor.engine.media import naming
from young_tremor.engine.media.naming import FilePath, path_of
from young_tremor.model.project import Preset, Project, Shot
from young_tremor.model.take import Take

Time = float | str
Size = tuple[int, int] | str
Rate = float | Fraction | str
Tell = Callable[[str], None]
Report = Callable[[str, int, int], None]
LEVELS = (-40.0, -5.0)  # LUFS that sound may be levelled to


def silent(*told: object) -> None:
    """Whoever does not listen."""


@check_arguments
def existing(path: FilePath, *, pictures: bool = False) -> Path:
    """A file that has to be there, refused otherwise; ``pictures``: also a pattern or a folder of numbered ones."""
    return naming.existing(path, pictures=pictures)


def preset_of(preset: str | Preset) -> Preset:
    """A preset, found by its name if need be."""
    return preset_library.preset(preset) if isinstance(preset, str) else preset


def moved_by(
    preset: str | Preset | None,
    take: FilePath | Take | None,
    saved: FilePath | None,
    focal_mm: float | None,
    tell: Tell,
    use: takes.TakeUse = takes.TakeUse(),
) -> Preset:
    """What moves a shot: a preset, a take or a saved shake, the usual preset where nothing is said."""
    if sum(item is not None for item in (preset, take, saved)) > 1:
        raise RequestError("Give a preset, a take or a saved shake, only one of them.")
    focal(focal_mm)
    if take is not None:
        read = take if isinstance(take, Take) else takes.read(existing(take))
        if words := takes.gap_words(read):
            tell(words)
        return takes.preset_of(read, focal_mm, use)
    if saved is not None:
        return actions.saved_shake(path_of(saved))
    return preset_of(preset_library.DEFAULT_PRESET if preset is None else preset)


def adjust_preset(preset: Preset, amount: float, pace: float, seed: int | None) -> Preset:
    """A preset multiplied, in another course if one is said."""
    return Preset(
        preset.name,
        preset.group,
        preset.note,
        actions.adjust_shake(preset.shake, amount=amount, pace=pace, seed=seed),
        preset.focal_mm,
    )


def focal(mm: float | None) -> None:
    """Refuse a focal length that no lens has."""
    if mm is not None and not 1 <= mm <= 1e5:
        raise RequestError(f"A focal length of {mm:g} mm cannot be used: give 1 mm or more.")


def level_of(value: float | None) -> float | None:
    """A loudness in LUFS; UnreadableValue for one that nothing is delivered at."""
    if value is not None and not LEVELS[0] <= value <= LEVELS[1]:
        raise UnreadableValue(f"A loudness of {value:g} LUFS cannot be used: give {LEVELS[0]:g} to {LEVELS[1]:g}.")
    return value


def size_of(size: Size | None) -> tuple[int, int] | None:
    """Width and height in pixels."""
    return parse_size(size) if isinstance(size, str) else size


def rate_of(rate: Rate | None) -> Fraction | None:
    """Frames a second."""
    return None if rate is None else parse_rate(str(rate))


def seconds_of(value: Time, rate: Fraction) -> float:
    """A time in seconds; a timecode is of ``rate``."""
    return parse_time(value, rate) if isinstance(value, str) else float(value)


def time_text(value: Time | None) -> str | None:
    """A time as text, for what reads it by the rate of its footage."""
    return None if value is None else value if isinstance(value, str) else repr(float(value))


def one_of(project: Project, name: str | None) -> Shot:
    """A shot of a project by its name, the first if none is said."""
    shots = actions.pick_shots(project, name)
    if not shots:
        raise RequestError("The project has no shots: nothing moves in it.")
    return shots[0]


def named_of(what: Shot | Project | Iterable[Shot], name: str | None) -> tuple[Shot, ...]:
    """Shots as they are, or those of a project: its reel, or the one of a name."""
    if isinstance(what, Project):
        return actions.pick_shots(what, name)
    return (what,) if isinstance(what, Shot) else tuple(what)


class ShotChoice(Protocol):
    """Which shots of a project are meant, in which size and rate, from where to where."""

    @property
    def shot(self) -> str | None: ...
    @property
    def size(self) -> Size | None: ...
    @property
    def fps(self) -> Rate | None: ...
    @property
    def start(self) -> Time | None: ...
    @property
    def end(self) -> Time | None: ...


def shots_of(what: Shot | Project | Iterable[Shot], stretch: ShotChoice, *, each: bool = False) -> tuple[Shot, ...]:
    """The shots of a stretch, in another size and rate; RequestError where these are asked of bare shots."""
    if not isinstance(what, Project):
        asked = (stretch.shot, stretch.size, stretch.fps, stretch.start, stretch.end)
        if any(value is not None for value in asked):
            raise RequestError("Shots have a size, a rate and ends of their own: say others when they are made.")
        return named_of(what, None)
    project = batch.delivered_as(what, size_of(stretch.size), rate_of(stretch.fps))
    rate = reels.rate_of(project)
    first, last = (None if value is None else seconds_of(value, rate) for value in (stretch.start, stretch.end))
    return batch.stretch(project, stretch.shot, first, last, each=each)
