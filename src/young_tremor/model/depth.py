"""How far each point of a plate is: a grey picture, drawn or from a file; white is near."""

from __future__ import annotations

from young_tremor.base.errors import UnreadableValue
from young_tremor.model.limits import Checked, check_text
from young_tremor.model.shake import Region


class Ramp(Checked, frozen=True):
    """Nearness that rises evenly along a direction, as a floor does towards the camera: 0 at ``start``, 1 at ``end``,
    in frame heights from the plate's centre along ``angle`` degrees (0 right, 90 down)."""

    angle: float = 90.0
    start: float = -0.5
    end: float = 0.5


class Raised(Checked, frozen=True):
    """A shape of the plate that stands at a nearness of its own, its edge feathered. Its region lies in the frame of
    the plate's picture, before any placement."""

    region: Region
    near: float = 1.0


class Depth(Checked, frozen=True):
    """The depth picture of a plate: grey g, 0…1, stands for the distance d with 1/d = g/near + (1 − g)/far.

    ``path``: a file or numbered pictures of it, fitted to the plate's own picture; else it is drawn: a ramp, if any,
    and shapes on it in their order. ``inverted``: black is near.
    """

    near: float = 0.8
    far: float = 1.6
    path: str = ""
    ramp: Ramp | None = None
    shapes: tuple[Raised, ...] = ()
    inverted: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("path", self.path)
        if self.path and (self.ramp is not None or self.shapes):
            raise UnreadableValue("A depth picture is a file or drawn, not both: leave one of them out.")
