"""Small clips with known content, made by the tests for the tests."""

from __future__ import annotations

import shutil
import tempfile
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import av
import cv2
import numpy as np


@lru_cache(maxsize=8)
def _texture(size: tuple[int, int]) -> np.ndarray:
    rng = np.random.default_rng(5)
    return cv2.resize(rng.integers(40, 200, (size[1] // 4, size[0] // 4, 3), np.uint8), size)


def numbered(number: int, size: tuple[int, int]) -> np.ndarray:
    """RGB picture with texture and its number in sixteen black or white blocks along the top."""
    width, height = size
    picture = _texture(size).copy()
    for bit in range(16):
        left, right = bit * width // 16, (bit + 1) * width // 16
        picture[: height // 4, left:right] = 235 if number >> bit & 1 else 20
    return picture


def number_of(luma: np.ndarray) -> int:
    """The number drawn by :func:`numbered`, from a luma plane."""
    height, width = luma.shape
    level = luma.max() / 2
    return sum(1 << bit for bit in range(16) if luma[height // 8, (2 * bit + 1) * width // 32] > level)


def clip(path: Path, **more: object) -> Path:
    """A numbered clip, encoded once for all that ask for the same (:func:`_encode`)."""
    asked = repr(sorted(more.items()))
    made = _clips.get((path.suffix, asked))
    if made is None:
        made = _clips[path.suffix, asked] = Path(_folder.name) / f"{len(_clips)}{path.suffix}"
        _encode(made, **more)  # type: ignore[arg-type]
    shutil.copyfile(made, path)
    return path


_folder = tempfile.TemporaryDirectory()
_clips: dict[tuple[str, str], Path] = {}


def _encode(
    path: Path,
    *,
    frames: int = 24,
    size: tuple[int, int] = (320, 180),
    codec: str = "libx264",
    pix_fmt: str = "yuv420p",
    rate: int | Fraction = 24,
    options: dict[str, str] | None = None,
    stamps: list[int] | None = None,
    offset: int = 0,
    audio: bool = False,
    aspect: Fraction = Fraction(1),
    tags: tuple[int, int, int, int] = (1, 1, 1, 1),
    timecode: str = "",
) -> None:
    """Encode a numbered clip. ``stamps`` are times in milliseconds (variable rate); ``offset`` shifts all times;
    ``timecode`` is the first frame's."""
    with av.open(str(path), "w") as file:
        stream = file.add_stream(codec, rate=rate)
        if timecode:
            stream.metadata["timecode"] = timecode
        stream.width, stream.height = size
        stream.pix_fmt = pix_fmt
        if codec == "libx264":
            options = {"g": "250", "bf": "3", "preset": "veryfast", **(options or {})}
        stream.options = options or {}
        context = stream.codec_context
        context.sample_aspect_ratio = aspect
        context.color_primaries, context.color_trc, context.colorspace, context.color_range = tags
        base = Fraction(1, 1000) if stamps else 1 / Fraction(rate)
        context.time_base = base
        sound = None
        if audio:
            sound = file.add_stream("aac", rate=48000, layout="stereo")
        for number in range(frames):
            rgb = numbered(number, size)
            picture = av.VideoFrame.from_ndarray(rgb, format="rgb24").reformat(format=pix_fmt)
            picture.pts = (stamps[number] if stamps else number) + offset
            picture.time_base = base
            picture.color_range = tags[3]
            file.mux(stream.encode(picture))
        file.mux(stream.encode(None))
        if sound:
            n = int(frames / Fraction(rate) * 48000)
            tone = (0.3 * np.sin(np.arange(n) * 2 * np.pi * 440 / 48000)).astype(np.float32)
            for start in range(0, n, 1024):
                part = tone[start : start + 1024]
                block = av.AudioFrame.from_ndarray(np.stack([part, part]), "fltp", "stereo")
                block.sample_rate, block.pts, block.time_base = 48000, start, Fraction(1, 48000)
                file.mux(sound.encode(block))
            file.mux(sound.encode(None))


def decoded(path: Path) -> list[np.ndarray]:
    """Every plane of every picture of a file, as the decoder gives it."""
    out = []
    with av.open(str(path)) as file:
        for picture in file.decode(video=0):
            for plane in picture.planes:
                dtype = np.uint16 if picture.format.components[0].bits > 8 else np.uint8
                out.append(np.frombuffer(plane, dtype).reshape(plane.height, -1)[:, : plane.width].copy())
    return out


def reduced(clip: Path, path: Path, *, seconds: float = 2.5, size: tuple[int, int] = (640, 360)) -> None:
    """The beginning of a clip, smaller: where it matters what is done with it, not how much of it there is."""
    with av.open(str(clip)) as file, av.open(str(path), "w") as out:
        shown = file.streams.video[0]
        stream = out.add_stream("libx264", rate=shown.average_rate, options={"preset": "veryfast"})
        stream.width, stream.height, stream.pix_fmt = *size, "yuv420p"
        for picture in file.decode(shown):
            if picture.time >= seconds:
                break
            out.mux(stream.encode(picture.reformat(*size)))
        out.mux(stream.encode(None))
