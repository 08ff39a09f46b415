"""Things found by words: by their names, by what the trade calls them, and by what is said about them."""

from __future__ import annotations

import difflib
import re
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import lru_cache
from operator import itemgetter

_WORD = re.compile(r"[^\W_]+(?:['’][^\W_]+)*|%")
ENDINGS = ("ings", "ing", "ies", "ed", "es", "er", "s", "e", "y")
NAME, PHRASE, GROUP, SAID = 1.0, 0.8, 0.45, 0.3  # what a word counts, by where it stands
PART, NEAR = 0.75, 0.6  # what a beginning of a word counts, and one with a slip of the finger
WHOLE_NAME, WHOLE_PHRASE = 1.5, 1.1  # more, where all that is asked for is a name, or one of the phrases
ALIKE = 0.85


@dataclass(frozen=True)
class Findable:
    """Something that can be found. ``phrases``: what else it is called; ``group``: where it belongs; ``weight``: how
    likely it is meant."""

    key: str
    name: str
    phrases: tuple[str, ...] = ()
    group: str = ""
    explanation: str = ""
    weight: float = 1.0


@dataclass
class _Indexed:
    item: Findable
    words: dict[str, float] = field(default_factory=dict)  # by stem, the most that it counts
    name: tuple[str, ...] = ()
    phrases: frozenset[tuple[str, ...]] = frozenset()


class WordSearch:
    """An index of what can be found."""

    def __init__(self, items: Iterable[Findable]) -> None:
        self._indexed: list[_Indexed] = []
        self._holders: dict[str, list[int]] = defaultdict(list)
        for item in items:
            self._add(item)

    def _add(self, item: Findable) -> None:
        entry = _Indexed(item, name=stems(item.name), phrases=frozenset(map(stems, item.phrases)))
        for text, counts in ((item.explanation, SAID), (item.group, GROUP), (item.name, NAME)):
            for word in stems(text):
                entry.words[word] = max(entry.words.get(word, 0.0), counts)
        for phrase in entry.phrases:
            counts = PHRASE if len(phrase) <= 1 else PHRASE * 0.85
            for word in phrase:
                entry.words[word] = max(entry.words.get(word, 0.0), counts)
        for word in entry.words:
            self._holders[word].append(len(self._indexed))
        self._indexed.append(entry)

    def find(self, text: str, most: int = 40) -> list[tuple[float, Findable]]:
        """The likeliest first, each with its score, 0 to about 2.5. A thing counts by the share of the words that it
        has."""
        query = stems(text)
        if not query:
            return []
        scores: dict[int, float] = defaultdict(float)
        matches: dict[int, int] = defaultdict(int)
        rarity = [self._rarity(word) for word in query]
        for word, rare in zip(query, rarity, strict=True):
            best: dict[int, float] = {}
            for indexed_word, likeness in self._alike(word):
                for number in self._holders[indexed_word]:
                    best[number] = max(best.get(number, 0.0), likeness * self._indexed[number].words[indexed_word])
            for number, value in best.items():
                scores[number] += value * rare / sum(rarity)
                matches[number] += 1
        ranked = []
        for number, score in scores.items():
            entry = self._indexed[number]
            whole = _whole(entry, query)
            share = matches[number] / len(query)
            ranked.append(((score * share + whole) * entry.item.weight, -number, entry.item))
        ranked.sort(key=itemgetter(0, 1), reverse=True)
        return [(score, item) for score, _, item in ranked[:most]]

    def _rarity(self, word: str) -> float:
        """How much a word tells: less if many things have it."""
        return 1 / (1 + len(self._holders.get(word, ()))) ** 0.35

    def _alike(self, word: str) -> list[tuple[str, float]]:
        """The words of the index that a word may mean, with how surely."""
        out = [(word, 1.0)] if word in self._holders else []
        if len(word) >= 2:
            out += [
                (indexed_word, PART)
                for indexed_word in self._holders
                if indexed_word != word and indexed_word.startswith(word)
            ]
        if not out and len(word) >= 4:
            out = [(indexed_word, NEAR) for indexed_word in difflib.get_close_matches(word, self._holders, 3, ALIKE)]
        return out


def _whole(entry: _Indexed, query: tuple[str, ...]) -> float:
    """What it counts that all words are its name, or one of its phrases."""
    if query == entry.name:
        return WHOLE_NAME
    if query in entry.phrases:
        return WHOLE_PHRASE
    begins = entry.name[: len(query)] == query
    return 0.4 if begins else 0.0


@lru_cache(maxsize=16384)
def stems(text: str) -> tuple[str, ...]:
    """The words of a text without what grammar puts at their ends, in small letters."""
    return tuple(_stem(word.replace("’", "'").removesuffix("'s")) for word in _WORD.findall(text.casefold()))


def _stem(word: str) -> str:
    for ending in ENDINGS:
        if word.endswith(ending) and len(word) - len(ending) >= 3:
            bare = word[: -len(ending)]
            return bare[:-1] if len(bare) > 3 and bare[-1] == bare[-2] else bare
    return word
