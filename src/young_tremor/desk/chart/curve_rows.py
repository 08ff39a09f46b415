"""Rows of the chart that are curves and nothing else: intensity, pace, and what of frame and place can move."""

from __future__ import annotations

from functools import partial

import numpy as np
from msgspec.structs import replace
from PySide6.QtWidgets import QMenu

from young_tremor.desk.chart import key_menu
from young_tremor.desk.chart.curve_subjects import (
    BY_NAME,
    FRAME,
    PLACEMENT,
    REGION,
    SHAKE,
    STRAND_CURVES,
    SUBJECTS,
    CurveSubject,
)
from young_tremor.desk.chart.key_editor import EditedCurve, KeyEditor
from young_tremor.desk.chart.row_context import RowContext
from young_tremor.desk.chart.row_heads import RowHead
from young_tremor.desk.chart.rows import Row
from young_tremor.desk.chart.strips import LevelStrip
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr, tr_within
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.library import preset_diff
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import NO_SHOT, Shot

# title, what it is, the curves that are edited on it, and the rules beside them
ROWS: tuple[tuple[str, str, tuple[CurveSubject, ...], tuple[CurveSubject, ...]], ...] = (
    ("Intensity", "whole shake", SHAKE[:1], SHAKE[1:]),
    ("Pace", "how fast time runs", SHAKE[1:], ()),
    ("Shutter", "angle over time", FRAME[:1], ()),
    ("Crop", "by hand", FRAME[1:2], ()),
    ("Pivot", "of the frame", FRAME[2:4], ()),
    ("Copies", "afterimages", FRAME[4:], ()),
    ("Placement", "of the picture", PLACEMENT, ()),
    ("Region", "where the shake acts", REGION, ()),
)


class CurveRow:
    """Header and strip of one number, or of two that go together; one is edited, the others stand locked behind."""

    def __init__(
        self,
        paper: RowContext,
        title: str,
        note: str,
        subjects: tuple[CurveSubject, ...],
        more: tuple[CurveSubject, ...] = (),
    ) -> None:
        self._paper, self.title, self.subjects = paper, title, subjects
        session = paper.session
        self.head = RowHead(tr(title), tr(note), theme.INTENSITY_ROW, fixed=True)
        self.strip = LevelStrip(paper.view, self._lines, theme.INTENSITY_ROW, name=title)
        plain = NO_SHOT
        self.rules = {
            s.name: NumberField(
                s.short or s.name, s.scale, value=s.per * s.curve(plain).value, small=True, tip=s.field.tip
            )
            for s in (*subjects, *more)
        }
        rules = list(self.rules.values())
        self._pairs = [rules[first : first + 2] for first in range(0, len(rules), 2)]
        for pair in self._pairs:
            self.head.add_rules(*pair)
        for subject in (*subjects, *more):
            bind(self.rules[subject.name], session, subject.name, partial(self._set, subject))
            self.rules[subject.name].menu = partial(self._fill_shape, subject)
        self.editors = {s.name: KeyEditor(self.strip, paper, self._edited(s)) for s in subjects}
        self.edit(subjects[0].name)
        self.along: set[str] = set()
        self.head.let_open()
        self.head.menu.connect(self._fill_head_menu)
        self.strip.menu = self.fill_menu
        self.row = Row(self.head, self.strip)

    def _edited(self, s: CurveSubject) -> EditedCurve:
        read, write = partial(self._read, s), partial(self._write, s)
        return EditedCurve(s.name, s.name, read, write, (s.low, s.high), s.text, s.limits)

    def _fill_shape(self, subject: CurveSubject, menu: QMenu) -> None:
        """Offer to shape a number over time: on this row, or on the row it has of its own."""
        words = tr("Shape the {0} over time", tr_within(subject.short or subject.name))
        if subject in self.subjects:
            menu.addAction(words, partial(self.edit, subject.name))
        else:
            menu.addAction(words, partial(self._paper.toggle_row, subject.name))
        editor = self._paper.editors.get(subject.name)
        if isinstance(editor, KeyEditor):
            key_menu.fill_shapes(menu.addMenu(tr("Ready shapes")), editor)

    def _fill_head_menu(self, menu: QMenu) -> None:
        """What the header offers: ready shapes of the curve that is edited, and all that the row does."""
        editor = self.strip.editor
        if editor is not None:
            key_menu.fill_shapes(menu.addMenu(tr("Ready shapes of the {0}", tr_within(editor.name))), editor)
        self.fill_menu(menu)

    @property
    def _shot(self) -> Shot | None:
        """The shot as the row sees it: for placement its chosen plate stands first."""
        shot, chosen = self._paper.shot, self._paper.state.now.plate
        if shot is None or self.subjects is not PLACEMENT or chosen in (None, shot.footage.id):
            return shot
        mine = [plate for plate in shot.plates if plate.id == chosen]
        return replace(shot, plates=(*mine, *(p for p in shot.plates if p.id != chosen))) if mine else shot

    def _read(self, subject: CurveSubject) -> Curve | None:
        shot = self._shot
        return subject.read(shot) if shot and self._paper.info else None

    def _write(self, subject: CurveSubject, curve: Curve) -> shot_edits.Edit:
        shot = self._shot
        return subject.write(shot, curve) if shot else lambda project: project

    def _set(self, subject: CurveSubject, value: float) -> shot_edits.Edit:
        shot = self._shot
        return subject.set_at(shot, self._paper.now, value) if shot else lambda project: project

    @property
    def keyed(self) -> bool:
        """Whether any of its numbers changes along the way."""
        shot = self._shot
        return shot is not None and any(not s.curve(shot).constant for s in self.subjects)

    def show_numbers(self) -> None:
        """The rules as they stand at the playhead."""
        shot = self._shot
        if shot is not None:
            now = np.array([self._paper.now])
            for name, rule in self.rules.items():
                subject = BY_NAME[name]
                rule.set_value(round(subject.per * float(subject.curve(shot).at(now)[0]), 3))

    def fill_menu(self, menu: QMenu) -> None:
        """Which of its curves is edited, what is seen along with it, and the size of the row."""
        for subject in self.subjects if len(self.subjects) > 1 else ():
            edit = menu.addAction(tr("Edit {0}", tr(subject.name)), partial(self.edit, subject.name))
            edit.setCheckable(True)
            edit.setChecked(self.strip.editor is self.editors[subject.name])
        others = self._others()
        if others:
            seen = menu.addMenu(tr("See along with it"))
            for name in others:
                action = seen.addAction(tr(name), partial(self._see, name))
                action.setCheckable(True)
                action.setChecked(name in self.along)
        if self.subjects[0].name == "Intensity":
            shake = self._paper.shot.shake if self._paper.shot else None
            back = menu.addAction(
                tr("Reset to {0}", tr(shake.preset)) if shake and shake.preset else tr("Reset"), self._reset
            )
            back.setEnabled(shake is not None and preset_diff.is_changed(shake))
            rows = menu.addMenu(tr("Show the row of"))
            for title, _, subjects, _ in ROWS[1:]:
                keyed = self._paper.shot is not None and any(not s.curve(self._paper.shot).constant for s in subjects)
                action = rows.addAction(tr(title), partial(self._paper.toggle_row, title))
                action.setCheckable(True)
                action.setChecked(keyed or title in self._paper.state.now.rows)
                action.setEnabled(not keyed)
        elif not self.keyed:
            menu.addAction(tr("Hide this row"), lambda: self._paper.toggle_row(self.title))
        menu.addAction(tr("Fill the window with this row"), lambda: self._paper.fill(self.title))

    def _reset(self) -> None:
        self._paper.reset.emit()

    def edit(self, name: str) -> None:
        """Edit one of its curves; where there are more than two, the rules of that one and its neighbour are shown."""
        for pair in self._pairs:
            for rule in pair:
                rule.setVisible(self.rules[name] in pair)
        self.strip.set_editor(self.editors[name])

    def _see(self, name: str) -> None:
        self.along ^= {name}
        self.strip.refresh()

    def _others(self) -> dict[str, tuple[Curve, float, float]]:
        """Curves with keys that are not of this row, each with the range it is drawn in."""
        shot = self._paper.shot
        if shot is None:
            return {}
        out = {s.name: (s.curve(shot), s.low, s.high) for s in SUBJECTS if s not in self.subjects}
        for strand in shot.shake.strands:
            for field in STRAND_CURVES:
                curve = field.read(strand)
                if curve is not None:
                    top = 1.6 * max([key.value for key in curve.keys] + [0.3]) if field.name == "rate" else field.high
                    out[f"{strand.name}: {field.name}"] = (curve, field.low, top)
        return {name: item for name, item in out.items() if not item[0].constant}

    def _lines(self, first: float, last: float, count: int) -> list[tuple[np.ndarray, str, float]]:
        """Heights 0…1 of the strip; the edited curve last and strong."""
        shot, t = self._shot, np.linspace(first, last, count)
        if shot is None:
            return []
        lines = [
            ((curve.at(t) - low) / (high - low), "playhead", 0.9)
            for name, (curve, low, high) in self._others().items()
            if name in self.along
        ]
        for subject in sorted(self.subjects, key=lambda s: self.strip.editor is self.editors[s.name]):
            editor = self.editors[subject.name]
            editor.fit_range()
            edited = self.strip.editor is editor
            height = (subject.curve(shot).at(t) - editor.low) / (editor.high - editor.low)
            lines.append((height, subject.ink, 1.6 if edited else 0.9))
        return lines


def made_for(paper: RowContext) -> dict[str, CurveRow]:
    """The rows by their titles, in order."""
    return {title: CurveRow(paper, title, note, subjects, more) for title, note, subjects, more in ROWS}
