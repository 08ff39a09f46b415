"""Pictures for the screen: the frame that is wanted first, then, while nothing is asked for, the ones ahead of it.

One thread renders (:class:`PreviewWorker`), another reads (:class:`.picture_sources.PictureSources`), one frame ahead.
A request captures everything it needs; a newer one makes an older answer void. Where the machine cannot keep up with
playing, pictures are drafts (:mod:`.effort`) and rendered in full later.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from concurrent.futures import Future

import cv2
import numpy as np

from young_tremor.base.errors import TremorError
from young_tremor.base.frames import Frame, FrameSource
from young_tremor.base.signal import Signal
from young_tremor.engine.library.settings import Settings
from young_tremor.engine.media import footage, proxies
from young_tremor.engine.media.byte_cache import ByteCache
from young_tremor.engine.preview.effort import LATE, Effort
from young_tremor.engine.preview.picture_request import (
    Interrupted,
    Mode,
    PictureKey,
    PictureRequest,
    PreviewPicture,
    RenderedPicture,
    picture_key,
)
from young_tremor.engine.preview.picture_sources import SOURCES, PictureSources
from young_tremor.engine.preview.shot_plans import ShotPlan, ShotPlans
from young_tremor.engine.system import log
from young_tremor.engine.system.priority import PriorityGate
from young_tremor.model.project import Plate
from young_tremor.render.frame import render_frame
from young_tremor.render.plan import Plan
from young_tremor.render.resolve_plan import FrameReadings, readings
from young_tremor.render.screen import to_rgb

__all__ = ["SOURCES", "FrameReadings", "Mode", "PictureRequest", "Plan", "PreviewPicture", "PreviewWorker"]

PICTURES = 384 << 20  # bytes of finished pictures that are kept
PATIENCE = 0.3  # seconds that closing waits
PLAYED = 1.0  # seconds after a picture of playing in which no crop is solved
PLAYS = 0.5  # seconds after a picture of playing in which it still plays
NEAR, AHEAD_OF_CUT = 4, 8  # frames ahead that come first, then those of the next shot, then all others
MOST_LATE = 40  # frames by which pictures of what plays are late at the most
LOOKS = 1.5  # seconds after which files are looked at while nothing is asked for
QUIET = 0.2  # seconds without a new request before frames ahead are made

VALUED = 4  # times the room of a picture that one takes whose frame comes along


class PreviewWorker:
    """Answers requests. Signals are emitted in its thread; its methods may be called from any thread."""

    def __init__(
        self,
        open_source: Callable[[Plate, tuple[int, int]], FrameSource] = footage.open_plate,
        copies: proxies.ProxyMaker | None = None,
        rest: PriorityGate | None = None,
        pictures: ByteCache[PictureKey, RenderedPicture] | None = None,
    ) -> None:
        self.picture = Signal()  # (PreviewPicture)
        self.readings = Signal()  # (Shot, Plan, FrameReadings)
        self.failed = Signal()  # (Shot, sentence)
        self.filled = Signal()  # () a frame was made ready
        self.replaced = Signal()  # (Shot) a file of it is another than before
        self.planned = Signal()  # (PictureRequest, ShotPlan) how it is rendered from now on
        self.pictures: ByteCache[PictureKey, RenderedPicture] = ByteCache(PICTURES) if pictures is None else pictures
        self.sources = PictureSources(open_source, copies, rest or PriorityGate())
        self._plans = ShotPlans()
        self._effort = Effort()
        self._next: Future[list[Frame]] | None = None  # pictures that are read ahead
        self._request: PictureRequest | None = None
        self.answered: PictureRequest | None = None  # the last one to which nothing is owed
        self._hopeless: PictureRequest | None = None  # what came next and cannot be made ready
        self._cursor = 0
        self._turn: float | None = None  # when playing last asked for a picture
        self._played: int | None = None  # the last picture that was made while it plays
        self._followed = False  # whether that was after the last request
        self._told: Plan | None = None  # whose readings were emitted
        self._forgotten = 0  # how often all pictures were let go of
        self._full = False  # nothing is left to be made ready
        self._quiet = 0.0
        self._wake = threading.Condition()
        self._stop = False
        self._thread = threading.Thread(target=self._run, name="preview", daemon=True)
        self._thread.start()

    # For any thread

    def serve(self, copies: proxies.ProxyMaker, rest: PriorityGate) -> None:
        """Belong to a window from now on: use ``copies`` of its footage, tell ``rest`` what the person waits for."""
        self.sources.copies, self.sources.gate = copies, rest

    def ask(self, request: PictureRequest) -> None:
        """Show this next. Whatever was asked before and is not yet answered is forgotten."""
        self.sources.gate.owe(True)
        with self._wake:
            self._request, self._cursor, self._full, self._followed = request, request.index, False, False
            self._played = None
            self._quiet = time.monotonic() + QUIET
            self._wake.notify()

    def follow(self, index: int) -> None:
        """While playing: frames from ``index`` on are wanted next, none is asked for by itself."""
        self.sources.gate.play()
        with self._wake:
            self._cursor, self._full, self._quiet, self._turn = index, False, 0.0, time.monotonic()
            self._followed = True
            self._wake.notify()

    def look(self, request: PictureRequest, index: int) -> PreviewPicture | None:
        """The picture of a frame if it is ready."""
        planned = self._plans.known(request)
        if planned is None:
            return None
        key = picture_key(planned.number, request, index)
        picture = self.pictures.get(key)
        if picture is None:
            return None
        return PreviewPicture(
            request, index, picture.rgb, picture.still, planned.plan.source, draft=picture.draft, frame=picture.frame
        )

    def ready(self, request: PictureRequest) -> np.ndarray:
        """Which frames of a request's shot are ready: (frames,) bool."""
        planned = self._plans.known(request)
        if planned is None:
            return np.zeros(0, bool)
        frames = np.zeros(planned.plan.frames, bool)
        for key in self.pictures.held():
            if key == picture_key(planned.number, request, key[0]):
                frames[key[0]] = True
        return frames

    def keep(self, limit: int) -> None:
        """Keep so many bytes of pictures from now on."""
        self.pictures.resize(limit)

    def forget(self, settings: Settings) -> None:
        """Let go of all pictures: they look different with these settings."""
        with self._wake:
            self._forgotten += 1
            self.pictures.clear()
        self.sources.kept.clear()

    @property
    def nbytes(self) -> int:
        """Bytes of finished pictures that are kept."""
        return self.pictures.nbytes

    def plan_of(self, request: PictureRequest) -> ShotPlan | None:
        """How a request is rendered, if that is known."""
        return self._plans.known(request)

    def close(self) -> None:
        """Stop, and wait a moment: what is being read or rendered just now is not waited for."""
        with self._wake:
            self._stop = True
            self._wake.notify()
        self._thread.join(PATIENCE)
        self.sources.join(PATIENCE)
        self.pictures.clear()
        self._plans.clear()

    # The thread

    def _run(self) -> None:
        while True:
            with self._wake:
                self._wait()
                if self._stop:
                    break
                request = self._request
                fresh = request is not self.answered
                idle = not fresh and self._full
                if not fresh and (rest := self._quiet - time.monotonic()) > 0:
                    self._wake.wait(rest)  # filling would slow down the drag that goes on
                    continue
            assert request is not None
            if idle:
                if not self._has_changed(request):
                    continue
                self._full = False
            if not self._work(request, answer=fresh or idle):
                continue
            if fresh:
                self.answered = request
                if self._request is request:
                    self.sources.gate.owe(False)
        self.sources.end()

    def _wait(self) -> None:
        """Wait until there is something to do, or until it is time to see whether a file has changed."""
        while not self._stop and self._request is self.answered and (self._full or self._request is None):
            if not self._wake.wait(LOOKS) and self._request is not None:
                return

    def _work(self, request: PictureRequest, *, answer: bool) -> bool:
        """Do the next thing for a request: answer it, solve its crop, or make a frame ahead ready. False where
        something else was asked for meanwhile."""
        try:
            if answer or self._solve(request):
                self._answer(request)
            elif not request.fill or not self._fill(request):
                self._nothing_left(request)
        except Interrupted:
            return False
        except TremorError as error:
            self._nothing_left(request)
            self.failed.emit(request.shot, str(error))
        except Exception as error:
            self._nothing_left(request)
            self.failed.emit(request.shot, log.unexpected(error))
        return True

    def _nothing_left(self, request: PictureRequest) -> None:
        """There is nothing to be made for a request, unless another one has come meanwhile."""
        with self._wake:
            self._full = self._full or self._request is request

    def _has_changed(self, request: PictureRequest) -> bool:
        """Whether a file of a request is new or has changed since it was last looked at, and close its readers then."""
        fresh, changed = self._plans.changed_files(request)
        if changed:
            self.sources.forget(changed)
            self.replaced.emit(request.shot)
        return fresh

    def _plan(self, request: PictureRequest) -> ShotPlan:
        self._has_changed(request)
        if self._request is not None:
            self.sources.needed = len(self._request.shot.plates)
        planned = self._plans.plan(request)
        self.planned.emit(request, planned)
        return planned

    def _answer(self, request: PictureRequest) -> None:
        planned = self._plan(request)
        plan = planned.plan
        index = min(max(request.index, 0), plan.frames - 1)
        self._show_nearby(request, planned, index)

        def go_on() -> None:
            if self._request is not request:
                raise Interrupted

        picture = self._picture(request, planned, index, go_on)
        if self._request is request:
            self.picture.emit(
                PreviewPicture(request, index, picture.rgb, picture.still, plan.source, frame=picture.frame)
            )
        if self._told is not plan and not self._plans.is_rough(request):
            self._told = plan
            copies = self.sources.copies
            if copies is not None:
                copies.wanted([p.plate.media.path for p in plan.plates if proxies.size_of(p.source) is not None])
            self.readings.emit(request.shot, plan, readings(plan))

    def _show_nearby(self, request: PictureRequest, planned: ShotPlan, index: int) -> None:
        """Where reading a frame takes long, show the nearest one that is read at once, under the motion of this one.

        The frame itself comes after it, if nothing else is asked for meanwhile.
        """
        if picture_key(planned.number, request, index) in self.pictures or request.mode != "shaken":
            return
        frames = self.sources.read_nearby(planned.plan, index)
        if frames is None:
            return
        rgb = to_rgb(render_frame(planned.plan, index, frames), request.stops)
        if self._request is not request:
            raise Interrupted
        self.picture.emit(PreviewPicture(request, index, rgb, None, planned.plan.source, exact=False))

    def _solve(self, request: PictureRequest) -> bool:
        """Solve the crop of a shot that went on with a rough one; whether it was. What is asked for meanwhile, or
        playing, comes first: the solving begins again once that rests."""
        turn = self._turn
        if not self._plans.is_rough(request) or (turn is not None and time.monotonic() - turn < PLAYED):
            return False

        def look() -> None:
            if self._stop or self._request is not request or self._turn is not turn:
                raise Interrupted

        try:
            self._plans.solve(request, look)
        except Interrupted:
            return False
        return True

    # Frames ahead

    def _fill(self, request: PictureRequest) -> bool:
        """Make the nearest missing frame ahead ready; False when there is none or no room."""
        then, cursor = request.then, self._within_reach(request)
        if then is not None and then is not self._hopeless:
            if self._fill_one(request, NEAR, cursor, around=False):
                return True
            try:
                if self._fill_one(then, AHEAD_OF_CUT, then.index):
                    return True
            except TremorError:
                self._hopeless = then  # which is said when it is put on
        return self._fill_one(request, cursor=cursor) or (self._plays and self._fill_one(request, again=True))

    def _within_reach(self, request: PictureRequest) -> int:
        """Where pictures are made next: at the cursor, unless it plays and decoding heavy footage cannot follow. What
        is left out must be decoded all the same, so that it goes on frame by frame, a little late, until a key picture
        lies ahead from which it can go on in time."""
        cursor, last = self._cursor, self._played
        if last is None or not self._plays or not 1 < cursor - last < MOST_LATE:
            return cursor
        key = self.sources.key_before(self._plan(request).plan, cursor)
        return cursor if key is None else max(key, last + 1)

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
        planned, plays = self._plan(request), self._plays
        last = planned.plan.frames - 1 if request.last is None else min(request.last, planned.plan.frames - 1)
        first = min(request.first, last)
        span = last - first + 1
        cursor = min(max(self._cursor if cursor is None else cursor, first), last)
        if not plays:
            self._effort.rest()

        def is_missing(index: int) -> bool:
            picture = self.pictures.peek(picture_key(planned.number, request, index))
            return picture is None or (picture.draft and (again or not plays))

        steps = min(span if around else last - cursor + 1, self._room(request), most or span)
        for step in range(LATE if again else 0, steps):
            index = first + (cursor - first + step) % span
            if is_missing(index):
                later = index + 1 if index < last and is_missing(index + 1) else None
                self._make_ahead(request, planned, index, later, step if plays and not again else None)
                return True
        return False

    def _room(self, request: PictureRequest) -> int:
        """How many pictures of a request there is room for."""
        size = request.size[0] * request.size[1] * (6 if request.mode in ("split", "side") else 3)
        size *= VALUED if request.values else 1
        return max(1, int(0.9 * self.pictures.limit / size) - (AHEAD_OF_CUT if request.then is not None else 0))

    def _make_ahead(
        self, request: PictureRequest, planned: ShotPlan, index: int, later: int | None, in_hand: int | None
    ) -> None:
        """Make a frame ready, and let the one ``later`` be read meanwhile. ``in_hand``: how many frames are ready
        before it while it plays; None where it is made with all effort."""

        def go_on() -> None:
            if self._request is not self.answered:
                raise Interrupted

        begun = time.monotonic()
        step = self._effort.step if in_hand is not None and request.mode == "shaken" else 0
        self._picture(request, planned, index, go_on, later=later, step=step)
        self._played = index if in_hand is not None else None
        if in_hand is not None:
            self._effort.made(time.monotonic() - begun, float(1 / planned.plan.rate), in_hand)
        self.filled.emit()

    # Pictures

    def _picture(
        self,
        request: PictureRequest,
        planned: ShotPlan,
        index: int,
        go_on: Callable[[], None],
        *,
        later: int | None = None,
        step: int = 0,
    ) -> RenderedPicture:
        """A picture, kept or made anew. ``go_on`` raises Interrupted where something else comes first; ``later``: the
        frame that is made next; ``step``: of a draft."""
        key = picture_key(planned.number, request, index)
        kept = self.pictures.get(key)
        if kept is not None and (step or not kept.draft):
            return kept
        forgotten = self._forgotten
        frames = self._read(planned.plan, index, later, go_on)
        picture = self._render(request, planned, index, frames, step)._replace(draft=bool(step))
        with self._wake:
            if forgotten == self._forgotten:  # else it may look as it did before
                self.pictures.put(key, picture, picture.nbytes)
        return picture

    def _read(self, plan: Plan, index: int, later: int | None, go_on: Callable[[], None]) -> list[Frame]:
        """The plates' pictures of a frame; those of the one ``later`` are read next."""
        if self._next is not None:
            self._next.cancel()
        reading = self.sources.read(plan, index, go_on)
        self._next = None if later is None else self.sources.read(plan, later, go_on)
        frames = reading.result()
        go_on()
        return frames

    def _render(
        self, request: PictureRequest, planned: ShotPlan, index: int, frames: list[Frame], step: int
    ) -> RenderedPicture:
        """What a mode shows of a frame."""
        mode, stops = request.mode, request.stops
        if mode == "still":
            frame = render_frame(planned.still, index, frames)
            return RenderedPicture(to_rgb(frame, stops), None, frame if request.values else None)
        plan = planned.plan if not step else self._plans.draft(request, planned.number, planned.plan, step)
        frame = render_frame(plan, index, frames)
        shaken = to_rgb(frame, stops)
        if plan.size != planned.plan.size:
            shaken = np.asarray(cv2.resize(shaken, planned.plan.size))
        values = frame if request.values else None
        if mode == "shaken":
            return RenderedPicture(shaken, None, values)
        still = to_rgb(render_frame(planned.still, index, frames), stops)
        if mode in ("split", "side"):
            return RenderedPicture(shaken, still, values)
        if mode == "overlay":
            return RenderedPicture(np.asarray(cv2.addWeighted(shaken, 0.5, still, 0.5, 0)), None, None)
        return RenderedPicture(np.asarray(cv2.absdiff(shaken, still)), None, None)
