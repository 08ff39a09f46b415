"""The picture alone: filling the screen, or on a screen of its own."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QGuiApplication
from PySide6.QtWidgets import QVBoxLayout, QWidget

from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.window.layout import Hall

SECONDS = 2.5  # that the transport stays when the pointer rests


class PictureWindow(QWidget):
    """A window that holds the picture; closed, it gives it back."""

    def __init__(self, hall: Hall, gone: Callable[[], None]) -> None:
        super().__init__(hall, Qt.WindowType.Window)
        self.setWindowTitle(tr("Picture – Young Tremor"))
        self._gone = gone
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(hall.picture)

    def closeEvent(self, event: QCloseEvent) -> None:
        self._gone()
        event.accept()


class FullScreen:
    """What is hidden while the picture fills the screen, and the transport that comes when the pointer moves."""

    def __init__(self, hall: Hall, actions: Callable[[], list[QAction]]) -> None:
        self._hall, self._actions = hall, actions
        self._on = False
        self._away: PictureWindow | None = None
        self._rest = QTimer(hall)
        self._rest.setSingleShot(True)
        self._rest.timeout.connect(self._hide)

    def follow(self) -> None:
        """Show the desk as the window is now: full screen, or not."""
        hall, on = self._hall, self._hall.isFullScreen()
        if on == self._on:
            return
        self._on = on
        for widget in (hall.header, hall.reel, hall.side, hall.chart):
            widget.setVisible(not on)
        if on:
            hall.middle.removeWidget(hall.transport)
            hall.transport.setParent(hall.whole)
            hall.transport.hide()
        else:
            self._rest.stop()
            hall.middle.addWidget(hall.transport)
            hall.transport.setVisible(hall.measure.isHidden())

    def wake(self) -> None:
        """The pointer has moved: the transport comes for a while."""
        hall = self._hall
        if self._on and hall.measure.isHidden():
            high = hall.transport.height()
            hall.transport.setGeometry(0, hall.whole.height() - high, hall.whole.width(), high)
            hall.transport.show()
            hall.transport.raise_()
            self._rest.start(round(1000 * SECONDS))

    def _hide(self) -> None:
        hall = self._hall
        if self._on and not hall.transport.underMouse():
            hall.transport.hide()
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
        hall = self._hall
        away = self._away = PictureWindow(hall, self._back)
        away.addActions(self._actions())
        here = hall.screen()
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
            self._hall.pictures.insertWidget(0, self._hall.picture, 1)
            self._hall.picture.setVisible(self._hall.measure.isHidden())
            away.deleteLater()

    def close(self) -> None:
        """The main window goes, and this with it."""
        if self._away is not None:
            self._away.close()
