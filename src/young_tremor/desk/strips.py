"""The paper of the chart: the ruler, and a strip for each row."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from young_tremor.desk import ink, theme
from young_tremor.desk.timeview import TimeView

LATER = 36  # milliseconds
Line = tuple[np.ndarray, str, float]  # heights -1…1 up to clipping (n,), ink role, width


def label(seconds: float, step: float) -> str:
    """A time on the ruler."""
    minutes, rest = divmod(seconds + 1e-9, 60)
    if step >= 1:
        return f"{int(minutes)}:{int(rest):02d}"
    digits = 2 if step < 0.1 else 1
    return f"{int(minutes)}:{rest:0{3 + digits}.{digits}f}"


class TimeWidget(QWidget):
    """Something over the chart's time: scrub by dragging, zoom by wheel, pan by Shift and wheel."""

    scrubbed = Signal(int)

    def __init__(self, view: TimeView, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.view = view
        self._scrubbing = False
        view.changed.connect(self.refresh)
        view.moved.connect(self._moved)
        theme.paper.changed.connect(self.refresh)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def refresh(self) -> None:
        self.update()

    def _moved(self, old: int, new: int) -> None:
        for frame in (old, new):
            x = int(self.view.frame_x(frame, self.width()))
            self.update(x - 34, 0, 68, self.height())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton and self.view.frames:
            self._scrubbing = True
            self.scrubbed.emit(self.view.frame_at(event.position().x(), self.width()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._scrubbing:
            self.scrubbed.emit(self.view.frame_at(event.position().x(), self.width()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._scrubbing = False

    def wheelEvent(self, event: QWheelEvent) -> None:
        turns = (event.angleDelta().y() or event.angleDelta().x()) / 120
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier or event.angleDelta().x():
            self.view.pan(-0.12 * turns)
        else:
            self.view.zoom(0.82**turns, event.position().x(), self.width())
        event.accept()


class Ruler(TimeWidget):
    """Time, the marked stretch, what is ready to play, and the playhead's flag."""

    def __init__(self, view: TimeView, ready: Callable[[], np.ndarray], parent: QWidget | None = None) -> None:
        super().__init__(view, parent)
        self._ready = ready
        self.setFixedHeight(theme.RULER)
        self.setAccessibleName("Time ruler")
        self.setToolTip(
            "Drag to scrub. Wheel zooms, Shift and wheel pans.\nI and O mark a stretch to loop, X clears it."
        )

    def _moved(self, old: int, new: int) -> None:
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        view, width, height, colour = self.view, self.width(), self.height(), theme.paper.colour
        painter.fillRect(self.rect(), colour("ruler"))
        if view.marks:
            left, right = (view.frame_x(f, width) for f in (view.marks[0], view.marks[1] + 1))
            band = QColor(theme.LAMP)
            band.setAlpha(120)
            painter.fillRect(QRectF(left, 0, right - left, height), band)
        step = view.step(width)
        painter.setFont(theme.numbers(12, medium=False))
        first = int(view.t0 / step)
        for k in range(first, int(view.t1 / step) + 2):
            x = view.x(k * step, width)
            painter.setPen(QPen(colour("bold"), 1))
            painter.drawLine(QPointF(x, height - 6), QPointF(x, height))
            painter.setPen(colour("ink"))
            painter.setOpacity(0.72)
            painter.drawText(QPointF(x + 4, 16), label(k * step, step))
            painter.setOpacity(1.0)
            for minor in range(1, 10):
                xm = view.x((k + minor / 10) * step, width)
                painter.setPen(QPen(colour("bold"), 1))
                painter.drawLine(QPointF(xm, height - (5 if minor == 5 else 3)), QPointF(xm, height))
        self._paint_ready(painter)
        if view.frames:
            self._paint_flag(painter)

    def _paint_ready(self, painter: QPainter) -> None:
        ready = self._ready()
        if not ready.size:
            return
        edges = np.flatnonzero(np.diff(np.concatenate([[0], ready.astype(np.int8), [0]])))
        for a, b in edges.reshape(-1, 2):
            left, right = self.view.frame_x(int(a), self.width()), self.view.frame_x(int(b), self.width())
            painter.fillRect(QRectF(left, self.height() - 2.5, right - left, 2.5), theme.paper.colour("ready"))

    def _paint_flag(self, painter: QPainter) -> None:
        colour = theme.paper.colour
        x = self.view.frame_x(self.view.frame, self.width())
        seconds = float(self.view.frame / self.view.rate)
        text = f"{int(seconds // 60)}:{int(seconds % 60):02d}:{self.view.frame % max(1, round(self.view.rate)):02d}"
        painter.setFont(theme.numbers(12))
        wide = painter.fontMetrics().horizontalAdvance(text) + 8
        left = min(max(x - wide / 2, 0), self.width() - wide)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("playhead"))
        painter.drawRoundedRect(QRectF(left, 3, wide, 16), 2, 2)
        painter.drawRect(QRectF(x - 1, 18, 2, self.height() - 18))
        painter.setPen(colour("on_playhead"))
        painter.drawText(QRectF(left, 3, wide, 16), Qt.AlignmentFlag.AlignCenter, text)


class Strip(TimeWidget):
    """One row of paper. ``draw(first, last, count)`` gives its lines for a stretch of time."""

    def __init__(
        self,
        view: TimeView,
        draw: Callable[[float, float, int], list[Line]],
        height: int,
        *,
        name: str,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(view, parent)
        self._draw = draw
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.timeout.connect(self.update)
        self._drawn: QImage | None = None
        self._blank: tuple[tuple, QImage] | None = None
        self.dim = False
        self.corner = ""
        self.gaps: np.ndarray | None = None
        self.setFixedHeight(height)
        self.setAccessibleName(name)

    def sizeHint(self) -> QSize:
        return QSize(600, self.height())

    def refresh(self) -> None:
        """Draw anew, a moment later: the picture of the same change comes first."""
        self._drawn = None
        if not self._later.isActive():
            self._later.start(LATER)

    @property
    def drawn(self) -> bool:
        """Whether what is on screen is what should be."""
        return self._drawn is not None

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.refresh()

    def paintEvent(self, event: QPaintEvent) -> None:
        ratio = self.devicePixelRatioF()
        if self._drawn is None or self._drawn.devicePixelRatio() != ratio:
            size = QSize(max(1, round(self.width() * ratio)), max(1, round(self.height() * ratio)))
            canvas = self._paper(size, ratio)
            painter = QPainter(canvas)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._paint_under(painter)
            painter.end()
            self._paint_lines(canvas)
            painter = QPainter(canvas)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._paint_over(painter)
            painter.end()
            self._drawn = canvas
        painter = QPainter(self)
        painter.drawImage(0, 0, self._drawn)
        if self.view.frames:
            x = self.view.frame_x(self.view.frame, self.width())
            painter.fillRect(QRectF(x - 1, 0, 2, self.height()), theme.paper.colour("playhead"))

    def _paper(self, size: QSize, ratio: float) -> QImage:
        """A fresh sheet of blank paper; the last one is kept for copying."""
        view = self.view
        key = (size, ratio, view.t0, view.t1, view.length, view.frames, theme.paper.night)
        if self._blank is None or self._blank[0] != key:
            sheet = QImage(size, QImage.Format.Format_RGB32)
            sheet.setDevicePixelRatio(ratio)
            painter = QPainter(sheet)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._paint_paper(painter)
            painter.end()
            self._blank = (key, sheet)
        return self._blank[1].copy()

    def _paint_paper(self, painter: QPainter) -> None:
        view, width, height, colour = self.view, self.width(), self.height(), theme.paper.colour
        painter.fillRect(QRectF(0, 0, width, height), colour("paper"))
        step = view.step(width)
        minor = step / 10
        painter.setPen(QPen(colour("grid"), 1))
        for k in range(int(view.t0 / minor), int(view.t1 / minor) + 2):
            x = round(view.x(k * minor, width)) + 0.5
            painter.setPen(QPen(colour("bold" if k % 10 == 0 else "grid"), 1))
            painter.drawLine(QPointF(x, 0), QPointF(x, height))
        pitch = max(7.0, width / (view.t1 - view.t0) * minor)
        painter.setPen(QPen(colour("grid"), 1))
        middle = height / 2
        for k in range(1, int(middle / pitch) + 1):
            for y in (middle - k * pitch, middle + k * pitch):
                painter.drawLine(QPointF(0, round(y) + 0.5), QPointF(width, round(y) + 0.5))
        painter.setPen(QPen(colour("bold"), 1))
        painter.drawLine(QPointF(0, height - 0.5), QPointF(width, height - 0.5))
        end = view.x(view.length, width)
        if view.frames and end < width - 0.5:
            painter.fillRect(QRectF(end, 0, width - end, height), QColor(0, 0, 0, 30))

    def _paint_under(self, painter: QPainter) -> None:
        """What lies between the paper and the lines: stretches that show an edge."""
        view, width, height = self.view, self.width(), self.height()
        if self.gaps is None:
            return
        edges = np.flatnonzero(np.diff(np.concatenate([[0], self.gaps.astype(np.int8), [0]])))
        red = theme.paper.colour("gap")
        for a, b in edges.reshape(-1, 2):
            left, right = view.frame_x(int(a), width), view.frame_x(int(b), width)
            red.setAlpha(30)
            painter.fillRect(QRectF(left, 0, right - left, height), red)
            red.setAlpha(255)
            painter.fillRect(QRectF(left, height - 4, max(right - left, 1.5), 3), red)

    def _paint_lines(self, canvas: QImage) -> None:
        view, height, ratio = self.view, self.height(), canvas.devicePixelRatio()
        if not view.frames:
            return
        count = canvas.width()
        half = 0.5 * (view.t1 - view.t0) / count
        for heights, role, weight in self._draw(view.t0 + half, view.t1 - half, count):
            colour = theme.paper.colour(role)
            colour.setAlphaF(0.36 if self.dim else 1.0)
            ys = height / 2 - np.clip(heights, -1, 1) * (height / 2 - 3)
            ink.trace(canvas, ys * ratio, colour, weight * ratio)

    def _paint_over(self, painter: QPainter) -> None:
        if self.corner:
            painter.setFont(theme.words(12))
            colour = theme.paper.colour("ink")
            colour.setAlpha(150)
            painter.setPen(colour)
            painter.drawText(
                QRectF(0, 2, self.width() - 6, 16),
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                self.corner,
            )


class LevelStrip(Strip):
    """The intensity row: a filled level that is dragged directly."""

    began = Signal()
    dragged = Signal(float)
    ended = Signal()

    def __init__(
        self, view: TimeView, draw: Callable[[float, float, int], list[Line]], height: int, *, name: str
    ) -> None:
        super().__init__(view, draw, height, name=name)
        self._level: float | None = None
        self.level = 1.0
        self.setMouseTracking(True)
        self.setToolTip("Drag the line up or down: how much of the whole shake.")

    def _level_y(self) -> float:
        return self.height() - 3 - min(self.level, 2.0) / 2 * (self.height() - 8)

    def _paint_under(self, painter: QPainter) -> None:
        fill = theme.paper.colour("ink")
        fill.setAlpha(26)
        y = self._level_y()
        painter.fillRect(QRectF(0, y, self.width(), self.height() - 1 - y), fill)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.view.frames and abs(event.position().y() - self._level_y()) < 8:
            self._level = self.level
            self.began.emit()
        else:
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        near = self.view.frames and abs(event.position().y() - self._level_y()) < 8
        self.setCursor(Qt.CursorShape.SizeVerCursor if near or self._level is not None else Qt.CursorShape.ArrowCursor)
        if self._level is not None:
            level = 2 * (self.height() - 3 - event.position().y()) / (self.height() - 8)
            self.dragged.emit(round(min(max(level, 0.0), 2.0), 2))
        else:
            super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._level is not None:
            self._level = None
            self.ended.emit()
        super().mouseReleaseEvent(event)
