"""Every number of a shot, and of a strand, that can be a curve: how it is read, written and shown."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from msgspec.structs import replace

from young_tremor.desk.chart.row_heads import AMOUNT, PACE
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import FrameSettings, Placement, Shot
from young_tremor.model.shake import Drift, Region, Strand

ANGLE = NumberScale(0, 360, "°", 0, least=0, most=720)
CROP = NumberScale(1, 2, "×", 3, bend=2, least=1, most=20)
PLACE = NumberScale(-100, 100, "%", 1, least=-1000, most=1000)
COPIES = NumberScale(0, 8, "", 0, least=0, most=12)
SIZE = NumberScale(10, 300, "%", 1, bend=1.6, least=1, most=10000)
TURN = NumberScale(-180, 180, "°", 1, least=-3600, most=3600)
OPACITY = NumberScale(0, 100, "%", 0, least=0, most=100)
EXTENT = NumberScale(1, 250, "%", 1, bend=1.6, least=0.1, most=1000)


@dataclass(frozen=True)
class CurveSubject:
    """One number of a shot that can be a curve. ``per``: the rule's unit in the curve's own."""

    name: str
    read: Callable[[Shot], Curve | None]
    write: Callable[[Shot, Curve], shot_edits.Edit]
    low: float
    high: float
    text: Callable[[float], str]
    scale: NumberScale
    tip: str
    per: float = 1.0
    ink: str = "ink"
    short: str = ""

    @property
    def limits(self) -> tuple[float, float]:
        """What a value of the curve may be."""
        least, most = self.scale.limits
        return least / self.per, most / self.per

    def curve(self, shot: Shot) -> Curve:
        """The curve, of one value where the shot has no such number now."""
        return self.read(shot) or Curve(self.low)

    def set_at(self, shot: Shot, now: float, value: float) -> shot_edits.Edit:
        """The edit that gives it a value: all of it while it is constant, a key at ``now`` otherwise."""
        return self.write(shot, with_value_at(self.curve(shot), now, value / self.per))


@dataclass(frozen=True)
class StrandCurve:
    """One number of a strand that can be a curve; None where a strand has it not."""

    name: str
    read: Callable[[Strand], Curve | None]
    write: Callable[[Strand, Curve], dict[str, object]]
    low: float
    high: float
    text: Callable[[float], str]
    limits: tuple[float, float]


def _percent(value: float) -> str:
    return f"{100 * value:.1f}%"


def _shake(field: str) -> Callable[[Shot, Curve], shot_edits.Edit]:
    return lambda shot, curve: shot_edits.set_shake(shot.id, **{field: curve})


def _frame(change: Callable[[FrameSettings, Curve], dict[str, object]]) -> Callable[[Shot, Curve], shot_edits.Edit]:
    return lambda shot, curve: shot_edits.set_frame(shot.id, **change(shot.frame, curve))


def _read_placement(field: str) -> Callable[[Shot], Curve]:
    return lambda shot: getattr(shot.footage.placement, field)


def _write_placement(field: str) -> Callable[[Shot, Curve], shot_edits.Edit]:
    def edit(shot: Shot, curve: Curve) -> shot_edits.Edit:
        placement: Placement = replace(shot.footage.placement, **{field: curve})
        return shot_edits.set_plate(shot.id, shot.footage.id, placement=placement)

    return edit


def region_curve(region: Region, field: str) -> Curve:
    """A region's ``x`` or ``y`` (of its centre), ``width`` or ``height``."""
    owner: Any = region.centre if field in ("x", "y") else region
    curve: Curve = getattr(owner, field)
    return curve


def with_region_curve(region: Region, field: str, curve: Curve) -> Region:
    """The region with that curve in place of its own."""
    if field in ("x", "y"):
        return replace(region, centre=replace(region.centre, **{field: curve}))
    return replace(region, **{field: curve})


def _read_region(field: str) -> Callable[[Shot], Curve | None]:
    return lambda shot: region_curve(shot.shake.region, field) if shot.shake.region else None


def _write_region(field: str) -> Callable[[Shot, Curve], shot_edits.Edit]:
    return lambda shot, curve: shot_edits.set_shake(
        shot.id, region=with_region_curve(shot.shake.region or Region(), field, curve)
    )


SHAKE = (
    CurveSubject(
        "Intensity",
        lambda s: s.shake.intensity,
        _shake("intensity"),
        0.0,
        2.0,
        lambda v: f"{100 * v:.0f}%",
        AMOUNT,
        "How much of the whole shake",
        100,
        short="Amount",
    ),
    CurveSubject(
        "Pace", lambda s: s.shake.pace, _shake("pace"), 0.0, 3.0, lambda v: f"{v:.2f}×", PACE, "How fast its time runs"
    ),
)
FRAME = (
    CurveSubject(
        "Shutter angle",
        lambda s: s.frame.shutter.angle,
        _frame(lambda f, c: {"shutter": replace(f.shutter, angle=c)}),
        0.0,
        720.0,
        lambda v: f"{v:.0f}°",
        ANGLE,
        "How long the shutter is open: 360° is the frame's whole time",
        short="Angle",
    ),
    CurveSubject(
        "Crop by hand",
        lambda s: s.frame.crop,
        _frame(lambda f, c: {"crop": c}),
        1.0,
        2.0,
        lambda v: f"{v:.3f}×",
        CROP,
        "Enlarges the picture by so much; what the edges need comes on top",
        short="Crop",
    ),
    CurveSubject(
        "Pivot X",
        lambda s: s.frame.pivot.x,
        _frame(lambda f, c: {"pivot": replace(f.pivot, x=c)}),
        -1.0,
        1.0,
        _percent,
        PLACE,
        "About what it turns, percent of frame height right of the centre",
        100,
        "x",
        "X",
    ),
    CurveSubject(
        "Pivot Y",
        lambda s: s.frame.pivot.y,
        _frame(lambda f, c: {"pivot": replace(f.pivot, y=c)}),
        -1.0,
        1.0,
        _percent,
        PLACE,
        "About what it turns, percent of frame height below the centre",
        100,
        "y",
        "Y",
    ),
    CurveSubject(
        "Copies",
        lambda s: s.frame.afterimages.count,
        _frame(lambda f, c: {"afterimages": replace(f.afterimages, count=c)}),
        0.0,
        12.0,
        lambda v: f"{v:.0f}",
        COPIES,
        "Fading copies of the picture where the motion was a moment ago; 0 is none",
    ),
)
PLACEMENT = (
    CurveSubject(
        "Place across",
        _read_placement("x"),
        _write_placement("x"),
        -1.0,
        1.0,
        _percent,
        PLACE,
        "Right of the middle, percent of frame height",
        100,
        "x",
        "Across",
    ),
    CurveSubject(
        "Place down",
        _read_placement("y"),
        _write_placement("y"),
        -1.0,
        1.0,
        _percent,
        PLACE,
        "Below the middle, percent of frame height",
        100,
        "y",
        "Down",
    ),
    CurveSubject(
        "Place size",
        _read_placement("size"),
        _write_placement("size"),
        0.0,
        3.0,
        _percent,
        SIZE,
        "How large it lies there",
        100,
        "zoom",
        "Size",
    ),
    CurveSubject(
        "Place angle",
        _read_placement("angle"),
        _write_placement("angle"),
        -180.0,
        180.0,
        lambda v: f"{v:.1f}°",
        TURN,
        "Turned by so much, clockwise",
        1,
        "roll",
        "Angle",
    ),
)
REGION = tuple(
    CurveSubject(
        f"Region {words.lower()}",
        _read_region(field),
        _write_region(field),
        low,
        high,
        _percent,
        scale,
        tip,
        100,
        ink,
        words,
    )
    for field, words, low, high, scale, tip, ink in (
        ("x", "Across", -1.0, 1.0, PLACE, "Its centre, percent of frame height right of the middle", "x"),
        ("y", "Down", -1.0, 1.0, PLACE, "Its centre, percent of frame height below the middle", "y"),
        ("width", "Width", 0.0, 2.5, EXTENT, "Percent of frame height", "pan"),
        ("height", "Height", 0.0, 2.5, EXTENT, "Percent of frame height", "tilt"),
    )
)
SUBJECTS = (*SHAKE, *FRAME, *PLACEMENT, *REGION)
BY_NAME = {each.name: each for each in SUBJECTS}


def _strand_region(field: str) -> Callable[[Strand], Curve | None]:
    return lambda strand: region_curve(strand.region, field) if strand.region else None


def _in_region(field: str) -> Callable[[Strand, Curve], dict[str, object]]:
    return lambda strand, curve: {"region": with_region_curve(strand.region or Region(), field, curve)}


FIELDS = (
    StrandCurve(
        "amount",
        lambda strand: strand.amount,
        lambda strand, curve: {"amount": curve},
        0.0,
        2.0,
        lambda v: f"{100 * v:.0f}%",
        (0.0, 10.0),
    ),
    StrandCurve(
        "rate",
        lambda strand: strand.rate if isinstance(strand, Drift) else None,
        lambda strand, curve: {"rate": curve},
        0.0,
        4.0,
        lambda v: f"{v:.2f} Hz",
        (0.0, 60.0),
    ),
    *(
        StrandCurve(
            f"region {words}", _strand_region(field), _in_region(field), low, high, _percent, (3 * low, 4 * high)
        )
        for field, words, low, high in (
            ("x", "across", -1.0, 1.0),
            ("y", "down", -1.0, 1.0),
            ("width", "width", 0.0, 2.5),
            ("height", "height", 0.0, 2.5),
        )
    ),
)
