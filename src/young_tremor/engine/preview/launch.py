"""Starting the process of the preview. Imports nothing of ours, so that it is under way before anything else is."""

from __future__ import annotations

import socket
import subprocess
import sys
from collections.abc import Sequence
from contextlib import suppress
from typing import NamedTuple


class Launched(NamedTuple):
    """A process of the preview, and the line to it."""

    process: subprocess.Popen[bytes]
    line: socket.socket


_begun: Launched | None = None


def begin(begun_with: Sequence[str]) -> None:
    """Start the process of the first window's preview: it makes the first picture while the window is still built."""
    global _begun
    with suppress(OSError, ValueError):  # what is no name for a file either is said by who opens it
        _begun = launch(begun_with)


def take() -> Launched | None:
    """The process that was begun; None where none was, or it could not be."""
    global _begun
    begun, _begun = _begun, None
    return begun


def launch(begun_with: Sequence[str]) -> Launched:
    """Start a process (:mod:`.preview_server`) that first makes a picture of what the window is begun with, ``demo`` or
    files. OSError where there is none to be had."""
    ours, theirs = socket.socketpair()
    module, number = "young_tremor.engine.preview.preview_server", str(theirs.fileno())
    with theirs:
        try:
            process = subprocess.Popen(
                [sys.executable, "-P", "-m", module, number, *begun_with],
                pass_fds=[theirs.fileno()],
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
                start_new_session=True,
            )
        except OSError:
            ours.close()
            raise
    return Launched(process, ours)


def end(launched: Launched, patience: float = 0.0) -> None:
    """End a process, which has so many seconds to do it by itself, and wait until it has ended."""
    with suppress(OSError):
        launched.line.shutdown(socket.SHUT_RDWR)
    try:
        launched.process.wait(patience)
    except subprocess.TimeoutExpired:
        launched.process.kill()
        launched.process.wait()
    launched.line.close()
