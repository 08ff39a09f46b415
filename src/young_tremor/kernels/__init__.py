"""Kernels on planes: compiled where there is a library for this machine, with stand-ins where there is none.

``reference`` defines every result, number by number; the compiled kernels give the same bits on every processor and in
any number of threads. ``plain`` stands in for them with a general library, a little less sharp and several times slower.
"""

from __future__ import annotations

import numpy as np

from young_tremor.kernels import native, plain
from young_tremor.kernels.request import Border, Lattice, Request, Trail, Window, even_weights, shares

__all__ = ["Border", "Lattice", "Request", "Trail", "Window", "describe", "even_weights", "mean_views", "shares"]

RELEASE = f"kernels {native.VERSION}"


def mean_views(request: Request) -> np.ndarray:
    """The mean of the views of a plane: (height, width) of the request's window, of the plane's own dtype (int16 if
    ``raw``)."""
    if native.level():
        return native.mean(request)[0]
    return plain.mean(request)


def describe() -> str:
    """Which kernels run, for *About* and ``info --system``."""
    level = native.level()
    if not level:
        return "stand-ins (no compiled kernels for this machine)"
    return f"{RELEASE}, x86-64-v{level}" if level > 1 else RELEASE
