"""A store of values bounded in bytes; what was used longest ago goes first."""

from __future__ import annotations

import threading
from collections.abc import Hashable
from typing import Generic, TypeVar

from cachetools import LRUCache

K = TypeVar("K", bound=Hashable)
T = TypeVar("T")


class ByteCache(Generic[K, T]):
    """Thread-safe. ``limit`` in bytes is never exceeded; what is larger than all of it is not kept."""

    def __init__(self, limit: int) -> None:
        self.limit = limit
        self._items: LRUCache[K, tuple[T, int]] = LRUCache(limit, getsizeof=lambda item: item[1])
        self._lock = threading.Lock()

    def get(self, key: K) -> T | None:
        """What is kept under a key; None if it is not."""
        with self._lock:
            found = self._items.get(key)
        return found[0] if found is not None else None

    def put(self, key: K, value: T, size: int) -> None:
        """Keep a value of so many bytes; the ones used longest ago give way."""
        with self._lock:
            if size <= self.limit:
                self._items[key] = (value, size)

    def resize(self, limit: int) -> None:
        """Hold more or less from now on; what no longer finds room goes."""
        with self._lock:
            if limit != self.limit:
                old, self.limit = self._items, limit
                self._items = LRUCache(limit, getsizeof=lambda item: item[1])
                for key, item in old.items():
                    if item[1] <= limit:
                        self._items[key] = item

    def __contains__(self, key: K) -> bool:
        with self._lock:
            return key in self._items

    def held(self) -> list[K]:
        """What is in it."""
        with self._lock:
            return list(self._items)

    @property
    def nbytes(self) -> int:
        """Bytes of all that is kept."""
        return int(self._items.currsize)

    def clear(self) -> None:
        """Let go of everything."""
        with self._lock:
            self._items.clear()
