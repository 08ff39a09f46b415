"""The one CSV form of motion: comment lines, a header, a row a frame."""

from __future__ import annotations

import io
import os
from pathlib import Path

import numpy as np

from young_tremor.base.errors import from_os
from young_tremor.media.video_writer import check_free, partial_name

COLUMNS = ("frame", "time_s", "x_px", "y_px", "roll_deg", "scale", "pan_deg", "tilt_deg")


def motion_table(
    channels: np.ndarray, times: np.ndarray, *, size: tuple[int, int], fps: str, focal_mm: float, source: str
) -> str:
    """The text of a motion file.

    Parameters
    ----------
    channels : (n, 6) float64
        In channel units. x and y are written in square pixels of ``size``, pan and tilt in degrees; crop and
        placement are left out.
    times : (n,) float64
        Seconds.
    """
    out = io.StringIO()
    width, height = size
    for key, value in (
        ("width", width), ("height", height), ("fps", fps), ("focal_mm", f"{focal_mm:g}"), ("source", source),
    ):  # fmt: skip
        out.write(f"# {key}: {value}\n")
    out.write(",".join(COLUMNS) + "\n")
    for number, (t, (x, y, roll, zoom, pan, tilt)) in enumerate(zip(times, channels, strict=True)):
        scale = np.exp(zoom / 100)
        out.write(
            f"{number},{t:.9g},{x * height / 100:.6f},{y * height / 100:.6f},"
            f"{roll:.7f},{scale:.9f},{pan:.7f},{tilt:.7f}\n"
        )
    return out.getvalue()


def write_text(path: Path, text: str, *, overwrite: bool) -> None:
    """Write a text file whole or not at all."""
    check_free(path, overwrite=overwrite)
    part = partial_name(path)
    try:
        with part.open("w", encoding="utf-8") as file:
            file.write(text)
            file.flush()
            os.fsync(file.fileno())
        os.replace(part, path)
    except OSError as error:
        part.unlink(missing_ok=True)
        raise from_os(error, path, "write") from error
