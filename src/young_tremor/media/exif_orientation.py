"""How a JPEG picture was held, by its Exif tag: turned, and mirrored as the film library does not tell."""

from __future__ import annotations

import struct
from pathlib import Path

ORIENTATION = 0x0112
MOST = 1 << 18  # bytes that are looked through
#: By the tag's value: quarter turns anticlockwise that bring it upright, and whether it is mirrored then.
WAYS = {
    1: (0, False),
    2: (0, True),
    3: (2, False),
    4: (2, True),
    5: (3, True),
    6: (3, False),
    7: (1, True),
    8: (1, False),
}


def orientation(path: Path) -> tuple[int, bool] | None:
    """Quarter turns anticlockwise, and whether it is then to be mirrored left to right; None where no tag says it."""
    try:
        with open(path, "rb") as file:
            data = file.read(MOST)
        return WAYS.get(_orientation(data))
    except (OSError, struct.error, IndexError, ValueError):
        return None


def _orientation(data: bytes) -> int:
    """The tag of a JPEG file's bytes; 0 where there is none (Exif 2.32, 4.6)."""
    if data[:2] != b"\xff\xd8":
        return 0
    at = 2
    while data[at] == 0xFF:
        marker, size = data[at + 1], struct.unpack(">H", data[at + 2 : at + 4])[0]
        if marker == 0xE1 and data[at + 4 : at + 10] == b"Exif\0\0":
            return _first_directory(data[at + 10 : at + 2 + size])
        if marker in (0xDA, 0xD9):
            break
        at += 2 + size
    return 0


def _first_directory(tiff: bytes) -> int:
    order = {b"II": "<", b"MM": ">"}[tiff[:2]] if tiff[:2] in (b"II", b"MM") else ""
    if not order:
        return 0
    start = struct.unpack(f"{order}L", tiff[4:8])[0]
    for number in range(struct.unpack(f"{order}H", tiff[start : start + 2])[0]):
        entry = tiff[start + 2 + 12 * number :][:12]
        tag, _, _, value = struct.unpack(f"{order}HHLH", entry[:10])
        if tag == ORIENTATION:
            return int(value)
    return 0
