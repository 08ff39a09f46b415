"""Sound that was decoded before, kept in pieces: a mix that is heard again, or a seek in it, decodes nothing."""

from __future__ import annotations

import threading
from collections.abc import Generator, Iterator
from pathlib import Path

import numpy as np
from cachetools import LRUCache

from young_tremor.media import audio_reader
from young_tremor.media.container import Identity, identity

LONG = audio_reader.RATE // 2  # samples of a piece: few enough for the first to come at once
KEPT = 96 << 20  # bytes: some four minutes
_pieces: LRUCache[tuple[Identity, int], np.ndarray] = LRUCache(KEPT, getsizeof=lambda piece: piece.nbytes + 64)
_ends: LRUCache[Identity, int] = LRUCache(1024)  # of each file, its last piece
_lock = threading.Lock()


def blocks(path: Path | str, start: float, *, origin: float) -> Iterator[np.ndarray]:
    """Blocks of a file's first sound, stereo at 48 kHz, as `media.audio_reader.blocks` yields them. Any thread.

    Arrays are not to be changed.
    """
    file, at = identity(path), round((start + origin) * audio_reader.RATE)
    number, ahead = at // LONG, -1
    decoder: Generator[np.ndarray, None, None] | None = None
    try:
        while True:
            with _lock:
                piece = _pieces.get((file, number))
                if number > _ends.get(file, number):
                    return
            if piece is None:
                if decoder is None or ahead != number:
                    if decoder is not None:
                        decoder.close()
                    decoder = _cut_blocks(
                        audio_reader.blocks(path, number * LONG / audio_reader.RATE - origin, origin=origin)
                    )
                piece = next(decoder, np.zeros((0, 2), np.float32))
                piece.flags.writeable = False
                ahead = number + 1
                with _lock:
                    _pieces[(file, number)] = piece
            begin = max(at - number * LONG, 0)
            if begin < len(piece):
                yield piece[begin:]
            if len(piece) < LONG:
                with _lock:
                    _ends[file] = min(number, _ends.get(file, number))
                return
            number += 1
    finally:
        if decoder is not None:
            decoder.close()


def _cut_blocks(found: Iterator[np.ndarray]) -> Generator[np.ndarray, None, None]:
    """Blocks as pieces of ``LONG`` samples; the last may be shorter."""
    parts: list[np.ndarray] = []
    there = 0
    for block in found:
        parts.append(block)
        there += len(block)
        while there >= LONG:
            whole = np.concatenate(parts)
            yield whole[:LONG].copy()
            parts, there = [whole[LONG:]], there - LONG
    if there:
        yield np.concatenate(parts)
