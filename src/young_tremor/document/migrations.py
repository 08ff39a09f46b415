"""Steps from each old version of a file to the next, on plain dicts, before any object exists."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

VERSION = 8
RawDocument = dict[str, Any]  # as it was read, of whatever version


def _pivots_may_move(raw: Any) -> Any:
    """1 → 2: a pivot's x and y become curves."""
    if isinstance(raw, dict):
        out = {key: _pivots_may_move(value) for key, value in raw.items()}
        pivot = out.get("pivot")
        if isinstance(pivot, dict):
            out["pivot"] = {k: {"value": v} if isinstance(v, int | float) else v for k, v in pivot.items()}
        return out
    return [_pivots_may_move(item) for item in raw] if isinstance(raw, list) else raw


def _within_limits(raw: Any) -> Any:
    """2 → 3: numbers that were accepted and then taken as the nearest that makes sense, are written as that.

    From version 3 on a file says every number, and each take stands in it once. Files before it leave out what is as
    it was by default in version 2: whoever changes a default fills in the old one here.
    """
    if isinstance(raw, list):
        return [_within_limits(item) for item in raw]
    if not isinstance(raw, dict):
        return raw
    out = {key: _within_limits(value) for key, value in raw.items()}
    for key in ("share", "rattle", "tail", "regularity", "roughness", "irregular"):
        number = out.get(key)
        if key == "share" and "hold" not in out:
            continue  # a plate's share of the shake may be anything
        if isinstance(number, int | float) and not isinstance(number, bool):
            out[key] = min(max(number, 0), 1)
    if isinstance(keys := out.get("keys"), list) and all(isinstance(k, dict) and _is_time(k.get("t")) for k in keys):
        out["keys"] = list({key["t"]: key for key in sorted(keys, key=lambda key: key["t"])}.values())
    return out


def _keep_old_rules(raw: Any) -> Any:
    """3 → 4: drifts and jolts keep the rule by which they were worked out, and an intensity that jumped still does."""
    if isinstance(raw, list):
        return [_keep_old_rules(item) for item in raw]
    if not isinstance(raw, dict):
        return raw
    out = {key: _keep_old_rules(value) for key, value in raw.items()}
    if out.get("kind") in ("drift", "jolts"):
        out.setdefault("rule", 1)
    intensity = out.get("intensity")
    if isinstance(intensity, dict) and isinstance(keys := intensity.get("keys"), list):
        hard = [{**k, "ease": "hard"} if isinstance(k, dict) and k.get("ease") == "hold" else k for k in keys]
        out["intensity"] = {**intensity, "keys": hard}
    return out


def _colours_as_they_were(raw: RawDocument) -> RawDocument:
    """7 → 8: what is of another colour space than the footage stays as it was."""
    project = raw.get("project")
    shots = project.get("shots") if isinstance(project, dict) else None
    if not isinstance(project, dict) or not isinstance(shots, list):
        return raw
    out = []
    for shot in shots:
        frame = shot.get("frame", {}) if isinstance(shot, dict) else None
        out.append({**shot, "frame": {"match_colours": False, **frame}} if isinstance(frame, dict) else shot)
    return {**raw, "project": {**project, "shots": out}}


def _unchanged(raw: Any) -> Any:
    """What is new has a default by which all is as it was."""
    return raw


def _is_time(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


#: version → pure function to the next version. Gapless from 1 to VERSION - 1.
STEPS: dict[int, Callable[[RawDocument], RawDocument]] = {
    1: _pivots_may_move,
    2: _within_limits,
    3: _keep_old_rules,
    4: _unchanged,  # plates have a distance and can lie on the glass
    5: _unchanged,  # titles and fills, plates with a time of their own, depth, spans, sounds
    6: _unchanged,  # places of sounds, files that follow it, outlines alone, together, free steps, holders, unlike hits
    7: _colours_as_they_were,
}


def migrate(raw: RawDocument) -> RawDocument:
    """The same document in today's version; ``raw`` is left as it is."""
    while raw["version"] < VERSION:
        raw = {**STEPS[raw["version"]](raw), "version": raw["version"] + 1}
    return raw
