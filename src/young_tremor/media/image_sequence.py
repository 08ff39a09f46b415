"""Numbered pictures as footage: named by a pattern, by their folder, or by any one of them."""

from __future__ import annotations

import math
import os
import re
import time
from collections import OrderedDict
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from cachetools import LRUCache

from young_tremor.base.errors import DecodeError, MissingFile, RequestError, WorkError, from_os
from young_tremor.base.frames import Frame, FrameSource, SourceInfo

RATE = Fraction(24)  # unless another is said
KINDS = (".png", ".jpg", ".jpeg", ".tif", ".tiff", ".webp", ".exr", ".bmp", ".tga", ".dpx", ".jp2")
FEWEST = 2  # numbered files that make a sequence of one of them
MOST = 1_000_000  # from the first number to the last
LOOK_EVERY = 0.5  # seconds
KEEP = 3  # pictures kept for going back a step
_HASHES, _PERCENT = re.compile(r"#+"), re.compile(r"%0?(\d*)d")
_NUMBERED = re.compile(r"^(.*?)(\d+)(\.[A-Za-z0-9]+)$")


@dataclass(frozen=True)
class Sequence:
    """``pattern``: its absolute path with # for every digit of the number. ``files``: by number from the first on, the
    last one before it where one is missing. ``missing``: how many are."""

    pattern: str
    files: tuple[str, ...]
    first: int
    missing: tuple[int, ...]

    @property
    def stamp(self) -> tuple[int, ...]:
        """The state of all of it: how many files, their bytes, and the last change to any."""
        size, changed = 0, 0
        for name in dict.fromkeys(self.files):
            found = os.stat(name)
            size, changed = size + found.st_size, max(changed, found.st_mtime_ns)
        return (len(self.files), len(self.missing), size, changed)


def is_pattern(path: Path | str) -> bool:
    """Whether a path names numbered pictures by a pattern: ``name.####.exr`` or ``name.%04d.exr``."""
    name = os.path.basename(os.fspath(path))
    return bool(_HASHES.search(name) or _PERCENT.search(name)) and not os.path.exists(path)


def pattern_of(path: Path | str) -> str | None:
    """The pattern of the numbered pictures that a path names: a pattern itself, their folder, or one of them.

    None where it names no sequence. RequestError for a folder that holds none, or more than one.
    """
    text = os.path.abspath(path)
    if is_pattern(text):
        head, name = os.path.split(text)
        found_match = _PERCENT.search(name)
        if found_match:
            name = f"{name[: found_match.start()]}{'#' * int(found_match[1] or 1)}{name[found_match.end() :]}"
        return os.path.join(head, name)
    if os.path.isdir(text):
        kinds = {name: numbers for name, numbers in _numbers_by_pattern(text).items() if len(numbers) >= FEWEST}
        if not kinds:
            raise RequestError(f"{text} is a folder without numbered pictures: name a file, or a folder of a sequence.")
        if len(kinds) > 1:
            names = ", ".join(sorted(kinds)[:4])
            raise RequestError(f"{text} holds more than one sequence ({names}): name one of them.")
        return os.path.join(text, next(iter(kinds)))
    match = _NUMBERED.match(os.path.basename(text))
    if match is None or match[3].lower() not in KINDS:
        return None
    folder = os.path.dirname(text)
    name = f"{match[1]}{'#' * len(match[2])}{match[3]}"
    return os.path.join(folder, name) if len(_numbers_by_pattern(folder).get(name, ())) >= FEWEST else None


def _numbers_by_pattern(folder: str) -> dict[str, list[int]]:
    """The numbers of the numbered pictures of a folder, by their patterns."""
    out: dict[str, list[int]] = {}
    try:
        names = os.listdir(folder)
    except OSError as error:
        raise from_os(error, folder, "read") from error
    for name in names:
        match = _NUMBERED.match(name)
        if match is not None and match[3].lower() in KINDS:
            out.setdefault(f"{match[1]}{'#' * len(match[2])}{match[3]}", []).append(int(match[2]))
    return out


def find(pattern: str) -> Sequence:
    """The pictures of a pattern as they are now. MissingFile where there is none."""
    folder, name = os.path.split(pattern)
    found_match = _HASHES.search(name)
    assert found_match is not None
    head, wide, tail = name[: found_match.start()], found_match.end() - found_match.start(), name[found_match.end() :]
    fits = re.compile(f"^{re.escape(head)}(\\d{{{wide},}}){re.escape(tail)}$")
    numbers: dict[int, str] = {}
    try:
        names = os.listdir(folder)
    except OSError as error:
        if not os.path.isdir(folder):
            raise MissingFile(f"{folder} is not there: check the name and the folder.") from error
        raise from_os(error, folder, "read") from error
    for text in names:
        match = fits.match(text)
        if match is not None and (len(match[1]) == wide or not match[1].startswith("0")):
            numbers[int(match[1])] = os.path.join(folder, text)
    if not numbers:
        raise MissingFile(f"{pattern} is not there: no picture has such a name.")
    first, last = min(numbers), max(numbers)
    if last - first >= MOST:
        raise RequestError(
            f"{name} runs from {first} to {last}: more than a million numbers; put other files elsewhere."
        )
    files, missing, shown = [], [], numbers[first]
    for number in range(first, last + 1):
        shown = numbers.get(number, shown)
        files.append(shown)
        if number not in numbers:
            missing.append(number)
    return Sequence(pattern, tuple(files), first, tuple(missing))


def gaps(sequence: Sequence) -> str:
    """What is missing, in words; empty if nothing is."""
    count = len(sequence.missing)
    if not count:
        return ""
    named = ", ".join(map(str, sequence.missing[:3]))
    more = f" and {count - 3} more" if count > 3 else ""
    are = "picture is" if count == 1 else "pictures are"
    return f"{count} {are} missing (number {named}{more}): the one before is held"


_states: LRUCache[str, tuple[float, Sequence, tuple[int, ...]]] = LRUCache(64)


def state(pattern: str) -> tuple[int, ...]:
    """The state of a sequence, looked at no more than twice a second: there may be thousands of files."""
    now, known = time.monotonic(), _states.get(pattern)
    if known is None or now - known[0] > LOOK_EVERY:
        sequence = find(pattern)
        known = _states[pattern] = now, sequence, sequence.stamp
    return known[2]


class SequenceReader:
    """A :class:`~young_tremor.base.frames.FrameSource` on numbered pictures. One thread at a time.

    ``open_one`` opens a picture by its path; ``info`` is that of the whole.
    """

    def __init__(self, sequence: Sequence, info: SourceInfo, open_one: Callable[[str], FrameSource]) -> None:
        self._sequence, self._info, self._open = sequence, info, open_one
        self._recent: OrderedDict[str, Frame] = OrderedDict()

    @property
    def info(self) -> SourceInfo:
        return self._info

    def read(self, index: int) -> Frame:
        """Picture ``index``, held at both ends. DecodeError where it is damaged, WorkError where it is of another size
        or kind than the first, or gone."""
        files = self._sequence.files
        name = files[min(max(index, 0), len(files) - 1)]
        if name in self._recent:
            self._recent.move_to_end(name)
            return self._recent[name]
        frame = self._read(name)
        self._recent[name] = frame
        while len(self._recent) > KEEP:
            self._recent.popitem(last=False)
        return frame

    def _read(self, name: str) -> Frame:
        short = os.path.basename(name)
        try:
            reader: FrameSource = self._open(name)
        except MissingFile as error:
            raise WorkError(f"{short} is not there any more: bring it back and try again.") from error
        try:
            frame, info = reader.read(0), reader.info
        finally:
            reader.close()
        if info.size != self._info.size:
            have, want = (f"{item[0]}x{item[1]}" for item in (info.size, self._info.size))
            raise DecodeError(f"{short} is {have}, the first picture of its sequence {want}: make them alike.")
        if info.format != self._info.format:
            raise DecodeError(
                f"{short} is of the kind {info.format.name}, the first picture of its sequence of "
                f"{self._info.format.name}: make them alike."
            )
        return frame

    def pictures(self, start: float = 0.0, end: float | None = None) -> Iterator[tuple[float, Frame]]:
        """Pictures in order with their times in seconds, the first one not before ``start``, none from ``end`` on."""
        rate = float(self._info.rate)
        for index in range(math.ceil(start * rate - 1e-6), len(self._sequence.files)):
            if end is not None and index / rate >= end - 1e-6:
                return
            yield index / rate, self.read(index)

    def close(self) -> None:
        self._recent.clear()
