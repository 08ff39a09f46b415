"""The one CSV form of motion: comment lines ``# key: value``, a header, a row a frame."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from young_tremor.base.errors import BrokenDocument

NEEDED = ("frame", "time_s", "x_px", "y_px", "roll_deg", "scale")
MORE = ("pan_deg", "tilt_deg", "confidence")
MOST = 1e12  # of any value
DIGITS = {
    "frame": ".0f",
    "time_s": ".9g",
    "x_px": ".6f",
    "y_px": ".6f",
    "roll_deg": ".7f",
    "scale": ".9f",
    "pan_deg": ".7f",
    "tilt_deg": ".7f",
    "confidence": ".6f",
}


@dataclass(frozen=True)
class MotionTable:
    """What a motion file holds. ``columns`` by name, each (n,) float64; x and y in square pixels of ``size``."""

    size: tuple[int, int]
    columns: dict[str, np.ndarray]
    fps: str = ""
    focal_mm: float | None = None
    source: str = ""


def text_of(motion: MotionTable) -> str:
    """A motion as the text of its file."""
    width, height = motion.size
    about = [("width", str(width)), ("height", str(height)), ("fps", motion.fps)]
    if motion.focal_mm is not None:
        about.append(("focal_mm", f"{motion.focal_mm:g}"))
    about.append(("source", " ".join(motion.source.split())))
    names = [name for name in (*NEEDED, *MORE) if name in motion.columns]
    lines = [*(f"# {key}: {value}" for key, value in about if value), ",".join(names)]
    table = np.column_stack([motion.columns[name] for name in names])
    lines += [",".join(format(v, DIGITS[n]) for n, v in zip(names, row, strict=True)) for row in table.tolist()]
    return "\n".join(lines) + "\n"


def read(text: str, name: str) -> MotionTable:
    """The motion of a file's text; BrokenDocument with the line and the reason if it is wrong or cut off.

    Values are taken as they stand: nothing is moved to begin at 0.
    """
    about: dict[str, tuple[int, str]] = {}
    header: list[str] | None = None
    rows: list[list[float]] = []
    for number, line in enumerate(text.lstrip("\ufeff").splitlines(), start=1):
        line = line.strip()
        if not line:
            continue
        if line.startswith("#"):
            key, colon, value = line[1:].partition(":")
            if colon and header is None:
                about[key.strip().lower()] = (number, value.strip())
            continue
        cells = [cell.strip() for cell in line.split(",")]
        if header is None:
            missing = [text for text in NEEDED if text not in cells]
            if missing:
                raise _wrong(name, number, f"the columns {', '.join(missing)} are missing")
            header = cells
            continue
        rows.append(_row(cells, header, rows, name, number))
    if header is None or len(rows) < 2:
        raise BrokenDocument(f"{name} holds no motion (it needs a header and at least two rows): choose another file.")
    size = _count(about, "width", name), _count(about, "height", name)
    focal = about.get("focal_mm")
    table = np.array(rows)
    columns = {text: table[:, k] for k, text in enumerate(header) if text in (*NEEDED, *MORE)}
    return MotionTable(
        size,
        columns,
        about.get("fps", (0, ""))[1],
        _positive(*focal, name, "focal_mm") if focal else None,
        about.get("source", (0, ""))[1],
    )


def _row(cells: list[str], header: list[str], rows: list[list[float]], name: str, number: int) -> list[float]:
    if len(cells) != len(header):
        raise _wrong(name, number, f"it has {len(cells)} values where {len(header)} belong")
    out = []
    for column, cell in zip(header, cells, strict=True):
        try:
            value = float(cell) if column in (*NEEDED, *MORE) else 0.0
        except ValueError:
            value = math.nan
        if not abs(value) < MOST:
            raise _wrong(name, number, f"“{cell}” in {column} is not a number")
        out.append(value)
    t, scale = header.index("time_s"), header.index("scale")
    if out[scale] <= 0:
        raise _wrong(name, number, "a scale must be more than 0")
    if rows and out[t] <= rows[-1][t]:
        raise _wrong(name, number, "its time is not later than that of the row before")
    return out


def _count(about: dict[str, tuple[int, str]], key: str, name: str) -> int:
    if key not in about:
        raise BrokenDocument(f"{name} does not say its {key}: add a line “# {key}: …” in pixels at the top.")
    value = _positive(*about[key], name, key)
    return round(value)


def _positive(number: int, text: str, name: str, key: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not (math.isfinite(value) and value > 0):
        raise _wrong(name, number, f"“{text}” is no {key}")
    return value


def _wrong(name: str, number: int, reason: str) -> BrokenDocument:
    return BrokenDocument(f"{name}, line {number}: {reason}: mend it or write the file again.")
