"""Work in the background that carries what it was asked for: a late answer is dropped."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, Signal

from young_tremor.desk.kit.thread_bridge import on_desk
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.engine.system.jobs import Job
from young_tremor.engine.system.priority import PriorityGate

Report = Callable[[int, int], None]
PATIENCE = 0.3  # seconds that closing waits for what was told to stop


class TaskRunner(QObject):
    """One for a window, for the desk's thread. Work of one name runs once at a time."""

    told = Signal(str)  # why something failed

    def __init__(self, state: DeskState) -> None:
        super().__init__(state)
        self.rest = PriorityGate()
        self._state = state
        self._jobs: dict[str, Job] = {}

    def busy(self, name: str) -> bool:
        """Whether work of that name is running."""
        return name in self._jobs

    def run(
        self,
        name: str,
        work: Callable[[Report], Any],
        then: Callable[[Any], None],
        *,
        still: Callable[[], bool] = lambda: True,
        progress: Callable[[int, int, float], None] | None = None,
        failed: Callable[[str], None] = lambda words: None,
        ended: Callable[[], None] = lambda: None,
        quiet: bool = False,
    ) -> bool:
        """Do ``work(report)`` in a thread and give its answer to ``then``; False if such work runs already.

        The answer is dropped when the project is another one by then, or when ``still()`` says that what was asked
        has changed. ``ended`` comes in any case, last; a failure is given to ``failed`` and told, unless ``quiet``.
        Quiet work is what nobody waits for: at each of its reports it gives way to what the person wants.
        """
        if name in self._jobs:
            return False
        number, found = self._state.session.generation, []

        def done(report: Report) -> None:
            def gives_way(part: int, whole: int) -> None:
                self.rest.wait()
                report(part, whole)

            if quiet:
                self.rest.wait()
            found.append(work(gives_way if quiet else report))

        job = Job(name, done)

        def over(state: str) -> None:
            del self._jobs[name]
            if state == "failed":
                failed(job.error)
                if not quiet:
                    self.told.emit(job.error)
            elif state == "done" and self._state.session.generation == number and still():
                then(found[0])
            ended()

        def tell(done: int, total: int, left: float) -> None:
            if name in self._jobs and progress is not None:
                progress(done, total, left)

        job.ended.connect(on_desk(self, over))
        job.progress.connect(on_desk(self, tell))
        self._jobs[name] = job
        job.start()
        return True

    def stop(self) -> None:
        """Tell all to stop, and wait a moment for them."""
        end = time.monotonic() + PATIENCE
        for job in self._jobs.values():
            job.cancel()
        for job in list(self._jobs.values()):
            job.wait(max(end - time.monotonic(), 0.0))
