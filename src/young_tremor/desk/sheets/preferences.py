"""What a person sets once for all projects."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from young_tremor.base.errors import TremorError
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.rule import Rule
from young_tremor.desk.kit.scale import Scale
from young_tremor.desk.kit.sheet import Sheet
from young_tremor.engine import library, settings


class Preferences(Sheet):
    """Lies over the panel and the chart; every change holds at once."""

    changed = Signal(object)  # Settings
    told = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, "Preferences")
        self.setFixedWidth(theme.PANEL - 8)
        close = QPushButton("Close")
        close.setProperty("quiet", True)
        close.clicked.connect(self.hide)
        head = QHBoxLayout()
        head.addWidget(section("Preferences"))
        head.addStretch(1)
        head.addWidget(close)
        self.first = QComboBox()
        self.first.setAccessibleName("Preset of new footage")
        self.first.setToolTip("What footage is opened with")
        self.first.activated.connect(lambda _: self._keep(first=self.first.currentData()))
        self.night, self.menus = QCheckBox("Night paper"), QCheckBox("Show the menus")
        self.night.toggled.connect(lambda on: self._keep(night=on))
        self.menus.toggled.connect(lambda on: self._keep(menus=on))
        self.lag = Rule("Tapped hits come late by", Scale(0, 300, "ms", 0, least=0, most=1000), value=120, reset=120,
                        tip="Taken off hits that are tapped in while it plays")  # fmt: skip
        self.autosave = Rule("Unsaved work is kept after", Scale(5, 300, "s", 0, bend=1.5, least=1, most=3600),
                             value=60, reset=60, tip="Seconds of change after which a copy is kept")  # fmt: skip
        self.lag.changed.connect(lambda value: self._keep(tap_lag=value / 1000))
        self.autosave.changed.connect(lambda value: self._keep(autosave=value))
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 18)
        column.setSpacing(10)
        column.addLayout(head)
        label = QLabel("New footage starts with")
        label.setStyleSheet(f"color: {theme.DIM};")
        column.addWidget(label)
        for widget in (self.first, self.lag, self.autosave, self.night, self.menus):
            column.addWidget(widget)
        self._showing = False

    def open(self) -> None:
        """Show what is set now."""
        self._showing = True
        now = settings.load()
        self.first.clear()
        for preset in (*library.factory(), *library.own()[0]):
            self.first.addItem(preset.name, preset.name)
        self.first.setCurrentIndex(max(self.first.findData(library.first().name), 0))
        self.lag.set_value(1000 * now.tap_lag)
        self.autosave.set_value(now.autosave)
        self.night.setChecked(theme.paper.night)
        self.menus.setChecked(now.menus)
        self._showing = False
        self.adjustSize()
        self.show()
        self.raise_()
        self.first.setFocus()

    def _keep(self, **changes: Any) -> None:
        if self._showing:
            return
        try:
            self.changed.emit(settings.change(**changes))
        except TremorError as error:
            self.told.emit(str(error))
