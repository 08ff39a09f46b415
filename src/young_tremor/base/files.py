"""Files in and out: only regular ones are read, each has a limit, and what is written is whole or not there."""

from __future__ import annotations

import errno
import fcntl
import hashlib
import os
import re
import secrets
import stat
import time
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from young_tremor.base import xdg
from young_tremor.base.errors import ExistingFile, RequestError, WorkError, WriteProtected, from_os

_PART = re.compile(r"\..+\.[0-9a-f]{8}\.part(\.\w+)?")
FRESH = 5.0  # seconds in which a part may not yet be locked
PATIENCE = 20.0  # seconds to wait for a folder that another window holds
MOST_NOTE = 8192  # bytes


def read_regular(path: Path, most: int, what: str) -> bytes:
    """The bytes of a regular file of at most ``most`` bytes. TremorError in one sentence where it is none.

    ``what``: what such a file is, for the sentence ("a project").
    """
    try:
        number = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
        with os.fdopen(number, "rb") as file:
            found = os.fstat(number)
            if stat.S_ISDIR(found.st_mode):
                raise IsADirectoryError(errno.EISDIR, "is a folder")
            if not stat.S_ISREG(found.st_mode):
                raise RequestError(f"{path.name} is no regular file but a device or a pipe: choose {what}.")
            if found.st_size > most:
                raise RequestError(
                    f"{path.name} is too large to be {what} ({found.st_size >> 20} MB, at most {most >> 20} MB)."
                )
            return file.read(most)
    except OSError as error:
        raise from_os(error, path, "read") from error
    except ValueError as error:  # a name with the character 0
        raise RequestError("A file name cannot hold the character 0: choose another file.") from error


def check_free(path: Path, *, overwrite: bool) -> None:
    """Refuse at the door an output that could not be written: taken, no file's name, no writable folder."""
    if path.name in ("-", "") or "\0" in str(path):
        raise RequestError(f"“{path}” is no file name: results go into a file, name one.")
    try:
        found = os.stat(path)
    except OSError as error:
        if error.errno == errno.ENAMETOOLONG:
            raise RequestError(f"The name {path.name[:40]}… is too long: choose a shorter one.") from error
        if error.errno == errno.ELOOP:
            raise RequestError(f"{path} is a link that leads back to itself: choose another name.") from error
        found = None
    if found is not None:
        if stat.S_ISDIR(found.st_mode):
            raise RequestError(f"{path} is a folder: name a file.")
        if not stat.S_ISREG(found.st_mode):
            raise RequestError(f"{path} is a device or a pipe: name a file.")
        if not overwrite:
            raise ExistingFile(f"{path} exists already: choose another name, or say --overwrite.")
        if not found.st_mode & 0o222:
            raise WriteProtected(f"{path} is write-protected: allow writing to it first, or choose another name.")
    folder = target_of(path).parent
    if not folder.is_dir():
        raise RequestError(f"The folder {folder} is not there: make it first, or choose another.")
    if not os.access(folder, os.W_OK):
        raise from_os(PermissionError(errno.EACCES, "not writable"), path, "write")


def is_part(name: str) -> bool:
    """Whether a file name is that of a :class:`PartFile`."""
    return _PART.fullmatch(name) is not None


def target_of(path: Path) -> Path:
    """The file that a name stands for: where a link leads, or the name itself."""
    return Path(os.path.realpath(path)) if path.is_symlink() else path


class PartFile:
    """An unfinished file. It stands beside its target, locked by its writer, and takes the target's name when finished.

    Use it as a context manager: it is discarded when the block ends before :meth:`finish` was called, and it belongs to
    the call that made it. A copy of it in a forked process never touches the file. A lock that nobody holds tells the
    next start that the writer is gone (:func:`sweep_all`).
    """

    def __init__(self, path: Path) -> None:
        self.target = target_of(path)
        self._requested = path
        stem, suffix = _short(self.target.stem), self.target.suffix
        self.path = self.target.with_name(f".{stem}.{secrets.token_hex(4)}.part{suffix}")
        self._note: Path | None = None
        self._process, self._number, self._unfinished = os.getpid(), -1, True
        try:
            self._number = os.open(self.path, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o666)
        except OSError as error:
            self._unfinished = False
            raise from_os(error, path, "write") from error
        with suppress(OSError):
            fcntl.flock(self._number, fcntl.LOCK_EX | fcntl.LOCK_NB)
        self._note = _write_note(self.path, os.fstat(self._number))

    def __enter__(self) -> PartFile:
        return self

    def __exit__(self, *error: object) -> None:
        if self._unfinished:
            self.abandon()

    def __del__(self) -> None:
        # a signal may come between the making of a part and the block that holds it
        if getattr(self, "_unfinished", False):
            self.abandon()

    def write(self, data: bytes) -> None:
        """Write all of ``data``; OSError as the system raises it."""
        view = memoryview(data)
        while view:
            view = view[os.write(self._number, view) :]

    def sync(self) -> None:
        """Bring what was written to the disk; TremorError, and the part is discarded, where that fails."""
        try:
            os.fsync(self._number)
        except OSError as error:
            self.abandon()
            raise from_os(error, self._requested, "write") from error

    def finish(self, *, overwrite: bool) -> None:
        """Bring it to the disk and give it its name; an older file's mode and owner are kept. TremorError, and nothing
        under the name, where that cannot be."""
        self.sync()
        try:
            try:
                old = os.stat(self.target)
            except FileNotFoundError:
                old = None
            if old is not None and overwrite:
                with suppress(OSError):
                    os.fchown(self._number, old.st_uid, old.st_gid)
                with suppress(OSError):
                    os.fchmod(self._number, stat.S_IMODE(old.st_mode))
                os.replace(self.path, self.target)
            else:
                _into_place(self.path, self.target)
            sync_folder(self.target.parent)
        except FileExistsError:
            self.abandon()
            raise ExistingFile(f"{self._requested} exists already: choose another name, or say --overwrite.") from None
        except OSError as error:
            self.abandon()
            raise from_os(error, self._requested, "write") from error
        self._close()

    def abandon(self) -> None:
        """Discard the unfinished file. Idempotent; never raises."""
        if self._process == os.getpid():
            with suppress(OSError):
                self.path.unlink(missing_ok=True)
        self._close()

    def _close(self) -> None:
        number, self._number, self._unfinished = self._number, -1, False
        if number >= 0:
            with suppress(OSError):
                os.close(number)
        if self._note is not None and self._process == os.getpid():
            with suppress(OSError):
                self._note.unlink(missing_ok=True)


def _into_place(part: Path, target: Path) -> None:
    """Give a file a name that must still be free."""
    try:
        os.link(part, target)
    except FileExistsError:
        raise
    except OSError:
        # a file system without links
        if target.exists():
            raise FileExistsError(target) from None
        os.replace(part, target)
    else:
        os.unlink(part)


def write_whole(data: bytes, path: Path, *, overwrite: bool = True) -> None:
    """Write a file whole or not at all: beside it, to the disk, renamed. Goes through links, keeps mode and owner."""
    with PartFile(path) as part:
        try:
            part.write(data)
        except OSError as error:
            raise from_os(error, path, "write") from error
        part.finish(overwrite=overwrite)


def copy_whole(source: Path, target: Path) -> None:
    """Copy a regular file, whole or not at all, with its time of change; TremorError where that fails.

    A target of the same size and time is a finished copy and stays as it is.
    """
    try:
        number = os.open(source, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except OSError as error:
        raise from_os(error, source, "read") from error
    with os.fdopen(number, "rb") as file:
        facts = os.fstat(number)
        if not stat.S_ISREG(facts.st_mode):
            raise RequestError(f"{source} is no regular file: choose a file.")
        with suppress(OSError):
            there = os.stat(target)
            if (there.st_size, there.st_mtime_ns) == (facts.st_size, facts.st_mtime_ns):
                return
        with PartFile(target) as part:
            try:
                while data := file.read(1 << 22):
                    part.write(data)
                os.utime(part.path, ns=(facts.st_atime_ns, facts.st_mtime_ns))
            except OSError as error:
                raise from_os(error, target, "write") from error
            part.finish(overwrite=True)


@contextmanager
def locked_folder(folder: Path) -> Iterator[None]:
    """Hold a folder against every other writer of this application while names in it are checked and changed.

    TremorError where another window holds it for longer than ``PATIENCE`` seconds. File systems without locks are
    passed over.
    """
    try:
        number = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    except OSError:
        yield  # a folder that may be written to but not read
        return
    try:
        _lock_in_time(number, folder)
        yield
    finally:
        os.close(number)


def _lock_in_time(number: int, folder: Path) -> None:
    deadline = time.monotonic() + PATIENCE
    while True:
        try:
            fcntl.flock(number, fcntl.LOCK_EX | fcntl.LOCK_NB)
            return
        except BlockingIOError:
            if time.monotonic() > deadline:
                raise WorkError(f"Another program holds the folder {folder}: try again in a moment.") from None
            time.sleep(0.005)
        except OSError:
            return  # a file system without locks


def sync_folder(folder: Path) -> None:
    """Bring a folder's names to the disk."""
    try:
        number = os.open(folder, os.O_RDONLY)
    except OSError:
        return  # a folder that may be written but not read
    try:
        os.fsync(number)
    finally:
        os.close(number)


def keep(data: bytes, path: Path) -> Path:
    """Write a file whole into a folder that is made if need be; the path."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise from_os(error, path.parent, "make") from error
    write_whole(data, path)
    return path


@contextmanager
def lock(path: Path) -> Iterator[None]:
    """Hold what is kept under a name for oneself, against other windows as well, while it is read and written."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        number = os.open(path.with_name(f".{path.name}.lock"), os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o666)
    except OSError as error:
        raise from_os(error, path, "write") from error
    try:
        fcntl.flock(number, fcntl.LOCK_EX)
        yield
    finally:
        os.close(number)


def file_name(name: str, suffix: str) -> str:
    """A name of a person's own as a file's. Names that differ never give the same one."""
    plain = "".join(c if c.isalnum() or c in " -_" else "_" for c in name).strip()
    short = plain.encode()[:120].decode(errors="ignore")
    if short == name and name.casefold() == name:
        return name + suffix
    return f"{short or 'unnamed'}-{_digest(name)}{suffix}"


def plain_name(name: str, suffix: str) -> str:
    """A name of a person's own as a file's, as it is but for what no file system takes. Two may come out alike."""
    text = "".join(" " if c in '/\\:*?"<>|' or not c.isprintable() else c for c in name)
    return (" ".join(text.split()).encode()[:160].decode(errors="ignore").strip(" .") or "unnamed") + suffix


def _digest(name: str) -> str:
    return hashlib.blake2s(name.encode(errors="surrogatepass"), digest_size=5).hexdigest()


def sweep_all() -> int:
    """Remove the parts whose writers are gone; how many. Never raises.

    Only what a note of this person's own names is looked at, and only the very file that the note was written for: by
    device, inode, owner and the form of its name.
    """
    removed = 0
    with suppress(OSError):
        for note in (xdg.state() / "under-way").iterdir():
            with suppress(OSError, ValueError):
                removed += _sweep_note(note)
    return removed


def sweep_targets(targets: Iterable[Path]) -> None:
    """Remove the parts of files that are finished, however lately they were begun: their writers are gone. Never
    raises."""
    begins = {os.path.join(target.parent, f".{_short(target.stem)}") for target in map(target_of, targets)}
    with suppress(OSError):
        for note in (xdg.state() / "under-way").iterdir():
            with suppress(OSError, ValueError):
                path = note.read_text(encoding="utf-8").split("\n", 2)[2]
                if path.rsplit(".", 3)[0] in begins:
                    _sweep_note(note, fresh=0.0)


def _short(stem: str) -> str:
    return stem.encode()[:180].decode(errors="ignore")


def _sweep_note(note: Path, fresh: float = FRESH) -> bool:
    """Remove the part that a note names, and the note, if nobody writes the part any more; whether a part went."""
    facts = os.lstat(note)
    if facts.st_uid != os.geteuid() or not stat.S_ISREG(facts.st_mode) or facts.st_size > MOST_NOTE:
        return False
    device, inode, path = note.read_text(encoding="utf-8").split("\n", 2)
    folder = os.path.dirname(path)
    try:
        place = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    except FileNotFoundError:
        note.unlink(missing_ok=True)
        return False
    try:
        gone, removed = _remove_part(place, os.path.basename(path), (int(device), int(inode)), fresh)
    finally:
        os.close(place)
    if gone:
        note.unlink(missing_ok=True)
    return removed


def _remove_part(folder: int, name: str, identity: tuple[int, int], fresh: float) -> tuple[bool, bool]:
    """Whether a part is gone from an open folder, and whether this call removed it."""
    if not _PART.fullmatch(name):
        return True, False
    try:
        number = os.open(name, os.O_RDWR | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC, dir_fd=folder)
    except FileNotFoundError:
        return True, False
    except OSError:
        return False, False
    try:
        facts = os.fstat(number)
        ours = stat.S_ISREG(facts.st_mode) and facts.st_uid == os.geteuid()
        if not ours or (facts.st_dev, facts.st_ino) != identity:
            return True, False  # another file took the name: the note is stale
        if time.time() - facts.st_mtime < fresh:
            return False, False
        fcntl.flock(number, fcntl.LOCK_EX | fcntl.LOCK_NB)
        os.unlink(name, dir_fd=folder)
        return True, True
    except OSError:
        return False, False
    finally:
        os.close(number)


def _write_note(part: Path, facts: os.stat_result) -> Path | None:
    """Note an unfinished file where the next start finds it; None where no note can be kept."""
    folder = xdg.state() / "under-way"
    if not xdg.make_folder(folder):
        return None
    note = folder / secrets.token_hex(8)
    try:
        note.write_text(f"{facts.st_dev}\n{facts.st_ino}\n{part.absolute()}", encoding="utf-8")
    except (OSError, UnicodeError):
        return None
    return note
