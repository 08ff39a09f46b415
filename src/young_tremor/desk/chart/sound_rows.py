"""The rows of what is heard: the footage's own sound, rumble, knocks, layers, sway, under one heading."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np
from PySide6.QtCore import QObject, QPointF, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPolygonF
from PySide6.QtWidgets import QHBoxLayout, QMenu, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.chart import key_menu
from young_tremor.desk.chart.key_editor import EditedCurve, KeyEditor
from young_tremor.desk.chart.row_context import RowContext
from young_tremor.desk.chart.row_groups import TALL, GroupHead
from young_tremor.desk.chart.row_heads import Lamp, RowHead
from young_tremor.desk.chart.rows import Row
from young_tremor.desk.chart.strips import Line, Strip
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import counted, tr, tr_within
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.state.gestures import bind
from young_tremor.desk.state.task_runner import Report, TaskRunner
from young_tremor.engine.sound import mixing, peaks
from young_tremor.model import sound_edits
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import Shot
from young_tremor.model.shot_edits import Edit
from young_tremor.model.sound import Knocks, Layer, Mix, Rumble, Sound

SOUND = "sound"  # the group
FOOTAGE, SWAY = "footage", "sway"  # rows that are no sounds of their own
DB = NumberScale(-48, 12, "dB", 1, least=-120, most=24)
SHORT_DB = NumberScale(-48, 12, "dB", 0, least=-120, most=24)  # where there is little room
TONE = NumberScale(20, 160, "Hz", 0, bend=2, least=10, most=400)
PITCH = NumberScale(25, 900, "Hz", 0, bend=3, least=15, most=4000)
START = NumberScale(0, 20, "s", 2, bend=2, least=-1e6, most=1e6)
TREMBLE = NumberScale(0, 12, "dB", 1, least=0, most=24)
SHARE = NumberScale(0, 1, "", 2, least=0, most=1)
LOW, HIGH = -48.0, 12.0  # dB that the row of a level spans


@dataclass(frozen=True)
class SoundSecond:
    """The rule beside the level: its words, scale, usual value and hint, and the field it changes."""

    words: str
    scale: NumberScale
    value: float
    tip: str
    field: str


SECOND: dict[type, SoundSecond] = {
    Rumble: SoundSecond("Tone", TONE, 40, "Where the noise is strongest", "tone"),
    Knocks: SoundSecond("Pitch", PITCH, 70, "Pitch of the ringing body", "pitch"),
    Layer: SoundSecond("Start", START, 0, "Seconds of the shot at which it begins", "offset"),
}
WHAT = {Rumble: "rumble", Knocks: "knocks", Layer: "layer"}


class WaveStrip(Strip):
    """A strip whose lines are waves: as far up as down, filled."""

    def _paint_lines(self, canvas: QImage) -> None:
        view = self.view
        if not view.frames:
            return
        count, middle = canvas.width(), self.height() / 2
        painter = QPainter(canvas)
        painter.setPen(Qt.PenStyle.NoPen)
        across = (np.arange(count) + 0.5) / canvas.devicePixelRatio()
        for heights, role, _ in self._draw(view.t0, view.t1, count):
            colour = theme.paper.colour(role)
            colour.setAlphaF(0.3 if self.dim else 0.82)
            painter.setBrush(colour)
            tall = np.maximum(np.clip(heights, 0, 1) * (middle - 2), 0.35)
            upper = [QPointF(x, y) for x, y in zip(across.tolist(), (middle - tall).tolist(), strict=True)]
            lower = [QPointF(x, y) for x, y in zip(across[::-1].tolist(), (middle + tall)[::-1].tolist(), strict=True)]
            painter.drawPolygon(QPolygonF(upper + lower))
        painter.end()


class SoundRow:
    """Header and wave of one sound, of the footage's own, or of the sway."""

    def __init__(self, paper: RowContext, rows: SoundRows, key: str, kind: type) -> None:
        self._paper, self._rows, self.key, self.kind = paper, rows, key, kind
        self.head = RowHead("", "", theme.ROW, choosable=True)
        self.head.setToolTip(tr("Click for all controls of this sound"))
        sway = key == SWAY
        self.level = NumberField(
            "Level",
            TREMBLE if sway else SHORT_DB,
            value=3.0 if sway else 0.0,
            small=True,
            tip="By how much it trembles" if sway else "How loud; −48 and less is silence",
        )
        second = SECOND.get(kind)
        self.second = (
            NumberField("Balance", SHARE, value=0.4, small=True, tip="How far it goes to the sides")
            if sway
            else (
                NumberField(second.words, second.scale, value=second.value, small=True, tip=second.tip)
                if second
                else None
            )
        )
        self.head.add_rules(*filter(None, (self.level, self.second)))
        session = paper.session
        bind(self.level, session, "Level of the sound", self._set_level)
        if self.second is not None:
            bind(self.second, session, "Balance" if sway else second.words if second else "", self._set_second)
        self.head.lamp.toggled.connect(
            lambda on: session.apply(tr("Sound on") if on else tr("Sound off"), self.lit(on))
        )
        self.head.chosen.connect(self._choose)
        self.head.menu.connect(self.fill_menu)
        self.strip = WaveStrip(paper.view, self._lines, theme.ROW, name="Wave")
        self.strip.menu = self.fill_menu
        self.strip.scrubbed.connect(paper.scrubbed.emit)
        self.editors = {"level": self._editor("level", LOW, HIGH, "{:.1f} dB".format)}
        self.editors["level"].nothing = LOW
        if key not in (SWAY, FOOTAGE):
            self.editors["place"] = self._editor("place", -1.0, 1.0, "{:.2f}".format)
        self.row = Row(self.head, self.strip)

    def _editor(self, field: str, low: float, high: float, text: Callable[[float], str]) -> KeyEditor:
        read, write = partial(self._curve, field), partial(self._write, field)
        edited = EditedCurve(f"{self.key}/{field}", field.capitalize(), read, write, (low, high), text)
        return KeyEditor(self.strip, self._paper, edited)

    @property
    def sound(self) -> Sound | None:
        """The sound that it shows, as the document has it."""
        shot = self._paper.shot
        return next((row for row in shot.sound.rows if row.id == self.key), None) if shot is not None else None

    @property
    def _mix(self) -> Mix:
        return self._paper.shot.sound if self._paper.shot is not None else Mix()

    def _curve(self, field: str) -> Curve | None:
        holder = None if self.key == SWAY else self._mix if self.key == FOOTAGE else self.sound
        curve: Curve | None = None if holder is None else getattr(holder, field)
        return curve

    def _write(self, field: str, curve: Curve) -> Edit:
        if self.key == FOOTAGE:
            return sound_edits.set_mix(self._paper.shot_id, **{field: curve})
        return sound_edits.set_sound(self._paper.shot_id, self.key, **{field: curve})

    def _set_level(self, value: float) -> Edit:
        if self.key == SWAY:
            return sound_edits.set_sway(self._paper.shot_id, level=value)
        return self._write("level", with_value_at(self._curve("level") or Curve(0.0), self._paper.now, value))

    def _set_second(self, value: float) -> Edit:
        if self.key == SWAY:
            return sound_edits.set_sway(self._paper.shot_id, balance=value)
        return sound_edits.set_sound(self._paper.shot_id, self.key, **{SECOND[self.kind].field: value})

    def lit(self, on: bool) -> Edit:
        """What its lamp does."""
        if self.key == SWAY:
            return sound_edits.set_sway(self._paper.shot_id, on=on)
        if self.key == FOOTAGE:
            return sound_edits.set_mix(self._paper.shot_id, footage=on)
        return sound_edits.set_sound(self._paper.shot_id, self.key, on=on)

    def _choose(self) -> None:
        now = self._paper.state.now
        self._paper.state.choose(
            sound=None if (now.sound, now.target) == (self.key, "sound") else self.key, strand=None
        )

    def fill_menu(self, menu: QMenu) -> None:
        """What can be done with the sound as a whole."""
        if self.key != SWAY:
            for field in self.editors:
                self._fill_shape(field, menu)
            key_menu.fill_shapes(menu.addMenu(tr("Ready shapes of the level")), self.editors["level"])
        if self.key == FOOTAGE:
            return
        session, shot = self._paper.session, self._paper.shot_id
        edit = sound_edits.set_sway(shot, on=False) if self.key == SWAY else sound_edits.remove_sound(shot, self.key)
        if isinstance(self.sound, Layer):
            menu.addAction(tr("Thud at each hit from this file"), partial(self._rows.thud_asked.emit, self.key))
        menu.addAction(tr("Remove this sound"), partial(session.apply, tr("Remove sound"), edit))

    def _fill_shape(self, field: str, menu: QMenu) -> None:
        shape = menu.addAction(
            tr("Shape the {0} over time", tr_within(field.capitalize())), partial(self._toggle_shaping, field)
        )
        shape.setCheckable(True)
        shape.setChecked(self.strip.editor is self.editors[field])

    def _toggle_shaping(self, field: str) -> None:
        editor = self.editors[field]
        self.strip.set_editor(None if self.strip.editor is editor else editor)

    def show(self) -> None:
        """Follow the document."""
        mix, sound, now = self._mix, self.sound, np.array([self._paper.now])
        if self.key == SWAY:
            self.head.set_words(tr("Sound sway"), tr("all of it") if mix.sway.whole else tr("footage sound"))
            self._light(mix.on and mix.sway.on)
            self.level.set_value(mix.sway.level)
            if self.second is not None:
                self.second.set_value(mix.sway.balance)
            return
        if self.key == FOOTAGE:
            self.head.set_words(tr("Footage sound"), tr("as it is") if mix.untouched else tr("its own"))
            self._light(mix.footage)
        elif sound is not None:
            self.head.set_words(sound.name, tr(WHAT[type(sound)]))
            self._light(mix.on and sound.on)
            if self.second is not None:
                self.second.set_value(float(getattr(sound, SECOND[type(sound)].field)))
        curve = self._curve("level")
        if curve is not None:
            self.level.set_value(round(float(curve.at(now)[0]), 2))
        for field, editor in self.editors.items():
            keyed = self._curve(field)
            if keyed is not None and not keyed.constant and self.strip.editor is None:
                self.strip.set_editor(editor)

    def _light(self, on: bool) -> None:
        if on != self.head.lamp.on:
            self.head.lamp.set_on(on)
            self.head.update()
        if self.strip.dim == on:
            self.strip.dim = not on
            self.strip.refresh()

    def _lines(self, first: float, last: float, count: int) -> list[Line]:
        if self.key == SWAY:
            return []
        return self._rows.wave(self.key, first, last, count)


class SoundGroup(QWidget):
    """The heading: folds the rows, one lamp for all that was added, and the wave of everything, red where limited."""

    def __init__(self, paper: RowContext, rows: SoundRows) -> None:
        super().__init__()
        self.head = GroupHead()
        self.head.margin = 34
        self.lamp = Lamp(tr("All that was added"), parent=self.head)
        self.lamp.move(theme.HEADS - 28, 1)
        self.lamp.setToolTip(tr("All sound but the footage's own, on or off"))
        self.strip = WaveStrip(paper.view, partial(rows.wave, peaks.MIX), TALL, name="Sound")
        self.strip.scrubbed.connect(paper.scrubbed.emit)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.head)
        row.addWidget(self.strip, 1)
        self.head.toggled.connect(rows.toggle)
        self.lamp.toggled.connect(
            lambda on: paper.session.apply(
                tr("Sound on") if on else tr("Sound off"), sound_edits.set_mix(paper.shot_id, on=on)
            )
        )


class SoundRows(QObject):
    """The group on the chart; its waves are made in the background, each when what it is made of differs."""

    thud_asked = Signal(str)  # the id of a layer whose file is to be heard at each hit

    def __init__(self, paper: RowContext, runner: TaskRunner, ask: Callable[[], None], home: QWidget) -> None:
        super().__init__(home)
        self._paper, self._runner, self._home = paper, runner, home
        self.group = SoundGroup(paper, self)
        self.group.setParent(home)  # also while it is not seen, so that it goes with the window
        self.group.hide()
        self.group.head.menu.connect(lambda menu: ask())
        self.rows: dict[str, SoundRow] = {}
        self._waves: dict[str, tuple[object, np.ndarray]] = {}
        self.limited = np.zeros(0)  # seconds at which the limiter is at work

    @property
    def folded(self) -> bool:
        """Whether only the heading is seen: as it comes while nothing is done to the sound."""
        shot, turned = self._paper.shot, SOUND in self._paper.state.now.folded
        return turned if shot is not None and mixing.is_mixed(shot) else not turned

    def toggle(self) -> None:
        """Fold or unfold."""
        state = self._paper.state
        state.choose(folded=state.now.folded ^ {SOUND})

    def place_rows(self, shot: Shot | None, info: SourceInfo | None) -> list[Any]:
        """The rows to be seen, the heading first; none where there is nothing to hear."""
        keys = self._keys(shot, info) if shot is not None and info is not None else {}
        if not keys or shot is None or info is None:
            return []
        self._make_rows(keys)
        sound = shot.sound
        names = [row.name for row in sound.rows]
        note = ", ".join(names) if names else tr("as it is") if sound.untouched else tr("changed")
        self.group.head.show_group(tr("Sound"), note, folded=self.folded)
        self.group.lamp.setVisible(bool(sound.rows) or sound.sway.on)
        self.group.lamp.set_on(sound.on)
        self._make(shot, info)
        return [self.group, *((row.row for row in self.rows.values()) if not self.folded else ())]

    @staticmethod
    def _keys(shot: Shot, info: SourceInfo) -> dict[str, type]:
        """What is heard of a shot: by the key of its row, of what kind it is."""
        if not info.audio and not shot.sound.rows:
            return {}
        keys: dict[str, type] = {FOOTAGE: Mix} if info.audio else {}
        keys |= {row.id: type(row) for row in shot.sound.rows}
        if shot.sound.sway.on or shot.sound.rows:
            keys[SWAY] = Mix
        return keys

    def _make_rows(self, keys: dict[str, type]) -> None:
        """Have one row for each key; those of the same kind are kept."""
        before = self.rows
        kept = {key: row for key, row in before.items() if keys.get(key) is row.kind}
        self.rows = {key: kept.get(key) or SoundRow(self._paper, self, key, kind) for key, kind in keys.items()}
        for key, row in before.items():
            if self.rows.get(key) is not row:
                row.row.hide()
                row.row.deleteLater()
        for key, row in self.rows.items():
            if row.row.parentWidget() is None:
                row.row.setParent(self._home)
                row.row.hide()
            row.head.set_selected(key == self._paper.state.now.sound)
            row.show()

    def said(self) -> str:
        """What there is, counted."""
        return counted(len(self.rows), "sound")

    def wave(self, key: str, first: float, last: float, count: int) -> list[Line]:
        """How loud a sound is along the way; quiet ones are drawn larger than they are, so that they are seen."""
        known = self._waves.get(key)
        if known is None or not len(known[1]):
            return []
        return [(np.sqrt(peaks.columns(known[1], first, last, count)), "ink", 1.0)]

    def _key(self, shot: Shot, key: str) -> object:
        if key == FOOTAGE:
            return shot.footage.media.path, shot.start, shot.end
        moved = (shot.shake, shot.hits, shot.over, shot.frame.focal_mm, shot.end, shot.start)
        if key == peaks.MIX:
            return shot.sound, moved
        return next((row for row in shot.sound.rows if row.id == key), None), moved

    def _make(self, shot: Shot, info: SourceInfo) -> None:
        """Make the waves that differ, in the background; again if they differ once more by then. What is dragged is
        waited for: the last one counts."""
        long = self._paper.view.length
        wanted = [key for key in (*self.rows, peaks.MIX) if key != SWAY and (key != FOOTAGE or info.audio)]
        if not mixing.is_mixed(shot) and info.audio:
            wanted = [FOOTAGE]
        names = {row.id: row.name for row in shot.sound.heard}
        todo = []
        for key in wanted:
            known, made = self._waves.get(key), self._key(shot, key)
            if (key in (FOOTAGE, peaks.MIX) or key in names) and (known is None or known[0] != made):
                todo.append((key, made))
        if not todo or self._runner.busy("waves") or self._paper.session.in_gesture:
            return
        path = shot.footage.media.path

        def work(report: Report) -> dict[str, tuple[object, np.ndarray, np.ndarray]]:
            out = {}
            for number, (key, made) in enumerate(todo):
                report(number, len(todo))
                if key == FOOTAGE:
                    values = peaks.of_footage(path, report)[round(shot.start * peaks.RATE) :]
                    out[key] = made, values[: round(long * peaks.RATE)], np.zeros(0)
                else:
                    row, limited = peaks.of_row(shot, long, names.get(key, peaks.MIX), report)
                    out[key] = made, row, limited
            return out

        def land(found: dict[str, tuple[object, np.ndarray, np.ndarray]]) -> None:
            for key, (made, row, limited) in found.items():
                self._waves[key] = made, row
                if key == peaks.MIX:
                    self.limited = limited
            if FOOTAGE in found and not mixing.is_mixed(shot):
                self._waves[peaks.MIX] = ("footage", found[FOOTAGE][0]), found[FOOTAGE][1]
                self.limited = np.zeros(0)
            self.show_waves()

        def ended() -> None:
            now = self._paper.shot
            if now is not None and self._paper.info is not None and now is not shot:
                self._make(now, self._paper.info)

        def failed(words: str) -> None:
            self._runner.told.emit(words)
            for key, made in todo:  # it is not tried again until it differs
                self._waves[key] = made, np.zeros(0, np.float32)

        self._runner.run_quietly(
            "waves",
            work,
            land,
            still=lambda: self._paper.shot is not None and self._paper.shot.id == shot.id,
            failed=failed,
            ended=ended,
        )

    def show_waves(self) -> None:
        """Draw what is there now."""
        view = self._paper.view
        gaps = np.zeros(view.frames, bool)
        gaps[np.clip((self.limited * float(view.rate)).astype(int), 0, max(view.frames - 1, 0))] = bool(view.frames)
        self.group.strip.gaps = gaps if gaps.any() else None
        for strip in (self.group.strip, *(row.strip for row in self.rows.values())):
            strip.refresh()
