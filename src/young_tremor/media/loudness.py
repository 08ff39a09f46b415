"""How loud sound is, by the library's own meter (ITU-R BS.1770-4, EBU R 128)."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

import av
import numpy as np

RATE = 48000
TICK = 4800  # samples that the meter looks at in one go
QUIET = -70.0  # LUFS under which the meter says nothing


@dataclass(frozen=True)
class Loudness:
    """``integrated`` and the largest ``short`` term in LUFS, ``range`` in LU, true ``peak`` in dBTP; -inf: silence."""

    integrated: float
    short: float
    range: float
    peak: float


def measured(blocks: Iterable[np.ndarray]) -> Loudness:
    """The loudness of stereo sound at 48 kHz, in blocks (n, 2)."""
    graph: Any = av.filter.Graph()
    source = graph.add_abuffer(format="flt", sample_rate=RATE, layout="stereo", time_base=f"1/{RATE}")
    meter, sink = graph.add("ebur128", "metadata=1:peak=true"), graph.add("abuffersink")
    source.link_to(meter)
    meter.link_to(sink)
    graph.configure()
    last: dict[str, str] = {}
    short, at, rest = -math.inf, 0, np.zeros((0, 2), np.float32)

    def push(samples: np.ndarray) -> None:
        nonlocal at, short, last
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(samples).reshape(1, -1), format="flt", layout="stereo")
        frame.sample_rate, frame.pts = RATE, at
        at += len(samples)
        graph.push(frame)
        while True:
            try:
                said = dict(graph.pull().metadata)
            except (av.error.BlockingIOError, av.error.EOFError):
                return
            if said:
                last = said
                short = max(short, _number(said, "S"))

    for block in blocks:
        rest = np.concatenate([rest, np.asarray(block, np.float32)])
        whole = len(rest) // TICK * TICK
        for begin in range(0, whole, TICK):
            push(rest[begin : begin + TICK])
        rest = rest[whole:]
    if len(rest) or not at:
        push(np.concatenate([rest, np.zeros((TICK - len(rest), 2), np.float32)]))
    peak = float(last.get("lavfi.r128.true_peak", 0) or 0)
    integrated = _number(last, "I")
    return Loudness(integrated, short, _number(last, "LRA"), 20 * math.log10(peak) if peak > 0 else -math.inf)


def _number(said: dict[str, str], key: str) -> float:
    value = float(said.get(f"lavfi.r128.{key}", "nan"))
    if math.isnan(value):
        return -math.inf
    return -math.inf if key != "LRA" and value <= QUIET else value
