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
from young_tremor.desk.kit.time_format import times
from young_tremor.desk.picture import frame_marks
from young_tremor.desk.picture.exposure_button import SCALE, STEP
from young_tremor.desk.picture.transport import MODES
from young_tremor.desk.window.actions import Actions
from young_tremor.engine.asking.command_texts import COMMAND_TEXTS
from young_tremor.engine.library import preset_library, settings
from young_tremor.model.project import Project

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


def _go_to_hit(way: int) -> Do:
    return lambda actions: actions.shake.go_to_hit(way)


def _has_hits(actions: Actions) -> bool:
    shot = actions.desk.state.shot
    return shot is not None and bool(shot.hits)


def _second(actions: Actions) -> int:
    return round(actions.desk.view.rate)


def _expose(actions: Actions, by: float | None) -> None:
    """Show the picture with so many stops more; None: as it is."""
    actions.desk.state.expose(0.0 if by is None else SCALE.clamp(actions.desk.state.now.stops + by))


def _step(word: str, label: str | None) -> str:
    return f"{tr(word)}: {label}" if label else tr(word)


def _command(
    name: str,
    do: Do | None = None,
    *,
    open: Callable[[Actions], bool] | None = None,
    on: Callable[[Actions], bool] | None = None,
    fill: Callable[[Actions, QMenu], object] | None = None,
    says: Callable[[Actions], str] | None = None,
) -> Command:
    """A command of the list of texts, with what it does; one that needs a shot can be done only with one."""
    text = COMMAND_TEXTS[name]
    return Command(text, do or _nothing, _with_shot if text.shot else open or _always, on, fill, says)


def _always(actions: Actions) -> bool:
    return True


def _nothing(actions: Actions) -> None:
    """What a menu of its own does."""


COMMANDS: tuple[Command, ...] = (
    _command("new", lambda w: w.files.start(Project())),
    _command("open", lambda w: w.files.ask_open()),
    _command("recent", fill=_recent),
    _command("demo", lambda w: w.files.start(preset_library.demo_project())),
    _command("save", lambda w: w.files.save()),
    _command("save-as", lambda w: w.files.save_as()),
    _command("versions", fill=_versions),
    _command("find-footage", lambda w: w.footage.ask_find()),
    _command("gather", lambda w: w.footage.ask_gather()),
    _command("render", lambda w: w.show_render()),
    _command("quit", lambda w: w.desk.window.close()),
    _command(
        "undo",
        lambda w: w.undo_step(),
        open=lambda w: w.desk.session.undo_label is not None,
        says=lambda w: _step("Undo", w.desk.session.undo_label),
    ),
    _command(
        "redo",
        lambda w: w.redo_step(),
        open=lambda w: w.desk.session.redo_label is not None,
        says=lambda w: _step("Redo", w.desk.session.redo_label),
    ),
    _command("delete", lambda w: w.deletion.delete(), says=lambda w: w.deletion.words()),
    _command("history", fill=_history),
    _command("find", lambda w: w.ask()),
    _command("preferences", lambda w: w.overlays.show_preferences()),
    _command("shots", fill=_shots),
    _command("shot-back", lambda w: w.desk.stage.choose_beside(-1)),
    _command("shot-on", lambda w: w.desk.stage.choose_beside(1)),
    _command("title", lambda w: w.shake.add_plate("title")),
    _command("fill", lambda w: w.shake.add_plate("fill")),
    _command("lay", lambda w: w.shake.ask_graphic(glass=False)),
    _command("lay-glass", lambda w: w.shake.ask_graphic(glass=True)),
    _command("replace", lambda w: w.footage.ask_replace()),
    _command("measure-own", lambda w: w.takes.measure_own()),
    _command("rename", lambda w: w.reel.rename()),
    _command("split-shot", lambda w: w.reel.split()),
    _command("duplicate", lambda w: w.reel.duplicate()),
    _command("shot-earlier", lambda w: w.reel.move(-1)),
    _command("shot-later", lambda w: w.reel.move(1)),
    _command("copy", lambda w: w.reel.copy()),
    _command("paste", lambda w: w.reel.paste()),
    _command("along", fill=lambda w, menu: w.reel.fill_along(menu)),
    _command("all-shots", lambda w: w.reel.choose_all()),
    _command("span", lambda w: w.reel.add_span()),
    _command("remove-shot", lambda w: w.reel.remove()),
    _command("presets", lambda w: w.shake.show_presets()),
    _command("takes", lambda w: w.takes.show()),
    _command("measure", lambda w: w.takes.ask_clip()),
    _command("follow", lambda w: w.shake.follow()),
    _command("holder", lambda w: w.shake.hold()),
    _command("add", fill=_add),
    _command("add-sound", lambda w: w.sound.add("with")),
    _command("sounds", fill=lambda w, menu: w.desk.chart.fill_sounds(menu)),
    _command("chosen", open=lambda w: w.desk.chart.chosen_row is not None, fill=_fill_selection_menu),
    _command("hit", lambda w: w.shake.hit()),
    _command("hits-sound", lambda w: w.shake.find_hits("sound")),
    _command("hits-picture", lambda w: w.shake.find_hits("picture")),
    _command("hits", fill=lambda w, menu: w.desk.chart.hits.fill_menu("", menu)),
    _command("clear-hits", lambda w: w.shake.clear_hits(), open=_has_hits),
    _command("variants", fill=lambda w, menu: w.desk.chart.letters.fill_menu(menu)),
    _command("new-course", lambda w: w.shake.take_new_course()),
    _command("reset", lambda w: w.shake.reset_shake()),
    _command("keep", lambda w: w.shake.show_presets()),
    *(_command(name, _mode(name), on=_in_mode(name)) for name, _, _ in MODES),
    _command("overlays", fill=_overlays),
    _command("closer", lambda w: w.desk.picture.zoom(2)),
    _command("farther", lambda w: w.desk.picture.zoom(0.5)),
    _command("whole", lambda w: w.desk.picture.zoom_to(0)),
    _command("pixels", lambda w: w.desk.picture.zoom_to(1)),
    _command("brighter", partial(_expose, by=STEP)),
    _command("darker", partial(_expose, by=-STEP)),
    _command("as-exposed", partial(_expose, by=None), open=lambda w: bool(w.desk.state.now.stops)),
    _command(
        "magnifier",
        lambda w: w.desk.picture.toggle_overlay(frame_marks.LENS),
        on=lambda w: frame_marks.LENS in w.desk.state.now.overlays,
    ),
    _command("figures", lambda w: w.desk.toggle_figures(), on=lambda w: not w.desk.figures.isHidden()),
    _command("full", lambda w: w.toggle_full(), on=lambda w: w.desk.window.isFullScreen()),
    _command("away", lambda w: w.full_screen.toggle_away(), on=lambda w: w.full_screen.away),
    _command("play", lambda w: w.play()),
    _command("back", _go(-1)),
    _command("on", _go(1)),
    _command("second-back", lambda w: w.go(-_second(w))),
    _command("second-on", lambda w: w.go(_second(w))),
    _command("hit-back", _go_to_hit(-1)),
    _command("hit-on", _go_to_hit(1)),
    _command("first", lambda w: w.desk.stage.go(0)),
    _command("last", lambda w: w.desk.stage.go(w.desk.view.frames - 1)),
    _command("mark-in", lambda w: w.mark(start=True)),
    _command("mark-out", lambda w: w.mark(start=False)),
    _command("unmark", lambda w: w.desk.set_marks(None), open=lambda w: bool(w.desk.clock.marks)),
    _command("fit", lambda w: w.desk.clock.fit()),
    _command("fit-keys", lambda w: w.desk.chart.fit_keys()),
    _command("fill-row", lambda w: w.desk.chart.fill_with_chosen(), on=lambda w: bool(w.desk.state.now.filled)),
    _command("scope", lambda w: w.reel.toggle_scope(), on=lambda w: w.desk.state.now.scope == "reel"),
    _command("compact", lambda w: w.overlays.toggle_compact(), on=lambda w: w.desk.chart.compact),
    _command("rows", fill=_rows),
    _command(
        "frame-page",
        lambda w: w.desk.state.choose(page="frame", strand=None),
        on=lambda w: w.desk.state.now.page == "frame",
    ),
    _command(
        "plates-page",
        lambda w: w.desk.state.choose(page="plates", strand=None),
        on=lambda w: w.desk.state.now.page == "plates",
    ),
    _command("frames", lambda w: w.overlays.toggle_frames(), on=lambda w: times.in_frames),
    _command("night", lambda w: w.overlays.toggle_night(), on=lambda w: theme.paper.night),
    _command("reel", lambda w: w.desk.toggle_reel(), on=lambda w: w.desk.reel_folded),
    _command("tall-panel", lambda w: w.overlays.toggle_tall_panel(), on=lambda w: w.desk.panel.tall),
    _command("menus", lambda w: w.overlays.toggle_menus(), on=lambda w: w.desk.header.menus.isVisibleTo(w.desk.header)),
    _command("menu", lambda w: w.overlays.open_menus()),
    _command("escape", lambda w: w.escape()),
    _command("manual", lambda w: w.overlays.show_manual()),
    _command("keys", lambda w: w.overlays.show_finder()),
    _command("log", lambda w: w.shake.tell_log()),
    _command("about", lambda w: w.overlays.show_about()),
)
