"""A real sound device, where the machine has one."""

from __future__ import annotations

import logging
import threading
import time
from collections import deque
from collections.abc import Generator, Iterator
from typing import TYPE_CHECKING, Any

import numpy as np

from young_tremor.base.lazy_import import lazily
from young_tremor.media.audio_reader import RATE

if TYPE_CHECKING:
    import miniaudio
else:
    miniaudio = lazily("miniaudio")

_log = logging.getLogger(__name__)


def _backends() -> list[miniaudio.Backend]:
    return [miniaudio.Backend.PULSEAUDIO, miniaudio.Backend.ALSA, miniaudio.Backend.JACK]


def device_names() -> list[str]:
    """The sound devices of this machine."""
    return [table["name"] for table in _list_devices()]


def _list_devices() -> list[dict[str, Any]]:
    try:
        return list(miniaudio.Devices(_backends()).get_playbacks())
    except miniaudio.MiniaudioError:
        return []


class SoundDevice:
    """Plays stereo blocks at 48 kHz and tells how much has been heard. Raises OSError where there is no device."""

    def __init__(self, name: str = "") -> None:
        """The device of that name, or the usual one where there is none such."""
        try:
            found = next((table["id"] for table in _list_devices() if table["name"] == name), None) if name else None
            self._device = miniaudio.PlaybackDevice(
                device_id=found,
                output_format=miniaudio.SampleFormat.FLOAT32,
                nchannels=2,
                sample_rate=RATE,
                buffersize_msec=60,
                backends=_backends(),
                app_name="Young Tremor",
            )
        except miniaudio.MiniaudioError as error:
            raise OSError(f"no sound device: {error}") from error
        self.real, self.volume = True, 1.0
        self._lock = threading.Lock()
        self._given = 0
        self._asked = 0.0
        self._feed: Feed | None = None

    def start(self, blocks: Iterator[np.ndarray]) -> None:
        """Play from now on; silence once the blocks have run out. They are made in a thread of their own, ahead."""
        self.stop()
        self._given, self._asked = 0, time.monotonic()
        self._feed = Feed(blocks)
        stream = self._stream(self._feed)
        next(stream)
        self._device.start(stream)

    def stop(self) -> None:
        self._device.stop()
        if self._feed is not None:
            self._feed.close()
            self._feed = None

    def heard(self) -> float:
        """Seconds heard since the start."""
        with self._lock:
            given, asked = self._given / RATE, self._asked
        return max(0.0, min(given, given - 0.06 + (time.monotonic() - asked)))

    def close(self) -> None:
        self.stop()
        self._device.close()

    def _stream(self, feed: Feed) -> Generator[bytes, int, None]:
        """Called by the device: takes what there is and never waits, so the clock goes on whatever happens."""
        count = yield b""
        while True:
            part = feed.take(count) * np.float32(self.volume)
            with self._lock:
                self._given += count
                self._asked = time.monotonic()
            count = yield part.tobytes()


class Feed:
    """Sound made ahead in a thread, taken without waiting. What comes too late is silence, and is left out of what
    comes after, so that the sound stays in its place. ``error``: why there is no more, if something went wrong."""

    def __init__(self, blocks: Iterator[np.ndarray], most: int = RATE) -> None:
        self._blocks, self._most = blocks, most
        self._parts: deque[np.ndarray] = deque()
        self._there = self._owed = 0
        self._changed = threading.Condition()
        self._stop = False
        self.error: BaseException | None = None
        self._thread = threading.Thread(target=self._run, name="sound", daemon=True)
        self._thread.start()
        with self._changed:  # so that it begins with sound
            self._changed.wait_for(lambda: self._there or self.over, 0.5)

    @property
    def over(self) -> bool:
        """Whether all there is has been made."""
        return self._stop

    def take(self, count: int) -> np.ndarray:
        """The next ``count`` samples: (count, 2) float32."""
        out = np.zeros((count, 2), np.float32)
        filled = 0
        with self._changed:
            while filled < count and self._parts:
                part = self._parts.popleft()
                if self._owed:
                    part, skipped = part[self._owed :], min(self._owed, len(part))
                    self._owed -= skipped
                    self._there -= skipped
                used = part[: count - filled]
                out[filled : filled + len(used)] = used
                filled += len(used)
                self._there -= len(used)
                if len(part) > len(used):
                    self._parts.appendleft(part[len(used) :])
            if not self._stop:
                self._owed += count - filled
            self._changed.notify_all()
        return out

    def close(self) -> None:
        """Stop making, and wait for it."""
        with self._changed:
            self._stop = True
            self._changed.notify_all()
        self._thread.join()

    def _run(self) -> None:
        try:
            for block in self._blocks:
                with self._changed:
                    self._changed.wait_for(lambda: self._stop or self._there < self._most)
                    if self._stop:
                        break
                    self._parts.append(np.asarray(block, np.float32))
                    self._there += len(block)
                    self._changed.notify_all()
        except Exception as error:
            self.error = error
            _log.warning("the sound stopped", exc_info=error)
        finally:
            close = getattr(self._blocks, "close", None)
            if close is not None:
                close()
            with self._changed:
                self._stop = True
                self._changed.notify_all()
