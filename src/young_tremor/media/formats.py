"""Between the decoder's pixel formats and ours, and its errors and ours."""

from __future__ import annotations

import errno
import os
import re
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from typing import Any

import av
import numpy as np

from young_tremor.base.errors import DecodeError, EncodeError, TremorError, from_os
from young_tremor.base.frames import ColourTags, Frame, PixelFormat, Plane

_FILE_ERRORS = (
    errno.EPERM,
    errno.ENOENT,
    errno.EACCES,
    errno.ENOTDIR,
    errno.EISDIR,
    errno.ENOSPC,
    errno.EROFS,
)
_STEPS = {"420": (2, 2), "422": (2, 1), "444": (1, 1), "440": (1, 2), "411": (4, 1), "410": (4, 4)}
_YUV = re.compile(r"yuvj?(420|422|444|440|411|410)p(9|10|12|14|16)?(le)?")
_GBR = re.compile(r"gbrp(9|10|12|14|16)?(le)?")
_GRAY = re.compile(r"gray(9|10|12|14|16)?(le)?")


def pixel_format(name: str) -> PixelFormat | None:
    """Our description of a planar decoder format, or None where it has to be converted first."""
    if found := _YUV.fullmatch(name):
        step = _STEPS[found[1]]
        siting = (0.0, (step[1] - 1) / 2)
        return PixelFormat(name.replace("yuvj", "yuv"), int(found[2] or 8), 3, step, siting)
    if found := _GBR.fullmatch(name):
        return PixelFormat(name, int(found[1] or 8), 3, rgb=True)
    if found := _GRAY.fullmatch(name):
        return PixelFormat(name, int(found[1] or 8), 1)
    return None


def planar_name(name: str) -> str:
    """The planar format that a decoder format is taken as: itself, or the nearest that loses nothing."""
    if pixel_format(name):
        return name
    format = av.VideoFormat(name, 16, 16)
    depth = max(component.bits for component in format.components)
    if format.is_rgb or format.has_palette:
        return "gbrp" if depth <= 8 else "gbrp10le" if depth <= 10 else "gbrp12le" if depth <= 12 else "gbrp16le"
    if len(format.components) < 3:
        return "gray" if depth <= 8 else "gray16le"
    across = max(1, round(16 / max(1, format.chroma_width(16))))
    down = max(1, round(16 / max(1, format.chroma_height(16))))
    layout = {(2, 2): "420", (2, 1): "422"}.get((across, down), "444")
    bits = next(each for each in (8, 10, 12, 16) if depth <= each)
    return f"yuv{layout}p" + ("" if bits == 8 else f"{bits}le")


def to_frame(picture: Any, format: PixelFormat, colour: ColourTags, turns: int = 0) -> Frame:
    """Planes of a decoded picture, upright (``turns`` quarter turns anticlockwise)."""
    if picture.format.name.replace("yuvj", "yuv") != format.name:
        picture = picture.reformat(format=format.name)
    planes = tuple(
        np.ascontiguousarray(np.rot90(_view(picture, n, format), turns)) if turns else _view(picture, n, format).copy()
        for n in range(format.planes)
    )
    return Frame(planes, upright(format, turns), colour)


def _view(picture: Any, number: int, format: PixelFormat) -> Plane:
    plane = picture.planes[number]
    rows = np.frombuffer(plane, format.dtype).reshape(plane.height, -1)
    return rows[:, : plane.width]


def upright(format: PixelFormat, turns: int) -> PixelFormat:
    """A format after ``turns`` quarter turns anticlockwise: subsampling and siting turn with the picture."""
    turns %= 4
    (sx, sy), (x, y) = format.step, format.siting
    for _ in range(turns):
        x, y = y, (sx - 1) - x
        sx, sy = sy, sx
    if turns == 0 or (sx, sy) == format.step == (1, 1):
        return format
    name = format.name
    if (sx, sy) != format.step:
        swap = {"422": "440", "440": "422"}
        code = next(code for code, step in _STEPS.items() if step == format.step)
        name = name.replace(code, swap.get(code, code))
    return replace(format, name=name, step=(sx, sy), siting=(x, y))


def to_picture(frame: Frame) -> Any:
    """A picture for the encoder, of the frame's own format."""
    width, height = frame.size
    picture = av.VideoFrame(width, height, frame.format.name)
    for number, plane in enumerate(frame.planes):
        target = picture.planes[number]
        rows = np.frombuffer(target, frame.format.dtype).reshape(target.height, -1)
        rows[:, : target.width] = plane
    picture.color_primaries = frame.colour.primaries
    picture.color_trc = frame.colour.transfer
    picture.colorspace = frame.colour.matrix
    picture.color_range = range_code(frame.colour)
    return picture


def range_code(colour: ColourTags) -> int:
    """The library's number for a range: 0 untold, 1 limited, 2 full."""
    return 0 if colour.full is None else 2 if colour.full else 1


@contextmanager
def reading(path: Path | str) -> Iterator[None]:
    """Translate the library's errors while reading a file: the only place where that is done."""
    try:
        yield
    except TremorError:
        raise
    except (av.FFmpegError, OSError, EOFError) as error:
        number = getattr(error, "errno", None)
        if number in _FILE_ERRORS:
            raise from_os(OSError(number, os.strerror(number)), path, "read") from error
        raise DecodeError(
            f"{Path(path).name} cannot be read as footage ({_words(error)}): try another file."
        ) from error


@contextmanager
def writing(path: Path | str) -> Iterator[None]:
    """The same while writing."""
    try:
        yield
    except TremorError:
        raise
    except (av.FFmpegError, OSError) as error:
        number = getattr(error, "errno", None)
        if number in _FILE_ERRORS:
            raise from_os(OSError(number, os.strerror(number)), path, "write") from error
        raise EncodeError(f"{Path(path).name} cannot be written ({_words(error)}).") from error


def _words(error: BaseException) -> str:
    """The library's last words, without its brackets and file names."""
    text = getattr(error, "strerror", None) or str(error)
    return text.strip().rstrip(".") or type(error).__name__
