"""Timelines opened as reels, and written again with the delivered films in place of the sources."""

from __future__ import annotations

import os
import shutil
import zipfile
import zlib
from contextlib import suppress
from dataclasses import replace
from fractions import Fraction
from pathlib import Path, PurePosixPath

from young_tremor.base.errors import BrokenDocument, RequestError, TremorError, from_os
from young_tremor.base.files import PartFile, check_free, write_whole
from young_tremor.base.suffixes import TIMELINES
from young_tremor.base.units import parse_time
from young_tremor.engine.analysis import reel_layout
from young_tremor.engine.delivery import delivery_plan
from young_tremor.engine.media import footage
from young_tremor.exchange import edl, timeline
from young_tremor.model.project import Media, Plate, Preset, Project, Shot, new_id
from young_tremor.model.reel_edits import another
from young_tremor.model.shake import Hit
from young_tremor.model.shot_edits import from_preset

FILMS = (".mp4", ".mov", ".mkv", ".m4v", ".avi", ".mxf", ".webm", ".ts", ".mts", ".m2ts")
RECORD = "01:00:00:00"  # where a written timeline begins
MOST_LOOKED = 20_000  # files in a timeline's folder among which those that it names are looked for


def is_timeline(path: Path) -> bool:
    """Whether a path names a timeline."""
    return path.suffix.lower() in TIMELINES


def open_timeline(path: Path, preset: Preset, *, fps: Fraction | None = None) -> tuple[Project, tuple[str, ...]]:
    """A timeline as a reel under a preset, each shot in a course of its own; and what of it is not kept. The media of a
    bundle are laid out in a folder beside it."""
    found_timeline = timeline.read(path, fps=fps)
    if not found_timeline.cuts:
        raise RequestError(f"{path.name} has no clips: there is nothing to shake.")
    _lay_out(path)
    notes, shots = list(found_timeline.lost), []
    if len(found_timeline.cuts) > timeline.MOST_CLIPS:
        notes.append(
            f"of {len(found_timeline.cuts)} clips the first {timeline.MOST_CLIPS} are kept, as many as a reel holds"
        )
    missing: set[str] = set()
    beside = _films_beside(path) if any(not _exists(cut.path) for cut in found_timeline.cuts) else {}
    for number, cut in enumerate(found_timeline.cuts[: timeline.MOST_CLIPS]):
        if not _exists(cut.path):
            cut = replace(cut, path=_find_film(cut, beside) or cut.path)
        start = _start(cut, missing)
        plate = Plate(
            new_id(), cut.name, Media(cut.path or str((path.parent / (_plain(cut.name) or "clip")).absolute()))
        )
        hits = tuple(Hit(new_id(), round(t, 6)) for t, _ in cut.markers)
        shake = another(from_preset(preset), number)
        shots.append(
            Shot(new_id(), cut.name, (plate,), shake, start=start, end=start + max(cut.seconds, 0.04), hits=hits)
        )
    if missing:
        some = ", ".join(sorted(Path(name).name for name in missing)[:3])
        some += ", …" if len(missing) > 3 else ""
        one = len(missing) == 1
        notes.append(f"1 file is missing ({some}): find it" if one else f"{len(missing)} files are missing ({some})")
    return Project(tuple(shots), rate=str(found_timeline.rate)), tuple(notes)


def _lay_out(path: Path) -> None:
    """Unpack the media of a bundle beside it, each file whole or not at all; what is there already stays."""
    members = timeline.bundled_media(path)
    if not members:
        return
    folder = timeline.media_folder(path)
    needed = sum(member.size for member in members if not member.path.exists())
    try:
        folder.mkdir(exist_ok=True)
        free = shutil.disk_usage(folder).free
    except OSError as error:
        raise from_os(error, folder, "make") from error
    if needed > free:
        raise RequestError(
            f"There is no room to unpack {path.name}: {needed / 1e9:.1f} GB are needed, {free / 1e9:.1f} GB are free."
        )
    try:
        with zipfile.ZipFile(path) as bundle:
            for member in members:
                if not (member.path.is_file() and member.path.stat().st_size == member.size):
                    _unpack(bundle, member)
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError) as error:
        raise BrokenDocument(f"{path.name} is damaged ({' '.join(str(error).split())[:80]}): copy it again.") from error
    except OSError as error:
        raise from_os(error, folder, "write") from error


def _unpack(bundle: zipfile.ZipFile, member: timeline.Member) -> None:
    with bundle.open(member.name) as packed, PartFile(member.path) as part:
        left = member.size
        while data := packed.read(min(1 << 20, left + 1)):
            left -= len(data)
            if left < 0:
                raise zipfile.BadZipFile("a file is longer than it says")
            part.write(data)
        part.finish(overwrite=True)


def _plain(name: str) -> str:
    """A clip's name as a file's, where it names none."""
    return PurePosixPath(name.replace("\0", "")).name[:200]


def _exists(path: str) -> bool:
    return bool(path) and ("#" in path or os.path.isfile(path))


def _films_beside(path: Path) -> dict[str, str]:
    """Films in a timeline's folder and those in it, by their names with and without ending, in small letters."""
    out: dict[str, str] = {}
    for number, item in enumerate(path.parent.rglob("*")):
        if number > MOST_LOOKED:
            break
        if item.suffix.lower() in FILMS and item.is_file():
            out.setdefault(item.name.lower(), str(item.absolute()))
            out.setdefault(item.stem.lower(), str(item.absolute()))
    return out


def _find_film(cut: timeline.Cut, beside: dict[str, str]) -> str | None:
    """A file of the name that a cut gives: of its file, else of itself."""
    names = [PurePosixPath(cut.path.replace("\\", "/")).name, cut.name]
    return next((beside[name.lower()] for name in names if name and name.lower() in beside), None)


def _start(cut: timeline.Cut, missing: set[str]) -> float:
    """Where a cut begins in its file: its timecode taken off where the cut counts by that."""
    if not cut.path or not os.path.isfile(cut.path):
        if "#" not in cut.path:
            missing.add(cut.path or cut.name)
        return cut.start if cut.start < 1000 else 0.0
    try:
        info = footage.facts(cut.path).info
    except TremorError:
        missing.add(cut.path)
        return cut.start
    latest = max(info.seconds - 0.04, 0.0)
    if cut.by_timecode and info.timecode:
        with suppress(TremorError):
            start = cut.start - parse_time(info.timecode, info.rate)
            if -0.001 <= start <= latest:
                return max(round(start, 9), 0.0)  # of the difference of two times of day
    return min(cut.start, latest) if cut.start < info.seconds or not info.timecode else 0.0


def check(output: Path, *, overwrite: bool) -> None:
    """Refuse at the door what no timeline could be written to."""
    if not is_timeline(output) or output.suffix.lower() == ".otioz":
        raise RequestError(f"{output.name} is no name of a timeline: end it in .otio or .edl.")
    check_free(output, overwrite=overwrite)


def write(
    project: Project,
    made: tuple[delivery_plan.Delivery, ...],
    output: Path,
    *,
    name: str,
    overwrite: bool,
    record: str = "",
) -> None:
    """Write the cut of a reel with films of its shots in place.

    ``made`` are the deliveries of the shots, in their order; films that are there are asked for their own timecode.
    ``record``: the timecode at which the timeline begins, 01:00:00:00 if left out.
    """
    check(output, overwrite=overwrite)
    shaken = [delivery for delivery in made if not delivery.clean]
    places = reel_layout.place_shots(project)
    if len(shaken) != len(places):
        raise RequestError("A timeline needs a film of each shot: deliver with --each.")
    rate = reel_layout.rate_of(project)
    clips = tuple(_delivered_clip(place, delivery) for place, delivery in zip(places, shaken, strict=True))
    begin = _first_frame(record or RECORD, rate, drop=timeline.is_drop_frame(clips, rate))
    write_text = edl.text_of if output.suffix.lower() == ".edl" else timeline.otio_text
    write_whole(write_text(name, clips, rate=rate, record=begin).encode("utf-8"), output, overwrite=overwrite)


def _first_frame(record: str, rate: Fraction, *, drop: bool) -> int:
    """The number of the frame at which a timeline begins, from its timecode."""
    head, _, frames = record.replace(";", ":").rpartition(":")
    return round(parse_time(f"{head};{frames}" if drop else f"{head}:{frames}", rate) * rate)


def _delivered_clip(place: reel_layout.PlacedShot, delivery: delivery_plan.Delivery) -> timeline.Delivered:
    """What a timeline says of a delivered film, by the film's own account where it is there."""
    with_handles = delivery.shots[0]
    known = reel_layout.try_info(with_handles.footage.media)
    rate, first, drop, reel_name, whole = place.rate, 0, False, "", 0
    with suppress(TremorError):
        film = footage.facts(delivery.path).info
        rate, whole, reel_name = film.rate, film.frames, dict(film.carried).get("reel_name", "")
        if film.timecode:
            first, drop = round(parse_time(film.timecode, rate) * rate), ";" in film.timecode
    markers = tuple((hit.t, "hit") for hit in place.shot.hits if 0 <= hit.t < place.end - place.at)
    return timeline.Delivered(
        place.shot.name,
        delivery.path,
        round((place.shot.start - with_handles.start) * rate),
        round((place.end - place.at) * rate),
        whole or round(reel_layout.seconds_of(with_handles, known) * rate),
        rate,
        first,
        drop,
        reel_name,
        markers,
    )
