"""What is wrong with a clip as a record of motion: fields, frames doubled or missing, late rows; how to mend it."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import scipy

from young_tremor.measure.alignment import mean_square_distance

STRIP, ONE_IN = 32, 8  # columns that are looked at for combing, and one of how many such strips
COMBED = 1.1  # see :func:`combing`, of a few frames
FASTER = 1.1  # times as much when it moves fast as when it does not, at least
ORDER = 0.6  # rank correlation with the speed, at least
SAME = 0.15  # of the usual change from frame to frame, below which a frame may be the one before again
STILL = 0.06  # pixels that it has then moved at most
SOME_WIDE = 5  # doubled frames in even turn, from which it is told whether another rate was fitted
LONGEST = 3  # frames in a row that are still a doubled one, not stillness
JUMP = 5.0  # times the usual bend of the path that a missing frame makes, at least
AGREED = 0.3  # of the jump, what may be left of it when a frame is put in
TOLD = 5.0  # standard errors at which a rolling shutter is believed
LEAST_READOUT, LARGEST_READOUT = 0.04, 1.0  # of a frame's time
FASTER_OR_SLOWER = 2.0  # square pixels a frame by which speeds have to differ for blur to show
PALER = -0.5  # correlation of contrast with the square of speed, from which it is blur
SMEAR, WHOLE_LOSS = 0.035, 0.0067  # pixels off for a pixel of bend, and loss of contrast from which it is all of it
ROLLED = 0.033  # of how far the picture goes in a readout, what may be left of it; both by calibration
# pixels a frame, and by how much more such a frame is off: coders copy what goes by less than their quarter of a pixel
COPIED_AT, COPIED = (0.04, 0.12, 0.3, 0.6), (1.0, 1.6, 1.6, 1.0)
AROUND = 12  # frames over which that pace is meant
LEAST_PACE = 0.5  # pixels a frame by which the picture has to go faster and slower for late rows to show


@dataclass(frozen=True)
class Faults:
    """``interlaced``; ``doubled`` frames that show the one before again; ``conformed``: these come from another rate;
    ``missing``: frames (numbers of those before the gap) after which one was left out; ``readout``: seconds from the
    first row to the last, 0 where it cannot be told; ``retimed``: its times ran backwards, and were made anew."""

    interlaced: bool = False
    doubled: int = 0
    conformed: bool = False
    missing: tuple[int, ...] = ()
    readout: float = 0.0
    retimed: bool = False


def combing(luma: np.ndarray) -> float:
    """How much more the neighbouring rows of a picture (rows, columns) uint8 differ than those two apart."""
    strips = [luma[:, at : at + STRIP] for at in range(0, luma.shape[1], STRIP * ONE_IN)]
    near, far = (
        float(np.mean([cv2.norm(rows[:-apart], rows[apart:], cv2.NORM_L1) / rows[apart:].size for rows in strips]))
        for apart in (1, 2)
    )
    return (near + 0.2) / (far + 0.2)


def is_interlaced(combs: np.ndarray, values: np.ndarray) -> bool:
    """Whether the rows of a clip's frames are of two moments in turn: then they differ the more the faster it moves.

    ``combs`` (n,): :func:`combing` of each frame; ``values`` (n, 4) the path.
    """
    if len(combs) < 8:
        return bool(np.median(combs) > COMBED)
    speed = np.hypot(*_pace(values).T)
    if np.quantile(speed, 0.8) < 1.0:
        return False
    slow, fast = combs[speed <= np.quantile(speed, 0.3)].mean(), combs[speed >= np.quantile(speed, 0.7)].mean()
    order = float(np.corrcoef(speed.argsort().argsort(), combs.argsort().argsort())[0, 1])
    return bool(fast > FASTER * slow and order > ORDER)


def one_field(luma: np.ndarray) -> np.ndarray:
    """The rows of the first field of a picture, those between them filled in: the same size, nothing moved."""
    out = luma.copy()
    above = luma[0::2].astype(np.uint16)
    below = np.concatenate([above[1:], above[-1:]])
    out[1::2] = ((above + below + 1) // 2)[: len(out[1::2])]
    return out


def find_doubled(changes: np.ndarray, values: np.ndarray, size: tuple[float, float]) -> np.ndarray:
    """Which frames show the one before again: (n,) bool.

    ``changes`` (n,): mean difference of each frame's picture to the one before; ``values`` (n, 4) the path, in a frame
    of ``size``: a place of it stands still only where nothing turns or grows either.
    """
    x, y, turn, scale = np.diff(values, axis=0).T
    turned = mean_square_distance(size) * (np.radians(turn) ** 2 + scale**2)
    steps = np.append(0.0, np.sqrt(x**2 + y**2 + turned))
    usual, pace = np.quantile(changes[1:], 0.8), np.quantile(steps[1:], 0.8)
    same = (changes < SAME * usual) & (steps < STILL) & (pace > 6 * STILL)
    same[0] = False
    edges = np.flatnonzero(np.diff(np.concatenate([[0], same.astype(int), [0]])))
    for begin, end in edges.reshape(-1, 2):
        if end - begin > LONGEST:
            same[begin:end] = False
    return np.asarray(same)


def conform_times(t: np.ndarray, values: np.ndarray, same: np.ndarray) -> tuple[np.ndarray, bool]:
    """The moments (m,) at which the frames that are not doubled were filmed, and whether these come from another rate.

    Either they were filmed when they show, frames between them having been lost, and the picture goes on twice as far
    behind a doubled one; or evenly, and doubled to fit a rate: then it goes as far as ever.
    """
    own = t[~same]
    gaps = np.diff(np.flatnonzero(np.append(~same, True)))
    between = np.diff(np.flatnonzero(same))
    if same.sum() < 3 or np.ptp(between) > max(1, 0.2 * between.mean()):
        return own, False
    steps = np.diff(values[~same, :2], axis=0)
    wide = np.flatnonzero(gaps[:-1] > 1)
    wide = wide[(wide > 0) & (wide < len(steps) - 1)]
    usual = (steps[wide - 1] + steps[wide + 1]) / 2
    times = float((steps[wide] * usual).sum() / max((usual**2).sum(), 1e-9))
    if len(wide) < SOME_WIDE or times > 1.5:
        return own, False
    return np.linspace(own[0], own[0] + np.median(np.diff(t)) * gaps.sum(), len(own), endpoint=False), True


def missing(t: np.ndarray, values: np.ndarray) -> tuple[int, ...]:
    """Frames after which one was left out, though the times do not tell: the path takes two steps in one."""
    step = np.median(np.diff(t)) if len(t) > 1 else 1.0
    pace = np.diff(values[:, :2], axis=0) / (np.diff(t) / step)[:, None]
    if len(pace) < 8:
        return ()
    usual = (-pace[:-4] + 4 * pace[1:-3] + 4 * pace[3:-1] - pace[4:]) / 6
    here = pace[2:-2]
    off = np.hypot(*(here - usual).T)
    twice = np.hypot(*(here - 2 * usual).T)
    bend = 1.4826 * float(np.median(off)) + 0.05
    found = (off > JUMP * bend) & (twice < AGREED * off)
    found &= np.abs(np.diff(t)[2:-2] - step) < 0.5 * step
    return tuple(int(k) + 2 for k in np.flatnonzero(found))


def smear_error(values: np.ndarray, anchors: np.ndarray, contrasts: np.ndarray) -> np.ndarray:
    """How far a blurred picture may lie from where it was in the middle of its exposure: (n,) pixels.

    A picture that goes faster and slower while the shutter is open is drawn out more to the one side than to the other,
    and is matched where most of it is. How long the shutter is open shows in how its contrast falls with the square of
    its speed: ``contrasts`` (n,) against frames ``anchors`` (n,); ``values`` (n, 4) the path in pixels.
    """
    steps = np.diff(values[:, :2], axis=0, prepend=values[:1, :2], append=values[-1:, :2])
    before, after = steps[:-1], steps[1:]
    speed = ((before**2).sum(axis=1) + (after**2).sum(axis=1)) / 2
    known = np.isfinite(contrasts) & (contrasts > 0) & (anchors != np.arange(len(anchors)))
    faster, paler = (speed - speed[anchors])[known], np.log(contrasts[known])
    if known.sum() < 12 or faster.std() < FASTER_OR_SLOWER:
        return np.zeros(len(values))
    if np.corrcoef(faster, paler)[0, 1] > PALER:
        return np.zeros(len(values))
    loss = -float(np.polyfit(faster, paler, 1)[0])
    bend = np.hypot(*(after - before).T)
    bend[[0, -1]] = 0.0
    return np.asarray(SMEAR * bend * -np.expm1(-loss * speed / WHOLE_LOSS))


def copied_error(values: np.ndarray) -> np.ndarray:
    """How many times further than its patches tell each frame may be off, since coders copy what hardly moves: (n,)."""
    steps = np.hypot(*np.diff(values[:, :2], axis=0, prepend=values[:1, :2]).T)
    return np.interp(scipy.ndimage.median_filter(steps, AROUND, mode="nearest"), COPIED_AT, COPIED)


def readout(values: np.ndarray, anchors: np.ndarray, bends: np.ndarray, height: float) -> float:
    """Time from the first row to the last, in frames; 0 where it cannot be told from none.

    A row seen later than the middle one has gone further: a steady move skews the picture, or draws it out, by the way
    it goes in that time (C.-K. Liang, L.-W. Chang and H. Chen, "Analysis and compensation of rolling shutter effect",
    IEEE Transactions on Image Processing 17, 2008). ``values`` (n, 4) in pixels, ``bends`` (n, 10) against frames
    ``anchors`` (n,), see :class:`alignment.Alignment`; ``height`` of the frame in pixels.
    """
    pace = _pace(values)
    pace, place = pace - pace[anchors], values[:, :2] - values[anchors][:, :2]
    known = np.isfinite(bends).all(axis=1) & (anchors != np.arange(len(anchors)))
    if known.sum() < 8 or np.sqrt((pace[known] ** 2).sum(axis=1).mean()) < LEAST_PACE:
        return 0.0
    # the lens may bend with the place: that is not late
    nothing = np.zeros_like(place)
    rows = np.concatenate(
        [np.column_stack([pace[:, 0], place, nothing])[known], np.column_stack([pace[:, 1], nothing, place])[known]]
    )
    aims = height * np.concatenate([bends[known, 0], bends[known, 1]])
    trust = np.ones(len(aims))
    for _ in range(5):
        weighted = rows * trust[:, None]
        back = np.linalg.pinv(weighted.T @ rows)
        answer = back @ weighted.T @ aims
        left = aims - rows @ answer
        trust = 1 / (1 + (left / (2.0 * np.median(np.abs(left)) + 1e-9)) ** 2)
    error = np.sqrt(np.sum(trust * left**2) / max(trust.sum() - rows.shape[1], 1.0) * back[0, 0])
    late = float(answer[0])
    return late if max(TOLD * float(error), LEAST_READOUT) < abs(late) <= LARGEST_READOUT else 0.0


def on_time(
    values: np.ndarray, late: float, anchors: np.ndarray, bends: np.ndarray, height: float, factor: int
) -> np.ndarray:
    """The path with what a readout of ``late`` frames did to it taken off, from the first frame on.

    ``anchors`` and ``bends`` as for :func:`readout`, of pictures ``factor`` times smaller.
    """
    course = scipy.interpolate.CubicSpline(np.arange(len(values)), values[:, :2])
    rows = _pace(values) * late / height  # by how much each row goes further than the one above
    shares = bends[:, 2:].reshape(-1, 4, 2)
    shares = np.where(np.isfinite(shares), shares, np.nanmedian(shares, axis=0))
    off = np.zeros((len(values), 4))
    for number in range(1, len(values)):  # what was measured against a key picture has its error too
        off[number] = off[anchors[number]] + shares[number] @ (rows[number] - rows[anchors[number]])
    out = values.copy()
    # rows are spread about the middle one in time: their mean lies where the path bends to
    out[:, :2] -= off[:, :2] * factor + late**2 / 24 * course(np.arange(len(values)), 2)
    out[:, 2] -= np.degrees(off[:, 2])
    out[:, 3] *= np.exp(-off[:, 3])
    return out


def rolling_error(values: np.ndarray, late: float) -> np.ndarray:
    """How far places may be off for what a readout of ``late`` frames left: (n,) pixels."""
    return np.asarray(ROLLED * abs(late) * np.hypot(*_pace(values).T))


def _pace(values: np.ndarray) -> np.ndarray:
    """How far the picture goes in a frame, at each: (n, 2)."""
    return np.asarray(scipy.interpolate.CubicSpline(np.arange(len(values)), values[:, :2])(np.arange(len(values)), 1))


def interpolate_path(t: np.ndarray, times: np.ndarray, values: np.ndarray) -> np.ndarray:
    """A path known at ``times`` (m,), at times ``t`` (n,): smooth between, held beyond."""
    if len(times) < 4:
        return np.column_stack([np.interp(t, times, column) for column in values.T])
    curve = scipy.interpolate.make_interp_spline(times, values, k=3)
    return np.asarray(curve(np.clip(t, times[0], times[-1])))
