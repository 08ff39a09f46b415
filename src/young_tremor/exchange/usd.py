"""A camera as USD text: turns, travel and focal length, frame by frame."""

from __future__ import annotations

import numpy as np

SENSOR = 36.0  # millimetres across


def camera(
    channels: np.ndarray, *, size: tuple[int, int], pixel_aspect: float, fps: float, focal_mm: float, distance: float,
    name: str = "Camera", first: int = 1,
) -> str:  # fmt: skip
    """The text of a USD file with one camera that sees what the shake shows.

    Parameters
    ----------
    channels : (n, 6) float64
        x, y (percent of the frame's height), roll, zoom, pan and tilt (degrees), a row a frame.
    distance : float
        How far what is filmed is, in units of the scene: travel is right for a plane at that distance, turns for all.
    first : int
        The time code of the first frame.

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
    last = first + len(x) - 1

    def samples(rows: np.ndarray) -> str:
        words = [f"{v:.9g}" if np.ndim(v) == 0 else f"({', '.join(f'{w:.9g}' for w in v)})" for v in rows.tolist()]
        return ",\n".join(f"        {first + k}: {word}" for k, word in enumerate(words))

    return f"""#usda 1.0
(
    defaultPrim = "{name}"
    endTimeCode = {last}
    framesPerSecond = {fps:.9g}
    metersPerUnit = 1
    startTimeCode = {first}
    timeCodesPerSecond = {fps:.9g}
    upAxis = "Y"
)

def Camera "{name}"
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
