"""The shape of a pixel and the mastering display in a Matroska file, for codecs whose own stream does not carry them.

The library's muxer knows both but is never told them through our binding, so they are written into the track header
afterwards, into padding that the muxer leaves (RFC 9559, sections 5.1.4.1.28 and 8.1).
"""

from __future__ import annotations

import struct
import zlib
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

from young_tremor.base.frames import Mastering

_SEGMENT, _TRACKS, _ENTRY, _VIDEO = 0x18538067, 0x1654AE6B, 0xAE, 0xE0
_CRC, _VOID, _UNIT = 0xBF, 0xEC, 0x54B2
_SEEKS, _PLACE = 0x114D9B74, 0x53AC
_COLOUR, _MASTERING, _MOST_LIGHT, _MEAN_LIGHT = 0x55B0, 0x55D0, 0x55BC, 0x55BD
_DISPLAY = range(0x55D1, 0x55DB)  # red, green, blue and white as x and y, most light, least light
_HEAD = 1 << 16  # the track header stands this near to the file's beginning
_ROOM, _MOST_VOID = 11, 128  # bytes of padding in a track, and that a short padding can have


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


def _nested(data: bytes | bytearray, start: int, end: int, *names: int) -> list[tuple[int, int, int]]:
    """Elements by their names, each the first of its kind in the one before."""
    out = []
    for name in names:
        out.append(_find(data, name, start, end))
        _, start, end = out[-1]
    return out


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
            _, track_list, entry, picture = _nested(data, 0, len(data), _SEGMENT, _TRACKS, _ENTRY, _VIDEO)
            (_, tracks, tracks_end), (_, _, entry_end), (video, video_inside, video_end) = track_list, entry, picture
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
        _sum_up(data, tracks, tracks_end)
        file.seek(tracks)
        file.write(data[tracks:tracks_end])
    return True


def write_pixel_aspect_webm(path: Path, size: tuple[int, int], aspect: Fraction) -> bool:
    """The same for WebM, whose muxer leaves no padding in the track. The shape is rounded to whole pixels."""
    wide = round(size[0] * aspect)
    more = b"\x54\xb0\x83" + wide.to_bytes(3, "big") + b"\x54\xba\x82" + size[1].to_bytes(2, "big")
    return _write_into_video(path, more)


def write_mastering(path: Path, mastering: Mastering) -> bool:
    """Write a mastering display and light level into the colours of the (first) track; whether there was room."""
    more = b""
    for name, level in zip((_MOST_LIGHT, _MEAN_LIGHT), mastering.light, strict=False):
        more += _packed(name, level.to_bytes(2, "big"))
    if mastering.display:
        *places, least, most = mastering.display
        values = [*(place / 50_000 for place in places), most / 10_000, least / 10_000]
        parts = (_packed(name, struct.pack(">f", value)) for name, value in zip(_DISPLAY, values, strict=True))
        more += _packed(_MASTERING, b"".join(parts))
    return _write_into_video(path, more, into_colour=True)


def _packed(name: int, body: bytes) -> bytes:
    """An element with an id of two bytes and fewer than 127 of content."""
    return name.to_bytes(2, "big") + bytes([0x80 | len(body)]) + body


def _write_into_video(path: Path, more: bytes, *, into_colour: bool = False) -> bool:
    """Write elements behind those of the (first) track's picture, or of its colours; whether there was room.

    The room is taken from the padding behind the list of places, and the places of what lies between are set right.
    """
    grown = len(more)
    with path.open("r+b") as file:
        data = bytearray(file.read(_HEAD))
        try:
            _, inside, end = _find(data, _SEGMENT, 0, len(data))
            _, places, places_end = _find(data, _SEEKS, inside, end)
            void, _, void_end = _find(data, _VOID, places_end, end)
            around = _nested(data, void_end, end, _TRACKS, _ENTRY, _VIDEO, *([_COLOUR] if into_colour else []))
            tracks = around[0]
        except ValueError:
            return False
        rest = void_end - void - grown
        if not 2 <= rest <= _MOST_VOID or not all(_longer(data, at, start, grown) for at, start, _ in around):
            return False
        data[around[-1][2] : around[-1][2]] = more
        for name, _, seek, seek_end in _children(data, places, places_end):
            if name == _CRC:
                continue
            _, at, at_end = _find(data, _PLACE, seek, seek_end)
            where = int.from_bytes(data[at:at_end], "big")
            if void_end <= inside + where <= tracks[0]:
                data[at:at_end] = (where - grown).to_bytes(at_end - at, "big")
        data[void:void_end] = bytes([_VOID, 0x80 | rest - 2]) + bytes(rest - 2)
        for start, stop in ((places, places_end), (tracks[1] - grown, tracks[2])):
            _sum_up(data, start, stop)
        file.seek(0)
        file.write(data)
    return True


def _sum_up(data: bytearray, start: int, end: int) -> None:
    """Set the sum right that an element begins with, if it does."""
    name, inside, after = _element(data, start)
    if name == _CRC:
        data[inside:after] = zlib.crc32(data[after:end]).to_bytes(4, "little")


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
