"""Plates: each with its own share, shake, opacity and place; over each other, against a float composite of our own."""

from __future__ import annotations

import gc
import re
import weakref
from dataclasses import replace as change
from pathlib import Path

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from clips import clip, decoded
from pictures import SyntheticSource, flat, textured_frame
from test_films import quiet, still
from test_render import at, drift, shot
from young_tremor.base import colour
from young_tremor.base.frames import YUV420, Frame
from young_tremor.base.pixels import UNTOLD, planar_format
from young_tremor.cli.main import main
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import footage
from young_tremor.engine.preview.preview_worker import PictureRequest, PreviewWorker
from young_tremor.media.codecs import CODECS
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Media, Placement, Plate, Shot, Shutter
from young_tremor.model.shake import Plotted, Region, Shake, Shimmer
from young_tremor.render import prepared_cache
from young_tremor.render.composite_samples import SampleFormat
from young_tremor.render.frame import render
from young_tremor.render.plan import Quality
from young_tremor.render.resolve_plan import resolve
from young_tremor.render.screen import to_rgb

SIZE = (320, 180)
STILL = Shutter(Curve(0.0))


def moved(**channels: float) -> Shake:
    return Shake((Plotted("p", **{name: at(value) for name, value in channels.items()}),))  # type: ignore[arg-type]


def two(shake: Shake, *, share: float = 1.0, own: Shake | None = None, opacity: float = 1.0, **place: float) -> Shot:
    placement = Placement(opacity=Curve(opacity), **{name: Curve(value) for name, value in place.items()})
    top = Plate("t", "top", Media("top"), placement, share, own)
    base = shot(shake, edges="hold", shutter=STILL)
    return replace(base, plates=(*base.plates, top))


@settings(deadline=None, max_examples=12)
@given(blend=st.sampled_from(("add", "multiply", "screen")), opacity=st.floats(0.1, 1), small=st.booleans())
def test_blends_are_those_of_the_formulas_and_leave_what_they_do_not_cover(blend, opacity, small) -> None:  # type: ignore[no-untyped-def]
    format = planar_format("yuv", 8, (2, 2) if small else (1, 1))
    a, b = SyntheticSource(textured_frame(SIZE, format, 1)), SyntheticSource(textured_frame(SIZE, format, 2))
    both = two(moved(x=0.0), opacity=opacity, size=0.5)
    both = replace(both, plates=(both.plates[0], replace(both.plates[1], blend=blend)))
    out = render(resolve(both, (a.info, b.info)), 3, [a, b])
    bare = render(resolve(both, (a.info, b.info), shaken=False), 3, [a, b])
    alone = render(resolve(replace(both, plates=both.plates[:1]), (a.info,)), 3, a)
    for made, given_ in zip(out.planes, alone.planes, strict=True):
        rows = made.shape[0] // 5
        np.testing.assert_array_equal(made[:rows], given_[:rows])  # bit for bit beside it
    top = render(
        resolve(
            replace(
                both,
                plates=(
                    replace(
                        both.plates[1], blend="normal", placement=replace(both.plates[1].placement, opacity=Curve(1.0))
                    ),
                ),
            ),
            (b.info,),
        ),
        3,
        b,
    )
    inside = (slice(50, 130), slice(90, 230))
    s, behind = (colour.to_rgb(each)[inside] for each in (top, alone))
    if blend == "add":
        wanted = opacity * s + behind
    elif blend == "multiply":
        wanted = behind * (1 - opacity) + opacity * s * behind
    else:
        wanted = opacity * s + behind - opacity * s * behind
    wanted = colour.from_rgb(np.ascontiguousarray(wanted), planar_format("yuv", 8, (1, 1)), out.colour)
    found = colour.from_rgb(
        np.ascontiguousarray(colour.to_rgb(out)[inside]), planar_format("yuv", 8, (1, 1)), out.colour
    )
    away = np.abs(found.planes[0].astype(int) - wanted.planes[0])
    assert np.quantile(away, 0.99) <= (2 if not small else 4)
    assert bare.format == out.format


@settings(deadline=None, max_examples=25)
@given(
    share=st.floats(-1, 2),
    x=st.floats(-6, 6),
    roll=st.floats(-5, 5),
    own=st.floats(-6, 6),
    opacity=st.floats(0, 1),
    size=st.floats(0.3, 0.8),
    deep=st.booleans(),
)
def test_two_plates_are_the_float_composite_of_two_renders(share, x, roll, own, opacity, size, deep) -> None:  # type: ignore[no-untyped-def]
    """8 bit within one code value, 10 bit within two (but at the plate's edge), and half a one by which the two renders
    are rounded."""
    format = planar_format("yuv", 10 if deep else 8, (1, 1))
    a, b = SyntheticSource(textured_frame(SIZE, format, 1)), SyntheticSource(textured_frame(SIZE, format, 2))
    both = two(moved(x=x, roll=roll), share=share, own=moved(y=own), opacity=opacity, size=size)
    plan = resolve(both, (a.info, b.info))
    out = render(plan, 3, [a, b])
    below = render(resolve(replace(both, plates=both.plates[:1]), a.info), 3, a)
    # the plate alone, moved as share and its own shake say
    sum_ = moved(x=share * x, roll=share * roll, y=own)
    alone = replace(both, plates=(Plate("t", "top", Media("top"), Placement(size=Curve(size))),), shake=sum_)
    above = render(resolve(alone, b.info), 3, b)
    white = render(
        resolve(replace(alone, frame=replace(alone.frame, edges="open")), b.info),
        3,
        SyntheticSource(flat(SIZE, (format.top,) * 3, format)),
    )
    inside = cv2.erode((white.planes[0] == format.top).astype(np.uint8), np.ones((5, 5))) > 0
    outside = cv2.dilate((white.planes[0] > 64 << (format.depth - 8)).astype(np.uint8), np.ones((5, 5))) == 0
    for k in range(3):
        expected = opacity * above.planes[k].astype(float) + (1 - opacity) * below.planes[k]
        assert np.abs(out.planes[k][inside] - expected[inside]).max(initial=0) <= (2 if deep else 1.5)
        assert np.abs(out.planes[k][outside].astype(float) - below.planes[k][outside]).max(initial=0) <= 1


def test_a_plate_of_its_own_shake_moves_without_the_shots_also_under_bending() -> None:
    source = SyntheticSource(textured_frame(SIZE))
    own = moved(x=5.17)
    base = shot(drift(2.0, x=3), edges="mirror", shutter=STILL)
    alone = replace(base, plates=(replace(base.footage, share=0.0, shake=own),))
    expected = render(resolve(replace(base, shake=own), source.info), 2, source).planes[0]
    np.testing.assert_array_equal(render(resolve(alone, source.info), 2, source).planes[0], expected)
    whole = Region("rectangle", width=Curve(50.0), height=Curve(50.0), feather=0.01)
    bent = replace(alone, plates=(replace(alone.footage, shake=replace(own, region=whole)),))
    got = render(resolve(bent, source.info), 2, source).planes[0].astype(int)
    assert np.abs(got - expected).max() <= 3


def test_transparent_plates_leave_the_footage_bit_for_bit_and_alpha_mixes_at_edges() -> None:
    a = SyntheticSource(textured_frame(SIZE))
    clear = SyntheticSource(textured_frame(SIZE, seed=5))
    none = two(Shake(), opacity=0.0)
    out = render(resolve(none, (a.info, clear.info)), 0, [a, clear])
    for x, y in zip(out.planes, a.read(0).planes, strict=True):
        np.testing.assert_array_equal(x, y)
    format = planar_format("rgb", 8, alpha=True)
    half = Frame((*(np.full((180, 320), v, np.uint8) for v in (0, 0, 255)), np.full((180, 320), 128, np.uint8)), format)
    red = SyntheticSource(half)
    info = change(red.info, alpha="straight")
    plain = SyntheticSource(flat(SIZE, (126, 128, 128), YUV420))
    mixed = colour.to_rgb(render(resolve(two(Shake()), (plain.info, info)), 0, [plain, red]))[90, 160]
    grey = (126 - 16) / 219
    np.testing.assert_allclose(mixed, (grey / 2 + 0.5, grey / 2, grey / 2), atol=0.01)


def test_long_shots_with_keyed_placement_and_shimmer_stay_covered() -> None:
    white = SyntheticSource(flat((160, 90), (235, 128, 128)), frames=1600)
    push = Placement(
        size=Curve(1.0, (Key(0.0, 1.0, "linear"), Key(60.0, 1.2, "linear"))),
        x=Curve(0.0, (Key(0.0, 0.0), Key(60.0, 0.05))),
    )
    base = shot(Shake((*drift(2.0, x=0.5).strands, Shimmer("s", x=2.0, y=2.0, seed=3))), edges="crop", shutter=STILL)
    base = replace(base, plates=(replace(base.footage, placement=push),))
    plan = change(resolve(base, white.info), border="black")
    for index in range(0, 1600, 97):
        assert (render(plan, index, white).planes[0] == 235).all()


def test_preview_export_and_command_line_give_the_very_same_pictures(tmp_path: Path) -> None:
    path = clip(tmp_path / "in.mkv", frames=12, codec="ffv1", size=(320, 180))
    preset = preset_library.preset("running")
    shaken = actions.one_shot(path, preset)
    plan = resolve(shaken, footage.infos(shaken))
    sources = footage.sources_of(shaken)
    assert main(["shake", str(path), "-o", str(tmp_path / "cli.mkv"), "--preset", "running", "--codec", "ffv1"]) == 0
    actions.render((shaken,), tmp_path / "export.mkv", quiet, codec_name="ffv1")
    by_hand = [plane for index in range(12) for plane in render(plan, index, sources).planes]
    for one, other, mine in zip(decoded(tmp_path / "cli.mkv"), decoded(tmp_path / "export.mkv"), by_hand, strict=True):
        np.testing.assert_array_equal(one, mine)
        np.testing.assert_array_equal(other, mine)
    preview, seen = PreviewWorker(), []
    preview.picture.connect(seen.append)
    preview.ask(PictureRequest(shaken, (320, 180), "shaken", 7, fill=False))
    while not seen:
        with preview._wake:
            preview._wake.wait(0.05)
    soft = resolve(shaken, footage.infos(shaken), Quality((320, 180), "linear"))
    np.testing.assert_array_equal(seen[0].rgb, to_rgb(render(soft, 7, sources)))
    preview.close()
    for each in sources:
        each.close()


def test_the_table_of_what_to_touch_names_files_that_are_there() -> None:
    root = Path(__file__).parents[1]
    text = (root / "docs" / "architecture.md").read_text().split("## To add")[1].split("## ")[0]
    named_ = set(re.findall(r"`((?:src|scripts)/[\w/.]+|start)`", text))
    assert len(named_) > 12
    for each in named_:
        assert (root / each).exists(), each
    assert "`Codec`" in text
    assert all(each.words for each in CODECS.values())


@pytest.mark.parametrize("codec", ["h264", "ffv1"])
def test_several_plates_go_out_like_one(tmp_path: Path, codec: str) -> None:
    low, high = clip(tmp_path / "a.mp4", frames=10), clip(tmp_path / "b.mp4", frames=10, rate=12, size=(160, 90))
    both = still(low)
    both = replace(both, plates=(*both.plates, Plate("b", "b", Media(str(high)), Placement(size=Curve(0.5)))))
    out = tmp_path / ("out.mkv" if codec == "ffv1" else "out.mp4")
    actions.render((both,), out, quiet, codec_name=codec)
    info = footage.facts(str(out)).info
    assert (info.frames, info.size, info.format.name) == (10, (320, 180), "yuv420p")


def test_what_was_made_of_a_picture_goes_with_the_picture() -> None:
    format = planar_format("rgb", 8, alpha=True)
    pictures = [Frame(tuple(np.full((40, 60), 200, np.uint8) for _ in range(4)), format)]
    made, again = (
        prepared_cache.prepare(pictures[0], SampleFormat(YUV420, UNTOLD), premultiplied=False) for _ in range(2)
    )
    assert made is not None
    assert again is made
    left = weakref.ref(made)
    del made, again
    gc.collect()
    assert left() is not None  # kept for the next frame
    pictures.clear()
    gc.collect()
    assert left() is None
