"""What numbers may be: one table of limits, checked whenever a value of the document is made or read.

The published schema and the manual's page of numbers are made from it.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from fractions import Fraction
from typing import Any

import msgspec

from young_tremor.base.errors import UnreadableValue

Bounds = tuple[float, float]
MOST_TEXT = 4096  # characters of a name, a note, a path
TIME = (-1e6, 1e6)  # seconds
ANY = (-1e6, 1e6)
SHARE = (0.0, 1.0)
DB = (-120.0, 24.0)  # decibels; the least is silence
SEED = (-(2**62), 2**62)

#: By type and field: the least and the most that a number (or a curve's every value) may be.
NUMBERS: dict[str, dict[str, Bounds]] = {
    "Key": {"t": TIME, "value": ANY, "slope_in": ANY, "slope_out": ANY},
    "Curve": {"value": ANY},
    "Point": {"x": (-1e3, 1e3), "y": (-1e3, 1e3)},
    "Region": {"width": (0.0, 1e3), "height": (0.0, 1e3), "feather": (0.0, 1e3)},
    "Wander": {"depth": (0.0, 10.0), "rate": (0.0, 100.0)},
    "Stretch": {"start": TIME, "end": TIME, "fade_in": (0.0, 1e6), "fade_out": (0.0, 1e6)},
    "Rests": {"share": SHARE, "hold": (0.05, 1e4)},
    "Corrections": {"size": (0.0, 100.0), "rate": (0.0, 120.0), "long": (0.05, 10.0)},
    "Steps": {"length": (0.0, 0.3), "size": SHARE, "uneven": (-1.0, 1.0), "strike": (0.0, 10.0)},
    "Hit": {"t": TIME, "strength": (-100.0, 100.0)},
    "DriftChannel": {"reach": (-1e4, 1e4), "rate": (0.0, 1e3), "regularity": SHARE, "roughness": SHARE, "phase": ANY},
    "Drift": {
        "amount": (-1e4, 1e4),
        "rate": (0.0, 1e3),
        "roughness": SHARE,
        "regularity": SHARE,
        "seed": SEED,
        "step": (0.0, 1e3),
        "lean": (-1.0, 1.0),
        "ease_in": (0.0, 1e6),
        "holds": (0.0, 1e6),
        "rule": (1, 2),
    },
    "Jolts": {
        "amount": (-1e4, 1e4),
        "reach": (-1e4, 1e4),
        "roll": (-1e4, 1e4),
        "zoom": (-1e4, 1e4),
        "ring": (0.0, 1e3),
        "settle": (0.0, 1e3),
        "rise": (0.0, 1e3),
        "rattle": SHARE,
        "tail": SHARE,
        "phase": ANY,
        "direction": ANY,
        "delay": (-1e4, 1e4),
        "distance": (0.0, 1e6),
        "seed": SEED,
        "rule": (1, 2),
    },
    "Plotted": {
        "amount": (-1e4, 1e4),
        "x": ANY,
        "y": ANY,
        "roll": ANY,
        "zoom": (-1e4, 1e4),
        "irregular": SHARE,
        "seed": SEED,
    },
    "Taken": {
        "amount": (-1e4, 1e4),
        "cutoff": (0.0, 1e5),
        "start": (0.0, 1e6),
        "end": (0.0, 1e6),
        "offset": TIME,
        "fade": (0.0, 1e5),
        "seed": SEED,
    },
    "Shimmer": {
        "amount": (-1e4, 1e4),
        "x": (-1e3, 1e3),
        "y": (-1e3, 1e3),
        "size": (0.0, 1e3),
        "speed": (0.0, 1e3),
        "octaves": (1, 8),
        "seed": SEED,
    },
    "Shake": {"intensity": (-1e4, 1e4), "pace": (0.0, 100.0), "begins": TIME},
    "Later": {"value": ANY, "begins": TIME},
    "Span": {"start": (0.0, 1e6), "end": (0.0, 1e6), "fade_in": (0.0, 1e5), "fade_out": (0.0, 1e5)},
    "Over": {"at": TIME},
    "Rumble": {
        "level": DB,
        "tone": (10.0, 400.0),
        "spread": (0.05, 6.0),
        "roughness": SHARE,
        "hum": SHARE,
        "width": SHARE,
        "attack": (0.001, 30.0),
        "release": (0.001, 60.0),
        "seed": SEED,
    },
    "Knocks": {
        "level": DB,
        "pitch": (15.0, 4000.0),
        "fall": (-4.0, 4.0),
        "decay": (0.002, 10.0),
        "bright": SHARE,
        "click": SHARE,
        "room": SHARE,
        "reverb": (0.05, 10.0),
        "delay": (-60.0, 60.0),
        "differ": SHARE,
        "seed": SEED,
    },
    "Layer": {"level": DB, "offset": TIME, "fade": (0.0, 60.0)},
    "SoundSway": {"level": (0.0, 24.0), "balance": SHARE},
    "Mix": {"level": DB},
    "Gains": {"x": (-1e4, 1e4), "y": (-1e4, 1e4), "roll": (-1e4, 1e4), "zoom": (-1e4, 1e4)},
    "Endless": {"every": (0.0, 1e6)},
    "Take": {"width": (1, 65536), "height": (1, 65536), "focal_mm": (1e-3, 1e5)},
    "Size": {"width": (2, 16384), "height": (2, 16384)},
    "Placement": {"x": (-1e3, 1e3), "y": (-1e3, 1e3), "size": (0.0, 1e3), "angle": ANY, "opacity": SHARE},
    "Plate": {"share": (-1e3, 1e3), "distance": (0.01, 1e4), "offset": TIME},
    "Title": {
        "size": (0.1, 400.0),
        "outline": (0.0, 100.0),
        "shadow": SHARE,
        "shadow_far": (-500.0, 500.0),
        "shadow_soft": (0.0, 200.0),
        "tracking": (-1000.0, 10000.0),
        "leading": (0.0, 1000.0),
        "differ": SHARE,
    },
    "Ramp": {"angle": ANY, "start": (-1e3, 1e3), "end": (-1e3, 1e3)},
    "Raised": {"near": SHARE},
    "Depth": {"near": (0.05, 1e3), "far": (0.05, 1e3)},
    "Shutter": {"angle": (0.0, 720.0), "phase": (-720.0, 720.0)},
    "Smear": {"frames": (0, 1000), "length": (0.0, 1e3), "angle": ANY, "fall": SHARE},
    "Afterimages": {"count": (0.0, 100.0), "lag": (0.0, 100.0), "opacity": SHARE},
    "Knock": {"frames": (0, 1000), "softness": (0.0, 20.0)},
    "Box": {"x": (-10.0, 10.0), "y": (-10.0, 10.0), "width": (0.0, 20.0), "height": (0.0, 20.0)},
    "FrameSettings": {"crop": (0.1, 100.0), "focal_mm": (1.0, 1e5), "breathe": (0.0, 1e4), "readout": (-1.0, 1.0)},
    "Shot": {"start": (0.0, 1e6), "end": (0.0, 1e6)},
    "Preset": {"focal_mm": (1.0, 1e5)},
    "Settings": {"volume": SHARE, "tap_lag": (0.0, 1.0), "autosave": (1.0, 3600.0)},
}

#: By type and field: how many there may be at the most.
COUNTS: dict[str, dict[str, int]] = {
    "Curve": {"keys": 20_000},
    "Region": {"outline": 512},
    "DriftChannel": {"harmonics": 16},
    "Shake": {"strands": 64},
    "Shot": {"plates": 64, "hits": 20_000, "others": 8},
    "Project": {"shots": 2000, "takes": 500, "spans": 500},
    "Span": {"hits": 20_000, "sounds": 32},
    "Mix": {"rows": 32},
    "Preset": {"sounds": 32},
    "FrameSettings": {"keep": 64},
    "Depth": {"shapes": 64},
}

#: By type and field: texts that are fractions, with their bounds.
FRACTIONS: dict[str, dict[str, tuple[Fraction, Fraction]]] = {
    "Size": {"pixel_aspect": (Fraction(1, 16), Fraction(16))},
    "Shot": {"rate": (Fraction(1, 10), Fraction(1000))},
    "Media": {"rate": (Fraction(1, 10), Fraction(1000))},
    "Project": {"rate": (Fraction(1, 10), Fraction(1000))},
}

#: By type: fields that are colours, written like #f2c14e.
COLOURS: dict[str, tuple[str, ...]] = {
    "Title": ("colour", "outline_colour"),
    "Media": ("colour",),
    "FrameSettings": ("behind",),
}
_COLOUR = re.compile(r"#[0-9a-f]{6}", re.IGNORECASE)

#: By type: what people call its fields in a sentence, where the field's own name would not do.
WORDS = {
    "focal_mm": "focal length",
    "pixel_aspect": "pixel aspect",
    "slope_in": "slope",
    "slope_out": "slope",
    "t": "time",
    "shadow_far": "shadow",
    "shadow_soft": "softness",
    "differ": "difference",
    "outline_colour": "colour",
    "behind": "colour behind",
    "tap_lag": "tap lag",
    "ease_in": "ease in",
    "fade_in": "fade in",
    "fade_out": "fade out",
}


class Checked(msgspec.Struct, frozen=True):
    """A value of the document. With a number out of its limits it raises UnreadableValue, which names the field."""

    def __post_init__(self) -> None:
        check(self)


def check(value: Any) -> None:
    """Raise UnreadableValue where a field of a value breaks its limits. Parts were checked when they were made."""
    kind = type(value).__name__
    for field, bounds in NUMBERS.get(kind, {}).items():
        number = getattr(value, field)
        if number is None:
            continue
        if isinstance(number, int | float):
            if isinstance(number, bool) or not bounds[0] <= number <= bounds[1]:
                raise _out(kind, field, number, bounds)
        else:
            for each in (number.value, *(key.value for key in number.keys)):
                if not bounds[0] <= each <= bounds[1]:
                    raise _out(kind, field, each, bounds)
    for field, most in COUNTS.get(kind, {}).items():
        if len(getattr(value, field)) > most:
            raise UnreadableValue(
                f"{len(getattr(value, field))} {field} are too many: {most} are the most there may be."
            )
    for field, (low, high) in FRACTIONS.get(kind, {}).items():
        text = getattr(value, field)
        if text is not None:
            fraction(text, low, high, f"{kind.lower()}’s {WORDS.get(field, field)}")
    for field in COLOURS.get(kind, ()):
        text = getattr(value, field)
        if text is not None and not _COLOUR.fullmatch(text):
            raise UnreadableValue(
                f"A {WORDS.get(field, field)} of “{text[:40]}” cannot be used: write it like #f2c14e."
            )


def fraction(text: str, low: Fraction, high: Fraction, what: str) -> Fraction:
    """A text like "24000/1001" or "23.976" as a fraction within bounds; UnreadableValue with ``what`` otherwise."""
    try:
        if len(text) > 40 or "e" in text.lower():
            raise ValueError
        found = Fraction(text)
        if not low <= found <= high or found.denominator > 10**9:
            raise ValueError
    except (ValueError, ZeroDivisionError):
        raise UnreadableValue(
            f"A {what} of “{text[:40]}” cannot be used: give {_short(float(low))} to {_short(float(high))}."
        ) from None
    return found


def check_text(what: str, text: str) -> None:
    """Refuse a text that no file could keep."""
    if len(text) > MOST_TEXT or "\0" in text or any(0xD800 <= ord(c) < 0xE000 for c in text):
        raise UnreadableValue(f"A {what} that is too long, or holds what is no text, cannot be used: give another.")


def check_ids(what: str, values: Sequence[Any]) -> None:
    """Refuse two that share an id."""
    ids = [each.id for each in values]
    if len(set(ids)) != len(ids):
        raise UnreadableValue(f"Two {what} share an id: each needs its own.")


def check_order(times: Sequence[float]) -> None:
    """Refuse keys that do not stand in the order of time."""
    if any(b <= a for a, b in zip(times, times[1:], strict=False)):
        raise UnreadableValue(
            "Keys that are not in the order of time cannot be used: each must be later than the last."
        )


def _out(kind: str, field: str, number: Any, bounds: Bounds) -> UnreadableValue:
    words = WORDS.get(field, field)
    said = f"{number:g}" if isinstance(number, int | float) and not isinstance(number, bool) else str(number)
    nothing = "" if math.isfinite(float(number)) else " (it is not a finite number)"
    return UnreadableValue(
        f"A {words} of {said} cannot be used in a {kind.lower()}{nothing}: "
        f"give {_short(bounds[0])} to {_short(bounds[1])}."
    )


def _short(value: float) -> str:
    return f"{value:.12g}" if abs(value) < 1e7 else f"{value:g}"
