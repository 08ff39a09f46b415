"""The path of the frame's centre in a corner of the picture; it can be dragged to another one."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen, QPolygonF

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
    reach = max(1.0, float(np.abs(trace.centre).max(initial=0.0)))
    middle = box.center() + QPointF(0, 5)
    words = f"± {reach:.1f} px" if reach < 10 else f"± {reach:.0f} px"
    painter.drawImage(box.topLeft() - QPointF(1, 1), _ground(words, painter.device().devicePixelRatioF()))
    inside = (trace.t <= time + 1e-6) & (trace.t >= time - SECONDS)
    points = trace.centre[inside] * (RADIUS / reach)
    if not len(points):
        return
    painter.setBrush(Qt.BrushStyle.NoBrush)
    half = len(points) // 2
    for part, alpha in ((points[: half + 1], 110), (points[half:], 255)):
        ink = QColor(theme.LAMP)
        ink.setAlpha(alpha)
        painter.setPen(QPen(ink, 1.5))
        painter.drawPolyline(QPolygonF([middle + QPointF(x, y) for x, y in part.tolist()]))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme.LAMP))
    painter.drawEllipse(middle + QPointF(*map(float, points[-1])), 3, 3)


@lru_cache(maxsize=4)
def _ground(words: str, ratio: float) -> QImage:
    """The box with its cross and how far its ends are away, painted once: the path over it changes with every frame."""
    side = round((SIZE + 2) * ratio)
    ground = QImage(side, side, QImage.Format.Format_ARGB32_Premultiplied)
    ground.setDevicePixelRatio(ratio)
    ground.fill(Qt.GlobalColor.transparent)
    painter = QPainter(ground)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    box = QRectF(1, 1, SIZE, SIZE)
    painter.setPen(QPen(QColor(255, 255, 255, 38), 1))
    painter.setBrush(QColor(18, 20, 19, 205))
    painter.drawRoundedRect(box, 5, 5)
    middle = box.center() + QPointF(0, 5)
    painter.setPen(QPen(QColor(255, 255, 255, 46), 1))
    painter.drawLine(middle - QPointF(RADIUS, 0), middle + QPointF(RADIUS, 0))
    painter.drawLine(middle - QPointF(0, RADIUS), middle + QPointF(0, RADIUS))
    painter.setFont(theme.text_font(12))
    painter.setPen(QColor(theme.DIM))
    painter.drawText(box.adjusted(7, 3, 0, 0), Qt.AlignmentFlag.AlignTop, words)
    painter.end()
    return ground
