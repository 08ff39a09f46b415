"""The kernels: the same bits as their definition at every level, whatever is asked; and what the definition says."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from young_tremor import kernels
from young_tremor.kernels import (
    KernelPiece,
    KernelRequest,
    Lattice,
    Trail,
    Window,
    blur_taps,
    colour_tables,
    fallback,
    native,
    reference,
)
from young_tremor.kernels import pieces as pieces_module
from young_tremor.kernels.request import BORDERS, WHOLE

compiled = pytest.mark.skipif(not native.level(), reason="no compiled kernels on this machine")


def looked(
    plane: np.ndarray,
    frame: tuple[int, int],
    scale: float,
    turn: float,
    bend: float,
    views: int,
    rng: np.random.Generator,
) -> KernelRequest:
    """A request whose views are scaled, turned and bent, each shifted by some pixels."""
    spacing, drop = int(rng.choice([8, 16])), int(rng.choice([8, 16, 40, 64]))
    left, top = -240, -drop * (-(-260 // drop))
    x, y = np.meshgrid(np.arange(left, frame[0] + 320, spacing), np.arange(top, frame[1] + 260 + 2 * drop, drop))
    c, s = scale * np.cos(turn), scale * np.sin(turn)
    waves = bend * np.sin(np.stack([x + y, x - y], axis=-1) / 40)
    nodes = [np.stack([c * x - s * y, s * x + c * y], axis=-1) + rng.normal(0, 8, 2) + waves for _ in range(views)]
    lattice = Lattice(np.array(nodes), left, top, spacing, drop)
    weights = kernels.shares(rng.dirichlet(np.full(views, 5.0)))
    return KernelRequest(plane, lattice, weights, (Trail(0, views),), frame, Window(0, 0, *frame))


def made_up(seed: int) -> KernelRequest:
    """Any request that a frame may come to: noise and extremes of all depths, every border, ways, ramps and smears."""
    rng = np.random.default_rng(seed)
    depth = int(rng.choice([8, 9, 10, 12, 16, 32]))
    height, width = int(rng.integers(1, 200)), int(rng.integers(1, 400))
    top = 1 << min(depth, 16)
    plane = (
        rng.integers(0, 2, (height, width)) * (top - 1) if rng.random() < 0.5 else rng.integers(0, top, (height, width))
    )
    dtype = np.uint8 if depth == 8 else np.float32 if depth == 32 else np.uint16
    frame = int(rng.integers(1, 400)), int(rng.integers(1, 200))
    scale = float(rng.choice([1 / 1.03, 0.08, 0.2, 0.35, 0.5, 0.65, 0.75, 1.02, 1.1, 0.85, 1.3, 2.0, -1.0]))
    turn = float(rng.choice([0, 0.01, 0.05, np.radians(5), 0.3, 3.0]))
    views = int(rng.integers(1, 6))
    request = looked(plane.astype(dtype), frame, scale, turn, float(rng.choice([0, 0.5, 6])), views, rng)
    cuts = sorted({0, views, int(rng.integers(0, views + 1))})
    trails = []
    for first, last in zip(cuts, cuts[1:], strict=False):
        way = (
            rng.normal(0, 6, (int(rng.integers(1, 4)), int(rng.integers(1, 4)), 1, 2)) * np.linspace(-1, 1, 5)[:, None]
        )
        ramps = rng.random(2) * 0.5
        drawn = Trail(first, last - first, way, float(ramps[0]), float(ramps[1]), bool(rng.random() < 0.5))
        trails.append(drawn if rng.random() < 0.5 else Trail(first, last - first, smeared=bool(rng.random() < 0.5)))
    smear = rng.normal(0, 6, (1, 2)) * np.linspace(-1, 1, 5)[:, None] if rng.random() < 0.3 else None
    left, up = int(rng.integers(0, frame[0])), int(rng.integers(0, frame[1]))
    window = Window(left, up, int(rng.integers(1, frame[0] - left + 1)), int(rng.integers(1, frame[1] - up + 1)))
    return replace(
        request,
        trails=tuple(trails),
        window=window,
        smear=smear,
        depth=min(depth, 16),
        border=BORDERS[int(rng.integers(0, 4))],
        raw=bool(rng.random() < 0.3),
        dither=bool(depth == 8 and rng.random() < 0.5),
    )


@compiled
@settings(deadline=None, max_examples=60)
@given(seed=st.integers(0, 10**9))
def test_every_level_gives_the_bits_of_the_definition(seed: int) -> None:
    request = made_up(seed)
    wanted = reference.mean(request)
    for level in native.levels():
        made, _ = native.mean(request, level)
        assert made.dtype == wanted.dtype
        np.testing.assert_array_equal(made, wanted)


@compiled
@settings(deadline=None, max_examples=40)
@given(seed=st.integers(0, 10**9))
def test_colours_give_the_bits_of_the_definition(seed: int) -> None:
    """Through any tables, also past their ends, with and without each step; in threads side by side."""
    rng = np.random.default_rng(seed)

    def table(*, rising: bool = True) -> np.ndarray:
        values = rng.uniform(0, 2, 65536).astype(np.float32)
        return np.sort(values) if rising else values

    def perhaps() -> np.ndarray | None:
        return table(rising=False) if rng.random() < 0.5 else None

    matrix = (np.eye(3) + rng.normal(0, 0.4, (3, 3))).astype(np.float32)
    weights = rng.dirichlet((2, 4, 1)).astype(np.float32)
    top = float(rng.uniform(0.3, 2))
    scales = rng.uniform(0.3, 1.5, 4) * 65535
    tables = kernels.ColourTables(
        *(
            table(),
            scales[0],
            matrix,
            weights,
            top,
            -1e-7 * top,
            1.0001 * top,
            table(),
            scales[1],
            weights[::-1].copy(),
        ),
        system=perhaps(),
        ratio=perhaps(),
        ratio_scale=scales[2],
        back=perhaps(),
        back_scale=scales[3],
    )
    pixels = rng.uniform(-0.2, 1.4, (24, 17, 3)).astype(np.float32)
    true = pixels.copy()
    colour_tables.convert(true, tables)
    with ThreadPoolExecutor(2) as pool:
        for part in (pixels[:11], pixels[11:]):
            pool.submit(kernels.convert_colours, part, tables)
    np.testing.assert_array_equal(pixels, true)


@compiled
@settings(deadline=None, max_examples=60)
@given(seed=st.integers(0, 10**9), value=st.integers(0, 255), views=st.integers(1, 200))
def test_an_even_picture_stays_what_it_is_whatever_is_averaged(seed: int, value: int, views: int) -> None:
    rng = np.random.default_rng(seed)
    depth = int(rng.choice([8, 10, 16]))
    dtype = np.uint8 if depth == 8 else np.uint16
    plane = np.full((40, 60), value << (depth - 8), dtype)
    request = looked(plane, (48, 32), 1.01, 0.02, 0.0, views, rng)
    cut = int(rng.integers(0, views))
    way = rng.normal(0, 4, (1, 1, 1, 2)) * np.linspace(-1, 1, 5)[:, None]
    trails = (Trail(0, cut), Trail(cut, views - cut, way, 0.2, 0.2, bool(rng.random() < 0.5)))
    smear = way[0, 0] if rng.random() < 0.5 else None
    made = kernels.mean_views(replace(request, trails=trails[cut == 0 :], depth=depth, border="hold", smear=smear))
    np.testing.assert_array_equal(made, plane[0, 0])


@compiled
def test_blends_and_sums_give_the_bits_of_the_definition_also_in_threads() -> None:
    rng = np.random.default_rng(2)
    for width in (1, 15, 16, 17, 333):
        below, above = rng.integers(-12000, 12000, (2, 5, width)).astype(np.int16)
        alpha = rng.integers(-500, 9000, (5, width)).astype(np.int16)
        alpha[0], alpha[1] = kernels.ONE, 0
        for level in native.levels():
            made = below.copy()
            native.over(made, above, alpha, level)
            np.testing.assert_array_equal(made, reference.over(below, above, alpha))
            made = below.copy()
            native.mix(made, above, 3000, level)
            mixed = below.copy()
            reference.mix(mixed, above, 3000)
            np.testing.assert_array_equal(made, mixed)
        np.testing.assert_array_equal(made[0:0], below[0:0])
        covered = below.copy()
        kernels.over(covered, above, alpha)
        np.testing.assert_array_equal(covered[0], above[0])  # all covered
        np.testing.assert_array_equal(covered[1], below[1] + above[1])  # nothing is covered
    request = made_up(77)
    with ThreadPoolExecutor(8) as pool:
        every = list(pool.map(lambda _: kernels.mean_views(request), range(24)))
    assert all(np.array_equal(each, every[0]) for each in every)


@compiled
@settings(deadline=None, max_examples=20)
@given(seed=st.integers(0, 10**9))
def test_pieces_laid_in_one_call_are_views_laid_over_each_other(seed: int) -> None:
    rng = np.random.default_rng(seed)
    real, canvas_size, pieces = rng.random() < 0.3, (int(rng.integers(40, 400)), int(rng.integers(30, 200))), []
    for _ in range(int(rng.integers(1, 6))):
        frame = int(rng.integers(1, canvas_size[0])), int(rng.integers(1, canvas_size[1]))
        left, top = (int(rng.integers(0, whole - part)) for whole, part in zip(canvas_size, frame, strict=True))
        shape = (3, int(rng.integers(1, 90)), int(rng.integers(1, 120)))
        alpha = rng.integers(0, 2, shape) * kernels.ONE if rng.random() < 0.5 else rng.integers(0, 8193, shape)
        planes = (alpha / kernels.ONE).astype(np.float32) if real else alpha.astype(np.int16)
        scale, turn = float(rng.choice([0.5, 0.97, 1.1, 2.0])), float(rng.choice([0, 0.03, 0.8]))
        lattice = looked(planes[0], frame, scale, turn, float(rng.choice([0, 4])), 2, rng).lattice
        window = Window(left + 100, top + 50, *frame)
        pieces.append(KernelPiece(tuple(planes), lattice, window, float(rng.choice([1.0, 0.37]))))
    below = rng.integers(0, 8000, (3, canvas_size[1], canvas_size[0]))
    below = (below / kernels.ONE).astype(np.float32) if real else below.astype(np.int16)
    wanted = below.copy()
    pieces_module.lay(pieces, 1, list(wanted), (100, 50))
    for level in native.levels():
        made = below.copy()
        native.NativeLayers(pieces).lay(1, list(made), (100, 50), level)
        np.testing.assert_array_equal(made, wanted)
    with pytest.raises(ValueError, match="outside"):
        kernels.Pieces(pieces).lay(1, list(below), (101 + pieces[0].window.left - 100, 50))


def test_a_view_of_whole_pixels_is_the_picture_and_flat_fields_stay_flat() -> None:
    rng = np.random.default_rng(4)
    for depth, dtype in ((8, np.uint8), (10, np.uint16), (16, np.uint16)):
        plane = rng.integers(0, 1 << depth, (70, 90)).astype(dtype)
        request = replace(looked(plane, (90, 70), 1.0, 0.0, 0.0, 1, rng), depth=depth, border="repeat")
        nodes = np.rint(request.lattice.nodes)
        here = (nodes - nodes[:, :1, :1])[0, 0, 0] + nodes[0, 0, 0] - (request.lattice.left, request.lattice.top)
        made = kernels.mean_views(replace(request, lattice=replace(request.lattice, nodes=nodes)))
        np.testing.assert_array_equal(made, np.roll(plane, (-int(here[1]), -int(here[0])), axis=(0, 1)))
        flat = np.full((70, 90), 5 << (depth - 4), dtype)
        for views in (1, 3, 13):
            way = np.ones((1, 1, 9, 2)) * np.linspace(-9.3, 9.1, 9)[:, None]
            for trail in (Trail(0, views), Trail(0, views, way, 0.3, 0.2)):
                request = replace(looked(flat, (90, 70), 0.93, 0.02, 0.0, views, rng), depth=depth, trails=(trail,))
                np.testing.assert_array_equal(kernels.mean_views(request), flat)


@compiled
def test_planes_of_half_as_many_samples_are_those_of_the_definition() -> None:
    rng = np.random.default_rng(9)
    for rows, columns in ((2, 2), (4, 2), (2, 6), (40, 62), (66, 130)):
        plane = rng.integers(-16000, 16001, (rows, columns + 3)).astype(np.int16)[:, 3:]
        for level in native.levels():
            np.testing.assert_array_equal(native.halve(plane, level), reference.halve(plane))


@compiled
def test_each_tile_is_tried_and_what_dense_blocks_cannot_do_goes_pixel_by_pixel() -> None:
    rng = np.random.default_rng(5)
    x, y = np.meshgrid(np.arange(1100), np.arange(1100))
    plane = (128 + 90 * np.sin(x / 9) * np.cos(y / 11)).astype(np.float32)
    for scale, turn, dense in (
        (1.0, np.radians(5), True),
        (0.97, 0.0, True),
        (0.4, 0.05, True),
        (0.14, 0.0, True),
        (0.08, 0.0, False),
        (2.0, 0.0, False),
        (1.0, 2.0, False),
    ):
        request = looked(plane, (500, 300), scale, turn, 0.0, 1, rng)
        request = replace(request, lattice=replace(request.lattice, nodes=request.lattice.nodes + 420))
        made, gathered = native.mean(request)
        assert (gathered == 0) == dense, (scale, turn)
        places = request.lattice.places(0, request.window)
        true = 128 + 90 * np.sin(places[..., 0] / 9) * np.cos(places[..., 1] / 11)
        inside = ((places > 4) & (places < 1095)).all(axis=-1)
        assert np.abs(made - true)[inside].max() < 0.05, (scale, turn)


def test_taps_have_the_middle_and_the_spread_of_their_way() -> None:
    for angle in (0.0, 0.4, 1.1):
        for length in (0.7, 3.0, 17.0):
            way = np.linspace(-0.5, 0.5, 9)[:, None] * length * np.array([np.cos(angle), np.sin(angle)])
            made = blur_taps.draw(way, 0.0, 0.0)
            assert int(made.shares.astype(int).sum()) == WHOLE
            along = made.dx * np.cos(angle) + made.dy * np.sin(angle)
            spread = float((made.parts * along**2).sum())
            assert float((made.parts * along).sum()) == pytest.approx(0.0, abs=0.01)
            assert np.sqrt(12 * spread) == pytest.approx(length, rel=0.02, abs=0.05)


@compiled
def test_the_stand_ins_look_alike_and_are_taken_where_there_is_no_library() -> None:
    rng = np.random.default_rng(6)
    x, y = np.meshgrid(np.arange(320), np.arange(200))
    plane = (128 + 60 * np.sin(x / 5) * np.cos(y / 7)).astype(np.uint8)
    for seed in range(6):
        way = rng.normal(0, 4, (1, 1, 1, 2)) * np.linspace(-1, 1, 9)[:, None]
        request = looked(plane, (300, 180), 0.96, 0.01, 0.3, 3, rng)
        request = replace(request, trails=(Trail(0, 1, smeared=True), Trail(1, 2, way, 0.2, 0.3)), border="mirror")
        request = replace(request, smear=way[0, 0] if seed % 2 else None)
        off = fallback.mean(request).astype(int) - native.mean(request)[0]
        assert np.abs(off).max() <= 4
    code = "from young_tremor import kernels; print(kernels.describe())"
    for value, words in (("off", "stand-ins"), ("v2", "v2"), ("v3", "v3" if native.level() > 2 else "v2")):
        if native.level() == 1 and value != "off":
            continue
        env = {**os.environ, native.VARIABLE: value}
        said = subprocess.run([sys.executable, "-c", code], env=env, capture_output=True, text=True, check=True).stdout
        assert words in said


CROSS = shutil.which("aarch64-linux-gnu-gcc"), shutil.which("qemu-aarch64-static")


@compiled
@pytest.mark.skipif(not all(CROSS), reason="no compiler and no emulator for ARM64")
def test_arm64_gives_the_same_bits(tmp_path: Path) -> None:
    """The same source compiled for another processor, run by an emulator."""
    native_code, program = Path(native.__file__).with_name("native"), tmp_path / "kernels"
    flags = ("-std=gnu11", "-O2", "-fwrapv", "-ffp-contract=off", "-static", "-Wno-psabi", f"-I{native_code}")
    sources = (Path(__file__).with_name("kernels_main.c"), native_code / "kernels.c")
    subprocess.run([str(CROSS[0]), *flags, *map(str, sources), "-lm", "-o", str(program)], check=True, timeout=120)
    given, wanted = bytearray(), bytearray()
    for seed in range(40):
        job, out, (plane, nodes, weights, trails, ways, smear) = native.job_of(made_up(seed))
        plane = np.ascontiguousarray(plane)
        job.source.pitch = plane.strides[0]
        given += bytes(job) + plane.tobytes() + nodes.tobytes() + weights.tobytes() + bytes(trails)
        given += b"".join(way.tobytes() for way in ways if way is not None)
        given += b"" if smear is None else smear.tobytes()
        wanted += native.mean(made_up(seed))[0].tobytes()
        assert out.flags.c_contiguous
    done = subprocess.run(
        [str(CROSS[1]), str(program)], input=bytes(given), capture_output=True, check=True, timeout=300
    )
    assert done.stdout == bytes(wanted)


@compiled
def test_a_lattice_that_is_too_small_is_refused() -> None:
    request = looked(np.zeros((50, 50), np.uint8), (400, 200), 1.0, 0.0, 0.0, 1, np.random.default_rng(1))
    cut = replace(request.lattice, nodes=request.lattice.nodes[:, :, :8])
    far = Trail(0, 1, np.full((1, 1, 2, 2), 5000.0))
    for bad in (
        replace(request, lattice=cut),
        replace(request, trails=(far,)),
        replace(request, window=Window(0, 0, 999, 9)),
    ):
        with pytest.raises(ValueError, match="lattice"):
            native.mean(bad)
