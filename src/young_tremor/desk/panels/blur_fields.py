"""Smear and afterimages: their rules, in the frame's panel and in that of the jolts."""

from __future__ import annotations

from functools import partial

import numpy as np
from msgspec.structs import replace
from PySide6.QtWidgets import QCheckBox

from young_tremor.desk.chart.curve_subjects import COPIES
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.document.session import Session
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import NO_SHOT, Shot


class BlurFields:
    """Puts the rules into a column and keeps them on a shot's frame settings."""

    def __init__(self, session: Session, column: Column) -> None:
        self._session = session
        self._shot = NO_SHOT
        self._now = 0.0
        self.smear: dict[str, NumberField] = {
            "frames": NumberField(
                "Lasts",
                NumberScale(0, 12, "frames", 0, least=0, most=100),
                value=0,
                reset=0,
                tip="So many frames from each hit on are smeared; 0 is none",
            ),
            "length": NumberField(
                "Length",
                NumberScale(0, 20, "%", 1, bend=2, least=0, most=100),
                value=2,
                reset=2,
                tip="Percent of the frame's height, at a hit of strength 1",
            ),
            "angle": NumberField("Angle", NumberScale(-180, 180, "°", 0), value=90, reset=90, tip="0 right, 90 down"),
            "fall": NumberField(
                "Fall-off", NumberScale(0, 1, "", 2), value=1, reset=1, tip="0 stays, 1 dies away evenly"
            ),
        }
        self.afterimages: dict[str, NumberField] = {
            "count": NumberField(
                "Copies",
                COPIES,
                value=0,
                reset=0,
                tip="Fading copies of the picture where the motion was a moment ago; 0 is none",
            ),
            "lag": NumberField(
                "Lag",
                NumberScale(0.01, 0.5, "s", 2, bend=2, least=0.001, most=10),
                value=0.05,
                reset=0.05,
                tip="Seconds from one copy to the next",
            ),
            "opacity": NumberField(
                "Opacity", NumberScale(0, 1, "", 2), value=0.5, reset=0.5, tip="Of each against the one before"
            ),
        }
        self.copies = self.afterimages["count"]
        self.along = QCheckBox(tr("The way the jolts go"))
        self.along.clicked.connect(lambda on: session.apply(tr("Smear"), self._smear("angle", None if on else 90.0)))
        column.heading("Smear at hits")
        for field, rule in self.smear.items():
            bind(rule, session, "Smear", partial(self._smear, field))
            column.rows.addWidget(rule)
            if field == "angle":
                column.rows.addWidget(self.along)
        self.knock: dict[str, NumberField] = {
            "frames": NumberField(
                "Knock for",
                NumberScale(0, 24, "frames", 0, least=0, most=100),
                value=0,
                reset=0,
                tip="So many frames from each hit on are out of focus; 0 is none",
            ),
            "softness": NumberField(
                "Softness",
                NumberScale(0, 3, "%", 2, bend=2, least=0, most=20),
                value=0.3,
                reset=0.3,
                tip="Percent of the frame's height, at a hit of strength 1",
            ),
        }
        column.heading("Out of focus at hits")
        for field, rule in self.knock.items():
            bind(rule, session, "Knock", partial(self._knock, field))
            column.rows.addWidget(rule)
        column.heading("Afterimages")
        for field, rule in self.afterimages.items():
            bind(rule, session, "Afterimages", partial(self._afterimage, field))
            column.rows.addWidget(rule)

    def _smear(self, field: str, value: float | None) -> shot_edits.Edit:
        number = round(value) if field == "frames" and value is not None else value
        return shot_edits.set_frame(self._shot.id, smear=replace(self._shot.frame.smear, **{field: number}))

    def _knock(self, field: str, value: float) -> shot_edits.Edit:
        number = round(value) if field == "frames" else value
        return shot_edits.set_frame(self._shot.id, knock=replace(self._shot.frame.knock, **{field: number}))

    def _afterimage(self, field: str, value: float) -> shot_edits.Edit:
        mine = self._shot.frame.afterimages
        changed: object = with_value_at(mine.count, self._now, value) if field == "count" else value
        return shot_edits.set_frame(self._shot.id, afterimages=replace(mine, **{field: changed}))

    def show(self, shot: Shot, now: float) -> None:
        """Show what a shot has at ``now`` seconds."""
        self._shot, self._now = shot, now
        smear, afterimages = shot.frame.smear, shot.frame.afterimages
        self.along.setChecked(smear.angle is None)
        self.smear["angle"].setEnabled(smear.angle is not None)
        for field, rule in self.smear.items():
            value = getattr(smear, field)
            rule.set_value(90.0 if value is None else float(value))
        for field, rule in self.knock.items():
            rule.set_value(float(getattr(shot.frame.knock, field)))
        for field, rule in self.afterimages.items():
            value = getattr(afterimages, field)
            rule.set_value(float(value.at(np.array([now]))[0]) if isinstance(value, Curve) else float(value))
