"""Footage that is lost, found again, replaced; and a project gathered with all that it needs."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Callable, Iterable, Iterator
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

from msgspec.structs import replace

from young_tremor.base import files
from young_tremor.base.errors import RequestError, TremorError, from_os
from young_tremor.base.suffixes import PROJECT
from young_tremor.document import store
from young_tremor.engine.media import footage
from young_tremor.media import audio_reader, fonts, image_sequence
from young_tremor.model.project import Media, Plate, Project, Shot
from young_tremor.model.shot_edits import Edit
from young_tremor.model.sound import Rumble, Sound

MEGABYTE = 1 << 20
MOST_LOOKED = 200_000  # files of a folder in which lost ones are looked for
FOLDER = "footage"  # of a gathered project
UNFINISHED = ".gathering"  # ends the name of the file that stands there until all is gathered
Report = Callable[[int, int], None]


@dataclass(frozen=True)
class LostFootage:
    """A file that is not there: its path, and the names of the shots that show it."""

    path: str
    mark: str
    shots: tuple[str, ...]


@dataclass(frozen=True)
class FoundFootage:
    """What was found for a lost file, and how surely: ``same`` by its contents, else by its name alone."""

    lost: str
    path: str
    same: bool


def mark_of(path: str) -> str:
    """By what a file is known again: its size, and a digest of its first and last megabyte. Of numbered pictures those
    of the first; empty where it cannot be read."""
    try:
        name = image_sequence.find(path).files[0] if image_sequence.is_pattern(path) else path
        size = os.path.getsize(name)
        digest = hashlib.sha256()
        with open(name, "rb") as file:
            digest.update(file.read(MEGABYTE))
            file.seek(max(size - MEGABYTE, 0))
            digest.update(file.read(MEGABYTE))
    except (OSError, TremorError, ValueError):
        return ""
    return f"{size}:{digest.hexdigest()[:24]}"


def add_fingerprint(media: Media) -> Media:
    """A plate's picture with what it is known again by."""
    return media if media.drawn or media.mark else replace(media, mark=mark_of(media.path))


def add_fingerprints(project: Project) -> Project:
    """A project in which every file that is there can be known again."""
    return _each_media(project, add_fingerprint)


def missing(project: Project) -> tuple[LostFootage, ...]:
    """The files of a project that are not there."""
    shown: dict[str, list[str]] = {}
    marks: dict[str, str] = {}
    for shot in project.shots:
        for plate in shot.plates:
            for media in _files(plate):
                if not _exists(media.path):
                    shown.setdefault(media.path, []).append(shot.name)
                    marks[media.path] = marks.get(media.path) or media.mark
        for path in _heard(shot.sound.rows):
            if not _exists(path):
                shown.setdefault(path, []).append(shot.name)
    for span in project.spans:
        for path in _heard(span.sounds):
            if not _exists(path):
                shown.setdefault(path, []).append(span.name)
    return tuple(LostFootage(path, marks.get(path, ""), tuple(dict.fromkeys(names))) for path, names in shown.items())


def _files(plate: Plate) -> Iterator[Media]:
    if not plate.media.drawn:
        yield plate.media
    if plate.depth is not None and plate.depth.path:
        yield Media(plate.depth.path)


def _exists(path: str) -> bool:
    if image_sequence.is_pattern(path):
        try:
            return bool(image_sequence.find(path).files)
        except TremorError:
            return False
    return os.path.isfile(path)


def look(lost: tuple[LostFootage, ...], folder: Path, report: Report) -> tuple[FoundFootage, ...]:
    """Look for lost files in a folder and those in it: by contents where they are known, else by name. ``report``
    hears of files looked at; what it raises ends the search."""
    names: dict[str, list[str]] = {}
    patterns: dict[str, list[str]] = {}
    looked = 0
    for here, _, file_names in os.walk(folder):
        for name in file_names:
            looked += 1
            if looked > MOST_LOOKED:
                break
            names.setdefault(name.casefold(), []).append(os.path.join(here, name))
        patterns.setdefault(here, [])
        report(looked, MOST_LOOKED)
    sizes: dict[int, list[str]] = {}
    for paths in names.values():
        for path in paths:
            sizes.setdefault(_size(path), []).append(path)
    out = []
    for item in lost:
        if image_sequence.is_pattern(item.path):
            text = _pattern_in(list(patterns), os.path.basename(item.path))
            if text is not None:
                out.append(FoundFootage(item.path, text, bool(item.mark) and mark_of(text) == item.mark))
            continue
        by_name = names.get(os.path.basename(item.path).casefold(), [])
        size = int(item.mark.partition(":")[0]) if item.mark else -1
        same = next((p for p in (*by_name, *sizes.get(size, ())) if item.mark and mark_of(p) == item.mark), None)
        if same is not None:
            out.append(FoundFootage(item.path, same, True))
        elif by_name:
            out.append(FoundFootage(item.path, by_name[0], False))
    return tuple(out)


def _size(path: str) -> int:
    try:
        return os.path.getsize(path)
    except OSError:
        return -2


def _pattern_in(folders: list[str], name: str) -> str | None:
    for folder in folders:
        path = os.path.join(folder, name)
        if image_sequence.is_pattern(path) and _exists(path):
            return path
    return None


def relink(found: tuple[FoundFootage, ...]) -> Edit:
    """Put what was found in the place of what is lost."""
    table = {match.lost: match.path for match in found}

    def change(media: Media) -> Media:
        return replace(media, path=table[media.path]) if media.path in table else media

    def edit(project: Project) -> Project:
        new_project = _each_media(project, change)
        shots = []
        for shot in new_project.shots:
            plates = tuple(
                replace(p, depth=replace(p.depth, path=table[p.depth.path]))
                if p.depth is not None and p.depth.path in table
                else p
                for p in shot.plates
            )
            rows = _reheard(shot.sound.rows, table)
            sound = shot.sound if rows is shot.sound.rows else replace(shot.sound, rows=rows)
            shots.append(replace(shot, plates=plates, sound=sound))
        spans = tuple(replace(span, sounds=_reheard(span.sounds, table)) for span in new_project.spans)
        return replace(new_project, shots=tuple(shots), spans=spans)

    return edit


def _heard(rows: tuple[Sound, ...]) -> Iterator[str]:
    """The files of sounds."""
    for row in rows:
        if not isinstance(row, Rumble) and row.path:
            yield row.path


def _reheard(rows: tuple[Sound, ...], table: dict[str, str]) -> tuple[Sound, ...]:
    if not any(path in table for path in _heard(rows)):
        return rows
    return tuple(
        row if isinstance(row, Rumble) or row.path not in table else replace(row, path=table[row.path]) for row in rows
    )


def words_of(found: tuple[FoundFootage, ...], lost: tuple[LostFootage, ...]) -> str:
    """What was found and how surely, in a sentence or two."""
    same, named = sum(item.same for item in found), sum(not item.same for item in found)
    out = []
    if same:
        out.append(f"{same} found, the very same")
    if named:
        out.append(f"{named} found by the name alone: look whether {'it is' if named == 1 else 'they are'} right")
    gone = [os.path.basename(item.path) for item in lost if item.path not in {f.lost for f in found}]
    if gone:
        out.append(f"{len(gone)} not found ({', '.join(gone[:3])}{' …' if len(gone) > 3 else ''})")
    return "; ".join(out) + "."


def replace_footage(shot: Shot, path: str) -> tuple[Edit, str]:
    """Put other footage under a finished shot: the edit, and what differs, in words. Hits and keys stay at their
    seconds. TremorError where it cannot be used."""
    name = footage.resolve_path(path)
    new = footage.facts(name).info
    media = add_fingerprint(Media(name, rate=shot.footage.media.rate if image_sequence.is_pattern(name) else None))
    said = []
    end = shot.end
    if not new.still:
        if shot.start >= new.seconds - 0.04:
            raise RequestError(
                f"{new.name} is {new.seconds:.2f} s long, and the shot begins at {shot.start:.2f} s of it."
            )
        if end is not None and end > new.seconds:
            end = None
            said.append(f"it ends {shot.end - new.seconds:.2f} s earlier" if shot.end else "it ends earlier")
    try:
        old = footage.info_of(shot.footage.media, footage.frame_size(shot))
    except TremorError:
        old = None
    if old is not None:
        if old.size != new.size:
            said.append("{}x{} instead of {}x{}".format(*new.size, *old.size))
        if old.rate != new.rate and not new.still:
            said.append(f"{float(new.rate):g} frames/s instead of {float(old.rate):g}")
        if abs(old.seconds - new.seconds) > 0.02 and not new.still:
            said.append(f"{new.seconds:.2f} s instead of {old.seconds:.2f} s")
    plate = replace(shot.footage, media=media)

    def change(project: Project) -> Project:
        shots = tuple(
            replace(s, plates=(plate, *s.plates[1:]), end=end) if s.id == shot.id else s for s in project.shots
        )
        return replace(project, shots=shots)

    return change, f"{new.name}: {'; '.join(said) if said else 'alike in size, rate and length'}."


@dataclass(frozen=True)
class GatheredProject:
    """A project gathered into a folder: its file, and the files it names that were left out because they are no
    media."""

    path: Path
    left_out: tuple[str, ...] = ()

    def words(self) -> str:
        """What was left out, in a sentence; empty where nothing was."""
        if not self.left_out:
            return ""
        names = ", ".join(os.path.basename(path) for path in self.left_out[:3])
        more = ", …" if len(self.left_out) > 3 else ""
        return f"Left out, because they cannot be read as media: {names}{more}."


def gather(project: Project, folder: Path, name: str, report: Report, *, link: bool = False) -> GatheredProject:
    """Copy a project with its footage, sounds and fonts into a folder, or link to them, to open elsewhere.

    Only files that can be opened as media are copied, each whole or not at all. A gathering that was stopped goes on
    when it is called again with the same folder and name. RequestError where the folder holds anything else.
    """
    target = folder / files.plain_name(name, PROJECT)
    marker = folder / f".{target.stem}{UNFINISHED}"
    home = folder / FOLDER
    _check_folder(folder, target, marker, home)
    try:
        home.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise from_os(error, folder, "write") from error
    files.write_whole(b"", marker)
    checks = _checks_by_path(project)
    places: dict[str, str] = {}
    left_out: list[str] = []
    for done, (path, check) in enumerate(checks.items()):
        report(done, len(checks))
        if not _exists(path):
            continue
        try:
            check(path)
        except TremorError:
            left_out.append(path)
        else:
            places[path] = _bring(path, home, set(places.values()), left_out, link=link)
    report(len(checks), len(checks))

    def change(media: Media) -> Media:
        title = media.title
        if title is not None and title.face in places:
            return replace(media, title=replace(title, face=places[title.face]))
        return replace(media, path=places[media.path]) if media.path in places else media

    moved = relink(tuple(FoundFootage(old, new, True) for old, new in places.items()))(_each_media(project, change))
    store.save(moved, target)
    with suppress(OSError):
        marker.unlink(missing_ok=True)
    return GatheredProject(target, tuple(left_out))


def _check_folder(folder: Path, target: Path, marker: Path, home: Path) -> None:
    """RequestError unless a folder is free for a gathering, or holds the beginning of this very one."""
    if home.is_symlink():
        raise RequestError(f"{home} is a link: choose a new folder.")
    try:
        there = {entry.name for entry in folder.iterdir()} if folder.exists() else set()
    except OSError as error:
        raise from_os(error, folder, "read") from error
    own = {marker.name, home.name, target.name, target.name + store.BACKUP}
    foreign = {name for name in there if name not in own and not files.is_part(name)}
    if foreign or (there and marker.name not in there):
        raise RequestError(f"{folder} is not empty: choose a new folder.")


def _checks_by_path(project: Project) -> dict[str, Callable[[str], object]]:
    """The files that a project names, each with what opens such a file or raises TremorError."""
    checks: dict[str, Callable[[str], object]] = {}
    for shot in project.shots:
        for plate in shot.plates:
            checks |= {media.path: footage.facts for media in _files(plate)}
            checks |= dict.fromkeys(_fonts(plate), fonts.find)
        checks |= dict.fromkeys(_heard(shot.sound.rows), audio_reader.length)
    for span in project.spans:
        checks |= dict.fromkeys(_heard(span.sounds), audio_reader.length)
    return checks


def _fonts(plate: Plate) -> Iterator[str]:
    title = plate.media.title
    if title is not None and title.face.lower().endswith(fonts.KINDS):
        yield title.face


def _bring(path: str, home: Path, used: set[str], left_out: list[str], *, link: bool) -> str:
    """Copy or link a media file, or all numbered pictures that can be read, into a folder; the new path."""
    number, base = 1, files.plain_name(os.path.basename(path), "")
    while True:
        place = home if number == 1 else home / str(number)
        new_path = str(place / base)
        if new_path not in used:
            break
        number += 1
    sources = [path]
    if image_sequence.is_pattern(path):
        base = os.path.basename(path)
        new_path, sources = str(place / base), _readable(dict.fromkeys(image_sequence.find(path).files), left_out)
    try:
        place.mkdir(exist_ok=True)
        for source in sources:
            target = place / (base if source == path else os.path.basename(source))
            if link:
                target.unlink(missing_ok=True)
                target.symlink_to(os.path.realpath(source))
            else:
                files.copy_whole(Path(source), target)
    except OSError as error:
        raise from_os(error, new_path, "write") from error
    return new_path


def _readable(paths: Iterable[str], left_out: list[str]) -> list[str]:
    """Those of some pictures that can be opened; the others join ``left_out``."""
    readable = []
    for path in paths:
        try:
            footage.facts(path)
        except TremorError:
            left_out.append(path)
        else:
            readable.append(path)
    return readable


def _each_media(project: Project, change: Callable[[Media], Media]) -> Project:
    shots = []
    for shot in project.shots:
        plates = tuple(
            plate if (media := change(plate.media)) is plate.media else replace(plate, media=media)
            for plate in shot.plates
        )
        shots.append(
            shot if all(a is b for a, b in zip(plates, shot.plates, strict=True)) else replace(shot, plates=plates)
        )
    return replace(project, shots=tuple(shots))
