"""The picture in its well: shaken, still, split, overlay or difference, with the path scope in a corner."""

from __future__ import annotations

import math
from functools import partial

import numpy as np
from PySide6.QtCore import QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QImage,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
)
from PySide6.QtWidgets import QMenu, QSizePolicy, QWidget

from young_tremor.desk import frame_marks, theme
from young_tremor.engine.preview import Picture
from young_tremor.engine.traces import CameraTrace

MARGIN = 9
OVERSCAN = 1.2  # the whole over the frame


class PictureView(QWidget):
    """Shows answers of the preview. ``resized`` tells when another size is wanted."""

    resized = Signal()
    clicked = Signal()
    plot_began = Signal(str, float)  # what is dragged; the time of the key under the pointer, or -1
    plotted = Signal(str, float, float)  # what, and how far: percent of frame height, degrees, or percent
    plot_ended = Signal(bool)  # whether anything moved
    box_drawn = Signal(object)  # the way of the drag (n, 2) as shares of the picture
    pivot_began = Signal()
    pivot_moved = Signal(float, float)  # frame units
    pivot_ended = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName("Picture")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMouseTracking(True)
        self.setMinimumSize(320, 180)
        self.aspect: float | None = None
        self.picture: Picture | None = None
        self.split = 0.5
        self.scope: CameraTrace | None = None
        self.time = 0.0
        self.hint = ""
        self._image: QImage | None = None
        self._still: QImage | None = None
        self._dragging = False
        self.names = ("Shaken", "Still")
        self._path: tuple[np.ndarray, np.ndarray, np.ndarray] | None = None
        self.boxes: list[np.ndarray] = []  # keep-clear boxes, corners as shares of the picture
        self.drawing = self.drawing_region = False
        self.overlays: set[str] = set()
        self._box: list[QPointF] = []
        self.region: np.ndarray | None = None  # outline of what acts, shares of the picture
        self.pivot: tuple[float, float] | None = None  # frame units
        self._pivoting = False
        self._plot: tuple[QPointF, int, str] | None = None  # where it began, the key under it (-1: none), what it does

    def set_path(self, path: tuple[np.ndarray, np.ndarray, np.ndarray] | None) -> None:
        """A plotted strand's path (line, places, times; frame heights from the centre), to be dragged."""
        if path is not None or self._path is not None:
            self._path = path
            self.update()

    def _on_picture(self, places: np.ndarray) -> list[QPointF]:
        rect = self.frame_rect()
        middle = QRectF(rect).center()
        return [middle + QPointF(x, y) * rect.height() for x, y in places.tolist()]

    def _paint_path(self, painter: QPainter) -> None:
        """The path as ink, its keys, and the two handles: one turns, one scales."""
        assert self._path is not None
        line, places, _ = self._path
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for ink, weight in ((QColor(255, 255, 255, 90), 3.4), (QColor("#1f4fa3"), 1.6)):
            painter.setPen(QPen(ink, weight))
            painter.drawPolyline(QPolygonF(self._on_picture(line)))
        painter.setPen(QPen(QColor("#ffffff"), 1))
        for place in self._on_picture(places):
            painter.setBrush(QColor("#1f4fa3"))
            painter.drawEllipse(place, 4, 4)
        for role, at in self._handles().items():
            painter.setBrush(QColor("#2f7d53" if role == "roll" else "#a8740a"))
            painter.drawEllipse(at, 6, 6)
            painter.setFont(theme.words(12))
            painter.drawText(at + QPointF(10, 4), "Turn" if role == "roll" else "Scale")

    def _handles(self) -> dict[str, QPointF]:
        rect = QRectF(self.frame_rect())
        return {
            "roll": rect.center() + QPointF(rect.width() * 0.3, 0),
            "zoom": rect.center() + QPointF(0, rect.height() * 0.3),
        }

    def _press_plot(self, place: QPointF) -> bool:
        if self._path is None or not self.frame_rect().contains(place.toPoint()):
            return False
        for role, at in self._handles().items():
            if (at - place).manhattanLength() < 12:
                self._plot = (place, -1, role)
                self.plot_began.emit(role, -1.0)
                return True
        near = [(p - place).manhattanLength() for p in self._on_picture(self._path[1])]
        key = int(np.argmin(near)) if near and min(near) < 12 else -1
        self._plot = (place, key, "shift")
        self.plot_began.emit("shift", float(self._path[2][key]) if key >= 0 else -1.0)
        return True

    def _move_plot(self, place: QPointF) -> None:
        assert self._plot is not None
        start, _, role = self._plot
        rect = QRectF(self.frame_rect())
        gone = (place - start) / rect.height()
        if role == "roll":
            a, b = (p - rect.center() for p in (start, place))
            turned = math.degrees(math.atan2(b.y(), b.x()) - math.atan2(a.y(), a.x()))
            self.plotted.emit("roll", (turned + 180) % 360 - 180, 0.0)
        elif role == "zoom":
            self.plotted.emit("zoom", 100 * math.log(max(1 + 2 * gone.y(), 0.05)), 0.0)
        else:
            self.plotted.emit("shift", 100 * gone.x(), 100 * gone.y())

    def sizeHint(self) -> QSize:
        return QSize(868, 404)

    @property
    def over(self) -> float:
        """How much more than the delivered frame is shown."""
        return OVERSCAN if frame_marks.OVER in self.overlays else 1.0

    def frame_rect(self) -> QRect:
        """Where the delivered frame lies, in widget coordinates."""
        whole = self.whole_rect()
        if self.over == 1:
            return whole
        inner = QRect(0, 0, round(whole.width() / self.over), round(whole.height() / self.over))
        inner.moveCenter(whole.center())
        return inner

    def whole_rect(self) -> QRect:
        """Where the picture lies, with what is seen beyond the frame."""
        if self.aspect is None:
            return QRect()
        room = self.rect().adjusted(MARGIN, MARGIN, -MARGIN, -MARGIN)
        # even, so that a preview (whose chroma is subsampled) fits it pixel by pixel
        width = max(2, min(room.width(), int(room.height() * self.aspect)) // 2 * 2)
        height = max(2, round(width / self.aspect / 2) * 2)
        return QRect(
            room.left() + (room.width() - width) // 2,
            room.top() + (room.height() - height) // 2,
            width,
            height,
        )

    def wanted(self) -> tuple[int, int]:
        """The size in real pixels at which a preview is to be rendered, even numbers."""
        rect, ratio = self.whole_rect(), self.devicePixelRatioF()
        return max(2, 2 * round(rect.width() * ratio / 2)), max(2, 2 * round(rect.height() * ratio / 2))

    def show_picture(self, picture: Picture | None) -> None:
        self.picture = picture
        self._image = image_of(picture.rgb) if picture else None
        self._still = image_of(picture.still) if picture and picture.still is not None else None
        self.update()

    def set_scope(self, trace: CameraTrace | None, time: float) -> None:
        self.scope, self.time = trace, time
        self.update(self._scope_rect().toRect().adjusted(-1, -1, 1, 1))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(theme.WELL))
        if self._image is None:
            paint_hint(painter, self.rect(), self.hint)
            return
        rect = self.whole_rect()
        real = rect.size() * self.devicePixelRatioF()
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, real != self._image.size())
        side = self._still is not None and self.picture is not None and self.picture.request.mode == "side"
        if side:
            self._paint_sides(painter, rect)
            return
        painter.drawImage(rect, self._image)
        if self._still is not None:
            self._paint_split(painter, rect)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        whole, rect = rect, self.frame_rect()
        if whole != rect:
            frame_marks.dim(painter, QRectF(whole), QRectF(rect))
        if self._path is not None:
            self._paint_path(painter)
        frame_marks.paint(painter, QRectF(rect), QRectF(whole), self.overlays, self.boxes, self._box)
        frame_marks.paint_region(painter, QRectF(rect), self.region, self.pivot)
        if self.scope is not None and rect.height() > 200 and not self.drawing:
            self._paint_scope(painter, rect)

    def _paint_sides(self, painter: QPainter, rect: QRect) -> None:
        """Both pictures whole, each half as wide as one alone."""
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        assert self._image is not None
        assert self._still is not None
        room = QRectF(self.rect()).adjusted(MARGIN, MARGIN, -MARGIN, -MARGIN)
        width = (room.width() - 6) / 2
        height = min(width * rect.height() / rect.width(), room.height())
        width = height * rect.width() / rect.height()
        for image, words, left in (
            (self._image, self.names[0], room.center().x() - 3 - width),
            (self._still, self.names[1], room.center().x() + 3),
        ):  # fmt: skip
            box = QRectF(left, room.center().y() - height / 2, width, height)
            painter.drawImage(box, image)
            self._paint_name(painter, QRectF(box.left() + 8, box.bottom() - 30, 70, 22), words)

    def _paint_name(self, painter: QPainter, at: QRectF, words: str) -> None:
        painter.setFont(theme.words(13, medium=True))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(20, 22, 21, 170))
        painter.drawRoundedRect(at, 3, 3)
        painter.setPen(QColor(theme.TEXT))
        painter.drawText(at, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_split(self, painter: QPainter, rect: QRect) -> None:
        assert self._still is not None
        x = rect.left() + round(rect.width() * self.split)
        painter.save()
        painter.setClipRect(QRect(x, rect.top(), rect.right() - x + 1, rect.height()))
        painter.drawImage(rect, self._still)
        painter.restore()
        painter.fillRect(QRectF(x - 1, rect.top(), 2, rect.height()), QColor(theme.GREASE))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        grip = QRectF(x - 5, rect.center().y() - 17, 10, 34)
        painter.setPen(QPen(QColor("#20221f"), 1))
        painter.setBrush(QColor(theme.GREASE))
        painter.drawRoundedRect(grip, 4, 4)
        for words, at in zip(
            self.names,
            (QRectF(x - 84, rect.bottom() - 30, 70, 22), QRectF(x + 14, rect.bottom() - 30, 54, 22)),
            strict=True,
        ):
            self._paint_name(painter, at, words)

    def _paint_scope(self, painter: QPainter, rect: QRect) -> None:
        """The path of the frame's centre over the last second and a half."""
        trace = self.scope
        assert trace is not None
        box = self._scope_rect()
        painter.setPen(QPen(QColor(255, 255, 255, 38), 1))
        painter.setBrush(QColor(18, 20, 19, 205))
        painter.drawRoundedRect(box, 5, 5)
        reach = max(1.0, float(np.abs(trace.centre).max(initial=0.0)))
        middle, radius = box.center() + QPointF(0, 5), 40.0
        painter.setPen(QPen(QColor(255, 255, 255, 46), 1))
        painter.drawLine(middle - QPointF(radius, 0), middle + QPointF(radius, 0))
        painter.drawLine(middle - QPointF(0, radius), middle + QPointF(0, radius))
        painter.setFont(theme.words(12))
        painter.setPen(QColor(theme.DIM))
        painter.drawText(
            box.adjusted(7, 3, 0, 0),
            Qt.AlignmentFlag.AlignTop,
            f"± {reach:.1f} px" if reach < 10 else f"± {reach:.0f} px",
        )
        inside = (trace.t <= self.time + 1e-6) & (trace.t >= self.time - 1.5)
        points = trace.centre[inside] * (radius / reach)
        if not len(points):
            return
        painter.setBrush(Qt.BrushStyle.NoBrush)
        half = len(points) // 2
        for part, alpha in ((points[: half + 1], 110), (points[half:], 255)):
            path = QPainterPath(middle + QPointF(*map(float, part[0])))
            for x, y in part[1:]:
                path.lineTo(middle.x() + x, middle.y() + y)
            ink = QColor(theme.LAMP)
            ink.setAlpha(alpha)
            painter.setPen(QPen(ink, 1.5))
            painter.drawPath(path)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme.LAMP))
        painter.drawEllipse(middle + QPointF(*map(float, points[-1])), 3, 3)

    def _scope_rect(self) -> QRectF:
        rect = self.frame_rect()
        return QRectF(rect.right() - 116, rect.bottom() - 116, 106, 106)

    def _near_pivot(self, place: QPointF) -> bool:
        if self.pivot is None:
            return False
        rect = QRectF(self.frame_rect())
        at = rect.center() + QPointF(*self.pivot) * rect.height()
        return (at - place).manhattanLength() < 14

    def _near_split(self, x: float) -> bool:
        rect = self.frame_rect()
        split = self._still is not None and self.picture is not None and self.picture.request.mode == "split"
        return split and abs(x - rect.left() - rect.width() * self.split) < 9

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            if self._near_split(event.position().x()):
                self._dragging = True
            elif self.drawing:
                self._box = [event.position()]
            elif self._near_pivot(event.position()):
                self._pivoting = True
                self.pivot_began.emit()
            elif self._press_plot(event.position()):
                pass
            else:
                self.clicked.emit()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            rect = self.frame_rect()
            self.split = min(max((event.position().x() - rect.left()) / max(rect.width(), 1), 0.0), 1.0)
            self.update()
        if self._plot is not None:
            self._move_plot(event.position())
            return
        if self._box:
            self._box.append(event.position())
            self.update()
            return
        if self._pivoting:
            box = QRectF(self.frame_rect())
            at = (event.position() - box.center()) / box.height()
            self.pivot_moved.emit(round(at.x(), 4), round(at.y(), 4))
            return
        over = self._dragging or self._near_split(event.position().x())
        self.setCursor(Qt.CursorShape.SplitHCursor if over else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._dragging = False
        if self._pivoting:
            self._pivoting = False
            self.pivot_ended.emit()
        if self._box:
            region = QRectF(self.frame_rect())
            rect, way = region if self.drawing_region else QRectF(self.whole_rect()), self._box
            self._box = []
            shares = np.array(
                [[(p.x() - rect.left()) / rect.width(), (p.y() - rect.top()) / rect.height()] for p in way]
            )
            shares = np.clip(shares, 0.0, 1.0) if not self.drawing_region else shares
            if np.ptp(shares, axis=0).min() > 0.01:
                self.box_drawn.emit(shares)
            self.update()
        if self._plot is not None:
            moved = (event.position() - self._plot[0]).manhattanLength() > 0
            self._plot = None
            self.plot_ended.emit(moved)

    def drop_box(self) -> None:
        """Forget what is being drawn."""
        self._box = []
        self.update()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        for name in frame_marks.OVERLAYS:
            action = menu.addAction(name, partial(self.toggle_overlay, name))
            action.setCheckable(True)
            action.setChecked(name in self.overlays)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(event.globalPos())

    def toggle_overlay(self, name: str) -> None:
        """Draw safe areas or thirds over the picture, or no longer."""
        self.overlays ^= {name}
        self.update()
        if name == frame_marks.OVER:
            self.resized.emit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.resized.emit()


def paint_hint(painter: QPainter, rect: QRect, words: str) -> None:
    """What to do next, in the middle of an empty well."""
    painter.setPen(QColor(theme.DIM))
    painter.setFont(theme.words(17))
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, words)


def image_of(rgb: np.ndarray) -> QImage:
    """An image of its own from RGB (rows, columns, 3) uint8."""
    rgb = np.ascontiguousarray(rgb)
    return QImage(rgb.data, rgb.shape[1], rgb.shape[0], rgb.strides[0], QImage.Format.Format_RGB888).copy()
