"""A span's full controls: where it lies, how it comes and goes, what it is made of."""

from __future__ import annotations

from functools import partial
from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from young_tremor.desk.chart.row_heads import Lamp
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column, remark, section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.panels.controls import Controls
from young_tremor.desk.panels.preset_box import PresetBox
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.library import preset_library
from young_tremor.engine.sound import sound_presets
from young_tremor.model import reel_edits, shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.fields import AMOUNT_SCALE
from young_tremor.model.project import Span
from young_tremor.model.shake import Shake


class SpanPanel(Column):
    """The chosen span of the reel."""

    kept = Signal(object)  # the span that is to become a preset

    def __init__(self, state: DeskState) -> None:
        super().__init__()
        self._state, self._session = state, state.session
        self.span: Span | None = None
        self._shown: tuple[object, ...] = ()
        head = QHBoxLayout()
        head.addWidget(section("Span"))
        head.addStretch(1)
        self.where = QLabel()
        self.where.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        head.addWidget(self.where)
        self.rows.addLayout(head)
        self.name = QLineEdit()
        self.name.setAccessibleName(tr("Name of the span"))
        self.name.editingFinished.connect(self._rename)
        self.rows.addWidget(self.name)
        self._shake = Controls(Shake, self._session, self, self._edit_shake)
        self._controls = Controls(Span, self._session, self, self._edit)
        self.level = self._shake.number("intensity")
        self.pace = self._shake.number("pace")
        self.fade_in = self._controls.number("fade_in")
        self.fade_out = self._controls.number("fade_out")
        self.heading("Strands")
        self.preset = PresetBox("Preset of the span")
        self.preset.setToolTip(tr("Another preset in its place"))
        self.preset.activated.connect(lambda number: self._put(self.preset.itemData(number)))
        self.rows.addWidget(self.preset)
        self._list = QWidget()
        self._column = self.rows
        self.rows.addWidget(self._list)
        self.heading("Hits and more")
        line = QHBoxLayout()
        for words, act in (
            ("Hit here", self._hit),
            ("No hits", lambda: self._apply("Hits", hits=())),
        ):
            button = QPushButton(tr(words))
            button.clicked.connect(act)
            line.addWidget(button)
        self.rows.addLayout(line)
        line = QHBoxLayout()
        for words, act in (
            ("Add sound to it", self._add_sound),
            ("No sound", lambda: self._apply("Sound of the span", sounds=())),
        ):
            button = QPushButton(tr(words))
            button.clicked.connect(act)
            line.addWidget(button)
        self.rows.addLayout(line)
        self.heard = remark()
        self.rows.addWidget(self.heard)
        line = QHBoxLayout()
        for words, act in (
            ("Keep as preset", lambda: self.kept.emit(self.span)),
            ("Remove span", self._remove),
        ):
            button = QPushButton(tr(words))
            button.clicked.connect(act)
            line.addWidget(button)
        self.rows.addLayout(line)
        self.finish()

    def _edit(self, **changes: Any) -> shot_edits.Edit:
        return reel_edits.set_span(self.span.id, **changes) if self.span is not None else lambda project: project

    def _edit_shake(self, **changes: Any) -> shot_edits.Edit:
        if self.span is None:
            return lambda project: project
        return self._edit(shake=replace(self.span.shake, **changes))

    def _apply(self, words: str, **changes: Any) -> None:
        self._session.apply(tr(words), self._edit(**changes))

    def _rename(self) -> None:
        name = self.name.text().strip()
        if self.span is not None and name and name != self.span.name:
            self._apply("Rename span", name=name)

    def _put(self, name: str) -> None:
        if self.span is not None:
            shakes = shot_edits.shakes_of(self._session.project, without=frozenset((self.span.id,)))
            shake = shot_edits.unlike(shot_edits.from_preset(preset_library.preset(name)), shakes)
            self._apply("Preset of the span", shake=shake)

    def _hit(self) -> None:
        """A hit of the span where the playhead is in the reel."""
        if self.span is not None:
            view = self._state.reel_time
            at = float(view.frame / view.rate)
            self._apply("Hit of the span", hits=reel_edits.with_hit(self.span.hits, at))

    def _add_sound(self) -> None:
        """Let what goes with its strands be heard, on through the cuts."""
        if self.span is not None:
            self._apply("Add sound to the span", sounds=sound_presets.propose_sounds(self.span.shake))

    def _remove(self) -> None:
        if self.span is not None:
            self._session.apply(tr("Remove span"), reel_edits.remove_span(self.span.id))

    def _strand(self, strand: str, **changes: Any) -> shot_edits.Edit:
        if self.span is None:
            return lambda project: project
        strands = tuple(replace(s, **changes) if s.id == strand else s for s in self.span.shake.strands)
        return self._edit_shake(strands=strands)

    def show_span(self, span: Span) -> None:
        """Show a span."""
        self.span = span
        under = sum(place.at < span.end and place.end > span.start for place in self._state.places)
        shots = tr("over 1 shot") if under == 1 else tr("over {0} shots", under)
        self.where.setText(f"{shots}, {_time(span.start)} – {_time(span.end)}")
        if not self.name.hasFocus():
            self.name.setText(span.name)
        shake = span.shake
        self._shake.show(shake)
        self._controls.show(span)
        self.heard.setVisible(bool(span.sounds))
        self.heard.setText(tr("Heard: {0}", ", ".join(sound.name for sound in span.sounds)))
        self.preset.show_preset(shake.preset)
        key = tuple((s.id, s.name, s.on, s.amount.value) for s in shake.strands)
        if key != self._shown:
            self._shown = key
            self._show_strands(span)

    def _show_strands(self, span: Span) -> None:
        """A lamp, the name and the amount of each of its strands."""
        old, self._list = self._list, QWidget()
        column = QVBoxLayout(self._list)
        column.setContentsMargins(0, 0, 0, 0)
        for strand in span.shake.strands:
            line = QHBoxLayout()
            lamp = Lamp(tr(strand.name))
            lamp.set_on(strand.on)
            lamp.toggled.connect(partial(self._light, strand.id))
            line.addWidget(lamp)
            rule = NumberField(
                strand.name,
                AMOUNT_SCALE,
                value=round(100 * strand.amount.value, 2),
                reset=100,
                tip="How much of this strand",
            )
            bind(rule, self._session, "Amount", partial(self._amount, strand.id))
            line.addWidget(rule, 1)
            column.addLayout(line)
        self._column.replaceWidget(old, self._list)
        old.hide()
        old.deleteLater()

    def _amount(self, strand: str, value: float) -> shot_edits.Edit:
        return self._strand(strand, amount=Curve(value / 100))

    def _light(self, strand: str, on: bool) -> None:
        self._session.apply(tr("Strand on") if on else tr("Strand off"), self._strand(strand, on=on))


def _time(seconds: float) -> str:
    return f"{int(seconds // 60)}:{seconds % 60:04.1f}"
