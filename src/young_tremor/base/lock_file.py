"""Files that say that a process is at work: locked for as long as it lives, whatever its number.

Process numbers repeat (in containers every application may be number 1); a lock ends with its process.
"""

from __future__ import annotations

import fcntl
import os
from contextlib import suppress
from pathlib import Path


class LockFile:
    """An empty file under a lock. Made by :meth:`hold`; for one thread."""

    def __init__(self, path: Path, number: int) -> None:
        self.path, self._number, self._process = path, number, os.getpid()

    @classmethod
    def hold(cls, path: Path) -> LockFile | None:
        """Hold a file that is made if need be; None where somebody holds it already, or it cannot be made."""
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            number = os.open(path, os.O_RDWR | os.O_CREAT | os.O_NOFOLLOW | os.O_CLOEXEC, 0o600)
        except OSError:
            return None
        try:
            fcntl.flock(number, fcntl.LOCK_EX | fcntl.LOCK_NB)
            if os.stat(path).st_ino == os.fstat(number).st_ino:  # not removed by whoever held it a moment ago
                return cls(path, number)
        except OSError:
            pass
        os.close(number)
        return None

    def release(self) -> None:
        """Remove the file and the lock. Idempotent; never raises."""
        number, self._number = self._number, -1
        if number < 0:
            return
        if self._process == os.getpid():
            with suppress(OSError):
                self.path.unlink(missing_ok=True)
        with suppress(OSError):
            os.close(number)


def is_held(path: Path) -> bool:
    """Whether a process that is at work holds the file; False where there is none."""
    try:
        number = os.open(path, os.O_RDWR | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC)
    except OSError:
        return False
    try:
        fcntl.flock(number, fcntl.LOCK_SH | fcntl.LOCK_NB)
    except BlockingIOError:
        return True
    except OSError:
        return False
    finally:
        os.close(number)
    return False
