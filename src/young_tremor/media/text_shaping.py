"""Lines of text as outlines: shaped by HarfBuzz run by run, right-to-left runs in their places (Unicode annex 9)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby
from typing import TYPE_CHECKING

from bidi import algorithm

from young_tremor.base.lazy_import import lazily
from young_tremor.media.fonts import Face, open_face, standing_in

if TYPE_CHECKING:
    import uharfbuzz as hb
else:
    hb = lazily("uharfbuzz")

CAPITALS = 0.7  # of the em, where a face does not say how high its capitals are


@dataclass(frozen=True)
class Letter:
    """A cluster of a line, with its marks: ``outline`` as SVG path data in ems, y down, from the line's left end on the
    baseline; ``box`` (left, top, right, bottom) of it. ``word``: which of the line's words it is in."""

    outline: str
    box: tuple[float, float, float, float]
    word: int


@dataclass(frozen=True)
class ShapedLine:
    """A shaped line: its letters from left to right, and how long it is in ems. ``lacking``: letters that no face has.
    ``rightward``: whether it is read from left to right."""

    letters: tuple[Letter, ...]
    length: float
    lacking: str
    rightward: bool


def shape_line(text: str, face: Face, tracking: float, *, joined: bool) -> ShapedLine:
    """A line of text in a face; letters that it lacks are taken from others.

    ``tracking``: ems put between letters. ``joined``: letters may be joined to one sign (fi).
    """
    letters: list[Letter] = []
    lacking, at = "", 0.0
    words = _word_numbers(text)
    for first, run, level, which in _visual(list(_runs(text, face))):
        font, em = open_face(which)
        buffer = hb.Buffer()
        buffer.add_str(run)
        buffer.guess_segment_properties()
        buffer.direction = "rtl" if level % 2 else "ltr"
        hb.shape(font, buffer, {} if joined and not tracking else {"liga": False, "clig": False, "dlig": False})
        glyphs = list(zip(buffer.glyph_infos, buffer.glyph_positions, strict=True))
        for cluster, group in groupby(glyphs, key=lambda glyph: glyph[0].cluster):
            drawn = _GlyphPen(em)
            for info, position in group:
                if info.codepoint == 0 and run[cluster].isprintable() and not run[cluster].isspace():
                    lacking += run[cluster]
                drawn.move(at + position.x_offset / em, -position.y_offset / em)
                font.draw_glyph(info.codepoint, _funcs(), drawn)
                at += position.x_advance / em
            if drawn.parts:
                letters.append(Letter("".join(drawn.parts), drawn.box, words[first + cluster]))
            at += tracking
    length = at - tracking if letters else 0.0
    return ShapedLine(
        tuple(letters), length, "".join(dict.fromkeys(lacking)), algorithm.get_base_level(text or " ") == 0
    )


def capitals(face: Face) -> float:
    """How high the capitals of a face are, in ems."""
    font, em = open_face(face)
    found = font.get_metric_position(hb.OTMetricsTag.CAP_HEIGHT)
    return float(found) / em if found else CAPITALS


def _word_numbers(text: str) -> list[int]:
    """For each character of a line, the number of the word that it is in."""
    out, number, between = [], 0, True
    for item in text:
        if item.isspace():
            number += 0 if between else 1
            between = True
        else:
            between = False
        out.append(number)
    return out


def _runs(text: str, face: Face) -> Iterator[tuple[int, str, int, Face]]:
    """Stretches of a line of one direction and one face: where each begins, its text, its level, its face."""
    levels = _levels(text)
    marks = [standing_in(ord(item), face) for item in text]
    for k, item in enumerate(text):  # what joins on to a letter stays with it
        if k and (item.isspace() or ord(item) in (0x200C, 0x200D) or _combining(item)):
            marks[k] = marks[k - 1]
    start = 0
    for k in range(1, len(text) + 1):
        if k == len(text) or (levels[k], marks[k]) != (levels[start], marks[start]):
            yield start, text[start:k], levels[start], marks[start]
            start = k


def _combining(letter: str) -> bool:
    return algorithm.bidirectional(letter) == "NSM"


def _levels(text: str) -> list[int]:
    """The embedding level of each character: odd ones are read from right to left."""
    if all(ord(item) < 0x590 for item in text):
        return [0] * len(text)
    storage = algorithm.get_empty_storage()
    base = algorithm.get_base_level(text)
    storage["base_level"] = base
    storage["base_dir"] = ("L", "R")[base]
    algorithm.get_embedding_levels(text, storage)
    chars = storage["chars"]
    for number, item in enumerate(chars):
        item["at"] = number
    algorithm.explicit_embed_and_overrides(storage)
    algorithm.resolve_weak_types(storage)
    algorithm.resolve_neutral_types(storage, False)
    algorithm.resolve_implicit_levels(storage, False)
    out = [base] * len(text)
    for item in storage["chars"]:
        out[item["at"]] = item["level"]
    return out


def _visual(runs: list[tuple[int, str, int, Face]]) -> list[tuple[int, str, int, Face]]:
    """Runs from left to right (rule L2: from the highest level down, what is at least as high is turned round)."""
    out = list(runs)
    for level in range(max((run[2] for run in out), default=0), 0, -1):
        start = 0
        while start < len(out):
            if out[start][2] < level:
                start += 1
                continue
            end = start
            while end < len(out) and out[end][2] >= level:
                end += 1
            out[start:end] = out[start:end][::-1]
            start = end
    return out


class _GlyphPen:
    """Outlines of glyphs as they are drawn, in ems with y down."""

    def __init__(self, em: int) -> None:
        self.em, self.parts = em, list[str]()
        self._x, self._y = 0.0, 0.0
        self.box = (float("inf"), float("inf"), float("-inf"), float("-inf"))

    def move(self, x: float, y: float) -> None:
        """The next glyph's origin."""
        self._x, self._y = x, y

    def add(self, command: str, *places: float) -> None:
        """One step of an outline; places in font units."""
        points = []
        for x, y in zip(places[::2], places[1::2], strict=True):
            px, py = self._x + x / self.em, self._y - y / self.em
            left, top, right, bottom = self.box
            self.box = (min(left, px), min(top, py), max(right, px), max(bottom, py))
            points.append(f"{px:.6f} {py:.6f}")
        self.parts.append(command + " ".join(points))


def _funcs() -> hb.DrawFuncs:
    global _made
    if _made is None:
        funcs = hb.DrawFuncs()
        funcs.set_move_to_func(lambda x, y, drawn: drawn.add("M", x, y))
        funcs.set_line_to_func(lambda x, y, drawn: drawn.add("L", x, y))
        funcs.set_quadratic_to_func(lambda a, b, x, y, drawn: drawn.add("Q", a, b, x, y))
        funcs.set_cubic_to_func(lambda a, b, c, d, x, y, drawn: drawn.add("C", a, b, c, d, x, y))
        funcs.set_close_path_func(lambda drawn: drawn.add("Z"))
        _made = funcs
    return _made


_made: hb.DrawFuncs | None = None
