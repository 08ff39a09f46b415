"""Where a shake and its strands came from, what has been changed since, and the way back."""

from __future__ import annotations

from msgspec.structs import replace

from young_tremor.engine.library import preset_library, takes
from young_tremor.model.holder import ORIGIN, Holder
from young_tremor.model.project import Preset, Shot
from young_tremor.model.shake import Shake, Strand, Taken
from young_tremor.model.shot_edits import holding
from young_tremor.motion.holder import strands_of
from young_tremor.motion.strand_kinds import fresh, word_of


def plain(kind: str, strand_id: str, seed: int) -> Strand:
    """A strand as it comes when it is added: ``drift``, ``jolts``, ``plotted`` or ``shimmer``."""
    return fresh(kind, strand_id, seed)


def source(strand: Strand, holder: Holder | None) -> Strand:
    """What a strand was: the preset's strand, one that the shake's holder makes, what was found to follow, or a plain
    one of its kind if it came from none (or it is gone)."""
    if isinstance(strand, Taken):
        return takes.strand_of(strand.take)
    name, _, key = strand.origin.rpartition("/")
    if strand.origin.startswith(ORIGIN):
        fresh_strands = () if holder is None else strands_of(holder)
        return next((item for item in fresh_strands if item.origin == strand.origin), strand)
    if key and not name:
        return strand
    preset = _preset(name)
    found_strand = next((s for s in preset.shake.strands if s.id == key), None) if preset else None
    return found_strand if type(found_strand) is type(strand) else plain(word_of(type(strand)), strand.id, strand.seed)


def is_strand_changed(strand: Strand, holder: Holder | None) -> bool:
    """Whether a strand differs from what it was in its preset; False for one that came from none."""
    return bool(strand.origin) and _bare(strand) != _bare(source(strand, holder))


def is_changed(shake: Shake) -> bool:
    """Whether a shake differs from the preset it came from; False for one that came from none."""
    preset = _preset(shake.preset)
    if preset is None:
        return False
    mine, was = (
        (replace(s, strands=(), preset="", begins=0.0, trimmed=0.0), [_bare(strand) for strand in s.strands])
        for s in (shake, preset.shake)
    )
    return mine != was


def gives_way(shot: Shot) -> bool:
    """Whether a shot still has the drift that footage is opened with, as it came: whatever motion is put on first
    takes its place."""
    shake = shot.shake
    return (
        bool(shake.strands)
        and bool(shake.preset)
        and shake.preset == preset_library.starting_preset().name
        and not is_changed(shake)
    )


def _bare(strand: Strand) -> Strand:
    """A strand without what does not change how it moves, or follows from the shot it is on: its course, its name."""
    (free,) = holding((strand,), 0.0)
    return replace(free, id="", name="", note="", origin="", solo=False, seed=0)


def _preset(name: str) -> Preset | None:
    return preset_library.by_name().get(name.casefold()) if name else None
