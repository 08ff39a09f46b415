"""Folders of a person's own, as the desktop's rules (XDG) say: data, settings, state. Each may be missing."""

from __future__ import annotations

import os
import tempfile
from functools import cache
from pathlib import Path

import platformdirs

NAME = "young-tremor"


def data() -> Path:
    """What a person keeps for all projects: presets, takes."""
    return _folder("XDG_DATA_HOME", "user_data_path")


def config() -> Path:
    """What a person has set once for all projects."""
    return _folder("XDG_CONFIG_HOME", "user_config_path")


def state() -> Path:
    """What the application keeps for itself: its log, files under way."""
    return _folder("XDG_STATE_HOME", "user_state_path")


def caches() -> Path:
    """What can be made again at any time: waves of sound."""
    return _folder("XDG_CACHE_HOME", "user_cache_path")


def _folder(variable: str, which: str) -> Path:
    text = os.environ.get(variable, "")
    return Path(text) / NAME if os.path.isabs(text) else _own(which, os.environ.get("HOME", ""))


@cache
def _own(which: str, home: str) -> Path:
    try:
        path: Path = getattr(platformdirs, which)(NAME, appauthor=False)
        if path.is_absolute():
            return path
    except (RuntimeError, KeyError, OSError):
        pass  # nobody knows where this person lives
    return Path(tempfile.gettempdir()) / f"{NAME}-{os.getuid()}"


def make_folder(folder: Path) -> bool:
    """Make a folder if need be; whether it can be written to."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError:
        return False
    return os.access(folder, os.W_OK)
