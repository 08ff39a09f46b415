"""The way of the picture through a clip: every frame against a key picture, key pictures linked to each other."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

import cv2
import numpy as np
import scipy

from young_tremor.measure import track
from young_tremor.measure.track import Found, Key, Picture, Similarity

WIDEST = 1400  # pixels across above which the working picture is halved
LOWEST_OVERLAP = 0.62  # below it a new key picture is taken
LOWEST_COUNT = 0.45  # of the patches a key had at first
KEYS = 48  # key pictures kept to come back to
PATIENCE = 5  # frames after which another key picture is tried again
LOST = 12  # frames in a row that fit nothing before a cut is thought of
SURE = 0.25  # pixels of the footage at which confidence has fallen to a half
RIVAL = 0.85  # of two things that move, the smaller one's size from which it is not told which is the scene
DOUBTFUL = 0.5  # confidence below it is bridged
Boxes = tuple[tuple[float, float, float, float], ...]
Progress = Callable[[int, np.ndarray], None]


@dataclass(frozen=True)
class Prepared:
    """A frame made ready to be measured: its working picture, and how many times smaller that is."""

    factor: int
    picture: Picture


def prepare(luma: np.ndarray) -> Prepared:
    """Make a frame's luma (rows, columns) uint8, in square pixels, ready; for any thread."""
    factor = 1
    while luma.shape[1] > WIDEST:
        luma = cv2.pyrDown(luma)  # its pixel k lies on pixel 2k
        factor *= 2
    return Prepared(factor, track.ready(luma))


@dataclass(frozen=True)
class Path:
    """What a clip's picture did, against its first frame and about its centre.

    ``t`` (n,) seconds from the first frame; ``values`` (n, 4): x, y in pixels of the footage (right, down), turn in
    degrees (clockwise), scale; ``confidence`` (n,) 0…1, bridged where below :data:`DOUBTFUL`. ``cut``: the frame with
    which another shot begins, if the clip was longer; ``still``: nothing moves; ``keys``: key pictures used.
    """

    t: np.ndarray
    values: np.ndarray
    confidence: np.ndarray
    cut: int | None
    still: bool
    keys: int

    @property
    def doubtful(self) -> np.ndarray:
        """Frames that were bridged, (n,) bool."""
        return self.confidence < DOUBTFUL


class TooLittle(Exception):
    """The clip cannot be measured; the words say why."""


def measure(frames: Iterable[tuple[float, Prepared]], shields: Boxes = (), progress: Progress | None = None) -> Path:
    """Measure a clip.

    Parameters
    ----------
    frames : iterable of (seconds, Prepared)
        In order, from :func:`prepare`, all of one size.
    shields : tuple of (x, y, width, height)
        Parts of the frame that are not looked at, in pixels of the footage.
    progress : callable (frames so far, values of the newest (4,)), optional
        Called after every frame; may raise to stop.

    Raises
    ------
    TooLittle
        No picture, one frame, too little texture, or nothing that moves as one.
    """
    walk = _Walk(shields)
    times: list[float] = []
    for t, frame in frames:
        times.append(t)
        walk.step(frame)
        if progress is not None:
            progress(len(times), walk.newest())
        if walk.over:
            break
    return walk.path(np.array(times))


def _sure(rival: float) -> float:
    """How far it is told which of two things that move is the scene: 1 while the other is much the smaller one."""
    return float(np.clip((RIVAL - rival) / 0.3, 0.0, 1.0))


class _Walk:
    """Frame after frame. Matrices take the first frame's points to those of the present one, in working pixels."""

    def __init__(self, shields: Boxes) -> None:
        self._full_shields = shields
        self._factor = 0
        self._keys: list[tuple[Key, Similarity]] = []
        self._used = 1
        self._now = 0
        self._matrices: list[Similarity] = []
        self._errors: list[float] = []
        self._shares: list[float] = []
        self._sures: list[float] = []
        self._last: Picture | None = None
        self._lost = self._wait = 0
        self.cut: int | None = None
        self._centre = np.zeros(2)

    @property
    def over(self) -> bool:
        return self.cut is not None

    def newest(self) -> np.ndarray:
        """Where the picture is now: (4,) as in :class:`Path`."""
        return np.asarray(self._values(self._matrices[-1:])[0])

    def step(self, frame: Prepared) -> None:
        """Take the next frame."""
        if not self._factor:
            self._factor = frame.factor
            self.shields = tuple(
                (x / frame.factor, y / frame.factor, w / frame.factor, h / frame.factor)
                for x, y, w, h in self._full_shields
            )
        picture = frame.picture
        if not self._keys:
            self._begin(picture)
            return
        key, base = self._keys[self._now]
        guess = self._guess()
        found = track.find(key, picture, guess @ np.linalg.inv(base), self.shields)
        if not self._good(found):
            found = self._elsewhere(picture, guess) or found
        if found is None or not self._good(found):
            self._miss(picture, found)
            return
        key, base = self._keys[self._now]
        self._lost = 0
        self._put(found.matrix @ base, found.error, found.share, _sure(found.rival))
        self._last = picture
        self._wait -= 1
        if (found.overlap < LOWEST_OVERLAP or found.count < LOWEST_COUNT * len(key.points)) and self._wait < 0:
            self._wait = PATIENCE
            self._re_anchor(picture, found)

    def _begin(self, picture: Picture) -> None:
        key = track.key(picture, self.shields)
        if key is None or len(key.points) < 3 * track.FEW:
            raise TooLittle("has too little texture to measure: film something with detail all over, a shelf or gravel")
        self._keys.append((key, np.eye(3)))
        self._centre = key.centre
        self._put(np.eye(3), 0.0, 1.0)
        self._last = picture

    def _put(self, matrix: Similarity, error: float, share: float, sure: float = 1.0) -> None:
        self._matrices.append(matrix)
        self._errors.append(error)
        self._shares.append(share)
        self._sures.append(sure)

    def _guess(self) -> Similarity:
        """Where the picture will be if it goes on as it went."""
        last = self._matrices[-1]
        if len(self._matrices) < 2 or self._lost:
            return last
        return last @ np.linalg.inv(self._matrices[-2]) @ last

    def _good(self, found: Found | None) -> bool:
        return found is not None and found.share > 0.15 and found.error * self._factor < 2.0

    def _elsewhere(self, picture: Picture, guess: Similarity) -> Found | None:
        """Look from where it last was, and from the other key pictures that should show."""
        key, base = self._keys[self._now]
        found = track.find(key, picture, self._matrices[-1] @ np.linalg.inv(base), self.shields)
        if self._good(found):
            return found
        for number, (other, its) in enumerate(self._keys):
            if number != self._now and track.overlap(guess @ np.linalg.inv(its), other.size) > 0.5:
                found = track.find(other, picture, guess @ np.linalg.inv(its), self.shields)
                if self._good(found):
                    self._now = number
                    return found
        return None

    def _miss(self, picture: Picture, found: Found | None) -> None:
        """A frame that fits nothing: held for now, to be bridged; many in a row are another shot."""
        self._lost += 1
        self._put(self._matrices[-1], np.inf, found.share if found else 0.0)
        if self._lost >= LOST:
            self.cut = len(self._matrices) - self._lost

    def _re_anchor(self, picture: Picture, found: Found) -> None:
        """Go on from a key picture that shows more: an earlier one that comes back, or this frame."""
        now = self._matrices[-1]
        best, most = None, found.overlap + 0.1
        for number, (other, base) in enumerate(self._keys):
            shown = track.overlap(now @ np.linalg.inv(base), other.size) if number != self._now else 0.0
            if shown > most:
                best, most = number, shown
        if best is not None:
            other, base = self._keys[best]
            again = track.find(other, picture, now @ np.linalg.inv(base), self.shields)
            if self._good(again) and again is not None and again.count >= 0.8 * found.count:
                self._now = best
                return
        fresh = track.key(picture, self.shields)
        if fresh is None or len(fresh.points) < 1.2 * found.count:
            return
        key, base = self._keys[self._now]
        # measured the other way round too: the old key picture in the new one's patches
        back = track.find(fresh, key.picture, np.linalg.inv(found.matrix), self.shields)
        link = found.matrix
        if back is not None and self._good(back):
            there = track.parameters(found.matrix, self._centre)
            other_way = track.parameters(np.linalg.inv(back.matrix), self._centre)
            if np.abs(there[:2] - other_way[:2]).max() < 1.0:
                link = track.similarity((there + other_way) / 2, self._centre)
        self._keys.append((fresh, link @ base))
        self._used += 1
        if len(self._keys) > KEYS:
            self._keys.pop(1)
        self._now = len(self._keys) - 1
        self._matrices[-1] = link @ base

    def _values(self, matrices: list[Similarity]) -> np.ndarray:
        """Numbers about the frame's centre, in pixels of the footage."""
        offset = (self._factor - 1) / 2  # pixel 0 of the working picture lies on pixel 0: its centre is not the frame's
        centre = self._centre + offset / self._factor
        rows = np.array([track.parameters(matrix, centre) for matrix in matrices])
        return np.column_stack([rows[:, :2] * self._factor, np.degrees(rows[:, 2]), np.exp(rows[:, 3])])

    def path(self, times: np.ndarray) -> Path:
        """What was found, doubtful stretches bridged."""
        end = self.cut if self.cut is not None else len(self._matrices)
        if end < 2:
            raise TooLittle("has only one frame to measure: choose a longer clip")
        t = times[:end] - times[0]
        values = self._values(self._matrices[:end])
        values[:, 2] = np.degrees(np.unwrap(np.radians(values[:, 2])))
        errors = np.array(self._errors[:end]) * self._factor
        share = np.clip((np.array(self._shares[:end]) - 0.12) / 0.18, 0.0, 1.0)
        share *= np.array(self._sures[:end])
        confidence = np.where(np.isfinite(errors), share / (1 + (np.minimum(errors, 1e3) / SURE) ** 2), 0.0)
        good = confidence >= DOUBTFUL
        if good.sum() < max(2, 0.35 * end):
            raise TooLittle(
                "shows nothing that moves as one for long, or two things of one size: film something that stands still "
                "all over the frame, or shield what moves by itself"
            )
        if not good.all():
            for column in range(4):
                bridge = scipy.interpolate.PchipInterpolator(t[good], values[good, column], extrapolate=False)
                ends = np.clip(t[~good], t[good][0], t[good][-1])
                values[~good, column] = bridge(ends)
        values -= values[0] * (1, 1, 1, 0)
        values[:, 3] /= values[0, 3]
        still = bool(np.abs(values[:, :2]).max() < 0.02 and np.abs(values[:, 2]).max() < 2e-3)
        return Path(t, values, confidence, self.cut, still, self._used)
