"""Keys and wheel go to what has the focus: one filter over the whole application."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractButton, QAbstractItemView, QAbstractSlider, QApplication, QComboBox

PRESS = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter)
ARROWS = (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End)


class Focus(QObject):
    """Buttons are pressed by Space and Return once they have the focus, and lists take the arrows.

    A list that is closed leaves the wheel to what scrolls unless it has the focus. A click on a button leaves the focus
    where it was.
    """

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        kind = event.type()
        if kind == QEvent.Type.Polish and isinstance(watched, QAbstractButton):
            if watched.focusPolicy() == Qt.FocusPolicy.StrongFocus:
                watched.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        elif kind == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and not event.modifiers():
            if watched is QApplication.focusWidget() and _wants(watched, Qt.Key(event.key())):
                event.accept()
                return True
        elif kind == QEvent.Type.KeyPress and isinstance(event, QKeyEvent) and isinstance(watched, QAbstractButton):
            if event.key() in PRESS[1:] and watched.isEnabled() and not event.modifiers():
                watched.click()
                return True
        elif kind == QEvent.Type.Wheel and isinstance(watched, QComboBox) and not watched.hasFocus():
            event.ignore()
            parent = watched.parentWidget()
            if parent is not None:
                QApplication.sendEvent(parent, event)
            return True
        return False


def _wants(widget: QObject, key: Qt.Key) -> bool:
    """Whether a widget that has the focus does something by a key of its own."""
    if getattr(widget, "arrows", False) and key in ARROWS:
        return True
    if isinstance(widget, QAbstractButton) or getattr(widget, "pressable", False):
        return key in PRESS
    if isinstance(widget, QComboBox | QAbstractItemView):
        return key in PRESS or key in ARROWS
    return isinstance(widget, QAbstractSlider) and key in ARROWS
