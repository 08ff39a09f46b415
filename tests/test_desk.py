"""The window as a person uses it: mouse, keys, and what document and pixels say afterwards."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from clips import clip, number_of
from driver import Desk
from young_tremor.desk import theme
from young_tremor.desk.heads import AMOUNT
from young_tremor.desk.rule import Rule
from young_tremor.desk.transport import Segments
from young_tremor.engine import actions, library
from young_tremor.engine.playback import SilentDevice
from young_tremor.engine.session import Session
from young_tremor.model import edits
from young_tremor.model.project import Project
from young_tremor.model.shake import Drift, Jolts, Plotted, Stretch
from young_tremor.motion import sample

Key, SHIFT, CTRL = Qt.Key, Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def desk(qtbot: QtBot, footage: Path) -> Iterator[Desk]:
    """The window on two seconds of numbered footage under the walking preset."""
    project = edits.add_shot(footage, library.preset("walking"))(Project())
    made = Desk(qtbot, Session(project))
    made.settle()
    yield made
    made.close()


def shown_number(desk: Desk) -> int:
    desk.window.set_mode("still")
    return number_of(desk.picture()[..., 1])


def test_opening_by_drop_and_dialog_and_what_cannot_be_opened(qtbot, footage, tmp_path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    desk = Desk(qtbot)
    assert "Ctrl+O" in desk.window.picture.hint
    desk.open(footage)
    assert [s.name for s in desk.project.shots] == ["wall"]
    assert desk.shot.shake.preset == library.DEFAULT_PRESET
    other = clip(tmp_path / "rack.mp4", frames=30)
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, **k: ([str(other)], ""))
    desk.key("o", CTRL)
    desk.until(lambda: len(desk.project.shots) == 2)
    assert desk.window.view.frames == 30
    torn = tmp_path / "torn.mp4"
    torn.write_text("no footage")
    before = desk.project
    desk.drop(torn)
    desk.until(lambda: "torn.mp4 cannot be read" in desk.said())
    assert desk.project is before
    foreign = tmp_path / "foreign.tremor"
    foreign.write_text("{}")
    monkeypatch.setattr(desk.window.files, "may_leave", lambda: True)
    desk.drop(foreign)
    assert "foreign.tremor is not a young-tremor project" in desk.said()
    assert desk.project is before
    desk.window.reel._prints[desk.project.shots[0].id].mousePressEvent(None)
    desk.settle()
    assert desk.shot.name == "wall"
    desk.close()


def test_a_rule_is_typed_dragged_turned_and_reset_and_each_is_one_step(desk: Desk) -> None:
    row = next(iter(desk.window.chart._rows.values()))
    first = desk.picture()

    def amount() -> float:
        return desk.shot.shake.strands[0].amount.value

    desk.type_into(row.amount, "350 %")
    assert amount() == 3.5
    assert np.abs(desk.picture() - first).mean() > 1
    assert desk.window.session.undo_label == "Amount"
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
    done = []
    while (label := desk.window.session.undo_label) and len(done) < 20:
        done.append(label)
        desk.key("z", CTRL)
    assert done == ["Amount"] * 6
    assert "Undone: Amount" in desk.said()
    np.testing.assert_array_equal(desk.picture(), first)
    desk.key("z", CTRL | SHIFT)
    assert amount() == 3.5


@pytest.mark.parametrize("value", [0.0, 37.0, 100.0, 200.0])
def test_scales_are_there_and_back_and_read_what_they_write(value: float) -> None:
    assert AMOUNT.value(AMOUNT.place(value)) == pytest.approx(value)
    assert AMOUNT.read(AMOUNT.text(value)) == value
    assert AMOUNT.read("1e99") == AMOUNT.most
    assert AMOUNT.read("nan") is None


def test_scrubbing_and_keys_show_the_very_frame(desk: Desk) -> None:
    window = desk.window
    for widget in (window.chart.ruler, window.chart.camera_strip):
        for frame in (31, 5):
            desk.scrub(widget, frame)
            assert desk.frame == frame
            assert shown_number(desk) == frame
    steps = (
        (Key.Key_Right, Qt.KeyboardModifier.NoModifier, 6), (Key.Key_Right, SHIFT, 30),
        (Key.Key_Left, Qt.KeyboardModifier.NoModifier, 29), (Key.Key_End, Qt.KeyboardModifier.NoModifier, 47),
        (Key.Key_Home, Qt.KeyboardModifier.NoModifier, 0),
    )  # fmt: skip
    for key, modifiers, frame in steps:
        desk.key(key, modifiers)
        assert desk.frame == frame
    assert shown_number(desk) == 0
    desk.wheel(window.chart.ruler, 4, x=0)
    assert window.view.t1 < 1.0
    desk.scrub(window.chart.ruler, 10)
    assert desk.frame == 10
    desk.key("f")
    assert (window.view.t0, window.view.t1) == (0.0, 2.0)


def test_comparing_with_the_still_original(desk: Desk) -> None:
    window = desk.window
    desk.scrub(window.chart.ruler, 20)
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
    desk.key("5")
    np.testing.assert_array_equal(desk.picture(), np.abs(shaken - still))
    desk.key("3")
    desk.settle()
    rect = window.picture.frame_rect()
    x, y = rect.left() + rect.width() * window.picture.split, rect.center().y()
    desk.drag(window.picture, (x, y), (rect.left() + rect.width() * 0.25, y))
    assert window.picture.split == pytest.approx(0.25, abs=0.01)
    image = window.picture.grab().toImage()
    line = image.pixelColor(rect.left() + round(rect.width() * 0.25), rect.top() + 20)
    assert line.name() == theme.GREASE


def test_intensity_is_dragged_on_the_chart_and_zero_is_stillness(desk: Desk) -> None:
    window = desk.window
    desk.scrub(window.chart.ruler, 12)
    strip = window.chart.level_strip
    desk.drag(strip, (200, strip.editor.y(1.0)), (240, strip.height() - 1))
    assert desk.shot.shake.intensity.value == 0
    assert window.chart.camera_head.peak.startswith("peak 0.0 px")
    shaken = desk.picture()
    desk.key("2")
    np.testing.assert_array_equal(desk.picture(), shaken)
    assert window.panel.frame._values["crop"].text() == "1.000"
    desk.key("z", CTRL)
    assert desk.shot.shake.intensity.value == 1
    assert window.session.undo_label is None
    row = next(iter(window.chart._rows.values()))
    desk.click(row.head.lamp)
    assert [s.on for s in desk.shot.shake.strands] == [False, True]


def test_edges_their_cost_and_the_way_to_the_worst_frame(desk: Desk) -> None:
    frame, window = desk.window.panel.frame, desk.window
    desk.until(lambda: frame.status.text() == "covers every frame")
    assert float(frame._values["crop"].text()) > 1.005
    frame.edges.setFocus()
    for _ in range(4):
        desk.key(Key.Key_Up)
    assert desk.shot.frame.edges == "open"
    desk.until(lambda: "show an edge" in frame.status.text())
    assert window.chart.camera_strip.gaps is not None
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
    window, panel = desk.window, desk.window.panel.drift
    row = next(iter(window.chart._rows.values()))
    desk.click(row.head, 60, 50)
    assert panel.isVisible()
    desk.type_into(panel.reaches["roll"], "2")
    assert desk.shot.shake.strands[0].channels.roll.reach == 2
    desk.type_into(panel.roughness, "0.8")
    desk.type_into(panel.wander, "0.5")
    assert (desk.shot.shake.strands[0].roughness, desk.shot.shake.strands[0].wander.depth) == (0.8, 0.5)
    seed = desk.shot.shake.strands[0].seed
    another = next(w for w in panel.findChildren(type(window.header.render_button)) if w.text() == "Another course")
    desk.click(another)
    assert desk.shot.shake.strands[0].seed != seed
    panel.name.setFocus()
    panel.name.selectAll()
    QTest.keyClicks(panel.name, "Steps C")
    desk.key(Key.Key_Return)
    assert desk.shot.shake.strands[0].name == "Steps C"
    desk.click(window.chart._add)
    desk.pick("Drift")
    assert len(desk.shot.shake.strands) == 3
    window.chart.setFocus()
    desk.key(Key.Key_Escape)
    assert window.panel.frame.isVisible()
    desk.key("p")
    popup = window.popup
    QTest.keyClicks(popup.search, "springs body")
    assert [popup.list.item(n).text() for n in range(popup.list.count())] == ["Car, good road"]
    QTest.keyClick(popup.search, Key.Key_Return)
    desk.back()
    assert desk.shot.shake.preset == "Car, good road"
    count = len(desk.shot.shake.strands)
    desk.key("p")
    popup._choose_group("impact")
    assert popup.list.count() == 6
    window.deeds.apply_preset(library.preset("press strike"), True)
    popup.hide()
    desk.back()
    assert len(desk.shot.shake.strands) == count + 1
    assert "press H" in desk.said()
    desk.key("z", CTRL)
    desk.key("z", CTRL)
    assert len(desk.shot.shake.strands) == 3


def test_intensity_is_shaped_with_keys_on_the_chart(desk: Desk) -> None:
    window, strip = desk.window, desk.window.chart.level_strip
    editor, view = strip.editor, window.view
    assert editor is not None
    window.session.start(edits.set_frame(desk.shot.id, edges="mirror")(desk.project))

    def keys() -> list[tuple[float, float]]:
        return [(round(k.t * 24, 3), round(k.value, 2)) for k in desk.shot.shake.intensity.keys]

    def x(frame: float) -> float:
        return view.frame_x(frame, strip.width())

    for frame, value in ((6, 1.0), (30, 0.0), (18, 1.6)):
        QTest.mouseDClick(strip, Qt.MouseButton.LeftButton, pos=QPoint(round(x(frame)), round(editor.y(value))))
    assert [k[0] for k in keys()] == [6, 18, 30]
    assert [k[1] for k in keys()] == [1.0, pytest.approx(1.6, abs=0.05), pytest.approx(0.0, abs=0.05)]
    desk.scrub(window.chart.ruler, 40)
    shaken = desk.picture()
    desk.key("2")
    np.testing.assert_array_equal(desk.picture(), shaken)
    desk.key("1")
    assert window.chart.level.value == pytest.approx(0, abs=5)
    high = editor.y(desk.shot.shake.intensity.keys[1].value)
    desk.drag(strip, (x(18), high), (x(22.3), editor.y(1.0)))
    assert keys()[1] == (22, pytest.approx(1.0, abs=0.05))
    assert window.session.undo_label == "Move intensity key"
    desk.key(Key.Key_Right)
    desk.key(Key.Key_Up)
    assert keys()[1] == (23, pytest.approx(1.01, abs=0.05))
    assert desk.frame == 40
    desk.key("c", CTRL)
    desk.scrub(window.chart.ruler, 44)
    strip.setFocus()
    desk.key("v", CTRL)
    assert [k[0] for k in keys()] == [6, 23, 30, 44]
    desk.drag(strip, (x(20), 2), (x(46), strip.height() - 1), modifiers=SHIFT)
    assert editor.chosen == (1, 2, 3)
    desk.key(Key.Key_Delete)
    assert [k[0] for k in keys()] == [6]
    desk.type_into(window.chart.level, "50")
    assert [k[0] for k in keys()] == [6, 44]
    assert keys()[1][1] == 0.5
    steps = 0
    while window.session.undo_label and steps < 30:
        desk.window.undo_action.trigger()
        steps += 1
    assert desk.shot.shake.intensity.constant
    assert steps == 9


def test_hits_are_dropped_dragged_repeated_and_excite_jolts(desk: Desk) -> None:
    window, ruler = desk.window, desk.window.chart.ruler
    desk.scrub(ruler, 12)
    desk.key("h")
    assert [hit.t for hit in desk.shot.hits] == [0.5]
    jolts = desk.shot.shake.strands[-1]
    assert isinstance(jolts, Jolts)
    desk.key("z", CTRL)
    assert (desk.shot.hits, len(desk.shot.shake.strands)) == ((), 2)
    desk.key("z", CTRL | SHIFT)
    x = window.view.x(0.5, ruler.width())
    desk.drag(ruler, (x, 20), (window.view.frame_x(24, ruler.width()), 20))
    assert desk.shot.hits[0].t == 1.0
    x = window.view.x(1.0, ruler.width())
    desk.drag(ruler, (x, 20), (x + 1, -16))
    assert desk.shot.hits[0].strength == pytest.approx(1.6, abs=0.05)
    window.chart._rows[desk.shot.shake.strands[0].id].head.lamp.toggled.emit(False)
    window.chart._rows[desk.shot.shake.strands[1].id].head.lamp.toggled.emit(False)
    desk.scrub(ruler, 20)
    before = desk.picture()
    desk.key("2")
    desk.key("1")
    moved = sample.sample(desk.shot.shake, np.array([20 / 24, 25 / 24]), hits=desk.shot.hits)
    assert not moved[0].any()
    assert moved[1].any()
    desk.scrub(ruler, 25)
    assert np.abs(desk.picture() - before).mean() > 1
    row = window.chart._rows[jolts.id]
    desk.click(row.head, 60, 50)
    panel = window.panel.jolts
    assert panel.isVisible()
    desk.type_into(panel.reach, "3")
    desk.type_into(row.second, "0.1")
    changed = desk.shot.shake.strands[-1]
    assert isinstance(changed, Jolts)
    assert (changed.reach, changed.settle) == (3, 0.1)
    desk.context(ruler, window.view.x(1.0, ruler.width()), 20)
    desk.pick("every 0.5 s", "Repeat to the end")
    assert [hit.t for hit in desk.shot.hits] == [1.0, 1.5]
    assert "2 hits" in row.head.note
    desk.context(row.head, 60, 20)
    desk.pick("Duplicate")
    assert [type(s) for s in desk.shot.shake.strands] == [Drift, Drift, Jolts, Jolts]
    desk.context(row.head, 60, 20)
    desk.pick("Solo")
    assert desk.shot.shake.strands[2].solo
    desk.key("x")
    desk.scrub(ruler, 6)
    desk.key("i")
    desk.scrub(ruler, 35)
    desk.key("o")
    desk.context(row.head, 60, 20)
    desk.pick("Act in a stretch only")
    assert desk.shot.shake.strands[2].stretch == Stretch(0.25, 1.5, 0.24, 0.24)
    foot = row.strip.height() - 4
    desk.drag(
        row.strip, (window.view.x(0.25, row.strip.width()) + 2, foot), (window.view.x(0.75, row.strip.width()), foot)
    )
    assert desk.shot.shake.strands[2].stretch.start == 0.75
    assert window.session.undo_label == "Active stretch"
    desk.key("e")
    assert not window.picture.isVisible()
    filled = window.chart._rows[desk.shot.shake.strands[3].id].strip
    desk.until(lambda: filled.height() > 500)
    desk.key("e")
    assert window.picture.isVisible()
    head = window.chart.level_head
    desk.drag(head, (60, head.height() - 2), (60, head.height() + 60))
    assert window.chart.level_strip.height() == pytest.approx(108, abs=4)


def test_hits_found_in_the_sound_are_proposed_and_kept(qtbot: QtBot) -> None:
    desk = Desk(qtbot, Session(library.demo_project()))
    desk.settle()
    window, chart = desk.window, desk.window.chart
    window.session.start(edits.remove_hits("press-wide", frozenset(h.id for h in desk.shot.hits))(desk.project))
    desk.settle()
    before = desk.project
    desk.key("h", SHIFT)
    desk.until(lambda: chart.hits.found is not None)
    row = chart.hits.found
    assert row is not None
    assert row.keep.text() == "Keep 3"
    assert len(chart.ruler.proposed) == 3
    assert desk.project is before
    strip = row.strip_
    desk.drag(strip, (300, strip._y(strip.threshold)), (300, strip._y(0.95)))
    assert row.keep.text() == "Keep 1"
    desk.drag(strip, (300, strip._y(strip.threshold)), (300, strip._y(0.5)))
    desk.click(row.keep)
    np.testing.assert_allclose([hit.t for hit in desk.shot.hits], [3.125, 6.5, 8.75], atol=1 / 24)
    assert any(isinstance(strand, Jolts) for strand in desk.shot.shake.strands)
    assert chart.hits.found is None
    assert not len(chart.ruler.proposed)
    desk.key("z", CTRL)
    assert desk.project == before
    desk.close()


def test_variants_are_switched_and_compared_on_the_chart(desk: Desk) -> None:
    window, letters = desk.window, desk.window.chart.letters
    desk.scrub(window.chart.ruler, 20)
    first = desk.picture()
    desk.click(letters, 50 + 18 * 1.4, 10)
    assert (desk.shot.letters, desk.shot.variant) == (("A", "B"), "B")
    desk.type_into(window.chart.level, "300")
    second = desk.picture()
    assert np.abs(second - first).mean() > 1
    desk.click(letters, 50 + 9, 10)
    assert desk.shot.variant == "A"
    np.testing.assert_array_equal(desk.picture(), first)
    desk.context(letters, 50 + 18 + 9, 10)
    desk.pick("Compare with B")
    desk.settle()
    shown = window.picture.picture
    assert shown is not None
    assert shown.still is not None
    np.testing.assert_array_equal(shown.still, second)
    assert window.picture.names == ("A", "B")
    desk.key("p")
    popup = window.popup
    QTest.keyClicks(popup.name, "Night aisle")
    QTest.keyClick(popup.name, Key.Key_Return)
    assert library.preset("night aisle").shake.strands == desk.shot.shake.strands
    popup.hide()
    desk.back()
    desk.key("z", CTRL)
    assert desk.shot.variant == "B"


def test_motion_is_plotted_by_dragging_the_picture(desk: Desk) -> None:
    window, panel = desk.window, desk.window.panel.plotted
    window.session.start(edits.set_frame(desk.shot.id, edges="hold")(desk.project))
    desk.settle()
    desk.click(window.chart._add)
    desk.pick("Plotted")
    assert panel.isVisible()

    def strand() -> Plotted:
        found = desk.shot.shake.strands[-1]
        assert isinstance(found, Plotted)
        return found

    desk.type_into(panel.ahead, "12")
    rect = window.picture.frame_rect()
    middle = (rect.center().x(), rect.center().y())
    unit = rect.height() / 100
    for way in ((4, 0), (0, 3), (-4, -2)):
        desk.drag(window.picture, middle, (middle[0] + way[0] * unit, middle[1] + way[1] * unit))
    assert desk.frame == 36
    assert [round(key.t * 24) for key in strand().x.keys] == [0, 12, 24]
    assert [key.value for key in strand().x.keys] == [pytest.approx(v, abs=0.4) for v in (4, 4, 0)]
    assert [key.value for key in strand().y.keys] == [pytest.approx(v, abs=0.4) for v in (0, 3, 1)]
    assert window.session.undo_label == "Plot a move"
    desk.type_into(panel.ahead, "0")
    place = window.picture._on_picture(window.picture._path[1])[1]  # type: ignore[index]
    desk.drag(window.picture, (place.x(), place.y()), (place.x() - 2 * unit, place.y()))
    assert strand().x.keys[1].value == pytest.approx(2, abs=0.5)
    assert len(strand().x.keys) == 3
    handle = window.picture._handles()["roll"]
    desk.drag(window.picture, (handle.x(), handle.y()), (handle.x(), handle.y() + 20))
    turned = strand().roll.keys[0]
    assert round(turned.t * 24) == 36
    assert turned.value == pytest.approx(np.degrees(np.arctan2(20, rect.width() * 0.3)), abs=0.6)
    desk.type_into(panel.values["zoom"], "2.5")
    assert strand().zoom.keys[0].value == 2.5
    desk.scrub(window.chart.ruler, 12)
    assert panel.values["y"].value == pytest.approx(3, abs=0.4)
    panel._choose("y")
    row = window.chart._rows[strand().id]
    QTest.mouseDClick(
        row.strip, Qt.MouseButton.LeftButton,
        pos=QPoint(round(window.view.frame_x(6, row.strip.width())), round(row.plotter.y(0.0))),
    )  # fmt: skip
    assert [round(key.t * 24) for key in strand().y.keys] == [0, 6, 12, 24]
    desk.click(panel.repeat, 8, panel.repeat.height() / 2)
    assert strand().repeat


class Hand:
    """A clock that a test turns."""

    now = 100.0

    def __call__(self) -> float:
        return self.now


def test_playing_keeps_time_drops_frames_and_loops(qtbot: QtBot, footage: Path) -> None:
    clock = Hand()
    project = edits.add_shot(footage, library.preset("walking"))(Project())
    desk = Desk(qtbot, Session(project), SilentDevice(clock))
    desk.settle()
    window, stage = desk.window, desk.window.stage
    desk.scrub(window.chart.ruler, 10)
    desk.key("i")
    desk.scrub(window.chart.ruler, 20)
    desk.key("o")
    assert window.view.marks == (10, 20)
    desk.until(lambda: stage.preview.ready(stage._request)[10:21].all())
    desk.click(window.transport.button)
    desk.until(lambda: desk.frame == 10)
    for seconds, frame in ((1 / 24, 11), (2 / 24, 12), (5 / 24, 15)):
        clock.now = 100.0 + seconds + 1e-4
        desk.until(lambda frame=frame: desk.frame == frame)  # type: ignore[misc]
    assert stage.player is not None
    assert (stage.player.shown, stage.player.dropped) == (4, 2)
    clock.now += 11 / 24
    desk.until(lambda: desk.frame == 10)
    assert stage.playing
    desk.key(" ")
    assert not stage.playing
    desk.key("x")
    assert window.view.marks is None
    desk.close()


def test_rendering_from_the_sheet(desk: Desk, tmp_path: Path) -> None:
    window, sheet = desk.window, desk.window.sheet
    desk.key("r", CTRL)
    assert sheet.isVisible()
    out = tmp_path / "proof.mp4"
    sheet.path.selectAll()
    QTest.keyClicks(sheet.path, str(out))
    desk.click(sheet.clean, 8, sheet.clean.height() / 2)
    with desk.bot.waitSignal(sheet.progressed, timeout=20000, check_params_cb=lambda words: words == ""):
        desk.click(sheet.start)
    assert "Written: proof.mp4 and proof clean.mp4" in sheet.state.text()
    facts = actions.describe(out)
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
    assert "/nowhere/at is not there" in sheet.state.text()
    desk.key(Key.Key_Escape)
    assert not sheet.isVisible()
    assert window.header.render_button.text() == "Render"


def test_saving_reopening_night_paper_and_full_screen(desk: Desk, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    window = desk.window
    path = tmp_path / "proof.tremor"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path.with_suffix("")), ""))
    desk.type_into(window.chart.pace, "1.5")
    assert window.session.dirty
    desk.key("s", CTRL)
    assert path.exists()
    assert not window.session.dirty
    kept = desk.project
    window.session.start(Project())
    assert not desk.project.shots
    desk.drop(path)
    desk.settle()
    assert desk.project == kept
    day = window.chart.camera_strip.grab().toImage().pixelColor(3, 3)
    desk.key("t", CTRL)
    assert theme.paper.night
    night = window.chart.camera_strip.grab().toImage().pixelColor(3, 3)
    desk.key("t", CTRL)
    assert day.lightness() > 180 > 60 > night.lightness()
    desk.key(Key.Key_F11)
    assert not window.chart.isVisible()
    desk.key(Key.Key_F11)
    assert window.chart.isVisible()


def test_everything_has_a_name_and_a_way_by_keyboard(desk: Desk) -> None:
    window = desk.window
    for kind in (Rule, Segments):
        for widget in window.findChildren(kind):
            assert widget.accessibleName()
            assert widget.toolTip() or kind is Segments
            assert widget.focusPolicy() & Qt.FocusPolicy.TabFocus
    reached = set()
    window.header.project.setFocus()
    for _ in range(80):
        QTest.keyClick(QApplication.focusWidget(), Key.Key_Tab)
        reached.add(QApplication.focusWidget())
    assert {window.chart.level, window.panel.frame.angle, window.panel.frame.edges} <= reached
