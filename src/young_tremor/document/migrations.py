"""Steps from each old version of a file to the next, on plain dicts, before any object exists."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

VERSION = 1

#: version → pure function to the next version. Gapless from 1 to VERSION - 1.
STEPS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}


def migrate(raw: dict[str, Any]) -> dict[str, Any]:
    """The same document in today's version; ``raw`` is left as it is."""
    while raw["version"] < VERSION:
        raw = {**STEPS[raw["version"]](raw), "version": raw["version"] + 1}
    return raw
