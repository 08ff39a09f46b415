"""The list of presets that drops from its button."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import (
    QFrame,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from young_tremor.desk import theme
from young_tremor.desk.column import section
from young_tremor.engine import library, traces
from young_tremor.model.project import Preset

ROW = 62


class _Painter(QStyledItemDelegate):
    def __init__(self, presets: tuple[Preset, ...]) -> None:
        super().__init__()
        self._presets = presets
        self._paths: dict[int, np.ndarray] = {}

    def sizeHint(self, option: QStyleOptionViewItem, index: object) -> QSize:
        return QSize(360, ROW)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index) -> None:  # type: ignore[no-untyped-def, override]
        preset = self._presets[index.row()]
        rect: QRect = option.rect  # type: ignore[attr-defined]
        state: QStyle.StateFlag = option.state  # type: ignore[attr-defined]
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if state & (QStyle.StateFlag.State_Selected | QStyle.StateFlag.State_MouseOver):
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor("#47524d"))
            painter.drawRoundedRect(QRectF(rect).adjusted(2, 1, -2, -1), 4, 4)
        box = QRectF(rect.left() + 10, rect.top() + 8, 62, 46)
        painter.setPen(QPen(QColor(0, 0, 0, 60), 1))
        painter.setBrush(theme.paper.colour("paper"))
        painter.drawRect(box)
        path = self._paths.setdefault(index.row(), traces.preset_trace(preset))
        scale = 17 / max(1.4, float(np.abs(path).max()))
        painter.setPen(QPen(theme.paper.colour("x"), 1.1))
        painter.drawPolyline(QPolygonF([box.center() + QPointF(x * scale, y * scale) for x, y in path.tolist()]))
        left = rect.left() + 84
        painter.setFont(theme.words(15))
        painter.setPen(QColor(theme.TEXT))
        painter.drawText(QRectF(left, rect.top() + 6, 220, 20), Qt.AlignmentFlag.AlignVCenter, preset.name)
        painter.setFont(theme.words(12))
        painter.setPen(QColor(theme.FAINT))
        painter.drawText(
            QRectF(left, rect.top() + 6, rect.width() - 98, 20),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, preset.group,
        )  # fmt: skip
        painter.setPen(QColor(theme.DIM))
        painter.setFont(theme.words(13))
        note = QRectF(left, rect.top() + 25, rect.width() - 98, 34)
        painter.drawText(note, Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignTop, _first(preset.note))
        painter.restore()


def _first(note: str) -> str:
    """What stands before the second sentence."""
    return note.split(". ")[0].rstrip(".") + "."


class PresetsPopup(QFrame):
    """Pick one: it replaces the shot's shake, in one step that can be undone."""

    picked = Signal(object)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        presets = library.presets()
        self.setAccessibleName("Presets")
        self.setStyleSheet(f"PresetsPopup {{ background: {theme.PANEL_COLOUR}; border: 1px solid {theme.LINE}; }}")
        self.list = QListWidget()
        self.list.setAccessibleName("Presets")
        self.list.setMouseTracking(True)
        self._painter = _Painter(presets)
        self.list.setItemDelegate(self._painter)
        for preset in presets:
            item = QListWidgetItem(preset.name)
            item.setToolTip(preset.note)
            self.list.addItem(item)
        self.list.itemClicked.connect(lambda item: self._pick(presets[self.list.row(item)]))
        self.list.itemActivated.connect(lambda item: self._pick(presets[self.list.row(item)]))
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 10, 8, 8)
        title = section("Presets · the lens turns are for any focal length")
        title.setContentsMargins(8, 0, 0, 4)
        column.addWidget(title)
        column.addWidget(self.list)
        self.setFixedSize(420, min(44 + ROW * len(presets) + 14, 640))

    def _pick(self, preset: Preset) -> None:
        if self.isVisible():
            self.hide()
            self.picked.emit(preset)
