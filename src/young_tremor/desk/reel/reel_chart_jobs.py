"""What is worked out for the chart of the reel in the background: the camera of each shot, and what is heard of it."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QObject, Signal

from young_tremor.desk.reel import reel_chart_paint as paint
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.desk.state.task_runner import Report, TaskRunner
from young_tremor.engine.analysis import traces
from young_tremor.engine.analysis.reel_layout import PlacedShot
from young_tremor.engine.sound import mixing, peaks

TRACED, AT_ONCE = 24, 8  # shots that are traced, and whose sound is listened to, in one go
LOOKS = 160  # at the camera of each shot


class ReelChartJobs(QObject):
    """Follows the document by itself, shot by shot; ``places`` gives the shots that are to be seen, or none."""

    came = Signal()

    def __init__(self, state: DeskState, runner: TaskRunner, places: Callable[[], tuple[PlacedShot, ...]]) -> None:
        super().__init__()
        self._state, self._runner, self._places = state, runner, places
        self.traces: dict[str, paint.TracedCamera] = {}
        self.waves: dict[str, paint.Wave] = {}

    def look(self) -> None:
        """Trace the camera of each shot that differs from what was traced, in the background."""
        if not self._places():
            return
        wanted = []
        for place in self._places():
            shot, info = self._state.under_spans(place), self._state.know(place.shot.footage.media)
            known = self.traces.get(shot.id)
            key = (shot.shake, shot.hits, shot.over, shot.frame.focal_mm, shot.start, shot.end)
            if info is not None and (known is None or known.made != key):
                wanted.append((shot, info, key, place.end - place.at))
        if not wanted:
            self._listen()
            return

        def work(report: Report) -> dict[str, paint.TracedCamera]:
            out: dict[str, paint.TracedCamera] = {}
            for number, (shot, info, key, long) in enumerate(wanted[:TRACED]):
                report(number, len(wanted))
                trace = traces.camera_trace(shot, info, (0.0, long, LOOKS))
                height = shot.size.height if shot.size else info.size[1]
                pixels = np.column_stack([trace.centre, np.radians(trace.roll) * height / 2])
                out[shot.id] = paint.TracedCamera(key, pixels, trace.roll)
            return out

        def land(found: dict[str, paint.TracedCamera]) -> None:
            self.traces.update(found)
            self.came.emit()
            self._listen()
            self.look()  # what has changed meanwhile

        self._runner.run_quietly("reel traces", work, land)

    def _listen(self) -> None:
        """Draw what is heard of each shot, in the background, once its camera is traced."""
        wanted = []
        for place in self._places():
            shot, info = self._state.under_spans(place), self._state.know(place.shot.footage.media)
            key: tuple[object, ...] = (shot.sound, shot.over, shot.start, shot.end, shot.footage.media.path)
            if mixing.is_mixed(shot):
                key = (*key, shot.shake, shot.hits)
            known = self.waves.get(shot.id)
            heard = info is not None and (bool(info.audio) or mixing.is_mixed(shot))
            if heard and (known is None or known.made != key):
                wanted.append((shot, key, place.end - place.at))
        if not wanted or not self._places():
            return

        def work(report: Report) -> dict[str, paint.Wave]:
            out: dict[str, paint.Wave] = {}
            for number, (shot, key, long) in enumerate(wanted[:AT_ONCE]):
                report(number, len(wanted))
                out[shot.id] = paint.Wave(key, peaks.of_shot(shot, long, lambda done, total: None))
            return out

        def land(found: dict[str, paint.Wave]) -> None:
            self.waves.update(found)
            self.came.emit()
            self._listen()

        self._runner.run_quietly("reel waves", work, land)
