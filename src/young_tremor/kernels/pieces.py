"""Pieces of a picture laid over each other, moment by moment."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np

from young_tremor.kernels import fallback, native, reference
from young_tremor.kernels.request import WHOLE, KernelPiece, KernelRequest


class Pieces:
    """Pieces made ready for all their views, the lowest first."""

    def __init__(self, pieces: Sequence[KernelPiece]) -> None:
        self.pieces = tuple(pieces)

    @cached_property
    def _layers(self) -> native.NativeLayers:
        return native.NativeLayers(self.pieces)

    def lay(self, view: int, canvas: Sequence[np.ndarray], corner: tuple[int, int]) -> None:
        """Lay one view of all pieces onto a canvas, in place.

        Parameters
        ----------
        view : int
            Which view of their lattices.
        canvas : sequence of (rows, columns) arrays
            Colour planes and alpha, of the pieces' dtype, premultiplied.
        corner : (int, int)
            Column and row of the canvas' first pixel in the frame. It holds all the pieces' windows.
        """
        rows, columns = canvas[0].shape
        for piece in self.pieces:
            left, top = piece.window.left - corner[0], piece.window.top - corner[1]
            if left < 0 or top < 0 or left + piece.window.width > columns or top + piece.window.height > rows:
                raise ValueError("a piece lies outside of its canvas")
        if native.level() and all(plane.strides[1] == plane.itemsize for plane in canvas):
            self._layers.lay(view, canvas, corner)
        else:
            lay(self.pieces, view, canvas, corner, fallback.mean)


def lay(
    pieces: Sequence[KernelPiece],
    view: int,
    canvas: Sequence[np.ndarray],
    corner: tuple[int, int],
    mean: Callable[[KernelRequest], np.ndarray] = reference.mean,
) -> None:
    """The definition of :meth:`Pieces.lay`: every plane looked at by itself, drawn by the opacity, laid over."""
    for piece in pieces:
        request, window = piece.request(view), piece.window
        *colours, alpha = (mean(replace(request, plane=plane)) for plane in piece.planes)
        alpha = apply_opacity(np.clip(alpha, 0, 1 if alpha.dtype == np.float32 else reference.ONE), piece.opacity)
        rows = slice(window.top - corner[1], window.bottom - corner[1])
        columns = slice(window.left - corner[0], window.right - corner[0])
        for below, above in zip(
            canvas, [*(apply_opacity(plane, piece.opacity) for plane in colours), alpha], strict=True
        ):
            part = below[rows, columns]
            part[...] = part * (1 - alpha) + above if part.dtype == np.float32 else reference.over(part, above, alpha)


def apply_opacity(plane: np.ndarray, opacity: float) -> np.ndarray:
    """Samples by an opacity: int16 or float32."""
    if plane.dtype == np.float32:
        return plane * np.float32(opacity)
    share = round(opacity * WHOLE)
    return plane if share == WHOLE else reference.share_of(plane, share)
