"""Films, pictures and sounds written."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from contextlib import nullcontext
from functools import partial
from pathlib import Path

from young_tremor.api import arguments
from young_tremor.api.arguments import FilePath, Report, Tell
from young_tremor.api.checks import check_arguments
from young_tremor.api.requests import DeliverRequest, FilmRequest, takes_request
from young_tremor.base.errors import RequestError
from young_tremor.engine.delivery import actions, batch, delivery_plan, timelines
from young_tremor.engine.delivery.cluster import Cluster
from young_tremor.engine.sound import stems as written_sounds
from young_tremor.model.project import Project, Shot


@check_arguments
@takes_request(FilmRequest)
def render(
    what: Shot | Project | Iterable[Shot],
    output: FilePath,
    *,
    clean: FilePath | None = None,
    request: FilmRequest,
    tell: Tell = arguments.silent,
    report: Report = arguments.silent,
) -> None:
    """Write shots in their order as one film; ``clean``: also the same stretch without shake and crop. See
    :class:`FilmRequest` for what can be asked for of a project. Everything is checked before the first frame."""
    path = arguments.path_of(output)
    outputs = (path,) if clean is None else (path, arguments.path_of(clean))
    shots = arguments.shots_of(what, request)
    level = arguments.level_of(request.loudness)
    how = actions.EncodingChoice(space=request.out_space, light_level=request.light_level)
    for note in actions.check(outputs, request.form, shots, overwrite=request.overwrite, how=how):
        tell(note)
    for number, target in enumerate(outputs):
        actions.render(
            shots,
            target,
            partial(report, target.name),
            codec_name=request.form,
            how=how,
            overwrite=request.overwrite,
            shaken=number == 0,
            loudness=level if number == 0 else None,
        )


@check_arguments
@takes_request(FilmRequest)
def render_each(
    project: Project,
    folder: FilePath,
    *,
    pattern: str = "{number} {shot}",
    name: str = "project",
    request: FilmRequest,
    tell: Tell = arguments.silent,
    report: Report = arguments.silent,
) -> tuple[Path, ...]:
    """Write every shot of a project (or the one named) as a film by itself; the films."""
    shots = arguments.shots_of(project, request, each=True)
    names = [
        delivery_plan.expand_pattern(pattern, project=name, shot=shot.name, variant=shot.variant, number=number)
        for number, shot in enumerate(shots, start=1)
    ]
    paths = batch.named_in(arguments.path_of(folder), names, request.form)
    alike = FilmRequest(
        form=request.form,
        loudness=request.loudness,
        out_space=request.out_space,
        light_level=request.light_level,
        overwrite=request.overwrite,
    )
    for shot, path in zip(shots, paths, strict=True):
        render(shot, path, request=alike, tell=tell, report=report)
    return paths


@check_arguments
@takes_request(DeliverRequest)
def deliver(
    project: Project | Iterable[tuple[str, Project]],
    folder: FilePath,
    *,
    name: str = "project",
    request: DeliverRequest,
    tell: Tell = arguments.silent,
    report: Report = arguments.silent,
    written: Callable[[str, Path], None] = arguments.silent,
) -> tuple[Path, ...]:
    """Write films, numbered pictures and what goes beside them, of one project or of several with their names; the
    files. See :class:`DeliverRequest` for all that can be asked for. Everything is checked before the first frame;
    ``written`` is called after each."""
    if request.frames is not None and not actions.is_numbered(request.form):
        raise RequestError("Parts are of numbered pictures: choose the form png, tiff or exr.")
    many = [(name, project)] if isinstance(project, Project) else list(project)
    cut = None if request.timeline is None else arguments.path_of(request.timeline)
    if cut is not None and (len(many) > 1 or not request.each):
        raise RequestError("A timeline is written of one project whose shots are delivered each by itself.")
    if cut is not None:
        timelines.check(cut, overwrite=request.overwrite)
    deliveries = tuple(
        delivery
        for title, document in many
        for delivery in _planned(document, title, arguments.path_of(folder), request)
    )
    for note in delivery_plan.check(deliveries):
        tell(note)
    with Cluster(request.cluster) if request.cluster else nullcontext() as workers:
        for delivery in deliveries:
            render = workers.render if workers is not None else actions.render
            delivery_plan.run(delivery, partial(report, delivery.name), render)
            written(delivery.name, delivery.path)
    if cut is not None:
        title, document = many[0]
        timelines.write(
            document, deliveries, cut, name=title, overwrite=request.overwrite, record=request.timeline_start
        )
    return tuple(delivery.path for delivery in deliveries)


def _planned(project: Project, name: str, folder: Path, request: DeliverRequest) -> tuple[delivery_plan.Delivery, ...]:
    scope = delivery_plan.Scope(
        each=request.each, shot=request.shot, handles=request.handles, variants=request.variants
    )
    return delivery_plan.plan_deliveries(
        project,
        scope,
        delivery_plan.Naming(folder, request.pattern, name),
        form=request.form,
        clean=request.clean,
        frames=request.frames,
        overwrite=request.overwrite,
        resume=request.frames is not None and not request.overwrite,
        loudness=arguments.level_of(request.loudness),
        stems=tuple(request.stems),
        how=actions.EncodingChoice(
            request.quality,
            request.speed,
            request.everywhere,
            request.full_chroma,
            request.hardware,
            request.out_space,
            request.light_level,
        ),
        motion=request.motion,
        camera=request.camera,
        maps=request.maps,
    )


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
