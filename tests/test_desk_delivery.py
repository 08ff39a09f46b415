"""The sheet of deliveries in the real window: several in a list, stopped, moved, kept fresh, and left to finish."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import opentimelineio as otio
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QInputDialog, QMessageBox

from clips import clip, decoded
from driver import Desk
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.model import shot_edits
from young_tremor.model.project import Project

Key = Qt.Key
CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def desk(qtbot, footage: Path) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, preset_library.preset("standing, breathing"))(Project())))
    made.settle()
    yield made
    made.close()


def test_a_list_of_deliveries_is_made_by_hand_and_kept_fresh(desk: Desk, tmp_path: Path) -> None:
    window = desk.window
    window.act.files.open_path(clip(tmp_path / "close.mp4", frames=24))
    desk.until(lambda: len(desk.project.shots) == 2 and not window.act.files.adding)
    window.desk.session.save(tmp_path / "scene.tremor")
    desk.key("r", CTRL)
    sheet, form = window.desk.sheet, window.desk.sheet.form
    sheet.list._rest = 0.0
    form.what.setFocus()
    while form.what.currentData() != "each":
        QTest.keyClick(form.what, Key.Key_Down)
    form.what.activated.emit(form.what.currentIndex())
    assert Path(form.path.text()).name == "{number} {shot} shaken.mp4"
    assert form.example.text() == "01 wall shaken.mp4, 02 close shaken.mp4"
    form.path.setText(str(tmp_path / "films" / "{number}_{shot}.mp4"))
    form.codec.setCurrentIndex(form.codec.findData("ffv1"))
    form.codec.activated.emit(form.codec.currentIndex())
    assert not form.quality.isEnabled()
    desk.click(sheet.add)
    assert "exists" not in sheet.state.text()
    assert [row.state for row in sheet.list.rows] == ["waiting"]
    while form.what.currentData() != "reel":
        QTest.keyClick(form.what, Key.Key_Down)
    form.path.setText(str(tmp_path / "films" / "reel.mp4"))
    form.codec.setCurrentIndex(form.codec.findData("h264"))
    form.codec.activated.emit(form.codec.currentIndex())
    QTest.keyClick(form.quality, Key.Key_Left)
    assert form.steps.text() == "Encoder: CRF 22, preset medium"
    form.everywhere.click()
    desk.click(sheet.add)
    desk.click(sheet.add)
    assert "reel.mp4 is in the list already" in sheet.state.text()
    desk.until(lambda: len(sheet.rows._lines) == 2)
    lines = [sheet.rows.line(number) for number in (0, 1)]
    up = next(b for b in lines[1].findChildren(type(sheet.add)) if b.text() == "Up")
    desk.click(up)
    assert [Path(row.request.path).name for row in sheet.list.rows] == ["reel.mp4", "{number}_{shot}.mkv"]
    desk.settle()
    desk.click(sheet.rows.line(0).fresh)
    assert sheet.list.rows[0].request.fresh
    desk.click(sheet.run)
    desk.until(lambda: not sheet.running and all(row.state == "done" for row in sheet.list.rows))
    made = sorted(path.name for path in (tmp_path / "films").iterdir())
    assert made == ["01_wall.mkv", "02_close.mkv", "reel.mp4"]
    assert len(decoded(tmp_path / "films" / "reel.mp4")) // 3 == 72
    assert sheet.list.rows[0].request.quality == 2
    desk.until(lambda: sheet.rows.line(0).words.text() == "fresh")
    first = (tmp_path / "films" / "reel.mp4").stat().st_ino
    window.desk.session.apply("Other", shot_edits.set_shot(desk.project.shots[1].id, name="Near"))
    window.desk.session.apply("Still", shot_edits.set_shake(desk.shot.id, strands=()))
    window._second()
    window._second()
    desk.until(lambda: not sheet.running and sheet.list.lamp(sheet.list.rows[0]) == "fresh")
    assert (tmp_path / "films" / "reel.mp4").stat().st_ino != first
    remove = next(b for b in sheet.rows.line(1).findChildren(type(sheet.add)) if b.text() == "Remove")
    desk.click(remove)
    assert len(sheet.list.rows) == 1
    assert (tmp_path / "films" / "01_wall.mkv").exists()


def test_the_window_goes_when_what_runs_is_done(desk: Desk, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    window, out = desk.window, tmp_path / "late.mkv"
    window.desk.session.save(tmp_path / "scene.tremor")
    desk.key("r", CTRL)
    window.desk.sheet.path.setText(str(out))
    window.desk.sheet.codec.setCurrentIndex(window.desk.sheet.codec.findData("ffv1"))
    monkeypatch.setattr(QMessageBox, "exec", lambda box: 0)
    monkeypatch.setattr(
        QMessageBox, "clickedButton", lambda box: next(b for b in box.buttons() if b.text().startswith("Finish"))
    )
    gone: list[bool] = []
    monkeypatch.setattr(QApplication, "quit", lambda: gone.append(True))
    desk.click(window.desk.sheet.start)
    window.close()
    assert not window.isVisible()
    desk.until(lambda: bool(gone))
    assert len(decoded(out)) // 3 == 48


def test_a_timeline_is_opened_and_written_again_with_the_films(desk: Desk, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    media = clip(tmp_path / "press.mp4", frames=48)
    edl = tmp_path / "cut.edl"
    edl.write_text(
        "TITLE: CUT\n\n001  AX       V     C        00:00:00:06 00:00:01:06 01:00:00:00 01:00:01:00\n"
        f"* FROM CLIP NAME: press\n* FROM CLIP: {media}\n"
        "002  AX       V     C        00:00:00:00 00:00:00:12 01:00:01:00 01:00:01:12\n* FROM CLIP NAME: away\n"
    )
    monkeypatch.setattr(QInputDialog, "getItem", lambda *a, **k: ("24", True))
    monkeypatch.setattr(desk.window.act.files, "may_leave", lambda: True)
    desk.drop(edl)
    desk.until(lambda: [shot.name for shot in desk.project.shots] == ["press", "away"])
    desk.until(lambda: "1 file is missing (away)" in desk.said())
    desk.window.desk.session.apply("Remove", shot_edits.remove_shot(desk.project.shots[1].id))
    desk.settle()
    desk.key("r", CTRL)
    form = desk.window.desk.sheet.form
    form.what.setCurrentIndex(form.what.findData("each"))
    form.what.activated.emit(form.what.currentIndex())
    form.timeline.click()
    form.handles.set_value(4)
    form.path.setText(str(tmp_path / "films" / "{shot}.mp4"))
    desk.click(desk.window.desk.sheet.start)
    desk.until(lambda: "Untitled.otio has the cut" in desk.window.desk.sheet.state.text())
    back = otio.adapters.read_from_file(str(tmp_path / "films" / "Untitled.otio"))
    only = next(iter(back.find_clips()))
    assert (only.source_range.start_time.value, only.duration().value) == (4, 24)
    assert len(decoded(tmp_path / "films" / "press.mp4")) // 3 == 32
