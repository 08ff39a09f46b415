"""What the panels of a chosen strand share, whatever its kind."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from typing import Any

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.chart.row_heads import AMOUNT
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import Column, section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.desk.panels.region_fields import RegionFields
from young_tremor.desk.state.gestures import bind
from young_tremor.engine.analysis import traces
from young_tremor.engine.document.session import Session
from young_tremor.model import shot_edits
from young_tremor.model.curve_edits import with_value_at
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS, Strand

REACHES = {"x": 6.0, "y": 6.0, "roll": 4.0, "zoom": 6.0, "pan": 3.0, "tilt": 3.0}
CHANNEL_WORDS = {"x": "X", "y": "Y", "roll": "Roll", "zoom": "Zoom", "pan": "Pan", "tilt": "Tilt"}
INKS = {
    "x": "#6d93e0",
    "y": "#e2735a",
    "roll": "#5fae83",
    "zoom": "#d2a23e",
    "pan": "#9db8ea",
    "tilt": "#eeaa9a",
}
SHARE = NumberScale(0, 1, "", 2)


class StrandPanel(Column):
    """What the panels of all kinds share: the name, the amount, the seed, when it acts, and the way back."""

    region_drawing = Signal(object)  # the region's rules: it is to be drawn on the picture
    channel_chosen = Signal(str)  # the channel that is edited on the row
    ahead_changed = Signal(int)  # frames the playhead goes on after a drag on the picture
    match_asked = Signal(object)  # where the takes to match are offered
    title = ""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shot: Shot | None = None
        self._strand: Strand | None = None
        self._weights: np.ndarray | None = None
        self._height = 1080
        self.now = 0.0
        self.span = (0.0, 0.0)  # seconds: the marked stretch, or the shot
        self.name = QLineEdit()
        self.name.setAccessibleName(tr("Strand name"))
        self.name.setToolTip(tr("The strand's name"))
        self.name.editingFinished.connect(self._rename)
        self.rows.addWidget(section(self.title or "Strand"))
        self.rows.addWidget(self.name)
        self.amount = self._rule(
            "Amount",
            AMOUNT,
            100,
            "How much of this strand",
            lambda v: {"amount": with_value_at(self._strand.amount, self.now, v / 100)} if self._strand else {},
        )
        self.older = QPushButton(tr("Older rule: take today's"))
        self.older.setToolTip(
            tr("It moves as in an earlier version, made before wander, rests, rattle and keyed rates were calibrated")
        )
        self.older.clicked.connect(lambda: self._session.apply(tr("Today's rule"), self._edit(rule=2)))
        self.older.hide()
        self.rows.addWidget(self.older)
        self._fill()
        self._seed_row()
        self._when()
        self.region = RegionFields(session, self, lambda region: self._edit(region=region))
        self.region.drawing.connect(self.region_drawing.emit)
        self.finish()
        self.rows.setSpacing(4)

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Any, now: float) -> None:
        """Show a strand of the panel's kind as it is at ``now`` seconds."""
        self._show_common(shot, info, strand, now)

    def _fill(self) -> None:
        """Put the controls of this kind into the column; what all kinds have stands around them."""

    def _rule(
        self,
        label: str,
        scale: NumberScale,
        value: float,
        tip: str,
        changes: Callable[[float], dict[str, Any]],
        ink: str | None = None,
    ) -> NumberField:
        rule = NumberField(label, scale, value=value, tip=tip, ink=ink)
        bind(rule, self._session, label, lambda v: self._edit(**changes(v)))
        self.rows.addWidget(rule)
        return rule

    def _edit(self, **changes: Any) -> shot_edits.Edit:
        return shot_edits.set_strand(self._shot_id(), self._strand.id if self._strand else "", **changes)

    def _shot_id(self) -> str:
        return self._shot.id if self._shot else ""

    def _rename(self) -> None:
        if self._strand and self.name.text().strip() and self.name.text() != self._strand.name:
            self._session.apply(tr("Rename strand"), self._edit(name=self.name.text().strip()))

    def _seed_row(self) -> None:
        self.seed = QLabel("1")
        self.seed.setStyleSheet('font-family: "Spline Sans Mono"; font-size: 13px;')
        another = QPushButton(tr("New course"))
        another.setToolTip(tr("The same motion, never the same way twice: another seed"))
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

    def _when(self) -> None:
        """The stretch in which it acts."""
        self.heading("When")
        time = NumberScale(0, 30, "s", 2, bend=2, least=0, most=36000)
        fade = NumberScale(0, 5, "s", 2, bend=2, least=0, most=600)
        self.start = self._rule("From", time, 0, "Acts from here on", lambda v: self._stretch(start=v or None))
        self.end = self._rule("To", time, 0, "Acts up to here; 0 is to the end", lambda v: self._stretch(end=v or None))
        self.end.set_note(lambda v: "" if v else "to the end")
        self.fade_in = self._rule(
            "Fade in", fade, 0, "From nothing, after its start", lambda v: self._stretch(fade_in=v)
        )
        self.fade_out = self._rule(
            "Fade out", fade, 0, "To nothing, before its end", lambda v: self._stretch(fade_out=v)
        )

    def _stretch(self, **changes: Any) -> dict[str, Any]:
        assert self._strand is not None
        changed = replace(self._strand.stretch, **changes)
        if changes.get("fade_in") and changed.start is None:
            changed = replace(changed, start=0.0)
        return {"stretch": changed}

    def _pixels(self, channel: str, value: float) -> str:
        if not value or self._weights is None:
            return ""
        return f"{value * self._weights[CHANNELS.index(channel)] / 100 * self._height:.1f} px"

    def _show_common(self, shot: Shot, info: SourceInfo, strand: Strand, now: float) -> None:
        self._shot, self._strand, self.now = shot, strand, now
        self._weights = traces.effect(shot, info)
        self._height = shot.size.height if shot.size else info.size[1]
        if not self.name.hasFocus():
            self.name.setText(strand.name)
        self.amount.set_value(round(float(strand.amount.at(np.array([now]))[0]) * 100, 2))
        self.region.show(strand.region, now)
        self.older.setVisible(getattr(strand, "rule", 2) == 1)
        self.seed.setText(str(strand.seed))
        stretch = strand.stretch
        for rule, value in (
            (self.start, stretch.start or 0.0),
            (self.end, stretch.end or 0.0),
            (self.fade_in, stretch.fade_in),
            (self.fade_out, stretch.fade_out),
        ):
            rule.set_value(value)
