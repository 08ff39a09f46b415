"""How far the views of a shot's frames reach towards the sides of what has to fill them."""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar

import numpy as np

from young_tremor.base.pixels import PixelFormat
from young_tremor.geometry import camera, cover
from young_tremor.render import depth_map, displacement, plane_matrix, shutter
from young_tremor.render.plan import Plan, PlatePlan

PART, WIDE = 64, 512  # frames looked at together, and between two looks whether it is still wanted: closely, or not
TURN, SURE = 1 / 6, 0.05  # of a frame's path, and pixels, by which it may turn beyond few moments; an eighth would do
MOST_BENT = 1500  # frames of a bent shot that are looked at place by place
OUTLINE = 160  # places along each side of a frame whose picture is bent
LOOK: ContextVar[Callable[[], None]] = ContextVar("look", default=lambda: None)


def looked_at(
    plan: Plan, parts: list[np.ndarray], *, few: bool = False, path: np.ndarray | None = None
) -> tuple[list[np.ndarray], list[list[cover.SourceSides]], list[tuple[int, np.ndarray]]]:
    """How far each frame's views reach towards the sides of the sources that are to fill it, plate by plate and plane
    by plane; the sides (one for the shot, or one for each frame where a plate's placement moves); and the shakes of
    each part, for what must stay clear. ``few``: of few moments of each frame; ``path`` (frames,): how far
    frames go, if it is known (:func:`shutter.covered`)."""
    far: list[np.ndarray] = []
    bounds: list[list[cover.SourceSides]] = []
    for plate in plan.filling:
        reach, sides = _reaching(plan, plate, parts, few, path)
        far += reach
        bounds += sides
    keep: list[tuple[int, np.ndarray]] = []
    if plan.shot.frame.keep:
        for which in parts:
            LOOK.get()()
            _, times, shifts = shutter.covered_moments(plan, which)
            keep.append((int(which[0]), shutter.shakes(plan, plan.base, times, shifts)))
    return far, bounds, keep


def parts_of(frames: int, long: int = PART) -> list[np.ndarray]:
    """The numbers of frames, in parts of at most ``long``."""
    return [np.arange(first, min(first + long, frames)) for first in range(0, frames, long)]


def beyond(plan: Plan, bounds: list[list[cover.SourceSides]], path: np.ndarray) -> list[np.ndarray]:
    """How much farther than few moments say the views of frames may reach towards sides that stay: (frames, 4) each.
    ``path`` (frames,): of :func:`shutter.paths`."""
    more = (TURN * path + SURE) / plan.size[1]
    return [more[:, None] * np.linalg.norm(sides[0].normal, axis=1) for sides in bounds]


def _reaching(
    plan: Plan, plate: PlatePlan, parts: list[np.ndarray], few: bool, path: np.ndarray | None
) -> tuple[list[np.ndarray], list[list[cover.SourceSides]]]:
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

    def sides(plane: int, inset: float, back: np.ndarray) -> cover.SourceSides:
        return cover.sides(_rect(plate.fit, plate.source.size, format, plane, inset), back)

    bounds = [[sides(k, plane_matrix.INSET, u) for u in unplaced] for _, k in rects]
    open_bounds = [sides(k, 0.0, unplaced[0]) for _, k in rects]
    far = [np.full((frames, 4), -np.inf) for _ in planes]
    bending = displacement.is_bent(plan, plate)
    for which in parts:
        LOOK.get()()
        counts, times, shifts = shutter.covered_moments(
            plan, which, few=few, path=None if path is None else path[which]
        )
        shakes = shutter.shakes(plan, plate, times, shifts)
        moving = np.abs(shakes - np.eye(3)).max(axis=(1, 2, 3)) > 0
        starts = np.cumsum(counts) - counts
        back = np.linalg.inv(shakes)
        for number, (rect, _) in enumerate(rects):
            if bending and frames <= MOST_BENT:
                unshaken, moving = _unbent(plan, plate, times, shifts, rect)
            else:
                unshaken = _unshaken_outline(plan, back, rect)
            if steady:
                reach = cover.reaches(unshaken, bounds[number][0])
                if bending and frames > MOST_BENT:
                    reach = np.maximum(reach, _at_most(plan, plate, (times, shifts), rect, [bounds[number][0]]))
                    moving = np.ones(len(reach), bool)
            else:
                own = zip(unshaken, np.repeat(which, counts), strict=True)
                reach = np.stack([cover.reaches(u[None], bounds[number][f])[0] for u, f in own])
                if bending and frames > MOST_BENT:
                    mine = [bounds[number][f] for f in np.repeat(which, counts)]
                    reach = np.maximum(reach, _at_most(plan, plate, (times, shifts), rect, mine))
            if steady:
                # what does not move is passed on pixel by pixel and needs nothing beyond its edges
                reach[~moving] = _as_if(reach[~moving], open_bounds[number], bounds[number][0])
            far[number][which] = np.maximum.reduceat(reach, starts)
    return far, bounds


def _as_if(reach: np.ndarray, own: cover.SourceSides, other: cover.SourceSides) -> np.ndarray:
    """Reaches whose bounds are ``own``, told as reaches of the same need towards ``other``."""
    return reach / np.where(own.room > 1e-9, own.room, 1.0) * other.room


def _unshaken_outline(plan: Plan, back: np.ndarray, rect: cover.Rect) -> np.ndarray:
    """S⁻¹, ``back`` (n, k, 3, 3), of the outline of the delivered rectangle: (n, m, 2). With a rolling shutter each row
    has its own S, so the ends of the rows at the knots stand for the outline."""
    knots = plan.knots
    if len(knots) == 1:
        return camera.apply(back[:, 0], rect.corners())
    out = []
    for k, height in enumerate(knots):
        y = min(max(float(height), rect.top), rect.bottom)
        out.append(camera.apply(back[:, k], np.array([[rect.left, y], [rect.right, y]])))
    return np.concatenate(out, axis=1)


def _unbent(
    plan: Plan, plate: PlatePlan, times: np.ndarray, shifts: np.ndarray, rect: cover.Rect
) -> tuple[np.ndarray, np.ndarray]:
    """The same where no matrix says it: what many places along the outline look at, (n, m, 2), and whether any of them
    is moved, (n,) bool."""
    # of a plate with depth each place looks somewhere between where the nearest and the farthest ones do
    ends = depth_map.ends(plate.plate.depth) if plate.plate.depth is not None and plate.deep else (1.0,)
    if displacement.deep_alone(plan, plate):  # either end is a matrix, for which corners stand
        corners = rect.corners()
        at = corners - shifts[:, None]
        look = displacement.deep_look(plate, times, at)
        values = np.concatenate([look.at(near) for near in ends], axis=1)
        return values, np.abs(values - np.tile(corners, (len(ends), 1))).max(axis=(1, 2)) > 1e-9
    across, down = np.linspace(rect.left, rect.right, OUTLINE), np.linspace(rect.top, rect.bottom, OUTLINE)
    level = np.stack(np.meshgrid(across, np.array([rect.top, rect.bottom])), axis=-1)
    upright = np.stack(np.meshgrid(np.array([rect.left, rect.right]), down), axis=-1)
    outline = np.concatenate([level.reshape(-1, 2), upright.reshape(-1, 2)])
    out, unshifted = [], displacement.DeliveredPlaces(outline[:, None], outline[:, 1])
    for t, shift, moved in zip(times.tolist(), shifts, displacement.known_channels(plan, plate, times), strict=True):
        places = []
        for near in ends:
            if moved is not None:  # all places are seen at one time, whatever their rows
                alone = (
                    displacement.DeliveredPlaces(outline[:, None] - shift, outline[:, 1]) if shift.any() else unshifted
                )
                places.append(displacement.sources(plan, plate, t, alone, moved, near).reshape(-1, 2))
                continue
            places += [
                displacement.sources(
                    plan, plate, t, displacement.DeliveredPlaces(q - shift, q[:, 0, 1]), None, near
                ).reshape(-1, 2)
                for q in (level, upright)
            ]
        out.append(np.concatenate(places))
    values = np.stack(out)
    return values, np.abs(values - np.tile(outline, (len(ends), 1))).max(axis=(1, 2)) > 1e-9


def _at_most(
    plan: Plan,
    plate: PlatePlan,
    looks: tuple[np.ndarray, np.ndarray],
    rect: cover.Rect,
    bounds: list[cover.SourceSides],
) -> np.ndarray:
    """A bound on how far bent views reach, (n, 4), where there are too many to ask places along each outline: towards
    one set of sides, or each view towards its own.

    A strand with a region takes a place at the most as far as it would alone, and no shimmer goes beyond its reach.
    """
    times, shifts = looks

    def reaches(shakes: np.ndarray) -> np.ndarray:
        outline = _outline(camera.shift(shifts)[:, None] @ shakes[:, None], rect)
        if len(bounds) == 1:
            return cover.reaches(outline, bounds[0])
        return np.stack([cover.reaches(o[None], b)[0] for o, b in zip(outline, bounds, strict=True)])

    still = reaches(np.broadcast_to(np.eye(3), (len(times), 3, 3)))
    far = still
    for near in depth_map.ends(plate.plate.depth) if plate.plate.depth is not None and plate.deep else (1.0,):
        everywhere, alone = displacement.separately(plan, plate, times, near)
        whole = reaches(everywhere)
        mine = np.maximum(still, whole)
        for shakes in alone:
            mine = mine + np.maximum(reaches(shakes) - whole, 0.0)
        far = np.maximum(far, mine)
    shimmered = displacement.farthest(plate, times)
    normals = np.stack([bound.normal for bound in bounds])
    return far + np.einsum("nk,njk->nj", shimmered, np.broadcast_to(np.abs(normals), (len(times), 4, 2)))


def _outline(shakes: np.ndarray, rect: cover.Rect) -> np.ndarray:
    """S⁻¹ of the corners of a rectangle: (n, 4, 2)."""
    return camera.apply(np.linalg.inv(shakes[:, 0]), rect.corners())


def cut_boxes(plan: Plan, parts: list[tuple[int, np.ndarray]]) -> np.ndarray:
    """Frames in which a keep-clear box leaves the delivered rectangle: (frames,) bool."""
    out = np.zeros(plan.frames, bool)
    if not plan.shot.frame.keep:
        return out
    width, height = plan.source.size
    corners = np.concatenate(
        [
            np.array([[b.x, b.y], [b.x + b.width, b.y], [b.x + b.width, b.y + b.height], [b.x, b.y + b.height]])
            * (width, height)
            - 0.5
            for b in plan.shot.frame.keep
        ]
    )
    half = np.array([0.5 * plan.delivered[0] * float(plan.pixel_aspect) / plan.delivered[1], 0.5]) + 1e-6
    for first, shakes in parts:
        which = np.arange(first, min(first + PART, plan.frames))
        counts = shutter.covered_moments(plan, which)[0]
        frame = np.repeat(which, counts)
        chains = np.stack([plan.to_frame(int(i)) for i in which])[frame - first]
        for k in range(shakes.shape[1]):
            places = camera.apply(shakes[:, k] @ chains, corners)
            outside = np.isnan(places).any(axis=(1, 2)) | (np.abs(places) > half).any(axis=(1, 2))
            np.logical_or.at(out, frame, outside)
    return out


def _rect(to_units: np.ndarray, size: tuple[int, int], format: PixelFormat, plane: int, inset: float) -> cover.Rect:
    """The pixel-centre rectangle of a plane in frame units, ``inset`` pixels of that plane in."""
    (sx, sy), (ox, oy) = format.plane_step(plane), format.plane_siting(plane)
    width, height = format.plane_size(plane, size)
    low = np.array([ox + sx * inset, oy + sy * inset])
    high = np.array([ox + sx * (width - 1 - inset), oy + sy * (height - 1 - inset)])
    corners = np.stack([low, high]) @ to_units[:2, :2].T + to_units[:2, 2]
    return cover.Rect(*corners[0], *corners[1])
