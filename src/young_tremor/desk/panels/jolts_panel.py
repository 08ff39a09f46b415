"""A jolts strand's full controls."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QCheckBox

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.chart.row_heads import SETTLE
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.desk.panels.blur_fields import BlurFields
from young_tremor.desk.panels.strand_panel import INKS, SHARE, StrandPanel
from young_tremor.model.project import Shot
from young_tremor.model.shake import Jolts


class JoltsPanel(StrandPanel):
    """A jolts strand's full controls."""

    title = "Jolts"
    _strand: Jolts | None

    def _fill(self) -> None:
        self.settle = self._rule("Settle", SETTLE, 0.35, "How long until a third is left", lambda v: {"settle": v})
        self.heading("Reach of a hit of strength 1")
        percent = NumberScale(0, 10, "%", 2, bend=2, least=0, most=100)
        self.reach = self._rule(
            "Shift", percent, 1, "Largest swing, percent of the frame's height", lambda v: {"reach": v}, INKS["y"]
        )
        self.reach.set_note(partial(self._pixels, "y"))
        self.roll = self._rule(
            "Roll",
            NumberScale(0, 4, "°", 2, bend=2, least=0, most=90),
            0,
            "Largest turn",
            lambda v: {"roll": v},
            INKS["roll"],
        )
        self.zoom = self._rule("Zoom", percent, 0, "Largest zoom", lambda v: {"zoom": v}, INKS["zoom"])
        self.direction = self._rule(
            "Direction", NumberScale(-180, 180, "°", 0), 90, "0 right, 90 down", lambda v: {"direction": v}
        )
        self.seeded = QCheckBox(tr("Another direction for each hit"))
        self.seeded.clicked.connect(
            lambda on: self._session.apply(tr("Direction"), self._edit(direction=None if on else 90.0))
        )
        self.rows.addWidget(self.seeded)
        self.heading("Ring")
        self.ring = self._rule(
            "Ring",
            NumberScale(1, 30, "Hz", 1, bend=2, least=0.2, most=120),
            9,
            "Swings per second",
            lambda v: {"ring": v},
        )
        self.rise = self._rule(
            "Rise",
            NumberScale(0.001, 0.3, "s", 3, bend=3, least=0.0005, most=5),
            0.012,
            "How fast it comes",
            lambda v: {"rise": v},
        )
        self.rattle = self._rule("Rattle", SHARE, 0.15, "From a clean ring to noise", lambda v: {"rattle": v})
        self.tail = self._rule("Tail", SHARE, 0.1, "Share that takes four times as long", lambda v: {"tail": v})
        self.push = self._rule(
            "Phase",
            NumberScale(-180, 180, "°", 0, least=-360, most=360),
            0,
            "0 from rest, 90 with a push",
            lambda v: {"phase": v},
        )
        self.heading("How late")
        self.delay = self._rule(
            "Delay", NumberScale(0, 2, "s", 2, bend=2, least=0, most=60), 0, "After the hit", lambda v: {"delay": v}
        )
        self.distance = self._rule(
            "Distance",
            NumberScale(0, 500, "m", 0, bend=2, least=0, most=20000),
            0,
            "As sound comes, 343 m a second",
            lambda v: {"distance": v},
        )
        self.distance.set_note(lambda v: f"{v / 343:.2f} s" if v else "")
        self.blurs = BlurFields(self._session, self)

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Jolts, now: float) -> None:
        self._show_common(shot, info, strand, now)
        self.blurs.show(shot, now)
        self.seeded.setChecked(strand.direction is None)
        self.direction.setEnabled(strand.direction is not None)
        for rule, value in (
            (self.settle, strand.settle),
            (self.reach, strand.reach),
            (self.roll, strand.roll),
            (self.zoom, strand.zoom),
            (self.direction, 90.0 if strand.direction is None else (strand.direction + 180) % 360 - 180),
            (self.ring, strand.ring),
            (self.rise, strand.rise),
            (self.rattle, strand.rattle),
            (self.tail, strand.tail),
            (self.push, strand.phase),
            (self.delay, strand.delay),
            (self.distance, strand.distance),
        ):
            rule.set_value(value)
