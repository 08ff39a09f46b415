"""The outline of the chosen plate over the picture: it is moved by dragging, its corners scale, its handle turns."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from young_tremor.desk.kit import theme

NEAR, ARM = 10.0, 26.0  # pixels: within which a corner is grabbed, and how far out the handle stands


def places(rect: QRectF, corners: np.ndarray) -> list[QPointF]:
    """Corners (4, 2) as shares of the picture, in the widget."""
    return [QPointF(rect.left() + x * rect.width(), rect.top() + y * rect.height()) for x, y in corners.tolist()]


def _middle(points: list[QPointF]) -> QPointF:
    return QPointF(sum(p.x() for p in points) / 4, sum(p.y() for p in points) / 4)


def _handle(points: list[QPointF]) -> QPointF:
    """Where the handle that turns stands: out from the middle of the upper side."""
    top, middle = (points[0] + points[1]) / 2, _middle(points)
    way = top - middle
    return top + way / max(math.hypot(way.x(), way.y()), 1.0) * ARM


def paint(painter: QPainter, rect: QRectF, corners: np.ndarray) -> None:
    """The outline, its corners, and the handle."""
    points = places(rect, corners)
    handle = _handle(points)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for ink, weight in ((QColor(20, 22, 21, 150), 3.2), (QColor(theme.LAMP), 1.3)):
        painter.setPen(QPen(ink, weight))
        painter.drawPolygon(QPolygonF(points))
        painter.drawLine((points[0] + points[1]) / 2, handle)
    painter.setBrush(QColor(theme.LAMP))
    painter.setPen(QPen(QColor("#20221f"), 1))
    for point in points:
        painter.drawRect(QRectF(point.x() - 3.5, point.y() - 3.5, 7, 7))
    painter.drawEllipse(handle, 4.5, 4.5)


def paint_lines(painter: QPainter, rect: QRectF, lines: list[np.ndarray]) -> None:
    """Lines of equal distance over the picture."""
    painter.save()
    painter.setClipRect(rect)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for line in lines:
        shape = QPolygonF(
            [QPointF(rect.left() + x * rect.width(), rect.top() + y * rect.height()) for x, y in line.tolist()]
        )
        for ink, weight in ((QColor(20, 22, 21, 130), 2.6), (QColor(theme.TICK), 1.1)):
            painter.setPen(QPen(ink, weight))
            painter.drawPolygon(shape)
    painter.restore()


def grip(rect: QRectF, corners: np.ndarray, place: QPointF) -> str:
    """What a press takes hold of: ``size``, ``angle``, ``move``, or nothing."""
    points = places(rect, corners)
    if (_handle(points) - place).manhattanLength() < NEAR:
        return "angle"
    if any((point - place).manhattanLength() < NEAR for point in points):
        return "size"
    return "move" if QPolygonF(points).containsPoint(place, Qt.FillRule.OddEvenFill) else ""


def drag_distance(rect: QRectF, corners: np.ndarray, role: str, start: QPointF, place: QPointF) -> tuple[float, float]:
    """How far a drag that began over ``corners`` has gone: frame heights across and down, a factor, or degrees."""
    if role == "move":
        way = (place - start) / rect.height()
        return way.x(), way.y()
    middle = _middle(places(rect, corners))
    a, b = start - middle, place - middle
    if role == "size":
        return math.hypot(b.x(), b.y()) / max(math.hypot(a.x(), a.y()), 1.0), 0.0
    turned = math.degrees(math.atan2(b.y(), b.x()) - math.atan2(a.y(), a.x()))
    return (turned + 180) % 360 - 180, 0.0
