"""How a preset looks in the browser: a small print of the current shot moves as it would."""

from __future__ import annotations

import math
import time

import numpy as np
from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.engine.library.translations import first_sentence
from young_tremor.model.project import Preset

ROW = 68
REST = np.zeros((1, 4))
MORE = 3.0  # so much larger than life the small print moves


class PresetPainter(QStyledItemDelegate):
    """Draws a preset in the list: a moving print, its path, name, group and note, a star for favourites."""

    def __init__(self, presets: tuple[Preset, ...]) -> None:
        super().__init__()
        self.presets = presets
        self.image: QImage | None = None
        self.motions: dict[Preset, np.ndarray] = {}  # those that are not there yet lie still
        self.still = False  # nothing moves by itself
        self.width = 360  # pixels of one entry: so many that whole columns fill the list
        self.favourites: frozenset[str] = frozenset()

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        return QSize(self.width, ROW)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        preset = self.presets[index.data(Qt.ItemDataRole.UserRole)]
        rect: QRect = option.rect
        state: QStyle.StateFlag = option.state
        painter.save()
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        if state & (QStyle.StateFlag.State_Selected | QStyle.StateFlag.State_MouseOver):
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor("#47524d"))
            painter.drawRoundedRect(QRectF(rect).adjusted(2, 1, -2, -1), 4, 4)
        motion = self.motions.get(preset, REST)
        self._print(painter, QRectF(rect.left() + 10, rect.top() + 7, 96, 54), motion)
        self._path(painter, QRectF(rect.left() + 112, rect.top() + 7, 54, 54), motion)
        left = rect.left() + 178
        painter.setFont(theme.text_font(15))
        painter.setPen(QColor(theme.TEXT))
        painter.drawText(QRectF(left, rect.top() + 5, 240, 20), Qt.AlignmentFlag.AlignVCenter, tr(preset.name))
        painter.setFont(theme.text_font(12))
        painter.setPen(QColor(theme.FAINT))
        painter.drawText(
            QRectF(left, rect.top() + 5, rect.width() - 216, 20),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            tr(preset.group),
        )
        self._star(painter, star_box(rect), preset.name in self.favourites)
        painter.setPen(QColor(theme.DIM))
        painter.setFont(theme.text_font(13))
        note = QRectF(left, rect.top() + 25, rect.width() - 192, 38)
        words = painter.fontMetrics().elidedText(
            tr(first_sentence(preset.note)).rstrip(".") + ".", Qt.TextElideMode.ElideRight, round(2 * note.width()) - 40
        )
        painter.drawText(note, Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignTop, words)
        painter.restore()

    def _print(self, painter: QPainter, box: QRectF, motion: np.ndarray) -> None:
        """The shot's first picture under the preset's motion, larger than life."""
        at = 0 if self.still else int(time.monotonic() * 30) % len(motion)
        x, y, roll, zoom = motion[at].tolist()
        painter.save()
        painter.setClipRect(box)
        painter.fillRect(box, QColor(theme.WELL))
        painter.translate(box.center())
        painter.translate(QPointF(x, y) * (MORE * box.height() / 100))
        painter.rotate(MORE * roll)
        size = 1.12 * float(np.exp(MORE * zoom / 100))
        painter.scale(size, size)
        if self.image is not None:
            painter.drawImage(QRectF(-box.width() / 2, -box.height() / 2, box.width(), box.height()), self.image)
        painter.restore()

    @staticmethod
    def _star(painter: QPainter, box: QRectF, on: bool) -> None:
        turns = [-math.pi / 2 + k * math.pi / 5 for k in range(10)]
        sizes = [6.5 if k % 2 == 0 else 2.8 for k in range(10)]
        points = [box.center() + QPointF(math.cos(a), math.sin(a)) * r for a, r in zip(turns, sizes, strict=True)]
        painter.setPen(QPen(QColor(theme.LAMP if on else theme.LINE), 1))
        painter.setBrush(QColor(theme.LAMP) if on else Qt.BrushStyle.NoBrush)
        painter.drawPolygon(QPolygonF(points))

    def _path(self, painter: QPainter, box: QRectF, motion: np.ndarray) -> None:
        painter.setPen(QPen(QColor(0, 0, 0, 60), 1))
        painter.setBrush(theme.paper.colour("paper"))
        painter.drawRect(box)
        way = motion[:, :2]
        scale = 0.44 * box.height() / max(1.2, float(np.abs(way).max()))
        painter.setPen(QPen(theme.paper.colour("x"), 1.1))
        painter.drawPolyline(QPolygonF([box.center() + QPointF(x * scale, y * scale) for x, y in way.tolist()]))


def star_box(row: QRect) -> QRectF:
    """Where a row's star is: a click there makes it a favourite."""
    return QRectF(row.right() - 28, row.top() + 4, 22, 22)
