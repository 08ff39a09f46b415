"""A small painted control that a click, Space or Return presses."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QWidget

PRESSES = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter)


class Pressable(QWidget):
    """Has the focus by Tab; what :meth:`press` does is its subclass's."""

    pressable = True

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def press(self) -> None:
        """What a click or a key does."""
        raise NotImplementedError

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.press()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in PRESSES:
            self.press()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.update()
