"""Steps from each old version of a file to the next, on plain dicts, before any object exists."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

VERSION = 2


def _pivots_may_move(raw: Any) -> Any:
    """1 → 2: a pivot's x and y become curves."""
    if isinstance(raw, dict):
        out = {key: _pivots_may_move(value) for key, value in raw.items()}
        pivot = out.get("pivot")
        if isinstance(pivot, dict):
            out["pivot"] = {k: {"value": v} if isinstance(v, int | float) else v for k, v in pivot.items()}
        return out
    return [_pivots_may_move(each) for each in raw] if isinstance(raw, list) else raw


#: version → pure function to the next version. Gapless from 1 to VERSION - 1.
STEPS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: _pivots_may_move}


def migrate(raw: dict[str, Any]) -> dict[str, Any]:
    """The same document in today's version; ``raw`` is left as it is."""
    while raw["version"] < VERSION:
        raw = {**STEPS[raw["version"]](raw), "version": raw["version"] + 1}
    return raw
