"""Footage out: encoding, sound, and a file that appears under its name only when whole."""

from __future__ import annotations

import errno
import os
import secrets
from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

from young_tremor.base.errors import EncodeError, ExistingFile, RequestError, UnknownName, from_os
from young_tremor.base.frames import ColourTags, Frame, PixelFormat
from young_tremor.media import audio, matroska
from young_tremor.media.formats import pixel_format, range_code, to_picture, writing

CONTAINERS = {".mp4": "mp4", ".m4v": "mp4", ".mov": "mov", ".mkv": "matroska"}


@dataclass(frozen=True)
class Codec:
    """A delivery format: the encoder, its settings, the files it may go into, whether it loses nothing, and whether it
    can hold how much of each pixel is covered."""

    name: str
    encoder: str
    options: tuple[tuple[str, str], ...]
    suffixes: tuple[str, ...]
    lossless: bool
    words: str
    alpha: bool = False


_ANY = (".mp4", ".mov", ".m4v", ".mkv")
_H264 = (("preset", "medium"), ("crf", "17"), ("rc-lookahead", "30"))  # 30: 80 MB less than the usual 40 at 1080p
_H265 = (("preset", "medium"), ("crf", "19"), ("x265-params", "log-level=error"))
_FFV1 = (("level", "3"), ("slices", "4"), ("slicecrc", "1"))
CODECS = {
    "h264": Codec("h264", "libx264", _H264, _ANY, False, "H.264"),
    "h265": Codec("h265", "libx265", _H265, _ANY, False, "H.265"),
    "ffv1": Codec("ffv1", "ffv1", _FFV1, (".mkv",), True, "FFV1, lossless", alpha=True),
}

# which sound goes into which container as it is
COPYABLE = {
    "mp4": {"aac", "mp3", "ac3", "eac3", "alac", "opus", "flac"},
    "mov": {"aac", "mp3", "ac3", "eac3", "alac", "pcm_s16le", "pcm_s24le", "pcm_f32le"},
    "matroska": None,  # anything
}
_CHROMA_PLACES = {(0.0, 0.5): 0, (0.5, 0.5): 1, (0.0, 0.0): 2, (0.5, 0.0): 3, (0.0, 1.0): 4, (0.5, 1.0): 5}


@dataclass(frozen=True)
class SoundTrack:
    """Sound of a file from ``start`` for ``seconds`` (None: all of it); ``origin`` is the file's time of its first
    picture. Without a ``path`` it is silence."""

    path: Path | None
    origin: float = 0.0
    start: float = 0.0
    seconds: float | None = None


def codec(name: str) -> Codec:
    """The codec of that name; UnknownName if there is none."""
    if name not in CODECS:
        raise UnknownName(f"There is no codec “{name}”: choose one of {', '.join(CODECS)}.")
    return CODECS[name]


def check_output(path: Path, chosen: Codec, *, overwrite: bool) -> None:
    """Refuse at the door what could not be finished: existing file, wrong ending, unwritable folder."""
    if path.suffix.lower() not in chosen.suffixes:
        allowed = " or ".join(chosen.suffixes)
        raise RequestError(f"{chosen.words} does not go into “{path.name}”: use a name that ends in {allowed}.")
    check_free(path, overwrite=overwrite)


def check_free(path: Path, *, overwrite: bool) -> None:
    """Refuse an existing output and a folder that is not there or cannot be written."""
    if path.is_dir():
        raise RequestError(f"{path} is a folder: name a file.")
    if path.exists() and not overwrite:
        raise ExistingFile(f"{path} exists already: choose another name, or say --overwrite.")
    folder = path.parent
    if not folder.is_dir():
        raise RequestError(f"The folder {folder} is not there: make it first, or choose another.")
    if not os.access(folder, os.W_OK):
        raise from_os(PermissionError(errno.EACCES, "not writable"), path, "write")


def partial_name(path: Path) -> Path:
    """A name beside ``path`` under which it is written until it is whole."""
    return path.with_name(f".{path.stem}.{secrets.token_hex(4)}.part{path.suffix}")


def delivery_size(size: tuple[int, int], format: PixelFormat, chosen: Codec) -> tuple[int, int]:
    """The size that a codec can write: even where H.264 and H.265 need it for subsampled chroma."""
    if chosen.lossless:
        return size
    step = format.step if not format.rgb and format.planes >= 3 else (1, 1)
    return size[0] - size[0] % min(step[0], 2), size[1] - size[1] % min(step[1], 2)


class VideoWriter:
    """A :class:`~young_tremor.base.frames.FrameSink`. Made, written and finished in one thread."""

    def __init__(
        self,
        path: Path,
        chosen: Codec,
        *,
        size: tuple[int, int],
        rate: Fraction,
        format: PixelFormat,
        colour: ColourTags,
        pixel_aspect: Fraction = Fraction(1),
        sound: tuple[SoundTrack, ...] = (),
        overwrite: bool = False,
    ) -> None:
        check_output(path, chosen, overwrite=overwrite)
        self.path, self._rate, self._overwrite, self._aspect = path, rate, overwrite, pixel_aspect
        self._part = partial_name(path)
        self._count = 0
        self._container: Any = None
        self._tracks: list[_Copied | _Encoded] = []
        try:
            with writing(path):
                kind = CONTAINERS[path.suffix.lower()]
                options = {"movflags": "+faststart"} if kind in ("mp4", "mov") else {}
                self._container = av.open(str(self._part), "w", format=kind, options=options)
                self._stream = self._video(chosen, size, format, colour, pixel_aspect)
                if sound:
                    self._tracks = _tracks(self._container, sound, kind, lossless=chosen.lossless)
        except BaseException:
            self.abandon()
            raise

    def _video(
        self, chosen: Codec, size: tuple[int, int], format: PixelFormat, colour: ColourTags, aspect: Fraction
    ) -> Any:
        encoder = av.codec.Codec(chosen.encoder, "w")
        names = [each.name for each in encoder.video_formats]
        self._format = _writable(format, names)
        stream = self._container.add_stream(chosen.encoder, rate=self._rate)
        stream.width, stream.height = size
        stream.pix_fmt = self._format.name
        stream.options = dict(chosen.options)
        if chosen.encoder == "libx264" and format.siting in _CHROMA_PLACES and format.step == (2, 2):
            place = _CHROMA_PLACES[format.siting]
            if place:
                stream.options = {**stream.options, "x264-params": f"chromaloc={place}"}
        context = stream.codec_context
        context.time_base = 1 / self._rate
        context.sample_aspect_ratio = aspect
        context.color_primaries, context.color_trc = colour.primaries, colour.transfer
        context.colorspace, context.color_range = colour.matrix, range_code(colour)
        if chosen.lossless:
            context.thread_count = 2
        return stream

    def write(self, frame: Frame) -> None:
        with writing(self.path):
            picture = to_picture(_even(frame, (self._stream.width, self._stream.height)))
            if picture.format.name != self._format.name:
                picture = picture.reformat(format=self._format.name)
            picture.pts = self._count
            picture.time_base = 1 / self._rate
            self._count += 1
            for packet in self._stream.encode(picture):
                self._container.mux(packet)
            until = float(self._count / self._rate)
            for track in self._tracks:
                track.write_until(self._container, until + 0.5)

    def finish(self) -> None:
        """Make the file whole and give it its name."""
        try:
            with writing(self.path):
                for packet in self._stream.encode(None):
                    self._container.mux(packet)
                for track in self._tracks:
                    track.write_until(self._container, float("inf"))
                    track.close()
                self._container.close()
                self._container = None
                if self._aspect != 1 and self.path.suffix.lower() == ".mkv" and self._stream.name == "ffv1":
                    self._keep_aspect()
                if self.path.exists() and not self._overwrite:
                    raise ExistingFile(f"{self.path} exists already: choose another name, or say --overwrite.")
                os.replace(self._part, self.path)
        except BaseException:
            self.abandon()
            raise

    def _keep_aspect(self) -> None:
        if not matroska.write_pixel_aspect(self._part, (self._stream.width, self._stream.height), self._aspect):
            raise EncodeError(f"{self.path.name} cannot keep the shape of its pixels: choose another format.")

    def abandon(self) -> None:
        """Leave nothing behind. May be called at any time, more than once."""
        container, self._container = self._container, None
        for track in self._tracks:
            track.close()
        try:
            if container is not None:
                container.close()
        except (av.FFmpegError, OSError):
            pass  # the file goes away in the next line; why it could not be closed no longer matters
        finally:
            self._part.unlink(missing_ok=True)


def _even(frame: Frame, size: tuple[int, int]) -> Frame:
    if frame.size == size:
        return frame
    planes = tuple(
        np.ascontiguousarray(plane[: frame.format.plane_size(n, size)[1], : frame.format.plane_size(n, size)[0]])
        for n, plane in enumerate(frame.planes)
    )
    return replace(frame, planes=planes)


def _writable(format: PixelFormat, names: list[str]) -> PixelFormat:
    """The format itself where the encoder takes it, else the nearest that keeps depth and chroma."""
    if format.name in names:
        return format
    depth = "" if format.depth == 8 else "10le" if format.depth <= 10 else "12le" if format.depth <= 12 else "16le"
    layouts = ["444", "422", "420"] if format.rgb or format.step == (1, 1) else ["422", "444", "420"]
    if format.planes == 1 or format.step == (2, 2):
        layouts = ["420", "422", "444"]
    depths = dict.fromkeys([depth, "12le", "10le", ""] if format.depth > 8 else [""])
    for name in [f"yuv{layout}p{bits}" for bits in depths for layout in layouts]:
        found = pixel_format(name)
        if name in names and found:
            return found
    raise RequestError(f"{format.name} pictures cannot be written with this codec: choose another.")


class _Copied:
    """A whole audio stream passed on packet by packet."""

    def __init__(self, container: Any, path: Path, origin: float, number: int) -> None:
        self._input = av.open(str(path))
        source = self._input.streams.audio[number]
        self._stream = container.add_stream_from_template(source)
        self._base = source.time_base
        self._shift = round(origin / self._base)
        self._packets = self._input.demux(source)
        self._held: Any = None

    def write_until(self, container: Any, seconds: float) -> None:
        """Pass on what belongs before ``seconds``."""
        while True:
            packet = self._held or next(self._packets, None)
            self._held = None
            if packet is None or not packet.size:
                return
            if packet.dts is not None and float((packet.dts - self._shift) * self._base) > seconds:
                self._held = packet
                return
            packet.stream = self._stream
            if packet.pts is not None:
                packet.pts -= self._shift
            if packet.dts is not None:
                packet.dts -= self._shift
            container.mux(packet)

    def close(self) -> None:
        self._input.close()


class _Encoded:
    """Sound decoded, cut to its stretches one after the other, and encoded."""

    def __init__(
        self, container: Any, parts: tuple[SoundTrack, ...], number: int, encoder: str, rate: int, layout: str
    ) -> None:
        self._parts, self._number, self._rate, self._layout = parts, number, rate, layout
        self._stream = container.add_stream(encoder, rate=rate, layout=layout)
        if encoder == "aac":
            self._stream.bit_rate = 256_000
        kind = {"aac": "fltp", "flac": "s32"}[encoder]
        self._stream.codec_context.format = kind
        self._resampler = av.AudioResampler(format=kind, layout=layout, rate=rate)
        self._channels = len(self._resampler.layout.channels)
        self._blocks: Any = self._read()
        self._written = 0
        self._done = False

    def _read(self) -> Iterator[np.ndarray]:
        for part in self._parts:
            left = None if part.seconds is None else round(part.seconds * self._rate)
            if part.path is not None:
                for block in audio.blocks(
                    part.path,
                    part.start,
                    origin=part.origin,
                    rate=self._rate,
                    layout=self._layout,
                    stream=self._number,
                ):
                    used = block if left is None else block[:left]
                    yield used
                    if left is not None:
                        left -= len(used)
                        if left <= 0:
                            break
            while left:
                yield np.zeros((min(left, 4096), self._channels), np.float32)
                left -= min(left, 4096)

    def write_until(self, container: Any, seconds: float) -> None:
        """Encode what belongs before ``seconds``."""
        while not self._done and self._written < seconds * self._rate:
            block = next(self._blocks, None)
            if block is None:
                self._mux(container, [*self._resampler.resample(None), None])
                self._done = True
            elif len(block):
                packed = np.ascontiguousarray(block).reshape(1, -1)
                frame = av.AudioFrame.from_ndarray(packed, format="flt", layout=self._layout)
                frame.sample_rate, frame.pts = self._rate, self._written
                frame.time_base = Fraction(1, self._rate)
                self._written += len(block)
                self._mux(container, self._resampler.resample(frame))

    def _mux(self, container: Any, frames: list) -> None:
        for frame in frames:
            for packet in self._stream.encode(frame):
                container.mux(packet)

    def close(self) -> None:
        self._blocks.close()


def _tracks(container: Any, parts: tuple[SoundTrack, ...], kind: str, *, lossless: bool) -> list:
    """A track for each audio stream: copied where whole and the container takes it, encoded otherwise."""
    encoder = "flac" if lossless else "aac"
    if len(parts) > 1:
        if all(part.path is None for part in parts):
            return []
        return [_Encoded(container, parts, 0, encoder, audio.RATE, "stereo")]
    path = parts[0].path
    if path is None:
        return []
    with av.open(str(path)) as probe:
        streams = [
            (s.codec_context.name, s.codec_context.sample_rate, s.codec_context.layout.name)
            for s in probe.streams.audio
        ]
    allowed = COPYABLE[kind]
    whole = parts[0].start == 0 and parts[0].seconds is None
    return [
        _Copied(container, path, parts[0].origin, n) if whole and (allowed is None or name in allowed)
        else _Encoded(container, parts, n, encoder, rate, layout)
        for n, (name, rate, layout) in enumerate(streams)
    ]  # fmt: skip
