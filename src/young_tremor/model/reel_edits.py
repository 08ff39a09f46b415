"""Pure changes of the reel: shots trimmed, split, moved and copied, shakes carried from one to others, spans."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, Literal, TypeVar

import msgspec
import numpy as np
from msgspec.structs import replace

from young_tremor.model.curve import Curve
from young_tremor.model.project import Project, Shot, Span, new_id
from young_tremor.model.shake import Drift, Hit, Shake, Stretch, Taken
from young_tremor.model.shot_edits import Edit, another, fresh_ids

Part = Literal["shake", "edges", "shutter", "lens", "placement", "hits"]
PARTS: tuple[Part, ...] = ("shake", "edges", "shutter", "lens", "placement", "hits")
SHORTEST = 0.04  # seconds of a shot
EDGES = ("edges", "crop", "recentre", "breathe", "behind")
SHUTTER = ("shutter", "smear", "afterimages", "knock", "linear")
LENS = ("focal_mm", "pivot", "readout")
CLOCK = ("begins", "trimmed")  # of a shake: what is of one shot alone
T = TypeVar("T")


def later(value: T, by: float) -> T:
    """A part of the document with all its times ``by`` seconds later: keys, hits, stretches."""
    if isinstance(value, Curve):
        return replace(value, keys=tuple(replace(key, t=key.t + by) for key in value.keys)) if value.keys else value
    if isinstance(value, Hit):
        return replace(value, t=value.t + by)
    if isinstance(value, Stretch):
        start, end = (None if item is None else item + by for item in (value.start, value.end))
        return replace(value, start=start, end=end)
    if isinstance(value, msgspec.Struct):
        table = {name: later(getattr(value, name), by) for name in value.__struct_fields__}
        changed = {name: new for name, new in table.items() if new is not getattr(value, name)}
        return replace(value, **changed) if changed else value
    if isinstance(value, tuple):
        item = tuple(later(one, by) for one in value)
        return item if any(a is not b for a, b in zip(item, value, strict=True)) else value  # type: ignore[return-value]
    return value


def _cut_off(shot: Shot, by: float) -> Shot:
    """A shot that begins ``by`` seconds later in its footage; what belongs to its pictures stays with them, and its
    drifts and takes go on as if nothing had been cut off."""

    def begun(shake: Shake) -> Shake:
        run = float(shake.pace.integral(np.array([by]))[0])
        return replace(later(shake, -by), begins=round(shake.begins + run, 9), trimmed=round(shake.trimmed + by, 9))

    plates = tuple(
        replace(
            later(replace(plate, shake=None), -by),
            shake=None if plate.shake is None else begun(plate.shake),
            offset=plate.offset if plate is shot.footage else round(plate.offset - by, 9),
        )
        for plate in shot.plates
    )
    return replace(
        shot,
        plates=plates,
        shake=begun(shot.shake),
        frame=later(shot.frame, -by),
        hits=later(shot.hits, -by),
        others=tuple(replace(variant, shake=begun(variant.shake)) for variant in shot.others),
        start=round(shot.start + by, 9),
    )


def lay_take(strand: Taken, pieces: dict[str, float]) -> Edit:
    """Let one take move several shots, each with its own stretch of it: ``pieces`` says for each at which second of
    the strand it begins. All move as filmed in one go."""

    def one(shot: Shot) -> Shot:
        if shot.id not in pieces:
            return shot
        mine = replace(strand, id=new_id(), offset=strand.offset + pieces[shot.id])
        return replace(shot, shake=replace(shot.shake, strands=(*shot.shake.strands, mine)))

    return lambda project: replace(project, shots=tuple(map(one, project.shots)))


def trim(shot_id: str, *, start: float | None = None, end: float | None = None) -> Edit:
    """Let a shot begin or end at other seconds of its footage; its motion stays with the pictures."""

    def change(shot: Shot) -> Shot:
        if start is not None and start != shot.start:
            at = max(start, 0.0)
            if shot.end is not None:
                at = min(at, shot.end - SHORTEST)
            shot = _cut_off(shot, at - shot.start)
        if end is not None:
            shot = replace(shot, end=max(end, shot.start + SHORTEST))
        return shot

    return _of_shot(shot_id, change)


def split(shot_id: str, t: float, second: str) -> Edit:
    """Cut a shot in two at ``t`` seconds of it; the later part is called ``second`` and goes on without a jump."""

    def change(project: Project) -> Project:
        shots: list[Shot] = []
        for shot in project.shots:
            if shot.id != shot_id:
                shots.append(shot)
                continue
            first = replace(shot, end=shot.start + t, hits=tuple(hit for hit in shot.hits if hit.t < t))
            rest = _cut_off(shot, t)
            rest = replace(_fresh(rest), id=second, hits=tuple(hit for hit in rest.hits if hit.t >= 0))
            shots += [first, rest]
        return replace(project, shots=tuple(shots))

    return change


def _fresh(shot: Shot) -> Shot:
    """A shot whose plates, strands and hits have ids of their own. Drifts keep their seeds, jolts what their hits are
    seeded by."""
    plates = tuple(
        replace(p, id=new_id(), shake=fresh_ids(p.shake) if p.shake is not None else None) for p in shot.plates
    )
    others = tuple(replace(variant, shake=fresh_ids(variant.shake)) for variant in shot.others)
    return replace(shot, plates=plates, shake=fresh_ids(shot.shake), others=others)


def duplicate(shot_id: str, copy: str) -> Edit:
    """Put a copy of a shot behind it, with another course."""

    def change(project: Project) -> Project:
        shots: list[Shot] = []
        for shot in project.shots:
            shots.append(shot)
            if shot.id == shot_id:
                new_shot = _fresh(shot)
                shots.append(replace(new_shot, id=copy, name=f"{shot.name} 2", shake=another(new_shot.shake, 1)))
        return replace(project, shots=tuple(shots))

    return change


def move(shot_ids: Iterable[str], place: int) -> Edit:
    """Move shots so that they stand together before the one that is ``place``-th now."""
    ids = set(shot_ids)

    def change(project: Project) -> Project:
        moved = [shot for shot in project.shots if shot.id in ids]
        before = [shot for shot in project.shots[:place] if shot.id not in ids]
        after = [shot for shot in project.shots[place:] if shot.id not in ids]
        return replace(project, shots=(*before, *moved, *after))

    return change


def remove(shot_ids: Iterable[str]) -> Edit:
    """Take shots out of the reel."""
    ids = set(shot_ids)
    return lambda project: replace(project, shots=tuple(shot for shot in project.shots if shot.id not in ids))


def paste(source: Shot, shot_ids: Iterable[str], parts: Iterable[Part], *, apart: bool) -> Edit:
    """Give shots the shake of another, and what else of it goes along. ``apart``: each gets a course of its own, so
    that no two of them move alike. Numbers carry their meaning: percents of the frame, degrees, seconds."""
    ids, wanted = list(shot_ids), set(parts)

    def change(project: Project) -> Project:
        number, out = 0, []
        for shot in project.shots:
            if shot.id not in ids:
                out.append(shot)
                continue
            number += 1
            out.append(_paste_parts(shot, source, wanted, number if apart and shot.id != source.id else 0))
        return replace(project, shots=tuple(out))

    return change


def _paste_parts(shot: Shot, source: Shot, parts: set[Part], number: int) -> Shot:
    if "shake" in parts:
        shake = fresh_ids(source.shake)
        if number:
            shake = another(shake, number)
        if shot.end is not None or source.end is not None:
            shake = _holding_here(shake, shot)
        shot = replace(shot, shake=shake)
    fields = [
        *(EDGES if "edges" in parts else ()),
        *(SHUTTER if "shutter" in parts else ()),
        *(LENS if "lens" in parts else ()),
    ]
    if fields:
        table = {name: getattr(source.frame, name) for name in fields}
        shot = replace(shot, frame=replace(shot.frame, **table))
    if "placement" in parts:
        first = replace(shot.footage, placement=source.footage.placement, share=source.footage.share)
        shot = replace(shot, plates=(first, *shot.plates[1:]))
    if "hits" in parts:
        shot = replace(shot, hits=tuple(replace(hit, id=new_id()) for hit in source.hits))
    return shot


def _holding_here(shake: Shake, shot: Shot) -> Shake:
    """Drifts that hold their reach in a shot hold it in this one."""
    if shot.end is None:
        return shake
    long = shot.end - shot.start
    return replace(
        shake,
        trimmed=0.0,
        strands=tuple(replace(s, holds=long) if isinstance(s, Drift) and s.holds else s for s in shake.strands),
    )


def spread(before: Project, after: Project, shot_id: str, others: Iterable[str]) -> Project:
    """What a change did to a shot's numbers and lamps, done to other shots as well: frame, intensity and pace, size and
    rate, and the fields of strands of the same kind and name. What belongs to the shot's own time and pictures (hits,
    plates, ends, keys of its strands' being there) stays its own."""
    ids = set(others) - {shot_id}
    try:
        old, new = before.shot(shot_id), after.shot(shot_id)
    except KeyError:
        return after
    if not ids or old is new:
        return after
    frame = _changed_fields(old.frame, new.frame, ("keep",))
    shake = _changed_fields(old.shake, new.shake, ("strands", "preset", *CLOCK))
    whole = {name: getattr(new, name) for name in ("size", "rate") if getattr(old, name) != getattr(new, name)}
    known = {s.id: s for s in old.shake.strands}
    strands = {
        (type(s), s.name): _changed_fields(known[s.id], s, ("id", "name", "seed", "origin", "note", "take"))
        for s in new.shake.strands
        if s.id in known and s is not known[s.id]
    }
    if not (frame or shake or whole or any(strands.values())):
        return after

    def one(shot: Shot) -> Shot:
        if shot.id not in ids:
            return shot
        mine = tuple(
            replace(s, **found) if (found := strands.get((type(s), s.name))) else s for s in shot.shake.strands
        )
        return replace(
            shot, frame=replace(shot.frame, **frame), shake=replace(shot.shake, strands=mine, **shake), **whole
        )

    return replace(after, shots=tuple(map(one, after.shots)))


def with_differences(project: Project, shot_id: str, others: Iterable[str]) -> Shot | None:
    """A shot with another's number wherever among ``others`` one differs that a change would go to; None if none
    does. KeyError if the shot is gone."""
    shot, ids = project.shot(shot_id), set(others) - {shot_id}
    new_shot = shot
    for other_shot in project.shots:
        if other_shot.id not in ids:
            continue
        known = {(type(s), s.name): s for s in other_shot.shake.strands}
        strands = tuple(
            _unlike(s, known[type(s), s.name], ("id", "name", "seed", "origin", "note", "take"))
            if (type(s), s.name) in known
            else s
            for s in new_shot.shake.strands
        )
        shake = replace(_unlike(new_shot.shake, other_shot.shake, ("strands", "preset", *CLOCK)), strands=strands)
        new_shot = replace(new_shot, frame=_unlike(new_shot.frame, other_shot.frame, ("keep",)), shake=shake)
    return new_shot if new_shot != shot else None


S = TypeVar("S", bound=msgspec.Struct)


def _unlike(one: S, other: S, but: tuple[str, ...] = ()) -> S:
    """The first with the second's values wherever they differ, down to single numbers."""
    changes: dict[str, Any] = {}
    for name in one.__struct_fields__:
        a, b = getattr(one, name), getattr(other, name)
        if name not in but and a != b:
            whole = not isinstance(a, msgspec.Struct) or type(a) is not type(b) or isinstance(a, Curve)
            changes[name] = b if whole else _unlike(a, b)
    return replace(one, **changes) if changes else one


def _changed_fields(old: msgspec.Struct, new: msgspec.Struct, but: tuple[str, ...]) -> dict[str, Any]:
    """The fields in which two differ, but some."""
    if type(old) is not type(new):
        return {}
    return {
        name: getattr(new, name)
        for name in new.__struct_fields__
        if name not in but and getattr(old, name) != getattr(new, name)
    }


def set_all(shot_ids: Iterable[str], change: dict[str, Any], *, of: Literal["shake", "frame", "shot"]) -> Edit:
    """Change fields of several shots at once: of the shots themselves, their shakes or their frames."""
    ids = set(shot_ids)

    def one(shot: Shot) -> Shot:
        if of == "shot":
            return replace(shot, **change)
        return replace(shot, **{of: replace(getattr(shot, of), **change)})

    return lambda project: replace(
        project, shots=tuple(one(shot) if shot.id in ids else shot for shot in project.shots)
    )


def replace_shot(shot: Shot) -> Edit:
    """A shot in place of the one of its id."""
    return _of_shot(shot.id, lambda before: shot)


def put_span(span: Span) -> Edit:
    """A span in place of the one of its id."""
    return lambda project: replace(project, spans=tuple(span if item.id == span.id else item for item in project.spans))


def set_project(**changes: Any) -> Edit:
    """Change the reel's own ``size`` or ``rate``."""
    return lambda project: replace(project, **changes)


def add_span(span: Span) -> Edit:
    """Lay a span over the reel."""
    return lambda project: replace(project, spans=(*project.spans, span))


def remove_span(span_id: str) -> Edit:
    """Take a span away."""
    return lambda project: replace(project, spans=tuple(span for span in project.spans if span.id != span_id))


def set_span(span_id: str, **changes: Any) -> Edit:
    """Change fields of a span."""
    return lambda project: replace(
        project, spans=tuple(replace(span, **changes) if span.id == span_id else span for span in project.spans)
    )


def with_hit(hits: tuple[Hit, ...], t: float, strength: float = 1.0) -> tuple[Hit, ...]:
    """Hits with another one, unless one stands there already."""
    if any(abs(hit.t - t) < 0.01 for hit in hits):
        return hits
    return tuple(sorted((*hits, Hit(new_id(), t, strength)), key=lambda hit: hit.t))


def move_span(span_id: str, by: float) -> Edit:
    """Move a span along the reel, its keys and hits with it; its motion stays as it is."""

    def one(span: Span) -> Span:
        far = max(by, -span.start)
        run = float(span.shake.pace.integral(np.array([far]))[0]) if span.shake.pace.constant else far
        begins, trimmed = round(span.shake.begins - run, 9), round(span.shake.trimmed - far, 9)
        shake = replace(later(span.shake, far), begins=begins, trimmed=trimmed)
        return replace(span, start=span.start + far, end=span.end + far, shake=shake, hits=later(span.hits, far))

    return lambda project: replace(
        project, spans=tuple(one(span) if span.id == span_id else span for span in project.spans)
    )


def _of_shot(shot_id: str, change: Any) -> Edit:
    return lambda project: replace(project, shots=tuple(change(s) if s.id == shot_id else s for s in project.shots))
