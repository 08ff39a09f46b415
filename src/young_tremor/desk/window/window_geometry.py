"""Where the window is: remembered, and brought back inside the screen there is."""

from __future__ import annotations

from contextlib import suppress

from PySide6.QtCore import QByteArray
from PySide6.QtWidgets import QWidget

from young_tremor.base.errors import TremorError
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.library import settings

TITLE = 40  # pixels that a window's own title and border may take, until they are known


def fit_screen(window: QWidget) -> None:
    """Make a window no larger than the screen leaves room for, its frame included, and put it inside."""
    room, frame, inner = window.screen().availableGeometry(), window.frameGeometry(), window.geometry()
    across, down = frame.width() - inner.width(), frame.height() - inner.height()
    if not window.isVisible():
        down = max(down, TITLE)
    window.resize(min(inner.width(), room.width() - across), min(inner.height(), room.height() - down))
    frame = window.frameGeometry()
    window.move(
        max(room.left(), min(frame.left(), room.right() + 1 - frame.width())),
        max(room.top(), min(frame.top(), room.bottom() + 1 - frame.height())),
    )


class WindowGeometry:
    """A window's place, the line between picture and chart, and those between reel, picture and panel."""

    def __init__(self, desk: Desk) -> None:
        self._desk, self._window, self._line = desk, desk.window, desk.splitter

    def bring_back(self) -> None:
        """Put the window where it was last, as far as the screen goes."""
        kept, window = settings.load(), self._window
        window.restoreGeometry(QByteArray.fromHex(kept.place.encode()))
        fit_screen(window)
        if len(kept.across) == 3:
            self._desk.set_across(*kept.across)
        if len(kept.split) == 2:
            self._line.setSizes(list(kept.split))

    def keep(self, looked: tuple[int, int]) -> None:
        """Remember it for the next start; ``looked``: how large the picture is, in pixels."""
        split, across = tuple(self._line.sizes()), self._desk.across
        place = bytes(self._window.saveGeometry().toHex().data()).decode()
        with suppress(TremorError):
            settings.change(place=place, split=split, across=across, looked=looked)
