"""A jolts strand's full controls."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.blur_fields import BlurFields
from young_tremor.desk.panels.strand_panel import INKS, StrandPanel
from young_tremor.engine.document.session import Session
from young_tremor.model.project import Shot
from young_tremor.model.shake import Jolts


class JoltsPanel(StrandPanel):
    """A jolts strand's full controls."""

    def __init__(self, session: Session) -> None:
        super().__init__(Jolts, "Jolts", session)

    def _fill(self) -> None:
        number = self.controls.number
        self.settle = number("settle")
        self._add_holder()
        self.heading("Reach of a hit of strength 1")
        self.reach = number("reach", ink=INKS["y"])
        self._note_pixels("reach")
        number("roll", ink=INKS["roll"])
        number("zoom", ink=INKS["zoom"])
        self.direction = number("direction")
        self.seeded = QCheckBox(tr("Another direction for each hit"))
        self.seeded.clicked.connect(lambda on: self.controls.apply("Direction", direction=None if on else 90.0))
        self.rows.addWidget(self.seeded)
        number("differ")
        self.heading("Ring")
        for path in ("ring", "rise", "rattle", "tail", "phase"):
            number(path)
        self.heading("How late")
        number("delay")
        number("distance").set_note(lambda value: f"{value / 343:.2f} s" if value else "")
        self.blurs = BlurFields(self._session, self)

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Jolts, now: float) -> None:  # type: ignore[override]
        super().show_strand(shot, info, strand, now)
        self.blurs.show(shot, now)
        self.seeded.setChecked(strand.direction is None)
        self.direction.setEnabled(strand.direction is not None)
        if strand.direction is not None:
            self.direction.set_value((strand.direction + 180) % 360 - 180)
