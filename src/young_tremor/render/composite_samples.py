"""Samples in flight: what a composite works on between the planes it reads and the planes it gives."""

from __future__ import annotations

from functools import cached_property

import numpy as np

from young_tremor import kernels
from young_tremor.base import colour
from young_tremor.base.pixels import ColourTags, PixelFormat, levels


def downsample_chroma(plane: np.ndarray, format: PixelFormat, size: tuple[int, int]) -> np.ndarray:
    """A plane in flight at the places of the luma as a chroma plane of a format (see
    :func:`young_tremor.base.colour.downsample_chroma`)."""
    width, height = format.plane_size(1, size)
    commonest = (format.step, format.siting) == ((2, 2), (0.0, 0.5)) and plane.shape == (2 * height, 2 * width)
    if plane.dtype == np.int16 and commonest:
        return kernels.halve(plane)
    return colour.downsample_chroma(plane, format, size)


class SampleFormat:
    """How samples of a format are worked on: int16 code values with bits of fraction up to 10 bits, else float32.

    Planes are less black and premultiplied; alpha is ``kernels.ONE`` (or 1.0) where all is covered.
    """

    def __init__(self, format: PixelFormat, tags: ColourTags) -> None:
        self.format, self.tags = format, tags
        self.real = format.real or format.depth > 10
        self.fraction = 0 if self.real else 13 - format.depth
        self.dtype = np.dtype(np.float32 if self.real else np.int16)

    @cached_property
    def zero(self) -> list[np.float32]:
        """The code value of black, or of no colour, in each colour plane."""
        return [np.float32(levels(self.format, self.tags, k)[0]) for k in range(self.format.colours)]

    @cached_property
    def black(self) -> list[np.generic]:
        """The same in flight."""
        return [self.dtype.type(value * (1 << self.fraction)) for value in self.zero]

    def less_black(self, plane: np.ndarray, number: int, peak: float | None = None) -> np.ndarray:
        """Samples as kernels give them, in place: inside the format, where kernels overshot at edges, and up to a
        ``peak`` of its code values, less black."""
        if self.format.real and peak is not None:
            np.minimum(plane, peak, out=plane)
        elif not self.format.real:
            top = (self.format.top if peak is None else int(peak)) * (1 << self.fraction)
            np.clip(plane, self.dtype.type(0), self.dtype.type(top), out=plane)
        plane -= self.black[number]
        return plane

    def of_plane(self, plane: np.ndarray, number: int) -> np.ndarray:
        """In flight, from samples of a plane."""
        if self.real:
            return plane.astype(np.float32) - self.zero[number]
        return np.asarray(np.left_shift(plane.astype(np.int16), self.fraction) - self.black[number])

    def to_code(self, plane: np.ndarray) -> np.ndarray:
        """float32 code values."""
        return plane if self.real else plane.astype(np.float32) * np.float32(1 / (1 << self.fraction))

    def from_code(self, plane: np.ndarray) -> np.ndarray:
        """In flight, from code values."""
        if self.real:
            return plane.astype(np.float32, copy=False)
        return np.clip(np.rint(plane * np.float32(1 << self.fraction)), -32768, 32767).astype(np.int16)

    def alpha(self, cover: np.ndarray) -> np.ndarray:
        """A coverage of 0 … 1 in flight."""
        return cover.astype(np.float32, copy=False) if self.real else np.rint(cover * kernels.ONE).astype(np.int16)

    def to_cover(self, alpha: np.ndarray) -> np.ndarray:
        """The coverage 0 … 1 that an alpha in flight says, float32."""
        return alpha if self.real else alpha.astype(np.float32) * np.float32(1 / kernels.ONE)

    def one(self, shape: tuple[int, int]) -> np.ndarray:
        """An alpha that covers all."""
        return np.full(shape, 1.0 if self.real else kernels.ONE, self.dtype)

    def scaled(self, plane: np.ndarray, share: float) -> np.ndarray:
        """Samples times a share of 0 … 1."""
        if share >= 1:
            return plane
        if self.real:
            return plane * np.float32(share)
        out = np.zeros(plane.shape, plane.dtype)
        kernels.mix(out, plane, round(share * 32768))
        return out

    def rounded(self, plane: np.ndarray, number: int, at: tuple[int, int] | None) -> np.ndarray:
        """A plane in flight as samples of the format. ``at``: column and row of its first one in the frame, if a
        pattern of less than a step is to be added."""
        if self.real:
            return self.format.rounded(plane + self.zero[number])
        with_black = plane + self.black[number]
        dither = at if self.format.depth == 8 else None
        return kernels.round_off(with_black, self.fraction, self.format.top, self.format.dtype, dither=dither)
