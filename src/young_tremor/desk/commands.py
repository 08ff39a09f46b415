"""What keys and the project's menu do."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence, QShortcut
from PySide6.QtWidgets import QMenu

from young_tremor.desk import theme
from young_tremor.desk.transport import MODES
from young_tremor.engine import library
from young_tremor.model.project import Project

if TYPE_CHECKING:
    from young_tremor.desk.window import Window


class Commands:
    """The window's keys and actions."""

    def __init__(self, window: Window) -> None:
        self._window = window
        stage, view, chart, deeds = window.stage, window.view, window.chart, window.deeds
        keys: dict[str, Callable[[], object]] = {
            "Space": self._play,
            "Left": lambda: stage.go(view.frame - 1),
            "Right": lambda: stage.go(view.frame + 1),
            "Shift+Left": lambda: stage.go(view.frame - round(view.rate)),
            "Shift+Right": lambda: stage.go(view.frame + round(view.rate)),
            "Home": lambda: stage.go(0),
            "End": lambda: stage.go(view.frames - 1),
            "I": lambda: self._mark(start=True),
            "O": lambda: self._mark(start=False),
            "X": lambda: window.set_marks(None),
            "F": view.fit,
            "Shift+F": chart.fit_keys,
            "H": deeds.hit,
            "E": chart.fill_with_chosen,
            "G": window.toggle_figures,
            "Shift+H": lambda: deeds.find_hits("sound"),
            "P": deeds.show_presets,
            "T": lambda: window.take_deeds.show(),
            "F10": self.show_menu,
            "F11": window.toggle_full,
            "Esc": window.escape,
        }
        for number, (mode, _, _) in enumerate(MODES, start=1):
            keys[str(number)] = lambda m=mode: window.set_mode(m)  # type: ignore[misc]
        for key, act in keys.items():
            QShortcut(QKeySequence(key), window, act)
        self.undo = self._action("Undo", "Ctrl+Z", self._undo)
        self.redo = self._action("Redo", "Ctrl+Shift+Z", self._redo)
        files = window.files
        self._menu = [
            self._action("Open…", "Ctrl+O", files.ask_open),
            self._action("Open the demo", "", lambda: files.start(library.demo_project())),
            self._action("New project", "Ctrl+N", lambda: files.start(Project())),
            self._action("Save", "Ctrl+S", files.save),
            self._action("Save as…", "Ctrl+Shift+S", files.save_as),
            None,
            self.undo,
            self.redo,
            None,
            self._action("Render…", "Ctrl+R", window.show_render),
            self._action("Figures beside the picture (G)", "", window.toggle_figures),
            self._action("Night paper", "Ctrl+T", lambda: theme.paper.set_night(not theme.paper.night)),
            self._action("Fill the screen with the picture (F11)", "", window.toggle_full),
            None,
            self._action("Quit", "Ctrl+Q", window.close),
        ]

    def _action(self, words: str, key: str, act: Callable[[], object]) -> QAction:
        action = QAction(words, self._window)
        if key:
            action.setShortcut(QKeySequence(key))
        action.triggered.connect(lambda: act())
        self._window.addAction(action)
        return action

    def show_menu(self) -> None:
        """Open the project's menu."""
        button = self._window.header.project
        menu = QMenu(self._window)
        for action in self._menu:
            if action is None:
                menu.addSeparator()
            else:
                menu.addAction(action)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(button.mapToGlobal(button.rect().bottomLeft()))

    def show_undo(self) -> None:
        """Say what can be undone and redone."""
        session = self._window.session
        for action, word, label in ((self.undo, "Undo", session.undo_label), (self.redo, "Redo", session.redo_label)):
            action.setText(f"{word}: {label}" if label else word)
            action.setEnabled(label is not None)

    def _play(self) -> None:
        if self._window.picture.isVisible():  # a clip that is being measured has its place otherwise
            self._window.stage.toggle_play()

    def _undo(self) -> None:
        label = self._window.session.undo()
        self._window.notice.say(f"Undone: {label}" if label else "Nothing to undo.")

    def _redo(self) -> None:
        label = self._window.session.redo()
        self._window.notice.say(f"Redone: {label}" if label else "Nothing to redo.")

    def _mark(self, *, start: bool) -> None:
        view = self._window.view
        first, last = view.marks or (0, max(view.frames - 1, 0))
        frame = view.frame
        self._window.set_marks((frame, max(last, frame)) if start else (min(first, frame), frame))
