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

SPACING = 3.0  # pixels between consecutive exposure samples
WIDE, LONG = 6.5, 9.0  # the same where the path is longer than so many pixels: what is left over drowns in the blur
MOST_SAMPLES = 128
BLURRED = 5  # views from which the cheap kernel does as well: what it softens is less than what the blur does
MOST_AFTERIMAGES = 12
ROWS_EVERY = 0.0012  # seconds between heights at which a rolling shutter is looked at
PROBE_EVERY = 0.0105  # seconds between looks at where the picture is during an exposure: 25 Hz is not missed


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
    def sways(self) -> tuple[tuple[Shake, float], ...]:
        """What moves it, and the share of each: the shot's shake and its own."""
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

    def exposures(self, indices: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Exposure sample times of frames, their number following the largest displacement on screen.

        Returns
        -------
        counts : (n,) int
            Samples of each frame.
        times : (sum of counts,) float64
            Their times, frame after frame.
        """
        middle, length = self.shutter(np.asarray(indices) / float(self.rate))
        if not self.shaken or not length.any():
            return np.ones(len(middle), int), middle
        looks = np.linspace(-0.5, 0.5, max(3, math.ceil(length.max() / PROBE_EVERY) + 1))
        probes = (middle[:, None] + length[:, None] * looks).ravel()
        half = 0.5 * self._aspect
        corners = np.array([[-half, -0.5], [half, -0.5], [half, 0.5], [-half, 0.5]])
        path = np.zeros(len(middle))
        for plate in self.plates:
            places = camera.apply(plate.shakes(probes), corners).reshape(len(middle), len(looks), 4, 2)
            steps = np.linalg.norm(np.diff(places, axis=1), axis=3)
            path = np.maximum(path, np.nan_to_num(steps, nan=9.0).sum(axis=1).max(axis=1) * self.size[1])
        wanted = np.minimum(path, LONG) / SPACING + np.maximum(path - LONG, 0.0) / WIDE
        counts = np.clip(np.ceil(wanted), 1, MOST_SAMPLES).astype(int)
        which = np.repeat(np.arange(len(middle)), counts)
        rank = np.arange(len(which)) - np.repeat(np.cumsum(counts) - counts, counts)
        return counts, middle[which] + length[which] * ((rank + 0.5) / counts[which] - 0.5)

    def moments(self, indices: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
        """All that the frames' pictures are made of: exposures, smear and afterimages.

        Returns
        -------
        counts : (n,) int
            Views of each frame.
        times : (sum of counts,) float64
            When each view is seen, frame after frame.
        shifts : (sum of counts, 2) float64
            By how much it is shifted besides, in frame units (smear).
        weights : (sum of counts,) float64
            Their shares; they add up to 1 in each frame.
        """
        counts, times = self.exposures(indices)
        weights = 1.0 / np.repeat(counts, counts)
        seconds = np.asarray(indices) / float(self.rate)
        afterimages, smears = self._afterimages(seconds), self._smears(seconds)
        if not self.shaken or not (afterimages or smears):
            return counts, times, np.zeros((len(times), 2)), weights
        starts = np.cumsum(counts) - counts
        out: list[tuple[np.ndarray, np.ndarray, np.ndarray]] = []
        for number, (start, count) in enumerate(zip(starts, counts, strict=True)):
            mine, shares = times[start : start + count], weights[start : start + count]
            shifts = np.zeros((count, 2))
            if number in smears:
                offsets = smears[number]
                shifts = np.repeat(offsets, count, axis=0)
                mine, shares = np.tile(mine, len(offsets)), np.tile(shares, len(offsets)) / len(offsets)
            if number in afterimages:
                earlier, fading = afterimages[number]
                mine, shifts = np.concatenate([mine, earlier]), np.concatenate([shifts, np.zeros((len(earlier), 2))])
                shares = np.concatenate([shares, fading]) / (1.0 + fading.sum())
            out.append((mine, shifts, shares))
        counted = np.array([len(each[0]) for each in out])
        return counted, *(np.concatenate([each[k] for each in out]) for k in range(3))  # type: ignore[return-value]

    def views(self, indices: np.ndarray, plate: PlatePlan | None = None) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """The same as counts, S of each view at the plan's knots (sum of counts, k, 3, 3), and weights."""
        counts, times, shifts, weights = self.moments(indices)
        if not shifts.any():
            return counts, self.rolled(times, plate), weights
        once, which = np.unique(times, return_inverse=True)
        return counts, camera.shift(shifts)[:, None] @ self.rolled(once, plate)[which], weights

    def softness(self, index: int) -> float:
        """How far out of focus a frame was knocked: standard deviation of the blur in rendered pixels of luma."""
        knock = self.shot.frame.knock
        if not self.shaken or knock.frames <= 0:
            return 0.0
        return knock.softness / 100.0 * self._struck(self.time(index), knock.frames, 1.0)[0] * self.size[1] / self.over

    def _struck(self, t: float, frames: int, fall: float) -> tuple[float, Hit | None]:
        """How strongly a frame at ``t`` is still under one of the hits, and which: 0 from ``frames`` frames after."""
        best: tuple[float, Hit | None] = (0.0, None)
        for hit in self.shot.hits:
            age = math.floor((t - hit.t) * float(self.rate) + 0.5)
            if 0 <= age < frames:
                best = max(best, (hit.strength * (1.0 - fall * age / frames), hit), key=lambda each: each[0])
        return best

    def _afterimages(self, seconds: np.ndarray) -> dict[int, tuple[np.ndarray, np.ndarray]]:
        """Times and sizes of the afterimages of frames, by place in ``seconds``; frames without are left out."""
        afterimages = self.shot.frame.afterimages
        if afterimages.count.constant and afterimages.count.value < 0.5:
            return {}
        counts = np.clip(np.rint(afterimages.count.at(seconds)), 0, MOST_AFTERIMAGES).astype(int)
        opacity = min(max(afterimages.opacity, 0.0), 1.0)
        steps = {int(n): np.arange(1, n + 1) for n in np.unique(counts) if n}
        return {
            k: (seconds[k] - steps[int(n)] * afterimages.lag, opacity ** steps[int(n)])
            for k, n in enumerate(counts)
            if n
        }

    def _smears(self, seconds: np.ndarray) -> dict[int, np.ndarray]:
        """Offsets (m, 2) in frame units over which frames near a hit are smeared, by place in ``seconds``."""
        smear, hits = self.shot.frame.smear, self.shot.hits
        if smear.frames <= 0 or not smear.length or not hits:
            return {}
        out = {}
        shake = self.shot.shake
        for k, t in enumerate(seconds.tolist()):
            size, strongest = self._struck(t, smear.frames, smear.fall)
            length = smear.length / 100.0 * size
            turn = math.radians(sample.heading(shake, strongest) if smear.angle is None else smear.angle)
            way = np.array([math.cos(turn), math.sin(turn)])
            if length > 0:
                count = min(max(math.ceil(length * self.size[1] / SPACING), 1), MOST_SAMPLES) + 1
                out[k] = np.linspace(-0.5, 0.5, count)[:, None] * length * way
        return out

    def kernel_for(self, views: int, plane: int) -> warp.Kernel:
        """The kernel of a plane in a frame of so many views. A blurred picture shows nothing of the sharper one, nor
        does its chroma."""
        chroma = plane > 0 and not self.source.format.rgb
        return "linear" if views >= BLURRED or (views > 1 and chroma) else self.kernel

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
        z, b = self.framing(index)
        return camera.crop(z, b) @ plate.placed(np.array([self.time(index)]))[0] @ plate.fit

    def matrices(self, index: int, plate: PlatePlan | None = None) -> tuple[np.ndarray, np.ndarray]:
        """Rendered luma pixel → nominal source luma pixel of a plate for each view of a frame and knot (n, k, 3, 3),
        and the views' shares (n,)."""
        to_frame = self.to_frame(index, plate)
        render = camera.pixels(self.size, self.render_aspect) @ np.diag([1 / self.over, 1 / self.over, 1.0])
        if not self.shaken:
            return (np.linalg.inv(to_frame) @ np.linalg.inv(render))[None, None], np.ones(1)
        _, shakes, weights = self.views(np.array([index]), plate)
        return np.linalg.inv(shakes @ to_frame) @ np.linalg.inv(render), weights

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


def sways(shot: Shot, plate: Plate) -> tuple[tuple[Shake, float], ...]:
    """What moves a plate, and the share of each: the shot's shake and its own."""
    shared = ((shot.shake, plate.share),) if plate.share else ()
    return (*shared, *(((plate.shake, 1.0),) if plate.shake is not None else ()))


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
