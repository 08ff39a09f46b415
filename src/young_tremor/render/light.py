"""Averaging as light: code values to linear light and back, by the transfer that the footage is tagged with.

ITU-R BT.709, IEC 61966-2-1 (sRGB), SMPTE ST 2084 (PQ) and ITU-R BT.2100 (HLG), numbered as in ITU-T H.273.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable

import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame, with_planes
from young_tremor.base.pixels import without_alpha

LEVELS, FINE = 4096, 65536  # of the table from code values to light, up to 10 bits and above
_ALPHA, _BETA = 1.09929682680944, 0.018053968510807
_M1, _M2, _C1, _C2, _C3 = 2610 / 16384, 2523 / 4096 * 128, 3424 / 4096, 2413 / 4096 * 32, 2392 / 4096 * 32
_A = 0.17883277
_B, _C = 1 - 4 * _A, 0.5 - _A * math.log(4 * _A)
Function = Callable[[np.ndarray], np.ndarray]


def to_light(transfer: int) -> Function:
    """Code value 0…1 → light 0…1."""

    def pq(v: np.ndarray) -> np.ndarray:
        p = v ** (1 / _M2)
        return (np.maximum(p - _C1, 0) / (_C2 - _C3 * p)) ** (1 / _M1)

    return {
        8: lambda v: v,
        13: lambda v: np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4),
        16: pq,
        18: lambda v: np.where(v <= 0.5, v**2 / 3, (np.exp((v - _C) / _A) + _B) / 12),
    }.get(transfer, lambda v: np.where(v < 4.5 * _BETA, v / 4.5, ((v + _ALPHA - 1) / _ALPHA) ** (1 / 0.45)))


def to_code(transfer: int) -> Function:
    """Light 0…1 → code value 0…1."""

    def pq(v: np.ndarray) -> np.ndarray:
        p = v**_M1
        return ((_C1 + _C2 * p) / (1 + _C3 * p)) ** _M2

    return {
        8: lambda v: v,
        13: lambda v: np.where(v <= 0.0031308, 12.92 * v, 1.055 * v ** (1 / 2.4) - 0.055),
        16: pq,
        18: lambda v: np.where(v <= 1 / 12, np.sqrt(3 * v), _A * np.log(np.maximum(12 * v - _B, 1e-9)) + _C),
    }.get(transfer, lambda v: np.where(v < _BETA, 4.5 * v, _ALPHA * v**0.45 - (_ALPHA - 1)))


def mean(views: Iterable[tuple[np.ndarray, ...]], weights: np.ndarray, frame: Frame) -> Frame:
    """The mean, as light, of renders of a frame (planes each), in its own format, depth, range and matrix.

    What lies beyond 0…1 (super-white, below black) is carried by as much.
    """
    if frame.format.real:
        return with_planes(frame, _linear(views, weights))
    count = LEVELS if frame.format.depth <= 10 else FINE
    light = to_light(frame.colour.transfer)(np.linspace(0, 1, count)).astype(np.float32)
    total: np.ndarray | None = None
    for planes, weight in zip(views, weights.tolist(), strict=True):
        rgb = colour.to_rgb(with_planes(frame, planes))
        inside = np.clip(rgb, 0, 1)
        part = (light[np.rint(inside * (count - 1)).astype(np.uint16)] + (rgb - inside)) * np.float32(weight)
        total = part if total is None else total + part
    assert total is not None
    inside = np.clip(total, 0, 1)
    code = to_code(frame.colour.transfer)(inside.astype(np.float64)).astype(np.float32) + (total - inside)
    made = colour.from_rgb(code, without_alpha(frame.format), frame.colour).planes
    return with_planes(frame, (*made, *frame.planes[len(made) :]))


def _linear(views: Iterable[tuple[np.ndarray, ...]], weights: np.ndarray) -> tuple[np.ndarray, ...]:
    """The mean of float planes, which are light as they are."""
    sums: list[np.ndarray] | None = None
    for planes, weight in zip(views, weights.tolist(), strict=True):
        parts = [plane * np.float32(weight) for plane in planes]
        sums = parts if sums is None else [a + b for a, b in zip(sums, parts, strict=True)]
    assert sums is not None
    return tuple(sums)
