"""A thread that does what it is given, in order, and owns what it opens."""

from __future__ import annotations

import queue
import threading
from collections.abc import Callable
from concurrent.futures import Future
from typing import TypeVar

T = TypeVar("T")


class Worker:
    """Unlike those of an executor its thread never keeps a process from ending. Any thread may give it work."""

    def __init__(self, name: str) -> None:
        self._line: queue.SimpleQueue[tuple[Future, Callable[[], object]] | None] = queue.SimpleQueue()
        self._thread = threading.Thread(target=self._run, name=name, daemon=True)
        self._thread.start()

    def give(self, work: Callable[[], T]) -> Future[T]:
        """Do this after what was given before. It can be cancelled until it is begun."""
        future: Future[T] = Future()
        self._line.put((future, work))
        return future

    def close(self) -> None:
        """End once all that was given is done, which is not waited for."""
        self._line.put(None)

    def join(self, patience: float) -> None:
        """Wait so many seconds at most until it has ended."""
        self._thread.join(patience)

    def _run(self) -> None:
        while (item := self._line.get()) is not None:
            future, work = item
            if future.set_running_or_notify_cancel():
                try:
                    future.set_result(work())
                except BaseException as error:
                    future.set_exception(error)
            del item, future, work
