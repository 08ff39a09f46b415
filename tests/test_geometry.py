"""Matrices and the crop, against brute force."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from young_tremor import kernels
from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.base.pixels import PixelFormat
from young_tremor.geometry import camera, cover
from young_tremor.render import lattices, plane_matrix

ASPECT = 16 / 9
FRAME = cover.Rect(-ASPECT / 2, -0.5, ASPECT / 2, 0.5)
channels = st.tuples(
    st.floats(-4, 4), st.floats(-4, 4), st.floats(-8, 8), st.floats(-4, 4), st.floats(-3, 3), st.floats(-3, 3)
)


def inside(z: float, shake: np.ndarray, unplace: np.ndarray, source: cover.Rect) -> bool:
    """Whether every one of many points of the frame is inside the source, found point by point."""
    along = np.linspace(-0.5, 0.5, 41)
    edge = np.concatenate(
        [np.column_stack([along * ASPECT, np.full(41, side)]) for side in (-0.5, 0.5)]
        + [np.column_stack([np.full(41, side * ASPECT), along]) for side in (-0.5, 0.5)]
    )
    back = unplace @ np.linalg.inv(camera.crop(z)) @ np.linalg.inv(shake)
    p = camera.apply(back[None], edge)[0]
    e = 1e-9
    return bool(
        np.all(p[:, 0] >= source.left - e)
        and np.all(p[:, 0] <= source.right + e)
        and np.all(p[:, 1] >= source.top - e)
        and np.all(p[:, 1] <= source.bottom + e)
    )


def need(shakes: np.ndarray, unplace: np.ndarray | None = None, b: np.ndarray | None = None) -> float:
    """The least z of the one sample given."""
    sides = cover.sides(FRAME, unplace)
    return float(cover.needs(cover.reaches(camera.apply(np.linalg.inv(shakes), FRAME.corners()), sides), sides, b)[0])


@settings(deadline=None, max_examples=200)
@given(values=channels, focal=st.floats(0.5, 5), turn=st.floats(-5, 5), size=st.floats(0.8, 1.5))
def test_the_need_is_the_least_crop_that_covers(values, focal: float, turn: float, size: float) -> None:  # type: ignore[no-untyped-def]
    shakes = camera.shake(np.array([values]), focal)
    unplace = np.linalg.inv(camera.placement(0.01, -0.02, size, turn))
    z = need(shakes, unplace)
    assert math.isfinite(z)
    assert inside(z, shakes[0], unplace, FRAME)
    assert not inside(z * 0.999, shakes[0], unplace, FRAME)


def test_what_no_crop_can_cover_is_said() -> None:
    behind = camera.shake(np.array([[0, 0, 0, 0, 120.0, 0]]), 1.0)
    assert need(behind) == np.inf
    with pytest.raises(RequestError, match="No crop can cover this motion"):
        cover.steady(np.array([np.inf]))
    away = np.linalg.inv(camera.placement(2.0, 0, 1, 0))
    assert need(np.eye(3)[None], away) == np.inf
    assert cover.steady(np.zeros(0)) == 1.0
    assert cover.steady(np.array([0.4, 0.9])) == 1.0
    for bad in (0.0, -5.0, math.nan, math.inf):
        with pytest.raises(UnreadableValue, match="focal length"):
            camera.focal(bad, ASPECT)


@settings(deadline=None, max_examples=100)
@given(values=channels, focal=st.floats(0.5, 5))
def test_channels_mean_what_the_design_says(values, focal: float) -> None:  # type: ignore[no-untyped-def]
    x, y, roll, zoom, pan, tilt = values
    plain = camera.shake(np.array([[x, y, roll, zoom, 0, 0]]), focal)
    moved = camera.apply(plain, np.array([[0.0, 0.0], [1.0, 0.0]]))[0]
    assert moved[0] == pytest.approx((x / 100, y / 100))
    arm = moved[1] - moved[0]
    assert np.hypot(*arm) == pytest.approx(math.exp(zoom / 100))
    assert math.degrees(math.atan2(arm[1], arm[0])) == pytest.approx(roll, abs=1e-9)
    whole = camera.shake(np.array([values]), focal)[0]
    lens = camera.lens(np.array([pan]), np.array([tilt]), focal)[0]
    np.testing.assert_allclose(whole, lens @ plain[0], atol=1e-12)
    np.testing.assert_allclose(np.linalg.det(lens), 1.0)
    still = camera.shake(np.zeros((1, 6)), focal)[0]
    np.testing.assert_array_equal(still, np.eye(3))


@pytest.mark.parametrize(
    ("source", "aspect", "frame", "frame_aspect", "scale"),
    [
        ((1920, 1080), 1.0, (1920, 1080), 1.0, 1.0),
        ((3840, 2160), 1.0, (1920, 1080), 1.0, 0.5),
        ((1440, 1080), 4 / 3, (1920, 1080), 1.0, 1.0),
        ((1080, 1920), 1.0, (1920, 1080), 1.0, 1920 / 1080),
        ((720, 576), 16 / 15, (1024, 576), 1.0, 1024 / 768),
    ],
)
def test_footage_fills_the_frame(source, aspect: float, frame, frame_aspect: float, scale: float) -> None:  # type: ignore[no-untyped-def]
    fit = camera.fit(source, aspect, frame, frame_aspect)
    assert camera.fit_scale(source, aspect, frame, frame_aspect) == pytest.approx(scale)
    width, height = source
    corners = np.array([[-0.5, -0.5], [width - 0.5, height - 0.5]])
    placed = camera.apply(fit[None], corners)[0]
    wide = frame[0] * frame_aspect / frame[1]
    assert placed[0, 0] <= -wide / 2 + 1e-9
    assert placed[0, 1] <= -0.5 + 1e-9
    np.testing.assert_allclose(placed.sum(axis=0), 0, atol=1e-12)
    touching = np.isclose(placed[1], (wide / 2, 0.5))
    assert touching.any()
    to_pixels = camera.pixels(frame, frame_aspect)
    middle = camera.apply(to_pixels[None], np.zeros((1, 2)))[0, 0]
    assert middle == pytest.approx(((frame[0] - 1) / 2, (frame[1] - 1) / 2))


@pytest.mark.parametrize(
    ("step", "siting"), [((1, 1), (0.0, 0.0)), ((2, 1), (0.0, 0.0)), ((2, 2), (0.0, 0.5)), ((2, 2), (0.5, 0.5))]
)
def test_chroma_moves_with_its_luma(step: tuple[int, int], siting: tuple[float, float]) -> None:
    """A shift by whole chroma samples moves both planes by the same way on screen, whatever the siting."""
    format = PixelFormat("x", 8, "yuv", step, siting)
    size = (64, 48)
    gone = np.array([[1.0, 0, 4.0], [0, 1.0, -2.0 * step[1]], [0, 0, 1.0]])
    rng = np.random.default_rng(4)
    for plane in (0, 1):
        picture = rng.integers(0, 255, format.plane_size(plane, size)[::-1]).astype(np.uint8)
        matrix = plane_matrix.plane_matrix(gone, plane, format, format)
        frame = picture.shape[::-1]
        lattice = lattices.of_matrices(matrix[None, None], (0.0, 0.0), frame, (0, 0))
        window = kernels.Window(0, 0, *frame)
        once = kernels.even_weights(1), (kernels.Trail(0, 1),)
        moved = kernels.mean_views(kernels.KernelRequest(picture, lattice, *once, frame, window, border="repeat"))
        sx, sy = format.plane_step(plane)
        expected = np.roll(picture, (2 * step[1] // sy, -4 // sx), axis=(0, 1))
        np.testing.assert_array_equal(moved, expected)
    place = plane_matrix.plane_matrix(np.eye(3), 1, format, format, (0.5, 0.5)) @ np.array([3.0, 5.0, 1.0])
    luma = np.array([siting[0] + 3 * step[0], siting[1] + 5 * step[1]])
    small = 0.5 * (luma + 0.5) - 0.5
    np.testing.assert_allclose(place[:2], (small - siting) / step)


def test_identity_is_told_from_nearly() -> None:
    assert plane_matrix.is_identity(np.eye(3), (1920, 1080))
    near = np.eye(3)
    near[0, 0] += 1e-8
    assert not plane_matrix.is_identity(near, (1920, 1080))
    assert plane_matrix.is_identity(near, (8, 8))


@settings(deadline=None, max_examples=60)
@given(values=st.lists(channels, min_size=1, max_size=12), size=st.floats(0.95, 1.4), seed=st.integers(0, 99))
def test_recentring_needs_the_least_crop_of_all_shifts(values, size: float, seed: int) -> None:  # type: ignore[no-untyped-def]
    shakes = camera.shake(np.array(values), 1.6)
    sides = cover.sides(FRAME, np.linalg.inv(camera.placement(0.01, -0.02, size, 2.0)))
    far = cover.reaches(camera.apply(np.linalg.inv(shakes), FRAME.corners()), sides)
    z, b = cover.recentred_crop([far], [sides], np.ones(len(far)))
    found = max(1.0, float(cover.needs(far, sides, b).max()))
    assert found == pytest.approx(z, abs=1e-7)
    around = np.random.default_rng(seed).normal(scale=0.02, size=(40, 2))
    for other in (np.zeros(2), *(b + around)):
        assert max(1.0, float(cover.needs(far, sides, other).max())) >= z - 1e-7


@settings(deadline=None, max_examples=60)
@given(needs=st.lists(st.floats(0.9, 1.3), min_size=3, max_size=80), still=st.integers(30, 60), frames=st.floats(0, 24))
def test_a_crop_as_needed_is_smooth_never_under_the_need_and_gone_when_still(needs, still: int, frames: float) -> None:  # type: ignore[no-untyped-def]
    need = np.concatenate([np.ones(still), needs, np.ones(still)])
    z = cover.following(need, frames)
    assert (z >= need - 1e-12).all()
    assert z.max() <= max(need.max(), 1) + 1e-12
    half = max(round(frames / 2), 1)
    assert (z[: still - 2 * half] == 1).all()
    assert (z[still + len(needs) + 2 * half :] == 1).all()
    quickest = 4.0 * (need.max() - 1) / max(half, 1)
    assert np.abs(np.diff(z)).max() <= quickest + 0.31 * (half == 1) + 1e-9
