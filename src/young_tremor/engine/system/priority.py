"""Whose turn it is: what the person waits for comes first, and work that nobody waits for goes on while they rest."""

from __future__ import annotations

import time
from collections.abc import Callable

SHORT = 0.25  # seconds without a wish after which small work goes on
MOST = 0.5  # seconds that a piece of small work waits at most: while it plays on and on, it comes between
OWED, PLAYED = 3.0, 12.0  # seconds that it waits at most for a picture that is waited for, and while it plays
LOOK = 0.02  # seconds between two looks whether it may


class PriorityGate:
    """Since when the person has wanted nothing. Everything may be called from any thread."""

    def __init__(self, now: Callable[[], float] = time.monotonic) -> None:
        self._now = now
        self._wanted = self._loaded = now()
        self._played = -PLAYED
        self._owed = False

    def touch(self) -> None:
        """The person wants something."""
        self._wanted = self._now()

    def play(self) -> None:
        """A picture of what plays is wanted."""
        self.touch()
        self._played = self._now()

    def owe(self, owed: bool) -> None:
        """They wait for a picture, or have it."""
        self._owed = owed
        if owed:
            self.touch()

    def load(self) -> None:
        """The machine is at work on what they may want next: heavy work would be in its way."""
        self._loaded = self._now()

    @property
    def seconds(self) -> float:
        """How long they have wanted nothing."""
        return self._now() - self._wanted

    @property
    def idle(self) -> float:
        """How long nothing was made for them either."""
        return self._now() - max(self._wanted, self._loaded)

    def wait(self, quiet: float = SHORT, most: float = MOST) -> None:
        """Wait until they have their picture, nothing plays, and they have wanted nothing for so long.

        Never longer than ``OWED``, ``PLAYED`` and ``most`` seconds in turn.
        """
        begun = time.monotonic()
        while self._owed and time.monotonic() < begun + OWED:
            time.sleep(LOOK)
        while self._now() - self._played < SHORT and time.monotonic() < begun + PLAYED:
            time.sleep(LOOK)
        end = time.monotonic() + most
        while self.seconds < quiet and time.monotonic() < end:
            time.sleep(LOOK)
