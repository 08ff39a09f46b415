"""A small observer, so that the core can speak without knowing Qt."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any


class Signal:
    """Calls its listeners in the order they came, in the emitting thread."""

    def __init__(self) -> None:
        self._listeners: tuple[Callable[..., Any], ...] = ()

    def connect(self, listener: Callable[..., Any]) -> Callable[[], None]:
        """Add ``listener``; the returned function takes it away again."""
        self._listeners = (*self._listeners, listener)

        def disconnect() -> None:
            self._listeners = tuple(item for item in self._listeners if item is not listener)

        return disconnect

    def clear(self) -> None:
        """Forget every listener."""
        self._listeners = ()

    def emit(self, *args: Any) -> None:
        """Call every listener with ``args``."""
        for listener in self._listeners:
            listener(*args)
