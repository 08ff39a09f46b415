"""Timelines of others as a list of cuts, and back: OpenTimelineIO and EDL (CMX 3600).

Reading happens in a process of its own, by the reference library. Writing an EDL is in :mod:`.edl`.
"""

from __future__ import annotations

import json
import math
import os
import zipfile
from collections import Counter, deque
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path, PurePosixPath
from typing import Any
from urllib.parse import unquote, urlsplit

from young_tremor.base import sandbox
from young_tremor.base.errors import BrokenDocument, TremorError
from young_tremor.base.files import read_regular
from young_tremor.base.units import drops, nearest_rate

MOST_CLIPS = 2000
MOST_READ = 100_000  # clips
MOST_NESTED = 10_000
MOST_LONG = 1e6  # seconds of a clip, and until it begins
MOST_NAME = 4000  # bytes of a path
MOST_BYTES = 256 << 20  # of a timeline's text
MOST_MEMBERS = 20_000  # files of a bundle
MOST_DEPTH = 200  # values in values
LEAST_RATE, MOST_RATE = 0.01, 100_000.0
CONTENT = "content.otio"  # the timeline of a bundle
LIMITS = sandbox.Limits(seconds=20.0, memory=2 << 30)


@dataclass(frozen=True)
class Cut:
    """A clip of the cut: its name, file as it is named there, where in that it begins and how long it is (seconds), how
    many frames a second, and markers in seconds from its beginning with a name. ``by_timecode``: it may begin at the
    timecode of its file, not at seconds from the file's start."""

    name: str
    path: str
    start: float
    seconds: float
    rate: Fraction
    markers: tuple[tuple[float, str], ...] = ()
    by_timecode: bool = False


@dataclass
class Timeline:
    """Cuts in order, the rate of the timeline, and what of it is not kept, in sentences without a full stop."""

    name: str
    rate: Fraction
    cuts: list[Cut] = field(default_factory=list)
    lost: list[str] = field(default_factory=list)
    addresses: int = 0  # media that are named by an address on a network


@dataclass(frozen=True)
class Member:
    """A media file in a bundle: its name there, the path under which it is laid out, and its size in bytes."""

    name: str
    path: Path
    size: int


Composable = Any  # an object of the timeline's library, which says no types


def _library() -> Any:
    import opentimelineio  # noqa: PLC0415  # heavy: the window starts without it

    return opentimelineio


def warm_up() -> None:
    """Load what every reading needs, once for all of a server's children."""
    otio = _library()
    otio.plugins.ActiveManifest()
    for adapter in ("otio_json", "cmx_3600"):
        otio.adapters.from_name(adapter).module()


def read(path: Path, *, fps: Fraction | None = None) -> Timeline:
    """A timeline's topmost pictures as cuts. ``fps``: of an EDL, which does not say it (24 if left out). BrokenDocument
    or DecodeError in one sentence where it cannot be read."""
    return sandbox.run(_read, path, fps, name=path.name, what="a timeline", path=path, limits=LIMITS)


def bundled_media(path: Path) -> tuple[Member, ...]:
    """The media in a bundle (``.otioz``), to be laid out beside it; none for other timelines. BrokenDocument for names
    that lead elsewhere."""
    if path.suffix.lower() != ".otioz":
        return ()
    return sandbox.run(_read_bundle, path, name=path.name, what="a bundle", path=path, limits=LIMITS)


def media_folder(path: Path) -> Path:
    """Where the media of a bundle are laid out: beside it."""
    return path.with_name(f"{path.stem} media")


def _read_bundle(path: Path) -> tuple[Member, ...]:
    try:
        with zipfile.ZipFile(path) as bundle:
            entries = [entry for entry in bundle.infolist() if not entry.is_dir()]
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError) as error:
        raise BrokenDocument(f"{path.name} cannot be read as a bundle ({error}).") from error
    if len(entries) > MOST_MEMBERS:
        raise BrokenDocument(f"{path.name} holds {len(entries)} files: at most {MOST_MEMBERS} are allowed.")
    members = []
    for entry in entries:
        name = PurePosixPath(entry.filename)
        if name.parts[:1] != ("media",):
            continue
        if ".." in name.parts or len(name.parts) != 2 or "\\" in entry.filename:
            raise BrokenDocument(f"{path.name} names a file outside of itself ({entry.filename[:80]}).")
        members.append(Member(entry.filename, media_folder(path) / name.name, entry.file_size))
    return tuple(members)


def _read(path: Path, fps: Fraction | None) -> Timeline:
    otio = _library()
    try:
        content = _content(path, fps)
    except TremorError:
        raise
    except Exception as error:
        raise BrokenDocument(f"{path.name} cannot be read as a timeline ({_short(error)}).") from error
    if isinstance(content, otio.schema.SerializableCollection):
        content = next((child for child in content if isinstance(child, otio.schema.Timeline)), None)
    if not isinstance(content, otio.schema.Timeline):
        raise BrokenDocument(f"{path.name} holds no timeline.")
    try:
        return _cuts(content, path, fps)
    except TremorError:
        raise
    except Exception as error:  # whatever the library makes of values that no timeline has
        raise BrokenDocument(f"{path.name} holds times or names that cannot be used: write it anew.") from error


def _content(path: Path, fps: Fraction | None) -> Composable:
    """What the library makes of a file."""
    otio = _library()
    ending = path.suffix.lower()
    if ending == ".edl":
        text = read_regular(path, MOST_BYTES, "an EDL").decode("utf-8", errors="replace")
        return otio.adapters.read_from_string(text, adapter_name="cmx_3600", rate=float(fps or 24))
    if ending == ".otioz":
        with zipfile.ZipFile(path) as bundle, bundle.open(CONTENT) as member:
            data = member.read(MOST_BYTES + 1)
    else:
        data = read_regular(path, MOST_BYTES, "a timeline")
    if len(data) > MOST_BYTES:
        raise BrokenDocument(f"{path.name} is too large a timeline: at most {MOST_BYTES >> 20} MB are allowed.")
    _check_values(json.loads(data), path.name)
    return otio.adapters.read_from_string(data.decode("utf-8"), "otio_json")


def _check_values(value: Any, name: str) -> None:
    """BrokenDocument for what the library ends the process at: deep nesting, whole numbers over 64 bits, no lists of
    children."""
    waiting = deque([(value, 0)])
    while waiting:
        node, depth = waiting.pop()
        if depth > MOST_DEPTH:
            raise BrokenDocument(f"{name} nests deeper than {MOST_DEPTH} levels.")
        if isinstance(node, dict):
            for key, child in node.items():
                if (child is None and key in ("tracks", "children", "media_references")) or not isinstance(key, str):
                    raise BrokenDocument(f"{name} has nothing where its {key} should be.")
                waiting.append((child, depth + 1))
        elif isinstance(node, list):
            waiting.extend((child, depth + 1) for child in node)
        elif isinstance(node, int) and not -(2**63) <= node < 2**63:
            raise BrokenDocument(f"{name} holds a number that is too large ({str(node)[:20]}…).")


def _short(error: Exception) -> str:
    return " ".join(str(error).split())[:120] or type(error).__name__


GAPS, TRANSITIONS, SPEEDS, NESTED, ADDRESSES = LOST = (
    "gaps are left out: what follows moves up",
    "transitions become cuts",
    "changes of speed are not kept",
    "nested sequences were laid open",
    "files are named by an address: download them, then find missing footage",
)


def _cuts(content: Composable, path: Path, fps: Fraction | None) -> Timeline:
    timeline = Timeline((content.name or path.stem)[:200], fps or Fraction(24))
    track = _shown_track(content, timeline, path)
    rates = [clip.source_range.duration.rate for clip in track.find_clips() if clip.source_range is not None]
    rates = [rate for rate in rates if LEAST_RATE <= rate <= MOST_RATE]
    if rates and fps is None:
        timeline.rate = nearest_rate(float(rates[0]))
    lost = _add_all(timeline, track, path)
    lost[ADDRESSES] = timeline.addresses
    timeline.lost += [f"{lost[words]} {words}" for words in LOST if lost[words]]
    return timeline


def _shown_track(content: Composable, timeline: Timeline, path: Path) -> Composable:
    """The one track that shows what all of a timeline's tracks of pictures show together."""
    otio = _library()
    tracks = [child for child in content.tracks if isinstance(child, otio.schema.Track)]
    shown = [track for track in tracks if track.kind == otio.schema.TrackKind.Video]
    # a stack may hold clips and stacks directly: each is a layer of its own
    loose = [child for child in content.tracks if not isinstance(child, otio.schema.Track)]
    shown += [otio.schema.Track(children=[child.deepcopy()]) for child in loose]
    shown = [track for track in shown if track.enabled] or shown
    if not shown:
        raise BrokenDocument(f"{path.name} has no pictures: there is nothing to shake.")
    if len(shown) == 1:
        return shown[0]
    timeline.lost.append(f"{len(shown)} tracks were flattened, the topmost picture staying")
    for clip in (clip for layer in shown for clip in layer.find_clips()):
        _check_range(clip.trimmed_range(), clip.name, path)
    return otio.algorithms.flatten_stack(shown)


def _add_all(timeline: Timeline, track: Composable, path: Path) -> Counter[str]:
    """Add the clips of a track as cuts, nested sequences laid open; how often each thing was met that is lost."""
    otio = _library()
    lost: Counter[str] = Counter()
    waiting = deque(track)
    while waiting:
        item = waiting.popleft()
        if isinstance(item, otio.schema.Transition):
            lost[TRANSITIONS] += 1
        elif isinstance(item, otio.schema.Gap):
            lost[GAPS] += item.duration().value > 0
        elif isinstance(item, otio.schema.Clip):
            lost[SPEEDS] += any(isinstance(effect, otio.schema.TimeEffect) for effect in item.effects)
            _add(timeline, item, path)
        else:
            lost[NESTED] += 1
            if lost[NESTED] > MOST_NESTED:
                raise BrokenDocument(f"{path.name} has more sequences in sequences than can be worked with.")
            waiting.extendleft(reversed(_children(item)))
        if len(timeline.cuts) > MOST_READ:
            raise BrokenDocument(f"{path.name} has more clips than can be worked with.")
    return lost


def _children(item: Composable) -> list[Composable]:
    """What a nested sequence shows within its trim, in order."""
    otio = _library()
    track = otio.algorithms.flatten_stack(item) if isinstance(item, otio.schema.Stack) else item
    if item.source_range is not None:
        track = otio.algorithms.track_trimmed_to_range(track, item.source_range)
    return [child.deepcopy() for child in track]


def _check_range(span: Composable, name: str, path: Path) -> tuple[float, float]:
    """Where a range begins and how long it is, in seconds; BrokenDocument where it cannot be so."""
    start, seconds = _seconds(span.start_time), _seconds(span.duration)
    if not (start is not None and seconds is not None and 0 <= seconds < MOST_LONG and abs(start) < MOST_LONG):
        raise BrokenDocument(f"{path.name}: “{name[:80]}” has a start or a length that no clip has.")
    return start, seconds


def _seconds(time: Composable) -> float | None:
    """A time of the library in seconds; None for one that is no number."""
    if not (math.isfinite(time.value) and math.isfinite(time.rate) and LEAST_RATE <= time.rate <= MOST_RATE):
        return 0.0 if time.value == 0 else None
    return float(time.value / time.rate)


def _add(timeline: Timeline, clip: Composable, path: Path) -> None:
    otio = _library()
    span = clip.trimmed_range()
    start, seconds = _check_range(span, clip.name or "", path)
    if seconds == 0:
        return  # nothing of it is seen
    is_edl = path.suffix.lower() == ".edl"
    reference = clip.media_reference
    available = None if is_edl else getattr(reference, "available_range", None)
    first = (_seconds(available.start_time) or 0.0) if available is not None else 0.0
    rate = nearest_rate(float(span.duration.rate)) if LEAST_RATE <= span.duration.rate <= MOST_RATE else timeline.rate
    name = getattr(reference, "target_url", "") or ""
    if isinstance(reference, otio.schema.ImageSequenceReference):
        base = reference.target_url_base.rstrip("/")
        digits = min(max(reference.frame_zero_padding, 1), 12)
        name = f"{base}/{reference.name_prefix}{'#' * digits}{reference.name_suffix}"
    marks = ((_seconds(mark.marked_range.start_time), mark.name[:200]) for mark in clip.markers)
    markers = tuple((at - start, words) for at, words in marks if at is not None and 0 <= at - start <= seconds)
    media, by_address = _path(name, path)
    timeline.addresses += by_address
    timeline.cuts.append(
        Cut(
            (clip.name or Path(name).stem or "clip")[:200],
            media,
            max(start - first, 0.0),
            seconds,
            rate,
            markers,
            by_timecode=available is None,
        )
    )


def _path(url: str, timeline: Path) -> tuple[str, bool]:
    """A file as a path, and whether it is named by an address on a network: it then is looked for beside the timeline.
    Addresses of files and paths beside the timeline become absolute."""
    if not url or "\0" in url:
        return "", False
    try:
        parts = urlsplit(url)
        name = unquote(parts.path) if parts.scheme in ("file", "") else url
    except ValueError:
        return "", False
    if "\0" in name or any(len(os.fsencode(part)) > 255 for part in name.split("/")) or len(name) > MOST_NAME:
        return "", False
    if "://" in name:
        base = PurePosixPath(unquote(parts.path)).name
        return (str((timeline.parent / base).absolute()) if base not in ("", "..") else ""), True
    if timeline.suffix.lower() == ".otioz" and not os.path.isabs(name):
        name = str(media_folder(timeline) / PurePosixPath(name).name)
    return os.path.normpath(timeline.parent.absolute() / name), False


@dataclass(frozen=True)
class Delivered:
    """A clip of the timeline that is written: its name, film, frames of the film before the cut and in the cut, frames
    of the whole film, rate of the film, number of the film's first frame by its own timecode, whether that is
    drop-frame, reel name if the film says one, and markers in seconds from the cut's beginning."""

    name: str
    path: Path
    before: int
    frames: int
    whole: int
    rate: Fraction
    first: int = 0
    drop: bool = False
    reel: str = ""
    markers: tuple[tuple[float, str], ...] = ()


def is_drop_frame(clips: tuple[Delivered, ...], rate: Fraction) -> bool:
    """Whether the timeline of delivered films counts drop-frame: where each of them does."""
    return bool(clips) and drops(rate) and all(clip.drop for clip in clips)


def otio_text(name: str, clips: tuple[Delivered, ...], *, rate: Fraction, record: int) -> str:
    """An OpenTimelineIO timeline of delivered films that begins at frame ``record``. Ranges count by the films' own
    timecode."""
    otio = _library()
    track = otio.schema.Track(name="V1", kind=otio.schema.TrackKind.Video)
    when, span = otio.opentime.RationalTime, otio.opentime.TimeRange
    for clip in clips:
        fps = float(clip.rate)
        begin = clip.first + clip.before
        made = otio.schema.Clip(
            name=clip.name,
            media_reference=otio.schema.ExternalReference(
                target_url=clip.path.absolute().as_uri(),
                available_range=span(when(clip.first, fps), when(clip.whole, fps)),
            ),
            source_range=span(when(begin, fps), when(clip.frames, fps)),
        )
        for seconds, words in clip.markers:
            mark = span(when(begin + round(seconds * fps), fps), when(0, fps))
            made.markers.append(otio.schema.Marker(name=words, marked_range=mark))
        track.append(made)
    timeline = otio.schema.Timeline(name=name, global_start_time=when(record, float(rate)))
    timeline.tracks.append(track)
    return str(otio.adapters.write_to_string(timeline, adapter_name="otio_json"))
