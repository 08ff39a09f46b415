"""Projects opened, shots made."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace

from young_tremor.api import arguments
from young_tremor.api.arguments import FilePath, Rate, Size, Tell, existing
from young_tremor.api.checks import check_arguments
from young_tremor.api.requests import ShakeRequest, takes_request
from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.engine.analysis import subject
from young_tremor.engine.asking import holder_phrase, sentences
from young_tremor.engine.asking.sentences import place_of
from young_tremor.engine.delivery import actions, batch, timelines
from young_tremor.engine.library import takes
from young_tremor.engine.library.holders import with_holder
from young_tremor.engine.sound import sound_presets
from young_tremor.model import shot_edits
from young_tremor.model.project import Preset, Project, Shot
from young_tremor.model.reel_edits import another
from young_tremor.model.shake import Shake

MOST_FOLLOWED = (1.0, 40.0)  # percent of the frame's height
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
    paths = [existing(item, pictures=True) for item in inputs]
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
@takes_request(ShakeRequest)
def shake(media: FilePath, *, request: ShakeRequest, tell: Tell = arguments.silent) -> Shot:
    """A shot of a film, a picture or numbered pictures, given a shake. See :class:`ShakeRequest` for all that can be
    asked for."""
    moves, chosen = tuple(request.move), _moved_by(request, tell)
    path, rate = existing(media, pictures=True), arguments.rate_of(request.fps)
    preset = arguments.adjust_preset(chosen, request.amount, request.pace, request.seed)
    if request.course:
        preset = replace(preset, shake=another(preset.shake, request.course))
    shot = actions.one_shot(
        path,
        preset,
        edges=request.edges,
        shutter=request.shutter,
        focal_mm=request.focal_mm,
        size=arguments.size_of(request.size),
        rate=rate,
        seconds=None if request.seconds is None else arguments.seconds_of(request.seconds, rate or Fraction(24)),
        over=tuple(existing(graphic, pictures=True) for graphic in request.over),
        on_glass=tuple(existing(graphic, pictures=True) for graphic in request.on_glass),
    )
    shot = batch.in_colours(shot, request.in_space, request.white, request.peak)
    shot = batch.from_to(shot, arguments.time_text(request.start), arguments.time_text(request.end))
    shot = _moving(shot, moves, request, tell)
    for text in request.set:
        shot = sentences.with_setting(shot, text)
    if request.hits is None and request.saved is not None:
        shot = replace(shot, hits=actions.saved_hits(arguments.path_of(request.saved)))
    shot = batch.with_hits(shot, request.hits, chosen.name)
    if batch.is_still(shot):
        tell(f"Nothing moves in {path.name}: what was asked for comes to no motion.")
    return sound_presets.add_sounds(
        shot,
        chosen,
        together=request.sound,
        rumble=tuple(request.rumble),
        knocks=tuple(request.knocks),
        sway=request.sound_sway,
    )


def _moved_by(request: ShakeRequest, tell: Tell) -> Preset:
    """What moves the shot besides the motions that are said; nothing where only these are."""
    for text in request.move:
        sentences.read_motion(text, Fraction(24))  # what is no motion is refused before anything is opened
    named = (request.preset, request.take, request.saved)
    if request.holder:
        holder_phrase.read(request.holder)
        if any(item is not None for item in named):
            raise RequestError(
                "A holder moves the shot in place of a preset, a take or a saved shake: give one of them."
            )
        return STILL
    if (any(request.move) or request.follow is not None) and all(item is None for item in named):
        return STILL
    use = takes.TakeUse(request.mirror, takes.gains_of(request.gains), request.part == "shake", request.after)
    if use != takes.TakeUse() and request.take is None:
        raise RequestError("Mirror, gain, part and after say how a take is used: name a take too.")
    return arguments.moved_by(*named, request.focal_mm, tell, use)


def _moving(shot: Shot, moves: tuple[str, ...], request: ShakeRequest, tell: Tell) -> Shot:
    """A shot with the holder and the motions that are said, in the shape and the stretch that are said."""
    if request.holder:
        shot = _hold(shot, request)
    if moves:
        shot = _with_moves(shot, moves, request, tell)
    if request.follow is not None:
        shot = _following(shot, request.follow)
    if request.shape:
        shot = sentences.with_shape(shot, request.shape)
    start, end = arguments.time_text(request.motion_start), arguments.time_text(request.motion_end)
    return batch.acting(shot, start, end)


def _following(shot: Shot, percent: float) -> Shot:
    """A shot with a strand that goes after what moves in it."""
    if not MOST_FOLLOWED[0] <= percent <= MOST_FOLLOWED[1]:
        raise UnreadableValue(f"Following by {percent:g} % cannot be done: give 1 to 40 % of the frame's height.")
    path = subject.find_path(shot, arguments.silent)
    strand = subject.strand_of(path, percent / 100)
    return replace(shot, shake=shot_edits.put_strand(shot.shake, strand))


def _hold(shot: Shot, request: ShakeRequest) -> Shot:
    """A shot with the holder that is said, multiplied as is asked."""
    shot = with_holder(shot, holder_phrase.read(request.holder), place_of(shot).seconds or 0.0)
    shake = actions.adjust_shake(shot.shake, amount=request.amount, pace=request.pace, seed=request.seed)
    return replace(shot, shake=shake)


def _with_moves(shot: Shot, texts: tuple[str, ...], request: ShakeRequest, tell: Tell) -> Shot:
    """A shot with the motions of some sentences, besides what moves it already, multiplied as is asked."""
    place = sentences.place_of(shot)
    moved = sentences.preset_of(texts, height=place.size[1], rate=place.rate, seconds=place.seconds)
    for words in filter(None, (sentences.miss_words(strand, place) for strand in moved.shake.strands)):
        tell(words)
    moved = arguments.adjust_preset(moved, request.amount, request.pace, request.seed)
    if request.course:
        moved = replace(moved, shake=another(moved.shake, request.course))
    shot = replace(shot, hits=(*shot.hits, *sentences.hits_of(moved.shake.strands)))
    if not shot.shake.strands:
        return replace(shot, shake=moved.shake)
    return replace(shot, shake=replace(shot.shake, strands=(*shot.shake.strands, *moved.shake.strands)))


@check_arguments
def framing(shot: Shot, name: str) -> str:
    """What the edges of a shot cost, in a sentence about the film of that name."""
    return batch.framing_words(shot, name)
