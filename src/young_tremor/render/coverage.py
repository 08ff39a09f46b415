"""What a picture covers, and the soft fill behind the rest: the picture itself, enlarged and out of focus."""

from __future__ import annotations

import cv2
import numpy as np

from young_tremor.base.frames import Frame
from young_tremor.base.window import Window
from young_tremor.render import displacement, lattices
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.plane_matrix import between, plane_matrix
from young_tremor.render.shutter import moments

SMALL = 180  # rows of the picture from which the fill is made
BLUR = 7.0  # rows of it over which the fill is blurred
ENLARGED = 1.12
BLOCK = 16  # pixels between places at which it is asked whether anything is open


def fill_uncovered(
    colours: np.ndarray,
    plane: np.ndarray,
    cover: np.ndarray,
    size: tuple[int, int],
    part: tuple[slice, slice] | None = None,
) -> np.ndarray:
    """A plane with the fill behind what is not covered, or a part of it.

    Parameters
    ----------
    colours : (height, width)
        The plane as rendered, going on beyond the picture's edges.
    plane : (rows, columns)
        The source's plane.
    cover : (height, width) float32
        How much of each pixel is covered, 0…1.
    size : (int, int)
        Width and height of the whole plane.
    part : (slice, slice), optional
        Rows and columns that the others are of.

    Returns
    -------
    (height, width) float32
    """
    back = _fill(plane, size)
    back = back if part is None else back[part]
    # the picture lies over the fill as far as it covers: nothing dark or light comes in where the two are alike
    return np.asarray(back + cover * (colours - back))


def coverage(
    plan: Plan, plate: PlatePlan, index: int, looks: tuple[np.ndarray, np.ndarray, np.ndarray], frame: Frame
) -> np.ndarray | None:
    """How much of each luma pixel of a frame a plate covers over its exposure, 0…1: (height, width) float32; None where
    all are covered. ``looks``: times, shifts and weights close enough to tell; ``frame``: the source's, reduced or
    not."""
    times, shifts, weights = looks
    columns, rows = frame.size
    format, width, height = frame.format, *plan.size
    scale = (columns / plate.source.size[0], rows / plate.source.size[1])
    to_plane = plane_matrix(np.eye(3), 0, format, format, scale)
    if displacement.is_bent(plan, plate):
        total = np.zeros((height, width), np.float32)
        for t, shift, weight in zip(times.tolist(), shifts, weights.tolist(), strict=True):
            lattice = lattices.of_displacement(plan, plate, index, (np.array([t]), shift[None]), (0, 0))
            places = lattice.places(0, Window(0, 0, width, height)) @ to_plane[:2, :2].T + to_plane[:2, 2]
            total += np.float32(weight) * share_of(places, (columns, rows))
        return None if total.min() >= 1.0 - 1e-5 else total
    moved = to_plane @ moments(plan, index, plate, times, shifts)
    heights = np.arange(height) / max(height - 1, 1) - 0.5
    ys, xs = np.append(np.arange(0, height, BLOCK), height - 1), np.append(np.arange(0, width, BLOCK), width - 1)
    open_ = np.zeros((len(ys), len(xs)), bool)
    for item in moved:
        open_ |= _inside(item, heights, xs, ys, (columns, rows)) < 1.0 - 1e-6
    if not open_.any():
        return None
    cells = open_[:-1, :-1] | open_[1:, :-1] | open_[:-1, 1:] | open_[1:, 1:]
    cover = np.ones((height, width), np.float32)
    for row, line in enumerate(cells):
        top, bottom = BLOCK * row, min(BLOCK * (row + 1), height)
        for first, last in _runs(line):
            left, right = BLOCK * first, min(BLOCK * last, width)
            part = np.zeros((bottom - top, right - left))
            for item, weight in zip(moved, weights.tolist(), strict=True):
                part += weight * _inside(item, heights, np.arange(left, right), np.arange(top, bottom), (columns, rows))
            cover[top:bottom, left:right] = part
    return cover


def _inside(m: np.ndarray, heights: np.ndarray, xs: np.ndarray, ys: np.ndarray, source: tuple[int, int]) -> np.ndarray:
    """How much of delivered pixels at columns xs and rows ys a view by matrices (k, 3, 3) covers: (rows, columns)."""
    row = m if len(m) == 1 else between(m, heights[ys])
    lines = [row[:, k, :1] * xs + (row[:, k, 1] * ys + row[:, k, 2])[:, None] for k in range(3)]
    depth = np.maximum(lines[2], 1e-9)
    return _share(lines[0] / depth, lines[1] / depth, source)


def _share(x: np.ndarray, y: np.ndarray, source: tuple[int, int]) -> np.ndarray:
    """How much of a pixel that looks at a place of the source is covered: its distance from the edge, a pixel wide."""
    far = np.minimum(np.minimum(x, source[0] - 1 - x), np.minimum(y, source[1] - 1 - y))
    return np.clip(far + 1.0, 0.0, 1.0)


def _runs(line: np.ndarray) -> list[tuple[int, int]]:
    """First and one past the last of each run of True."""
    edges = np.flatnonzero(np.diff(np.concatenate([[0], line.astype(int), [0]])))
    return list(zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True))


def share_of(places: np.ndarray, source: tuple[int, int]) -> np.ndarray:
    """How much of each pixel a view of the source covers, by its places (height, width, 2): 0…1."""
    return _share(places[..., 0], places[..., 1], source)


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
