"""What all rows of the chart share: the shot they draw, where the playhead is, and what they ask of the desk."""

from __future__ import annotations

from weakref import WeakValueDictionary

from PySide6.QtCore import QObject, Signal

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.chart.curve_subjects import SUBJECTS
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.model import shot_edits
from young_tremor.model.project import Shot, new_id


class RowContext(QObject):
    """One for a chart. ``shot`` and ``info`` are what is drawn: the chart sets them when it follows the document."""

    scrubbed = Signal(int)
    find_hits = Signal(str)  # "sound" or "picture"
    compared = Signal(str)  # letter of the variant to compare with, empty for the still original
    kept = Signal(str)  # strand id that is to become a preset
    reset = Signal()  # back to the preset
    told = Signal(str)
    motion_coming = Signal(str)  # shot id: motion is about to be put on, within a gesture

    def __init__(self, state: DeskState) -> None:
        super().__init__()
        self.state, self.session, self.view = state, state.session, state.time
        self.editors: WeakValueDictionary[str, QObject] = WeakValueDictionary()  # of curves, by their ids
        self.shot: Shot | None = None
        self.info: SourceInfo | None = None

    @property
    def now(self) -> float:
        """The playhead in seconds."""
        return self.state.seconds

    @property
    def shot_id(self) -> str:
        """The id of the shot that is drawn; empty where there is none."""
        return self.shot.id if self.shot else ""

    def snaps(self) -> list[float]:
        """Times that keys snap to: hits, the marks, and the keys of the shot's own curves."""
        if self.shot is None:
            return []
        marks = [float(m / self.view.rate) for m in self.view.marks or ()]
        curves = [subject.read(self.shot) for subject in SUBJECTS]
        keys = (key.t for curve in curves if curve is not None for key in curve.keys)
        return [*marks, *(hit.t for hit in self.shot.hits), *keys]

    def choose(self, strand: str) -> None:
        """Choose a strand, or none if it was the last thing that was clicked."""
        now = self.state.now
        self.state.choose(strand=None if (now.strand, now.target) == (strand, "strand") else strand)

    def fill(self, row: str) -> None:
        """Let a row fill the window, or put everything back."""
        self.state.choose(filled="" if self.state.now.filled == row else row)

    def toggle_row(self, title: str) -> None:
        """Show the row of a curve though it has no keys, or not."""
        self.state.choose(rows=self.state.now.rows ^ {title})

    def duplicate(self, strand: str) -> None:
        """Put a copy of a strand under it and choose it."""
        copy = new_id()
        self.session.apply(tr("Duplicate strand"), shot_edits.duplicate_strand(self.shot_id, strand, copy))
        self.state.choose(strand=copy)
