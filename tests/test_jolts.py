"""Hits and what they excite, keys and what they draw."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from young_tremor.model import curve_edits, shot_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.curve_shapes import SHAPES, Anchors
from young_tremor.model.project import Media, Plate, Project, Shot
from young_tremor.model.shake import Drift, DriftChannel, DriftChannels, Hit, Jolts, Plotted, Rests, Shake, Stretch
from young_tremor.motion import drift, plotted, rests, sample


@settings(deadline=None, max_examples=60)
@given(
    ring=st.floats(1, 25),
    settle=st.floats(0.05, 1.5),
    rise=st.floats(0.002, 0.2),
    rattle=st.floats(0, 1),
    tail=st.floats(0, 1),
    phase=st.floats(0, 360),
    seed=st.integers(0, 10**6),
    strength=st.floats(0.1, 3),
    direction=st.one_of(st.none(), st.floats(0, 360)),
)
def test_the_largest_swing_of_a_hit_is_its_reach(
    ring, settle, rise, rattle, tail, phase, seed, strength, direction
) -> None:  # type: ignore[no-untyped-def]
    jolts = Jolts(
        "j",
        reach=1.7,
        roll=0.6,
        zoom=0.9,
        ring=ring,
        settle=settle,
        rise=rise,
        rattle=rattle,
        tail=tail,
        phase=phase,
        seed=seed,
        direction=direction,
    )
    t = np.arange(-0.1, 5 * settle + 2, 1 / (60 * ring + 2000))
    moved = sample.sample(Shake((jolts,)), t, hits=(Hit("h", 0.25, strength),))
    far = np.hypot(moved[:, 0], moved[:, 1]).max()
    assert far == pytest.approx(1.7 * strength, rel=0.01)
    assert np.abs(moved[:, 2]).max() == pytest.approx(0.6 * strength, rel=0.01)
    assert np.abs(moved[:, 3]).max() == pytest.approx(0.9 * strength, rel=0.01)
    assert not moved[t <= 0.25].any()
    order = np.random.default_rng(seed).permutation(len(t))[:300]
    np.testing.assert_array_equal(
        sample.sample(Shake((jolts,)), t[order], hits=(Hit("h", 0.25, strength),)), moved[order]
    )


def test_a_course_is_the_formula_and_sound_takes_its_time() -> None:
    plain = Jolts("j", reach=1.0, ring=8, settle=0.3, rise=0.02, rattle=0, tail=0.25, direction=90.0, distance=34.3)
    u = np.linspace(0, 1.5, 3000)
    moved = sample.sample(Shake((plain,)), u + 2.1, hits=(Hit("h", 2.0),))
    shape = (1 - np.exp(-u / 0.02)) * (0.75 * np.exp(-u / 0.3) + 0.25 * np.exp(-u / 1.2)) * np.sin(2 * np.pi * 8 * u)
    np.testing.assert_allclose(moved[:, 1], shape / shape[np.argmax(np.abs(shape))], atol=2e-3)
    assert np.abs(moved[:, 0]).max() < 1e-12
    both = sample.sample(Shake((plain,)), u + 2.1, hits=(Hit("a", 2.0), Hit("b", 2.05, 0.5)))
    again = sample.sample(Shake((plain,)), u + 2.1, hits=(Hit("b", 2.05, 0.5),))
    np.testing.assert_allclose(both, moved + again, atol=1e-12)


def test_stretch_solo_amount_and_intensity_shape_a_strand() -> None:
    t = np.linspace(0, 8, 4001)
    free = Drift("d", rate=Curve(2.0), seed=4, channels=DriftChannels(x=DriftChannel(1.0), zoom=DriftChannel(1.0)))
    whole = sample.sample(Shake((free,)), t)
    part = sample.sample(Shake((replace(free, stretch=Stretch(2.0, 6.0, 0.5, 1.0)),)), t)
    np.testing.assert_allclose(part[(t > 2.5) & (t < 5)], whole[(t > 2.5) & (t < 5)])
    assert not part[(t < 2) | (t > 6)].any()
    assert np.abs(np.diff(part[:, 0])).max() < 1.5 * np.abs(np.diff(whole[:, 0])).max()
    other = replace(free, id="e", seed=9)
    np.testing.assert_array_equal(sample.sample(Shake((replace(free, solo=True), other)), t), whole)
    np.testing.assert_allclose(
        sample.sample(Shake((free, replace(other, on=False)), intensity=Curve(0.5)), t), whole / 2
    )
    eased = sample.sample(Shake((replace(free, ease_in=1.0),)), t)
    assert not eased[0].any()
    np.testing.assert_array_equal(eased[t > 1], whole[t > 1])
    held = sample.sample(Shake((replace(free, step=8.0),)), t)
    assert len(np.unique(held[:, 0])) <= 66
    np.testing.assert_allclose(held[np.isclose(t % 0.125, 0)], whole[np.isclose(t % 0.125, 0)], atol=1e-6)
    for lean in (1.0, -1.0):
        zoom = lean * drift.sample(replace(free, lean=lean), t)[:, 3]
        assert zoom.min() >= -1e-9
        assert zoom.max() > 0.7


@settings(deadline=None, max_examples=40)
@given(share=st.floats(0.05, 0.8), hold=st.floats(0.3, 4), seed=st.integers(0, 999))
def test_rests_hold_still_for_their_share_and_never_jump(share: float, hold: float, seed: int) -> None:
    t = np.linspace(-30, 400 * hold, 60001)
    warped = rests.warp_clock(t, share, hold, seed)
    speed = np.diff(warped) / np.diff(t)
    assert speed.min() > -1e-6
    assert speed.max() < 1 + 1e-6
    still = np.mean(speed < 1e-3)
    assert still == pytest.approx(share, abs=0.04)
    old = np.mean(np.diff(rests.warp_clock(t, share, hold, seed, 1)) / np.diff(t) < 1e-3)
    assert share * 0.25 < old < share * 1.15  # as files up to version 3 were made
    assert rests.warp_clock(np.zeros(1), share, hold, seed)[0] == 0
    np.testing.assert_allclose(rests.warp_clock(t[::7], share, hold, seed), warped[::7], atol=1e-9)


def test_rests_make_a_drift_stand_still() -> None:
    t = np.linspace(0, 60, 6001)
    base = Drift("d", rate=Curve(2.0), channels=DriftChannels(x=DriftChannel(1.0)), rests=Rests(0.5, 2.0))
    speed = np.abs(np.diff(drift.sample(base, t)[:, 0]))
    assert 0.2 < np.mean(speed < 1e-5) < 0.6


CURVE = Curve(1.0, (Key(0, 0.2), Key(1, 1.0, "linear"), Key(2, 0.4), Key(4, 1.5, "hold")))


def test_keys_are_added_moved_scaled_pasted_and_removed() -> None:
    for t in (0.5, 1.3, 2.7):
        added = curve_edits.with_key(CURVE, t)
        assert float(added.at(np.array([t]))[0]) == pytest.approx(float(CURVE.at(np.array([t]))[0]))
        assert len(added.keys) == 5
    made, numbers = curve_edits.move_keys(CURVE, (0, 1), 1.5, 5.0, low=0.0, high=2.0)
    assert [key.t for key in made.keys] == [1.5, 2, 2.5, 4]
    assert [made.keys[n].value for n in numbers] == [2.0, 2.0]
    made, _ = curve_edits.move_keys(CURVE, (1,), 1.0, 0.0, low=0.0, high=2.0)
    assert [key.value for key in made.keys] == [0.2, 1.0, 1.5]
    made, numbers = curve_edits.scale_keys(CURVE, (1, 2), 2.0, 0.5, at=1.0, low=0.0, high=2.0)
    assert [(made.keys[n].t, made.keys[n].value) for n in numbers] == [(1, 0.5), (3, 0.2)]
    made, numbers = curve_edits.paste_keys(CURVE, CURVE.keys[:2], 1.5)
    assert [key.t for key in made.keys] == [0, 1, 1.5, 2.5, 4]
    assert numbers == (2, 3)
    assert curve_edits.without(CURVE, (0, 1, 2, 3)) == Curve(0.2)
    free = curve_edits.set_ease(CURVE, (0, 1, 2), "free")
    t = np.linspace(0, 4, 400)
    np.testing.assert_allclose(free.at(t), CURVE.at(t), atol=2e-3)


def test_a_plotted_strand_of_constants_holds_them() -> None:
    t = np.linspace(0, 3, 7)
    moved = plotted.sample(Plotted("p", x=Curve(3.0), roll=Curve(-0.5), repeat=True), t)
    np.testing.assert_array_equal(moved, np.tile([3.0, 0, -0.5, 0, 0, 0], (7, 1)))


def test_plotted_motion_follows_its_keys_and_goes_round_without_a_jump() -> None:
    x = Curve(0.0, (Key(1.0, 0.0), Key(1.5, 2.0), Key(2.0, -1.0, "linear"), Key(3.0, 0.5)))
    roll = Curve(0.0, (Key(1.2, 0.0), Key(2.5, 1.0)))
    once = Plotted("p", x=x, roll=roll)
    t = np.linspace(0, 20, 20001)
    moved = sample.sample(Shake((once,)), t)
    np.testing.assert_allclose(moved[:, 0], x.at(t))
    np.testing.assert_allclose(moved[:, 2], roll.at(t))
    for irregular in (0.0, 1.0):
        again = sample.sample(Shake((replace(once, repeat=True, irregular=irregular),)), t)
        first = (t >= 1) & (t < 1.8)
        np.testing.assert_allclose(again[first, 0], x.at(t[first]), atol=0.4 if irregular else 1e-12)
        step = np.abs(np.diff(again[:, 0])).max()
        assert step < 3 * np.abs(np.diff(x.at(t))).max()
        second, third = (again[(t >= 3 + 2 * k) & (t < 5 + 2 * k - 1e-9), 0][:1999] for k in (0, 1))
        assert (np.abs(second - third).max() > 0.05) == bool(irregular)
    assert np.ptp(sample.sample(Shake((Plotted("q"),)), t)) == 0


def test_keys_are_scattered_and_put_between() -> None:
    made = curve_edits.scatter_keys(CURVE, 5, (1.0, 3.0), apart=(0.1, 0.3), reach=0.5, limits=(-1, 1))
    new = [key for key in made.keys if 1.0 <= key.t <= 3.0]
    assert made.keys[0] == CURVE.keys[0]
    assert made.keys[-1] == CURVE.keys[-1]
    gaps = np.diff([key.t for key in new])
    assert gaps.min() >= 0.1
    assert gaps.max() <= 0.3
    assert max(abs(key.value) for key in new) <= 0.5
    again = curve_edits.scatter_keys(CURVE, 5, (1.0, 3.0), apart=(0.1, 0.3), reach=0.5, limits=(-1, 1))
    assert made == again
    finer = curve_edits.between(CURVE)
    assert [key.t for key in finer.keys] == [0, 0.5, 1, 1.5, 2, 3, 4]


def test_ready_shapes() -> None:
    flat = Curve(1.0)
    t = np.linspace(0, 10, 2001)

    def at(curve: Curve, time: float) -> float:
        return float(curve.at(np.array([time]))[0])

    assert curve_edits.ramp_in(flat, 1, 3).at(np.array([0.5, 1, 3, 9])).tolist() == [0, 0, 1, 1]
    assert curve_edits.ramp_out(flat, 1, 3).at(np.array([0.5, 1, 3, 9])).tolist() == [1, 1, 0, 0]
    hits = (Hit("a", 4.0), Hit("b", 4.3, 0.5))
    shapes = {shape.word: shape for shape in SHAPES}
    for word, wanted in {
        "still": {0: 0, 2: 0, 2.5: 1, 9: 1},
        "from": {0: 0, 1.95: 0, 2: 1, 9: 1},
        "rise": {0: 0, 2: 1, 9: 1},
        "swell": {1.4: 0, 2: 1, 2.6: 0},
        "between": {1.4: 0, 1.8: 1, 2.2: 1, 2.6: 0},
        "fall": {0: 1, 2: 1, 10: 0},
        "pulse": {3.9: 0, 4: 1, 4.3: 0.5, 4.6: 0.15, 5: 0},
    }.items():
        made = shapes[word].change(flat, Anchors(2.0, 10.0, hits=hits))
        times = np.array([float(time) for time in wanted])
        np.testing.assert_allclose(made.at(times), list(wanted.values()), atol=1e-9, err_msg=word)
        again = shapes[word].change(shapes["swell"].change(flat, Anchors(8.0, 10.0)), Anchors(2.0, 10.0, hits=hits))
        assert again.at(t).max() == pytest.approx(1), f"{word}: the height that was set is kept"
    louder = shapes["fall"].change(Curve(-6.0), Anchors(2.0, 10.0, nothing=-48.0))
    assert louder.at(np.array([0.0, 2.0, 10.0])).tolist() == [-6, -6, -48]
    swell = curve_edits.swell(flat, 2, 6).at(t)
    assert swell.max() == pytest.approx(1.8)
    assert swell.min() == 1
    spiked = curve_edits.spike(flat, 4.0)
    assert (at(spiked, 4.0), at(spiked, 3.9), at(spiked, 5.5)) == (2.0, 1.0, 1.0)
    assert (spiked.keys[1].t - spiked.keys[0].t) * 5 < spiked.keys[-1].t - spiked.keys[1].t
    twice = curve_edits.spike(spiked, 4.5)
    assert at(twice, 4.0) == 2.0


def test_hits_and_the_stack_are_edited_as_values() -> None:
    shot = Shot("s", "Press", (Plate("p", "p", Media("x")),), Shake((Drift("a"), Jolts("b"), Drift("c"))))
    project = shot_edits.add_hits("s", (Hit("2", 2.0), Hit("1", 1.0), Hit("near", 2.005)))(Project((shot,)))
    assert [hit.id for hit in project.shots[0].hits] == ["1", "2"]
    project = shot_edits.set_hit("s", "1", t=3.0, strength=0.5)(project)
    assert [(hit.t, hit.strength) for hit in project.shots[0].hits] == [(2.0, 1.0), (3.0, 0.5)]
    assert not shot_edits.remove_hits("s", frozenset("12"))(project).shots[0].hits
    project = shot_edits.duplicate_strand("s", "b", "b2")(project)
    project = shot_edits.move_strand("s", "a", 2)(project)
    strands = project.shots[0].shake.strands
    assert [strand.id for strand in strands] == ["b", "b2", "a", "c"]
    assert strands[0].seed != strands[1].seed
