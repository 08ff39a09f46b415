"""Intent to plan: everything that rendering one frame of a shot needs, frozen."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np

from young_tremor.base.frames import SourceInfo
from young_tremor.base.pixels import PixelFormat
from young_tremor.geometry import camera
from young_tremor.model.project import Plate, Shot
from young_tremor.model.shake import Hit, Shake
from young_tremor.motion import sample
from young_tremor.render import warp

TURNS = np.array([0.0, 0, 1, 0, 1, 1])  # the channels that are turns
ROWS_EVERY = 0.0012  # seconds between heights at which a rolling shutter is looked at


@dataclass(frozen=True)
class Quality:
    """How a plan is rendered: ``size`` of the result (None: as delivered), the kernel, and ``over``: how much
    more than the delivered frame is seen (1.2: a tenth of it on each side)."""

    size: tuple[int, int] | None = None
    kernel: warp.Kernel = "cubic"
    over: float = 1.0


FINAL = Quality()


@dataclass(frozen=True, eq=False)
class PlatePlan:
    """One plate of a shot resolved against its source: where it stands and how it moves, in frame units.

    ``moved``: False where neither the shot's shake nor its own is to act. ``aspect``: width of the delivered frame over
    its height.
    """

    shot: Shot
    plate: Plate
    source: SourceInfo
    rate: Fraction
    aspect: float
    focal: float
    moved: bool
    fit: np.ndarray

    @property
    def sways(self) -> tuple[tuple[Shake, np.ndarray], ...]:
        """What moves it, and the share of each channel: the shot's shake and its own."""
        return sways(self.shot, self.plate)

    def source_index(self, index: int) -> int:
        """Which conformed source frame stands at delivered frame ``index``."""
        at = Fraction(index) / self.rate + Fraction(self.shot.start).limit_denominator(10**6)
        number = math.floor(at * self.source.rate + Fraction(1, 1000))
        return min(max(number, 0), self.source.frames - 1)

    def channels(self, t: np.ndarray) -> np.ndarray:
        """The six channels that move the plate at times ``t`` (n,): (n, 6)."""
        return channels(self.shot, self.plate, t)

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
    def opaque(self) -> bool:
        """Whether nothing behind it is ever seen where it covers."""
        opacity = self.plate.placement.opacity
        return self.source.alpha == "none" and opacity.constant and opacity.value >= 1


@dataclass(frozen=True, eq=False)
class Plan:
    """One shot resolved against its sources at one quality. A value: any thread may render from it.

    ``plates``: bottom to top. ``size`` is the rendered size, ``delivered`` the shot's; ``crop`` the crop that was
    solved for (the largest where it follows the motion, ``course`` (frames,) being its way), ``centre`` the shift that
    goes with it in frame units, as much of it as ``leaning`` (frames,) says.
    ``alpha``: the format of the result where it is to hold what is covered besides; the colour then goes on beyond the
    edges, so that it is whole where a pixel is covered in part.
    """

    shot: Shot
    plates: tuple[PlatePlan, ...]
    delivered: tuple[int, int]
    pixel_aspect: Fraction
    rate: Fraction
    frames: int
    size: tuple[int, int]
    kernel: warp.Kernel
    border: warp.Border
    shaken: bool
    crop: float
    centre: tuple[float, float] = (0.0, 0.0)
    course: np.ndarray | None = None
    leaning: np.ndarray | None = None
    over: float = 1.0
    alpha: PixelFormat | None = None

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
        return (self.base,) if self.base.opaque else ()

    @property
    def opaque(self) -> bool:
        """Whether the result covers the whole frame but for uncovered edges."""
        return self.base.opaque

    @property
    def seconds(self) -> float:
        return float(self.frames / self.rate)

    @property
    def focal(self) -> float:
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
        return knock.softness / 100.0 * self.struck(self.time(index), knock.frames, 1.0)[0] * self.size[1] / self.over

    def struck(self, t: float, frames: int, fall: float) -> tuple[float, Hit | None]:
        """How strongly a frame at ``t`` is still under one of the hits, and which: 0 from ``frames`` frames after."""
        best: tuple[float, Hit | None] = (0.0, None)
        for hit in self.shot.hits:
            age = math.floor((t - hit.t) * float(self.rate) + 0.5)
            if 0 <= age < frames:
                best = max(best, (hit.strength * (1.0 - fall * age / frames), hit), key=lambda each: each[0])
        return best

    def framing(self, index: int) -> tuple[float, tuple[float, float]]:
        """C of a frame: z, the crop by hand included, and b."""
        if not self.shaken:
            return 1.0, (0.0, 0.0)
        solved = self.crop if self.course is None else float(self.course[min(max(index, 0), len(self.course) - 1)])
        z = solved * float(self.by_hand(np.array([self.time(index)]))[0])
        if z <= 1:
            return z, (0.0, 0.0)
        share = 1.0 if self.leaning is None else float(self.leaning[min(max(index, 0), len(self.leaning) - 1)])
        return z, (share * self.centre[0], share * self.centre[1])

    def to_frame(self, index: int, plate: PlatePlan | None = None) -> np.ndarray:
        """C · P · F of a plate in a frame: nominal source luma pixels to frame units before the shake."""
        plate = plate or self.base
        z, b = self.framing(index) if not plate.plate.glass else (1.0, (0.0, 0.0))
        return camera.crop(z, b) @ plate.placed(np.array([self.time(index)]))[0] @ plate.fit

    @property
    def from_units(self) -> np.ndarray:
        """Frame units to rendered luma pixels."""
        return camera.pixels(self.size, self.render_aspect) @ np.diag([1 / self.over, 1 / self.over, 1.0])

    @property
    def render_aspect(self) -> float:
        return self._aspect * self.size[1] / self.size[0]

    @property
    def detail(self) -> float:
        """Source pixels per delivered pixel along a line, at most 1."""
        scale = camera.fit_scale(
            self.source.size, float(self.source.pixel_aspect), self.delivered, float(self.pixel_aspect)
        )
        return min(1.0, 1.0 / (scale * self.crop))


def sways(shot: Shot, plate: Plate) -> tuple[tuple[Shake, np.ndarray], ...]:
    """What moves a plate, and the share of each channel (6,): the shot's shake, unless it lies on the glass, and its
    own. Travel and zoom shrink with the distance, turns do not."""
    out: list[tuple[Shake, np.ndarray]] = []
    if plate.share and not plate.glass:
        out.append((shot.shake, plate.share * (TURNS + (1.0 - TURNS) / plate.distance)))
    if plate.shake is not None:
        out.append((plate.shake, np.ones(6)))
    return tuple(out)


def channels(shot: Shot, plate: Plate, t: np.ndarray) -> np.ndarray:
    """The six channels that move a plate of a shot at times ``t`` (n,): (n, 6), share and its own shake included."""
    total = np.zeros((len(t), 6))
    for shake, share in sways(shot, plate):
        total += share * sample.sample(shake, t, shot.frame.pivot, shot.hits)
    return total


def placements(plate: Plate, t: np.ndarray) -> np.ndarray:
    """P at times ``t``: (n, 3, 3)."""
    p = plate.placement
    curves = (p.x, p.y, p.size, p.angle)
    if all(curve.constant for curve in curves):
        return np.broadcast_to(camera.placement(*(curve.value for curve in curves)), (len(t), 3, 3))
    values = [curve.at(t) for curve in curves]
    return np.stack([camera.placement(*(float(v[i]) for v in values)) for i in range(len(t))])
