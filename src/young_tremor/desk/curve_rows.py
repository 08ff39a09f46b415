"""Rows of the chart that are curves and nothing else: intensity, pace, and what of the frame can move."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import TYPE_CHECKING

import numpy as np
from msgspec.structs import replace
from PySide6.QtWidgets import QMenu

from young_tremor.desk import theme
from young_tremor.desk.heads import AMOUNT, PACE, Head
from young_tremor.desk.key_editor import KeyEditor
from young_tremor.desk.rows import Row, bind, tuned
from young_tremor.desk.rule import Rule
from young_tremor.desk.scale import Scale
from young_tremor.desk.strips import LevelStrip
from young_tremor.engine import origins
from young_tremor.model import edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import NO_SHOT, FrameSettings, Shot
from young_tremor.model.shake import Drift

if TYPE_CHECKING:
    from young_tremor.desk.chart import Chart

ANGLE = Scale(0, 360, "°", 0, least=0, most=720)
CROP = Scale(1, 2, "×", 3, bend=2, least=1, most=20)
PLACE = Scale(-100, 100, "%", 1, least=-1000, most=1000)
COPIES = Scale(0, 8, "", 0, least=0, most=12)


@dataclass(frozen=True)
class Subject:
    """One number of a shot that can be a curve: how it is read, written and shown. ``per``: the rule's unit in it."""

    name: str
    read: Callable[[Shot], Curve]
    write: Callable[[Shot, Curve], edits.Edit]
    low: float
    high: float
    text: Callable[[float], str]
    scale: Scale
    tip: str
    per: float = 1.0
    ink: str = "ink"
    short: str = ""

    def set_at(self, shot: Shot, now: float, value: float) -> edits.Edit:
        """The edit that gives it a value: all of it while it is constant, a key at ``now`` otherwise."""
        return self.write(shot, tuned(self.read(shot), now, value / self.per))


def _shake(field: str) -> Callable[[Shot, Curve], edits.Edit]:
    return lambda shot, curve: edits.set_shake(shot.id, **{field: curve})


def _frame(change: Callable[[FrameSettings, Curve], dict[str, object]]) -> Callable[[Shot, Curve], edits.Edit]:
    return lambda shot, curve: edits.set_frame(shot.id, **change(shot.frame, curve))


SUBJECTS = (
    Subject("Intensity", lambda s: s.shake.intensity, _shake("intensity"), 0.0, 2.0, lambda v: f"{100 * v:.0f}%",
            AMOUNT, "How much of the whole shake", 100, short="Amount"),
    Subject("Pace", lambda s: s.shake.pace, _shake("pace"), 0.0, 3.0, lambda v: f"{v:.2f}×", PACE,
            "How fast its time runs"),
    Subject("Shutter angle", lambda s: s.frame.shutter.angle,
            _frame(lambda f, c: {"shutter": replace(f.shutter, angle=c)}), 0.0, 720.0, lambda v: f"{v:.0f}°", ANGLE,
            "How long the shutter is open: 360° is the frame's whole time", short="Angle"),
    Subject("Crop by hand", lambda s: s.frame.crop, _frame(lambda f, c: {"crop": c}), 1.0, 2.0, lambda v: f"{v:.3f}×",
            CROP, "Enlarges the picture by so much; what the edges need comes on top", short="Crop"),
    Subject("Pivot X", lambda s: s.frame.pivot.x, _frame(lambda f, c: {"pivot": replace(f.pivot, x=c)}), -1.0, 1.0,
            lambda v: f"{100 * v:.1f}%", PLACE, "About what it turns, percent of frame height right of the centre",
            100, "x", "X"),
    Subject("Pivot Y", lambda s: s.frame.pivot.y, _frame(lambda f, c: {"pivot": replace(f.pivot, y=c)}), -1.0, 1.0,
            lambda v: f"{100 * v:.1f}%", PLACE, "About what it turns, percent of frame height below the centre",
            100, "y", "Y"),
    Subject("Copies", lambda s: s.frame.afterimages.count,
            _frame(lambda f, c: {"afterimages": replace(f.afterimages, count=c)}), 0.0, 12.0, lambda v: f"{v:.0f}",
            COPIES, "Fading copies of the picture where the motion was a moment ago; 0 is none"),
)  # fmt: skip
BY_NAME = {each.name: each for each in SUBJECTS}


class CurveRow:
    """Header and strip of one number, or of two that go together; one is edited, the others stand locked behind."""

    def __init__(
        self, chart: Chart, title: str, note: str, subjects: tuple[Subject, ...], *, more: tuple[Subject, ...] = ()
    ) -> None:
        self._chart, self.subjects = chart, subjects
        session = chart.session
        self.head = Head(title, note, theme.INTENSITY_ROW, fixed=True)
        self.strip = LevelStrip(chart.view, self._lines, theme.INTENSITY_ROW, name=title)
        plain = NO_SHOT
        self.rules = {
            s.name: Rule(s.short or s.name, s.scale, value=s.per * s.read(plain).value, small=True, tip=s.tip)
            for s in (*subjects, *more)
        }
        self.head.add_rules(*self.rules.values())
        for each in (*subjects, *more):
            bind(self.rules[each.name], session, each.name, partial(self._set, each))
        self.editors = {
            s.name: KeyEditor(
                self.strip, chart.view, session, s.name, read=partial(self._read, s), write=partial(self._write, s),
                low=s.low, high=s.high, text=s.text, snaps=chart.snaps, hits=chart.hit_times,
            )
            for s in subjects
        }  # fmt: skip
        self.strip.set_editor(self.editors[subjects[0].name])
        self.along: set[str] = set()
        self.wanted = False
        self.head.menu.connect(self.fill_menu)
        self.strip.menu = self.fill_menu
        self.row = Row(self.head, self.strip)

    def _read(self, subject: Subject) -> Curve | None:
        chart = self._chart
        return subject.read(chart.shot) if chart.shot and chart.info else None

    def _write(self, subject: Subject, curve: Curve) -> edits.Edit:
        return subject.write(self._chart.shot, curve) if self._chart.shot else lambda project: project

    def _set(self, subject: Subject, value: float) -> edits.Edit:
        chart = self._chart
        return subject.set_at(chart.shot, chart.now, value) if chart.shot else lambda project: project

    @property
    def keyed(self) -> bool:
        """Whether any of its numbers changes along the way."""
        shot = self._chart.shot
        return shot is not None and any(not s.read(shot).constant for s in self.subjects)

    def forget_chosen(self) -> None:
        """Keys that were chosen on another shot are not chosen on this one."""
        for editor in self.editors.values():
            editor.chosen = ()

    def show_numbers(self) -> None:
        """The rules as they stand at the playhead."""
        shot = self._chart.shot
        if shot is not None:
            now = np.array([self._chart.now])
            for name, rule in self.rules.items():
                subject = BY_NAME[name]
                rule.set_value(round(subject.per * float(subject.read(shot).at(now)[0]), 3))

    def fill_menu(self, menu: QMenu) -> None:
        """Which of its curves is edited, what is seen along with it, and the size of the row."""
        for subject in self.subjects if len(self.subjects) > 1 else ():
            edit = menu.addAction(f"Edit {subject.name}", partial(self._edit, subject.name))
            edit.setCheckable(True)
            edit.setChecked(self.strip.editor is self.editors[subject.name])
        others = self._others()
        if others:
            seen = menu.addMenu("See along with it")
            for name in others:
                action = seen.addAction(name, partial(self._see, name))
                action.setCheckable(True)
                action.setChecked(name in self.along)
        if self.subjects[0].name == "Intensity":
            shake = self._chart.shot.shake if self._chart.shot else None
            back = menu.addAction(f"Reset to {shake.preset}" if shake and shake.preset else "Reset", self._reset)
            back.setEnabled(shake is not None and origins.changed(shake))
            rows = menu.addMenu("Show the row of")
            for title, each in self._chart.curves.items():
                if each is not self:
                    action = rows.addAction(title, partial(self._chart.toggle_curve, title))
                    action.setCheckable(True)
                    action.setChecked(not each.row.isHidden())
        elif not self.keyed:
            menu.addAction("Hide this row", lambda: self._chart.show_curve(self.head.name, False))
        menu.addAction("Fill the window with this row", lambda: self._chart.open_row(self.row))

    def _reset(self) -> None:
        self._chart.reset.emit()

    def _edit(self, name: str) -> None:
        self.strip.set_editor(self.editors[name])

    def _see(self, name: str) -> None:
        self.along ^= {name}
        self.strip.refresh()

    def _others(self) -> dict[str, tuple[Curve, float, float]]:
        """Curves with keys that are not of this row, each with the range it is drawn in."""
        shot = self._chart.shot
        if shot is None:
            return {}
        out = {s.name: (s.read(shot), s.low, s.high) for s in SUBJECTS if s not in self.subjects}
        for strand in shot.shake.strands:
            out[f"{strand.name}: amount"] = (strand.amount, 0.0, 2.0)
            if isinstance(strand, Drift):
                top = max([key.value for key in strand.rate.keys] + [0.5])
                out[f"{strand.name}: rate"] = (strand.rate, 0.0, 1.6 * top)
        return {name: each for name, each in out.items() if not each[0].constant}

    def _lines(self, first: float, last: float, count: int) -> list[tuple[np.ndarray, str, float]]:
        """Heights 0…1 of the strip; the edited curve last and strong."""
        shot, t = self._chart.shot, np.linspace(first, last, count)
        if shot is None:
            return []
        lines = [
            ((curve.at(t) - low) / (high - low), "playhead", 0.9)
            for name, (curve, low, high) in self._others().items()
            if name in self.along
        ]
        for subject in sorted(self.subjects, key=lambda s: self.strip.editor is self.editors[s.name]):
            edited = self.strip.editor is self.editors[subject.name]
            height = (subject.read(shot).at(t) - subject.low) / (subject.high - subject.low)
            lines.append((height, subject.ink, 1.6 if edited else 0.9))
        return lines


def made_for(chart: Chart) -> dict[str, CurveRow]:
    """The rows by their titles, in order."""
    intensity, pace, angle, crop, *pivot, copies = SUBJECTS
    return {
        "Intensity": CurveRow(chart, "Intensity", "whole shake", (intensity,), more=(pace,)),
        "Pace": CurveRow(chart, "Pace", "how fast time runs", (pace,)),
        "Shutter": CurveRow(chart, "Shutter", "angle over time", (angle,)),
        "Crop": CurveRow(chart, "Crop", "by hand", (crop,)),
        "Pivot": CurveRow(chart, "Pivot", "of the frame", tuple(pivot)),
        "Copies": CurveRow(chart, "Copies", "afterimages", (copies,)),
    }
