"""The one tree of errors that a person may be shown.

::

    TremorError                 exit code 1
    ├── RequestError            exit code 2: what was asked for cannot be done
    │   ├── ChangedOnDisk
    │   ├── WriteProtected
    │   ├── MissingFile
    │   ├── ExistingFile
    │   ├── UnknownName
    │   ├── UnreadableValue
    │   └── DocumentError
    │       ├── BrokenDocument
    │       ├── ForeignDocument
    │       └── NewerDocument
    └── WorkError               exit code 1: the work itself failed
        ├── DecodeError
        ├── EncodeError
        └── DiskError

    Cancelled                   not an error: the person stopped the work

Every message is one sentence that says what happened, to which file, and what to do.
"""

from __future__ import annotations

import errno
from pathlib import Path


class TremorError(Exception):
    """Base of everything a person may be shown, in one line; ``exit_code`` is the command line's."""

    exit_code = 1

    def __str__(self) -> str:
        return " ".join(super().__str__().split())


class RequestError(TremorError):
    """What was asked for cannot be done as it stands."""

    exit_code = 2


class ChangedOnDisk(RequestError):
    """A file is not as it was when it was read: writing it would lose somebody's work."""


class WriteProtected(RequestError):
    """A file may not be written."""


class MissingFile(RequestError):
    """An input file is not there."""


class ExistingFile(RequestError):
    """An output file is there already and replacing it was not asked for."""


class UnknownName(RequestError):
    """A preset, shot, codec or channel name that nothing answers to."""


class UnreadableValue(RequestError, ValueError):
    """A number, size, rate or time that cannot be read or used."""


class DocumentError(RequestError):
    """A project or preset file cannot be used."""


class BrokenDocument(DocumentError):
    """A file of ours that is damaged."""


class ForeignDocument(DocumentError):
    """A file that is not one of ours."""


class NewerDocument(DocumentError):
    """A file written by a later version."""


class WorkError(TremorError):
    """The work was well asked for, and failed."""


class DecodeError(WorkError):
    """A media file cannot be decoded."""


class EncodeError(WorkError):
    """A media file cannot be encoded."""


class DiskError(WorkError):
    """The disk is full, or a folder cannot be written."""


class Cancelled(Exception):
    """Raised by a report hook when the person stops a job."""


def from_os(error: OSError, path: Path | str, doing: str) -> TremorError:
    """Translate an ``OSError`` into our tree; ``doing`` is "write", "read", ..."""
    name = Path(path).name
    folder = Path(path).parent
    if error.errno == errno.ENOSPC:
        return DiskError(f"The disk is full while trying to {doing} {name}: free some space and try again.")
    if error.errno == errno.EROFS or isinstance(error, PermissionError):
        return DiskError(f"No permission to {doing} {name} in {folder}: choose another folder.")
    if isinstance(error, FileNotFoundError):
        return MissingFile(f"{path} is not there: check the name and the folder.")
    if isinstance(error, IsADirectoryError):
        return RequestError(f"{path} is a folder: name a file.")
    if isinstance(error, NotADirectoryError):
        return RequestError(f"{folder} is not a folder: choose another place.")
    return WorkError(f"Could not {doing} {name}: {error.strerror or error}.")
