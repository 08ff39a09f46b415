"""The open document: what it is, how it changes, where it is kept."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from young_tremor.base.errors import RequestError
from young_tremor.base.signal import Signal
from young_tremor.document import store
from young_tremor.engine.document.history import History, Step
from young_tremor.model.project import Project
from young_tremor.model.shot_edits import Edit


class Session:
    """One project being worked on. For one thread (the desk's); the project itself may go anywhere."""

    def __init__(self, project: Project | None = None, path: Path | None = None) -> None:
        self.project = project or Project()
        self.path = path
        self.generation = 0  # of documents worked on: what was asked for one is not for the next
        self.changed = Signal()  # (old project, new project)
        self.replaced = Signal()  # () another document altogether
        self.saved_changed = Signal()  # ()
        self.stepped = Signal()  # (project before, project after): a step that can be undone was done
        self._saved = self.project
        self._known = store.on_disk(path) if path is not None else None
        self._history = History()
        self._gesture: tuple[str, Project] | None = None
        self._dropped = False  # a gesture that was taken back is not at its end yet
        self.propagate: Callable[[Project, Project], Project] | None = None  # what else a change is to do

    def apply(self, label: str, edit: Edit) -> None:
        """Change the project. Inside a gesture the changes become one step under the gesture's label."""
        if self._dropped:
            return
        before = self.project
        after = edit(before)
        if after == before:
            return
        if self.propagate is not None:
            after = self.propagate(before, after)
        self.project = after
        if self._gesture is None:
            self._history.push(Step(label, before, after))
        self.changed.emit(before, after)
        if self._gesture is None:
            self.stepped.emit(before, after)

    def begin_gesture(self, label: str) -> None:
        """From now on changes belong to one step, until :meth:`end_gesture`."""
        self._dropped = False
        if self._gesture is None:
            self._gesture = (label, self.project)

    @property
    def in_gesture(self) -> bool:
        """Whether one is under way, taken back ones too."""
        return self._gesture is not None or self._dropped

    def drop_gesture(self) -> None:
        """Take back all that a gesture did; what it still asks for until it ends is not done."""
        if self._gesture is None:
            return
        (_, before), self._gesture, self._dropped = self._gesture, None, True
        if self.project != before:
            after, self.project = self.project, before
            self.changed.emit(after, before)

    def end_gesture(self) -> None:
        """End the drag: it is one step."""
        self._dropped = False
        if self._gesture is None:
            return
        label, before = self._gesture
        self._gesture = None
        if self.project != before:
            self._history.push(Step(label, before, self.project))
            self.changed.emit(self.project, self.project)
            self.stepped.emit(before, self.project)

    @contextmanager
    def gesture(self, label: str) -> Iterator[None]:
        """One step for all that happens inside."""
        self.begin_gesture(label)
        try:
            yield
        finally:
            self.end_gesture()

    def undo(self) -> str | None:
        """Take back the last step; its label."""
        self.end_gesture()
        step = self._history.back()
        return self._go(step.before, step.label) if step else None

    def redo(self) -> str | None:
        """Do the last undone step again; its label. A drag under way becomes a step, after which there is nothing."""
        self.end_gesture()
        step = self._history.forth()
        return self._go(step.after, step.label) if step else None

    def _go(self, project: Project, label: str) -> str:
        before, self.project = self.project, project
        self.changed.emit(before, project)
        return label

    @property
    def undo_label(self) -> str | None:
        """What would be undone; None if nothing."""
        return self._gesture[0] if self._gesture else self._history.undo_label

    @property
    def redo_label(self) -> str | None:
        """What would be redone; None if nothing."""
        return self._history.redo_label

    @property
    def steps(self) -> tuple[tuple[str, ...], int]:
        """The labels of all steps, also those that were undone, and how many are done."""
        return self._history.labels

    def recover(self, project: Project) -> None:
        """Work on a project that was kept but never saved: it has no file yet."""
        self.start(project)
        self._saved = Project()

    @property
    def dirty(self) -> bool:
        """Whether there is something that is not on disk."""
        return self.project != self._saved

    def load(self, path: Path) -> None:
        """Open a project file; on any error the open project stays as it is."""
        known = store.on_disk(path)
        self.start(store.load(path), path)
        self._known = known

    def start(self, project: Project, path: Path | None = None) -> None:
        """Work on another project from now on."""
        self.project, self.path = project, path
        self.generation += 1
        self._known = None
        self._saved, self._history, self._gesture, self._dropped = project, History(), None, False
        self.replaced.emit()

    @property
    def changed_on_disk(self) -> bool:
        """Whether somebody else has changed or removed the project's file since it was read or written."""
        return self.path is not None and self._known is not None and store.on_disk(self.path) != self._known

    def save(self, path: Path | None = None, *, force: bool = False) -> None:
        """Write the project, under a new name if one is given.

        A file that was changed by someone else (ChangedOnDisk) or is write-protected is left alone unless ``force``.
        """
        target = path or self.path
        if target is None:
            raise RequestError("The project has no name yet: choose one.")
        known = self._known if target == self.path else None
        self._known = store.save(self.project, target, known=known, force=force)
        self.path, self._saved = target, self.project
        self.saved_changed.emit()
