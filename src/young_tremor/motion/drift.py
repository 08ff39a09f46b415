"""Drift: continuous procedural motion, pure in time."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from young_tremor.model.curve import Curve
from young_tremor.model.shake import CHANNELS, Drift, DriftChannel, Steps, Together
from young_tremor.motion import rests, spectrum, steps, together

ZOOM = CHANNELS.index("zoom")
SLOWEST = 1e-4  # factor on the rate below which a channel stands still
STANDS = 0.01  # steps a second below which somebody stands
UNEVEN = 0.8  # rad of beat unevenness at regularity 0: about 3 % of the period at 0.85


def sample(drift: Drift, clock: np.ndarray, tied: Together = Together()) -> np.ndarray:
    """The six channels of a drift at amount 100 %.

    Parameters
    ----------
    drift : Drift
    tied : Together
        How it belongs together with what else moves.
    clock : (n,) float64
        Seconds of the shake's own time (pace already applied); any order, any real value.

    Returns
    -------
    (n, 6) float64
        In channel units, order of :data:`~young_tremor.model.shake.CHANNELS`.
    """
    clock = np.asarray(clock, dtype=np.float64)
    clock = rests.warp_clock(clock, drift.rests.share, drift.rests.hold, drift.seed * 5 + 2, drift.rule)
    fixed = _drift_constants(drift)
    reference = fixed.reference
    local = clock if drift.rate.constant and drift.rate.value >= 0.01 else drift.rate.integral(clock) / reference
    irregular = fixed.lines.at(local)
    turn = spectrum.TURN * fixed.beat_hz * local + _start(drift.seed)
    gait = None
    if drift.steps != Steps():
        gait = steps.gait(drift.steps, turn, fixed.beat_hz, drift.seed * 7 + 5, fixed.stands)
        turn = gait.turn
    elif fixed.uneven:
        turn = turn + fixed.uneven * irregular[-1]
    moved = fixed.regular(turn)
    if gait is not None:
        moved = moved * gait.size + drift.steps.strike * gait.knock() * fixed.struck[:, None]
    moved += irregular[: len(moved)]
    if fixed.swings is not None:
        moved *= _activity(drift, fixed.swings, tied, clock) / fixed.grown[:, None]
    if tied.kicks and tied.kick and fixed.numbers:
        moved = _kicked(fixed, tied, clock, moved)
    out = np.zeros((len(clock), 6))
    out[:, fixed.numbers] = moved.T
    if drift.lean:
        out[:, ZOOM] = leant(out[:, ZOOM], drift.lean, drift.channels.zoom.reach)
    return out


def _activity(drift: Drift, swings: spectrum.Lines, tied: Together, clock: np.ndarray) -> np.ndarray:
    """How large each channel is at times (n,), by its own wander and by what is common to the shake: (c, n)."""
    noise = swings.at(clock)
    if tied.amount:
        noise = math.sqrt(1 - tied.amount) * noise + math.sqrt(tied.amount) * together.activity(tied, clock)
    noise = noise if drift.rule == 1 else spectrum.bound_noise(noise)
    return np.asarray(np.exp(_unit(drift.wander.depth) * noise))


def _kicked(fixed: _DriftConstants, tied: Together, clock: np.ndarray, moved: np.ndarray) -> np.ndarray:
    """Channels (c, n) with what kicks do to them, of the same 95 % quantiles."""
    hz = together.rings(fixed.reference, fixed.factors)
    gusty, size = round(tied.amount, 1), round(tied.kick, 2)
    grown = [together.growth(round(tied.kicks / 60 / ring, 2), size, gusty) for ring in hz.tolist()]
    pushed = tied.kick * fixed.reaches[:, None] * together.pushes(tied, clock, hz, fixed.numbers)
    return np.asarray((moved + pushed) / np.array(grown)[:, None])


@dataclass(frozen=True, eq=False)
class _DriftConstants:
    """What all samples of a drift have in common.

    ``numbers`` (c,): the channels that move, ``spectra``: of each. ``lines``: their irregular parts, and the beat's
    unevenness last, of which ``uneven`` counts. ``order``, ``start`` (w,): sines of the beat's angle that make up the
    regular parts, and ``rows`` (c, w) how much of them each channel has. ``swings``: how they wander, and ``grown``
    (c,) by how much the 95 % quantile grows by that. ``struck`` (c,): how far a heel strike moves each. ``reaches``,
    ``factors`` (c,): reach and factor on the rate of each. ``stands`` (m,): where the beat stands still.
    """

    reference: float
    beat_hz: float
    numbers: list[int]
    spectra: list[spectrum.Spectrum]
    lines: spectrum.Lines
    uneven: float
    order: np.ndarray
    start: np.ndarray
    rows: np.ndarray
    swings: spectrum.Lines | None
    grown: np.ndarray
    struck: np.ndarray
    reaches: np.ndarray
    factors: np.ndarray
    stands: np.ndarray

    def regular(self, turn: np.ndarray) -> np.ndarray:
        """The regular parts at beat angles (n,): (c, n)."""
        if not len(self.order):
            return np.zeros((len(self.numbers), len(turn)))
        return np.asarray(self.rows @ np.sin(self.order[:, None] * turn + self.start[:, None]))


@lru_cache(maxsize=2048)
def _drift_constants(drift: Drift) -> _DriftConstants:
    reference = max(drift.rate.value if drift.rule == 1 else typical(drift.rate), 0.01)
    common = (_unit(drift.regularity), _unit(drift.roughness))
    numbers = [k for k, name in enumerate(CHANNELS) if _moves(drift.channels[name])]
    channels = [drift.channels[CHANNELS[number]] for number in numbers]
    spectra = [spectrum.channel_spectrum(_asked(drift, number, reference, common)) for number in numbers]
    waves: list[tuple[int, float, float, float]] = []
    for row, (channel, lines) in enumerate(zip(channels, spectra, strict=True)):
        phase = math.radians(channel.phase)
        waves += [(row, k * channel.rate, k * phase, size) for k, size in enumerate(lines.wave.tolist(), 1) if size]
    uneven = UNEVEN * (1 - common[0]) if common[0] < 1 else 0.0
    beat = spectrum.slow_lines(drift.seed * 7 + 3, 0.25 * reference)
    swings, grown = None, np.ones(len(numbers))
    if drift.wander.depth and drift.wander.rate > 0:
        rate = drift.wander.rate
        swings = spectrum.lines_of([spectrum.slow_lines(drift.seed * 16 + number + 9, rate) for number in numbers])
        if drift.rule > 1:
            grown = np.array([spectrum.grown(lines, _unit(drift.wander.depth)) for lines in spectra])
    rows = np.zeros((len(numbers), len(waves)))
    for place, (row, _, _, size) in enumerate(waves):
        rows[row, place] = size
    beat_hz = reference * spectrum.beat_factor(reference, *common)
    stopped = np.array([key.t for key in drift.rate.keys if key.value <= STANDS])
    return _DriftConstants(
        reference,
        beat_hz,
        numbers,
        spectra,
        spectrum.lines_of([*spectra, beat] if uneven else spectra),
        uneven,
        np.array([order for _, order, _, _ in waves]),
        np.array([start for _, _, start, _ in waves]),
        rows,
        swings,
        grown,
        np.array([channel.reach if channel.rate == 1 else 0.0 for channel in channels]),
        np.array([channel.reach for channel in channels]),
        np.array([channel.rate for channel in channels]),
        np.unique(spectrum.TURN * beat_hz * drift.rate.integral(stopped) / reference + _start(drift.seed)),
    )


def _moves(channel: DriftChannel) -> bool:
    return bool(channel.reach) and channel.rate >= SLOWEST


def _asked(drift: Drift, number: int, reference: float, common: tuple[float, float]) -> spectrum.SpectrumRequest:
    """What the lines of a channel are to come to."""
    channel = drift.channels[CHANNELS[number]]
    return spectrum.SpectrumRequest(
        channel.reach,
        reference,
        channel.rate,
        _unit(drift.regularity if channel.regularity is None else channel.regularity),
        _unit(drift.roughness if channel.roughness is None else channel.roughness),
        common,
        channel.harmonics,
        drift.seed * 16 + number,
        drift.rule,
    )


def typical(rate: Curve) -> float:
    """The rate that a drift's spectrum is made for: its mean over the keys where it is keyed. Its running integral says
    the rest, so that any would do as long as the lines of one fit the course."""
    if rate.constant:
        return rate.value
    first, last = rate.keys[0].t, rate.keys[-1].t
    if last - first < 1e-6:
        return rate.keys[0].value
    a, b = rate.integral(np.array([first, last]))
    return max(float(b - a) / (last - first), 0.05 * max(key.value for key in rate.keys))


def leant(zoom: np.ndarray, lean: float, reach: float) -> np.ndarray:
    """Zoom folded to one side: at ``lean`` +1 only in, at -1 only out, in proportion between; smooth at the fold."""
    lean = min(max(lean, -1.0), 1.0)
    soft = 0.15 * reach
    folded = np.sqrt(zoom**2 + soft**2) - soft
    return (1 - abs(lean)) * zoom + lean * folded


def _unit(value: float) -> float:
    return min(max(value, 0.0), 1.0)


@lru_cache(maxsize=256)
def _start(seed: int) -> float:
    """Where in its turn the common beat stands at time 0."""
    return float(np.random.default_rng([seed & 0xFFFFFFFF, 0xBEA7]).uniform(0, spectrum.TURN))
