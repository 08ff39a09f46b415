"""Work in the background that carries what it was asked for: a late answer is dropped."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any, NamedTuple

from PySide6.QtCore import QObject, Signal

from young_tremor.desk.kit.thread_bridge import on_desk
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.engine.system.jobs import Job
from young_tremor.engine.system.priority import PriorityGate

Report = Callable[[int, int], None]
Answer = Any  # whatever work comes to; who asked for it knows its type
Work = Callable[[Report], Answer]
PATIENCE = 0.3  # seconds that closing waits for what was told to stop


def _always() -> bool:
    return True


def _silent(*_: object) -> None:
    pass


class _Outcome(NamedTuple):
    """Who hears how work came out."""

    then: Callable[[Answer], None]
    still: Callable[[], bool]
    failed: Callable[[str], None]
    ended: Callable[[], None]


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
        work: Work,
        then: Callable[[Answer], None],
        *,
        still: Callable[[], bool] = _always,
        progress: Callable[[int, int, float], None] | None = None,
        failed: Callable[[str], None] = _silent,
        ended: Callable[[], None] = _silent,
    ) -> bool:
        """Do ``work(report)`` in a thread and give its answer to ``then``; False if such work runs already.

        The answer is dropped when the project is another one by then, or when ``still()`` says that what was asked
        has changed. ``ended`` comes in any case, last; a failure is given to ``failed`` and told.
        """

        def fail(words: str) -> None:
            failed(words)
            self.told.emit(words)

        return self._start(name, work, _Outcome(then, still, fail, ended), progress)

    def run_quietly(
        self,
        name: str,
        work: Work,
        then: Callable[[Answer], None],
        *,
        still: Callable[[], bool] = _always,
        failed: Callable[[str], None] = _silent,
        ended: Callable[[], None] = _silent,
    ) -> bool:
        """The same of what nobody waits for: at each of its reports it gives way to what the person wants, and a
        failure is not told."""

        def give_way(report: Report) -> Answer:
            def report_at_rest(part: int, whole: int) -> None:
                self.rest.wait()
                report(part, whole)

            self.rest.wait()
            return work(report_at_rest)

        return self._start(name, give_way, _Outcome(then, still, failed, ended))

    def _start(
        self,
        name: str,
        work: Work,
        outcome: _Outcome,
        progress: Callable[[int, int, float], None] | None = None,
    ) -> bool:
        if name in self._jobs:
            return False
        number, answers = self._state.session.generation, list[Answer]()
        job = Job(name, lambda report: answers.append(work(report)))

        def over(state: str) -> None:
            del self._jobs[name]
            if state == "failed":
                outcome.failed(job.error)
            elif state == "done" and self._state.session.generation == number and outcome.still():
                outcome.then(answers[0])
            outcome.ended()

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
