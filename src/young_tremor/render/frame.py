"""The only public door of the renderer: a plan, a frame number, a source → a picture."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame, FrameSource, with_planes
from young_tremor.base.pixels import PixelFormat
from young_tremor.render import compose, light, soft
from young_tremor.render.plan import Plan
from young_tremor.render.seen import Seen
from young_tremor.render.shutter import Exposure, exposures

DITHER = 0.6  # code values


def render(plan: Plan, index: int, sources: FrameSource | Sequence[FrameSource]) -> Frame:
    """Delivered frame ``index`` of a plan.

    Preview, export and command line all come through here; what differs between them is in the plan. ``sources``, one
    for each plate, may hand out reduced copies of their frames: places are scaled to what they give. Pure but for the
    sources; the thread that owns them may call it.
    """
    each = sources if isinstance(sources, Sequence) else (sources,)
    frames = [source.read(plate.source_index(index)) for plate, source in zip(plan.plates, each, strict=True)]
    return render_frame(plan, index, frames)


def render_frame(plan: Plan, index: int, frames: Frame | Sequence[Frame]) -> Frame:
    """The same for source frames already at hand, one for each plate. Their planes are never changed; where nothing
    moves and nothing lies over them they are passed on as they are."""
    each = [frames] if isinstance(frames, Frame) else list(frames)
    seen = exposures(plan, index, (1, 2))
    lit = [
        k for k, plate in enumerate(plan.plates) if plate.plate.on and plate.opacity(plan.time(index)) > compose.SHOWN
    ]
    if lit == [0] and plan.base.opaque:
        return _alone(plan, index, each[0], seen)
    return compose.composed(plan, index, each, seen[0])


def _alone(plan: Plan, index: int, frame: Frame, seen: list[Exposure]) -> Frame:
    """One opaque plate."""
    shown = Seen(plan, plan.base, index, frame, seen, plan.border)
    kept = [shown.untouched(k) for k in range(len(frame.planes))]
    if plan.shot.frame.linear and len(seen[0].times) > 1 and not all(kept):
        lit = light.lit(frame)
        made = _whole(plan, lit, shown.showing(lit), [False] * len(lit.planes))
        planes = light.coded(with_planes(lit, made), frame).planes
    else:
        planes = _whole(plan, frame, shown, kept)
    planes = knocked(_kept_still(planes, frame, shown), plan, frame.format, index)
    if plan.alpha is not None:
        cover = shown.coverage()
        whole = np.ones(plan.size[::-1], np.float32) if cover is None else cover
        return Frame((*planes, frame.format.rounded(whole * frame.format.top)), plan.alpha, frame.colour)
    return with_planes(frame, planes)


def _kept_still(planes: tuple[np.ndarray, ...], frame: Frame, shown: Seen) -> tuple[np.ndarray, ...]:
    """The planes with what no view moves as it was: no kernel is to be seen there."""
    out = []
    for k, (made, given) in enumerate(zip(planes, frame.planes, strict=True)):
        still = shown.still(k)
        out.append(made if still is None or made is given else np.where(still, given, made))
    return tuple(out)


def _whole(plan: Plan, frame: Frame, shown: Seen, kept: list[bool]) -> tuple[np.ndarray, ...]:
    """All planes of a frame over its exposure, rounded to its format; those ``kept`` are passed on."""
    format = frame.format
    behind = plan.border == "soft" or (plan.border == "black" and plan.alpha is None)
    cover = shown.coverage() if behind and not all(kept) else None
    planes = []
    for k, plane in enumerate(frame.planes):
        if kept[k]:
            planes.append(plane)
            continue
        made, share = shown.mean(k)
        if cover is not None:
            made, share = made if share == 1 else made * np.float32(share), 1.0
            here = colour.lowered(cover, format, plan.size) if format.chroma(k) else cover
            if plan.border == "soft":
                made = soft.filled(made, plane, here, format.plane_size(k, plan.size))
            else:
                black = np.float32(frame.black()[k])
                made = black + here * (made - black)
        planes.append(_rounded(made, share, format))
    return tuple(planes)


def knocked(planes: tuple[np.ndarray, ...], plan: Plan, format: PixelFormat, index: int) -> tuple[np.ndarray, ...]:
    """The planes out of focus, where a hit has knocked the lens."""
    sigma = plan.softness(index)
    if sigma < 0.2:
        return planes
    steps = [format.plane_step(k) for k in range(len(planes))]
    return tuple(
        cv2.GaussianBlur(plane, (0, 0), sigma / across, sigmaY=sigma / down, borderType=cv2.BORDER_REPLICATE)
        for plane, (across, down) in zip(planes, steps, strict=True)
    )


def _rounded(made: np.ndarray, share: float, format: PixelFormat) -> np.ndarray:
    """A plane as rendered, times ``share``, in its format's own dtype, its values inside the format.

    A mean is finer than the steps of bytes: a still pattern of less than one step keeps blurred slopes from banding; it
    is small enough to cost little likeness.
    """
    if made.dtype == np.uint8 or (made.dtype == format.dtype and share == 1):
        return format.clipped(made)
    if format.dtype == np.uint8:
        return np.asarray(cv2.addWeighted(made, share, _pattern(made.shape), 1.0, 0.0, dtype=cv2.CV_8U))
    return format.rounded(made if share == 1 else made * np.float32(share))


@lru_cache(maxsize=4)
def _pattern(shape: tuple[int, int]) -> np.ndarray:
    """An ordered pattern (B. Bayer, 1973), 8 by 8, over a plane."""
    tile = np.zeros((1, 1))
    for _ in range(3):
        tile = np.block([[4 * tile, 4 * tile + 2], [4 * tile + 3, 4 * tile + 1]])
    tile = DITHER * ((tile + 0.5) / 64 - 0.5)
    rows, columns = shape
    return np.tile(tile, (-(-rows // 8), -(-columns // 8)))[:rows, :columns].astype(np.float32)
