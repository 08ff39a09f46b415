"""How much a motion asks of the frame: limits, shooting margins, and boxes that must stay clear."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from dataclasses import replace as change
from fractions import Fraction

import cv2
import numpy as np
from msgspec.structs import replace

from young_tremor.base.errors import RequestError, TremorError, UnreadableValue
from young_tremor.base.frames import SourceInfo
from young_tremor.base.pixels import planar_format
from young_tremor.engine.media import footage
from young_tremor.geometry import camera
from young_tremor.model import curve_edits
from young_tremor.model.project import Box, FrameSettings, Media, Plate, Preset, Shot, Size
from young_tremor.model.shake import Hit, blows
from young_tremor.render import depth_map, shutter
from young_tremor.render.plan import Plan, PlatePlan
from young_tremor.render.resolve_plan import readings, resolve

Report = Callable[[int, int], None]
LINES, FINER = 7, 4  # of equal distance, and how much finer than the picture of it they are
STEPS = 14  # halvings in the search for a limit
PROBE = 20.0  # seconds of a preset that a margin is taken from
YUV = planar_format("yuv", 8, (2, 2))


def limit(shot: Shot, source: SourceInfo, percent: float, report: Report) -> float:
    """The largest factor ≤ 1 on a shot's intensity with which a crop of ``percent`` is enough and no keep-clear box
    leaves the frame; RequestError where even stillness does not do."""
    if not (np.isfinite(percent) and 0 <= percent <= 700):
        raise UnreadableValue(f"A crop of {percent:g} % cannot be aimed at: give 0 to 700.")
    edges = "crop-as-needed" if shot.frame.edges == "crop-as-needed" else "crop"
    bare = replace(shot, others=(), frame=replace(shot.frame, edges=edges))

    def fits(factor: float) -> bool:
        scaled = replace(bare, shake=replace(bare.shake, intensity=curve_edits.times(bare.shake.intensity, factor)))
        try:
            found_readings = readings(resolve(scaled, source))
        except TremorError:
            return False
        return found_readings.crop <= 1 + percent / 100 + 1e-9 and not found_readings.cut.any()

    report(0, STEPS + 2)
    if fits(1.0):
        return 1.0
    if not fits(0.0):
        raise RequestError("Even without any shake a keep-clear box is outside the frame: move or clear it.")
    low, high = 0.0, 1.0
    for step in range(STEPS):
        report(step + 1, STEPS + 2)
        middle = (low + high) / 2
        low, high = (middle, high) if fits(middle) else (low, middle)
    return low


@dataclass(frozen=True)
class Margin:
    """How much wider to frame: ``crop`` is the enlargement that covers, ``size`` the delivered pixels."""

    crop: float
    size: tuple[int, int]

    @property
    def percent(self) -> float:
        """How much wider, in percent."""
        return 100 * (self.crop - 1)

    @property
    def pixels(self) -> tuple[float, float]:
        """What is to be kept free at each side, and above and below, in pixels of a picture of that size."""
        return self.size[0] * (1 - 1 / self.crop) / 2, self.size[1] * (1 - 1 / self.crop) / 2

    def words(self, name: str, focal_mm: float) -> str:
        """In a sentence."""
        across, down = self.pixels
        return (
            f"{name} at {focal_mm:g} mm: frame {self.percent:.1f} % wider ({self.crop:.3f} times); keep "
            f"{across:.0f} px at each side and {down:.0f} px above and below of {self.size[0]}x{self.size[1]} free."
        )


def margin(preset: Preset, *, focal_mm: float | None, size: tuple[int, int], edges: str = "crop") -> Margin:
    """The shooting margin of a preset without any footage: over 20 seconds at 24 frames a second and 180°, jolts struck
    three times at strength 1."""
    struck = (1.0, 7.5, 14.0) if blows(preset.shake.strands) else ()
    hits = tuple(Hit(str(number), t) for number, t in enumerate(struck))
    frame = FrameSettings(focal_mm=focal_mm or preset.focal_mm)
    plate = Plate("plate", "", Media(""))
    shot = Shot("shot", "", (plate,), preset.shake, frame, size=Size(*size), hits=hits)
    source = SourceInfo("", size, Fraction(1), Fraction(24), round(PROBE * 24), YUV)
    return Margin(readings(resolve(shot, source)).crop, size)


def guide(found: Margin) -> np.ndarray:
    """A framing guide as a picture, RGB (rows, columns, 3): the whole is what the camera sees, the inner rectangle what
    is delivered; keep what matters inside."""
    width, height = found.size
    picture = np.full((height, width, 3), (29, 31, 30), np.uint8)
    w, h = round(width / found.crop), round(height / found.crop)
    x, y = (width - w) // 2, (height - h) // 2
    picture[y : y + h, x : x + w] = (58, 66, 62)
    thick = max(2, height // 360)
    for (left, top, wide, high), ink in (((x, y, w, h), (242, 193, 78)), ((0, 0, width, height), (217, 79, 42))):
        cv2.rectangle(picture, (left, top), (left + wide - 1, top + high - 1), ink, thick, cv2.LINE_AA)
    middle = (width // 2, height // 2)
    arm = height // 30
    for a, b in (((-arm, 0), (arm, 0)), ((0, -arm), (0, arm))):
        start, end = (middle[0] + a[0], middle[1] + a[1]), (middle[0] + b[0], middle[1] + b[1])
        cv2.line(picture, start, end, (231, 230, 220), thick, cv2.LINE_AA)
    words = f"frame {found.percent:.1f} % wider"
    scale = height / 900
    wide = cv2.getTextSize(words, cv2.FONT_HERSHEY_SIMPLEX, scale, thick)[0][0]
    place = (middle[0] - wide // 2, middle[1] + 3 * arm)
    cv2.putText(picture, words, place, cv2.FONT_HERSHEY_SIMPLEX, scale, (231, 230, 220), thick, cv2.LINE_AA)
    return picture


def box_of(plan: Plan, index: int, corners: np.ndarray) -> Box:
    """The box of the source under a rectangle of the shown frame: ``corners`` (2, 2) as shares of the picture."""
    matrix = _to_source(plan, index)
    (x0, y0), (x1, y1) = corners
    places = np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1]]) * plan.size - 0.5
    found = (camera.apply(matrix[None], places)[0] + 0.5) / plan.source.size
    low, high = np.clip(found.min(axis=0), 0, 1), np.clip(found.max(axis=0), 0, 1)
    return Box(*(round(float(v), 4) for v in (*low, *(high - low))))


def boxes_on(plan: Plan, index: int) -> list[np.ndarray]:
    """Where the keep-clear boxes lie on the shown frame: corners (4, 2) each, as shares of the picture."""
    back = np.linalg.inv(_to_source(plan, index))
    out = []
    for box in plan.shot.frame.keep:
        x1, y1 = box.x + box.width, box.y + box.height
        corners = np.array([[box.x, box.y], [x1, box.y], [x1, y1], [box.x, y1]]) * plan.source.size - 0.5
        out.append((camera.apply(back[None], corners)[0] + 0.5) / plan.size)
    return out


def corners_on(plan: Plan, plate_id: str, index: int) -> np.ndarray | None:
    """Where a plate of a plan lies on the shown frame: its corners (4, 2) as shares of the picture; None if there is no
    such plate."""
    plate = next((plate for plate in plan.plates if plate.plate.id == plate_id), None)
    if plate is None:
        return None
    title = plate.plate.media.title
    if title is not None and title.apart != "whole":  # its parts go about it, each its own way
        plate = change(plate, plate=replace(plate.plate, shake=None))
    left, top, right, bottom = footage.bounds(plate.plate.media, plate.source.size)
    corners = np.array([[left, top], [right, top], [right, bottom], [left, bottom]], dtype=np.float64) - 0.5
    back = np.linalg.inv(_to_source(plan, index, plate))
    shares: np.ndarray = (camera.apply(back[None], corners)[0] + 0.5) / plan.size
    return shares


def depth_lines(plan: Plan, plate_id: str, index: int) -> list[np.ndarray]:
    """Lines of equal distance of a plate's depth on the shown frame, from far to near: (n, 2) each, as shares of the
    picture. None of them where it has no depth, or its picture cannot be read."""
    plate = next((plate for plate in plan.plates if plate.plate.id == plate_id), None)
    depth = plate.plate.depth if plate is not None else None
    if plate is None or depth is None:
        return []
    size, t = plate.source.size, plan.time(index)
    aspect = size[0] * float(plate.source.pixel_aspect) / size[1]
    try:
        near = footage.nearness(depth.path, aspect) if depth.path else depth_map.draw_depth(depth, aspect, t)
    except TremorError:
        return []
    back = np.linalg.inv(_to_source(plan, index, plate))
    near = cv2.resize(near, None, fx=FINER, fy=FINER, interpolation=cv2.INTER_CUBIC)
    out = []
    for level in np.arange(1, LINES + 1) / (LINES + 1):
        lines, _ = cv2.findContours((near >= level).astype(np.uint8), cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
        for line in lines:
            places = (line[:, 0].astype(np.float64) + 0.5) * (np.array(size) / near.shape[::-1]) - 0.5
            out.append(np.vstack([(camera.apply(back[None], places)[0] + 0.5) / plan.size]))
    return out


def to_plate(plan: Plan, plate_id: str, index: int, path: np.ndarray) -> np.ndarray:
    """Places of the shown frame (n, 2), as shares of the picture, in the frame of a plate's own picture: frame units
    from its centre, before any placement."""
    plate = next((plate for plate in plan.plates if plate.plate.id == plate_id), plan.base)
    places = camera.apply(_to_source(plan, index, plate)[None], path * plan.size - 0.5)[0]
    width, height = plate.source.size
    return np.asarray(
        ((places + 0.5) / (width, height) - 0.5) * (width * float(plate.source.pixel_aspect) / height, 1.0)
    )


def _to_source(plan: Plan, index: int, plate: PlatePlan | None = None) -> np.ndarray:
    """Rendered pixel → source pixel of a plate (the lowest) in the middle of a frame's exposure."""
    seconds = plan.shutter(np.array([plan.time(index)]))[0]
    knots = shutter.moments(plan, index, plate or plan.base, seconds, np.zeros((1, 2)))[0]
    middle: np.ndarray = knots[len(knots) // 2]
    return middle
