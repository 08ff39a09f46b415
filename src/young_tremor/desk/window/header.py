"""The strip at the top: who we are, what is open, and the three things one reaches for."""

from __future__ import annotations

import math
import time

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QDragEnterEvent, QDropEvent, QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QMenuBar, QPushButton, QSizePolicy, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.thread_bridge import guard_event
from young_tremor.desk.sheets.ask_line import AskField

NARROW = 1180  # pixels of width under which only the mark is shown, not our name
LEAST_QUIET, QUIET = 56, 104  # pixels of the ask line at rest
LEAST_ASKED, WIDE = 200, 486  # while one asks
WORDMARK, MARK = 160, 60  # where the project's name begins


class DropButton(QPushButton):
    """A button that files can be dropped on."""

    dropped = Signal(str)

    def __init__(self, words: str) -> None:
        super().__init__(words)
        self.setAcceptDrops(True)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        for url in event.mimeData().urls()[:1]:
            if url.isLocalFile():
                self.dropped.emit(url.toLocalFile())
                event.acceptProposedAction()


class Header(QWidget):
    """Holds the buttons; the window says what they do."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(theme.HEADER)
        row = self._row = QHBoxLayout(self)
        row.setContentsMargins(WORDMARK, 0, 16, 0)
        row.setSpacing(8)
        self._menus_shown = True  # while nobody asks
        self._asked = False
        self.project = QLabel(tr("Untitled"))
        self.project.setAccessibleName(tr("Project"))
        self.menus = QMenuBar()
        self.menus.setNativeMenuBar(False)
        self.menus.setAccessibleName(tr("Menus"))
        self.menus.setSizePolicy(QSizePolicy.Policy.Minimum, QSizePolicy.Policy.Fixed)
        self.state = QLabel("")
        self.state.setStyleSheet(f"color: {theme.FAINT}; font-size: 13px;")
        row.addWidget(self.project)
        row.addWidget(self.state)
        row.addStretch(1)
        row.addWidget(self.menus)
        self.ask = AskField()
        row.addStretch(1)
        row.addWidget(self.ask)
        self.open_button = QPushButton(tr("Open footage"))
        self.takes_button = DropButton(tr("Takes"))
        self.presets_button = QPushButton(tr("Presets"))
        self.render_button = QPushButton(tr("Render"))
        self.open_button.setToolTip(tr("Open footage or a project (Ctrl+O)"))
        self.takes_button.setToolTip(tr("Motion measured from real clips (T); drop a clip here to measure it"))
        self.presets_button.setToolTip(tr("Choose a preset for this shot (P)"))
        self.render_button.setToolTip(tr("Render this shot (Ctrl+R)"))
        self._buttons = (self.open_button, self.takes_button, self.presets_button, self.render_button)
        for button in self._buttons:
            button.setMinimumWidth(max(92, button.sizeHint().width()) if button is not self.takes_button else 72)
            button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            row.addWidget(button)
        self.render_button.setStyleSheet("padding-left: 24px;")

    def make_room(self, active: bool) -> None:
        """Let the ask line have the menus' place while one asks."""
        if active:
            self._menus_shown = self.menus.isVisibleTo(self)
        self._asked = active
        self.menus.setVisible(self._menus_shown and not active)
        self._fit()

    def _fit(self) -> None:
        """The ask line as wide as there is room for; without room it is there only while one asks."""
        beside = (self.project, self.state, self.menus, *self._buttons)
        shown = [widget for widget in beside if not widget.isHidden()]
        occupied = sum(max(widget.sizeHint().width(), widget.minimumWidth()) for widget in shown)
        margins = self._row.contentsMargins()
        room = self.width() - occupied - self._row.spacing() * (len(shown) + 2) - margins.left() - margins.right()
        self.ask.setVisible(self._asked or room >= LEAST_QUIET)
        self.ask.setFixedWidth(min(max(room, LEAST_ASKED), WIDE) if self._asked else max(min(room, QUIET), 0))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Where there is little room our name makes way for the menus."""
        left = WORDMARK if self.width() >= NARROW else MARK
        if self._row.contentsMargins().left() != left:
            self._row.setContentsMargins(left, 0, 16, 0)
        self._fit()

    @guard_event
    def event(self, event: QEvent) -> bool:
        """What stands beside the ask line has other words."""
        if event.type() == QEvent.Type.LayoutRequest:
            self._fit()
        return super().event(event)

    def show_saved(self, dirty: bool, saved_at: float | None) -> None:
        """Say whether all is on disk; ``saved_at`` on the monotonic clock, None if nothing was saved yet."""
        words = ""
        if dirty:
            words = tr("· not saved")
        elif saved_at is not None:
            seconds = int(time.monotonic() - saved_at)
            ago = (
                tr("just now")
                if seconds < 5
                else tr("{0} s ago", seconds)
                if seconds < 60
                else tr("{0} min ago", seconds // 60)
            )
            words = tr("· saved {0}", ago)
        if self.state.text() != words:
            self.state.setText(words)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme.hammertone(painter, 0, 0, self.width(), self.height())
        painter.fillRect(QRectF(0, self.height() - 2, self.width(), 2), QColor(theme.DEEP))
        points = [
            QPointF(15 + k * 0.5, 21 + 9 * math.sin(k * 0.62) * math.exp(-(((k - 32) / 15) ** 2))) for k in range(64)
        ]
        painter.setPen(QPen(QColor(theme.LAMP), 1.8, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawPolyline(QPolygonF(points))
        if self.width() < NARROW:
            return
        painter.setPen(QColor(theme.TEXT))
        painter.setFont(theme.text_font(17))
        painter.drawText(QRectF(60, 0, 110, self.height() - 2), Qt.AlignmentFlag.AlignVCenter, "Young Tremor")


class RenderLamp(QWidget):
    """The amber lamp on the render button."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedSize(10, 10)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme.LAMP))
        painter.drawEllipse(QPointF(5, 5), 4.5, 4.5)
