"""Everything that can be done, in one list: menus, keys, the finder and the table in the README come out of it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu, QMenuBar

from young_tremor.desk import frame_marks, theme
from young_tremor.desk.transport import MODES
from young_tremor.engine import library, settings
from young_tremor.model.project import Project

if TYPE_CHECKING:
    from young_tremor.desk.window import Window

MENUS = ("Project", "Edit", "Shot", "Shake", "Picture", "Chart", "Window", "Help")
STEPS = 20  # of the history that are listed
Do = Callable[["Window"], object]


@dataclass(frozen=True)
class Command:
    """One thing that can be done.

    ``name`` never changes; ``words`` stand in its menu; ``keys`` as Qt writes them. ``open``: whether it can be done
    now; ``on``: for what is on or off, which it is. ``fill``: fills a menu of its own instead of doing something.
    """

    name: str
    menu: str
    words: str
    do: Do = lambda window: None
    keys: tuple[str, ...] = ()
    open: Callable[[Window], bool] = lambda window: True
    on: Callable[[Window], bool] | None = None
    fill: Callable[[Window, QMenu], object] | None = None


def _with_shot(window: Window) -> bool:
    return window.stage.shot is not None


def _add(window: Window, menu: QMenu) -> None:
    for kind, words in (("drift", "Drift"), ("jolts", "Jolts"), ("plotted", "Plotted"), ("shimmer", "Shimmer"),
                        ("take", "Take…")):  # fmt: skip
        menu.addAction(words, partial(window.deeds.add_strand, kind))


def _chosen(window: Window, menu: QMenu) -> None:
    row = window.chart.chosen_row
    if row is not None:
        row.fill_menu(menu)


def _rows(window: Window, menu: QMenu) -> None:
    for title, row in window.chart.curves.items():
        row.fill_menu(menu.addMenu(title))


def _overlays(window: Window, menu: QMenu) -> None:
    for name in frame_marks.OVERLAYS:
        action = menu.addAction(name, partial(window.picture.toggle_overlay, name))
        action.setCheckable(True)
        action.setChecked(name in window.picture.overlays)


def _recent(window: Window, menu: QMenu) -> None:
    for name in settings.load().recent:
        menu.addAction(Path(name).name, partial(window.files.open_path, Path(name))).setToolTip(name)


def _versions(window: Window, menu: QMenu) -> None:
    for words, path in window.files.versions():
        menu.addAction(words, partial(window.files.open_version, path))


def _history(window: Window, menu: QMenu) -> None:
    labels, now = window.session.steps
    first = max(0, now - STEPS)
    if first == 0:
        action = menu.addAction("As it was opened", partial(window.commands.go_back_to, 0))
        action.setCheckable(True)
        action.setChecked(now == 0)
    for number, label in enumerate(labels[first : now + STEPS], start=first + 1):
        action = menu.addAction(label, partial(window.commands.go_back_to, number))
        action.setCheckable(True)
        action.setChecked(number == now)


def _shots(window: Window, menu: QMenu) -> None:
    for shot in window.session.project.shots:
        action = menu.addAction(shot.name, partial(window.stage.choose, shot.id))
        action.setCheckable(True)
        action.setChecked(shot.id == window.stage.shot_id)


def _mode(name: str) -> Do:
    return lambda window: window.set_mode(name)


def _in_mode(name: str) -> Callable[[Window], bool]:
    return lambda window: window.stage.mode == name


def _go(by: int | Callable[[Window], int]) -> Do:
    return lambda window: window.stage.go(window.view.frame + (by if isinstance(by, int) else by(window)))


def _second(window: Window) -> int:
    return round(window.view.rate)


ALL: tuple[Command, ...] = (
    Command("new", "Project", "New project", lambda w: w.files.start(Project()), ("Ctrl+N",)),
    Command("open", "Project", "Open…", lambda w: w.files.ask_open(), ("Ctrl+O",)),
    Command("recent", "Project", "Open recent", fill=_recent),
    Command("demo", "Project", "Open the demo", lambda w: w.files.start(library.demo_project())),
    Command("save", "Project", "Save", lambda w: w.files.save(), ("Ctrl+S",)),
    Command("save-as", "Project", "Save as…", lambda w: w.files.save_as(), ("Ctrl+Shift+S",)),
    Command("versions", "Project", "Earlier versions", fill=_versions),
    Command("render", "Project", "Render…", lambda w: w.show_render(), ("Ctrl+R",), open=_with_shot),
    Command("quit", "Project", "Quit", lambda w: w.close(), ("Ctrl+Q",)),
    Command("undo", "Edit", "Undo", lambda w: w.commands.undo_step(), ("Ctrl+Z",)),
    Command("redo", "Edit", "Redo", lambda w: w.commands.redo_step(), ("Ctrl+Shift+Z", "Ctrl+Y")),
    Command("history", "Edit", "Steps", fill=_history),
    Command("find", "Edit", "Find a command…", lambda w: w.sheets.show_finder(), ("Ctrl+K",)),
    Command("preferences", "Edit", "Preferences…", lambda w: w.sheets.show_preferences(), ("Ctrl+,",)),
    Command("shots", "Shot", "Choose", fill=_shots),
    Command("shot-back", "Shot", "Shot before", lambda w: w.stage.choose_beside(-1), ("Ctrl+PgUp",), open=_with_shot),
    Command("shot-on", "Shot", "Shot after", lambda w: w.stage.choose_beside(1), ("Ctrl+PgDown",), open=_with_shot),
    Command("measure-own", "Shot", "Add its own shake once more", lambda w: w.take_deeds.measure_own(),
            open=_with_shot),
    Command("remove-shot", "Shot", "Remove from the reel", lambda w: w.deeds.remove_shot(), open=_with_shot),
    Command("presets", "Shake", "Presets…", lambda w: w.deeds.show_presets(), ("P",), open=_with_shot),
    Command("takes", "Shake", "Takes…", lambda w: w.take_deeds.show(), ("T",)),
    Command("measure", "Shake", "Measure a clip…", lambda w: w.take_deeds.ask_clip()),
    Command("add", "Shake", "Add a strand", fill=_add),
    Command("chosen", "Shake", "Chosen strand", open=lambda w: w.chart.chosen_row is not None, fill=_chosen),
    Command("hit", "Shake", "Hit at the playhead", lambda w: w.deeds.hit(), ("H",), open=_with_shot),
    Command("hits-sound", "Shake", "Find hits in the sound", lambda w: w.deeds.find_hits("sound"), ("Shift+H",),
            open=_with_shot),
    Command("hits-picture", "Shake", "Find hits in the picture", lambda w: w.deeds.find_hits("picture"),
            open=_with_shot),
    Command("hits", "Shake", "Hits", open=_with_shot, fill=lambda w, menu: w.chart.hits.fill_menu("", menu)),
    Command("reset", "Shake", "Reset to its preset", lambda w: w.deeds.reset_shake(), open=_with_shot),
    Command("keep", "Shake", "Save as preset…", lambda w: w.deeds.show_presets(), open=_with_shot),
    *(Command(name, "Picture", words, _mode(name), (str(number),), open=_with_shot, on=_in_mode(name))
      for number, (name, words, _) in enumerate(MODES, start=1)),
    Command("overlays", "Picture", "Draw over it", fill=_overlays),
    Command("figures", "Picture", "Figures beside it", lambda w: w.toggle_figures(), ("G",),
            on=lambda w: not w.figures.isHidden()),
    Command("full", "Picture", "Fill the screen", lambda w: w.toggle_full(), ("F11",), on=lambda w: w.isFullScreen()),
    Command("play", "Chart", "Play or stop", lambda w: w.commands.play(), ("Space",), open=_with_shot),
    Command("back", "Chart", "One frame back", _go(-1), ("Left",), open=_with_shot),
    Command("on", "Chart", "One frame on", _go(1), ("Right",), open=_with_shot),
    Command("second-back", "Chart", "One second back", _go(lambda w: -_second(w)), ("Shift+Left",), open=_with_shot),
    Command("second-on", "Chart", "One second on", _go(_second), ("Shift+Right",), open=_with_shot),
    Command("first", "Chart", "First frame", lambda w: w.stage.go(0), ("Home",), open=_with_shot),
    Command("last", "Chart", "Last frame", lambda w: w.stage.go(w.view.frames - 1), ("End",), open=_with_shot),
    Command("mark-in", "Chart", "Mark from here", lambda w: w.commands.mark(start=True), ("I",), open=_with_shot),
    Command("mark-out", "Chart", "Mark to here", lambda w: w.commands.mark(start=False), ("O",), open=_with_shot),
    Command("unmark", "Chart", "No marks", lambda w: w.set_marks(None), ("X",), open=lambda w: bool(w.view.marks)),
    Command("fit", "Chart", "Show the whole shot", lambda w: w.view.fit(), ("F",)),
    Command("fit-keys", "Chart", "Fit to the keys", lambda w: w.chart.fit_keys(), ("Shift+F",)),
    Command("fill-row", "Chart", "Fill the window with the chosen row", lambda w: w.chart.fill_with_chosen(), ("E",),
            on=lambda w: w.chart.filled),
    Command("rows", "Chart", "Rows", open=_with_shot, fill=_rows),
    Command("night", "Window", "Night paper", lambda w: w.sheets.toggle_night(), ("Ctrl+T",),
            on=lambda w: theme.paper.night),
    Command("menus", "Window", "Menus", lambda w: w.sheets.toggle_menus(), ("Ctrl+M",),
            on=lambda w: w.header.menus.isVisibleTo(w.header)),
    Command("menu", "Window", "Go to the menus", lambda w: w.sheets.open_menus(), ("F10",)),
    Command("escape", "Window", "Close what lies over it", lambda w: w.escape(), ("Esc",)),
    Command("keys", "Help", "Keys and commands", lambda w: w.sheets.show_finder(), ("?", "F1")),
    Command("log", "Help", "Where errors are kept", lambda w: w.deeds.tell_log()),
)  # fmt: skip


class Commands:
    """The commands bound to a window: its menu bar, its keys, and all of them as a flat list."""

    def __init__(self, window: Window, bar: QMenuBar) -> None:
        self._window = window
        self._actions: dict[str, QAction] = {}
        self._listed: list[QMenu] = []  # what the finder shows, until it is asked again
        for command in ALL:
            if command.fill is None:
                self._actions[command.name] = self._action(command)
        for title in MENUS:
            menu = bar.addMenu(title)
            menu.setToolTipsVisible(True)
            menu.aboutToShow.connect(partial(self._fill, title, menu))
            menu.aboutToHide.connect(self._open_all)

    def _action(self, command: Command) -> QAction:
        action = QAction(command.words, self._window)
        action.setShortcuts([QKeySequence(key) for key in command.keys])
        action.setCheckable(command.on is not None)
        action.triggered.connect(lambda: command.do(self._window))
        self._window.addAction(action)
        return action

    def action(self, name: str) -> QAction:
        """The action of a command."""
        return self._actions[name]

    def _fill(self, title: str, menu: QMenu) -> None:
        """The menu as it is now."""
        menu.clear()
        for command in (each for each in ALL if each.menu == title):
            is_open = command.open(self._window)
            if command.fill is None:
                action = self._actions[command.name]
                action.setEnabled(is_open)
                if command.on is not None:
                    action.setChecked(command.on(self._window))
                menu.addAction(action)
                continue
            under = menu.addMenu(command.words)
            under.setToolTipsVisible(True)
            if is_open:
                command.fill(self._window, under)
            under.setEnabled(not under.isEmpty())
        self.show_undo()

    def _open_all(self) -> None:
        """Keys work without a menu having been looked at since."""
        for name, action in self._actions.items():
            if name not in ("undo", "redo"):
                action.setEnabled(True)

    def found(self) -> Iterator[tuple[str, QAction]]:
        """Everything that can be done now, with the way to it through the menus."""
        for menu in self._listed:
            menu.deleteLater()
        self._listed = [QMenu(self._window) for _ in MENUS]
        for title, menu in zip(MENUS, self._listed, strict=True):
            self._fill(title, menu)
            yield from _flat(title, menu)
        self._open_all()

    def show_undo(self) -> None:
        """Say what can be undone and redone."""
        session = self._window.session
        for name, word, label in (("undo", "Undo", session.undo_label), ("redo", "Redo", session.redo_label)):
            self._actions[name].setText(f"{word}: {label}" if label else word)
            self._actions[name].setEnabled(label is not None)

    # what some of them do

    def play(self) -> None:
        if self._window.picture.isVisible():  # a clip that is being measured has its place otherwise
            self._window.stage.toggle_play()

    def undo_step(self) -> None:
        label = self._window.session.undo()
        self._window.notice.say(f"Undone: {label}" if label else "Nothing to undo.")

    def redo_step(self) -> None:
        label = self._window.session.redo()
        self._window.notice.say(f"Redone: {label}" if label else "Nothing to redo.")

    def go_back_to(self, number: int) -> None:
        """Undo or redo until so many steps are done."""
        session = self._window.session
        while session.steps[1] > number and session.undo() is not None:
            pass
        while session.steps[1] < number and session.redo() is not None:
            pass

    def mark(self, *, start: bool) -> None:
        view = self._window.view
        first, last = view.marks or (0, max(view.frames - 1, 0))
        frame = view.frame
        self._window.set_marks((frame, max(last, frame)) if start else (min(first, frame), frame))


def _flat(way: str, menu: QMenu) -> Iterator[tuple[str, QAction]]:
    for action in menu.actions():
        under = action.menu()
        if isinstance(under, QMenu):
            yield from _flat(f"{way} › {action.text()}", under)
        elif not action.isSeparator() and action.isEnabled():
            yield way, action
