"""One plate of a frame, looked at through its exposure."""

from __future__ import annotations

import math
from copy import copy
from dataclasses import replace
from functools import cached_property

import cv2
import numpy as np

from young_tremor import kernels
from young_tremor.base.colour_spaces import PQ
from young_tremor.base.frames import Frame
from young_tremor.kernels import KernelRequest, Lattice, Trail
from young_tremor.model.edge_modes import Border
from young_tremor.render import blur_paths, coverage, displacement, lattices, shutter
from young_tremor.render.exposure_views import ExposureViews
from young_tremor.render.frame_windows import COARSE, Window, whole_window
from young_tremor.render.lattices import BENT
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.plane_matrix import is_identity, plane_matrix

TOUCHED = 1e-3  # pixels: a place that looks nearer than this to itself stays as it is
MARGIN = 3  # pixels that taps reach beyond a way


class PlateView:
    """What a plate shows in a frame.

    ``views``: of the luma, and of planes of half its size if there are others for them. ``border`` says what lies
    outside the picture. Where that is black or a soft fill the colours go on behind it as they are at the edge, and
    :meth:`coverage` says what is covered.
    """

    def __init__(
        self, plan: Plan, plate: PlatePlan, index: int, frame: Frame, views: list[ExposureViews], border: Border
    ) -> None:
        self._plan, self._plate, self._index, self._frame = plan, plate, index, frame
        self._peaks = frame.colour.transfer == PQ  # light beside an edge would be far brighter than the edge
        self._border: kernels.Border = "mirror" if border == "mirror" else "repeat" if border == "repeat" else "hold"
        nominal = plate.source.size
        self._scale = (frame.size[0] / nominal[0], frame.size[1] / nominal[1])
        self.bent = displacement.is_bent(plan, plate)
        coarse = len(views) > 1 and not self.bent and frame.format.kind == "yuv" and min(frame.format.step) > 1
        self._exposures = [
            _Exposed(plan, plate, index, view, max(frame.format.step)) for view in views[: 2 if coarse else 1]
        ]

    def showing(self, frame: Frame) -> PlateView:
        """The same with another frame of the same size in place of this one."""
        plate_view = copy(self)
        plate_view._frame = frame
        return plate_view

    def _exposed(self, plane: int) -> _Exposed:
        return self._exposures[-1 if self._frame.format.chroma(plane) else 0]

    def mean(self, plane: int) -> np.ndarray:
        """A plane over the whole exposure: of the plane's own dtype, its values inside the format."""
        mean, peak = kernels.mean_views(self._request(plane)), self.peak(plane)
        return mean if peak is None else np.minimum(mean, peak, out=mean)

    def peak(self, plane: int) -> float | None:
        """The most that a plane of PQ may show, which is the most that is in it: sharpness does not go beyond. None
        where nothing is held to it."""
        format = self._frame.format
        if not self._peaks or plane >= format.colours or (plane and format.kind == "yuv"):
            return None
        return self._frame.planes[plane].max()

    def means_of(self, planes: list[np.ndarray]) -> list[np.ndarray]:
        """Other planes of the luma's size over the whole exposure, not rounded: int16 samples with a fraction."""
        request = replace(self._request(0), plane=planes[0], raw=True, dither=False)
        return kernels.mean_alike(request, planes)

    def _request(self, plane: int) -> KernelRequest:
        """What a plane takes over the whole exposure."""
        format, exposed = self._frame.format, self._exposed(plane)
        size, step = format.plane_size(plane, self._plan.size), format.plane_step(plane)
        drawn, smear = exposed.trails, exposed.smear
        weights, count = kernels.shares(exposed.views.weights), len(exposed.views.times)
        if exposed.same:
            drawn, smear, weights, count = [Trail(0, 1)], None, kernels.even_weights(1), 1
        drawn = [t if t.ways is None else replace(t, ways=t.ways / step) for t in drawn]
        smear = smear / step if smear is not None else None
        room = [
            _whole_blocks(
                max((float(np.abs(t.ways[..., k]).max()) + MARGIN for t in drawn if t.ways is not None), default=0)
            )
            + _whole_blocks(float(np.abs(smear[:, k]).max()) + MARGIN if smear is not None else 0)
            for k in range(2)
        ]
        lattice = self._lattice(plane, slice(0, count), (room[0], room[1]), whole_window(self._plan.size))
        return KernelRequest(
            self._frame.planes[plane],
            lattice,
            weights,
            tuple(drawn),
            size,
            Window(0, 0, *size),
            format.depth,
            self._border,
            smear,
            dither=format.depth == 8 and (count > 1 or smear is not None or drawn[0].ways is not None),
        )

    def view(self, plane: int, view: int, window: Window) -> np.ndarray:
        """What is seen of a plane at one moment in a window of the frame, not rounded: int16 with its fraction, or
        float32 (see :class:`young_tremor.kernels.KernelRequest`)."""
        format = self._frame.format
        rows, columns = window.of(format, plane)
        size = columns.stop - columns.start, rows.stop - rows.start
        view = 0 if self.same else view
        lattice = self._lattice(plane, slice(view, view + 1), (0, 0), window)
        return kernels.mean_views(
            kernels.one_view(self._frame.planes[plane], lattice, size, format.depth, self._border)
        )

    def places(self, view: int, window: Window) -> np.ndarray:
        """Where a view looks in the luma: (height, width, 2) pixels of the frame that is shown."""
        lattice = self._lattice(0, slice(view, view + 1), (0, 0), window)
        return lattice.places(0, Window(0, 0, window.width, window.height))

    def _lattice(self, plane: int, views: slice, room: tuple[int, int], window: Window) -> Lattice:
        """Where views look in a plane, in a window and ``room`` pixels about it."""
        plan, format, exposed = self._plan, self._frame.format, self._exposed(plane)
        step, siting = format.plane_step(plane), format.plane_siting(plane)
        rows, columns = window.of(format, plane)
        size = columns.stop - columns.start, rows.stop - rows.start
        if not self.bent:
            here = np.array([[1.0, 0, columns.start], [0, 1.0, rows.start], [0, 0, 1.0]])
            matrices = plane_matrix(exposed.matrices[views], plane, format, format, self._scale) @ here
            tall = max(plan.size[1] - 1, 1)
            first = (siting[1] + step[1] * rows.start) / tall - 0.5
            return lattices.of_matrices(matrices, (first, step[1] / tall), size, room)
        to_plane = plane_matrix(np.eye(3), plane, format, format, self._scale)
        to_plane = to_plane @ np.linalg.inv(np.array([[step[0], 0, siting[0]], [0, step[1], siting[1]], [0, 0, 1.0]]))
        luma_room = (room[0] * step[0], room[1] * step[1])
        lattice = exposed.bent_lattice(luma_room, window)
        picked = Lattice(lattice.nodes[views], lattice.left, lattice.top, lattice.spacing, lattice.drop)
        return lattices.of_plane(picked, step, siting, to_plane)

    @property
    def same(self) -> bool:
        """Whether all views show the same."""
        return self._exposures[0].same

    def untouched(self, plane: int) -> bool:
        """Whether a plane is to be passed on as it is: every view leaves each of its pixels where it is."""
        size, exposed = self._frame.format.plane_size(plane, self._plan.size), self._exposed(plane)
        if self._frame.planes[plane].shape[::-1] != size or exposed.views.drawn or exposed.smear is not None:
            return False
        if self.bent:
            nominal = self._plan.size == self._frame.size == self._plate.source.size
            return nominal and bool(exposed.unmoved.all())
        format = self._frame.format
        places = plane_matrix(exposed.matrices, plane, format, format, self._scale)
        return all(is_identity(place, size) for place in places.reshape(-1, 3, 3))

    def still(self, plane: int) -> np.ndarray | None:
        """Which pixels of a bent picture every view leaves where they are: (height, width) uint8, 255 or 0; None where
        it is not known to leave any."""
        if not self.bent or not self._plan.size == self._frame.size == self._plate.source.size:
            return None
        moved = (~self._exposures[0].unmoved).astype(np.uint8)
        if moved.all():
            return None
        lattice = self._exposures[0].bent_lattice((0, 0), whole_window(self._plan.size))
        near = cv2.dilate(moved, np.ones((3, 3), np.uint8))
        cells = np.maximum(np.maximum(near[:-1, :-1], near[1:, :-1]), np.maximum(near[:-1, 1:], near[1:, 1:]))
        size, step = self._frame.format.plane_size(plane, self._plan.size), self._frame.format.plane_step(plane)
        first = cells[-lattice.top // BENT :, -lattice.left // BENT :] == 0  # a frame begins at a node
        blocks = cv2.resize(
            255 * first.astype(np.uint8), None, fx=BENT / step[0], fy=BENT / step[1], interpolation=cv2.INTER_NEAREST
        )
        return np.asarray(blocks[: size[1], : size[0]])

    def coverage(self) -> np.ndarray | None:
        """How much of each luma pixel the picture covers over the exposure, 0…1; None where all are covered."""
        views = self._exposures[0].views
        return coverage.coverage(self._plan, self._plate, self._index, views.covered, self._frame)


def _whole_blocks(pixels: float) -> int:
    """Whole blocks of 16 that hold so many pixels."""
    return math.ceil(pixels / 16) * 16


class _Exposed:
    """A plate under one set of views."""

    def __init__(self, plan: Plan, plate: PlatePlan, index: int, views: ExposureViews, unit: int) -> None:
        self.views, self._unit = views, unit
        self._of = plan, plate, index
        self._bent: dict[tuple[int, int], Lattice] = {}

    @cached_property
    def matrices(self) -> np.ndarray:
        """Rendered luma pixel → nominal source luma pixel: (views, k, 3, 3)."""
        plan, plate, index = self._of
        return shutter.moments(plan, index, plate, self.views.times, self.views.shifts)

    @cached_property
    def trails(self) -> list[Trail]:
        """How the views are drawn out; ways in rendered luma pixels."""
        return blur_paths.trails_of(*self._of, self.views)

    @cached_property
    def smear(self) -> np.ndarray | None:
        """Offsets over which the smeared views are averaged besides: (points, 2) rendered luma pixels."""
        plan, plate, _ = self._of
        line = self.views.smear
        if line is None or plate.plate.glass:  # what smears the shot does not touch the glass
            return None
        share = np.linspace(0.0, 1.0, 9)[:, None]
        return np.asarray(-(line[0] + share * (line[1] - line[0])) @ plan.from_units[:2, :2].T)

    def bent_lattice(self, room: tuple[int, int], window: Window) -> Lattice:
        """The luma's lattice of all views in a window where no matrix says how they look: cut out of that of the whole
        frame, which is worked out once."""
        whole = self._bent.get(room)
        if whole is None:
            looks = self.views.times, self.views.shifts
            whole = self._bent[room] = lattices.of_displacement(*self._of, looks, room, self._unit)
        assert window.left % COARSE == 0
        assert window.top % COARSE == 0
        return lattices.cut_lattice(whole, window, room, self._unit)

    @cached_property
    def unmoved(self) -> np.ndarray:
        """Which nodes of the bent lattice all views leave where they stand: (rows, columns) bool."""
        lattice = self.bent_lattice((0, 0), whole_window(self._of[0].size))
        x = lattice.left + BENT * np.arange(lattice.nodes.shape[2])
        y = lattice.top + BENT * np.arange(lattice.nodes.shape[1])
        unmoved = np.ones(lattice.nodes.shape[1:3], bool)
        for nodes in lattice.nodes:
            unmoved &= (np.abs(nodes[..., 0] - x) < TOUCHED) & (np.abs(nodes[..., 1] - y[:, None]) < TOUCHED)
            if not unmoved.any():
                break
        return unmoved

    @cached_property
    def same(self) -> bool:
        """Whether all views show the same."""
        if self.views.drawn or self.smear is not None:
            return False
        if len(self.views.times) == 1:
            return True
        if displacement.is_bent(*self._of[:2]):
            nodes = self.bent_lattice((0, 0), whole_window(self._of[0].size)).nodes
            return bool((nodes == nodes[0]).all())
        return bool((self.matrices == self.matrices[0]).all())
