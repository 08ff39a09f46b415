"""Timelines of others as a list of cuts, and back: OpenTimelineIO and EDL (CMX 3600), by the reference library."""

from __future__ import annotations

import json
import math
import zipfile
from collections import deque
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlparse

from young_tremor.base.errors import BrokenDocument, RequestError, TremorError
from young_tremor.base.units import nearest_rate

MOST_CLIPS = 2000
MOST_NESTED = 10_000
LONG = 86400.0  # seconds past which a timecode is no length
MOST_LONG = 1e6  # seconds of a clip, and until it begins


@dataclass(frozen=True)
class Cut:
    """A clip of the cut: its name, file as it is named there, where in that it begins and how long it is (seconds), how
    many frames a second, and markers in seconds from its beginning with a name."""

    name: str
    path: str
    start: float
    seconds: float
    rate: Fraction
    markers: tuple[tuple[float, str], ...] = ()


@dataclass
class Timeline:
    """Cuts in order, the rate of the timeline, and what of it is not kept, in sentences without a full stop."""

    name: str
    rate: Fraction
    cuts: list[Cut] = field(default_factory=list)
    lost: list[str] = field(default_factory=list)


def _library() -> Any:
    try:
        import opentimelineio  # noqa: PLC0415  # optional
    except ImportError:
        raise RequestError(
            "Timelines need the OpenTimelineIO library: install young-tremor[timelines], then try again."
        ) from None
    return opentimelineio


def there() -> None:
    """RequestError where the library of timelines is absent."""
    _library()


def read(path: Path, *, fps: Fraction | None = None) -> Timeline:
    """A timeline's topmost pictures as cuts. ``fps``: of an EDL, which does not say it (24 if left out)."""
    otio = _library()
    try:
        if path.suffix.lower() == ".edl":
            found = otio.adapters.read_from_file(str(path), adapter_name="cmx_3600", rate=float(fps or 24))
        else:
            _check_whole(path)
            found = otio.adapters.read_from_file(str(path), **_unpacked(path))
    except Exception as error:
        line = " ".join(str(error).split())[:160]
        raise BrokenDocument(f"{path.name} cannot be read as a timeline ({line}).") from error
    if isinstance(found, otio.schema.SerializableCollection):
        found = next((each for each in found if isinstance(each, otio.schema.Timeline)), None)
    if not isinstance(found, otio.schema.Timeline):
        raise BrokenDocument(f"{path.name} holds no timeline.")
    try:
        return _cuts(otio, found, path, fps)
    except TremorError:
        raise
    except Exception as error:  # whatever the library makes of numbers that no timeline has
        line = " ".join(str(error).split())[:160]
        raise BrokenDocument(f"{path.name} holds what no timeline does ({line}).") from error


def media_folder(path: Path) -> Path:
    """Where the films of a bundle are laid out: beside it."""
    return path.with_name(f"{path.stem} media")


def _check_whole(path: Path) -> None:
    """Refuse what is no JSON from end to end: the library ends the process at some of it."""
    if path.suffix.lower() == ".otioz":
        with zipfile.ZipFile(path) as packed:
            json.loads(packed.read("content.otio"))
    else:
        json.loads(path.read_bytes())


def _unpacked(path: Path) -> dict[str, str]:
    if path.suffix.lower() != ".otioz" or media_folder(path).exists():
        return {}
    return {"extract_to_directory": str(media_folder(path))}


def _cuts(otio: Any, found: Any, path: Path, fps: Fraction | None) -> Timeline:
    tracks = [track for track in found.video_tracks() if track.enabled] or list(found.video_tracks())
    made = Timeline(found.name or path.stem, fps or Fraction(24))
    if not tracks:
        raise BrokenDocument(f"{path.name} has no pictures: there is nothing to shake.")
    track = tracks[0]
    if len(tracks) > 1:
        made.lost.append(f"{len(tracks)} tracks were flattened, the topmost picture staying")
        track = otio.algorithms.flatten_stack(tracks)
    rates = [clip.source_range.duration.rate for clip in track.find_clips() if clip.source_range is not None]
    if rates and fps is None:
        made.rate = nearest_rate(float(rates[0]))
    gaps = moves = speeds = nested = 0
    waiting = deque(track)
    while waiting:
        item = waiting.popleft()
        if isinstance(item, otio.schema.Transition):
            moves += 1
        elif isinstance(item, otio.schema.Gap):
            gaps += item.duration().value > 0
        elif isinstance(item, otio.schema.Clip):
            speeds += any(isinstance(each, otio.schema.TimeEffect) for each in item.effects)
            _add(otio, made, item, path)
        else:
            nested += 1
            if nested > MOST_NESTED:
                raise BrokenDocument(f"{path.name} has more sequences in sequences than can be worked with.")
            waiting.extendleft(reversed(list(_inside(otio, item))))
        if len(made.cuts) > 100_000:
            raise BrokenDocument(f"{path.name} has more clips than can be worked with.")
    for count, words in (
        (gaps, "gaps are left out: what follows moves up"), (moves, "transitions become cuts"),
        (speeds, "changes of speed are not kept"), (nested, "nested sequences were laid open"),
    ):  # fmt: skip
        if count:
            made.lost.append(f"{count} {words}")
    return made


def _inside(otio: Any, item: Any) -> Any:
    """What a nested sequence shows within its trim, as one track."""
    track = otio.algorithms.flatten_stack(item) if isinstance(item, otio.schema.Stack) else item
    if item.source_range is not None:
        track = otio.algorithms.track_trimmed_to_range(track, item.source_range)
    return [each.deepcopy() for each in track]


def _add(otio: Any, made: Timeline, clip: Any, path: Path) -> None:
    span = clip.trimmed_range()
    rate = nearest_rate(float(span.duration.rate)) if span.duration.rate else made.rate
    first = 0.0
    reference = clip.media_reference
    available = getattr(reference, "available_range", None)
    if available is not None:
        first = available.start_time.to_seconds()
    start = span.start_time.to_seconds() - first
    if available is None and start > LONG / 24 / 6 and path.suffix.lower() == ".edl":
        start = span.start_time.to_seconds()  # a timecode of the source: told from its own when that is known
    name = getattr(reference, "target_url", "") or ""
    if isinstance(reference, otio.schema.ImageSequenceReference):
        base = reference.target_url_base.rstrip("/")
        name = f"{base}/{reference.name_prefix}{'#' * reference.frame_zero_padding}{reference.name_suffix}"
    markers = tuple(
        (m.marked_range.start_time.to_seconds() - span.start_time.to_seconds(), m.name) for m in clip.markers
    )
    long = span.duration.to_seconds()
    if long == 0:
        return  # nothing of it is seen
    if not (math.isfinite(start) and 0 < long < MOST_LONG and start < MOST_LONG):
        raise BrokenDocument(f"{path.name}: “{clip.name}” is {long:g} s long from {start:g} s on, which cannot be.")
    made.cuts.append(
        Cut(clip.name or Path(name).stem or "clip", _path(name, path), max(start, 0.0), long, rate,
            tuple(each for each in markers if 0 <= each[0] <= long))
    )  # fmt: skip


def _path(url: str, timeline: Path) -> str:
    """A file as a path: addresses of files and paths beside the timeline become absolute."""
    if not url:
        return ""
    parts = urlparse(url)
    name = unquote(parts.path) if parts.scheme in ("file", "") else url
    if not name or "://" in name:
        return name
    found = Path(name)
    return str(found if found.is_absolute() else (timeline.parent / found).absolute())


@dataclass(frozen=True)
class Delivered:
    """A clip of the timeline that is written: its name, file, where in that the cut begins and how long it is, how long
    the file is, and its markers."""

    name: str
    path: Path
    start: float
    seconds: float
    whole: float
    markers: tuple[tuple[float, str], ...] = ()


def text_of(name: str, clips: tuple[Delivered, ...], rate: Fraction, ending: str) -> str:
    """A timeline of delivered files: ``.otio`` or ``.edl``."""
    otio = _library()
    track = otio.schema.Track(name="V1", kind=otio.schema.TrackKind.Video)
    fps = float(rate)

    def at(seconds: float) -> Any:
        return otio.opentime.RationalTime(round(seconds * fps), fps)

    for clip in clips:
        reference = otio.schema.ExternalReference(
            target_url=clip.path.absolute().as_uri(), available_range=otio.opentime.TimeRange(at(0), at(clip.whole))
        )
        made = otio.schema.Clip(
            name=clip.name, media_reference=reference,
            source_range=otio.opentime.TimeRange(at(clip.start), at(clip.seconds)),
        )  # fmt: skip
        for t, words in clip.markers:
            made.markers.append(
                otio.schema.Marker(name=words, marked_range=otio.opentime.TimeRange(at(clip.start + t), at(0)))
            )
        track.append(made)
    timeline = otio.schema.Timeline(name=name)
    timeline.tracks.append(track)
    if ending == ".edl":
        return str(otio.adapters.write_to_string(timeline, adapter_name="cmx_3600", rate=fps))
    return str(otio.adapters.write_to_string(timeline, adapter_name="otio_json"))
