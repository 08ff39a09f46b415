"""The list of deliveries: run in its order, there again next time, kept fresh, gone on with."""

from __future__ import annotations

import dataclasses
import threading
from pathlib import Path

import cv2
import pytest
from msgspec.structs import replace

from clips import decoded, number_of
from test_delivery import still
from young_tremor.base.errors import ExistingFile, TremorError
from young_tremor.engine.delivery import actions, delivery_plan, side_by_side
from young_tremor.engine.delivery.delivery_queue import DeliveryQueue, DeliveryRequest, QueuedDelivery
from young_tremor.engine.library import preset_library
from young_tremor.model.project import Project
from young_tremor.model.shot_edits import from_preset


class Desk:
    """A document and a clock for a list."""

    def __init__(self, project: Project, path: Path | None) -> None:
        self.project, self.path, self.now = project, path, 0.0
        self.list = DeliveryQueue(lambda: (self.project, self.path), lambda: self.now)

    def run(self) -> None:
        self.list.start()
        self.settle()

    def settle(self) -> None:
        while self.list.running:
            assert self.list.wait(60)


def test_a_list_runs_in_its_order_and_is_there_again_next_time(tmp_path: Path, footage: Path) -> None:
    desk = Desk(Project((still(footage), replace(still(footage), id="b", name="Close"))), tmp_path / "scene.tremor")
    rows = desk.list.rows
    desk.list.add(DeliveryRequest("each", str(tmp_path / "{number} {shot}.mkv"), "ffv1"))
    desk.list.add(DeliveryRequest("chosen", str(tmp_path / "{shot} {variant}.mov"), "dnxhr", shots=("b",), clean=True))
    desk.list.add(DeliveryRequest("marks", str(tmp_path / "cut.mp4"), within=(1.5, 2.5), everywhere=True))
    with pytest.raises(TremorError, match="in the list already"):
        desk.list.add(DeliveryRequest("marks", str(tmp_path / "cut.mp4"), within=(1.5, 2.5)))
    with pytest.raises(TremorError, match="No shots match"):
        desk.list.add(DeliveryRequest("chosen", str(tmp_path / "x.mp4"), shots=("gone",)))
    desk.list.move(rows[2], -2)
    desk.list.stop(rows[1])
    desk.run()
    assert [(row.request.what, row.state) for row in rows] == [
        ("marks", "done"),
        ("each", "stopped"),
        ("chosen", "done"),
    ]
    assert len(decoded(tmp_path / "cut.mp4")) // 3 == 24
    assert (tmp_path / "Close A.mov").exists()
    assert (tmp_path / "Close A clean.mov").exists()
    assert not (tmp_path / "01 Press, wide.mkv").exists()
    desk.list.again(rows[1])
    again = Desk(desk.project, desk.path)
    assert again.list.open() == 1
    assert [row.state for row in again.list.rows] == ["done", "stopped", "done"]
    assert "run it again" in again.list.rows[1].said
    taken = tmp_path / "02 Close.mkv"
    taken.write_text("somebody's")
    again.list.again(again.list.rows[1])
    again.run()
    assert again.list.rows[1].state == "failed"
    assert "exists already" in again.list.rows[1].said
    again.list.again(again.list.rows[1])
    again.run()
    assert taken.read_text() == "somebody's"
    again.list.again(again.list.rows[0])  # its own are replaced
    again.run()
    assert again.list.rows[0].state == "done"


def test_what_is_kept_fresh_follows_its_shot_and_nothing_else(tmp_path: Path, footage: Path) -> None:
    shot = still(footage, end=0.25)
    desk = Desk(Project((shot, replace(shot, id="b", name="Close"))), tmp_path / "scene.tremor")
    out = tmp_path / "wide.mkv"
    desk.list.add(DeliveryRequest("shot", str(out), "ffv1", shots=(shot.id,), fresh=True))
    row = desk.list.rows[0]
    assert desk.list.lamp(row) == "waiting"
    desk.run()
    assert desk.list.lamp(row) == "fresh"
    first = out.stat().st_ino

    def look(seconds: float) -> None:
        desk.now += seconds
        desk.list.look()
        desk.settle()

    for _ in range(3):
        look(10)
    assert out.stat().st_ino == first
    desk.project = replace(desk.project, shots=(shot, replace(desk.project.shots[1], name="Closer")))
    look(1)
    look(10)
    assert out.stat().st_ino == first  # another shot changed
    assert desk.list.lamp(row) == "fresh"
    held = out.open("rb")
    for pan in range(3):
        shake = from_preset(preset_library.preset("walking"))
        desk.project = replace(desk.project, shots=(replace(shot, shake=shake, start=pan / 24), desk.project.shots[1]))
        look(1)
        assert desk.list.lamp(row) == "waiting"
        assert out.stat().st_ino == first
    look(5)
    assert desk.list.lamp(row) == "fresh"
    assert out.stat().st_ino != first
    assert held.read(4) == b"\x1a\x45\xdf\xa3"  # who had it open still has the old one
    held.close()
    before, other = desk.project, replace(desk.project, shots=(replace(shot, start=0.5, end=0.75),))
    desk.project = other
    look(1)
    desk.now += 5
    desk.list.look()  # it is at work now, or has been already
    desk.project = before
    for _ in range(3):  # taken back while it was made: what stands there is what is asked for, whole
        look(5)
    assert desk.list.lamp(row) == "fresh"
    assert number_of(decoded(out)[0]) == 2
    again = Desk(desk.project, desk.path)
    again.list.open()
    made = out.stat().st_ino
    again.now = 100
    for _ in range(3):
        again.now += 10
        again.list.look()
        again.settle()
    assert out.stat().st_ino == made
    assert again.list.lamp(again.list.rows[0]) == "fresh"


def test_two_films_of_a_list_are_made_at_once(tmp_path: Path, footage: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Of one row, and of two; each the same as if it were made alone, and both end when one of a row fails."""
    monkeypatch.setattr(side_by_side, "AT_ONCE", 2)
    desk = Desk(Project((still(footage), replace(still(footage), id="b", name="Close"))), tmp_path / "scene.tremor")
    desk.list.add(DeliveryRequest("shot", str(tmp_path / "{shot}.mkv"), "ffv1", shots=("b",), clean=True))
    desk.list.add(DeliveryRequest("reel", str(tmp_path / "reel.mkv"), "ffv1"))
    desk.list.add(DeliveryRequest("reel", str(tmp_path / "later.mkv"), "ffv1"))
    under_way: set[tuple[str, ...]] = set()

    def reported(row: QueuedDelivery) -> None:
        assert row.told["left"] < 1e5  # a film that waits for its turn says nothing of the time
        under_way.add(tuple(sorted(path.name for path in tmp_path.glob(".*.part.mkv"))))

    desk.list.progressed.connect(reported)
    desk.run()
    rows = desk.list.rows
    assert [row.state for row in rows] == ["done"] * 3
    assert {path.name for path in rows[0].written} == {"Close.mkv", "Close clean.mkv"}
    assert [row.told["frame"] == row.told["frames"] for row in rows] == [True] * 3
    assert max(len(names) for names in under_way) == 2
    pairs = {frozenset(name[1:].partition(".")[0] for name in parts) for parts in under_way}
    assert {frozenset(("Close", "Close clean")), frozenset(("reel", "later"))} <= pairs
    delivery_plan.run(dataclasses.replace(rows[1].films[0], path=tmp_path / "alone.mkv"), lambda done, total: None)
    alone = decoded(tmp_path / "alone.mkv")
    assert all((frame == same).all() for frame, same in zip(alone, decoded(tmp_path / "reel.mkv"), strict=True))
    desk.list.add(DeliveryRequest("each", str(tmp_path / "{number} {shot}.mkv"), "ffv1"))
    render, failing = actions.render, threading.Event()

    def blocked(shots: object, output: Path, report: object, **options: object) -> tuple[str, ...]:
        if output.name.startswith("02"):
            failing.set()
            raise ExistingFile(f"{output.name} exists already: choose another name.")
        assert failing.wait(60)
        return render(shots, output, report, **options)  # type: ignore[arg-type]

    monkeypatch.setattr(actions, "render", blocked)
    desk.run()
    assert (rows[-1].state, rows[-1].written) == ("failed", ())
    assert "02 Close.mkv exists already" in rows[-1].said
    assert not (tmp_path / "01 Press, wide.mkv").exists()
    assert not list(tmp_path.glob(".*.part*"))


def test_what_runs_goes_on_when_another_project_is_opened(tmp_path: Path, footage: Path) -> None:
    desk = Desk(Project((still(footage, end=1.0),)), tmp_path / "one.tremor")
    desk.list.open()
    desk.list.add(DeliveryRequest("reel", str(tmp_path / "one.mkv"), "ffv1"))
    row = desk.list.rows[0]

    def opened(each: QueuedDelivery) -> None:
        if desk.path is not None and desk.path.name == "one.tremor":
            desk.project, desk.path = Project((still(footage),)), tmp_path / "two.tremor"
            desk.list.open()
            assert desk.list.rows == [row]

    desk.list.progressed.connect(opened)
    desk.run()
    assert desk.list.rows == []
    assert len(decoded(tmp_path / "one.mkv")) // 3 == 24
    desk.list.add(DeliveryRequest("reel", str(tmp_path / "two.mkv"), "ffv1"))
    for path, states in (("one.tremor", ["done"]), ("two.tremor", ["stopped"])):
        again = Desk(desk.project, tmp_path / path)
        again.list.open()
        assert [each.state for each in again.list.rows] == states


def test_a_stopped_sequence_goes_on_where_it_was(tmp_path: Path, footage: Path) -> None:
    desk = Desk(Project((still(footage, end=1.0),)), None)
    desk.list.add(DeliveryRequest("reel", str(tmp_path / "press.####.png"), "png"))
    row = desk.list.rows[0]
    desk.list.progressed.connect(lambda each: each.told["frame"] >= 9 and desk.list.stop(each))
    desk.run()
    assert row.state == "stopped"
    there = sorted(tmp_path.glob("*.png"))
    assert 5 <= len(there) < 24
    assert not list(tmp_path.glob(".*"))
    stamp = there[0].stat().st_mtime_ns
    desk.list.progressed.clear()
    desk.list.again(row)
    desk.run()
    assert row.state == "done"
    assert len(list(tmp_path.glob("*.png"))) == 24
    assert there[0].stat().st_mtime_ns == stamp
    desk.project = Project((still(footage, start=0.5, end=1.5),))
    desk.list.progressed.connect(lambda each: each.told["frame"] >= 9 and desk.list.stop(each))
    desk.list.again(row)
    desk.run()
    desk.list.progressed.clear()
    desk.list.again(row)  # of what is there some is of another state: all is made anew
    desk.run()
    last = cv2.imread(str(tmp_path / "press.0024.png"))
    assert number_of(last[..., 1]) == 12 + 23
