"""Intent to plan: everything that rendering one frame of a shot needs, frozen."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from typing import Literal

import numpy as np
from msgspec.structs import replace as struct_replace

from young_tremor.base.frames import Frame, SourceInfo, TitlePart
from young_tremor.base.pixels import PixelFormat
from young_tremor.geometry import camera
from young_tremor.model.curve import Curve
from young_tremor.model.edge_modes import Border
from young_tremor.model.project import Plate, Shot
from young_tremor.model.shake import Hit, Point, Shake
from young_tremor.render import depth_map
from young_tremor.render.motion_layers import MotionLayer, apart, own_motion, placements, sum_layers, sways, travel

Kernel = Literal["linear", "cubic"]  # of previews, which look at fewer moments, and of final renders
SHOWN = 1e-4  # opacity below which a plate is not there
ASKED = 16  # answers that a plan keeps
ROWS_EVERY = 0.0012  # seconds between heights at which a rolling shutter is looked at


@dataclass(frozen=True)
class Quality:
    """How a plan is rendered: ``size`` of the result (None: as delivered), the kernel, and ``overscan``: how much
    more than the delivered frame is seen (1.2: a tenth of it on each side). ``views``: how many of a preview's views
    are made, as a share."""

    size: tuple[int, int] | None = None
    kernel: Kernel = "cubic"
    overscan: float = 1.0
    views: float = 1.0


FINAL = Quality()


@dataclass(frozen=True, eq=False)
class PlatePlan:
    """One plate of a shot resolved against its source: where it stands and how it moves, in frame units.

    ``moved``: False where neither the shot's shake nor its own is to act. ``aspect``: width of the delivered frame over
    its height. ``part``: the part of a title that it is, going its own way. ``near``: its depth
    picture in the frame that is rendered, if that is a file: (rows, columns) 0…1.
    """

    shot: Shot
    plate: Plate
    source: SourceInfo
    rate: Fraction
    aspect: float
    focal: float
    moved: bool
    fit: np.ndarray
    part: TitlePart | None = None
    near: np.ndarray | None = None

    @cached_property
    def deep(self) -> bool:
        """Whether points of it are at distances of their own, so that no matrix says how the shot's shake moves it."""
        moved = self.plate.share and not self.plate.glass and (self.shot.shake.strands or self.shot.over)
        return self.plate.depth is not None and bool(moved)

    def inverse(self, t: float) -> np.ndarray:
        """One over the distance of each of its points at ``t`` seconds, for a plate that is :attr:`deep`: (rows,
        columns) float32. A file that was not read stands at the middle."""
        depth = self.plate.depth
        assert depth is not None
        key = t if self.near is None and depth_map.moves(depth) else 0.0
        values = self._inverse.get(key)
        if values is None:
            aspect = self.source.size[0] * float(self.source.pixel_aspect) / self.source.size[1]
            near = self.near
            if near is None:
                near = depth_map.draw_depth(depth, aspect, key) if not depth.path else np.full((2, 2), 0.5, np.float32)
            if len(self._inverse) > ASKED:
                self._inverse.clear()
            values = self._inverse[key] = depth_map.inverse(near, depth, self._travel)
        return values

    @property
    def nearest(self) -> float:
        """By what the shot's travel is multiplied where it is nearest; 1 where it has no depth."""
        return depth_map.ends(self.plate.depth)[1] if self.plate.depth is not None else 1.0

    @cached_property
    def _inverse(self) -> dict[float, np.ndarray]:
        return {}

    @cached_property
    def _travel(self) -> float:
        """How far the shot's shake takes it at the most, in frame heights, as far as looks at it tell."""
        return travel(self.shot, self.plate) / min(self._size, 1.0)

    @property
    def _size(self) -> float:
        at = np.array([0.0, *(key.t for key in self.plate.placement.size.keys)])
        return max(float(self.plate.placement.size.at(at).min()), 0.05)

    @cached_property
    def sways(self) -> tuple[MotionLayer, ...]:
        """What moves it: the shot's shake and its own."""
        if self.part is None or self.plate.media.title is None or self.plate.media.title.apart == "whole":
            return sways(self.shot, self.plate)
        x, y = self.middle
        return apart(self.shot, self.plate, self.part.number, Point(Curve(x), Curve(y)))

    @cached_property
    def middle(self) -> tuple[float, float]:
        """Where the middle of its part stands on the frame before the crop, in frame units."""
        assert self.part is not None
        size = np.array(self.source.size)
        place = np.append(np.array(self.part.centre) * size - 0.5, 1.0)
        x, y, _ = self.placed(np.zeros(1))[0] @ self.fit @ place
        return float(x), float(y)

    def pieces(self, frame: Frame) -> tuple[PlatePlan, ...]:
        """The plate as each piece of its picture goes."""
        for piece in frame.pieces:
            if piece.part not in self._parts:
                self._parts[piece.part] = replace(self, part=piece.part)
        return tuple(self._parts[piece.part] for piece in frame.pieces)

    @cached_property
    def _parts(self) -> dict[TitlePart | None, PlatePlan]:
        return {}

    @property
    def lowest(self) -> bool:
        """Whether it is the shot's lowest plate, whose time is that of the shot's footage."""
        return self.plate is self.shot.footage

    def source_index(self, index: int) -> int:
        """Which conformed source frame stands at delivered frame ``index``, by the plate's own time and what is seen
        past its end."""
        seconds = Fraction(index) / self.rate
        if self.lowest:
            seconds += Fraction(self.shot.start).limit_denominator(10**6)
        else:
            seconds -= Fraction(self.plate.offset).limit_denominator(10**6)
        number = math.floor(seconds * self.source.rate + Fraction(1, 1000))
        if self.plate.past == "loop" and number >= self.source.frames:
            return number % self.source.frames
        return min(max(number, 0), self.source.frames - 1)

    def there(self, index: int) -> bool:
        """Whether it is seen at all in a frame: it is on, has begun, has not ended, and is not transparent."""
        t = float(index / self.rate)
        if not self.plate.on or self.opacity(t) <= SHOWN:
            return False
        if self.lowest:
            return True
        own = t - self.plate.offset + 1e-6
        return own >= 0 and (self.plate.past != "end" or self.source.still or own < self.source.seconds)

    @cached_property
    def with_outline_motion(self) -> PlatePlan | None:
        """The plate as its outline goes, where strands move that alone; None where none does, and for opaque ones."""
        if self.source.alpha == "none":
            return None
        if not any(s.matte and s.on for sway in self.sways for s in sway.shake.strands):
            return None
        spans = tuple(
            replace(over, span=struct_replace(over.span, shake=_moving_all(over.span.shake))) for over in self.shot.over
        )
        shot, plate = self.shot, self.plate
        mine = plate if plate.shake is None else struct_replace(plate, shake=_moving_all(plate.shake))
        plates = tuple(mine if item is plate else item for item in shot.plates)
        moved = struct_replace(shot, shake=_moving_all(shot.shake), plates=plates, over=spans)
        return replace(self, plate=mine, shot=moved)

    def channels(self, t: np.ndarray) -> np.ndarray:
        """The six channels that move the plate at times ``t`` (n,): (n, 6)."""
        return sum_layers(self.sways, t) if self.part is None or not len(t) else self.channels_of((self,), t)[0]

    def channels_of(self, parts: tuple[PlatePlan, ...], t: np.ndarray) -> np.ndarray:
        """The channels of parts of the plate, as :meth:`pieces` gives them: (parts, n, 6). What moves all of them is
        asked once, and what is their own is known for half a second at once."""
        title, shake = self.plate.media.title, self.plate.shake
        common = sways(self.shot, self.plate)
        if title is None or title.apart == "whole" or shake is None:
            return np.broadcast_to(sum_layers(common, t), (len(parts), len(t), 6))
        places = tuple((part.part.number, *part.middle) for part in parts if part.part is not None)
        own = own_motion(shake, title.differ, self.shot.hits, places)
        return sum_layers(common[:-1], t) + own.at(t)

    def shakes(self, t: np.ndarray) -> np.ndarray:
        """S at times ``t``: (n, 3, 3)."""
        if not self.moved:
            return np.broadcast_to(np.eye(3), (len(t), 3, 3))
        return camera.shake(self.channels(t), self.focal)

    def placed(self, t: np.ndarray) -> np.ndarray:
        """P at times ``t``: (n, 3, 3)."""
        return placements(self.plate, t)

    def opacity(self, t: float) -> float:
        """How much of it is seen, 0…1."""
        return min(max(float(self.plate.placement.opacity.at(np.array([t]))[0]), 0.0), 1.0)

    @property
    def fills(self) -> bool:
        """Whether it is meant to fill the frame: as it is said; else the lowest one is, if it is opaque."""
        if not self.plate.on or self.plate.glass:
            return False
        if self.plate.fills is not None:
            return self.plate.fills
        return self.lowest and self.opaque and self.shot.frame.fit == "fill"

    @property
    def opaque(self) -> bool:
        """Whether nothing behind it is ever seen where it covers."""
        opacity = self.plate.placement.opacity
        return self.source.alpha == "none" and opacity.constant and opacity.value >= 1


def _moving_all(shake: Shake) -> Shake:
    """A shake whose strands for outlines move all of a picture."""
    return struct_replace(shake, strands=tuple(struct_replace(strand, matte=False) for strand in shake.strands))


@dataclass(frozen=True, eq=False)
class Plan:
    """One shot resolved against its sources at one quality. A value: any thread may render from it.

    ``plates``: bottom to top. ``size`` is the rendered size, ``delivered`` the shot's; ``crop`` the crop that was
    solved for (the largest of ``crop_curve`` (frames,) where it follows the motion), ``centre`` the shift that goes
    with it in frame units, as much of it as ``recentre_weight`` (frames,) says.
    ``alpha``: the format of the result where it is to hold what is covered besides; the colour then goes on beyond the
    edges, so that it is whole where a pixel is covered in part. ``overscan``, ``views``: of its :class:`Quality`.
    """

    shot: Shot
    plates: tuple[PlatePlan, ...]
    delivered: tuple[int, int]
    pixel_aspect: Fraction
    rate: Fraction
    frames: int
    size: tuple[int, int]
    kernel: Kernel
    border: Border
    shaken: bool
    crop: float
    centre: tuple[float, float] = (0.0, 0.0)
    crop_curve: np.ndarray | None = None
    recentre_weight: np.ndarray | None = None
    overscan: float = 1.0
    alpha: PixelFormat | None = None
    views: float = 1.0

    @property
    def bare(self) -> Plan:
        """The same without what was worked out from it meanwhile."""
        return replace(self, plates=tuple(replace(plate) for plate in self.plates))

    @property
    def base(self) -> PlatePlan:
        """The lowest plate: the others are taken into its planes, depth and colours."""
        return self.plates[0]

    @property
    def source(self) -> SourceInfo:
        """What the lowest plate shows."""
        return self.base.source

    @property
    def filling(self) -> tuple[PlatePlan, ...]:
        """The plates that are meant to fill the frame: these the crop has to cover."""
        return tuple(plate for plate in self.plates if plate.fills)

    @property
    def opaque(self) -> bool:
        """Whether the result covers the whole frame but for uncovered edges."""
        return self.base.opaque

    @property
    def seconds(self) -> float:
        """How long the shot lasts."""
        return float(self.frames / self.rate)

    @property
    def focal(self) -> float:
        """The focal length in frame heights."""
        return self.base.focal

    @property
    def _aspect(self) -> float:
        return self.base.aspect

    def time(self, index: int) -> float:
        """Seconds of frame ``index`` from the shot's first."""
        return float(index / self.rate)

    def shutter(self, t: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Middle and length of the exposure of frames at times ``t`` (n,), in seconds."""
        shutter = self.shot.frame.shutter
        angle = np.clip(shutter.angle.at(t), 0.0, 720.0)
        per_degree = 1.0 / (360.0 * float(self.rate))
        return t + shutter.phase * per_degree, angle * per_degree

    def by_hand(self, t: np.ndarray) -> np.ndarray:
        """The crop that was set by hand at times ``t`` (n,): (n,), 1 or more."""
        return np.maximum(self.shot.frame.crop.at(t), 1.0)

    def channels(self, t: np.ndarray) -> np.ndarray:
        """The six channels that move the lowest plate at times ``t``: share and its own shake included."""
        return self.base.channels(t)

    def shakes(self, t: np.ndarray) -> np.ndarray:
        """S of the lowest plate at times ``t``: (n, 3, 3)."""
        return self.base.shakes(t)

    @cached_property
    def knots(self) -> np.ndarray:
        """Heights of the picture, -0.5…0.5, at which a rolling shutter is looked at: (k,); one, the middle, without."""
        if not self.shaken or self.shot.frame.readout == 0:
            return np.zeros(1)
        return np.linspace(-0.5, 0.5, max(9, math.ceil(abs(self.shot.frame.readout) / ROWS_EVERY) + 1))

    def rolled(self, t: np.ndarray, plate: PlatePlan | None = None) -> np.ndarray:
        """S at each of ``t`` (n,) as the rows at :attr:`knots` see it, each at its own time: (n, k, 3, 3)."""
        knots, plate = self.knots, plate or self.base
        if len(knots) == 1:
            return plate.shakes(t)[:, None]
        times = np.add.outer(t, knots * self.shot.frame.readout)
        return plate.shakes(times.ravel()).reshape(len(t), len(knots), 3, 3)

    def softness(self, index: int) -> float:
        """How far out of focus a frame was knocked: standard deviation of the blur in rendered pixels of luma."""
        knock = self.shot.frame.knock
        if not self.shaken or knock.frames <= 0:
            return 0.0
        return (
            knock.softness
            / 100.0
            * self.hit_envelope(self.time(index), knock.frames, 1.0)[0]
            * self.size[1]
            / self.overscan
        )

    def hit_envelope(self, t: float, frames: int, fall: float) -> tuple[float, Hit | None]:
        """How strongly a frame at ``t`` is still under one of the hits, and which: 0 from ``frames`` frames after."""
        best: tuple[float, Hit | None] = (0.0, None)
        for hit in self.shot.hits:
            age = math.floor((t - hit.t) * float(self.rate) + 0.5)
            if 0 <= age < frames:
                best = max(best, (hit.strength * (1.0 - fall * age / frames), hit), key=lambda item: item[0])
        return best

    def framing(self, index: int) -> tuple[float, tuple[float, float]]:
        """C of a frame: z, the crop by hand included, and b."""
        if not self.shaken:
            return 1.0, (0.0, 0.0)
        solved = (
            self.crop
            if self.crop_curve is None
            else float(self.crop_curve[min(max(index, 0), len(self.crop_curve) - 1)])
        )
        z = solved * float(self.by_hand(np.array([self.time(index)]))[0])
        if z <= 1:
            return z, (0.0, 0.0)
        share = (
            1.0
            if self.recentre_weight is None
            else float(self.recentre_weight[min(max(index, 0), len(self.recentre_weight) - 1)])
        )
        return z, (share * self.centre[0], share * self.centre[1])

    def to_frame(self, index: int, plate: PlatePlan | None = None) -> np.ndarray:
        """C · P · F of a plate in a frame: nominal source luma pixels to frame units before the shake."""
        plate = plate or self.base
        key = (index, plate.plate.id)
        values = self._chains.get(key)
        if values is None:
            z, b = self.framing(index) if not plate.plate.glass else (1.0, (0.0, 0.0))
            values = camera.crop(z, b) @ plate.placed(np.array([self.time(index)]))[0] @ plate.fit
            if len(self._chains) > ASKED:
                self._chains.clear()
            self._chains[key] = values
        return values

    @cached_property
    def _chains(self) -> dict[tuple[int, str], np.ndarray]:
        return {}

    @cached_property
    def to_units(self) -> np.ndarray:
        """Rendered luma pixels to frame units."""
        return np.linalg.inv(self.from_units)

    @cached_property
    def from_units(self) -> np.ndarray:
        """Frame units to rendered luma pixels."""
        return camera.pixels(self.size, self.render_aspect) @ np.diag([1 / self.overscan, 1 / self.overscan, 1.0])

    @property
    def render_aspect(self) -> float:
        """The shape of a rendered pixel."""
        return self._aspect * self.size[1] / self.size[0]

    @property
    def detail(self) -> float:
        """Source pixels per delivered pixel along a line, at most 1."""
        scale = camera.fit_scale(
            self.source.size,
            float(self.source.pixel_aspect),
            self.delivered,
            float(self.pixel_aspect),
            self.shot.frame.fit,
        )
        return min(1.0, 1.0 / (scale * self.crop))
