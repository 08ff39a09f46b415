"""Titles as pictures: each part that can go its own way is drawn by itself, as sharp as it is asked for."""

from __future__ import annotations

import math
import os
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from functools import lru_cache
from pathlib import Path
from typing import Any, NamedTuple, TypeVar

import cv2
import numpy as np

from young_tremor.base import sandbox
from young_tremor.base.errors import MissingFile
from young_tremor.base.frames import Frame, TitlePart
from young_tremor.media import fonts, svg_drawing
from young_tremor.media.text_shaping import Letter, ShapedLine, capitals, shape_line
from young_tremor.model.title import FACE, Title

Box = tuple[float, float, float, float]
Result = TypeVar("Result")


@dataclass(frozen=True)
class TitlePiece:
    """What goes one way: outlines as SVG path data in pixels of the nominal frame, y down, and their box."""

    outline: str
    box: Box
    at: tuple[float, float]
    em: float


@dataclass(frozen=True)
class TypesetTitle:
    """A title that was set: pieces bottom to top, and what a person should know of it."""

    groups: tuple[tuple[TitlePiece, ...], ...]
    notes: tuple[str, ...]


@lru_cache(maxsize=64)
def typeset(title: Title, size: tuple[int, int]) -> TypesetTitle:
    """Set a title in a frame of ``size``: groups of letters that go together. MissingFile or RequestError for a font
    file that cannot be used; a face that is not installed here is replaced by ours, and said."""
    return _call_isolated(_typeset, title, size)


def _call_isolated(function: Callable[..., Result], title: Title, *arguments: Any) -> Result:
    """Call a function of a title, in a process of its own where the title is set in a font file that somebody named."""
    if not fonts.is_foreign(title.face):
        return function(title, *arguments)
    path = Path(os.path.abspath(title.face))
    if not path.exists():
        raise MissingFile(f"{title.face} is not there: choose another font.")
    return sandbox.run(function, title, *arguments, name=path.name, what="a font", path=path, limits=fonts.LIMITS)


def _typeset(title: Title, size: tuple[int, int]) -> TypesetTitle:
    notes = []
    face = fonts.find(title.face)
    if face is None:
        face = fonts.find(FACE)
        notes.append(f"the face “{title.face}” is not installed here: {FACE} stands in for it")
    assert face is not None
    em, lacking = title.size / 100 * size[1], ""
    groups: list[tuple[TitlePiece, ...]] = []
    rows = title.text.splitlines() or [""]
    lines = [shape_line(row, face, title.tracking / 1000, joined=title.apart != "letter") for row in rows]
    down = 0.5 * (size[1] - 1) + em * (0.5 * capitals(face) - 0.5 * (len(lines) - 1) * title.leading / 100)
    widest = max(line.length for line in lines)
    for number, line in enumerate(lines):
        lacking += line.lacking
        room = {"left": -widest, "centre": -line.length, "right": widest - 2 * line.length}[title.align]
        at = (0.5 * (size[0] - 1) + 0.5 * em * room, down + number * em * title.leading / 100)
        groups += _groups_of_line(line, at, em, title.apart)
    if title.apart == "whole":
        groups = [tuple(piece for group in groups for piece in group)]
    if lacking:
        notes.append(f"no face here has the letters {''.join(dict.fromkeys(lacking))[:20]}")
    return TypesetTitle(tuple(group for group in groups if group), tuple(notes))


def _groups_of_line(line: ShapedLine, at: tuple[float, float], em: float, apart: str) -> list[tuple[TitlePiece, ...]]:
    """The pieces of a line that begins at ``at``, those together that go one way within it."""
    pieces = [_piece(letter, at, em) for letter in line.letters]
    if apart == "letter":
        return [(piece,) for piece in pieces]
    if apart != "word":
        return [tuple(pieces)]
    words: dict[int, list[TitlePiece]] = {}
    for piece, letter in zip(pieces, line.letters, strict=True):
        words.setdefault(letter.word, []).append(piece)
    return [tuple(group) for group in words.values()]


def _piece(letter: Letter, at: tuple[float, float], em: float) -> TitlePiece:
    left, top, right, bottom = letter.box
    box = (at[0] + em * left, at[1] + em * top, at[0] + em * right, at[1] + em * bottom)
    return TitlePiece(letter.outline, box, at, em)


def draw_title(title: Title, size: tuple[int, int], scale: float) -> Frame:
    """A title in a frame of ``size`` with so many pixels to one of that: a frame of pieces, shadows below faces."""
    return _call_isolated(_drawn_pieces, title, size, scale)


def _drawn_pieces(title: Title, size: tuple[int, int], scale: float) -> Frame:
    raster = (max(round(size[0] * scale), 1), max(round(size[1] * scale), 1))
    scales = (raster[0] / size[0], raster[1] / size[1])
    canvas = _TitleCanvas(title, title.size / 100 * size[1], scales, raster)
    shadows, letters = [], []
    for number, group in enumerate(typeset(title, size).groups):
        box = _around(piece.box for piece in group)
        centre = (0.5 * (box[0] + box[2] + 1) / size[0], 0.5 * (box[1] + box[3] + 1) / size[1])
        part = TitlePart(number, centre)
        if title.shadow > 0:
            frame = _shadow(canvas, group, box)
            shadows += [] if frame is None else [replace(frame, part=part)]
        frame = _draw_group(canvas, group, box)
        letters += [] if frame is None else [replace(frame, part=part)]
    nothing = Frame(tuple(np.zeros((1, 1), np.uint8) for _ in range(4)), svg_drawing.RGBA, svg_drawing.TAGS)
    return replace(nothing, of=raster, pieces=(*shadows, *letters))


def bounds(title: Title, size: tuple[int, int]) -> Box:
    """What the text of a title takes of a frame of ``size``, its outline included: left, top, right and bottom in
    pixels; a little box in the middle where there is none."""
    boxes = [piece.box for group in typeset(title, size).groups for piece in group]
    em = title.size / 100 * size[1]
    if not boxes:
        x, y = size[0] / 2, size[1] / 2
        return x - em / 2, y - em / 2, x + em / 2, y + em / 2
    left, top, right, bottom = _around(boxes)
    room = title.outline / 100 * em + 0.12 * em
    return left - room, top - room, right + room, bottom + room


def _around(boxes: Iterable[Box]) -> Box:
    left, top, right, bottom = zip(*boxes, strict=True)
    return min(left), min(top), max(right), max(bottom)


def _inside(box: Box, room: float, scale: tuple[float, float], raster: tuple[int, int]) -> tuple[int, int, int, int]:
    """A box with room about it as whole pixels of the raster: left, top, width, height. What lies far outside of the
    frame is left out."""
    spans = []
    for k in range(2):
        low = math.floor((box[k] - room + 0.5) * scale[k]) - 1
        high = math.ceil((box[k + 2] + room + 0.5) * scale[k]) + 1
        low, high = max(low, -raster[k]), min(high, 2 * raster[k])
        spans.append((low, max(high - low, 0)))
    return spans[0][0], spans[1][0], spans[0][1], spans[1][1]


class _TitleCanvas(NamedTuple):
    """What the pieces of a title are drawn on: its looks, its em in pixels of the frame, and the raster."""

    title: Title
    em: float
    scale: tuple[float, float]
    raster: tuple[int, int]


def _draw_group(
    canvas: _TitleCanvas, group: tuple[TitlePiece, ...], box: Box, *, shadow: bool = False, room: float = 0.0
) -> Frame | None:
    """Pieces drawn together, with ``room`` about their box; None where nothing of them is near the frame."""
    title, em, scale, raster = canvas
    line = 2 * title.outline / 100  # in ems; half of it lies under the face
    left, top, width, height = _inside(box, 0.5 * line * em + 1 + room, scale, raster)
    if not width or not height:
        return None
    fill, stroke = ("#000000", "#000000") if shadow else (title.colour, title.outline_colour)
    edge = f' stroke="{stroke}" stroke-width="{line:.6f}" stroke-linejoin="round" paint-order="stroke"' if line else ""
    paths = "".join(
        f'<path transform="translate({p.at[0] + 0.5:.4f} {p.at[1] + 0.5:.4f}) scale({p.em:.6f})" d="{p.outline}"/>'
        for p in group
    )
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" viewBox="0 0 {width} {height}">'
        f'<g transform="translate({-left} {-top}) scale({scale[0]:.8f} {scale[1]:.8f})" fill="{fill}"{edge}>{paths}'
        "</g></svg>"
    )
    return replace(svg_drawing.picture(svg, width, height), origin=(left, top), of=raster)


def _shadow(canvas: _TitleCanvas, group: tuple[TitlePiece, ...], box: Box) -> Frame | None:
    """What a group throws: its shape, out of focus, further right and down."""
    title, em, scale, _ = canvas
    far, sigma = title.shadow_far / 100 * em, 0.5 * title.shadow_soft / 100 * em
    moved = tuple(replace(p, at=(p.at[0] + far, p.at[1] + far)) for p in group)
    there = (box[0] + far, box[1] + far, box[2] + far, box[3] + far)
    frame = _draw_group(canvas, moved, there, shadow=True, room=3 * sigma)
    if frame is None:
        return None
    alpha: np.ndarray = frame.planes[3].astype(np.float32) * np.float32(title.shadow)
    if sigma * scale[1] > 0.2:
        alpha = cv2.GaussianBlur(
            alpha, (0, 0), sigma * scale[0], sigmaY=sigma * scale[1], borderType=cv2.BORDER_CONSTANT
        )
    black = np.zeros(alpha.shape, np.uint8)
    return replace(frame, planes=(black, black, black, np.rint(alpha).astype(np.uint8)))
