"""A shake at any times: the sum of its strands, with pace, level and intensity."""

from __future__ import annotations

import numpy as np

from young_tremor.model.shake import Hit, Jolts, Plotted, Point, Shake, Strand, Stretch
from young_tremor.motion import chance, drift, jolts, plotted

X, Y, ROLL, ZOOM = range(4)


def sample(shake: Shake, t: np.ndarray, pivot: Point = Point(), hits: tuple[Hit, ...] = ()) -> np.ndarray:
    """All six channels of a whole shake.

    Parameters
    ----------
    shake : Shake
    t : (n,) float64
        Seconds from the shot's first frame; any order.
    pivot : Point
        The frame's pivot, for strands that have none of their own.
    hits : tuple of Hit
        What the jolts answer to.

    Returns
    -------
    (n, 6) float64
        Percent of frame height, degrees, percent, degrees; turn and scale about the frame's centre.
    """
    t = np.asarray(t, dtype=np.float64)
    total = np.zeros((len(t), 6))
    for number in range(len(shake.strands)):
        total += strand(shake, number, t, pivot, hits)
    return total * shake.intensity.at(t)[:, None]


def strand(shake: Shake, number: int, t: np.ndarray, pivot: Point = Point(), hits: tuple[Hit, ...] = ()) -> np.ndarray:
    """One strand of a shake with its amount, without the intensity: (n, 6). Zero while it does not count."""
    each = shake.strands[number]
    if not counts(shake, each):
        return np.zeros((len(t), 6))
    if isinstance(each, Jolts):
        moved = jolts.sample(each, hits, t)
    elif isinstance(each, Plotted):
        moved = plotted.sample(each, t)
    else:
        held = np.floor(t * each.step + 1e-9) / each.step if each.step > 0 else t
        moved = drift.sample(each, shake.pace.integral(held))
        if each.ease_in > 0:
            moved *= chance.smoothstep(t / each.ease_in)[:, None]
    moved *= each.amount.at(t)[:, None]
    if each.stretch != Stretch():
        moved *= acting(each.stretch, t)[:, None]
    return about(each.pivot or pivot, moved)


def counts(shake: Shake, each: Strand) -> bool:
    """Whether a strand moves anything: it is on, and if any strand is solo, it is one of them."""
    return each.on and (each.solo or not any(s.solo for s in shake.strands))


def acting(stretch: Stretch, t: np.ndarray) -> np.ndarray:
    """How much of a strand acts at ``t`` (n,): 0 outside its stretch, 1 inside, smooth over the fades."""
    gain = np.ones(len(t))
    if stretch.start is not None:
        fade = max(stretch.fade_in, 1e-6)
        gain *= chance.smoothstep((t - stretch.start) / fade)
    if stretch.end is not None:
        fade = max(stretch.fade_out, 1e-6)
        gain *= chance.smoothstep((stretch.end - t) / fade)
    return gain


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
