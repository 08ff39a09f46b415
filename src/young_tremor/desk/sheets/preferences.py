"""What a person sets once for all projects."""

from __future__ import annotations

from contextlib import suppress
from functools import partial
from typing import Any

from PySide6.QtCore import QLocale, Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from young_tremor.base.errors import TremorError
from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.sheet import Sheet
from young_tremor.engine.library import preset_library, settings, translations
from young_tremor.engine.media import footage
from young_tremor.engine.playback import player


class Preferences(Sheet):
    """Lies over the panel and the chart; every change holds at once."""

    changed = Signal(object)  # Settings
    told = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, "Preferences")
        self.setFixedWidth(theme.PANEL - 8)
        close = QPushButton(tr("Close"))
        close.setProperty("quiet", True)
        close.clicked.connect(self.hide)
        head = QHBoxLayout()
        head.addWidget(section("Preferences"))
        head.addStretch(1)
        head.addWidget(close)
        self.first = QComboBox()
        self.first.setAccessibleName(tr("Preset of new footage"))
        self.first.setToolTip(tr("Preset applied to new footage"))
        self.first.activated.connect(lambda _: self._keep(first=self.first.currentData()))
        self.night, self.menus = QCheckBox(tr("Night paper")), QCheckBox(tr("Show the menus"))
        self.frames = QCheckBox(tr("Times in frames"))
        self.frames.setToolTip(tr("Show times as frames, not as seconds and timecode"))
        self.lag = NumberField(
            "Latency of tapped hits",
            NumberScale(0, 300, "ms", 0, least=0, most=1000),
            value=120,
            reset=120,
            tip="Subtracted from hits tapped in during playback",
        )
        self.autosave = NumberField(
            "Back up work after",
            NumberScale(5, 300, "s", 0, bend=1.5, least=1, most=3600),
            value=60,
            reset=60,
            tip="Seconds of work after which a copy is saved",
        )
        self.autosave.in_shot_time = False
        self.lag.changed.connect(lambda value: self._keep(tap_lag=value / 1000))
        self.autosave.changed.connect(lambda value: self._keep(autosave=value))
        self.still, self.strong = QCheckBox(tr("No moving previews")), QCheckBox(tr("Strong inks on the paper"))
        self.still.setToolTip(tr("Preset thumbnails do not move"))
        for name in ("frames", "night", "menus", "still", "strong"):
            getattr(self, name).toggled.connect(partial(self._keep_switch, name))
        self.pictures = NumberField(
            "Pictures kept ready",
            NumberScale(64, 4096, "MB", 0, bend=2, least=64, most=65536),
            value=384,
            reset=384,
            tip="Memory for frames ready to play",
        )
        self.pictures.changed.connect(lambda value: self._keep(pictures=round(value)))
        self.device = QComboBox()
        self.device.setAccessibleName(tr("Sound device"))
        self.device.setToolTip(tr("Where the sound is heard; from the next start on"))
        self.device.activated.connect(lambda _: self._keep(device=self.device.currentData()))
        self.language = QComboBox()
        self.language.setAccessibleName(tr("Language"))
        self.language.setToolTip(tr("Language of the window; from the next start on"))
        self.language.addItem(tr("As the desktop"), "")
        for language in translations.offered():
            own = language == translations.OWN
            self.language.addItem("English" if own else QLocale(language).nativeLanguageName(), language)
        self.language.activated.connect(self._keep_language)
        self.colours = QLineEdit()
        self.colours.setAccessibleName(tr("Colour configuration"))
        self.colours.setPlaceholderText(tr("config.ocio; built in if empty"))
        self.colours.setToolTip(tr("OpenColorIO file whose colour spaces footage may have; $OCIO comes first"))
        self.view = QComboBox()
        self.view.setAccessibleName(tr("View of the screen"))
        self.view.setToolTip(tr("Display and view for light and cameras’ colours, never delivered"))
        self.view.activated.connect(self._keep_view)
        self.cluster = QLineEdit()
        self.cluster.setAccessibleName(tr("Cluster"))
        self.cluster.setPlaceholderText(tr("tcp://HOST:8786, or local"))
        self.cluster.setToolTip(tr("Dask scheduler whose workers share deliveries; local: all cores of this machine"))
        for field in (self.colours, self.cluster):
            field.editingFinished.connect(self._keep_texts)
        self.hints = QPushButton(tr("Show all hints again"))
        self.hints.clicked.connect(lambda: self._keep(hints=()))
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 18)
        column.setSpacing(7)
        column.addLayout(head)
        label = QLabel(tr("New footage starts with"))
        label.setStyleSheet(f"color: {theme.DIM};")
        column.addWidget(label)
        column.addWidget(self.first)
        for words, box in (("Sound device", self.device), ("Language", self.language)):
            label = QLabel(tr(words))
            label.setStyleSheet(f"color: {theme.DIM};")
            line = QHBoxLayout()
            line.addWidget(label)
            line.addWidget(box, 1)
            column.addLayout(line)
        texts: tuple[tuple[str, QWidget], ...] = (
            ("Cluster for deliveries", self.cluster),
            ("Colour configuration", self.colours),
            ("View of the screen", self.view),
        )
        for words, widget in texts:
            label = QLabel(tr(words))
            label.setStyleSheet(f"color: {theme.DIM};")
            column.addWidget(label)
            column.addWidget(widget)
        for widget in (
            self.lag,
            self.autosave,
            self.pictures,
            self.frames,
            self.night,
            self.strong,
            self.still,
            self.menus,
            self.hints,
        ):
            column.addWidget(widget)
        self._showing = False

    def open(self) -> None:
        """Show what is set now."""
        self._showing = True
        now = settings.load()
        self.first.clear()
        self.first.addItem(tr("Nothing: it stays still"), preset_library.NOTHING)
        for preset in (*preset_library.factory(), *preset_library.own()[0]):
            self.first.addItem(tr(preset.name), preset.name)
        self.first.setCurrentIndex(
            max(self.first.findData(preset_library.starting_preset().name or preset_library.NOTHING), 0)
        )
        self.lag.set_value(1000 * now.tap_lag)
        self.autosave.set_value(now.autosave)
        self.frames.setChecked(now.frames)
        self.night.setChecked(theme.paper.night)
        self.menus.setChecked(now.menus)
        self.still.setChecked(now.still)
        self.strong.setChecked(now.strong)
        self.pictures.set_value(now.pictures)
        self.hints.setEnabled(bool(now.hints))
        self.cluster.setText(now.cluster)
        self.colours.setText(now.colour_config)
        self._offer_views(now)
        self.language.setCurrentIndex(max(self.language.findData(now.language), 0))
        self.device.clear()
        self.device.addItem(tr("The usual one"), "")
        for name in player.device_names():
            self.device.addItem(name, name)
        self.device.setCurrentIndex(max(self.device.findData(now.device), 0))
        self._showing = False
        self.adjustSize()
        self.show()
        self.raise_()
        self.first.setFocus()

    def _offer_views(self, now: settings.Settings) -> None:
        """Offer the views of the colour configuration; a damaged one has none, which is said where it is used."""
        self.view.clear()
        self.view.addItem(tr("The usual one"), ("", ""))
        footage.use_colour_settings(now)
        with suppress(TremorError):
            for display, view in footage.colour_views():
                self.view.addItem(f"{display}: {view}", (display, view))
        places = [number for number in range(self.view.count()) if tuple(self.view.itemData(number)) == now.colour_view]
        self.view.setCurrentIndex(places[0] if places else 0)

    def _keep_switch(self, name: str, on: bool) -> None:
        self._keep(**{name: on})

    def _keep_language(self) -> None:
        self._keep(language=self.language.currentData())

    def _keep_view(self) -> None:
        self._keep(colour_view=tuple(self.view.currentData()))

    def _keep_texts(self) -> None:
        before = settings.load().colour_config
        self._keep(cluster=self.cluster.text().strip(), colour_config=self.colours.text().strip())
        if self.colours.text().strip() != before:
            self._offer_views(settings.load())

    def _keep(self, **changes: Any) -> None:
        if self._showing:
            return
        try:
            self.changed.emit(settings.change(**changes))
        except TremorError as error:
            self.told.emit(str(error))
