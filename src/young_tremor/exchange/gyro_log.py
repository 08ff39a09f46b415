"""A gyroscope's log as motion: three turn rates over time, integrated on the rotation group.

Axes of a telephone held upright: x to the right, y up, z out of the screen towards who holds it; its camera looks along
−z. A turn about y to the left moves the picture right (pan), one about x upwards moves it down (tilt), one about z
against the clock turns it with the clock (roll).
"""

from __future__ import annotations

import csv
import io
import math
import re
from array import array
from dataclasses import dataclass
from datetime import datetime

import numpy as np
import scipy

from young_tremor.base import sandbox
from young_tremor.base.errors import BrokenDocument, UnreadableValue

TIMES = {"s": 1.0, "ms": 1e-3, "us": 1e-6, "ns": 1e-9}
HELD = {"upright": "x,y,z", "left": "-y,x,z", "right": "y,-x,z", "upside-down": "-x,-y,z"}
GAP = 6.0  # usual steps that may be missing before it is a gap
STILL = 0.5  # seconds of a part that is looked at for how still it is
MOST_RAD = 12.0  # radians a second that no hand reaches: more are degrees
MOST_ROWS = 10_000_000
MOST_RESULT_ROWS = 2_000_000
MOST_GAP = 60.0  # seconds that are bridged
LEAST_STEP = 1e-6  # seconds between rows
LIMITS = sandbox.Limits(seconds=60.0, memory=3 << 30)
MOST_LONG = 86400.0  # seconds of a log
MOST_FAST = 1e4  # radians a second
_TIME = re.compile(r"^(t|time|timestamp|zeit|seconds?|secs?|ms|us|µs|ns|date|datetime)\b", re.IGNORECASE)
_AXIS = re.compile(r"(?:^|[^a-z])(?:w|g|gyro|gyr|rot|omega|rate|rotation)?[ _.\-]*(x|y|z)(?:$|[^a-z])", re.IGNORECASE)


@dataclass(frozen=True)
class GyroLog:
    """What was recognised: seconds (n,) from the first row, rates (n, 3) in radians a second about x, y and z, and in
    words what units and columns they were."""

    seconds: np.ndarray
    rates: np.ndarray
    time_unit: str
    rate_unit: str
    columns: tuple[str, ...]
    gaps: int

    def words(self) -> str:
        """What was recognised, in a sentence."""
        gaps = f", {self.gaps} gaps bridged" if self.gaps else ""
        rate = (len(self.seconds) - 1) / max(float(self.seconds[-1]), 1e-9)
        return (
            f"{len(self.seconds)} rows over {self.seconds[-1]:.2f} s ({rate:.0f} a second){gaps}; time in "
            f"{self.time_unit}, rates in {self.rate_unit}, columns {', '.join(self.columns)}"
        )


def read_and_turn(
    text: str,
    name: str,
    *,
    axes: str = "x,y,z",
    fps: float = 100.0,
    whole: bool = False,
    time_unit: str | None = None,
    rate_unit: str | None = None,
) -> tuple[GyroLog, np.ndarray, np.ndarray]:
    """:func:`read` and :func:`turned` in a process of their own: the log, its times and its angles. DecodeError where
    the log goes over ``LIMITS``."""
    return sandbox.run(
        _read_and_turn,
        text,
        name,
        axes,
        fps,
        whole,
        time_unit,
        rate_unit,
        name=name,
        what="a gyroscope log",
        limits=LIMITS,
    )


def _read_and_turn(
    text: str, name: str, axes: str, fps: float, whole: bool, time_unit: str | None, rate_unit: str | None
) -> tuple[GyroLog, np.ndarray, np.ndarray]:
    log = read(text, name, time_unit=time_unit, rate_unit=rate_unit)
    if (rows := float(log.seconds[-1]) * fps) > MOST_RESULT_ROWS:
        raise BrokenDocument(f"{name} comes to {rows:.3g} rows at {fps:g} a second: ask for fewer frames a second.")
    times, angles = integrate_turns(log, axes=axes, fps=fps, whole=whole)
    return log, times, angles


def read(text: str, name: str, *, time_unit: str | None = None, rate_unit: str | None = None) -> GyroLog:
    """A log out of the text of a CSV file. BrokenDocument with the line where something is wrong."""
    head, first, lines, table = _table(text, name)
    steps = np.diff(table[:, 0])
    if (steps < 0).any():
        at = int(np.flatnonzero(steps < 0)[0]) + 1
        raise BrokenDocument(f"{name}, line {lines[at]}: the time goes backwards.")
    values = np.concatenate([[True], steps > 0])  # a time that stands twice counts once
    table, lines = table[values], lines[values]
    if len(table) < 3:
        raise BrokenDocument(f"{name}: the time stands still.")
    time_at, axes = _columns(head, first, name)
    unit = time_unit or ("s" if _date(first[time_at]) else _time_unit(head[time_at] if head else "", table[:, 0]))
    if unit not in TIMES:
        raise UnreadableValue(f"“{unit}” is no unit of time: use s, ms, us or ns.")
    seconds = (table[:, 0] - table[0, 0]) * TIMES[unit]
    rate = rate_unit or _rate_unit([head[at] for at in axes] if head else [], table[:, 1:])
    if rate not in ("rad", "deg"):
        raise UnreadableValue(f"“{rate}” is no unit of turning: use rad or deg.")
    rates = table[:, 1:] if rate == "rad" else np.radians(table[:, 1:])
    _check_steps(seconds, lines, unit, name)
    if (fastest := float(np.abs(rates).max())) > MOST_FAST:
        raise BrokenDocument(f"{name} turns by {fastest:.3g} rad/s, which no camera does: see whether it is damaged.")
    usual = float(np.median(np.diff(seconds)))
    gaps = int((np.diff(seconds) > GAP * usual).sum())
    columns = tuple(head[at] if head else str(at + 1) for at in (time_at, *axes))
    return GyroLog(seconds, rates, unit, f"{rate}/s", columns, gaps)


def _table(text: str, name: str) -> tuple[list[str] | None, list[str], np.ndarray, np.ndarray]:
    """A log's head (None where it has none), its first row of numbers, and of all rows their line numbers (n,) and
    time and rates (n, 4)."""
    head: list[str] | None = None
    first: list[str] = []
    time_at, axes = 0, [1, 2, 3]
    values, lines = array("d"), array("q")
    try:
        rows = csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=None), delimiter=_delimiter(text))
        for number, cells in enumerate(rows, start=1):
            row = [cell.strip() for cell in cells]
            if not any(row) or row[0].startswith("#"):
                continue
            if head is None and not first and not _number(row[0]) and not _date(row[0]):
                head = row
                continue
            if not first:
                first = row
                time_at, axes = _columns(head, first, name)
            values.extend(_numbers(row, (time_at, *axes), f"{name}, line {number}"))
            lines.append(number)
            if len(lines) > MOST_ROWS:
                raise BrokenDocument(f"{name} has more than {MOST_ROWS} rows: cut it up.")
    except csv.Error as error:
        raise BrokenDocument(f"{name} is no table ({error}).") from None
    if not first and head is None:
        raise BrokenDocument(f"{name} is empty: a log has a time and three turn rates in each line.")
    if len(lines) < 3:
        raise BrokenDocument(f"{name} has {len(lines)} rows of numbers: a motion needs three or more.")
    return head, first, np.array(lines), np.array(values).reshape(-1, 4)


def _numbers(row: list[str], columns: tuple[int, ...], where: str) -> tuple[float, ...]:
    """Time and rates of a row, the time first of its ``columns``; BrokenDocument where there are none."""
    try:
        first, *others = (row[at] for at in columns)
        numbers = (_parse_time(first), *(float(text.replace(",", ".")) for text in others))
    except (IndexError, ValueError, OverflowError):
        raise BrokenDocument(f"{where}: there is no time with three numbers: “{','.join(row)[:60]}”.") from None
    if not all(math.isfinite(value) for value in numbers):
        raise BrokenDocument(f"{where}: there is a number that is not finite.")
    return numbers


def _check_steps(seconds: np.ndarray, lines: np.ndarray, unit: str, name: str) -> None:
    """BrokenDocument for times that no log has: too long, too dense, or with a gap that cannot be bridged."""
    steps = np.diff(seconds)
    if seconds[-1] > MOST_LONG:
        raise BrokenDocument(f"{name} lasts {seconds[-1] / 3600:.0f} h if its time is in {unit}: say its unit.")
    if not (seconds[-1] > 0 and float(np.median(steps)) >= LEAST_STEP):
        raise BrokenDocument(f"{name} lasts {seconds[-1]:.3g} s if its time is in {unit}: say its unit.")
    if steps.max() > MOST_GAP:
        at = int(steps.argmax())
        raise BrokenDocument(
            f"{name} has a gap of {steps[at]:.0f} s before line {lines[at + 1]}: cut it there, or say the unit of its "
            "time."
        )


def _delimiter(text: str) -> str:
    first = next((line for line in text.splitlines() if line.strip() and not line.startswith("#")), "")
    return max(";\t,", key=first.count)


def _number(text: str) -> bool:
    try:
        return math.isfinite(float(text))
    except ValueError:
        return False


def _date(text: str) -> bool:
    try:
        datetime.fromisoformat(text)
    except ValueError:
        return False
    return not _number(text)


def _parse_time(text: str) -> float:
    try:
        return float(text)
    except ValueError:
        return datetime.fromisoformat(text).timestamp()


def _columns(head: list[str] | None, first: list[str], name: str) -> tuple[int, list[int]]:
    """Which columns are the time and the rates about x, y and z."""
    if head is None:
        if len(first) < 4:
            raise BrokenDocument(f"{name} has {len(first)} columns: a log has a time and three turn rates.")
        return 0, [1, 2, 3]
    time_at = next((k for k, cell in enumerate(head) if _TIME.match(cell)), 0)
    table: dict[str, int] = {}
    for preferred in (re.compile("gyr|rot|omega|rate|^w", re.IGNORECASE), re.compile("")):
        for k, cell in enumerate(head):
            bare = re.sub(r"[\[(].*?[\])]", "", cell)
            match = _AXIS.search(bare)
            other_match = re.search("acc|mag", cell, re.IGNORECASE)
            if k != time_at and match and preferred.search(bare) and not other_match:
                table.setdefault(match.group(1).lower(), k)
    if len(table) == 3:
        return time_at, [table[axis] for axis in "xyz"]
    rest = [k for k in range(len(head)) if k != time_at][:3]
    if len(rest) < 3:
        raise BrokenDocument(f"{name} has {len(head)} columns: a log has a time and three turn rates.")
    return time_at, rest


def _time_unit(head: str, times: np.ndarray) -> str:
    match = re.search(r"\b(ns|us|µs|ms|s|sec|seconds)\b", head.lower().replace("_", " "))
    if match:
        return {"µs": "us", "sec": "s", "seconds": "s"}.get(match.group(1), match.group(1))
    step = float(np.median(np.diff(times)))
    return "s" if step < 0.5 else "ms" if step < 500 else "us" if step < 5e5 else "ns"


def _rate_unit(heads: list[str], rates: np.ndarray) -> str:
    words = " ".join(heads).lower()
    if "rad" in words:
        return "rad"
    if "deg" in words or "°" in words or "dps" in words:
        return "deg"
    return "deg" if float(np.quantile(np.abs(rates), 0.99)) > MOST_RAD else "rad"


def integrate_turns(
    log: GyroLog, *, axes: str = "x,y,z", fps: float = 100.0, whole: bool = False
) -> tuple[np.ndarray, np.ndarray]:
    """Times (n,) and pan, tilt and roll in degrees (n, 3), starting at 0, at ``fps``.

    ``axes``: which of the log's axes are the camera's x, y and z, like "-y,x,z" for one held on its left side.
    ``whole``: nothing is taken off; otherwise what the sensor drifts by (its bias, from the stillest parts, and what is
    slower than the whole log) is.
    """
    rates, seconds = log.rates @ axes_matrix(axes).T, log.seconds
    angles = _angles(seconds, rates if whole else rates - _bias(seconds, rates))
    at = np.arange(int(seconds[-1] * fps) + 1) / fps
    even = np.column_stack([np.interp(at, seconds, angles[:, k]) for k in range(3)])
    tilt, pan, roll = even.T
    values = np.column_stack([pan, tilt, roll])
    return at, values - values[0]


def _one_after_another(turns: scipy.spatial.transform.Rotation) -> scipy.spatial.transform.Rotation:
    """All turns up to each, in steps that double."""
    now, reach, known = turns.as_quat(), 1, scipy.spatial.transform.Rotation.from_quat
    while reach < len(now):
        made = known(now[:-reach]) * known(now[reach:])
        now = np.concatenate([now[:reach], made.as_quat()])
        reach *= 2
    return known(now)


def axes_matrix(text: str) -> np.ndarray:
    """The matrix of axes written like "y,-x,z": (3, 3). UnreadableValue if they are none."""
    parts = [part.strip().lower() for part in text.split(",")]
    names = {"x": 0, "y": 1, "z": 2}
    out = np.zeros((3, 3))
    try:
        if len(parts) != 3:
            raise KeyError
        for row, part in enumerate(parts):
            out[row, names[part.lstrip("+-")]] = -1.0 if part.startswith("-") else 1.0
        if abs(np.linalg.det(out)) != 1:
            raise KeyError
    except KeyError:
        raise UnreadableValue(f"“{text}” are no axes: name x, y and z once each, like y,-x,z.") from None
    return out


def _angles(seconds: np.ndarray, rates: np.ndarray) -> np.ndarray:
    """Degrees about x, then y, then z (n, 3), of turn rates about the axes that turn along."""
    step = np.diff(seconds)[:, None]
    middle = 0.5 * (rates[1:] + rates[:-1])
    # the mean rate of a step, and by how much turning about a moving axis differs from it
    bent = np.cross(rates[:-1], rates[1:]) * step**2 / 12
    turns = np.concatenate([np.zeros((1, 3)), middle * step + bent])
    way = _one_after_another(scipy.spatial.transform.Rotation.from_rotvec(turns))
    return np.degrees(np.unwrap(way.as_euler("xyz"), axis=0))


def _bias(seconds: np.ndarray, rates: np.ndarray) -> np.ndarray:
    """What the sensor says when nothing turns: of the stillest parts where there are any, else what the whole drifts
    by, since a hand that holds a camera sways about where it points."""
    long = float(seconds[-1])
    count = max(int(long / STILL), 1)
    edges = np.searchsorted(seconds, np.linspace(0, long, count + 1))
    parts = [rates[a:b] for a, b in zip(edges[:-1], edges[1:], strict=True) if b - a >= 4]
    if len(parts) >= 8:
        spread = np.array([part.std(axis=0).max() for part in parts])
        if (spread < 0.2 * np.median(spread)).sum() >= 3:
            least = float(spread.min())
            # what is a little less still says nothing beside what is stillest
            still = spread < np.maximum(2.0 * least, 1e-3 * np.median(spread))
            return np.asarray(np.concatenate([p for p, s in zip(parts, still, strict=True) if s]).mean(axis=0))
    # a smooth bump as weight: a sway of a few turns over the log counts next to nothing, wherever it begins and ends
    bump = np.blackman(4097)
    weight = np.interp(seconds / long, np.linspace(0, 1, 4097), bump) * np.gradient(seconds)
    weight /= weight.sum()
    bias = weight @ rates
    for _ in range(3):
        drift = np.gradient(_angles(seconds, rates - bias), seconds, axis=0)
        bias = bias + np.radians(weight @ drift)
    return np.asarray(bias)
