"""Playing in time, on clocks that a test turns."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_tremor.engine.playback.player import Player, SilentDevice, best_device


class Clock:
    now = 50.0

    def __call__(self) -> float:
        return self.now


class Listening(SilentDevice):
    """Keeps from where it was asked to play, and what it was given first."""

    def __init__(self, now: Clock) -> None:
        super().__init__(now)
        self.first: list[np.ndarray | None] = []

    def start(self, blocks: Iterator[np.ndarray]) -> None:
        super().start(blocks)
        self.first.append(next(blocks, None))


def player(clock: Clock) -> tuple[Player, Listening]:
    device = Listening(clock)
    return Player(device), device


def test_frames_follow_the_clock_and_late_ones_are_dropped() -> None:
    clock = Clock()
    play, _ = player(clock)
    play.play(start=10, first=0, last=99, rate=Fraction(25))
    seen = []
    for step in (0.0, 0.04, 0.04, 0.04, 0.13, 0.04):
        clock.now += step
        index = play.due()
        play.show(index, clock.now)
        seen.append(index)
    assert seen == [10, 11, 12, 13, 16, 17]
    assert (play.shown, play.dropped) == (6, 2)
    play.show(17, clock.now)
    assert play.shown == 6
    play.stop()
    assert not play.playing
    play.close()


@given(start=st.integers(0, 30), first=st.integers(0, 20), long=st.integers(1, 30), steps=st.lists(st.floats(0, 0.3)))
def test_a_loop_never_leaves_its_stretch(start: int, first: int, long: int, steps: list[float]) -> None:
    clock = Clock()
    play, _ = player(clock)
    play.play(start=start, first=first, last=first + long, rate=Fraction(24))
    for step in steps:
        clock.now += step
        index = play.due()
        assert first <= index <= first + long
        play.show(index, clock.now)
    assert play.dropped >= 0


def test_sound_begins_where_the_picture_does_and_again_at_the_loop() -> None:
    clock = Clock()
    play, device = player(clock)

    def sound(seconds: float) -> Iterator[np.ndarray]:
        yield np.full((1, 2), seconds, np.float32)

    play.play(start=12, first=6, last=17, rate=Fraction(24), sound=sound)
    clock.now += 0.26
    assert play.due() == 6
    assert [float(block[0, 0]) for block in device.first if block is not None] == [0.5, 0.25]


def test_the_rate_reached_is_counted() -> None:
    clock = Clock()
    play, _ = player(clock)
    play.play(start=0, first=0, last=500, rate=Fraction(24))
    assert play.rate_now == 24
    for _ in range(30):
        clock.now += 1 / 12
        play.show(play.due(), clock.now)
    assert play.rate_now == pytest.approx(12, rel=0.02)
    assert play.dropped >= 28


def test_a_silent_device_stands_in_where_there_is_none() -> None:
    device = best_device()
    assert device.heard() == 0.0
    device.start(iter(()))
    device.stop()
    device.close()
