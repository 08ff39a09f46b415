"""The one way from worker threads to the desk: calls are carried over as queued Qt signals."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any

import shiboken6
from PySide6.QtCore import QObject, Qt, Signal

from young_tremor.engine.system import log


class _Carrier(QObject):
    """Lives in the desk's thread as long as the process: a thread that emits a signal of an object that is deleted at
    that moment would end the process."""

    call = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.call.connect(self._receive, Qt.ConnectionType.QueuedConnection)

    def _receive(self, call: tuple[QObject, Callable[..., Any], tuple]) -> None:
        owner, listener, args = call
        if shiboken6.isValid(owner):
            listener(*args)


_carriers: list[_Carrier] = []


def guard_event(handler: Callable[[Any, Any], bool]) -> Callable[[Any, Any], bool]:
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
    if not _carriers or not shiboken6.isValid(_carriers[-1]):
        _carriers.append(_Carrier())
    carrier = _carriers[-1]

    def send(*args: Any) -> None:
        carrier.call.emit((owner, listener, args))

    return send
