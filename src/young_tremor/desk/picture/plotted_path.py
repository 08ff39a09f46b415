"""The path of a plotted strand over the picture: drawn as ink, dragged by its keys and by two handles."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr

NEAR = 12  # pixels
Path = tuple[np.ndarray, np.ndarray, np.ndarray]  # line, places, times; frame heights from the centre


@dataclass
class DragGrip:
    """What a drag has hold of: where it began, the key (-1: none), and what it does (``shift``, ``roll``, ``zoom``)."""

    start: QPointF
    key: int
    role: str


def places(frame: QRectF, units: np.ndarray) -> list[QPointF]:
    """Where places in frame heights from the centre, (n, 2), lie in the widget."""
    return [frame.center() + QPointF(x, y) * frame.height() for x, y in units.tolist()]


def handles(frame: QRectF) -> dict[str, QPointF]:
    """What turns and what scales."""
    return {
        "roll": frame.center() + QPointF(frame.width() * 0.3, 0),
        "zoom": frame.center() + QPointF(0, frame.height() * 0.3),
    }


def paint(painter: QPainter, frame: QRectF, path: Path) -> None:
    """The path as ink, its keys, and the two handles: one turns, one scales."""
    line, keys, _ = path
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for ink, weight in ((QColor(255, 255, 255, 90), 3.4), (QColor("#1f4fa3"), 1.6)):
        painter.setPen(QPen(ink, weight))
        painter.drawPolyline(QPolygonF(places(frame, line)))
    painter.setPen(QPen(QColor("#ffffff"), 1))
    for place in places(frame, keys):
        painter.setBrush(QColor("#1f4fa3"))
        painter.drawEllipse(place, 4, 4)
    for role, at in handles(frame).items():
        painter.setBrush(QColor("#2f7d53" if role == "roll" else "#a8740a"))
        painter.drawEllipse(at, 6, 6)
        painter.setFont(theme.text_font(12))
        painter.drawText(at + QPointF(10, 4), tr("Roll") if role == "roll" else tr("Scale"))


def grip(frame: QRectF, path: Path, place: QPointF, *, old_keys: bool) -> DragGrip:
    """What a press at a place takes hold of; a key that is there already only where ``old_keys`` are meant."""
    for role, at in handles(frame).items():
        if (at - place).manhattanLength() < NEAR:
            return DragGrip(place, -1, role)
    if not old_keys:
        return DragGrip(place, -1, "shift")
    near = [(p - place).manhattanLength() for p in places(frame, path[1])]
    return DragGrip(place, int(np.argmin(near)) if near and min(near) < NEAR else -1, "shift")


def drag_distance(frame: QRectF, held: DragGrip, place: QPointF) -> tuple[float, float]:
    """How far a drag has gone: degrees, percent, or percent of frame height across and down."""
    way = (place - held.start) / frame.height()
    if held.role == "roll":
        a, b = (p - frame.center() for p in (held.start, place))
        turned = math.degrees(math.atan2(b.y(), b.x()) - math.atan2(a.y(), a.x()))
        return (turned + 180) % 360 - 180, 0.0
    if held.role == "zoom":
        return 100 * math.log(max(1 + 2 * way.y(), 0.05)), 0.0
    return 100 * way.x(), 100 * way.y()
