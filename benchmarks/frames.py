"""What one frame costs, against one bilinear warp of the same planes in the same run, and the cover solver."""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable, Iterator
from dataclasses import replace as change
from pathlib import Path

import cv2
import numpy as np
from msgspec.structs import replace

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

from pictures import SyntheticSource, textured_frame
from young_tremor.base.frames import YUV420, Frame
from young_tremor.base.pixels import planar_format
from young_tremor.engine.library import preset_library
from young_tremor.geometry import cover
from young_tremor.kernels import blur_taps
from young_tremor.model.curve import Curve
from young_tremor.model.project import FrameSettings, Media, Placement, Plate, Shot, Shutter
from young_tremor.model.shake import Drift, DriftChannel, DriftChannels, Region, Shake, Shimmer
from young_tremor.render import shutter
from young_tremor.render.frame import render_frame
from young_tremor.render.plan import Plan
from young_tremor.render.resolve_plan import resolve

Row = tuple[str, str, str]
HD = (1920, 1080)


def shot(shake: Shake, **frame: object) -> Shot:
    return Shot("s", "s", (Plate("p", "p", Media("")),), shake, FrameSettings(**frame))  # type: ignore[arg-type]


def median(work: Callable[[], object], runs: int = 7) -> float:
    times = []
    for _ in range(runs):
        begun = time.perf_counter()
        work()
        times.append(time.perf_counter() - begun)
    return statistics.median(times)


def violent() -> Shake:
    """Shift and turn that take corners some 60 px across a half-open shutter."""
    channels = DriftChannels(x=DriftChannel(5.2), y=DriftChannel(4.0), roll=DriftChannel(1.5))
    return Shake((Drift("v", rate=Curve(5.0), seed=3, channels=channels),))


def path(plan: Plan, index: int) -> float:
    """Pixels that the farthest corner goes while the shutter is open."""
    middle, length = plan.shutter(np.array([plan.time(index)]))
    times = middle + length * np.linspace(-0.5, 0.5, 65)
    corners = np.array([[-0.89, -0.5], [0.89, -0.5], [0.89, 0.5], [-0.89, 0.5]])
    places = np.einsum("nij,mj->nmi", plan.shakes(times), np.column_stack([corners, np.ones(4)]))
    where = places[..., :2] / places[..., 2:]
    return float(np.linalg.norm(np.diff(where, axis=0), axis=2).sum(axis=0).max() * plan.size[1])


def frames() -> Iterator[Row]:
    cv2.setNumThreads(1)  # while a film is made the other cores decode and encode
    source = SyntheticSource(textured_frame(HD, YUV420), frames=96)
    frame = source.read(0)
    held = preset_library.preset("standing, breathing").shake
    plan = resolve(shot(held), source.info)
    gone = shutter.paths(plan, np.arange(96))
    wild = resolve(shot(violent()), source.info)
    index = int(np.argmin([abs(path(wild, k) - 60) for k in range(96)]))
    plans: list[tuple[str, str, Plan, int, Frame]] = []
    for words, goal, wanted in (("still-ish", "0.8", 0.25), ("handheld", "1.5", 3.0), ("handheld", "2.3", 12.0)):
        quick = resolve(shot(replace(held, intensity=Curve(wanted / float(np.median(gone))))), source.info)
        number = int(np.argmin(np.abs(shutter.paths(quick, np.arange(96)) - wanted)))
        far = path(quick, number)
        plans.append((f"{words} ({far:.1f} px across the shutter)", goal, quick, number, frame))
    plans.append((f"violent ({path(wild, index):.0f} px across the shutter)", "4.5", wild, index, frame))
    rolling = resolve(shot(held, readout=0.018), source.info)
    plans.append(("handheld under a rolling shutter of 18 ms", "2", rolling, 20, frame))
    shimmer = replace(held, strands=(*held.strands, Shimmer("s")))
    plans.append(("handheld with shimmer", "3", resolve(shot(shimmer, edges="mirror"), source.info), 20, frame))
    large = shot(held)
    large = replace(large, plates=(replace(large.footage, placement=Placement(size=Curve(2.5))),))
    plans.append(("handheld, seen two and a half times as large", "3", resolve(large, source.info), 20, frame))
    part = replace(held, region=Region())
    plans.append(("handheld within a region", "3", resolve(shot(part, edges="mirror"), source.info), 20, frame))
    plans.append(("violent, as light", "12", resolve(shot(violent(), linear=True), source.info), index, frame))
    for words, goal, format in (
        ("10 bit 4:2:2", "2.5", planar_format("yuv", 10, (2, 1))),
        ("16 bit 4:2:2 (against a warp of 16 bits)", "2.5", planar_format("yuv", 16, (2, 1))),
    ):
        deep = SyntheticSource(textured_frame(HD, format), frames=96)
        quick = resolve(shot(replace(held, intensity=Curve(3.0 / float(np.median(gone))))), deep.info)
        number = int(np.argmin(np.abs(shutter.paths(quick, np.arange(96)) - 3.0)))
        plans.append((f"handheld 3 px, {words}", goal, quick, number, deep.read(0)))
    for words, goal, each, number, shown in plans:
        ratio = against_warp(lambda p=each, n=number, f=shown: render_frame(p, n, f), shown)  # type: ignore[misc]
        yield f"one frame: {words}, final quality, in bilinear warps of its planes", f"≤ {goal}", f"{ratio:.2f}"
    cv2.setNumThreads(cv2.getNumberOfCPUs())
    yield "the violent frame against 256 samples", "≥ 55 dB", f"{_against_256(wild, index, frame):.1f} dB"


def against_warp(work: Callable[[], object], frame: Frame, rounds: int = 11) -> float:
    """How many bilinear warps of a frame's planes some work takes: thread CPU time, both in turn in one run."""
    matrix = np.array([[1.01, 0.002, -7.3], [-0.002, 1.01, 4.1]])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP

    def bilinear() -> None:
        for plane in frame.planes:
            cv2.warpAffine(plane, matrix, plane.shape[::-1], flags=flags)

    work()
    bilinear()
    ratios = []
    for _ in range(rounds):
        begun = time.thread_time()
        bilinear()
        between = time.thread_time()
        work()
        ratios.append((time.thread_time() - between) / (between - begun))
    return statistics.median(ratios)


def _against_256(plan: Plan, index: int, frame: Frame) -> float:
    """The luma of a frame against 256 views by cubic convolution in double precision (R. Keys, 1981, a = -1/2), where
    nothing beyond the picture is seen."""
    middle, length = plan.shutter(np.array([plan.time(index)]))
    times = middle + length * ((np.arange(256) + 0.5) / 256 - 0.5)
    rows, columns = slice(400, 680), slice(700, 1220)
    x, y = np.meshgrid(np.arange(columns.start, columns.stop), np.arange(rows.start, rows.stop))
    plane, total = frame.planes[0].astype(np.float64), np.zeros(x.shape)
    for matrix in shutter.moments(plan, index, plan.base, times, np.zeros((256, 2)))[:, 0]:
        u, v, w = (matrix[k, 0] * x + matrix[k, 1] * y + matrix[k, 2] for k in range(3))
        u, v = u / w, v / w
        left, top = np.floor(u).astype(int), np.floor(v).astype(int)
        across, down = blur_taps.cubic_shares(u - left), blur_taps.cubic_shares(v - top)
        for j in range(4):
            line = sum(across[..., i] * plane[top - 1 + j, left - 1 + i] for i in range(4))
            total += down[..., j] * line
    off = render_frame(plan, index, frame).planes[0][rows, columns] - np.clip(total / 256, 0, 255)
    return float(10 * np.log10(255**2 / np.mean(off**2)))


def solver() -> Iterator[Row]:
    """Ten minutes at 60 frames a second, eight samples each: the crop from ready-made positions."""
    n, samples = 36_000, 8
    rng = np.random.default_rng(1)
    q = rng.normal(scale=0.02, size=(n * samples, 4, 2)) + [[-0.89, -0.5], [0.89, -0.5], [0.89, 0.5], [-0.89, 0.5]]
    bounds = cover.sides(cover.Rect(-0.889, -0.5, 0.889, 0.5))

    def solve() -> None:
        far = np.maximum.reduceat(cover.reaches(q, bounds), np.arange(0, n * samples, samples))
        _, b = cover.recentred_crop([far], [bounds], np.ones(n))
        cover.following(cover.needs(far, bounds, b), 90)

    yield (
        "cover solver, 10 minutes at 60 frames/s with 8 samples a frame, recentred and as needed",
        "≤ 0.5 s",
        (f"{median(solve, 3):.2f} s"),
    )
    source = SyntheticSource(textured_frame((64, 36), YUV420), frames=36_000)
    long = change(source.info, rate=source.info.rate * 60 / source.info.rate)
    held = preset_library.preset("walking").shake
    begun = time.perf_counter()
    resolve(shot(held, shutter=Shutter(Curve(180.0)), recentre=True), long)
    yield "the same with the motion sampled as well (a walking shake)", "–", f"{time.perf_counter() - begun:.1f} s"
