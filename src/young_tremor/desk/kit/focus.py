"""Keys and wheel go to what has the focus: one filter over the whole application, which the window hears for."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import shiboken6
from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSlider,
    QApplication,
    QComboBox,
    QLineEdit,
    QPlainTextEdit,
    QWidget,
)

from young_tremor.desk.kit.sheet import Sheet

PRESS = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter)
ARROWS = (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End)


KEEPS = "keepsFocus"  # property of a field that goes on after Return: one that searches
TABS = (Qt.Key.Key_Tab, Qt.Key.Key_Backtab)


def give_back(widget: QWidget) -> None:
    """Give the keys back to the playhead: the window itself has the focus then."""
    home = widget.window().property("home")
    if isinstance(home, QWidget):
        home.setFocus(Qt.FocusReason.OtherFocusReason)
    else:
        widget.clearFocus()


FOCUS_EVENTS = frozenset(
    {
        QEvent.Type.Polish,
        QEvent.Type.Show,
        QEvent.Type.Hide,
        QEvent.Type.ShortcutOverride,
        QEvent.Type.KeyPress,
        QEvent.Type.MouseButtonPress,
        QEvent.Type.Wheel,
    }
)


class FocusFilter(QObject):
    """Buttons are pressed by Space and Return once they have the focus, and lists take the arrows.

    A list that is closed leaves the wheel to what scrolls unless it has the focus. A click on a button leaves the focus
    where it was. Return and Esc end a field and give the keys back to the playhead. Whatever is hidden gives the focus
    to nobody else. ``released`` is called when a field or a sheet takes the keys from what was clicked before.
    """

    def __init__(self, window: QWidget, released: Callable[[], None]) -> None:
        super().__init__(window)
        self._window, self._released = window, released
        self._by_tab = False
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.focusChanged.connect(self._moved)

    def _moved(self, old: QWidget | None, new: QWidget | None) -> None:
        """Follow the focus: what only has it because another was hidden gives it back."""
        if new is None or not shiboken6.isValid(self._window) or new.window() is not self._window:
            return
        hidden = old is not None and (not shiboken6.isValid(old) or not old.isVisible())
        if hidden and not self._by_tab and new is not self._window.property("home"):
            give_back(new)
        elif _is_field(new):
            self._released()

    def _end_field(self, field: QWidget) -> None:
        if shiboken6.isValid(field) and field.window().focusWidget() is field:
            give_back(field)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        kind = event.type()
        if kind == QEvent.Type.ShortcutOverride:
            return isinstance(event, QKeyEvent) and not event.modifiers() and self._keep_key(watched, event)
        if kind == QEvent.Type.KeyPress:
            return isinstance(event, QKeyEvent) and self._press(watched, event)
        if kind == QEvent.Type.Wheel:
            return isinstance(watched, QComboBox) and not watched.hasFocus() and self._scroll_around(watched, event)
        if kind == QEvent.Type.MouseButtonPress:
            self._by_tab = False
        else:
            self._appeared(watched, kind)
        return False

    def _appeared(self, watched: QObject, kind: QEvent.Type) -> None:
        """What is made, shown or hidden: buttons take no focus from the mouse, sheets take the keys, a list that closes
        gives them back."""
        if kind == QEvent.Type.Polish:
            if isinstance(watched, QAbstractButton) and watched.focusPolicy() == Qt.FocusPolicy.StrongFocus:
                watched.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        elif kind == QEvent.Type.Show:
            if isinstance(watched, Sheet) or getattr(watched, "takes_keys", False):
                self._released()
        elif kind == QEvent.Type.Hide:
            box = watched.parent() if isinstance(watched, QWidget) else None
            if isinstance(box, QComboBox):  # its list was closed
                QTimer.singleShot(0, self, partial(self._end_field, box))

    @staticmethod
    def _keep_key(watched: QObject, event: QKeyEvent) -> bool:
        """Keep a key from being a shortcut, where the widget that has the focus does something by it."""
        if QApplication.activePopupWidget() is not None:
            return False  # an open list has the keys, and knows what to do with them
        if watched is not QApplication.focusWidget() or not _wants(watched, Qt.Key(event.key())):
            return False
        event.accept()
        return True

    def _press(self, watched: QObject, event: QKeyEvent) -> bool:
        """Let Return press a button, and end a field."""
        self._by_tab = event.key() in TABS
        if isinstance(watched, QAbstractButton):
            if event.key() in PRESS[1:] and watched.isEnabled() and not event.modifiers():
                watched.click()
                return True
        elif isinstance(watched, QLineEdit | QPlainTextEdit) and _ends(watched, Qt.Key(event.key())):
            QTimer.singleShot(0, self, partial(self._end_field, watched))
        return False

    @staticmethod
    def _scroll_around(box: QComboBox, event: QEvent) -> bool:
        """Leave the wheel to what a closed list lies on."""
        event.ignore()
        parent = box.parentWidget()
        if parent is not None:
            QApplication.sendEvent(parent, event)
        return True


def _is_field(widget: QWidget) -> bool:
    """Whether keys go into a widget that has the focus."""
    return isinstance(widget, QLineEdit | QPlainTextEdit | QComboBox) or getattr(widget, "is_field", False)


def _ends(field: QWidget, key: Qt.Key) -> bool:
    """Whether a key ends a field: Return in a line, Esc in any that lies on no sheet (there it closes the sheet)."""
    if field.property(KEEPS):
        return False
    if key == Qt.Key.Key_Escape:
        parent = field.parentWidget()
        while parent is not None and not isinstance(parent, Sheet):
            parent = parent.parentWidget()
        return parent is None
    return key in PRESS[1:] and isinstance(field, QLineEdit)


def _wants(widget: QObject, key: Qt.Key) -> bool:
    """Whether a widget that has the focus does something by a key of its own."""
    if getattr(widget, "arrows", False) and key in ARROWS:
        return True
    if isinstance(widget, QAbstractButton) or getattr(widget, "pressable", False):
        return key in PRESS
    if isinstance(widget, QComboBox | QAbstractItemView):
        return key in PRESS or key in ARROWS
    return isinstance(widget, QAbstractSlider) and key in ARROWS
