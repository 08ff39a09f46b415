"""Typefaces: ours, those installed on the machine, and any font file."""

from __future__ import annotations

import os
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import TYPE_CHECKING

from young_tremor.base import sandbox
from young_tremor.base.errors import MissingFile, RequestError
from young_tremor.base.files import read_regular
from young_tremor.base.lazy_import import lazily

if TYPE_CHECKING:
    import uharfbuzz as hb
else:
    hb = lazily("uharfbuzz")

KINDS = (".ttf", ".otf", ".ttc", ".otc")
OURS = ("faces", "fonts")  # folders among the assets
MOST_BYTES = 256 << 20  # of a font file
MOST = 20_000  # font files that are looked at
LIMITS = sandbox.Limits(seconds=6.0, memory=512 << 20)  # of a font file that a person names
PLAIN = ("regular", "book", "roman", "normal", "400regular", "")
FAMILY, STYLE, FAMILY_TYPED, STYLE_TYPED = 1, 2, 16, 17  # of a font's names (OpenType, table "name")


@dataclass(frozen=True)
class Face:
    """A typeface: what it is called, its file, and its number in that."""

    name: str
    path: str
    index: int = 0


def faces() -> tuple[Face, ...]:
    """All that can be chosen by name, ours first, then those installed, each name once. Slow the first time."""
    table: dict[str, Face] = {}
    for face in (*ours(), *installed_faces()):
        table.setdefault(face.name.casefold(), face)
    return tuple(table.values())


@lru_cache(maxsize=1)
def ours() -> tuple[Face, ...]:
    """Those that come with the application."""
    assets = Path(__file__).parent.parent / "assets"
    paths = (path for folder in OURS for path in sorted((assets / folder).glob("*.ttf")))
    return tuple(face for path in paths for face in _faces_in_file(str(path)))


@lru_cache(maxsize=1)
def installed_faces() -> tuple[Face, ...]:
    """Those installed for all or for this person, by name."""
    return tuple(sorted((f for path in _files() for f in _faces_in_file(path)), key=lambda face: face.name.casefold()))


def _files() -> Iterator[str]:
    home = Path.home()
    data = os.environ.get("XDG_DATA_HOME") or str(home / ".local" / "share")
    shared = (os.environ.get("XDG_DATA_DIRS") or "/usr/local/share:/usr/share").split(":")
    folders = dict.fromkeys([*(os.path.join(text, "fonts") for text in (data, *shared)), str(home / ".fonts")])
    number = 0
    for folder in folders:
        for here, _, names in os.walk(folder):
            for name in sorted(names):
                if name.lower().endswith(KINDS):
                    number += 1
                    if number > MOST:
                        return
                    yield os.path.join(here, name)


def _faces_in_file(path: str) -> list[Face]:
    """The faces of a file that has any that can be read."""
    out = []
    try:
        blob = hb.Blob.from_file_path(path)
        for index in range(min(max(hb.Face(blob).count, 1), 64)):
            face = hb.Face(blob, index)
            if face.glyph_count:
                out.append(Face(_name(face) or Path(path).stem, path, index))
    except Exception:  # a file that is no font is none of the installed ones
        return []
    return out


def _name(face: hb.Face) -> str:
    family = face.get_name(FAMILY_TYPED) or face.get_name(FAMILY) or ""
    style = face.get_name(STYLE_TYPED) or face.get_name(STYLE) or ""
    return str(family if style.strip().casefold() in PLAIN or not family else f"{family} {style}").strip()


def is_foreign(name: str) -> bool:
    """Whether the name of a face is a path to a font file, which is read in a process of its own."""
    return os.sep in name or name.lower().endswith(KINDS)


def find(name: str) -> Face | None:
    """The face of that name, or of a font file by its path; None where none has the name.

    RequestError, in one sentence, for a file that is no font.
    """
    if is_foreign(name):
        path = os.path.abspath(name)
        if not os.path.exists(path):
            raise MissingFile(f"{name} is not there: choose another font.")
        read_regular(Path(path), MOST_BYTES, "font")
        faces = sandbox.run(
            _faces_in_file, path, name=os.path.basename(path), what="a font", path=Path(path), limits=LIMITS
        )
        if not faces:
            raise RequestError(f"{os.path.basename(name)} is no font that can be read: choose another.")
        return faces[0]
    wanted = name.casefold()
    for face in ours():
        if face.name.casefold() == wanted:
            return face
    return next((face for face in installed_faces() if face.name.casefold() == wanted), None)


@lru_cache(maxsize=64)
def open_face(face: Face) -> tuple[hb.Font, int]:
    """A face as the shaping library has it, and the units of its em."""
    made = hb.Face(hb.Blob.from_file_path(face.path), face.index)
    return hb.Font(made), int(made.upem) or 1000


@lru_cache(maxsize=256)
def letters(face: Face) -> frozenset[int]:
    """The code points that a face has letters for."""
    return frozenset(int(unicode) for unicode in open_face(face)[0].face.unicodes)


def standing_in(letter: int, first: Face) -> Face:
    """A face that has a letter: the first one, one of ours, or one that is installed; the first where none has."""
    if letter in letters(first):
        return first
    for face in (*ours(), *installed_faces()):
        try:
            if letter in letters(face):
                return face
        except Exception:  # damaged beyond its names
            continue
    return first
