"""Foreign files are read in a process of their own, bounded in time, memory and reach.

A server process is started at the first call and stays warm. For every call it forks a child that may read the named
file's folder and what the libraries need, nothing else (Landlock, where the kernel has it), and that ends at its
limits. What goes wrong in a library (a crash, an endless loop, a bomb) ends the child alone and becomes one sentence.
"""

from __future__ import annotations

import atexit
import ctypes
import os
import pickle
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeVar

from young_tremor.base.errors import DecodeError, TremorError, WorkError

Result = TypeVar("Result")
MOST_RESULT = 1 << 30  # bytes of a result
SLACK = 2.0  # seconds after its time limit in which a child's end must be heard
LANDLOCK_CREATE_RULESET = 444  # number of the system call
INSIDE = "_YOUNG_TREMOR_SANDBOX"  # set in the server and its children


@dataclass(frozen=True)
class Limits:
    """What one call may take: seconds, and bytes of memory on top of what the server has."""

    seconds: float = 8.0
    memory: int = 1 << 30


@dataclass(frozen=True)
class Call:
    """What a child is to do. ``folder``: the only folder of a person's that it may read; None for none."""

    function: Callable[..., Any]
    arguments: tuple[Any, ...]
    folder: str | None
    limits: Limits


def run(
    function: Callable[..., Result],
    *arguments: Any,
    name: str,
    what: str,
    path: Path | None = None,
    limits: Limits = Limits(),
) -> Result:
    """Call a function of this package in a child process. For any thread.

    Parameters
    ----------
    function
        A function of a module; it, its arguments and its result are pickled.
    name, what
        The file's name and what kind of file it is ("a drawing"), for the sentence.
    path
        The foreign file; the child reads its folder and the folders in it. None where the arguments hold everything.

    Raises
    ------
    TremorError
        What the function raised; DecodeError where it ended the child or went over a limit; WorkError where no child
        can be had.
    """
    if os.environ.get(INSIDE):
        return function(*arguments)
    folder = str(path.absolute().parent) if path is not None else None
    call = pickle.dumps(Call(function, arguments, folder, limits))
    begin = time.monotonic()
    with _SERVER.child(function.__module__) as line:
        answer = _exchange(line, call, limits.seconds + SLACK)
    if answer is None:
        if time.monotonic() - begin >= limits.seconds:
            raise DecodeError(
                f"{name} takes longer than {limits.seconds:g} s to read: it is damaged, or too much for {what}."
            )
        raise DecodeError(
            f"{name} cannot be read as {what}: it is damaged, or takes more than {limits.memory >> 20} MB of memory."
        )
    result, error = pickle.loads(answer)
    if isinstance(error, TremorError):
        raise error
    if error is not None:
        raise DecodeError(f"{name} cannot be read as {what} ({' '.join(str(error).split())[:120]}).")
    return result


def is_confined() -> bool:
    """Whether the kernel can bound what a child reads (Landlock)."""
    return bool(ctypes.CDLL(None).syscall(LANDLOCK_CREATE_RULESET, None, 0, 1) > 0)


def _exchange(line: socket.socket, call: bytes, seconds: float) -> bytearray | None:
    """Send a call and read the answer; None where the child ended without one."""
    try:
        line.settimeout(seconds)
        line.sendall(len(call).to_bytes(8, "big") + call)
        return receive(line, MOST_RESULT)
    except OSError:
        return None


def receive(line: socket.socket, most: int) -> bytearray | None:
    """One message that begins with its length; None where the other side ended or sends more than ``most`` bytes."""
    head = read_exactly(line, 8)
    if head is None:
        return None
    length = int.from_bytes(head, "big")
    return read_exactly(line, length) if length <= most else None


def read_exactly(line: socket.socket, length: int) -> bytearray | None:
    """So many bytes; None where the other side ended before."""
    data = bytearray(length)
    view, done = memoryview(data), 0
    while done < length:
        count = line.recv_into(view[done:], flags=socket.MSG_WAITALL)
        if not count:
            return None
        done += count
    return data


class _Server:
    """The warm process that forks a child for every call. For any thread; one for each process of ours."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._line: socket.socket | None = None
        self._owner = 0

    def child(self, module: str) -> socket.socket:
        """A line to a new child that has imported ``module``; WorkError where none can be had."""
        ours, theirs = socket.socketpair()
        with theirs, self._lock:
            for last in (False, True):
                try:
                    if self._line is None or self._owner != os.getpid():
                        self._start()
                    assert self._line is not None
                    socket.send_fds(self._line, [module.encode()], [theirs.fileno()])
                    return ours
                except OSError as error:  # it ended after a while without a call, or cannot be started
                    self.stop()
                    if last:
                        ours.close()
                        raise WorkError(f"The reader of foreign files cannot be started ({error}).") from error
        raise AssertionError

    def _start(self) -> None:
        self.stop()
        ours, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
        with theirs:
            environment = os.environ | {
                INSIDE: "1",
                "OPENBLAS_NUM_THREADS": "1",
                "OMP_NUM_THREADS": "1",
                "PYTHONDONTWRITEBYTECODE": "1",
            }
            self._process = subprocess.Popen(
                [sys.executable, "-P", "-m", "young_tremor.base.sandbox_server", str(theirs.fileno())],
                pass_fds=[theirs.fileno()],
                env=environment,
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
                start_new_session=True,
            )
        self._line, self._owner = ours, os.getpid()

    def stop(self) -> None:
        """End the server. Idempotent; never raises."""
        line, self._line = self._line, None
        if line is not None:
            line.close()
        process, self._process = self._process, None
        if process is not None and self._owner == os.getpid():
            try:
                process.wait(1.0)
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()


_SERVER = _Server()
atexit.register(_SERVER.stop)
