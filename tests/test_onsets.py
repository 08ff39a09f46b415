"""Blows are found in mixes that the finder was not made for."""

from __future__ import annotations

import numpy as np

from young_tremor.engine.analysis import found_hits
from young_tremor.engine.library import preset_library
from young_tremor.sound import onsets

RATE = onsets.RATE


def blow(rng: np.random.Generator) -> np.ndarray:
    t = np.arange(RATE // 2) / RATE
    low = np.sin(2 * np.pi * rng.uniform(45, 130) * t * (1 + 0.5 * np.exp(-t / 0.02)))
    crack = rng.uniform(0.3, 1) * rng.normal(size=len(t)) * np.exp(-t / rng.uniform(0.01, 0.06))
    return (low * np.exp(-t / rng.uniform(0.05, 0.25)) + crack) * (1 - np.exp(-t / rng.uniform(0.0005, 0.003)))


def speech(rng: np.random.Generator, count: int) -> np.ndarray:
    """Syllables: voiced harmonics under two formants, now and then a consonant's noise before them."""
    out, t = np.zeros(count), 0.2
    while t < count / RATE - 0.5:
        long = rng.uniform(0.08, 0.3)
        u = np.arange(int(long * RATE)) / RATE
        pitch = rng.uniform(90, 220) * (1 + 0.1 * np.sin(2 * np.pi * 3 * u))
        turn, first, second = 2 * np.pi * np.cumsum(pitch) / RATE, rng.uniform(400, 800), rng.uniform(1000, 2500)
        voice = np.zeros(len(u))
        for k in range(1, 26):
            size = np.exp(-(((k * pitch - first) / 300) ** 2)) + 0.5 * np.exp(-(((k * pitch - second) / 400) ** 2))
            voice += (size + 0.02) * np.sin(k * turn)
        if rng.uniform() < 0.5:
            voice += np.diff(rng.normal(size=len(u)) * np.exp(-u / 0.03) * 0.8, prepend=0)
        at = int(t * RATE)
        out[at : at + len(u)] += voice * np.minimum(1, u / 0.02) * np.minimum(1, (long - u) / 0.04)
        t += long + rng.exponential(0.08)
    return out / out.std()


def music(rng: np.random.Generator, count: int) -> np.ndarray:
    """Plucked chords in time, a tick on each half beat, a drum on each beat."""
    out, beat = np.zeros(count), 60 / rng.uniform(70, 130)
    for number, at in enumerate(np.arange(0, count - RATE, int(beat / 2 * RATE))):
        u = np.arange(min(int(beat * RATE), count - at)) / RATE
        part = slice(at, at + len(u))
        for hz in rng.choice([110, 146, 165, 196, 220, 262, 330, 392, 440], 3):
            tone = sum(np.sin(2 * np.pi * hz * k * u) / k for k in (1, 2, 3, 4))
            out[part] += np.exp(-u / 0.4) * tone * np.minimum(1, u / 0.004)
        out[part] += 0.6 * np.diff(rng.normal(size=len(u)) * np.exp(-u / 0.02), prepend=0)
        if number % 2 == 0:
            out[part] += 2 * np.sin(2 * np.pi * 60 * u * (1 + np.exp(-u / 0.02))) * np.exp(-u / 0.1)
    return out / out.std()


def test_nine_in_ten_strong_blows_are_found_and_nine_in_ten_found_are_blows() -> None:
    there = caught = returned = right = 0
    for seed in range(300, 312):
        rng = np.random.default_rng(seed)
        count = 16 * RATE
        mix = 10 ** (rng.uniform(-35, -15) / 20) * rng.normal(size=count)
        mix += 0.06 * rng.uniform(0.3, 1.3) * speech(rng, count) + 0.06 * rng.uniform(0, 1) * music(rng, count)
        times = np.cumsum(rng.uniform(1.2, 4.0, 5))
        for t in times[times < 15]:
            sound = blow(rng)
            at = int(t * RATE)
            mix[at : at + len(sound)] += rng.uniform(0.4, 1) * sound[: count - at]
        times = times[times < 15]
        stereo = np.stack([mix, mix], axis=1).astype(np.float32)
        found = onsets.find(stereo[k : k + 4001] for k in range(0, count, 4001))
        got = found.times[found.above(found.threshold)]
        there, returned = there + len(times), returned + len(got)
        caught += sum(bool(len(got)) and np.abs(got - t).min() < 1 / 24 for t in times)
        right += sum(np.abs(times - t).min() < 1 / 24 for t in got)
    assert caught / there >= 0.9, f"{caught} of {there} found"
    assert right / returned >= 0.9, f"{right} of {returned} right"


def test_silence_and_steady_noise_hold_no_hits() -> None:
    for sound in (np.zeros((RATE * 3, 1)), 0.1 * np.random.default_rng(2).normal(size=(RATE * 3, 1))):
        found = onsets.find([sound.astype(np.float32)])
        assert not len(found.above(found.threshold))
    assert not len(onsets.find([]).times)


def test_the_demo_strikes_are_found_to_the_frame_and_flashes_in_a_picture() -> None:
    seen: list[tuple[int, int]] = []
    found = found_hits.in_sound(preset_library.demo_project().shots[0], lambda done, total: seen.append((done, total)))
    made = found_hits.hits_of(found, found.threshold)
    np.testing.assert_allclose([hit.t for hit in made], [3.125, 6.5, 8.75], atol=0.01)
    assert made[1].strength > made[2].strength
    assert seen[-1][0] == seen[-1][1]
    watched = found_hits.in_picture(preset_library.demo_project().shots[0], lambda done, total: None)
    np.testing.assert_allclose(watched.times[watched.above(watched.threshold)], [3.125, 6.5, 8.75], atol=1.01 / 24)
    change = np.random.default_rng(1).uniform(0.1, 0.3, 240)
    change[[60, 150]] = 9.0, 6.0
    flashes = onsets.find_in_changes(change, 1 / 24)
    np.testing.assert_allclose(flashes.times[flashes.above(flashes.threshold)], [60 / 24, 150 / 24])
