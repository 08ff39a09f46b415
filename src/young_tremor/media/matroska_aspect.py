"""The shape of a pixel in a Matroska file, for codecs whose own stream does not carry it.

The library's muxer knows the shape but is never told it through our binding, so the two numbers are written into
the track header afterwards, into padding that the muxer leaves beside it (RFC 9559, sections 5.1.4.1.28 and 8.1).
"""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

_SEGMENT, _TRACKS, _ENTRY, _VIDEO = 0x18538067, 0x1654AE6B, 0xAE, 0xE0
_CRC, _VOID, _UNIT = 0xBF, 0xEC, 0x54B2
_SEEKS, _PLACE = 0x114D9B74, 0x53AC
_HEAD = 1 << 16  # the track header stands this near to the file's beginning
_ROOM = 11


def _element(data: bytes | bytearray, at: int) -> tuple[int, int, int]:
    """(id, start of content, end of content) of the EBML element at ``at``."""
    wide = 9 - data[at].bit_length()
    name = int.from_bytes(data[at : at + wide], "big")
    at += wide
    wide = 9 - data[at].bit_length()
    size = int.from_bytes(data[at : at + wide], "big") & ((1 << 7 * wide) - 1)
    unknown = size == (1 << 7 * wide) - 1
    return name, at + wide, len(data) if unknown else at + wide + size


def _children(data: bytes | bytearray, start: int, end: int) -> Iterator[tuple[int, int, int, int]]:
    """(id, start, start of content, end) of the elements between two places, as far as the data goes."""
    while start < min(end, len(data) - 12):
        name, inside, after = _element(data, start)
        yield name, start, inside, after
        start = after


def _find(data: bytes | bytearray, name: int, start: int, end: int) -> tuple[int, int, int]:
    for number, at, inside, after in _children(data, start, end):
        if number == name:
            return at, inside, after
    raise ValueError(f"no element {name:#x}")


def write_pixel_aspect(path: Path, size: tuple[int, int], aspect: Fraction) -> bool:
    """Write the shape of a pixel into the (first) track of a finished file; whether there was room for it.

    Parameters
    ----------
    size : (width, height) in stored pixels.
    aspect : Fraction
        Width of a pixel over its height.
    """
    with path.open("r+b") as file:
        data = bytearray(file.read(_HEAD))
        try:
            _, inside, end = _find(data, _SEGMENT, 0, len(data))
            _, tracks, tracks_end = _find(data, _TRACKS, inside, end)
            _, entry, entry_end = _find(data, _ENTRY, tracks, tracks_end)
            video, video_inside, video_end = _find(data, _VIDEO, entry, entry_end)
            void, _, void_end = _find(data, _VOID, video_end, entry_end)
        except ValueError:
            return False
        long = video_end - video_inside + _ROOM
        if void_end - void != _ROOM or video_inside - video != 2 or long > 126:
            return False
        shape = Fraction(size[0], size[1]) * aspect
        pixels = (size[0] * aspect).denominator == 1
        wide, high = (int(size[0] * aspect), size[1]) if pixels else (shape.numerator, shape.denominator)
        if wide >= 1 << 24 or high >= 1 << 16:
            return False
        body = bytearray(data[video_inside:video_end])
        _, unit_inside, unit_end = _find(data, _UNIT, video_inside, video_end)
        body[unit_inside - video_inside : unit_end - video_inside] = bytes([0 if pixels else 3])
        body += b"\x54\xb0\x83" + wide.to_bytes(3, "big") + b"\x54\xba\x82" + high.to_bytes(2, "big")
        data[video:void_end] = bytes([_VIDEO, 0x80 | long]) + body + data[video_end:void]
        crc, crc_inside, crc_end = _find(data, _CRC, tracks, tracks_end)
        data[crc_inside:crc_end] = zlib.crc32(data[crc_end:tracks_end]).to_bytes(4, "little")
        file.seek(crc)
        file.write(data[crc:tracks_end])
    return True


def write_pixel_aspect_webm(path: Path, size: tuple[int, int], aspect: Fraction) -> bool:
    """The same for WebM, whose muxer leaves no padding in the track: what grows there is taken from the padding behind
    the list of places, and the places of what lies between are set right. The shape is rounded to whole pixels."""
    wide = round(size[0] * aspect)
    more = b"\x54\xb0\x83" + wide.to_bytes(3, "big") + b"\x54\xba\x82" + size[1].to_bytes(2, "big")
    grown = len(more)
    with path.open("r+b") as file:
        data = bytearray(file.read(_HEAD))
        try:
            _, inside, end = _find(data, _SEGMENT, 0, len(data))
            _, places, places_end = _find(data, _SEEKS, inside, end)
            void, void_inside, void_end = _find(data, _VOID, places_end, end)
            tracks, entries, tracks_end = _find(data, _TRACKS, void_end, end)
            entry, entry_inside, entry_end = _find(data, _ENTRY, entries, tracks_end)
            video, video_inside, video_end = _find(data, _VIDEO, entry_inside, entry_end)
        except ValueError:
            return False
        room = void_end - void_inside
        if room < grown + 1 or not (entry < video and _longer(data, tracks, entries, grown)):
            return False
        if not (_longer(data, entry, entry_inside, grown) and _longer(data, video, video_inside, grown)):
            return False
        data[video_end:video_end] = more
        for _, _, seek, seek_end in _children(data, places, places_end):
            _, at, at_end = _find(data, _PLACE, seek, seek_end)
            where = int.from_bytes(data[at:at_end], "big")
            if void_end <= inside + where <= tracks:
                data[at:at_end] = (where - grown).to_bytes(at_end - at, "big")
        del data[void_inside : void_inside + grown]
        _longer(data, void, void_inside, -grown)
        file.seek(0)
        file.write(data)
    return True


def _longer(data: bytearray, at: int, inside: int, more: int) -> bool:
    """Say of the element at a place that it is longer, in as many bytes as it says it now; whether it could be."""
    start = at + 9 - data[at].bit_length()
    wide = inside - start
    most = (1 << 7 * wide) - 1
    size = (int.from_bytes(data[start:inside], "big") & most) + more
    if not 0 <= size < most:
        return False
    data[start:inside] = (size | 1 << 7 * wide).to_bytes(wide, "big")
    return True
