"""The only public door of the renderer: a plan, a frame number, a source → a picture."""

from __future__ import annotations

from collections.abc import Callable

import cv2
import numpy as np

from young_tremor.base.frames import Frame, FrameSource, with_planes
from young_tremor.render.plan import Plan
from young_tremor.render.warp import is_identity, plane_matrix, warp


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
    planes = []
    for number, plane in enumerate(frame.planes):
        size = frame.format.plane_size(number, plan.size)
        own = [plane_matrix(m, number, frame.format, frame.format, scale) for m in matrices]
        if plane.shape[::-1] == size and all(is_identity(m, size) for m in own):
            planes.append(plane)
            continue
        value = black[number]

        def sample(
            matrix: np.ndarray, plane: np.ndarray = plane, size: tuple[int, int] = size, value: int = value
        ) -> np.ndarray:
            return warp(plane, matrix, size, kernel=plan.kernel, border=plan.border, value=value)

        planes.append(_mean(sample, own, weights))
    return with_planes(frame, tuple(planes))


def _mean(sample: Callable[[np.ndarray], np.ndarray], matrices: list[np.ndarray], weights: np.ndarray) -> np.ndarray:
    """Mean of the renders of a plane under each matrix, rounded to the plane's dtype; one or two need no sum."""
    first = sample(matrices[0])
    if len(matrices) == 1:
        return first
    if len(matrices) == 2:
        return cv2.addWeighted(first, float(weights[0]), sample(matrices[1]), float(weights[1]), 0.0)
    even = float(weights[0]) if np.ptp(weights) < 1e-12 else 0.0
    total = first.astype(np.float32)
    if not even:
        total *= np.float32(weights[0])
    for matrix, weight in zip(matrices[1:], weights[1:], strict=True):
        if even:
            cv2.accumulate(sample(matrix), total)
        else:
            total += sample(matrix) * np.float32(weight)
    if first.dtype == np.uint8:
        return cv2.convertScaleAbs(total, alpha=even or 1.0)
    return np.rint(total * (even or 1.0)).astype(first.dtype)
