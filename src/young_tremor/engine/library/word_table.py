"""The words of the ask line, which translators translate: ``assets/ask_words.json``."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources
from typing import Any


@cache
def table() -> dict[str, Any]:
    """The whole file, by section."""
    path = resources.files("young_tremor.assets").joinpath("ask_words.json")
    return dict(json.loads(path.read_text(encoding="utf-8")))


@cache
def meaning(section: str) -> dict[str, str]:
    """What each word of a section stands for: ``meaning("units")["pixels"]`` is ``"px"``."""
    return {word: name for name, words in table()[section].items() for word in words}


@cache
def words(section: str) -> frozenset[str]:
    """The words of a section that is a plain list."""
    return frozenset(table()[section])


def phrases(section: str, name: str) -> str:
    """What the trade calls something, by commas; empty if nothing is known."""
    return str(table()[section].get(name, ""))
