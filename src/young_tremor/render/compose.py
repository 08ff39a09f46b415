"""Plates laid over each other: premultiplied, view by view, in the planes, depth and colours of the lowest one.

Every view of a frame (each moment of its exposure) is composited by itself and the results are averaged, so that the
blurred edge of one plate mixes with what is behind it at each moment. That is done where something lies over the lowest
plate; the rest of a frame is that plate's alone.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property, partial

import cv2
import numpy as np

from young_tremor import kernels
from young_tremor.base import colour
from young_tremor.base.frames import Frame, with_alpha_plane
from young_tremor.base.pixels import ColourTags, PixelFormat, levels, planar_format, with_alpha
from young_tremor.model.edge_modes import Border
from young_tremor.model.project import Blend
from young_tremor.render import linear_light
from young_tremor.render.alpha_plate import AlphaPlate, MattedPlate, PlateInPieces, plates_of_pieces
from young_tremor.render.composite_samples import SampleFormat, downsample_chroma
from young_tremor.render.exposure_views import ExposureViews
from young_tremor.render.frame_cache import FrameCache
from young_tremor.render.frame_windows import Window, coarse_window, whole_window
from young_tremor.render.opaque_plate import OpaquePlate, window_of
from young_tremor.render.plan import SHOWN, Plan, PlatePlan
from young_tremor.render.plate_view import PlateView

MOST = 0.6  # share of the frame from which all of it is composited
KEEP = 32 << 20  # bytes of graphics on the glass that are kept as they are seen
SOFT = 0.2  # pixels of blur below which a knock out of focus is not seen


@dataclass
class Canvas:
    """A composite under way, or one plate's part of it: colour planes and ``alpha`` (rows, columns) in flight (see
    :class:`SampleFormat`); alpha None: opaque."""

    planes: list[np.ndarray]
    alpha: np.ndarray | None
    small: np.ndarray | None = None  # alpha at the places of chroma, where it is known

    @property
    def nbytes(self) -> int:
        """Bytes of all planes."""
        return sum(plane.nbytes for plane in (*self.planes, self.alpha, self.small) if plane is not None)


_on_glass: FrameCache[Canvas] = FrameCache(KEEP)


@dataclass(frozen=True)
class Ground:
    """What lies under everything: the lowest plate and its picture, or None: nothing, black. ``frame``: how it looks
    alone, unless nothing of it is seen so."""

    frame: Frame | None = None
    plate: PlatePlan | None = None
    given: Frame | None = None


@dataclass(frozen=True)
class _LaidPlate:
    """One plate, or a piece of it, that touches the frame: ``picture`` is where it does."""

    plate: PlatePlan
    window: Window
    picture: AlphaPlate | PlateInPieces | MattedPlate | OpaquePlate
    opacity: float


@dataclass(frozen=True)
class Composite:
    """The plates of a frame, ready to be laid over each other.

    ``flight``: how its samples are worked on. ``views``: the moments that all share. ``laid``: bottom to top, without
    those that do not reach the frame.
    """

    plan: Plan
    index: int
    views: ExposureViews
    flight: SampleFormat
    laid: list[_LaidPlate] = field(default_factory=list)

    @property
    def format(self) -> PixelFormat:
        """The format of the composite."""
        return self.flight.format

    @property
    def tags(self) -> ColourTags:
        """The colour tags of the composite."""
        return self.flight.tags


def composite(
    plan: Plan,
    index: int,
    upper: list[tuple[PlatePlan, Frame]],
    views: ExposureViews,
    format: PixelFormat,
    tags: ColourTags,
) -> Composite:
    """Make plates ready that lie over the ground, bottom to top."""
    flight = SampleFormat(format, tags)
    out = Composite(plan, index, views, flight)
    for plate, frame in upper:
        opacity = plate.opacity(plan.time(index))
        if not frame.format.alpha and not frame.pieces:
            window = window_of(plan, plate, index, frame, views)
            if window is not None:
                border: Border = plan.border if plate is plan.base else "black"
                opaque = OpaquePlate(plan, plate, index, frame, views, flight, border).within(window)
                out.laid.append(_LaidPlate(plate, window, opaque, opacity))
            continue
        graphics: list[AlphaPlate] | list[PlateInPieces]
        if frame.pieces:
            graphics = plates_of_pieces(plan, plate, index, frame, views, flight)
        else:
            graphics = [AlphaPlate(plan, plate, index, frame, views, flight)]
        for graphic in graphics:
            laid = (graphic.matted() if isinstance(graphic, AlphaPlate) else None) or graphic
            if laid.window is not None:
                out.laid.append(_LaidPlate(plate, laid.window, laid, opacity))
    return out


def as_it_is(made: Composite, upper: list[tuple[PlatePlan, Frame]]) -> Frame | None:
    """The frame of the only plate itself, where the result holds alpha as it does and nothing moves it."""
    plan = made.plan
    if len(upper) != 1 or plan.alpha is None:
        return None
    plate, frame = upper[0]
    alike = frame.format == plan.alpha and plate.source.alpha == "straight" and not frame.pieces and frame.of is None
    if not alike or plate.opacity(plan.time(made.index)) < 1:
        return None
    whole = PlateView(plan, plate, made.index, frame, [made.views], "black")
    return frame if whole.untouched(0) and plan.softness(made.index) < SOFT else None


def render_composite(made: Composite, ground: Ground) -> Frame:
    """The composite over the ground. With ``plan.alpha`` it holds how much of each pixel is covered, its colours
    straight; otherwise it lies over black. Where nothing lies over it the ground is as it was."""
    plan, format, tags = made.plan, made.format, made.tags
    black = made.flight.zero
    if ground.frame is not None:
        planes = [plane.copy() for plane in ground.frame.planes]
    else:
        sizes = [format.plane_size(k, plan.size)[::-1] for k in range(format.colours)]
        values = [format.rounded(np.array(b + k)) for b, k in zip(black, _behind(made), strict=True)]
        planes = [np.full(size, value, format.dtype) for size, value in zip(sizes, values, strict=True)]
        if plan.alpha is not None:
            planes.append(np.zeros(plan.size[::-1], format.dtype))
    under = None
    if ground.given is not None and ground.plate is not None:
        under = OpaquePlate(plan, ground.plate, made.index, ground.given, made.views, made.flight, plan.border)
    for window in _windows(made):
        done = _average_views(made, under.within(window) if under else None, window)
        for number, plane in enumerate(_to_planes(done, made, plan.alpha is not None, window)):
            planes[number][window.of(format, min(number, 3) if number < format.colours else 0)] = plane
    if plan.alpha is None:
        return Frame(tuple(planes), format, tags)
    held = with_alpha(format)
    frame = with_alpha_plane(Frame(tuple(planes[:-1]), format, tags), planes[-1], held)
    return colour.convert(frame, plan.alpha, tags) if held != plan.alpha else frame


def stands_still(composed: Composite) -> bool:
    """Whether nothing that lies over the ground moves in the frame's exposure, so that it can be laid over the finished
    ground at once: a mean of views under it is the same as a view of their mean."""
    plan = composed.plan
    mixes = plan.alpha is None and not plan.shot.frame.linear and plan.softness(composed.index) < SOFT
    return mixes and all(laid.picture.same and laid.plate.plate.blend == "normal" for laid in composed.laid)


def lay_at_once(composed: Composite, ground: Frame) -> Frame:
    """What :func:`stands_still`, over the ground as it looks alone."""
    flight, planes = composed.flight, [plane.copy() for plane in ground.planes]
    for window in _windows(composed):
        parts = [window.of(composed.format, number) for number in range(composed.format.colours)]
        pairs = zip(planes, parts, strict=True)
        canvas = Canvas([flight.of_plane(plane[part], number) for number, (plane, part) in enumerate(pairs)], None)
        for run in _runs([laid for laid in composed.laid if laid.window.meets(window)], flight):
            _lay(canvas, run, 0, composed, window)
        for number, (plane, part) in enumerate(zip(planes, parts, strict=True)):
            plane[part] = flight.rounded(canvas.planes[number], number, None)
    return Frame(tuple(planes), composed.format, composed.tags)


def _windows(made: Composite) -> list[Window]:
    """Parts of the frame that have something over the ground, none of which meet."""
    whole = whole_window(made.plan.size)
    if made.plan.softness(made.index) >= SOFT and made.laid:
        return [whole]
    out: list[Window] = []
    for laid in made.laid:
        window = coarse_window(laid.window, made.plan.size)
        while (other_window := next((o for o in out if o.meets(window)), None)) is not None:
            out.remove(other_window)
            window = window.around(other_window)
        out.append(window)
    if sum(window.width * window.height for window in out) > MOST * whole.width * whole.height:
        return [whole]
    return out


def covers(made: Composite) -> bool:
    """Whether the composite is worked out over the whole frame, so that the ground alone is not needed."""
    return _windows(made) == [whole_window(made.plan.size)]


def _view(made: Composite, under: OpaquePlate | None, runs: list[_PlateRun], window: Window, k: int) -> Canvas:
    """The composite of some plates in a window, over what lies ``under`` it, at one moment."""
    plan, flight = made.plan, made.flight
    if under is not None:
        canvas = Canvas(*under.taken(k))
    else:
        rows = window.height, window.width
        shapes = [plane_shape(made.format, window, plane) for plane in range(made.format.colours)]
        values = [flight.from_code(np.array(value, np.float32)) for value in _behind(made)]
        planes = [np.full(shape, value, flight.dtype) for shape, value in zip(shapes, values, strict=True)]
        canvas = Canvas(planes, None if plan.alpha is None else np.zeros(rows, flight.dtype))
    canvas = _out_of_focus(canvas, made, window) if under is not None else canvas
    for run in runs:
        _lay(canvas, run, k, made, window)
    return canvas


def _behind(made: Composite) -> list[float]:
    """The colour under everything, as code values less black: that of the shot, or nothing where alpha is held."""
    if made.plan.alpha is not None or made.plan.shot.frame.behind == "#000000":
        return [0.0] * made.format.colours
    text = made.plan.shot.frame.behind
    rgb = np.array([[[int(text[k : k + 2], 16) / 255 for k in (1, 3, 5)]]], np.float32)
    whole = planar_format(made.format.kind, made.format.depth, real=made.format.real)
    planes = colour.planes_of(np.repeat(rgb, 2, axis=1), whole, made.tags)
    return [
        float(plane[0, 0]) - levels(whole, made.tags, k)[0] for k, plane in enumerate(planes[: made.format.colours])
    ]


def plane_shape(format: PixelFormat, window: Window, plane: int) -> tuple[int, int]:
    """(rows, columns) of a window in a plane."""
    rows, columns = window.of(format, plane)
    return rows.stop - rows.start, columns.stop - columns.start


class _PlateRun:
    """Plates of a frame that are laid in one go: graphics that follow each other and are laid normally, or one plate by
    itself."""

    def __init__(self, laid: list[_LaidPlate], flight: SampleFormat) -> None:
        self.first, self._flight = laid[0], flight
        self._laid = laid
        self.window = laid[0].window
        for item in laid[1:]:
            self.window = self.window.around(item.window)
        self._kept: list[np.ndarray] | None = None

    @cached_property
    def _pieces(self) -> kernels.Pieces:
        pieces: list[kernels.KernelPiece] = []
        for laid in self._laid:
            assert isinstance(laid.picture, AlphaPlate | PlateInPieces)
            pieces += laid.picture.pieces(laid.opacity)
        return kernels.Pieces(pieces)

    def stacked(self, k: int) -> list[np.ndarray]:
        """Graphics over each other at one moment: colour planes and alpha, all at the luma's places; not to be
        changed."""
        if self._kept is not None and self.first.picture.same:
            return self._kept
        first, flight = self.first, self._flight
        if isinstance(first.picture, MattedPlate):
            return [flight.scaled(plane, first.opacity) for plane in first.picture.view(k)]
        shape = self.window.height, self.window.width
        self._kept = [np.zeros(shape, flight.dtype) for _ in range(flight.format.colours + 1)]
        self._pieces.lay(k, self._kept, (self.window.left, self.window.top))
        return self._kept

    def planar(self, k: int) -> Canvas:
        """What :meth:`stacked` gives, in the planes of the composite; not to be changed. A single graphic that stands
        on the glass is kept for the next frame."""
        picture, format = self.first.picture, self._flight.format
        if len(self._laid) == 1 and isinstance(picture, AlphaPlate) and picture.same and self.first.plate.plate.glass:
            key = (format, self._flight.tags, self.window, self.first.opacity, picture.standing)
            return _on_glass.of(picture.frame, key, partial(self._planar_anew, 0))
        return self._planar_anew(k)

    def _planar_anew(self, k: int) -> Canvas:
        return _planar(self.stacked(k), self._flight.format, self.window)


def _runs(laid: list[_LaidPlate], flight: SampleFormat) -> list[_PlateRun]:
    """Plates in the order in which they are laid."""
    groups: list[list[_LaidPlate]] = []
    for item in laid:
        if groups and _joins(groups[-1][-1]) and _joins(item) and groups[-1][-1].picture.same == item.picture.same:
            groups[-1].append(item)
        else:
            groups.append([item])
    return [_PlateRun(group, flight) for group in groups]


def _joins(laid: _LaidPlate) -> bool:
    return isinstance(laid.picture, AlphaPlate | PlateInPieces) and laid.plate.plate.blend == "normal"


def _lay(canvas: Canvas, run: _PlateRun, k: int, made: Composite, window: Window) -> None:
    """Lay plates over a canvas, in place."""
    first, around, flight = run.first, run.window, made.flight
    if isinstance(first.picture, OpaquePlate):
        planes, alpha = first.picture.view(k)
        above = Canvas([flight.scaled(p, first.opacity) for p in planes], _fade_alpha(alpha, first, around, flight))
    else:
        above = run.planar(k)
    if not first.plate.plate.glass:
        above = _out_of_focus(above, made, around)
    parts = [_inner(around, window, made.format, plane) for plane in range(made.format.colours)]
    below = Canvas(
        [plane[part] for plane, part in zip(canvas.planes, parts, strict=True)],
        None if canvas.alpha is None else canvas.alpha[parts[0]],
    )
    if first.plate.plate.blend == "normal":
        _lay_over(below, above, made.format, flight)
    else:
        full = None if isinstance(first.picture, OpaquePlate) else run.stacked(k)
        _blend_colours(below, above, full, first.plate.plate.blend, made)


def _fade_alpha(alpha: np.ndarray | None, laid: _LaidPlate, window: Window, flight: SampleFormat) -> np.ndarray | None:
    if alpha is None:
        return None if laid.opacity >= 1 else flight.scaled(flight.one((window.height, window.width)), laid.opacity)
    return flight.scaled(alpha, laid.opacity)


def _inner(part: Window, whole: Window, format: PixelFormat, plane: int) -> tuple[slice, slice]:
    """Rows and columns of a plane of one window that another, inside of it, has."""
    (rows, columns), (first, left) = part.of(format, plane), (item.start for item in whole.of(format, plane))
    return slice(rows.start - first, rows.stop - first), slice(columns.start - left, columns.stop - left)


def _planar(full: list[np.ndarray], format: PixelFormat, window: Window) -> Canvas:
    """Colour planes and alpha at the luma's places as planes of the composite."""
    if format.step == (1, 1):
        return Canvas(full[:-1], full[-1], full[-1])
    size = (window.width, window.height)
    small = [downsample_chroma(plane, format, size) for plane in full[1:]]
    return Canvas([full[0], *small[:-1]], full[-1], small[-1])


def _for_plane(alpha: np.ndarray, format: PixelFormat, plane: int) -> np.ndarray:
    """Alpha at the places of a plane."""
    return downsample_chroma(alpha, format, (alpha.shape[1], alpha.shape[0])) if format.chroma(plane) else alpha


def _lay_over(below: Canvas, above: Canvas, format: PixelFormat, flight: SampleFormat) -> None:
    """One canvas over another, in place."""
    if above.alpha is None:
        for old, new in zip(below.planes, above.planes, strict=True):
            old[...] = new
        if below.alpha is not None:
            below.alpha[...] = flight.one((1, 1))[0, 0]
        return
    small = above.alpha
    if format.step != (1, 1):
        small = above.small if above.small is not None else _for_plane(above.alpha, format, 1)
    for plane, (old, new) in enumerate(zip(below.planes, above.planes, strict=True)):
        kernels.over(old, new, small if format.chroma(plane) else above.alpha)
    if below.alpha is not None:
        kernels.over(below.alpha, above.alpha, above.alpha)


def _blend_colours(below: Canvas, above: Canvas, full: list[np.ndarray] | None, blend: Blend, made: Composite) -> None:
    """A canvas' colours added to those behind, multiplied with them, or screened (W3C, "Compositing and blending",
    level 1), as code values of R'G'B', in place. What the upper one does not cover stays as it is. ``full``: its
    colours at the luma's places, if they are known."""
    format, tags, flight = made.format, made.tags, made.flight
    shape = below.planes[0].shape
    cover = np.ones(shape, np.float32) if above.alpha is None else flight.to_cover(above.alpha)
    behind = np.ones(shape, np.float32) if below.alpha is None else flight.to_cover(below.alpha)
    s, b = _rgb(above.planes, format, flight), _rgb(below.planes, format, flight)
    if full is not None:
        whole = planar_format(format.kind, format.depth, real=format.real)
        s = _rgb(full[:-1], whole, flight)
    if blend == "add":
        new = s + b
    elif blend == "multiply":
        new = s * (1 - behind)[..., None] + b * (1 - cover)[..., None] + s * b
    else:
        new = s + b - s * b
    for plane, planes in enumerate(colour.planes_of(new, format, tags)):
        old = below.planes[plane]
        shown = _for_plane(cover, format, plane) > SHOWN
        old[...] = np.where(shown, flight.from_code(planes - flight.zero[plane]), old)
    if below.alpha is not None:
        below.alpha[...] = flight.alpha(behind + cover * (1.0 - behind))


def _rgb(planes: list[np.ndarray], format: PixelFormat, flight: SampleFormat) -> np.ndarray:
    """R'G'B' of planes in flight, drawn towards black as they are."""
    coded = tuple(flight.to_code(plane) + zero for plane, zero in zip(planes, flight.zero, strict=True))
    return colour.to_rgb(Frame(coded, format, flight.tags))


def _out_of_focus(canvas: Canvas, made: Composite, window: Window) -> Canvas:
    """A canvas as a knocked lens shows it."""
    sigma = made.plan.softness(made.index)
    if sigma < SOFT or (window.width, window.height) != made.plan.size:
        return canvas
    planes = [blur_plane(p, sigma, made.format.plane_step(k)) for k, p in enumerate(canvas.planes)]
    return Canvas(planes, None if canvas.alpha is None else blur_plane(canvas.alpha, sigma, (1, 1)))


def _average_views(made: Composite, under: OpaquePlate | None, window: Window) -> Canvas:
    """The mean of the composite's views in a window, as code values or as light."""
    here = [laid for laid in made.laid if laid.window.meets(window)]
    runs = _runs(here, made.flight)
    still = all(laid.picture.same for laid in here) and (under is None or under.same)
    if len(made.views.times) == 1 or still:
        return _view(made, under, runs, window, 0)
    flight, count = made.flight, len(made.views.times)
    weights = kernels.shares(made.views.weights)
    if made.plan.shot.frame.linear:
        return _averaged_as_light(made, under, runs, window)
    total: Canvas | None = None
    for k in range(count):
        view = _view(made, under, runs, window, k)
        if total is None:
            alpha = None if view.alpha is None else np.zeros_like(view.alpha)
            total = Canvas([np.zeros_like(plane) for plane in view.planes], alpha)
        for plane, values in zip(total.planes, view.planes, strict=True):
            kernels.join_mean(plane, values, weights, k)
        if total.alpha is not None:
            alpha = view.alpha if view.alpha is not None else flight.one((window.height, window.width))
            kernels.join_mean(total.alpha, alpha, weights, k)
    assert total is not None
    return total


def _averaged_as_light(made: Composite, under: OpaquePlate | None, runs: list[_PlateRun], window: Window) -> Canvas:
    flight, format = made.flight, made.format
    alphas: list[np.ndarray] = []

    def pictures() -> Iterator[Frame]:
        for k in range(len(made.views.times)):
            view = _view(made, under, runs, window, k)
            if view.alpha is not None:
                alphas.append(view.alpha)
            planes = (flight.rounded(plane, n, None) for n, plane in enumerate(view.planes))
            yield Frame(tuple(planes), format, made.tags)

    lit = linear_light.mean(pictures(), made.views.weights).planes
    alpha = None
    if alphas:
        covers = [np.float32(w) * flight.to_cover(a) for w, a in zip(made.views.weights, alphas, strict=True)]
        alpha = flight.alpha(np.sum(covers, axis=0))
    planes = [flight.from_code(p.astype(np.float32) - z) for p, z in zip(lit, flight.zero, strict=True)]
    return Canvas(planes, alpha)


def _to_planes(done: Canvas, made: Composite, held: bool, window: Window) -> list[np.ndarray]:
    """A canvas as planes of the composite's format, alpha last if it is held; colours are straight then."""
    format, flight = made.format, made.flight
    if not held:
        out = []
        for number, plane in enumerate(done.planes):
            rows, columns = window.of(format, number)
            at = (columns.start, rows.start) if len(made.views.times) > 1 else None
            out.append(flight.rounded(plane, number, at))
        return out
    whole = np.ones((window.height, window.width), np.float32) if done.alpha is None else flight.to_cover(done.alpha)
    out = []
    for k, (plane, zero) in enumerate(zip(done.planes, flight.zero, strict=True)):
        share, coded = _for_plane(whole, format, k), flight.to_code(plane)
        out.append(format.rounded(np.where(share > 1e-4, coded / np.maximum(share, 1e-4), 0.0) + zero))
    return [*out, with_alpha(format).rounded(np.clip(whole, 0.0, 1.0) * np.float32(format.top))]


def blur_plane(plane: np.ndarray, sigma: float, step: tuple[int, int]) -> np.ndarray:
    """A plane out of focus: ``sigma`` in luma pixels."""
    border = cv2.BORDER_REPLICATE
    return np.asarray(cv2.GaussianBlur(plane, (0, 0), sigma / step[0], sigmaY=sigma / step[1], borderType=border))
