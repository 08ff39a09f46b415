"""What would be lost: unsaved work is kept in the state folder while it goes on, and the last ten versions saved."""

from __future__ import annotations

import hashlib
import os
import secrets
import time
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

from young_tremor.base import files, xdg
from young_tremor.base.errors import MissingFile, RequestError, TremorError
from young_tremor.base.lock_file import LockFile, is_held
from young_tremor.base.signal import Signal
from young_tremor.document import codec, store
from young_tremor.engine.document.session import Session
from young_tremor.engine.system import log
from young_tremor.engine.system.jobs import Job
from young_tremor.model.project import Project

EVERY = 60.0  # seconds of change after which a project is kept
AGAIN = 10.0  # seconds after which a failed keeping is tried again
VERSIONS = 10
STAMP = "%Y-%m-%d %H%M%S"


@dataclass(frozen=True)
class UnsavedWork:
    """A project that was not saved: where it is, what it was called, and when it was kept (seconds of the epoch)."""

    path: Path
    name: str
    when: float


def folder() -> Path:
    """Where unsaved work is kept."""
    return xdg.state() / "unsaved"


class Keeper:
    """Keeps a session's unsaved work while it goes on. For the session's thread; it writes in one of its own.

    What is kept belongs to the process that holds the lock beside it (:func:`left_behind` offers the rest). A project
    counts as kept only when it is on disk: after a failure ``failed`` is emitted once with a sentence, and it is tried
    again every ``AGAIN`` seconds; ``kept_again`` is emitted when that succeeds.
    """

    def __init__(self, session: Session, clock: Callable[[], float] = time.monotonic, every: float = EVERY) -> None:
        self._session, self._clock, self.every = session, clock, every
        self.failed = Signal()  # (sentence)
        self.kept_again = Signal()  # ()
        self._begun = time.strftime(STAMP)
        self._changed_at: float | None = None  # when the first change came that is not kept
        self._written: Project | None = None  # what is on disk
        self._writing: Project | None = None
        self._job: Job | None = None
        self._failing = False
        self._hold: LockFile | None = None
        self.path: Path | None = None

    def look(self) -> None:
        """Keep what has changed for long enough; called every now and then."""
        self._collect()
        session, now = self._session, self._clock()
        if not session.dirty:
            self._changed_at = None
            self.drop()
            return
        if session.project is self._written:
            self._changed_at = None
            return
        self._changed_at = now if self._changed_at is None else self._changed_at
        wait = min(self.every, AGAIN) if self._failing else self.every
        if now - self._changed_at >= wait and self._job is None:
            self._changed_at = now
            self.keep_soon()

    def keep_soon(self) -> None:
        """Begin to keep what there is now: before something risky."""
        self._collect()
        if not self._session.dirty or self._job is not None:
            return
        project, path = self._session.project, self._place()

        def work(report: Callable[[int, int], None]) -> None:
            files.keep(codec.encode_project(project, path.parent), path)

        self._writing = project
        self._job = Job("keep unsaved work", work).start()

    def _collect(self) -> None:
        """Learn how the last writing ended."""
        job = self._job
        if job is None or job.state == "running":
            return
        self._job = None
        if job.state == "done":
            self._written, self._changed_at = self._writing, None
            if self._failing:
                self._failing = False
                self.kept_again.emit()
        elif not self._failing:
            self._failing = True
            self.failed.emit(job.error)
        self._writing = None

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
        self.path = self._written = self._writing = None
        self._failing = False
        self.release()

    def release(self) -> None:
        """Let go of what is kept, so that any window may go on with it. Idempotent."""
        if self._hold is not None:
            self._hold.release()
        self._hold = None

    def go_on(self, kept: UnsavedWork) -> None:
        """Work on what was kept, and keep it in the same place; TremorError if it cannot be read: then it stays."""
        hold = LockFile.hold(_lock_of(kept.path))
        if hold is None and is_held(_lock_of(kept.path)):
            raise RequestError(f"Another window goes on with “{kept.name}” already.")
        try:
            project = read(kept)
        except TremorError:
            if hold is not None:
                hold.release()
            raise
        self.drop()
        self.path, self._hold, self._written = kept.path, hold, project
        self._session.recover(project)

    def _place(self) -> Path:
        if self.path is None:
            name = self._session.path.stem if self._session.path else "untitled"
            short = name.encode()[:120].decode(errors="ignore")
            self.path = folder() / f"{short} {self._begun} {secrets.token_hex(4)}.tremor"
        if self._hold is None:
            self._hold = LockFile.hold(_lock_of(self.path))
        return self.path


def _lock_of(path: Path) -> Path:
    return path.with_name(f".{path.name}.lock")


def left_behind() -> list[UnsavedWork]:
    """What was kept by windows that are gone, newest first. A file whose name says nothing is offered by its stem."""
    out = []
    with suppress(OSError):
        for path in folder().glob("*.tremor"):
            if path.name.startswith(".") or is_held(_lock_of(path)):
                continue
            words = path.stem.rsplit(" ", 3)
            with suppress(OSError):
                out.append(UnsavedWork(path, words[0] if len(words) == 4 else path.stem, path.stat().st_mtime))
    return sorted(out, key=lambda kept: -kept.when)


def read(kept: UnsavedWork) -> Project:
    """What was kept; TremorError if it cannot be read."""
    return store.load(kept.path)


def first_footage(kept: UnsavedWork) -> str:
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
    return xdg.state() / "versions" / hashlib.sha256(os.fsencode(path.resolve())).hexdigest()[:20]
