"""The pixel contract: everything that is to be known of a pixel format, and nowhere else.

Planes, depth, range, black, white, siting, alpha, what a value may be, and which format can stand for another.
Colour (matrices, RGB, float, from one format to another) is in :mod:`young_tremor.base.colour`.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

Kind = Literal["yuv", "rgb", "grey"]
MOST_BYTES = 200 << 20  # of one picture of a source: with what is made of it, an ordinary machine holds no more
MOST_DELIVERED = 112 << 20  # of one that is delivered, many of which an encoder keeps: 8K of 10 bits

STEPS = {"420": (2, 2), "422": (2, 1), "444": (1, 1), "440": (1, 2), "411": (4, 1), "410": (4, 4)}
_CODES = {step: code for code, step in STEPS.items()}
_YUV = re.compile(r"yuv([aj]?)(420|422|444|440|411|410)p(9|10|12|14|16)?(le)?")
_RGB = re.compile(r"gbr(a?)p(9|10|12|14|16|f32)?(le)?")
_GREY = re.compile(r"gray(9|10|12|14|16|f32)?(le)?")
#: Packed formats that hold the very same values as a planar one, by name.
PACKED = {
    "bgr0": "gbrp",
    "bgra": "gbrap",
    "rgb48le": "gbrp16le",
    "rgba64le": "gbrap16le",
    "rgb24": "gbrp",
    "rgba": "gbrap",
}


@dataclass(frozen=True)
class PixelFormat:
    """How the planes of a picture are laid out, in the order Y, U, V or G, B, R or grey, then alpha.

    ``name`` is the decoder library's. ``step``: chroma subsampling (across, down); ``siting``: where chroma sample
    (0, 0) lies in luma pixels (x, y), so MPEG 4:2:0 is (0, 0.5). Only chroma is ever subsampled. ``real``: values are
    float32, 0 black and 1 white, and may lie outside.
    """

    name: str
    depth: int = 8
    kind: Kind = "yuv"
    step: tuple[int, int] = (1, 1)
    siting: tuple[float, float] = (0.0, 0.0)
    alpha: bool = False
    real: bool = False

    @property
    def rgb(self) -> bool:
        """Whether colours are stored as RGB."""
        return self.kind == "rgb"

    @property
    def colours(self) -> int:
        """Planes without alpha."""
        return 1 if self.kind == "grey" else 3

    @property
    def planes(self) -> int:
        """How many planes there are, alpha included."""
        return self.colours + self.alpha

    @property
    def dtype(self) -> np.dtype:
        """The NumPy type of a sample."""
        return np.dtype(np.float32 if self.real else np.uint8 if self.depth <= 8 else np.uint16)

    @property
    def top(self) -> int:
        """The largest code value; 1 for float."""
        return 1 if self.real else (1 << self.depth) - 1

    def chroma(self, plane: int) -> bool:
        """Whether a plane holds chroma."""
        return self.kind == "yuv" and plane in (1, 2)

    def plane_step(self, plane: int) -> tuple[int, int]:
        """Subsampling of one plane (across, down)."""
        return self.step if self.chroma(plane) else (1, 1)

    def plane_siting(self, plane: int) -> tuple[float, float]:
        """Place of the plane's sample (0, 0) in luma pixels."""
        return self.siting if self.chroma(plane) else (0.0, 0.0)

    def plane_size(self, plane: int, size: tuple[int, int]) -> tuple[int, int]:
        """(width, height) of a plane of a picture of ``size``."""
        across, down = self.plane_step(plane)
        return -(-size[0] // across), -(-size[1] // down)

    def nbytes(self, size: tuple[int, int]) -> int:
        """Bytes of a picture of ``size``."""
        cells = (self.plane_size(plane, size) for plane in range(self.planes))
        return sum(width * height for width, height in cells) * self.dtype.itemsize

    def clipped(self, plane: np.ndarray) -> np.ndarray:
        """A plane whose values are all inside the format (changed in place); what it is given where nothing can be out.

        Kernels overshoot at edges; what their dtype holds beyond the depth would be cut to its lowest bits by a writer.
        """
        if plane.dtype == np.uint16 and self.depth < 16:
            np.minimum(plane, np.uint16(self.top), out=plane)
        return plane

    def rounded(self, values: np.ndarray) -> np.ndarray:
        """Float code values as a plane of the format: rounded and inside it."""
        if self.real:
            return values.astype(np.float32, copy=False)
        return np.clip(np.rint(values), 0, self.top).astype(self.dtype)


@dataclass(frozen=True)
class ColourTags:
    """Colour description as the numbers of ITU-T H.273; 2 is "unspecified". ``full`` range is None when untold.
    ``space``: the name of a space that has no numbers there."""

    primaries: int = 2
    transfer: int = 2
    matrix: int = 2
    full: bool | None = None
    space: str = ""


UNTOLD = ColourTags()


def pixel_format(name: str) -> PixelFormat | None:
    """The planar format of that name, None where it is not one that is worked in."""
    if match := _YUV.fullmatch(name):
        step = STEPS[match[2]]
        siting = (0.0, (step[1] - 1) / 2)
        alpha = match[1] == "a"
        return PixelFormat(name.replace("yuvj", "yuv"), int(match[3] or 8), "yuv", step, siting, alpha)
    if match := _RGB.fullmatch(name):
        real = match[2] == "f32"
        return PixelFormat(name, 32 if real else int(match[2] or 8), "rgb", alpha=bool(match[1]), real=real)
    if match := _GREY.fullmatch(name):
        real = match[1] == "f32"
        return PixelFormat(name, 32 if real else int(match[1] or 8), "grey", real=real)
    return None


def planar_format(
    kind: Kind, depth: int, step: tuple[int, int] = (1, 1), *, alpha: bool = False, real: bool = False
) -> PixelFormat:
    """The planar format of these properties. Grey with alpha is taken as RGB."""
    tail = "f32le" if real else "" if depth == 8 else f"{depth}le"
    if kind == "yuv":
        name = f"yuv{'a' if alpha else ''}{_CODES[step]}p{tail}"
    elif kind == "grey" and not alpha:
        name = f"gray{tail}"
    else:
        name = f"gbr{'a' if alpha else ''}p{tail}"
    found_format = pixel_format(name)
    assert found_format is not None
    return found_format


def with_alpha(format: PixelFormat) -> PixelFormat:
    """The same format with a last plane that says how much of each pixel is covered."""
    if format.alpha:
        return format
    if format.kind == "grey":
        return planar_format("rgb", format.depth, alpha=True, real=format.real)
    name = format.name.replace("yuv", "yuva", 1).replace("gbrp", "gbrap", 1)
    return replace(format, name=name, alpha=True)


def without_alpha(format: PixelFormat) -> PixelFormat:
    """The same format without its alpha."""
    return replace(format, name=format.name.replace("yuva", "yuv", 1).replace("gbrap", "gbrp", 1), alpha=False)


def full_range(format: PixelFormat, colour: ColourTags) -> bool:
    """Whether black is 0 and white the top; untold, RGB and grey are and YCbCr is not."""
    return format.real or (colour.full if colour.full is not None else format.kind != "yuv")


def levels(format: PixelFormat, colour: ColourTags, plane: int = 0) -> tuple[float, float]:
    """Of a plane: the code value that stands for 0 (black, or no colour), and how many make up 1.

    ITU-T H.273, equations 20 to 34: chroma runs from -0.5 to 0.5. Alpha is always full range.
    """
    if format.real:
        return 0.0, 1.0
    scale = float(1 << (format.depth - 8))
    full = full_range(format, colour)
    if format.chroma(plane):
        return 128 * scale, float(format.top) if full else 224 * scale
    if full or plane >= format.colours:
        return 0.0, float(format.top)
    return 16 * scale, 219 * scale


def black(format: PixelFormat, colour: ColourTags) -> tuple[float, ...]:
    """The value of black in each plane: range and depth respected; alpha is empty."""
    low = (levels(format, colour, plane)[0] for plane in range(format.planes))
    return tuple(value if format.real else int(value) for value in low)


@dataclass(frozen=True)
class Target:
    """What an encoder is given. ``format``: the planes that are made for it; ``coded``: the library's name of what goes
    into the file, the same values; ``notes``: what a person should know of the difference."""

    format: PixelFormat
    coded: str
    notes: tuple[str, ...] = ()


@dataclass(frozen=True)
class EncoderFormats:
    """What an encoder takes, and what is wanted of it.

    Attributes
    ----------
    coded : names of the library's formats that the encoder takes.
    lossless : bool
        Nothing may be lost. Otherwise the most widely played form is taken: YCbCr 4:2:0, of one of ``depths`` (the
        least that holds the source's, else the most there is); alpha is left out.
    wide : depths at which whoever plays 4:2:0 plays 4:2:2 as well, so that it is kept.
    words : str
        What the codec is called, for the notes.
    full_chroma : bool
        Chroma as fine as the source's is kept where the encoder can, whoever plays it.
    plain : depths that every player knows, for graphics (RGB) unless ``full_chroma`` is asked for; ``depths`` if empty.
    """

    coded: tuple[str, ...]
    lossless: bool
    depths: tuple[int, ...] = ()
    wide: tuple[int, ...] = ()
    words: str = ""
    full_chroma: bool = False
    plain: tuple[int, ...] = ()


def target(format: PixelFormat, takes: EncoderFormats) -> Target | None:
    """The best of an encoder's formats for pictures of ``format``; None where none will do."""
    names = takes.coded
    if takes.lossless:
        return _lossless_target(format, list(names), takes.words)
    graphic = format.kind == "rgb" and not takes.full_chroma
    known = takes.plain if graphic and takes.plain else takes.depths
    depth = min((bits for bits in known if bits >= format.depth), default=max(known))
    half = format.kind == "yuv" and format.step == (2, 1) and depth in takes.wide
    wanted = planar_format("yuv", depth, (2, 1) if half else (2, 2))
    if takes.full_chroma and format.kind != "grey":
        fine = planar_format("yuv", depth, (1, 1) if format.kind == "rgb" else format.step)
        wanted = fine if fine.name in names else wanted
    if wanted.name not in names:
        return None
    if format.kind == "yuv" and format.step == wanted.step:
        wanted = replace(wanted, siting=format.siting)
    return Target(wanted, wanted.name, _differences(format, wanted, takes.words))


def _lossless_target(format: PixelFormat, names: list[str], words: str) -> Target | None:
    """The format of an encoder that holds all of ``format`` with the least beyond it; 16 bits in place of float."""
    fits: list[tuple[tuple[int, ...], PixelFormat, str]] = []
    for name in names:
        candidate = None if name.startswith("yuvj") else pixel_format(PACKED.get(name, name))
        cost = None if candidate is None else _cost(format, candidate)
        if candidate is not None and cost is not None:
            fits.append((cost, candidate, name))
    if not fits and format.real:
        less = _lossless_target(planar_format("rgb", 16, alpha=format.alpha), names, words)
        lost = f"float becomes 16 bits in {words}: values below 0 and above 1 are cut off"
        return replace(less, notes=(*less.notes, lost)) if less is not None else None
    if not fits:
        return None
    _, chosen, name = min(fits, key=lambda fit: fit[0])
    return Target(replace(chosen, siting=format.siting) if chosen.step == format.step else chosen, name)


def restricted_target(format: PixelFormat, coded: Iterable[str], forms: tuple[str, ...], words: str) -> Target | None:
    """What pictures of ``format`` become in an encoder that is delivered in certain ``forms`` alone: the first of them,
    or the first with alpha where the pictures have any. None where the encoder takes none of them."""
    names = set(coded)
    every = [made for name in forms if name in names and (made := pixel_format(name)) is not None]
    chosen = next((item for item in every if item.alpha == format.alpha), every[0] if every else None)
    if chosen is None:
        return None
    if format.kind == "yuv" and format.step == chosen.step:
        chosen = replace(chosen, siting=format.siting)
    out = []
    if format.alpha and not chosen.alpha:
        out.append(f"{words} holds no alpha: the picture is written over black")
    code = ":".join(_CODES[chosen.step])
    if format.kind == "rgb":
        out.append(f"RGB is written as YCbCr {code}")
    elif format.kind == "yuv" and (format.step[0] < chosen.step[0] or format.step[1] < chosen.step[1]):
        out.append(f"colour of {':'.join(_CODES[format.step])} is written as {code}")
    if format.real or format.depth > chosen.depth:
        out.append(
            f"{'float becomes' if format.real else f'{format.depth} bits become'} {chosen.depth} bits in {words}"
        )
    return Target(chosen, chosen.name, tuple(out))


def _cost(format: PixelFormat, other: PixelFormat) -> tuple[int, ...] | None:
    """How much more another format is than is needed, None where it would lose something."""
    kind = {"yuv": ("yuv",), "rgb": ("rgb",), "grey": ("grey", "rgb")}[format.kind]
    finer = other.step[0] <= format.step[0] and other.step[1] <= format.step[1]
    holds = other.real if format.real else (other.depth >= format.depth and not other.real)
    if other.kind not in kind or not finer or not holds or (format.alpha and not other.alpha):
        return None
    return (
        kind.index(other.kind),
        other.depth - format.depth,
        other.alpha - format.alpha,
        format.step[0] * format.step[1] - other.step[0] * other.step[1],
    )


def _differences(format: PixelFormat, wanted: PixelFormat, words: str) -> tuple[str, ...]:
    """What a lossy form leaves out, as sentences without a full stop."""
    out = []
    if format.alpha:
        out.append(f"{words} holds no alpha: the picture is written over black; FFV1 keeps it")
    if format.kind == "rgb":
        known = ", which all players know" if wanted.step == (2, 2) else ""
        code = ":".join(_CODES[wanted.step])
        out.append(f"RGB is written as YCbCr {code}{known}; FFV1 keeps {format.name}")
    elif format.kind == "yuv" and format.step != wanted.step:
        code = ":".join(_CODES[format.step])
        out.append(f"colour of {code} is written as 4:2:0, which all players know; FFV1 keeps it")
    if format.depth > wanted.depth:
        depth = "float" if format.real else f"{format.depth} bits"
        out.append(
            f"{depth} become {wanted.depth} bits in {words}; FFV1 keeps them"
            if not format.real
            else f"float becomes {wanted.depth} bits in {words}"
        )
    elif wanted.depth > 8 and words == "H.264":
        out.append(f"H.264 of {wanted.depth} bits is not played everywhere: H.265 is, more often")
    return tuple(out)
