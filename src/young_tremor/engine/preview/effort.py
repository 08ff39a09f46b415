"""How much effort goes into pictures while they are played: all of it, until a machine cannot follow.

Then they are drafts: fewer views come first, then fewer pixels. Once there are pictures enough in hand it goes back,
step by step.
"""

from __future__ import annotations

import statistics
from collections import deque
from dataclasses import replace

from young_tremor.render.plan import Quality

STEPS = ((1.0, 1.0), (0.5, 1.0), (0.5, 0.7), (0.5, 0.5))  # of the views, of the width and height
LATE, EARLY = 4, 24  # pictures in hand below which it steps down, and above which it goes back
LOOKED_AT = 6  # pictures whose median time is looked at
BUSY = 0.9  # of a frame's time that making its picture may take


class Effort:
    """Which step is taken: 0 for pictures as they should be."""

    def __init__(self) -> None:
        self.step = 0
        self._took: deque[float] = deque(maxlen=LOOKED_AT)

    def rest(self) -> None:
        """Nothing is played any more."""
        self._to(0)

    def made(self, took: float, frame: float, in_hand: int) -> None:
        """A picture that is played took so many seconds of the ``frame`` it is shown for, while so many before it were
        in hand."""
        self._took.append(took)
        if len(self._took) < LOOKED_AT:
            return
        if in_hand < LATE and statistics.median(self._took) > BUSY * frame:
            self._to(min(self.step + 1, len(STEPS) - 1))
        elif in_hand > EARLY:
            self._to(max(self.step - 1, 0))

    def _to(self, step: int) -> None:
        self.step = step
        self._took.clear()


def draft(quality: Quality, step: int) -> Quality:
    """What is asked for of a draft at a step; its size stays even."""
    assert quality.size is not None
    views, share = STEPS[step]
    width, height = (max(2, 2 * round(share * side / 2)) for side in quality.size)
    return replace(quality, size=(width, height), views=views)
