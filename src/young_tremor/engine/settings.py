"""What a person has set once for all projects."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

import msgspec
from msgspec.structs import replace

from young_tremor.base import files, places
from young_tremor.base.errors import TremorError
from young_tremor.model.limits import Checked

MOST = 4 << 20  # bytes
RECENT = 8


class Settings(Checked, frozen=True):
    """``tap_lag``: seconds by which a person taps late. ``favourites``: names of presets. ``recent``: project files,
    the last first. ``menus``: whether the menu bar is shown. ``place``: where the window was, as Qt writes it
    (hexadecimal), ``split``: how high picture and chart were, ``across``: how wide reel, picture and panel. ``first``:
    name of the preset of new footage, empty for ours; ``autosave``: seconds of change after which unsaved work is kept;
    ``night``: whether the paper is; ``folded``: groups of the panel that are; ``keys``: of commands that have others
    than they come with."""

    tap_lag: float = 0.12
    favourites: tuple[str, ...] = ()
    recent: tuple[str, ...] = ()
    menus: bool = True
    first: str = ""
    autosave: float = 60.0
    night: bool = False
    folded: tuple[str, ...] = ()
    place: str = ""
    split: tuple[int, ...] = ()
    across: tuple[int, ...] = ()
    keys: dict[str, tuple[str, ...]] = {}


def _path() -> Path:
    return places.data() / "settings.json"


def load() -> Settings:
    """The settings; as they come where there are none or the file cannot be read."""
    try:
        return msgspec.json.decode(files.read_regular(_path(), MOST, "settings"), type=Settings)
    except (TremorError, msgspec.MsgspecError):
        return Settings()


def change(**changes: Any) -> Settings:
    """Change settings and keep them. TremorError if they cannot be written."""
    return update(lambda settings: replace(settings, **changes))


def with_fold(now: Settings, name: str, *, folded: bool) -> Settings:
    """The settings with a group of the panel folded or open."""
    rest = tuple(each for each in now.folded if each != name)
    return replace(now, folded=(*rest, name) if folded else rest)


def opened(path: Path) -> None:
    """Remember a project file as the last that was open. Never raises."""
    with suppress(TremorError):
        name = str(path.resolve())
        update(lambda now: replace(now, recent=(name, *(each for each in now.recent if each != name))[:RECENT]))


def update(edit: Callable[[Settings], Settings]) -> Settings:
    """The same by a function of what is kept now: two windows that do it at once lose nothing."""
    with files.locked(_path()):
        made = edit(load())
        files.keep(msgspec.json.format(msgspec.json.encode(made)) + b"\n", _path())
    return made
