"""Hits on the chart: dropped, dragged, repeated, and those that were found and wait to be kept."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import numpy as np
from PySide6.QtWidgets import QMenu

from young_tremor.base.errors import TremorError
from young_tremor.desk.chart.found_hits_row import FoundHitsRow
from young_tremor.desk.chart.row_context import RowContext
from young_tremor.desk.chart.rows import Row
from young_tremor.desk.chart.time_ruler import TimeRuler
from young_tremor.desk.kit.i18n import tr
from young_tremor.engine.analysis.found_hits import Onsets, hits_of
from young_tremor.engine.library import settings
from young_tremor.model import shot_edits
from young_tremor.model.project import new_id
from young_tremor.model.shake import Hit, Jolts, blows


class HitEditor:
    """What the chart does with hits."""

    def __init__(self, paper: RowContext, ruler: TimeRuler, insert: Callable[[Row], None]) -> None:
        self._paper, self._ruler, self._insert = paper, ruler, insert
        self.found: FoundHitsRow | None = None
        session = paper.session
        ruler.hit_grabbed.connect(lambda hit: session.begin_gesture(tr("Move hit")))
        ruler.hit_dragged.connect(
            lambda hit, t, strength: session.apply(
                tr("Move hit"), shot_edits.set_hit(self._paper.shot_id, hit, t=t, strength=strength)
            )
        )
        ruler.hit_released.connect(session.end_gesture)
        ruler.hit_menu.connect(self.fill_menu)
        ruler.hit_gone.connect(
            lambda hit: session.apply(tr("Delete hit"), shot_edits.remove_hits(self._paper.shot_id, frozenset((hit,))))
        )

    def drop(self, t: float) -> None:
        """Put a hit on the ruler; the first one brings the jolts that answer to it."""
        shot = self._paper.shot
        if shot is None:
            return
        with self._paper.session.gesture(tr("Hit")):
            self._paper.session.apply(tr("Hit"), shot_edits.add_hits(shot.id, (Hit(new_id(), max(t, 0.0)),)))
            self._with_jolts(shot.id)

    def fill_menu(self, hit_id: str, menu: QMenu) -> None:
        """Offer what can be done with a hit, or with all of them where none is named."""
        shot, session = self._paper.shot, self._paper.session
        if shot is None:
            return
        hit = next((hit for hit in shot.hits if hit.id == hit_id), None)
        if hit is not None:
            gone = shot_edits.remove_hits(shot.id, frozenset((hit.id,)))
            menu.addAction(tr("Delete hit"), lambda: session.apply(tr("Delete hit"), gone))
            repeat = menu.addMenu(tr("Repeat to the end"))
            for beats in (60, 90, 100, 120, 140):
                repeat.addAction(tr("{0} a minute", beats), partial(self._repeat, hit, 60 / beats))
            for seconds in (0.5, 1.0, 2.0):
                repeat.addAction(tr("every {0:g} s", seconds), partial(self._repeat, hit, seconds))
        menu.addAction(tr("Hit at the playhead (H)"), lambda: self.drop(self._paper.now))
        late = menu.addMenu(tr("Latency of tapped hits"))
        for seconds in (0.0, 0.04, 0.08, 0.12, 0.16, 0.2):
            action = late.addAction(tr("{0:.0f} ms", 1000 * seconds), partial(self._set_lag, seconds))
            action.setCheckable(True)
            action.setChecked(abs(settings.load().tap_lag - seconds) < 1e-6)
        menu.addAction(tr("Find hits in the sound"), lambda: self._paper.find_hits.emit("sound"))
        menu.addAction(tr("Find hits in the picture"), lambda: self._paper.find_hits.emit("picture"))
        if shot.hits:
            every = frozenset(hit.id for hit in shot.hits)
            menu.addAction(
                tr("Delete all hits"), lambda: session.apply(tr("Delete hits"), shot_edits.remove_hits(shot.id, every))
            )

    def _set_lag(self, seconds: float) -> None:
        try:
            settings.change(tap_lag=seconds)
        except TremorError as error:
            self._paper.told.emit(str(error))

    def _repeat(self, hit: Hit, every: float) -> None:
        times = np.arange(hit.t + every, self._paper.view.length, every)
        hits = tuple(Hit(new_id(), float(t), hit.strength) for t in times)
        self._paper.session.apply(tr("Repeat hit"), shot_edits.add_hits(self._paper.shot_id, hits))

    def propose(self, found: Onsets, where: str) -> None:
        """Propose hits: a row with the curve they were found in, hollow pins on the ruler."""
        self.forget()
        row = self.found = FoundHitsRow(self._paper.view, found, where)
        row.strip_.scrubbed.connect(self._paper.scrubbed.emit)
        row.strip_.threshold_changed.connect(lambda _: self._ruler.set_proposed(row.times))
        row.keep.clicked.connect(self._keep)
        row.drop.clicked.connect(self.forget)
        self._insert(row)
        self._ruler.set_proposed(row.times)

    def forget(self) -> None:
        """Forget what was found and not kept."""
        row, self.found = self.found, None
        if row is not None:
            row.hide()
            row.deleteLater()
            self._ruler.set_proposed(np.zeros(0))

    def _keep(self) -> None:
        row, shot = self.found, self._paper.shot
        if row is None or shot is None:
            return
        hits = hits_of(row.strip_.found, row.strip_.threshold)
        self.forget()
        with self._paper.session.gesture(tr("Keep found hits")):
            self._paper.session.apply(tr("Keep found hits"), shot_edits.add_hits(shot.id, hits))
            self._with_jolts(shot.id)

    def _with_jolts(self, shot_id: str) -> None:
        """The first hits bring the jolts that answer to them."""
        shot = self._paper.session.project.shot(shot_id)
        if not blows(shot.shake.strands):
            self._paper.motion_coming.emit(shot_id)
            self._paper.session.apply(tr("Jolts"), shot_edits.add_strand(shot_id, Jolts(new_id(), note="your own")))
