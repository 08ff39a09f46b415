"""Parts of a frame."""

from __future__ import annotations

import math

import numpy as np

from young_tremor.base.window import Window

ALIGNED = 4  # luma pixels: windows begin on whole pixels of every plane
COARSE = 64  # luma pixels at which windows begin whose places are cut out of those of the whole frame
EDGE = 2  # pixels that kernels reach beyond a picture


def coarse_window(window: Window, size: tuple[int, int]) -> Window:
    """The least window that holds another and begins at a multiple of ``COARSE``, inside of a frame."""
    left, top = window.left // COARSE * COARSE, window.top // COARSE * COARSE
    right, bottom = min(-(-window.right // 4) * 4, size[0]), min(-(-window.bottom // 4) * 4, size[1])
    return Window(left, top, right - left, bottom - top)


def whole_window(size: tuple[int, int]) -> Window:
    """All of a frame."""
    return Window(0, 0, *size)


def touched(back: np.ndarray, low: np.ndarray, high: np.ndarray, size: tuple[int, int]) -> Window | None:
    """The part of a frame of ``size`` in which views by matrices (n, 3, 3), rendered pixel → pixel of a picture, show
    the rectangle of it from ``low`` to ``high`` (2,); None if none does."""
    corners = np.array([[x, y, 1.0] for x in (low[0], high[0]) for y in (low[1], high[1])])
    try:
        mapped = np.linalg.inv(back) @ corners.T
    except np.linalg.LinAlgError:
        return None  # it has no size
    depth = mapped[:, 2]
    if not (depth > 1e-9).all() and not (depth < -1e-9).all():
        return whole_window(size)
    x, y = mapped[:, 0] / depth, mapped[:, 1] / depth
    return aligned(x.min() - 1, y.min() - 1, x.max() + 1, y.max() + 1, size)


def aligned(left: float, top: float, right: float, bottom: float, size: tuple[int, int]) -> Window | None:
    """The least aligned window that holds a rectangle, inside of a frame; None if that is outside."""
    left, top = max(math.floor(left / ALIGNED) * ALIGNED, 0), max(math.floor(top / ALIGNED) * ALIGNED, 0)
    right = min(math.ceil((right + 1) / ALIGNED) * ALIGNED, size[0])
    bottom = min(math.ceil((bottom + 1) / ALIGNED) * ALIGNED, size[1])
    if right <= left or bottom <= top:
        return None
    return Window(int(left), int(top), int(right - left), int(bottom - top))
