"""Clips drawn for measuring, unlike those of the tests: hard shapes and noise, a subject of its own motion, codecs."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path

import cv2
import numpy as np
from numpy.random import Generator

import truth

PAD = 220  # pixels of the world beyond each side of the frame


@dataclass(frozen=True)
class Scene:
    """What is filmed, and how. ``soft``: pixels by which the scene is out of focus, the subject too unless ``sharp``;
    ``subject``: share of the frame; ``blur``: share of the frame's time that the shutter is open."""

    style: str = "noise"  # or shapes
    size: tuple[int, int] = (1280, 720)
    frames: int = 36
    rate: int = 24
    sway: float = 14.0
    pan: float = 0.0
    soft: float = 0.0
    subject: float = 0.0
    sharp: bool = True
    outline: str = "ellipse"  # strip, box
    goes: str = "sway"  # pass, slow, turn
    along: bool = False  # the subject stands in the scene, and moves in it
    blur: float = 0.0
    noise: float = 0.0
    contrast: float = 1.0
    flicker: float = 0.0
    crf: int = 18


def drawn_at_random(number: int) -> Scene:
    """A scene with a subject, its kinds and amounts by a number."""
    rng = np.random.default_rng(9000 + number)
    return Scene(
        style=("noise", "shapes")[rng.integers(2)],
        sway=float(rng.uniform(3, 22)),
        pan=float(rng.uniform(-200, 200)) if rng.integers(5) == 0 else 0.0,
        rate=int(rng.choice([24, 25, 30])),
        soft=float(rng.choice([0, 1, 2, 3])),
        subject=float(rng.uniform(0.3, 0.5)),
        sharp=bool(rng.integers(3)),
        outline=str(rng.choice(["ellipse", "strip", "box"])),
        goes=str(rng.choice(["sway", "pass", "slow", "turn"])),
        along=bool(rng.integers(2)),
        blur=float(rng.choice([0, 0, 0.5])),
        noise=float(rng.choice([0, 2, 4])),
        contrast=float(rng.choice([1, 1, 0.5])),
        crf=int(rng.choice([12, 18, 23, 26])),
    )


def film(scene: Scene, seed: int, path: Path) -> np.ndarray:
    """Film a scene into a file; the way it went: (n, 4) x, y pixels, turn degrees, scale."""
    rng = np.random.default_rng(seed)
    (width, height), t = scene.size, np.arange(scene.frames) / scene.rate
    far = int(abs(scene.pan) * scene.frames / scene.rate)
    paint = _noise if scene.style == "noise" else _shapes
    world = paint((2 * (width + 2 * PAD + far), 2 * (height + 2 * PAD)), rng)
    thing = paint((2 * width, 2 * height), rng) if scene.subject else world
    if scene.soft:
        world = cv2.GaussianBlur(world, (0, 0), 2 * scene.soft)
        thing = thing if scene.sharp else cv2.GaussianBlur(thing, (0, 0), 2 * scene.soft)
    way = _way(rng, scene.sway, scene.pan)
    own = _way(rng, {"sway": 120.0, "pass": 30.0, "slow": 25.0, "turn": 60.0}[scene.goes], 0.0)
    mask = _mask(scene)

    def view(at: float) -> np.ndarray:
        move = _matrix(way(np.array([at]))[0], scene.size)
        picture = _warped(world, move @ _shift(-PAD, -PAD), scene.size)
        if scene.subject:
            place = own(np.array([at]))[0]
            place[0] += (at - 1.0) * 0.35 * width * (scene.goes == "pass")
            place[2] += 10 * np.sin(2 * at) * (scene.goes == "turn")
            here = _matrix(place, scene.size)
            here = move @ here if scene.along else here
            share = _warped(mask, here, scene.size, cv2.BORDER_CONSTANT)[..., None][..., 0] / 255
            picture = picture * (1 - share) + _warped(thing, here, scene.size) * share
        return cv2.resize(picture, scene.size, interpolation=cv2.INTER_AREA)

    def frame(number: int) -> np.ndarray:
        spread = (np.arange(4) + 0.5) / 4 - 0.5 if scene.blur else np.zeros(1)
        picture = np.mean([view(t[number] + scene.blur / scene.rate * k) for k in spread], axis=0)
        picture = 118 + scene.contrast * (picture - 118)
        picture = picture * (1 + scene.flicker * np.sin(17 * t[number])) + rng.normal(
            scale=scene.noise, size=picture.shape
        )
        return np.clip(np.rint(picture), 0, 255).astype(np.uint8)

    truth.encode(path, (frame(number) for number in range(scene.frames)), scene.rate, scene.crf)
    rows = way(t)
    return np.column_stack([rows[:, :3], np.exp(rows[:, 3])])


def off_by(found: np.ndarray, known: np.ndarray, size: tuple[int, int]) -> tuple[float, float]:
    """RMS error of the path of the middle, and of places all over the frame, in pixels; what is off all the time is
    left out."""
    grid = np.stack(np.meshgrid(np.linspace(0, size[0] - 1, 7), np.linspace(0, size[1] - 1, 5)), axis=-1).reshape(-1, 2)
    both = []
    for rows in (found, known):
        moves = np.array([_matrix(np.append(row[:3], np.log(row[3])), size) for row in rows])
        both.append(np.einsum("nij,pj->npi", moves[:, :2, :2], grid) + moves[:, None, :2, 2])
    off = both[0] - both[1]
    off -= off.mean(axis=0)
    middle = (found - known)[:, :2]
    middle = middle - middle.mean(axis=0)
    return float(np.sqrt((middle**2).sum(axis=1).mean())), float(np.sqrt((off**2).sum(axis=2).mean()))


def varied() -> dict[str, Scene]:
    """Kinds of clip by which it is judged whether the error that is said is the one that is made."""
    rough = Scene(size=(1920, 1080), frames=40, blur=0.5, noise=4, flicker=0.12, crf=23)
    plain = Scene(size=(1920, 1080), frames=40)
    two = replace(plain, subject=0.4, soft=2.0)
    return {
        "clean": replace(plain, crf=8),
        "clean shapes": replace(plain, style="shapes", crf=8),
        "crf 23": rough,
        "crf 23 shapes": replace(rough, style="shapes"),
        "crf 28": replace(rough, style="shapes", crf=28),
        "35 % subject": replace(plain, subject=0.35, outline="strip", goes="slow"),
        "low contrast": replace(rough, contrast=0.2, flicker=0.0),
        "low contrast shapes": replace(plain, style="shapes", contrast=0.2, noise=6, crf=23),
        "faint": replace(plain, contrast=0.12, noise=5, crf=20),
        "sharper 40 %": two,
        "sharper, turning": replace(two, goes="turn", outline="box"),
        "sharper, passing": replace(two, style="shapes", goes="pass", subject=0.45),
        "sharper, in the scene": replace(two, along=True, subject=0.48),
        "low contrast, sharper": replace(two, style="shapes", contrast=0.3, noise=5, crf=23),
    }


def _noise(size: tuple[int, int], rng: Generator) -> np.ndarray:
    out = np.zeros((size[1], size[0]), np.float32)
    for octave in range(1, 8):
        step = 2**octave
        small = rng.normal(size=(size[1] // step + 2, size[0] // step + 2)).astype(np.float32)
        out += step ** rng.uniform(0.15, 0.4) * cv2.resize(small, size, interpolation=cv2.INTER_CUBIC)
    out = (out - out.mean()) / out.std()
    return np.asarray(np.clip(118 + 42 * out, 10, 240), np.float32)


def _shapes(size: tuple[int, int], rng: Generator) -> np.ndarray:
    ground = rng.uniform(60, 190, (size[1] // 160 + 2, size[0] // 160 + 2)).astype(np.uint8)
    out = cv2.resize(ground, size, interpolation=cv2.INTER_CUBIC)
    for _ in range(size[0] * size[1] // 9000):
        ink = (int(rng.uniform(15, 235)),)
        x, y, large = (
            int(rng.uniform(0, size[0])),
            int(rng.uniform(0, size[1])),
            float(rng.uniform(3, 7 + 90 * rng.uniform() ** 2)),
        )
        kind = rng.integers(4)
        if kind == 0:
            cv2.circle(out, (x, y), int(large), ink, -1, cv2.LINE_AA)
        elif kind == 1:
            box = cv2.boxPoints(((x, y), (2 * large, large * float(rng.uniform(0.6, 4))), float(rng.uniform(0, 180))))
            cv2.fillConvexPoly(out, box.astype(np.int32), ink, cv2.LINE_AA)
        elif kind == 2:
            way = rng.uniform(0, 6.3)
            end = int(x + 3 * large * np.cos(way)), int(y + 3 * large * np.sin(way))
            cv2.line(out, (x, y), end, ink, int(rng.integers(2, 6)), cv2.LINE_AA)
        else:
            text = "".join(rng.choice(list("abcdeQMPRSTuvw127"), 4))
            cv2.putText(out, text, (x, y), 0, float(rng.uniform(0.5, 2)), ink, int(rng.integers(1, 4)), cv2.LINE_AA)
    return np.asarray(out, np.float32)


def _way(rng: Generator, sway: float, pan: float):  # type: ignore[no-untyped-def]
    hz = np.array([0.31, 0.83, 1.9, 4.3, 8.7]) * rng.uniform(0.85, 1.15, (4, 5))
    phase = rng.uniform(0, 2 * np.pi, (4, 5))
    sizes = np.array([sway, 0.8 * sway, 0.02 * sway, 2.5e-4 * sway])[:, None] * (1, 0.5, 0.3, 0.08, 0.03)

    def way(t: np.ndarray) -> np.ndarray:
        t = np.append(t, 0.0)
        out = np.einsum("cf,tcf->tc", sizes, np.sin(2 * np.pi * hz * t[:, None, None] + phase))
        out[:, 0] += pan * t
        return np.asarray(out[:-1] - out[-1])

    return way


def _mask(scene: Scene) -> np.ndarray:
    width, height = 2 * scene.size[0], 2 * scene.size[1]
    out, area = np.zeros((height, width), np.uint8), scene.subject * width * height
    middle = width // 2, int(0.53 * height)
    if scene.outline == "ellipse":
        tall = min(np.sqrt(area / np.pi * 1.3), 0.48 * height)
        cv2.ellipse(out, middle, (int(area / np.pi / max(tall, 1)), int(tall)), 0, 0, 360, (255,), -1)
    else:
        across = scene.subject * width if scene.outline == "strip" else np.sqrt(1.2 * area)
        down = 3 * height if scene.outline == "strip" else across / 1.2
        corner = int(middle[0] - across / 2), int(middle[1] - down / 2)
        cv2.rectangle(out, corner, (int(corner[0] + across), int(corner[1] + down)), (255,), -1)
    return cv2.GaussianBlur(out, (0, 0), 1.5).astype(np.float32)


def _shift(x: float, y: float) -> np.ndarray:
    out = np.eye(3)
    out[:2, 2] = x, y
    return out


def _matrix(row: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    x, y, turn, grow = row
    c, s = np.exp(grow) * np.cos(np.radians(turn)), np.exp(grow) * np.sin(np.radians(turn))
    middle = _shift((size[0] - 1) / 2, (size[1] - 1) / 2)
    return _shift(x, y) @ middle @ np.array([[c, -s, 0], [s, c, 0], [0, 0, 1]]) @ np.linalg.inv(middle)


def _warped(
    picture: np.ndarray, move: np.ndarray, size: tuple[int, int], border: int = cv2.BORDER_REFLECT_101
) -> np.ndarray:
    """A picture of twice the frame's pitch under a move of the frame's pixels, still of twice the pitch."""
    twice = np.array([[2, 0, 0.5], [0, 2, 0.5], [0, 0, 1.0]])
    whole = twice @ move @ np.linalg.inv(twice)
    return cv2.warpAffine(picture, whole[:2], (2 * size[0], 2 * size[1]), flags=cv2.INTER_LINEAR, borderMode=border)
