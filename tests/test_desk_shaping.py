"""Shaping on the chart and the picture: keys, hits, variants, plotted motion."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QRectF, Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from driver import Desk
from young_tremor.desk.picture import plotted_path
from young_tremor.desk.window.window_geometry import fit_screen
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.model import shot_edits
from young_tremor.model.project import Project
from young_tremor.model.shake import Drift, Jolts, Plotted, Stretch
from young_tremor.motion import sample

Key, SHIFT, CTRL = Qt.Key, Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def desk(qtbot: QtBot, footage: Path) -> Iterator[Desk]:
    """The window on two seconds of numbered footage under the walking preset."""
    project = shot_edits.add_shot(footage, preset_library.preset("walking"))(Project())
    made = Desk(qtbot, Session(project))
    made.settle()
    yield made
    made.close()


def test_intensity_is_shaped_with_keys_on_the_chart(desk: Desk) -> None:
    window, strip = desk.window, desk.window.desk.chart.level_strip
    editor, view = strip.editor, window.desk.view
    assert editor is not None
    window.desk.session.start(shot_edits.set_frame(desk.shot.id, edges="mirror")(desk.project))

    def keys() -> list[tuple[float, float]]:
        return [(round(k.t * 24, 3), round(k.value, 2)) for k in desk.shot.shake.intensity.keys]

    def x(frame: float) -> float:
        return view.frame_x(frame, strip.width())

    for frame, value in ((6, 1.0), (30, 0.0), (18, 1.6)):
        QTest.mouseDClick(strip, Qt.MouseButton.LeftButton, pos=QPoint(round(x(frame)), round(editor.y(value))))
    assert [k[0] for k in keys()] == [6, 18, 30]
    assert [k[1] for k in keys()] == [1.0, pytest.approx(1.6, abs=0.05), pytest.approx(0.0, abs=0.05)]
    desk.scrub(window.desk.chart.ruler, 40)
    shaken = desk.picture()
    desk.key("2")
    np.testing.assert_array_equal(desk.picture(), shaken)
    desk.key("1")
    assert window.desk.chart.level.value == pytest.approx(0, abs=5)
    high = editor.y(desk.shot.shake.intensity.keys[1].value)
    desk.drag(strip, (x(18), high), (x(22.3), editor.y(1.0)))
    assert keys()[1] == (22, pytest.approx(1.0, abs=0.05))
    assert window.desk.session.undo_label == "Move intensity key"
    desk.key(Key.Key_Right)
    desk.key(Key.Key_Up)
    assert keys()[1] == (23, pytest.approx(1.01, abs=0.05))
    assert desk.frame == 40
    desk.key("c", CTRL)
    desk.scrub(window.desk.chart.ruler, 44)
    strip.setFocus()
    desk.key("v", CTRL)
    assert [k[0] for k in keys()] == [6, 23, 30, 44]
    desk.drag(strip, (x(20), 2), (x(46), strip.height() - 1), modifiers=SHIFT)
    assert editor.chosen == (1, 2, 3)
    desk.key(Key.Key_Delete)
    assert [k[0] for k in keys()] == [6]
    desk.type_into(window.desk.chart.level, "50")
    assert [k[0] for k in keys()] == [6, 44]
    assert keys()[1][1] == 0.5
    steps = 0
    while window.desk.session.undo_label and steps < 30:
        desk.window.commands.action("undo").trigger()
        steps += 1
    assert desk.shot.shake.intensity.constant
    assert steps == 9


def test_hits_are_dropped_dragged_repeated_and_excite_jolts(desk: Desk) -> None:
    window, ruler = desk.window, desk.window.desk.chart.ruler
    steps, *_, flinch = desk.shot.shake.strands
    assert isinstance(flinch, Jolts)  # the walker's answer is no blow, so that the first hit brings one
    window.desk.session.start(shot_edits.set_shake(desk.shot.id, strands=(steps, flinch))(desk.project))
    desk.scrub(ruler, 12)
    desk.key("h")
    assert [hit.t for hit in desk.shot.hits] == [0.5]
    jolts = desk.shot.shake.strands[-1]
    assert isinstance(jolts, Jolts)
    desk.key("z", CTRL)
    assert (desk.shot.hits, desk.shot.shake.strands) == ((), (steps, flinch))
    desk.key("z", CTRL | SHIFT)
    x = window.desk.view.x(0.5, ruler.width())
    desk.drag(ruler, (x, 20), (window.desk.view.frame_x(24, ruler.width()), 20))
    assert desk.shot.hits[0].t == 1.0
    x = window.desk.view.x(1.0, ruler.width())
    desk.drag(ruler, (x, 20), (x + 1, -16))
    assert desk.shot.hits[0].strength == pytest.approx(1.6, abs=0.05)
    for strand in (steps, flinch):
        window.desk.chart._rows[strand.id].head.lamp.toggled.emit(False)
    desk.scrub(ruler, 20)
    before = desk.picture()
    desk.key("2")
    desk.key("1")
    moved = sample.sample(desk.shot.shake, np.array([20 / 24, 25 / 24]), hits=desk.shot.hits)
    assert not moved[0].any()
    assert moved[1].any()
    desk.scrub(ruler, 25)
    assert np.abs(desk.picture() - before).mean() > 1
    row = window.desk.chart._rows[jolts.id]
    desk.click(row.head, 60, 50)
    panel = window.desk.panel.jolts
    assert panel.isVisible()
    desk.type_into(panel.reach, "3")
    desk.type_into(row.second, "0.1")
    changed = desk.shot.shake.strands[-1]
    assert isinstance(changed, Jolts)
    assert (changed.reach, changed.settle) == (3, 0.1)
    desk.context(ruler, window.desk.view.x(1.0, ruler.width()), 20)
    desk.pick("every 0.5 s", "Repeat to the end")
    assert [hit.t for hit in desk.shot.hits] == [1.0, 1.5]
    assert "2 hits" in row.head.note
    desk.context(row.head, 60, 20)
    desk.pick("Duplicate")
    assert [type(s) for s in desk.shot.shake.strands] == [Drift, Jolts, Jolts, Jolts]
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
        row.strip,
        (window.desk.view.x(0.25, row.strip.width()) + 2, foot),
        (window.desk.view.x(0.75, row.strip.width()), foot),
    )
    assert desk.shot.shake.strands[2].stretch.start == 0.75
    assert window.desk.session.undo_label == "Active stretch"
    desk.key("e")
    assert not window.desk.picture.isVisible()
    filled = window.desk.chart._rows[desk.shot.shake.strands[3].id].strip
    desk.until(lambda: filled.height() > 500)
    desk.key("e")
    assert window.desk.picture.isVisible()
    head = window.desk.chart.level_head
    desk.drag(head, (60, head.height() - 2), (60, head.height() + 60))
    assert window.desk.chart.level_strip.height() == pytest.approx(108, abs=4)


def test_hits_found_in_the_sound_are_proposed_and_kept(qtbot: QtBot) -> None:
    desk = Desk(qtbot, Session(preset_library.demo_project()))
    desk.settle()
    window, chart = desk.window, desk.window.desk.chart
    window.desk.session.start(
        shot_edits.remove_hits("press-wide", frozenset(h.id for h in desk.shot.hits))(desk.project)
    )
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
    window, letters = desk.window, desk.window.desk.chart.letters
    desk.scrub(window.desk.chart.ruler, 20)
    first = desk.picture()
    desk.click(letters, 50 + 18 * 1.4, 10)
    assert (desk.shot.letters, desk.shot.variant) == (("A", "B"), "B")
    desk.type_into(window.desk.chart.level, "300")
    second = desk.picture()
    assert np.abs(second - first).mean() > 1
    desk.click(letters, 50 + 9, 10)
    assert desk.shot.variant == "A"
    np.testing.assert_array_equal(desk.picture(), first)
    desk.context(letters, 50 + 18 + 9, 10)
    desk.pick("Compare with B")
    desk.settle()
    shown = window.desk.picture.picture
    assert shown is not None
    assert shown.still is not None
    np.testing.assert_array_equal(shown.still, second)
    assert window.desk.picture.names == ("A", "B")
    desk.key("p")
    popup = window.desk.popup
    QTest.keyClicks(popup.keep.name, "Night aisle")
    QTest.keyClick(popup.keep.name, Key.Key_Return)
    assert preset_library.preset("night aisle").shake.strands == desk.shot.shake.strands
    popup.hide()
    desk.back()
    desk.key("z", CTRL)
    assert desk.shot.variant == "B"


def test_motion_is_plotted_by_dragging_the_picture(desk: Desk) -> None:
    window, panel = desk.window, desk.window.desk.panel.plotted
    window.desk.session.start(shot_edits.set_frame(desk.shot.id, edges="hold")(desk.project))
    desk.settle()
    desk.click(window.desk.chart._add)
    desk.pick("Plotted")
    assert panel.isVisible()

    def strand() -> Plotted:
        found = desk.shot.shake.strands[-1]
        assert isinstance(found, Plotted)
        return found

    desk.type_into(panel.ahead, "12")
    rect = window.desk.picture.frame_rect()
    middle = (rect.center().x(), rect.center().y())
    unit = rect.height() / 100
    for way in ((4, 0), (0, 3), (-4, -2)):
        desk.drag(window.desk.picture, middle, (middle[0] + way[0] * unit, middle[1] + way[1] * unit))
    assert desk.frame == 36
    assert [round(key.t * 24) for key in strand().x.keys] == [0, 12, 24]
    assert [key.value for key in strand().x.keys] == [pytest.approx(v, abs=0.4) for v in (4, 4, 0)]
    assert [key.value for key in strand().y.keys] == [pytest.approx(v, abs=0.4) for v in (0, 3, 1)]
    assert window.desk.session.undo_label == "Plot a move"
    desk.type_into(panel.ahead, "0")
    place = plotted_path.places(QRectF(window.desk.picture.frame_rect()), window.desk.picture._path[1])[1]  # type: ignore[index]
    desk.drag(window.desk.picture, (place.x(), place.y()), (place.x() - 2 * unit, place.y()), modifiers=CTRL)
    assert strand().x.keys[1].value == pytest.approx(2, abs=0.5)
    assert len(strand().x.keys) == 3
    handle = plotted_path.handles(QRectF(window.desk.picture.frame_rect()))["roll"]
    desk.drag(window.desk.picture, (handle.x(), handle.y()), (handle.x(), handle.y() + 20))
    turned = strand().roll.keys[0]
    assert round(turned.t * 24) == 36
    assert turned.value == pytest.approx(np.degrees(np.arctan2(20, rect.width() * 0.3)), abs=0.6)
    desk.type_into(panel.values["zoom"], "2.5")
    assert strand().zoom.keys[0].value == 2.5
    desk.scrub(window.desk.chart.ruler, 12)
    assert panel.values["y"].value == pytest.approx(3, abs=0.4)
    panel._choose("y")
    row = window.desk.chart._rows[strand().id]
    QTest.mouseDClick(
        row.strip,
        Qt.MouseButton.LeftButton,
        pos=QPoint(round(window.desk.view.frame_x(6, row.strip.width())), round(row.plotter.y(0.0))),
    )
    assert [round(key.t * 24) for key in strand().y.keys] == [0, 6, 12, 24]
    desk.click(panel.repeat, 8, panel.repeat.height() / 2)
    assert strand().repeat


def test_a_numbers_own_menu_offers_to_shape_it(desk: Desk) -> None:
    row = desk.window.desk.chart._rows[desk.shot.shake.strands[0].id]
    for rule, words in ((row.amount, "amount"), (row.second, "rate")):
        desk.context(rule, rule.width() / 2, rule.height() / 2)
        desk.pick(f"Shape the {words} over time")
        assert row.strip.editor is row.editors[words]


def test_the_window_is_no_larger_than_the_screen_leaves_room_for(desk: Desk) -> None:
    window = desk.window
    room = window.screen().availableGeometry()
    window.setGeometry(room.right() - 40, room.bottom() - 40, room.width() + 300, room.height() + 300)
    fit_screen(window)
    frame = window.frameGeometry()
    assert (frame.left(), frame.top(), frame.bottom()) == (room.left(), room.top(), room.bottom())


def test_a_strand_of_an_old_file_says_so_and_takes_todays_rule(desk: Desk) -> None:
    strand = desk.shot.shake.strands[0]
    desk.window.desk.session.apply("Old", shot_edits.set_strand(desk.shot.id, strand.id, rule=1))
    desk.window.desk.state.choose(strand=strand.id)
    desk.settle()
    older = desk.window.desk.panel.drift.older
    assert older.isVisible()
    desk.click(older)
    assert desk.shot.shake.strands[0] == strand
    assert not older.isVisible()
