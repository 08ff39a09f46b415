"""The strands that belong to somebody who holds a camera: sizes, bands and ties from published figures.

Figures
-------
- Tremor of the held hand: a central part at 8–12 Hz that load does not move, and the resonance of hand and load, which
  falls as √(stiffness / mass) from about 8 Hz empty (R. Stiles and J. Randall, Journal of Applied Physiology 23, 1967;
  R. Elble and J. Randall, Electroencephalography 44, 1978). It grows two- to threefold with fatigue,
  goes down, and comes in waves.
- Standing: sway below 1 Hz, power falling as 1/f² (D. Winter, Human balance and posture control, 1995).
- Breath: 12–18 a minute at rest, 25–50 after effort, three to five times as deep; height and tilt together.
- Pulse: 60–80 a minute at rest, 120–180 after effort.
- Walking: step rate 1.9 Hz at 1.35 m/s, growing with the root of speed; the body goes over its leg as an inverted
  pendulum, L − √(L² − (step/2)²) high (H. Bachmann and W. Ammann, Vibrations in Structures Induced by Man and
  Machines, 1987), of which knee and hip let four to five centimetres through (S. Gard, S. Miff and A. Kuo, Human
  Movement Science 22, 2004). Stride intervals: :mod:`young_tremor.motion.steps`.
- Running: 2.6–3.0 Hz, 6–10 cm; at the camera two to three times a walk.
- A camera worn on the chest turns with the trunk at half the step rate (D. Winter, Biomechanics and Motor Control of
  Human Movement, 1990), and knows no tremor of hands.
- Arms pass a third to a half of what is above 3 Hz, a shoulder little above 4 Hz; weight lowers that corner as 1/√mass.
- Startle: arms answer a bang in 80–140 ms, the jerk is over in 0.3–0.5 s, and each further bang within seconds brings
  two thirds of the one before (C. Landis and W. Hunt, 1939; P. Brown and others, Brain 114, 1991).

Sizes of turns and travel are our estimate within these, for a lens of 50 mm.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from msgspec.structs import replace

from young_tremor.model import curve_edits
from young_tremor.model.curve import Curve
from young_tremor.model.fields import SEED
from young_tremor.model.holder import ORIGIN, Holder
from young_tremor.model.shake import (
    Corrections,
    Drift,
    DriftChannel,
    DriftChannels,
    Jolts,
    Shake,
    Steps,
    Strand,
    Together,
    Wander,
)

HAND, EMPTY_HZ = 0.5, 8.0  # kg of a hand, and where it resonates with nothing in it
LEG, USUAL = 0.9, 1.35  # metres, metres a second
KNEE = 0.6  # of the pendulum's height, what is left of it at the body
HARD = 1.3  # times what the bounce says, by which a run's landings move the camera
STEP_HZ = 1.9  # at the usual speed
KMH = 1 / 3.6
ARMS_HZ = 3.0  # above which arms pass less, holding one kilogram
RUNS_FROM = 7.0  # km/h, the least that somebody runs
HABIT = 2 / 3  # of the flinch before


@dataclass(frozen=True)
class _Grip:
    """How a grip differs from two free hands: its share of the tremor and of the sway, the share of the load that each
    hand holds, how much of the bounce arrives, how much it rolls and pans with body and trunk, how near to the heart it
    is, and above how many hertz less of the body's motion passes, of one kilogram."""

    tremor: float
    sway: float
    load: float
    bounce: float
    roll: float = 1.0
    pan: float = 1.0
    pulse: float = 1.0
    corner: float = ARMS_HZ


GRIPS = {
    "one": _Grip(1.6, 1.25, 1.0, 1.15),
    "two": _Grip(1.0, 1.0, 0.5, 1.0),
    "elbows": _Grip(0.7, 0.65, 0.5, 0.8),
    "shoulder": _Grip(0.1, 1.1, 0.15, 0.75, roll=0.35, pulse=1.6, corner=4.0),
    "braced": _Grip(0.3, 0.3, 0.3, 0.5, pulse=2.2),
    "worn": _Grip(0.0, 0.8, 0.0, 1.2, roll=1.4, pan=4.0, pulse=1.6, corner=4.0),
    "stand": _Grip(0.04, 0.12, 0.05, 0.3),
}
BODY = {"sits": 0.4, "stands": 1.0, "walks": 1.0, "runs": 1.7, "rides": 1.2}  # sway, of one who stands


def hand_hz(holder: Holder) -> float:
    """Where the hand and what it holds resonate."""
    mass = HAND + GRIPS[holder.grip].load * holder.weight
    return EMPTY_HZ * math.sqrt(HAND / mass) * (1 - 0.2 * holder.tired)


def step_hz(speed: float) -> float:
    """Steps a second at a speed in km/h."""
    if speed >= RUNS_FROM:
        return min(2.6 + 0.05 * (speed - RUNS_FROM), 3.2)
    return STEP_HZ * math.sqrt(max(speed, 0.0) * KMH / USUAL)


def bounce(speed: float) -> float:
    """How far a body goes up and down in a step at a speed in km/h, in metres."""
    rate = step_hz(speed)
    if speed >= RUNS_FROM:
        return min(0.06 + 0.005 * (speed - RUNS_FROM), 0.1)
    half = 0.5 * speed * KMH / rate if rate > 0 else 0.0
    return KNEE * (LEG - math.sqrt(LEG**2 - half**2))


def passed(holder: Holder, hz: float) -> float:
    """How much of a motion of the body at ``hz`` arrives at the camera."""
    corner = GRIPS[holder.grip].corner / math.sqrt(max(holder.weight, 0.2))
    corner = min(max(corner, 0.8), 6.0)
    return 1 / math.sqrt(1 + (hz / corner) ** 2)


@lru_cache(maxsize=64)
def strands_of(holder: Holder) -> tuple[Strand, ...]:
    """The strands of a holder, each with a note that says by which figures."""
    parts: list[tuple[str, Strand]] = [_sway(holder), _breath(holder), _pulse(holder)]
    if GRIPS[holder.grip].tremor:
        parts += [_hand(holder), _central(holder)]
    if holder.doing in ("walks", "runs"):
        parts.insert(0, _steps(holder))
    if holder.flinch:
        parts.append(_flinch(holder))
    return tuple(replace(strand, id=name, origin=f"{ORIGIN}{name}") for name, strand in parts)


def together_of(holder: Holder) -> Together:
    """How a holder's strands belong together: as one body does; who rides is kicked, and who is tired stumbles."""
    if holder.doing == "rides":
        return Together(0.8, 0.12, 50.0, 1.6, holder.seed)
    return Together(0.8 + 0.2 * holder.tired, 0.1, 8.0 * holder.tired, 1.3, holder.seed)


def is_as_made(strand: Strand, holder: Holder) -> bool:
    """Whether a strand is as a holder makes it."""
    return any(strand.origin == fresh.origin and _bare(strand) == _bare(fresh) for fresh in strands_of(holder))


def held_by(shake: Shake, holder: Holder) -> Shake:
    """A shake with a holder in place of the one that it has. What the holder made follows, comes and goes with it; a
    strand that a person changed is left alone, and one that they took away stays away."""
    before = {} if shake.holder is None else {strand.origin: strand for strand in strands_of(shake.holder)}
    after = {strand.origin: strand for strand in strands_of(holder)}
    strands: list[Strand] = []
    for strand in shake.strands:
        old, new = before.get(strand.origin), after.get(strand.origin)
        if old is None or _bare(strand) != _bare(old):
            strands.append(strand)
        elif new is not None:
            strands.append(_in_place_of(strand, new))
    there = {strand.origin for strand in shake.strands} | set(before)
    strands += [strand for origin, strand in after.items() if origin not in there]
    follows = shake.holder is None or shake.together == together_of(shake.holder)
    together = together_of(holder) if follows else shake.together
    return replace(shake, strands=tuple(strands), holder=holder, together=together)


def _bare(strand: Strand) -> Strand:
    """A strand without what a person may change of it while it still follows its holder."""
    bare = replace(strand, id="", name="", note="", on=True, solo=False, seed=1)
    return replace(bare, holds=0.0) if isinstance(bare, Drift) else bare


def _in_place_of(strand: Strand, new: Strand) -> Strand:
    new = replace(new, id=strand.id, on=strand.on, solo=strand.solo, seed=strand.seed)
    return replace(new, holds=strand.holds) if isinstance(new, Drift) and isinstance(strand, Drift) else new


def _follows(curve: Curve, size: Callable[[float], float]) -> Curve:
    """A curve through what a function makes of another one's values."""
    keys = tuple(replace(key, value=size(key.value), slope_in=0.0, slope_out=0.0) for key in curve.keys)
    return Curve(size(curve.value), keys)


def _line(curve: Curve, least: float, more: float) -> Curve:
    """A curve that is ``least`` where another one is 0, and ``more`` above it where that is 1."""
    return curve_edits.added(curve_edits.times(curve, more), least)


def _seed(holder: Holder, number: int) -> int:
    """A seed for each of a holder's strands, within what a strand may have."""
    return (holder.seed * 13 + number) % SEED[1]


def _steps(holder: Holder) -> tuple[str, Drift]:
    speeds = [holder.speed.value, *(key.value for key in holder.speed.keys)]
    usual = max(max(speeds), 0.5)
    runs = usual >= RUNS_FROM or holder.doing == "runs"
    usual = max(usual, RUNS_FROM) if holder.doing == "runs" else usual
    rate, high = step_hz(usual), bounce(usual)
    grip = GRIPS[holder.grip]
    size = high / bounce(USUAL / KMH) * grip.bounce * HARD**runs
    like = rate if runs else STEP_HZ  # at which one kilogram in two hands gets all of that
    up = size * passed(holder, rate) / passed(Holder(), like)
    aside = (0.85 * size if runs else size**0.5) * passed(holder, rate / 2) / passed(Holder(), like / 2)
    harmonics = (0.45, 0.25, 0.1) if runs else (0.28, 0.1)
    higher = tuple(h * passed(holder, rate * (k + 2)) / passed(holder, rate) for k, h in enumerate(harmonics))

    def speed(value: float) -> float:
        return step_hz(max(value, RUNS_FROM) if holder.doing == "runs" and value > 0 else value)

    def amount(value: float) -> float:
        return min(bounce(value) / high, 1.0) if value < usual else 1.0

    return "steps", Drift(
        "steps",
        name="Strides" if runs else "Steps",
        note=f"{rate:.2f} a second, body {100 * high:.1f} cm (Bachmann and Ammann 1987)",
        seed=_seed(holder, 1),
        rate=_follows(holder.speed, speed),
        amount=Curve(1.0) if holder.speed.constant else _follows(holder.speed, amount),
        roughness=0.1,
        regularity=0.97,
        steps=Steps(0.03, 0.12 if runs else 0.1, 0.08, 0.4 if runs else 0.22, True),
        channels=DriftChannels(
            x=DriftChannel(0.33 * aside, rate=0.5, phase=90),
            y=DriftChannel(0.41 * up, harmonics=higher),
            roll=DriftChannel(0.24 * aside * grip.roll, rate=0.5, phase=95),
            pan=DriftChannel(0.089 * aside * grip.pan, rate=0.5, phase=70),
            tilt=DriftChannel(0.12 * up, phase=20, harmonics=higher),
        ),
    )


def _sway(holder: Holder) -> tuple[str, Drift]:
    size = BODY[holder.doing] * GRIPS[holder.grip].sway * (1 + 0.6 * holder.tired) / (1 + holder.weight / 8) ** 0.5
    return "sway", Drift(
        "sway",
        name="Sway",
        note="balance, falling as 1/f² (Winter 1995)",
        seed=_seed(holder, 2),
        rate=Curve(0.32),
        roughness=0.12,
        wander=Wander(0.45, 0.07),
        corrections=Corrections(1.3, 18.0 / (1 + 0.1 * holder.weight), 0.6),
        channels=DriftChannels(
            x=DriftChannel(0.09 * size, rate=0.9),
            y=DriftChannel(0.03 * size, rate=0.9),
            roll=DriftChannel(0.052 * size * GRIPS[holder.grip].roll),
            zoom=DriftChannel(0.08 * size, rate=0.6),
            pan=DriftChannel(0.15 * size),
            tilt=DriftChannel(0.1 * size * (1 + 0.4 * holder.tired)),  # arms sag
        ),
    )


def _breath(holder: Holder) -> tuple[str, Drift]:
    size = (0.5 if holder.grip in ("braced", "stand") else 1.0) * (0.6 if holder.grip == "shoulder" else 1.0)
    return "breath", Drift(
        "breath",
        name="Breath",
        note="height and tilt together (textbook physiology)",
        seed=_seed(holder, 3),
        rate=_line(holder.breath, 0.25, 0.45),
        amount=_line(holder.breath, 1.0, 3.0),
        regularity=0.85,
        wander=Wander(0.2, 0.05),
        channels=DriftChannels(
            y=DriftChannel(0.05 * size, harmonics=(0.25,)), tilt=DriftChannel(0.06 * size, harmonics=(0.25,))
        ),
    )


def _pulse(holder: Holder) -> tuple[str, Drift]:
    size = GRIPS[holder.grip].pulse / (1 + 0.5 * holder.weight) ** 0.5
    return "pulse", Drift(
        "pulse",
        name="Pulse",
        note="felt when leaning (textbook physiology)",
        seed=_seed(holder, 4),
        rate=_line(holder.breath, 1.15, 1.35),
        amount=_line(holder.breath, 1.0, 1.0),
        regularity=0.95,
        wander=Wander(0.15, 0.2),
        channels=DriftChannels(tilt=DriftChannel(0.009 * size, harmonics=(0.7, 0.5, 0.3))),
    )


def _tremor(holder: Holder, name: str, words: str, why: str, *, rate: float, size: float) -> Drift:
    mass = HAND + GRIPS[holder.grip].load * holder.weight
    size *= GRIPS[holder.grip].tremor * (1 + 1.5 * holder.tired) * math.sqrt((HAND + 0.5) / mass)
    return Drift(
        name,
        name=words,
        note=f"{rate:.1f} Hz{why}",
        seed=_seed(holder, 5 + len(name)),
        rate=Curve(rate),
        amount=_line(holder.nerves, 1.0, 3.0),
        regularity=0.35,
        wander=Wander(0.5 + 0.3 * holder.tired, 0.3),
        channels=DriftChannels(
            roll=DriftChannel(0.7 * size), pan=DriftChannel(0.92 * size), tilt=DriftChannel(size, rate=1.05)
        ),
    )


def _hand(holder: Holder) -> tuple[str, Drift]:
    why = ", lower with weight (Stiles and Randall 1967)"
    return "hand", _tremor(holder, "hand", "Hand", why, rate=hand_hz(holder), size=0.024)


def _central(holder: Holder) -> tuple[str, Drift]:
    why = " whatever the weight (Elble and Randall 1978)"
    return "central", _tremor(holder, "central", "Central tremor", why, rate=10.0, size=0.014)


def _flinch(holder: Holder) -> tuple[str, Jolts]:
    size = max(GRIPS[holder.grip].tremor, 0.3) ** 0.5 / (1 + holder.weight / 6) ** 0.5
    return "flinch", Jolts(
        "flinch",
        name="Flinch",
        note="110 ms after each hit (Landis and Hunt 1939)",
        seed=_seed(holder, 20),
        reach=0.5 * size,
        roll=0.25 * size,
        ring=3.2,
        settle=0.22,
        rise=0.03,
        rattle=0.1,
        tail=0.25,
        direction=270.0,
        delay=0.11,
        differ=0.6,
        habit=HABIT,
    )
