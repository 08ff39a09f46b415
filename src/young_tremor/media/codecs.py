"""The forms that films and pictures are delivered in: encoders, their settings, and the files they go into."""

from __future__ import annotations

import subprocess
import sys
from dataclasses import dataclass, replace
from functools import lru_cache

import av

from young_tremor.base.errors import RequestError, UnknownName, UnreadableValue

CONTAINERS = {".mp4": "mp4", ".m4v": "mp4", ".mov": "mov", ".mkv": "matroska", ".webm": "webm"}


@dataclass(frozen=True)
class Codec:
    """A delivery form: everything that is known of it.

    ``words``: what people call it. ``encoder`` and its ``options``; ``suffixes`` of the files it may go into, the usual
    one first; ``lossless``. ``bits``: about how many bits a pixel of a frame takes, for asking whether there is room.
    ``quality``: the encoder's number for each of five steps of quality (CRF, less is better), none where there are no
    steps; ``speed``: an option, and its values from small files to quick. ``hardware``: encoders in graphics hardware,
    each with the option that takes the number of a quality.

    ``alpha``: it holds any. ``depths``: bits of the pixel formats that players know, of a form that loses something;
    ``wide``: those at which 4:2:2 is played wherever 4:2:0 is; ``plain``: those that every player knows. ``forms``: the
    library's names of the only pixel formats that it is delivered in. ``full_chroma``: the chroma of the pictures is
    kept, though not all players know it. ``sound``: the encoder of what is heard beside it. ``pictures``: it is a
    picture a frame, numbered. ``least``: the smallest picture that it holds. ``space``: the colour space that it is
    delivered in, if not the first shot's. ``light_level``: that of PQ is measured anew.
    """

    name: str
    words: str
    encoder: str
    suffixes: tuple[str, ...]
    bits: float
    options: tuple[tuple[str, str], ...] = ()
    lossless: bool = False
    quality: tuple[int, ...] = ()
    speed: tuple[str, tuple[str, ...]] = ("", ())
    hardware: tuple[tuple[str, str], ...] = ()
    alpha: bool = False
    depths: tuple[int, ...] = ()
    wide: tuple[int, ...] = ()
    plain: tuple[int, ...] = ()
    forms: tuple[str, ...] = ()
    full_chroma: bool = False
    sound: str = "aac"
    pictures: bool = False
    least: tuple[int, int] = (2, 2)
    space: str = ""
    light_level: bool = False


_ANY = (".mp4", ".mov", ".m4v", ".mkv")
_PRESETS = ("preset", ("slow", "medium", "veryfast"))
_PRORES = (("vendor", "apl0"),)  # without it some players take the stream for a foreign one
_FORMS = (
    Codec(
        "h264",
        "H.264",
        "libx264",
        _ANY,
        bits=0.5,
        options=(("preset", "medium"), ("crf", "17"), ("rc-lookahead", "30")),  # 80 MB less than the usual 40 at 1080p
        quality=(27, 22, 17, 13, 9),
        speed=_PRESETS,
        hardware=(("h264_nvenc", "cq"), ("h264_qsv", "global_quality"), ("h264_amf", "qp_i")),
        depths=(8, 10),
        wide=(10,),
        plain=(8,),
    ),
    Codec(
        "h265",
        "H.265",
        "libx265",
        _ANY,
        bits=0.3,
        options=(("preset", "medium"), ("crf", "19"), ("x265-params", "log-level=error")),
        quality=(29, 24, 19, 15, 11),
        speed=_PRESETS,
        hardware=(("hevc_nvenc", "cq"), ("hevc_qsv", "global_quality"), ("hevc_amf", "qp_i")),
        depths=(8, 10),
        least=(16, 16),
    ),
    Codec(
        "av1",
        "AV1",
        "libsvtav1",
        (".mp4", ".mkv"),
        bits=0.2,
        options=(("preset", "8"), ("crf", "24"), ("svtav1-params", "tune=0")),
        quality=(45, 34, 24, 16, 10),
        speed=("preset", ("5", "8", "11")),
        hardware=(("av1_nvenc", "cq"), ("av1_qsv", "global_quality"), ("av1_amf", "qp_i")),
        depths=(8, 10),
        least=(16, 16),
    ),
    Codec(
        "prores",
        "ProRes 422 HQ",
        "prores_ks",
        (".mov",),
        bits=4.5,
        options=(("profile", "3"), *_PRORES),
        forms=("yuv422p10le",),
        sound="pcm_s24le",
    ),
    Codec(
        "prores4444",
        "ProRes 4444",
        "prores_ks",
        (".mov",),
        bits=8.0,
        options=(("profile", "4"), ("alpha_bits", "16"), *_PRORES),
        alpha=True,
        forms=("yuv444p10le", "yuva444p10le"),
        sound="pcm_s24le",
    ),
    Codec(
        "dnxhr",
        "DNxHR HQX",
        "dnxhd",
        (".mov",),
        bits=4.5,
        options=(("profile", "dnxhr_hqx"),),
        forms=("yuv422p10le",),
        sound="pcm_s24le",
        least=(256, 120),
    ),
    Codec(
        "vp9",
        "VP9",
        "libvpx-vp9",
        (".webm", ".mkv"),
        bits=0.3,
        options=(("crf", "24"), ("b", "0"), ("row-mt", "1"), ("deadline", "good"), ("cpu-used", "3")),
        quality=(42, 33, 24, 17, 10),
        speed=("cpu-used", ("2", "3", "6")),
        alpha=True,
        forms=("yuv420p", "yuva420p"),
        sound="libopus",
    ),
    Codec(
        "ffv1",
        "FFV1, lossless",
        "ffv1",
        (".mkv",),
        bits=8.0,
        options=(("level", "3"), ("slices", "4"), ("slicecrc", "1")),
        lossless=True,
        alpha=True,
        sound="flac",
    ),
    Codec("png", "PNG pictures", "png", (".png",), bits=16.0, lossless=True, alpha=True, pictures=True),
    Codec("tiff", "TIFF pictures, 16 bit", "tiff", (".tif", ".tiff"), 36.0, lossless=True, alpha=True, pictures=True),
    Codec("exr", "EXR pictures, half float", "exr", (".exr",), bits=36.0, lossless=True, alpha=True, pictures=True),
)
#: All delivery forms by name, in the order in which they are offered.
CODECS = {form.name: form for form in _FORMS}


@dataclass(frozen=True)
class EncodingChoice:
    """How a form is used: ``quality`` 1 to 5 and ``speed`` 1 (small files) to 3 (quick) where the form has steps;
    ``everywhere``: as every player knows it; ``full_chroma``: with the picture's own chroma (4:4:4 of graphics), which
    not all players know; ``hardware``: by an encoder in this machine's graphics; ``space``: the colour space of what is
    delivered, if not the first shot's; ``light_level``: MaxCLL and MaxFALL of PQ are measured, in a pass before."""

    quality: int = 3
    speed: int = 2
    everywhere: bool = False
    full_chroma: bool = False
    hardware: bool = False
    space: str = ""
    light_level: bool = False


USUAL = EncodingChoice()
_TRIAL = """
import av, numpy as np, io
with av.open(io.BytesIO(), "w", format="matroska") as file:
    stream = file.add_stream({0!r}, rate=24)
    stream.width, stream.height, stream.pix_fmt = 640, 360, "yuv420p"
    for k in range(8):
        file.mux(stream.encode(av.VideoFrame.from_ndarray(np.full((540, 640), 40 + k, np.uint8), "yuv420p")))
    file.mux(stream.encode(None))
"""


def codec(name: str, how: EncodingChoice = USUAL) -> Codec:
    """The codec of that name, set to a quality and speed; UnknownName if there is none, RequestError where it cannot be
    used so."""
    if name not in CODECS:
        raise UnknownName(f"There is no codec “{name}”: choose one of {', '.join(CODECS)}.")
    codec = CODECS[name]
    if not (1 <= how.quality <= 5 and 1 <= how.speed <= 3):
        raise UnreadableValue("Quality goes from 1 to 5 and speed from 1 to 3.")
    options = dict(codec.options)
    if codec.quality:
        options["crf"] = str(codec.quality[how.quality - 1])
        option, steps = codec.speed
        options[option] = steps[how.speed - 1]
    elif how.quality != USUAL.quality or how.speed != USUAL.speed:
        raise RequestError(f"{codec.words} has one quality and speed: leave them out.")
    codec = replace(codec, options=tuple(options.items()), space=how.space, light_level=how.light_level)
    if how.everywhere:
        if name != "h264":
            raise RequestError("What plays everywhere is H.264: choose h264.")
        codec = replace(codec, forms=("yuv420p",), words="H.264 that plays everywhere")
    elif how.full_chroma:
        if not codec.depths:
            raise RequestError(f"{codec.words} has its own chroma: leave full chroma out.")
        codec = replace(codec, full_chroma=True)
    return _by_hardware(codec, options["crf"]) if how.hardware else codec


def steps_of(name: str, how: EncodingChoice = USUAL) -> str:
    """The numbers behind a quality and speed, in words; empty where a form has none."""
    form = CODECS[name]
    if not form.quality:
        return ""
    option, steps = form.speed
    return f"CRF {form.quality[how.quality - 1]}, {option} {steps[how.speed - 1]}"


def _by_hardware(found: Codec, quality: str) -> Codec:
    for encoder, option in found.hardware:
        if works(encoder):
            return replace(found, encoder=encoder, options=((option, quality),), forms=("yuv420p",), full_chroma=False)
    raise RequestError(f"No hardware encoder for {found.words} works on this machine: leave it out.")


def is_there(encoder: str) -> bool:
    """Whether the library has an encoder of that name."""
    return encoder in av.codecs_available


@lru_cache(32)
def works(encoder: str) -> bool:
    """Whether a test encode with an encoder comes off here: in a process of its own, since drivers can fail hard."""
    try:
        tried = subprocess.run(
            [sys.executable, "-c", _TRIAL.format(encoder)], capture_output=True, timeout=20, check=False
        )
    except (OSError, subprocess.SubprocessError):
        return False
    return tried.returncode == 0


def with_hardware() -> tuple[str, ...]:
    """The forms for which an encoder in hardware works on this machine."""
    return tuple(name for name, form in CODECS.items() if any(works(encoder) for encoder, _ in form.hardware))
