"""How well and how fast motion is measured, on clips whose motion is known."""

from __future__ import annotations

import functools
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

import scenes
import truth
from truth import Filmed, Trouble, apart
from young_tremor.cli.main import main as command
from young_tremor.engine.analysis import measuring
from young_tremor.engine.library import takes
from young_tremor.engine.media import footage
from young_tremor.media.sources import open_footage

Row = tuple[str, str, str]
HD = (1920, 1080)
FRAMES = 36


def encode(path: Path, film: Filmed, count: int, *, crf: int, rate: int = 24) -> Path:
    """Film a clip into a file."""
    return truth.encode(path, (film.frame(number) for number in range(count)), rate, crf, "medium")


def large_clip(path: Path, count: int) -> Path:
    """A textured 3840x2160 clip that moves a little."""
    world = truth.world((3840 + 300, 2160 + 200), pitch=3.0)
    film = Filmed(world, functools.partial(truth.hand, size=10.0), (3840, 2160), trouble=Trouble(noise=1.5), quick=True)
    return encode(path, film, count, crf=23)


def measured(path: Path) -> measuring.Measured:
    return measuring.measure(path, lambda done, total: None)


def accuracy(folder: Path) -> Iterator[Row]:
    """Each trouble by itself and all together, through H.264."""
    world = truth.world((HD[0] + 380, HD[1] + 320))
    way = functools.partial(truth.hand, size=14.0)
    rough = {"blur": 0.5, "noise": 4, "flicker": 0.12}
    for words, trouble, crf, goal in (
        ("clean textured clip", Trouble(), 8, "≤ 0.015 px"),
        ("H.264 at crf 23, 180° of blur, noise, flicker", Trouble(**rough), 23, "≤ 0.06 px"),
        ("35 % of the frame moves by itself", Trouble(subject=0.35), 18, "≤ 0.05 px"),
        ("all of it at once, low contrast", Trouble(**rough, subject=0.35, contrast=0.35), 23, "≤ 0.20 px"),
    ):
        film = Filmed(world, way, HD, trouble=trouble)
        found = measured(encode(folder / "clip.mp4", film, FRAMES, crf=crf))
        path, turn, scale = apart(found.values, film.truth(FRAMES))
        lost = int(found.doubtful.sum())
        sure = f"said {np.sqrt(np.mean(found.error**2)):.3f} px, {lost} bridged"
        yield f"measured path, RMS at 1080p: {words}", goal, f"{path:.3f} px, {turn:.4f}°, {scale:.0f} ppm; {sure}"


def two_things(folder: Path, count: int = 20) -> Iterator[Row]:
    """Clips drawn at random in which a subject moves by itself over 30 to 50 % of the frame."""
    off, right = [], 0
    for number in range(count):
        scene, path = scenes.drawn_at_random(number), folder / "two.mp4"
        known = scenes.film(scene, 500 + number, path)
        found = measured(path)
        off.append(scenes.off_by(found.values, known[: len(found.values)], scene.size)[0])
        right += off[-1] < 3.0
    worst = sorted(off)[-2:]
    yield (
        f"{count} clips with a subject over 30 to 50 % of the frame: right one taken",
        "19 of 20",
        f"{right} of {count}; RMS {np.median(off):.3f} px, the two worst {worst[0]:.3f} and {worst[1]:.3f}",
    )


def calibration(folder: Path) -> Iterator[Row]:
    """The error that is said against the error that is made, RMS over the frame."""
    ratios = {}
    for number, (name, scene) in enumerate(scenes.varied().items()):
        path = folder / "said.mp4"
        known = scenes.film(scene, 40 + number, path)
        found = measured(path)
        made = scenes.off_by(found.values, known[: len(found.values)], scene.size)[1]
        ratios[name] = float(np.sqrt(np.mean(found.error**2))) / made
    inside = sum(0.5 <= ratio <= 2 for ratio in ratios.values())
    low, high = min(ratios, key=lambda k: ratios[k]), max(ratios, key=lambda k: ratios[k])
    yield (
        "error that is said against the one that is made",
        "within a factor of 2",
        f"{inside} of {len(ratios)} kinds; least {ratios[low]:.2f} ({low}), most {ratios[high]:.2f} ({high})",
    )


def drift() -> Iterator[Row]:
    """A minute of walking along a wall, two and a half frame widths out of the first view."""
    count, far = 1440, 4800.0
    world = truth.world((int(far) + HD[0] + 500, HD[1] + 320), pitch=2.6)

    def way(t: np.ndarray) -> np.ndarray:
        rows = truth.hand(t, size=14.0, pan=-far / 60)
        rows[:, 0] += far / 2
        return rows

    film = Filmed(world, way, HD, trouble=Trouble(noise=2), quick=True)
    with tempfile.TemporaryDirectory() as folder:
        path = encode(Path(folder) / "walk.mp4", film, count, crf=20)
        reader = open_footage(path)
        begun = time.perf_counter()
        for _ in reader.pictures():
            pass
        alone = time.perf_counter() - begun
        reader.close()
        begun = time.perf_counter()
        found = measured(path)
        spent = time.perf_counter() - begun
    rows = way(np.arange(count) / 24)
    scale, turn = np.exp(rows[:, 3]), np.radians(rows[:, 2])
    x = rows[:, 0] - scale * np.cos(turn) * far / 2
    y = rows[:, 1] - scale * np.sin(turn) * far / 2
    end = float(np.hypot(found.values[-1, 0] - x[-1], found.values[-1, 1] - y[-1]))
    yield (
        "a minute's walk out of the first view: drift at its end",
        "≤ 1.5 px",
        f"{end:.3f} px, {found.keys} key pictures",
    )
    yield "measuring that minute, 1080p H.264", "≥ 50 frames/s", f"{count / spent:.0f} frames/s"
    yield "the same against decoding alone", "≤ 3.5 ×", f"{spent / alone:.2f} × ({count / alone:.0f} frames/s alone)"


def circle(folder: Path) -> Iterator[Row]:
    """Known path → clip → measure → shake a locked-off clip → measure → compare, in pixels of 1080p."""
    world = truth.world((HD[0] + 380, HD[1] + 320))
    wide = truth.world((3840 + 500, 2160 + 400), pitch=3.0)
    still = Filmed(truth.world((HD[0] + 8, HD[1] + 8), seed=8), lambda t: np.zeros((len(t), 4)), HD)
    for words, size, picture, rate in (
        ("24 to 24 frames/s, 1080p", HD, world, 24),
        ("24 to 25 frames/s, 1080p", HD, world, 25),
        ("3840x2160 to 1920x1080", (3840, 2160), wide, 24),
    ):
        sway = 14.0 * size[1] / 1080
        film = Filmed(picture, functools.partial(truth.hand, size=sway), size, quick=size != HD)
        hand = encode(folder / "hand.mp4", film, FRAMES, crf=16)
        rack = encode(folder / "rack.mp4", still, FRAMES, crf=12, rate=rate)
        take, shaken = folder / "take.csv", folder / "shaken.mp4"
        assert command(["measure", str(hand), "-o", str(take), "--overwrite"]) == 0
        asked = ["--take", str(take), "--edges", "mirror", "--shutter", "0", "--overwrite"]
        assert command(["shake", str(rack), "-o", str(shaken), *asked]) == 0
        table = takes.of_path(measured(shaken), footage.facts(str(shaken)).info, "again").table()
        rows = truth.hand(table[:, 0], size=14.0)
        known = np.column_stack([rows[:, :2], rows[:, 2] * (sway / 14.0), np.exp(rows[:, 3] * (sway / 14.0))])
        path, turn, grow = apart(table[:, 1:5], known)
        yield f"the circle: {words}", "≤ 0.15 px", f"{path:.3f} px, {turn:.4f}°, {grow:.0f} ppm"


def measure() -> Iterator[Row]:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        yield from accuracy(folder)
        yield from two_things(folder)
        yield from calibration(folder)
        yield from circle(folder)
    yield from drift()
