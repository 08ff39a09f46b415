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
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from young_tremor.base import places
from young_tremor.base.errors import ExistingFile, RequestError, WriteProtected, from_os

_PART = re.compile(r"\..+\.[0-9a-f]{8}\.part(\.\w+)?")
FRESH = 5.0  # seconds in which a file under way may not yet be locked


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


def target_of(path: Path) -> Path:
    """The file that a name stands for: where a link leads, or the name itself."""
    return Path(os.path.realpath(path)) if path.is_symlink() else path


_under_way: set[Part] = set()


def abandon_all() -> None:
    """Leave nothing of what is under way: for the end of a process that was interrupted anywhere. Never raises."""
    for part in list(_under_way):
        part.abandon()


class Part:
    """A file under way: it stands beside its place, locked by whoever writes it, and gets its name when it is whole.

    A lock that nobody holds tells the next start that the writer is gone (:func:`sweep`).
    """

    def __init__(self, path: Path) -> None:
        self.target = target_of(path)
        self._asked = path
        stem, suffix = self.target.stem, self.target.suffix
        stem = stem.encode()[:180].decode(errors="ignore")
        self.path = self.target.with_name(f".{stem}.{secrets.token_hex(4)}.part{suffix}")
        self._note: Path | None = None
        self._number = -1
        _under_way.add(self)
        try:
            self._number = os.open(self.path, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o666)
        except OSError as error:
            _under_way.discard(self)
            raise from_os(error, path, "write") from error
        with suppress(OSError):
            fcntl.flock(self._number, fcntl.LOCK_EX | fcntl.LOCK_NB)
        self._note = _noted(self.path)

    def write(self, data: bytes) -> None:
        """Write all there is to be written."""
        view = memoryview(data)
        while view:
            view = view[os.write(self._number, view) :]

    def finish(self, *, overwrite: bool) -> None:
        """Bring it to the disk and give it its name; an older file's mode and owner are kept. TremorError, and nothing
        under the name, where that cannot be."""
        try:
            os.fsync(self._number)
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
            raise ExistingFile(f"{self._asked} exists already: choose another name, or say --overwrite.") from None
        except OSError as error:
            self.abandon()
            raise from_os(error, self._asked, "write") from error
        self._close()

    def abandon(self) -> None:
        """Leave nothing behind. May be called at any time, more than once; never raises."""
        with suppress(OSError):
            self.path.unlink(missing_ok=True)
        self._close()

    def _close(self) -> None:
        _under_way.discard(self)
        number, self._number = self._number, -1
        if number >= 0:
            with suppress(OSError):
                os.close(number)
        if self._note is not None:
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
    part = Part(path)
    try:
        part.write(data)
    except OSError as error:
        part.abandon()
        raise from_os(error, path, "write") from error
    except BaseException:
        part.abandon()
        raise
    part.finish(overwrite=overwrite)


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
def locked(path: Path) -> Iterator[None]:
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
    held = "".join(" " if c in '/\\:*?"<>|' or not c.isprintable() else c for c in name)
    return (" ".join(held.split()).encode()[:160].decode(errors="ignore").strip(" .") or "unnamed") + suffix


def _digest(name: str) -> str:
    return hashlib.blake2s(name.encode(errors="surrogatepass"), digest_size=5).hexdigest()


def sweep(folder: Path) -> int:
    """Remove files under way in a folder that nobody writes any more; how many."""
    gone = 0
    with suppress(OSError), os.scandir(folder) as entries:
        for entry in entries:
            if _PART.fullmatch(entry.name) and _left(Path(entry.path)):
                gone += 1
    return gone


def sweep_all() -> int:
    """The same for every file that was under way when its writer went; how many. Never raises."""
    gone = 0
    with suppress(OSError):
        for note in (places.state() / "under-way").iterdir():
            with suppress(OSError, UnicodeError):
                part = Path(note.read_text(encoding="utf-8"))
                if not part.exists() or _left(part):
                    gone += part.exists() is False
                    note.unlink(missing_ok=True)
    return gone


def _left(part: Path) -> bool:
    """Remove a file under way if nobody holds it; whether it is gone."""
    try:
        number = os.open(part, os.O_RDWR | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC)
    except OSError:
        return False
    try:
        found = os.fstat(number)
        if not stat.S_ISREG(found.st_mode) or time.time() - found.st_mtime < FRESH:
            return False
        fcntl.flock(number, fcntl.LOCK_EX | fcntl.LOCK_NB)
        part.unlink(missing_ok=True)
        return True
    except OSError:
        return False
    finally:
        os.close(number)


def _noted(part: Path) -> Path | None:
    """A note of a file under way, where the next start finds it; None where none can be kept."""
    folder = places.state() / "under-way"
    if not places.made(folder):
        return None
    note = folder / secrets.token_hex(8)
    try:
        note.write_text(str(part.absolute()), encoding="utf-8")
    except (OSError, UnicodeError):
        return None
    return note
