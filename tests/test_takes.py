"""Takes as strands: what stays untouched, what follows, what is learned, and the files they come in."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy.signal import welch
from scipy.stats import kurtosis

import truth
from young_tremor.base.errors import DocumentError
from young_tremor.engine.library import takes
from young_tremor.measure import drift_fit
from young_tremor.model.curve import Curve
from young_tremor.model.shake import Drift, DriftChannel, DriftChannels, Shake
from young_tremor.model.take import BEYOND_WORDS, Gains, Take, pack_rows
from young_tremor.motion import endless_take, sample, take

Y, ROLL, PAN = 1, 2, 4


def made(seconds: float = 4.0, fps: float = 24.0, *, seed: int = 3, focal: float | None = None, **more: object) -> Take:
    t = np.arange(round(seconds * fps)) / fps
    rows = truth.hand(t, size=12.0, seed=seed)
    table = np.zeros((len(t), 8))
    table[:, 0], table[:, 1:4], table[:, 4], table[:, 7] = t, rows[:, :3], np.exp(rows[:, 3]), 1
    return Take("t", "Aisle", 1920, 1080, pack_rows(table), str(fps), "aisle.mp4", focal, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize("beyond", [key for key, _ in BEYOND_WORDS])
@given(fade=st.floats(0.0, 3.0), start=st.floats(0.0, 1.0), seed=st.integers(1, 99))
@settings(max_examples=12, deadline=None)
def test_a_take_is_untouched_while_it_lasts_and_goes_on_without_a_step(
    beyond: str, fade: float, start: float, seed: int
) -> None:
    clip = made()
    strand = takes.learn_endless(replace(takes.strand_of(clip), beyond=beyond, fade=fade, start=start, seed=seed))
    t = clip.table()[:, 0]
    own = take.channels(clip)
    inside = t >= start
    np.testing.assert_allclose(take.sample(strand, t[inside] - start), own[inside], atol=1e-9)
    step = 1 / 960
    long = np.arange(-9.0, 16.0, step)
    moved = take.sample(strand, long)
    fast = np.abs(np.diff(take.sample(strand, np.arange(0, 4 - start - 1 / 24, step)), axis=0)).max(axis=0)
    jumps = np.abs(np.diff(moved, axis=0)).max(axis=0)
    # what follows may have to cross the distance between the take's ends within the fade
    cross = 1.6 * (np.ptp(own, axis=0)) / max(fade, 0.02) * step * 2
    assert (jumps <= 4 * fast + cross + 1e-9).all()
    if beyond == "rest":
        assert np.ptp(moved[-200:], axis=0).max() < 1e-3


def test_gains_direction_lens_and_pace() -> None:
    clip = made(focal=24.0)
    t = clip.table()[:, 0]
    plain = takes.strand_of(clip, by_angle=False)
    own = take.sample(plain, t)
    np.testing.assert_allclose(own[:, Y], clip.table()[:, 2] * 100 / 1080, atol=1e-9)
    opposed = take.sample(replace(plain, opposed=True), t)
    np.testing.assert_allclose(opposed, take.inverse(own))
    assert np.abs(opposed + own).max() < 0.02 * np.abs(own).max()
    mirrored = take.sample(replace(plain, mirrored=True), t)
    np.testing.assert_allclose(mirrored, own * (-1, 1, -1, 1, -1, 1))
    half = take.sample(replace(plain, gains=Gains(roll=0.5)), t)
    np.testing.assert_allclose(half[:, ROLL], own[:, ROLL] / 2)
    turned = take.sample(takes.strand_of(clip), t)
    assert not turned[:, :2].any()
    np.testing.assert_allclose(turned[:, PAN], np.degrees(np.arctan(clip.table()[:, 1] / (24 / 36 * 1920))), atol=1e-9)
    slow = Shake((replace(plain, offset=0.0),), pace=Curve(0.5))
    np.testing.assert_allclose(sample.sample(slow, 2 * t), own, atol=1e-9)
    moved = sample.sample(Shake((replace(plain, offset=0.5),)), t[:40])
    np.testing.assert_allclose(moved, own[12:52], atol=1e-9)


def test_the_slow_part_is_what_is_slower_than_the_cut_off() -> None:
    t = np.arange(0, 12, 1 / 24)
    table = np.zeros((len(t), 8))
    slow, quick = 90 * np.sin(2 * np.pi * 0.08 * t), 6 * np.sin(2 * np.pi * 1.9 * t)
    table[:, 0], table[:, 1], table[:, 4], table[:, 7] = t, slow + quick, 1, 1
    strand = replace(takes.strand_of(Take("s", "Pan", 1920, 1080, pack_rows(table))), cutoff=1.5)
    left = take.sample(strand, t)[:, 0] * 10.8
    inside = slice(24, -24)
    assert np.abs(left[inside] - quick[inside]).max() < 0.8
    whole, path = takes.paths(strand.take, 1.5)
    assert np.abs(path[inside, 0] - slow[inside] - path[0, 0] + slow[0]).max() < 4
    assert len(whole) == len(path)


def test_an_endless_drift_has_the_spectrum_and_the_play_of_channels_of_its_take() -> None:
    clip = made(20.0)
    found = drift_fit.endless(clip)
    own = take.channels(clip)[:, :4]
    t = np.arange(0, 240, 1 / 24)
    ours = [endless_take.sample(found, seed, t)[:, :4] for seed in (1, 2)]
    for moved in ours:
        np.testing.assert_allclose(moved.std(axis=0), (own - own.mean(axis=0)).std(axis=0), rtol=0.35)
    hz, there = welch(own - own.mean(axis=0), 24, nperseg=240, axis=0)
    _, here = welch(ours[0], 24, nperseg=240, axis=0)
    for low, high in ((0.2, 0.6), (0.6, 1.2), (1.5, 2.5), (3.5, 5.5), (7.5, 10)):
        band = (hz >= low) & (hz < high)
        assert (here[band].sum(axis=0) / there[band].sum(axis=0)) == pytest.approx(np.ones(4), rel=0.6)
    assert np.abs(np.corrcoef(ours[0][:2000, 0], ours[1][:2000, 0])[0, 1]) < 0.5
    together = np.zeros((len(own), 8))
    table = clip.table().copy()
    table[:, 3] = table[:, 1] / 30  # it rolls with every sway
    together = endless_take.sample(drift_fit.endless(replace(clip, rows=pack_rows(table))), 4, t)
    assert np.corrcoef(together[:, 0], together[:, ROLL])[0, 1] > 0.95


def test_corrections_of_framing_are_learned_as_such() -> None:
    rng = np.random.default_rng(5)
    t = np.arange(0, 40, 1 / 24)
    x = 1.2 * np.sin(2 * np.pi * 0.4 * t) + 0.5 * np.sin(2 * np.pi * 1.1 * t + 1)
    side = 1.0
    for at in np.arange(2, 38, 3.1):
        u = np.clip((t - at - rng.uniform(0, 1)) / 0.4, 0, 1)
        x += side * 30 * (u**3 * (10 - 15 * u + 6 * u**2))
        side = -side
    table = np.zeros((len(t), 8))
    table[:, 0], table[:, 1], table[:, 2], table[:, 4], table[:, 7] = t, x, 0.3 * x, 1, 1
    found = drift_fit.endless(Take("c", "Looks", 1920, 1080, pack_rows(table)))
    assert 8 <= len(found.steps) // 56 <= 13
    assert found.every == pytest.approx(3.1, rel=0.35)
    moved = endless_take.sample(found, 2, np.arange(0, 200, 1 / 24))[:, 0]
    assert kurtosis(np.diff(moved)) > 2 > kurtosis(np.diff(1.2 * np.sin(2 * np.pi * 0.4 * t)))
    assert moved.std() == pytest.approx((x * 100 / 1080).std(), rel=0.6)


def test_a_drift_is_matched_to_a_take() -> None:
    drift = Drift(
        "d",
        rate=Curve(1.1),
        roughness=0.4,
        seed=9,
        channels=DriftChannels(x=DriftChannel(1.2), y=DriftChannel(0.7), roll=DriftChannel(0.3)),
    )
    t = np.arange(0, 60, 1 / 48)
    x, y, roll, *_ = sample.sample(Shake((drift,)), t).T
    table = np.column_stack([t, x * 10.8, y * 10.8, roll, np.ones(len(t)), 0 * t, 0 * t, np.ones(len(t))])
    changes = takes.match_changes(
        replace(drift, roughness=0.0, rate=Curve(3.0)), Take("m", "M", 1920, 1080, pack_rows(table))
    )
    assert changes["rate"].value == pytest.approx(1.1, rel=0.2)
    assert changes["roughness"] == pytest.approx(0.4, abs=0.25)
    reach = changes["channels"]
    assert (reach.x.reach, reach.y.reach, reach.roll.reach) == pytest.approx((1.2, 0.7, 0.3), rel=0.25)
    assert reach.zoom.reach == pytest.approx(0, abs=1e-6)


def test_files_go_round_and_wrong_ones_say_the_line(tmp_path: Path) -> None:
    clip = made(focal=35.0)
    path = takes.write(clip, tmp_path / "aisle.csv")
    back = takes.read(path)
    np.testing.assert_allclose(back.table(), clip.table(), atol=1e-6)
    assert (back.width, back.height, back.fps, back.focal_mm, back.source) == (1920, 1080, "24.0", 35.0, "aisle.mp4")
    lines = path.read_text().splitlines()
    cases = (
        (lines[:5], "no motion"),
        ([*lines[:5], *lines[6:]], "line 6: the columns"),
        ([*lines[:9], "3,0.125,1,2"], "line 10: it has 4 values where 7 belong"),
        ([*lines[:9], lines[9].replace(lines[9].split(",")[2], "here")], "line 10: “here” in x_px"),
        ([*lines[:9], lines[8]], "line 10: its time is not later"),
        ([line for line in lines if "width" not in line], "does not say its width"),
        (["# width: wide", *lines[1:]], "line 1: “wide” is no width"),
        ([*lines[:9], "3,0.125,1,2,0,0,1"], "line 10: a scale"),
    )
    for content, words in cases:
        path.write_text("\n".join(content))
        with pytest.raises(DocumentError, match=words) as told:
            takes.read(path)
        assert "aisle.csv" in str(told.value)
    takes.keep(clip)
    (takes.folder() / "bad.json").write_text("{}")
    kept, bad = takes.library_takes()
    assert kept == (clip,)
    assert "bad.json" in bad[0]
    takes.forget(clip.id)
    assert not takes.library_takes()[0]
