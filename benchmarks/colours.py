"""What it costs that a shot or its graphic is of another colour space."""

from __future__ import annotations

import statistics
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import YUV420_10
from young_tremor.base.pixels import ColourTags
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library
from young_tremor.media import sources
from young_tremor.media.codecs import EncodingChoice, codec
from young_tremor.media.video_writer import FilmHeader, VideoWriter
from young_tremor.render import colour_conversion
from young_tremor.render.screen import reduce, to_rgb

Row = tuple[str, str, str]
CLIP = preset_library.ASSETS / "demo" / "press-wide.mp4"
FRAMES = 48
PQ = ColourTags(9, 16, 9, False)


def high_range(path: Path) -> None:
    """Two seconds of the demo's first shot in PQ."""
    source = sources.open_source(CLIP)
    info = source.info
    writer = VideoWriter(path, codec("h265"), FilmHeader(info.size, info.rate, YUV420_10, PQ))
    for number in range(FRAMES):
        writer.write(colour_conversion.convert(source.read(number), YUV420_10, PQ))
    writer.finish()
    source.close()


def ratio(a: Callable[[], object], b: Callable[[], object], runs: int = 3) -> float:
    """How many times as long the first takes, in turns."""
    return statistics.median(_seconds(a) / _seconds(b) for _ in range(runs))


def _seconds(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def colours() -> Iterator[Row]:
    """Films and pictures for the screen, with and without a conversion."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        high, graphic = folder / "high.mp4", folder / "graphic.png"
        high_range(high)
        picture = np.zeros((1080, 1920, 4), np.uint8)
        picture[300:600, 400:1500] = 255
        cv2.imwrite(str(graphic), picture)
        preset = preset_library.preset("Standing, breathing")
        plain, laid = (actions.one_shot(high, preset, over=over) for over in ((), (graphic,)))

        def film(shot: object, space: str = "") -> None:
            how = EncodingChoice(space=space)
            actions.render(
                (shot,),  # type: ignore[arg-type]
                folder / "out.mp4",
                lambda done, total: None,
                codec_name="h265",
                how=how,
                overwrite=True,
            )

        film(plain)
        share = ratio(lambda: film(plain, "rec709"), lambda: film(plain))
        yield "a film of 2 s 1080p of PQ footage as Rec. 709, against one in PQ", "≤ 1.5 ×", f"{share:.2f} ×"
        share = ratio(lambda: film(laid), lambda: film(plain))
        yield "a graphic over PQ footage, against the footage alone", "≤ 1.5 ×", f"{share:.2f} ×"
        source = sources.open_source(high)
        frame = reduce(source.read(4), (960, 540))
        standard = colour.convert(frame, YUV420_10, ColourTags(1, 1, 1, False))
        share = ratio(lambda: [to_rgb(frame) for _ in range(20)], lambda: [to_rgb(standard) for _ in range(20)], 5)
        took = _seconds(lambda: [to_rgb(frame) for _ in range(20)]) / 20
        work = "a picture of 960 x 540 in PQ for the screen, against one in Rec. 709"
        yield work, "", f"{share:.1f} × ({1000 * took:.0f} ms)"
        source.close()
