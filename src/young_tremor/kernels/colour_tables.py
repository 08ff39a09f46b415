"""Tables of light, by which values of one colour space become those of another; their walk, number by number."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

STEPS = 1 << 16  # entries of a table


@dataclass(frozen=True, eq=False)
class ColourTables:
    """How values become others, all in float32.

    ``decode``: (STEPS,) light by values times ``decode_scale``. ``system``: what light of the scene is multiplied by to
    be that of the screen, by the fourth root of its ``luminance`` (3,). ``ratio``: by how much highlights are mapped,
    by the root of the largest value times ``ratio_scale``. ``matrix``: (3, 3) to the other primaries, of whose
    luminance ``weights`` (3,) are the shares. Colours that reach below ``low`` or above ``high`` are drawn to grey
    until they lie between 0 and ``top``. ``back``: as ``system``, the other way, by the fourth root of luminance times
    ``back_scale``. ``encode``: values by the fourth root of light times ``encode_scale``. ``system``, ``ratio`` and
    ``back`` are left out where there is no such step.
    """

    decode: np.ndarray
    decode_scale: float
    matrix: np.ndarray
    weights: np.ndarray
    top: float
    low: float
    high: float
    encode: np.ndarray
    encode_scale: float
    luminance: np.ndarray
    system: np.ndarray | None = None
    ratio: np.ndarray | None = None
    ratio_scale: float = 0.0
    back: np.ndarray | None = None
    back_scale: float = 0.0


def convert(pixels: np.ndarray, tables: ColourTables) -> None:
    """The definition of :func:`young_tremor.kernels.convert_colours`: (…, 3) float32, in place."""
    light = _looked_up(tables.decode, pixels, tables.decode_scale)
    if tables.system is not None:
        light *= _looked_up(tables.system, _root4(_weighed(tables.luminance, light)), STEPS - 1)[..., None]
    if tables.ratio is not None:
        light *= _looked_up(tables.ratio, np.sqrt(light.max(axis=-1)), tables.ratio_scale)[..., None]
    light = np.stack([_weighed(row, light) for row in tables.matrix], axis=-1)
    low, high = light.min(axis=-1), light.max(axis=-1)
    outside = (low < np.float32(tables.low)) | (high > np.float32(tables.high))
    if outside.any():
        light[outside] = drawn_to_grey(light[outside], tables.weights, float(np.float32(tables.top)))
    if tables.back is not None:
        light *= _looked_up(tables.back, _root4(_weighed(tables.weights, light)), tables.back_scale)[..., None]
    pixels[...] = _looked_up(tables.encode, _root4(light), tables.encode_scale)


def _looked_up(table: np.ndarray, values: np.ndarray, scale: float) -> np.ndarray:
    places = np.minimum(np.maximum(values * np.float32(scale), np.float32(0)), np.float32(STEPS - 1))
    return table[np.rint(places).astype(np.int32)]


def _weighed(weights: np.ndarray, light: np.ndarray) -> np.ndarray:
    """The sum of three channels, in this order."""
    return np.asarray(weights[0] * light[..., 0] + weights[1] * light[..., 1] + weights[2] * light[..., 2])


def _root4(values: np.ndarray) -> np.ndarray:
    return np.asarray(np.sqrt(np.sqrt(np.maximum(values, np.float32(0)))))


def drawn_to_grey(light: np.ndarray, weights: np.ndarray, top: float) -> np.ndarray:
    """Light (…, 3) drawn towards the grey of its luminance until none of it is below nothing or beyond ``top``. In
    double precision: what is drawn to the edge is to lie on it, where values near black are steep."""
    light = light.astype(np.float64)
    low, high = light.min(axis=-1), light.max(axis=-1)
    grey = np.minimum(np.maximum(_weighed(weights.astype(np.float64), light), 0.0), top)
    with np.errstate(divide="ignore", invalid="ignore"):
        keep = np.where(low < 0, grey / (grey - low), 1.0)
        above = (top - grey) / (high - grey)
    keep = np.where((high > top) & (above < keep), above, keep)
    return np.asarray(grey[..., None] + (light - grey[..., None]) * keep[..., None])
