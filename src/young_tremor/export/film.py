"""Plans to a film: decoding, rendering and encoding side by side, in that order."""

from __future__ import annotations

import queue
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path

import numpy as np

from young_tremor import __version__, kernels
from young_tremor.base import colour
from young_tremor.base.colour import matrix_for
from young_tremor.base.colour_spaces import (
    PQ,
    ColourSpace,
    differ,
    is_high,
    is_light,
    is_standard,
    space_named,
    space_of,
)
from young_tremor.base.errors import RequestError, TremorError
from young_tremor.base.frames import Frame, FrameSource, Mastering
from young_tremor.base.pixels import ColourTags, PixelFormat, planar_format, with_alpha, without_alpha
from young_tremor.base.prefetch import ahead
from young_tremor.base.units import parse_time, timecode
from young_tremor.media.codecs import Codec
from young_tremor.media.sound_writer import SoundTrack
from young_tremor.media.video_writer import FilmHeader, VideoWriter, check_output, form_of
from young_tremor.model.project import FrameSettings
from young_tremor.render import colour_conversion
from young_tremor.render.colour_conversion import rendering_of
from young_tremor.render.frame import render_frame
from young_tremor.render.plan import Plan
from young_tremor.render.plate_pixels import picture_of
from young_tremor.render.resolve_plan import readings

Report = Callable[[int, int], None]
AHEAD = 3  # frames waiting between the stages
LEAST_HIGH = 10  # bits of high range
LARGE = 32 << 20  # bytes of a picture from which only one waits


@dataclass(frozen=True)
class FilmPart:
    """One shot of a film: its plan, a way to open what its plates show, its sound."""

    plan: Plan
    open_sources: Callable[[], Sequence[FrameSource]]
    sound: SoundTrack


Render = Callable[[int, FilmPart, "FilmLook"], Iterator[Frame]]


def check_parts(parts: list[FilmPart]) -> None:
    """Shots of one film agree in size and rate; RequestError names the first that does not."""
    first = parts[0].plan
    for part in parts[1:]:
        plan = part.plan
        if (plan.size, plan.pixel_aspect, plan.rate) != (first.size, first.pixel_aspect, first.rate):
            raise RequestError(
                f"Shot “{plan.shot.name}” differs in size or rate from “{first.shot.name}”: "
                "set the same delivery for both, or render shots one by one."
            )


def write_movie(
    parts: list[FilmPart],
    path: Path,
    chosen: Codec,
    report: Report,
    *,
    overwrite: bool = False,
    render: Render | None = None,
) -> None:
    """Render shots one after the other into one film. ``render``: who renders the frames of a part, in order.

    ``report(done, total)`` is called after every frame in the calling thread; what it raises (``Cancelled``) stops
    the work and leaves no file behind. May be called from any thread.
    """
    check_output(path, chosen, overwrite=overwrite)
    check_parts(parts)
    total = sum(part.plan.frames for part in parts)
    parts = transparent(parts, chosen)
    first = parts[0].plan
    look = look_of(parts, chosen)
    format = look.format
    mastering, total, done = mastering_of(first, look), total * (1 + measures_light(chosen, look)), 0

    def go_on() -> None:
        nonlocal done
        done += 1
        report(done, total)

    if measures_light(chosen, look):
        mastering = replace(mastering or Mastering(), light=_light_level(parts, look, render, go_on))
    header = FilmHeader(
        first.size,
        first.rate,
        format,
        look.colour,
        first.pixel_aspect,
        tuple(part.sound for part in parts),
        _timecode(first),
        (*first.source.carried, ("comment", f"Young Tremor {__version__}, {kernels.RELEASE}")),
        mastering,
    )
    encode = _EncoderThread(
        partial(VideoWriter, path, chosen, header, overwrite=overwrite),
        AHEAD if format.nbytes(first.size) < LARGE else 1,
    )
    try:
        encode.start()
        for frame in _all_frames(parts, look, render):
            encode.put(frame)
            go_on()
        encode.finish()
    except BaseException:
        encode.abandon()
        raise


def _all_frames(parts: list[FilmPart], look: FilmLook, render: Render | None) -> Iterator[Frame]:
    for number, part in enumerate(parts):
        frames = render(number, part, look) if render else render_frames(part, look)
        try:
            yield from frames
        finally:
            frames.close()  # type: ignore[attr-defined]


def measures_light(chosen: Codec, look: FilmLook) -> bool:
    """Whether a film's light level is measured in a pass before: only PQ tells it."""
    return chosen.light_level and not chosen.pictures and look.colour.transfer == PQ


def _light_level(
    parts: list[FilmPart], look: FilmLook, render: Render | None, go_on: Callable[[], None]
) -> tuple[int, int]:
    """The most light of a pixel, and of a frame's mean, in cd/m²: of the largest of red, green and blue (CTA-861.3)."""
    levels = np.zeros((1, 2))
    for frame in _all_frames(parts, look, render):
        levels = np.maximum(levels, colour_conversion.light_level(frame))
        go_on()
    most, mean = np.ceil(levels[0] - 1e-6)
    return int(most), int(mean)


@dataclass(frozen=True)
class FilmLook:
    """What all frames of a film are in: a format and colours."""

    format: PixelFormat
    colour: ColourTags


def look_of(parts: list[FilmPart], chosen: Codec) -> FilmLook:
    """What the frames of a film are in: its first shot's format and colours, or those of the space that was chosen.
    Light goes into a form without floats as standard range, and high range in ten bits or more."""
    first = parts[0].plan
    look = FilmLook(first.alpha or without_alpha(first.source.format), first.source.colour)
    if chosen.space:
        return _in_space(look, space_named(chosen.space))
    light = first.shot.frame.match_colours and is_light(look.colour)
    if light and not form_of(chosen, look.format, look.colour, first.size).target.format.real:
        return _in_space(look, space_named("rec709"))
    return look


def _in_space(look: FilmLook, space: ColourSpace) -> FilmLook:
    """A look in another colour space: with that one's matrix, and deep enough for it."""
    format, colour = look.format, space.tags(look.colour)
    if not differ(colour, look.colour):
        return look
    if format.kind == "yuv":
        colour = replace(colour, matrix=matrix_for(colour.primaries))
    if is_high(colour) and format.depth < LEAST_HIGH and not format.real:
        deep = planar_format(format.kind, LEAST_HIGH, format.step, alpha=format.alpha)
        format = replace(deep, siting=format.siting)
    return FilmLook(format, colour)


def render_frames(part: FilmPart, look: FilmLook, which: range | None = None) -> Iterator[Frame]:
    """The frames of a part in order, all or some of them, as the film is to look."""
    which = range(part.plan.frames) if which is None else which
    frames = _ahead(part, which)
    try:
        for index, pictures in zip(which, frames, strict=True):
            yield finished(part.plan, render_frame(part.plan, index, pictures), look)
    finally:
        frames.close()  # type: ignore[attr-defined]


def finished(plan: Plan, frame: Frame, look: FilmLook) -> Frame:
    """A rendered frame of a shot as the film is to look; the frame itself where there is nothing to do."""
    rendering = rendering_of(plan.shot.frame)
    if rendering is None:
        return colour.convert(frame, look.format, look.colour)
    return colour_conversion.convert(frame, look.format, look.colour, rendering)


def mastering_of(first: Plan, look: FilmLook) -> Mastering | None:
    """What a film says of the screen it was made on: what its first shot says, if it keeps that one's colours."""
    return first.source.mastering if is_high(look.colour) and not differ(first.source.colour, look.colour) else None


def notes(parts: list[FilmPart], chosen: Codec) -> tuple[str, ...]:
    """What a person should know before a film is written: of the sources, and of what the codec cannot hold."""
    check_parts(parts)
    ready = transparent(parts, chosen)
    first = ready[0].plan
    out = [
        f"{plate.source.name}: {note}" for part in parts for plate in part.plan.plates for note in plate.source.notes
    ]
    look = look_of(ready, chosen)
    format = look.format if first.alpha or first.opaque else with_alpha(look.format)
    out += form_of(chosen, format, look.colour, first.size).notes
    out += _mapped(ready, look)
    if chosen.encoder == "libvpx-vp9" and mastering_of(first, look) is not None:
        out.append(f"{chosen.words} does not carry the mastering display and light level: the other forms do")
    if chosen.light_level and not measures_light(chosen, look):
        out.append("MaxCLL and MaxFALL are not measured: only films in PQ carry them")
    return tuple(dict.fromkeys(out))


def _mapped(parts: list[FilmPart], look: FilmLook) -> list[str]:
    """What becomes of colours that are of another space than what they go into, in words."""
    out = []
    for part in parts:
        own, frame = part.plan.source.colour, part.plan.shot.frame
        pairs = [(plate.source.name, plate.source.colour, own) for plate in part.plan.plates[1:]]
        for name, source, target in [*pairs, (part.plan.source.name, own, look.colour)]:
            if differ(source, target):
                out.append(f"{name}: {_conversion(source, target, frame)}")
    return out


def _conversion(source: ColourTags, target: ColourTags, frame: FrameSettings) -> str:
    verb = "is" if frame.match_colours else "would be"
    words = f"{space_of(source).label} {verb} converted to {space_of(target).label}"
    if not frame.match_colours:
        return f"{words}, but Match colours is off"
    if is_high(source) and is_standard(target):
        words += f", highlights to {frame.peak:g} cd/m² mapped (BT.2390), colours out of its gamut drawn to grey"
    elif is_high(target) and is_standard(source):
        words += f", white at {frame.white:g} cd/m²"
    return words


def _timecode(plan: Plan) -> str:
    """The timecode of the first frame, where the source has one and its rate is the delivery's."""
    source = plan.source
    if not source.timecode or source.rate != plan.rate:
        return ""
    try:
        begin = round(parse_time(source.timecode, source.rate) * source.rate)
    except TremorError:
        return ""
    drop = ";" in source.timecode
    return timecode(begin + round(plan.shot.start * float(source.rate)), source.rate, hours=True, drop=drop)


def transparent(parts: list[FilmPart], chosen: Codec) -> list[FilmPart]:
    """Parts that keep what is not covered as transparency, where the format can hold it and any of it is there: footage
    with alpha, or open edges that show in all of them."""
    if not chosen.alpha:
        return parts
    see_through = any(not part.plan.opaque for part in parts)
    open_edges = all(part.plan.shaken and part.plan.border == "black" for part in parts)
    if not see_through and not (open_edges and any(readings(part.plan).uncovered for part in parts)):
        return parts
    alpha = with_alpha(parts[0].plan.source.format)
    return [
        replace(part, plan=replace(part.plan, border="hold" if open_edges else part.plan.border, alpha=alpha))
        for part in parts
    ]


def _ahead(part: FilmPart, which: range) -> Iterator[list[Frame]]:
    """Source frames of a part in order, decoded in a thread of their own."""

    def decode() -> Iterator[list[Frame]]:
        sources = part.open_sources()
        try:
            for index in which:
                pairs = zip(part.plan.plates, sources, strict=True)
                yield [picture_of(part.plan, plate, index, source) for plate, source in pairs]
        finally:
            for source in sources:
                source.close()

    size = max(plate.source.format.nbytes(plate.source.size) for plate in part.plan.plates)
    return ahead(decode, AHEAD if size < LARGE else 1, "decode")


class _EncoderThread:
    """The encoder in a thread of its own; the first error comes out of the next call."""

    def __init__(self, make: Callable[[], VideoWriter], waiting: int) -> None:
        self._line: queue.Queue[Frame | str] = queue.Queue(waiting)
        self._error: BaseException | None = None
        self._thread = threading.Thread(target=self._run, args=(make,), name="encode", daemon=True)
        self._asked, self._ended = False, threading.Event()

    def start(self) -> None:
        """Begin. What comes between, a signal for example, is followed by :meth:`abandon`."""
        self._asked = True
        self._thread.start()

    def put(self, item: Frame | str) -> None:
        while self._error is None:
            try:
                self._line.put(item, timeout=0.1)
                return
            except queue.Full:
                continue
        raise self._error

    def finish(self) -> None:
        self.put("finish")
        self._thread.join()
        if self._error is not None:
            raise self._error

    def abandon(self) -> None:
        patience = time.monotonic() + 2.0  # for a thread that a signal kept from being seen, or from beginning
        while self._asked and not self._ended.is_set() and (self._thread.is_alive() or time.monotonic() < patience):
            try:
                self._line.put("abandon", timeout=0.05)
            except queue.Full:
                try:
                    self._line.get_nowait()
                except queue.Empty:
                    pass
            self._ended.wait(0.05)

    def _run(self, make: Callable[[], VideoWriter]) -> None:
        writer = None
        try:
            writer = make()
            while True:
                item = self._line.get()
                if isinstance(item, Frame):
                    writer.write(item)
                elif item == "finish":
                    return writer.finish()
                else:
                    return writer.abandon()
        except BaseException as error:
            self._error = error  # first, so that nobody waits for a thread that is gone
            if writer is not None:
                writer.abandon()
        finally:
            self._ended.set()
