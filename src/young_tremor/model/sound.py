"""What is heard: the footage's own sound, low noise that follows the motion, knocks at hits, files laid under."""

from __future__ import annotations

from typing import Literal

from young_tremor.model.curve import Curve
from young_tremor.model.limits import Checked, check_ids, check_text

Follow = Literal["speed", "intensity", "nothing"]
Matter = Literal["ground", "skin", "wood", "metal", "glass"]


class _SoundRow(Checked, frozen=True, kw_only=True):
    """What all sounds have. ``level`` in dB."""

    id: str
    name: str = ""
    note: str = ""
    on: bool = True
    level: Curve = Curve(0.0)

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("name", self.name)
        check_text("note", self.note)


class Rumble(_SoundRow, frozen=True, kw_only=True, tag="rumble", tag_field="kind"):
    """Low noise around ``tone`` Hz, ``spread`` octaves wide.

    ``roughness``: the share of a coarse, broken band above it. ``hum``: the share of a held tone with overtones, as of
    an engine. ``width``: 0 one and the same on both sides, 1 each its own. Its loudness follows the speed of the camera
    or the intensity, rising in ``attack`` and falling in ``release`` seconds (1/e), or nothing.
    """

    name: str = "Rumble"
    tone: float = 40.0
    spread: float = 1.2
    roughness: float = 0.2
    hum: float = 0.0
    width: float = 0.5
    follow: Follow = "speed"
    attack: float = 0.08
    release: float = 0.6
    seed: int = 1


class Knocks(_SoundRow, frozen=True, kw_only=True, tag="knocks", tag_field="kind"):
    """A sound at each hit: a body that rings at ``pitch`` Hz, starting ``fall`` octaves above it, for ``decay`` seconds
    (1/e), of some ``matter``; a ``click``; a ``room`` of ``reverb`` seconds (60 dB). Or a file, ``path``.

    It comes as late as the jolts named ``strand`` do (the first ones where it is empty), and ``delay`` seconds besides.
    ``differ``: how much no two of them are alike.
    """

    name: str = "Knocks"
    pitch: float = 70.0
    fall: float = 0.5
    decay: float = 0.18
    matter: Matter = "wood"
    bright: float = 0.5
    click: float = 0.3
    room: float = 0.25
    reverb: float = 0.7
    delay: float = 0.0
    strand: str = ""
    path: str = ""
    differ: float = 0.3
    seed: int = 1

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("path", self.path)


class Layer(_SoundRow, frozen=True, kw_only=True, tag="layer", tag_field="kind"):
    """A sound file laid under, from ``offset`` seconds of the shot on; ``loop``: over and over, each end crossfaded
    over ``fade`` seconds."""

    name: str = "Layer"
    path: str = ""
    offset: float = 0.0
    loop: bool = True
    fade: float = 0.5

    def __post_init__(self) -> None:
        super().__post_init__()
        check_text("path", self.path)


Sound = Rumble | Knocks | Layer


class SoundSway(Checked, frozen=True):
    """How the sound trembles with the picture: its level by ± ``level`` dB with the speed of the motion, its place by
    ``balance`` (0 … 1) with where the picture goes. ``whole``: the whole mix, not only the footage's sound."""

    on: bool = False
    level: float = 3.0
    balance: float = 0.4
    whole: bool = False


class Mix(Checked, frozen=True):
    """All that is heard of a shot. ``on``: the lamp of all but the footage's own sound. ``footage``: whether that is
    heard, at ``level`` dB. ``limit``: no true peak passes −1 dB."""

    on: bool = True
    footage: bool = True
    level: Curve = Curve(0.0)
    rows: tuple[Sound, ...] = ()
    sway: SoundSway = SoundSway()
    limit: bool = True

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
