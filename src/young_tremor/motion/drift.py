"""Drift: continuous procedural motion, pure in time."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from young_tremor.model.curve import Curve
from young_tremor.model.shake import CHANNELS, Drift, Steps
from young_tremor.motion import rests, spectrum, steps

ZOOM = CHANNELS.index("zoom")
SLOWEST = 1e-4  # factor on the rate below which a channel stands still
UNEVEN = 0.8  # rad of beat unevenness at regularity 0: about 3 % of the period at 0.85


def sample(drift: Drift, clock: np.ndarray) -> np.ndarray:
    """The six channels of a drift at amount 100 %.

    Parameters
    ----------
    drift : Drift
    clock : (n,) float64
        Seconds of the shake's own time (pace already applied); any order, any real value.

    Returns
    -------
    (n, 6) float64
        In channel units, order of :data:`~young_tremor.model.shake.CHANNELS`.
    """
    clock = np.asarray(clock, dtype=np.float64)
    clock = rests.warped(clock, drift.rests.share, drift.rests.hold, drift.seed * 5 + 2, drift.rule)
    out = np.zeros((len(clock), 6))
    reference = max(drift.rate.value if drift.rule == 1 else typical(drift.rate), 0.01)
    local = clock if drift.rate.constant and drift.rate.value >= 0.01 else drift.rate.integral(clock) / reference
    common = (_unit(drift.regularity), _unit(drift.roughness))
    beat_hz = reference * spectrum.beat_factor(reference, *common)
    turn = spectrum.TURN * beat_hz * local + _start(drift.seed)
    gait = steps.gait(drift.steps, turn, beat_hz, drift.seed * 7 + 5) if drift.steps != Steps() else None
    if gait is not None:
        turn = gait.turn
    elif common[0] < 1:
        uneven = spectrum.slow_lines(drift.seed * 7 + 3, 0.25 * reference)
        turn = turn + UNEVEN * (1 - common[0]) * uneven.at(turn, local)
    for number, name in enumerate(CHANNELS):
        channel = drift.channels[name]
        if not channel.reach or channel.rate < SLOWEST:
            continue
        lines = spectrum.channel_spectrum(
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
        angle = channel.rate * turn + math.radians(channel.phase)
        if gait is None:
            out[:, number] = lines.at(angle, local)
        else:
            out[:, number] = gait.size * lines.regular(angle) + lines.irregular(local)
            if drift.steps.strike and channel.rate == 1:
                out[:, number] += drift.steps.strike * channel.reach * gait.knock()
        if drift.wander.depth and drift.wander.rate > 0:
            size = spectrum.slow_lines(drift.seed * 16 + number + 9, drift.wander.rate)
            out[:, number] *= _wandering(lines, _unit(drift.wander.depth), size.at(turn, clock), drift.rule)
    if drift.lean:
        out[:, ZOOM] = leant(out[:, ZOOM], drift.lean, drift.channels.zoom.reach)
    return out


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


def _wandering(lines: spectrum.Spectrum, depth: float, noise: np.ndarray, rule: int) -> np.ndarray:
    """The size that a channel's motion wanders to: within two standard deviations, the 95 % quantile kept."""
    if rule == 1:
        return np.exp(depth * noise)
    sigma = math.sqrt(0.5 * float(np.sum(lines.size**2)))
    grown = spectrum.wandering(tuple(lines.wave.tolist()), sigma, depth)
    return np.exp(depth * spectrum.bounded(noise)) / grown


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
