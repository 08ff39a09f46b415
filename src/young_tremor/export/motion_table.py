"""Motion tables: a shake as the one CSV form."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from young_tremor.base import files, motion_csv


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
    x, y, roll, zoom, pan, tilt = np.asarray(channels, dtype=np.float64).T
    columns = {
        "frame": np.arange(len(times), dtype=np.float64),
        "time_s": np.asarray(times),
        "x_px": x * size[1] / 100,
        "y_px": y * size[1] / 100,
        "roll_deg": roll,
        "scale": np.exp(zoom / 100),
        "pan_deg": pan,
        "tilt_deg": tilt,
    }
    return motion_csv.text_of(motion_csv.MotionTable(size, columns, fps, focal_mm, source))


def write_text(path: Path, text: str, *, overwrite: bool) -> None:
    """Write a text file whole or not at all."""
    files.check_free(path, overwrite=overwrite)
    files.write_whole(text.encode("utf-8"), path, overwrite=overwrite)
