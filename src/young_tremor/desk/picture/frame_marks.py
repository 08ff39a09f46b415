"""What is drawn over the picture: safe areas, thirds, and boxes that must stay clear."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from young_tremor.desk.kit import theme
from young_tremor.desk.state.desk_state import PATH

SAFE = "Safe areas (EBU R 95)"
THIRDS = "Thirds"
OVER = "Overscan"
LENS = "Magnifier"
OVERLAYS = (SAFE, THIRDS, OVER, LENS, PATH)
ACTION, GRAPHICS = 0.93, 0.90  # shares of width and height, EBU R 95


def dim(painter: QPainter, whole: QRectF, frame: QRectF) -> None:
    """Darken what lies outside the frame."""
    path = QPainterPath()
    path.addRect(whole)
    path.addRect(frame)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(29, 31, 30, 165))
    painter.drawPath(path)
    painter.setPen(QPen(QColor(theme.LAMP), 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(frame)


def paint(
    painter: QPainter,
    rect: QRectF,
    whole: QRectF,
    overlays: frozenset[str],
    boxes: list[np.ndarray],
    drawn: list[QPointF],
) -> None:
    """Draw the overlays that are on and the boxes, a box that leaves the frame in red."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if SAFE in overlays:
        for share in (ACTION, GRAPHICS):
            inner = QRectF(0, 0, rect.width() * share, rect.height() * share)
            inner.moveCenter(rect.center())
            painter.setPen(QPen(QColor(255, 255, 255, 120), 1))
            painter.drawRect(inner)
    if THIRDS in overlays:
        painter.setPen(QPen(QColor(255, 255, 255, 90), 1))
        for k in (1, 2):
            x, y = rect.left() + rect.width() * k / 3, rect.top() + rect.height() * k / 3
            painter.drawLine(QPointF(x, rect.top()), QPointF(x, rect.bottom()))
            painter.drawLine(QPointF(rect.left(), y), QPointF(rect.right(), y))
    for box in boxes:
        places = np.nan_to_num(box) * (whole.width(), whole.height()) + (whole.left(), whole.top())
        low, high = places.min(axis=0), places.max(axis=0)
        inside = low[0] >= rect.left() - 1 and low[1] >= rect.top() - 1
        inside = inside and high[0] <= rect.right() + 1 and high[1] <= rect.bottom() + 1
        out = np.isnan(box).any() or not inside
        painter.setPen(QPen(QColor(theme.BAD if out else theme.GOOD), 1.6, Qt.PenStyle.DashLine))
        painter.save()
        painter.setClipRect(whole.adjusted(-1, -1, 1, 1))
        painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in places.tolist()]))
        painter.restore()
    if drawn:
        painter.setPen(QPen(QColor(theme.LAMP), 1.4))
        painter.drawPolyline(QPolygonF(drawn))
        painter.setPen(QPen(QColor(theme.LAMP), 1, Qt.PenStyle.DashLine))
        painter.drawRect(QPolygonF(drawn).boundingRect())


def paint_region(painter: QPainter, rect: QRectF, region: np.ndarray | None, pivot: tuple[float, float] | None) -> None:
    """Draw where a region acts, and the point about which the picture turns."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if region is not None:
        painter.setPen(QPen(QColor(theme.LAMP), 1.3, Qt.PenStyle.DotLine))
        places = region * (rect.width(), rect.height()) + (rect.left(), rect.top())
        painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in places.tolist()]))
    if pivot is not None:
        at = rect.center() + QPointF(*pivot) * rect.height()
        for ink, weight in ((QColor(0, 0, 0, 150), 3.4), (QColor(theme.LAMP), 1.6)):
            painter.setPen(QPen(ink, weight))
            painter.drawEllipse(at, 6, 6)
            painter.drawLine(at - QPointF(11, 0), at + QPointF(11, 0))
            painter.drawLine(at - QPointF(0, 11), at + QPointF(0, 11))
