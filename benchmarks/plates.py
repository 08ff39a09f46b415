"""What plates cost: against one bilinear warp of the footage, playing four of them, memory, and large floats.

python benchmarks/run.py plates
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import replace as change
from pathlib import Path

import av
import cv2
import numpy as np
from msgspec.structs import replace

from films import PEAK
from frames import HD, Row, median, shot
from pictures import SyntheticSource, textured_frame
from young_tremor.base.frames import YUV420, Frame
from young_tremor.base.pixels import planar_format
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import footage
from young_tremor.engine.preview.preview_worker import PictureRequest, PreviewWorker
from young_tremor.model import shot_edits
from young_tremor.model.depth import Depth, Ramp
from young_tremor.model.project import Media, Plate, Shot
from young_tremor.model.title import Title
from young_tremor.render.frame import render_frame
from young_tremor.render.plan import Quality
from young_tremor.render.plate_pixels import picture_of
from young_tremor.render.resolve_plan import resolve
from young_tremor.render.screen import reduce

STANDING = "standing, breathing"


def graphic(box: tuple[int, int, int, int]) -> SyntheticSource:
    """Noise with alpha in a box of the frame, nothing around it."""
    format = planar_format("rgb", 8, alpha=True)
    x, y, width, height = box
    planes = [np.zeros(HD[::-1], np.uint8) for _ in range(4)]
    rng = np.random.default_rng(0)
    for plane in planes[:3]:
        plane[y : y + height, x : x + width] = rng.integers(0, 255, (height, width))
    planes[3][y : y + height, x : x + width] = 255
    source = SyntheticSource(Frame(tuple(planes), format), 96)
    source._info = change(source.info, alpha="straight")
    return source


def cost(made: Shot, sources: list[SyntheticSource], quality: Quality = Quality()) -> float:
    plan = resolve(made, tuple(source.info for source in sources), quality)
    frames = [source.read(0) for source in sources]
    render_frame(plan, 20, frames)
    return median(lambda: render_frame(plan, 20, frames))


def four() -> Shot:
    """Footage with depth, a title of 24 letters apart, a logo with alpha, the type case."""
    clip = preset_library.ASSETS / "demo" / "press-wide.mp4"
    base = shot_edits.add_shot(clip, preset_library.preset(STANDING), 10.0)(preset_library.Project()).shots[0]
    deep = replace(base.footage, depth=Depth(0.8, 1.6, ramp=Ramp(90.0, 0.1, 0.5)))
    title = Title("THE NIGHT PROOF IS PULLED TODAY", size=9.0, apart="letter")
    letters = Plate(
        "t", "t", Media(kind="title", title=title), shake=shot_edits.from_preset(preset_library.preset("Nervous title"))
    )
    logo = replace(
        letters, id="l", media=Media(kind="title", title=Title("Quillmark", size=5.0)), shake=None, glass=True
    )
    case = Plate("c", "c", Media(str(clip.with_name("type-case.png"))), distance=0.6)
    return replace(base, plates=(deep, case, letters, logo))


def plates() -> Iterator[Row]:
    cv2.setNumThreads(1)  # while a film is made the other cores decode and encode
    ground = SyntheticSource(textured_frame(HD, YUV420), 96)
    matrix = np.array([[1.01, 0.002, -7.3], [-0.002, 1.01, 4.1]])

    def bilinear() -> None:
        for k, plane in enumerate(ground.read(0).planes):
            cv2.warpAffine(plane, matrix, YUV420.plane_size(k, HD), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP)

    bilinear()
    warp = median(bilinear)
    one = shot(preset_library.preset(STANDING).shake)
    alone = cost(one, [ground])
    top = Plate("g", "g", Media("g"))
    for words, box, glass, goal in (
        ("a plate that covers a tenth of the frame, moving along", (1200, 700, 640, 320), False, "≤ 0.4 warps more"),
        ("the same on the glass", (1200, 700, 640, 320), True, "≤ 0.4 warps more"),
        ("a full-frame plate with alpha", (0, 0, *HD), False, "≤ 1.3 × the footage’s share"),
    ):
        both = cost(replace(one, plates=(*one.plates, replace(top, glass=glass))), [ground, graphic(box)])
        more = (both - alone) / warp if "warps" in goal else (both - alone) / alone
        unit = "warps" if "warps" in goal else "×"
        yield f"{words}, 1080p, handheld, final kernel, one thread", goal, f"{more:.2f} {unit}"
    deep = replace(one, plates=(replace(one.footage, depth=Depth(0.6, 2.5, ramp=Ramp(90, -0.3, 0.5))),))
    yield (
        "a depth picture on a handheld frame, against the frame without",
        "≤ 2 ×",
        f"{cost(deep, [ground]) / alone:.2f} ×",
    )
    cv2.setNumThreads(2)
    yield from playing()
    yield from large_floats()


def playing() -> Iterator[Row]:
    """Pictures of four plates as the window asks for them, without the clock, and memory of a render."""
    made = four()
    size = (690, 388)
    plan = resolve(made, footage.infos(made), Quality(size, "linear"))
    sources = footage.sources_of(made)
    render_frame(plan, 0, [picture_of(plan, p, 0, s) for p, s in zip(plan.plates, sources, strict=True)])
    begun, count, kept = time.perf_counter(), 72, []
    for index in range(count):
        given = [picture_of(plan, p, index, s) for p, s in zip(plan.plates, sources, strict=True)]
        for place, (picture, plate) in enumerate(zip(given, plan.plates, strict=True)):
            if plate.source.still and index:
                given[place] = kept[place]  # as the window does: it stays the same
            elif not plate.source.drawn:
                given[place] = reduce(picture, size)
        kept = given
        render_frame(plan, index, given)
    rate = count / (time.perf_counter() - begun)
    words = "four plates (depth, 26 letters apart, logo, case), pictures for a 1280x800 window, decoding too"
    yield words, "≥ 24 frames/s", f"{rate:.0f} frames/s"
    with tempfile.TemporaryDirectory() as folder:
        code = (
            "from pathlib import Path; from plates import four; "
            "from young_tremor.engine import actions; "
            "from msgspec.structs import replace; "
            f"path = Path({str(Path(folder) / 'out.mp4')!r}); "
            f"actions.render((replace(four(), end=1.0),), path, lambda d, t: None); {PEAK}"
        )
        here = os.path.dirname(os.path.abspath(__file__))
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, cwd=here)
    yield "peak memory of rendering it at 1080p", "≤ 700 MB", f"{int(done.stdout) / 1024:.0f} MB"


def large_floats() -> Iterator[Row]:
    """Scrubbing numbered EXR pictures of 3840x2160 in half float."""
    with tempfile.TemporaryDirectory() as folder:
        rng = np.random.default_rng(1)
        planes = [cv2.resize(rng.uniform(0, 2, (270, 480)).astype(np.float32), (3840, 2160)) for _ in range(3)]
        for number in range(4):
            with av.open(f"{folder}/x.{number:03d}.exr", "w", format="image2", options={"update": "1"}) as file:
                stream = file.add_stream("exr", rate=24)
                stream.width, stream.height, stream.pix_fmt = 3840, 2160, "gbrpf32le"
                stream.options = {"format": "half", "compression": "zip16"}
                frame = av.VideoFrame(3840, 2160, "gbrpf32le")
                for plane, values in zip(frame.planes, planes, strict=True):
                    np.frombuffer(plane, np.float32).reshape(plane.height, -1)[:, : plane.width] = values + number
                file.mux(stream.encode(frame))
                file.mux(stream.encode(None))
        made = Shot("s", "s", (Plate("p", "p", Media(f"{folder}/x.###.exr")),), preset_library.preset(STANDING).shake)
        preview = PreviewWorker()
        times = []
        try:
            for index in (0, 2, 1, 3):
                seen: list[object] = []
                preview.picture.connect(seen.append)
                begun = time.perf_counter()
                preview.ask(PictureRequest(made, (690, 388), "shaken", index, fill=False))
                while not seen and time.perf_counter() - begun < 20:
                    time.sleep(0.002)
                times.append(time.perf_counter() - begun)
                preview.picture.clear()
        finally:
            preview.close()
    yield (
        "a 4K EXR half-float sequence: scrub to a picture, uncached",
        "≤ 400 ms",
        f"{1000 * sorted(times[1:])[1]:.0f} ms",
    )
