"""The compiled kernels: found, asked what the processor can do, and called."""

from __future__ import annotations

import ctypes
import os
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache
from pathlib import Path

import numpy as np

from young_tremor.kernels.colour_tables import ColourTables
from young_tremor.kernels.request import BORDERS, WHOLE, KernelPiece, KernelRequest, Lattice

VERSION = 6  # of the structs and of the bits; the library says the same
VARIABLE = "YOUNG_TREMOR_KERNELS"  # off, or a level to stay below: v2, v3, v4
MOST_PLANES = 5
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


class _Layer(ctypes.Structure):
    _fields_ = [
        ("planes", ctypes.c_void_p * MOST_PLANES),
        ("source", _Source),
        ("views", _Views),
        *((name, ctypes.c_int32) for name in ("left", "top", "width", "height", "share")),
        ("part", ctypes.c_float),
    ]


class _Canvas(ctypes.Structure):
    _fields_ = [
        ("pixels", ctypes.c_void_p * MOST_PLANES),
        ("pitch", ctypes.c_int64 * MOST_PLANES),
        *((name, ctypes.c_int32) for name in ("planes", "left", "top", "real")),
    ]


class _Colours(ctypes.Structure):
    _fields_ = [
        *((name, ctypes.c_void_p) for name in ("decode", "system", "ratio", "back", "encode")),
        *((name, ctypes.c_float) for name in ("decode_scale", "ratio_scale", "encode_scale", "back_scale")),
        ("luminance", ctypes.c_float * 3),
        ("matrix", ctypes.c_float * 9),
        ("weights", ctypes.c_float * 3),
        *((name, ctypes.c_float) for name in ("top", "low", "high")),
    ]


@lru_cache(maxsize=1)
def library() -> ctypes.CDLL | None:
    """The compiled kernels, or None where there are none for this machine."""
    if os.environ.get(VARIABLE) == "off":
        return None
    try:
        library = ctypes.CDLL(str(LIBRARY))
        library.kernels_mean.argtypes = [ctypes.POINTER(_Mean), ctypes.c_int]
        library.kernels_lay.argtypes = [
            *(ctypes.POINTER(_Layer), ctypes.c_int, ctypes.c_int, ctypes.POINTER(_Canvas), ctypes.c_int)
        ]
        plane = (ctypes.c_void_p, ctypes.c_int64)
        library.kernels_over.argtypes = (*plane, *plane, *plane, ctypes.c_int, ctypes.c_int, ctypes.c_int)
        library.kernels_colours.argtypes = (ctypes.c_void_p, ctypes.c_int64, ctypes.POINTER(_Colours), ctypes.c_int)
        library.kernels_mix.argtypes = (*plane, *plane, *(ctypes.c_int,) * 4)
        library.kernels_halve.argtypes = (*plane, ctypes.c_void_p, *(ctypes.c_int,) * 3)
        if library.kernels_version() != VERSION or not library.kernels_highest():
            return None
    except (OSError, AttributeError):
        return None
    return library


@lru_cache(maxsize=1)
def level() -> int:
    """The level that runs: 2, 3 or 4 of x86-64, 1 on other processors, 0 without compiled kernels."""
    found_library = library()
    if found_library is None:
        return 0
    highest: int = found_library.kernels_highest()
    wanted = os.environ.get(VARIABLE, "")
    return min(highest, int(wanted[1:])) if wanted[:1] == "v" and wanted[1:].isdigit() and int(wanted[1:]) else highest


def levels() -> tuple[int, ...]:
    """All levels that this machine can run."""
    found_library = library()
    highest = found_library.kernels_highest() if found_library is not None else 0
    return tuple(range(2, highest + 1)) if highest > 1 else (1,) if highest else ()


def mean(request: KernelRequest, at_level: int = 0) -> tuple[np.ndarray, int]:
    """The mean of the views of a request, and how many views of tiles went pixel by pixel. Any thread may call it;
    others run meanwhile.

    Raises
    ------
    MemoryError
    """
    found_library = library()
    assert found_library is not None
    job, out, _ = job_of(request)
    if found_library.kernels_mean(ctypes.byref(job), at_level or level()):
        raise MemoryError("There is not enough memory for this frame.")
    return out, job.tiles_gathered


def mean_alike(request: KernelRequest, planes: Sequence[np.ndarray]) -> list[np.ndarray]:
    """What a request makes of each of several planes of one shape and dtype; its own plane is not asked for.

    Raises
    ------
    MemoryError
    """
    found_library, at_level = library(), level()
    assert found_library is not None
    job, out, kept = job_of(replace(request, plane=planes[0]))
    values = [out, *(np.empty_like(out) for _ in planes[1:])]
    for plane, result in zip(planes, values, strict=True):
        plane = plane if plane.flags.c_contiguous else np.ascontiguousarray(plane)
        job.source.pixels, job.source.pitch = plane.ctypes.data, plane.strides[0]
        job.target.pixels = result.ctypes.data
        if found_library.kernels_mean(ctypes.byref(job), at_level):
            raise MemoryError("There is not enough memory for this frame.")
    del kept
    return values


def job_of(request: KernelRequest) -> tuple[_Mean, np.ndarray, tuple]:
    """A request as the library takes it, the array that it fills, and what has to be kept until then: plane, nodes,
    weights, trails, ways and smear.

    Raises
    ------
    ValueError
        The lattice does not reach as far as the views are drawn out.
    """
    window, lattice = request.window, request.lattice
    plane = request.plane
    if plane.strides[1] != plane.itemsize or plane.strides[0] < 0:
        plane = np.ascontiguousarray(plane)
    nodes = np.ascontiguousarray(lattice.nodes, np.float64)
    _check(request)
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
            *(out.itemsize, request.top_value, request.raw, request.dither),
        ),
        0,
        0,
    )
    return job, out, (plane, nodes, weights, trails, ways, smear)


class NativeLayers:
    """Pieces as the library takes them. It keeps what they point to."""

    def __init__(self, pieces: Sequence[KernelPiece]) -> None:
        self._kept: list[object] = []
        self._layers = (_Layer * len(pieces))(*map(self._layer, pieces))

    def _layer(self, piece: KernelPiece) -> _Layer:
        planes = [np.ascontiguousarray(plane) for plane in piece.planes]
        lattice, window, first = piece.lattice, piece.window, planes[0]
        if not _reaches(lattice, (window.width, window.height), (0, 0)):
            raise ValueError("the lattice does not cover its piece")
        nodes = np.ascontiguousarray(lattice.nodes, np.float64)
        self._kept += [planes, nodes]
        return _Layer(
            (ctypes.c_void_p * MOST_PLANES)(*(plane.ctypes.data for plane in planes)),
            _Source(None, first.strides[0], first.shape[1], first.shape[0], first.itemsize, 0, BORDERS.index("empty")),
            _Views(
                *(nodes.ctypes.data, *nodes.shape[:3], lattice.left, lattice.top, lattice.spacing, lattice.drop), None
            ),
            *(window.left, window.top, window.width, window.height),
            *(round(piece.opacity * WHOLE), piece.opacity),
        )

    def lay(self, view: int, canvas: Sequence[np.ndarray], corner: tuple[int, int], at_level: int = 0) -> None:
        """Lay one view of all pieces onto the planes of a canvas, whose first pixel is the frame's ``corner``.

        Raises
        ------
        MemoryError
        """
        found_library = library()
        assert found_library is not None
        to = _Canvas(
            (ctypes.c_void_p * MOST_PLANES)(*(plane.ctypes.data for plane in canvas)),
            (ctypes.c_int64 * MOST_PLANES)(*(plane.strides[0] for plane in canvas)),
            *(len(canvas), *corner, canvas[0].dtype == np.float32),
        )
        if found_library.kernels_lay(self._layers, len(self._layers), view, ctypes.byref(to), at_level or level()):
            raise MemoryError("There is not enough memory for this frame.")


def _check(request: KernelRequest) -> None:
    """Raise ValueError where a lattice does not reach as far as its views are drawn out."""
    window, (width, height) = request.window, request.frame
    room = [0, 0]
    for k in range(2):
        far = [np.abs(t.ways[..., k]).max() for t in request.trails if t.ways is not None]
        room[k] = -(-(int(max(far, default=-3)) + 3) // 16) * 16
        if request.smear is not None:
            room[k] += -(-(int(np.abs(request.smear[:, k]).max()) + 3) // 16) * 16
    inside = window.left >= 0 and window.top >= 0 and window.left + window.width <= width
    if not inside or window.top + window.height > height or not _reaches(request.lattice, request.frame, room):
        raise ValueError("the lattice does not cover what is asked of it")


def _reaches(lattice: Lattice, frame: tuple[int, int], room: Sequence[int]) -> bool:
    """Whether a lattice covers a frame and ``room`` (across, down) about it."""
    _, rows, columns, _ = lattice.nodes.shape
    right, bottom = lattice.left + (columns - 1) * lattice.spacing, lattice.top + (rows - 1) * lattice.drop
    begins = (
        rows > 1 and columns > 1 and lattice.left % 16 == 0 and lattice.left <= -room[0] and lattice.top <= -room[1]
    )
    return begins and right >= -(-frame[0] // 16) * 16 + room[0] and bottom >= frame[1] + room[1]


def over(below: np.ndarray, above: np.ndarray, alpha: np.ndarray, at_level: int = 0) -> None:
    """See :func:`young_tremor.kernels.over`."""
    found_library = library()
    assert found_library is not None
    rows, columns = below.shape
    found_library.kernels_over(
        *(below.ctypes.data, below.strides[0] // 2, above.ctypes.data, above.strides[0] // 2),
        *(alpha.ctypes.data, alpha.strides[0] // 2, columns, rows, at_level or level()),
    )


def mix(mean: np.ndarray, values: np.ndarray, share: int, at_level: int = 0) -> None:
    """See :func:`young_tremor.kernels.mix`; below a share of 32768."""
    found_library = library()
    assert found_library is not None
    rows, columns = mean.shape
    found_library.kernels_mix(
        *(mean.ctypes.data, mean.strides[0] // 2, values.ctypes.data, values.strides[0] // 2),
        *(share, columns, rows, at_level or level()),
    )


def halve(plane: np.ndarray, at_level: int = 0) -> np.ndarray:
    """See :func:`young_tremor.kernels.halve`."""
    found_library = library()
    assert found_library is not None
    rows, columns = plane.shape
    out = np.empty((rows // 2, columns // 2), np.int16)
    found_library.kernels_halve(
        *(plane.ctypes.data, plane.strides[0] // 2, out.ctypes.data, columns // 2, rows // 2, at_level or level())
    )
    return out


def colours(pixels: np.ndarray, tables: ColourTables) -> None:
    """See :func:`young_tremor.kernels.convert_colours`; contiguous float32."""
    found_library = library()
    assert found_library is not None
    optional = (tables.system, tables.ratio, tables.back)
    system, ratio, back = (None if table is None else table.ctypes.data for table in optional)
    job = _Colours(
        *(tables.decode.ctypes.data, system, ratio, back, tables.encode.ctypes.data),
        *(tables.decode_scale, tables.ratio_scale, tables.encode_scale, tables.back_scale),
        (ctypes.c_float * 3)(*tables.luminance.tolist()),
        (ctypes.c_float * 9)(*tables.matrix.ravel().tolist()),
        (ctypes.c_float * 3)(*tables.weights.tolist()),
        *(tables.top, tables.low, tables.high),
    )
    found_library.kernels_colours(pixels.ctypes.data, pixels.size // 3, ctypes.byref(job), level())
