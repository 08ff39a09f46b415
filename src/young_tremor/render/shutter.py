"""When a frame is seen: its exposure cut into views, smear and afterimages besides."""

from __future__ import annotations

import math

import numpy as np

from young_tremor.geometry import camera
from young_tremor.motion import sample
from young_tremor.render import depth_map, displacement
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.plane_matrix import between

UNEVEN = 0.01  # pixels by which the ways of places a pixel apart may differ within one view
MOST_VIEWS = 128
MOST_AFTERIMAGES = 12
PROBE_EVERY = 0.0105  # seconds between looks at where the picture is during an exposure: 25 Hz is not missed
FEW_COVERED, MOST_COVERED = 3, 65  # moments of a frame that a crop has to cover


def way_of(plan: Plan, plates: tuple[PlatePlan, ...], looks: np.ndarray) -> tuple[np.ndarray, float]:
    """How far the fastest place of the fastest plate has gone at each of the looks, in rendered pixels (k,), and by how
    many pixels the ways of places a pixel apart differ."""
    best, uneven = np.zeros(len(looks)), 0.0
    half = 0.5 * plan.base.aspect
    corners = np.array([[-half, -0.5], [half, -0.5], [half, 0.5], [-half, 0.5], [0.0, 0.0]])
    for plate in plates:
        if displacement.is_bent(plan, plate):
            across, down = np.linspace(-half, half, 9), np.linspace(-0.5, 0.5, 6)
            q = np.stack(np.meshgrid(across, down), axis=-1)
            nearest = plate.nearest
            if displacement.deep_alone(plan, plate):
                every = np.broadcast_to(q, (len(looks), *q.shape))
                grid = displacement.deep_look(plate, looks, every).at(nearest)
            else:
                known = zip(looks.tolist(), displacement.known_channels(plan, plate, looks), strict=True)
                shared = displacement.DeliveredPlaces(q, down)
                grid = np.stack([displacement.sources(plan, plate, t, shared, k, nearest) for t, k in known])
            places, gone = grid.reshape(len(looks), -1, 2), grid[-1] - grid[0]
            apart = (across[1] - across[0], down[1] - down[0])
            steps = [np.linalg.norm(np.diff(gone, axis=1 - k), axis=2).max() / apart[k] for k in range(2)]
            uneven = max(uneven, *map(float, steps))
        else:
            places = camera.apply(plate.shakes(looks), corners)
            gone = np.nan_to_num(places[-1] - places[0])
            apart = (np.linalg.norm(gone[1] - gone[0]) / (2 * half), np.linalg.norm(gone[3] - gone[0]))
            uneven = max(uneven, *map(float, apart))
        steps = np.linalg.norm(np.diff(np.nan_to_num(places, nan=9.0), axis=0), axis=2)
        ways = np.concatenate([np.zeros((1, steps.shape[1])), np.cumsum(steps, axis=0)]) * plan.size[1] / plan.overscan
        longest = ways[:, int(np.argmax(ways[-1]))]
        best = longest if longest[-1] > best[-1] else best
    return best, uneven


def paths(plan: Plan, indices: np.ndarray) -> np.ndarray:
    """How far the fastest place of each frame goes while the shutter is open, in rendered pixels: (n,)."""
    middle, length = plan.shutter(np.asarray(indices) / float(plan.rate))
    if not plan.shaken or not length.any():
        return np.zeros(len(middle))
    times = _looks(middle, length)
    half = 0.5 * plan.base.aspect
    corners = np.array([[-half, -0.5], [half, -0.5], [half, 0.5], [-half, 0.5]])
    longest = np.zeros(len(middle))
    for plate in plan.plates:
        shakes = plate.shakes(times.ravel())
        places = camera.apply(shakes, corners).reshape(*times.shape, 4, 2)
        steps = np.linalg.norm(np.diff(places, axis=1), axis=3)
        longest = np.maximum(longest, np.nan_to_num(steps, nan=9.0).sum(axis=1).max(axis=1) * plan.size[1])
    return longest


def _looks(middle: np.ndarray, length: np.ndarray) -> np.ndarray:
    """Moments of exposures at which it is looked where the picture is: (frames, k)."""
    return middle[:, None] + length[:, None] * np.linspace(
        -0.5, 0.5, max(FEW_COVERED, math.ceil(length.max() / PROBE_EVERY) + 1)
    )


def covered_moments(
    plan: Plan, indices: np.ndarray, *, few: bool = False, path: np.ndarray | None = None
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The moments that a crop has to cover: exposures from end to end, the ends of a smear, afterimages.

    ``few``: only the ends of each exposure and what lies between two looks (:func:`paths`): these do not depend on how
    far anything moves. ``path`` (n,): what :func:`paths` says of the frames, if it is known.

    Returns
    -------
    counts : (n,) int
        How many there are of each frame.
    times : (sum of counts,) float64
        Frame after frame.
    shifts : (sum of counts, 2) float64
        By how much each is shifted besides, in frame units.
    """
    seconds = np.asarray(indices) / float(plan.rate)
    middle, length = plan.shutter(seconds)
    # a turn half-way down a path of p goes p/(2m²) beyond the nearest of m + 1 moments: a seventieth of a pixel, and an
    # eighteenth where the picture is bent and each look takes long
    often = 3.0 if any(displacement.is_bent(plan, plate) for plate in plan.plates) else 6.0
    looks = _looks(middle, length)
    counts = np.full(len(middle), looks.shape[1])
    if not few:
        path = paths(plan, indices) if path is None else path
        counts = np.clip(np.ceil(often * np.sqrt(path)) + 1, FEW_COVERED, MOST_COVERED).astype(int)
    counts = np.where(plan.shaken & (length > 0), counts, 1)
    which = np.repeat(np.arange(len(middle)), counts)
    rank = np.arange(len(which)) - np.repeat(np.cumsum(counts) - counts, counts)
    times = middle[which] + length[which] * (rank / np.maximum(counts[which] - 1, 1) - 0.5 * (counts[which] > 1))
    if few and plan.shaken and length.all():
        times = looks.ravel()
    lines, earlier = smears(plan, seconds), afterimages(plan, seconds)
    if not plan.shaken or not (lines or earlier):
        return counts, times, np.zeros((len(times), 2))
    starts = np.cumsum(counts) - counts
    out: list[tuple[np.ndarray, np.ndarray]] = []
    for number, (start, count) in enumerate(zip(starts, counts, strict=True)):
        mine, shifts = times[start : start + count], np.zeros((count, 2))
        if number in lines:
            mine, shifts = np.tile(mine, 2), np.repeat(lines[number], count, axis=0)
        if number in earlier:
            ago = earlier[number][0]
            mine, shifts = np.concatenate([mine, ago]), np.concatenate([shifts, np.zeros((len(ago), 2))])
        out.append((mine, shifts))
    return np.array([len(item[0]) for item in out]), *(np.concatenate([item[k] for item in out]) for k in range(2))  # type: ignore[return-value]


def shakes(plan: Plan, plate: PlatePlan, times: np.ndarray, shifts: np.ndarray) -> np.ndarray:
    """S of a plate at moments (n,) and shifts (n, 2) as the rows at the plan's knots see it: (n, k, 3, 3)."""
    if not shifts.any() or plate.plate.glass:  # what smears the shot does not touch the glass
        return plan.rolled(times, plate)
    once, which = np.unique(times, return_inverse=True)
    return camera.shift(shifts)[:, None] @ plan.rolled(once, plate)[which]


def moments_of_parts(
    plan: Plan, index: int, plate: PlatePlan, parts: tuple[PlatePlan, ...], times: np.ndarray, shifts: np.ndarray
) -> np.ndarray:
    """:func:`moments` of each part of a plate: (parts, n, k, 3, 3)."""
    knots = len(plan.knots)
    if not (plan.shaken and plate.moved):
        moved = np.broadcast_to(np.eye(3), (len(parts), len(times), knots, 3, 3))
    else:
        rows = np.add.outer(times, plan.knots * plan.shot.frame.readout if knots > 1 else plan.knots).ravel()
        channels = plate.channels_of(parts, rows)
        moved = camera.shake(channels.reshape(-1, 6), plate.focal).reshape(len(parts), len(times), knots, 3, 3)
        if shifts.any() and not plate.plate.glass:
            moved = camera.shift(shifts)[None, :, None] @ moved
    return np.asarray(np.linalg.inv(moved @ plan.to_frame(index, plate)) @ plan.to_units)


def moments(plan: Plan, index: int, plate: PlatePlan, times: np.ndarray, shifts: np.ndarray) -> np.ndarray:
    """Rendered luma pixel → nominal source luma pixel of a plate at moments (n,) with shifts (n, 2), for each knot:
    (n, k, 3, 3)."""
    moved = shakes(plan, plate, times, shifts) if plan.shaken else np.broadcast_to(np.eye(3), (len(times), 1, 3, 3))
    return np.asarray(np.linalg.inv(moved @ plan.to_frame(index, plate)) @ plan.to_units)


def places(plan: Plan, plate: PlatePlan, index: int, times: np.ndarray, shift: np.ndarray, q: np.ndarray) -> np.ndarray:
    """Where delivered places ``q`` (m, 2) in frame units look in the nominal source at moments (n,), luma pixels:
    (n, m, 2). ``shift`` (2,): of the view, in frame units."""
    back = np.linalg.inv(plan.to_frame(index, plate))
    rows = np.clip(q[:, 1] / plan.overscan, -0.5, 0.5)
    depth = plate.plate.depth
    if displacement.deep_alone(plan, plate) and depth is not None and not depth_map.moves(depth):
        p = displacement.seen_at_once(plate, times, np.broadcast_to(q - shift, (len(times), *q.shape)), back)
        return np.asarray(p @ back[:2, :2].T + back[:2, 2])
    if displacement.is_bent(plan, plate):

        def near(t: float, moved: displacement.KnownChannels | None) -> np.ndarray | float:
            return displacement.nearness_of(plan, plate, t, alone, back, moved) if plate.deep else 1.0

        moved = zip(times.tolist(), displacement.known_channels(plan, plate, times), strict=True)
        alone = displacement.DeliveredPlaces((q - shift)[:, None], rows)
        p = np.stack([displacement.sources(plan, plate, t, alone, k, near(t, k))[:, 0] for t, k in moved])
        return np.asarray(p @ back[:2, :2].T + back[:2, 2])
    inverse = np.linalg.inv(shakes(plan, plate, times, np.broadcast_to(shift, (len(times), 2))) @ np.linalg.inv(back))
    if inverse.shape[1] == 1:
        return np.nan_to_num(camera.apply(inverse[:, 0], q))
    mapped = np.einsum("nmij,mj->nmi", between(inverse, rows), np.column_stack([q, np.ones(len(q))]))
    return np.asarray(mapped[..., :2] / np.maximum(mapped[..., 2:], 1e-9))


def afterimages(plan: Plan, seconds: np.ndarray) -> dict[int, tuple[np.ndarray, np.ndarray]]:
    """Times and sizes of the afterimages of frames, by place in ``seconds``; frames without are left out."""
    afterimages = plan.shot.frame.afterimages
    if afterimages.count.constant and afterimages.count.value < 0.5:
        return {}
    counts = np.clip(np.rint(afterimages.count.at(seconds)), 0, MOST_AFTERIMAGES).astype(int)
    opacity = min(max(afterimages.opacity, 0.0), 1.0)
    steps = {int(n): np.arange(1, n + 1) for n in np.unique(counts) if n}
    return {
        k: (seconds[k] - steps[int(n)] * afterimages.lag, opacity ** steps[int(n)]) for k, n in enumerate(counts) if n
    }


def smears(plan: Plan, seconds: np.ndarray) -> dict[int, np.ndarray]:
    """The two ends (2, 2) in frame units over which frames near a hit are smeared, by place in ``seconds``."""
    smear, hits = plan.shot.frame.smear, plan.shot.hits
    if smear.frames <= 0 or not smear.length or not hits:
        return {}
    out = {}
    for k, t in enumerate(seconds.tolist()):
        size, strongest = plan.hit_envelope(t, smear.frames, smear.fall)
        length = smear.length / 100.0 * size
        turn = math.radians(sample.heading(plan.shot.shake, strongest) if smear.angle is None else smear.angle)
        if length > 0:
            out[k] = np.array([[-0.5], [0.5]]) * length * np.array([math.cos(turn), math.sin(turn)])
    return out
