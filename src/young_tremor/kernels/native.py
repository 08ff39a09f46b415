"""The compiled kernels: found, asked what the processor can do, and called."""

from __future__ import annotations

import ctypes
import os
from functools import lru_cache
from pathlib import Path

import numpy as np

from young_tremor.kernels.request import BORDERS, Request

VERSION = 1  # of the structs and of the bits; the library says the same
VARIABLE = "YOUNG_TREMOR_KERNELS"  # off, or a level to stay below: v2, v3, v4
LIBRARY = Path(__file__).with_name("_kernels.so")


class _Source(ctypes.Structure):
    _fields_ = [
        ("pixels", ctypes.c_void_p),
        ("pitch", ctypes.c_int64),
        *((name, ctypes.c_int32) for name in ("width", "height", "sample", "fraction", "border")),
    ]


class _Views(ctypes.Structure):
    _fields_ = [
        ("nodes", ctypes.c_void_p),
        *((name, ctypes.c_int32) for name in ("views", "rows", "columns", "left", "top", "spacing", "drop")),
        ("weights", ctypes.c_void_p),
    ]


class _Trail(ctypes.Structure):
    _fields_ = [
        *((name, ctypes.c_int32) for name in ("first", "count", "across", "down", "points", "smeared")),
        ("ramp_in", ctypes.c_double),
        ("ramp_out", ctypes.c_double),
        ("ways", ctypes.c_void_p),
    ]


class _Target(ctypes.Structure):
    _fields_ = [
        ("pixels", ctypes.c_void_p),
        ("pitch", ctypes.c_int64),
        *(
            (name, ctypes.c_int32)
            for name in (
                *("left", "top", "width", "height", "frame_width", "frame_height"),
                *("sample", "top_value", "raw", "dither"),
            )
        ),
    ]


class _Mean(ctypes.Structure):
    _fields_ = [
        ("source", _Source),
        ("views", _Views),
        ("real", ctypes.c_int32),
        ("trails", ctypes.c_int32),
        ("trail", ctypes.c_void_p),
        ("smear_points", ctypes.c_int32),
        ("smear", ctypes.c_void_p),
        ("target", _Target),
        ("tiles_dense", ctypes.c_int32),
        ("tiles_gathered", ctypes.c_int32),
    ]


@lru_cache(maxsize=1)
def library() -> ctypes.CDLL | None:
    """The compiled kernels, or None where there are none for this machine."""
    if os.environ.get(VARIABLE) == "off":
        return None
    try:
        found = ctypes.CDLL(str(LIBRARY))
        found.kernels_mean.argtypes = [ctypes.POINTER(_Mean), ctypes.c_int]
        if found.kernels_version() != VERSION or not found.kernels_highest():
            return None
    except (OSError, AttributeError):
        return None
    return found


@lru_cache(maxsize=1)
def level() -> int:
    """The level that runs: 2, 3 or 4 of x86-64, 1 on other processors, 0 without compiled kernels."""
    found = library()
    if found is None:
        return 0
    highest: int = found.kernels_highest()
    wanted = os.environ.get(VARIABLE, "")
    return min(highest, int(wanted[1:])) if wanted[:1] == "v" and wanted[1:].isdigit() and int(wanted[1:]) else highest


def levels() -> tuple[int, ...]:
    """All levels that this machine can run."""
    found = library()
    highest = found.kernels_highest() if found is not None else 0
    return tuple(range(2, highest + 1)) if highest > 1 else (1,) if highest else ()


def mean(request: Request, at_level: int = 0) -> tuple[np.ndarray, int]:
    """The mean of the views of a request, and how many views of tiles went pixel by pixel. Any thread may call it;
    others run meanwhile.

    Raises
    ------
    MemoryError
    """
    found = library()
    assert found is not None
    window, lattice = request.window, request.lattice
    plane = request.plane
    if plane.strides[1] != plane.itemsize or plane.strides[0] < 0:
        plane = np.ascontiguousarray(plane)
    nodes = np.ascontiguousarray(lattice.nodes, np.float64)
    weights = np.ascontiguousarray(request.weights, np.int32)
    out = np.empty((window.height, window.width), request.made_dtype)
    ways = [None if t.ways is None else np.ascontiguousarray(t.ways, np.float64) for t in request.trails]
    smear = None if request.smear is None else np.ascontiguousarray(request.smear, np.float64)
    trails = (_Trail * len(request.trails))(
        *(
            _Trail(t.first, t.count, 1, 1, 1, t.smeared, 0.0, 0.0, None)
            if way is None
            else _Trail(
                *(t.first, t.count, way.shape[1], way.shape[0], way.shape[2], t.smeared, t.ramp_in, t.ramp_out),
                way.ctypes.data,
            )
            for t, way in zip(request.trails, ways, strict=True)
        )
    )
    job = _Mean(
        _Source(
            *(plane.ctypes.data, plane.strides[0], plane.shape[1], plane.shape[0], plane.itemsize),
            *(request.fraction, BORDERS.index(request.border)),
        ),
        _Views(
            *(nodes.ctypes.data, *nodes.shape[:3], lattice.left, lattice.top, lattice.spacing, lattice.drop),
            weights.ctypes.data,
        ),
        request.real,
        len(trails),
        ctypes.addressof(trails),
        0 if smear is None else len(smear),
        None if smear is None else smear.ctypes.data,
        _Target(
            *(out.ctypes.data, out.strides[0], window.left, window.top, window.width, window.height, *request.frame),
            *(out.itemsize, (1 << request.depth) - 1, request.raw, request.dither),
        ),
        0,
        0,
    )
    failed = found.kernels_mean(ctypes.byref(job), at_level or level())
    if failed:
        raise MemoryError("There is not enough memory for this frame.")
    return out, job.tiles_gathered
