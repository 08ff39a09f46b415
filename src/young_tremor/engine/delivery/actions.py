"""What the command line and the desk ask for as whole acts: shake, render, motion, info."""

from __future__ import annotations

import json
import os
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any, cast

import cv2
import numpy as np
from msgspec.structs import replace

from young_tremor.base import files
from young_tremor.base.errors import RequestError, TremorError, UnknownName, UnreadableValue
from young_tremor.base.files import check_free
from young_tremor.base.frames import FrameSource
from young_tremor.base.units import parse_time
from young_tremor.document import codec as document_codec
from young_tremor.document import store
from young_tremor.engine.analysis import framing_margins, log_fusion, measuring, reel_layout
from young_tremor.engine.library import preset_library, takes
from young_tremor.engine.media import footage
from young_tremor.engine.sound import mixing, sound_presets
from young_tremor.engine.system import desktop_bus
from young_tremor.export import film, motion_table, numbered_pictures
from young_tremor.measure.camera_path import ASSUMPTIONS as ASSUMPTIONS
from young_tremor.media import codecs, image_sequence
from young_tremor.media.codecs import CODECS, USUAL, EncodingChoice, codec
from young_tremor.media.video_writer import check_output
from young_tremor.model import curve_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import (
    EDGES,
    Edges,
    FrameSettings,
    Plate,
    Preset,
    Project,
    Shot,
    Shutter,
    Size,
)
from young_tremor.model.shake import Hit, Shake
from young_tremor.model.shot_edits import from_preset, holding, plate_of
from young_tremor.model.take import Take
from young_tremor.motion import sample
from young_tremor.render.resolve_plan import resolve

Report = film.Report


def codec_names() -> tuple[str, ...]:
    """The names of the codecs, the default first."""
    return tuple(CODECS)


def codec_words(name: str) -> tuple[str, str]:
    """What a codec is called on screen, and the ending its files take."""
    return CODECS[name].words, CODECS[name].suffixes[0]


def is_numbered(name: str) -> bool:
    """Whether a codec makes a picture a frame, numbered."""
    return codec(name).pictures


def steps_of(name: str, quality: int = 3, speed: int = 2) -> str:
    """The encoder's numbers behind a quality and a speed, in words; empty where a form has no steps."""
    return codecs.steps_of(name, EncodingChoice(quality, speed))


def with_hardware() -> tuple[str, ...]:
    """The forms for which an encoder in hardware works on this machine. It is tried, which takes a moment."""
    return codecs.with_hardware()


def stem_names(project: Project) -> tuple[str, ...]:
    """The names of all that is heard anywhere in a project."""
    return tuple(dict.fromkeys(name for shot in reel_layout.delivered_shots(project) for name in mixing.stems(shot)))


def adjust_shake(shake: Shake, *, amount: float = 1.0, pace: float = 1.0, seed: int | None = None) -> Shake:
    """A shake with intensity and pace multiplied, and its seeds moved on from ``seed`` where one is given."""
    if not (np.isfinite(amount) and amount >= 0):
        raise UnreadableValue(f"An amount of {amount:g} cannot be used: give 0 or more.")
    if not (np.isfinite(pace) and pace >= 0):
        raise UnreadableValue(f"A pace of {pace:g} cannot be used: give 0 or more.")
    strands = shake.strands
    if seed is not None:
        strands = tuple(replace(s, seed=seed + 101 * n) for n, s in enumerate(strands))
    return replace(
        shake,
        strands=strands,
        intensity=curve_edits.times(shake.intensity, amount),
        pace=curve_edits.times(shake.pace, pace),
    )


@dataclass(frozen=True)
class ShotOptions:
    """How a file becomes a shot: its ``edges``, ``shutter`` in degrees and lens; ``size`` and ``rate`` of its delivery;
    how many ``seconds``; graphics ``over`` it that move along, and some ``on_glass`` that do not."""

    edges: str = "crop"
    shutter: float = 180.0
    focal_mm: float | None = None
    size: tuple[int, int] | None = None
    rate: Fraction | None = None
    seconds: float | None = None
    over: tuple[Path, ...] = ()
    on_glass: tuple[Path, ...] = ()

    def __post_init__(self) -> None:
        if not (np.isfinite(self.shutter) and 0 <= self.shutter <= 720):
            raise UnreadableValue(f"A shutter of {self.shutter:g}° cannot be used: give 0 to 720.")
        if self.edges not in EDGES:
            raise UnknownName(f"There are no edges “{self.edges}”: there are {', '.join(EDGES)}.")
        seconds = self.seconds
        if seconds is not None and not (np.isfinite(seconds) and 0 < seconds <= 86400):
            raise UnreadableValue(f"A length of {seconds:g} s cannot be used: give more than 0 s, up to a day.")


def one_shot(path: Path, preset: Preset, **options: Any) -> Shot:
    """A shot of a file under a preset; ``options`` as in :class:`ShotOptions`. UnreadableValue, UnknownName."""
    chosen = ShotOptions(**options)
    frame = FrameSettings(
        edges=cast("Edges", chosen.edges),
        shutter=Shutter(Curve(chosen.shutter)),
        focal_mm=chosen.focal_mm or preset.focal_mm,
    )
    plates = [_plate("plate", path)]
    if chosen.rate is not None and image_sequence.is_pattern(plates[0].media.path):  # it has none of its own
        plates[0] = replace(plates[0], media=replace(plates[0].media, rate=str(chosen.rate)))
    if chosen.over or chosen.on_glass:
        whole = chosen.size or footage.facts(plates[0].media.path).info.size
        plates += [footage.fit_graphic(_plate(f"over {n}", path), whole) for n, path in enumerate(chosen.over)]
        glass = (replace(_plate(f"glass {n}", path), glass=True) for n, path in enumerate(chosen.on_glass))
        plates += [footage.fit_graphic(plate, whole) for plate in glass]
    return Shot(
        "shot",
        plates[0].name,
        tuple(plates),
        from_preset(preset),
        frame,
        end=chosen.seconds,
        size=Size(*chosen.size) if chosen.size else None,
        rate=str(chosen.rate) if chosen.rate else None,
    )


def _plate(plate_id: str, path: Path) -> Plate:
    return replace(plate_of(Path(footage.resolve_path(path))), id=plate_id)


@dataclass(frozen=True)
class RenderOptions:
    """How shots are rendered: as which codec, ``shaken`` or without shake and crop. ``loudness``: what the sound is
    levelled to, in LUFS. ``first``, ``frames``, ``resume``: of numbered pictures, see
    :func:`young_tremor.export.numbered_pictures.write_pictures`."""

    codec_name: str = "h264"
    how: EncodingChoice = USUAL
    overwrite: bool = False
    shaken: bool = True
    loudness: float | None = None
    first: int = 1
    frames: tuple[int, int] | None = None
    resume: bool = False


def render(shots: tuple[Shot, ...], output: Path, report: Report, **options: Any) -> tuple[str, ...]:
    """Render shots in order into one film; ``options`` as in :class:`RenderOptions`.

    What a person should know of the result: what was noticed about the sources, and what the codec cannot hold.
    """
    asked = RenderOptions(**options)
    chosen = codec(asked.codec_name, asked.how)
    check_output(output, chosen, overwrite=asked.overwrite)
    parts = parts_of(shots, (output,), asked.shaken, asked.loudness)
    notes = film.notes(parts, chosen)
    with desktop_bus.awake(f"{output.name} is being written"):
        if chosen.pictures:
            numbers = numbered_pictures.Numbers(asked.first, asked.frames, asked.overwrite, asked.resume)
            numbered_pictures.write_pictures(parts, output, chosen, report, numbers)
        else:
            film.write_movie(parts, output, chosen, report, overwrite=asked.overwrite)
    return notes


def parts_of(
    shots: tuple[Shot, ...], outputs: tuple[Path, ...], shaken: bool, loudness: float | None = None
) -> list[film.FilmPart]:
    """Shots as parts of a film. RequestError where one of the outputs is a shot's own footage."""
    parts = []
    plans = []
    for shot in shots:
        for path in footage.paths(shot):
            for output in outputs:
                if os.path.realpath(output) == os.path.realpath(path):
                    raise RequestError(f"{output.name} is the footage itself: choose another name.")
        plans.append(resolve(shot, footage.infos(shot), shaken=shaken))
    gain = 1.0
    if loudness is not None:
        gain = mixing.gain_to(shots, tuple(plan.seconds for plan in plans), loudness)
    for shot, plan in zip(shots, plans, strict=True):
        sound = mixing.track_of(shot, plan.seconds, shaken=shaken, gain=gain)
        parts.append(film.FilmPart(plan, _opener(shot), sound))
    if not parts:
        raise RequestError("The project has no shots: open some footage first.")
    return parts


def check(
    outputs: tuple[Path, ...], codec_name: str, shots: tuple[Shot, ...], *, overwrite: bool, how: EncodingChoice = USUAL
) -> tuple[str, ...]:
    """Refuse outputs at the door: existing, of a wrong ending, in no writable folder, one file twice, an input.

    What a person should know before they are written: of the footage, and of what the codec cannot hold.
    """
    chosen = codec(codec_name, how)
    for output in outputs:
        check_output(output, chosen, overwrite=overwrite)
    if len({os.path.realpath(output) for output in outputs}) < len(outputs):
        raise RequestError("The clean version needs a name of its own: choose another for --clean.")
    return film.notes(parts_of(shots, outputs, True), chosen)


def not_over(output: Path, *inputs: Path | None) -> None:
    """Refuse an output that is one of the files it is made from."""
    if any(path is not None and os.path.realpath(path) == os.path.realpath(output) for path in inputs):
        raise RequestError(f"{output.name} is what it would be made from: choose another name.")


def _opener(shot: Shot) -> Callable[[], list[FrameSource]]:
    return lambda: footage.sources_of(shot)


def open_project(path: Path) -> Project:
    """A project from disk; RequestError for footage in its place."""
    if path.suffix.lower() != ".tremor":
        known = None
        with suppress(TremorError):
            known = footage.facts(str(path))
        if known is not None:
            raise RequestError(f"{path.name} is footage, not a project: shake takes footage.")
    return store.load(path)


def pick_shots(project: Project, name: str | None) -> tuple[Shot, ...]:
    """The reel as it is delivered, or its one shot of that name (or id), with the spans over it."""
    if name is None:
        return reel_layout.delivered_shots(project)
    return (reel_layout.viewed_shot(project, reel_layout.find_shot(project, name).id),)


def saved_shake(path: Path) -> Preset:
    """What a saved file moves a shot by: the first preset of a presets file, or a shot's shake where the path names
    one, PROJECT.tremor#SHOT; TremorError in one sentence otherwise."""
    shot = _saved_shot(path)
    if shot is None:
        return preset_library.shake_file(path)
    free = replace(shot.shake, strands=holding(shot.shake.strands, 0.0))  # another shot has its own length
    return Preset(shot.name, "own", "", free, shot.frame.focal_mm)


def saved_hits(path: Path) -> tuple[Hit, ...]:
    """The hits that come with a saved shake; a preset has none."""
    shot = _saved_shot(path)
    return () if shot is None else shot.hits


def _saved_shot(path: Path) -> Shot | None:
    """The shot that a path names, the first of a project without a name; None for other files."""
    file, _, name = (str(path), "", "") if path.suffix.lower() == ".tremor" else str(path).rpartition("#")
    if not file.lower().endswith(".tremor"):
        return None
    project = open_project(Path(file))
    if not project.shots:
        raise UnknownName(f"{Path(file).name} has no shots: nothing moves in it.")
    return reel_layout.find_shot(project, name) if name else project.shots[0]


def shot_motion(shot: Shot) -> str:
    """The motion file of a shot: its whole shake at the middle of each exposure's frame time."""
    plan = resolve(replace(shot, frame=replace(shot.frame, edges="open")), footage.infos(shot))
    times = np.arange(plan.frames) / float(plan.rate)
    channels = plan.channels(times)
    return motion_table.motion_table(
        channels,
        times,
        size=(round(plan.delivered[0] * float(plan.pixel_aspect)), plan.delivered[1]),
        fps=str(plan.rate),
        focal_mm=shot.frame.focal_mm,
        source=shot.name,
    )


def preset_motion(
    preset: Preset, *, size: tuple[int, int], rate: Fraction, seconds: float, focal_mm: float | None
) -> str:
    """The motion file of a preset, without any footage."""
    if not (np.isfinite(seconds) and 0 < seconds <= 86400):
        raise UnreadableValue(f"A length of {seconds:g} s cannot be used: give more than 0 s, up to a day.")
    times = np.arange(max(1, round(seconds * rate))) / float(rate)
    channels = sample.sample(preset.shake, times)
    return motion_table.motion_table(
        channels, times, size=size, fps=str(rate), focal_mm=focal_mm or preset.focal_mm, source=preset.name
    )


@dataclass(frozen=True)
class MeasureOptions:
    """Which part of a clip is measured: from ``start`` to ``end`` (seconds or timecode), without ``shields``
    (``x,y,width,height`` in pixels); ``other``: of two things that move, the one that reaches less far round the rim.
    ``leave``: what is not to be assumed of it, see ``measure.camera_path.ASSUMPTIONS``. ``gyro``: the log that was
    recorded with it, by a telephone ``held`` so, tried out if None. ``output``: where the take is written as CSV."""

    output: Path | None = None
    start: str = "0"
    end: str | None = None
    shields: tuple[str, ...] = ()
    focal_mm: float | None = None
    other: bool = False
    leave: tuple[str, ...] = ()
    gyro: Path | None = None
    held: str | None = None
    overwrite: bool = False


def measure(clip: Path, report: Report, **options: Any) -> tuple[Take, str, dict[str, object]]:
    """Measure a clip; ``options`` as in :class:`MeasureOptions`. The take, what a person should know of it, and all
    that is known of it."""
    asked = MeasureOptions(**options)
    output = asked.output
    if output is not None:
        check_free(output, overwrite=asked.overwrite)
        if output.resolve() == clip.resolve():
            raise RequestError(f"{output.name} is the clip itself: choose another name.")
    info = footage.facts(str(clip)).info
    boxes = tuple(_box(text, info.size, info.name) for text in asked.shields)
    first, last = parse_time(asked.start, info.rate), parse_time(asked.end, info.rate) if asked.end else None
    unknown = [name for name in asked.leave if name not in ASSUMPTIONS]
    if unknown:
        raise UnknownName(f"“{unknown[0]}” is not assumed of a clip: choose from {', '.join(ASSUMPTIONS)}.")
    path = measuring.measure(clip, report, start=first, end=last, shields=boxes).leaving(asked.leave)
    if asked.other:
        if len(path.layers) < 2:
            raise RequestError(f"Only one thing moves in {clip.name}: measure it without --other.")
        path = path.other()
    if path.still:
        raise RequestError(f"Nothing moves in {clip.name}: film it with the camera in the hand.")
    words, facts = "", dict[str, object]()
    if asked.gyro is not None:
        fusion = log_fusion.fuse_log(path, clip.name, asked.gyro, hold=asked.held)
        words = f" {log_fusion.describe_fusion(fusion, path, asked.gyro.name)}"
        facts = log_fusion.facts_of_fusion(fusion, asked.gyro.name)
        path = fusion.path
    take = takes.of_path(path, info, clip.stem, asked.focal_mm)
    if output is not None:
        motion_table.write_text(output, takes.text_of(take), overwrite=asked.overwrite)
    return take, takes.describe_path(path, info.name) + words, takes.facts_of_path(path, take) | facts


def margin(
    preset: Preset, size: tuple[int, int], focal_mm: float | None, output: Path | None, *, overwrite: bool = False
) -> str:
    """How much wider to frame for a preset, in a sentence; a framing guide is written to ``output`` (PNG) if given."""
    margin = framing_margins.margin(preset, focal_mm=focal_mm, size=size)
    if output is not None:
        check_free(output, overwrite=overwrite)
        if output.suffix.lower() != ".png":
            raise RequestError(f"{output.name} cannot hold a picture: end it in .png.")
        whole, data = cv2.imencode(".png", framing_margins.guide(margin)[..., ::-1])
        if not whole:
            raise RequestError(f"{output.name} cannot be written as a picture: choose a smaller size.")
        files.write_whole(data.tobytes(), output)
    return margin.words(preset.name, focal_mm or preset.focal_mm)


def _box(text: str, size: tuple[int, int], name: str) -> tuple[float, float, float, float]:
    try:
        x, y, width, height = (float(part) for part in text.split(","))
    except ValueError:
        raise UnreadableValue(f"“{text}” is no box: give x,y,width,height in pixels.") from None
    if not (np.isfinite([x, y, width, height]).all() and width > 0 and height > 0):
        raise UnreadableValue(f"“{text}” is no box: its width and height must be more than 0.")
    if x >= size[0] or y >= size[1] or x + width <= 0 or y + height <= 0:
        raise UnreadableValue(f"The box {text} lies outside the picture: {name} is {size[0]}x{size[1]}.")
    return x, y, width, height


def write_text(path: Path, text: str, *, overwrite: bool) -> None:
    """Write a motion file."""
    motion_table.write_text(path, text, overwrite=overwrite)


def presets_json() -> str:
    """All presets as a JSON list of objects with name, group, note and more; sounds after them, by their kinds.

    Each preset is whole: the list, or one of its objects, is a file that ``shake --shake`` takes.
    """
    rows = [
        document_codec.preset_item(preset) | {"strands": [strand.name for strand in preset.shake.strands]}
        for preset in preset_library.presets()
    ]
    rows += [{"name": name, "group": kind, "note": note} for name, kind, note in sound_presets.sound_rows()]
    return json.dumps(rows, indent=2, ensure_ascii=False)
