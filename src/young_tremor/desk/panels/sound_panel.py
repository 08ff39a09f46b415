"""The chosen sound's full controls: of a rumble, of knocks, of a layer, of the footage's own sound and the sway."""

from __future__ import annotations

from pathlib import Path
from typing import Any, get_args

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QFileDialog, QHBoxLayout, QLabel, QLineEdit, QPushButton, QWidget

from young_tremor.desk.chart.sound_rows import DB, FOOTAGE, PITCH, SHARE, START, SWAY, TONE, TREMBLE
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column, section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.sound import sound_presets
from young_tremor.model import sound_edits
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import Shot
from young_tremor.model.shake import Jolts
from young_tremor.model.shot_edits import Edit
from young_tremor.model.sound import Follow, Knocks, Layer, Matter, Rumble

TIME = NumberScale(0.01, 4, "s", 2, bend=3, least=0.001, most=30)
WIDE = NumberScale(0.2, 4, "oct", 1, bend=1.6, least=0.05, most=6)
FALL = NumberScale(-1, 3, "oct", 1, least=-4, most=4)
ROOM = NumberScale(0.1, 5, "s", 1, bend=2, least=0.05, most=10)
DELAY = NumberScale(-1, 2, "s", 2, least=-60, most=60)
AUDIO = "Sound (*.wav *.flac *.aif *.aiff *.mp3 *.m4a *.ogg *.opus *.mp4 *.mov);;All files (*)"
FOLLOWS = {"speed": "Follows the camera's speed", "intensity": "Follows the intensity", "nothing": "Always as loud"}
MATTERS = {"ground": "Ground", "skin": "Skin", "wood": "Wood", "metal": "Metal", "glass": "Glass"}
#: By kind of sound: rules as field, words, scale, usual value, hint.
FIELDS: dict[type, tuple[tuple[str, str, NumberScale, float, str], ...]] = {
    Rumble: (
        ("tone", "Tone", TONE, 40, "Where the noise is strongest"),
        ("spread", "Spread", WIDE, 1.2, "How many octaves it is wide"),
        ("roughness", "Roughness", SHARE, 0.2, "A coarse, broken band above it"),
        ("hum", "Hum", SHARE, 0, "A held tone with overtones, as of an engine"),
        ("width", "Width", SHARE, 0.5, "0 one and the same on both sides, 1 each its own"),
        ("attack", "Attack", TIME, 0.08, "How quickly it rises with the motion"),
        ("release", "Release", TIME, 0.6, "How slowly it falls after it"),
    ),
    Knocks: (
        ("pitch", "Pitch", PITCH, 70, "What the body rings at"),
        ("fall", "Fall", FALL, 0.5, "From how many octaves above it comes"),
        ("decay", "Decay", TIME, 0.18, "How long until a third of it is left"),
        ("bright", "Brightness", SHARE, 0.5, "How much of it lies in overtones"),
        ("click", "Click", SHARE, 0.3, "The edge at its beginning"),
        ("room", "Room", SHARE, 0.25, "How much comes back from around it"),
        ("reverb", "Room's length", ROOM, 0.7, "Seconds until it has died away by 60 dB"),
        ("differ", "Difference", SHARE, 0.3, "How much no two of them are alike"),
        ("delay", "Delay", DELAY, 0, "Besides the delay of the jolts that it belongs to"),
    ),
    Layer: (
        ("offset", "Start", START, 0, "Seconds of the shot at which it begins"),
        ("fade", "Crossfade", TIME, 0.5, "From one round to the next"),
    ),
}


class SoundPanel(Column):
    """Shows what belongs to the kind of the chosen sound."""

    go_to = Signal(int)

    def __init__(self, state: DeskState) -> None:
        super().__init__()
        self._state, self._session = state, state.session
        self.sound: Any = None
        self._key, self._shot_id = "", ""
        self.follow: QComboBox
        self.matter: QComboBox
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
        self.level = self._rule("level", "Level", DB, 0.0, "How loud; −48 and less is silence", self._set_level)
        self.rules: dict[type, dict[str, NumberField]] = {}
        self._mine: dict[type, list[QWidget]] = {kind: [] for kind in FIELDS}
        self.follow = self._box("What it follows", lambda at: self._apply("Follow", follow=self.follow.itemData(at)))
        for follow in get_args(Follow):
            self.follow.addItem(tr(FOLLOWS[follow]), follow)
        self._mine[Rumble].append(self.follow)
        self.matter = self._box("What is struck", lambda at: self._apply("Matter", matter=self.matter.itemData(at)))
        for matter in get_args(Matter):
            self.matter.addItem(tr(MATTERS[matter]), matter)
        self.strand = self._box("Which jolts", lambda at: self._apply("Jolts", strand=self.strand.itemData(at)))
        self._mine[Knocks] += [self.matter, self.strand]
        for kind, fields in FIELDS.items():
            made = {name: self._rule(name, words, scale, value, tip) for name, words, scale, value, tip in fields}
            self.rules[kind] = made
            self._mine[kind] += made.values()
        self.loop = QCheckBox(tr("Over and over"))
        self.loop.clicked.connect(lambda on: self._apply("Loop", loop=on))
        self._mine[Layer].append(self.loop)
        self.file = QPushButton(tr("Sound file…"))
        self.file.clicked.connect(self._ask_file)
        self.rows.addWidget(self.loop)
        self.rows.addWidget(self.file)
        self.tremble = self._rule("level", "Level", TREMBLE, 3.0, "By how much it trembles with the speed", self._sway)
        self.balance = self._rule(
            "balance",
            "Balance",
            SHARE,
            0.4,
            "How far it goes to the sides with the picture",
            lambda v: sound_edits.set_sway(self._shot_id, balance=v),
        )
        self.whole = QCheckBox(tr("All sound, not only the footage's"))
        self.whole.clicked.connect(
            lambda on: self._session.apply(tr("Sway of all sound"), sound_edits.set_sway(self._shot_id, whole=on))
        )
        self.rows.addWidget(self.whole)
        self.limit = QCheckBox(tr("Hold peaks at −1 dB"))
        self.limit.setToolTip(tr("A limiter that looks ahead; where it works, the row of all sound is red"))
        self.limit.clicked.connect(
            lambda on: self._session.apply(tr("Limiter"), sound_edits.set_mix(self._shot_id, limit=on))
        )
        self.rows.addWidget(self.limit)
        self.finish()

    def _box(self, name: str, act: Any) -> QComboBox:
        box = QComboBox()
        box.setAccessibleName(tr(name))
        box.setToolTip(tr(name))
        box.activated.connect(act)
        self.rows.addWidget(box)
        return box

    def _rule(
        self, field: str, words: str, scale: NumberScale, value: float, tip: str, edit: Any = None
    ) -> NumberField:
        rule = NumberField(words, scale, value=value, reset=value, tip=tip)
        bind(rule, self._session, words, edit or (lambda v: self._edit(**{field: v})))
        self.rows.addWidget(rule)
        return rule

    def _edit(self, **changes: Any) -> Edit:
        return sound_edits.set_sound(self._shot_id, self._key, **changes)

    def _apply(self, words: str, **changes: Any) -> None:
        self._session.apply(tr(words), self._edit(**changes))

    def _set_level(self, value: float) -> Edit:
        curve = with_value_at(self.sound.level, self._state.seconds, value)
        if self._key == FOOTAGE:
            return sound_edits.set_mix(self._shot_id, level=curve)
        return self._edit(level=curve)

    def _sway(self, value: float) -> Edit:
        return sound_edits.set_sway(self._shot_id, level=value)

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
        for each, widgets in self._mine.items():
            for widget in widgets:
                widget.setVisible(each is kind)
        self.level.setVisible(key != SWAY)
        self.presets.setVisible(kind in (Rumble, Knocks))
        self.file.setVisible(kind in (Knocks, Layer))
        for widget in (self.tremble, self.balance, self.whole):
            widget.setVisible(plain)
        self.limit.setChecked(mix.limit)
        self.tremble.set_value(mix.sway.level)
        self.balance.set_value(mix.sway.balance)
        self.whole.setChecked(mix.sway.whole)
        if key == FOOTAGE:
            self.note.setText(tr("As it is, it is passed on bit for bit; several tracks stay."))
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
        for field, rule in self.rules[type(sound)].items():
            rule.set_value(float(getattr(sound, field)))
        names = [each.sound.name for each in sound_presets.shipped_sounds(type(sound))]
        if [self.presets.itemText(n) for n in range(1, self.presets.count())] != names:
            self.presets.clear()
            self.presets.addItem(tr("Another…"), "")
            for name in names:
                self.presets.addItem(name, name)
        self.presets.setCurrentIndex(max(self.presets.findData(sound.name), 0))
        known = next(
            (each.note for each in sound_presets.shipped_sounds(type(sound)) if each.sound.name == sound.name), ""
        )
        self.note.setText(known)
        if isinstance(sound, Rumble):
            self.follow.setCurrentIndex(self.follow.findData(sound.follow))
        elif isinstance(sound, Knocks):
            self.matter.setCurrentIndex(self.matter.findData(sound.matter))
            jolts = [strand.name for strand in shot.shake.strands if isinstance(strand, Jolts)]
            self.strand.clear()
            self.strand.addItem(tr("With the first jolts"), "")
            for name in jolts:
                self.strand.addItem(tr("With {0}", name), name)
            self.strand.setCurrentIndex(max(self.strand.findData(sound.strand), 0))
        elif isinstance(sound, Layer):
            self.loop.setChecked(sound.loop)
        path = getattr(sound, "path", "")
        words = Path(path).name if path else tr("Sound file…") if isinstance(sound, Layer) else tr("A file instead…")
        self.file.setText(words)
        self.file.setToolTip(path)
