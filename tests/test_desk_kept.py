"""What the desk keeps: unsaved work, names, preferences, its place, what is folded."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QFileDialog,
    QMessageBox,
)

from driver import Desk
from young_tremor.base.errors import TremorError
from young_tremor.desk.kit import theme
from young_tremor.desk.window.window_geometry import WindowGeometry
from young_tremor.document import store
from young_tremor.engine.document import recovery
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, settings, takes
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Project, Shutter
from young_tremor.model.take import Take, pack_rows

K = Qt.Key
CTRL, SHIFT, ALT = (getattr(Qt.KeyboardModifier, f"{name}Modifier") for name in ("Control", "Shift", "Alt"))


@pytest.fixture
def desk(qtbot, footage: Path) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, preset_library.preset("standing, breathing"))(Project())))
    made.settle()
    yield made
    made.close()


def test_names_keep_their_dots_and_nothing_is_replaced_unasked(desk: Desk, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    there = tmp_path / "proof.tremor"
    there.write_text("somebody's")
    asked: list[str] = []
    monkeypatch.setattr(QMessageBox, "exec", lambda box: asked.append(box.text()) or 0)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "proof"), ""))
    desk.window.act.files.save_as()
    assert asked == ["proof.tremor exists already."]
    assert there.read_text() == "somebody's"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "proof v1.2"), ""))
    desk.window.act.files.save_as()
    assert (tmp_path / "proof v1.2.tremor").exists()
    desk.window.desk.session.apply("Name", shot_edits.set_shot(desk.shot.id, name="night v1.2"))
    desk.key("r", CTRL)
    sheet = desk.window.desk.sheet
    assert Path(sheet.path.text()).name == "night v1.2 shaken.mp4"
    sheet.path.setText(str(tmp_path / "night v1.2"))
    sheet.codec.setCurrentIndex(sheet.codec.findData("ffv1"))
    sheet.form.fit_ending()
    assert Path(sheet.path.text()).name == "night v1.2.mkv"


def test_a_take_of_the_library_is_renamed_and_no_other_goes(desk: Desk) -> None:
    rows = np.column_stack(
        [np.arange(24) / 24, np.zeros((24, 2)), np.zeros(24), np.ones(24), np.zeros((24, 2)), np.ones(24)]
    )
    for name, take_id in (("Walk", "a"), ("Run", "b"), ("Walk", "c")):
        takes.keep(Take(take_id, name, 640, 360, pack_rows(rows)))
    popup = desk.window.desk.takes
    popup.refresh(("b", True))
    popup.fields["name"].setText("Walk")
    popup.fields["lens"].setText("28 mm")
    popup._rename()
    kept = {take.id: (take.name, take.lens) for take in takes.library_takes()[0]}
    assert kept == {"a": ("Walk", ""), "b": ("Walk", "28 mm"), "c": ("Walk", "")}
    popup._delete()
    assert {take.id for take in takes.library_takes()[0]} == {"a", "c"}


def test_unsaved_work_is_kept_offered_and_forgotten_once_saved(tmp_path: Path, footage: Path) -> None:
    session, now = Session(), [0.0]
    keeper = recovery.Keeper(session, clock=lambda: now[0], every=60)
    session.apply("Open", shot_edits.add_shot(footage, preset_library.preset("walking")))
    for second in range(0, 62, 10):
        now[0] = float(second)
        keeper.look()
    assert keeper._job is not None
    assert keeper._job.wait(20)
    assert keeper.path is not None
    kept = keeper.path
    assert recovery.left_behind() == []  # its window is at work
    keeper.release()
    (found,) = recovery.left_behind()
    assert recovery.read(found).shots == session.project.shots
    path = tmp_path / "night.tremor"
    for number in range(12):
        session.apply("Name", shot_edits.set_shot(session.project.shots[0].id, name=f"Take {number}"))
        session.save(path)
        recovery.keep_version(path)
    keeper.look()
    assert not kept.exists()
    versions = recovery.versions(path)
    assert 1 <= len(versions) <= 10
    assert recovery.read_version(versions[0], path).shots[0].name == "Take 11"


def test_what_the_system_ends_is_kept_and_gone_on_with_until_it_is_saved(desk: Desk, tmp_path: Path) -> None:
    window = desk.window
    window.desk.session.apply("Name", shot_edits.set_shot(desk.shot.id, name="Unsaved"))
    window.end_now()
    assert window.desk.keeper.path is not None
    kept = window.desk.keeper.path
    assert store.load(kept).shots[0].name == "Unsaved"
    session = Session()
    keeper, found = recovery.Keeper(session), recovery.UnsavedWork(kept, "untitled", 0.0)
    bad = recovery.UnsavedWork(tmp_path / "bad.tremor", "bad", 0.0)
    bad.path.write_text("{}")
    with pytest.raises(TremorError):
        keeper.go_on(bad)
    assert bad.path.exists()
    keeper.go_on(found)
    assert session.dirty
    assert kept.exists()
    session.save(tmp_path / "night.tremor")
    keeper.look()
    assert not kept.exists()


def test_the_window_comes_back_to_its_place_inside_the_screen(desk: Desk) -> None:
    window = desk.window
    window.place = WindowGeometry(window.desk)
    window.resize(1100, 720)
    window.desk.splitter.setSizes([300, 380])
    window.place.keep((690, 388))
    kept = settings.load()
    assert kept.split == tuple(window.desk.splitter.sizes())
    window.resize(4000, 3000)
    window.place.bring_back()
    room = window.screen().availableGeometry()
    assert window.pos().y() >= room.top()
    assert window.height() <= max(room.height(), window.minimumHeight())
    settings.change(place="nonsense", split=(1,))
    window.place.bring_back()
    assert window.height() <= max(room.height(), window.minimumHeight())


def test_preferences_hold_at_once_and_at_the_next_start(desk: Desk) -> None:
    window = desk.window
    desk.key(",", CTRL)
    sheet = window.act.overlays.preferences
    assert sheet.isVisible()
    sheet.first.setCurrentIndex(sheet.first.findData("Walking"))
    sheet.first.activated.emit(sheet.first.currentIndex())
    desk.type_into(sheet.autosave, "12")
    sheet.night.click()
    sheet.menus.click()
    assert not window.desk.header.menus.isVisible()
    assert theme.paper.night
    assert window.desk.keeper.every == 12
    kept = settings.load()
    assert (kept.first, kept.autosave, kept.night, kept.menus) == ("Walking", 12.0, True, False)
    assert preset_library.starting_preset().name == "Walking"
    QTest.keyClick(sheet.autosave, K.Key_Escape)  # leaves the rule first
    desk.key(K.Key_Escape)
    assert not sheet.isVisible()
    desk.key("t", CTRL)
    desk.key("m", CTRL)
    assert not settings.load().night


def test_groups_of_the_panel_fold_say_their_value_and_stay_so(desk: Desk) -> None:
    frame = desk.window.desk.panel.frame
    fold, group = frame.folds["Shutter"]
    assert not group.isHidden()
    desk.click(fold)
    assert group.isHidden()
    assert fold.value == "Angle 180°"
    desk.window.desk.session.apply("Angle", shot_edits.set_frame(desk.shot.id, shutter=Shutter(Curve(90.0))))
    assert fold.value == "Angle 90°"
    again = type(frame)(desk.window.desk.session)
    assert again.folds["Shutter"][1].isHidden()
    again.deleteLater()
    fold.setFocus()
    QTest.keyClick(fold, K.Key_Space)
    assert not group.isHidden()
    assert settings.load().folded == ()


def test_times_are_frames_everywhere_once_that_is_preferred(desk: Desk) -> None:
    window = desk.window
    window.act.shake.add_strand("jolts")
    window.desk.stage.go(36)
    settle = window.desk.panel.jolts.controls.numbers["settle"]
    seconds = settle.value
    window.commands.do("frames")
    assert window.desk.transport._time.text() == "36"
    assert settle.value_text(settle.value) == f"{seconds * 24:.1f} f".replace(".0 f", " f")
    desk.type_into(settle, "12")  # frames now, where nothing else is said
    assert desk.shot.shake.strands[-1].settle == pytest.approx(0.5)
    desk.type_into(settle, "0.25 s")
    assert desk.shot.shake.strands[-1].settle == pytest.approx(0.25)
    assert settings.load().frames
    window.commands.do("frames")
    assert settle.value_text(settle.value) == "0.25 s"


def test_the_panel_takes_the_windows_height_and_gives_it_back(desk: Desk) -> None:
    window = desk.window
    panel, chart = window.desk.panel, window.desk.chart
    wide, low = chart.width(), panel.height()
    widths = window.desk.across
    desk.click(panel.height_button)
    desk.until(lambda: panel.height() > low + 100)
    assert chart.mapTo(window, chart.rect().topRight()).x() < panel.mapTo(window, panel.rect().topLeft()).x()
    assert window.desk.across[2] == widths[2]
    assert settings.load().tall_panel
    window.commands.do("reel")
    assert window.desk.reel_folded
    window.commands.do("reel")
    desk.click(panel.height_button)
    desk.until(lambda: chart.width() == wide)
    assert not settings.load().tall_panel
