"""A holder in words: “2 kg, two hands, walks 4 km/h, out of breath”."""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import takewhile

from msgspec.structs import replace

from young_tremor.base.errors import UnreadableValue
from young_tremor.engine.asking.grammar import Clock, Quantity, Token, Word, tokens
from young_tremor.engine.library import word_table
from young_tremor.model.curve import Curve
from young_tremor.model.holder import DOING_OPTIONS, GRIP_OPTIONS, Holder

NOBODY = Holder()  # as they are where nothing is said
SPEEDS = {"walks": 4.5, "runs": 10.0}  # km/h where none is said
LONGEST = 4  # words of a phrase
STATES = ("breath", "nerves", "tired")


@dataclass(frozen=True)
class HolderPhrase:
    """A holder as they were understood, with the words that say nothing here. ``parts``: how many things were said."""

    holder: Holder = NOBODY
    parts: int = 0
    unknown: tuple[str, ...] = ()

    def words(self) -> str:
        """What was understood, in our words; read again, it says the same."""
        holder = self.holder
        grip, doing = dict(GRIP_OPTIONS)[holder.grip].lower(), dict(DOING_OPTIONS)[holder.doing].lower()
        moves = f" {holder.speed.value:g} km/h" if holder.doing in SPEEDS else ""
        out = [f"{holder.weight:g} kg", grip, f"{doing}{moves}"]
        states = {"breath": holder.breath.value, "nerves": holder.nerves.value, "tired": holder.tired}
        out += [f"{name} {value:g}" for name, value in states.items() if value]
        return ", ".join([*out, *(() if holder.flinch else ("no flinch",))])


@dataclass
class _HolderReading:
    changes: dict[str, object] = field(default_factory=dict)
    unknown: list[str] = field(default_factory=list)
    parts: int = 0
    state: str = ""  # breath, nerves or tired, which a number may follow
    negated: bool = False


def understand(sentence: tuple[Token, ...]) -> HolderPhrase | None:
    """The holder that a sentence speaks of; None if it says nothing of one, or figures that none has."""
    try:
        return _understood(sentence)
    except UnreadableValue:
        return None


def _understood(sentence: tuple[Token, ...]) -> HolderPhrase | None:
    """The same; UnreadableValue for a figure beyond what a holder can be."""
    reading = _HolderReading()
    position = 0
    while position < len(sentence):
        token, length = sentence[position], 1
        if isinstance(token, Quantity):
            if not _read_figure(reading, token):
                return None
        elif isinstance(token, Word):
            length = _read_words(reading, sentence[position:])
        position += length
    if not reading.parts:
        return None
    doing = reading.changes.get("doing")
    if doing in SPEEDS and "speed" not in reading.changes:
        reading.changes["speed"] = Curve(SPEEDS[doing])
    return HolderPhrase(replace(NOBODY, **reading.changes), reading.parts, tuple(reading.unknown))


def _read_figure(reading: _HolderReading, quantity: Quantity) -> bool:
    """Take a weight, a speed, or how much of a state; whether it is one."""
    value = abs(quantity.value)
    if quantity.unit in ("kg", "g"):
        reading.changes["weight"] = value / (1000 if quantity.unit == "g" else 1)
    elif quantity.unit == "km/h":
        reading.changes["speed"] = Curve(value)
        reading.changes.setdefault("doing", "walks" if value < 7 else "runs")
    elif reading.state and quantity.unit in ("", "%"):
        share = value / 100 if quantity.unit == "%" else value
        reading.changes[reading.state] = share if reading.state == "tired" else Curve(share)
        reading.state = ""
        return True
    else:
        return False
    reading.parts += 1
    return True


def _read_words(reading: _HolderReading, rest: tuple[Token, ...]) -> int:
    """Take the longest phrase that says something, or one word; how many words that were."""
    words = [token.text for token in takewhile(_is_word, rest) if isinstance(token, Word)]
    for count in range(min(len(words), LONGEST), 0, -1):
        phrase = " ".join(words[:count])
        if phrase in word_table.meaning("holder"):
            _read_word(reading, phrase)
            return count
    _read_word(reading, words[0])
    return 1


def _is_word(token: Token) -> bool:
    return isinstance(token, Word)


def _read_word(reading: _HolderReading, text: str) -> None:
    meanings = word_table.meaning("holder")
    kind, _, value = meanings.get(text, "").partition(":")
    if kind in STATES:
        reading.changes[kind] = float(value) if kind == "tired" else Curve(float(value))
        reading.state = kind
    elif kind == "no":
        reading.negated = True
        return
    elif kind == "flinch":
        reading.changes["flinch"] = not reading.negated
    elif kind in ("grip", "doing"):
        reading.changes[kind] = value
    elif kind == "filler":
        return
    elif kind == "holder":
        pass
    else:
        if text not in word_table.words("filler"):
            reading.unknown.append(text)
        return
    reading.parts += 1


def read(text: str) -> Holder:
    """The holder that a text says; UnreadableValue for one that says none, or more than is understood."""
    phrase = _understood(tokens(text, Clock()))
    if phrase is None or phrase.unknown:
        which = f"“{phrase.unknown[0][:40]}” in " if phrase is not None else ""
        raise UnreadableValue(
            f"{which}“{text[:60]}” is not understood: write a holder like “2 kg, two hands, walks 4 km/h, nervous”."
        )
    return phrase.holder
