"""The smallest crop that covers every exposure sample: steady, recentred, or following the motion."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from young_tremor.base.errors import RequestError

LIMIT = 8.0  # a crop beyond this is no picture any more


@dataclass(frozen=True)
class Rect:
    """A rectangle in frame units, centres of its outermost pixels: left, top, right, bottom."""

    left: float
    top: float
    right: float
    bottom: float

    def corners(self) -> np.ndarray:
        """(4, 2)."""
        return np.array(
            [
                [self.left, self.top],
                [self.right, self.top],
                [self.right, self.bottom],
                [self.left, self.bottom],
            ]
        )


@dataclass(frozen=True)
class SourceSides:
    """The four sides of the source as bounds on cropped points: ``normal`` · p ≤ ``room`` each, (4, 2) and (4,)."""

    normal: np.ndarray
    room: np.ndarray


def sides(source: Rect, unplace: np.ndarray | None = None) -> SourceSides:
    """What P⁻¹ makes of the sides of ``source`` (already inset by the kernel's need); ``unplace`` is P⁻¹, affine."""
    matrix = np.eye(3) if unplace is None else unplace
    rows, rooms = [], []
    for axis, sign, bound in ((0, -1, source.left), (0, 1, source.right), (1, -1, source.top), (1, 1, source.bottom)):
        rows.append(sign * matrix[axis, :2])
        rooms.append(sign * bound - sign * matrix[axis, 2])
    return SourceSides(np.array(rows), np.array(rooms))


def reaches(unshaken: np.ndarray, bounds: SourceSides) -> np.ndarray:
    """How far points S⁻¹q reach towards each side: (n, m, 2) → (n, 4), the largest over each row's points.

    The map of a rectangle is a convex quadrilateral, so its corners speak for it.
    """
    places = np.ascontiguousarray(unshaken.transpose(1, 0, 2))  # long rows are compared, not short ones
    far: np.ndarray = (places @ bounds.normal.T).max(axis=0)
    return np.where(np.isnan(far), np.inf, far)


def needs(far: np.ndarray, bounds: SourceSides, b: np.ndarray | None = None) -> np.ndarray:
    """The least z for each row of reaches (n, 4) with the crop's shift b, (2,) or one a row (n, 2): (n,); inf where
    none can cover.

    With C⁻¹p = (p − b)/z each side bounds z below: normal · (p − b) ≤ z · room.
    """
    push = far if b is None else far - np.atleast_2d(b) @ bounds.normal.T
    room = bounds.room
    safe = np.where(room > 1e-9, room, 1.0)
    z = np.where(room > 1e-9, push / safe, np.where(push <= 0, 0.0, np.inf))
    return np.where(np.isnan(z).any(axis=1), np.inf, np.maximum(z.max(axis=1), 0.0))


def recentred_crop(far: list[np.ndarray], bounds: list[SourceSides], by_hand: np.ndarray) -> tuple[float, np.ndarray]:
    """The shift b with which the least steady z ≥ 1 covers: (z, b (2,)).

    A linear programme in (z, b): normal · p − normal · b ≤ z · h · room for every frame's reach, h being the crop by
    hand. Only reaches on the hull of (h, reach) can bind, so few are left.

    Parameters
    ----------
    far : list of (n, 4)
        Largest reaches of each frame, one array for each of ``bounds`` (planes of different siting).
    by_hand : (n,)
        Crop by hand of each frame.
    """
    rows, limits = [], []
    for reach, bound in zip(far, bounds, strict=True):
        for side in range(4):
            for k in _binding(by_hand, reach[:, side]):
                rows.append([-by_hand[k] * bound.room[side], *(-bound.normal[side])])
                limits.append(-reach[k, side])
    if not np.isfinite(limits).all():
        return np.inf, np.zeros(2)
    found = scipy.optimize.linprog(
        [1.0, 0.0, 0.0], A_ub=rows, b_ub=limits, bounds=[(1.0, None), (None, None), (None, None)]
    )
    if not found.success:
        return np.inf, np.zeros(2)
    return float(found.x[0]), np.asarray(found.x[1:])


def _binding(by_hand: np.ndarray, reach: np.ndarray) -> np.ndarray:
    """Frames whose bound can be the hardest for some z: the farthest of each crop by hand that occurs."""
    if np.ptp(by_hand) < 1e-12:
        return np.array([int(np.argmax(reach))])
    order = np.lexsort((-reach, by_hand))
    first = np.concatenate([[True], np.diff(by_hand[order]) > 1e-12])
    return np.asarray(order[first])


def steady(need: np.ndarray) -> float:
    """One crop for the shot from the needs of all frames (n,); RequestError if nothing can cover."""
    z = float(max(1.0, need.max())) if need.size else 1.0
    if not z <= LIMIT:
        raise RequestError("No crop can cover this motion: lower the amount, or choose other edges.")
    return z


def following(need: np.ndarray, frames: float) -> np.ndarray:
    """A smooth crop that is never under the need of any frame and 1 well away from it: (n,).

    The largest need within half of ``frames`` on either side, averaged with smooth weights over the same reach: every
    value that is averaged for a frame includes that frame's own need, so the mean cannot be under it.
    """
    steady(need)
    need = np.maximum(need, 1.0)
    half = max(round(frames / 2), 1)
    padded = np.pad(np.log(need), 2 * half, mode="edge")
    top = scipy.ndimage.maximum_filter1d(padded, 2 * half + 1)
    weights = np.hanning(2 * half + 3)[1:-1] ** 2
    smooth = np.convolve(top, weights / weights.sum(), mode="same")[2 * half : -2 * half]
    return np.maximum(np.exp(smooth), need)
