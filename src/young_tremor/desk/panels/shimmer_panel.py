"""A shimmer strand's full controls."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QCheckBox

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.chart.row_heads import SPEED
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.desk.panels.strand_panel import INKS, StrandPanel
from young_tremor.model.project import Shot
from young_tremor.model.shake import Shimmer


class ShimmerPanel(StrandPanel):
    """A shimmer strand's full controls."""

    title = "Shimmer"
    _strand: Shimmer | None

    def _fill(self) -> None:
        self.speed = self._rule("Speed", SPEED, 2.5, "How many times a second it has changed", lambda v: {"speed": v})
        self.heading("Reach")
        percent = NumberScale(0, 3, "%", 2, bend=2, least=0, most=50)
        self.reach_x = self._rule(
            "X reach", percent, 0.15, "The farthest that anything goes", lambda v: {"x": v}, INKS["x"]
        )
        self.reach_y = self._rule(
            "Y reach", percent, 0.3, "The farthest that anything goes", lambda v: {"y": v}, INKS["y"]
        )
        self.reach_x.set_note(partial(self._pixels, "x"))
        self.reach_y.set_note(partial(self._pixels, "y"))
        self.heading("Swells")
        self.swell = self._rule(
            "Size",
            NumberScale(1, 60, "%", 1, bend=2, least=0.2, most=400),
            9,
            "Percent of the frame's height",
            lambda v: {"size": v},
        )
        self.octaves = self._rule(
            "Octaves",
            NumberScale(1, 5, "", 0, least=1, most=6),
            2,
            "Finer and quicker swells on top, each half as strong",
            lambda v: {"octaves": round(v)},
        )
        self.matte = QCheckBox(tr("On the outline alone"))
        self.matte.setToolTip(tr("It acts on alpha and leaves the colours: for titles and graphics"))
        self.matte.clicked.connect(lambda on: self._session.apply(tr("On the outline alone"), self._edit(matte=on)))
        self.rows.addWidget(self.matte)

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Shimmer, now: float) -> None:
        self._show_common(shot, info, strand, now)
        self.matte.setChecked(strand.matte)
        for rule, value in (
            (self.speed, strand.speed),
            (self.reach_x, strand.x),
            (self.reach_y, strand.y),
            (self.swell, strand.size),
            (self.octaves, float(strand.octaves)),
        ):
            rule.set_value(value)
            rule.update()
