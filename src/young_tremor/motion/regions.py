"""Where on the picture something acts: 0 outside a region, 1 inside, fading over its feather."""

from __future__ import annotations

import numpy as np

from young_tremor.model.shake import Region
from young_tremor.motion import seeded_random


def moves(region: Region) -> bool:
    """Whether a region is elsewhere or of another size at another time."""
    return any(not curve.constant for curve in (region.centre.x, region.centre.y, region.width, region.height))


def weight(region: Region, q: np.ndarray, t: float) -> np.ndarray:
    """How much acts at places q (..., 2) in frame units at ``t`` seconds: (...), 0…1."""
    at = np.array([t])
    centre = np.array([float(region.centre.x.at(at)[0]), float(region.centre.y.at(at)[0])])
    half = np.array([max(float(c.at(at)[0]), 1e-3) / 2 for c in (region.width, region.height)])
    rel = q - centre
    if region.shape == "polygon" and len(region.outline) >= 3:
        deep = _polygon(rel, np.array(region.outline))
    elif region.shape == "rectangle":
        apart = np.abs(rel) - half
        outside = np.linalg.norm(np.maximum(apart, 0), axis=-1)
        deep = np.where((apart <= 0).all(axis=-1), -apart.max(axis=-1), -outside)
    else:
        deep = (1 - np.linalg.norm(rel / half, axis=-1)) * half.min()
    inside = seeded_random.smoothstep(0.5 + deep / max(region.feather, 1e-6))
    return 1 - inside if region.outside else inside


def _polygon(rel: np.ndarray, outline: np.ndarray) -> np.ndarray:
    """Distance from a polygon's outline, positive inside (even-odd)."""
    far = np.full(rel.shape[:-1], np.inf)
    inside = np.zeros(rel.shape[:-1], bool)
    for a, b in zip(outline, np.roll(outline, -1, axis=0), strict=True):
        way = b - a
        along = np.clip(((rel - a) @ way) / max(float(way @ way), 1e-12), 0, 1)
        far = np.minimum(far, np.linalg.norm(rel - a - along[..., None] * way, axis=-1))
        between = (a[1] > rel[..., 1]) != (b[1] > rel[..., 1])
        with np.errstate(divide="ignore", invalid="ignore"):
            cross = a[0] + (rel[..., 1] - a[1]) / (b[1] - a[1]) * (b[0] - a[0])
        inside ^= between & (rel[..., 0] < cross)
    return np.where(inside, far, -far)
