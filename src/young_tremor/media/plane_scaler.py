"""Planes made smaller for the screen by the decoder library: several times as fast as by the other libraries."""

from __future__ import annotations

import threading
from collections import OrderedDict

import numpy as np
from av import VideoFrame
from av.video.reformatter import VideoReformatter

SCALED = {np.dtype(np.uint8): "gray", np.dtype(np.uint16): "gray16le"}
KEPT = 8  # pairs of sizes that a thread's scalers are set up for
_mine = threading.local()


def scale_by_area(plane: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """A plane (rows, columns) of uint8 or uint16 at a smaller ``size`` (width, height), each pixel the mean of the area
    that it covers. Any thread."""
    name = SCALED[plane.dtype]
    scaled = _scaler(plane.shape, size, name).reformat(
        VideoFrame.from_numpy_buffer(np.ascontiguousarray(plane), format=name),
        *size,
        format=name,
        interpolation="AREA",
    )
    return np.asarray(scaled.to_ndarray())


def _scaler(shape: tuple[int, ...], size: tuple[int, int], name: str) -> VideoReformatter:
    """This thread's scaler from one size to another, which setting up takes longer than scaling."""
    scalers: OrderedDict[tuple, VideoReformatter] = _mine.__dict__.setdefault("scalers", OrderedDict())
    key = shape, size, name
    if key not in scalers:
        scalers[key] = VideoReformatter()
        if len(scalers) > KEPT:
            scalers.popitem(last=False)
    scalers.move_to_end(key)
    return scalers[key]
