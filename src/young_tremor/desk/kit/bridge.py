"""The one way from worker threads to the desk: calls are carried over as queued Qt signals."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any

import shiboken6
from PySide6.QtCore import QObject, Qt, Signal

from young_tremor.engine import log


class _Carrier(QObject):
    call = Signal(object)

    def __init__(self, owner: QObject, listener: Callable[..., Any]) -> None:
        super().__init__(owner)
        self._listener = listener
        self.call.connect(self._receive, Qt.ConnectionType.QueuedConnection)

    def _receive(self, args: tuple) -> None:
        self._listener(*args)


def guarded(handler: Callable[[Any, Any], bool]) -> Callable[[Any, Any], bool]:
    """An ``event()`` whose exceptions go to the log: one that leaves it can end the process (PySide6 6.11)."""

    @wraps(handler)
    def caught(widget: Any, event: Any) -> bool:
        try:
            return handler(widget, event)
        except Exception as error:
            log.unexpected(error)
            return True

    return caught


def on_desk(owner: QObject, listener: Callable[..., Any]) -> Callable[..., None]:
    """A function for any thread that calls ``listener`` in the desk's thread, as long as ``owner`` lives."""
    carrier = _Carrier(owner, listener)

    def send(*args: Any) -> None:
        if shiboken6.isValid(carrier):
            carrier.call.emit(args)

    return send
