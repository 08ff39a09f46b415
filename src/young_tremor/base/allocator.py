"""How the C library deals with memory, where it can be told."""

from __future__ import annotations

import ctypes
from contextlib import suppress

_ARENA_MAX, _MMAP_THRESHOLD, _TRIM_THRESHOLD = -8, -3, -1


def tidy() -> None:
    """Keep the C library from holding on to what threads have given back: few arenas, and pictures by themselves, so
    that a cache whose oldest go leaves no holes."""
    with suppress(OSError, AttributeError):
        library = ctypes.CDLL(None)
        for name, value in ((_ARENA_MAX, 2), (_MMAP_THRESHOLD, 128 << 10), (_TRIM_THRESHOLD, 8 << 20)):
            library.mallopt(name, value)


def give_back() -> None:
    """Give to the system what lies free between what is used."""
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).malloc_trim(0)
