"""Motion measured, read and written; what files hold."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any, Literal

import numpy as np
from msgspec.structs import replace

from young_tremor.api import arguments
from young_tremor.api.arguments import FilePath, Rate, Report, Size, Tell, Time, existing
from young_tremor.api.checks import check_arguments
from young_tremor.base import motion_csv
from young_tremor.engine.delivery import actions, batch, interchange
from young_tremor.engine.library import preset_library, takes
from young_tremor.model.project import Preset, Project, Shot
from young_tremor.model.take import Take

Held = Literal["upright", "left", "right", "upside-down"]


@check_arguments
def measure(
    clip: FilePath,
    output: FilePath | None = None,
    *,
    start: Time = 0.0,
    end: Time | None = None,
    shields: Iterable[str] = (),
    focal_mm: float | None = None,
    other: bool = False,
    overwrite: bool = False,
    tell: Tell = arguments.silent,
    report: Report = arguments.silent,
) -> Take:
    """The motion of a handheld clip; written to ``output`` as CSV too if that is said.

    ``shields``: parts not to look at, "x,y,width,height" in pixels. ``other``: of two things that move, take the other
    one for the scene. What was found, and by how many pixels it may be off, is told.
    """
    path = existing(clip)
    arguments.focal(focal_mm)
    target = None if output is None else arguments.path_of(output)
    take, text = actions.measure(
        path,
        partial(report, (target or path).name),
        output=target,
        start=arguments.time_text(start) or "0",
        end=arguments.time_text(end),
        shields=tuple(shields),
        focal_mm=focal_mm,
        other=other,
        overwrite=overwrite,
    )
    tell(text)
    return take


@dataclass(frozen=True)
class Motion:
    """A motion as numbers. ``text``: as the one CSV form says it."""

    text: str

    @property
    def columns(self) -> dict[str, np.ndarray]:
        """By name, each (n,) float64: frame, time_s, x_px, y_px, roll_deg, scale, pan_deg, tilt_deg. x and y in square
        pixels of :attr:`size`."""
        return motion_csv.read(self.text, "motion").columns

    @property
    def size(self) -> tuple[int, int]:
        return motion_csv.read(self.text, "motion").size

    @check_arguments
    def save(
        self,
        output: FilePath,
        *,
        distance: float = 5.0,
        keys: float | None = None,
        channel: str | None = None,
        overwrite: bool = False,
    ) -> Path:
        """Write it as CSV; as a camera if the name ends in ``.usda`` (``distance`` of what is filmed); as ``keys`` that
        keep within a tolerance, of one ``channel`` or all."""
        path, text = arguments.path_of(output), self.text
        if path.suffix.lower() == ".usda":
            text = interchange.camera_text(text, distance=distance)
        elif keys is not None or channel is not None:
            text = interchange.keys_text(text, channel, keys or 0.0)
        actions.write_text(path, text, overwrite=overwrite)
        return path


@check_arguments
def motion(
    what: Shot | Project | Preset | Take | str,
    *,
    shot: str | None = None,
    size: Size = (1920, 1080),
    fps: Rate = 24,
    seconds: Time = 10.0,
    focal_mm: float | None = None,
    amount: float = 1.0,
    pace: float = 1.0,
    seed: int | None = None,
) -> Motion:
    """How a shot moves at the middle of each of its frames, crop and placement left out; or a project's first shot, or
    the one named; or a preset (itself, or its name) or a take in a frame of ``size`` at ``fps`` for some seconds."""
    arguments.focal(focal_mm)
    if isinstance(what, Project | Shot):
        one = what if isinstance(what, Shot) else arguments.one_of(what, shot)
        return Motion(
            actions.shot_motion(
                replace(one, shake=actions.adjust_shake(one.shake, amount=amount, pace=pace, seed=seed))
            )
        )
    preset = takes.preset_of(what, focal_mm) if isinstance(what, Take) else arguments.preset_of(what)
    rate = arguments.rate_of(fps)
    assert rate is not None
    text = actions.preset_motion(
        arguments.adjust_preset(preset, amount, pace, seed),
        size=arguments.size_of(size) or (1920, 1080),
        rate=rate,
        seconds=arguments.seconds_of(seconds, rate),
        focal_mm=focal_mm,
    )
    return Motion(text)


@check_arguments
def stmap(
    what: Shot | Project,
    output: FilePath,
    *,
    shot: str | None = None,
    exposures: int = 1,
    frames: tuple[int, int] | None = None,
    small: bool = False,
    overwrite: bool = False,
    report: Report = arguments.silent,
) -> int:
    """Write where each delivered pixel looks in the source as numbered EXR pictures (``name.####.exr``, or a folder);
    how many. Red goes from 0 at the source's left edge to 1 at its right, green from 0 below to 1 above."""
    path = arguments.path_of(output)
    one = what if isinstance(what, Shot) else arguments.one_of(what, shot)
    if path.suffix.lower() != ".exr":
        batch.made_folder(path)
        path = path / "st.####.exr"
    return interchange.write_maps(
        one, path, partial(report, path.name), exposures=exposures, frames=frames, overwrite=overwrite, small=small
    )


@check_arguments
def read_take(path: FilePath, *, distance: float = takes.DISTANCE) -> Take:
    """A take from the one CSV form, or of a camera in USD, ``distance`` away from what it films."""
    return takes.read(existing(path), distance=distance)


@check_arguments
def gyro(
    log: FilePath,
    output: FilePath,
    *,
    held: Held = "upright",
    axes: str | None = None,
    time_unit: str | None = None,
    rate_unit: str | None = None,
    fps: Rate = 60,
    whole: bool = False,
    overwrite: bool = False,
) -> str:
    """Make a take of a gyroscope's log; what it was read as, in words.

    ``held``: "upright", "left", "right" or "upside-down"; ``axes``: which of its axes are the camera's right, up and
    back, like "-y,x,z"; units as found if left out ("s", "ms", "us", "ns"; "rad", "deg"); ``whole``: take neither bias
    nor drift off.
    """
    path, target = existing(log), arguments.path_of(output)
    actions.not_over(target, path)
    return interchange.take_of_log(
        path,
        target,
        axes=axes,
        held=held,
        time_unit=time_unit,
        rate_unit=rate_unit,
        fps=str(fps),
        whole=whole,
        overwrite=overwrite,
    )


@check_arguments
def margin(
    preset: str | Preset,
    *,
    size: Size = (1920, 1080),
    focal_mm: float | None = None,
    amount: float = 1.0,
    output: FilePath | None = None,
    overwrite: bool = False,
) -> str:
    """How much wider to frame for a preset, in a sentence; a framing guide as PNG to ``output`` if given."""
    arguments.focal(focal_mm)
    return actions.margin(
        arguments.adjust_preset(arguments.preset_of(preset), amount, 1.0, None),
        arguments.size_of(size) or (1920, 1080),
        focal_mm,
        None if output is None else arguments.path_of(output),
        overwrite=overwrite,
    )


@check_arguments
def presets() -> tuple[Preset, ...]:
    """All presets, the shipped ones first."""
    return preset_library.presets()


@check_arguments
def info(path: FilePath, *, loudness: bool = False) -> dict[str, Any]:
    """What a file holds, as ``young-tremor info --json`` says it; ``loudness`` is measured however long it takes."""
    return actions.describe(existing(path, pictures=True), loudness=loudness)
