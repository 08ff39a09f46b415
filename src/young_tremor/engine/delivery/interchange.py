"""Motion out as numbers for other tools, and in from a gyroscope."""

from __future__ import annotations

import shutil
from collections import deque
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from msgspec.structs import replace

from young_tremor.base import files, motion_csv
from young_tremor.base.errors import BrokenDocument, RequestError, UnreadableValue
from young_tremor.base.files import check_free
from young_tremor.base.units import parse_rate
from young_tremor.engine.library import takes
from young_tremor.engine.library.gyro_logs import log_text
from young_tremor.engine.media import footage
from young_tremor.exchange import gyro_log, usd_camera
from young_tremor.export import key_reduction
from young_tremor.media import picture_writer
from young_tremor.model.project import FrameSettings, Shot, new_id
from young_tremor.model.take import Take, pack_rows
from young_tremor.render import st_map
from young_tremor.render.resolve_plan import resolve

Report = Callable[[int, int], None]
WAITING = 4  # maps that are being written at once


def write_maps(
    shot: Shot,
    output: Path,
    report: Report,
    *,
    exposures: int = 1,
    frames: tuple[int, int] | None = None,
    overwrite: bool = False,
    small: bool = False,
) -> int:
    """Write ST maps of a shot as numbered EXR pictures: red is where a delivered pixel looks across, green upwards, as
    shares of the source, whose bottom left corner is (0, 0). ``exposures`` of each frame, evenly over its exposure,
    one after the other; ``small``: packed, which takes longer. How many."""
    if output.suffix.lower() != ".exr":
        raise RequestError(f"{output.name} is no EXR: call them {output.stem}.####.exr.")
    if len(shot.plates) > 1:
        shot = replace(shot, plates=shot.plates[:1])
    plan = resolve(shot, footage.infos(shot))
    first, last = frames or (1, plan.frames)
    first, last = max(first, 1), min(last, plan.frames)
    picture_writer.check_pictures(
        output, (first - 1) * exposures + 1, (last - first + 1) * exposures, overwrite=overwrite, resume=False
    )
    done, size = 0, plan.base.source.size
    needed, free = (
        12 * plan.size[0] * plan.size[1] * (last - first + 1) * exposures,
        shutil.disk_usage(output.parent).free,
    )
    if needed > free and not small:
        raise RequestError(
            f"There is no room in {output.parent}: {needed / 1e9:.1f} GB are needed, {free / 1e9:.1f} GB are free. "
            "Ask for small ones, or for fewer frames."
        )
    waiting: deque[Future[None]] = deque()

    def written(path: Path, found: np.ndarray) -> None:
        picture_writer.write_floats(path, st_map.as_map(found, size), overwrite=overwrite, small=small)

    with ThreadPoolExecutor(2, "maps") as pool:
        for index in range(first - 1, last):
            middle, length = (float(v[0]) for v in plan.shutter(np.array([plan.time(index)])))
            for k in range(exposures):
                t = middle + length * ((k + 0.5) / exposures - 0.5)
                path = picture_writer.name_of(output, index * exposures + k + 1)
                waiting.append(pool.submit(written, path, st_map.looked_at(plan, index, t)))
                if len(waiting) > WAITING:
                    waiting.popleft().result()
            done += exposures
            report(index - first + 2, last - first + 1)
        for future in waiting:
            future.result()
    return done


def first_of(pictures: Path) -> Path:
    """The first of numbered pictures that are written under a name."""
    return picture_writer.name_of(pictures, 1)


def camera_text(motion: str, *, distance: float) -> str:
    """A motion file's text as a camera in USD text, of square pixels."""
    if not 0 < distance < 1e6:
        raise UnreadableValue(f"A distance of {distance:g} cannot be used: give more than 0.")
    table = motion_csv.read(motion, "motion")
    of, (width, height) = table.columns, table.size
    nothing = np.zeros(len(of["time_s"]))
    channels = np.column_stack(
        [
            of["x_px"] / height * 100,
            of["y_px"] / height * 100,
            of["roll_deg"],
            100 * np.log(of["scale"]),
            of.get("pan_deg", nothing),
            of.get("tilt_deg", nothing),
        ]
    )
    fps, focal_mm = float(parse_rate(table.fps)), table.focal_mm or FrameSettings().focal_mm
    return usd_camera.camera(
        channels, size=(width, height), pixel_aspect=1.0, fps=fps, focal_mm=focal_mm, distance=distance
    )


def keys_text(motion: str, channel: str | None, tolerance: float) -> str:
    """A motion file's text as keys of one channel or all, thinned to a tolerance in the units of each."""
    return key_reduction.table(motion_csv.read(motion, "motion").columns, channel, tolerance)


@dataclass(frozen=True)
class LogOptions:
    """How a gyroscope's log is read: its ``axes`` or how the telephone was ``held``, units if they are not as found,
    ``fps`` of the take; ``whole``: neither bias nor drift is taken off."""

    axes: str | None = None
    held: str = "upright"
    time_unit: str | None = None
    rate_unit: str | None = None
    fps: str = "60"
    whole: bool = False


def take_of(text: str, name: str, **options: Any) -> tuple[Take, gyro_log.GyroLog]:
    """A log's text as a take, and what it was read as; ``options`` as in :class:`LogOptions`."""
    asked = LogOptions(**options)
    rate = parse_rate(asked.fps)
    log, at, turned = gyro_log.read_and_turn(
        text,
        name,
        axes=asked.axes or gyro_log.HELD[asked.held],
        fps=float(rate),
        whole=asked.whole,
        time_unit=asked.time_unit,
        rate_unit=asked.rate_unit,
    )
    if len(at) < 2:
        raise BrokenDocument(f"{name} lasts {log.seconds[-1]:g} s: a motion needs longer.")
    pan, tilt, roll = turned.T
    zero = np.zeros(len(at))
    table = np.column_stack([at, zero, zero, roll, zero + 1, pan, tilt, zero + 1])
    return Take(new_id(), Path(name).stem, 1920, 1080, pack_rows(table), str(rate), name), log


def take_of_log(log: Path, output: Path, *, overwrite: bool, **options: Any) -> str:
    """Write a gyroscope's log as a take; what was recognised, in words. ``options`` as in :class:`LogOptions`."""
    check_free(output, overwrite=overwrite)
    take, found_log = take_of(log_text(log), log.name, **options)
    files.write_whole(takes.text_of(take).encode("utf-8"), output, overwrite=overwrite)
    return found_log.words()
