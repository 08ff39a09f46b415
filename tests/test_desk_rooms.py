"""What is chosen, work that answers late, looking closely, and the desk by keyboard alone."""

from __future__ import annotations

import sys
import threading
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

import cv2
import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QObject, QPoint, Qt
from PySide6.QtGui import QAccessible, QKeySequence
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox, QWidget
from pytestqt.qtbot import QtBot

from clips import clip, decoded
from driver import Desk
from young_tremor.base import xdg
from young_tremor.desk.kit.thread_bridge import on_desk
from young_tremor.desk.panels.frame_panel import FramePanel
from young_tremor.desk.picture import frame_marks
from young_tremor.engine.document import presence
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, settings
from young_tremor.engine.preview import first_picture
from young_tremor.engine.preview.preview_worker import PictureRequest, PreviewPicture, PreviewWorker
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Placement, Project
from young_tremor.model.shake import Hit, Region
from young_tremor.render.resolve_plan import readings, resolve, rough

K = Qt.Key
CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def desk(qtbot, footage: Path) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, preset_library.preset("standing, breathing"))(Project())))
    made.settle()
    yield made
    made.close()


def test_ordinary_gestures_do_not_hold_the_window(desk: Desk) -> None:
    """What is made for the first time, a page of the panel or the rows of another shot, is done before and may take
    longer. Three times in a row is no chance."""
    window, chart = desk.window, desk.window.desk.chart
    strand = desk.shot.shake.strands[0].id
    row = chart._rows[strand]
    window.desk.state.choose(strand=strand)
    window.desk.state.choose(strand=None)
    desk.settle()
    first_picture.import_libraries()

    def answers(gesture: str, *acts: Callable[[], object]) -> None:
        for tries in (2, 1, 0):
            try:
                with desk.answering(gesture):
                    for act in acts:
                        act()
                        desk.settle()
            except AssertionError:
                if not tries:
                    raise
            else:
                return

    def play() -> None:
        window.desk.stage.toggle_play()
        desk.until(lambda: window.desk.stage.player is not None and window.desk.stage.player.shown > 10)
        window.desk.stage.stop()

    answers("scrub", *(partial(window.desk.stage.go, frame) for frame in (5, 30, 12)))
    answers("choose", lambda: window.desk.state.choose(strand=strand), lambda: window.desk.state.choose(strand=None))
    answers("drag", lambda: desk.drag_rule(row.amount, 140))
    answers("undo", window.act.undo_step, window.act.redo_step)
    answers("zoom", lambda: window.desk.view.zoom(0.5, 300, 900))
    answers("sheet", window.act.show_render, window.act.show_render)
    answers("play", play)
    panel = window.findChild(FramePanel)
    assert isinstance(panel, FramePanel)
    answers("scroll", lambda: desk.wheel(panel.viewport(), -3), lambda: desk.wheel(panel.viewport(), 3))


def test_nothing_chosen_carries_over_to_another_shot_or_project(desk: Desk, tmp_path: Path) -> None:
    state, session, first = desk.window.desk.state, desk.window.desk.session, desk.shot
    session.apply("Another", shot_edits.add_shot(clip(tmp_path / "second.mp4", frames=24)))
    session.apply("Hit", shot_edits.add_hits(first.id, (Hit("one", 0.5),)))
    state.choose(strand=first.shake.strands[0].id, hit="one", tool="box", placing=True, mode="split", rows={"Pivot"})
    desk.window.desk.picture.zoom_to(1.0)
    desk.window.desk.set_marks((3, 9))
    state.choose_shot(desk.project.shots[1].id)
    now = state.now
    assert (now.strand, now.hit, now.tool, now.placing, now.zoom.scale) == (None, None, "", False, 0)
    assert (now.mode, now.rows, desk.window.desk.view.marks) == ("split", {"Pivot"}, None)
    state.choose_shot(first.id)
    state.choose(strand=first.shake.strands[0].id, hit="one")
    session.apply("No hit", shot_edits.remove_hits(first.id, frozenset(("one",))))
    session.apply("No strand", shot_edits.remove_strand(first.id, first.shake.strands[0].id))
    assert (state.now.hit, state.now.strand) == (None, None)
    state.choose(strand=desk.shot.shake.strands[0].id if desk.shot.shake.strands else None, placing=True)
    session.start(desk.project)  # the same ids, another document
    assert (state.now.shot, state.now.placing) == (first.id, False)


def test_the_picture_is_looked_at_closely(desk: Desk) -> None:
    window, picture = desk.window, desk.window.desk.picture
    desk.key("1", CTRL)
    desk.settle()
    rows = window.desk.state.info.size[1]  # type: ignore[union-attr]
    assert picture.wanted()[1] == rows == picture.whole_rect().height()
    place = picture.rect().center() + QPoint(60, 20)
    before = QPoint(place.x() - picture.whole_rect().left(), place.y() - picture.whole_rect().top())
    desk.wheel(picture, 2, x=place.x(), modifiers=CTRL)
    assert window.desk.state.now.zoom.scale == pytest.approx(2.0)
    assert picture.wanted()[1] == rows  # no more than is delivered
    after = place.x() - picture.whole_rect().left()
    assert after == pytest.approx(2 * before.x(), abs=3)  # what was under the pointer stays there
    x = window.desk.state.now.zoom.x
    desk.drag(picture, (300, 200), (260, 200))
    assert window.desk.state.now.zoom.x > x
    assert window.desk.transport.zoom.text() == "200 %"
    desk.key("z")
    QTest.mouseMove(picture, place)
    assert frame_marks.LENS in window.desk.state.now.overlays
    desk.key("0", CTRL)
    assert window.desk.state.now.zoom.scale == 0
    desk.key("3")
    picture.toggle_overlay(frame_marks.OVER)
    desk.settle()
    whole = picture.whole_rect()
    desk.drag(picture, (whole.left() + whole.width() * 0.5, 60), (whole.left() + whole.width() * 0.25, 60))
    assert picture.split == pytest.approx(0.25, abs=0.02)  # grabbed where it is drawn
    desk.key("4")
    desk.settle()
    assert picture.frame_rect().right() < picture.rect().center().x()  # tools act on the shaken one
    window.act.toggle_full()
    desk.until(lambda: not window.desk.header.isVisible())
    window.showNormal()  # as the window manager does
    desk.until(
        lambda: window.desk.header.isVisible() and window.desk.chart.isVisible() and window.desk.transport.isVisible()
    )
    window.act.full_screen.toggle_away()
    assert picture.window() is not window
    window.act.full_screen.toggle_away()
    assert picture.window() is window


def test_keys_on_placement_and_regions_are_seen_moved_and_deleted(desk: Desk) -> None:
    session, shot, chart = desk.window.desk.session, desk.shot, desk.window.desk.chart
    moving = Placement(x=Curve(0.0, (Key(0.2, 0.0), Key(1.0, 0.1))))
    assert chart.curves["Placement"].row.isHidden()
    session.apply("Placement", shot_edits.set_plate(shot.id, shot.footage.id, placement=moving))
    row = chart.curves["Placement"]
    assert not row.row.isHidden()
    row.strip.setFocus()
    QTest.keyClick(row.strip, K.Key_PageDown)
    QTest.keyClick(row.strip, K.Key_Right)
    assert desk.shot.footage.placement.x.keys[0].t == pytest.approx(0.2 + 1 / 24, abs=1e-3)
    QTest.keyClick(row.strip, K.Key_Delete)
    assert len(desk.shot.footage.placement.x.keys) == 1
    held = Region(width=Curve(0.5, (Key(0.1, 0.5), Key(1.0, 0.9))))
    session.apply("Region", shot_edits.set_shake(shot.id, region=held))
    assert not chart.curves["Region"].row.isHidden()
    strand = shot.shake.strands[0].id
    session.apply("Region", shot_edits.set_strand(shot.id, strand, region=held))
    assert chart._rows[strand].strip.editor is chart._rows[strand].editors["region width"]


def test_late_answers_do_not_land_on_what_has_changed(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    window, go = desk.window, threading.Event()
    from young_tremor.desk.window import shake_actions

    monkeypatch.setattr(shake_actions.framing_margins, "limit", lambda *a: (go.wait(20), 0.5)[1])
    window.act.shake.limit(2.0)
    window.desk.session.apply("Intensity", shot_edits.set_shake(desk.shot.id, intensity=Curve(0.8)))
    go.set()
    desk.until(lambda: not window.desk.runner.busy("limit"))
    assert desk.shot.shake.intensity == Curve(0.8)
    assert "changed meanwhile" in desk.said()
    window.act.shake.limit(2.0)
    desk.until(lambda: not window.desk.runner.busy("limit"))
    assert desk.shot.shake.intensity == Curve(0.4)


def test_a_long_shot_is_seen_at_once_and_its_crop_solved_when_it_rests(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("young_tremor.render.resolve_plan.LONG", 20)
    shot = shot_edits.add_shot(clip(tmp_path / "long.mp4", frames=60), preset_library.preset("walking"))(
        Project()
    ).shots[0]
    seen: list[PreviewPicture] = []
    solved = threading.Event()
    made = PreviewWorker()
    plans = []
    made.picture.connect(seen.append)
    made.readings.connect(lambda shot, plan, found: (plans.append(plan), solved.set()))
    made.ask(PictureRequest(shot, (160, 90), "shaken", 3))
    assert solved.wait(20)
    made.close()
    assert len(seen) >= 2  # under a rough crop, and again under the right one
    exact = resolve(shot, (seen[-1].info,))
    assert plans[-1].crop == exact.crop == readings(exact).crop
    first = rough(resolve(replace(shot, frame=replace(shot.frame, edges="open")), (seen[-1].info,)))
    assert exact.crop - 0.002 < first.crop < 1 + 2 * (exact.crop - 1)


def test_pins_and_prints_and_keys_by_keyboard(desk: Desk, tmp_path: Path) -> None:
    window, ruler = desk.window, desk.window.desk.chart.ruler
    window.desk.session.apply("Hits", shot_edits.add_hits(desk.shot.id, (Hit("a", 0.5), Hit("b", 1.0))))
    ruler.setFocus()
    for key in (K.Key_PageDown, K.Key_PageDown, K.Key_Right, K.Key_Up):
        QTest.keyClick(ruler, key)
    moved = next(hit for hit in desk.shot.hits if hit.id == "b")
    assert (moved.t, moved.strength) == (pytest.approx(1 + 1 / 24), 1.05)
    told = QAccessible.queryAccessibleInterface(ruler).text(QAccessible.Text.Value)
    assert told == "Hit 2 of 2: 1.04 seconds, strength 1.05"
    QTest.keyClick(ruler, K.Key_Delete)
    assert [hit.id for hit in desk.shot.hits] == ["a"]
    strip = window.desk.chart.level_strip
    strip.setFocus()
    QTest.keyClick(strip, K.Key_Insert)
    assert len(desk.shot.shake.intensity.keys) == 1
    assert "key 1 of 1" in QAccessible.queryAccessibleInterface(strip).text(QAccessible.Text.Value)
    window.desk.session.apply("Another", shot_edits.add_shot(clip(tmp_path / "second.mp4", frames=24)))
    desk.settle()
    first, second = desk.project.shots
    card = window.desk.reel._prints[first.id]
    card.setFocus()
    desk.back()
    QTest.keyClick(card, K.Key_Down)
    assert window.desk.state.now.shot == second.id
    assert window.desk.reel._prints[second.id].hasFocus()
    QTest.keyClick(window.desk.reel._prints[second.id], K.Key_Delete)
    assert [shot.id for shot in desk.project.shots] == [first.id]


def test_keys_are_changed_and_clashes_said(desk: Desk) -> None:
    window = desk.window
    window.act.overlays.show_finder()
    finder = window.act.overlays.finder
    QTest.keyClicks(finder.field, "magnifier")
    finder.keys.setKeySequence(QKeySequence("H"))
    finder.set.click()
    assert "Hit at the playhead" in finder.words.text()
    assert window.commands.action("magnifier").shortcut().toString() == "Z"
    finder.set.click()
    assert window.commands.action("magnifier").shortcut().toString() == "H"
    assert window.commands.action("hit").shortcut().isEmpty()
    assert settings.load().keys == {"magnifier": ("H",), "hit": ()}
    finder.back.click()
    assert window.commands.action("magnifier").shortcut().toString() == "Z"
    finder.hide()
    window.act.overlays.show_manual()
    manual = window.act.overlays._manual
    assert manual is not None
    changes: list[int] = []
    manual.page.document().contentsChange.connect(lambda at, gone, come: changes.append(at))
    for number in range(manual.list.count()):
        changes.clear()
        manual.list.setCurrentRow(number)
        assert len(changes) < 9  # a page is laid out as a whole: the index has 1,400 lines
        assert len(manual.page.toPlainText()) > 200
    manual.close()
    window.hints.look()
    name = window.desk.hint.name
    assert name
    window.desk.hint.dismissed.emit(name)
    assert window.desk.hint.name != name
    assert name in settings.load().hints


def test_broken_settings_are_set_aside_and_a_project_open_elsewhere_is_said(tmp_path: Path) -> None:
    path = xdg.config() / "settings.json"
    path.parent.mkdir(parents=True)
    path.write_text("{half a file")
    assert settings.load() == settings.Settings()
    assert "could not be read" in settings.set_aside()
    assert [each.read_text() for each in path.parent.glob("settings broken *.json")] == ["{half a file"]
    settings.change(night=True)
    assert settings.load().night
    assert not settings.set_aside()
    project = tmp_path / "proof.tremor"
    mine = presence.Presence()
    assert not mine.hold(project)
    (mark,) = (xdg.state() / "open").glob("*/*")
    mark.with_name("gone").touch()  # of a window that was killed
    other = presence.Presence()
    assert other.hold(project)
    mine.leave()
    assert not mark.exists()
    assert not mine.hold(tmp_path / "another.tremor")
    other.leave()
    assert not mine.hold(project)


def test_from_the_empty_desk_to_a_rendered_clip_by_keyboard(
    qtbot, footage: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:  # type: ignore[no-untyped-def]
    desk = Desk(qtbot)
    desk.back()
    window, out = desk.window, tmp_path / "wall shaken.mp4"
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *a, **k: ([str(footage)], ""))
    desk.key("o", CTRL)
    desk.until(lambda: bool(desk.project.shots))
    desk.settle()
    desk.key("p")
    QTest.keyClicks(window.desk.popup.search, "walking")
    QTest.keyClick(window.desk.popup.search, K.Key_Return)
    desk.back()
    assert desk.shot.shake.preset == "Walking"
    reached = set()
    for _ in range(62):
        QTest.keyClick(QApplication.focusWidget() or window, K.Key_Tab)
        focus = QApplication.focusWidget()
        assert focus is not None
        reached.add(focus.accessibleName() or focus.objectName() or type(focus).__name__)
    assert {"Amount", "Time ruler", "Compare"} <= reached
    assert any(name.startswith("Shot 1") for name in reached)
    amount = next(iter(window.desk.chart._rows.values())).amount
    amount.setFocus()
    before = desk.shot.shake.strands[0].amount.value
    QTest.keyClick(amount, K.Key_Right)
    assert desk.shot.shake.strands[0].amount.value > before
    desk.key("r", CTRL)
    window.desk.sheet.path.selectAll()
    QTest.keyClicks(window.desk.sheet.path, str(out))
    answers: list[str] = []

    def answer(box: QMessageBox) -> int:
        answers.append(box.text())
        return 0

    monkeypatch.setattr(QMessageBox, "exec", answer)
    QTest.keyClick(window.desk.sheet.path, K.Key_Return)
    assert not window._may_stop()  # closing asks while it runs
    assert answers == ["A render is still running."]
    desk.until(lambda: not window.desk.sheet.running)
    assert np.std(decoded(out)[0].astype(float)) > 5
    desk.close()


def test_pictures_dropped_together_are_one_sequence_and_a_still(desk: Desk, tmp_path: Path) -> None:
    window, grey = desk.window, np.full((48, 64, 3), 90, np.uint8)
    for number in (1, 2, 3, 5, 6):
        cv2.imwrite(str(tmp_path / f"rack.{number:04d}.png"), grey)
    cv2.imwrite(str(tmp_path / "poster.png"), grey)
    desk.drop(*(tmp_path / f"rack.{number:04d}.png" for number in (2, 3, 5)), tmp_path / "poster.png")
    desk.pick("A shot of its own")
    desk.until(lambda: len(desk.project.shots) == 3)
    assert [shot.name for shot in desk.project.shots[1:]] == ["rack", "poster"]
    assert "1 picture is missing (number 4)" in desk.said()
    window.desk.state.choose_shot(desk.project.shots[1].id)
    desk.settle()
    assert (window.desk.view.frames, window.desk.chart.ruler.missing.tolist()) == (6, [3])
    window.desk.state.choose_shot(desk.project.shots[2].id)
    desk.settle()
    assert (window.desk.view.frames, window.desk.view.rate) == (120, 24)
    window.act.undo_step()
    assert len(desk.project.shots) == 1


@pytest.fixture
def quick_turns() -> Iterator[None]:
    """Threads take turns ten times as often as usual, so that they meet at more places."""
    usual = sys.getswitchinterval()
    sys.setswitchinterval(0.0005)
    yield
    sys.setswitchinterval(usual)


@pytest.mark.usefixtures("quick_turns")
def test_threads_may_speak_to_what_is_deleted_at_that_moment(qtbot: QtBot) -> None:
    heard: list[int] = []
    for number in range(300):
        owner = QWidget() if number % 2 else QObject()
        send, stop = on_desk(owner, heard.append), threading.Event()

        def speak(send=send, stop=stop) -> None:  # type: ignore[no-untyped-def]
            while not stop.is_set():
                send(1)

        speakers = [threading.Thread(target=speak) for _ in range(3)]
        for each in speakers:
            each.start()
        QApplication.processEvents()
        owner.deleteLater()
        QApplication.sendPostedEvents(None, 52)  # DeferredDelete
        stop.set()
        for each in speakers:
            each.join()
        said = len(heard)
        QApplication.processEvents()
        assert len(heard) == said, "what is gone hears nothing more"
