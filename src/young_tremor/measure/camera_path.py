"""The way of the picture through a clip: every frame against a key picture, key pictures linked to each other."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass, field, replace

import cv2
import numpy as np
import scipy

from young_tremor.measure import alignment, clip_faults
from young_tremor.measure.alignment import AlignedPicture, Similarity
from young_tremor.measure.clip_faults import Faults
from young_tremor.measure.frame_walk import LayerWay, TooLittleMotion, Walk

WIDEST = 1400  # pixels across above which the working picture is halved
FAR_OFF = 1.0  # pixels of the footage that a place may be off before it is bridged
SHORT_GAP = 4  # frames in a row that are drawn as the path bends about them
DOUBLED = 0.29  # of what a lost frame may be off, one between two that are known; by calibration
TIMES = 4.0  # as far off as the clip's frames mostly are, at least, before one is bridged
CLOSE_RUN = 0.75  # of the chosen layer's reach that the other has, from which it is asked to look
ASSUMPTIONS = ("rolling", "doubled", "missing")  # rows late, frames shown twice, frames left out
Boxes = tuple[tuple[float, float, float, float], ...]
Progress = Callable[[int, np.ndarray], None]


@dataclass(frozen=True)
class MeasuredFrame:
    """A frame made ready to be measured: its working picture, how many times smaller that is, whether it is of one
    field, and how much it looks as if it were of two, see :func:`faults.combing`."""

    factor: int
    picture: AlignedPicture
    field: bool
    combing: float


def prepare(luma: np.ndarray, *, field: bool = False, widest: int = WIDEST) -> MeasuredFrame:
    """Make a frame's luma (rows, columns) uint8, in square pixels, ready, of its first field alone if asked; halved
    until it is no wider than ``widest``.

    For any thread.
    """
    combing = clip_faults.combing(luma)
    if field:
        luma = clip_faults.one_field(luma)
    factor = 1
    while luma.shape[1] > widest:
        luma = cv2.pyrDown(luma)  # its pixel k lies on pixel 2k
        factor *= 2
    return MeasuredFrame(factor, alignment.ready(luma), field, combing)


@dataclass(frozen=True)
class RawPath:
    """A layer's path as it was seen, before anything was assumed of the clip: see :class:`LayerPath`, ``LayerWay`` and
    ``Walk.changes``. ``size`` of the frame in pixels of the footage, ``factor`` times that of the working picture."""

    t: np.ndarray
    values: np.ndarray
    errors: np.ndarray
    anchors: np.ndarray
    bends: np.ndarray
    contrasts: np.ndarray
    changes: np.ndarray
    size: tuple[float, float]
    factor: int


@dataclass(frozen=True)
class LayerPath:
    """What one of the things that move did; as in :class:`ClipPath`.

    ``reach`` 0…1: how far it goes round the frame's rim and over the frame; ``entered``: the first frame of what came
    into the picture, which is not the scene; ``faults`` of the clip, as this layer shows
    them; ``marks``: of each frame places (k, 2) float32 at which it was seen, in pixels of the footage; ``raw``: what
    it was made of.
    """

    values: np.ndarray
    error: np.ndarray
    bridged: np.ndarray
    reach: float
    entered: int
    faults: Faults
    marks: tuple[np.ndarray, ...] = field(repr=False)
    raw: RawPath = field(repr=False)


@dataclass(frozen=True)
class ClipPath:
    """What a clip's picture did, against its first frame and about its centre.

    ``t`` (n,) seconds from the first frame. ``layers``: one, or two where two things move; ``chosen``: which of them is
    the scene. Of that one: ``values`` (n, 4): x, y in pixels of the footage (right, down), turn in degrees (clockwise),
    scale; ``error`` (n,): how far a place may be off, in pixels of the footage, RMS over the picture, as the standard
    error; ``confidence`` (n,) is 1 / (1 + error²); ``doubtful`` (n,) bool: frames that were bridged. ``cut``: the
    frame with which another shot begins, if the clip was longer; ``still``: nothing moves; ``keys``: key pictures used.
    """

    t: np.ndarray
    layers: tuple[LayerPath, ...]
    chosen: int
    cut: int | None
    keys: int

    @property
    def values(self) -> np.ndarray:
        """The path of the layer that is taken for the scene: (n, 4)."""
        return self.layers[self.chosen].values

    @property
    def error(self) -> np.ndarray:
        """Its standard error in pixels: (n,)."""
        return self.layers[self.chosen].error

    @property
    def usual_error(self) -> float:
        """RMS of the error of frames that were not bridged, in pixels."""
        return float(np.sqrt(np.mean(self.error[~self.doubtful] ** 2)))

    @property
    def doubtful(self) -> np.ndarray:
        """Which frames were bridged: (n,) bool."""
        return self.layers[self.chosen].bridged

    @property
    def confidence(self) -> np.ndarray:
        """How sure each frame is, 0…1: (n,)."""
        return np.asarray(1 / (1 + self.error**2))

    @property
    def faults(self) -> Faults:
        """What was wrong with the clip."""
        return self.layers[self.chosen].faults

    @property
    def still(self) -> bool:
        """Whether nothing moves."""
        return bool(np.abs(self.values[:, :2]).max() < 0.02 and np.abs(self.values[:, 2]).max() < 2e-3)

    @property
    def close(self) -> bool:
        """Whether it is not plain which of two layers is the scene."""
        reaches = sorted(layer.reach for layer in self.layers)
        return len(reaches) > 1 and reaches[0] > CLOSE_RUN * reaches[1]

    @property
    def assumed(self) -> tuple[str, ...]:
        """What was assumed of the clip, by the names of :data:`ASSUMPTIONS`."""
        faults = self.faults
        there = {"rolling": faults.readout, "doubled": faults.doubled, "missing": faults.missing}
        return tuple(name for name in ASSUMPTIONS if there[name])

    def leaving(self, leave: Collection[str]) -> ClipPath:
        """The same with what is named by :data:`ASSUMPTIONS` left as it was seen."""
        layers = []
        for layer in self.layers:
            values, error, faults = _correct_faults(layer.raw, leave)
            faults = replace(faults, interlaced=layer.faults.interlaced, retimed=layer.faults.retimed)
            layers.append(replace(layer, values=values, error=error, faults=faults))
        chosen = layers[self.chosen]
        return replace(self, t=_with_missing_frames(chosen.raw.t, chosen.faults), layers=tuple(layers))

    def looked_again(self, part: ClipPath, first: int) -> ClipPath:
        """The same with a stretch measured once more: ``part``, from frame ``first`` on, laid to what stands at its
        ends where that is known."""
        layer = _splice(self.layers[self.chosen], part.layers[part.chosen], first)
        layers = tuple(layer if number == self.chosen else other for number, other in enumerate(self.layers))
        return replace(self, t=_with_missing_frames(layer.raw.t, layer.faults), layers=layers)

    def other(self) -> ClipPath:
        """The same with the other layer taken for the scene."""
        return replace(self, chosen=len(self.layers) - 1 - self.chosen)


def measure(
    frames: Iterable[tuple[float, MeasuredFrame]], shields: Boxes = (), progress: Progress | None = None
) -> ClipPath:
    """Measure a clip.

    Parameters
    ----------
    frames : iterable of (seconds, Prepared)
        In order, from :func:`prepare`, all of one size.
    shields : tuple of (x, y, width, height)
        Parts of the frame that are not looked at, in pixels of the footage.
    progress : callable (frames so far, values of the newest (4,)), optional
        Called after every frame; may raise to stop.

    Where ``faults.interlaced`` comes out of whole frames, measure again with frames prepared by ``field``.

    Raises
    ------
    TooLittle
        No picture, one frame, too little texture, or nothing that moves as one.
    """
    walk: Walk | None = None
    factor, field = 1, False
    times: list[float] = []
    combs: list[float] = []
    for t, frame in frames:
        if walk is None:
            factor = frame.factor
            walk = Walk(tuple(tuple(edge / factor for edge in box) for box in shields))
        times.append(t)
        field = frame.field
        combs.append(frame.combing)
        walk.step(frame.picture)
        if progress is not None:
            progress(len(times), _values(walk.newest()[None], walk.centre, factor)[0])
        if walk.cut is not None:
            break
    if walk is not None:
        walk.finish()
    end = walk.cut if walk is not None and walk.cut is not None else len(times)
    if walk is None or end < 2:
        raise TooLittleMotion("has only one frame to measure: choose a longer clip")
    at, retimed = _running(np.array(times[:end]))
    layers = (_layer(way, at, walk, factor) for way in walk.ways)
    paths = [layer for layer in layers if layer is not None]
    if not paths:
        raise TooLittleMotion(
            "shows nothing that moves as one for long: film something that stands still all over the frame, or shield "
            "what moves by itself"
        )
    best = max(range(len(paths)), key=lambda k: (paths[k].entered == 0, paths[k].reach))
    woven = field or clip_faults.is_interlaced(np.array(combs[:end]), paths[best].values)
    paths = [replace(layer, faults=replace(layer.faults, interlaced=woven, retimed=retimed)) for layer in paths]
    return ClipPath(_with_missing_frames(at, paths[best].faults), tuple(paths), best, walk.cut, walk.used)


def _running(times: np.ndarray) -> tuple[np.ndarray, bool]:
    """Times from the first frame on, and whether they had to be made anew, at an even rate, as they run backwards or
    stand."""
    steps = np.diff(times)
    if (steps > 0).all():
        return times - times[0], False
    forward = steps[steps > 0]
    return np.arange(len(times)) * float(np.median(forward) if len(forward) else 1 / 24), True


def _with_missing_frames(t: np.ndarray, found: Faults) -> np.ndarray:
    """Times with room for the frames that are missing."""
    step = float(np.median(np.diff(t)))
    return np.asarray(t + step * np.searchsorted(np.array(found.missing), np.arange(len(t)), side="left"))


def _layer(way: LayerWay, t: np.ndarray, walk: Walk, factor: int) -> LayerPath | None:
    """A layer's path with lost and far-off frames bridged; None where it was hardly there."""
    end = len(t)
    values = _values(np.array(way.matrices[:end]), walk.centre, factor)
    values[:, 2] = np.degrees(np.unwrap(np.radians(values[:, 2])))
    errors = np.array(way.errors[:end]) * factor
    seen = np.isfinite(errors)
    if seen.sum() < max(2, 0.35 * end) or way.began >= end:
        return None
    limit = max(FAR_OFF, TIMES * float(np.median(errors[seen])))
    good = errors <= limit
    if good.sum() < 2:
        return None
    if not good.all():
        _bridge(t, values, good)
        errors[~good] = np.maximum(_bridging(t, values, good), limit)
    bent = way.bent[:end]
    raw = RawPath(
        t,
        values,
        errors,
        np.array([frame for frame, _ in bent]),
        np.array([bend for _, bend in bent]),
        np.array(way.contrasts[:end]),
        np.array(walk.changes[:end]),
        (2 * walk.centre[0] * factor + 1, 2 * walk.centre[1] * factor + 1),
        factor,
    )
    values, errors, faults = _correct_faults(raw, ())
    marks = tuple(mark * np.float32(factor) for mark in way.marks[:end])
    return LayerPath(
        values, errors, ~good, float(np.mean(way.reaches[way.began : end])), way.entered, faults, marks, raw
    )


def _splice(whole: LayerPath, part: LayerPath, first: int) -> LayerPath:
    """A layer with frames from ``first`` on taken from a part that was measured by itself."""
    raw, new = whole.raw, part.raw
    last = min(first + len(new.t), len(raw.t)) - 1
    here, count = slice(first, last + 1), last + 1 - first
    centre = (np.array(raw.size) - 1) / 2
    base = _matrix(raw.values[first], centre)
    values = _values(np.array([_matrix(row, centre) @ base for row in new.values[:count]]), centre, 1)
    values[:, 2] += 360 * np.round((raw.values[first, 2] - values[0, 2]) / 360)
    off = raw.values[[first, last]] - values[[0, -1]]
    sure = ~whole.bridged[[first, last]] & ~part.bridged[[0, count - 1]]
    share = np.linspace(0, 1, count)[:, None] if sure.all() else np.full((count, 1), float(sure[1]))
    values += (1 - share) * off[0] + share * off[1]
    bridged = whole.bridged.copy()
    bridged[here] = part.bridged[:count]
    changes = new.changes[:count].copy()
    changes[0] = raw.changes[first]  # nothing stands before the part's first frame
    bends = new.bends[:count].copy()
    bends[:, 2:6] *= new.factor / raw.factor  # shifts, in pixels of the working picture
    spliced = replace(
        raw,
        values=_exchange(raw.values, here, values),
        errors=_exchange(raw.errors, here, new.errors[:count]),
        anchors=_exchange(raw.anchors, here, new.anchors[:count] + first),
        bends=_exchange(raw.bends, here, bends),
        contrasts=_exchange(raw.contrasts, here, new.contrasts[:count]),
        changes=_exchange(raw.changes, here, changes),
    )
    values, errors, faults = _correct_faults(spliced, ())
    marks = (*whole.marks[:first], *part.marks[:count], *whole.marks[last + 1 :])
    faults = replace(faults, interlaced=whole.faults.interlaced, retimed=whole.faults.retimed)
    return replace(whole, values=values, error=errors, bridged=bridged, faults=faults, marks=marks, raw=spliced)


def _exchange(values: np.ndarray, here: slice, new: np.ndarray) -> np.ndarray:
    out = values.copy()
    out[here] = new
    return out


def _correct_faults(raw: RawPath, leave: Collection[str]) -> tuple[np.ndarray, np.ndarray, Faults]:
    """The path without what late rows, frames shown twice and missing frames do to it, from its first frame on, its
    errors, and which of these there are. Those to ``leave`` are not looked for."""
    t, values = raw.t, raw.values
    errors = raw.errors * clip_faults.copied_error(values)
    errors = np.hypot(errors, clip_faults.smear_error(values, raw.anchors, raw.contrasts))
    same = clip_faults.find_doubled(raw.changes, values, raw.size) & ("doubled" not in leave)
    moments, conformed = clip_faults.conform_times(t, values, same) if same.any() else (t, False)
    steady = values if conformed or not same.any() else clip_faults.interpolate_path(t, moments, values[~same])
    bends = np.where(same[:, None], np.nan, raw.bends)  # a doubled frame is not skewed by its own pace
    late = 0.0 if "rolling" in leave else clip_faults.readout(steady, raw.anchors, bends, raw.size[1])
    if late:
        errors = np.hypot(errors, clip_faults.rolling_error(steady, late))
        values = clip_faults.on_time(steady, late, raw.anchors, bends, raw.size[1], raw.factor)
    if same.any():
        values = clip_faults.interpolate_path(t, moments, values[~same])
        if not conformed:
            errors[same] = np.hypot(errors[same], DOUBLED * _bridging(t, values, ~same))
    gone = () if conformed or "missing" in leave else clip_faults.missing(t, values)
    values = values - values[0] * (1, 1, 1, 0)
    values[:, 3] /= values[0, 3]
    faults = Faults(
        doubled=int(same.sum()), conformed=conformed, missing=gone, readout=late * float(np.median(np.diff(t)))
    )
    return values, errors, faults


def _bridge(t: np.ndarray, values: np.ndarray, good: np.ndarray) -> None:
    """Draw the path through frames that are not good, in place: short gaps as it bends about them, long ones without a
    swing of their own."""
    inside = np.clip(t, t[good][0], t[good][-1])
    at = np.flatnonzero(good)
    gaps = np.diff(at, prepend=at[0], append=at[-1])[np.searchsorted(at, np.arange(len(t)))]
    smooth = ~good & (gaps <= SHORT_GAP + 1)
    kinds = (~good & ~smooth, scipy.interpolate.PchipInterpolator), (smooth, scipy.interpolate.CubicSpline)
    for which, curve in kinds:
        if which.any():
            values[which] = curve(t[good], values[good])(inside[which])


def _bridging(t: np.ndarray, values: np.ndarray, good: np.ndarray) -> np.ndarray:
    """How far bridged frames may be off: as far as the path bends elsewhere, growing with the gap."""
    at = np.flatnonzero(good)
    gap = np.array([at[at > k].min(initial=len(t)) - at[at < k].max(initial=-1) for k in np.flatnonzero(~good)])
    rows = values[good, :2]
    bend = rows[2:] - 2 * rows[1:-1] + rows[:-2] if len(rows) > 2 else np.ones((1, 2))
    off = float(np.sqrt((bend**2).sum(axis=1).mean())) * (gap / 2) ** 2
    # nor farther than it goes elsewhere from the middle of such a gap to its ends
    apart = np.clip(gap // 2, 1, max(len(rows) - 1, 1))
    gone = [np.sqrt(((rows[k:] - rows[:-k]) ** 2).sum(axis=1).mean()) if len(rows) > k else np.inf for k in apart]
    return np.asarray(np.minimum(off, gone))


def _matrix(row: np.ndarray, centre: np.ndarray) -> Similarity:
    """The matrix of x, y, degrees and scale about a centre."""
    return alignment.similarity(np.array([row[0], row[1], np.radians(row[2]), np.log(row[3])]), centre)


def _values(matrices: np.ndarray, centre: np.ndarray, factor: int) -> np.ndarray:
    """Numbers about the frame's centre, in pixels of the footage: (n, 4)."""
    offset = (factor - 1) / 2  # pixel 0 of the working picture lies on pixel 0: its centre is not the frame's
    rows = np.array([alignment.parameters(matrix, centre + offset / factor) for matrix in matrices])
    return np.column_stack([rows[:, :2] * factor, np.degrees(rows[:, 2]), np.exp(rows[:, 3])])
