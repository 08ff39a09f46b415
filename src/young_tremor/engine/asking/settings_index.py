"""Every number, choice and switch of a shot, with where its value stands and what it may become."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from dataclasses import replace as dataclass_replace
from fractions import Fraction
from functools import cache
from typing import Literal, cast, get_args

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from young_tremor.base.number_scale import NumberScale
from young_tremor.engine.asking.grammar import Quantity
from young_tremor.engine.asking.units import Surroundings, changed_by
from young_tremor.engine.asking.word_search import stems
from young_tremor.engine.library import word_table
from young_tremor.engine.library.settings import Settings
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import limited, with_value_at
from young_tremor.model.fields import Choice, Field, Number, Switch, field_at, fields, part_type, value_at, with_value
from young_tremor.model.project import FrameSettings, Plate, Shot
from young_tremor.model.shake import (
    CHANNELS,
    STRAND_TYPES,
    UNITS,
    Common,
    Drift,
    Region,
    Shake,
    Stretch,
)
from young_tremor.model.sound import Mix, Sound

Owner = Literal["frame", "shake", "strand", "plate", "sound", "mix", "preferences"]
Edit = Callable[[Shot], Shot]
Value = float | str | None  # of a setting; a switch's is a bool

TITLE = "media.title"  # where a plate has one

# Parts of a struct whose fields are named after it, and where they stand below what owns them.
PARTS: dict[str, dict[str, str]] = {
    "frame": {
        "shutter": "Shutter",
        "smear": "Smear",
        "afterimages": "Afterimages",
        "knock": "Knock",
        "pivot": "Pivot",
    },
    "strand": dict.fromkeys(("wander", "rests", "corrections", "steps", "stretch", "gains"), "") | {"region": "Region"},
    "plate": {"placement": "", "media": "", TITLE: "Title", "depth": "Depth"},
    "mix": {"sway": "Sound sway"},
    "shake": {"together": ""},
}
CURVES: tuple[tuple[str, Owner, type, str], ...] = (  # what is most often shaped over time
    ("intensity", "shake", Shake, "Intensity"),
    ("amount", "strand", Common, "Amount"),
    ("rate", "strand", Drift, "Rate"),
    ("pace", "shake", Shake, "Pace"),
    ("crop", "frame", FrameSettings, "Crop"),
    ("shutter.angle", "frame", FrameSettings, "Shutter angle"),
)
HIDDEN = ("rule", "holds", "begins", "trimmed")  # numbers that nobody sets
REACH_SCALES = {"%": NumberScale(0, 5, "%", 2, least=0, most=100), "°": NumberScale(0, 2, "°", 2, least=0, most=90)}
SEED_SCALE = NumberScale(0, 9999, "", 0, least=0, most=2**53)


@dataclass(frozen=True)
class Setting:
    """One that can be set. ``key``: of its words; ``kind``: of the strand or sound that has it; ``paths``: where below
    its owner; ``name``: what the list calls it; ``over_time``: its curve rather than its value."""

    key: str
    owner: Owner
    paths: tuple[str, ...]
    field: Field
    name: str
    kind: type | None = None
    over_time: bool = False


@dataclass(frozen=True)
class Place:
    """Where one stands: the shot, what is chosen in it, the playhead and the marked stretch in seconds of it, the
    frame's size in pixels, its rate and length. ``at_plate``: the panel shows the chosen plate."""

    shot: Shot
    strand: str = ""
    plate: str = ""
    sound: str = ""
    now: float = 0.0
    size: tuple[int, int] = (1920, 1080)
    rate: Fraction = Fraction(24)
    seconds: float | None = None
    marks: tuple[float, float] | None = None
    at_plate: bool = False


@cache
def settings() -> tuple[Setting, ...]:
    """All of them, those that are asked for most often first."""
    return tuple(_all())


def _all() -> Iterator[Setting]:
    yield from _of("shake", Shake)
    yield from _of("frame", FrameSettings)
    for kind in STRAND_TYPES:
        if kind is Drift:
            yield from _reaches()
        yield from _of("strand", kind, kind)
        if kind is Drift:
            seed = field_at(Common, "seed")
            assert isinstance(seed, Number)
            yield Setting("Common.seed", "strand", ("seed",), dataclass_replace(seed, scale=SEED_SCALE), "Seed", Common)
    yield from _of("plate", Plate)
    yield from _of("mix", Mix)
    for sound in get_args(Sound):
        yield from _of("sound", sound, sound)
    for name, note in fields(Settings).items():
        if isinstance(note, Number) and note.scale is not None:
            yield Setting(f"Settings.{name}", "preferences", (name,), note, note.label)
    for path, owner, struct, named in CURVES:
        strand = struct if owner == "strand" else None
        note = field_at(struct, path)
        yield Setting("over time", owner, (path,), note, f"{named} over time", strand, over_time=True)


def _of(owner: Owner, struct: type, kind: type | None = None) -> Iterator[Setting]:
    """The fields of a struct, and of the parts of it that are shown with it."""
    for path, note in fields(struct).items():
        yield from _setting(owner, struct, path, note, kind, "")
    for part, title in PARTS.get(owner, {}).items():
        try:
            below = part_type(struct, part)
        except LookupError:
            continue
        for name, note in fields(below).items():
            yield from _setting(owner, below, f"{part}.{name}", note, kind, title)


def _setting(owner: Owner, struct: type, path: str, note: Field, kind: type | None, title: str) -> Iterator[Setting]:
    name = path.rpartition(".")[2]
    if name in HIDDEN or (isinstance(note, Number) and note.scale is None):
        return
    holder = next(parent for parent in reversed(struct.__mro__) if name in getattr(parent, "__annotations__", {}))
    key = f"FrameSettings.{path}" if title == "Pivot" else f"{holder.__name__.lstrip('_')}.{name}"
    shown = note.label if not title or note.label.startswith(title) else f"{title}: {note.label.lower()}"
    shared = owner == "strand" and holder in (Common, Stretch, Region)
    if not shared or kind is Drift:  # what all strands have is one setting
        yield Setting(key, owner, (path,), note, shown, Common if shared else kind)


def _reaches() -> Iterator[Setting]:
    """How far a drift goes: x and y together, and each channel."""
    note = field_at(Drift, "channels.x.reach")
    assert isinstance(note, Number)
    both = _scaled(note, "%")
    yield Setting("reach", "strand", ("channels.x.reach", "channels.y.reach"), both, "Reach", Drift)
    for channel in CHANNELS:
        yield Setting(
            f"channel.{channel}",
            "strand",
            (f"channels.{channel}.reach",),
            _scaled(note, UNITS[channel]),
            f"Reach of {channel}",
            Drift,
        )


def _scaled(note: Number, unit: str) -> Number:
    """A description with a scale of a channel's unit."""
    return dataclass_replace(note, scale=REACH_SCALES[unit], unit="% of height" if unit == "%" else "")


def owner_of(setting: Setting, place: Place) -> Struct | None:
    """The struct that holds a setting's value now; None where there is none."""
    shot = place.shot
    if setting.owner == "strand":
        fitting = [strand for strand in shot.shake.strands if setting.kind is None or isinstance(strand, setting.kind)]
        return next((strand for strand in fitting if strand.id == place.strand), next(iter(fitting), None))
    if setting.owner == "plate":
        return _plate_of(setting, place)
    if setting.owner == "sound":
        rows = [row for row in shot.sound.rows if isinstance(row, cast(type, setting.kind))]
        return next((row for row in rows if row.id == place.sound), next(iter(rows), None))
    return {"frame": shot.frame, "shake": shot.shake, "mix": shot.sound}.get(setting.owner)


def _plate_of(setting: Setting, place: Place) -> Plate | None:
    """The chosen plate, or the footage's; of what only titles have, the first of those where the chosen one is none."""
    chosen = next((plate for plate in place.shot.plates if plate.id == place.plate), place.shot.footage)
    if not setting.paths[0].startswith(TITLE) or (chosen is not None and chosen.media.title is not None):
        return chosen
    return next((plate for plate in place.shot.plates if plate.media.title is not None), chosen)


def value_now(setting: Setting, place: Place) -> Value:
    """What a setting is at the playhead, in the document's unit; None where there is nothing to have it."""
    value = value_at(owner_of(setting, place), setting.paths[0])
    return float(value.at(np.array([place.now]))[0]) if isinstance(value, Curve) else value


def can_be_set(setting: Setting, place: Place) -> bool:
    """Whether there is something now that has it."""
    owner = owner_of(setting, place)
    part, _, _ = setting.paths[0].rpartition(".")
    return owner is not None and not setting.over_time and (not part or value_at(owner, part) is not None)


def value_words(setting: Setting, value: Value) -> str:
    """A value as the window shows it."""
    note = setting.field
    if isinstance(note, Number):
        if value is None or isinstance(value, str):
            return "not set"
        return note.shown_as.text(value * note.per)
    if isinstance(note, Choice):
        return next((words for option, words in note.options if option == value), str(value))
    return "on" if value else "off"


def read_number(setting: Setting, quantity: Quantity, place: Place) -> float | None:
    """What a figure makes of a number, in the document's unit, within the limits of what may be typed; None where its
    unit does not fit."""
    note, shown = setting.field, _asked_value(setting, quantity, place)
    if not isinstance(note, Number) or note.scale is None or shown is None:
        return None
    return float(note.scale.clamp(shown)) / note.per


def is_within(setting: Setting, quantity: Quantity, place: Place) -> bool:
    """Whether what a figure makes of a number lies within the limits of what may be typed."""
    note, shown = setting.field, _asked_value(setting, quantity, place)
    if not isinstance(note, Number) or note.scale is None or shown is None:
        return False
    return abs(note.scale.clamp(shown) - shown) <= 1e-9 * max(abs(shown), 1.0)


def _asked_value(setting: Setting, quantity: Quantity, place: Place) -> float | None:
    """What a figure makes of a number, as its scale shows it, without limits; None where its unit does not fit."""
    note = setting.field
    if not isinstance(note, Number) or note.scale is None:
        return None
    now = value_now(setting, place)
    before = 0.0 if now is None else float(now) * note.per
    shown = changed_by(quantity, note.scale.unit, note.document_unit, before, Surroundings(place.rate, place.size[1]))
    enlarges = note.scale.unit == "×" and note.scale.least == 1 and quantity.unit == "%" and not quantity.relation
    return shown + 1 if enlarges and shown is not None and 0 <= shown < 1 else shown  # a crop of 5 % is 1.05 ×


def read_choice(setting: Setting, words: tuple[str, ...], now: Value = None) -> Value:
    """The option that some words (as stems) name; None if none. Of several that fit alike it is the one that is set
    ``now``, or the first of those that all begin so; None where they have nothing else in common."""
    note = setting.field
    if isinstance(note, Switch):
        on, off = (bool(set(words) & {stems(word)[0] for word in word_table.words(name)}) for name in ("on", "off"))
        return on if on != off else None
    if not isinstance(note, Choice):
        return None
    counts = {option: _words_in_common(option, label, words) for option, label in note.options}
    best = max(counts.values())
    alike = [(option, stems(label)[:1]) for option, label in note.options if counts[option] == best]
    if not best or len({beginning for _, beginning in alike}) > 1:
        return None
    return next((option for option, _ in alike if option == now), alike[0][0])


def _words_in_common(option: object, label: str, words: tuple[str, ...]) -> int:
    """How many words (as stems) an option has: its label, its word in documents, what the trade says."""
    own = set(stems(f"{label} {option} {word_table.phrases('options', str(option))}"))
    return len(own & set(words))


def set_value(setting: Setting, place: Place, value: Value) -> Edit:
    """The change of a shot that gives a setting a value, at the playhead where it is a curve with keys."""
    owner = owner_of(setting, place)

    def changed(struct: Struct) -> Struct:
        for path in setting.paths:
            now = value_at(struct, path)
            new = with_value_at(now, place.now, _number(value)) if isinstance(now, Curve) else _typed(now, value)
            struct = with_value(struct, path, new)
        return struct

    def edit(shot: Shot) -> Shot:
        return with_owner(shot, setting.owner, owner, changed)

    return edit


def curve_of(setting: Setting, place: Place) -> Curve | None:
    """The curve of a setting that can change along the way; None where it cannot, or where nothing has it."""
    if setting.over_time or not can_be_set(setting, place):
        return None
    value = value_at(owner_of(setting, place), setting.paths[0])
    return value if isinstance(value, Curve) else None


def reshaped(setting: Setting, place: Place, change: Callable[[Curve], Curve]) -> Edit:
    """The change of a shot that gives a setting's curve another shape, within its limits."""
    assert isinstance(setting.field, Number)
    low, high = (limit / setting.field.per for limit in setting.field.shown_as.limits)

    def changed(struct: Struct) -> Struct:
        return with_value(struct, setting.paths[0], limited(change(value_at(struct, setting.paths[0])), low, high))

    owner = owner_of(setting, place)
    return lambda shot: with_owner(shot, setting.owner, owner, changed)


@cache
def named(key: str) -> Setting:
    """The setting of a key of the table of words."""
    return next(setting for setting in settings() if setting.key == key)


def _number(value: Value) -> float:
    return value if isinstance(value, int | float) else 0.0


def _typed(now: object, value: Value) -> Value:
    whole = isinstance(now, int) and not isinstance(now, bool)
    return round(value) if whole and isinstance(value, float) else value


def with_owner(shot: Shot, kind: Owner, owner: Struct | None, change: Callable[[Struct], Struct]) -> Shot:
    """A shot with one of its parts changed."""
    if kind == "frame":
        return replace(shot, frame=change(shot.frame))
    if kind == "shake":
        return replace(shot, shake=change(shot.shake))
    if kind == "mix":
        return replace(shot, sound=change(shot.sound))

    def with_change(items: tuple[Struct, ...]) -> tuple[Struct, ...]:
        return tuple(change(item) if getattr(item, "id", "") == getattr(owner, "id", None) else item for item in items)

    if kind == "strand":
        return replace(shot, shake=replace(shot.shake, strands=with_change(shot.shake.strands)))
    if kind == "plate":
        return replace(shot, plates=with_change(shot.plates))
    return replace(shot, sound=replace(shot.sound, rows=with_change(shot.sound.rows)))
