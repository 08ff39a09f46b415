"""The one door to media: what is known of a file, found once, and readers that share it."""

from __future__ import annotations

import os
import threading
from dataclasses import dataclass, field, replace
from fractions import Fraction
from pathlib import Path
from typing import Any, NamedTuple

import av
from cachetools import LRUCache

from young_tremor.base.errors import DecodeError, RequestError, TremorError
from young_tremor.base.frames import Alpha, FrameSource, SourceInfo
from young_tremor.base.pixels import UNTOLD, ColourTags, PixelFormat, pixel_format, without_alpha
from young_tremor.base.units import format_rate
from young_tremor.media import container as containers
from young_tremor.media import exif_orientation, float_tiff, image_sequence, svg_drawing, told_colours
from young_tremor.media.container import Container, Identity, Picture, Stream, check_size, identity
from young_tremor.media.decoder_formats import decoder_of, picture_stream, planar_name, reading, to_frame, upright
from young_tremor.media.frame_index import Timing, from_index, timing
from young_tremor.media.image_sequence import SequenceReader
from young_tremor.media.vector_source import DrawnReader
from young_tremor.media.video_reader import VideoReader

STILL = 5  # seconds that a still picture is shown unless said otherwise
_CENTRED = ("mjpeg", "mpeg1video", "jpegls")  # codecs whose chroma lies in the middle of its luma pixels


@dataclass(frozen=True)
class SoundFacts:
    """One sound track of a file: codec, samples a second, channel layout, when it begins (the file's seconds), and its
    language as the file says it."""

    codec: str
    rate: int
    layout: str
    channels: int
    start: float
    language: str = ""

    @property
    def words(self) -> str:
        """The track in a few words."""
        return f"{self.codec} {self.rate} Hz {self.layout}"


@dataclass(frozen=True, eq=False)
class Facts:
    """What is known of a file in one state: its picture, the file's own time of its first picture in seconds, its sound
    tracks, and what a reader needs."""

    identity: Identity
    info: SourceInfo
    origin: float
    sounds: tuple[SoundFacts, ...]
    timing: Timing | None = field(repr=False)
    coded: PixelFormat = field(repr=False)
    turns: int = 0
    mirrored: bool = False


_known: LRUCache[Identity, Facts] = LRUCache(1024)
_lock = threading.Lock()
_asking: dict[Identity, threading.Lock] = {}
_read_first: dict[Identity, Picture] = {}
HANDED = 1  # pictures that were decoded for their facts and wait for a reader


def facts(path: Path | str) -> Facts:
    """The facts of a file, read once as long as it does not change. TremorError if it cannot be used. Any thread."""
    key = identity(path)
    with _lock:
        facts = _known.get(key)
        mine = _asking.setdefault(key, threading.Lock())
    if facts is not None:
        return facts
    with mine:  # two that ask at once: the second waits for the first
        with _lock:
            facts = _known.get(key)
        if facts is None:
            facts = _read(key)
            with _lock:
                _known[key] = facts
        with _lock:
            _asking.pop(key, None)
    return facts


def known_facts(path: Path | str) -> Facts | None:
    """The facts of a file as it is now, if they were read before. Any thread."""
    try:
        key = identity(path)
    except TremorError:
        return None
    with _lock:
        return _known.get(key)


def take_facts(facts: Facts) -> None:
    """Know of a file what another process of ours has read. Any thread."""
    with _lock:
        _known.setdefault(facts.identity, facts)


def open_source(path: Path | str) -> FrameSource:
    """A new reader of a file or a sequence, for the thread that calls. TremorError if it cannot be used."""
    known = facts(path)
    if image_sequence.is_pattern(path):
        return open_footage(path)
    if known.timing is None and not known.info.drawn:
        return DrawnReader(known.info, lambda scale: float_tiff.read(Path(path)))
    if known.timing is None:
        drawing = svg_drawing.read(Path(path))
        return DrawnReader(known.info, lambda scale: svg_drawing.draw(drawing, scale))
    return open_footage(path)


def resolve_path(path: Path | str) -> str:
    """What a person means by a path: the pattern of a sequence where it names one, else the file itself, absolute."""
    return image_sequence.pattern_of(path) or os.path.realpath(path)


def open_footage(path: Path | str) -> VideoReader | SequenceReader:
    """The same, where pictures are wanted as they are stored. RequestError for a drawing, which has none."""
    known = facts(path)
    if known.timing is None and not image_sequence.is_pattern(path):
        raise RequestError(f"{known.info.name} is one picture: a film, or numbered pictures, are needed here.")
    if image_sequence.is_pattern(path):
        return SequenceReader(image_sequence.find(os.path.abspath(path)), known.info, open_source)
    assert known.timing is not None
    with _lock:
        first = _read_first.pop(known.identity, None)
    return VideoReader(known.identity, known.info, known.timing, known.coded, known.turns, known.mirrored, first)


def sounds(path: Path | str) -> tuple[SoundFacts, ...]:
    """The sound tracks of any media file, with pictures or without."""
    container = containers.open_container(path)
    try:
        with reading(path):
            return _sounds(container)
    finally:
        container.close()


def _sounds(container: Container) -> tuple[SoundFacts, ...]:
    out = []
    for stream in container.streams.audio:
        context = stream.codec_context
        start = float(stream.start_time * stream.time_base) if stream.start_time is not None else 0.0
        if context is not None and context.sample_rate > 0 and context.layout.nb_channels > 0:
            layout = context.layout
            said = stream.metadata.get("language", "")
            out.append(SoundFacts(context.name, context.sample_rate, layout.name, layout.nb_channels, start, said))
    return tuple(out)


def _read_sequence(key: Identity) -> Facts:
    """The facts of a sequence: those of its first picture, and how many there are."""
    sequence = image_sequence.find(key.path)
    first = facts(sequence.files[0])
    if not first.info.still:
        raise RequestError(f"{Path(sequence.files[0]).name} is a film, not one picture of a sequence: name it alone.")
    words = (*first.info.notes, *filter(None, [image_sequence.gaps(sequence)]))
    info = replace(
        first.info,
        name=Path(key.path).name,
        rate=image_sequence.RATE,
        frames=len(sequence.files),
        notes=words,
        still=False,
        stamp=key.stamp,
        missing=tuple(number - sequence.first for number in sequence.missing),
    )
    return replace(first, identity=key, info=info)


def _read_floats(key: Identity, path: Path) -> Facts:
    size, format, alpha = float_tiff.shape(path)
    check_size(path.name, size, format.nbytes(size))
    info = SourceInfo(
        path.name,
        size,
        Fraction(1),
        image_sequence.RATE,
        round(STILL * image_sequence.RATE),
        format,
        float_tiff.LINEAR,
        "tiff",
        notes=() if alpha == "none" else (f"with alpha, {alpha}",),
        alpha=alpha,
        stamp=key.stamp,
        still=True,
    )
    return Facts(key, info, 0.0, (), None, format)


def _read_drawing(key: Identity, path: Path) -> Facts:
    drawing = svg_drawing.read(path)
    info = SourceInfo(
        path.name,
        drawing.size,
        Fraction(1),
        image_sequence.RATE,
        round(STILL * image_sequence.RATE),
        svg_drawing.RGBA,
        svg_drawing.TAGS,
        "svg",
        notes=("with alpha, straight", *drawing.notes),
        alpha="straight",
        stamp=key.stamp,
        still=True,
        drawn=True,
    )
    return Facts(key, info, 0.0, (), None, svg_drawing.RGBA)


def _read(key: Identity) -> Facts:
    if image_sequence.is_pattern(key.path):
        return _read_sequence(key)
    path = Path(key.path)
    if path.suffix.lower() in svg_drawing.KINDS:
        return _read_drawing(key, path)
    if float_tiff.real(path):
        return _read_floats(key, path)
    container = containers.open_container(path)
    try:
        with reading(path):
            stream = picture_stream(container, path.name)
            context = stream.codec_context
            if context.width and context.height:
                item = context.width * context.height * (3 if "rgb" in str(context.pix_fmt) else 2)
                check_size(path.name, (context.width, context.height), item)
            stream.thread_type = "SLICE"  # one picture is wanted at once, not as many as there are cores
            first, interlaced = _first_picture(container, stream, path.name)
            tracks, described = _sounds(container), _describe_picture(first, stream, container, interlaced=interlaced)
            found_timing = from_index(container, stream, first.pts)
            if found_timing is None:
                container.close()
                container = containers.open_container(path)  # some kinds cannot be brought back to their beginning
                stream = picture_stream(container, path.name)
                found_timing = timing(container, stream, path.name, key.size, first.pts)
            facts = _facts(key, first, stream, found_timing, tracks, described, container)
            if facts.info.still:
                _hand_over(key, first)
            return facts
    finally:
        container.close()


def _hand_over(key: Identity, picture: Picture) -> None:
    """Keep the picture of a still for the reader that is most likely opened next: it need not be decoded twice."""
    with _lock:
        _read_first[key] = picture
        while len(_read_first) > HANDED:
            del _read_first[next(iter(_read_first))]


def _first_picture(container: Container, stream: Stream, name: str) -> tuple[Picture, bool]:
    """The first picture that can be decoded: for what only a picture tells."""
    context = decoder_of(stream)
    for packet in container.demux(stream):
        try:
            for picture in context.decode(packet):
                return picture, bool(picture.interlaced_frame)
        except av.error.InvalidDataError:
            continue
        except EOFError:
            break
    raise DecodeError(f"{name} holds no picture that can be decoded: the file may be damaged.")


#: What else of a file goes along into what is made of it.
CARRIED = ("creation_time", "reel_name")


class _Described(NamedTuple):
    """What a file says of its pictures: their colours, the timecode of the first, what else is carried on, and whether
    lines are interlaced."""

    colour: ColourTags
    timecode: str
    carried: tuple[tuple[str, str], ...]
    interlaced: bool


def _describe_picture(first: Picture, stream: Stream, container: Container, *, interlaced: bool) -> _Described:
    """What is said of the first picture, its stream and its file."""
    context = stream.codec_context
    full = {1: False, 2: True}.get(int(first.color_range) or int(context.color_range))
    if first.format.name.startswith("yuvj"):
        full = True
    colour = ColourTags(
        _tag(first.color_primaries, context.color_primaries),
        _tag(first.color_trc, context.color_trc),
        _tag(first.colorspace, context.colorspace),
        full,
    )
    places = [stream.metadata, *(s.metadata for s in container.streams), container.metadata]
    found = {name: next((place[name] for place in places if place.get(name)), "") for name in ("timecode", *CARRIED)}
    carried = tuple((name, found[name]) for name in CARRIED if found[name])
    return _Described(colour, found["timecode"], carried, interlaced)


def _tag(one: Any, other: Any) -> int:
    return int(one) if int(one) not in (2, 3) else int(other)


def _facts(
    key: Identity,
    first: Picture,
    stream: Stream,
    found: Timing,
    tracks: tuple[SoundFacts, ...],
    described: _Described,
    container: Container,
) -> Facts:
    path, (colour, timecode, carried, interlaced) = Path(key.path), described
    codec = stream.codec_context.name
    coded = _coded_format(first, codec, path)
    size = (first.width, first.height)
    check_size(path.name, size, coded.nbytes(size))
    turns, mirrored = round((getattr(first, "rotation", 0) or 0) / 90) % 4, False
    if codec == "mjpeg" and found.frames == 1 and (said := exif_orientation.orientation(path)) is not None:
        turns, mirrored = said
    aspect = Fraction(stream.sample_aspect_ratio or 1) or Fraction(1)
    if not Fraction(1, 16) <= aspect <= 16:
        aspect = Fraction(1)
    if turns % 2:
        size, aspect = size[::-1], 1 / aspect
    always_alpha = first.format.name == "pal8" or codec == "webp"
    if coded.alpha and found.frames == 1 and always_alpha and _is_opaque(first, coded):
        coded = without_alpha(coded)
    alpha: Alpha = "none" if not coded.alpha else "premultiplied" if codec == "exr" else "straight"
    colour = told_colours.of_file(path, codec, colour)
    notes = _notes(first, found, coded, turns, interlaced, alpha, size)
    info = SourceInfo(
        path.name,
        size,
        aspect,
        found.rate,
        found.frames,
        upright(coded, turns),
        colour,
        codec,
        tuple(track.words for track in tracks),
        notes,
        alpha,
        timecode,
        key.stamp,
        carried=carried,
        mastering=told_colours.mastering_of(path, colour),
    )
    if found.frames == 1 and container.format.name.split(",")[0] in containers.STILLS:
        info = replace(info, rate=image_sequence.RATE, frames=round(STILL * image_sequence.RATE), still=True)
    return Facts(key, info, float(int(found.pts[0]) * found.time_base), tracks, found, coded, turns, mirrored)


def _coded_format(first: Picture, codec: str, path: Path) -> PixelFormat:
    """The format that a picture's planes are decoded to; RequestError for kinds that cannot be worked with."""
    coded = pixel_format(planar_name(first.format.name))
    if coded is None:
        raise RequestError(
            f"{path.name} holds pictures of the kind {first.format.name}, which is not known: convert it."
        )
    if codec == "mjpeg" and (coded.alpha or first.format.name.startswith("cmyk")):
        raise RequestError(f"{path.name} is a picture in CMYK, for print: save it as RGB.")
    centred = codec in _CENTRED and coded.step == (2, 2)
    return replace(coded, siting=(0.5, 0.5)) if centred else coded


def _is_opaque(first: Picture, coded: PixelFormat) -> bool:
    """Whether the alpha of a picture covers all of it: its kind always holds one."""
    return bool((to_frame(first, coded, UNTOLD).planes[-1] == coded.top).all())


def _notes(
    first: Picture, found: Timing, coded: PixelFormat, turns: int, interlaced: bool, alpha: Alpha, size: tuple[int, int]
) -> tuple[str, ...]:
    notes = []
    if not found.constant:
        notes.append(f"variable frame rate, taken as a constant {format_rate(found.rate)} frames/s")
    if turns:
        notes.append(f"turned upright by {(-90 * turns) % 360}° as its rotation mark says")
    if interlaced:
        notes.append("interlaced: fields are treated as whole frames")
    if alpha != "none":
        notes.append(f"with alpha, {alpha}")
    if (size[0] % 2 or size[1] % 2) and coded.kind == "yuv":
        notes.append(f"odd size {size[0]}x{size[1]}: H.264 and H.265 leave out the last column or row")
    if first.format.name.replace("yuvj", "yuv") != coded.name:
        notes.append(f"{first.format.name} is processed as {coded.name}")
    return tuple(notes)
