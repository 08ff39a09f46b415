"""The panel on the right: *Frame* while nothing is selected, the chosen strand's full controls otherwise."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QStackedLayout, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.desk import theme
from young_tremor.desk.drift_panel import DriftPanel
from young_tremor.desk.frame_panel import FramePanel
from young_tremor.desk.jolts_panel import JoltsPanel
from young_tremor.desk.plotted_panel import PlottedPanel
from young_tremor.desk.shimmer_panel import ShimmerPanel
from young_tremor.desk.take_panel import TakePanel
from young_tremor.engine.session import Session
from young_tremor.model.project import Shot
from young_tremor.model.shake import Drift, Jolts, Plotted, Shimmer, Taken


class Panel(QWidget):
    """The hammertone plate that holds the one or the other."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedWidth(theme.PANEL)
        self.setAccessibleName("Panel")
        self.frame = FramePanel(session)
        self.drift = DriftPanel(session)
        self.jolts = JoltsPanel(session)
        self.plotted = PlottedPanel(session)
        self.take = TakePanel(session)
        self.shimmer = ShimmerPanel(session)
        self._stack = QStackedLayout(self)
        self._stack.setContentsMargins(0, 4, 0, 4)
        self._stack.addWidget(self.frame)
        self._stack.addWidget(self.drift)
        self._stack.addWidget(self.jolts)
        self._stack.addWidget(self.plotted)
        self._stack.addWidget(self.take)
        self._stack.addWidget(self.shimmer)

    def sizeHint(self) -> QSize:
        return QSize(theme.PANEL, 300)

    def show_shot(self, shot: Shot | None, info: SourceInfo | None, chosen: str | None, now: float = 0.0) -> None:
        """Show the chosen strand, or the frame; ``now`` is the playhead in seconds."""
        self.frame.now = now
        self.frame.show_shot(shot)
        strand = next((s for s in shot.shake.strands if s.id == chosen), None) if shot and info else None
        if isinstance(strand, Drift) and shot and info:
            self.drift.show_strand(shot, info, strand, now)
            self._stack.setCurrentWidget(self.drift)
        elif isinstance(strand, Jolts) and shot and info:
            self.jolts.show_strand(shot, info, strand, now)
            self._stack.setCurrentWidget(self.jolts)
        elif isinstance(strand, Plotted) and shot and info:
            self.plotted.show_strand(shot, info, strand, now)
            self._stack.setCurrentWidget(self.plotted)
        elif isinstance(strand, Taken) and shot and info:
            self.take.show_strand(shot, info, strand, now)
            self._stack.setCurrentWidget(self.take)
        elif isinstance(strand, Shimmer) and shot and info:
            self.shimmer.show_strand(shot, info, strand, now)
            self._stack.setCurrentWidget(self.shimmer)
        else:
            self._stack.setCurrentWidget(self.frame)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme.hammertone(painter, 0, 0, self.width(), self.height())
        painter.fillRect(QRectF(0, 0, 1.5, self.height()), QColor(theme.DEEP))
        for x in (8.0, self.width() - 8.0):
            for y in (8.0, self.height() - 8.0):
                painter.setPen(QPen(QColor("#252b28"), 1))
                painter.setBrush(QColor("#2b322f"))
                painter.drawEllipse(QPointF(x, y), 3.5, 3.5)
                painter.setPen(QPen(QColor("#4d5853"), 0.8))
                painter.drawPolyline(QPolygonF([QPointF(x - 2, y + 1.2), QPointF(x + 2, y - 1.2)]))
