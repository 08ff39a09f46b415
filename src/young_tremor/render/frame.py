"""The only public door of the renderer: a plan, a frame number, a source → a picture."""

from __future__ import annotations

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
    matrices = plan.matrices(index)
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
        options = {"kernel": plan.kernel, "border": plan.border, "value": black[number]}
        planes.append(_mean([warp(plane, m, size, **options) for m in own]) if len(own) < 4 else
                      _running_mean(plane, own, size, options))  # fmt: skip
    return with_planes(frame, tuple(planes))


def _mean(parts: list[np.ndarray]) -> np.ndarray:
    """Mean of one to three pictures, rounded to their dtype."""
    if len(parts) == 1:
        return parts[0]
    if len(parts) == 2:
        return cv2.addWeighted(parts[0], 0.5, parts[1], 0.5, 0.0)
    total = np.zeros(parts[0].shape, np.float32)
    for part in parts:
        cv2.accumulate(part, total)
    return _rounded(total, len(parts), parts[0].dtype)


def _running_mean(plane: np.ndarray, matrices: list[np.ndarray], size: tuple[int, int], options: dict) -> np.ndarray:
    """Mean of many renders of a plane without keeping them all."""
    total = np.zeros(size[::-1], np.float32)
    for matrix in matrices:
        cv2.accumulate(warp(plane, matrix, size, **options), total)
    return _rounded(total, len(matrices), plane.dtype)


def _rounded(total: np.ndarray, count: int, dtype: np.dtype) -> np.ndarray:
    if dtype == np.uint8:
        return cv2.convertScaleAbs(total, alpha=1.0 / count)
    return np.rint(total / count).astype(dtype)
