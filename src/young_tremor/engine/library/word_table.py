"""The words of the ask line: ``assets/ask_words.json``, and those of the window's language beside them."""

from __future__ import annotations

import json
from functools import cache
from typing import Any

from young_tremor.assets import ASSETS
from young_tremor.engine.library import translations


@cache
def table() -> dict[str, Any]:
    """The whole file, by section, with the words of the language of this process."""
    words = dict(json.loads((ASSETS / "ask_words.json").read_text(encoding="utf-8")))
    more = ASSETS / "translations" / f"ask_words_{translations.chosen()}.json"
    if more.exists():
        for section, added in json.loads(more.read_text(encoding="utf-8")).items():
            words[section] = _joined(words[section], added)
    return words


def _joined(words: Any, more: Any) -> Any:
    """The words of a section and those of another language, both in the section's own form."""
    if isinstance(words, dict):
        return words | {name: _joined(words[name], part) if name in words else part for name, part in more.items()}
    if isinstance(words, list):
        return [*words, *more]
    return f"{words}, {more}" if isinstance(words, str) else more


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
