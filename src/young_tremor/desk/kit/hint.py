"""One line of advice at a time, which goes away for good when it is put away."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr


class HintBar(QWidget):
    """Shows a hint by its name and words, or nothing."""

    dismissed = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.name = ""
        self.words = QLabel("")
        self.words.setWordWrap(True)
        self.words.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        self.words.setAccessibleName(tr("Hint"))
        close = QPushButton(tr("Got it"))
        close.setProperty("quiet", True)
        close.setToolTip(tr("Do not show this hint again"))
        close.clicked.connect(lambda: self.dismissed.emit(self.name))
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 8, 10, 8)
        row.addWidget(self.words, 1)
        row.addWidget(close, 0, Qt.AlignmentFlag.AlignBottom)
        self.hide()

    def show_hint(self, name: str, words: str) -> None:
        """Show a hint; an empty name shows none."""
        if name != self.name:
            self.name = name
            self.words.setText(tr(words))
            self.setVisible(bool(name))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(theme.RECESS))
        painter.fillRect(QRectF(0, 0, self.width(), 1), QColor(theme.LINE))
        painter.fillRect(QRectF(0, 0, 3, self.height()), QColor(theme.LAMP))
