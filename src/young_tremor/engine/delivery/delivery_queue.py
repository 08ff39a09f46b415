"""The list of deliveries: run in the background from the top, stopped, moved, run again, kept fresh."""

from __future__ import annotations

import hashlib
import os
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Literal

import msgspec

from young_tremor.base import files, typed_json, xdg
from young_tremor.base.errors import RequestError, TremorError
from young_tremor.base.signal import Signal
from young_tremor.engine.delivery import actions, delivery_plan, interchange, side_by_side, timelines
from young_tremor.engine.delivery.cluster import Cluster
from young_tremor.engine.delivery.delivery_plan import Delivery
from young_tremor.engine.library import settings
from young_tremor.engine.media import footage
from young_tremor.engine.system.jobs import Job
from young_tremor.media.codecs import EncodingChoice, codec
from young_tremor.model.project import Project

REST = 4.0  # seconds without a change after which what is kept fresh is made again
CUTS = (".otio", ".edl")  # forms in which a timeline is written
NICE = 10  # less of the machine than the desk gets
MOST = 1 << 20  # bytes of a list on disk
State = Literal["waiting", "at work", "done", "stopped", "failed"]
What = Literal["shot", "chosen", "each", "reel", "marks"]


class DeliveryRequest(msgspec.Struct, frozen=True):
    """What is to be delivered: ``what`` of the reel (with the ``shots`` by their ids, or ``within`` seconds of it), to
    a ``path`` whose name may hold fields, in a ``form`` and a colour ``space`` (the first shot's, if none is named);
    where it is each shot, also the ``timeline`` beside them. ``fresh``: made again whenever what it shows has changed.
    ``shared``: by the cluster in the preferences."""

    what: What
    path: str
    form: str = "h264"
    shots: tuple[str, ...] = ()
    within: tuple[float, float] = (0.0, 0.0)
    shaken: bool = True
    clean: bool = False
    handles: int = 0
    variants: bool = False
    motion: bool = False
    camera: bool = False
    maps: bool = False
    stems: tuple[str, ...] = ()
    quality: int = 3
    speed: int = 2
    everywhere: bool = False
    full_chroma: bool = False
    light_level: bool = False
    hardware: bool = False
    space: str = ""
    loudness: float | None = None
    fresh: bool = False
    timeline: bool = False
    overwrite: bool = False
    shared: bool = False


class _KeptList(msgspec.Struct, frozen=True, rename={"request": "wish"}):
    request: DeliveryRequest
    state: State
    said: str
    mark: str = ""
    owns: bool = False
    goes_on: bool = False


class QueuedDelivery:
    """One line of the list. ``films``: what it came to when it was started; ``written``: those that are finished;
    ``mark``: by what it is known whether what it shows has changed since; ``owns``: what is there under its names is
    its own, and ``goes_on`` of this very state, so that numbered pictures can be gone on with."""

    def __init__(self, request: DeliveryRequest, state: State = "waiting", said: str = "") -> None:
        self.request, self.state, self.said = request, state, said
        self.mark, self.owns, self.goes_on = "", False, False
        self.films: tuple[Delivery, ...] = ()
        self.written: tuple[Path, ...] = ()
        self.told: dict[str, float] = {}
        self.seen: Project | None = None  # the document that was last looked at for it
        self.changed_at: float | None = None
        self.away: Path | None = None  # the list of another document that it belongs to


def films_of(request: DeliveryRequest, project: Project, name: str, *, owns: bool = False) -> tuple[Delivery, ...]:
    """What a request comes to with a document as it is now; RequestError where it comes to nothing. ``owns``: what is
    there under its names may be replaced."""
    path = Path(request.path)
    ending = path.suffix if path.suffix.lower() in codec(request.form).suffixes else ""
    only = request.shots if request.what in ("shot", "chosen") else None
    scope = delivery_plan.Scope(
        each=request.what == "each",
        only=only,
        within=request.within if request.what == "marks" else None,
        handles=request.handles,
        variants=request.variants,
    )
    return delivery_plan.plan_deliveries(
        project,
        scope,
        delivery_plan.Naming(path.parent, path.name.removesuffix(ending), name, ending),
        form=request.form,
        clean=request.clean,
        shaken=request.shaken,
        motion=request.motion,
        camera=request.camera,
        maps=request.maps,
        stems=request.stems,
        loudness=request.loudness,
        overwrite=request.overwrite or owns,
        how=EncodingChoice(
            request.quality,
            request.speed,
            request.everywhere,
            request.full_chroma,
            request.hardware,
            request.space,
            request.light_level,
        ),
    )


class DeliveryQueue:
    """The rows, in the order in which they are run. Signals come from any thread.

    Parameters
    ----------
    document : callable
        The document as it is now, and the file it is kept in.
    """

    def __init__(
        self,
        document: Callable[[], tuple[Project, Path | None]],
        now: Callable[[], float] = time.monotonic,
        rest: float = REST,
    ) -> None:
        self._document, self._now, self._rest = document, now, rest
        self.rows: list[QueuedDelivery] = []
        self.changed = Signal()  # () a row came, went, or stands otherwise
        self.progressed = Signal()  # (row)
        self.ended = Signal()  # (row, seconds) a row is done or has failed after so long at work
        self._lock = threading.RLock()
        self._writing = threading.Lock()  # so that an older state never replaces a newer one on disk
        self._jobs: dict[QueuedDelivery, Job] = {}  # of the rows at work
        self._turns = threading.Semaphore(side_by_side.AT_ONCE)  # of films
        self._home: Path | None = None  # where the list of the document is kept

    @property
    def name(self) -> str:
        """What the project is called in names."""
        path = self._document()[1]
        return path.stem if path is not None else "Untitled"

    @property
    def row(self) -> QueuedDelivery | None:
        """The row that has been at work for longest; None if none is."""
        return next(iter(self._jobs), None)

    @property
    def running(self) -> bool:
        """Whether a row is at work."""
        return bool(self._jobs)

    def wait(self, patience: float) -> bool:
        """Wait for the end of the rows that are at work now; whether it came within ``patience`` seconds."""
        until = time.monotonic() + patience
        return all(job.wait(max(until - time.monotonic(), 0)) for job in list(self._jobs.values()))

    def add(self, request: DeliveryRequest) -> tuple[str, ...]:
        """Put a request at the end; TremorError where it could not be done. What should be known before it starts."""
        films = films_of(request, self._document()[0], self.name)
        paths = {film.path for row in self.rows if row.state in ("waiting", "at work") for film in self._films(row)}
        twice = next((film.path for film in films if film.path in paths), None)
        if twice is not None:
            raise RequestError(f"{twice.name} is in the list already: give it another name.")
        notes = delivery_plan.check(films)
        self._check_cuts(request, overwrite=request.overwrite)
        with self._lock:
            self.rows.append(QueuedDelivery(request))
        self._say()
        return notes

    def _cuts(self, request: DeliveryRequest) -> tuple[Path, ...]:
        """Where the timeline of a request goes, in both its forms; nowhere if none is asked for."""
        folder = Path(request.path).parent
        return tuple(folder / f"{self.name}{ending}" for ending in CUTS) if request.timeline else ()

    def _check_cuts(self, request: DeliveryRequest, *, overwrite: bool) -> None:
        """Refuse a timeline that could not be written."""
        for cut in self._cuts(request):
            timelines.check(cut, overwrite=overwrite)

    def _films(self, row: QueuedDelivery) -> tuple[Delivery, ...]:
        with suppress(TremorError):
            return row.films or films_of(row.request, self._document()[0], self.name)
        return ()

    def made_of(self, shot: str) -> Path | None:
        """The file that was delivered last of a shot, one of it alone before one of several; None where there is none
        (any more)."""
        found: list[tuple[bool, Path]] = []
        for row in reversed(self.rows):
            for film in self._films(row) if row.state == "done" else ():
                path = interchange.first_of(film.path) if codec(film.form).pictures else film.path
                if any(item.id == shot for item in film.shots) and path.is_file():
                    found.append((len(film.shots) > 1 or film.clean, path))
        return min(found, key=lambda item: item[0])[1] if found else None

    def start(self) -> None:
        """Run what waits, from the top: the next row begins as soon as the rows before it leave it a film's turn."""
        while self._start_next():
            pass

    def _start_next(self) -> bool:
        """Start the next row, unless the rows at work take all turns; whether one was started."""
        with self._lock:
            row = next((row for row in self.rows if row.state == "waiting"), None)
            if row is None or sum(_films_left(row) for row in self._jobs) >= side_by_side.AT_ONCE:
                return False
            row.state, row.said, row.told, row.films, row.written = "at work", "", {}, (), ()
            began = self._now()
            row.seen, row.changed_at = self._document()[0], None  # what changes from now on is looked at
            job = self._jobs[row] = Job("delivery", lambda report: self._work(row, report))
            job.ended.connect(lambda state: self._ended(row, state, job, self._now() - began))
        self._say()
        job.start()
        return True

    def stop(self, row: QueuedDelivery) -> None:
        """Stop a row, or take it out of those that wait."""
        with self._lock:
            if row in self._jobs:
                self._jobs[row].cancel()
            elif row.state == "waiting":
                row.state = "stopped"
        self._say()

    def stop_all(self, patience: float = 0.0) -> None:
        """Stop everything, and wait a moment for its end."""
        with self._lock:
            for row in self.rows:
                if row.state == "waiting":
                    row.state = "stopped"
            for job in self._jobs.values():
                job.cancel()
        self.wait(patience)

    def again(self, row: QueuedDelivery) -> None:
        """Let a row wait once more, to be made of the document as it then is; its own files are replaced."""
        with self._lock:
            if row.state not in ("waiting", "at work"):
                row.state, row.said = "waiting", ""
        self._say()

    def move(self, row: QueuedDelivery, by: int) -> None:
        """Move a row up or down."""
        with self._lock:
            at = self.rows.index(row)
            self.rows.insert(min(max(at + by, 0), len(self.rows) - 1), self.rows.pop(at))
        self._say()

    def remove(self, row: QueuedDelivery) -> None:
        """Take a row out; what it has written stays."""
        self.stop(row)
        with self._lock:
            if row in self.rows:
                self.rows.remove(row)
        self._say()

    def keep_fresh(self, row: QueuedDelivery, fresh: bool) -> None:
        """Let a row follow what it shows, or no more."""
        row.request = msgspec.structs.replace(row.request, fresh=fresh)
        row.seen = None
        self._say()

    def lamp(self, row: QueuedDelivery) -> str:
        """How what a row follows stands: fresh, waiting or at work; empty where it follows nothing."""
        if not row.request.fresh:
            return ""
        if row.state in ("at work", "waiting"):
            return row.state
        return "waiting" if row.changed_at is not None or row.state != "done" else "fresh"

    def look(self) -> None:
        """See whether what is kept fresh has changed: to be called now and then by whoever has the document."""
        project, now, due = self._document()[0], self._now(), False
        for row in [row for row in self.rows if row.request.fresh and row.away is None and row.state != "waiting"]:
            if project is not row.seen:
                row.seen, row.changed_at = project, now
            if row.changed_at is None or now - row.changed_at < self._rest:
                continue
            row.changed_at = None
            if row.state in ("done", "at work") and row.mark and row.mark == self._mark_of(row, project):
                self._say()
                continue
            if row in self._jobs:
                self.stop(row)
                row.changed_at = now  # again once it has stopped
            else:
                self.again(row)
                due = True
        if due:
            self.start()

    def _mark_of(self, row: QueuedDelivery, project: Project) -> str:
        """What a row would show now; what it showed where it would come to nothing."""
        try:
            return _mark(films_of(row.request, project, self.name))
        except TremorError:
            return row.mark

    def _work(self, row: QueuedDelivery, report: Callable[[int, int], None]) -> None:
        with suppress(OSError, AttributeError):
            os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), NICE)  # of this thread and those it starts
        project, name = self._document()[0], self.name
        films, before = films_of(row.request, project, name, owns=row.owns), row.mark
        mark = _mark(films)
        goes_on = row.goes_on and mark == before and codec(row.request.form).pictures
        if goes_on:
            films = tuple(replace(film, overwrite=False, resume=True) for film in films)
        notes = list(delivery_plan.check(films))
        self._check_cuts(row.request, overwrite=row.request.overwrite or row.owns)
        row.films, row.seen, row.mark = films, project, mark
        row.goes_on, row.owns = goes_on or not (row.owns or row.request.overwrite), True
        self.start()  # what waits, if these films leave it a turn
        progress = side_by_side.JointProgress(films, self._teller(row, report))
        turns = threading.Semaphore(1) if row.request.shared else self._turns  # one film fills a cluster
        with self._renderer(row.request) as render:
            notes += side_by_side.run_films(films, progress, render, turns, partial(self._finished, row))
        for cut in self._cuts(row.request):
            timelines.write(project, films, cut, name=name, overwrite=True)
            notes.append(f"{cut.name} has the cut with them in place")
        row.said = ". ".join(dict.fromkeys(notes))

    @contextmanager
    def _renderer(self, request: DeliveryRequest) -> Iterator[delivery_plan.Render]:
        """Who renders: this machine, or the workers of the cluster in the preferences."""
        address = settings.load().cluster
        if not request.shared:
            yield actions.render
        elif not address:
            raise RequestError("There is no cluster: give its address in the preferences, or do not share this one.")
        else:
            with Cluster(address) as cluster:
                yield cluster.render

    def _teller(self, row: QueuedDelivery, report: Callable[[int, int], None]) -> Callable[[int, int], None]:
        pace = delivery_plan.DeliveryPace(self._now)

        def told(done: int, total: int) -> None:
            if done:  # before the first frame nobody knows how long it takes
                row.told = pace.told(done, total)
                self.progressed.emit(row)
            report(done, total)

        return told

    def _finished(self, row: QueuedDelivery, film: Delivery) -> None:
        """One of a row's films is written: what waits may have its turn."""
        with self._lock:
            row.written += (film.path,)
        self.start()

    def _ended(self, row: QueuedDelivery, state: str, job: Job, seconds: float) -> None:
        with self._lock:
            row.state = {"done": "done", "cancelled": "stopped"}.get(state, "failed")  # type: ignore[assignment]
            row.said = job.error or row.said
            row.goes_on = row.goes_on and state != "done"
            del self._jobs[row]
            if row.away is not None:
                self._keep_away(row)
                self.rows = [item for item in self.rows if item is not row]
        self._say()
        if state != "cancelled":
            self.ended.emit(row, seconds)
        if state != "cancelled" or any(row.state == "waiting" for row in self.rows):
            self.start()

    def _say(self) -> None:
        self.keep()
        self.changed.emit()

    # kept for the next start

    def _place(self) -> Path | None:
        path = self._document()[1]
        if path is None:
            return None
        name = hashlib.blake2s(os.path.realpath(path).encode(errors="surrogatepass"), digest_size=12).hexdigest()
        return xdg.state() / "deliveries" / f"{name}.json"

    def keep(self) -> None:
        """Write the list beside what the application keeps for itself; a project without a name has none."""
        place = self._place()
        if place is None or (not self.rows and not place.exists()):
            return
        self._home = place
        with self._writing:
            _write(place, [_storable(row) for row in self.rows if row.away is None])

    def _keep_away(self, row: QueuedDelivery) -> None:
        """Write how a row of another document has ended into the list of that one."""
        assert row.away is not None
        there = _read(row.away)
        _write(row.away, [_storable(row) if item.request == row.request else item for item in there])

    def open(self) -> int:
        """Take up the list of the document; how many were under way when it was last left."""
        place, left = self._place(), 0
        with self._lock:
            self.rows = [row for row in self.rows if row in self._jobs]
            for row in self.rows:
                row.away = self._home if row.away is None else row.away
            self._home = place
            for item in _read(place) if place is not None else []:
                back = next((row for row in self._jobs if row.away == place and row.request == item.request), None)
                if back is not None:
                    back.away = None  # back to where it belongs, still at work
                    continue
                broken = item.state in ("at work", "waiting")
                left += broken
                text = "It was not finished: run it again." if broken else item.said
                row = QueuedDelivery(item.request, "stopped" if broken else item.state, text)
                row.mark, row.owns, row.goes_on = item.mark, item.owns, item.goes_on
                self.rows.append(row)
        self.changed.emit()
        return left


def _films_left(row: QueuedDelivery) -> int:
    """How many films of a row at work are not written; as many as run at once while that is not known, and for a
    cluster, which one row fills."""
    if not row.films or row.request.shared:
        return side_by_side.AT_ONCE
    return len(row.films) - len(row.written)


def _storable(row: QueuedDelivery) -> _KeptList:
    return _KeptList(row.request, row.state, row.said, row.mark, row.owns, row.goes_on)


def _read(place: Path) -> list[_KeptList]:
    """A list on disk; an empty one where there is none that can be read."""
    if not place.exists():
        return []
    try:
        return typed_json.decode(files.read_regular(place, MOST, "a list"), list[_KeptList])
    except (TremorError, msgspec.DecodeError):
        return []


def _write(place: Path, rows: list[_KeptList]) -> None:
    with suppress(TremorError, OSError):
        place.parent.mkdir(parents=True, exist_ok=True)
        files.write_whole(msgspec.json.encode(rows), place)


def _mark(films: tuple[Delivery, ...]) -> str:
    """By what it is known whether films would show the same again."""
    shown = [
        (str(film.path), film.form, film.how.quality, film.clean, film.shots, [footage.stamps(s) for s in film.shots])
        for film in films
    ]
    return hashlib.blake2s(msgspec.json.encode(shown), digest_size=16).hexdigest()
