"""An opaque picture in a part of a frame, moment by moment, plane by plane as it is stored."""

from __future__ import annotations

from copy import copy

import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame
from young_tremor.base.pixels import ColourTags, PixelFormat, levels
from young_tremor.render import bend, soft
from young_tremor.render.graphic import EDGE, ends, touched
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.seen import Seen, Window, whole_window
from young_tremor.render.shutter import Exposure
from young_tremor.render.warp import Border


def of_film(plan: Plan, plate: PlatePlan, index: int, frame: Frame, seen: Exposure) -> Window | None:
    """The part of a frame that an opaque plate touches; None if none."""
    if bend.bent(plan, plate):
        return whole_window(plan.size)
    width, height = frame.size
    kx, ky = width / plate.source.size[0], height / plate.source.size[1]
    raster = np.array([[kx, 0, 0.5 * kx - 0.5], [0, ky, 0.5 * ky - 0.5], [0, 0, 1.0]])
    back = raster @ ends(plan, plate, index, seen).reshape(-1, 3, 3)
    return touched(back, np.full(2, -EDGE), np.array([width, height]) - 1 + EDGE, plan.size)


class Film:
    """An opaque plate in a window of a frame. ``border``: what lies outside of it."""

    def __init__(
        self, plan: Plan, plate: PlatePlan, index: int, frame: Frame, seen: Exposure, format: PixelFormat,
        tags: ColourTags, window: Window, border: Border,
    ) -> None:  # fmt: skip
        self.window, self._border, self._format, self._plan = window, border, format, plan
        given = colour.converted(frame, format, tags)
        self._given = given
        self._black = [np.float32(levels(format, tags, k)[0]) for k in range(format.colours)]
        self._seen = Seen(plan, plate, index, given, [seen], border, window)
        self._ready: tuple[int, list[tuple[np.ndarray, np.ndarray]]] = (-1, [])
        self._kept: tuple[int, list[np.ndarray], np.ndarray | None] | None = None

    def within(self, window: Window) -> Film:
        """The same in another part of the frame."""
        other = copy(self)
        other.window, other._seen = window, self._seen.within(window)
        other._ready, other._kept = (-1, []), None
        return other

    @property
    def same(self) -> bool:
        """Whether all views show the same."""
        return self._seen.same

    def view(self, k: int) -> tuple[list[np.ndarray], np.ndarray | None]:
        """What is seen of it at one moment: planes (float32, less black, drawn towards it where it covers in part), and
        how much of each luma pixel it covers, 0…1; None: all of them."""
        if self._kept is None or (self._kept[0] != k and not self.same):
            self._kept = (k, *self._looked(k))
        return self._kept[1], self._kept[2]

    def _looked(self, k: int) -> tuple[list[np.ndarray], np.ndarray | None]:
        format, seen = self._format, self._seen
        number = next(n for n, group in enumerate(seen.of(0).streaks) if k in group.views)
        if self._ready[0] != number:
            group = seen.of(0).streaks[number]
            self._ready = number, [seen.made(plane, group) for plane in range(format.colours)]
        planes = []
        for plane, ready in enumerate(self._ready[1]):
            made = seen.view(plane, k, ready).astype(np.float32)
            if not format.real:  # kernels overshoot at edges
                np.clip(made, 0, format.top, out=made)
            planes.append(made - self._black[plane])
        if self._border not in ("black", "soft"):
            return planes, None
        rows = np.arange(self.window.top, self.window.bottom) / max(self._plan.size[1] - 1, 1) - 0.5
        cover = soft.covered(seen.place(0, k), seen.size(0), rows, self._given.size)
        if cover.min() >= 1:
            return planes, None
        for plane, made in enumerate(planes):
            share = colour.lowered(cover, format, seen.size(0)) if format.chroma(plane) else cover
            if self._border == "soft":
                behind = self._given.planes[plane]
                size = format.plane_size(plane, self._plan.size)
                part = self.window.of(format, plane)
                planes[plane] = soft.filled(made + self._black[plane], behind, share, size, part) - self._black[plane]
            else:
                planes[plane] = made * share
        return planes, None if self._border == "soft" else cover
