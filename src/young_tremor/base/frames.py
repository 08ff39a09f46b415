"""The picture frame type and the protocols that pass frames around.

A frame is a tuple of planes as the decoder gives them (Y, U, V or G, B, R or grey, then alpha), each (rows, columns)
uint8, uint16 or float32, in their own bit depth; nothing converts to RGB on the way.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from fractions import Fraction
from typing import Literal, Protocol, runtime_checkable

import numpy as np

from young_tremor.base import pixels
from young_tremor.base.pixels import UNTOLD, ColourTags, PixelFormat

Plane = np.ndarray
Alpha = Literal["none", "straight", "premultiplied"]


@dataclass(frozen=True)
class TitlePart:
    """Something that can go its own way: its number, and its middle as shares of the whole picture's size."""

    number: int
    centre: tuple[float, float]


@dataclass(frozen=True)
class Frame:
    """One picture. Planes are read-only by agreement; a kernel makes new ones.

    ``origin`` and ``of``: it is the part of a picture of size ``of`` that begins there, the rest being empty (None: it
    is all of it). ``pieces``: what it is made of, where its parts can go different ways.
    ``near``: how near its points are, (rows, columns) 0…1 of any size, if it comes with a depth picture.
    """

    planes: tuple[Plane, ...]
    format: PixelFormat
    colour: ColourTags = UNTOLD
    origin: tuple[int, int] = (0, 0)
    of: tuple[int, int] | None = None
    pieces: tuple[Frame, ...] = ()
    part: TitlePart | None = None
    near: Plane | None = None

    def __post_init__(self) -> None:
        if len(self.planes) != self.format.planes:
            raise ValueError(f"{self.format.name} has {self.format.planes} planes, not {len(self.planes)}")

    @property
    def size(self) -> tuple[int, int]:
        """(width, height) in pixels."""
        rows, columns = self.planes[0].shape
        return columns, rows

    @property
    def whole(self) -> tuple[int, int]:
        """(width, height) of the picture that it is, or is a part of."""
        return self.of or self.size

    @property
    def nbytes(self) -> int:
        """Bytes of all planes."""
        return sum(plane.nbytes for plane in self.planes) + sum(piece.nbytes for piece in self.pieces)

    def black(self) -> tuple[float, ...]:
        """The value of black in each plane."""
        return pixels.black(self.format, self.colour)


@dataclass(frozen=True)
class Mastering:
    """What footage of high range says of the screen it was made on, and of its light (SMPTE ST 2086, CTA-861.3):
    ``display``: red, green, blue and white as x and y in 1/50,000, least and most light in 1/10,000 cd/m²; ``light``:
    the most of a pixel and of a frame's mean, in cd/m². Either may be empty."""

    display: tuple[int, ...] = ()
    light: tuple[int, ...] = ()


@dataclass(frozen=True)
class SourceInfo:
    """What is known of a source once opened. ``size`` is upright, in stored pixels; times in seconds.

    ``alpha``: whether colours are drawn towards black where a pixel is covered in part. ``timecode``: of its first
    frame, if the file tells. ``stamp`` tells one state of a file from another, so that nothing made from an older one
    is taken for the present. ``still``: one picture that may be shown for any time; ``frames`` is then how long it is
    shown unless said otherwise. ``missing``: frames of a sequence for which the picture before is held. ``drawn``: it
    has no pixels of its own and is made as large as it is shown (a :class:`DrawnSource`). ``carried``: what else the
    file says of itself that what is made of it says as well, by the library's names. ``mastering``: of high range.
    """

    name: str
    size: tuple[int, int]
    pixel_aspect: Fraction
    rate: Fraction
    frames: int
    format: PixelFormat
    colour: ColourTags = UNTOLD
    codec: str = ""
    audio: tuple[str, ...] = ()
    notes: tuple[str, ...] = field(default=())
    alpha: Alpha = "none"
    timecode: str = ""
    stamp: tuple[int, ...] = ()
    still: bool = False
    missing: tuple[int, ...] = ()
    drawn: bool = False
    carried: tuple[tuple[str, str], ...] = ()
    mastering: Mastering | None = None

    @property
    def seconds(self) -> float:
        """How long it lasts."""
        return float(self.frames / self.rate)


class FrameSource(Protocol):
    """Random access to conformed frames. One thread at a time."""

    @property
    def info(self) -> SourceInfo: ...

    def read(self, index: int) -> Frame:
        """Frame ``index``, 0 … frames - 1 (held at the ends)."""
        ...

    def close(self) -> None: ...


@runtime_checkable
class DrawnSource(FrameSource, Protocol):
    """What is made as large as it is shown."""

    def draw(self, scale: float) -> Frame:
        """Its picture with so many pixels to one of its nominal size."""
        ...


class FrameSink(Protocol):
    """Takes frames in order; ``finish`` makes the file whole, ``abandon`` leaves nothing behind."""

    def write(self, frame: Frame) -> None: ...

    def finish(self) -> None: ...

    def abandon(self) -> None: ...


YUV420 = PixelFormat("yuv420p", step=(2, 2), siting=(0.0, 0.5))
YUV420_10 = PixelFormat("yuv420p10le", depth=10, step=(2, 2), siting=(0.0, 0.5))


def with_alpha_plane(frame: Frame, alpha: Plane, held: PixelFormat) -> Frame:
    """An opaque frame with an alpha plane, in ``held``: its own format with alpha, or RGB with alpha for grey."""
    planes = frame.planes if frame.format.kind == held.kind else frame.planes * 3  # grey: green, blue and red alike
    return replace(frame, planes=(*planes, alpha), format=held)


def with_planes(frame: Frame, planes: tuple[Plane, ...]) -> Frame:
    """The same frame with other planes."""
    return replace(frame, planes=planes)
