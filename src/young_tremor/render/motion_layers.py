"""What moves a plate: the shot's shake, the spans over it and its own, and how parts of a title differ."""

from __future__ import annotations

import math
import threading
from collections import deque
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from msgspec.structs import replace

from young_tremor.geometry import camera
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import times
from young_tremor.model.project import Over, Plate, Shot
from young_tremor.model.shake import Drift, Hit, Point, Shake
from young_tremor.motion import sample, seeded_random
from young_tremor.render.motion_grid import TimeGrid

TURNS = np.array([0.0, 0, 1, 0, 1, 1])  # the channels that are turns
ASKED = 16  # answers that a thread keeps
LOOKS = 600  # at a shake, for how far it goes
_asked = threading.local()


@dataclass(frozen=True, eq=False)
class MotionLayer:
    """A shake that acts on a plate: the share of each channel (6,), about what it turns, the hits it answers to.

    ``common``: it is the shot's, so that depth divides its travel. ``over``: the span it comes from, which has the
    reel's time.
    """

    shake: Shake
    share: np.ndarray
    pivot: Point
    hits: tuple[Hit, ...] = ()
    common: bool = False
    over: Over | None = None

    def clock(self, t: np.ndarray) -> np.ndarray:
        """Its own time at the shot's times ``t``."""
        return t if self.over is None else t + self.over.at

    def gain(self, t: np.ndarray) -> np.ndarray:
        """How much of it there is at the shot's times ``t`` (n,), besides the shake's intensity: a span comes and
        goes."""
        if self.over is None:
            return np.ones(len(t))
        span, at = self.over.span, t + self.over.at
        first = (
            seeded_random.smoothstep((at - span.start) / span.fade_in) if span.fade_in > 0 else (at >= span.start) * 1.0
        )
        last = seeded_random.smoothstep((span.end - at) / span.fade_out) if span.fade_out > 0 else (at < span.end) * 1.0
        return np.asarray(first * last)

    def sample(self, t: np.ndarray) -> np.ndarray:
        """Its six channels at the shot's times (n,): (n, 6), without the share."""
        values = sample.sample(self.shake, self.clock(t), self.pivot, self.hits)
        return values if self.over is None else values * self.gain(t)[:, None]

    def whole(self, t: np.ndarray) -> np.ndarray:
        """The same of the strands that act everywhere; not to be changed."""
        if all(strand.region is None for strand in self.shake.strands):
            return _sample_layer(self, np.ascontiguousarray(t, np.float64))
        values = sample.sample_everywhere(self.shake, self.clock(t), self.pivot, self.hits)
        return values if self.over is None else values * self.gain(t)[:, None]

    def strand(self, number: int, t: np.ndarray) -> np.ndarray:
        """The same of one strand."""
        at = self.clock(t)
        size = sample.intensity(self.shake, at) * self.gain(t)
        return sample.strand(self.shake, number, at, self.pivot, self.hits) * size[:, None]

    def size(self, number: int, t: np.ndarray) -> np.ndarray:
        """How much of a strand counts at the shot's times (n,)."""
        return sample.gain(self.shake, number, self.clock(t)) * self.gain(t)


def sways(shot: Shot, plate: Plate) -> tuple[MotionLayer, ...]:
    """What moves a plate: the shot's shake and the spans over it, unless it lies on the glass, and its own. Travel and
    zoom shrink with the distance, turns do not."""
    out: list[MotionLayer] = []
    if plate.share and not plate.glass:
        share = plate.share * (TURNS + (1.0 - TURNS) / plate.distance)
        out.append(MotionLayer(shot.shake, share, shot.frame.pivot, shot.hits, True))
        for over_span in shot.over:
            if over_span.span.on:
                out.append(
                    MotionLayer(over_span.span.shake, share, shot.frame.pivot, over_span.span.hits, True, over_span)
                )
    if plate.shake is not None:
        out.append(MotionLayer(plate.shake, np.ones(6), shot.frame.pivot, shot.hits))
    return tuple(out)


def apart(shot: Shot, plate: Plate, number: int, middle: Point) -> tuple[MotionLayer, ...]:
    """What moves one part of a plate that comes apart: its own shake differs from part to part, as much as the title
    says, and turns about the part's middle."""
    title = plate.media.title
    assert title is not None
    if plate.shake is None:
        return sways(shot, plate)
    different = _different(plate.shake, title.differ, number)
    return (*sways(shot, plate)[:-1], *(MotionLayer(shake, np.ones(6), middle, shot.hits) for shake in different))


Parts = tuple[tuple[int, float, float], ...]  # number and middle of each


@lru_cache(maxsize=64)
def own_motion(shake: Shake, differ: float, hits: tuple[Hit, ...], parts: Parts) -> TimeGrid:
    """How the parts of a plate move by its own shake, which nothing else of the shot changes: (parts, n, 6)."""
    every = [
        [
            MotionLayer(new_shake, np.ones(6), Point(Curve(x), Curve(y)), hits)
            for new_shake in _different(shake, differ, number)
        ]
        for number, x, y in parts
    ]
    return TimeGrid(lambda t: np.stack([sum_layers(tuple(layers), t) for layers in every]))


@lru_cache(maxsize=4096)
def _different(shake: Shake, differ: float, number: int) -> tuple[Shake, ...]:
    """A shake mixed from its own course and another one: drifts keep their spread, since two courses of one have
    nothing in common; what answers to hits or was plotted keeps its size."""
    if differ <= 0:
        return (shake,)
    out = []
    for other in (False, True):
        strands = []
        for strand in shake.strands:
            weight = differ if other else math.sqrt(1 - differ**2) if isinstance(strand, Drift) else 1 - differ
            seed = strand.seed + 7919 * (number + 1) if other else strand.seed
            strands.append(replace(strand, amount=times(strand.amount, weight), seed=seed))
        out.append(replace(shake, strands=tuple(strands)))
    return tuple(out) if differ < 1 else (out[1],)


def channels(shot: Shot, plate: Plate, t: np.ndarray) -> np.ndarray:
    """The six channels that move a plate of a shot at times ``t`` (n,): (n, 6), share and its own shake included."""
    return sum_layers(sways(shot, plate), t)


def sum_layers(sways: tuple[MotionLayer, ...], t: np.ndarray) -> np.ndarray:
    """The six channels of several shakes together at times ``t`` (n,): (n, 6)."""
    total = np.zeros((len(t), 6))
    for sway in sways:
        total += sway.share * _sample_layer(sway, np.ascontiguousarray(t, np.float64))
    return total


def _sample_layer(sway: MotionLayer, t: np.ndarray) -> np.ndarray:
    """A shake at times (n,): (n, 6), not to be changed. The plates of a frame ask for the same one at the same times,
    one after the other."""
    kept: deque[tuple[MotionLayer, bytes, np.ndarray]] | None = getattr(_asked, "kept", None)
    if kept is None:
        kept = _asked.kept = deque(maxlen=ASKED)
    key = t.tobytes()
    for old, times_, values in kept:
        same = old.shake is sway.shake and old.pivot is sway.pivot and old.over is sway.over
        if same and old.hits is sway.hits and times_ == key:
            return values
    values = sway.sample(t)
    kept.appendleft((sway, key, values))
    return values


@lru_cache(maxsize=64)
def travel(shot: Shot, plate: Plate) -> float:
    """How far the shot's shake, spans included, moves a plate at the most, as a share of the frame's height."""
    ends = [hit.t for hit in shot.hits] or [0.0]
    long = max((shot.end or 0.0) - shot.start, max(ends) + 2.0, 10.0)
    looks = np.concatenate([np.linspace(0.0, long, LOOKS), *(np.linspace(h, h + 0.4, 40) for h in ends[:200])])
    moved = sum_layers(tuple(layer for layer in sways(shot, plate) if layer.common), looks)
    return float((np.hypot(moved[:, 0], moved[:, 1]) + np.abs(moved[:, 3])).max()) / 100


def placements(plate: Plate, t: np.ndarray) -> np.ndarray:
    """P at times ``t``: (n, 3, 3)."""
    p = plate.placement
    curves = (p.x, p.y, p.size, p.angle)
    if all(curve.constant for curve in curves):
        return np.broadcast_to(camera.placement(*(curve.value for curve in curves)), (len(t), 3, 3))
    values = [curve.at(t) for curve in curves]
    return np.stack([camera.placement(*(float(v[i]) for v in values)) for i in range(len(t))])
