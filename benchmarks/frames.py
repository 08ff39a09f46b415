"""What one frame costs, against one bilinear warp of the same planes in the same run, and the cover solver."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Iterator
from dataclasses import replace as change

import cv2
import numpy as np
from msgspec.structs import replace

from young_tremor.base.frames import YUV420, SyntheticSource, textured
from young_tremor.engine import library
from young_tremor.geometry import cover
from young_tremor.model.curve import Curve
from young_tremor.model.project import FrameSettings, Media, Plate, Shot, Shutter
from young_tremor.model.shake import Drift, DriftChannel, DriftChannels, Region, Shake, Shimmer
from young_tremor.render import shutter
from young_tremor.render.frame import render_frame
from young_tremor.render.plan import Plan
from young_tremor.render.resolve import resolve

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
    source = SyntheticSource(textured(HD, YUV420), frames=96)
    frame = source.read(0)
    matrix = np.array([[1.01, 0.002, -7.3], [-0.002, 1.01, 4.1]])

    def bilinear() -> None:
        for k, plane in enumerate(frame.planes):
            cv2.warpAffine(plane, matrix, YUV420.plane_size(k, HD), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP)

    held = library.preset("standing, breathing").shake
    plans: list[tuple[str, str, Plan, int]] = []
    plan = resolve(shot(held), source.info)
    gone = shutter.paths(plan, np.arange(96))
    for words, goal, wanted in (("handheld", "≤ 4 ×", 3.0), ("still-ish", "≤ 2.2 ×", 0.25)):
        quick = resolve(shot(replace(held, intensity=Curve(wanted / float(np.median(gone))))), source.info)
        number = int(np.argmin(np.abs(shutter.paths(quick, np.arange(96)) - wanted)))
        far = path(quick, number)
        plans.append((f"one {words} frame ({far:.1f} px across the shutter), crop, final kernel", goal, quick, number))
    wild = resolve(shot(violent()), source.info)
    index = int(np.argmin([abs(path(wild, k) - 60) for k in range(96)]))
    views = len(shutter.exposure(wild, index).times)
    words = f"a violent frame ({path(wild, index):.0f} px across the shutter, {views} views)"
    plans.append((words, "≤ 11 ×", wild, index))
    plans.append(("a handheld frame under a rolling shutter of 18 ms", "≤ 5 ×",
                  resolve(shot(held, readout=0.018), source.info), 20))  # fmt: skip
    shimmer = replace(held, strands=(*held.strands, Shimmer("s")))
    plans.append(("a handheld frame with shimmer", "≤ 7 ×", resolve(shot(shimmer, edges="mirror"), source.info), 20))
    part = replace(held, region=Region())
    plans.append(("a handheld frame within a region", "≤ 7 ×", resolve(shot(part, edges="mirror"), source.info), 20))
    lit = resolve(shot(violent(), linear=True), source.info)
    plans.append(("the violent frame, blurred as light", "≤ 30 ×", lit, index))
    for words, goal, each, number in plans:
        ratios = []
        for _ in range(3):
            base = median(bilinear)
            ratios.append(median(lambda p=each, n=number: render_frame(p, n, frame), 5) / base)  # type: ignore[misc]
        yield f"{words}, against one bilinear warp of its planes", goal, f"{statistics.median(ratios):.1f} ×"
    cv2.setNumThreads(cv2.getNumberOfCPUs())
    yield "the violent frame against 256 samples", "≥ 46 dB", f"{_against_256(wild, index, frame):.1f} dB"


def _against_256(plan: Plan, index: int, frame) -> float:  # type: ignore[no-untyped-def]
    middle, length = plan.shutter(np.array([plan.time(index)]))
    times = middle + length * ((np.arange(256) + 0.5) / 256 - 0.5)
    render = np.linalg.inv(np.array([[HD[1], 0, (HD[0] - 1) / 2], [0, HD[1], (HD[1] - 1) / 2], [0, 0, 1.0]]))
    total = np.zeros(HD[::-1], np.float64)
    for s in plan.shakes(times):
        m = np.linalg.inv(s @ plan.to_frame(index)) @ render
        flags = cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP
        total += cv2.warpPerspective(
            frame.planes[0].astype(np.float32), m, HD, flags=flags, borderMode=cv2.BORDER_REPLICATE
        )
    off = render_frame(plan, index, frame).planes[0] - np.clip(total / 256, 0, 255)
    return float(10 * np.log10(255**2 / np.mean(off**2)))


def solver() -> Iterator[Row]:
    """Ten minutes at 60 frames a second, eight samples each: the crop from ready-made positions."""
    n, samples = 36_000, 8
    rng = np.random.default_rng(1)
    q = rng.normal(scale=0.02, size=(n * samples, 4, 2)) + [[-0.89, -0.5], [0.89, -0.5], [0.89, 0.5], [-0.89, 0.5]]
    bounds = cover.sides(cover.Rect(-0.889, -0.5, 0.889, 0.5))

    def solve() -> None:
        far = np.maximum.reduceat(cover.reaches(q, bounds), np.arange(0, n * samples, samples))
        _, b = cover.recentred([far], [bounds], np.ones(n))
        cover.following(cover.needs(far, bounds, b), 90)

    yield (
        "cover solver, 10 minutes at 60 frames/s with 8 samples a frame, recentred and as needed",
        "≤ 0.5 s",
        (f"{median(solve, 3):.2f} s"),
    )
    source = SyntheticSource(textured((64, 36), YUV420), frames=36_000)
    long = change(source.info, rate=source.info.rate * 60 / source.info.rate)
    held = library.preset("walking").shake
    begun = time.perf_counter()
    resolve(shot(held, shutter=Shutter(Curve(180.0)), recentre=True), long)
    yield "the same with the motion sampled as well (a walking shake)", "–", f"{time.perf_counter() - begun:.1f} s"
