"""What the large functions of the library are asked for: frozen requests, checked when they are made.

The functions take a request, or its fields by keyword: ``api.shake(path, amount=0.6)`` is
``api.shake(path, ShakeRequest(amount=0.6))``.
"""

from __future__ import annotations

import inspect
from collections.abc import Callable, Iterable
from dataclasses import dataclass, fields, replace
from functools import wraps
from typing import Any, Literal, TypeVar, get_type_hints

from young_tremor.api.arguments import FilePath, Rate, Size, Time
from young_tremor.api.checks import check_fields
from young_tremor.base.errors import RequestError
from young_tremor.model.project import Preset
from young_tremor.model.take import Beyond, Take

Part = Literal["whole", "shake"]
Held = Literal["upright", "left", "right", "upside-down"]
Result = TypeVar("Result")


@dataclass(frozen=True, kw_only=True)
class ShakeRequest:
    """How footage is given a shake: by a ``preset`` (“Standing, breathing” where nothing is said), a measured ``take``,
    or a ``saved`` shake: a file of presets, or a shot of a project ("PROJECT.tremor#SHOT").

    Parameters
    ----------
    move : iterable of str
        Motions in figures, each a strand: "30 px 2 Hz". In place of a preset, or besides the one that is named.
    holder : str
        Who holds the camera, in place of a preset: "2 kg, two hands, walks 4 km/h".
    follow : float
        Go after what moves in the locked-off shot as a hand does, by so many percent of the frame's height at most.
    set : iterable of str
        Settings in words, in their order: "shutter 90", "edges mirror".
    shape : str
        How strong the shake is over time, in the input's time: "0 at 2 s, 1 at 3 s, 0 at 5 s".
    motion_start, motion_end
        From when to when the motion acts, in the input's time.
    mirror, gains, part, after
        How a take is used: left for right; "0.5", or "roll 0.5" for one channel; its whole move or the shake only;
        what follows where the shot is longer.
    amount, pace : float
        Multiply how much and how fast; amount 0 is still.
    seed, course : int
        Another course of the same motion: by a seed, or as the one of so many that differ.
    hits : str
        When blows fall, in the input's time: seconds with a strength if wanted ("1.2,3.5@0.6"), or "sound" or
        "picture": found there. UnreadableValue for one outside of the stretch that is written.
    edges : str
        "crop", "crop-as-needed", "soft", "mirror", "hold", "repeat" or "open".
    shutter : float
        Degrees, 0 to 720.
    focal_mm : float
        For a sensor 36 mm wide; the preset's if left out.
    size, fps
        As delivered; the input's if left out.
    seconds, start, end
        How long (5 s of a still), and from where to where in the input.
    in_space : str
        The colour space of the input, where its file tells none or a wrong one: "rec709", "pq", "hlg", "linear", …
    white, peak : float
        Of graphics and standard range in high range, and the brightest of high range in standard range: cd/m².
    over, on_glass
        Graphics over it that shake along, and some that stand still.
    sound, rumble, knocks, sound_sway
        The sound that belongs to the preset; others by name, with @dB; ± dB by which the footage's own trembles.
    """

    preset: str | Preset | None = None
    take: FilePath | Take | None = None
    saved: FilePath | None = None
    move: Iterable[str] = ()
    holder: str = ""
    follow: float | None = None
    set: Iterable[str] = ()
    shape: str = ""
    motion_start: Time | None = None
    motion_end: Time | None = None
    mirror: bool = False
    gains: Iterable[str] = ()
    part: Part = "whole"
    after: Beyond | None = None
    amount: float = 1.0
    pace: float = 1.0
    seed: int | None = None
    course: int = 0
    hits: str | None = None
    edges: str = "crop"
    shutter: float = 180.0
    focal_mm: float | None = None
    size: Size | None = None
    fps: Rate | None = None
    seconds: Time | None = None
    start: Time | None = None
    end: Time | None = None
    in_space: str = ""
    white: float = 203.0
    peak: float = 1000.0
    over: Iterable[FilePath] = ()
    on_glass: Iterable[FilePath] = ()
    sound: bool = False
    rumble: Iterable[str] = ()
    knocks: Iterable[str] = ()
    sound_sway: float = 0.0

    def __post_init__(self) -> None:
        check_fields(self, "shake")


@dataclass(frozen=True, kw_only=True)
class FilmRequest:
    """What of a project is rendered, and as what: the reel, or one ``shot`` by its name, in another ``size`` and rate
    if wanted, from ``start`` to ``end``, in a ``form``. ``loudness``: what its sound is levelled to, in LUFS.
    ``out_space``: the colour space of the film, if not its first shot's: "rec709", "pq", "hlg", …
    ``light_level``: MaxCLL and MaxFALL of a film in PQ are measured, in a pass before."""

    shot: str | None = None
    form: str = "h264"
    size: Size | None = None
    fps: Rate | None = None
    start: Time | None = None
    end: Time | None = None
    loudness: float | None = None
    out_space: str = ""
    light_level: bool = False
    overwrite: bool = False

    def __post_init__(self) -> None:
        check_fields(self, "render")


@dataclass(frozen=True, kw_only=True)
class DeliverRequest:
    """What is delivered of projects.

    Parameters
    ----------
    shot, each, variants
        One shot by its name, every shot by itself, each variant by itself; the whole reel otherwise.
    pattern : str
        Names by {project}, {shot}, {variant}, {number} and {date}.
    handles : int
        Frames beyond a shot's ends.
    clean : bool
        Each also without shake and crop.
    frames : (int, int)
        Of numbered pictures only those from the first to the last; finished ones stay.
    stems : iterable of str
        Sounds by their names, as WAV beside the film.
    quality, speed : int
        1 small to 5 best; 1 small files to 3 quick.
    everywhere, full_chroma, hardware : bool
        As every player knows it; with the pictures' own chroma (4:4:4 of graphics), which not all players know; by an
        encoder in the graphics hardware, where one works.
    out_space : str
        The colour space of what is delivered, if not the first shot's: "rec709", "pq", "hlg", …
    light_level : bool
        MaxCLL and MaxFALL of films in PQ are measured, in a pass before.
    motion, camera, maps : bool
        The motion as CSV, as a camera in USD (5 m from what it films), the ST maps beside each film.
    loudness : float
        LUFS that the sound is levelled to.
    timeline : path
        Also the cut (``.otio``, ``.edl``) with the films in place; with ``each``.
    timeline_start : str
        The timecode at which that cut begins; 01:00:00:00 if left out.
    cluster : str
        The address of a Dask scheduler (``tcp://HOST:8786``) whose workers render, or ``local``: all cores of this
        machine. The files are the same, byte for byte.
    """

    form: str = "h264"
    shot: str | None = None
    each: bool = False
    variants: bool = False
    pattern: str = ""
    handles: int = 0
    clean: bool = False
    frames: tuple[int, int] | None = None
    stems: Iterable[str] = ()
    quality: int = 3
    speed: int = 2
    everywhere: bool = False
    full_chroma: bool = False
    hardware: bool = False
    out_space: str = ""
    light_level: bool = False
    motion: bool = False
    camera: bool = False
    maps: bool = False
    loudness: float | None = None
    timeline: FilePath | None = None
    timeline_start: str = ""
    overwrite: bool = False
    cluster: str = ""

    def __post_init__(self) -> None:
        check_fields(self, "deliver")


@dataclass(frozen=True, kw_only=True)
class MeasureRequest:
    """Which part of a clip is measured: from ``start`` to ``end``. ``shields``: parts not to look at,
    "x,y,width,height" in pixels. ``other``: of two things that move, take the other one for the scene. ``leave``: what
    is not to be assumed of the clip, but left as it was seen: "rolling" (a rolling shutter), "doubled" (frames shown
    twice), "missing" (frames left out). ``gyro``: the gyroscope's log (CSV) that was recorded with it, by a telephone
    ``held`` so, tried out if left out: each is taken where it is better."""

    start: Time = 0.0
    end: Time | None = None
    shields: Iterable[str] = ()
    focal_mm: float | None = None
    other: bool = False
    leave: Iterable[str] = ()
    gyro: FilePath | None = None
    held: Held | None = None
    overwrite: bool = False

    def __post_init__(self) -> None:
        check_fields(self, "measure")


@dataclass(frozen=True, kw_only=True)
class MotionRequest:
    """Which motion is written as numbers: of one ``shot`` by its name; of a preset or take in a frame of ``size`` at
    ``fps`` for some ``seconds``; ``amount`` and ``pace`` multiply, ``seed`` is another course."""

    shot: str | None = None
    size: Size = (1920, 1080)
    fps: Rate = 24
    seconds: Time = 10.0
    focal_mm: float | None = None
    amount: float = 1.0
    pace: float = 1.0
    seed: int | None = None

    def __post_init__(self) -> None:
        check_fields(self, "motion")


@dataclass(frozen=True, kw_only=True)
class MapRequest:
    """Which ST maps are written: of one ``shot`` by its name, ``exposures`` for each frame, of ``frames`` from the
    first to the last. ``small``: packed without loss, a third of the size, but slow."""

    shot: str | None = None
    exposures: int = 1
    frames: tuple[int, int] | None = None
    small: bool = False
    overwrite: bool = False

    def __post_init__(self) -> None:
        check_fields(self, "stmap")


@dataclass(frozen=True, kw_only=True)
class GyroRequest:
    """How a gyroscope's log is read. ``held``: how the telephone was; ``axes``: which of its axes are the camera's
    right, up and back, like "-y,x,z"; units as found if left out ("s", "ms", "us", "ns"; "rad", "deg"); ``fps``: rows
    a second of the take; ``whole``: take neither bias nor drift off."""

    held: Held = "upright"
    axes: str | None = None
    time_unit: str | None = None
    rate_unit: str | None = None
    fps: Rate = 60
    whole: bool = False
    overwrite: bool = False

    def __post_init__(self) -> None:
        check_fields(self, "gyro")


def takes_request(kind: type) -> Callable[[Callable[..., Result]], Callable[..., Result]]:
    """Let the parameter ``request`` of a function be given by the fields of its kind, as keywords of the function."""
    known, hints = {field.name: field for field in fields(kind)}, get_type_hints(kind)

    def decorate(function: Callable[..., Result]) -> Callable[..., Result]:
        own = inspect.signature(function)

        @wraps(function)
        def call(*arguments: Any, **named: Any) -> Result:
            values = {name: named.pop(name) for name in tuple(named) if name in known}
            unknown = next((name for name in named if name not in own.parameters), None)
            if unknown is not None:
                raise RequestError(f"{function.__name__}: got an unexpected keyword argument '{unknown}'.")
            request = named.pop("request", None)
            return function(*arguments, request=replace(request, **values) if request else kind(**values), **named)

        keyword = inspect.Parameter.KEYWORD_ONLY
        mine = [parameter for parameter in own.parameters.values() if parameter.name != "request"]
        places = [parameter for parameter in mine if parameter.kind is not keyword]
        asked = [
            inspect.Parameter(name, keyword, default=field.default, annotation=hints[name])
            for name, field in known.items()
        ]
        optional = inspect.Parameter("request", keyword, default=None, annotation=kind | None)
        rest = [parameter for parameter in mine if parameter.kind is keyword]
        call.__signature__ = own.replace(parameters=[*places, *asked, optional, *rest])  # type: ignore[attr-defined]
        call.__annotations__ = {name: p.annotation for name, p in call.__signature__.parameters.items()}  # type: ignore[attr-defined]
        return call

    return decorate
