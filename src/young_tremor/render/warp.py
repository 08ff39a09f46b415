"""One plane through one matrix, and which pixels of the source that takes."""

from __future__ import annotations

from typing import Literal

import cv2
import numpy as np

from young_tremor.base.pixels import PixelFormat

Kernel = Literal["linear", "cubic"]
Border = Literal["black", "hold", "mirror", "repeat", "soft"]

Place = np.ndarray | tuple[np.ndarray, np.ndarray]  # matrices (k, 3, 3) at k heights, or maps x and y

COARSE = 8  # pixels between places at which maps are worked out

_FLAGS = {"linear": cv2.INTER_LINEAR, "cubic": cv2.INTER_CUBIC}
_BORDERS = {
    "black": cv2.BORDER_CONSTANT,
    "hold": cv2.BORDER_REPLICATE,
    "mirror": cv2.BORDER_REFLECT_101,
    "repeat": cv2.BORDER_WRAP,
    "soft": cv2.BORDER_REPLICATE,
}
#: Pixels on each side of a place that a kernel reads beyond the two nearest, plus the 1/32 px to which the
#: resampler rounds places.
REACH = {"linear": 1 / 32, "cubic": 1 + 1 / 32}


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


def warp(
    plane: np.ndarray,
    matrix: np.ndarray,
    size: tuple[int, int],
    *,
    kernel: Kernel,
    border: Border,
    value: float,
) -> np.ndarray:
    """Resample a plane: out(q) = plane(matrix · q).

    Parameters
    ----------
    plane : (rows, columns) uint8, uint16 or float32
    matrix : (3, 3) float64
        Delivered pixel → source pixel of this plane.
    size : (width, height) of the result.
    kernel, border : str
        ``border`` says what lies outside; ``value`` is black there.

    Returns
    -------
    (height, width), dtype of ``plane``.
    """
    flags = _FLAGS[kernel] | cv2.WARP_INVERSE_MAP
    mode = _BORDERS[border]
    if abs(matrix[2, 0]) * size[0] + abs(matrix[2, 1]) * size[1] < 1e-9:
        return cv2.warpAffine(plane, matrix[:2] / matrix[2, 2], size, flags=flags, borderMode=mode, borderValue=value)
    return cv2.warpPerspective(plane, matrix, size, flags=flags, borderMode=mode, borderValue=value)


def warp_rows(
    plane: np.ndarray, matrices: np.ndarray, heights: np.ndarray, size: tuple[int, int], *, kernel: Kernel,
    border: Border, value: float,
) -> np.ndarray:  # fmt: skip
    """Resample a plane each of whose rows has a matrix of its own, between those at some heights.

    Parameters
    ----------
    matrices : (k, 3, 3) float64
        Delivered pixel → source pixel of this plane, at heights -0.5…0.5 of the picture, evenly spaced.
    heights : (rows,) float64
        Where each row of the result lies between them, -0.5…0.5.
    size, kernel, border, value
        As in :func:`warp`.
    """
    xs, ys = row_maps(matrices, heights, size)
    return cv2.remap(plane, xs, ys, _FLAGS[kernel], borderMode=_BORDERS[border], borderValue=value)


def row_maps(matrices: np.ndarray, heights: np.ndarray, size: tuple[int, int]) -> tuple[np.ndarray, np.ndarray]:
    """Where each pixel of the result comes from: x and y, each (height, width) float32. See :func:`warp_rows`.

    Worked out at every eighth pixel; between them the maps are straight to a thousandth of a pixel. (An eighth is a
    whole number of the thirty-seconds to which some resamplers round.)
    """
    m = matrices / matrices[:, 2:, 2:]
    y = np.arange(0, size[1] + COARSE, COARSE, dtype=np.float64)
    step = heights[1] - heights[0] if len(heights) > 1 else 0.0
    at = np.clip((heights[0] + y * step + 0.5) * (len(m) - 1), 0, len(m) - 1)
    low = np.minimum(at.astype(int), max(len(m) - 2, 0))
    share = (at - low)[:, None, None]
    row = (1 - share) * m[low] + share * m[np.minimum(low + 1, len(m) - 1)]
    x = np.arange(0, size[0] + COARSE, COARSE, dtype=np.float64)

    def line(k: int) -> np.ndarray:
        return np.asarray(row[:, k, :1] * x + (row[:, k, 1] * y + row[:, k, 2])[:, None])

    xs, ys, depth = line(0), line(1), line(2)
    return spread((xs / depth).astype(np.float32), size, COARSE), spread((ys / depth).astype(np.float32), size, COARSE)


def spread(
    coarse: np.ndarray, size: tuple[int, int], pitch: int, step: tuple[int, int] = (1, 1),
    siting: tuple[float, float] = (0.0, 0.0),
) -> np.ndarray:  # fmt: skip
    """A map given at every ``pitch``-th pixel of the luma, for every pixel of a plane: (height, width) float32."""
    matrix = np.array([[step[0] / pitch, 0, siting[0] / pitch], [0, step[1] / pitch, siting[1] / pitch]])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    return cv2.warpAffine(coarse, matrix, size, flags=flags, borderMode=cv2.BORDER_REPLICATE)


def look(
    plane: np.ndarray, place: Place, heights: np.ndarray, size: tuple[int, int], *, kernel: Kernel, border: Border,
    value: float,
) -> np.ndarray:  # fmt: skip
    """Resample a plane by one matrix, by matrices at heights of the picture, or by maps."""
    if isinstance(place, tuple):
        mode = _BORDERS[border]
        return cv2.remap(plane, place[0], place[1], _FLAGS[kernel], borderMode=mode, borderValue=value)
    if len(place) == 1:
        return warp(plane, place[0], size, kernel=kernel, border=border, value=value)
    return warp_rows(plane, place, heights, size, kernel=kernel, border=border, value=value)


def maps_of(place: Place, heights: np.ndarray, size: tuple[int, int]) -> tuple[np.ndarray, np.ndarray]:
    """The maps that a place stands for: x and y, each (height, width) float32."""
    if isinstance(place, tuple):
        return place
    return row_maps(np.repeat(place, 2, axis=0) if len(place) == 1 else place, heights, size)


def rows_of(count: int, step: int, siting: float, height: int) -> np.ndarray:
    """Where the rows of a plane lie in a picture of ``height`` luma rows, -0.5…0.5: (count,)."""
    return (np.arange(count) * step + siting) / max(height - 1, 1) - 0.5
