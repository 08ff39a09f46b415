"""The chosen sound's full controls: of a rumble, of knocks, of a layer, of the footage's own sound and the sway."""

from __future__ import annotations

from pathlib import Path
from typing import Any, get_args

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout, QLabel, QLineEdit, QPushButton

from young_tremor.desk.chart.sound_rows import FOOTAGE, SWAY
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column, section
from young_tremor.desk.kit.i18n import tr, tr_note
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.panels.controls import Controls
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.sound import sound_presets
from young_tremor.model import sound_edits
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.fields import number_at
from young_tremor.model.project import Shot
from young_tremor.model.shake import blows
from young_tremor.model.shot_edits import Edit
from young_tremor.model.sound import Knocks, Layer, Mix, Rumble, Sound, SoundSway

AUDIO = "Sound (*.wav *.flac *.aif *.aiff *.mp3 *.m4a *.ogg *.opus *.mp4 *.mov);;All files (*)"


class SoundPanel(Column):
    """Shows what belongs to the kind of the chosen sound."""

    go_to = Signal(int)

    def __init__(self, state: DeskState) -> None:
        super().__init__()
        self._state, self._session = state, state.session
        self.sound: Any = None
        self._key, self._shot_id = "", ""
        self.strand: QComboBox
        head = QHBoxLayout()
        self.title = section("Sound")
        head.addWidget(self.title)
        head.addStretch(1)
        self.rows.addLayout(head)
        self.name = QLineEdit()
        self.name.setAccessibleName(tr("Name of the sound"))
        self.name.editingFinished.connect(self._rename)
        self.rows.addWidget(self.name)
        self.note = QLabel()
        self.note.setWordWrap(True)
        self.note.setStyleSheet(f"color: {theme.FAINT}; font-size: 12px;")
        self.rows.addWidget(self.note)
        self.presets = self._box("Sound by name", self._put)
        level = number_at(Mix, "level")
        self.level = NumberField(level.label, level.shown_as, tip=level.tip)
        bind(self.level, self._session, level.label, self._set_level)
        self.rows.addWidget(self.level)
        self.controls = {kind: Controls(kind, self._session, self, self._edit) for kind in get_args(Sound)}
        for controls in self.controls.values():
            controls.add_rest(but=("level",))
        self.strand = self._box("Which jolts", lambda at: self._apply("Jolts", strand=self.strand.itemData(at)))
        self.rules = {kind: controls.numbers for kind, controls in self.controls.items()}
        self._mine = {kind: list(controls.widgets) for kind, controls in self.controls.items()}
        self._mine[Knocks].append(self.strand)
        self.file = QPushButton(tr("Sound file…"))
        self.file.clicked.connect(self._ask_file)
        self.rows.addWidget(self.file)
        self.sway = Controls(SoundSway, self._session, self, self._edit_sway, step="Sound sway")
        for path in ("level", "balance"):
            self.sway.number(path)
        self.sway.switch("whole")
        self._mix = Controls(Mix, self._session, self, lambda **changes: sound_edits.set_mix(self._shot_id, **changes))
        self.limit = self._mix.switch("limit")
        self.finish()

    def _box(self, name: str, act: Any) -> QComboBox:
        box = QComboBox()
        box.setAccessibleName(tr(name))
        box.setToolTip(tr(name))
        box.activated.connect(act)
        self.rows.addWidget(box)
        return box

    def _edit(self, **changes: Any) -> Edit:
        return sound_edits.set_sound(self._shot_id, self._key, **changes)

    def _apply(self, words: str, **changes: Any) -> None:
        self._session.apply(tr(words), self._edit(**changes))

    def _set_level(self, value: float) -> Edit:
        curve = with_value_at(self.sound.level, self._state.seconds, value)
        if self._key == FOOTAGE:
            return sound_edits.set_mix(self._shot_id, level=curve)
        return self._edit(level=curve)

    def _edit_sway(self, **changes: Any) -> Edit:
        return sound_edits.set_sway(self._shot_id, **changes)

    def _rename(self) -> None:
        name = self.name.text().strip()
        if name and isinstance(self.sound, Rumble | Knocks | Layer) and name != self.sound.name:
            self._apply("Rename sound", name=name)

    def _put(self, number: int) -> None:
        """Another sound of the same kind in its place, at its level."""
        chosen = self.presets.itemData(number)
        if chosen and isinstance(self.sound, Rumble | Knocks):
            fresh = sound_presets.find_sound(type(self.sound), chosen)
            fields = {
                name: getattr(fresh, name) for name in fresh.__struct_fields__ if name not in ("id", "level", "on")
            }
            if isinstance(self.sound, Knocks):
                fields |= {"strand": self.sound.strand, "path": ""}
            self._apply("Another sound", **fields)

    def _ask_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self.window(), tr("Sound file"), "", AUDIO)
        if name:
            self.take_file(name)

    def take_file(self, name: str) -> None:
        """Let the sound come from a file."""
        self._apply("Sound file", path=str(Path(name).absolute()))

    def show_sound(self, shot: Shot, key: str) -> None:
        """Show one of a shot's sounds, its footage's own, or the sway."""
        mix = shot.sound
        sound: Any = mix if key == FOOTAGE else next((row for row in mix.rows if row.id == key), None)
        self.sound, self._key, self._shot_id = sound, key, shot.id
        kind = type(sound)
        plain = key in (FOOTAGE, SWAY)
        self.name.setVisible(not plain)
        self.title.setText(tr({FOOTAGE: "FOOTAGE SOUND", SWAY: "SOUND SWAY"}.get(key, "SOUND")))
        for item, widgets in self._mine.items():
            for widget in widgets:
                widget.setVisible(item is kind)
        self.level.setVisible(key != SWAY)
        self.presets.setVisible(kind in (Rumble, Knocks))
        self.file.setVisible(kind in (Knocks, Layer))
        for widget in self.sway.widgets:
            widget.setVisible(plain)
        self._mix.show(mix)
        self.sway.show(mix.sway)
        if key == FOOTAGE:
            self.note.setText(tr("Unchanged, it is copied bit for bit with all tracks."))
        elif key == SWAY:
            self.note.setText(tr("Louder while the picture moves fast, to the side that it goes to."))
        if sound is None:
            return
        self.level.set_value(round(float(sound.level.value if sound.level.constant else self._now(sound)), 2))
        if plain:
            return
        if not self.name.hasFocus():
            self.name.setText(sound.name)
        self._show_kind(shot, sound)

    def _now(self, sound: Any) -> float:
        return float(sound.level.at(self._state.seconds))

    def _show_kind(self, shot: Shot, sound: Any) -> None:
        self.controls[type(sound)].show(sound, self._state.seconds)
        names = [preset.sound.name for preset in sound_presets.shipped_sounds(type(sound))]
        if [self.presets.itemData(n) for n in range(1, self.presets.count())] != names:
            self.presets.clear()
            self.presets.addItem(tr("Another…"), "")
            for name in names:
                self.presets.addItem(tr(name), name)
        self.presets.setCurrentIndex(max(self.presets.findData(sound.name), 0))
        known = next(
            (preset.note for preset in sound_presets.shipped_sounds(type(sound)) if preset.sound.name == sound.name), ""
        )
        self.note.setText(tr_note(known))
        if isinstance(sound, Knocks):
            jolts = [strand.name for strand in blows(shot.shake.strands)]
            self.strand.clear()
            self.strand.addItem(tr("With the first jolts"), "")
            for name in jolts:
                self.strand.addItem(tr("With {0}", name), name)
            self.strand.setCurrentIndex(max(self.strand.findData(sound.strand), 0))
        path = getattr(sound, "path", "")
        words = Path(path).name if path else tr("Sound file…") if isinstance(sound, Layer) else tr("A file instead…")
        self.file.setText(words)
        self.file.setToolTip(path)
