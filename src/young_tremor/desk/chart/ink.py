"""Traces as ink on paper, many times faster than the painter's own wide antialiased lines."""

from __future__ import annotations

import numpy as np
from PySide6.QtGui import QColor, QImage


def trace(canvas: QImage, ys: np.ndarray, ink: QColor, weight: float) -> None:
    """Draw a line that has one height in each column of pixels.

    A pixel is covered by its distance from the line through its column (straight, of the slope there), but no
    farther up or down than the neighbouring columns go, so that peaks do not overshoot.

    Parameters
    ----------
    canvas : QImage
        Format RGB32; changed in place. No painter may be at work on it.
    ys : (columns,) float64
        Heights in the middle of each column, device pixels from the top.
    ink : QColor
        Its alpha counts.
    weight : float
        Width of the line in device pixels.
    """
    reach = weight / 2 + 0.5
    ys = ys.astype(np.float32)
    sides = np.pad(ys, 1, mode="edge")
    left, right = sides[:-2], sides[2:]
    high, low = np.minimum(np.minimum(left, right), ys), np.maximum(np.maximum(left, right), ys)
    first = max(int(high.min() - reach) - 1, 0)
    last = min(int(low.max() + reach) + 2, canvas.height())
    if last <= first:
        return
    rows = np.arange(first, last, dtype=np.float32)[:, None] + np.float32(0.5)
    steep = (1 / np.sqrt(1 + ((right - left) / 2) ** 2)).astype(np.float32)
    cover = np.abs(rows - ys)
    cover *= steep
    np.subtract(np.float32(reach), cover, out=cover)
    np.minimum(cover, rows - (high - np.float32(reach)), out=cover)
    np.minimum(cover, (low + np.float32(reach)) - rows, out=cover)
    np.clip(cover, 0, 1, out=cover)
    cover *= np.float32(ink.alphaF())
    pixels = pixels_of(canvas)[first:last]
    for channel, value in enumerate((ink.blue(), ink.green(), ink.red())):
        under = pixels[..., channel].astype(np.float32)
        pixels[..., channel] = under + cover * (np.float32(value) - under) + np.float32(0.5)


def fill(canvas: QImage, ys: np.ndarray, ink: QColor, share: float) -> None:
    """Wash what lies under a line with ``share`` of the ink; ``ys`` (columns,) as in :func:`trace`."""
    rows = np.arange(canvas.height(), dtype=np.float32)[:, None] + np.float32(0.5)
    cover = np.clip(rows - ys.astype(np.float32) + np.float32(0.5), 0, 1) * np.float32(share)
    pixels = pixels_of(canvas)
    for channel, value in enumerate((ink.blue(), ink.green(), ink.red())):
        under = pixels[..., channel].astype(np.float32)
        pixels[..., channel] = under + cover * (np.float32(value) - under) + np.float32(0.5)


def pixels_of(canvas: QImage) -> np.ndarray:
    """The memory of an RGB32 image: (rows, columns, 4) uint8, blue first."""
    rows = np.frombuffer(canvas.bits(), np.uint8).reshape(canvas.height(), canvas.bytesPerLine())
    return rows[:, : 4 * canvas.width()].reshape(canvas.height(), canvas.width(), 4)
