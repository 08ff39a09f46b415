"""Lengths of Fourier transforms. NumPy does them here: SciPy's take longer to import than a minute of noise to make."""

from __future__ import annotations

import math
from functools import lru_cache

SMOOTH = 60**24  # of 2, 3 and 5 more than any length here has


@lru_cache(maxsize=64)
def fast_length(least: int) -> int:
    """The least length of that many or more whose transform is quick: a product of 2, 3 and 5."""
    length = least
    while math.gcd(length, SMOOTH) != length:
        length += 1
    return length
