"""What the ask line offers: its entries, and what each of them does."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from young_tremor.engine.asking.settings_index import Edit, Setting
from young_tremor.model.project import Preset
from young_tremor.model.take import Take

Kind = Literal["do", "set", "move", "preset", "take", "time", "hit", "page"]


@dataclass(frozen=True)
class DoCommand:
    """Do a command by its name."""

    name: str


@dataclass(frozen=True)
class ChangeShot:
    """Change the shot, as one step of that label."""

    label: str
    edit: Edit = field(compare=False)


@dataclass(frozen=True)
class OpenSetting:
    """Show where a setting stands, with the focus in it."""

    setting: Setting


@dataclass(frozen=True)
class PutPreset:
    """Put a preset in place of the shake."""

    preset: Preset


@dataclass(frozen=True)
class PutTake:
    """Put a take on the shot."""

    take: Take


@dataclass(frozen=True)
class GoTo:
    """Put the playhead on a frame."""

    frame: int


@dataclass(frozen=True)
class OpenPage:
    """Open a page of the manual by the beginning of its file's name."""

    page: str


Act = DoCommand | ChangeShot | OpenSetting | PutPreset | PutTake | GoTo | OpenPage


@dataclass(frozen=True)
class Entry:
    """One line of the list. ``score``: how likely it is meant."""

    kind: Kind
    name: str
    detail: str
    act: Act
    score: float = 0.0


@dataclass(frozen=True)
class Answer:
    """What was understood, in our words (None: words alone), and the entries, the best first."""

    understood: str | None
    entries: tuple[Entry, ...]
