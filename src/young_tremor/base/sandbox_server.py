"""The process that forks a child for every foreign file: ``python -m young_tremor.base.sandbox_server FD``."""

from __future__ import annotations

import ctypes
import importlib
import os
import pickle
import resource
import select
import signal
import socket
import sys
from contextlib import suppress
from typing import Any

from young_tremor.base.errors import TremorError
from young_tremor.base.sandbox import LANDLOCK_CREATE_RULESET, MOST_RESULT, Call, receive

IDLE = 120.0  # seconds without a call after which the server ends; the next call starts another
MOST_CALL = 1 << 30
PACKAGE = "young_tremor."

# Landlock: https://docs.kernel.org/userspace-api/landlock.html
ADD_RULE, RESTRICT_SELF = 445, 446
READ = 1 << 0 | 1 << 2 | 1 << 3  # execute (libraries), read files, read folders
RIGHTS = (0, (1 << 13) - 1, (1 << 14) - 1, (1 << 15) - 1, (1 << 15) - 1, (1 << 16) - 1)  # handled, by version
NETWORK = 0b11  # bind and connect, from version 4 on
PR_SET_PDEATHSIG, PR_SET_NO_NEW_PRIVS = 1, 38
FONTS = ("/usr/share", "/usr/local/share", "/etc/fonts", "~/.fonts", "~/.local/share/fonts", "$XDG_DATA_HOME/fonts")
LIBRARIES = ("/usr/lib", "/usr/lib64", "/usr/local/lib", "/lib", "/lib64")


def main() -> None:
    """Fork a child for every line that is sent, until nobody calls any more."""
    server = socket.socket(fileno=int(sys.argv[1]))
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # ended children leave nothing behind
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    while True:
        ready, _, _ = select.select([server], [], [], IDLE)
        if not ready:
            return
        message, numbers, _, _ = socket.recv_fds(server, 256, 1)
        if not message:
            return
        line = socket.socket(fileno=numbers[0])
        with suppress(ImportError):
            _load(message.decode())
        if os.fork() == 0:
            server.close()
            _serve(line)
        line.close()


def _load(name: str) -> None:
    """Import one of our modules in the server, so that its children have it."""
    if not name.startswith(PACKAGE) or name in sys.modules:
        return
    module = importlib.import_module(name)
    warm = getattr(module, "warm_up", None)
    if warm is not None:
        warm()


def _serve(line: socket.socket) -> None:
    """Do one call in this process, answer, and end."""
    status = 1
    try:
        data = receive(line, MOST_CALL)
        if data is not None:
            call: Call = pickle.loads(data)
            _limit(call)
            answer = pickle.dumps(_answer(call), protocol=pickle.HIGHEST_PROTOCOL)
            if len(answer) <= MOST_RESULT:
                line.sendall(len(answer).to_bytes(8, "big"))
                line.sendall(answer)
                status = 0
    finally:
        os._exit(status)


def _answer(call: Call) -> tuple[Any, Exception | None]:
    try:
        return call.function(*call.arguments), None
    except TremorError as error:
        return None, error.__class__(str(error))
    except MemoryError:
        os._exit(3)
    except Exception as error:
        return None, RuntimeError(str(error) or type(error).__name__)


def _limit(call: Call) -> None:
    """Bound this process in time, memory and reach."""
    signal.signal(signal.SIGALRM, signal.SIG_DFL)
    signal.setitimer(signal.ITIMER_REAL, call.limits.seconds)  # the kernel ends it, wherever it is
    with open("/proc/self/statm", encoding="ascii") as file:
        present = int(file.read().split()[0]) * resource.getpagesize()
    most = present + call.limits.memory
    _, ceiling = resource.getrlimit(resource.RLIMIT_AS)
    if ceiling != resource.RLIM_INFINITY:
        most = min(most, ceiling)
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    library = ctypes.CDLL(None, use_errno=True)
    library.prctl(PR_SET_PDEATHSIG, signal.SIGKILL, 0, 0, 0)
    _restrict(library, call.folder)


def _restrict(library: ctypes.CDLL, folder: str | None) -> None:
    """Let this process read one folder and what libraries need, and nothing else, where the kernel can do that."""
    version = library.syscall(LANDLOCK_CREATE_RULESET, None, 0, 1)
    if version < 1:
        return
    rights = RIGHTS[min(version, len(RIGHTS) - 1)]
    rule_set = (ctypes.c_uint64 * 2)(rights, NETWORK if version >= 4 else 0)
    number = library.syscall(LANDLOCK_CREATE_RULESET, rule_set, 16 if version >= 4 else 8, 0)
    if number < 0:
        return
    homes = [os.path.expandvars(os.path.expanduser(name)) for name in FONTS]
    for path in dict.fromkeys([*LIBRARIES, *homes, *sys.path, sys.prefix, sys.base_prefix, folder or ""]):
        if os.path.isabs(path):
            _allow(library, number, path)
    library.prctl(PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0)
    library.syscall(RESTRICT_SELF, number, 0)
    os.close(number)


def _allow(library: ctypes.CDLL, rule_set: int, path: str) -> None:
    try:
        place = os.open(path, os.O_PATH | os.O_CLOEXEC)
    except OSError:
        return
    try:
        rights = READ if os.path.isdir(path) else READ & ~(1 << 3)
        rule = rights.to_bytes(8, sys.byteorder) + place.to_bytes(4, sys.byteorder, signed=True)
        library.syscall(ADD_RULE, rule_set, 1, rule, 0)
    finally:
        os.close(place)


if __name__ == "__main__":
    main()
