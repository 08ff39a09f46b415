"""Fields: every number, choice and switch of the document is described once, on the struct that it belongs to.

A description is an annotation: ``roughness: Annotated[float, Number(...)] = 0.2``. Limits and their check, the JSON
Schema, the manual's page of numbers, the controls of the window and the words of the finder are all made from it.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from typing import Any, get_args, get_origin, get_type_hints

import msgspec
from msgspec.structs import replace

from young_tremor.base.errors import UnreadableValue
from young_tremor.base.number_scale import NumberScale

Bounds = tuple[float, float]
MAX_TEXT = 4096  # characters of a name, a note, a path

# Bounds that several numbers share.
TIME = (-1e6, 1e6)  # seconds
UNIT = (0.0, 1.0)
FACTOR = (-1e4, 1e4)
LEVEL = (-120.0, 24.0)  # decibels; the least is silence
SEED = (-(2**62), 2**62)

# Scales that several numbers share.
UNIT_SCALE = NumberScale(0, 1, "", 2, least=0, most=1)
AMOUNT_SCALE = NumberScale(0, 200, "%", 0, least=0, most=1000)
PLACE_SCALE = NumberScale(-100, 100, "%", 1, least=-1000, most=1000)
EXTENT_SCALE = NumberScale(1, 250, "%", 1, bend=1.6, least=0.1, most=1000)
ANGLE_SCALE = NumberScale(-180, 180, "°", 0)
PHASE_SCALE = NumberScale(-180, 180, "°", 0, least=-360, most=360)
STRETCH_SCALE = NumberScale(0, 30, "s", 2, bend=2, least=0, most=36000)
LEVEL_SCALE = NumberScale(-48, 12, "dB", 1, least=-120, most=24)
TIME_CONSTANT_SCALE = NumberScale(0.01, 4, "s", 2, bend=3, least=0.001, most=30)


@dataclass(frozen=True)
class Field:
    """What every description has. ``label`` stands on its control and in Undo; ``tip`` says what it is, there and in
    the manual."""

    label: str
    tip: str


@dataclass(frozen=True)
class Number(Field):
    """A number, or a curve of numbers.

    ``bounds``: the least and the most that it, and each key of its curve, may be. ``scale``: how its control shows it;
    None where it has no control. ``per``: how much of the scale is 1 in the document, 100 for a factor in percent.
    ``unit``: of the document, if it does not follow from these. ``noun``: what a sentence calls it, if not by its
    label. ``words``: what else the trade calls it, by commas.
    """

    bounds: Bounds
    scale: NumberScale | None = None
    per: float = 1.0
    unit: str = ""
    noun: str = ""
    words: str = ""

    @property
    def document_unit(self) -> str:
        """Its unit in the document, for the schema and the manual."""
        if self.unit or self.bounds == UNIT:
            return self.unit or "0 to 1"
        if self.per != 1.0:
            return "factor"
        return self.scale.unit if self.scale is not None else ""

    @property
    def shown_as(self) -> NumberScale:
        """The scale of its control; LookupError where it has none."""
        if self.scale is None:
            raise LookupError(f"“{self.label}” has no control")
        return self.scale

    @property
    def called(self) -> str:
        """What a sentence calls it."""
        return self.noun or self.label.lower()


@dataclass(frozen=True)
class Choice(Field):
    """One of a few. ``options``: each with its words on the screen, in the order in which they are offered."""

    options: tuple[tuple[Any, str], ...]
    words: str = ""


@dataclass(frozen=True)
class Switch(Field):
    """On or off."""

    words: str = ""


@dataclass(frozen=True)
class AtMost:
    """How many items a tuple may hold."""

    count: int


@dataclass(frozen=True)
class FractionText:
    """A text that is a fraction, "24000/1001" or "23.976", within bounds."""

    low: Fraction
    high: Fraction
    noun: str = ""


@dataclass(frozen=True)
class ColourText:
    """A text that is a colour, written like #f2c14e."""

    noun: str = ""


RATE_TEXT = FractionText(Fraction(1, 10), Fraction(1000))
_COLOUR = re.compile(r"#[0-9a-f]{6}", re.IGNORECASE)


class Checked(msgspec.Struct, frozen=True):
    """A value of the document. It raises UnreadableValue, which names the field, if a field breaks its description."""

    def __post_init__(self) -> None:
        check(self)


@lru_cache(maxsize=256)
def descriptions(kind: type) -> dict[str, Any]:
    """What is said of the fields of a struct, its parents' first: by name a :class:`Field`, AtMost, FractionText or
    ColourText."""
    table: dict[str, Any] = {}
    for name, hint in get_type_hints(kind, include_extras=True).items():
        for note in getattr(hint, "__metadata__", ()):
            if isinstance(note, Field | AtMost | FractionText | ColourText):
                table[name] = note
    return table


def fields(kind: type) -> dict[str, Field]:
    """The numbers, choices and switches of a struct by name."""
    return {name: note for name, note in descriptions(kind).items() if isinstance(note, Field)}


def numbers(kind: type) -> dict[str, Number]:
    """The numbers of a struct by name."""
    return {name: note for name, note in descriptions(kind).items() if isinstance(note, Number)}


def field_at(kind: type, path: str) -> Field:
    """The description at a dotted path below a struct: ``field_at(Drift, "wander.depth")``. LookupError if none."""
    owner, name = _owner(kind, path)
    note = descriptions(owner).get(name)
    if not isinstance(note, Field):
        raise LookupError(f"{kind.__name__} has no field “{path}”")
    return note


def number_at(kind: type, path: str) -> Number:
    """The description of a number at a dotted path below a struct. LookupError if none."""
    note = field_at(kind, path)
    if not isinstance(note, Number):
        raise LookupError(f"“{path}” of {kind.__name__} is no number")
    return note


def has_field(kind: type, path: str) -> bool:
    """Whether there is a field at a dotted path below a struct."""
    owner, name = _owner(kind, path)
    return name in descriptions(owner)


def default_at(kind: type, path: str) -> Any:
    """What a field is unless it is set; None where it has to be given."""
    owner, name = _owner(kind, path)
    default = next(item.default for item in msgspec.structs.fields(owner) if item.name == name)
    return None if default is msgspec.NODEFAULT else default


def value_at(value: Any, path: str) -> Any:
    """What a struct holds at a dotted path; None below a part that is not there."""
    for name in path.split("."):
        value = None if value is None else getattr(value, name)
    return value


def with_value(value: Any, path: str, new: Any) -> Any:
    """A struct with another value at a dotted path. Raises UnreadableValue as its making does."""
    name, _, below = path.partition(".")
    return replace(value, **{name: with_value(getattr(value, name), below, new) if below else new})


def _owner(kind: type, path: str) -> tuple[type, str]:
    """The struct that holds the last name of a path."""
    *parts, name = path.split(".")
    for part in parts:
        kind = next(_structs(_annotations(kind).get(part)), None) or kind
    return kind, name


def part_type(kind: type, name: str) -> type:
    """The struct that a part of a struct is, at a dotted path; LookupError if it has no such part."""
    for step in name.split("."):
        part = next(_structs(_annotations(kind).get(step)), None)
        if part is None:
            raise LookupError(f"{kind.__name__} has no part “{step}”")
        kind = part
    return kind


def structs_below(kind: type) -> dict[str, type]:
    """All structs of which a struct is made, itself included, by name."""
    table: dict[str, type] = {}
    waiting = [kind]
    while waiting:
        kind = waiting.pop()
        if kind.__name__ not in table:
            table[kind.__name__] = kind
            waiting += [part for hint in _annotations(kind).values() for part in _structs(hint, deep=True)]
    return table


@lru_cache(maxsize=256)
def _annotations(kind: type) -> dict[str, object]:
    """The annotations of a struct, evaluated: that takes 0.3 ms, and the chart asks a hundred times a change."""
    return get_type_hints(kind)


def _structs(hint: Any, *, deep: bool = False) -> Iterator[type]:
    """The structs that an annotation names, in their order; ``deep``: those in tuples and tables too."""
    if isinstance(hint, type) and issubclass(hint, msgspec.Struct):
        yield hint
    elif deep or get_origin(hint) not in (tuple, dict):
        for part in get_args(hint):
            yield from _structs(part, deep=deep)


def check(value: Any) -> None:
    """Raise UnreadableValue where a field of a value breaks its description. Parts were checked when they were made."""
    kind: type = type(value)
    for name, note in descriptions(kind).items():
        found = getattr(value, name)
        if found is None:
            continue
        if isinstance(note, Number):
            _check_number(kind.__name__, note, found)
        elif isinstance(note, AtMost) and len(found) > note.count:
            raise UnreadableValue(f"{len(found)} {name} are too many: at most {note.count} are allowed.")
        elif isinstance(note, FractionText):
            fraction(found, note.low, note.high, f"{kind.__name__.lower()}’s {note.noun or name}")
        elif isinstance(note, ColourText) and not _COLOUR.fullmatch(found):
            raise UnreadableValue(f"A {note.noun or name} of “{found[:40]}” cannot be used: write it like #f2c14e.")


def _check_number(kind: str, note: Number, found: Any) -> None:
    low, high = note.bounds
    if isinstance(found, int | float):
        if isinstance(found, bool) or not low <= found <= high:
            raise _outside(kind, note.called, found, note.bounds)
        return
    for number in (found.value, *(key.value for key in found.keys)):
        if not low <= number <= high:
            raise _outside(kind, note.called, number, note.bounds)


def fraction(text: str, low: Fraction, high: Fraction, what: str) -> Fraction:
    """A text like "24000/1001" or "23.976" as a fraction within bounds; UnreadableValue with ``what`` otherwise."""
    try:
        if len(text) > 40 or "e" in text.lower():
            raise ValueError
        fraction = Fraction(text)
        if not low <= fraction <= high or fraction.denominator > 10**9:
            raise ValueError
    except (ValueError, ZeroDivisionError):
        raise UnreadableValue(
            f"A {what} of “{text[:40]}” cannot be used: give {_short(float(low))} to {_short(float(high))}."
        ) from None
    return fraction


def check_text(what: str, text: str) -> None:
    """Refuse a text that no file could keep."""
    if len(text) > MAX_TEXT or "\0" in text or any(0xD800 <= ord(c) < 0xE000 for c in text):
        raise UnreadableValue(f"A {what} that is too long, or holds what is no text, cannot be used: give another.")


def check_ids(what: str, values: Sequence[Any]) -> None:
    """Refuse two that share an id."""
    ids = [value.id for value in values]
    if len(set(ids)) != len(ids):
        raise UnreadableValue(f"Two {what} share an id: each needs its own.")


def check_order(times: Sequence[float]) -> None:
    """Refuse keys that do not stand in the order of time."""
    if any(b <= a for a, b in zip(times, times[1:], strict=False)):
        raise UnreadableValue(
            "Keys that are not in the order of time cannot be used: each must be later than the last."
        )


def _outside(kind: str, noun: str, number: Any, bounds: Bounds) -> UnreadableValue:
    shown = f"{number:g}" if isinstance(number, int | float) and not isinstance(number, bool) else str(number)
    reason = "" if math.isfinite(float(number)) else " (it is not a finite number)"
    return UnreadableValue(
        f"A {noun} of {shown} cannot be used in a {kind.lower()}{reason}: "
        f"give {_short(bounds[0])} to {_short(bounds[1])}."
    )


def _short(value: float) -> str:
    return f"{value:.12g}" if abs(value) < 1e7 else f"{value:g}"
