"""The paper of the chart: a strip for each row."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QContextMenuEvent,
    QFocusEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QMenu, QSizePolicy, QWidget

from young_tremor.desk.chart import ink, key_editor, key_menu
from young_tremor.desk.chart.key_editor import KeyEditor
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.thread_bridge import guard_event
from young_tremor.desk.kit.time_format import times
from young_tremor.desk.state.time_view import TimeView

TAB = 13  # pixels at a row's foot where the ends of its stretch are dragged
LATER = 36  # milliseconds
Line = tuple[np.ndarray, str, float]  # heights -1…1 up to clipping (n,), ink role, width


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
        times.changed.connect(self.refresh)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def refresh(self) -> None:
        """Paint it again, after the picture if that is waited for."""
        self.view.after_picture.soon(self)

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


class Strip(TimeWidget):
    """One row of paper. ``draw(first, last, count)`` gives its lines for a stretch of time.

    Where ``active`` is given, what lies outside that stretch is washed over, and its ends can be dragged.
    """

    end_grabbed = Signal()
    end_dragged = Signal(str, float)  # "start" or "end", seconds
    end_released = Signal()

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
        self._later.timeout.connect(super().refresh)
        self._drawn: QImage | None = None
        self._blank: tuple[tuple, QImage] | None = None
        self.dim = False
        self.editor: KeyEditor | None = None
        self.menu: Callable[[QMenu], None] | None = None
        self.corner = ""
        self.gaps: np.ndarray | None = None
        self.active: tuple[float, float] | None = None
        self._end = ""
        self.setFixedHeight(height)
        self.setAccessibleName(tr(name))

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
        if self.editor is not None and self.view.frames:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self.editor.paint(painter)
        if self.view.frames:
            x = self.view.frame_x(self.view.frame, self.width())
            painter.fillRect(QRectF(x - 1, 0, 2, self.height()), theme.paper.colour("playhead"))
        if self.hasFocus():
            painter.setPen(QPen(theme.paper.colour("playhead"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -1.5))

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.update()

    def set_editor(self, editor: KeyEditor | None) -> None:
        """Let a curve be edited on this strip."""
        self.editor = editor
        self.setMouseTracking(editor is not None)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if editor else Qt.FocusPolicy.NoFocus)
        self.refresh()

    def set_active(self, active: tuple[float, float] | None) -> None:
        """The stretch in which the strand acts."""
        if active != self.active:
            self.active = active
            self.setMouseTracking(active is not None or self.editor is not None)
            self.refresh()

    def _end_at(self, event: QMouseEvent) -> str:
        """Which end of the stretch is under the pointer: only near the row's foot, where a tab hangs."""
        if self.active is None or event.position().y() < self.height() - TAB:
            return ""
        far = {
            name: abs(self.view.x(t, self.width()) - event.position().x())
            for name, t in zip(("start", "end"), self.active, strict=True)
        }
        name = min(far, key=lambda item: far[item])
        return name if far[name] <= 9 else ""

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._end = self._end_at(event) if event.button() == Qt.MouseButton.LeftButton else ""
        if self._end:
            self.end_grabbed.emit()
        elif self.editor is None or not self.view.frames or not self.editor.press(event):
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._end:
            rate = float(self.view.rate)
            t = round(self.view.t(event.position().x(), self.width()) * rate) / rate
            self.end_dragged.emit(self._end, min(max(t, 0.0), self.view.length))
            return
        if self.active is not None and not self._scrubbing and self._end_at(event):
            self.setCursor(Qt.CursorShape.SizeHorCursor)
            return
        if self.editor is None:
            self.setCursor(Qt.CursorShape.ArrowCursor)
        if self._scrubbing or self.editor is None or not self.editor.move(event):
            super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._end:
            self._end = ""
            self.end_released.emit()
            return
        if self.editor is None or not self.editor.release(event):
            super().mouseReleaseEvent(event)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if self.editor is None or not self.view.frames or not self.editor.double(event):
            super().mousePressEvent(event)

    @guard_event
    def event(self, event: QEvent) -> bool:
        """Keys that belong to chosen curve keys come before the window's."""
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and self.editor is not None
            and self.editor.wants(event)
        ):
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if self.editor is None or not self.editor.key(event):
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        if self.menu is not None:
            self.menu(menu)
        if self.editor is not None:
            menu.addSeparator()
            key_menu.fill(menu, self.editor)
        if menu.actions():
            menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            menu.popup(event.globalPos())

    def _paper(self, size: QSize, ratio: float) -> QImage:
        """A fresh sheet of blank paper; the last one is kept for copying."""
        view = self.view
        key = (size, ratio, view.t0, view.t1, view.length, view.frames, theme.paper.night, times.in_frames)
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
        """What lies between the paper and the lines: stretches that show an edge, or in which nothing acts."""
        view, width, height = self.view, self.width(), self.height()
        if self.active is not None and view.frames:
            wash = theme.paper.colour("bold")
            wash.setAlpha(90)
            left, right = (view.x(t, width) for t in self.active)
            painter.fillRect(QRectF(0, 0, left, height), wash)
            painter.fillRect(QRectF(right, 0, max(width - right, 0), height), wash)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.paper.colour("ink"))
            for x, way in ((left, 1), (right, -1)):
                foot = QPointF(x, height - 1)
                painter.drawPolygon(QPolygonF([foot, foot + QPointF(9 * way, 0), foot + QPointF(0, -TAB + 3)]))
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
            painter.setFont(theme.text_font(12))
            colour = theme.paper.colour("ink")
            colour.setAlpha(150)
            painter.setPen(colour)
            painter.drawText(
                QRectF(0, 2, self.width() - 6, 16),
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                self.corner,
            )


tell(Strip, QAccessible.Role.Chart, lambda strip: strip.editor.told() if strip.editor else "")


class LevelStrip(Strip):
    """A row that is curves and nothing else: lines in heights 0…1 of the row, filled under the last."""

    def _paint_lines(self, canvas: QImage) -> None:
        view, ratio = self.view, canvas.devicePixelRatio()
        if view.frames and self.editor is not None:
            count = canvas.width()
            half = 0.5 * (view.t1 - view.t0) / count
            lines = self._draw(view.t0 + half, view.t1 - half, count)
            for number, (heights, role, weight) in enumerate(lines, start=1):
                ys = (self.height() - 3 - np.clip(heights, 0, 1) * (self.height() - 8)) * ratio
                if number == len(lines):
                    ink.fill(canvas, ys, theme.paper.colour(role), 0.1)
                ink.trace(canvas, ys, theme.paper.colour(role), weight * ratio)

    def _paint_over(self, painter: QPainter) -> None:
        """Heights along the edge, once there is room for them."""
        super()._paint_over(painter)
        editor = self.editor
        if editor is None or self.height() < key_editor.TALL:
            return
        painter.setFont(theme.numbers(11, medium=False))
        colour = theme.paper.colour("ink")
        colour.setAlpha(150)
        painter.setPen(colour)
        for part in range(5):
            value = editor.low + (editor.high - editor.low) * part / 4
            y = editor.y(value)
            painter.drawText(
                QRectF(0, min(max(y - 8, 0), self.height() - 16), self.width() - 6, 16),
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                editor.text(value),
            )
