"""A measured clip and the gyroscope's log that was recorded with it."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from young_tremor.base.errors import RequestError
from young_tremor.engine.library.gyro_logs import is_log, log_text
from young_tremor.exchange import gyro_log
from young_tremor.measure import gyro_fusion
from young_tremor.measure.camera_path import ClipPath as Measured
from young_tremor.measure.gyro_fusion import Fusion, UnrelatedLog

ONE_WAY = 0.02  # more of the motion that another way of holding has to explain


def log_beside(clip: Path) -> Path | None:
    """The log of a clip's own name beside it; None if there is none."""
    for ending in (".csv", ".CSV", ".txt"):
        path = clip.with_suffix(ending)
        if path.is_file() and is_log(path):
            return path
    return None


def fuse_log(path: Measured, clip: str, log: Path, *, hold: str | None = None) -> Fusion:
    """A measured path with what a log knows; ``hold``: how the telephone was held, tried out if None.

    RequestError where the log is not of this clip, TremorError where it cannot be read.
    """
    read, _, _ = gyro_log.read_and_turn(log_text(log), log.name, fps=1.0, whole=True)
    best: Fusion | None = None
    reason: UnrelatedLog | None = None
    for way in (hold,) if hold else tuple(gyro_log.HELD):
        tilt, pan, roll = (read.rates @ gyro_log.axes_matrix(gyro_log.HELD[way]).T).T
        try:
            fusion = gyro_fusion.fuse(path, read.seconds, np.column_stack([pan, tilt, roll]))
        except UnrelatedLog as error:
            reason = reason or error
            continue
        if best is None or fusion.explained > best.explained + ONE_WAY:
            best = fusion
    if best is None:
        raise RequestError(f"{clip} and {log.name}: the clip {reason}.")
    return best


def describe_fusion(fusion: Fusion, before: Measured, log: str) -> str:
    """What a log has brought, in a sentence."""
    share, begins = 100 * fusion.explained, fusion.begins
    out = [f"{log} holds {share:.0f} % of the clip's motion, from {begins:.2f} s of it on"]
    sure = ~before.doubtful
    now, earlier = (float((path.error[sure] ** 2).mean() ** 0.5) for path in (fusion.path, before))
    out.append(
        f"within {now:.3f} px instead of {earlier:.3f}" if now < 0.95 * earlier else "the picture is as sure alone"
    )
    if fusion.filled:
        out.append("a lost frame is known now" if fusion.filled == 1 else f"{fusion.filled} lost frames are known now")
    return "; ".join(out) + "."


def facts_of_fusion(fusion: Fusion, log: str) -> dict[str, object]:
    """What a log has brought, as JSON has it."""
    return {
        "gyro_log": log,
        "clip_begins_in_log_s": round(fusion.begins, 4),
        "told_by_log": round(fusion.explained, 4),
        "focal_px": round(fusion.focal, 1),
        "frames_known_from_log": fusion.filled,
    }
