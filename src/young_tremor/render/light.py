"""Averaging as light: code values to linear light and back, by the transfer that the footage is tagged with.

ITU-R BT.709, IEC 61966-2-1 (sRGB), SMPTE ST 2084 (PQ) and ITU-R BT.2100 (HLG), numbered as in ITU-T H.273.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from functools import lru_cache

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame, with_planes
from young_tremor.base.pixels import named, without_alpha

LEVELS, FINE = 4096, 65536  # of the table from code values to light, up to 10 bits and above
_ALPHA, _BETA = 1.09929682680944, 0.018053968510807
_M1, _M2, _C1, _C2, _C3 = 2610 / 16384, 2523 / 4096 * 128, 3424 / 4096, 2413 / 4096 * 32, 2392 / 4096 * 32
_A = 0.17883277
_B, _C = 1 - 4 * _A, 0.5 - _A * math.log(4 * _A)
_LIGHT = named("rgb", 32, real=True)
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


def lit(frame: Frame) -> Frame:
    """A frame as light: float planes G, B and R of full size, alpha left out.

    What lies beyond 0…1 (super-white, below black) is carried by as much. Float frames are light as they are.
    """
    if frame.format.real:
        return frame
    count = LEVELS if frame.format.depth <= 10 else FINE
    table = _light_table(frame.colour.transfer, count)
    rgb = colour.to_rgb(frame)
    planes = tuple(_through(np.ascontiguousarray(rgb[..., k]), table, count) for k in (1, 2, 0))
    return Frame(planes, _LIGHT, frame.colour)


def coded(made: Frame, like: Frame) -> Frame:
    """A frame as :func:`lit` gives it, in the format, depth, range and matrix of another, whose alpha it keeps."""
    if like.format.real:
        return made
    table = _code_table(like.colour.transfer)
    green, blue, red = (_through(plane, table, FINE, roots=True) for plane in made.planes)
    planes = colour.from_rgb(np.stack([red, green, blue], axis=-1), without_alpha(like.format), like.colour).planes
    return with_planes(like, (*planes, *like.planes[len(planes) :]))


def _through(plane: np.ndarray, table: np.ndarray, count: int, roots: bool = False) -> np.ndarray:
    """A plane through a table from 0 to 1; what lies beyond is carried by as much. ``roots``: the table is one of
    fourth roots, which spreads the darks out, where transfers are steep."""
    low, high, *_ = cv2.minMaxLoc(plane)
    inside = np.clip(plane, 0.0, 1.0) if low < 0 or high > 1 else plane
    places = cv2.sqrt(cv2.sqrt(inside)) if roots else inside
    found = np.take(table, _whole(places, count))
    if inside is not plane:
        found += plane - inside
    return found


def _whole(places: np.ndarray, count: int) -> np.ndarray:
    return np.asarray(cv2.addWeighted(places, float(count - 1), places, 0.0, 0.0, dtype=cv2.CV_16U))


@lru_cache(maxsize=8)
def _light_table(transfer: int, count: int) -> np.ndarray:
    return np.asarray(to_light(transfer)(np.linspace(0, 1, count)).astype(np.float32))


@lru_cache(maxsize=8)
def _code_table(transfer: int) -> np.ndarray:
    return np.asarray(to_code(transfer)(np.linspace(0, 1, FINE) ** 4).astype(np.float32))


def mean(views: Iterable[Frame], weights: np.ndarray) -> Frame:
    """The mean, as light, of renders of a frame, in its own format, depth, range and matrix."""
    total: list[np.ndarray] = []
    first: Frame | None = None
    for view, weight in zip(views, weights.tolist(), strict=True):
        first = first or view
        parts = [plane * np.float32(weight) for plane in lit(view).planes]
        total = [a + b for a, b in zip(total, parts, strict=True)] if total else parts
    assert first is not None
    return coded(Frame(tuple(total), first.format if first.format.real else _LIGHT, first.colour), first)
