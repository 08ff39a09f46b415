"""What moves a shot or a plate: a stack of strands, with intensity and pace over all of them.

Strands have fields in common (:class:`Common`); each kind adds its own. What a kind does stands in one place,
``motion.strand_kinds``.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, ClassVar, Literal, get_args

from young_tremor.base.number_scale import NumberScale
from young_tremor.model.curve import Curve, later
from young_tremor.model.fields import (
    AMOUNT_SCALE,
    ANGLE_SCALE,
    EXTENT_SCALE,
    FACTOR,
    PHASE_SCALE,
    PLACE_SCALE,
    SEED,
    STRETCH_SCALE,
    TIME,
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
from young_tremor.model.holder import FLINCH, Holder
from young_tremor.model.take import BEYOND_WORDS, Beyond, Endless, Gains, Take

Channel = Literal["x", "y", "roll", "zoom", "pan", "tilt"]
CHANNELS: tuple[Channel, ...] = ("x", "y", "roll", "zoom", "pan", "tilt")
UNITS = {"x": "%", "y": "%", "roll": "°", "zoom": "%", "pan": "°", "tilt": "°"}
JOLT_SCALE = NumberScale(0, 10, "%", 2, bend=2, least=0, most=100)
RIPPLE_SCALE = NumberScale(0, 3, "%", 2, bend=2, least=0, most=50)


class Point(Checked, frozen=True):
    """A place in frame units (frame height 1) from the frame's centre, y down; it may move."""

    x: Annotated[
        Curve,
        Number(
            "Across",
            "Percent of frame height right of the middle",
            (-1000, 1000),
            PLACE_SCALE,
            unit="frame heights",
            per=100,
        ),
    ] = Curve()
    y: Annotated[
        Curve,
        Number(
            "Down",
            "Percent of frame height below the middle",
            (-1000, 1000),
            PLACE_SCALE,
            unit="frame heights",
            per=100,
        ),
    ] = Curve()

    @property
    def central(self) -> bool:
        """Whether it stays in the frame's centre."""
        return self == Point()


class Region(Checked, frozen=True):
    """Where a strand or a shake acts on the delivered picture.

    ``centre`` in frame units; ``width`` and ``height`` in frame units (of an ellipse or a rectangle); ``outline``: the
    corners of a polygon about the centre. ``feather``: frame units over which it fades; ``outside``: acts there
    instead.
    """

    shape: Literal["ellipse", "rectangle", "polygon"] = "ellipse"
    centre: Point = Point()
    width: Annotated[
        Curve, Number("Width", "Percent of frame height", (0, 1000), EXTENT_SCALE, unit="frame heights", per=100)
    ] = Curve(0.8)
    height: Annotated[
        Curve, Number("Height", "Percent of frame height", (0, 1000), EXTENT_SCALE, unit="frame heights", per=100)
    ] = Curve(0.6)
    outline: Annotated[tuple[tuple[float, float], ...], AtMost(512)] = ()
    feather: Annotated[
        float,
        Number(
            "Feather",
            "Over which it fades, percent of frame height",
            (0, 1000),
            NumberScale(0, 60, "%", 1, bend=2, least=0, most=400),
            unit="frame heights",
            per=100,
            words="soft edge",
        ),
    ] = 0.15
    outside: Annotated[bool, Switch("Outside of it instead", "Acts around the region, not inside", words="invert")] = (
        False
    )


class Wander(Checked, frozen=True):
    """A slow modulation of each channel's size: ``depth`` 0…1, ``rate`` swings per second."""

    depth: Annotated[
        float,
        Number(
            "Wander",
            "How far its size comes and goes",
            (0, 10),
            UNIT_SCALE,
            unit="log of a factor",
            words="slow variation, amplitude modulation",
        ),
    ] = 0.0
    rate: Annotated[
        float,
        Number(
            "Wander rate",
            "How often its size comes and goes",
            (0, 100),
            NumberScale(0.01, 2, "Hz", 2, bend=3, least=0.001, most=20),
        ),
    ] = 0.08


class Corrections(Checked, frozen=True):
    """Now and then the framing is corrected: ``size`` in times the reach of pan and tilt (of x and y where there are
    none), ``rate`` a minute, ``long`` seconds that one takes on average; after each the hand is steadier for a while.
    """

    size: Annotated[
        float,
        Number(
            "Corrections",
            "Occasional reframing, in times the reach; the hand is steadier after each",
            (0, 100),
            NumberScale(0, 4, "×", 2, bend=1.5, least=0, most=100),
            unit="times the reach",
            words="reframing, adjustments",
        ),
    ] = 0.0
    rate: Annotated[
        float,
        Number(
            "How often", "Corrections a minute", (0, 120), NumberScale(2, 60, "/min", 0, bend=1.5, least=0, most=120)
        ),
    ] = 18.0
    long: Annotated[float, Number("Long", "How long one takes", (0.05, 10), unit="s")] = 0.6


class Steps(Checked, frozen=True):
    """A drift's regular part as steps: each differs by ``length`` and ``size`` (standard deviations, as shares), left
    from right by ``uneven``, and lands with a short damped knock of ``strike`` times the reach in the channels that go
    once a step. ``free``: each step's time is the sum of the intervals before it, whose deviations have a long memory,
    and left and right differ a little in length; otherwise steps differ about an even beat."""

    length: Annotated[float, Number("Length", "By which steps differ in time", (0, 0.3), unit="share")] = 0.0
    size: Annotated[
        float,
        Number(
            "Step size",
            "How much steps differ in size; a walk has 0.1",
            UNIT,
            NumberScale(0, 0.4, "", 2, least=0, most=1),
            unit="share",
        ),
    ] = 0.0
    uneven: Annotated[float, Number("Uneven", "By which left differs from right", (-1, 1), unit="share")] = 0.0
    strike: Annotated[
        float,
        Number(
            "Heel strike",
            "A short knock at each beat, in times the reach",
            (0, 10),
            NumberScale(0, 1, "×", 2, least=0, most=10),
            words="footfall",
        ),
    ] = 0.0
    free: Annotated[
        bool,
        Switch(
            "Steps run free",
            "Each step begins where the last one ended, as a person's do; otherwise they keep an even beat",
            words="irregular gait, natural walk",
        ),
    ] = False


class Stretch(Checked, frozen=True):
    """When a strand acts: from ``start`` to ``end`` seconds of the shot (None: from its first, to its last frame),
    with fades of so many seconds inside."""

    start: Annotated[float | None, Number("From", "Acts from here on", TIME, STRETCH_SCALE, words="in point")] = None
    end: Annotated[
        float | None, Number("To", "Acts until here; 0 is the end", TIME, STRETCH_SCALE, words="out point")
    ] = None
    fade_in: Annotated[
        float,
        Number(
            "Fade in", "From nothing, after its start", (0, 1e6), NumberScale(0, 5, "s", 2, bend=2, least=0, most=600)
        ),
    ] = 0.0
    fade_out: Annotated[
        float,
        Number(
            "Fade out", "To nothing, before its end", (0, 1e6), NumberScale(0, 5, "s", 2, bend=2, least=0, most=600)
        ),
    ] = 0.0


class Rests(Checked, frozen=True):
    """Holding still: ``share`` of the time 0…0.95, typically ``hold`` seconds at a time."""

    share: Annotated[
        float,
        Number(
            "Rests",
            "Share of the time in which it holds still",
            UNIT,
            NumberScale(0, 0.9, "", 2),
            words="pauses, stillness",
        ),
    ] = 0.0
    hold: Annotated[
        float,
        Number(
            "Hold",
            "How long it typically holds still",
            (0.05, 1e4),
            NumberScale(0.2, 8, "s", 1, bend=2, least=0.05, most=120),
        ),
    ] = 1.2


class Hit(Checked, frozen=True):
    """A moment on the time ruler, in seconds of the shot, with a strength (1 is the norm)."""

    id: str
    t: Annotated[float, Number("Time", "When, from the shot's first frame", TIME, unit="s")]
    strength: Annotated[float, Number("Strength", "How hard; 1 is the norm", (-100, 100), unit="factor")] = 1.0


class DriftChannel(Checked, frozen=True):
    """One channel of a drift.

    ``reach``: 95 % quantile of the absolute value at amount 100 %, in the channel's unit; 0 is off.
    ``rate``: factor on the strand's rate. ``regularity`` and ``roughness`` override the strand's where given.
    ``phase``: degrees by which this channel's regular part is ahead of the strand's common beat.
    ``harmonics``: sizes of the 2nd, 3rd, … harmonic of the regular part, the first being 1.
    """

    reach: Annotated[
        float,
        Number(
            "Reach",
            "Amplitude: 95 % of the time the motion stays below it",
            FACTOR,
            unit="% of height, °",
            words="amplitude, maximum offset",
        ),
    ] = 0.0
    rate: Annotated[
        float,
        Number(
            "Rate factor",
            "Times the strand's rate; 0.5 is half as fast",
            (0, 1000),
            NumberScale(0.05, 4, "×", 2, bend=2, least=0.01, most=50),
        ),
    ] = 1.0
    regularity: Annotated[float | None, Number("Regularity", "Of this channel, in place of the strand's", UNIT)] = None
    roughness: Annotated[float | None, Number("Roughness", "Likewise", UNIT)] = None
    phase: Annotated[
        float,
        Number(
            "Phase",
            "How far its regular part is ahead of the common beat",
            TIME,
            NumberScale(-180, 180, "°", 0, least=-360, most=360),
        ),
    ] = 0.0
    harmonics: Annotated[tuple[float, ...], AtMost(16)] = ()


class DriftChannels(Checked, frozen=True):
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


class Common(Checked, frozen=True):
    """What all strands have.

    ``LABEL``: what a kind is called on the screen; ``SECOND``: the field that stands beside the amount on its row.
    ``name`` and ``note`` are for people; ``amount`` multiplies, 1 is as saved; ``pivot``: about which it turns and
    scales (None: the frame's); ``stretch`` in which it acts; ``origin``: the preset it came from and its id there;
    ``region`` of the picture on which it acts. ``matte``: it moves the alpha of pictures alone, their outline, and
    leaves the colours; opaque pictures stay as they are.
    """

    LABEL: ClassVar[str] = "Strand"
    SECOND: ClassVar[str] = ""

    id: str
    name: str = "Strand"
    note: str = ""
    on: bool = True
    amount: Annotated[
        Curve,
        Number(
            "Amount",
            "How much of this strand (amplitude)",
            FACTOR,
            AMOUNT_SCALE,
            per=100,
            words="amplitude, strength, size of the shake",
        ),
    ] = Curve(1.0)
    seed: Annotated[
        int, Number("Seed", "Random seed: another motion of the same kind", SEED, words="random seed, variation")
    ] = 1
    pivot: Point | None = None
    solo: bool = False
    stretch: Stretch = Stretch()
    origin: str = ""
    region: Region | None = None
    matte: Annotated[
        bool,
        Switch(
            "On the outline alone",
            "Moves alpha only, not the colours: for titles and graphics",
            words="alpha only, matte only, boil, wobbling outline",
        ),
    ] = False

    def __post_init__(self) -> None:
        super().__post_init__()
        for what, text in (("name", self.name), ("note", self.note), ("origin", self.origin)):
            check_text(what, text)


class Drift(Common, frozen=True, kw_only=True, tag="drift", tag_field="kind"):
    """Continuous procedural motion. ``rate`` in upward zero crossings per second; ``pivot`` None is the frame's.

    ``step``: positions per second, each held (0: none is). ``lean`` of the zoom: -1 only out, 0 both, +1 only in.
    ``ease_in``: seconds from stillness at the shot's start. ``holds``: seconds of the shot over which each channel's
    own 95 % quantile is its reach (0: over all time only). ``rule``: 1 is how wander, rests and a keyed rate were
    worked out up to version 3 of the document; it is kept so that old projects look as they did.
    """

    LABEL: ClassVar[str] = "Drift"
    SECOND: ClassVar[str] = "rate"

    name: str = "Drift"
    rate: Annotated[
        Curve,
        Number(
            "Rate",
            "Swings per second (frequency), roughness included",
            (0, 1000),
            NumberScale(0.02, 12, "Hz", 2, bend=3, least=0.0, most=60),
            words="frequency, speed of the shake, hertz",
        ),
    ] = Curve(0.6)
    roughness: Annotated[
        float,
        Number("Roughness", "Tremor on top, up to 12 Hz", UNIT, UNIT_SCALE, words="jitter, high frequencies, noise"),
    ] = 0.2
    regularity: Annotated[
        float,
        Number(
            "Regularity",
            "0 is a broad band, 1 a single even swing",
            UNIT,
            UNIT_SCALE,
            words="periodic, even swing, sine",
        ),
    ] = 0.0
    wander: Wander = Wander()
    channels: DriftChannels = DriftChannels()
    rests: Rests = Rests()
    step: Annotated[
        float,
        Number(
            "Steps",
            "Positions per second, each held; 0 is none",
            (0, 1000),
            NumberScale(0, 24, "/s", 0, least=0, most=120),
            words="on twos, posterised time, stop motion",
        ),
    ] = 0.0
    lean: Annotated[
        float,
        Number("Zoom lean", "−1 only out, 0 both ways, 1 only in", (-1, 1), NumberScale(-1, 1, "", 2), unit="−1 to 1"),
    ] = 0.0
    ease_in: Annotated[
        float,
        Number(
            "Ease in",
            "From stillness at the shot's start",
            (0, 1e6),
            NumberScale(0, 10, "s", 1, bend=2, least=0, most=600),
            words="ramp up, fade in of the motion",
        ),
    ] = 0.0
    corrections: Corrections = Corrections()
    steps: Steps = Steps()
    holds: Annotated[
        float,
        Number(
            "Reach holds in",
            "Seconds of this shot over which 95 % of the motion stays within the reach; 0: over all time",
            (0, 1e6),
            NumberScale(0, 60, "s", 1, bend=2, least=0, most=1e5),
        ),
    ] = 0.0
    rule: Annotated[int, Number("Rule", "By which version it is worked out: older projects keep theirs", (1, 2))] = 2


class Jolts(Common, frozen=True, kw_only=True, tag="jolts", tag_field="kind"):
    """What the shot's hits excite.

    ``reach`` in percent of frame height, ``roll`` in degrees, ``zoom`` in percent: the largest displacement of a hit
    of strength 1. ``ring`` in Hz; ``settle`` and ``rise`` in seconds (1/e); ``rattle`` and ``tail`` 0…1.
    ``direction`` in degrees (0 right, 90 down), or None: seeded for each hit. ``delay`` in seconds, on top of that of
    sound over ``distance`` metres. ``differ`` 0…1: how much hits differ; ``habit``: what is left at each further hit.
    ``phase`` in degrees: 0 starts from rest, 90 with a push. ``rule``: 1 is how rattle was mixed in up to version 3 of
    the document.
    """

    LABEL: ClassVar[str] = "Jolts"
    SECOND: ClassVar[str] = "settle"

    name: str = "Jolts"
    reach: Annotated[
        float,
        Number(
            "Shift",
            "Largest swing (amplitude), percent of the frame's height",
            FACTOR,
            JOLT_SCALE,
            unit="% of height",
            words="amplitude, impact strength",
        ),
    ] = 1.0
    roll: Annotated[
        float,
        Number("Roll", "Largest turn", FACTOR, NumberScale(0, 4, "°", 2, bend=2, least=0, most=90), words="rotation"),
    ] = 0.0
    zoom: Annotated[float, Number("Zoom", "Largest zoom", FACTOR, JOLT_SCALE, words="scale")] = 0.0
    ring: Annotated[
        float,
        Number(
            "Ring",
            "Swings per second (frequency)",
            (0, 1000),
            NumberScale(1, 30, "Hz", 1, bend=2, least=0.2, most=120),
            words="frequency, vibration",
        ),
    ] = 9.0
    settle: Annotated[
        float,
        Number(
            "Settle",
            "How long until a third is left (decay)",
            (0, 1000),
            NumberScale(0.03, 2, "s", 2, bend=2, least=0.005, most=20),
            words="decay, damping, falloff",
        ),
    ] = 0.35
    rise: Annotated[
        float,
        Number(
            "Rise",
            "How fast it comes (attack)",
            (0, 1000),
            NumberScale(0.001, 0.3, "s", 3, bend=3, least=0.0005, most=5),
            words="attack",
        ),
    ] = 0.012
    rattle: Annotated[
        float, Number("Rattle", "From a clean ring to noise", UNIT, UNIT_SCALE, words="noise, randomness")
    ] = 0.15
    tail: Annotated[
        float,
        Number("Tail", "Share of the motion that dies away four times as slowly", UNIT, UNIT_SCALE, words="release"),
    ] = 0.1
    phase: Annotated[float, Number("Phase", "0 from rest, 90 with a push", TIME, PHASE_SCALE)] = 0.0
    direction: Annotated[
        float | None, Number("Direction", "0 right, 90 down", TIME, ANGLE_SCALE, words="angle of the impact")
    ] = 90.0
    delay: Annotated[
        float,
        Number("Delay", "After the hit", FACTOR, NumberScale(0, 2, "s", 2, bend=2, least=0, most=60), words="lag"),
    ] = 0.0
    distance: Annotated[
        float,
        Number(
            "Distance",
            "As sound comes, 343 m a second",
            (0, 1e6),
            NumberScale(0, 500, "m", 0, bend=2, least=0, most=20000),
        ),
    ] = 0.0
    differ: Annotated[
        float,
        Number(
            "Differ",
            "How much hits differ in size, direction, ring and settling; 0 is every hit alike",
            UNIT,
            UNIT_SCALE,
            words="variation, randomise, humanise",
        ),
    ] = 0.0
    habit: Annotated[
        float,
        Number(
            "Habit",
            "What is left of it at each further hit within ten seconds; 1 is all",
            UNIT,
            UNIT_SCALE,
            words="habituation, wears off",
        ),
    ] = 1.0
    rule: Annotated[int, Number("Rule", "By which version it is worked out", (1, 2))] = 2


class Plotted(Common, frozen=True, kw_only=True, tag="plotted", tag_field="kind"):
    """Motion placed by hand: a curve each for shift (percent of frame height), turn (degrees) and zoom (percent).

    ``repeat`` goes round to the end, ``irregular`` 0…1 makes the rounds differ by ``seed``.
    """

    LABEL: ClassVar[str] = "Plotted"
    SECOND: ClassVar[str] = "irregular"

    name: str = "Plotted"
    x: Annotated[
        Curve,
        Number(
            "X here",
            "Typed or dragged, it sets a key at the playhead (keyframe)",
            TIME,
            NumberScale(-5, 5, "%", 2, least=-100, most=100),
            unit="% of height",
        ),
    ] = Curve()
    y: Annotated[
        Curve,
        Number(
            "Y here",
            "Typed or dragged, it sets a key at the playhead (keyframe)",
            TIME,
            NumberScale(-5, 5, "%", 2, least=-100, most=100),
            unit="% of height",
        ),
    ] = Curve()
    roll: Annotated[
        Curve,
        Number(
            "Roll here",
            "Typed or dragged, it sets a key at the playhead (keyframe)",
            TIME,
            NumberScale(-5, 5, "°", 2, least=-90, most=90),
        ),
    ] = Curve()
    zoom: Annotated[
        Curve,
        Number(
            "Zoom here",
            "Typed or dragged, it sets a key at the playhead (keyframe)",
            FACTOR,
            NumberScale(-5, 5, "%", 2, least=-100, most=100),
        ),
    ] = Curve()
    repeat: Annotated[bool, Switch("Repeat to the end", "Goes round until the shot ends", words="loop")] = False
    irregular: Annotated[
        float,
        Number("Irregular", "How much the rounds differ in size and time", UNIT, UNIT_SCALE, words="loop variation"),
    ] = 0.3

    def curve(self, channel: str) -> Curve:
        """The curve of ``x``, ``y``, ``roll`` or ``zoom``."""
        value: Curve = getattr(self, channel)
        return value


class Taken(Common, frozen=True, kw_only=True, tag="take", tag_field="kind"):
    """A take on a shot.

    ``cutoff`` in seconds: 0 is the whole move, otherwise only what is quicker than that is left. ``opposed`` turns it
    round in every channel, ``mirrored`` left for right. ``start`` and ``end`` in seconds of the take (end None: all);
    ``offset`` seconds by which it begins before the shot. ``by_angle``: shifts become turns of the lens, from the
    take's focal length to the shot's; else they are percent of frame height. ``beyond``: what a longer shot gets: the
    take again, ``fade`` seconds crossfaded (*loop*), *back* and forth, a drift of the same kind (*carry*), or *rest*.
    ``endless``: that drift; with ``only_endless`` it is all there is.
    """

    LABEL: ClassVar[str] = "Take"
    SECOND: ClassVar[str] = "cutoff"

    take: Take
    name: str = "Take"
    gains: Gains = Gains()
    cutoff: Annotated[
        float,
        Number(
            "Slow part",
            "Takes out what is slower (high-pass), half of it (−6 dB) at this length; 0 keeps the whole move",
            (0, 1e5),
            NumberScale(0, 10, "s", 1, bend=2, least=0, most=600),
            words="high-pass, remove drift, shake only",
        ),
    ] = 0.0
    opposed: Annotated[bool, Switch("Opposed", "Turned round in every channel", words="invert, reverse")] = False
    mirrored: Annotated[bool, Switch("Mirrored, left for right", "The take seen in a mirror", words="flop")] = False
    start: Annotated[float, Number("Take from", "Leaves out its beginning", (0, 1e6), STRETCH_SCALE, words="trim")] = (
        0.0
    )
    end: Annotated[
        float | None, Number("Take to", "Leaves out its end; 0 keeps it", (0, 1e6), STRETCH_SCALE, words="trim")
    ] = None
    offset: Annotated[
        float,
        Number(
            "Offset",
            "Where in the take it begins",
            TIME,
            NumberScale(-10, 10, "s", 2, least=-36000, most=36000),
            words="slip",
        ),
    ] = 0.0
    by_angle: Annotated[
        bool,
        Switch(
            "From lens to lens, as angles",
            "Needs the focal length of the clip; otherwise percent of frame height",
        ),
    ] = False
    beyond: Annotated[
        Beyond,
        Choice("After the take", "What moves the shot when it is longer than the take", BEYOND_WORDS, words="loop"),
    ] = "carry"
    fade: Annotated[
        float,
        Number(
            "Crossfade",
            "Length of the crossfade",
            (0, 1e5),
            NumberScale(0, 5, "s", 1, bend=2, least=0, most=60),
            words="loop blend",
        ),
    ] = 1.0
    endless: Endless = Endless()
    only_endless: Annotated[
        bool,
        Switch(
            "Endless: a drift learned from it",
            "The same spectrum and play of channels at any length, never the same twice",
        ),
    ] = False


class Shimmer(Common, frozen=True, kw_only=True, tag="shimmer", tag_field="kind"):
    """Local displacement of the picture by moving noise: heat, a trembling mount, a fault.

    ``x`` and ``y``: the farthest that anything goes, in percent of frame height; ``size`` of its swells in the same;
    ``speed``: how many times a second it has changed; each of ``octaves`` adds half as much at half the size and twice
    the speed.
    """

    LABEL: ClassVar[str] = "Shimmer"
    SECOND: ClassVar[str] = "speed"

    name: str = "Shimmer"
    x: Annotated[
        float,
        Number(
            "X reach",
            "The farthest that anything goes (amplitude)",
            (-1000, 1000),
            RIPPLE_SCALE,
            unit="% of height",
            words="displacement",
        ),
    ] = 0.15
    y: Annotated[
        float,
        Number(
            "Y reach",
            "The farthest that anything goes (amplitude)",
            (-1000, 1000),
            RIPPLE_SCALE,
            unit="% of height",
            words="displacement",
        ),
    ] = 0.3
    size: Annotated[
        float,
        Number(
            "Size",
            "Percent of the frame's height",
            (0, 1000),
            NumberScale(1, 60, "%", 1, bend=2, least=0.2, most=400),
            unit="% of height",
            words="scale of the noise",
        ),
    ] = 9.0
    speed: Annotated[
        float,
        Number(
            "Speed",
            "Changes per second",
            (0, 1000),
            NumberScale(0, 20, "/s", 1, bend=2, least=0, most=200),
            words="evolution, frequency",
        ),
    ] = 2.5
    octaves: Annotated[
        int,
        Number(
            "Octaves",
            "Finer and quicker swells on top, each half as strong",
            (1, 8),
            NumberScale(1, 5, "", 0, least=1, most=6),
            words="detail, complexity",
        ),
    ] = 2


PLOTTED = ("x", "y", "roll", "zoom")
Strand = Drift | Jolts | Plotted | Taken | Shimmer


def blows(strands: Iterable[Strand]) -> tuple[Jolts, ...]:
    """The jolts among strands, without those by which somebody flinches at them."""
    return tuple(strand for strand in strands if isinstance(strand, Jolts) and strand.origin != FLINCH)


STRAND_TYPES: tuple[type[Common], ...] = get_args(Strand)


class Together(Checked, frozen=True):
    """How much the channels and strands of a shake grow rough and quiet at the same moments, and kicks that meet all of
    them.

    ``amount``: 0 each channel by itself, 1 all as one, changing ``rate`` times a second. ``kicks`` a minute, each a
    decaying push of ``kick`` times the reach in every channel of every drift; more of them come while it is rough.
    """

    amount: Annotated[
        float,
        Number(
            "Together",
            "How much all axes and strands grow rough and quiet at the same moments",
            UNIT,
            NumberScale(0, 100, "%", 0, least=0, most=100),
            per=100,
            words="correlation, linked axes, one body, coherence",
        ),
    ] = 0.0
    rate: Annotated[
        float,
        Number(
            "Gusts",
            "How often it grows rough and quiet",
            (0.001, 100),
            NumberScale(0.01, 2, "Hz", 2, bend=3, least=0.001, most=20),
            words="gust rate, bursts",
        ),
    ] = 0.12
    kicks: Annotated[
        float,
        Number(
            "Kicks",
            "Bumps a minute that meet all axes at once",
            (0, 1200),
            NumberScale(0, 240, "/min", 0, bend=2, least=0, most=1200),
            words="bumps, potholes, random jolts, random impacts",
        ),
    ] = 0.0
    kick: Annotated[
        float,
        Number(
            "Kick size",
            "How far a kick pushes, in times the reach",
            (0, 20),
            NumberScale(0, 5, "×", 2, bend=1.5, least=0, most=20),
            words="bump size",
        ),
    ] = 1.5
    seed: Annotated[int, Number("Seed", "Which course they take", SEED)] = 1


class Shake(Checked, frozen=True):
    """A stack of strands. ``intensity`` says how much, ``pace`` how fast time runs; ``preset`` where it came from.

    ``together``: how its channels and strands belong together; ``holder``: who made those that follow them.
    ``begins``: seconds that its drifts and takes have run when the shot begins, so that a shot that was cut off another
    goes on as that did; ``trimmed``: seconds of the shot that were cut off before its beginning since the shake was put
    on, below 0 where it was made longer: what counts from the beginning (ease in, steps, where the reach holds, keys of
    a rate) stays with the pictures.
    """

    strands: Annotated[tuple[Strand, ...], AtMost(64)] = ()
    intensity: Annotated[
        Curve,
        Number(
            "Intensity",
            "How much of the whole shake",
            FACTOR,
            AMOUNT_SCALE,
            per=100,
            words="amount of shake, master, strength",
        ),
    ] = Curve(1.0)
    pace: Annotated[
        Curve,
        Number(
            "Pace",
            "How fast its time runs",
            (0, 100),
            NumberScale(0, 3, "×", 2, bend=1.585, least=0, most=20),
            words="speed, time scale",
        ),
    ] = Curve(1.0)
    preset: str = ""
    region: Region | None = None
    together: Together = Together()
    holder: Holder | None = None
    begins: Annotated[float, Number("Begins", "How far its clock has run when the shot begins", TIME, unit="s")] = 0.0
    trimmed: Annotated[float, Number("Trimmed", "What was cut off before the shot's beginning", TIME, unit="s")] = 0.0

    @property
    def clock(self) -> Curve:
        """Its pace, with what it has run already."""
        return later(self.pace, self.begins, self.trimmed)

    def __post_init__(self) -> None:
        super().__post_init__()
        check_ids("strands", self.strands)
