"""Who has a project open: each window holds a small file in the state folder while it works on one."""

from __future__ import annotations

import hashlib
import os
import secrets
from contextlib import suppress
from pathlib import Path

from young_tremor.base import xdg
from young_tremor.base.lock_file import LockFile, is_held


class Presence:
    """What one window has open. For one thread; never raises."""

    def __init__(self) -> None:
        self._mark: LockFile | None = None

    def hold(self, path: Path | None) -> bool:
        """Say that a project is open here from now on, and the last one no more; whether another window has it too."""
        self.leave()
        if path is None:
            return False
        home = _home(path)
        others = [mark for mark in _marks(home) if is_held(mark)]
        self._mark = LockFile.hold(home / secrets.token_hex(8))
        return bool(others)

    def leave(self) -> None:
        """Nothing is open here any more."""
        if self._mark is not None:
            self._mark.release()
        self._mark = None


def _marks(home: Path) -> list[Path]:
    with suppress(OSError):
        return list(home.iterdir())
    return []


def _home(path: Path) -> Path:
    return xdg.state() / "open" / hashlib.sha256(os.fsencode(path.resolve())).hexdigest()[:20]
