from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy.signal import fftconvolve

from young_tremor.engine.library import preset_library
from young_tremor.model.curve import Curve, Key
from young_tremor.model.holder import Holder
from young_tremor.model.project import Preset
from young_tremor.model.shake import (
    CHANNELS,
    Drift,
    DriftChannel,
    DriftChannels,
    Hit,
    Jolts,
    Point,
    Shake,
    Steps,
    Together,
    Wander,
    blows,
)
from young_tremor.motion import drift, holder, jolts, sample, steps


def one(rate: float, seed: int = 1, **more: object) -> Drift:
    channels = DriftChannels(x=DriftChannel(1.5), roll=DriftChannel(0.4, rate=0.5))
    return Drift("d", rate=Curve(rate), seed=seed, **{"channels": channels, **more})  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("rate", "regularity", "roughness"),
    [(0.4, 0.0, 0.0), (0.4, 0.0, 0.5), (2.0, 0.5, 0.3), (2.0, 0.9, 1.0), (9.0, 0.2, 0.2), (1.0, 1.0, 0.0)],
)
def test_reach_and_rate_are_what_they_say(rate: float, regularity: float, roughness: float) -> None:
    step = 1 / (12 * max(4 * rate, 12.0 if roughness else 2 * rate))
    t = np.arange(0, min(9000 / rate, 700_000 * step), step)
    for seed in (1, 2, 3):
        values = drift.sample(one(rate, seed, regularity=regularity, roughness=roughness), t)
        for column, reach, factor in ((0, 1.5, 1.0), (2, 0.4, 0.5)):
            v = values[:, column]
            assert np.quantile(np.abs(v), 0.95) == pytest.approx(reach, rel=0.05)
            crossings = np.count_nonzero((v[:-1] <= 0) & (v[1:] > 0)) / (t[-1] - t[0])
            assert crossings == pytest.approx(rate * factor, rel=0.05)


def test_every_rate_and_order_sees_the_same_motion() -> None:
    shake = replace(preset_library.preset("walking").shake, pace=Curve(0.8, (Key(0, 0.5), Key(2, 2.0, "free"))))
    slow, fast = sample.sample(shake, np.arange(48) / 24), sample.sample(shake, np.arange(120) / 60)
    np.testing.assert_allclose(slow[::2], fast[::5], atol=1e-6)
    t = np.random.default_rng(2).permutation(fast.shape[0])
    np.testing.assert_allclose(sample.sample(shake, t / 60), fast[t], atol=1e-6)
    assert np.isfinite(sample.sample(shake, np.array([-1e4, -3.0, 1e5]))).all()


def test_regular_is_one_sine_and_locked_channels_keep_their_phase() -> None:
    channels = DriftChannels(x=DriftChannel(1.0, rate=0.5), y=DriftChannel(1.0, phase=90))
    t = np.linspace(0, 40, 8000)
    v = drift.sample(one(1.5, regularity=1.0, roughness=0.0, channels=channels), t)
    size = np.abs(np.fft.rfft(v[:, 1] * np.hanning(len(t))))
    assert size[np.argsort(size)[:-6]].max() < 0.01 * size.max()
    beat = np.unwrap(np.angle(np.exp(1j * 2 * np.pi * 0.75 * t)))
    x_phase = np.angle(np.mean(v[:, 0] * np.exp(-1j * beat)))
    y_phase = np.angle(np.mean(v[:, 1] * np.exp(-2j * beat)))
    lead = (y_phase + np.pi / 2 - 2 * (x_phase + np.pi / 2)) % (2 * np.pi)
    assert lead == pytest.approx(np.pi / 2, abs=0.05)


def test_rate_and_pace_curves_never_jump_and_zero_holds() -> None:
    t = np.linspace(0, 6, 6001)
    rate = Curve(1.0, (Key(1, 0.5, "hold"), Key(3, 4.0, "hold"), Key(4, 0.0, "hold"), Key(6, 0.0)))
    v = drift.sample(replace(one(1.0), rate=rate), t)
    assert np.abs(np.diff(v, axis=0)).max() < 0.15
    assert np.ptp(v[t > 4.01], axis=0).max() < 1e-6
    shake = Shake((one(1.0),), intensity=Curve(0.0))
    assert not sample.sample(shake, t).any()


def test_wander_changes_size_slowly_and_seeds_differ() -> None:
    t = np.linspace(0, 120, 24000)
    base = one(4.0, roughness=0.0)
    still, wandering = (drift.sample(d, t)[:, 0] for d in (base, replace(base, wander=Wander(0.8, 0.1))))
    ratio = [np.std(wandering[k : k + 400]) / np.std(still[k : k + 400]) for k in range(0, 24000, 400)]
    assert max(ratio) > 2 * min(ratio)
    other = drift.sample(replace(base, seed=2), t)[:, 0]
    assert abs(np.corrcoef(still, other)[0, 1]) < 0.2


def test_a_pivot_is_the_point_that_stays() -> None:
    channels = np.array([[0, 0, 3.0, 5.0, 0, 0]])
    moved = sample.about(Point(Curve(0.3), Curve(-0.2)), np.zeros(len(channels)), channels)[0]
    a, s = np.radians(3), np.exp(0.05)
    x = s * (np.cos(a) * 0.3 - np.sin(a) * -0.2) + moved[0] / 100
    y = s * (np.sin(a) * 0.3 + np.cos(a) * -0.2) + moved[1] / 100
    assert (x, y) == pytest.approx((0.3, -0.2))


@settings(deadline=None, max_examples=60)
@given(
    st.lists(
        st.tuples(st.floats(0.05, 2), st.floats(-5, 5), st.sampled_from(["hold", "linear", "smooth"])),
        min_size=2,
        max_size=7,
    )
)
def test_curves_stay_between_their_keys_and_integrate(parts: list) -> None:
    times = np.cumsum([p[0] for p in parts])
    curve = Curve(0.0, tuple(Key(float(t), p[1], p[2]) for t, p in zip(times, parts, strict=True)))
    t = np.linspace(-1, times[-1] + 1, 20001)
    values = curve.at(t)
    for left, right in zip(curve.keys[:-1], curve.keys[1:], strict=True):
        inside = values[(t >= left.t) & (t < right.t)]
        assert inside.size == 0 or inside.min() >= min(left.value, right.value) - 1e-9
        assert inside.size == 0 or inside.max() <= max(left.value, right.value) + 1e-9
    summed = np.concatenate([[0], np.cumsum((values[1:] + values[:-1]) / 2 * np.diff(t))])
    exact = curve.integral(t)
    np.testing.assert_allclose(exact - exact[0], summed, atol=0.01)


def test_presets_differ_by_more_than_amount_rate_and_seed() -> None:
    shapes = set()
    hit = (Hit("h", 0.5),)
    for preset in preset_library.presets():
        shape: list[object] = []
        for strand in preset.shake.strands:
            if isinstance(strand, Jolts):
                top = max(strand.reach, strand.roll, strand.zoom)
                balance = (strand.reach / top, strand.roll / top, strand.zoom / top, strand.direction)
                shape.append(("jolts", strand.rattle, strand.tail, round(strand.settle * strand.ring, 1), *balance))
                continue
            reach = {n: strand.channels[n].reach for n in CHANNELS}
            top = max(reach.values())
            channels = tuple((n, round(v / top, 2), strand.channels[n].rate) for n, v in reach.items())
            shape.append((strand.regularity, strand.roughness, strand.step > 0, strand.rests.share, channels))
        who = preset.shake.holder
        state = None if who is None else (who.grip, who.doing, who.breath.value > 0.5, who.nerves.value > 0.5)
        shapes.add((state, *shape))
        assert len(preset.note) > 40
        moved = sample.sample(preset.shake, np.linspace(0, 20, 2000), hits=hit)
        assert 0 < np.abs(moved).max() < 4, f"{preset.name} is subtle, and moves"
        if preset.group == "held":
            turns = [
                max(s.channels.pan.reach, s.channels.tilt.reach) for s in preset.shake.strands if isinstance(s, Drift)
            ]
            assert 0 < max(turns) < 0.6, "a held preset is made of small lens turns"
    assert len(shapes) == len(preset_library.presets()) >= 30


DRIFTING = [p for p in preset_library.factory() if any(isinstance(strand, Drift) for strand in p.shake.strands)]


@pytest.mark.parametrize("preset", DRIFTING, ids=lambda each: each.name)
def test_nothing_repeats_over_ten_minutes(preset: Preset) -> None:
    """No ten seconds of it come again: all channels together, each against its own size."""
    fps, window = 12, 120
    moved = sample.sample(preset.shake, np.arange(600 * fps) / fps)
    moved = moved[:, moved.std(axis=0) > 0]
    moved /= moved.std(axis=0)
    energy = fftconvolve((moved**2).sum(axis=1), np.ones(window), "valid")
    for start in (0, 137 * fps, 300 * fps):
        part = moved[start : start + window]
        alike = sum(fftconvolve(moved[:, k], part[::-1, k], "valid") for k in range(moved.shape[1]))
        alike = alike / np.sqrt(energy * (part**2).sum())
        elsewhere = np.abs(np.arange(len(alike)) - start) > window
        assert alike[start] == pytest.approx(1, abs=1e-6)
        assert alike[elsewhere].max() < 0.9


@pytest.mark.parametrize("name", ["Car, good road", "Gravel track", "Stand in the wind", "Drone in wind"])
def test_bumps_and_gusts_meet_all_axes_and_the_reach_stays(name: str) -> None:
    shake, t = preset_library.preset(name).shake, np.arange(0, 600, 1 / 30)
    apart = replace(shake, together=Together())

    def activities(moved: np.ndarray) -> np.ndarray:
        speed = np.diff(moved, axis=0)
        seconds = len(speed) // 30
        return np.log(np.sqrt((speed[: 30 * seconds].reshape(seconds, 30, 6) ** 2).mean(axis=1)) + 1e-9)

    def correlation(moved: np.ndarray) -> float:
        busy = activities(moved)[:, :3]  # x, y and roll
        return float(np.corrcoef(busy.T)[np.triu_indices(3, 1)].mean())

    tied, alone = (sample.sample(each, t)[:, :6] for each in (shake, apart))
    assert abs(correlation(alone)) < 0.25
    assert correlation(tied) >= 0.5
    quantiles = [np.quantile(np.abs(moved), 0.95, axis=0) for moved in (tied, alone)]
    moving = quantiles[1] > 0
    np.testing.assert_allclose(quantiles[0][moving], quantiles[1][moving], rtol=0.13)
    some = np.random.default_rng(1).permutation(len(t))[:500]
    np.testing.assert_allclose(sample.sample(shake, t[some]), tied[some], atol=2e-5)  # in any order, alone or together


@given(seed=st.integers(1, 10**6), length=st.floats(0.02, 0.04))
@settings(deadline=None, max_examples=20)
def test_steps_run_free_with_a_long_memory(seed: int, length: float) -> None:
    hz, t = 1.9, np.arange(0, 600, 1 / 120)
    turns = steps.gait(Steps(length=length, free=True), 2 * np.pi * hz * t, hz, seed, np.zeros(0)).turn / (2 * np.pi)
    assert np.diff(turns).min() > 0
    landed = np.interp(np.arange(math.ceil(turns[0]), math.floor(turns[-1])), turns, t)
    intervals = np.diff(landed) * hz
    assert intervals.std() == pytest.approx(length, rel=0.4)
    spread = np.std(landed[64:] - landed[:-64]) * hz
    assert spread >= 8 * length  # as of 64 steps that have nothing to do with each other, or more
    assert np.corrcoef(intervals[:-2], intervals[2:])[0, 1] > 0.05  # what is long stays long for a while
    walked = np.sin(2 * np.pi * turns)
    late = [np.corrcoef(walked[: -120 * lag], walked[120 * lag :])[0, 1] for lag in range(25, 41)]
    assert np.abs(late).max() <= 0.5


@given(seed=st.integers(1, 10**6), pause=st.floats(0.0, 3.0), walk=st.floats(2.5, 9.0))
@settings(deadline=None, max_examples=20)
def test_a_walk_comes_to_rest_on_a_step_and_goes_on_from_it(seed: int, pause: float, walk: float) -> None:
    times = np.cumsum([0.5, 1.0, walk, 1.0, pause + 1e-3, 1.0, 4.0, 1.0])
    speed = Curve(0.0, tuple(Key(t, v) for t, v in zip(times.tolist(), (0, 4.5, 4.5, 0, 0, 4.5, 4.5, 0), strict=True)))
    (strand,) = (s for s in holder.strands_of(Holder(doing="walks", speed=speed, seed=seed)) if s.id == "steps")
    assert isinstance(strand, Drift)
    strand = replace(strand, amount=Curve(1.0), regularity=1.0)
    t = np.arange(0, times[-1] + 2, 1 / 240)
    moved = drift.sample(strand, t)
    resting = (t < times[0]) | ((t > times[3]) & (t < times[4])) | (t > times[-1])
    # with the beat on a whole step, a channel at the step's own rate is where it is at the beginning of every step
    y = moved[resting, 1] / strand.channels.y.reach
    assert np.ptp(y) < 0.35  # their sizes differ, their phase does not
    assert np.abs(np.diff(moved, axis=0)).max() * 240 < 60  # and nothing jumps


def test_a_flinch_waits_for_the_sound_of_a_blow_that_is_far_away() -> None:
    shake = holder.held_by(Shake((Jolts("far", distance=343.0),)), Holder(seed=4))
    hit, t = (Hit("h", 1.0),), np.arange(0, 4, 1 / 240)

    def begins(shake: Shake) -> float:
        (number,) = (n for n, s in enumerate(shake.strands) if s.origin == "holder/flinch")
        return float(t[np.flatnonzero(np.abs(sample.strand(shake, number, t, hits=hit)).sum(axis=1))[0]])

    assert begins(shake) == pytest.approx(1 + 1 + 0.11, abs=0.01)
    near = replace(shake, strands=(*shake.strands, Jolts("near")))
    assert begins(near) == pytest.approx(1 + 0.11, abs=0.01)  # what is felt at once is not waited for
    assert [j.id for j in blows(near.strands)] == ["far", "near"]  # a flinch is no blow


def test_hits_differ_by_their_ids_within_what_is_said() -> None:
    alike = Jolts("j", reach=2.0, roll=0.3, rattle=0.0, ring=12.0, settle=0.2, direction=90.0)
    differing = replace(alike, differ=0.3)
    hits, u = [Hit(f"h{number}", 0.0) for number in range(24)], np.arange(0.002, 1.0, 1 / 480)
    courses = np.array([jolts.sample(differing, (hit,), u)[:, :3].ravel() for hit in hits])
    peaks = np.abs(courses).max(axis=1)
    assert 0.02 < peaks.std() / peaks.mean() < 0.2
    turned = [jolts.direction(differing, hit) - 90 for hit in hits]
    assert 0 < np.abs(turned).max() <= 25 * 0.3
    unit = courses / np.linalg.norm(courses, axis=1)[:, None]
    assert (unit[:-1] * unit[1:]).sum(axis=1).mean() <= 0.9
    same = [jolts.sample(alike, (hit,), u)[:, 1] for hit in hits[:2]]
    np.testing.assert_array_equal(same[0], same[1])
    np.testing.assert_array_equal(jolts.sample(differing, (hits[3],), u), jolts.sample(differing, (Hit("h3", 0.0),), u))


def test_a_holders_strands_follow_weight_grip_and_speed_by_their_figures() -> None:
    light, heavy = Holder(weight=0.5, grip="one"), Holder(weight=4.5, grip="one")
    assert holder.hand_hz(light) / holder.hand_hz(heavy) == pytest.approx(math.sqrt((0.5 + 4.5) / (0.5 + 0.5)))

    def made(who: Holder) -> dict[str, Drift]:
        return {strand.id: strand for strand in holder.strands_of(who) if isinstance(strand, Drift)}

    for who in (light, heavy, Holder(tired=1.0)):
        assert 8 <= made(who)["central"].rate.value <= 12  # load does not move it
    slow, quick = (made(Holder(doing="walks", speed=Curve(speed)))["steps"] for speed in (3.0, 5.5))
    assert quick.rate.value / slow.rate.value == pytest.approx(math.sqrt(5.5 / 3.0))
    assert holder.bounce(5.5) > holder.bounce(3.0) > 0
    assert quick.channels.y.reach > slow.channels.y.reach
    breath = made(Holder(breath=Curve(1.0)))["breath"]
    assert (breath.rate.value, breath.amount.value) == (pytest.approx(0.7), 4.0)
    moved = sample.sample(Shake((breath,)), np.arange(0, 60, 0.05))
    assert abs(np.corrcoef(moved[:, 1], moved[:, 5])[0, 1]) > 0.5  # height and tilt together
    assert made(heavy)["sway"].channels.pan.reach < made(light)["sway"].channels.pan.reach
    nervous = made(Holder(nerves=Curve(0.0, (Key(0.0, 0.0), Key(5.0, 1.0)))))["hand"]
    assert [key.value for key in nervous.amount.keys] == [1, 4]


def test_what_a_holder_made_follows_until_a_person_changes_it() -> None:
    shake = holder.held_by(Shake(), Holder(doing="walks"))
    names = [strand.origin for strand in shake.strands]
    assert names[:2] == ["holder/steps", "holder/sway"]
    mine = replace(shake.strands[1], rate=Curve(0.9))
    gone = tuple(strand for strand in shake.strands if strand.origin != "holder/pulse")
    shake = replace(shake, strands=tuple(mine if strand.id == mine.id else strand for strand in gone))
    heavier = holder.held_by(shake, Holder(doing="stands", weight=9.0, grip="shoulder"))
    strands = {strand.origin: strand for strand in heavier.strands}
    assert "holder/steps" not in strands
    assert "holder/pulse" not in strands  # taken away by hand
    assert strands["holder/sway"] == mine
    assert strands["holder/hand"].rate.value < holder.hand_hz(Holder())
    walking = holder.held_by(heavier, Holder(doing="walks"))
    assert "holder/steps" in {strand.origin for strand in walking.strands}


def test_a_flinch_comes_later_and_less_each_time_until_it_is_forgotten() -> None:
    (flinch,) = (strand for strand in holder.strands_of(Holder()) if isinstance(strand, Jolts))
    hits = tuple(Hit(f"h{number}", t) for number, t in enumerate((1.0, 4.0, 7.0, 30.0)))
    alike = replace(flinch, differ=0.0)
    t = np.arange(0, 34, 1 / 240)
    moved = np.abs(jolts.sample(alike, hits, t)).sum(axis=1)
    assert moved[(t > 1.0) & (t < 1.06)].max() == 0  # later than the hit
    peaks = [moved[(t > hit.t) & (t < hit.t + 2)].max() for hit in hits]
    assert peaks[1] / peaks[0] == pytest.approx(2 / 3, rel=0.1)
    assert peaks[2] / peaks[0] == pytest.approx(4 / 9, rel=0.1)
    assert peaks[3] == pytest.approx(peaks[0], rel=0.1)
