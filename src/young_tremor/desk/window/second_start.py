"""Where a second start knocks: what it was asked to open comes into this window."""

from __future__ import annotations

import json
import os
import socket
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

from PySide6.QtCore import QEvent, QObject, QSocketNotifier, Qt, QTimer

from young_tremor.base import single_instance
from young_tremor.desk.window.window import MainWindow

WAIT = 1000  # milliseconds that a question may take
MOST_CALLERS = 8  # at once


class SecondStartListener(QObject):
    """Answers other starts of the application; there is none where the desktop has no folder for it."""

    def __init__(self, window: MainWindow) -> None:
        super().__init__(window)
        self._window, self._used = window, time.time()
        self._line = single_instance.listen()
        self._callers: set[_Caller] = set()
        window.installEventFilter(self)
        if self._line is not None:
            self._notifier = QSocketNotifier(self._line[0].fileno(), QSocketNotifier.Type.Read, self)
            self._notifier.activated.connect(self._accept)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.WindowActivate:
            self._used = time.time()
        return False

    def _accept(self) -> None:
        assert self._line is not None
        with suppress(OSError):
            line, _ = self._line[0].accept()
            if len(self._callers) >= MOST_CALLERS or not single_instance.is_same_person(line):
                line.close()
                return
            self._callers.add(_Caller(self, line, self._answer, self._callers.discard))

    def _answer(self, question: dict[str, Any]) -> dict[str, Any]:
        session = self._window.desk.session
        if question.get("do") == "open":
            names, token = question.get("files"), question.get("token")
            names = names if isinstance(names, list) else []
            paths = [name for name in names[: single_instance.MOST_FILES] if isinstance(name, str) and "\0" not in name]
            token = token if isinstance(token, str) and "\0" not in token else ""
            QTimer.singleShot(0, self, lambda: self._open(paths, token))
        return {
            "project": os.path.realpath(session.path) if session.path is not None else None,
            "empty": session.path is None and not session.project.shots and not session.dirty,
            "used": self._used,
        }

    def _open(self, names: list[str], token: str) -> None:
        window = self._window
        if token:
            os.environ["XDG_ACTIVATION_TOKEN"] = token  # by which the desktop lets a window come to the front
        window.setWindowState(window.windowState() & ~Qt.WindowState.WindowMinimized)
        window.show()
        window.raise_()
        window.activateWindow()
        path = window.desk.session.path
        here = os.path.realpath(path) if path is not None else None
        paths = [Path(name) for name in names if os.path.realpath(name) != here]
        if paths:
            window.act.files.open_all(paths)

    def close(self) -> None:
        """Listen no more."""
        for caller in tuple(self._callers):
            caller.close()
        if self._line is not None:
            self._notifier.setEnabled(False)
            line, at = self._line
            line.close()
            with suppress(OSError):
                at.unlink()
            self._line = None


class _Caller(QObject):
    """Another start that is connected: read as its bytes come, answered once, and let go after ``WAIT`` at the
    latest. The window never waits for it."""

    def __init__(
        self,
        parent: QObject,
        line: socket.socket,
        answer: Callable[[dict[str, Any]], dict[str, Any]],
        gone: Callable[[_Caller], None],
    ) -> None:
        super().__init__(parent)
        self._line, self._answer, self._gone, self._data = line, answer, gone, b""
        line.setblocking(False)
        self._notifier = QSocketNotifier(line.fileno(), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._read)
        QTimer.singleShot(WAIT, self, self.close)

    def _read(self) -> None:
        try:
            more = self._line.recv(65536)
        except BlockingIOError:
            return
        except OSError:
            self.close()
            return
        self._data += more
        if more and not self._data.endswith(b"\n") and len(self._data) <= single_instance.MOST:
            return
        question = single_instance.parse(self._data) if len(self._data) <= single_instance.MOST else None
        if question is not None:
            with suppress(OSError):
                self._line.sendall(json.dumps(self._answer(question)).encode() + b"\n")
        self.close()

    def close(self) -> None:
        """Let the other start go. Idempotent."""
        if self._line.fileno() >= 0:
            self._notifier.setEnabled(False)
            self._line.close()
            self._gone(self)
            self.deleteLater()
