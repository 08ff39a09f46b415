"""What rows of the chart show of a kind of strand, where that is more than its fields say."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from young_tremor.desk.kit.i18n import counted, tr, tr_within
from young_tremor.engine.library import takes
from young_tremor.model import fields
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import Shot
from young_tremor.model.shake import STRAND_TYPES, Drift, Jolts, Plotted, Strand, Taken


def _plain_note(strand: Strand, shot: Shot) -> str:
    return tr(strand.note) if strand.note else tr_within(strand.LABEL)


def _hits_note(strand: Strand, shot: Shot) -> str:
    words = counted(len(shot.hits), "hit") if shot.hits else tr("no hits yet, press H")
    return f"{tr(strand.note)} · {words}" if strand.note else words


def _strongest_hit(strand: Any, shot: Shot) -> float:
    return 1.3 * (max((hit.strength for hit in shot.hits), default=1.0) or 1.0)


def _set_second(strand: Strand, now: float, value: float) -> dict[str, object]:
    """What changes when the number beside the amount is set."""
    field, old = fields.number_at(type(strand), strand.SECOND), fields.value_at(strand, strand.SECOND)
    new = value / field.per
    return {strand.SECOND: with_value_at(old, now, new) if isinstance(old, Curve) else new}


@dataclass(frozen=True)
class StrandRowSpec:
    """How a row shows a kind of strand.

    ``note(strand, shot)``: under its name. ``room(strand, shot)``: how high the row reaches, in times its largest
    channel. ``set_second(strand, now, value)``: what changes with the number beside the amount. ``own_keys``: the
    strand is keys itself, which its row edits while nothing else is shaped.
    """

    note: Callable[[Strand, Shot], str] = _plain_note
    room: Callable[[Any, Shot], float] = _strongest_hit
    set_second: Callable[[Any, float, float], dict[str, object]] = _set_second
    own_keys: bool = False


_PLAIN = StrandRowSpec()
_SPECS: dict[type, StrandRowSpec] = {
    Drift: StrandRowSpec(room=lambda strand, shot: 1.6 + 0.9 * strand.wander.depth),
    Jolts: StrandRowSpec(note=_hits_note),
    Plotted: StrandRowSpec(note=lambda strand, shot: tr(strand.note or "plotted by hand"), own_keys=True),
    Taken: StrandRowSpec(set_second=lambda strand, now, value: takes.relearn_changes(strand, cutoff=value)),
}


def spec_of(kind: type) -> StrandRowSpec:
    """How rows show a kind of strand."""
    return _SPECS.get(kind, _PLAIN)


def menu_entries(*, takes_too: bool = True) -> list[tuple[str, str]]:
    """Kinds of strands for a menu: the word in documents, and the label. A take is chosen from a list first."""
    entries = [(str(kind.__struct_config__.tag), kind) for kind in STRAND_TYPES]
    return [
        (word, tr("Take…") if kind is Taken else tr(kind.LABEL))
        for word, kind in entries
        if takes_too or kind is not Taken
    ]
