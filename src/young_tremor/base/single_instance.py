"""A second start finds the windows that are open: each listens at a socket of its own, and is asked before one is made.

Known to nothing but the standard library, so that handing files over takes no longer than starting Python.
"""

from __future__ import annotations

import hashlib
import itertools
import json
import os
import socket
import stat
import struct
import time
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from young_tremor.base.suffixes import PROJECT, TIMELINES

PATIENCE = 2.0  # seconds that all windows together may take to answer
MOST = 1 << 20  # bytes of a question or an answer
MOST_FILES = 1000  # that are handed over
MOST_ENTRIES = 10_000  # of the folder that are looked at
MOST_WINDOWS = 16  # that are asked


def folder() -> Path | None:
    """Where windows of this person on this screen listen; None where there is no such place."""
    text = os.environ.get("XDG_RUNTIME_DIR", "")
    if not os.path.isabs(text):
        return None
    screen = os.environ.get("WAYLAND_DISPLAY") or os.environ.get("DISPLAY") or os.environ.get("QT_QPA_PLATFORM", "")
    return Path(text) / "young-tremor" / hashlib.blake2s(screen.encode(), digest_size=4).hexdigest()


def hand_over(args: list[str]) -> bool:
    """Let a window that is open take what a second start was asked for; False where a window has to be made.

    A project goes to the window that has it open, or to one that is empty; footage to the window used last; with
    nothing to open, that one comes to the front. Takes at most ``PATIENCE`` seconds in all.
    """
    paths = [os.path.abspath(name) for name in args]
    if len(paths) > MOST_FILES or not all(os.path.exists(path) for path in paths):
        return False  # the start says what is missing
    deadline = time.monotonic() + PATIENCE
    places = _listening()
    windows = [(place, window) for place in places if (window := _window(ask(place, {"do": "say"}, deadline)))]
    chosen = choose([window for _, window in windows], paths)
    if chosen is None:
        return False
    request = {"do": "open", "files": paths, "token": os.environ.get("XDG_ACTIVATION_TOKEN", "")}
    return ask(windows[chosen][0], request, deadline) is not None


@dataclass(frozen=True)
class OpenWindow:
    """What a window says of itself: the path of its project, whether it is empty, and when it was last used."""

    project: str | None
    empty: bool
    used: float


def _window(answer: dict[str, Any] | None) -> OpenWindow | None:
    """An answer as a window; None for anything else."""
    if answer is None:
        return None
    project, empty, used = answer.get("project"), answer.get("empty"), answer.get("used")
    if not (project is None or isinstance(project, str)) or not isinstance(empty, bool):
        return None
    if isinstance(used, bool) or not isinstance(used, int | float) or not 0 <= used < 1e12:
        return None
    return OpenWindow(project, empty, float(used))


def choose(windows: list[OpenWindow], paths: list[str]) -> int | None:
    """Which window takes files: its place in the list; None for a new window."""
    order = sorted(range(len(windows)), key=lambda k: -windows[k].used)
    projects = [path for path in paths if path.lower().endswith(PROJECT)]
    for k in order:
        if projects and windows[k].project == os.path.realpath(projects[0]):
            return k
    wanted = projects or [path for path in paths if path.lower().endswith(TIMELINES)]
    return next((k for k in order if windows[k].empty or not wanted), None)


def _listening() -> list[Path]:
    """The sockets of this person's windows, newest first; nothing else that lies there."""
    place = folder()
    if place is None or not _is_own(place):
        return []
    sockets: list[tuple[float, Path]] = []
    with suppress(OSError), os.scandir(place) as entries:
        for entry in itertools.islice(entries, MOST_ENTRIES):
            if entry.name.isdigit():
                facts = entry.stat(follow_symlinks=False)
                if stat.S_ISSOCK(facts.st_mode) and facts.st_uid == os.geteuid():
                    sockets.append((facts.st_mtime, Path(entry.path)))
    return [path for _, path in sorted(sockets, reverse=True)[:MOST_WINDOWS]]


def _is_own(place: Path) -> bool:
    """Whether a folder and the one above it are this person's, and nobody else may write there."""
    try:
        facts = [os.lstat(path) for path in (place, place.parent)]
    except OSError:
        return False
    return all(
        stat.S_ISDIR(fact.st_mode) and fact.st_uid == os.geteuid() and not fact.st_mode & 0o022 for fact in facts
    )


def ask(place: Path, question: dict[str, Any], deadline: float) -> dict[str, Any] | None:
    """Ask a window; None where nobody answers by the deadline (monotonic). A socket that nobody listens at any more is
    removed."""
    with socket.socket(socket.AF_UNIX) as line:
        line.settimeout(max(deadline - time.monotonic(), 0.001))
        try:
            line.connect(str(place))
            line.sendall(json.dumps(question).encode() + b"\n")
            return _read(line, deadline)
        except ConnectionRefusedError:
            with suppress(OSError):
                place.unlink()
        except OSError:
            pass
    return None


def _read(line: socket.socket, deadline: float) -> dict[str, Any] | None:
    """One message; None where it is none, is too long or comes too late."""
    data = b""
    while not data.endswith(b"\n"):
        left = deadline - time.monotonic()
        if left <= 0 or len(data) > MOST:
            return None
        line.settimeout(left)
        more = line.recv(65536)
        if not more:
            break
        data += more
    return parse(data)


def parse(data: bytes) -> dict[str, Any] | None:
    """A message as a dict; None where it is none."""
    try:
        message = json.loads(data)
    except (ValueError, RecursionError):
        return None
    return message if isinstance(message, dict) else None


def is_same_person(line: socket.socket) -> bool:
    """Whether the other end of a connection belongs to this person."""
    try:
        _, user, _ = struct.unpack("3i", line.getsockopt(socket.SOL_SOCKET, socket.SO_PEERCRED, struct.calcsize("3i")))
    except OSError:
        return False
    return int(user) == os.geteuid()


def listen() -> tuple[socket.socket, Path] | None:
    """A socket at which this process is found; None where there is no place for one of this person's own."""
    place = folder()
    if place is None:
        return None
    line = socket.socket(socket.AF_UNIX)
    try:
        place.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        place.mkdir(mode=0o700, exist_ok=True)
        if not _is_own(place):
            raise PermissionError(place)
        at = place / str(os.getpid())
        at.unlink(missing_ok=True)
        line.bind(str(at))
        line.listen(8)
    except OSError:
        line.close()
        return None
    line.setblocking(False)
    return line, at
