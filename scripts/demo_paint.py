"""Brushes of the demo footage: seeded noise, painted layers, light and shadow."""

from __future__ import annotations

import os

import cv2
import numpy as np

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QImage,
    QLinearGradient,
    QPainter,
    QPolygonF,
)

W, H = 1920, 1080
rng = np.random.default_rng(1877)


def noise(size: tuple[int, int], cells: int, stretch: float = 1.0) -> np.ndarray:
    """Smooth noise (h, w), about -1…1."""
    h, w = size
    grid = rng.normal(size=(max(2, int(cells * h / w * stretch)), max(2, cells))).astype(np.float32)
    return cv2.resize(grid, (w, h), interpolation=cv2.INTER_CUBIC)


def cloud(size: tuple[int, int], start: int, octaves: int, stretch: float = 1.0) -> np.ndarray:
    total = sum(noise(size, start * 2**k, stretch) / 1.7**k for k in range(octaves))
    return total / np.abs(total).max()


class Layer:
    """A painted layer: colour (h, w, 3) float 0…1 and coverage (h, w, 1)."""

    view = (1.0, 0.0, 0.0)  # how much closer it is looked at, and which place lies in the corner then

    def __init__(self, size: tuple[int, int] = (W, H)) -> None:
        zoom, left, top = self.view
        whole = size == (W, H)
        wide, high = size if whole else (round(zoom * side) for side in size)
        self.image = QImage(wide, high, QImage.Format.Format_ARGB32_Premultiplied)
        self.image.fill(Qt.GlobalColor.transparent)
        self.painter = QPainter(self.image)
        self.painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.TextAntialiasing)
        self.painter.setPen(Qt.PenStyle.NoPen)
        self.painter.scale(zoom, zoom)
        if whole:
            self.painter.translate(-left, -top)

    def done(self, blur: float = 0.0) -> tuple[np.ndarray, np.ndarray]:
        self.painter.end()
        data = np.frombuffer(self.image.constBits(), np.uint8).reshape(self.image.height(), self.image.width(), 4)
        data = data.astype(np.float32) / 255
        if blur:
            data = cv2.GaussianBlur(data, (0, 0), blur)
        return data[..., 2::-1].copy(), data[..., 3:].copy()

    def rect(self, x: float, y: float, w: float, h: float, colour: str | QBrush, radius: float = 0) -> None:
        self.painter.setBrush(colour if isinstance(colour, QBrush) else QColor(colour))
        self.painter.drawRoundedRect(QRectF(x, y, w, h), radius, radius)

    def poly(self, points: list[tuple[float, float]], colour: str | QBrush) -> None:
        self.painter.setBrush(colour if isinstance(colour, QBrush) else QColor(colour))
        self.painter.drawPolygon(QPolygonF([QPointF(*p) for p in points]))

    def text(
        self, rect: tuple[float, float, float, float], words: str, px: int, colour: str, bold: bool = True
    ) -> None:
        font = QFont("Barlow Semi Condensed")
        font.setPixelSize(px)
        font.setWeight(QFont.Weight.Medium if bold else QFont.Weight.Normal)
        self.painter.setFont(font)
        self.painter.setPen(QColor(colour))
        self.painter.drawText(QRectF(*rect), Qt.AlignmentFlag.AlignCenter, words)
        self.painter.setPen(Qt.PenStyle.NoPen)


def steel(x0: float, x1: float, dark: str, mid: str, light: str) -> QBrush:
    g = QLinearGradient(x0, 0, x1, 0)
    for at, c in ((0, dark), (0.18, mid), (0.34, light), (0.5, mid), (0.85, dark), (1, mid)):
        g.setColorAt(at, QColor(c))
    return QBrush(g)


def over(under: np.ndarray, layer: tuple[np.ndarray, np.ndarray], dx: int = 0, dy: int = 0) -> None:
    """Lay a premultiplied layer over a picture in place, moved by whole pixels."""
    colour, cover = layer
    h, w = cover.shape[:2]
    y0, x0 = max(dy, 0), max(dx, 0)
    y1, x1 = min(dy + h, H), min(dx + w, W)
    part = under[y0:y1, x0:x1]
    part *= 1 - cover[y0 - dy : y1 - dy, x0 - dx : x1 - dx]
    part += colour[y0 - dy : y1 - dy, x0 - dx : x1 - dx]


def shadow(under: np.ndarray, cover: np.ndarray, dx: int, dy: int, blur: float, depth: float) -> None:
    """Darken a picture by the blurred, moved coverage of a layer."""
    soft = cv2.GaussianBlur(cover[..., 0] if cover.ndim == 3 else cover, (0, 0), blur)
    soft = cv2.warpAffine(soft, np.float32([[1, 0, dx], [0, 1, dy]]), (W, H))
    under *= (1 - depth * soft)[..., None]
