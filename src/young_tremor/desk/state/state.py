"""What the desk looks at: which shot, strand and keys are chosen, how it is compared, what tool is in the hand."""

from __future__ import annotations

from typing import Any, Literal

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.state.time import TimeView
from young_tremor.engine import footage
from young_tremor.engine.preview import Mode
from young_tremor.engine.session import Session
from young_tremor.model.project import Shot
from young_tremor.model.shake import Strand

PATH = "Path of the frame"  # the overlay that is drawn from the beginning
Page = Literal["frame", "plates"]  # of the panel, while no strand is chosen
Tool = Literal["", "box", "region"]


class Keys(Struct, frozen=True):
    """Chosen keys: of which curve (an id its row gives it), and their numbers."""

    curve: str = ""
    numbers: tuple[int, ...] = ()


class Zoom(Struct, frozen=True):
    """How the picture is looked at: device pixels for each delivered one (0: as large as fits), and the place in the
    middle as shares of the frame."""

    scale: float = 0.0
    x: float = 0.5
    y: float = 0.5


class Choice(Struct, frozen=True):
    """``strand``, ``hit``, ``plate``, ``keys``, ``against``, ``filled``, ``tool``, ``placing`` and ``zoom`` belong to
    one shot and go with it. ``against``: letter of the variant it is compared with, None for the still original.
    ``filled``: the row that fills the window; ``rows``: curves whose row is shown though they have no keys.
    ``placing``: the pivot is shown to be dragged. ``page``: of the panel, while no strand is chosen."""

    shot: str | None = None
    strand: str | None = None
    hit: str | None = None
    plate: str | None = None
    keys: Keys = Keys()
    against: str | None = None
    filled: str = ""
    tool: Tool = ""
    placing: bool = False
    zoom: Zoom = Zoom()
    rows: frozenset[str] = frozenset()
    mode: Mode = "shaken"
    peek: bool = False
    overlays: frozenset[str] = frozenset((PATH,))
    page: Page = "frame"


SHARED = ("rows", "mode", "peek", "overlays", "page")  # what stays from shot to shot


class State(QObject):
    """One for a window. ``changed`` comes after every choice with what was before and what is now."""

    changed = Signal(object, object)  # Choice, Choice

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.time = TimeView()
        self.time.setParent(self)
        self.now = Choice()
        self.facts: dict[str, SourceInfo] = {}  # of footage that was read, by path
        session.changed.connect(lambda old, new: self.follow())
        session.replaced.connect(self._replaced)

    def choose(self, **changes: Any) -> None:
        """Change what is chosen. Another shot begins with nothing of the last one's chosen, and no marks."""
        before = self.now
        if changes.get("shot", before.shot) != before.shot:
            self.time.set_marks(None)
            before = Choice(**{name: getattr(before, name) for name in SHARED})
        now = replace(before, **changes)
        if now != self.now:
            before, self.now = self.now, now
            self.changed.emit(before, now)

    def choose_shot(self, shot: str) -> None:
        """Put another shot on."""
        self.choose(shot=shot)

    def follow(self) -> None:
        """What the document has no longer is not chosen any more; the first shot where none is."""
        shots, shot = self.session.project.shots, self.shot
        if shot is None:
            self.choose(shot=shots[0].id if shots else None)
            return
        if self.now.strand is not None and self.strand is None:
            self.choose(strand=None)
        if self.now.hit is not None and all(hit.id != self.now.hit for hit in shot.hits):
            self.choose(hit=None)

    def _replaced(self) -> None:
        """Another project: nothing of the last one is chosen, also where shots have the same ids."""
        shots = self.session.project.shots
        self.time.set_marks(None)
        shared = {name: getattr(self.now, name) for name in SHARED}
        before, self.now = self.now, Choice(shot=shots[0].id if shots else None, **shared)
        self.changed.emit(before, self.now)

    @property
    def shot(self) -> Shot | None:
        """The chosen shot as the document has it now."""
        return next((shot for shot in self.session.project.shots if shot.id == self.now.shot), None)

    @property
    def strand(self) -> Strand | None:
        """The chosen strand as the document has it now."""
        shot = self.shot
        return next((each for each in shot.shake.strands if each.id == self.now.strand), None) if shot else None

    @property
    def info(self) -> SourceInfo | None:
        """The facts of the chosen shot's footage, once they are read."""
        shot = self.shot
        info = self.facts.get(shot.footage.media.path) if shot else None
        return footage.rated(info, shot.footage.media) if shot and info else None

    @property
    def seconds(self) -> float:
        """Where the playhead is."""
        return float(self.time.frame / self.time.rate)
