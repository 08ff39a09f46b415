"""What the desk looks at: which shot, strand and keys are chosen, how it is compared, what tool is in the hand."""

from __future__ import annotations

from typing import Any, Literal

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.state.time_view import TimeView
from young_tremor.engine.analysis import reel_layout
from young_tremor.engine.analysis.reel_layout import PlacedShot
from young_tremor.engine.document.session import Session
from young_tremor.engine.media import footage
from young_tremor.engine.preview.preview_worker import Mode
from young_tremor.model import reel_edits
from young_tremor.model.curve import Key
from young_tremor.model.project import Media, Project, Shot, Span
from young_tremor.model.shake import Strand

PATH = "Path of the frame"  # the overlay that is drawn from the beginning
Scope = Literal["shot", "reel"]  # of the chart
Page = Literal["frame", "plates"]  # of the panel, while no strand is chosen
Tool = Literal["", "box", "region"]
Target = Literal["", "shot", "span", "strand", "sound", "plate", "hit", "keys"]  # what keys act on; "": the playhead
TARGETS: tuple[Target, ...] = ("keys", "hit", "plate", "sound", "span", "strand")  # chosen by being named in a change


class ChosenKeys(Struct, frozen=True):
    """Chosen keys: of which curve (an id its row gives it), and their numbers."""

    curve: str = ""
    numbers: tuple[int, ...] = ()


class PictureZoom(Struct, frozen=True):
    """How the picture is looked at: device pixels for each delivered one (0: as large as fits), and the place in the
    middle as shares of the frame."""

    scale: float = 0.0
    x: float = 0.5
    y: float = 0.5


class Selection(Struct, frozen=True):
    """``strand``, ``hit``, ``plate``, ``sound``, ``keys``, ``against``, ``filled``, ``tool``, ``placing`` and
    ``zoom`` belong to one shot and go with it. ``against``: letter of the variant it is compared with, None for the
    still original. ``filled``: the row that fills the window; ``rows``: curves whose row is shown though they have
    no keys. ``placing``: the pivot is shown to be dragged. ``folded``: groups of rows, by their ids. ``page``: of
    the panel, while no strand is chosen. ``scope``: what the chart shows. ``stops``: of light more or less, for
    looking. ``also``: shots that are chosen besides the one that is put on; ``span``: the chosen one of the reel.
    ``target``: what was clicked last, on which keys act; it is marked in amber."""

    shot: str | None = None
    strand: str | None = None
    hit: str | None = None
    plate: str | None = None
    sound: str | None = None
    keys: ChosenKeys = ChosenKeys()
    against: str | None = None
    filled: str = ""
    tool: Tool = ""
    placing: bool = False
    zoom: PictureZoom = PictureZoom()
    rows: frozenset[str] = frozenset()
    folded: frozenset[str] = frozenset()
    mode: Mode = "shaken"
    peek: bool = False
    stops: float = 0.0
    overlays: frozenset[str] = frozenset((PATH,))
    page: Page = "frame"
    scope: Scope = "shot"
    also: frozenset[str] = frozenset()
    span: str | None = None
    target: Target = ""


SHARED = ("rows", "mode", "peek", "stops", "overlays", "page", "scope", "also", "span")  # what stays from shot to shot


def _with_target(now: Selection, changes: dict[str, Any]) -> Selection:
    """A choice whose target follows from what was chosen: the thing that was named last has the keys, and no other is
    chosen that keys could be meant for."""
    if "target" not in changes:
        named = next((name for name in TARGETS if name in changes and _is_set(changes[name])), None)
        if named is not None:
            now = replace(now, target=named)
        elif now.target in changes or "shot" in changes or "scope" in changes:
            now = replace(now, target="")
    if now.target not in ("keys", "") and now.keys != ChosenKeys():
        now = replace(now, keys=ChosenKeys())
    if now.target not in ("hit", "") and now.hit is not None:
        now = replace(now, hit=None)
    if "scope" in changes and "also" not in changes:
        now = replace(now, also=frozenset())
    return now


def _is_set(value: object) -> bool:
    return bool(value.numbers) if isinstance(value, ChosenKeys) else value is not None


class DeskState(QObject):
    """One for a window. ``changed`` comes after every choice with what was before and what is now."""

    changed = Signal(object, object)  # Choice, Choice

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.time = TimeView()
        self.time.setParent(self)
        self.reel_time = TimeView()
        self.reel_time.setParent(self)
        self._placed: tuple[Project | None, int, tuple[PlacedShot, ...]] = (None, -1, ())
        self._seen: tuple[object, ...] = ()
        self._varied: tuple[object, object, Shot | None] = (None, None, None)
        self.now = Selection()
        self.facts: dict[str, SourceInfo] = {}  # of footage that was read, by path
        self.copied_keys: tuple[Key, ...] = ()
        session.changed.connect(lambda old, new: self.follow())
        session.replaced.connect(self._replaced)

    def choose(self, **changes: Any) -> None:
        """Change what is chosen. Another shot begins with nothing of the last one's chosen, and no marks."""
        before = self.now
        if changes.get("shot", before.shot) != before.shot:
            self.time.set_marks(None)
            before = Selection(**{name: getattr(before, name) for name in SHARED})
        now = _with_target(replace(before, **changes), changes)
        if now != self.now:
            before, self.now = self.now, now
            self.changed.emit(before, now)

    def expose(self, stops: float) -> None:
        """Look at the picture with so many stops of light more or less."""
        self.choose(stops=stops)

    def choose_shot(self, shot: str) -> None:
        """Put another shot on, and no others besides."""
        self.choose(shot=shot, also=frozenset())

    def pick_shot(self, shot: str, *, beside: bool = False, through: bool = False) -> None:
        """Choose a shot by the person's own hand: keys act on it from now on.

        ``beside``: with the others that are chosen, or no longer with them. ``through``: with all on the way to it.
        """
        now, ids = self.now, [shot.id for shot in self.session.project.shots]
        if beside and now.shot is not None:
            also = now.also ^ {shot} if shot != now.shot else now.also
            self.choose(also=also - {now.shot}, target="shot")
        elif through and now.shot in ids and shot in ids:
            first, last = sorted((ids.index(now.shot), ids.index(shot)))
            self.choose(also=frozenset(ids[first : last + 1]) - {now.shot}, target="shot")
        else:
            self.choose(shot=shot, also=frozenset(), span=None, target="shot")

    def release(self) -> None:
        """Give the keys back to the playhead; what is chosen stays so."""
        self.choose(target="")

    def follow(self) -> None:
        """What the document has no longer is not chosen any more; the first shot where none is."""
        shots, shot = self.session.project.shots, self.shot
        if shot is None:
            self.choose(shot=shots[0].id if shots else None)
            return
        if self.now.strand is not None and self.strand is None:
            self.choose(strand=None)
        ids = {shot.id for shot in shots}
        if self.now.also - ids or (self.now.span is not None and self.span is None):
            span = self.now.span if self.span is not None else None
            self.choose(also=self.now.also & ids, span=span)
        heard = {"footage", "sway", *(row.id for row in shot.sound.rows)}
        if self.now.sound is not None and self.now.sound not in heard:
            self.choose(sound=None)
        if self.now.hit is not None and all(hit.id != self.now.hit for hit in shot.hits):
            self.choose(hit=None)

    def _replaced(self) -> None:
        """Another project: nothing of the last one is chosen, also where shots have the same ids."""
        shots = self.session.project.shots
        self.time.set_marks(None)
        shared = {name: getattr(self.now, name) for name in SHARED}
        before, self.now = self.now, Selection(shot=shots[0].id if shots else None, **shared)
        self.changed.emit(before, self.now)

    @property
    def shot(self) -> Shot | None:
        """The chosen shot as the document has it now."""
        return next((shot for shot in self.session.project.shots if shot.id == self.now.shot), None)

    def know(self, media: Media) -> SourceInfo | None:
        """What a plate's picture is, once it has been read."""
        if media.drawn:
            return reel_layout.try_info(media)
        info = self.facts.get(media.path)
        return footage.apply_media_settings(info, media) if info is not None else None

    @property
    def places(self) -> tuple[PlacedShot, ...]:
        """The shots in their places in the reel, as far as their footage is known."""
        project = self.session.project
        if self._placed[0] is not project or self._placed[1] != len(self.facts):
            self._placed = project, len(self.facts), reel_layout.place_shots(project, self.know)
        return self._placed[2]

    @property
    def place(self) -> PlacedShot | None:
        """Where the chosen shot lies in the reel."""
        return next((place for place in self.places if place.shot.id == self.now.shot), None)

    def under_spans(self, place: PlacedShot) -> Shot:
        """A shot with the spans that lie over it."""
        return reel_layout.under_spans(self.session.project, place)

    @property
    def seen(self) -> Shot | None:
        """The chosen shot as it is looked at: with the spans over it."""
        shot, spans = self.shot, self.session.project.spans
        if shot is None or not spans:
            return shot
        place = self.place
        key = (shot, spans, place.at if place else 0.0, place.frames if place else 0)
        if len(self._seen) != 5 or any(a is not b and a != b for a, b in zip(self._seen[:4], key, strict=True)):
            self._seen = (*key, self.under_spans(place) if place is not None else shot)
        found = self._seen[4]
        return found if isinstance(found, Shot) else shot

    @property
    def varied(self) -> Shot | None:
        """The chosen shot with others' numbers where they differ among all the chosen; None where nothing does."""
        project, now = self.session.project, self.now
        if not now.also or self.shot is None:
            return None
        if self._varied[0] is not project or self._varied[1] != (now.shot, now.also):
            self._varied = project, (now.shot, now.also), reel_edits.with_differences(project, self.shot.id, now.also)
        return self._varied[2]

    @property
    def chosen_shots(self) -> frozenset[str]:
        """All chosen shots: the one that is put on, and those besides."""
        ids = {shot.id for shot in self.session.project.shots}
        return frozenset((self.now.also | {self.now.shot or ""}) & ids)

    @property
    def span(self) -> Span | None:
        """The chosen span as the document has it now."""
        return next((span for span in self.session.project.spans if span.id == self.now.span), None)

    @property
    def strand(self) -> Strand | None:
        """The chosen strand as the document has it now."""
        shot = self.shot
        if shot is None or self.now.strand is None:
            return None
        plates = (plate.shake.strands for plate in shot.plates if plate.shake is not None)
        every = (*shot.shake.strands, *(strand for strands in plates for strand in strands))
        return next((strand for strand in every if strand.id == self.now.strand), None)

    @property
    def info(self) -> SourceInfo | None:
        """The facts of the chosen shot's footage, once they are read."""
        shot = self.shot
        if shot is not None and shot.footage.media.drawn:
            return footage.drawn_info(shot)
        info = self.facts.get(shot.footage.media.path) if shot else None
        return footage.apply_media_settings(info, shot.footage.media) if shot and info else None

    @property
    def seconds(self) -> float:
        """Where the playhead is."""
        return float(self.time.frame / self.time.rate)
