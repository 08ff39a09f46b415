"""Rows of the chart: header and paper side by side, as tall as one likes; the row of a strand."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QMenu, QWidget

from young_tremor.desk.chart import key_menu
from young_tremor.desk.chart.curve_subjects import STRAND_CURVES, StrandCurve
from young_tremor.desk.chart.key_editor import EditedCurve, KeyEditor
from young_tremor.desk.chart.row_context import RowContext
from young_tremor.desk.chart.row_heads import RowHead
from young_tremor.desk.chart.strand_row_specs import spec_of
from young_tremor.desk.chart.strips import Line, Strip
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr, tr_within
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.analysis import traces
from young_tremor.engine.library import preset_diff, preset_library
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.fields import default_at, has_field, number_at, value_at
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS, PLOTTED, UNITS, Plotted, Strand, Stretch

TALLEST = 900
STRAND_CURVE_NAMES = frozenset(field.name for field in STRAND_CURVES)
PLOT_LIMITS = (-1e4, 1e4)  # in a channel's units
LEAST = {"x": 0.5, "y": 0.5, "roll": 0.3, "zoom": 0.5}  # the least that a plotted row spans, in channel units


class Row(QWidget):
    """A header (or the room for one) and its strip; the header's lower edge is dragged to make it taller."""

    def __init__(self, head: RowHead | None, strip: QWidget) -> None:
        super().__init__()
        self.head, self.strip = head, strip
        row = QHBoxLayout(self)
        row.setContentsMargins(0 if head else theme.HEADS, 0, 0, 0)
        row.setSpacing(0)
        if head:
            row.addWidget(head, 0, Qt.AlignmentFlag.AlignTop)
            head.heightened.connect(self.set_height)
        row.addWidget(strip, 1)
        self.own_height = self.first_height = strip.height()

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

    def __init__(self, paper: RowContext, shot_id: str, strand: Strand) -> None:
        self._seen: Shot | None = None  # the shot as the row's group sees it
        self._paper, self.strand_id, self._shot_id = paper, strand.id, shot_id
        self.strand, self.spec = strand, spec_of(type(strand))
        session, amount, second = (
            paper.session,
            number_at(type(strand), "amount"),
            number_at(type(strand), strand.SECOND),
        )
        self.head = RowHead("", "", theme.ROW, choosable=True)
        self.amount = NumberField(amount.label, amount.shown_as, value=100, small=True, tip=amount.tip)
        self._second_field = second
        usual = default_at(type(strand), strand.SECOND)
        usual = usual.value if isinstance(usual, Curve) else usual
        self.second = NumberField(second.label, second.shown_as, value=usual * second.per, small=True, tip=second.tip)
        self.head.add_rules(self.amount, self.second)
        self._bind(self.amount, "Amount", lambda v: {"amount": with_value_at(self.strand.amount, paper.now, v / 100)})
        self._bind(self.second, second.label, lambda v: self.spec.set_second(self.strand, paper.now, v))
        for control, path in ((self.amount, "amount"), (self.second, strand.SECOND)):
            if path in STRAND_CURVE_NAMES:
                control.menu = partial(self._fill_number, path)
        self.head.lamp.toggled.connect(
            lambda on: session.apply(tr("Strand on") if on else tr("Strand off"), self._edit(on=on))
        )
        self.head.chosen.connect(lambda: paper.choose(self.strand_id))
        self.head.menu.connect(self.fill_menu)
        self.strip = Strip(paper.view, self._lines, theme.ROW, name="Trace")
        self.strip.menu = self.fill_menu
        self.editors = {
            field.name: self._editor(field) for field in STRAND_CURVES if has_field(type(strand), field.path)
        }
        self.channel = "x"
        plotted = EditedCurve(
            f"{strand.id}/plotted",
            "Plotted",
            self._plotted,
            lambda curve: self._edit(**{self.channel: curve}),
            (-1.0, 1.0),
            lambda v: f"{v:.2f}{UNITS[self.channel]}",
            PLOT_LIMITS,
        )
        self.plotter = KeyEditor(self.strip, paper, plotted)
        self._shaping = ""
        self._number = 0
        self.strip.end_grabbed.connect(lambda: session.begin_gesture(tr("Active stretch")))
        self.strip.end_dragged.connect(self._drag_end)
        self.strip.end_released.connect(session.end_gesture)
        self.row = Row(self.head, self.strip)

    def _editor(self, field: StrandCurve) -> KeyEditor:
        edited = EditedCurve(
            f"{self.strand_id}/{field.name}",
            field.name.capitalize(),
            lambda: field.read(self.strand),
            lambda curve: self._edit(**field.write(self.strand, curve)),
            (field.low, field.high),
            partial(field.text, type(self.strand)),
            field.limits(type(self.strand)),
        )
        return KeyEditor(self.strip, self._paper, edited)

    def _edit(self, **changes: object) -> shot_edits.Edit:
        return shot_edits.set_strand(self._shot_id, self.strand_id, **changes)

    def _bind(self, rule: NumberField, label: str, changes: Callable[[float], dict[str, object]]) -> None:
        bind(rule, self._paper.session, label, lambda v: self._edit(**changes(v)))

    def _fields(self) -> list[StrandCurve]:
        """The numbers that this strand has and that can be curves."""
        return [field for field in STRAND_CURVES if field.read(self.strand) is not None]

    def fill_menu(self, menu: QMenu) -> None:
        """What can be done with the strand as a whole."""
        paper, session, shot, strand = self._paper, self._paper.session, self._shot_id, self.strand_id
        menu.addAction(tr("Duplicate"), lambda: paper.duplicate(strand))
        menu.addAction(
            tr("Move up"), lambda: session.apply(tr("Move strand"), shot_edits.move_strand(shot, strand, -1))
        )
        menu.addAction(
            tr("Move down"), lambda: session.apply(tr("Move strand"), shot_edits.move_strand(shot, strand, 1))
        )
        solo = menu.addAction(tr("Solo"), lambda: session.apply(tr("Solo"), self._edit(solo=not self.strand.solo)))
        solo.setCheckable(True)
        solo.setChecked(self.strand.solo)
        for field in self._fields():
            self._fill_shape(field.name, menu)
        key_menu.fill_shapes(menu.addMenu(tr("Ready shapes of the amount")), self.editors["amount"])
        act = menu.addAction(tr("Act in a stretch only"), self._act_in_marks)
        act.setCheckable(True)
        act.setChecked(self.strand.stretch != Stretch())
        menu.addAction(tr("Fill the window with this row"), lambda: paper.fill(strand))
        menu.addSeparator()
        menu.addAction(tr("Save as preset…"), lambda: paper.kept.emit(strand))
        holder = self._seen.shake.holder if self._seen else None
        fresh, preset = preset_diff.source(self.strand, holder), self.strand.origin.rpartition("/")[0]
        reset = menu.addAction(
            tr("Reset to {0}", preset) if preset_library.by_name().get(preset.casefold()) else tr("Reset"),
            lambda: session.apply(tr("Reset strand"), shot_edits.reset_strand(shot, strand, fresh)),
        )
        reset.setEnabled(replace(fresh, id=strand, name=self.strand.name, origin=self.strand.origin) != self.strand)
        menu.addAction(
            tr("Delete strand"), lambda: session.apply(tr("Delete strand"), shot_edits.remove_strand(shot, strand))
        )

    def _fill_shape(self, field: str, menu: QMenu) -> None:
        """Offer to shape a number of the strand over time."""
        shape = menu.addAction(
            tr("Shape the {0} over time", tr_within(field.capitalize())), partial(self.toggle_shaping, field)
        )
        shape.setCheckable(True)
        shape.setChecked(self.strip.editor is self.editors[field])

    def _fill_number(self, field: str, menu: QMenu) -> None:
        """Offer to shape a number of the strand, and ready shapes for it."""
        self._fill_shape(field, menu)
        key_menu.fill_shapes(menu.addMenu(tr("Ready shapes")), self.editors[field])

    def _drag_end(self, which: str, t: float) -> None:
        stretch, view = self.strand.stretch, self._paper.view
        start, end = stretch.start or 0.0, view.length if stretch.end is None else stretch.end
        frame = 1 / float(view.rate)
        t = min(t, end - frame) if which == "start" else max(t, start + frame)
        self._paper.session.apply(tr("Active stretch"), self._edit(stretch=replace(stretch, **{which: t})))

    def _act_in_marks(self) -> None:
        """Let the strand act in the marked stretch only, with short fades, or in the shot again."""
        view, rate = self._paper.view, float(self._paper.view.rate)
        if self.strand.stretch != Stretch():
            self._paper.session.apply(tr("Active stretch"), self._edit(stretch=Stretch()))
            return
        first, last = view.marks or (view.frames // 4, 3 * view.frames // 4)
        fade = round(min(0.5, 0.2 * (last - first) / rate), 2)
        stretch = Stretch(first / rate, (last + 1) / rate, fade, fade)
        self._paper.session.apply(tr("Active stretch"), self._edit(stretch=stretch))

    def toggle_shaping(self, field: str) -> None:
        """Show a curve of the strand over the trace, to be edited there, or hide it."""
        self._shaping = "" if self._shaping == field else field
        self._set_editor()

    def _plotted(self) -> Curve | None:
        return self.strand.curve(self.channel) if isinstance(self.strand, Plotted) else None

    def set_channel(self, channel: str) -> None:
        """Which of a plotted strand's curves is edited on its row; the others are drawn and locked."""
        if channel != self.channel:
            self.plotter.chosen = ()
        self.channel = channel
        self._fit_plotter()
        self.strip.refresh()

    def _fit_plotter(self) -> None:
        curve = self._plotted()
        if curve is not None and self.plotter.resting:
            top = max([abs(key.value) for key in curve.keys] + [abs(curve.value), LEAST[self.channel]]) * 1.3
            self.plotter.low, self.plotter.high = -top, top

    def _keyed(self) -> list[str]:
        """The fields that change along the way."""
        return [field.name for field in self._fields() if not (field.read(self.strand) or Curve(0.0)).constant]

    def _set_editor(self) -> None:
        if self._shaping and self._shaping not in (field.name for field in self._fields()):
            self._shaping = ""  # the region has gone
        name = next(iter([self._shaping] if self._shaping else self._keyed()), "")
        wanted = self.editors[name] if name else None
        rate, rater = getattr(self.strand, "rate", None), self.editors.get("rate")
        if isinstance(rate, Curve) and rater is not None and rater.resting:
            rater.high = max(1.6 * max([key.value for key in rate.keys] + [rate.value]), 0.5)
        if wanted is None and self.spec.own_keys:
            wanted = self.plotter
            self._fit_plotter()
        if self.strip.editor is not wanted:
            self.strip.set_editor(wanted)

    def show(self, shot: Shot, number: int, before: Shot | None) -> None:
        """Follow the document, touching what differs from ``before``."""
        strand = shot.shake.strands[number]
        old = before.shake.strands[number] if before and number < len(before.shake.strands) else None
        hits_too = traces.hears(strand) and before is not None and before.hits is not shot.hits
        self._number, self.strand, self._seen = number, strand, shot
        if strand is not old or hits_too:
            words = self.spec.note(strand, shot)
            self.head.set_words(tr(strand.name), tr("solo · {0}", words) if strand.solo else words)
        if strand is not old:
            self.head.set_changed(preset_diff.is_strand_changed(strand, shot.shake.holder))
            self.head.lamp.set_on(strand.on)
            self.head.update()
            self.strip.setAccessibleName(tr("Trace of {0}", tr(strand.name)))
            self.show_numbers()
            self.strip.dim = not strand.on
            stretch, length = strand.stretch, self._paper.view.length
            some = stretch.start is not None or stretch.end is not None
            end = length if stretch.end is None else stretch.end
            self.strip.set_active((stretch.start or 0.0, end) if some else None)
            self._set_editor()
        changed = (
            before is None
            or before.shake.pace is not shot.shake.pace
            or before.frame.focal_mm != shot.frame.focal_mm
            or hits_too
        )
        if strand is not old or changed:
            view = self._paper.view
            self.strip.gaps = traces.bridged_frames(shot, number, view.frames, view.rate)
            self.strip.refresh()

    def show_numbers(self) -> None:
        """The two rules as they stand at the playhead."""
        now, strand, second = self._paper.now, self.strand, self._second_field
        self.amount.set_value(round(float(strand.amount.at(np.array([now]))[0]) * 100, 2))
        held = value_at(strand, strand.SECOND)
        value = second.per * (float(held.at(np.array([now]))[0]) if isinstance(held, Curve) else held)
        self.second.set_value(value)
        top = float(self._paper.view.rate) / 2
        fast = second.shown_as.unit == "Hz" and value > top
        above = tr(" Above half the frame rate ({0:g}): frames will see it slower.", top) if fast else ""
        self.second.setToolTip(f"{tr(second.tip)}.{above}" if above else tr(second.tip))

    @property
    def keyed(self) -> bool:
        """Whether its numbers change along the way."""
        return bool(self._keyed())

    def _lines(self, first: float, last: float, count: int) -> list[Line]:
        shot, info = self._seen, self._paper.info
        if shot is None or info is None or self._number >= len(shot.shake.strands):
            return []
        strand = shot.shake.strands[self._number]
        shaped = self.strip.editor
        if isinstance(strand, Plotted) and shaped is self.plotter:
            return self._plotted_lines(strand, first, last, count)
        weights = traces.effect(shot, info)
        reach = traces.reaches(strand) * weights
        top = self.spec.room(strand, shot) * max(float(reach.max()), 1e-9)
        _, values = traces.strand_trace(shot, self._number, (first, last, count))
        order = np.argsort(reach)
        lines: list[Line] = [
            (values[:, c] * weights[c] / top, CHANNELS[c], 1.5 if reach[c] > 0.3 * reach.max() else 1.1)
            for c in order
            if reach[c] > 1e-9
        ]
        field = next((curve for curve in self._fields() if self.editors[curve.name] is shaped), None)
        if field is not None and field.name != "rate":
            self.editors[field.name].fit_range()
        curve = field.read(strand) if field is not None else None
        if shaped is not None and curve is not None:
            t, height = np.linspace(first, last, count), self.strip.height()
            ys = np.interp(curve.at(t), (shaped.low, shaped.high), (shaped.y(shaped.low), shaped.y(shaped.high)))
            lines.append(((height / 2 - ys) / (height / 2 - 3), "ink", 1.3))
        return lines

    def _plotted_lines(self, strand: Plotted, first: float, last: float, count: int) -> list[Line]:
        """Each channel against its own scale; the edited one strong, on the scale of its keys."""
        assert self._seen is not None
        _, values = traces.strand_trace(self._seen, self._number, (first, last, count))
        amount = max(float(strand.amount.value), 1e-3) if strand.amount.constant else 1.0
        height = self.strip.height()
        lines: list[Line] = []
        for number, name in sorted(enumerate(PLOTTED), key=lambda item: item[1] == self.channel):
            size = float(np.abs(values[:, number]).max(initial=0.0))
            if name == self.channel:
                ys = np.array([self.plotter.y(v) for v in (0.0, 1.0)])
                heights = (height / 2 - (ys[0] + (ys[1] - ys[0]) * values[:, number] / amount)) / (height / 2 - 3)
                lines.append((heights, name, 1.7))
            elif size > 0:
                lines.append((0.8 * values[:, number] / size, name, 0.8))
        return lines
