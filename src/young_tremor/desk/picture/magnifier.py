"""A magnifier over the picture: pixels as they are, and the values of the one under the pointer."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen

from young_tremor.desk.kit import theme

ACROSS, LARGE = 15, 9  # pixels seen, and how large each is drawn
FOOT = 20.0


def paint(painter: QPainter, image: QImage, rect: QRectF, pointer: QPointF, room: QRectF) -> None:
    """Draw it beside the pointer. ``rect``: where the image lies; ``room``: in which the magnifier stays."""
    x = int((pointer.x() - rect.left()) / rect.width() * image.width())
    y = int((pointer.y() - rect.top()) / rect.height() * image.height())
    if not (0 <= x < image.width() and 0 <= y < image.height()):
        return
    side = float(ACROSS * LARGE)
    left = pointer.x() + 18 if pointer.x() + 18 + side < room.right() else pointer.x() - 18 - side
    top = min(max(pointer.y() - side / 2, room.top()), room.bottom() - side - FOOT)
    box = QRectF(left, top, side, side)
    painter.setPen(QPen(QColor("#1a1e1c"), 1))
    painter.setBrush(QColor(theme.WELL))
    painter.drawRect(box.adjusted(-1, -1, 1, 1 + FOOT))
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, False)
    seen = image.copy(x - ACROSS // 2, y - ACROSS // 2, ACROSS, ACROSS)
    painter.drawImage(box, seen)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, True)
    painter.setPen(QPen(QColor(theme.LAMP), 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(QRectF(left + ACROSS // 2 * LARGE, top + ACROSS // 2 * LARGE, LARGE, LARGE))
    pixel = image.pixelColor(x, y)
    painter.setFont(theme.numbers(12))
    painter.setPen(QColor(theme.TEXT))
    words = f"{pixel.red():3d} {pixel.green():3d} {pixel.blue():3d}"
    painter.drawText(QRectF(left, top + side, side, FOOT), Qt.AlignmentFlag.AlignCenter, words)
