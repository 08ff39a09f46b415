"""What is placed on the picture by dragging: keep-clear boxes, regions, and the pivot."""

from __future__ import annotations

import cv2
import numpy as np

from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.region_fields import RegionFields
from young_tremor.desk.state.desk_state import Selection
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.analysis import framing_margins
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.shake import Point, Region

CORNERS = 48  # of a drawn shape, at most


class PicturePlacing:
    """Between drags on the picture and the document."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._rules: RegionFields | None = None
        picture, frame = desk.picture, desk.panel.frame
        picture.box_drawn.connect(self._drawn)
        picture.pivot_began.connect(lambda: desk.session.begin_gesture(tr("Pivot")))
        picture.pivot_moved.connect(self._move_pivot)
        picture.pivot_ended.connect(desk.session.end_gesture)
        frame.framing.drawing.connect(self._draw_box)
        frame.place_pivot.connect(lambda on: desk.state.choose(placing=on))
        desk.state.changed.connect(self._chosen)
        frame.region_drawing.connect(self.draw_region)

    def _draw_box(self, on: bool) -> None:
        self._rules = None
        self._desk.state.choose(tool="box" if on else "")
        if on:
            self._desk.notice.say(tr("Drag a box on the picture over what must stay in the frame."))

    def draw_region(self, rules: RegionFields) -> None:
        """Let a region be drawn on the picture."""
        self._rules = rules
        self._desk.state.choose(tool="region")
        free = rules.region is not None and rules.region.shape == "polygon"
        self._desk.notice.say(tr("Draw round it on the picture.") if free else tr("Drag its box on the picture."))

    def _chosen(self, before: Selection, now: Selection) -> None:
        """The button follows the tool, whoever puts it down."""
        self._desk.panel.frame.framing.draw.setChecked(now.tool == "box")
        self._desk.panel.frame.pivoting.setChecked(now.placing)
        if before.placing != now.placing:
            self.show()

    def _drawn(self, way: np.ndarray) -> None:
        desk, rules = self._desk, self._rules
        desk.state.choose(tool="")
        self._rules = None
        if rules is not None:
            aspect = desk.picture.aspect or 1.0
            path = (way - 0.5) * (aspect, 1.0)
            plate = desk.panel.plates.plate
            if rules.of_plate and plate is not None and desk.plan is not None:
                path = framing_margins.to_plate(desk.plan, plate.id, desk.view.frame, way)
            rules.draw_path(_simpler(path))
            return
        shot, plan = desk.state.shot, desk.plan
        if shot is not None and plan is not None:
            corners = np.array([way.min(axis=0), way.max(axis=0)])
            box = framing_margins.box_of(plan, desk.view.frame, corners)
            desk.session.apply(tr("Keep clear"), shot_edits.set_frame(shot.id, keep=(*shot.frame.keep, box)))

    def _move_pivot(self, x: float, y: float) -> None:
        shot, now = self._desk.state.shot, self._desk.state.seconds
        if shot is None:
            return
        strand = next((s for s in shot.shake.strands if s.id == self._desk.state.now.strand), None)
        old = (strand.pivot if strand is not None else None) or shot.frame.pivot
        moved = Point(with_value_at(old.x, now, x), with_value_at(old.y, now, y))
        if strand is not None:
            self._desk.session.apply(tr("Pivot"), shot_edits.set_strand(shot.id, strand.id, pivot=moved))
        else:
            self._desk.session.apply(tr("Pivot"), shot_edits.set_frame(shot.id, pivot=moved))

    def show(self) -> None:
        """Draw the chosen region and the pivot where they are now."""
        desk = self._desk
        shot, picture, now = desk.state.shot, desk.picture, desk.state.seconds
        strand = next((s for s in shot.shake.strands if s.id == desk.state.now.strand), None) if shot else None
        region = (strand.region if strand is not None else shot.shake.region) if shot else None
        outline = _outline(region, now, picture.aspect or 1.0) if region is not None else None
        pivot = None
        if shot is not None and desk.state.now.placing:
            at = (strand.pivot if strand is not None else None) or shot.frame.pivot
            pivot = (_value_at(at.x, now), _value_at(at.y, now))
        if (outline is not None or picture.region is not None) or pivot != picture.pivot:
            picture.region, picture.pivot = outline, pivot
            picture.update()


def _value_at(curve: Curve, now: float) -> float:
    return float(curve.at(np.array([now]))[0])


def _simpler(path: np.ndarray) -> np.ndarray:
    """A drawn way with few corners."""
    slack = 0.002
    out: np.ndarray = path.astype(np.float32).reshape(-1, 1, 2)
    while len(out) > CORNERS or slack == 0.002:
        out = cv2.approxPolyDP(path.astype(np.float32).reshape(-1, 1, 2), slack, closed=True)
        slack *= 1.5
    return out.reshape(-1, 2).astype(np.float64) if len(out) > 2 else path


def _outline(region: Region, now: float, aspect: float) -> np.ndarray:
    """A region's edge as shares of the picture: (n, 2)."""
    centre = np.array([_value_at(region.centre.x, now), _value_at(region.centre.y, now)])
    half = np.array([_value_at(region.width, now), _value_at(region.height, now)]) / 2
    if region.shape == "polygon":
        rel = np.array(region.outline).reshape(-1, 2)
    elif region.shape == "rectangle":
        rel = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * half
    else:
        turn = np.linspace(0, 2 * np.pi, 72, endpoint=False)
        rel = np.column_stack([np.cos(turn), np.sin(turn)]) * half
    return (rel + centre) / (aspect, 1.0) + 0.5
