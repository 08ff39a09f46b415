"""A second start finds the windows that are open: each listens at a socket of its own, and is asked before one is made.

Known to nothing but the standard library, so that handing files over takes no longer than starting Python.
"""

from __future__ import annotations

import hashlib
import json
import os
import socket
from contextlib import suppress
from pathlib import Path
from typing import Any

from young_tremor.base.endings import PROJECT, TIMELINES

PATIENCE = 1.0  # seconds that a window may take to answer
MOST = 1 << 20  # bytes of a question or an answer


def folder() -> Path | None:
    """Where windows of this person on this screen listen; None where there is no such place."""
    told = os.environ.get("XDG_RUNTIME_DIR", "")
    if not os.path.isabs(told):
        return None
    screen = os.environ.get("WAYLAND_DISPLAY") or os.environ.get("DISPLAY") or os.environ.get("QT_QPA_PLATFORM", "")
    return Path(told) / "young-tremor" / hashlib.blake2s(screen.encode(), digest_size=4).hexdigest()


def hand_over(args: list[str]) -> bool:
    """Let a window that is open take what a second start was asked for; False where a window has to be made.

    A project goes to the window that has it open, or to one that is empty; footage to the window used last; with
    nothing to open, that one comes to the front.
    """
    paths = [os.path.abspath(each) for each in args]
    if not all(os.path.exists(each) for each in paths):
        return False  # the start says what is missing
    found = [(each, answer) for each in _listening() if (answer := ask(each, {"do": "say"})) is not None]
    chosen = choose([answer for _, answer in found], paths)
    if chosen is None:
        return False
    told = {"do": "open", "files": paths, "token": os.environ.get("XDG_ACTIVATION_TOKEN", "")}
    return ask(found[chosen][0], told) is not None


def choose(windows: list[dict[str, Any]], paths: list[str]) -> int | None:
    """Which window takes files, by what each says of itself: its ``project`` (a path or None), whether it is ``empty``,
    and when it was last ``used``. Its place in the list; None for a new window."""
    order = sorted(range(len(windows)), key=lambda k: -windows[k]["used"])
    projects = [each for each in paths if each.lower().endswith(PROJECT)]
    for k in order:
        if projects and windows[k]["project"] == os.path.realpath(projects[0]):
            return k
    wanted = projects or [each for each in paths if each.lower().endswith(TIMELINES)]
    return next((k for k in order if windows[k]["empty"] or not wanted), None)


def _listening() -> list[Path]:
    place = folder()
    return sorted(place.iterdir()) if place is not None and place.is_dir() else []


def ask(place: Path, question: dict[str, Any]) -> dict[str, Any] | None:
    """Ask a window; None where nobody answers. What nobody listens at any more is removed."""
    with socket.socket(socket.AF_UNIX) as line:
        line.settimeout(PATIENCE)
        try:
            line.connect(str(place))
            line.sendall(json.dumps(question).encode() + b"\n")
            return read(line)
        except ConnectionRefusedError:
            with suppress(OSError):
                place.unlink()
        except (OSError, ValueError):
            pass
    return None


def read(line: socket.socket) -> dict[str, Any] | None:
    """One message; None where it is none."""
    data = b""
    while not data.endswith(b"\n") and len(data) < MOST:
        more = line.recv(65536)
        if not more:
            break
        data += more
    found = json.loads(data)
    return found if isinstance(found, dict) else None


def listen() -> tuple[socket.socket, Path] | None:
    """A socket at which this process is found; None where there is no place for one."""
    place = folder()
    if place is None:
        return None
    line = socket.socket(socket.AF_UNIX)
    try:
        place.mkdir(mode=0o700, parents=True, exist_ok=True)
        at = place / str(os.getpid())
        at.unlink(missing_ok=True)
        line.bind(str(at))
        line.listen(8)
    except OSError:
        line.close()
        return None
    line.setblocking(False)
    return line, at
