"""Sounds by name, which of them belong to a preset, and a proposal for a shake that has none."""

from __future__ import annotations

from functools import cache

import msgspec
from msgspec.structs import replace

from young_tremor.base import typed_json
from young_tremor.base.errors import RequestError, UnknownName, UnreadableValue
from young_tremor.engine.library import preset_library
from young_tremor.model import sound_edits
from young_tremor.model.curve import Curve
from young_tremor.model.holder import FLINCH, ORIGIN
from young_tremor.model.project import Preset, Project, Shot
from young_tremor.model.shake import Drift, Jolts, Shake, Taken, blows
from young_tremor.model.shot_edits import new_id
from young_tremor.model.sound import Knocks, Rumble, Sound, SoundSway

SLOW, QUICK = 1.2, 6.0  # rates between which a drift is held by hand, below it swells, above it is driven


class SoundPreset(msgspec.Struct, frozen=True):
    """A sound that is shipped: its note says what it is and by what figures."""

    note: str
    sound: Sound


class _With(msgspec.Struct, frozen=True):
    sound: str
    level: float
    strand: str = ""


class _File(msgspec.Struct, frozen=True):
    format: str
    version: int
    sounds: tuple[SoundPreset, ...]
    together: dict[str, tuple[_With, ...]] = msgspec.field(name="with")


@cache
def _file() -> _File:
    return typed_json.decode((preset_library.ASSETS / "sounds" / "sounds.json").read_bytes(), _File)


def shipped_sounds(kind: type | None = None) -> tuple[SoundPreset, ...]:
    """The sounds that are shipped, of one kind or all."""
    return tuple(sound for sound in _file().sounds if kind is None or isinstance(sound.sound, kind))


def find_sound(kind: type, name: str) -> Sound:
    """A sound by its name, or by the beginning of it; UnknownName with what there is."""
    every = [preset.sound for preset in shipped_sounds(kind)]
    wanted = name.strip().casefold()
    exact = [item for item in every if item.name.casefold() == wanted]
    found = exact or [item for item in every if wanted and item.name.casefold().startswith(wanted)]
    if len(found) == 1:
        return replace(found[0], id=new_id())
    names = ", ".join(item.name for item in found or every)
    what = "rumble" if kind is Rumble else "knocks"
    raise UnknownName(f"There is no {what} “{name}” alone: choose from {names}.")


def sound_rows() -> tuple[tuple[str, str, str], ...]:
    """Name, kind (*rumble*, *knocks*) and note of each."""
    return tuple(
        (preset.sound.name, "rumble" if isinstance(preset.sound, Rumble) else "knocks", preset.note)
        for preset in shipped_sounds()
    )


def of_preset(preset: Preset) -> tuple[Sound, ...]:
    """What belongs to a preset: what was saved with it, or what is shipped for it; none for most held ones."""
    if preset.sounds:
        return tuple(replace(sound, id=new_id()) for sound in preset.sounds)
    jolts = [strand.name for strand in blows(preset.shake.strands)]
    made = []
    for pairing in _file().together.get(preset.name, ()):
        kind, _, name = pairing.sound.partition(" ")
        sound = find_sound(Rumble if kind == "rumble" else Knocks, name)
        sound = replace(sound, level=Curve(pairing.level))
        if isinstance(sound, Knocks) and pairing.strand:
            number = int(pairing.strand[1:])
            sound = replace(sound, strand=jolts[number] if number < len(jolts) else "")
        made.append(sound)
    return tuple(made)


def propose_sounds(shake: Shake) -> tuple[Sound, ...]:
    """Rumble and knocks that go with the strands that are there: what belongs to the presets they came from, and for
    the others a rumble for what drifts, knocks for what is struck."""
    presets = preset_library.by_name()
    out: dict[str, Sound] = {}
    for strand in shake.strands:
        if not strand.on or strand.origin == FLINCH:
            continue
        origin = "" if strand.origin.startswith(ORIGIN) else strand.origin.partition("/")[0]
        preset = presets.get((origin or shake.preset).casefold())
        sounds = of_preset(preset) if preset is not None else ()
        if isinstance(strand, Jolts) and not any(isinstance(sound, Knocks) for sound in sounds):
            sounds = (_usual_knocks(strand),)
        elif isinstance(strand, Drift | Taken) and not sounds:
            rumbles = any(isinstance(sound, Rumble) for sound in out.values())
            sounds = () if rumbles else (_usual_rumble(strand),)
        for sound in sounds:
            out.setdefault(sound.name, sound)
    return tuple(out.values())


def _usual_knocks(strand: Jolts) -> Sound:
    """Knocks for blows that no preset says anything of."""
    heavy = abs(strand.amount.value * strand.reach) > 1.5 or strand.ring < 6
    sound = find_sound(Knocks, "Heavy drop" if heavy else "Dull thud")
    return replace(sound, strand=strand.name, level=Curve(0.0 if heavy else -6.0))


def _usual_rumble(strand: Drift | Taken) -> Sound:
    """A rumble for what moves all the time and no preset says anything of."""
    rate = strand.rate.value if isinstance(strand, Drift) else SLOW
    name = "Machine floor" if rate > QUICK else "Ground" if rate < SLOW else "Stage floor"
    return replace(find_sound(Rumble, name), level=Curve(-15.0))


def add_sounds(
    shot: Shot,
    preset: Preset,
    *,
    together: bool = False,
    rumble: tuple[str, ...] = (),
    knocks: tuple[str, ...] = (),
    sway: float = 0.0,
) -> Shot:
    """A shot with the sounds that are asked for: what belongs to the preset, others as NAME or NAME@dB, and a sway of
    so many dB. RequestError where a preset has none, or knocks would have no hits."""
    rows: list[Sound] = []
    if together:
        rows += of_preset(preset)
        if not rows:
            raise RequestError(
                f"“{preset.name}” has no sound that belongs to it: choose one with --rumble or --knocks."
            )
    rows += [_at_level(Rumble, text) for text in rumble] + [_at_level(Knocks, text) for text in knocks]
    if any(isinstance(row, Knocks) for row in rows) and not shot.hits and not together:
        raise RequestError("Knocks come at hits and there are none: add --hits 1.5, --hits sound or picture.")
    if not 0 <= sway <= 24:
        raise UnreadableValue(f"A sway of {sway:g} dB cannot be used: give 0 to 24.")
    if rows:
        shot = sound_edits.add_sounds(shot.id, tuple(rows))(Project((shot,))).shots[0]
    if sway:
        shot = replace(shot, sound=replace(shot.sound, sway=SoundSway(on=True, level=sway)))
    return shot


def _at_level(kind: type, text: str) -> Sound:
    """A sound by NAME or NAME@dB."""
    name, _, level = text.rpartition("@") if "@" in text else (text, "", "")
    try:
        db = float(level) if level else 0.0
        return replace(find_sound(kind, name), level=Curve(db))
    except ValueError:
        raise UnreadableValue(f"“{text}” is no sound with a level: write it like Ground@-6.") from None
