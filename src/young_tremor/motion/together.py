"""What moves all drifts of a shake at once: an activity that makes them rough and quiet together, and kicks."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from young_tremor.model.shake import CHANNELS, Together
from young_tremor.motion import seeded_random, spectrum

TURN = 2 * math.pi
BLOCK = 64.0  # seconds whose kicks are found at once
CELLS = 4  # cells of time for each kick that is expected; each has one or none
LIVELY = 0.8  # how much more often kicks come while it is rough: the spread of the log of their rate
SETTLE = 0.7  # swings after which a third of a kick is left
SLOWEST, QUICKEST = 0.3, 14.0  # Hz at which what is kicked rings
ATTACK = math.atan(TURN * SETTLE)
PEAK = math.sin(ATTACK) * math.exp(-ATTACK / (TURN * SETTLE))  # of a kick of size 1
LASTING = 16.0  # settling times after which a ten-millionth is left
GUSTS = 0.06  # a swing, as is usual
LOOKS = 8192  # moments by which the growth of a quantile is found


def activity(together: Together, clock: np.ndarray) -> np.ndarray:
    """How rough it is at times (n,) of the shake's own clock: noise of unit variance, (n,)."""
    return np.asarray(_activity(together.seed, together.rate).at(clock)[0])


@lru_cache(maxsize=256)
def _activity(seed: int, rate: float) -> spectrum.Lines:
    return spectrum.lines_of([spectrum.slow_lines(seed * 16 + 13, max(rate, 1e-3))])


def pushes(together: Together, clock: np.ndarray, hz: np.ndarray, numbers: list[int]) -> np.ndarray:
    """What kicks do to channels, by their ``numbers``, that ring at ``hz`` (c,) when pushed: (c, n), 1 being the push
    of a usual kick in a channel that it meets fully."""
    out = np.zeros((len(numbers), len(clock)))
    if not len(clock):
        return out
    lasting = LASTING * SETTLE / float(hz.min())
    at, ways = _kicks(together, float(clock.min()) - lasting, float(clock.max()))
    if not len(at):
        return out
    last = np.searchsorted(at, clock, side="right") - 1
    since = np.maximum(clock - at[np.maximum(last, 0)], 0.0).astype(np.float32)
    for ring in set(hz.tolist()):
        swing = complex(-1 / SETTLE, TURN) * ring
        angle, left = since * np.float32(swing.imag), np.exp(since * np.float32(swing.real))
        left /= np.float32(PEAK)
        ahead, across = left * np.sin(angle), left * np.cos(angle)
        fades = [0j, *np.exp(swing * np.diff(at)).tolist()]
        for row in np.flatnonzero(hz == ring).tolist():
            rung = np.array(_rung(fades, ways[:, numbers[row]].tolist()))
            out[row] = rung.real.astype(np.float32)[last] * ahead + rung.imag.astype(np.float32)[last] * across
    out[:, last < 0] = 0.0
    return out


def _rung(fades: list[complex], pushes: list[float]) -> list[complex]:
    """What rings right after each push: what rang before, turned and faded by the time between, and the push."""
    rung, out = 0j, []
    for fade, push in zip(fades, pushes, strict=True):
        rung = rung * fade + push
        out.append(rung)
    return out


def _kicks(together: Together, start: float, end: float) -> tuple[np.ndarray, np.ndarray]:
    """When kicks come between two times, (k,), and how far each pushes every channel, (k, 6): all in one direction."""
    blocks = [_block(together, k) for k in range(math.floor(start / BLOCK), math.floor(end / BLOCK) + 1)]
    return np.concatenate([at for at, _ in blocks]), np.concatenate([ways for _, ways in blocks])


@lru_cache(maxsize=512)
def _block(together: Together, number: int) -> tuple[np.ndarray, np.ndarray]:
    """The kicks of one stretch of ``BLOCK`` seconds; not to be changed."""
    count = max(round(BLOCK * CELLS * together.kicks / 60.0), 1)
    every = BLOCK / count
    cells = np.arange(number * count, (number + 1) * count)
    seed = together.seed * 16 + 5
    at = (cells + seeded_random.uniform(seed, cells)) * every
    lively = LIVELY * together.amount
    rough = np.exp(lively * activity(together, at) - 0.5 * lively**2) if lively else 1.0
    likely = every * together.kicks / 60.0
    coming = seeded_random.uniform(seed + 1, cells) < np.minimum(rough * likely, 1.0)
    at, cells = at[coming], cells[coming]
    strength = 0.5 + seeded_random.uniform(seed + 2, cells)
    parts = [2 * seeded_random.uniform(seed + 3 + number, cells) - 1 for number in range(len(CHANNELS))]
    ways = np.sign(parts) * (0.4 + 0.6 * np.abs(parts))  # every channel feels it
    return at, (strength * ways).T


def rings(rate: float, factors: np.ndarray) -> np.ndarray:
    """At how many hertz channels ring that are pushed: as they swing."""
    return np.clip(rate * factors, SLOWEST, QUICKEST)


@lru_cache(maxsize=512)
def growth(often: float, size: float, amount: float) -> float:
    """By how much the 95 % quantile of a channel grows under kicks: to be divided by. ``often``: kicks a swing;
    ``size``: of one, in reaches; ``amount``: how much they come in gusts."""
    together = Together(amount=amount, rate=GUSTS, kicks=60.0 * often, kick=size, seed=3)
    clock = np.arange(LOOKS) * 0.37
    own = np.random.default_rng(7).normal(0, 1, LOOKS) * np.exp(0.5 * amount * activity(together, clock))
    own /= np.quantile(np.abs(own), 0.95)
    moved = size * pushes(together, clock, np.ones(1), [0])[0]
    return float(np.quantile(np.abs(own + moved), 0.95))
