"""Work that gives way to the picture: while one is waited for in a drag, everything else follows after it."""

from __future__ import annotations

import time
from collections.abc import Callable
from weakref import WeakSet

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

APART = 50  # milliseconds between two times that the rest follows in a drag, at least
SHARE = 4  # times as long as following took it waits, so that on a slow machine the picture keeps its turn
PATIENCE = 200  # milliseconds that it waits at most


class AfterPicture(QObject):
    """What follows the picture: widgets to be painted again, and one call that lets them know what changed.

    What is under the pointer is dragged itself, and never waits.
    """

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._held, self._last, self._took = False, 0.0, 0.0
        self._waiting: WeakSet[QWidget] = WeakSet()
        self._call: Callable[[], None] | None = None
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._catch_up)

    def hold(self) -> None:
        """A picture is waited for."""
        if not self._held:
            self._held = True
            self._timer.start(PATIENCE)

    def release(self) -> None:
        """It is there: what waits is painted next, unless that was done just now."""
        if self._held:
            apart = max(APART, min(PATIENCE, SHARE * self._took))
            self._timer.start(max(0, round(apart - 1000 * (time.monotonic() - self._last))))

    def soon(self, widget: QWidget) -> None:
        """Paint a widget again, after the picture where one is waited for."""
        if self._held and not widget.underMouse():
            self._waiting.add(widget)
        else:
            widget.update()

    def follow(self, call: Callable[[], None]) -> None:
        """Call this after the picture where one is waited for, instead of what was to be called; now otherwise."""
        if self._held:
            self._call = call
        else:
            call()

    def end(self) -> None:
        """The drag is over: nothing waits any longer."""
        self._timer.stop()
        self._call = None
        self._catch_up()

    def _catch_up(self) -> None:
        self._held = False
        call, self._call = self._call, None
        begun = time.monotonic()
        if call is not None:
            call()
        self._last = time.monotonic()
        self._took = 1000 * (self._last - begun)
        for widget in list(self._waiting):
            if isValid(widget):
                widget.update()
        self._waiting.clear()
