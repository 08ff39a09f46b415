"""The ways along which views are drawn out, in pixels of the result: tile by tile where places go different ways."""

from __future__ import annotations

import math

import numpy as np

from young_tremor.kernels import Trail
from young_tremor.render import bend, shutter
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.views import Drawn, Views

ALIKE = 0.3  # pixels by which the ways of views that are drawn out together may differ
EVEN = 0.12  # pixels by which places of one tile may go beside its middle's way
LEAST_TILE = 16  # pixels


def trails_of(plan: Plan, plate: PlatePlan, index: int, views: Views) -> list[Trail]:
    """How the views of a plate are drawn out; ways in rendered luma pixels."""
    out: list[Trail] = []
    for part in views.drawn:
        for first, last in _alike(plan, plate, index, views, part):
            moments = part.moments[first:last]
            times = views.times[part.first + first : part.first + last]
            across, down = _tiles(plan, plate, index, moments, times, views.step)
            ways = _ways(plan, plate, index, moments, times, _middles(plan.size, across, down)).mean(axis=0)
            tiled = ways.reshape(down, across, *ways.shape[1:])
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


def _coarse(plan: Plan, plate: PlatePlan) -> tuple[int, int]:
    return (25, 15) if bend.bent(plan, plate) else (7, 9) if len(plan.knots) > 1 else (5, 4)


def _alike(plan: Plan, plate: PlatePlan, index: int, views: Views, part: Drawn) -> list[tuple[int, int]]:
    """Runs of views whose ways are alike enough to be drawn out together."""
    if part.count == 1:
        return [(0, 1)]
    times = views.times[part.first : part.first + part.count]
    ends = part.moments[:, [0, -1]]
    ways = _ways(plan, plate, index, ends, times, _middles(plan.size, *_coarse(plan, plate))) / views.step
    out, first = [], 0
    for view in range(1, part.count):
        if np.linalg.norm(ways[view] - ways[first], axis=-1).max() > ALIKE:
            out.append((first, view))
            first = view
    return [*out, (first, part.count)]


def _tiles(
    plan: Plan, plate: PlatePlan, index: int, moments: np.ndarray, times: np.ndarray, step: int
) -> tuple[int, int]:
    """How many tiles it takes until the way at a tile's edge is nearly that of its middle."""
    columns, rows = _coarse(plan, plate)
    ways = _ways(plan, plate, index, moments[:, [0, -1]], times, _middles(plan.size, columns, rows)).mean(axis=0)
    grid = ways.reshape(rows, columns, 2, 2)
    counts = []
    for axis, count, pixels in ((1, columns, plan.size[0]), (0, rows, plan.size[1])):
        steps = np.linalg.norm(np.diff(grid, axis=axis), axis=3).max(axis=2).max(axis=1 - axis)
        varied = float(steps.sum()) * count / (count - 1)
        counts.append(int(min(max(math.ceil(varied / (2 * EVEN * step)), 1), max(pixels // LEAST_TILE, 1))))
    return counts[0], counts[1]


def _ways(
    plan: Plan, plate: PlatePlan, index: int, moments: np.ndarray, times: np.ndarray, at: np.ndarray
) -> np.ndarray:
    """Which way places of the result go during views: (views, places, moments, 2) rendered luma pixels, so that a place
    shows at a moment what that far from it is seen at the view's own time."""
    place = at @ plan.to_units[:2, :2].T + plan.to_units[:2, 2]
    still = np.zeros(2)
    along, ahead = plan.to_units[:2, 0], plan.to_units[:2, 1]
    own = shutter.places(plan, plate, index, times, still, np.concatenate([place, place + along, place + ahead]))
    here, right, below = np.split(own, 3, axis=1)
    inverse = np.linalg.pinv(np.stack([right - here, below - here], axis=-1))
    there = shutter.places(plan, plate, index, moments.ravel(), still, place)
    there = there.reshape(*moments.shape, *place.shape)
    gone = np.moveaxis(there - here[:, None], 1, 2)
    return np.einsum("vpij,vpmj->vpmi", inverse, gone)
