"""Timelines opened as reels, and written again with the delivered films in place of the sources."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path, PurePosixPath

from young_tremor.base.endings import TIMELINES
from young_tremor.base.errors import RequestError, TremorError
from young_tremor.base.files import check_free, write_whole
from young_tremor.base.units import parse_time
from young_tremor.engine import deliveries, footage, reel
from young_tremor.exchange import timeline
from young_tremor.model.cuts import another
from young_tremor.model.edits import from_preset
from young_tremor.model.project import Media, Plate, Preset, Project, Shot, new_id
from young_tremor.model.shake import Hit

FILMS = (".mp4", ".mov", ".mkv", ".m4v", ".avi", ".mxf", ".webm", ".ts", ".mts", ".m2ts")
MOST_LOOKED = 20_000  # files in a timeline's folder among which those that it names are looked for


def is_timeline(path: Path) -> bool:
    """Whether a path names a timeline."""
    return path.suffix.lower() in TIMELINES


def opened(path: Path, preset: Preset, *, fps: Fraction | None = None) -> tuple[Project, tuple[str, ...]]:
    """A timeline as a reel under a preset, each shot in a course of its own; and what of it is not kept."""
    found = timeline.read(path, fps=fps)
    if not found.cuts:
        raise RequestError(f"{path.name} has no clips: there is nothing to shake.")
    notes, shots = list(found.lost), []
    if len(found.cuts) > timeline.MOST_CLIPS:
        notes.append(f"of {len(found.cuts)} clips the first {timeline.MOST_CLIPS} are kept, as many as a reel holds")
    missing: set[str] = set()
    beside = _beside(path) if any(not _there(cut.path) for cut in found.cuts) else {}
    for number, cut in enumerate(found.cuts[: timeline.MOST_CLIPS]):
        if not _there(cut.path):
            cut = replace(cut, path=_found(cut, beside) or cut.path)
        start = _start(cut, missing)
        plate = Plate(
            new_id(), cut.name[:200], Media(cut.path or str((path.parent / (_plain(cut.name) or "clip")).absolute()))
        )
        hits = tuple(Hit(new_id(), round(t, 6)) for t, _ in cut.markers)
        shake = another(from_preset(preset), number)
        shots.append(
            Shot(new_id(), cut.name[:200], (plate,), shake, start=start, end=start + max(cut.seconds, 0.04), hits=hits)
        )
    if missing:
        some = ", ".join(sorted(Path(each).name for each in missing)[:3])
        some += ", …" if len(missing) > 3 else ""
        one = len(missing) == 1
        notes.append(f"1 file is missing ({some}): find it" if one else f"{len(missing)} files are missing ({some})")
    return Project(tuple(shots), rate=str(found.rate)), tuple(notes)


def _plain(name: str) -> str:
    """A clip's name as a file's, where it names none."""
    return PurePosixPath(name.replace("\0", "")).name[:200]


def _there(path: str) -> bool:
    return bool(path) and ("#" in path or Path(path).is_file())


def _beside(path: Path) -> dict[str, str]:
    """Films in a timeline's folder and those in it, by their names with and without ending, in small letters."""
    out: dict[str, str] = {}
    for number, each in enumerate(path.parent.rglob("*")):
        if number > MOST_LOOKED:
            break
        if each.suffix.lower() in FILMS and each.is_file():
            out.setdefault(each.name.lower(), str(each.absolute()))
            out.setdefault(each.stem.lower(), str(each.absolute()))
    return out


def _found(cut: timeline.Cut, beside: dict[str, str]) -> str | None:
    """A file of the name that a cut gives: of its file, else of itself."""
    names = [PurePosixPath(cut.path.replace("\\", "/")).name, cut.name]
    return next((beside[name.lower()] for name in names if name and name.lower() in beside), None)


def _start(cut: timeline.Cut, missing: set[str]) -> float:
    """Where a cut begins in its file: its timecode taken off where the cut counts by that."""
    if not cut.path or not Path(cut.path).is_file():
        if "#" not in cut.path:
            missing.add(cut.path or cut.name)
        return cut.start if cut.start < 1000 else 0.0
    try:
        info = footage.facts(cut.path).info
    except TremorError:
        missing.add(cut.path)
        return cut.start
    if cut.start < info.seconds or not info.timecode:
        return min(cut.start, max(info.seconds - 0.04, 0.0))
    try:
        return max(cut.start - parse_time(info.timecode, info.rate), 0.0)
    except TremorError:
        return 0.0


def check(output: Path, *, overwrite: bool) -> None:
    """Refuse at the door what no timeline could be written to."""
    if not is_timeline(output) or output.suffix.lower() == ".otioz":
        raise RequestError(f"{output.name} is no name of a timeline: end it in .otio or .edl.")
    timeline.there()
    check_free(output, overwrite=overwrite)


def write(
    project: Project, made: tuple[deliveries.Delivery, ...], output: Path, *, handles: int, name: str, overwrite: bool
) -> None:
    """Write the cut of a reel with films of its shots in place: ``made`` are those of each shot, in their order."""
    check(output, overwrite=overwrite)
    shaken = [each for each in made if not each.clean]
    places = reel.placed(project)
    if len(shaken) != len(places):
        raise RequestError("A timeline needs a film of each shot: deliver with --each.")
    rate, clips = reel.rate_of(project), []
    for place, delivery in zip(places, shaken, strict=True):
        with_more = delivery.shots[0]
        before = place.shot.start - with_more.start
        whole = reel.seconds_of(with_more, reel.known(with_more.footage.media))
        markers = tuple((hit.t, "hit") for hit in place.shot.hits if 0 <= hit.t < place.end - place.at)
        clips.append(timeline.Delivered(place.shot.name, delivery.path, before, place.end - place.at, whole, markers))
    text = timeline.text_of(name, tuple(clips), rate, output.suffix.lower())
    write_whole(text.encode("utf-8"), output, overwrite=overwrite)
