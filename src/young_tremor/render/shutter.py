"""When a frame is seen: its exposure cut into views, smear and afterimages besides."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from young_tremor.geometry import camera
from young_tremor.motion import sample
from young_tremor.render import bend, depths
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.warp import between

FELT = 0.3  # pixels: a path shorter than this is no blur
SHORT = 4.0  # pixels of path up to which views about a pixel apart are all it takes
NEXT = 1.07  # how many apart
WHOLE = 13.0  # pixels of path up to which one way is drawn from end to end
PAIR = 0.3  # pixels apart that two views of it are: what the kernel takes away between pixels it leaves at others
STEP = 8.0  # pixels of path to a view beyond that
SMEAR_STEP = 5.0  # pixels of a smear to a view
RAMP = 2.0  # pixels over which one view's way fades into the next one's
SHARP = 16.0  # pixels of path up to which views are taken from the sharpest picture
CLOSE = 2.5  # pixels of path to a view where several plates lie over each other, so that their edges mix as they should
UNEVEN = 0.01  # pixels by which the ways of places a pixel apart may differ within one view
MOST_VIEWS = 128
MOST_AFTERIMAGES = 12
WITHIN = 9  # moments at which the way across a view is looked at
PROBE_EVERY = 0.0105  # seconds between looks at where the picture is during an exposure: 25 Hz is not missed
MOST_COVERED = 65  # moments of a frame that a crop has to cover


@dataclass(frozen=True, eq=False)
class Exposure:
    """What the picture of one frame is made of: the weighted mean of its views, each drawn out along its own way.

    ``times`` (n,): when each view is seen. ``shifts`` (n, 2): by how much it is shifted besides, in frame units
    (smear). ``weights`` (n,) add up to 1. ``within`` (n, k): evenly spaced moments from the start of a view to its
    end, ramps included. ``smear`` (m, 2): shifts about a view's own over which the first ``smeared`` of them are drawn
    out besides. ``spread``: whether views are drawn out at all. ``path``: how far the fastest place goes meanwhile, in
    such pixels. ``ramp``: over how much of its way, told in the distance between views, a view fades into the next.
    ``step``: luma pixels to a pixel that it is meant for.
    """

    times: np.ndarray
    shifts: np.ndarray
    weights: np.ndarray
    within: np.ndarray
    smear: np.ndarray
    smeared: int
    spread: bool
    path: float
    ramp: float
    step: int

    @property
    def sharp(self) -> bool:
        """Whether little enough is blurred for the sharpest kernel to show."""
        return self.path <= SHARP


def exposure(plan: Plan, index: int) -> Exposure:
    """The views of frame ``index``: cut so that the fastest place goes equally far in each."""
    return exposures(plan, index, (1,), plan.plates)[0]


def exposures(plan: Plan, index: int, steps: tuple[int, ...], plates: tuple[PlatePlan, ...]) -> list[Exposure]:
    """The same of some plates, for planes whose pixels are so many luma pixels wide: fewer views serve them."""
    seconds = np.array([plan.time(index)])
    middle, length = (float(each[0]) for each in plan.shutter(seconds))
    looks = middle + length * np.linspace(-0.5, 0.5, max(9, math.ceil(length / PROBE_EVERY) + 1))
    moving = plan.shaken and length > 0
    way, uneven = way_of(plan, plates, looks) if moving else (np.zeros(len(looks)), 0.0)
    several = len(plates) > 1
    return [_exposure(plan, seconds, looks, way / step, uneven, step, several) for step in steps]


def _exposure(
    plan: Plan, seconds: np.ndarray, looks: np.ndarray, way: np.ndarray, uneven: float, step: int,
    several: bool,
) -> Exposure:  # fmt: skip
    times, weights, within, ramp = _cut(plan, looks, way, uneven, several)
    path, spread = float(way[-1]), bool(np.ptp(within[0]))
    shifts, smear = np.zeros((len(times), 2)), np.zeros((1, 2))
    line = smears(plan, seconds).get(0) if plan.shaken else None
    if line is not None:
        long = float(np.linalg.norm(line[1] - line[0])) * plan.size[1] / step
        path, spread = path + long, True
        parts = min(max(math.ceil(long / SMEAR_STEP), 1), MOST_VIEWS)
        share = (np.arange(parts) + 0.5) / parts
        shifts = np.repeat(line[0] + share[:, None] * (line[1] - line[0]), len(times), axis=0)
        across = max(math.ceil(2 * long / parts), 1)
        smear = ((np.arange(across) + 0.5) / across - 0.5)[:, None] * (line[1] - line[0]) / parts
        times, weights = np.tile(times, parts), np.tile(weights, parts) / parts
        within = np.tile(within, (parts, 1))
    smeared = len(times)
    earlier = afterimages(plan, seconds).get(0) if plan.shaken else None
    if earlier is not None:
        ago, fading = earlier
        times, shifts = np.concatenate([times, ago]), np.concatenate([shifts, np.zeros((len(ago), 2))])
        within = np.concatenate([within, np.repeat(ago[:, None], WITHIN, axis=1)])
        weights = np.concatenate([weights, fading]) / (1.0 + fading.sum())
    return Exposure(times, shifts, weights, within, smear, smeared, spread, path, ramp, step)


def _cut(
    plan: Plan, looks: np.ndarray, way: np.ndarray, uneven: float, several: bool
) -> tuple[np.ndarray, np.ndarray, np.ndarray, float]:
    """An exposure without smear and afterimages: times, weights, moments within and ramp of its views. ``way`` (k,):
    how far the fastest place has gone at each of the looks."""
    middle, length, path = 0.5 * (looks[0] + looks[-1]), looks[-1] - looks[0], float(way[-1])
    at = np.array([middle])
    cubic = plan.kernel == "cubic"
    if path < SHORT:
        if path >= FELT:
            # evenly spaced, as far apart as makes their spread the exposure's (for two: Gauss and Legendre's moments)
            count = max(math.ceil(path / NEXT), 2 if path <= 1.5 else 3) if cubic else 2
            apart = length / math.sqrt(count * count - 1)
            at = middle + apart * (np.arange(count) - 0.5 * (count - 1))
        return at, np.full(len(at), 1 / len(at)), np.repeat(at[:, None], WITHIN, axis=1), 0.0
    several = cubic and several
    count = 1 if path <= WHOLE else math.ceil(path / STEP)
    count = max(count, math.ceil(uneven / UNEVEN), math.ceil(path / CLOSE) if several else 1)
    inner = np.linspace(0.0, 1.0, WITHIN)
    if count == 1:
        if cubic:
            at = middle + length / path * PAIR * np.array([-0.5, 0.5])
        span = length * math.sqrt(max(1 - 3 * (len(at) - 1) * (PAIR / path) ** 2, 0.0))
        return at, np.full(len(at), 1 / len(at)), at[:, None] + span * (inner - 0.5), 0.0
    even = np.linspace(0.0, 1.0, len(looks))
    cuts = np.interp(
        np.linspace(0.0, 1.0, min(count, MOST_VIEWS) + 1), 0.999 * way / path + 0.001 * even, looks
    )  # fmt: skip
    spans, ramp = np.diff(cuts), min(RAMP / (path / len(cuts[1:])), 0.5)
    within = 0.5 * (cuts[:-1] + cuts[1:])[:, None] + (1 + ramp) * spans[:, None] * (inner - 0.5)
    return 0.5 * (cuts[:-1] + cuts[1:]), spans / spans.sum(), within, ramp


def way_of(plan: Plan, plates: tuple[PlatePlan, ...], looks: np.ndarray) -> tuple[np.ndarray, float]:
    """How far the fastest place of the fastest plate has gone at each of the looks, in rendered pixels (k,), and by how
    many pixels the ways of places a pixel apart differ."""
    best, uneven = np.zeros(len(looks)), 0.0
    half = 0.5 * plan.base.aspect
    corners = np.array([[-half, -0.5], [half, -0.5], [half, 0.5], [-half, 0.5], [0.0, 0.0]])
    for plate in plates:
        if bend.bent(plan, plate):
            across, down = np.linspace(-half, half, 9), np.linspace(-0.5, 0.5, 6)
            q = np.stack(np.meshgrid(across, down), axis=-1)
            nearest = plate.nearest
            if bend.deep_alone(plan, plate):
                every = np.broadcast_to(q.reshape(-1, 2), (len(looks), q.size // 2, 2))
                grid = bend.at_once(plate, looks, every, nearest).reshape(len(looks), *q.shape)
            else:
                known = zip(looks.tolist(), bend.known(plan, plate, looks), strict=True)
                grid = np.stack([bend.sources(plan, plate, t, q, down, k, nearest) for t, k in known])
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
        ways = np.concatenate([np.zeros((1, steps.shape[1])), np.cumsum(steps, axis=0)]) * plan.size[1] / plan.over
        longest = ways[:, int(np.argmax(ways[-1]))]
        best = longest if longest[-1] > best[-1] else best
    return best, uneven


def paths(plan: Plan, indices: np.ndarray) -> np.ndarray:
    """How far the fastest place of each frame goes while the shutter is open, in rendered pixels: (n,)."""
    middle, length = plan.shutter(np.asarray(indices) / float(plan.rate))
    if not plan.shaken or not length.any():
        return np.zeros(len(middle))
    looks = np.linspace(-0.5, 0.5, max(3, math.ceil(length.max() / PROBE_EVERY) + 1))
    half = 0.5 * plan.base.aspect
    corners = np.array([[-half, -0.5], [half, -0.5], [half, 0.5], [-half, 0.5]])
    longest = np.zeros(len(middle))
    for plate in plan.plates:
        shakes = plate.shakes((middle[:, None] + length[:, None] * looks).ravel())
        places = camera.apply(shakes, corners).reshape(len(middle), len(looks), 4, 2)
        steps = np.linalg.norm(np.diff(places, axis=1), axis=3)
        longest = np.maximum(longest, np.nan_to_num(steps, nan=9.0).sum(axis=1).max(axis=1) * plan.size[1])
    return longest


def covered(plan: Plan, indices: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The moments that a crop has to cover: exposures from end to end, the ends of a smear, afterimages.

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
    often = 3.0 if any(bend.bent(plan, plate) for plate in plan.plates) else 6.0
    counts = np.clip(np.ceil(often * np.sqrt(paths(plan, indices))) + 1, 3, MOST_COVERED).astype(int)
    counts = np.where(plan.shaken & (length > 0), counts, 1)
    which = np.repeat(np.arange(len(middle)), counts)
    rank = np.arange(len(which)) - np.repeat(np.cumsum(counts) - counts, counts)
    times = middle[which] + length[which] * (rank / np.maximum(counts[which] - 1, 1) - 0.5 * (counts[which] > 1))
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
    return np.array([len(each[0]) for each in out]), *(np.concatenate([each[k] for each in out]) for k in range(2))  # type: ignore[return-value]


def shakes(plan: Plan, plate: PlatePlan, times: np.ndarray, shifts: np.ndarray) -> np.ndarray:
    """S of a plate at moments (n,) and shifts (n, 2) as the rows at the plan's knots see it: (n, k, 3, 3)."""
    if not shifts.any() or plate.plate.glass:  # what smears the shot does not touch the glass
        return plan.rolled(times, plate)
    once, which = np.unique(times, return_inverse=True)
    return camera.shift(shifts)[:, None] @ plan.rolled(once, plate)[which]


def matrices(plan: Plan, index: int, plate: PlatePlan | None = None, seen: Exposure | None = None) -> np.ndarray:
    """Rendered luma pixel → nominal source luma pixel of a plate (the lowest) for each view of a frame and knot:
    (n, k, 3, 3)."""
    seen = seen or exposure(plan, index)
    return moments(plan, index, plate or plan.base, seen.times, seen.shifts)


def moments(plan: Plan, index: int, plate: PlatePlan, times: np.ndarray, shifts: np.ndarray) -> np.ndarray:
    """The same at any moments (n,) with shifts (n, 2)."""
    moved = shakes(plan, plate, times, shifts) if plan.shaken else np.broadcast_to(np.eye(3), (len(times), 1, 3, 3))
    return np.asarray(np.linalg.inv(moved @ plan.to_frame(index, plate)) @ plan.to_units)


def places(plan: Plan, plate: PlatePlan, index: int, times: np.ndarray, shift: np.ndarray, q: np.ndarray) -> np.ndarray:
    """Where delivered places ``q`` (m, 2) in frame units look in the nominal source at moments (n,), luma pixels:
    (n, m, 2). ``shift`` (2,): of the view, in frame units."""
    back = np.linalg.inv(plan.to_frame(index, plate))
    rows = np.clip(q[:, 1] / plan.over, -0.5, 0.5)
    depth = plate.plate.depth
    if bend.deep_alone(plan, plate) and depth is not None and not depths.moves(depth):
        p = bend.seen_at_once(plate, times, np.broadcast_to(q - shift, (len(times), *q.shape)), back)
        return np.asarray(p @ back[:2, :2].T + back[:2, 2])
    if bend.bent(plan, plate):

        def near(t: float, moved: bend.Known | None) -> np.ndarray | float:
            return bend.nearness_of(plan, plate, t, alone, rows, back, moved) if plate.deep else 1.0

        moved = zip(times.tolist(), bend.known(plan, plate, times), strict=True)
        alone = (q - shift)[:, None]
        p = np.stack([bend.sources(plan, plate, t, alone, rows, k, near(t, k))[:, 0] for t, k in moved])
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
        size, strongest = plan.struck(t, smear.frames, smear.fall)
        length = smear.length / 100.0 * size
        turn = math.radians(sample.heading(plan.shot.shake, strongest) if smear.angle is None else smear.angle)
        if length > 0:
            out[k] = np.array([[-0.5], [0.5]]) * length * np.array([math.cos(turn), math.sin(turn)])
    return out
