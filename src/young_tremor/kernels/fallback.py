"""What stands in for the compiled kernels where there are none: the same means by a general library."""

from __future__ import annotations

import math

import cv2
import numpy as np

from young_tremor.base.window import Window
from young_tremor.kernels import blur_taps
from young_tremor.kernels.request import WHOLE, KernelRequest, Trail

ROOM = 8  # pixels about the part of a plane that views read
_MODES = {
    "hold": cv2.BORDER_REPLICATE,
    "mirror": cv2.BORDER_REFLECT_101,
    "repeat": cv2.BORDER_WRAP,
    "empty": cv2.BORDER_CONSTANT,
}


def mean(request: KernelRequest) -> np.ndarray:
    """As :func:`young_tremor.kernels.mean_views`, as sharp, but for a slightly different cubic."""
    wide_plane, origin = _read_window(request)
    window, scale = request.window, float(1 << request.fraction)
    total: np.ndarray = np.zeros((window.height, window.width), np.float32)
    smeared = _sum(request, True, wide_plane, origin) if request.smear is not None else None
    if smeared is not None:
        total += smeared
    rest = _sum(request, False, wide_plane, origin)
    if rest is not None:
        total += rest
    if request.made_dtype == np.float32:
        return total
    if request.raw:
        return np.rint(total * scale).astype(np.int16)
    if request.dither:
        rows, columns = np.mgrid[: window.height, : window.width]
        pattern = blur_taps.bayer(columns + window.left, rows + window.top)
        total += (3 / 640 * (2 * pattern - 63)).astype(np.float32)
    return np.clip(np.rint(total), 0, request.top_value).astype(request.plane.dtype)


def _sum(request: KernelRequest, smeared: bool, wide_plane: np.ndarray, origin: tuple[int, int]) -> np.ndarray | None:
    """The weighted sum of the trails that are smeared, or of those that are not."""
    window, total = request.window, None
    drawn_smear = smeared and request.smear is not None
    about = _reach(request.smear) if drawn_smear and request.smear is not None else 0
    wide = Window(window.left - about, window.top - about, window.width + 2 * about, window.height + 2 * about)
    for trail in request.trails:
        if (trail.smeared and request.smear is not None) != smeared:
            continue
        values = _trail(request, trail, wide, wide_plane, origin)
        total = values if total is None else total + values
    if total is None or not drawn_smear:
        return total
    assert request.smear is not None
    return _filter_along(total, blur_taps.draw(request.smear, 0.0, 0.0), about)[
        about : -about or None, about : -about or None
    ]


def _trail(
    request: KernelRequest, trail: Trail, window: Window, wide_plane: np.ndarray, origin: tuple[int, int]
) -> np.ndarray:
    if trail.ways is None:
        return _views(request, trail, window, wide_plane, origin)
    about = _reach(trail.ways)
    wide = Window(window.left - about, window.top - about, window.width + 2 * about, window.height + 2 * about)
    values = _views(request, trail, wide, wide_plane, origin)
    out = np.empty((window.height, window.width), np.float32)
    down, across = trail.ways.shape[:2]
    columns = [-(1 << 30), *(request.frame[0] * k // across for k in range(1, across)), 1 << 30]
    rows = [-(1 << 30), *(request.frame[1] * k // down for k in range(1, down)), 1 << 30]
    for j in range(down):
        for i in range(across):
            left, right = (min(max(c - window.left, 0), window.width) for c in columns[i : i + 2])
            up, low = (min(max(c - window.top, 0), window.height) for c in rows[j : j + 2])
            if left < right and up < low:
                part = values[up : low + 2 * about, left : right + 2 * about]
                kernel = blur_taps.draw(trail.ways[j, i], trail.ramp_in, trail.ramp_out)
                out[up:low, left:right] = _filter_along(part, kernel, about)[about:-about, about:-about]
    return out


def _reach(ways: np.ndarray) -> int:
    return math.ceil(float(np.abs(ways).max())) + 3


def _filter_along(picture: np.ndarray, kernel: blur_taps.Taps, about: int) -> np.ndarray:
    square = np.zeros((2 * about + 1, 2 * about + 1), np.float32)
    square[kernel.dy + about, kernel.dx + about] = kernel.parts
    return np.asarray(cv2.filter2D(picture, -1, square, borderType=cv2.BORDER_REPLICATE))


def _views(
    request: KernelRequest, trail: Trail, window: Window, wide_plane: np.ndarray, origin: tuple[int, int]
) -> np.ndarray:
    total: np.ndarray | None = None
    for view in range(trail.first, trail.first + trail.count):
        places = request.lattice.places(view, window)
        places -= origin
        made = cv2.remap(wide_plane, places.astype(np.float32), None, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)  # type: ignore[call-overload]
        made = made * np.float32(request.weights[view] / WHOLE)
        total = made if total is None else total + made
    assert total is not None
    return total


def _read_window(request: KernelRequest) -> tuple[np.ndarray, tuple[int, int]]:
    """The part of the plane that the views read, with what lies beyond it, and its first pixel."""
    plane, nodes = request.plane, request.lattice.nodes
    rows, columns = plane.shape
    low, high = nodes.min(axis=(0, 1, 2)), nodes.max(axis=(0, 1, 2))
    low, high = (
        np.nan_to_num(np.clip(low, -2.0 * max(rows, columns), None)),
        np.nan_to_num(np.clip(high, None, 3.0 * max(rows, columns))),
    )
    begin = [math.floor(float(low[k])) - ROOM for k in range(2)]
    end = [math.ceil(float(high[k])) + ROOM for k in range(2)]
    first = [min(max(begin[k], 0), (columns, rows)[k] - 1) for k in range(2)]
    last = [max(min(end[k], (columns, rows)[k]), first[k] + 1) for k in range(2)]
    part = plane[first[1] : last[1], first[0] : last[0]]
    if request.border == "mirror" or request.border == "repeat":
        part, first, last = plane, [0, 0], [columns, rows]
    wide = cv2.copyMakeBorder(
        *(part, max(first[1] - begin[1], 0), max(end[1] - last[1], 0), max(first[0] - begin[0], 0)),
        *(max(end[0] - last[0], 0), _MODES[request.border]),
    )
    origin = (min(begin[0], first[0]), min(begin[1], first[1]))
    return wide.astype(np.float32), origin
