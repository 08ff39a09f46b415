"""Soft fill: behind uncovered edges lies the picture itself, enlarged and out of focus."""

from __future__ import annotations

import cv2
import numpy as np

from young_tremor.render.warp import Place, maps_of

SMALL = 180  # rows of the picture from which the fill is made
BLUR = 7.0  # rows of it over which the fill is blurred
ENLARGED = 1.12


def filled(
    made: np.ndarray, plane: np.ndarray, places: list[Place], weights: np.ndarray, size: tuple[int, int],
    heights: np.ndarray, value: int,
) -> np.ndarray:  # fmt: skip
    """A rendered plane, black where nothing covers it, with the fill behind it.

    Parameters
    ----------
    made : (height, width)
        The render with black borders of ``value``.
    plane : (rows, columns)
        The source's plane.
    places : list of Place
        Where each view looks in the source, with their ``weights``.
    """
    rows, columns = plane.shape
    cover = coverage(places, weights, size, heights, (columns, rows))
    if cover.min() >= 1.0 - 1e-6:
        return made
    back = _fill(plane, size)
    gap = 1.0 - np.minimum(cover, 1.0)
    out = made.astype(np.float32) + gap * (back - np.float32(value))
    top = 255 if made.dtype == np.uint8 else np.iinfo(made.dtype).max
    return np.clip(np.rint(out), 0, top).astype(made.dtype)


def coverage(
    places: list[Place], weights: np.ndarray, size: tuple[int, int], heights: np.ndarray, source: tuple[int, int]
) -> np.ndarray:
    """How much of each pixel of a plane all its views together cover, 0…1: (height, width) float32."""
    cover = np.zeros((size[1], size[0]), np.float32)
    for place, weight in zip(places, weights, strict=True):
        cover += np.float32(weight) * _covered(place, size, heights, source)
    return cover


def _covered(place: Place, size: tuple[int, int], heights: np.ndarray, source: tuple[int, int]) -> np.ndarray:
    """How much of each pixel a view of the source covers, 0…1: its distance from the source's edge, a pixel wide."""
    xs, ys = maps_of(place, heights, size)
    far = np.minimum(np.minimum(xs, source[0] - 1 - xs), np.minimum(ys, source[1] - 1 - ys))
    return np.clip(far + 1.0, 0.0, 1.0)


def _fill(plane: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """The blurred, enlarged picture: (height, width) float32."""
    rows = min(SMALL, size[1])
    small = cv2.resize(
        plane.astype(np.float32), (max(2, round(size[0] * rows / size[1])), rows), interpolation=cv2.INTER_AREA
    )
    wide = cv2.GaussianBlur(small, (0, 0), BLUR * rows / SMALL, borderType=cv2.BORDER_REFLECT_101)
    height, width = wide.shape
    cut_x, cut_y = width * (1 - 1 / ENLARGED) / 2, height * (1 - 1 / ENLARGED) / 2
    inner = wide[int(cut_y) : height - int(cut_y), int(cut_x) : width - int(cut_x)]
    return cv2.resize(inner, size, interpolation=cv2.INTER_CUBIC)
