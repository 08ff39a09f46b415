"""The chart: headers on the left, paper on the right, a row for each strand."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtCore import QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.chart.camera_row import CameraRow
from young_tremor.desk.chart.curve_rows import CurveRow, made_for
from young_tremor.desk.chart.hit_editing import HitEditor
from young_tremor.desk.chart.key_editor import KeyEditor
from young_tremor.desk.chart.row_context import RowContext
from young_tremor.desk.chart.row_groups import GroupRow, groups
from young_tremor.desk.chart.row_heads import LOW
from young_tremor.desk.chart.rows import Row, StrandRow
from young_tremor.desk.chart.sound_rows import SoundRows
from young_tremor.desk.chart.strand_row_specs import menu_entries
from young_tremor.desk.chart.strips import Strip
from young_tremor.desk.chart.time_ruler import TimeRuler
from young_tremor.desk.chart.variant_letters import VariantLetters
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr, tr_note
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.state.desk_state import DeskState, Selection
from young_tremor.desk.state.task_runner import TaskRunner
from young_tremor.desk.state.time_view import TimeView
from young_tremor.engine.analysis import traces
from young_tremor.engine.library import preset_diff
from young_tremor.engine.sound import sound_presets
from young_tremor.model.project import Shot
from young_tremor.model.shake import Strand

SCOPES = (
    ("shot", "This shot", "The strands of the shot (R)"),
    ("reel", "The reel", "All shots one after the other (R)"),
)


class Chart(QWidget):
    """Everything below the picture."""

    add_strand = Signal(str)  # kind
    add_sound = Signal(str, str)  # kind, name

    def __init__(self, state: DeskState, runner: TaskRunner) -> None:
        super().__init__()
        self._runner = runner
        self.state, self.session, self.view = state, state.session, state.time
        self.paper = RowContext(state)
        self.paper.setParent(self)
        self._ready = np.zeros(0, bool)
        self._rows: dict[str, StrandRow] = {}
        self._filled: Row | None = None
        self.compact = False
        self._add = QPushButton(tr("Add strand +"))
        self._add.setProperty("quiet", True)
        self._add.setToolTip(tr("Add a drift, jolts that answer to the hits, or motion plotted by hand"))
        self._add.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._add.clicked.connect(self._ask_kind)
        self.ruler = TimeRuler(state, lambda: self._ready)
        self.ruler.scrubbed.connect(self.paper.scrubbed.emit)
        self.hits = HitEditor(self.paper, self.ruler, self._insert_row)
        top = QHBoxLayout()
        top.setContentsMargins(0, 0, 0, 0)
        top.setSpacing(0)
        corner = QWidget()
        corner.setFixedSize(theme.HEADS, theme.RULER)
        inner = QHBoxLayout(corner)
        inner.setContentsMargins(8, 0, 8, 0)
        inner.setSpacing(4)
        self.letters = VariantLetters(self.session)
        self.letters.compared.connect(self.paper.compared.emit)
        self.scope = Segments(SCOPES, "What the chart shows")
        self.scope.setFixedHeight(24)
        self.scope.chosen.connect(lambda scope: state.choose(scope=scope))
        inner.addWidget(self.scope)
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
        self._placed: list[QWidget] = []
        self._heads: dict[str, GroupRow] = {}
        self.sounds = SoundRows(self.paper, runner, self._ask_kind, self._body)
        rest = BlankPaper(self.view)
        rest.scrubbed.connect(self.paper.scrubbed.emit)
        self._fixed = [curve.row for curve in self.curves.values()]
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
        self.view.changed.connect(self.camera.tell)
        state.changed.connect(self._chosen)

    def _make_fixed_rows(self) -> None:
        self.curves = made_for(self.paper)
        self.level_head = self.curves["Intensity"].head
        self.level, self.pace = self.curves["Intensity"].rules.values()
        self.level_strip, self.pace_strip = self.curves["Intensity"].strip, self.curves["Pace"].strip
        self.camera = CameraRow(self.paper, self._runner)
        self.camera_head, self.camera_strip = self.camera.head, self.camera.strip
        for strip in (*(curve.strip for curve in self.curves.values()), self.camera_strip):
            strip.scrubbed.connect(self.paper.scrubbed.emit)

    def shape(self, subject: str) -> None:
        """Show the row on which a subject of that name is shaped, and edit it there."""
        title, row = next((title, row) for title, row in self.curves.items() if subject in row.editors)
        row.edit(subject)
        self.state.choose(rows=self.state.now.rows | {title})

    def _show_curves(self) -> None:
        now = self.state.now
        for title, row in self.curves.items():
            on = title == "Intensity" or title in now.rows or row.keyed
            row.row.setVisible(on and now.filled in ("", title))

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
        curves = {title: row.row for title, row in self.curves.items()}
        return {**curves, **{key: row.row for key, row in self._rows.items()}, "Camera": self._camera_row}

    def _show_filled(self) -> None:
        """Let the chosen row fill the window, or put everything back."""
        name = self.state.now.filled
        row = self._named().get(name)
        if self._filled not in (None, row):
            self._filled.set_height(self._filled.own_height)
        self._filled = row
        for widget in (*self._placed, self._camera_row):
            widget.setVisible(row in (None, widget))
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
            for row in (*self._fixed, *(row.row for row in self._rows.values())):
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
        for word, label in menu_entries():
            menu.addAction(label, partial(self.add_strand.emit, word))
        menu.addSeparator()
        self.fill_sounds(menu)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self._add.mapToGlobal(self._add.rect().bottomLeft()))

    def fill_sounds(self, menu: QMenu) -> None:
        """What can be heard besides."""
        menu.addAction(tr("Sound that goes with it"), partial(self.add_sound.emit, "with", ""))
        for kind, words in (("rumble", "Rumble"), ("knocks", "Knocks")):
            inner = menu.addMenu(tr(words))
            for name, of, note in sound_presets.sound_rows():
                if of == kind:
                    inner.addAction(tr(name), partial(self.add_sound.emit, kind, name)).setToolTip(tr_note(note))
        menu.addAction(tr("Sound file…"), partial(self.add_sound.emit, "layer", ""))
        menu.addAction(tr("Thud at each hit from a file…"), partial(self.add_sound.emit, "thud", ""))
        menu.addAction(tr("Sound sway"), partial(self.add_sound.emit, "sway", ""))

    def _chosen(self, before: Selection, now: Selection) -> None:
        """Follow what is chosen."""
        self.scope.choose(now.scope)
        if before.strand != now.strand:
            for key, row in self._rows.items():
                row.head.set_selected(key == now.strand)
            QTimer.singleShot(0, self, self._show_chosen)  # once a new row has its place
        if before.filled != now.filled:
            self._show_filled()
        elif before.rows != now.rows:
            self._show_curves()
        if before.plate != now.plate:
            self.curves["Placement"].show_numbers()
            self.curves["Placement"].strip.refresh()
            self._show_curves()
            QTimer.singleShot(0, self, self._show_plate)
        if before.sound != now.sound:
            for key, heard in self.sounds.rows.items():
                heard.head.set_selected(key == now.sound)
        if before.folded != now.folded and self.paper.shot is not None:
            self._gather(groups(self.paper.shot), fresh=True)

    def delete_keys(self) -> None:
        """Take away the chosen keys of whichever curve they are of."""
        editor = self.paper.editors.get(self.state.now.keys.curve)
        if isinstance(editor, KeyEditor):
            editor.delete()

    def _show_chosen(self) -> None:
        row = self.chosen_row
        if row is not None:
            self._scroll.ensureWidgetVisible(row.row, 0, 0)

    def _show_plate(self) -> None:
        """Bring the rows of the chosen plate's own shake into view."""
        head = self._heads.get(self.state.now.plate or "")
        if head is not None:
            below = self._placed[min(self._placed.index(head) + 1, len(self._placed) - 1)]
            for widget in (below, head):
                self._scroll.ensureWidgetVisible(widget, 0, 0)

    def show_shot(self, shot: Shot | None, info: SourceInfo | None) -> None:
        """Show a shot, touching only what differs from the one shown."""
        paper = self.paper
        before = paper.shot if paper.shot and shot and paper.shot.id == shot.id and info is paper.info else None
        if before is None:
            self.hits.forget()
        paper.shot, paper.info = shot, info
        owners = groups(shot) if shot and info else []
        if self._make_rows([strand for _, owner in owners for strand in owner.shake.strands], fresh=before is None):
            before = None
        self._gather(owners, fresh=before is None)
        if shot is None or info is None:
            self.camera.forget()
            self.level_strip.refresh()
            self.camera_strip.refresh()
            return
        self.ruler.set_hits(shot.hits)
        self.ruler.set_missing(traces.missing(shot, info, self.view.frames, self.view.rate))
        self.letters.show_shot(shot)
        self.level_head.set_words(tr("Intensity"), tr(shot.shake.preset or "whole shake"))
        self._follow(owners, before)
        self._refresh_curves(shot, before)
        self.camera.tell()
        self.update(0, 0, theme.HEADS, theme.RULER)

    def _make_rows(self, strands: list[Strand], *, fresh: bool) -> bool:
        """Make rows for strands that have none, keeping those of the same strands unless all are to be ``fresh``;
        whether the rows are others than before."""
        paper, old = self.paper, {} if fresh else self._rows
        if old and [(s.id, type(s)) for s in strands] == [(key, type(row.strand)) for key, row in old.items()]:
            return False
        self._rows = {
            s.id: old[s.id] if s.id in old and type(old[s.id].strand) is type(s) else StrandRow(paper, paper.shot_id, s)
            for s in strands
        }
        for key, row in self._rows.items():
            row.head.set_selected(key == self.state.now.strand)
            if row is not old.get(key):
                row.strip.scrubbed.connect(paper.scrubbed.emit)
                if self.compact:
                    row.row.set_height(self._height(row.row))
        return True

    def _refresh_curves(self, shot: Shot, before: Shot | None) -> None:
        """Refresh the rows of curves and of the camera where a shot differs from the one shown ``before``."""
        same = before is not None and before.shake is shot.shake and before.frame is shot.frame
        if not same:
            self.level_head.set_changed(preset_diff.is_changed(shot.shake))
            self._show_curves()
            for curve in self.curves.values():
                curve.show_numbers()
                curve.strip.refresh()
        elif before is not None and before.plates is not shot.plates:
            self._show_curves()
            self.curves["Placement"].show_numbers()
            self.curves["Placement"].strip.refresh()
        if not same or before is None or before.hits is not shot.hits:
            self.camera_strip.refresh()

    def _gather(self, seen: list[tuple[str, Shot]], *, fresh: bool) -> None:
        """Put the rows of each group under its heading, which is shown once there are several; folded ones away."""
        rows: list[QWidget] = []
        shot, folded = self.paper.shot, self.state.now.folded
        for owner, item in seen:
            if len(seen) > 1 and shot is not None:
                head = self._heads.get(owner)
                if head is None:
                    head = self._heads[owner] = GroupRow(self.paper, owner)
                head.show_shot(shot, folded=owner in folded)
                rows.append(head)
            if owner not in folded or len(seen) == 1:
                rows += [self._rows[strand.id].row for strand in item.shake.strands]
        rows += self.sounds.place_rows(shot, self.paper.info)
        if fresh or rows != self._placed:
            self._place_rows(rows)
        for gone in set(self._heads) - {owner for owner, _ in seen if len(seen) > 1}:
            self._heads.pop(gone)

    def _follow(self, seen: list[tuple[str, Shot]], before: Shot | None) -> None:
        """Let the rows of each group follow the document."""
        old = dict(groups(before)) if before is not None else {}
        for owner, shot in seen:
            for number, strand in enumerate(shot.shake.strands):
                self._rows[strand.id].show(shot, number, old.get(owner))

    def show_numbers(self) -> None:
        """Follow the playhead with the numbers that change along the way."""
        if self.paper.shot is None or self.paper.info is None:
            return
        rows: list[CurveRow | StrandRow] = [*self.curves.values(), *self._rows.values()]
        for item in self.sounds.rows.values():
            item.show()
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
        """Show on the ruler which frames are ready: (frames,) bool."""
        if not np.array_equal(ready, self._ready):
            self._ready = ready
            self.ruler.update()

    def _place_rows(self, rows: list[QWidget]) -> None:
        """Put the strands' rows between the fixed ones, which stay where they are (and keep the focus)."""
        if self.state.now.filled and self.state.now.filled not in self._named():
            self.state.choose(filled="")
        known: set[QWidget] = {row.row for row in self._rows.values()}
        known |= {heard.row for heard in self.sounds.rows.values()} | {self.sounds.group}
        for gone in self._placed:
            self._grid.removeWidget(gone)
            if gone not in rows:
                gone.hide()
                if gone not in known:  # what is folded comes back
                    gone.deleteLater()
        self._placed = rows
        first = len(self._fixed) + (self.hits.found is not None)
        for number, row in enumerate(rows, start=first):
            self._grid.insertWidget(number, row)
            row.setVisible(self._filled in (None, row))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(QRectF(0, 0, theme.HEADS, self.height()), QColor(theme.RECESS))
        painter.fillRect(QRectF(theme.HEADS, 0, self.width(), self.height()), theme.paper.colour("paper"))
        painter.fillRect(QRectF(0, 0, theme.HEADS, theme.RULER), QColor(theme.DEEP))


class BlankPaper(Strip):
    """Blank paper under the last row."""

    def __init__(self, view: TimeView) -> None:
        super().__init__(view, lambda *_: [], 10, name="Paper")
        self.setMinimumHeight(0)
        self.setMaximumHeight(16777215)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
