"""Playing in time: the sound is the clock where there is sound and a device, the machine's clock otherwise.

Frames are dropped rather than shown late. The player knows neither pictures nor Qt: it says which frame it is time
for, and keeps count.
"""

from __future__ import annotations

import time
from collections import deque
from collections.abc import Callable, Iterator
from fractions import Fraction
from typing import Protocol

import numpy as np

from young_tremor.media.audio_device import SoundDevice, device_names

__all__ = ["Device", "Player", "SilentDevice", "best_device", "device_names"]


class Device(Protocol):
    """Takes sound and tells the time."""

    def start(self, blocks: Iterator[np.ndarray]) -> None: ...

    def stop(self) -> None: ...

    def heard(self) -> float: ...

    def close(self) -> None: ...


class SilentDevice:
    """Stands in where there is no device: the blocks are dropped, the time is the machine's."""

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
        self._last = -1
        self._times: deque[float] = deque(maxlen=240)

    def play(
        self,
        *,
        start: int,
        first: int,
        last: int,
        rate: Fraction,
        sound: Callable[[float], Iterator[np.ndarray]] | None = None,
    ) -> None:
        """Play from frame ``start``, over and over between ``first`` and ``last``; ``sound`` from seconds on."""
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
        index = self._from + int(self._device.heard() * self._rate + 1e-6)
        if index > self._end:
            self._from, self._last = self._first, self._first - 1
            self._start()
            return self._first
        return index

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
        seconds = float(self._from / self._rate)
        self._device.start(self._sound(seconds) if self._sound else iter(()))
