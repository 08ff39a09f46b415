"""Pictures that tests and benchmarks are made of, and a source that shows one of them for any length."""

from __future__ import annotations

from fractions import Fraction
from functools import lru_cache

import numpy as np

from young_tremor.base.frames import YUV420, ColourTags, Frame, PixelFormat, SourceInfo


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


@lru_cache(maxsize=16)
def textured_frame(size: tuple[int, int], format: PixelFormat = YUV420, seed: int = 0) -> Frame:
    """A sharp, photograph-like test picture: noise of many sizes under hard edges, all planes. Nobody changes it."""
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
        plane = np.clip((0.5 + field_) * top, 0.06 * top, 0.92 * top).astype(format.dtype)
        plane.flags.writeable = False
        planes.append(plane)
    return Frame(tuple(planes), format, ColourTags(1, 1, 1, False))


def flat(size: tuple[int, int], values: tuple[int, ...], format: PixelFormat = YUV420) -> Frame:
    """A picture of one colour."""
    planes = tuple(
        np.full(format.plane_size(number, size)[::-1], values[number], format.dtype) for number in range(format.planes)
    )
    return Frame(planes, format, ColourTags(1, 1, 1, False))
