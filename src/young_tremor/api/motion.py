"""Motion measured, read and written; what files hold."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from msgspec.structs import replace

from young_tremor.api import arguments
from young_tremor.api.arguments import FilePath, Report, Size, Tell, existing
from young_tremor.api.checks import check_arguments
from young_tremor.api.requests import GyroRequest, MapRequest, MeasureRequest, MotionRequest, takes_request
from young_tremor.base import motion_csv
from young_tremor.engine.delivery import actions, batch, interchange
from young_tremor.engine.library import preset_library, takes
from young_tremor.engine.media import description
from young_tremor.model.project import Preset, Project, Shot
from young_tremor.model.take import Take


@check_arguments
@takes_request(MeasureRequest)
def measure(
    clip: FilePath,
    output: FilePath | None = None,
    *,
    request: MeasureRequest,
    tell: Tell = arguments.silent,
    tell_facts: Callable[[dict[str, object]], object] = arguments.silent,
    report: Report = arguments.silent,
) -> Take:
    """The motion of a handheld clip; written to ``output`` as CSV too if that is said. See :class:`MeasureRequest`.
    What was found, and by how many pixels it may be off, is told; all that is known of each frame too, by
    ``tell_facts``."""
    path = existing(clip)
    arguments.focal(request.focal_mm)
    target = None if output is None else arguments.path_of(output)
    take, text, facts = actions.measure(
        path,
        partial(report, (target or path).name),
        output=target,
        start=arguments.time_text(request.start) or "0",
        end=arguments.time_text(request.end),
        shields=tuple(request.shields),
        focal_mm=request.focal_mm,
        other=request.other,
        leave=tuple(request.leave),
        gyro=None if request.gyro is None else existing(request.gyro),
        held=request.held,
        overwrite=request.overwrite,
    )
    tell(text)
    tell_facts(facts)
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
        """(width, height) in pixels."""
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
@takes_request(MotionRequest)
def motion(what: Shot | Project | Preset | Take | str, *, request: MotionRequest) -> Motion:
    """How a shot moves at the middle of each of its frames, crop and placement left out; or a project's first shot, or
    the one named; or a preset (itself, or its name) or a take. See :class:`MotionRequest`."""
    arguments.focal(request.focal_mm)
    if isinstance(what, Project | Shot):
        shot = what if isinstance(what, Shot) else arguments.one_of(what, request.shot)
        shake = actions.adjust_shake(shot.shake, amount=request.amount, pace=request.pace, seed=request.seed)
        return Motion(actions.shot_motion(replace(shot, shake=shake)))
    preset = takes.preset_of(what, request.focal_mm) if isinstance(what, Take) else arguments.preset_of(what)
    rate = arguments.rate_of(request.fps)
    assert rate is not None
    text = actions.preset_motion(
        arguments.adjust_preset(preset, request.amount, request.pace, request.seed),
        size=arguments.size_of(request.size) or (1920, 1080),
        rate=rate,
        seconds=arguments.seconds_of(request.seconds, rate),
        focal_mm=request.focal_mm,
    )
    return Motion(text)


@check_arguments
@takes_request(MapRequest)
def stmap(what: Shot | Project, output: FilePath, *, request: MapRequest, report: Report = arguments.silent) -> int:
    """Write where each delivered pixel looks in the source as numbered EXR pictures (``name.####.exr``, or a folder);
    how many. Red goes from 0 at the source's left edge to 1 at its right, green from 0 below to 1 above. See
    :class:`MapRequest`."""
    path = arguments.path_of(output)
    shot = what if isinstance(what, Shot) else arguments.one_of(what, request.shot)
    if path.suffix.lower() != ".exr":
        batch.made_folder(path)
        path = path / "st.####.exr"
    return interchange.write_maps(
        shot,
        path,
        partial(report, path.name),
        exposures=request.exposures,
        frames=request.frames,
        overwrite=request.overwrite,
        small=request.small,
    )


@check_arguments
def read_take(path: FilePath, *, distance: float = takes.DISTANCE) -> Take:
    """A take from the one CSV form, or of a camera in USD, ``distance`` away from what it films."""
    return takes.read(existing(path), distance=distance)


@check_arguments
@takes_request(GyroRequest)
def gyro(log: FilePath, output: FilePath, *, request: GyroRequest) -> str:
    """Make a take of a gyroscope's log; what it was read as, in words. See :class:`GyroRequest`."""
    path, target = existing(log), arguments.path_of(output)
    actions.not_over(target, path)
    return interchange.take_of_log(
        path,
        target,
        overwrite=request.overwrite,
        axes=request.axes,
        held=request.held,
        time_unit=request.time_unit,
        rate_unit=request.rate_unit,
        fps=str(request.fps),
        whole=request.whole,
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
    return description.describe(existing(path, pictures=True), loudness=loudness)
