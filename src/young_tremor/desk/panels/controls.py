"""Controls made from the descriptions of fields: labelled, limited, bound to the document, and shown as it is."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

import numpy as np
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLabel, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.document.session import Session
from young_tremor.model import fields
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.shot_edits import Edit

Changes = dict[str, Any]

FIELD = "field"  # property of a control: the path of what it shows


class Controls:
    """The controls of one struct of the document, put into a column in the order in which they are asked for.

    ``edit(**changes)`` makes the edit that changes fields of the struct; ``step`` is what Undo calls it, if not by the
    label of the field. A control is named by the dotted path of its
    field, ``"wander.depth"``; :meth:`show` gives all of them the values of a struct at a moment.
    """

    def __init__(self, kind: type, session: Session, column: Column, edit: Callable[..., Edit], step: str = "") -> None:
        self.kind, self._session, self._column, self._edit, self._step = kind, session, column, edit, step
        self.value: Any = None
        self.now = 0.0
        self.numbers: dict[str, NumberField] = {}
        self.switches: dict[str, QCheckBox] = {}
        self.choices: dict[str, QComboBox] = {}
        self._empty: dict[str, float] = {}
        self.widgets: list[QWidget] = []

    def number(
        self,
        path: str,
        *,
        label: str = "",
        tip: str = "",
        ink: str | None = None,
        empty: float | None = None,
        changes: Callable[[float], Changes] | None = None,
    ) -> NumberField:
        """The number at a path. ``empty``: the number that stands for a field that is not set. ``changes``: what
        changes with it, where that is more than the field itself."""
        field = fields.number_at(self.kind, path)
        default = fields.default_at(self.kind, path)
        usual = default.value if isinstance(default, Curve) else default
        usual = empty if usual is None and empty is not None else (usual or 0.0) * field.per
        control = NumberField(label or field.label, field.shown_as, value=usual, tip=tip or field.tip, ink=ink)
        act = changes or (lambda value: self.changes(path, value))
        bind(
            control,
            self._session,
            self._step or field.label,
            lambda v: self._edit(**act(v)) if self.value else _nothing,
        )
        if empty is not None:
            self._empty[path] = empty
        self.numbers[path] = control
        control.setProperty(FIELD, path)
        control.meaning = field.document_unit
        self._add(control)
        return control

    def changes(self, path: str, shown: float) -> Changes:
        """What changes in the struct when the number at a path is set to ``shown``, in the unit of its control."""
        field, old = fields.number_at(self.kind, path), fields.value_at(self.value, path)
        new: Any = shown / field.per
        if path in self._empty and shown == self._empty[path]:
            new = None
        elif isinstance(old, Curve):
            new = with_value_at(old, self.now, new)
        elif isinstance(old, int):
            new = round(new)
        return self._changed(path, new)

    def switch(self, path: str, changes: Callable[[bool], Changes] | None = None) -> QCheckBox:
        """The switch at a path."""
        field = fields.field_at(self.kind, path)
        box = self.switches[path] = QCheckBox(tr(field.label))
        box.setToolTip(tr(field.tip))
        box.setProperty(FIELD, path)
        box.clicked.connect(lambda on: self.apply(field.label, **(changes(on) if changes else self._changed(path, on))))
        self._add(box)
        return box

    def choice(self, path: str) -> QComboBox:
        """The choice at a path, its label before it."""
        field = fields.field_at(self.kind, path)
        assert isinstance(field, fields.Choice)
        box = self.choices[path] = QComboBox()
        box.setAccessibleName(tr(field.label))
        box.setToolTip(tr(field.tip))
        box.setProperty(FIELD, path)
        box.setMinimumContentsLength(8)
        box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        for key, words in field.options:
            box.addItem(tr(words), key)
        box.activated.connect(lambda at: self.apply(field.label, **self._changed(path, box.itemData(at))))
        self._add(labelled_line(field.label, box))
        return box

    def _add(self, widget: QWidget) -> None:
        self.widgets.append(widget)
        self._column.rows.addWidget(widget)

    def add_rest(self, *, but: Iterable[str] = ()) -> None:
        """Add a control for every field of the struct that has none yet and is not one of ``but``."""
        done = {path.partition(".")[0] for path in (*self.numbers, *self.switches, *self.choices)} | set(but)
        for name, field in fields.fields(self.kind).items():
            if name in done:
                continue
            if isinstance(field, fields.Number) and field.scale is not None:
                self.number(name)
            elif isinstance(field, fields.Switch):
                self.switch(name)
            elif isinstance(field, fields.Choice):
                self.choice(name)

    def apply(self, label: str, **changes: Any) -> None:
        """Change fields of the struct in one step."""
        if self.value is not None:
            self._session.apply(tr(label), self._edit(**changes))

    def show(self, value: Any, now: float = 0.0) -> None:
        """Show the fields of a struct as they are at ``now`` seconds."""
        self.value, self.now = value, now
        for path, control in self.numbers.items():
            held = fields.value_at(value, path)
            if held is None:
                held = self._empty.get(path)
            if held is not None:
                plain = float(held.at(np.array([now]))[0]) if isinstance(held, Curve) else float(held)
                control.set_value(round(plain * fields.number_at(self.kind, path).per, 4))
        for path, box in self.switches.items():
            box.setChecked(bool(fields.value_at(value, path)))
        for path, choices in self.choices.items():
            choices.setCurrentIndex(choices.findData(fields.value_at(value, path)))

    def _changed(self, path: str, new: Any) -> Changes:
        top = path.partition(".")[0]
        return {top: getattr(fields.with_value(self.value, path, new), top)}


def side_by_side(*fields: QWidget) -> QHBoxLayout:
    """Controls that share a line, each with as much of it."""
    line = QHBoxLayout()
    line.setSpacing(16)
    for field in fields:
        line.addWidget(field, 1)
    return line


def labelled_line(words: str, widget: QWidget) -> QWidget:
    """A widget in a line of its own, with words before it."""
    line = QWidget()
    row = QHBoxLayout(line)
    row.setContentsMargins(0, 0, 0, 0)
    label = QLabel(tr(words))
    label.setStyleSheet(f"color: {theme.DIM};")
    row.addWidget(label)
    row.addSpacing(8)
    row.addWidget(widget, 1)
    return line


def _nothing(project: Any) -> Any:
    return project
