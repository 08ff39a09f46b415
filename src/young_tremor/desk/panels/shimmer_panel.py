"""A shimmer strand's full controls."""

from __future__ import annotations

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.panels.strand_panel import INKS, StrandPanel
from young_tremor.engine.document.session import Session
from young_tremor.model.project import Shot
from young_tremor.model.shake import Shimmer, Strand


class ShimmerPanel(StrandPanel):
    """A shimmer strand's full controls."""

    def __init__(self, session: Session) -> None:
        super().__init__(Shimmer, "Shimmer", session)

    def _fill(self) -> None:
        number = self.controls.number
        number("speed")
        self.heading("Reach")
        number("x", ink=INKS["x"])
        number("y", ink=INKS["y"])
        self._note_pixels("x", "y")
        self.heading("Swells")
        number("size")
        number("octaves")

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Strand, now: float) -> None:
        super().show_strand(shot, info, strand, now)
        for path in ("x", "y"):
            self.controls.numbers[path].update()  # what they come to in pixels may differ
