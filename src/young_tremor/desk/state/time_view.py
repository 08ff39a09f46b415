"""Which stretch of time the chart shows."""

from __future__ import annotations

import time
from fractions import Fraction

from PySide6.QtCore import QObject, Signal

from young_tremor.desk.kit.after_picture import AfterPicture
from young_tremor.desk.kit.time_format import times

FRAME_STEPS = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000)
FOLLOWS = 0.03  # seconds between two times that what shows the playhead follows what plays
STEPS = (0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600)


class TimeView(QObject):
    """From ``t0`` to ``t1`` seconds over a width; the shot lasts ``length``. ``frame`` is where the playhead is."""

    changed = Signal()
    moved = Signal(int, int)  # playhead, old and new frame

    def __init__(self) -> None:
        super().__init__()
        self.t0, self.t1, self.length = 0.0, 10.0, 10.0
        self.rate = Fraction(24)
        self.drop = False  # whether its timecode is drop-frame
        self.frame = self._shown = 0  # and the one that what shows the playhead was last told
        self._next = 0.0  # when it is told again while it plays
        self.frames = 0
        self.marks: tuple[int, int] | None = None
        self.after_picture = AfterPicture(self)  # what waits for one in a drag

    def set_shot(self, frames: int, rate: Fraction) -> None:
        """Another shot, or another length: the whole of it is shown."""
        if (frames, rate) == (self.frames, self.rate):
            return
        self.frames, self.rate = frames, rate
        self.length = max(float(frames / rate), 1e-3)
        self.t0, self.t1 = 0.0, self.length
        self.marks = None
        self.changed.emit()

    def set_length(self, frames: int, rate: Fraction, *, still: bool = False) -> None:
        """Another length of what is shown already: all of it stays in view if it was, unless ``still``."""
        if self.frames == 0 or rate != self.rate:
            self.set_shot(frames, rate)
            return
        whole = self.t0 <= 0 and self.t1 >= self.length - 1e-9
        if frames != self.frames:
            self.frames, self.length = frames, max(float(frames / rate), 1e-3)
            if self.marks is not None and self.marks[1] >= frames:
                self.marks = None
        if not still and (whole or self.t1 > self.length):
            self.t0, self.t1 = (0.0, self.length) if whole else (max(self.t0 + self.length - self.t1, 0), self.length)
        self.changed.emit()

    def set_frame(self, frame: int) -> None:
        """Put the playhead on a frame."""
        self.frame = frame
        old, self._shown = self._shown, frame
        if old != frame:
            self.moved.emit(old, frame)

    def play_frame(self, frame: int) -> None:
        """Put the playhead on a frame that plays: what shows it follows some thirty times a second at most, so that the
        pictures keep their turn."""
        self.frame = frame
        if time.monotonic() >= self._next:
            self._next = time.monotonic() + FOLLOWS
            self.set_frame(frame)

    def set_marks(self, marks: tuple[int, int] | None) -> None:
        """Mark a stretch by its first and last frame, or none."""
        self.marks = marks
        self.changed.emit()

    def clock(self, seconds: float) -> float:
        """Seconds of the shot at which its timecode shows so many: at 29.97 a second of it lasts a little longer
        unless it drops numbers."""
        return seconds if self.drop else seconds * float(max(1, round(self.rate)) / self.rate)

    def x(self, t: float, width: float) -> float:
        """Where a moment stands across a width, in pixels."""
        return (t - self.t0) / (self.t1 - self.t0) * width

    def t(self, x: float, width: float) -> float:
        """The moment at a place across a width, in seconds."""
        return self.t0 + x / max(width, 1.0) * (self.t1 - self.t0)

    def frame_x(self, frame: float, width: float) -> float:
        """Where a frame begins across a width, in pixels."""
        return self.x(frame * self.rate.denominator / self.rate.numerator, width)

    def frame_at(self, x: float, width: float) -> int:
        """The frame under a place."""
        return min(max(int(self.t(x, width) * float(self.rate) + 1e-6), 0), max(self.frames - 1, 0))

    def zoom(self, factor: float, x: float, width: float) -> None:
        """Show less or more time, the place under the pointer staying where it is."""
        pointer = self.t(x, width)
        span = min(max((self.t1 - self.t0) * factor, 8 / float(self.rate)), self.length)
        share = x / max(width, 1.0)
        self._show(pointer - share * span, span)

    def pan(self, share: float) -> None:
        """Show what lies later by a share of the stretch that is shown."""
        span = self.t1 - self.t0
        self._show(self.t0 + share * span, span)

    def fit(self, first: float | None = None, last: float | None = None) -> None:
        """Show the shot, or from ``first`` to ``last`` seconds with a little room around."""
        if first is None or last is None:
            self._show(0.0, self.length)
            return
        span = min(max(1.15 * (last - first), 8 / float(self.rate)), self.length)
        self._show((first + last - span) / 2, span)

    def _show(self, t0: float, span: float) -> None:
        t0 = min(max(t0, 0.0), self.length - span)
        if (t0, t0 + span) != (self.t0, self.t1):
            self.t0, self.t1 = t0, t0 + span
            self.changed.emit()

    def step(self, width: float, least: float = 70.0) -> float:
        """Seconds between labels at least ``least`` pixels apart."""
        per_second = width / (self.t1 - self.t0)
        whole = max(1, round(self.rate))
        steps = [count / whole for count in FRAME_STEPS] if times.in_frames else STEPS
        return next((step for step in steps if step * per_second >= least), steps[-1])
