"""What a picture tells of its colours besides the film library's tags: profiles, chromaticities, mastering display."""

from __future__ import annotations

import struct
import zlib
from collections.abc import Callable, Iterable
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

import av
import numpy as np
from av.sidedata.sidedata import SideData

from young_tremor.base import colour_spaces, sandbox
from young_tremor.base.errors import TremorError
from young_tremor.base.frames import Mastering
from young_tremor.base.lazy_import import lazily
from young_tremor.base.pixels import ColourTags

if TYPE_CHECKING:
    import tifffile
else:
    tifffile = lazily("tifffile")

CLOSE, NEAR = 2e-3, 0.012  # by which coordinates, and columns of a profile's matrix, may be off
EXR_MAGIC, MOST_HEADER = 20000630, 1 << 20
MOST_ATTRIBUTES, MOST_PROFILE = 4096, 8 << 20
D50 = np.array([0.9642, 1.0, 0.8249])  # white of profiles (ICC.1, 7.2.16)
# the value of an even grey of light, by which curves are told apart
GREY, CURVES = 0.5, {colour_spaces.LINEAR: 0.5, colour_spaces.SRGB: 0.2140, 4: 0.2176, 1: 0.1895}


def of_file(path: Path, codec: str, colour: ColourTags) -> ColourTags:
    """A picture's tags with what its file says besides; whatever is damaged says nothing."""
    try:
        if codec == "exr":
            return _of_exr(path, colour)
        profile = PROFILES[codec](path) if codec in PROFILES else None
        return colour if profile is None else _of_profile(profile, colour)
    except (OSError, ValueError, ArithmeticError, LookupError, struct.error, zlib.error, np.linalg.LinAlgError):
        return colour


def _profile_of_png(path: Path) -> bytes | None:
    """What its ``iCCP`` chunk holds (PNG, 11.3.2.3)."""
    with path.open("rb") as file:
        file.seek(8)
        while len(head := file.read(8)) == 8:
            size, kind = struct.unpack(">I4s", head)
            if kind == b"iCCP":
                body = file.read(min(size, MOST_PROFILE))
                return zlib.decompressobj().decompress(body[body.index(b"\0") + 2 :], MOST_PROFILE)
            if kind == b"IDAT":
                break
            file.seek(size + 4, 1)
    return None


def _profile_of_jpeg(path: Path) -> bytes | None:
    """What its APP2 segments hold (ICC.1, B.4)."""
    parts = []
    with path.open("rb") as file:
        file.seek(2)
        while len(head := file.read(4)) == 4 and head[0] == 0xFF and head[1] != 0xDA:
            body = file.read(struct.unpack(">H", head[2:])[0] - 2)
            if head[1] == 0xE2 and body.startswith(b"ICC_PROFILE\0"):
                parts.append((body[12], body[14:]))
    return b"".join(part for _, part in sorted(parts)) or None


def _profile_of_tiff(path: Path) -> bytes | None:
    try:
        with tifffile.TiffFile(path) as file:
            tag = file.pages[0].tags.get(34675)  # type: ignore[union-attr]
            return None if tag is None else bytes(tag.value)
    except Exception:  # whatever is wrong with it, reading the picture says so
        return None


PROFILES: dict[str, Callable[[Path], bytes | None]] = {
    "png": _profile_of_png,
    "mjpeg": _profile_of_jpeg,
    "tiff": _profile_of_tiff,
}


def _of_exr(path: Path, colour: ColourTags) -> ColourTags:
    """By the header's ``chromaticities``; without them they are those of BT.709 (OpenEXR, standard attributes)."""
    with path.open("rb") as file:
        header = file.read(MOST_HEADER)
    if struct.unpack_from("<i", header)[0] != EXR_MAGIC:
        return colour
    return _with_coordinates(colour, _exr_coordinates(header))


def _exr_coordinates(header: bytes) -> tuple[float, ...] | None:
    at = 8
    for _ in range(MOST_ATTRIBUTES):
        if header[at] == 0:
            return None
        name, at = _text(header, at)
        kind, at = _text(header, at)
        (size,) = struct.unpack_from("<i", header, at)
        at += 4
        if (name, kind, size) == (b"chromaticities", b"chromaticities", 32):
            return struct.unpack_from("<8f", header, at)
        if size < 0:
            return None
        at += size
    return None


def _text(header: bytes, at: int) -> tuple[bytes, int]:
    end = header.index(b"\0", at)
    return header[at:end], end + 1


def _with_coordinates(colour: ColourTags, coordinates: tuple[float, ...] | None) -> ColourTags:
    if coordinates is None:
        return replace(colour, primaries=1)
    for space in colour_spaces.SPACES:
        own = np.ravel(colour_spaces.chromaticities(space.tags(colour)))
        if space.transfer == colour_spaces.LINEAR and np.abs(own - coordinates).max() < CLOSE:
            return space.tags(colour)
    return colour


def _of_profile(profile: bytes, colour: ColourTags) -> ColourTags:
    """By an ICC profile: its ``cicp`` tag, or the space whose primaries and curve its matrix and curves are."""
    (count,) = struct.unpack_from(">I", profile, 128)
    parts: dict[bytes, bytes] = {}
    for number in range(min(count, 100)):
        key, begin, size = struct.unpack_from(">4sII", profile, 132 + 12 * number)
        parts[key] = profile[begin : begin + size]
    if b"cicp" in parts:
        primaries, transfer = parts[b"cicp"][8], parts[b"cicp"][9]
        return replace(colour, primaries=primaries, transfer=transfer)
    columns = [np.array(struct.unpack_from(">3i", parts[key], 8)) / 65536 for key in (b"rXYZ", b"gXYZ", b"bXYZ")]
    middle = _at_half(parts[b"rTRC"])
    transfer = min((abs(value - middle), number) for number, value in CURVES.items())[1]
    for space in colour_spaces.SPACES:
        tags = space.tags(colour)
        if tags.transfer == transfer and np.abs(colour_spaces.under(tags, D50) - np.stack(columns, 1)).max() < NEAR:
            return tags
    return colour


def _at_half(curve: bytes) -> float:
    """What a profile's curve makes of one half (ICC.1, 10.6 and 10.18)."""
    kind = curve[:4]
    if kind == b"curv":
        (count,) = struct.unpack_from(">I", curve, 8)
        if count == 0:
            return GREY
        if count == 1:
            return float(GREY ** (struct.unpack_from(">H", curve, 12)[0] / 256))
        table = np.frombuffer(curve, ">u2", count, 12) / 65535
        return float(np.interp(GREY * (count - 1), np.arange(count), table))
    if kind != b"para":
        raise ValueError(kind)
    (form,) = struct.unpack_from(">H", curve, 8)
    numbers = [value / 65536 for value in struct.unpack_from(f">{(1, 3, 4, 5, 7)[form]}i", curve, 12)]
    if form == 0:
        return float(GREY ** numbers[0])
    gamma, a, b = numbers[:3]
    return float((a * GREY + b) ** gamma + (numbers[5] if form == 4 else 0.0))


def mastering_of(path: Path, colour: ColourTags) -> Mastering | None:
    """The mastering display and the light level of footage in PQ, if its first picture tells them.

    The library's side data end a process once they are collected, so that they are looked at in one of their own.
    """
    if colour.transfer != colour_spaces.PQ:
        return None
    try:
        return sandbox.run(_look_for_mastering, path, name=path.name, what="a film", path=path)
    except TremorError:
        return None


def _look_for_mastering(path: Path) -> Mastering | None:
    with av.open(f"file:{path.absolute()}") as file:
        picture = next(file.decode(video=0), None)
        side: Iterable[SideData] = () if picture is None else picture.side_data  # type: ignore[assignment]
        parts = {part.type.name: bytes(part) for part in side}
    display = _display_in(parts.get("MASTERING_DISPLAY_METADATA", b""))
    levels = parts.get("CONTENT_LIGHT_LEVEL", b"")
    light = struct.unpack_from("<2I", levels) if len(levels) >= 8 else ()
    return Mastering(display, light) if display or light else None


def _display_in(data: bytes) -> tuple[int, ...]:
    """The library's description of a mastering display in the units of :class:`Mastering`; empty where it is not whole:
    ten fractions, and whether primaries and light are there."""
    if len(data) < 88:
        return ()
    *fractions, primaries, light = struct.unpack_from("<22i", data)
    if not (primaries and light and all(fractions[1::2])):
        return ()
    shares = [top / bottom for top, bottom in zip(fractions[::2], fractions[1::2], strict=True)]
    return (*(round(share * 50_000) for share in shares[:8]), *(round(share * 10_000) for share in shares[8:]))
