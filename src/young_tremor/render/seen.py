"""One plate of a frame made ready, and looked at at every moment of its exposure."""

from __future__ import annotations

import math
from copy import copy
from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np

from young_tremor.base.frames import Frame
from young_tremor.base.pixels import PixelFormat
from young_tremor.render import bend, streak, warp
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.shutter import SHORT, Exposure, matrices
from young_tremor.render.warp import Border, Place, is_identity, plane_matrix

LARGE = 20_000_000  # pixels of a plane from which the doubled one is kept in its own depth, a quarter of the memory


@dataclass(frozen=True)
class Window:
    """A part of the rendered frame, luma pixels: begins on whole places of the grid that bent pictures are told at."""

    left: int
    top: int
    width: int
    height: int

    @property
    def right(self) -> int:
        return self.left + self.width

    @property
    def bottom(self) -> int:
        return self.top + self.height

    def of(self, format: PixelFormat, plane: int) -> tuple[slice, slice]:
        """Its rows and columns of a plane of the frame."""
        across, down = format.plane_step(plane)
        return (
            slice(self.top // down, -(-self.bottom // down)), slice(self.left // across, -(-self.right // across))
        )  # fmt: skip

    def meets(self, other: Window) -> bool:
        """Whether two have a pixel in common."""
        return (
            self.left < other.right and other.left < self.right and self.top < other.bottom and other.top < self.bottom
        )

    def around(self, other: Window) -> Window:
        """The least that holds both."""
        left, top = min(self.left, other.left), min(self.top, other.top)
        return Window(left, top, max(self.right, other.right) - left, max(self.bottom, other.bottom) - top)


def whole_window(size: tuple[int, int]) -> Window:
    """All of a frame."""
    return Window(0, 0, *size)


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
    :meth:`coverage` says what is covered. ``window``: the part of the frame that is wanted.
    """

    def __init__(
        self, plan: Plan, plate: PlatePlan, index: int, frame: Frame, exposures: list[Exposure], border: Border,
        window: Window | None = None,
    ) -> None:  # fmt: skip
        self._plan, self._plate, self._index, self._frame = plan, plate, index, frame
        self._border: Border = "hold" if border in ("black", "soft") else border
        self._window = window or whole_window(plan.size)
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

    def within(self, window: Window) -> Seen:
        """The same in another part of the frame."""
        other = copy(self)
        other._window = window
        return other

    def of(self, plane: int) -> _Exposed:
        """The exposure of a plane."""
        return self._coarse if self._frame.format.chroma(plane) else self._fine

    def place(self, plane: int, view: int, at: np.ndarray | None = None) -> Place:
        """Where a view looks in a plane; ``at`` takes places of the plane to those of what was made of it."""
        format = self._frame.format
        at = np.eye(3) if at is None else at
        step, siting = format.plane_step(plane), format.plane_siting(plane)
        if not self._fine.bent:
            moved, here = self.of(plane).matrices[view], np.eye(3)
            here[0, 2], here[1, 2] = self._window.left // step[0], self._window.top // step[1]
            return np.stack([at @ plane_matrix(m, plane, format, format, self._scale) @ here for m in moved])
        to_plane = at @ plane_matrix(np.eye(3), plane, format, format, self._scale)
        to_plane = to_plane @ np.linalg.inv(np.array([[step[0], 0, siting[0]], [0, step[1], siting[1]], [0, 0, 1.0]]))
        return bend.plane_map(self.grid(plane, view), self.size(plane), step, siting, to_plane)

    def size(self, plane: int) -> tuple[int, int]:
        """(width, height) of what is made of a plane."""
        rows, columns = self._window.of(self._frame.format, plane)
        return columns.stop - columns.start, rows.stop - rows.start

    def grid(self, plane: int, view: int) -> np.ndarray:
        """The places of a bent view that lie about the window."""
        grid, (left, top) = self.of(plane).grids[view], (self._window.left, self._window.top)
        down, across = (-(-each // bend.GRID) + 2 for each in (self._window.height, self._window.width))
        return grid[top // bend.GRID :, left // bend.GRID :][:down, :across]

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
        return all(is_identity(m - gone, self.size(plane)) for m in place)

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
        if not cubic and group.still and (one or mine.same):
            return given, np.eye(3)
        pad = warp.ROOM if group.still else warp.ROOM + streak.reach(group, scale)
        wide, origin = self._with_room(plane, pad)
        deep = not one and wide.size <= LARGE
        if not group.still:
            wide = streak.drawn(wide, origin, given.shape[::-1], group, scale, deep)
        at = np.array([[1, 0, -origin[0]], [0, 1, -origin[1]], [0, 0, 1.0]])
        if sharp:
            return warp.doubled(wide, deep, passing), warp.DOUBLED @ at
        return (warp.sharpened(wide, deep) if cubic else wide), at

    def _with_room(self, plane: int, pad: int) -> tuple[np.ndarray, tuple[int, int]]:
        """The part of a plane that the views read with ``pad`` pixels of room about it, and where its first pixel lies
        in the plane."""
        given = self._frame.planes[plane]
        rows, columns = given.shape
        low, high = self._reads(plane)
        beyond = max(-low[0], -low[1], high[0] - columns + 1, high[1] - rows + 1, 0)
        if self._border != "hold":
            pad = max(pad, min(int(min(beyond, 1e5)) + 2 + pad, min(given.shape) - 1))
        begin, end = [0, 0], [columns, rows]
        if self._border == "hold" or beyond <= 0:
            begin = [min(max(math.floor(low[k]) - pad - 1, 0), (columns, rows)[k] - 1) for k in range(2)]
            end = [max(min(math.ceil(high[k]) + pad + 2, (columns, rows)[k]), begin[k] + 1) for k in range(2)]
        left, top = (pad if begin[k] == 0 else 0 for k in range(2))
        right, bottom = (pad if end[k] == (columns, rows)[k] else 0 for k in range(2))
        part = given[begin[1] : end[1], begin[0] : end[0]]
        wide = cv2.copyMakeBorder(part, top, bottom, left, right, warp.BORDERS[self._border])
        return wide, (begin[0] - left, begin[1] - top)

    def _reads(self, plane: int) -> tuple[np.ndarray, np.ndarray]:
        """The least and the most that the views look at in a plane, across and down: (2,) pixels each."""
        width, height = self.size(plane)
        corners = np.array([[0, 0, 1], [width, 0, 1], [0, height, 1], [width, height, 1.0]]).T
        mine, low, high = self.of(plane), np.full(2, np.inf), np.full(2, -np.inf)
        for view in range(len(mine.weights)):
            if mine.bent:
                # the grid reaches beyond the picture; its places are told in nominal luma pixels
                step = self._frame.format.plane_step(plane)
                grid = self.grid(plane, view)
                lines = [grid[..., k] * (self._scale[k] / step[k]) for k in range(2)]
            else:
                mapped = self.place(plane, view) @ corners
                lines = [mapped[:, k] / np.maximum(mapped[:, 2], 1e-9) for k in range(2)]
            low = np.minimum(low, [float(each.min()) for each in lines])
            high = np.maximum(high, [float(each.max()) for each in lines])
        return np.clip(low, -1e6, 1e6), np.clip(high, -1e6, 1e6)

    def view(self, plane: int, view: int, ready: tuple[np.ndarray, np.ndarray]) -> np.ndarray:
        """One view of a plane from what :meth:`made` gave."""
        format = self._frame.format
        rows = self._window.of(format, plane)[0]
        lines = warp.heights(format, plane, rows.stop, self._plan.size[1])[rows]
        return warp.look(ready[0], self.place(plane, view, ready[1]), lines, self.size(plane), border=self._border)
