"""The only public door of the renderer: a plan, a frame number, a source → a picture."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import lru_cache, partial

import cv2
import numpy as np

from young_tremor.base.frames import Frame, FrameSource, with_planes
from young_tremor.base.pixels import PixelFormat
from young_tremor.render import bend, compose, light, soft
from young_tremor.render.compose import heights_of
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.warp import Kernel, Place, is_identity, look, plane_matrix

Sample = Callable[[int], np.ndarray]


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
    if len(each) == 1 and plan.base.opaque:
        return _alone(plan, index, each[0])
    return compose.composed(plan, index, each, partial(_places, plan, index))


def _alone(plan: Plan, index: int, frame: Frame) -> Frame:
    """One opaque plate."""
    places, weights = _places(plan, index, plan.base, frame)
    black = frame.black()
    format = frame.format
    samplers: list[Sample] = []
    made: list[np.ndarray | None] = []
    for number, plane in enumerate(frame.planes):
        size = format.plane_size(number, plan.size)
        made.append(plane if untouched(places[number], plane, size) else None)
        kernel = plan.kernel_for(len(weights), number)
        heights = heights_of(plan, format, number, size)
        samplers.append(partial(_look, plan, plane, places[number], size, heights, black[number], kernel, format))
    if plan.shot.frame.linear and len(weights) > 1 and any(each is None for each in made):
        views = (tuple(sample(k) for sample in samplers) for k in range(len(weights)))
        lit = light.mean(views, weights, frame).planes
    elif plan.border == "soft":
        lit = tuple(known if known is not None else _filled(plan, frame, k, samplers[k], places[k], weights)
                    for k, known in enumerate(made))  # fmt: skip
    else:
        lit = tuple(mean(sample, weights) if known is None else known
                    for sample, known in zip(samplers, made, strict=True))  # fmt: skip
    lit = knocked(lit, plan, format, index)
    if plan.alpha is not None:
        return Frame((*lit, _alpha(plan, places[0], weights, frame)), plan.alpha, frame.colour)
    return with_planes(frame, lit)


def _filled(
    plan: Plan, frame: Frame, plane: int, sample: Sample, places: list[Place], weights: np.ndarray
) -> np.ndarray:
    """A plane with the soft fill, where its views leave anything open."""
    size = frame.format.plane_size(plane, plan.size)
    heights = heights_of(plan, frame.format, plane, size)
    given = frame.planes[plane]
    if soft.coverage(places, weights, size, heights, (given.shape[1], given.shape[0])).min() >= 1.0 - 1e-6:
        return mean(sample, weights)
    views = (sample(k) for k in range(len(weights)))
    return soft.filled(views, given, places, weights, size, heights, frame.format)


def untouched(places: list[Place], plane: np.ndarray, size: tuple[int, int]) -> bool:
    """Whether a plane is to be passed on as it is: every view leaves each of its pixels where it is."""
    return plane.shape[::-1] == size and all(
        isinstance(place, np.ndarray) and all(is_identity(m, size) for m in place) for place in places
    )


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


def _alpha(plan: Plan, places: list[Place], weights: np.ndarray, frame: Frame) -> np.ndarray:
    """How much of each pixel is covered, as a plane of the frame's depth."""
    cover = soft.coverage(places, weights, plan.size, heights_of(plan, frame.format, 0, plan.size), frame.size)
    return frame.format.rounded(np.minimum(cover, 1.0) * frame.format.top)


def _places(plan: Plan, index: int, plate: PlatePlan, frame: Frame) -> tuple[list[list[Place]], np.ndarray]:
    """Where each view of each plane of a plate looks in the frame at hand, and the views' shares."""
    nominal = plate.source.size
    scale = (frame.size[0] / nominal[0], frame.size[1] / nominal[1])
    numbers = range(len(frame.planes))
    format = frame.format
    if not bend.bent(plan, plate):
        matrices, weights = plan.matrices(index, plate)
        return [
            [np.stack([plane_matrix(m, k, format, format, scale) for m in view]) for view in matrices] for k in numbers
        ], weights
    _, times, shifts, weights = plan.moments(np.array([index]))
    grids = [bend.maps(plan, plate, index, t, shift) for t, shift in zip(times.tolist(), shifts, strict=True)]
    out: list[list[Place]] = []
    for k in numbers:
        size, step, siting = format.plane_size(k, plan.size), format.plane_step(k), format.plane_siting(k)
        # what takes rendered pixels of the plane to places of it, without the luma pixels they are told in
        to_plane = plane_matrix(np.eye(3), k, format, format, scale) @ _luma_to_plane(step, siting)
        still = plan.size == frame.size == nominal
        out.append([
            np.eye(3)[None] if still and bend.untouched(grid) else bend.plane_maps(grid, size, step, siting, to_plane)
            for grid in grids
        ])  # fmt: skip
    return out, weights


def _luma_to_plane(step: tuple[int, int], siting: tuple[float, float]) -> np.ndarray:
    return np.linalg.inv(np.array([[step[0], 0, siting[0]], [0, step[1], siting[1]], [0, 0, 1.0]]))


def _look(
    plan: Plan, plane: np.ndarray, places: list[Place], size: tuple[int, int], heights: np.ndarray, value: float,
    kernel: Kernel, format: PixelFormat, k: int,
) -> np.ndarray:  # fmt: skip
    return format.clipped(look(plane, places[k], heights, size, kernel=kernel, border=plan.border, value=value))


def mean(sample: Sample, weights: np.ndarray) -> np.ndarray:
    """Mean of the renders of a plane under each view, rounded to the plane's dtype; one or two need no sum."""
    first = sample(0)
    if len(weights) == 1:
        return first
    if len(weights) == 2:
        return cv2.addWeighted(first, float(weights[0]), sample(1), float(weights[1]), 0.0)
    even = float(weights[0]) if np.ptp(weights) < 1e-12 else 0.0
    total = first.astype(np.float32)
    if not even:
        total *= np.float32(weights[0])
    for k in range(1, len(weights)):
        if even:
            cv2.accumulate(sample(k), total)
        else:
            total += sample(k) * np.float32(weights[k])
    if even:
        total *= np.float32(even)
    if first.dtype == np.float32:
        return total
    return _dithered(total) if first.dtype == np.uint8 else np.rint(total).astype(first.dtype)


def _dithered(total: np.ndarray) -> np.ndarray:
    """A mean rounded to bytes. It is finer than their steps: a still pattern of less than one step keeps blurred slopes
    from banding."""
    cv2.add(total, _pattern(total.shape), dst=total)
    return cv2.convertScaleAbs(total)


@lru_cache(maxsize=4)
def _pattern(shape: tuple[int, int]) -> np.ndarray:
    """An ordered pattern from -0.5 to 0.5 (B. Bayer, 1973), 8 by 8, over a plane."""
    tile = np.zeros((1, 1))
    for _ in range(3):
        tile = np.block([[4 * tile, 4 * tile + 2], [4 * tile + 3, 4 * tile + 1]])
    tile = (tile + 0.5) / 64 - 0.5
    rows, columns = shape
    return np.tile(tile, (-(-rows // 8), -(-columns // 8)))[:rows, :columns].astype(np.float32)
