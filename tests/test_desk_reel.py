"""The reel on the desk: several shots chosen, trimmed, split, moved, played through their cuts, under one span."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QInputDialog, QLineEdit
from pytestqt.qtbot import QtBot

from clips import clip, number_of
from driver import Desk
from young_tremor.desk.reel import reel_chart_paint as paint
from young_tremor.engine.delivery import batch
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, takes
from young_tremor.engine.media import relink
from young_tremor.engine.playback.player import SilentDevice
from young_tremor.model import shot_edits
from young_tremor.model.project import Project
from young_tremor.model.shake import Drift, Hit

K = Qt.Key
CTRL, SHIFT, ALT = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
)
MIDDLE = paint.TOPS["shots"] + paint.SHOTS / 2
NAMES = ["a", "b", "c", "d"]


class Clock:
    """A clock that is put on by hand."""

    now = 0.0

    def __call__(self) -> float:
        return self.now


@pytest.fixture(scope="module")
def clips(tmp_path_factory) -> tuple[Path, ...]:  # type: ignore[no-untyped-def]
    """Three sizes and two rates, a second each."""
    folder = tmp_path_factory.mktemp("reel")
    kinds = {"a": ((320, 180), 24), "b": ((240, 180), 24), "c": ((320, 180), 30), "d": ((160, 90), 24)}
    return tuple(clip(folder / f"{n}.mp4", frames=r, size=size, rate=r) for n, (size, r) in kinds.items())


@pytest.fixture
def reel(qtbot, clips) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    clock = Clock()
    made = Desk(qtbot, Session(batch.make_reel(clips, preset_library.preset("standing"))), SilentDevice(clock))
    made.clock = clock  # type: ignore[attr-defined]
    made.settle()
    made.key("r")
    made.until(lambda: len(made.window.desk.state.facts) == len(clips))
    made.settle()
    yield made
    made.close()


def x_of(desk: Desk, seconds: float) -> float:
    return desk.window.desk.scene.paper.view.x(seconds, desk.window.desk.scene.paper.width())


def choose(desk: Desk, number: int, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
    place = desk.window.desk.state.places[number]
    at = round(x_of(desk, (place.at + place.end) / 2))
    paper = desk.window.desk.scene.paper
    QTest.mouseClick(paper, Qt.MouseButton.LeftButton, modifiers, QPoint(at, round(MIDDLE)))


def names(desk: Desk) -> list[str]:
    return [shot.name for shot in desk.project.shots]


def test_shots_are_moved_trimmed_split_named_and_brought_back(reel: Desk) -> None:
    window, paper, start = reel.window, reel.window.desk.scene.paper, reel.project
    assert [place.at for place in window.desk.state.places] == [0.0, 1.0, 2.0, 3.0]
    choose(reel, 0)
    choose(reel, 1, CTRL)
    assert window.desk.state.chosen_shots == {start.shots[0].id, start.shots[1].id}
    reel.drag(paper, (x_of(reel, 0.5), MIDDLE), (x_of(reel, 2.9), MIDDLE))
    assert names(reel) == ["c", "a", "b", "d"]
    reel.key("z", CTRL)
    assert reel.project == start
    reel.key(K.Key_Right, ALT)
    assert names(reel) == ["c", "a", "b", "d"]
    reel.key("z", CTRL)
    # an end is dragged: the picture shows the frame there, and it is one step
    choose(reel, 3)
    reel.settle()
    reel.drag(paper, (x_of(reel, 4.0) - 3, MIDDLE), (x_of(reel, 3.8), MIDDLE), (x_of(reel, 3.5), MIDDLE))
    assert reel.shot.name == "d"
    assert reel.shot.end == pytest.approx(0.5, abs=0.05)
    assert reel.frame in (10, 11, 12)
    reel.key("z", CTRL)
    assert reel.project == start
    window.desk.stage.go_in_reel(12)
    reel.settle()
    reel.key("s")
    assert names(reel) == ["a", "a", "b", "c", "d"]
    assert [place.at for place in window.desk.state.places] == [0.0, 0.5, 1.0, 2.0, 3.0]
    reel.key(K.Key_F2)
    line = next(each for each in paper.findChildren(QLineEdit) if each.isVisible())
    line.selectAll()
    QTest.keyClicks(line, "Platen, close")
    QTest.keyClick(line, K.Key_Return)
    assert names(reel)[1] == "Platen, close"
    reel.key("d", CTRL)
    assert names(reel)[1:3] == ["Platen, close", "Platen, close 2"]
    reel.until(lambda: "peak" in paper.peak_words())
    for _ in range(3):
        reel.key("z", CTRL)
    assert reel.project == start


def test_a_change_goes_to_all_that_are_chosen_and_says_where_they_differ(reel: Desk) -> None:
    window = reel.window
    window.desk.session.apply("Lens", shot_edits.set_frame(reel.project.shots[2].id, focal_mm=85.0))
    choose(reel, 0)
    choose(reel, 2, SHIFT)
    assert len(window.desk.state.chosen_shots) == 3
    focal = window.desk.panel.frame.focal
    assert "differs" in focal.accessibleDescription()
    assert "differs" not in window.desk.panel.frame.angle.accessibleDescription()
    reel.type_into(focal, "35")
    assert [shot.frame.focal_mm for shot in reel.project.shots] == [35.0, 35.0, 35.0, 50.0]
    assert "differs" not in focal.accessibleDescription()
    assert "3 shots chosen" in window.desk.panel.several.text()
    # a preset goes to all of them, each in a course of its own
    reel.key("p")
    QTest.keyClicks(window.desk.popup.search, "shoulder")
    reel.until(lambda: window.desk.stage._trial is not None)
    trial = window.desk.stage._trial
    assert trial is not None
    assert trial.shake.strands[0].name == preset_library.preset("shoulder").shake.strands[0].name
    assert reel.project.shots[0].shake.preset == "Standing, breathing"
    QTest.keyClick(window.desk.popup.search, K.Key_Return)
    assert window.desk.stage._trial is None
    assert [shot.shake.preset for shot in reel.project.shots] == [*["Shoulder rig"] * 3, "Standing, breathing"]
    seeds = {s.seed for shot in reel.project.shots[:3] for s in shot.shake.strands if isinstance(s, Drift)}
    assert len(seeds) >= 3
    # looked at and left: what was is there again
    before = reel.project
    reel.key("p")
    QTest.keyClicks(window.desk.popup.search, "walking")
    reel.until(lambda: window.desk.stage._trial is not None)
    QTest.keyClick(window.desk.popup.search, K.Key_Escape)
    reel.until(lambda: not window.desk.popup.isVisible())
    assert (window.desk.stage._trial, reel.project) == (None, before)


def test_a_shake_is_copied_to_others_with_what_goes_along(reel: Desk) -> None:
    window, first = reel.window, reel.project.shots[0]
    window.desk.session.apply("Hit", shot_edits.add_hits(first.id, (Hit("h", 0.25),)))
    window.desk.session.apply("Lens", shot_edits.set_frame(first.id, focal_mm=90.0))
    choose(reel, 0)
    window.act.reel._toggle_along("lens")
    window.act.reel._toggle_along("hits")
    reel.key("c", CTRL)
    choose(reel, 1)
    choose(reel, 3, SHIFT)
    reel.key("v", CTRL)
    assert [shot.frame.focal_mm for shot in reel.project.shots] == [90.0] * 4
    assert all([hit.t for hit in shot.hits] == [0.25] for shot in reel.project.shots)
    assert len({shot.shake.strands[0].seed for shot in reel.project.shots}) == 4


def test_playing_goes_on_through_the_cuts_to_the_frame_and_round_in_the_marks(reel: Desk) -> None:
    window, clock = reel.window, reel.clock  # type: ignore[attr-defined]
    state = window.desk.state
    window.desk.stage.go_in_reel(20)
    reel.settle()
    reel.key(K.Key_Space)
    reel.until(lambda: window.desk.stage._waiting is None)
    clock.now += 3.5 / 24
    reel.until(lambda: reel.frame == 23)
    clock.now += 1 / 24
    reel.until(lambda: reel.shot.name == "b" and window.desk.stage._waiting is None)
    assert state.reel_time.frame == 24
    assert window.desk.transport._time.text() == "00:01:00"
    clock.now += 4.5 / 24
    reel.until(lambda: reel.frame == 4)
    assert number_of(reel.window.desk.picture.picture.rgb[..., 1]) == 4  # type: ignore[union-attr]
    reel.key(K.Key_Space)
    # the marks are the reel's: from the last half second of b into c, and round
    for frame, key in ((36, "i"), (50, "o")):
        window.desk.stage.go_in_reel(frame)
        reel.settle()
        reel.key(key)
    assert state.reel_time.marks == (36, 50)
    reel.key(K.Key_Space)
    reel.until(lambda: window.desk.stage._waiting is None)
    assert (state.reel_time.frame, reel.shot.name) == (36, "b")
    clock.now += 12.5 / 24
    reel.until(lambda: reel.shot.name == "c" and window.desk.stage._waiting is None)
    clock.now += 3.6 / 24
    reel.until(lambda: reel.shot.name == "b" and window.desk.stage._waiting is None)
    assert state.reel_time.frame == 36
    reel.key(K.Key_Space)
    reel.key("x")
    assert not window.desk.clock.marks
    window.desk.stage.go_in_reel(47)
    reel.settle()
    reel.key(K.Key_Right)
    assert (reel.shot.name, reel.frame) == ("c", 0)


def test_a_span_is_laid_drawn_out_tuned_and_kept(reel: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    window, paper = reel.window, reel.window.desk.scene.paper
    window.desk.stage.go_in_reel(60)
    before = reel.picture()
    choose(reel, 1)
    choose(reel, 2, SHIFT)
    reel.key("n", CTRL | SHIFT)
    span = reel.project.spans[0]
    assert (span.start, span.end, window.desk.state.now.span) == (1.0, 3.0, span.id)
    y = paint.TOPS["spans"] + 20
    reel.drag(paper, (x_of(reel, 3.0), y), (x_of(reel, 3.5), y))
    assert reel.project.spans[0].end == pytest.approx(3.5, abs=0.05)
    reel.drag(paper, (x_of(reel, 1.0 + span.fade_in), y), (x_of(reel, 1.2), y))
    assert reel.project.spans[0].fade_in == pytest.approx(0.2, abs=0.05)
    reel.drag(paper, (x_of(reel, 2.0), y), (x_of(reel, 1.75), y))
    assert reel.project.spans[0].start == pytest.approx(0.75, abs=0.05)
    assert window.desk.panel.current is window.desk.panel.span
    reel.type_into(window.desk.panel.span.level, "200")
    assert reel.project.spans[0].shake.intensity.value == 2.0
    window.desk.stage.go_in_reel(60)
    assert float(np.abs(reel.picture() - before).mean()) > 0.5
    choose(reel, 2)
    window.desk.state.choose(span=span.id)
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("Rolling ground", True))
    window.desk.panel.span.kept.emit(reel.project.spans[0])
    assert preset_library.preset("rolling ground").shake.intensity.value == 2.0
    window.desk.panel.span.preset._refresh()
    assert window.desk.panel.span.preset.findData("Rolling ground") >= 0
    seen = [len(window.desk.state.under_spans(place).over) for place in window.desk.state.places]
    assert seen == [1, 1, 1, 1]
    reel.key("z", CTRL)
    assert reel.project.spans[0].shake.intensity.value == 1.0


def test_one_take_runs_on_over_a_scene(reel: Desk) -> None:
    window = reel.window
    take = takes.read(preset_library.ASSETS / "demo" / "aisle-walk.csv")
    choose(reel, 0)
    choose(reel, 2, SHIFT)
    window.act.takes.use(take)
    offsets = [getattr(shot.shake.strands[-1], "offset", None) for shot in reel.project.shots[:3]]
    assert offsets == [0.0, 1.0, 2.0]
    assert len(reel.project.shots[3].shake.strands) == len(preset_library.preset("standing").shake.strands)
    window.desk.session.undo()
    window.act.takes.show()
    popup = window.desk.takes
    reel.until(popup.isVisible)
    popup.hide()


def test_lost_footage_is_said_found_and_put_back_and_a_project_gathered(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    home, other = tmp_path / "home", tmp_path / "other"
    home.mkdir()
    other.mkdir()
    a, b = (clip(home / f"{name}.mp4", frames=12) for name in "ab")
    project = relink.add_fingerprints(batch.make_reel((a, b), preset_library.starting_preset()))
    shutil.move(b, other / "b, version 2.mp4")
    desk = Desk(qtbot, Session(project))
    desk.settle()
    desk.window.desk.state.choose(shot=project.shots[1].id)
    desk.until(lambda: "b.mp4" in desk.window.desk.picture.hint)
    desk.window.desk.state.choose(shot=project.shots[0].id)
    desk.settle()
    desk.window.desk.stage.go_in_reel(
        12 + 48
    )  # into what is lost, and back: the other shot is entered at its beginning
    assert desk.shot.id == project.shots[1].id
    desk.window.desk.state.choose(shot=project.shots[0].id)
    desk.settle()
    assert desk.frame == 0
    desk.window.desk.state.choose(shot=project.shots[1].id)
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a, **k: str(other))
    desk.window.act.footage.ask_find()
    desk.until(lambda: "very same" in desk.said())
    desk.settle()
    assert Path(desk.shot.footage.media.path).name == "b, version 2.mp4"
    into = tmp_path / "gathered"
    into.mkdir()
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a, **k: str(into))
    desk.window.act.footage.ask_gather()
    desk.until(lambda: "Gathered" in desk.said())
    assert len(list((into / "footage").iterdir())) == 2
    newer = clip(tmp_path / "newer.mp4", frames=20)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(newer), ""))
    desk.window.act.footage.ask_replace()
    desk.until(lambda: Path(desk.shot.footage.media.path).name == "newer.mp4")
    assert "instead of" in desk.said()
    desk.close()


def test_an_empty_reel_says_what_to_do(qtbot) -> None:  # type: ignore[no-untyped-def]
    desk = Desk(qtbot, Session(Project()))
    desk.window.desk.state.choose(scope="reel")
    for key in ("s", K.Key_F2):
        desk.key(key)
    desk.window.desk.scene.paper.repaint()
    desk.window.act.reel.add_span()
    assert "Open some footage" in desk.said()
    QApplication.processEvents()
    desk.close()
