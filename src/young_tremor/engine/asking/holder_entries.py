"""Holders as entries: who holds the camera, in place of the shake or as the one that there is."""

from __future__ import annotations

from young_tremor.engine.asking import holder_phrase
from young_tremor.engine.asking.entries import ChangeShot, Entry
from young_tremor.engine.asking.question import Question
from young_tremor.engine.library.holders import with_holder
from young_tremor.model.project import Shot

CERTAIN, LIKELY, POSSIBLE = 2.6, 1.5, 0.9  # by how many things were said
UNKNOWN = 0.4  # what each word that is not understood leaves of that


def holders(question: Question) -> list[Entry]:
    """What can be done with a holder that was understood."""
    phrase = holder_phrase.understand(question.tokens)
    if phrase is None:
        return []
    score = (POSSIBLE, LIKELY, CERTAIN)[min(phrase.parts, 3) - 1] * UNKNOWN ** len(phrase.unknown)
    seconds = question.place.seconds or 0.0

    def change(shot: Shot) -> Shot:
        return with_holder(shot, phrase.holder, seconds)

    return [Entry("move", "Held by somebody", f"Holder: {phrase.words()}", ChangeShot("Holder", change), score)]
