"""Frame rates, timecode, sizes: the few conversions everything shares."""

from __future__ import annotations

import math
import re
from fractions import Fraction

from young_tremor.base.errors import UnreadableValue

STANDARD_RATES = tuple(
    Fraction(n, d)
    for n, d in (
        (24000, 1001),
        (24, 1),
        (25, 1),
        (30000, 1001),
        (30, 1),
        (48, 1),
        (50, 1),
        (60000, 1001),
        (60, 1),
        (100, 1),
        (120000, 1001),
        (120, 1),
        (240, 1),
        (12, 1),
        (15, 1),
        (10, 1),
        (8, 1),
    )
)


def nearest_rate(rate: float, tolerance: float = 0.0004) -> Fraction:
    """The standard rate within ``tolerance`` (relative) of ``rate``, or ``rate`` itself as a fraction."""
    best = min(STANDARD_RATES, key=lambda standard_rate: abs(float(standard_rate) - rate))
    if abs(float(best) - rate) <= tolerance * rate:
        return best
    return Fraction(rate).limit_denominator(1001)


def parse_rate(text: str) -> Fraction:
    """Read "24", "23.976" or "24000/1001" as frames per second."""
    try:
        exact = Fraction(text) if len(text) < 40 and "e" not in text.lower() else Fraction(0)
    except (ValueError, ZeroDivisionError):
        exact = Fraction(0)
    if not Fraction(1, 10) <= exact <= 1000 or exact.denominator > 10**6:
        raise UnreadableValue(f"“{text}” is not a frame rate: write 24, 23.976 or 24000/1001.")
    return nearest_rate(float(exact)) if "." in text else exact


def format_rate(rate: Fraction) -> str:
    """ "24", "23.976" – short, for a person."""
    return f"{float(rate):.3f}".rstrip("0").rstrip(".")


def parse_size(text: str) -> tuple[int, int]:
    """Read "1920x1080" as (width, height) in pixels."""
    match = re.fullmatch(r"\s*(\d{1,5})\s*[x×]\s*(\d{1,5})\s*", text)
    if not match or not all(2 <= int(side) <= 16384 for side in match.groups()):
        raise UnreadableValue(f"“{text}” is not a picture size: write 1920x1080.")
    return int(match[1]), int(match[2])


def parse_time(text: str, rate: Fraction) -> float:
    """Read seconds ("3.5"), minutes and seconds ("1:30") or timecode ("00:00:03:12", hours may be left out; with a ";"
    before the frames it is drop-frame) as seconds: the time of the frame that :func:`timecode` writes so."""
    parts = text.strip().replace(";", ":").split(":")
    drop = ";" in text
    try:
        if any(not part.strip() for part in parts) or len(parts) > 4 or "_" in text:
            raise ValueError
        if len(parts) == 1:
            seconds = float(parts[0])
        elif len(parts) == 2 and not drop:
            minutes, seconds = int(parts[0]), float(parts[1])
            if minutes < 0 or not 0 <= seconds < 60:
                raise ValueError
            seconds += 60 * minutes
        else:
            numbers = [int(part) for part in parts]
            if min(numbers) < 0 or (drop and not drops(rate)):
                raise ValueError
            seconds = float(frame_of(numbers, rate, drop=drop) / rate)
        if not (math.isfinite(seconds) and 0 <= seconds <= 1e7):
            raise ValueError
    except ValueError as error:
        raise UnreadableValue(
            f"“{text}” is not a time: write seconds (3.5), minutes (1:30) or timecode (00:00:03:12)."
        ) from error
    return seconds


def drops(rate: Fraction) -> bool:
    """Whether there is a drop-frame count at a rate: 29.97 and 59.94 (SMPTE ST 12-1)."""
    return rate.denominator == 1001 and round(rate) % 30 == 0


def frame_of(parts: list[int], rate: Fraction, *, drop: bool = False) -> int:
    """The frame number of a timecode's parts, frames last, hours and minutes if given. ValueError for one that is not
    there."""
    base = max(1, round(rate))
    *clock, frames = parts
    seconds = sum(n * 60**k for k, n in enumerate(reversed(clock)))
    minutes = seconds // 60
    lost = base // 15
    if frames >= base or (drop and minutes % 10 and seconds % 60 == 0 and frames < lost):
        raise ValueError("no such frame")
    return seconds * base + frames - (lost * (minutes - minutes // 10) if drop else 0)


def timecode(frame: int, rate: Fraction, *, hours: bool = False, drop: bool = False) -> str:
    """Timecode of a frame number: MM:SS:FF, with hours where needed or asked for; MM:SS;FF where it drops numbers so
    that it keeps the time of day (at rates that do)."""
    base, frame = max(1, round(rate)), max(0, frame)
    drop = drop and drops(rate)
    if drop:
        lost = base // 15  # numbers left out at each minute but every tenth
        long = 600 * base - 9 * lost
        tens, rest = divmod(frame, long)
        frame += 9 * lost * tens
        if rest >= 60 * base:
            frame += lost * (1 + (rest - 60 * base) // (60 * base - lost))
    seconds, frames = divmod(frame, base)
    minutes, seconds = divmod(seconds, 60)
    hour, minutes = divmod(minutes, 60)
    head = f"{hour:02d}:" if hours or hour else ""
    return f"{head}{minutes:02d}:{seconds:02d}{';' if drop else ':'}{frames:02d}"


def count_words(count: int, one: str, many: str = "") -> str:
    """ "1 frame", "12 frames": a number with its word; ``many`` where that is not ``one`` with an s."""
    return f"{count} {one}" if count == 1 else f"{count} {many or one + 's'}"


def duration_text(seconds: float) -> str:
    """ "12 s", "3 min 20 s": a span of time in words."""
    whole = max(0, round(seconds))
    return f"{whole} s" if whole < 60 else f"{whole // 60} min {whole % 60:02d} s"
