"""A store of values bounded in bytes; what was used longest ago goes first."""

from __future__ import annotations

import threading
from collections.abc import Hashable
from typing import Generic, TypeVar

from cachetools import Cache, LRUCache

K = TypeVar("K", bound=Hashable)
T = TypeVar("T")


class _BoundedItems(LRUCache, Generic[K]):
    """Values with their bytes. ``gone``: the keys of what gave way."""

    def __init__(self, limit: int) -> None:
        super().__init__(limit, getsizeof=lambda item: item[1])
        self.gone: list[K] = []

    def popitem(self) -> tuple[K, object]:
        key, value = super().popitem()
        self.gone.append(key)
        return key, value


class ByteCache(Generic[K, T]):
    """Thread-safe. ``limit`` in bytes is never exceeded; what is larger than all of it is not kept."""

    def __init__(self, limit: int) -> None:
        self.limit = limit
        self._items: _BoundedItems[K] = _BoundedItems(limit)
        self._lock = threading.Lock()

    def get(self, key: K) -> T | None:
        """What is kept under a key; None if it is not."""
        with self._lock:
            found = self._items.get(key)
        return found[0] if found is not None else None

    def peek(self, key: K) -> T | None:
        """The same, which does not count as a use."""
        with self._lock:
            return Cache.__getitem__(self._items, key)[0] if key in self._items else None

    def put(self, key: K, value: T, size: int) -> list[K]:
        """Keep a value of so many bytes; the ones used longest ago give way, and their keys are returned."""
        with self._lock:
            if size > self.limit:
                return []
            self._items[key] = (value, size)
            gone, self._items.gone = self._items.gone, []
            return gone

    def resize(self, limit: int) -> list[K]:
        """Hold more or less from now on; the keys of what no longer finds room."""
        with self._lock:
            if limit == self.limit:
                return []
            old, self.limit = self._items, limit
            self._items = _BoundedItems(limit)
            for key, item in old.items():
                if item[1] <= limit:
                    self._items[key] = item
            self._items.gone.clear()
            return [key for key in old if key not in self._items]

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
