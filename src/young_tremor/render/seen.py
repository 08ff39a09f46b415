"""One plate of a frame made ready, and looked at at every moment of its exposure."""

from __future__ import annotations

from copy import copy
from functools import cached_property

import cv2
import numpy as np

from young_tremor.base.frames import Frame
from young_tremor.render import bend, soft, streak, warp
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.shutter import SHORT, Exposure, matrices
from young_tremor.render.warp import Border, Place, is_identity, plane_matrix

LARGE = 20_000_000  # pixels of a plane from which the doubled one is kept in its own depth, a quarter of the memory


class _Exposed:
    """A plate under one exposure of a frame."""

    def __init__(self, plan: Plan, plate: PlatePlan, index: int, exposure: Exposure) -> None:
        self.exposure = exposure
        self.weights = exposure.weights.tolist()
        self._of = plan, plate, index
        self.bent = bend.bent(plan, plate)
        self.streaks = streak.streaks(plan, plate, index, exposure)

    @cached_property
    def matrices(self) -> np.ndarray:
        plan, plate, index = self._of
        return matrices(plan, index, plate, self.exposure)

    @cached_property
    def grids(self) -> list[np.ndarray]:
        seen = self.exposure
        near = seen.path < SHORT and len(seen.times) == seen.smeared and not seen.spread
        return bend.grids(*self._of, seen.times, seen.shifts, near)

    @cached_property
    def same(self) -> bool:
        """Whether all views show the same."""
        if any(not each.still for each in self.streaks):
            return False
        if self.bent:
            return all(np.array_equal(grid, self.grids[0]) for grid in self.grids)
        return bool((self.matrices == self.matrices[0]).all())


class Seen:
    """What a plate shows in a frame. Planes are made ready when they are asked for and not kept.

    ``exposures``: of the luma, and of planes of half its size if there is one for them. ``border`` says what lies
    outside the picture. Where that is black or a soft fill the colours go on behind it as they are at the edge, and
    :meth:`coverage` says what is covered. ``empty``: values of the planes outside, for a picture that holds its own
    alpha.
    """

    def __init__(
        self, plan: Plan, plate: PlatePlan, index: int, frame: Frame, exposures: list[Exposure], border: Border,
        empty: tuple[float, ...] | None = None,
    ) -> None:  # fmt: skip
        self._plan, self._plate, self._index, self._frame = plan, plate, index, frame
        self._border: Border = "hold" if border in ("black", "soft") else border
        self._empty = empty
        nominal = plate.source.size
        self._scale = (frame.size[0] / nominal[0], frame.size[1] / nominal[1])
        self._fine = _Exposed(plan, plate, index, exposures[0])
        half = len(exposures) > 1 and not self._fine.bent and frame.format.kind == "yuv" and min(frame.format.step) > 1
        self._coarse = _Exposed(plan, plate, index, exposures[1]) if half else self._fine

    def showing(self, frame: Frame) -> Seen:
        """The same with another frame of the same size in place of this one."""
        other = copy(self)
        other._frame = frame
        return other

    def of(self, plane: int) -> _Exposed:
        """The exposure of a plane."""
        return self._coarse if self._frame.format.chroma(plane) else self._fine

    def place(self, plane: int, view: int, at: np.ndarray | None = None) -> Place:
        """Where a view looks in a plane; ``at`` takes places of the plane to those of what was made of it."""
        format = self._frame.format
        at = np.eye(3) if at is None else at
        if not self._fine.bent:
            moved = self.of(plane).matrices[view]
            return np.stack([at @ plane_matrix(m, plane, format, format, self._scale) for m in moved])
        size = format.plane_size(plane, self._plan.size)
        step, siting = format.plane_step(plane), format.plane_siting(plane)
        to_plane = at @ plane_matrix(np.eye(3), plane, format, format, self._scale)
        to_plane = to_plane @ np.linalg.inv(np.array([[step[0], 0, siting[0]], [0, step[1], siting[1]], [0, 0, 1.0]]))
        return bend.plane_map(self.of(plane).grids[view], size, step, siting, to_plane)

    @property
    def same(self) -> bool:
        """Whether all views show the same."""
        return self._fine.same

    def _whole(self, plane: int) -> bool:
        """Whether all views take each pixel of a plane whole to another."""
        if self._fine.bent or not self.same:
            return False
        place = self.place(plane, 0)
        gone = np.array([[0, 0, 1], [0, 0, 1], [0, 0, 0.0]]) * np.rint(place[0])
        width, height = self._frame.format.plane_size(plane, self._plan.size)
        return all(is_identity(m - gone, (width, height)) for m in place)

    def untouched(self, plane: int) -> bool:
        """Whether a plane is to be passed on as it is: every view leaves each of its pixels where it is."""
        size, mine = self._frame.format.plane_size(plane, self._plan.size), self.of(plane)
        if self._frame.planes[plane].shape[::-1] != size or any(not each.still for each in mine.streaks):
            return False
        if mine.bent:
            nominal = self._plan.size == self._frame.size == self._plate.source.size
            return nominal and all(bend.untouched(grid, self._plan.size) for grid in mine.grids)
        return all(is_identity(m, size) for k in range(len(mine.weights)) for m in self.place(plane, k))

    def still(self, plane: int) -> np.ndarray | None:
        """Which pixels of a bent picture every view leaves where they are: (height, width) bool; None where it is not
        known to leave any."""
        if self._still is None:
            return None
        size, step = self._frame.format.plane_size(plane, self._plan.size), self._frame.format.plane_step(plane)
        return self._still[:: step[1], :: step[0]][: size[1], : size[0]]

    @cached_property
    def _still(self) -> np.ndarray | None:
        """The same for the luma, going on beyond the picture."""
        if not self._fine.bent or not self._plan.size == self._frame.size == self._plate.source.size:
            return None
        unmoved = [bend.unmoved(grid, self._plan.size) for grid in self._fine.grids]
        moved = (~np.all(unmoved, axis=0)).astype(np.uint8)
        if moved.all():
            return None
        # a pixel is still if all four places about it are
        near = cv2.dilate(moved, np.ones((3, 3), np.uint8))
        whole = np.repeat(np.repeat(near, bend.GRID, axis=0), bend.GRID, axis=1)
        return np.asarray(whole[bend.GRID :, bend.GRID :] == 0)

    def made(self, plane: int, group: streak.Streaks, passing: bool = False) -> tuple[np.ndarray, np.ndarray]:
        """A plane made ready for the views of a group, and what takes its places to those of the result (3, 3).
        ``passing``: see :func:`warp.doubled`."""
        given, step = self._frame.planes[plane], self._frame.format.plane_step(plane)
        scale = (self._scale[0] / step[0], self._scale[1] / step[1])
        mine, small = self.of(plane), step != (1, 1)
        one = len(mine.weights) == 1
        cubic = self._plan.kernel == "cubic" and not self._whole(plane)
        sharp = cubic and mine.exposure.sharp and not small
        if not cubic and group.still and (one or mine.same) and self._empty is None:
            return given, np.eye(3)
        pad = warp.ROOM if group.still else warp.ROOM + streak.reach(group, scale)
        if self._border != "hold":
            pad = max(pad, min(self._outside(plane) + pad, min(given.shape) - 1))
        deep = not one and given.size <= LARGE
        mode = warp.BORDERS[self._border] if self._empty is None else cv2.BORDER_CONSTANT
        value = 0.0 if self._empty is None else self._empty[plane]
        wide = cv2.copyMakeBorder(given, pad, pad, pad, pad, mode, value=value)
        if not group.still:
            wide = streak.drawn(wide, pad, group, scale, deep)
        at = np.array([[1, 0, pad], [0, 1, pad], [0, 0, 1.0]])
        if sharp:
            return warp.doubled(wide, deep, passing), warp.DOUBLED @ at
        return (warp.sharpened(wide, deep) if cubic else wide), at

    def _outside(self, plane: int) -> int:
        """How many pixels beyond the edges of a plane its views look at the most."""
        rows, columns = self._frame.planes[plane].shape
        width, height = self._frame.format.plane_size(plane, self._plan.size)
        corners = np.array([[0, 0, 1], [width, 0, 1], [0, height, 1], [width, height, 1.0]]).T
        far, mine = 0.0, self.of(plane)
        for view in range(len(mine.weights)):
            if mine.bent:
                # the grid reaches beyond the picture; its places are told in nominal luma pixels
                step = self._frame.format.plane_step(plane)
                x, y = (mine.grids[view][..., k] * (self._scale[k] / step[k]) for k in range(2))
            else:
                mapped = self.place(plane, view) @ corners
                x, y = (mapped[:, k] / np.maximum(mapped[:, 2], 1e-9) for k in range(2))
            far = max(far, -x.min(), x.max() - columns + 1, -y.min(), y.max() - rows + 1)
        return int(min(far, 1e5)) + 2

    def view(self, plane: int, view: int, ready: tuple[np.ndarray, np.ndarray]) -> np.ndarray:
        """One view of a plane from what :meth:`made` gave."""
        format = self._frame.format
        size = format.plane_size(plane, self._plan.size)
        heights = warp.heights(format, plane, size[1], self._plan.size[1])
        return warp.look(ready[0], self.place(plane, view, ready[1]), heights, size, border=self._border)

    def mean(self, plane: int) -> tuple[np.ndarray, float]:
        """A plane over the whole exposure, and by what it is still to be multiplied: float32, or of the plane's own
        dtype if there is one view of its own depth; values may be a little outside of the format."""
        total: np.ndarray | None = None
        weights = self.of(plane).weights
        even = max(weights) - min(weights) < 1e-9
        for group in self.of(plane).streaks:
            ready = self.made(plane, group, passing=True)
            for view in group.views:
                got = self.view(plane, view, ready)
                if len(weights) == 1:
                    return got, 1.0
                if got.dtype != np.float32:
                    got = got.astype(np.float32)
                if total is None:
                    total = got if even else cv2.multiply(got, weights[view], dst=got)
                elif even:
                    cv2.add(total, got, dst=total)
                else:
                    cv2.scaleAdd(got, weights[view], total, dst=total)
        assert total is not None
        return total, weights[0] if even else 1.0

    def coverage(self) -> np.ndarray | None:
        """How much of each luma pixel the picture covers over the exposure, 0…1; None where all are covered."""
        return soft.coverage(self._plan, self._plate, self._index, self._fine.exposure, self._frame)
