"""The panel on the right: *Frame* while nothing is selected, the chosen strand's full controls otherwise."""

from __future__ import annotations

from functools import partial

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLabel, QPushButton, QStackedLayout, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.base.units import timecode
from young_tremor.desk import theme
from young_tremor.desk.column import Column, divider, section
from young_tremor.desk.drift_panel import DriftPanel
from young_tremor.desk.jolts_panel import JoltsPanel
from young_tremor.desk.plotted_panel import PlottedPanel
from young_tremor.desk.rows import bind, tuned
from young_tremor.desk.rule import Rule, Scale
from young_tremor.engine.preview import Plan, Readings
from young_tremor.engine.session import Session
from young_tremor.model import edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import EDGES, Shot
from young_tremor.model.shake import Drift, Jolts, Plotted

EDGE_WORDS = {
    "open": "Leave open", "hold": "Hold edge", "mirror": "Mirror", "repeat": "Repeat", "crop": "Crop in, steady",
}  # fmt: skip


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


class FramePanel(Column):
    """Edges, what they cost, shutter and lens."""

    go_to = Signal(int)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shot: Shot | None = None
        self._worst = 0
        self.now = 0.0
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
        self._smear_and_afterimages(session)
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
        bind(self.angle, session, "Shutter angle", lambda v: self._shutter(angle=self._angle(v)))
        bind(self.phase, session, "Shutter phase", lambda v: self._shutter(phase=v))
        bind(self.focal, session, "Focal length", lambda v: self._frame(focal_mm=v))
        for title, rules in (("Shutter", (self.angle, self.phase)), ("Lens", (self.focal,))):
            self.rows.addSpacing(3)
            self.rows.addWidget(divider())
            self.rows.addSpacing(1)
            self.rows.addWidget(section(title))
            for rule in rules:
                self.rows.addWidget(rule)

    def _smear_and_afterimages(self, session: Session) -> None:
        def smear(field: str, value: float) -> edits.Edit:
            assert self._shot is not None
            number: float = round(value) if field == "frames" else value
            return self._frame(smear=replace(self._shot.frame.smear, **{field: number}))

        def afterimage(field: str, value: float) -> edits.Edit:
            assert self._shot is not None
            changed: object = tuned(self._shot.frame.afterimages.count, self.now, value) if field == "count" else value
            return self._frame(afterimages=replace(self._shot.frame.afterimages, **{field: changed}))

        self.smear: dict[str, Rule] = {
            "frames": Rule("For", Scale(0, 12, "frames", 0, least=0, most=100), value=0, reset=0,
                           tip="So many frames from each hit on are smeared; 0 is none"),
            "length": Rule("Length", Scale(0, 20, "%", 1, bend=2, least=0, most=100), value=2, reset=2,
                           tip="Percent of the frame's height, at a hit of strength 1"),
            "angle": Rule("Angle", Scale(-180, 180, "°", 0), value=90, reset=90, tip="0 right, 90 down"),
            "fall": Rule("Fall-off", Scale(0, 1, "", 2), value=1, reset=1, tip="0 stays, 1 dies away evenly"),
        }  # fmt: skip
        self.afterimages: dict[str, Rule] = {
            "count": Rule("Copies", Scale(0, 8, "", 0, least=0, most=12), value=0, reset=0,
                          tip="Fading copies of the picture where the motion was a moment ago; 0 is none"),
            "lag": Rule("Lag", Scale(0.01, 0.5, "s", 2, bend=2, least=0.001, most=10), value=0.05, reset=0.05,
                        tip="Seconds from one copy to the next"),
            "opacity": Rule("Opacity", Scale(0, 1, "", 2), value=0.5, reset=0.5, tip="Of each against the one before"),
        }  # fmt: skip
        for title, rules, edit in (("Smear at hits", self.smear, smear), ("Afterimages", self.afterimages, afterimage)):
            self.rows.addSpacing(3)
            self.rows.addWidget(divider())
            self.rows.addSpacing(1)
            self.rows.addWidget(section(title))
            for field, rule in rules.items():
                bind(rule, session, title, partial(edit, field))
                self.rows.addWidget(rule)

    def _frame(self, **changes: object) -> edits.Edit:
        return edits.set_frame(self._shot.id if self._shot else "", **changes)

    def _shutter(self, **changes: object) -> edits.Edit:
        assert self._shot is not None
        return self._frame(shutter=replace(self._shot.frame.shutter, **changes))

    def _angle(self, value: float) -> Curve:
        assert self._shot is not None
        return tuned(self._shot.frame.shutter.angle, self.now, value)

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
        for field, rule in self.smear.items():
            rule.set_value(float(getattr(frame.smear, field)))
        for field, rule in self.afterimages.items():
            value = getattr(frame.afterimages, field)
            rule.set_value(float(value.at(np.array([self.now]))[0]) if isinstance(value, Curve) else float(value))

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


class Panel(QWidget):
    """The hammertone plate that holds the one or the other."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedWidth(theme.PANEL)
        self.setAccessibleName("Panel")
        self.frame = FramePanel(session)
        self.drift = DriftPanel(session)
        self.jolts = JoltsPanel(session)
        self.plotted = PlottedPanel(session)
        self._stack = QStackedLayout(self)
        self._stack.setContentsMargins(0, 4, 0, 4)
        self._stack.addWidget(self.frame)
        self._stack.addWidget(self.drift)
        self._stack.addWidget(self.jolts)
        self._stack.addWidget(self.plotted)

    def sizeHint(self) -> QSize:
        return QSize(theme.PANEL, 300)

    def show_shot(self, shot: Shot | None, info: SourceInfo | None, chosen: str | None, now: float = 0.0) -> None:
        """Show the chosen strand, or the frame; ``now`` is the playhead in seconds."""
        self.frame.now = now
        self.frame.show_shot(shot)
        strand = next((s for s in shot.shake.strands if s.id == chosen), None) if shot and info else None
        if isinstance(strand, Drift) and shot and info:
            self.drift.show_strand(shot, info, strand, now)
            self._stack.setCurrentWidget(self.drift)
        elif isinstance(strand, Jolts) and shot and info:
            self.jolts.show_strand(shot, info, strand, now)
            self._stack.setCurrentWidget(self.jolts)
        elif isinstance(strand, Plotted) and shot and info:
            self.plotted.show_strand(shot, info, strand, now)
            self._stack.setCurrentWidget(self.plotted)
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
