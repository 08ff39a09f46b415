"""What the kernels are asked for: where views of a plane look, how they are drawn out, and what is made of them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

import numpy as np

from young_tremor.base.window import Window

Border = Literal["hold", "mirror", "repeat", "empty"]
BORDERS: tuple[Border, ...] = ("hold", "mirror", "repeat", "empty")
SPACING = 16  # result pixels from node to node of a lattice
WHOLE = 32768  # what the weights of all views add up to


@dataclass(frozen=True, eq=False)
class Lattice:
    """Where views look in a plane.

    ``nodes`` (views, rows, columns, 2) float64: source pixels, x and y, at result pixels ``left + spacing * column``
    and ``top + drop * row``; what lies between is bilinear. ``left`` is a multiple of 16, ``spacing`` 8 or 16.
    """

    nodes: np.ndarray
    left: int
    top: int
    spacing: int = SPACING
    drop: int = SPACING

    def places(self, view: int, window: Window) -> np.ndarray:
        """Where a view looks at every pixel of a window: (height, width, 2) float64."""
        nodes = self.nodes[view]
        x = (window.left - self.left + np.arange(window.width)) / self.spacing
        y = (window.top - self.top + np.arange(window.height)) / self.drop
        column = np.clip(np.floor(x).astype(int), 0, nodes.shape[1] - 2)
        row = np.clip(np.floor(y).astype(int), 0, nodes.shape[0] - 2)
        along, ahead = (x - column)[None, :, None], (y - row)[:, None, None]
        line = nodes[row] + (nodes[row + 1] - nodes[row]) * ahead
        return np.asarray(line[:, column] + (line[:, column + 1] - line[:, column]) * along)


@dataclass(frozen=True, eq=False)
class Trail:
    """Consecutive views whose sum is drawn out.

    ``ways`` (down, across, points, 2) float64: for each tile of an even division of the frame, the result pixels about
    a place over which it is averaged, evenly spaced in time; None: not drawn out. ``ramp_in``, ``ramp_out``: shares of
    a way over which it grows at its start and fades at its end. ``smeared``: whether the smear acts on it too.
    """

    first: int
    count: int
    ways: np.ndarray | None = None
    ramp_in: float = 0.0
    ramp_out: float = 0.0
    smeared: bool = False


@dataclass(frozen=True, eq=False)
class KernelRequest:
    """The mean of several views of one plane.

    ``plane`` (rows, columns): uint8 or uint16 of ``depth`` bits, int16 that has its fraction already, or float32.
    ``weights`` (views,) int: add up to ``WHOLE``. ``frame``: width and height of the result's whole frame, of which
    ``window`` is made. ``smear`` (points, 2): result pixels over which the smeared trails are averaged besides.
    ``raw``: the result is not rounded: int16 with ``13 - depth`` bits of fraction, or float32 where there are more than
    10 bits. ``dither``: a pattern of less than a step is added before rounding.
    """

    plane: np.ndarray
    lattice: Lattice
    weights: np.ndarray
    trails: tuple[Trail, ...]
    frame: tuple[int, int]
    window: Window
    depth: int = 8
    border: Border = "hold"
    smear: np.ndarray | None = None
    raw: bool = False
    dither: bool = False

    @property
    def real(self) -> bool:
        """Whether samples are worked on as float32: those that are, and more than 10 bits."""
        return self.plane.dtype == np.float32 or self.depth > 10

    @property
    def top_value(self) -> int:
        """The largest value of integers that are rounded."""
        return (1 << self.depth) - 1

    @property
    def fraction(self) -> int:
        """Bits of fraction of integer samples while they are worked on."""
        return 0 if self.real or self.plane.dtype == np.int16 else 13 - self.depth

    @property
    def made_dtype(self) -> np.dtype:
        """The NumPy type of the result."""
        if not self.raw:
            return self.plane.dtype
        return np.dtype(np.float32 if self.real else np.int16)


@dataclass(frozen=True, eq=False)
class KernelPiece:
    """A premultiplied picture and where it is seen.

    ``planes``: colours and alpha last, of one shape, int16 with a fraction or float32; nothing lies beyond them.
    ``window``: of the frame, all of which ``lattice`` covers for every view, counted from its first pixel.
    """

    planes: tuple[np.ndarray, ...]
    lattice: Lattice
    window: Window
    opacity: float = 1.0

    def request(self, view: int) -> KernelRequest:
        """What one view of the first plane takes."""
        lattice = replace(self.lattice, nodes=self.lattice.nodes[view : view + 1])
        return one_view(self.planes[0], lattice, (self.window.width, self.window.height), 8, "empty")


@lru_cache(maxsize=64)
def even_weights(count: int) -> np.ndarray:
    """The weights of ``count`` views that count alike; not to be changed."""
    return shares(np.full(count, 1.0 / count))


def shares(weights: np.ndarray) -> np.ndarray:
    """Weights that add up to 1 as whole numbers that add up to ``WHOLE``, none off by more than one."""
    sums = np.concatenate([[0.0], np.cumsum(np.asarray(weights, np.float64))])
    return np.diff(np.rint(sums / sums[-1] * WHOLE)).astype(np.int32)


def one_view(plane: np.ndarray, lattice: Lattice, size: tuple[int, int], depth: int, border: Border) -> KernelRequest:
    """A request for the only view of a lattice over a frame of ``size``, not rounded."""
    window = Window(0, 0, *size)
    return KernelRequest(plane, lattice, even_weights(1), (Trail(0, 1),), size, window, depth, border, raw=True)
