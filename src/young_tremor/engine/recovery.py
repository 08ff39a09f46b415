"""What was not saved when the application was ended from outside: kept in the state folder."""

from __future__ import annotations

import os
import time
from pathlib import Path

from young_tremor.base import files, places
from young_tremor.base.errors import TremorError
from young_tremor.document import codec
from young_tremor.engine import log
from young_tremor.engine.session import Session


def folder() -> Path:
    """Where it is kept."""
    return places.state() / "unsaved"


def keep(session: Session) -> Path | None:
    """Keep an unsaved project; where it is, None where there is nothing to keep or no place for it. Never raises."""
    if not session.dirty:
        return None
    name = session.path.stem if session.path else "untitled"
    path = folder() / f"{name[:60]} {time.strftime('%Y-%m-%d %H%M%S')} {os.getpid()}.tremor"
    try:
        return files.keep(codec.encode_project(session.project, path.parent), path)
    except TremorError as error:
        log.unexpected(error)
        return None


def left_behind() -> list[Path]:
    """What has been kept, oldest first."""
    try:
        return sorted(folder().glob("*.tremor"), key=lambda path: path.stat().st_mtime)
    except OSError:
        return []
