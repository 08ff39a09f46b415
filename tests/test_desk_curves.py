"""Curves of the frame, presets that travel, figures, and a whole evening's work with the mouse."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from driver import Desk
from young_tremor.desk.chart.curve_rows import CurveRow
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_diff, preset_library, settings
from young_tremor.model import shot_edits
from young_tremor.model.project import Preset, Project
from young_tremor.model.shake import Drift, Jolts, Shake

Key, SHIFT, CTRL = Qt.Key, Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier
LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def desk(qtbot: QtBot, footage: Path) -> Iterator[Desk]:
    """The window on two seconds of numbered footage under the walking preset."""
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, preset_library.preset("walking"))(Project())))
    made.settle()
    yield made
    made.close()


def key_at(desk: Desk, row: CurveRow, frame: float, value: float) -> None:
    """Double click a key onto a row."""
    editor = row.strip.editor
    assert editor is not None
    at = QPoint(round(desk.window.desk.view.frame_x(frame, row.strip.width())), round(editor.y(value)))
    QTest.mouseDClick(row.strip, LEFT, pos=at)


def test_shutter_crop_and_pivot_are_curves_on_rows_of_their_own(desk: Desk) -> None:
    window, chart, frame = desk.window, desk.window.desk.chart, desk.window.desk.panel.frame
    desk.context(frame.angle, 30, 10)
    desk.pick("Shape it over time")
    row = chart.curves["Shutter"]
    assert row.row.isVisible()
    desk.until(lambda: row.strip.height() > 20)
    key_at(desk, row, 4, 540.0)
    key_at(desk, row, 30, 60.0)
    keys = desk.shot.frame.shutter.angle.keys
    assert [round(k.t * 24) for k in keys] == [4, 30]
    assert [k.value for k in keys] == [pytest.approx(540, abs=15), pytest.approx(60, abs=15)]
    desk.scrub(chart.ruler, 4)
    desk.type_into(chart.level, "500")
    blurred = desk.picture()
    assert frame.angle.value == pytest.approx(540, abs=15)
    desk.type_into(row.rules["Shutter angle"], "0")
    assert desk.shot.frame.shutter.angle.keys[0].value == 0
    assert np.abs(np.diff(desk.picture(), axis=1)).mean() > np.abs(np.diff(blurred, axis=1)).mean()
    desk.type_into(chart.level, "100")
    chart.paper.toggle_row("Crop")
    chart.paper.toggle_row("Pivot")
    before = desk.picture()
    desk.type_into(chart.curves["Crop"].rules["Crop by hand"], "1.5")
    assert desk.shot.frame.crop.value == 1.5
    assert np.abs(desk.picture() - before).mean() > 5
    assert frame._values["crop"].text() == "1.000"  # what is cropped by hand is enough for the edges
    pivot = chart.curves["Pivot"]
    key_at(desk, pivot, 10, 0.4)
    desk.context(pivot.strip, 5, 5)
    desk.pick("Edit Pivot Y")
    key_at(desk, pivot, 10, -0.5)
    key_at(desk, pivot, 20, 0.5)
    place = desk.shot.frame.pivot
    assert (len(place.x.keys), len(place.y.keys)) == (1, 2)
    assert len(pivot._lines(0, 2, 100)) == 2
    level = chart.curves["Intensity"]
    desk.context(level.strip, 5, 5)
    desk.pick("Pivot Y", "See along with it")
    assert len(level._lines(0, 2, 100)) == 2
    desk.context(pivot.strip, 5, 5)
    desk.pick("Fit the view to the keys")
    assert (window.desk.view.t0, window.desk.view.t1) == (
        pytest.approx(0.385, abs=0.02),
        pytest.approx(0.865, abs=0.02),
    )
    desk.key("f")
    assert window.desk.view.t1 == pytest.approx(2.0)


def test_presets_are_starred_kept_by_strand_exported_and_taken_in_again(desk: Desk, tmp_path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    window, popup = desk.window, desk.window.desk.popup
    first = desk.shot.shake.strands[0]
    window.desk.session.apply("Frame", shot_edits.set_frame(desk.shot.id, edges="mirror", focal_mm=85.0))
    window.desk.session.apply("Amount", shot_edits.set_strand(desk.shot.id, first.id, step=12.0))
    row = window.desk.chart._rows[first.id]
    assert row.head.changed
    assert window.desk.chart.level_head.changed
    desk.context(row.head, 60, 50)
    desk.pick("Save as preset…")
    assert popup.keep.what.currentData() == first.id
    popup.keep.save_frame.setChecked(True)
    QTest.keyClicks(popup.keep.name, "Aisle steps")
    QTest.keyClicks(popup.keep.note, "After the aisle, on twos.")
    QTest.keyClick(popup.keep.note, Key.Key_Return)
    kept = preset_library.preset("aisle steps")
    assert (kept.edges, kept.focal_mm, kept.note) == ("mirror", 85.0, "After the aisle, on twos.")
    assert kept.shake.strands == (desk.shot.shake.strands[0],)
    popup._choose_group("own")
    popup._star(popup.list.item(0))
    assert settings.load().favourites == ("Aisle steps",)
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a, **k: str(tmp_path))
    popup.keep._export_each()
    preset_library.remove_own("Aisle steps")
    (tmp_path / "broken.json").write_text("{")
    popup.keep._folder()
    assert "1 preset taken in" in desk.said()
    assert preset_library.preset("aisle steps") == kept
    window.desk.session.apply("Other", shot_edits.set_frame(desk.shot.id, edges="crop", focal_mm=24.0))
    window.desk.session.apply(
        "Level", shot_edits.set_shake(desk.shot.id, intensity=desk.shot.shake.intensity.__class__(0.3))
    )
    desk.key("p")
    popup._choose_group("favourites")
    assert popup.listed == ("Aisle steps",)
    popup.keep_amount.setChecked(True)
    popup.with_frame.setChecked(True)
    QTest.keyClick(popup.search, Key.Key_Return)
    desk.back()
    assert (desk.shot.frame.edges, desk.shot.frame.focal_mm) == ("mirror", 85.0)
    assert desk.shot.shake.intensity.value == 0.3
    head = window.desk.chart.level_head
    assert head.changed
    desk.context(head, 60, 40)
    desk.pick("Reset to Aisle steps")
    assert not window.desk.chart.level_head.changed
    strand = desk.shot.shake.strands[0]
    desk.type_into(window.desk.chart._rows[strand.id].amount, "30")
    desk.context(window.desk.chart._rows[strand.id].head, 60, 50)
    desk.pick("Reset to Aisle steps")
    assert not preset_diff.is_changed(desk.shot.shake)
    desk.key("p")
    popup._margin(preset_library.preset("walking"))
    assert "wider" in desk.said()
    assert not popup.isVisible()
    desk.back()
    desk.context(window.desk.chart.ruler, 300, 15)
    desk.pick("40 ms", "Latency of tapped hits")
    assert settings.load().tap_lag == 0.04


def test_figures_beside_the_picture_and_both_pictures_whole(desk: Desk) -> None:
    window, view = desk.window, desk.window.desk.figures
    desk.scrub(window.desk.chart.ruler, 6)
    desk.key("i")
    desk.scrub(window.desk.chart.ruler, 41)
    desk.key("o")
    desk.key("g")
    desk.until(lambda: view.plot.found is not None)
    assert view.isVisible()
    assert view.stretch.text() == "0.25 – 1.75 s"
    tilt = next(row for row in view.table.rows if row.channel == "tilt")
    strand = next(s for s in desk.shot.shake.strands if isinstance(s, Drift))
    window.desk.state.choose(strand=strand.id)
    desk.until(lambda: view.subject.text() == strand.name and view.table.rows[-1].peak != tilt.peak)
    window.desk.state.choose(strand=None)
    desk.key("g")
    assert not view.isVisible()
    desk.key("4")
    desk.settle()
    shown = window.desk.picture.picture
    assert shown is not None
    assert shown.still is not None
    assert np.abs(shown.rgb.astype(int) - shown.still).mean() > 2
    image = window.desk.picture.grab().toImage()
    rect = window.desk.picture.rect()
    left, right = (image.pixelColor(rect.center().x() + way * rect.width() // 4, rect.center().y()) for way in (-1, 1))
    assert left != right


def test_a_still_lead_in_a_build_up_three_blows_and_a_tail(qtbot: QtBot) -> None:
    """What the README promises, with the mouse and a few keys, from the demo's own clip without any shake."""
    clip = preset_library.DEMO.parent / "press-wide.mp4"
    desk = Desk(qtbot, Session(shot_edits.add_shot(clip, Preset("none", "own", "", Shake()))(Project())))
    desk.settle()
    window, strip = desk.window, desk.window.desk.chart.level_strip
    acts = 0

    def did(count: int = 1) -> None:
        nonlocal acts
        acts += count

    desk.key("p")
    QTest.keyClicks(window.desk.popup.search, "standing")
    QTest.keyClick(window.desk.popup.search, Key.Key_Return)
    desk.back()
    did(3)
    desk.key("h", SHIFT)
    desk.until(lambda: window.desk.chart.hits.found is not None)
    found = window.desk.chart.hits.found
    assert found is not None
    desk.click(found.keep)
    did(2)
    assert [hit.t for hit in desk.shot.hits] == pytest.approx([3.125, 6.5, 8.75], abs=0.05)
    desk.key(Key.Key_Home)
    frames = []
    for key in (Key.Key_PageDown, Key.Key_PageDown, Key.Key_PageUp, Key.Key_PageUp):
        desk.key(key, SHIFT)
        frames.append(desk.frame)
    assert frames == [75, 156, 75, 75]
    assert "no hit before" in desk.said()
    window.commands.do("clear-hits")
    assert desk.shot.hits == ()
    desk.key("z", Qt.KeyboardModifier.ControlModifier)
    assert len(desk.shot.hits) == 3
    desk.scrub(window.desk.chart.ruler, 36)
    desk.context(strip, 100, 10)
    desk.pick("Still up to here")
    did(2)
    desk.scrub(window.desk.chart.ruler, 48)
    desk.key("i")
    desk.scrub(window.desk.chart.ruler, 70)
    desk.key("o")
    desk.context(strip, 100, 10)
    desk.pick("Ramp in over the marked stretch")
    desk.key("x")
    did(6)
    desk.scrub(window.desk.chart.ruler, 215)
    desk.key("i")
    desk.scrub(window.desk.chart.ruler, 239)
    desk.key("o")
    desk.context(strip, 100, 10)
    desk.pick("Ramp out over the marked stretch")
    desk.key("x")
    did(6)
    shake = desk.shot.shake
    assert any(isinstance(strand, Jolts) for strand in shake.strands)
    level = shake.intensity.at(np.array([0.0, 1.4, 2.0, 3.0, 6.6, 9.95]))
    assert level[0] == 0
    assert level[1] == 0
    assert level[-1] == pytest.approx(0, abs=0.05)
    assert level[4] > 0.9
    assert window.desk.panel.frame.status.text() == "covers every frame"
    assert acts <= 20
    desk.close()
