"""The pixel contract: what is inside a format, what black is, and colours that come through every conversion."""

from __future__ import annotations

from pathlib import Path

import av
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from clips import clip, decoded
from pictures import SyntheticSource, flat, textured_frame
from test_films import quiet, still
from test_render import at, shot
from young_tremor.base import colour, pixels
from young_tremor.base.frames import Frame
from young_tremor.base.pixels import ColourTags, PixelFormat, pixel_format, planar_format
from young_tremor.engine.delivery import actions
from young_tremor.engine.media import footage
from young_tremor.model.curve import Curve
from young_tremor.model.project import Shutter
from young_tremor.model.shake import Plotted, Shake
from young_tremor.render import shutter
from young_tremor.render.frame import render
from young_tremor.render.resolve_plan import resolve

STEPS = st.sampled_from([(1, 1), (2, 1), (2, 2)])
FORMATS = st.one_of(
    st.builds(
        lambda d, s, a: planar_format("yuv", d, s, alpha=a), st.sampled_from([8, 10, 12, 16]), STEPS, st.booleans()
    ),
    st.builds(lambda d, a: planar_format("rgb", d, alpha=a), st.sampled_from([8, 10, 16]), st.booleans()),
    st.just(planar_format("rgb", 32, real=True)),
    st.builds(lambda d: planar_format("grey", d), st.sampled_from([8, 16])),
)


def patches(size: tuple[int, int] = (96, 32)) -> np.ndarray:
    """Grey, white, black and saturated patches as R'G'B', (rows, columns, 3) float32."""
    colours = ((0.5, 0.5, 0.5), (1, 1, 1), (0, 0, 0), (1, 0, 0), (0, 1, 0), (0, 0, 1))
    wide = size[0] // len(colours)
    return np.repeat(np.repeat(np.array(colours, np.float32)[None], size[1], 0), wide, axis=1)


@settings(deadline=None, max_examples=60)
@given(format=FORMATS, other=FORMATS, full=st.sampled_from([None, True, False]), matrix=st.sampled_from([1, 6, 9]))
def test_colours_come_through_any_two_formats(
    format: PixelFormat, other: PixelFormat, full: bool | None, matrix: int
) -> None:
    tags = ColourTags(1, 1, matrix, full)
    first = colour.from_rgb(patches(), format, tags)
    for plane in first.planes:
        assert plane.dtype == format.dtype
        assert plane.max() <= format.top
    there = colour.convert(first, other, ColourTags(1, 1, matrix, None))
    back = colour.convert(there, format, tags)
    truth = patches() if "grey" not in (format.kind, other.kind) else patches()[:, :48]
    for frame in (first, there, back):
        rgb = colour.to_rgb(frame)[4:-4, : truth.shape[1]]
        for k in range(truth.shape[1] // 16):  # the middles of the patches: chroma mixes at their edges
            middle = rgb[:, 16 * k + 6 : 16 * k + 10].reshape(-1, 3)
            assert np.abs(middle - truth[0, 16 * k + 8]).max() < 0.02


@pytest.mark.parametrize("full", [False, True])
@pytest.mark.parametrize("depth", [8, 10, 12, 16])
def test_no_kernel_leaves_the_values_of_a_format(depth: int, full: bool) -> None:
    """White lines on black under the sharp kernel, and the soft fill of white, overshoot."""
    format = planar_format("yuv", depth, (2, 2))
    tags = ColourTags(1, 1, 1, full)
    zero, span = pixels.levels(format, tags)
    picture = flat((160, 96), (int(zero), 128 << depth - 8, 128 << depth - 8), format)
    picture.planes[0][::3] = int(zero + span) if full else format.top
    picture.planes[1][:, ::5] = format.top
    source = SyntheticSource(Frame(picture.planes, format, tags))
    for edges in ("hold", "soft", "mirror"):
        moved = shot(Shake((Plotted("p", x=at(0.4), y=at(9.3), roll=at(3)),)), edges=edges, shutter=Shutter(Curve(0.0)))
        for plane in render(resolve(moved, source.info), 0, source).planes:
            assert plane.max() <= format.top


def test_soft_fill_shows_no_seam_on_a_flat_picture() -> None:
    source = SyntheticSource(flat((320, 180), (119, 100, 150)), frames=24)
    for angle in (0.0, 360.0):
        moved = shot(
            Shake((Plotted("p", x=at(7.3), y=at(-5.1), roll=at(4)),)), edges="soft", shutter=Shutter(Curve(angle))
        )
        for plane, value in zip(render(resolve(moved, source.info), 3, source).planes, (119, 100, 150), strict=True):
            assert (np.abs(plane.astype(int) - value) <= 1).all()


@pytest.mark.parametrize(
    ("name", "pix_fmt", "codec", "taken"),
    [
        ("a.png", "rgb24", "h264", "yuv420p"),
        ("b.png", "rgba", "h264", "yuv420p"),
        ("c.jpg", "yuvj444p", "h264", "yuv420p"),
        ("d.png", "rgb24", "ffv1", "gbrp"),
        ("e.png", "rgba64be", "ffv1", "gbrap16le"),
        ("f.png", "gray", "h265", "yuv420p"),
    ],
)
def test_graphics_keep_their_colours_in_every_codec(
    tmp_path: Path, name: str, pix_fmt: str, codec: str, taken: str
) -> None:
    size = (1296, 720) if codec == "h264" else (192, 64)
    rgb = np.rint(patches(size) * 255).astype(np.uint8)
    path = tmp_path / name
    with av.open(str(path), "w", format="image2", options={"update": "1"}) as file:
        stream = file.add_stream("mjpeg" if ".jpg" in name else "png", rate=1)
        stream.width, stream.height, stream.pix_fmt = *size, pix_fmt
        stream.options = {"qmin": "1", "qmax": "1"} if ".jpg" in name else {}
        file.mux(stream.encode(av.VideoFrame.from_ndarray(rgb, "rgb24").reformat(format=pix_fmt)))
        file.mux(stream.encode(None))
    out = tmp_path / ("out.mkv" if codec == "ffv1" else "out.mp4")
    said = actions.render((replace(still(path), end=0.2),), out, quiet, codec_name=codec)
    source = footage.open_source(str(out))
    assert source.info.format.name == taken
    if codec != "ffv1":
        matrix = 1 if size[1] > 576 else 6
        assert (source.info.colour.matrix, source.info.colour.full) == (matrix, False)
        assert any(("RGB" in note or "BT." in note or "4:4:4" in note) for note in said)
        assert ("rgba" not in pix_fmt) or any("no alpha" in note for note in said)
    got = colour.to_rgb(source.read(0)) * 255
    wide = size[0] // 6
    for k in range(6):
        middle = got[size[1] // 2 - 8 : size[1] // 2 + 8, k * wide + wide // 2 - 4 : k * wide + wide // 2 + 4]
        truth = rgb[size[1] // 2, k * wide + wide // 2].astype(float)
        if pix_fmt == "gray":
            truth = np.full(3, truth @ (0.299, 0.587, 0.114))
        assert np.abs(middle.reshape(-1, 3).mean(axis=0) - truth).max() < 5
    source.close()


@pytest.mark.parametrize(
    ("codec", "pix_fmt"), [("prores_ks", "yuva444p10le"), ("libvpx-vp9", "yuva420p"), ("ffv1", "gbrap16le")]
)
def test_alpha_comes_through_untouched_and_moves_with_the_picture(tmp_path: Path, codec: str, pix_fmt: str) -> None:
    path = tmp_path / ("in.webm" if "vp9" in codec else "in.mov" if "prores" in codec else "in.mkv")
    format = pixel_format(pix_fmt)
    assert format is not None
    with av.open(str(path), "w") as file:
        stream = file.add_stream(codec, rate=24)
        stream.width, stream.height, stream.pix_fmt = 128, 64, pix_fmt
        if "vp9" in codec:
            stream.options = {"crf": "0", "b": "0"}
        picture = textured_frame((128, 64), format)
        alpha = np.zeros((64, 128), format.dtype)
        alpha[16:48, 32:96] = format.top
        made = Frame((*picture.planes[:3], alpha), format)
        for k in range(6):
            from young_tremor.media.decoder_formats import to_picture

            frame = to_picture(made)
            frame.pts = k
            file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    info = footage.facts(str(path)).info
    assert info.alpha == "straight"
    assert any("alpha" in note for note in info.notes)
    out = tmp_path / "out.mkv"
    actions.render((still(path),), out, quiet, codec_name="ffv1")
    source, again = footage.open_source(str(path)), footage.open_source(str(out))
    for a, b in zip(source.read(3).planes, again.read(3).planes, strict=True):
        np.testing.assert_array_equal(a, b)
    moved = replace(still(path), shake=Shake((Plotted("p", x=at(25.0)),)))
    moved = replace(moved, frame=replace(moved.frame, edges="open"))
    actions.render((moved,), tmp_path / "moved.mkv", quiet, codec_name="ffv1")
    shifted = footage.open_source(str(tmp_path / "moved.mkv"))
    found = colour.alpha_of(shifted.read(2))
    assert found is not None
    covered = np.argwhere(found > 0.5)
    np.testing.assert_allclose(covered.min(axis=0), (16, 48), atol=1)  # a quarter of 64 rows to the right
    np.testing.assert_allclose(covered.max(axis=0), (47, 111), atol=1)
    for each in (source, again, shifted):
        each.close()


def test_as_light_keeps_sixteen_bits(tmp_path: Path) -> None:
    """Two views that differ by nothing: what comes back is what was given, to the last but one of 65,536 levels."""
    format = planar_format("rgb", 16)
    ramp = np.repeat(np.arange(4000, 60000, 56, dtype=np.uint16)[None], 40, axis=0)
    source = SyntheticSource(Frame((ramp, ramp, ramp), format, ColourTags(1, 13, 0, True)), frames=4)
    slow = shot(
        Shake((Plotted("p", y=Curve(0.0, (at(0.0).keys[0], replace(at(60.0).keys[0], t=0.2)))),)),
        edges="mirror",
        linear=True,
    )
    plan = resolve(slow, source.info)
    out = render(plan, 2, source).planes[0]
    assert shutter.paths(plan, np.array([2]))[0] > 1
    assert np.abs(out[20].astype(int) - ramp[20]).max() <= 24  # a level of 4,096 would be 16 off, and steps of 16 wide
    assert len(np.unique(out[20])) > 0.97 * ramp.shape[1]


def test_a_lossless_copy_of_every_kind_is_the_same_file(tmp_path: Path) -> None:
    for pix_fmt in ("gray", "gray10le", "yuv411p", "yuv440p", "yuv422p12le", "bgr0", "gbrp14le"):
        source = clip(tmp_path / f"{pix_fmt}.mkv", frames=3, codec="ffv1", pix_fmt=pix_fmt, tags=(2, 2, 2, 0))
        out = tmp_path / f"{pix_fmt}-out.mkv"
        actions.render((still(source),), out, quiet, codec_name="ffv1")
        for a, b in zip(decoded(source), decoded(out), strict=True):
            np.testing.assert_array_equal(a, b)


def test_samples_in_flight_are_lowered_to_chroma_as_floats_are() -> None:
    format = planar_format("yuv", 8, (2, 2))
    plane = np.random.default_rng(3).integers(-8000, 12000, (60, 94)).astype(np.int16)
    made = colour.downsample_chroma(plane, format, (94, 60))
    off = made - colour.downsample_chroma(plane.astype(np.float32), format, (94, 60))
    assert made.dtype == np.int16
    assert np.abs(off).max() <= 1.5
    assert abs(float(off.mean())) < 0.3


@pytest.mark.parametrize("step", [(2, 1), (1, 1)])
def test_chroma_is_made_finer_by_its_siting(step: tuple[int, int]) -> None:
    """A ramp of chroma of MPEG's 4:2:0 stands at the same places in a master's, four times its value in ten bits."""
    given, master = planar_format("yuv", 8, (2, 2)), planar_format("yuv", 10, step)
    rows, columns = np.arange(32) * 2, np.arange(48) * 2
    down = np.tile((90 + rows)[:, None], (1, 48)).astype(np.uint8)
    across = np.tile(80 + columns, (32, 1)).astype(np.uint8)
    tags = ColourTags(1, 1, 1, False)
    frame = Frame((np.full((64, 96), 77, np.uint8), down, across), given, tags)
    made = colour.convert(frame, master, tags)
    assert (made.planes[0] == 4 * 77).all()
    luma_rows = np.arange(64)
    np.testing.assert_array_equal(made.planes[1][2:-2, 3], 4 * (90 + luma_rows[2:-2] - 0.5))
    places = np.arange(made.planes[2].shape[1]) * step[0]
    np.testing.assert_array_equal(made.planes[2][5, :-2], 4 * (80 + places[:-2]))
