"""The languages that the window speaks, and its sentences in them (``docs/translating.md``)."""

from __future__ import annotations

import os
import re
from functools import cache
from pathlib import Path

from young_tremor.assets import ASSETS
from young_tremor.base.lazy_import import lazily
from young_tremor.engine.library import settings

FOLDER = ASSETS / "translations"
OWN = "en"
ElementTree = lazily("xml.etree.ElementTree")  # who reads English does not wait for it


def offered() -> tuple[str, ...]:
    """The languages that there are sentences in, ours first."""
    files = sorted(path.stem.rpartition("_")[2] for path in FOLDER.glob("young-tremor_*.ts"))
    return (OWN, *files)


@cache
def chosen() -> str:
    """The language of this process: the one that is set, or the desktop's where it is offered, or ours."""
    language = settings.load().language
    if language in offered():
        return language
    for variable in ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG"):
        words = [re.split(r"[_.@-]", word)[0].lower() for word in os.environ.get(variable, "").split(":") if word]
        if words:
            return next((word for word in words if word in offered()), OWN)
    return OWN


def path_of(language: str) -> Path:
    """The file of a language's sentences."""
    return FOLDER / f"young-tremor_{language}.ts"


@cache
def sentences(language: str) -> dict[str, str]:
    """What each sentence is in a language, as far as it is translated; nothing for ours."""
    if language == OWN:
        return {}
    messages = ElementTree.parse(path_of(language)).iter("message")
    pairs = ((message.findtext("source") or "", message.findtext("translation") or "") for message in messages)
    return {source: text for source, text in pairs if text}


def first_sentence(note: str) -> str:
    """What a note of a preset or a sound says it is for, which is translated; its sources and figures follow."""
    return note.partition(". ")[0]


def translated(text: str) -> str:
    """A sentence in the language of this process."""
    return sentences(chosen()).get(text, text)
