"""Rates, sizes, times, timecode: what a person types and reads."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_tremor.base import units
from young_tremor.base.errors import UnreadableValue
from young_tremor.base.frames import YUV420_10
from young_tremor.base.pixels import ColourTags, PixelFormat, black
from young_tremor.base.signal import Signal

RATES = st.sampled_from([Fraction(24), Fraction(25), Fraction(30000, 1001), Fraction(60), Fraction(12)])


@given(frame=st.integers(0, 10**6), rate=RATES)
def test_timecode_is_read_back_as_its_frame(frame: int, rate: Fraction) -> None:
    text = units.timecode(frame, rate, hours=True)
    parts = [int(part) for part in text.split(":")]
    base = round(rate)
    assert ((parts[0] * 60 + parts[1]) * 60 + parts[2]) * base + parts[3] == frame
    seconds = units.parse_time(text, Fraction(base))
    assert round(seconds * base) == frame


@pytest.mark.parametrize(
    ("text", "rate"),
    [
        ("24", Fraction(24)),
        ("23.976", Fraction(24000, 1001)),
        ("24000/1001", Fraction(24000, 1001)),
        ("29.97", Fraction(30000, 1001)),
        ("12.5", Fraction(25, 2)),
        ("1000", Fraction(1000)),
    ],
)
def test_rates_are_read_exactly(text: str, rate: Fraction) -> None:
    assert units.parse_rate(text) == rate
    assert units.parse_rate(units.format_rate(rate)) == rate


def test_sizes_and_times_are_read() -> None:
    assert units.parse_size("1920x1080") == (1920, 1080)
    assert units.parse_size(" 720 × 576 ") == (720, 576)
    assert units.parse_time("3.5", Fraction(24)) == 3.5
    assert units.parse_time("1:00", Fraction(24)) == 60
    assert units.parse_time("3:12.5", Fraction(24)) == 192.5
    assert units.parse_time("0:03:12", Fraction(24)) == 3.5
    assert units.parse_time("01:00:03:12", Fraction(24)) == 3603.5
    assert units.duration_text(12.4) == "12 s"
    assert units.duration_text(200) == "3 min 20 s"


@pytest.mark.parametrize("text", ["", "fast", "0", "-24", "1/0", "inf", "nan", "100000"])
def test_bad_rates_are_named(text: str) -> None:
    with pytest.raises(UnreadableValue, match="not a frame rate"):
        units.parse_rate(text)


@pytest.mark.parametrize("text", ["", "big", "1920", "0x0", "1x1080", "1920x99999", "-4x4", "20x20x20"])
def test_bad_sizes_are_named(text: str) -> None:
    with pytest.raises(UnreadableValue, match="not a picture size"):
        units.parse_size(text)


@pytest.mark.parametrize("text", ["", "soon", "-1", "inf", "nan", "1:2:3:4:5", "1:x", "1:60", "1:-3", "-1:00"])
def test_bad_times_are_named(text: str) -> None:
    with pytest.raises(UnreadableValue, match="not a time"):
        units.parse_time(text, Fraction(24))


def test_black_follows_range_depth_and_model() -> None:
    limited, full = ColourTags(full=False), ColourTags(full=True)
    assert black(YUV420_10, limited) == (64, 512, 512)
    assert black(YUV420_10, full) == (0, 512, 512)
    assert black(PixelFormat("gbrp", kind="rgb"), ColourTags()) == (0, 0, 0)
    assert black(PixelFormat("gray", kind="grey"), ColourTags()) == (0,)
    assert black(PixelFormat("gray", kind="grey"), limited) == (16,)
    assert PixelFormat("x", step=(2, 2)).plane_size(1, (5, 7)) == (3, 4)


def test_listeners_come_and_go() -> None:
    signal, heard = Signal(), []
    gone = signal.connect(heard.append)
    signal.connect(lambda value: heard.append(-value))
    signal.emit(1)
    gone()
    signal.emit(2)
    assert heard == [1, -1, -2]
