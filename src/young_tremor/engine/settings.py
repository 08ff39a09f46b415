"""What a person has set once for all projects."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import msgspec
from msgspec.structs import replace

from young_tremor.document import store
from young_tremor.engine import library


class Settings(msgspec.Struct, frozen=True, omit_defaults=True):
    """``tap_lag``: seconds by which a person taps late. ``favourites``: names of presets."""

    tap_lag: float = 0.12
    favourites: tuple[str, ...] = ()


def _path() -> Path:
    return library.data_folder() / "settings.json"


def load() -> Settings:
    """The settings; as they come where there are none or the file cannot be read."""
    try:
        return msgspec.json.decode(_path().read_bytes(), type=Settings)
    except (OSError, msgspec.MsgspecError):
        return Settings()


def change(**changes: Any) -> Settings:
    """Change settings and keep them. TremorError if they cannot be written."""
    made = replace(load(), **changes)
    store.keep(msgspec.json.format(msgspec.json.encode(made)) + b"\n", _path())
    return made
