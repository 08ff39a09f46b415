"""Plotting on the picture: a drag at the playhead is a key of the chosen plotted strand."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.picture.picture_view import PictureView
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.engine.analysis import traces
from young_tremor.model import curve_edits, shot_edits
from young_tremor.model.shake import Plotted

LIMIT = 100.0


class PicturePlotting:
    """Between the picture that is dragged and the strand that is plotted."""

    def __init__(self, state: DeskState, picture: PictureView, go: Callable[[int], None]) -> None:
        self._state, self._session, self._picture, self._go = state, state.session, picture, go
        self._ahead = 0
        self._start: tuple[Plotted, float, bool] | None = None  # the strand, the key's time, whether it is a new key
        picture.plot_began.connect(self._begin)
        picture.plotted.connect(self._drag)
        picture.plot_ended.connect(self._end)

    @property
    def strand(self) -> Plotted | None:
        """The plotted strand that is chosen, if one is."""
        strand = self._state.strand
        return strand if isinstance(strand, Plotted) else None

    def set_ahead(self, frames: int) -> None:
        """How many frames the playhead goes on after a drag."""
        self._ahead = frames

    def show_path(self) -> None:
        """Show the chosen strand's path on the picture, or none."""
        strand, shot = self.strand, self._state.shot
        self._picture.set_path(traces.plotted_path(shot, strand) if strand is not None and shot is not None else None)

    def _begin(self, role: str, time: float) -> None:
        strand = self.strand
        if strand is None:
            return
        self._start = (strand, time if time >= 0 else self._state.seconds, time < 0)
        self._session.begin_gesture({"roll": "Plot a turn", "zoom": "Plot a scale"}.get(role, "Plot a move"))

    def _drag(self, role: str, first: float, second: float) -> None:
        if self._start is None or self._state.shot is None:
            return
        strand, t, _ = self._start
        moves = {"x": first, "y": second} if role == "shift" else {role: first}
        changes = {}
        for name, by in moves.items():
            curve = strand.curve(name)
            value = float(curve.at(np.array([t]))[0]) + by
            changes[name] = curve_edits.with_key(curve, t, round(min(max(value, -LIMIT), LIMIT), 4))
        self._session.apply(tr("Plot"), shot_edits.set_strand(self._state.shot.id, strand.id, **changes))

    def _end(self, moved: bool) -> None:
        if self._start is None:
            return
        is_new = self._start[2]
        self._start = None
        self._session.end_gesture()
        if moved and is_new and self._ahead:
            self._go(self._state.time.frame + self._ahead)
