"""Where the views of a plane look: lattices of places for the kernels."""

from __future__ import annotations

import numpy as np

from young_tremor.base.window import Window
from young_tremor.kernels import Lattice
from young_tremor.render import displacement
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.plane_matrix import between

NODE = 16  # pixels between nodes; a lens bends by a thousandth of a pixel in between
STRAIGHT = 64  # from row to row where nothing bends
NEARLY = 0.002  # pixels that places may lie beside their own between nodes
BENT = 8  # between nodes of what no matrix says


def edges(
    size: tuple[int, int], room: tuple[int, int], spacing: int, drop: int, unit: int = 1
) -> tuple[int, int, int, int]:
    """Left, top, columns and rows of a lattice over a frame of ``size`` with ``room`` (across, down) about it. It can
    be thinned out by ``unit``."""
    left = -(-(-room[0] // (unit * NODE)) + 1) * unit * NODE
    top = -(-(-room[1] // (unit * drop)) + 1) * unit * drop
    columns = -(-(size[0] + room[0] + 2 * unit * NODE - left) // (unit * spacing)) * unit + unit
    rows = -(-(size[1] + room[1] + 1 - top) // (unit * drop)) * unit + 2 * unit
    return left, top, columns, rows


def of_matrices(
    matrices: np.ndarray, heights: tuple[float, float], size: tuple[int, int], room: tuple[int, int]
) -> Lattice:
    """The lattice of views that matrices say.

    Parameters
    ----------
    matrices : (views, k, 3, 3) float64
        Pixel of the plane's frame → pixel of its source, at heights -0.5 … 0.5 of the picture, evenly spaced.
    heights : (float, float)
        Where the plane's row 0 lies between them, and how far the next one is.
    size : (int, int)
        Width and height of the plane's frame.
    room : (int, int)
        Pixels about it that are looked at too.
    """
    with np.errstate(all="ignore"):  # what is nowhere is looked for pixel by pixel
        scaled = matrices / matrices[..., 2:, 2:]
    bend = float(np.abs(scaled[..., 2, :2]).max()) if matrices.shape[1] == 1 else 1.0
    straight, drop = bend < 1e-12, STRAIGHT
    while drop > NODE and bend * drop * drop > 4 * NEARLY:
        drop //= 2
    left, top, columns, rows = edges(size, room, NODE, drop)
    x = left + NODE * np.arange(columns, dtype=np.float64)
    y = top + drop * np.arange(rows, dtype=np.float64)
    row = scaled if matrices.shape[1] == 1 else between(scaled, heights[0] + y * heights[1])
    lines = [row[:, :, k, :1] * x + (row[:, :, k, 1] * y + row[:, :, k, 2])[..., None] for k in range(3)]
    if straight:
        return Lattice(np.stack(lines[:2], axis=-1), left, top, NODE, drop)
    depth = np.maximum(lines[2], 1e-9)
    return Lattice(np.stack([lines[0] / depth, lines[1] / depth], axis=-1), left, top, NODE, drop)


def of_plane(lattice: Lattice, step: tuple[int, int], siting: tuple[float, float], to_plane: np.ndarray) -> Lattice:
    """The lattice of a plane that has fewer pixels, from that of the luma, whose places are told in luma pixels.

    ``to_plane`` (3, 3) takes them to the plane's own, without a lens.
    """
    nodes = _thin_nodes(lattice.nodes, 1, step[1], siting[1] / lattice.drop)
    nodes = _thin_nodes(nodes, 2, step[0], siting[0] / lattice.spacing)
    if nodes is not lattice.nodes or not np.array_equal(to_plane, np.eye(3)):
        x, y = nodes[..., 0], nodes[..., 1]
        moved = np.empty(nodes.shape)
        for k in range(2):
            np.multiply(x, to_plane[k, 0], out=moved[..., k])
            if to_plane[k, 1]:
                moved[..., k] += to_plane[k, 1] * y
            moved[..., k] += to_plane[k, 2]
        nodes = moved
    return Lattice(nodes, lattice.left // step[0], lattice.top // step[1], lattice.spacing, lattice.drop)


def _thin_nodes(nodes: np.ndarray, axis: int, step: int, later: float) -> np.ndarray:
    """Every ``step``-th node along an axis, looked at by a share of the way to the next one later."""
    if step == 1 and not later:
        return nodes
    before = [slice(None)] * axis
    count = nodes.shape[axis]
    inner = -(-(count - 1) // step)  # those that have one after them
    here, after = (nodes[(*before, slice(first, first + inner * step, step))] for first in (0, 1))
    out = np.empty((*nodes.shape[:axis], -(-count // step), *nodes.shape[axis + 1 :]))
    whole = out[(*before, slice(0, inner))]
    np.subtract(after, here, out=whole)
    whole *= later
    whole += here
    if out.shape[axis] > inner:
        last, but_one = nodes[(*before, count - 1)], nodes[(*before, count - 2)]
        out[(*before, inner)] = but_one + (last - but_one) * (later + 1)
    return out


def of_displacement(
    plan: Plan, plate: PlatePlan, index: int, looks: tuple[np.ndarray, np.ndarray], room: tuple[int, int], unit: int = 1
) -> Lattice:
    """The lattice of the luma over the whole frame where no matrix says how views look: nominal source luma pixels.
    ``looks``: times (views,) and shifts (views, 2)."""
    left, top, columns, rows = edges(plan.size, room, BENT, BENT, unit)
    at = left + BENT * np.arange(columns, dtype=np.float64), top + BENT * np.arange(rows, dtype=np.float64)
    return Lattice(displacement.places_at(plan, plate, index, *looks, at), left, top, BENT, BENT)


def cut_lattice(whole: Lattice, window: Window, room: tuple[int, int], unit: int = 1) -> Lattice:
    """A lattice as :func:`of_displacement` gives it, in a window that begins at a node and at a multiple of 16 across
    (of so many pixels more by ``unit``)."""
    left, top, columns, rows = edges((window.width, window.height), room, BENT, BENT, unit)
    first = (window.left + left - whole.left) // BENT, (window.top + top - whole.top) // BENT
    nodes = whole.nodes[:, first[1] : first[1] + rows, first[0] : first[0] + columns]
    return Lattice(nodes, left, top, BENT, BENT)
