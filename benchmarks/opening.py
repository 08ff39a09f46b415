"""How long it takes to know a large file."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from pathlib import Path

import av

from frames import median
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import footage
from young_tremor.media import sources

CLIP = preset_library.ASSETS / "demo" / "press-wide.mp4"
Row = tuple[str, str, str]
MINUTES = 30


def long_film(folder: Path, name: str = "long.mp4") -> Path:
    """The demo clip's packets over and over, half an hour long: a 1080p H.264 file as a camera makes it."""
    path = folder / name
    with av.open(str(CLIP)) as source, av.open(str(path), "w") as target:
        stream = source.streams.video[0]
        out = target.add_stream_from_template(stream)
        packets = [(bytes(p), p.pts, p.dts, p.is_keyframe) for p in source.demux(stream) if p.size]
        span = round(stream.frames / stream.average_rate / stream.time_base)
        for turn in range(int(MINUTES * 60 / float(span * stream.time_base)) + 1):
            for data, pts, dts, key in packets:
                packet = av.Packet(data)
                packet.pts, packet.dts, packet.time_base = pts + turn * span, dts + turn * span, stream.time_base
                packet.is_keyframe = key
                packet.stream = out
                target.mux(packet)
    return path


def opening() -> Iterator[Row]:
    """Facts and first picture of a film of half an hour."""
    with tempfile.TemporaryDirectory() as name:
        for ending in (".mp4", ".mkv"):
            path = long_film(Path(name), f"long{ending}")
            path.read_bytes()  # warm

            def first() -> None:
                sources._known.clear()
                reader = footage.open_source(str(path))  # noqa: B023
                reader.read(0)
                reader.close()

            size = path.stat().st_size >> 20
            frames = footage.facts(str(path)).info.frames
            words = f"a film of {MINUTES} minutes ({ending}, 1080p, {frames} frames, {size} MB)"
            yield f"{words} to its first picture", "≤ 0.5 s", f"{median(first):.2f} s"
            again = 1000 * median(lambda: footage.facts(str(path)))  # noqa: B023
            yield f"{words}: its facts again", "≤ 20 ms", f"{again:.2f} ms"


if __name__ == "__main__":
    for row in opening():
        print(" | ".join(row), flush=True)
