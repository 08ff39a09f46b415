"""From frame to frame: each layer against a key picture, key pictures linked to each other, the lost found again."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, field
from typing import Any, TypeGuard

import cv2
import numpy as np

from young_tremor.measure import alignment, layers
from young_tremor.measure.alignment import AlignedPicture, Alignment, KeyPicture, Shields, Similarity
from young_tremor.measure.layers import Guesses, Jury, Pair, SecondLayer

LOWEST_OVERLAP = 0.62  # below it a new key picture is taken
LOWEST_COUNT = 0.45  # of the patches a key had at most
KEYS = 48  # key pictures kept to come back to, fewer where each has more patches
PATIENCE = 5  # frames after which another key picture is tried again
LOST = 12  # frames in a row that fit nothing before a cut is thought of
SURE, GONE = 36, 240  # such frames after which a cut is decided on, and after which nothing is waited for any more
ABRUPT, RECENT = 2.0, 4  # times the largest change of so many frames before that a cut makes, at least
COHERENT = 0.3  # share of patches by which frames behind a cut fit each other, at least
LOOK_AGAIN = 4  # frames after which something that is lost for long is looked for again
FARTHER = 6  # key pictures that are then compared as wholes, wherever they may be
MORE = 1.2  # times as many patches by which one of them is gone on from
STRAY = 0.05  # of the width that something may be off when it is found again, if it is lost again at once
PROVED = 7  # frames in which a second layer has to show itself
BEHIND = 24  # frames that are measured once more when a second layer is noticed
ALL_OVER = 0.8  # reach of a layer from which nothing else is in the picture
RIVAL = 0.6  # of the reach of the first, from which the second layer has a say in key pictures
FAINT = 0.04  # pixels of error from which more patches are looked at
MANY = 3  # times as many
MARKS = 60  # places of a layer that are kept of each frame
BOTH = (0, 1)
Seen = tuple[float, float, np.ndarray, tuple[int, np.ndarray], float]  # error, reach, marks, bend, contrast
NOTHING = np.full(10, np.nan)  # known of a bend
UNSEEN: Seen = (np.inf, 0.0, np.zeros((0, 2)), (0, NOTHING), np.nan)


class TooLittleMotion(Exception):
    """The clip cannot be measured; the words say why."""


@dataclass
class LayerWay:
    """What a layer did: matrices take the first frame's points to those of each frame, in working pixels.

    ``errors`` are infinite where it was not found; ``reaches``: see :func:`layers.reach`; ``bent``: against which frame
    each is bent, and how much, see :class:`alignment.Alignment`; ``contrasts``: against its key picture's; ``began``:
    the frame it was noticed; ``lost``: for how many frames; ``regained``: in the newest frame, after so many;
    ``entered``: the first frame of one that came into the picture.
    """

    matrices: list[Similarity] = field(default_factory=list)
    errors: list[float] = field(default_factory=list)
    reaches: list[float] = field(default_factory=list)
    marks: list[np.ndarray] = field(default_factory=list)
    bent: list[tuple[int, np.ndarray]] = field(default_factory=list)
    contrasts: list[float] = field(default_factory=list)
    began: int = 0
    lost: int = 0
    regained: int = 0
    entered: int = 0

    def guess(self) -> Similarity:
        """Where it will be if it goes on as it went."""
        last = self.matrices[-1]
        if len(self.matrices) < 2 or self.lost:
            return last
        return last @ np.linalg.inv(self.matrices[-2]) @ last

    def put(self, matrix: Similarity, seen: Seen) -> None:
        """Add a frame: its matrix, and what was seen of it."""
        for values, value in zip(self._lists(), (matrix, *seen), strict=True):
            values.append(value)

    def set(self, frame: int, matrix: Similarity, seen: Seen) -> None:
        """Set a frame that was measured again."""
        for values, value in zip(self._lists(), (matrix, *seen), strict=True):
            values[frame] = value

    def copy(self, began: int) -> LayerWay:
        """A copy that can be changed by itself."""
        out = LayerWay(began=began)
        for values, own in zip(self._lists(), out._lists(), strict=True):
            own.extend(values)
        return out

    def _lists(self) -> tuple[list[Any], ...]:
        return self.matrices, self.errors, self.reaches, self.marks, self.bent, self.contrasts


@dataclass
class Anchor:
    """A key picture, the frame it is of, and where each layer was in it: ``bases``, ``errors`` of these, ``most``
    patches seen since."""

    key: KeyPicture
    frame: int
    bases: list[Similarity | None]
    errors: list[float]
    most: list[int] = field(default_factory=lambda: [0, 0])


class Walk:
    """Takes frame after frame, then :meth:`finish`. ``ways``: of the layers; ``cut``: the frame at which another shot
    began; ``changes``: mean difference of each frame's picture to the one before."""

    def __init__(self, shields: Shields) -> None:
        self._shields = shields
        self._anchors: list[Anchor] = []
        self._now = self._wait = 0
        self._slots: list[LayerWay | None] = [LayerWay(), None]
        self._recent: deque[tuple[int, AlignedPicture]] = deque(maxlen=BEHIND)
        self._newest: deque[AlignedPicture] = deque(maxlen=2)
        self.changes: list[float] = []
        self._cells = alignment.CELLS
        self.used = 1
        self.count = 0
        self.cut: int | None = None
        self.centre = np.zeros(2)

    @property
    def ways(self) -> tuple[LayerWay, ...]:
        """The ways of the layers, the scene first."""
        return tuple(way for way in self._slots if way is not None)

    def newest(self) -> Similarity:
        """Where the picture is now, the layer that reaches furthest taken for it."""
        return max(self.ways, key=_standing).matrices[-1]

    def step(self, picture: AlignedPicture) -> None:
        """Take the next frame."""
        self.count += 1
        self._newest.append(picture)
        self.changes.append(float(cv2.absdiff(picture.small, self._newest[0].small).mean()))
        if not self._anchors:
            self._begin(picture)
            return
        found, where, second = self._find(picture)
        for number in BOTH:
            self._put(number, found[number], where[number])
            if (way := self._slots[number]) is not None and way.regained > PATIENCE and self._leads(number):
                self._choose_key(number, picture, found[number])
        if self.count == 2 and self._faint(found):
            self._look_closer()
            second = None  # its patches were those of the key picture before
        self._recent.append((self.count - 1, picture))
        if not any(found):
            lost = self._lost
            if lost >= GONE or (lost == SURE and self._is_cut()):
                self.cut = self.count - lost
            return
        if second is not None:
            self._split(second, found)
        self._prove()
        self._wait -= 1
        now = self._anchors[self._now]
        here = found[0] if where[0] is now else None, found[1] if where[1] is now else None
        if self._wait < 0 and not self._proving and self._short(here):
            self._wait = PATIENCE
            self._re_anchor(picture, here)

    def finish(self) -> None:
        """Say that there are no more frames."""
        if self.cut is None and self._lost >= LOST and self._is_cut():
            self.cut = self.count - self._lost

    @property
    def _lost(self) -> int:
        """For how many frames nothing was found."""
        return min((way.lost for way in self.ways), default=0)

    def _is_cut(self) -> bool:
        """Whether what was lost gave way to another shot: at once, and to frames that fit each other. What passes in
        front of the camera, a flash or water are lost stretches of the same shot."""
        first = self.count - self._lost
        before = max(self.changes[max(first - RECENT, 1) : first], default=0.0)
        return self.changes[first] > ABRUPT * before and self._is_coherent()

    def _is_coherent(self) -> bool:
        """Whether the newest frame shows what the one before shows."""
        before, picture = self._newest
        key = alignment.key(before, self._shields)
        if key is None:
            return False
        found = layers.seek(key, picture, (np.eye(3), None), self._shields)[0][0]
        return found is not None and _good(found) and found.share > COHERENT

    def _begin(self, picture: AlignedPicture) -> None:
        key = alignment.key(picture, self._shields)
        if key is None or len(key.points) < 3 * alignment.FEW:
            raise TooLittleMotion(
                "has too little texture to measure: film something with detail all over, a shelf or gravel"
            )
        self._anchors.append(Anchor(key, 0, [np.eye(3), None], [0.0, 0.0]))
        self.centre = key.centre
        first = self._slots[0]
        assert first is not None
        first.put(np.eye(3), (0.0, 1.0, _some_places(key.points), (0, NOTHING), 1.0))

    def _faint(self, found: Pair) -> bool:
        return found[0] is not None and found[0].error > FAINT and found[0].share > layers.MIXED

    def _look_closer(self) -> None:
        """Many patches instead of some, where each says little: low contrast, noise."""
        self._cells = MANY * alignment.CELLS
        key = alignment.key(self._anchors[0].key.picture, self._shields, self._cells)
        if key is not None:
            self._anchors[0].key = key

    def _guesses(self, anchor: Anchor, *, last: bool = False, only: int | None = None) -> Guesses:
        """Where the layers should be in the next picture, from the key picture of an anchor."""
        out: list[Similarity | None] = [None, None]
        for number, way in enumerate(self._slots):
            base = anchor.bases[number]
            if way is None or base is None or only not in (None, number) or (only is None and way.lost >= LOST):
                continue
            out[number] = (way.matrices[-1] if last else way.guess()) @ np.linalg.inv(base)
        return out[0], out[1]

    def _find(self, picture: AlignedPicture) -> tuple[Pair, list[Anchor], SecondLayer | None]:
        """The layers in a picture, and by which anchors they were found."""
        anchor = self._anchors[self._now]
        where = [anchor, anchor]
        found: list[Alignment | None] = [None, None]
        second = None
        for last in (False, True):
            guesses = self._guesses(anchor, last=last)
            wanted = [found[k] is None and guesses[k] is not None for k in BOTH]
            if not any(wanted):
                break
            key = alignment.relit(anchor.key, picture) if last else anchor.key
            pair, seen = layers.seek(key, picture, guesses, self._shields, jury=Jury.TRUSTED if last else Jury.ALL)
            second = seen or second
            for number in BOTH:
                if wanted[number] and _good(pair[number]):
                    found[number] = pair[number]
        if (strayed := _strayed(anchor.key, self._guesses(anchor), (found[0], found[1]))) is not None:
            found[strayed] = None
        for number, way in enumerate(self._slots):
            if way is None or found[number] is not None or (way.lost >= LOST and way.lost % LOOK_AGAIN):
                continue
            found[number], where[number] = self._elsewhere(number, picture)
        return (found[0], found[1]), where, second

    def _elsewhere(self, number: int, picture: AlignedPicture) -> tuple[Alignment | None, Anchor]:
        """Look for a layer from the other key pictures that should show it."""
        now = self._anchors[self._now]
        for place, anchor in enumerate(self._anchors):
            guess = self._guesses(anchor, last=True, only=number)[number]
            if guess is None or (anchor is now and not self._slots[number].lost >= LOST):  # type: ignore[union-attr]
                continue
            if alignment.overlap(guess, anchor.key.size) <= 0.5:
                continue
            pair: Guesses = (guess, None) if number == 0 else (None, guess)
            found_alignment = layers.seek(anchor.key, picture, pair, self._shields)[0][number]
            if _good(found_alignment) and not self._taken(number, found_alignment, anchor):
                return self._go_on_from(place, number, found_alignment)
        way = self._slots[number]
        if way is not None and way.lost and way.lost % LOOK_AGAIN == 0:
            return self._anywhere(number, picture)
        return None, now

    def _anywhere(self, number: int, picture: AlignedPicture) -> tuple[Alignment | None, Anchor]:
        """Look for a layer from the newest key pictures, wherever in the picture it is."""
        places = [place for place, anchor in enumerate(self._anchors) if anchor.bases[number] is not None]
        for place in places[: -FARTHER - 1 : -1]:
            anchor = self._anchors[place]
            guess = alignment.whole_shift(anchor.key.picture, picture)
            pair: Guesses = (guess, None) if number == 0 else (None, guess)
            match = layers.seek(anchor.key, picture, pair, self._shields, rate=0.0, jury=Jury.EVER)[0][number]
            if _good(match) and match.share > COHERENT and not self._taken(number, match, anchor):
                return self._go_on_from(place, number, match)
        return None, self._anchors[self._now]

    def _choose_key(self, number: int, picture: AlignedPicture, match: Alignment | None) -> None:
        """Go on from the key picture that shows most of a layer that was lost for a while: the newest may be of what
        passed in front of it."""
        most = match.count if match is not None else 0
        for place, anchor in reversed([*enumerate(self._anchors)][-FARTHER:]):
            guess = self._guesses(anchor, last=True, only=number)[number]
            if guess is None or place == self._now:
                continue
            pair: Guesses = (guess, None) if number == 0 else (None, guess)
            again = layers.seek(anchor.key, picture, pair, self._shields, rate=0.0, jury=Jury.EVER)[0][number]
            if _good(again) and again.count > MORE * most:
                most = again.count
                self._go_on_from(place, number, again)

    def _go_on_from(self, place: int, number: int, match: Alignment) -> tuple[Alignment, Anchor]:
        """Take the key picture at a place for the one to go on from, where a layer that leads was found by it."""
        if self._leads(number):
            self._now, self._recent = place, deque(maxlen=BEHIND)
        return match, self._anchors[place]

    def _taken(self, number: int, found: Alignment | None, anchor: Anchor) -> bool:
        """Whether what was found is the other layer."""
        way = self._slots[1 - number]
        base = anchor.bases[1 - number]
        if found is None or way is None or base is None or way.lost:
            return False
        away = alignment.apply(way.guess() @ np.linalg.inv(base), anchor.key.points) - found.places
        return bool(np.median(np.hypot(*away.T)[found.seen]) < 2 * layers.TELLING)

    def _leads(self, number: int) -> bool:
        other_way = self._slots[1 - number]
        way = self._slots[number]
        return way is not None and (other_way is None or other_way.lost > 0 or _standing(way) >= _standing(other_way))

    def _put(self, number: int, found: Alignment | None, anchor: Anchor) -> None:
        """Take what was found of a layer; held for now, to be bridged, where it was not."""
        way, base = self._slots[number], anchor.bases[number]
        if way is None:
            return
        if found is None or base is None:
            if way.regained and _shift(way.matrices[-1], way.matrices[-2]) > STRAY * anchor.key.size[0]:
                way.set(len(way.matrices) - 1, way.matrices[-2], UNSEEN)  # something else that looked like it
                way.lost = way.regained + 1
            way.lost, way.regained = way.lost + 1, 0
            way.put(way.matrices[-1], UNSEEN)
            return
        way.lost, way.regained = 0, way.lost
        anchor.most[number] = max(anchor.most[number], found.count)
        way.put(found.matrix @ base, self._seen(number, found, anchor))

    def _seen(self, number: int, found: Alignment, anchor: Anchor) -> Seen:
        """Error, reach, marks and bend of what was found."""
        whose = layers.mine(anchor.key, number, alone=anchor.bases[1 - number] is None)
        error = float(np.hypot(found.error, anchor.errors[number]))
        reach = layers.reach(layers.cells(found, whose, anchor.key.size))
        places = found.places[(found.agree > 0.25) & (whose > 0.4)]
        return error, reach, _some_places(places), (anchor.frame, found.bent), found.contrast

    def _split(self, second: SecondLayer, found: Pair) -> None:
        """Something else moves: from here on it is a layer, and the last frames are measured again with both."""
        first = 0 if found[0] is not None else 1
        way, rival = self._slots[first], self._slots[1 - first]
        if way is None or (rival is not None and rival.errors.count(np.inf) < 0.75 * (self.count - rival.began)):
            return
        anchor = self._anchors[self._now]
        new_way = self._slots[1 - first] = way.copy(self.count)
        for number, _ in self._recent:
            new_way.errors[number] = np.inf  # both were taken for one: until it is measured again
        for other_anchor in self._anchors:
            other_anchor.bases[1 - first] = other_anchor.bases[first] if other_anchor is anchor else None
        anchor.errors[1 - first], anchor.most[1 - first] = anchor.errors[first], 0
        layers.split(anchor.key, first, second)

    def _look_back(self) -> None:
        """Measure the last frames again with both layers, from the newest back to those in which they went together."""
        anchor = self._anchors[self._now]
        guess = list(self._guesses(anchor, last=True))
        for number, picture in reversed(self._recent):
            if not any(values is not None for values in guess):
                break
            pair, _ = layers.seek(anchor.key, picture, (guess[0], guess[1]), self._shields)
            for which, match in enumerate(pair):
                if match is not None and _good(match):
                    guess[which] = match.matrix
                    self._again(which, number, match, anchor)
        for which, way in enumerate(self._slots):
            if way is not None:
                self._note_entrance(which, way, anchor)

    def _note_entrance(self, number: int, way: LayerWay, anchor: Anchor) -> None:
        """Where a layer is in the key picture, and whether it was in the picture before it was noticed."""
        if anchor.frame < len(way.marks):
            mine = layers.mine(anchor.key, number, alone=False) > 0.4
            way.marks[anchor.frame] = _some_places(anchor.key.points[mine])
        before = [frame for frame, _ in self._recent if frame < way.began]
        if (before and np.isinf(way.errors[before[0]])) or self._was_covered(number, anchor):
            way.entered = next((frame for frame in before if np.isfinite(way.errors[frame])), way.began)
            for frame in range(way.entered):
                way.set(frame, way.matrices[frame], UNSEEN)

    def _was_covered(self, number: int, anchor: Anchor) -> bool:
        """Whether the other layer was all over an earlier key picture, with nothing of this one in front of it."""
        other, old = 1 - number, self._anchors[0]
        way, here, there = self._slots[other], anchor.bases[other], old.bases[other]
        if old is anchor or way is None or way.began or here is None or there is None:
            return False
        if max(way.reaches[1 : anchor.frame], default=0.0) < ALL_OVER:
            return False
        whose = layers.mine(anchor.key, number, alone=False)
        return not _good(alignment.align(anchor.key, old.key.picture, there @ np.linalg.inv(here), whose))

    def _again(self, number: int, frame: int, found: Alignment, anchor: Anchor) -> None:
        way, base = self._slots[number], anchor.bases[number]
        assert way is not None
        assert base is not None
        way.set(frame, found.matrix @ base, self._seen(number, found, anchor))

    @property
    def _proving(self) -> bool:
        """Whether a second layer has just been noticed: its key picture is wanted to look back from."""
        return any(way.began and self.count - way.began < PROVED for way in self.ways)

    def _prove(self) -> None:
        """A second layer that hardly shows itself was none; of one that does, the frames before it was noticed are
        measured again."""
        for number, way in enumerate(self._slots):
            if way is None or self._slots[1 - number] is None or self.count - way.began != PROVED or not way.began:
                continue
            if np.isinf(way.errors[way.began :]).sum() <= PROVED // 2:
                self._look_back()
                continue
            self._slots[number] = None
            for anchor in self._anchors:
                anchor.bases[number] = None
                anchor.key.trust[:] = anchor.key.trust[1 - number]
                anchor.key.most[:] = anchor.key.most[1 - number]

    def _short(self, found: Pair) -> bool:
        """Whether a layer that counts shows too little of its key picture."""
        anchor = self._anchors[self._now]
        ways = [way for way in self._slots if way is not None and not way.lost]
        best = max((_standing(way) for way in ways), default=0.0)
        for number in BOTH:
            alignment, way = found[number], self._slots[number]
            if alignment is None or way is None or _standing(way) < RIVAL * best:
                continue
            if alignment.overlap < LOWEST_OVERLAP or alignment.count < LOWEST_COUNT * anchor.most[number]:
                return True
        return False

    def _re_anchor(self, picture: AlignedPicture, found: Pair) -> None:
        """Go on from a key picture that shows more: an earlier one that comes back, or this frame."""
        anchor = self._anchors[self._now]
        lead = next(k for k in (0, 1) if self._leads(k))
        shown = found[lead]
        if shown is None or self._back(picture, lead, shown):
            return
        fresh = alignment.key(picture, self._shields, self._cells)
        if fresh is None:
            return
        back: list[Similarity | None] = [None, None]
        for number in BOTH:
            item = found[number]
            if item is not None and anchor.bases[number] is not None:
                back[number] = np.linalg.inv(item.matrix)
        seen = tuple(alignment if back[k] is not None else None for k, alignment in enumerate(found))
        layers.inherit(fresh, anchor.key, (back[0], back[1]), (seen[0], seen[1]))
        new_anchor = Anchor(fresh, self.count - 1, [None, None], [0.0, 0.0])
        for number in BOTH:
            item, base, way = seen[number], anchor.bases[number], self._slots[number]
            if item is None or base is None or way is None:
                continue
            # measured the other way round too: the old key picture in the new one's patches
            whose = layers.mine(fresh, number, alone=back[1 - number] is None)
            again = alignment.align(fresh, anchor.key.picture, np.linalg.inv(item.matrix), whose)
            link = item.matrix
            if _good(again) and again is not None:
                there = alignment.parameters(item.matrix, self.centre)
                other_way = alignment.parameters(np.linalg.inv(again.matrix), self.centre)
                if np.abs(there[:2] - other_way[:2]).max() < 1.0:
                    link = alignment.similarity((there + other_way) / 2, self.centre)
            new_anchor.bases[number] = way.matrices[-1] = link @ base
            new_anchor.errors[number] = float(np.hypot(anchor.errors[number], item.error / np.sqrt(2)))
        self._anchors.append(new_anchor)
        self.used += 1
        if len(self._anchors) > KEYS * alignment.CELLS // self._cells:
            self._anchors.pop(1)
        self._now = len(self._anchors) - 1
        self._recent = deque(maxlen=BEHIND)

    def _back(self, picture: AlignedPicture, lead: int, shown: Alignment) -> bool:
        """Whether an earlier key picture shows more, and is gone on from."""
        way = self._slots[lead]
        assert way is not None
        best, most = None, shown.overlap + 0.1
        for number, anchor in enumerate(self._anchors):
            base = anchor.bases[lead]
            if number == self._now or base is None:
                continue
            value = alignment.overlap(way.matrices[-1] @ np.linalg.inv(base), anchor.key.size)
            if value > most:
                best, most = number, value
        if best is None:
            return False
        pair, _ = layers.seek(
            self._anchors[best].key, picture, self._guesses(self._anchors[best], last=True), self._shields
        )
        again = pair[lead]
        if again is None or not _good(again) or again.count < 0.8 * shown.count:
            return False
        self._now, self._recent = best, deque(maxlen=BEHIND)
        return True


def _good(found: Alignment | None) -> TypeGuard[Alignment]:
    return found is not None and found.share > 0.15 and found.error < 1.0


def _some_places(places: np.ndarray) -> np.ndarray:
    """A few of the places of a layer, to be kept for every frame of an hour."""
    return places[:: max(1, len(places) // MARKS)].astype(np.float32)


def _strayed(key: KeyPicture, guesses: Guesses, pair: Pair) -> int | None:
    """Which of two layers that are found at the same place went there at once from elsewhere: it is gone, and what was
    found is the other."""
    first, second = pair
    if first is None or second is None or guesses[0] is None or guesses[1] is None:
        return None
    if np.median(np.hypot(*(first.places - second.places).T)) > 2 * layers.TELLING:
        return None
    near, far = sorted(
        (float(np.median(np.hypot(*(item.places - alignment.apply(guess, key.points)).T))), number)
        for number, (item, guess) in enumerate(((first, guesses[0]), (second, guesses[1])))
    )
    return far[1] if far[0] > layers.SUDDEN + 3 * near[0] else None


def _shift(matrix: Similarity, other: Similarity) -> float:
    return float(np.hypot(*(matrix - other)[:2, 2]))


def _standing(way: LayerWay) -> float:
    """How far a layer has reached lately."""
    return float(np.mean(way.reaches[-24:]))
