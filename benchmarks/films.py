"""Films made without the product, to compare with: the same encoder and settings."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
from msgspec.structs import replace

from young_tremor.engine.library import preset_library
from young_tremor.media.codecs import CODECS
from young_tremor.model.project import Project
from young_tremor.motion import sample

#: Prints the most memory that a process has had, in kilobytes; what it is told by getrusage begins with its parent's.
PEAK = "print(next(line.split()[1] for line in open('/proc/self/status') if line.startswith('VmHWM')))"


def footage_alone() -> Project:
    """The demo without what lies over its footage, and without its depth."""
    project = preset_library.demo_project()
    shots = (replace(shot, plates=(replace(shot.plates[0], depth=None),)) for shot in project.shots)
    return replace(project, shots=tuple(shots))


@contextmanager
def between(source: Path, target: Path) -> Iterator[tuple[Iterator[Any], Any, Any]]:
    """The frames of a film, and a file with its stream to encode into."""
    chosen = CODECS["h264"]
    with av.open(str(source)) as given, av.open(str(target), "w") as made:
        video = given.streams.video[0]
        video.thread_type = "AUTO"
        out = made.add_stream(chosen.encoder, rate=video.average_rate)
        out.width, out.height, out.pix_fmt = video.width, video.height, video.pix_fmt
        out.options = dict(chosen.options)
        yield given.decode(video), made, out
        made.mux(out.encode(None))


def transcode(source: Path, target: Path, most: int = 10**9) -> None:
    """Decode and encode, nothing between."""
    with between(source, target) as (frames, made, out):
        for number, frame in enumerate(frames):
            if number >= most:
                break
            frame.pict_type = 0
            made.mux(out.encode(frame))


def scripted(source: Path, target: Path, views: int = 16) -> None:
    """What a script of an afternoon does: each frame to RGB, so many bilinear warps over the exposure averaged."""
    shake = preset_library.preset("Standing, breathing").shake
    with between(source, target) as (frames, made, out):
        size, step = (out.width, out.height), out.height / 100
        for number, frame in enumerate(frames):
            picture = frame.to_ndarray(format="bgr24")
            total = np.zeros(picture.shape, np.float32)
            for moved in sample.sample(shake, (number + (np.arange(views) + 0.5) / views / 2 - 0.25) / 24):
                matrix = cv2.getRotationMatrix2D((size[0] / 2, size[1] / 2), -moved[2], 1.03 + moved[3] / 100)
                matrix[:, 2] += step * moved[:2]
                cv2.accumulate(cv2.warpAffine(picture, matrix, size), total)
            shown = av.VideoFrame.from_ndarray(cv2.convertScaleAbs(total, alpha=1 / views), format="bgr24")
            shown.pts, shown.time_base = frame.pts, frame.time_base
            made.mux(out.encode(shown.reformat(format=out.pix_fmt)))
