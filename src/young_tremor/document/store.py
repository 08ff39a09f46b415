"""Project files on disk: read whole, written whole or not at all, the one before kept beside them."""

from __future__ import annotations

import os
import stat
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

from young_tremor.base import files
from young_tremor.base.errors import ChangedOnDisk, NewerDocument, RequestError, TremorError, WriteProtected, from_os
from young_tremor.document import codec
from young_tremor.model.project import Project

MOST = 256 << 20  # bytes of a project file
MOST_PRESETS = 32 << 20  # of a presets file or a take
BACKUP = "~"  # ends the name under which the file before is kept


@dataclass(frozen=True)
class OnDisk:
    """In which state a file was when it was last read or written."""

    device: int
    inode: int
    size: int
    changed_ns: int


def on_disk(path: Path) -> OnDisk | None:
    """The present state of a file; None where there is none."""
    try:
        found = os.stat(path)
    except (OSError, ValueError):
        return None
    return OnDisk(found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns)


def load(path: Path) -> Project:
    """Read a project; TremorError in one sentence if that cannot be."""
    data = files.read_regular(path, MOST, "a project")
    return codec.decode_project(data, path.resolve().parent, path.name)


def save(project: Project, path: Path, *, known: OnDisk | None = None, force: bool = False) -> OnDisk:
    """Write a project; in which state it is then. For any thread.

    What is written has been read again before. A link is written through, mode and owner are kept, and the file before
    is kept beside it. ``known``: the state in which it was read or written last: a file that is in another now is not
    overwritten (ChangedOnDisk), nor is one that changed while this call was at work, nor one that is write-protected
    (WriteProtected), unless ``force``; one of a later version never is. The check and the new name happen under one
    lock of the folder, so that of two savings at the same moment one is refused.
    """
    target = files.target_of(path)
    before = on_disk(target)
    data = codec.encode_project(project, path.resolve().parent)
    with files.PartFile(target) as part:
        try:
            part.write(data)
        except OSError as error:
            raise from_os(error, path, "write") from error
        part.sync()
        with files.locked_folder(target.parent):
            present = on_disk(target)
            if present is None and known is not None and not force:
                raise ChangedOnDisk(
                    f"{path.name} was moved or deleted since it was opened: save it under a name again."
                )
            if present is not None:
                _check_replaceable(target, path, known or before, force)
                _keep_backup(target)
            part.finish(overwrite=True)
            found_on_disk = on_disk(target)
    if found_on_disk is None:
        raise ChangedOnDisk(f"{path.name} was moved or deleted just after it was saved: save it again.")
    return found_on_disk


def _check_replaceable(target: Path, path: Path, known: OnDisk | None, force: bool) -> None:
    found = os.stat(target)
    if not stat.S_ISREG(found.st_mode):
        raise RequestError(f"{path} is no regular file: choose another name.")
    if not force and on_disk(target) != known:
        raise ChangedOnDisk(f"{path.name} was changed by someone else since it was opened: save under another name.")
    if not force and not found.st_mode & 0o222:
        raise WriteProtected(f"{path.name} is write-protected: save under another name, or allow writing to it.")
    try:
        codec.decode_project(files.read_regular(target, MOST, "a project"), target.parent, path.name)
    except NewerDocument:
        raise
    except TremorError:
        pass  # a damaged or foreign file under the name that the person chose may be replaced


def _keep_backup(target: Path) -> None:
    """Keep the file that is about to be replaced under its name with a tilde: another name for the same data."""
    backup = target.with_name(target.name + BACKUP)
    with suppress(OSError):
        if os.path.samefile(target, backup):
            return  # an earlier saving got this far: renaming one link over the other would do nothing
    link = target.with_name(f".{target.stem[:80]}.{os.urandom(4).hex()}.part{target.suffix}")
    try:
        os.link(target, link)
        os.replace(link, backup)
    except OSError:
        with suppress(OSError):
            link.unlink(missing_ok=True)
        try:
            files.copy_whole(target, backup)
        except TremorError as error:
            raise RequestError(f"The copy {backup.name} of the file before could not be kept: {error}") from error
