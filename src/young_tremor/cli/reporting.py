"""What the commands share: what is said, and how far the work is."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Any

import click

FILE = click.Path(path_type=Path)


def say(text: str) -> None:
    """One line on standard error."""
    print("young-tremor: " + " ".join(text.split()), file=sys.stderr)


class SentenceQueue:
    """Sentences that are said together, as one line, at the next occasion."""

    def __init__(self) -> None:
        self._waiting: list[str] = []

    def tell(self, words: str) -> None:
        """Let a sentence wait."""
        self._waiting.append(words)

    def now(self) -> None:
        """Say what waits."""
        if self._waiting:
            say("; ".join(text.rstrip(".") for text in self._waiting) + ".")
        self._waiting.clear()


class ProgressBars:
    """A progress bar with time left for each file, on a terminal only; before the first, what waits to be said."""

    def __init__(self, said: SentenceQueue | None = None) -> None:
        self._said = said
        self._name = ""
        self._bar: Any = None
        self._done = 0

    def __call__(self, name: str, done: int, total: int) -> None:
        if self._said is not None:
            self._said.now()
        if not sys.stderr.isatty():
            return
        if self._bar is None or name != self._name:
            self._name, self._done = name, 0
            self._bar = click.progressbar(length=total, label=name, file=sys.stderr, show_pos=True)
            self._bar.render_progress()
        self._bar.update(done - self._done)
        self._done = done
        if done >= total:
            self._bar.render_finish()
            self._bar = None
