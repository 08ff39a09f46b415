"""Presets and sounds by name, group and note, without what they are made of: a list takes no pictures."""

from __future__ import annotations

import json
from importlib import resources
from pathlib import Path
from typing import Any

from young_tremor.base import xdg

Row = tuple[str, str, str]  # name, group, note


def presets() -> list[Row]:
    """The shipped presets in the order in which they are shown, then the person's own by name."""
    shipped = [(item["name"], item["group"], item["note"]) for item in _read_asset("presets/factory.json")["presets"]]
    if not any((xdg.data() / "presets").glob("*.json")):
        return shipped
    from young_tremor.engine.library import preset_library  # noqa: PLC0415 - it imports all that a preset is made of

    return shipped + [(preset.name, preset.group, preset.note) for preset in preset_library.own()[0]]


def sounds() -> list[Row]:
    """The shipped sounds: name, kind (*rumble*, *knocks*) and note."""
    every = _read_asset("sounds/sounds.json")["sounds"]
    return [(item["sound"]["name"], item["sound"]["kind"], item["note"]) for item in every]


def _read_asset(name: str) -> Any:
    return json.loads(Path(str(resources.files("young_tremor.assets") / name)).read_bytes())
