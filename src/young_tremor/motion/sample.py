"""A shake at any times: the sum of its strands, with pace, level and intensity."""

from __future__ import annotations

import numpy as np

from young_tremor.model.shake import Point, Shake
from young_tremor.motion import drift

X, Y, ROLL, ZOOM = range(4)


def sample(shake: Shake, t: np.ndarray, pivot: Point = Point()) -> np.ndarray:
    """All six channels of a whole shake.

    Parameters
    ----------
    shake : Shake
    t : (n,) float64
        Seconds from the shot's first frame; any order.
    pivot : Point
        The frame's pivot, for strands that have none of their own.

    Returns
    -------
    (n, 6) float64
        Percent of frame height, degrees, percent, degrees; turn and scale about the frame's centre.
    """
    t = np.asarray(t, dtype=np.float64)
    total = np.zeros((len(t), 6))
    for number in range(len(shake.strands)):
        total += strand(shake, number, t, pivot)
    return total * shake.intensity.at(t)[:, None]


def strand(shake: Shake, number: int, t: np.ndarray, pivot: Point = Point()) -> np.ndarray:
    """One strand of a shake with its amount, without the intensity: (n, 6). Zero while it is off."""
    each = shake.strands[number]
    if not each.on:
        return np.zeros((len(t), 6))
    moved = drift.sample(each, shake.pace.integral(t)) * each.amount.at(t)[:, None]
    return about(each.pivot or pivot, moved)


def about(pivot: Point, channels: np.ndarray) -> np.ndarray:
    """Turn and scale about ``pivot`` in centre form: the shift gains (I − sR)·v. (n, 6) → (n, 6)."""
    vx, vy = pivot.x, pivot.y
    if vx == 0 and vy == 0:
        return channels
    roll, scale = np.radians(channels[:, ROLL]), np.exp(channels[:, ZOOM] / 100.0)
    c, s = scale * np.cos(roll), scale * np.sin(roll)
    moved = channels.copy()
    moved[:, X] += 100.0 * (vx - (c * vx - s * vy))
    moved[:, Y] += 100.0 * (vy - (s * vx + c * vy))
    return moved
