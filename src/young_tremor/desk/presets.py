"""The presets: found by group or by word, each moving a small print of the current shot."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPoint, QPointF, QRect, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QGuiApplication, QHideEvent, QImage, QPainter, QPen, QPolygonF, QShowEvent
from PySide6.QtWidgets import (
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from young_tremor.base.errors import TremorError
from young_tremor.desk import theme
from young_tremor.desk.column import section
from young_tremor.desk.transport import Segments
from young_tremor.engine import library, traces
from young_tremor.model.project import Preset
from young_tremor.model.shake import Jolts

ROW = 68
MORE = 3.0  # so much larger than life the small print moves
GROUPS = ("all", "held", "vehicle", "impact", "ground", "sea", "graphics", "film", "own")


class _Painter(QStyledItemDelegate):
    def __init__(self, presets: tuple[Preset, ...]) -> None:
        super().__init__()
        self.presets = presets
        self.image: QImage | None = None

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        return QSize(360, ROW)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        preset = self.presets[index.data(Qt.ItemDataRole.UserRole)]
        rect: QRect = option.rect  # type: ignore[attr-defined]
        state: QStyle.StateFlag = option.state  # type: ignore[attr-defined]
        painter.save()
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        if state & (QStyle.StateFlag.State_Selected | QStyle.StateFlag.State_MouseOver):
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor("#47524d"))
            painter.drawRoundedRect(QRectF(rect).adjusted(2, 1, -2, -1), 4, 4)
        motion = traces.preset_motion(preset)
        self._print(painter, QRectF(rect.left() + 10, rect.top() + 7, 96, 54), motion)
        self._path(painter, QRectF(rect.left() + 112, rect.top() + 7, 54, 54), motion)
        left = rect.left() + 178
        painter.setFont(theme.words(15))
        painter.setPen(QColor(theme.TEXT))
        painter.drawText(QRectF(left, rect.top() + 5, 240, 20), Qt.AlignmentFlag.AlignVCenter, preset.name)
        painter.setFont(theme.words(12))
        painter.setPen(QColor(theme.FAINT))
        painter.drawText(
            QRectF(left, rect.top() + 5, rect.width() - 192, 20),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, preset.group,
        )  # fmt: skip
        painter.setPen(QColor(theme.DIM))
        painter.setFont(theme.words(13))
        note = QRectF(left, rect.top() + 25, rect.width() - 192, 38)
        painter.drawText(note, Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignTop, _first(preset.note))
        painter.restore()

    def _print(self, painter: QPainter, box: QRectF, motion: np.ndarray) -> None:
        """The shot's first picture under the preset's motion, larger than life."""
        at = int(time.monotonic() * 30) % len(motion)
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

    def _path(self, painter: QPainter, box: QRectF, motion: np.ndarray) -> None:
        painter.setPen(QPen(QColor(0, 0, 0, 60), 1))
        painter.setBrush(theme.paper.colour("paper"))
        painter.drawRect(box)
        way = motion[:, :2]
        scale = 0.44 * box.height() / max(1.2, float(np.abs(way).max()))
        painter.setPen(QPen(theme.paper.colour("x"), 1.1))
        painter.drawPolyline(QPolygonF([box.center() + QPointF(x * scale, y * scale) for x, y in way.tolist()]))


def _first(note: str) -> str:
    """What stands before the second sentence."""
    return note.split(". ")[0].rstrip(".") + "."


class PresetsPopup(QFrame):
    """Pick one: it replaces the shot's shake, or with Shift is added to it, in one step that can be undone."""

    picked = Signal(object, bool)  # preset, whether it is added
    saved = Signal(str)  # keep the shot's shake under this name
    told = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self._presets = library.presets()
        self._own: set[str] = set()
        self._group = "all"
        self.setAccessibleName("Presets")
        self.setStyleSheet(f"PresetsPopup {{ background: {theme.PANEL_COLOUR}; border: 1px solid {theme.LINE}; }}")
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search presets")
        self.search.setAccessibleName("Search presets")
        self.search.textChanged.connect(lambda _: self._sift())
        self.search.returnPressed.connect(self._take_first)
        self.groups = Segments(tuple((g, g.capitalize(), f"Presets: {g}") for g in GROUPS), "Group")
        self.groups.chosen.connect(self._choose_group)
        self.list = QListWidget()
        self.list.setAccessibleName("Presets")
        self.list.setMouseTracking(True)
        self.list.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self._painter = _Painter(self._presets)
        self.list.setItemDelegate(self._painter)
        self.list.itemClicked.connect(self._pick)
        self.list.itemActivated.connect(self._pick)
        hint = QLabel("Click replaces the shake, Shift and click adds to it. The small prints move three times over.")
        hint.setStyleSheet(f"color: {theme.FAINT}; font-size: 12px;")
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 10)
        column.setSpacing(9)
        column.addWidget(section("Presets"))
        column.addWidget(self.search)
        column.addWidget(self.groups)
        column.addWidget(self.list, 1)
        column.addWidget(hint)
        self.name = QLineEdit()
        self.name.setPlaceholderText("Name for the shot’s shake")
        self.name.setAccessibleName("Name for the shot’s shake")
        self.name.returnPressed.connect(self._save)
        save, take = QPushButton("Save as preset"), QPushButton("Import…")
        save.setToolTip("Keep the shot's shake for any project")
        take.setToolTip("Take in presets from a file")
        save.clicked.connect(self._save)
        take.clicked.connect(self._import)
        row = QHBoxLayout()
        row.addWidget(self.name, 1)
        row.addWidget(save)
        row.addWidget(take)
        column.addLayout(row)
        self.list.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.list.customContextMenuRequested.connect(self._menu)
        self.setFixedSize(620, 660)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self.list.viewport().update)
        self._sift()

    def refresh(self) -> None:
        """Read one's own presets anew."""
        mine, bad = library.own()
        self._presets = (*library.factory(), *mine)
        self._own = {each.name for each in mine}
        if bad:
            self.told.emit(bad[0])
        self._painter.presets = self._presets
        self._sift()

    def _save(self) -> None:
        if self.name.text().strip():
            self.saved.emit(self.name.text().strip())
            self.name.clear()

    def _import(self) -> None:
        self.hide()
        name, _ = QFileDialog.getOpenFileName(self.parentWidget(), "Import presets", "", "Presets (*.json)")
        if name:
            self._try(lambda: self.told.emit(f"{library.take_in(Path(name))} presets taken in."))

    def _menu(self, place: QPoint) -> None:
        item = self.list.itemAt(place)
        preset = self._presets[item.data(Qt.ItemDataRole.UserRole)] if item else None
        if preset is None or preset.name not in self._own:
            return
        menu = QMenu(self)

        def forget() -> None:
            library.remove_own(preset.name)
            self.refresh()

        menu.addAction("Delete this preset", forget)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.list.viewport().mapToGlobal(place))

    def _try(self, act: Callable[[], object]) -> None:
        try:
            act()
        except TremorError as error:
            self.told.emit(str(error))

    def show_for(self, image: QImage | None) -> None:
        """What the small prints show."""
        self._painter.image = image

    def _choose_group(self, group: str) -> None:
        self._group = group
        self.groups.choose(group)
        self._sift()

    def _sift(self) -> None:
        """List what is of the group and has the words in its name or note."""
        wanted = self.search.text().casefold().split()
        self.list.clear()
        for number, preset in enumerate(self._presets):
            text = f"{preset.name} {preset.group} {preset.note}".casefold()
            group = "own" if preset.name in self._own else preset.group
            if self._group in ("all", group) and all(word in text for word in wanted):
                item = QListWidgetItem(preset.name)
                item.setData(Qt.ItemDataRole.UserRole, number)
                item.setToolTip(preset.note)
                self.list.addItem(item)
        self.list.setCurrentRow(0)

    def _take_first(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            self._pick(item)

    def _pick(self, item: QListWidgetItem) -> None:
        if self.isVisible():
            add = bool(QGuiApplication.keyboardModifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.hide()
            self.picked.emit(self._presets[item.data(Qt.ItemDataRole.UserRole)], add)

    def showEvent(self, event: QShowEvent) -> None:
        self._timer.start(40)
        self.refresh()
        self.search.clear()
        self.search.setFocus()

    def hideEvent(self, event: QHideEvent) -> None:
        self._timer.stop()


def has_jolts(preset: Preset) -> bool:
    """Whether a preset needs hits to move anything."""
    return any(isinstance(strand, Jolts) for strand in preset.shake.strands)
