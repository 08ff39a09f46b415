"""The picture frame type and the protocols that pass frames around.

A frame is a tuple of planes as the decoder gives them (Y, U, V or G, B, R), each (rows, columns) uint8 or
uint16, in their own bit depth; nothing converts to RGB on the way.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from fractions import Fraction
from typing import Protocol

import numpy as np

Plane = np.ndarray


@dataclass(frozen=True)
class PixelFormat:
    """How planes are laid out.

    ``step`` is the chroma subsampling (across, down); ``siting`` is where chroma sample (0, 0) lies in luma
    pixels (x, y), so MPEG 4:2:0 is (0, 0.5). Plane 0 is never subsampled.
    """

    name: str
    depth: int = 8
    planes: int = 3
    step: tuple[int, int] = (1, 1)
    siting: tuple[float, float] = (0.0, 0.0)
    rgb: bool = False

    @property
    def dtype(self) -> np.dtype:
        return np.dtype(np.uint8 if self.depth <= 8 else np.uint16)

    def plane_step(self, plane: int) -> tuple[int, int]:
        """Subsampling of one plane (across, down)."""
        return self.step if plane in (1, 2) and not self.rgb else (1, 1)

    def plane_siting(self, plane: int) -> tuple[float, float]:
        """Place of the plane's sample (0, 0) in luma pixels."""
        return self.siting if plane in (1, 2) and not self.rgb else (0.0, 0.0)

    def plane_size(self, plane: int, size: tuple[int, int]) -> tuple[int, int]:
        """(width, height) of a plane of a picture of ``size``."""
        across, down = self.plane_step(plane)
        return -(-size[0] // across), -(-size[1] // down)


def with_alpha(format: PixelFormat) -> PixelFormat | None:
    """The same format with a fourth plane of coverage; None where there is none by that name."""
    if format.rgb or format.planes != 3 or not format.name.startswith("yuv"):
        return None
    return replace(format, name=format.name.replace("yuv", "yuva", 1), planes=4)


@dataclass(frozen=True)
class ColourTags:
    """Colour description as the numbers of ITU-T H.273; 2 is "unspecified". ``full`` range is None when untold."""

    primaries: int = 2
    transfer: int = 2
    matrix: int = 2
    full: bool | None = None


@dataclass(frozen=True)
class Frame:
    """One picture. Planes are read-only by agreement; a kernel makes new ones."""

    planes: tuple[Plane, ...]
    format: PixelFormat
    colour: ColourTags = ColourTags()

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) in pixels."""
        rows, columns = self.planes[0].shape
        return columns, rows

    @property
    def nbytes(self) -> int:
        return sum(plane.nbytes for plane in self.planes)

    def black(self) -> tuple[int, ...]:
        """The value of black in each plane."""
        return black(self.format, self.colour)


def black(format: PixelFormat, colour: ColourTags) -> tuple[int, ...]:
    """The value of black in each plane of a format: range and depth respected."""
    scale = 1 << (format.depth - 8)
    floor = 0 if format.rgb or colour.full else 16 * scale
    neutral = 0 if format.rgb else 128 * scale
    return tuple(floor if plane == 0 else neutral for plane in range(format.planes))


@dataclass(frozen=True)
class SourceInfo:
    """What is known of a source once opened. ``size`` is upright, in stored pixels; times in seconds."""

    name: str
    size: tuple[int, int]
    pixel_aspect: Fraction
    rate: Fraction
    frames: int
    format: PixelFormat
    colour: ColourTags = ColourTags()
    codec: str = ""
    audio: tuple[str, ...] = ()
    notes: tuple[str, ...] = field(default=())

    @property
    def seconds(self) -> float:
        return float(self.frames / self.rate)


class FrameSource(Protocol):
    """Random access to conformed frames. One thread at a time."""

    @property
    def info(self) -> SourceInfo: ...

    def read(self, index: int) -> Frame:
        """Frame ``index``, 0 … frames - 1 (held at the ends)."""
        ...

    def close(self) -> None: ...


class FrameSink(Protocol):
    """Takes frames in order; ``finish`` makes the file whole, ``abandon`` leaves nothing behind."""

    def write(self, frame: Frame) -> None: ...

    def finish(self) -> None: ...

    def abandon(self) -> None: ...


YUV420 = PixelFormat("yuv420p", step=(2, 2), siting=(0.0, 0.5))
YUV420_10 = PixelFormat("yuv420p10le", depth=10, step=(2, 2), siting=(0.0, 0.5))


class SyntheticSource:
    """A still picture as a source of any length, where a real file would only be in the way."""

    def __init__(self, picture: Frame, frames: int = 48, rate: Fraction = Fraction(24)) -> None:
        self._picture = picture
        self._info = SourceInfo(
            "synthetic", picture.size, Fraction(1), rate, frames, picture.format, picture.colour, "none"
        )

    @property
    def info(self) -> SourceInfo:
        return self._info

    def read(self, index: int) -> Frame:
        return self._picture

    def close(self) -> None:
        return None


def textured(size: tuple[int, int], format: PixelFormat = YUV420, seed: int = 0) -> Frame:
    """A sharp, photograph-like test picture: noise of many sizes under hard edges, all planes."""
    rng = np.random.default_rng(seed)
    planes = []
    top = (1 << format.depth) - 1
    for number in range(format.planes):
        width, height = format.plane_size(number, size)
        field_ = np.zeros((height, width))
        for octave in range(9):
            cells = 3 * 2**octave
            coarse = rng.normal(size=(cells + 1, cells + 1))
            rows = np.minimum(np.arange(height) * cells // height, cells)
            columns = np.minimum(np.arange(width) * cells // width, cells)
            field_ += coarse[np.ix_(rows, columns)] / 1.6**octave
        field_ -= field_.mean()
        field_ /= 3.2 * field_.std()
        planes.append(np.clip((0.5 + field_) * top, 0.06 * top, 0.92 * top).astype(format.dtype))
    return Frame(tuple(planes), format, ColourTags(1, 1, 1, False))


def flat(size: tuple[int, int], values: tuple[int, ...], format: PixelFormat = YUV420) -> Frame:
    """A picture of one colour."""
    planes = tuple(
        np.full(format.plane_size(number, size)[::-1], values[number], format.dtype) for number in range(format.planes)
    )
    return Frame(planes, format, ColourTags(1, 1, 1, False))


def with_planes(frame: Frame, planes: tuple[Plane, ...]) -> Frame:
    """The same frame with other planes."""
    return replace(frame, planes=planes)
