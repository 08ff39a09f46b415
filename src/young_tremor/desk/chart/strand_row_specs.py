"""What the chart shows of each kind of strand: its words, its second rule, the room its trace needs."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from young_tremor.desk.chart.row_heads import RATE, SETTLE, SLOW, SLOW_TIP, SPEED
from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.engine.library import takes
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import Shot
from young_tremor.model.shake import Drift, Jolts, Plotted, Shimmer, Strand, Taken


@dataclass(frozen=True)
class SecondControl:
    """The rule beside the amount. ``read(strand, now)`` its value; ``write(strand, now, value)`` what changes."""

    words: str
    step: str
    scale: NumberScale
    value: float
    tip: str
    read: Callable[[Any, float], float]
    write: Callable[[Any, float, float], dict[str, object]]


@dataclass(frozen=True)
class StrandRowSpec:
    """``words``: in the menu that adds one; ``word``: what the core calls it. ``note(strand, shot)``: under its name.
    ``room(strand, shot)``: how high its row reaches, in times its largest channel; ``own_keys``: it is keys itself,
    which its row edits while nothing else is shaped."""

    word: str
    words: str
    second: SecondControl
    note: Callable[[Any, Shot], str]
    room: Callable[[Any, Shot], float]
    own_keys: bool = False


def _plain(words: str) -> Callable[[Strand, Shot], str]:
    return lambda strand, shot: strand.note or words


def _hits(strand: Jolts, shot: Shot) -> str:
    words = counted(len(shot.hits), "hit") if shot.hits else tr("no hits yet, press H")
    return f"{strand.note} · {words}" if strand.note else words


def _strongest(strand: Strand, shot: Shot) -> float:
    return 1.3 * (max((hit.strength for hit in shot.hits), default=1.0) or 1.0)


KINDS: dict[type, StrandRowSpec] = {
    Drift: StrandRowSpec(
        "drift",
        "Drift",
        SecondControl(
            "Rate",
            "Rate",
            RATE,
            1,
            "Swings per second",
            lambda strand, now: float(strand.rate.at(np.array([now]))[0]),
            lambda strand, now, v: {"rate": with_value_at(strand.rate, now, v)},
        ),
        _plain("drift"),
        lambda strand, shot: 1.6 + 0.9 * strand.wander.depth,
    ),
    Jolts: StrandRowSpec(
        "jolts",
        "Jolts",
        SecondControl(
            "Settle",
            "Settle",
            SETTLE,
            0.35,
            "How long until a third of it is left",
            lambda strand, now: strand.settle,
            lambda strand, now, v: {"settle": v},
        ),
        _hits,
        _strongest,
    ),
    Plotted: StrandRowSpec(
        "plotted",
        "Plotted",
        SecondControl(
            "Irregular",
            "Irregular",
            NumberScale(0, 1, "", 2),
            0.3,
            "How much its rounds differ, if it repeats",
            lambda strand, now: strand.irregular,
            lambda strand, now, v: {"irregular": v},
        ),
        _plain("plotted by hand"),
        _strongest,
        own_keys=True,
    ),
    Shimmer: StrandRowSpec(
        "shimmer",
        "Shimmer",
        SecondControl(
            "Speed",
            "Speed",
            SPEED,
            2.5,
            "How many times a second it has changed",
            lambda strand, now: strand.speed,
            lambda strand, now, v: {"speed": v},
        ),
        _plain("shimmer"),
        _strongest,
    ),
    Taken: StrandRowSpec(
        "take",
        "Take…",
        SecondControl(
            "Slow",
            "Slow part",
            SLOW,
            0,
            SLOW_TIP,
            lambda strand, now: strand.cutoff,
            lambda strand, now, v: takes.relearn_changes(strand, cutoff=v),
        ),
        _plain("take"),
        _strongest,
    ),
}
