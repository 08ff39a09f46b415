"""The row of the whole camera: everything added up, and the trace of the whole shot."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QObject, Signal

from young_tremor.desk.chart.row_context import RowContext
from young_tremor.desk.chart.row_heads import CameraHead
from young_tremor.desk.chart.strips import Line, Strip
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.state.task_runner import TaskRunner
from young_tremor.engine.analysis import traces

LOOKS = 6000  # at most, to trace a whole shot
SHORT = 600  # frames up to which it is traced at once
BEFORE = 1.5  # seconds of a trace up to a moment
FINE = LOOKS / 40  # seconds of a shot up to which the trace of all of it is fine enough for a path
NICE = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000)


class CameraRow(QObject):
    """Its header and its strip."""

    traced = Signal()  # the trace of the whole shot is there

    def __init__(self, paper: RowContext, runner: TaskRunner) -> None:
        super().__init__(paper)
        self.paper, self._runner = paper, runner
        self.trace: traces.CameraTrace | None = None  # of the whole shot
        self._traced: tuple[object, ...] = ()  # what it was made of
        self.head = CameraHead(theme.CAMERA_ROW)
        self.strip = Strip(paper.view, self._lines, theme.CAMERA_ROW, name="Camera")
        self.head.shown_changed.connect(self.strip.refresh)

    def _lines(self, first: float, last: float, count: int) -> list[Line]:
        if self.paper.shot is None or self.paper.info is None:
            return []
        trace = traces.camera_trace(self.paper.shot, self.paper.info, (first, last, count))
        height = self.paper.shot.size.height if self.paper.shot.size else self.paper.info.size[1]
        values = {
            "x": trace.centre[:, 0],
            "y": trace.centre[:, 1],
            "roll": np.radians(trace.roll) * height / 2,
            "zoom": trace.zoom / 100 * height / 2,
        }
        top = max(
            (float(np.abs(v).max(initial=0)) for k, v in values.items() if k in self.head.shown),
            default=0,
        )
        scale = next((n for n in NICE if n >= top), NICE[-1])
        self.strip.corner = f"± {scale} px"
        return [(v / scale, k, 1.4) for k, v in reversed(values.items()) if k in self.head.shown]

    def forget(self) -> None:
        """There is no shot."""
        self.head.set_peak("")
        self.trace, self._traced = None, ()

    def tell(self) -> None:
        """Trace the whole shot, if what moves it differs: a long one in a thread, again if it changed meanwhile."""
        shot, info, frames = self.paper.shot, self.paper.info, self.paper.view.frames
        if shot is None or info is None or not frames:
            self.trace, self._traced = None, ()
            return
        made = (shot.id, shot.shake, shot.hits, shot.frame.pivot, shot.frame.focal_mm, shot.size, info, frames)
        if all(a is b for a, b in zip(self._traced, made, strict=False)) and len(self._traced) == len(made):
            return
        self._traced, times = made, (0.0, self.paper.view.length, min(4 * frames, LOOKS))
        if frames <= SHORT:
            self._show(traces.camera_trace(shot, info, times))
            return

        def still() -> bool:
            return self._traced is made

        def ended() -> None:
            if self._traced is not made:
                self._traced = ()
                self.tell()

        self._runner.run(
            "trace", lambda report: traces.camera_trace(shot, info, times), self._show, still=still, ended=ended
        )

    def _show(self, trace: traces.CameraTrace) -> None:
        self.trace = trace
        self.head.set_peak(tr("peak {0:.1f} px · {1:.1f}°", trace.peak, trace.peak_roll))
        self.traced.emit()

    def at(self, seconds: float) -> traces.CameraTrace | None:
        """The trace up to a moment, fine enough to be drawn as a path; None while the chart shows another shot."""
        shot, info = self.paper.shot, self.paper.info
        if shot is None or info is None or shot.id != self.paper.state.now.shot:
            return None
        if self.paper.view.length <= FINE:
            return self.trace
        return traces.camera_trace(shot, info, (max(seconds - BEFORE, 0.0), seconds, 72))
