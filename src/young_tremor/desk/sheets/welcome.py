"""What stands on the empty desk: three ways to begin, the projects of late, and work that was never saved."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path

import shiboken6
from PySide6.QtCore import QEvent, QObject, QRectF, QSize, QTimer
from PySide6.QtGui import QColor, QIcon, QImage, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.i18n import tr
from young_tremor.engine.asking.ask import WELCOME
from young_tremor.engine.document import recovery
from young_tremor.engine.library import settings

KEY, READ = 70, 1900  # milliseconds from letter to letter, and for reading an example
SHOWN = 4  # projects of late, and kept ones


@dataclass(frozen=True)
class WelcomeActions:
    """What its buttons do."""

    ask_open: Callable[[], None]
    ask_clip: Callable[[], None]
    demo: Callable[[], None]
    open: Callable[[Path], None]
    recover: Callable[[recovery.UnsavedWork], None]
    ask: Callable[[str], None]  # with a sentence to begin with
    look: Callable[[recovery.UnsavedWork, Callable[[QImage], None]], None]  # a picture of it, once it is read


class TypedExamples(QPushButton):
    """What can be asked for, typing itself one after the other; a click asks for it. It stands still where nothing is
    to move by itself."""

    def __init__(self, ask: Callable[[str], None]) -> None:
        super().__init__()
        self.setAccessibleName(tr("Ask (Ctrl+K)"))
        self.setToolTip(tr("Ask in your own words or in figures (Ctrl+K)"))
        self.setStyleSheet(
            f'text-align: left; background: {theme.DEEP}; font-family: "Spline Sans Mono"; font-size: 13px;'
        )
        self._examples = [tr(example) for example in WELCOME]
        self._number, self._typed = 0, 0
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._type)
        self.clicked.connect(partial(self._ask, ask))
        if settings.load().still:
            self._typed = len(self._examples[0])
        else:
            self._timer.start(KEY)
        self._show()

    def _ask(self, ask: Callable[[str], None]) -> None:
        ask(self._examples[self._number])

    def _type(self) -> None:
        if not self.isVisible():
            return
        self._typed += 1
        if self._typed > len(self._examples[self._number]):
            self._number, self._typed = (self._number + 1) % len(self._examples), 0
            self._timer.setInterval(KEY)
        elif self._typed == len(self._examples[self._number]):
            self._timer.setInterval(READ)
        self._show()

    def _show(self) -> None:
        self.setText(f"{self._examples[self._number][: self._typed]}▏")


class Welcome(QWidget):
    """Lies over the empty picture."""

    def __init__(self, parent: QWidget, ways: Callable[[], WelcomeActions]) -> None:
        super().__init__(parent)
        self.setAccessibleName(tr("Begin"))
        self._ways, self._over = ways, parent
        self.setFixedWidth(400)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(24, 20, 24, 20)
        self._column.setSpacing(5)
        self._kept: list[recovery.UnsavedWork] | None = None
        self._explains = True
        parent.installEventFilter(self)
        self.hide()

    def show_for(self, *, empty: bool) -> None:
        """Stand there while nothing is open."""
        if empty == self.isVisibleTo(self._over):
            return
        if empty:
            self._fill()
            self._place()
        self.setVisible(empty)

    def _fill(self) -> None:
        while (item := self._column.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        if self._kept is None:
            self._kept = recovery.left_behind()
        ways = self._ways()
        if self._kept:
            self._column.addWidget(section("Not saved last time"))
            for work in self._kept[:SHOWN]:
                when = time.strftime("%d %B, %H:%M", time.localtime(work.when)).lstrip("0")
                named = f"{work.name} · {when}"
                button = self._button(named, partial(self._recover, work), tr("Go on with it"), quiet=True)
                button.setIconSize(QSize(57, 32))
                button.setMinimumHeight(38)
                ways.look(work, partial(_show, button))
        recent = [Path(name) for name in settings.load().recent if Path(name).exists()]
        self._explains = not recent and not self._kept  # whoever was here before knows
        self._column.addWidget(section("Begin"))
        self._button(
            tr("Open footage"), ways.ask_open, tr("A locked-off shot; dropping it on the window does the same")
        )
        self._button(tr("Measure a handheld clip"), ways.ask_clip, tr("Its motion can then move any shot"))
        self._button(tr("Look at the demo"), ways.demo, tr("A press at night, three impacts"))
        if recent:
            self._column.addWidget(section("Projects of late"))
            for path in recent[:SHOWN]:
                self._button(path.stem, partial(ways.open, path), str(path), quiet=True)
        self._column.addWidget(section("Or ask"))
        self._column.addWidget(TypedExamples(ways.ask))

    def _button(self, words: str, act: object, tip: str, *, quiet: bool = False) -> QPushButton:
        button = QPushButton(words)
        button.setToolTip(tip)
        button.setAccessibleName(words)
        if quiet:
            button.setProperty("quiet", True)
            button.setStyleSheet("text-align: left;")
        button.clicked.connect(lambda: act())  # type: ignore[operator]
        self._column.addWidget(button)
        if self._explains and not quiet:
            words_below = QLabel(tip)
            words_below.setStyleSheet(f"color: {theme.FAINT}; font-size: 12px;")
            words_below.setContentsMargins(0, 0, 0, 4)
            self._column.addWidget(words_below)
        return button

    def _recover(self, kept: recovery.UnsavedWork) -> None:
        self._kept = [work for work in self._kept or [] if work != kept]
        self._ways().recover(kept)

    def _place(self) -> None:
        self.adjustSize()
        self.move((self._over.width() - self.width()) // 2, max(8, (self._over.height() - self.height()) // 2))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Resize and self.isVisibleTo(self._over):
            self._place()
        return False

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(theme.LINE), 1))
        painter.setBrush(QColor(theme.PANEL_COLOUR))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)


def _show(button: QPushButton, image: QImage) -> None:
    if shiboken6.isValid(button):
        button.setIcon(QIcon(QPixmap.fromImage(image)))
