"""Undo and redo as a list of (label, before, after): the document is a value, so that is all it takes."""

from __future__ import annotations

from dataclasses import dataclass

from young_tremor.model.project import Project

LIMIT = 500


@dataclass(frozen=True)
class Step:
    """A label, and the project before and after."""

    label: str
    before: Project
    after: Project


class History:
    """Steps done and undone."""

    def __init__(self) -> None:
        self._done: list[Step] = []
        self._undone: list[Step] = []

    def push(self, step: Step) -> None:
        """Add a step; what could be redone is gone."""
        self._done.append(step)
        del self._done[:-LIMIT]
        self._undone.clear()

    def back(self) -> Step | None:
        """Take the last step back; None if there is none."""
        if not self._done:
            return None
        self._undone.append(self._done.pop())
        return self._undone[-1]

    def forth(self) -> Step | None:
        """Redo the next step; None where there is none."""
        if not self._undone:
            return None
        self._done.append(self._undone.pop())
        return self._done[-1]

    @property
    def labels(self) -> tuple[tuple[str, ...], int]:
        """Of all steps, the undone ones too, in order; and how many are done."""
        steps = [*self._done, *reversed(self._undone)]
        return tuple(step.label for step in steps), len(self._done)

    @property
    def undo_label(self) -> str | None:
        """What would be undone; None if nothing."""
        return self._done[-1].label if self._done else None

    @property
    def redo_label(self) -> str | None:
        """What would be redone; None if nothing."""
        return self._undone[-1].label if self._undone else None
