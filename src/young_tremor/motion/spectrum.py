"""Sums of sinusoids with a calibrated size and rate.

A channel of drift is a *regular* part (one waveform running on the strand's common beat) plus a *band* of lines
around the rate plus a *tail* of lines up to the tremor limit. Regularity moves power from band to beat, roughness
into the tail. The band is Gaussian to within its number of lines, so size and rate follow from

* P(|g(θ) + N| < q) averaged over θ, for the 95 % quantile, and
* the expected upward crossings of zero of a waveform in Gaussian noise (S. O. Rice, "Mathematical analysis of
  random noise", Bell System Technical Journal, 1944–45), averaged over θ,

both evaluated for the lines actually used, not for the ideal spectrum.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np

BAND_LINES = {1: 44, 2: 170}  # by rule: so many that ten minutes do not resemble each other anywhere
TAIL_LINES = 36
TAIL_POWER = 2.5  # power falls with frequency to this power
TAIL_SHARE = 0.3  # of the variance, at roughness 1
TREMOR_HZ = 12.0
TURN = 2 * math.pi
KEPT = 4096  # channels: a reel of hundreds of shots
BLOCK = 1 << 19  # angles worked on at once: few enough for the cache, many enough to share the interpreter well
FEW, MOST_REPEATED = 64, 9  # times fewer than this are worked out one by one; longest pattern of times
_PLACES = np.linspace(-6.0, 6.0, 6001)
_NORMAL = np.array([0.5 * math.erfc(-x / math.sqrt(2)) for x in _PLACES])
_RISES = np.append(np.diff(_NORMAL), 0.0)
THETA = (np.arange(256) + 0.5) / 256 * TURN


@dataclass(frozen=True, eq=False)
class Spectrum:
    """Lines of one channel, in the channel's unit.

    ``beat_hz`` and ``wave`` (h,) are the regular part (sizes of its harmonics); ``hz``, ``size``, ``phase`` (k,)
    the irregular one.
    """

    beat_hz: float
    wave: np.ndarray
    hz: np.ndarray
    size: np.ndarray
    phase: np.ndarray


@dataclass(frozen=True, eq=False)
class Lines:
    """The irregular parts of several spectra, worked out at once: row by row their lines, and where each row begins."""

    hz: np.ndarray
    phase: np.ndarray  # in turns
    size: np.ndarray
    rows: tuple[slice, ...]

    def at(self, clock: np.ndarray) -> np.ndarray:
        """All rows at times (n,) in seconds: (rows, n)."""
        out = np.zeros((len(self.rows), len(clock)))
        if self.hz.size and len(clock):
            every = _repeats(clock)
            if every:
                self._repeated(clock, every, out)
            else:
                self._any(clock, out)
        return out

    def _any(self, clock: np.ndarray, out: np.ndarray) -> None:
        block = max(BLOCK // len(self.hz), 16)
        for start in range(0, len(clock), block):
            part = slice(start, start + block)
            angle = _angles(self.hz[:, None], clock[part], self.phase[:, None])
            np.cos(angle, out=angle)
            for row, lines in enumerate(self.rows):
                # unlike a product of matrices the sum does not depend on which place a time has among others
                out[row, part] = np.einsum("k,kn->n", self.size[lines], angle[lines])

    def _repeated(self, clock: np.ndarray, every: int, out: np.ndarray) -> None:
        """At times that repeat a pattern of ``every`` ones: cos(a + b) of coarse and fine turns."""
        fine = every * (math.isqrt((len(clock) - 1) // every) + 1)
        coarse = _angles(self.hz, clock[::fine, None], self.phase)
        turn = _angles(self.hz[:, None], clock[:fine] - clock[0], 0.0)
        across, ahead = np.cos(coarse) * self.size, np.sin(coarse) * self.size
        cosine, sine = np.cos(turn), np.sin(turn)
        for row, lines in enumerate(self.rows):
            both = across[:, lines] @ cosine[lines] - ahead[:, lines] @ sine[lines]
            out[row] = both.ravel()[: len(clock)]


def lines_of(spectra: Sequence[Spectrum]) -> Lines:
    """The irregular parts of spectra, one row each."""
    ends = np.cumsum([0, *(len(spectrum.hz) for spectrum in spectra)]).tolist()
    hz, size, phase = (
        np.concatenate([np.zeros(0), *(getattr(spectrum, name) for spectrum in spectra)])
        for name in ("hz", "size", "phase")
    )
    return Lines(hz, phase / TURN, size.astype(np.float32), tuple(map(slice, ends[:-1], ends[1:])))


def _angles(hz: np.ndarray, clock: np.ndarray, phase: np.ndarray | float) -> np.ndarray:
    """2π(hz·clock + phase) within a turn, float32: whole turns are taken off in double precision, what is left is
    exact enough in single, to 1e-7 of the size."""
    turns = hz * clock
    turns += phase
    turns -= np.rint(turns)
    return turns.astype(np.float32) * np.float32(TURN)


def _repeats(clock: np.ndarray) -> int:
    """How many times there are from one to where they go on in the same steps: 1 where they are evenly spaced, 3 where
    each frame is looked at three times; 0 where they do not."""
    if len(clock) < FEW:
        return 0
    for every in range(1, MOST_REPEATED + 1):
        rows = clock[: len(clock) // every * every].reshape(-1, every)
        step = (rows[-1, 0] - rows[0, 0]) / (len(rows) - 1)
        even = rows[0] + step * np.arange(len(rows))[:, None]
        rest = clock[len(rows) * every :] - (rows[0, : len(clock) % every] + step * len(rows))
        if np.abs(rows - even).max() < 1e-9 and np.abs(rest).max(initial=0.0) < 1e-9:
            return every
    return 0


class SpectrumRequest(NamedTuple):
    """What the lines of one channel are to come to.

    Attributes
    ----------
    reach : float
        95 % quantile of the absolute value.
    rate, factor : float
        Upward zero crossings per second of the strand, and the channel's factor on it.
    regularity, roughness : float
        0…1, the channel's.
    common : (float, float)
        The strand's regularity and roughness; they fix the beat all its channels share.
    harmonics : tuple of float
        2nd, 3rd, … harmonic of the regular part.
    seed : int
        Seeds the places and phases of the lines.
    rule : int
        Which number of lines it has.
    """

    reach: float
    rate: float
    factor: float
    regularity: float
    roughness: float
    common: tuple[float, float]
    harmonics: tuple[float, ...]
    seed: int
    rule: int = 2


@lru_cache(maxsize=KEPT)
def channel_spectrum(request: SpectrumRequest) -> Spectrum:
    """Lines of one channel, scaled so that its reach and rate hold."""
    reach, rate, regularity = request.reach, request.rate, request.regularity
    rng = np.random.default_rng([request.seed & 0xFFFFFFFF, 0x5EED])
    goal = rate * request.factor
    beat = goal * beat_factor(rate, *request.common)
    share = regularity**2
    tail = TAIL_SHARE * request.roughness**2 * (1 - share)
    wave = np.array([1.0, *request.harmonics])
    wave /= np.abs(wave).max()  # whose squares are finite
    wave *= math.sqrt(2 * share / np.sum(wave**2))
    count = BAND_LINES[request.rule]
    spread = rng.uniform(-0.5, 0.5, count), rng.uniform(-0.5, 0.5, TAIL_LINES)
    phase = rng.uniform(0, TURN, count + TAIL_LINES)
    g, slope = waveform(wave)

    band = 1 - share - tail
    density, speed = _density_at_zero(g, 1 - share), slope * TURN * beat

    def error(scale: float) -> float:
        return crossings(density, speed, 1 - share, _slope_var(scale, goal, band, tail, spread[1])) - goal

    scale = goal if share > 0.999999 else _solve(error, 0.02 * goal, 2.0 * goal)
    hz, power = _lines(scale, goal, regularity, band, tail, spread)
    unit = _size(tuple(wave.tolist()), math.sqrt(max(1 - share, 0.0)))
    used = power > 1e-12
    size = np.sqrt(2 * power[used]) * (reach / unit)
    return Spectrum(beat, wave * (reach / unit), hz[used], size, phase[used])


@lru_cache(maxsize=256)
def _size(wave: tuple[float, ...], sigma: float) -> float:
    """The 95 % quantile of a channel that is not scaled yet, which is the same at any rate."""
    return quantile(waveform(np.array(wave))[0], sigma)


@lru_cache(maxsize=256)
def beat_factor(rate: float, regularity: float, roughness: float) -> float:
    """Beat frequency over rate for a strand: below 1 where the tail's crossings have to be made up for."""
    share = regularity**2
    tail = TAIL_SHARE * roughness**2 * (1 - share)
    if tail == 0 or share > 0.999999:
        return 1.0
    g, slope = waveform(np.array([math.sqrt(2 * share)]))
    density, even = _density_at_zero(g, 1 - share), np.zeros(TAIL_LINES)

    def error(scale: float) -> float:
        slope_var = _slope_var(scale, rate, 1 - share - tail, tail, even)
        return crossings(density, slope * TURN * scale, 1 - share, slope_var) - rate

    return _solve(error, 0.02 * rate, rate) / rate


def _lines(
    scale: float,
    rate: float,
    regularity: float,
    band: float,
    tail: float,
    spread: tuple[np.ndarray, np.ndarray],
) -> tuple[np.ndarray, np.ndarray]:
    """Frequencies and powers of band and tail for a main frequency ``scale``."""
    width = 0.75 * (1 - regularity) + 0.03
    edge = 2.6 * width
    count = len(spread[0])
    step = 2 * edge / count
    u = -edge + step * (np.arange(count) + 0.5 + 0.8 * spread[0])
    power = np.exp(-(u**2) / (2 * width**2))
    power *= band / power.sum()
    hz = np.exp(u)
    if band > 0:
        hz *= scale / math.sqrt(np.sum(power * hz**2) / band)
    tail_hz, tail_power = _tail(scale, rate, tail, spread[1])
    return np.concatenate([hz, tail_hz]), np.concatenate([power, tail_power])


def _tail(scale: float, rate: float, tail: float, spread: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Frequencies and powers of a tail alone."""
    octave = math.log(max(TREMOR_HZ, 4 * rate) / scale)
    v = math.log(scale) + octave * (np.arange(TAIL_LINES) + 0.5 + 0.8 * spread) / TAIL_LINES
    power = np.exp((1 - TAIL_POWER) * v)
    power *= tail / power.sum()
    return np.exp(v), power


def _slope_var(scale: float, rate: float, band: float, tail: float, spread: np.ndarray) -> float:
    """The variance of the derivative of what :func:`_lines` says; the band's mean frequency is the scale."""
    hz, power = _tail(scale, rate, tail, spread)
    return TURN**2 * (band * scale**2 + float(power @ hz**2))


def ndtr(x: np.ndarray) -> np.ndarray:
    """The normal distribution function, to 3e-7 from a table: the library's own costs half a second of starting."""
    at = (np.clip(x, _PLACES[0], _PLACES[-1]) - _PLACES[0]) * ((len(_PLACES) - 1) / (_PLACES[-1] - _PLACES[0]))
    whole = at.astype(np.int32)
    return _NORMAL[whole] + (at - whole) * _RISES[whole]


def waveform(wave: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The regular part and its derivative by angle, over one turn of :data:`THETA`."""
    orders = np.arange(1, len(wave) + 1)
    angle = np.multiply.outer(THETA, orders)
    return np.sin(angle) @ wave, np.cos(angle) @ (wave * orders)


def _density_at_zero(g: np.ndarray, var: float) -> np.ndarray:
    """The density at zero of a waveform ``g`` plus Gaussian noise of variance ``var``, over the waveform's turn."""
    return np.asarray(np.exp(-0.5 * g**2 / var) / math.sqrt(TURN * var)) if var > 0 else np.zeros(len(g))


def crossings(density: np.ndarray, speed: np.ndarray, var: float, slope_var: float) -> float:
    """Expected upward zero crossings per second of a waveform plus Gaussian noise (Rice, 1945).

    ``density`` is that of :func:`_density_at_zero`, ``speed`` the waveform's derivative by time over the turn, ``var``
    and ``slope_var`` the variances of the noise and of its derivative.
    """
    s1 = math.sqrt(max(slope_var, 1e-30))
    if not speed.any():
        return s1 / math.sqrt(var) / TURN
    m = speed / s1
    rising = speed * ndtr(m) + s1 * np.exp(-0.5 * m**2) / math.sqrt(TURN)
    return float(np.mean(density * rising))


def grown(lines: Spectrum, depth: float) -> float:
    """:func:`wandering` of a channel."""
    sigma = math.sqrt(0.5 * float(np.sum(lines.size**2)))
    if not lines.wave.any() and sigma >= 1e-6:
        return wandering((0.0,), 1.0, depth)  # whatever its size
    return wandering(tuple(lines.wave.tolist()), sigma, depth)


@lru_cache(maxsize=KEPT)
def wandering(wave: tuple[float, ...], sigma: float, depth: float) -> float:
    """By how much the 95 % quantile of a channel grows under wander of a depth (:func:`bounded`): to be divided by.

    ``wave``: sizes of its regular part, ``sigma``: the standard deviation of its irregular one.
    """
    g = waveform(np.array(wave))[0] if any(wave) else np.zeros(1)
    own = quantile(g, sigma)
    if own <= 0:
        return 1.0  # nothing moves
    # the swings' size at quantiles of a normal distribution
    places = np.interp((np.arange(48) + 0.5) / 48, _NORMAL, _PLACES)
    sizes = np.exp(depth * bound_noise(places))
    low, high = own * float(sizes.min()), own * float(sizes.max())
    return _solve_increasing(lambda bound: float(np.mean(_share_below(g, sigma, bound / sizes))), 0.95, low, high) / own


def bound_noise(noise: np.ndarray) -> np.ndarray:
    """Noise of unit variance kept within two standard deviations, smoothly."""
    return 2.0 * np.tanh(0.5 * noise)


def _share_below(g: np.ndarray, sigma: float, bounds: np.ndarray) -> np.ndarray:
    """How often |g(θ) + N(0, sigma²)| is below each of bounds (n,): (n,)."""
    bound = bounds[:, None]
    if sigma < 1e-6:
        return np.mean(np.abs(g) < bound, axis=1)
    inside: np.ndarray = np.mean(ndtr((bound - g) / sigma) - ndtr((-bound - g) / sigma), axis=1)
    return inside


@lru_cache(maxsize=8)
def _normal_quantile(level: float) -> float:
    """The ``level`` quantile of |N(0, 1)|."""
    g = np.zeros(1)
    return _solve_increasing(lambda bound: float(_share_below(g, 1.0, np.array([bound]))[0]), level, 0.0, 6.0)


def quantile(g: np.ndarray, sigma: float, level: float = 0.95) -> float:
    """The ``level`` quantile of |g(θ) + N(0, sigma²)| for θ uniform."""
    if sigma < 1e-6:
        return float(np.quantile(np.abs(g), level))
    if not g.any():
        return sigma * _normal_quantile(level)
    high = float(np.abs(g).max()) + 6 * sigma
    return _solve_increasing(lambda bound: float(_share_below(g, sigma, np.array([bound]))[0]), level, 0.0, high)


def _solve_increasing(share: Callable[[float], float], level: float, low: float, high: float) -> float:
    """Where an increasing function reaches a level, by the Illinois method: to 1e-12 of the level."""
    a, b, side = share(low) - level, share(high) - level, 0
    middle = high
    for _ in range(60):
        if b <= a:
            break
        middle = low - a * (high - low) / (b - a)
        value = share(middle) - level
        if abs(value) < 1e-12 or high - low < 1e-12 * high:
            break
        if value < 0:
            low, a, b, side = middle, value, (0.5 * b if side == -1 else b), -1
        else:
            high, b, a, side = middle, value, (0.5 * a if side == 1 else a), 1
    return middle


def _solve(error: Callable[[float], float], low: float, high: float) -> float:
    """Root of an increasing function by the Illinois method in the logarithm; the nearer end where there is none."""
    a, b = math.log(low), math.log(high)
    fa, fb = error(low), error(high)
    if fb <= 0:
        return high
    if fa >= 0:
        return low
    side = 0
    for _ in range(40):
        c = (a * fb - b * fa) / (fb - fa)
        fc = error(math.exp(c))
        if abs(fc) < 1e-4 * high or abs(b - a) < 1e-6:
            break
        if fc > 0:
            b, fb = c, fc
            fa = fa / 2 if side > 0 else fa
            side = 1
        else:
            a, fa = c, fc
            fb = fb / 2 if side < 0 else fb
            side = -1
    return math.exp(c)


@lru_cache(maxsize=KEPT)
def slow_lines(seed: int, rate: float) -> Spectrum:
    """Smooth noise of unit variance around ``rate`` swings per second, for wander and the beat's unevenness."""
    rng = np.random.default_rng([seed & 0xFFFFFFFF, 0x510])
    hz = rate * np.exp(np.linspace(-0.9, 0.5, 14) + rng.uniform(-0.04, 0.04, 14))
    size = np.full(14, math.sqrt(2 / 14))
    return Spectrum(0.0, np.zeros(0), hz, size, rng.uniform(0, TURN, 14))
