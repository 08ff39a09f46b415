"""Motion worked out at evenly spaced moments, half a second at once, and interpolated between them."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

RATE, BLOCK, KEPT = 480, 240, 12  # moments a second; so many at once; of which so many are kept


class TimeGrid:
    """Channels at any times, from those at a grid of them: the many parts of a title are asked for little at a time,
    which would take long. Any thread may call it.

    ``sample``: times (n,) → (…, n, 6).
    """

    def __init__(self, sample: Callable[[np.ndarray], np.ndarray]) -> None:
        self._sample = sample
        self._blocks: dict[int, np.ndarray] = {}

    def at(self, t: np.ndarray) -> np.ndarray:
        """Channels at times (n,) in seconds: (…, n, 6), by cubics (E. Catmull and R. Rom, 1974)."""
        at = np.asarray(t, np.float64) * RATE
        low = np.floor(at).astype(int)
        first, last = (int(low.min()) - 1) // BLOCK, (int(low.max()) + 2) // BLOCK
        known = [self._block(number) for number in range(first, last + 1)]
        whole = known[0] if len(known) == 1 else np.concatenate(known, axis=-2)
        rows, u = low - first * BLOCK, (at - low)[:, None]
        a, b, c, d = (whole[..., rows + k, :] for k in (-1, 0, 1, 2))
        return np.asarray(b + 0.5 * u * (c - a + u * (2 * a - 5 * b + 4 * c - d + u * (3 * (b - c) + d - a))))

    def _block(self, number: int) -> np.ndarray:
        block = self._blocks.get(number)
        if block is None:
            block = self._blocks[number] = self._sample((np.arange(BLOCK) + number * BLOCK) / RATE)
            for old in list(self._blocks)[:-KEPT]:
                self._blocks.pop(old, None)
        return block
