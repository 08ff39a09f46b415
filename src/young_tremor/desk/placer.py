"""What is placed on the picture by dragging: keep-clear boxes, regions, and the pivot."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np

from young_tremor.desk.region_rules import RegionRules
from young_tremor.desk.rows import tuned
from young_tremor.engine import framing
from young_tremor.model import edits
from young_tremor.model.curve import Curve
from young_tremor.model.shake import Point, Region

if TYPE_CHECKING:
    from young_tremor.desk.window import Window

CORNERS = 48  # of a drawn shape, at most


class Placer:
    """Between drags on the picture and the document."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self._rules: RegionRules | None = None
        self.placing = False
        picture, frame = window.picture, window.panel.frame
        picture.box_drawn.connect(self._drawn)
        picture.pivot_began.connect(lambda: window.session.begin_gesture("Pivot"))
        picture.pivot_moved.connect(self._move_pivot)
        picture.pivot_ended.connect(window.session.end_gesture)
        frame.framing.drawing.connect(self._draw_box)
        frame.place_pivot.connect(self.place_pivot)
        frame.region_drawing.connect(self.draw_region)

    def _draw_box(self, on: bool) -> None:
        self._rules = None
        self._window.picture.drawing = on
        if on:
            self._window.notice.say("Drag a box on the picture over what must stay in the frame.")

    def draw_region(self, rules: RegionRules) -> None:
        self._rules = rules
        self._window.picture.drawing = self._window.picture.drawing_region = True
        free = rules.region is not None and rules.region.shape == "polygon"
        self._window.notice.say("Draw round it on the picture." if free else "Drag its box on the picture.")

    def stop_drawing(self) -> None:
        """Leave the picture alone again, nothing drawn."""
        picture, framing = self._window.picture, self._window.panel.frame.framing
        picture.drawing = picture.drawing_region = False
        picture.drop_box()
        self._rules = None
        framing.draw.setChecked(False)

    def _drawn(self, way: np.ndarray) -> None:
        window, rules = self._window, self._rules
        window.picture.drawing = window.picture.drawing_region = False
        self._rules = None
        if rules is not None:
            aspect = window.picture.aspect or 1.0
            path = (way - 0.5) * (aspect, 1.0)
            rules.draw_path(_simpler(path))
            return
        window.panel.frame.framing.draw.setChecked(False)
        shot, plan = window.stage.shot, window.plan
        if shot is not None and plan is not None:
            corners = np.array([way.min(axis=0), way.max(axis=0)])
            box = framing.box_of(plan, window.view.frame, corners)
            window.session.apply("Keep clear", edits.set_frame(shot.id, keep=(*shot.frame.keep, box)))

    def place_pivot(self, on: bool) -> None:
        """Show the pivot on the picture, to be dragged, or hide it."""
        self.placing = on
        self.show()

    def _move_pivot(self, x: float, y: float) -> None:
        shot, now = self._window.stage.shot, self._window.chart.now
        if shot is None:
            return
        strand = next((s for s in shot.shake.strands if s.id == self._window.chart.chosen), None)
        old = (strand.pivot if strand is not None else None) or shot.frame.pivot
        moved = Point(tuned(old.x, now, x), tuned(old.y, now, y))
        if strand is not None:
            self._window.session.apply("Pivot", edits.set_strand(shot.id, strand.id, pivot=moved))
        else:
            self._window.session.apply("Pivot", edits.set_frame(shot.id, pivot=moved))

    def show(self) -> None:
        """Draw the chosen region and the pivot where they are now."""
        window = self._window
        shot, picture, now = window.stage.shot, window.picture, window.chart.now
        strand = next((s for s in shot.shake.strands if s.id == window.chart.chosen), None) if shot else None
        region = (strand.region if strand is not None else shot.shake.region) if shot else None
        outline = _outline(region, now, picture.aspect or 1.0) if region is not None else None
        pivot = None
        if shot is not None and self.placing:
            at = (strand.pivot if strand is not None else None) or shot.frame.pivot
            pivot = (_at(at.x, now), _at(at.y, now))
        if (outline is not None or picture.region is not None) or pivot != picture.pivot:
            picture.region, picture.pivot = outline, pivot
            picture.update()


def _at(curve: Curve, now: float) -> float:
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
    centre = np.array([_at(region.centre.x, now), _at(region.centre.y, now)])
    half = np.array([_at(region.width, now), _at(region.height, now)]) / 2
    if region.shape == "polygon":
        rel = np.array(region.outline).reshape(-1, 2)
    elif region.shape == "rectangle":
        rel = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * half
    else:
        turn = np.linspace(0, 2 * np.pi, 72, endpoint=False)
        rel = np.column_stack([np.cos(turn), np.sin(turn)]) * half
    return (rel + centre) / (aspect, 1.0) + 0.5
