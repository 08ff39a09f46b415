"""What is heard: the footage's own sound, low noise that follows the motion, knocks at hits, files laid under."""

from __future__ import annotations

from typing import Annotated, Literal

from young_tremor.base.number_scale import NumberScale
from young_tremor.model.curve import Curve
from young_tremor.model.fields import (
    LEVEL,
    LEVEL_SCALE,
    SEED,
    TIME,
    TIME_CONSTANT_SCALE,
    UNIT,
    UNIT_SCALE,
    AtMost,
    Checked,
    Choice,
    Number,
    Switch,
    check_ids,
    check_text,
)

Follow = Literal["speed", "intensity", "nothing"]
Matter = Literal["ground", "skin", "wood", "metal", "glass"]
FOLLOW_OPTIONS = (
    ("speed", "Follows the camera's speed"),
    ("intensity", "Follows the intensity"),
    ("nothing", "Always as loud"),
)
MATTER_OPTIONS = (("ground", "Ground"), ("skin", "Skin"), ("wood", "Wood"), ("metal", "Metal"), ("glass", "Glass"))


class _SoundRow(Checked, frozen=True, kw_only=True):
    """What all sounds have. ``level`` in dB; ``place``: −1 on the left only, 1 on the right only."""

    id: str
    name: str = ""
    note: str = ""
    on: bool = True
    level: Annotated[
        Curve,
        Number(
            "Level", "How loud (volume); −48 and less is silence", LEVEL, LEVEL_SCALE, words="volume, gain, loudness"
        ),
    ] = Curve(0.0)
    place: Annotated[
        Curve,
        Number(
            "Place",
            "−1 left only, 0 both sides, 1 right only (pan)",
            (-1, 1),
            NumberScale(-1, 1, "", 2, least=-1, most=1),
            unit="−1 to 1",
            words="pan, panning, left and right, stereo position",
        ),
    ] = Curve(0.0)

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("name", self.name)
        check_text("note", self.note)


class _Following(_SoundRow, frozen=True, kw_only=True):
    """A sound whose loudness can follow the shake: the speed of the camera or the intensity, rising in ``attack`` and
    falling in ``release`` seconds (1/e), or nothing."""

    follow: Annotated[Follow, Choice("Follows", "What its loudness follows", FOLLOW_OPTIONS, words="envelope")] = (
        "speed"
    )
    attack: Annotated[
        float, Number("Attack", "How quickly it rises with the motion", (0.001, 30), TIME_CONSTANT_SCALE)
    ] = 0.08
    release: Annotated[float, Number("Release", "How slowly it falls after it", (0.001, 60), TIME_CONSTANT_SCALE)] = 0.6


class Rumble(_Following, frozen=True, kw_only=True, tag="rumble", tag_field="kind"):
    """Low noise around ``tone`` Hz, ``spread`` octaves wide.

    ``roughness``: the share of a coarse, broken band above it. ``hum``: the share of a held tone with overtones, as of
    an engine. ``width``: 0 one and the same on both sides, 1 each its own.
    """

    name: str = "Rumble"
    tone: Annotated[
        float,
        Number(
            "Tone",
            "Where the noise is strongest (frequency)",
            (10, 400),
            NumberScale(20, 160, "Hz", 0, bend=2, least=10, most=400),
            words="frequency, pitch",
        ),
    ] = 40.0
    spread: Annotated[
        float,
        Number(
            "Spread",
            "How many octaves it is wide",
            (0.05, 6),
            NumberScale(0.2, 4, "oct", 1, bend=1.6, least=0.05, most=6),
            words="bandwidth",
        ),
    ] = 1.2
    roughness: Annotated[
        float, Number("Roughness", "A coarse, broken band above it", UNIT, UNIT_SCALE, words="distortion")
    ] = 0.2
    hum: Annotated[
        float, Number("Hum", "A held tone with overtones, as of an engine", UNIT, UNIT_SCALE, words="engine tone")
    ] = 0.0
    width: Annotated[
        float,
        Number("Width", "0 one and the same on both sides, 1 each its own", UNIT, UNIT_SCALE, words="stereo width"),
    ] = 0.5
    seed: Annotated[int, Number("Seed", "Which course the noise takes", SEED)] = 1


class Knocks(_SoundRow, frozen=True, kw_only=True, tag="knocks", tag_field="kind"):
    """A sound at each hit: a body that rings at ``pitch`` Hz, starting ``fall`` octaves above it, for ``decay`` seconds
    (1/e), of some ``matter``; a ``click``; a ``room`` of ``reverb`` seconds (60 dB). Or a file, ``path``.

    It comes as late as the jolts named ``strand`` do (the first ones where it is empty), and ``delay`` seconds besides.
    ``differ``: how much no two of them are alike.
    """

    name: str = "Knocks"
    pitch: Annotated[
        float,
        Number(
            "Pitch",
            "Pitch of the ringing body",
            (15, 4000),
            NumberScale(25, 900, "Hz", 0, bend=3, least=15, most=4000),
            words="frequency",
        ),
    ] = 70.0
    fall: Annotated[
        float,
        Number(
            "Fall",
            "From how many octaves above it comes",
            (-4, 4),
            NumberScale(-1, 3, "oct", 1, least=-4, most=4),
            words="pitch drop",
        ),
    ] = 0.5
    decay: Annotated[
        float,
        Number(
            "Decay",
            "How long until a third of it is left",
            (0.002, 10),
            NumberScale(0.01, 4, "s", 2, bend=3, least=0.002, most=10),
        ),
    ] = 0.18
    matter: Annotated[Matter, Choice("Matter", "What is struck", MATTER_OPTIONS, words="material")] = "wood"
    bright: Annotated[float, Number("Brightness", "Share of overtones", UNIT, UNIT_SCALE, words="timbre")] = 0.5
    click: Annotated[
        float, Number("Click", "The attack's hard edge (transient)", UNIT, UNIT_SCALE, words="transient")
    ] = 0.3
    room: Annotated[float, Number("Room", "How much the room answers (reverb)", UNIT, UNIT_SCALE, words="reverb")] = (
        0.25
    )
    reverb: Annotated[
        float,
        Number(
            "Room's length",
            "Reverb time: seconds to −60 dB",
            (0.05, 10),
            NumberScale(0.1, 5, "s", 1, bend=2, least=0.05, most=10),
            words="reverb time",
        ),
    ] = 0.7
    delay: Annotated[
        float,
        Number(
            "Delay",
            "Added to the delay of its jolts",
            (-60, 60),
            NumberScale(-1, 2, "s", 2, least=-60, most=60),
        ),
    ] = 0.0
    strand: str = ""
    path: str = ""
    differ: Annotated[
        float, Number("Difference", "How much no two of them are alike", UNIT, UNIT_SCALE, words="variation")
    ] = 0.3
    seed: Annotated[int, Number("Seed", "Which course that takes", SEED)] = 1

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("path", self.path)


class Layer(_Following, frozen=True, kw_only=True, tag="layer", tag_field="kind"):
    """A sound file laid under, from ``offset`` seconds of the shot on; ``loop``: over and over, each end crossfaded
    over ``fade`` seconds."""

    name: str = "Layer"
    follow: Annotated[Follow, Choice("Follows", "What its loudness follows", FOLLOW_OPTIONS, words="envelope")] = (
        "nothing"
    )
    path: str = ""
    offset: Annotated[
        float,
        Number(
            "Start",
            "Seconds of the shot at which it begins",
            TIME,
            NumberScale(0, 20, "s", 2, bend=2, least=-1e6, most=1e6),
            words="sync",
        ),
    ] = 0.0
    loop: Annotated[bool, Switch("Over and over", "Begins again at its end (loop)", words="loop")] = True
    fade: Annotated[
        float, Number("Crossfade", "Length of the crossfade", (0, 60), TIME_CONSTANT_SCALE, words="loop blend")
    ] = 0.5

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("path", self.path)


Sound = Rumble | Knocks | Layer


class SoundSway(Checked, frozen=True):
    """How the sound trembles with the picture: its level by ± ``level`` dB with the speed of the motion, its place by
    ``balance`` (0 … 1) with where the picture goes. ``whole``: the whole mix, not only the footage's sound."""

    on: bool = False
    level: Annotated[
        float,
        Number(
            "Level",
            "By how much it trembles with the speed",
            (0, 24),
            NumberScale(0, 12, "dB", 1, least=0, most=24),
            unit="± dB",
            words="tremolo",
        ),
    ] = 3.0
    balance: Annotated[
        float,
        Number("Balance", "How far it goes to the sides with the picture", UNIT, UNIT_SCALE, words="pan of the sound"),
    ] = 0.4
    whole: Annotated[bool, Switch("All sound, not only the footage's", "The whole mix sways with the picture")] = False


class Mix(Checked, frozen=True):
    """All that is heard of a shot. ``on``: the lamp of all but the footage's own sound. ``footage``: whether that is
    heard, at ``level`` dB. ``limit``: no true peak passes −1 dB."""

    on: bool = True
    footage: bool = True
    level: Annotated[
        Curve, Number("Level", "How loud (volume); −48 and less is silence", LEVEL, LEVEL_SCALE, words="volume, gain")
    ] = Curve(0.0)
    rows: Annotated[tuple[Sound, ...], AtMost(32)] = ()
    sway: SoundSway = SoundSway()
    limit: Annotated[
        bool,
        Switch(
            "Hold peaks at −1 dB",
            "A limiter that looks ahead; where it works, the row of all sound is red",
            words="limiter, clipping",
        ),
    ] = True

    def __post_init__(self) -> None:
        super().__post_init__()
        check_ids("sounds", self.rows)

    @property
    def heard(self) -> tuple[Sound, ...]:
        """The sounds that are on."""
        return tuple(row for row in self.rows if row.on) if self.on else ()

    @property
    def untouched(self) -> bool:
        """Whether nothing is done to the footage's sound."""
        plain = self.footage and self.level.constant and self.level.value == 0
        return plain and not self.heard and not (self.on and self.sway.on)
