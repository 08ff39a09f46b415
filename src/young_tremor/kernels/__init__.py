"""Kernels on planes: compiled where there is a library for this machine, with stand-ins where there is none.

``reference`` defines every result, number by number. The compiled kernels give the same bits on every processor and in
any number of threads. ``plain`` stands in for them with a general library, a little less sharp and much slower.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from young_tremor.base.window import Window
from young_tremor.kernels import blur_taps, colour_tables, fallback, native, reference
from young_tremor.kernels.colour_tables import ColourTables
from young_tremor.kernels.pieces import Pieces
from young_tremor.kernels.request import (
    Border,
    KernelPiece,
    KernelRequest,
    Lattice,
    Trail,
    even_weights,
    one_view,
    shares,
)

__all__ = [
    "ONE",
    "Border",
    "ColourTables",
    "KernelPiece",
    "KernelRequest",
    "Lattice",
    "Pieces",
    "Trail",
    "Window",
    "convert_colours",
    "describe",
    "even_weights",
    "halve",
    "join_mean",
    "mean_alike",
    "mean_views",
    "mix",
    "one_view",
    "over",
    "round_off",
    "shares",
]

ONE = reference.ONE
RELEASE = f"kernels {native.VERSION}"


def mean_views(request: KernelRequest) -> np.ndarray:
    """The mean of the views of a plane: (height, width) of the request's window, of the plane's own dtype (int16 if
    ``raw``)."""
    if native.level():
        return native.mean(request)[0]
    return fallback.mean(request)


def mean_alike(request: KernelRequest, planes: Sequence[np.ndarray]) -> list[np.ndarray]:
    """What a request makes of each of several planes of one shape and dtype; its own plane is not asked for."""
    if native.level():
        return native.mean_alike(request, planes)
    return [fallback.mean(replace(request, plane=plane)) for plane in planes]


def over(below: np.ndarray, above: np.ndarray, alpha: np.ndarray) -> None:
    """Lay a premultiplied picture over another, in place (T. Porter and T. Duff, "Compositing digital images", 1984).

    ``below``, ``above``: (rows, columns) int16 with a fraction, or float32. ``alpha``: of the upper one, the same shape
    and dtype: ``ONE`` where it covers all, 1.0 if float.
    """
    if below.dtype == np.float32:
        below *= 1.0 - alpha
        below += above
    elif native.level() and _in_rows(below):
        native.over(below, _rows(above), _rows(alpha))
    else:
        below[...] = reference.over(below, above, alpha)


def convert_colours(pixels: np.ndarray, tables: ColourTables) -> None:
    """Values of one colour space as those of another, in place: (rows, columns, 3) float32, contiguous. Any thread may
    call it; others run meanwhile."""
    if native.level():
        native.colours(pixels, tables)
    else:
        colour_tables.convert(pixels, tables)


def mix(mean: np.ndarray, values: np.ndarray, share: int) -> None:
    """Move ``mean`` towards ``values`` of its shape by a share of 32768, in place: int16 or float32."""
    if share < 32768 and mean.dtype == np.int16 and native.level() and _in_rows(mean):
        native.mix(mean, _rows(values), share)
    else:
        reference.mix(mean, values, share)


def halve(plane: np.ndarray) -> np.ndarray:
    """An int16 plane (rows, columns), both even, at the places of chroma of half as many (4:2:0, between rows and on
    columns): rows averaged in pairs, a tent along them. Values may be up to 16,000 either way."""
    return native.halve(_rows(plane)) if native.level() else reference.halve(plane)


def join_mean(mean: np.ndarray, values: np.ndarray, weights: np.ndarray, view: int) -> None:
    """Let a view join the mean of the views before it, in place. ``weights``: of all views, as of :func:`shares`."""
    mix(mean, values, reference.joining_share(int(weights[view]), int(weights[: view + 1].sum())))


def _in_rows(plane: np.ndarray) -> bool:
    """Whether samples of a row follow each other, and rows go down, as the compiled kernels walk them."""
    return plane.strides[1] == plane.itemsize and plane.strides[0] >= 0 and plane.strides[0] % plane.itemsize == 0


def _rows(plane: np.ndarray) -> np.ndarray:
    return plane if _in_rows(plane) else np.ascontiguousarray(plane)


def round_off(
    values: np.ndarray, fraction: int, top: int, dtype: np.dtype, *, dither: tuple[int, int] | None = None
) -> np.ndarray:
    """Values with a fraction as samples of a format: int16 (rows, columns) → ``dtype``, 0 … ``top``. ``dither``: column
    and row of the first one in its frame, if a pattern of less than a step is to be added."""
    step = 1 << fraction
    add: np.ndarray | np.int16 = np.int16(step >> 1)
    if dither is not None:
        pattern = blur_taps.bayer(*np.meshgrid(*(np.arange(8) + first for first in dither)))
        tile = (step >> 1) + (3 * step * (2 * pattern - 63) + 320) // 640
        rows, columns = values.shape
        add = np.tile(tile.astype(np.int16), (-(-rows // 8), -(-columns // 8)))[:rows, :columns]
    return np.clip((values + add) >> fraction, 0, top).astype(dtype)


def describe() -> str:
    """Which kernels run, for *About* and ``info --system``."""
    level = native.level()
    if not level:
        return "stand-ins (no compiled kernels for this machine)"
    return f"{RELEASE}, x86-64-v{level}" if level > 1 else RELEASE
