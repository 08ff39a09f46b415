"""Low noise by seed: sample k is the same whoever asks for it, in any block."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view

from young_tremor.model.sound import Rumble
from young_tremor.motion import seeded_random
from young_tremor.sound.fourier import fast_length

RATE = 48000
BLOCK = 32768  # samples made at once
DOWN = 4  # it is made at a quarter of the rate
LOW = BLOCK // DOWN
TAPS = 3072  # of the kernel that shapes noise, at that rate
EDGE = 8  # samples on either side that drawing out needs
WIDE = LOW + 2 * EDGE
LOUD = 0.1  # root mean square at a level of 0 dB and a gain of 1
COARSE, MOST_COARSE, COARSE_WIDE = 7.0, 900.0, 1.6  # the broken band: times the tone, Hz at most, octaves
GRAIN = 11.0  # Hz at which it breaks
OVERTONES = 9
SIDES = 2
SPEED = 0.12  # frame heights a second at which what follows the speed is at its level
BEND, MOST = 0.7, 2.0  # how loudness grows with speed, and to what


def samples(rumble: Rumble, first: int, count: int) -> np.ndarray:
    """Samples ``first`` to ``first + count`` at 48 kHz, at a level of 0 dB and a gain of 1: (count, 2) float64."""
    bare = _bare(rumble)
    out, done = np.empty((count, SIDES)), 0
    while done < count:
        number, begin = divmod(first + done, BLOCK)
        part = _block(bare, number)[begin : begin + count - done]
        out[done : done + len(part)] = part
        done += len(part)
    return out


def gain(followed: np.ndarray, what: str) -> np.ndarray:
    """How loud a speed (frame heights a second) or an intensity makes it."""
    if what == "speed":
        return np.minimum((np.maximum(followed, 0.0) / SPEED) ** BEND, MOST)
    return np.clip(followed, 0.0, MOST)


Bare = tuple[float, float, float, float, float, int]


def _bare(rumble: Rumble) -> Bare:
    return (rumble.tone, rumble.spread, rumble.roughness, rumble.hum, rumble.width, rumble.seed)


@lru_cache(maxsize=400)  # 105 MB: two minutes of two rumbles
def _block(bare: Bare, number: int) -> np.ndarray:
    """A block of both sides, float32: made at a quarter of the rate, where all of it lies, and drawn out."""
    values = sliding_window_view(_low(bare, number), 2 * EDGE, axis=0)[1 : LOW + 1]  # (LOW, 2, 2 EDGE)
    drawn = [(np.ascontiguousarray(values[:, side]) @ _sinc_table()).ravel() for side in range(SIDES)]
    made = np.stack(drawn, axis=1)
    made.setflags(write=False)
    return made


@lru_cache(maxsize=1)
def _sinc_table() -> np.ndarray:
    """What draws out: a sinc of EDGE samples on either side, for each of the new samples between two: (2 EDGE, DOWN).

    By hand, because the library's filters take a second and 70 MB to come in wherever sound is."""
    at = np.arange(1 - EDGE * DOWN, EDGE * DOWN)
    taps = np.sinc(0.9 / DOWN * at) * np.kaiser(len(at), 7.0)
    taps = np.append(DOWN * taps / taps.sum(), 0.0)  # the last for where there is none
    back = len(at) + np.arange(DOWN) - DOWN * np.arange(1, 2 * EDGE + 1)[:, None]
    return taps[np.where(back < 0, len(at), back)].astype(np.float32)


def _low(bare: Bare, number: int) -> np.ndarray:
    """A block at a quarter of the rate, with EDGE more on either side: (WIDE, 2) float32."""
    tone, spread, roughness, hum, width, seed = bare
    sides = [_noise(seed * 4 + side, number, tone, spread) for side in range(SIDES)]
    if roughness > 0:
        high = min(COARSE * tone, MOST_COARSE)
        grain = np.abs(_noise(seed * 4 + 3, number, GRAIN, 1.0))
        for side in range(SIDES):
            coarse = _noise(seed * 4 + 2 + 64 * side, number, high, COARSE_WIDE) * grain
            sides[side] = math.sqrt(1 - 0.75 * roughness) * sides[side] + math.sqrt(0.75 * roughness) * coarse
    if hum > 0:
        values = _tone_block(seed, number, tone)
        sides[0] = math.sqrt(1 - hum) * sides[0] + math.sqrt(hum) * values
        sides[1] = math.sqrt(1 - hum) * sides[1]
    angle = width * math.pi / 4
    middle, apart = math.cos(angle) * sides[0], math.sin(angle) * sides[1]
    return np.asarray(LOUD * np.column_stack([middle + apart, middle - apart]), np.float32)


def _noise(seed: int, number: int, hz: float, octaves: float) -> np.ndarray:
    """A block of noise around ``hz``, of power 1: (WIDE,). The spectrum is a bell over the octaves."""
    half = TAPS // 2
    white = seeded_random.uniform(seed, number * LOW - EDGE + np.arange(-half, WIDE + half)) - 0.5
    size = fast_length(WIDE + TAPS)
    made = np.fft.irfft(np.fft.rfft(white.astype(np.float32), size) * _kernel(hz, octaves, size), size)
    return np.asarray(made[TAPS : TAPS + WIDE])


@lru_cache(maxsize=64)
def _kernel(hz: float, octaves: float, size: int) -> np.ndarray:
    """The spectrum of a kernel of TAPS that shapes white numbers of ±½ into noise of power 1."""
    at = np.maximum(np.fft.rfftfreq(TAPS, DOWN / RATE), 1e-3)
    bell = np.exp(-0.5 * (np.log2(at / hz) / (octaves / 2)) ** 2)
    taps = np.roll(np.fft.irfft(bell, TAPS), TAPS // 2) * np.hanning(TAPS)
    taps /= math.sqrt(float((taps**2).sum()) / 12)
    return np.asarray(np.fft.rfft(taps, size), np.complex64)


def _tone_block(seed: int, number: int, tone: float) -> np.ndarray:
    """A block of a held tone with overtones that waver a little, of power 1."""
    t = (number * LOW - EDGE + np.arange(WIDE)) * (DOWN / RATE)
    start = seeded_random.uniform(seed, np.arange(1000, 1000 + 3 * OVERTONES))
    angle = 2 * math.pi * tone * t
    for turn, slow in zip(start.tolist(), (0.23, 0.61, 1.7), strict=False):
        angle = angle + 0.05 / slow * np.sin(2 * math.pi * (slow * t + turn))
    power = math.sqrt(2 / sum(1 / k**2 for k in range(1, OVERTONES + 1)))
    out = np.zeros(WIDE)
    for k in range(1, OVERTONES + 1):
        out += power / k * np.sin(k * angle + 2 * math.pi * start[3 + k])
    return out
