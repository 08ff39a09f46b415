"""Two pictures in one well: a line between them that can be dragged, and their names."""

from __future__ import annotations

from PySide6.QtCore import QRect, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr


def paint_name(painter: QPainter, at: QRectF, words: str) -> None:
    """What a picture is, on a dark label that is as wide as its words need."""
    painter.setFont(theme.text_font(13, medium=True))
    at = QRectF(at)
    at.setWidth(max(at.width(), painter.fontMetrics().horizontalAdvance(tr(words)) + 16))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(20, 22, 21, 170))
    painter.drawRoundedRect(at, 3, 3)
    painter.setPen(QColor(theme.TEXT))
    painter.drawText(at, Qt.AlignmentFlag.AlignCenter, tr(words))


def paint_line(painter: QPainter, shown: QRect, x: int, names: tuple[str, str]) -> None:
    """The line at ``x`` over what is shown of the picture, its grip, and the names on both sides."""
    painter.fillRect(QRectF(x - 1, shown.top(), 2, shown.height()), QColor(theme.GREASE))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    grip = QRectF(x - 5, shown.center().y() - 17, 10, 34)
    painter.setPen(QPen(QColor("#20221f"), 1))
    painter.setBrush(QColor(theme.GREASE))
    painter.drawRoundedRect(grip, 4, 4)
    foot = shown.bottom() - 30
    for words, at in zip(names, (QRectF(x - 84, foot, 70, 22), QRectF(x + 14, foot, 54, 22)), strict=True):
        paint_name(painter, at, words)
