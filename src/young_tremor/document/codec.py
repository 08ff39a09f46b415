"""The project and preset files: JSON with a name and a version at the front."""

from __future__ import annotations

import json
import os
from collections.abc import Callable
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
from msgspec.structs import replace

from young_tremor.base.errors import BrokenDocument, ForeignDocument, NewerDocument
from young_tremor.document.migrations import VERSION, migrate
from young_tremor.model.project import Preset, Project, Shot
from young_tremor.model.shake import Taken
from young_tremor.model.take import COLUMNS, Take

PROJECT = "young-tremor project"
PRESETS = "young-tremor presets"
TAKE = "young-tremor take"


class ProjectFile(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a ``.tremor`` file holds."""

    format: str
    version: int
    project: Project


class PresetsFile(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a presets file holds."""

    format: str
    version: int
    presets: tuple[Preset, ...]


class TakeFile(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a file of the takes' library holds."""

    format: str
    version: int
    take: Take


def encode_project(project: Project, folder: Path) -> bytes:
    """A project as JSON; media paths relative to ``folder`` where they can be."""
    stored = _map_paths(project, lambda path: _relative(path, folder))
    return _pretty(ProjectFile(PROJECT, VERSION, stored))


def decode_project(data: bytes, folder: Path, name: str) -> Project:
    """The project of a file's bytes; DocumentError in one sentence if it is damaged, foreign or newer."""
    file = _convert(data, name, PROJECT, ProjectFile)
    ids = [shot.id for shot in file.project.shots]
    if len(set(ids)) != len(ids):
        raise BrokenDocument(f"{name} is damaged (two shots share an id): open an older copy.")
    for take in file.project.takes:
        _check(take, name)
    for shot in file.project.shots:
        for shake in (shot.shake, *(other.shake for other in shot.others)):
            for strand in shake.strands:
                if isinstance(strand, Taken):
                    _check(strand.take, name)
    return _map_paths(file.project, lambda path: os.path.normpath(folder / path))


def encode_presets(presets: tuple[Preset, ...]) -> bytes:
    """Presets as JSON."""
    return _pretty(PresetsFile(PRESETS, VERSION, presets))


def decode_presets(data: bytes, name: str) -> tuple[Preset, ...]:
    """The presets of a file's bytes; DocumentError as :func:`decode_project`."""
    return _convert(data, name, PRESETS, PresetsFile).presets


def encode_take(take: Take) -> bytes:
    """A take as JSON."""
    return _pretty(TakeFile(TAKE, VERSION, take))


def decode_take(data: bytes, name: str) -> Take:
    """The take of a file's bytes; DocumentError as :func:`decode_project`."""
    take: Take = _convert(data, name, TAKE, TakeFile).take
    _check(take, name)
    return take


def _check(take: Take, name: str) -> None:
    """Refuse a take whose data cannot be motion."""
    whole = len(take.rows) % (8 * len(COLUMNS)) == 0 and take.frames >= 2 and take.width > 0 and take.height > 0
    table = take.table() if whole else None
    if table is None or not np.isfinite(table).all() or (np.diff(table[:, 0]) <= 0).any() or (table[:, 4] <= 0).any():
        raise BrokenDocument(f"{name} is damaged (the take “{take.name}”): open an older copy.")


def project_schema() -> dict[str, Any]:
    """The JSON Schema of a ``.tremor`` file."""
    return msgspec.json.schema(ProjectFile)


def _convert(data: bytes, name: str, format: str, kind: type) -> Any:
    try:
        raw = json.loads(data)
    except (UnicodeDecodeError, ValueError) as error:
        raise BrokenDocument(f"{name} is not readable as JSON ({_short(error)}): open an older copy.") from error
    if not isinstance(raw, dict) or raw.get("format") != format:
        raise ForeignDocument(f"{name} is not a {format} file: choose another.")
    version = raw.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise BrokenDocument(f"{name} is damaged (no version): open an older copy.")
    if version > VERSION:
        raise NewerDocument(f"{name} was saved by a later version of Young Tremor: update to open it.")
    try:
        return msgspec.convert(migrate(raw), kind)
    except msgspec.ValidationError as error:
        raise BrokenDocument(f"{name} is damaged ({_short(error)}): open an older copy.") from error


def _short(error: Exception) -> str:
    return str(error).splitlines()[0].rstrip(".")


def _pretty(value: Any) -> bytes:
    return msgspec.json.format(msgspec.json.encode(value), indent=2) + b"\n"


def _map_paths(project: Project, change: Callable[[str], str]) -> Project:
    def one(shot: Shot) -> Shot:
        plates = tuple(replace(p, media=replace(p.media, path=change(p.media.path))) for p in shot.plates)
        return replace(shot, plates=plates)

    return replace(project, shots=tuple(one(shot) for shot in project.shots))


def _relative(path: str, folder: Path) -> str:
    try:
        return Path(os.path.relpath(path, folder)).as_posix()
    except ValueError:
        return path
