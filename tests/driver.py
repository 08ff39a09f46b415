"""Drives the real window with mouse and keys, and waits on its signals."""

from __future__ import annotations

import os
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
import shiboken6
from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QTimer, QUrl
from PySide6.QtGui import QContextMenuEvent, QDragEnterEvent, QDropEvent, QMouseEvent, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QWidget
from pytestqt.qtbot import QtBot

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.window.window import MainWindow
from young_tremor.engine.document.session import Session
from young_tremor.engine.playback.player import SilentDevice
from young_tremor.engine.preview import launch, preview_worker
from young_tremor.model.project import Project, Shot

preview_worker.QUIET = 1.0  # seconds: frames are made ahead where a test rests, as a person does, not between its keys
HELD = 0.05  # seconds without an answer that an ordinary gesture may take
APART = os.environ.get("PREVIEW") == "apart"  # render in a process of its own, as it is outside the tests
KNOWN = 130_000  # additions that take 10 ms
LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


def slowness() -> float:
    """How much slower this machine is than the one on which a known piece of work takes 10 ms."""
    times = []
    for _ in range(5):
        begun = time.thread_time()
        sum(k * k for k in range(KNOWN))
        times.append(time.thread_time() - begun)
    return max(min(times) / 0.01, 1.0)


class Desk:
    """The window and the verbs of a person before it."""

    def __init__(self, qtbot: QtBot, session: Session | None = None, device: SilentDevice | None = None) -> None:
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        if not app.property("dressed"):
            theme.dress(app)
            app.setProperty("dressed", True)
        self.bot = qtbot
        self.threads = threading.active_count()
        if APART:
            launch.begin(())
        self.window = MainWindow(session or Session(), device or SilentDevice())
        self.window.show()
        qtbot.waitExposed(self.window)

    # what it shows

    @property
    def project(self) -> Project:
        return self.window.desk.session.project

    @property
    def shot(self) -> Shot:
        shot = self.window.desk.state.shot
        assert shot is not None
        return shot

    @property
    def frame(self) -> int:
        return self.window.desk.view.frame

    def picture(self) -> np.ndarray:
        """The picture on screen once the window has caught up: RGB (rows, columns, 3)."""
        self.settle()
        shown = self.window.desk.picture.picture
        assert shown is not None
        return shown.rgb.astype(int)

    def settle(self) -> None:
        """Wait until what is asked for is what is shown, readings included."""
        stage, view = self.window.desk.stage, self.window.desk.picture

        def caught_up() -> bool:
            shown = view.picture
            return bool(
                shown is not None
                and shown.request is stage._request
                and shown.index == self.frame
                and stage.preview.answered is stage._request
            )

        self.bot.waitUntil(caught_up, timeout=int(os.environ.get("PATIENCE", "60")) * 1000)
        QApplication.processEvents()

    def until(self, condition: Callable[[], bool]) -> None:
        self.bot.waitUntil(condition, timeout=int(os.environ.get("PATIENCE", "60")) * 1000)

    @contextmanager
    def answering(self, gesture: str) -> Iterator[None]:
        """Fail if the window was held longer than ``HELD`` seconds of its own thread's work (:func:`slowness`)."""
        turns = [0.0]
        last = [time.thread_time()]

        def beat() -> None:
            now = time.thread_time()
            turns.append(now - last[0])
            last[0] = now

        timer = QTimer()
        timer.timeout.connect(beat)
        timer.start(1)
        yield
        QApplication.processEvents()
        timer.stop()
        assert max(turns) <= HELD * slowness(), f"{gesture} held the window for {1000 * max(turns):.0f} ms"

    def said(self) -> str:
        return self.window.desk.notice.text() if self.window.desk.notice.isVisible() else ""

    # what a person does

    def drop(self, *paths: Path) -> None:
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(str(path)) for path in paths])
        action = Qt.DropAction.CopyAction
        enter = QDragEnterEvent(QPoint(400, 300), action, data, LEFT, NONE)
        QApplication.sendEvent(self.window, enter)
        assert enter.isAccepted()
        QApplication.sendEvent(self.window, QDropEvent(QPointF(400, 300), action, data, LEFT, NONE))

    def open(self, path: Path) -> None:
        """Drop footage on the window and wait for its first picture."""
        shots = len(self.project.shots)
        self.drop(path)
        self.until(lambda: len(self.project.shots) == shots + 1)
        self.settle()

    def key(self, key: Qt.Key | str, modifiers: Qt.KeyboardModifier = NONE) -> None:
        QTest.keyClick(QApplication.focusWidget() or self.window, key, modifiers)

    def click(self, widget: QWidget, x: float | None = None, y: float | None = None) -> None:
        at = widget.rect().center() if x is None or y is None else QPoint(round(x), round(y))
        QTest.mouseClick(widget, LEFT, NONE, at)

    def drag(
        self,
        widget: QWidget,
        start: tuple[float, float],
        *way: tuple[float, float],
        modifiers: Qt.KeyboardModifier = NONE,
    ) -> None:
        """Press at ``start``, move through ``way``, release at its end; widget coordinates."""
        points = [QPoint(round(x), round(y)) for x, y in (start, *way)]
        QTest.mousePress(widget, LEFT, modifiers, points[0])
        for a, b in zip(points[:-1], points[1:], strict=True):
            for part in (0.3, 0.7, 1.0):
                at = a + (b - a) * part
                self._move(widget, at, modifiers)
        QTest.mouseRelease(widget, LEFT, modifiers, points[-1])

    def _move(self, widget: QWidget, at: QPoint, modifiers: Qt.KeyboardModifier) -> None:
        place = QPointF(at)
        event = QMouseEvent(
            QEvent.Type.MouseMove, place, QPointF(widget.mapToGlobal(at)), Qt.MouseButton.NoButton, LEFT, modifiers
        )
        QApplication.sendEvent(widget, event)

    def context(self, widget: QWidget, x: float, y: float) -> None:
        """Ask for the menu at a place."""
        at = QPoint(round(x), round(y))
        reason = QContextMenuEvent.Reason.Mouse
        QApplication.sendEvent(widget, QContextMenuEvent(reason, at, widget.mapToGlobal(at)))

    def pick(self, words: str, *under: str) -> None:
        """Choose from the menu that is open, or from one under it."""
        menu = QApplication.activePopupWidget()
        assert isinstance(menu, QMenu)
        inner = menu
        for name in under:
            found = next(action for action in inner.actions() if action.text() == name).menu()
            assert isinstance(found, QMenu)
            inner = found
        action = next(each for each in inner.actions() if each.text() == words)
        action.trigger()
        menu.close()
        self.back()

    def back(self) -> None:
        """The window is in front again after a popup."""
        self.window.activateWindow()
        self.bot.waitUntil(self.window.isActiveWindow)

    def wheel(self, widget: QWidget, turns: float, x: float = 20, modifiers: Qt.KeyboardModifier = NONE) -> None:
        at = QPointF(x, widget.height() / 2)
        event = QWheelEvent(
            at,
            QPointF(widget.mapToGlobal(at.toPoint())),
            QPoint(),
            QPoint(0, round(120 * turns)),
            Qt.MouseButton.NoButton,
            modifiers,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        QApplication.sendEvent(widget, event)

    def type_into(self, rule: NumberField, text: str) -> None:
        """Click a rule's number, type, press Return."""
        self.click(rule, rule.width() - 8, 8)
        QTest.keyClicks(rule._editor, text)
        QTest.keyClick(rule._editor, Qt.Key.Key_Return)

    def drag_rule(self, rule: NumberField, to: float, modifiers: Qt.KeyboardModifier = NONE) -> None:
        """Drag a rule's pointer to where ``to`` stands."""
        rail = rule._rail()
        y = rail.top() + 4

        def place(value: float) -> float:
            return rail.left() + 3 + (rail.width() - 6) * rule.scale.place(value)

        self.drag(rule, (place(rule.value), y), (place(to), y), modifiers=modifiers)

    def scrub(self, widget: QWidget, frame: int) -> None:
        """Click the place of a frame on the ruler or a strip."""
        self.click(widget, self.window.desk.view.frame_x(frame + 0.5, widget.width()), widget.height() / 2)

    def close(self) -> None:
        """Close the window and see that nothing is left of it."""
        self.window.act.files.may_leave = lambda: True  # type: ignore[method-assign]
        self.window.close()
        self.window.deleteLater()
        QApplication.sendPostedEvents(None, 52)  # DeferredDelete
        QApplication.processEvents()
        self.until(lambda: threading.active_count() <= self.threads)  # what was told to stop is not waited for
        assert not shiboken6.isValid(self.window)
        assert not QApplication.topLevelWidgets()
