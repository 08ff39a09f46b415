"""Delivering: forms against a transcode of the shaken film, two films of a list at once, ST maps, long timelines."""

from __future__ import annotations

import os
import statistics
import time
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import av
import opentimelineio as otio
from msgspec.structs import replace

from young_tremor.engine.delivery import actions, interchange, timelines
from young_tremor.engine.delivery.delivery_queue import DeliveryQueue, DeliveryRequest
from young_tremor.engine.library import preset_library
from young_tremor.media.codecs import CODECS
from young_tremor.model.project import Project

Row = tuple[str, str, str]
CLIP = preset_library.ASSETS / "demo" / "press-wide.mp4"
SECONDS = 4.0


def _transcode(source: Path, target: Path, form: str) -> None:
    """Decode and encode, nothing between."""
    chosen = CODECS[form]
    with av.open(str(source)) as given, av.open(str(target), "w") as made:
        video = given.streams.video[0]
        video.thread_type = "AUTO"
        out = made.add_stream(chosen.encoder, rate=video.average_rate)
        out.width, out.height, out.pix_fmt = video.width, video.height, chosen.forms[0]
        out.options = dict(chosen.options)
        out.codec_context.thread_count, out.codec_context.thread_type = os.cpu_count() or 2, "SLICE"
        for frame in given.decode(video):
            made.mux(out.encode(frame.reformat(format=out.pix_fmt)))
        made.mux(out.encode(None))


def _timed(work: object, *args: object, **more: object) -> float:
    begun = time.perf_counter()
    work(*args, **more)  # type: ignore[operator]
    return time.perf_counter() - begun


def delivery() -> Iterator[Row]:
    with TemporaryDirectory() as name:
        folder = Path(name)
        shot = replace(actions.one_shot(CLIP, preset_library.preset("Standing, breathing")), end=SECONDS)
        for form in ("prores", "dnxhr"):
            made, again, times = folder / f"{form}.mov", folder / "again.mov", []
            for _ in range(3):
                ours = _timed(actions.render, (shot,), made, lambda done, total: None, codec_name=form, overwrite=True)
                times.append(ours / _timed(_transcode, made, again, form))
            words = f"{CODECS[form].words} of {SECONDS:g} s of the demo shot, against a transcode of the shaken film"
            yield words, "≤ 1.3 ×", f"{statistics.median(times):.2f} ×"
        yield _at_once(folder)
        begun = time.perf_counter()
        count = interchange.write_maps(shot, folder / "st.####.exr", lambda done, total: None)
        yield "ST maps at 1080p", "≥ 8 frames/s", f"{count / (time.perf_counter() - begun):.1f} frames/s"
        yield _long(folder)


def _at_once(folder: Path) -> Row:
    """Two films of a list, which makes them at once, against one after the other."""
    shot = replace(actions.one_shot(CLIP, preset_library.preset("Standing, breathing")), end=SECONDS)
    rows = DeliveryQueue(lambda: (Project((shot,)), None))
    ratios: list[float] = []
    for turn in range(3):
        for number in range(2):
            rows.add(DeliveryRequest("reel", str(folder / f"list {turn} {number}.mp4")))
        together = _timed(_run, rows)
        alone = sum(
            _timed(actions.render, (shot,), folder / f"alone {turn} {number}.mp4", lambda done, total: None)
            for number in range(2)
        )
        ratios.append(alone / together)
    return (
        "two H.264 films of a list against one after the other",
        "all cores busy",
        f"{statistics.median(ratios):.2f} × as fast",
    )


def _run(rows: DeliveryQueue) -> None:
    rows.start()
    while rows.running:
        rows.wait(1.0)


def _long(folder: Path) -> Row:
    """A timeline of ten thousand clips of fifty films."""
    when = otio.opentime.RationalTime
    track = otio.schema.Track("V1", kind=otio.schema.TrackKind.Video)
    for number in range(10_000):
        media = otio.schema.ExternalReference((folder / f"{number % 50}.mov").as_uri())
        span = otio.opentime.TimeRange(when(number % 200, 24), when(24, 24))
        track.append(otio.schema.Clip(f"clip {number}", media, span))
    cut = otio.schema.Timeline("long")
    cut.tracks.append(track)
    otio.adapters.write_to_file(cut, str(folder / "long.otio"))
    begun = time.perf_counter()
    timelines.open_timeline(folder / "long.otio", preset_library.preset("Standing, breathing"), fps=Fraction(24))
    return "a timeline of 10,000 clips opened as a reel", "≤ 5 s", f"{time.perf_counter() - begun:.1f} s"
