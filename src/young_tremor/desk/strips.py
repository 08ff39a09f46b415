"""The paper of the chart: the ruler, and a strip for each row."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
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

from young_tremor.desk import ink, theme
from young_tremor.desk.key_editor import KeyEditor
from young_tremor.desk.timeview import TimeView
from young_tremor.model.shake import Hit

TAB = 13  # pixels at a row's foot where the ends of its stretch are dragged
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
    """Time, the marked stretch, what is ready to play, the hits as pins, and the playhead's flag."""

    hit_grabbed = Signal(str)
    hit_dragged = Signal(str, float, float)  # id, seconds, strength
    hit_released = Signal()
    hit_menu = Signal(str, object)  # id (empty: none under the pointer), menu

    def __init__(self, view: TimeView, ready: Callable[[], np.ndarray], parent: QWidget | None = None) -> None:
        super().__init__(view, parent)
        self._ready = ready
        self.hits: tuple[Hit, ...] = ()
        self.proposed: np.ndarray = np.zeros(0)
        self._grab: tuple[Hit, QPointF, str] | None = None
        self.setMouseTracking(True)
        self.setFixedHeight(theme.RULER)
        self.setAccessibleName("Time ruler")
        self.setToolTip(
            "Drag to scrub. Wheel zooms, Shift and wheel pans.\nI and O mark a stretch to loop, X clears it.\n"
            "H drops a hit; drag its pin along, or up and down for its strength."
        )

    def set_hits(self, hits: tuple[Hit, ...]) -> None:
        if hits != self.hits:
            self.hits = hits
            self.update()

    def set_proposed(self, times: np.ndarray) -> None:
        """Times of hits that were found and not yet accepted."""
        self.proposed = times
        self.update()

    def hit_at(self, x: float) -> Hit | None:
        """The hit whose pin is under a place."""
        near = [(abs(self.view.x(hit.t, self.width()) - x), hit.t, hit) for hit in self.hits]
        best = min(near, key=lambda each: each[:2], default=None)
        return best[2] if best and best[0] <= 6 else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        hit = self.hit_at(event.position().x()) if event.position().y() > 8 else None
        if hit is not None and event.button() == Qt.MouseButton.LeftButton:
            self._grab = (hit, event.position(), "")
            self.hit_grabbed.emit(hit.id)
        else:
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grab is None:
            over = not self._scrubbing and event.position().y() > 8 and self.hit_at(event.position().x()) is not None
            self.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor)
            super().mouseMoveEvent(event)
            return
        hit, place, way = self._grab
        gone = event.position() - place
        if not way and gone.manhattanLength() > 3:
            way = "time" if abs(gone.x()) >= abs(gone.y()) else "strength"
            self._grab = (hit, place, way)
        if way == "time":
            t = hit.t + gone.x() / max(self.width(), 1) * (self.view.t1 - self.view.t0)
            if not event.modifiers() & Qt.KeyboardModifier.AltModifier:
                t = round(t * float(self.view.rate)) / float(self.view.rate)
            self.hit_dragged.emit(hit.id, min(max(t, 0.0), self.view.length), hit.strength)
        elif way == "strength":
            self.hit_dragged.emit(hit.id, hit.t, round(min(max(hit.strength - gone.y() / 60, 0.0), 4.0), 2))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._grab is not None:
            self._grab = None
            self.hit_released.emit()
        super().mouseReleaseEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        hit = self.hit_at(event.pos().x())
        self.hit_menu.emit(hit.id if hit else "", menu)
        if menu.actions():
            menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            menu.popup(event.globalPos())

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
        self._paint_pins(painter)
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

    def _paint_pins(self, painter: QPainter) -> None:
        """A pin a hit, taller the stronger; found ones are hollow until they are accepted."""
        maroon, foot = theme.paper.colour("hit"), float(self.height())
        for t, strength, hollow in (
            *((float(t), 1.0, True) for t in self.proposed),
            *((hit.t, hit.strength, False) for hit in self.hits),
        ):
            x = self.view.x(t, self.width())
            if not -8 < x < self.width() + 8:
                continue
            top = foot - 6 - 10 * min(strength, 1.6) ** 0.7
            painter.setPen(QPen(maroon, 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush if hollow else maroon)
            painter.drawPolygon(QPolygonF([QPointF(x - 5, top), QPointF(x + 5, top), QPointF(x, top + 9)]))
            painter.drawLine(QPointF(x, top + 9), QPointF(x, foot))

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
        self._later.timeout.connect(self.update)
        self._drawn: QImage | None = None
        self._blank: tuple[tuple, QImage] | None = None
        self.dim = False
        self.editor: KeyEditor | None = None
        self.menu: Callable[[QMenu, float], None] | None = None
        self.corner = ""
        self.gaps: np.ndarray | None = None
        self.active: tuple[float, float] | None = None
        self._end = ""
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
        if self.editor is not None and self.view.frames:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self.editor.paint(painter)
        if self.view.frames:
            x = self.view.frame_x(self.view.frame, self.width())
            painter.fillRect(QRectF(x - 1, 0, 2, self.height()), theme.paper.colour("playhead"))

    def set_editor(self, editor: KeyEditor | None) -> None:
        """Let a curve be edited on this strip."""
        self.editor = editor
        self.setMouseTracking(editor is not None)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus if editor else Qt.FocusPolicy.NoFocus)
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
        name = min(far, key=lambda each: far[each])
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
            self.menu(menu, event.pos().x())
        if self.editor is not None:
            menu.addSeparator()
            self.editor.menu(menu, event.pos().x())
        if menu.actions():
            menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            menu.popup(event.globalPos())

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
    """A row that is a curve and nothing else: filled under its line."""

    def _paint_lines(self, canvas: QImage) -> None:
        view, ratio = self.view, canvas.devicePixelRatio()
        if view.frames and self.editor is not None:
            count = canvas.width()
            half = 0.5 * (view.t1 - view.t0) / count
            lines = self._draw(view.t0 + half, view.t1 - half, count)
            for values, role, weight in lines:
                ys = self._level_y(values) * ratio
                ink.fill(canvas, ys, theme.paper.colour(role), 0.1)
                ink.trace(canvas, ys, theme.paper.colour(role), weight * ratio)

    def _paint_over(self, painter: QPainter) -> None:
        """Heights along the edge, once there is room for them."""
        super()._paint_over(painter)
        editor = self.editor
        if editor is None or self.height() < 90:
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

    def _level_y(self, values: np.ndarray) -> np.ndarray:
        editor, height = self.editor, self.height()
        assert editor is not None
        share = (np.clip(values, editor.low, editor.high) - editor.low) / (editor.high - editor.low)
        return height - 3 - share * (height - 8)
