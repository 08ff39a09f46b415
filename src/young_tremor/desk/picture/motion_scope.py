"""The path of the frame's centre in a corner of the picture; it can be dragged to another one."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen

from young_tremor.desk.kit import theme
from young_tremor.engine.analysis.traces import CameraTrace

SIZE, AWAY, RADIUS = 106.0, 10.0, 40.0
SECONDS = 1.5  # that are drawn


def place(frame: QRectF, corner: tuple[bool, bool]) -> QRectF:
    """Where it lies: ``corner`` says whether at the right and at the foot."""
    left = frame.right() - AWAY - SIZE if corner[0] else frame.left() + AWAY
    top = frame.bottom() - AWAY - SIZE if corner[1] else frame.top() + AWAY
    return QRectF(left, top, SIZE, SIZE)


def paint(painter: QPainter, box: QRectF, trace: CameraTrace, time: float) -> None:
    """Draw the last second and a half up to ``time``."""
    painter.setPen(QPen(QColor(255, 255, 255, 38), 1))
    painter.setBrush(QColor(18, 20, 19, 205))
    painter.drawRoundedRect(box, 5, 5)
    reach = max(1.0, float(np.abs(trace.centre).max(initial=0.0)))
    middle = box.center() + QPointF(0, 5)
    painter.setPen(QPen(QColor(255, 255, 255, 46), 1))
    painter.drawLine(middle - QPointF(RADIUS, 0), middle + QPointF(RADIUS, 0))
    painter.drawLine(middle - QPointF(0, RADIUS), middle + QPointF(0, RADIUS))
    painter.setFont(theme.text_font(12))
    painter.setPen(QColor(theme.DIM))
    words = f"± {reach:.1f} px" if reach < 10 else f"± {reach:.0f} px"
    painter.drawText(box.adjusted(7, 3, 0, 0), Qt.AlignmentFlag.AlignTop, words)
    inside = (trace.t <= time + 1e-6) & (trace.t >= time - SECONDS)
    points = trace.centre[inside] * (RADIUS / reach)
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
