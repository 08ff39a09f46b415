"""Pictures made ready for the composite, made smaller if need be, and kept as long as the picture itself."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import partial

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame
from young_tremor.render.composite_samples import SampleFormat
from young_tremor.render.frame_cache import FrameCache

KEEP = 256 << 20  # bytes of pictures made ready that are kept


@dataclass(frozen=True, eq=False)
class PreparedPicture:
    """A picture made ready: ``planes`` of the composite's colours and alpha last, all at the luma's places and in
    flight (see :class:`SampleFormat`), none where all of it is empty; ``origin``: its first pixel's place in the whole
    of it."""

    planes: tuple[np.ndarray, ...]
    origin: tuple[int, int]

    @property
    def nbytes(self) -> int:
        """Bytes of all planes."""
        return sum(plane.nbytes for plane in self.planes)


_ready: FrameCache[PreparedPicture] = FrameCache(KEEP)


def prepare(frame: Frame, flight: SampleFormat, *, premultiplied: bool, shrunk: float = 1.0) -> PreparedPicture | None:
    """A picture for the composite of a format, ``shrunk`` to that share of its size, kept for the next frame that shows
    it; None if all of it is empty."""
    key = (flight.format, flight.tags, premultiplied, shrunk)
    ready = _ready.of(frame, key, partial(_prepare_anew, frame, flight, premultiplied, shrunk))
    return ready if ready.planes else None


def _prepare_anew(frame: Frame, flight: SampleFormat, premultiplied: bool, shrunk: float) -> PreparedPicture:
    part = crop_to_alpha(frame)
    if part is None:
        return PreparedPicture((), (0, 0))
    packed = colour.pack_premultiplied(part, flight.format, flight.tags, premultiplied=premultiplied)
    origin = part.origin
    if shrunk < 1:
        packed, origin = _shrunk(packed, origin, shrunk)
    channels = [*range(flight.format.colours), 3]
    planes = [cv2.extractChannel(packed, channel) for channel in channels]
    return PreparedPicture((*map(flight.from_code, planes[:-1]), flight.alpha(planes[-1])), origin)


def _shrunk(packed: np.ndarray, origin: tuple[int, int], share: float) -> tuple[np.ndarray, tuple[int, int]]:
    """A packed picture averaged by area to a share of its size, on the grid of the whole picture at that size."""
    reach = 0.5 / share
    room = math.ceil(reach) + 1
    wide = cv2.copyMakeBorder(packed, room, room, room, room, cv2.BORDER_CONSTANT, value=0)
    soft = _box_blur(_box_blur(wide, reach, 1), reach, 0)
    rows, columns = packed.shape[:2]
    begin = [math.floor((o + 0.5) * share - 0.5) - 1 for o in origin]
    size = [math.ceil((o + n + 0.5) * share) + 1 - b for o, n, b in zip(origin, (columns, rows), begin, strict=True)]
    at = np.array([[share, 0, 0.0], [0, share, 0.0]])
    at[:, 2] = [share * (o - room + 0.5) - 0.5 - b for o, b in zip(origin, begin, strict=True)]
    return np.asarray(cv2.warpAffine(soft, at, size, flags=cv2.INTER_LINEAR)), (begin[0], begin[1])


def _box_blur(packed: np.ndarray, reach: float, axis: int) -> np.ndarray:
    """Averaged over ``reach`` pixels on either side along an axis; it grows by nothing: what is beyond is empty."""
    whole = math.floor(reach - 0.5)
    taps = np.ones(2 * whole + 3, np.float32)
    taps[[0, -1]] = reach - 0.5 - whole
    taps /= taps.sum()
    one = np.ones(1, np.float32)
    kernels = (taps, one) if axis == 1 else (one, taps)
    return np.asarray(cv2.sepFilter2D(packed, -1, *kernels, borderType=cv2.BORDER_CONSTANT))


def crop_to_alpha(frame: Frame) -> Frame | None:
    """The part of a frame that is not empty, by its alpha; None if there is none."""
    if not frame.format.alpha:
        return frame
    rows = np.flatnonzero(frame.planes[-1].any(axis=1))
    if not len(rows):
        return None
    columns = np.flatnonzero(frame.planes[-1][rows[0] : rows[-1] + 1].any(axis=0))
    across, down = frame.format.step
    left, top = int(columns[0]) // across * across, int(rows[0]) // down * down
    width, height = int(columns[-1]) + 1 - left, int(rows[-1]) + 1 - top
    if (width, height) == frame.size:
        return frame
    planes = []
    for number, plane in enumerate(frame.planes):
        x, y = frame.format.plane_step(number)
        planes.append(plane[top // y : -(-(top + height) // y), left // x : -(-(left + width) // x)])
    return Frame(
        tuple(planes),
        frame.format,
        colour.with_matrix(frame.colour, frame.format, frame.whole),
        (frame.origin[0] + left, frame.origin[1] + top),
        frame.whole,
    )
