"""Plates on the desk: laid over a shot, ordered, moved on the picture, lit and taken away."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import cv2
import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog

from driver import Desk
from young_tremor.desk.picture import plate_outline
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.model import curve_edits, shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Project

K = Qt.Key
ALT = Qt.KeyboardModifier.AltModifier


@pytest.fixture
def desk(qtbot, footage: Path) -> Iterator[Desk]:  # type: ignore[no-untyped-def]
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, preset_library.preset("standing, breathing"))(Project())))
    made.settle()
    yield made
    made.close()


def red(path: Path, size: tuple[int, int] = (640, 360)) -> Path:
    """A red rectangle in the middle of nothing."""
    made = np.zeros((size[1], size[0], 4), np.uint8)
    made[size[1] // 4 : -size[1] // 4, size[0] // 4 : -size[0] // 4] = (0, 0, 255, 255)
    cv2.imwrite(str(path), made)
    return path


def share_of_red(desk: Desk) -> float:
    shown = desk.picture()
    return float(np.mean((shown[..., 0] > 200) & (shown[..., 1] < 60)))


def test_a_graphic_is_laid_over_moved_scaled_ordered_and_taken_away(
    desk: Desk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window, plates = desk.window, desk.window.desk.panel.plates
    assert share_of_red(desk) == 0
    window.desk.panel.pages.chosen.emit("plates")
    assert plates.isVisible()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(red(tmp_path / "mark.png")), ""))
    for number, words in enumerate(("A file…", "A file on the glass…"), start=2):
        desk.click(plates.add)
        desk.pick(words)
        desk.until(lambda number=number: len(desk.shot.plates) == number)  # type: ignore[misc]
    over, glass = desk.shot.plates[1:]
    assert (over.glass, glass.glass) == (False, True)
    assert window.desk.state.now.plate == glass.id
    window.desk.session.apply("One is enough", shot_edits.remove_plate(desk.shot.id, glass.id))
    window.desk.state.choose(plate=over.id)
    assert share_of_red(desk) == pytest.approx(0.25, abs=0.02)

    picture, before = window.desk.picture, window.desk.session.steps[1]
    desk.until(lambda: picture.plate is not None)
    whole = picture.whole_rect()
    middle = (whole.center().x(), whole.center().y())
    desk.drag(picture, middle, (middle[0] + 0.2 * whole.height(), middle[1]))
    desk.settle()
    assert desk.shot.plates[1].placement.x.value == pytest.approx(0.2, abs=0.01)
    assert window.desk.session.steps[1] == before + 1  # one step
    corner = plate_outline.places(picture.whole_rect(), picture.plate)[0]  # type: ignore[arg-type]
    centre = (middle[0] + 0.2 * whole.height(), middle[1])
    inward = (centre[0] + 0.5 * (corner.x() - centre[0]), centre[1] + 0.5 * (corner.y() - centre[1]))
    desk.drag(picture, (corner.x(), corner.y()), inward)
    assert desk.shot.plates[1].placement.size.value == pytest.approx(0.5, abs=0.02)
    assert share_of_red(desk) == pytest.approx(0.0625, abs=0.01)
    row = plates._rows[over.id]
    row.setFocus()
    QTest.keyClick(row, K.Key_Right)
    assert desk.shot.plates[1].placement.x.value == pytest.approx(0.201, abs=0.01)
    desk.click(row.lamp)
    assert share_of_red(desk) == 0
    desk.click(row.lamp)
    desk.type_into(plates.share, "0")
    assert desk.shot.plates[1].share == 0
    plates.own.setCurrentIndex(plates.own.findData("Nervous title"))
    plates.own.activated.emit(plates.own.currentIndex())
    shake = desk.shot.plates[1].shake
    assert shake is not None
    assert (shake.preset, shake.strands[0].holds) == ("Nervous title", 2.0)  # type: ignore[union-attr]
    desk.type_into(plates.amount, "40")
    desk.click(plates.course)
    moved = desk.shot.plates[1].shake
    assert moved is not None
    assert moved.intensity.value == 0.4
    assert moved.strands[0].seed != shake.strands[0].seed
    desk.type_into(plates.place["opacity"], "0")
    assert share_of_red(desk) == 0
    window.desk.session.apply(
        "Opaque",
        shot_edits.set_plate(
            desk.shot.id,
            over.id,
            placement=replace(desk.shot.plates[1].placement, x=curve_edits.with_key(Curve(0.1), 0.0)),
        ),
    )
    placement = window.desk.chart.curves["Placement"]
    assert placement.row.isVisible()  # keys of the chosen plate stand on a row
    desk.type_into(placement.rules["Place across"], "25")
    assert desk.shot.plates[1].placement.x.keys[0].value == pytest.approx(0.25)
    window.desk.state.choose(plate=desk.shot.footage.id)
    assert not placement.row.isVisible()
    window.desk.state.choose(plate=over.id)
    desk.type_into(plates.distance, "2.5")
    assert desk.shot.plates[1].distance == 2.5
    window.desk.session.apply(
        "Another", shot_edits.add_plate(desk.shot.id, shot_edits.plate_of(red(tmp_path / "other.png")))
    )
    QTest.keyClick(plates._rows[over.id], K.Key_Up, ALT)
    assert [plate.name for plate in desk.shot.plates[1:]] == ["other", "mark"]
    desk.key(K.Key_Delete)  # a field was clicked last: nothing goes
    assert len(desk.shot.plates) == 3
    desk.click(plates._rows[over.id])
    desk.key(K.Key_Delete)
    assert "Removed plate “mark”" in desk.said()
    assert [plate.name for plate in desk.shot.plates[1:]] == ["other"]
    window.desk.state.choose(plate=desk.shot.footage.id)
    assert not plates.buttons["remove"].isEnabled()
    window.desk.panel.pages.chosen.emit("strand")
    assert window.desk.state.now.strand == desk.shot.shake.strands[0].id


def test_what_cannot_be_laid_over_is_said_and_nothing_changes(desk: Desk, tmp_path: Path) -> None:
    broken = tmp_path / "broken.png"
    broken.write_bytes(b"\x89PNG\r\n\x1a\n and nothing more")
    desk.drop(broken)
    desk.pick("Lay over this shot")
    desk.until(lambda: "broken.png" in desk.said())
    assert len(desk.shot.plates) == 1


def lit(desk: Desk) -> np.ndarray:
    """Where the picture is as light as a title."""
    shown = desk.picture().astype(int)
    return np.asarray((shown > 205).all(axis=2))


def test_a_title_is_typed_comes_apart_by_letter_and_has_rows_of_its_own(desk: Desk) -> None:
    window, plates = desk.window, desk.window.desk.panel.plates
    base = int(lit(desk).sum())
    before = window.desk.session.steps[1]
    desk.key(K.Key_T, Qt.KeyboardModifier.ShiftModifier)
    assert desk.shot.plates[1].media.kind == "title"
    words = plates.title.words
    desk.until(words.hasFocus)
    QTest.keyClicks(words, "HIT")  # typed over what was there; H and T are no commands here
    assert desk.shot.plates[1].media.title.text == "HIT"
    QTest.keyClick(words, K.Key_Escape)
    assert window.desk.session.steps[1] == before + 2  # added, and what was typed
    assert not desk.shot.hits
    shown = lit(desk)
    assert shown.sum() > base + 200
    plates.title.apart.chosen.emit("letter")
    assert not window.desk.chart._heads
    plates.own.setCurrentIndex(plates.own.findData("Nervous title"))
    plates.own.activated.emit(plates.own.currentIndex())
    plate = desk.shot.plates[1]
    heads = window.desk.chart._heads
    desk.until(lambda: len(heads) == 2)
    assert heads[plate.id].head.note == "by letter · 1 strand"
    strand = plate.shake.strands[0]
    row = window.desk.chart._rows[strand.id]
    desk.type_into(row.amount, "1000")
    assert desk.shot.plates[1].shake.strands[0].amount.value == 10.0
    assert desk.shot.shake.strands[0].amount.value == 1.0
    desk.settle()
    assert (lit(desk) ^ shown).sum() > 100
    desk.click(row.head, 60, 30)
    assert window.desk.panel.current is window.desk.panel.drift  # its full controls
    desk.click(row.head, 60, 30)
    desk.click(heads[plate.id].head)
    assert not row.row.isVisible()
    desk.click(heads[plate.id].head)
    assert row.row.isVisible()
    for _ in range(20):
        desk.key(K.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert len(desk.shot.plates) == 1
    assert not window.desk.chart._heads


def test_depth_is_drawn_on_the_lowest_plate_and_shown_as_lines(desk: Desk) -> None:
    window, plates = desk.window, desk.window.desk.panel.plates
    window.desk.panel.pages.chosen.emit("plates")
    plates._fold("Depth", folded=False)
    plates.deep.kind.setCurrentIndex(plates.deep.kind.findData("horizon"))
    plates.deep.kind.activated.emit(plates.deep.kind.currentIndex())
    depth = desk.shot.footage.depth
    assert depth is not None
    assert depth.ramp is not None
    desk.settle()
    assert window.desk.picture.lines
    desk.type_into(plates.deep.rules["near"], "0.5")
    desk.click(plates.deep.add)
    assert desk.shot.footage.depth.shapes  # type: ignore[union-attr]
    desk.type_into(plates.deep.region.rules["width"], "30")
    assert desk.shot.footage.depth.shapes[0].region.width.value == 0.3  # type: ignore[union-attr]
    plates._fold("Depth", folded=True)
    desk.settle()
    assert not window.desk.picture.lines


def test_a_title_alone_makes_a_shot_and_lies_on_a_fill(qtbot) -> None:  # type: ignore[no-untyped-def]
    made = Desk(qtbot, Session())
    made.window.act.shake.add_plate("title")
    made.settle()
    shot = made.shot
    assert (shot.end, shot.size.width, shot.size.height, shot.rate) == (5.0, 1920, 1080, "24")
    assert made.window.desk.view.frames == 120
    assert lit(made).sum() > 200
    made.window.act.shake.add_plate("fill")
    plates = made.window.desk.panel.plates
    plates.more.colour.picked.emit("#2f7d53")
    made.settle()
    assert not lit(made).any()  # it lies over the title
    row = plates._rows[made.shot.plates[1].id]
    made.click(row.lamp)
    assert lit(made).sum() > 200
    made.close()
