"""Displacements that no matrix says: shimmer, and shakes that act on a part of the picture."""

from __future__ import annotations

import numpy as np

from young_tremor.geometry import camera
from young_tremor.model.shake import Shake
from young_tremor.motion import regions, sample
from young_tremor.motion.kinds import kind_of
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.warp import spread

GRID = 4  # pixels of the luma between places that are worked out; what lies between is straight


def bent(plan: Plan, plate: PlatePlan | None = None) -> bool:
    """Whether frames of a plate (the lowest) need more than matrices."""
    return plan.shaken and any(
        shake.region is not None
        or any(
            sample.counts(shake, s) and (s.region is not None or kind_of(s).field is not None) for s in shake.strands
        )
        for shake, _ in (plate or plan.base).sways
    )


def _regional(shake: Shake) -> list[int]:
    """The strands of a shake that act on a part of the picture, by number; fields are not among them."""
    return [
        n for n, s in enumerate(shake.strands)
        if s.region is not None and kind_of(s).field is None and sample.counts(shake, s)
    ]  # fmt: skip


def _base(plate: PlatePlan, t: np.ndarray) -> np.ndarray:
    """Channels (n, 6) at ``t`` (n,) of the strands that act everywhere, all shakes of the plate together."""
    shot, total = plate.shot, np.zeros((len(t), 6))
    for shake, share in plate.sways:
        total += share * sample.whole(shake, t, shot.frame.pivot, shot.hits)
    return total


def _alone(plate: PlatePlan, shake: Shake, share: float, number: int, t: np.ndarray) -> np.ndarray:
    """Channels (n, 6) of one strand of a shake with its intensity and share."""
    shot = plate.shot
    mine = sample.strand(shake, number, t, shot.frame.pivot, shot.hits) * shake.intensity.at(t)[:, None]
    return share * mine


def separately(plan: Plan, plate: PlatePlan, t: np.ndarray) -> tuple[np.ndarray, list[np.ndarray]]:
    """S at ``t`` (n,) of the strands that have no region, and with each of the others added alone: (n, 3, 3) each."""
    base = _base(plate, t)
    alone = [
        camera.shake(base + _alone(plate, shake, share, number, t), plate.focal)
        for shake, share in plate.sways for number in _regional(shake)
    ]  # fmt: skip
    return camera.shake(base, plate.focal), alone


def farthest(plate: PlatePlan, t: np.ndarray) -> np.ndarray:
    """How far the shimmers may move a place at ``t`` (n,) across and down: (n, 2) in frame units."""
    far = np.zeros((len(t), 2))
    for shake, share in plate.sways:
        for number, strand in enumerate(shake.strands):
            size = abs(share) * np.abs(sample.gain(shake, number, t))
            far += size[:, None] * kind_of(strand).far(strand)
    return far


def sources(plan: Plan, plate: PlatePlan, t: float, q: np.ndarray, rows: np.ndarray) -> np.ndarray:
    """Where delivered places look before a plate's shakes moved them, in frame units: S⁻¹q, only as far as regions let
    it, and the shimmers' displacement added.

    Parameters
    ----------
    t : float
        Time of the view, seconds.
    q : (r, m, 2) float64
        Delivered places in frame units, row by row.
    rows : (r,) float64
        The rows' heights -0.5…0.5, which give each its own time under a rolling shutter.
    """
    times = t + rows * plan.shot.frame.readout
    seen = times[:1] if bool(np.all(times == times[0])) else times
    ones = np.concatenate([q, np.ones((*q.shape[:2], 1))], axis=-1)

    def back(channels: np.ndarray) -> np.ndarray:
        inverse = np.linalg.inv(camera.shake(channels, plate.focal))
        mapped = np.einsum("rij,rmj->rmi", np.broadcast_to(inverse, (len(q), 3, 3)), ones)
        return np.asarray(mapped[..., :2] / np.maximum(mapped[..., 2:], 1e-9))

    shot, p, below = plan.shot, q, np.zeros((len(seen), 6))
    for shake, share in plate.sways:
        start = back(below)
        base = below + share * sample.whole(shake, seen, shot.frame.pivot, shot.hits)
        moved = back(base)
        gone = moved - start
        for number in _regional(shake):
            region = shake.strands[number].region
            assert region is not None
            mine = _alone(plate, shake, share, number, seen)
            gone = gone + regions.weight(region, q, t)[..., None] * (back(base + mine) - moved)
        gone = gone + _shimmered(shake, share, q, t)
        if shake.region is not None:
            gone = regions.weight(shake.region, q, t)[..., None] * gone
        p, below = p + gone, base
    return p


def _shimmered(shake: Shake, share: float, q: np.ndarray, t: float) -> np.ndarray | float:
    """What the displacement fields of a shake add at ``t``."""
    total: np.ndarray | float = 0.0
    for number, strand in enumerate(shake.strands):
        field = kind_of(strand).field
        size = share * float(sample.gain(shake, number, np.array([t]))[0]) if field is not None else 0.0
        if field is not None and size:
            moved = size * field(strand, q, float(shake.pace.integral(np.array([t]))[0]))
            if strand.region is not None:
                moved = moved * regions.weight(strand.region, q, t)[..., None]
            total = total + moved
    return total


def maps(plan: Plan, plate: PlatePlan, index: int, t: float, shift: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """For a view of a plate in a frame, source luma pixels (nominal) of every GRID-th rendered luma pixel: x and y,
    each (rows, columns) float32; the last ones lie beyond the picture. ``shift``: of the view, in frame units."""
    width, height = plan.size
    xs, ys = np.arange(0, width + GRID, GRID), np.arange(0, height + GRID, GRID)
    to_units = np.linalg.inv(camera.pixels(plan.size, plan.render_aspect))
    q = np.stack(np.meshgrid(xs * to_units[0, 0] + to_units[0, 2], ys * to_units[1, 1] + to_units[1, 2]), axis=-1)
    q *= plan.over
    p = sources(plan, plate, t, q - shift, np.clip(ys / max(height - 1, 1) - 0.5, -0.5, 0.5))
    back = np.linalg.inv(plan.to_frame(index, plate))
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
