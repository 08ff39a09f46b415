"""Displacements that no matrix says: shimmer, and shakes that act on a part of the picture."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from young_tremor.geometry import camera
from young_tremor.model.shake import Shake
from young_tremor.motion import regions, sample
from young_tremor.motion.kinds import kind_of
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.warp import lattice, spread

WIDE = 4  # times as far apart are the places at which differences between near views are worked out
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


def _alone(plate: PlatePlan, shake: Shake, share: np.ndarray, number: int, t: np.ndarray) -> np.ndarray:
    """Channels (n, 6) of one strand of a shake with its intensity and share."""
    shot = plate.shot
    mine = sample.strand(shake, number, t, shot.frame.pivot, shot.hits) * sample.intensity(shake, t)[:, None]
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
            size = abs(share[0]) * np.abs(sample.gain(shake, number, t))
            far += size[:, None] * kind_of(strand).far(strand)
    return far


@dataclass(frozen=True)
class Known:
    """The channels of a plate's shakes at one moment: of the strands that act everywhere (shakes, 6), and of each that
    acts on a part of the picture, by shake and number (6,)."""

    whole: np.ndarray
    alone: dict[tuple[int, int], np.ndarray]


def known(plan: Plan, plate: PlatePlan, times: np.ndarray) -> list[Known | None]:
    """What :func:`sources` needs to know at each of ``times``, asked for at once; None under a rolling shutter, where
    each row has a time of its own."""
    if plan.shot.frame.readout or not len(times):
        return [None] * len(times)
    shot = plate.shot
    whole = np.stack([s * sample.whole(shake, times, shot.frame.pivot, shot.hits) for shake, s in plate.sways], axis=1)
    alone = {
        (k, number): _alone(plate, shake, share, number, times)
        for k, (shake, share) in enumerate(plate.sways)
        for number in _regional(shake)
    }
    return [Known(whole[n], {key: rows[n] for key, rows in alone.items()}) for n in range(len(times))]


def sources(
    plan: Plan, plate: PlatePlan, t: float, q: np.ndarray, rows: np.ndarray, moved: Known | None = None
) -> np.ndarray:
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
    moved : Known, optional
        What :func:`known` found for ``t``.
    """
    times = t + rows * plan.shot.frame.readout
    seen = times[:1] if bool(np.all(times == times[0])) else times
    x, y = q[..., 0], q[..., 1]

    def back(channels: np.ndarray) -> np.ndarray:
        inverse = np.linalg.inv(camera.shake(channels, plate.focal))[:, :, :, None]
        lines = [inverse[:, k, 0] * x + inverse[:, k, 1] * y + inverse[:, k, 2] for k in range(3)]
        depth = np.maximum(lines[2], 1e-9)
        return np.stack([lines[0] / depth, lines[1] / depth], axis=-1)

    shot, p, below = plan.shot, q, np.zeros((len(seen), 6))
    for k, (shake, share) in enumerate(plate.sways):
        start = back(below)
        if moved is None:
            base = below + share * sample.whole(shake, seen, shot.frame.pivot, shot.hits)
        else:
            base = below + moved.whole[k]
        there = back(base)
        gone = there - start
        for number in _regional(shake):
            region = shake.strands[number].region
            assert region is not None
            mine = _alone(plate, shake, share, number, seen) if moved is None else moved.alone[k, number]
            gone = gone + regions.weight(region, q, t)[..., None] * (back(base + mine) - there)
        gone = gone + _shimmered(shake, share, q, t)
        if shake.region is not None:
            gone = regions.weight(shake.region, q, t)[..., None] * gone
        p, below = p + gone, base
    return p


def _shimmered(shake: Shake, share: np.ndarray, q: np.ndarray, t: float) -> np.ndarray | float:
    """What the displacement fields of a shake add at ``t``."""
    total: np.ndarray | float = 0.0
    for number, strand in enumerate(shake.strands):
        field = kind_of(strand).field
        size = float(share[0]) * float(sample.gain(shake, number, np.array([t]))[0]) if field is not None else 0.0
        if field is not None and size:
            moved = size * field(strand, q, float(shake.pace.integral(np.array([t]))[0]))
            if strand.region is not None:
                moved = moved * regions.weight(strand.region, q, t)[..., None]
            total = total + moved
    return total


def grids(
    plan: Plan, plate: PlatePlan, index: int, times: np.ndarray, shifts: np.ndarray, near: bool
) -> list[np.ndarray]:
    """The :func:`grid` of each view of a frame. ``near``: they differ by few pixels, so that the differences are worked
    out at fewer places."""
    views = list(zip(times.tolist(), shifts, strict=True))
    if not near or len(views) < 2:
        return [grid(plan, plate, index, t, shift) for t, shift in views]
    middle = float(times.mean()), shifts.mean(axis=0)
    base = grid(plan, plate, index, *middle)
    few = grid(plan, plate, index, *middle, WIDE * GRID)
    ahead = WIDE - 1  # of the places that are spread out, before the first of the fine lattice
    out = []
    for t, shift in views:
        apart = grid(plan, plate, index, t, shift, WIDE * GRID) - few
        full = cv2.resize(apart, (apart.shape[1] * WIDE, apart.shape[0] * WIDE), interpolation=cv2.INTER_LINEAR)
        out.append(base + full[ahead : ahead + base.shape[0], ahead : ahead + base.shape[1]])
    return out


def grid(plan: Plan, plate: PlatePlan, index: int, t: float, shift: np.ndarray, pitch: int = GRID) -> np.ndarray:
    """For a view of a plate in a frame, source luma pixels (nominal) of a lattice of rendered luma pixels, ``pitch``
    apart: (rows, columns, 2) float32. ``shift``: of the view, in frame units."""
    width, height = plan.size
    xs, ys = lattice(width, pitch), lattice(height, pitch)
    to_units = np.linalg.inv(camera.pixels(plan.size, plan.render_aspect))
    q = np.stack(np.meshgrid(xs * to_units[0, 0] + to_units[0, 2], ys * to_units[1, 1] + to_units[1, 2]), axis=-1)
    q *= plan.over
    p = sources(plan, plate, t, q - shift, np.clip(ys / max(height - 1, 1) - 0.5, -0.5, 0.5))
    return _affine(p, np.linalg.inv(plan.to_frame(index, plate)))


def untouched(grid: np.ndarray, size: tuple[int, int]) -> bool:
    """Whether a grid as :func:`grid` makes them leaves every pixel of a source of the same size where it is."""
    return bool(unmoved(grid, size).all())


def unmoved(grid: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """Which places of such a grid look where they stand in a source of the same size: (rows, columns) bool."""
    xs, ys = lattice(size[0], GRID).astype(np.float32), lattice(size[1], GRID).astype(np.float32)
    return np.asarray((np.abs(grid[..., 0] - xs) < 1e-3) & (np.abs(grid[..., 1] - ys[:, None]) < 1e-3))


def plane_map(
    grid: np.ndarray, size: tuple[int, int], step: tuple[int, int], siting: tuple[float, float], to_plane: np.ndarray
) -> np.ndarray:
    """The map of one plane, (height, width, 2) float32, from the luma's grid. ``to_plane`` takes nominal source luma
    pixels to the given plane's."""
    return spread(_affine(grid, to_plane), size, GRID, step, siting)


def _affine(places: np.ndarray, matrix: np.ndarray) -> np.ndarray:
    """Places (..., 2) through an affine matrix (3, 3), as float32."""
    x, y = places[..., 0], places[..., 1]
    lines = [matrix[k, 0] * x + matrix[k, 1] * y + matrix[k, 2] for k in range(2)]
    return np.stack(lines, axis=-1).astype(np.float32)
