"""What would be lost: unsaved work is kept in the state folder while it goes on, and the last ten versions saved."""

from __future__ import annotations

import hashlib
import os
import time
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

from young_tremor.base import files, places
from young_tremor.base.errors import MissingFile, TremorError
from young_tremor.document import codec, store
from young_tremor.engine import log
from young_tremor.engine.jobs import Job
from young_tremor.engine.presence import runs
from young_tremor.engine.session import Session
from young_tremor.model.project import Project

EVERY = 60.0  # seconds of change after which a project is kept
VERSIONS = 10
STAMP = "%Y-%m-%d %H%M%S"


@dataclass(frozen=True)
class Kept:
    """A project that was not saved: where it is, what it was called, and when it was kept (seconds of the epoch)."""

    path: Path
    name: str
    when: float


def folder() -> Path:
    """Where unsaved work is kept."""
    return places.state() / "unsaved"


class Keeper:
    """Keeps a session's unsaved work while it goes on. For the session's thread; it writes in one of its own."""

    def __init__(self, session: Session, clock: Callable[[], float] = time.monotonic, every: float = EVERY) -> None:
        self._session, self._clock, self.every = session, clock, every
        self._begun = time.strftime(STAMP)
        self._since: float | None = None  # when the first change came that is not kept
        self._written: Project | None = None
        self._job: Job | None = None
        self.path: Path | None = None

    def look(self) -> None:
        """Keep what has changed for long enough; called every now and then."""
        session, now = self._session, self._clock()
        if not session.dirty:
            self._since = None
            self.drop()
            return
        if session.project is self._written:
            self._since = None
            return
        self._since = now if self._since is None else self._since
        if now - self._since >= self.every and (self._job is None or self._job.state != "running"):
            self.keep_soon()

    def keep_soon(self) -> None:
        """Begin to keep what there is now: before something risky."""
        if not self._session.dirty:
            return
        self._since, project, path = None, self._session.project, self._place()

        def work(report: Callable[[int, int], None]) -> None:
            files.keep(codec.encode_project(project, path.parent), path)

        self._written = project
        self._job = Job("keep unsaved work", work).start()

    def keep_now(self) -> Path | None:
        """The same at once, without a thread: the application is about to end. Never raises."""
        if not self._session.dirty:
            return None
        try:
            return files.keep(codec.encode_project(self._session.project, self._place().parent), self._place())
        except TremorError as error:
            log.unexpected(error)
            return None

    def drop(self) -> None:
        """What was kept is saved, or is not wanted any more."""
        if self._job is not None:
            self._job.wait()
            self._job = None
        if self.path is not None:
            with suppress(OSError):
                self.path.unlink(missing_ok=True)
        self.path = self._written = None

    def go_on(self, kept: Kept) -> None:
        """Work on what was kept, and keep it in the same place; TremorError if it cannot be read: then it stays."""
        project = read(kept)
        self.drop()
        self.path = kept.path
        self._session.recover(project)

    def _place(self) -> Path:
        if self.path is None:
            name = self._session.path.stem if self._session.path else "untitled"
            self.path = folder() / f"{name[:60]} {self._begun} {os.getpid()}.tremor"
        return self.path


def left_behind() -> list[Kept]:
    """What was kept by applications that run no longer, newest first."""
    out = []
    with suppress(OSError):
        for path in folder().glob("*.tremor"):
            words = path.stem.rsplit(" ", 3)
            if len(words) == 4 and words[3] != str(os.getpid()) and not runs(words[3]):
                with suppress(OSError):
                    out.append(Kept(path, words[0], path.stat().st_mtime))
    return sorted(out, key=lambda kept: -kept.when)


def read(kept: Kept) -> Project:
    """What was kept; TremorError if it cannot be read."""
    return store.load(kept.path)


def first_footage(kept: Kept) -> str:
    """The path of what the first shot of kept work shows; TremorError where there is none."""
    shots = read(kept).shots
    if not shots:
        raise MissingFile(f"{kept.name} has no shots.")
    return shots[0].footage.media.path


def keep_version(path: Path) -> None:
    """Keep a copy of a project file that was just saved. Never raises: the file itself is what counts."""
    try:
        home = _versions_of(path)
        files.keep(files.read_regular(path, store.MOST, "a project"), home / f"{time.strftime(STAMP)}.tremor")
        for old in sorted(home.glob("*.tremor"))[:-VERSIONS]:
            old.unlink(missing_ok=True)
    except (TremorError, OSError) as error:
        log.unexpected(error)


def versions(path: Path) -> list[Path]:
    """The last versions of a project file that were saved, newest first."""
    with suppress(OSError):
        return sorted(_versions_of(path).glob("*.tremor"), reverse=True)
    return []


def read_version(version: Path, path: Path) -> Project:
    """A version of the project at ``path``; media are looked for from there."""
    return codec.decode_project(files.read_regular(version, store.MOST, "a project"), path.resolve().parent, path.name)


def _versions_of(path: Path) -> Path:
    return places.state() / "versions" / hashlib.sha256(os.fsencode(path.resolve())).hexdigest()[:20]
