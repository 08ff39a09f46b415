"""A number over time: a constant or keys. The one type behind everything that can be animated."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from young_tremor.model.fields import TIME, AtMost, Checked, Number, check_order

Ease = Literal["hold", "hard", "linear", "smooth", "free"]
HELD: tuple[Ease, ...] = ("hold", "hard")


class Key(Checked, frozen=True):
    """A value at a time (seconds from the shot's start); ``ease`` shapes the way to the next key.

    ``hold`` and ``hard`` stay until it; where a jump would show (:meth:`Curve.softened`) only ``hard`` is one.
    ``smooth`` is monotone between keys and never overshoots; ``free`` uses the slopes (units per second).
    """

    t: Annotated[float, Number("Time", "When", TIME, unit="s")]
    value: Annotated[float, Number("Value", "What it is there", TIME, unit="the number's")]
    ease: Ease = "smooth"
    slope_in: Annotated[float, Number("Slope", "Of its tangent before", TIME, unit="a second")] = 0.0
    slope_out: Annotated[float, Number("Slope", "Of its tangent after", TIME, unit="a second")] = 0.0


class Curve(Checked, frozen=True):
    """``value`` while there are no keys; the keys, held at both ends, otherwise. Keys stand in time order."""

    value: Annotated[float, Number("Value", "Where it has no keys", TIME, unit="the number's")] = 0.0
    keys: Annotated[tuple[Key, ...], AtMost(20000)] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        if len(self.keys) > 1:
            check_order([key.t for key in self.keys])

    @property
    def constant(self) -> bool:
        """Whether it has no keys."""
        return not self.keys

    def at(self, t: np.ndarray) -> np.ndarray:
        """Values at times ``t`` (n,) in seconds, (n,) float64."""
        t = np.asarray(t, dtype=np.float64)
        if len(self.keys) < 2:
            return np.full(t.shape, self.keys[0].value if self.keys else self.value)
        starts, cubic = self._segments()
        index = np.clip(np.searchsorted(starts, t, side="right") - 1, 0, len(cubic) - 1)
        c = cubic[index]
        u = t - starts[index]
        values = ((c[:, 3] * u + c[:, 2]) * u + c[:, 1]) * u + c[:, 0]
        ends = np.where(t < self.keys[0].t, self.keys[0].value, self.keys[-1].value)
        return np.where((t < self.keys[0].t) | (t >= self.keys[-1].t), ends, values)

    def softened(self, t: np.ndarray, over: float) -> np.ndarray:
        """The same as :meth:`at`, but what a key holds goes to the next one smoothly, within ``over`` seconds after."""
        values = self.at(t)
        for key, after in zip(self.keys, self.keys[1:], strict=False):
            if key.ease == "hold":
                u = (np.asarray(t) - after.t) / over
                late = (u >= 0) & (u < 1)
                share = u[late] * u[late] * (3 - 2 * u[late])
                values[late] = key.value + share * (values[late] - key.value)
        return values

    def integral(self, t: np.ndarray) -> np.ndarray:
        """The running integral from 0 to each of ``t`` (n,), exact."""
        t = np.asarray(t, dtype=np.float64)
        if len(self.keys) < 2:
            return t * (self.keys[0].value if self.keys else self.value)
        return self._from_first(t) - self._from_first(np.zeros(1))

    def _from_first(self, t: np.ndarray) -> np.ndarray:
        first, last = self.keys[0], self.keys[-1]
        starts, cubic = self._segments()
        weights = np.array([1.0, 1 / 2, 1 / 3, 1 / 4])

        def area(c: np.ndarray, u: np.ndarray) -> np.ndarray:
            return np.sum(c * weights * u[:, None] ** np.arange(1, 5), axis=1)

        widths = np.diff(np.append(starts, last.t))
        before = np.concatenate([[0.0], np.cumsum(area(cubic, widths))])
        inside = np.clip(t, first.t, last.t)
        index = np.clip(np.searchsorted(starts, inside, side="right") - 1, 0, len(cubic) - 1)
        total = before[index] + area(cubic[index], inside - starts[index])
        return total + np.minimum(t - first.t, 0) * first.value + np.maximum(t - last.t, 0) * last.value

    def _segments(self) -> tuple[np.ndarray, np.ndarray]:
        """Starts (k - 1,) and cubic coefficients (k - 1, 4) of the stretches between keys."""
        t = np.array([key.t for key in self.keys])
        v = np.array([key.value for key in self.keys])
        h = np.maximum(np.diff(t), 1e-12)
        rise = np.diff(v) / h
        smooth = _monotone_slopes(h, rise)
        cubic = np.zeros((len(h), 4))
        cubic[:, 0] = v[:-1]
        for i, key in enumerate(self.keys[:-1]):
            if key.ease == "linear":
                cubic[i, 1] = rise[i]
            elif key.ease not in HELD:
                free = key.ease == "free"
                m0 = key.slope_out if free else smooth[i]
                m1 = self.keys[i + 1].slope_in if free else smooth[i + 1]
                cubic[i, 1:] = m0, (3 * rise[i] - 2 * m0 - m1) / h[i], (m0 + m1 - 2 * rise[i]) / h[i] ** 2
        return t[:-1], cubic


class Later(Curve, frozen=True):
    """A pace whose running integral begins at ``begins`` seconds: a shake goes on where another shot left it, of which
    ``trimmed`` seconds were cut off."""

    begins: Annotated[float, Number("Begins", "By how far", TIME, unit="s")] = 0.0
    trimmed: Annotated[float, Number("Trimmed", "What was cut off before it", TIME, unit="s")] = 0.0

    def integral(self, t: np.ndarray) -> np.ndarray:
        """The running integral from 0, with what ran before."""
        return super().integral(t) + self.begins


def later(curve: Curve, begins: float, trimmed: float = 0.0) -> Curve:
    """A pace that has run for ``begins`` seconds already, ``trimmed`` seconds of its shot having been cut off; for none
    the curve itself."""
    return Later(curve.value, curve.keys, begins, trimmed) if begins or trimmed else curve


def trimmed_off(pace: Curve) -> float:
    """How many seconds were trimmed off the shot that a pace is of."""
    return pace.trimmed if isinstance(pace, Later) else 0.0


def _monotone_slopes(h: np.ndarray, rise: np.ndarray) -> np.ndarray:
    """Slopes at the keys that never overshoot: weighted harmonic mean (Fritsch and Butland, 1984), flat ends."""
    slopes = np.zeros(len(h) + 1)
    left, right = rise[:-1], rise[1:]
    same = left * right > 0
    w1, w2 = 2 * h[1:] + h[:-1], h[1:] + 2 * h[:-1]
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        mean = (w1 + w2) / (w1 / left + w2 / right)
    slopes[1:-1] = np.where(same, mean, 0.0)
    return slopes
