"""Axes that are left out, or count more or less: “no roll”, “only sideways”, “less zoom”."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace

from young_tremor.engine.asking.entries import ChangeShot, Entry
from young_tremor.engine.asking.question import Question
from young_tremor.engine.library import word_table
from young_tremor.model.fields import Number, field_at, value_at, with_value
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS, Drift, Jolts, Strand, Taken

CERTAIN = 2.9
TURNS = {"x": "pan", "y": "tilt"}  # turns of the camera that move the picture the same way
JOLTED = ("roll", "zoom")  # what of a jolt can be left out by itself


def axes(question: Question) -> list[Entry]:
    """All strands without the axes that a sentence turns off, or that it leaves where it wants *only* others; with more
    or less of those that it says so of."""
    meaning, factors = word_table.meaning("channels"), word_table.table()["factors"]
    named = {meaning[word] for word in question.words if word in meaning}
    # “sideways” is said of the picture, “x” of one axis
    named |= {TURNS[meaning[word]] for word in question.words if meaning.get(word) in TURNS and word not in TURNS}
    only, off = question.says("only"), question.says("off")
    much = next((factors[word] for word in question.words if word in factors), None)
    grammar = (*word_table.words("only"), *word_table.words("off"), *word_table.words("turn"), *factors, *meaning)
    ways = (only, off, much is not None)
    if question.figures or not named or ways.count(True) != 1 or not set(question.content) <= set(grammar):
        return []
    channels = tuple(channel for channel in CHANNELS if (channel in named) is not only)
    if much is not None:
        change = ChangeShot("Scale axes", partial(_scaled, channels, much))
        return [Entry("set", "Scale axes", f"{', '.join(channels)} × {much:g}", change, CERTAIN)]
    change = ChangeShot("Leave axes out", partial(_scaled, channels, 0.0))
    return [Entry("set", "Leave axes out", ", ".join(channels), change, CERTAIN)]


def _scaled(channels: tuple[str, ...], factor: float, shot: Shot) -> Shot:
    strands = tuple(_scaled_along(strand, channels, factor) for strand in shot.shake.strands)
    return replace(shot, shake=replace(shot.shake, strands=strands))


def _scaled_along(strand: Strand, channels: tuple[str, ...], factor: float) -> Strand:
    """A strand that goes so much further along some channels; plotted motion and shimmer stay as they were drawn."""
    paths: list[str] = []
    if isinstance(strand, Drift):
        paths = [f"channels.{channel}.reach" for channel in channels]
    elif isinstance(strand, Taken):
        paths = [f"gains.{channel}" for channel in channels]
    elif isinstance(strand, Jolts):
        paths = [channel for channel in channels if channel in JOLTED]
    for path in paths:
        strand = with_value(strand, path, _within(type(strand), path, factor * value_at(strand, path)))
    return strand


def _within(kind: type, path: str, value: float) -> float:
    """A number within the bounds of its field."""
    note = field_at(kind, path)
    assert isinstance(note, Number)
    return min(max(value, note.bounds[0]), note.bounds[1])
