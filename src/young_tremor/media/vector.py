"""SVG as pictures of any size, drawn by resvg."""

from __future__ import annotations

import gzip
import io
import re
import zlib
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from xml.etree import ElementTree

import cv2
import numpy as np
import resvg_py

from young_tremor.base.errors import DecodeError, RequestError
from young_tremor.base.files import read_regular
from young_tremor.base.frames import Frame
from young_tremor.base.pixels import ColourTags, named

KINDS = (".svg", ".svgz")
RGBA = named("rgb", 8, alpha=True)
TAGS = ColourTags(1, 13, 0, True)  # sRGB
MOST_BYTES = 32 << 20
MOST_SIDE = 8192  # pixels that are drawn
RATE = Fraction(24)
PROBE = 200  # pixels of a side at which it is seen whether a drawing can be drawn
UNITS = {"": 1.0, "px": 1.0, "pt": 4 / 3, "pc": 16.0, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96.0, "em": 16.0}
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
_LENGTH = re.compile(rf"({_NUMBER.pattern})({'|'.join(UNITS)})")
_NEEDS_FACES = re.compile(rb"<\s*(?:svg:)?(?:text|tspan)\b")


@dataclass(frozen=True)
class Drawing:
    """A file's drawing: its bytes, and its own size in pixels."""

    data: bytes
    name: str
    size: tuple[int, int]


def read(path: Path) -> Drawing:
    """A drawing from a file. DecodeError or RequestError, in one sentence, where it is none that can be drawn."""
    data = read_regular(path, MOST_BYTES, "a drawing")
    size = _size(_plain(data, path.name), path.name)
    drawing = Drawing(data, path.name, size)
    drawn(drawing, path, min(1.0, PROBE / max(size)))  # whether it can be
    return drawing


def _plain(data: bytes, name: str) -> bytes:
    """The text of a drawing, which may be compressed."""
    if data[:2] != b"\x1f\x8b":
        return data
    try:
        with gzip.GzipFile(fileobj=io.BytesIO(data)) as file:
            text = file.read(MOST_BYTES + 1)
    except (OSError, EOFError, zlib.error) as error:
        raise DecodeError(f"{name} is damaged ({error}): choose another file.") from error
    if len(text) > MOST_BYTES:
        raise RequestError(f"{name} is too large a drawing: {MOST_BYTES >> 20} MB are the most there may be.")
    return text


def _size(text: bytes, name: str) -> tuple[int, int]:
    """A drawing's own size in pixels, by what its first element says (SVG 2, 8.2)."""
    try:
        _, root = next(ElementTree.iterparse(io.BytesIO(text), events=("start",)))
    except (ElementTree.ParseError, StopIteration, ValueError, LookupError) as error:
        raise DecodeError(f"{name} is no drawing that can be read ({error}): choose another file.") from error
    if root.tag.rsplit("}", 1)[-1] != "svg":
        raise DecodeError(f"{name} is no SVG drawing: choose another file.")
    box = [float(each) for each in _NUMBER.findall(root.get("viewBox", ""))]
    own = box[2:4] if len(box) == 4 else [100.0, 100.0]
    found = [_length(root.get(field, "")) for field in ("width", "height")]
    if found[0] is None and found[1] is not None and own[1] > 0:
        found[0] = found[1] * own[0] / own[1]
    if found[1] is None and found[0] is not None and own[0] > 0:
        found[1] = found[0] * own[1] / own[0]
    width, height = (round(given if given is not None else each) for given, each in zip(found, own, strict=True))
    if width < 1 or height < 1:
        raise DecodeError(f"{name} is a drawing without a size: give it a width and a height.")
    if max(width, height) > MOST_SIDE:
        raise RequestError(
            f"{name} is {width}x{height}, more than the {MOST_SIDE} pixels a side that can be drawn: give it a smaller "
            "size; it stays sharp when it is scaled."
        )
    return width, height


def _length(text: str) -> float | None:
    """A length in pixels; None where it is left out or a share of nothing that is known."""
    found = _LENGTH.fullmatch(text.strip())
    if found is None:
        return None
    value = float(found[1]) * UNITS[found[2]]
    return value if 0 <= value < 1e9 else None


def drawn(drawing: Drawing, path: Path, scale: float) -> Frame:
    """A drawing with so many pixels to one of its own size."""
    width, height = (min(max(round(each * scale), 1), MOST_SIDE) for each in drawing.size)
    try:
        png = resvg_py.svg_to_bytes(
            svg_path=str(path), width=width, height=height, skip_system_fonts=not _NEEDS_FACES.search(drawing.data)
        )
    except BaseException as error:  # what the library does not foresee is no Exception
        if isinstance(error, KeyboardInterrupt | SystemExit):
            raise
        last = (str(error).strip().splitlines() or ["damaged"])[-1].rstrip(".")[:120]
        raise DecodeError(f"{drawing.name} cannot be drawn ({last}): choose another file.") from error
    made = _frame(bytes(png))
    if made.size == (width, height):
        return made
    # it keeps its shape: what is missing of the size stays empty
    planes = []
    for plane in made.planes:
        whole = np.zeros((height, width), np.uint8)
        rows, columns = min(height, plane.shape[0]), min(width, plane.shape[1])
        top, left = (height - rows) // 2, (width - columns) // 2
        whole[top : top + rows, left : left + columns] = plane[:rows, :columns]
        planes.append(whole)
    return Frame(tuple(planes), RGBA, TAGS)


def picture(svg: str, width: int, height: int) -> Frame:
    """An SVG text of our own making as a picture."""
    return _frame(bytes(resvg_py.svg_to_bytes(svg_string=svg, width=width, height=height, skip_system_fonts=True)))


def _frame(png: bytes) -> Frame:
    made = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_UNCHANGED)
    if made is None or made.ndim != 3:
        raise DecodeError("A drawing could not be made: choose another size.")
    blue, green, red = (np.ascontiguousarray(made[..., k]) for k in range(3))
    alpha = np.ascontiguousarray(made[..., 3]) if made.shape[2] == 4 else np.full(blue.shape, 255, np.uint8)
    return Frame((green, blue, red, alpha), RGBA, TAGS)


def png(path: Path, size: int) -> bytes:
    """A square SVG of our own making as the bytes of a PNG, ``size`` pixels wide."""
    return bytes(resvg_py.svg_to_bytes(svg_path=str(path), width=size, height=size, skip_system_fonts=True))
