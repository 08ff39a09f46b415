"""One plane through one matrix, and which pixels of the source that takes."""

from __future__ import annotations

import math
import threading
from typing import Literal

import cv2
import numpy as np

from young_tremor.base.pixels import PixelFormat
from young_tremor.model.edges import Border as Border

Kernel = Literal["linear", "cubic"]

Place = np.ndarray  # matrices (k, 3, 3) at k heights, or a map (height, width, 2) of x and y

COARSE = 8  # pixels between places at which maps are worked out
ROOM = 4  # pixels about a plane that sharpening and doubling read beyond it
DOUBLED = np.array([[2.0, 0, 0.5], [0, 2.0, 0.5], [0, 0, 1.0]])  # places of a plane to those of the doubled one
MOST_KEPT = 64 << 20  # bytes of a doubled plane that a thread keeps for the next frame
_room = threading.local()
# What doubling and bilinear views take away is given back beforehand, and what bilinear views alone do
_BEFORE_DOUBLING = np.array([0.015, -0.06, 1.09, -0.06, 0.015], np.float32)
_BEFORE_LINEAR = np.array([0.0156, -0.1146, 1.198, -0.1146, 0.0156], np.float32)

BORDERS = {
    "black": cv2.BORDER_CONSTANT,
    "hold": cv2.BORDER_REPLICATE,
    "mirror": cv2.BORDER_REFLECT_101,
    "repeat": cv2.BORDER_WRAP,
    "soft": cv2.BORDER_REPLICATE,
}
#: Pixels that places are kept inside a source's outermost pixel centres: to so many some resamplers round.
INSET = 1 / 32


def plane_matrix(
    out_to_source: np.ndarray,
    plane: int,
    out_format: PixelFormat,
    source_format: PixelFormat,
    scale: tuple[float, float] = (1.0, 1.0),
) -> np.ndarray:
    """The matrix of one plane from that of the luma.

    ``out_to_source`` (3, 3) maps delivered luma pixels to nominal source luma pixels. ``scale`` is the given
    picture's size over the nominal source's, where a reduced copy stands in for the source.
    """
    step, siting = out_format.plane_step(plane), out_format.plane_siting(plane)
    to_luma = np.array([[step[0], 0, siting[0]], [0, step[1], siting[1]], [0, 0, 1.0]])
    step, siting = source_format.plane_step(plane), source_format.plane_siting(plane)
    kx, ky = scale
    to_plane = np.array(
        [
            [kx / step[0], 0, (0.5 * kx - 0.5 - siting[0]) / step[0]],
            [0, ky / step[1], (0.5 * ky - 0.5 - siting[1]) / step[1]],
            [0, 0, 1.0],
        ]
    )
    return to_plane @ out_to_source @ to_luma


def is_identity(matrix: np.ndarray, size: tuple[int, int], within: float = 1e-6) -> bool:
    """Whether a matrix moves no pixel of a picture of ``size`` by more than ``within`` pixels."""
    width, height = size
    corners = np.array([[0, 0, 1], [width, 0, 1], [0, height, 1], [width, height, 1.0]]).T
    mapped = matrix @ corners
    return bool(np.all(np.abs(mapped[:2] / mapped[2] - corners[:2]) < within))


def doubled(plane: np.ndarray, deep: bool = False, passing: bool = False) -> np.ndarray:
    """A plane at twice its size, from which bilinear views are as sharp as bicubic ones of the plane itself.

    ``deep``: as float32. ``passing``: it is only needed until the same thread doubles another plane; its memory is then
    used again, which takes half as long as fresh memory.
    """
    before = _filtered(plane, _BEFORE_DOUBLING, deep)
    rows, columns = before.shape[:2]
    shape = (2 * rows, 2 * columns, *before.shape[2:])
    room = _passing(shape, before.dtype) if passing else np.empty(shape, before.dtype)
    cv2.resize(before, (2 * columns, 2 * rows), dst=room, interpolation=cv2.INTER_CUBIC)
    return room


def _passing(shape: tuple[int, ...], dtype: np.dtype) -> np.ndarray:
    """Room of this thread's that was used before, if it is large enough."""
    need = math.prod(shape) * dtype.itemsize
    if need > MOST_KEPT:
        return np.empty(shape, dtype)
    room: np.ndarray | None = getattr(_room, "bytes", None)
    if room is None or room.size < need:
        room = _room.bytes = np.empty(need, np.uint8)
    return np.asarray(room[:need].view(dtype).reshape(shape))


def sharpened(plane: np.ndarray, deep: bool = False) -> np.ndarray:
    """A plane from which the mean of many bilinear views is as sharp as that of bicubic ones; ``deep``: as float32."""
    return _filtered(plane, _BEFORE_LINEAR, deep)


def _filtered(plane: np.ndarray, taps: np.ndarray, deep: bool) -> np.ndarray:
    depth = cv2.CV_32F if deep else -1
    return np.asarray(cv2.sepFilter2D(plane, depth, taps, taps, borderType=cv2.BORDER_REPLICATE))


def warp(plane: np.ndarray, matrix: np.ndarray, size: tuple[int, int], *, border: Border) -> np.ndarray:
    """Resample a plane bilinearly: out(q) = plane(matrix · q).

    Parameters
    ----------
    plane : (rows, columns) uint8, uint16 or float32
    matrix : (3, 3) float64
        Delivered pixel → source pixel of this plane.
    size : (width, height) of the result.
    border : str
        What lies outside.

    Returns
    -------
    (height, width), dtype of ``plane``.
    """
    flags, mode = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP, BORDERS[border]
    if abs(matrix[2, 0]) * size[0] + abs(matrix[2, 1]) * size[1] < 1e-9:
        return cv2.warpAffine(plane, matrix[:2] / matrix[2, 2], size, flags=flags, borderMode=mode)
    return cv2.warpPerspective(plane, matrix, size, flags=flags, borderMode=mode)


def row_map(matrices: np.ndarray, heights: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """Where each pixel comes from if each row has a matrix of its own: x and y, (height, width, 2) float32.

    Worked out at every eighth pixel; between them the map is straight to a thousandth of a pixel.

    Parameters
    ----------
    matrices : (k, 3, 3) float64
        Delivered pixel → source pixel of this plane, at heights -0.5…0.5 of the picture, evenly spaced.
    heights : (rows,) float64
        Where each row of the result lies between them, -0.5…0.5.
    size : (width, height) of the result.
    """
    y = lattice(size[1], COARSE)
    step = heights[1] - heights[0] if len(heights) > 1 else 0.0
    row = between(matrices, heights[0] + y * step)
    x = lattice(size[0], COARSE)

    def line(k: int) -> np.ndarray:
        return np.asarray(row[:, k, :1] * x + (row[:, k, 1] * y + row[:, k, 2])[:, None])

    return spread((np.stack([line(0), line(1)], axis=-1) / line(2)[..., None]).astype(np.float32), size, COARSE)


def between(matrices: np.ndarray, heights: np.ndarray) -> np.ndarray:
    """The matrices of rows at ``heights`` (r,), -0.5…0.5, from those (…, k, 3, 3) at evenly spaced ones: (…, r, 3, 3);
    one matrix is that of all."""
    m = matrices / matrices[..., 2:, 2:]
    last = m.shape[-3] - 1
    at = np.clip((heights + 0.5) * last, 0, last)
    low = np.minimum(at.astype(int), max(last - 1, 0))
    share = (at - low)[:, None, None]
    return np.asarray((1 - share) * m[..., low, :, :] + share * m[..., np.minimum(low + 1, last), :, :])


def lattice(count: int, pitch: int) -> np.ndarray:
    """Places of which each is the middle of ``pitch`` pixels, one more than needed on either side of ``count``."""
    return np.arange(-(-count // pitch) + 2) * pitch - 0.5 * (pitch + 1)


def spread(
    coarse: np.ndarray, size: tuple[int, int], pitch: int, step: tuple[int, int] = (1, 1),
    siting: tuple[float, float] = (0.0, 0.0),
) -> np.ndarray:  # fmt: skip
    """A map given at a :func:`lattice` of the luma, for every pixel of a plane: (height, width, 2) float32."""
    if step == (1, 1):
        rows, columns = coarse.shape[:2]
        full = cv2.resize(coarse, (columns * pitch, rows * pitch), interpolation=cv2.INTER_LINEAR)
        return np.asarray(full[pitch : pitch + size[1], pitch : pitch + size[0]])
    ahead = 0.5 * (pitch + 1)
    matrix = np.array([[step[0] / pitch, 0, (siting[0] + ahead) / pitch],
                       [0, step[1] / pitch, (siting[1] + ahead) / pitch]])  # fmt: skip
    return np.asarray(cv2.warpAffine(coarse, matrix, size, flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP))


def look(plane: np.ndarray, place: Place, heights: np.ndarray, size: tuple[int, int], *, border: Border) -> np.ndarray:
    """Resample a plane bilinearly by one matrix, by matrices at heights of the picture, or by a map."""
    if place.shape[-1] == 3 and len(place) == 1:
        return warp(plane, place[0], size, border=border)
    xy = map_of(place, heights, size)
    return np.asarray(cv2.remap(plane, xy, None, cv2.INTER_LINEAR, borderMode=BORDERS[border]))  # type: ignore[call-overload]


def map_of(place: Place, heights: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """The map that a place stands for: x and y, (height, width, 2) float32."""
    if place.shape[-1] == 2:
        return place
    return row_map(np.repeat(place, 2, axis=0) if len(place) == 1 else place, heights, size)


def heights(format: PixelFormat, plane: int, count: int, height: int) -> np.ndarray:
    """Where the ``count`` rows of a plane lie in a picture of ``height`` luma rows, -0.5…0.5: (count,)."""
    step, siting = format.plane_step(plane)[1], format.plane_siting(plane)[1]
    return (np.arange(count) * step + siting) / max(height - 1, 1) - 0.5
