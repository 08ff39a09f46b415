"""A plate's own picture for a frame, and at what size it is wanted."""

from __future__ import annotations

import math

import numpy as np

from young_tremor.base.frames import DrawnSource, Frame, FrameSource
from young_tremor.render.plan import Plan, PlatePlan

SCALES = 4  # steps of size of what is drawn, to each doubling
MOST_DRAWN = 8192  # pixels of a side of what is drawn


def pixels_apart(plan: Plan, plate: PlatePlan, index: int) -> float:
    """Nominal source pixels from one rendered pixel to the next in a frame."""
    back = np.linalg.inv(plan.from_units @ plan.to_frame(index, plate))
    return float(math.sqrt(abs(np.linalg.det(back[:2, :2]))))


def scale_of(plan: Plan, plate: PlatePlan, index: int) -> float:
    """How many pixels to one of its nominal size what is drawn needs in a frame, in steps, so that a size that is keyed
    does not have it drawn anew each time."""
    try:
        apart = pixels_apart(plan, plate, index)
    except np.linalg.LinAlgError:
        return 1.0  # it has no size
    steady = plate.plate.placement.size.constant and plan.crop_curve is None and plan.shot.frame.crop.constant
    if (steady and not plan.shaken) or (steady and plan.crop == 1):
        return float(min(max(1 / max(apart, 1e-6), 1 / 64), 64.0, MOST_DRAWN / max(plate.source.size)))
    wanted = 2.0 ** (math.ceil(SCALES * math.log2(min(max(1 / max(apart, 1e-6), 1 / 64), 64.0)) - 1e-6) / SCALES)
    return float(min(wanted, MOST_DRAWN / max(plate.source.size)))


def picture_of(plan: Plan, plate: PlatePlan, index: int, source: FrameSource | DrawnSource) -> Frame:
    """A plate's own picture for a frame, from its source."""
    if plate.source.drawn and isinstance(source, DrawnSource):
        return source.draw(scale_of(plan, plate, index))
    return source.read(plate.source_index(index))
