"""A picture with alpha in a frame: made ready once, cut to what is not empty of it, and looked at moment by moment."""

from __future__ import annotations

import math
from dataclasses import replace as replaced
from functools import cached_property, reduce

import cv2
import numpy as np

from young_tremor import kernels
from young_tremor.base.frames import Frame
from young_tremor.kernels import Lattice
from young_tremor.render import displacement, lattices, shutter
from young_tremor.render.composite_samples import SampleFormat
from young_tremor.render.exposure_views import ExposureViews
from young_tremor.render.frame_windows import EDGE, Window, aligned_window, touched_by_each, touched_window
from young_tremor.render.lattices import BENT, NODE
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.plate_pixels import pixels_apart
from young_tremor.render.prepared_cache import prepare

DENSE, STEPS = 1.2, 24  # pixels to a rendered one from which a picture is made smaller first; shares come in steps
BESIDE = 31  # pixels about a place from which colours go on beyond an outline


class AlphaPlate:
    """A picture with alpha, or one piece of it, in a frame."""

    def __init__(
        self,
        plan: Plan,
        plate: PlatePlan,
        index: int,
        frame: Frame,
        views: ExposureViews,
        flight: SampleFormat,
        window: Window | None = None,
    ) -> None:
        self._of, self._views, self._flight, self.frame = (plan, plate, index), views, flight, frame
        share, self._scale = _shrunk(plan, plate, index, frame)
        self._bent = displacement.is_bent(plan, plate)
        self._places = shutter.moments(plan, index, plate, views.times, views.shifts)
        self.same = not self._bent and bool(np.abs(self._places - self._places[0]).max() < 1e-9)
        self._prepared = prepare(frame, flight, premultiplied=plate.source.alpha == "premultiplied", shrunk=share)
        self._kept: tuple[int, list[np.ndarray]] | None = None
        self.window = self._window() if window is None or self._prepared is None else window

    def matted(self) -> MattedPlate | None:
        """The same where something moves its outline alone; None where nothing does."""
        plan, plate, index = self._of
        moved = plate.with_outline_motion if plan.shaken else None
        if moved is None:
            return None
        outline = AlphaPlate(plan, moved, index, self.frame, self._views, self._flight)
        colours = AlphaPlate(plan, plate, index, self.frame, self._views, self._flight, outline.window)
        return MattedPlate(outline, colours, self._flight)

    def _to_raster(self) -> np.ndarray:
        """Nominal source pixels to pixels of the picture that was made ready."""
        assert self._prepared is not None
        return _raster(self._scale, self._prepared.origin)

    def _window(self) -> Window | None:
        """The part of the frame that it touches in any view; None if none."""
        if self._prepared is None:
            return None
        plan = self._of[0]
        rows, columns = self._prepared.planes[0].shape
        low, high = np.full(2, -float(EDGE)), np.array([columns, rows]) - 1.0 + EDGE
        if not self._bent:
            return touched_window(self._to_raster() @ self._places.reshape(-1, 3, 3), low, high, plan.size)
        whole = self._whole
        left, top = whole.left, whole.top
        x, y = np.moveaxis(whole.nodes, -1, 0)
        margin = 1.5 * BENT * max(self._scale)
        near = (x > low[0] - margin) & (x < high[0] + margin) & (y > low[1] - margin) & (y < high[1] + margin)
        shown = near.any(axis=0)
        if not shown.any():
            return None
        rows_, columns_ = np.flatnonzero(shown.any(axis=1)), np.flatnonzero(shown.any(axis=0))
        # it begins at nodes, so that its places are cut out of those of the whole frame
        return aligned_window(
            (left + (columns_[0] - 1) * BENT) // NODE * NODE,
            (top + (rows_[0] - 1) * BENT) // NODE * NODE,
            left + (columns_[-1] + 1) * BENT,
            top + (rows_[-1] + 1) * BENT,
            plan.size,
        )

    @property
    def standing(self) -> tuple[bytes, bool]:
        """What tells its first view from others of the same picture in the same window."""
        return self._look(slice(0, 1)).nodes.tobytes(), self._of[1].source.alpha == "premultiplied"

    def pieces(self, opacity: float) -> list[kernels.KernelPiece]:
        """What is laid of it, with all its views."""
        assert self.window is not None
        assert self._prepared is not None
        return [kernels.KernelPiece(self._prepared.planes, self._look(slice(None)), self.window, opacity)]

    def _look(self, views: slice) -> Lattice:
        """Where views look in its window."""
        plan, window = self._of[0], self.window
        assert window is not None
        size, to_raster = (window.width, window.height), self._to_raster()
        if not self._bent:
            here = np.array([[1.0, 0, window.left], [0, 1.0, window.top], [0, 0, 1.0]])
            tall = max(plan.size[1] - 1, 1)
            heights = window.top / tall - 0.5, 1.0 / tall
            return lattices.of_matrices(to_raster @ self._places[views] @ here, heights, size, (0, 0))
        part = lattices.cut_lattice(self._whole, window, (0, 0))
        return replaced(part, nodes=part.nodes[views])

    @cached_property
    def _whole(self) -> Lattice:
        """Where all views look in the picture that was made ready, over the whole frame, where no matrix says it."""
        lattice = lattices.of_displacement(*self._of, (self._views.times, self._views.shifts), (0, 0))
        to_raster = self._to_raster()
        return replaced(lattice, nodes=lattice.nodes @ to_raster[:2, :2].T + to_raster[:2, 2])

    def view(self, k: int) -> list[np.ndarray]:
        """What is seen of it at one moment, in its window: its colour planes and alpha, all at the luma's places and in
        flight."""
        if self._kept is not None and (self._kept[0] == k or self.same):
            return self._kept[1]
        window = self.window
        assert window is not None
        assert self._prepared is not None
        size, lattice = (window.width, window.height), self._look(slice(k, k + 1))
        request = kernels.one_view(self._prepared.planes[0], lattice, size, self._flight.format.depth, "empty")
        planes = kernels.mean_alike(request, self._prepared.planes)
        one = self._flight.dtype.type(1 if self._flight.real else kernels.ONE)
        planes[-1] = np.clip(planes[-1], self._flight.dtype.type(0), one)
        self._kept = k, planes
        return planes


def _shrunk(plan: Plan, plate: PlatePlan, index: int, frame: Frame) -> tuple[float, tuple[float, float]]:
    """To which share of its size a picture is made smaller first, and its pixels then to a nominal one of its source,
    across and down."""
    whole, nominal = frame.whole, plate.source.size
    apart = pixels_apart(plan, plate, index) * max(whole[0] / nominal[0], whole[1] / nominal[1])
    share = 1.0 if apart < DENSE else math.ceil(STEPS / apart) / STEPS
    return share, (share * whole[0] / nominal[0], share * whole[1] / nominal[1])


def _raster(scale: tuple[float, float], origin: tuple[int, int]) -> np.ndarray:
    """Nominal source pixels to pixels of a picture that begins at ``origin``."""
    (kx, ky), (left, top) = scale, origin
    return np.array([[kx, 0, 0.5 * kx - 0.5 - left], [0, ky, 0.5 * ky - 0.5 - top], [0, 0, 1.0]])


class PlateInPieces:
    """A picture with alpha whose pieces go their own ways, by matrices: all of them at once, one over the other."""

    def __init__(
        self, plan: Plan, plate: PlatePlan, index: int, frame: Frame, views: ExposureViews, flight: SampleFormat
    ) -> None:
        share, scale = _shrunk(plan, plate, index, frame.pieces[0])
        premultiplied = plate.source.alpha == "premultiplied"
        ready = [prepare(piece, flight, premultiplied=premultiplied, shrunk=share) for piece in frame.pieces]
        places = shutter.moments_of_parts(plan, index, plate, plate.pieces(frame), views.times, views.shifts)
        self.same = bool(np.abs(places - places[:, :1]).max() < 1e-9)
        filled = [n for n, picture in enumerate(ready) if picture is not None]
        pictures = [picture for picture in ready if picture is not None]
        windows: list[Window | None] = []
        if pictures:
            rasters = np.stack([_raster(scale, picture.origin) for picture in pictures])
            places = rasters[:, None, None] @ places[filled]
            high = np.array([picture.planes[0].shape[::-1] for picture in pictures]) - 1.0 + EDGE
            low, flat = np.full(high.shape, -float(EDGE)), places.reshape(len(pictures), -1, 3, 3)
            windows = touched_by_each(flat, low, high, plan.size)
        self._plan, self._places = plan, places
        self._shown = [
            (n, picture, window)
            for n, (picture, window) in enumerate(zip(pictures, windows, strict=True))
            if window is not None
        ]
        self.window = reduce(Window.around, [window for _, _, window in self._shown]) if self._shown else None

    def pieces(self, opacity: float) -> list[kernels.KernelPiece]:
        """What is laid of it, with all its views."""
        windows = [window for _, _, window in self._shown]
        here = np.stack([np.array([[1.0, 0, w.left], [0, 1.0, w.top], [0, 0, 1.0]]) for w in windows])
        matrices = self._places[[n for n, _, _ in self._shown]] @ here[:, None, None]
        tall = max(self._plan.size[1] - 1, 1)
        if matrices.shape[2] == 1:
            size = max(w.width for w in windows), max(w.height for w in windows)
            every = lattices.of_matrices(matrices.reshape(-1, 1, 3, 3), (0.0, 0.0), size, (0, 0))
            nodes = every.nodes.reshape(len(windows), -1, *every.nodes.shape[1:])
            looks = [replaced(every, nodes=part) for part in nodes]
        else:
            looks = [
                lattices.of_matrices(part, (w.top / tall - 0.5, 1.0 / tall), (w.width, w.height), (0, 0))
                for part, w in zip(matrices, windows, strict=True)
            ]
        return [
            kernels.KernelPiece(picture.planes, look, window, opacity)
            for (_, picture, window), look in zip(self._shown, looks, strict=True)
        ]


def plates_of_pieces(
    plan: Plan, plate: PlatePlan, index: int, frame: Frame, views: ExposureViews, flight: SampleFormat
) -> list[AlphaPlate] | list[PlateInPieces]:
    """A picture in pieces, in a frame: all of them at once, or each by itself where no matrix says how it moves."""
    if not displacement.is_bent(plan, plate) and (not plan.shaken or plate.with_outline_motion is None):
        return [PlateInPieces(plan, plate, index, frame, views, flight)]
    parts = zip(plate.pieces(frame), frame.pieces, strict=True)
    return [AlphaPlate(plan, part, index, piece, views, flight) for part, piece in parts]


class MattedPlate:
    """A picture with alpha whose outline moves while its colours do not: the alpha of one look, the colours of
    another, which go on beyond their own outline as they are beside it."""

    same = False

    def __init__(self, outline: AlphaPlate, colours: AlphaPlate, flight: SampleFormat) -> None:
        self.window = outline.window
        self._outline, self._colours, self._flight = outline, colours, flight

    def view(self, k: int) -> list[np.ndarray]:
        """As :meth:`AlphaPlate.view`."""
        flight = self._flight
        alpha, plain = self._outline.view(k)[-1], self._colours.view(k)
        packed = cv2.merge([*map(flight.to_code, plain[:-1]), flight.to_cover(plain[-1])])
        near = cv2.blur(packed, (BESIDE, BESIDE), borderType=cv2.BORDER_CONSTANT)
        mixed = packed + near * np.float32(1e-3)
        made = mixed / np.maximum(mixed[..., -1:], 1e-6) * flight.to_cover(alpha)[..., None]
        return [*(flight.from_code(np.ascontiguousarray(made[..., n])) for n in range(len(plain) - 1)), alpha]
