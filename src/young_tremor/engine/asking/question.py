"""A sentence that is asked, and where one stands."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from young_tremor.engine.asking.grammar import Clock, Quantity, Token, Word, tokens
from young_tremor.engine.asking.settings_index import Place
from young_tremor.engine.library import word_table


@dataclass(frozen=True)
class Question:
    """A sentence that is asked at a place of a shot."""

    text: str
    place: Place

    @property
    def clock(self) -> Clock:
        """By what its frames are read."""
        return Clock(self.place.rate)

    @cached_property
    def tokens(self) -> tuple[Token, ...]:
        """Its words and figures in their order."""
        return tokens(self.text, self.clock)

    @cached_property
    def figures(self) -> tuple[Quantity, ...]:
        """Its figures in their order."""
        return tuple(token for token in self.tokens if isinstance(token, Quantity))

    @cached_property
    def words(self) -> tuple[str, ...]:
        """Its words in their order."""
        return tuple(token.text for token in self.tokens if isinstance(token, Word))

    @property
    def content(self) -> tuple[str, ...]:
        """Its words but for those that are there for grammar alone."""
        return tuple(word for word in self.words if word not in word_table.words("stop"))

    @property
    def bare(self) -> tuple[str, ...]:
        """Its words without grammar and without those that say how much: *turn off*, *no*, *less*, *half*."""
        much = word_table.words("off") | word_table.words("turn") | set(word_table.table()["factors"])
        return tuple(word for word in self.content if word not in much)

    def says(self, section: str) -> bool:
        """Whether it has a word of a section of the table."""
        return not word_table.words(section).isdisjoint(self.words)
