"""A motion said in figures: “30 px 2 Hz”, “x 4 y 8 px, 1.5 Hz, rough 0.4, from 2 s to 4 s, rising”."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import lru_cache
from typing import Literal, cast

import msgspec
import numpy as np

from young_tremor.engine.asking.grammar import (
    ANGLES,
    FRAMES,
    LENGTHS,
    RATES,
    TIMES,
    Clock,
    Comma,
    Quantity,
    Token,
    Word,
)
from young_tremor.engine.library import word_table
from young_tremor.model.curve import Curve, Key
from young_tremor.model.shake import CHANNELS, Drift, DriftChannel, DriftChannels, Jolts, Stretch
from young_tremor.motion.strand_kinds import kind_of

Shape = Literal["", "rise", "fall", "swell"]
SHAPE_WORDS = {"rise": "rising", "fall": "falling", "swell": "swelling"}
SHIFTS, TURNS = ("x", "y"), ("roll", "pan", "tilt")
FITTING = {"px": SHIFTS, "%": (*SHIFTS, "zoom"), "°": TURNS}  # the channels of a unit
LIMITS = {"px": 1e5, "%": 1000.0, "°": 360.0}
ZOOM_LIMIT = 50.0  # percent; “zoom 110 %” is a size, not a motion
ATTEMPTS = 80  # courses that are looked at for one that holds its reach in a shot
CLOSE = 0.02  # of the reach, as near as it has to come
RATE_LIMIT = 1000.0
FASTER = 4.0  # by how much the rate grows where it gets faster and faster
CALM = 4.0  # a jolt has settled this many times within the stretch in which it acts


@dataclass(frozen=True)
class Amount:
    """How far one channel goes, in ``px``, ``%`` (of frame height; of size for a zoom) or ``°``."""

    channel: str
    value: float
    unit: str


@dataclass(frozen=True)
class MotionPhrase:
    """A motion as it was understood. ``rate`` in Hz, which it reaches from ``rate_from`` where that is said; ``start``
    and ``end`` in seconds of the shot (None: its ends); ``length`` where only that was said; ``from_end``: that length
    is the shot's last. ``jolts``: it answers to hits rather than going on. ``way``: to be *added*, or left to choose.
    ``unknown``: words that say nothing here."""

    amounts: tuple[Amount, ...] = ()
    rate: float | None = None
    rate_from: float | None = None
    roughness: float | None = None
    regularity: float | None = None
    step: float | None = None
    start: float | None = None
    end: float | None = None
    length: float | None = None
    from_end: bool = False
    shape: Shape = ""
    jolts: bool = False
    way: Literal["", "added"] = ""
    unknown: tuple[str, ...] = ()

    @property
    def says_motion(self) -> bool:
        """Whether it has a figure that only a motion has."""
        return bool(self.amounts) or self.rate is not None

    def within(self, seconds: float | None) -> MotionPhrase:
        """The same with its stretch in a shot of so many seconds."""
        if self.length is None:
            return self
        if self.from_end and seconds is not None:
            return replace(self, start=max(0.0, seconds - self.length), end=seconds, length=None)
        start = self.start or 0.0
        return replace(self, start=self.start, end=start + self.length, length=None)

    def words(self) -> str:
        """What was understood, in our words; read again, it says the same."""
        parts = [_amount_words(self.amounts)] if self.amounts else []
        if self.rate is not None:
            begins = "" if self.rate_from is None else f"{_short(self.rate_from)} to "
            parts.append(f"{begins}{_short(self.rate)} Hz")
        for name, word in (("roughness", "rough"), ("regularity", "regular"), ("step", "steps")):
            value = getattr(self, name)
            if value is not None:
                parts.append(f"{word} {_short(value)}")
        if self.length is not None:
            parts.append(f"{'last' if self.from_end else 'for'} {_short(self.length)} s")
        if self.start is not None:
            parts.append(f"from {_short(self.start)} s")
        if self.end is not None:
            parts.append(f"to {_short(self.end)} s")
        if self.shape:
            parts.append(SHAPE_WORDS[self.shape])
        return ", ".join(part for part in parts if part)


@dataclass
class _Reading:
    """What has been understood so far."""

    clock: Clock
    phrase: MotionPhrase = MotionPhrase()
    amounts: dict[str, Amount] = field(default_factory=dict)
    waiting: list[str] = field(default_factory=list)  # channels without a figure
    bare: list[tuple[list[str], float]] = field(default_factory=list)  # figures of channels without a unit
    figure: Amount | None = None  # the last, as long as channels behind it are its own
    guessed: tuple[str, ...] = ()  # the channels that it was given without being told
    channel_first: bool | None = None
    in_frames: bool = False  # the last end of the stretch
    consumed: int = 0  # tokens beyond the present one
    faster: str = ""  # "faster" or "slower", as it goes on


def understand(tokens: tuple[Token, ...], clock: Clock) -> MotionPhrase | None:
    """The motion that a sentence speaks of; None if it has no figure of one, or figures that no motion has."""
    reading = _Reading(clock)
    position = 0
    try:
        while position < len(tokens):
            reading.consumed = 0
            _read(reading, tokens[position], tokens[position + 1 :])
            position += 1 + reading.consumed
        _end_bare(reading, "")
        _end_faster(reading)
    except _NoMotionError:
        return None
    order = [reading.amounts[channel] for channel in CHANNELS if channel in reading.amounts]
    phrase = replace(reading.phrase, amounts=tuple(order))
    return phrase if phrase.says_motion and _sane(phrase) else None


class _NoMotionError(Exception):
    """The figures are of something else."""


def _read(reading: _Reading, token: Token, after: tuple[Token, ...]) -> None:
    """Take one token, and those after it that belong to it."""
    if isinstance(token, Comma):
        reading.figure = None
    elif _read_rates(reading, (token, *after)):
        return
    elif isinstance(token, Quantity):
        _read_quantity(reading, token)
    else:
        _read_word(reading, token.text, after)


def _read_rates(reading: _Reading, tokens: tuple[Token, ...]) -> bool:
    """Take a rate that changes, “2 to 8 Hz”, “from 2 Hz to 8 Hz”, “2-8 Hz”; whether there was one."""
    skip = 1 if isinstance(tokens[0], Word) and tokens[0].text in word_table.words("from") else 0
    match tokens[skip : skip + 3]:
        case (Quantity(first, ("" | "f?" | "Hz"), ""), Word(to), Quantity(last, "Hz", "")):
            if to not in word_table.words("to") or first <= 0:
                return False
            reading.phrase = replace(reading.phrase, rate=last, rate_from=first)
            reading.consumed = skip + 2
            return True
    return False


def _read_quantity(reading: _Reading, quantity: Quantity) -> None:
    value, unit = abs(quantity.value), quantity.unit
    if unit == "rad":
        value, unit = math.degrees(value), "°"
    if unit in RATES:
        rate = value / 60 if unit in ("bpm", "/min") else value
        reading.phrase = replace(reading.phrase, rate=rate)
    elif unit in LENGTHS or unit in ANGLES:
        _read_amount(reading, value, unit)
    elif unit in TIMES:
        seconds = reading.clock.seconds(quantity)
        if reading.phrase.length is not None or seconds is None:
            raise _NoMotionError
        reading.phrase = replace(reading.phrase, length=abs(seconds))
    elif not unit and reading.waiting:
        reading.bare.append((reading.waiting, value))
        reading.waiting = []
    else:
        raise _NoMotionError


def _read_amount(reading: _Reading, value: float, unit: str) -> None:
    """A length or an angle: of the channels that wait for one, or of those that it fits."""
    fitting = FITTING[unit]
    usual = ("roll",) if unit == "°" else SHIFTS
    named = [channel for channel in reading.waiting if channel in fitting]
    if reading.waiting and not named:
        raise _NoMotionError
    if reading.channel_first is None:
        reading.channel_first = bool(named)
    _end_bare(reading, unit)
    reading.waiting = []
    channels = tuple(named) or tuple(channel for channel in usual if channel not in reading.amounts) or usual
    reading.guessed = () if named else channels
    for channel in channels:
        reading.amounts[channel] = Amount(channel, value, unit)
    reading.figure = Amount(channels[0], value, unit)


def _end_faster(reading: _Reading) -> None:
    """Let a rate change as “faster and faster” says: to or from a quarter of it."""
    rate = reading.phrase.rate
    if not reading.faster or rate is None or reading.phrase.rate_from is not None:
        return
    rates = (rate / FASTER, rate) if reading.faster == "faster" else (rate, rate / FASTER)
    reading.phrase = replace(reading.phrase, rate_from=rates[0], rate=rates[1])


def _end_bare(reading: _Reading, unit: str) -> None:
    """Give figures without a unit the one that came after them, or the usual one of their channel."""
    for channels, value in reading.bare:
        for channel in channels:
            usual = "°" if channel in TURNS else "%" if channel == "zoom" else "px"
            fits = unit in ("px", "%") if channel in SHIFTS else unit == usual
            reading.amounts[channel] = Amount(channel, value, unit if fits else usual)
    reading.bare = []


def _read_word(reading: _Reading, text: str, after: tuple[Token, ...]) -> None:
    channel = word_table.meaning("channels").get(text)
    number = word_table.meaning("numbers of a motion").get(text)
    shape = word_table.meaning("shapes").get(text)
    if channel is not None:
        _read_channel(reading, channel)
    elif number is not None:
        _read_number(reading, number, after)
    elif shape is not None:
        reading.phrase = replace(reading.phrase, shape=cast(Shape, shape))
    elif text in word_table.words("last") | word_table.words("first"):
        reading.phrase = replace(reading.phrase, from_end=text in word_table.words("last"))
    elif text in word_table.words("from") | word_table.words("to") and after:
        _read_end(reading, text, after)
    elif text in word_table.meaning("faster and faster"):
        reading.faster = word_table.meaning("faster and faster")[text]
    elif text in word_table.words("jolts"):
        reading.phrase = replace(reading.phrase, jolts=True)
    elif text in word_table.words("add"):
        reading.phrase = replace(reading.phrase, way="added")
    elif text not in word_table.words("filler") | word_table.words("for"):
        reading.phrase = replace(reading.phrase, unknown=(*reading.phrase.unknown, text))


def _read_channel(reading: _Reading, channel: str) -> None:
    """A channel: of the figure before it where figures come first, else of the next."""
    figure = reading.figure
    fits = (
        figure is not None and (figure.unit == "°") == (channel in TURNS) and (channel != "zoom" or figure.unit == "%")
    )
    if figure is None or not fits or reading.channel_first:
        if reading.channel_first is None:
            reading.channel_first = True
        reading.waiting.append(channel)
        return
    for name in reading.guessed:
        reading.amounts.pop(name, None)
    reading.guessed = ()
    reading.amounts[channel] = replace(figure, channel=channel)


def _read_number(reading: _Reading, name: str, after: tuple[Token, ...]) -> None:
    """A number of the drift by its word: “rough 0.4”, “roughness 40 %”."""
    value = after[0] if after and isinstance(after[0], Quantity) else None
    if value is None or value.unit not in ("", "%", "Hz"):
        reading.phrase = replace(reading.phrase, unknown=(*reading.phrase.unknown, name))
        return
    reading.consumed = 1
    share = value.value / 100 if value.unit == "%" else value.value
    limits = (0.0, 120.0) if name == "step" else (0.0, 1.0)
    if not limits[0] <= share <= limits[1]:
        raise _NoMotionError
    if name == "roughness":
        reading.phrase = replace(reading.phrase, roughness=share)
    elif name == "regularity":
        reading.phrase = replace(reading.phrase, regularity=share)
    else:
        reading.phrase = replace(reading.phrase, step=share)


def _read_end(reading: _Reading, text: str, after: tuple[Token, ...]) -> None:
    """One end of the stretch: “from 2 s”, “to frame 95”, “between 2 and 4 s”."""
    is_start = text in word_table.words("from")
    seconds, used = _end_seconds(reading, after, is_start=is_start)
    if seconds is None:
        if text == "from":
            raise _NoMotionError
        return  # “up to 3 px”: a figure of its own
    reading.consumed = used
    if not is_start:
        reading.phrase = replace(reading.phrase, end=seconds)
        return
    reading.phrase = replace(reading.phrase, start=seconds)
    following = after[used] if len(after) > used else None
    if text == "between" and following == Word("and"):
        _read_end(reading, "to", after[used + 1 :])
        reading.consumed += used + 1


def _end_seconds(reading: _Reading, after: tuple[Token, ...], *, is_start: bool) -> tuple[float | None, int]:
    """The time that follows in seconds, None if none does, and tokens. Without a unit it has that of the other end."""
    quantity, used = _time_after(after)
    if quantity is None:
        return None, 0
    if quantity.unit in ("", FRAMES):
        in_frames = quantity.unit == FRAMES or (not is_start and reading.in_frames)
        quantity = replace(quantity, unit=_unit_of_other_end(after[used:]) or ("f" if in_frames else "s"))
    reading.in_frames = quantity.unit == "f"
    seconds = reading.clock.seconds(quantity)
    return (None if seconds is None or seconds < 0 else seconds), used


def _time_after(after: tuple[Token, ...]) -> tuple[Quantity | None, int]:
    """The time that follows, “frame” before it skipped, and tokens taken."""
    skip = 1 if _says_frame(after) or (isinstance(after[0], Word) and after[0].text == "the") else 0
    if len(after) > skip and isinstance(time := after[skip], Quantity) and time.unit in ("", FRAMES, *TIMES):
        unit = "f" if skip and _says_frame(after) and time.unit == "" else time.unit
        return replace(time, unit=unit), skip + 1
    return None, 0


def _says_frame(after: tuple[Token, ...]) -> bool:
    return bool(after) and isinstance(after[0], Word) and word_table.meaning("units").get(after[0].text) == "f"


def _unit_of_other_end(after: tuple[Token, ...]) -> str:
    """The unit of a stretch's end, where its start was said without: “from 2 to 4 s”."""
    for number, token in enumerate(after[:3]):
        if isinstance(token, Quantity):
            return token.unit if token.unit in ("f", "s", "ms", "min") else ""
        if _says_frame(after[number:]):
            return "f"
    return ""


def _sane(phrase: MotionPhrase) -> bool:
    """Whether the figures can be those of a motion."""
    small = all(
        0 <= amount.value <= (ZOOM_LIMIT if amount.channel == "zoom" else LIMITS[amount.unit])
        for amount in phrase.amounts
    )
    rate_fits = all(rate is None or 0 < rate <= RATE_LIMIT for rate in (phrase.rate, phrase.rate_from))
    ends = phrase.start is None or phrase.end is None or phrase.start < phrase.end
    return small and rate_fits and ends and (phrase.length is None or phrase.length > 0)


def reach_of(amount: Amount, height: float) -> float:
    """An amount in its channel's unit, in a frame of ``height`` pixels."""
    return 100 * amount.value / height if amount.unit == "px" else amount.value


def strand_of(phrase: MotionPhrase, strand_id: str, *, height: float, base: Drift, seconds: float | None) -> Drift:
    """The drift that a phrase speaks of. What it does not say is as in ``base``; ``seconds``: the shot's, in which the
    reach is to hold, None if they are not known."""
    phrase = phrase.within(seconds)
    rate = base.rate if phrase.rate is None else _rates(phrase, phrase.rate, seconds)
    changes = {
        name: getattr(phrase, name) for name in ("roughness", "regularity", "step") if getattr(phrase, name) is not None
    }
    stretch = Stretch(phrase.start, phrase.end) if phrase.start is not None or phrase.end is not None else base.stretch
    return msgspec.structs.replace(
        base,
        id=strand_id,
        name="Drift",
        rate=rate,
        stretch=stretch,
        channels=_channels(phrase, base, height),
        amount=_shaped(phrase, seconds),
        holds=seconds or 0.0,
        **changes,
    )


@lru_cache(maxsize=32)
def with_fitting_seed(drift: Drift, rate: Fraction, seconds: float) -> tuple[Drift, float]:
    """The drift in that course of several whose 95 % quantile, at the frames of a shot of so many seconds or of its own
    stretch of it, comes nearest to its reach in all channels; and by how much it misses, as a share of the reach."""
    start = drift.stretch.start or 0.0
    end = min(seconds, seconds if drift.stretch.end is None else drift.stretch.end)
    frames = np.arange(math.ceil(start * rate), max(math.ceil(end * rate), math.ceil(start * rate) + 1))
    times = frames / float(rate)
    moving = [number for number, name in enumerate(CHANNELS) if drift.channels[name].reach]
    reach = np.array([abs(drift.channels[CHANNELS[number]].reach) for number in moving])
    best, least = drift, math.inf
    for attempt in range(ATTEMPTS if moving else 0):
        course = msgspec.structs.replace(drift, seed=drift.seed + attempt)
        moved = kind_of(course).sample(course, times, Curve(1.0), ())[:, moving]
        missed = float(np.abs(np.quantile(np.abs(moved), 0.95, axis=0) / reach - 1).max())
        if missed < least:
            best, least = course, missed
        if missed <= CLOSE:
            break
    return best, least if moving else 0.0


def _channels(phrase: MotionPhrase, base: Drift, height: float) -> DriftChannels:
    if not phrase.amounts:
        return base.channels
    reaches = {amount.channel: reach_of(amount, height) for amount in phrase.amounts}
    return DriftChannels(**{name: DriftChannel(reach) for name, reach in reaches.items()})


def _rates(phrase: MotionPhrase, rate: float, seconds: float | None) -> Curve:
    """The rate over the stretch, or over the shot."""
    start, end = phrase.start or 0.0, phrase.end if phrase.end is not None else seconds
    if phrase.rate_from is None or end is None or end <= start:
        return Curve(rate)
    return Curve(rate, (Key(start, phrase.rate_from, "linear"), Key(end, rate, "linear")))


def _shaped(phrase: MotionPhrase, seconds: float | None) -> Curve:
    """How much of it there is over its stretch."""
    start, end = phrase.start or 0.0, phrase.end if phrase.end is not None else seconds
    if not phrase.shape or end is None or end <= start:
        return Curve(1.0)
    heights = {"rise": (0.0, 1.0), "fall": (1.0, 0.0), "swell": (0.0, 1.0, 0.0)}[phrase.shape]
    times = [start + (end - start) * number / (len(heights) - 1) for number in range(len(heights))]
    return Curve(keys=tuple(Key(t, height) for t, height in zip(times, heights, strict=True)))


def jolts_of(phrase: MotionPhrase, strand_id: str, *, height: float) -> Jolts:
    """The jolts that a phrase speaks of."""
    reaches = {amount.channel: reach_of(amount, height) for amount in phrase.amounts}
    x, y = reaches.get("x", 0.0), reaches.get("y", 0.0)
    both = x and y and x == y
    direction = 90.0 if both or not x else math.degrees(math.atan2(y, x))
    stretch, settle = Stretch(), Jolts("").settle
    if phrase.end is not None:
        start = phrase.start or 0.0
        stretch, settle = Stretch(start, phrase.end), min(settle, (phrase.end - start) / CALM)
    strand = Jolts(
        strand_id,
        stretch=stretch,
        settle=settle,
        reach=y if both or not x else math.hypot(x, y),
        roll=reaches.get("roll", 0.0),
        zoom=reaches.get("zoom", 0.0),
        direction=direction,
    )
    return strand if phrase.rate is None else msgspec.structs.replace(strand, ring=phrase.rate)


def _amount_words(amounts: tuple[Amount, ...]) -> str:
    """ "x and y 30 px, roll 0.3°"."""
    groups: dict[tuple[float, str], list[str]] = {}
    for amount in amounts:
        groups.setdefault((amount.value, amount.unit), []).append(amount.channel)
    return ", ".join(
        f"{' and '.join(channels)} {_short(value)}{'' if unit == '°' else ' '}{unit}"
        for (value, unit), channels in groups.items()
    )


def _short(value: float) -> str:
    """A figure as a person writes it, exact to six places."""
    text = f"{value:.6f}".rstrip("0").rstrip(".")
    return text or "0"
