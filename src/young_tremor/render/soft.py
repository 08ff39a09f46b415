"""Soft fill: behind uncovered edges lies the picture itself, enlarged and out of focus."""

from __future__ import annotations

from collections.abc import Iterable

import cv2
import numpy as np

from young_tremor.base.pixels import PixelFormat
from young_tremor.render.warp import Place, maps_of

SMALL = 180  # rows of the picture from which the fill is made
BLUR = 7.0  # rows of it over which the fill is blurred
ENLARGED = 1.12


def filled(
    views: Iterable[np.ndarray], plane: np.ndarray, places: list[Place], weights: np.ndarray, size: tuple[int, int],
    heights: np.ndarray, format: PixelFormat,
) -> np.ndarray:  # fmt: skip
    """The mean of the views of a plane with the fill behind what they leave open.

    Parameters
    ----------
    views : renders of the plane, (height, width) each, that go on beyond its edges.
    plane : (rows, columns)
        The source's plane.
    places : list of Place
        Where each view looks in the source, with their ``weights``.
    """
    rows, columns = plane.shape
    back = _fill(plane, size)
    total = np.zeros((size[1], size[0]), np.float32)
    for view, place, weight in zip(views, places, weights.tolist(), strict=True):
        # each view lies over the fill as far as it covers: nothing dark or light comes in where the two are alike
        total += np.float32(weight) * covered(place, size, heights, (columns, rows)) * (view - back)
    return format.rounded(total + back)


def coverage(
    places: list[Place], weights: np.ndarray, size: tuple[int, int], heights: np.ndarray, source: tuple[int, int]
) -> np.ndarray:
    """How much of each pixel of a plane all its views together cover, 0…1: (height, width) float32."""
    cover = np.zeros((size[1], size[0]), np.float32)
    for place, weight in zip(places, weights, strict=True):
        cover += np.float32(weight) * covered(place, size, heights, source)
    return cover


def covered(place: Place, size: tuple[int, int], heights: np.ndarray, source: tuple[int, int]) -> np.ndarray:
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
    return np.asarray(cv2.resize(inner, size, interpolation=cv2.INTER_CUBIC))
