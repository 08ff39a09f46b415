"""Everything that can be done, in one list: menus, keys, the finder and the manual's table come out of it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QMenu

from young_tremor.desk.chart.strand_row_specs import menu_entries
from young_tremor.desk.commands.registry import Command
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.picture import frame_marks
from young_tremor.desk.picture.transport import MODES
from young_tremor.desk.window.actions import Actions
from young_tremor.engine.library import preset_library, settings
from young_tremor.model.project import Project

MENUS = ("Project", "Edit", "Shot", "Shake", "Picture", "Chart", "Window", "Help")
STEPS = 20  # of the history that are listed
Do = Callable[[Actions], object]


def _with_shot(actions: Actions) -> bool:
    return actions.desk.state.shot is not None


def _add(actions: Actions, menu: QMenu) -> None:
    for word, label in menu_entries():
        menu.addAction(label, partial(actions.shake.add_strand, word))


def _fill_selection_menu(actions: Actions, menu: QMenu) -> None:
    row = actions.desk.chart.chosen_row
    if row is not None:
        row.fill_menu(menu)


def _rows(actions: Actions, menu: QMenu) -> None:
    for title, row in actions.desk.chart.curves.items():
        row.fill_menu(menu.addMenu(tr(title)))


def _overlays(actions: Actions, menu: QMenu) -> None:
    actions.desk.picture.fill_overlays(menu, skip=(frame_marks.LENS,))  # it is a command of its own


def _recent(actions: Actions, menu: QMenu) -> None:
    for name in settings.load().recent:
        menu.addAction(Path(name).name, partial(actions.files.open_path, Path(name))).setToolTip(name)


def _versions(actions: Actions, menu: QMenu) -> None:
    for words, path in actions.files.versions():
        menu.addAction(words, partial(actions.files.open_version, path))


def _history(actions: Actions, menu: QMenu) -> None:
    labels, now = actions.desk.session.steps
    first = max(0, now - STEPS)
    if first == 0:
        action = menu.addAction(tr("As it was opened"), partial(actions.go_back_to, 0))
        action.setCheckable(True)
        action.setChecked(now == 0)
    for number, label in enumerate(labels[first : now + STEPS], start=first + 1):
        action = menu.addAction(label, partial(actions.go_back_to, number))
        action.setCheckable(True)
        action.setChecked(number == now)


def _shots(actions: Actions, menu: QMenu) -> None:
    for shot in actions.desk.session.project.shots:
        action = menu.addAction(shot.name, partial(actions.desk.state.choose_shot, shot.id))
        action.setCheckable(True)
        action.setChecked(shot.id == actions.desk.state.now.shot)


def _mode(name: str) -> Do:
    return lambda actions: actions.desk.state.choose(mode=name)


def _in_mode(name: str) -> Callable[[Actions], bool]:
    return lambda actions: actions.desk.state.now.mode == name


def _go(by: int) -> Do:
    return lambda actions: actions.go(by)


def _second(actions: Actions) -> int:
    return round(actions.desk.view.rate)


def _step(word: str, label: str | None) -> str:
    return f"{tr(word)}: {label}" if label else tr(word)


COMMANDS: tuple[Command, ...] = (
    Command("new", "Project", "New project", lambda w: w.files.start(Project()), ("Ctrl+N",)),
    Command("open", "Project", "Open…", lambda w: w.files.ask_open(), ("Ctrl+O",)),
    Command("recent", "Project", "Open recent", fill=_recent),
    Command("demo", "Project", "Open the demo", lambda w: w.files.start(preset_library.demo_project())),
    Command("save", "Project", "Save", lambda w: w.files.save(), ("Ctrl+S",)),
    Command("save-as", "Project", "Save as…", lambda w: w.files.save_as(), ("Ctrl+Shift+S",)),
    Command("versions", "Project", "Earlier versions", fill=_versions),
    Command("find-footage", "Project", "Find missing footage…", lambda w: w.footage.ask_find(), open=_with_shot),
    Command("gather", "Project", "Gather into a folder…", lambda w: w.footage.ask_gather(), open=_with_shot),
    Command("render", "Project", "Render…", lambda w: w.show_render(), ("Ctrl+R",), open=_with_shot),
    Command("quit", "Project", "Quit", lambda w: w.desk.window.close(), ("Ctrl+Q",)),
    Command(
        "undo",
        "Edit",
        "Undo",
        lambda w: w.undo_step(),
        ("Ctrl+Z",),
        open=lambda w: w.desk.session.undo_label is not None,
        says=lambda w: _step("Undo", w.desk.session.undo_label),
    ),
    Command(
        "redo",
        "Edit",
        "Redo",
        lambda w: w.redo_step(),
        ("Ctrl+Shift+Z", "Ctrl+Y"),
        open=lambda w: w.desk.session.redo_label is not None,
        says=lambda w: _step("Redo", w.desk.session.redo_label),
    ),
    Command(
        "delete",
        "Edit",
        "Delete",
        lambda w: w.deletion.delete(),
        ("Del", "Backspace"),
        says=lambda w: w.deletion.words(),
    ),
    Command("history", "Edit", "Steps", fill=_history),
    Command("find", "Edit", "Find a command…", lambda w: w.overlays.show_finder(), ("Ctrl+K",)),
    Command("preferences", "Edit", "Preferences…", lambda w: w.overlays.show_preferences(), ("Ctrl+,",)),
    Command("shots", "Shot", "Choose", fill=_shots),
    Command(
        "shot-back",
        "Shot",
        "Shot before",
        lambda w: w.desk.stage.choose_beside(-1),
        ("Ctrl+PgUp",),
        open=_with_shot,
    ),
    Command(
        "shot-on", "Shot", "Shot after", lambda w: w.desk.stage.choose_beside(1), ("Ctrl+PgDown",), open=_with_shot
    ),
    Command("title", "Shot", "Add a title", lambda w: w.shake.add_plate("title"), ("Shift+T",)),
    Command("fill", "Shot", "Add a fill", lambda w: w.shake.add_plate("fill")),
    Command("lay", "Shot", "Lay a graphic over it…", lambda w: w.shake.ask_graphic(glass=False), open=_with_shot),
    Command("lay-glass", "Shot", "Lay one on the glass…", lambda w: w.shake.ask_graphic(glass=True), open=_with_shot),
    Command("replace", "Shot", "Replace footage…", lambda w: w.footage.ask_replace(), open=_with_shot),
    Command("measure-own", "Shot", "Exaggerate its own shake", lambda w: w.takes.measure_own(), open=_with_shot),
    Command("rename", "Shot", "Rename", lambda w: w.reel.rename(), ("F2",), open=_with_shot),
    Command("split-shot", "Shot", "Split at the playhead", lambda w: w.reel.split(), ("S",), open=_with_shot),
    Command("duplicate", "Shot", "Duplicate", lambda w: w.reel.duplicate(), ("Ctrl+D",), open=_with_shot),
    Command("shot-earlier", "Shot", "Move earlier", lambda w: w.reel.move(-1), ("Alt+Left",), open=_with_shot),
    Command("shot-later", "Shot", "Move later", lambda w: w.reel.move(1), ("Alt+Right",), open=_with_shot),
    Command("copy", "Shot", "Copy shake", lambda w: w.reel.copy(), ("Ctrl+C",), open=_with_shot),
    Command("paste", "Shot", "Paste shake", lambda w: w.reel.paste(), ("Ctrl+V",), open=_with_shot),
    Command("along", "Shot", "What goes along", fill=lambda w, menu: w.reel.fill_along(menu)),
    Command("all-shots", "Shot", "Choose all", lambda w: w.reel.choose_all(), ("Ctrl+A",), open=_with_shot),
    Command("span", "Shot", "Span over the chosen", lambda w: w.reel.add_span(), ("Ctrl+Shift+N",), open=_with_shot),
    Command("remove-shot", "Shot", "Remove from the reel", lambda w: w.reel.remove(), open=_with_shot),
    Command("presets", "Shake", "Presets…", lambda w: w.shake.show_presets(), ("P",), open=_with_shot),
    Command("takes", "Shake", "Takes…", lambda w: w.takes.show(), ("T",)),
    Command("measure", "Shake", "Measure a clip…", lambda w: w.takes.ask_clip()),
    Command("add", "Shake", "Add a strand", fill=_add),
    Command(
        "add-sound",
        "Shake",
        "Add sound to this shake",
        lambda w: w.sound.add("with"),
        ("Shift+S",),
        open=_with_shot,
    ),
    Command("sounds", "Shake", "Add a sound", open=_with_shot, fill=lambda w, menu: w.desk.chart.fill_sounds(menu)),
    Command(
        "chosen",
        "Shake",
        "Chosen strand",
        open=lambda w: w.desk.chart.chosen_row is not None,
        fill=_fill_selection_menu,
    ),
    Command("hit", "Shake", "Hit at the playhead", lambda w: w.shake.hit(), ("H",), open=_with_shot),
    Command(
        "hits-sound",
        "Shake",
        "Find hits in the sound",
        lambda w: w.shake.find_hits("sound"),
        ("Shift+H",),
        open=_with_shot,
    ),
    Command(
        "hits-picture", "Shake", "Find hits in the picture", lambda w: w.shake.find_hits("picture"), open=_with_shot
    ),
    Command("hits", "Shake", "Hits", open=_with_shot, fill=lambda w, menu: w.desk.chart.hits.fill_menu("", menu)),
    Command(
        "variants", "Shake", "Variants", open=_with_shot, fill=lambda w, menu: w.desk.chart.letters.fill_menu(menu)
    ),
    Command("reset", "Shake", "Reset to its preset", lambda w: w.shake.reset_shake(), open=_with_shot),
    Command("keep", "Shake", "Save as preset…", lambda w: w.shake.show_presets(), open=_with_shot),
    *(
        Command(name, "Picture", words, _mode(name), (str(number),), open=_with_shot, on=_in_mode(name))
        for number, (name, words, _) in enumerate(MODES, start=1)
    ),
    Command("overlays", "Picture", "Draw over it", fill=_overlays),
    Command("closer", "Picture", "Look closer", lambda w: w.desk.picture.zoom(2), ("+", "="), open=_with_shot),
    Command("farther", "Picture", "Look from farther", lambda w: w.desk.picture.zoom(0.5), ("-",), open=_with_shot),
    Command("whole", "Picture", "As large as fits", lambda w: w.desk.picture.zoom_to(0), ("Ctrl+0",), open=_with_shot),
    Command(
        "pixels",
        "Picture",
        "Pixel for pixel (100 %)",
        lambda w: w.desk.picture.zoom_to(1),
        ("Ctrl+1",),
        open=_with_shot,
    ),
    Command(
        "magnifier",
        "Picture",
        "Magnifier",
        lambda w: w.desk.picture.toggle_overlay(frame_marks.LENS),
        ("Z",),
        on=lambda w: frame_marks.LENS in w.desk.state.now.overlays,
    ),
    Command(
        "figures",
        "Picture",
        "Figures beside it",
        lambda w: w.desk.toggle_figures(),
        ("G",),
        on=lambda w: not w.desk.figures.isHidden(),
    ),
    Command(
        "full",
        "Picture",
        "Fill the screen",
        lambda w: w.toggle_full(),
        ("F11",),
        on=lambda w: w.desk.window.isFullScreen(),
    ),
    Command(
        "away",
        "Picture",
        "In a window of its own",
        lambda w: w.full_screen.toggle_away(),
        ("Ctrl+F11",),
        on=lambda w: w.full_screen.away,
    ),
    Command("play", "Chart", "Play or stop", lambda w: w.play(), ("Space",), open=_with_shot),
    Command("back", "Chart", "One frame back", _go(-1), ("Left",), open=_with_shot),
    Command("on", "Chart", "One frame on", _go(1), ("Right",), open=_with_shot),
    Command("second-back", "Chart", "One second back", lambda w: w.go(-_second(w)), ("Shift+Left",), open=_with_shot),
    Command("second-on", "Chart", "One second on", lambda w: w.go(_second(w)), ("Shift+Right",), open=_with_shot),
    Command("first", "Chart", "First frame", lambda w: w.desk.stage.go(0), ("Home",), open=_with_shot),
    Command(
        "last",
        "Chart",
        "Last frame",
        lambda w: w.desk.stage.go(w.desk.view.frames - 1),
        ("End",),
        open=_with_shot,
    ),
    Command("mark-in", "Chart", "Mark from here", lambda w: w.mark(start=True), ("I",), open=_with_shot),
    Command("mark-out", "Chart", "Mark to here", lambda w: w.mark(start=False), ("O",), open=_with_shot),
    Command(
        "unmark",
        "Chart",
        "No marks",
        lambda w: w.desk.set_marks(None),
        ("X",),
        open=lambda w: bool(w.desk.clock.marks),
    ),
    Command("fit", "Chart", "Show the whole of it", lambda w: w.desk.clock.fit(), ("F",)),
    Command("fit-keys", "Chart", "Fit to the keys", lambda w: w.desk.chart.fit_keys(), ("Shift+F",)),
    Command(
        "fill-row",
        "Chart",
        "Fill the window with the chosen row",
        lambda w: w.desk.chart.fill_with_chosen(),
        ("E",),
        on=lambda w: bool(w.desk.state.now.filled),
    ),
    Command(
        "scope",
        "Chart",
        "The reel",
        lambda w: w.reel.toggle_scope(),
        ("R",),
        on=lambda w: w.desk.state.now.scope == "reel",
    ),
    Command("compact", "Chart", "Low rows", lambda w: w.overlays.toggle_compact(), on=lambda w: w.desk.chart.compact),
    Command("rows", "Chart", "Rows", open=_with_shot, fill=_rows),
    Command(
        "frame-page",
        "Window",
        "The frame in the panel",
        lambda w: w.desk.state.choose(page="frame", strand=None),
        on=lambda w: w.desk.state.now.page == "frame",
    ),
    Command(
        "plates-page",
        "Window",
        "The plates in the panel",
        lambda w: w.desk.state.choose(page="plates", strand=None),
        on=lambda w: w.desk.state.now.page == "plates",
    ),
    Command(
        "night",
        "Window",
        "Night paper",
        lambda w: w.overlays.toggle_night(),
        ("Ctrl+T",),
        on=lambda w: theme.paper.night,
    ),
    Command(
        "reel",
        "Window",
        "Fold the reel away",
        lambda w: w.desk.toggle_reel(),
        ("Ctrl+L",),
        on=lambda w: w.desk.reel_folded,
    ),
    Command(
        "menus",
        "Window",
        "Menus",
        lambda w: w.overlays.toggle_menus(),
        ("Ctrl+M",),
        on=lambda w: w.desk.header.menus.isVisibleTo(w.desk.header),
    ),
    Command("menu", "Window", "Go to the menus", lambda w: w.overlays.open_menus(), ("F10",)),
    Command("escape", "Window", "Close what lies over it", lambda w: w.escape(), ("Esc",)),
    Command("manual", "Help", "Manual", lambda w: w.overlays.show_manual(), ("Shift+F1",)),
    Command("keys", "Help", "Keys and commands", lambda w: w.overlays.show_finder(), ("?", "F1")),
    Command("log", "Help", "Where errors are kept", lambda w: w.shake.tell_log()),
    Command("about", "Help", "About Young Tremor", lambda w: w.overlays.show_about()),
)
