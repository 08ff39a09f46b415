"""Work done ahead in a thread of its own."""

from __future__ import annotations

import queue
import threading
from collections.abc import Callable, Iterator
from typing import TypeVar

T = TypeVar("T")


def ahead(make: Callable[[], Iterator[T]], most: int, name: str) -> Iterator[T]:
    """The items of an iterator that is made and worked through in a thread called ``name``, at most ``most`` ahead.

    An error in the thread comes out at its place; leaving off early stops the thread, and it is waited for.
    """
    line: queue.Queue[tuple[T] | BaseException | None] = queue.Queue(most)
    stop = threading.Event()

    def put(item: tuple[T] | BaseException | None) -> None:
        while not stop.is_set():
            try:
                line.put(item, timeout=0.1)
                return
            except queue.Full:
                continue

    def work() -> None:
        try:
            for item in make():
                put((item,))
                if stop.is_set():
                    return
            put(None)
        except BaseException as error:
            put(error)

    thread = threading.Thread(target=work, name=name, daemon=True)
    thread.start()
    try:
        while (item := line.get()) is not None:
            if isinstance(item, BaseException):
                raise item
            yield item[0]
    finally:
        stop.set()
        thread.join()
