"""What the panels of a chosen strand share, whatever its kind."""

from __future__ import annotations

import secrets
from functools import partial
from typing import Any

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column, remark, section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.controls import Controls
from young_tremor.desk.panels.region_fields import RegionFields
from young_tremor.engine.analysis import traces
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import holders
from young_tremor.model import shot_edits
from young_tremor.model.holder import ORIGIN, Holder
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS, Strand

HOLDER = "Who holds it"
CHANNEL_WORDS = {"x": "X", "y": "Y", "roll": "Roll", "zoom": "Zoom", "pan": "Pan", "tilt": "Tilt"}
INKS = {
    "x": "#6d93e0",
    "y": "#e2735a",
    "roll": "#5fae83",
    "zoom": "#d2a23e",
    "pan": "#9db8ea",
    "tilt": "#eeaa9a",
}


class StrandPanel(Column):
    """The controls of a strand: those of all kinds (name, amount, seed, when and where it acts), and between them those
    of its own kind, which a subclass puts there in :meth:`_fill`."""

    region_drawing = Signal(object)  # the region's controls: it is to be drawn on the picture
    channel_chosen = Signal(str)  # the channel that is edited on the row
    ahead_changed = Signal(int)  # frames to advance after a drag on the picture
    match_asked = Signal(object)  # where the takes to match are offered

    elsewhere: tuple[str, ...] = ()  # fields that have a control of another make

    def __init__(self, kind: type, title: str, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shot: Shot | None = None
        self._strand: Any = None
        self._weights: np.ndarray | None = None
        self._height = 1080
        self._below_seed: list[QPushButton] = []
        self.span = (0.0, 0.0)  # seconds: the marked stretch, or the shot
        self.controls = Controls(kind, session, self, self._edit)
        self.name = QLineEdit()
        self.name.setAccessibleName(tr("Strand name"))
        self.name.setToolTip(tr("The strand's name"))
        self.name.editingFinished.connect(self._rename)
        self.rows.addWidget(section(title))
        self.rows.addWidget(self.name)
        self.amount = self.controls.number("amount")
        self.older = QPushButton(tr("Update to today's rule"))
        self.older.setToolTip(tr("Made before these settings were calibrated; it still moves as it did"))
        self.older.clicked.connect(lambda: self._session.apply(tr("Today's rule"), self._edit(rule=2)))
        self.older.hide()
        self.rows.addWidget(self.older)
        self._fill()
        self.controls.add_rest(but=(*self.elsewhere, "matte"))
        self._add_seed()
        self._add_stretch()
        self.region = RegionFields(session, self, lambda region: self._edit(region=region))
        self.matte = self.controls.switch("matte")
        self.region.drawing.connect(self.region_drawing.emit)
        self.finish()

    @property
    def now(self) -> float:
        """The seconds of the shot at which its curves are shown and changed."""
        return self.controls.now

    def _fill(self) -> None:
        """Put the controls of this kind into the column, in groups. Those that are left out follow by themselves."""

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Strand, now: float) -> None:
        """Show a strand of the panel's kind as it is at ``now`` seconds."""
        self._shot, self._strand = shot, strand
        self._weights = traces.effect(shot, info)
        self._height = shot.size.height if shot.size else info.size[1]
        self.controls.show(strand, now)
        if not self.name.hasFocus():
            self.name.setText(strand.name)
        self.region.show(strand.region, now)
        if HOLDER in self.folds:
            self.show_group(HOLDER, shown=shot.shake.holder is not None)
            if shot.shake.holder is not None:
                self.holder.show(shot.shake.holder, now)
            changed = holders.is_changed_by_hand(shot.shake, strand)
            self.why.setText(tr("Changed by hand: it does not follow these any more.") if changed else tr(strand.note))
            self.why.setVisible(strand.origin.startswith(ORIGIN))
        self.older.setVisible(getattr(strand, "rule", 2) == 1)
        self.seed.setText(str(strand.seed))

    def _edit(self, **changes: Any) -> shot_edits.Edit:
        return shot_edits.set_strand(self._shot_id(), self._strand.id if self._strand else "", **changes)

    def _add_holder(self) -> None:
        """The dials of whoever holds the camera, where somebody does."""
        self.heading(HOLDER)
        self.holder = Controls(Holder, self._session, self, self._edit_holder, step="Holder")
        self.holder.add_rest(but=("seed",))
        self.why = remark()
        self.rows.addWidget(self.why)

    def _edit_holder(self, **changes: Any) -> shot_edits.Edit:
        """Change the holder, and with it all strands that follow."""
        strand = self._strand.id if self._strand else ""
        return shot_edits.change_shake(self._shot_id(), strand, partial(holders.changed, **changes))

    def _shot_id(self) -> str:
        return self._shot.id if self._shot else ""

    def _rename(self) -> None:
        if self._strand and self.name.text().strip() and self.name.text() != self._strand.name:
            self._session.apply(tr("Rename strand"), self._edit(name=self.name.text().strip()))

    def _add_seed(self) -> None:
        self.seed = QLabel("1")
        self.seed.setStyleSheet('font-family: "Spline Sans Mono"; font-size: 13px;')
        another = QPushButton(tr("New course"))
        another.setToolTip(tr("Another random seed: the same kind of motion"))
        another.clicked.connect(
            lambda: self._session.apply(tr("Another course"), self._edit(seed=secrets.randbelow(9999) + 1))
        )
        words = QLabel(tr("Seed"))
        words.setStyleSheet(f"color: {theme.DIM};")
        row = QHBoxLayout()
        row.addWidget(words)
        row.addWidget(self.seed)
        row.addStretch(1)
        row.addWidget(another)
        self.rows.addLayout(row)
        for button in self._below_seed:
            self.rows.addWidget(button)

    def _add_stretch(self) -> None:
        self.heading("When")
        number = self.controls.number
        self.start = number("stretch.start", empty=0.0)
        self.end = number("stretch.end", empty=0.0)
        self.end.set_note(lambda value: "" if value else "to the end")
        self.fade_in = number("stretch.fade_in", changes=self._fade_in)
        self.fade_out = number("stretch.fade_out")

    def _fade_in(self, value: float) -> dict[str, Any]:
        """A fade begins at a start: at the shot's, where the strand has none."""
        stretch = self._strand.stretch
        start = 0.0 if value and stretch.start is None else stretch.start
        return {"stretch": replace(stretch, fade_in=value, start=start)}

    def _note_pixels(self, *paths: str) -> None:
        """Say beside controls of reaches what they come to in pixels; a path ends in its channel, or is one of y."""
        for path in paths:
            channel = next((name for name in path.split(".") if name in CHANNELS), "y")
            self.controls.numbers[path].set_note(partial(self._pixels, channel))

    def _pixels(self, channel: str, value: float) -> str:
        if not value or self._weights is None:
            return ""
        return f"{value * self._weights[CHANNELS.index(channel)] / 100 * self._height:.1f} px"
