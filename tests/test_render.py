from __future__ import annotations

from dataclasses import replace as change
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from pictures import SyntheticSource, flat, textured_frame
from young_tremor.base.errors import RequestError, TremorError
from young_tremor.base.frames import YUV420, YUV420_10, Frame
from young_tremor.base.pixels import PixelFormat
from young_tremor.geometry import camera
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import (
    EDGES,
    Afterimages,
    FrameSettings,
    Media,
    Placement,
    Plate,
    Shot,
    Shutter,
    Size,
    Smear,
)
from young_tremor.model.shake import Drift, DriftChannel, DriftChannels, Hit, Jolts, Plotted, Point, Shake
from young_tremor.motion import sample
from young_tremor.render.frame import render, render_frame
from young_tremor.render.plan import Quality
from young_tremor.render.resolve_plan import readings, resolve
from young_tremor.render.screen import ReducedSource, reduce, to_rgb


def drift(rate: float = 2.0, amount: float = 1.0, seed: int = 3, **reach: float) -> Shake:
    channels = DriftChannels(**{name: DriftChannel(value) for name, value in reach.items()})
    return Shake((Drift("d", rate=Curve(rate), amount=Curve(amount), seed=seed, channels=channels),))


def shot(shake: Shake, **frame: object) -> Shot:
    return Shot("s", "shot", (Plate("p", "plate", Media("none")),), shake, FrameSettings(**frame))  # type: ignore[arg-type]


def at(value: float) -> Curve:
    return Curve(0.0, (Key(0.0, value),))


def held(shake: Shake, t: float) -> Shake:
    """A shake that stays where another one (of shift, roll and zoom) is at ``t``."""
    x, y, roll, zoom = sample.sample(shake, np.array([t]))[0, :4].tolist()
    return Shake((Plotted("held", x=at(x), y=at(y), roll=at(roll), zoom=at(zoom)),))


def psnr(a: np.ndarray, b: np.ndarray) -> float:
    return 10 * np.log10(255**2 / np.mean((a.astype(float) - b) ** 2))


def test_the_lens_is_the_formula_of_the_design() -> None:
    f, pan, tilt = camera.focal(35, 16 / 9), 2.5, -1.5
    a, b = np.radians(pan), np.radians(tilt)
    k = np.diag([f, f, 1.0])
    ry = np.array([[np.cos(a), 0, np.sin(a)], [0, 1, 0], [-np.sin(a), 0, np.cos(a)]])
    rx = np.array([[1, 0, 0], [0, np.cos(b), np.sin(b)], [0, -np.sin(b), np.cos(b)]])
    expected = k @ rx @ ry @ np.linalg.inv(k)
    np.testing.assert_allclose(camera.lens(np.array([pan]), np.array([tilt]), f)[0], expected, atol=1e-12)
    centre = camera.apply(camera.shake(np.array([[0, 0, 0, 0, pan, 0.0]]), f), np.zeros((1, 2)))[0, 0]
    assert centre == pytest.approx((f * np.tan(a), 0))
    s = camera.shake(np.array([[1.0, 2.0, 90.0, 0, 0, 0], [0, 0, 0, 7.0, 0, 0], [0, 0, 0, -7.0, 0, 0]]), f)
    np.testing.assert_allclose(camera.apply(s[:1], np.array([[0.1, 0.0]]))[0, 0], (0.01, 0.12))  # clockwise, y down
    np.testing.assert_allclose(s[1] @ s[2], np.eye(3), atol=1e-12)


@pytest.mark.parametrize(("channel", "moved"), [("x", (8, 0)), ("y", (0, 8))])
def test_a_positive_shift_moves_the_picture_right_and_down(channel: str, moved: tuple[int, int]) -> None:
    picture = flat((160, 80), (30, 128, 128))
    picture.planes[0][40, 80] = 200
    plan = resolve(shot(Shake((Plotted("p", **{channel: at(10.0)}),)), edges="hold"), SyntheticSource(picture).info)
    out = render(plan, 0, SyntheticSource(picture)).planes[0]
    row, column = np.unravel_index(np.argmax(out), out.shape)
    assert (column - 80, row - 40) == moved


@settings(deadline=None, max_examples=20)
@given(
    x=st.floats(0, 3),
    y=st.floats(0, 3),
    roll=st.floats(0, 3),
    zoom=st.floats(0, 2),
    pan=st.floats(0, 2),
    tilt=st.floats(0, 2),
    seed=st.integers(1, 10**6),
    focal=st.floats(18, 120),
    angle=st.sampled_from([0, 180, 360]),
    size=st.sampled_from([(640, 360), (642, 482), (360, 640)]),
    pivot=st.tuples(st.floats(-0.5, 0.5), st.floats(-0.5, 0.5)),
    format=st.sampled_from([YUV420, YUV420_10]),
)
def test_the_crop_covers_every_pixel_and_no_smaller_one_does(
    x, y, roll, zoom, pan, tilt, seed, focal, angle, size, pivot, format
) -> None:  # type: ignore[no-untyped-def]
    scale = 1 << (format.depth - 8)
    white = flat(size, (235 * scale, 200 * scale, 60 * scale), format)
    source = SyntheticSource(white, frames=8)
    moving = shot(
        drift(3.0, seed=seed, x=x + 0.4, y=y, roll=roll, zoom=zoom, pan=pan, tilt=tilt),
        focal_mm=focal,
        shutter=Shutter(Curve(angle)),
        pivot=Point(*map(Curve, pivot)),
    )
    plan = change(resolve(moving, source.info), border="black")
    smaller = change(plan, crop=plan.crop * 0.995)

    def uncovered(each, frames) -> int:  # type: ignore[no-untyped-def]
        total = 0
        for index in frames:
            for out, full in zip(render(each, index, source).planes, white.planes, strict=True):
                total += int(np.count_nonzero(out != full[0, 0]))
        return total

    assert plan.crop > 1
    assert uncovered(plan, range(plan.frames)) == 0
    assert uncovered(smaller, [readings(plan).worst]) > 0


@pytest.mark.parametrize("format", [YUV420, YUV420_10, PixelFormat("yuv444p"), PixelFormat("gbrp", kind="rgb")])
def test_stillness_passes_the_very_planes(format: PixelFormat) -> None:
    source = SyntheticSource(textured_frame((161, 91), format), frames=5)
    for edges in EDGES:
        for still in (Shake(), replace(drift(x=3, pan=1), intensity=Curve(0.0))):
            plan = resolve(shot(still, edges=edges), source.info)
            assert plan.crop == 1
            for out, plane in zip(render(plan, 3, source).planes, source.read(0).planes, strict=True):
                np.testing.assert_array_equal(out, plane)


def test_edges_say_what_lies_outside() -> None:
    source = SyntheticSource(textured_frame((128, 72)), frames=3)
    picture = source.read(0).planes[0]
    shift = 16
    for edges, expected in (
        ("open", np.full((72, shift), 16)),
        ("hold", np.repeat(picture[:, :1], shift, 1)),
        ("mirror", picture[:, shift:0:-1]),
        ("repeat", picture[:, -shift:]),
    ):
        placed = Plate("p", "p", Media("none"), Placement(x=Curve(shift / 72)))
        plan = resolve(replace(shot(drift(x=1e-9), edges=edges), plates=(placed,)), source.info)
        out = render(plan, 0, source).planes[0]
        np.testing.assert_allclose(out[:, :shift].astype(int), expected, atol=1)
        np.testing.assert_allclose(out[:, shift:].astype(int), picture[:, :-shift], atol=1)


def test_any_order_gives_the_same_and_half_size_matches() -> None:
    source = SyntheticSource(textured_frame((640, 360)), frames=12)
    moving = shot(drift(4.0, x=1.5, y=1.0, roll=0.5, pan=0.3))
    plan = resolve(moving, source.info)
    forward = [render(plan, i, source).planes[0] for i in range(6)]
    again = resolve(moving, source.info)
    for i in (5, 0, 3, 1):
        np.testing.assert_array_equal(render(again, i, source).planes[0], forward[i])
    half = resolve(moving, source.info, Quality((320, 180), "linear"))
    preview = render(half, 4, ReducedSource(source, (320, 180)))
    full = reduce(render(plan, 4, source), (320, 180))
    assert psnr(preview.planes[0], full.planes[0]) > 28  # the preview's kernel is the softer one
    shifted = [psnr(np.roll(preview.planes[0], k, 1), full.planes[0]) for k in (-1, 1)]
    assert max(shifted) < psnr(preview.planes[0], full.planes[0])


def test_delivery_size_rate_and_readings() -> None:
    source = SyntheticSource(textured_frame((640, 360)), frames=50, rate=Fraction(25))
    moving = replace(shot(drift(3.0, x=2.0)), size=Size(320, 320), rate="24")
    plan = resolve(moving, source.info)
    assert (plan.delivered, plan.frames) == ((320, 320), 48)
    assert [plan.base.source_index(i) for i in (0, 23, 24, 47)] == [0, 23, 25, 48]
    assert render(plan, 10, source).size == (320, 320)
    found = readings(plan)
    assert found.crop == pytest.approx(plan.crop)
    assert found.need[found.worst] == pytest.approx(found.crop)
    assert found.detail == pytest.approx(min(1.0, 360 / 320 / found.crop))
    with pytest.raises(RequestError, match="No crop can cover"):
        resolve(shot(drift(3.0, pan=70)), source.info)
    with pytest.raises(TremorError, match="focal length"):
        resolve(shot(drift(x=1), focal_mm=float("nan")), source.info)


def test_smear_and_afterimages_are_shares_of_exact_renders_and_are_covered() -> None:
    source = SyntheticSource(textured_frame((640, 360)), frames=24)
    hits = (Hit("h", 0.25),)
    base = replace(shot(drift(2.0, x=1.0, roll=0.3), edges="mirror", shutter=Shutter(Curve(0))), hits=hits)
    plain = resolve(base, source.info)
    fading = replace(base, frame=replace(base.frame, afterimages=Afterimages(Curve(2.0), 0.1, 0.5)))
    plan = resolve(fading, source.info)
    fine = PixelFormat("grayf32", 32, "grey", real=True)
    real = SyntheticSource(Frame((source.read(0).planes[0].astype(np.float32) / 255,), fine), frames=24)  # not rounded
    expected = np.zeros((360, 640))
    for back, weight in ((0.0, 1.0), (0.1, 0.5), (0.2, 0.25)):
        one = resolve(replace(base, shake=held(base.shake, 10 / 24 - back)), source.info)
        expected += weight / 1.75 * render_frame(one, 10, real.read(10)).planes[0]
    off = np.abs(render(plan, 10, real).planes[0] - expected)
    assert off.max() <= 4e-5  # weights are whole numbers of 32768
    smeared = replace(base, frame=replace(base.frame, smear=Smear(3, 6.0, 0.0)))
    plan = resolve(smeared, source.info)
    for index, reach in ((5, 0.0), (6, 1.0), (7, 2 / 3), (9, 0.0)):
        sharp = render(plain, index, source).planes[0].astype(float)
        soft = render(plan, index, source).planes[0].astype(float)
        across = [np.abs(np.diff(p, axis=1)).mean() for p in (soft, sharp)]
        down = [np.abs(np.diff(p, axis=0)).mean() for p in (soft, sharp)]
        assert (across[0] < 0.6 * across[1]) == (reach > 0)
        assert reach == 0 or across[0] / across[1] < down[0] / down[1]
    down = Jolts("j", amount=Curve(0.0), direction=90.0)
    aslant = replace(
        smeared, shake=Shake((*smeared.shake.strands, down)), frame=replace(base.frame, smear=Smear(3, 6.0, None))
    )
    soft = render(resolve(aslant, source.info), 6, source).planes[0].astype(float)
    sharp = render(plain, 6, source).planes[0].astype(float)
    kept = [np.abs(np.diff(soft, axis=axis)).mean() / np.abs(np.diff(sharp, axis=axis)).mean() for axis in (0, 1)]
    assert kept[0] < min(0.5, 0.92 * kept[1])
    cropped = resolve(replace(smeared, frame=replace(smeared.frame, edges="crop")), source.info)
    alone = resolve(replace(base, frame=replace(base.frame, edges="crop")), source.info)
    assert cropped.crop > alone.crop
    white = SyntheticSource(flat((640, 360), (235, 128, 128)), frames=24)
    for index in range(5, 10):
        assert (render(change(cropped, border="black"), index, white).planes[0] == 235).all()


def test_screen_colours_follow_range_and_matrix() -> None:
    for values, rgb in (((235, 128, 128), (255, 255, 255)), ((16, 128, 128), (0, 0, 0)), ((63, 102, 240), (255, 0, 0))):
        np.testing.assert_allclose(to_rgb(flat((16, 16), values))[8, 8].astype(int), rgb, atol=2)
