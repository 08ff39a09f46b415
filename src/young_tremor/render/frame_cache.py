"""What is made of pictures, kept as long as the picture itself."""

from __future__ import annotations

import threading
import weakref
from collections import OrderedDict, deque
from collections.abc import Callable, Hashable
from functools import partial
from typing import Generic, Protocol, TypeVar

from young_tremor.base.frames import Frame


class Sized(Protocol):
    """Something of so many bytes."""

    @property
    def nbytes(self) -> int: ...


V = TypeVar("V", bound=Sized)
Key = tuple[int, Hashable]


class FrameCache(Generic[V]):
    """What is made of pictures, for each by a key: up to so many bytes, and no longer than the picture is held."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._ready: OrderedDict[Key, tuple[weakref.ref[Frame], V]] = OrderedDict()
        self._gone: deque[Key] = deque()  # of pictures that nobody holds any more
        self._lock = threading.Lock()

    def of(self, frame: Frame, key: Hashable, make: Callable[[], V]) -> V:
        """What was made of a frame by a key, or is made now. For any thread."""
        whole = (id(frame), key)
        with self._lock:
            entry = self._ready.get(whole)
            if entry is not None and entry[0]() is frame:
                self._ready.move_to_end(whole)
                return entry[1]
        value = make()
        reference = weakref.ref(frame, partial(self._let_go, whole))
        with self._lock:
            self._ready[whole] = reference, value
            while len(self._ready) > 1 and sum(item.nbytes for _, item in self._ready.values()) > self._most:
                self._ready.popitem(last=False)
        return value

    def _let_go(self, key: Key, gone: weakref.ref[Frame]) -> None:
        """What was made of a picture goes with it. It may go at any moment, also while this very thread is in here."""
        self._gone.append(key)
        if self._lock.acquire(blocking=False):
            try:
                while self._gone:
                    item = self._gone.popleft()
                    entry = self._ready.get(item)
                    if entry is not None and entry[0]() is None:
                        del self._ready[item]
            finally:
                self._lock.release()
