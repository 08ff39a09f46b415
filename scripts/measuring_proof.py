"""How well measuring knows itself: python scripts/measuring_proof.py FIRST writes the table of docs/proof.md.

Clips are drawn, coded and measured; their seeds begin with FIRST, so that a table can be made of clips that nobody has
seen. Each kind has five. Beside what is true and what was said stands what an aligner of the imaging library makes of
the same frames (enhanced correlation, G. Evangelidis and E. Psarakis, 2008), begun at the truth.
"""

from __future__ import annotations

import functools
import re
import sys
import tempfile
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

import cv2
import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "tests"))
import truth  # noqa: E402
from truth import Filmed, Trouble  # noqa: E402
from young_tremor.engine.analysis import measuring  # noqa: E402

PAGE, HEAD = ROOT / "docs" / "proof.md", "## Measuring: what is true, and what is said"
SIZE, FRAMES, SEEDS = (640, 360), 40, 5
FLASHES, DOUBLED = (9, 21, 22, 33), (8, 19, 30)


@dataclass(frozen=True)
class Kind:
    """A kind of clip. ``even``: as much contrast everywhere; ``running``: as somebody runs; ``faults``: flashes and
    doubled frames."""

    words: str
    trouble: Trouble = field(default_factory=Trouble)
    crf: int = 21
    fps: int = 24
    sway: float = 7.0
    pan: float = 0.0
    even: bool = False
    running: bool = False
    flashes: tuple[int, ...] = ()
    doubled: tuple[int, ...] = ()


KINDS = (
    Kind("even texture, coded lightly", crf=16, even=True),
    Kind("coded heavily (CRF 26)", crf=26),
    Kind("blur of a 180° shutter", Trouble(blur=0.5)),
    Kind("grain", Trouble(noise=9.0)),
    Kind("light that flickers", Trouble(flicker=0.15)),
    Kind("low contrast", Trouble(contrast=0.2, noise=1.5)),
    Kind("35 % moves by itself", Trouble(subject=0.35)),
    Kind("40 % moves by itself, the scene out of focus", Trouble(subject=0.4, soft=1.5)),
    Kind("rolling shutter of 29 ms, blurred", Trouble(blur=0.4, readout=0.7), sway=12.0),
    Kind("running, blurred", Trouble(blur=0.5), running=True),
    Kind("120 frames a second", Trouble(noise=2.0), fps=120),
    Kind("a slow pan", pan=30.0, sway=2.0),
    Kind("flashes", flashes=FLASHES),
    Kind("frames shown twice", doubled=DOUBLED, sway=9.0),
)


def way_of(kind: Kind, seed: int) -> Callable[[np.ndarray], np.ndarray]:
    """The motion of a clip."""
    hand = functools.partial(truth.hand, size=kind.sway, seed=seed, pan=kind.pan)
    if not kind.running:
        return hand
    phase = np.random.default_rng(seed).uniform(0, 1, 3)

    def run(t: np.ndarray) -> np.ndarray:
        out = truth.hand(t, size=10.0, seed=seed)
        step = np.pi * 2.7 * t
        out[:, 0] += 9 * np.sin(step + np.pi * phase[0])
        out[:, 1] += 16 * np.abs(np.sin(step + np.pi * phase[1])) - 8
        out[:, 2] += 0.7 * np.sin(step + np.pi * phase[2])
        return out

    return run


def world_of(kind: Kind, seed: int) -> np.ndarray:
    """The scene: drawn texture, of very different contrast from place to place as photographs are."""
    size = SIZE[0] + 240, SIZE[1] + 200
    picture = truth.world(size, seed=seed)
    if kind.even:
        return picture
    places = np.random.default_rng(seed + 1).uniform(-1, 1, (5, 7)).astype(np.float32)
    contrast = 10 ** cv2.resize(places, size, interpolation=cv2.INTER_CUBIC).clip(-1.2, 0.3)
    return np.clip(118 + contrast * (picture - 118), 16, 235)


def frames_of(kind: Kind, clip: Filmed) -> Iterator[np.ndarray]:
    """The frames of a clip as they are shown."""
    for number in range(FRAMES):
        picture = clip.frame(number - (number in kind.doubled))
        if number in kind.flashes:
            picture = np.clip(picture * 2.2 + 60.0, 0, 255).astype(np.uint8)
        yield picture


def rms(off: np.ndarray) -> float:
    """RMS of places off (n, 2), their mean taken off."""
    return float(np.sqrt(((off - off.mean(axis=0)) ** 2).sum(axis=1).mean()))


def by_correlation(pictures: list[np.ndarray], rows: np.ndarray) -> float:
    """RMS of what the library's aligner makes of the frames, begun at the truth."""
    centre, places = (np.array(SIZE) - 1) / 2, [np.zeros(2)]
    for picture, (x, y, turn, _) in zip(pictures[1:], rows[1:] - rows[0] * (1, 1, 1, 0), strict=True):
        c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
        linear = np.array([[c, -s], [s, c]])
        warp = np.column_stack([linear, centre - linear @ centre + (x, y)]).astype(np.float32)
        try:
            _, warp = cv2.findTransformECC(pictures[0], picture, warp, cv2.MOTION_EUCLIDEAN, (3, 30, 1e-4), None, 5)
        except cv2.error:
            return float("nan")
        places.append(warp @ (*centre, 1.0) - centre)
    return rms(np.array(places) - rows[:, :2])


def clip_of(task: tuple[int, int]) -> tuple[int, float, float, float]:
    """A clip drawn, coded and measured: its kind, RMS off, RMS said, RMS of the library's aligner, in pixels."""
    cv2.setNumThreads(1)
    number, seed = task
    kind = KINDS[number]
    clip = Filmed(world_of(kind, seed), way_of(kind, seed), SIZE, fps=kind.fps, trouble=kind.trouble, seed=seed)
    pictures, rows = list(frames_of(kind, clip)), clip.truth(FRAMES)
    with tempfile.TemporaryDirectory() as folder:
        path = truth.encode(Path(folder) / "clip.mp4", pictures, kind.fps, kind.crf)
        path_of_clip = measuring.measure(path, lambda done, total: None)
    values, good = path_of_clip.values, ~path_of_clip.doubtful
    count = len(values)
    off = rms((values[:, :2] - rows[:count, :2])[good]) if count == FRAMES else float("nan")
    said = float(np.sqrt((path_of_clip.error[good] ** 2).mean()))
    return number, off, said, by_correlation(pictures, rows)


def table(first: int) -> str:
    """The table of all kinds, and how many clips say what is true."""
    tasks = [(number, first + 10 * number + k) for number in range(len(KINDS)) for k in range(SEEDS)]
    with ProcessPoolExecutor(2) as pool:
        results = list(pool.map(clip_of, tasks))
    lines = [
        "| clip | true px | said px | true / said, each of five | library's aligner px |",
        "| --- | --- | --- | --- | --- |",
    ]
    honest = 0
    for number, kind in enumerate(KINDS):
        rows = np.array([result[1:] for result in results if result[0] == number])
        shares = rows[:, 0] / rows[:, 1]
        honest += int(((shares > 1 / 1.5) & (shares < 1.5)).sum())
        off, said, library = np.sqrt((rows**2).mean(axis=0))
        ratios = ", ".join(f"{share:.1f}" for share in shares)
        beside = f"{library:.3f}" if np.isfinite(library) else "lost"
        lines.append(f"| {kind.words} | {off:.3f} | {said:.3f} | {ratios} | {beside} |")
    return "\n".join([*lines, "", f"Said within a factor of 1.5 of the truth: {honest} of {len(tasks)} clips."])


def main() -> None:
    """Write the table into its page."""
    first = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    text = PAGE.read_text()
    made = f"{HEAD}\n<!-- measuring -->\n{table(first)}\n<!-- /measuring -->"
    if HEAD in text:
        text = re.sub(f"{HEAD}\n<!-- measuring -->.*?<!-- /measuring -->", lambda _: made, text, flags=re.S)
    else:
        text = f"{text.rstrip()}\n\n{made}\n"
    PAGE.write_text(text)


if __name__ == "__main__":
    main()
