"""Deliveries by several machines: the workers of a Dask cluster render parts, which are put together here.

Every machine needs the same version of Young Tremor, and the footage under the same paths; for numbered pictures also
the folder they are written into. Frames are the same bytes whoever renders them, so a part that a lost worker held is
simply rendered again.
"""

from __future__ import annotations

import logging
import os
import tempfile
from collections import deque
from collections.abc import Iterator
from contextlib import ExitStack
from dataclasses import dataclass
from functools import lru_cache, partial
from pathlib import Path
from typing import Any

import numpy as np

from young_tremor import __version__, kernels
from young_tremor.base import files
from young_tremor.base.errors import RequestError, TremorError, WorkError
from young_tremor.base.frames import Frame
from young_tremor.base.lazy_import import lazily
from young_tremor.engine.delivery import actions
from young_tremor.export import film
from young_tremor.media.codecs import EncodingChoice, codec
from young_tremor.media.picture_writer import name_of
from young_tremor.media.video_writer import check_output
from young_tremor.model.project import Shot

distributed: Any = lazily("distributed")

LOCAL = "local"  # in place of an address: a cluster of all cores of this machine
PATIENCE = 15  # seconds for a scheduler to answer
RETRIES = 3  # of a part that fails by itself
AHEAD = 2  # parts for each thread of a worker that are under way or wait to be put in
PART, FRAMES = 64 << 20, (2, 24)  # bytes that come back at once, and how many frames that is at least and at most
NEEDED = "Sharing work between machines needs an extra: install it with pip install 'young-tremor[cluster]'."

Report = actions.Report


class Cluster:
    """Workers that render, as a context manager. For one thread.

    ``address``: of a scheduler, ``tcp://HOST:8786``, or ``local``.

    Raises
    ------
    RequestError
        Nobody answers, there are no workers, they have another version, or the extra is not installed.
    """

    def __init__(self, address: str) -> None:
        self._address, self._open = address, ExitStack()

    def __enter__(self) -> Cluster:
        logging.getLogger("distributed").setLevel(logging.CRITICAL)  # what is wrong is said by our own errors
        try:
            self._client = self._open.enter_context(self._connected())
            self._check()
        except ModuleNotFoundError as error:
            self._open.close()
            raise RequestError(NEEDED) from error
        except (OSError, ValueError) as error:
            self._open.close()
            raise RequestError(
                f"No cluster answers at {self._address}: start a scheduler there, or check the address."
            ) from error
        except BaseException:
            self._open.close()
            raise
        return self

    def __exit__(self, *error: object) -> None:
        self._open.close()

    def _connected(self) -> Any:
        if self._address != LOCAL:
            return distributed.Client(self._address, timeout=PATIENCE, set_as_default=False)
        folder = self._open.enter_context(tempfile.TemporaryDirectory(prefix="young-tremor-"))
        workers = distributed.LocalCluster(
            n_workers=os.cpu_count() or 1,
            threads_per_worker=1,
            processes=True,
            dashboard_address=None,
            silence_logs=logging.CRITICAL,
            local_directory=folder,
        )
        self._open.enter_context(workers)
        return distributed.Client(workers, set_as_default=False)

    def _check(self) -> None:
        threads = self._client.nthreads()
        if not threads:
            raise RequestError(f"The cluster at {self._address} has no workers: start some.")
        mine = _release()
        table = {name: found for name, found in self._client.run(_release).items() if found != mine}
        for name, found in table.items():
            raise RequestError(f"The worker at {name} has {found}, this machine {mine}: install the same on both.")
        self._threads = sum(threads.values())

    def render(self, shots: tuple[Shot, ...], output: Path, report: Report, **options: Any) -> tuple[str, ...]:
        """What :func:`young_tremor.engine.delivery.actions.render` does, the frames rendered by the workers."""
        asked = actions.RenderOptions(**options)
        chosen = codec(asked.codec_name, asked.how)
        check_output(output, chosen, overwrite=asked.overwrite)
        parts = actions.parts_of(shots, (output,), asked.shaken, asked.loudness)
        work = FilmWork(shots, asked.shaken, asked.codec_name, asked.how)
        if chosen.pictures:
            self._write_pictures(parts, work, output, report, asked)
        else:
            render = partial(self._frames, work)
            film.write_movie(parts, output, chosen, report, overwrite=asked.overwrite, render=render)
        return film.notes(parts, chosen)

    def _write_pictures(
        self,
        parts: list[film.FilmPart],
        work: FilmWork,
        output: Path,
        report: Report,
        asked: actions.RenderOptions,
    ) -> None:
        """Let workers write numbered pictures under their final names."""
        total = sum(part.plan.frames for part in parts)
        first, last = (1, total) if asked.frames is None else (max(asked.frames[0], 1), min(asked.frames[1], total))
        many = _many(parts[0].plan.source.format.nbytes(parts[0].plan.size))
        cuts = [(low, min(low + many - 1, last)) for low in range(first, last + 1, many)]
        done = 0
        with _PartQueue(self._client, self._threads) as queue:
            for low, high in cuts:
                queue.put(_write_part, work, str(output), low, high, asked.overwrite)
            while queue:
                queue.take()
                low, high = cuts.pop(0)
                done += high - low + 1
                report(done, last - first + 1)
        finished = [name_of(output, number) for number in range(first, last + 1)]
        self._client.run(files.sweep_targets, finished)  # what a lost worker has left unfinished
        files.sweep_targets(finished)

    def _frames(self, work: FilmWork, number: int, part: film.FilmPart, look: film.FilmLook) -> Iterator[Frame]:
        """The frames of one shot in order, as they come back."""
        many = _many(look.format.nbytes(part.plan.size))
        cuts = iter(range(0, part.plan.frames, many))
        with _PartQueue(self._client, self._threads) as queue:
            while True:
                while len(queue) < AHEAD * self._threads and (low := next(cuts, None)) is not None:
                    queue.put(_render_part, work, number, low, min(low + many, part.plan.frames))
                if not queue:
                    return
                for planes in queue.take():
                    yield Frame(tuple(planes), look.format, look.colour)


@dataclass(frozen=True)
class FilmWork:
    """What workers are told of a film: its shots, whether they are shaken, the form and how it is encoded."""

    shots: tuple[Shot, ...]
    shaken: bool
    form: str
    how: EncodingChoice


class _PartQueue:
    """Parts that are under way, taken in the order in which they were put; what is left is cancelled."""

    def __init__(self, client: Any, threads: int) -> None:
        self._client, self._threads = client, threads
        self._waiting: deque[Any] = deque()

    def __enter__(self) -> _PartQueue:
        return self

    def __exit__(self, *error: object) -> None:
        if self._waiting:
            self._client.cancel(list(self._waiting), force=True)

    def __len__(self) -> int:
        return len(self._waiting)

    def put(self, work: Any, *given: Any) -> None:
        self._waiting.append(self._client.submit(work, *given, pure=False, retries=RETRIES))

    def take(self) -> Any:
        """What the oldest part comes to. WorkError where no worker could do it."""
        try:
            return self._waiting.popleft().result()
        except TremorError:
            raise
        except (distributed.KilledWorker, distributed.CancelledError, OSError) as error:
            raise WorkError(f"No worker could render a part ({type(error).__name__}): try again.") from error


def _many(nbytes: int) -> int:
    """How many frames make a part."""
    return min(max(PART // max(nbytes, 1), FRAMES[0]), FRAMES[1])


# What workers do


def _release() -> str:
    return f"Young Tremor {__version__}, {kernels.RELEASE}"


@lru_cache(maxsize=4)
def _parts(work: FilmWork) -> tuple[list[film.FilmPart], film.FilmLook]:
    """Plans of a film and how it is to look, kept for the next part."""
    chosen = codec(work.form, work.how)
    parts = film.transparent(actions.parts_of(work.shots, (), work.shaken), chosen)
    return parts, film.look_of(parts, chosen)


def _render_part(work: FilmWork, number: int, first: int, last: int) -> list[list[np.ndarray]]:
    """The planes of the frames from one of a shot to before another."""
    parts, look = _parts(work)
    frames = film.render_frames(parts[number], look, range(first, last))
    return [[np.ascontiguousarray(plane) for plane in frame.planes] for frame in frames]


def _write_part(work: FilmWork, output: str, first: int, last: int, overwrite: bool) -> None:
    """Write the pictures from one number to another; those that an earlier try has finished stay."""
    actions.render(
        work.shots,
        Path(output),
        lambda done, total: None,
        codec_name=work.form,
        how=work.how,
        shaken=work.shaken,
        frames=(first, last),
        overwrite=overwrite,
        resume=not overwrite,
    )
