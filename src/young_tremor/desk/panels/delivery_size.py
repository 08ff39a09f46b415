"""The size and rate that a shot, and the reel, are delivered in, and how the footage fits into that."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.engine.document.session import Session
from young_tremor.model import reel_edits, shot_edits
from young_tremor.model.project import FIT_OPTIONS, NO_SHOT, Shot, Size

SIZES = ("", "1280x720", "1920x1080", "3840x2160", "1080x1080", "1080x1920", "2048x1080")
RATES = ("", "24000/1001", "24", "25", "30000/1001", "30", "50", "60000/1001", "60")
RATE_WORDS = {"24000/1001": "23.976", "30000/1001": "29.97", "60000/1001": "59.94"}


class DeliverySizeFields:
    """Puts its controls into a column and keeps them on a shot, and on the reel."""

    def __init__(self, session: Session, column: Column) -> None:
        self._session = session
        self._shot = NO_SHOT
        column.heading("Delivered as")
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(2, 1)
        self.size, self.rate = self._pair(grid, 0, "Shot", "Delivered", ("Footage size", "Footage rate"))
        self.fit = QComboBox()
        self.fit.setAccessibleName(tr("How the footage fits"))
        self.fit.setToolTip(tr("Where the footage has another shape than what is delivered"))
        for name, words in FIT_OPTIONS:
            self.fit.addItem(tr(words), name)
        self.fit.activated.connect(
            lambda at: session.apply(tr("Fit"), shot_edits.set_frame(self._shot.id, fit=self.fit.itemData(at)))
        )
        grid.addWidget(_label("Fit"), 1, 0)
        grid.addWidget(self.fit, 1, 1, 1, 2)
        self.reel_size, self.reel_rate = self._pair(
            grid, 2, "Reel", "Reel's", ("First shot's size", "First shot's rate")
        )
        self.size.setToolTip(tr("Pixels of the delivery; a larger source is reserve for the crop"))
        self.rate.setToolTip(tr("Frames a second of the delivery; the sound stays in time"))
        self.reel_size.setToolTip(tr("What the whole reel is delivered in; shots of another size are fitted"))
        self.reel_rate.setToolTip(tr("What the whole reel is delivered in; the sound stays in time"))
        self.size.activated.connect(lambda at: self._apply("Delivered size", size=_size(self.size.itemData(at))))
        self.rate.activated.connect(lambda at: self._apply("Delivered rate", rate=self.rate.itemData(at) or None))
        self.reel_size.activated.connect(
            lambda at: session.apply(tr("Reel's size"), reel_edits.set_project(size=_size(self.reel_size.itemData(at))))
        )
        self.reel_rate.activated.connect(
            lambda at: session.apply(
                tr("Reel's rate"), reel_edits.set_project(rate=self.reel_rate.itemData(at) or None)
            )
        )
        column.rows.addLayout(grid)

    def _pair(self, grid: QGridLayout, row: int, words: str, name: str, own: tuple[str, str]) -> list[QComboBox]:
        grid.addWidget(_label(words), row, 0)
        made = []
        for column, (kind, values) in enumerate((("size", SIZES), ("rate", RATES))):
            box = QComboBox()
            box.setAccessibleName(tr(f"{name} {kind}"))
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.setMinimumContentsLength(7)
            for value in values:
                box.addItem(_size_text(value) if value else tr(own[column]), value)
            grid.addWidget(box, row, 1 + column)
            made.append(box)
        return made

    def _apply(self, words: str, **changes: object) -> None:
        self._session.apply(tr(words), shot_edits.set_shot(self._shot.id, **changes))

    def show(self, shot: Shot) -> None:
        """Show what a shot has, and the reel."""
        self._shot, project = shot, self._session.project
        self.fit.setCurrentIndex(self.fit.findData(shot.frame.fit))
        for box, value in (
            (self.size, _text(shot.size)),
            (self.rate, shot.rate or ""),
            (self.reel_size, _text(project.size)),
            (self.reel_rate, project.rate or ""),
        ):
            at = box.findData(value)
            if at < 0:
                box.addItem(_size_text(value), value)
                at = box.count() - 1
            box.setCurrentIndex(at)


def _label(words: str) -> QLabel:
    label = QLabel(tr(words))
    label.setStyleSheet(f"color: {theme.DIM}; font-size: 14px;")
    return label


def _size_text(value: str) -> str:
    return value.replace("x", " × ") if "x" in value else tr("{0} fps", RATE_WORDS.get(value, value))


def _text(size: Size | None) -> str:
    return f"{size.width}x{size.height}" if size else ""


def _size(text: str) -> Size | None:
    width, _, height = text.partition("x")
    return Size(int(width), int(height)) if text else None
