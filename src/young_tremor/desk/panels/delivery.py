"""The size and rate that a shot is delivered in."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QHBoxLayout

from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.words import tr
from young_tremor.engine.session import Session
from young_tremor.model import edits
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

    def _set_size(self, number: int) -> None:
        text = self.size.itemData(number)
        width, _, height = text.partition("x")
        size = Size(int(width), int(height)) if text else None
        self._session.apply(tr("Delivered size"), edits.set_shot(self._shot.id, size=size))

    def _set_rate(self, number: int) -> None:
        self._session.apply(
            tr("Delivered rate"), edits.set_shot(self._shot.id, rate=self.rate.itemData(number) or None)
        )

    def show(self, shot: Shot) -> None:
        """Show what a shot has."""
        self._shot = shot
        size = f"{shot.size.width}x{shot.size.height}" if shot.size else ""
        for box, value in ((self.size, size), (self.rate, shot.rate or "")):
            at = box.findData(value)
            if at < 0:
                box.addItem(value.replace("x", " × ") if box is self.size else tr("{0} fps", value), value)
                at = box.count() - 1
            box.setCurrentIndex(at)
