"""The process of the preview: ``python -m young_tremor.engine.preview.preview_server FD [demo | FILE …]``.

It ends with the window: when nobody is at the other end of the line.
"""

from __future__ import annotations

import os
import signal
import socket
import sys
import threading
import time
from collections import deque
from collections.abc import Callable, Iterable
from contextlib import suppress
from functools import partial
from pathlib import Path

import numpy as np

from young_tremor.base import allocator
from young_tremor.base.errors import TremorError
from young_tremor.base.frames import SourceInfo
from young_tremor.engine.media import footage, proxies
from young_tremor.engine.media.byte_cache import ByteCache
from young_tremor.engine.preview import first_picture, messages
from young_tremor.engine.preview.picture_request import (
    PictureKey,
    PictureRequest,
    PreviewPicture,
    RenderedPicture,
    picture_key,
)
from young_tremor.engine.preview.preview_worker import PICTURES, PreviewWorker
from young_tremor.engine.preview.shot_plans import ShotPlan
from young_tremor.engine.system import log
from young_tremor.engine.system.priority import PriorityGate
from young_tremor.model.project import Shot
from young_tremor.render.plan import Plan
from young_tremor.render.resolve_plan import FrameReadings

REMEMBERED = 64  # requests
SAID = 0.1  # seconds between two words that footage is decoded
SENT = np.zeros((0, 0, 3), np.uint8)  # stands for a picture that was sent
SWITCH = 0.0005  # seconds after which a thread gives way to another


class _Line:
    """The way to the window: whole messages, from any thread."""

    def __init__(self, line: socket.socket) -> None:
        self._line, self._lock = line, threading.Lock()

    def send(self, message: messages.FromPreview) -> None:
        try:
            with self._lock:
                messages.send(self._line, message)
        except OSError:
            os._exit(0)  # the window is gone

    def receive(self) -> messages.Message:
        return messages.receive(self._line)


class _SentPictures(ByteCache[PictureKey, RenderedPicture]):
    """Which pictures the window has. They themselves are sent, and not kept here."""

    def __init__(self, line: _Line) -> None:
        super().__init__(PICTURES)
        self._line, self._epoch = line, 0
        self._order = threading.Lock()  # so that the window hears of changes as they happened
        self.next_epoch = 0  # which begins when all are let go of

    def put(self, key: PictureKey, value: RenderedPicture, size: int) -> list[PictureKey]:
        with self._order:
            gone = super().put(key, RenderedPicture(SENT, None, None, value.draft), size)
            if key in self:
                self._line.send(messages.FinishedPicture(self._epoch, key, value, tuple(gone)))
        return gone

    def resize(self, limit: int) -> list[PictureKey]:
        with self._order:
            gone = super().resize(limit)
            self._line.send(messages.DroppedPictures(tuple(gone)))
        return gone

    def clear(self) -> None:
        super().clear()
        self._epoch = self.next_epoch


class _Gate(PriorityGate):
    """Tells the window's own what the preview is at."""

    def __init__(self, line: _Line, server: PreviewServer) -> None:
        super().__init__()
        self._line, self._server, self._said = line, server, 0.0

    def load(self) -> None:
        if time.monotonic() > self._said + SAID:
            self._said = time.monotonic()
            self._line.send(messages.DecodingNotice())

    def owe(self, owed: bool) -> None:
        number = self._server.answered_number
        if not owed and number is not None:
            self._line.send(messages.RequestDone(number))


class _Copies(proxies.ProxyMaker):
    """Finds the copies of heavy footage that the window's process makes."""

    def __init__(self, line: _Line) -> None:
        super().__init__(PriorityGate())
        self._line = line

    def wanted(self, paths: Iterable[str], *, first: bool = True) -> None:
        self._line.send(messages.WantedCopies(tuple(paths)))

    def ready(self, path: str, info: SourceInfo) -> Path | None:
        """The copy of a file in this state, once it is known what it is, so that opening it takes no time."""
        key = (path, info.stamp)
        if key not in self._known and proxies.size_of(info) is not None:
            place = proxies.place_of(path, info)
            if place.exists():
                self._known[key] = None
                threading.Thread(target=self._learn, args=(key, place), name="copy", daemon=True).start()
        return super().ready(path, info)

    def _learn(self, key: tuple[str, tuple[int, ...]], place: Path) -> None:
        with suppress(TremorError):
            footage.facts(str(place))
            self._known[key] = place


class PreviewServer:
    """A worker that is told what to do over a line, and whose signals go back over it."""

    def __init__(self, line: socket.socket) -> None:
        self._line = _Line(line)
        self._pictures = _SentPictures(self._line)
        self._recent: deque[tuple[int, PictureRequest]] = deque(maxlen=REMEMBERED)
        self._said: dict[bool, tuple[PictureRequest, int]] = {}  # of a request and what comes then, the plan
        self.worker = PreviewWorker(copies=_Copies(self._line), rest=_Gate(self._line, self), pictures=self._pictures)
        self.worker.picture.connect(self._send_picture)
        self.worker.planned.connect(self._send_plan)
        self.worker.readings.connect(self._send_readings)
        self.worker.failed.connect(self._send_failure)
        self.worker.replaced.connect(partial(self._send_of, make=messages.ReplacedFile))
        self.worker.filled.connect(partial(self._line.send, messages.FilledNotice()))

    def run(self) -> None:
        """Do as the window says, until it is gone."""
        while True:
            try:
                message = self._line.receive()
            except (OSError, EOFError):
                return
            match message:
                case messages.NewRequest():
                    self._recent.append((message.number, message.request))
                    self.worker.ask(message.request)
                case messages.PlayedFrame():
                    self.worker.follow(message.index)
                case messages.KnownFiles():
                    for facts in message.facts:
                        footage.take_facts(facts)
                case messages.CacheLimit():
                    self._pictures.resize(message.limit)
                case messages.NewSettings():
                    footage.use_colour_settings(message.settings)
                    self._pictures.next_epoch = message.epoch
                    self.worker.forget(message.settings)

    def _send_picture(self, picture: PreviewPicture) -> None:
        """Answer a request: by name where the window has the picture."""
        number = self._number_of(picture.request.shot)
        planned = self.worker.plan_of(picture.request)
        if number is None or planned is None:
            return
        key = picture_key(planned.number, picture.request, picture.index)
        whole = None
        if not picture.exact or key not in self._pictures:
            whole = RenderedPicture(picture.rgb, picture.still, picture.frame)
        self._line.send(messages.RequestAnswer(number, picture.index, picture.info, picture.exact, key, whole))

    def _send_plan(self, request: PictureRequest, planned: ShotPlan) -> None:
        """Say which pictures are a request's, once."""
        for number, recent in reversed(self._recent):
            if request is recent or request is recent.then:
                then = request is not recent
                last_request, last_plan = self._said.get(then, (None, 0))
                if last_request is not request or last_plan != planned.number:
                    self._said[then] = request, planned.number
                    plan = planned.plan
                    self._line.send(messages.RequestPlan(number, then, planned.number, plan.frames, plan.source))
                return

    def _send_readings(self, shot: Shot, plan: Plan, readings: FrameReadings) -> None:
        self._send_of(shot, partial(messages.PlanReadings, plan=plan.bare, readings=readings))

    def _send_failure(self, shot: Shot, words: str) -> None:
        self._send_of(shot, partial(messages.RequestFailure, words=words))

    def _send_of(self, shot: Shot, make: Callable[[int], messages.OfRequest]) -> None:
        """Send what is about a shot that was asked for."""
        number = self._number_of(shot)
        if number is not None:
            self._line.send(make(number))

    @property
    def answered_number(self) -> int | None:
        """The number of the request that was answered last."""
        answered = self.worker.answered
        return None if answered is None else self._number_of(answered.shot)

    def _number_of(self, shot: Shot) -> int | None:
        return next((number for number, recent in reversed(self._recent) if recent.shot is shot), None)


def main() -> None:
    """Serve the window at the other end of the line."""
    sys.setswitchinterval(SWITCH)
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # a terminal's Ctrl+C is the window's to answer
    log.start()
    allocator.tidy()
    server = PreviewServer(socket.socket(fileno=int(sys.argv[1])))
    first_picture.read_first(server.worker, sys.argv[2:])
    server.run()
    os._exit(0)  # threads that still read or render must not meet the end of the interpreter


if __name__ == "__main__":
    main()
