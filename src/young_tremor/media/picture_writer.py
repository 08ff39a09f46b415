"""Numbered pictures out: each whole under its name or not there, so that work can be cut up and gone on with."""

from __future__ import annotations

import io
import re
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING, Any

import av
import cv2
import numpy as np

from young_tremor.base.colour import convert
from young_tremor.base.errors import EncodeError, RequestError
from young_tremor.base.files import PartFile, check_free
from young_tremor.base.frames import Frame
from young_tremor.base.lazy_import import lazily
from young_tremor.base.pixels import ColourTags, PixelFormat, planar_format
from young_tremor.media.decoder_formats import to_picture, writing

if TYPE_CHECKING:
    import tifffile
else:
    tifffile = lazily("tifffile")

_DIGITS = re.compile(r"%0?(\d*)d|#+")
FOUR = 4  # digits where a name says nothing


def pattern_of(path: Path) -> tuple[str, int]:
    """What a file is called with its number in place of ``{}``, and of how many digits that is: ``rack.####.png``,
    ``rack.%04d.png`` or plain ``rack.png``."""
    match = _DIGITS.search(path.name)
    if match is None:
        return f"{path.stem}.{{}}{path.suffix}", FOUR
    digits = len(match.group()) if match.group().startswith("#") else int(match.group(1) or 1)
    return f"{path.name[: match.start()]}{{}}{path.name[match.end() :]}", digits


def name_of(path: Path, number: int) -> Path:
    """The file of one number."""
    pattern, digits = pattern_of(path)
    return path.with_name(pattern.format(f"{number:0{digits}d}"))


def check_pictures(path: Path, first: int, count: int, *, overwrite: bool, resume: bool) -> None:
    """Refuse at the door: a folder that cannot be written to, pictures that are there already."""
    if not path.parent.is_dir():
        raise RequestError(f"{path.parent} is not there: make the folder first, or choose another.")
    if resume or overwrite:
        return
    for number in (first, first + count - 1):
        check_free(name_of(path, number), overwrite=False)


class PictureWriter:
    """Writes numbered pictures.

    PNG holds 8 bits of footage of 8 bits and 16 otherwise, TIFF 16, EXR half floats: the footage's own values, not made
    linear. ``resume``: what is there already is left as it is.
    """

    def __init__(
        self,
        path: Path,
        kind: str,
        *,
        format: PixelFormat,
        colour: ColourTags,
        overwrite: bool = False,
        resume: bool = False,
    ) -> None:
        self.path, self._kind = path, kind
        self._overwrite, self._resume = overwrite, resume
        depth = 8 if kind == "png" and format.depth <= 8 and not format.real else 16
        self._format = planar_format("rgb", 16 if kind == "exr" else depth, alpha=format.alpha, real=kind == "exr")
        self._tags = ColourTags(colour.primaries, colour.transfer, 0, True)

    def write_as(self, number: int, frame: Frame) -> None:
        """Write a picture under its number. For any thread, each number once."""
        path = name_of(self.path, number)
        new_frame = convert(frame, self._format, self._tags)
        with PartFile(path) as part:
            with writing(path):
                if self._kind == "exr":
                    _exr(part.path, new_frame)
                else:
                    part.write(_encode_picture(new_frame, self._kind, path))
            part.finish(overwrite=self._overwrite or self._resume)


def _encode_picture(frame: Frame, kind: str, path: Path) -> bytes:
    """A picture of whole numbers as a file."""
    green, blue, red = frame.planes[:3]
    planes = [red, green, blue, *frame.planes[3:]]
    if kind == "png":
        order = [planes[2], planes[1], planes[0], *planes[3:]]
        done, data = cv2.imencode(".png", np.dstack(order), [cv2.IMWRITE_PNG_COMPRESSION, 3])
        if not done:
            raise EncodeError(f"{path.name} could not be written as PNG.")
        return bytes(data)
    with tifffile.TiffWriter(sink := _Sink()) as file:
        extra: Any = ["unassalpha"] if len(planes) == 4 else None
        file.write(np.dstack(planes), photometric="rgb", compression="zlib", predictor=True, extrasamples=extra)
    return sink.getvalue()


class _Sink(io.BytesIO):
    """Bytes in memory that a TIFF is written into."""


def _exr(path: Path, frame: Frame) -> None:
    """One EXR of half floats, compressed without loss."""
    with av.open(f"file:{path.absolute()}", "w", format="image2", options={"update": "1"}) as file:
        stream: Any = file.add_stream("exr", rate=Fraction(24))
        stream.width, stream.height = frame.size
        stream.pix_fmt = frame.format.name
        stream.options = {"format": "half", "compression": "zip16"}
        for packet in (*stream.encode(to_picture(frame)), *stream.encode(None)):
            file.mux(packet)


def write_floats(path: Path, values: np.ndarray, *, overwrite: bool, small: bool = False) -> None:
    """Numbers (rows, columns, 2) float32 as the red and green of an EXR of whole floats; blue is 0. ``small``: packed
    without loss, which takes several times as long."""
    check_free(path, overwrite=overwrite)
    with PartFile(path) as part:
        with (
            writing(path),
            av.open(f"file:{part.path.absolute()}", "w", format="image2", options={"update": "1"}) as file,
        ):
            stream: Any = file.add_stream("exr", rate=Fraction(24))
            stream.height, stream.width = values.shape[:2]
            stream.pix_fmt = "gbrpf32le"
            stream.options = {"format": "float", "compression": "zip1" if small else "none"}
            zero = np.zeros(values.shape[:2], np.float32)
            planes = (np.ascontiguousarray(values[..., 1]), zero, np.ascontiguousarray(values[..., 0]))
            frame = Frame(planes, planar_format("rgb", 32, real=True), ColourTags(2, 8, 0, True))
            for packet in (*stream.encode(to_picture(frame)), *stream.encode(None)):
                file.mux(packet)
        part.finish(overwrite=overwrite)
