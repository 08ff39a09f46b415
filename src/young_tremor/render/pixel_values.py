"""The values of a pixel of a frame as people read them: codes, light of a screen, light of a scene."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from young_tremor.base import colour, colour_spaces
from young_tremor.base.frames import Frame
from young_tremor.base.pixels import levels
from young_tremor.render.colour_conversion import light_of


def value_lines(frame: Frame, across: float, down: float) -> list[str]:
    """Red, green and blue of the pixel at a place (shares of the picture) in lines: code values in the frame's own
    depth and range, or scene-linear values; of high range also the light in cd/m²."""
    rgb = _rgb_at(frame, across, down)
    if frame.format.real:
        return ["{:.4g} {:.4g} {:.4g}".format(*rgb)]
    low, span = levels(frame.format, frame.colour)
    lines = ["{:3d} {:3d} {:3d}".format(*(round(low + span * float(value)) for value in rgb))]
    if colour_spaces.is_high(frame.colour):
        red, green, blue = light_of(rgb, frame.colour)
        lines.append(f"{red:.4g} {green:.4g} {blue:.4g}")
        lines.append("cd/m²")
    return lines


def _rgb_at(frame: Frame, across: float, down: float) -> np.ndarray:
    """R'G'B' (3,) of a pixel, from the samples of each plane that lie there."""
    planes = []
    for plane in frame.planes:
        rows, columns = plane.shape
        planes.append(plane[min(int(down * rows), rows - 1), min(int(across * columns), columns - 1)].reshape(1, 1))
    format = replace(frame.format, step=(1, 1), alpha=False)
    planes = planes[: format.planes]
    tags = colour.with_matrix(frame.colour, frame.format, frame.size)
    return colour.to_rgb(Frame(tuple(planes), format, tags))[0, 0]
