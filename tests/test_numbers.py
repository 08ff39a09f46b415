"""Numbers that mean what they say: wander, rests, rattle, keyed rates, gaps, the opposed move, reach in a shot."""

from __future__ import annotations

import itertools
import json
import re
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from young_tremor.document import store
from young_tremor.engine.analysis import motion_figures, traces
from young_tremor.engine.library import preset_library
from young_tremor.geometry import camera
from young_tremor.measure import drift_fit
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Media, Plate, Preset, Shot
from young_tremor.model.shake import (
    CHANNELS,
    Corrections,
    Drift,
    DriftChannel,
    DriftChannels,
    Hit,
    Jolts,
    Rests,
    Shake,
    Wander,
)
from young_tremor.model.take import Take, pack_rows
from young_tremor.motion import corrections, drift, endless_take, jolts, rests, sample, take

DATA = Path(__file__).parent / "data"


def one(**given: object) -> Drift:
    return Drift("d", channels=DriftChannels(x=DriftChannel(1.0), y=DriftChannel(0.5)), **given)  # type: ignore[arg-type]


@pytest.mark.parametrize(("depth", "regularity"), list(itertools.product((0.3, 0.8, 1.0), (0.0, 0.8))))
def test_wander_keeps_the_reach_and_is_bounded(depth: float, regularity: float) -> None:
    t = np.linspace(0, 4000, 160_001)
    value = drift.sample(one(rate=Curve(0.8), regularity=regularity, wander=Wander(depth, 0.1)), t)[:, 0]
    assert np.quantile(np.abs(value), 0.95) == pytest.approx(1.0, abs=0.05)
    assert np.abs(value).max() < 2.7 * np.exp(0.6 * depth)
    sizes = [np.abs(each).max() for each in np.array_split(value, 400)]
    assert np.std(sizes) > 0.12 * np.mean(sizes)


@pytest.mark.parametrize(("share", "hold"), [(0.1, 0.5), (0.5, 1.2), (0.8, 3.0), (0.95, 1.0)])
def test_rests_are_really_still_for_their_share(share: float, hold: float) -> None:
    t = np.linspace(0, 3000, 600_001)
    still = np.diff(rests.warp_clock(t, share, hold, 5)) < 1e-9
    assert still.mean() == pytest.approx(share, abs=0.02)
    value = drift.sample(one(rests=Rests(share, hold)), np.linspace(0, 120, 24_001))[:, 0]
    assert np.abs(np.diff(value)).max() < 0.05  # it comes to rest and goes on smoothly


def test_a_keyed_rate_has_its_crossings_whatever_the_curve_starts_from() -> None:
    rate = Curve(0.0, (Key(0.0, 1.0), Key(30.0, 3.0, "linear"), Key(60.0, 2.0)))
    t = np.linspace(0, 60, 30_001)
    counts = []
    for seed in range(16):
        value = drift.sample(one(rate=rate, roughness=0.4, seed=seed), t)[:, 0]
        counts.append(np.sum((value[:-1] < 0) & (value[1:] >= 0)))
    assert np.mean(counts) == pytest.approx(float(rate.integral(np.array([60.0]))[0]), rel=0.05)


def test_ten_minutes_do_not_resemble_each_other() -> None:
    t = np.arange(0, 600, 0.02)
    for seed in range(4):
        value = drift.sample(one(rate=Curve(0.6), roughness=0.2, seed=seed), t)[:, 0]
        spectrum = np.abs(np.fft.rfft(value - value.mean(), 2 * len(value))) ** 2
        alike = np.fft.irfft(spectrum)[: len(value)] / np.arange(len(value), 0, -1)
        assert np.abs(alike[500 : len(value) // 2] / alike[0]).max() < 0.25


@settings(deadline=None, max_examples=40)
@given(
    rattle=st.floats(0, 1),
    ring=st.floats(2, 20),
    settle=st.floats(0.05, 1),
    rise=st.floats(0.002, 0.15),
    phase=st.sampled_from([0.0, 60.0, 90.0]),
    seed=st.integers(0, 10**6),
)
def test_the_push_comes_first_and_the_largest_swing_goes_the_named_way(rattle, ring, settle, rise, phase, seed) -> None:  # type: ignore[no-untyped-def]
    strand = Jolts("j", rattle=rattle, ring=ring, settle=settle, rise=rise, phase=phase, seed=seed, direction=0.0)
    u = np.arange(1, 8001) / 4000
    x = jolts.sample(strand, (Hit(f"h{seed}", 0.0),), u)[:, 0]
    assert x.max() == pytest.approx(strand.reach, rel=0.02)
    assert x.min() > -1.001 * strand.reach
    if phase == 0 and rise < 0.05 / ring:  # a slower push is less than the swing that follows it
        assert x[u < 0.45 / ring].min() > 0


def test_opposed_is_the_inverse_of_the_move() -> None:
    rng = np.random.default_rng(4)
    for sizes in ((8, 8, 60, 40, 0, 0), (0, 0, 60, 0, 15, 15)):
        moved = rng.normal(size=(50, 6)) * sizes
        both = camera.shake(moved, 1.3) @ camera.shake(take.inverse(moved), 1.3)
        np.testing.assert_allclose(both / both[:, 2:, 2:], np.broadcast_to(np.eye(3), both.shape), atol=1e-9)
    small = rng.normal(size=(50, 6)) * (1, 1, 1, 1, 0.3, 0.3)
    both = camera.shake(small, 1.3) @ camera.shake(take.inverse(small), 1.3)
    assert np.abs(both / both[:, 2:, 2:] - np.eye(3)).max() < 1e-3


def test_reach_holds_in_a_short_shot_and_seeds_still_differ() -> None:
    t = (np.arange(2000) + 0.5) / 200
    courses = []
    for seed in range(12):
        shake = Shake((one(rate=Curve(0.4), seed=seed, holds=10.0),))
        value = sample.sample(shake, t)[:, 0]
        assert np.quantile(np.abs(value), 0.95) == pytest.approx(1.0, abs=0.02)
        courses.append(value)
    assert np.abs(np.corrcoef(courses) - np.eye(12)).max() < 0.97
    free = [
        np.quantile(np.abs(sample.sample(Shake((one(rate=Curve(0.4), seed=s),)), t)[:, 0]), 0.95) for s in range(12)
    ]
    assert np.std(free) > 0.08
    shot = Shot("s", "s", (Plate("p", "p", Media("press.mp4")),), shake=Shake((one(rate=Curve(0.4), seed=5),)))
    least, most = traces.size_here(shot, shot.shake.strands[0], 10.0)  # type: ignore[arg-type]
    own = np.quantile(np.abs(sample.sample(shot.shake, t)), 0.95, axis=0)
    moving = own[own > 0] / [c.reach for c in map(shot.shake.strands[0].channels.__getitem__, CHANNELS) if c.reach]  # type: ignore[union-attr]
    assert (least, most) == pytest.approx(
        (moving.min(), moving.max()), abs=0.02
    )  # what the panel says beside the number


def test_a_held_intensity_eases_over_a_frame_and_a_hard_one_jumps() -> None:
    t = np.linspace(0.9, 1.2, 3001)
    for ease, most in (("hold", 0.01), ("hard", 0.99)):
        keys = (Key(0.0, 0.0, ease), Key(1.0, 1.0, ease), Key(2.0, 0.5, ease))  # type: ignore[arg-type]
        level = sample.intensity(Shake(intensity=Curve(1.0, keys)), t)
        assert level[0] == 0
        assert level[-1] == 1
        assert (np.abs(np.diff(level)).max() > 0.9) == (most > 0.9)
        assert np.abs(np.diff(level)).max() < most + 0.02


def filmed(t: np.ndarray, x: np.ndarray, y: np.ndarray) -> Take:
    rows = np.column_stack([t, x, y, np.zeros(len(t)), np.ones(len(t)), np.zeros((len(t), 2)), np.ones(len(t))])
    return Take("t", "Take", 1080, 1080, pack_rows(rows))


def test_a_gap_in_a_take_is_bridged_without_overshoot_and_said() -> None:
    t = np.arange(0, 12, 1 / 24)
    x = 20 * np.sin(2 * np.pi * 0.7 * t) + 4 * np.sin(2 * np.pi * 3.1 * t)
    for long in (1.0, 3.0):
        keep = (t < 4) | (t > 4 + long)
        there = t[keep]
        spline = take.through(there, x[keep][:, None])
        inside = np.linspace(4, 4 + long, 200)
        assert np.abs(spline(inside)).max() <= 1.25 * np.abs(x).max()
        np.testing.assert_allclose(spline(there)[:, 0], x[keep], atol=1e-6)
        found = take.gaps(there)
        assert len(found) == 1
        assert found[0, 0] <= 4 <= found[0, 1] - long + 0.1
    assert len(take.gaps(np.delete(t, [50, 51]))) == 0


def test_an_endless_drift_has_its_take_s_size_and_spectrum_and_no_corrections_it_never_had() -> None:
    t = np.arange(0, 60, 1 / 24)
    rng = np.random.default_rng(8)
    hand = np.zeros((len(t), 2))
    for hz in np.geomspace(0.1, 6, 60):
        hand += 8 / hz**0.9 * rng.normal(size=2) * np.sin(2 * np.pi * (hz * t[:, None] + rng.uniform(size=2)))
    found = drift_fit.endless(filmed(t, hand[:, 0], hand[:, 1]))
    assert not found.steps
    values = [endless_take.sample(found, seed, np.arange(0, 240, 1 / 24))[:, :2] * 10.8 for seed in range(4)]
    own = hand - hand.mean(axis=0)
    np.testing.assert_allclose(np.mean([v.std(axis=0) for v in values], axis=0), own.std(axis=0), rtol=0.12)
    together = [float(np.asarray(np.corrcoef(each.T)).ravel()[1]) for each in (np.concatenate(values), own)]
    assert abs(together[0] - together[1]) < 0.25

    def power(each: np.ndarray, low: float, high: float) -> np.ndarray:
        hz = np.fft.rfftfreq(len(each), 1 / 24)
        lines = np.abs(np.fft.rfft(each * np.hanning(len(each))[:, None], axis=0)) ** 2 / len(each) ** 2
        return np.asarray(lines[(hz >= low) & (hz < high)].sum(axis=0))

    for low, high in ((0.3, 1.0), (1.0, 2.5), (2.5, 6.0)):
        like = np.mean([power(v, low, high) for v in values], axis=0) / power(own, low, high)
        assert np.abs(10 * np.log10(like)).max() < 1.5
    planted = hand * 0.1
    for k, start in enumerate((8.0, 19.0, 33.0, 47.0)):
        u = np.clip((t - start) / 0.5, 0, 1)
        planted[:, 0] += (-1) ** k * 45 * u**3 * (10 - 15 * u + 6 * u**2)
    steps = drift_fit.endless(filmed(t, planted[:, 0], planted[:, 1])).steps
    rows = np.asarray(np.frombuffer(steps, "<f8")).reshape(-1, 7)
    assert 3 <= len(rows) <= 6
    assert np.median(np.abs(rows[:, 1])) == pytest.approx(45 / 10.8, rel=0.2)


def test_corrections_move_the_framing_now_and_then_and_calm_the_hand() -> None:
    strand = one(rate=Curve(0.5), corrections=Corrections(2.0, 20.0, 0.5))
    t = np.arange(0, 300, 1 / 60)
    added, left = corrections.sample(strand, t)
    speed = np.abs(np.diff(added[:, 0])) + np.abs(np.diff(added[:, 1]))
    moving = speed > 1e-9
    starts = np.sum(moving[1:] & ~moving[:-1])
    assert 80 <= starts <= 100  # twenty a minute for five minutes
    assert 0.1 < moving.mean() < 0.25
    assert left.min() == pytest.approx(corrections.CALM, abs=0.02)
    assert np.abs(np.diff(left)).max() < 0.2
    assert np.abs(added[:, 0]).max() <= 2.0
    moved = sample.sample(Shake((strand,)), t)[:, 0]
    assert ((moved - moved.mean()) ** 4).mean() / moved.var() ** 2 > 1.2


@pytest.mark.parametrize(
    ("name", "hz", "length", "size"), [("walking", 1.9, 0.03, 0.10), ("running", 2.8, 0.035, 0.13)]
)
def test_steps_differ_by_what_the_note_says(name: str, hz: float, length: float, size: float) -> None:
    """From landing to landing of the height: how long each step is and how far it goes."""
    t = np.arange(0, 240, 1 / 240)
    strand = preset_library.preset(name).shake.strands[0]
    assert isinstance(strand, Drift)
    alone = replace(strand, steps=replace(strand.steps, uneven=0.0, strike=0.0))
    y = sample.sample(Shake((alone,)), t)[:, 1]
    ups = np.flatnonzero((y[:-1] < 0) & (y[1:] >= 0))
    where = t[ups] - y[ups] / (y[ups + 1] - y[ups]) / 240
    long = np.diff(where)
    far = np.array([y[a:b].max() - y[a:b].min() for a, b in itertools.pairwise(ups)])
    kept = long > 0.5 / hz
    assert long[kept].mean() == pytest.approx(1 / hz, rel=0.03)
    assert 0.5 * length < long[kept].std() * hz < 2.2 * length
    assert 0.6 * size < far[kept].std() / far[kept].mean() < 1.6 * size
    knock = (
        sample.sample(Shake((strand,)), t)[:, 1]
        - sample.sample(
            Shake((replace(strand, steps=replace(strand.steps, strike=0.0)),)),
            t,
        )[:, 1]
    )
    assert np.abs(np.diff(knock)).max() < 0.4 * np.abs(knock).max()
    power = np.abs(np.fft.rfft(knock)) ** 2
    assert 6 < np.average(np.fft.rfftfreq(len(knock), 1 / 240), weights=power) < 14


def test_what_was_made_by_the_old_rules_still_moves_as_it_did() -> None:
    known = json.loads((DATA / "version-3.motion.json").read_text())
    shots = store.load(DATA / "version-3.tremor").shots
    for shot, rows in zip(shots, known["shots"], strict=True):
        moved = sample.sample(shot.shake, np.array(known["t"]), shot.frame.pivot, shot.hits)
        np.testing.assert_allclose(moved, rows, atol=2e-5)


FIGURES = re.compile(
    r"At 1080 lines ([\d.]+) to ([\d.]+) px, ([\d.]+) to ([\d.]+)°, ([\d.]+) to ([\d.]+) Hz, "
    r"([\d.]+) to ([\d.]+) % above 4 Hz, kurtosis ([\d.]+) to ([\d.]+)\.$"
)


def way_of(preset: Preset, seconds: float) -> np.ndarray:
    hits = tuple(Hit(f"h{k}", float(k)) for k in range(1, int(seconds), 6))
    return motion_figures.course(preset, seconds, hits)


@pytest.mark.parametrize("preset", preset_library.factory(), ids=lambda preset: preset.name)
def test_every_preset_is_within_the_figures_of_its_own_note(preset: Preset) -> None:
    said = FIGURES.search(preset.note)
    assert said is not None
    low, high = np.array([float(each) for each in said.groups()]).reshape(5, 2).T
    found = motion_figures.portrait(way_of(preset, 120.0))
    got = np.array([found.reach, found.turn, found.rate, 100 * found.fast, found.kurtosis])
    assert (low <= got).all(), (low, got)
    assert (got <= high).all(), (got, high)
    assert (high <= np.maximum(2.2 * low, low + (0.5, 0.03, 0.15, 8, 0.8))).all()  # a range that says something


def test_no_two_presets_are_alike() -> None:
    """Each as its sizes (shift, turn) and the powers of its speed in six bands; the nearest pair has a floor."""
    edges = (0.0, 0.3, 0.8, 1.6, 4.0, 9.0, 30.0)
    features = {}
    for preset in preset_library.factory():
        way = way_of(preset, 60.0)
        speed = np.diff(way, axis=0) * (1, 1, 10)
        hz = np.fft.rfftfreq(len(speed), 1 / 60)
        power = (np.abs(np.fft.rfft(speed, axis=0)) ** 2).sum(axis=1)
        bands = [power[(hz >= a) & (hz < b)].sum() / power.sum() for a, b in itertools.pairwise(edges)]
        ratio = np.abs(way[:, 0]).mean() / (np.abs(way[:, 1]).mean() + 1e-6)
        sizes = np.log([np.abs(way[:, :2]).mean() + 0.05, np.abs(way[:, 2]).mean() + 0.002, ratio + 0.05])
        features[preset.name] = np.concatenate([2 * np.sqrt(bands), 0.5 * sizes])
    pairs = [(float(np.linalg.norm(a - b)), m, n) for (m, a), (n, b) in itertools.combinations(features.items(), 2)]
    assert min(pairs)[0] > 0.3, sorted(pairs)[:5]
    held = {p.name for p in preset_library.factory() if p.group == "held"}
    assert min(p for p in pairs if p[1] in held and p[2] in held)[0] > 0.35, sorted(pairs)[:5]
