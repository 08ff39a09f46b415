"""What a step took away from a project, in words: so that nothing is ever removed without a word."""

from __future__ import annotations

from collections.abc import Iterator

from young_tremor.base.units import count_words
from young_tremor.model.project import Project, Shot
from young_tremor.model.shake import Shake
from young_tremor.model.sound import Rumble, Sound

Thing = tuple[str, str]  # what kind of thing it is, and its id


def describe_removals(before: Project, after: Project) -> str:
    """The things of ``before`` that ``after`` has no longer, in a sentence; empty where none went, or where others of
    their kind came in their place."""
    old, new = dict(_things(before)), dict(_things(after))
    gone = {thing: name for thing, name in old.items() if thing not in new}
    came = {kind for kind, _ in new.keys() - old.keys()}
    parts = []
    for kind in dict.fromkeys(kind for kind, _ in gone):
        names = [name for (of, _), name in gone.items() if of == kind]
        if kind in came:
            continue
        parts.append(f"{kind} “{names[0]}”" if len(names) == 1 and names[0] else count_words(len(names), kind))
        if kind == "shot":
            break  # what was in it went with it
    if not parts:
        return ""
    words = parts[0] if len(parts) == 1 else f"{', '.join(parts[:-1])} and {parts[-1]}"
    return f"Removed {words}."


def _things(project: Project) -> Iterator[tuple[Thing, str]]:
    for shot in project.shots:
        yield ("shot", shot.id), shot.name
    for shot in project.shots:
        yield from _of_shot(shot)
    for span in project.spans:
        yield ("span", span.id), span.name
    for take in project.takes:
        yield ("take", take.id), take.name


def _of_shot(shot: Shot) -> Iterator[tuple[Thing, str]]:
    for plate in shot.plates:
        yield ("plate", f"{shot.id}/{plate.id}"), plate.name
        if plate.shake is not None:
            yield from _of_shake(f"{shot.id}/{plate.id}", plate.shake)
    yield from _of_shake(shot.id, shot.shake)
    for hit in shot.hits:
        yield ("hit", f"{shot.id}/{hit.id}"), f"{hit.t:.2f} s"
    for row in shot.sound.rows:
        yield ("sound", f"{shot.id}/{row.id}"), _sound_name(row)


def _of_shake(owner: str, shake: Shake) -> Iterator[tuple[Thing, str]]:
    for strand in shake.strands:
        yield ("strand", f"{owner}/{strand.id}"), strand.name


def _sound_name(row: Sound) -> str:
    return row.name or ("rumble" if isinstance(row, Rumble) else "sound")
