"""Axes that are left out: “no roll”, “only sideways”, “without zoom”."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace

from young_tremor.engine.asking.entries import ChangeShot, Entry
from young_tremor.engine.asking.question import Question
from young_tremor.engine.library import word_table
from young_tremor.model.fields import with_value
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS, Drift, Jolts, Strand, Taken

CERTAIN = 2.9
TURNS = {"x": "pan", "y": "tilt"}  # turns of the camera that move the picture the same way
JOLTED = ("roll", "zoom")  # what of a jolt can be left out by itself


def axes(question: Question) -> list[Entry]:
    """All strands without the axes that a sentence turns off, or that it leaves where it wants *only* others."""
    if question.figures:
        return []
    meaning = word_table.meaning("channels")
    named = {meaning[word] for word in question.words if word in meaning}
    # “sideways” is said of the picture, “x” of one axis
    named |= {TURNS[meaning[word]] for word in question.words if meaning.get(word) in TURNS and word not in TURNS}
    only, off = question.says("only"), question.says("off")
    grammar = (*word_table.words("only"), *word_table.words("off"), *word_table.words("turn"), *meaning)
    if not named or only == off or not set(question.content) <= set(grammar):
        return []
    left_out = tuple(channel for channel in CHANNELS if (channel in named) is off)
    change = ChangeShot("Leave axes out", partial(_without, left_out))
    return [Entry("set", "Leave axes out", ", ".join(left_out), change, CERTAIN)]


def _without(channels: tuple[str, ...], shot: Shot) -> Shot:
    strands = tuple(_still_along(strand, channels) for strand in shot.shake.strands)
    return replace(shot, shake=replace(shot.shake, strands=strands))


def _still_along(strand: Strand, channels: tuple[str, ...]) -> Strand:
    """A strand that does not move along some channels; plotted motion and shimmer stay as they were drawn."""
    paths: list[str] = []
    if isinstance(strand, Drift):
        paths = [f"channels.{channel}.reach" for channel in channels]
    elif isinstance(strand, Taken):
        paths = [f"gains.{channel}" for channel in channels]
    elif isinstance(strand, Jolts):
        paths = [channel for channel in channels if channel in JOLTED]
    for path in paths:
        strand = with_value(strand, path, 0.0)
    return strand
