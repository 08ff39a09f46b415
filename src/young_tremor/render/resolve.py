"""Intent to plan: the size, the rate, the edges, and the least framing that covers every exposure of every frame."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache

import numpy as np

from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.base.frames import SourceInfo
from young_tremor.base.pixels import MOST_DELIVERED, PixelFormat
from young_tremor.base.units import parse_rate
from young_tremor.geometry import camera, cover
from young_tremor.model.project import Shot
from young_tremor.render import bend, shutter, warp
from young_tremor.render.plan import FINAL, Plan, PlatePlan, Quality

CROPS = ("crop", "crop-as-needed")
PART = 1024  # frames looked at together
ROUGH, ROUGH_MORE = 600, 1.4  # frames that a first crop is made of, and by how much more is taken
MOST_BENT = 1500  # frames of a bent shot that are looked at place by place
_look: ContextVar[Callable[[], None]] = ContextVar("look", default=lambda: None)
OUTLINE = 160  # places along each side of a frame whose picture is bent
_BORDERS: dict[str, warp.Border] = {
    "open": "black", "hold": "hold", "mirror": "mirror", "repeat": "repeat", "soft": "soft", "crop": "hold",
    "crop-as-needed": "hold",
}  # fmt: skip


@dataclass(frozen=True, eq=False)
class Readings:
    """What the edges cost.

    ``need`` (frames,): the crop that each frame needs on top of that by hand, 1 where it is covered as it is.
    ``crop``: what the edges add (the most of it where it follows the motion, ``course`` (frames,)), ``centre`` its
    shift. ``detail``: source pixels per delivered pixel along a line at the largest crop, at most 1. ``cut`` (frames,):
    whether a keep-clear box leaves the frame.
    """

    need: np.ndarray
    crop: float
    detail: float
    cut: np.ndarray
    centre: tuple[float, float] = (0.0, 0.0)
    course: np.ndarray | None = None
    leaning: np.ndarray | None = None

    @property
    def worst(self) -> int:
        return int(np.argmax(self.need))

    @property
    def uncovered(self) -> float:
        """Share of frames that would show a gap without a crop."""
        return float(np.mean(self.need > 1.0 + 1e-9))


def resolve(
    shot: Shot, sources: SourceInfo | tuple[SourceInfo, ...], quality: Quality = FINAL, *, shaken: bool = True,
    known: Plan | None = None,
) -> Plan:  # fmt: skip
    """The plan of a shot, ``sources`` being what its plates show, in their order.

    ``shaken=False`` is the still original: no shake and no crop; a ``known`` plan's framing is taken over instead of
    solving for the least one.
    """
    plan = _bare(shot, sources if isinstance(sources, tuple) else (sources,), quality, shaken)
    if not shaken or shot.frame.edges not in CROPS:
        return plan
    if known is not None:
        return replace(plan, crop=known.crop, centre=known.centre, course=known.course, leaning=known.leaning)
    found = readings(plan)
    return replace(plan, crop=found.crop, centre=found.centre, course=found.course, leaning=found.leaning)


def _bare(shot: Shot, sources: tuple[SourceInfo, ...], quality: Quality, shaken: bool) -> Plan:
    """The plan without any crop."""
    if not shot.plates or len(sources) != len(shot.plates):
        raise RequestError(f"Shot “{shot.name}” has no picture: put footage into it.")
    source = sources[0]
    size = (shot.size.width, shot.size.height) if shot.size else source.size
    if source.format.nbytes(size) > MOST_DELIVERED:
        raise UnreadableValue(
            f"Pictures of {size[0]}x{size[1]} take {source.format.nbytes(size) >> 20} MB each, which no encoder here "
            f"can hold ({MOST_DELIVERED >> 20} MB at most): set a smaller size."
        )
    aspect = Fraction(shot.size.pixel_aspect) if shot.size else source.pixel_aspect
    rate = parse_rate(shot.rate) if shot.rate else source.rate
    _sane(shot)
    end = source.seconds if shot.end is None else shot.end if source.still else min(shot.end, source.seconds)
    if not 0 <= shot.start < end:
        raise UnreadableValue(f"Shot “{shot.name}” has no length: its start is not before its end.")
    frames = max(1, math.floor(Fraction(end - shot.start).limit_denominator(10**6) * rate + Fraction(1, 1000)))
    border = _BORDERS[shot.frame.edges] if shaken or shot.frame.edges != "soft" else "hold"
    if quality.over > 1:
        border = "black"
    plates = _plates(shot, sources, size, aspect, rate, shaken)
    return Plan(
        shot, plates, size, aspect, rate, frames, quality.size or size, quality.kernel, border, shaken, 1.0,
        over=quality.over,
    )  # fmt: skip


def _plates(
    shot: Shot, sources: tuple[SourceInfo, ...], size: tuple[int, int], aspect: Fraction, rate: Fraction, shaken: bool
) -> tuple[PlatePlan, ...]:
    wide = size[0] * float(aspect) / size[1]
    focal = camera.focal(shot.frame.focal_mm, wide)
    return tuple(
        PlatePlan(
            shot, plate, source, rate, wide, focal, shaken,
            camera.fit(source.size, float(source.pixel_aspect), size, float(aspect)),
        )
        for plate, source in zip(shot.plates, sources, strict=True)
    )  # fmt: skip


def _sane(shot: Shot) -> None:
    """Refuse numbers that no picture can be made of, in one sentence."""
    frame = shot.frame
    camera.focal(frame.focal_mm, 1.0)
    for words, value, most in (
        ("A readout", frame.readout, 1.0), ("A pivot", frame.pivot.x.value, 1e3), ("A pivot", frame.pivot.y.value, 1e3),
    ):  # fmt: skip
        if not abs(value) <= most:
            raise UnreadableValue(f"{words} of {value:g} cannot be used: give a number up to {most:g}.")
    if not 0 < frame.crop.value < 100:
        raise UnreadableValue(f"A crop of {frame.crop.value:g} cannot be used: give 1 or more.")


@contextmanager
def watched(look: Callable[[], None]) -> Iterator[None]:
    """Solving in this thread calls ``look()`` every few thousand frames; what that raises ends it, nothing is kept."""
    before = _look.set(look)
    try:
        yield
    finally:
        _look.reset(before)


def rough(plan: Plan) -> Plan:
    """A plan with one crop from some of its frames, and a little more: for the screen, until all are looked at."""
    whole = _final(plan)
    frames = np.unique(np.linspace(0, plan.frames - 1, ROUGH).astype(int))
    far, bounds, _ = _looked_at(whole, [frames])
    by_hand = whole.by_hand(frames / float(plan.rate))
    need = max(
        (float((cover.needs(reach[frames], sides[0]) / by_hand).max())
         for reach, sides in zip(far, bounds, strict=True) if len(sides) == 1), default=1.0,
    )  # fmt: skip
    return replace(plan, crop=1.0 + ROUGH_MORE * max(need - 1.0, 0.0))


def _final(plan: Plan) -> Plan:
    """The plan as it is delivered, without a crop."""
    plates = _plates(
        plan.shot, tuple(plate.source for plate in plan.plates), plan.delivered, plan.pixel_aspect, plan.rate, True
    )
    return Plan(
        plan.shot, plates, plan.delivered, plan.pixel_aspect, plan.rate, plan.frames, plan.delivered, FINAL.kernel,
        "black", True, 1.0,
    )  # fmt: skip


def readings(plan: Plan) -> Readings:
    """Need of every frame and cost of the crop, at final quality whatever the plan's."""
    sources = tuple(plate.source for plate in plan.plates)
    return _readings(plan.shot, sources, plan.delivered, plan.pixel_aspect, plan.rate, plan.frames)


@lru_cache(maxsize=8)
def _readings(
    shot: Shot, sources: tuple[SourceInfo, ...], size: tuple[int, int], aspect: Fraction, rate: Fraction, frames: int
) -> Readings:
    plates = _plates(shot, sources, size, aspect, rate, True)
    plan = Plan(shot, plates, size, aspect, rate, frames, size, FINAL.kernel, "black", True, 1.0)
    source = plan.source
    by_hand = plan.by_hand(np.arange(frames) / float(rate))
    far, bounds, clear = _looked_at(plan, _parts(frames))
    edges, frame = shot.frame.edges, shot.frame
    centre = np.zeros(2)
    if edges in CROPS and frame.recentre and bounds and all(len(each) == 1 for each in bounds):
        _, centre = cover.recentred(far, [each[0] for each in bounds], by_hand)
    breathing = max(frame.breathe, 0.0) * float(rate)

    def needed(shift: np.ndarray) -> np.ndarray:
        need = np.ones(frames)
        for reach, sides in zip(far, bounds, strict=True):
            if len(sides) == 1:
                found = cover.needs(reach, sides[0], shift)
            else:
                found = np.array([cover.needs(r[None], s)[0] for r, s in zip(reach, sides, strict=True)])
            need = np.maximum(need, found / by_hand)
        return need

    need, leaning = needed(centre), None
    if edges == "crop-as-needed" and centre.any():
        # the shift comes and goes with the crop, so that stillness stays where it is
        gone = cover.following(needed(np.zeros(2)), breathing) - 1.0
        leaning = gone / max(float(gone.max()), 1e-12)
        need = needed(leaning[:, None] * centre)
    crop, course = 1.0, None
    if edges == "crop":
        crop = cover.steady(need)
    elif edges == "crop-as-needed":
        course = cover.following(need, breathing)
        crop = float(course.max())
    scale = camera.fit_scale(source.size, float(source.pixel_aspect), size, float(aspect))
    detail = min(1.0, 1.0 / (scale * crop * float(by_hand.max())))
    shift = (float(centre[0]), float(centre[1]))
    made = replace(plan, crop=crop, centre=shift, course=course, leaning=leaning)
    return Readings(need, crop, detail, _cut(made, clear), shift, course, leaning)


def _looked_at(
    plan: Plan, parts: list[np.ndarray]
) -> tuple[list[np.ndarray], list[list[cover.Sides]], list[tuple[int, np.ndarray]]]:
    """How far each frame's views reach towards the sides of the sources that are to fill it, plate by plate and plane
    by plane; the sides (one for the shot, or one for each frame where a plate's placement moves); and the shakes of
    each part, for what must stay clear."""
    far: list[np.ndarray] = []
    bounds: list[list[cover.Sides]] = []
    for plate in plan.filling:
        reach, sides = _reaching(plan, plate, parts)
        far += reach
        bounds += sides
    keep: list[tuple[int, np.ndarray]] = []
    if plan.shot.frame.keep:
        for which in parts:
            _look.get()()
            _, times, shifts = shutter.covered(plan, which)
            keep.append((int(which[0]), shutter.shakes(plan, plan.base, times, shifts)))
    return far, bounds, keep


def _parts(frames: int) -> list[np.ndarray]:
    return [np.arange(first, min(first + PART, frames)) for first in range(0, frames, PART)]


def _reaching(
    plan: Plan, plate: PlatePlan, parts: list[np.ndarray]
) -> tuple[list[np.ndarray], list[list[cover.Sides]]]:
    """The same for one plate."""
    frames = plan.frames
    t = np.arange(frames) / float(plan.rate)
    placed = plate.placed(t)
    steady = bool(np.all(placed == placed[0]))
    unplaced = np.linalg.inv(placed[:1] if steady else placed)
    units = np.linalg.inv(camera.pixels(plan.delivered, float(plan.pixel_aspect)))
    format = plate.source.format
    planes = (0, 1) if format.kind == "yuv" and format.step != (1, 1) else (0,)
    rects = [(_rect(units, plan.delivered, format, k, 0.0), k) for k in planes]

    def sides(plane: int, inset: float, back: np.ndarray) -> cover.Sides:
        return cover.sides(_rect(plate.fit, plate.source.size, format, plane, inset), back)

    bounds = [[sides(k, warp.INSET, u) for u in unplaced] for _, k in rects]
    open_bounds = [sides(k, 0.0, unplaced[0]) for _, k in rects]
    far = [np.full((frames, 4), -np.inf) for _ in planes]
    bending = bend.bent(plan, plate)
    for which in parts:
        _look.get()()
        counts, times, shifts = shutter.covered(plan, which)
        shakes = shutter.shakes(plan, plate, times, shifts)
        moving = np.abs(shakes - np.eye(3)).max(axis=(1, 2, 3)) > 0
        starts = np.cumsum(counts) - counts
        for number, (rect, _) in enumerate(rects):
            unshaken = _unshaken(plan, shakes, rect)
            if bending and frames <= MOST_BENT:
                unshaken, moving = _unbent(plan, plate, which, rect)
            if steady:
                reach = cover.reaches(unshaken, bounds[number][0])
                if bending and frames > MOST_BENT:
                    reach = np.maximum(reach, _at_most(plan, plate, which, rect, [bounds[number][0]]))
                    moving = np.ones(len(reach), bool)
            else:
                own = zip(unshaken, np.repeat(which, counts), strict=True)
                reach = np.stack([cover.reaches(u[None], bounds[number][f])[0] for u, f in own])
                if bending and frames > MOST_BENT:
                    mine = [bounds[number][f] for f in np.repeat(which, counts)]
                    reach = np.maximum(reach, _at_most(plan, plate, which, rect, mine))
            if steady:
                # what does not move is passed on pixel by pixel and needs nothing beyond its edges
                reach[~moving] = _as_if(reach[~moving], open_bounds[number], bounds[number][0])
            far[number][which] = np.maximum.reduceat(reach, starts)
    return far, bounds


def _as_if(reach: np.ndarray, own: cover.Sides, other: cover.Sides) -> np.ndarray:
    """Reaches whose bounds are ``own``, told as reaches of the same need towards ``other``."""
    return reach / np.where(own.room > 1e-9, own.room, 1.0) * other.room


def _unshaken(plan: Plan, shakes: np.ndarray, rect: cover.Rect) -> np.ndarray:
    """S⁻¹ of the outline of the delivered rectangle: (n, m, 2). With a rolling shutter each row has its own S, so the
    ends of the rows at the knots stand for the outline."""
    back = np.linalg.inv(shakes)
    knots = plan.knots
    if len(knots) == 1:
        return _outline(shakes, rect)
    out = []
    for k, height in enumerate(knots):
        y = min(max(float(height), rect.top), rect.bottom)
        out.append(camera.apply(back[:, k], np.array([[rect.left, y], [rect.right, y]])))
    return np.concatenate(out, axis=1)


def _unbent(plan: Plan, plate: PlatePlan, which: np.ndarray, rect: cover.Rect) -> tuple[np.ndarray, np.ndarray]:
    """The same where no matrix says it: what many places along the outline look at, (n, m, 2), and whether any of them
    is moved, (n,) bool."""
    across, down = np.linspace(rect.left, rect.right, OUTLINE), np.linspace(rect.top, rect.bottom, OUTLINE)
    level = np.stack(np.meshgrid(across, np.array([rect.top, rect.bottom])), axis=-1)
    upright = np.stack(np.meshgrid(np.array([rect.left, rect.right]), down), axis=-1)
    outline = np.concatenate([level.reshape(-1, 2), upright.reshape(-1, 2)])
    _, times, shifts = shutter.covered(plan, which)
    out = []
    for t, shift, moved in zip(times.tolist(), shifts, bend.known(plan, plate, times), strict=True):
        if moved is not None:  # all places are seen at one time, whatever their rows
            alone = outline[:, None] - shift
            out.append(bend.sources(plan, plate, t, alone, outline[:, 1], moved).reshape(-1, 2))
            continue
        places = [bend.sources(plan, plate, t, q - shift, q[:, 0, 1]).reshape(-1, 2) for q in (level, upright)]
        out.append(np.concatenate(places))
    found = np.stack(out)
    return found, np.abs(found - outline).max(axis=(1, 2)) > 1e-9


def _at_most(
    plan: Plan, plate: PlatePlan, which: np.ndarray, rect: cover.Rect, bounds: list[cover.Sides]
) -> np.ndarray:
    """A bound on how far bent views reach, (n, 4), where there are too many to ask places along each outline: towards
    one set of sides, or each view towards its own.

    A strand with a region takes a place at the most as far as it would alone, and no shimmer goes beyond its reach.
    """
    _, times, shifts = shutter.covered(plan, which)

    def reaches(shakes: np.ndarray) -> np.ndarray:
        outline = _outline(camera.shift(shifts)[:, None] @ shakes[:, None], rect)
        if len(bounds) == 1:
            return cover.reaches(outline, bounds[0])
        return np.stack([cover.reaches(o[None], b)[0] for o, b in zip(outline, bounds, strict=True)])

    still = reaches(np.broadcast_to(np.eye(3), (len(times), 3, 3)))
    everywhere, alone = bend.separately(plan, plate, times)
    whole = reaches(everywhere)
    far = np.maximum(still, whole)
    for shakes in alone:
        far = far + np.maximum(reaches(shakes) - whole, 0.0)
    shimmered = bend.farthest(plate, times)
    normals = np.stack([each.normal for each in bounds])
    return far + np.einsum("nk,njk->nj", shimmered, np.broadcast_to(np.abs(normals), (len(times), 4, 2)))


def _outline(shakes: np.ndarray, rect: cover.Rect) -> np.ndarray:
    """S⁻¹ of the corners of a rectangle: (n, 4, 2)."""
    return camera.apply(np.linalg.inv(shakes[:, 0]), rect.corners())


def _cut(plan: Plan, parts: list[tuple[int, np.ndarray]]) -> np.ndarray:
    """Frames in which a keep-clear box leaves the delivered rectangle: (frames,) bool."""
    cut = np.zeros(plan.frames, bool)
    if not plan.shot.frame.keep:
        return cut
    width, height = plan.source.size
    corners = np.concatenate([
        np.array([[b.x, b.y], [b.x + b.width, b.y], [b.x + b.width, b.y + b.height], [b.x, b.y + b.height]])
        * (width, height) - 0.5
        for b in plan.shot.frame.keep
    ])  # fmt: skip
    half = np.array([0.5 * plan.delivered[0] * float(plan.pixel_aspect) / plan.delivered[1], 0.5]) + 1e-6
    for first, shakes in parts:
        which = np.arange(first, min(first + PART, plan.frames))
        counts = shutter.covered(plan, which)[0]
        frame = np.repeat(which, counts)
        chains = np.stack([plan.to_frame(int(i)) for i in which])[frame - first]
        for k in range(shakes.shape[1]):
            places = camera.apply(shakes[:, k] @ chains, corners)
            outside = np.isnan(places).any(axis=(1, 2)) | (np.abs(places) > half).any(axis=(1, 2))
            np.logical_or.at(cut, frame, outside)
    return cut


def _rect(to_units: np.ndarray, size: tuple[int, int], format: PixelFormat, plane: int, inset: float) -> cover.Rect:
    """The pixel-centre rectangle of a plane in frame units, ``inset`` pixels of that plane in."""
    (sx, sy), (ox, oy) = format.plane_step(plane), format.plane_siting(plane)
    width, height = format.plane_size(plane, size)
    low = np.array([ox + sx * inset, oy + sy * inset])
    high = np.array([ox + sx * (width - 1 - inset), oy + sy * (height - 1 - inset)])
    corners = np.stack([low, high]) @ to_units[:2, :2].T + to_units[:2, 2]
    return cover.Rect(*corners[0], *corners[1])
