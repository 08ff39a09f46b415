"""Every number of a shot, and of a strand, that can be a curve on a row of the chart."""

from __future__ import annotations

from dataclasses import dataclass

from young_tremor.base.number_scale import NumberScale
from young_tremor.model import fields, shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import Plate, Shot
from young_tremor.model.shake import Region, Strand

FOOTAGE, SHAKE_REGION = "footage.", "shake.region."


@dataclass(frozen=True)
class CurveSubject:
    """A number of a shot that can be a curve.

    ``name``: of its row; ``path`` of its field in the shot; ``low`` and ``high``: what the row's height stands for, in
    the unit of the document. ``ink`` of its line, ``short`` its label where its row has others.
    """

    name: str
    path: str
    low: float
    high: float
    ink: str = "ink"
    short: str = ""

    @property
    def field(self) -> fields.Number:
        """The description of its field."""
        kind = Plate if self.path.startswith(FOOTAGE) else Shot
        return fields.number_at(kind, self.path.removeprefix(FOOTAGE))

    @property
    def scale(self) -> NumberScale:
        """How its control shows it."""
        return self.field.shown_as

    @property
    def per(self) -> float:
        """Units of its control in one of the curve's."""
        return self.field.per

    @property
    def limits(self) -> tuple[float, float]:
        """What a value of the curve may be."""
        return _limits(self.field)

    def text(self, value: float) -> str:
        """A value of the curve as its control says it."""
        return self.scale.text(self.per * value)

    def read(self, shot: Shot) -> Curve | None:
        """The curve of a shot; None where it has no such number now."""
        curve: Curve | None = fields.value_at(shot, self.path)
        return curve

    def curve(self, shot: Shot) -> Curve:
        """The curve, of one value where the shot has no such number now."""
        return self.read(shot) or Curve(self.low)

    def write(self, shot: Shot, curve: Curve) -> shot_edits.Edit:
        """The edit that gives a shot another curve."""
        if self.path.startswith(SHAKE_REGION) and shot.shake.region is None:
            shot = fields.with_value(shot, "shake.region", Region())
        if self.path.startswith(FOOTAGE):
            plate = fields.with_value(shot.footage, self.path.removeprefix(FOOTAGE), curve)
            return shot_edits.set_plate(shot.id, plate.id, placement=plate.placement)
        changed = fields.with_value(shot, self.path, curve)
        return shot_edits.set_shot(shot.id, frame=changed.frame, shake=changed.shake)

    def set_at(self, shot: Shot, now: float, value: float) -> shot_edits.Edit:
        """The edit that gives it a value: all of it while it is constant, a key at ``now`` otherwise."""
        return self.write(shot, with_value_at(self.curve(shot), now, value / self.per))


@dataclass(frozen=True)
class StrandCurve:
    """A number of a strand that can be a curve; ``path`` of its field, ``low`` and ``high`` of its row."""

    name: str
    path: str
    low: float
    high: float

    def read(self, strand: Strand) -> Curve | None:
        """The curve of a strand; None where it has no such number."""
        curve = fields.value_at(strand, self.path) if hasattr(strand, self.path.partition(".")[0]) else None
        return curve if isinstance(curve, Curve) else None

    def write(self, strand: Strand, curve: Curve) -> dict[str, object]:
        """What changes in a strand that gets another curve."""
        top, _, below = self.path.partition(".")
        return {top: fields.with_value(getattr(strand, top) or Region(), below, curve) if below else curve}

    def limits(self, kind: type) -> tuple[float, float]:
        """What a value of the curve may be in a kind of strand."""
        return _limits(fields.number_at(kind, self.path))

    def text(self, kind: type, value: float) -> str:
        """A value of the curve as the control of that kind says it."""
        field = fields.number_at(kind, self.path)
        return field.shown_as.text(field.per * value)


def _limits(field: fields.Number) -> tuple[float, float]:
    least, most = field.shown_as.limits
    return least / field.per, most / field.per


SHAKE = (
    CurveSubject("Intensity", "shake.intensity", 0.0, 2.0, short="Amount"),
    CurveSubject("Pace", "shake.pace", 0.0, 3.0),
)
FRAME = (
    CurveSubject("Shutter angle", "frame.shutter.angle", 0.0, 720.0, short="Angle"),
    CurveSubject("Crop by hand", "frame.crop", 1.0, 2.0, short="Crop"),
    CurveSubject("Pivot X", "frame.pivot.x", -1.0, 1.0, "x", "X"),
    CurveSubject("Pivot Y", "frame.pivot.y", -1.0, 1.0, "y", "Y"),
    CurveSubject("Copies", "frame.afterimages.count", 0.0, 12.0),
)
PLACEMENT = (
    CurveSubject("Place across", "footage.placement.x", -1.0, 1.0, "x", "Across"),
    CurveSubject("Place down", "footage.placement.y", -1.0, 1.0, "y", "Down"),
    CurveSubject("Place size", "footage.placement.size", 0.0, 3.0, "zoom", "Size"),
    CurveSubject("Place angle", "footage.placement.angle", -180.0, 180.0, "roll", "Angle"),
)
REGION = (
    CurveSubject("Region across", "shake.region.centre.x", -1.0, 1.0, "x", "Across"),
    CurveSubject("Region down", "shake.region.centre.y", -1.0, 1.0, "y", "Down"),
    CurveSubject("Region width", "shake.region.width", 0.0, 2.5, "pan", "Width"),
    CurveSubject("Region height", "shake.region.height", 0.0, 2.5, "tilt", "Height"),
)
SUBJECTS = (*SHAKE, *FRAME, *PLACEMENT, *REGION)
BY_NAME = {subject.name: subject for subject in SUBJECTS}

STRAND_CURVES = (
    StrandCurve("amount", "amount", 0.0, 2.0),
    StrandCurve("rate", "rate", 0.0, 4.0),
    StrandCurve("region across", "region.centre.x", -1.0, 1.0),
    StrandCurve("region down", "region.centre.y", -1.0, 1.0),
    StrandCurve("region width", "region.width", 0.0, 2.5),
    StrandCurve("region height", "region.height", 0.0, 2.5),
)
