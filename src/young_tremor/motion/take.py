"""A take on a shot: splined in seconds, so that rates, sizes and lengths may differ."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import scipy

from young_tremor.model.shake import Taken
from young_tremor.model.take import Take
from young_tremor.motion import endless_take

DOUBTFUL = 0.5  # confidence, up to which a sample was bridged or may be a pixel off
GAP = 3.0  # steps that may be missing before a spline is not to be trusted
REST = 0.6  # seconds in which it comes to rest at an end
MOST_BRIDGED = 200_000  # samples that are put into gaps
TINY = 1e-3  # seconds over which a drift's speed is taken


def sample(taken: Taken, clock: np.ndarray) -> np.ndarray:
    """The six channels of a take strand at amount 100 %.

    Parameters
    ----------
    taken : Taken
    clock : (n,) float64
        Seconds of the shake's own time (pace already applied); any order, any real value.

    Returns
    -------
    (n, 6) float64
        In channel units.
    """
    clock = np.asarray(clock, dtype=np.float64) + taken.offset
    if not len(clock):
        return np.zeros((0, 6))
    if taken.only_endless:
        out = endless_take.sample(taken.endless, taken.seed, clock)
    else:
        out = _course(taken, clock)
    gains = taken.gains
    out = out * np.array([gains.x, gains.y, gains.roll, gains.zoom, gains.x, gains.y])
    if taken.mirrored:
        out *= (-1, 1, -1, 1, -1, 1)
    return inverse(out) if taken.opposed else out


def inverse(moved: np.ndarray) -> np.ndarray:
    """The channels (n, 6) of the inverse of each move: what brings the picture back to where it was.

    Exact for shift, turn and zoom, (T·sR)⁻¹ = s⁻¹R⁻¹ · T⁻¹, and for turns of the lens with roll; where a lens turns
    while it is shifted or zoomed, what is left is of the second order in its turns.
    """
    x, y, roll, zoom, pan, tilt = moved.T
    back = np.empty_like(moved)
    turn = _rotation_matrices(pan, tilt, roll)
    # the transpose, told in the same order: its last column says pan and tilt, its first row roll
    back[:, 4] = np.degrees(np.arcsin(np.clip(turn[:, 2, 0], -1.0, 1.0)))
    back[:, 5] = np.degrees(np.arctan2(turn[:, 2, 1], turn[:, 2, 2]))
    back[:, 2] = np.degrees(np.arctan2(-turn[:, 1, 0], turn[:, 0, 0]))
    angle, scale = np.radians(back[:, 2]), np.exp(-zoom / 100.0)
    c, s = scale * np.cos(angle), scale * np.sin(angle)
    back[:, 0], back[:, 1], back[:, 3] = -(c * x - s * y), -(s * x + c * y), -zoom
    return back


def _rotation_matrices(pan: np.ndarray, tilt: np.ndarray, roll: np.ndarray) -> np.ndarray:
    """Rx(tilt) · Ry(pan) · Rz(roll) of angles in degrees (n,): (n, 3, 3)."""
    euler = scipy.spatial.transform.Rotation.from_euler("XYZ", np.column_stack([-tilt, pan, roll]), degrees=True)
    return np.asarray(euler.as_matrix())


def channels(take: Take, *, by_angle: bool = False) -> np.ndarray:
    """A take's samples in channel units, (n, 6); ``by_angle``: shifts as turns of the lens it was filmed with."""
    table = take.table()
    x, y, roll, scale, pan, tilt = table[:, 1:7].T
    zoom = 100.0 * np.log(np.maximum(scale, 1e-6))
    if by_angle and take.focal_mm:
        pixels = take.focal_mm / 36.0 * max(take.width, take.height)
        turned = np.degrees(np.arctan(np.column_stack([x, y]) / pixels))
        return np.column_stack([np.zeros((len(x), 2)), roll, zoom, pan + turned[:, 0], tilt + turned[:, 1]])
    percent = 100.0 / take.height
    return np.column_stack([x * percent, y * percent, roll, zoom, pan, tilt])


def gaps(t: np.ndarray) -> np.ndarray:
    """Where a take's samples at times (n,) leave more than three steps out: first and last seconds of each, (k, 2)."""
    apart = np.diff(t)
    wide = np.flatnonzero(apart > GAP * np.median(apart) * (1 + 1e-6)) if len(t) > 2 else np.zeros(0, int)
    return np.column_stack([t[wide], t[wide + 1]])


def is_bridged(taken: Taken, clock: np.ndarray) -> np.ndarray:
    """Where a take strand moves the shot by what was bridged, at ``clock`` (n,) as in :func:`sample`: (n,) bool.

    That is in the gaps of its samples and where these were doubtful, while it lasts.
    """
    table = taken.take.table()
    t = table[:, 0] - table[0, 0]
    first = min(max(taken.start, 0.0), float(t[-1]))
    last = float(t[-1]) if taken.end is None else min(max(taken.end, first), float(t[-1]))
    at = np.asarray(clock, dtype=np.float64) + taken.offset + first
    out = np.zeros(len(at), bool)
    for begin, end in stretches(taken.take):
        out |= (at > begin) & (at < end)
    return out & (at >= first) & (at <= last) & (not taken.only_endless)


def stretches(of: Take) -> np.ndarray:
    """First and last seconds, from its first sample, of each stretch of a take that was bridged: (k, 2)."""
    table = of.table()
    t = table[:, 0] - table[0, 0]
    bad = np.concatenate([[0], (table[:, 7] <= DOUBTFUL).astype(int), [0]])
    edges = np.flatnonzero(np.diff(bad)).reshape(-1, 2)
    doubtful = [(t[max(a - 1, 0)], t[min(b, len(t) - 1)]) for a, b in edges]
    values = np.concatenate([gaps(t), np.array(doubtful).reshape(-1, 2)])
    return np.asarray(values[np.argsort(values[:, 0])])


def _fill_gaps(t: np.ndarray, values: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The samples with others put into the gaps, along monotone ways (F. Fritsch and R. Carlson, 1980) that never go
    beyond what stands on either side."""
    missing = gaps(t)
    if not len(missing):
        return t, values
    step = float(np.median(np.diff(t)))
    step = max(step, float((missing[:, 1] - missing[:, 0]).sum()) / MOST_BRIDGED)
    inner = [np.linspace(a, b, max(round((b - a) / step), 2) + 1)[1:-1] for a, b in missing]
    more = np.concatenate(inner)
    ways = scipy.interpolate.PchipInterpolator(t, values, axis=0)(more)
    whole, places = np.concatenate([t, more]), np.concatenate([values, ways])
    order = np.argsort(whole, kind="stable")
    return whole[order], places[order]


def through(t: np.ndarray, values: np.ndarray) -> scipy.interpolate.BSpline:
    """The quintic spline through samples (n, k) at times (n,): nearer to the motion between frames than a cubic one,
    which at a third of the frame rate is off by a tenth. Gaps are bridged (:func:`gaps`)."""
    t, values = _fill_gaps(t, values)
    return scipy.interpolate.make_interp_spline(t, values, k=5 if len(t) > 5 else 3 if len(t) > 3 else 1, axis=0)


def slow_path(t: np.ndarray, values: np.ndarray, cutoff: float) -> np.ndarray:
    """What of a motion is slower than ``cutoff`` seconds: zero-phase low-pass (Butterworth, forward and back).

    ``t`` (n,) seconds, evenly spaced; ``values`` (n, k). Its straight line where the whole is shorter than the cut-off.
    """
    count, step = len(t), (t[-1] - t[0]) / max(len(t) - 1, 1)
    edge = 2.0 * step / cutoff
    if count < 12 or cutoff > (t[-1] - t[0]) or edge >= 0.9:
        if edge >= 0.9:
            return values
        line = np.polynomial.polynomial.polyfit(t, values, 1)
        return np.polynomial.polynomial.polyval(t, line).T
    sections = scipy.signal.butter(2, edge, output="sos")
    pad = min(count - 1, int(3 * cutoff / step))
    return np.asarray(scipy.signal.sosfiltfilt(sections, values, axis=0, padtype="odd", padlen=pad))


@lru_cache(maxsize=24)
def _spline(take: Take, by_angle: bool, cutoff: float) -> tuple[scipy.interpolate.BSpline, float]:
    """The course as a function of seconds from the take's first sample, and its length."""
    t = take.table()[:, 0] - take.table()[0, 0]
    values = channels(take, by_angle=by_angle)
    spline = through(t, values)
    if cutoff > 0:
        step = float(np.median(np.diff(t)))
        even = np.linspace(0, t[-1], max(12, round(t[-1] / step) + 1))
        whole = spline(even)
        spline = through(even, whole - slow_path(even, whole, cutoff))
    return spline, float(t[-1])


def _course(taken: Taken, clock: np.ndarray) -> np.ndarray:
    """The take at seconds of its trimmed self, untouched while it lasts, and what comes before and after it.

    What follows begins where the take ends and moves as fast as it does there: the difference in place and speed dies
    away over the crossfade.
    """
    spline, whole = _spline(taken.take, taken.by_angle, max(taken.cutoff, 0.0))
    first = min(max(taken.start, 0.0), whole)
    last = whole if taken.end is None else min(max(taken.end, first), whole)
    long = last - first
    if long <= 0:
        return np.repeat(spline([first]), len(clock), axis=0)
    out = np.empty((len(clock), 6))
    inside = (clock >= 0) & (clock <= long)
    out[inside] = spline(first + clock[inside])
    for side in (clock > long, clock < 0):
        if side.any():
            out[side] = _beyond(taken, spline, first, last, clock[side])
    return out


def _beyond(
    taken: Taken, spline: scipy.interpolate.BSpline, first: float, last: float, clock: np.ndarray
) -> np.ndarray:
    """What moves the shot at times before or after the take; all of ``clock`` on one side of it."""
    long = last - first
    after = clock[0] > 0
    gone = clock - long if after else -clock  # seconds from the take, outwards
    edge = last if after else first
    way = 1.0 if after else -1.0  # of speeds, outwards
    place, speed = spline(edge), way * spline(edge, 1)
    if taken.beyond == "rest":
        ease = min(REST, 0.5 * long)
        return place + speed * (ease * (1 - np.exp(-gone / ease)))[:, None]
    fade = min(max(taken.fade, 0.02), long)
    if taken.beyond == "carry":
        level = np.array(taken.endless.level)
        ends = np.array([edge - first, edge - first + way * TINY])
        begun = endless_take.sample(taken.endless, taken.seed, ends)
        values = level + endless_take.sample(taken.endless, taken.seed, clock)
        return values + _dying(place - level - begun[0], speed - (begun[1] - begun[0]) / TINY, gone, fade)
    count = np.floor(gone / long)
    into = gone - count * long
    # rounds outwards begin at the far edge when it loops, at the near one when it turns round
    turned = (taken.beyond == "back") & (count % 2 == 0)
    outwards = np.where(turned, -way, way)
    begin = np.where(outwards > 0, first, last)
    values = spline(begin + outwards * into)
    before_way = np.where(taken.beyond == "back", -outwards, outwards)
    before = np.where(before_way > 0, last, first)
    apart = spline(before) - spline(begin)
    quicker = before_way[:, None] * spline(before, 1) - outwards[:, None] * spline(begin, 1)
    return values + _dying(apart, quicker, into, fade)


def _dying(place: np.ndarray, speed: np.ndarray, gone: np.ndarray, fade: float) -> np.ndarray:
    """A difference in place and speed (6,) or (n, 6) that is gone, smoothly, ``fade`` seconds on: (n, 6)."""
    u = np.clip(gone / fade, 0.0, 1.0)[:, None]
    return place * (1 + 2 * u) * (1 - u) ** 2 + speed * fade * u * (1 - u) ** 2
