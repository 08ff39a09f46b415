"""Draw, sound and encode the demo footage of Quillmark Press. Deterministic: the same file each time.

    python scripts/make_demo.py [--still FRAME.png SECONDS]

The hand press stands in a workshop at night under one lamp that swings a little; the platen strikes three times.
"""

from __future__ import annotations

import math
import os
import sys
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import av
import cv2
import numpy as np

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFontDatabase,
    QGuiApplication,
    QLinearGradient,
    QPainterPath,
    QPen,
    QRadialGradient,
)

from demo_paint import H, Layer, W, cloud, noise, over, rng, shadow, steel
from demo_sound import sound

FPS, SECONDS = 24, 10
STRIKES = (3.125, 6.5, 8.75)
OUT = Path(__file__).resolve().parents[1] / "src/young_tremor/assets/demo/press-wide.mp4"
FONTS = OUT.parents[1] / "fonts"

FLOOR = 842


def wall() -> np.ndarray:
    """Boards, floor tiles, and what hangs on the wall."""
    picture = np.zeros((H, W, 3), np.float32)
    edges = np.concatenate([[0], np.cumsum(rng.integers(92, 140, 20))])
    for left, right in pairwise(edges):
        right = min(right, W)
        if left >= W:
            break
        tone = 1 + 0.10 * rng.normal()
        grain = cloud((FLOOR, right - left), 5, 5, 0.09)
        fine = noise((FLOOR, right - left), 60, 0.05) * 0.5
        shade = tone * (1 + 0.16 * grain + 0.05 * fine)
        picture[:FLOOR, left:right] = np.array([0.50, 0.385, 0.265], np.float32) * shade[..., None]
        picture[:FLOOR, left : left + 3] *= 0.42
        picture[:FLOOR, left + 3 : left + 6] *= 1.12
        for nail in (70, 430, 790):
            cv2.circle(picture, (left + 16, nail + int(rng.integers(-4, 4))), 3, (0.16, 0.13, 0.11), -1, cv2.LINE_AA)
    picture[FLOOR - 62 : FLOOR] *= np.array([0.50, 0.48, 0.50], np.float32)
    picture[FLOOR - 62 : FLOOR - 58] *= 1.5
    # floor: tiles in perspective, each of its own tone
    yy, xx = np.mgrid[FLOOR:H, 0:W].astype(np.float32)
    depth = 150.0 / (yy - FLOOR + 46)
    u, v = (xx - W / 2) * depth / 150, depth * 3.1
    tile = np.floor(u * 1.35).astype(int) * 7919 + np.floor(v * 2.0).astype(int) * 104729
    tone = 0.82 + 0.36 * (np.abs(np.sin(tile * 12.9898)) % 1)
    joint = np.minimum(np.abs(u * 1.35 - np.round(u * 1.35)), 1.3 * np.abs(v * 2 - np.round(v * 2)))
    near = np.clip((yy - FLOOR) / 150, 0, 1)
    tone = 1 + (tone - 1) * near
    tone *= 1 - (1 - np.clip(joint / 0.035, 0.35, 1)) * near
    tone *= 1 + 0.18 * cloud((H - FLOOR, W), 40, 4)
    picture[FLOOR:] = np.array([0.29, 0.225, 0.185], np.float32) * tone[..., None]

    things = Layer()
    posters = [
        (60, 70, 330, 450, "#d9cfb4", "NIGHT\nPROOF", 104, "#2b2a2b"),
        (455, 120, 236, 316, "#b8502c", "No 7", 92, "#ecdfc2"),
        (1530, 64, 330, 470, "#d4c9ac", "INK\n& IRON", 98, "#2b2a2b"),
    ]
    for x, y, w, h, paper, words, px, ink in posters:
        things.rect(x, y, w, h, paper)
        things.painter.setPen(QPen(QColor(ink), 3))
        things.painter.setBrush(Qt.BrushStyle.NoBrush)
        things.painter.drawRect(QRectF(x + 15, y + 15, w - 30, h - 30))
        things.painter.setPen(Qt.PenStyle.NoPen)
        things.text((x, y + 20, w, h - 110), words, px, ink)
        for k in range(4):
            things.rect(x + 50, y + h - 96 + 17 * k, w - 100 - 34 * (k % 3), 5, ink)
    # a shelf with tins and a row of proofs on a line
    things.rect(1275, 236, 200, 16, "#3b2a1d", 2)
    for x, h, c in (
        (1288, 64, "#33413f"),
        (1340, 50, "#7d2f22"),
        (1386, 74, "#2c3440"),
        (1433, 44, "#85683a"),
    ):
        things.rect(x, 236 - h, 36, h, steel(x, x + 36, c, c, "#9a9282"), 3)
        things.rect(x + 3, 236 - h * 0.62, 30, h * 0.3, "#cfc3a3")
    colour, cover = things.done()
    shadow(picture, cover, -9, 14, 7, 0.62)
    over(picture, (colour, cover))
    picture *= (1 + 0.035 * rng.normal(size=(H, W, 1))).astype(np.float32)
    return picture


def frame_of_press() -> tuple[np.ndarray, np.ndarray]:
    """The still iron: cheeks, crown, bed, feet, stone."""
    p = Layer()
    iron = ("#20292a", "#3d4a49", "#6b7a75")
    for x in (742, 1128):
        p.rect(x, 330, 76, 520, steel(x, x + 76, *iron), 6)
        p.rect(x - 12, 560, 100, 26, steel(x - 12, x + 88, *iron), 4)
        p.rect(x - 16, 800, 108, 60, steel(x - 16, x + 92, *iron), 6)
        for y in (360, 620, 770):
            p.painter.setBrush(QColor("#8d9a92"))
            p.painter.drawEllipse(QPointF(x + 38, y), 9, 9)
            p.painter.setBrush(QColor("#1a2021"))
            p.painter.drawEllipse(QPointF(x + 38, y + 2), 5, 5)
    crown = QPainterPath()
    crown.moveTo(700, 352)
    crown.lineTo(716, 262)
    crown.cubicTo(820, 206, 1126, 206, 1230, 262)
    crown.lineTo(1246, 352)
    crown.closeSubpath()
    g = QLinearGradient(0, 210, 0, 352)
    for at, c in ((0, "#7b8a83"), (0.15, "#4c5a57"), (0.7, "#2c3635"), (1, "#1b2323")):
        g.setColorAt(at, QColor(c))
    p.painter.setBrush(QBrush(g))
    p.painter.drawPath(crown)
    p.text((716, 258, 514, 70), "QUILLMARK", 50, "#b99a52")
    p.rect(958, 352, 32, 60, steel(958, 990, *iron))
    # bed and rails
    p.poly([(690, 764), (1256, 764), (1310, 842), (636, 842)], steel(636, 1310, "#232b2b", "#3a4544", "#56635f"))
    p.rect(636, 842, 674, 58, steel(636, 1310, "#171d1d", "#2a3232", "#3f4a48"), 5)
    p.poly([(818, 742), (1128, 742), (1150, 764), (796, 764)], "#cfc6ae")
    p.rect(796, 764, 354, 15, "#8f8772")
    for x in (690, 1190):
        p.poly([(x, 900), (x + 66, 900), (x + 92, 985), (x - 26, 985)], steel(x - 26, x + 92, *iron))
    return p.done()


def platen() -> tuple[np.ndarray, np.ndarray]:
    """The moving iron: screw and platen, painted at rest."""
    p = Layer()
    p.rect(950, 170, 48, 340, steel(950, 998, "#4b4a40", "#8f8870", "#d8cfae"), 4)
    for k in range(22):
        p.painter.setPen(QPen(QColor(40, 38, 30, 150), 3))
        p.painter.drawLine(QPointF(950, 180 + 15 * k), QPointF(998, 172 + 15 * k))
    p.painter.setPen(Qt.PenStyle.NoPen)
    p.rect(862, 500, 224, 40, steel(862, 1086, "#29312f", "#4d5a56", "#7d8c85"), 5)
    p.rect(828, 540, 292, 74, steel(828, 1120, "#20292a", "#43504d", "#74837d"), 6)
    p.rect(838, 614, 272, 14, "#6d6a5e", 2)
    return p.done()


def wheel(angle: float) -> tuple[np.ndarray, np.ndarray]:
    """The brass flywheel at an angle in degrees, on a layer of its own size."""
    p = Layer((420, 420))
    p.painter.translate(210, 210)
    p.painter.rotate(angle)
    p.painter.setBrush(Qt.BrushStyle.NoBrush)
    for radius, width, colour in ((176, 26, "#6e5422"), (176, 18, "#a9853a"), (172, 5, "#dcc076")):
        p.painter.setPen(QPen(QColor(colour), width))
        p.painter.drawEllipse(QPointF(0, 0), radius, radius)
    for spoke in range(8):
        p.painter.save()
        p.painter.rotate(45 * spoke)
        p.painter.setPen(QPen(QColor("#6e5422"), 15))
        p.painter.drawLine(QPointF(0, 26), QPointF(0, 164))
        p.painter.setPen(QPen(QColor("#b8934a"), 7))
        p.painter.drawLine(QPointF(-2, 26), QPointF(-2, 164))
        p.painter.restore()
    g = QRadialGradient(-8, -10, 44)
    g.setColorAt(0, QColor("#e3cb86"))
    g.setColorAt(1, QColor("#5d4720"))
    p.painter.setPen(Qt.PenStyle.NoPen)
    p.painter.setBrush(QBrush(g))
    p.painter.drawEllipse(QPointF(0, 0), 36, 36)
    p.painter.setBrush(QColor("#3a2c14"))
    p.painter.drawEllipse(QPointF(0, 158), 13, 13)
    return p.done()


def foreground() -> tuple[np.ndarray, np.ndarray]:
    """A type case near the lens, out of focus."""
    p = Layer()
    p.poly([(-40, 862), (560, 902), (600, 1100), (-40, 1100)], "#2e1d10")
    for row in range(3):
        for column in range(8):
            x, y = 4 + column * 68 + row * 6, 890 + row * 72 + column * 5
            p.poly([(x, y), (x + 56, y + 4), (x + 60, y + 58), (x + 3, y + 55)], "#120b06")
            for _ in range(9):
                a, b = rng.uniform(4, 46), rng.uniform(10, 46)
                grey = int(rng.integers(88, 158))
                p.rect(x + a, y + b, 8, 7, QColor(grey, grey, int(grey * 0.96)).name())
    return p.done(5.5)


def lamp(swing: float) -> tuple[np.ndarray, np.ndarray]:
    """The hanging lamp: cord, shade, bulb."""
    p = Layer((700, 330))
    p.painter.translate(350, -330)
    p.painter.rotate(math.degrees(swing))
    p.painter.setPen(QPen(QColor("#14100c"), 5))
    p.painter.drawLine(QPointF(0, 0), QPointF(0, 470))
    p.painter.setPen(Qt.PenStyle.NoPen)
    g = QLinearGradient(-110, 0, 110, 0)
    for at, c in ((0, "#121a18"), (0.3, "#33443e"), (0.5, "#54675f"), (1, "#121a18")):
        g.setColorAt(at, QColor(c))
    p.painter.setBrush(QBrush(g))
    shade = QPainterPath()
    shade.moveTo(-24, 462)
    shade.cubicTo(-40, 500, -96, 512, -122, 556)
    shade.lineTo(122, 556)
    shade.cubicTo(96, 512, 40, 500, 24, 462)
    shade.closeSubpath()
    p.painter.drawPath(shade)
    p.painter.setBrush(QColor("#ffe3a2"))
    p.painter.drawEllipse(QPointF(0, 560), 66, 20)
    return p.done()


def drop(t: float, strikes: tuple[float, ...] = STRIKES) -> float:
    """How far down the platen is, 0…1."""
    lowered = 0.0
    for strike in strikes:
        u = t - strike
        if -0.20 <= u < 0:
            lowered = max(lowered, ((u + 0.20) / 0.20) ** 2.2)
        elif 0 <= u < 0.42:
            lowered = max(lowered, 1 - 0.03 * math.exp(-u * 18) * abs(math.sin(u * 60)))
        elif 0.42 <= u < 1.5:
            lowered = max(lowered, 0.5 + 0.5 * math.cos(math.pi * (u - 0.42) / 1.08))
    return lowered


def turned(t: float) -> float:
    """The wheel's angle in degrees: it runs down, and is thrown on before each strike."""
    angle = 40 * t
    for strike in STRIKES:
        angle += 260 / (1 + math.exp(-(t - strike + 0.22) * 9))
    return angle


class Scene:
    def __init__(self) -> None:
        self.wall = wall()
        self.press, self.iron, self.front = frame_of_press(), platen(), foreground()
        pits = (0.80 * (1 + 0.16 * cloud((H, W), 60, 4) + 0.05 * rng.normal(size=(H, W))))[..., None].astype(np.float32)
        self.press = (self.press[0] * pits, self.press[1])
        self.iron = (self.iron[0] * pits, self.iron[1])
        shadow(self.wall, self.press[1], -46, 30, 26, 0.55)
        ground = np.zeros((H, W), np.float32)
        cv2.ellipse(ground, (980, 962), (470, 46), 0, 0, 360, 1.0, -1)
        shadow(self.wall, ground, 0, 0, 26, 0.72)
        yy, xx = np.mgrid[0:H, 0:W].astype(np.float32)
        self.x, self.y = (xx - W / 2) / H, (yy - H / 2) / H
        self.motes = rng.uniform(0, 1, (70, 5))
        self.grain = rng.normal(0, 1, (H + 64, W + 64)).astype(np.float32)
        self.grain = cv2.GaussianBlur(self.grain, (0, 0), 0.7) * 1.9

    def frame(self, number: int) -> np.ndarray:
        """8-bit RGB picture of a frame."""
        t = number / FPS
        picture = self.wall.copy()
        down = round(118 * drop(t))
        hub = wheel(turned(t))
        lay = np.zeros((H, W), np.float32)
        lay[290:710, 1130:1550] = hub[1][..., 0]
        shadow(picture, lay, -40, 34, 15, 0.5)
        moved = np.zeros((H, W), np.float32)
        moved[down:] = self.iron[1][: H - down, :, 0]
        shadow(picture, moved, -30, 22, 15, 0.35)
        over(picture, self.iron, 0, down)
        over(picture, self.press)
        over(picture, hub, 1130, 290)
        gap = 742 - 628 - down
        band = picture[742:780, 790:1156]
        band *= 1 - 0.65 * math.exp(-max(gap, 0) / 26)
        return self.lit(picture, t)

    def lit(self, picture: np.ndarray, t: float) -> np.ndarray:
        """The scene under its lamp, as the camera exposes it: 8-bit RGB."""
        swing = 0.045 * math.sin(2 * math.pi * t / 2.9 + 0.4) * (1 + 0.5 * math.exp(-((t - 3.6) ** 2)))
        flicker = 1 + 0.012 * math.sin(t * 13.1) + 0.010 * math.sin(t * 31.7 + 1) + 0.008 * math.sin(t * 7.3 + 2)
        lx = (960 + 0.9 * math.sin(swing) * 890 - W / 2) / H
        r2 = (self.x - lx) ** 2 * 0.82 + (self.y + 0.26) ** 2
        pool = 1.55 / (1 + 3.4 * r2) ** 1.9
        cone = np.clip(1.25 - np.abs(self.x - lx) / (0.42 + 0.85 * np.clip(self.y + 0.42, 0, 2)), 0, 1)
        light = np.empty((H, W, 3), np.float32)
        for c, (warm, cool) in enumerate(((1.28, 0.135), (1.02, 0.155), (0.70, 0.215))):
            light[..., c] = warm * flicker * pool * (0.35 + 0.65 * cone) + cool
        moon = np.clip(1 - np.abs(self.x + 0.93 - 0.35 * self.y) * 2.6, 0, 1) * np.clip(0.9 - self.y, 0, 1) * 0.10
        light += moon[..., None] * np.array([0.55, 0.75, 1.15], np.float32)
        picture *= light
        if Layer.view[0] == 1:
            over(picture, lamp(swing), 960 - 350, -70)
        glow = 0.34 / (1 + ((self.x - lx * 0.62) ** 2 + (self.y + 0.345) ** 2) * 55)
        picture += glow[..., None] * np.array([1.0, 0.74, 0.36], np.float32) * flicker
        if Layer.view[0] == 1:
            self.dust(picture, t, lx)
        vignette = 1 - 0.30 * np.clip((self.x / 0.89) ** 2 + (self.y / 0.5) ** 2, 0, 2) ** 1.3 / 2.46
        picture *= vignette[..., None]
        picture = 1 - np.exp(-1.55 * np.maximum(picture, 0))
        picture = np.power(picture, 0.80) * 255
        shift = rng.integers(0, 64, 2)
        picture += self.grain[shift[0] : shift[0] + H, shift[1] : shift[1] + W, None] * 1.25
        return np.clip(picture, 0, 255).astype(np.uint8)

    def case(self) -> np.ndarray:
        """The type case in front, as a plate of its own: 8-bit RGB with straight alpha."""
        x, y = self.x, self.y
        pool = 1.55 / (1 + 3.4 * (x**2 * 0.82 + (y + 0.26) ** 2)) ** 1.9
        lit = self.front[0] * (0.55 * pool + 0.17)[..., None] * 0.8
        cover = np.maximum(self.front[1], 1e-4)
        colours = np.power(1 - np.exp(-1.55 * np.maximum(lit / np.maximum(cover, 0.02), 0)), 0.80)
        return np.rint(np.clip(np.concatenate([colours, self.front[1]], axis=2), 0, 1) * 255).astype(np.uint8)

    def dust(self, picture: np.ndarray, t: float, lx: float) -> None:
        layer = np.zeros((H // 2, W // 2), np.float32)
        for x, y, size, speed, phase in self.motes:
            px = (x + 0.012 * math.sin(t * (0.5 + speed) + phase * 9) + 0.006 * t * (speed - 0.5)) % 1
            py = (y + 0.010 * t * (speed - 0.2)) % 1
            if abs(px - 0.5) < 0.30 and py < 0.85:
                level = 0.05 + 0.10 * size * (0.6 + 0.4 * math.sin(t * 2 + phase * 20))
                at = (int(px * W / 2 * 16), int(py * H / 2 * 16))
                cv2.circle(layer, at, int((0.8 + 1.1 * size) * 16), level, -1, cv2.LINE_AA, 4)
        soft = cv2.resize(cv2.GaussianBlur(layer, (0, 0), 1.1), (W, H))
        picture += soft[..., None] * np.array([1.0, 0.86, 0.6], np.float32)


def main() -> None:
    app = QGuiApplication(sys.argv[:1])
    for font in sorted(FONTS.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(font))
    scene = Scene()
    case = scene.case()
    cv2.imwrite(str(OUT.with_name("type-case.png")), case[..., [2, 1, 0, 3]], [cv2.IMWRITE_PNG_COMPRESSION, 9])
    if "--still" in sys.argv:
        at = sys.argv.index("--still")
        rgb = scene.frame(round(float(sys.argv[at + 2]) * FPS))
        cv2.imwrite(sys.argv[at + 1], rgb[..., ::-1])
        return
    encode(OUT, scene, SECONDS, STRIKES)
    del app


def encode(path: Path, scene: Scene, seconds: int, strikes: tuple[float, ...]) -> None:
    """Write a scene as a film with its sound."""
    with av.open(str(path), "w", options={"movflags": "+faststart"}) as file:
        video = file.add_stream("libx264", rate=FPS)
        video.width, video.height, video.pix_fmt = W, H, "yuv420p"
        video.options = {
            "preset": "slow",
            "crf": "23",
            "g": "48",
            "x264-params": "colorprim=bt709:transfer=bt709:colormatrix=bt709",
        }
        context = video.codec_context
        context.color_primaries = context.color_trc = context.colorspace = context.color_range = 1
        track = file.add_stream("aac", rate=48000, layout="stereo")
        track.bit_rate = 128_000
        samples = sound(seconds, strikes)
        for number in range(FPS * seconds):
            picture = av.VideoFrame.from_ndarray(scene.frame(number), format="rgb24").reformat(
                format="yuv420p", src_colorspace="ITU709", dst_colorspace="ITU709", dst_color_range="MPEG"
            )
            picture.pts, picture.time_base = number, Fraction(1, FPS)
            file.mux(video.encode(picture))
        file.mux(video.encode(None))
        for start in range(0, len(samples), 1024):
            block = av.AudioFrame.from_ndarray(np.ascontiguousarray(samples[start : start + 1024].T), "fltp", "stereo")
            block.sample_rate, block.pts, block.time_base = 48000, start, Fraction(1, 48000)
            file.mux(track.encode(block))
        file.mux(track.encode(None))
    print(f"{path.name}: {path.stat().st_size / 1e6:.1f} MB")


if __name__ == "__main__":
    main()
