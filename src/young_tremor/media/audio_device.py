"""A real sound device, where the machine has one."""

from __future__ import annotations

import threading
import time
from collections.abc import Generator, Iterator

import miniaudio
import numpy as np

from young_tremor.media.audio import RATE


class SoundDevice:
    """Plays stereo blocks at 48 kHz and tells how much has been heard. Raises OSError where there is no device."""

    def __init__(self) -> None:
        wanted = [miniaudio.Backend.PULSEAUDIO, miniaudio.Backend.ALSA, miniaudio.Backend.JACK]
        try:
            self._device = miniaudio.PlaybackDevice(
                output_format=miniaudio.SampleFormat.FLOAT32, nchannels=2, sample_rate=RATE, buffersize_msec=60,
                backends=wanted, app_name="Young Tremor",
            )  # fmt: skip
        except miniaudio.MiniaudioError as error:
            raise OSError(f"no sound device: {error}") from error
        self._lock = threading.Lock()
        self._given = 0
        self._asked = 0.0

    def start(self, blocks: Iterator[np.ndarray]) -> None:
        """Play from now on; silence once the blocks have run out."""
        self.stop()
        self._given, self._asked = 0, time.monotonic()
        stream = self._stream(blocks)
        next(stream)
        self._device.start(stream)

    def stop(self) -> None:
        self._device.stop()

    def heard(self) -> float:
        """Seconds heard since the start."""
        with self._lock:
            given, asked = self._given / RATE, self._asked
        return max(0.0, min(given, given - 0.06 + (time.monotonic() - asked)))

    def close(self) -> None:
        self._device.close()

    def _stream(self, blocks: Iterator[np.ndarray]) -> Generator[bytes, int, None]:
        rest = np.zeros((0, 2), np.float32)
        count = yield b""
        while True:
            while len(rest) < count:
                block = next(blocks, None)
                if block is None:
                    block = np.zeros((count - len(rest), 2), np.float32)
                rest = np.concatenate([rest, block]) if len(rest) else block
            part, rest = rest[:count], rest[count:]
            with self._lock:
                self._given += count
                self._asked = time.monotonic()
            count = yield part.astype(np.float32).tobytes()
