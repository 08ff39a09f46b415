"""Draws the moving picture of the README: the demo's press, still beside shaken: python scripts/moving_picture.py."""

from __future__ import annotations

import tempfile
from pathlib import Path

import av
import numpy as np
from PIL import Image, ImageDraw, ImageFont

from young_tremor import api
from young_tremor.engine.library import preset_library

OUT = Path(__file__).parents[1] / "docs" / "screenshots" / "still-and-shaken.gif"
WIDE, FPS = 400, 12
FROM, TO = 5.6, 8.6  # seconds of the press around a blow
MARGIN, LINE = 8, 30
PAPER, INK = (230, 222, 200), (43, 47, 51)


def pictures(path: Path) -> list[Image.Image]:
    """Every second picture of a film of 24 frames a second, small."""
    out = []
    with av.open(str(path)) as film:
        for number, picture in enumerate(film.decode(video=0)):
            if number % 2 == 0:
                out.append(picture.to_image().resize((WIDE, WIDE * 9 // 16), Image.Resampling.LANCZOS))
    return out


def main() -> None:
    project = preset_library.demo_project()
    press = project.shots[0]
    with tempfile.TemporaryDirectory() as folder:
        shaken, clean = Path(folder) / "shaken.mkv", Path(folder) / "clean.mkv"
        api.render(project, shaken, shot=press.name, clean=clean, form="ffv1", start=FROM, end=TO)
        pairs = list(zip(pictures(clean), pictures(shaken), strict=True))
    face = ImageFont.truetype(str(preset_library.ASSETS / "fonts" / "BarlowSemiCondensed_500Medium.ttf"), 19)
    tall = WIDE * 9 // 16
    frames = []
    for pair in pairs:
        whole = Image.new("RGB", (2 * WIDE + 3 * MARGIN, tall + LINE + MARGIN), PAPER)
        draw = ImageDraw.Draw(whole)
        for side, (picture, words) in enumerate(zip(pair, ("still", "shaken"), strict=True)):
            left = MARGIN + side * (WIDE + MARGIN)
            whole.paste(picture, (left, MARGIN))
            draw.text((left + 1, tall + MARGIN + 2), words, INK, face)
        frames.append(whole)
    # one palette for all, from a few of them side by side
    some = Image.fromarray(np.concatenate([np.asarray(each) for each in frames[::6]]))
    palette = some.quantize(96, method=Image.Quantize.MEDIANCUT)
    made = [each.quantize(palette=palette, dither=Image.Dither.NONE) for each in frames]
    made[0].save(OUT, save_all=True, append_images=made[1:], duration=round(1000 / FPS), loop=0, optimize=True)
    print(OUT, OUT.stat().st_size)


if __name__ == "__main__":
    main()
