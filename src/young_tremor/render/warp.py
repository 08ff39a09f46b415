"""One plane through one matrix, and which pixels of the source that takes."""

from __future__ import annotations

from typing import Literal

import cv2
import numpy as np

from young_tremor.base.frames import PixelFormat

Kernel = Literal["linear", "cubic"]
Border = Literal["black", "hold", "mirror", "repeat"]

_FLAGS = {"linear": cv2.INTER_LINEAR, "cubic": cv2.INTER_CUBIC}
_BORDERS = {
    "black": cv2.BORDER_CONSTANT,
    "hold": cv2.BORDER_REPLICATE,
    "mirror": cv2.BORDER_REFLECT_101,
    "repeat": cv2.BORDER_WRAP,
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
    value: int,
) -> np.ndarray:
    """Resample a plane: out(q) = plane(matrix · q).

    Parameters
    ----------
    plane : (rows, columns) uint8 or uint16
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
