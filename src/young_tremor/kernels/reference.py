"""The definition of the kernels in NumPy's whole numbers (and float32): slow, plain, and bit for bit what they give."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from young_tremor.kernels import blur_taps
from young_tremor.kernels.request import BORDERS, KernelRequest, Trail

LANE = 16  # result pixels of a block
TILE, LONG_TILE = (256, 128), (512, 256)  # width and height of tiles, and of those that are drawn out
MOST_STEP, LEAST_STEP, NARROW_STEP = 7640, 14300, 1091  # Q14: how far steps from lane to lane may be from one sample
NARROW_BITS, WIDE_BITS, FAR_BITS = 14, 13, 12  # of the fraction of places whose steps are that far from it
MOST_ROWS, FAR = 1024, 15000.0
ONE = 8192  # an alpha of one


def mean(request: KernelRequest) -> np.ndarray:
    """The mean of the views of a request: (height, width) of its window."""
    frame = request.frame
    drawn = any(t.ways is not None for t in request.trails) or request.smear is not None
    out = np.zeros((frame[1], frame[0]), np.float32 if request.real else np.int16)
    kernels = [_kernels(trail) for trail in request.trails]
    smear = blur_taps.draw(request.smear, 0.0, 0.0) if request.smear is not None else None
    reach = [max((int(max(np.abs(k.dx).max(), 0)) for k in kernel), default=0) for kernel in kernels]
    reach_y = [max((int(np.abs(k.dy).max()) for k in kernel), default=0) for kernel in kernels]
    most_x, most_y = max(reach, default=0), max(reach_y, default=0)
    about = (0, 0) if smear is None else (_up(int(np.abs(smear.dx).max())), int(np.abs(smear.dy).max()))
    tile = LONG_TILE if drawn else TILE
    for top in range(0, frame[1], tile[1]):
        for left in range(0, frame[0], tile[0]):
            height, width = min(tile[1], frame[1] - top), min(tile[0], frame[0] - left)
            wide = _up(width)
            total = RunningMean(np.zeros((height, wide), out.dtype))
            if smear is not None:
                box = (left - about[0], top - about[1], wide + 2 * about[0], height + 2 * about[1])
                mine = [n for n, t in enumerate(request.trails) if t.smeared]
                under = RunningMean(np.zeros((box[3], box[2]), out.dtype))
                _join_trails(under, request, mine, kernels, box, (_up(most_x), most_y))
                if under.so_far:
                    share = total.join(under.so_far)
                    mix(total.values, _drawn(under.values, smear, about, total.values.shape), share)
                mine = [n for n, t in enumerate(request.trails) if not t.smeared]
            else:
                mine = list(range(len(request.trails)))
            box = (left, top, wide, height)
            if drawn:
                _join_trails(total, request, mine, kernels, box, (_up(most_x), most_y))
            else:
                _join_views(total, request, [v for t in request.trails for v in range(t.first, t.first + t.count)], box)
            out[top : top + height, left : left + width] = total.values[:, :width]
    window = request.window
    part = out[window.top : window.top + window.height, window.left : window.left + window.width]
    if request.real and request.made_dtype != np.float32:
        values = np.minimum(np.maximum(part, np.float32(0)), np.float32(request.top_value))
        return (values + np.float32(0.5)).astype(np.uint16)
    return part.copy() if request.real or request.raw else _round_into_format(request, part, request.fraction)


@dataclass(eq=False)
class RunningMean:
    """A mean that values join one after the other, each moving it by its share of all weights so far: an even picture
    stays what it is, however many views are averaged and however uneven their weights."""

    values: np.ndarray
    so_far: int = 0

    def join(self, weight: int) -> int:
        """Add a weight. The share of 32768 with which its values join; 32768 where the mean becomes the value."""
        self.so_far += weight
        return joining_share(weight, self.so_far)


def joining_share(weight: int, so_far: int) -> int:
    """The share of 32768 with which a value joins a running mean; ``so_far``: the weights, its own included."""
    if weight == so_far:
        return 32768
    return min((weight * 65536 + so_far) // (2 * so_far), 32767)


def mix(mean: np.ndarray, values: np.ndarray, share: int) -> None:
    """Move ``mean`` towards ``values`` by a share of 32768, in place: int16 or float32 of one shape."""
    if share == 32768:
        mean[...] = values
    elif mean.dtype == np.float32:
        mean += (values - mean) * np.float32(share / 32768)
    else:
        mean += share_of(values - mean, share)


def _up(count: int) -> int:
    return -(-count // LANE) * LANE


def _kernels(trail: Trail) -> list[blur_taps.Taps]:
    if trail.ways is None:
        return []
    return [blur_taps.draw(way, trail.ramp_in, trail.ramp_out) for way in trail.ways.reshape(-1, *trail.ways.shape[2:])]


def _join_trails(
    total: RunningMean,
    request: KernelRequest,
    numbers: list[int],
    kernels: list[list[blur_taps.Taps]],
    box: tuple[int, int, int, int],
    room: tuple[int, int],
) -> None:
    """Let the trails of these numbers join over a part of the frame (left, top, width, height)."""
    left, top, width, height = box
    for number in numbers:
        trail = request.trails[number]
        numbered = list(range(trail.first, trail.first + trail.count))
        if trail.ways is None:
            _join_views(total, request, numbered, box)
            continue
        wide = (left - room[0], top - room[1], width + 2 * room[0], height + 2 * room[1])
        views = RunningMean(np.zeros((wide[3], wide[2]), total.values.dtype))
        _join_views(views, request, numbered, wide)
        share = total.join(views.so_far)
        down, across = trail.ways.shape[:2]
        for j in range(down):
            for i in range(across):
                begin = max(request.frame[0] * i // across, left) if i else left
                end = min(request.frame[0] * (i + 1) // across, left + width) if i < across - 1 else left + width
                up = max(request.frame[1] * j // down, top) if j else top
                low = min(request.frame[1] * (j + 1) // down, top + height) if j < down - 1 else top + height
                if begin < end and up < low:
                    part = total.values[up - top : low - top, begin - left : end - left]
                    at = (begin - wide[0], up - wide[1])
                    mix(part, _drawn(views.values, kernels[number][j * across + i], at, part.shape), share)


def _drawn(picture: np.ndarray, kernel: blur_taps.Taps, at: tuple[int, int], shape: tuple[int, ...]) -> np.ndarray:
    """A part of a picture drawn out by taps; ``at``: column and row where it begins, with room about it."""
    height, width = shape
    real = picture.dtype == np.float32
    sums: np.ndarray = np.zeros(shape, np.float32 if real else np.int32)
    for dx, dy, share, part in zip(kernel.dx, kernel.dy, kernel.shares, kernel.parts, strict=True):
        values = picture[at[1] + dy : at[1] + dy + height, at[0] + dx : at[0] + dx + width]
        sums += values * part if real else values.astype(np.int32) * int(share)
    return sums if real else ((sums + 16384) >> 15).astype(np.int16)


def share_of(values: np.ndarray, share: np.ndarray | int) -> np.ndarray:
    """The product of int16 values and shares of 32768, rounded."""
    return np.asarray((values.astype(np.int32) * np.asarray(share, np.int32) + 16384) >> 15).astype(np.int16)


def cubic(s: list[np.ndarray], t: np.ndarray) -> np.ndarray:
    """Cubic convolution (R. Keys, 1981, a = -1/2) between samples at -1, 0, 1 and 2; t: int16, 0 … 32767."""
    s0, s1, s2, s3 = s
    if s0.dtype == np.float32:
        share = t.astype(np.float32) * np.float32(1 / 32768)
        d, c1 = s2 - s1, (s2 - s0) * np.float32(0.5)
        c3 = (s3 - s0 - d) * np.float32(0.5) - d
        c2 = d - c1 - c3
        return np.asarray(s1 + (c1 + (c2 + c3 * share) * share) * share)
    d, c1 = s2 - s1, (s2 - s0) >> 1
    c3 = ((s3 - s0 - d) >> 1) - d
    r = d - c1 - c3 + share_of(c3, t)
    r = c1 + share_of(r, t)
    return np.asarray(s1 + share_of(r, t))


def _join_views(mean: RunningMean, request: KernelRequest, views: list[int], box: tuple[int, int, int, int]) -> None:
    """Let views over a part of the frame (left, top, width, height) join."""
    for view in views:
        places = _tile_places(request, view, box)
        values = _dense(request, box, *places) if places is not None else _gather(request, view, box)
        mix(mean.values, values, mean.join(int(request.weights[view])))


def over(below: np.ndarray, above: np.ndarray, alpha: np.ndarray) -> np.ndarray:
    """See :func:`young_tremor.kernels.over`."""
    cover = np.clip(alpha, 0, ONE)
    rest = np.where(cover == ONE, 0, 32767 - (cover.astype(np.int32) << 2)).astype(np.int16)
    return np.asarray(above + np.where(cover == 0, below, share_of(below, rest)))


def halve(plane: np.ndarray) -> np.ndarray:
    """See :func:`young_tremor.kernels.halve`."""
    rows = (plane[::2] + plane[1::2]) >> np.int16(1)
    even, odd = rows[:, ::2], rows[:, 1::2]
    about = odd.copy()
    about[:, 1:] += odd[:, :-1]
    about[:, 0] += even[:, 0]
    return np.asarray((even + ((about + np.int16(1)) >> np.int16(1)) + np.int16(1)) >> np.int16(1))


def _to_fixed_point(values: np.ndarray) -> np.ndarray:
    return np.floor(np.clip(values * 65536.0, -1e9, 1e9)).astype(np.int64)


def _tile_places(request: KernelRequest, view: int, box: tuple[int, int, int, int]) -> tuple[np.ndarray, ...] | None:
    """Q16 source columns at (nodes, source rows), Q16 source rows at (nodes, result rows), the source rows, and of how
    many bits the fraction of places is in each pass; None where a tile is more than dense blocks can do."""
    lattice, (left, top, width, height) = request.lattice, box
    nodes, spacing, drop = lattice.nodes[view], lattice.spacing, lattice.drop
    rows = len(nodes)
    first, count = (left - lattice.left) // spacing, _up(width) // spacing + 1
    row = min((top - lattice.top) // drop, rows - 2)
    last = min((top + height - 1 - lattice.top) // drop + 1, rows - 1)
    begin, end = max(row - 1, 0), min(last + 1, rows - 1)
    near = nodes[begin : end + 1, first : first + count]
    gone, far = np.diff(near[..., 1], axis=0), np.abs(near[:-1]).max()
    slopes = np.abs(np.diff(near[..., 0], axis=0)).max()
    if not (gone.min() >= 0.1 * drop and gone.max() <= 4 * drop and slopes <= 4 * drop and far < FAR):
        return None
    y = np.arange(top, top + height) - lattice.top
    at = np.minimum(y // drop, rows - 2)
    line = nodes[:, first : first + count]
    steps = _to_fixed_point((line[at + 1, :, 1] - line[at, :, 1]) / drop)
    down = (_to_fixed_point(line[at, :, 1]) + (y - at * drop)[:, None] * steps).T
    first_row = (int(down[:, 0].min()) >> 16) - 2
    source = np.arange(first_row, (int(down[:, -1].max()) >> 16) + 5)
    if len(source) > MOST_ROWS:
        return None
    upper, lower = row, row
    while upper > 0 and (source[0] < line[upper, :, 1]).any():
        upper -= 1
    while lower < rows - 2 and (source[-1] >= line[lower + 1, :, 1]).any():
        lower += 1
    if not (np.diff(line[upper : lower + 2, :, 1], axis=0) > 0).all():
        return None
    across = np.empty((count, len(source)), np.int64)
    for j in range(count):
        x, v = line[:, j, 0], line[:, j, 1]
        for k, r in enumerate(source.tolist()):
            i = upper
            while i < lower and r >= v[i + 1]:
                i += 1
            slope = (x[i + 1] - x[i]) / (v[i + 1] - v[i])
            begins = (int(_to_fixed_point(v[i])) >> 16) + 1
            step, start = int(_to_fixed_point(slope)), int(_to_fixed_point(x[i] + (begins - v[i]) * slope))
            across[j, k] = start + (r - begins) * step
    along, down_steps, unit = np.diff(across, axis=0) - (spacing << 16), np.diff(down, axis=0), spacing * 4
    turned, wide = np.abs(down_steps).max(), MOST_STEP * unit
    if along.max() > wide or -along.min() > LEAST_STEP * unit or turned > wide:
        return None
    bits_down = WIDE_BITS if turned > NARROW_STEP * unit else NARROW_BITS
    bits = FAR_BITS if -along.min() > wide else WIDE_BITS if np.abs(along).max() > NARROW_STEP * unit else NARROW_BITS
    return across, down, source, np.array([min(bits, bits_down), bits_down])


def _lanes(at: np.ndarray, k: int, spacing: int, whole: int, bits: int) -> tuple[np.ndarray, np.ndarray]:
    """Where a block's lanes look: whole places (rows, 16), and the rest as shares of 32768. ``bits``: of the fraction
    of places; ``whole``: what a lane goes on by itself."""
    parts, less = [], 16 - bits
    for half in range(LANE // spacing):
        p, q = at[k * (LANE // spacing) + half], at[k * (LANE // spacing) + half + 1]
        step = ((q - p) >> ((3 if spacing == 8 else 4) + less)) - whole
        lane = np.arange(spacing)
        parts.append((p >> less)[:, None] + step[:, None] * lane + whole * lane)
    places = np.concatenate(parts, axis=1)
    return places >> bits, ((places & ((1 << bits) - 1)) << (15 - bits)).astype(np.int16)


def _samples(request: KernelRequest, rows: np.ndarray, columns: np.ndarray) -> np.ndarray:
    """Samples of the plane at whole places, what lies beyond included, with their fraction."""
    plane = request.plane
    found, inside = [], np.ones(np.broadcast(rows, columns).shape, bool)
    for at, count in ((rows, plane.shape[0]), (columns, plane.shape[1])):
        if request.border == "hold":
            found.append(np.clip(at, 0, count - 1))
        elif request.border == "mirror":
            rest = at % max(2 * count - 2, 1)
            found.append(np.where(rest < count, rest, 2 * count - 2 - rest))
        else:
            found.append(at % count)
            if request.border == BORDERS[3]:
                inside &= (at >= 0) & (at < count)
    values = np.where(inside, plane[found[0], found[1]], 0)
    return values.astype(np.float32) if request.real else (values.astype(np.int32) << request.fraction).astype(np.int16)


def _dense(
    request: KernelRequest,
    box: tuple[int, int, int, int],
    across: np.ndarray,
    down: np.ndarray,
    source: np.ndarray,
    fractions: np.ndarray,
) -> np.ndarray:
    """One view of a tile: along the rows of the source first, then down its columns."""
    spacing, (_, _, width, height) = request.lattice.spacing, box
    bits, bits_down = fractions.tolist()
    out = np.empty((height, width), np.float32 if request.real else np.int16)
    for k in range(width // LANE):
        whole, t = _lanes(across, k, spacing, 1 << bits, bits)
        rows = cubic([_samples(request, source[:, None], whole + n) for n in (-1, 0, 1, 2)], t)
        whole, t = _lanes(down, k, spacing, 0, bits_down)
        at, lane = np.clip(whole - int(source[0]), 1, len(source) - 3), np.arange(LANE)
        out[:, k * LANE : (k + 1) * LANE] = cubic([rows[at + n, lane] for n in (-1, 0, 1, 2)], t)
    return out


def _gather(request: KernelRequest, view: int, box: tuple[int, int, int, int]) -> np.ndarray:
    """One view of a tile pixel by pixel."""
    lattice, (left, top, width, height) = request.lattice, box
    nodes = lattice.nodes[view]
    y = np.arange(top, top + height) - lattice.top
    row = np.minimum(y // lattice.drop, len(nodes) - 2)
    ahead = (y - row * lattice.drop)[:, None, None]
    line = _to_fixed_point(nodes[row] + (nodes[row + 1] - nodes[row]) * ahead / lattice.drop)
    x = np.arange(left, left + width) - lattice.left
    column, along = x // lattice.spacing, (x % lattice.spacing)[None, :, None]
    near, far = line[:, column], line[:, column + 1]
    at = near + (((far - near) * along) >> (3 if lattice.spacing == 8 else 4))
    whole, t = at >> 16, (((at & 65535) >> 2) << 1).astype(np.int16)
    lines = []
    for j in (-1, 0, 1, 2):
        values = [_samples(request, whole[..., 1] + j, whole[..., 0] + n) for n in (-1, 0, 1, 2)]
        lines.append(cubic(values, t[..., 0]))
    return cubic(lines, t[..., 1])


def _round_into_format(request: KernelRequest, values: np.ndarray, fraction: int) -> np.ndarray:
    """Rounded, inside the format."""
    window, step = request.window, 1 << fraction
    add = np.full(values.shape, step >> 1)
    if request.dither:
        rows, columns = np.mgrid[: window.height, : window.width]
        pattern = blur_taps.bayer(columns + window.left, rows + window.top)
        add = add + (3 * step * (2 * pattern - 63) + 320) // 640
    new_values = ((values + add.astype(np.int16)) >> fraction).astype(np.int16)
    return np.clip(new_values, 0, request.top_value).astype(request.plane.dtype)
