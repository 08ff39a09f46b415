"""Commands, the keyboard, the wheel, and the faults of the desk that were mended."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QAccessible
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QFileDialog,
    QInputDialog,
    QLineEdit,
    QMenu,
    QMessageBox,
    QPushButton,
)

from clips import clip
from driver import Desk
from storm import storm
from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.window.commands import COMMANDS
from young_tremor.document import store
from young_tremor.engine.asking.command_texts import MENUS
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.model import shot_edits
from young_tremor.model.project import Project
from young_tremor.model.shake import Jolts

K = Qt.Key
CTRL, SHIFT, ALT = (getattr(Qt.KeyboardModifier, f"{name}Modifier") for name in ("Control", "Shift", "Alt"))


@pytest.fixture
def desk(qtbot, footage: Path) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, preset_library.preset("standing, breathing"))(Project())))
    made.settle()
    yield made
    made.close()


def test_every_command_is_in_a_menu_and_no_key_is_given_twice(desk: Desk) -> None:
    assert len({command.name for command in COMMANDS}) == len(COMMANDS)
    assert {command.menu for command in COMMANDS} == set(MENUS)
    keys = [key for command in COMMANDS for key in command.keys]
    assert len(set(keys)) == len(keys)
    found = {(way, action.text()) for way, action in desk.window.commands.found()}
    assert {("Shake › Add a strand", "Jolts"), ("Project", "Save"), ("Project", "Open…")} <= found
    assert ("Shake › Variants", "New variant") in found
    desk.window.desk.state.choose(strand=desk.shot.shake.strands[0].id)
    assert ("Shake › Chosen strand", "Duplicate") in {
        (way, action.text()) for way, action in desk.window.commands.found()
    }
    assert len(found) > 60


def test_a_command_is_found_by_letters_and_done_by_return(desk: Desk) -> None:
    desk.key("k", CTRL)
    line = desk.window.asking.line
    assert line.isVisible()
    QTest.keyClicks(line.field, "add jolts")
    assert line.entries[0].name == "Add jolts"
    QTest.keyClick(line.field, K.Key_Return)
    assert not line.isVisible()
    assert [type(strand) for strand in desk.shot.shake.strands] == [Jolts]  # the opening drift has made room
    desk.key("?")
    finder = desk.window.act.overlays.finder
    assert finder.isVisible()
    QTest.keyClicks(finder.field, "nothing is called this")
    QTest.keyClick(finder.field, K.Key_Return)
    assert finder.isVisible()
    QTest.keyClick(finder.field, K.Key_Escape)
    assert not finder.isVisible()


def test_the_steps_are_a_list_and_a_click_goes_there(desk: Desk) -> None:
    start = desk.project
    for name in ("One", "Two", "Three"):
        desk.window.desk.session.apply(f"Name {name}", shot_edits.set_shot(desk.shot.id, name=name))
    labels, now = desk.window.desk.session.steps
    assert (labels[-3:], now) == (("Name One", "Name Two", "Name Three"), len(labels))
    menu = QMenu(desk.window)
    next(command for command in COMMANDS if command.name == "history").fill(desk.window.act, menu)  # type: ignore[misc]
    next(action for action in menu.actions() if action.text() == "Name One").trigger()
    assert desk.shot.name == "One"
    desk.window.act.go_back_to(0)
    assert desk.project == start
    desk.key("y", CTRL)
    assert desk.shot.name == "One"


def test_space_and_return_press_what_has_the_focus_and_a_click_leaves_it(desk: Desk) -> None:
    window = desk.window
    close = next(b for b in window.desk.sheet.findChildren(QPushButton) if b.text() == "Close")
    desk.key("r", CTRL)
    assert window.desk.sheet.isVisible()
    close.setFocus()
    QTest.keyClick(close, K.Key_Return)
    assert not window.desk.sheet.isVisible()
    assert not window.desk.sheet.list.rows  # Return on Close has started nothing
    window.desk.header.presets_button.setFocus()
    QTest.keyClick(window.desk.header.presets_button, K.Key_Space)
    assert window.desk.popup.isVisible()
    assert not window.desk.stage.playing
    window.desk.popup.hide()
    rule = window.desk.panel.frame.angle
    rule.setFocus()
    frame = desk.frame
    QTest.keyClick(rule, K.Key_Right)
    assert desk.frame == frame
    assert desk.shot.frame.shutter.angle.value > 180
    QTest.keyClick(rule, K.Key_Escape)
    assert not rule.hasFocus()


def test_the_wheel_scrolls_unless_the_rule_has_the_focus(desk: Desk) -> None:
    rule, session = desk.window.desk.panel.frame.angle, desk.window.desk.session
    desk.window.setFocus()
    before = desk.project
    desk.wheel(rule, 1)
    assert desk.project == before
    rule.setFocus()
    for _ in range(5):
        desk.wheel(rule, 1)
    rule.clearFocus()
    assert desk.shot.frame.shutter.angle.value > 180
    assert len(session.steps[0]) == 1
    desk.key("z", CTRL)
    assert desk.project == before
    desk.wheel(rule, 1, modifiers=ALT)
    assert desk.project != before
    box = desk.window.desk.panel.frame.edges
    chosen = box.currentIndex()
    desk.window.setFocus()
    desk.wheel(box, -2)
    assert box.currentIndex() == chosen


@pytest.mark.parametrize("bend", [1.0, 2.0, 3.0])
def test_a_value_beyond_the_rule_moves_from_where_it_is(bend: float) -> None:
    scale = NumberScale(0, 200, "%", 0, bend=bend, most=1000)
    assert 350 - 6 * bend < scale.moved(350, -0.02) < 350
    assert 350 < scale.moved(350, 0.02) < 350 + 6 * bend
    assert scale.moved(100, 0.02) == pytest.approx(scale.value(scale.place(100) + 0.02))


def test_many_files_are_one_step_in_order_and_one_line(desk: Desk, tmp_path: Path) -> None:
    paths = [clip(tmp_path / f"shot {k}.mp4", frames=4, size=(320, 180)) for k in range(5)]
    for name in ("bad 1.mp4", "bad 2.mp4"):
        (tmp_path / name).write_bytes(b"nothing")
        paths.insert(2, tmp_path / name)
    before = desk.project
    desk.drop(*paths)
    desk.until(lambda: not desk.window.act.files.adding)
    names = [shot.name for shot in desk.project.shots]
    assert names[1:] == [f"shot {k}" for k in range(5)]
    assert "2 of 7 files could not be opened" in desk.window.desk.notice.text()
    assert desk.window.desk.session.undo_label == "Open 5 files"
    desk.key("z", CTRL)
    assert desk.project == before


def test_footage_that_is_read_does_not_land_in_another_project(desk: Desk, tmp_path: Path) -> None:
    desk.window.act.files.open_path(clip(tmp_path / "late.mp4", frames=4, size=(320, 180)))
    desk.window.desk.session.start(Project())
    desk.until(lambda: not desk.window.act.files.adding)
    assert desk.project.shots == ()
    assert desk.window.welcome.isVisible()
    assert not desk.window.desk.session.dirty


def test_the_sheet_renders_the_shot_as_it_is_when_it_starts(desk: Desk, tmp_path: Path) -> None:
    desk.key("r", CTRL)
    sheet = desk.window.desk.sheet
    sheet.path.setText(str(tmp_path / "out.mp4"))
    desk.window.desk.session.apply("Still", shot_edits.set_shake(desk.shot.id, strands=()))
    desk.click(sheet.start)
    desk.until(lambda: "Written" in sheet.state.text())
    assert sheet.list.rows[0].films[0].shots[0].shake.strands == ()


def test_what_is_chosen_or_held_does_not_outlive_its_place(desk: Desk, tmp_path: Path) -> None:
    window = desk.window
    window.act.files.open_path(clip(tmp_path / "second.mp4", frames=48))
    desk.until(lambda: len(desk.project.shots) == 2)
    window.desk.state.choose_shot(desk.project.shots[0].id)
    desk.settle()
    window.desk.set_marks((3, 9))
    window.desk.state.choose_shot(desk.project.shots[1].id)
    assert window.desk.view.marks is None
    window.desk.state.choose(peek=True)
    QApplication.sendEvent(QApplication.instance(), QEvent(QEvent.Type.ApplicationDeactivate))
    assert not window.desk.state.now.peek
    editor = window.desk.chart.curves["Intensity"].editors["Intensity"]
    editor.chosen = (0, 7)  # keys that an undo has taken away
    strip = window.desk.chart.level_strip
    strip.setFocus()
    QTest.keyClick(strip, K.Key_Up)
    QTest.keyClick(strip, K.Key_Delete)
    assert not editor.chosen
    desk.window.desk.panel.frame.framing.draw.click()
    assert window.desk.state.now.tool
    desk.window.setFocus()
    desk.key(K.Key_Escape)
    assert not window.desk.state.now.tool


def test_words_and_inks_stand_out_from_every_ground() -> None:
    grounds = (theme.PANEL_COLOUR, *theme.HAMMER, theme.RECESS, theme.DEEP, theme.WELL)
    for words in (theme.TEXT, theme.DIM, theme.FAINT, theme.LAMP, theme.GOOD, theme.BAD):
        assert min(theme.contrast(words, ground) for ground in grounds) >= 4.5, words
    for inks in (theme._DAY, theme._NIGHT):
        assert theme.contrast(inks["ink"], inks["ruler"]) >= 4.5
        for role in ("x", "y", "roll", "zoom", "pan", "tilt", "hit", "playhead", "gap", "ready"):
            assert theme.contrast(inks[role], inks["paper"]) >= 3.0, role
    for strong, inks in ((theme._STRONG_DAY, theme._DAY), (theme._STRONG_NIGHT, theme._NIGHT)):
        assert min(theme.contrast(ink, inks["paper"]) for ink in strong.values()) >= 6.0


def test_a_screen_reader_is_told_role_name_and_value_of_everything(desk: Desk) -> None:
    window = desk.window
    window.desk.state.choose(strand=desk.shot.shake.strands[0].id)
    desk.key("r", CTRL)
    desk.key("k", CTRL)
    window.desk.popup.show()
    window.desk.takes.show()
    seen = 0
    for widget in QApplication.allWidgets():
        if not widget.isVisible() or not widget.focusPolicy() & Qt.FocusPolicy.TabFocus:
            continue
        told = QAccessible.queryAccessibleInterface(widget)
        assert told is not None
        assert told.text(QAccessible.Text.Name) or isinstance(widget, QLineEdit | QAbstractItemView), widget
        assert told.role() not in (QAccessible.Role.NoRole, QAccessible.Role.Client), widget
        if isinstance(widget, NumberField):
            assert told.role() == QAccessible.Role.Slider
            assert told.text(QAccessible.Text.Value) == widget.scale.text(widget.value)
        seen += 1
    assert seen > 60
    lamp = window.desk.chart.chosen_row.head.lamp
    assert QAccessible.queryAccessibleInterface(lamp).text(QAccessible.Text.Value) == "on"
    window.desk.popup.hide()
    window.desk.takes.hide()
    lamp.setFocus()
    QTest.keyClick(lamp, K.Key_Space)
    assert not desk.shot.shake.strands[0].on
    assert QAccessible.queryAccessibleInterface(lamp).text(QAccessible.Text.Value) == "off"


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_random_keys_and_mouse_leave_no_traceback_and_no_lost_document(
    desk: Desk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture, seed: int
) -> None:
    """The same with 10,000 events each: EVENTS=10000 pytest tests/test_desk_commands.py -k random."""
    for name in ("getOpenFileName", "getSaveFileName", "getOpenFileNames"):
        monkeypatch.setattr(QFileDialog, name, lambda *a, **k: ("", ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a, **k: "")
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("Storm", True))
    monkeypatch.setattr(QMessageBox, "exec", lambda box: QMessageBox.StandardButton.Cancel)
    monkeypatch.setattr(desk.window, "close", lambda: False)
    monkeypatch.chdir(tmp_path)
    sheet = desk.window.desk.sheet
    monkeypatch.setattr(sheet, "begin", lambda: None)
    storm(desk.window, seed, int(os.environ.get("EVENTS", "250")))
    desk.window.desk.session.end_gesture()
    desk.until(lambda: not desk.window.act.takes.measuring)  # closing would ask whether to go on
    assert not [record for record in caplog.records if record.levelname in ("ERROR", "CRITICAL")]
    path = tmp_path / "storm.tremor"
    desk.window.desk.session.save(path)
    assert store.load(path) == desk.project
    monkeypatch.undo()
    if desk.window.isFullScreen():
        desk.window.act.toggle_full()


def test_escape_takes_a_drag_back_whole(desk: Desk) -> None:
    before, rule = desk.project, desk.window.desk.panel.frame.angle
    steps = desk.window.desk.session.steps
    middle = rule.rect().center()
    QTest.mousePress(rule, Qt.MouseButton.LeftButton, pos=middle)
    desk._move(rule, middle + QPoint(30, 0), Qt.KeyboardModifier.NoModifier)
    assert desk.project != before
    QTest.keyClick(rule, K.Key_Escape)
    assert desk.project == before
    desk._move(rule, middle + QPoint(60, 0), Qt.KeyboardModifier.NoModifier)
    QTest.mouseRelease(rule, Qt.MouseButton.LeftButton, pos=middle)
    assert (desk.project, desk.window.desk.session.steps) == (before, steps)
    # one that its owner does not hear of: nothing more is done until the button is let go
    desk.window.desk.session.begin_gesture("Drag")
    desk.window.desk.session.apply("Drag", shot_edits.set_shot(desk.shot.id, name="Dragged"))
    desk.window.act.escape()
    desk.window.desk.session.apply("Drag", shot_edits.set_shot(desk.shot.id, name="Dragged on"))
    assert desk.project == before
    QTest.mouseClick(desk.window.desk.header, Qt.MouseButton.LeftButton)
    desk.until(lambda: not desk.window.desk.session.in_gesture)
    desk.window.desk.session.apply("Name", shot_edits.set_shot(desk.shot.id, name="Named"))
    assert desk.shot.name == "Named"
    assert desk.window.desk.session.undo_label == "Name"
