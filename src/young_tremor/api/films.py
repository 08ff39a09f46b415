"""Films, pictures and sounds written."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from contextlib import nullcontext
from functools import partial
from pathlib import Path

from young_tremor.api import arguments
from young_tremor.api.arguments import FilePath, Rate, Report, Size, Tell, Time
from young_tremor.api.checks import check_arguments
from young_tremor.base.errors import RequestError
from young_tremor.engine.delivery import actions, batch, delivery_plan, timelines
from young_tremor.engine.delivery.cluster import Cluster
from young_tremor.engine.sound import stems as written_sounds
from young_tremor.model.project import Project, Shot


@check_arguments
def render(
    what: Shot | Project | Iterable[Shot],
    output: FilePath,
    *,
    shot: str | None = None,
    clean: FilePath | None = None,
    form: str = "h264",
    size: Size | None = None,
    fps: Rate | None = None,
    start: Time | None = None,
    end: Time | None = None,
    loudness: float | None = None,
    overwrite: bool = False,
    tell: Tell = arguments.silent,
    report: Report = arguments.silent,
) -> None:
    """Write shots in their order as one film; ``clean``: also the same stretch without shake and crop.

    Of a project the reel, or one ``shot`` of it by its name, in another ``size`` and rate if wanted, from ``start`` to
    ``end``. Everything is checked before the first frame. ``loudness``: what its sound is levelled to, in LUFS.
    """
    path = arguments.path_of(output)
    outputs = (path,) if clean is None else (path, arguments.path_of(clean))
    shots = arguments.shots_of(what, shot, size, fps, start, end)
    level = arguments.level_of(loudness)
    for note in actions.check(outputs, form, shots, overwrite=overwrite):
        tell(note)
    for number, each in enumerate(outputs):
        actions.render(
            shots,
            each,
            partial(report, each.name),
            codec_name=form,
            overwrite=overwrite,
            shaken=number == 0,
            loudness=level if number == 0 else None,
        )


@check_arguments
def render_each(
    project: Project,
    folder: FilePath,
    *,
    shot: str | None = None,
    pattern: str = "{number} {shot}",
    name: str = "project",
    form: str = "h264",
    size: Size | None = None,
    fps: Rate | None = None,
    start: Time | None = None,
    end: Time | None = None,
    loudness: float | None = None,
    overwrite: bool = False,
    tell: Tell = arguments.silent,
    report: Report = arguments.silent,
) -> tuple[Path, ...]:
    """Write every shot of a project (or the one named) as a film by itself; the films."""
    shots = arguments.shots_of(project, shot, size, fps, start, end, each=True)
    names = [
        delivery_plan.expand_pattern(pattern, project=name, shot=one.name, variant=one.variant, number=number)
        for number, one in enumerate(shots, start=1)
    ]
    paths = batch.named_in(arguments.path_of(folder), names, form)
    for one, path in zip(shots, paths, strict=True):
        render(one, path, form=form, loudness=loudness, overwrite=overwrite, tell=tell, report=report)
    return paths


@check_arguments
def deliver(
    project: Project | Iterable[tuple[str, Project]],
    folder: FilePath,
    *,
    form: str = "h264",
    shot: str | None = None,
    each: bool = False,
    variants: bool = False,
    pattern: str = "",
    name: str = "project",
    handles: int = 0,
    clean: bool = False,
    frames: tuple[int, int] | None = None,
    stems: Iterable[str] = (),
    quality: int = 3,
    speed: int = 2,
    everywhere: bool = False,
    full_chroma: bool = False,
    hardware: bool = False,
    motion: bool = False,
    maps: bool = False,
    loudness: float | None = None,
    timeline: FilePath | None = None,
    timeline_start: str = "",
    overwrite: bool = False,
    cluster: str = "",
    tell: Tell = arguments.silent,
    report: Report = arguments.silent,
    written: Callable[[str, Path], None] = arguments.silent,
) -> tuple[Path, ...]:
    """Write films, numbered pictures and what goes beside them, of one project or of several with their names; the
    files. Everything is checked before the first frame; ``written`` is called after each.

    Parameters
    ----------
    shot, each, variants
        One shot by its name, every shot by itself, each variant by itself; the whole reel otherwise.
    pattern : str
        Names by {project}, {shot}, {variant}, {number} and {date}.
    handles : int
        Frames beyond a shot's ends.
    clean : bool
        Each also without shake and crop.
    frames : (int, int)
        Of numbered pictures only those from the first to the last; what is there stays.
    stems : iterable of str
        Sounds by their names, as WAV beside the film.
    quality, speed : int
        1 small to 5 best; 1 small files to 3 quick.
    everywhere, full_chroma, hardware : bool
        As every player knows it; with the pictures' own chroma (4:4:4 of graphics), which not all players know; by an
        encoder in the graphics hardware, where one works.
    motion, maps : bool
        The motion as CSV, the ST maps beside each film.
    loudness : float
        LUFS that the sound is levelled to.
    timeline : path
        Also the cut (``.otio``, ``.edl``) with the films in place; with ``each``.
    timeline_start : str
        The timecode at which that cut begins; 01:00:00:00 if left out.
    cluster : str
        The address of a Dask scheduler (``tcp://HOST:8786``) whose workers render, or ``local``: all cores of this
        machine. The files are the same, byte for byte.
    """
    if frames is not None and not actions.is_numbered(form):
        raise RequestError("Parts are of numbered pictures: choose the form png, tiff or exr.")
    many = [(name, project)] if isinstance(project, Project) else list(project)
    cut = None if timeline is None else arguments.path_of(timeline)
    if cut is not None and (len(many) > 1 or not each):
        raise RequestError("A timeline is written of one project whose shots are delivered each by itself.")
    if cut is not None:
        timelines.check(cut, overwrite=overwrite)
    deliveries: list[delivery_plan.Delivery] = []
    for called, one in many:
        deliveries += delivery_plan.plan_deliveries(
            one,
            form=form,
            folder=arguments.path_of(folder),
            pattern=pattern,
            each=each,
            shot=shot,
            name=called,
            handles=handles,
            clean=clean,
            variants=variants,
            frames=frames,
            overwrite=overwrite,
            resume=frames is not None and not overwrite,
            loudness=arguments.level_of(loudness),
            stems=tuple(stems),
            how=actions.EncodingChoice(quality, speed, everywhere, full_chroma, hardware),
            motion=motion,
            maps=maps,
        )
    for note in delivery_plan.check(tuple(deliveries)):
        tell(note)
    with Cluster(cluster) if cluster else nullcontext() as workers:
        for delivery in deliveries:
            render = workers.render if workers is not None else actions.render
            delivery_plan.run(delivery, partial(report, delivery.name), render)
            written(delivery.name, delivery.path)
    if cut is not None:
        timelines.write(many[0][1], tuple(deliveries), cut, name=many[0][0], overwrite=overwrite, record=timeline_start)
    return tuple(delivery.path for delivery in deliveries)


@check_arguments
def sound(
    what: Shot | Project | Iterable[Shot],
    output: FilePath,
    *,
    shot: str | None = None,
    stem: str | None = None,
    loudness: float | None = None,
    overwrite: bool = False,
) -> str:
    """Write what is heard, or one ``stem`` of it by its name, as WAV of 24 bits; how loud it is, in words."""
    shots, path, level = arguments.named_of(what, shot), arguments.path_of(output), arguments.level_of(loudness)
    if not shots:
        raise RequestError("The project has no shots: nothing is heard of it.")
    return written_sounds.write(shots, path, stem=stem, loudness=level, overwrite=overwrite)
