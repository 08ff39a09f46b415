"""The matrix of one plane from that of the luma, and matrices between the heights of a rolling shutter."""

from __future__ import annotations

import numpy as np

from young_tremor.base.pixels import PixelFormat

#: Pixels that places are kept inside a source's outermost pixel centres, so that nothing beyond is read.
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


def between(matrices: np.ndarray, heights: np.ndarray) -> np.ndarray:
    """The matrices of rows at ``heights`` (r,), -0.5…0.5, from those (…, k, 3, 3) at evenly spaced ones: (…, r, 3, 3);
    one matrix is that of all."""
    m = matrices / matrices[..., 2:, 2:]
    last = m.shape[-3] - 1
    at = np.clip((heights + 0.5) * last, 0, last)
    low = np.minimum(at.astype(int), max(last - 1, 0))
    share = (at - low)[:, None, None]
    return np.asarray((1 - share) * m[..., low, :, :] + share * m[..., np.minimum(low + 1, last), :, :])
