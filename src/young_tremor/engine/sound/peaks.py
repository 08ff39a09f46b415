"""Waves to be drawn: the largest of each hundredth part of a quarter second of sound, kept on disk for files."""

from __future__ import annotations

import hashlib
import io
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from young_tremor.base import files, xdg
from young_tremor.base.errors import MissingFile, TremorError
from young_tremor.engine.media import footage
from young_tremor.engine.sound import mixing
from young_tremor.model.project import Shot

RATE = 400  # peaks a second
EACH = mixing.RATE // RATE
MIX = ""  # the name of all together
MOST = 1200.0  # seconds of a mix whose wave is drawn
KEPT = 400 << 20  # bytes of kept waves

Report = Callable[[int, int], None]


def of_blocks(blocks: Iterable[np.ndarray]) -> np.ndarray:
    """Peaks (n,) float32 of sound in blocks (n, channels)."""
    out, rest = [], np.zeros(0, np.float32)
    for block in blocks:
        loud = np.abs(np.asarray(block)).max(axis=1).astype(np.float32)
        loud = np.concatenate([rest, loud])
        whole = len(loud) // EACH * EACH
        out.append(loud[:whole].reshape(-1, EACH).max(axis=1))
        rest = loud[whole:]
    if len(rest):
        out.append(rest.max(keepdims=True))
    return np.concatenate([np.zeros(0, np.float32), *out])


def of_footage(path: str, report: Report) -> np.ndarray:
    """Peaks of a file's own sound from its first picture on: from the cache, or made and kept there."""
    known = footage.facts(path)
    try:
        state = Path(path).stat()
    except OSError:
        raise MissingFile(f"{Path(path).name} is not there: nothing can be heard of it.") from None
    name = hashlib.sha256(f"{path}|{state.st_size}|{state.st_mtime_ns}|{RATE}".encode()).hexdigest()[:32]
    kept = xdg.caches() / "waves" / f"{name}.npy"
    try:
        return np.asarray(np.load(io.BytesIO(kept.read_bytes()), allow_pickle=False), np.float32)
    except (OSError, ValueError, EOFError):
        pass
    total = max(round(known.info.seconds), 1)

    values = of_blocks(_report_progress(mixing.own(path), total, report))
    try:
        kept.parent.mkdir(parents=True, exist_ok=True)
        _trim(kept.parent)
        data = io.BytesIO()
        np.save(data, values.astype(np.float16))
        files.write_whole(data.getvalue(), kept)
    except OSError:
        pass  # a cache that cannot be written is none
    return values


def _trim(folder: Path) -> None:
    """Let the oldest go where there is too much."""
    every = sorted((path.stat().st_mtime, path.stat().st_size, path) for path in folder.glob("*.npy"))
    over = sum(size for _, size, _ in every) - KEPT
    for _, size, path in every:
        if over <= 0:
            break
        path.unlink(missing_ok=True)
        over -= size


def of_row(shot: Shot, seconds: float, name: str, report: Report) -> tuple[np.ndarray, np.ndarray]:
    """Peaks of one sound of a shot, or of all together, and the seconds at which the limiter was at work."""
    long = min(seconds, MOST)
    mixer = mixing.mixer(shot if name == MIX else replace(shot, sound=replace(shot.sound, limit=False)), long)
    try:
        peaks = of_blocks(
            _report_progress(mixer.blocks() if name == MIX else mixer.stem(name), max(round(long), 1), report)
        )
    finally:
        mixer.close()
    at = [number * mixing.BLOCK / mixing.RATE for number, least in mixer.reduced.items() if least < 0.999]
    return peaks, np.array(sorted(at))


def _report_progress(blocks: Iterable[np.ndarray], total: int, report: Report) -> Iterator[np.ndarray]:
    """Blocks as they come; how many seconds of ``total`` there were is reported once each second of sound."""
    done = 0
    for block in blocks:
        yield block
        before, done = done // mixing.RATE, done + len(block)
        if done // mixing.RATE > before:
            report(min(done // mixing.RATE, total), total)


def of_shot(shot: Shot, seconds: float, report: Report) -> np.ndarray:
    """Peaks of all that is heard of a shot; none where its sound cannot be made."""
    try:
        if mixing.is_mixed(shot):
            return of_row(mixing.without_missing_sounds(shot), seconds, MIX, report)[0]
        values = of_footage(shot.footage.media.path, report)
    except TremorError:
        return np.zeros(0, np.float32)
    return values[round(shot.start * RATE) : round((shot.start + seconds) * RATE)]


def columns(peaks: np.ndarray, first: float, last: float, count: int) -> np.ndarray:
    """The largest in each of ``count`` columns between two times: (count,) float64."""
    edges = np.linspace(first * RATE, last * RATE, count + 1)
    low = np.clip(np.floor(edges[:-1]).astype(int), 0, len(peaks))
    high = np.clip(np.maximum(np.ceil(edges[1:]).astype(int), low + 1), 0, len(peaks))
    out = np.zeros(count)
    there = (low < high) & (edges[1:] > 0)
    if there.any():
        padded = np.append(peaks, np.float32(0))
        pairs = np.column_stack([low[there], high[there]]).ravel()
        out[there] = np.maximum.reduceat(padded, np.minimum(pairs, len(peaks)))[::2]
    return out
