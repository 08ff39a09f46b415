"""Pictures that are made here, as large as they are shown: titles, fills, drawings."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from fractions import Fraction

import numpy as np

from young_tremor.base.frames import Frame, SourceInfo
from young_tremor.base.pixels import planar_format
from young_tremor.media import svg_drawing, title_drawing
from young_tremor.model.project import Media

RATE = Fraction(24)
FRAMES = 120  # that one is shown unless said otherwise
KEEP = 3  # sizes that a reader keeps
RGB = planar_format("rgb", 8)
WORDS = {"title": "title", "fill": "fill"}


class DrawnReader:
    """A :class:`~young_tremor.base.frames.DrawnSource`. ``draw(scale)`` makes the picture; one thread at a time."""

    def __init__(self, info: SourceInfo, draw: Callable[[float], Frame]) -> None:
        self._info, self._draw = info, draw
        self._recent: OrderedDict[float, Frame] = OrderedDict()

    @property
    def info(self) -> SourceInfo:
        return self._info

    def draw(self, scale: float) -> Frame:
        """The picture with so many pixels to one of its nominal size."""
        frame = self._recent.pop(scale, None) or self._draw(scale)
        self._recent[scale] = frame
        while len(self._recent) > KEEP:
            self._recent.popitem(last=False)
        return frame

    def read(self, index: int) -> Frame:
        """The picture at its nominal size, whichever frame is asked for."""
        return self.draw(1.0)

    def close(self) -> None:
        self._recent.clear()


def info_of(media: Media, size: tuple[int, int]) -> SourceInfo:
    """What is known of a title or a fill in a frame of ``size`` (square pixels). TremorError for a font file that
    cannot be used."""
    if media.kind == "title" and media.title is not None:
        notes = title_drawing.typeset(media.title, size).notes
        first = (media.title.text.splitlines() or [""])[0]
        return SourceInfo(
            first[:80] or "title",
            size,
            Fraction(1),
            RATE,
            FRAMES,
            svg_drawing.RGBA,
            svg_drawing.TAGS,
            "title",
            notes=notes,
            alpha="straight",
            still=True,
            drawn=True,
        )
    return SourceInfo(
        f"fill {media.colour}", size, Fraction(1), RATE, FRAMES, RGB, svg_drawing.TAGS, "fill", still=True, drawn=True
    )


def open_drawn(media: Media, size: tuple[int, int]) -> DrawnReader:
    """A reader of a title or a fill in a frame of ``size``."""
    info, title = info_of(media, size), media.title
    if title is not None:
        return DrawnReader(info, lambda scale: title_drawing.draw_title(title, size, scale))
    return DrawnReader(info, lambda scale: fill_frame(media.colour or "#000000", size, scale))


def fill_frame(colour: str, size: tuple[int, int], scale: float) -> Frame:
    """A frame of one colour, written like #f2c14e."""
    shape = (max(round(size[1] * scale), 1), max(round(size[0] * scale), 1))
    red, green, blue = (np.full(shape, int(colour[k : k + 2], 16), np.uint8) for k in (1, 3, 5))
    return Frame((green, blue, red), RGB, svg_drawing.TAGS)
