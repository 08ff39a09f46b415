"""Colours: every pair of spaces against OpenColorIO, and films in which kinds meet, read by the library alone."""

from __future__ import annotations

import itertools
import json
import pickle
import struct
import subprocess
import sys
import zlib
from collections.abc import Iterable
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import av
import cv2
import numpy as np
import PyOpenColorIO
import pytest
from msgspec import structs

from pictures import SyntheticSource
from young_tremor import api
from young_tremor.base import colour, colour_spaces
from young_tremor.base.colour_spaces import SPACES, space_named
from young_tremor.base.errors import TremorError
from young_tremor.base.frames import YUV420_10, Frame
from young_tremor.base.pixels import ColourTags, planar_format
from young_tremor.cli.main import main
from young_tremor.engine.media import footage
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import FrameSettings, Media, Placement, Plate, Project, Shot, Shutter
from young_tremor.render import camera_spaces, colour_conversion
from young_tremor.render.colour_conversion import Rendering, convert_rgb, in_space_of
from young_tremor.render.frame import render
from young_tremor.render.resolve_plan import resolve
from young_tremor.render.screen import to_rgb

RGBA = planar_format("rgb", 8, alpha=True)
TAGS = {space.name: space.tags(ColourTags(matrix=0, full=True)) for space in SPACES}
WHITE = 203.0
# to or from CIE XYZ under D65, 1 being 100 cd/m²; whether that is the way back
BUILT_IN = {
    "rec709": "DISPLAY - CIE-XYZ-D65_to_REC.1886-REC.709",
    "rec2020": "DISPLAY - CIE-XYZ-D65_to_REC.1886-REC.2020",
    "srgb": "DISPLAY - CIE-XYZ-D65_to_sRGB",
    "display-p3": "DISPLAY - CIE-XYZ-D65_to_DisplayP3",
    "pq": "DISPLAY - CIE-XYZ-D65_to_REC.2100-PQ",
    "hlg": "DISPLAY - CIE-XYZ-D65_to_REC.2100-HLG-1000nit",
    "p3-pq": "DISPLAY - CIE-XYZ-D65_to_ST2084-P3-D65",
    "acescg": "UTILITY - ACES-AP1_to_CIE-XYZ-D65_BFD",
}
SCREENS = ({"rec709", "rec2020"}, {"srgb", "display-p3"})  # that share a curve


def by_the_library(rgb: np.ndarray, given: str, wanted: str) -> np.ndarray:
    """The same conversion by OpenColorIO's own transforms."""
    group = PyOpenColorIO.GroupTransform()
    ways = PyOpenColorIO.TRANSFORM_DIR_FORWARD, PyOpenColorIO.TRANSFORM_DIR_INVERSE
    for name, back in ((given, given != "acescg"), (wanted, wanted == "acescg")):
        step = PyOpenColorIO.BuiltinTransform(BUILT_IN[name], ways[back])
        size = 1.0 if name in ("pq", "hlg", "p3-pq") else WHITE / 100
        size = size if name == given else 1 / size
        scale = PyOpenColorIO.MatrixTransform.Scale([size, size, size, 1.0])
        for part in (step, scale) if name == given else (scale, step):
            group.appendTransform(part)
    values = np.array(rgb, np.float32)[None]
    PyOpenColorIO.Config.CreateRaw().getProcessor(group).getDefaultCPUProcessor().applyRGB(values)
    return values[0]


PAIRS = list(itertools.permutations(BUILT_IN, 2))
PLAIN = {"rec709", "rec2020", "srgb", "display-p3"}
ONE_SCREEN = [p for p in PAIRS if set(p) <= PLAIN and not any(set(p) <= screen for screen in SCREENS)]
GREY = np.linspace(0.06, 0.55, 24)[:, None].repeat(3, axis=1)


@pytest.mark.parametrize(("given", "wanted"), [pair for pair in PAIRS if pair not in ONE_SCREEN], ids="-".join)
def test_patches_of_every_pair_are_those_of_the_library(given: str, wanted: str) -> None:
    skin = np.array([[0.45, 0.33, 0.27], [0.5, 0.4, 0.34]])
    patches = np.concatenate([skin, GREY, np.random.default_rng(5).uniform(0.06, 0.55, (400, 3))])
    true = by_the_library(patches, given, wanted)
    made = convert_rgb(patches, TAGS[given], TAGS[wanted])
    held = ((true > 0.01) & (true < 0.998)).all(axis=1)  # what the other space holds
    if colour_spaces.is_high(TAGS[given]) and wanted in PLAIN:
        held &= colour_conversion.light_of(patches, TAGS[given]).max(axis=1) < 60  # and is not mapped
    assert held.sum() > 20
    assert np.abs(made - true)[held].max() * 1023 < 0.2


@pytest.mark.parametrize(("given", "wanted"), ONE_SCREEN, ids="-".join)
def test_greys_keep_their_values_between_spaces_that_one_screen_shows(given: str, wanted: str) -> None:
    np.testing.assert_allclose(convert_rgb(GREY, TAGS[given], TAGS[wanted]), GREY, atol=1e-6)


def test_highlights_are_mapped_by_the_curve_of_bt_2390() -> None:
    """Against its equations written out one value at a time: what is below the knee stays, the peak is the top."""

    def pq(light: float) -> float:
        power = (light / 10_000) ** 0.1593017578125
        return ((0.8359375 + 18.8515625 * power) / (1 + 18.6875 * power)) ** 78.84375

    light = np.geomspace(0.1, 1000, 40)
    made = colour_conversion.mapped_highlight(light, 1000.0, WHITE)
    most = pq(WHITE) / pq(1000.0)
    knee = 1.5 * most - 0.5
    for given, got in zip(light.tolist(), made.tolist(), strict=True):
        value = pq(given) / pq(1000.0)
        if value > knee:
            t = (value - knee) / (1 - knee)
            value = (2 * t**3 - 3 * t**2 + 1) * knee + (t**3 - 2 * t**2 + t) * (1 - knee) + (3 * t**2 - 2 * t**3) * most
        assert pq(got) == pytest.approx(value * pq(1000.0), abs=1e-5)
    assert made[-1] == pytest.approx(WHITE, rel=1e-4)
    assert (np.diff(made) > 0).all()


@pytest.mark.parametrize(
    ("given", "wanted"), list(itertools.permutations(("rec709", "rec2020", "pq", "hlg"), 2)), ids="-".join
)
def test_frames_by_tables_are_those_worked_out_in_full(given: str, wanted: str) -> None:
    rng = np.random.default_rng(2)
    rgb = rng.uniform(0, 1, (64, 96, 3)).astype(np.float32)
    rgb[:8] = np.linspace(0, 1, 96, dtype=np.float32)[None, :, None]
    format = planar_format("rgb", 16)
    frame = colour.from_rgb(rgb, format, TAGS[given])
    kept = frame.planes[0].copy()
    made = colour.to_rgb(colour_conversion.convert(frame, format, TAGS[wanted]))
    true = convert_rgb(colour.to_rgb(frame), TAGS[given], TAGS[wanted]).clip(0, 1)  # whole numbers hold no more
    off = np.abs(made - true).max(axis=2) * 1023
    assert off[:8].max() < 0.1
    assert np.quantile(off, 0.99) < 0.4  # where a colour is cut at the edge of a gamut, its darkest part is steep
    np.testing.assert_array_equal(frame.planes[0], kept)


def test_a_part_of_a_frame_is_converted_as_the_whole_is() -> None:
    """Rows are converted a stripe at a time; where one ends is not to be seen."""
    rng = np.random.default_rng(4)
    planes = [rng.integers(300, 700, size).astype(np.uint16) for size in ((600, 64), (300, 32), (300, 32))]
    tags = ColourTags(9, 16, 9, False)
    whole = Frame(tuple(planes), YUV420_10, tags)
    cut = (planes[0][40:560], planes[1][20:280], planes[2][20:280])
    part = Frame(cut, YUV420_10, tags)
    made, again = (colour_conversion.convert(frame, YUV420_10, ColourTags(1, 1, 1)).planes for frame in (whole, part))
    for given, fresh, step in zip(made, again, (1, 2, 2), strict=True):
        np.testing.assert_array_equal(given[48 // step : 552 // step], fresh[8 // step : 512 // step])


def test_nothing_is_done_where_spaces_are_the_same() -> None:
    frame = Frame(tuple(np.full(s, 500, np.uint16) for s in ((4, 4), (2, 2), (2, 2))), YUV420_10, ColourTags(1, 1, 1))
    for tags in (ColourTags(1, 13), ColourTags(2, 2), ColourTags(1, 6), ColourTags(1, 14, 9)):
        assert in_space_of(frame, tags, Rendering()) is frame
    assert colour_conversion.convert(frame, frame.format, frame.colour) is frame
    for a, b in itertools.permutations(SPACES, 2):
        assert colour_spaces.differ(TAGS[a.name], TAGS[b.name]) == colour_spaces.differ(TAGS[b.name], TAGS[a.name])
        assert space_named(a.label.upper()) is a


def write_film(path: Path, code: int, tags: tuple[int, int, int], params: str = "") -> Path:
    """Twelve pictures of one grey in ten bits, by the library alone."""
    with av.open(str(path), "w") as file:
        stream = file.add_stream("libx265", rate=24)
        stream.width, stream.height, stream.pix_fmt = 320, 180, "yuv420p10le"
        stream.options = {"x265-params": f"log-level=none:lossless=1{params}"}
        context = stream.codec_context
        context.color_primaries, context.color_trc, context.colorspace = tags
        context.color_range = 1
        for _ in range(12):
            picture = av.VideoFrame(320, 180, "yuv420p10le")
            for number, plane in enumerate(picture.planes):
                np.frombuffer(memoryview(plane), np.uint16)[:] = 512 if number else code
            picture.color_primaries, picture.color_trc, picture.colorspace = tags
            picture.color_range = 1
            file.mux(stream.encode(picture))
        file.mux(stream.encode(None))
    return path


# in a process of its own: the library's side data may end the one that collects them
READ = """
import av, numpy, os, pickle, sys
with av.open(sys.argv[1]) as file:
    pictures = list(file.decode(video=0))
kind = numpy.uint16 if "10" in pictures[0].format.name else numpy.uint8
rows = [numpy.frombuffer(p.planes[0], kind).reshape(p.height, -1).copy() for p in pictures]
tags = int(pictures[0].color_primaries), int(pictures[0].color_trc)
carried = {part.type.name: bytes(part) for part in pictures[0].side_data}
sys.stdout.buffer.write(pickle.dumps((rows, tags, carried)))
sys.stdout.flush()
os._exit(0)
"""


def lumas(path: Path, places: Iterable[tuple[int, int, int]]) -> tuple[list[int], tuple[int, int], dict[str, bytes]]:
    """Luma of some pixels (picture, row, column) of a film, its primaries and transfer, and what its pictures carry."""
    text = subprocess.run([sys.executable, "-c", READ, str(path)], capture_output=True, check=True).stdout
    rows, tags, carried = pickle.loads(text)
    return [int(rows[k][y, x]) for k, y, x in places], tags, carried


HDR10 = ":hdr10=1:master-display=G(13250,34500)B(7500,3000)R(34000,16000)WP(15635,16450)L(10000000,50):max-cll=1000,400"


@pytest.fixture(scope="module")
def films(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    folder = tmp_path_factory.mktemp("colours")
    graphic = np.zeros((180, 320, 4), np.uint8)
    graphic[60:120, 100:200] = 255
    cv2.imwrite(str(folder / "graphic.png"), graphic)
    return {
        "pq": write_film(folder / "pq.mp4", 504, (9, 16, 9), HDR10),
        "rec709": write_film(folder / "standard.mp4", 504, (1, 1, 1)),
        "hlg": write_film(folder / "hlg.mp4", 504, (9, 18, 9)),
        "graphic": folder / "graphic.png",
    }


def code(value: float) -> int:
    """A value 0…1 as luma of ten bits."""
    return round(64 + 876 * value)


def test_a_graphic_and_standard_footage_take_their_place_in_high_range(films: dict[str, Path], tmp_path: Path) -> None:
    """White lies at 203 cd/m², code 504 of BT.709 at 38.8 cd/m²; what footage tells of its screen goes along."""
    out = tmp_path / "out.mp4"
    api.render(api.shake(films["pq"], amount=0, over=[films["graphic"]]), out, form="h265")
    (own, white), tags, carried = lumas(out, ((1, 10, 10), (1, 90, 150)))
    assert (own, tags) == (504, (9, 16))
    assert white == pytest.approx(code(0.5807), abs=1)
    assert struct.unpack("<2I", carried["CONTENT_LIGHT_LEVEL"]) == (1000, 400)
    _, _, given = lumas(films["pq"], ())
    assert carried["MASTERING_DISPLAY_METADATA"] == given["MASTERING_DISPLAY_METADATA"]
    told: list[str] = []
    for form, ending in (("h265", ".mp4"), ("av1", ".mkv")):
        reel = api.reel([films["pq"], films["rec709"], films["hlg"]])
        out = tmp_path / f"reel{ending}"
        api.render(reel, out, form=form, tell=told.append)
        (first, second, third), tags, carried = lumas(out, ((1, 10, 10), (18, 10, 10), (30, 10, 10)))
        assert (first, tags) == (504, (9, 16))
        assert second == pytest.approx(code(0.4166), abs=2)  # PQ of 38.8 cd/m²
        assert third == pytest.approx(code(0.4404), abs=2)  # HLG 0.502, of 0.084 of the scene, is 51 cd/m²
        assert "MASTERING_DISPLAY_METADATA" in carried
    assert any("Rec. 709 is converted to Rec. 2100 PQ, white at 203 cd/m²" in words for words in told)


def sums_are_right(path: Path) -> bool:
    """Whether the track header of a Matroska file stands where its list of places says, and its sum is right."""
    data = path.read_bytes()
    begin = data.index(b"\x11\x4d\x9b\x74")
    seek = data.index(b"\x53\xab\x84\x16\x54\xae\x6b\x53\xac") + 9
    place = begin + int.from_bytes(data[seek + 1 : seek + 1 + (data[seek] & 0x7F)], "big")
    size = int.from_bytes(data[place + 4 : place + 6], "big") & 0x3FFF
    tracks = data[place + 6 : place + 6 + size]
    return data[place : place + 4] == b"\x16\x54\xae\x6b" and zlib.crc32(tracks[6:]) == int.from_bytes(
        tracks[2:6], "little"
    )


@pytest.mark.parametrize(
    ("form", "ending"), [("ffv1", ".mkv"), ("prores", ".mov"), ("dnxhr", ".mov"), ("h264", ".mkv"), ("h265", ".mp4")]
)
def test_the_mastering_display_goes_into_every_form_that_can_hold_it(
    form: str, ending: str, films: dict[str, Path], tmp_path: Path
) -> None:
    """As the film library reads it, which shares nothing with what wrote it."""
    out = tmp_path / f"out{ending}"
    api.render(api.shake(films["pq"], amount=0), out, form=form)
    _, _, given = lumas(films["pq"], ())
    (grey,), tags, carried = lumas(out, ((1, 10, 10),))
    assert (grey, tags) == (504, (9, 16))
    assert carried["CONTENT_LIGHT_LEVEL"] == given["CONTENT_LIGHT_LEVEL"]
    numbers, expected = (
        np.array(struct.unpack("<20i", part["MASTERING_DISPLAY_METADATA"][:80])).reshape(10, 2)
        for part in (carried, given)
    )
    assert numbers[:, 0] / numbers[:, 1] == pytest.approx(expected[:, 0] / expected[:, 1], rel=1e-6)
    assert ending != ".mkv" or sums_are_right(out)


def test_the_light_level_is_measured_anew(films: dict[str, Path], tmp_path: Path) -> None:
    """A graphic of 100x60 at 203.3 cd/m² (code 573) over footage of 94.1: 105.5 in the mean; both rounded up."""
    project, out = tmp_path / "a.tremor", tmp_path / "out"
    api.save(Project(shots=(api.shake(films["pq"], amount=0, over=[films["graphic"]]),)), project)
    assert main(["deliver", str(project), "--to", str(out), "--form", "ffv1", "--light-level"]) == 0
    (film,) = out.iterdir()
    _, _, carried = lumas(film, ())
    assert struct.unpack("<2I", carried["CONTENT_LIGHT_LEVEL"]) == (204, 106)
    told: list[str] = []
    api.render(api.shake(films["rec709"]), tmp_path / "plain.mp4", light_level=True, tell=told.append)
    assert any("only films in PQ carry them" in words for words in told)


@pytest.mark.parametrize("space", ["pq", "hlg", "rec709"])
def test_a_reel_of_five_spaces_with_a_title_and_a_picture_of_light(
    space: str, films: dict[str, Path], tmp_path: Path
) -> None:
    still, light, plate = tmp_path / "still.png", tmp_path / "light.exr", tmp_path / "plate.exr"
    png_with_profile(still, profile_of(P3, 2.4), (320, 180))
    write_light(light, 0.18)
    add_chromaticities(light, AP1)
    write_light(plate, 0.5, (64, 64))
    shots = [
        api.shake(films["pq"], amount=0, over=[plate]),
        api.shake(films["rec709"], amount=0),
        api.shake(films["hlg"], amount=0),
        api.shake(still, amount=0, seconds=0.5),
        api.shake(light, amount=0, seconds=0.5),
    ]
    shots[1] = structs.replace(shots[1], plates=(*shots[1].plates, shot_edits.title_plate("Q")))
    project = Project(shots=tuple(structs.replace(shot, id=str(number)) for number, shot in enumerate(shots)))
    out = tmp_path / "out.mp4"
    api.render(project, out, form="h265", out_space=space, size="320x180", fps="24")
    places = [(number, 10, 10) for number in (3, 15, 27, 41, 53)]
    backgrounds, _, _ = lumas(out, places)
    codes = {"pq": 440 / 876, "rec709": 440 / 876, "hlg": 440 / 876, "display-p3": 128 / 255, "acescg": 0.18}
    for background, (name, value) in zip(backgrounds, codes.items(), strict=True):
        one_screen = space == "rec709" and name == "display-p3"
        expected = (
            value if name == space or one_screen else convert_rgb(np.full((1, 3), value), TAGS[name], TAGS[space])[0, 1]
        )
        assert background == pytest.approx(code(float(expected)), abs=2), name
    (over,), _, _ = lumas(out, ((3, 90, 160),))
    in_pq = convert_rgb(np.full((1, 3), 0.5), TAGS["linear"], TAGS["pq"])
    expected = in_pq[0, 1] if space == "pq" else convert_rgb(in_pq, TAGS["pq"], TAGS[space])[0, 1]
    assert over == pytest.approx(code(float(expected)), abs=2)
    rows, _, _ = lumas(out, [(15, y, x) for y in range(60, 120, 2) for x in range(120, 200, 2)])
    assert max(rows) > backgrounds[1] + 40, "the title is there, brighter than what it lies over"


@pytest.mark.parametrize("linear", [False, True], ids=("codes", "light"))
@pytest.mark.parametrize("over", [False, True], ids=("alone", "under"))
def test_pictures_of_high_range_are_never_brighter_than_their_footage(linear: bool, over: bool) -> None:
    """A bright edge that lies between pixels: 700 is 440 cd/m², and a tenth beyond it would be 900."""
    edge = np.full((180, 320), 300, np.uint16)
    edge[:, 160:] = 700
    chroma = np.full((90, 160), 512, np.uint16)
    source = SyntheticSource(Frame((edge, chroma, chroma), YUV420_10, ColourTags(9, 16, 9, False)), frames=3)
    layers = np.zeros((4, 180, 320), np.uint8)
    layers[3, 50:120] = 9  # hardly covers, and lets what is below shine through
    graphic = SyntheticSource(Frame(tuple(layers), RGBA, TAGS["srgb"]), frames=3)
    plates = (Plate("b", "b", Media("b"), placement=Placement(x=Curve(0.4 / 180))), Plate("o", "o", Media("o")))
    whole = FrameSettings(edges="mirror", linear=linear, shutter=Shutter(Curve(0.0)))
    made = Shot("s", "s", plates if over else plates[:1], frame=whole)
    sources = [source, graphic] if over else [source]
    rendered = render(resolve(made, tuple(source.info for source in sources)), 1, sources)
    assert 695 <= rendered.planes[0].max() <= 700


@pytest.mark.parametrize(("space", "tags"), [("rec709", (1, 1)), ("hlg", (9, 18))])
def test_a_film_has_the_colours_that_are_asked_for(
    films: dict[str, Path], tmp_path: Path, space: str, tags: tuple[int, int], capsys: pytest.CaptureFixture[str]
) -> None:
    reel = tmp_path / "reel.tremor"
    assert main(["reel", str(films["pq"]), str(films["rec709"]), "-o", str(reel)]) == 0
    out = tmp_path / "out.mp4"
    assert main(["render", str(reel), "-o", str(out), "--codec", "h265", "--out-space", space]) == 0
    said = capsys.readouterr().err
    (high, standard), found, carried = lumas(out, ((1, 10, 10), (18, 10, 10)))
    assert found == tags
    expected = convert_rgb(np.full((1, 3), 440 / 876), TAGS["pq"], TAGS[space])[0, 1]
    assert high == pytest.approx(code(expected), abs=1)
    assert not carried.keys() & {"MASTERING_DISPLAY_METADATA", "CONTENT_LIGHT_LEVEL"}
    if space == "rec709":
        assert standard == 504
        assert "highlights to 1000 cd/m² mapped (BT.2390)" in said
    assert main(["render", str(reel), "-o", str(tmp_path / "x.mp4"), "--out-space", "nothing"]) == 2
    assert "is no colour space" in capsys.readouterr().err


def test_older_projects_stay_as_they_were_and_say_what_would_be_converted(
    films: dict[str, Path], tmp_path: Path
) -> None:
    path = tmp_path / "old.tremor"
    api.save(api.reel([films["pq"], films["rec709"]]), path)
    raw = json.loads(path.read_text()) | {"version": 7}
    for shot in raw["project"]["shots"]:
        del shot["frame"]["match_colours"]
    path.write_text(json.dumps(raw))
    old = api.open(path)
    told: list[str] = []
    assert [shot.frame.match_colours for shot in old.shots] == [False, False]
    api.render(old, tmp_path / "old.mp4", form="h265", tell=told.append)
    (first, second), _, _ = lumas(tmp_path / "old.mp4", ((1, 10, 10), (18, 10, 10)))
    assert (first, second) == (504, 504)
    assert any("would be converted to Rec. 2100 PQ, but Match colours is off" in words for words in told)


def png_with_profile(path: Path, profile: bytes, size: tuple[int, int] = (8, 8)) -> Path:
    cv2.imwrite(str(path), np.full((*size[::-1], 3), 128, np.uint8))
    data = path.read_bytes()
    body = b"p\0\0" + zlib.compress(profile)
    chunk = struct.pack(">I", len(body)) + b"iCCP" + body + struct.pack(">I", zlib.crc32(b"iCCP" + body))
    path.write_bytes(data[:33] + chunk + data[33:])
    return path


def profile_of(columns: tuple[tuple[float, ...], ...], gamma: float) -> bytes:
    """A profile of three colorants under D50 and one curve (ICC.1)."""

    def numbers(values: Iterable[float]) -> bytes:
        return b"".join(struct.pack(">i", round(value * 65536)) for value in values)

    tags = {key: b"XYZ \0\0\0\0" + numbers(c) for key, c in zip((b"rXYZ", b"gXYZ", b"bXYZ"), columns, strict=True)}
    srgb = b"para\0\0\0\0\0\3\0\0" + numbers((2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045))
    curve = srgb if gamma == 2.4 else b"curv\0\0\0\0" + struct.pack(">IH", 1, round(gamma * 256))
    tags |= dict.fromkeys((b"rTRC", b"gTRC", b"bTRC"), curve)
    tags[b"wtpt"] = b"XYZ \0\0\0\0" + numbers((0.9642, 1.0, 0.8249))
    begin, table, data = 132 + 12 * len(tags), b"", b""
    for key, value in tags.items():
        table += struct.pack(">4sII", key, begin + len(data), len(value))
        data += value + b"\0" * (-len(value) % 4)
    whole = bytearray(128) + struct.pack(">I", len(tags)) + table + data
    whole[0:4], whole[8:12], whole[12:24], whole[36:40] = (
        struct.pack(">I", len(whole)),
        b"\4\0\0\0",
        b"mntrRGB XYZ ",
        b"acsp",
    )
    return bytes(whole)


# colorants under D50 as photographs' profiles have them
P3 = ((0.5151, 0.2412, -0.0011), (0.2920, 0.6922, 0.0419), (0.1571, 0.0666, 0.7841))
ADOBE = ((0.6097, 0.3111, 0.0195), (0.2053, 0.6257, 0.0609), (0.1492, 0.0632, 0.7446))


@pytest.mark.parametrize(
    ("columns", "gamma", "space"), [(P3, 2.4, "Display P3"), (ADOBE, 2.2, "Adobe RGB (1998)")], ids=("p3", "adobe")
)
def test_profiles_of_pictures_are_read(
    columns: tuple[tuple[float, ...], ...], gamma: float, space: str, tmp_path: Path
) -> None:
    whole = profile_of(columns, gamma)
    path = png_with_profile(tmp_path / "a.png", whole)
    assert api.info(path)["colour"]["space"] == space
    rng = np.random.default_rng(1)
    for number in range(24):  # whatever is damaged says nothing
        data = bytearray(whole)
        for place in rng.integers(128, len(data), 6):
            data[place] = rng.integers(256)
        assert api.info(png_with_profile(tmp_path / f"{number}.png", bytes(data)))["colour"]["found"]


def add_chromaticities(path: Path, coordinates: tuple[float, ...]) -> None:
    """Put the attribute before the end of the header; the offsets of all lines of blocks grow by its size."""
    data, end = path.read_bytes(), 8
    lines = 0
    while data[end]:
        name = data[end : (kind := data.index(b"\0", end) + 1)]
        size = data.index(b"\0", kind) + 1
        (length,) = struct.unpack_from("<i", data, size)
        if name == b"dataWindow\0":
            _, top, _, bottom = struct.unpack_from("<4i", data, size + 4)
            lines = bottom - top + 1
        if name == b"compression\0":
            block = {0: 1, 1: 1, 2: 1, 3: 16}[data[size + 4]]
        end = size + 4 + length
    more = b"chromaticities\0chromaticities\0" + struct.pack("<i8f", 32, *coordinates)
    count = -(-lines // block)
    offsets = struct.unpack_from(f"<{count}Q", data, end + 1)
    moved = struct.pack(f"<{count}Q", *(offset + len(more) for offset in offsets))
    path.write_bytes(data[:end] + more + b"\0" + moved + data[end + 1 + 8 * count :])


def write_light(path: Path, light: float, size: tuple[int, int] = (320, 180)) -> None:
    """An even picture of light, with values at its beginning as renderers leave them."""
    with av.open(str(path), "w", format="image2", options={"update": "1"}) as file:
        stream = file.add_stream("exr", rate=Fraction(24))
        stream.width, stream.height = size
        stream.pix_fmt = "gbrpf32le"
        picture = av.VideoFrame(*size, "gbrpf32le")
        for plane in picture.planes:
            values = np.frombuffer(memoryview(plane), np.float32)
            values[:] = light
            values[:3] = np.nan, np.inf, -np.inf
        file.mux([*stream.encode(picture), *stream.encode(None)])


AP1 = (0.713, 0.293, 0.165, 0.830, 0.128, 0.044, 0.32168, 0.33767)


@pytest.mark.parametrize(
    ("coordinates", "space"),
    [
        (AP1, "ACEScg"),
        ((0.708, 0.292, 0.170, 0.797, 0.131, 0.046, 0.3127, 0.3290), "Linear, Rec. 2020"),
        (None, "Linear, Rec. 709"),
    ],
    ids=("acescg", "2020", "none"),
)
def test_chromaticities_of_exr_are_read_and_it_lies_over_footage_as_it_looks(
    coordinates: tuple[float, ...] | None, space: str, films: dict[str, Path], tmp_path: Path
) -> None:
    """Even grey light of 0.18 is 0.18^(1/2.4) of white in BT.709 whatever its primaries."""
    path = tmp_path / "light.exr"
    write_light(path, 0.18)
    if coordinates is not None:
        add_chromaticities(path, coordinates)
    assert api.info(path)["colour"]["space"] == space
    out = tmp_path / "out.mp4"
    api.render(api.shake(films["rec709"], amount=0, over=[path]), out, form="h265")
    (grey,), _, _ = lumas(out, ((1, 90, 150),))
    assert grey == pytest.approx(code(0.18 ** (1 / 2.4)), abs=1)


def test_the_screen_shows_high_range_and_light_as_standard_range_of_the_same_light() -> None:
    grey = np.linspace(0.05, 0.6, 12, dtype=np.float32)[None, :, None].repeat(3, 2).repeat(4, 0)
    plain = colour.from_rgb(grey, YUV420_10, ColourTags(1, 1, 1, False))
    for name, format in (("pq", YUV420_10), ("linear", planar_format("rgb", 32, real=True)), ("hlg", YUV420_10)):
        tags = replace(TAGS[name], matrix=0 if format.real else 9, full=format.real)
        same = colour.from_rgb(convert_rgb(grey, TAGS["rec709"], TAGS[name]).astype(np.float32), format, tags)
        assert np.abs(to_rgb(same).astype(int) - to_rgb(plain)).max() <= 2, name
        brighter = (grey * 2 ** (1 / 2.4) * 255).round()  # twice the light
        assert np.abs(to_rgb(same, 1.0).astype(int) - brighter)[brighter < 200].max() <= 2, name
    assert np.abs(to_rgb(plain, 1.0).astype(int) - brighter).max() <= 1


def test_light_is_shown_through_the_view_that_a_person_chose() -> None:
    grey = np.full((4, 4, 3), 0.18, np.float32)
    light = colour.from_rgb(grey, planar_format("rgb", 32, real=True), TAGS["acescg"])
    display, view = "sRGB - Display", "Un-tone-mapped"
    config = PyOpenColorIO.Config.CreateFromBuiltinConfig("studio-config-latest")
    try:
        assert camera_spaces.use_configuration("", (display, view))
        for stops in (0.0, 1.0):
            chosen = PyOpenColorIO.DisplayViewTransform(src="ACEScg", display=display, view=view)
            processor = config.getProcessor(chosen).getDefaultCPUProcessor()
            true = np.array(processor.applyRGB([0.18 * 2**stops] * 3))
            assert to_rgb(light, stops)[0, 0] == pytest.approx(255 * true, abs=0.6)
    finally:
        camera_spaces.use_configuration("")


def test_a_cameras_log_is_what_the_configurations_view_shows_of_it(films: dict[str, Path], tmp_path: Path) -> None:
    out = tmp_path / "out.mp4"
    api.render(api.shake(films["rec709"], amount=0, in_space="ARRI LogC4"), out, form="h265", out_space="rec709")
    config = PyOpenColorIO.Config.CreateFromBuiltinConfig("studio-config-latest")
    view = PyOpenColorIO.DisplayViewTransform(
        src="ARRI LogC4", display="Rec.1886 Rec.709 - Display", view="ACES 2.0 - SDR 100 nits (Rec.709)"
    )
    true = config.getProcessor(view).getDefaultCPUProcessor().applyRGB([440 / 876] * 3)
    (grey,), tags, _ = lumas(out, ((1, 10, 10),))
    assert tags == (1, 1)
    assert grey == pytest.approx(code(true[1]), abs=1)
    for name in ("ocio:Not there", "no such space"):
        with pytest.raises(TremorError, match="space"):
            footage.info_of(Media(str(films["rec709"]), space=name), (320, 180))
