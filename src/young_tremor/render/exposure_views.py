"""Which moments of an exposure are looked at, and which looks are drawn out along the way between them.

Views about a pixel apart add up to the blur itself. A long way is cut into parts instead: one view of each is drawn out
over its part, growing and fading where parts join.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from young_tremor.render import shutter
from young_tremor.render.plan import Plan, PlatePlan

FELT = 0.15  # pixels: a path shorter than this is no blur
FEW = (1.3, 2.3, 3.5, 4.6)  # pixels of path up to which 2, 3, 4 and 5 views in the right places do
DENSE = 0.8  # views to a pixel of path beyond that
BESIDES = 1.4, 0.8  # views that are added to those: of finals, of previews
PLAIN = 28.0  # pixels of path from which it is cut into parts
PART = 6.0  # pixels of a part
LEAST_PARTS = 6
JOIN = 5.0  # pixels over which a part fades into the next one
QUICK = 0.6, 8.0  # the same two of previews: fewer views, of a shorter path
POINTS = 9  # moments of a way
MOST_MOMENTS = 96  # at which plates are laid over each other
GOLDEN = 0.6180339887498949  # turns of it fill a line evenly
SMEAR_POINTS = 16  # moments of a smear at which it is looked at what is covered


@dataclass(frozen=True, eq=False)
class DrawnOutRun:
    """Consecutive views that are drawn out: ``first`` and ``count``, ``moments`` (count, points) from the start of each
    one's way to its end, and the shares of it over which it grows and fades."""

    first: int
    count: int
    moments: np.ndarray
    ramp_in: float
    ramp_out: float


@dataclass(frozen=True, eq=False)
class ExposureViews:
    """What the picture of one frame is made of: the weighted mean of views at ``times`` (n,) with ``weights`` (n,),
    each shifted by ``shifts`` (n, 2) frame units.

    ``drawn``: those that are drawn out. The first ``smeared`` ones are smeared over ``smear`` (2, 2), from one shift in
    frame units to another; the others are afterimages. ``covers`` (m,): moments close enough to tell how long a pixel
    is covered, with ``shares`` (m,). ``path``: pixels that the fastest place goes; ``step``: luma pixels to one.
    """

    times: np.ndarray
    weights: np.ndarray
    drawn: tuple[DrawnOutRun, ...]
    smear: np.ndarray | None
    smeared: int
    covers: np.ndarray
    shares: np.ndarray
    path: float
    step: int
    shifts: np.ndarray

    @property
    def covered(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Moments close enough to tell how long a pixel is covered: times, shifts in frame units, shares."""
        if self.smear is None:
            return self.covers, np.zeros((len(self.covers), 2)), self.shares
        later = len(self.times) - self.smeared
        count = len(self.covers) - later
        across = (np.arange(SMEAR_POINTS) + 0.5) / SMEAR_POINTS
        line = self.smear[0] + across[:, None] * (self.smear[1] - self.smear[0])
        return (
            np.concatenate([np.repeat(self.covers[:count], SMEAR_POINTS), self.covers[count:]]),
            np.concatenate([np.tile(line, (count, 1)), np.zeros((later, 2))]),
            np.concatenate([np.repeat(self.shares[:count] / SMEAR_POINTS, SMEAR_POINTS), self.shares[count:]]),
        )


def views_of(plan: Plan, index: int, plates: tuple[PlatePlan, ...], steps: tuple[int, ...]) -> list[ExposureViews]:
    """The views of a frame of some plates, for planes whose pixels are so many luma pixels wide."""
    seconds = np.array([plan.time(index)])
    looks, way, uneven = _looks(plan, plates, seconds)
    return [_views(plan, seconds, looks, way / step, uneven, step) for step in steps]


def moments_of(plan: Plan, index: int, plates: tuple[PlatePlan, ...]) -> ExposureViews:
    """The views of a frame whose plates are laid over each other at each of them: none is drawn out or smeared, so that
    edges mix with what is behind them at every moment."""
    seconds = np.array([plan.time(index)])
    looks, way, _ = _looks(plan, plates, seconds)
    path = float(way[-1])
    line = shutter.smears(plan, seconds).get(0) if plan.shaken else None
    long = 0.0 if line is None else float(np.linalg.norm(line[1] - line[0])) * plan.size[1]
    dense = DENSE if plan.kernel == "cubic" else QUICK[0] * plan.views
    times, weights = np.array([0.5 * (looks[0] + looks[-1])]), np.ones(1)
    if path >= FELT:
        times, weights = _summed_views(looks, way, dense, MOST_MOMENTS)
    shifts = np.zeros((len(times), 2))
    if line is not None:
        # as many as both ask for, each at another place of the smear
        count = min(max(len(times), math.ceil(long * dense)), MOST_MOMENTS)
        again = np.sort(np.arange(count) % len(times))
        times, weights = times[again], weights[again] / np.bincount(again)[again]
        share = ((np.arange(count) + 0.5) / count) if path < FELT else (np.arange(count) * GOLDEN + 0.5) % 1.0
        shifts = line[0] + share[:, None] * (line[1] - line[0])
    earlier = shutter.afterimages(plan, seconds).get(0) if plan.shaken else None
    smeared = len(times)
    if earlier is not None:
        ago, fading = earlier
        times, weights = np.concatenate([times, ago]), np.concatenate([weights, fading]) / (1.0 + fading.sum())
        shifts = np.concatenate([shifts, np.zeros((len(ago), 2))])
    return ExposureViews(times, weights, (), None, smeared, times, weights, path + long, 1, shifts)


def _looks(plan: Plan, plates: tuple[PlatePlan, ...], seconds: np.ndarray) -> tuple[np.ndarray, np.ndarray, float]:
    """Moments of an exposure, how far the fastest place of the fastest plate has gone at each, and by how much ways of
    places a pixel apart differ."""
    middle, length = (float(values[0]) for values in plan.shutter(seconds))
    looks = middle + length * np.linspace(-0.5, 0.5, max(17, math.ceil(length / shutter.PROBE_EVERY) + 1))
    moving = plan.shaken and length > 0
    plates = tuple(plate.with_outline_motion or plate for plate in plates)
    way, uneven = shutter.way_of(plan, plates, looks) if moving else (np.zeros(len(looks)), 0.0)
    return looks, way, uneven


def _views(
    plan: Plan, seconds: np.ndarray, looks: np.ndarray, way: np.ndarray, uneven: float, step: int
) -> ExposureViews:
    path = float(way[-1])
    quick = plan.kernel != "cubic"
    dense, plain = (QUICK[0] * plan.views, QUICK[1]) if quick else (DENSE, PLAIN)
    drawn: tuple[DrawnOutRun, ...] = ()
    if path < FELT:
        times = covers = np.array([0.5 * (looks[0] + looks[-1])])
        weights = shares = np.ones(1)
    elif path <= plain or uneven / shutter.UNEVEN > path:
        count = min(math.ceil(uneven / shutter.UNEVEN), shutter.MOST_VIEWS) if path > plain else 0
        times, weights = _summed_views(looks, way, dense, least=count)
        covers, shares = times, weights
    else:
        times, weights, drawn = _drawn_out_views(looks, way, max(LEAST_PARTS, math.ceil(uneven / shutter.UNEVEN)))
        inner = (np.arange(POINTS - 1) + 0.5) / (POINTS - 1)
        spans = np.concatenate([_own_spans(part) for part in drawn])
        covers = (spans[:, :1] + (spans[:, 1:] - spans[:, :1]) * inner).ravel()
        shares = np.repeat(weights / len(inner), len(inner))
    line = shutter.smears(plan, seconds).get(0) if plan.shaken else None
    smeared = len(times)
    earlier = shutter.afterimages(plan, seconds).get(0) if plan.shaken else None
    if earlier is not None:
        ago, fading = earlier
        whole = 1.0 + fading.sum()
        times, weights = np.concatenate([times, ago]), np.concatenate([weights, fading]) / whole
        covers, shares = np.concatenate([covers, ago]), np.concatenate([shares, fading]) / whole
    return ExposureViews(times, weights, drawn, line, smeared, covers, shares, path, step, np.zeros((len(times), 2)))


def _summed_views(
    looks: np.ndarray, way: np.ndarray, dense: float, most: int = 1000, least: int = 0
) -> tuple[np.ndarray, np.ndarray]:
    """Views that are simply added up: their times and weights.

    They lie on a scale between the way and time, so that a moment of rest keeps its own and fast ones their views: for
    short paths where Gauss and Legendre say, else evenly, their spread that of the exposure.
    """
    even = np.linspace(0.0, 1.0, len(looks))
    scale = 0.5 * way / way[-1] + 0.5 * even
    fastest = float((np.diff(way) / np.diff(scale)).max())
    few = int(np.searchsorted(FEW, fastest)) + 2
    if few < len(FEW) + 2 and dense >= DENSE and not least:
        gauss, shares = _gauss(few)
        nodes: np.ndarray = 0.5 + 0.5 * gauss
        cuts = np.concatenate([[0.0], np.cumsum(shares) / 2])
    else:
        besides = BESIDES[0] if dense >= DENSE else BESIDES[1]
        count = max(min(max(math.ceil(dense * fastest + besides), 2), most), least)
        apart = 1.0 / math.sqrt(count * count - 1)
        nodes = 0.5 + apart * (np.arange(count) - 0.5 * (count - 1))
        cuts = 0.5 + apart * (np.arange(count + 1) - 0.5 * count)
    times = _times_along(scale, looks, nodes)
    weights = np.diff(_times_along(scale, looks, cuts))
    weights = weights / weights.sum()
    # the mean and the spread in time are the exposure's own
    middle, length = 0.5 * (looks[0] + looks[-1]), looks[-1] - looks[0]
    times = times - float((weights * times).sum())
    times = times * (length / math.sqrt(12.0) / math.sqrt(float((weights * times**2).sum()))) + middle
    return times, weights


@lru_cache
def _gauss(count: int) -> tuple[np.ndarray, np.ndarray]:
    """Places -1 … 1 and weights of the quadrature of Gauss and Legendre."""
    return np.polynomial.legendre.leggauss(count)


def _times_along(scale: np.ndarray, looks: np.ndarray, at: np.ndarray) -> np.ndarray:
    """Times at places of a scale, going on straight beyond its ends."""
    inside = np.interp(at, scale, looks)
    begin, end = ((looks[k + 1] - looks[k]) / (scale[k + 1] - scale[k]) for k in (0, len(looks) - 2))
    return inside + np.minimum(at - scale[0], 0.0) * begin + np.maximum(at - scale[-1], 0.0) * end


def _drawn_out_views(
    looks: np.ndarray, way: np.ndarray, least: int
) -> tuple[np.ndarray, np.ndarray, tuple[DrawnOutRun, ...]]:
    """Times, weights and ways of views that each are drawn out over a part of the exposure."""
    path, even = float(way[-1]), np.linspace(0.0, 1.0, len(looks))
    count = min(max(math.ceil(path / PART), least), shutter.MOST_VIEWS)
    scale = 0.97 * way / path + 0.03 * even
    cuts = np.interp(np.linspace(0.0, 1.0, count + 1), scale, looks)
    spans = np.diff(cuts)
    # half as long as two parts that join overlap, in time
    half = np.zeros(count + 1)
    half[1:-1] = 0.5 * min(JOIN * count / path, 1.0) * np.minimum(spans[1:], spans[:-1])
    begin, end = cuts[:-1] - half[:-1], cuts[1:] + half[1:]
    moments = begin[:, None] + (end - begin)[:, None] * np.linspace(0.0, 1.0, POINTS)
    ramps = 2 * half[:-1] / (end - begin), 2 * half[1:] / (end - begin)
    drawn = tuple(
        DrawnOutRun(
            first,
            last - first,
            moments[first:last],
            float(ramps[0][first:last].mean()),
            float(ramps[1][first:last].mean()),
        )
        for first, last in ((0, 1), (1, count - 1), (count - 1, count))
    )
    return 0.5 * (cuts[:-1] + cuts[1:]), spans / spans.sum(), drawn


def _own_spans(part: DrawnOutRun) -> np.ndarray:
    """The parts of the exposure that drawn views stand for, without what overlaps: (count, 2)."""
    long = part.moments[:, -1] - part.moments[:, 0]
    begin = part.moments[:, 0] + 0.5 * part.ramp_in * long
    return np.stack([begin, part.moments[:, -1] - 0.5 * part.ramp_out * long], axis=1)
