"""The row of what was found: a curve of suddenness, a threshold to drag, and hits to keep or drop."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QImage, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import QPushButton

from young_tremor.desk.chart import ink
from young_tremor.desk.chart.row_heads import RowHead
from young_tremor.desk.chart.rows import Row
from young_tremor.desk.chart.strips import Strip
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.state.time_view import TimeView
from young_tremor.engine.analysis.found_hits import Onsets

HEIGHT = 84


class FoundHitsStrip(Strip):
    """The curve and its threshold."""

    threshold_changed = Signal(float)

    def __init__(self, view: TimeView, found: Onsets) -> None:
        super().__init__(view, lambda *_: [], HEIGHT, name="Found hits")
        self.found, self.threshold = found, found.threshold
        self._dragging = False
        self.setMouseTracking(True)
        self.setToolTip(tr("Drag the line: what reaches it becomes a hit."))

    def _y(self, value: float) -> float:
        return self.height() - 4 - value * (self.height() - 12)

    def _paint_lines(self, canvas: QImage) -> None:
        view, onsets, ratio = self.view, self.found, canvas.devicePixelRatio()
        half = 0.5 * (view.t1 - view.t0) / canvas.width()
        t = np.linspace(view.t0 - half, view.t1 + half, canvas.width() + 1)
        places = np.clip(((t - onsets.start) / onsets.step), 0, len(onsets.curve) - 1).astype(int)
        # the highest of what falls into each column, so that no peak is lost
        tops = np.maximum.reduceat(onsets.curve, np.minimum(places[:-1], len(onsets.curve) - 1))
        ys = (self.height() - 4 - tops * (self.height() - 12)) * ratio
        ink.fill(canvas, ys, theme.paper.colour("hit"), 0.16)
        ink.trace(canvas, ys, theme.paper.colour("hit"), 1.2 * ratio)

    def _paint_over(self, painter: QPainter) -> None:
        y = self._y(self.threshold)
        painter.setPen(QPen(theme.paper.colour("playhead"), 1.4, Qt.PenStyle.DashLine))
        painter.drawLine(0, round(y), self.width(), round(y))
        painter.setPen(theme.paper.colour("playhead"))
        painter.setFont(theme.text_font(12))
        painter.drawText(QRectF(0, y - 17, self.width() - 6, 16), Qt.AlignmentFlag.AlignRight, tr("threshold"))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if abs(event.position().y() - self._y(self.threshold)) < 9:
            self._dragging = True
        else:
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            value = (self.height() - 4 - event.position().y()) / (self.height() - 12)
            self.threshold = min(max(value, 0.02), 1.0)
            self.refresh()
            self.threshold_changed.emit(self.threshold)
            return
        near = abs(event.position().y() - self._y(self.threshold)) < 9
        self.setCursor(Qt.CursorShape.SizeVerCursor if near else Qt.CursorShape.ArrowCursor)
        super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._dragging = False
        super().mouseReleaseEvent(event)


class FoundHitsRow(Row):
    """Header with the two answers, and the strip. Nothing is in the document until *Keep*."""

    def __init__(self, view: TimeView, found: Onsets, where: str) -> None:
        where = tr("in the sound" if where == "sound" else "in the picture")
        head = RowHead(tr("Found hits"), where, HEIGHT, fixed=True)
        self.strip_ = FoundHitsStrip(view, found)
        super().__init__(head, self.strip_)
        self.keep = QPushButton(tr("Keep"), head)
        self.drop = QPushButton(tr("Discard"), head)
        self.keep.setGeometry(133, 14, 82, 28)
        self.drop.setGeometry(219, 14, 88, 28)
        self.keep.setToolTip(tr("Put these hits on the ruler"))
        self.drop.setToolTip(tr("Discard the found hits"))
        self.strip_.threshold_changed.connect(lambda _: self.tell())
        self.tell()

    @property
    def times(self) -> np.ndarray:
        """Times of what reaches the threshold."""
        return self.strip_.found.times[self.strip_.found.above(self.strip_.threshold)]

    def tell(self) -> None:
        """Say how many hits stand over the threshold."""
        count = len(self.times)
        self.keep.setText(tr("Keep {0}", count))
        self.keep.setEnabled(count > 0)
