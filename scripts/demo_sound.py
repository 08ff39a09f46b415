"""The sound of the demo footage: a room at night, and a hand press that strikes."""

from __future__ import annotations

import numpy as np


def sound(seconds: int, strikes: tuple[float, ...]) -> np.ndarray:
    """Stereo sound (n, 2) at 48 kHz: room, the wheel's creak, three strikes and their ring."""
    rate = 48000
    n = seconds * rate
    t = np.arange(n) / rate
    own = np.random.default_rng(7)
    room = np.cumsum(own.normal(size=(n, 2)), axis=0)
    room -= np.stack([np.convolve(room[:, c], np.ones(2400) / 2400, "same") for c in (0, 1)], axis=1)
    out = 0.010 * room / np.abs(room).max() * 3
    out += (0.006 * np.sin(2 * np.pi * 50 * t) * (1 + 0.3 * np.sin(2 * np.pi * 0.3 * t)))[:, None]
    for beat in np.arange(0.35, seconds, 0.75):
        u = np.clip(t - beat, 0, None)
        out += (0.016 * np.exp(-u * 240) * np.sin(2 * np.pi * 2600 * u) * (u > 0))[:, None]
    for strike, level in zip(strikes, (0.9, 1.0, 0.72), strict=False):
        u = t - strike
        on = u >= 0
        u = np.clip(u, 0, None)
        thud = np.sin(2 * np.pi * (58 * u - 34 * np.exp(-u * 14) / 14)) * np.exp(-u * 9)
        crack = own.normal(size=n) * np.exp(-u * 70)
        ring = sum(
            a * np.sin(2 * np.pi * f * u) * np.exp(-u * d)
            for f, a, d in ((412, 0.16, 7), (977, 0.10, 9), (1630, 0.06, 12))
        )
        whir = own.normal(size=n) * np.exp(-((t - strike + 0.12) ** 2) / 0.006) * 0.035
        hit = level * on * (0.62 * thud + 0.30 * crack + ring) + whir
        out += hit[:, None] * np.array([0.52, 0.47])
    return np.clip(out, -0.97, 0.97).astype(np.float32)
