"""The preview in a process of its own: what it renders does not hold up the window, nor the other way round.

The window's side. :class:`PreviewProcess` is used as a :class:`.preview_worker.PreviewWorker` is; the other side
(:mod:`.preview_server`) has a worker whose finished pictures are sent over as they come and are kept here. Where the
process ends (it was killed, or a decoder took it along) another one takes its place, and nothing is lost.
"""

from __future__ import annotations

import queue
import threading
import time
from collections import OrderedDict, deque
from collections.abc import Iterable

import numpy as np

from young_tremor.base.frames import SourceInfo
from young_tremor.base.signal import Signal
from young_tremor.engine.library.settings import Settings
from young_tremor.engine.media import footage, proxies
from young_tremor.engine.preview import messages
from young_tremor.engine.preview.launch import Launched, end, launch
from young_tremor.engine.preview.picture_request import (
    PictureKey,
    PictureRequest,
    PreviewPicture,
    RenderedPicture,
    picture_key,
)
from young_tremor.engine.system import log
from young_tremor.engine.system.priority import PriorityGate

REMEMBERED = 64  # requests whose answers may still come
PLANS = 32  # plans whose pictures may be looked for
PATIENCE = 0.3  # seconds that closing waits
AGAIN = 2.0  # seconds between two tries to start one where the system has none to give
ENDS, WITHIN = 3, 20.0  # so many ends in so many seconds are not put down to chance: the last request is given up


class PreviewProcess:
    """Answers requests from another process. Signals are emitted in a thread of its own; its methods may be called from
    any thread, and none waits for the process. OSError where no process can be had."""

    def __init__(self, launched: Launched | None = None) -> None:
        self.picture = Signal()  # as those of a worker
        self.readings = Signal()
        self.failed = Signal()
        self.filled = Signal()
        self.replaced = Signal()
        self.answered: PictureRequest | None = None  # the last one to which nothing is owed
        self._process, self._line = launched or launch(())
        self._copies: proxies.ProxyMaker | None = None
        self._gate = PriorityGate()
        self._lock = threading.Lock()  # over what follows
        self._pictures: dict[PictureKey, RenderedPicture] = {}
        self._plans: OrderedDict[tuple, messages.RequestPlan] = OrderedDict()
        self._looked: tuple[PictureRequest, messages.RequestPlan] | None = None  # what was last asked of them
        self._requests: OrderedDict[int, PictureRequest] = OrderedDict()
        self._number = self._epoch = 0
        self._last: messages.NewRequest | None = None
        self._settings: Settings | None = None
        self._limit: int | None = None
        self._facts: set[str] = set()  # paths of files whose facts were sent
        self._ends: deque[float] = deque(maxlen=ENDS)
        self._closing = threading.Event()
        self._outbox: queue.SimpleQueue[messages.FromWindow | None] = queue.SimpleQueue()
        self._sender = threading.Thread(target=self._send, name="to the preview", daemon=True)
        self._receiver = threading.Thread(target=self._receive, name="from the preview", daemon=True)
        self._sender.start()
        self._receiver.start()

    # For any thread

    def serve(self, copies: proxies.ProxyMaker, rest: PriorityGate) -> None:
        """Belong to a window from now on: use ``copies`` of its footage, tell ``rest`` what the person waits for."""
        self._copies, self._gate = copies, rest

    def ask(self, request: PictureRequest) -> None:
        """Show this next. Whatever was asked before and is not yet answered is forgotten."""
        self._gate.owe(True)
        with self._lock:
            self._number += 1
            self._last = messages.NewRequest(self._number, request)
            self._requests[self._number] = request
            while len(self._requests) > REMEMBERED:
                self._requests.popitem(last=False)
            self._outbox.put(self._last)

    def follow(self, index: int) -> None:
        """While playing: frames from ``index`` on are wanted next, none is asked for by itself."""
        self._gate.play()
        self._outbox.put(messages.PlayedFrame(index))

    def look(self, request: PictureRequest, index: int) -> PreviewPicture | None:
        """The picture of a frame if it is ready."""
        with self._lock:
            planned = self._planned(request)
            picture = None if planned is None else self._pictures.get(picture_key(planned.plan, request, index))
        if planned is None or picture is None:
            return None
        return _shown(request, index, picture, planned.source)

    def ready(self, request: PictureRequest) -> np.ndarray:
        """Which frames of a request's shot are ready: (frames,) bool."""
        with self._lock:
            planned = self._planned(request)
            if planned is None:
                return np.zeros(0, bool)
            alike = picture_key(planned.plan, request, 0)[1:]
            indices = [key[0] for key in self._pictures if key[1:] == alike]
        frames = np.zeros(planned.frames, bool)
        frames[indices] = True
        return frames

    def keep(self, limit: int) -> None:
        """Keep so many bytes of pictures from now on."""
        self._limit = limit
        self._outbox.put(messages.CacheLimit(limit))

    def forget(self, settings: Settings) -> None:
        """Let go of all pictures: they look different with these settings."""
        with self._lock:
            self._epoch += 1
            self._settings = settings
            self._pictures.clear()
            self._outbox.put(messages.NewSettings(self._epoch, settings))

    @property
    def nbytes(self) -> int:
        """Bytes of finished pictures that are kept."""
        with self._lock:
            return sum(picture.nbytes for picture in self._pictures.values())

    def close(self) -> None:
        """Stop, and wait a moment: what is being read or rendered just now is not waited for."""
        with self._lock:
            self._closing.set()
        self._outbox.put(None)
        end(Launched(self._process, self._line), PATIENCE)
        for thread in (self._sender, self._receiver):
            thread.join(PATIENCE)
        self._pictures.clear()
        self._plans.clear()

    # The threads

    def _send(self) -> None:
        while (message := self._outbox.get()) is not None:
            try:
                if isinstance(message, messages.NewRequest):
                    self._send_facts(message.request)
                messages.send(self._line, message)
            except OSError:
                continue  # the receiver hears of it as well, and begins anew
            except Exception as error:
                self._give_up(log.unexpected(error))

    def _send_facts(self, request: PictureRequest) -> None:
        """Send what is known here of a request's files, so that they are not read a second time."""
        new = []
        for path in (*footage.paths(request.shot), *(footage.paths(request.then.shot) if request.then else ())):
            facts = footage.known_facts(path) if path not in self._facts else None
            if facts is not None:
                self._facts.add(path)
                new.append(facts)
        if new:
            messages.send(self._line, messages.KnownFiles(tuple(new)))

    def _receive(self) -> None:
        while not self._closing.is_set():
            try:
                message = messages.receive(self._line)
            except (OSError, EOFError):
                self._begin_again()
                continue
            match message:
                case messages.FinishedPicture():
                    self._take_finished(message)
                case messages.DroppedPictures():
                    self._take_dropped(message)
                case messages.DecodingNotice():
                    self._gate.load()
                case messages.FilledNotice():
                    self.filled.emit()
                case messages.WantedCopies():
                    self._take_wanted(message)
                case messages.OfRequest():
                    self._take_of_request(message)

    def _begin_again(self) -> None:
        """Put another process in the place of one that has ended."""
        self._process.kill()
        self._process.wait()
        self._ends.append(time.monotonic())
        hopeless = len(self._ends) == ENDS and self._ends[-1] - self._ends[0] < WITHIN
        launched = self._launch_again()
        if launched is None:
            return
        with self._lock:
            if self._closing.is_set():
                end(launched)
                return
            self._line.close()
            self._process, self._line = launched
            self._pictures.clear()
            self._plans.clear()
            self._facts.clear()
            self._looked = None
            if self._settings is not None:
                self._outbox.put(messages.NewSettings(self._epoch, self._settings))
            if self._limit is not None:
                self._outbox.put(messages.CacheLimit(self._limit))
            if self._last is not None and not hopeless:
                self._outbox.put(self._last)
        if hopeless:
            self._ends.clear()
            self._give_up("The preview ended three times over this frame: free some memory, or take other footage.")

    def _launch_again(self) -> Launched | None:
        """A new process, as soon as the system gives one; None where the window closes first."""
        reported = False
        while not self._closing.is_set():
            try:
                launched = launch(())
            except OSError as error:
                if not reported:
                    self._give_up(f"The preview cannot be started ({error}): close other programs.")
                reported = True
                self._closing.wait(AGAIN)
                continue
            return launched
        return None

    def _give_up(self, words: str) -> None:
        self._gate.owe(False)
        if self._last is not None:
            self.failed.emit(self._last.request.shot, words)

    # What the other side says

    def _take_finished(self, message: messages.FinishedPicture) -> None:
        with self._lock:
            if message.epoch == self._epoch:
                self._drop(message.gone)
                self._pictures[message.key] = message.picture

    def _take_dropped(self, message: messages.DroppedPictures) -> None:
        with self._lock:
            self._drop(message.keys)

    def _take_wanted(self, message: messages.WantedCopies) -> None:
        if self._copies is not None:
            self._copies.wanted(message.paths)

    def _take_of_request(self, message: messages.OfRequest) -> None:
        request = self._requests.get(message.number)
        if request is None:
            return
        match message:
            case messages.RequestPlan():
                self._take_plan(request.then if message.then else request, message)
            case messages.RequestAnswer():
                picture = message.picture or self._pictures.get(message.key)
                if picture is not None:
                    self.picture.emit(_shown(request, message.index, picture, message.source, exact=message.exact))
            case messages.RequestDone():
                self.answered = request
                if message.number == self._number:
                    self._gate.owe(False)
            case messages.PlanReadings():
                self.readings.emit(request.shot, message.plan, message.readings)
            case messages.RequestFailure():
                self.failed.emit(request.shot, message.words)
            case messages.ReplacedFile():
                self.replaced.emit(request.shot)

    def _take_plan(self, request: PictureRequest | None, plan: messages.RequestPlan) -> None:
        if request is None:
            return
        with self._lock:
            self._plans[request.look], self._looked = plan, None
            self._plans.move_to_end(request.look)
            while len(self._plans) > PLANS:
                self._plans.popitem(last=False)

    def _planned(self, request: PictureRequest) -> messages.RequestPlan | None:
        """What is known of a request's plan. The last answer is kept: a shot with many keys takes long to look up."""
        if self._looked is None or self._looked[0] is not request:
            planned = self._plans.get(request.look)
            if planned is None:
                return None
            self._looked = request, planned
        return self._looked[1]

    def _drop(self, keys: Iterable[PictureKey]) -> None:
        for key in keys:
            self._pictures.pop(key, None)


def _shown(
    request: PictureRequest, index: int, picture: RenderedPicture, source: SourceInfo, *, exact: bool = True
) -> PreviewPicture:
    """A picture as the answer to a request."""
    return PreviewPicture(
        request, index, picture.rgb, picture.still, source, exact=exact, draft=picture.draft, frame=picture.frame
    )
