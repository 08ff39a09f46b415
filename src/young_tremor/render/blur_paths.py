"""The ways along which views are drawn out, in pixels of the result: tile by tile where places go different ways."""

from __future__ import annotations

import math

import numpy as np

from young_tremor.kernels import Trail
from young_tremor.render import displacement, shutter
from young_tremor.render.exposure_views import ExposureViews
from young_tremor.render.plan import Plan, PlatePlan

ALIKE = 2.0  # pixels by which the ways of views that are drawn out together may differ
EVEN = 0.12  # pixels by which places of one tile may go beside its middle's way
LEAST_TILE = 16  # pixels
FARTHEST = 1500.0  # pixels of a way


def trails_of(plan: Plan, plate: PlatePlan, index: int, views: ExposureViews) -> list[Trail]:
    """How the views of a plate are drawn out; ways in rendered luma pixels."""
    out: list[Trail] = []
    if views.drawn:
        columns, rows = (25, 15) if displacement.is_bent(plan, plate) else (7, 9) if len(plan.knots) > 1 else (5, 4)
        moments = np.concatenate([part.moments for part in views.drawn])
        ways = _sample_ways(
            plan, plate, index, moments, views.times[: len(moments)], _middles(plan.size, columns, rows)
        )
        ways = ways.reshape(len(moments), rows, columns, *ways.shape[2:])
        for part in views.drawn:
            for first, last in _alike(ways[part.first : part.first + part.count] / views.step):
                mine = ways[part.first + first : part.first + last].mean(axis=0)
                across, down = _tiles(mine, plan.size, views.step)
                tiled = _resample_ways(_resample_ways(mine, 0, down), 1, across)
                out.append(Trail(part.first + first, last - first, tiled, part.ramp_in, part.ramp_out, True))
    done = sum(trail.count for trail in out)
    if done < views.smeared:
        out.append(Trail(done, views.smeared - done, smeared=True))
    if views.smeared < len(views.times):
        out.append(Trail(views.smeared, len(views.times) - views.smeared))
    return out


def _middles(size: tuple[int, int], across: int, down: int) -> np.ndarray:
    """The middles of even tiles: (tiles, 2) rendered luma pixels."""
    xs, ys = ((np.arange(n) + 0.5) / n * long - 0.5 for n, long in ((across, size[0]), (down, size[1])))
    return np.stack(np.meshgrid(xs, ys), axis=-1).reshape(-1, 2)


def _alike(ways: np.ndarray) -> list[tuple[int, int]]:
    """Runs of views whose ways (views, rows, columns, points, 2) are alike enough to be drawn out together."""
    out, first = [], 0
    for view in range(1, len(ways)):
        if np.linalg.norm(ways[view] - ways[first], axis=-1).max() > ALIKE:
            out.append((first, view))
            first = view
    return [*out, (first, len(ways))]


def _tiles(ways: np.ndarray, size: tuple[int, int], step: int) -> tuple[int, int]:
    """How many tiles across and down it takes until the way at a tile's edge is nearly that of its middle, from ways
    (rows, columns, points, 2)."""
    counts = []
    for axis in (1, 0):
        count, pixels = ways.shape[axis], size[1 - axis]
        steps = np.linalg.norm(np.diff(ways[:, :, [0, -1]], axis=axis), axis=3).max(axis=2).max(axis=1 - axis)
        varied = float(steps.sum()) * count / (count - 1)
        counts.append(int(min(max(math.ceil(varied / (2 * EVEN * step)), 1), max(pixels // LEAST_TILE, 1))))
    return counts[0], counts[1]


def _resample_ways(ways: np.ndarray, axis: int, count: int) -> np.ndarray:
    """Ways at the middles of ``count`` even tiles along an axis, from those of other even tiles."""
    given = ways.shape[axis]
    at = (np.arange(count) + 0.5) / count * given - 0.5
    low = np.clip(np.floor(at).astype(int), 0, given - 2)
    share = (at - low).reshape([-1 if k == axis else 1 for k in range(ways.ndim)])
    return np.asarray(np.take(ways, low, axis) * (1 - share) + np.take(ways, low + 1, axis) * share)


def _sample_ways(
    plan: Plan, plate: PlatePlan, index: int, moments: np.ndarray, times: np.ndarray, at: np.ndarray
) -> np.ndarray:
    """Which way places of the result go during views: (views, places, moments, 2) rendered luma pixels, so that a place
    shows at a moment what that far from it is seen at the view's own time."""
    place = at @ plan.to_units[:2, :2].T + plan.to_units[:2, 2]
    still = np.zeros(2)
    along, ahead = plan.to_units[:2, 0], plan.to_units[:2, 1]
    own = shutter.places(plan, plate, index, times, still, np.concatenate([place, place + along, place + ahead]))
    here, right, below = np.split(own, 3, axis=1)
    there = shutter.places(plan, plate, index, moments.ravel(), still, place)
    gone = np.moveaxis(there.reshape(*moments.shape, *place.shape) - here[:, None], 1, 2)
    (a, c), (b, d) = ([edge[:, :, None, k] for k in range(2)] for edge in (right - here, below - here))
    x, y = gone[..., 0], gone[..., 1]
    size = a * d - b * c
    size = np.where(np.abs(size) < 1e-12, np.inf, size)
    values = np.stack([(d * x - b * y) / size, (a * y - c * x) / size], axis=-1)
    return np.clip(np.nan_to_num(values), -FARTHEST, FARTHEST)
