"""Files that stay open: reading on in one is many times faster than opening it again."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

from young_tremor.base.frames import FrameSource
from young_tremor.model.project import Media

MOST, BYTES = 8, 260 << 20  # files, and bytes that they may take where the shot needs fewer
EACH = 10  # pictures that an open file holds: decoded ones, those that others are made from, threads

Key = tuple[Media, str, tuple[int, ...], tuple[int, ...]]  # a plate's media, its depth's path, file's state, size


class OpenReaders:
    """Those used longest ago are closed. For one thread."""

    def __init__(self) -> None:
        self._open: dict[Key, FrameSource] = {}

    def __iter__(self) -> Iterator[Key]:
        return iter(tuple(self._open))

    def take(self, key: Key, opened: Callable[[], FrameSource], needed: int) -> FrameSource:
        """A reader, opened if it is not there; at least ``needed`` of them stay."""
        reader = self._open.pop(key, None) or opened()
        self._open[key] = reader
        while len(self._open) > max(2, needed) and (len(self._open) > MOST or self._bytes > BYTES):
            self._open.pop(next(iter(self._open))).close()
        return reader

    def drop(self, keys: Iterable[Key]) -> None:
        """Close some, where they are open."""
        for key in keys:
            if key in self._open:
                self._open.pop(key).close()

    def close(self) -> None:
        self.drop(self)

    @property
    def _bytes(self) -> int:
        infos = [reader.info for reader in self._open.values()]
        return sum(info.format.nbytes(info.size) * EACH for info in infos if not info.still)
