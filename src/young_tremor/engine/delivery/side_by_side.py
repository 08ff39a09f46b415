"""Films of a list made side by side, and how far they are together."""

from __future__ import annotations

import os
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import FIRST_EXCEPTION, ThreadPoolExecutor, wait
from functools import partial

from young_tremor.base.errors import Cancelled
from young_tremor.engine.delivery import delivery_plan
from young_tremor.engine.delivery.delivery_plan import Delivery, Render, Report

AT_ONCE = min(os.cpu_count() or 1, 2)  # films: one alone leaves a fifth to a third of two cores without work
LOOK = 0.1  # seconds between two looks whether a film that waits for its turn is still wanted


class JointProgress:
    """How far several films are together, counted in frames. Films tell it from threads of their own; ``report`` is
    called by one at a time, and what it raises (``Cancelled``) ends each film at its next frame."""

    def __init__(self, films: Sequence[Delivery], report: Report) -> None:
        self._frames = [delivery_plan.frames_of(film) for film in films]
        self._done = [0.0] * len(films)
        self._report = report
        self._lock = threading.Lock()
        self._stopped = False

    def stop(self) -> None:
        """End all films at their next frame."""
        self._stopped = True

    def tell(self, number: int, done: int, total: int) -> None:
        """One of the films has come so far."""
        self._done[number] = self._frames[number] * done / max(total, 1)
        self.look()

    def look(self) -> None:
        """Report; Cancelled if the films are to end."""
        with self._lock:
            if self._stopped:
                raise Cancelled
            self._report(round(sum(self._done)), sum(self._frames))


def run_films(
    films: Sequence[Delivery],
    progress: JointProgress,
    render: Render,
    turns: threading.Semaphore,
    finished: Callable[[Delivery], None],
) -> list[str]:
    """Write films, as many at once as there are ``turns``. The first error ends the others and comes out.

    ``render``: who renders; ``finished`` is called after each film in its thread. What should be known of the results,
    in the films' order.
    """

    def make(number: int) -> tuple[str, ...]:
        while not turns.acquire(timeout=LOOK):
            progress.look()
        try:
            notes = delivery_plan.run(films[number], partial(progress.tell, number), render)
        finally:
            turns.release()
        finished(films[number])
        return notes

    with ThreadPoolExecutor(AT_ONCE, "film") as pool:
        futures = [pool.submit(make, number) for number in range(len(films))]
        done, _ = wait(futures, return_when=FIRST_EXCEPTION)
        error = next((future.exception() for future in done if future.exception() is not None), None)
        if error is not None:
            progress.stop()
            pool.shutdown(wait=True, cancel_futures=True)
            raise error
    return [note for future in futures for note in future.result()]
