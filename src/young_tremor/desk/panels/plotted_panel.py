"""A plotted strand's full controls."""

from __future__ import annotations

from functools import partial
from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy

from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.panels.strand_panel import INKS, StrandPanel
from young_tremor.engine.document.session import Session
from young_tremor.model import curve_edits
from young_tremor.model.shake import PLOTTED, Plotted


class PlottedPanel(StrandPanel):
    """A plotted strand's full controls."""

    def __init__(self, session: Session) -> None:
        self.channel = "x"
        super().__init__(Plotted, "Plotted", session)

    def _fill(self) -> None:
        self.channels = Segments(
            tuple((n, n.capitalize(), f"Edit {n} on the row; the others are locked") for n in PLOTTED), "Edited curve"
        )
        self.channels.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.channels.chosen.connect(self._choose)
        self.rows.addWidget(self.channels)
        self.heading("At the playhead")
        number = self.controls.number
        self.values = {name: number(name, ink=INKS[name], changes=partial(self._set_key, name)) for name in PLOTTED}
        self.ahead = NumberField(
            "Step after a drag",
            NumberScale(0, 24, "frames", 0, least=0, most=500),
            tip="Frames to advance after each drag that sets a key",
        )
        self.ahead.changed.connect(lambda v: self.ahead_changed.emit(round(v)))
        self.rows.addWidget(self.ahead)
        self.heading("To the end")
        self.repeat = self.controls.switch("repeat")
        number("irregular")
        self._add_scatter()

    def _add_scatter(self) -> None:
        self.heading("Scatter keys")
        self.every = NumberField(
            "Every",
            NumberScale(0.04, 3, "s", 2, bend=2, least=0.01, most=60),
            value=0.4,
            tip="Average spacing: from half of it to one and a half",
        )
        self.reach = NumberField(
            "Within",
            NumberScale(0, 5, "", 2, bend=2, least=0, most=100),
            value=0.6,
            tip="Plus or minus this, in the curve's unit",
        )
        scatter, between = QPushButton(tr("Scatter")), QPushButton(tr("One in each gap"))
        scatter.setToolTip(tr("Seeded keys on the edited curve, over the marked stretch or the shot"))
        between.setToolTip(tr("A key in the middle of each gap of the edited curve"))
        scatter.clicked.connect(self._scatter)
        between.clicked.connect(self._put_between)
        row = QHBoxLayout()
        row.addWidget(scatter)
        row.addWidget(between)
        self.rows.addWidget(self.every)
        self.rows.addWidget(self.reach)
        self.rows.addLayout(row)

    def _choose(self, name: str) -> None:
        self.channel = name
        self.channels.choose(name)
        self.channel_chosen.emit(name)

    def _set_key(self, name: str, value: float) -> dict[str, Any]:
        return {name: curve_edits.with_key(self._strand.curve(name), self.now, value)}

    def _scatter(self) -> None:
        if self._strand is None:
            return
        every, reach = self.every.value, self.reach.value
        curve = curve_edits.scatter_keys(
            self._strand.curve(self.channel),
            self._strand.seed,
            self.span,
            apart=(0.5 * every, 1.5 * every),
            reach=reach,
            limits=(-100, 100),
        )
        self.controls.apply("Scatter keys", **{self.channel: curve})

    def _put_between(self) -> None:
        if self._strand is not None:
            curve = curve_edits.between(self._strand.curve(self.channel))
            self.controls.apply("Keys between", **{self.channel: curve})
