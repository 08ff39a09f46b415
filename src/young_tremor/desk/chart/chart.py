"""The chart: headers on the left, paper on the right, a row for each strand."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtCore import QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.chart.curve_rows import CurveRow, made_for
from young_tremor.desk.chart.heads import LOW, CameraHead
from young_tremor.desk.chart.hits import ChartHits
from young_tremor.desk.chart.kinds import KINDS
from young_tremor.desk.chart.letters import Letters
from young_tremor.desk.chart.paper import Paper
from young_tremor.desk.chart.rows import Row, StrandRow
from young_tremor.desk.chart.ruler import Ruler
from young_tremor.desk.chart.strips import Line, Strip
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.words import tr
from young_tremor.desk.state.runner import Runner
from young_tremor.desk.state.state import Choice, State
from young_tremor.desk.state.time import TimeView
from young_tremor.engine import origins, traces
from young_tremor.model.project import Shot

LOOKS = 6000  # at most, to trace a whole shot
SHORT = 1500  # frames up to which it is traced at once
BEFORE = 1.5  # seconds of a trace up to a moment
NICE = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000)


class Chart(QWidget):
    """Everything below the picture."""

    add_strand = Signal(str)  # kind
    traced = Signal()  # the trace of the whole shot is there

    def __init__(self, state: State, runner: Runner) -> None:
        super().__init__()
        self._runner = runner
        self.state, self.session, self.view = state, state.session, state.time
        self.paper = Paper(state)
        self.paper.setParent(self)
        self.trace: traces.CameraTrace | None = None  # of the whole shot
        self._traced: tuple[object, ...] = ()  # what it was made of
        self._ready = np.zeros(0, bool)
        self._rows: dict[str, StrandRow] = {}
        self._filled: Row | None = None
        self.compact = False
        self._add = QPushButton(tr("Add strand +"))
        self._add.setProperty("quiet", True)
        self._add.setToolTip(tr("Add a drift, jolts that answer to the hits, or motion plotted by hand"))
        self._add.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._add.clicked.connect(self._ask_kind)
        self.ruler = Ruler(state, lambda: self._ready)
        self.ruler.scrubbed.connect(self.paper.scrubbed.emit)
        self.hits = ChartHits(self.paper, self.ruler, self._insert_row)
        top = QHBoxLayout()
        top.setContentsMargins(0, 0, 0, 0)
        top.setSpacing(0)
        corner = QWidget()
        corner.setFixedSize(theme.HEADS, theme.RULER)
        inner = QHBoxLayout(corner)
        inner.setContentsMargins(14, 0, 8, 0)
        inner.setSpacing(4)
        self.letters = Letters(self.session)
        self.letters.compared.connect(self.paper.compared.emit)
        inner.addWidget(section("Shake"))
        inner.addSpacing(6)
        inner.addWidget(self.letters)
        inner.addStretch(1)
        inner.addWidget(self._add)
        top.addWidget(corner)
        top.addWidget(self.ruler, 1)
        self._make_fixed_rows()
        self._body = QWidget()
        self._grid = QVBoxLayout(self._body)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(0)
        self._placed: list[Row] = []
        rest = Rest(self.view)
        rest.scrubbed.connect(self.paper.scrubbed.emit)
        self._fixed = [each.row for each in self.curves.values()]
        self._camera_row = Row(self.camera_head, self.camera_strip)
        for row in self._fixed:
            self._grid.addWidget(row)
        self._blank = Row(None, rest)
        self._grid.addWidget(self._blank, 1)
        for row in self._fixed[1:]:
            row.hide()
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
        column.addWidget(self._camera_row)
        bar = self._scroll.verticalScrollBar()

        def make_room(low: int, high: int) -> None:
            # the bar takes its width from the rows; ruler and camera follow, so that times stay under each other
            wide = bar.sizeHint().width() if high > low else 0
            for layout in (top, self._camera_row.layout()):
                if layout is not None:
                    layout.setContentsMargins(0, 0, wide, 0)

        bar.rangeChanged.connect(make_room)
        self.view.changed.connect(self._tell_peak)
        state.changed.connect(self._chosen)

    def _make_fixed_rows(self) -> None:
        self.curves = made_for(self.paper)
        self.level_head = self.curves["Intensity"].head
        self.level, self.pace = self.curves["Intensity"].rules.values()
        self.level_strip, self.pace_strip = self.curves["Intensity"].strip, self.curves["Pace"].strip
        self.camera_head = CameraHead(theme.CAMERA_ROW)
        self.camera_strip = Strip(self.view, self._camera_lines, theme.CAMERA_ROW, name="Camera")
        self.camera_head.shown_changed.connect(self.camera_strip.refresh)
        for strip in (*(each.strip for each in self.curves.values()), self.camera_strip):
            strip.scrubbed.connect(self.paper.scrubbed.emit)

    def shape(self, subject: str) -> None:
        """Show the row on which a subject of that name is shaped, and edit it there."""
        title, row = next((title, each) for title, each in self.curves.items() if subject in each.editors)
        row.edit(subject)
        self.state.choose(rows=self.state.now.rows | {title})

    def _show_curves(self) -> None:
        now = self.state.now
        for title, each in self.curves.items():
            on = title == "Intensity" or title in now.rows or each.keyed
            each.row.setVisible(on and now.filled in ("", title))

    def fit_keys(self) -> None:
        """Let the view show the keys of the chosen strand's curve, or the intensity's."""
        row = self.chosen_row
        editor = (row.strip if row else self.level_strip).editor
        if editor is not None:
            editor.fit()

    def set_channel(self, channel: str) -> None:
        """Which curve of the chosen plotted strand is edited on its row."""
        row = self.chosen_row
        if row is not None:
            row.set_channel(channel)

    def _named(self) -> dict[str, Row]:
        """The rows that can fill the window."""
        curves = {title: each.row for title, each in self.curves.items()}
        return {**curves, **{key: each.row for key, each in self._rows.items()}, "Camera": self._camera_row}

    def _show_filled(self) -> None:
        """Let the chosen row fill the window, or put everything back."""
        name = self.state.now.filled
        row = self._named().get(name)
        if self._filled not in (None, row):
            self._filled.set_height(self._filled.own_height)
        self._filled = row
        for each in (*self._placed, self._camera_row):
            each.setVisible(row in (None, each))
        self._blank.setVisible(row is None)
        self._show_curves()
        self._fit_filled()

    @property
    def chosen_row(self) -> StrandRow | None:
        """The row of the chosen strand."""
        return self._rows.get(self.state.now.strand or "")

    def fill_with_chosen(self) -> None:
        """The chosen strand's row fills the window, or the intensity's; again, and all is back."""
        now = self.state.now
        self.paper.fill(now.filled or now.strand or "Intensity")

    def set_compact(self, compact: bool) -> None:
        """Low rows, or as tall as they come."""
        if compact != self.compact:
            self.compact = compact
            for row in (*self._fixed, *self._placed):
                row.set_height(self._height(row))

    def _height(self, row: Row) -> int:
        return LOW if self.compact else row.first_height

    def _insert_row(self, row: Row) -> None:
        """Put a row for a while between the fixed ones and the strands."""
        self._grid.insertWidget(len(self._fixed), row)

    def _fit_filled(self) -> None:
        if self._filled is not None:
            self._filled.set_height(self._scroll.viewport().height(), remember=False)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit_filled()

    def _ask_kind(self) -> None:
        menu = QMenu(self)
        for kind in KINDS.values():
            menu.addAction(tr(kind.words), partial(self.add_strand.emit, kind.word))
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self._add.mapToGlobal(self._add.rect().bottomLeft()))

    def _chosen(self, before: Choice, now: Choice) -> None:
        """Follow what is chosen."""
        if before.strand != now.strand:
            for key, row in self._rows.items():
                row.head.set_selected(key == now.strand)
            QTimer.singleShot(0, self, self._show_chosen)  # once a new row has its place
        if before.filled != now.filled:
            self._show_filled()
        elif before.rows != now.rows:
            self._show_curves()

    def _show_chosen(self) -> None:
        row = self.chosen_row
        if row is not None:
            self._scroll.ensureWidgetVisible(row.row, 0, 0)

    def show_shot(self, shot: Shot | None, info: SourceInfo | None) -> None:
        """Show a shot, touching only what differs from the one shown."""
        paper = self.paper
        before = paper.shot if paper.shot and shot and paper.shot.id == shot.id and info is paper.info else None
        if before is None:
            self.hits.forget()
        paper.shot, paper.info = shot, info
        strands = shot.shake.strands if shot and info else ()
        kept = self._rows if before is not None else {}
        if [(s.id, type(s)) for s in strands] != [(key, type(row.strand)) for key, row in kept.items()] or not kept:
            self._rows = {
                s.id: kept[s.id] if s.id in kept and type(kept[s.id].strand) is type(s)
                else StrandRow(paper, paper.shot_id, s)
                for s in strands
            }  # fmt: skip
            for key, row in self._rows.items():
                if self.compact and row is not kept.get(key):
                    row.row.set_height(self._height(row.row))
                row.head.set_selected(key == self.state.now.strand)
                if row is not kept.get(key):
                    row.strip.scrubbed.connect(paper.scrubbed.emit)
            self._place_rows([row.row for row in self._rows.values()])
            before = None
        if shot is None or info is None:
            self.camera_head.set_peak("")
            self.trace = None
            self.level_strip.refresh()
            self.camera_strip.refresh()
            return
        self.ruler.set_hits(shot.hits)
        self.ruler.set_missing(traces.missing(shot, info, self.view.frames, self.view.rate))
        self.letters.show_shot(shot)
        self.level_head.set_words(tr("Intensity"), shot.shake.preset or tr("whole shake"))
        for number, each in enumerate(self._rows.values()):
            each.show(shot, number, before)
        if before is None or before.shake is not shot.shake or before.frame is not shot.frame:
            self.level_head.set_changed(origins.changed(shot.shake))
            self._show_curves()
            for curve in self.curves.values():
                curve.show_numbers()
                curve.strip.refresh()
        elif before.plates is not shot.plates:
            self._show_curves()
            self.curves["Placement"].show_numbers()
            self.curves["Placement"].strip.refresh()
        same = before is not None and before.shake is shot.shake and before.frame is shot.frame
        if not same or before is None or before.hits is not shot.hits:
            self.camera_strip.refresh()
        self._tell_peak()
        self.update(0, 0, theme.HEADS, theme.RULER)

    def show_numbers(self) -> None:
        """Follow the playhead with the numbers that change along the way."""
        if self.paper.shot is None or self.paper.info is None:
            return
        rows: list[CurveRow | StrandRow] = [*self.curves.values(), *self._rows.values()]
        for row in rows:
            if row.keyed:
                row.show_numbers()
        if self.curves["Pace"].keyed:
            self.curves["Intensity"].show_numbers()

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

    def _place_rows(self, rows: list[Row]) -> None:
        """Put the strands' rows between the fixed ones, which stay where they are (and keep the focus)."""
        if self.state.now.filled and self.state.now.filled not in self._named():
            self.state.choose(filled="")
        for gone in self._placed:
            self._grid.removeWidget(gone)
            if gone not in rows:
                gone.hide()
                gone.deleteLater()
        self._placed = rows
        first = len(self._fixed) + (self.hits.found is not None)
        for number, row in enumerate(rows, start=first):
            self._grid.insertWidget(number, row)
            row.setVisible(self._filled in (None, row))

    def _camera_lines(self, first: float, last: float, count: int) -> list[Line]:
        if self.paper.shot is None or self.paper.info is None:
            return []
        trace = traces.camera_trace(self.paper.shot, self.paper.info, (first, last, count))
        height = self.paper.shot.size.height if self.paper.shot.size else self.paper.info.size[1]
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
        """Trace the whole shot, if what moves it differs: a long one in a thread, again if it changed meanwhile."""
        shot, info, frames = self.paper.shot, self.paper.info, self.view.frames
        if shot is None or info is None or not frames:
            self.trace, self._traced = None, ()
            return
        made = (shot.id, shot.shake, shot.hits, shot.frame.pivot, shot.frame.focal_mm, shot.size, info, frames)
        if all(a is b for a, b in zip(self._traced, made, strict=False)) and len(self._traced) == len(made):
            return
        self._traced, times = made, (0.0, self.view.length, min(4 * frames, LOOKS))
        if frames <= SHORT:
            self._show_trace(traces.camera_trace(shot, info, times))
            return

        def still() -> bool:
            return self._traced is made

        def ended() -> None:
            if self._traced is not made:
                self._traced = ()
                self._tell_peak()

        self._runner.run(
            "trace", lambda report: traces.camera_trace(shot, info, times), self._show_trace, still=still, ended=ended
        )

    def _show_trace(self, trace: traces.CameraTrace) -> None:
        self.trace = trace
        self.camera_head.set_peak(tr("peak {0:.1f} px · {1:.1f}°", trace.peak, trace.peak_roll))
        self.traced.emit()

    def trace_at(self, seconds: float) -> traces.CameraTrace | None:
        """The trace up to a moment, fine enough to be drawn as a path."""
        shot, info = self.paper.shot, self.paper.info
        if shot is None or info is None or self.view.frames <= SHORT:
            return self.trace
        return traces.camera_trace(shot, info, (max(seconds - BEFORE, 0.0), seconds, 72))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(QRectF(0, 0, theme.HEADS, self.height()), QColor(theme.RECESS))
        painter.fillRect(QRectF(theme.HEADS, 0, self.width(), self.height()), theme.paper.colour("paper"))
        painter.fillRect(QRectF(0, 0, theme.HEADS, theme.RULER), QColor(theme.DEEP))


class Rest(Strip):
    """Blank paper under the last row."""

    def __init__(self, view: TimeView) -> None:
        super().__init__(view, lambda *_: [], 10, name="Paper")
        self.setMinimumHeight(0)
        self.setMaximumHeight(16777215)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
