"""The picture alone: filling the screen, or on a screen of its own."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QGuiApplication
from PySide6.QtWidgets import QVBoxLayout, QWidget

from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.window.desk import Desk

SECONDS = 2.5  # that the transport stays when the pointer rests


class PictureWindow(QWidget):
    """A window that holds the picture; closed, it gives it back."""

    def __init__(self, desk: Desk, gone: Callable[[], None]) -> None:
        super().__init__(desk.window, Qt.WindowType.Window)
        self.setWindowTitle(tr("Picture – Young Tremor"))
        self._gone = gone
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(desk.picture)

    def closeEvent(self, event: QCloseEvent) -> None:
        self._gone()
        event.accept()


class FullScreen:
    """What is hidden while the picture fills the screen, and the transport that comes when the pointer moves."""

    def __init__(self, desk: Desk, actions: Callable[[], list[QAction]]) -> None:
        self._desk, self._actions = desk, actions
        self._on = False
        self._away: PictureWindow | None = None
        self._rest = QTimer(desk.window)
        self._rest.setSingleShot(True)
        self._rest.timeout.connect(self._hide)

    def follow(self) -> None:
        """Show the desk as the window is now: full screen, or not."""
        desk, on = self._desk, self._desk.window.isFullScreen()
        if on == self._on:
            return
        self._on = on
        for widget in (desk.header, desk.reel, desk.side, desk.chart):
            widget.setVisible(not on)
        if on:
            desk.middle.removeWidget(desk.transport)
            desk.transport.setParent(desk.whole)
            desk.transport.hide()
        else:
            self._rest.stop()
            desk.middle.addWidget(desk.transport)
            desk.transport.setVisible(desk.measure.isHidden())

    def wake(self) -> None:
        """The pointer has moved: the transport comes for a while."""
        desk = self._desk
        if self._on and desk.measure.isHidden():
            high = desk.transport.height()
            desk.transport.setGeometry(0, desk.whole.height() - high, desk.whole.width(), high)
            desk.transport.show()
            desk.transport.raise_()
            self._rest.start(round(1000 * SECONDS))

    def _hide(self) -> None:
        desk = self._desk
        if self._on and not desk.transport.underMouse():
            desk.transport.hide()
        elif self._on:
            self._rest.start(round(1000 * SECONDS))

    @property
    def away(self) -> bool:
        """Whether the picture has a window of its own."""
        return self._away is not None

    def toggle_away(self) -> None:
        """Give the picture a window of its own, filling another screen if there is one, or take it back."""
        if self._away is not None:
            self._away.close()
            return
        desk = self._desk
        away = self._away = PictureWindow(desk, self._back)
        away.addActions(self._actions())
        here = desk.window.screen()
        others = [screen for screen in QGuiApplication.screens() if screen is not here]
        if others:
            away.setScreen(others[0])
            away.setGeometry(others[0].geometry())
            away.showFullScreen()
        else:
            away.resize(960, 580)
            away.show()

    def _back(self) -> None:
        away, self._away = self._away, None
        if away is not None:
            self._desk.pictures.insertWidget(0, self._desk.picture, 1)
            self._desk.picture.setVisible(self._desk.measure.isHidden())
            away.deleteLater()

    def close(self) -> None:
        """The main window goes, and this with it."""
        if self._away is not None:
            self._away.close()
