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


def touched_window(back: np.ndarray, low: np.ndarray, high: np.ndarray, size: tuple[int, int]) -> Window | None:
    """The part of a frame of ``size`` in which views by matrices (n, 3, 3), rendered pixel → pixel of a picture, show
    the rectangle of it from ``low`` to ``high`` (2,); None if none does."""
    return touched_by_each(back[None], low[None], high[None], size)[0]


def touched_by_each(back: np.ndarray, low: np.ndarray, high: np.ndarray, size: tuple[int, int]) -> list[Window | None]:
    """:func:`touched` of several pictures: matrices (pictures, n, 3, 3), rectangles (pictures, 2)."""
    x, y = np.stack([low[:, 0], high[:, 0]], axis=1), np.stack([low[:, 1], high[:, 1]], axis=1)
    corners = np.stack([x.repeat(2, axis=1), np.tile(y, 2), np.ones((len(x), 4))], axis=1)
    try:
        mapped = np.linalg.inv(back) @ corners[:, None]
    except np.linalg.LinAlgError:
        if len(back) == 1:
            return [None]  # it has no size
        return [touched_window(*item, size) for item in zip(back, low, high, strict=True)]
    depth = mapped[:, :, 2]
    ahead = (depth > 1e-9).all(axis=(1, 2)) | (depth < -1e-9).all(axis=(1, 2))
    with np.errstate(all="ignore"):
        places = mapped[:, :, :2] / depth[:, :, None]
    least, most = places.min(axis=(1, 3)) - 1, places.max(axis=(1, 3)) + 1
    return [
        aligned_window(first[0], first[1], last[0], last[1], size) if whole else whole_window(size)
        for first, last, whole in zip(least.tolist(), most.tolist(), ahead.tolist(), strict=True)
    ]


def aligned_window(left: float, top: float, right: float, bottom: float, size: tuple[int, int]) -> Window | None:
    """The least aligned window that holds a rectangle, inside of a frame; None if that is outside."""
    left, top = max(math.floor(left / ALIGNED) * ALIGNED, 0), max(math.floor(top / ALIGNED) * ALIGNED, 0)
    right = min(math.ceil((right + 1) / ALIGNED) * ALIGNED, size[0])
    bottom = min(math.ceil((bottom + 1) / ALIGNED) * ALIGNED, size[1])
    if right <= left or bottom <= top:
        return None
    return Window(int(left), int(top), int(right - left), int(bottom - top))
