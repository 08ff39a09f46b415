"""The only public door of the renderer: a plan, a frame number, a source → a picture."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache, partial

import cv2
import numpy as np

from young_tremor.base.frames import Frame, FrameSource, with_planes
from young_tremor.render import bend, light, soft
from young_tremor.render.plan import Plan
from young_tremor.render.warp import Kernel, Place, is_identity, look, plane_matrix, rows_of

Sample = Callable[[int], np.ndarray]


def render(plan: Plan, index: int, source: FrameSource) -> Frame:
    """Delivered frame ``index`` of a plan.

    Preview, export and command line all come through here; what differs between them is in the plan. ``source``
    may hand out reduced copies of its frames: places are scaled to what it gives. Pure but for the source; the
    thread that owns the source may call it.
    """
    return render_frame(plan, index, source.read(plan.source_index(index)))


def render_frame(plan: Plan, index: int, frame: Frame) -> Frame:
    """The same for a source frame already at hand. Planes of ``frame`` are never changed; where nothing moves
    they are passed on as they are."""
    places, weights = _places(plan, index, frame)
    black = frame.black()
    samplers: list[Sample] = []
    made: list[np.ndarray | None] = []
    for number, plane in enumerate(frame.planes):
        size = frame.format.plane_size(number, plan.size)
        same = plane.shape[::-1] == size and all(
            isinstance(place, np.ndarray) and all(is_identity(m, size) for m in place) for place in places[number]
        )
        made.append(plane if same else None)
        kernel = plan.kernel_for(len(weights), number)
        heights = _heights(plan, number, size)
        samplers.append(partial(_look, plan, plane, places[number], size, heights, black[number], kernel))
    if plan.shot.frame.linear and len(weights) > 1 and any(each is None for each in made):
        views = (tuple(sample(k) for sample in samplers) for k in range(len(weights)))
        lit = light.mean(views, weights, frame).planes
    else:
        lit = tuple(mean(sample, weights) if known is None else known
                    for sample, known in zip(samplers, made, strict=True))  # fmt: skip
    if plan.border == "soft":
        lit = tuple(
            soft.filled(one, plane, places[k], weights, plan.source.format.plane_size(k, plan.size),
                        _heights(plan, k, plan.source.format.plane_size(k, plan.size)), black[k])
            if made[k] is None else one
            for k, (one, plane) in enumerate(zip(lit, frame.planes, strict=True))
        )  # fmt: skip
    lit = _knocked(lit, plan, index)
    if plan.alpha is not None:
        return Frame((*lit, _alpha(plan, places[0], weights, frame)), plan.alpha, frame.colour)
    return with_planes(frame, lit)


def _knocked(planes: tuple[np.ndarray, ...], plan: Plan, index: int) -> tuple[np.ndarray, ...]:
    """The planes out of focus, where a hit has knocked the lens."""
    sigma = plan.softness(index)
    if sigma < 0.2:
        return planes
    steps = [plan.source.format.plane_step(k) for k in range(len(planes))]
    return tuple(
        cv2.GaussianBlur(plane, (0, 0), sigma / across, sigmaY=sigma / down, borderType=cv2.BORDER_REPLICATE)
        for plane, (across, down) in zip(planes, steps, strict=True)
    )


def _alpha(plan: Plan, places: list[Place], weights: np.ndarray, frame: Frame) -> np.ndarray:
    """How much of each pixel is covered, as a plane of the frame's depth."""
    cover = soft.coverage(places, weights, plan.size, _heights(plan, 0, plan.size), frame.size)
    top = (1 << frame.format.depth) - 1
    return np.rint(np.minimum(cover, 1.0) * top).astype(frame.format.dtype)


def _places(plan: Plan, index: int, frame: Frame) -> tuple[list[list[Place]], np.ndarray]:
    """Where each view of each plane looks in the frame at hand, and the views' shares."""
    nominal = plan.source.size
    scale = (frame.size[0] / nominal[0], frame.size[1] / nominal[1])
    numbers = range(len(frame.planes))
    format = frame.format
    if not bend.bent(plan):
        matrices, weights = plan.matrices(index)
        return [
            [np.stack([plane_matrix(m, k, format, format, scale) for m in view]) for view in matrices] for k in numbers
        ], weights
    _, times, shifts, weights = plan.moments(np.array([index]))
    grids = [bend.maps(plan, index, t, shift) for t, shift in zip(times.tolist(), shifts, strict=True)]
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


def _heights(plan: Plan, number: int, size: tuple[int, int]) -> np.ndarray:
    """Where the rows of a plane lie in the picture, -0.5…0.5."""
    format = plan.source.format
    return rows_of(size[1], format.plane_step(number)[1], format.plane_siting(number)[1], plan.size[1])


def _look(
    plan: Plan, plane: np.ndarray, places: list[Place], size: tuple[int, int], heights: np.ndarray, value: int,
    kernel: Kernel, k: int,
) -> np.ndarray:  # fmt: skip
    return look(plane, places[k], heights, size, kernel=kernel, border=plan.border, value=value)


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
