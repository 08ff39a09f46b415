"""The size and rate that a shot is delivered in, and where its plate sits under the shake."""

from __future__ import annotations

from functools import partial

import numpy as np
from msgspec.structs import replace
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.rule import Rule
from young_tremor.desk.kit.scale import Scale
from young_tremor.desk.kit.words import tr
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.session import Session
from young_tremor.model import edits, keys
from young_tremor.model.curve import Curve
from young_tremor.model.keys import tuned
from young_tremor.model.project import NO_SHOT, Shot, Size

SIZES = ("", "1280x720", "1920x1080", "3840x2160", "1080x1080", "1080x1920", "2048x1080")
RATES = ("", "24000/1001", "24", "25", "30000/1001", "30", "50", "60000/1001", "60")
RATE_WORDS = {"24000/1001": "23.976", "30000/1001": "29.97", "60000/1001": "59.94"}


class Delivery:
    """Puts its controls into a column and keeps them on a shot."""

    def __init__(self, session: Session, column: Column) -> None:
        self._session = session
        self._shot = NO_SHOT
        self.size, self.rate = QComboBox(), QComboBox()
        column.heading("Delivered as")
        row = QHBoxLayout()
        for box, name, values in ((self.size, "Delivered size", SIZES), (self.rate, "Delivered rate", RATES)):
            box.setAccessibleName(tr(name))
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.setMinimumContentsLength(8)
            for value in values:
                words = value.replace("x", " × ") if box is self.size else tr("{0} fps", RATE_WORDS.get(value, value))
                box.addItem(words if value else tr("Footage size") if box is self.size else tr("Footage rate"), value)
            row.addWidget(box, 1)
        self.size.setToolTip(tr("Pixels of the delivery; a larger source is reserve for the crop"))
        self.rate.setToolTip(tr("Frames a second of the delivery; the sound stays in time"))
        self.size.activated.connect(self._set_size)
        self.rate.activated.connect(self._set_rate)
        column.rows.addLayout(row)
        label = QLabel(tr("Placement under the shake"))
        label.setStyleSheet(f"color: {theme.DIM};")
        column.rows.addWidget(label)
        percent = Scale(-50, 50, "%", 1, least=-1000, most=1000)
        self.place: dict[str, tuple[Rule, float]] = {
            "x": (Rule("Across", percent, value=0, reset=0, tip="Percent of frame height to the right"), 100),
            "y": (Rule("Down", percent, value=0, reset=0, tip="Percent of frame height downwards"), 100),
            "size": (Rule("Size", Scale(50, 200, "%", 1, least=1, most=2000), value=100, reset=100,
                          tip="A push in is two keys on it: shape it at the playhead"), 100),
            "angle": (Rule("Turn", Scale(-45, 45, "°", 1, least=-360, most=360), value=0, reset=0,
                           tip="Clockwise"), 1),
        }  # fmt: skip
        for field, (rule, per) in self.place.items():
            bind(rule, session, "Placement", partial(self._placed, field, per))
            rule.menu = lambda menu, field=field, per=per: menu.addAction(
                tr("Set a key at the playhead"), partial(self._key, field)
            )
            column.rows.addWidget(rule)
        self.now = 0.0

    def _set_size(self, number: int) -> None:
        text = self.size.itemData(number)
        width, _, height = text.partition("x")
        size = Size(int(width), int(height)) if text else None
        self._session.apply(tr("Delivered size"), edits.set_shot(self._shot.id, size=size))

    def _set_rate(self, number: int) -> None:
        self._session.apply(
            tr("Delivered rate"), edits.set_shot(self._shot.id, rate=self.rate.itemData(number) or None)
        )

    def _edit(self, field: str, curve: Curve) -> edits.Edit:
        plate = self._shot.footage
        placed = replace(plate, placement=replace(plate.placement, **{field: curve}))
        return edits.set_shot(self._shot.id, plates=(placed, *self._shot.plates[1:]))

    def _placed(self, field: str, per: float, value: float) -> edits.Edit:
        curve: Curve = getattr(self._shot.footage.placement, field)
        return self._edit(field, tuned(curve, self.now, value / per))

    def _key(self, field: str) -> None:
        """The first key holds what is there; from then on a changed number is another key."""
        curve: Curve = getattr(self._shot.footage.placement, field)
        self._session.apply(tr("Placement key"), self._edit(field, keys.with_key(curve, self.now)))

    def show(self, shot: Shot, now: float) -> None:
        """Show what a shot has at ``now`` seconds."""
        self._shot, self.now = shot, now
        size = f"{shot.size.width}x{shot.size.height}" if shot.size else ""
        for box, value in ((self.size, size), (self.rate, shot.rate or "")):
            at = box.findData(value)
            if at < 0:
                box.addItem(value.replace("x", " × ") if box is self.size else tr("{0} fps", value), value)
                at = box.count() - 1
            box.setCurrentIndex(at)
        for field, (rule, per) in self.place.items():
            curve: Curve = getattr(shot.footage.placement, field)
            rule.set_value(round(per * float(curve.at(np.array([self.now]))[0]), 3))
