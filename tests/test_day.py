"""A day's work in the window: a timeline comes in, and goes out again with its films in place; then it is all undone
and done again."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import cv2
import numpy as np
import opentimelineio as otio
import pytest
from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot

from clips import clip, decoded
from driver import Desk
from test_timelines import cut, external, written
from young_tremor import api
from young_tremor.engine.delivery.delivery_queue import DeliveryRequest
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, takes
from young_tremor.engine.media import relink
from young_tremor.model import reel_edits, shot_edits
from young_tremor.model.shake import Jolts, Taken

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier
RATE = 24.0


SMALL = (320, 180)


def small(path: Path, to: Path) -> None:
    """A picture of the demo, small."""
    cv2.imwrite(str(to), cv2.resize(cv2.imread(str(path), cv2.IMREAD_UNCHANGED), SMALL, interpolation=cv2.INTER_AREA))


def rack(folder: Path) -> str:
    """Numbered pictures."""
    folder.mkdir()
    for number, path in enumerate(sorted((preset_library.ASSETS / "demo/drying-rack").glob("*"))[:12], start=1):
        small(path, folder / f"rack.{number:04d}.png")
    return str(folder / "rack.####.png")


def test_a_day(qtbot: QtBot, tmp_path: Path) -> None:
    media = tmp_path / "media"
    media.mkdir()
    films = [
        clip(media / f"{name}.mp4", frames=30, size=(320, 180), audio=True) for name in ("press", "platen", "door")
    ]
    still = media / "proof.png"
    small(preset_library.ASSETS / "demo/type-case.png", still)
    first = external(films[0], 2, 24, RATE, name="Press")
    first.markers.append(
        otio.schema.Marker(
            "bang", otio.opentime.TimeRange(otio.opentime.RationalTime(12, RATE), otio.opentime.RationalTime(0, RATE))
        )
    )
    cuts_in = [first, external(films[1], 0, 12, RATE, name="Platen"), external(films[2], 6, 12, RATE, name="Door")]
    desk = Desk(qtbot, Session())
    window, session = desk.window, desk.window.desk.session
    desk.drop(written(cut(cuts_in), tmp_path / "cut.otio"))
    desk.until(lambda: len(desk.project.shots) == 3)
    desk.settle()
    begun = desk.project
    assert [len(shot.hits) for shot in begun.shots] == [1, 0, 0], "a marker became a hit"

    def pictures() -> list[np.ndarray]:
        found = []
        for shot in desk.project.shots:
            window.desk.state.choose(shot=shot.id)
            desk.settle()
            window.desk.stage.go(5)
            found.append(desk.picture())
        return found

    before = pictures()

    def on(number: int) -> str:
        window.desk.state.choose(shot=desk.project.shots[number].id)
        desk.settle()
        return desk.shot.id

    # a picture and numbered pictures more: five shots of three kinds
    for path in (still, Path(rack(media / "rack"))):
        count = len(desk.project.shots)
        window.act.files.open_all([path])
        desk.until(lambda count=count: len(desk.project.shots) == count + 1 and not window.act.files.adding)  # type: ignore[misc]
    session.apply("Shorter", reel_edits.trim(desk.project.shots[3].id, start=0.0, end=0.5))
    # a take, blows, a title, sound, a variant
    walk = takes.read(preset_library.ASSETS / "demo/aisle-walk.csv")
    session.apply("Use take", shot_edits.apply_preset(on(1), takes.preset_of(walk, 35.0)))
    assert isinstance(desk.shot.shake.strands[0], Taken)
    on(0)
    window.desk.stage.go(20)
    desk.key("h")
    assert len(desk.shot.hits) == 2
    assert any(isinstance(each, Jolts) for each in desk.shot.shake.strands)
    desk.key("t", SHIFT)
    assert desk.shot.plates[-1].media.kind == "title"
    desk.key(Qt.Key.Key_Escape)
    window.setFocus()
    desk.key("s", SHIFT)
    assert desk.shot.sound.rows
    session.apply("Variant", shot_edits.add_variant(desk.shot.id))
    assert desk.shot.letters == ("A", "B")
    # a span over two of them
    on(0)
    desk.key("r")
    window.desk.state.choose(also=frozenset((desk.project.shots[1].id,)))
    desk.key("n", CTRL | SHIFT)
    assert len(desk.project.spans) == 1
    desk.key("r")
    done = desk.project
    after = pictures()
    assert any(np.abs(a - b).mean() > 1 for a, b in zip(before, after, strict=False))

    # it is saved, and delivered: each shot, the variants, and the timeline with the films in place
    session.save(tmp_path / "scene.tremor")
    out = tmp_path / "out"
    out.mkdir()
    making = window.desk.sheet.list
    making.add(
        DeliveryRequest("each", str(out / "{number} {shot}.mov"), form="prores", handles=2, timeline=True, motion=True)
    )
    making.add(
        DeliveryRequest(
            "chosen", str(out / "{shot} {variant}.mkv"), form="ffv1", shots=(done.shots[0].id,), variants=True
        )
    )
    making.start()
    desk.until(lambda: not making.running and all(row.state in ("done", "failed") for row in making.rows))
    assert [row.state for row in making.rows] == ["done", "done"], [row.said for row in making.rows]
    assert {path.name for path in out.glob("*.mkv")} == {"Press A.mkv", "Press B.mkv"}
    back = otio.adapters.read_from_file(str(out / "scene.otio"))
    clips = list(back.find_clips())
    assert [each.name for each in clips] == [shot.name for shot in done.shots]
    for shot, each in zip(done.shots, clips, strict=True):
        film = Path(each.media_reference.target_url.removeprefix("file://").replace("%20", " "))
        assert film.exists()
        end = 12 / RATE if shot.end is None else shot.end  # of the numbered pictures
        assert each.source_range.duration.value == pytest.approx((end - shot.start) * RATE, abs=1)
        assert len(decoded(film)) // 3 >= each.source_range.duration.value

    # gathered, and opened elsewhere, where the footage is gone
    home = tmp_path / "elsewhere"
    home.mkdir()
    moved = relink.gather(done, home, "scene", lambda done, total: None).path
    media.rename(tmp_path / "gone")
    there = api.open(moved)
    assert not relink.missing(there)
    for ours, theirs in zip(done.shots, there.shots, strict=True):
        assert (theirs.name, theirs.shake, theirs.hits, theirs.frame) == (ours.name, ours.shake, ours.hits, ours.frame)
    api.render(there, tmp_path / "elsewhere.mkv", form="ffv1", end=0.25)
    (tmp_path / "gone").rename(media)
    api.render(done, tmp_path / "here.mkv", form="ffv1", end=0.25)
    assert all(map(np.array_equal, decoded(tmp_path / "elsewhere.mkv"), decoded(tmp_path / "here.mkv")))

    # undone to the start and done again to the end
    _walk(session.undo, lambda: session.undo_label is not None)
    assert desk.project == begun
    assert all(map(np.array_equal, pictures(), before))
    _walk(session.redo, lambda: session.redo_label is not None)
    assert desk.project == done
    assert all(map(np.array_equal, pictures(), after))
    desk.close()


def _walk(step: Callable[[], object], more: Callable[[], bool]) -> None:
    while more():
        step()
