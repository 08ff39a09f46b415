"""Handheld clips whose motion is known: exact sub-pixel views of a textured picture, with what a camera adds."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path

import av
import cv2
import numpy as np
from scipy.ndimage import affine_transform, map_coordinates, spline_filter


@dataclass(frozen=True)
class Trouble:
    """What stands between the truth and the frames. ``blur``: share of the frame's time that the shutter is open;
    ``noise``: standard deviation in code values; ``flicker``: how far light goes up and down; ``subject``: share of the
    frame that a moving thing covers; ``contrast``: 1 as painted; ``soft``: pixels by which the scene, not the moving
    thing, is out of focus; ``readout``: share of the frame's time between its first row and its last; ``fields``: each
    second row half a frame's time later."""

    blur: float = 0.0
    noise: float = 0.0
    flicker: float = 0.0
    subject: float = 0.0
    contrast: float = 1.0
    soft: float = 0.0
    readout: float = 0.0
    fields: bool = False


def world(size: tuple[int, int], seed: int = 1, pitch: float = 1.6) -> np.ndarray:
    """A textured picture of ``size``, float32 0…255, nothing in it finer than about ``pitch`` pixels."""
    width, height = size
    rng = np.random.default_rng(seed)
    out = np.zeros((height, width), np.float32)
    for octave in range(7):
        step = 2**octave
        small = rng.normal(size=(height // step + 2, width // step + 2)).astype(np.float32)
        out += 0.9**octave * 1.4 * cv2.resize(small, (width, height), interpolation=cv2.INTER_CUBIC)
    out = cv2.GaussianBlur(out, (0, 0), pitch)
    out = (out - out.mean()) / out.std()
    return np.clip(118 + 46 * out, 16, 235)


def hand(t: np.ndarray, *, size: float, seed: int = 3, pan: float = 0.0) -> np.ndarray:
    """A hand's way at times t (n,): (n, 4) x, y pixels, turn degrees, log scale; ``size`` pixels of sway."""
    rng = np.random.default_rng(seed)
    t = np.append(t, 0.0)
    out = np.zeros((len(t), 4))
    for column, reach in enumerate((size, 0.8 * size, 0.02 * size, 2.5e-4 * size)):
        for hz, amount in ((0.31, 1.0), (0.83, 0.5), (1.9, 0.3), (4.3, 0.08), (8.7, 0.03)):
            out[:, column] += reach * amount * np.sin(2 * np.pi * (hz * rng.uniform(0.9, 1.1) * t + rng.uniform()))
    out[:, 0] += pan * t
    return out[:-1] - out[-1]


class Filmed:
    """Frames of a world under a way; ``way(t)`` gives (n, 4) as :func:`hand`."""

    def __init__(
        self,
        picture: np.ndarray,
        way,
        size: tuple[int, int],
        *,
        fps: float = 24.0,
        trouble: Trouble = Trouble(),
        seed: int = 9,
        quick: bool = False,
    ) -> None:  # type: ignore[no-untyped-def]
        self.size, self.fps, self.trouble, self._way = size, fps, trouble, way
        if trouble.soft:
            picture = cv2.GaussianBlur(picture, (0, 0), trouble.soft)
        self._quick = picture.astype(np.float32) if quick else None  # linear between pixels: for smooth pictures
        self._spline = picture if quick else spline_filter(picture.astype(np.float32), order=3, output=np.float32)
        self._corner = (np.array(picture.shape[::-1]) - np.array(size)) / 2
        self._rng = np.random.default_rng(seed)
        if trouble.subject:
            self._thing = world((size[0], size[1]), seed=77)

    def truth(self, count: int) -> np.ndarray:
        """x, y pixels, turn degrees, scale of frames: (count, 4)."""
        rows = self._way(np.arange(count) / self.fps)
        return np.column_stack([rows[:, :3], np.exp(rows[:, 3])])

    def _view(self, t: float) -> np.ndarray:
        width, height = self.size
        centre = (np.array(self.size) - 1) / 2
        rows = np.arange(height)
        late = (rows / (height - 1) - 0.5) * self.trouble.readout + 0.5 * (rows % 2) * self.trouble.fields
        if self._quick is not None:
            x, y, turn, grow = self._way(np.array([t]))[0]
            c, s = np.cos(np.radians(turn)) * np.exp(grow), np.sin(np.radians(turn)) * np.exp(grow)
            back = np.linalg.inv(np.array([[c, -s], [s, c]]))
            matrix = np.column_stack([back, back @ (-centre - (x, y)) + centre + self._corner])
            flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
            return cv2.warpAffine(self._quick, matrix, self.size, flags=flags, borderMode=cv2.BORDER_REFLECT_101)
        x, y, turn, grow = self._way(t + late / self.fps).T[:, :, None]
        c, s = np.cos(np.radians(turn)) * np.exp(-grow), np.sin(np.radians(turn)) * np.exp(-grow)
        if not late.any():  # the same places, a third faster
            back = np.array([[c[0, 0], -s[0, 0]], [s[0, 0], c[0, 0]]])
            begin = back @ (-centre[::-1] - (y[0, 0], x[0, 0])) + (centre + self._corner)[::-1]
            return affine_transform(
                self._spline, back, begin, self.size[::-1], order=3, prefilter=False, mode="mirror", output=np.float32
            )
        ys, xs = np.mgrid[0:height, 0:width]
        dx, dy = xs - centre[0] - x, ys - centre[1] - y
        at = np.stack([c * dx + s * dy, c * dy - s * dx]) + (centre + self._corner)[:, None, None]
        return map_coordinates(self._spline, at[::-1], order=3, prefilter=False, mode="mirror", output=np.float32)

    def frame(self, number: int) -> np.ndarray:
        """One frame, uint8."""
        trouble, t = self.trouble, number / self.fps
        if trouble.blur:
            spread = (np.arange(8) + 0.5) / 8 - 0.5
            picture = np.mean([self._view(t + trouble.blur / self.fps * k) for k in spread], axis=0)
        else:
            picture = self._view(t)
        if trouble.subject:
            width = self.size[0]
            wide = int(width * trouble.subject)
            left = int((width - wide) * (0.5 + 0.45 * np.sin(1.3 * t)))
            shift = int(90 * t) % 200
            picture[:, left : left + wide] = np.roll(self._thing, shift, axis=0)[:, :wide]
        picture = 118 + trouble.contrast * (picture - 118)
        if trouble.flicker:
            picture = picture * (1 + trouble.flicker * np.sin(2 * np.pi * 2.7 * t)) + 20 * trouble.flicker * np.sin(
                5.1 * t
            )
        if trouble.noise:
            picture = picture + self._rng.normal(scale=trouble.noise, size=picture.shape)
        return np.clip(np.rint(picture), 0, 255).astype(np.uint8)

    def frames(self, count: int) -> Iterator[tuple[float, np.ndarray]]:
        """Times and frames, in order."""
        for number in range(count):
            yield number / self.fps, self.frame(number)


def apart(found: np.ndarray, truth: np.ndarray) -> tuple[float, float, float]:
    """RMS of the path (pixels, both axes together), turn (degrees) and scale (parts per million), offsets removed."""
    off = found - truth
    off = off - off.mean(axis=0)
    rms = np.sqrt((off**2).mean(axis=0))
    return float(np.hypot(rms[0], rms[1])), float(rms[2]), float(rms[3] * 1e6)


def encode(path: Path, frames: Iterable[np.ndarray], rate: int, crf: int, preset: str = "fast") -> Path:
    """Write luma pictures (rows, columns) uint8 as an H.264 clip without colour."""
    with av.open(str(path), "w") as file:
        stream = None
        for number, luma in enumerate(frames):
            if stream is None:
                stream = file.add_stream("libx264", rate=rate)
                stream.height, stream.width = luma.shape
                stream.pix_fmt, stream.options = "yuv420p", {"crf": str(crf), "preset": preset}
            planes = np.concatenate([luma.ravel(), np.full(luma.size // 2, 128, np.uint8)])
            picture = av.VideoFrame.from_ndarray(planes.reshape(-1, luma.shape[1]), format="yuv420p")
            picture.pts = number
            file.mux(stream.encode(picture))
        assert stream is not None
        file.mux(stream.encode(None))
    return path


def write_gyro_log(path: Path, way: Callable[[np.ndarray], np.ndarray], focal: float, begins: float, held: str) -> None:
    """A telephone's log of a way that begins at ``begins`` seconds of it, with bias and noise; ``focal`` in pixels."""

    def turned(t: np.ndarray) -> np.ndarray:
        x, y, turn, _ = way(t - begins).T
        return np.column_stack([y / focal, x / focal, np.radians(turn)])  # about x, y and z

    t, rng = np.arange(1600) / 200, np.random.default_rng(4)
    rates = (turned(t + 1e-4) - turned(t - 1e-4)) / 2e-4 + (0.01, -0.02, 0.005) + rng.normal(0, 0.002, (len(t), 3))
    if held == "left":  # the camera's right is the telephone's -y
        rates = np.column_stack([rates[:, 1], -rates[:, 0], rates[:, 2]])
    rows = (",".join(f"{value:.6f}" for value in row) for row in np.column_stack([t, rates]))
    path.write_text("\n".join(["time_s,gyro_x_rad_s,gyro_y_rad_s,gyro_z_rad_s", *rows]))
