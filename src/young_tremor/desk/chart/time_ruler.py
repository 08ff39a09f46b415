"""The time ruler over the chart: scrubbing, marks, what is ready, hits as pins, the playhead's flag."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QContextMenuEvent,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
)
from PySide6.QtWidgets import QMenu

from young_tremor.desk.chart.strips import TimeWidget
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.focus import give_back
from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.kit.thread_bridge import guard_event
from young_tremor.desk.kit.time_format import mark_text, short_text, times
from young_tremor.desk.state.desk_state import DeskState, Selection
from young_tremor.model.shake import Hit

PAGES = (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown)
MOVES = (
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Delete,
    Qt.Key.Key_Backspace,
    Qt.Key.Key_Escape,
)


class TimeRuler(TimeWidget):
    """Time, the marked stretch, what is ready to play, the hits as pins, and the playhead's flag."""

    hit_grabbed = Signal(str)
    hit_dragged = Signal(str, float, float)  # id, seconds, strength
    hit_released = Signal()
    hit_menu = Signal(str, object)  # id (empty: none under the pointer), menu

    hit_gone = Signal(str)  # to be deleted

    def __init__(self, state: DeskState, ready: Callable[[], np.ndarray]) -> None:
        super().__init__(state.time)
        self._state, self._ready = state, ready
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        state.changed.connect(self._chosen)
        self.hits: tuple[Hit, ...] = ()
        self.proposed: np.ndarray = np.zeros(0)
        self.missing: np.ndarray = np.zeros(0, int)
        self._grab: tuple[Hit, QPointF, str] | None = None
        self._painted: tuple[tuple, QPixmap] | None = None
        self.setMouseTracking(True)
        self.setFixedHeight(theme.RULER)
        self.setAccessibleName(tr("Time ruler"))
        self.setToolTip(
            tr(
                "Drag to scrub. Wheel zooms, Shift and wheel pans.\nI and O mark a stretch to loop, "
                "X clears it.\nH drops a hit; drag its pin along, or up and down for its "
                "strength.\nWith the keyboard: Page up and down choose a pin, arrows move it, Delete "
                "takes it away."
            )
        )

    def set_hits(self, hits: tuple[Hit, ...]) -> None:
        """Show hits as pins."""
        if hits != self.hits:
            self.hits = hits
            self.update()

    def _chosen(self, before: Selection, now: Selection) -> None:
        if (before.hit, before.target) != (now.hit, now.target):
            self.update()

    @property
    def hit(self) -> Hit | None:
        """The hit whose pin was clicked last."""
        now = self._state.now
        return next((hit for hit in self.hits if hit.id == now.hit), None) if now.target == "hit" else None

    def told(self) -> str:
        """The playhead, or the chosen hit, in words."""
        hit = self.hit
        if hit is not None:
            count = f"{self.hits.index(hit) + 1} of {len(self.hits)}"
            return tr("Hit {0}: {1:.2f} seconds, strength {2:g}", count, hit.t, hit.strength)
        return tr("{0:.2f} seconds, {1}", self._state.seconds, counted(len(self.hits), "hit"))

    @guard_event
    def event(self, event: QEvent) -> bool:
        """Keys that belong to the chosen pin come before the window's."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and self._wants(event):
            event.accept()
            return True
        return super().event(event)

    def _wants(self, event: QKeyEvent) -> bool:
        if event.modifiers() & ~Qt.KeyboardModifier.ShiftModifier:
            return False
        return bool(self.hits) and (event.key() in PAGES or (self.hit is not None and event.key() in MOVES))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        hit = self.hit
        if not self._wants(event):
            super().keyPressEvent(event)
        elif event.key() in PAGES:
            way, order = (1 if event.key() == Qt.Key.Key_PageDown else -1), sorted(self.hits, key=lambda hit: hit.t)
            number = order.index(hit) + way if hit is not None else 0
            self._state.choose(hit=order[number % len(order)].id)
        elif hit is None or event.key() == Qt.Key.Key_Escape:
            self._state.choose(hit=None)
            give_back(self)
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.hit_gone.emit(hit.id)
        else:
            big = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            across = (event.key() == Qt.Key.Key_Right) - (event.key() == Qt.Key.Key_Left)
            up = (event.key() == Qt.Key.Key_Up) - (event.key() == Qt.Key.Key_Down)
            t = min(max(hit.t + across * big / float(self.view.rate), 0.0), self.view.length)
            self.hit_grabbed.emit(hit.id)
            self.hit_dragged.emit(hit.id, t, round(min(max(hit.strength + 0.05 * up * big, 0.0), 4.0), 2))
            self.hit_released.emit()

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.update()

    def set_missing(self, frames: np.ndarray) -> None:
        """Frames for which a sequence has no picture, (n,) int."""
        if not np.array_equal(frames, self.missing):
            self.missing = frames
            self.update()

    def set_proposed(self, times: np.ndarray) -> None:
        """Times of hits that were found and not yet accepted."""
        self.proposed = times
        self.update()

    def hit_at(self, x: float) -> Hit | None:
        """The hit whose pin is under a place."""
        near = [(abs(self.view.x(hit.t, self.width()) - x), hit.t, hit) for hit in self.hits]
        best = min(near, key=lambda item: item[:2], default=None)
        return best[2] if best and best[0] <= 6 else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        hit = self.hit_at(event.position().x()) if event.position().y() > 8 else None
        if hit is not None and event.button() == Qt.MouseButton.LeftButton:
            self._grab = (hit, event.position(), "")
            self.setFocus(Qt.FocusReason.MouseFocusReason)
            self._state.choose(hit=hit.id)
            self.hit_grabbed.emit(hit.id)
        else:
            self._state.choose(hit=None, target="")
            give_back(self)
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
        view, width, colour = self.view, self.width(), theme.paper.colour
        painter.drawPixmap(0, 0, self._ground())
        red = theme.paper.colour("gap")
        for frame in self.missing.tolist():
            left, right = view.frame_x(frame, width), view.frame_x(frame + 1, width)
            painter.fillRect(QRectF(left, 0, max(right - left, 1.5), 3), red)
        self._paint_pins(painter)
        if view.frames:
            self._paint_flag(painter)
        if self.hasFocus():
            painter.setPen(QPen(colour("playhead"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))

    def _ground(self) -> QPixmap:
        """Paper, marks, lines, labels and what is ready, painted once for a stretch of time: the playhead passes over
        them often."""
        view, paper, ratio = self.view, theme.paper, self.devicePixelRatioF()
        shown = (paper.night, paper.strong, times.in_frames)
        key = (self.size(), ratio, view.t0, view.t1, view.marks, view.rate, view.drop, shown, self._ready().tobytes())
        if self._painted is None or self._painted[0] != key:
            ground = QPixmap(self.size() * ratio)
            ground.setDevicePixelRatio(ratio)
            painter = QPainter(ground)
            self._paint_ground(painter)
            self._paint_ready(painter)
            painter.end()
            self._painted = key, ground
        return self._painted[1]

    def _paint_ground(self, painter: QPainter) -> None:
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
        first = int(view.t0 / step) - 1
        for k in range(first, int(view.t1 / step) + 2):
            x = view.x(view.clock(k * step), width)
            painter.setPen(QPen(colour("bold"), 1))
            painter.drawLine(QPointF(x, height - 6), QPointF(x, height))
            painter.setPen(colour("ink"))
            painter.setOpacity(0.72)
            painter.drawText(QPointF(x + 4, 16), mark_text(k * step, step, self.view.rate))
            painter.setOpacity(1.0)
            for minor in range(1, 10):
                xm = view.x(view.clock((k + minor / 10) * step), width)
                painter.setPen(QPen(colour("bold"), 1))
                painter.drawLine(QPointF(xm, height - (5 if minor == 5 else 3)), QPointF(xm, height))

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
        chosen = self.hit.id if self.hit is not None else None
        for t, strength, hollow, lit in (
            *((float(t), 1.0, True, False) for t in self.proposed),
            *((hit.t, hit.strength, False, hit.id == chosen) for hit in self.hits),
        ):
            x = self.view.x(t, self.width())
            if not -8 < x < self.width() + 8:
                continue
            top = foot - 6 - 10 * min(strength, 1.6) ** 0.7
            painter.setPen(QPen(maroon, 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush if hollow else QColor(theme.LAMP) if lit else maroon)
            painter.drawPolygon(QPolygonF([QPointF(x - 5, top), QPointF(x + 5, top), QPointF(x, top + 9)]))
            painter.drawLine(QPointF(x, top + 9), QPointF(x, foot))

    def _paint_flag(self, painter: QPainter) -> None:
        colour = theme.paper.colour
        x = self.view.frame_x(self.view.frame, self.width())
        text = short_text(self.view.frame, self.view.rate)
        painter.setFont(theme.numbers(12))
        wide = painter.fontMetrics().horizontalAdvance(text) + 8
        left = min(max(x - wide / 2, 0), self.width() - wide)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("playhead"))
        painter.drawRoundedRect(QRectF(left, 3, wide, 16), 2, 2)
        painter.drawRect(QRectF(x - 1, 18, 2, self.height() - 18))
        painter.setPen(colour("on_playhead"))
        painter.drawText(QRectF(left, 3, wide, 16), Qt.AlignmentFlag.AlignCenter, text)


tell(TimeRuler, QAccessible.Role.Slider, lambda ruler: ruler.told())
