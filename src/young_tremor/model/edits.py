"""Pure functions project → project. The session gives them a label and keeps them undoable."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from young_tremor.model.project import Media, Plate, Preset, Project, Shot, new_id
from young_tremor.model.shake import Shake, Strand

Edit = Callable[[Project], Project]


def add_shot(path: Path, preset: Preset | None = None) -> Edit:
    """Append a shot of the footage at ``path``, moved by ``preset`` if one is given."""
    media = Media(str(path))
    shot = Shot(new_id(), path.stem, (Plate(new_id(), path.stem, media),))
    if preset:
        shot = _with_preset(shot, preset)
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


def set_strand(shot_id: str, strand_id: str, **changes: Any) -> Edit:
    """Change fields of one strand."""
    return _strands_edit(
        shot_id, lambda strands: tuple(replace(s, **changes) if s.id == strand_id else s for s in strands)
    )


def set_channel(shot_id: str, strand_id: str, channel: str, **changes: Any) -> Edit:
    """Change one channel of a drift: ``reach``, ``rate``, ``phase``, ..."""

    def edit(strands: tuple[Strand, ...]) -> tuple[Strand, ...]:
        def one(strand: Strand) -> Strand:
            changed = replace(strand.channels[channel], **changes)
            return replace(strand, channels=replace(strand.channels, **{channel: changed}))

        return tuple(one(s) if s.id == strand_id else s for s in strands)

    return _strands_edit(shot_id, edit)


def add_strand(shot_id: str, strand: Strand) -> Edit:
    """Put a strand under the others."""
    return _strands_edit(shot_id, lambda strands: (*strands, strand))


def remove_strand(shot_id: str, strand_id: str) -> Edit:
    """Take a strand away."""
    return _strands_edit(shot_id, lambda strands: tuple(s for s in strands if s.id != strand_id))


def apply_preset(shot_id: str, preset: Preset) -> Edit:
    """Replace a shot's shake by a preset's; the lens and edges of the shot stay."""
    return _shot_edit(shot_id, lambda shot: replace(_with_preset(shot, preset), frame=shot.frame))


def _with_preset(shot: Shot, preset: Preset) -> Shot:
    shake = fresh_ids(replace(preset.shake, preset=preset.name))
    return replace(shot, shake=shake, frame=replace(shot.frame, focal_mm=preset.focal_mm))


def fresh_ids(shake: Shake) -> Shake:
    """The same shake with new strand ids, so that it can stand in a project twice."""
    return replace(shake, strands=tuple(replace(s, id=new_id()) for s in shake.strands))


def _shot_edit(shot_id: str, change: Callable[[Shot], Shot]) -> Edit:
    return lambda project: replace(project, shots=tuple(change(s) if s.id == shot_id else s for s in project.shots))


def _strands_edit(shot_id: str, change: Callable[[tuple[Strand, ...]], tuple[Strand, ...]]) -> Edit:
    return _shot_edit(
        shot_id, lambda shot: replace(shot, shake=replace(shot.shake, strands=change(shot.shake.strands)))
    )
