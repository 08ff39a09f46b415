"""Plates laid over each other: premultiplied, view by view, in the planes, depth and colours of the lowest one.

Every view of a frame (each moment of its exposure) is composited by itself and the results are averaged, so that the
blurred edge of one plate mixes with what is behind it at each moment.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame
from young_tremor.base.pixels import ColourTags, PixelFormat, levels, with_alpha, without_alpha
from young_tremor.model.project import Blend
from young_tremor.render import light, soft
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.seen import Seen
from young_tremor.render.shutter import Exposure
from young_tremor.render.warp import Border, heights

SHOWN = 1e-4  # opacity below which a plate is not there


@dataclass(frozen=True)
class Canvas:
    """A composite under way: colour planes drawn towards black by ``alpha`` (rows, columns) 0…1; None: opaque."""

    planes: list[np.ndarray]
    alpha: np.ndarray | None


def composed(plan: Plan, index: int, frames: list[Frame], seen: Exposure) -> Frame:
    """All plates of a frame over each other.

    With ``plan.alpha`` the result holds how much of each pixel is covered, its colours straight; otherwise it lies over
    black.
    """
    format, tags = without_alpha(frames[0].format), frames[0].colour
    layers = []
    for plate, frame in zip(plan.plates, frames, strict=True):
        if shown(plate, plan.time(index)):
            opacity = plate.opacity(plan.time(index))
            layers.append(_Layer(plan, plate, index, frame, opacity, format, tags, seen))
    if len(layers) == 1 and plan.alpha is not None and (kept := layers[0].as_it_is(plan.alpha)) is not None:
        return kept
    black = [np.float32(levels(format, tags, k)[0]) for k in range(format.colours)]
    shapes = [format.plane_size(k, plan.size)[::-1] for k in range(format.colours)]
    views = []
    for k in range(len(seen.times)):
        empty = np.zeros(plan.size[::-1], np.float32)
        canvas = Canvas([np.full(shape, b, np.float32) for shape, b in zip(shapes, black, strict=True)], empty)
        for layer in layers:
            canvas = _laid(canvas, layer.view(k), layer.blend, format, tags, black)
        views.append(canvas)
    made = _averaged(views, seen.weights, plan, format, tags)
    return _finished(made, plan, index, format, tags, black)


def shown(plate: PlatePlan, t: float) -> bool:
    """Whether anything of a plate is seen at ``t`` seconds."""
    return plate.plate.on and plate.opacity(t) > SHOWN


class _Layer:
    """One plate of a frame, made ready to be looked at."""

    def __init__(
        self, plan: Plan, plate: PlatePlan, index: int, frame: Frame, opacity: float, format: PixelFormat,
        tags: ColourTags, seen: Exposure,
    ) -> None:  # fmt: skip
        self._plan, self._opacity, self._format, self._frame = plan, opacity, format, frame
        self.blend = plate.plate.blend
        self._border: Border = plan.border if plate is plan.base and plate.source.alpha == "none" else "black"
        self._black = [np.float32(levels(format, tags, k)[0]) for k in range(format.colours)]
        self._holds = frame.format.alpha
        self._ready: tuple[int, list[tuple[np.ndarray, np.ndarray]]] = (-1, [])
        self._kept: Canvas | None = None
        if self._holds:
            held, premultiplied = with_alpha(format), plate.source.alpha == "premultiplied"
            given = colour.converted(frame, held, tags)
            alpha = colour.alpha_of(given)
            assert alpha is not None
            planes = [p.astype(np.float32) for p in given.planes[: format.colours]]
            if not premultiplied:
                planes = colour.premultiplied(given.planes, held, tags, alpha)
            self._planes = [*planes, alpha]
            empty = (*(float(b) for b in self._black), 0.0)
        else:
            self._planes = list(colour.converted(frame, format, tags).planes)
            empty = None
        # where views look is told for planes of the composite's own format
        self._seen = Seen(plan, plate, index, Frame(tuple(self._planes), format, tags), [seen], self._border, empty)

    def as_it_is(self, alpha: PixelFormat) -> Frame | None:
        """The frame itself, where it is all there is and nothing moves it."""
        whole = self._frame.format == alpha and self._opacity >= 1
        return self._frame if whole and self._seen.untouched(0) else None

    def view(self, k: int) -> Canvas:
        """What is seen of it at one moment."""
        if self._kept is None or not self._seen.same:
            self._kept = self._looked(k)
        return self._kept

    def _looked(self, k: int) -> Canvas:
        plan, format, seen = self._plan, self._format, self._seen
        number = next(n for n, group in enumerate(seen.of(0).streaks) if k in group.views)
        if self._ready[0] != number:
            group = seen.of(0).streaks[number]
            self._ready = number, [seen.made(plane, group) for plane in range(len(self._planes))]
        planes = []
        for number, ready in enumerate(self._ready[1]):
            made = seen.view(number, k, ready).astype(np.float32, copy=False)
            if number >= format.colours:
                np.clip(made, 0.0, 1.0, out=made)
            elif not format.real:
                np.clip(made, 0, format.top, out=made)
            planes.append(made)
        alpha = planes.pop() if self._holds else None
        if not self._holds and self._border in ("black", "soft"):
            alpha = self._covered(k)
            for number, plane in enumerate(planes):
                share, b = _for_plane(alpha, format, number), self._black[number]
                if self._border == "soft":
                    planes[number] = soft.filled(plane, self._planes[number], share, plane.shape[::-1])
                else:
                    planes[number] = (plane - b) * share + b
            alpha = None if self._border == "soft" else alpha
        if self._opacity < 1:
            planes = [(p - b) * np.float32(self._opacity) + b for p, b in zip(planes, self._black, strict=True)]
            alpha = np.float32(self._opacity) * (np.ones(plan.size[::-1], np.float32) if alpha is None else alpha)
        return Canvas(planes, alpha)

    def _covered(self, k: int) -> np.ndarray:
        """How much of each pixel a view of an opaque plate covers."""
        rows = self._plan.size[1]
        lines = heights(self._format, 0, rows, rows)
        return soft.covered(self._seen.place(0, k), self._plan.size, lines, self._planes[0].shape[::-1])


def _for_plane(alpha: np.ndarray, format: PixelFormat, plane: int) -> np.ndarray:
    """Alpha at the places of a plane."""
    return colour.lowered(alpha, format, (alpha.shape[1], alpha.shape[0])) if format.chroma(plane) else alpha


def _over(below: Canvas, above: Canvas, format: PixelFormat, black: list[np.float32]) -> Canvas:
    """One canvas over another (T. Porter and T. Duff, "Compositing digital images", 1984)."""
    if above.alpha is None:
        return above
    rest = 1.0 - above.alpha
    planes = [
        a + (b - zero) * _for_plane(rest, format, k)
        for k, (a, b, zero) in enumerate(zip(above.planes, below.planes, black, strict=True))
    ]
    return Canvas(planes, None if below.alpha is None else above.alpha + below.alpha * rest)


def _laid(
    below: Canvas, above: Canvas, blend: Blend, format: PixelFormat, tags: ColourTags, black: list[np.float32]
) -> Canvas:
    """One canvas over another, its colours added to those behind, multiplied with them, or screened (W3C, "Compositing
    and blending", level 1), as code values of R'G'B'. What the upper one does not cover stays as it is."""
    if blend == "normal":
        return _over(below, above, format, black)
    shape = below.planes[0].shape
    cover = np.ones(shape, np.float32) if above.alpha is None else above.alpha
    behind = np.ones(shape, np.float32) if below.alpha is None else below.alpha
    s, b = (colour.to_rgb(Frame(tuple(each.planes), format, tags)) for each in (above, below))
    if blend == "add":
        made = s + b
    elif blend == "multiply":
        made = s * (1 - behind)[..., None] + b * (1 - cover)[..., None] + s * b
    else:
        made = s + b - s * b
    planes = []
    for k, (new, old) in enumerate(zip(colour.planes_of(made, format, tags), below.planes, strict=True)):
        planes.append(np.where(_for_plane(cover, format, k) > SHOWN, new, old))
    return Canvas(planes, None if below.alpha is None else cover + behind * (1.0 - cover))


def _averaged(views: list[Canvas], weights: np.ndarray, plan: Plan, format: PixelFormat, tags: ColourTags) -> Canvas:
    """The mean of the views, as code values or as light."""
    if len(views) == 1:
        return views[0]
    shares = weights.tolist()
    alpha = None
    if all(view.alpha is not None for view in views):
        alpha = np.asarray(
            sum(np.float32(w) * v.alpha for v, w in zip(views, shares, strict=True) if v.alpha is not None)
        )
    if plan.shot.frame.linear:
        shown = (Frame(tuple(format.rounded(p) for p in view.planes), format, tags) for view in views)
        return Canvas([p.astype(np.float32) for p in light.mean(shown, weights).planes], alpha)
    planes = [
        np.asarray(sum(np.float32(w) * v.planes[k] for v, w in zip(views, shares, strict=True)))
        for k in range(format.colours)
    ]
    return Canvas(planes, alpha)


def _finished(
    made: Canvas, plan: Plan, index: int, format: PixelFormat, tags: ColourTags, black: list[np.float32]
) -> Frame:
    """The composite as a frame: with straight alpha if the plan asks for it, else over black."""
    planes = made.planes
    sigma = plan.softness(index)
    alpha = made.alpha
    if sigma >= 0.2:
        planes = [_blurred(p, sigma, format.plane_step(k)) for k, p in enumerate(planes)]
        alpha = None if alpha is None else _blurred(alpha, sigma, (1, 1))
    if plan.alpha is None:
        return Frame(tuple(format.rounded(p) for p in planes), format, tags)
    whole = np.ones(plan.size[::-1], np.float32) if alpha is None else alpha
    straight = []
    for k, (plane, zero) in enumerate(zip(planes, black, strict=True)):
        share = _for_plane(whole, format, k)
        straight.append(np.where(share > 1e-4, (plane - zero) / np.maximum(share, 1e-4), 0.0) + zero)
    last = np.clip(whole, 0.0, 1.0) * np.float32(plan.alpha.top)
    held = with_alpha(format)
    frame = Frame((*(format.rounded(p) for p in straight), held.rounded(last)), held, tags)
    return colour.converted(frame, plan.alpha, tags) if held != plan.alpha else frame


def _blurred(plane: np.ndarray, sigma: float, step: tuple[int, int]) -> np.ndarray:
    border = cv2.BORDER_REPLICATE
    return np.asarray(cv2.GaussianBlur(plane, (0, 0), sigma / step[0], sigmaY=sigma / step[1], borderType=border))
