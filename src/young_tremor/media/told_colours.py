"""What a picture tells of its colours besides the film library's tags: profiles, chromaticities, mastering display."""

from __future__ import annotations

import struct
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from young_tremor.base import colour_spaces
from young_tremor.base.frames import Mastering
from young_tremor.base.pixels import ColourTags

CLOSE, NEAR = 2e-3, 0.012  # by which coordinates, and columns of a profile's matrix, may be off
EXR_MAGIC, MOST_HEADER = 20000630, 1 << 20
MOST_ATTRIBUTES = 4096
D50 = np.array([0.9642, 1.0, 0.8249])  # white of profiles (ICC.1, 7.2.16)
# the value of an even grey of light, by which curves are told apart
GREY, CURVES = 0.5, {colour_spaces.LINEAR: 0.5, colour_spaces.SRGB: 0.2140, 4: 0.2176, 1: 0.1895}


def of_file(path: Path, codec: str, picture: Any, colour: ColourTags) -> ColourTags:
    """A picture's tags with what its file says besides; whatever is damaged says nothing."""
    try:
        if codec == "exr":
            return _of_exr(path, colour)
        profile = next((bytes(part) for part in picture.side_data if part.type.name == "ICC_PROFILE"), None)
        return colour if profile is None else _of_profile(profile, colour)
    except (OSError, ValueError, ArithmeticError, LookupError, struct.error, np.linalg.LinAlgError):
        return colour


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


def _with_coordinates(colour: ColourTags, given: tuple[float, ...] | None) -> ColourTags:
    if given is None:
        return replace(colour, primaries=1)
    for space in colour_spaces.SPACES:
        own = np.ravel(colour_spaces.chromaticities(space.tags(colour)))
        if space.transfer == colour_spaces.LINEAR and np.abs(own - given).max() < CLOSE:
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
    transfer = min(CURVES, key=lambda number: abs(CURVES[number] - middle))
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


def mastering_of(picture: Any) -> Mastering | None:
    """The mastering display and the light level of a picture of high range, if it tells them."""
    display: tuple[int, ...] = ()
    light: tuple[int, ...] = ()
    for part in picture.side_data:
        if part.type.name == "MASTERING_DISPLAY_METADATA" and len(bytes(part)) >= 88:
            numbers = struct.unpack_from("<22i", bytes(part))
            if numbers[20] and numbers[21] and all(numbers[1:20:2]):
                shares = [top / bottom for top, bottom in zip(numbers[:20:2], numbers[1:20:2], strict=True)]
                display = (*(round(share * 50_000) for share in shares[:8]), *(round(s * 10_000) for s in shares[8:]))
        elif part.type.name == "CONTENT_LIGHT_LEVEL" and len(bytes(part)) >= 8:
            light = struct.unpack_from("<2I", bytes(part))
    return Mastering(display, light) if display or light else None
