"""Where delivered pixels look in the source: what a compositor's own tools need to move a picture alike."""

from __future__ import annotations

import numpy as np

from young_tremor.geometry import camera
from young_tremor.render import displacement, shutter
from young_tremor.render.plan import Plan


def looked_at(plan: Plan, index: int, t: float | None = None) -> np.ndarray:
    """For each delivered pixel the place in the lowest plate's source that it shows: (rows, columns, 2) float32.

    Parameters
    ----------
    t : float, optional
        The moment in seconds; the middle of the frame's exposure if left out.

    Returns
    -------
    Pixels of the source, x right and y down, pixel centres at whole numbers. Crop, lens, rolling shutter, regions,
    shimmer and depth included; blur, smear and afterimages are no places.
    """
    plate = plan.base
    if t is None:
        t = float(plan.shutter(np.array([plan.time(index)]))[0][0])
    still = np.zeros((1, 2))
    if not displacement.is_bent(plan, plate) and len(plan.knots) == 1:
        matrix = shutter.moments(plan, index, plate, np.array([t]), still)[0, 0]
        width, height = plan.size
        x, y = np.arange(width, dtype=np.float64), np.arange(height, dtype=np.float64)[:, None]
        depth = matrix[2, 0] * x + (matrix[2, 1] * y + matrix[2, 2])
        out = np.empty((height, width, 2), np.float32)
        for k in range(2):
            along = matrix[k, 0] * x + (matrix[k, 1] * y + matrix[k, 2])
            np.divide(along, depth, out=out[..., k], casting="same_kind")
        return out
    width, height = plan.size
    to_units = np.linalg.inv(camera.pixels(plan.size, plan.render_aspect))
    x = np.arange(width) * to_units[0, 0] + to_units[0, 2]
    y = np.arange(height) * to_units[1, 1] + to_units[1, 2]
    q = np.stack(np.meshgrid(x, y), axis=-1) * plan.overscan
    rows = np.arange(height) / max(height - 1, 1) - 0.5
    back = np.linalg.inv(plan.to_frame(index, plate))
    moved = displacement.known_channels(plan, plate, np.array([t]))[0]
    places = displacement.DeliveredPlaces(q, rows)
    near = displacement.nearness_of(plan, plate, t, places, back, moved) if plate.deep else 1.0
    return displacement.affine(displacement.sources(plan, plate, t, places, moved, near), back)


def as_map(places: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """Places as an ST map: shares of the source's width and height, its bottom left corner being (0, 0)."""
    out = np.empty(places.shape, np.float32)
    out[..., 0] = (places[..., 0] + 0.5) / size[0]
    out[..., 1] = 1.0 - (places[..., 1] + 0.5) / size[1]
    return out
