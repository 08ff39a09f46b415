"""Heavy libraries that few need: imported when they are first used."""

from __future__ import annotations

import importlib
from typing import Any


class LazyModule:
    """Stands for a module until something of it is asked for. Any thread may ask."""

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, attribute: str) -> Any:
        value = getattr(importlib.import_module(self._name), attribute)
        setattr(self, attribute, value)
        return value


def lazily(name: str) -> LazyModule:
    """A module by its name, imported when something of it is first asked for."""
    return LazyModule(name)
