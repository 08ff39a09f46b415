"""Sound tracks of a film: passed on packet by packet where that is possible, encoded otherwise."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any, Protocol

import av
import numpy as np

from young_tremor.media import audio_reader
from young_tremor.media.container import open_container
from young_tremor.media.sources import SoundFacts, sounds

# which sound players know in which container; None: whatever its muxer takes
PLAYED = {
    "mp4": {"aac", "mp3", "ac3", "eac3", "alac", "opus", "flac"},
    "mov": {"aac", "mp3", "ac3", "eac3", "alac", "pcm_s16le", "pcm_s24le", "pcm_s16be", "pcm_s24be", "pcm_f32le"},
    "matroska": None,
    "webm": {"opus", "vorbis"},
}
_LAYOUTS = {1: "mono", 2: "stereo", 6: "5.1"}
PRIMING = 0.1  # seconds before the first picture in which packets still belong to it


@dataclass(frozen=True)
class SoundTrack:
    """Sound of a file from ``start`` for ``seconds`` of picture; ``origin`` is the file's time of its first picture,
    ``whole`` whether that is all of the file. Without a ``path`` it is silence. ``mix``: stereo at 48 kHz from its
    first sample on, in place of the file's first track."""

    path: Path | None
    seconds: float
    origin: float = 0.0
    start: float = 0.0
    whole: bool = False
    mix: Callable[[], Iterator[np.ndarray]] | None = None


class Track(Protocol):
    """A track of a film under way."""

    def write_until(self, container: Any, seconds: float) -> None: ...

    def close(self) -> None: ...


def tracks(container: Any, parts: tuple[SoundTrack, ...], kind: str, encoder: str) -> list[Track]:
    """The sound tracks of a film of these parts, added to its container.

    One part that is a whole file keeps its tracks as they are, where the container takes them and nothing of them lies
    beyond the picture. Otherwise they are decoded, cut or filled to the length of each part's picture, and encoded by
    ``encoder``.
    """
    sound_facts = [sounds(part.path) if part.path is not None else () for part in parts]
    mixed = any(part.mix is not None for part in parts)
    if not any(sound_facts) and not mixed:
        return []
    if len(parts) > 1:
        return [_Encoded(container, parts, 0, encoder, audio_reader.RATE, 2)]
    part = parts[0]
    tracks: list[Track] = []
    if mixed:
        tracks.append(_Encoded(container, parts, 0, encoder, audio_reader.RATE, 2))
    for number, fact in enumerate(sound_facts[0]):
        if mixed and number == 0:
            continue
        if part.whole and _can_hold(kind, part.path, number, fact):
            tracks.append(_Copied(container, part, number, fact.language))
        else:
            rates = av.codec.Codec(encoder, "w").audio_rates
            rate = fact.rate if not rates or fact.rate in rates else audio_reader.RATE
            tracks.append(_Encoded(container, parts, number, encoder, rate, fact.channels, fact.language))
    return tracks


def _can_hold(kind: str, path: Path | None, number: int, fact: SoundFacts) -> bool:
    """Whether a container takes a track as it is: players know it there, and the muxer does not refuse it."""
    allowed = PLAYED[kind]
    if path is None or (allowed is not None and fact.codec not in allowed):
        return False
    source = open_container(path)
    try:
        with av.open(io.BytesIO(), "w", format=kind) as trial:
            trial.add_stream_from_template(source.streams.audio[number])
            trial.start_encoding()
    except (av.FFmpegError, ValueError):
        return False
    finally:
        source.close()
    return True


class _Copied:
    """A whole audio stream passed on packet by packet, as far as there is picture."""

    def __init__(self, container: Any, part: SoundTrack, number: int, language: str) -> None:
        assert part.path is not None
        self._input = open_container(part.path)
        source = self._input.streams.audio[number]
        self._stream = container.add_stream_from_template(source)
        if language:
            self._stream.metadata["language"] = language
        self._base = source.time_base
        self._shift = round(part.origin / self._base)
        self._end = part.seconds
        self._packets = self._input.demux(source)
        self._held: Any = None
        self._done = False

    def write_until(self, container: Any, seconds: float) -> None:
        """Pass on what belongs before ``seconds``."""
        while not self._done:
            packet = self._held or next(self._packets, None)
            self._held = None
            if packet is None or not packet.size:
                self._done = True
                return
            stamp = packet.pts if packet.pts is not None else packet.dts
            at = float((stamp - self._shift) * self._base) if stamp is not None else None
            if at is not None:
                if at >= self._end - 1e-6:
                    self._done = True
                    return
                if at < -PRIMING:
                    continue
                if at > seconds:
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
    """Sound decoded, cut or filled to its stretches one after the other, and encoded."""

    def __init__(
        self,
        container: Any,
        parts: tuple[SoundTrack, ...],
        number: int,
        encoder: str,
        rate: int,
        channels: int,
        language: str = "",
    ) -> None:
        self._parts, self._number, self._rate = parts, number, rate
        self._layout = _LAYOUTS.get(channels, "stereo")
        self._stream = container.add_stream(encoder, rate=rate, layout=self._layout)
        if language:
            self._stream.metadata["language"] = language
        if encoder in ("aac", "libopus"):
            self._stream.bit_rate = 256_000 if channels <= 2 else 512_000
        kind = {"aac": "fltp", "flac": "s32", "pcm_s24le": "s32", "libopus": "flt"}[encoder]
        self._stream.codec_context.format = kind
        self._resampler = av.AudioResampler(format=kind, layout=self._layout, rate=rate)
        self._channels = self._resampler.layout.nb_channels
        self._blocks: Any = self._read()
        self._written = 0
        self._done = False

    def _read(self) -> Iterator[np.ndarray]:
        total, number = 0.0, 0
        for part in self._parts:
            total += part.seconds
            count = round(total * self._rate) - number  # what was rounded does not add up
            number += count
            values: Iterator[np.ndarray] = iter(())
            if part.mix is not None and self._number == 0:
                values = part.mix()
            elif part.path is not None:
                values = audio_reader.blocks(
                    part.path, part.start, origin=part.origin, rate=self._rate, layout=self._layout, stream=self._number
                )
            yield from audio_reader.exactly(values, count, self._channels)

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
