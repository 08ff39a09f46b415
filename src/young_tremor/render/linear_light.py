"""Averaging as light: code values to linear light and back, by the transfer that the footage is tagged with.

ITU-R BT.709, IEC 61966-2-1 (sRGB), SMPTE ST 2084 (PQ) and ITU-R BT.2100 (HLG), numbered as in ITU-T H.273.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from functools import lru_cache
from itertools import chain

import cv2
import numpy as np

from young_tremor import kernels
from young_tremor.base import colour
from young_tremor.base.frames import Frame, with_planes
from young_tremor.base.pixels import ColourTags, PixelFormat, levels, planar_format, without_alpha

LEVELS, FINE = 4096, 65536  # of the table from code values to light, up to 10 bits and above
ONE = kernels.ONE  # 1.0 of code values and of light as whole numbers; what is four times as bright still fits
_ALPHA, _BETA = 1.09929682680944, 0.018053968510807
_M1, _M2, _C1, _C2, _C3 = 2610 / 16384, 2523 / 4096 * 128, 3424 / 4096, 2413 / 4096 * 32, 2392 / 4096 * 32
_A = 0.17883277
_B, _C = 1 - 4 * _A, 0.5 - _A * math.log(4 * _A)
_LIGHT = planar_format("rgb", 32, real=True)
_STEEP = (16, 18)  # transfers that whole numbers of light are too coarse for near black
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


def to_linear(frame: Frame) -> Frame:
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


def from_linear(made: Frame, like: Frame) -> Frame:
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
    values = np.take(table, _whole_positions(places, count))
    if inside is not plane:
        values += plane - inside
    return values


def _whole_positions(places: np.ndarray, count: int) -> np.ndarray:
    return np.asarray(cv2.addWeighted(places, float(count - 1), places, 0.0, 0.0, dtype=cv2.CV_16U))


def in_whole_numbers(format: PixelFormat, tags: ColourTags) -> bool:
    """Whether light may be worked out in whole numbers: 8 bits by a transfer of which a step of light, 1 / ``ONE``,
    is less than half a code value everywhere."""
    return format.depth == 8 and tags.transfer not in _STEEP


def lit_whole(frame: Frame) -> list[np.ndarray]:
    """A frame of 8 bits as light in whole numbers: int16 planes of full size, ``ONE`` white, alpha left out; G, B and
    R, or grey alone. What lies beyond 0…1 is carried by as much, up to four times white."""
    format, tags = frame.format, frame.colour
    table = _whole_light_table(tags.transfer)
    parts = [cv2.LUT(frame.planes[k], _unit_table(*levels(format, tags, k))) for k in range(format.colours)]
    if format.kind == "yuv":
        kr, kb = colour.luma_weights(tags, frame.size)
        parts = _from_luma(parts, kr, kb, format, frame.size)
    return [_by_table(part, table) for part in parts]


def coded_whole(planes: list[np.ndarray], like: Frame) -> Frame:
    """Planes as :func:`lit_whole` gives them, in the format, range and matrix of a frame, whose alpha it keeps."""
    format, tags = like.format, like.colour
    table = _whole_code_table(tags.transfer)
    parts = [_by_table(plane, table) for plane in planes]
    if format.kind == "yuv":
        green, blue, red = parts
        kr, kb = colour.luma_weights(tags, like.size)
        luma = cv2.addWeighted(cv2.addWeighted(green, 1 - kr - kb, red, kr, 0), 1.0, blue, kb, 0)
        parts = [luma]
        for channel, weight in ((blue, kb), (red, kr)):
            share = 0.5 / (1 - weight)
            parts.append(colour.downsample_chroma(cv2.addWeighted(channel, share, luma, -share, 0), format, like.size))
    made = []
    for number, part in enumerate(parts):
        zero, span = levels(format, tags, number)
        made.append(cv2.addWeighted(part, span / ONE, part, 0.0, zero, dtype=cv2.CV_8U))
    return with_planes(like, (*made, *like.planes[len(made) :]))


def _from_luma(
    parts: list[np.ndarray], kr: float, kb: float, format: PixelFormat, size: tuple[int, int]
) -> list[np.ndarray]:
    """Luma and chroma in whole numbers as G, B and R."""
    luma, cb, cr = parts
    rest = 1 - kr - kb
    to_blue, to_red = 2 * (1 - kb), 2 * (1 - kr)
    shares = ((-kb * to_blue / rest, -kr * to_red / rest), (to_blue, 0.0), (0.0, to_red))
    chroma = (cv2.addWeighted(cb, of_blue, cr, of_red, 0.0) for of_blue, of_red in shares)
    return [cv2.add(luma, colour.upsample_chroma(item, format, size)) for item in chroma]


def _by_table(plane: np.ndarray, table: np.ndarray) -> np.ndarray:
    """An int16 plane through a table by the bits of its values."""
    places = plane.view(np.uint16)
    try:
        return cv2.LUT(places, table)
    except cv2.error:  # older releases look up bytes alone
        return np.take(table, places)


@lru_cache(maxsize=16)
def _unit_table(zero: float, span: float) -> np.ndarray:
    """Samples of 8 bits → ``ONE`` times what they stand for."""
    return np.rint((np.arange(256) - zero) * (ONE / span)).astype(np.int16)


@lru_cache(maxsize=8)
def _whole_light_table(transfer: int) -> np.ndarray:
    return _whole_table(to_light(transfer))


@lru_cache(maxsize=8)
def _whole_code_table(transfer: int) -> np.ndarray:
    return _whole_table(to_code(transfer))


def _whole_table(function: Function) -> np.ndarray:
    """(65536,) int16, by the bits of an int16 of which ``ONE`` is 1; what lies beyond is carried by as much."""
    value = np.arange(65536).astype(np.uint16).view(np.int16) / ONE
    inside = np.clip(value, 0.0, 1.0)
    return np.rint((function(inside) + value - inside) * ONE).clip(-32768, 32767).astype(np.int16)


@lru_cache(maxsize=8)
def _light_table(transfer: int, count: int) -> np.ndarray:
    return np.asarray(to_light(transfer)(np.linspace(0, 1, count)).astype(np.float32))


@lru_cache(maxsize=8)
def _code_table(transfer: int) -> np.ndarray:
    return np.asarray(to_code(transfer)(np.linspace(0, 1, FINE) ** 4).astype(np.float32))


def mean(views: Iterable[Frame], weights: np.ndarray) -> Frame:
    """The mean, as light, of renders of a frame, in its own format, depth, range and matrix."""
    frames = iter(views)
    first = next(frames)
    shares = kernels.shares(weights)
    whole = in_whole_numbers(first.format, first.colour)
    total: list[np.ndarray] = []
    for k, view in enumerate(chain([first], frames)):
        planes = lit_whole(view) if whole else list(to_linear(view).planes)
        total = total or [np.zeros_like(plane) for plane in planes]
        for plane, add in zip(total, planes, strict=True):
            kernels.join_mean(plane, add, shares, k)
    if whole:
        return coded_whole(total, first)
    return from_linear(Frame(tuple(total), first.format if first.format.real else _LIGHT, first.colour), first)
