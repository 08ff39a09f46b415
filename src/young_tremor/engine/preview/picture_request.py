"""What is asked of the preview, and its answers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from young_tremor.base.frames import SourceInfo
from young_tremor.model.project import Shot
from young_tremor.render.plan import Quality

Mode = Literal["shaken", "still", "split", "side", "overlay", "difference"]


@dataclass(frozen=True)
class PictureRequest:
    """What is to be seen: a shot at a size and mode, the frame, and the range to keep ready.

    ``against``: what it is compared with, the still original if None. ``overscan``: how much more than the delivered
    frame is seen. ``then``: what is made ready once everything ahead is.
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

    @property
    def quality(self) -> Quality:
        """How its frames are rendered."""
        return Quality(self.size, "linear", self.overscan)


@dataclass(frozen=True)
class PreviewPicture:
    """An answer: ``rgb`` (rows, columns, 3) uint8; in split and side mode the ``still`` picture it is compared with.

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


class Interrupted(Exception):
    """Raised where work is given up because something else is asked for."""
