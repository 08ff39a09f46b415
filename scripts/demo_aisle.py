"""Draw two more demo clips of Quillmark Press, and make the demo project.

    python scripts/demo_aisle.py [--still FOLDER]

*Aisle walk*: past the type cases, filmed by a walking hand whose way is known and shipped as a CSV.
*Drying rack*: a locked-off look at the rack, for the take of that walk.
"""

from __future__ import annotations

import sys
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
import cv2
import numpy as np
from msgspec.structs import replace
from PySide6.QtGui import QColor, QFontDatabase, QGuiApplication

from demo_paint import Layer, cloud, noise, rng
from young_tremor.base import motion_csv
from young_tremor.document import store
from young_tremor.engine.analysis import measuring
from young_tremor.engine.library import preset_library, takes
from young_tremor.engine.media import footage
from young_tremor.model import shot_edits
from young_tremor.model.project import Project

FPS, SECONDS = 24, 12
SIZE = (1280, 720)
OUT = Path(__file__).resolve().parents[1] / "src/young_tremor/assets/demo"
MARGIN = (420, 150)
FOCAL = 28.0


def cases() -> np.ndarray:
    """A wall of type cases, larger than the frame: drawers with labels, pulls, sorts in the open ones. RGB 0…1."""
    width, height = SIZE[0] + 2 * MARGIN[0], SIZE[1] + 2 * MARGIN[1]
    layer = Layer((width, height))
    layer.rect(0, 0, width, height, "#2a1c12")
    letters = "ABCDEFGHKLMNPRSTUVWXZ&?!23456789"
    for row in range(9):
        y = 18 + row * 114
        for column in range(9):
            x = 14 + column * 236
            tone = int(rng.integers(-14, 15))
            wood = QColor(112 + tone, 78 + tone, 48 + tone // 2).name()
            layer.rect(x, y, 222, 100, "#1a110a", 3)
            layer.rect(x + 3, y + 3, 216, 94, wood, 3)
            if (row * 5 + column * 3) % 7 == 2:  # an open drawer: compartments with sorts
                layer.rect(x + 8, y + 8, 206, 84, "#150e08", 2)
                for k in range(7):
                    for j in range(3):
                        cx, cy = x + 11 + 29 * k, y + 11 + 27 * j
                        layer.rect(cx, cy, 26, 24, "#2b1d12", 1)
                        for _ in range(7):
                            grey = int(rng.integers(70, 190))
                            a, b = rng.uniform(1, 20), rng.uniform(1, 18)
                            layer.rect(cx + a, cy + b, 4.5, 4, QColor(grey, grey, int(0.95 * grey)).name())
                continue
            layer.rect(x + 66, y + 16, 90, 40, "#8d7a4c", 2)
            layer.rect(x + 69, y + 19, 84, 34, "#dccfae", 1)
            mark = "".join(letters[int(k)] for k in rng.integers(0, len(letters), 3))
            layer.text((x + 66, y + 16, 90, 40), mark, 26, "#2b2621")
            layer.rect(x + 88, y + 66, 46, 13, "#6e5422", 6)
            layer.rect(x + 91, y + 67, 40, 5, "#c7a55a", 2)
            for _ in range(5):
                a = rng.uniform(10, 200)
                layer.rect(x + a, y + rng.uniform(6, 88), rng.uniform(3, 16), 1.6, "#4a3220")
    picture = layer.done()[0]
    grain = 1 + 0.16 * cloud((height, width), 60, 5, 0.4) + 0.05 * noise((height, width), 700)
    yy, xx = np.mgrid[0:height, 0:width].astype(np.float32)
    light = 0.42 + 0.75 * np.exp(
        -(((xx - 0.42 * width) / (0.42 * width)) ** 2 + ((yy - 0.4 * height) / (0.5 * height)) ** 2)
    )
    picture = picture * (grain * light)[..., None] * np.array([1.12, 0.96, 0.78], np.float32)
    return cv2.GaussianBlur(np.clip(picture, 0, 1), (0, 0), 0.8)


def way(t: np.ndarray) -> np.ndarray:
    """A walking hand: steps at 1.85 a second in height, sway and roll at half of that, and a slow look along.

    (n, 4): x, y in pixels of the clip, turn in degrees, log scale.
    """
    pick = np.random.default_rng(41)
    t = np.append(np.asarray(t, dtype=np.float64), 0.0)
    stride = 2 * np.pi * (0.925 * t + 0.05 * np.sin(2 * np.pi * 0.13 * t + 1.0))
    size = 1 + 0.14 * np.sin(2 * np.pi * 0.21 * t + 0.6) + 0.08 * np.sin(2 * np.pi * 0.57 * t)
    out = np.zeros((len(t), 4))
    out[:, 0] = 7.0 * size * np.sin(stride) + 1.6 * np.sin(2 * stride + 0.9) - 150 * np.sin(np.pi * t / 13) ** 2
    out[:, 1] = 5.2 * size * np.sin(2 * stride + 0.7) + 1.5 * np.sin(4 * stride + 0.2)
    out[:, 2] = 0.34 * size * np.sin(stride + 0.4)
    out[:, 3] = 0.0022 * np.sin(2 * stride - 0.5)
    for column, reach in enumerate((9.0, 7.0, 0.22, 0.004)):
        for hz in (0.19, 0.33, 0.61, 1.1):
            out[:, column] += 0.5 * reach * (0.3 / hz) ** 0.8 * np.sin(2 * np.pi * (hz * t + pick.uniform()))
        for hz in (7.1, 8.6, 10.3):
            out[:, column] += 0.012 * reach * np.sin(2 * np.pi * (hz * t + pick.uniform()))
    return out[:-1] - out[-1]


def walk() -> Iterator[np.ndarray]:
    """The frames of the aisle walk, RGB uint8: 180° of shutter, a little grain."""
    picture = cases()
    centre = (np.array(SIZE) - 1) / 2
    for number in range(FPS * SECONDS):
        moments = (number + 0.5 * ((np.arange(6) + 0.5) / 6 - 0.5)) / FPS
        total = np.zeros((SIZE[1], SIZE[0], 3), np.float32)
        for x, y, turn, grow in way(moments):
            c, s = np.exp(grow) * np.cos(np.radians(turn)), np.exp(grow) * np.sin(np.radians(turn))
            back = np.linalg.inv(np.array([[c, -s, 0], [s, c, 0], [0, 0, 1]]))
            shift = back[:2, :2] @ (-centre - (x, y)) + centre + MARGIN
            matrix = np.column_stack([back[:2, :2], shift])
            total += cv2.warpAffine(picture, matrix, SIZE, flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP)
        graded = np.power(1 - np.exp(-1.9 * total / 6), 0.8) * 255 + 2.0 * rng.normal(size=(SIZE[1], SIZE[0], 1))
        yield np.clip(graded, 0, 255).astype(np.uint8)


def rack() -> Iterator[np.ndarray]:
    """The frames of the drying rack, RGB uint8, 1920 by 1080, locked off; a lamp that flickers a little."""
    width, height, frames = 1920, 1080, FPS * 8
    layer = Layer((width, height))
    layer.rect(0, 0, width, height, "#43372c")
    for k in range(15):
        layer.rect(k * 132, 0, 126, height, QColor(96 + int(rng.integers(-9, 9)), 76, 56).name())
    for x in (240, 1620):
        layer.rect(x, 120, 46, 900, "#2c2018", 6)
    words = ("NIGHT PROOF", "INK & IRON", "No 7", "QUILLMARK")
    for shelf in range(5):
        y = 190 + shelf * 165
        layer.rect(220, y + 118, 1480, 14, "#20160f", 3)
        for sheet in range(7):
            x = 262 + sheet * 204
            lean = int(rng.integers(-7, 8))
            paper = QColor(222 + int(rng.integers(-8, 8)), 211, 184).name()
            layer.poly([(x + lean, y), (x + 178 + lean, y + 3), (x + 178, y + 118), (x, y + 116)], paper)
            ink = ("#2b2a2b", "#a8472a", "#25425c")[(shelf + sheet) % 3]
            layer.text((x, y + 10, 178, 40), words[(shelf * 3 + sheet) % 4], 27, ink)
            for line in range(4):
                layer.rect(x + 24, y + 58 + 12 * line, 130 - 22 * (line % 3), 4, ink)
    picture = layer.done()[0]
    picture *= (1 + 0.12 * cloud((height, width), 40, 5))[..., None]
    yy, xx = np.mgrid[0:height, 0:width].astype(np.float32)
    pool = np.exp(-(((xx - 820) / 900) ** 2 + ((yy - 330) / 620) ** 2))
    grain = cv2.GaussianBlur(rng.normal(size=(height + 64, width + 64)).astype(np.float32), (0, 0), 0.8) * 1.4
    for number in range(frames):
        flicker = 1 + 0.010 * np.sin(number * 0.9) + 0.008 * np.sin(number * 0.37 + 1)
        light = (0.16 + 1.05 * flicker * pool)[..., None] * np.array([1.2, 0.98, 0.72], np.float32)
        graded = np.power(1 - np.exp(-1.7 * picture * light), 0.82) * 255
        dx, dy = rng.integers(0, 64, 2)
        graded += grain[dy : dy + height, dx : dx + width, None]
        yield np.clip(graded, 0, 255).astype(np.uint8)


def encode(name: str, frames: Iterator[np.ndarray], crf: int) -> None:
    """Write a clip of the demo."""
    path = OUT / name
    with av.open(str(path), "w", options={"movflags": "+faststart"}) as file:
        video = None
        for number, rgb in enumerate(frames):
            if video is None:
                video = file.add_stream("libx264", rate=FPS)
                video.width, video.height, video.pix_fmt = rgb.shape[1], rgb.shape[0], "yuv420p"
                tags = "colorprim=bt709:transfer=bt709:colormatrix=bt709"
                video.options = {"preset": "slow", "crf": str(crf), "g": "48", "x264-params": tags}
                context = video.codec_context
                context.color_primaries = context.color_trc = context.colorspace = context.color_range = 1
            picture = av.VideoFrame.from_ndarray(rgb, format="rgb24").reformat(
                format="yuv420p", src_colorspace="ITU709", dst_colorspace="ITU709", dst_color_range="MPEG"
            )
            picture.pts, picture.time_base = number, Fraction(1, FPS)
            file.mux(video.encode(picture))
        file.mux(video.encode(None))
    print(f"{name}: {path.stat().st_size / 1e6:.1f} MB")


def truth() -> None:
    """Write the known way of the aisle walk."""
    t = np.arange(FPS * SECONDS) / FPS
    x, y, turn, grow = way(t).T
    columns = {
        "frame": np.arange(len(t), dtype=np.float64),
        "time_s": t,
        "x_px": x,
        "y_px": y,
        "roll_deg": turn,
        "scale": np.exp(grow),
    }
    motion = motion_csv.MotionTable(SIZE, columns, str(FPS), FOCAL, "aisle-walk.mp4")
    (OUT / "aisle-walk.csv").write_text(motion_csv.text_of(motion))


def project() -> None:
    """The demo project: the press as it was, and the rack under the take of the walk."""
    old = preset_library.demo_project()
    clip = OUT / "aisle-walk.mp4"
    found = measuring.measure(clip, lambda done, total: None)
    take = replace(
        takes.of_path(found, footage.facts(str(clip)).info, "Aisle walk", FOCAL),
        id="aisle-walk",
        lens="wide",
        weight="light",
        activity="walking",
    )
    press = next(shot for shot in old.shots if shot.id == "press-wide")
    made = shot_edits.add_shot(OUT / "drying-rack.mp4")(Project(shots=(press,), takes=(take,)))
    shot = made.shots[-1]
    strand = replace(takes.strand_of(take), id="walk", cutoff=1.6, name="Aisle walk", note="take, shake only")
    strand = takes.learn_endless(strand)
    shot = replace(
        shot,
        id="drying-rack",
        name="Drying rack",
        plates=(replace(shot.footage, id="footage", name="Footage"),),
        shake=replace(shot.shake, strands=(strand,)),
        frame=replace(shot.frame, focal_mm=35.0),
    )
    store.save(replace(made, shots=(press, shot)), preset_library.DEMO)


def main() -> None:
    app = QGuiApplication(sys.argv[:1])
    for font in sorted((OUT.parent / "fonts").glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(font))
    if "--still" in sys.argv:
        folder = Path(sys.argv[sys.argv.index("--still") + 1])
        for name, frames in (("walk", walk()), ("rack", rack())):
            cv2.imwrite(str(folder / f"{name}.png"), next(frames)[..., ::-1])
        return
    encode("aisle-walk.mp4", walk(), 26)
    encode("drying-rack.mp4", rack(), 25)
    truth()
    project()
    del app


if __name__ == "__main__":
    main()
