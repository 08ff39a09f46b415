"""Plates over each other against formulas written out here in float: alpha, blur, titles, depth, time."""

from __future__ import annotations

from dataclasses import replace as change

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from pictures import SyntheticSource, flat, textured_frame
from test_render import at, drift, shot
from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.base.frames import YUV420, YUV420_10, ColourTags, Frame
from young_tremor.base.pixels import PixelFormat, levels, planar_format
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import footage
from young_tremor.media import fonts, title_drawing, vector_source
from young_tremor.media.text_shaping import shape_line
from young_tremor.model.curve import Curve, Key
from young_tremor.model.depth import Depth, Raised, Ramp
from young_tremor.model.project import Media, Placement, Plate, Shot, Shutter, Size
from young_tremor.model.shake import Plotted, Region, Shake, Shimmer
from young_tremor.model.title import Title
from young_tremor.render import displacement, shutter
from young_tremor.render.frame import render, render_frame
from young_tremor.render.plan import Plan, Quality
from young_tremor.render.resolve_plan import resolve

SIZE = (320, 180)
STILL = Shutter(Curve(0.0))
FLOAT = planar_format("rgb", 32, real=True)


def graphic(alpha: str = "straight", seed: int = 3, depth: int = 8, size: tuple[int, int] = SIZE) -> SyntheticSource:
    """Noise with a soft and a hard edge of alpha in its middle, empty near the rim."""
    real = depth == 32
    format = planar_format("rgb", depth, alpha=True, real=real)
    rng = np.random.default_rng(seed)
    cover = np.zeros(size[::-1], np.float32)
    cover[40:140, 60:250] = 1.0
    cover[40:140, 60:110] = np.linspace(0, 1, 50)
    colours = rng.uniform(0, 1, (3, *size[::-1])).astype(np.float32)
    if alpha == "premultiplied":
        colours = colours * cover
    planes = tuple(format.rounded(plane * format.top) for plane in (*colours, cover))
    source = SyntheticSource(Frame(planes, format, ColourTags(1, 13, 0, True)))
    source._info = change(source.info, alpha=alpha)
    return source


def over(base: Shot, **plate: object) -> Shot:
    top = Plate("t", "top", Media("top"))
    return replace(base, plates=(*base.plates, replace(top, **plate)))


def lowered(plane: np.ndarray, format: PixelFormat) -> np.ndarray:
    """4:4:4 to the places of chroma: a tent across (MPEG siting), a box down."""
    if format.step == (1, 1):
        return plane
    down = 0.5 * (plane[0::2] + plane[1::2])
    wide = np.pad(down, ((0, 0), (1, 1)), mode="edge")
    return (0.25 * wide[:, :-2] + 0.5 * wide[:, 1:-1] + 0.25 * wide[:, 2:])[:, ::2]


def expected(below: Frame, above: Frame, opacity: float, premultiplied: bool) -> list[np.ndarray]:
    """RGB with alpha over footage, in the footage's planes."""
    format, tags = below.format, below.colour
    top = above.format.top
    g, b, r, a = (plane.astype(np.float64) / top for plane in above.planes)
    rgb = [each if premultiplied else each * a for each in (r, g, b)]
    a = a * opacity
    rgb = [each * opacity for each in rgb]
    if format.kind == "rgb":
        parts = [rgb[1], rgb[2], rgb[0]]
    else:
        kr, kb = 0.2126, 0.0722
        y = kr * rgb[0] + (1 - kr - kb) * rgb[1] + kb * rgb[2]
        parts = [y, (rgb[2] - y) / (2 * (1 - kb)), (rgb[0] - y) / (2 * (1 - kr))]
    out = []
    for k, part in enumerate(parts):
        zero, span = levels(format, tags, k)
        cover = lowered(a, format) if format.chroma(k) else a
        mine = lowered(part, format) if format.chroma(k) else part
        out.append(mine * span + (below.planes[k] - zero) * (1 - cover) + zero)
    return out


@pytest.mark.parametrize("format", [YUV420, YUV420_10, planar_format("rgb", 16)])
def test_what_stands_on_the_glass_lies_over_the_footage_as_it_looks_alone(format: PixelFormat) -> None:
    ground, top = SyntheticSource(textured_frame(SIZE, format)), graphic()
    alone = shot(drift(6.0, x=3, y=2, roll=1), edges="mirror", shutter=Shutter(Curve(180.0)))
    both = over(alone, glass=True)
    for index in range(4):
        below = render(resolve(alone, (ground.info,)), index, ground)
        shown = render(resolve(both, (ground.info, top.info)), index, [ground, top])
        for ours, formula in zip(shown.planes, expected(below, top.read(0), 1.0, False), strict=True):
            assert np.abs(ours - formula).max() <= (1.0 if format.depth == 8 else 2.0)
    assert not np.array_equal(below.planes[0], ground.read(3).planes[0])


def test_what_was_kept_of_the_glass_is_what_would_be_made_anew() -> None:
    ground, top = SyntheticSource(textured_frame(SIZE, YUV420)), graphic()
    alone, picture = shot(drift(6.0, x=3, y=2), edges="mirror"), top.read(0)
    for blend in ("normal", "screen"):
        for opacity, x, size in ((1.0, 0.0, 1.0), (0.5, 0.0, 1.0), (1.0, 0.02, 1.0), (1.0, 0.02, 1.3), (1.0, 0.0, 1.0)):
            placement = Placement(x=Curve(x), size=Curve(size), opacity=Curve(opacity))
            plan = resolve(over(alone, glass=True, blend=blend, placement=placement), (ground.info, top.info))
            for index in (1, 2):
                kept = render_frame(plan, index, [ground.read(index), picture])
                anew = render_frame(
                    plan, index, [ground.read(index), Frame(picture.planes, picture.format, picture.colour)]
                )
                for ours, theirs in zip(kept.planes, anew.planes, strict=True):
                    np.testing.assert_array_equal(ours, theirs)


@settings(deadline=None, max_examples=24)
@given(
    format=st.sampled_from(
        (YUV420, YUV420_10, planar_format("yuv", 8), planar_format("yuv", 16), planar_format("rgb", 16), FLOAT)
    ),
    alpha=st.sampled_from(("straight", "premultiplied")),
    depth=st.sampled_from((8, 16, 32)),
    opacity=st.floats(0.05, 1),
    glass=st.booleans(),
)
def test_graphics_lie_over_footage_as_the_formulas_say(format, alpha, depth, opacity, glass) -> None:  # type: ignore[no-untyped-def]
    """8 bit within one code value, 10 and 16 bit within two, float within 1e-5, chroma at its own places."""
    given_ = textured_frame(SIZE, format) if not format.real else textured_frame(SIZE, planar_format("rgb", 8))
    if format.real:
        planes = tuple(p.astype(np.float32) / 100 - 0.5 for p in given_.planes)  # below 0 and above 1 as well
        given_ = Frame(planes, format, given_.colour)
    a, b = SyntheticSource(given_), graphic(alpha, depth=depth)
    both = over(shot(Shake(), edges="crop", shutter=STILL), placement=Placement(opacity=Curve(opacity)), glass=glass)
    out = render(resolve(both, (a.info, b.info)), 2, [a, b])
    wanted = expected(given_, b.read(0), opacity, alpha == "premultiplied")
    most = 1e-5 if format.real else 1.0 if format.depth == 8 else 2.0
    for k, plane in enumerate(wanted):
        assert np.abs(out.planes[k] - np.clip(plane, *((-9, 9) if format.real else (0, format.top)))).max() <= most
        rows = slice(0, 30 // format.plane_step(k)[1])
        np.testing.assert_array_equal(out.planes[k][rows], given_.planes[k][rows])  # bit for bit beside it


@pytest.mark.parametrize("fast", [2.0, 14.0])
def test_blurred_edges_mix_with_what_is_behind_them_at_each_moment(fast: float) -> None:
    """Against the mean of 128 still composites, where the plate goes its own way over moving footage."""
    a, b = SyntheticSource(textured_frame(SIZE, YUV420, 1)), graphic()
    b._picture = change(
        b.read(0), planes=(*textured_frame(SIZE, planar_format("rgb", 8), 5).planes, b.read(0).planes[3])
    )

    def moving(speed: float) -> Shake:
        way = Curve(0.0, (Key(0.0, 0.0, "linear"), Key(1.0, speed * 12, "linear")))
        return Shake((Plotted("p", x=way),))

    both = over(shot(moving(fast), edges="mirror", shutter=Shutter(Curve(180.0))), share=0.0, shake=moving(-0.7 * fast))
    out = render(resolve(both, (a.info, b.info)), 2, [a, b])
    total = [np.zeros(p.shape) for p in out.planes]
    for share in (np.arange(128) + 0.5) / 128 - 0.5:
        when = 2 / 24 + share * 0.5 / 24
        frozen = Shake((Plotted("p", x=at(fast * 12 * when)),)), Shake((Plotted("p", x=at(-0.7 * fast * 12 * when)),))
        still = over(shot(frozen[0], edges="mirror", shutter=STILL), share=0.0, shake=frozen[1])
        for k, plane in enumerate(render(resolve(still, (a.info, b.info)), 2, [a, b]).planes):
            total[k] += plane / 128.0
    for made, true, least in zip(out.planes, total, (50, 48, 48), strict=True):
        error = np.sqrt(np.mean((made[8:-8, 12:-12] - true[8:-8, 12:-12]) ** 2))
        assert 20 * np.log10(255 / error) > least


def test_what_does_not_reach_the_frame_costs_nothing_and_leaves_it_bit_for_bit() -> None:
    a, b = SyntheticSource(textured_frame(SIZE)), graphic()
    shake = drift(2.0, x=2, roll=0.4)
    alone = render(resolve(shot(shake), a.info), 5, a)
    for plate in (
        {"placement": Placement(x=Curve(3.0))},
        {"placement": Placement(opacity=Curve(0.0))},
        {"on": False},
        {"offset": 1.0},
        {"past": "end", "offset": -9.0},
    ):
        film = graphic()
        film._info = change(film.info, frames=24, still=False)
        both = over(shot(shake), **plate)
        out = render(resolve(both, (a.info, film.info)), 5, [a, b])
        for one, other in zip(out.planes, alone.planes, strict=True):
            np.testing.assert_array_equal(one, other)


@settings(deadline=None, max_examples=20)
@given(
    distance=st.floats(0.3, 4), share=st.floats(-1, 2), x=st.floats(-4, 4), zoom=st.floats(-4, 4), roll=st.floats(-3, 3)
)
def test_distance_divides_travel_and_leaves_turns(distance, share, x, zoom, roll) -> None:  # type: ignore[no-untyped-def]
    a, b = SyntheticSource(textured_frame(SIZE)), graphic()
    moved = Plotted("p", x=at(x), zoom=at(zoom), roll=at(roll))
    own = Shake((Plotted("o", y=at(1.5)),))
    plan = resolve(over(shot(Shake((moved,))), distance=distance, share=share, shake=own), (a.info, b.info))
    found = plan.plates[1].channels(np.zeros(1))[0]
    np.testing.assert_allclose(
        found, [share * x / distance, 1.5, share * roll, share * zoom / distance, 0.0, 0.0], atol=1e-9
    )


def test_a_plate_of_its_own_time_begins_holds_loops_and_ends() -> None:
    frames = [flat(SIZE, (40 + 10 * k, 128, 128)) for k in range(6)]

    class Film(SyntheticSource):
        def read(self, index: int) -> Frame:
            return frames[index]

    a, b = SyntheticSource(flat(SIZE, (235, 128, 128))), Film(frames[0], frames=6)
    seen = {}
    for past in ("hold", "loop", "end"):
        plan = resolve(over(shot(Shake()), offset=0.25, past=past), (a.info, b.info))
        seen[past] = [int(render(plan, k, [a, b]).planes[0][90, 160]) for k in (5, 6, 8, 11, 12, 14)]
    assert seen == {
        "hold": [235, 40, 60, 90, 90, 90],
        "loop": [235, 40, 60, 90, 40, 60],
        "end": [235, 40, 60, 90, 235, 235],
    }


def test_the_crop_covers_what_is_meant_to_fill_the_frame() -> None:
    a = SyntheticSource(flat(SIZE, (235, 128, 128)))
    base = over(shot(drift(2.0, x=1.0), shutter=STILL), shake=Shake((Plotted("p", x=at(4.0)),)))
    infos = (a.info, a.info)
    assert resolve(base, infos).crop == resolve(replace(base, plates=base.plates[:1]), a.info).crop
    both = replace(base, plates=(base.plates[0], replace(base.plates[1], fills=True)))
    plan = resolve(both, infos)
    assert plan.crop > resolve(base, infos).crop + 0.02
    dark = SyntheticSource(flat(SIZE, (16, 128, 128)))
    assert all((render(plan, k, [dark, a]).planes[0] == 235).all() for k in range(0, 40, 7))
    none = replace(base, plates=(replace(base.plates[0], fills=False), base.plates[1]))
    assert resolve(none, infos).crop == 1.0


def titled(title: Title, shake: Shake | None = None, **plate: object) -> Shot:
    made = Plate("t", "title", Media(kind="title", title=title), shake=shake)
    return replace(shot(Shake(), edges="hold", shutter=STILL), plates=(*shot(Shake()).plates, replace(made, **plate)))


def shown(made: Shot, index: int = 3, quality: Quality = Quality()) -> np.ndarray:
    a = SyntheticSource(flat(SIZE, (16, 128, 128)))
    top = made.plates[1].media
    reader = vector_source.open_drawn(top, SIZE)
    return render(resolve(made, (a.info, reader.info), quality), index, [a, reader]).planes[0].astype(int)


def test_a_title_comes_apart_without_its_letters_moving_when_nothing_shakes() -> None:
    looks = [
        shown(titled(Title("AVATAR To\nTy fi", size=20, apart=apart))) for apart in ("whole", "line", "word", "letter")
    ]
    for other in looks[1:]:
        assert np.abs(other - looks[0]).max() <= 2
    assert looks[0].max() > 200
    # sharp at any scale: twice as large a preview is not a blown-up one
    large = shown(titled(Title("AVATAR", size=20)), quality=Quality((640, 360)))
    assert np.abs(np.diff(large, axis=1)).max() > 0.8 * (large.max() - large.min())


def test_parts_go_their_own_ways_by_as_much_as_is_said() -> None:
    shake = drift(3.0, x=4, y=4, roll=2)
    title = Title("NIGHT", size=20, apart="letter")

    def ways(differ: float) -> np.ndarray:
        made = titled(replace(title, differ=differ), shake)
        plan = resolve(
            made, (SyntheticSource(textured_frame(SIZE)).info, vector_source.info_of(made.plates[1].media, SIZE))
        )
        frame = title_drawing.draw_title(made.plates[1].media.title, SIZE, 1.0)
        t = np.linspace(0, 8, 400)
        return np.stack([each.channels(t) for each in plan.plates[1].pieces(frame)])

    together, half, wholly = ways(0.0), ways(0.5), ways(1.0)
    assert np.abs(together[:, :, 2] - together[0, :, 2]).max() < 1e-6
    alike = [np.corrcoef(each[0, :, 2], each[3, :, 2])[0, 1] for each in (half, wholly)]
    assert alike[0] > 0.5
    assert abs(alike[1]) < 0.45
    for each in (half, wholly):  # as large as the shake says, however much they differ
        assert np.std(each[:, :, 2]) == pytest.approx(np.std(together[0, :, 2]), rel=0.3)
    # a letter turns about its own middle
    turn = Shake((Plotted("p", roll=at(20.0)),))
    tall = [
        np.ptp(np.flatnonzero((shown(each) > 120).any(axis=1)))
        for each in (titled(title), titled(title, turn), titled(replace(title, apart="whole"), turn))
    ]
    assert tall[1] < 1.35 * tall[0]
    assert tall[2] > 1.25 * tall[1]


def test_text_is_shaped_as_its_script_asks() -> None:
    face = fonts.find("Anton")
    assert face is not None
    kerned, apart = shape_line("AV", face, 0.0, joined=False), [shape_line(x, face, 0.0, joined=False) for x in "AV"]
    assert kerned.length < sum(each.length for each in apart) - 0.01
    assert len(shape_line("e\u0301e", face, 0.0, joined=False).letters) == 2  # a mark goes with its letter
    assert [x.word for x in shape_line("ab cd", face, 0.0, joined=False).letters] == [0, 0, 1, 1]
    spaced = shape_line("ab", face, 0.5, joined=True)
    assert spaced.length == pytest.approx(shape_line("ab", face, 0.0, joined=True).length + 0.5)
    hebrew = shape_line("אבג abc", face, 0.0, joined=False)
    assert not hebrew.rightward
    assert [x.word for x in hebrew.letters] == [1, 1, 1, 0, 0, 0]  # read from the right
    notes = title_drawing.typeset(Title("A", face="No Such Face"), SIZE).notes
    assert "No Such Face" in notes[0]
    with pytest.raises(RequestError, match="no font that can be read"):
        fonts.find(__file__ + "/../test_composite.py")
    for bad in ({"colour": "red"}, {"size": 0.0}, {"text": "a" * 3000}, {"differ": 2.0}):
        with pytest.raises(UnreadableValue):
            Title(**{"text": "a", **bad})


@settings(deadline=None, max_examples=15)
@given(
    near=st.floats(0.4, 1.5),
    far=st.floats(0.8, 4),
    x=st.floats(-9, 9),
    y=st.floats(-5, 5),
    roll=st.floats(-3, 3),
    angle=st.floats(0, 360),
    shape=st.floats(0, 1),
)
def test_depth_bends_softly_covers_and_tears_nothing(near, far, x, y, roll, angle, shape) -> None:  # type: ignore[no-untyped-def]
    source = SyntheticSource(flat(SIZE, (235, 128, 128)))
    hole = Raised(Region("rectangle", width=Curve(0.3), height=Curve(0.4), feather=0.001), shape)
    depth = Depth(near, far, ramp=Ramp(angle, -0.4, 0.4), shapes=(hole,))
    made = shot(Shake((Plotted("p", x=at(x), y=at(y), roll=at(roll)),)), shutter=STILL)
    made = replace(made, plates=(replace(made.footage, depth=depth),))
    plan = resolve(made, source.info)
    bare = change(plan, border="black")
    assert (render(bare, 3, source).planes[0] == 235).all()
    grid = lattice_of(plan, 3, 0.125)
    across, down = np.gradient(grid[..., 0]), np.gradient(grid[..., 1])
    assert (across[1] * down[0] - across[0] * down[1]).min() > 0  # nothing is seen twice, nothing turned over


def lattice_of(plan: Plan, index: int, t: float) -> np.ndarray:
    """Where the lowest plate is looked at, every fourth pixel: (rows, columns, 2)."""
    at = np.arange(0.0, plan.size[0], 4), np.arange(0.0, plan.size[1], 4)
    return displacement.places_at(plan, plan.base, index, np.array([t]), np.zeros((1, 2)), at)[0]


def test_one_grey_of_depth_is_that_distance_and_depth_turns_alike() -> None:
    source = SyntheticSource(textured_frame(SIZE))
    made = shot(Shake((Plotted("p", x=at(3.1), y=at(-1.2)),)), edges="mirror", shutter=STILL)
    flatly = replace(made, plates=(replace(made.footage, depth=Depth(2.0, 2.0, ramp=Ramp())),))
    at_two = replace(made, plates=(replace(made.footage, distance=2.0),))
    one, other = (render(resolve(each, source.info), 1, source).planes[0].astype(int) for each in (flatly, at_two))
    assert np.quantile(np.abs(one - other), 0.99) <= 3
    depth = Depth(0.5, 3.0, ramp=Ramp(90, -0.5, 0.5))
    plan = resolve(replace(made, plates=(replace(made.footage, depth=depth),)), source.info)
    grid = lattice_of(plan, 1, 1 / 24)
    moved = np.arange(grid.shape[1]) * 4 - grid[..., 0]
    assert moved[3].mean() < 0.5 * moved[-4].mean()  # what is near moves more
    turn = replace(made, shake=Shake((Plotted("p", roll=at(2.0)),)))
    plain, deep = (
        resolve(each, source.info) for each in (turn, replace(turn, plates=(replace(made.footage, depth=depth),)))
    )
    a = render(plain, 1, source).planes[0].astype(int)
    assert np.quantile(np.abs(render(deep, 1, source).planes[0] - a), 0.99) <= 4


def test_what_depth_moves_is_known_at_many_moments_at_once_and_in_the_largest_pictures() -> None:
    source = SyntheticSource(textured_frame(SIZE))
    depth = Depth(0.5, 3.0, ramp=Ramp(30, -0.5, 0.5))
    made = shot(replace(preset_library.preset("walking").shake, intensity=Curve(2.0)))
    made = replace(made, plates=(replace(made.footage, depth=depth, shake=drift(1.5, x=1.0, roll=0.5)),))
    plan = resolve(made, source.info)
    plate, times = plan.base, np.linspace(0.1, 0.2, 7)
    q = np.stack(np.meshgrid(np.linspace(-0.8, 0.8, 9), np.linspace(-0.5, 0.5, 5)), axis=-1)
    rows, flat_ = q[:, 0, 1], np.broadcast_to(q.reshape(-1, 2), (7, 45, 2))
    back = np.linalg.inv(plan.to_frame(2, plate))
    places = displacement.DeliveredPlaces(q, rows)
    near = [displacement.nearness_of(plan, plate, t, places, back) for t in times]
    one_by_one = [displacement.sources(plan, plate, t, places, None, n) for t, n in zip(times, near, strict=True)]
    at_once = displacement.seen_at_once(plate, times, flat_, back)
    assert np.abs(at_once - np.stack(one_by_one).reshape(7, 45, 2)).max() < 2e-4  # of a frame's height
    same = displacement.deep_look(plate, times, flat_).at(np.stack(near).reshape(7, 45))
    assert np.abs(same - np.stack(one_by_one).reshape(7, 45, 2)).max() < 1e-7
    still = resolve(made, source.info, shaken=False)
    same = shutter.places(still, still.base, 2, times, np.zeros(2), flat_[0])
    assert np.ptp(same, axis=0).max() < 1e-9  # the still original stays, whatever its depth
    large = resolve(replace(made, size=Size(7680, 4320)), source.info)
    assert np.isfinite(lattice_of(large, 2, 0.1)).all()


def test_a_depth_picture_comes_from_a_file(tmp_path) -> None:  # type: ignore[no-untyped-def]
    import cv2

    grey = np.repeat(np.linspace(0, 255, 180)[:, None], 320, axis=1).astype(np.uint8)
    cv2.imwrite(str(tmp_path / "depth.png"), grey)
    cv2.imwrite(
        str(tmp_path / "wall.png"),
        np.repeat(textured_frame(SIZE, planar_format("yuv", 8)).planes[0][..., None], 3, axis=2),
    )
    plate = Plate("p", "p", Media(str(tmp_path / "wall.png")), depth=Depth(0.5, 3.0, path=str(tmp_path / "depth.png")))
    made = Shot("s", "s", (plate,), Shake((Plotted("p", x=at(3.0)),)), end=1.0)
    drawn_ = replace(made, plates=(replace(plate, depth=Depth(0.5, 3.0, ramp=Ramp())),))
    both = []
    for each in (made, drawn_):
        source = footage.sources_of(each)[0]
        both.append(render_frame(resolve(each, footage.infos(each)), 2, source.read(0)).planes[0].astype(int))
        source.close()
    assert np.quantile(np.abs(both[0] - both[1]), 0.98) <= 6
    with pytest.raises(UnreadableValue):
        Depth(path="a.png", ramp=Ramp())


@pytest.mark.parametrize(
    "whole",
    [
        Shimmer("s", x=3.0, y=3.0, size=20.0),
        Plotted("s", x=Curve(0.0, (Key(0.0, 2.0),)), y=Curve(0.0, (Key(0.0, 9.0),))),
    ],
)
def test_an_outline_moves_by_itself_and_leaves_the_colours(whole: Shimmer | Plotted) -> None:
    a, b = SyntheticSource(flat(SIZE, (16, 128, 128))), graphic()
    stripes = np.zeros(SIZE[::-1], np.uint8)
    stripes[:, ::8] = 255
    b._picture = change(b.read(0), planes=(stripes, stripes, stripes, b.read(0).planes[3]))
    looks = {}
    for matte in (None, False, True):
        shake = Shake((replace(whole, matte=matte),)) if matte is not None else None
        made = over(shot(Shake(), shutter=STILL), shake=shake)
        looks[matte] = render(resolve(made, (a.info, b.info)), 3, [a, b]).planes[0].astype(int)
    inside = (slice(60, 120), slice(130, 230))
    assert np.abs(looks[False][inside] - looks[None][inside]).mean() > 10
    assert np.abs(looks[True][inside] - looks[None][inside]).max() <= 2
    rim = (slice(130, 150), slice(120, 250))
    assert np.abs(looks[True][rim] - looks[None][rim]).max() > 15
    moving = shot(Shake((replace(whole, matte=True),)), shutter=STILL, edges="open")
    footage_alone = render(resolve(moving, a.info), 3, a).planes[0]
    np.testing.assert_array_equal(footage_alone, a.read(3).planes[0])  # opaque: it has no outline
