"""Keys and mouse at random in the real window: nothing may be raised, hang, or be lost."""

from __future__ import annotations

import random

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QWidget

from young_tremor.desk.window.window import Window

LEFT, RIGHT = Qt.MouseButton.LeftButton, Qt.MouseButton.RightButton
NONE, SHIFT, CTRL, ALT = (getattr(Qt.KeyboardModifier, f"{name}Modifier") for name in ("No", "Shift", "Control", "Alt"))
KEYS = [
    *(getattr(Qt.Key, f"Key_{letter}") for letter in "ABCDEFGHIKLMNOPRSTVXYZ0123456789"),
    *(getattr(Qt.Key, f"Key_{name}") for name in (
        "Space", "Return", "Escape", "Tab", "Left", "Right", "Up", "Down", "Home", "End", "Delete", "Backspace",
        "PageUp", "PageDown", "F10", "F11", "Question", "Minus",
    )),
]  # fmt: skip


def storm(window: Window, seed: int, count: int) -> None:
    """``count`` events on whatever is there. Files are not asked for and nothing is left: the caller sees to that."""
    chance = random.Random(seed)
    app = QApplication.instance()
    assert app is not None
    for _ in range(count):
        target = QApplication.activePopupWidget() or chance.choice([QApplication.focusWidget() or window, window])
        if chance.random() < 0.6 and target is window:
            target = _under(window, QPoint(chance.randrange(window.width()), chance.randrange(window.height())))
        at = QPoint(chance.randrange(max(target.width(), 1)), chance.randrange(max(target.height(), 1)))
        modifiers = chance.choice([NONE, NONE, NONE, SHIFT, CTRL, ALT])
        what = chance.random()
        if what < 0.45:
            QTest.keyClick(target, chance.choice(KEYS), modifiers)
        elif what < 0.6:
            QTest.mouseClick(target, chance.choice([LEFT, LEFT, RIGHT]), modifiers, at)
        elif what < 0.7:
            QTest.mouseDClick(target, LEFT, modifiers, at)
        elif what < 0.85:
            QTest.mousePress(target, LEFT, modifiers, at)
            for _ in range(3):
                QTest.mouseMove(target, at + QPoint(chance.randrange(-60, 60), chance.randrange(-30, 30)))
            if chance.random() < 0.2:
                QTest.keyClick(target, Qt.Key.Key_Escape)
            QTest.mouseRelease(target, LEFT, modifiers, at + QPoint(chance.randrange(-60, 60), 5))
        else:
            turn = QPoint(0, chance.choice([-120, 120]))
            event = QWheelEvent(QPointF(at), QPointF(target.mapToGlobal(at)), QPoint(), turn, Qt.MouseButton.NoButton,
                                modifiers, Qt.ScrollPhase.NoScrollPhase, False)  # fmt: skip
            QApplication.sendEvent(target, event)
        app.processEvents()
    while (popup := QApplication.activePopupWidget()) is not None:
        popup.close() if isinstance(popup, QMenu) else popup.hide()
        app.processEvents()


def _under(window: Window, at: QPoint) -> QWidget:
    return window.childAt(at) or window
