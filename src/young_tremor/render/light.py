"""Averaging as light: code values to linear light and back, by the transfer that the footage is tagged with.

ITU-R BT.709, IEC 61966-2-1 (sRGB), SMPTE ST 2084 (PQ) and ITU-R BT.2100 (HLG), numbered as in ITU-T H.273.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable

import cv2
import numpy as np

from young_tremor.base.frames import Frame, PixelFormat, with_planes
from young_tremor.render.screen import luma_weights

LEVELS = 4096  # of the table from code values to light
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
    """The mean, as light, of renders of a frame (planes each), in its own format, depth, range and matrix."""
    light = to_light(frame.colour.transfer)(np.linspace(0, 1, LEVELS)).astype(np.float32)
    total: np.ndarray | None = None
    for planes, weight in zip(views, weights.tolist(), strict=True):
        rgb = _rgb(planes, frame)
        index = np.rint(np.clip(rgb, 0, 1) * (LEVELS - 1)).astype(np.uint16)
        # what lies beyond the range of the table (super-white, below black) is carried by as much
        beyond = rgb - np.clip(rgb, 0, 1)
        part = (light[index] + beyond) * np.float32(weight)
        total = part if total is None else total + part
    assert total is not None
    inside = np.clip(total, 0, 1)
    code = to_code(frame.colour.transfer)(inside.astype(np.float64)).astype(np.float32) + (total - inside)
    return with_planes(frame, _planes(code, frame))


def _ranges(frame: Frame) -> tuple[float, float, float, float]:
    """Black, size of luma, neutral and size of chroma in code values."""
    scale = float(1 << (frame.format.depth - 8))
    if frame.colour.full or (frame.format.rgb and frame.colour.full is None):
        top = float((1 << frame.format.depth) - 1)
        return 0.0, top, 128 * scale, top
    return 16 * scale, 219 * scale, 128 * scale, 224 * scale


def _rgb(planes: tuple[np.ndarray, ...], frame: Frame) -> np.ndarray:
    """Planes as R'G'B' about 0…1: (rows, columns, 3) float32."""
    low, size, neutral, span = _ranges(frame)
    rows, columns = planes[0].shape
    if frame.format.rgb:
        return np.stack([(planes[k].astype(np.float32) - low) / size for k in (2, 0, 1)], axis=-1)
    y = (planes[0].astype(np.float32) - low) / size
    if len(planes) < 3:
        return np.repeat(y[..., None], 3, axis=2)
    cb, cr = (
        cv2.resize((planes[k].astype(np.float32) - neutral) / span, (columns, rows), interpolation=cv2.INTER_LINEAR)
        for k in (1, 2)
    )
    kr, kb = luma_weights(frame)
    red, blue = y + 2 * (1 - kr) * cr, y + 2 * (1 - kb) * cb
    return np.stack([red, (y - kr * red - kb * blue) / (1 - kr - kb), blue], axis=-1)


def _planes(rgb: np.ndarray, frame: Frame) -> tuple[np.ndarray, ...]:
    """Back into the frame's own planes, rounded."""
    low, size, neutral, span = _ranges(frame)
    format = frame.format
    if format.rgb:
        parts = [rgb[..., k] * size + low for k in (1, 2, 0)]
    else:
        kr, kb = luma_weights(frame)
        y = kr * rgb[..., 0] + (1 - kr - kb) * rgb[..., 1] + kb * rgb[..., 2]
        parts = [y * size + low]
        if format.planes >= 3:
            target = format.plane_size(1, (rgb.shape[1], rgb.shape[0]))
            for channel, weight in ((2, kb), (0, kr)):
                chroma = (rgb[..., channel] - y) / (2 * (1 - weight))
                parts.append(cv2.resize(chroma, target, interpolation=cv2.INTER_AREA) * span + neutral)
    made = [_rounded(part, format) for part in parts]
    return (*made, *frame.planes[len(made) :])


def _rounded(part: np.ndarray, format: PixelFormat) -> np.ndarray:
    return np.clip(np.rint(part), 0, (1 << format.depth) - 1).astype(format.dtype)
