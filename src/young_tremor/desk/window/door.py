"""Where a second start knocks: what it was asked to open comes into this window."""

from __future__ import annotations

import json
import os
import time
from contextlib import suppress
from pathlib import Path
from typing import Any

from PySide6.QtCore import QEvent, QObject, QSocketNotifier, Qt, QTimer

from young_tremor.base import neighbours
from young_tremor.desk.window.window import Window

WAIT = 0.2  # seconds for a question that has begun


class Door(QObject):
    """Answers other starts of the application; there is none where the desktop has no folder for it."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self._window, self._used = window, time.time()
        self._line = neighbours.listen()
        window.installEventFilter(self)
        if self._line is not None:
            self._notifier = QSocketNotifier(self._line[0].fileno(), QSocketNotifier.Type.Read, self)
            self._notifier.activated.connect(self._come)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.WindowActivate:
            self._used = time.time()
        return False

    def _come(self) -> None:
        assert self._line is not None
        with suppress(OSError, ValueError):
            line, _ = self._line[0].accept()
            with line:
                line.settimeout(WAIT)
                question = neighbours.read(line)
                if question is not None:
                    line.sendall(json.dumps(self._answer(question)).encode() + b"\n")

    def _answer(self, question: dict[str, Any]) -> dict[str, Any]:
        session = self._window.session
        if question.get("do") == "open":
            QTimer.singleShot(0, self, lambda: self._open(question))
        return {
            "project": os.path.realpath(session.path) if session.path is not None else None,
            "empty": session.path is None and not session.project.shots and not session.dirty,
            "used": self._used,
        }

    def _open(self, question: dict[str, Any]) -> None:
        window = self._window
        if token := question.get("token"):
            os.environ["XDG_ACTIVATION_TOKEN"] = str(token)  # by which the desktop lets a window come to the front
        window.setWindowState(window.windowState() & ~Qt.WindowState.WindowMinimized)
        window.show()
        window.raise_()
        window.activateWindow()
        path = window.session.path
        here = os.path.realpath(path) if path is not None else None
        paths = [Path(str(each)) for each in question.get("files", []) if os.path.realpath(str(each)) != here]
        if paths:
            window.files.open_all(paths)

    def close(self) -> None:
        """Listen no more."""
        if self._line is not None:
            self._notifier.setEnabled(False)
            line, at = self._line
            line.close()
            with suppress(OSError):
                at.unlink()
            self._line = None
