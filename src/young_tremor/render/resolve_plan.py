"""Intent to plan: the size, the rate, the edges, and the least framing that covers every exposure of every frame."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache

import numpy as np
from msgspec import structs

from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.base.frames import SourceInfo
from young_tremor.base.pixels import MOST_DELIVERED
from young_tremor.base.units import parse_rate
from young_tremor.geometry import camera, cover
from young_tremor.model.curve import Curve
from young_tremor.model.edge_modes import EDGE_MODES, crops
from young_tremor.model.project import Plate, Shot, Shutter
from young_tremor.render import displacement, shutter
from young_tremor.render.crop_extents import LOOK, PART, WIDE, beyond, cut_boxes, looked_at, parts_of
from young_tremor.render.plan import FINAL, Plan, PlatePlan, Quality

LONG, LONG_BENT = 1200, 48  # frames from which a crop takes long: where matrices say it, and where places are asked
ROUGH, ROUGH_BENT = 600, 60  # frames that a first crop is made of, likewise
ROUGH_MORE = 1.4  # by how much more is taken


@dataclass(frozen=True, eq=False)
class FrameReadings:
    """What the edges cost.

    ``need`` (frames,): the crop that each frame needs on top of that by hand, 1 where it is covered as it is.
    ``crop``: what the edges add (the most of it where it follows the motion, ``crop_curve`` (frames,)), ``centre`` its
    shift. ``detail``: source pixels per delivered pixel along a line at the largest crop, at most 1. ``cut`` (frames,):
    whether a keep-clear box leaves the frame.
    """

    need: np.ndarray
    crop: float
    detail: float
    cut: np.ndarray
    centre: tuple[float, float] = (0.0, 0.0)
    crop_curve: np.ndarray | None = None
    recentre_weight: np.ndarray | None = None

    @property
    def worst(self) -> int:
        """The frame that needs the largest crop."""
        return int(np.argmax(self.need))

    @property
    def uncovered(self) -> float:
        """Share of frames that would show a gap without a crop."""
        return float(np.mean(self.need > 1.0 + 1e-9))


def resolve(
    shot: Shot,
    sources: SourceInfo | tuple[SourceInfo, ...],
    quality: Quality = FINAL,
    *,
    shaken: bool = True,
    known: Plan | None = None,
) -> Plan:
    """The plan of a shot, ``sources`` being what its plates show, in their order.

    ``shaken=False`` is the still original: no shake and no crop; a ``known`` plan's framing is taken over instead of
    solving for the least one.
    """
    plan = _bare(shot, sources if isinstance(sources, tuple) else (sources,), quality, shaken)
    if not shaken or not crops(shot.frame.edges):
        return plan
    if known is not None:
        return replace(
            plan,
            crop=known.crop,
            centre=known.centre,
            crop_curve=known.crop_curve,
            recentre_weight=known.recentre_weight,
        )
    found_readings = readings(plan)
    return replace(
        plan,
        crop=found_readings.crop,
        centre=found_readings.centre,
        crop_curve=found_readings.crop_curve,
        recentre_weight=found_readings.recentre_weight,
    )


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
    border = EDGE_MODES[shot.frame.edges].border
    border = "hold" if border == "soft" and not shaken else border
    if quality.overscan > 1 or (shot.frame.fit != "fill" and border == "hold" and crops(shot.frame.edges)):
        border = "black"  # what the picture does not reach is meant to be seen
    plates = _plates(shot, sources, size, aspect, rate, shaken)
    return Plan(
        shot,
        plates,
        size,
        aspect,
        rate,
        frames,
        quality.size or size,
        quality.kernel,
        border,
        shaken,
        1.0,
        overscan=quality.overscan,
        views=quality.views,
    )


def _plates(
    shot: Shot, sources: tuple[SourceInfo, ...], size: tuple[int, int], aspect: Fraction, rate: Fraction, shaken: bool
) -> tuple[PlatePlan, ...]:
    wide = size[0] * float(aspect) / size[1]
    focal = camera.focal(shot.frame.focal_mm, wide)
    return tuple(
        PlatePlan(
            shot,
            plate,
            source,
            rate,
            wide,
            focal,
            shaken,
            camera.fit(source.size, float(source.pixel_aspect), size, float(aspect), _fit(shot, plate)),
        )
        for plate, source in zip(shot.plates, sources, strict=True)
    )


def _fit(shot: Shot, plate: Plate) -> str:
    """How a plate is fitted: graphics always as large as would fill the frame, by which their size is told."""
    return shot.frame.fit if plate is shot.footage else "fill"


def _sane(shot: Shot) -> None:
    """Refuse numbers that no picture can be made of, in one sentence."""
    frame = shot.frame
    camera.focal(frame.focal_mm, 1.0)
    for words, value, most in (
        ("A readout", frame.readout, 1.0),
        ("A pivot", frame.pivot.x.value, 1e3),
        ("A pivot", frame.pivot.y.value, 1e3),
    ):
        if not abs(value) <= most:
            raise UnreadableValue(f"{words} of {value:g} cannot be used: give a number up to {most:g}.")
    if not 0 < frame.crop.value < 100:
        raise UnreadableValue(f"A crop of {frame.crop.value:g} cannot be used: give 1 or more.")


@contextmanager
def watch_solving(look: Callable[[], None]) -> Iterator[None]:
    """Solving in this thread calls ``look()`` every few thousand frames; what that raises ends it, nothing is kept."""
    before = LOOK.set(look)
    try:
        yield
    finally:
        LOOK.reset(before)


def slow(plan: Plan) -> bool:
    """Whether the crop takes so long to solve that a screen had better go on with a rough one meanwhile."""
    return plan.frames > (LONG_BENT if _needs_displacement(plan) else LONG)


def _needs_displacement(plan: Plan) -> bool:
    """Whether places have to be asked one by one where they look."""
    return any(displacement.parts(plate) for plate in plan.filling)


def _stands(plate: PlatePlan) -> bool:
    """Whether a plate's placement is the same all the time."""
    place = plate.plate.placement
    return all(curve.constant for curve in (place.x, place.y, place.size, place.angle))


def _look_closely(plan: Plan, far: list[np.ndarray], some: np.ndarray, path: np.ndarray) -> None:
    """Put in how far some frames (frames,) reach at all moments that a crop has to cover."""
    which = np.flatnonzero(some)
    if not len(which):
        return
    closely = looked_at(plan, np.array_split(which, len(which) // PART + 1), path=path)[0]
    for reach, fine in zip(far, closely, strict=True):
        reach[which] = fine[which]


def rough(plan: Plan) -> Plan:
    """A plan with one crop from the middles of some of its frames' exposures, and a little more: for the screen, until
    all are looked at. Even steps in time are what a motion is known at soonest."""
    middles = structs.replace(plan.shot.frame, shutter=Shutter(Curve(0.0)), readout=0.0, keep=())
    whole = _final(replace(plan, shot=structs.replace(plan.shot, frame=middles)))
    frames = np.arange(0, plan.frames, max(plan.frames // (ROUGH_BENT if _needs_displacement(plan) else ROUGH), 1))
    far, bounds, _ = looked_at(whole, [frames])
    by_hand = whole.by_hand(frames / float(plan.rate))
    need = max(
        (
            float((cover.needs(reach[frames], sides[0]) / by_hand).max())
            for reach, sides in zip(far, bounds, strict=True)
            if len(sides) == 1
        ),
        default=1.0,
    )
    return replace(plan, crop=1.0 + ROUGH_MORE * max(need - 1.0, 0.0))


def _final(plan: Plan) -> Plan:
    """The plan as it is delivered, without a crop."""
    plates = _plates(
        plan.shot, tuple(plate.source for plate in plan.plates), plan.delivered, plan.pixel_aspect, plan.rate, True
    )
    return Plan(
        plan.shot,
        plates,
        plan.delivered,
        plan.pixel_aspect,
        plan.rate,
        plan.frames,
        plan.delivered,
        FINAL.kernel,
        "black",
        True,
        1.0,
    )


def readings(plan: Plan) -> FrameReadings:
    """Need of every frame and cost of the crop, at final quality whatever the plan's."""
    sources = tuple(plate.source for plate in plan.plates)
    return _readings(plan.shot, sources, plan.delivered, plan.pixel_aspect, plan.rate, plan.frames)


@lru_cache(maxsize=8)
def _readings(
    shot: Shot, sources: tuple[SourceInfo, ...], size: tuple[int, int], aspect: Fraction, rate: Fraction, frames: int
) -> FrameReadings:
    plates = _plates(shot, sources, size, aspect, rate, True)
    plan = Plan(shot, plates, size, aspect, rate, frames, size, FINAL.kernel, "black", True, 1.0)
    source = plan.source
    by_hand = plan.by_hand(np.arange(frames) / float(rate))
    edges, frame = shot.frame.edges, shot.frame
    # the largest need is that of few frames: only those are looked at closely, where one crop is to cover all
    few = edges != "crop-as-needed" and not frame.keep and bool(np.all(by_hand == by_hand[0]))
    few = few and all(_stands(plate) for plate in plan.filling)
    far, bounds, clear = looked_at(plan, parts_of(frames, WIDE if few else PART), few=few)
    path = shutter.paths(plan, np.arange(frames)) if few else np.zeros(frames)
    more = beyond(plan, bounds, path) if few else []
    if few:
        near = [(reach + room >= reach.max(axis=0)).any(axis=1) for reach, room in zip(far, more, strict=True)]
        _look_closely(plan, far, np.any(near, axis=0) if near else np.zeros(frames, bool), path)
    centre = np.zeros(2)
    if crops(edges) and frame.recentre and bounds and all(len(bound) == 1 for bound in bounds):
        _, centre = cover.recentred_crop(far, [bound[0] for bound in bounds], by_hand)
    breathing = max(frame.breathe, 0.0) * float(rate)

    def needed(shift: np.ndarray) -> np.ndarray:
        need = np.ones(frames)
        for reach, sides in zip(far, bounds, strict=True):
            if len(sides) == 1:
                values = cover.needs(reach, sides[0], shift)
            else:
                values = np.array([cover.needs(r[None], s)[0] for r, s in zip(reach, sides, strict=True)])
            need = np.maximum(need, values / by_hand)
        return need

    need, leaning = needed(centre), None
    if few:
        # whether a frame is covered without a crop is known of all of them
        most = np.ones(frames)
        for reach, room, sides in zip(far, more, bounds, strict=True):
            most = np.maximum(most, cover.needs(reach + room, sides[0], centre) / by_hand)
        _look_closely(plan, far, (need <= 1) & (most > 1), path)
        need = needed(centre)
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
    how = _fit(shot, shot.footage)
    scale = camera.fit_scale(source.size, float(source.pixel_aspect), size, float(aspect), how)
    detail = min(1.0, 1.0 / (scale * crop * float(by_hand.max())))
    shift = (float(centre[0]), float(centre[1]))
    new_plan = replace(plan, crop=crop, centre=shift, crop_curve=course, recentre_weight=leaning)
    return FrameReadings(need, crop, detail, cut_boxes(new_plan, clear), shift, course, leaning)
