"""What moves a shot or a plate: a stack of strands, with intensity and pace over all of them.

Strands have fields in common (:class:`Common`); each kind adds its own. What a kind does stands in one place,
``motion.strand_kinds``.
"""

from __future__ import annotations

from typing import Literal

from young_tremor.model.curve import Curve, later
from young_tremor.model.limits import Checked, check_ids, check_text
from young_tremor.model.take import Beyond, Endless, Gains, Take

Channel = Literal["x", "y", "roll", "zoom", "pan", "tilt"]
CHANNELS: tuple[Channel, ...] = ("x", "y", "roll", "zoom", "pan", "tilt")
UNITS = {"x": "%", "y": "%", "roll": "°", "zoom": "%", "pan": "°", "tilt": "°"}


class Point(Checked, frozen=True):
    """A place in frame units (frame height 1) from the frame's centre, y down; it may move."""

    x: Curve = Curve()
    y: Curve = Curve()

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
    width: Curve = Curve(0.8)
    height: Curve = Curve(0.6)
    outline: tuple[tuple[float, float], ...] = ()
    feather: float = 0.15
    outside: bool = False


class Wander(Checked, frozen=True):
    """A slow modulation of each channel's size: ``depth`` 0…1, ``rate`` swings per second."""

    depth: float = 0.0
    rate: float = 0.08


class Corrections(Checked, frozen=True):
    """Now and then the framing is corrected: ``size`` in times the reach of pan and tilt (of x and y where there are
    none), ``rate`` a minute, ``long`` seconds that one takes on average; after each the hand is steadier for a while.
    """

    size: float = 0.0
    rate: float = 18.0
    long: float = 0.6


class Steps(Checked, frozen=True):
    """A drift's regular part as steps: each differs by ``length`` and ``size`` (standard deviations, as shares), left
    from right by ``uneven``, and lands with a short damped knock of ``strike`` times the reach in the channels that go
    once a step."""

    length: float = 0.0
    size: float = 0.0
    uneven: float = 0.0
    strike: float = 0.0


class Stretch(Checked, frozen=True):
    """When a strand acts: from ``start`` to ``end`` seconds of the shot (None: from its first, to its last frame),
    with fades of so many seconds inside."""

    start: float | None = None
    end: float | None = None
    fade_in: float = 0.0
    fade_out: float = 0.0


class Rests(Checked, frozen=True):
    """Holding still: ``share`` of the time 0…0.95, typically ``hold`` seconds at a time."""

    share: float = 0.0
    hold: float = 1.2


class Hit(Checked, frozen=True):
    """A moment on the time ruler, in seconds of the shot, with a strength (1 is the norm)."""

    id: str
    t: float
    strength: float = 1.0


class DriftChannel(Checked, frozen=True):
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

    ``name`` and ``note`` are for people; ``amount`` multiplies, 1 is as saved; ``pivot``: about which it turns and
    scales (None: the frame's); ``stretch`` in which it acts; ``origin``: the preset it came from and its id there;
    ``region`` of the picture on which it acts.
    """

    id: str
    name: str = "Strand"
    note: str = ""
    on: bool = True
    amount: Curve = Curve(1.0)
    seed: int = 1
    pivot: Point | None = None
    solo: bool = False
    stretch: Stretch = Stretch()
    origin: str = ""
    region: Region | None = None

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

    name: str = "Drift"
    rate: Curve = Curve(0.6)
    roughness: float = 0.2
    regularity: float = 0.0
    wander: Wander = Wander()
    channels: DriftChannels = DriftChannels()
    rests: Rests = Rests()
    step: float = 0.0
    lean: float = 0.0
    ease_in: float = 0.0
    corrections: Corrections = Corrections()
    steps: Steps = Steps()
    holds: float = 0.0
    rule: int = 2


class Jolts(Common, frozen=True, kw_only=True, tag="jolts", tag_field="kind"):
    """What the shot's hits excite.

    ``reach`` in percent of frame height, ``roll`` in degrees, ``zoom`` in percent: the largest displacement of a hit
    of strength 1. ``ring`` in Hz; ``settle`` and ``rise`` in seconds (1/e); ``rattle`` and ``tail`` 0…1.
    ``direction`` in degrees (0 right, 90 down), or None: seeded for each hit. ``delay`` in seconds, on top of that of
    sound over ``distance`` metres. ``phase`` in degrees: 0 starts from rest, 90 with a push. ``rule``: 1 is how rattle
    was mixed in up to version 3 of the document.
    """

    name: str = "Jolts"
    reach: float = 1.0
    roll: float = 0.0
    zoom: float = 0.0
    ring: float = 9.0
    settle: float = 0.35
    rise: float = 0.012
    rattle: float = 0.15
    tail: float = 0.1
    phase: float = 0.0
    direction: float | None = 90.0
    delay: float = 0.0
    distance: float = 0.0
    rule: int = 2


class Plotted(Common, frozen=True, kw_only=True, tag="plotted", tag_field="kind"):
    """Motion placed by hand: a curve each for shift (percent of frame height), turn (degrees) and zoom (percent).

    ``repeat`` goes round to the end, ``irregular`` 0…1 makes the rounds differ by ``seed``.
    """

    name: str = "Plotted"
    x: Curve = Curve()
    y: Curve = Curve()
    roll: Curve = Curve()
    zoom: Curve = Curve()
    repeat: bool = False
    irregular: float = 0.3

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

    take: Take
    name: str = "Take"
    gains: Gains = Gains()
    cutoff: float = 0.0
    opposed: bool = False
    mirrored: bool = False
    start: float = 0.0
    end: float | None = None
    offset: float = 0.0
    by_angle: bool = False
    beyond: Beyond = "carry"
    fade: float = 1.0
    endless: Endless = Endless()
    only_endless: bool = False


class Shimmer(Common, frozen=True, kw_only=True, tag="shimmer", tag_field="kind"):
    """Local displacement of the picture by moving noise: heat, a trembling mount, a fault.

    ``x`` and ``y``: the farthest that anything goes, in percent of frame height; ``size`` of its swells in the same;
    ``speed``: how many times a second it has changed; each of ``octaves`` adds half as much at half the size and twice
    the speed. ``matte``: it acts on the alpha of a picture alone, its outline, and leaves the colours.
    """

    name: str = "Shimmer"
    x: float = 0.15
    y: float = 0.3
    size: float = 9.0
    speed: float = 2.5
    octaves: int = 2
    matte: bool = False


PLOTTED = ("x", "y", "roll", "zoom")
Strand = Drift | Jolts | Plotted | Taken | Shimmer


class Shake(Checked, frozen=True):
    """A stack of strands. ``intensity`` says how much, ``pace`` how fast time runs; ``preset`` where it came from.

    ``begins``: seconds that its drifts and takes have run when the shot begins, so that a shot that was cut off another
    goes on as that did.
    """

    strands: tuple[Strand, ...] = ()
    intensity: Curve = Curve(1.0)
    pace: Curve = Curve(1.0)
    preset: str = ""
    region: Region | None = None
    begins: float = 0.0

    @property
    def clock(self) -> Curve:
        """Its pace, with what it has run already."""
        return later(self.pace, self.begins)

    def __post_init__(self) -> None:
        super().__post_init__()
        check_ids("strands", self.strands)
