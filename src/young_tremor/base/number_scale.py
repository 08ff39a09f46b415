"""How a number lies on a rule, is written, and is read."""

from __future__ import annotations

import math
from dataclasses import dataclass


@dataclass(frozen=True)
class NumberScale:
    """How a number lies on the rule: from ``low`` to ``high``, ``least`` and ``most`` when typed.

    ``bend`` 1 is even; 2 and more give the small end more room. ``unit`` is shown behind the number.
    """

    low: float
    high: float
    unit: str = ""
    digits: int = 0
    bend: float = 1.0
    least: float | None = None
    most: float | None = None

    def moved(self, value: float, by: float) -> float:
        """A value moved by a share of the rule's length; beyond its ends as fast as at them."""
        low, high = sorted((self.low, self.high))
        if not low <= value <= high or not 0 <= self.place(value) + by <= 1:
            inside = min(max(value, low), high)
            room = 1 - self.place(inside) if by > 0 else self.place(inside)
            if value == inside and room > 1e-9:
                return self.value(self.place(value) + by)  # to the end, from inside
            end = 1.0 if value >= high else 0.0
            slope = abs(self.value(end) - self.value(end - 0.02 if end else 0.02)) / 0.02
            return value + slope * by
        return self.value(self.place(value) + by)

    def place(self, value: float) -> float:
        """Where a value stands, 0…1."""
        share = (value - self.low) / (self.high - self.low)
        return min(max(math.copysign(abs(share) ** (1 / self.bend), share), 0.0), 1.0)

    def value(self, place: float) -> float:
        """The value at a place, 0…1."""
        return self.low + (self.high - self.low) * min(max(place, 0.0), 1.0) ** self.bend

    def clamp(self, value: float) -> float:
        """The nearest value that may be typed."""
        least, most = self.limits
        return min(max(value, least), most)

    @property
    def limits(self) -> tuple[float, float]:
        """The least and the most that may be typed."""
        return self.low if self.least is None else self.least, self.high if self.most is None else self.most

    def text(self, value: float) -> str:
        """A value as it is shown, with its unit."""
        number = f"{value:.{self.digits}f}".replace("-", "−")
        return f"{number}{self.unit}" if self.unit in ("%", "°", "×") else f"{number} {self.unit}".rstrip()

    def read(self, text: str) -> float | None:
        """The number in what a person typed; None if there is none."""
        bare = text.replace("−", "-").replace(",", ".").strip()
        for unit in (self.unit, "%", "°", "×", "x"):
            bare = bare.removesuffix(unit).strip() if unit else bare
        try:
            value = float(bare)
        except ValueError:
            return None
        return self.clamp(value) if math.isfinite(value) else None
