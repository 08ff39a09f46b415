"""A drift strand's full controls."""

from __future__ import annotations

from functools import partial
from typing import Any

from msgspec.structs import replace
from PySide6.QtWidgets import QPushButton

from young_tremor.base.frames import SourceInfo
from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.panels.controls import FIELD, Controls, side_by_side
from young_tremor.desk.panels.strand_panel import CHANNEL_WORDS, INKS, StrandPanel
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.analysis import traces
from young_tremor.engine.document.session import Session
from young_tremor.model import shot_edits
from young_tremor.model.fields import number_at
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS, UNITS, Drift, DriftChannel, Together

#: How far each channel's reach goes on its control: shifts and zoom in percent, turns in degrees.
REACHES = {"x": 6.0, "y": 6.0, "roll": 4.0, "zoom": 6.0, "pan": 3.0, "tilt": 3.0}


class DriftPanel(StrandPanel):
    """A drift strand's full controls."""

    _half_rate = 12.0
    _seconds = 10.0

    def __init__(self, session: Session) -> None:
        self._channel = "x"
        super().__init__(Drift, "Drift", session)

    def _fill(self) -> None:
        number = self.controls.number
        self.rate = number("rate")
        self.rate.set_note(lambda v: "above half the frame rate" if v > self._half_rate else "")
        match = QPushButton(tr("Match a take…"))
        match.setToolTip(tr("Fit reach, rate and roughness to measured motion, and compare the spectra"))
        match.clicked.connect(lambda: self.match_asked.emit(match.mapToGlobal(match.rect().bottomLeft())))
        self._below_seed.append(match)
        self._add_holder()
        self._add_balance()
        self.heading("Character")
        for path in ("roughness", "regularity", "wander.depth", "wander.rate", "holds"):
            number(path)
        self.controls.numbers["holds"].set_note(self._size_here)
        self.heading("Whole shake")
        self.tied = Controls(Together, self._session, self, self._edit_together, step="Together")
        for path in ("amount", "rate", "kicks", "kick"):
            self.tied.number(path).setProperty(FIELD, f"together.{path}")
        self.heading("Walking")
        self.controls.switch("steps.free")
        number("steps.strike")
        # beats that differ in size differ in time as well
        number("steps.size", changes=lambda v: {"steps": replace(self._strand.steps, size=v, length=0.3 * v)})
        self.heading("Stillness")
        for path in ("rests.share", "rests.hold", "corrections.size", "corrections.rate", "step", "lean", "ease_in"):
            number(path)
        self._add_one_channel()

    def _edit_together(self, **changes: Any) -> shot_edits.Edit:
        return shot_edits.set_together(self._shot_id(), self._strand.id if self._strand else "", **changes)

    def _size_here(self, value: float) -> str:
        """What the reach comes to in this very shot."""
        if self._strand is None or self._shot is None:
            return ""
        least, most = traces.size_here(self._shot, self._strand, self._seconds)
        if value:
            return "this shot" if least > 0.98 else f"too slow: {least:.2f} ×"
        return f"here {least:.2f}–{most:.2f} ×" if most - least > 0.02 else f"here {most:.2f} ×"

    def _add_balance(self) -> None:
        """The reach of every channel, each with a scale of its own."""
        self.heading("Balance")
        self.reaches: dict[str, NumberField] = {}
        tip = number_at(DriftChannel, "reach").tip
        for name in CHANNELS:
            unit = UNITS[name]
            scale = NumberScale(0, REACHES[name], unit, 2, bend=2.5, least=0, most=90 if unit == "°" else 100)
            control = NumberField(f"{CHANNEL_WORDS[name]} reach", scale, ink=INKS[name], tip=tip, small=True)
            control.set_note(partial(self._pixels, name))
            control.setProperty(FIELD, f"channels.{name}.reach")
            control.meaning = "% of height" if scale.unit == "%" and name != "zoom" else ""
            bind(control, self._session, "Reach", partial(self._channel_edit, "reach", name))
            control.shorten(CHANNEL_WORDS[name])
            self.reaches[name] = control
        for pair in (("x", "y"), ("roll", "zoom"), ("pan", "tilt")):
            self.rows.addLayout(side_by_side(*(self.reaches[name] for name in pair)))

    def _add_one_channel(self) -> None:
        self.heading("One channel")
        self.channels = Segments(
            tuple((n, CHANNEL_WORDS[n], f"Rate and phase of {CHANNEL_WORDS[n].lower()}") for n in CHANNELS),
            "Channel",
        )
        self.channels.setMinimumWidth(0)
        self.channels.setFixedWidth(theme.PANEL - 44)
        self.channels.chosen.connect(self._choose_channel)
        self.rows.addWidget(self.channels)
        self.own: dict[str, NumberField] = {}
        for name, usual in (("rate", 1.0), ("phase", 0.0)):
            field = number_at(DriftChannel, name)
            control = self.own[name] = NumberField(field.label, field.shown_as, value=usual, tip=field.tip)
            bind(control, self._session, field.label, partial(self._channel_edit, name, None))
            self.rows.addWidget(control)

    def _channel_edit(self, field: str, channel: str | None, value: float) -> shot_edits.Edit:
        """Change ``field`` of a channel, or of the one that is looked at."""
        return shot_edits.set_channel(self._shot_id(), self._strand.id, channel or self._channel, **{field: value})

    def _choose_channel(self, name: str) -> None:
        self._channel = name
        self.channels.choose(name)
        self._show_channel()

    def _show_channel(self) -> None:
        if self._strand:
            channel = self._strand.channels[self._channel]
            for name, control in self.own.items():
                control.set_value(getattr(channel, name))

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Drift, now: float) -> None:  # type: ignore[override]
        self._half_rate = float(info.rate) / 2
        self._seconds = max((info.seconds if shot.end is None else shot.end) - shot.start, 0.1)
        super().show_strand(shot, info, strand, now)
        self.tied.show(shot.shake.together, now)
        self.controls.numbers["holds"].update()
        for name, control in self.reaches.items():
            control.set_value(strand.channels[name].reach)
            control.update()
        self._show_channel()
