"""The document: a reel of shots with plates, shakes and frame settings. Frozen values with stable ids."""

from __future__ import annotations

import secrets
from typing import Literal

from young_tremor.base.errors import UnreadableValue
from young_tremor.model.curve import Curve
from young_tremor.model.depth import Depth
from young_tremor.model.edge_modes import EDGES as EDGES
from young_tremor.model.edge_modes import Edges
from young_tremor.model.limits import Checked, check_ids, check_text
from young_tremor.model.shake import Hit, Point, Shake, Strand
from young_tremor.model.sound import Mix, Sound
from young_tremor.model.take import Take
from young_tremor.model.title import Title

Fit = Literal["fill", "whole", "own"]
Blend = Literal["normal", "add", "multiply", "screen"]
Past = Literal["hold", "loop", "end"]
Held = Literal["told", "straight", "premultiplied", "ignored"]


class Size(Checked, frozen=True):
    """Delivered pixels, with the shape of a pixel (width by height; 1 is square)."""

    width: int
    height: int
    pixel_aspect: str = "1"


class Media(Checked, frozen=True):
    """What a plate shows: a file, numbered pictures by their pattern, a title, or one colour.

    ``path`` is absolute in memory, relative to the project's folder on disk where it can be; empty for what is drawn
    here. ``rate``: of numbered pictures, frames a second; 24 if it is not said. ``alpha``: how a file's colours stand
    to its alpha, if other than the file tells. ``mark``: by what a lost file is known again.
    """

    path: str = ""
    kind: Literal["video", "title", "fill"] = "video"
    rate: str | None = None
    title: Title | None = None
    colour: str | None = None
    alpha: Held = "told"
    mark: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("path", self.path)
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

    x: Curve = Curve(0.0)
    y: Curve = Curve(0.0)
    size: Curve = Curve(1.0)
    angle: Curve = Curve(0.0)
    opacity: Curve = Curve(1.0)


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
    share: float = 1.0
    shake: Shake | None = None
    distance: float = 1.0
    glass: bool = False
    on: bool = True
    blend: Blend = "normal"
    offset: float = 0.0
    past: Past = "hold"
    fills: bool | None = None
    depth: Depth | None = None


class Shutter(Checked, frozen=True):
    """Exposure: ``angle`` 0…720 degrees of the frame's time, ``phase`` degrees by which its middle is late."""

    angle: Curve = Curve(180.0)
    phase: float = 0.0


class Smear(Checked, frozen=True):
    """A directional blur for ``frames`` frames at each hit: ``length`` in percent of frame height at strength 1,
    ``angle`` in degrees (0 right, 90 down) or None: the way that the jolts go, ``fall`` 0 stays, 1 dies away evenly."""

    frames: int = 0
    length: float = 2.0
    angle: float | None = 90.0
    fall: float = 1.0


class Afterimages(Checked, frozen=True):
    """Fading copies of the picture under the motion of earlier moments: how many (a curve), ``lag`` seconds apart,
    each ``opacity`` of the one before."""

    count: Curve = Curve(0.0)
    lag: float = 0.05
    opacity: float = 0.5


class Knock(Checked, frozen=True):
    """A knock out of focus for ``frames`` frames at each hit: ``softness`` in percent of frame height at strength 1
    (the standard deviation of the blur), dying away evenly."""

    frames: int = 0
    softness: float = 0.3


class Box(Checked, frozen=True):
    """A rectangle of the source, as shares of its width and height from its top left corner."""

    x: float
    y: float
    width: float
    height: float


class FrameSettings(Checked, frozen=True):
    """The delivered rectangle. ``crop`` is by hand, 1 or more; what the edges ask for comes on top.

    ``recentre`` finds the framing that needs the least crop. ``breathe``: seconds in which a crop as needed comes and
    goes. ``readout``: seconds from the first to the last row of the picture (rolling shutter). ``keep``: what must
    never leave the frame. ``linear``: exposures are averaged as light, not as code values. ``behind``: the colour under
    everything, where a form holds no alpha. ``fit``: footage of another shape fills the frame, is seen whole, or pixel
    for pixel in its *own* size.
    """

    edges: Edges = "crop"
    crop: Curve = Curve(1.0)
    shutter: Shutter = Shutter()
    focal_mm: float = 50.0
    pivot: Point = Point()
    smear: Smear = Smear()
    afterimages: Afterimages = Afterimages()
    knock: Knock = Knock()
    recentre: bool = False
    breathe: float = 1.5
    readout: float = 0.0
    keep: tuple[Box, ...] = ()
    linear: bool = False
    behind: str = "#000000"
    fit: Fit = "fill"


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
    start: float
    end: float
    fade_in: float = 1.0
    fade_out: float = 1.0
    shake: Shake = Shake()
    hits: tuple[Hit, ...] = ()
    on: bool = True
    sounds: tuple[Sound, ...] = ()

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
    at: float


class Shot(Checked, frozen=True):
    """A range of footage. ``start`` and ``end`` in seconds of it; size and rate are the footage's unless set.

    ``shake`` is the variant in use, ``variant`` its letter; ``others`` are kept for comparing. ``over``: the spans of
    the reel that lie over it, worked out when it is looked at and never stored with it.
    """

    id: str
    name: str
    plates: tuple[Plate, ...]
    shake: Shake = Shake()
    frame: FrameSettings = FrameSettings()
    start: float = 0.0
    end: float | None = None
    size: Size | None = None
    rate: str | None = None
    hits: tuple[Hit, ...] = ()
    variant: str = "A"
    others: tuple[Variant, ...] = ()
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
        return tuple(sorted((self.variant, *(each.letter for each in self.others))))


class Project(Checked, frozen=True):
    """One document: a reel of shots, the spans over it, and the takes that were measured for it. ``size`` and ``rate``
    of the reel's delivery are its first shot's unless set."""

    shots: tuple[Shot, ...] = ()
    takes: tuple[Take, ...] = ()
    spans: tuple[Span, ...] = ()
    size: Size | None = None
    rate: str | None = None

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
    focal_mm: float = 50.0
    edges: Edges | None = None
    shutter: Shutter | None = None
    sounds: tuple[Sound, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        for what, text in (("name", self.name), ("group", self.group), ("note", self.note)):
            check_text(what, text)


#: Stands where there is no shot yet.
NO_SHOT = Shot("none", "", (Plate("none", "", Media("")),))


def new_id() -> str:
    """A short id, unique in practice."""
    return secrets.token_hex(4)
