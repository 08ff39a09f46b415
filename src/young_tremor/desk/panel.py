"""The panel on the right: *Frame* while nothing is selected, the chosen strand's full controls otherwise."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from functools import partial
from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from young_tremor.base.frames import SourceInfo
from young_tremor.base.units import timecode
from young_tremor.desk import theme
from young_tremor.desk.chart import bind
from young_tremor.desk.heads import AMOUNT, RATE
from young_tremor.desk.rule import Rule, Scale
from young_tremor.desk.transport import Segments
from young_tremor.engine import traces
from young_tremor.engine.preview import Plan, Readings
from young_tremor.engine.session import Session
from young_tremor.model import edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import EDGES, Shot
from young_tremor.model.shake import CHANNELS, UNITS, Drift

EDGE_WORDS = {
    "open": "Leave open", "hold": "Hold edge", "mirror": "Mirror", "repeat": "Repeat", "crop": "Crop in, steady",
}  # fmt: skip
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


def section(words: str) -> QLabel:
    """A small spaced heading."""
    label = QLabel(words.upper())
    label.setFont(theme.words(12, spaced=1.5))
    label.setStyleSheet(f"color: {theme.DIM}; font-size: 12px; letter-spacing: 1.5px;")
    return label


def divider() -> QFrame:
    line = QFrame()
    line.setFixedHeight(1)
    line.setStyleSheet(f"background: {theme.LINE};")
    return line


class CropGlyph(QWidget):
    """The delivered rectangle inside the source: how much of it is kept."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(92, 56)
        self.crop, self.aspect = 1.0, 16 / 9

    def show_crop(self, crop: float, aspect: float) -> None:
        self.crop, self.aspect = crop, aspect
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        width = min(room.width(), room.height() * self.aspect)
        outer = QRectF(0, 0, width, width / self.aspect)
        outer.moveCenter(room.center())
        painter.setPen(QPen(QColor(theme.LINE), 1))
        painter.setBrush(QColor(theme.DEEP))
        painter.drawRect(outer)
        inner = QRectF(0, 0, outer.width() / self.crop, outer.height() / self.crop)
        inner.moveCenter(outer.center())
        painter.setPen(QPen(QColor(theme.LAMP), 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(inner.adjusted(0.7, 0.7, -0.7, -0.7))


class Column(QScrollArea):
    """A scrolling column of controls."""

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        inner = QWidget()
        self.rows = QVBoxLayout(inner)
        self.rows.setContentsMargins(16, 12, 14, 12)
        self.rows.setSpacing(7)
        self.setWidget(inner)


class FramePanel(Column):
    """Edges, what they cost, shutter and lens."""

    go_to = Signal(int)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shot: Shot | None = None
        self._worst = 0
        self.status = QLabel("")
        head = QHBoxLayout()
        head.addWidget(section("Frame"))
        head.addStretch(1)
        head.addWidget(self.status)
        self.rows.addLayout(head)
        self.edges = QComboBox()
        self.edges.setAccessibleName("Edges")
        self.edges.setToolTip("What fills the edges that the motion uncovers")
        for edges in EDGES:
            self.edges.addItem(EDGE_WORDS[edges], edges)
        self.edges.activated.connect(self._set_edges)
        edges_row = QHBoxLayout()
        words = QLabel("Edges")
        words.setStyleSheet(f"color: {theme.DIM};")
        edges_row.addWidget(words)
        edges_row.addSpacing(12)
        edges_row.addWidget(self.edges, 1)
        self.rows.addLayout(edges_row)
        self.glyph = CropGlyph()
        self._values: dict[str, QLabel | QPushButton] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(1)
        for row, (key, text) in enumerate(
            (("crop", "Crop"), ("detail", "Detail kept"), ("gaps", "Gaps if open"), ("worst", "Worst frame"))
        ):
            name = QLabel(text)
            name.setStyleSheet(f"color: {theme.DIM};")
            value: QLabel | QPushButton
            if key == "worst":
                value = button = QPushButton()
                button.setProperty("flat", True)
                button.setStyleSheet(
                    f'font-family: "Spline Sans Mono"; font-size: 13px; color: {theme.LAMP}; padding: 0;'
                )
                button.setToolTip("Go to the frame that needs the largest crop")
                button.clicked.connect(lambda: self.go_to.emit(self._worst))
                value.setAccessibleName("Go to worst frame")
            else:
                value = QLabel()
                value.setStyleSheet('font-family: "Spline Sans Mono"; font-size: 13px;')
                value.setAccessibleName(text)
            self._values[key] = value
            grid.addWidget(name, row, 1)
            grid.addWidget(value, row, 2, Qt.AlignmentFlag.AlignRight)
        self._values["gaps"].setToolTip("Share of frames that would show an edge if nothing were done")
        self._values["detail"].setToolTip("Source pixels per delivered pixel along a line")
        grid.addWidget(self.glyph, 0, 0, 4, 1)
        grid.setColumnStretch(1, 1)
        self.rows.addLayout(grid)
        self._shutter_and_lens(session)
        self.rows.addStretch(1)

    def _shutter_and_lens(self, session: Session) -> None:
        self.angle = Rule(
            "Angle",
            Scale(0, 360, "°", 0, least=0, most=720),
            value=180,
            reset=180,
            tip="How long the shutter is open: 360° is the frame's whole time",
        )
        self.phase = Rule(
            "Phase",
            Scale(-180, 180, "°", 0, least=-360, most=360),
            value=0,
            reset=0,
            tip="How late the exposure lies against the frame's time",
        )
        self.focal = Rule(
            "Focal length",
            Scale(14, 200, "mm", 0, bend=1.8, least=1, most=5000),
            value=50,
            reset=50,
            tip="Of the lens that turns; longer shakes more. For a sensor 36 mm wide",
        )
        bind(self.angle, session, "Shutter angle", lambda v: self._shutter(angle=Curve(v)))
        bind(self.phase, session, "Shutter phase", lambda v: self._shutter(phase=v))
        bind(self.focal, session, "Focal length", lambda v: self._frame(focal_mm=v))
        for title, rules in (("Shutter", (self.angle, self.phase)), ("Lens", (self.focal,))):
            self.rows.addSpacing(3)
            self.rows.addWidget(divider())
            self.rows.addSpacing(1)
            self.rows.addWidget(section(title))
            for rule in rules:
                self.rows.addWidget(rule)

    def _frame(self, **changes: object) -> edits.Edit:
        return edits.set_frame(self._shot.id if self._shot else "", **changes)

    def _shutter(self, **changes: object) -> edits.Edit:
        assert self._shot is not None
        return self._frame(shutter=replace(self._shot.frame.shutter, **changes))

    def _set_edges(self, number: int) -> None:
        self._session.apply("Edges", self._frame(edges=self.edges.itemData(number)))

    def show_shot(self, shot: Shot | None) -> None:
        self.setEnabled(shot is not None)
        old, self._shot = self._shot, shot
        if shot is None or (old and old.frame is shot.frame):
            return
        frame = shot.frame
        self.edges.setCurrentIndex(EDGES.index(frame.edges))
        self.angle.set_value(frame.shutter.angle.value)
        self.phase.set_value(frame.shutter.phase)
        self.focal.set_value(frame.focal_mm)

    def show_readings(self, plan: Plan | None, readings: Readings | None, error: str = "") -> None:
        """What the edges cost, as the preview found it."""
        self.status.setWordWrap(bool(error))
        if plan is None or readings is None:
            self.status.setText(error)
            self.status.setStyleSheet(f"color: {theme.BAD}; font-size: 13px;")
            for value in self._values.values():
                value.setText("–")
            return
        cropped = plan.shot.frame.edges == "crop"
        share = readings.uncovered
        if cropped or share == 0:
            self.status.setText("covers every frame")
            self.status.setStyleSheet(f"color: {theme.GOOD}; font-size: 13px;")
        elif plan.shot.frame.edges == "open":
            self.status.setText(f"{_share(share)} of frames show an edge")
            self.status.setStyleSheet(f"color: {theme.BAD}; font-size: 13px;")
        else:
            self.status.setText(f"{_share(share)} of frames filled in")
            self.status.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        self._worst = readings.worst
        self._values["crop"].setText(f"{readings.crop:.3f}")
        self._values["detail"].setText(f"{100 * readings.detail:.1f} %")
        self._values["gaps"].setText(_share(share))
        self._values["worst"].setText(timecode(readings.worst, plan.rate) if share else "none")
        self._values["worst"].setEnabled(bool(share))
        width, height = plan.delivered
        self.glyph.show_crop(readings.crop, width * float(plan.pixel_aspect) / height)


def _share(share: float) -> str:
    percent = 100 * share
    return f"{percent:.0f} %" if percent == 0 or percent >= 1 else "< 1 %"


class DriftPanel(Column):
    """A drift strand's full controls."""

    closed = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shot: Shot | None = None
        self._strand: Drift | None = None
        self._channel = "x"
        self.name = QLineEdit()
        self.name.setAccessibleName("Strand name")
        self.name.setToolTip("The strand's name")
        self.name.editingFinished.connect(self._rename)
        back = QPushButton("Frame")
        back.setProperty("quiet", True)
        back.setToolTip("Back to the frame (Esc)")
        back.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        back.clicked.connect(self.closed.emit)
        head = QHBoxLayout()
        head.addWidget(section("Drift"))
        head.addStretch(1)
        head.addWidget(back)
        self.rows.addLayout(head)
        self.rows.addWidget(self.name)
        self.amount = self._rule("Amount", AMOUNT, 100, "How much of this strand", lambda v: {"amount": Curve(v / 100)})
        self.rate = self._rule("Rate", RATE, 0.6, "Swings per second, roughness included", lambda v: {"rate": Curve(v)})
        self.rate.set_note(self._rate_note)
        self._balance()
        self._character()
        self._one_channel()
        self.rows.addStretch(1)
        self.rows.setSpacing(4)

    def _character(self) -> None:
        share = Scale(0, 1, "", 2)
        self._heading("Character")
        self.roughness = self._rule("Roughness", share, 0.2, "Tremor on top, up to 12 Hz", lambda v: {"roughness": v})
        self.regularity = self._rule(
            "Regularity", share, 0, "0 is a broad band, 1 a single even swing", lambda v: {"regularity": v}
        )
        self.wander = self._rule(
            "Wander",
            share,
            0,
            "How far its size comes and goes",
            lambda v: {"wander": replace(self._now().wander, depth=v)},
        )
        self.swings = self._rule(
            "Wander rate",
            Scale(0.01, 2, "Hz", 2, bend=3, least=0.001, most=20),
            0.08,
            "How often its size comes and goes",
            lambda v: {"wander": replace(self._now().wander, rate=v)},
        )
        self._seed_row()

    def _heading(self, words: str) -> None:
        self.rows.addSpacing(4)
        self.rows.addWidget(divider())
        self.rows.addSpacing(2)
        self.rows.addWidget(section(words))

    def _rule(
        self, label: str, scale: Scale, value: float, tip: str, changes: Callable[[float], dict[str, Any]]
    ) -> Rule:
        rule = Rule(label, scale, value=value, tip=tip)
        bind(
            rule,
            self._session,
            label,
            lambda v: edits.set_strand(self._shot_id(), self._now().id, **changes(v)),
        )
        self.rows.addWidget(rule)
        return rule

    def _seed_row(self) -> None:
        self.seed = QLabel("1")
        self.seed.setStyleSheet('font-family: "Spline Sans Mono"; font-size: 13px;')
        another = QPushButton("Another course")
        another.setToolTip("The same motion, another course of it")
        another.clicked.connect(self._another)
        words = QLabel("Seed")
        words.setStyleSheet(f"color: {theme.DIM};")
        row = QHBoxLayout()
        row.addWidget(words)
        row.addWidget(self.seed)
        row.addStretch(1)
        row.addWidget(another)
        self.rows.addLayout(row)

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

    def _shot_id(self) -> str:
        return self._shot.id if self._shot else ""

    def _rename(self) -> None:
        if self._strand and self.name.text().strip() and self.name.text() != self._strand.name:
            self._session.apply(
                "Rename strand",
                edits.set_strand(self._shot_id(), self._strand.id, name=self.name.text().strip()),
            )

    def _another(self) -> None:
        self._session.apply(
            "Another course",
            edits.set_strand(self._shot_id(), self._now().id, seed=secrets.randbelow(9999) + 1),
        )

    def _choose_channel(self, name: str) -> None:
        self._channel = name
        self.channels.choose(name)
        self._show_channel()

    def _show_channel(self) -> None:
        if self._strand:
            channel = self._strand.channels[self._channel]
            self.own_rate.set_value(channel.rate)
            self.phase.set_value(channel.phase)

    def _rate_note(self, value: float) -> str:
        return "above half the frame rate" if value > self._half_rate else ""

    def _pixels(self, channel: str, value: float) -> str:
        if not value or self._weights is None:
            return ""
        return f"{value * self._weights[CHANNELS.index(channel)] / 100 * self._height:.1f} px"  # type: ignore[arg-type]

    _weights = None
    _height = 1080
    _half_rate = 12.0

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Drift) -> None:
        self._half_rate = float(info.rate) / 2
        self._weights = traces.effect(shot, info)
        self._height = shot.size.height if shot.size else info.size[1]
        self._shot, self._strand = shot, strand
        if not self.name.hasFocus():
            self.name.setText(strand.name)
        self.amount.set_value(round(strand.amount.value * 100, 2))
        for rule, value in (
            (self.rate, strand.rate.value), (self.roughness, strand.roughness), (self.regularity, strand.regularity),
            (self.wander, strand.wander.depth), (self.swings, strand.wander.rate),
        ):  # fmt: skip
            rule.set_value(value)
        self.seed.setText(str(strand.seed))
        for name, rule in self.reaches.items():
            rule.set_value(strand.channels[name].reach)
            rule.update()
        self._show_channel()


class Panel(QWidget):
    """The hammertone plate that holds the one or the other."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedWidth(theme.PANEL)
        self.setAccessibleName("Panel")
        self.frame = FramePanel(session)
        self.drift = DriftPanel(session)
        self._stack = QStackedLayout(self)
        self._stack.setContentsMargins(0, 4, 0, 4)
        self._stack.addWidget(self.frame)
        self._stack.addWidget(self.drift)

    def sizeHint(self) -> QSize:
        return QSize(theme.PANEL, 300)

    def show_shot(self, shot: Shot | None, info: SourceInfo | None, chosen: str | None) -> None:
        self.frame.show_shot(shot)
        strand = next((s for s in shot.shake.strands if s.id == chosen), None) if shot and info else None
        if strand is not None and shot and info:
            self.drift.show_strand(shot, info, strand)
            self._stack.setCurrentWidget(self.drift)
        else:
            self._stack.setCurrentWidget(self.frame)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme.hammertone(painter, 0, 0, self.width(), self.height())
        painter.fillRect(QRectF(0, 0, 1.5, self.height()), QColor(theme.DEEP))
        for x in (8.0, self.width() - 8.0):
            for y in (8.0, self.height() - 8.0):
                painter.setPen(QPen(QColor("#252b28"), 1))
                painter.setBrush(QColor("#2b322f"))
                painter.drawEllipse(QPointF(x, y), 3.5, 3.5)
                painter.setPen(QPen(QColor("#4d5853"), 0.8))
                painter.drawPolyline(QPolygonF([QPointF(x - 2, y + 1.2), QPointF(x + 2, y - 1.2)]))
