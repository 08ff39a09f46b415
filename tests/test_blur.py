"""Blur against 256 samples of the same motion, on fine detail, and streaks that can be measured."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from msgspec.structs import replace

from pictures import SyntheticSource
from test_render import drift, psnr, shot
from young_tremor import kernels
from young_tremor.base.frames import Frame, FrameSource
from young_tremor.base.pixels import PixelFormat
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Placement, Shot, Shutter
from young_tremor.model.shake import Plotted, Region, Shake, Shimmer
from young_tremor.render import displacement, shutter
from young_tremor.render.exposure_views import views_of
from young_tremor.render.frame import render
from young_tremor.render.plan import Plan
from young_tremor.render.resolve_plan import resolve

GREY = PixelFormat("gray", kind="grey")
REAL = PixelFormat("grayf32", 32, "grey", real=True)
SIZE, SMALL = (640, 360), (320, 180)


def detail(size: tuple[int, int] = SMALL, seed: int = 3) -> np.ndarray:
    """Lines, letters and grain as sharp as a plane holds them."""
    width, height = size
    rng = np.random.default_rng(seed)
    big = np.full((2 * height, 2 * width), 128, np.uint8)
    for k in range(120):
        x, y = int(rng.integers(0, 2 * width)), int(rng.integers(0, 2 * height))
        grey = int(rng.integers(10, 245))
        if k % 2:
            end = (x + int(rng.integers(-200, 200)), y + int(rng.integers(-200, 200)))
            cv2.line(big, (x, y), end, grey, int(rng.integers(1, 5)), cv2.LINE_AA)
        else:
            cv2.putText(big, "Quillmark 0123", (x, y), 0, float(rng.uniform(0.6, 1.4)), grey, 2, cv2.LINE_AA)
    grain = cv2.GaussianBlur(rng.normal(size=(height, width)).astype(np.float32), (0, 0), 0.7)
    picture = cv2.resize(big, size, interpolation=cv2.INTER_AREA) + 10 * grain / grain.std()
    return np.clip(picture, 0, 255).round().astype(np.uint8)


def going(
    path: float, angle: float = 0.5, *, gain: float = 0.0, roll: float = 0.0, lines: int = SIZE[1], **frame: object
) -> Shot:
    """A shot whose frame 1 goes ``path`` pixels of so many lines while the shutter is open all the time, its speed
    growing by ``gain``, and turns by ``roll`` degrees."""
    rate, t = 24.0, np.linspace(-0.5, 0.5, 41)
    share = t + gain * (t * t - 0.25)

    def keyed(size: float) -> Curve:
        return Curve(
            0.0,
            tuple(Key(1 / rate + float(a) / rate, size * float(b), "linear") for a, b in zip(t, share, strict=True)),
        )

    x, y = (100 * path * f(angle) / lines for f in (np.cos, np.sin))
    shake = Shake((Plotted("p", x=keyed(x), y=keyed(y), roll=keyed(roll)),))
    return shot(shake, **{"edges": "mirror", "shutter": Shutter(Curve(360.0)), **frame})


def against(plan: Plan, source: FrameSource, samples: int = 96) -> np.ndarray:
    """Frame 1 as the mean of so many views of it by cubic convolution in double precision (R. Keys, 1981, a = -1/2),
    by places worked out at every pixel."""
    middle, length = plan.shutter(np.array([plan.time(1)]))
    times = middle[0] + length[0] * ((np.arange(samples) + 0.5) / samples - 0.5)
    pixels = np.arange(SMALL[0], dtype=float), np.arange(SMALL[1], dtype=float)
    plane = np.pad(source.read(0).planes[0].astype(float), 160, mode="reflect").ravel()
    pitch, total = SMALL[0] + 320, np.zeros(SMALL[::-1])
    for t in times:
        places = displacement.places_at(plan, plan.base, 1, np.array([t]), np.zeros((1, 2)), pixels)[0] + 160
        whole = np.floor(places).astype(int)
        wx, wy = (cubic_shares(places[..., k] - whole[..., k]) for k in range(2))
        corner = (whole[..., 1] - 1) * pitch + whole[..., 0] - 1
        for j in range(4):
            row = sum(wx[..., i] * plane[corner + j * pitch + i] for i in range(4))
            total += wy[..., j] * row
    return np.clip(total / samples, 0, 255)


def cubic_shares(t: np.ndarray) -> np.ndarray:
    """Weights of the pixels at -1, 0, 1 and 2 for places t between 0 and 1: (…, 4)."""
    u = 1 - t
    near, far = ((1.5 * v - 2.5) * v * v + 1 for v in (t, u))
    return np.stack([-0.5 * t * u * u, near, far, -0.5 * u * t * t], axis=-1)


@pytest.mark.parametrize("more", ["plain", "turning", "lens", "rolling", "region", "shimmer"])
@pytest.mark.parametrize("path", [0.3, 1.3, 3.0, 6.0, 12.0, 25.0, 60.0])
def test_blur_is_that_of_many_samples_on_fine_detail(path: float, more: str) -> None:
    source = SyntheticSource(Frame((detail(),), GREY), frames=3)
    way = going(path, gain=0.3, roll=0.15 if more != "plain" else 0.0, lines=180, readout=0.012 * (more == "rolling"))
    if more == "turning":
        way = going(path / 3, roll=path / 1.6, gain=0.2, lines=180)
    elif more == "lens":
        # the frame of a drift of the lens that goes farthest, scaled to the path
        once = resolve(replace(way, shake=drift(2.0, pan=1.0, tilt=1.0, seed=11)), source.info)
        reach = path / float(shutter.paths(once, np.array([1]))[0])
        way = replace(way, shake=drift(2.0, pan=reach, tilt=reach, seed=11))
    elif more == "region":
        way = replace(way, shake=replace(way.shake, region=Region(width=Curve(0.8), height=Curve(0.9), feather=0.4)))
    elif more == "shimmer":
        way = replace(way, shake=Shake((*way.shake.strands, Shimmer("s", x=1.0, y=0.7, size=180.0, speed=2.0))))
    plan = resolve(way, source.info)
    views = int(np.clip(4 * path, 24, 96))  # a quarter of a pixel from one to the next
    made, true = render(plan, 1, source).planes[0].astype(float), against(plan, source, views)
    # what bends much within a block of so small a picture is straight there
    straight = more in ("plain", "turning") or (path < 60 and more != "shimmer")
    least = 55 if straight else 52.5
    assert psnr(made, true) >= (least if kernels.native.level() else 40)
    assert abs(float((made - true).mean())) <= 0.05


def test_a_streak_has_its_length_its_middle_and_no_gaps() -> None:
    """A dot under even and growing speed, along and across the pixels."""
    black = np.zeros((360, 640), np.float32)
    black[180, 320] = 1.0
    source = SyntheticSource(Frame((black,), REAL), frames=3)
    ys, xs = np.mgrid[0:360, 0:640]
    u = (np.arange(20000) + 0.5) / 20000 - 0.5

    def measured(path: float, angle: float, gain: float) -> tuple[np.ndarray, float, float]:
        """A picture; middle and variance along the way, the mean over places between pixels."""
        along = xs * np.cos(angle) + ys * np.sin(angle)
        found = []
        for x in (0.0, 0.25, 0.5, 0.75):
            way = going(path, angle, gain=gain)
            placed = replace(way.footage, placement=Placement(x=Curve(x / 360), y=Curve(0.6 * x / 360)))
            plan = resolve(replace(way, plates=(placed,)), source.info)
            got = render(plan, 1, source).planes[0].astype(float)
            assert got.sum() == pytest.approx(1.0, abs=0.01)
            middle = float((got * along).sum() / got.sum())
            variance = float((got * (along - middle) ** 2).sum() / got.sum())
            found.append((middle - x * (np.cos(angle) + 0.6 * np.sin(angle)), variance))
        where, spread = np.mean(found, axis=0).tolist()
        return got, where, spread

    ripple = 0.02 if kernels.native.level() else 0.12
    for angle in (0.0, 0.3, np.pi / 4):
        _, start, own = measured(0.01, angle, 0.0)
        for path in (0.3, 0.5, 1.2, 2.1, 3.0, 7.0, 13.0, 20.0, 30.0, 40.0, 80.0, 120.0, 200.0):
            for gain in (0.0, 0.4):
                got, middle, variance = measured(path, angle, gain)
                places = path * (u + gain * (u * u - 0.25))
                assert abs(middle - start - places.mean()) < max(0.05, path / 2000), (angle, path, gain)
                length, true = np.sqrt(12 * max(variance - own, 0.0)), np.sqrt(12 * places.var())
                assert abs(length - true) < max(0.1, 0.003 * true), (angle, path, gain, length)
                if path >= 13 and not gain and not angle:
                    line = got.sum(axis=0)[320 - int(path / 2) + 4 : 320 + int(path / 2) - 3]
                    assert np.ptp(line) < ripple * line.mean(), path


def test_slow_motion_is_even_and_edges_stay_straight() -> None:
    """A soft bump that moves by a twentieth of a pixel a frame, and an edge that is hardly turned."""
    ys, xs = np.mgrid[0:360, 0:640]
    bump = np.exp(-0.5 * (((xs - 320) / 1.6) ** 2 + ((ys - 180) / 1.6) ** 2)).astype(np.float32)
    source = SyntheticSource(Frame((bump,), REAL), frames=30)
    shift = Curve(0.0, (Key(0.0, 0.0, "linear"), Key(1.0, 100 * 1.2 / 360)))  # 24 frames to the second
    plan = resolve(shot(Shake((Plotted("p", x=shift),)), edges="mirror", shutter=Shutter(Curve(0.0))), source.info)
    found = [render(plan, k, source).planes[0].astype(float) for k in range(24)]
    where = [float((frame * xs).sum() / frame.sum()) - 320 for frame in found]
    off = np.array(where) - 0.05 * np.arange(24)
    assert np.abs(off).max() < (0.01 if kernels.native.level() else 0.06)
    step = np.where(xs < 320, 0.2, 0.8).astype(np.float32)
    turned = resolve(shot(Shake((Plotted("p", roll=Curve(1.0)),)), edges="mirror"), source.info)
    made = render(turned, 1, SyntheticSource(Frame((step,), REAL), frames=3)).planes[0].astype(float)
    place = ((0.8 - made[40:320]) / 0.6).sum(axis=1)
    line = np.polyval(np.polyfit(np.arange(280), place, 1), np.arange(280))
    assert np.abs(place - line).max() < (0.03 if kernels.native.level() else 0.06)


def test_a_thin_line_grows_dimmer_with_speed_and_never_brighter() -> None:
    grey = np.full((360, 640), 40, np.float32)
    grey[:, 320] = 240
    source = SyntheticSource(Frame((grey / 255,), REAL), frames=3)
    peaks = []
    for path in np.linspace(0.0, 16.0, 65):
        peaks.append(float(render(resolve(going(float(path), 0.0), source.info), 1, source).planes[0][180].max()))
    assert (np.diff(peaks) < 0.004).all()
    assert peaks[-1] < 0.35 * peaks[0]


def test_a_preview_is_as_long_a_blur_as_the_final() -> None:
    from young_tremor.render.plan import Quality

    black = np.zeros((360, 640), np.uint8)
    black[170:190, 310:330] = 255
    source = SyntheticSource(Frame((black,), GREY), frames=3)
    for path in (1.0, 4.0, 25.0):
        way = going(path, 0.0)
        final = render(resolve(way, source.info), 1, source).planes[0].astype(float)
        quick = render(resolve(way, source.info, Quality(kernel="linear")), 1, source).planes[0].astype(float)
        rough = resolve(way, source.info, Quality(kernel="linear"))
        assert len(views_of(rough, 1, rough.plates, (1,))[0].times) <= max(path, 6)
        spread = [np.sqrt((p[180] * (np.arange(640) - 320) ** 2).sum() / p[180].sum()) for p in (final, quick)]
        assert spread[1] == pytest.approx(spread[0], rel=0.03)
