"""The preview in a process of its own: it shows what a thread shows, and its end loses nothing."""

from __future__ import annotations

import signal
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import replace as change
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt

from clips import clip
from driver import Desk
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, settings
from young_tremor.engine.media import proxies
from young_tremor.engine.preview import launch
from young_tremor.engine.preview.preview_process import PreviewProcess
from young_tremor.engine.preview.preview_worker import PictureRequest, PreviewPicture, PreviewWorker
from young_tremor.engine.system.priority import PriorityGate
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Project, Shot

SIZE = (320, 180)


class Watched:
    """A preview, what it answered, and what it said."""

    def __init__(self, preview: PreviewProcess | PreviewWorker) -> None:
        self.preview = preview
        self.answers: list[PreviewPicture] = []
        self.crops: list[float] = []
        self.words: list[str] = []
        self._turn = threading.Condition()
        preview.picture.connect(lambda picture: self._note(self.answers, picture))
        preview.readings.connect(lambda shot, plan, readings: self._note(self.crops, readings.crop))
        preview.failed.connect(lambda shot, words: self._note(self.words, words))
        preview.filled.connect(lambda: self._note([], None))

    def _note(self, notes: list, note: object) -> None:
        with self._turn:
            notes.append(note)
            self._turn.notify_all()

    def until(self, condition: Callable[[], bool]) -> None:
        with self._turn:
            assert self._turn.wait_for(condition, 60)

    def ask(self, request: PictureRequest) -> PreviewPicture:
        self.preview.ask(request)
        self.until(lambda: bool(self.answers) and self.answers[-1].request is request)
        return self.answers[-1]


@pytest.fixture
def apart() -> Iterator[Watched]:
    watched = Watched(PreviewProcess())
    yield watched
    watched.preview.close()


@pytest.fixture
def shot(tmp_path: Path) -> Shot:
    path = clip(tmp_path / "wall.mp4", frames=24, size=(640, 360))
    return shot_edits.add_shot(path, preset_library.preset("walking"))(Project()).shots[0]


def process_of(watched: Watched) -> subprocess.Popen[bytes]:
    assert isinstance(watched.preview, PreviewProcess)
    return watched.preview._process


def test_every_way_to_look_shows_what_a_thread_shows(apart: Watched, shot: Shot) -> None:
    beside = Watched(PreviewWorker())
    still = PictureRequest(shot, SIZE, "still", 3, fill=False)
    for request in (
        still,
        change(still, mode="shaken", index=7, values=True),
        change(still, mode="split", index=9),
        change(still, mode="difference", overscan=1.2),
        change(still, mode="shaken", stops=1.0, size=(318, 178)),
    ):
        ours, theirs = apart.ask(request), beside.ask(request)
        np.testing.assert_array_equal(ours.rgb, theirs.rgb)
        assert (ours.still is None) == (theirs.still is None)
        if ours.still is not None and theirs.still is not None:
            np.testing.assert_array_equal(ours.still, theirs.still)
        assert (ours.info, ours.index, ours.exact) == (theirs.info, theirs.index, theirs.exact)
        assert ours.values_at(0.4, 0.6) == theirs.values_at(0.4, 0.6)
        kept = apart.preview.look(request, request.index)
        assert kept is not None
        np.testing.assert_array_equal(kept.rgb, ours.rgb)
    beside.until(lambda: len(beside.crops) == 3)
    apart.until(lambda: apart.crops == beside.crops)
    beside.preview.close()


def test_pictures_that_give_way_there_are_gone_here_and_new_colours_forget_all(apart: Watched, shot: Shot) -> None:
    preview, room = apart.preview, 3 * SIZE[0] * SIZE[1]
    preview.keep(5 * room)
    for index in range(12):
        apart.ask(PictureRequest(shot, SIZE, "shaken", index, fill=False))
    request = PictureRequest(shot, SIZE, "shaken", 0, fill=False)
    assert np.flatnonzero(preview.ready(request)).tolist() == [7, 8, 9, 10, 11]
    assert preview.nbytes == 5 * room
    preview.keep(room // 2)
    apart.ask(request)  # too large to be kept, and shown all the same
    assert preview.nbytes == 0
    preview.keep(5 * room)
    apart.ask(request)
    preview.forget(settings.load())
    assert preview.look(request, 0) is None
    apart.ask(change(request, index=1))
    assert preview.look(request, 0) is None


@pytest.mark.parametrize("at_work", [True, False])
def test_a_process_that_is_killed_is_replaced_and_answers_again(apart: Watched, shot: Shot, at_work: bool) -> None:
    first = apart.ask(PictureRequest(shot, SIZE, "shaken", 5, fill=at_work))
    process_of(apart).kill()
    apart.until(lambda: len(apart.answers) > 1)
    assert apart.answers[-1].index == 5
    np.testing.assert_array_equal(apart.answers[-1].rgb, first.rgb)
    again = PictureRequest(shot, SIZE, "shaken", 6)
    apart.ask(again)
    apart.until(lambda: bool(apart.preview.ready(again).all()))
    assert not apart.words


def test_one_that_ends_over_and_over_is_said_and_the_next_request_goes_on(apart: Watched, shot: Shot) -> None:
    request = PictureRequest(shot, SIZE, "shaken", 5, fill=False)
    for count in (1, 2, 3):
        if count == 1:
            apart.ask(request)
        else:
            apart.until(lambda count=count: len(apart.answers) == count)  # type: ignore[misc]
        process_of(apart).kill()
    apart.until(lambda: bool(apart.words))
    assert "ended three times" in apart.words[0]
    assert apart.ask(change(request, index=6)).index == 6


def test_one_that_stands_still_holds_nobody_up(apart: Watched, shot: Shot) -> None:
    apart.ask(PictureRequest(shot, SIZE, "shaken", 0, fill=False))
    process_of(apart).send_signal(signal.SIGSTOP)
    begun = time.thread_time()
    for index in range(2000):
        apart.preview.ask(PictureRequest(shot, SIZE, "shaken", index % 24, fill=False))
        apart.preview.follow(index % 24)
    assert time.thread_time() - begun < 5
    process_of(apart).send_signal(signal.SIGCONT)
    assert apart.ask(PictureRequest(shot, SIZE, "shaken", 9, fill=False)).index == 9


def test_it_ends_with_the_window_however_that_ends() -> None:
    code = """
import os, sys
from young_tremor.engine.preview.preview_process import PreviewProcess
preview = PreviewProcess()
print(preview._process.pid, flush=True)
sys.stdin.read()
"""
    with subprocess.Popen([sys.executable, "-c", code], stdin=subprocess.PIPE, stdout=subprocess.PIPE) as window:
        assert window.stdout is not None
        number = int(window.stdout.readline())
        window.kill()
    end = time.monotonic() + 30
    while time.monotonic() < end and Path(f"/proc/{number}").exists() and _state(number) != "Z":
        threading.Event().wait(0.05)
    assert not Path(f"/proc/{number}").exists() or _state(number) == "Z"


def _state(number: int) -> str:
    try:
        return Path(f"/proc/{number}/stat").read_text().rsplit(")", 1)[1].split()[0]
    except OSError:
        return "Z"


def test_what_the_window_is_begun_with_is_ready_before_it_asks(tmp_path: Path) -> None:
    project = preset_library.demo_project()
    launch.begin(["demo"])
    launched = launch.take()
    assert launched is not None
    assert launch.take() is None
    watched = Watched(PreviewProcess(launched))
    size = settings.load().looked
    request = PictureRequest(replace(project.shots[0], others=()), size, "shaken", 0, fill=False)
    picture = watched.ask(request)
    assert picture.rgb.shape == (size[1], size[0], 3)
    watched.preview.close()


def test_heavy_footage_is_shown_from_copies_that_the_window_makes(tmp_path: Path) -> None:
    heavy = clip(tmp_path / "large.mp4", frames=6, size=(2880, 1620), options={"preset": "ultrafast"})
    shot = shot_edits.add_shot(heavy, preset_library.preset("walking"))(Project()).shots[0]
    watched, rest = Watched(PreviewProcess()), PriorityGate()
    copies = proxies.ProxyMaker(rest, quiet=0.0)
    watched.preview.serve(copies, rest)
    try:
        before = watched.ask(PictureRequest(shot, SIZE, "still", 2, fill=False))
        end = time.monotonic() + 60
        while copies.ready(str(heavy), before.info) is None and time.monotonic() < end:
            threading.Event().wait(0.05)
        changed = False
        while not changed and time.monotonic() < end:  # what is known of the copy is read first
            watched.preview.forget(settings.load())
            picture = watched.ask(PictureRequest(shot, SIZE, "still", 2, fill=False))
            changed = not np.array_equal(picture.rgb, before.rgb)
        assert changed
        assert np.abs(picture.rgb.astype(int) - before.rgb).mean() < 2
    finally:
        watched.preview.close()
        copies.close()


def test_the_window_over_it_drags_plays_undoes_and_outlives_it(qtbot, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    launch.begin(())
    desk = Desk(qtbot, Session())
    preview = desk.window.desk.stage.preview
    assert isinstance(preview, PreviewProcess)
    desk.open(clip(tmp_path / "press.mp4", frames=48, size=(640, 360)))
    before = desk.picture()
    strand = desk.shot.shake.strands[0]
    desk.window.desk.session.apply("Amount", shot_edits.set_strand(desk.shot.id, strand.id, amount=Curve(4.0)))
    assert np.abs(desk.picture() - before).mean() > 0.5
    preview._process.kill()
    desk.window.desk.session.undo()
    np.testing.assert_array_equal(desk.picture(), before)
    desk.key(Qt.Key.Key_Space)
    desk.until(lambda: desk.frame > 12)
    desk.key(Qt.Key.Key_Space)
    assert not desk.window.desk.stage.playing
    desk.settle()
    desk.close()
    assert preview._process.poll() is not None
