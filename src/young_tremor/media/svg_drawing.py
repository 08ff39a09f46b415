"""SVG as pictures of any size, drawn by resvg."""

from __future__ import annotations

import gzip
import io
import re
import zlib
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from urllib.parse import unquote, urlsplit
from xml.etree import ElementTree
from xml.parsers import expat

import cv2
import numpy as np
import resvg_py

from young_tremor.base import sandbox
from young_tremor.base.errors import DecodeError, RequestError
from young_tremor.base.files import read_regular
from young_tremor.base.frames import Frame
from young_tremor.base.pixels import ColourTags, planar_format

KINDS = (".svg", ".svgz")
RGBA = planar_format("rgb", 8, alpha=True)
TAGS = ColourTags(1, 13, 0, True)  # sRGB
MOST_BYTES = 32 << 20
MOST_SIDE = 8192  # pixels that are drawn
MOST_DEPTH = 128  # elements in elements
MOST_LENGTH = 1e6  # pixels of a side that a drawing may name
PICTURES = ("image", "feImage", "use")
PROBE_LIMITS = sandbox.Limits(seconds=6.0, memory=1 << 30)
DRAW_LIMITS = sandbox.Limits(seconds=20.0, memory=2 << 30)
RATE = Fraction(24)
PROBE = 200  # pixels of a side at which it is seen whether a drawing can be drawn
UNITS = {"": 1.0, "px": 1.0, "pt": 4 / 3, "pc": 16.0, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96.0, "em": 16.0}
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
_LENGTH = re.compile(rf"({_NUMBER.pattern})({'|'.join(UNITS)})")
_NEEDS_FACES = re.compile(rb"<\s*(?:svg:)?(?:text|tspan)\b")


@dataclass(frozen=True)
class Drawing:
    """A file's drawing: its path, its own size in pixels, and what a person should know of it."""

    path: Path
    size: tuple[int, int]
    notes: tuple[str, ...] = ()


def read(path: Path) -> Drawing:
    """A drawing from a file, read in a process of its own. DecodeError or RequestError, in one sentence, where it is
    none that can be drawn."""
    return sandbox.run(_read, path, name=path.name, what="a drawing", path=path, limits=PROBE_LIMITS)


def _read(path: Path) -> Drawing:
    data = read_regular(path, MOST_BYTES, "a drawing")
    text = _plain(data, path.name)
    notes = _check(text, path)
    drawing = Drawing(path, _size(text, path.name), notes)
    _draw(drawing, min(1.0, PROBE / max(drawing.size)))  # whether it can be
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
        raise RequestError(f"{name} is too large a drawing: at most {MOST_BYTES >> 20} MB are allowed.")
    return text


def _check(text: bytes, path: Path) -> tuple[str, ...]:
    """Refuse what nests too deeply or shows files from elsewhere; notes of what will not be drawn."""
    parser = expat.ParserCreate()
    depth, notes = 0, dict[str, None]()

    def begin(tag: str, attributes: dict[str, str]) -> None:
        nonlocal depth
        depth += 1
        if depth > MOST_DEPTH:
            raise RequestError(f"{path.name} nests deeper than {MOST_DEPTH} groups: flatten it, then try again.")
        if tag.rpartition(":")[2] in PICTURES:
            for key in ("href", "xlink:href"):
                if note := _check_picture(attributes.get(key, ""), path):
                    notes[note] = None

    def end(tag: str) -> None:
        nonlocal depth
        depth -= 1

    parser.StartElementHandler, parser.EndElementHandler = begin, end
    try:
        parser.Parse(text, True)
    except (expat.ExpatError, LookupError, ValueError) as error:
        raise DecodeError(f"{path.name} is no drawing that can be read ({error}): choose another file.") from error
    return tuple(notes)


def _check_picture(address: str, path: Path) -> str:
    """Refuse a picture of a drawing that does not lie beside it; a note where it lies at an address."""
    address = address.strip()
    if not address or address.startswith(("#", "data:")):
        return ""
    parts = urlsplit(address)
    if parts.scheme not in ("", "file"):
        return "pictures at addresses are left out"
    named = Path(unquote(parts.path))
    folder = path.absolute().parent.resolve()
    picture = (folder / named).resolve()
    if not picture.is_relative_to(folder) or (picture.exists() and not picture.is_file()):
        raise RequestError(f"{path.name} shows {named}, which is not beside it: put that picture into its folder.")
    if not picture.exists():
        return f"{named.name} is missing beside it and left out"
    return ""


def _size(text: bytes, name: str) -> tuple[int, int]:
    """A drawing's own size in pixels, by what its first element says (SVG 2, 8.2)."""
    try:
        _, root = next(ElementTree.iterparse(io.BytesIO(text), events=("start",)))
    except (ElementTree.ParseError, StopIteration, ValueError, LookupError) as error:
        raise DecodeError(f"{name} is no drawing that can be read ({error}): choose another file.") from error
    if root.tag.rsplit("}", 1)[-1] != "svg":
        raise DecodeError(f"{name} is no SVG drawing: choose another file.")
    box = [float(number) for number in _NUMBER.findall(root.get("viewBox", ""))]
    own = (100.0, 100.0)
    if len(box) == 4 and all(0 < side < MOST_LENGTH for side in box[2:]):
        own = (box[2], box[3])
    width, height = (_length(root.get(field, "")) for field in ("width", "height"))
    if width is None and height is not None:
        width = height * own[0] / own[1]
    if height is None and width is not None:
        height = width * own[1] / own[0]
    sides = (own[0] if width is None else width, own[1] if height is None else height)
    if not all(0.5 <= side < MOST_LENGTH for side in sides):
        raise DecodeError(f"{name} is a drawing without a size: give it a width and a height.")
    across, down = (max(round(side), 1) for side in sides)
    if max(across, down) > MOST_SIDE:
        raise RequestError(
            f"{name} is {across}x{down}, more than the {MOST_SIDE} pixels a side that can be drawn: give it a smaller "
            "size; it stays sharp when it is scaled."
        )
    return across, down


def _length(text: str) -> float | None:
    """A length in pixels; None where it is left out or a share of nothing that is known."""
    match = _LENGTH.fullmatch(text.strip())
    if match is None:
        return None
    value = float(match[1]) * UNITS[match[2]]
    return value if 0 <= value < MOST_LENGTH else None


def draw(drawing: Drawing, scale: float) -> Frame:
    """A drawing with so many pixels to one of its own size, drawn in a process of its own. DecodeError where it cannot
    be drawn within ``DRAW_LIMITS``."""
    return sandbox.run(
        _draw, drawing, scale, name=drawing.path.name, what="a drawing", path=drawing.path, limits=DRAW_LIMITS
    )


def _draw(drawing: Drawing, scale: float) -> Frame:
    width, height = (min(max(round(side * scale), 1), MOST_SIDE) for side in drawing.size)
    path = drawing.path
    data = read_regular(path, MOST_BYTES, "a drawing")
    try:
        png = resvg_py.svg_to_bytes(
            svg_path=str(path),
            resources_dir=str(path.absolute().parent),
            width=width,
            height=height,
            skip_system_fonts=not _NEEDS_FACES.search(_plain(data, path.name)),
        )
    except BaseException as error:  # what the library does not foresee is no Exception
        if isinstance(error, KeyboardInterrupt | SystemExit):
            raise
        last = (str(error).strip().splitlines() or ["damaged"])[-1].rstrip(".")[:120]
        raise DecodeError(f"{path.name} cannot be drawn ({last}): choose another file.") from error
    frame = _frame(bytes(png))
    if frame.size == (width, height):
        return frame
    # it keeps its shape: what is missing of the size stays empty
    planes = []
    for plane in frame.planes:
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
