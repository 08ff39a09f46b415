"""Plans to numbered pictures: any part of them, in any order, by anybody; each whole or not there."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from young_tremor.base.frames import Frame
from young_tremor.export.film import FilmPart, Report, check_parts, finished, look_of, transparent
from young_tremor.media.codecs import Codec
from young_tremor.media.picture_writer import PictureWriter, check_pictures, name_of
from young_tremor.render.frame import render_frame
from young_tremor.render.plate_pixels import picture_of

WAITING = 4  # pictures that are being written at once


@dataclass(frozen=True)
class Numbers:
    """Which pictures are written: the first of all has the number ``first``; ``frames``: only those from one number to
    another, both included. ``resume``: what is there already stays."""

    first: int = 1
    frames: tuple[int, int] | None = None
    overwrite: bool = False
    resume: bool = False


def write_pictures(parts: list[FilmPart], path: Path, chosen: Codec, report: Report, numbers: Numbers) -> int:
    """Render shots one after the other into numbered pictures: the same ones, byte for byte, whichever part of them is
    asked for. How many were written."""
    first, frames, overwrite, resume = numbers.first, numbers.frames, numbers.overwrite, numbers.resume
    check_parts(parts)
    total = sum(part.plan.frames for part in parts)
    low, high = (first, first + total - 1) if frames is None else frames
    low, high = max(low, first), min(high, first + total - 1)
    check_pictures(path, low, high - low + 1, overwrite=overwrite, resume=resume)
    parts = transparent(parts, chosen)
    look = look_of(parts, chosen)
    writer = PictureWriter(
        path, chosen.name, format=look.format, colour=look.colour, overwrite=overwrite, resume=resume
    )
    done, count, number = 0, max(high - low + 1, 0), first
    waiting: deque[Future[None]] = deque()
    with ThreadPoolExecutor(2, "pictures") as pool:
        try:
            for part in parts:
                wanted = [k for k in range(part.plan.frames) if low <= number + k <= high]
                if resume:
                    there = {k for k in wanted if name_of(path, number + k).is_file()}
                    done += len(there)
                    wanted = [k for k in wanted if k not in there]
                for index, given in _frames_from(part, wanted):
                    frame = finished(part.plan, render_frame(part.plan, index, given), look)
                    waiting.append(pool.submit(writer.write_as, number + index, frame))
                    if len(waiting) > WAITING:
                        waiting.popleft().result()
                    done += 1
                    report(done, count)
                number += part.plan.frames
        finally:
            for future in waiting:
                future.result()
    return done


def _frames_from(part: FilmPart, wanted: list[int]) -> Iterator[tuple[int, list[Frame]]]:
    sources = part.open_sources()
    try:
        for index in wanted:
            pairs = zip(part.plan.plates, sources, strict=True)
            yield index, [picture_of(part.plan, plate, index, source) for plate, source in pairs]
    finally:
        for source in sources:
            source.close()
