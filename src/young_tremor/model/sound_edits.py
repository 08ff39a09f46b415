"""Pure changes of what is heard of a shot."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from msgspec.structs import replace

from young_tremor.model.project import Project, Shot
from young_tremor.model.shot_edits import Edit
from young_tremor.model.sound import Sound, SoundSway


def _edit_mix(shot_id: str, change: Callable[[Shot], Shot]) -> Edit:
    def edit(project: Project) -> Project:
        return replace(project, shots=tuple(change(s) if s.id == shot_id else s for s in project.shots))

    return edit


def set_mix(shot_id: str, **changes: Any) -> Edit:
    """Change fields of a shot's mix."""
    return _edit_mix(shot_id, lambda shot: replace(shot, sound=replace(shot.sound, **changes)))


def set_sway(shot_id: str, **changes: Any) -> Edit:
    """Change how the sound trembles."""

    def sway(old: SoundSway) -> SoundSway:
        return replace(old, **changes)

    return _edit_mix(shot_id, lambda shot: replace(shot, sound=replace(shot.sound, sway=sway(shot.sound.sway))))


def set_sound(shot_id: str, sound_id: str, **changes: Any) -> Edit:
    """Change fields of one sound."""

    def change(shot: Shot) -> Shot:
        rows = tuple(replace(row, **changes) if row.id == sound_id else row for row in shot.sound.rows)
        return replace(shot, sound=replace(shot.sound, rows=rows))

    return _edit_mix(shot_id, change)


def add_sounds(shot_id: str, sounds: tuple[Sound, ...]) -> Edit:
    """Let sounds be heard besides; one of the same name makes room."""
    names = {sound.name for sound in sounds}

    def change(shot: Shot) -> Shot:
        rows = (*(row for row in shot.sound.rows if row.name not in names), *sounds)
        return replace(shot, sound=replace(shot.sound, on=True, rows=rows))

    return _edit_mix(shot_id, change)


def remove_sound(shot_id: str, sound_id: str) -> Edit:
    """Take a sound away."""

    def change(shot: Shot) -> Shot:
        rows = tuple(row for row in shot.sound.rows if row.id != sound_id)
        return replace(shot, sound=replace(shot.sound, rows=rows))

    return _edit_mix(shot_id, change)
