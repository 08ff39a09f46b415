"""The frame on the desk: limits, boxes, regions and the pivot drawn on the picture, delivery and placement."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot

from driver import Desk
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.model import shot_edits
from young_tremor.model.project import EDGES, Project, Size
from young_tremor.model.shake import Shimmer


@pytest.fixture
def desk(qtbot: QtBot, footage: Path) -> Iterator[Desk]:
    """The window on two seconds of numbered footage under the running preset."""
    made = Desk(qtbot, Session(shot_edits.add_shot(footage, preset_library.preset("running"))(Project())))
    made.settle()
    yield made
    made.close()


def choose(desk: Desk, edges: str) -> None:
    frame = desk.window.desk.panel.frame
    frame.edges.setCurrentIndex(EDGES.index(edges))  # type: ignore[arg-type]
    frame.edges.activated.emit(frame.edges.currentIndex())
    desk.settle()


def test_from_black_corners_to_covered_in_one_step_and_what_it_costs(desk: Desk) -> None:
    window, frame = desk.window, desk.window.desk.panel.frame
    choose(desk, "open")
    assert "show an edge" in frame.status.text()
    assert window.desk.chart.camera_strip.gaps.any()
    choose(desk, "crop-as-needed")
    assert frame.status.text() == "covers every frame"
    assert float(frame._values["crop"].text()) > 1.05
    assert frame.framing.breathe.isVisible()
    desk.type_into(frame.framing.breathe, "0.3")
    assert desk.shot.frame.breathe == 0.3
    before = float(frame._values["crop"].text())
    desk.click(frame.framing.recentre)
    desk.settle()
    assert float(frame._values["crop"].text()) <= before
    desk.type_into(frame.framing.most, "3")
    desk.click(frame.framing.limit)
    desk.until(lambda: not window.desk.runner.busy("limit"))
    desk.settle()
    assert desk.shot.shake.intensity.value < 1
    assert float(frame._values["crop"].text()) == pytest.approx(1.03, abs=0.0015)
    assert window.desk.session.undo_label == "Limit to 3 %"
    choose(desk, "soft")
    assert "filled in" in frame.status.text()
    assert desk.picture().min() >= 0


def test_boxes_regions_and_the_pivot_are_drawn_on_the_picture(desk: Desk) -> None:
    window, frame, picture = desk.window, desk.window.desk.panel.frame, desk.window.desk.picture
    rect = picture.frame_rect()

    def at(x: float, y: float) -> tuple[float, float]:
        return rect.left() + x * rect.width(), rect.top() + y * rect.height()

    frame.framing.draw.click()
    desk.drag(picture, at(0.002, 0.05), at(0.2, 0.4))
    desk.settle()
    (box,) = desk.shot.frame.keep
    assert (box.x, box.width) == (pytest.approx(0.03, abs=0.08), pytest.approx(0.17, abs=0.03))
    assert not frame.framing.draw.isChecked()
    assert len(picture.boxes) == 1
    assert "cut in" in frame.framing.words.text()
    window.desk.stage.go(47)
    frame.framing.words.linkActivated.emit("3")
    assert desk.frame == 3
    frame.framing.clear.click()
    assert desk.shot.frame.keep == ()
    desk.scrub(window.desk.chart.ruler, 20)
    moved = desk.picture()
    frame.region.shape.setCurrentIndex(1)
    frame.region.shape.activated.emit(1)
    frame.region.draw.click()
    desk.drag(picture, at(0.55, 0.3), at(0.9, 0.8))
    region = desk.shot.shake.region
    assert region is not None
    assert region.width.value == pytest.approx(0.35 * 640 / 360, abs=0.02)
    limited = desk.picture()
    left = slice(None, int(0.3 * limited.shape[1]))
    assert np.abs(limited[:, left] - moved[:, left]).mean() > 2
    assert picture.region is not None
    frame.region.shape.setCurrentIndex(3)
    frame.region.shape.activated.emit(3)
    desk.drag(picture, at(0.6, 0.3), at(0.9, 0.35), at(0.85, 0.8), at(0.62, 0.75))
    assert len(desk.shot.shake.region.outline) >= 4  # type: ignore[union-attr]
    frame.region.shape.setCurrentIndex(0)
    frame.region.shape.activated.emit(0)
    assert desk.shot.shake.region is None
    frame.pivoting.click()
    desk.drag(picture, at(0.5, 0.5), at(0.75, 0.7))
    pivot = desk.shot.frame.pivot
    assert (pivot.x.value, pivot.y.value) == (pytest.approx(0.444, abs=0.02), pytest.approx(0.2, abs=0.02))
    strand = desk.shot.shake.strands[0]
    window.desk.state.choose(strand=strand.id)
    desk.until(lambda: window.desk.panel.drift.isVisible())
    desk.drag(picture, at(0.75, 0.7), at(0.25, 0.7))
    own = desk.shot.shake.strands[0].pivot
    assert own is not None
    assert own.x.value == pytest.approx(-0.444, abs=0.02)
    assert desk.shot.frame.pivot == pivot
    frame.pivoting.click()
    window.desk.state.choose(strand=None)
    near = desk.picture()
    picture.toggle_overlay("Overscan")
    wide = desk.picture()
    assert wide.shape == near.shape
    assert np.abs(wide - near).mean() > 3
    inner = picture.frame_rect()
    assert inner.width() == pytest.approx(picture.whole_rect().width() / 1.2, abs=1)
    assert (wide[:3, :3] <= 2).all()  # beyond the source there is nothing
    picture.toggle_overlay("Overscan")
    desk.settle()


def test_shimmer_delivery_placement_and_light(desk: Desk) -> None:
    window, frame = desk.window, desk.window.desk.panel.frame
    choose(desk, "mirror")
    desk.scrub(window.desk.chart.ruler, 10)
    plain = desk.picture()
    desk.click(window.desk.chart._add)
    desk.pick("Shimmer")
    panel = window.desk.panel.shimmer
    assert panel.isVisible()
    desk.type_into(panel.controls.numbers["x"], "2")
    desk.type_into(panel.controls.numbers["octaves"], "3")
    strand = desk.shot.shake.strands[-1]
    assert isinstance(strand, Shimmer)
    assert (strand.x, strand.octaves) == (2, 3)
    assert np.abs(desk.picture() - plain).mean() > 1
    panel.region.shape.setCurrentIndex(2)
    panel.region.shape.activated.emit(2)
    desk.type_into(panel.region.rules["width"], "30")
    assert desk.shot.shake.strands[-1].region.width.value == 0.3  # type: ignore[union-attr]
    while isinstance(desk.shot.shake.strands[-1], Shimmer):
        desk.key("z", Qt.KeyboardModifier.ControlModifier)
    window.desk.state.choose(strand=None)
    delivery = frame.delivery
    delivery.size.setCurrentIndex(delivery.size.findData("1080x1080"))
    delivery.size.activated.emit(delivery.size.currentIndex())
    desk.settle()
    assert desk.shot.size == Size(1080, 1080)
    assert window.desk.picture.aspect == 1
    delivery.rate.setCurrentIndex(delivery.rate.findData("25"))
    delivery.rate.activated.emit(delivery.rate.currentIndex())
    desk.settle()
    assert window.desk.view.frames == 50
    window.desk.state.choose(page="plates")
    size = window.desk.panel.plates.place["size"]
    desk.type_into(size, "110")
    desk.context(size, 20, 10)
    desk.pick("Set a key at the playhead")
    desk.scrub(window.desk.chart.ruler, 40)
    desk.type_into(size, "130")
    window.desk.state.choose(page="frame")
    assert [round(key.value, 2) for key in desk.shot.plates[0].placement.size.keys] == [1.1, 1.3]
    desk.type_into(frame.controls.numbers["readout"], "15")
    frame.controls.switches["linear"].click()
    assert (desk.shot.frame.readout, desk.shot.frame.linear) == (0.015, True)
    desk.settle()
    assert frame.status.text()
