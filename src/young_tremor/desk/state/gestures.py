"""A drag is one step: between a rule and the document."""

from __future__ import annotations

from collections.abc import Callable

from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.engine.document.session import Session
from young_tremor.model.shot_edits import Edit


def bind(rule: NumberField, session: Session, label: str, edit: Callable[[float], Edit]) -> None:
    """Let a rule change the document: ``edit(value)`` is an edit, a whole drag is one step called ``label``."""
    label = tr(label)
    rule.began.connect(lambda: session.begin_gesture(label))
    rule.changed.connect(lambda value: session.apply(label, edit(value)))
    rule.ended.connect(session.end_gesture)
    rule.taken_back.connect(session.drop_gesture)
    rule.taken_back.connect(session.end_gesture)
