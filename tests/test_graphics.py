"""Pictures, numbered pictures and graphics over footage: what they are taken for, and how they move."""

from __future__ import annotations

import gzip
import shutil
import struct
from fractions import Fraction
from pathlib import Path

import av
import cv2
import numpy as np
import pytest
import tifffile
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from clips import clip
from pictures import SyntheticSource, textured_frame
from young_tremor.base import colour
from young_tremor.base.errors import DecodeError, MissingFile, RequestError
from young_tremor.cli.main import main
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import description, footage
from young_tremor.media import image_sequence, sources
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import FrameSettings, Media, Plate, Shot, Shutter
from young_tremor.model.shake import Plotted, Shake
from young_tremor.render.frame import render_frame
from young_tremor.render.resolve_plan import resolve


def picture(path: Path, number: int = 0, size: tuple[int, int] = (64, 48), depth: int = 8) -> Path:
    """A square with alpha, further right the higher the number."""
    made = np.zeros((size[1], size[0], 4), np.uint8)
    made[10:30, 6 + number : 26 + number] = (40, 120, 230, 255)
    made[32:40, 10:50] = (255, 255, 255, 128)
    path.parent.mkdir(exist_ok=True)
    cv2.imwrite(str(path), made.astype(np.uint16) * 257 if depth == 16 else made)
    return path


def test_a_picture_alone_makes_a_shot_with_its_alpha(tmp_path: Path) -> None:
    still = picture(tmp_path / "title.png", depth=16)
    known = sources.facts(still).info
    assert (known.still, known.rate, known.frames, known.alpha, known.format.depth) == (True, 24, 120, "straight", 16)
    out = tmp_path / "title.mkv"
    line = ["shake", str(still), "-o", str(out), "--codec", "ffv1", "--seconds", "0.5", "--amount", "0"]
    assert main(line) == 0
    info = sources.facts(out).info
    assert (info.frames, info.rate, info.alpha, info.format.depth) == (12, 24, "straight", 16)
    given_, made = sources.open_source(still).read(0), sources.open_source(out)
    for number in (0, 11):
        for one, other in zip(given_.planes, made.read(number).planes, strict=True):
            np.testing.assert_array_equal(one, other)
    assert main(["shake", str(still), "-o", str(tmp_path / "long.mkv"), "--codec", "ffv1", "--seconds", "7"]) == 0
    assert sources.facts(tmp_path / "long.mkv").info.frames == 168  # longer than it is shown unless said otherwise
    assert main(["shake", str(still), "-o", str(tmp_path / "no.mkv"), "--seconds", "-1"]) == 2


def test_numbered_pictures_are_named_by_pattern_folder_or_any_of_them(
    tmp_path: Path, capsys: pytest.CaptureFixture
) -> None:
    folder = tmp_path / "rack"
    for number in (8, 9, 10, 12, 13):
        picture(folder / f"rack.{number:04d}.png", number)
    picture(folder / "poster.png")
    pattern = str(folder / "rack.####.png")
    for name in (folder, folder / "rack.%04d.png", folder / "rack.0010.png", pattern):
        assert footage.resolve_path(name) == pattern
    assert footage.resolve_path(folder / "poster.png") == str(folder / "poster.png")
    known = sources.facts(pattern).info
    assert (known.frames, known.missing, known.rate, known.still) == (6, (3,), 24, False)
    assert "1 picture is missing (number 11)" in known.notes[-1]
    said = [description.describe(path) for path in (folder, folder / "poster.png")]
    assert [(each["kind"], each["missing"]) for each in said] == [("sequence", ["3"]), ("picture", [])]
    reader = sources.open_source(pattern)
    left = [int(np.flatnonzero(reader.read(k).planes[-1][20])[0]) for k in range(6)]
    assert left == [14, 15, 16, 16, 18, 19]  # the one before is held
    assert np.array_equal(reader.read(99).planes[0], reader.read(5).planes[0])
    out = tmp_path / "rack.mkv"
    line = ["shake", str(folder), "-o", str(out), "--codec", "ffv1", "--fps", "30", "--amount", "0"]
    assert main(line) == 0
    assert (sources.facts(out).info.frames, sources.facts(out).info.rate) == (6, 30)  # its rate, not another's
    assert "number 11" in capsys.readouterr().err
    picture(folder / "rack.0012.png", size=(80, 48))
    with pytest.raises(DecodeError, match=r"rack.0012.png is 80x48, the first picture of its sequence 64x48"):
        sources.open_source(pattern).read(4)
    (folder / "rack.0013.png").write_bytes(b"\x89PNG\r\n\x1a\n nothing")
    with pytest.raises(DecodeError, match=r"rack.0013.png"):
        sources.open_source(pattern).read(5)
    picture(tmp_path / "two" / "a.01.png"), picture(tmp_path / "two" / "a.02.png")
    picture(tmp_path / "two" / "b.1.png"), picture(tmp_path / "two" / "b.2.png")
    with pytest.raises(RequestError, match="more than one sequence"):
        footage.resolve_path(tmp_path / "two")
    with pytest.raises(MissingFile):
        sources.facts(str(tmp_path / "two" / "c.##.png"))
    shutil.rmtree(folder)
    with pytest.raises(MissingFile):
        image_sequence.find(pattern)


def test_graphics_move_along_over_footage_and_stand_still_on_the_glass(tmp_path: Path, footage_: Path) -> None:
    title, logo = picture(tmp_path / "title.png"), picture(tmp_path / "logo.png", 20)
    out = tmp_path / "out.mkv"
    line = ["shake", str(footage_), "-o", str(out), "--codec", "ffv1", "--preset", "running", "--edges", "mirror"]
    assert main([*line, "--over", str(title), "--on-glass", str(logo), "--seconds", "0.5"]) == 0
    shot = actions.one_shot(footage_, preset_library.preset("running"), over=(title,), on_glass=(logo,))
    assert [plate.glass for plate in shot.plates] == [False, False, True]
    plan = resolve(shot, footage.infos(shot))
    t = np.linspace(0, 1, 9)
    base, over, glass = (plate.channels(t) for plate in plan.plates)
    np.testing.assert_array_equal(base, over)
    assert not glass.any()
    np.testing.assert_array_equal(
        plan.to_frame(3, plan.plates[2]), plan.plates[2].placed(np.zeros(1))[0] @ plan.plates[2].fit
    )
    assert sources.facts(out).info.frames == 12


@pytest.fixture
def footage_(tmp_path: Path) -> Path:
    return clip(tmp_path / "wall.mp4", frames=24)


@settings(deadline=None)
@given(st.floats(0.2, 5.0), st.floats(-2.0, 2.0))
def test_travel_shrinks_with_the_distance_and_turns_do_not(distance: float, share: float) -> None:
    shot = _plotted(Plate("plate", "", Media("x"), share=share, distance=distance))
    near = _plotted(Plate("plate", "", Media("x")))
    t, info = np.array([0.0, 0.5, 2.0]), SyntheticSource(textured_frame((32, 18))).info
    far, base = (resolve(each, info).plates[0].channels(t) for each in (shot, near))
    np.testing.assert_allclose(far[:, [0, 1, 3]], share * base[:, [0, 1, 3]] / distance, atol=1e-12)
    np.testing.assert_allclose(far[:, [2, 4, 5]], share * base[:, [2, 4, 5]], atol=1e-12)


def _plotted(plate: Plate) -> Shot:
    x, y, roll, zoom = (Curve(v, (Key(0.0, v), Key(2.0, 0.5 * v))) for v in (3.0, -2.0, 1.5, 4.0))
    strand = Plotted("move", x=x, y=y, roll=roll, zoom=zoom)
    frame = FrameSettings(edges="mirror", shutter=Shutter(Curve(0.0)))
    return Shot("shot", "", (plate,), Shake((strand,)), frame)


def test_a_nearer_plate_moves_further_on_the_picture() -> None:
    frame = textured_frame((160, 90))
    source = SyntheticSource(frame).info
    shot = _plotted(Plate("plate", "", Media("x")))
    shot = replace(shot, shake=Shake((Plotted("move", x=Curve(5.0, (Key(0.0, 5.0), Key(1.0, 5.0)))),)))
    here = render_frame(resolve(shot, source), 0, frame)
    nearer = replace(shot, plates=(replace(shot.plates[0], distance=0.5),))
    moved = render_frame(resolve(nearer, source), 0, frame)
    seen = [
        float(cv2.phaseCorrelate(frame.planes[0].astype(np.float64), each.planes[0].astype(np.float64))[0][0])
        for each in (here, moved)
    ]
    assert seen[0] == pytest.approx(4.5, abs=0.4)
    assert seen[1] == pytest.approx(9.0, abs=0.7)
    assert Fraction(resolve(nearer, source).rate) == 24


SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="64" height="48"><rect x="8" y="8" width="24" height="24" '
    'fill="#e07828"/></svg>'
)


def test_drawings_are_as_sharp_as_they_are_shown_and_bad_ones_are_said(tmp_path: Path) -> None:
    path = tmp_path / "mark.svg"
    path.write_text(SVG)
    known = sources.facts(path).info
    assert (known.size, known.drawn, known.still, known.alpha) == ((64, 48), True, True, "straight")
    out = tmp_path / "mark.mkv"
    line = ["shake", str(path), "-o", str(out), "--codec", "ffv1", "--seconds", "0.2", "--amount", "0"]
    assert main([*line, "--size", "640x480"]) == 0
    alpha = sources.open_source(out).read(0).planes[-1]
    assert set(np.unique(alpha)) <= {0, 255}  # no blown-up edge
    assert (alpha[80:320, 80:320] == 255).all()
    assert alpha.sum() == 255 * 240 * 240
    (tmp_path / "mark.svgz").write_bytes(gzip.compress(SVG.encode()))
    assert sources.facts(tmp_path / "mark.svgz").info.size == (64, 48)
    large = SVG.replace('"64"', '"40000"').replace('"48"', '"40000"')
    for words, text in (
        ("40000x40000", large),
        ("no SVG", "<a/>"),
        ("without a size", SVG.replace('"64"', '"0"')),
        ("no drawing", SVG[:40]),
        ("empty", ""),
    ):
        bad = tmp_path / "bad.svg"
        bad.write_text(text)
        with pytest.raises((DecodeError, RequestError), match=r"bad\.svg.*" if words == "empty" else words):
            sources.facts(bad)


def test_pictures_of_every_depth_go_in_and_come_out_as_they_are(tmp_path: Path) -> None:
    """Half and single floats below 0 and above 1 as well, straight through a film in float."""
    rng = np.random.default_rng(2)
    wide = rng.uniform(-0.5, 3.0, (48, 64, 3)).astype(np.float16)
    tifffile.imwrite(tmp_path / "half.tif", wide, photometric="rgb")
    tifffile.imwrite(tmp_path / "grey.tif", wide[..., 0].astype(np.float32), photometric="minisblack")
    found = colour.to_rgb(sources.open_source(tmp_path / "half.tif").read(0))
    np.testing.assert_array_equal(found, wide.astype(np.float32))
    np.testing.assert_array_equal(sources.open_source(tmp_path / "grey.tif").read(0).planes[0], wide[..., 0])
    for number in range(3):
        path = tmp_path / f"exr.{number:03d}.exr"
        half_exr(path, np.roll(wide, number, axis=1))
    pattern = str(tmp_path / "exr.###.exr")
    assert sources.facts(pattern).info.format.real
    out = tmp_path / "exr.mkv"
    assert main(["shake", pattern, "-o", str(out), "--codec", "ffv1", "--amount", "0"]) == 0
    made = sources.open_source(out)
    assert made.info.format.real
    for number in range(3):
        got = colour.to_rgb(made.read(number))
        np.testing.assert_array_equal(got, np.roll(wide, number, axis=1).astype(np.float32))


def half_exr(path: Path, rgb: np.ndarray) -> None:
    """A picture of half floats, by the film library."""
    with av.open(str(path), "w", format="image2", options={"update": "1"}) as file:
        stream = file.add_stream("exr", rate=24)
        stream.width, stream.height, stream.pix_fmt = rgb.shape[1], rgb.shape[0], "gbrpf32le"
        stream.options = {"format": "half", "compression": "zip1"}
        frame = av.VideoFrame(rgb.shape[1], rgb.shape[0], "gbrpf32le")
        for number, channel in enumerate((1, 2, 0)):
            plane = frame.planes[number]
            rows = np.frombuffer(plane, np.float32).reshape(plane.height, -1)
            rows[:, : plane.width] = rgb[..., channel]
        file.mux(stream.encode(frame))
        file.mux(stream.encode(None))


def test_jpegs_are_upright_and_mirrored_as_their_tag_says(tmp_path: Path) -> None:
    shown = np.zeros((40, 64, 3), np.uint8)
    shown[:20, :16], shown[:20, 48:], shown[20:, :16] = (0, 0, 255), (0, 255, 0), (255, 0, 0)
    cv2.imwrite(str(tmp_path / "plain.jpg"), shown, [cv2.IMWRITE_JPEG_QUALITY, 98])
    data = (tmp_path / "plain.jpg").read_bytes()
    for tag in range(1, 9):
        tiff = b"II*\0\x08\0\0\0\x01\0" + struct.pack("<HHLHH", 0x112, 3, 1, tag, 0) + b"\0\0\0\0"
        exif = b"\xff\xe1" + struct.pack(">H", 8 + len(tiff)) + b"Exif\0\0" + tiff
        path = tmp_path / f"tag{tag}.jpg"
        path.write_bytes(data[:2] + exif + data[2:])
        wanted = cv2.imread(str(path))[..., ::-1] / 255  # another library that knows the tag
        found = colour.to_rgb(sources.open_source(path).read(0))
        assert np.abs(found - wanted).mean() < 0.02
