"""Pure changes of a curve's keys, and ready shapes."""

from __future__ import annotations

from collections.abc import Callable, Iterable

import numpy as np
from msgspec.structs import replace

from young_tremor.model.curve import Curve, Ease, Key

NEAR = 1e-6  # seconds within which two keys are one


def with_key(curve: Curve, t: float, value: float | None = None, ease: Ease = "smooth") -> Curve:
    """The curve with a key at ``t``, at its own height there unless a value is given; a key there already is moved."""
    height = float(curve.at(np.array([t]))[0]) if value is None else value
    keys = tuple(key for key in curve.keys if abs(key.t - t) > NEAR)
    before = next((key for key in reversed(curve.keys) if key.t < t), None)
    return sort_keys(curve, (*keys, Key(t, height, before.ease if before and before.ease != "free" else ease)))


def with_value_at(curve: Curve, t: float, value: float) -> Curve:
    """A curve made to go through a value: all of it where it is constant, by a key at ``t`` where it has keys."""
    return Curve(value) if curve.constant else with_key(curve, t, value)


def without(curve: Curve, numbers: Iterable[int]) -> Curve:
    """The curve without some keys; without any it is constant at the last one's height."""
    gone = set(numbers)
    keys = tuple(key for number, key in enumerate(curve.keys) if number not in gone)
    if keys or not curve.keys:
        return replace(curve, keys=keys)
    return Curve(curve.keys[min(gone)].value)


def move_keys(
    curve: Curve, numbers: Iterable[int], dt: float, dv: float, *, low: float, high: float
) -> tuple[Curve, tuple[int, ...]]:
    """Some keys shifted by ``dt`` seconds and ``dv``, and their numbers afterwards.

    Values are not moved beyond the limits; those that are beyond them already are never cut. Keys that land on others
    take their place.
    """

    def shifted(key: Key) -> Key:
        return replace(key, t=key.t + dt, value=_clamp_or_keep(key.value + dv, key.value, low, high))

    return _change_keys(curve, numbers, shifted)


def _clamp_or_keep(value: float, before: float, low: float, high: float) -> float:
    """A value within limits, or as far beyond them as it was before."""
    return min(max(value, min(low, before)), max(high, before))


def scale_keys(
    curve: Curve, numbers: Iterable[int], time: float, value: float, *, at: float, low: float, high: float
) -> tuple[Curve, tuple[int, ...]]:
    """Some keys stretched in time about ``at`` and in value about 0, by factors."""

    def stretched(key: Key) -> Key:
        return replace(
            key,
            t=at + (key.t - at) * time,
            value=_clamp_or_keep(key.value * value, key.value, low, high),
            slope_in=key.slope_in * value / time,
            slope_out=key.slope_out * value / time,
        )

    return _change_keys(curve, numbers, stretched)


def times(curve: Curve, factor: float) -> Curve:
    """The whole curve so many times as high."""
    keys = tuple(
        replace(k, value=k.value * factor, slope_in=k.slope_in * factor, slope_out=k.slope_out * factor)
        for k in curve.keys
    )
    return Curve(curve.value * factor, keys)


def added(curve: Curve, offset: float) -> Curve:
    """The whole curve so much higher."""
    return Curve(curve.value + offset, tuple(replace(key, value=key.value + offset) for key in curve.keys))


def set_ease(curve: Curve, numbers: Iterable[int], ease: Ease) -> Curve:
    """Some keys with another way to the next; turning to ``free`` keeps the shape the curve has there."""
    chosen = set(numbers)
    keys = list(curve.keys)
    if ease == "free":
        for number in range(len(keys)):
            left, right = _slopes(curve, number)
            if number in chosen or number - 1 in chosen:
                keys[number] = replace(keys[number], slope_in=left, slope_out=right)
    return replace(
        curve, keys=tuple(replace(key, ease=ease) if number in chosen else key for number, key in enumerate(keys))
    )


def set_slopes(curve: Curve, number: int, *, slope_in: float | None = None, slope_out: float | None = None) -> Curve:
    """A key with other tangents (units per second)."""
    key = curve.keys[number]
    key = replace(
        key,
        slope_in=key.slope_in if slope_in is None else slope_in,
        slope_out=key.slope_out if slope_out is None else slope_out,
    )
    return replace(curve, keys=(*curve.keys[:number], key, *curve.keys[number + 1 :]))


def paste_keys(curve: Curve, keys: tuple[Key, ...], at: float) -> tuple[Curve, tuple[int, ...]]:
    """Copied keys laid down with the first at ``at``; what stands between first and last gives way."""
    if not keys:
        return curve, ()
    mine = [replace(key, t=key.t - keys[0].t + at) for key in keys]
    kept = [key for key in curve.keys if key.t < mine[0].t - NEAR or key.t > mine[-1].t + NEAR]
    new_curve = sort_keys(curve, (*kept, *mine))
    return new_curve, _numbers(new_curve, mine)


def limited(curve: Curve, low: float, high: float) -> Curve:
    """A curve whose keys stay within limits."""
    return replace(curve, keys=tuple(replace(key, value=min(max(key.value, low), high)) for key in curve.keys))


def scatter_keys(
    curve: Curve,
    seed: int,
    span: tuple[float, float],
    *,
    apart: tuple[float, float],
    reach: float,
    limits: tuple[float, float],
) -> Curve:
    """Keys over a span of seconds, at least and at most so many seconds ``apart``, each within ± ``reach`` and
    ``limits``; others stay."""
    (start, end), (least, most), (low, high) = span, apart, limits
    rng = np.random.default_rng([seed & 0xFFFFFFFF, 0x5CA7])
    made, t = [], start
    while t <= end:
        made.append(Key(t, min(max(float(rng.uniform(-reach, reach)), low), high)))
        t += float(rng.uniform(max(least, 1e-3), max(most, least, 1e-3)))
    keys = [key for key in curve.keys if key.t < start - NEAR or key.t > end + NEAR]
    return sort_keys(curve, (*keys, *made))


def between(curve: Curve) -> Curve:
    """A key in the middle of each gap, at the curve's own height."""
    for left, right in zip(curve.keys[:-1], curve.keys[1:], strict=True):
        curve = with_key(curve, (left.t + right.t) / 2)
    return curve


def ramp_in(curve: Curve, a: float, b: float) -> Curve:
    """From 0 at ``a`` to the present height at ``b``."""
    return replace_keys(curve, a, b, (Key(a, 0.0), Key(b, height_at(curve, b))), before=0.0)


def ramp_out(curve: Curve, a: float, b: float) -> Curve:
    """From the present height at ``a`` to 0 at ``b``."""
    return replace_keys(curve, a, b, (Key(a, height_at(curve, a)), Key(b, 0.0)), after=0.0)


def swell(curve: Curve, a: float, b: float, top: float = 1.8) -> Curve:
    """Up to ``top`` times the present height at six tenths of the way from ``a`` to ``b``, and back."""
    middle = a + 0.6 * (b - a)
    return replace_keys(
        curve,
        a,
        b,
        (Key(a, height_at(curve, a)), Key(middle, top * height_at(curve, middle)), Key(b, height_at(curve, b))),
    )


def spike(curve: Curve, t: float, top: float = 2.0, rise: float = 0.08, fall: float = 1.4) -> Curve:
    """At ``t`` steeply up to ``top`` times the present height, and a long way back."""
    a, b = max(t - rise, 0.0), t + fall
    keys = (
        Key(a, height_at(curve, a)),
        Key(t, top * height_at(curve, t), "smooth"),
        Key(t + 0.3 * fall, (1 + 0.3 * (top - 1)) * height_at(curve, t)),
        Key(b, height_at(curve, b)),
    )
    return replace_keys(curve, a, b, keys)


def height_at(curve: Curve, t: float) -> float:
    """The value of a curve at a time."""
    return float(curve.at(np.array([t]))[0])


def replace_keys(
    curve: Curve, a: float, b: float, keys: tuple[Key, ...], *, before: float | None = None, after: float | None = None
) -> Curve:
    """``keys`` instead of what stands between ``a`` and ``b``; ``before``/``after``: nothing but this outside."""
    left = () if before is not None else tuple(key for key in curve.keys if key.t < a - NEAR)
    right = () if after is not None else tuple(key for key in curve.keys if key.t > b + NEAR)
    return sort_keys(curve, (*left, *right, *keys))


def _change_keys(curve: Curve, numbers: Iterable[int], change: Callable[[Key], Key]) -> tuple[Curve, tuple[int, ...]]:
    """Some keys changed, and their numbers afterwards; keys that they land on give way."""
    chosen = set(numbers)
    mine = [change(key) for number, key in enumerate(curve.keys) if number in chosen]
    others = [
        key
        for number, key in enumerate(curve.keys)
        if number not in chosen and all(abs(key.t - item.t) > NEAR for item in mine)
    ]
    new_curve = sort_keys(curve, (*others, *mine))
    return new_curve, _numbers(new_curve, mine)


def sort_keys(curve: Curve, keys: Iterable[Key]) -> Curve:
    """A curve of these keys in the order of time; of two at one time the later given stays."""
    return replace(curve, keys=tuple(sorted({key.t: key for key in keys}.values(), key=lambda key: key.t)))


def _numbers(curve: Curve, keys: list[Key]) -> tuple[int, ...]:
    return tuple(number for number, key in enumerate(curve.keys) if any(key is item for item in keys))


def _slopes(curve: Curve, number: int) -> tuple[float, float]:
    """The curve's own slopes just before and after a key."""
    t, h = curve.keys[number].t, 1e-4
    left, here, right = curve.at(np.array([t - h, t, t + h])).tolist()
    return (here - left) / h, (right - here) / h
