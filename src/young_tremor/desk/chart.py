"""The chart: headers on the left, paper on the right, a row for each strand."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.desk import theme
from young_tremor.desk.heads import AMOUNT, PACE, RATE, CameraHead, Head
from young_tremor.desk.rule import Rule
from young_tremor.desk.strips import LevelStrip, Line, Ruler, Strip
from young_tremor.desk.timeview import TimeView
from young_tremor.engine import traces
from young_tremor.engine.session import Session
from young_tremor.model import edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS

NICE = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000)


def bind(rule: Rule, session: Session, label: str, edit: Callable[[float], edits.Edit]) -> None:
    """Let a rule change the document: ``edit(value)`` is an edit, a whole drag is one step called ``label``."""
    rule.began.connect(lambda: session.begin_gesture(label))
    rule.changed.connect(lambda value: session.apply(label, edit(value)))
    rule.ended.connect(session.end_gesture)


class StrandRow:
    """Header and strip of one strand."""

    def __init__(self, chart: Chart, shot_id: str, strand_id: str) -> None:
        self.chart, self.strand_id = chart, strand_id
        session = chart.session
        self.head = Head("", "", theme.ROW, choosable=True)
        self.amount = Rule("Amount", AMOUNT, value=100, reset=100, small=True, tip="How much of this strand")
        self.rate = Rule("Rate", RATE, value=1, small=True, tip="Swings per second")
        self.head.add_rules(self.amount, self.rate)
        bind(
            self.amount,
            session,
            "Amount",
            lambda v: edits.set_strand(shot_id, strand_id, amount=Curve(v / 100)),
        )
        bind(self.rate, session, "Rate", lambda v: edits.set_strand(shot_id, strand_id, rate=Curve(v)))
        self.head.lamp.toggled.connect(
            lambda on: session.apply("Strand on" if on else "Strand off", edits.set_strand(shot_id, strand_id, on=on))
        )
        self.head.chosen.connect(lambda: chart.choose(None if chart.chosen == strand_id else strand_id))
        self.head.menu.connect(self._menu)
        self._shot_id = shot_id
        self.strip = Strip(chart.view, self._lines, theme.ROW, name="Trace")
        self._number = 0

    def _menu(self, menu: QMenu) -> None:
        session = self.chart.session
        menu.addAction(
            "Delete strand",
            lambda: session.apply("Delete strand", edits.remove_strand(self._shot_id, self.strand_id)),
        )

    def show(self, shot: Shot, number: int, before: Shot | None) -> None:
        strand = shot.shake.strands[number]
        old = before.shake.strands[number] if before and number < len(before.shake.strands) else None
        self._number = number
        if strand is not old:
            self.head.set_words(strand.name, strand.note or "drift")
            self.head.lamp.set_on(strand.on)
            self.head.update()
            self.strip.setAccessibleName(f"Trace of {strand.name}")
            self.amount.set_value(round(strand.amount.value * 100, 2))
            self.rate.set_value(strand.rate.value)
            top = float(self.chart.delivered_rate) / 2
            words = (
                f" Above half the frame rate ({top:g}): frames will see it slower." if strand.rate.value > top else ""
            )
            self.rate.setToolTip("Swings per second." + words)
            self.strip.dim = not strand.on
        if (
            strand is not old
            or (before and before.shake.pace is not shot.shake.pace)
            or (before and before.frame.focal_mm != shot.frame.focal_mm)
        ):
            self.strip.refresh()

    def _lines(self, first: float, last: float, count: int) -> list[Line]:
        shot, info = self.chart.shot, self.chart.info
        if shot is None or info is None or self._number >= len(shot.shake.strands):
            return []
        strand = shot.shake.strands[self._number]
        weights = traces.effect(shot, info)
        reach = np.array([strand.channels[name].reach for name in CHANNELS]) * weights
        top = (1.6 + 0.9 * strand.wander.depth) * max(float(reach.max()), 1e-9)
        _, values = traces.strand_trace(shot.shake, self._number, (first, last, count))
        order = np.argsort(reach)
        return [
            (values[:, c] * weights[c] / top, CHANNELS[c], 1.5 if reach[c] > 0.3 * reach.max() else 1.1)
            for c in order
            if reach[c] > 0
        ]


class Chart(QWidget):
    """Everything below the picture."""

    strand_chosen = Signal(object)  # strand id or None
    scrubbed = Signal(int)
    add_strand = Signal()

    def __init__(self, session: Session, view: TimeView, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.view = session, view
        self.shot: Shot | None = None
        self.info: SourceInfo | None = None
        self.chosen: str | None = None
        self.trace: traces.CameraTrace | None = None
        self._ready = np.zeros(0, bool)
        self._rows: dict[str, StrandRow] = {}
        self._add = QPushButton("Add strand +")
        self._add.setProperty("quiet", True)
        self._add.setToolTip("Add a drift of your own under the others")
        self._add.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._add.clicked.connect(self.add_strand.emit)
        self.ruler = Ruler(view, lambda: self._ready)
        self.ruler.scrubbed.connect(self.scrubbed.emit)
        top = QHBoxLayout()
        top.setContentsMargins(0, 0, 0, 0)
        top.setSpacing(0)
        corner = QWidget()
        corner.setFixedSize(theme.HEADS, theme.RULER)
        inner = QHBoxLayout(corner)
        inner.setContentsMargins(12, 0, 8, 0)
        inner.addStretch(1)
        inner.addWidget(self._add)
        top.addWidget(corner)
        top.addWidget(self.ruler, 1)
        self._make_fixed_rows()
        self._body = QWidget()
        self._grid = QVBoxLayout(self._body)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(0)
        self._lines: list[QWidget] = []
        rest = Rest(view)
        rest.scrubbed.connect(self.scrubbed.emit)
        self._grid.addWidget(_line(self.level_head, self.level_strip))
        self._grid.addWidget(_line(self.camera_head, self.camera_strip))
        self._grid.addWidget(_line(None, rest), 1)
        self._scroll = QScrollArea()
        self._scroll.setWidgetResizable(True)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._scroll.setWidget(self._body)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top)
        column.addWidget(self._scroll, 1)
        view.changed.connect(self._tell_peak)

    def _make_fixed_rows(self) -> None:
        session = self.session
        self.level_head = Head("Intensity", "whole shake", theme.INTENSITY_ROW, fixed=True)
        self.level = Rule("Level", AMOUNT, value=100, reset=100, small=True, tip="How much of the whole shake")
        self.pace = Rule("Pace", PACE, value=1, reset=1, small=True, tip="How fast its time runs")
        self.level_head.add_rules(self.level, self.pace)
        bind(self.level, session, "Intensity", lambda v: self._shake(intensity=Curve(v / 100)))
        bind(self.pace, session, "Pace", lambda v: self._shake(pace=Curve(v)))
        self.level_strip = LevelStrip(self.view, self._level_line, theme.INTENSITY_ROW, name="Intensity")
        self.level_strip.began.connect(lambda: session.begin_gesture("Intensity"))
        self.level_strip.dragged.connect(lambda v: session.apply("Intensity", self._shake(intensity=Curve(v))))
        self.level_strip.ended.connect(session.end_gesture)
        self.camera_head = CameraHead(theme.CAMERA_ROW)
        self.camera_strip = Strip(self.view, self._camera_lines, theme.CAMERA_ROW, name="Camera")
        self.camera_head.shown_changed.connect(self.camera_strip.refresh)
        for strip in (self.level_strip, self.camera_strip):
            strip.scrubbed.connect(self.scrubbed.emit)

    @property
    def delivered_rate(self) -> float:
        return float(self.view.rate)

    def _shake(self, **changes: Curve) -> edits.Edit:
        return edits.set_shake(self.shot.id if self.shot else "", **changes)

    def choose(self, strand_id: str | None) -> None:
        """Select a strand, or none."""
        self.chosen = strand_id
        for key, row in self._rows.items():
            row.head.set_selected(key == strand_id)
        self.strand_chosen.emit(strand_id)

    def show_shot(self, shot: Shot | None, info: SourceInfo | None) -> None:
        """Show a shot, touching only what differs from the one shown."""
        before = self.shot if self.shot and shot and self.shot.id == shot.id and info is self.info else None
        self.shot, self.info = shot, info
        strands = shot.shake.strands if shot and info else ()
        ids = [strand.id for strand in strands]
        if list(self._rows) != ids or before is None:
            self._rows = {key: StrandRow(self, shot.id if shot else "", key) for key in ids}
            for row in self._rows.values():
                row.strip.scrubbed.connect(self.scrubbed.emit)
            self._place_rows(list(self._rows.values()))
            before = None
            if self.chosen not in ids:
                self.choose(None)
            else:
                self._rows[self.chosen].head.set_selected(True)  # type: ignore[index]
        if shot is None or info is None:
            self.camera_head.set_peak("")
            self.trace = None
            self.level_strip.refresh()
            self.camera_strip.refresh()
            return
        for number, row in enumerate(self._rows.values()):
            row.show(shot, number, before)
        if before is None or before.shake is not shot.shake:
            self.level.set_value(round(shot.shake.intensity.value * 100, 2))
            self.pace.set_value(shot.shake.pace.value)
            self.level_strip.level = shot.shake.intensity.value
            self.level_strip.refresh()
        if before is None or before.shake is not shot.shake or before.frame is not shot.frame:
            self.camera_strip.refresh()
            self._tell_peak()
        self.update(0, 0, theme.HEADS, theme.RULER)

    def show_gaps(self, gaps: np.ndarray | None) -> None:
        """Mark the frames that show an edge, (frames,) bool."""
        old = self.camera_strip.gaps
        if gaps is old or (gaps is not None and old is not None and np.array_equal(gaps, old)):
            return
        self.camera_strip.gaps = gaps
        self.camera_strip.refresh()

    def show_ready(self, ready: np.ndarray) -> None:
        if not np.array_equal(ready, self._ready):
            self._ready = ready
            self.ruler.update()

    def _place_rows(self, rows: list[StrandRow]) -> None:
        """Put the strands' rows between the fixed ones, which stay where they are (and keep the focus)."""
        for gone in self._lines:
            self._grid.removeWidget(gone)
            gone.hide()
            gone.deleteLater()
        self._lines = [_line(row.head, row.strip) for row in rows]
        for number, line in enumerate(self._lines, start=1):
            self._grid.insertWidget(number, line)

    def _level_line(self, first: float, last: float, count: int) -> list[Line]:
        if self.shot is None:
            return []
        levels = self.shot.shake.intensity.at(np.linspace(first, last, count))
        height = theme.INTENSITY_ROW
        ys = height - 3 - np.minimum(levels, 2) / 2 * (height - 8)
        return [((height / 2 - ys) / (height / 2 - 3), "ink", 1.6)]

    def _camera_lines(self, first: float, last: float, count: int) -> list[Line]:
        if self.shot is None or self.info is None:
            return []
        trace = traces.camera_trace(self.shot, self.info, (first, last, count))
        height = self.shot.size.height if self.shot.size else self.info.size[1]
        values = {
            "x": trace.centre[:, 0],
            "y": trace.centre[:, 1],
            "roll": np.radians(trace.roll) * height / 2,
            "zoom": trace.zoom / 100 * height / 2,
        }
        top = max(
            (float(np.abs(v).max(initial=0)) for k, v in values.items() if k in self.camera_head.shown),
            default=0,
        )
        scale = next((n for n in NICE if n >= top), NICE[-1])
        self.camera_strip.corner = f"± {scale} px"
        return [(v / scale, k, 1.4) for k, v in reversed(values.items()) if k in self.camera_head.shown]

    def _tell_peak(self) -> None:
        if self.shot is None or self.info is None or not self.view.frames:
            self.trace = None
            return
        times = (0.0, self.view.length, min(4 * self.view.frames, 6000))
        trace = self.trace = traces.camera_trace(self.shot, self.info, times)
        self.camera_head.set_peak(f"peak {trace.peak:.1f} px · {trace.peak_roll:.1f}°")

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(QRectF(0, 0, theme.HEADS, self.height()), QColor(theme.RECESS))
        painter.fillRect(QRectF(theme.HEADS, 0, self.width(), self.height()), theme.paper.colour("paper"))
        painter.fillRect(QRectF(0, 0, theme.HEADS, theme.RULER), QColor(theme.DEEP))
        painter.setPen(QColor(theme.DIM))
        painter.setFont(theme.words(12, spaced=1.5))
        painter.drawText(QRectF(14, 0, 60, theme.RULER), Qt.AlignmentFlag.AlignVCenter, "SHAKE")
        if self.shot:
            painter.setFont(theme.words(13))
            painter.setPen(QColor(theme.FAINT))
            words = painter.fontMetrics().elidedText(self.shot.shake.preset or "own", Qt.TextElideMode.ElideRight, 138)
            painter.drawText(QRectF(70, 0, 140, theme.RULER), Qt.AlignmentFlag.AlignVCenter, words)


def _line(head: QWidget | None, strip: QWidget) -> QWidget:
    """A header (or the room for one) and its strip side by side."""
    line = QWidget()
    row = QHBoxLayout(line)
    row.setContentsMargins(0 if head else theme.HEADS, 0, 0, 0)
    row.setSpacing(0)
    if head:
        row.addWidget(head)
    row.addWidget(strip, 1)
    return line


class Rest(Strip):
    """Blank paper under the last row."""

    def __init__(self, view: TimeView) -> None:
        super().__init__(view, lambda *_: [], 10, name="Paper")
        self.setMinimumHeight(0)
        self.setMaximumHeight(16777215)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
