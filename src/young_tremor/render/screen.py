"""Frames for the screen: reduced copies of sources, and RGB."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.colour_spaces import is_mapped_for_screens
from young_tremor.base.frames import Frame, FrameSource, SourceInfo
from young_tremor.base.pixels import full_range
from young_tremor.render import colour_conversion


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


def shrink(plane: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """A plane at a smaller size, averaged by area: by a whole factor first, for which the library has a fast way."""
    rows, columns = plane.shape
    whole = min(columns // size[0], rows // size[1])
    if whole > 1 and columns % whole == 0 and rows % whole == 0:
        plane = cv2.resize(plane, (columns // whole, rows // whole), interpolation=cv2.INTER_AREA)
    return cv2.resize(plane, size, interpolation=cv2.INTER_AREA)


def reduce(
    frame: Frame,
    size: tuple[int, int],
    *,
    straight: bool = True,
    shrink: Callable[[np.ndarray, tuple[int, int]], np.ndarray] = shrink,
) -> Frame:
    """A copy of ``frame`` at ``size`` (even numbers are best), averaged by area; the frame itself if no larger.

    ``straight``: of its alpha, if it has any: a pixel then counts as much as it covers, so that what is transparent
    gives no colour to an edge. ``shrink``: how a plane is averaged.
    """
    if size[0] >= frame.size[0] or size[1] >= frame.size[1]:
        return frame
    format = frame.format
    tags = colour.with_matrix(frame.colour, format, frame.size)
    sizes = [format.plane_size(number, size) for number in range(format.planes)]
    if not (format.alpha and straight):
        return replace(frame, planes=tuple(map(shrink, frame.planes, sizes)), colour=tags)
    alpha = frame.planes[-1].astype(np.float32)
    out = []
    for number, plane in enumerate(frame.planes[:-1]):
        cover = colour.downsample_chroma(alpha, format, frame.size) if format.chroma(number) else alpha
        mass = np.maximum(shrink(cover, sizes[number]), 1e-6)
        out.append(format.rounded(shrink(plane.astype(np.float32) * cover, sizes[number]) / mass))
    return replace(frame, planes=(*out, shrink(frame.planes[-1], sizes[-1])), colour=tags)


def to_rgb(frame: Frame, stops: float = 0.0) -> np.ndarray:
    """An 8-bit RGB picture (rows, columns, 3) for the screen, range and matrix of the frame respected; alpha over
    black. ``stops``: with so much more or less light."""
    format = frame.format
    if format.alpha:
        frame = colour.over_black(frame)
        format = frame.format
    if is_mapped_for_screens(frame.colour):
        return _as_bytes(colour_conversion.for_screen(frame, stops))
    if stops:
        return _as_bytes(colour_conversion.brighter(frame, stops))
    if format.real:
        return np.asarray(np.rint(np.clip(colour.to_rgb(frame), 0, 1) * 255)).astype(np.uint8)
    full = full_range(format, frame.colour)
    planes = [_eight(plane, format.depth) for plane in frame.planes]
    if format.kind != "yuv":
        picture = cv2.merge([planes[2], planes[0], planes[1]] if format.rgb else [planes[0]] * 3)
        return picture if full else np.asarray(cv2.convertScaleAbs(np.maximum(picture, 16) - 16, alpha=255 / 219))
    for number in (1, 2):
        if planes[number].shape != planes[0].shape:
            planes[number] = cv2.resize(planes[number], frame.size, interpolation=cv2.INTER_LINEAR)
    weights = colour.luma_weights(frame.colour, frame.size)
    return np.asarray(cv2.transform(cv2.merge(planes[:3]), _to_rgb(weights, full)))


def _as_bytes(rgb: np.ndarray) -> np.ndarray:
    """R'G'B' 0…1 as bytes, rounded."""
    return np.asarray(cv2.addWeighted(rgb, 255.0, rgb, 0.0, 0.0, dtype=cv2.CV_8U))


def _eight(plane: np.ndarray, depth: int) -> np.ndarray:
    return plane if depth == 8 else cv2.convertScaleAbs(plane, alpha=1.0 / (1 << (depth - 8)))


@lru_cache(maxsize=16)
def _to_rgb(weights: tuple[float, float], full: bool) -> np.ndarray:
    """(3, 4): YCbCr 8-bit codes → RGB 8-bit."""
    kr, kb = weights
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
