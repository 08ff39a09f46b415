"""A gyroscope's log that is read: what was recognised of it, to be changed before it becomes a take."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from young_tremor.base.errors import TremorError
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.take_panel import paint_path
from young_tremor.engine.delivery import interchange
from young_tremor.engine.library import gyro_logs, takes
from young_tremor.model.take import Take

_HELD = {"upright": "Upright", "left": "On its left side", "right": "On its right side", "upside-down": "Upside down"}
_TIMES = {"s": "Seconds", "ms": "Milliseconds", "us": "Microseconds", "ns": "Nanoseconds"}
_TURNS = {"rad": "Radians a second", "deg": "Degrees a second"}


class _GyroPath(QWidget):
    def __init__(self) -> None:
        super().__init__()
        self.take: Take | None = None
        self.setAccessibleName(tr("Path of the frame's centre"))

    def sizeHint(self) -> QSize:
        return QSize(220, 180)

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.take is not None:
            paint_path(QPainter(self), QRectF(self.rect()), takes.paths(self.take, 0.0)[0])


class GyroImportView(QDialog):
    """Shows what a log was read as; every change is seen at once. ``keep`` gets the take."""

    def __init__(self, parent: QWidget, path: Path, keep: Callable[[Take], None]) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Gyroscope log"))
        self._path, self._keep = path, keep
        self._text = gyro_logs.log_text(path)
        self.view = _GyroPath()
        self.held = self._box("How the telephone was held", _HELD)
        self.time = self._box("Unit of time", _TIMES)
        self.turning = self._box("Unit of turning", _TURNS)
        self.drift = QCheckBox(tr("Take off bias and slow drift"))
        self.drift.setChecked(True)
        self.drift.toggled.connect(self._read)
        self.words = QLabel("")
        self.words.setWordWrap(True)
        self.words.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        self.ok, close = QPushButton(tr("Make a take")), QPushButton(tr("Close"))
        self.ok.setDefault(True)
        self.ok.clicked.connect(self._done)
        close.clicked.connect(self.reject)
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        for row, (words, box) in enumerate((("Held", self.held), ("Time", self.time), ("Turning", self.turning))):
            label = QLabel(tr(words))
            label.setStyleSheet(f"color: {theme.DIM};")
            grid.addWidget(label, row, 0)
            grid.addWidget(box, row, 1)
        right = QVBoxLayout()
        right.addWidget(section("Gyroscope log"))
        right.addLayout(grid)
        right.addWidget(self.drift)
        right.addWidget(self.words)
        right.addStretch(1)
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        buttons.addWidget(close)
        buttons.addWidget(self.ok)
        right.addLayout(buttons)
        both = QHBoxLayout(self)
        both.setContentsMargins(18, 16, 18, 16)
        both.setSpacing(18)
        both.addWidget(self.view)
        both.addLayout(right, 1)
        self.resize(600, 260)
        self.take: Take | None = None
        found = self._read(first=True)
        if found is not None:
            self.time.setCurrentIndex(self.time.findData(found.time_unit))
            self.turning.setCurrentIndex(self.turning.findData(found.rate_unit.partition("/")[0]))

    def _box(self, name: str, choices: dict[str, str]) -> QComboBox:
        box = QComboBox()
        box.setAccessibleName(tr(name))
        for key, words in choices.items():
            box.addItem(tr(words), key)
        box.activated.connect(lambda _: self._read())
        return box

    def _read(self, _: object = None, *, first: bool = False):  # type: ignore[no-untyped-def]
        """Read it as the fields say; the first time as it says itself. The first reading's error is the caller's."""
        try:
            self.take, log = interchange.take_of(
                self._text,
                self._path.name,
                held=self.held.currentData(),
                whole=not self.drift.isChecked(),
                time_unit=None if first else self.time.currentData(),
                rate_unit=None if first else self.turning.currentData(),
            )
        except TremorError as error:
            if first:
                raise
            self.take = None
            self.words.setText(str(error))
            self.ok.setEnabled(False)
            return None
        self.words.setText(log.words())
        self.view.take = self.take
        self.view.update()
        self.ok.setEnabled(True)
        return log

    def _done(self) -> None:
        if self.take is not None:
            self._keep(self.take)
            self.accept()
