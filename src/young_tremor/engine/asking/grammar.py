"""A sentence in tokens: words, and numbers with their units."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Literal

from young_tremor.base.errors import UnreadableValue
from young_tremor.base.units import parse_time
from young_tremor.engine.library import word_table

FRAMES = "f?"  # the unit of “72-95”: frames, unless a unit follows
MOST = 400  # characters of a sentence that are looked at
Relation = Literal["", "+", "*", "/"]
LENGTHS, ANGLES, RATES, TIMES = ("px", "%"), ("°", "rad"), ("Hz", "bpm", "/min"), ("f", "s", "ms", "min", "timecode")

_TOKEN = re.compile(
    r"""
    (?P<timecode>\d{1,4}(?:[:;]\d{1,2}){1,3})
    | (?P<range>[fF]?\d{1,7}\s?[-–]\s?[fF]?\d{1,7}(?![\d.,:;/]))
    | (?P<number>(?:(?P<relation>[+*×](?=\s?[\d.])|/(?=\s?\d))\s?)?(?:(?P<sign>[-−±])\s?)?
        (?P<frame>(?<![a-zA-Z])[fF])?(?P<digits>\d+[.,]\d+|\d+|\.\d+)(?:/(?P<below>\d+)(?=\D|$))?)
    | (?P<word>/[a-zA-Z]+|[^\W\d_]+(?:['’/-][^\W\d_]+)*|[%°º@=])
    | (?P<comma>[,;])
    """,
    re.VERBOSE,
)


@dataclass(frozen=True)
class Quantity:
    """A number as it was said. ``unit``: as in the table of words, "" if none was said, "timecode" in seconds;
    ``relation``: to what is there already."""

    value: float
    unit: str = ""
    relation: Relation = ""


@dataclass(frozen=True)
class Word:
    """A word in small letters."""

    text: str


@dataclass(frozen=True)
class Comma:
    """Where a part of a sentence ends."""


Token = Quantity | Word | Comma


@dataclass(frozen=True)
class Clock:
    """By what frames and timecode are read: ``rate`` in frames a second."""

    rate: Fraction = Fraction(24)

    def seconds(self, quantity: Quantity) -> float | None:
        """A time in seconds; a number without a unit is one of seconds. None for what is no time."""
        factors = {"": 1.0, "s": 1.0, "timecode": 1.0, "ms": 0.001, "min": 60.0, "f": 1 / float(self.rate)}
        factor = factors.get(quantity.unit)
        return None if factor is None else quantity.value * factor


def tokens(text: str, clock: Clock) -> tuple[Token, ...]:
    """The tokens of a sentence. A unit belongs to the number before it, with or without a space; a comma between
    digits is a decimal one."""
    out: list[Token] = []
    for match in _TOKEN.finditer(text[:MOST]):
        out += _tokens_of(match, clock)
    return _with_units(out, clock)


def _tokens_of(match: re.Match[str], clock: Clock) -> list[Token]:
    """What one piece of text stands for."""
    if match["comma"]:
        return [Comma()]
    if match["timecode"]:
        try:
            return [Quantity(parse_time(match["timecode"], clock.rate), "timecode")]
        except UnreadableValue:
            return [Word(match["timecode"])]
    if match["range"]:
        first, last = re.split(r"\s?[-–]\s?", match["range"])
        ends = [Quantity(float(end.lstrip("fF")), "f" if end[0] in "fF" else FRAMES) for end in (first, last)]
        if ends[0].value >= ends[1].value:
            return [replace(ends[0], unit=""), Quantity(-ends[1].value)]
        return [Word("from"), ends[0], Word("to"), ends[1]]
    if match["number"]:
        return [_number(match)]
    return [Word(match["word"].casefold().replace("’", "'"))]


def _number(match: re.Match[str]) -> Quantity:
    value = float(match["digits"].replace(",", "."))
    below = float(match["below"] or 1)
    value = value / below if below else math.inf
    sign = (match["sign"] or "").strip()
    relation = (match["relation"] or "").replace("×", "*")
    if sign in ("-", "−"):
        value = -value
    return Quantity(value if math.isfinite(value) else 0.0, "f" if match["frame"] else "", relation)  # type: ignore[arg-type]


def _with_units(raw: list[Token], clock: Clock) -> tuple[Token, ...]:
    """Numbers in words as numbers, and units with the number before them; “twice a second” is 2 Hz, “every 5 seconds”
    0.2 Hz."""
    out: list[Token] = []
    position = 0
    while position < len(raw):
        token, used = _with_unit(raw[position], raw[position + 1 : position + 4], clock)
        out.append(token)
        position += 1 + used
    return tuple(out)


def _with_unit(token: Token, after: list[Token], clock: Clock) -> tuple[Token, int]:
    """A token with what belongs to it of those after it, and how many these are."""
    numbers = word_table.table()["numbers"]
    if isinstance(token, Word):
        rate, used = _rate(token.text, after, clock)
        if rate:
            return Quantity(rate, "Hz"), used
        if token.text not in numbers or not after or not _is_unit(after[0], word_table.meaning("units")):
            return token, 0
        token = Quantity(float(numbers[token.text]))
    if isinstance(token, Quantity) and token.unit in ("", FRAMES):
        return _joined(token, after, word_table.meaning("units"))
    return token, 0


def _rate(word: str, after: list[Token], clock: Clock) -> tuple[float, int]:
    """Of “twice a second” and “every 5 frames”: Hz and tokens; 0 for what is no rate."""
    counts = word_table.table()["counts"]
    per = _per_time(after) if word in counts else None
    if per:
        return counts[word] / per[0], per[1]
    if word not in word_table.words("every"):
        return 0.0, 0
    length, used = _every(after, word_table.table()["numbers"])
    if length is None:
        return 0.0, 0
    return (float(clock.rate) if length[1] == "f" else 1.0) / length[0], used


def _is_unit(token: Token, units: dict[str, str]) -> bool:
    return isinstance(token, Word) and token.text in units


def _joined(quantity: Quantity, after: list[Token], units: dict[str, str]) -> tuple[Quantity, int]:
    """A number with the unit behind it, and how many tokens that took: “2 times a second”, “30 px”, “4 per second”.
    An x that stands before a number is an axis, not a unit."""
    first = after[0] if after else None
    if not isinstance(first, Word):
        return quantity, 0
    skipped = 1 if first.text in word_table.words("swings") else 0
    per = _per_time(after) or _per_time(after[skipped:])
    if per:
        return replace(quantity, value=quantity.value / per[0], unit="Hz"), per[1] + skipped
    if first.text == "x":
        return (replace(quantity, unit="×"), 1) if len(after) == 1 else (quantity, 0)
    return (replace(quantity, unit=units[first.text]), 1) if first.text in units else (quantity, 0)


def _per_time(after: list[Token]) -> tuple[float, int] | None:
    """Of “a second”, “per minute”: seconds and tokens."""
    if len(after) < 2 or not isinstance(after[0], Word) or not isinstance(after[1], Word):
        return None
    if after[0].text not in word_table.words("per"):
        return None
    seconds = {"s": 1.0, "min": 60.0}.get(word_table.meaning("units").get(after[1].text, ""))
    return (seconds, 2) if seconds else None


def _every(after: list[Token], numbers: dict[str, float]) -> tuple[tuple[float, str] | None, int]:
    """Of “every 5 seconds”, “every second”, “every 12 frames”: the length with its unit, and tokens."""
    units = word_table.meaning("units")
    if not after:
        return None, 0
    count, used = 1.0, 0
    if isinstance(after[0], Quantity):
        count, used = after[0].value, 1
    elif isinstance(after[0], Word) and after[0].text in numbers:
        count, used = float(numbers[after[0].text]), 1
    behind = after[used] if len(after) > used else None
    unit = units.get(behind.text, "") if isinstance(behind, Word) else ""
    seconds = {"s": 1.0, "ms": 0.001, "min": 60.0, "f": 1.0}.get(unit)
    if not seconds or not count > 0:
        return None, 0
    return (count * seconds, "f" if unit == "f" else "s"), used + 1
