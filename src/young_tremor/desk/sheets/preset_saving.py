"""What stands beside the list of presets: a shake kept as one, presets taken in and given away."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from young_tremor.base.errors import TremorError
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.engine.library import preset_library
from young_tremor.model.project import Shot


@dataclass(frozen=True)
class PresetDraft:
    """What is to be kept: under a name, with a note; ``strand`` None is the whole shake."""

    name: str
    note: str
    strand: str | None
    with_frame: bool


class PresetSaving(QWidget):
    """Keeps a shake as a preset; imports and exports what the list ``listed`` holds."""

    saved = Signal(object)  # Saving
    told = Signal(str)

    def __init__(self, popup: QWidget, listed: Callable[[], tuple[str, ...]], width: int) -> None:
        super().__init__(popup)
        self._popup = popup
        self._listed = listed
        self.setFixedWidth(width)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(7)
        self._lay(column)

    def show_for(self, shot: Shot) -> None:
        """The shot whose shake, or one of whose strands, can be kept."""
        self.what.clear()
        self.what.addItem(tr("The whole shake"), None)
        for strand in shot.shake.strands:
            self.what.addItem(strand.name, strand.id)

    def keep_strand(self, strand_id: str) -> None:
        """Be ready to keep one strand."""
        self.what.setCurrentIndex(max(self.what.findData(strand_id), 0))
        self.name.setFocus()

    def _lay(self, column: QVBoxLayout) -> None:
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
        save.setToolTip(tr("Save it for all projects; your own preset of the same name is replaced"))
        take.setToolTip(tr("Import presets from a file or a folder"))
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
        for widgets in ((self.what, self.name), (self.note,), (self.save_frame, save), (take, give, None)):
            row = QHBoxLayout()
            row.setSpacing(8)
            for widget in widgets:
                row.addStretch(1) if widget is None else row.addWidget(widget, 2 if widget is self.note else 0)
            column.addLayout(row)
        self.what.setFixedWidth(130)

    def _save(self) -> None:
        name = self.name.text().strip()
        if not name:
            self.name.setFocus()
            return
        strand = self.what.currentData()
        self.saved.emit(PresetDraft(name, self.note.text().strip(), strand, self.save_frame.isChecked()))
        self.name.clear()
        self.note.clear()

    def _ask(self, under: QWidget, choices: tuple[tuple[str, Callable[[], object]], ...]) -> None:
        menu = QMenu(self)
        for words, act in choices:
            menu.addAction(words, act)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(under.mapToGlobal(under.rect().bottomLeft()))

    def _import(self) -> None:
        self._popup.hide()
        name, _ = QFileDialog.getOpenFileName(
            self._popup.parentWidget(), tr("Import presets"), "", tr("Presets (*.json)")
        )
        self._take_in(name)

    def _folder(self) -> None:
        self._popup.hide()
        self._take_in(QFileDialog.getExistingDirectory(self._popup.parentWidget(), "Import presets of a folder"))

    def _take_in(self, name: str) -> None:
        if name:
            self.attempt(
                lambda: self.told.emit(tr("{0} taken in.", counted(preset_library.take_in(Path(name)), "preset")))
            )

    def _export(self) -> None:
        names = self._listed()
        self._popup.hide()
        start = f"{names[0] if len(names) == 1 else 'presets'}.json"
        name, _ = QFileDialog.getSaveFileName(
            self._popup.parentWidget(), tr("Export presets"), start, tr("Presets (*.json)")
        )
        self.give(names, name)

    def _export_each(self) -> None:
        names = self._listed()
        self._popup.hide()
        self.give(names, QFileDialog.getExistingDirectory(self._popup.parentWidget(), "Export presets to a folder"))

    def give(self, names: tuple[str, ...], name: str) -> None:
        """Write presets to a file or a folder ``name``; no name is nothing done."""
        if name and names:
            self.attempt(
                lambda: self.told.emit(tr("{0} written.", counted(preset_library.export(names, Path(name)), "preset")))
            )

    def attempt(self, act: Callable[[], object]) -> None:
        """Do it; what goes wrong is told."""
        try:
            act()
        except TremorError as error:
            self.told.emit(str(error))
