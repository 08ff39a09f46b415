"""A camera as USD: its turns, travel and focal length, frame by frame, as text out and through the library in."""

from __future__ import annotations

import importlib
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import scipy

from young_tremor.base import sandbox
from young_tremor.base.errors import BrokenDocument, RequestError, UnreadableValue

SENSOR = 36.0  # millimetres across
NAME, FIRST = "Camera", 1  # of the camera written, and the time code of its first frame
MOST_FRAMES = 1_000_000
MOST_FAR = 1e9  # of any length
MOST_DEPTH = 256  # levels above a camera
MOST_SLOW, MOST_FAST = 0.1, 10_000.0  # time codes a second
LIMITS = sandbox.Limits(seconds=8.0, memory=2 << 30)
ENDINGS = (".usda", ".usdc", ".usd", ".usdz")


def camera(
    channels: np.ndarray,
    *,
    size: tuple[int, int],
    pixel_aspect: float,
    fps: float,
    focal_mm: float,
    distance: float,
) -> str:
    """The text of a USD file with one camera that sees what the shake shows.

    Parameters
    ----------
    channels : (n, 6) float64
        x, y (percent of the frame's height), roll, zoom, pan and tilt (degrees), a row a frame.
    distance : float
        How far what is filmed is, in units of the scene: travel is right for a plane at that distance, turns for all.

    Notes
    -----
    USD's camera looks along −z with y up; the operations stand from the last to the first. Where our picture goes
    right, the camera turns or goes left.
    """
    wide, high = size[0] * pixel_aspect, float(size[1])
    across = SENSOR * wide / max(wide, high)
    down = SENSOR * high / max(wide, high)
    tall = distance * down / focal_mm  # of the frame, in the scene
    x, y, roll, zoom, pan, tilt = np.asarray(channels, np.float64).T
    scale = np.exp(zoom / 100)
    travel = np.column_stack([-x / 100 * tall / scale, y / 100 * tall / scale, -distance * (1 - 1 / scale)])
    last = FIRST + len(x) - 1

    def samples(rows: np.ndarray) -> str:
        words = [f"{v:.9g}" if np.ndim(v) == 0 else f"({', '.join(f'{w:.9g}' for w in v)})" for v in rows.tolist()]
        return ",\n".join(f"        {FIRST + k}: {word}" for k, word in enumerate(words))

    return f"""#usda 1.0
(
    defaultPrim = "{NAME}"
    endTimeCode = {last}
    framesPerSecond = {fps:.9g}
    metersPerUnit = 1
    startTimeCode = {FIRST}
    timeCodesPerSecond = {fps:.9g}
    upAxis = "Y"
)

def Camera "{NAME}"
{{
    float focalLength = {focal_mm:.9g}
    float focusDistance = {distance:.9g}
    float horizontalAperture = {across:.9g}
    float verticalAperture = {down:.9g}
    float xformOp:rotateX.timeSamples = {{
{samples(tilt)}
    }}
    float xformOp:rotateY.timeSamples = {{
{samples(pan)}
    }}
    float xformOp:rotateZ.timeSamples = {{
{samples(roll)}
    }}
    double3 xformOp:translate.timeSamples = {{
{samples(travel)}
    }}
    uniform token[] xformOpOrder = ["xformOp:rotateZ", "xformOp:translate", "xformOp:rotateY", "xformOp:rotateX"]
}}
"""


@dataclass(frozen=True)
class CameraMotion:
    """A camera's motion: seconds (n,) from its first frame; x, y (percent of the frame's height), roll, pan, tilt
    (degrees) and scale, (n, 6), each from the first; frames a second, focal length, and the frame's width by height."""

    seconds: np.ndarray
    motion: np.ndarray
    fps: float
    focal_mm: float
    aspect: float


def read(path: Path, *, distance: float) -> CameraMotion:
    """The first camera of a USD file, read in a process of its own.

    Turns are exact, in the order in which they are written. Travel is that of a plane at ``distance`` in units of the
    scene, and a change of focal length is zoom. RequestError without the library, BrokenDocument for what holds no
    camera, DecodeError for what goes over ``LIMITS``.
    """
    return sandbox.run(_read, path, distance, name=path.name, what="a USD camera", path=path, limits=LIMITS)


def warm_up() -> None:
    """Load what every reading needs, once for all of a server's children."""
    with suppress(ImportError):
        importlib.import_module("pxr.UsdGeom")
        importlib.import_module("scipy.spatial")


def _read(path: Path, distance: float) -> CameraMotion:
    try:
        from pxr import Tf, Usd, UsdGeom, UsdUtils  # noqa: PLC0415  # optional
    except ImportError:
        raise RequestError(
            "Cameras in USD need the usd-core library: install young-tremor[usd], then try again."
        ) from None
    quiet = UsdUtils.CoalescingDiagnosticDelegate()  # what the library has to remark is not for standard error
    try:
        stage = Usd.Stage.Open(str(path.absolute()))
    except Tf.ErrorException as error:
        raise BrokenDocument(f"{path.name} cannot be read as USD: choose another file.") from error
    prim = next((item for item in stage.Traverse() if item.IsA(UsdGeom.Camera)), None)
    if prim is None:
        raise BrokenDocument(f"{path.name} has no camera: write one from the program that made it.")
    seen = UsdGeom.Camera(prim)
    _check_depth(prim, path.name)
    codes = np.array(sorted(_codes(stage, prim)))
    if not np.isfinite(codes).all():
        raise BrokenDocument(f"{path.name}: its camera has keys at times that are no numbers.")
    if len(codes) < 2 or codes[-1] - codes[0] > MOST_FRAMES:
        raise BrokenDocument(f"{path.name} has no camera that moves over 2 to {MOST_FRAMES} frames.")
    codes = np.arange(codes[0], codes[-1] + 0.5)
    cache, turns, places, focal = UsdGeom.XformCache(), [], [], []
    for code in codes:
        cache.SetTime(Usd.TimeCode(code))
        matrix = np.array(cache.GetLocalToWorldTransform(prim)).T  # points as columns
        turns.append(matrix[:3, :3] / np.linalg.norm(matrix[:3, :3], axis=0))
        places.append(matrix[:3, 3])
        focal.append(float(seen.GetFocalLengthAttr().Get(Usd.TimeCode(code)) or 50.0))
    wide = float(seen.GetHorizontalApertureAttr().Get(Usd.TimeCode(codes[0])) or SENSOR)
    high = float(seen.GetVerticalApertureAttr().Get(Usd.TimeCode(codes[0])) or SENSOR * 9 / 16)
    turn, place = np.array(turns), np.array(places)
    usable = np.isfinite(turn).all() and (np.abs(place) < MOST_FAR).all()
    if not (usable and min(wide, high, *focal) > 1 / MOST_FAR and max(wide, high, *focal) < MOST_FAR):
        raise BrokenDocument(f"{path.name}: its camera has numbers that cannot be used.")
    quiet.TakeUncoalescedDiagnostics()
    motion = _motion(turn, place, np.array(focal), high, distance)
    fps = float(stage.GetTimeCodesPerSecond()) or 24.0
    if not MOST_SLOW <= fps <= MOST_FAST:
        raise BrokenDocument(f"{path.name} says {fps:g} time codes a second: use {MOST_SLOW:g} to {MOST_FAST:g}.")
    longer = max(wide, high)
    return CameraMotion((codes - codes[0]) / fps, motion, fps, focal[0] * SENSOR / longer, wide / high)


def _check_depth(prim: Any, name: str) -> None:
    depth = 0
    while prim and not prim.IsPseudoRoot():
        prim, depth = prim.GetParent(), depth + 1
        if depth > MOST_DEPTH:
            raise BrokenDocument(f"{name} carries its camera under more than {MOST_DEPTH} levels: flatten it.")


def _codes(stage: Any, prim: Any) -> set[float]:
    """The time codes that a camera and what carries it has values for."""
    from pxr import UsdGeom  # noqa: PLC0415  # optional

    out: set[float] = set()
    item = prim
    while item and not item.IsPseudoRoot():
        if item.IsA(UsdGeom.Xformable):
            out.update(UsdGeom.Xformable(item).GetTimeSamples())
        item = item.GetParent()
    out.update(UsdGeom.Camera(prim).GetFocalLengthAttr().GetTimeSamples())
    if stage.HasAuthoredTimeCodeRange() and out:
        out.update((stage.GetStartTimeCode(), stage.GetEndTimeCode()))
    return out


def _motion(turn: np.ndarray, place: np.ndarray, focal: np.ndarray, high: float, distance: float) -> np.ndarray:
    """How the picture moves from the first frame on, see :func:`camera`."""
    base = turn[0].T
    own = np.einsum("ij,njk->nik", base, turn)
    angles = np.degrees(
        np.unwrap(scipy.spatial.transform.Rotation.from_matrix(own).as_euler("ZYX"), axis=0)
    )  # about z, the new y, the new x
    roll, pan, tilt = angles.T
    travel = (place - place[0]) @ base.T
    back = scipy.spatial.transform.Rotation.from_euler("z", -roll[:, None], degrees=True)
    travel = back.apply(travel)
    tall = distance * high / focal[0]
    shrunk = 1 + travel[:, 2] / distance
    if (shrunk <= 0).any():
        raise UnreadableValue("The camera travels through what it films: give a greater distance.")
    scale = focal / focal[0] / shrunk
    x = -travel[:, 0] / tall * 100 * scale
    y = travel[:, 1] / tall * 100 * scale
    return np.column_stack([x, y, roll, scale, pan, tilt])
