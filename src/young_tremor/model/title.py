"""What a title says and how it is set."""

from __future__ import annotations

from typing import Literal

from young_tremor.base.errors import UnreadableValue
from young_tremor.model.limits import Checked, check_text

Apart = Literal["whole", "line", "word", "letter"]
Align = Literal["left", "centre", "right"]
FACE = "Anton"  # shipped with the application
MOST_LETTERS = 2000


class Title(Checked, frozen=True):
    """Lines of text in one face.

    ``face``: the name of an installed face or one of ours, or the path of a font file. ``size``: of the em, percent of
    the frame's height. ``outline``: its width, ``shadow_far`` and ``shadow_soft``: how far down and right it falls and
    how soft it is, all in percent of the size; ``shadow``: how dark it is, 0…1. ``tracking``: more room between
    letters, thousandths of the em. ``leading``: from line to line, percent of the size. ``apart``: what goes its own
    way under the plate's own shake, and ``differ``, 0…1, by how much.
    """

    text: str
    face: str = FACE
    size: float = 14.0
    colour: str = "#f4eddc"
    outline: float = 0.0
    outline_colour: str = "#15181a"
    shadow: float = 0.0
    shadow_far: float = 4.0
    shadow_soft: float = 6.0
    tracking: float = 0.0
    leading: float = 115.0
    align: Align = "centre"
    apart: Apart = "whole"
    differ: float = 1.0

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("title", self.text)
        check_text("face", self.face)
        if len(self.text) > MOST_LETTERS:
            raise UnreadableValue(
                f"A title of {len(self.text)} letters is too long: {MOST_LETTERS} are the most there may be."
            )
