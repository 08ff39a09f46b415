"""How far each point of a plate is: a grey picture, drawn or from a file; white is near."""

from __future__ import annotations

from typing import Annotated

from young_tremor.base.errors import UnreadableValue
from young_tremor.base.number_scale import NumberScale
from young_tremor.model.fields import TIME, UNIT, AtMost, Checked, Number, Switch, check_text
from young_tremor.model.shake import Region

DISTANCE_SCALE = NumberScale(0.2, 5, "×", 2, bend=2.3, least=0.05, most=1000)


class Ramp(Checked, frozen=True):
    """Nearness that rises evenly along a direction, as a floor does towards the camera: 0 at ``start``, 1 at ``end``,
    in frame heights from the plate's centre along ``angle`` degrees (0 right, 90 down)."""

    angle: Annotated[
        float,
        Number(
            "Angle",
            "Direction towards the camera: 90 is down",
            TIME,
            NumberScale(-180, 180, "°", 0, least=-1e4, most=1e4),
        ),
    ] = 90.0
    start: Annotated[
        float,
        Number(
            "Begins",
            "Where it is farthest, percent of frame height",
            (-1000, 1000),
            NumberScale(-60, 60, "%", 0, least=-1000, most=1000),
            unit="frame heights",
            per=100,
        ),
    ] = -0.5
    end: Annotated[
        float,
        Number(
            "Ends",
            "Where it is nearest, percent of frame height",
            (-1000, 1000),
            NumberScale(-60, 60, "%", 0, least=-1000, most=1000),
            unit="frame heights",
            per=100,
        ),
    ] = 0.5


class Raised(Checked, frozen=True):
    """A shape of the plate that stands at a nearness of its own, its edge feathered. Its region lies in the frame of
    the plate's picture, before any placement."""

    region: Region
    near: Annotated[float, Number("Near", "How white the shape is", UNIT, NumberScale(0, 100, "%", 0), per=100)] = 1.0


class Depth(Checked, frozen=True):
    """The depth picture of a plate: grey g, 0…1, stands for the distance d with 1/d = g/near + (1 − g)/far.

    ``path``: a file or numbered pictures of it, fitted to the plate's own picture; else it is drawn: a ramp, if any,
    and shapes on it in their order. ``inverted``: black is near.
    """

    near: Annotated[
        float, Number("Nearest", "Distance of white; travel is divided by it", (0.05, 1000), DISTANCE_SCALE)
    ] = 0.8
    far: Annotated[float, Number("Farthest", "Distance of black", (0.05, 1000), DISTANCE_SCALE)] = 1.6
    path: str = ""
    ramp: Ramp | None = None
    shapes: Annotated[tuple[Raised, ...], AtMost(64)] = ()
    inverted: Annotated[bool, Switch("Black is near", "White is far, then", words="invert depth")] = False

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("path", self.path)
        if self.path and (self.ramp is not None or self.shapes):
            raise UnreadableValue("A depth picture is a file or drawn, not both: leave one of them out.")
