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
    """A delivery form: the encoder, its settings, the files it may go into, and whether it loses nothing.

    ``depths``: bits of the forms that players know, for one that loses something; ``wide``: those at which 4:2:2 is
    played wherever 4:2:0 is. ``forms``: the library's names of the only pixel formats that it is delivered in.
    ``plain``: bits that every player knows. ``full_chroma``: the chroma of the pictures is kept, though not all players
    know it. ``sound``: the encoder of what is
    heard beside it. ``pictures``: it is a picture a frame, numbered. ``least``: the smallest that it holds.
    """

    name: str
    encoder: str
    options: tuple[tuple[str, str], ...]
    suffixes: tuple[str, ...]
    lossless: bool
    words: str
    alpha: bool = False
    depths: tuple[int, ...] = ()
    wide: tuple[int, ...] = ()
    forms: tuple[str, ...] = ()
    sound: str = "aac"
    pictures: bool = False
    full_chroma: bool = False
    plain: tuple[int, ...] = ()
    least: tuple[int, int] = (2, 2)


_ANY = (".mp4", ".mov", ".m4v", ".mkv")
_H264 = (("preset", "medium"), ("crf", "17"), ("rc-lookahead", "30"))  # 30: 80 MB less than the usual 40 at 1080p
_H265 = (("preset", "medium"), ("crf", "19"), ("x265-params", "log-level=error"))
_FFV1 = (("level", "3"), ("slices", "4"), ("slicecrc", "1"))
_AV1 = (("preset", "8"), ("crf", "24"), ("svtav1-params", "tune=0"))
_PRORES = (("vendor", "apl0"),)  # without it some players take the stream for a foreign one
_VP9 = (("crf", "24"), ("b", "0"), ("row-mt", "1"), ("deadline", "good"), ("cpu-used", "3"))
CODECS = {
    "h264": Codec("h264", "libx264", _H264, _ANY, False, "H.264", depths=(8, 10), wide=(10,), plain=(8,)),
    "h265": Codec("h265", "libx265", _H265, _ANY, False, "H.265", depths=(8, 10), least=(16, 16)),
    "av1": Codec("av1", "libsvtav1", _AV1, (".mp4", ".mkv"), False, "AV1", depths=(8, 10), least=(16, 16)),
    "prores": Codec(
        "prores",
        "prores_ks",
        (("profile", "3"), *_PRORES),
        (".mov",),
        False,
        "ProRes 422 HQ",
        forms=("yuv422p10le",),
        sound="pcm_s24le",
    ),
    "prores4444": Codec(
        "prores4444",
        "prores_ks",
        (("profile", "4"), ("alpha_bits", "16"), *_PRORES),
        (".mov",),
        False,
        "ProRes 4444",
        alpha=True,
        forms=("yuv444p10le", "yuva444p10le"),
        sound="pcm_s24le",
    ),
    "dnxhr": Codec(
        "dnxhr",
        "dnxhd",
        (("profile", "dnxhr_hqx"),),
        (".mov",),
        False,
        "DNxHR HQX",
        forms=("yuv422p10le",),
        sound="pcm_s24le",
        least=(256, 120),
    ),
    "vp9": Codec(
        "vp9",
        "libvpx-vp9",
        _VP9,
        (".webm", ".mkv"),
        False,
        "VP9",
        alpha=True,
        forms=("yuv420p", "yuva420p"),
        sound="libopus",
    ),
    "ffv1": Codec("ffv1", "ffv1", _FFV1, (".mkv",), True, "FFV1, lossless", alpha=True, sound="flac"),
    "png": Codec("png", "png", (), (".png",), True, "PNG pictures", alpha=True, pictures=True),
    "tiff": Codec("tiff", "tiff", (), (".tif", ".tiff"), True, "TIFF pictures, 16 bit", alpha=True, pictures=True),
    "exr": Codec("exr", "exr", (), (".exr",), True, "EXR pictures, half float", alpha=True, pictures=True),
}


@dataclass(frozen=True)
class EncodingChoice:
    """How a form is used: ``quality`` 1 to 5 and ``speed`` 1 (small files) to 3 (quick) where the form has steps;
    ``everywhere``: as every player knows it; ``full_chroma``: with the picture's own chroma (4:4:4 of graphics), which
    not all players know; ``hardware``: by an encoder in this machine's graphics."""

    quality: int = 3
    speed: int = 2
    everywhere: bool = False
    full_chroma: bool = False
    hardware: bool = False


USUAL = EncodingChoice()
#: What stands behind the five steps of quality: the encoder's own number, less being better.
QUALITY = {
    "h264": (27, 22, 17, 13, 9),
    "h265": (29, 24, 19, 15, 11),
    "av1": (45, 34, 24, 16, 10),
    "vp9": (42, 33, 24, 17, 10),
}
#: What stands behind the three steps of speed.
SPEED = {
    "h264": ("preset", ("slow", "medium", "veryfast")),
    "h265": ("preset", ("slow", "medium", "veryfast")),
    "av1": ("preset", ("5", "8", "11")),
    "vp9": ("cpu-used", ("2", "3", "6")),
}
#: Encoders in graphics hardware, by form, with the option that takes the number of a quality.
HARDWARE = {
    "h264": (("h264_nvenc", "cq"), ("h264_qsv", "global_quality"), ("h264_amf", "qp_i")),
    "h265": (("hevc_nvenc", "cq"), ("hevc_qsv", "global_quality"), ("hevc_amf", "qp_i")),
    "av1": (("av1_nvenc", "cq"), ("av1_qsv", "global_quality"), ("av1_amf", "qp_i")),
}
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
    found = CODECS[name]
    if not (1 <= how.quality <= 5 and 1 <= how.speed <= 3):
        raise UnreadableValue("Quality goes from 1 to 5 and speed from 1 to 3.")
    options = dict(found.options)
    if name in QUALITY:
        options["crf"] = str(QUALITY[name][how.quality - 1])
        option, steps = SPEED[name]
        options[option] = steps[how.speed - 1]
    elif how.quality != USUAL.quality or how.speed != USUAL.speed:
        raise RequestError(f"{found.words} has one quality and speed: leave them out.")
    found = replace(found, options=tuple(options.items()))
    if how.everywhere:
        if name != "h264":
            raise RequestError("What plays everywhere is H.264: choose h264.")
        found = replace(found, forms=("yuv420p",), words="H.264 that plays everywhere")
    elif how.full_chroma:
        if not found.depths:
            raise RequestError(f"{found.words} has its own chroma: leave full chroma out.")
        found = replace(found, full_chroma=True)
    return _by_hardware(name, found, options["crf"]) if how.hardware else found


def steps_of(name: str, how: EncodingChoice = USUAL) -> str:
    """The numbers behind a quality and speed, in words; empty where a form has none."""
    if name not in QUALITY:
        return ""
    option, steps = SPEED[name]
    return f"CRF {QUALITY[name][how.quality - 1]}, {option} {steps[how.speed - 1]}"


def _by_hardware(name: str, found: Codec, quality: str) -> Codec:
    for encoder, option in HARDWARE.get(name, ()):
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
    return tuple(name for name, tries in HARDWARE.items() if any(works(encoder) for encoder, _ in tries))
