"""What the chart draws: strands and the whole camera as numbers over time."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

import numpy as np
from msgspec.structs import replace

from young_tremor.base.frames import SourceInfo
from young_tremor.geometry import camera
from young_tremor.model.curve import Curve
from young_tremor.model.project import Preset, Project, Shot
from young_tremor.model.shake import CHANNELS, Drift, Hit, Plotted, Point, Strand
from young_tremor.model.shot_edits import Edit
from young_tremor.motion import sample
from young_tremor.motion.strand_kinds import HELD, kind_of, on_clock, sizes
from young_tremor.render.motion_layers import channels
from young_tremor.render.resolve_plan import resolve

Times = tuple[float, float, int]  # first, last, how many


@dataclass(frozen=True)
class CameraTrace:
    """The sum: ``centre`` (n, 2) is where the frame's centre goes in delivered pixels, lens turns included;
    ``roll`` (n,) degrees, ``zoom`` (n,) percent."""

    t: np.ndarray
    centre: np.ndarray
    roll: np.ndarray
    zoom: np.ndarray

    @property
    def peak(self) -> float:
        """Farthest the centre goes, in pixels."""
        return float(np.linalg.norm(self.centre, axis=1).max(initial=0.0))

    @property
    def peak_roll(self) -> float:
        """The largest turn in degrees."""
        return float(np.abs(self.roll).max(initial=0.0))


def strand_trace(shot: Shot, number: int, times: Times) -> tuple[np.ndarray, np.ndarray]:
    """Times (n,) and the six channels (n, 6) of one strand with its amount, drawn even while it is off."""
    t = np.linspace(*times)
    return t, strand_at(shot, number, t)


def strand_at(shot: Shot, number: int, t: np.ndarray) -> np.ndarray:
    """The six channels (n, 6) of one strand with its amount at times (n,), also while it is off."""
    strand = shot.shake.strands[number]
    moved = sample.bare(strand, shot.shake, shot.hits, t) * strand.amount.at(t)[:, None]
    return moved * sample.acting(strand.stretch, t)[:, None]


def hears(strand: Strand) -> bool:
    """Whether a strand answers to hits."""
    return kind_of(strand).hears


def bridged_frames(shot: Shot, number: int, frames: int, rate: Fraction) -> np.ndarray | None:
    """In which frames of a shot a strand moves it by what was bridged, (frames,) bool; None where in none."""
    found = kind_of(shot.shake.strands[number]).bridged
    if found is None:
        return None
    out = found(shot.shake.strands[number], shot.shake.clock.integral(np.arange(frames) / float(rate)))
    return np.asarray(out) if out.any() else None


def camera_trace(shot: Shot, info: SourceInfo, times: Times) -> CameraTrace:
    """The whole camera of a shot, in pixels of its delivery."""
    width, height = (shot.size.width, shot.size.height) if shot.size else info.size
    t = np.linspace(*times)
    total = channels(shot, shot.footage, t)
    focal = camera.focal(shot.frame.focal_mm, width * float(_aspect(shot, info)) / height)
    places = camera.apply(camera.shake(total, focal), np.zeros((1, 2)))[:, 0]
    return CameraTrace(t, places * height, total[:, 2], total[:, 3])


def _aspect(shot: Shot, info: SourceInfo) -> Fraction:
    return Fraction(shot.size.pixel_aspect) if shot.size else info.pixel_aspect


def warm(opening: Edit, info: SourceInfo) -> None:
    """Work out in a worker's thread what drawing a shot's shake for the first time takes long to know. ``opening``: the
    edit that will put it into the reel."""
    shot = opening(Project()).shots[0]
    camera_trace(shot, info, (0.0, max(info.seconds, 1.0), 100))


def reaches(strand: Strand) -> np.ndarray:
    """How far each channel of a strand goes at amount 100 %, in its unit: (6,)."""
    return kind_of(strand).reach(strand)


def size_here(shot: Shot, strand: Drift, seconds: float) -> tuple[float, float]:
    """How large this course of a drift is in a shot of so many seconds, in times its reach: of its least and of its
    largest channel; one that is to hold its reach there after it was scaled as far as a course may be."""
    clock, together = shot.shake.clock, shot.shake.together
    bare = on_clock(replace(strand, amount=Curve(1.0), holds=0.0), clock)
    values = sizes(bare, clock, (0.0, seconds), together)
    if strand.holds:
        values = values / np.clip(sizes(bare, clock, (-shot.shake.trimmed, strand.holds), together), *HELD)
    values = values[[strand.channels[name].reach != 0 for name in CHANNELS]]
    return (float(values.min()), float(values.max())) if len(values) else (1.0, 1.0)


def plotted_path(shot: Shot, strand: Plotted) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The path of a plotted strand on the picture, in frame heights from the centre, without its amount.

    Returns
    -------
    line : (n, 2) float64
        Between its first and last shift keys.
    places, times : (k, 2) and (k,) float64
        Where and when its shift keys stand.
    """
    times = np.array(sorted({key.t for curve in (strand.x, strand.y) for key in curve.keys}))
    if not times.size:
        return np.zeros((0, 2)), np.zeros((0, 2)), times

    def at(t: np.ndarray) -> np.ndarray:
        return np.column_stack([strand.x.at(t), strand.y.at(t)]) / 100

    return at(np.linspace(times[0], times[-1], 240)), at(times), times


@lru_cache(maxsize=64)
def preset_motion(preset: Preset, seconds: float = 6.0, count: int = 180) -> np.ndarray:
    """Some seconds of a preset as the way of a picture: (count, 4) shift in percent of frame height, turn in degrees,
    zoom in percent. Jolts are struck twice."""
    hits = (Hit("a", 0.15 * seconds), Hit("b", 0.6 * seconds, 0.7))
    channels = sample.sample(preset.shake, np.linspace(0, seconds, count), Point(), hits)
    matrices = camera.shake(channels, camera.focal(preset.focal_mm, 16 / 9))
    shift = 100 * camera.apply(matrices, np.zeros((1, 2)))[:, 0]
    return np.column_stack([shift, channels[:, 2], channels[:, 3]])


def effect(shot: Shot, info: SourceInfo) -> np.ndarray:
    """How far one unit of each channel moves the picture, in percent of frame height: (6,).

    Roll and zoom are taken half a frame height from the centre.
    """
    width, height = (shot.size.width, shot.size.height) if shot.size else info.size
    f = camera.focal(shot.frame.focal_mm, width * float(info.pixel_aspect) / height)
    turn = 100 * np.pi / 180
    return np.array([1.0, 1.0, 0.5 * turn, 0.5, f * turn, f * turn])


def missing(shot: Shot, info: SourceInfo, frames: int, rate: Fraction) -> np.ndarray:
    """The delivered frames for which a sequence has no picture of its own: (n,) int."""
    if not info.missing or not frames:
        return np.zeros(0, int)
    at = np.floor((np.arange(frames) / float(rate) + shot.start) * float(info.rate) + 1e-3).astype(int)
    return np.flatnonzero(np.isin(at, info.missing))


def delivery(shot: Shot, info: SourceInfo) -> tuple[int, Fraction, float]:
    """Frames, rate and picture shape (width by height) of what a shot delivers."""
    alone = replace(shot, plates=(shot.footage,), frame=replace(shot.frame, edges="open"))
    plan = resolve(alone, info, shaken=False)
    return plan.frames, plan.rate, plan.delivered[0] * float(plan.pixel_aspect) / plan.delivered[1]
