"""A sentence over the head of the picture: what happened and what to do. A click puts it away."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QLabel, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr


def say_over(widget: QWidget, words: str) -> None:
    """Say a sentence over the window that a widget is in."""
    notice = widget.window().property("notice")
    if isinstance(notice, Notice):
        notice.say(words)


class Notice(QLabel):
    """Stays long enough to be read."""

    def __init__(self, parent: QWidget, head: int = 0) -> None:
        super().__init__(parent)
        self._over, self._head = parent, head
        self.setWordWrap(True)
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setStyleSheet(
            f"background: {theme.DEEP}; border: 1px solid {theme.LAMP}; border-radius: 4px; padding: 8px 14px;"
        )
        self.setAccessibleName(tr("Message"))
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self.hide)
        parent.installEventFilter(self)
        self.hide()

    def say(self, words: str) -> None:
        """Show a sentence for as long as it takes to read it."""
        if not words:
            return
        self.setText(words)
        self._timer.start(4000 + 60 * len(words))
        self._place()
        self.show()
        self.raise_()

    def _place(self) -> None:
        parent = self._over
        width = min(560, parent.width() - 40)
        self.setFixedWidth(width)
        self.adjustSize()
        self.move((parent.width() - width) // 2, self._head + 18)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Resize and self.isVisible():
            self._place()
        return False

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.hide()
