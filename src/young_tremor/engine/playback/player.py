"""Playing in time: the sound is the clock where there is sound and a device, the machine's clock otherwise.

Frames are dropped rather than shown late. The player knows neither pictures nor Qt: it says which frame it is time
for, and keeps count.
"""

from __future__ import annotations

import threading
import time
from collections import deque
from collections.abc import Callable, Iterator
from fractions import Fraction
from typing import Protocol

import numpy as np

from young_tremor.media.audio_device import SoundDevice, device_names
from young_tremor.media.audio_reader import RATE

__all__ = ["Device", "Player", "SilentDevice", "best_device", "device_names"]


GONE = 1.5  # seconds that a device's clock may stand still


class Device(Protocol):
    """Takes sound and tells the time. ``real``: somebody may hear it; ``volume`` 0 … 1."""

    real: bool
    volume: float

    def start(self, blocks: Iterator[np.ndarray]) -> None: ...

    def stop(self) -> None: ...

    def heard(self) -> float: ...

    def close(self) -> None: ...


class SilentDevice:
    """Stands in where there is no device: the blocks are dropped, the time is the machine's."""

    real, volume = False, 1.0

    def __init__(self, now: Callable[[], float] = time.monotonic) -> None:
        self._now = now
        self._begun: float | None = None

    def start(self, blocks: Iterator[np.ndarray]) -> None:
        self._begun = self._now()

    def stop(self) -> None:
        self._begun = None

    def heard(self) -> float:
        return 0.0 if self._begun is None else self._now() - self._begun

    def close(self) -> None:
        self._begun = None


def best_device(name: str = "") -> Device:
    """The machine's sound device of that name, the usual one, or silence."""
    try:
        return SoundDevice(name)
    except OSError:
        return SilentDevice()


class Player:
    """Which frame it is time for. For one thread.

    ``shown`` and ``dropped`` count since :meth:`play`; ``rate_now`` is what was achieved over the last second.
    """

    def __init__(self, device: Device) -> None:
        self._device = device
        self.playing = False
        self.shown = self.dropped = 0
        self._once = self.over = False
        self._last = -1
        self._times: deque[float] = deque(maxlen=240)
        self.lost = False  # the device is gone, which nobody was told yet
        self._moved = (0.0, 0.0)  # what was heard when it last went on, and when that was

    @property
    def audible(self) -> bool:
        """Whether somebody may hear it."""
        return self._device.real

    def set_volume(self, volume: float) -> None:
        """How loud it plays, 0 … 1."""
        self._device.volume = volume

    def hear(self, sound: Callable[[], Iterator[np.ndarray]], seconds: float) -> None:
        """Let so many seconds be heard while nothing plays, softly begun and ended."""

        def made() -> Iterator[np.ndarray]:
            left, done = round(seconds * RATE), 0
            values = sound()
            fade = min(240, left // 2)
            for block in values:
                part = np.array(block[:left], np.float32)
                at = np.arange(done, done + len(part))
                ends = np.minimum(np.minimum((at + 1) / fade, 1.0), np.maximum(round(seconds * RATE) - at, 0) / fade)
                yield part * np.minimum(ends, 1.0)[:, None].astype(np.float32)
                left, done = left - len(part), done + len(part)
                if left <= 0:
                    break
            close = getattr(values, "close", None)
            if close is not None:
                close()

        if not self.playing:
            self._device.start(made())

    def play(
        self,
        *,
        start: int,
        first: int,
        last: int,
        rate: Fraction,
        sound: Callable[[float], Iterator[np.ndarray]] | None = None,
        once: bool = False,
    ) -> None:
        """Play from frame ``start``, over and over between ``first`` and ``last`` unless ``once``; ``sound`` from
        seconds on."""
        self._once, self.over = once, False
        self._first, self._end, self._rate, self._sound = first, last, rate, sound
        self._from = min(max(start, first), last)
        self.shown = self.dropped = 0
        self._last = self._from - 1
        self._times.clear()
        self.playing = True
        self._start()

    def stop(self) -> None:
        if self.playing:
            self.playing = False
            self._device.stop()

    def close(self) -> None:
        self.stop()
        self._device.close()

    def due(self) -> int:
        """The frame that should be on screen now. At the end it begins again at the first."""
        heard = self._device.heard()
        if self._device.real:
            self._watch(heard)
            heard = self._device.heard()
        index = self._from + int(heard * self._rate + 1e-6)
        if index > self._end and self._once:
            self.over = True
            return self._end
        if index > self._end:
            self._from, self._last = self._first, self._first - 1
            self._start()
            return self._first
        return index

    def _watch(self, heard: float) -> None:
        """A device whose clock stands still is gone: the machine's own takes its place, and the picture goes on."""
        now = time.monotonic()
        if heard != self._moved[0]:
            self._moved = heard, now
        elif now - self._moved[1] > GONE:
            frame = self._from + int(heard * self._rate)
            gone, self._device, self.lost = self._device, SilentDevice(), True
            self._from = frame
            self._device.start(iter(()))
            threading.Thread(target=gone.close, daemon=True).start()  # which may wait for what is no more

    def show(self, index: int, now: float) -> None:
        """Count a frame that went on screen at ``now`` (seconds)."""
        if index == self._last:
            return
        self.dropped += max(0, index - self._last - 1)
        self.shown += 1
        self._last = index
        self._times.append(now)

    @property
    def rate_now(self) -> float:
        """Frames per second that went on screen over the last second or so."""
        recent = [t for t in self._times if t > self._times[-1] - 1.0] if self._times else []
        return (len(recent) - 1) / (recent[-1] - recent[0]) if len(recent) > 2 else float(self._rate)

    def _start(self) -> None:
        self._moved = -1.0, time.monotonic()
        seconds = float(self._from / self._rate)
        self._device.start(self._sound(seconds) if self._sound else iter(()))
