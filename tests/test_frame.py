"""The frame as good as a camera's: crops that follow, rolling shutter, soft fill, light, and what must stay clear."""

from __future__ import annotations

from dataclasses import replace as change
from pathlib import Path

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from pictures import SyntheticSource, flat, textured_frame
from test_render import drift, held, shot
from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.base.frames import YUV420, Frame
from young_tremor.base.pixels import ColourTags, PixelFormat, planar_format
from young_tremor.cli.main import main
from young_tremor.engine.analysis import framing_margins
from young_tremor.engine.library import preset_library
from young_tremor.geometry import camera
from young_tremor.model import curve_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Box, FrameSettings, Knock, Placement, Plate, Shot, Shutter, Size
from young_tremor.model.shake import Hit, Point, Region, Shake, Shimmer
from young_tremor.model.shot_edits import from_preset
from young_tremor.motion import shimmer
from young_tremor.render import linear_light, shutter
from young_tremor.render.exposure_views import views_of
from young_tremor.render.frame import render
from young_tremor.render.resolve_plan import _readings, readings, resolve

SIZE = (640, 360)


@settings(deadline=None, max_examples=14)
@given(
    x=st.floats(0.4, 3),
    y=st.floats(0, 3),
    roll=st.floats(0, 2),
    pan=st.floats(0, 1.5),
    tilt=st.floats(0, 1.5),
    seed=st.integers(1, 10**6),
    readout=st.sampled_from([0.0, 0.02, -0.03]),
    recentre=st.booleans(),
    edges=st.sampled_from(["crop", "crop-as-needed"]),
    px=st.floats(-0.6, 0.6),
    large=st.booleans(),
)
def test_no_pixel_is_uncovered_whatever_is_on(x, y, roll, pan, tilt, seed, readout, recentre, edges, px, large) -> None:  # type: ignore[no-untyped-def]
    """White over black through final blur, rolling shutter, lens, pivot, 4:2:0 and a larger source, every pixel."""
    size = (720, 420) if large else SIZE
    white = flat(size, (235, 200, 60), YUV420)
    source = SyntheticSource(white, frames=10)
    moving = shot(
        drift(3.0, seed=seed, x=x, y=y, roll=roll, pan=pan, tilt=tilt),
        edges=edges,
        recentre=recentre,
        readout=readout,
        breathe=0.2,
        pivot=Point(Curve(px), Curve(0.3)),
        shutter=Shutter(Curve(360.0)),
    )
    moving = replace(moving, size=Size(*SIZE))
    plan = change(resolve(moving, source.info), border="black")
    assert plan.crop > 1
    for index in range(plan.frames):
        for out, value in zip(render(plan, index, source).planes, (235, 200, 60), strict=True):
            assert (out == value).all()
    found = readings(plan)
    assert (found.crop_curve is None) == (edges == "crop")
    smaller = change(plan, crop=found.need.max() * 0.994, crop_curve=None)
    if found.need.max() * 0.994 > 1:
        planes = render(smaller, found.worst, source).planes
        assert any((out != value).any() for out, value in zip(planes, (235, 200, 60), strict=True))


def test_a_rolling_shutter_sees_each_row_at_its_own_time() -> None:
    source = SyntheticSource(textured_frame(SIZE, PixelFormat("gray", kind="grey")), frames=24)
    still = shot(drift(2.5, x=3, y=2, roll=1.5), edges="mirror", shutter=Shutter(Curve(0.0)))
    readout = 0.03
    rolled = render(
        resolve(replace(still, frame=replace(still.frame, readout=readout)), source.info), 9, source
    ).planes[0]
    plain = resolve(still, source.info)
    for row in (0, 90, 179, 300, 359):
        at = 9 / 24 + (row / 359 - 0.5) * readout
        moved = resolve(replace(still, shake=held(still.shake, at)), source.info)
        expected = render(moved, 9, source).planes[0][row].astype(int)
        assert np.abs(rolled[row].astype(int) - expected).mean() < 0.6
    unrolled = render(plain, 9, source).planes[0]
    assert np.abs(rolled.astype(int) - unrolled).mean() > 3


@pytest.mark.parametrize("recentre", [False, True])
def test_as_needed_leaves_stillness_untouched_and_breathes(recentre: bool) -> None:
    source = SyntheticSource(textured_frame(SIZE), frames=120)
    level = Curve(0.0, (Key(2.0, 0.0), Key(2.5, 1.0), Key(3.0, 0.0)))
    moving = replace(drift(3.0, x=2, roll=0.6), intensity=level)
    plan = resolve(shot(moving, edges="crop-as-needed", breathe=0.5, recentre=recentre), source.info)
    assert plan.crop_curve is not None
    assert plan.crop_curve[: 22 if recentre else 36].max() == 1
    assert plan.crop_curve[104 if recentre else 90 :].max() == 1
    for out, own in zip(render(plan, 20, source).planes, source.read(20).planes, strict=True):
        np.testing.assert_array_equal(out, own)
    steady = resolve(shot(moving, edges="crop"), source.info)
    assert plan.crop <= steady.crop + 1e-9 if recentre else plan.crop == pytest.approx(steady.crop, rel=1e-6)
    assert np.abs(np.diff(plan.crop_curve)).max() < 0.4 * (plan.crop - 1)


def test_soft_fill_puts_the_picture_behind_and_leaves_the_rest_alone() -> None:
    picture = textured_frame(SIZE)
    source = SyntheticSource(picture, frames=24)
    base = shot(drift(1.0, x=8, y=6, roll=2), edges="open", shutter=Shutter(Curve(0.0)))
    index = readings(resolve(base, source.info)).worst
    bare = render(resolve(base, source.info), index, source).planes
    soft = render(resolve(replace(base, frame=replace(base.frame, edges="soft")), source.info), index, source).planes
    gap = bare[0] == 16
    assert gap.mean() > 0.01
    core = cv2.erode((~gap).astype(np.uint8), np.ones((9, 9))) > 0
    np.testing.assert_array_equal(soft[0][core], bare[0][core])
    filled = soft[0][cv2.erode(gap.astype(np.uint8), np.ones((5, 5))) > 0].astype(float)
    assert abs(filled.mean() - picture.planes[0].mean()) < 25
    fine = np.abs(cv2.Laplacian(soft[0].astype(np.float32), cv2.CV_32F))
    assert fine[cv2.erode(gap.astype(np.uint8), np.ones((5, 5))) > 0].mean() < 0.3 * fine[core].mean()


@pytest.mark.parametrize("transfer", [1, 13, 16, 18, 8])
def test_transfers_go_round_and_blur_as_light_is_brighter(transfer: int) -> None:
    v = np.linspace(0, 1, 513)
    np.testing.assert_allclose(linear_light.to_code(transfer)(linear_light.to_light(transfer)(v)), v, atol=2e-6)
    known = {1: (0.5, 0.2596), 13: (0.5, 0.2140), 16: (0.5081, 0.01), 18: (0.5, 1 / 12), 8: (0.5, 0.5)}[transfer]
    assert float(linear_light.to_light(transfer)(np.array([known[0]]))[0]) == pytest.approx(known[1], rel=0.01)
    bars = flat(SIZE, (16, 128, 128))
    bars.planes[0][:, 320:] = 235
    frame = Frame(bars.planes, bars.format, ColourTags(1, transfer, 1, False))
    source = SyntheticSource(frame, frames=12)
    way = shot(drift(2.0, x=6), edges="hold", shutter=Shutter(Curve(360.0)))
    plan = resolve(way, source.info)
    index = int(np.argmax(shutter.paths(plan, np.arange(12))))
    code = render(plan, index, source)
    lit = render(resolve(replace(way, frame=replace(way.frame, linear=True)), source.info), index, source)
    assert lit.planes[0].dtype == np.uint8
    middle = (code.planes[0][180] > 60) & (code.planes[0][180] < 190)
    assert middle.any()
    brighter = lit.planes[0][180][middle].astype(int) - code.planes[0][180][middle]
    assert brighter.mean() > 8 if transfer != 8 else (np.abs(brighter) <= 1).all()
    for plane, own in zip(lit.planes, frame.planes, strict=True):
        assert abs(int(plane[5, 5]) - int(own[5, 5])) <= 1


@pytest.mark.parametrize("step", [(2, 2), (2, 1), (1, 1), (4, 1)])
@pytest.mark.parametrize("transfer", [1, 13, 8])
def test_light_in_whole_numbers_is_that_of_floats_to_a_code_value(step: tuple[int, int], transfer: int) -> None:
    """Bytes of every value, far outside what a camera gives, so that much lies beyond black and white."""
    chance, format, size = np.random.default_rng(transfer), planar_format("yuv", 8, step), (93, 61)
    shapes = [format.plane_size(k, size)[::-1] for k in range(3)]
    tags = ColourTags(1, transfer, 1, False)
    frames = [Frame(tuple(chance.integers(0, 256, s).astype(np.uint8) for s in shapes), format, tags) for _ in range(4)]
    weights = np.array([0.1, 0.2, 0.3, 0.4])
    lit = [
        [w * plane for plane in linear_light.to_linear(frame).planes] for frame, w in zip(frames, weights, strict=True)
    ]
    total = tuple(np.sum(planes, axis=0).astype(np.float32) for planes in zip(*lit, strict=True))
    known = linear_light.from_linear(Frame(total, planar_format("rgb", 32, real=True), tags), frames[0])
    assert linear_light.in_whole_numbers(format, tags)
    for made, plane in zip(linear_light.mean(frames, weights).planes, known.planes, strict=True):
        off = np.abs(made.astype(int) - plane)
        assert off.max() <= 1
        assert off.mean() < 0.1


def test_a_knock_is_out_of_focus_at_the_hit_and_comes_back() -> None:
    source = SyntheticSource(textured_frame(SIZE), frames=24)
    hit = replace(shot(Shake(), edges="crop", knock=Knock(6, 0.8)), hits=(Hit("h", 0.5),))
    plan = resolve(hit, source.info)
    own = source.read(0).planes[0].astype(np.float32)
    seen = [render(plan, k, source).planes[0].astype(np.float32) for k in range(24)]
    fine = [float(np.abs(cv2.Laplacian(each, cv2.CV_32F)).mean()) for each in seen]
    still = float(np.abs(cv2.Laplacian(own, cv2.CV_32F)).mean())
    assert fine[11] == still == fine[18]
    assert fine[12] < 0.3 * still
    assert list(np.argsort(fine[12:18])) == [0, 1, 2, 3, 4, 5]


def test_a_blurred_slope_does_not_band() -> None:
    ramp = flat((1280, 64), (0, 128, 128), PixelFormat("gray", kind="grey"))
    ramp.planes[0][:] = np.repeat(np.arange(100, 110, dtype=np.uint8), 128)[None]
    source = SyntheticSource(ramp, frames=12)
    plan = resolve(shot(drift(2.0, x=400), edges="hold", shutter=Shutter(Curve(360.0))), source.info)
    index = int(np.argmax(shutter.paths(plan, np.arange(12))))
    out = render(plan, index, source).planes[0].astype(float)
    columns = out.mean(axis=0)
    inside = columns[200:-200]
    assert len(np.unique(np.round(inside, 2))) > 20  # between two steps of the source there is more than one level


def test_boxes_that_must_stay_clear_and_limits() -> None:
    source = SyntheticSource(textured_frame(SIZE), frames=48)
    box = Box(0.02, 0.3, 0.2, 0.3)
    moving = shot(drift(1.5, x=4, roll=1.0), edges="crop", keep=(box,))
    plan = resolve(moving, source.info)
    cut = readings(plan).cut
    corners = np.array([[box.x, box.y], [box.x, box.y + box.height]]) * SIZE - 0.5
    for index in range(plan.frames):
        times = views_of(plan, index, (plan.base,), (1,))[0].times
        matrices = shutter.moments(plan, index, plan.base, times, np.zeros((len(times), 2)))
        seen = [camera.apply(np.linalg.inv(m), corners) for m in matrices]
        out = any(
            (p < -0.5).any() or (p[..., 0] > SIZE[0] - 0.5).any() or (p[..., 1] > SIZE[1] - 0.5).any() for p in seen
        )
        assert out == cut[index]
    assert 0 < cut.sum() < 48
    factor = framing_margins.limit(moving, source.info, 3.0, lambda done, total: None)
    assert 0 < factor < 1

    def scaled(by: float) -> Shot:
        return replace(moving, shake=replace(moving.shake, intensity=curve_edits.times(moving.shake.intensity, by)))

    fits = readings(resolve(scaled(factor), source.info))
    assert fits.crop <= 1.03
    assert not fits.cut.any()
    more = readings(resolve(scaled(1.03 * factor), source.info))
    assert more.crop > 1.03 or more.cut.any()
    outside = replace(moving, frame=replace(moving.frame, keep=(Box(-0.2, 0, 0.5, 0.5),)))
    with pytest.raises(RequestError, match="keep-clear box"):
        framing_margins.limit(outside, source.info, 10.0, lambda done, total: None)
    drawn = framing_margins.box_of(plan, 7, np.array([[0.2, 0.3], [0.5, 0.6]]))
    shown = replace(moving, frame=replace(moving.frame, keep=(drawn,)))
    again = framing_margins.boxes_on(resolve(shown, source.info), 7)[0]
    assert np.abs(again.mean(axis=0) - (0.35, 0.45)).max() < 0.01


def test_bad_numbers_are_one_sentence(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    source = SyntheticSource(textured_frame((160, 90)), frames=6)
    nan = float("nan")
    for bad in (
        lambda: FrameSettings(focal_mm=0.0),
        lambda: FrameSettings(focal_mm=nan),
        lambda: FrameSettings(crop=Curve(0.0)),
        lambda: Curve(nan),
        lambda: Point(Curve(1e6), Curve(0.0)),
        lambda: FrameSettings(readout=float("inf")),
    ):
        with pytest.raises(UnreadableValue, match="cannot be used"):
            bad()
    with pytest.raises(RequestError, match="No crop can cover"):
        resolve(shot(drift(x=4000)), source.info)
    guide = tmp_path / "guide.png"
    assert main(["margin", "--preset", "walking", "--focal", "85", "--size", "1280x720", "-o", str(guide)]) == 0
    words = capsys.readouterr().out
    assert "85 mm" in words
    picture = cv2.imread(str(guide))
    assert picture.shape == (720, 1280, 3)
    wide = framing_margins.margin(preset_library.preset("walking"), focal_mm=85, size=(1280, 720))
    near = framing_margins.margin(preset_library.preset("walking"), focal_mm=24, size=(1280, 720))
    assert wide.crop > near.crop > 1
    assert f"{wide.percent:.1f} %" in words
    for bad in (["--focal", "0"], ["--focal", "nan"], ["--size", "0x9"], ["--amount", "-1"], ["-o", str(guide)]):
        assert main(["margin", "--preset", "walking", *bad]) == 2


def test_placement_moves_under_the_shake_and_takes_keys() -> None:
    source = SyntheticSource(textured_frame(SIZE), frames=24)
    push = Placement(size=Curve(1.0, (Key(0.0, 1.0, "linear"), Key(1.0, 1.2))))
    base = replace(shot(Shake(), edges="crop"), plates=(Plate("p", "p", shot(Shake()).plates[0].media, push),))
    plan = resolve(base, source.info)
    assert 1 <= plan.crop < 1.013  # what the kernel reads beyond the first frame's edge
    matrix = shutter.moments(plan, 12, plan.base, np.array([plan.time(12)]), np.zeros((1, 2)))[0, 0]
    assert 1 / matrix[0, 0] == pytest.approx(1.1 * plan.crop, abs=1e-6)


HAZE = Shimmer("haze", x=1.2, y=0.8, size=14.0, speed=6.0, octaves=2, seed=4)


@pytest.mark.parametrize("long", [False, True])
@pytest.mark.parametrize("extra", ["shimmer", "region", "strand region"])
def test_what_is_bent_is_covered_too(extra: str, long: bool, monkeypatch: pytest.MonkeyPatch) -> None:
    if long:  # many frames are bounded instead of asked place by place
        monkeypatch.setattr("young_tremor.render.crop_extents.MOST_BENT", 2)
    white = flat(SIZE, (235, 200, 60), YUV420)
    source = SyntheticSource(white, frames=8)
    shake = drift(3.0, x=2, roll=1.0)
    ring = Region("ellipse", Point(Curve(0.5), Curve(0.1)), Curve(0.9), Curve(0.7), feather=0.3)
    if extra == "shimmer":
        shake = replace(shake, strands=(*shake.strands, HAZE))
    elif extra == "region":
        shake = replace(shake, region=ring)
    else:
        shake = replace(shake, strands=(replace(shake.strands[0], region=ring), HAZE))
    _readings.cache_clear()
    plan = change(resolve(shot(shake, edges="crop", readout=0.01), source.info), border="black")
    assert plan.crop > 1
    for index in range(plan.frames):
        for out, value in zip(render(plan, index, source).planes, (235, 200, 60), strict=True):
            assert (out == value).all()
    found = readings(plan)
    _readings.cache_clear()
    if long:
        return
    planes = render(change(plan, crop=plan.crop * 0.99), found.worst, source).planes
    assert any((out != value).any() for out, value in zip(planes, (235, 200, 60), strict=True))


@settings(deadline=None, max_examples=10)
@given(seed=st.integers(0, 10**6))
def test_the_crop_in_two_steps_is_that_of_all_moments(seed: int) -> None:
    rng = np.random.default_rng(seed)
    source = SyntheticSource(textured_frame(SIZE), frames=60)
    presets = preset_library.factory()
    base = shot(from_preset(presets[int(rng.integers(len(presets)))]), edges=str(rng.choice(["crop", "open"])))
    frame = replace(
        base.frame,
        shutter=Shutter(Curve(float(rng.choice([45, 180, 720])))),
        recentre=bool(rng.random() < 0.5),
        readout=float(rng.choice([0, 0.02])),
    )
    hits = tuple(Hit(str(k), float(rng.uniform(0, 2)), float(rng.uniform(0.3, 2))) for k in range(3))
    place = Placement(size=Curve(float(rng.uniform(0.8, 1.3))), angle=Curve(float(rng.normal(0, 3))))
    made = replace(base, frame=frame, hits=hits, plates=(replace(base.footage, placement=place),))
    plan = resolve(replace(made, frame=replace(frame, edges="open")), source.info)
    plan = change(plan, shot=made)
    _readings.cache_clear()
    quick = readings(plan)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("young_tremor.render.resolve_plan._stands", lambda plate: False)
        _readings.cache_clear()
        whole = readings(plan)
    _readings.cache_clear()
    assert quick.crop == pytest.approx(whole.crop, rel=1e-6)
    np.testing.assert_allclose(quick.centre, whole.centre, atol=1e-6)
    assert quick.need.max() == pytest.approx(whole.need.max(), rel=1e-6)
    np.testing.assert_array_equal(quick.need > 1 + 1e-6, whole.need > 1 + 1e-6)


def test_shimmer_moves_places_by_no_more_than_its_reach_and_goes_on_smoothly() -> None:
    q = np.random.default_rng(2).uniform(-0.9, 0.9, (4000, 2))
    moved = [shimmer.ShimmerField(HAZE, q).at(t) for t in (0.0, 0.01, 3.0)]
    for each in moved:
        assert np.abs(each[:, 0]).max() <= 0.012
        assert np.abs(each[:, 1]).max() <= 0.008
        assert np.abs(each[:, 0]).max() > 0.005
    assert np.abs(moved[1] - moved[0]).max() < 0.2 * np.abs(moved[2] - moved[0]).max()
    near = shimmer.ShimmerField(HAZE, q + 0.001).at(0.0)
    assert np.abs(near - moved[0]).max() < 0.002
    source = SyntheticSource(textured_frame(SIZE), frames=12)
    still = Shake((replace(HAZE, amount=Curve(0.0)),))
    plan = resolve(shot(still, edges="crop"), source.info)
    for out, own in zip(render(plan, 3, source).planes, source.read(3).planes, strict=True):
        np.testing.assert_array_equal(out, own)
    hazy = render(resolve(shot(Shake((HAZE,)), edges="mirror"), source.info), 3, source).planes[0]
    assert np.abs(hazy.astype(int) - source.read(3).planes[0]).mean() > 2


@pytest.mark.parametrize("form", ["ellipse", "rectangle", "polygon"])
def test_a_region_limits_what_a_shake_does(form: str) -> None:
    outline = ((-0.25, -0.2), (0.25, -0.2), (0.2, 0.2), (-0.2, 0.2))
    ring = Region(form, Point(Curve(0.3), Curve(0.0)), Curve(0.5), Curve(0.4), outline, 0.06)  # type: ignore[arg-type]
    source = SyntheticSource(textured_frame(SIZE), frames=12)
    own = source.read(5).planes[0].astype(int)
    shake = drift(2.0, x=4, roll=2)
    whole = resolve(shot(shake, edges="mirror", shutter=Shutter(Curve(0.0))), source.info)
    everywhere = render(whole, 5, source).planes[0].astype(int)
    inside = render(resolve(replace(whole.shot, shake=replace(shake, region=ring)), source.info), 5, source).planes[0]
    outside = replace(shake, region=replace(ring, outside=True))
    other = render(resolve(replace(whole.shot, shake=outside), source.info), 5, source).planes[0]
    centre, far = (slice(150, 210), slice(400, 460)), (slice(20, 340), slice(10, 180))
    assert np.abs(inside[centre].astype(int) - everywhere[centre]).max() <= 3
    assert np.abs(inside[far].astype(int) - own[far]).max() <= 1
    assert np.abs(other[centre].astype(int) - own[centre]).max() <= 1
    assert np.abs(other[far].astype(int) - everywhere[far]).max() <= 3
    strand = replace(shake, strands=(replace(shake.strands[0], region=ring),))
    mine = render(resolve(replace(whole.shot, shake=strand), source.info), 5, source).planes[0]
    assert np.abs(mine.astype(int) - inside).max() <= 2
