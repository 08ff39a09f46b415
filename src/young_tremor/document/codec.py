"""The project and preset files: JSON with a name and a version at the front."""

from __future__ import annotations

import inspect
import json
import os
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

import msgspec
from msgspec.structs import replace

from young_tremor.base import typed_json
from young_tremor.base.errors import BrokenDocument, ForeignDocument, NewerDocument, UnreadableValue
from young_tremor.document.migrations import VERSION, migrate
from young_tremor.document.take_pool import shared_takes, takes_apart, takes_together
from young_tremor.model.fields import AtMost, Field, Number, descriptions, structs_below
from young_tremor.model.project import Plate, Preset, Project, Shot
from young_tremor.model.sound import Rumble, Sound
from young_tremor.model.take import Take

PROJECT = "young-tremor project"
PRESETS = "young-tremor presets"
TAKE = "young-tremor take"


File = TypeVar("File", bound=msgspec.Struct)


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
    """A project as JSON; media paths relative to ``folder`` where they can be, each take written once.

    What is returned has been read again and found to be the same; UnreadableValue where it could not be.
    """
    stored = _map_paths(project, lambda path: _relative(path, folder))
    raw = msgspec.to_builtins(ProjectFile(PROJECT, VERSION, stored))
    raw["takes"] = takes_apart(raw["project"])
    data = _pretty(raw)
    if decode_project(data, folder, "The project") != _map_paths(project, lambda path: os.path.normpath(folder / path)):
        raise UnreadableValue("The project holds something that could not be read again: undo the last step.")
    return data


def decode_project(data: bytes, folder: Path, name: str) -> Project:
    """The project of a file's bytes; DocumentError in one sentence if it is damaged, foreign or newer."""
    file = _convert(_parse(data, name), name, PROJECT, ProjectFile)
    return _map_paths(shared_takes(file.project), lambda path: os.path.normpath(folder / path))


def encode_presets(presets: tuple[Preset, ...]) -> bytes:
    """Presets as JSON."""
    return _pretty(msgspec.to_builtins(PresetsFile(PRESETS, VERSION, presets)))


def preset_item(preset: Preset) -> dict[str, Any]:
    """A preset as an object that stands by itself: a file of it, or of a list of them, is read as a presets file."""
    return {"format": PRESETS, "version": VERSION, **msgspec.to_builtins(preset)}


def decode_presets(data: bytes, name: str) -> tuple[Preset, ...]:
    """The presets of a file's bytes: a presets file, one item as of :func:`preset_item`, or a list of items, of which
    those without a shake are left out; DocumentError as :func:`decode_project`."""
    raw = _parse(data, name)
    items = raw if isinstance(raw, list) else [raw] if isinstance(raw, dict) and "presets" not in raw else []
    items = [item for item in items if isinstance(item, dict) and item.get("format") == PRESETS and "shake" in item]
    names = Preset.__struct_fields__
    singles: list[object] = [
        {"format": PRESETS, "version": item.get("version"), "presets": [{k: item[k] for k in names if k in item}]}
        for item in items
    ]
    return tuple(preset for file in singles or [raw] for preset in _convert(file, name, PRESETS, PresetsFile).presets)


def encode_take(take: Take) -> bytes:
    """A take as JSON."""
    return _pretty(msgspec.to_builtins(TakeFile(TAKE, VERSION, take)))


def decode_take(data: bytes, name: str) -> Take:
    """The take of a file's bytes; DocumentError as :func:`decode_project`."""
    return _convert(_parse(data, name), name, TAKE, TakeFile).take


def schema_json() -> str:
    """The published JSON Schema of project files."""
    return json.dumps(project_schema(), indent=2) + "\n"


def presets_schema_json() -> str:
    """The published JSON Schema of presets files: what ``shake --shake`` takes and the window exports."""
    return json.dumps(_schema_of(PresetsFile), indent=2) + "\n"


def project_schema() -> dict[str, Any]:
    """The JSON Schema of a ``.tremor`` file, with the limits of its numbers."""
    schema = _schema_of(ProjectFile)
    types = schema["$defs"]
    # a take stands once in a file, in the table "takes"; strands name it
    taken = types["Taken"]["properties"]
    taken["take"] = {"anyOf": [{"type": "string"}, taken["take"]]}
    listed = types["Project"]["properties"]["takes"]
    listed["items"] = {"anyOf": [{"type": "string"}, listed["items"]]}
    types["ProjectFile"]["properties"]["takes"] = {
        "type": "object",
        "additionalProperties": {"$ref": "#/$defs/Take"},
        "default": {},
    }
    return schema


def _schema_of(file: type) -> dict[str, Any]:
    """The JSON Schema of a file, with the limits and tips of its fields."""
    schema = msgspec.json.schema(file)
    types = schema["$defs"]
    for item in types.values():  # worded alike by every version of Python
        item["description"] = inspect.cleandoc(item.get("description", ""))
    for name, kind in structs_below(file).items():
        for field, note in descriptions(kind).items():
            described = types[name]["properties"][field]
            if isinstance(note, AtMost):
                described["maxItems"] = note.count
            elif isinstance(note, Number) and "$ref" not in described:
                described |= {"minimum": note.bounds[0], "maximum": note.bounds[1]}
            if isinstance(note, Field):
                described["description"] = note.tip
    return schema


def _parse(data: bytes, name: str) -> object:
    try:
        return msgspec.json.decode(data)
    except (msgspec.DecodeError, RecursionError, UnicodeDecodeError) as error:
        raise BrokenDocument(f"{name} is not readable as JSON ({_short(error)}): open an older copy.") from error


def _convert(raw: object, name: str, format: str, kind: type[File]) -> File:
    if not isinstance(raw, dict) or raw.get("format") != format:
        raise ForeignDocument(f"{name} is not a {format} file: choose another.")
    version = raw.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise BrokenDocument(f"{name} is damaged (no version): open an older copy.")
    if version > VERSION:
        raise NewerDocument(f"{name} was saved by a later version of Young Tremor: update to open it.")
    try:
        raw = migrate(raw)
        if kind is ProjectFile:
            raw = takes_together(raw)
        return typed_json.convert(raw, kind)
    except (
        msgspec.ValidationError,
        RecursionError,
        TypeError,
        ValueError,
        ArithmeticError,
        AttributeError,
        KeyError,
    ) as error:
        raise BrokenDocument(f"{name} is damaged ({_short(error)}): open an older copy.") from error


def _short(error: Exception) -> str:
    return (str(error).splitlines() or [type(error).__name__])[0].rstrip(".")[:300]


def _pretty(value: Any) -> bytes:
    return msgspec.json.format(msgspec.json.encode(value), indent=2) + b"\n"


def _map_paths(project: Project, change: Callable[[str], str]) -> Project:
    def one(shot: Shot) -> Shot:
        return replace(
            shot, plates=tuple(map(plate, shot.plates)), sound=replace(shot.sound, rows=sounds(shot.sound.rows))
        )

    def sounds(rows: tuple[Sound, ...]) -> tuple[Sound, ...]:
        return tuple(
            replace(row, path=change(row.path)) if not isinstance(row, Rumble) and row.path else row for row in rows
        )

    def plate(old: Plate) -> Plate:
        media = old.media if old.media.drawn else replace(old.media, path=change(old.media.path))
        depth = old.depth
        if depth is not None and depth.path:
            depth = replace(depth, path=change(depth.path))
        return replace(old, media=media, depth=depth)

    spans = tuple(replace(span, sounds=sounds(span.sounds)) if span.sounds else span for span in project.spans)
    return replace(project, shots=tuple(one(shot) for shot in project.shots), spans=spans)


def _relative(path: str, folder: Path) -> str:
    try:
        return Path(os.path.relpath(path, folder)).as_posix()
    except ValueError:
        return path
