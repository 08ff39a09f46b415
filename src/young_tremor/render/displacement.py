"""Displacements that no matrix says: shimmer, and shakes that act on a part of the picture."""

from __future__ import annotations

from collections.abc import Callable
from copy import copy
from dataclasses import dataclass
from functools import partial

import cv2
import numpy as np

from young_tremor.geometry import camera
from young_tremor.model.shake import Region, Shake, Strand
from young_tremor.motion import regions, sample
from young_tremor.motion.strand_kinds import DisplacementField, kind_of
from young_tremor.render import depth_map
from young_tremor.render.motion_layers import TURNS, MotionLayer
from young_tremor.render.plan import Plan, PlatePlan

TO_AND_FRO, CLOSE = 6, 1e-3  # looks for the nearness of what a place shows, until two differ by less


def is_bent(plan: Plan, plate: PlatePlan | None = None) -> bool:
    """Whether frames of a plate (the lowest) need more than matrices."""
    plate = plate or plan.base
    return plan.shaken and (plate.deep or parts(plate))


def parts(plate: PlatePlan) -> bool:
    """Whether any shake of a plate acts on a part of the picture, or by a field."""
    return any(
        sway.shake.region is not None
        or any(
            sample.counts(sway.shake, s) and (s.region is not None or kind_of(s).field is not None)
            for s in sway.shake.strands
        )
        for sway in plate.sways
    )


def _regional(shake: Shake) -> list[int]:
    """The strands of a shake that act on a part of the picture, by number; fields are not among them."""
    return [
        n
        for n, s in enumerate(shake.strands)
        if s.region is not None and kind_of(s).field is None and sample.counts(shake, s)
    ]


def _strand_channels(plate: PlatePlan, sway: MotionLayer, number: int, t: np.ndarray) -> np.ndarray:
    """Channels (n, 6) of one strand of a shake with its intensity and share."""
    return sway.share * sway.strand(number, t)


def separately(
    plan: Plan, plate: PlatePlan, t: np.ndarray, nearness: float = 1.0
) -> tuple[np.ndarray, list[np.ndarray]]:
    """S at ``t`` (n,) of the strands that have no region, and with each of the others added alone: (n, 3, 3) each.
    ``nearness``: of a plate with depth, by what the shot's travel is multiplied."""

    def near(sway: MotionLayer) -> np.ndarray:
        deep = plate.deep and sway.common
        return np.where(TURNS > 0, 1.0, nearness) if deep else np.ones(6)

    base = np.zeros((len(t), 6))
    for sway in plate.sways:
        base += near(sway) * sway.share * sway.whole(t)
    alone = [
        camera.shake(base + near(sway) * _strand_channels(plate, sway, number, t), plate.focal)
        for sway in plate.sways
        for number in _regional(sway.shake)
    ]
    return camera.shake(base, plate.focal), alone


def farthest(plate: PlatePlan, t: np.ndarray) -> np.ndarray:
    """How far the shimmers may move a place at ``t`` (n,) across and down: (n, 2) in frame units."""
    far = np.zeros((len(t), 2))
    for sway in plate.sways:
        for number, strand in enumerate(sway.shake.strands):
            size = abs(sway.share[0]) * np.abs(sway.size(number, t))
            far += size[:, None] * kind_of(strand).far(strand)
    return far


@dataclass(frozen=True)
class KnownChannels:
    """The channels of a plate's shakes at one moment: of the strands that act everywhere (shakes, 6), and of each that
    acts on a part of the picture, by shake and number (6,)."""

    whole: np.ndarray
    alone: dict[tuple[int, int], np.ndarray]


def known_channels(plan: Plan, plate: PlatePlan, times: np.ndarray) -> list[KnownChannels | None]:
    """What :func:`sources` needs to know at each of ``times``, asked for at once; None under a rolling shutter, where
    each row has a time of its own."""
    if plan.shot.frame.readout or not len(times):
        return [None] * len(times)
    whole = np.stack([s.share * s.whole(times) for s in plate.sways], axis=1)
    alone = {
        (k, number): _strand_channels(plate, sway, number, times)
        for k, sway in enumerate(plate.sways)
        for number in _regional(sway.shake)
    }
    return [KnownChannels(whole[n], {key: rows[n] for key, rows in alone.items()}) for n in range(len(times))]


class DeliveredPlaces:
    """Delivered places that several views look at: ``q`` (r, m, 2) float64 in frame units, and the heights of their
    ``rows`` (r,) -0.5…0.5, which give each its own time under a rolling shutter.

    What stays from view to view is worked out once: how far regions let places move, and fields over them. Not for
    several threads at once.
    """

    def __init__(self, q: np.ndarray, rows: np.ndarray) -> None:
        self.q, self.rows = q, rows
        self._weights: dict[int, tuple[Region, np.ndarray]] = {}
        self._fields: dict[int, tuple[Strand, DisplacementField]] = {}

    def weight(self, region: Region, t: float) -> np.ndarray:
        """See :func:`young_tremor.motion.regions.weight`."""
        if regions.moves(region):
            return regions.weight(region, self.q, t)
        if id(region) not in self._weights:
            self._weights[id(region)] = region, regions.weight(region, self.q, t)
        return self._weights[id(region)][1]

    def field(self, strand: Strand) -> DisplacementField | None:
        """The displacement that a strand makes here; None where it moves the whole picture."""
        make = kind_of(strand).field
        if make is None:
            return None
        if id(strand) not in self._fields:
            self._fields[id(strand)] = strand, make(strand, self.q)
        return self._fields[id(strand)][1]


def sources(
    plan: Plan,
    plate: PlatePlan,
    t: float,
    places: DeliveredPlaces,
    moved: KnownChannels | None = None,
    nearness: np.ndarray | float = 1.0,
) -> np.ndarray:
    """Where delivered places look before a plate's shakes moved them, in frame units: S⁻¹q, only as far as regions let
    it, and the shimmers' displacement added.

    Parameters
    ----------
    t : float
        Time of the view, seconds.
    moved : KnownChannels, optional
        What :func:`known_channels` says of ``t``.
    nearness : (r, m) or float
        By what the shot's travel is multiplied at each place: one over its distance, where the plate has depth.
    """
    q, times = places.q, t + places.rows * plan.shot.frame.readout
    values = times[:1] if bool(np.all(times == times[0])) else times
    x, y = q[..., 0], q[..., 1]

    def back(channels: np.ndarray, deep: np.ndarray) -> np.ndarray:
        if plate.deep:
            return DeepLook(plate, channels - deep, deep, q).at(nearness)
        inverse = np.linalg.inv(camera.shake(channels, plate.focal))[:, :, :, None]
        lines = [inverse[:, k, 0] * x + inverse[:, k, 1] * y + inverse[:, k, 2] for k in range(3)]
        depth = np.maximum(lines[2], 1e-9)
        return np.stack([lines[0] / depth, lines[1] / depth], axis=-1)

    p, below = q, np.zeros((len(values), 6))
    if plate.deep and not parts(plate):
        if moved is None:
            shares = [s.share * s.whole(values) for s in plate.sways]
        else:
            shares = list(moved.whole)
        common = [item for item, sway in zip(shares, plate.sways, strict=True) if sway.common]
        return back(np.sum(shares, axis=0).reshape(-1, 6), np.sum(common, axis=0).reshape(-1, 6))
    still = deep = np.zeros((len(values), 6))
    for k, sway in enumerate(plate.sways):
        shake, share = sway.shake, sway.share
        start = back(below, deep) if below.any() or deep.any() else q
        if moved is None:
            base = below + share * sway.whole(values)
        else:
            base = below + moved.whole[k]
        deep = deep + (base - below) if plate.deep and sway.common else deep
        there = back(base, deep)
        gone = there - start
        for number in _regional(shake):
            region = shake.strands[number].region
            assert region is not None
            mine = _strand_channels(plate, sway, number, values) if moved is None else moved.alone[k, number]
            more = mine if plate.deep and sway.common else still
            gone = gone + places.weight(region, t)[..., None] * (back(base + mine, deep + more) - there)
        gone = gone + _shimmer_offset(sway, places, t)
        if shake.region is not None:
            gone = places.weight(shake.region, t)[..., None] * gone
        p, below = p + gone, base
    return p


def deep_alone(plan: Plan, plate: PlatePlan) -> bool:
    """Whether nothing but depth bends a plate, so that :func:`deep_look` knows where it looks."""
    return plan.shaken and plate.deep and not parts(plate) and not plan.shot.frame.readout


class DeepLook:
    """Where delivered places look into a plate that nothing but depth bends, by how near what they show is.

    S⁻¹ of places where each has its own share of the shot's travel: (sR)⁻¹ (Lens⁻¹ q − shift). All but that share is
    worked out once, since nearness is found by going to and fro.

    Parameters
    ----------
    own, deep : (n, 6) float64
        Channels at n moments: of what moves every place alike, and of the shot's travel.
    q : (n, ..., 2) float64
        Delivered places in frame units at each moment.
    """

    def __init__(self, plate: PlatePlan, own: np.ndarray, deep: np.ndarray, q: np.ndarray) -> None:
        whole = own + deep
        x, y = q[..., 0], q[..., 1]
        beside = (slice(None), *[None] * (x.ndim - 1))
        if whole[:, camera.PAN :].any():
            inverse = camera.unlens(whole[:, camera.PAN], whole[:, camera.TILT], plate.focal)
            lines = [
                inverse[:, k, 0][beside] * x + inverse[:, k, 1][beside] * y + inverse[:, k, 2][beside] for k in range(3)
            ]
            depth = np.maximum(lines[2], 1e-9)
            x, y = lines[0] / depth, lines[1] / depth
        turn = np.radians(whole[:, camera.ROLL])[beside]
        self._x, self._y = x, y
        self._cosine, self._sine = np.cos(turn), np.sin(turn)
        travel = (camera.X, camera.Y, camera.ZOOM)
        self._own, self._deep = [own[:, k][beside] for k in travel], [deep[:, k][beside] for k in travel]

    def at(self, nearness: np.ndarray | float) -> np.ndarray:
        """Where they look, (n, ..., 2), with so much of the shot's travel at each place: (n, ...), or at all."""
        across, down, larger = (o + nearness * d for o, d in zip(self._own, self._deep, strict=True))
        x, y, scale = self._x - across / 100, self._y - down / 100, np.exp(-larger / 100)
        c, s = self._cosine * scale, self._sine * scale
        out = np.empty((*x.shape, 2))
        np.add(c * x, s * y, out=out[..., 0])
        np.subtract(c * y, s * x, out=out[..., 1])
        return out

    def every_second(self) -> DeepLook:
        """The same of every second row and column of places (n, r, m, 2)."""
        fewer = copy(self)
        fewer._x, fewer._y = self._x[:, ::2, ::2], self._y[:, ::2, ::2]
        return fewer


def deep_look(plate: PlatePlan, times: np.ndarray, q: np.ndarray) -> DeepLook:
    """What :func:`sources` says of places (n, ..., 2), each row at a moment of ``times`` (n,), where nothing but depth
    bends a plate."""
    whole, deep = np.zeros((len(times), 6)), np.zeros((len(times), 6))
    for sway in plate.sways:
        made = sway.share * sway.whole(times)
        whole += made
        if sway.common:
            deep += made
    return DeepLook(plate, whole - deep, deep, q)


def _shimmer_offset(sway: MotionLayer, places: DeliveredPlaces, t: float) -> np.ndarray | float:
    """What the displacement fields of a shake add at ``t``."""
    total: np.ndarray | float = 0.0
    at = np.array([t])
    for number, strand in enumerate(sway.shake.strands):
        field = places.field(strand)
        size = float(sway.share[0]) * float(sway.size(number, at)[0]) if field is not None else 0.0
        if field is not None and size:
            moved = size * field.at(float(sway.shake.clock.integral(sway.clock(at))[0]))
            if strand.region is not None:
                moved = moved * places.weight(strand.region, t)[..., None]
            total = total + moved
    return total


def places_at(
    plan: Plan, plate: PlatePlan, index: int, times: np.ndarray, shifts: np.ndarray, at: tuple[np.ndarray, np.ndarray]
) -> np.ndarray:
    """Where views of a plate look in its source (nominal luma pixels), at rendered luma pixels:
    (views, rows, columns, 2).

    Parameters
    ----------
    times, shifts : (n,), (n, 2) float64
        Of each view: seconds, and how far it is shifted besides in frame units.
    at : (columns,), (rows,) float64
        Rendered luma pixels, each evenly spaced.
    """
    if deep_alone(plan, plate) and len(times) > 1:
        return _deep_places_at(plan, plate, index, times, shifts, at)
    grid, rows = _delivered_grid(plan, at), np.clip(at[1] / max(plan.size[1] - 1, 1) - 0.5, -0.5, 0.5)
    back, shared = np.linalg.inv(plan.to_frame(index, plate)), DeliveredPlaces(grid, rows)
    out = np.empty((len(times), *grid.shape))
    for view, (t, moved) in enumerate(zip(times.tolist(), known_channels(plan, plate, times), strict=True)):
        places = DeliveredPlaces(grid - shifts[view], rows) if shifts[view].any() else shared
        p = _before_shake(plan, plate, t, places, back, moved)
        for k in range(2):
            out[view, ..., k] = back[k, 0] * p[..., 0] + back[k, 1] * p[..., 1] + back[k, 2]
    return out


def _deep_places_at(
    plan: Plan, plate: PlatePlan, index: int, times: np.ndarray, shifts: np.ndarray, at: tuple[np.ndarray, np.ndarray]
) -> np.ndarray:
    """:func:`places_at` where nothing but depth bends the plate: all views at once."""
    q = _delivered_grid(plan, at) - shifts[:, None, None]
    back = np.linalg.inv(plan.to_frame(index, plate))
    whole, depth = deep_look(plate, times, q), plate.plate.depth
    if depth is not None and depth_map.moves(depth):
        nearness = [
            _come_together(plate, t, deep_look(plate, np.array([t]), part[None, ::2, ::2]).at, back)[0]
            for t, part in zip(times.tolist(), q, strict=True)
        ]
    else:
        nearness = [*_come_together(plate, float(times[0]), whole.every_second().at, back)]
    size = (q.shape[2], q.shape[1])
    p = whole.at(np.stack([_every_place(values, size) for values in nearness]))
    return np.stack([back[k, 0] * p[..., 0] + back[k, 1] * p[..., 1] + back[k, 2] for k in range(2)], axis=-1)


def _delivered_grid(plan: Plan, at: tuple[np.ndarray, np.ndarray]) -> np.ndarray:
    """Rendered luma pixels (columns,) and (rows,) in frame units: (rows, columns, 2)."""
    to_units = np.linalg.inv(camera.pixels(plan.size, plan.render_aspect))
    x, y = at[0] * to_units[0, 0] + to_units[0, 2], at[1] * to_units[1, 1] + to_units[1, 2]
    return np.stack(np.meshgrid(x, y), axis=-1) * plan.overscan


def _every_place(few: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """Nearness at every place from that at every second one: it is soft."""
    twice = cv2.resize(few, (2 * few.shape[1], 2 * few.shape[0]), interpolation=cv2.INTER_LINEAR)
    shifted = np.array([[1.0, 0, 0.5], [0, 1.0, 0.5]])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    return cv2.warpAffine(twice.astype(np.float32), shifted, size, flags=flags, borderMode=cv2.BORDER_REPLICATE)


def _before_shake(
    plan: Plan, plate: PlatePlan, t: float, places: DeliveredPlaces, back: np.ndarray, moved: KnownChannels | None
) -> np.ndarray:
    """Where one view looks, in frame units before the shake (r, m, 2); ``back``: see :func:`nearness_of`."""
    if not plate.deep:
        return sources(plan, plate, t, places, moved)
    q = places.q
    few = nearness_of(plan, plate, t, DeliveredPlaces(q[::2, ::2], places.rows[::2]), back, moved)
    return sources(plan, plate, t, places, moved, _every_place(few, (q.shape[1], q.shape[0])))


def nearness_of(
    plan: Plan,
    plate: PlatePlan,
    t: float,
    places: DeliveredPlaces,
    back: np.ndarray,
    moved: KnownChannels | None = None,
) -> np.ndarray:
    """One over the distance of what delivered places (r, m, 2) show: (r, m). ``back`` (3, 3) takes frame units before
    the shake to source pixels. Found by going to and fro, which comes together since depth is soft."""
    return _come_together(plate, t, partial(sources, plan, plate, t, places, moved), back)


def seen_at_once(plate: PlatePlan, times: np.ndarray, q: np.ndarray, back: np.ndarray) -> np.ndarray:
    """:func:`deep_look` with the nearness of what each place shows, of a depth that stays: (n, m, 2)."""
    look = deep_look(plate, times, q).at
    return look(_come_together(plate, float(times[0]), look, back))


def _come_together(
    plate: PlatePlan, t: float, look: Callable[[np.ndarray | float], np.ndarray], back: np.ndarray
) -> np.ndarray:
    """How near what is seen is, where ``look`` says what is seen by how near it is."""
    picture = plate.inverse(t)
    values: np.ndarray | float = 1.0
    for _ in range(TO_AND_FRO):
        before, values = values, depth_map.depth_at(picture, affine(look(values), back), plate.source.size)
        if float(np.abs(values - before).max()) < CLOSE:
            break
    return np.asarray(values)


def affine(places: np.ndarray, matrix: np.ndarray) -> np.ndarray:
    """Places (..., 2) through an affine matrix (3, 3), as float32."""
    x, y = places[..., 0], places[..., 1]
    lines = [matrix[k, 0] * x + matrix[k, 1] * y + matrix[k, 2] for k in range(2)]
    return np.stack(lines, axis=-1).astype(np.float32)
