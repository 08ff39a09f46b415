"""Takes on the desk: measuring a clip, using what was found, matching a drift, the library."""

from __future__ import annotations

import functools
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

import truth
from driver import Desk
from young_tremor.desk.sheets.gyro_import import GyroImportView
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, takes
from young_tremor.model import shot_edits
from young_tremor.model.project import Preset, Project
from young_tremor.model.shake import Drift, Shake, Taken
from young_tremor.model.take import Take

Key = Qt.Key


@pytest.fixture(scope="module")
def hand(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A short handheld clip."""
    film = truth.Filmed(truth.world((560, 340)), functools.partial(truth.hand, size=6.0), (480, 270))
    return truth.encode(tmp_path_factory.mktemp("hand") / "aisle.mp4", [film.frame(k) for k in range(40)], 24, 16)


@pytest.fixture
def desk(qtbot: QtBot, footage: Path) -> Iterator[Desk]:
    """The window on a shot that stands still."""
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, Preset("none", "own", "", Shake()))(Project())))
    made.settle()
    yield made
    made.close()


def drop(desk: Desk, path: Path) -> None:
    """Drop a file on the button of the takes."""
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    button, left, none = desk.window.desk.header.takes_button, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    enter = QDragEnterEvent(QPoint(10, 10), Qt.DropAction.CopyAction, data, left, none)
    QApplication.sendEvent(button, enter)
    assert enter.isAccepted()
    QApplication.sendEvent(button, QDropEvent(QPointF(10, 10), Qt.DropAction.CopyAction, data, left, none))


def test_from_a_clip_to_a_shaken_shot(desk: Desk, hand: Path, tmp_path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    window, view = desk.window, desk.window.desk.measure
    still = desk.picture()
    drop(desk, hand)
    assert view.isVisible()
    assert not window.desk.picture.isVisible()
    desk.until(lambda: view.start.isEnabled() and view.view._image is not None)
    box = view.view.box()
    desk.drag(view.view, (box.left() + 5, box.top() + 5), (box.left() + 60, box.top() + 50))
    assert len(view.view.boxes) == 1
    desk.click(view.view, box.left() + 20, box.top() + 20)
    assert not view.view.boxes
    width = view.course.width()
    desk.drag(view.course, (1, 40), (width * 0.1, 40))
    assert view.course.first == pytest.approx(4 / 24, abs=0.02)
    desk.type_into(view.focal, "28")
    desk.click(view.start)
    desk.until(lambda: view.use.isVisible())
    (take,) = desk.project.takes
    assert take.name == "aisle"
    assert (take.width, take.height, take.focal_mm, take.frames) == (480, 270, 28.0, 36)
    rows = truth.hand(np.arange(4, 40) / 24, size=6.0)
    assert np.abs(take.table()[:, 2] - (rows[:, 1] - rows[0, 1])).max() < 0.6
    assert "within 0.0" in view.words.text()
    desk.click(view.use)
    assert not view.isVisible()
    strand = desk.shot.shake.strands[0]
    assert isinstance(strand, Taken)
    assert strand.by_angle
    desk.scrub(window.desk.chart.ruler, 20)
    assert np.abs(desk.picture() - still).mean() > 2
    panel = window.desk.panel.take
    assert panel.isVisible()
    desk.type_into(panel.cutoff, "0.4")
    desk.click(panel.mirrored)
    desk.type_into(panel.gains["roll"], "50")
    panel.way.chosen.emit("opposed")
    panel.beyond.setCurrentIndex(2)
    panel.beyond.activated.emit(2)
    desk.type_into(panel.focal, "0")
    strand = desk.shot.shake.strands[0]
    assert isinstance(strand, Taken)
    assert (strand.cutoff, strand.mirrored, strand.gains.roll, strand.opposed) == (0.4, True, 0.5, True)
    assert (strand.beyond, strand.by_angle, strand.take.focal_mm) == ("back", False, None)
    desk.click(panel.endless)
    assert desk.shot.shake.strands[0].only_endless  # type: ignore[union-attr]
    window.desk.session.apply("Frozen", shot_edits.set_shot(desk.shot.id, name="Rack"))
    assert desk.project.takes == (take,)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(hand), ""))
    window.act.takes.ask_clip(take)
    desk.until(lambda: view.start.isEnabled())
    assert desk.project.takes == (take,)
    desk.click(view.start)
    desk.until(lambda: view.use.isVisible())
    (again,) = desk.project.takes
    assert (again.id, again.frames) == (take.id, 40)
    assert desk.shot.shake.strands[0].take == again  # type: ignore[union-attr]
    desk.key(Key.Key_Escape)
    assert window.desk.picture.isVisible()
    desk.settle()


def test_of_two_things_that_move_a_click_takes_the_other(desk: Desk, tmp_path: Path) -> None:
    trouble = truth.Trouble(subject=0.4, soft=1.5)
    film = truth.Filmed(truth.world((560, 340)), functools.partial(truth.hand, size=6.0), (480, 270), trouble=trouble)
    both = truth.encode(tmp_path / "press.mp4", [film.frame(k) for k in range(26)], 24, 14)
    view = desk.window.desk.measure
    drop(desk, both)
    desk.until(lambda: view.start.isEnabled() and view.view._image is not None)
    desk.click(view.start)
    desk.until(lambda: view.use.isVisible())
    (scene,) = desk.project.takes
    assert "two things move" in view.words.text()
    assert [len(each) > 5 for each in view.view.marks] == [True, True]
    box = view.view.box()
    x, y = view.view.marks[1 - view.view.scene][0] * box.width() / 480
    desk.click(view.view, box.left() + x, box.top() + y)
    (other,) = desk.project.takes
    assert other.id == scene.id
    assert other.table()[20, 2] == pytest.approx(90 * 20 / 24, abs=1.5)
    assert abs(scene.table()[20, 2]) < 20


def test_a_log_fills_what_was_lost_and_a_stretch_is_looked_at_again(desk: Desk, tmp_path: Path) -> None:
    way = functools.partial(truth.hand, size=6.0)
    film = truth.Filmed(truth.world((560, 340)), way, (480, 270))
    frames = [film.frame(number) for number in range(48)]
    for picture in frames[20:30]:
        picture[:] = 20
    clip = truth.encode(tmp_path / "stairs.mp4", frames, 24, 14)
    truth.write_gyro_log(tmp_path / "stairs.csv", way, 400.0, 1.2, "upright")
    view = desk.window.desk.measure
    drop(desk, clip)
    desk.until(lambda: view.start.isEnabled() and view.view._image is not None)
    assert not view.log.isVisible()
    desk.click(view.start)
    desk.until(lambda: view.use.isVisible())
    assert not view.again.isVisible()
    (alone,) = desk.project.takes
    assert view.log.text() == "Add stairs.csv"
    desk.click(view.log)
    desk.until(lambda: "10 lost frames are known now" in view.words.text())
    assert not view.log.isVisible()
    (fused,) = desk.project.takes
    assert fused.id == alone.id
    rows = way(np.arange(48) / 24)

    def off(take: Take) -> float:
        return float(np.abs(take.table()[20:30, 2] - (rows - rows[0])[20:30, 1]).max())

    assert off(fused) < 0.3 < off(alone)
    width = view.course.width()
    desk.drag(view.course, (1, 40), (width * 0.3, 40))
    desk.drag(view.course, (width - 2, 40), (width * 0.7, 40))
    view.way.setCurrentIndex(2)
    desk.click(view.again)
    desk.until(lambda: view.job is None and "lost frames are known now" in view.words.text())
    (again,) = desk.project.takes
    assert off(again) < 0.3
    assert again.frames == fused.frames
    desk.key(Key.Key_Escape)
    desk.settle()


def test_takes_are_named_kept_exported_and_matched(desk: Desk, hand: Path, tmp_path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    window, popup = desk.window, desk.window.desk.takes
    monkeypatch.setattr(
        QFileDialog, "getOpenFileName", lambda *a, **k: (str(preset_library.ASSETS / "demo" / "aisle-walk.csv"), "")
    )
    popup._read()
    assert [take.name for take in desk.project.takes] == ["aisle-walk"]
    desk.key("t")
    assert popup.isVisible()
    popup.fields["name"].setText("Walk past the cases")
    popup.fields["activity"].setText("walking")
    popup.fields["activity"].editingFinished.emit()
    assert desk.project.takes[0].activity == "walking"
    desk.click(popup.buttons["keep"])
    assert takes.library_takes()[0][0].name == "Walk past the cases"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "walk"), ""))
    desk.click(popup.buttons["export"])
    desk.back()
    np.testing.assert_allclose(takes.read(tmp_path / "walk.csv").table(), desk.project.takes[0].table(), atol=1e-6)
    for preset, stays in (("standing, breathing", False), ("walking", True)):
        made = preset_library.preset(preset)
        window.desk.session.apply("Preset", shot_edits.apply_preset(desk.shot.id, made))
        window.act.takes.use(desk.project.takes[0])
        assert len(desk.shot.shake.strands) == 1 + stays * len(made.shake.strands)
    window.desk.session.apply("No shake", shot_edits.set_shake(desk.shot.id, strands=()))
    desk.key("t")
    desk.click(popup.buttons["delete"])
    assert not desk.project.takes
    popup.hide()
    desk.back()
    desk.click(window.desk.chart._add)
    desk.pick("Drift")
    window.desk.panel.drift.match_asked.emit(window.mapToGlobal(window.rect().center()))
    desk.pick("Walk past the cases")
    drift = desk.shot.shake.strands[0]
    assert isinstance(drift, Drift)
    assert drift.rate.value == pytest.approx(0.5, abs=0.45)
    assert drift.channels.x.reach > 1
    desk.until(lambda: window.desk.figures.plot.against is not None)
    assert window.desk.figures.isVisible()
    assert "dotted" in window.desk.figures.subject.text()
    desk.key("g")
    desk.settle()


def test_gaps_of_a_read_take_are_said_and_marked_on_its_row(desk: Desk, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    rows = [f"{k},{k / 24},{3 * np.sin(k / 5)},0,0,1" for k in range(48) if not 12 <= k < 24]
    path = tmp_path / "walk.csv"
    path.write_text("# width: 640\n# height: 360\nframe,time_s,x_px,y_px,roll_deg,scale\n" + "\n".join(rows) + "\n")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(path), ""))
    desk.window.desk.takes._read()
    assert "gaps of 0.5 s at 0.46 s" in desk.window.desk.notice.text()
    desk.window.act.takes.use(desk.project.takes[0])
    desk.settle()
    row = desk.window.desk.chart._rows[desk.shot.shake.strands[0].id]
    marked = np.flatnonzero(row.strip.gaps)
    assert (marked[0], marked[-1]) == (12, 23)


def test_cancelling_and_what_cannot_be_measured_changes_nothing(desk: Desk, hand: Path, tmp_path: Path) -> None:
    window, view = desk.window, desk.window.desk.measure
    bad = tmp_path / "notes.mp4"
    bad.write_text("not a film")
    window.act.takes.open_clip(bad)
    desk.until(lambda: "notes.mp4" in view.view.hint)
    assert not view.start.isEnabled()
    window.act.takes.open_clip(hand)
    desk.until(view.start.isEnabled)
    view.start.click()
    view.start.click()
    desk.until(lambda: view.job is None)
    assert "Cancelled" in view.words.text() or len(desk.project.takes) == 1
    window.desk.show_measure(False)
    count = len(desk.project.takes)
    window.act.takes.measure_own()
    desk.until(lambda: not window.act.takes.measuring)
    assert desk.said()
    assert len(desk.project.takes) == count
    desk.settle()


def test_a_gyroscopes_log_is_shown_as_it_is_read_and_changed(desk: Desk, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    t = np.arange(0, 4, 0.01)
    rates = np.column_stack([np.cos(3 * t), np.zeros_like(t), 0.5 * np.cos(5 * t)])
    log = tmp_path / "walk.csv"
    np.savetxt(log, np.column_stack([t * 1000, rates]), delimiter=",", header="ms,x,y,z", comments="", fmt="%.6f")
    seen: list[str] = []

    def changed(view: GyroImportView) -> int:
        seen.append(view.words.text())
        assert (view.time.currentData(), view.turning.currentData()) == ("ms", "rad")
        view.held.setCurrentIndex(view.held.findData("left"))
        view.held.activated.emit(view.held.currentIndex())
        view.time.setCurrentIndex(view.time.findData("us"))
        view.time.activated.emit(view.time.currentIndex())
        assert not view.ok.isEnabled()
        view.time.setCurrentIndex(view.time.findData("ms"))
        view.time.activated.emit(view.time.currentIndex())
        view.ok.click()
        return 1

    monkeypatch.setattr(GyroImportView, "exec", changed)
    desk.window.desk.takes.read(log)
    assert "400 rows over 3.99 s" in seen[0]
    take = desk.project.takes[-1]
    pan, tilt, roll = take.table()[:, [5, 6, 3]].T
    assert np.ptp(pan) > 4 * np.ptp(tilt)  # held on its side, what turned up and down turns left and right
    assert np.ptp(roll) > 5
    (tmp_path / "bad.csv").write_text("oak,elm\n1,2\n")
    desk.window.desk.takes._try(lambda: desk.window.desk.takes.read(tmp_path / "bad.csv"))
    assert "bad.csv" in desk.said()
