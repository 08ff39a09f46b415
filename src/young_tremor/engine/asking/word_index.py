"""The index of the manual: the words that the ask line knows, and where each leads."""

from __future__ import annotations

from collections import defaultdict
from urllib.parse import quote

from young_tremor.engine.asking import ask, settings_index
from young_tremor.engine.asking.word_search import Findable

ASK = "ask"  # the scheme of links that ask for a word
MOST = 3  # places that a word leads to
WHERE = {
    "frame": "Frame",
    "shake": "row of the chart",
    "strand": "Strand",
    "plate": "Plates",
    "sound": "Sound",
    "mix": "Sound",
    "preferences": "Preferences",
}
HEAD = """# Index

Words that people use, and where each leads: a number or switch and the part of the panel that has it, a command and its
menu, or a page of this manual. In the window, a click on a word asks for it; Ctrl+K takes any of them."""


def index() -> dict[str, tuple[str, ...]]:
    """Where each word leads, in Markdown, by the words in the order of the alphabet."""
    places: dict[str, list[str]] = defaultdict(list)
    plain = [item for item in ask.findables() if not item.key.startswith(f"do:{ask.RENDER_AS}")]  # as “Render” is
    for item in plain:
        for word in item.phrases:
            where = _place_of(item)
            if where not in places[word.casefold()]:
                places[word.casefold()].append(where)
    return {word: tuple(places[word][:MOST]) for word in sorted(places)}


def _place_of(item: Findable) -> str:
    kind, _, key = item.key.partition(":")
    if kind == "page":
        return f"the page [{item.name}]({key}.md)"
    if kind == "do":
        return f"{item.name.rstrip('…')} (menu {item.group})"
    setting = settings_index.settings()[int(key)]
    return f"{item.name} ({WHERE[setting.owner]})"


def page() -> str:
    """The page of the index, in Markdown."""
    lines, letter = [HEAD], ""
    for word, places in index().items():
        if word[0].upper() != letter:
            letter = word[0].upper()
            lines += ["", f"## {letter}", ""]
        lines.append(f"- [{word}]({ASK}:{quote(word)}): {', '.join(places)}")
    return "\n".join(lines) + "\n"
