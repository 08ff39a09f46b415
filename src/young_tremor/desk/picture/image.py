"""Pictures of the core as images of the desk, and the words where there is none."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QRect, Qt
from PySide6.QtGui import QColor, QImage, QPainter

from young_tremor.desk.kit import theme


def paint_hint(painter: QPainter, rect: QRect, words: str) -> None:
    """What to do next, in the middle of an empty well."""
    painter.setPen(QColor(theme.DIM))
    painter.setFont(theme.text_font(17))
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, words)


def image_of(rgb: np.ndarray) -> QImage:
    """An image of its own from RGB (rows, columns, 3) uint8."""
    rgb = np.ascontiguousarray(rgb)
    return QImage(rgb.data, rgb.shape[1], rgb.shape[0], rgb.strides[0], QImage.Format.Format_RGB888).copy()
