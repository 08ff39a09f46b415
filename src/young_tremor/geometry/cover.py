"""The smallest steady crop that covers every exposure sample, in closed form."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from young_tremor.base.errors import RequestError
from young_tremor.geometry import camera

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


def needs(shakes: np.ndarray, delivered: Rect, source: Rect, unplace: np.ndarray | None = None) -> np.ndarray:
    """The least crop z for each shake matrix, with b = 0.

    Sample k is covered when for every corner q of ``delivered`` P⁻¹C⁻¹S⁻¹q lies inside ``source``. The map of a
    rectangle is a convex quadrilateral, so its corners speak for it; each side of ``source`` bounds z below.

    Parameters
    ----------
    shakes : (n, 3, 3) float64
        S of each exposure sample.
    delivered, source : Rect
        Rectangles of pixel centres in frame units; the source's already inset by the kernel's need.
    unplace : (3, 3) float64, optional
        P⁻¹, affine; the identity if left out.

    Returns
    -------
    (n,) float64
        z, which may be below 1; inf where no crop can cover.
    """
    q = camera.apply(np.linalg.inv(shakes), delivered.corners())
    if unplace is None:
        unplace = np.eye(3)
    moved = q @ unplace[:2, :2].T
    offset = unplace[:2, 2]
    need = np.zeros(len(shakes))
    for axis, sign, bound in (
        (0, -1, source.left),
        (0, 1, source.right),
        (1, -1, source.top),
        (1, 1, source.bottom),
    ):
        room = sign * bound - sign * offset[axis]
        push = sign * moved[..., axis]
        if room <= 1e-9:
            z = np.where(push.max(axis=1) <= 0, 0.0, np.inf)
        else:
            z = push.max(axis=1) / room
        need = np.maximum(need, z)
    return np.where(np.isnan(q).any(axis=(1, 2)) | ~np.isfinite(need), np.inf, need)


def steady(need: np.ndarray) -> float:
    """One crop for the shot from the needs of all samples (n,); RequestError if nothing can cover."""
    z = float(max(1.0, need.max())) if need.size else 1.0
    if not z <= LIMIT:
        raise RequestError("No crop can cover this motion: lower the amount, or choose other edges.")
    return z
