"""Pictures for the screen: the frame that is wanted first, then, while idle, the ones ahead of it.

One thread renders, another reads: it owns the readers and is one frame ahead where frames are made ready in order. A
request captures everything it needs; a newer one makes an older answer void.
Two stores bounded in bytes: reduced source frames (so that a changed number needs no decoding) and finished RGB.
Where the machine cannot keep up with playing, pictures are drafts (`engine.preview.effort`), rendered in full after.
"""

from __future__ import annotations

import threading
import time
from collections import deque
from collections.abc import Callable
from concurrent.futures import Future
from dataclasses import dataclass
from functools import partial
from typing import Literal

import cv2
import numpy as np
from msgspec.structs import replace

from young_tremor.base.errors import TremorError
from young_tremor.base.frames import Frame, FrameSource, SourceInfo
from young_tremor.base.signal import Signal
from young_tremor.base.worker import Worker
from young_tremor.engine.media import footage, proxies
from young_tremor.engine.media.byte_cache import ByteCache
from young_tremor.engine.media.open_readers import OpenReaders
from young_tremor.engine.preview.effort import LATE, Effort, draft
from young_tremor.engine.system import log
from young_tremor.engine.system.priority import PriorityGate
from young_tremor.media.video_reader import VideoReader
from young_tremor.model.project import Plate, Shot
from young_tremor.render.frame import render_frame
from young_tremor.render.plan import Plan, PlatePlan, Quality
from young_tremor.render.plate_pixels import picture_of, scale_of
from young_tremor.render.resolve_plan import FrameReadings, readings, resolve, rough, slow, watch_solving
from young_tremor.render.screen import reduce, to_rgb

__all__ = ["FrameReadings", "Mode", "PictureRequest", "Plan", "PreviewPicture", "PreviewWorker"]

Mode = Literal["shaken", "still", "split", "side", "overlay", "difference"]
PICTURES = 384 << 20
SOURCES = 224 << 20
PATIENCE = 0.3  # seconds that closing waits
PLAYED = 1.0  # seconds after a picture of playing in which no crop is solved
PLAYS = 0.5  # seconds after a picture of playing in which it still plays
NEAR, AHEAD_OF_CUT = 4, 8  # frames ahead that come first, then those of the next shot, then all others
LOOKS = 1.5  # seconds after which files are looked at while nothing is asked for
QUIET = 0.2  # seconds without a new request before frames ahead are made


@dataclass(frozen=True)
class PictureRequest:
    """What is to be seen: a shot at a size and mode, the frame, the range to keep ready."""

    shot: Shot
    size: tuple[int, int]
    mode: Mode
    index: int
    first: int = 0
    last: int | None = None
    fill: bool = True
    against: Shot | None = None  # what it is compared with; None: the still original
    over: float = 1.0  # how much more than the delivered frame is seen
    then: PictureRequest | None = None  # what is made ready once all ahead is


@dataclass(frozen=True)
class PreviewPicture:
    """An answer. ``still`` is there in split and side mode: what ``rgb`` (rows, columns, 3) is compared with.
    ``exact``: False while another frame of the footage stands in for the one that is read. ``draft``: it was made with
    less effort, so that playing can be followed."""

    request: PictureRequest
    index: int
    rgb: np.ndarray
    still: np.ndarray | None
    info: SourceInfo
    exact: bool = True
    draft: bool = False


class _Interrupted(Exception):
    """Something else is asked for."""


class PreviewWorker:
    """The worker. Signals are emitted in its thread."""

    def __init__(
        self,
        open_source: Callable[[Plate, tuple[int, int]], FrameSource] = footage.open_plate,
        copies: proxies.ProxyMaker | None = None,
        rest: PriorityGate | None = None,
    ) -> None:
        self.picture = Signal()  # (Picture)
        self.readings = Signal()  # (Shot, Plan, Readings)
        self.failed = Signal()  # (Shot, sentence)
        self.filled = Signal()  # () a frame was made ready
        self.replaced = Signal()  # (Shot) a file of it is another than before
        self.pictures: ByteCache[tuple[int, str, int], tuple[np.ndarray, np.ndarray | None]] = ByteCache(PICTURES)
        self.sources: ByteCache[tuple, Frame] = ByteCache(SOURCES)
        self._open, self._copies, self._rest = open_source, copies, rest or PriorityGate()
        self._readers = OpenReaders()  # of the reading thread
        self._reading = Worker("reading")
        self._next: Future[list[Frame]] | None = None  # pictures that are read ahead
        self._stamps: dict[str, tuple[int, ...]] = {}  # of each file, the state that was last seen
        self._request: PictureRequest | None = None
        self._answered: PictureRequest | None = None
        self._hopeless: PictureRequest | None = None  # what came next and cannot be made ready
        self._cursor = 0
        self._plans: dict[tuple, tuple[int, Plan, Plan]] = {}
        self._exact: dict[str, Plan] = {}  # by shot, the last plan whose crop was solved
        self._provisional: set[tuple] = set()
        self._effort = Effort()
        self._draft_plans: dict[tuple[int, int], Plan] = {}  # by the number of a plan and a step
        self._drafts: set[tuple[int, str, int]] = set()  # which pictures are drafts
        self._solved: deque[tuple] = deque(maxlen=12)  # shots whose crop takes long that was solved
        self._turn: float | None = None  # when playing last asked for a picture
        self._followed = False  # whether that was after the last request
        self._numbers = 0
        self._told: object = None
        self._full = False
        self._quiet = 0.0
        self._wake = threading.Condition()
        self._stop = False
        self._thread = threading.Thread(target=self._run, name="preview", daemon=True)
        self._thread.start()

    def read(self, shot: Shot, size: tuple[int, int]) -> None:
        """Open the files of a shot and read its first frame, for when that is asked for: neither takes much of the
        interpreter."""
        plan = resolve(shot, footage.infos(shot), Quality(size, "linear"), shaken=False)
        self._reading.give(partial(self._sources_of, plan, 0, lambda: None))

    def serve(self, copies: proxies.ProxyMaker, rest: PriorityGate) -> None:
        """From now on it is a window's: ``copies`` of its footage may be used, ``rest`` is told what is waited for."""
        self._copies, self._rest = copies, rest

    def ask(self, request: PictureRequest) -> None:
        """Show this next. Whatever was asked before and is not yet answered is forgotten."""
        self._rest.owe(True)
        with self._wake:
            self._request, self._cursor, self._full, self._followed = request, request.index, False, False
            self._quiet = time.monotonic() + QUIET
            self._wake.notify()

    def follow(self, index: int) -> None:
        """While playing: frames from ``index`` on are wanted next, none is asked for by itself."""
        self._rest.play()
        with self._wake:
            self._cursor, self._full, self._quiet, self._turn = index, False, 0.0, time.monotonic()
            self._followed = True
            self._wake.notify()

    def look(self, request: PictureRequest, index: int) -> PreviewPicture | None:
        """The picture of a frame if it is ready. For any thread."""
        planned = self._plans.get(self._plan_key(request))
        if planned is None:
            return None
        key = planned[0], request.mode, index
        found = self.pictures.get(key)
        if found is None:
            return None
        return PreviewPicture(request, index, *found, planned[1].source, draft=key in self._drafts)

    def ready(self, request: PictureRequest) -> np.ndarray:
        """Which frames of a request's shot are ready: (frames,) bool."""
        planned = self._plans.get(self._plan_key(request))
        if planned is None:
            return np.zeros(0, bool)
        out = np.zeros(planned[1].frames, bool)
        for key in self.pictures.held():
            if key[:2] == (planned[0], request.mode):
                out[key[2]] = True
        return out

    def close(self) -> None:
        """Stop the worker, and wait a moment for it: what it reads or renders just now is not waited for."""
        with self._wake:
            self._stop = True
            self._wake.notify()
        self._thread.join(PATIENCE)
        self._reading.join(PATIENCE)
        self.pictures.clear()
        self.sources.clear()
        self._plans.clear()
        self._exact.clear()

    def _run(self) -> None:
        while True:
            with self._wake:
                while not self._stop and self._request is self._answered and (self._full or self._request is None):
                    if not self._wake.wait(LOOKS) and self._request is not None:
                        break  # nothing is asked for: time to see whether a file has changed
                if self._stop:
                    break
                request = self._request
                fresh = request is not self._answered
                idle = not fresh and self._full
                if not fresh and (rest := self._quiet - time.monotonic()) > 0:
                    self._wake.wait(rest)  # filling would slow down the drag that goes on
                    continue
            assert request is not None
            if idle:
                if not self._noticed(request):
                    continue
                self._full = False
            try:
                if fresh or idle or self._settle(request):
                    self._answer(request)
                elif not request.fill or not self._fill(request):
                    self._nothing_left(request)
            except _Interrupted:
                continue
            except TremorError as error:
                self._nothing_left(request)
                self.failed.emit(request.shot, str(error))
            except Exception as error:
                self._nothing_left(request)
                self.failed.emit(request.shot, log.unexpected(error))
            if fresh:
                self._answered = request
                if self._request is request:
                    self._rest.owe(False)
        self._reading.give(self._readers.close)
        self._reading.close()

    def _nothing_left(self, request: PictureRequest) -> None:
        """There is nothing to be made for a request, unless another one has come meanwhile."""
        with self._wake:
            self._full = self._full or self._request is request

    def _answer(self, request: PictureRequest) -> None:
        number, plan, still = self._planned(request)
        index = min(max(request.index, 0), plan.frames - 1)
        self._show_nearby(request, number, plan, index)
        rgb, values = self._made(request, number, plan, still, index)
        if self._request is request:
            self.picture.emit(PreviewPicture(request, index, rgb, values, plan.source))
        if self._told is not plan and self._plan_key(request) not in self._provisional:
            self._told = plan
            if self._copies is not None:
                self._copies.wanted([p.plate.media.path for p in plan.plates if proxies.size_of(p.source) is not None])
            self.readings.emit(request.shot, plan, readings(plan))

    def _show_nearby(self, request: PictureRequest, number: int, plan: Plan, index: int) -> None:
        """Where reading a frame takes long, show the nearest one that is read at once, under the motion of this one.

        The frame itself comes after it, if nothing else is asked for meanwhile.
        """
        if (number, request.mode, index) in self.pictures or request.mode != "shaken":
            return
        frames = self._reading.give(partial(self._nearby, plan, index)).result()
        if frames is None:
            return
        rgb = to_rgb(render_frame(plan, index, frames))
        if self._request is request:
            self.picture.emit(PreviewPicture(request, index, rgb, None, plan.source, exact=False))
        else:
            raise _Interrupted

    def _nearby(self, plan: Plan, index: int) -> list[Frame] | None:
        """The plates' pictures, of those that are far the nearest ones; None where none is. In the reading thread."""
        far = {}
        for place, plate in enumerate(plan.plates):
            if plate.source.drawn or plate.source.still or self._is_kept(plan, plate, index):
                continue
            reader = self._opened(plate)
            near = reader.nearby(plate.source_index(index)) if isinstance(reader, VideoReader) else None
            if near is not None:
                far[place] = near
        if not far:
            return None
        plates = enumerate(plan.plates)
        return [self._source(plan, plate, index, lambda: None, far.get(place)) for place, plate in plates]

    def _settle(self, request: PictureRequest) -> bool:
        """Solve the crop of a shot that went on with a rough one or its last one; whether it was. What is asked
        for meanwhile, or playing, comes first: then it is begun again when that rests."""
        key = self._plan_key(request)
        if key not in self._provisional or (self._turn is not None and time.monotonic() - self._turn < PLAYED):
            return False
        turn = self._turn

        def look() -> None:
            if self._stop or self._request is not request or self._turn is not turn:
                raise _Interrupted

        try:
            with watch_solving(look):
                plan = resolve(request.shot, footage.infos(request.shot), self._quality(request))
                readings(plan)
        except _Interrupted:
            return False
        self._exact[request.shot.id] = plan
        self._solved.append(key)
        self._provisional.discard(key)
        self._plans.pop(key, None)
        return True

    def _fill(self, request: PictureRequest) -> bool:
        """Make the nearest missing frame ahead ready; False when there is none or no room."""
        then = request.then
        if then is not None and then is not self._hopeless:
            if self._fill_one(request, NEAR, self._cursor, around=False):
                return True
            try:
                if self._fill_one(then, AHEAD_OF_CUT, then.index):
                    return True
            except TremorError:
                self._hopeless = then  # which is said when it is put on
        return self._fill_one(request) or (self._plays and self._fill_one(request, again=True))

    @property
    def _plays(self) -> bool:
        turn = self._turn
        return self._followed and turn is not None and time.monotonic() - turn < PLAYS

    def _fill_one(
        self,
        request: PictureRequest,
        most: int | None = None,
        cursor: int | None = None,
        *,
        around: bool = True,
        again: bool = False,
    ) -> bool:
        """Make the nearest missing frame of a request ready, of the first ``most`` from a cursor on, and ``around`` by
        its beginning; False when there is none or no room. Drafts count as missing when nothing plays, or when they
        are to be made ``again``."""
        number, plan, still = self._planned(request)
        last = plan.frames - 1 if request.last is None else min(request.last, plan.frames - 1)
        first = min(request.first, last)
        span = last - first + 1
        cursor = min(max(self._cursor if cursor is None else cursor, first), last)
        each = request.size[0] * request.size[1] * (6 if request.mode in ("split", "side") else 3)
        room = max(1, int(0.9 * self.pictures.limit / each) - (AHEAD_OF_CUT if request.then is not None else 0))
        plays = self._plays
        if not plays:
            self._effort.rest()

        def missing(index: int) -> bool:
            key = number, request.mode, index
            return key not in self.pictures or (key in self._drafts and (again or not plays))

        for step in range(LATE if again else 0, min(span if around else last - cursor + 1, room, most or span)):
            index = first + (cursor - first + step) % span
            if missing(index):
                later = index + 1 if index < last and missing(index + 1) else None
                begun = time.monotonic()
                step_down = self._effort.step if plays and not again and request.mode == "shaken" else 0
                self._made(request, number, plan, still, index, ahead=True, later=later, step_down=step_down)
                if plays and not again:
                    self._effort.made(time.monotonic() - begun, float(1 / plan.rate), step)
                self.filled.emit()
                return True
        return False

    def _made(
        self,
        request: PictureRequest,
        number: int,
        plan: Plan,
        still: Plan,
        index: int,
        *,
        ahead: bool = False,
        later: int | None = None,
        step_down: int = 0,
    ) -> tuple[np.ndarray, np.ndarray | None]:
        """A picture, from the store or made anew. ``ahead``: whatever is asked for comes before it. ``later``: the
        frame that is made next. ``step_down``: of a draft."""

        def go_on() -> None:
            if (self._request is not self._answered) if ahead else (self._request is not request):
                raise _Interrupted

        key = (number, request.mode, index)
        found = self.pictures.get(key)
        if found is None or (key in self._drafts and not step_down):
            if self._next is not None:
                self._next.cancel()
            reading = self._reading.give(partial(self._sources_of, plan, index, go_on))
            self._next = None if later is None else self._reading.give(partial(self._sources_of, plan, later, go_on))
            frames = reading.result()
            go_on()
            mode = request.mode
            a = self._shaken(request, number, plan, index, frames, step_down) if mode != "still" else None
            b = to_rgb(render_frame(still, index, frames)) if mode != "shaken" else None
            if a is None or b is None:
                rgb, values = (b if a is None else a), None
            elif mode in ("split", "side"):
                rgb, values = a, b
            else:
                rgb, values = (
                    (cv2.addWeighted(a, 0.5, b, 0.5, 0) if mode == "overlay" else cv2.absdiff(a, b)),
                    None,
                )
            assert rgb is not None
            found = (rgb, values)
            if step_down:
                self._drafts.add(key)
            self.pictures.put(key, found, rgb.nbytes + (values.nbytes if values is not None else 0))
            if not step_down:
                self._drafts.discard(key)
        return found

    def _shaken(
        self, request: PictureRequest, number: int, plan: Plan, index: int, given: list[Frame], step_down: int
    ) -> np.ndarray:
        """The shaken picture as RGB in the size of the request."""
        if not step_down:
            return to_rgb(render_frame(plan, index, given))
        less = self._draft_plans.get((number, step_down))
        if less is None:
            sources = tuple(plate.source for plate in plan.plates)
            less = resolve(plan.shot, sources, draft(self._quality(request), step_down), known=plan)
            self._draft_plans[number, step_down] = less
        rgb = to_rgb(render_frame(less, index, given))
        return rgb if less.size == plan.size else np.asarray(cv2.resize(rgb, plan.size))

    def _sources_of(self, plan: Plan, index: int, go_on: Callable[[], None]) -> list[Frame]:
        """The plates' pictures of a frame. In the reading thread."""
        given = []
        for plate in plan.plates:
            go_on()
            given.append(self._source(plan, plate, index, go_on))
        return given

    def _key_of(self, plan: Plan, plate: PlatePlan, index: int, near: int | None = None) -> tuple:
        """Under which a plate's picture is kept: last its number, or that of another one ``near``, and its size."""
        media, nominal = plate.plate.media, plate.source.size
        depth = plate.plate.depth.path if plate.plate.depth is not None else ""
        number, size = 0 if plate.source.still and not depth else plate.source_index(index), (0, 0)
        if plate.source.drawn:
            number = round(1000 * scale_of(plan, plate, index))
        else:
            scale = min(1.0, max(plan.size[0] / plan.delivered[0], plan.size[1] / plan.delivered[1]))
            size = (2 * max(1, round(nominal[0] * scale / 2)), 2 * max(1, round(nominal[1] * scale / 2)))
        return (media, depth, plate.source, number if near is None else near, size)

    def _is_kept(self, plan: Plan, plate: PlatePlan, index: int) -> bool:
        """Whether a plate's picture need not be decoded: it is kept, or there is a copy of its footage."""
        place = self._copies.ready(plate.plate.media.path, plate.source) if self._copies is not None else None
        return place is not None or self._key_of(plan, plate, index) in self.sources

    def _source(
        self, plan: Plan, plate: PlatePlan, index: int, go_on: Callable[[], None], near: int | None = None
    ) -> Frame:
        key = self._key_of(plan, plate, index, near)
        *_, number, size = key
        frame = self.sources.get(key)
        if frame is None:
            frame = self._of_copy(plate, number, size)
            if frame is None:
                self._rest.load()  # two that decode the same would only be in each other's way
                reader = self._opened(plate)
                if isinstance(reader, VideoReader):
                    reader.look = go_on
                frame = picture_of(plan, plate, index, reader) if near is None else reader.read(near)
            if not plate.source.drawn:
                frame = reduce(frame, size, straight=plate.source.alpha == "straight")
            self.sources.put(key, frame, frame.nbytes)
        return frame

    def _of_copy(self, plate: PlatePlan, number: int, size: tuple[int, int]) -> Frame | None:
        """A picture out of a reduced copy of heavy footage, where there is one with pixels enough."""
        media, info = plate.plate.media, plate.source
        place = self._copies.ready(media.path, info) if self._copies is not None else None
        if place is None or (plate.plate.depth is not None and plate.plate.depth.path):
            return None
        key = (media, "reduced", info.stamp, ())
        try:
            reader = self._readers.take(key, lambda: footage.open_source(str(place)), self._needed)
            enough = reader.info.size[0] >= size[0] and reader.info.size[1] >= size[1]
            return proxies.read(reader, number, info) if enough and reader.info.frames == info.frames else None
        except TremorError:
            self._readers.drop([key])
            self._copies.bad(media.path, info)  # type: ignore[union-attr]
            return None

    def _opened(self, plate: PlatePlan) -> FrameSource:
        """A reader of a plate's picture in a state; those used longest ago are closed."""
        media, source = plate.plate.media, plate.source
        depth = plate.plate.depth.path if plate.plate.depth is not None else ""
        key = (media, depth, source.stamp, source.size if media.drawn else ())
        return self._readers.take(key, lambda: self._open(plate.plate, source.size), self._needed)

    @property
    def _needed(self) -> int:
        """How many files the shot that is looked at reads from."""
        return len(self._request.shot.plates) if self._request is not None else 0

    def _plan_key(self, request: PictureRequest) -> tuple:
        states = tuple(self._stamps.get(path, ()) for path in footage.paths(request.shot))
        return (request.shot, request.size, request.against, request.over, states)

    @staticmethod
    def _quality(request: PictureRequest) -> Quality:
        return Quality(request.size, "linear", request.over)

    def _noticed(self, request: PictureRequest) -> bool:
        """Whether a file of a request has changed since it was last looked at."""
        table = dict(zip(footage.paths(request.shot), footage.stamps(request.shot), strict=True))
        fresh = any(self._stamps.get(path) != stamp for path, stamp in table.items())
        if any(path in self._stamps and self._stamps[path] != stamp for path, stamp in table.items()):
            self._reading.give(partial(self._let_go, set(table))).result()
            self.replaced.emit(request.shot)
        self._stamps |= table
        return fresh

    def _let_go(self, paths: set[str]) -> None:
        """Close the readers of files. In the reading thread."""
        self._readers.drop(key for key in self._readers if key[0].path in paths or key[1] in paths)

    def _planned(self, request: PictureRequest) -> tuple[int, Plan, Plan]:
        self._noticed(request)
        key = self._plan_key(request)
        found = self._plans.get(key)
        if found is None:
            shot, other_shot = request.shot, request.against
            infos, quality = footage.infos(shot), self._quality(request)
            still = resolve(other_shot, infos, quality) if other_shot else resolve(shot, infos, quality, shaken=False)
            open_ = resolve(replace(shot, frame=replace(shot.frame, edges="open")), infos, quality)
            if key not in self._solved and slow(open_):
                self._provisional.add(key)
                known = self._exact.get(shot.id)
                if known is None or known.frames != still.frames:
                    known = rough(open_)
                plan = resolve(shot, infos, quality, known=known)
            else:
                plan = self._exact[shot.id] = resolve(shot, infos, quality)
            self._numbers += 1
            while len(self._plans) >= 12:
                gone = next(iter(self._plans))
                self._plans.pop(gone)
                self._provisional.discard(gone)
            found = self._plans[key] = (self._numbers, plan, still)
            alive = {number for number, *_ in self._plans.values()}
            self._drafts = {key for key in self._drafts if key[0] in alive}
            self._draft_plans = {key: less for key, less in self._draft_plans.items() if key[0] in alive}
        return found
