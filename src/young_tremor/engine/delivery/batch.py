"""Several at once, without a window: reels made of files, stretches of them, films for each, hits from words."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from young_tremor.base import files
from young_tremor.base.colour_spaces import space_named
from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.base.files import check_free
from young_tremor.base.units import parse_time
from young_tremor.document import store
from young_tremor.engine.analysis import found_hits, reel_layout
from young_tremor.engine.media import footage
from young_tremor.media.codecs import codec
from young_tremor.model import reel_edits
from young_tremor.model.edge_modes import EDGE_MODES
from young_tremor.model.project import Preset, Project, Shot, Size, new_id
from young_tremor.model.shake import Hit, Jolts
from young_tremor.model.shot_edits import add_shot, in_turn
from young_tremor.render import displacement
from young_tremor.render.resolve_plan import readings, resolve


def make_reel(
    inputs: tuple[Path, ...], preset: Preset, *, size: tuple[int, int] | None = None, rate: Fraction | None = None
) -> Project:
    """A project of files in their order under a preset, each in a course of its own. TremorError for one that cannot be
    used; another picture of a sequence that is there already is passed over."""
    project = Project(size=Size(*size) if size else None, rate=str(rate) if rate else None)
    known: set[str] = set()
    for path in inputs:
        name = footage.resolve_path(path)
        if name in known:
            continue
        known.add(name)
        project = add_shot(Path(name), preset, footage.facts(name).info.seconds)(project)
    return project


def write_project(project: Project, output: Path, *, overwrite: bool) -> None:
    """Write a project where none is yet; RequestError for a name that is none of a project."""
    if output.suffix.lower() != ".tremor":
        raise RequestError(f"{output.name} is no name of a project: end it in .tremor.")
    check_free(output, overwrite=overwrite)
    store.save(project, output)


def delivered_as(project: Project, size: tuple[int, int] | None, rate: Fraction | None) -> Project:
    """A project whose reel is delivered in another size or rate, also where its shots say their own."""
    if size is None and rate is None:
        return project
    changes: dict[str, object] = {}
    if size is not None:
        changes["size"] = Size(*size)
    if rate is not None:
        changes["rate"] = str(rate)
    return in_turn(
        reel_edits.set_project(**changes), reel_edits.set_all([shot.id for shot in project.shots], changes, of="shot")
    )(project)


def stretch(
    project: Project, name: str | None, start: float | None, end: float | None, *, each: bool = False
) -> tuple[Shot, ...]:
    """The reel as it is delivered, or one shot of it by its name, from ``start`` to ``end`` seconds of that.
    ``each``: every shot is a film by itself, and has its own size and rate."""
    first, last = start or 0.0, float("inf") if end is None else end
    if not 0 <= first < last:
        raise UnreadableValue("A stretch has to begin before it ends: give --from less than --to-time.")
    if name is not None:
        shot = reel_layout.find_shot(project, name)
        where = next(place for place in reel_layout.place_shots(project) if place.shot.id == shot.id)
        places, offset = [where], where.at
    else:
        places, offset = list(reel_layout.place_shots(project)), 0.0
    if not places:
        raise RequestError("The project has no shots: open some footage first.")
    out = []
    for place in places:
        begin, stop = max(first, place.at - offset), min(last, place.end - offset)
        if stop - begin < 0.5 / float(place.rate):
            continue
        out.append(_part(project, place, begin + offset - place.at, stop + offset - place.at))
    if not out:
        raise UnreadableValue(f"There is nothing from {first:g} s on: it ends at {places[-1].end - offset:.2f} s.")
    if name is None and not each:
        size = reel_layout.size_of(project)
        return tuple(replace(shot, size=size, rate=str(places[0].rate)) for shot in out)
    return tuple(out)


def _part(project: Project, place: reel_layout.PlacedShot, begin: float, stop: float) -> Shot:
    """A shot with the spans over it, from ``begin`` to ``stop`` seconds of it."""
    shot = place.shot
    whole = begin <= 0 and stop >= place.end - place.at - 1e-9
    if not whole:
        changed = reel_edits.trim(shot.id, start=shot.start + begin, end=shot.start + stop)(Project((shot,)))
        shot = changed.shots[0]
    over = reel_layout.under_spans(project, place).over
    return replace(shot, over=tuple(replace(over_span, at=over_span.at + begin) for over_span in over))


def named_in(folder: Path, names: list[str], codec_name: str) -> tuple[Path, ...]:
    """The files that names get in a folder, which is made if it is not there. RequestError where two are alike."""
    suffix = codec(codec_name).suffixes[0]
    out = [folder / files.plain_name(name, suffix) for name in names]
    twice = {path for path in out if out.count(path) > 1}
    if twice:
        raise RequestError(f"Two would be called {twice.pop().name}: give them names that differ, or {{number}}.")
    made_folder(folder)
    return tuple(out)


def made_folder(folder: Path) -> None:
    """Make a folder if it is not there; RequestError where it cannot be."""
    if folder.exists() and not folder.is_dir():
        raise RequestError(f"{folder} is no folder: name one.")
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise RequestError(f"{folder} cannot be made: choose a folder that you may write to.") from error


def plain_name(path: Path) -> str:
    """What a film of an input is called: by the input, without its number if it is one of a sequence."""
    name = Path(footage.resolve_path(path)).stem
    return name.rstrip("#._- ") or name


def from_to(shot: Shot, start: str | None, end: str | None) -> Shot:
    """A shot that begins and ends at times of its input, said as seconds or timecode."""
    if start is None and end is None:
        return shot
    info = footage.infos(shot)[0]
    first = parse_time(start, info.rate) if start else 0.0
    last = parse_time(end, info.rate) if end else shot.end
    if first and shot.end is not None and end is None:
        last = first + shot.end
    if not 0 <= first < (info.seconds if last is None else last) or (not info.still and first >= info.seconds):
        raise UnreadableValue(f"{info.name} has nothing from {first:g} s on: give --from less than --to-time.")
    return replace(shot, start=first, end=last)


def acting(shot: Shot, start: str | None, end: str | None) -> Shot:
    """A shot whose strands act from and to times of its input only, said as seconds or timecode."""
    if start is None and end is None:
        return shot
    rate = resolve(shot, footage.infos(shot), shaken=False).rate
    first, last = (None if text is None else parse_time(text, rate) - shot.start for text in (start, end))
    if first is not None and last is not None and first >= last:
        raise UnreadableValue(f"The motion cannot act from {start} to {end}: give a later end.")
    strands = tuple(
        replace(
            strand,
            stretch=replace(
                strand.stretch,
                start=strand.stretch.start if first is None else first,
                end=strand.stretch.end if last is None else last,
            ),
        )
        for strand in shot.shake.strands
    )
    return replace(shot, shake=replace(shot.shake, strands=strands))


def in_colours(shot: Shot, space: str, white: float, peak: float) -> Shot:
    """A shot whose footage is of a named colour space (as its file tells, if none is named), with the white of standard
    range and the peak of high range in cd/m²."""
    if space:
        media = replace(shot.footage.media, space=space_named(space).name)
        plates = (replace(shot.footage, media=media), *shot.plates[1:])
        shot = replace(shot, plates=plates)
    return replace(shot, frame=replace(shot.frame, white=white, peak=peak))


def with_hits(shot: Shot, words: str | None, preset: str) -> Shot:
    """A shot with hits as they are said: times with strengths, or found in its sound or picture. RequestError where its
    shake answers to hits alone and there are none."""
    if words is not None:
        shot = replace(shot, hits=_hits(shot, words))
    strands = [s for s in shot.shake.strands if s.on]
    if strands and all(isinstance(s, Jolts) for s in strands) and not shot.hits:
        raise RequestError(f"“{preset}” answers to hits and there are none: add --hits 1.5, --hits sound or picture.")
    return shot


def _hits(shot: Shot, words: str) -> tuple[Hit, ...]:
    if words in ("sound", "picture"):
        onsets = (found_hits.in_sound if words == "sound" else found_hits.in_picture)(shot, lambda done, total: None)
        hits = found_hits.hits_of(onsets, onsets.threshold)
        if not hits:
            raise RequestError(f"No sudden change was found in the {words} of “{shot.name}”: say when, as --hits 1.5.")
        return hits
    plan = resolve(shot, footage.infos(shot), shaken=False)
    first, last = shot.start, shot.start + plan.seconds
    out = []
    for part in words.split(","):
        text, _, strength = part.strip().partition("@")
        try:
            time = parse_time(text, plan.rate)
            out.append(Hit(new_id(), time - first, float(strength) if strength else 1.0))
        except (ValueError, UnreadableValue):
            raise UnreadableValue(
                f"“{part.strip()}” is no hit: give seconds, as 1.5, or 1.5@0.6 with a strength."
            ) from None
        if not first <= time < last:
            raise UnreadableValue(
                f"The hit at {time:g} s is outside of what is written, {first:g} s to {last:g} s of the input: hits "
                "count in the input’s time."
            )
    return tuple(sorted(out, key=lambda hit: hit.t))


def is_still(shot: Shot) -> bool:
    """Whether nothing moves in a shot: its plates' own shakes and spans included."""
    plan = resolve(replace(shot, frame=replace(shot.frame, edges="open")), footage.infos(shot))
    times = np.arange(plan.frames) / float(plan.rate)
    return not any(plate.channels(times).any() or displacement.is_bent(plan, plate) for plate in plan.plates)


def framing_words(shot: Shot, name: str) -> str:
    """What the edges of a shot cost, in a sentence."""
    found_readings = readings(resolve(shot, footage.infos(shot)))
    share = 100 * found_readings.uncovered
    if not EDGE_MODES[shot.frame.edges].crops and not EDGE_MODES[shot.frame.edges].fills:
        return f"{name}: {share:.0f} % of frames show an edge."
    mode = EDGE_MODES[shot.frame.edges]
    if not mode.crops:
        return f"{name}: no frame shows an edge; in {share:.0f} % of frames {mode.fills}."
    return f"{name}: cropped to {found_readings.crop:.3f}, {100 * found_readings.detail:.1f} % of detail kept."
