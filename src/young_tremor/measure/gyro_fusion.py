"""A gyroscope's log beside a measured path: laid beside it in time, and each taken where it is better.

The log knows fast turns, also of frames in which nothing can be seen; the picture knows what stands still, and where
the camera went. What the picture shows beyond the log goes slowly, so it is smoothed (E. T. Whittaker, "On a new method
of graduation", Proceedings of the Edinburgh Mathematical Society 41, 1922), as much as predicts left-out frames best
(P. Craven and G. Wahba, "Smoothing noisy data with spline functions", Numerische Mathematik 31, 1979).
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import scipy

from young_tremor.measure.alignment import mean_square_distance
from young_tremor.measure.camera_path import ClipPath

FINE = 4  # steps a frame in which the two are compared
LEAST_SHARED = 0.6  # of the measured frames that the log has to cover
LEAST_EXPLAINED = 0.5  # of how the picture moves, by which the log is of this clip
STIFFNESS = np.logspace(0, 8, 33)  # tried: how stiff the difference of the two is, against what goes at
FASTEST = 2.0  # Hz: a camera is carried no faster than it is turned
EXPOSURES = (0.0, 0.25, 0.5, 0.75, 1.0)  # of a frame, tried
TOGETHER = ([0, 1], [2])  # pan and tilt move the picture alike, roll otherwise
LASTING = 0.6  # of a picture's error that its neighbours share
TRUST = (0.4, 2.0)  # times what is said of the picture that its variance may turn out to be
PROBES = 12  # random signs by which the trace of a large matrix is estimated
MOST_STEPS = 6_000_000  # of a log in which the clip is looked for
FEWEST = 24  # frames from which two courses can be laid beside each other


class UnrelatedLog(Exception):
    """A log that is not of the clip; the words say why."""


@dataclass(frozen=True)
class Fusion:
    """What a path and a log make together. ``path``: the clip's, better; ``begins``: seconds of the log at its first
    frame; ``focal``: how many pixels away the picture is; ``explained`` 0…1 of its motion by the log; ``filled``:
    frames that were bridged and are known now."""

    path: ClipPath
    begins: float
    focal: float
    explained: float
    filled: int


class _Log:
    """A log as a course: ``seconds`` (m,), ``rates`` (m, 3) radians a second."""

    def __init__(self, seconds: np.ndarray, rates: np.ndarray) -> None:
        self.begin, self.end = float(seconds[0]), float(seconds[-1])
        self._turned = scipy.interpolate.CubicSpline(seconds, rates).antiderivative()
        self._summed = self._turned.antiderivative()

    def covers(self, t: np.ndarray) -> np.ndarray:
        """Which times lie in it: (n,) bool."""
        return (t >= self.begin) & (t <= self.end)

    def at(self, t: np.ndarray, exposure: float = 0.0) -> np.ndarray:
        """How far the camera has turned at times t (n,), meant over an exposure: (n, 3), held beyond its ends."""
        first, last = (np.clip(t + side * exposure / 2, self.begin, self.end) for side in (-1, 1))
        wide = (last - first)[:, None]
        if not exposure:
            return np.asarray(self._turned(first))
        meant = (self._summed(last) - self._summed(first)) / np.maximum(wide, 1e-9)
        return np.where(wide > 0.5 * exposure, meant, self._turned(first))


def fuse(path: ClipPath, seconds: np.ndarray, rates: np.ndarray) -> Fusion:
    """Bring a clip's path and a log together.

    Parameters
    ----------
    path : ClipPath
        As it was measured.
    seconds : (m,) float64
        Of the log, rising.
    rates : (m, 3) float64
        How fast the camera turns, in radians a second: pan (the picture goes right), tilt (down), roll (clockwise).

    Raises
    ------
    UnrelatedLog
        Too short, without motion, or not of this clip.
    """
    layer = path.layers[path.chosen]
    if len(path.t) < FEWEST:
        raise UnrelatedLog(f"has fewer than {FEWEST} frames, too few to lay a log beside them")
    if path.still:
        raise UnrelatedLog("does not move, so that no log can be laid beside it")
    arm = float(np.sqrt(mean_square_distance(layer.raw.size)))  # pixels that a radian of roll moves the picture by
    picture = np.column_stack([path.values[:, :2], np.radians(path.values[:, 2]) * arm])
    sure = ~path.doubtful
    log = _Log(seconds, rates)
    begins = _beginning(path.t, picture, sure, log)
    covered = sure & log.covers(path.t + begins)
    if covered.mean() < LEAST_SHARED:
        raise UnrelatedLog("hardly overlaps the log in time")
    step = float(np.median(np.diff(path.t)))
    tries = [_refine(begins, share * step, path.t, picture, covered, log) for share in EXPOSURES]
    gains, begins, exposure = tries[int(np.argmax([tried[0].explained for tried in tries]))]
    if gains.explained < LEAST_EXPLAINED:
        raise UnrelatedLog(
            f"does not move as the log says ({100 * max(gains.explained, 0):.0f} % of its motion): choose the log that "
            "was recorded with it, or say how the telephone was held"
        )
    inside = log.covers(path.t + begins)
    turned = log.at(path.t + begins, exposure) * (gains.focal, gains.focal, gains.arm)
    stiffness = STIFFNESS * (2 * np.sin(np.pi * min(FASTEST * step, 0.5))) ** -4
    better, spread = picture.copy(), np.zeros(len(path.t))
    for axis in range(3):
        own = np.where(sure, np.maximum(path.error, 1e-4) ** 2 / 3, np.inf)
        better[:, axis], variance = _weigh(picture[:, axis], turned[:, axis], own, stiffness)
        spread += variance
    # errors of the picture that last longer than a frame are not told by a log that was laid to it
    error = np.where(inside, np.maximum(np.sqrt(spread), np.where(sure, LASTING * path.error, 0.0)), path.error)
    bridged = path.doubtful & ~(inside & (error < path.error))
    values = path.values.copy()
    values[:, :2] = np.where(inside[:, None], better[:, :2], values[:, :2])
    values[:, 2] = np.where(inside, np.degrees(better[:, 2] / arm), values[:, 2])
    values[:, :3] -= values[0, :3]
    layers = list(path.layers)
    layers[path.chosen] = replace(layer, values=values, error=error, bridged=bridged)
    filled = int((path.doubtful & ~bridged).sum())
    return Fusion(replace(path, layers=tuple(layers)), begins, gains.focal, gains.explained, filled)


@dataclass(frozen=True)
class _Gains:
    """Pixels a radian of pan and tilt (``focal``), and of roll (``arm``), and what share of the picture's pace these
    explain."""

    focal: float
    arm: float
    explained: float


def _beginning(t: np.ndarray, picture: np.ndarray, sure: np.ndarray, log: _Log) -> float:
    """Where in the log the clip begins, to a quarter of a frame: where most of its pace is explained."""
    step = float(np.median(np.diff(t)))
    fine = step / FINE
    beyond = (1 - LEAST_SHARED) * t[-1]
    if (log.end - log.begin) / fine > MOST_STEPS:
        raise UnrelatedLog("is far shorter than the log: cut the log to an hour around the clip")
    grid = np.arange(log.begin - beyond, log.end + beyond + fine, fine)
    # as a step from frame to frame has it
    pace = (log.at(grid + step / 2) - log.at(grid - step / 2)) / step
    both = sure[1:] & sure[:-1]
    middle = np.rint((t[1:] + t[:-1]) / 2 / fine).astype(int)
    speed = np.diff(picture, axis=0) / np.diff(t)[:, None]
    mask, shown = np.zeros(middle.max() + 1), np.zeros((middle.max() + 1, 3))
    mask[middle[both]] = 1.0
    shown[middle[both]] = speed[both]
    if len(grid) < len(mask):
        raise UnrelatedLog("is longer than the log")

    def slide(values: np.ndarray, pattern: np.ndarray) -> np.ndarray:
        return np.asarray(scipy.signal.fftconvolve(values, pattern[::-1], mode="valid"))

    count = mask.sum()
    score = np.zeros(len(grid) - len(mask) + 1)
    for axes in TOGETHER:
        shared, own = np.zeros_like(score), np.zeros_like(score)
        for axis in axes:
            meant = slide(pace[:, axis], mask) / count
            shared += slide(pace[:, axis], shown[:, axis]) - shown[:, axis].sum() * meant
            own += slide(pace[:, axis] ** 2, mask) - count * meant**2
        score += np.maximum(shared, 0) ** 2 / np.maximum(own, 1e-9 * max(float(np.max(own)), 1e-12))
    return float(grid[int(np.argmax(score))])


def _refine(
    begins: float, exposure: float, t: np.ndarray, picture: np.ndarray, sure: np.ndarray, log: _Log
) -> tuple[_Gains, float, float]:
    """Where the clip begins to a fraction of a frame if its exposure is such, with what is explained then."""
    step = float(np.median(np.diff(t)))

    def unexplained(moved: float) -> float:
        return -_gains(t + begins + moved, exposure, picture, sure, log).explained

    result = scipy.optimize.minimize_scalar(
        unexplained,
        bounds=(-step, step),
        method="bounded",
        options={"xatol": 1e-3 * step},
    )
    begins += float(result.x)
    return _gains(t + begins, exposure, picture, sure, log), begins, exposure


def _gains(t: np.ndarray, exposure: float, picture: np.ndarray, sure: np.ndarray, log: _Log) -> _Gains:
    both = sure[1:] & sure[:-1]
    speed = np.diff(picture, axis=0)[both]
    pace = np.diff(log.at(t, exposure), axis=0)[both]
    speed, pace = speed - speed.mean(axis=0), pace - pace.mean(axis=0)
    gains, left = [], 0.0
    for axes in TOGETHER:
        shared, own = float((speed[:, axes] * pace[:, axes]).sum()), float((pace[:, axes] ** 2).sum())
        gains.append(max(shared / max(own, 1e-18), 0.0))
        left += float(((speed[:, axes] - gains[-1] * pace[:, axes]) ** 2).sum())
    return _Gains(gains[0], gains[1], 1 - left / max(float((speed**2).sum()), 1e-18))


def _weigh(
    picture: np.ndarray, turned: np.ndarray, variance: np.ndarray, stiffness: np.ndarray
) -> tuple[np.ndarray, np.ndarray]:
    """The mean of what the picture shows and of what the log tells, (n,) both, by how much either may be off, and its
    variance. ``variance`` (n,) of the picture is infinite where it is not known."""
    sure = np.isfinite(variance)
    slow, unsure = _graduate(picture - turned, 1 / variance, stiffness)
    left = np.where(sure, picture - turned - slow, np.nan)
    # what changes from frame to frame is the picture's; the rest is the log's, and as much as so many frames leave open
    alone = float(np.nanmean((left[1:-1] - (left[:-2] + left[2:]) / 2) ** 2)) / 1.5
    rest = float(np.nanmean(left**2))
    variance = variance * np.clip(alone / max(float(np.mean(variance[sure])), 1e-12), *TRUST)
    of_log = unsure + max(rest - alone, 0.0) + rest / np.sqrt(sure.sum())
    share = np.where(sure, of_log / (variance + of_log), 0.0)
    # the log was laid to the picture: where that alone decides, both are off together
    together = np.where(sure, np.maximum(1 / (1 / variance + 1 / of_log), unsure), of_log)
    return share * picture + (1 - share) * (turned + slow), together


def _graduate(values: np.ndarray, weights: np.ndarray, tried: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """A smooth course through values (n,) of which those of weight 0 are not known, and its variance: (n,) both;
    as stiff as is best of what is tried."""
    count = len(values)
    scale = float(np.median(weights[weights > 0]))
    weights = weights / scale
    signs = np.random.default_rng(1).choice([-1.0, 1.0], (count, PROBES))
    best: tuple[float, np.ndarray, np.ndarray, float] | None = None
    for stiffness in tried:
        bands = stiffness * _bending(count)
        bands[2] += weights + 1e-12
        try:
            course = scipy.linalg.solveh_banded(bands, weights * values)
            free = float((signs * scipy.linalg.solveh_banded(bands, weights[:, None] * signs)).sum() / PROBES)
        except np.linalg.LinAlgError:
            break
        many = int((weights > 0).sum())
        left = float((weights * (values - course) ** 2).sum())
        score = left / many / max(1 - free / many, 1e-6) ** 2
        if best is None or score < best[0]:
            best = score, course, bands, max(left / max(many - free, 1.0), 0.5 / scale)
    assert best is not None
    return best[1], best[3] * _inverse_diagonal(best[2])


def _bending(count: int) -> np.ndarray:
    """The squared second differences of a course of ``count`` values, as the upper bands of a matrix: (3, count)."""
    differences = scipy.sparse.diags([1.0, -2.0, 1.0], [0, 1, 2], shape=(count - 2, count))
    product = (differences.T @ differences).tocsr()
    bands = np.zeros((3, count))
    for above in range(3):
        bands[2 - above, above:] = product.diagonal(above)
    return bands


def _inverse_diagonal(bands: np.ndarray) -> np.ndarray:
    """The diagonal of the inverse of a matrix in upper bands (3, n), from the last row back (K. Takahashi, J. Fagan and
    M.-S. Chin, "Formation of a sparse bus impedance matrix", Power Industry Computer Applications Conference, 1973)."""
    upper = scipy.linalg.cholesky_banded(bands)
    pivots = upper[2]
    beside_it, next_but_one = (
        np.append(upper[1, 1:] / pivots[:-1], 0.0),
        np.append(upper[0, 2:] / pivots[:-2], [0.0, 0.0]),
    )
    first, out = 1 / pivots**2, np.zeros(len(pivots))
    next_, beside, after = 0.0, 0.0, 0.0  # of the two rows below: diagonal, between them, diagonal of the second
    for row in range(len(pivots) - 1, -1, -1):
        a, b = beside_it[row], next_but_one[row]
        near, far = -a * next_ - b * beside, -a * beside - b * after
        out[row] = first[row] - a * near - b * far
        next_, beside, after = out[row], near, next_
    return out
