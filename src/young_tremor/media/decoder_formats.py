"""Between the decoder's pixel formats and ours, and its errors and ours."""

from __future__ import annotations

import errno
import logging
import os
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from typing import Any

import av
import numpy as np

from young_tremor.base.errors import Cancelled, DecodeError, EncodeError, RequestError, TremorError, WorkError, from_os
from young_tremor.base.frames import Frame, Plane, with_planes
from young_tremor.base.pixels import STEPS, ColourTags, PixelFormat, pixel_format, planar_format

_FILE_ERRORS = (
    errno.EPERM,
    errno.ENOENT,
    errno.EACCES,
    errno.ENOTDIR,
    errno.EISDIR,
    errno.ENOSPC,
    errno.EROFS,
)
_log = logging.getLogger(__name__)


def planar_name(name: str) -> str:
    """The planar format that a decoder format is taken as: itself, or the nearest that loses nothing."""
    if pixel_format(name):
        return name
    format = av.VideoFormat(name, 16, 16)
    depth = max(component.bits for component in format.components)
    real = "f16" in name or "f32" in name
    count = len(format.components)
    alpha = count in (2, 4) or name == "pal8"
    bits = 32 if real else next((item for item in (8, 10, 12, 16) if depth <= item), 16)
    if format.is_rgb or format.has_palette or count == 2:
        return planar_format("rgb", bits, alpha=alpha, real=real).name
    if count < 3:
        return planar_format("grey", bits, real=real).name
    across = max(1, round(16 / max(1, format.chroma_width(16))))
    down = max(1, round(16 / max(1, format.chroma_height(16))))
    step = (across, down) if (across, down) in ((2, 2), (2, 1)) else (1, 1)
    return planar_format("yuv", bits, step, alpha=alpha).name


def picture_stream(container: Any, name: str) -> Any:
    """The stream of moving pictures; RequestError where there is none (a cover picture of a sound file is not one)."""
    for stream in container.streams.video:
        if not stream.disposition & av.stream.Disposition.attached_pic:
            if stream.codec_context is None:
                raise RequestError(f"{name} is coded in a way that is not known here: convert it.")
            return stream
    raise RequestError(f"{name} has no picture: choose a video file.")


def decoder_of(stream: Any) -> Any:
    """What decodes a stream's packets. VP8 and VP9 carry alpha beside the picture, which one decoder alone reads."""
    name = {"vp8": "libvpx", "vp9": "libvpx-vp9"}.get(stream.codec_context.name)
    marked = stream.metadata.get("alpha_mode") or stream.metadata.get("ALPHA_MODE")
    return av.CodecContext.create(name, "r") if name and marked == "1" else stream.codec_context


def to_frame(picture: Any, format: PixelFormat, colour: ColourTags, turns: int = 0, *, mirrored: bool = False) -> Frame:
    """Planes of a decoded picture, upright (``turns`` quarter turns anticlockwise, then left and right changed)."""
    frame = _apply_orientation(picture, format, colour, turns)
    if mirrored:
        frame = with_planes(frame, tuple(np.ascontiguousarray(plane[:, ::-1]) for plane in frame.planes))
    return frame


def _apply_orientation(picture: Any, format: PixelFormat, colour: ColourTags, turns: int) -> Frame:
    if format.real and picture.format.name != format.name:
        planes = _floats(picture, format)
        if turns:
            planes = tuple(np.ascontiguousarray(np.rot90(plane, turns)) for plane in planes)
        return Frame(planes, upright(format, turns), colour)
    if picture.format.name.replace("yuvj", "yuv") != format.name:
        picture = picture.reformat(format=format.name)
    planes = tuple(
        np.ascontiguousarray(np.rot90(_view(picture, n, format), turns)) if turns else _view(picture, n, format).copy()
        for n in range(format.planes)
    )
    return Frame(planes, upright(format, turns), colour)


def _floats(picture: Any, format: PixelFormat) -> tuple[Plane, ...]:
    """Planes of a picture of half floats, or of packed ones, in single precision. The library's own conversion would
    cut off what lies below 0 and above 1."""
    name = picture.format.name
    kind = np.dtype((">" if name.endswith("be") else "<") + ("f2" if "f16" in name else "f4"))
    count = len(picture.format.components)
    if len(picture.planes) == 1 and count > 1:
        plane = picture.planes[0]
        rows = np.frombuffer(plane, kind).reshape(plane.height, -1)[:, : count * plane.width]
        packed = rows.reshape(plane.height, plane.width, count).astype(np.float32)
        order = (1, 2, 0, 3)[: format.planes]  # R, G, B, A to G, B, R, A
        return tuple(np.ascontiguousarray(packed[..., k]) for k in order)
    out = []
    for plane in picture.planes:
        rows = np.frombuffer(plane, kind).reshape(plane.height, -1)
        out.append(rows[:, : plane.width].astype(np.float32))
    if count == 2:  # grey with alpha is taken as RGB
        out = [out[0], out[0], out[0], out[1]]
    return tuple(out[: format.planes])


def _view(picture: Any, number: int, format: PixelFormat) -> Plane:
    plane: Any = picture.planes[number]
    rows: Plane = np.frombuffer(plane, format.dtype).reshape(plane.height, -1)
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
        code = next(code for code, step in STEPS.items() if step == format.step)
        name = name.replace(code, swap.get(code, code))
    return replace(format, name=name, step=(sx, sy), siting=(x, y))


def to_picture(frame: Frame, coded: str | None = None) -> Any:
    """A picture for the encoder, of the frame's own format, or of one that holds the very same values packed."""
    width, height = frame.size
    picture = av.VideoFrame(width, height, frame.format.name)
    for number, plane in enumerate(frame.planes):
        target: Any = picture.planes[number]
        rows: Plane = np.frombuffer(target, frame.format.dtype).reshape(target.height, -1)
        rows[:, : target.width] = plane
    if coded is not None and coded != frame.format.name:
        picture = picture.reformat(format=coded)
    picture.color_primaries = frame.colour.primaries
    picture.color_trc = frame.colour.transfer
    picture.colorspace = frame.colour.matrix
    picture.color_range = range_code(frame.colour)
    return picture


def range_code(colour: ColourTags) -> int:
    """The library's number for a range: 0 untold, 1 limited, 2 full."""
    return 0 if colour.full is None else 2 if colour.full else 1


# what the binding lets through of broken files besides its own errors: text that is none, fields that are not there
_FOREIGN = (
    av.FFmpegError,
    OSError,
    EOFError,
    UnicodeError,
    AttributeError,
    ValueError,
    TypeError,
    LookupError,
    ArithmeticError,
    AssertionError,
    RuntimeError,
)


@contextmanager
def reading(path: Path | str) -> Iterator[None]:
    """Translate the library's errors while reading a file: the only place where that is done."""
    name = Path(path).name
    try:
        yield
    except (TremorError, Cancelled):
        raise
    except MemoryError as error:
        raise WorkError(f"There is not enough memory to read {name}: close something, or scale it down.") from error
    except _FOREIGN as error:
        _translate(error, path, "read")
        raise DecodeError(f"{name} cannot be read as footage ({_error_text(error)}): try another file.") from error


@contextmanager
def writing(path: Path | str) -> Iterator[None]:
    """The same while writing."""
    try:
        yield
    except (TremorError, Cancelled):
        raise
    except _FOREIGN as error:
        _translate(error, path, "write")
        raise EncodeError(
            f"{Path(path).name} cannot be written ({_error_text(error)}): try another codec or another place."
        ) from error


def _translate(error: BaseException, path: Path | str, doing: str) -> None:
    """Raise what the system said as one of ours; keep anything else for the log."""
    number = getattr(error, "errno", None)
    if number in _FILE_ERRORS:
        raise from_os(OSError(number, os.strerror(number)), path, doing) from error
    _log.info("%s cannot be %s", path, doing, exc_info=error)


def _error_text(error: BaseException) -> str:
    """The library's last words, without its brackets and file names."""
    text = getattr(error, "strerror", None) or str(error)
    return text.strip().splitlines()[0].rstrip(".") if text.strip() else type(error).__name__
