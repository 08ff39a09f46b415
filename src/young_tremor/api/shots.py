"""Projects opened, shots made."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace

from young_tremor.api import arguments
from young_tremor.api.arguments import FilePath, Rate, Size, Tell, Time, existing
from young_tremor.api.checks import check_arguments
from young_tremor.base.errors import RequestError
from young_tremor.engine.delivery import actions, batch, timelines
from young_tremor.engine.sound import sound_presets
from young_tremor.model.project import Preset, Project, Shot
from young_tremor.model.reel_edits import another
from young_tremor.model.shake import Shake
from young_tremor.model.take import Take

STILL = Preset("Still", "", "Nothing moves.", Shake())


@check_arguments
def open(
    path: FilePath, *, preset: str | Preset | None = None, fps: Rate | None = None, tell: Tell = arguments.silent
) -> Project:
    """A project from a ``.tremor`` file; from a timeline (``.otio``, ``.otioz``, ``.edl``) as a reel; from footage, a
    picture or numbered pictures as a reel of one shot.

    ``preset`` moves the shots of the last two, each in a course of its own; they are still without one. ``fps``: of an
    EDL, which does not say it (24), and the rate of the reel otherwise. TremorError where it cannot be opened.
    """
    whole = existing(path, pictures=True)
    if whole.suffix.lower() == ".tremor":
        return actions.open_project(whole)
    return reel((whole,), preset=preset, fps=fps, tell=tell)


@check_arguments
def reel(
    inputs: Iterable[FilePath],
    *,
    preset: str | Preset | None = None,
    size: Size | None = None,
    fps: Rate | None = None,
    tell: Tell = arguments.silent,
) -> Project:
    """A project of films, pictures and sequences in order, or of one timeline, each shot in a course of its own."""
    paths = [existing(each, pictures=True) for each in inputs]
    moved = STILL if preset is None else arguments.preset_of(preset)
    if not any(timelines.is_timeline(path) for path in paths):
        return batch.make_reel(tuple(paths), moved, size=arguments.size_of(size), rate=arguments.rate_of(fps))
    if len(paths) > 1:
        raise RequestError("A reel is made of one timeline, or of footage: give one of them.")
    project, notes = timelines.open_timeline(paths[0], moved, fps=arguments.rate_of(fps))
    for note in notes:
        tell(note)
    return batch.delivered_as(project, arguments.size_of(size), None)


@check_arguments
def save(project: Project, output: FilePath, *, overwrite: bool = False) -> Path:
    """Write a project where none is yet; its file. The version before is kept beside it where it is replaced."""
    path = arguments.path_of(output)
    batch.write_project(project, path, overwrite=overwrite)
    return path


@check_arguments
def shake(
    media: FilePath,
    *,
    preset: str | Preset | None = None,
    take: FilePath | Take | None = None,
    saved: FilePath | None = None,
    amount: float = 1.0,
    pace: float = 1.0,
    seed: int | None = None,
    course: int = 0,
    hits: str | None = None,
    edges: str = "crop",
    shutter: float = 180.0,
    focal_mm: float | None = None,
    size: Size | None = None,
    fps: Rate | None = None,
    seconds: Time | None = None,
    start: Time | None = None,
    end: Time | None = None,
    over: Iterable[FilePath] = (),
    on_glass: Iterable[FilePath] = (),
    sound: bool = False,
    rumble: Iterable[str] = (),
    knocks: Iterable[str] = (),
    sound_sway: float = 0.0,
    tell: Tell = arguments.silent,
) -> Shot:
    """A shot of a film, a picture or numbered pictures, given a shake: by a ``preset`` (“Standing, breathing” where
    nothing is said), a measured ``take``, or a ``saved`` shake.

    Parameters
    ----------
    amount, pace : float
        Multiply how much and how fast; amount 0 is still.
    seed, course : int
        Another course of the same motion: by a seed, or as the one of so many that differ.
    hits : str
        When blows fall, in the input's time: seconds with a strength if wanted ("1.2,3.5@0.6"), or "sound" or
        "picture": found there. UnreadableValue for one outside of the stretch that is written.
    edges : str
        "crop", "crop-as-needed", "soft", "mirror", "hold", "repeat" or "open".
    shutter : float
        Degrees, 0 to 720.
    focal_mm : float
        For a sensor 36 mm wide; the preset's if left out.
    size, fps
        As delivered; the input's if left out.
    seconds, start, end
        How long (5 s of a still), and from where to where in the input.
    over, on_glass
        Graphics over it that shake along, and some that stand still.
    sound, rumble, knocks, sound_sway
        The sound that belongs to the preset; others by name, with @dB; ± dB by which the footage's own trembles.
    """
    chosen = arguments.moved_by(preset, take, saved, focal_mm, tell)
    graphics = [tuple(existing(each, pictures=True) for each in some) for some in (over, on_glass)]
    path, rate = existing(media, pictures=True), arguments.rate_of(fps)
    new_preset = arguments.adjust_preset(chosen, amount, pace, seed)
    if course:
        new_preset = replace(new_preset, shake=another(new_preset.shake, course))
    shot = actions.one_shot(
        path,
        new_preset,
        edges=edges,  # type: ignore[arg-type]
        shutter=shutter,
        focal_mm=focal_mm,
        size=arguments.size_of(size),
        rate=rate,
        seconds=None if seconds is None else arguments.seconds_of(seconds, rate or Fraction(24)),
        over=graphics[0],
        on_glass=graphics[1],
    )
    shot = batch.from_to(shot, arguments.time_text(start), arguments.time_text(end))
    shot = batch.with_hits(shot, hits, chosen.name)
    if batch.is_still(shot):
        tell(f"Nothing moves in {path.name}: what was asked for comes to no motion.")
    return sound_presets.add_sounds(
        shot, chosen, together=sound, rumble=tuple(rumble), knocks=tuple(knocks), sway=sound_sway
    )


@check_arguments
def framing(shot: Shot, name: str) -> str:
    """What the edges of a shot cost, in a sentence about the film of that name."""
    return batch.framing_words(shot, name)
