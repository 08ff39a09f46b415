"""What a title says and how it is set."""

from __future__ import annotations

from typing import Annotated, Literal

from young_tremor.base.errors import UnreadableValue
from young_tremor.base.number_scale import NumberScale
from young_tremor.model.fields import UNIT, Checked, Choice, ColourText, Number, check_text

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
    size: Annotated[
        float,
        Number(
            "Size",
            "Font size, percent of frame height",
            (0.1, 400),
            NumberScale(2, 60, "%", 1, bend=1.6, least=0.1, most=400),
            unit="% of height",
            words="font size",
        ),
    ] = 14.0
    colour: Annotated[str, ColourText()] = "#f4eddc"
    outline: Annotated[
        float,
        Number(
            "Outline",
            "Width of the outline, percent of the size",
            (0, 100),
            NumberScale(0, 12, "%", 1, bend=1.5, least=0, most=100),
            unit="% of the size",
            words="stroke",
        ),
    ] = 0.0
    outline_colour: Annotated[str, ColourText("colour")] = "#15181a"
    shadow: Annotated[
        float,
        Number("Shadow", "Opacity of the shadow", UNIT, NumberScale(0, 100, "%", 0), per=100, words="drop shadow"),
    ] = 0.0
    shadow_far: Annotated[
        float,
        Number(
            "Falls",
            "How far right and down, percent of the size",
            (-500, 500),
            NumberScale(0, 30, "%", 1, least=-500, most=500),
            unit="% of the size",
            noun="shadow",
            words="shadow distance",
        ),
    ] = 4.0
    shadow_soft: Annotated[
        float,
        Number(
            "Softness",
            "Blur of the shadow, percent of the size",
            (0, 200),
            NumberScale(0, 40, "%", 1, bend=1.5, least=0, most=200),
            unit="% of the size",
            words="shadow blur",
        ),
    ] = 6.0
    tracking: Annotated[
        float,
        Number(
            "Tracking",
            "Letter spacing, thousandths of the em",
            (-1000, 1e4),
            NumberScale(-100, 500, "‰", 0, least=-1000, most=10000),
            unit="thousandths of the size",
            words="letter spacing",
        ),
    ] = 0.0
    leading: Annotated[
        float,
        Number(
            "Leading",
            "Line spacing, percent of the size",
            (0, 1000),
            NumberScale(60, 200, "%", 0, least=0, most=1000),
            unit="% of the size",
            words="line spacing",
        ),
    ] = 115.0
    align: Align = "centre"
    apart: Annotated[
        Apart,
        Choice(
            "Parts",
            "What goes its own way under the plate's own shake",
            (("whole", "Whole"), ("line", "Line"), ("word", "Word"), ("letter", "Letter")),
            words="per letter, per word, by letter, by word, each letter, letters apart, animate letters",
        ),
    ] = "whole"
    differ: Annotated[
        float,
        Number(
            "Apart",
            "By how much each part's own shake differs from the others'",
            UNIT,
            NumberScale(0, 100, "%", 0),
            per=100,
            noun="difference",
            words="stagger",
        ),
    ] = 1.0

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("title", self.text)
        check_text("face", self.face)
        if len(self.text) > MOST_LETTERS:
            raise UnreadableValue(
                f"A title of {len(self.text)} letters is too long: {MOST_LETTERS} are the most there may be."
            )
