"""Displacements that no matrix says: shimmer, and shakes that act on a part of the picture."""

from __future__ import annotations

import numpy as np

from young_tremor.geometry import camera
from young_tremor.model.shake import Shimmer
from young_tremor.motion import regions, sample, shimmer
from young_tremor.render.plan import Plan
from young_tremor.render.warp import spread

GRID = 4  # pixels of the luma between places that are worked out; what lies between is straight


def bent(plan: Plan) -> bool:
    """Whether a plan's frames need more than matrices."""
    shake = plan.shot.shake
    if not plan.shaken:
        return False
    local = any(sample.counts(shake, s) and (s.region is not None or isinstance(s, Shimmer)) for s in shake.strands)
    return local or shake.region is not None


def everywhere(plan: Plan, t: np.ndarray) -> np.ndarray:
    """S at ``t`` (n,) of the strands that have no region: (n, 3, 3)."""
    shot = plan.shot
    moved = sample.whole(shot.shake, t, shot.frame.pivot, shot.hits)
    return camera.shake(plan.plate.share * moved, plan.focal)


def farthest(plan: Plan, t: np.ndarray) -> np.ndarray:
    """How far the shimmers may move a place at ``t`` (n,) across and down: (n, 2) in frame units."""
    shake = plan.shot.shake
    far = np.zeros((len(t), 2))
    for number, strand in enumerate(shake.strands):
        if isinstance(strand, Shimmer):
            size = abs(plan.plate.share) * np.abs(sample.gain(shake, number, t))
            far += size[:, None] * np.array([abs(strand.x), abs(strand.y)]) / 100
    return far


def sources(plan: Plan, t: float, q: np.ndarray, rows: np.ndarray) -> np.ndarray:
    """Where delivered places look before the shake moved them, in frame units: S⁻¹q, only as far as regions let it, and
    the shimmers' displacement added.

    Parameters
    ----------
    t : float
        Time of the view, seconds.
    q : (r, m, 2) float64
        Delivered places in frame units, row by row.
    rows : (r,) float64
        The rows' heights -0.5…0.5, which give each its own time under a rolling shutter.
    """
    shot, shake = plan.shot, plan.shot.shake
    times = t + rows * shot.frame.readout
    one = bool(np.all(times == times[0]))
    seen = times[:1] if one else times
    share = plan.plate.share

    def back(channels: np.ndarray) -> np.ndarray:
        inverse = np.linalg.inv(camera.shake(share * channels, plan.focal))
        ones = np.concatenate([q, np.ones((*q.shape[:2], 1))], axis=-1)
        mapped = np.einsum("rij,rmj->rmi", np.broadcast_to(inverse, (len(q), 3, 3)), ones)
        return np.asarray(mapped[..., :2] / np.maximum(mapped[..., 2:], 1e-9))

    base = sample.whole(shake, seen, shot.frame.pivot, shot.hits)
    p = start = back(base)
    for number, strand in enumerate(shake.strands):
        if strand.region is not None and not isinstance(strand, Shimmer) and sample.counts(shake, strand):
            mine = sample.strand(shake, number, seen, shot.frame.pivot, shot.hits)
            mine = mine * shake.intensity.at(seen)[:, None]
            p = p + regions.weight(strand.region, q, t)[..., None] * (back(base + mine) - start)
    if plan.plate.shake is not None:
        own = sample.sample(plan.plate.shake, seen, shot.frame.pivot, shot.hits) / max(share, 1e-9)
        p = p + back(base + own) - start
    for number, strand in enumerate(shake.strands):
        if isinstance(strand, Shimmer) and sample.counts(shake, strand):
            size = share * float(sample.gain(shake, number, np.array([t]))[0])
            if size:
                clock = float(shake.pace.integral(np.array([t]))[0])
                moved = size * shimmer.displacement(strand, q, clock)
                if strand.region is not None:
                    moved = moved * regions.weight(strand.region, q, t)[..., None]
                p = p + moved
    if shake.region is not None:
        p = q + regions.weight(shake.region, q, t)[..., None] * (p - q)
    return p


def maps(plan: Plan, index: int, t: float, shift: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """For a view of a frame, source luma pixels (nominal) of every GRID-th rendered luma pixel: x and y, each
    (rows, columns) float32; the last ones lie beyond the picture. ``shift``: of the view, in frame units."""
    width, height = plan.size
    xs, ys = np.arange(0, width + GRID, GRID), np.arange(0, height + GRID, GRID)
    to_units = np.linalg.inv(camera.pixels(plan.size, plan.render_aspect))
    q = np.stack(np.meshgrid(xs * to_units[0, 0] + to_units[0, 2], ys * to_units[1, 1] + to_units[1, 2]), axis=-1)
    q *= plan.over
    p = sources(plan, t, q - shift, np.clip(ys / max(height - 1, 1) - 0.5, -0.5, 0.5))
    back = np.linalg.inv(plan.to_frame(index))
    places = p @ back[:2, :2].T + back[:2, 2]
    return places[..., 0].astype(np.float32), places[..., 1].astype(np.float32)


def untouched(grid: tuple[np.ndarray, np.ndarray]) -> bool:
    """Whether maps as :func:`maps` makes them leave every pixel of a source of the same size where it is."""
    rows, columns = grid[0].shape
    xs, ys = np.arange(columns, dtype=np.float32) * GRID, np.arange(rows, dtype=np.float32) * GRID
    return bool(np.abs(grid[0] - xs).max() < 1e-3 and np.abs(grid[1] - ys[:, None]).max() < 1e-3)


def plane_maps(
    grid: tuple[np.ndarray, np.ndarray], size: tuple[int, int], step: tuple[int, int], siting: tuple[float, float],
    to_plane: np.ndarray,
) -> tuple[np.ndarray, np.ndarray]:  # fmt: skip
    """The maps of one plane, (height, width) float32 each, from the luma's coarse ones. ``to_plane`` takes nominal
    source luma pixels to the given plane's."""
    xs, ys = (spread(each, size, GRID, step, siting) for each in grid)
    return (
        xs * np.float32(to_plane[0, 0]) + np.float32(to_plane[0, 2]),
        ys * np.float32(to_plane[1, 1]) + np.float32(to_plane[1, 2]),
    )
