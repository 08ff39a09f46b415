"""A store of values bounded in bytes; what was used longest ago goes first."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Hashable
from typing import Generic, TypeVar

T = TypeVar("T")


class ByteCache(Generic[T]):
    """Thread-safe. ``limit`` in bytes is never exceeded but by a single value larger than it."""

    def __init__(self, limit: int) -> None:
        self.limit = limit
        self._items: OrderedDict[Hashable, tuple[T, int]] = OrderedDict()
        self._bytes = 0
        self._lock = threading.Lock()

    def get(self, key: Hashable) -> T | None:
        with self._lock:
            found = self._items.get(key)
            if found is None:
                return None
            self._items.move_to_end(key)
            return found[0]

    def put(self, key: Hashable, value: T, size: int) -> None:
        with self._lock:
            if key in self._items:
                self._bytes -= self._items.pop(key)[1]
            while self._items and self._bytes + size > self.limit:
                self._bytes -= self._items.popitem(last=False)[1][1]
            self._items[key] = (value, size)
            self._bytes += size

    def __contains__(self, key: Hashable) -> bool:
        return key in self._items

    @property
    def nbytes(self) -> int:
        return self._bytes

    def clear(self) -> None:
        with self._lock:
            self._items.clear()
            self._bytes = 0
