"""Going after what moves in a shot as a hand does: late, with a dead zone, a largest speed and a little overshoot.

Following by hand has a delay of 0.15–0.25 s for what is foreseen and 0.25–0.4 s for what is not, a bandwidth of about
1 Hz, and overshoots by 5–15 % on quick starts (textbook figures of manual tracking).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

STEP = 1 / 120  # seconds of the simulation
SWING, DAMPING = 3.6, 0.62  # rad/s and share of the critical one: overshoots by about 8 %
HELD_BACK_FROM = 0.6  # of the reserve, from which on the hand is held back


@dataclass(frozen=True)
class Hand:
    """How somebody follows. ``reserve`` and ``dead_zone`` in frame heights: how far the hand may go, and what may be
    off before it moves; ``reaction`` in seconds; ``quickest`` in frame heights a second."""

    reserve: float
    reaction: float = 0.25
    dead_zone: float = 0.03
    quickest: float = 0.6


def follow(times: np.ndarray, subject: np.ndarray, there: np.ndarray, hand: Hand) -> np.ndarray:
    """Where the camera looks, in frame heights from where it looked at first: (n, 2).

    Parameters
    ----------
    times : (n,) float64
        Seconds, rising.
    subject : (n, 2) float64
        Where the subject is, in frame heights; where it is not ``there`` (n,) bool, the hand stays where it was.
    """
    out = np.zeros((len(times), 2))
    if not there.any() or len(times) < 2:
        return out
    place = _without_gaps(subject, there)
    ticks = np.arange(times[0], times[-1] + STEP, STEP)
    aims = np.stack([np.interp(ticks - hand.reaction, times, place[:, k]) for k in range(2)], axis=1)
    looks, speed, goal = np.zeros((len(ticks), 2)), np.zeros(2), np.zeros(2)
    look = np.zeros(2)
    for number, aim in enumerate(aims):
        off = aim - goal
        far = float(np.hypot(*off))
        if far > hand.dead_zone:
            goal = goal + off * (1 - hand.dead_zone / far)
        speed = speed + STEP * (SWING**2 * (goal - look) - 2 * DAMPING * SWING * speed)
        quick = float(np.hypot(*speed))
        if quick > hand.quickest:
            speed = speed * (hand.quickest / quick)
        look = look + STEP * speed
        looks[number] = hold_back(look, hand.reserve)
    return np.stack([np.interp(times, ticks, looks[:, k]) for k in range(2)], axis=1)


def _without_gaps(subject: np.ndarray, there: np.ndarray) -> np.ndarray:
    """Where the subject is from where it was at first; where it is not there, where it was before."""
    first = int(np.argmax(there))
    last = np.maximum.accumulate(np.where(there, np.arange(len(there)), first))
    return np.asarray(subject[last] - subject[first])


def hold_back(look: np.ndarray, reserve: float) -> np.ndarray:
    """A look (2,) within the reserve: as it is while it is near, ever less beyond, never past it."""
    far = float(np.hypot(*look))
    near = HELD_BACK_FROM * reserve
    if far <= near:
        return look
    room = reserve - near
    return np.asarray(look / far * (near + room * np.tanh((far - near) / room)))
