"""JSON into checked structs, safe in several threads at once.

msgspec builds what it knows of a type at the first use. Two threads that do so at once can end the process (seen with
0.22, not with 0.23), so the first use of every type happens here under a lock.
"""

from __future__ import annotations

import threading
from typing import Any, TypeVar

import msgspec

Struct = TypeVar("Struct")
_lock = threading.Lock()
_ready: set[Any] = set()  # types that msgspec has built


def convert(raw: Any, kind: type[Struct]) -> Struct:
    """Plain values as a ``kind``; msgspec.ValidationError where they are none. For any thread."""
    if kind not in _ready:
        with _lock:
            try:
                msgspec.convert(None, kind)  # builds the type, then refuses the value
            except msgspec.ValidationError:
                pass
            _ready.add(kind)
    try:
        return msgspec.convert(raw, kind)
    except OverflowError:
        raise msgspec.ValidationError("A number is too large") from None


def decode(data: bytes, kind: type[Struct]) -> Struct:
    """JSON bytes as a ``kind``; msgspec.DecodeError or ValidationError where they are none. For any thread."""
    try:
        return convert(msgspec.json.decode(data), kind)
    except RecursionError:
        raise msgspec.DecodeError("It is nested too deeply.") from None
