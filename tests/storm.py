"""Keys and mouse at random in the real window, with sheets, changes of focus and deletions: nothing may be raised,
hang, or be lost, and nothing may go without a word."""

from __future__ import annotations

import random

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QWidget

from young_tremor.desk.window.window import MainWindow
from young_tremor.engine.document.removals import describe_removals

LEFT, RIGHT = Qt.MouseButton.LeftButton, Qt.MouseButton.RightButton
NONE, SHIFT, CTRL, ALT = (getattr(Qt.KeyboardModifier, f"{name}Modifier") for name in ("No", "Shift", "Control", "Alt"))
KEYS = [
    *(getattr(Qt.Key, f"Key_{letter}") for letter in "ABCDEFGHIKLMNOPRSTVXYZ0123456789"),
    *(
        getattr(Qt.Key, f"Key_{name}")
        for name in (
            "Space",
            "Return",
            "Escape",
            "Tab",
            "Left",
            "Right",
            "Up",
            "Down",
            "Home",
            "End",
            "Delete",
            "Backspace",
            "PageUp",
            "PageDown",
            "F10",
            "F11",
            "Question",
            "Minus",
        )
    ),
]


SHEETS = [
    (Qt.Key.Key_P, NONE),
    (Qt.Key.Key_T, NONE),
    (Qt.Key.Key_R, CTRL),
    (Qt.Key.Key_K, CTRL),
    (Qt.Key.Key_Comma, CTRL),
    (Qt.Key.Key_Question, NONE),
    (Qt.Key.Key_R, NONE),
    (Qt.Key.Key_Tab, NONE),
    (Qt.Key.Key_Escape, NONE),
]
TAKEN = (Qt.Key.Key_Delete, Qt.Key.Key_Backspace)


class Watch:
    """Sees that whatever goes is said, and that one undo brings it back."""

    def __init__(self, window: MainWindow) -> None:
        self._window, self.removals = window, 0
        self._project, self._steps = window.desk.session.project, window.desk.session.steps[1]

    def look(self) -> None:
        """After every event."""
        session, said = self._window.desk.session, self._window.desk.notice.text()
        if session.in_gesture:
            return
        before, after = self._project, session.project
        if session.steps[1] > self._steps and (words := describe_removals(before, after)):
            self.removals += 1
            told = ("Removed", "made room", "Redone: ")  # a step that is done again is named
            assert any(each in said for each in told), f"{words} went without a word: {said}"
            if session.steps[1] == self._steps + 1:
                session.undo()
                assert session.project == before, f"{words} did not come back with one undo"
                session.redo()
        self._project, self._steps = session.project, session.steps[1]


def storm(window: MainWindow, seed: int, count: int) -> None:
    """``count`` events on whatever is there. Files are not asked for and nothing is left: the caller sees to that."""
    chance = random.Random(seed)
    app = QApplication.instance()
    assert app is not None
    watch = Watch(window)
    for _ in range(count):
        target = QApplication.activePopupWidget() or chance.choice([QApplication.focusWidget() or window, window])
        if chance.random() < 0.6 and target is window:
            target = _under(window, QPoint(chance.randrange(window.width()), chance.randrange(window.height())))
        at = QPoint(chance.randrange(max(target.width(), 1)), chance.randrange(max(target.height(), 1)))
        modifiers = chance.choice([NONE, NONE, NONE, SHIFT, CTRL, ALT])
        what = chance.random()
        if what < 0.08:
            key, held = chance.choice(SHEETS)
            QTest.keyClick(QApplication.focusWidget() or window, key, held)
        elif what < 0.14:
            QTest.keyClick(QApplication.focusWidget() or window, chance.choice(TAKEN))
        elif what < 0.45:
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
            event = QWheelEvent(
                QPointF(at),
                QPointF(target.mapToGlobal(at)),
                QPoint(),
                turn,
                Qt.MouseButton.NoButton,
                modifiers,
                Qt.ScrollPhase.NoScrollPhase,
                False,
            )
            QApplication.sendEvent(target, event)
        app.processEvents()
        watch.look()
    while (popup := QApplication.activePopupWidget()) is not None:
        popup.close() if isinstance(popup, QMenu) else popup.hide()
        app.processEvents()


def _under(window: MainWindow, at: QPoint) -> QWidget:
    return window.childAt(at) or window
