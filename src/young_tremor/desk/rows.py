"""Rows of the chart: header and paper side by side, as tall as one likes; the row of a strand."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QMenu, QWidget

from young_tremor.desk import theme
from young_tremor.desk.heads import AMOUNT, RATE, SETTLE, SLOW, SLOW_TIP, SPEED, Head
from young_tremor.desk.key_editor import KeyEditor
from young_tremor.desk.rule import Rule
from young_tremor.desk.scale import Scale
from young_tremor.desk.strips import Line, Strip
from young_tremor.engine import origins, takes, traces
from young_tremor.engine.session import Session
from young_tremor.model import edits, keys
from young_tremor.model.curve import Curve
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS, PLOTTED, UNITS, Drift, Jolts, Plotted, Shimmer, Strand, Stretch, Taken

if TYPE_CHECKING:
    from young_tremor.desk.chart import Chart

TALLEST = 900
UNIT = Scale(0, 1, "", 2)
LEAST = {"x": 0.5, "y": 0.5, "roll": 0.3, "zoom": 0.5}  # the least that a plotted row spans, in channel units


def bind(rule: Rule, session: Session, label: str, edit: Callable[[float], edits.Edit]) -> None:
    """Let a rule change the document: ``edit(value)`` is an edit, a whole drag is one step called ``label``."""
    rule.began.connect(lambda: session.begin_gesture(label))
    rule.changed.connect(lambda value: session.apply(label, edit(value)))
    rule.ended.connect(session.end_gesture)
    rule.taken_back.connect(session.drop_gesture)
    rule.taken_back.connect(session.end_gesture)


def tuned(curve: Curve, t: float, value: float) -> Curve:
    """A curve made to go through a value: all of it where it is constant, by a key at ``t`` where it has keys."""
    return Curve(value) if curve.constant else keys.with_key(curve, t, value)


class Row(QWidget):
    """A header (or the room for one) and its strip; the header's lower edge is dragged to make it taller."""

    def __init__(self, head: Head | None, strip: QWidget) -> None:
        super().__init__()
        self.head, self.strip = head, strip
        row = QHBoxLayout(self)
        row.setContentsMargins(0 if head else theme.HEADS, 0, 0, 0)
        row.setSpacing(0)
        if head:
            row.addWidget(head, 0, Qt.AlignmentFlag.AlignTop)
            head.heightened.connect(self.set_height)
        row.addWidget(strip, 1)
        self.own_height = strip.height()

    def set_height(self, height: int, *, remember: bool = True) -> None:
        """Make the row taller or lower."""
        least = self.head.least if self.head else 20
        height = min(max(height, least), TALLEST)
        if self.head:
            self.head.setFixedHeight(height)
        self.strip.setFixedHeight(height)
        if remember:
            self.own_height = height


class StrandRow:
    """Header and strip of one strand."""

    def __init__(self, chart: Chart, shot_id: str, strand: Strand) -> None:
        self.chart, self.strand_id, self._shot_id = chart, strand.id, shot_id
        self.strand = strand
        session = chart.session
        self.head = Head("", "", theme.ROW, choosable=True)
        self.amount = Rule("Amount", AMOUNT, value=100, reset=100, small=True, tip="How much of this strand")
        if isinstance(strand, Jolts):
            self.second = Rule("Settle", SETTLE, value=0.35, small=True, tip="How long until a third of it is left")
            self._bind(self.second, "Settle", lambda v: {"settle": v})
        elif isinstance(strand, Plotted):
            self.second = Rule(
                "Irregular", UNIT, value=0.3, small=True, tip="How much its rounds differ, if it repeats"
            )
            self._bind(self.second, "Irregular", lambda v: {"irregular": v})
        elif isinstance(strand, Shimmer):
            self.second = Rule("Speed", SPEED, value=2.5, small=True, tip="How many times a second it has changed")
            self._bind(self.second, "Speed", lambda v: {"speed": v})
        elif isinstance(strand, Taken):
            self.second = Rule("Slow", SLOW, value=0, small=True, tip=SLOW_TIP)
            self._bind(self.second, "Slow part", lambda v: takes.relearned(self.strand, cutoff=v))  # type: ignore[arg-type]
        else:
            self.second = Rule("Rate", RATE, value=1, small=True, tip="Swings per second")
            self._bind(self.second, "Rate", lambda v: {"rate": tuned(self.strand.rate, chart.now, v)})  # type: ignore[union-attr]
        self.head.add_rules(self.amount, self.second)
        self._bind(self.amount, "Amount", lambda v: {"amount": tuned(self.strand.amount, chart.now, v / 100)})
        self.head.lamp.toggled.connect(lambda on: session.apply("Strand on" if on else "Strand off", self._edit(on=on)))
        self.head.chosen.connect(lambda: chart.choose(None if chart.chosen == self.strand_id else self.strand_id))
        self.head.menu.connect(self.fill_menu)
        self.strip = Strip(chart.view, self._lines, theme.ROW, name="Trace")
        self.strip.menu = self.fill_menu
        self.editor = KeyEditor(
            self.strip, chart.view, session, "Amount", read=lambda: self.strand.amount,
            write=lambda curve: self._edit(amount=curve), low=0.0, high=2.0,
            text=lambda v: f"{100 * v:.0f}%", snaps=chart.snaps, hits=chart.hit_times,
        )  # fmt: skip
        self.channel = "x"
        self.plotter = KeyEditor(
            self.strip, chart.view, session, "Plotted", read=self._plotted,
            write=lambda curve: self._edit(**{self.channel: curve}), low=-1.0, high=1.0,
            text=lambda v: f"{v:.2f}{UNITS[self.channel]}", snaps=chart.snaps, hits=chart.hit_times,
        )  # fmt: skip
        self.rater = KeyEditor(
            self.strip, chart.view, session, "Rate",
            read=lambda: self.strand.rate if isinstance(self.strand, Drift) else None,
            write=lambda curve: self._edit(rate=curve), low=0.0, high=4.0,
            text=lambda v: f"{v:.2f} Hz", snaps=chart.snaps, hits=chart.hit_times,
        )  # fmt: skip
        self._shaping = ""
        self._number = 0
        self.strip.end_grabbed.connect(lambda: session.begin_gesture("Active stretch"))
        self.strip.end_dragged.connect(self._drag_end)
        self.strip.end_released.connect(session.end_gesture)
        self.row = Row(self.head, self.strip)

    def _edit(self, **changes: object) -> edits.Edit:
        return edits.set_strand(self._shot_id, self.strand_id, **changes)

    def _bind(self, rule: Rule, label: str, changes: Callable[[float], dict[str, object]]) -> None:
        bind(rule, self.chart.session, label, lambda v: self._edit(**changes(v)))

    def fill_menu(self, menu: QMenu) -> None:
        """What can be done with the strand as a whole."""
        session, shot, strand = self.chart.session, self._shot_id, self.strand_id
        menu.addAction("Duplicate", lambda: self.chart.duplicate(strand))
        menu.addAction("Move up", lambda: session.apply("Move strand", edits.move_strand(shot, strand, -1)))
        menu.addAction("Move down", lambda: session.apply("Move strand", edits.move_strand(shot, strand, 1)))
        solo = menu.addAction("Solo", lambda: session.apply("Solo", self._edit(solo=not self.strand.solo)))
        solo.setCheckable(True)
        solo.setChecked(self.strand.solo)
        for field in ("amount", "rate") if isinstance(self.strand, Drift) else ("amount",):
            shape = menu.addAction(f"Shape the {field} over time", partial(self.toggle_shaping, field))
            shape.setCheckable(True)
            shape.setChecked(self.strip.editor is (self.editor if field == "amount" else self.rater))
        act = menu.addAction("Act in a stretch only", self._act_in_marks)
        act.setCheckable(True)
        act.setChecked(self.strand.stretch != Stretch())
        menu.addAction("Fill the window with this row", lambda: self.chart.open_row(self.row))
        menu.addSeparator()
        menu.addAction("Save as preset…", lambda: self.chart.kept.emit(strand))
        fresh = origins.source(self.strand)
        reset = menu.addAction(
            f"Reset to {self.strand.origin.rpartition('/')[0]}" if self.strand.origin else "Reset",
            lambda: session.apply("Reset strand", edits.reset_strand(shot, strand, fresh)),
        )
        reset.setEnabled(replace(fresh, id=strand, name=self.strand.name, origin=self.strand.origin) != self.strand)
        menu.addAction("Delete strand", lambda: session.apply("Delete strand", edits.remove_strand(shot, strand)))

    def _drag_end(self, which: str, t: float) -> None:
        stretch = self.strand.stretch
        start, end = stretch.start or 0.0, self.chart.view.length if stretch.end is None else stretch.end
        frame = 1 / float(self.chart.view.rate)
        t = min(t, end - frame) if which == "start" else max(t, start + frame)
        self.chart.session.apply("Active stretch", self._edit(stretch=replace(stretch, **{which: t})))

    def _act_in_marks(self) -> None:
        """Let the strand act in the marked stretch only, with short fades, or in the shot again."""
        view, rate = self.chart.view, float(self.chart.view.rate)
        if self.strand.stretch != Stretch():
            self.chart.session.apply("Active stretch", self._edit(stretch=Stretch()))
            return
        first, last = view.marks or (view.frames // 4, 3 * view.frames // 4)
        fade = round(min(0.5, 0.2 * (last - first) / rate), 2)
        made = Stretch(first / rate, (last + 1) / rate, fade, fade)
        self.chart.session.apply("Active stretch", self._edit(stretch=made))

    def toggle_shaping(self, field: str) -> None:
        """Show the curve of amount or rate over the trace, to be edited there, or hide it."""
        self._shaping = "" if self._shaping == field else field
        self._set_editor()

    def _plotted(self) -> Curve | None:
        return self.strand.curve(self.channel) if isinstance(self.strand, Plotted) else None

    def set_channel(self, channel: str) -> None:
        """Which of a plotted strand's curves is edited on its row; the others are drawn and locked."""
        self.channel = channel
        self._fit_plotter()
        self.strip.refresh()

    def _fit_plotter(self) -> None:
        curve = self._plotted()
        if curve is not None and self.plotter.resting:
            top = max([abs(key.value) for key in curve.keys] + [abs(curve.value), LEAST[self.channel]]) * 1.3
            self.plotter.low, self.plotter.high = -top, top

    def _set_editor(self) -> None:
        strand = self.strand
        keyed = "amount" if not strand.amount.constant else ""
        if isinstance(strand, Drift) and not strand.rate.constant:
            keyed = keyed or "rate"
        wanted = {"amount": self.editor, "rate": self.rater, "": None}[self._shaping or keyed]
        if isinstance(strand, Drift) and self.rater.resting:
            top = max([key.value for key in strand.rate.keys] + [strand.rate.value])
            self.rater.high = max(1.6 * top, 0.5)
        if wanted is None and isinstance(self.strand, Plotted):
            wanted = self.plotter
            self._fit_plotter()
        if self.strip.editor is not wanted:
            self.strip.set_editor(wanted)

    def show(self, shot: Shot, number: int, before: Shot | None) -> None:
        strand = shot.shake.strands[number]
        old = before.shake.strands[number] if before and number < len(before.shake.strands) else None
        self._number, self.strand = number, strand
        if strand is not old:
            words = strand.note or ("plotted by hand" if isinstance(strand, Plotted) else "drift")
            if isinstance(strand, Jolts):
                words = f"{strand.note} · {_hits(len(shot.hits))}" if strand.note else _hits(len(shot.hits))
            self.head.set_words(strand.name, f"solo · {words}" if strand.solo else words)
            self.head.set_changed(origins.strand_changed(strand))
            self.head.lamp.set_on(strand.on)
            self.head.update()
            self.strip.setAccessibleName(f"Trace of {strand.name}")
            self.show_numbers()
            self.strip.dim = not strand.on
            stretch, length = strand.stretch, self.chart.view.length
            some = stretch.start is not None or stretch.end is not None
            end = length if stretch.end is None else stretch.end
            self.strip.set_active((stretch.start or 0.0, end) if some else None)
            self._set_editor()
        changed = (
            before is None
            or before.shake.pace is not shot.shake.pace
            or before.frame.focal_mm != shot.frame.focal_mm
            or (isinstance(strand, Jolts) and before.hits is not shot.hits)
        )
        if isinstance(strand, Jolts) and before is not None and before.hits is not shot.hits:
            words = _hits(len(shot.hits))
            self.head.set_words(strand.name, f"{strand.note} · {words}" if strand.note else words)
        if strand is not old or changed:
            view = self.chart.view
            self.strip.gaps = traces.bridged(shot, number, view.frames, view.rate)
            self.strip.refresh()

    def show_numbers(self) -> None:
        """The two rules as they stand at the playhead."""
        now, strand = np.array([self.chart.now]), self.strand
        self.amount.set_value(round(float(strand.amount.at(now)[0]) * 100, 2))
        if isinstance(strand, Drift):
            rate = float(strand.rate.at(now)[0])
            self.second.set_value(rate)
            top = self.chart.delivered_rate / 2
            above = f" Above half the frame rate ({top:g}): frames will see it slower." if rate > top else ""
            self.second.setToolTip("Swings per second." + above)
        else:
            own = {Jolts: "settle", Plotted: "irregular", Taken: "cutoff", Shimmer: "speed"}[type(strand)]
            self.second.set_value(getattr(strand, own))

    @property
    def keyed(self) -> bool:
        """Whether its numbers change along the way."""
        return not self.strand.amount.constant or (isinstance(self.strand, Drift) and not self.strand.rate.constant)

    def _lines(self, first: float, last: float, count: int) -> list[Line]:
        shot, info = self.chart.shot, self.chart.info
        if shot is None or info is None or self._number >= len(shot.shake.strands):
            return []
        strand = shot.shake.strands[self._number]
        shaped = self.strip.editor
        if isinstance(strand, Plotted) and shaped is not self.editor:
            return self._plotted_lines(strand, first, last, count)
        weights = traces.effect(shot, info)
        reach = traces.reaches(strand) * weights
        room = 1.6 + 0.9 * strand.wander.depth if isinstance(strand, Drift) else 1.3 * _strongest(shot)
        top = room * max(float(reach.max()), 1e-9)
        _, values = traces.strand_trace(shot, self._number, (first, last, count))
        order = np.argsort(reach)
        lines: list[Line] = [
            (values[:, c] * weights[c] / top, CHANNELS[c], 1.5 if reach[c] > 0.3 * reach.max() else 1.1)
            for c in order
            if reach[c] > 1e-9
        ]
        if shaped is not None:
            t, height = np.linspace(first, last, count), self.strip.height()
            curve = strand.rate if shaped is self.rater and isinstance(strand, Drift) else strand.amount
            ys = np.interp(curve.at(t), (shaped.low, shaped.high), (shaped.y(shaped.low), shaped.y(shaped.high)))
            lines.append(((height / 2 - ys) / (height / 2 - 3), "ink", 1.3))
        return lines

    def _plotted_lines(self, strand: Plotted, first: float, last: float, count: int) -> list[Line]:
        """Each channel against its own scale; the edited one strong, on the scale of its keys."""
        assert self.chart.shot is not None
        _, values = traces.strand_trace(self.chart.shot, self._number, (first, last, count))
        amount = max(float(strand.amount.value), 1e-3) if strand.amount.constant else 1.0
        height = self.strip.height()
        lines: list[Line] = []
        for number, name in sorted(enumerate(PLOTTED), key=lambda each: each[1] == self.channel):
            size = float(np.abs(values[:, number]).max(initial=0.0))
            if name == self.channel:
                ys = np.array([self.plotter.y(v) for v in (0.0, 1.0)])
                heights = (height / 2 - (ys[0] + (ys[1] - ys[0]) * values[:, number] / amount)) / (height / 2 - 3)
                lines.append((heights, name, 1.7))
            elif size > 0:
                lines.append((0.8 * values[:, number] / size, name, 0.8))
        return lines


def _hits(count: int) -> str:
    return "no hits yet, press H" if count == 0 else "1 hit" if count == 1 else f"{count} hits"


def _strongest(shot: Shot) -> float:
    return max((hit.strength for hit in shot.hits), default=1.0) or 1.0
