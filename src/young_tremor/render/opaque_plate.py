"""An opaque picture in a part of a frame, moment by moment, plane by plane as it is stored."""

from __future__ import annotations

from copy import copy

import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame
from young_tremor.model.edge_modes import Border
from young_tremor.render import coverage, displacement, shutter
from young_tremor.render.composite_samples import SampleFormat
from young_tremor.render.exposure_views import ExposureViews
from young_tremor.render.frame_windows import EDGE, Window, touched_window, whole_window
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.plate_view import PlateView


def window_of(plan: Plan, plate: PlatePlan, index: int, frame: Frame, views: ExposureViews) -> Window | None:
    """The part of a frame that an opaque plate touches; None if none."""
    if displacement.is_bent(plan, plate):
        return whole_window(plan.size)
    width, height = frame.size
    kx, ky = width / plate.source.size[0], height / plate.source.size[1]
    raster = np.array([[kx, 0, 0.5 * kx - 0.5], [0, ky, 0.5 * ky - 0.5], [0, 0, 1.0]])
    back = raster @ shutter.moments(plan, index, plate, views.times, views.shifts).reshape(-1, 3, 3)
    return touched_window(back, np.full(2, -EDGE), np.array([width, height]) - 1 + EDGE, plan.size)


class OpaquePlate:
    """An opaque plate in a frame, or in a window of it. ``border``: what lies outside of it."""

    def __init__(
        self,
        plan: Plan,
        plate: PlatePlan,
        index: int,
        frame: Frame,
        views: ExposureViews,
        flight: SampleFormat,
        border: Border,
    ) -> None:
        self.window, self._border, self._flight, self._plan = whole_window(plan.size), border, flight, plan
        self._given = colour.convert(frame, flight.format, flight.tags)
        self._shown = PlateView(plan, plate, index, self._given, [views], border)
        self._peaks = [self._shown.peak(number) for number in range(flight.format.colours)]
        self._kept: tuple[int, list[np.ndarray], np.ndarray | None] | None = None

    def within(self, window: Window) -> OpaquePlate:
        """The same in another part of the frame."""
        opaque_plate = copy(self)
        opaque_plate.window, opaque_plate._kept = window, None
        return opaque_plate

    @property
    def same(self) -> bool:
        """Whether all views show the same."""
        return self._shown.same

    def view(self, k: int) -> tuple[list[np.ndarray], np.ndarray | None]:
        """What is seen of it at one moment: planes in flight (less black, drawn towards it where it covers in part),
        and how much of each luma pixel it covers, in flight; None: all of them."""
        if self._kept is None or (self._kept[0] != k and not self.same):
            self._kept = (k, *self._looked(k))
        return self._kept[1], self._kept[2]

    def taken(self, k: int) -> tuple[list[np.ndarray], np.ndarray | None]:
        """The same as :meth:`view`, for whoever changes it."""
        planes, alpha = self.view(k)
        if self.same:
            return [plane.copy() for plane in planes], None if alpha is None else alpha.copy()
        self._kept = None
        return planes, alpha

    def _looked(self, k: int) -> tuple[list[np.ndarray], np.ndarray | None]:
        flight, format = self._flight, self._flight.format
        shown = self._shown
        planes = [flight.less_black(shown.view(n, k, self.window), n, self._peaks[n]) for n in range(format.colours)]
        if self._border not in ("black", "soft"):
            return planes, None
        size = self.window.width, self.window.height
        cover = coverage.share_of(self._shown.places(k, self.window), self._given.size)
        if cover.min() >= 1:
            return planes, None
        for plane, values in enumerate(planes):
            share = colour.downsample_chroma(cover, format, size) if format.chroma(plane) else cover
            if self._border == "soft":
                behind, whole = self._given.planes[plane], format.plane_size(plane, self._plan.size)
                part, zero = self.window.of(format, plane), flight.zero[plane]
                values = coverage.fill_uncovered(flight.to_code(values) + zero, behind, share, whole, part) - zero
                planes[plane] = flight.from_code(values)
            else:
                planes[plane] = flight.from_code(flight.to_code(values) * share)
        return planes, None if self._border == "soft" else flight.alpha(cover)
