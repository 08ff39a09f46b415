"""Hits found in a shot's sound or picture: proposals, until a person keeps them."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.errors import RequestError
from young_tremor.engine.media import footage
from young_tremor.model.project import Shot, new_id
from young_tremor.model.shake import Hit
from young_tremor.render.resolve_plan import resolve
from young_tremor.render.screen import reduce
from young_tremor.sound import onsets
from young_tremor.sound.onsets import Onsets

__all__ = ["Onsets", "hits_of", "in_picture", "in_sound"]

Report = Callable[[int, int], None]
SMALL = (160, 90)
BLOCKS = (32, 18)
MOST_MOVED = 0.05  # share of the picture that may be all that moves


def in_sound(shot: Shot, report: Report) -> Onsets:
    """Sudden loudness in the sound of a shot; RequestError if it has none. For any thread."""
    if shot.footage.media.drawn:
        raise RequestError(f"“{shot.name}” has no sound: set hits by hand, with H.")
    info = footage.facts(shot.footage.media.path).info
    if not info.audio:
        raise RequestError(f"{info.name} has no sound: look for hits in the picture instead.")
    seconds = resolve(shot, footage.infos(shot), shaken=False).seconds
    total = max(1, round(seconds * onsets.RATE))

    def blocks() -> Iterator[np.ndarray]:
        done = 0
        for block in footage.sound_blocks(shot, 0.0):
            yield block[: total - done]
            done += len(block)
            report(min(done, total), total)
            if done >= total:
                return

    return onsets.find(blocks())


def in_picture(shot: Shot, report: Report) -> Onsets:
    """Sudden change of light or motion in the picture of a shot. For any thread."""
    if shot.footage.media.drawn:
        raise RequestError(f"Nothing changes in “{shot.name}” by itself: set hits by hand, with H.")
    path = shot.footage.media.path
    plan = resolve(shot, footage.infos(shot), shaken=False)
    source = footage.open_source(path)
    change = np.zeros(plan.frames)
    try:
        before: np.ndarray | None = None
        for index in range(plan.frames):
            frame = reduce(source.read(plan.base.source_index(index)), SMALL)
            luma = colour.luma8(frame).astype(np.float32)
            blocks = cv2.resize(luma, BLOCKS, interpolation=cv2.INTER_AREA)
            if before is not None:
                change[index] = _change(before, blocks)
            before = blocks
            report(index + 1, plan.frames)
    finally:
        source.close()
    return onsets.find_in_changes(change, float(1 / plan.rate))


def _change(before: np.ndarray, after: np.ndarray) -> float:
    """How much a picture of blocks differs from the one before: where it differs most, over what is usual in it (grain
    and the codec change all of it), and in its light as a whole."""
    apart = np.sort(np.abs(after - before), axis=None)
    most = apart[-max(1, round(MOST_MOVED * apart.size)) :]
    return float(most.mean() - np.median(apart)) + abs(float(after.mean() - before.mean()))


def hits_of(found: Onsets, threshold: float) -> tuple[Hit, ...]:
    """Hits at the peaks that reach a threshold, stronger where the peak is higher; the middle one has strength 1."""
    which = found.above(threshold)
    if not which.size:
        return ()
    heights = found.heights[which]
    strengths = np.clip((heights / np.median(heights)) ** 0.7, 0.4, 2.0)
    return tuple(
        Hit(new_id(), float(t), round(float(s), 2)) for t, s in zip(found.times[which], strengths, strict=True)
    )
