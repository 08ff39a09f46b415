"""Draw and encode the close-up of the platen: python scripts/demo_close.py [--still FRAME.png SECONDS].

The same press by the same brushes, looked at closer: the iron sharp, the wall behind it out of focus.
"""

from __future__ import annotations

import sys

import cv2
import numpy as np
from PySide6.QtGui import QFontDatabase, QGuiApplication

from demo_paint import H, Layer, W, cloud, over, rng, shadow
from make_demo import FONTS, FPS, OUT, Scene, drop, encode, frame_of_press, platen, wheel

ZOOM, LEFT, TOP = 2.15, 700.0, 398.0
SECONDS, STRIKES = 5, (1.25, 3.5)
CLOSE = OUT.with_name("platen-close.mp4")


class Close(Scene):
    """The press where the platen meets the paper."""

    def __init__(self) -> None:
        super().__init__()
        view = np.array([[ZOOM, 0, -ZOOM * LEFT], [0, ZOOM, -ZOOM * TOP]])
        far = cv2.warpAffine(self.wall, view, (W, H), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
        self.wall = cv2.GaussianBlur(far, (0, 0), 4.5)
        Layer.view = (ZOOM, LEFT, TOP)
        self.press = frame_of_press()
        pits = 0.80 * (1 + 0.15 * cloud((H, W), 60, 4) + 0.06 * rng.normal(size=(H, W)))
        scratches = 1 + 0.10 * cloud((H, W), 240, 2, 0.02)
        self.skin = (pits * scratches)[..., None].astype(np.float32)
        self.press = (self.press[0] * self.skin, self.press[1])
        yy, xx = np.mgrid[0:H, 0:W].astype(np.float32)
        self.x, self.y = (xx / ZOOM + LEFT - W / 2) / H, (yy / ZOOM + TOP - H / 2) / H

    def frame(self, number: int) -> np.ndarray:
        t = number / FPS
        picture = self.wall.copy()
        down = 118 * drop(t, STRIKES)
        Layer.view = (ZOOM, LEFT, TOP - down)
        iron, cover = platen()
        Layer.view = (ZOOM, LEFT, TOP)
        shadow(picture, cover, -60, 44, 34, 0.35)
        over(picture, (iron * np.roll(self.skin, round(ZOOM * down), axis=0), cover))
        over(picture, self.press)
        hub = wheel(38 * t + 40)
        over(picture, hub, round(ZOOM * (1130 - LEFT)), round(ZOOM * (290 - TOP)))
        top, bottom = (round(ZOOM * (y - TOP)) for y in (742, 780))
        gap = 742 - 628 - down
        picture[top:bottom, : round(ZOOM * (1156 - LEFT))] *= 1 - 0.6 * np.exp(-max(gap, 0) / 26)
        return self.lit(picture, t)


def main() -> None:
    app = QGuiApplication(sys.argv[:1])
    for font in sorted(FONTS.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(font))
    scene = Close()
    if "--still" in sys.argv:
        at = sys.argv.index("--still")
        rgb = scene.frame(round(float(sys.argv[at + 2]) * FPS))
        cv2.imwrite(sys.argv[at + 1], rgb[..., ::-1])
    else:
        encode(CLOSE, scene, SECONDS, STRIKES)
    del app


if __name__ == "__main__":
    main()
