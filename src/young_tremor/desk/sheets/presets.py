"""The presets: found by group or by word, kept, exported and taken in."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QPoint, QPointF, Qt, QTimer, Signal
from PySide6.QtGui import QGuiApplication, QHideEvent, QImage, QMouseEvent, QShowEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from young_tremor.base.errors import TremorError
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import divider, section
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.kit.words import counted, tr
from young_tremor.desk.sheets.preset_prints import PresetPainter, star_box
from young_tremor.desk.state.runner import Report, Runner
from young_tremor.engine import actions, framing, library, settings, traces
from young_tremor.model.project import Preset, Shot
from young_tremor.model.shake import Jolts

GROUPS = ("all", "favourites", "held", "vehicle", "impact", "ground", "sea", "graphics", "film", "own")


@dataclass(frozen=True)
class Way:
    """How a preset is applied."""

    add: bool = False
    keep_amount: bool = False
    with_frame: bool = False


@dataclass(frozen=True)
class Saving:
    """What is to be kept: under a name, with a note; ``strand`` None is the whole shake."""

    name: str
    note: str
    strand: str | None
    with_frame: bool


class _List(QListWidget):
    """Tells of clicks on a star rather than picking the preset under it."""

    starred = Signal(object)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        item = self.itemAt(event.position().toPoint())
        if item is not None and star_box(self.visualItemRect(item)).contains(QPointF(event.position())):
            self.starred.emit(item)
        else:
            super().mouseReleaseEvent(event)


class PresetsPopup(QFrame):
    """Pick one: it replaces the shot's shake, or with Shift is added to it, in one step that can be undone."""

    picked = Signal(object, object)  # preset, Way
    saved = Signal(object)  # Saving
    told = Signal(str)

    def __init__(self, parent: QWidget, runner: Runner) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self._runner = runner
        self._presets = library.presets()
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
        self.list = _List()
        self.list.setAccessibleName(tr("Presets"))
        self.list.setMouseTracking(True)
        self.list.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self._painter = PresetPainter(self._presets)
        self.list.setItemDelegate(self._painter)
        self.list.itemClicked.connect(self._pick)
        self.list.itemActivated.connect(self._pick)
        self.list.starred.connect(self._star)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 12)
        column.setSpacing(8)
        column.addWidget(section("Presets"))
        column.addWidget(self.search)
        column.addWidget(self.groups)
        column.addWidget(self.list, 1)
        self._lay_applying(column)
        column.addWidget(divider())
        self._lay_saving(column)
        self.list.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.list.customContextMenuRequested.connect(self._menu)
        self.setFixedSize(704, 690)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self.list.viewport().update)
        self._sift()

    def _lay_applying(self, column: QVBoxLayout) -> None:
        self.keep_amount = QCheckBox(tr("Keep the shot's intensity"))
        self.with_frame = QCheckBox(tr("Take its lens, edges and shutter"))
        self.with_frame.setToolTip(
            tr("The focal length it was made for, and edges and shutter if it was saved with them")
        )
        hint = QLabel(tr("A click replaces the shake, Shift and click adds to it. Prints move three times over."))
        hint.setStyleSheet(f"color: {theme.FAINT}; font-size: 12px;")
        row = QHBoxLayout()
        row.setSpacing(14)
        row.addWidget(self.keep_amount)
        row.addWidget(self.with_frame)
        row.addStretch(1)
        column.addLayout(row)
        column.addWidget(hint)

    def _lay_saving(self, column: QVBoxLayout) -> None:
        self.name = QLineEdit()
        self.name.setPlaceholderText(tr("Name"))
        self.name.setAccessibleName(tr("Name of the preset"))
        self.note = QLineEdit()
        self.note.setPlaceholderText(tr("Note: what it is for, where it comes from"))
        self.note.setAccessibleName(tr("Note of the preset"))
        self.what = QComboBox()
        self.what.setAccessibleName(tr("What is kept"))
        self.save_frame = QCheckBox(tr("With edges and shutter"))
        save, take, give = QPushButton(tr("Save as preset")), QPushButton(tr("Import")), QPushButton(tr("Export"))
        save.setToolTip(tr("Keep it for any project; one of your own of the same name is replaced"))
        take.setToolTip(tr("Take in presets from a file or a folder"))
        give.setToolTip(tr("Write the presets that are listed to a file or a folder"))
        for field in (self.name, self.note):
            field.returnPressed.connect(self._save)
        save.clicked.connect(self._save)
        take.clicked.connect(
            lambda: self._ask(take, (("From a file…", self._import), ("From a folder…", self._folder)))
        )
        give.clicked.connect(
            lambda: self._ask(give, (("To one file…", self._export), ("Each to its own file…", self._export_each)))
        )
        column.addWidget(section("Keep this shot's shake"))
        for widgets in ((self.what, self.name, self.note), (self.save_frame, None, take, give, save)):
            row = QHBoxLayout()
            row.setSpacing(8)
            for widget in widgets:
                row.addStretch(1) if widget is None else row.addWidget(widget, 2 if widget is self.note else 0)
            column.addLayout(row)
        self.name.setFixedWidth(180)
        self.what.setFixedWidth(150)

    def refresh(self) -> None:
        """Read one's own presets anew."""
        mine, bad = library.own()
        self._presets = (*library.factory(), *mine)
        self._own = {each.name for each in mine}
        if bad:
            self.told.emit(bad[0])
        self._painter.presets = self._presets
        self._painter.favourites = frozenset(settings.load().favourites)
        self._sift()

    def _save(self) -> None:
        name = self.name.text().strip()
        if not name:
            self.name.setFocus()
            return
        strand = self.what.currentData()
        self.saved.emit(Saving(name, self.note.text().strip(), strand, self.save_frame.isChecked()))
        self.name.clear()
        self.note.clear()

    def _ask(self, under: QWidget, choices: tuple[tuple[str, Callable[[], object]], ...]) -> None:
        menu = QMenu(self)
        for words, act in choices:
            menu.addAction(words, act)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(under.mapToGlobal(under.rect().bottomLeft()))

    def _import(self) -> None:
        self.hide()
        name, _ = QFileDialog.getOpenFileName(self.parentWidget(), tr("Import presets"), "", tr("Presets (*.json)"))
        self._take_in(name)

    def _folder(self) -> None:
        self.hide()
        self._take_in(QFileDialog.getExistingDirectory(self.parentWidget(), "Import presets of a folder"))

    def _take_in(self, name: str) -> None:
        if name:
            self._try(lambda: self.told.emit(tr("{0} taken in.", counted(library.take_in(Path(name)), "preset"))))

    def _export(self) -> None:
        names = self.listed
        self.hide()
        start = f"{names[0] if len(names) == 1 else 'presets'}.json"
        name, _ = QFileDialog.getSaveFileName(self.parentWidget(), tr("Export presets"), start, tr("Presets (*.json)"))
        self._give(names, name)

    def _export_each(self) -> None:
        names = self.listed
        self.hide()
        self._give(names, QFileDialog.getExistingDirectory(self.parentWidget(), "Export presets to a folder"))

    def _give(self, names: tuple[str, ...], name: str) -> None:
        if name and names:
            self._try(lambda: self.told.emit(tr("{0} written.", counted(library.export(names, Path(name)), "preset"))))

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
            self._give((preset.name,), name)

        menu.addAction(tr("Export…"), export)
        menu.addAction(tr("Shooting margin"), lambda: self._try(lambda: self._margin(preset)))
        menu.addAction(tr("Framing guide…"), lambda: self._guide(preset))

        def forget() -> None:
            library.remove_own(preset.name)
            self.refresh()

        if preset.name in self._own:
            menu.addAction(tr("Delete this preset"), forget)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.list.viewport().mapToGlobal(place))

    def _margin(self, preset: Preset) -> None:
        """Say how much wider to frame for a preset, at the shot's lens and size."""
        focal, size = self._lens
        self.told.emit(framing.margin(preset, focal_mm=focal, size=size).words(preset.name, focal))
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
            self._try(lambda: self.told.emit(actions.margin(preset, size, focal, path, overwrite=True)))

    def _star(self, item: QListWidgetItem) -> None:
        """Make a preset a favourite, or no longer one."""
        name = item.text()
        starred = name in settings.load().favourites

        def turned(kept: settings.Settings) -> settings.Settings:
            names = set(kept.favourites) - {name} if starred else {*kept.favourites, name}
            return replace(kept, favourites=tuple(sorted(names)))

        self._try(lambda: settings.update(turned))
        self._painter.favourites = frozenset(settings.load().favourites)
        if self._group == "favourites":
            self._sift()
        self.list.viewport().update()

    def _try(self, act: Callable[[], object]) -> None:
        try:
            act()
        except TremorError as error:
            self.told.emit(str(error))

    def show_for(self, shot: Shot, size: tuple[int, int], image: QImage | None) -> None:
        """The shot whose shake can be kept, its delivered size, and what the small prints show."""
        self._lens = (shot.frame.focal_mm, size)
        self._painter.image = image
        self.what.clear()
        self.what.addItem(tr("The whole shake"), None)
        for strand in shot.shake.strands:
            self.what.addItem(strand.name, strand.id)

    def keep_strand(self, strand_id: str) -> None:
        """Be ready to keep one strand."""
        self.what.setCurrentIndex(max(self.what.findData(strand_id), 0))
        self.name.setFocus()

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
            groups = {"all", "own" if preset.name in self._own else preset.group}
            groups |= {"favourites"} if preset.name in self._painter.favourites else set()
            if self._group in groups and all(word in text for word in wanted):
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
            way = Way(add, self.keep_amount.isChecked(), self.with_frame.isChecked())
            self.hide()
            self.picked.emit(self._presets[item.data(Qt.ItemDataRole.UserRole)], way)

    def _trace(self) -> None:
        """Work out in a thread how the presets move; the list shows what is there."""
        missing = [each for each in self._presets if each not in self._painter.motions]

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


def has_jolts(preset: Preset) -> bool:
    """Whether a preset needs hits to move anything."""
    return any(isinstance(strand, Jolts) for strand in preset.shake.strands)
