"""What a screen reader is told of our own widgets: role, name, value in words."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

import shiboken6
from PySide6.QtCore import QObject
from PySide6.QtGui import QAccessible, QAccessibleInterface
from PySide6.QtWidgets import QAccessibleWidget, QWidget

Value = Callable[[Any], str]


class _AccessibleWidget(QAccessibleWidget):
    """A widget with a role of its own and a value in words."""

    def __init__(self, widget: QWidget, role: QAccessible.Role, value: Value) -> None:
        super().__init__(widget, role, widget.accessibleName())
        self._of, self._value = widget, value

    def text(self, kind: QAccessible.Text) -> str:  # the value in words, the rest as Qt tells it
        if kind == QAccessible.Text.Value and shiboken6.isValid(self._of):
            return self._value(self._of)
        return super().text(kind)


_roles: dict[type, tuple[QAccessible.Role, Value]] = {}
_kept: dict[int, _AccessibleWidget] = {}
_installed = False


def tell(kind: type[QWidget], role: QAccessible.Role, value: Value) -> None:
    """Say what widgets of a class are, and what their value is in words."""
    global _installed
    _roles[kind] = role, value
    if not _installed:
        _installed = True
        QAccessible.installFactory(_make_interface)


def _make_interface(name: str, of: QObject) -> QAccessibleInterface | None:
    for kind, (role, value) in _roles.items():
        if isinstance(of, kind) and isinstance(of, QWidget):
            if id(of) not in _kept:
                _kept[id(of)] = _AccessibleWidget(of, role, value)
                of.destroyed.connect(partial(_kept.pop, id(of), None))
            return _kept[id(of)]
    return None
