"""The full controls of a chosen strand: one panel a kind."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QLineEdit, QPushButton, QSizePolicy

from young_tremor.base.frames import SourceInfo
from young_tremor.desk import theme
from young_tremor.desk.column import Column, divider, section
from young_tremor.desk.heads import AMOUNT, RATE, SETTLE
from young_tremor.desk.rows import bind, tuned
from young_tremor.desk.rule import Rule, Scale
from young_tremor.desk.transport import Segments
from young_tremor.engine import traces
from young_tremor.engine.session import Session
from young_tremor.model import edits, keys
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS, PLOTTED, UNITS, Drift, Jolts, Plotted, Strand

REACHES = {"x": 6.0, "y": 6.0, "roll": 4.0, "zoom": 6.0, "pan": 3.0, "tilt": 3.0}
CHANNEL_WORDS = {"x": "X", "y": "Y", "roll": "Roll", "zoom": "Zoom", "pan": "Pan", "tilt": "Tilt"}
INKS = {
    "x": "#6d93e0",
    "y": "#e2735a",
    "roll": "#5fae83",
    "zoom": "#d2a23e",
    "pan": "#9db8ea",
    "tilt": "#eeaa9a",
}
SHARE = Scale(0, 1, "", 2)


class StrandPanel(Column):
    """What the panels of all kinds share: the name, the amount, the seed, when it acts, and the way back."""

    closed = Signal()
    title = ""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shot: Shot | None = None
        self._strand: Strand | None = None
        self._weights: np.ndarray | None = None
        self._height = 1080
        self.now = 0.0
        self.name = QLineEdit()
        self.name.setAccessibleName("Strand name")
        self.name.setToolTip("The strand's name")
        self.name.editingFinished.connect(self._rename)
        back = QPushButton("Frame")
        back.setProperty("quiet", True)
        back.setToolTip("Back to the frame (Esc)")
        back.clicked.connect(self.closed.emit)
        head = QHBoxLayout()
        head.addWidget(section(self.title))
        head.addStretch(1)
        head.addWidget(back)
        self.rows.addLayout(head)
        self.rows.addWidget(self.name)
        self.amount = self._rule(
            "Amount", AMOUNT, 100, "How much of this strand",
            lambda v: {"amount": tuned(self._strand.amount, self.now, v / 100)} if self._strand else {},
        )  # fmt: skip
        self._fill()
        self.rows.addStretch(1)
        self.rows.setSpacing(4)

    def _fill(self) -> None:
        """Put the controls of this kind into the column."""
        raise NotImplementedError

    def _heading(self, words: str) -> None:
        self.rows.addSpacing(4)
        self.rows.addWidget(divider())
        self.rows.addSpacing(2)
        self.rows.addWidget(section(words))

    def _rule(
        self, label: str, scale: Scale, value: float, tip: str, changes: Callable[[float], dict[str, Any]],
        ink: str | None = None,
    ) -> Rule:  # fmt: skip
        rule = Rule(label, scale, value=value, tip=tip, ink=ink)
        bind(rule, self._session, label, lambda v: self._edit(**changes(v)))
        self.rows.addWidget(rule)
        return rule

    def _edit(self, **changes: Any) -> edits.Edit:
        return edits.set_strand(self._shot_id(), self._strand.id if self._strand else "", **changes)

    def _shot_id(self) -> str:
        return self._shot.id if self._shot else ""

    def _rename(self) -> None:
        if self._strand and self.name.text().strip() and self.name.text() != self._strand.name:
            self._session.apply("Rename strand", self._edit(name=self.name.text().strip()))

    def _seed_row(self) -> None:
        self.seed = QLabel("1")
        self.seed.setStyleSheet('font-family: "Spline Sans Mono"; font-size: 13px;')
        another = QPushButton("Another course")
        another.setToolTip("The same motion, another course of it")
        another.clicked.connect(
            lambda: self._session.apply("Another course", self._edit(seed=secrets.randbelow(9999) + 1))
        )
        words = QLabel("Seed")
        words.setStyleSheet(f"color: {theme.DIM};")
        row = QHBoxLayout()
        row.addWidget(words)
        row.addWidget(self.seed)
        row.addStretch(1)
        row.addWidget(another)
        self.rows.addLayout(row)

    def _when(self) -> None:
        """The stretch in which it acts."""
        self._heading("When")
        time = Scale(0, 30, "s", 2, bend=2, least=0, most=36000)
        fade = Scale(0, 5, "s", 2, bend=2, least=0, most=600)
        self.start = self._rule("From", time, 0, "Acts from here on", lambda v: self._stretch(start=v or None))
        self.end = self._rule("To", time, 0, "Acts up to here; 0 is to the end", lambda v: self._stretch(end=v or None))
        self.end.set_note(lambda v: "" if v else "to the end")
        self.fade_in = self._rule(
            "Fade in", fade, 0, "From nothing, after its start", lambda v: self._stretch(fade_in=v)
        )
        self.fade_out = self._rule(
            "Fade out", fade, 0, "To nothing, before its end", lambda v: self._stretch(fade_out=v)
        )

    def _stretch(self, **changes: Any) -> dict[str, Any]:
        assert self._strand is not None
        changed = replace(self._strand.stretch, **changes)
        if changes.get("fade_in") and changed.start is None:
            changed = replace(changed, start=0.0)
        return {"stretch": changed}

    def _pixels(self, channel: str, value: float) -> str:
        if not value or self._weights is None:
            return ""
        return f"{value * self._weights[CHANNELS.index(channel)] / 100 * self._height:.1f} px"  # type: ignore[arg-type]

    def _show_common(self, shot: Shot, info: SourceInfo, strand: Strand, now: float) -> None:
        self._shot, self._strand, self.now = shot, strand, now
        self._weights = traces.effect(shot, info)
        self._height = shot.size.height if shot.size else info.size[1]
        if not self.name.hasFocus():
            self.name.setText(strand.name)
        self.amount.set_value(round(float(strand.amount.at(np.array([now]))[0]) * 100, 2))
        self.seed.setText(str(strand.seed))
        stretch = strand.stretch
        for rule, value in (
            (self.start, stretch.start or 0.0), (self.end, stretch.end or 0.0), (self.fade_in, stretch.fade_in),
            (self.fade_out, stretch.fade_out),
        ):  # fmt: skip
            rule.set_value(value)


class DriftPanel(StrandPanel):
    """A drift strand's full controls."""

    title = "Drift"
    _strand: Drift | None
    _half_rate = 12.0

    def _fill(self) -> None:
        self._channel = "x"
        self.rate = self._rule(
            "Rate", RATE, 0.6, "Swings per second, roughness included",
            lambda v: {"rate": tuned(self._now().rate, self.now, v)},
        )  # fmt: skip
        self.rate.set_note(lambda v: "above half the frame rate" if v > self._half_rate else "")
        self._balance()
        self._character()
        self._stillness()
        self._one_channel()
        self._when()

    def _character(self) -> None:
        self._heading("Character")
        self.roughness = self._rule("Roughness", SHARE, 0.2, "Tremor on top, up to 12 Hz", lambda v: {"roughness": v})
        self.regularity = self._rule(
            "Regularity", SHARE, 0, "0 is a broad band, 1 a single even swing", lambda v: {"regularity": v}
        )
        self.wander = self._rule(
            "Wander", SHARE, 0, "How far its size comes and goes",
            lambda v: {"wander": replace(self._now().wander, depth=v)},
        )  # fmt: skip
        self.swings = self._rule(
            "Wander rate", Scale(0.01, 2, "Hz", 2, bend=3, least=0.001, most=20), 0.08,
            "How often its size comes and goes", lambda v: {"wander": replace(self._now().wander, rate=v)},
        )  # fmt: skip
        self._seed_row()

    def _stillness(self) -> None:
        self._heading("Stillness")
        self.rest = self._rule(
            "Rests", Scale(0, 0.9, "", 2), 0, "Share of the time in which it holds still",
            lambda v: {"rests": replace(self._now().rests, share=v)},
        )  # fmt: skip
        self.hold = self._rule(
            "Hold", Scale(0.2, 8, "s", 1, bend=2, least=0.05, most=120), 1.2, "How long it typically holds still",
            lambda v: {"rests": replace(self._now().rests, hold=v)},
        )  # fmt: skip
        self.step = self._rule(
            "Steps", Scale(0, 24, "/s", 0, least=0, most=120), 0, "Positions per second, each held; 0 is none",
            lambda v: {"step": v},
        )  # fmt: skip
        self.lean = self._rule(
            "Zoom lean", Scale(-1, 1, "", 2), 0, "−1 only out, 0 both ways, 1 only in", lambda v: {"lean": v}
        )
        self.ease_in = self._rule(
            "Ease in", Scale(0, 10, "s", 1, bend=2, least=0, most=600), 0, "From stillness at the shot's start",
            lambda v: {"ease_in": v},
        )  # fmt: skip

    def _balance(self) -> None:
        self._heading("Balance")
        self.reaches: dict[str, Rule] = {}
        for name in CHANNELS:
            unit = UNITS[name]
            scale = Scale(0, REACHES[name], unit, 2, bend=2.5, least=0, most=90 if unit == "°" else 100)
            rule = Rule(
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
        self._heading("One channel")
        self.channels = Segments(
            tuple((n, CHANNEL_WORDS[n], f"Own rate and phase of {CHANNEL_WORDS[n].lower()}") for n in CHANNELS),
            "Channel",
        )
        self.channels.setMinimumWidth(0)
        self.channels.setFixedWidth(theme.PANEL - 44)
        self.channels.chosen.connect(self._choose_channel)
        self.rows.addWidget(self.channels)
        self.own_rate = Rule(
            "Rate factor",
            Scale(0.05, 4, "×", 2, bend=2, least=0.01, most=50),
            value=1,
            reset=1,
            tip="Times the strand's rate: 0.5 swings once where the others swing twice",
        )
        self.phase = Rule(
            "Phase",
            Scale(-180, 180, "°", 0, least=-360, most=360),
            value=0,
            reset=0,
            tip="How far its regular part is ahead of the common beat",
        )
        for rule, key, label in ((self.own_rate, "rate", "Rate factor"), (self.phase, "phase", "Phase")):
            bind(rule, self._session, label, partial(self._channel_edit, key, None))
            self.rows.addWidget(rule)

    def _channel_edit(self, field: str, channel: str | None, value: float) -> edits.Edit:
        """Change ``field`` of a channel, or of the one that is looked at."""
        return edits.set_channel(self._shot_id(), self._now().id, channel or self._channel, **{field: value})

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
        self._show_common(shot, info, strand, now)
        for rule, value in (
            (self.rate, float(strand.rate.at(np.array([now]))[0])), (self.roughness, strand.roughness),
            (self.regularity, strand.regularity), (self.wander, strand.wander.depth), (self.swings, strand.wander.rate),
            (self.rest, strand.rests.share), (self.hold, strand.rests.hold), (self.step, strand.step),
            (self.lean, strand.lean), (self.ease_in, strand.ease_in),
        ):  # fmt: skip
            rule.set_value(value)
        for name, rule in self.reaches.items():
            rule.set_value(strand.channels[name].reach)
            rule.update()
        self._show_channel()


class JoltsPanel(StrandPanel):
    """A jolts strand's full controls."""

    title = "Jolts"
    _strand: Jolts | None

    def _fill(self) -> None:
        self.settle = self._rule("Settle", SETTLE, 0.35, "How long until a third is left", lambda v: {"settle": v})
        self._heading("Reach of a hit of strength 1")
        percent = Scale(0, 10, "%", 2, bend=2, least=0, most=100)
        self.reach = self._rule("Shift", percent, 1, "Largest swing, percent of the frame's height",
                                lambda v: {"reach": v}, INKS["y"])  # fmt: skip
        self.reach.set_note(partial(self._pixels, "y"))
        self.roll = self._rule("Roll", Scale(0, 4, "°", 2, bend=2, least=0, most=90), 0, "Largest turn",
                               lambda v: {"roll": v}, INKS["roll"])  # fmt: skip
        self.zoom = self._rule("Zoom", percent, 0, "Largest zoom", lambda v: {"zoom": v}, INKS["zoom"])
        self.direction = self._rule(
            "Direction", Scale(-180, 180, "°", 0), 90, "0 right, 90 down", lambda v: {"direction": v}
        )
        self.seeded = QCheckBox("Another direction for each hit")
        self.seeded.clicked.connect(
            lambda on: self._session.apply("Direction", self._edit(direction=None if on else 90.0))
        )
        self.rows.addWidget(self.seeded)
        self._heading("Ring")
        self.ring = self._rule(
            "Ring", Scale(1, 30, "Hz", 1, bend=2, least=0.2, most=120), 9, "Swings per second", lambda v: {"ring": v}
        )
        self.rise = self._rule(
            "Rise", Scale(0.001, 0.3, "s", 3, bend=3, least=0.0005, most=5), 0.012, "How fast it comes",
            lambda v: {"rise": v},
        )  # fmt: skip
        self.rattle = self._rule("Rattle", SHARE, 0.15, "From a clean ring to noise", lambda v: {"rattle": v})
        self.tail = self._rule("Tail", SHARE, 0.1, "Share that takes four times as long", lambda v: {"tail": v})
        self.push = self._rule(
            "Phase", Scale(-180, 180, "°", 0, least=-360, most=360), 0, "0 from rest, 90 with a push",
            lambda v: {"phase": v},
        )  # fmt: skip
        self._heading("Late by")
        self.delay = self._rule(
            "Delay", Scale(0, 2, "s", 2, bend=2, least=0, most=60), 0, "After the hit", lambda v: {"delay": v}
        )
        self.distance = self._rule(
            "Distance", Scale(0, 500, "m", 0, bend=2, least=0, most=20000), 0, "As sound comes, 343 m a second",
            lambda v: {"distance": v},
        )  # fmt: skip
        self.distance.set_note(lambda v: f"{v / 343:.2f} s" if v else "")
        self._seed_row()
        self._when()

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Jolts, now: float) -> None:
        self._show_common(shot, info, strand, now)
        self.seeded.setChecked(strand.direction is None)
        self.direction.setEnabled(strand.direction is not None)
        for rule, value in (
            (self.settle, strand.settle), (self.reach, strand.reach), (self.roll, strand.roll),
            (self.zoom, strand.zoom),
            (self.direction, 90.0 if strand.direction is None else (strand.direction + 180) % 360 - 180),
            (self.ring, strand.ring), (self.rise, strand.rise), (self.rattle, strand.rattle), (self.tail, strand.tail),
            (self.push, strand.phase), (self.delay, strand.delay), (self.distance, strand.distance),
        ):  # fmt: skip
            rule.set_value(value)


class PlottedPanel(StrandPanel):
    """A plotted strand's full controls."""

    title = "Plotted"
    channel_chosen = Signal(str)
    ahead_changed = Signal(int)
    _strand: Plotted | None

    def _fill(self) -> None:
        self.channel = "x"
        self.channels = Segments(
            tuple((n, n.capitalize(), f"Edit {n} on the row; the others are locked") for n in PLOTTED), "Edited curve"
        )
        self.channels.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.channels.chosen.connect(self._choose)
        self.rows.addWidget(self.channels)
        self._heading("At the playhead")
        self.values: dict[str, Rule] = {}
        for name in PLOTTED:
            unit = UNITS[name]
            most = 90.0 if unit == "°" else 100.0
            rule = self._rule(
                f"{name.capitalize()} here", Scale(-5, 5, unit, 2, least=-most, most=most), 0,
                "Typed or dragged, it sets a key at the playhead", partial(self._here, name), INKS[name],
            )  # fmt: skip
            self.values[name] = rule
        self.ahead = Rule(
            "Step after a drag", Scale(0, 24, "frames", 0, least=0, most=500), value=0, reset=0,
            tip="So far the playhead goes on after a drag on the picture: drag, drag, drag",
        )  # fmt: skip
        self.ahead.changed.connect(lambda v: self.ahead_changed.emit(round(v)))
        self.rows.addWidget(self.ahead)
        self._heading("To the end")
        self.repeat = QCheckBox("Repeat to the end")
        self.repeat.clicked.connect(lambda on: self._session.apply("Repeat", self._edit(repeat=on)))
        self.rows.addWidget(self.repeat)
        self.irregular = self._rule(
            "Irregular", SHARE, 0.3, "How much the rounds differ in size and time", lambda v: {"irregular": v}
        )
        self._heading("Scatter keys")
        self.every = Rule("Every", Scale(0.04, 3, "s", 2, bend=2, least=0.01, most=60), value=0.4, reset=0.4,
                          tip="About so far apart: from half of it to one and a half")  # fmt: skip
        self.reach = Rule("Within", Scale(0, 5, "", 2, bend=2, least=0, most=100), value=0.6, reset=0.6,
                          tip="Plus or minus this, in the curve's unit")  # fmt: skip
        scatter, between = QPushButton("Scatter"), QPushButton("One in each gap")
        scatter.setToolTip("Seeded keys on the edited curve, over the marked stretch or the shot")
        between.setToolTip("A key in the middle of each gap of the edited curve")
        scatter.clicked.connect(self._scatter)
        between.clicked.connect(self._between)
        row = QHBoxLayout()
        row.addWidget(scatter)
        row.addWidget(between)
        self.rows.addWidget(self.every)
        self.rows.addWidget(self.reach)
        self.rows.addLayout(row)
        self._seed_row()
        self._when()

    span: tuple[float, float] = (0.0, 10.0)

    def _choose(self, name: str) -> None:
        self.channel = name
        self.channels.choose(name)
        self.channel_chosen.emit(name)

    def _here(self, name: str, value: float) -> dict[str, Any]:
        return {name: keys.with_key(self._strand.curve(name), self.now, value)} if self._strand else {}

    def _scatter(self) -> None:
        if self._strand is None:
            return
        every, reach = self.every.value, self.reach.value
        made = keys.scattered(
            self._strand.curve(self.channel), self._strand.seed, start=self.span[0], end=self.span[1],
            least=0.5 * every, most=1.5 * every, reach=reach, low=-100, high=100,
        )  # fmt: skip
        self._session.apply("Scatter keys", self._edit(**{self.channel: made}))

    def _between(self) -> None:
        if self._strand is not None:
            made = keys.between(self._strand.curve(self.channel))
            self._session.apply("Keys between", self._edit(**{self.channel: made}))

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Plotted, now: float) -> None:
        self._show_common(shot, info, strand, now)
        for name, rule in self.values.items():
            rule.set_value(round(float(strand.curve(name).at(np.array([now]))[0]), 4))
        self.repeat.setChecked(strand.repeat)
        self.irregular.set_value(strand.irregular)
