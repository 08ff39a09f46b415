"""A sound at each hit: a body of partials, a click, a room. Pure functions of the numbers and a seed."""

from __future__ import annotations

import math
import zlib
from functools import lru_cache

import numpy as np

from young_tremor.model.shake import Hit
from young_tremor.model.sound import Knocks
from young_tremor.motion import seeded_random
from young_tremor.sound.fourier import fast_length

RATE = 48000
ALIKE, HARD = 6, 8  # sounds of a row that differ; steps of how hard a blow sounds
BODY = 6.5  # times its decay that a body is heard
PEAK = 0.5  # of a hit of strength 1 at a level of 0 dB
#: By matter: partials as multiples of the pitch, and how much sooner the higher ones die. The ideal membrane and the
#: free bar after Fletcher and Rossing, The Physics of Musical Instruments, 1998; the others are our estimate.
MATTER: dict[str, tuple[tuple[float, ...], float]] = {
    "ground": ((1.0, 1.35, 1.83, 2.4), 1.0),
    "skin": ((1.0, 1.594, 2.136, 2.296, 2.653, 2.918), 0.9),
    "wood": ((1.0, 2.572, 4.644, 6.984, 9.723), 1.25),
    "metal": ((1.0, 2.756, 5.404, 8.933, 13.34, 18.64), 0.35),
    "glass": ((1.0, 2.32, 4.25, 6.63, 9.38, 12.2), 0.6),
}
WET = 0.9  # of a room of 1: the energy of what comes back against that of what was struck
BEND = 0.03  # seconds in which the pitch falls
CLICK = 0.0025  # seconds (1/e) of a click
EARLY = ((0.011, 0.6), (0.017, 0.45), (0.023, 0.4), (0.031, 0.3))  # first echoes: seconds, how loud


def render_knock(
    knocks: Knocks, hit_id: str, strength: float, own: np.ndarray | None = None
) -> tuple[np.ndarray, float]:
    """The sound of one hit: (n, 2) at 48 kHz with a peak of 1, read only, and the factor that it comes with at a level
    of 0 dB. ``own``: the file's sound, used instead of the body and the click.

    A row has a handful of sounds that differ a little; which of them a hit has, and how loud exactly, is seeded by it.
    """
    draw = seeded_random.uniform(knocks.seed * 65537 + zlib.crc32(hit_id.encode()), np.arange(2))
    which = int(draw[0] * ALIKE) if knocks.differ else 0
    hard = min(round(math.sqrt(abs(strength)) * HARD) / HARD, 1.5)
    factor = PEAK * abs(strength) * 10 ** (knocks.differ * (2 * draw[1] - 1) * 3 / 20)
    bare = (
        knocks.pitch,
        knocks.fall,
        knocks.decay,
        knocks.matter,
        knocks.bright,
        knocks.click,
        knocks.room,
        knocks.reverb,
        knocks.differ,
        (knocks.seed * 131 + which) & 0xFFFFFFFF,
        hard,
    )
    if own is not None:
        return _of_file(bare, _Own(own)), factor
    return _render_body(bare), factor


class _Own:
    """A file's sound as a key: the array itself."""

    def __init__(self, samples: np.ndarray) -> None:
        self.samples = samples

    def __hash__(self) -> int:
        return id(self.samples)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Own) and other.samples is self.samples


def times(hits: tuple[Hit, ...], late: float) -> list[tuple[int, Hit]]:
    """The sample at which each hit is heard, ``late`` seconds after it."""
    return [(round((hit.t + late) * RATE), hit) for hit in hits if hit.strength]


@lru_cache(maxsize=256)
def _render_body(bare: tuple) -> np.ndarray:
    pitch, fall, decay, matter, bright, click, _, _, differ, seed, hard = bare
    draw = 2 * seeded_random.uniform(seed, np.arange(2)) - 1
    ratios, sooner = MATTER[matter]
    body = _Body(pitch * 2.0 ** (differ * draw[0] / 9), fall, decay)
    out = np.zeros(body.count)
    turns = seeded_random.uniform(seed, np.arange(10, 10 + len(ratios)))
    for k, ratio in enumerate(ratios):  # a harder blow is brighter
        out += ((bright * hard) ** k) * 0.9 / (1 + 0.3 * k) * body.partial(ratio, sooner, turns[k])
    snap = min(body.count, round(10 * CLICK * RATE))
    at = np.arange(snap)
    burst = (seeded_random.uniform(seed + 1, at) * 2 - 1) * np.exp(-at / (CLICK * RATE))
    dark = math.exp(-2 * math.pi * (1500 + 9000 * bright * hard) / RATE)
    out[:snap] += 1.6 * click * 10 ** (differ * draw[1] * 6 / 20) * hard * _smooth(burst, dark)
    out *= np.minimum(np.arange(body.count) / (0.0005 * RATE), 1.0)
    dry = out / max(float(np.abs(out).max()), 1e-9)
    return _in_room(dry[:, None], bare)


@lru_cache(maxsize=64)
def _of_file(bare: tuple, own: _Own) -> np.ndarray:
    return _in_room(own.samples, bare)


class _Body:
    """What rings: its time, and the angle of its falling pitch."""

    def __init__(self, pitch: float, fall: float, decay: float) -> None:
        self.decay = decay
        self.count = round(min(BODY * decay + 0.05, 12.0) * RATE)
        self.t = np.arange(self.count) / RATE
        hz = pitch * 2.0 ** (fall * np.exp(-self.t / BEND))
        self._hz = hz
        self._angle = 2 * math.pi * np.cumsum(hz) / RATE

    def partial(self, ratio: float, sooner: float, turn: float) -> np.ndarray:
        """One partial, silent where it is too high to be heard."""
        falls = np.exp(-self.t / (self.decay / ratio**sooner))
        there = np.clip((20000 - self._hz * ratio) / 4000, 0.0, 1.0)
        return np.asarray(np.sin(ratio * self._angle + (2 * math.pi * turn if ratio > 1 else 0.0)) * falls * there)


def _smooth(values: np.ndarray, keep: float) -> np.ndarray:
    out, now = np.empty(len(values)), 0.0
    for k, value in enumerate(values.tolist()):
        now = keep * now + (1 - keep) * value
        out[k] = now
    return out * (1 / max(1 - keep, 0.2))


def _in_room(dry: np.ndarray, bare: tuple) -> np.ndarray:
    """Sound (n, 1 or 2) with the room around it: early echoes, and noise that dies by 60 dB in ``reverb`` seconds; its
    peak is 1."""
    room, reverb = bare[6], bare[7]
    if room <= 0:
        out = np.repeat(dry, 2, axis=1) if dry.shape[1] == 1 else np.array(dry)
    else:
        tail = _tail(reverb, bare[9] % 7)
        long = len(dry) + len(tail)
        size = fast_length(long)
        spectrum = np.fft.rfft(dry.astype(np.float32), size, axis=0) * _answer(reverb, bare[9] % 7, size)
        wet = np.fft.irfft(spectrum, size, axis=0)[:long]
        energy = float((dry**2).sum()) * 2 / dry.shape[1]
        out = WET * room * wet * math.sqrt(energy / max(float((wet**2).sum()), 1e-12))
        out[: len(dry)] += dry
    out = np.asarray(out / max(float(np.abs(out).max(initial=0)), 1e-9), np.float32)
    out.setflags(write=False)
    return out


@lru_cache(maxsize=32)
def _answer(reverb: float, seed: int, size: int) -> np.ndarray:
    return np.asarray(np.fft.rfft(_tail(reverb, seed).astype(np.float32), size, axis=0))


@lru_cache(maxsize=32)
def _tail(reverb: float, seed: int) -> np.ndarray:
    """How a room answers: (n, 2)."""
    count = round(reverb * 1.1 * RATE) + 2000
    t = np.arange(count) / RATE
    out = np.empty((count, 2))
    for side in range(2):
        noise = seeded_random.uniform(7717 + 31 * seed + side, np.arange(count)) * 2 - 1
        dark = np.cumsum(noise)
        dark = dark - np.concatenate([np.zeros(24), dark[:-24]])  # what comes back is duller than what went out
        out[:, side] = 0.012 * dark * np.exp(-6.908 * t / reverb) * np.minimum(t / 0.02, 1.0)
        for late, loud in EARLY:
            out[round((late + 0.0017 * side) * RATE), side] += 0.5 * loud * min(reverb, 1.0)
    return out
