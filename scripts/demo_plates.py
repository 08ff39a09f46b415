"""Make the demo's plates and put them into its project: python scripts/demo_plates.py, after the films.

The drying rack becomes numbered pictures; the press gets a title by letter, the type case in front, and depth. A span
lies over the two shots between.
"""

from __future__ import annotations

import shutil
from pathlib import Path

import cv2
from msgspec.structs import replace

from young_tremor.base import colour
from young_tremor.document import store
from young_tremor.engine.library import preset_library
from young_tremor.engine.sound import sound_presets
from young_tremor.media.sources import open_source
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.depth import Depth, Raised, Ramp
from young_tremor.model.project import Media, Placement, Plate, Project, Shot, Shutter, Size, Span
from young_tremor.model.shake import Hit, Point, Region
from young_tremor.model.sound import Knocks, Mix, Rumble, SoundSway
from young_tremor.model.title import Title

DEMO = preset_library.ASSETS / "demo"
RACK = DEMO / "drying-rack"
PICTURES, EVERY = 36, 2  # of the film, each second frame: twelve a second


def rack(film: Path) -> None:
    """Write the drying rack as numbered pictures."""
    shutil.rmtree(RACK, ignore_errors=True)
    RACK.mkdir()
    source = open_source(film)
    for number in range(PICTURES):
        rgb = colour.to_rgb(source.read(number * EVERY))
        picture = cv2.resize(
            (rgb[..., ::-1].clip(0, 1) * 255).astype("uint8"), (1280, 720), interpolation=cv2.INTER_AREA
        )
        cv2.imwrite(str(RACK / f"rack.{number + 1:04d}.webp"), picture, [cv2.IMWRITE_WEBP_QUALITY, 78])
    source.close()


def own(name: str, seconds: float):  # type: ignore[no-untyped-def]
    shake = shot_edits.from_preset(preset_library.preset(name))
    return replace(shake, strands=shot_edits.holding(shake.strands, seconds))


def press(shot: Shot) -> Shot:
    """The press: depth on it, the case in front, the title on the blows."""
    stand = Raised(Region("rectangle", Point(Curve(0.0), Curve(0.06)), Curve(0.78), Curve(0.86), feather=0.22), 0.72)
    footage = replace(
        shot.footage, name="Press, wide", depth=Depth(0.8, 1.35, ramp=Ramp(90.0, 0.12, 0.5), shapes=(stand,))
    )
    case = Plate("type-case", "Type case", Media(str(DEMO / "type-case.png")), distance=0.6)
    title = Title("NIGHT PROOF", size=15.0, tracking=30.0, shadow=0.55, apart="letter", differ=0.6)
    night = Plate(
        "night-proof",
        "NIGHT PROOF",
        Media(kind="title", title=title),
        Placement(y=Curve(0.27)),
        1.4,
        own("Letter thud", 10.0),
        0.7,
    )
    rows = (
        replace(sound_presets.find_sound(Knocks, "press strike"), id="strike-sound", level=Curve(-9.0)),
        replace(sound_presets.find_sound(Rumble, "machine floor"), id="floor-sound", level=Curve(-15.0)),
    )
    heard = Mix(rows=rows, sway=SoundSway(on=True, level=3.0, balance=0.3))
    return replace(shot, plates=(footage, case, night), sound=heard)


def main() -> None:
    film = DEMO / "drying-rack.mp4"
    if film.exists():  # from demo_aisle.py
        rack(film)
        film.unlink()
    project = store.load(preset_library.DEMO)
    wide, drying = (project.shot(name) for name in ("press-wide", "drying-rack"))
    pattern = str(RACK / "rack.####.webp")
    drying = replace(drying, plates=(replace(drying.footage, media=Media(pattern, rate="12")),), end=3.0)
    title = Title("NIGHT PROOF", size=22.0, tracking=40.0, apart="letter", differ=1.0)
    plate = Plate("title", "NIGHT PROOF", Media(kind="title", title=title), shake=own("Nervous title", 5.0))
    night = Shot("night-proof", "Night proof", (plate,), end=5.0, size=Size(1920, 1080), rate="24")
    night = replace(night, frame=replace(night.frame, shutter=Shutter()))
    close = close_up(project)
    swell = replace(own("Near tremor", 9.0), intensity=Curve(0.8))
    hits = (Hit("arrival", 10.6), Hit("after", 15.2, 0.5))
    below = replace(sound_presets.find_sound(Rumble, "ground"), id="ground-sound", level=Curve(-4.0))
    span = Span("ground-swell", "Ground swell", 8.5, 17.5, 1.5, 2.5, swell, hits, sounds=(below,))
    store.save(Project((press(wide), close, drying, night), project.takes, (span,)), preset_library.DEMO)


def close_up(project: Project) -> Shot:
    """The platen from near, held like the wide one."""
    made = shot_edits.add_shot(DEMO / "platen-close.mp4", preset_library.preset("Standing, breathing"), 5.0)(
        project
    ).shots[-1]
    hits = (Hit("first", 1.25), Hit("second", 3.5, 0.8))
    shake = replace(made.shake, strands=(*made.shake.strands, own("Press strike", 5.0).strands[0]))
    return replace(made, id="platen-close", name="Platen close", shake=shake, hits=hits, end=4.5)


if __name__ == "__main__":
    main()
