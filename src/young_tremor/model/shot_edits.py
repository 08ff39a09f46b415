"""Pure functions project → project. The session gives them a label and keeps them undoable."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from young_tremor.model.curve_edits import times
from young_tremor.model.holder import ORIGIN
from young_tremor.model.project import FrameSettings, Media, Plate, Preset, Project, Shot, Variant, new_id
from young_tremor.model.shake import Drift, Hit, Shake, Strand, Taken
from young_tremor.model.take import Take
from young_tremor.model.title import Title

Edit = Callable[[Project], Project]
LETTERS = "ABCDEFGH"


def add_shot(path: Path, preset: Preset | None = None, seconds: float = 0.0, mark: str = "") -> Edit:
    """Append a shot of the footage at ``path``, moved by ``preset`` if one is given, whose reach holds over
    ``seconds``; ``mark``: by what the file is known again."""
    plate = plate_of(path)
    plate = replace(plate, media=replace(plate.media, mark=mark))
    shot = Shot(new_id(), plate.name, (plate,))
    if preset:
        shake = from_preset(preset)
        shake = replace(shake, strands=holding(shake.strands, seconds))
        shot = replace(shot, shake=shake, frame=frame_of(preset, shot.frame))

    def change(project: Project) -> Project:
        mine = replace(shot, shake=unlike(shot.shake, shakes_of(project)))
        return replace(project, shots=(*project.shots, mine))

    return change


def another(shake: Shake, number: int) -> Shake:
    """The same motion in another course: other seeds, ``number`` by ``number``."""
    return replace(shake, strands=tuple(replace(s, seed=s.seed + 1009 * number) for s in shake.strands))


def unlike(shake: Shake, others: Iterable[Shake]) -> Shake:
    """The same motion in the first course that none of the others has, so that no two move alike."""
    taken = {(type(strand), strand.seed) for shake in others for strand in shake.strands}
    number = 0
    while any((type(strand), strand.seed) in taken for strand in another(shake, number).strands):
        number += 1
    return another(shake, number)


def shakes_of(project: Project, *, without: frozenset[str] = frozenset()) -> list[Shake]:
    """Every shake of a project: of shots and their plates, and of spans; ``without`` those of some ids."""
    shakes = [shot.shake for shot in project.shots if shot.id not in without]
    for shot in project.shots:
        shakes += [plate.shake for plate in shot.plates if plate.shake is not None and plate.id not in without]
    return shakes + [span.shake for span in project.spans if span.id not in without]


def plate_of(path: Path, *, glass: bool = False) -> Plate:
    """A new plate of a file; numbered pictures are called what stands before the number."""
    return Plate(new_id(), path.stem.rstrip("#._- ") or path.stem, Media(str(path)), glass=glass)


def title_plate(text: str = "Title") -> Plate:
    """A new plate of a title."""
    title = Title(text)
    return Plate(new_id(), title_name(title), Media(kind="title", title=title))


def title_name(title: Title) -> str:
    """What a plate of a title is called: its first line."""
    return next((line.strip()[:60] for line in title.text.splitlines() if line.strip()), "Title")


def fill_plate(colour: str = "#15181a") -> Plate:
    """A new plate of one colour."""
    return Plate(new_id(), "Fill", Media(kind="fill", colour=colour))


def put_shot(shot: Shot) -> Edit:
    """Append a shot to the reel."""
    return lambda project: replace(project, shots=(*project.shots, shot))


def remove_shot(shot_id: str) -> Edit:
    """Take a shot out of the reel."""
    return lambda project: replace(project, shots=tuple(s for s in project.shots if s.id != shot_id))


def set_shot(shot_id: str, **changes: Any) -> Edit:
    """Change fields of a shot: ``name``, ``start``, ``end``, ``size``, ``rate``."""
    return _shot_edit(shot_id, lambda shot: replace(shot, **changes))


def set_frame(shot_id: str, **changes: Any) -> Edit:
    """Change frame settings of a shot: ``edges``, ``shutter``, ``focal_mm``, ``pivot``, ``crop``."""
    return _shot_edit(shot_id, lambda shot: replace(shot, frame=replace(shot.frame, **changes)))


def set_shake(shot_id: str, **changes: Any) -> Edit:
    """Change the whole shake of a shot: ``intensity``, ``pace``, ``strands``."""
    return _shot_edit(shot_id, lambda shot: replace(shot, shake=replace(shot.shake, **changes)))


def set_plate(shot_id: str, plate_id: str, **changes: Any) -> Edit:
    """Change fields of one plate."""

    def edit(project: Project) -> Project:
        plates = project.shot(shot_id).plates
        return set_shot(
            shot_id, plates=tuple(replace(plate, **changes) if plate.id == plate_id else plate for plate in plates)
        )(project)

    return edit


def add_plate(shot_id: str, plate: Plate) -> Edit:
    """Lay a plate over the others of a shot."""
    return _shot_edit(shot_id, lambda shot: replace(shot, plates=(*shot.plates, plate)))


def remove_plate(shot_id: str, plate_id: str) -> Edit:
    """Take a plate out of a shot; the lowest one stays."""

    def change(shot: Shot) -> Shot:
        return replace(shot, plates=(shot.footage, *(plate for plate in shot.plates[1:] if plate.id != plate_id)))

    return _shot_edit(shot_id, change)


def move_plate(shot_id: str, plate_id: str, by: int) -> Edit:
    """Move a plate up (1) or down (-1) in its shot's stack; the lowest one stays where it is."""

    def change(shot: Shot) -> Shot:
        plates = list(shot.plates)
        place = next((number for number, plate in enumerate(plates) if plate.id == plate_id), 0)
        other_number = place + by
        if place > 0 and 0 < other_number < len(plates):
            plates[place], plates[other_number] = plates[other_number], plates[place]
        return replace(shot, plates=tuple(plates))

    return _shot_edit(shot_id, change)


def set_strand(shot_id: str, strand_id: str, **changes: Any) -> Edit:
    """Change fields of one strand."""
    return _strand_edit(
        shot_id, strand_id, lambda strands: tuple(replace(s, **changes) if s.id == strand_id else s for s in strands)
    )


def set_together(shot_id: str, strand_id: str, **changes: Any) -> Edit:
    """Change how the shake that a strand is in belongs together."""
    return change_shake(shot_id, strand_id, lambda shake: replace(shake, together=replace(shake.together, **changes)))


def set_channel(shot_id: str, strand_id: str, channel: str, **changes: Any) -> Edit:
    """Change one channel of a drift: ``reach``, ``rate``, ``phase``, ..."""

    def edit(strands: tuple[Strand, ...]) -> tuple[Strand, ...]:
        def one(strand: Strand) -> Strand:
            if not isinstance(strand, Drift):
                return strand
            changed = replace(strand.channels[channel], **changes)
            return replace(strand, channels=replace(strand.channels, **{channel: changed}))

        return tuple(one(s) if s.id == strand_id else s for s in strands)

    return _strand_edit(shot_id, strand_id, edit)


def reset_strand(shot_id: str, strand_id: str, fresh: Strand) -> Edit:
    """Put a strand back to ``fresh``; its id, name and whether it is on or solo stay."""

    def one(strand: Strand) -> Strand:
        return replace(fresh, id=strand.id, name=strand.name, on=strand.on, solo=strand.solo, origin=strand.origin)

    return _strand_edit(shot_id, strand_id, lambda strands: tuple(one(s) if s.id == strand_id else s for s in strands))


def add_strand(shot_id: str, strand: Strand) -> Edit:
    """Put a strand under the others."""
    return _strands_edit(shot_id, lambda strands: (*strands, strand))


def put_strand(shake: Shake, strand: Strand) -> Shake:
    """A shake with a strand in place of the one of its origin, whose id and amount it keeps, or under the others."""
    old = next((item for item in shake.strands if item.origin == strand.origin), None)
    if old is None:
        return replace(shake, strands=(*shake.strands, strand))
    new = replace(strand, id=old.id, amount=old.amount, on=old.on, solo=old.solo)
    return replace(shake, strands=tuple(new if item.id == old.id else item for item in shake.strands))


def remove_strand(shot_id: str, strand_id: str) -> Edit:
    """Take a strand away."""
    return _strand_edit(shot_id, strand_id, lambda strands: tuple(s for s in strands if s.id != strand_id))


def duplicate_strand(shot_id: str, strand_id: str, copy_id: str) -> Edit:
    """Put a copy under a strand, with another seed where it has one to differ by."""

    def edit(strands: tuple[Strand, ...]) -> tuple[Strand, ...]:
        out: list[Strand] = []
        for strand in strands:
            out.append(strand)
            if strand.id == strand_id:
                out.append(replace(strand, id=copy_id, name=f"{strand.name} 2", seed=strand.seed + 101))
        return tuple(out)

    return _strand_edit(shot_id, strand_id, edit)


def move_strand(shot_id: str, strand_id: str, by: int) -> Edit:
    """Move a strand up (negative) or down the stack."""

    def edit(strands: tuple[Strand, ...]) -> tuple[Strand, ...]:
        order = list(strands)
        at = next((n for n, s in enumerate(order) if s.id == strand_id), None)
        if at is None:
            return strands
        strand = order.pop(at)
        order.insert(min(max(at + by, 0), len(order)), strand)
        return tuple(order)

    return _strand_edit(shot_id, strand_id, edit)


def add_hits(shot_id: str, hits: tuple[Hit, ...]) -> Edit:
    """Put hits on the ruler; where one stands already (within a hundredth of a second) the new one is left out."""

    def change(shot: Shot) -> Shot:
        kept = list(shot.hits)
        for hit in hits:
            if all(abs(hit.t - old.t) > 0.01 for old in kept):
                kept.append(hit)
        return replace(shot, hits=tuple(sorted(kept, key=lambda hit: hit.t)))

    return _shot_edit(shot_id, change)


def set_hit(shot_id: str, hit_id: str, **changes: Any) -> Edit:
    """Change a hit's ``t`` or ``strength``."""

    def change(shot: Shot) -> Shot:
        hits = (replace(hit, **changes) if hit.id == hit_id else hit for hit in shot.hits)
        return replace(shot, hits=tuple(sorted(hits, key=lambda hit: hit.t)))

    return _shot_edit(shot_id, change)


def remove_hits(shot_id: str, hit_ids: frozenset[str]) -> Edit:
    """Take hits away."""
    return _shot_edit(
        shot_id, lambda shot: replace(shot, hits=tuple(hit for hit in shot.hits if hit.id not in hit_ids))
    )


def add_take(take: Take) -> Edit:
    """Put a take among the project's."""
    return lambda project: replace(project, takes=(*project.takes, take))


def remove_take(take_id: str) -> Edit:
    """Take a take out of the project; strands that use it keep it."""
    return lambda project: replace(project, takes=tuple(take for take in project.takes if take.id != take_id))


def replace_take(take_id: str, fresh: Take) -> Edit:
    """Put ``fresh`` in a take's place, in the strands that use it as well."""
    fresh = replace(fresh, id=take_id)

    def one(strand: Strand) -> Strand:
        mine = isinstance(strand, Taken) and strand.take.id == take_id
        return replace(strand, take=fresh) if mine else strand

    def shake(old: Shake) -> Shake:
        return replace(old, strands=tuple(map(one, old.strands)))

    def change(project: Project) -> Project:
        shots = tuple(
            replace(
                s,
                shake=shake(s.shake),
                others=tuple(replace(o, shake=shake(o.shake)) for o in s.others),
                plates=tuple(replace(p, shake=shake(p.shake)) if p.shake else p for p in s.plates),
            )
            for s in project.shots
        )
        return replace(project, shots=shots, takes=tuple(fresh if t.id == take_id else t for t in project.takes))

    return change


def add_variant(shot_id: str) -> Edit:
    """Go on with a copy of the shake under the next free letter; the present one is kept."""

    def change(shot: Shot) -> Shot:
        free = next((letter for letter in LETTERS if letter not in shot.letters), None)
        if free is None:
            return shot
        others = (*shot.others, Variant(shot.variant, shot.shake))
        return replace(shot, shake=fresh_ids(shot.shake), variant=free, others=others)

    return _shot_edit(shot_id, change)


def choose_variant(shot_id: str, letter: str) -> Edit:
    """Use another variant."""

    def change(shot: Shot) -> Shot:
        found_variant = next((variant for variant in shot.others if variant.letter == letter), None)
        if found_variant is None:
            return shot
        others = tuple(variant for variant in shot.others if variant is not found_variant)
        return replace(
            shot, shake=found_variant.shake, variant=letter, others=(*others, Variant(shot.variant, shot.shake))
        )

    return _shot_edit(shot_id, change)


def remove_variant(shot_id: str, letter: str) -> Edit:
    """Take a variant away that is not in use."""
    return _shot_edit(
        shot_id,
        lambda shot: replace(shot, others=tuple(variant for variant in shot.others if variant.letter != letter)),
    )


def apply_preset(shot_id: str, preset: Preset, *, keep_amount: bool = False, with_frame: bool = False) -> Edit:
    """Replace a shot's shake by a preset's.

    ``keep_amount``: the shot's intensity stays. ``with_frame``: the preset's lens comes along, and its edges and
    shutter if it carries any; otherwise the shot's stay.
    """

    def change(shot: Shot) -> Shot:
        shake = from_preset(preset)
        if keep_amount:
            shake = replace(shake, intensity=shot.shake.intensity)
        return replace(shot, shake=shake, frame=frame_of(preset, shot.frame) if with_frame else shot.frame)

    return _shot_edit(shot_id, change)


def add_preset(shot_id: str, preset: Preset, *, with_frame: bool = False) -> Edit:
    """Put a preset's strands under those of the shot, at the preset's own intensity."""
    level = preset.shake.intensity
    strands = from_preset(preset).strands
    if level.constant:
        strands = tuple(replace(s, amount=times(s.amount, level.value)) for s in strands)

    def change(shot: Shot) -> Shot:
        shake = replace(shot.shake, strands=(*shot.shake.strands, *strands))
        return replace(shot, shake=shake, frame=frame_of(preset, shot.frame) if with_frame else shot.frame)

    return _shot_edit(shot_id, change)


def hold_reach(shot_id: str, seconds: float) -> Edit:
    """Let the reach of a shot's drifts hold over so many seconds of it from its beginning (0: over all time only): what
    was trimmed off another shot that they come from counts no more."""

    def change(shot: Shot) -> Shot:
        strands = holding(shot.shake.strands, seconds)
        return replace(shot, shake=replace(shot.shake, strands=strands, trimmed=0.0))

    return _shot_edit(shot_id, change)


def holding(strands: tuple[Strand, ...], seconds: float) -> tuple[Strand, ...]:
    """Strands whose drifts hold their reach over so many seconds."""
    return tuple(replace(s, holds=seconds) if isinstance(s, Drift) else s for s in strands)


def in_turn(*edits: Edit) -> Edit:
    """Several edits as one."""

    def change(project: Project) -> Project:
        for edit in edits:
            project = edit(project)
        return project

    return change


def replace_project(project: Project) -> Edit:
    """Another project in place of this one."""
    return lambda before: project


def from_preset(preset: Preset) -> Shake:
    """A preset's shake for use in a project: new strand ids, and where each came from, if not from its holder."""

    def origin(strand: Strand) -> str:
        of_holder = preset.shake.holder is not None and strand.origin.startswith(ORIGIN)
        return strand.origin if of_holder else f"{preset.name}/{strand.id}"

    strands = tuple(replace(s, id=new_id(), origin=origin(s)) for s in preset.shake.strands)
    return replace(preset.shake, strands=strands, preset=preset.name)


def frame_of(preset: Preset, frame: FrameSettings) -> FrameSettings:
    """A shot's frame settings with those that a preset carries."""
    return replace(
        frame, focal_mm=preset.focal_mm, edges=preset.edges or frame.edges, shutter=preset.shutter or frame.shutter
    )


def fresh_ids(shake: Shake) -> Shake:
    """The same shake with new strand ids, so that it can stand in a project twice."""
    return replace(shake, strands=tuple(replace(s, id=new_id()) for s in shake.strands))


def _shot_edit(shot_id: str, change: Callable[[Shot], Shot]) -> Edit:
    return lambda project: replace(project, shots=tuple(change(s) if s.id == shot_id else s for s in project.shots))


def _strands_edit(shot_id: str, change: Callable[[tuple[Strand, ...]], tuple[Strand, ...]]) -> Edit:
    return _shot_edit(
        shot_id, lambda shot: replace(shot, shake=replace(shot.shake, strands=change(shot.shake.strands)))
    )


def _strand_edit(shot_id: str, strand_id: str, change: Callable[[tuple[Strand, ...]], tuple[Strand, ...]]) -> Edit:
    """A change of the strands of the shake that one is in: the shot's, or a plate's own."""
    return change_shake(shot_id, strand_id, lambda shake: replace(shake, strands=change(shake.strands)))


def change_shake(shot_id: str, strand_id: str, changed: Callable[[Shake], Shake]) -> Edit:
    """A change of the shake that a strand is in: the shot's, or a plate's own."""

    def edit(shot: Shot) -> Shot:
        if any(s.id == strand_id for s in shot.shake.strands):
            return replace(shot, shake=changed(shot.shake))
        plates = tuple(
            replace(p, shake=changed(p.shake)) if p.shake and any(s.id == strand_id for s in p.shake.strands) else p
            for p in shot.plates
        )
        return replace(shot, plates=plates)

    return _shot_edit(shot_id, edit)
