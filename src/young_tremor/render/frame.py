"""The only public door of the renderer: a plan, a frame number, a source → a picture."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

import cv2
import numpy as np

from young_tremor.base.frames import Frame, FrameSource, with_planes
from young_tremor.render import light, soft
from young_tremor.render.plan import Plan
from young_tremor.render.warp import is_identity, plane_matrix, warp, warp_rows

Sample = Callable[[np.ndarray], np.ndarray]


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
    matrices, weights = plan.matrices(index)
    nominal = plan.source.size
    scale = (frame.size[0] / nominal[0], frame.size[1] / nominal[1])
    black = frame.black()
    made: list[np.ndarray | None] = []
    samplers: list[tuple[Sample, list[np.ndarray]]] = []
    for number, plane in enumerate(frame.planes):
        size = frame.format.plane_size(number, plan.size)
        own = [[plane_matrix(m, number, frame.format, frame.format, scale) for m in view] for view in matrices]
        still = plane.shape[::-1] == size and all(is_identity(m, size) for view in own for m in view)
        made.append(plane if still else None)
        samplers.append((_sampler(plan, plane, number, size, black[number]), [np.stack(view) for view in own]))
    if plan.shot.frame.linear and len(weights) > 1 and any(each is None for each in made):
        views = (tuple(sample(stacks[k]) for sample, stacks in samplers) for k in range(len(weights)))
        made = list(light.mean(views, weights, frame).planes)
    for number, plane in enumerate(frame.planes):
        sample, stacks = samplers[number]
        if made[number] is not None and not (plan.shot.frame.linear and len(weights) > 1):
            continue
        size = frame.format.plane_size(number, plan.size)
        known = made[number]
        one = mean(sample, stacks, weights) if known is None else known
        if plan.border == "soft":
            one = soft.filled(one, plane, stacks, weights, size, _heights(plan, number, size), black[number])
        made[number] = one
    return with_planes(frame, tuple(each for each in made if each is not None))


def _heights(plan: Plan, number: int, size: tuple[int, int]) -> np.ndarray:
    """Where the rows of a plane lie in the picture, -0.5…0.5."""
    format = plan.source.format
    rows = np.arange(size[1]) * format.plane_step(number)[1] + format.plane_siting(number)[1]
    return rows / max(plan.size[1] - 1, 1) - 0.5


def _sampler(plan: Plan, plane: np.ndarray, number: int, size: tuple[int, int], value: int) -> Sample:
    heights = _heights(plan, number, size)

    def sample(matrices: np.ndarray) -> np.ndarray:
        if len(matrices) == 1:
            return warp(plane, matrices[0], size, kernel=plan.kernel, border=plan.border, value=value)
        return warp_rows(plane, matrices, heights, size, kernel=plan.kernel, border=plan.border, value=value)

    return sample


def mean(sample: Sample, views: list[np.ndarray], weights: np.ndarray) -> np.ndarray:
    """Mean of the renders of a plane under each view, rounded to the plane's dtype; one or two need no sum."""
    first = sample(views[0])
    if len(views) == 1:
        return first
    if len(views) == 2:
        return cv2.addWeighted(first, float(weights[0]), sample(views[1]), float(weights[1]), 0.0)
    even = float(weights[0]) if np.ptp(weights) < 1e-12 else 0.0
    total = first.astype(np.float32)
    if not even:
        total *= np.float32(weights[0])
    for view, weight in zip(views[1:], weights[1:], strict=True):
        if even:
            cv2.accumulate(sample(view), total)
        else:
            total += sample(view) * np.float32(weight)
    if even:
        total *= np.float32(even)
    if first.dtype == np.uint8:
        # a mean is finer than its steps: a still pattern of less than one of them keeps blurred slopes from banding
        cv2.add(total, _pattern(total.shape), dst=total)
        return cv2.convertScaleAbs(total)
    return np.rint(total).astype(first.dtype)


@lru_cache(maxsize=4)
def _pattern(shape: tuple[int, int]) -> np.ndarray:
    """An ordered pattern from -0.5 to 0.5 (B. Bayer, 1973), 8 by 8, over a plane."""
    tile = np.zeros((1, 1))
    for _ in range(3):
        tile = np.block([[4 * tile, 4 * tile + 2], [4 * tile + 3, 4 * tile + 1]])
    tile = (tile + 0.5) / 64 - 0.5
    rows, columns = shape
    return np.tile(tile, (-(-rows // 8), -(-columns // 8)))[:rows, :columns].astype(np.float32)
