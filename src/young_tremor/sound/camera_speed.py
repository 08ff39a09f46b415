"""How fast the camera goes, and where to: what rumble and sway follow. Worked out in pieces of a fixed grid, so that
whoever asks for a moment gets the same answer."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

STEP = 0.01  # seconds between two moments of the grid
PIECE = 1500  # moments worked out at once
BEFORE = 400  # moments that a follower has to come to rest
APART = 0.004  # seconds between the two looks that give a speed
KEPT = 512  # pieces kept of each
TURN, GROW = 0.6, 0.5  # how far out the frame is moved by a turn, by zoom: in frame heights

_GRID = np.arange(PIECE + 1)
Channels = Callable[[np.ndarray], np.ndarray]


class CameraSpeed:
    """The motion of a camera as sound knows it. For one thread at a time.

    Parameters
    ----------
    channels : callable
        Times (n,) in seconds to the six channels (n, 6) at them.
    level : callable
        Times (n,) to the intensity (n,).
    focal : float
        Frame heights that a turn of the lens by one radian moves the middle of the picture.
    """

    def __init__(self, channels: Channels, level: Callable[[np.ndarray], np.ndarray], focal: float) -> None:
        self._channels, self._level, self._focal = channels, level, focal
        self._pieces: dict[tuple[object, ...], np.ndarray] = {}

    def speed(self, t: np.ndarray) -> np.ndarray:
        """Frame heights a second at times (n,)."""
        return self._at(("speed",), t, self._speed)

    def place(self, t: np.ndarray) -> np.ndarray:
        """Where the picture is across, in frame heights, at times (n,)."""
        return self._at(("place",), t, lambda at: self._moved(at)[:, 0])

    def followed(self, t: np.ndarray, what: str, attack: float, release: float) -> np.ndarray:
        """Speed or intensity at times (n,), risen after in ``attack`` and fallen after in ``release`` seconds."""

        def work(at: np.ndarray) -> np.ndarray:
            early = at[0] + STEP * np.arange(-BEFORE, 0)
            wanted = np.concatenate([early, at])
            given = self.speed(wanted) if what == "speed" else np.clip(self._level(wanted), 0.0, None)
            return _follow(given, attack, release)[BEFORE:]

        return self._at((what, attack, release), t, work)

    def usual(self, first: float, last: float) -> float:
        """The root of the mean square of the speed between two times."""
        looks = np.linspace(first, max(last, first + STEP), 400)
        return float(np.sqrt(np.mean(self.speed(looks) ** 2)))

    def _moved(self, t: np.ndarray) -> np.ndarray:
        """Right, down, turned and grown, each as the way in frame heights: (n, 4)."""
        c = self._channels(np.ascontiguousarray(t))
        right = c[:, 0] / 100 + self._focal * np.tan(np.radians(np.clip(c[:, 4], -80, 80)))
        down = c[:, 1] / 100 + self._focal * np.tan(np.radians(np.clip(c[:, 5], -80, 80)))
        return np.column_stack([right, down, TURN * np.radians(c[:, 2]), GROW * c[:, 3] / 100])

    def _speed(self, t: np.ndarray) -> np.ndarray:
        both = self._moved(np.concatenate([t - APART / 2, t + APART / 2]))  # as one question, which is cheaper
        way = (both[len(t) :] - both[: len(t)]) / APART
        return np.sqrt((way**2).sum(axis=1))

    def _at(self, key: tuple[object, ...], t: np.ndarray, work: Callable[[np.ndarray], np.ndarray]) -> np.ndarray:
        """Values at any times, from the pieces of the grid that they lie in."""
        place = np.asarray(t, np.float64) / STEP
        out = np.empty(len(place))
        number = np.floor(place / PIECE).astype(int)
        alone = len(number) > 0 and number.min() == number.max()
        for item in number[:1].tolist() if alone else np.unique(number).tolist():
            here: np.ndarray | slice = slice(None) if alone else number == item
            piece = self._pieces.get((*key, item))
            if piece is None:
                if len(self._pieces) > KEPT:
                    self._pieces.clear()
                at = STEP * (item * PIECE + np.arange(PIECE + 1))
                piece = self._pieces[(*key, item)] = work(at)
            out[here] = np.interp(place[here] - item * PIECE, _GRID, piece)
        return out


def _follow(given: np.ndarray, attack: float, release: float) -> np.ndarray:
    """One pole, quick up and slow down."""
    up, down = (1 - math.exp(-STEP / max(tau, 1e-4)) for tau in (attack, release))
    out, now = np.empty(len(given)), float(given[0])
    for k, value in enumerate(given.tolist()):
        now += (up if value > now else down) * (value - now)
        out[k] = now
    return out
