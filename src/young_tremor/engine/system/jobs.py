"""Long work in the background: progress, time left, cancel. A job's state ends exactly once."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from typing import Literal

from young_tremor.base.errors import Cancelled, TremorError
from young_tremor.base.signal import Signal
from young_tremor.engine.system import log

State = Literal["running", "done", "cancelled", "failed"]


class Job:
    """One piece of work in a thread of its own. Signals are emitted in that thread."""

    def __init__(self, title: str, work: Callable[[Callable[[int, int], None]], None]) -> None:
        self.title = title
        self.state: State = "running"
        self.error = ""
        self.progress = Signal()  # (done, total, seconds left)
        self.ended = Signal()  # (state)
        self._cancel = threading.Event()
        self._work = work
        self._begun = time.monotonic()
        self._thread = threading.Thread(target=self._run, name=title, daemon=True)
        self._started = threading.Event()

    def start(self) -> Job:
        self._begun = time.monotonic()
        self._thread.start()
        self._started.set()
        return self

    def cancel(self) -> None:
        """Ask it to stop at its next report."""
        self._cancel.set()

    def wait(self, seconds: float | None = None) -> bool:
        """Wait for the end; whether it came. For any thread, also while another one is about to start the job."""
        if not self._started.wait(seconds):
            return False
        self._thread.join(seconds)
        return not self._thread.is_alive()

    def _report(self, done: int, total: int) -> None:
        if self._cancel.is_set():
            raise Cancelled
        spent = time.monotonic() - self._begun
        self.progress.emit(done, total, spent / max(done, 1) * (total - done))

    def _run(self) -> None:
        state: State = "done"
        try:
            self._work(self._report)
        except Cancelled:
            state = "cancelled"
        except TremorError as error:
            state, self.error = "failed", str(error)
        except Exception as error:
            state, self.error = "failed", log.unexpected(error)
        self.state = state
        self.ended.emit(state)
