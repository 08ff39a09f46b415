"""Each take once in a project's file: strands name it there, and share it in memory."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from young_tremor.model.project import Project
from young_tremor.model.shake import Shake, Strand, Taken
from young_tremor.model.take import Take

Raw = dict[str, Any]


def _strands(raw: Raw) -> list[Raw]:
    """The strands of a stored project, as plain dicts."""
    found = []
    for shot in raw.get("shots", ()):
        shakes = [shot.get("shake"), *(other.get("shake") for other in shot.get("others", ()))]
        shakes += [plate.get("shake") for plate in shot.get("plates", ())]
        found += [strand for shake in shakes if shake for strand in shake.get("strands", ())]
    return found


def takes_apart(raw: Raw) -> dict[str, Raw]:
    """Put a name in the place of every take of a stored project (changed in place); the takes by their names.

    Two that differ and share an id get names of their own.
    """
    table: dict[str, Raw] = {}
    for strand in _strands(raw):
        take = strand.get("take")
        if isinstance(take, dict):
            name = str(take["id"])
            while table.get(name, take) != take:
                name += "+"
            table[name] = take
            strand["take"] = name
    listed = []
    for take in raw.get("takes", ()):
        name = str(take["id"])
        while table.get(name, take) != take:
            name += "+"
        table[name] = take
        listed.append(name)
    raw["takes"] = listed
    return table


def takes_together(raw: Raw) -> Raw:
    """The other way: a stored file with every take in its place again; ``raw`` is left as it is."""
    table = raw.get("takes", {})
    project = _copy_containers(raw["project"])
    for strand in _strands(project):
        if isinstance(strand.get("take"), str):
            strand["take"] = table[strand["take"]]
    project["takes"] = [table[take] if isinstance(take, str) else take for take in project.get("takes", ())]
    return {key: value for key, value in raw.items() if key != "takes"} | {"project": project}


def _copy_containers(raw: Any) -> Any:
    """Dicts and lists of their own; what they hold is shared."""
    if isinstance(raw, dict):
        return {key: _copy_containers(value) for key, value in raw.items()}
    return [_copy_containers(item) for item in raw] if isinstance(raw, list) else raw


def shared_takes(project: Project) -> Project:
    """The same project, equal takes being one and the same object."""
    known: dict[Take, Take] = {take: take for take in project.takes}

    def one(strand: Strand) -> Strand:
        return replace(strand, take=known.setdefault(strand.take, strand.take)) if isinstance(strand, Taken) else strand

    def shake(old: Shake) -> Shake:
        return replace(old, strands=tuple(map(one, old.strands)))

    if not any(isinstance(s, Taken) for shot in project.shots for s in shot.every_strand):
        return project
    shots = tuple(
        replace(
            shot,
            shake=shake(shot.shake),
            others=tuple(replace(o, shake=shake(o.shake)) for o in shot.others),
            plates=tuple(replace(p, shake=shake(p.shake)) if p.shake else p for p in shot.plates),
        )
        for shot in project.shots
    )
    return replace(project, shots=shots)
