"""Takes: from a measured path or a file, to a strand, and the library of them across projects."""

from __future__ import annotations

import re
from collections.abc import Iterable
from contextlib import suppress
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from msgspec.structs import replace

from young_tremor.base import files, motion_csv
from young_tremor.base.errors import RequestError, TremorError, UnreadableValue
from young_tremor.base.frames import SourceInfo
from young_tremor.base.units import duration_text, format_rate, nearest_rate, parse_rate
from young_tremor.document import codec, store
from young_tremor.engine.library import preset_library
from young_tremor.exchange import usd_camera
from young_tremor.measure import drift_fit
from young_tremor.measure.camera_path import ClipPath as Measured
from young_tremor.model.curve import Curve
from young_tremor.model.project import Preset, new_id
from young_tremor.model.shake import CHANNELS, Drift, Shake, Taken
from young_tremor.model.take import Beyond, Gains, Take, pack_rows
from young_tremor.motion.take import DOUBTFUL, channels, slow_path, stretches

MOST_TABLE = 128 << 20  # bytes of a table of motion
DISTANCE = 5.0  # of what a camera in a scene films, in its units, where nobody says it


def of_path(found: Measured, info: SourceInfo, name: str, focal_mm: float | None = None) -> Take:
    """A measured path as a take."""
    x, y, roll, scale = found.values.T
    nothing = np.zeros(len(x))
    table = np.column_stack([found.t, x, y, roll, scale, nothing, nothing, found.confidence])
    width = round(info.size[0] * float(info.pixel_aspect))
    return Take(new_id(), name, width, info.size[1], pack_rows(table), str(info.rate), info.name, focal_mm)


def describe_path(found: Measured, name: str) -> str:
    """What is to be known of a measured path, in a sentence or two."""
    out = [f"measured within {_pixels(found.usual_error)} px"]
    if len(found.layers) > 1:
        plain = "it is not plain which is the scene" if found.close else "the one that reaches round the rim was taken"
        out.append(f"two things move in it, {plain}")
    doubtful = found.doubtful
    if doubtful.any():
        first, count = float(found.t[np.argmax(doubtful)]), int(doubtful.sum())
        share = 100 * float(doubtful.mean())
        what = f"{share:.0f} % of the frames were" if share >= 1 else _frames(count)
        out.append(f"{what} doubtful and bridged, first at {first:.2f} s")
    out += _fault_words(found)
    if found.cut is not None:
        out.append(f"another shot begins after {duration_text(float(found.t[-1]))}: the take ends there")
    if found.still:
        out.append("nothing moves in it: film it with the camera in the hand")
    return f"{name}: {'; '.join(out)}."


def facts_of_path(found: Measured, take: Take) -> dict[str, object]:
    """All that is known of a measured path, as JSON has it: its frames, how far each may be off, what was assumed."""
    faults = found.faults
    names = ("time_s", "x_px", "y_px", "roll_deg", "scale", "error_px")
    rows = np.column_stack([found.t, found.values, found.error]).round(6).tolist()
    return {
        "take": take.name,
        "size": [take.width, take.height],
        "fps": take.fps,
        "error_px": round(found.usual_error, 4),
        "assumed": list(found.assumed),
        "rolling_shutter_ms": round(1000 * faults.readout, 2),
        "frames_shown_twice": faults.doubled,
        "frames_left_out_after": list(faults.missing),
        "interlaced": faults.interlaced,
        "times_made_anew": faults.retimed,
        "another_shot_at_frame": found.cut,
        "moving_things": len(found.layers),
        "plain_which_is_the_scene": not found.close,
        "key_pictures": found.keys,
        "frames": [
            dict(zip(names, row, strict=True)) | {"doubtful": bool(doubtful)}
            for row, doubtful in zip(rows, found.doubtful, strict=True)
        ],
    }


def error_rows(table: np.ndarray) -> np.ndarray:
    """By how many pixels each row of a take may be off, as its confidence says: (n,)."""
    return np.sqrt(1 / np.clip(table[:, 7], 1e-6, 1.0) - 1)


def gap_words(take: Take) -> str:
    """Which stretches of a take were bridged, in a sentence; empty if none was."""
    values = stretches(take)
    if not len(values):
        return ""
    lost, first = float((values[:, 1] - values[:, 0]).sum()), float(values[0, 0])
    where = f"at {first:.2f} s" if len(values) == 1 else f"at {len(values)} places, first at {first:.2f} s"
    return f"“{take.name}” has gaps of {lost:.1f} s {where}: the motion there is bridged."


def _fault_words(found: Measured) -> list[str]:
    """What was wrong with the clip, and what was done about it."""
    faults, out = found.faults, []
    if faults.interlaced:
        out.append("it is interlaced: the first field of each frame was measured")
    if faults.retimed:
        out.append("its times run backwards: its frames were taken at an even rate")
    if faults.conformed:
        out.append(f"{faults.doubled} frames show the one before again, as when another rate is fitted: timed anew")
    elif faults.doubled:
        out.append(f"{_frames(faults.doubled)} shown twice: the motion between was filled in")
    if faults.missing:
        first = float(found.t[faults.missing[0]])
        out.append(f"{_frames(len(faults.missing))} left out, first after {first:.2f} s: a frame's time was put in")
    if faults.readout:
        out.append(f"rolling shutter of about {1000 * abs(faults.readout):.0f} ms: what it skewed was set right")
    return out


def _frames(count: int) -> str:
    return "a frame was" if count == 1 else f"{count} frames were"


def _pixels(value: float) -> str:
    return f"{value:.2f}" if value >= 0.01 else "0.01"


def read(path: Path, *, distance: float = DISTANCE) -> Take:
    """A take from a CSV file, or from the camera of a USD file whose travel is that of a plane at ``distance``;
    TremorError with file, line and reason if it cannot be used."""
    if path.suffix.lower() in usd_camera.ENDINGS:
        return _of_camera(path, distance)
    try:
        text = files.read_regular(path, MOST_TABLE, "a table of motion").decode("utf-8")
    except UnicodeDecodeError as error:
        raise RequestError(f"{path.name} is not a text file: choose a CSV of motion.") from error
    motion = motion_csv.read(text, path.name)
    count = len(motion.columns["time_s"])
    names = ("time_s", "x_px", "y_px", "roll_deg", "scale", "pan_deg", "tilt_deg", "confidence")
    missing = {"confidence": np.ones(count)}
    columns = [motion.columns.get(name, missing.get(name, np.zeros(count))) for name in names]
    width, height = motion.size
    return Take(
        new_id(),
        path.stem,
        width,
        height,
        pack_rows(np.column_stack(columns)),
        motion.fps or "24",
        motion.source or path.name,
        motion.focal_mm,
    )


def _of_camera(path: Path, distance: float) -> Take:
    if not 0 < distance < 1e6:
        raise UnreadableValue(f"A distance of {distance:g} cannot be used: give more than 0.")
    files.read_regular(path, MOST_TABLE, "a camera")
    motion = usd_camera.read(path, distance=distance)
    x, y, roll, scale, pan, tilt = motion.motion.T
    height = 1080
    rows = [motion.seconds, x * height / 100, y * height / 100, roll, scale, pan, tilt, np.ones(len(x))]
    rate = str(nearest_rate(motion.fps))
    return Take(
        new_id(),
        path.stem,
        round(height * motion.aspect),
        height,
        pack_rows(np.column_stack(rows)),
        rate,
        path.name,
        round(motion.focal_mm, 3),
    )


def text_of(take: Take) -> str:
    """A take as the text of a CSV file."""
    t, x, y, roll, scale, pan, tilt, confidence = take.table().T
    columns = {
        "frame": np.arange(len(t), dtype=np.float64),
        "time_s": t,
        "x_px": x,
        "y_px": y,
        "roll_deg": roll,
        "scale": scale,
    }
    if pan.any() or tilt.any():
        columns |= {"pan_deg": pan, "tilt_deg": tilt}
    columns["confidence"] = confidence
    motion = motion_csv.MotionTable((take.width, take.height), columns, take.fps, take.focal_mm, take.source)
    return motion_csv.text_of(motion)


def learn_endless(strand: Taken) -> Taken:
    """The strand with its endless drift learned anew, from the part and in the form it uses."""
    endless = drift_fit.endless(
        strand.take, by_angle=strand.by_angle, cutoff=strand.cutoff, start=strand.start, end=strand.end
    )
    return replace(strand, endless=endless)


def relearn_changes(strand: Taken, **changes: Any) -> dict[str, Any]:
    """Changes of a strand, with the endless drift that belongs to it then."""
    return {**changes, "endless": learn_endless(replace(strand, **changes)).endless}


def strand_of(take: Take, *, by_angle: bool | None = None) -> Taken:
    """A strand that moves a shot as the take's hand would; by angle where the take's focal length is known."""
    angle = bool(take.focal_mm) if by_angle is None else by_angle and bool(take.focal_mm)
    return learn_endless(Taken(new_id(), take=take, name=take.name, note="take", by_angle=angle))


ALL_OF_IT = Gains()
SHAKE_ONLY = 2.0  # seconds: what is slower is left out of a take where only its shake is wanted


@dataclass(frozen=True)
class TakeUse:
    """How a take is used: ``mirrored`` left for right, with ``gains`` on its channels, its shake only or the whole
    move, and what comes ``after`` it where the shot is longer (a drift of the same kind if None)."""

    mirrored: bool = False
    gains: Gains = ALL_OF_IT
    shake_only: bool = False
    after: Beyond | None = None


def gains_of(texts: Iterable[str]) -> Gains:
    """Gains in words: "0.5" for all channels, "roll 0.5" or "x 50 %" for one. UnreadableValue for anything else."""
    gains = Gains()
    for text in texts:
        match = re.fullmatch(r"\s*(?:(x|y|roll|zoom)\s*[ =])?\s*(-?\d+(?:[.,]\d+)?|-?\.\d+)\s*(%?)\s*", text.casefold())
        if match is None:
            raise UnreadableValue(f"“{text[:40]}” is no gain: write it like 0.5, or roll 0.5 for one channel.")
        value = float(match[2].replace(",", ".")) / (100 if match[3] else 1)
        names = (match[1],) if match[1] else ("x", "y", "roll", "zoom")
        gains = replace(gains, **dict.fromkeys(names, value))
    return gains


def preset_of(take: Take, focal_mm: float | None, use: TakeUse = TakeUse()) -> Preset:
    """A take as a preset: by angle if a focal length is given beside the take's own."""
    strand = strand_of(take, by_angle=focal_mm is not None)
    strand = replace(
        strand, mirrored=use.mirrored, gains=use.gains, beyond=strand.beyond if use.after is None else use.after
    )
    if use.shake_only:
        strand = learn_endless(replace(strand, cutoff=SHAKE_ONLY))
    return Preset(take.name, "own", "", Shake((strand,)), focal_mm or take.focal_mm or 50.0)


def channels_of(strand: Drift, take: Take) -> tuple[np.ndarray, float]:
    """A take at even times in the channels that a drift uses (lens turns or shifts): (n, 6), and how many a second."""
    t = take.table()[:, 0]
    rate = (len(t) - 1) / max(float(t[-1] - t[0]), 1e-6)
    even = np.linspace(t[0], t[-1], len(t))
    values = channels(take, by_angle=_by_angle(strand, take))
    return np.column_stack([np.interp(even, t, column) for column in values.T]), rate


def match_changes(strand: Drift, take: Take) -> dict[str, Any]:
    """Changes that bring a drift nearest to a take: amount 1, the take's reach in each channel, rate, roughness."""
    match = drift_fit.match(take, by_angle=_by_angle(strand, take))
    reach = {name: round(float(value), 4) for name, value in zip(CHANNELS, match.reach, strict=True)}
    made = {name: replace(strand.channels[name], reach=reach[name]) for name in CHANNELS}
    return {
        "amount": Curve(1.0),
        "rate": Curve(round(match.rate, 3)),
        "roughness": round(match.roughness, 3),
        "channels": replace(strand.channels, **made),
        "regularity": 0.0,
    }


def _by_angle(strand: Drift, take: Take) -> bool:
    return bool(take.focal_mm) and (strand.channels["pan"].reach > 0 or strand.channels["tilt"].reach > 0)


@lru_cache(maxsize=64)
def paths(take: Take, cutoff: float, most: int = 600) -> tuple[np.ndarray, np.ndarray]:
    """The way of the frame's centre in the take's pixels, (n, 2), and the slow part of it (empty without a cut-off)."""
    table = take.table()
    t = np.linspace(table[0, 0], table[-1, 0], min(len(table), most))
    whole = np.column_stack([np.interp(t, table[:, 0], table[:, k]) for k in (1, 2)])
    if table[:, 5:7].any():  # where turns of the camera move it
        pan, tilt = (np.radians(np.interp(t, table[:, 0], table[:, k])) for k in (5, 6))
        far = (take.focal_mm or 50.0) / 36 * max(take.width, take.height)
        whole += far * np.column_stack([np.tan(pan), np.tan(tilt) / np.cos(pan)])
    return whole, slow_path(t, whole, cutoff) if cutoff > 0 else np.zeros((0, 2))


def rate_words(take: Take) -> str:
    """The clip's rate as people write it."""
    try:
        return format_rate(parse_rate(take.fps))
    except TremorError:
        return take.fps


def write(take: Take, path: Path) -> Path:
    """Write a take as CSV; a file that is there is replaced. The path."""
    files.write_whole(text_of(take).encode(), path)
    return path


def doubtful_rows(table: np.ndarray) -> np.ndarray:
    """Which rows of a take (n, 8) were bridged: (n,) bool."""
    return np.asarray(table[:, 7] <= DOUBTFUL)


def errors(table: np.ndarray) -> np.ndarray:
    """How far the places of a take's rows (n, 8) may be off, in its pixels: (n,), from their confidence."""
    return np.asarray(np.sqrt(1 / np.clip(table[:, 7], 1e-6, 1.0) - 1))


def folder() -> Path:
    """Where takes are kept for all projects."""
    return preset_library.data_folder() / "takes"


def library_takes() -> tuple[tuple[Take, ...], tuple[str, ...]]:
    """The takes of the library by name, and a sentence for every file that could not be read."""
    takes: list[Take] = []
    bad: list[str] = []
    for path in sorted(folder().glob("*.json")):
        try:
            takes.append(_take_of(path))
        except TremorError as error:
            bad.append(str(error))
    return tuple(sorted(takes, key=lambda take: take.name.casefold())), tuple(bad)


def keep(take: Take) -> Path:
    """Put a take into the library, or write it anew: it is told by its id, so that others of its name stay."""
    with files.lock(folder() / "takes"):
        path = _file_of(take.id)
        if path is None:
            path, number = folder() / files.file_name(take.name, ".json"), 2
            while path.exists():
                path, number = folder() / files.file_name(f"{take.name} {number}", ".json"), number + 1
        return files.keep(codec.encode_take(take), path)


def forget(take_id: str) -> None:
    """Take a take out of the library."""
    path = _file_of(take_id)
    if path is not None:
        path.unlink(missing_ok=True)


def _take_of(path: Path) -> Take:
    return codec.decode_take(files.read_regular(path, store.MOST_PRESETS, "a take"), path.name)


def _file_of(take_id: str) -> Path | None:
    """The library's file that holds the take of that id."""
    for path in sorted(folder().glob("*.json")):
        with suppress(TremorError):
            if _take_of(path).id == take_id:
                return path
    return None
