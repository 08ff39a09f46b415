"""How near each point of a plate is: its depth picture, made smooth enough that it bends and never tears."""

from __future__ import annotations

from functools import lru_cache

import cv2
import numpy as np

from young_tremor.base import colour
from young_tremor.base.frames import Frame
from young_tremor.model.depth import Depth
from young_tremor.motion import regions

ROWS = 216  # of the picture as it is kept
SOFT = 0.01  # frame heights by which it is blurred at least
STEEPEST = 0.7  # of the slope at which two places would look at the same one
GROWS = 1.35  # times as soft, until it is not too steep
MOST_SOFT = 1.0  # frame heights


def of_frame(frame: Frame, aspect: float) -> np.ndarray:
    """The grey of a picture as nearness 0…1: (rows, columns) float32 for a plate whose width is ``aspect`` heights."""
    grey = colour.to_rgb(frame) @ np.array([0.2126, 0.7152, 0.0722], np.float32)
    rows, columns = _shape(aspect)
    small = cv2.resize(np.ascontiguousarray(grey, np.float32), (columns, rows), interpolation=cv2.INTER_AREA)
    return np.clip(np.nan_to_num(small), 0.0, 1.0)


@lru_cache(maxsize=32)
def draw_depth(depth: Depth, aspect: float, t: float) -> np.ndarray:
    """The nearness that is drawn, at ``t`` seconds: a ramp, and shapes on it; (rows, columns) float32."""
    rows, columns = _shape(aspect)
    x, y = (np.arange(columns) + 0.5) / columns - 0.5, (np.arange(rows) + 0.5) / rows - 0.5
    q = np.stack(np.meshgrid(x * aspect, y), axis=-1)
    near = np.zeros((rows, columns))
    ramp = depth.ramp
    if ramp is not None:
        turn = np.radians(ramp.angle)
        along = q @ np.array([np.cos(turn), np.sin(turn)])
        span = ramp.end - ramp.start
        near = np.clip((along - ramp.start) / span, 0, 1) if span else (along >= ramp.start).astype(float)
    for shape in depth.shapes:
        near = near + regions.weight(shape.region, q, t) * (shape.near - near)
    return near.astype(np.float32)


def moves(depth: Depth) -> bool:
    """Whether a drawn depth is another at another time."""
    return any(regions.moves(shape.region) for shape in depth.shapes)


def ends(depth: Depth) -> tuple[float, float]:
    """The least and the largest inverse distance of a depth picture."""
    pair = (1 / depth.near, 1 / depth.far)
    return min(pair), max(pair)


def inverse(near: np.ndarray, depth: Depth, travel: float) -> np.ndarray:
    """The inverse distance of each place, smooth enough for a shake that travels so many frame heights: no two places
    of the frame then look at the same one beyond each other. (rows, columns) float32.

    A place looks at p = q − travel · 1/d(p), which is one to one where travel times the slope of 1/d is less than 1.
    """
    near = 1.0 - near if depth.inverted else near
    whole = (near / depth.near + (1.0 - near) / depth.far).astype(np.float32)
    rows = whole.shape[0]
    sigma = SOFT
    while True:
        soft = cv2.GaussianBlur(whole, (0, 0), sigma * rows, borderType=cv2.BORDER_REPLICATE)
        steep = max(float(np.abs(np.diff(soft, axis=axis)).max(initial=0.0)) for axis in (0, 1)) * rows
        if steep * travel <= STEEPEST or sigma >= MOST_SOFT:
            return soft
        sigma *= GROWS


def depth_at(picture: np.ndarray, places: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """A picture of a plate at places (..., 2) in pixels of its source, which is of ``size``; held at its edges."""
    rows, columns = picture.shape
    flat = (-1, places.shape[-2])  # rows and columns, each fewer than the resampler's 32,767
    x = (places[..., 0] + 0.5) * (columns / size[0]) - 0.5
    y = (places[..., 1] + 0.5) * (rows / size[1]) - 0.5
    found = cv2.remap(
        picture,
        np.clip(x, -1, columns).astype(np.float32).reshape(flat),
        np.clip(y, -1, rows).astype(np.float32).reshape(flat),
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return np.asarray(found).reshape(places.shape[:-1]).astype(np.float64)


def _shape(aspect: float) -> tuple[int, int]:
    return ROWS, max(round(ROWS * aspect), 1)
