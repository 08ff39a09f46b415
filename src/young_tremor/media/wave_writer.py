"""Sound to a WAV file: 24 bits at 48 kHz, with the time of its first sample (EBU Tech 3285)."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

from young_tremor.base.files import PartFile, check_free
from young_tremor.media.decoder_formats import writing

RATE = 48000
MOST = 1 << 23


def write(path: Path, blocks: Iterable[np.ndarray], *, first: int = 0, overwrite: bool = False) -> None:
    """Write stereo blocks (n, 2) of −1 … 1; ``first``: the sample of the day at which it begins. What is under way is
    not there under its name until it is whole."""
    check_free(path, overwrite=overwrite)
    with PartFile(path) as part:
        with writing(path):
            _write(part.path, blocks, first)
        part.finish(overwrite=overwrite)


def _write(path: Path, blocks: Iterable[np.ndarray], first: int) -> None:
    options = {"write_bext": "1", "rf64": "auto"}
    with av.open(f"file:{path.absolute()}", "w", format="wav", options=options) as file:
        file.metadata["time_reference"] = str(first)
        file.metadata["originator"] = "Young Tremor"
        stream: Any = file.add_stream("pcm_s24le", rate=RATE, layout="stereo")
        at = 0
        for block in blocks:
            if not len(block):
                continue
            scaled = np.clip(np.rint(np.asarray(block, np.float64) * MOST), -MOST, MOST - 1).astype(np.int32)
            packed = np.ascontiguousarray(scaled << 8).reshape(1, -1)
            frame = av.AudioFrame.from_ndarray(packed, format="s32", layout="stereo")
            frame.sample_rate, frame.pts, frame.time_base = RATE, at, Fraction(1, RATE)
            at += len(block)
            for packet in stream.encode(frame):
                file.mux(packet)
        for packet in stream.encode(None):
            file.mux(packet)
