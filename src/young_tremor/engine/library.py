"""What is shipped: factory presets and the demo project."""

from __future__ import annotations

from functools import cache
from importlib.resources import files
from pathlib import Path

from young_tremor.base.errors import UnknownName, from_os
from young_tremor.document import codec, store
from young_tremor.model.project import Preset, Project

ASSETS = Path(str(files("young_tremor.assets")))
DEMO = ASSETS / "demo" / "quillmark.tremor"
DEFAULT_PRESET = "Standing, breathing"


@cache
def presets() -> tuple[Preset, ...]:
    """The factory presets, in the order in which they are shown."""
    path = ASSETS / "presets" / "factory.json"
    return codec.decode_presets(path.read_bytes(), path.name)


def preset(name: str) -> Preset:
    """The preset of that name, whatever its case; UnknownName otherwise."""
    for each in presets():
        if each.name.casefold() == name.strip().casefold():
            return each
    names = ", ".join(f"“{each.name}”" for each in presets())
    raise UnknownName(f"There is no preset “{name}”: choose one of {names}.")


def shake_file(path: Path) -> Preset:
    """The first preset of a saved file; TremorError in one sentence otherwise."""
    try:
        data = path.read_bytes()
    except OSError as error:
        raise from_os(error, path, "read") from error
    found = codec.decode_presets(data, path.name)
    if not found:
        raise UnknownName(f"{path.name} holds no shake: choose another file.")
    return found[0]


def demo_project() -> Project:
    """The demo: Quillmark Press at night."""
    return store.load(DEMO)
