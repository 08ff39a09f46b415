"""The document: a reel of shots with plates, shakes and frame settings. Frozen values with stable ids."""

from __future__ import annotations

import secrets
from fractions import Fraction
from typing import Annotated, Literal

from young_tremor.base.colour_spaces import CAMERAS, SPACES, space_named
from young_tremor.base.errors import UnreadableValue
from young_tremor.base.number_scale import NumberScale
from young_tremor.model.curve import Curve
from young_tremor.model.depth import Depth
from young_tremor.model.edge_modes import EDGE_MODES, Edges
from young_tremor.model.edge_modes import EDGES as EDGES
from young_tremor.model.fields import (
    ANGLE_SCALE,
    PLACE_SCALE,
    RATE_TEXT,
    TIME,
    UNIT,
    UNIT_SCALE,
    AtMost,
    Checked,
    Choice,
    ColourText,
    FractionText,
    Number,
    Switch,
    check_ids,
    check_text,
)
from young_tremor.model.shake import Hit, Point, Shake, Strand
from young_tremor.model.sound import Mix, Sound
from young_tremor.model.take import Take
from young_tremor.model.title import Title

Fit = Literal["fill", "whole", "own"]
Blend = Literal["normal", "add", "multiply", "screen"]
Past = Literal["hold", "loop", "end"]
Held = Literal["told", "straight", "premultiplied", "ignored"]

# What choices are called on the screen, in the order in which they are offered.
EDGE_OPTIONS = tuple((edges, mode.words) for edges, mode in EDGE_MODES.items())
FIT_OPTIONS = (("fill", "Fill the frame"), ("whole", "Whole, with borders"), ("own", "Pixel for pixel"))
BLEND_OPTIONS = (("normal", "Normal"), ("add", "Add"), ("multiply", "Multiply"), ("screen", "Screen"))
PAST_OPTIONS = (("hold", "Its last picture is held"), ("loop", "It begins again"), ("end", "It is gone"))
ALPHA_OPTIONS = (
    ("told", "As the file tells"),
    ("straight", "Straight"),
    ("premultiplied", "Premultiplied"),
    ("ignored", "Not used"),
)
SPACE_OPTIONS = (
    ("", "As the file tells"),
    *((space.name, space.label) for space in SPACES),
    *((camera, camera) for camera in CAMERAS),
)
FILLS_OPTIONS = ((None, "The lowest plate alone"), (True, "Yes"), (False, "No"))


class Size(Checked, frozen=True):
    """Delivered pixels, with the shape of a pixel (width by height; 1 is square)."""

    width: Annotated[int, Number("Width", "Delivered", (2, 16384), unit="pixels")]
    height: Annotated[int, Number("Height", "Delivered", (2, 16384), unit="pixels")]
    pixel_aspect: Annotated[str, FractionText(Fraction(1, 16), Fraction(16), "pixel aspect")] = "1"


class Media(Checked, frozen=True):
    """What a plate shows: a file, numbered pictures by their pattern, a title, or one colour.

    ``path`` is absolute in memory, relative to the project's folder on disk where it can be; empty for what is drawn
    here. ``rate``: of numbered pictures, frames a second; 24 if it is not said. ``alpha``: how a file's colours stand
    to its alpha, and ``space`` the colour space that it is in, if other than the file tells. ``mark``: by what a lost
    file is known again.
    """

    path: str = ""
    kind: Literal["video", "title", "fill"] = "video"
    rate: Annotated[str | None, RATE_TEXT] = None
    title: Title | None = None
    colour: Annotated[str | None, ColourText()] = None
    alpha: Annotated[
        Held, Choice("Alpha", "How its colours are stored beside alpha", ALPHA_OPTIONS, words="premultiplied, straight")
    ] = "told"
    space: Annotated[
        str,
        Choice("Colours", "The colour space of the file", SPACE_OPTIONS, words="colour space, gamut, log, profile"),
    ] = ""
    mark: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("path", self.path)
        if self.space:
            space_named(self.space)
        if (self.kind == "title") != (self.title is not None) or (self.kind == "fill") != (self.colour is not None):
            raise UnreadableValue(
                "A plate’s picture is of one kind, with what belongs to it: a title, a fill or a file."
            )

    @property
    def drawn(self) -> bool:
        """Whether it is made here rather than read from a file."""
        return self.kind != "video"


class Placement(Checked, frozen=True):
    """Where a plate sits, apart from any shake: place in frame units, size factor, angle in degrees, opacity."""

    x: Annotated[
        Curve,
        Number(
            "Across",
            "Right of the middle, percent of frame height",
            (-1000, 1000),
            PLACE_SCALE,
            unit="frame heights",
            per=100,
            words="position",
        ),
    ] = Curve(0.0)
    y: Annotated[
        Curve,
        Number(
            "Down",
            "Below the middle, percent of frame height",
            (-1000, 1000),
            PLACE_SCALE,
            unit="frame heights",
            per=100,
            words="position",
        ),
    ] = Curve(0.0)
    size: Annotated[
        Curve,
        Number(
            "Size",
            "Of what fills the frame (scale)",
            (0, 1000),
            NumberScale(10, 300, "%", 1, bend=1.6, least=1, most=10000),
            per=100,
            words="scale",
        ),
    ] = Curve(1.0)
    angle: Annotated[
        Curve,
        Number(
            "Angle",
            "Clockwise (rotation)",
            TIME,
            NumberScale(-180, 180, "°", 1, least=-3600, most=3600),
            words="rotation",
        ),
    ] = Curve(0.0)
    opacity: Annotated[
        Curve,
        Number(
            "Opacity",
            "How opaque it is",
            UNIT,
            NumberScale(0, 100, "%", 0, least=0, most=100),
            per=100,
            words="transparency",
        ),
    ] = Curve(1.0)


class Plate(Checked, frozen=True):
    """One picture element. ``share`` of the shot's shake: 1 all, 0 stands still; ``shake`` is its own, if any.

    ``distance`` from the camera, 1 being what the shake was set for: travel shrinks with it, turns do not. ``glass``:
    it lies on the delivered frame, touched by neither the shot's shake nor its crop. ``on``: whether it is seen.
    ``blend``: how its colours, as code values, go together with those behind. ``offset``: seconds after the shot's
    beginning at which its own time begins; ``past``: what is seen after its own end. ``fills``: whether it is meant to
    fill the frame, so that the crop has to cover it; None: the lowest one is, if it is opaque. ``depth``: how far each
    of its points is.
    """

    id: str
    name: str
    media: Media
    placement: Placement = Placement()
    share: Annotated[
        float,
        Number(
            "Share",
            "Of the shot's shake: 0 stands still, above 100 goes further",
            (-1000, 1000),
            NumberScale(-100, 300, "%", 0, least=-1000, most=1000),
            per=100,
            words="parallax amount",
        ),
    ] = 1.0
    shake: Shake | None = None
    distance: Annotated[
        float,
        Number(
            "Distance",
            "From the camera (parallax): travel shrinks with it, turns do not. 1 is what it was set for",
            (0.01, 1e4),
            NumberScale(0.2, 5, "×", 2, bend=2.3, least=0.01, most=10000),
            words="parallax, depth of a layer",
        ),
    ] = 1.0
    glass: Annotated[
        bool,
        Switch(
            "On the glass", "Neither the shot's shake nor its crop touches it: a logo, a subtitle", words="overlay, HUD"
        ),
    ] = False
    on: bool = True
    blend: Annotated[
        Blend, Choice("Blend", "How its colours go together with those behind", BLEND_OPTIONS, words="blending mode")
    ] = "normal"
    offset: Annotated[
        float,
        Number(
            "Begins",
            "Seconds after the shot's beginning at which its own time begins",
            TIME,
            NumberScale(-10, 30, "s", 2, least=-1e6, most=1e6),
            words="time offset, slip",
        ),
    ] = 0.0
    past: Annotated[Past, Choice("Past its end", "What shows after its end", PAST_OPTIONS)] = "hold"
    fills: Annotated[bool | None, Choice("Fills the frame", "Whether the crop has to cover it", FILLS_OPTIONS)] = None
    depth: Depth | None = None


class Shutter(Checked, frozen=True):
    """Exposure: ``angle`` 0…720 degrees of the frame's time, ``phase`` degrees by which its middle is late."""

    angle: Annotated[
        Curve,
        Number(
            "Shutter angle",
            "How long the shutter is open (motion blur): 360° is the frame's whole time",
            (0, 720),
            NumberScale(0, 360, "°", 0, least=0, most=720),
            words="motion blur, exposure time",
        ),
    ] = Curve(180.0)
    phase: Annotated[
        float,
        Number(
            "Phase",
            "How late the exposure lies against the frame's time",
            (-720, 720),
            NumberScale(-180, 180, "°", 0, least=-360, most=360),
            words="shutter phase",
        ),
    ] = 0.0


class Smear(Checked, frozen=True):
    """A directional blur for ``frames`` frames at each hit: ``length`` in percent of frame height at strength 1,
    ``angle`` in degrees (0 right, 90 down) or None: the way that the jolts go, ``fall`` 0 stays, 1 dies away evenly."""

    frames: Annotated[
        int,
        Number(
            "Lasts",
            "Frames smeared after each hit (directional blur); 0 is none",
            (0, 1000),
            NumberScale(0, 12, "frames", 0, least=0, most=100),
            words="directional blur, smear frames",
        ),
    ] = 0
    length: Annotated[
        float,
        Number(
            "Length",
            "Percent of the frame's height, at a hit of strength 1",
            (0, 1000),
            NumberScale(0, 20, "%", 1, bend=2, least=0, most=100),
            unit="% of height",
        ),
    ] = 2.0
    angle: Annotated[float | None, Number("Angle", "0 right, 90 down", TIME, ANGLE_SCALE)] = 90.0
    fall: Annotated[float, Number("Fall-off", "0 stays, 1 dies away evenly", UNIT, UNIT_SCALE)] = 1.0


class Afterimages(Checked, frozen=True):
    """Fading copies of the picture under the motion of earlier moments: how many (a curve), ``lag`` seconds apart,
    each ``opacity`` of the one before."""

    count: Annotated[
        Curve,
        Number(
            "Copies",
            "Fading copies of the picture (echo) where the motion was a moment ago; 0 is none",
            (0, 100),
            NumberScale(0, 8, "", 0, least=0, most=12),
            words="echo, trails, ghosting",
        ),
    ] = Curve(0.0)
    lag: Annotated[
        float,
        Number(
            "Lag",
            "Seconds from one copy to the next",
            (0, 100),
            NumberScale(0.01, 0.5, "s", 2, bend=2, least=0.001, most=10),
        ),
    ] = 0.05
    opacity: Annotated[
        float, Number("Opacity", "Opacity of each copy, relative to the one before", UNIT, UNIT_SCALE)
    ] = 0.5


class Knock(Checked, frozen=True):
    """A knock out of focus for ``frames`` frames at each hit: ``softness`` in percent of frame height at strength 1
    (the standard deviation of the blur), dying away evenly."""

    frames: Annotated[
        int,
        Number(
            "Knock for",
            "Frames out of focus after each hit; 0 is none",
            (0, 1000),
            NumberScale(0, 24, "frames", 0, least=0, most=100),
            words="defocus at impacts",
        ),
    ] = 0
    softness: Annotated[
        float,
        Number(
            "Softness",
            "Percent of the frame's height, at a hit of strength 1",
            (0, 20),
            NumberScale(0, 3, "%", 2, bend=2, least=0, most=20),
            unit="% of height",
            words="blur radius",
        ),
    ] = 0.3


class Box(Checked, frozen=True):
    """A rectangle of the source, as shares of its width and height from its top left corner."""

    x: Annotated[float, Number("X", "Left edge of what must stay clear", (-10, 10), unit="share of width")]
    y: Annotated[float, Number("Y", "Its top", (-10, 10), unit="share of height")]
    width: Annotated[float, Number("Width", "Its width", (0, 20), unit="share of width")]
    height: Annotated[float, Number("Height", "Its height", (0, 20), unit="share of height")]


class FrameSettings(Checked, frozen=True):
    """The delivered rectangle. ``crop`` is by hand, 1 or more; what the edges ask for comes on top.

    ``recentre`` finds the framing that needs the least crop. ``breathe``: seconds in which a crop as needed comes and
    goes. ``readout``: seconds from the first to the last row of the picture (rolling shutter). ``keep``: what must
    never leave the frame. ``linear``: exposures are averaged as light, not as code values. ``match_colours``: what is
    of another colour space is converted, the ``white`` of standard range and the ``peak`` of high range being at so
    many cd/m². ``behind``: the colour under
    everything, where a form holds no alpha. ``fit``: footage of another shape fills the frame, is seen whole, or pixel
    for pixel in its *own* size.
    """

    edges: Annotated[
        Edges,
        Choice("Edges", "What fills the edges that the motion uncovers", EDGE_OPTIONS, words="borders, black edges"),
    ] = "crop"
    crop: Annotated[
        Curve,
        Number(
            "Crop by hand",
            "Enlarges the picture (scale) by so much; what the edges need comes on top",
            (0.1, 100),
            NumberScale(1, 2, "×", 3, bend=2, least=1, most=20),
            words="scale, zoom in to hide edges",
        ),
    ] = Curve(1.0)
    shutter: Shutter = Shutter()
    focal_mm: Annotated[
        float,
        Number(
            "Focal length",
            "Of the lens; longer shakes more. For a sensor 36 mm wide",
            (1, 1e5),
            NumberScale(14, 200, "mm", 0, bend=1.8, least=1, most=5000),
            words="lens, field of view",
        ),
    ] = 50.0
    pivot: Point = Point()
    smear: Smear = Smear()
    afterimages: Afterimages = Afterimages()
    knock: Knock = Knock()
    recentre: Annotated[bool, Switch("Recentre", "Find the framing that needs the least crop")] = False
    breathe: Annotated[
        float,
        Number(
            "Breathes in",
            "How slowly the crop comes and goes: a quick one shows",
            (0, 1e4),
            NumberScale(0.2, 8, "s", 1, bend=2, least=0.0, most=120),
        ),
    ] = 1.5
    readout: Annotated[
        float,
        Number(
            "Rolling shutter",
            "From the first row of the picture to the last (jelly effect); a phone takes 10 to 25",
            (-1, 1),
            NumberScale(0, 40, "ms", 1, bend=1.6, least=-1000, most=1000),
            unit="s",
            per=1000,
            words="jelly effect, skew, wobble",
        ),
    ] = 0.0
    keep: Annotated[tuple[Box, ...], AtMost(64)] = ()
    linear: Annotated[
        bool,
        Switch(
            "Blur as light",
            "Average the exposures in linear light, not as code values: bright things smear brighter; "
            "usually left off in PQ and HLG",
            words="linear light, gamma",
        ),
    ] = False
    match_colours: Annotated[
        bool,
        Switch(
            "Match colours",
            "What is of another colour space than the footage, or the film, is converted",
            words="colour management, convert, tone mapping, colour space transform",
        ),
    ] = True
    white: Annotated[
        float,
        Number(
            "White",
            "Of graphics and standard range in high range, in cd/m² (ITU-R BT.2408)",
            (40, 2000),
            NumberScale(80, 500, "cd/m²", 0, least=40, most=2000),
            unit="cd/m²",
            words="nits, diffuse white, reference white, HDR",
        ),
    ] = 203.0
    peak: Annotated[
        float,
        Number(
            "Peak",
            "The brightest of high range that is to be told apart in standard range, in cd/m² (ITU-R BT.2390)",
            (203, 10_000),
            NumberScale(300, 4000, "cd/m²", 0, bend=2, least=203, most=10_000),
            unit="cd/m²",
            words="nits, highlights, mastering peak, HDR",
        ),
    ] = 1000.0
    behind: Annotated[str, ColourText("colour behind")] = "#000000"
    fit: Annotated[
        Fit, Choice("Fit", "Where the footage has another shape than what is delivered", FIT_OPTIONS, words="letterbox")
    ] = "fill"


class Variant(Checked, frozen=True):
    """An alternative shake of a shot, by its letter."""

    letter: str
    shake: Shake


class Span(Checked, frozen=True):
    """A shake that lies over a stretch of the reel, ``start`` to ``end`` in the reel's seconds, and runs on through the
    cuts. It comes and goes over ``fade_in`` and ``fade_out`` seconds inside of it; ``hits`` in the reel's seconds;
    ``sounds`` come and go with it."""

    id: str
    name: str
    start: Annotated[float, Number("Start", "Of the reel, where it begins", (0, 1e6), unit="s")]
    end: Annotated[float, Number("End", "Where it ends", (0, 1e6), unit="s")]
    fade_in: Annotated[
        float,
        Number("Fade in", "Seconds to fade in", (0, 1e5), NumberScale(0, 10, "s", 2, bend=2, least=0, most=1e5)),
    ] = 1.0
    fade_out: Annotated[
        float,
        Number("Fade out", "Seconds to fade out", (0, 1e5), NumberScale(0, 10, "s", 2, bend=2, least=0, most=1e5)),
    ] = 1.0
    shake: Shake = Shake()
    hits: Annotated[tuple[Hit, ...], AtMost(20000)] = ()
    on: bool = True
    sounds: Annotated[tuple[Sound, ...], AtMost(32)] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("name", self.name)
        check_ids("hits", self.hits)
        check_ids("sounds", self.sounds)
        if not self.start < self.end:
            raise UnreadableValue(f"The span “{self.name[:80]}” has no length: its start is not before its end.")


class Over(Checked, frozen=True):
    """A span as a shot sees it: ``at`` is the reel's time of the shot's first frame."""

    span: Span
    at: Annotated[float, Number("At", "Of the reel at which a shot under a span begins", TIME, unit="s")]


class Shot(Checked, frozen=True):
    """A range of footage. ``start`` and ``end`` in seconds of it; size and rate are the footage's unless set.

    ``shake`` is the variant in use, ``variant`` its letter; ``others`` are kept for comparing. ``over``: the spans of
    the reel that lie over it, worked out when it is looked at and never stored with it.
    """

    id: str
    name: str
    plates: Annotated[tuple[Plate, ...], AtMost(64)]
    shake: Shake = Shake()
    frame: FrameSettings = FrameSettings()
    start: Annotated[float, Number("Start", "Where in the footage it begins", (0, 1e6), unit="s")] = 0.0
    end: Annotated[float | None, Number("End", "Where it ends", (0, 1e6), unit="s")] = None
    size: Size | None = None
    rate: Annotated[str | None, RATE_TEXT] = None
    hits: Annotated[tuple[Hit, ...], AtMost(20000)] = ()
    variant: str = "A"
    others: Annotated[tuple[Variant, ...], AtMost(8)] = ()
    over: tuple[Over, ...] = ()
    sound: Mix = Mix()

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("name", self.name)
        if not self.plates:
            raise UnreadableValue(f"The shot “{self.name[:80]}” has no picture: a shot needs a plate.")
        check_ids("plates", self.plates)
        check_ids("hits", self.hits)

    @property
    def footage(self) -> Plate:
        """The lowest plate: what gives the shot its length, size and rate unless they are set."""
        return self.plates[0]

    @property
    def every_strand(self) -> tuple[Strand, ...]:
        """The strands of all its shakes: of its variants and of its plates."""
        shakes = (self.shake, *(o.shake for o in self.others), *(p.shake for p in self.plates if p.shake is not None))
        return tuple(strand for shake in shakes for strand in shake.strands)

    @property
    def letters(self) -> tuple[str, ...]:
        """The letters of all its variants, the one in use included, in order."""
        return tuple(sorted((self.variant, *(variant.letter for variant in self.others))))


class Project(Checked, frozen=True):
    """One document: a reel of shots, the spans over it, and the takes that were measured for it. ``size`` and ``rate``
    of the reel's delivery are its first shot's unless set."""

    shots: Annotated[tuple[Shot, ...], AtMost(2000)] = ()
    takes: Annotated[tuple[Take, ...], AtMost(500)] = ()
    spans: Annotated[tuple[Span, ...], AtMost(500)] = ()
    size: Size | None = None
    rate: Annotated[str | None, RATE_TEXT] = None

    def __post_init__(self) -> None:
        super().__post_init__()
        check_ids("shots", self.shots)
        check_ids("takes", self.takes)
        check_ids("spans", self.spans)

    def shot(self, shot_id: str) -> Shot:
        """The shot of that id; KeyError if it is gone."""
        for shot in self.shots:
            if shot.id == shot_id:
                return shot
        raise KeyError(shot_id)


class Preset(Checked, frozen=True):
    """A saved shake, or one strand, for any project; ``focal_mm`` is the lens it was made for.

    ``edges`` and ``shutter`` are there if they were saved with it; ``sounds`` are what belongs to it. It never carries
    hits.
    """

    name: str
    group: str
    note: str
    shake: Shake
    focal_mm: Annotated[float, Number("Focal length", "The focal length it was made for", (1, 1e5), unit="mm")] = 50.0
    edges: Edges | None = None
    shutter: Shutter | None = None
    sounds: Annotated[tuple[Sound, ...], AtMost(32)] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        for what, text in (("name", self.name), ("group", self.group), ("note", self.note)):
            check_text(what, text)


#: Stands where there is no shot yet.
NO_SHOT = Shot("none", "", (Plate("none", "", Media("")),))


def new_id() -> str:
    """A short id, unique in practice."""
    return secrets.token_hex(4)
