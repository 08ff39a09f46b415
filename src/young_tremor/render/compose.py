"""Plates laid over each other: premultiplied, view by view, in the planes, depth and colours of the lowest one.

Every view of a frame (each moment of its exposure) is composited by itself and the results are averaged, so that the
blurred edge of one plate mixes with what is behind it at each moment. That is done where something lies over the lowest
plate; the rest of a frame is that plate's alone.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame, with_alpha_plane
from young_tremor.base.pixels import ColourTags, PixelFormat, levels, named, with_alpha
from young_tremor.model.project import Blend
from young_tremor.render import light
from young_tremor.render.film import Film, of_film
from young_tremor.render.graphic import Graphic, Matted, matted
from young_tremor.render.plan import SHOWN, Plan, PlatePlan
from young_tremor.render.seen import Seen, Window, whole_window
from young_tremor.render.shutter import Exposure
from young_tremor.render.warp import Border

MOST = 0.6  # share of the frame from which all of it is composited
SOFT = 0.2  # pixels of blur below which a knock out of focus is not seen


@dataclass
class Canvas:
    """A composite under way, or one plate's part of it: colour planes less black, drawn towards it by ``alpha`` (rows,
    columns) 0…1; None: opaque."""

    planes: list[np.ndarray]
    alpha: np.ndarray | None
    small: np.ndarray | None = None  # alpha at the places of chroma, where it is known


@dataclass(frozen=True)
class Ground:
    """What lies under everything: the lowest plate and its picture, or None: nothing, black. ``frame``: how it looks
    alone, unless nothing of it is seen so."""

    frame: Frame | None = None
    plate: PlatePlan | None = None
    given: Frame | None = None


@dataclass(frozen=True)
class _Laid:
    """One plate, or a piece of it, that touches the frame: ``picture`` is where it does."""

    plate: PlatePlan
    window: Window
    picture: Graphic | Matted | Film
    opacity: float


@dataclass(frozen=True)
class Composite:
    """The plates of a frame, ready to be laid over each other.

    ``format`` and ``tags``: of the composite. ``seen``: the exposure that all share. ``laid``: bottom to top, without
    those that do not reach the frame.
    """

    plan: Plan
    index: int
    seen: Exposure
    format: PixelFormat
    tags: ColourTags
    laid: list[_Laid] = field(default_factory=list)


def composite(
    plan: Plan, index: int, upper: list[tuple[PlatePlan, Frame]], seen: Exposure, format: PixelFormat,
    tags: ColourTags,
) -> Composite:  # fmt: skip
    """Make plates ready that lie over the ground, bottom to top."""
    out = Composite(plan, index, seen, format, tags)
    for plate, frame in upper:
        opacity = plate.opacity(plan.time(index))
        if not frame.format.alpha and not frame.pieces:
            window = of_film(plan, plate, index, frame, seen)
            if window is not None:
                border: Border = plan.border if plate is plan.base else "black"
                film = Film(plan, plate, index, frame, seen, format, tags, window, border)
                out.laid.append(_Laid(plate, window, film, opacity))
            continue
        pieces = zip(plate.pieces(frame), frame.pieces, strict=True) if frame.pieces else [(plate, frame)]
        for piece, part in pieces:
            graphic: Graphic | Matted = Graphic(plan, piece, index, part, seen, format, tags)
            plain = matted(piece) if plan.shaken else None
            if plain is not None and graphic.window is not None and isinstance(graphic, Graphic):
                graphic = Matted(graphic, Graphic(plan, plain, index, part, seen, format, tags, graphic.window))
            if graphic.window is not None:
                out.laid.append(_Laid(plate, graphic.window, graphic, opacity))
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
    whole = Seen(plan, plate, made.index, frame, [made.seen], "black")
    return frame if whole.untouched(0) and plan.softness(made.index) < SOFT else None


def finished(made: Composite, ground: Ground) -> Frame:
    """The composite over the ground. With ``plan.alpha`` it holds how much of each pixel is covered, its colours
    straight; otherwise it lies over black. Where nothing lies over it the ground is as it was."""
    plan, format, tags = made.plan, made.format, made.tags
    black = [np.float32(levels(format, tags, k)[0]) for k in range(format.colours)]
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
        whole = whole_window(plan.size)
        under = Film(plan, ground.plate, made.index, ground.given, made.seen, format, tags, whole, plan.border)
    for window in _windows(made):
        done = _averaged(made, _views(made, under.within(window) if under else None, window), window)
        for number, plane in enumerate(_coded(done, made, black, plan.alpha is not None, window)):
            planes[number][window.of(format, min(number, 3) if number < format.colours else 0)] = plane
    if plan.alpha is None:
        return Frame(tuple(planes), format, tags)
    held = with_alpha(format)
    frame = with_alpha_plane(Frame(tuple(planes[:-1]), format, tags), planes[-1], held)
    return colour.converted(frame, plan.alpha, tags) if held != plan.alpha else frame


def _windows(made: Composite) -> list[Window]:
    """Parts of the frame that have something over the ground, none of which meet."""
    whole = whole_window(made.plan.size)
    if made.plan.softness(made.index) >= SOFT and made.laid:
        return [whole]
    out: list[Window] = []
    for each in made.laid:
        window = each.window
        while (other := next((o for o in out if o.meets(window)), None)) is not None:
            out.remove(other)
            window = window.around(other)
        out.append(window)
    if sum(each.width * each.height for each in out) > MOST * whole.width * whole.height:
        return [whole]
    return out


def covers(made: Composite) -> bool:
    """Whether the composite is worked out over the whole frame, so that the ground alone is not needed."""
    return _windows(made) == [whole_window(made.plan.size)]


def _views(made: Composite, under: Film | None, window: Window) -> list[Canvas]:
    """The composite in a window, over what lies ``under`` it, at each moment; one canvas where nothing in it moves."""
    plan, format = made.plan, made.format
    here = [each for each in made.laid if each.window.meets(window)]
    still = all(each.picture.same for each in here) and (under is None or under.same)
    out = []
    for k in range(1 if still else len(made.seen.times)):
        if under is not None:
            planes, alpha = under.view(k)
            canvas = Canvas([plane.copy() for plane in planes], None if alpha is None else alpha.copy())
        else:
            rows = window.height, window.width
            shapes = [plane_shape(format, window, plane) for plane in range(format.colours)]
            planes = [np.full(shape, value, np.float32) for shape, value in zip(shapes, _behind(made), strict=True)]
            canvas = Canvas(planes, None if plan.alpha is None else np.zeros(rows, np.float32))
        canvas = _out_of_focus(canvas, made, window) if under is not None else canvas
        for run in _runs(here):
            _lay(canvas, run, k, made, window)
        out.append(canvas)
    return out


def _behind(made: Composite) -> list[float]:
    """The colour under everything, as code values less black: that of the shot, or nothing where alpha is held."""
    if made.plan.alpha is not None or made.plan.shot.frame.behind == "#000000":
        return [0.0] * made.format.colours
    text = made.plan.shot.frame.behind
    rgb = np.array([[[int(text[k : k + 2], 16) / 255 for k in (1, 3, 5)]]], np.float32)
    whole = named(made.format.kind, made.format.depth, real=made.format.real)
    planes = colour.planes_of(np.repeat(rgb, 2, axis=1), whole, made.tags)
    return [
        float(plane[0, 0]) - levels(whole, made.tags, k)[0] for k, plane in enumerate(planes[: made.format.colours])
    ]


def plane_shape(format: PixelFormat, window: Window, plane: int) -> tuple[int, int]:
    """(rows, columns) of a window in a plane."""
    rows, columns = window.of(format, plane)
    return rows.stop - rows.start, columns.stop - columns.start


def _runs(laid: list[_Laid]) -> list[list[_Laid]]:
    """Graphics that follow each other and are laid normally go together; everything else by itself."""
    out: list[list[_Laid]] = []
    for each in laid:
        joins = not isinstance(each.picture, Film) and each.plate.plate.blend == "normal"
        if joins and out and not isinstance(out[-1][-1].picture, Film) and out[-1][-1].plate.plate.blend == "normal":
            out[-1].append(each)
        else:
            out.append([each])
    return out


def _lay(canvas: Canvas, run: list[_Laid], k: int, made: Composite, window: Window) -> None:
    """Lay plates over a canvas, in place."""
    first = run[0]
    around = first.window
    for each in run[1:]:
        around = around.around(each.window)
    if isinstance(first.picture, Film):
        planes, alpha = first.picture.view(k)
        above = Canvas([np.float32(first.opacity) * p for p in planes], _faded(alpha, first, around))
        full = None
    else:
        full = _stacked(run, k, around)
        above = _planar(full, made.format, around)
    if not first.plate.plate.glass:
        above = _out_of_focus(above, made, around)
    parts = [_inner(around, window, made.format, plane) for plane in range(made.format.colours)]
    below = Canvas(
        [plane[part] for plane, part in zip(canvas.planes, parts, strict=True)],
        None if canvas.alpha is None else canvas.alpha[parts[0]],
    )
    if first.plate.plate.blend == "normal":
        _over(below, above, made.format)
    else:
        _blended(below, above, full, first.plate.plate.blend, made)


def _faded(alpha: np.ndarray | None, laid: _Laid, window: Window) -> np.ndarray | None:
    if alpha is None:
        return None if laid.opacity >= 1 else np.full((window.height, window.width), laid.opacity, np.float32)
    return np.float32(laid.opacity) * alpha


def _inner(part: Window, whole: Window, format: PixelFormat, plane: int) -> tuple[slice, slice]:
    """Rows and columns of a plane of one window that another, inside of it, has."""
    (rows, columns), (first, left) = part.of(format, plane), (each.start for each in whole.of(format, plane))
    return slice(rows.start - first, rows.stop - first), slice(columns.start - left, columns.stop - left)


def _stacked(run: list[_Laid], k: int, around: Window) -> np.ndarray:
    """Graphics over each other: packed (height, width, 4)."""
    if len(run) == 1:
        only = run[0].picture.view(k)
        assert isinstance(only, np.ndarray)
        return only if run[0].opacity >= 1 else only * np.float32(run[0].opacity)
    out = np.zeros((around.height, around.width, 4), np.float32)
    for each in run:
        mine = each.picture.view(k)
        assert isinstance(mine, np.ndarray)
        if each.opacity < 1:
            mine = mine * np.float32(each.opacity)
        top, left = each.window.top - around.top, each.window.left - around.left
        part = out[top : top + each.window.height, left : left + each.window.width]
        rest = cv2.subtract(1.0, cv2.extractChannel(mine, 3))  # type: ignore[call-overload]
        part[:] = cv2.add(cv2.multiply(part, cv2.merge([rest, rest, rest, rest])), mine)
    return out


def _planar(packed: np.ndarray, format: PixelFormat, window: Window) -> Canvas:
    """A packed picture as planes of the composite."""
    alpha = cv2.extractChannel(packed, 3)
    first = cv2.extractChannel(packed, 0)
    if format.colours == 1:
        return Canvas([first], alpha)
    small = colour.lowered(packed, format, (window.width, window.height)) if format.step != (1, 1) else packed
    rest = cv2.extractChannel(small, 3) if small is not packed else alpha
    return Canvas([first, cv2.extractChannel(small, 1), cv2.extractChannel(small, 2)], alpha, rest)


def _for_plane(alpha: np.ndarray, format: PixelFormat, plane: int) -> np.ndarray:
    """Alpha at the places of a plane."""
    return colour.lowered(alpha, format, (alpha.shape[1], alpha.shape[0])) if format.chroma(plane) else alpha


def _over(below: Canvas, above: Canvas, format: PixelFormat) -> None:
    """One canvas over another, in place (T. Porter and T. Duff, "Compositing digital images", 1984)."""
    if above.alpha is None:
        for old, new in zip(below.planes, above.planes, strict=True):
            old[...] = new
        if below.alpha is not None:
            below.alpha[...] = 1.0
        return
    rest = cv2.subtract(1.0, above.alpha)  # type: ignore[call-overload]
    small = rest
    if format.step != (1, 1):
        small = 1.0 - above.small if above.small is not None else _for_plane(rest, format, 1)
    for plane, (old, new) in enumerate(zip(below.planes, above.planes, strict=True)):
        cv2.multiply(old, small if format.chroma(plane) else rest, dst=old)
        cv2.add(old, new, dst=old)
    if below.alpha is not None:
        below.alpha *= rest
        below.alpha += above.alpha


def _blended(below: Canvas, above: Canvas, full: np.ndarray | None, blend: Blend, made: Composite) -> None:
    """A canvas' colours added to those behind, multiplied with them, or screened (W3C, "Compositing and blending",
    level 1), as code values of R'G'B', in place. What the upper one does not cover stays as it is. ``full``: its
    colours at the luma's places, if they are known."""
    format, tags = made.format, made.tags
    shape = below.planes[0].shape
    cover = np.ones(shape, np.float32) if above.alpha is None else above.alpha
    behind = np.ones(shape, np.float32) if below.alpha is None else below.alpha
    s, b = _rgb(above, format, tags), _rgb(below, format, tags)
    if full is not None:
        whole = named(format.kind, format.depth, real=format.real)
        s = _rgb(Canvas([np.ascontiguousarray(full[..., k]) for k in range(format.colours)], None), whole, tags)
    if blend == "add":
        new = s + b
    elif blend == "multiply":
        new = s * (1 - behind)[..., None] + b * (1 - cover)[..., None] + s * b
    else:
        new = s + b - s * b
    for plane, planes in enumerate(colour.planes_of(new, format, tags)):
        zero = np.float32(levels(format, tags, plane)[0])
        old = below.planes[plane]
        old[...] = np.where(_for_plane(cover, format, plane) > SHOWN, planes - zero, old)
    if below.alpha is not None:
        below.alpha += cover * (1.0 - below.alpha)


def _rgb(canvas: Canvas, format: PixelFormat, tags: ColourTags) -> np.ndarray:
    """R'G'B' of a canvas, drawn towards black as it is."""
    zero = [np.float32(levels(format, tags, k)[0]) for k in range(format.colours)]
    planes = tuple(plane + z for plane, z in zip(canvas.planes, zero, strict=True))
    return colour.to_rgb(Frame(planes, format, tags))


def _out_of_focus(canvas: Canvas, made: Composite, window: Window) -> Canvas:
    """A canvas as a knocked lens shows it."""
    sigma = made.plan.softness(made.index)
    if sigma < SOFT or (window.width, window.height) != made.plan.size:
        return canvas
    planes = [blurred(p, sigma, made.format.plane_step(k)) for k, p in enumerate(canvas.planes)]
    return Canvas(planes, None if canvas.alpha is None else blurred(canvas.alpha, sigma, (1, 1)))


def _averaged(made: Composite, views: list[Canvas], window: Window) -> Canvas:
    """The mean of the views, as code values or as light."""
    if len(views) == 1:
        return views[0]
    shares, format = made.seen.weights.tolist(), made.format
    alpha = None if views[0].alpha is None else _mean([v.alpha for v in views if v.alpha is not None], shares)
    if made.plan.shot.frame.linear:
        zero = [np.float32(levels(format, made.tags, k)[0]) for k in range(format.colours)]
        pictures = (
            Frame(tuple(format.rounded(p + z) for p, z in zip(v.planes, zero, strict=True)), format, made.tags)
            for v in views
        )
        lit = light.mean(pictures, made.seen.weights).planes
        return Canvas([p.astype(np.float32) - z for p, z in zip(lit, zero, strict=True)], alpha)
    return Canvas([_mean([v.planes[k] for v in views], shares) for k in range(format.colours)], alpha)


def _mean(parts: list[np.ndarray], weights: list[float]) -> np.ndarray:
    total = parts[0] * np.float32(weights[0])
    for part, weight in zip(parts[1:], weights[1:], strict=True):
        cv2.scaleAdd(part, weight, total, dst=total)
    return total


def _coded(done: Canvas, made: Composite, black: list[np.float32], held: bool, window: Window) -> list[np.ndarray]:
    """A canvas as planes of the composite's format, alpha last if it is held; colours are straight then."""
    format = made.format
    if not held:
        return [format.rounded(p + b) for p, b in zip(done.planes, black, strict=True)]
    whole = np.ones((window.height, window.width), np.float32) if done.alpha is None else done.alpha
    out = []
    for k, (plane, zero) in enumerate(zip(done.planes, black, strict=True)):
        share = _for_plane(whole, format, k)
        out.append(format.rounded(np.where(share > 1e-4, plane / np.maximum(share, 1e-4), 0.0) + zero))
    return [*out, with_alpha(format).rounded(np.clip(whole, 0.0, 1.0) * np.float32(format.top))]


def blurred(plane: np.ndarray, sigma: float, step: tuple[int, int]) -> np.ndarray:
    """A plane out of focus: ``sigma`` in luma pixels."""
    border = cv2.BORDER_REPLICATE
    return np.asarray(cv2.GaussianBlur(plane, (0, 0), sigma / step[0], sigmaY=sigma / step[1], borderType=border))
