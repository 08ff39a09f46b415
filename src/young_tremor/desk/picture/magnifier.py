"""A magnifier over the picture: pixels as they are, and the values of the one under the pointer."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen

from young_tremor.desk.kit import theme
from young_tremor.engine.preview.preview_worker import PreviewPicture

ACROSS, LARGE = 15, 9  # pixels seen, and how large each is drawn
LINE = 18.0  # pixels of a line of values


def paint(
    painter: QPainter, shown: tuple[QImage, PreviewPicture], rect: QRectF, pointer: QPointF, room: QRectF
) -> None:
    """Draw it beside the pointer. ``shown``: the image, and the picture that it is of; ``rect``: where it lies;
    ``room``: in which the magnifier stays."""
    image, picture = shown
    across, down = (pointer.x() - rect.left()) / rect.width(), (pointer.y() - rect.top()) / rect.height()
    if not (0 <= across < 1 and 0 <= down < 1):
        return
    x, y = int(across * image.width()), int(down * image.height())
    lines = picture.values_at(across, down) or _screen_line(image, x, y)
    side, foot = float(ACROSS * LARGE), LINE * len(lines) + 2
    left = pointer.x() + 18 if pointer.x() + 18 + side < room.right() else pointer.x() - 18 - side
    top = min(max(pointer.y() - side / 2, room.top()), room.bottom() - side - foot)
    box = QRectF(left, top, side, side)
    painter.setPen(QPen(QColor("#1a1e1c"), 1))
    painter.setBrush(QColor(theme.WELL))
    painter.drawRect(box.adjusted(-1, -1, 1, 1 + foot))
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, False)
    seen = image.copy(x - ACROSS // 2, y - ACROSS // 2, ACROSS, ACROSS)
    painter.drawImage(box, seen)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, True)
    painter.setPen(QPen(QColor(theme.LAMP), 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(QRectF(left + ACROSS // 2 * LARGE, top + ACROSS // 2 * LARGE, LARGE, LARGE))
    painter.setFont(theme.numbers(12))
    painter.setPen(QColor(theme.TEXT))
    for number, words in enumerate(lines):
        row = QRectF(left, top + side + 1 + number * LINE, side, LINE)
        painter.drawText(row, Qt.AlignmentFlag.AlignCenter, words)


def _screen_line(image: QImage, x: int, y: int) -> list[str]:
    pixel = image.pixelColor(x, y)
    return [f"{pixel.red():3d} {pixel.green():3d} {pixel.blue():3d}"]
