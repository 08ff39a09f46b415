"""Figures in the units that a control shows."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction

from young_tremor.base.number_scale import NumberScale
from young_tremor.engine.asking.grammar import Clock, Quantity, tokens

OF_HEIGHT = ("% of height", "frame heights")  # units of the document that pixels can be turned into
SCALED = {"s": 1.0, "ms": 1000.0}
FACTORS = {
    ("×", "%"): 100.0,
    ("%", "×"): 0.01,
    ("%", ""): 0.01,
    ("/min", "Hz"): 1 / 60,
    ("bpm", "Hz"): 1 / 60,
    ("Hz", "/min"): 60.0,
    ("Hz", "/s"): 1.0,
    ("rad", "°"): math.degrees(1.0),
    ("bpm", "/min"): 1.0,
    ("×", ""): 1.0,
}


@dataclass(frozen=True)
class Surroundings:
    """By what frames and pixels are read: ``rate`` in frames a second, ``height`` of the frame in pixels."""

    rate: Fraction = Fraction(24)
    height: int = 1080


def in_unit(quantity: Quantity, unit: str, meaning: str, around: Surroundings) -> float | None:
    """A figure in a unit of the window; ``meaning``: the document's unit, by which percent of the frame's height are
    known. None where the two have nothing to do with each other."""
    unit_said, value = quantity.unit, quantity.value
    if unit_said in ("", unit):
        return value
    if (unit_said, unit) in FACTORS:
        return value * FACTORS[unit_said, unit]
    if unit_said == "px" and unit == "%" and meaning in OF_HEIGHT:
        return 100 * value / around.height
    seconds = Clock(around.rate).seconds(quantity)
    if seconds is None:
        return None
    if unit in SCALED:
        return seconds * SCALED[unit]
    if unit == "frames":
        return float(round(seconds * around.rate))
    if unit == "°" and unit_said in ("s", "ms"):
        return float(seconds * around.rate * 360)  # of a shutter: how long it is open
    return None


def changed_by(quantity: Quantity, unit: str, meaning: str, before: float, around: Surroundings) -> float | None:
    """What a figure makes of the number that is there, both in the unit of its control: +5, *1.5, /2 are relative. None
    where its unit does not fit."""
    if quantity.relation in ("*", "/"):
        if quantity.unit not in ("", "×") or (quantity.relation == "/" and quantity.value == 0):
            return None
        return before * quantity.value if quantity.relation == "*" else before / quantity.value
    value = in_unit(quantity, unit, meaning, around)
    return before + value if value is not None and quantity.relation == "+" else value


def read_typed(text: str, scale: NumberScale, before: float, meaning: str, around: Surroundings) -> float | None:
    """The number that a person typed into a control, in any unit that fits, within what may be typed; None where it is
    not understood."""
    sentence = tokens(text, Clock(around.rate))
    if len(sentence) != 1 or not isinstance(sentence[0], Quantity):
        return scale.read(text)
    value = changed_by(sentence[0], scale.unit, meaning, before, around)
    return scale.read(text) if value is None else scale.clamp(value)
