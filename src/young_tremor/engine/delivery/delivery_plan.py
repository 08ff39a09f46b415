"""Deliveries: what is written, where, in which form. Checked as a whole before the first frame, then one by one."""

from __future__ import annotations

import shutil
import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from string import Formatter

from msgspec.structs import replace

from young_tremor.base import files
from young_tremor.base.errors import ExistingFile, RequestError, UnreadableValue, from_os
from young_tremor.engine.analysis import reel_layout
from young_tremor.engine.delivery import actions, batch, interchange
from young_tremor.engine.library import takes
from young_tremor.engine.media import footage
from young_tremor.engine.sound import mixing, stems
from young_tremor.media.codecs import USUAL, EncodingChoice, codec
from young_tremor.media.picture_writer import name_of
from young_tremor.model import reel_edits
from young_tremor.model.project import Project, Shot
from young_tremor.render.plan import Plan
from young_tremor.render.resolve_plan import resolve

FIELDS = ("project", "shot", "variant", "number", "date")
Report = Callable[[int, int], None]
Render = Callable[..., tuple[str, ...]]  # as actions.render


@dataclass(frozen=True)
class Delivery:
    """One entry: shots one after the other into ``path``. ``clean``: without shake and crop. ``stems``: the names of
    sounds that go beside it as WAV; ``motion``, ``camera`` and ``maps``: its motion as CSV, as a camera in USD, and
    its ST maps besides, of one shot. The shots are as they were when it was made."""

    name: str
    shots: tuple[Shot, ...]
    path: Path
    form: str
    clean: bool = False
    frames: tuple[int, int] | None = None
    overwrite: bool = False
    resume: bool = False
    loudness: float | None = None
    stems: tuple[str, ...] = ()
    how: EncodingChoice = USUAL
    motion: bool = False
    camera: bool = False
    maps: bool = False

    @property
    def motion_path(self) -> Path:
        """Where its motion goes, as CSV."""
        return self.path.with_name(f"{self.path.stem} motion.csv")

    @property
    def camera_path(self) -> Path:
        """Where its camera goes, as USD."""
        return self.path.with_name(f"{self.path.stem} camera.usda")

    @property
    def maps_path(self) -> Path:
        """Where its ST maps go, as a pattern of names."""
        return self.path.with_name(f"{self.path.stem} st.####.exr")

    @property
    def motion_files(self) -> tuple[Path, ...]:
        """What of its motion is still to be written beside it, of the ST maps the first."""
        tables = ((self.motion_path, self.motion), (self.camera_path, self.camera))
        due = [path for path, on in tables if on and not self.is_finished(path)]
        maps = [name_of(self.maps_path, 1)] if self.maps else []  # that the first is there says nothing of the last
        return () if self.clean else (*due, *maps)

    def is_finished(self, path: Path) -> bool:
        """Whether a file beside it is there already and stays: where it is resumed."""
        return self.resume and path.exists()

    def stem_path(self, name: str) -> Path:
        """Where a sound of it goes."""
        return self.path.with_name(files.plain_name(f"{self.path.stem} {name}", ".wav"))


def expand_pattern(pattern: str, *, project: str, shot: str, variant: str, number: int) -> str:
    """A name by a pattern of the fields; UnreadableValue for another."""
    values = (project, shot, variant, f"{number:02d}", date.today().isoformat())
    try:
        parts = [(text, field, asked or way) for text, field, asked, way in Formatter().parse(pattern)]
    except ValueError:
        parts = [("", "", None)]
    if any((field is not None and field not in FIELDS) or way for _, field, way in parts):
        known = ", ".join(f"{{{field}}}" for field in FIELDS)
        raise UnreadableValue(f"“{pattern}” is no pattern of names: use {known}.")
    return "".join(text + (values[FIELDS.index(field)] if field else "") for text, field, _ in parts)


def with_handles(shot: Shot, frames: int, *, head: bool = True, tail: bool = True) -> Shot:
    """A shot that begins and ends so many of its frames further out, as far as its footage goes; what moves it goes on
    there."""
    if frames <= 0:
        return shot
    info = footage.infos(shot)[0]
    more = frames / float(info.rate)
    start = max(shot.start - more, 0.0) if head else shot.start
    end = shot.end + more if tail and shot.end is not None else shot.end
    if end is not None and not info.still:
        end = min(end, info.seconds)
    new_shot = reel_edits.trim(shot.id, start=start, end=end)(Project((shot,))).shots[0]
    return replace(
        new_shot, over=tuple(replace(over_span, at=over_span.at - (shot.start - start)) for over_span in shot.over)
    )


@dataclass(frozen=True)
class Scope:
    """What of a project is delivered: the reel; a stretch ``within`` it (seconds of the reel); one ``shot`` by name;
    ``each`` shot by itself, or ``only`` those of some ids. ``handles``: frames more at each end; ``variants``: each
    variant of a shot by itself."""

    each: bool = False
    shot: str | None = None
    only: tuple[str, ...] | None = None
    within: tuple[float, float] | None = None
    handles: int = 0
    variants: bool = False

    @property
    def by_shot(self) -> bool:
        """Whether shots are delivered by themselves."""
        return self.each or self.shot is not None or self.only is not None

    @property
    def pattern(self) -> str:
        """How deliveries are called unless a pattern is given."""
        return "{number} {shot}" if self.each or self.only else "{shot}" if self.shot else "{project}"


@dataclass(frozen=True)
class Naming:
    """Where deliveries go: into a ``folder``, named by a ``pattern``, of a project that is called ``name``, with a
    ``suffix`` of their form (the usual one if left out)."""

    folder: Path
    pattern: str = ""
    name: str = "project"
    suffix: str = ""


@dataclass(frozen=True)
class _Group:
    """Shots that become one film, and what a pattern is filled with."""

    title: str
    variant: str
    number: int
    shots: tuple[Shot, ...]


def plan_deliveries(
    project: Project,
    scope: Scope,
    naming: Naming,
    *,
    form: str,
    clean: bool = False,
    shaken: bool = True,
    **more: object,
) -> tuple[Delivery, ...]:
    """What a request comes to; each delivery ``clean`` besides, or instead where nothing is to be ``shaken``. ``more``:
    fields of :class:`Delivery`. RequestError where it comes to nothing."""
    groups = _groups_by_shot(project, scope) if scope.by_shot else [_reel_group(project, scope, naming.name)]
    if not groups or not groups[0].shots:
        raise RequestError("No shots match this delivery: choose others.")
    suffix, pattern = naming.suffix or codec(form).suffixes[0], naming.pattern or scope.pattern
    versions = (*([False] if shaken else []), *([True] if clean or not shaken else []))
    deliveries = []
    for group in groups:
        for without in versions:
            name = expand_pattern(
                pattern, project=naming.name, shot=group.title, variant=group.variant, number=group.number
            )
            name = f"{name.removesuffix(' shaken')} clean" if without and shaken else name
            path = naming.folder / files.plain_name(name, suffix)
            deliveries.append(Delivery(name, group.shots, path, form, without, **more))  # type: ignore[arg-type]
    return tuple(deliveries)


def _groups_by_shot(project: Project, scope: Scope) -> list[_Group]:
    wanted = scope.only
    if wanted is None and scope.shot is not None:
        wanted = (reel_layout.find_shot(project, scope.shot).id,)
    groups = []
    for place in reel_layout.place_shots(project):
        if wanted is not None and place.shot.id not in wanted:
            continue
        shot = with_handles(reel_layout.under_spans(project, place), scope.handles)
        shakes = [(shot.variant, shot.shake), *((other.letter, other.shake) for other in shot.others)]
        for letter, shake in shakes if scope.variants else shakes[:1]:
            mine = replace(shot, shake=shake, variant=letter, others=())
            groups.append(_Group(shot.name, letter, project.shots.index(place.shot) + 1, (mine,)))
    return groups


def _reel_group(project: Project, scope: Scope, name: str) -> _Group:
    within = scope.within
    shots = list(reel_layout.delivered_shots(project) if within is None else batch.stretch(project, None, *within))
    if shots:
        shots[0] = with_handles(shots[0], scope.handles, tail=False)
        shots[-1] = with_handles(shots[-1], scope.handles, head=False)
    return _Group(name, "A", 1, tuple(shots))


def check(deliveries: tuple[Delivery, ...]) -> tuple[str, ...]:
    """Refuse at the door whatever could not be finished: names that are alike or there already, folders, forms, room.

    What a person should know before it starts.
    """
    paths = [delivery.path for delivery in deliveries]
    twice = next((path for path in paths if paths.count(path) > 1), None)
    if twice is not None:
        raise RequestError(f"Two would be called {twice.name}: use {{shot}}, {{number}} or {{variant}} in the pattern.")
    notes: list[str] = []
    folders = {path.parent for path in paths}
    for folder in folders:
        _make_folder(folder)
    for delivery in deliveries:
        notes += actions.check(
            (delivery.path,), delivery.form, delivery.shots, overwrite=delivery.overwrite, how=delivery.how
        )
        _check_beside(delivery)
        _check_pictures(delivery)
        for shot in delivery.shots:
            mixing.check(shot)
    for folder in folders:
        _check_room(folder, sum(size_of(delivery) for delivery in deliveries if delivery.path.parent == folder))
    return tuple(dict.fromkeys(notes))


def _make_folder(folder: Path) -> None:
    """Make the folder of a delivery if it is not there, within one that is."""
    if folder.exists() and not folder.is_dir():
        raise RequestError(f"{folder} is no folder: name one.")
    if not folder.parent.is_dir():
        raise RequestError(f"{folder.parent} is not there: make the folder first, or choose another.")
    try:
        folder.mkdir(exist_ok=True)
    except OSError as error:
        raise from_os(error, folder, "write") from error


def _check_pictures(delivery: Delivery) -> None:
    """Refuse numbered pictures whose first one is there already, unless they are asked for again."""
    if codec(delivery.form).pictures and not (delivery.overwrite or delivery.resume) and delivery.frames is None:
        first = name_of(delivery.path, 1)
        if first.exists():
            raise ExistingFile(f"{first} exists already: choose another name, or say --overwrite.")


def _check_room(folder: Path, needed: float) -> None:
    """Refuse what takes more bytes than are free."""
    free = shutil.disk_usage(folder).free
    if needed > free:
        raise RequestError(
            f"There is no room in {folder}: about {needed / 1e9:.1f} GB are needed, {free / 1e9:.1f} GB are free."
        )


def _check_beside(delivery: Delivery) -> None:
    """Refuse what goes beside a film and could not be written."""
    if (delivery.motion or delivery.camera or delivery.maps) and len(delivery.shots) > 1:
        raise RequestError("Motion, camera and ST maps are those of one shot: deliver each by itself.")
    for path in (*_stems_due(delivery).values(), *delivery.motion_files):
        files.check_free(path, overwrite=delivery.overwrite or delivery.resume)


def _stems_due(delivery: Delivery) -> dict[str, Path]:
    """The sounds that are still to be written beside a film, by name."""
    there = {name for shot in delivery.shots for name in mixing.stems(shot)}
    paths = {name: delivery.stem_path(name) for name in delivery.stems if name in there}
    return {name: path for name, path in paths.items() if not delivery.is_finished(path)}


def size_of(delivery: Delivery) -> float:
    """About how many bytes it comes to."""
    pixels = sum(plan.delivered[0] * plan.delivered[1] * plan.frames for plan in _open_plans(delivery))
    return pixels * codec(delivery.form).bits / 8


def frames_of(delivery: Delivery) -> int:
    """How many frames it comes to."""
    return sum(plan.frames for plan in _open_plans(delivery))


def _open_plans(delivery: Delivery) -> list[Plan]:
    """Plans of its shots with open edges: the crop, which takes long to solve, does not change their size."""
    shots = [replace(shot, frame=replace(shot.frame, edges="open")) for shot in delivery.shots]
    return [resolve(shot, footage.infos(shot)) for shot in shots]


def run(delivery: Delivery, report: Report, render: Render = actions.render) -> tuple[str, ...]:
    """Write one. What should be known of the result. May be called from any thread. ``render``: who renders it."""
    texts = render(
        delivery.shots,
        delivery.path,
        report,
        codec_name=delivery.form,
        how=delivery.how,
        overwrite=delivery.overwrite,
        shaken=not delivery.clean,
        loudness=None if delivery.clean else delivery.loudness,
        frames=delivery.frames,
        resume=delivery.resume,
    )
    for name, path in _stems_due(delivery).items():
        stems.write(delivery.shots, path, stem=name, overwrite=delivery.overwrite)
    if delivery.motion_files:
        _write_motion(delivery, report)
    return texts


def _write_motion(delivery: Delivery, report: Report) -> None:
    """Write what goes beside a film of its motion."""
    due, motion = delivery.motion_files, actions.shot_motion(delivery.shots[0])
    if delivery.motion_path in due:
        files.write_whole(motion.encode("utf-8"), delivery.motion_path, overwrite=delivery.overwrite)
    if delivery.camera_path in due:
        camera = interchange.camera_text(motion, distance=takes.DISTANCE)
        files.write_whole(camera.encode("utf-8"), delivery.camera_path, overwrite=delivery.overwrite)
    if delivery.maps:
        interchange.write_maps(
            delivery.shots[0],
            delivery.maps_path,
            lambda done, total: report(total, total),
            overwrite=delivery.overwrite or delivery.resume,
        )


class DeliveryPace:
    """How fast a delivery goes, and how long it has still to go."""

    def __init__(self, now: Callable[[], float] = time.monotonic) -> None:
        self._now, self._begun = now, now()

    def told(self, done: int, total: int) -> dict[str, float]:
        """Frames done and to be done, frames a second, seconds left."""
        took = max(self._now() - self._begun, 1e-6)
        fps = done / took
        return {"frame": done, "frames": total, "fps": round(fps, 2), "left": round((total - done) / max(fps, 1e-6), 1)}
