"""What moves a shot or a plate: a stack of strands, with intensity and pace over all of them."""

from __future__ import annotations

from typing import Literal

import msgspec

from young_tremor.model.curve import Curve

Channel = Literal["x", "y", "roll", "zoom", "pan", "tilt"]
CHANNELS: tuple[Channel, ...] = ("x", "y", "roll", "zoom", "pan", "tilt")
UNITS = {"x": "%", "y": "%", "roll": "°", "zoom": "%", "pan": "°", "tilt": "°"}


class Point(msgspec.Struct, frozen=True, omit_defaults=True):
    """A place in frame units (frame height 1) from the frame's centre, y down."""

    x: float = 0.0
    y: float = 0.0


class Wander(msgspec.Struct, frozen=True, omit_defaults=True):
    """A slow modulation of each channel's size: ``depth`` 0…1, ``rate`` swings per second."""

    depth: float = 0.0
    rate: float = 0.08


class DriftChannel(msgspec.Struct, frozen=True, omit_defaults=True):
    """One channel of a drift.

    ``reach``: 95 % quantile of the absolute value at amount 100 %, in the channel's unit; 0 is off.
    ``rate``: factor on the strand's rate. ``regularity`` and ``roughness`` override the strand's where given.
    ``phase``: degrees by which this channel's regular part is ahead of the strand's common beat.
    ``harmonics``: sizes of the 2nd, 3rd, … harmonic of the regular part, the first being 1.
    """

    reach: float = 0.0
    rate: float = 1.0
    regularity: float | None = None
    roughness: float | None = None
    phase: float = 0.0
    harmonics: tuple[float, ...] = ()


class DriftChannels(msgspec.Struct, frozen=True, omit_defaults=True):
    """The six channels of a drift, by name."""

    x: DriftChannel = DriftChannel()
    y: DriftChannel = DriftChannel()
    roll: DriftChannel = DriftChannel()
    zoom: DriftChannel = DriftChannel()
    pan: DriftChannel = DriftChannel()
    tilt: DriftChannel = DriftChannel()

    def __getitem__(self, channel: str) -> DriftChannel:
        value: DriftChannel = getattr(self, channel)
        return value


class Drift(msgspec.Struct, frozen=True, omit_defaults=True, tag="drift", tag_field="kind"):
    """Continuous procedural motion. ``rate`` in upward zero crossings per second; ``pivot`` None is the frame's."""

    id: str
    name: str = "Drift"
    note: str = ""
    on: bool = True
    amount: Curve = Curve(1.0)
    rate: Curve = Curve(0.6)
    roughness: float = 0.2
    regularity: float = 0.0
    wander: Wander = Wander()
    seed: int = 1
    channels: DriftChannels = DriftChannels()
    pivot: Point | None = None


Strand = Drift


class Shake(msgspec.Struct, frozen=True, omit_defaults=True):
    """A stack of strands. ``intensity`` says how much, ``pace`` how fast time runs; ``preset`` where it came from."""

    strands: tuple[Strand, ...] = ()
    intensity: Curve = Curve(1.0)
    pace: Curve = Curve(1.0)
    preset: str = ""
