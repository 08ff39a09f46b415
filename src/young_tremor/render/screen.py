"""Frames for the screen: reduced copies of sources, and RGB."""

from __future__ import annotations

from functools import lru_cache

import cv2
import numpy as np

from young_tremor.base.frames import Frame, FrameSource, SourceInfo, with_planes

# Kr, Kb of the colour matrices of ITU-T H.273 by number; others are taken as BT.709
_LUMA = {
    1: (0.2126, 0.0722), 4: (0.30, 0.11), 5: (0.299, 0.114), 6: (0.299, 0.114), 7: (0.212, 0.087), 9: (0.2627, 0.0593),
}  # fmt: skip


class ReducedSource:
    """Another source's frames, scaled down to about ``size`` by area: what a preview needs and no more."""

    def __init__(self, source: FrameSource, size: tuple[int, int]) -> None:
        self._source = source
        self._size = size

    @property
    def info(self) -> SourceInfo:
        return self._source.info

    def read(self, index: int) -> Frame:
        return reduce(self._source.read(index), self._size)

    def close(self) -> None:
        self._source.close()


def reduce(frame: Frame, size: tuple[int, int]) -> Frame:
    """A copy of ``frame`` at ``size`` (even numbers are best), averaged by area; the frame itself if no larger."""
    if size[0] >= frame.size[0] or size[1] >= frame.size[1]:
        return frame
    planes = tuple(_shrink(plane, frame.format.plane_size(number, size)) for number, plane in enumerate(frame.planes))
    return with_planes(frame, planes)


def _shrink(plane: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """Area average: by a whole factor first, for which the library has a fast way, then the rest."""
    rows, columns = plane.shape
    whole = min(columns // size[0], rows // size[1])
    if whole > 1 and columns % whole == 0 and rows % whole == 0:
        plane = cv2.resize(plane, (columns // whole, rows // whole), interpolation=cv2.INTER_AREA)
    return cv2.resize(plane, size, interpolation=cv2.INTER_AREA)


def to_rgb(frame: Frame) -> np.ndarray:
    """An 8-bit RGB picture (rows, columns, 3) for the screen, range and matrix of the frame respected."""
    planes = [_eight(plane, frame.format.depth) for plane in frame.planes]
    if frame.format.rgb:
        return cv2.merge([planes[2], planes[0], planes[1]])
    if frame.format.planes < 3:
        planes = [planes[0], np.full_like(planes[0], 128), np.full_like(planes[0], 128)]
    for number in (1, 2):
        if planes[number].shape != planes[0].shape:
            planes[number] = cv2.resize(planes[number], frame.size, interpolation=cv2.INTER_LINEAR)
    return cv2.transform(cv2.merge(planes[:3]), _to_rgb(_matrix(frame), bool(frame.colour.full)))


def luma_weights(frame: Frame) -> tuple[float, float]:
    """Kr and Kb of a frame's colour matrix."""
    return _LUMA.get(_matrix(frame), _LUMA[1])


def _matrix(frame: Frame) -> int:
    """The number of a frame's colour matrix; untold it goes by its size."""
    return frame.colour.matrix if frame.colour.matrix != 2 else (1 if frame.size[1] > 576 else 6)


def _eight(plane: np.ndarray, depth: int) -> np.ndarray:
    return plane if depth == 8 else cv2.convertScaleAbs(plane, alpha=1.0 / (1 << (depth - 8)))


@lru_cache(maxsize=16)
def _to_rgb(matrix: int, full: bool) -> np.ndarray:
    """(3, 4): YCbCr 8-bit codes → RGB 8-bit."""
    kr, kb = _LUMA.get(matrix, _LUMA[1])
    kg = 1 - kr - kb
    y, c = (1.0, 1.0) if full else (255 / 219, 255 / 224)
    rows = np.array(
        [
            [y, 0.0, 2 * (1 - kr) * c],
            [y, -2 * kb * (1 - kb) / kg * c, -2 * kr * (1 - kr) / kg * c],
            [y, 2 * (1 - kb) * c, 0.0],
        ]
    )
    offset = -rows @ np.array([0.0 if full else 16.0, 128.0, 128.0])
    return np.hstack([rows, offset[:, None]])
