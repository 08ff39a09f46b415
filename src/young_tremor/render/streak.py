"""The way a picture goes within one view, as kernels that draw it out: what lies between views is there as well.

A box of one view's length drawn along the way, followed by views that far apart, is a box of the whole length. Where
places go different ways (a turn, a lens, rows of a rolling shutter, shimmer) the picture has a kernel for each tile.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import cv2
import numpy as np

from young_tremor.geometry import camera
from young_tremor.render import bend, shutter
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.shutter import Exposure

ALIKE = 0.5, 0.08, 1.2  # pixels by which the ways of views may differ to be drawn with one kernel; more for each; most
EVEN = 0.1  # pixels by which places of one tile may go beside its kernel's way, where that is the whole blur
JOINED = 0.3  # the same where views follow each other: what one has too much of the next lacks
LEAST_TILE = 40  # pixels
FINE = 4  # points a pixel of the way
LEAST_TAP = 2e-4
DIRECT = 120  # taps from which a kernel is split
_A = -0.75  # of the cubic by which points lie between pixels, the same as the resampler's


@dataclass(frozen=True, eq=False)
class Streaks:
    """The ways of consecutive views that are alike enough for one set of kernels.

    ``views``: their numbers. ``across`` (nx + 1,) and ``down`` (ny + 1,): edges of the tiles, as shares of the source's
    width and height. ``ways`` (ny · nx, k, 2): where the middle of each tile looks during a view, in nominal source
    pixels from where it looks at the view's own time; evenly spaced in time. ``smear`` (m, 2): shifts over which it is
    drawn out besides, the same way told. ``ramp``: see :class:`Exposure`.
    """

    views: range
    across: np.ndarray
    down: np.ndarray
    ways: np.ndarray
    smear: np.ndarray
    ramp: float = 0.0

    @property
    def still(self) -> bool:
        return float(np.abs(self.ways).max()) + float(np.abs(self.smear).max()) < 0.02


def streaks(plan: Plan, plate: PlatePlan, index: int, seen: Exposure) -> list[Streaks]:
    """How a plate's picture is drawn out in each view of a frame."""
    if not seen.spread:
        whole = np.array([0.0, 1.0])
        return [Streaks(range(len(seen.times)), whole, whole, np.zeros((1, 2, 2)), np.zeros((1, 2)))]
    bent = bend.bent(plan, plate)
    columns, rows = (25, 15) if bent else (7, 9) if len(plan.knots) > 1 else (5, 4)
    xs, ys = _middles(np.linspace(0.0, 1.0, columns + 1)), _middles(np.linspace(0.0, 1.0, rows + 1))
    coarse = _ways(plan, plate, index, seen, xs, ys, np.linspace(0, seen.within.shape[1] - 1, 3).astype(int))
    back = np.linalg.inv(plan.to_frame(index, plate))[:2, :2]
    smear = -seen.smear @ back.T
    out = []
    for views in _alike(coarse / seen.step, min(ALIKE[0] + ALIKE[1] * len(coarse), ALIKE[2]), seen.smeared):
        drift = coarse[views.start : views.stop].mean(axis=0).reshape(rows, columns, -1, 2)
        # how many tiles it takes until the way at a tile's edge is nearly that of its middle
        edge = (columns / (columns - 1), rows / (rows - 1))
        across = np.linalg.norm(np.diff(drift, axis=1), axis=3).max(axis=(0, 2)).sum() * edge[0]
        down = np.linalg.norm(np.diff(drift, axis=0), axis=3).max(axis=(1, 2)).sum() * edge[1]
        width, height = plate.source.size
        even = seen.step * (JOINED if seen.ramp else EVEN)
        nx = _tiles(across / even, width * plan.size[1] / plan.delivered[1])
        ny = _tiles(down / even, height * plan.size[1] / plan.delivered[1])
        edges = np.linspace(0.0, 1.0, nx + 1), np.linspace(0.0, 1.0, ny + 1)
        some = replace(
            seen, times=seen.times[views.start : views.stop], shifts=seen.shifts[views.start : views.stop],
            within=seen.within[views.start : views.stop],
        )  # fmt: skip
        every = np.arange(seen.within.shape[1])
        ways = _ways(plan, plate, index, some, _middles(edges[0]), _middles(edges[1]), every).mean(axis=0)
        mine = smear if views.start < seen.smeared else np.zeros((1, 2))
        out.append(Streaks(views, edges[0], edges[1], ways, mine, seen.ramp))
    return out


def _middles(edges: np.ndarray) -> np.ndarray:
    return np.asarray(0.5 * (edges[:-1] + edges[1:]))


def _tiles(variation: float, pixels: float) -> int:
    return int(min(max(math.ceil(variation / 2), 1), max(pixels // LEAST_TILE, 1)))


def _ways(
    plan: Plan, plate: PlatePlan, index: int, seen: Exposure, xs: np.ndarray, ys: np.ndarray, moments: np.ndarray
) -> np.ndarray:
    """Of places at shares ``xs`` and ``ys`` of the source, where they look during each view relative to the view's own
    time: (n, places, k, 2) nominal source pixels."""
    size = np.array(plate.source.size)
    c = np.stack(np.meshgrid(xs, ys), axis=-1).reshape(-1, 2) * size - 0.5
    to_frame = plan.to_frame(index, plate)
    out = np.empty((len(seen.times), len(c), len(moments), 2))
    for view, (time, shift) in enumerate(zip(seen.times, seen.shifts, strict=True)):
        moved = shutter.shakes(plan, plate, np.array([time]), shift[None])[0]
        # the delivered place that shows c; under a rolling shutter by the middle row's time, which is near enough
        q = np.nan_to_num(camera.apply((moved[len(moved) // 2] @ to_frame)[None], c)[0])
        times = np.append(seen.within[view][moments], time)
        there = shutter.places(plan, plate, index, times, shift, q)
        out[view] = np.moveaxis(there[:-1] - there[-1], 0, 1)
    return out


def _alike(ways: np.ndarray, within: float, smeared: int) -> list[range]:
    """Consecutive views (n, places, k, 2) that one set of kernels serves; the first ``smeared`` of them apart from the
    others."""
    out, first = [], 0
    for view in range(1, len(ways)):
        if np.linalg.norm(ways[view] - ways[first], axis=-1).max() > within or view == smeared:
            out.append(range(first, view))
            first = view
    return [*out, range(first, len(ways))]


def kernels(ways: np.ndarray, smear: np.ndarray, ramp: float = 0.0) -> tuple[np.ndarray, tuple[int, int]]:
    """Kernels that average a picture along ways.

    Parameters
    ----------
    ways : (tiles, k, 2) float64
        Places relative to a pixel, in pixels of the plane, evenly spaced in time.
    smear : (m, 2) float64
        Shifts that each of these places is drawn out over besides.
    ramp : float
        A way is one and this much of the distance between views long; over twice that share of the distance, at its
        ends, it grows and fades, so that ways as far apart as they are long without it add up to an even one.

    Returns
    -------
    kernels : (tiles, rows, columns) float32
        To correlate the picture with; each adds up to 1. Points lie between pixels as under cubic convolution (R. Keys,
        1981), so that the mean place and the spread of a kernel are those of its way.
    anchor : (int, int)
        Column and row of the pixel itself in them.
    """
    long = float(np.linalg.norm(np.diff(ways, axis=1), axis=2).sum(axis=1).max())
    count = max(8, math.ceil(long * FINE))
    at = (np.arange(count) + 0.5) / count * (ways.shape[1] - 1)
    low = np.minimum(at.astype(int), ways.shape[1] - 2)
    share = (at - low)[None, :, None]
    points = ways[:, low] * (1 - share) + ways[:, low + 1] * share
    end = np.minimum(np.arange(count) + 0.5, count - np.arange(count) - 0.5) * (1 + ramp) / count
    held = np.minimum(end / ramp, 1.0) if ramp else np.ones(count)
    held = np.repeat(held / held.sum(), len(smear)) / len(smear)
    points = (points[:, :, None] + smear).reshape(len(ways), -1, 2)
    cells = np.floor(points).astype(int)
    corner = cells.min(axis=(0, 1)) - 1
    columns, rows = cells.max(axis=(0, 1)) + 3 - corner
    taps = np.arange(4)
    wx, wy = _cubic(points[..., 0] - cells[..., 0]), _cubic(points[..., 1] - cells[..., 1])
    x, y = (cells[..., k, None] - 1 - corner[k] + taps for k in range(2))
    flat = y[..., :, None] * columns + x[..., None, :]
    flat += (np.arange(len(ways)) * rows * columns)[:, None, None, None]
    weights = wy[..., :, None] * wx[..., None, :] * held[:, None, None]
    made = np.bincount(flat.ravel(), weights.ravel(), minlength=len(ways) * rows * columns)
    return made.reshape(len(ways), rows, columns).astype(np.float32), (int(-corner[0]), int(-corner[1]))


def _cubic(x: np.ndarray) -> np.ndarray:
    """Weights of the pixels at -1, 0, 1 and 2 for places x between 0 and 1: (…, 4)."""
    d = np.abs(x[..., None] - np.array([-1.0, 0.0, 1.0, 2.0]))
    near = (_A + 2) * d**3 - (_A + 3) * d**2 + 1
    return np.where(d <= 1, near, np.where(d < 2, _A * (d**3 - 5 * d**2 + 8 * d - 4), 0.0))


def drawn(
    plane: np.ndarray, origin: tuple[int, int], whole: tuple[int, int], streaks: Streaks, scale: tuple[float, float],
    deep: bool,
) -> np.ndarray:  # fmt: skip
    """A plane, or a part of one with room about it, drawn out along the ways of its tiles.

    Parameters
    ----------
    plane : (rows, columns) or (rows, columns, channels)
    origin : (int, int)
        Where its first pixel lies in the whole plane, across and down: before it if there is room about it.
    whole : (int, int)
        Width and height of the whole plane.
    scale : (float, float)
        Pixels of the plane to a nominal source pixel, across and down.
    deep : bool
        The result is float32, finer than the plane's own steps.
    """
    made, (ax, ay) = kernels(streaks.ways * scale, streaks.smear * scale, streaks.ramp)
    made[np.abs(made) < LEAST_TAP] = 0.0
    made /= made.sum(axis=(1, 2), keepdims=True)
    rows, columns = made.shape[1:]
    # room on all sides for what the kernels reach
    wide = cv2.copyMakeBorder(plane, ay, rows - 1 - ay, ax, columns - 1 - ax, cv2.BORDER_REPLICATE)
    if deep:
        wide = wide.astype(np.float32, copy=False)
    height, width = plane.shape[:2]
    xs = np.clip(np.rint(streaks.across * whole[0]).astype(int) - origin[0], 0, width)
    ys = np.clip(np.rint(streaks.down * whole[1]).astype(int) - origin[1], 0, height)
    xs[0], xs[-1], ys[0], ys[-1] = 0, width, 0, height
    out = np.empty(plane.shape, np.float32 if deep else plane.dtype)
    tiles = ((y, x) for y in range(len(ys) - 1) for x in range(len(xs) - 1))
    for kernel, (y, x) in zip(made, tiles, strict=True):
        top, bottom, left, right = ys[y], ys[y + 1], xs[x], xs[x + 1]
        if top >= bottom or left >= right:
            continue
        part = wide[top : bottom + rows - 1, left : right + columns - 1]
        out[top:bottom, left:right] = _correlated(part, kernel)
    return out


def _correlated(part: np.ndarray, kernel: np.ndarray) -> np.ndarray:
    """A picture correlated with a kernel that lies inside of it whole: as much smaller as the kernel is large, less 1.

    Few of a line's taps are not zero, and zeros cost nothing; but large kernels would be taken by way of a transform of
    the whole, so they go in parts.
    """
    rows, columns = kernel.shape
    used = np.flatnonzero(kernel.any(axis=1)), np.flatnonzero(kernel.any(axis=0))
    (top, bottom), (left, right) = ((int(u[0]), int(u[-1]) + 1) for u in used)
    height, width = part.shape[0] - rows + 1, part.shape[1] - columns + 1
    part = part[top : bottom + height - 1, left : right + width - 1]
    kernel = kernel[top:bottom, left:right]
    rows, columns = kernel.shape
    if part.dtype == np.float32 and rows * columns > DIRECT:
        first, second = kernel.copy(), kernel.copy()
        if rows > columns:
            first[rows // 2 :], second[: rows // 2] = 0.0, 0.0
        else:
            first[:, columns // 2 :], second[:, : columns // 2] = 0.0, 0.0
        return np.asarray(cv2.add(_correlated(part, first), _correlated(part, second)))
    done = cv2.filter2D(part, -1, kernel, anchor=(0, 0), borderType=cv2.BORDER_CONSTANT)
    return np.asarray(done[:height, :width])


def reach(streaks: Streaks, scale: tuple[float, float]) -> int:
    """Pixels of a plane that kernels reach beyond a place."""
    far = np.abs(streaks.ways).max(axis=(0, 1)) + np.abs(streaks.smear).max(axis=0)
    return math.ceil(float(far.max()) * max(scale)) + 3
