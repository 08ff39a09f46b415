"""More of the window: menus, panels, leaving, and what cannot be done."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QCloseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QMenu, QMessageBox

from clips import clip
from driver import Desk
from young_tremor.desk.panels.strand_panel import StrandPanel
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.fields import number_at, value_at
from young_tremor.model.project import Project
from young_tremor.model.shake import Hit, Jolts

K, CTRL = Qt.Key, Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def desk(qtbot, footage: Path) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    project = shot_edits.add_shot(footage, preset_library.preset("standing, breathing"))(Project())
    shot = project.shots[0].id
    project = shot_edits.add_strand(shot, Jolts("jolts", name="Blows"))(project)
    project = shot_edits.add_hits(shot, (Hit("h", 1.0),))(project)
    made = Desk(qtbot, Session(project))
    made.settle()
    yield made
    made.close()


def type_every_number(desk: Desk, panel: StrandPanel, strand_id: str) -> None:
    """Type another number into each control of a panel, and find it in the document in the document's unit."""
    for path, control in panel.controls.numbers.items():
        field, (least, most) = number_at(panel.controls.kind, path), control.scale.limits
        shown = control.scale.value(0.37)
        shown = round(min(max(shown, least), most), control.scale.digits)
        desk.type_into(control, f"{shown}")
        strand = next(s for s in desk.shot.shake.strands if s.id == strand_id)
        held = value_at(strand, path)
        held = held.value if isinstance(held, Curve) else held
        assert held * field.per == pytest.approx(shown), path


def test_every_number_of_a_drift_is_typed_into_its_panel(desk: Desk) -> None:
    panel = desk.window.desk.panel.drift
    first = desk.shot.shake.strands[0]
    desk.window.desk.state.choose(strand=first.id)
    before = desk.picture()
    type_every_number(desk, panel, first.id)
    assert len(panel.controls.numbers) > 18
    assert np.abs(desk.picture() - before).mean() > 0.05
    for name, rule in panel.reaches.items():
        desk.type_into(rule, "0.25")
        assert desk.shot.shake.strands[0].channels[name].reach == 0.25
    desk.type_into(panel.own["rate"], "0.5")
    panel._choose_channel("roll")
    desk.type_into(panel.own["rate"], "2")
    desk.type_into(panel.own["phase"], "90")
    channels = desk.shot.shake.strands[0].channels
    assert (channels.x.rate, channels.roll.rate, channels.x.phase, channels.roll.phase) == (0.5, 2, 0, 90)


def test_every_number_of_the_jolts_is_typed_into_its_panel(desk: Desk) -> None:
    panel = desk.window.desk.panel.jolts
    desk.window.desk.state.choose(strand="jolts")
    type_every_number(desk, panel, "jolts")
    assert len(panel.controls.numbers) > 14
    assert panel.controls.numbers["distance"]._note is not None
    assert panel.controls.numbers["distance"]._note(343.0) == "1.00 s"
    desk.click(panel.seeded, 8, panel.seeded.height() / 2)
    assert desk.shot.shake.strands[-1].direction is None
    assert not panel.direction.isEnabled()
    desk.click(panel.seeded, 8, panel.seeded.height() / 2)
    assert desk.shot.shake.strands[-1].direction == 90


def test_frame_panel_smears_and_leaves_afterimages(desk: Desk) -> None:
    frame = desk.window.desk.panel.frame
    desk.scrub(desk.window.desk.chart.ruler, 24)
    before = desk.picture()
    desk.type_into(frame.blurs.smear["frames"], "4")
    desk.type_into(frame.blurs.smear["length"], "8")
    assert (desk.shot.frame.smear.frames, desk.shot.frame.smear.length) == (4, 8)
    smeared = desk.picture()
    assert np.abs(np.diff(smeared, axis=0)).mean() < 0.8 * np.abs(np.diff(before, axis=0)).mean()
    desk.type_into(frame.blurs.smear["frames"], "0")
    desk.type_into(frame.blurs.afterimages["count"], "3")
    assert desk.shot.frame.afterimages.count.value == 3
    desk.type_into(frame.controls.numbers["shutter.phase"], "90")
    assert desk.shot.frame.shutter.phase == 90
    desk.window.desk.session.apply("Wild", shot_edits.set_strand(desk.shot.id, "jolts", reach=100.0))
    desk.type_into(next(iter(desk.window.desk.chart._rows.values())).amount, "1000")
    desk.type_into(desk.window.desk.panel.frame.focal, "5000")
    desk.until(lambda: "No crop can cover" in frame.status.text())
    desk.key("z", CTRL)
    desk.until(lambda: frame.status.text() == "covers every frame" or "No crop" in frame.status.text())


def test_key_menu_eases_scales_and_lays_down_shapes(desk: Desk) -> None:
    window, strip = desk.window, desk.window.desk.chart.level_strip
    curve = Curve(1.0, (Key(0.25, 0.5), Key(1.0, 1.5), Key(1.75, 0.5)))
    window.desk.session.start(shot_edits.set_shake(desk.shot.id, intensity=curve)(desk.project))
    editor = strip.editor
    assert editor is not None

    def keys() -> tuple[Key, ...]:
        return desk.shot.shake.intensity.keys

    def ask(x: float) -> None:
        desk.context(strip, x, 10)

    editor.chosen = (0, 1)
    ask(50)
    desk.pick("Hold")
    assert [key.ease for key in keys()] == ["hold", "hold", "smooth"]
    editor.chosen = (1,)
    ask(50)
    desk.pick("Free tangents")
    ends = editor._handles(desk.shot.shake.intensity)
    assert len(ends) == 1
    number, out, place = ends[0]
    assert (number, out) == (1, True)
    desk.drag(strip, (place.x(), place.y()), (place.x(), place.y() - 12))
    assert keys()[1].slope_out > 0
    editor.chosen = (1, 2)
    ask(50)
    desk.pick("Half as high", "Scale the chosen keys")
    assert [key.value for key in keys()] == [0.5, 0.75, 0.25]
    ask(50)
    desk.pick("Delete keys")
    assert len(keys()) == 1
    desk.scrub(window.desk.chart.ruler, 24)
    for words, count in (("Spike at the playhead", 5), ("Still up to here", 3), ("Remove all keys", 0)):
        ask(50)
        desk.pick(words)
        assert len(keys()) == count, words
    ask(50)
    desk.pick("Swell and fall over the shot")
    assert max(key.value for key in keys()) == pytest.approx(1.8)
    ask(50)
    desk.pick("Pace", "Show the row of")
    assert window.desk.chart.pace_strip.isVisible()
    pace = window.desk.chart.pace_strip
    spot = QPoint(200, round(pace.editor.y(1.0)))  # type: ignore[union-attr]
    QTest.mouseDClick(pace, Qt.MouseButton.LeftButton, pos=spot)
    assert len(desk.shot.shake.pace.keys) == 1
    row = window.desk.chart._rows[desk.shot.shake.strands[0].id]
    desk.context(row.strip, 100, 10)
    desk.pick("Shape the rate over time")
    assert row.strip.editor is row.editors["rate"]
    QTest.mouseDClick(row.strip, Qt.MouseButton.LeftButton, pos=QPoint(300, row.strip.height() // 2))
    rate = desk.shot.shake.strands[0].rate  # type: ignore[union-attr]
    assert len(rate.keys) == 1


def test_leaving_unsaved_work_asks_and_the_reel_can_be_emptied(desk: Desk, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    window, session = desk.window, desk.window.desk.session
    desk.type_into(window.desk.chart.pace, "2")
    answers = [QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Discard, QMessageBox.StandardButton.Save]
    monkeypatch.setattr(QMessageBox, "exec", lambda box: answers.pop(0))
    event = QCloseEvent()
    window.closeEvent(event)
    assert not event.isAccepted()
    assert window.act.files.may_leave()
    path = tmp_path / "kept.tremor"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path), ""))
    assert window.act.files.may_leave()
    assert path.exists()
    assert not answers
    assert "kept.tremor" in window.windowTitle()
    card = window.desk.reel._prints[desk.shot.id]
    desk.context(card, 50, 40)
    desk.pick("Remove from the reel")
    assert not desk.project.shots
    assert "Ctrl+O" in window.desk.picture.hint
    for key, words in (("p", "Open some footage first"), ("h", "")):
        window.desk.notice.hide()
        desk.key(key)
        assert words in desk.said()
    desk.key("r", CTRL)
    assert "nothing to render" in desk.said()
    desk.key("z", CTRL)
    assert len(desk.project.shots) == 1
    session.start(Project())


def test_hits_are_looked_for_where_there_are_none(desk: Desk, tmp_path: Path) -> None:
    window = desk.window
    mute = clip(tmp_path / "mute.mp4", frames=30)
    desk.open(mute)
    window.act.shake.find_hits("sound")
    desk.until(lambda: "has no sound" in desk.said())
    window.act.shake.find_hits("picture")
    desk.until(lambda: window.desk.chart.hits.found is not None or "No sudden change" in desk.said())
    if window.desk.chart.hits.found is not None:
        desk.click(window.desk.chart.hits.found.drop)
    assert window.desk.chart.hits.found is None
    assert not desk.shot.hits


def test_full_screen_keys_and_menu(desk: Desk) -> None:
    window = desk.window
    bar = window.desk.header.menus
    desk.key(K.Key_F10)
    assert bar.activeAction() is not None
    QTest.keyClick(bar, K.Key_Down)
    menu = QApplication.activePopupWidget()
    assert isinstance(menu, QMenu)
    assert {"Open…", "Save", "Render…", "Quit"} <= {action.text() for action in menu.actions()}
    QTest.keyClick(menu, K.Key_Right)
    edit = QApplication.activePopupWidget()
    assert isinstance(edit, QMenu)
    assert not next(action for action in edit.actions() if action.text().startswith("Undo")).isEnabled()
    for _ in range(3):
        if QApplication.activePopupWidget() is not None:
            QTest.keyClick(QApplication.activePopupWidget(), K.Key_Escape)
    desk.key("m", CTRL)
    assert not bar.isVisible()
    desk.key("m", CTRL)
    assert bar.isVisible()
    desk.back()
    desk.key(K.Key_F11)
    assert not window.desk.panel.isVisible()
    desk.key(K.Key_Escape)
    assert window.desk.panel.isVisible()
    desk.wheel(window.desk.chart.camera_strip, 6, x=0)
    shown = window.desk.view.t1 - window.desk.view.t0
    desk.wheel(window.desk.chart.camera_strip, -3, x=0, modifiers=Qt.KeyboardModifier.ShiftModifier)
    assert window.desk.view.t0 > 0
    assert window.desk.view.t1 - window.desk.view.t0 == pytest.approx(shown)
