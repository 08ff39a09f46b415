"""Channels to matrices. The only place where a matrix of the chain is built.

Frame units: origin at the frame's geometric centre, x right, y down, frame height 1, square pixels. Matrices are
3×3 on column vectors (x, y, 1); the chain is source pixel → F → P → C → S → delivered pixel.
"""

from __future__ import annotations

import math

import numpy as np

from young_tremor.base.errors import UnreadableValue

X, Y, ROLL, ZOOM, PAN, TILT = range(6)


def focal(focal_mm: float, aspect: float) -> float:
    """Focal length in frame heights, for a full-frame (36 mm) equivalent and a frame of ``aspect`` (W/H)."""
    if not (math.isfinite(focal_mm) and focal_mm > 0):
        raise UnreadableValue(f"A focal length of {focal_mm} mm cannot be used: give more than 0 mm.")
    return focal_mm / 36.0 * max(aspect, 1.0)


def pixels(size: tuple[int, int], pixel_aspect: float = 1.0) -> np.ndarray:
    """Frame units → pixels of a picture of ``size`` whose pixels are ``pixel_aspect`` wide."""
    width, height = size
    return np.array([[height / pixel_aspect, 0.0, (width - 1) / 2], [0.0, height, (height - 1) / 2], [0.0, 0.0, 1.0]])


def fit(
    source: tuple[int, int], source_aspect: float, frame: tuple[int, int], frame_aspect: float, how: str = "fill"
) -> np.ndarray:
    """F: source pixels → frame units; centred, uniform: filling the frame (*fill*), inside of it (*whole*), or line for
    line (*own*)."""
    source_w, source_h = source[0] * source_aspect, float(source[1])
    frame_w, frame_h = frame[0] * frame_aspect, float(frame[1])
    scale = {"fill": max, "whole": min}.get(how, lambda *_: 1.0)(frame_w / source_w, frame_h / source_h)
    to_units = np.linalg.inv(pixels(source, source_aspect))
    if abs(scale * source_h / frame_h - 1) < 1e-12:
        return to_units
    k = scale * source_h / frame_h
    return np.diag([k, k, 1.0]) @ to_units


def fit_scale(
    source: tuple[int, int], source_aspect: float, frame: tuple[int, int], frame_aspect: float, how: str = "fill"
) -> float:
    """Delivered pixels per source pixel along a line, before any crop."""
    wide, high = frame[0] * frame_aspect / (source[0] * source_aspect), frame[1] / source[1]
    return max(wide, high) if how == "fill" else min(wide, high) if how == "whole" else 1.0


def placement(x: float, y: float, size: float, angle: float) -> np.ndarray:
    """P: a plate at (x, y) frame units, scaled by ``size``, turned by ``angle`` degrees clockwise."""
    a = math.radians(angle)
    c, s = size * math.cos(a), size * math.sin(a)
    return np.array([[c, -s, x], [s, c, y], [0.0, 0.0, 1.0]])


def crop(z: float, b: tuple[float, float] = (0.0, 0.0)) -> np.ndarray:
    """C: p ↦ z·p + b."""
    return np.array([[z, 0.0, b[0]], [0.0, z, b[1]], [0.0, 0.0, 1.0]])


def shift(places: np.ndarray) -> np.ndarray:
    """Plain shifts by ``places`` (n, 2) in frame units: (n, 3, 3)."""
    m = np.broadcast_to(np.eye(3), (len(places), 3, 3)).copy()
    m[:, :2, 2] = places
    return m


def shake(channels: np.ndarray, focal_units: float) -> np.ndarray:
    """S = Lens(pan, tilt) · Shift(x, y) · s·R(roll) about the centre.

    Parameters
    ----------
    channels : (n, 6) float64
        x, y in percent of frame height; roll in degrees; zoom in percent; pan, tilt in degrees. Positive moves the
        picture right, down, clockwise, larger.
    focal_units : float
        Focal length in frame heights (:func:`focal`).

    Returns
    -------
    (n, 3, 3) float64
        The exact identity where all six channels are 0.
    """
    channels = np.asarray(channels, dtype=np.float64)
    roll = np.radians(channels[:, ROLL])
    scale = np.exp(channels[:, ZOOM] / 100.0)
    c, s = scale * np.cos(roll), scale * np.sin(roll)
    similar = np.zeros((len(channels), 3, 3))
    similar[:, 0, 0], similar[:, 0, 1], similar[:, 0, 2] = c, -s, channels[:, X] / 100.0
    similar[:, 1, 0], similar[:, 1, 1], similar[:, 1, 2] = s, c, channels[:, Y] / 100.0
    similar[:, 2, 2] = 1.0
    if not channels[:, PAN:].any():
        return similar
    return lens(channels[:, PAN], channels[:, TILT], focal_units) @ similar


def lens(pan: np.ndarray, tilt: np.ndarray, f: float) -> np.ndarray:
    """K · Rx(tilt) · Ry(pan) · K⁻¹ with K = diag(f, f, 1): (n, 3, 3); angles (n,) in degrees."""
    a, b = np.radians(pan), np.radians(tilt)
    ca, sa, cb, sb = np.cos(a), np.sin(a), np.cos(b), np.sin(b)
    m = np.empty((len(a), 3, 3))
    m[:, 0, 0], m[:, 0, 1], m[:, 0, 2] = ca, 0.0, f * sa
    m[:, 1, 0], m[:, 1, 1], m[:, 1, 2] = -sb * sa, cb, f * sb * ca
    m[:, 2, 0], m[:, 2, 1], m[:, 2, 2] = -cb * sa / f, -sb / f, cb * ca
    return m


def unlens(pan: np.ndarray, tilt: np.ndarray, f: float) -> np.ndarray:
    """The inverse of :func:`lens`: (n, 3, 3). K turns about K⁻¹, and a turn's inverse is its transpose."""
    m = lens(pan, tilt, f).swapaxes(1, 2)
    k = np.array([f, f, 1.0])
    return np.asarray(m * (k[:, None] / k) ** 2)


def apply(matrices: np.ndarray, points: np.ndarray) -> np.ndarray:
    """Map points (m, 2) by matrices (n, 3, 3): (n, m, 2). Points at or behind the lens come out as NaN."""
    rows = np.vstack([points.T, np.ones((1, len(points)))])
    mapped = (np.ascontiguousarray(matrices).reshape(-1, 3) @ rows).reshape(len(matrices), 3, len(points))
    w = mapped[:, 2:]
    places = np.where(w > 1e-9, mapped[:, :2] / np.where(w > 1e-9, w, 1.0), np.nan)
    return np.ascontiguousarray(places.transpose(0, 2, 1))
