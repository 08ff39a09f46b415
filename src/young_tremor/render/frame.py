"""The only public door of the renderer: a plan, a frame number, a source → a picture."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame, FrameSource, with_alpha_plane, with_planes
from young_tremor.base.pixels import PixelFormat, without_alpha
from young_tremor.render import compose, coverage, linear_light
from young_tremor.render.alpha_plate import DENSE
from young_tremor.render.colour_conversion import in_space_of, rendering_of
from young_tremor.render.exposure_views import moments_of, views_of
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.plate_pixels import picture_of, pixels_apart
from young_tremor.render.plate_view import PlateView
from young_tremor.render.screen import reduce


def render(plan: Plan, index: int, sources: FrameSource | Sequence[FrameSource]) -> Frame:
    """Delivered frame ``index`` of a plan.

    Preview, export and command line all come through here; what differs between them is in the plan. ``sources``, one
    for each plate, may hand out reduced copies of their frames: places are scaled to what they give. Pure but for the
    sources; the thread that owns them may call it.
    """
    item = sources if isinstance(sources, Sequence) else (sources,)
    frames = [picture_of(plan, plate, index, source) for plate, source in zip(plan.plates, item, strict=True)]
    return render_frame(plan, index, frames)


def render_frame(plan: Plan, index: int, frames: Frame | Sequence[Frame]) -> Frame:
    """The same for source frames already at hand, one for each plate. Their planes are never changed; where nothing
    moves and nothing lies over them they are passed on as they are."""
    given = [frames] if isinstance(frames, Frame) else list(frames)
    plan = _with_nearness(plan, given)
    given = _in_one_space(plan, given)
    lit = [
        (plate, _dense(plan, plate, index, frame))
        for plate, frame in zip(plan.plates, given, strict=True)
        if plate.there(index)
    ]
    opaque = bool(lit) and lit[0][0] is plan.base and plan.base.opaque
    upper = lit[1:] if opaque else lit
    if not upper and opaque:
        return _render_lowest(plan, index, lit[0][1])
    format = without_alpha(given[0].format)
    tags = colour.with_matrix(given[0].colour, format, plan.source.size)
    views = moments_of(plan, index, tuple(plate for plate, _ in lit))
    composite = compose.composite(plan, index, upper, views, format, tags)
    if opaque and not composite.laid:
        return _render_lowest(plan, index, lit[0][1])
    if not opaque and (kept := compose.as_it_is(composite, upper)) is not None:
        return kept
    if opaque and compose.stands_still(composite):
        whole = compose.lay_at_once(composite, _render_lowest(plan, index, lit[0][1]))
        return replace(whole, colour=given[0].colour)
    ground = compose.Ground()
    if opaque:
        alone = None if compose.covers(composite) else _render_lowest(plan, index, lit[0][1])
        ground = compose.Ground(alone, *lit[0])
    return replace(compose.render_composite(composite, ground), colour=given[0].colour)


def _with_nearness(plan: Plan, frames: list[Frame]) -> Plan:
    """The plan with how near plates are, where their frames bring it along."""
    if all(frame.near is None for frame in frames):
        return plan
    pairs = zip(plan.plates, frames, strict=True)
    return replace(plan, plates=tuple(replace(plate, near=frame.near) for plate, frame in pairs))


def _in_one_space(plan: Plan, frames: list[Frame]) -> list[Frame]:
    """Pictures in the space of the lowest, if the shot's colours are to match."""
    rendering, space = rendering_of(plan.shot.frame), frames[0].colour
    if rendering is None:
        return frames
    return [
        in_space_of(frame, space, rendering, premultiplied=plate.source.alpha == "premultiplied")
        for plate, frame in zip(plan.plates, frames, strict=True)
    ]


def _dense(plan: Plan, plate: PlatePlan, index: int, frame: Frame) -> Frame:
    """A picture that has many more pixels than are rendered of it, made smaller, so that no fine detail of it turns
    into coarse patterns. Those with alpha are, when they are made ready."""
    if frame.format.alpha or frame.pieces:
        return frame
    apart = pixels_apart(plan, plate, index) * frame.size[0] / plate.source.size[0]
    if apart < DENSE:
        return frame
    return reduce(frame, (2 * math.ceil(0.5 * frame.size[0] / apart), 2 * math.ceil(0.5 * frame.size[1] / apart)))


def _render_lowest(plan: Plan, index: int, frame: Frame) -> Frame:
    """The lowest plate alone, opaque."""
    views = views_of(plan, index, (plan.base,), (1, 2))
    shown = PlateView(plan, plan.base, index, frame, views, plan.border)
    kept = [shown.untouched(k) for k in range(len(frame.planes))]
    behind = plan.border == "soft" or (plan.border == "black" and plan.alpha is None)
    cover = shown.coverage() if behind and not all(kept) else None
    if plan.shot.frame.linear and not shown.same and not all(kept):
        planes = _as_light(plan, frame, shown, cover)
    else:
        planes = _render_planes(plan, frame, shown, kept, cover)
    planes = knock_out_of_focus(_kept_still(planes, frame, shown), plan, frame.format, index)
    if plan.alpha is not None:
        cover = shown.coverage()
        whole = np.ones(plan.size[::-1], np.float32) if cover is None else cover
        opaque = Frame(planes, frame.format, frame.colour)
        return with_alpha_plane(opaque, frame.format.rounded(whole * frame.format.top), plan.alpha)
    return with_planes(frame, planes)


def _as_light(plan: Plan, frame: Frame, shown: PlateView, cover: np.ndarray | None) -> tuple[np.ndarray, ...]:
    """All planes of a frame over its exposure, averaged as light. ``cover``: see :func:`_whole`."""
    if linear_light.in_whole_numbers(frame.format, frame.colour) and cover is None:
        return linear_light.coded_whole(shown.means_of(linear_light.lit_whole(frame)), frame).planes
    lit = linear_light.to_linear(frame)
    values = _render_planes(plan, lit, shown.showing(lit), [False] * len(lit.planes), cover)
    return linear_light.from_linear(with_planes(lit, values), frame).planes


def _kept_still(planes: tuple[np.ndarray, ...], frame: Frame, shown: PlateView) -> tuple[np.ndarray, ...]:
    """The planes with what no view moves as it was: no kernel is to be seen there."""
    out = []
    for k, (values, given) in enumerate(zip(planes, frame.planes, strict=True)):
        still = shown.still(k)
        if still is not None and values is not given:
            values = (
                np.where(still != 0, given, values) if values.dtype != given.dtype else cv2.copyTo(given, still, values)
            )
        out.append(values)
    return tuple(out)


def _render_planes(
    plan: Plan, frame: Frame, shown: PlateView, kept: list[bool], cover: np.ndarray | None
) -> tuple[np.ndarray, ...]:
    """All planes of a frame over its exposure, rounded to its format; those ``kept`` are passed on. ``cover``: how much
    of each luma pixel the picture covers, if something else is seen where it does not."""
    format = frame.format
    planes = []
    for k, plane in enumerate(frame.planes):
        if kept[k]:
            planes.append(plane)
            continue
        values = shown.mean(k)
        if cover is not None:
            here = colour.downsample_chroma(cover, format, plan.size) if format.chroma(k) else cover
            if plan.border == "soft":
                values = format.rounded(coverage.fill_uncovered(values, plane, here, format.plane_size(k, plan.size)))
            else:
                black = np.float32(frame.black()[k])
                values = format.rounded(black + here * (values - black))
        planes.append(values)
    return tuple(planes)


def knock_out_of_focus(
    planes: tuple[np.ndarray, ...], plan: Plan, format: PixelFormat, index: int
) -> tuple[np.ndarray, ...]:
    """The planes out of focus, where a hit has knocked the lens."""
    sigma = plan.softness(index)
    if sigma < 0.2:
        return planes
    steps = [format.plane_step(k) for k in range(len(planes))]
    return tuple(
        cv2.GaussianBlur(plane, (0, 0), sigma / across, sigmaY=sigma / down, borderType=cv2.BORDER_REPLICATE)
        for plane, (across, down) in zip(planes, steps, strict=True)
    )
