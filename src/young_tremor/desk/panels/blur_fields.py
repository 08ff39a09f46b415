"""Smear, knock out of focus and afterimages: their controls, in the panels of the frame and of the jolts."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace
from PySide6.QtWidgets import QCheckBox

from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.controls import Controls
from young_tremor.engine.document.session import Session
from young_tremor.model import shot_edits
from young_tremor.model.project import NO_SHOT, Afterimages, Knock, Shot, Smear


class BlurFields:
    """Puts the controls into a column and keeps them on a shot's frame settings."""

    def __init__(self, session: Session, column: Column) -> None:
        self._shot = NO_SHOT
        self._controls = {
            name: Controls(kind, session, column, lambda name=name, **changes: self._edit(name, **changes), step=step)
            for name, kind, step in (
                ("smear", Smear, "Smear"),
                ("knock", Knock, "Knock"),
                ("afterimages", Afterimages, "Afterimages"),
            )
        }
        smear, knock, afterimages = self._controls.values()
        column.heading("Smear at hits")
        smear.number("frames")
        smear.number("length")
        self._angle = smear.number("angle")
        self._as_jolts = QCheckBox(tr("As the jolts"))
        self._as_jolts.clicked.connect(lambda on: smear.apply("Smear", angle=None if on else 90.0))
        column.rows.addWidget(self._as_jolts)
        smear.number("fall")
        column.heading("Out of focus at hits")
        knock.number("frames")
        knock.number("softness")
        column.heading("Afterimages")
        self.copies = afterimages.number("count")
        afterimages.number("lag")
        afterimages.number("opacity")
        self.smear, self.knock, self.afterimages = smear.numbers, knock.numbers, afterimages.numbers

    def _edit(self, part: str, **changes: Any) -> shot_edits.Edit:
        return shot_edits.set_frame(self._shot.id, **{part: replace(getattr(self._shot.frame, part), **changes)})

    def show(self, shot: Shot, now: float) -> None:
        """Show what a shot has at ``now`` seconds."""
        self._shot = shot
        for name, controls in self._controls.items():
            controls.show(getattr(shot.frame, name), now)
        self._as_jolts.setChecked(shot.frame.smear.angle is None)
        self._angle.setEnabled(shot.frame.smear.angle is not None)
