"""The mastering display and light level in a QuickTime or MP4 file, for codecs whose own stream does not carry them.

They are boxes of the picture's sample description (``mdcv`` and ``clli``, ISO/IEC 14496-12, 12.1.5). The file's index
has to be its last box, so that nothing moves when it grows.
"""

from __future__ import annotations

import struct
from collections.abc import Iterator
from pathlib import Path

from young_tremor.base.frames import Mastering

_WAY = (b"mdia", b"minf", b"stbl", b"stsd")
_MOST_INDEX = 1 << 28  # bytes of an index that is read
_ENTRIES, _PICTURE = 8, 86  # bytes before the first sample description, and before the boxes in one of a picture


def write_mastering(path: Path, mastering: Mastering) -> bool:
    """Write it into the (first) picture track of a finished file; whether its index could take it."""
    more = b""
    if mastering.display:
        red, green, blue, white = (mastering.display[k : k + 2] for k in (0, 2, 4, 6))
        least, most = mastering.display[8:]
        more += struct.pack(">I4s8H2I", 32, b"mdcv", *green, *blue, *red, *white, most, least)
    if mastering.light:
        more += struct.pack(">I4s2H", 12, b"clli", *mastering.light)
    with path.open("r+b") as file:
        at = _index_of(file.seek(0, 2), path)
        if at is None:
            return False
        file.seek(at)
        index = bytearray(file.read())
        around = _picture_description(index)
        if around is None:
            return False
        end = _end_of_boxes(index, around[-1])
        for start in around:
            struct.pack_into(">I", index, start, struct.unpack_from(">I", index, start)[0] + len(more))
        index[end:end] = more
        file.seek(at)
        file.write(index)
    return True


def _index_of(size: int, path: Path) -> int | None:
    """Where the file's index begins, if it is the last box."""
    at = 0
    with path.open("rb") as file:
        while at < size:
            file.seek(at)
            length, kind, wide = struct.unpack(">I4sQ", file.read(16).ljust(16, b"\0"))
            length = wide if length == 1 else length
            if kind == b"moov":
                return at if at + length == size and length < _MOST_INDEX else None
            if length < 8:
                return None
            at += length
    return None


def _picture_description(index: bytearray) -> list[int] | None:
    """Where the boxes around the first sample description of the first picture begin, outermost first, then itself."""
    for kind, start, end in _boxes(index, 8, len(index)):
        if kind != b"trak" or b"vmhd" not in index[start:end]:
            continue
        around = [0, start]
        for name in _WAY:
            inner = next((box for box in _boxes(index, around[-1] + 8, end) if box[0] == name), None)
            if inner is None:
                return None
            around.append(inner[1])
            end = inner[2]
        return [*around, around[-1] + 8 + _ENTRIES]
    return None


def _end_of_boxes(index: bytearray, entry: int) -> int:
    """Where the boxes of a picture's sample description end; zeros may follow."""
    (length,) = struct.unpack_from(">I", index, entry)
    return max((end for _, _, end in _boxes(index, entry + _PICTURE, entry + length)), default=entry + length)


def _boxes(data: bytearray, start: int, end: int) -> Iterator[tuple[bytes, int, int]]:
    """(kind, start, end) of the boxes between two places."""
    while start + 8 <= end:
        length, kind = struct.unpack_from(">I4s", data, start)
        if length < 8:
            return
        yield kind, start, start + length
        start += length
