"""A clip that is to be measured: its picture with shields, and its course with the stretch and the path."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QImage, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.picture.image import image_of, paint_hint
from young_tremor.engine.library import takes

EDGE = 8  # pixels within which an end of the stretch is grabbed
NEAR = 0.06  # of the picture's width, within which a click is on a tick
CHANNELS = (("x", 1), ("y", 2), ("roll", 3), ("zoom", 4))


class ClipView(QWidget):
    """The clip's picture; a drag draws a box that is not looked at, a click on one takes it away.

    Where two things move, both are shown by ticks, and a click on one takes it for the scene.
    """

    resized = Signal()
    chosen = Signal(int)  # layer

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("Clip"))
        self.setToolTip(
            tr(
                "Drag a box over what moves by itself: people, cars. Click a box to remove it. "
                "If two things move, click the scene."
            )
        )
        self.setMinimumSize(240, 140)
        self.boxes: list[QRectF] = []  # in pixels of the footage
        self.size_: tuple[float, float] = (16, 9)  # square pixels
        self.hint = ""
        self.marks: tuple[np.ndarray, ...] = ()  # of each layer, places (k, 2) in pixels of the footage
        self.scene = 0
        self._image: QImage | None = None
        self._drag: tuple[QPointF, QPointF] | None = None

    def show_rgb(self, rgb: np.ndarray | None) -> None:
        """Show a picture, (rows, columns, 3) uint8."""
        self._image = image_of(rgb) if rgb is not None else None
        self.update()

    def box(self) -> QRectF:
        """Where the picture lies."""
        room = QRectF(self.rect()).adjusted(9, 9, -9, -9)
        aspect = self.size_[0] / self.size_[1]
        width = min(room.width(), room.height() * aspect)
        out = QRectF(0, 0, width, width / aspect)
        out.moveCenter(room.center())
        return out

    def _on_footage(self, place: QPointF) -> QPointF:
        box = self.box()
        x = min(max((place.x() - box.left()) / box.width(), 0.0), 1.0) * self.size_[0]
        return QPointF(x, min(max((place.y() - box.top()) / box.height(), 0.0), 1.0) * self.size_[1])

    def _on_view(self, rect: QRectF) -> QRectF:
        box = self.box()
        scale = box.width() / self.size_[0]
        return QRectF(
            box.left() + rect.left() * scale,
            box.top() + rect.top() * scale,
            rect.width() * scale,
            rect.height() * scale,
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._image is not None and event.button() == Qt.MouseButton.LeftButton:
            self._drag = (event.position(), event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is not None:
            self._drag = (self._drag[0], event.position())
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._drag is None:
            return
        start, end = (self._on_footage(place) for place in (self._drag[0], event.position()))
        drawn = QRectF(start, end).normalized()
        if (event.position() - self._drag[0]).manhattanLength() > 8:
            self.boxes.append(drawn)
        elif any(box.contains(start) for box in self.boxes):
            self.boxes = [box for box in self.boxes if not box.contains(start)]
        else:
            self._choose(start)
        self._drag = None
        self.update()

    def _choose(self, place: QPointF) -> None:
        """Take the layer whose ticks are nearest for the scene."""
        away = [
            float(np.hypot(*(mark - (place.x(), place.y())).T).min()) if len(mark) else np.inf for mark in self.marks
        ]
        if len(away) > 1 and min(away) < NEAR * self.size_[0]:
            self.chosen.emit(int(np.argmin(away)))

    def show_marks(self, marks: tuple[np.ndarray, ...], scene: int) -> None:
        """Where each layer was seen in the frame that is shown, and which is the scene."""
        self.marks, self.scene = marks, scene
        self.update()

    def resizeEvent(self, event: object) -> None:
        self.resized.emit()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(theme.WELL))
        if self._image is None:
            paint_hint(painter, self.rect(), self.hint)
            return
        painter.setRenderHints(QPainter.RenderHint.SmoothPixmapTransform | QPainter.RenderHint.Antialiasing)
        painter.drawImage(self.box(), self._image)
        self._paint_marks(painter)
        shown = [self._on_view(box) for box in self.boxes]
        if self._drag is not None:
            shown.append(QRectF(*self._drag).normalized())
        for rect in shown:
            painter.setPen(QPen(QColor(theme.GREASE), 1.6))
            painter.setBrush(QColor(20, 22, 21, 150))
            painter.drawRect(rect)

    def _paint_marks(self, painter: QPainter) -> None:
        """The scene's ticks upright, the other's slanted, each on a dark edge to be seen on any picture."""
        box = self.box()
        scale = box.width() / self.size_[0]
        for number, places in enumerate(self.marks):
            scene = number == self.scene
            arms = ((3.5, 0.0), (0.0, 3.5)) if scene else ((2.6, 2.6), (2.6, -2.6))
            lines = [
                QLineF(
                    box.left() + x * scale - dx,
                    box.top() + y * scale - dy,
                    box.left() + x * scale + dx,
                    box.top() + y * scale + dy,
                )
                for x, y in places.tolist()
                for dx, dy in arms
            ]
            for colour, width in ((QColor(20, 22, 21, 190), 3.4), (QColor(theme.LAMP if scene else theme.TICK), 1.4)):
                painter.setPen(QPen(colour, width))
                painter.drawLines(lines)


class ClipTimeline(QWidget):
    """The clip's time: the stretch to use, with ends to drag, and the path as it is found, with its confidence."""

    scrubbed = Signal(float)
    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(112)
        self.setAccessibleName(tr("Course of the clip"))
        self.setToolTip(tr("Drag the ends to choose the stretch; click to look at a frame"))
        self.length, self.rate = 1.0, 24.0
        self.first, self.last, self.now = 0.0, 1.0, 0.0
        self.table = np.zeros((0, 8))
        self._grab = ""
        theme.paper.changed.connect(self.update)

    def show_table(self, table: np.ndarray) -> None:
        """The path so far: (n, 8) as a take's rows, seconds of the clip."""
        self.table = table
        self.update()

    def x(self, t: float) -> float:  # type: ignore[override]
        """Where a moment stands, in pixels."""
        return t / self.length * self.width()

    def _t(self, event: QMouseEvent) -> float:
        return min(max(event.position().x() / max(self.width(), 1), 0.0), 1.0) * self.length

    def mousePressEvent(self, event: QMouseEvent) -> None:
        near = {
            "first": abs(event.position().x() - self.x(self.first)),
            "last": abs(event.position().x() - self.x(self.last)),
        }
        name = min(near, key=lambda item: near[item])
        self._grab = name if near[name] <= EDGE else "now"
        self._move(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grab:
            self._move(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._grab = ""

    def _move(self, event: QMouseEvent) -> None:
        t = min(round(self._t(event) * self.rate) / self.rate, self.length)
        if self._grab == "first":
            self.first = min(t, self.last - 0.1)
        elif self._grab == "last":
            self.last = max(t, self.first + 0.1)
        self.now = t
        self.scrubbed.emit(t)
        self.changed.emit()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        colour = theme.paper.colour
        painter.fillRect(self.rect(), colour("paper"))
        for k in range(1, 20):
            x = round(k * self.width() / 20) + 0.5
            painter.setPen(QPen(colour("bold" if k % 2 == 0 else "grid"), 1))
            painter.drawLine(QPointF(x, 0), QPointF(x, self.height()))
        middle = (self.height() - 12) / 2
        painter.setPen(QPen(colour("bold"), 1))
        painter.drawLine(QPointF(0, middle), QPointF(self.width(), middle))
        if len(self.table) > 1:
            self._paint_path(painter, middle)
        wash = colour("bold")
        wash.setAlpha(150)
        painter.fillRect(QRectF(0, 0, self.x(self.first), self.height()), wash)
        painter.fillRect(QRectF(self.x(self.last), 0, self.width(), self.height()), wash)
        painter.setPen(QPen(colour("ink"), 1.4))
        painter.setBrush(colour("ink"))
        for t, way in ((self.first, 1), (self.last, -1)):
            x = self.x(t)
            painter.drawLine(QPointF(x, 0), QPointF(x, self.height()))
            painter.drawPolygon(QPolygonF([QPointF(x, 0), QPointF(x + 8 * way, 0), QPointF(x, 10)]))
        painter.fillRect(QRectF(self.x(self.now) - 1, 0, 2, self.height()), colour("playhead"))

    def _paint_band(self, painter: QPainter, ink: QColor, ys: np.ndarray, reach: np.ndarray) -> None:
        """How far each place may be off, above and below it."""
        ink.setAlpha(70)
        xs = [self.x(t) for t in self.table[:, 0].tolist()]
        above = [QPointF(x, y) for x, y in zip(xs, (ys - reach).tolist(), strict=True)]
        below = [QPointF(x, y) for x, y in zip(xs, (ys + reach).tolist(), strict=True)]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ink)
        painter.drawPolygon(QPolygonF([*above, *reversed(below)]))
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _paint_path(self, painter: QPainter, middle: float) -> None:
        """x, y, turn and scale against their largest, how far x and y may be off, and how sure each frame is along the
        foot."""
        colour, t = theme.paper.colour, self.table[:, 0]
        values = self.table.copy()
        values[:, 4] = np.log(values[:, 4])
        shift = max(float(np.abs(values[:, 1:3]).max()), 1.0)
        tops = {
            1: shift,
            2: shift,
            3: max(float(np.abs(values[:, 3]).max()), 0.1),
            4: max(float(np.abs(values[:, 4]).max()), 0.002),
        }
        reach = takes.error_rows(self.table) / shift * (middle - 4)
        for role, column in CHANNELS[:2]:
            self._paint_band(painter, colour(role), middle - values[:, column] / shift * (middle - 4), reach)
        for role, column in CHANNELS:
            painter.setPen(QPen(colour(role), 1.4 if column < 3 else 1.0))
            ys = middle - values[:, column] / tops[column] * (middle - 4)
            painter.drawPolyline(
                QPolygonF([QPointF(self.x(a), b) for a, b in zip(t.tolist(), ys.tolist(), strict=True)])
            )
        painter.setFont(theme.text_font(12))
        for number, (role, _) in enumerate(CHANNELS):
            painter.setPen(colour(role))
            painter.drawText(QPointF(self.x(self.first) + 14 + 34 * number, 14), tr(role.capitalize()))
        doubt = takes.doubtful_rows(self.table)
        step = self.width() / self.length * (t[1] - t[0])
        for at, sure, bad in zip(t.tolist(), self.table[:, 7].tolist(), doubt.tolist(), strict=True):
            ink = colour("gap" if bad else "ready")
            height = 10 if bad else 2 + 8 * sure
            painter.fillRect(QRectF(self.x(at), self.height() - height, max(step, 1.0) + 0.5, height), ink)
