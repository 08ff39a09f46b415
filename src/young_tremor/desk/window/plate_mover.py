"""The chosen plate on the picture: outlined, and moved, scaled and turned by dragging and by arrows."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication

from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.state.desk_state import Selection
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.analysis import framing_margins
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import Plate

SNAP = 0.012  # frame heights within which the middle of the frame is met


class PlateMover:
    """Between drags on the picture and the placement of the chosen plate."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._start: Plate | None = None
        picture, session = desk.picture, desk.session
        picture.plate_began.connect(self._begin)
        picture.plate_dragged.connect(self._drag)
        picture.plate_ended.connect(session.end_gesture)
        desk.state.changed.connect(self._chosen)

    @property
    def _page_plate(self) -> Plate | None:
        """The plate whose controls are shown: the lowest where none is chosen."""
        state, shot = self._desk.state, self._desk.state.shot
        if shot is None or state.now.page != "plates" or state.now.strand is not None:
            return None
        return next((plate for plate in shot.plates if plate.id == state.now.plate), shot.footage)

    @property
    def plate(self) -> Plate | None:
        """The plate that is chosen while its page is open: not a file that is lowest, which fills the frame."""
        plate, shot = self._page_plate, self._desk.state.shot
        if plate is None or shot is None or (plate is shot.footage and plate.media.kind != "title"):
            return None
        return plate

    def _chosen(self, before: Selection, now: Selection) -> None:
        if (before.plate, before.page, before.strand) != (now.plate, now.page, now.strand):
            self.show()

    def show(self) -> None:
        """Outline the chosen plate where it lies on the present frame."""
        desk, plate, plan = self._desk, self.plate, self._desk.plan
        corners = None
        if plate is not None and plan is not None and not desk.stage.playing:
            corners = framing_margins.corners_on(plan, plate.id, desk.view.frame)
        lines: list[np.ndarray] = []
        shown = self._page_plate
        if shown is not None and plan is not None and desk.panel.plates.deep.open and not desk.stage.playing:
            lines = framing_margins.depth_lines(plan, shown.id, desk.view.frame)
        if corners is not None or desk.picture.plate is not None or lines or desk.picture.lines:
            desk.picture.plate, desk.picture.lines = corners, lines
            desk.picture.update()

    def _begin(self, role: str) -> None:
        self._start = self.plate
        self._desk.session.begin_gesture(
            {"size": tr("Scale plate"), "angle": tr("Turn plate")}.get(role, tr("Move plate"))
        )

    def _drag(self, role: str, first: float, second: float) -> None:
        plate = self._start
        if plate is None:
            return
        if role == "move":
            x, y = self._at(plate, "x") + first, self._at(plate, "y") + second
            free = QGuiApplication.keyboardModifiers() & Qt.KeyboardModifier.AltModifier
            moved = {name: 0.0 if abs(at) < SNAP and not free else at for name, at in (("x", x), ("y", y))}
        elif role == "size":
            moved = {"size": min(max(self._at(plate, "size") * first, 0.01), 100.0)}
        else:
            moved = {"angle": self._at(plate, "angle") + first}
        self._place(plate, moved)

    def nudge(self, x: int, y: int) -> None:
        """Move the chosen plate by so many thousandths of the frame's height."""
        plate = self.plate
        if plate is not None:
            moved = {"x": self._at(plate, "x") + 0.001 * x, "y": self._at(plate, "y") + 0.001 * y}
            self._place(plate, moved)

    def _at(self, plate: Plate, field: str) -> float:
        curve: Curve = getattr(plate.placement, field)
        return float(curve.at(np.array([self._desk.state.seconds]))[0])

    def _place(self, plate: Plate, values: dict[str, float]) -> None:
        shot, now = self._desk.state.shot, self._desk.state.seconds
        if shot is None:
            return
        table = {
            name: with_value_at(getattr(plate.placement, name), now, round(value, 4)) for name, value in values.items()
        }
        placement = replace(plate.placement, **table)
        self._desk.session.apply(tr("Move plate"), shot_edits.set_plate(shot.id, plate.id, placement=placement))
