"""Who has a project open: each window leaves a small file in the state folder while it is at work on one."""

from __future__ import annotations

import hashlib
import os
from contextlib import suppress
from pathlib import Path

from young_tremor.base import files, places
from young_tremor.base.errors import TremorError


class Presence:
    """What one window has open. For one thread; never raises."""

    def __init__(self) -> None:
        self._mark: Path | None = None

    def hold(self, path: Path | None) -> bool:
        """Say that a project is open here from now on, and the last one no more; whether another window has it too."""
        self.leave()
        if path is None:
            return False
        home = _home(path)
        others = [mark for mark in _marks(home) if runs(mark.name)]
        self._mark = home / str(os.getpid())
        with suppress(TremorError):
            files.keep(b"", self._mark)
        return bool(others)

    def leave(self) -> None:
        """Nothing is open here any more."""
        if self._mark is not None:
            with suppress(OSError):
                self._mark.unlink(missing_ok=True)
        self._mark = None


def runs(number: str) -> bool:
    """Whether the process of that number is another one of this application, still at work."""
    if not number.isdigit() or int(number) == os.getpid():
        return False
    try:
        return b"young" in Path(f"/proc/{number}/cmdline").read_bytes()
    except OSError:
        return False


def _marks(home: Path) -> list[Path]:
    with suppress(OSError):
        return list(home.iterdir())
    return []


def _home(path: Path) -> Path:
    return places.state() / "open" / hashlib.sha256(os.fsencode(path.resolve())).hexdigest()[:20]
