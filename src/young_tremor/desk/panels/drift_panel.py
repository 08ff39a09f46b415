"""A drift strand's full controls."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
from msgspec.structs import replace
from PySide6.QtWidgets import QPushButton

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.chart.row_heads import RATE
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.panels.strand_panel import CHANNEL_WORDS, INKS, REACHES, SHARE, StrandPanel
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.analysis import traces
from young_tremor.model import shot_edits
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS, UNITS, Drift


class DriftPanel(StrandPanel):
    """A drift strand's full controls."""

    title = "Drift"
    _strand: Drift | None
    _half_rate = 12.0
    _seconds = 10.0

    def _fill(self) -> None:
        self._channel = "x"
        self.rate = self._rule(
            "Rate",
            RATE,
            0.6,
            "Swings per second, roughness included",
            lambda v: {"rate": with_value_at(self._now().rate, self.now, v)},
        )
        self.rate.set_note(lambda v: "above half the frame rate" if v > self._half_rate else "")
        match = QPushButton(tr("Match a take…"))
        match.setToolTip(tr("Fit reach, rate and roughness to measured motion, and compare the spectra"))
        match.clicked.connect(lambda: self.match_asked.emit(match.mapToGlobal(match.rect().bottomLeft())))
        self.rows.addWidget(match)
        self._balance()
        self._character()
        self._walking()
        self._stillness()
        self._one_channel()

    def _of(self, part: str, field: str) -> Callable[[float], dict[str, Any]]:
        """What changes a field of a part of the drift."""
        return lambda v: {part: replace(getattr(self._now(), part), **{field: v})}

    def _character(self) -> None:
        self.heading("Character")
        self.roughness = self._rule("Roughness", SHARE, 0.2, "Tremor on top, up to 12 Hz", lambda v: {"roughness": v})
        self.regularity = self._rule(
            "Regularity", SHARE, 0, "0 is a broad band, 1 a single even swing", lambda v: {"regularity": v}
        )
        self.wander = self._rule(
            "Wander",
            SHARE,
            0,
            "How far its size comes and goes",
            self._of("wander", "depth"),
        )
        self.swings = self._rule(
            "Wander rate",
            NumberScale(0.01, 2, "Hz", 2, bend=3, least=0.001, most=20),
            0.08,
            "How often its size comes and goes",
            self._of("wander", "rate"),
        )
        self.holds = self._rule(
            "Reach holds in",
            NumberScale(0, 60, "s", 1, bend=2, least=0, most=1e5),
            0,
            "Seconds of the shot in which the reach is what 95 % of this very course is under; "
            "0: of all time, and a short shot may come to more or less, as it says beside the number",
            lambda v: {"holds": v},
        )
        self.holds.set_note(self._size_here)

    def _size_here(self, value: float) -> str:
        """What the reach comes to in this very shot."""
        if value or self._strand is None or self._shot is None:
            return "this shot"
        least, most = traces.size_here(self._shot, self._strand, self._seconds)
        return f"here {least:.2f}–{most:.2f} ×" if most - least > 0.02 else f"here {most:.2f} ×"

    def _walking(self) -> None:
        self.heading("Walking")
        self.strike = self._rule(
            "Heel strike",
            NumberScale(0, 1, "×", 2, least=0, most=10),
            0,
            "A short knock at each beat, in times the reach",
            self._of("steps", "strike"),
        )
        self.stride = self._rule(
            "Step size",
            NumberScale(0, 0.4, "", 2, least=0, most=1),
            0,
            "By how much beats differ in size; a walk has 0.1",
            lambda v: {"steps": replace(self._now().steps, size=v, length=0.3 * v)},
        )

    def _stillness(self) -> None:
        self.heading("Stillness")
        self.rest = self._rule(
            "Rests",
            NumberScale(0, 0.9, "", 2),
            0,
            "Share of the time in which it holds still",
            self._of("rests", "share"),
        )
        self.hold = self._rule(
            "Hold",
            NumberScale(0.2, 8, "s", 1, bend=2, least=0.05, most=120),
            1.2,
            "How long it typically holds still",
            self._of("rests", "hold"),
        )
        self.correct = self._rule(
            "Corrections",
            NumberScale(0, 4, "×", 2, bend=1.5, least=0, most=100),
            0,
            "Moves of the framing now and then, in times the reach; the hand is steadier after each",
            self._of("corrections", "size"),
        )
        self.often = self._rule(
            "How often",
            NumberScale(2, 60, "/min", 0, bend=1.5, least=0, most=120),
            18,
            "Corrections a minute",
            self._of("corrections", "rate"),
        )
        self.step = self._rule(
            "Steps",
            NumberScale(0, 24, "/s", 0, least=0, most=120),
            0,
            "Positions per second, each held; 0 is none",
            lambda v: {"step": v},
        )
        self.lean = self._rule(
            "Zoom lean", NumberScale(-1, 1, "", 2), 0, "−1 only out, 0 both ways, 1 only in", lambda v: {"lean": v}
        )
        self.ease_in = self._rule(
            "Ease in",
            NumberScale(0, 10, "s", 1, bend=2, least=0, most=600),
            0,
            "From stillness at the shot's start",
            lambda v: {"ease_in": v},
        )

    def _balance(self) -> None:
        self.heading("Balance")
        self.reaches: dict[str, NumberField] = {}
        for name in CHANNELS:
            unit = UNITS[name]
            scale = NumberScale(0, REACHES[name], unit, 2, bend=2.5, least=0, most=90 if unit == "°" else 100)
            rule = NumberField(
                f"{CHANNEL_WORDS[name]} reach",
                scale,
                value=0,
                reset=0,
                ink=INKS[name],
                tip="Seldom exceeded: 95 % of the time it is less",
            )
            rule.set_note(partial(self._pixels, name))
            bind(rule, self._session, "Reach", partial(self._channel_edit, "reach", name))
            self.reaches[name] = rule
            self.rows.addWidget(rule)

    def _one_channel(self) -> None:
        self.heading("One channel")
        self.channels = Segments(
            tuple((n, CHANNEL_WORDS[n], f"Own rate and phase of {CHANNEL_WORDS[n].lower()}") for n in CHANNELS),
            "Channel",
        )
        self.channels.setMinimumWidth(0)
        self.channels.setFixedWidth(theme.PANEL - 44)
        self.channels.chosen.connect(self._choose_channel)
        self.rows.addWidget(self.channels)
        self.own_rate = NumberField(
            "Rate factor",
            NumberScale(0.05, 4, "×", 2, bend=2, least=0.01, most=50),
            value=1,
            reset=1,
            tip="Times the strand's rate: 0.5 swings once where the others swing twice",
        )
        self.phase = NumberField(
            "Phase",
            NumberScale(-180, 180, "°", 0, least=-360, most=360),
            value=0,
            reset=0,
            tip="How far its regular part is ahead of the common beat",
        )
        for rule, key, label in ((self.own_rate, "rate", "Rate factor"), (self.phase, "phase", "Phase")):
            bind(rule, self._session, label, partial(self._channel_edit, key, None))
            self.rows.addWidget(rule)

    def _channel_edit(self, field: str, channel: str | None, value: float) -> shot_edits.Edit:
        """Change ``field`` of a channel, or of the one that is looked at."""
        return shot_edits.set_channel(self._shot_id(), self._now().id, channel or self._channel, **{field: value})

    def _now(self) -> Drift:
        assert self._strand is not None
        return self._strand

    def _choose_channel(self, name: str) -> None:
        self._channel = name
        self.channels.choose(name)
        self._show_channel()

    def _show_channel(self) -> None:
        if self._strand:
            channel = self._strand.channels[self._channel]
            self.own_rate.set_value(channel.rate)
            self.phase.set_value(channel.phase)

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Drift, now: float) -> None:
        self._half_rate = float(info.rate) / 2
        self._seconds = max((info.seconds if shot.end is None else shot.end) - shot.start, 0.1)
        self._show_common(shot, info, strand, now)
        for rule, value in (
            (self.rate, float(strand.rate.at(np.array([now]))[0])),
            (self.roughness, strand.roughness),
            (self.regularity, strand.regularity),
            (self.wander, strand.wander.depth),
            (self.swings, strand.wander.rate),
            (self.holds, strand.holds),
            (self.correct, strand.corrections.size),
            (self.often, strand.corrections.rate),
            (self.strike, strand.steps.strike),
            (self.stride, strand.steps.size),
            (self.rest, strand.rests.share),
            (self.hold, strand.rests.hold),
            (self.step, strand.step),
            (self.lean, strand.lean),
            (self.ease_in, strand.ease_in),
        ):
            rule.set_value(value)
        self.holds.update()
        for name, rule in self.reaches.items():
            rule.set_value(strand.channels[name].reach)
            rule.update()
        self._show_channel()
