"""Sound: a minute of everything mixed, and the first block after a seek."""

from __future__ import annotations

import statistics
import time
from collections.abc import Iterator
from pathlib import Path

from msgspec.structs import replace

from young_tremor.engine import library, mixing, sounds
from young_tremor.model.edits import from_preset, plate_of
from young_tremor.model.project import Shot
from young_tremor.model.shake import Hit
from young_tremor.model.sound import Layer, Rumble, SoundSway

Row = tuple[str, str, str]
CLIP = library.ASSETS / "demo" / "press-wide.mp4"
SECONDS = 60.0


def everything(layer: Path) -> Shot:
    """A minute with the footage's sound, a rumble, forty knocks and a layer, trembling with the picture."""
    shot = Shot("s", "s", (plate_of(CLIP),), from_preset(library.preset("Press strike")), end=SECONDS)
    shot = replace(shot, hits=tuple(Hit(f"h{k}", 1.4 * k + 0.2) for k in range(40)))
    rows = (*sounds.of_preset(library.preset("Press strike")), sounds.shipped(Rumble)[0].sound)
    rows = (*(replace(row, id=f"r{n}") for n, row in enumerate(rows)), Layer(id="l", path=str(layer)))
    return replace(shot, sound=replace(shot.sound, rows=rows, sway=SoundSway(on=True)))


def sound() -> Iterator[Row]:
    shot, times, firsts = everything(CLIP), [], []
    for _ in range(3):
        begun = time.perf_counter()
        for _block in mixing.blocks(shot, SECONDS):
            pass
        times.append(time.perf_counter() - begun)
    yield "a minute of everything mixed, the first time", "≤ 1.5 s", f"{times[0]:.1f} s"
    yield "the same again", "≤ 1.5 s", f"{min(times[1:]):.1f} s"
    for start in (3.0, 17.0, 29.5, 41.0, 50.0):
        begun = time.perf_counter()
        next(mixing.blocks(shot, SECONDS, start))
        firsts.append(1000 * (time.perf_counter() - begun))
    yield "the first block after a seek in it, median", "≤ 30 ms", f"{statistics.median(firsts):.0f} ms"
