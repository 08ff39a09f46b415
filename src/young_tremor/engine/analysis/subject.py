"""What moves in a locked-off shot, and a strand that goes after it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.errors import RequestError
from young_tremor.base.frames import FrameSource
from young_tremor.engine.media import footage
from young_tremor.geometry import camera
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Box, Shot, new_id
from young_tremor.model.shake import Plotted
from young_tremor.motion.follow import HELD_BACK_FROM, Hand, follow
from young_tremor.render.plan import Plan
from young_tremor.render.resolve_plan import resolve
from young_tremor.render.screen import reduce

Report = Callable[[int, int], None]
ORIGIN = "follow"  # of strands that follow
ACROSS = 320  # pixels of the picture in which it is looked for
LOOKS = 41  # pictures whose median is the scene without what moves
LEAST_SHARE = 0.0008  # of the picture that a subject takes
NOISE = 5.0  # times the usual difference, from which on a pixel belongs to what moves
NEAR = 0.25  # frame heights within which what was followed is looked for next
KEYS = 8  # a second
RESERVE = (0.08, 0.4)  # frame heights, the least and the most
LEAST_NOISE = 0.7  # code values
MOST_BUSY, LEAST_THERE = 0.4, 0.05  # shares: of the picture that moves on the whole, of the pictures with a subject


@dataclass(frozen=True, eq=False)
class SubjectPath:
    """Where what moves is: ``times`` (n,) in seconds of the shot, ``places`` (n, 2) in frame heights from the middle,
    ``there`` (n,) bool. ``reserve``: how far a hand may go after it, in frame heights: by what footage that is larger
    than the delivery has to spare, or a little more than that."""

    times: np.ndarray
    places: np.ndarray
    there: np.ndarray
    reserve: float


def find_path(shot: Shot, report: Report) -> SubjectPath:
    """The path of what moves most in a locked-off shot; of what is in its keep-clear box at first, if it has one.
    RequestError where nothing moves, or everything does. For any thread."""
    if shot.footage.media.drawn:
        raise RequestError(f"Nothing moves in “{shot.name}” by itself.")
    plan = resolve(shot, footage.infos(shot), shaken=False)
    source = footage.open_source(shot.footage.media.path)
    try:
        look = _Look(plan, source)
        return _path(shot, look, report)
    finally:
        source.close()


@dataclass(frozen=True)
class _Look:
    """Looks at a shot's pictures, small and grey."""

    plan: Plan
    source: FrameSource

    @property
    def size(self) -> tuple[int, int]:
        """Width and height of what is looked at."""
        wide, high = self.plan.base.source.size
        return ACROSS, max(round(ACROSS * high / wide), 2)

    @property
    def reserve(self) -> float:
        """How far the picture can be moved until each of its pixels is one of the delivery, or the least reserve."""
        scale = float(np.hypot(*self.plan.base.fit[:2, 1])) * self.plan.delivered[1]
        return min(max(0.5 * (1 - scale), RESERVE[0]), RESERVE[1])

    def at(self, index: int) -> np.ndarray:
        """One picture, float32."""
        frame = self.source.read(self.plan.base.source_index(index))
        return np.asarray(colour.luma8(reduce(frame, self.size)), np.float32)

    def to_frame(self, index: int, place: np.ndarray) -> np.ndarray:
        """A place in its pixels (2,) as one on the frame, in frame units from the middle."""
        base = self.plan.base
        source_place = (place + 0.5) / self.size * base.source.size - 0.5
        placed = base.placed(np.array([index / float(self.plan.rate)]))
        return np.asarray(camera.apply(placed @ base.fit, source_place[None])[0, 0])


def _path(shot: Shot, look: _Look, report: Report) -> SubjectPath:
    count = look.plan.frames
    spread = np.unique(np.linspace(0, count - 1, min(LOOKS, count)).round().astype(int)).tolist()
    some = [look.at(index) for index in spread]
    scene = np.median(some, axis=0).astype(np.float32)
    scene_edges = _edges(scene)
    usual = float(np.median([np.median(_apart(picture, scene)) for picture in some])) + LEAST_NOISE
    aim = _middle_of(shot.frame.keep[0], look.size) if shot.frame.keep else None
    places, there, busy = np.zeros((count, 2)), np.zeros(count, bool), 0.0
    for index in range(count):
        picture = look.at(index)
        moving = _apart(picture, scene) > NOISE * usual
        busy += float(moving.mean()) / count
        middle = _largest(moving, _edges(picture) - scene_edges, aim)
        if middle is not None:
            aim = middle
            places[index] = look.to_frame(index, middle)
            there[index] = True
        report(index + 1, count)
    if busy > MOST_BUSY:
        raise RequestError(f"All of “{shot.name}” moves: following is for locked-off shots.")
    if there.sum() < max(3, LEAST_THERE * count):
        raise RequestError(f"Nothing that could be followed moves in “{shot.name}”.")
    times = np.arange(count) / float(look.plan.rate)
    return SubjectPath(times, _smooth(places, there), there, look.reserve)


def _apart(picture: np.ndarray, scene: np.ndarray) -> np.ndarray:
    """By how much a picture differs from the scene, without its grain."""
    return np.asarray(cv2.GaussianBlur(np.abs(picture - scene), (0, 0), 1.5))


def _middle_of(box: Box, size: tuple[int, int]) -> np.ndarray:
    return np.array([box.x + box.width / 2, box.y + box.height / 2]) * size - 0.5


def _edges(picture: np.ndarray) -> np.ndarray:
    """How much a picture changes from place to place, without its grain."""
    smooth = cv2.GaussianBlur(picture, (0, 0), 1.0)
    return np.asarray(cv2.magnitude(cv2.Sobel(smooth, cv2.CV_32F, 1, 0), cv2.Sobel(smooth, cv2.CV_32F, 0, 1)))


def _largest(moving: np.ndarray, edges: np.ndarray, aim: np.ndarray | None) -> np.ndarray | None:
    """The middle of the largest part that moves, of those near ``aim`` if there are any; None where none is large.
    ``edges``: what the picture has more of than the scene; it has less about a place that the subject left."""
    _, labels, stats, middles = cv2.connectedComponentsWithStats(moving.astype(np.uint8), connectivity=8)
    areas = stats[:, cv2.CC_STAT_AREA].astype(float)
    areas[0] = 0.0  # what does not move
    large = np.flatnonzero(areas >= LEAST_SHARE * moving.size)
    large = np.array([part for part in large if _outline_sum(labels == part, edges) > 0], int)
    if not len(large):
        return None
    worth = np.log(areas[large])
    if aim is not None:
        worth -= (np.hypot(*(middles[large] - aim).T) / (NEAR * moving.shape[0])) ** 2
    return np.asarray(middles[large[int(np.argmax(worth))]])


def _outline_sum(part: np.ndarray, edges: np.ndarray) -> float:
    """The sum of edges along the outline of a part (a mask)."""
    mask = part.astype(np.uint8)
    around = np.ones((3, 3), np.uint8)
    return float(edges[cv2.dilate(mask, around) > cv2.erode(mask, around)].sum())


def _smooth(places: np.ndarray, there: np.ndarray) -> np.ndarray:
    """Places without what trembles from one picture to the next."""
    out = places.copy()
    numbers = np.flatnonzero(there)
    for k in range(2):
        values = np.interp(np.arange(len(places)), numbers, places[numbers, k])
        padded = np.pad(values, 4, mode="edge")
        medians = np.median(np.lib.stride_tricks.sliding_window_view(padded, 5), axis=1)
        out[:, k] = np.convolve(medians, np.ones(5) / 5, mode="valid")[: len(places)]
    return out


def strand_of(path: SubjectPath, reserve: float | None = None) -> Plotted:
    """A strand that goes after a path, by ``reserve`` frame heights at most (None: the path's): the picture moves the
    other way than the camera."""
    reserve = path.reserve if reserve is None else reserve
    looks = -100.0 * follow(path.times, path.places, path.there, Hand(reserve=reserve))
    step = max(round(len(path.times) / max(path.times[-1] * KEYS, 1.0)), 1)
    numbers = sorted({*range(0, len(path.times), step), len(path.times) - 1})
    curves = [
        Curve(0.0, tuple(Key(float(path.times[n]), round(float(looks[n, k]), 4)) for n in numbers)) for k in range(2)
    ]
    return Plotted(new_id(), name="Follow", note="what moves", origin=ORIGIN, x=curves[0], y=curves[1])


def needed_reserve(path: SubjectPath) -> float:
    """How far a hand that is not held back would go, in frame heights."""
    return float(np.hypot(*follow(path.times, path.places, path.there, Hand(reserve=10.0)).T).max())


def unlimited_strand_of(path: SubjectPath) -> Plotted:
    """A strand that goes after a path all the way, nowhere held back."""
    return strand_of(path, needed_reserve(path) / HELD_BACK_FROM)
