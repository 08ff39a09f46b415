"""Names of files as a person gives them, and where they are refused."""

from __future__ import annotations

import os
from pathlib import Path

from young_tremor.base.errors import MissingFile, RequestError
from young_tremor.media import image_sequence

FilePath = str | os.PathLike[str]
MOST_NAME, MOST_PATH = 255, 4000  # bytes of a file name, characters of a path


def path_of(path: FilePath) -> Path:
    """A path as it was given; RequestError for what no file can be called."""
    text = os.fspath(path)
    if "\0" in text:
        raise RequestError("A name or value cannot hold the character 0: give another.")
    try:
        parts = os.fsencode(text).split(b"/")
    except UnicodeError:
        raise RequestError("A name holds characters that no file can have: give another.") from None
    if max(map(len, parts)) > MOST_NAME or len(text) > MOST_PATH:
        raise RequestError(f"The name {text[:40]}… is too long: give a shorter one.")
    return Path(text)


def is_sequence(path: Path) -> bool:
    """Whether a path names numbered pictures: by a pattern, or by their folder."""
    return image_sequence.is_pattern(path) or path.is_dir()


def existing(path: FilePath, *, pictures: bool = False) -> Path:
    """A file that has to be there, refused otherwise; ``pictures``: also a pattern or a folder of numbered ones."""
    whole = path_of(path)
    if pictures and is_sequence(whole):
        return whole
    try:
        there = whole.exists()
    except (OSError, ValueError):
        there = False
    if not there:
        raise MissingFile(f"{whole} is not there: check the name and the folder.")
    if whole.is_dir():
        raise RequestError(f"{whole} is a folder: name a file.")
    return whole
