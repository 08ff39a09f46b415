"""Shots that somebody holds."""

from __future__ import annotations

from msgspec.structs import replace

from young_tremor.model.holder import ORIGIN, Holder
from young_tremor.model.project import Shot
from young_tremor.model.shake import Shake, Strand
from young_tremor.model.shot_edits import holding
from young_tremor.motion.holder import held_by, is_as_made


def changed(shake: Shake, **changes: object) -> Shake:
    """A shake with its holder changed, and with it all strands that follow; as it is where nobody holds it."""
    if shake.holder is None:
        return shake
    seconds = max((getattr(strand, "holds", 0.0) for strand in shake.strands), default=0.0)
    shake = held_by(shake, replace(shake.holder, **changes))
    return replace(shake, strands=holding(shake.strands, seconds)) if seconds else shake


def is_changed_by_hand(shake: Shake, strand: Strand) -> bool:
    """Whether a strand that a holder made was changed since, so that the holder leaves it alone."""
    if shake.holder is None or not strand.origin.startswith(ORIGIN):
        return False
    return not is_as_made(strand, shake.holder)


def with_holder(shot: Shot, holder: Holder, seconds: float) -> Shot:
    """A shot that somebody holds: in place of its shake, or of the holder that it has; the reach holds over so many
    seconds."""
    shake = shot.shake if shot.shake.holder is not None else Shake()
    shake = held_by(shake, holder)
    return replace(shot, shake=replace(shake, strands=holding(shake.strands, seconds)))
