"""Project files on disk: read whole, written whole or not at all."""

from __future__ import annotations

import os
import secrets
from pathlib import Path

from young_tremor.base.errors import NewerDocument, TremorError, from_os
from young_tremor.document import codec
from young_tremor.model.project import Project


def load(path: Path) -> Project:
    """Read a project; TremorError in one sentence if that cannot be."""
    try:
        data = path.read_bytes()
    except OSError as error:
        raise from_os(error, path, "read") from error
    return codec.decode_project(data, path.resolve().parent, path.name)


def save(project: Project, path: Path) -> None:
    """Write a project: temporary file, fsync, rename. A file of a later version is never replaced."""
    if path.exists():
        try:
            codec.decode_project(path.read_bytes(), path.parent, path.name)
        except NewerDocument:
            raise
        except (TremorError, OSError):
            pass  # a damaged or foreign file under the name that the person chose may be replaced
    write_whole(codec.encode_project(project, path.resolve().parent), path)


def keep(data: bytes, path: Path) -> Path:
    """Write a file whole into a folder that is made if need be; the path."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise from_os(error, path.parent, "make") from error
    write_whole(data, path)
    return path


def write_whole(data: bytes, path: Path) -> None:
    """Write a file whole or not at all: temporary file, fsync, rename."""
    part = path.with_name(f".{path.name}.{secrets.token_hex(4)}.part")
    try:
        with part.open("wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.replace(part, path)
        folder = os.open(path.resolve().parent, os.O_RDONLY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)
    except OSError as error:
        part.unlink(missing_ok=True)
        raise from_os(error, path, "save") from error
