"""When each picture of a stream is shown, found without decoding: the container's own index, or its packets."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Any

import numpy as np

from young_tremor.base.errors import DecodeError
from young_tremor.base.units import STANDARD_RATES, nearest_rate
from young_tremor.media.container import Container, Stream

MOST_READ = 192 << 20  # bytes of a file that is read through for its packets; a larger one is looked at in places
PLACES = 24  # such places
LOOKED = 40  # packets looked at in each
STREAMED = ("mpegts", "mpeg")  # sought by the time of decoding; what is read first after it may be stamped wrongly
SETTLES = 5
MOST_PICTURES = 20_000_000


@dataclass(frozen=True, eq=False)
class Timing:
    """Timestamps of a stream's pictures in order (ticks), which are key pictures, and the conformed rate.

    ``seek``: (keys,) the stamp to ask the container for, to arrive at each key picture. ``slack``: ticks by which
    stamps may differ from the true ones (where they were not all read). ``settles``: pictures in a row that must have
    followed on each other after a seek before their stamps are believed. ``counted``: the file's stamps are those of
    decoding; pictures are told by counting, ``decoding`` holding the packets' stamps in the order of the file.
    """

    pts: np.ndarray
    keys: np.ndarray
    seek: np.ndarray
    rate: Fraction
    constant: bool
    time_base: Fraction
    slack: int = 0
    settles: int = 0
    counted: bool = False
    decoding: np.ndarray | None = None

    @property
    def frames(self) -> int:
        """How many pictures there are."""
        if self.constant:
            return len(self.pts)
        shown = (int(self.pts[-1] - self.pts[0])) * self.time_base
        return max(1, int(shown * self.rate) + 1)

    @property
    def exact(self) -> bool:
        """Whether a stamp says by itself which picture it is."""
        return not (self.counted or self.slack or self.settles)

    def picture(self, index: int) -> int:
        """Which coded picture stands at conformed frame ``index``: the last one not later."""
        if self.constant:
            return index
        ticks = Fraction(index) / self.rate / self.time_base + int(self.pts[0])
        return int(np.searchsorted(self.pts, float(ticks) + 0.5, side="right")) - 1

    def key_before(self, picture: int) -> int:
        """Place in :attr:`keys` of the last key picture not after a picture; -1 where there is none."""
        return int(np.searchsorted(self.keys, picture, side="right")) - 1


def timing(container: Container, stream: Stream, name: str, size: int, first: int | None) -> Timing:
    """The timing of a stream of a file of ``size`` bytes that has no index to go by; ``first`` is the stamp of its
    first decoded picture.

    The container stands at its beginning, and is used up. DecodeError where there is no picture.
    """
    base = Fraction(stream.time_base)
    kind = container.format.name
    timing = None
    if size > MOST_READ and kind != "avi":
        timing = _in_places(container, stream, base, first)
        if timing is None and stream.start_time is not None:
            container.seek(stream.start_time, stream=stream, backward=True)
    return timing or _from_packets(container, stream, name, kind, base)


def _stamps(container: Container, stream: Stream, most: int | None = None) -> list[tuple[int | None, int | None, bool]]:
    """(pts, dts, whether a key picture) of the packets from where the container stands."""
    out = []
    for packet in container.demux(stream):
        if packet.size and not packet.is_discard:
            out.append((packet.pts, packet.dts, packet.is_keyframe))
            if most is not None and len(out) >= most:
                break
    return out


def from_index(container: Container, stream: Stream, first: int | None) -> Timing | None:
    """From the container's (MP4, MOV) index of decoding times, where those tell the times of showing: all pictures are
    equally far apart, or are shown in the order in which they are decoded."""
    if not container.format.name.startswith("mov"):
        return None
    base = Fraction(stream.time_base)
    entries = stream.index_entries
    count = len(entries) if entries is not None else 0
    if count < 2 or count > MOST_PICTURES or first is None:
        return None
    rows = [(entry.timestamp, entry.is_keyframe, entry.is_discard) for entry in entries]
    if any(row[2] for row in rows):
        return None  # an edit list hides some of them
    dts = np.array([row[0] for row in rows], np.int64)
    gaps = np.diff(dts)
    if (gaps <= 0).any():
        return None
    even = bool(np.ptp(gaps) <= 1)
    ordered = not stream.codec_context.has_b_frames
    if not (even or ordered):
        return None
    pts = dts - dts[0] + first
    keys = np.flatnonzero([row[1] for row in rows])
    # what was said of the order is proven where it is cheap: at the beginning and near the end
    ends = (int(pts[0]), int(pts[keys[-1]]) if len(keys) else int(pts[-1]))
    if not ordered and not all(_is_shown_then(container, stream, pts, at) for at in ends):
        return None
    return _timing_by_stamps(pts, keys, pts[keys], stream, base)


def _is_shown_then(container: Container, stream: Stream, pts: np.ndarray, at: int) -> bool:
    """Whether the first packets from ``at`` on are shown at times that ``pts`` (n,) says."""
    container.seek(at, stream=stream, backward=True)
    stamps = [stamp for stamp, _, _ in _stamps(container, stream, LOOKED)]
    return all(stamp is not None and np.abs(pts - stamp).min() <= 1 for stamp in stamps)


def _in_places(container: Container, stream: Stream, base: Fraction, first: int | None) -> Timing | None:
    """Of a file too large to be read through: places all over it are looked at, and if their stamps all stand on one
    even scale, that scale is its timing."""
    told = stream.average_rate or stream.guessed_rate
    length = (
        stream.duration * base
        if stream.duration
        else (Fraction(container.duration, 1_000_000) if container.duration else None)
    )
    if first is None or not told or not length or length <= 0:
        return None
    rate = nearest_rate(float(told))
    gap = 1 / (rate * base)
    last = first
    for place in range(PLACES + 1):
        target = first + int(length / base * place / PLACES)
        container.seek(max(first, target - int(gap)), stream=stream, backward=True)
        stamps = [s for s, _, _ in _stamps(container, stream, LOOKED if place < PLACES else None) if s is not None]
        steps = (np.array(stamps, np.float64) - first) / float(gap)
        if not stamps or np.abs(steps - np.rint(steps)).max() * float(gap) > max(1.0, 0.02 * float(gap)):
            return None
        last = max(last, max(stamps))
    count = round((last - first) / float(gap)) + 1
    if not 1 <= count <= MOST_PICTURES:
        return None
    pts = np.rint(first + np.arange(count) * float(gap)).astype(np.int64)
    none = np.zeros(0, np.int64)
    settles = SETTLES if container.format.name in STREAMED else 0
    return Timing(pts, none, none, rate, True, base, slack=max(1, int(float(gap) / 3)), settles=settles)


def _from_packets(container: Container, stream: Stream, name: str, kind: str, base: Fraction) -> Timing:
    rows = _stamps(container, stream)
    if not rows:
        raise DecodeError(f"{name} holds no picture: the file may be empty or damaged.")
    unordered = (
        kind == "avi" and stream.codec_context.has_b_frames and [r[0] for r in rows] == sorted(r[0] or 0 for r in rows)
    )
    if unordered or any(pts is None for pts, _, _ in rows):
        return _timing_by_count(rows, stream, base)
    pts, place = np.unique(np.array([row[0] for row in rows], np.int64), return_index=True)
    if len(pts) == 1 and len(rows) > 1:
        return _timing_by_count([(None, None, row[2]) for row in rows], stream, base)
    keys = np.flatnonzero(np.array([row[2] for row in rows])[place])
    timing = _timing_by_stamps(pts, keys, pts[keys], stream, base)
    if kind not in STREAMED:
        return timing
    seek = np.array([rows[k][1] if rows[k][1] is not None else rows[k][0] for k in place[keys]], np.int64)
    return replace(timing, seek=seek, settles=SETTLES)


def _timing_by_count(rows: list[tuple[int | None, int | None, bool]], stream: Stream, base: Fraction) -> Timing:
    """Where only the order is known: pictures come out of the decoder in the order in which they are shown."""
    keys = np.flatnonzero([row[2] for row in rows])
    dts = np.array([-1 if row[1] is None else row[1] for row in rows], np.int64)
    stamped = all(row[1] is not None for row in rows) and bool((np.diff(dts) > 0).all())
    value = float(stream.average_rate or stream.guessed_rate or 25)
    if not stamped:
        rate = nearest_rate(value if 0.1 < value < 1000 else 25.0)
        count = np.arange(len(rows), dtype=np.int64)
        return Timing(count, keys[:1], np.zeros(0, np.int64), rate, True, 1 / rate, counted=True)
    timing = _timing_by_stamps(dts, keys, dts[keys], stream, base)
    return Timing(timing.pts, keys, timing.seek, timing.rate, timing.constant, base, counted=True, decoding=dts)


def _timing_by_stamps(pts: np.ndarray, keys: np.ndarray, seek: np.ndarray, stream: Stream, base: Fraction) -> Timing:
    """With the rate that the stamps speak of."""
    if len(pts) == 1:
        return Timing(pts, keys, seek, nearest_rate(_sane(stream.average_rate)), True, base)
    gaps = np.diff(pts)
    mean = float(pts[-1] - pts[0]) / len(gaps)
    constant = bool(np.abs(pts - (pts[0] + mean * np.arange(len(pts)))).max() <= max(1.5, 0.04 * mean))
    counted = 1 / (mean * float(base))
    value = float(stream.guessed_rate or stream.average_rate or counted)
    if constant:
        # a coarse clock (milliseconds) counts a standard rate only roughly
        slack = max(0.0004, 1.5 / float(pts[-1] - pts[0]))
        near = nearest_rate(value, 0.0004) if abs(value - counted) <= slack * counted else nearest_rate(counted, slack)
        return Timing(pts, keys, seek, near, True, base)
    typical = 1 / (float(np.median(gaps)) * float(base))
    rate = min(STANDARD_RATES, key=lambda standard_rate: abs(float(standard_rate) / typical - 1))
    rate = rate if abs(float(rate) / typical - 1) < 0.15 else nearest_rate(min(max(typical, 0.1), 1000.0))
    return Timing(pts, keys, seek, rate, False, base)


def _sane(rate: Any) -> float:
    value = float(rate or 24)
    return value if 0.1 <= value <= 1000 else 24.0
