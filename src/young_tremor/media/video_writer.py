"""Films out: a codec, a container, the form that loses nothing that matters, and a file that is whole or not there."""

from __future__ import annotations

import logging
import os
from contextlib import suppress
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np

from young_tremor.base.colour import coded_colour, convert, matrix_of, over_black
from young_tremor.base.errors import EncodeError, RequestError
from young_tremor.base.files import PartFile, check_free
from young_tremor.base.frames import Frame, Mastering
from young_tremor.base.pixels import (
    ColourTags,
    EncoderFormats,
    PixelFormat,
    Target,
    planar_format,
    restricted_target,
    target,
)
from young_tremor.media import matroska_header, movie_header
from young_tremor.media.codecs import CONTAINERS, Codec
from young_tremor.media.decoder_formats import range_code, to_picture, writing
from young_tremor.media.sound_writer import SoundTrack, Track, tracks

_log = logging.getLogger(__name__)
HELD = 1200 << 20  # bytes of pictures that an encoder may hold
REORDERED = 3  # pictures; of fewer, libx265 counts the decoding time from memory that it never wrote
_CHROMA_PLACES = {(0.0, 0.5): 0, (0.5, 0.5): 1, (0.0, 0.0): 2, (0.5, 0.0): 3, (0.0, 1.0): 4, (0.5, 1.0): 5}
AVX_512 = 13  # the vision library's number for vectors of 512 bits
_PARAMS = {"libx264": "x264-params", "libx265": "x265-params"}


def _add_parameter(options: dict[str, str], name: str, words: str) -> None:
    """Add to an encoder's own parameters, which go into one option."""
    options[name] = ":".join(filter(None, (options.get(name, ""), words)))


@dataclass(frozen=True)
class Form:
    """How pictures of a source go into a codec: planes, colour tags, size, and what is to be said of it."""

    target: Target
    colour: ColourTags
    size: tuple[int, int]
    notes: tuple[str, ...]


def check_output(path: Path, chosen: Codec, *, overwrite: bool) -> None:
    """Refuse at the door what could not be finished: existing file, wrong ending, unwritable folder."""
    if path.name and path.name != "-" and path.suffix.lower() not in chosen.suffixes:
        allowed = " or ".join(chosen.suffixes)
        raise RequestError(f"{chosen.words} does not go into “{path.name}”: use a name that ends in {allowed}.")
    if not chosen.pictures:
        check_free(path, overwrite=overwrite)


def form_of(chosen: Codec, format: PixelFormat, colour: ColourTags, size: tuple[int, int]) -> Form:
    """What pictures of a format and size become in a codec; RequestError where it can hold nothing like them.

    Pictures that are passed on as they are keep their tags. RGB and other chroma become limited range and get the
    matrix of their size, which is said, as is whatever is left out.
    """
    if chosen.pictures:
        return _of_pictures(chosen, format, colour, size)
    names = [item.name for item in av.codec.Codec(chosen.encoder, "w").video_formats or ()]
    if chosen.forms:
        found_target = restricted_target(format, names, chosen.forms, chosen.words)
    else:
        takes = EncoderFormats(
            tuple(names),
            chosen.lossless,
            chosen.depths,
            chosen.wide,
            chosen.words,
            chosen.full_chroma,
            chosen.plain,
        )
        found_target = target(format, takes)
    if found_target is None:
        raise RequestError(f"{format.name} pictures cannot be written as {chosen.words}: choose another codec.")
    made = found_target.format
    notes = list(found_target.notes)
    across, down = made.step if not chosen.lossless else (1, 1)
    delivered = size[0] - size[0] % across, size[1] - size[1] % down
    if (delivered[0] < chosen.least[0] or delivered[1] < chosen.least[1]) and not chosen.lossless:
        least = "x".join(map(str, chosen.least))
        raise RequestError(
            f"{chosen.words} cannot hold pictures of {size[0]}x{size[1]}: deliver {least} or more, or choose FFV1."
        )
    if delivered != size:
        notes.append(
            f"{chosen.words} needs even sizes: {size[0]}x{size[1]} is written as {delivered[0]}x{delivered[1]}"
        )
    tags = coded_colour(format, colour, made, size)
    if format.kind != "yuv" and made.kind == "yuv":
        notes.append(f"colours by {'BT.709' if matrix_of(tags, size) == 1 else 'BT.601'}, limited range")
    return Form(found_target, tags, delivered, tuple(notes))


def _of_pictures(chosen: Codec, format: PixelFormat, colour: ColourTags, size: tuple[int, int]) -> Form:
    """Numbered pictures are RGB of any size."""
    real = chosen.name == "exr"
    depth = 8 if chosen.name == "png" and format.depth <= 8 and not format.real else 16
    new_format = planar_format("rgb", depth, alpha=format.alpha, real=real)
    notes = [] if format.kind == "rgb" else [f"{chosen.words} hold RGB"]
    if format.real and not real:
        notes.append(f"float becomes 16 bits in {chosen.words}")
    notes.append(f"{chosen.words} hold no sound: write it as WAV beside them")
    return Form(Target(new_format, new_format.name, ()), colour, size, tuple(notes))


def _for_h265(mastering: Mastering) -> str:
    """A mastering display and light level as the encoder's parameters."""
    words = ["hdr10=1"]
    if mastering.display:
        red, green, blue, white = ("({},{})".format(*mastering.display[k : k + 2]) for k in (0, 2, 4, 6))
        least, most = mastering.display[8:]
        words.append(f"master-display=G{green}B{blue}R{red}WP{white}L({most},{least})")
    if mastering.light:
        words.append("max-cll={},{}".format(*mastering.light))
    return ":".join(words)


def _for_av1(mastering: Mastering) -> str:
    words = []
    if mastering.display:
        red, green, blue, white = (
            "({:.5f},{:.5f})".format(*(v / 50_000 for v in mastering.display[k : k + 2])) for k in (0, 2, 4, 6)
        )
        least, most = (value / 10_000 for value in mastering.display[8:])
        words.append(f"mastering-display=G{green}B{blue}R{red}WP{white}L({most:.4f},{least:.4f})")
    if mastering.light:
        words.append("content-light={},{}".format(*mastering.light))
    return ":".join(words)


# encoders that write a mastering display into their stream: the option that takes it, and how it is said
_IN_STREAM = {"libx265": ("x265-params", _for_h265), "libsvtav1": ("svtav1-params", _for_av1)}


def _options(chosen: Codec, form: Form, mastering: Mastering | None) -> dict[str, str]:
    """What an encoder is told of the pictures that come."""
    options, format = dict(chosen.options), form.target.format
    frames = HELD // max(format.nbytes(form.size), 1)
    if not chosen.lossless and frames < 44:  # large pictures: the encoder looks ahead less far
        look = str(min(max(frames - 12, 2), 30))
        if chosen.encoder == "libx264":
            options |= {"rc-lookahead": look, "threads": "2"}
        elif chosen.encoder == "libx265":
            options["x265-params"] += f":rc-lookahead={look}:frame-threads=1:bframes=2"
    # by vectors of 512 bits x264 reads memory that it never filled (where it plans what later pictures need), and
    # films would differ by what was there before: it is held to 256 bits
    if chosen.encoder == "libx264" and cv2.checkHardwareSupport(AVX_512):
        _add_parameter(options, _PARAMS[chosen.encoder], "asm=avx2")
    place = _CHROMA_PLACES.get(format.siting, 0) if format.step == (2, 2) else 0
    if place and chosen.encoder in _PARAMS:
        _add_parameter(options, _PARAMS[chosen.encoder], f"chromaloc={place}")
    if mastering is not None and chosen.encoder in _IN_STREAM:
        name, words = _IN_STREAM[chosen.encoder]
        _add_parameter(options, name, words(mastering))
    if format.real:
        options |= {"strict": "experimental", "level": "4"}  # the version that has floats
    return options


@dataclass(frozen=True)
class FilmHeader:
    """What of a film is known before its first frame: its pictures, frames a second, sounds, and what its header says.

    ``carried``: names and values that go along from the footage."""

    size: tuple[int, int]
    rate: Fraction
    format: PixelFormat
    colour: ColourTags
    pixel_aspect: Fraction = Fraction(1)
    sound: tuple[SoundTrack, ...] = ()
    timecode: str = ""
    carried: tuple[tuple[str, str], ...] = ()
    mastering: Mastering | None = None


class VideoWriter:
    """A :class:`~young_tremor.base.frames.FrameSink`. Made, written and finished in one thread."""

    def __init__(self, path: Path, chosen: Codec, header: FilmHeader, *, overwrite: bool = False) -> None:
        check_output(path, chosen, overwrite=overwrite)
        self.path, self._header, self._overwrite = path, header, overwrite
        self._form = form_of(chosen, header.format, header.colour, header.size)
        self._part = PartFile(path)
        self._in_header = header.mastering is not None and chosen.encoder not in _IN_STREAM
        self._count = 0
        matroska_file = CONTAINERS.get(path.suffix.lower()) in ("matroska", "webm")
        self._shapeless = matroska_file and chosen.encoder not in ("libx264", "libx265")  # those say it themselves
        self._container: Any = None
        self._tracks: list[Track] = []
        try:
            with writing(path):
                kind = CONTAINERS[path.suffix.lower()]
                in_front = kind in ("mp4", "mov") and not self._in_header
                options = {"movflags": "+faststart"} if in_front else {}
                self._container = av.open(f"file:{self._part.path.absolute()}", "w", format=kind, options=options)
                self._stream = self._video(chosen)
                if header.timecode:
                    self._stream.metadata["timecode"] = header.timecode
                for name, value in header.carried:
                    (self._container if name in ("creation_time", "comment") else self._stream).metadata[name] = value
                self._tracks = tracks(self._container, header.sound, kind, chosen.sound)
        except BaseException:
            self.abandon()
            raise

    def _video(self, chosen: Codec) -> Any:
        form, header = self._form, self._header
        stream = self._container.add_stream(chosen.encoder, rate=self._header.rate)
        stream.width, stream.height = form.size
        stream.pix_fmt = form.target.coded
        if form.target.format.alpha and chosen.encoder == "libvpx-vp9":
            stream.metadata["alpha_mode"] = "1"
        stream.options = _options(chosen, form, header.mastering)
        context = stream.codec_context
        context.time_base = 1 / self._header.rate
        context.sample_aspect_ratio = header.pixel_aspect
        context.color_primaries, context.color_trc = form.colour.primaries, form.colour.transfer
        context.colorspace, context.color_range = form.colour.matrix, range_code(form.colour)
        if chosen.lossless:
            context.thread_count = 2
        elif chosen.forms and chosen.sound.startswith("pcm"):  # the masters cut each picture up for several
            context.thread_count, context.thread_type = min(os.cpu_count() or 2, 8), "SLICE"
        return stream

    def write(self, frame: Frame) -> None:
        with writing(self.path):
            form = self._form
            if frame.format.alpha and not form.target.format.alpha:
                frame = over_black(frame)
            # rows and columns are left out of what is delivered, so that chroma stays in its place
            new_frame = convert(_pad_to_even(frame, form.size), form.target.format, form.colour)
            picture = to_picture(new_frame, form.target.coded)
            picture.pts = self._count
            picture.time_base = 1 / self._header.rate
            self._count += 1
            for packet in self._stream.encode(picture):
                self._container.mux(packet)
            until = float(self._count / self._header.rate)
            for track in self._tracks:
                track.write_until(self._container, until + 0.5)

    def finish(self) -> None:
        """Make the file whole and give it its name."""
        try:
            with writing(self.path):
                for packet in self._stream.encode(None):
                    if self._count < REORDERED:
                        packet.dts = packet.pts
                    self._container.mux(packet)
                for track in self._tracks:
                    track.write_until(self._container, float("inf"))
                    track.close()
                self._container.close()
                self._container = None
                if self._header.pixel_aspect != 1 and self._shapeless:
                    self._keep_aspect()
                if self._in_header:
                    self._keep_mastering()
                self._part.finish(overwrite=self._overwrite)
        except BaseException:
            self.abandon()
            raise

    def _keep_aspect(self) -> None:
        webm = CONTAINERS[self.path.suffix.lower()] == "webm"
        write = matroska_header.write_pixel_aspect_webm if webm else matroska_header.write_pixel_aspect
        if not write(self._part.path, (self._stream.width, self._stream.height), self._header.pixel_aspect):
            raise EncodeError(f"{self.path.name} cannot keep the shape of its pixels: choose another format.")

    def _keep_mastering(self) -> None:
        assert self._header.mastering is not None
        header = movie_header if CONTAINERS[self.path.suffix.lower()] in ("mp4", "mov") else matroska_header
        if not header.write_mastering(self._part.path, self._header.mastering):
            _log.warning("%s has no room for its mastering display and light level", self.path.name)

    def abandon(self) -> None:
        """Leave nothing behind. May be called at any time, more than once."""
        container, self._container = self._container, None
        for track in self._tracks:
            with suppress(av.FFmpegError, OSError):
                track.close()
        with suppress(av.FFmpegError, OSError, ValueError):
            if container is not None:
                container.close()  # the file goes away in the next line; why it could not be closed no longer matters
        self._part.abandon()


def _pad_to_even(frame: Frame, size: tuple[int, int]) -> Frame:
    if frame.size == size:
        return frame
    planes = tuple(
        np.ascontiguousarray(plane[: frame.format.plane_size(n, size)[1], : frame.format.plane_size(n, size)[0]])
        for n, plane in enumerate(frame.planes)
    )
    return replace(frame, planes=planes)
