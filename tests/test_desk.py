"""The window as a person uses it: mouse, keys, and what document and pixels say afterwards."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from clips import clip, number_of
from driver import Desk
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.sheets.preset_sheet import ApplyWay
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_diff, preset_library
from young_tremor.engine.media import description
from young_tremor.engine.playback.player import SilentDevice
from young_tremor.model import shot_edits
from young_tremor.model.fields import AMOUNT_SCALE
from young_tremor.model.project import Project

Key, SHIFT, CTRL = Qt.Key, Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def desk(qtbot: QtBot, footage: Path) -> Iterator[Desk]:
    """The window on two seconds of numbered footage under the walking preset."""
    project = shot_edits.add_shot(footage, preset_library.preset("walking"))(Project())
    made = Desk(qtbot, Session(project))
    made.settle()
    yield made
    made.close()


def shown_number(desk: Desk) -> int:
    desk.window.desk.state.choose(mode="still")
    return number_of(desk.picture()[..., 1])


def test_opening_by_drop_and_dialog_and_what_cannot_be_opened(qtbot, footage, tmp_path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    desk = Desk(qtbot)
    assert "Ctrl+O" in desk.window.desk.picture.hint
    desk.open(footage)
    assert [s.name for s in desk.project.shots] == ["wall"]
    assert desk.shot.shake.preset == preset_library.DEFAULT_PRESET
    other = clip(tmp_path / "rack.mp4", frames=30)
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, **k: ([str(other)], ""))
    desk.key("o", CTRL)
    desk.until(lambda: len(desk.project.shots) == 2)
    assert desk.window.desk.view.frames == 30
    torn = tmp_path / "torn.mp4"
    torn.write_text("no footage")
    before = desk.project
    desk.drop(torn)
    desk.until(lambda: "torn.mp4 cannot be read" in desk.said())
    assert desk.project is before
    foreign = tmp_path / "foreign.tremor"
    foreign.write_text("{}")
    monkeypatch.setattr(desk.window.act.files, "may_leave", lambda: True)
    desk.drop(foreign)
    assert "foreign.tremor is not a young-tremor project" in desk.said()
    assert desk.project is before
    desk.click(desk.window.desk.reel._prints[desk.project.shots[0].id])
    desk.settle()
    assert desk.shot.name == "wall"
    desk.close()


def test_a_rule_is_typed_dragged_turned_and_reset_and_each_is_one_step(desk: Desk) -> None:
    row = next(iter(desk.window.desk.chart._rows.values()))
    first = desk.picture()

    def amount() -> float:
        return desk.shot.shake.strands[0].amount.value

    desk.type_into(row.amount, "350 %")
    assert amount() == 3.5
    assert np.abs(desk.picture() - first).mean() > 1
    assert desk.window.desk.session.undo_label == "Amount"
    desk.drag_rule(row.amount, 50)
    assert amount() == pytest.approx(0.5, abs=0.03)
    desk.wheel(row.amount, 1)
    coarse = amount()
    desk.wheel(row.amount, 1, modifiers=SHIFT)
    assert 0 < amount() - coarse < coarse - 0.5 + 0.03
    row.amount.setFocus()
    desk.key("7")
    QTest.keyClick(row.amount._editor, Key.Key_Return)
    assert amount() == 0.07
    QTest.mouseDClick(row.amount, Qt.MouseButton.LeftButton, pos=row.amount.rect().center())
    assert amount() == 1.0
    desk.type_into(row.amount, "nonsense")
    assert amount() == 1.0
    assert row.amount._editor.text() == "nonsense"  # it stays where it was typed, and is said
    assert "“nonsense” is no number" in desk.said()
    QTest.keyClick(row.amount._editor, Key.Key_Escape)
    assert row.amount._editor is None
    done = []
    while (label := desk.window.desk.session.undo_label) and len(done) < 20:
        done.append(label)
        desk.key("z", CTRL)
    assert done == ["Amount"] * 5  # a run of notches is one
    assert "Undone: Amount" in desk.said()
    np.testing.assert_array_equal(desk.picture(), first)
    desk.key("z", CTRL | SHIFT)
    assert amount() == 3.5


@pytest.mark.parametrize("value", [0.0, 37.0, 100.0, 200.0])
def test_scales_are_there_and_back_and_read_what_they_write(value: float) -> None:
    assert AMOUNT_SCALE.value(AMOUNT_SCALE.place(value)) == pytest.approx(value)
    assert AMOUNT_SCALE.read(AMOUNT_SCALE.text(value)) == value
    assert AMOUNT_SCALE.read("1e99") == AMOUNT_SCALE.most
    assert AMOUNT_SCALE.read("nan") is None


def test_scrubbing_and_keys_show_the_very_frame(desk: Desk) -> None:
    window = desk.window
    for widget in (window.desk.chart.ruler, window.desk.chart.camera_strip):
        for frame in (31, 5):
            desk.scrub(widget, frame)
            assert desk.frame == frame
            assert shown_number(desk) == frame
    steps = (
        (Key.Key_Right, Qt.KeyboardModifier.NoModifier, 6),
        (Key.Key_Right, SHIFT, 30),
        (Key.Key_Left, Qt.KeyboardModifier.NoModifier, 29),
        (Key.Key_End, Qt.KeyboardModifier.NoModifier, 47),
        (Key.Key_Home, Qt.KeyboardModifier.NoModifier, 0),
    )
    for key, modifiers, frame in steps:
        desk.key(key, modifiers)
        assert desk.frame == frame
    assert shown_number(desk) == 0
    desk.wheel(window.desk.chart.ruler, 4, x=0)
    assert window.desk.view.t1 < 1.0
    desk.scrub(window.desk.chart.ruler, 10)
    assert desk.frame == 10
    desk.key("f")
    assert (window.desk.view.t0, window.desk.view.t1) == (0.0, 2.0)


def test_comparing_with_the_still_original(desk: Desk) -> None:
    window = desk.window
    desk.scrub(window.desk.chart.ruler, 20)
    shaken = desk.picture()
    desk.key("2")
    still = desk.picture()
    assert np.abs(shaken - still).mean() > 2
    desk.key("1")
    np.testing.assert_array_equal(desk.picture(), shaken)
    QTest.keyPress(window, Key.Key_C)
    np.testing.assert_array_equal(desk.picture(), still)
    QTest.keyRelease(window, Key.Key_C)
    np.testing.assert_array_equal(desk.picture(), shaken)
    desk.key("6")
    np.testing.assert_array_equal(desk.picture(), np.abs(shaken - still))
    desk.key("3")
    desk.settle()
    rect = window.desk.picture.frame_rect()
    x, y = rect.left() + rect.width() * window.desk.picture.split, rect.center().y()
    desk.drag(window.desk.picture, (x, y), (rect.left() + rect.width() * 0.25, y))
    assert window.desk.picture.split == pytest.approx(0.25, abs=0.01)
    image = window.desk.picture.grab().toImage()
    line = image.pixelColor(rect.left() + round(rect.width() * 0.25), rect.top() + 20)
    assert line.name() == theme.GREASE


def test_intensity_is_dragged_on_the_chart_and_zero_is_stillness(desk: Desk) -> None:
    window = desk.window
    desk.scrub(window.desk.chart.ruler, 12)
    strip = window.desk.chart.level_strip
    desk.drag(strip, (200, strip.editor.y(1.0)), (240, strip.height() - 1))
    assert desk.shot.shake.intensity.value == 0
    assert window.desk.chart.camera_head.peak.startswith("peak 0.0 px")
    shaken = desk.picture()
    desk.key("2")
    np.testing.assert_array_equal(desk.picture(), shaken)
    assert window.desk.panel.frame._values["crop"].text() == "1.000"
    desk.key("z", CTRL)
    assert desk.shot.shake.intensity.value == 1
    assert window.desk.session.undo_label is None
    row = next(iter(window.desk.chart._rows.values()))
    desk.click(row.head.lamp)
    assert [s.on for s in desk.shot.shake.strands] == [False, *[True] * (len(desk.shot.shake.strands) - 1)]


def test_edges_their_cost_and_the_way_to_the_worst_frame(desk: Desk) -> None:
    frame, window = desk.window.desk.panel.frame, desk.window
    desk.until(lambda: frame.status.text() == "covers every frame")
    assert float(frame._values["crop"].text()) > 1.005
    frame.edges.setFocus()
    for _ in range(6):
        desk.key(Key.Key_Down)
    assert desk.shot.frame.edges == "open"
    desk.until(lambda: "show an edge" in frame.status.text())
    assert window.desk.chart.camera_strip.gaps is not None
    desk.click(frame._values["worst"])
    assert desk.frame == frame._worst
    picture = desk.picture()
    border = np.concatenate([picture[0], picture[-1], picture[:, 0], picture[:, -1]])
    assert (border.max(axis=1) < 4).mean() > 0.2
    desk.type_into(frame.angle, "0")
    assert desk.shot.frame.shutter.angle.value == 0
    desk.type_into(frame.focal, "5")
    assert desk.shot.frame.focal_mm == 5


def test_a_strand_is_chosen_tuned_added_and_deleted(desk: Desk) -> None:
    window, panel = desk.window, desk.window.desk.panel.drift
    row = next(iter(window.desk.chart._rows.values()))
    desk.click(row.head, 60, 50)
    assert panel.isVisible()
    desk.type_into(panel.reaches["roll"], "2")
    assert desk.shot.shake.strands[0].channels.roll.reach == 2
    desk.type_into(panel.controls.numbers["roughness"], "0.8")
    desk.type_into(panel.controls.numbers["wander.depth"], "0.5")
    assert (desk.shot.shake.strands[0].roughness, desk.shot.shake.strands[0].wander.depth) == (0.8, 0.5)
    seed = desk.shot.shake.strands[0].seed
    another = next(w for w in panel.findChildren(type(window.desk.header.render_button)) if w.text() == "New course")
    desk.click(another)
    assert desk.shot.shake.strands[0].seed != seed
    panel.name.setFocus()
    panel.name.selectAll()
    QTest.keyClicks(panel.name, "Steps C")
    desk.key(Key.Key_Return)
    assert desk.shot.shake.strands[0].name == "Steps C"
    before = len(desk.shot.shake.strands)
    desk.click(window.desk.chart._add)
    desk.pick("Drift")
    assert len(desk.shot.shake.strands) == before + 1
    window.desk.chart.setFocus()
    desk.key(Key.Key_Escape)
    assert window.desk.panel.frame.isVisible()
    desk.key("p")
    popup = window.desk.popup
    QTest.keyClicks(popup.search, "springs body")
    assert [popup.list.item(n).text() for n in range(popup.list.count())] == ["Car, good road"]
    QTest.keyClick(popup.search, Key.Key_Return)
    desk.back()
    assert desk.shot.shake.preset == "Car, good road"
    assert {s.holds for s in desk.shot.shake.strands} == {desk.window.desk.stage.view.frames / 24}  # type: ignore[union-attr]
    assert not preset_diff.is_changed(desk.shot.shake)
    held = [s.holds for s in desk.shot.shake.strands]  # type: ignore[union-attr]
    window.act.shake.reset_shake()
    assert [s.holds for s in desk.shot.shake.strands] == held  # type: ignore[union-attr]
    window.desk.session.undo()
    count = len(desk.shot.shake.strands)
    desk.key("p")
    popup._choose_group("impact")
    assert popup.list.count() == sum(each.group == "impact" for each in preset_library.factory())
    window.act.shake.apply_preset(preset_library.preset("press strike"), ApplyWay(add=True))
    popup.hide()
    desk.back()
    assert len(desk.shot.shake.strands) == count + 1
    assert "press H" in desk.said()
    desk.key("z", CTRL)
    desk.key("z", CTRL)
    assert len(desk.shot.shake.strands) == before + 1


class Hand:
    """A clock that a test turns."""

    now = 100.0

    def __call__(self) -> float:
        return self.now


def test_playing_keeps_time_drops_frames_and_loops(qtbot: QtBot, footage: Path) -> None:
    clock = Hand()
    project = shot_edits.add_shot(footage, preset_library.preset("walking"))(Project())
    desk = Desk(qtbot, Session(project), SilentDevice(clock))
    desk.settle()
    window, stage = desk.window, desk.window.desk.stage
    desk.scrub(window.desk.chart.ruler, 10)
    desk.key("i")
    desk.scrub(window.desk.chart.ruler, 20)
    desk.key("o")
    assert window.desk.view.marks == (10, 20)
    desk.until(lambda: stage.preview.ready(stage._request)[10:21].all())
    desk.click(window.desk.transport.button)
    desk.until(lambda: desk.frame == 10)
    for seconds, frame in ((1 / 24, 11), (2 / 24, 12), (5 / 24, 15)):
        clock.now = 100.0 + seconds + 1e-4
        desk.until(lambda frame=frame: desk.frame == frame)  # type: ignore[misc]
    assert stage.player is not None
    assert (stage.player.shown, stage.player.dropped) == (4, 2)
    look = stage.preview.look
    stage.preview.look = lambda request, index: None if index == 18 else look(request, index)  # type: ignore[method-assign]
    clock.now = 100.0 + 8 / 24 + 1e-4
    desk.until(lambda: desk.frame == 17)  # 18 is not there yet: the newest one that is, is shown late
    stage.preview.look = look  # type: ignore[method-assign]
    clock.now = 100.0 + 16 / 24
    desk.until(lambda: desk.frame == 10)
    assert stage.playing
    desk.key(" ")
    assert not stage.playing
    desk.key("x")
    assert window.desk.view.marks is None
    desk.close()


def test_rendering_from_the_sheet(desk: Desk, tmp_path: Path) -> None:
    window, sheet = desk.window, desk.window.desk.sheet
    desk.key("r", CTRL)
    assert sheet.isVisible()
    out = tmp_path / "proof.mp4"
    sheet.path.selectAll()
    QTest.keyClicks(sheet.path, str(out))
    sheet.form.versions.setFocus()
    QTest.keyClick(sheet.form.versions, Key.Key_Right)
    with desk.bot.waitSignal(sheet.progressed, timeout=20000, check_params_cb=lambda words: words == ""):
        desk.click(sheet.start)
    assert "Written: proof.mp4 and proof clean.mp4" in sheet.state.text()
    facts = description.describe(out)
    assert (facts["frames"], facts["size"], facts["audio"]) == (48, "640x360", ["aac 48000 Hz stereo"])
    kept = out.read_bytes()
    desk.click(sheet.start)
    assert sheet.start.text() == "Replace"
    assert out.read_bytes() == kept
    seen: list[str] = []
    sheet.progressed.connect(seen.append)
    desk.click(sheet.start)
    desk.until(lambda: bool(seen))
    desk.click(sheet.cancel)
    desk.until(lambda: seen[-1] == "")
    assert "nothing was written" in sheet.state.text()
    assert out.read_bytes() == kept
    assert sorted(p.name for p in tmp_path.iterdir()) == ["proof clean.mp4", "proof.mp4"]
    sheet.path.selectAll()
    QTest.keyClicks(sheet.path, "/nowhere/at/all.mp4")
    desk.click(sheet.start)
    assert "/nowhere" in sheet.state.text()
    desk.key(Key.Key_Escape)
    assert not sheet.isVisible()
    assert window.desk.header.render_button.text() == "Render"


def test_saving_reopening_night_paper_and_full_screen(desk: Desk, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    window = desk.window
    path = tmp_path / "proof.tremor"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path.with_suffix("")), ""))
    desk.type_into(window.desk.chart.pace, "1.5")
    assert window.desk.session.dirty
    desk.key("s", CTRL)
    assert path.exists()
    assert not window.desk.session.dirty
    kept = desk.project
    window.desk.session.start(Project())
    assert not desk.project.shots
    desk.drop(path)
    desk.settle()
    assert desk.project == kept
    day = window.desk.chart.camera_strip.grab().toImage().pixelColor(3, 3)
    desk.key("t", CTRL)
    assert theme.paper.night
    night = window.desk.chart.camera_strip.grab().toImage().pixelColor(3, 3)
    desk.key("t", CTRL)
    assert day.lightness() > 180 > 60 > night.lightness()
    desk.key(Key.Key_F11)
    assert not window.desk.chart.isVisible()
    desk.key(Key.Key_F11)
    assert window.desk.chart.isVisible()


def test_everything_has_a_name_and_a_way_by_keyboard(desk: Desk) -> None:
    window = desk.window
    for kind in (NumberField, Segments):
        for widget in window.findChildren(kind):
            assert widget.accessibleName()
            assert widget.toolTip() or kind is Segments
            assert widget.focusPolicy() & Qt.FocusPolicy.TabFocus
    reached = set()
    window.desk.header.open_button.setFocus()
    for _ in range(80):
        QTest.keyClick(QApplication.focusWidget(), Key.Key_Tab)
        reached.add(QApplication.focusWidget())
    assert {window.desk.chart.level, window.desk.panel.frame.angle, window.desk.panel.frame.edges} <= reached
