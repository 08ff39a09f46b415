"""How loud sound is, by the library's own meter (ITU-R BS.1770-4, EBU R 128)."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
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

    def numbers(self) -> dict[str, float | None]:
        """The same by name, None where there is silence."""
        named = {
            "integrated_lufs": self.integrated,
            "short_lufs": self.short,
            "range_lu": self.range,
            "true_peak_dbtp": self.peak,
        }
        return {name: round(value, 2) if math.isfinite(value) else None for name, value in named.items()}


class Meter:
    """Hears stereo sound at 48 kHz block by block, each (n, 2)."""

    def __init__(self) -> None:
        self._graph: Any = av.filter.Graph()
        source = self._graph.add_abuffer(format="flt", sample_rate=RATE, layout="stereo", time_base=Fraction(1, RATE))
        meter, sink = self._graph.add("ebur128", "metadata=1:peak=true"), self._graph.add("abuffersink")
        source.link_to(meter)
        meter.link_to(sink)
        self._graph.configure()
        self._last: dict[str, str] = {}
        self._short, self._at, self._rest = -math.inf, 0, np.zeros((0, 2), np.float32)

    def hear(self, block: np.ndarray) -> None:
        """Hear what comes next."""
        rest = np.concatenate([self._rest, np.asarray(block, np.float32)])
        whole = len(rest) // TICK * TICK
        for begin in range(0, whole, TICK):
            self._push(rest[begin : begin + TICK])
        self._rest = rest[whole:]

    def _push(self, samples: np.ndarray) -> None:
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(samples).reshape(1, -1), format="flt", layout="stereo")
        frame.sample_rate, frame.pts = RATE, self._at
        self._at += len(samples)
        self._graph.push(frame)
        while True:
            try:
                table = dict(self._graph.pull().metadata)
            except (av.error.BlockingIOError, av.error.EOFError):
                return
            if table:
                self._last = table
                self._short = max(self._short, _number(table, "S"))

    def result(self) -> Loudness:
        """How loud all of it was; nothing more is heard afterwards."""
        if len(self._rest) or not self._at:
            self._push(np.concatenate([self._rest, np.zeros((TICK - len(self._rest), 2), np.float32)]))
        last = self._last
        peak = float(last.get("lavfi.r128.true_peak", 0) or 0)
        loud = 20 * math.log10(peak) if peak > 0 else -math.inf
        return Loudness(_number(last, "I"), self._short, _number(last, "LRA"), loud)


def measure_loudness(blocks: Iterable[np.ndarray]) -> Loudness:
    """The loudness of stereo sound at 48 kHz, in blocks (n, 2)."""
    meter = Meter()
    for block in blocks:
        meter.hear(block)
    return meter.result()


def _number(said: dict[str, str], key: str) -> float:
    value = float(said.get(f"lavfi.r128.{key}", "nan"))
    if math.isnan(value):
        return -math.inf
    return -math.inf if key != "LRA" and value <= QUIET else value
