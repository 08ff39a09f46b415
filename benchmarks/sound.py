"""Sound: a minute of everything mixed, and the first block after a seek."""

from __future__ import annotations

import statistics
import time
from collections.abc import Iterator
from pathlib import Path

from msgspec.structs import replace

from young_tremor.engine.library import preset_library
from young_tremor.engine.sound import mixing, sound_presets
from young_tremor.model.curve import Curve
from young_tremor.model.project import Shot
from young_tremor.model.shake import Hit
from young_tremor.model.shot_edits import from_preset, plate_of
from young_tremor.model.sound import Layer, Rumble, SoundSway

Row = tuple[str, str, str]
CLIP = preset_library.ASSETS / "demo" / "press-wide.mp4"
SECONDS = 60.0


def everything(layer: Path) -> Shot:
    """A minute with the footage's sound, a rumble, forty knocks and a layer, trembling with the picture."""
    shot = Shot("s", "s", (plate_of(CLIP),), from_preset(preset_library.preset("Press strike")), end=SECONDS)
    shot = replace(shot, hits=tuple(Hit(f"h{k}", 1.4 * k + 0.2) for k in range(40)))
    rows = (
        *sound_presets.of_preset(preset_library.preset("Press strike")),
        sound_presets.shipped_sounds(Rumble)[0].sound,
    )
    rows = (*(replace(row, id=f"r{n}") for n, row in enumerate(rows)), Layer(id="l", path=str(layer)))
    return replace(shot, sound=replace(shot.sound, rows=rows, sway=SoundSway(on=True)))


def sound() -> Iterator[Row]:
    shot, firsts = everything(CLIP), []
    softer = replace(
        shot, sound=replace(shot.sound, rows=(replace(shot.sound.rows[0], level=Curve(-9.0)), *shot.sound.rows[1:]))
    )
    for words, goal, heard in (
        ("a minute of everything mixed, the first time", "≤ 1.5 s", shot),
        ("the same again, blocks being kept", "≤ 0.5 s", shot),
        ("the same after a level was changed", "–", softer),
    ):
        begun = time.perf_counter()
        for _block in mixing.blocks(heard, SECONDS):
            pass
        yield words, goal, f"{time.perf_counter() - begun:.2f} s"
    for start in (3.0, 17.0, 29.5, 41.0, 50.0):
        mixing.forget()
        begun = time.perf_counter()
        next(mixing.blocks(shot, SECONDS, start))
        firsts.append(1000 * (time.perf_counter() - begun))
    yield "the first block after a seek in it, median", "≤ 30 ms", f"{statistics.median(firsts):.0f} ms"
