"""How times are shown: as seconds and timecode, or as frames, everywhere alike."""

from __future__ import annotations

from fractions import Fraction

from PySide6.QtCore import QObject, Signal

from young_tremor.base.units import timecode


class TimeFormat(QObject):
    """One for the desk. ``in_frames``: times are shown as frames."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.in_frames = False

    def set_frames(self, on: bool) -> None:
        """Show times as frames, or as seconds and timecode."""
        if on != self.in_frames:
            self.in_frames = on
            self.changed.emit()


times = TimeFormat()


def frame_text(frame: int, rate: Fraction, *, drop: bool = False) -> str:
    """A frame as its number, or as timecode."""
    return str(frame) if times.in_frames else timecode(frame, rate, drop=drop)


def short_text(frame: int, rate: Fraction) -> str:
    """A frame as its number, or as minutes, seconds and frames."""
    if times.in_frames:
        return str(frame)
    whole = max(1, round(rate))
    seconds, rest = divmod(frame, whole)
    return f"{seconds // 60}:{seconds % 60:02d}:{rest:02d}"


def mark_text(seconds: float, step: float, rate: Fraction) -> str:
    """A time beside a mark of a ruler whose marks are ``step`` seconds apart."""
    if times.in_frames:
        return str(round(seconds * max(1, round(rate))))  # a mark stands where timecode has it
    minutes, rest = divmod(seconds + 1e-9, 60)
    if step >= 1:
        return f"{int(minutes)}:{int(rest):02d}"
    digits = 2 if step < 0.1 else 1
    return f"{int(minutes)}:{rest:0{3 + digits}.{digits}f}"


def seconds_text(seconds: float, rate: Fraction) -> str:
    """A span of time with its unit: "1.50 s", or "36 f"."""
    if not times.in_frames:
        return f"{seconds:.2f} s".replace("-", "−")
    frames = round(seconds * float(rate), 1)
    return f"{frames:g} f".replace("-", "−")
