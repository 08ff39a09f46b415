"""What is asked of the preview, and its answers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from young_tremor.base.frames import Frame, SourceInfo
from young_tremor.model.project import Shot
from young_tremor.render.pixel_values import value_lines
from young_tremor.render.plan import Quality

Mode = Literal["shaken", "still", "split", "side", "overlay", "difference"]


@dataclass(frozen=True)
class PictureRequest:
    """What is to be seen: a shot at a size and mode, the frame, and the range to keep ready.

    ``against``: what it is compared with, the still original if None. ``overscan``: how much more than the delivered
    frame is seen. ``then``: what is made ready once everything ahead is. ``stops``: of light more or less, for looking;
    ``values``: the frame itself comes with the picture.
    """

    shot: Shot
    size: tuple[int, int]
    mode: Mode
    index: int
    first: int = 0
    last: int | None = None
    fill: bool = True
    against: Shot | None = None
    overscan: float = 1.0
    then: PictureRequest | None = None
    stops: float = 0.0
    values: bool = False

    @property
    def quality(self) -> Quality:
        """How its frames are rendered."""
        return Quality(self.size, "linear", self.overscan)

    @property
    def look(self) -> tuple[Shot, tuple[int, int], Shot | None, float]:
        """What all its frames have in common."""
        return self.shot, self.size, self.against, self.overscan


PictureKey = tuple[int, int, Mode, float, bool]


def picture_key(plan: int, request: PictureRequest, index: int) -> PictureKey:
    """What a picture is kept under; ``plan``: the number of its shot's plan."""
    return index, plan, request.mode, request.stops, request.values


@dataclass(frozen=True)
class PreviewPicture:
    """An answer: ``rgb`` (rows, columns, 3) uint8; in split and side mode the ``still`` picture it is compared with;
    the ``frame`` that is shown, in its own values, if it was asked for and is not two laid over each other.

    ``exact``: False while another frame of the footage stands in for the one that is read. ``draft``: it was made with
    less effort, to keep up with playing.
    """

    request: PictureRequest
    index: int
    rgb: np.ndarray
    still: np.ndarray | None
    info: SourceInfo
    exact: bool = True
    draft: bool = False
    frame: Frame | None = None

    def values_at(self, across: float, down: float) -> list[str]:
        """The values of a pixel in lines, at a place as shares of the picture; none where the frame did not come."""
        return [] if self.frame is None else value_lines(self.frame, across, down)


class RenderedPicture(NamedTuple):
    """What is kept of a :class:`PreviewPicture`."""

    rgb: np.ndarray
    still: np.ndarray | None
    frame: Frame | None
    draft: bool = False

    @property
    def nbytes(self) -> int:
        """Bytes of all its parts."""
        return sum(part.nbytes for part in (self.rgb, self.still, self.frame) if part is not None)


class Interrupted(Exception):
    """Raised where work is given up because something else is asked for."""
