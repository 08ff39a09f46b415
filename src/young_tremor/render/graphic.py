"""A picture with alpha in a frame: made ready once, cut to what is not empty of it, and looked at moment by moment."""

from __future__ import annotations

import math
from dataclasses import replace as change

import cv2
import numpy as np
from msgspec.structs import replace

from young_tremor.base.frames import Frame
from young_tremor.base.pixels import ColourTags, PixelFormat
from young_tremor.model.shake import Shake, Shimmer
from young_tremor.render import bend, shutter, streak, warp
from young_tremor.render.pictures import pixels_apart
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.prepared import ready
from young_tremor.render.seen import Window, whole_window
from young_tremor.render.shutter import Exposure
from young_tremor.render.streak import Streaks

SMALL = 250_000  # pixels of a picture below which it is looked at more often instead of being drawn out
NEAR = 1.07  # pixels of its way between looks then
MOST_LOOKS = 12  # to a view
DENSE, STEPS = 1.2, 24  # pixels to a rendered one from which a picture is made smaller first; shares come in steps
BESIDE = 31  # pixels about a place from which colours go on beyond an outline
EDGE = 2  # pixels that kernels reach beyond a picture
ALIGNED = bend.GRID


class Graphic:
    """A picture with alpha, or one piece of it, in a frame."""

    def __init__(
        self, plan: Plan, plate: PlatePlan, index: int, frame: Frame, seen: Exposure, format: PixelFormat,
        tags: ColourTags, window: Window | None = None,
    ) -> None:  # fmt: skip
        self._of, self._exposure = (plan, plate, index), seen
        whole, nominal = frame.whole, plate.source.size
        apart = pixels_apart(plan, plate, index) * max(whole[0] / nominal[0], whole[1] / nominal[1])
        share = 1.0 if apart < DENSE else math.ceil(STEPS / apart) / STEPS
        self._scale = (share * whole[0] / nominal[0], share * whole[1] / nominal[1])
        self._whole = (round(whole[0] * share), round(whole[1] * share))
        self.bent = bend.bent(plan, plate)
        self._middle = shutter.moments(plan, index, plate, seen.times, seen.shifts)
        self._rests = not self.bent and self._unmoved()
        self._cubic = plan.kernel == "cubic" and not (self._rests and self._pixelwise())
        self._ready = ready(
            frame, format, tags, premultiplied=plate.source.alpha == "premultiplied",
            times=0 if not self._cubic else 2 if self._rests or seen.sharp else 1, shrunk=share,
        )  # fmt: skip
        self._grids: list[np.ndarray] | None = None
        self._drawn: dict[int, tuple[np.ndarray, np.ndarray]] = {}
        self._kept: tuple[int, np.ndarray] | None = None
        self._looks = self._close()
        self.window = self._window() if window is None or self._ready is None else window
        self._streaks = self._drawn_out()

    def _unmoved(self) -> bool:
        """Whether it stays where it is through the whole exposure."""
        every = (
            np.concatenate([self._middle, ends(*self._of, self._exposure)]) if self._exposure.spread else self._middle
        )
        return bool(np.abs(every - self._middle[0]).max() < 1e-9)

    def _pixelwise(self) -> bool:
        """Whether every view takes each pixel of the picture whole to another."""
        for each in (self._to_raster() @ self._middle).reshape(-1, 3, 3):
            gone = np.array([[0, 0, 1], [0, 0, 1], [0, 0, 0.0]]) * np.rint(each)
            if not warp.is_identity(each - gone, self._of[0].size, 1e-4):
                return False
        return True

    @property
    def same(self) -> bool:
        """Whether all views show the same."""
        return self._rests

    def _close(self) -> tuple[np.ndarray, list[range]]:
        """Where it looks: matrices (n, k, 3, 3), and which of them make up each view: several where a small picture is
        looked at more often instead of being drawn out."""
        plan, plate, index = self._of
        seen, count = self._exposure, len(self._exposure.times)
        self._small = (
            seen.spread and not self._rests and self._ready is not None and self._ready.packed[..., 0].size <= SMALL
        )
        if self.bent or not self._small:
            return self._middle, [range(k, k + 1) for k in range(count)]
        each = math.ceil(seen.path / NEAR / max(seen.smeared, 1)) if seen.path else 1
        each = min(max(each, 1), MOST_LOOKS)
        times: list[float] = []
        shifts: list[list[float]] = []
        views: list[range] = []
        share = (np.arange(each) + 0.5) / each
        for k in range(count):
            first, last = seen.within[k, 0], seen.within[k, -1]
            at = seen.times[k] + (first + share * (last - first) - seen.times[k]) / (1 + seen.ramp)
            smear = seen.smear[np.minimum((share * len(seen.smear)).astype(int), len(seen.smear) - 1)]
            smear = smear if k < seen.smeared else np.zeros((each, 2))
            views.append(range(len(times), len(times) + each))
            times += at.tolist()
            shifts += (seen.shifts[k] + smear).tolist()
        return shutter.moments(plan, index, plate, np.array(times), np.array(shifts)), views

    def _window(self) -> Window | None:
        """The part of the frame that it touches in any view; None if none."""
        if self._ready is None:
            return None
        plan = self._of[0]
        rows, columns = self._ready.packed.shape[:2]
        low = np.array(self._ready.origin, float) - EDGE
        high = low + (columns + 2 * EDGE, rows + 2 * EDGE) - 1
        if self.bent:
            return self._bent_window(low, high)
        back = self._to_raster() @ self._looks[0].reshape(-1, 3, 3)
        if self._exposure.spread and not self._small:
            back = np.concatenate([back, self._to_raster() @ ends(*self._of, self._exposure).reshape(-1, 3, 3)])
        return touched(back, low, high, plan.size)

    def _bent_window(self, low: np.ndarray, high: np.ndarray) -> Window | None:
        plan = self._of[0]
        shown: np.ndarray | None = None
        margin = bend.GRID * max(self._scale)
        for grid in self._all_grids():
            x, y = ((grid[..., k] + 0.5) * self._scale[k] - 0.5 for k in range(2))
            near = (x > low[0] - margin) & (x < high[0] + margin) & (y > low[1] - margin) & (y < high[1] + margin)
            shown = near if shown is None else shown | near
        assert shown is not None
        if not shown.any():
            return None
        rows, columns = np.flatnonzero(shown.any(axis=1)), np.flatnonzero(shown.any(axis=0))
        room = 2 + math.ceil(self._exposure.path / bend.GRID)
        return _aligned(
            (columns[0] - room) * bend.GRID, (rows[0] - room) * bend.GRID, (columns[-1] + room) * bend.GRID,
            (rows[-1] + room) * bend.GRID, plan.size,
        )  # fmt: skip

    def _all_grids(self) -> list[np.ndarray]:
        if self._grids is None:
            seen = self._exposure
            near = seen.path < shutter.SHORT and len(seen.times) == seen.smeared and not seen.spread
            self._grids = bend.grids(*self._of, seen.times, seen.shifts, near)
        return self._grids

    def _to_raster(self) -> np.ndarray:
        """Nominal source pixels to pixels of the picture that was made."""
        kx, ky = self._scale
        return np.array([[kx, 0, 0.5 * kx - 0.5], [0, ky, 0.5 * ky - 0.5], [0, 0, 1.0]])

    def _drawn_out(self) -> list[Streaks]:
        seen = self._exposure
        if not seen.spread or self._rests or self._small or self.window is None:
            whole = np.array([0.0, 1.0])
            return [Streaks(range(len(seen.times)), whole, whole, np.zeros((1, 2, 2)), np.zeros((1, 2)))]
        return streak.streaks(*self._of, seen)

    def _prepared(self, view: int) -> tuple[np.ndarray, np.ndarray]:
        """The picture as a view reads it, and what takes places of the whole picture to places of it."""
        assert self._ready is not None
        number = next(n for n, group in enumerate(self._streaks) if view in group.views)
        if number not in self._drawn:
            group, packed, origin = self._streaks[number], self._ready.packed, self._ready.origin
            if group.still and self._ready.sharp is not None:
                at = _moved((origin[0] - warp.ROOM, origin[1] - warp.ROOM))
                self._drawn = {
                    number: (self._ready.sharp, (warp.DOUBLED if self._ready.times == 2 else np.eye(3)) @ at)
                }
            elif group.still and not self._cubic:
                self._drawn = {number: (packed, _moved(origin))}
            else:
                pad = warp.ROOM + (0 if group.still else streak.reach(group, self._scale))
                wide = cv2.copyMakeBorder(packed, pad, pad, pad, pad, cv2.BORDER_CONSTANT, value=0)
                begin = (origin[0] - pad, origin[1] - pad)
                if not group.still:
                    wide = streak.drawn(wide, begin, self._whole, group, self._scale, True)
                self._drawn = {number: (warp.sharpened(wide) if self._cubic else wide, _moved(begin))}
        return self._drawn[number]

    def view(self, k: int) -> np.ndarray:
        """What is seen of it at one moment, in its window: (height, width, 4) float32, packed."""
        if self._kept is not None and (self._kept[0] == k or self.same):
            return self._kept[1]
        window, (picture, at) = self.window, self._prepared(k)
        assert window is not None
        format_rows = self._of[0].size[1]
        lines = (np.arange(window.top, window.bottom) / max(format_rows - 1, 1)) - 0.5
        size = (window.width, window.height)
        total: np.ndarray | None = None
        at = at @ self._to_raster()
        if self.bent:
            grid = self._all_grids()[k][window.top // bend.GRID :, window.left // bend.GRID :]
            grid = grid[: -(-size[1] // bend.GRID) + 2, : -(-size[0] // bend.GRID) + 2]
            total = warp.look(picture, bend.plane_map(grid, size, (1, 1), (0.0, 0.0), at), lines, size, border="black")
        else:
            here = _moved((-window.left, -window.top))
            views = self._looks[1][k]
            for number in views:
                place = at @ self._looks[0][number] @ here
                got = warp.look(picture, place, lines, size, border="black")
                total = got if total is None else np.add(total, got, out=total)
            if len(views) > 1:
                total = np.asarray(total) * np.float32(1.0 / len(views))
        assert total is not None
        self._kept = k, total
        return total


def ends(plan: Plan, plate: PlatePlan, index: int, seen: Exposure) -> np.ndarray:
    """Where a plate looks at the ends of its views: matrices (n, k, 3, 3) as of :func:`shutter.moments`."""
    times = seen.within[:, [0, -1]].T.ravel()
    shifts = np.tile(seen.shifts, (2, 1))
    spans = (seen.smear.min(axis=0), seen.smear.max(axis=0)) if seen.smear.any() else (np.zeros(2),)
    return np.concatenate([shutter.moments(plan, index, plate, times, shifts + span) for span in spans])


def touched(back: np.ndarray, low: np.ndarray, high: np.ndarray, size: tuple[int, int]) -> Window | None:
    """The part of a frame of ``size`` in which views by matrices (n, 3, 3), rendered pixel → pixel of a picture, show
    the rectangle of it from ``low`` to ``high`` (2,); None if none does."""
    corners = np.array([[x, y, 1.0] for x in (low[0], high[0]) for y in (low[1], high[1])])
    try:
        mapped = np.linalg.inv(back) @ corners.T
    except np.linalg.LinAlgError:
        return None  # it has no size
    depth = mapped[:, 2]
    if not (depth > 1e-9).all() and not (depth < -1e-9).all():
        return whole_window(size)
    x, y = mapped[:, 0] / depth, mapped[:, 1] / depth
    return _aligned(x.min() - 1, y.min() - 1, x.max() + 1, y.max() + 1, size)


def _moved(by: tuple[int, int]) -> np.ndarray:
    return np.array([[1, 0, -by[0]], [0, 1, -by[1]], [0, 0, 1.0]])


def _aligned(left: float, top: float, right: float, bottom: float, size: tuple[int, int]) -> Window | None:
    """The least window of whole grid places that holds a rectangle, inside of a frame; None if that is outside."""
    left, top = max(math.floor(left / ALIGNED) * ALIGNED, 0), max(math.floor(top / ALIGNED) * ALIGNED, 0)
    right = min(math.ceil((right + 1) / ALIGNED) * ALIGNED, size[0])
    bottom = min(math.ceil((bottom + 1) / ALIGNED) * ALIGNED, size[1])
    if right <= left or bottom <= top:
        return None
    return Window(int(left), int(top), int(right - left), int(bottom - top))


class Matted:
    """A picture with alpha whose outline shimmers while its colours do not: the alpha of one look, the colours of
    another, which go on beyond their own outline as they are beside it."""

    same = False

    def __init__(self, outline: Graphic, colours: Graphic) -> None:
        self.window = outline.window
        self._outline, self._colours = outline, colours

    def view(self, k: int) -> np.ndarray:
        """What is seen of it at one moment, in its window: (height, width, 4) float32, packed."""
        alpha, plain = self._outline.view(k)[..., 3:], self._colours.view(k)
        near = cv2.blur(plain, (BESIDE, BESIDE), borderType=cv2.BORDER_CONSTANT)
        mixed = plain + near * np.float32(1e-3)
        made = mixed / np.maximum(mixed[..., 3:], 1e-6) * alpha
        made[..., 3:] = alpha
        return np.asarray(made)


def matted(plate: PlatePlan) -> PlatePlan | None:
    """A plate without what shimmers its outline alone; None where nothing does."""

    def plain(shake: Shake) -> Shake:
        kept = tuple(replace(s, on=False) if isinstance(s, Shimmer) and s.matte else s for s in shake.strands)
        return replace(shake, strands=kept)

    shot, mine = plate.shot, plate.plate
    if not any(isinstance(s, Shimmer) and s.matte and s.on for sway in plate.sways for s in sway.shake.strands):
        return None
    bare = replace(mine, shake=plain(mine.shake) if mine.shake is not None else None)
    others = tuple(bare if each is mine else each for each in shot.plates)
    return change(plate, plate=bare, shot=replace(shot, shake=plain(shot.shake), plates=others))
