"""A store of values bounded in bytes; what was used longest ago goes first."""

from __future__ import annotations

import threading
from collections.abc import Hashable
from typing import Generic, TypeVar

from cachetools import LRUCache

T = TypeVar("T")


class ByteCache(Generic[T]):
    """Thread-safe. ``limit`` in bytes is never exceeded; what is larger than all of it is not kept."""

    def __init__(self, limit: int) -> None:
        self.limit = limit
        self._items: LRUCache[Hashable, tuple[T, int]] = LRUCache(limit, getsizeof=lambda item: item[1])
        self._lock = threading.Lock()

    def get(self, key: Hashable) -> T | None:
        with self._lock:
            found = self._items.get(key)
        return found[0] if found is not None else None

    def put(self, key: Hashable, value: T, size: int) -> None:
        with self._lock:
            if size <= self.limit:
                self._items[key] = (value, size)

    def __contains__(self, key: Hashable) -> bool:
        with self._lock:
            return key in self._items

    @property
    def nbytes(self) -> int:
        return int(self._items.currsize)

    def clear(self) -> None:
        with self._lock:
            self._items.clear()
