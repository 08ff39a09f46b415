"""All that is heard, added up: sample k is the same whoever asks for it, wherever playing began."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import Protocol

import numpy as np

from young_tremor.model.curve import Curve
from young_tremor.model.sound import Rumble, SoundSway
from young_tremor.sound import limiter, rumble
from young_tremor.sound.camera_speed import CameraSpeed

RATE = 48000
BLOCK = limiter.BLOCK
FINE = 48  # samples between two values of a gain
CENTRE = Curve(0.0)
SILENT = -100.0  # dB at and below which nothing is heard
ATTACK, RELEASE = 0.02, 0.1  # seconds in which the sway notices that the camera moves, or rests
RESTS, MOVES = 0.02, 0.25  # of the usual speed: below it rests, above it moves
PLACE = 2.0  # times the usual way to the side at which the balance is all of what it may be

_SHARES = np.arange(FINE) / FINE
Reader = Callable[[int], Iterator[np.ndarray]]


class MixRow(Protocol):
    """A sound of the mix. ``name``: of its stem."""

    name: str

    def samples(self, first: int, count: int) -> np.ndarray: ...


@dataclass(frozen=True)
class LevelCurve:
    """A level in dB over time, what comes and goes besides, ``more`` (seconds (n,) → factors), and the ``place``
    between left (−1) and right (1), by which the other side gets quieter."""

    curve: Curve
    more: Callable[[np.ndarray], np.ndarray] | None = None
    place: Curve = CENTRE

    def over(self, first: int, count: int) -> np.ndarray | float:
        """The factor of each sample, (count, 1) or (count, 2) for both sides, or one for all."""
        level: np.ndarray | float = loud(self.curve.value)
        if not self.curve.constant or self.more is not None:
            level = _fine(first, count, self._at)[:, None]
        return level if self.place == CENTRE else level * sides(_fine(first, count, self.place.at))

    def _at(self, t: np.ndarray) -> np.ndarray:
        values = np.array([loud(v) for v in self.curve.at(t).tolist()])
        return values if self.more is None else values * self.more(t)


def sides(place: np.ndarray) -> np.ndarray:
    """The factors of left and right, (n, 2), at places (n,) of −1 … 1: the nearer side stays as it is."""
    return np.column_stack([np.clip(1 - place, 0.0, 1.0), np.clip(1 + place, 0.0, 1.0)])


def loud(db: float) -> float:
    """A level in dB as a factor."""
    return 0.0 if db <= SILENT else 10.0 ** (db / 20)


def _fine(first: int, count: int, work: Callable[[np.ndarray], np.ndarray]) -> np.ndarray:
    """Values (count,) worked out every so many samples of the fixed grid, and drawn between."""
    low, high = first // FINE, -(-(first + count) // FINE)
    values = work(np.arange(low, high + 1) * FINE / RATE)
    drawn = values[:-1, None] + np.diff(values)[:, None] * _SHARES
    return drawn.ravel()[first - low * FINE :][:count]


@dataclass
class RumbleRow:
    """Low noise; ``shift``: samples that its own time is ahead of the shot's."""

    name: str
    sound: Rumble
    level: LevelCurve
    course: CameraSpeed
    shift: int = 0

    def samples(self, first: int, count: int) -> np.ndarray:
        """Samples from ``first`` on: (count, 2) float64."""
        row = self.sound
        made = rumble.samples(row, first + self.shift, count) * self.level.over(first, count)
        if row.follow == "nothing":
            return np.asarray(made)
        size = _fine(
            first,
            count,
            lambda t: rumble.gain(self.course.followed(t, row.follow, row.attack, row.release), row.follow),
        )
        return np.asarray(made * size[:, None])


@dataclass
class KnocksRow:
    """Sounds at moments: ``struck`` says for each at which sample it begins and how to make it."""

    name: str
    level: LevelCurve
    struck: Sequence[tuple[int, Callable[[], tuple[np.ndarray, float]]]]
    longest: int  # samples that one may last

    def samples(self, first: int, count: int) -> np.ndarray:
        """Samples from ``first`` on: (count, 2) float64."""
        out = np.zeros((count, 2))
        for at, make in self.struck:
            if not first - self.longest < at < first + count:
                continue
            sound, factor = make()
            begin, end = max(at, first), min(at + len(sound), first + count)
            if begin < end:
                out[begin - first : end - first] += factor * sound[begin - at : end - at]
        return out * self.level.over(first, count)


@dataclass
class ReadRow:
    """What comes from a file: the footage's own sound, or a layer. Read on from where it was, or anew."""

    name: str
    level: LevelCurve
    read: Reader
    _blocks: Iterator[np.ndarray] | None = field(default=None, repr=False)
    _next: int = 0
    _rest: np.ndarray = field(default_factory=lambda: np.zeros((0, 2)), repr=False)

    def samples(self, first: int, count: int) -> np.ndarray:
        """Samples from ``first`` on: (count, 2) float64."""
        if first < 0:
            later = self.samples(0, max(first + count, 0)) if first + count > 0 else np.zeros((0, 2))
            return np.concatenate([np.zeros((count - len(later), 2)), later])
        if self._blocks is None or first != self._next:
            self.close()
            self._blocks, self._rest = self.read(first), np.zeros((0, 2))
        parts, there = [self._rest], len(self._rest)
        while there < count and (block := next(self._blocks, None)) is not None:
            parts.append(np.asarray(block, np.float64))
            there += len(block)
        values = np.concatenate(parts)
        out = np.zeros((count, 2))
        out[: len(values)] = values[:count]
        self._rest, self._next = values[count:], first + count
        return out * self.level.over(first, count)

    def close(self) -> None:
        """Let the file go."""
        close = getattr(self._blocks, "close", None)
        if close is not None:
            close()
        self._blocks = None


@dataclass
class MixSway:
    """Level and balance that follow the shake; worked out against what is usual in the shot, and nothing at rest."""

    sound: SoundSway
    course: CameraSpeed
    usual: float
    side: float

    def over(self, first: int, count: int) -> np.ndarray:
        """The factors of both sides, (count, 2)."""
        up = _fine(first, count, self._level)
        place = np.clip(_fine(first, count, self._place) / max(PLACE * self.side, 1e-9), -1, 1)
        lean = self.sound.balance * place
        return np.asarray(up[:, None] * sides(lean))

    def _level(self, t: np.ndarray) -> np.ndarray:
        speed = self.course.speed(t)
        size = self._motion(t) * (2 * speed / (speed + max(self.usual, 1e-9)) - 1)
        return np.asarray(10.0 ** (self.sound.level * size / 20))

    def _place(self, t: np.ndarray) -> np.ndarray:
        return self._motion(t) * self.course.place(t)

    def _motion(self, t: np.ndarray) -> np.ndarray:
        """Whether the camera moves, 0…1: exactly 0 where it rests, so that stillness has the source's own sound."""
        if self.usual <= 1e-9:
            return np.zeros(len(t))
        share = self.course.followed(t, "speed", ATTACK, RELEASE) / self.usual
        return np.clip((share - RESTS) / (MOVES - RESTS), 0.0, 1.0)


class FinishedBlocks(Protocol):
    """Blocks of a mix that are finished, by their number: (BLOCK, 2) float32, and the least factor of the limiter."""

    def get(self, number: int) -> tuple[np.ndarray, float] | None: ...

    def put(self, number: int, block: np.ndarray, least: float) -> None: ...


class Mixer:
    """The mix of a shot. For one thread.

    ``footage`` is among the ``rows``; ``sway`` acts on it alone or on everything. ``gain``: a factor before the
    limiter, for a wanted loudness. ``count``: samples that there are. ``finished``: where blocks of this very mix are
    kept.
    """

    def __init__(
        self,
        rows: tuple[MixRow, ...],
        count: int,
        *,
        footage: MixRow | None = None,
        sway: MixSway | None = None,
        limit: bool = True,
        gain: float = 1.0,
        finished: FinishedBlocks | None = None,
    ) -> None:
        self._finished = finished
        self._sums: dict[int, np.ndarray] = {}  # by block: the last three before the limiter
        self.rows, self.count, self.footage, self.sway, self.limit, self.gain = rows, count, footage, sway, limit, gain
        self.reduced: dict[int, float] = {}  # by block: the least factor of the limiter

    def dry(self, first: int, count: int) -> np.ndarray:
        """The sum before the limiter: (count, 2) float64; silence before the beginning and after the end."""
        out = np.zeros((count, 2))
        sway = self.sway.over(first, count) if self.sway is not None else None
        for row in self.rows:
            values = row.samples(first, count)
            if sway is not None and row is self.footage and not self.sway.sound.whole:  # type: ignore[union-attr]
                values = values * sway
            out += values
        if sway is not None and self.sway is not None and self.sway.sound.whole:
            out *= sway
        out *= self.gain
        if first < 0:
            out[: min(-first, count)] = 0
        if first + count > self.count:
            out[max(self.count - first, 0) :] = 0
        return out

    def blocks(self, first: int = 0) -> Iterator[np.ndarray]:
        """From sample ``first`` to the end, in blocks (n, 2) float32."""
        number = first // BLOCK
        while number * BLOCK < self.count:
            begin, end = max(first - number * BLOCK, 0), min(BLOCK, self.count - number * BLOCK)
            found = self._finished.get(number) if self._finished is not None else None
            if found is None:
                found = self._block(number)
                if self._finished is not None:
                    self._finished.put(number, *found)
            block, self.reduced[number] = found
            yield block[begin:end].copy()
            number += 1

    def _block(self, number: int) -> tuple[np.ndarray, float]:
        """A block and the least factor of the limiter in it."""
        if not self.limit:
            return self.dry(number * BLOCK, BLOCK).astype(np.float32), 1.0
        near = range(number - 1, number + 2)
        self._sums = {k: self._sums[k] if k in self._sums else self.dry(k * BLOCK, BLOCK) for k in near}
        values, least = limiter.limit_block(*(self._sums[k] for k in near))
        return values.astype(np.float32), float(least)

    def stem(self, name: str) -> Iterator[np.ndarray]:
        """One row by itself, as it is in the mix but for the limiter, in blocks."""
        rows = tuple(row for row in self.rows if row.name == name)
        alone = Mixer(rows, self.count, footage=self.footage, sway=self.sway, limit=False, gain=self.gain)
        return alone.blocks()

    def close(self) -> None:
        """Let the files go."""
        for row in self.rows:
            close = getattr(row, "close", None)
            if close is not None:
                close()
