"""What a person has set once for all projects."""

from __future__ import annotations

import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Annotated, Any

import msgspec
from msgspec.structs import replace

from young_tremor.base import files, typed_json, xdg
from young_tremor.base.errors import TremorError
from young_tremor.base.number_scale import NumberScale
from young_tremor.model.fields import UNIT, Checked, Number

MOST = 4 << 20  # bytes
RECENT = 8


class Settings(Checked, frozen=True):
    """``tap_lag``: seconds by which a person taps late. ``favourites``: names of presets. ``recent``: project files,
    the last first. ``menus``: whether the menu bar is shown. ``place``: where the window was, as Qt writes it
    (hexadecimal), ``split``: how high picture and chart were, ``across``: how wide reel, picture and panel,
    ``looked``: how large the picture was. ``first``: name of the preset of new footage, empty for ours;
    ``autosave``: seconds of change after which unsaved work is kept;
    ``night``: whether the paper is; ``still``: nothing moves by itself; ``strong``: inks with more contrast;
    ``folded``: groups of the panel that are; ``keys``: of commands that have others than they come with; ``hints``:
    those that were put away; ``compact``: whether rows of the chart are low; ``pictures``: megabytes of pictures kept
    ready; ``device``: name of the sound device, empty for the usual one; ``along``: what goes along when a
    shake is pasted; ``volume`` of playing, and whether it is ``muted``; ``colour_config``: a file of
    OpenColorIO; ``colour_view``: the display and its view through which light and cameras' colours are shown, empty for
    the usual ones; ``cluster``: address of a Dask
    scheduler that deliveries can be shared by, or ``local``; ``tall_panel``: the panel takes the window's whole
    height; ``frames``: times are shown as frames; ``language``: its code, empty for the desktop's."""

    tap_lag: Annotated[
        float,
        Number(
            "Latency of tapped hits",
            "Subtracted from hits tapped in during playback",
            UNIT,
            NumberScale(0, 300, "ms", 0, least=0, most=1000),
            unit="s",
            per=1000,
            noun="tap lag",
            words="latency",
        ),
    ] = 0.12
    favourites: tuple[str, ...] = ()
    recent: tuple[str, ...] = ()
    menus: bool = True
    first: str = ""
    autosave: Annotated[
        float,
        Number(
            "Back up work after",
            "Seconds of work after which a copy is saved",
            (1, 3600),
            NumberScale(5, 300, "s", 0, bend=1.5, least=1, most=3600),
        ),
    ] = 60.0
    night: bool = False
    still: bool = False
    strong: bool = False
    folded: tuple[str, ...] = ()
    place: str = ""
    split: tuple[int, ...] = ()
    across: tuple[int, ...] = ()
    looked: tuple[int, int] = (688, 388)
    keys: dict[str, tuple[str, ...]] = {}
    hints: tuple[str, ...] = ()
    compact: bool = False
    pictures: int = 384
    device: str = ""
    along: tuple[str, ...] = ("apart", "shake")
    volume: Annotated[float, Number("Volume", "Of the desk", UNIT)] = 1.0
    muted: bool = False
    cluster: str = ""
    colour_config: str = ""
    colour_view: tuple[str, str] = ("", "")
    tall_panel: bool = False
    frames: bool = False
    language: str = ""


def _path() -> Path:
    return xdg.config() / "settings.json"


def load() -> Settings:
    """The settings; as they come where there are none or the file cannot be read."""
    for path in (_path(), xdg.data() / "settings.json"):  # the second: where 0.1 kept them
        with suppress(TremorError, msgspec.MsgspecError):
            return _read(path)
    return Settings()


def _read(path: Path) -> Settings:
    return typed_json.decode(files.read_regular(path, MOST, "settings"), Settings)


def set_aside() -> str:
    """Put a settings file that cannot be read beside its place, and a sentence about it; empty if all is well."""
    path = _path()
    if not path.exists():
        return ""
    try:
        _read(path)
    except (TremorError, msgspec.MsgspecError):
        broken = path.with_name(f"settings broken {time.strftime('%Y-%m-%d %H%M%S')}.json")
        try:
            path.replace(broken)
        except OSError:
            return f"The settings in {path} cannot be read: what is set now is not kept."
        return f"The settings could not be read: they are as they come. The old file is {broken}."
    return ""


def change(**changes: Any) -> Settings:
    """Change settings and keep them. TremorError if they cannot be written."""
    return update(lambda settings: replace(settings, **changes))


def with_fold(now: Settings, name: str, *, folded: bool) -> Settings:
    """The settings with a group of the panel folded or open."""
    rest = tuple(text for text in now.folded if text != name)
    return replace(now, folded=(*rest, name) if folded else rest)


def without_hint(now: Settings, name: str) -> Settings:
    """The settings with a hint put away."""
    return replace(now, hints=(*now.hints, name) if name not in now.hints else now.hints)


def remember_project(path: Path) -> None:
    """Remember a project file as the last that was open. Never raises."""
    with suppress(TremorError):
        name = str(path.resolve())
        update(lambda now: replace(now, recent=(name, *(text for text in now.recent if text != name))[:RECENT]))


def update(edit: Callable[[Settings], Settings]) -> Settings:
    """The same by a function of what is kept now: two windows that do it at once lose nothing."""
    with files.lock(_path()):
        set_aside()
        settings = edit(load())
        files.keep(msgspec.json.format(msgspec.json.encode(settings)) + b"\n", _path())
    return settings
