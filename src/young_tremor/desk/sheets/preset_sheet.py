"""The presets: found by group or by word, kept, exported and taken in."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QEvent, QObject, QPoint, QPointF, Qt, QTimer, Signal
from PySide6.QtGui import QGuiApplication, QHideEvent, QImage, QKeyEvent, QMouseEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import (
    QApplication,
    QCheckBox,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QVBoxLayout,
    QWidget,
)

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import divider, section
from young_tremor.desk.kit.i18n import tr, tr_note
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.sheets.preset_previews import PresetPainter, star_box
from young_tremor.desk.sheets.preset_saving import PresetSaving
from young_tremor.desk.state.task_runner import Report, TaskRunner
from young_tremor.engine.analysis import framing_margins, traces
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library, settings
from young_tremor.model.project import Preset, Shot
from young_tremor.model.shake import blows

COLUMN = 380  # pixels of an entry, at the least
SIDE = 316  # pixels of what stands beside the list
REST = 140  # milliseconds on a preset until it is tried
GROUPS = ("all", "favourites", "held", "vehicle", "impact", "ground", "sea", "graphics", "film", "own")


@dataclass(frozen=True)
class ApplyWay:
    """How a preset is applied."""

    add: bool = False
    keep_amount: bool = False
    with_frame: bool = False


class _PresetList(QListWidget):
    """Entries in whole columns. Tells of clicks on a star rather than picking the preset under it."""

    starred = Signal(object)

    def __init__(self, painter: PresetPainter) -> None:
        super().__init__()
        self._painter = painter
        self.setItemDelegate(painter)
        self.setFlow(QListWidget.Flow.LeftToRight)
        self.setWrapping(True)
        self.setResizeMode(QListWidget.ResizeMode.Adjust)

    def resizeEvent(self, event: QResizeEvent) -> None:
        wide = self.viewport().width() - 2
        self._painter.width = wide // max(wide // COLUMN, 1)
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        item = self.itemAt(event.position().toPoint())
        if item is not None and star_box(self.visualItemRect(item)).contains(QPointF(event.position())):
            self.starred.emit(item)
        else:
            super().mouseReleaseEvent(event)


class PresetSheet(QFrame):
    """Pick one: it replaces the shot's shake, or with Shift is added to it, in one step that can be undone."""

    picked = Signal(object, object)  # preset, Way
    tried = Signal(object, object)  # the preset that is looked at, and the way; None: it is over
    told = Signal(str)
    takes_keys = True  # while it is open, from what was clicked before

    def __init__(self, parent: QWidget, runner: TaskRunner) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self._runner = runner
        self._presets = preset_library.presets()
        self._own: set[str] = set()
        self._group = "all"
        self._lens: tuple[float, tuple[int, int]] = (50.0, (1920, 1080))
        self.setAccessibleName(tr("Presets"))
        self.setStyleSheet(f"PresetsPopup {{ background: {theme.PANEL_COLOUR}; border: 1px solid {theme.LINE}; }}")
        self.search = QLineEdit()
        self.search.setPlaceholderText(tr("Search presets"))
        self.search.setAccessibleName(tr("Search presets"))
        self.search.textChanged.connect(lambda _: self._sift())
        self.search.returnPressed.connect(self._take_first)
        self.groups = Segments(tuple((g, g.capitalize(), f"Presets: {g}") for g in GROUPS), "Group")
        self.groups.chosen.connect(self._choose_group)
        self._painter = PresetPainter(self._presets)
        self.list = _PresetList(self._painter)
        self.list.setAccessibleName(tr("Presets"))
        self.list.setMouseTracking(True)
        self.list.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.list.itemClicked.connect(self._pick)
        self.list.itemActivated.connect(self._pick)
        self.list.starred.connect(self._star)
        self.list.currentItemChanged.connect(lambda now, before: self._try_on(now))
        self.list.itemEntered.connect(self._try_on)
        self.keep = PresetSaving(self, lambda: self.listed, SIDE)
        self.keep.told.connect(self.told)
        across = QHBoxLayout(self)
        across.setContentsMargins(12, 10, 12, 10)
        across.setSpacing(14)
        column, side = QVBoxLayout(), QVBoxLayout()
        for item in (column, side):
            item.setSpacing(7)
        head = QHBoxLayout()
        head.setSpacing(10)
        head.addWidget(section("Presets"))
        head.addWidget(self.search, 1)
        head.addWidget(self.groups)
        column.addLayout(head)
        column.addWidget(self.list, 1)
        self._lay_applying(side)
        side.addWidget(divider())
        side.addWidget(self.keep)
        side.addStretch(1)
        across.addLayout(column, 1)
        across.addLayout(side)
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(REST)
        self._later.timeout.connect(self._on)
        self._wanted: Preset | None = None
        self.search.installEventFilter(self)
        self.list.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.list.customContextMenuRequested.connect(self._menu)
        self.resize(1180, 320)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self.list.viewport().update)
        self._sift()

    def _lay_applying(self, column: QVBoxLayout) -> None:
        self.keep_amount = QCheckBox(tr("Keep the shot's intensity"))
        self.with_frame = QCheckBox(tr("Take its lens, edges and shutter"))
        self.with_frame.setToolTip(
            tr("The focal length it was made for, and edges and shutter if it was saved with them")
        )
        hint = QLabel(
            tr(
                "Hovering a preset plays it on the picture. Click or Return keeps it; Shift-click adds it; "
                "Esc goes back."
            )
        )
        hint.setWordWrap(True)
        hint.setFixedWidth(SIDE)
        hint.setStyleSheet(f"color: {theme.FAINT}; font-size: 12px;")
        column.addWidget(self.keep_amount)
        column.addWidget(self.with_frame)
        column.addWidget(hint)

    def refresh(self) -> None:
        """Read one's own presets anew."""
        mine, bad = preset_library.own()
        self._presets = (*preset_library.factory(), *mine)
        self._own = {preset.name for preset in mine}
        if bad:
            self.told.emit(bad[0])
        self._painter.presets = self._presets
        self._painter.favourites = frozenset(settings.load().favourites)
        self._sift()

    @property
    def listed(self) -> tuple[str, ...]:
        """Names of what the list shows."""
        return tuple(self.list.item(row).text() for row in range(self.list.count()))

    def _menu(self, place: QPoint) -> None:
        item = self.list.itemAt(place)
        if item is None:
            return
        preset = self._presets[item.data(Qt.ItemDataRole.UserRole)]
        menu = QMenu(self)
        favourite = preset.name in self._painter.favourites
        menu.addAction(tr("No favourite") if favourite else tr("Favourite"), lambda: self._star(item))

        def export() -> None:
            self.hide()
            start = f"{preset.name}.json"
            name, _ = QFileDialog.getSaveFileName(
                self.parentWidget(), tr("Export preset"), start, tr("Presets (*.json)")
            )
            self.keep.give((preset.name,), name)

        menu.addAction(tr("Export…"), export)
        menu.addAction(tr("Shooting margin"), lambda: self.keep.attempt(lambda: self._margin(preset)))
        menu.addAction(tr("Framing guide…"), lambda: self._guide(preset))

        def forget() -> None:
            preset_library.remove_own(preset.name)
            self.refresh()

        if preset.name in self._own:
            menu.addAction(tr("Delete this preset"), forget)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.list.viewport().mapToGlobal(place))

    def _margin(self, preset: Preset) -> None:
        """Say how much wider to frame for a preset, at the shot's lens and size."""
        focal, size = self._lens
        self.told.emit(framing_margins.margin(preset, focal_mm=focal, size=size).words(preset.name, focal))
        self.hide()

    def _guide(self, preset: Preset) -> None:
        """Write the margin as a picture to frame by."""
        focal, size = self._lens
        self.hide()
        start = f"{preset.name}, {focal:g} mm.png"
        name, _ = QFileDialog.getSaveFileName(
            self.parentWidget(), tr("Save a framing guide"), start, tr("Picture (*.png)")
        )
        if name:
            path = Path(name).with_suffix(".png")
            self.keep.attempt(lambda: self.told.emit(actions.margin(preset, size, focal, path, overwrite=True)))

    def _star(self, item: QListWidgetItem) -> None:
        """Make a preset a favourite, or no longer one."""
        name = item.text()
        starred = name in settings.load().favourites

        def turned(kept: settings.Settings) -> settings.Settings:
            names = set(kept.favourites) - {name} if starred else {*kept.favourites, name}
            return replace(kept, favourites=tuple(sorted(names)))

        self.keep.attempt(lambda: settings.update(turned))
        self._painter.favourites = frozenset(settings.load().favourites)
        if self._group == "favourites":
            self._sift()
        self.list.viewport().update()

    def show_for(self, shot: Shot, size: tuple[int, int], image: QImage | None) -> None:
        """The shot whose shake can be kept, its delivered size, and what the small prints show."""
        self._lens = (shot.frame.focal_mm, size)
        self._painter.image = image
        self.keep.show_for(shot)

    def _choose_group(self, group: str) -> None:
        self._group = group
        self.groups.choose(group)
        self._sift()

    def _sift(self) -> None:
        """List what is of the group and is for what the words say."""
        self.list.clear()
        for number, preset in enumerate(self._presets):
            text = preset_library.search_words(preset, own=preset.name in self._own)
            groups = {"all", "own" if preset.name in self._own else preset.group}
            groups |= {"favourites"} if preset.name in self._painter.favourites else set()
            if self._group in groups and preset_library.is_found(text, self.search.text()):
                item = QListWidgetItem(tr(preset.name))
                item.setData(Qt.ItemDataRole.UserRole, number)
                item.setToolTip(tr_note(preset.note))
                self.list.addItem(item)
        self.list.setCurrentRow(0)

    def _try_on(self, item: QListWidgetItem | None) -> None:
        """Let a preset be seen on the picture, a moment after it is looked at."""
        if item is not None and self.isVisible():
            self._wanted = self._presets[item.data(Qt.ItemDataRole.UserRole)]
            self._later.start()

    def _on(self) -> None:
        if self._wanted is not None and self.isVisible():
            self.tried.emit(self._wanted, ApplyWay(False, self.keep_amount.isChecked(), self.with_frame.isChecked()))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrows in the search go through the list."""
        arrows = (Qt.Key.Key_Up, Qt.Key.Key_Down)
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent) and event.key() in arrows:
            QApplication.sendEvent(self.list, event)
            return True
        return super().eventFilter(watched, event)

    def _take_first(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            self._pick(item)

    def _pick(self, item: QListWidgetItem) -> None:
        if self.isVisible():
            add = bool(QGuiApplication.keyboardModifiers() & Qt.KeyboardModifier.ShiftModifier)
            way = ApplyWay(add, self.keep_amount.isChecked(), self.with_frame.isChecked())
            self.hide()
            self.picked.emit(self._presets[item.data(Qt.ItemDataRole.UserRole)], way)

    def _trace(self) -> None:
        """Work out in a thread how the presets move; the list shows what is there."""
        missing = [preset for preset in self._presets if preset not in self._painter.motions]

        def work(report: Report) -> None:
            for number, preset in enumerate(missing):
                self._painter.motions[preset] = traces.preset_motion(preset)
                report(number, len(missing))

        if missing:
            self._runner.run("trace presets", work, lambda answer: None)

    def showEvent(self, event: QShowEvent) -> None:
        self._painter.still = settings.load().still
        self._timer.start(40)
        self._trace()
        self.refresh()
        self.search.clear()
        self.search.setFocus()

    def hideEvent(self, event: QHideEvent) -> None:
        self._timer.stop()
        self._later.stop()
        self._wanted = None
        self.tried.emit(None, None)


def has_jolts(preset: Preset) -> bool:
    """Whether a preset needs hits to move anything."""
    return bool(blows(preset.shake.strands))
