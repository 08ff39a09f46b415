"""The kinds of strands: one entry each, and nothing else tells them apart."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Protocol

import numpy as np
from msgspec.structs import replace

from young_tremor.model.curve import Curve, trimmed_off
from young_tremor.model.shake import (
    CHANNELS,
    PLOTTED,
    Common,
    Drift,
    DriftChannel,
    DriftChannels,
    Hit,
    Jolts,
    Plotted,
    Shimmer,
    Strand,
    Taken,
    Together,
)
from young_tremor.motion import corrections, drift, jolts, plotted, seeded_random, shimmer, take

LOOKS = 50.0  # a second, at which a course is looked at to find its size
HELD = (0.25, 3.3)  # of the reach, the size of a course that may be scaled to hold it in a shot
ALMOST = 1e-6  # of a step: a time that is so little before it counts as on it
TRACED = 200  # times at which a shimmer is looked at for its trace

# strand at amount 100 %, times (n,) in seconds of the shot, pace, hits, what belongs together if it does → (n, 6)
Sample = Callable[..., np.ndarray]


class DisplacementField(Protocol):
    """What a strand at amount 100 % adds to places (..., 2) that it was made for."""

    def at(self, clock: float) -> np.ndarray:
        """(..., 2) in frame units, at ``clock`` seconds of the shake's own time."""
        ...


@dataclass(frozen=True)
class StrandKind:
    """What a kind of strand is.

    ``fresh``: one as it is added by hand, from an id and a seed; None where it cannot be
    made of nothing. ``sample``: its motion. ``reach``: how far each channel goes at amount 100 %, (6,). ``hears``:
    whether it answers to hits. ``field``: its displacement of places in frame units, where it does not move the whole
    picture, and ``far``: the most of that, (2,) in frame units. ``together``: whether ``sample`` takes a fifth
    argument, how it belongs together with the shake's other strands. ``bridged``: at which seconds of the shake's own
    time its motion was made up, because nothing was measured.
    """

    type: type[Common]
    fresh: Callable[[str, int], Strand] | None
    sample: Sample
    reach: Callable[[Any], np.ndarray]
    hears: bool = False
    field: Callable[[Any, np.ndarray], DisplacementField] | None = None
    far: Callable[[Any], np.ndarray] = lambda strand: np.zeros(2)
    bridged: Callable[[Any, np.ndarray], np.ndarray] | None = None
    together: bool = False


def fresh(word: str, strand_id: str, seed: int) -> Strand:
    """A strand of a kind by its word in documents, as it is added by hand; KeyError where there is none."""
    make = {word_of(kind): entry.fresh for kind, entry in STRAND_KINDS.items()}[word]
    if make is None:
        raise KeyError(word)
    return make(strand_id, seed)


def word_of(kind: type[Common]) -> str:
    """What documents call a kind of strand."""
    return str(kind.__struct_config__.tag)


def kind_of(strand: Strand) -> StrandKind:
    """The entry of a strand's kind; KeyError for one that has none."""
    return STRAND_KINDS[type(strand)]


def _drift(
    strand: Drift, t: np.ndarray, pace: Curve, hits: tuple[Hit, ...], together: Together = Together()
) -> np.ndarray:
    before, strand = trimmed_off(pace), on_clock(strand, pace)
    held = np.floor((t + before) * strand.step + ALMOST) / strand.step - before if strand.step > 0 else t
    clock = pace.integral(held)
    moved = drift.sample(strand, clock, together)
    if strand.holds > 0:
        moved *= 1 / np.clip(sizes(strand, pace, (-before, strand.holds), together), *HELD)
    if strand.corrections.size:
        added, left = corrections.sample(strand, clock)
        moved = moved * left[:, None] + added
    if strand.ease_in > 0:
        moved *= seeded_random.smoothstep((t + before) / strand.ease_in)[:, None]
    return moved


def on_clock(strand: Drift, pace: Curve) -> Drift:
    """A drift with the keys of its rate on a shake's own time, which runs on where a shot was trimmed."""
    by, rate = trimmed_off(pace), strand.rate
    if not by or not rate.keys:
        return strand
    return replace(strand, rate=replace(rate, keys=tuple(replace(key, t=key.t + by) for key in rate.keys)))


@lru_cache(maxsize=2048)
def sizes(strand: Drift, pace: Curve, stretch: tuple[float, float], together: Together = Together()) -> np.ndarray:
    """The 95 % quantile of each channel of a drift's own course over a ``stretch`` of a shot (where it begins, and how
    long it is, in seconds), in its reaches: (6,); 1 where a channel does not move."""
    begin, seconds = stretch
    count = int(min(max(seconds * LOOKS, 240), 6000))
    t = begin + (np.arange(count) + 0.5) / count * seconds
    size = np.quantile(np.abs(drift.sample(strand, pace.integral(t), together)), 0.95, axis=0)
    reach = np.array([abs(strand.channels[name].reach) for name in CHANNELS])
    return np.where(reach > 0, size / np.maximum(reach, 1e-12), 1.0)


def _shimmer(strand: Shimmer, t: np.ndarray, pace: Curve, hits: tuple[Hit, ...]) -> np.ndarray:
    """What a shimmer does to the middle of the picture, for its trace: percent of frame height."""
    clock = pace.integral(t)
    few = clock if len(clock) <= TRACED else np.linspace(clock[0], clock[-1], TRACED)
    middle = shimmer.ShimmerField(strand, np.zeros((1, 2)))
    places = np.array([middle.at(float(c))[0] for c in few]).reshape(-1, 2)
    out = np.zeros((len(clock), 6))
    for column in (0, 1):
        out[:, column] = 100 * (places[:, column] if few is clock else np.interp(clock, few, places[:, column]))
    return out


def _jolts_reach(strand: Jolts) -> np.ndarray:
    x = y = 1.0
    if strand.direction is not None:
        spread = np.linspace(-1, 1, 9) * jolts.TURNED * strand.differ
        angles = np.radians(strand.direction + spread)
        x, y = float(np.abs(np.cos(angles)).max()), float(np.abs(np.sin(angles)).max())
    most = 1 + jolts.SIZE_DIFFERS * strand.differ
    return most * np.array([strand.reach * x, strand.reach * y, strand.roll, strand.zoom, 0.0, 0.0])


def _plotted_reach(strand: Plotted) -> np.ndarray:
    curves = [strand.curve(name) for name in PLOTTED]
    sizes = [max((abs(key.value) for key in c.keys), default=abs(c.value)) for c in curves]
    return np.array([*sizes, 0.0, 0.0])


@lru_cache(maxsize=32)
def _take_reach(strand: Taken) -> np.ndarray:
    t = np.linspace(0.0, strand.take.seconds, 600) - strand.offset
    return np.asarray(np.quantile(np.abs(take.sample(strand, t)), 0.95, axis=0))


def _fresh_drift(strand_id: str, seed: int) -> Drift:
    channels = DriftChannels(x=DriftChannel(0.3), y=DriftChannel(0.25), roll=DriftChannel(0.08))
    return Drift(strand_id, note="your own", rate=Curve(0.8), seed=seed, channels=channels)


#: By type. A new kind is a struct in ``model.shake`` and an entry here.
STRAND_KINDS: dict[type, StrandKind] = {
    entry.type: entry
    for entry in (
        StrandKind(
            Drift,
            _fresh_drift,
            _drift,
            lambda strand: np.array([strand.channels[name].reach for name in CHANNELS]),
            together=True,
        ),
        StrandKind(
            Jolts,
            lambda strand_id, seed: Jolts(strand_id, note="your own", seed=seed),
            lambda strand, t, pace, hits: jolts.sample(strand, hits, t),
            _jolts_reach,
            hears=True,
        ),
        StrandKind(
            Plotted,
            lambda strand_id, seed: Plotted(strand_id, seed=seed),
            lambda strand, t, pace, hits: plotted.sample(strand, t),
            _plotted_reach,
        ),
        StrandKind(
            Taken,
            None,
            lambda strand, t, pace, hits: take.sample(strand, pace.integral(t)),
            _take_reach,
            bridged=take.is_bridged,
        ),
        StrandKind(
            Shimmer,
            lambda strand_id, seed: Shimmer(strand_id, note="heat", seed=seed),
            _shimmer,
            lambda strand: np.array([strand.x, strand.y, 0.0, 0.0, 0.0, 0.0]),
            field=shimmer.ShimmerField,
            far=lambda strand: np.array([abs(strand.x), abs(strand.y)]) / 100,
        ),
    )
}
