"""Films as they are written: codecs, reels of several shots, sizes and sound that have to be fitted."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from msgspec.structs import replace

from clips import clip, decoded, number_of
from pictures import textured_frame
from young_tremor.base.errors import RequestError, UnknownName
from young_tremor.base.frames import YUV420
from young_tremor.base.pixels import ColourTags, PixelFormat
from young_tremor.engine.analysis import traces as drawn
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import description, footage
from young_tremor.media import matroska_header
from young_tremor.media.codecs import CODECS, codec
from young_tremor.media.decoder_formats import to_picture
from young_tremor.media.video_writer import FilmHeader, VideoWriter, form_of
from young_tremor.model.project import Shot, Size
from young_tremor.render.frame import render_frame
from young_tremor.render.resolve_plan import readings, resolve


def quiet(done: int, total: int) -> None:
    assert 0 < done <= total


def still(path: Path, **changes: object) -> Shot:
    preset = preset_library.preset("seated, elbows resting")
    calm = replace(preset, shake=actions.adjust_shake(preset.shake, amount=0))
    return replace(actions.one_shot(path, calm), **changes)


def facts(path: Path) -> dict:
    return description.describe(path)


@pytest.mark.parametrize(
    ("name", "suffix", "pix_fmt", "coded"),
    [
        ("h264", ".mp4", "yuv420p", "yuv420p"),
        ("h264", ".mov", "yuv422p10le", "yuv422p10le"),
        ("h264", ".mp4", "yuv444p", "yuv420p"),
        ("h265", ".mkv", "yuv420p10le", "yuv420p10le"),
        ("h265", ".mp4", "yuv444p", "yuv420p"),
        ("ffv1", ".mkv", "yuv420p", "yuv420p"),
    ],
)
def test_depth_tags_and_shape_survive_every_codec_and_chroma_as_far_as_players_know_it(
    tmp_path: Path, name: str, suffix: str, pix_fmt: str, coded: str
) -> None:
    source = clip(tmp_path / "in.mkv", frames=12, pix_fmt=pix_fmt, aspect=Fraction(4, 3), tags=(9, 14, 9, 1))
    out = tmp_path / f"out{suffix}"
    actions.render((still(source),), out, quiet, codec_name=name)
    info = footage.facts(str(out)).info
    assert info.format.name == coded
    assert info.colour == ColourTags(9, 14, 9, False)
    assert (info.pixel_aspect, info.rate, info.frames) == (Fraction(4, 3), 24, 12)
    reader = footage.open_source(str(out))
    assert [number_of(reader.read(k).planes[0]) for k in (11, 0, 6)] == [11, 0, 6]
    reader.close()


@pytest.mark.parametrize("count", [1, 2, 3])
def test_a_film_of_one_or_two_pictures_is_whole_every_time(tmp_path: Path, count: int) -> None:
    frames = [textured_frame((192, 64), seed=number) for number in range(count)]
    for turn in range(12):
        out = tmp_path / f"{turn}.mp4"
        writer = VideoWriter(out, codec("h265"), FilmHeader((192, 64), Fraction(24), YUV420, ColourTags()))
        for frame in frames:
            writer.write(frame)
        writer.finish()
        with av.open(str(out)) as file:
            packets = [p for p in file.demux(video=0) if p.size]
            times = [(Fraction(p.pts or 0) * p.time_base, Fraction(p.dts or 0) * p.time_base) for p in packets]
        shown = sorted(float(pts) for pts, _ in times)
        assert shown == pytest.approx([n / 24 for n in range(count)])
        assert all(0 <= pts - dts < 0.2 for pts, dts in times)


def test_a_reel_joins_shots_sound_and_silence(tmp_path: Path, footage: Path) -> None:
    mute = clip(tmp_path / "mute.mp4", frames=24, size=(640, 360))
    out = tmp_path / "reel.mp4"
    seen: list[int] = []
    shots = (still(mute), still(footage, start=0.5, end=1.5), still(mute))
    actions.render(shots, out, lambda done, total: seen.append(done))
    assert seen == list(range(1, 73))
    numbers = [number_of(plane) for plane in decoded(out)[::3]]
    assert numbers == [*range(24), *range(12, 36), *range(24)]
    with av.open(str(out)) as file:
        samples = np.concatenate([f.to_ndarray() for f in file.decode(audio=0)], axis=1)[0]
    level = [np.abs(samples[k * 4800 : (k + 1) * 4800]).max() for k in range(30)]
    assert max(level[1:9] + level[21:29]) < 0.02
    assert min(level[11:19]) > 0.2


def test_shots_that_do_not_fit_together_are_named(tmp_path: Path, footage: Path) -> None:
    small = clip(tmp_path / "small.mp4", frames=6)
    with pytest.raises(RequestError, match=r"“small” differs in size or rate from “wall”"):
        actions.render((still(footage), still(small)), tmp_path / "no.mp4", quiet)
    fitted = still(small, size=Size(640, 360))
    actions.render((still(footage), fitted), tmp_path / "yes.mp4", quiet)
    assert facts(tmp_path / "yes.mp4")["frames"] == 54
    assert not (tmp_path / "no.mp4").exists()


def test_odd_sizes_lose_a_line_only_where_a_codec_needs_it(tmp_path: Path) -> None:
    odd = clip(tmp_path / "odd.mkv", frames=4, codec="ffv1", size=(321, 181))
    actions.render((still(odd),), tmp_path / "a.mp4", quiet)
    actions.render((still(odd),), tmp_path / "b.mkv", quiet, codec_name="ffv1")
    assert facts(tmp_path / "a.mp4")["size"] == "320x180"
    assert facts(tmp_path / "b.mkv")["size"] == "321x181"
    form = form_of(CODECS["h264"], PixelFormat("yuv422p", step=(2, 1)), ColourTags(), (321, 181))
    assert form.size == (320, 180)
    assert any("321x181 is written as 320x180" in note for note in form.notes)
    with pytest.raises(UnknownName, match="no codec “mjpeg”"):
        codec("mjpeg")


def test_a_rate_of_its_own_keeps_the_sound_in_time(tmp_path: Path, footage: Path) -> None:
    for rate, frames in (("25", 50), ("12", 24), ("24000/1001", 47)):
        out = tmp_path / f"{frames}.mp4"
        actions.render((still(footage, rate=rate),), out, quiet)
        found = facts(out)
        assert (found["frames"], found["rate"]) == (frames, rate)
        with av.open(str(out)) as file:
            heard = sum(frame.samples for frame in file.decode(audio=0)) / 48000
        assert heard == pytest.approx(2.0, abs=0.06)


def test_an_abandoned_film_leaves_nothing_and_may_be_abandoned_twice(tmp_path: Path) -> None:
    out = tmp_path / "x.mp4"
    writer = VideoWriter(out, CODECS["h264"], FilmHeader((64, 48), Fraction(24), YUV420, ColourTags()))
    writer.write(textured_frame((64, 48)))
    writer.abandon()
    writer.abandon()
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize("aspect", [Fraction(8, 9), Fraction(16, 11), Fraction(2)])
def test_the_shape_of_pixels_is_written_into_a_track_header(tmp_path: Path, aspect: Fraction) -> None:
    path = tmp_path / "a.mkv"
    with av.open(str(path), "w") as file:
        stream = file.add_stream("ffv1", rate=24)
        stream.width, stream.height, stream.pix_fmt = 352, 288, "yuv420p"
        for number in range(3):
            picture = to_picture(textured_frame((352, 288), seed=number))
            picture.pts = number
            file.mux(stream.encode(picture))
        file.mux(stream.encode(None))
    before = decoded(path)
    assert matroska_header.write_pixel_aspect(path, (352, 288), aspect)
    with av.open(str(path)) as file:
        assert file.streams.video[0].sample_aspect_ratio == aspect
    for a, b in zip(before, decoded(path), strict=True):
        np.testing.assert_array_equal(a, b)
    kept = path.read_bytes()
    assert not matroska_header.write_pixel_aspect(path, (352, 288), aspect), "there is room for it once"
    assert path.read_bytes() == kept
    (tmp_path / "b.mkv").write_bytes(b"\x1a\x45\xdf\xa3" + bytes(60))
    assert not matroska_header.write_pixel_aspect(tmp_path / "b.mkv", (352, 288), aspect)


def test_what_the_chart_draws_is_what_is_rendered(footage: Path) -> None:
    shot = actions.one_shot(footage, preset_library.preset("walking"))
    info = actions.footage.facts(str(footage)).info
    plan = resolve(shot, info)
    times = (0.0, 1.5, 37)
    trace = drawn.camera_trace(shot, info, times)
    t = np.linspace(*times)
    channels = plan.channels(t)
    summed = sum(drawn.strand_trace(shot, n, times)[1] for n in range(len(shot.shake.strands)))
    np.testing.assert_allclose(summed, channels, atol=1e-6)
    np.testing.assert_allclose(trace.roll, channels[:, 2], atol=1e-6)
    places = np.array([(m @ [0, 0, 1.0])[:2] / (m @ [0, 0, 1.0])[2] for m in plan.shakes(t)])
    np.testing.assert_allclose(trace.centre, places * 360, atol=1e-3)
    assert trace.peak == pytest.approx(np.linalg.norm(places * 360, axis=1).max(), abs=1e-3)
    unit = drawn.effect(shot, info)
    assert unit[4] == pytest.approx(100 * np.tan(np.radians(1)) * plan.focal, rel=1e-3)
    assert (unit[0], unit[3]) == (1.0, 0.5)
    for preset in preset_library.presets():
        way = drawn.preset_motion(preset)
        assert way.shape == (180, 4)
        assert np.abs(way).max() > 0


def test_open_edges_are_transparent_where_the_format_can_hold_it(tmp_path: Path) -> None:
    path = clip(tmp_path / "wall.mp4", frames=24, size=(320, 180))
    shot = actions.one_shot(path, preset_library.preset("running"), edges="open", shutter=180.0)
    clear, solid = tmp_path / "clear.mkv", tmp_path / "solid.mp4"
    actions.render((shot,), clear, quiet, codec_name="ffv1")
    actions.render((shot,), solid, quiet)
    assert facts(solid)["pixel_format"] == "yuv420p"
    with av.open(str(clear)) as file:
        pictures = list(file.decode(video=0))
    assert pictures[0].format.name == "yuva420p"
    info = footage.facts(str(path)).info
    plan = resolve(shot, info)
    index = readings(plan).worst
    planes = [np.frombuffer(p, np.uint8).reshape(p.height, -1)[:, : p.width] for p in pictures[index].planes]
    luma, alpha = planes[0], planes[3]
    assert alpha.min() == 0
    assert (alpha == 255).mean() > 0.8
    bare = render_frame(plan, index, footage_frame(path, index)).planes[0].astype(float)
    whole = alpha / 255.0
    # laid over black it is what the open edges are
    laid = luma * whole + 16 * (1 - whole)
    assert np.abs(laid - bare)[alpha == 0].mean() <= 1
    assert np.quantile(np.abs(laid - bare), 0.98) <= 1  # but for the row beside the edge, where the kernel sees black
    assert np.abs(laid - bare).mean() < 0.5
    cropped = tmp_path / "cropped.mkv"
    actions.render((replace(shot, frame=replace(shot.frame, edges="crop")),), cropped, quiet, codec_name="ffv1")
    assert facts(cropped)["pixel_format"] == "yuv420p"


def footage_frame(path: Path, index: int):  # type: ignore[no-untyped-def]
    source = footage.open_source(str(path))
    try:
        return source.read(index)
    finally:
        source.close()
