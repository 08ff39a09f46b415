"""A plotted strand's full controls."""

from __future__ import annotations

from functools import partial
from typing import Any

import numpy as np
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QPushButton, QSizePolicy

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.panels.strand_panel import INKS, SHARE, StrandPanel
from young_tremor.model import curve_edits
from young_tremor.model.project import Shot
from young_tremor.model.shake import PLOTTED, UNITS, Plotted


class PlottedPanel(StrandPanel):
    """A plotted strand's full controls."""

    title = "Plotted"
    _strand: Plotted | None

    def _fill(self) -> None:
        self.channel = "x"
        self.channels = Segments(
            tuple((n, n.capitalize(), f"Edit {n} on the row; the others are locked") for n in PLOTTED), "Edited curve"
        )
        self.channels.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.channels.chosen.connect(self._choose)
        self.rows.addWidget(self.channels)
        self.heading("At the playhead")
        self.values: dict[str, NumberField] = {}
        for name in PLOTTED:
            unit = UNITS[name]
            most = 90.0 if unit == "°" else 100.0
            rule = self._rule(
                f"{name.capitalize()} here",
                NumberScale(-5, 5, unit, 2, least=-most, most=most),
                0,
                "Typed or dragged, it sets a key at the playhead",
                partial(self._here, name),
                INKS[name],
            )
            self.values[name] = rule
        self.ahead = NumberField(
            "Step after a drag",
            NumberScale(0, 24, "frames", 0, least=0, most=500),
            value=0,
            reset=0,
            tip="Frames to advance after each drag that sets a key",
        )
        self.ahead.changed.connect(lambda v: self.ahead_changed.emit(round(v)))
        self.rows.addWidget(self.ahead)
        self.heading("To the end")
        self.repeat = QCheckBox(tr("Repeat to the end"))
        self.repeat.clicked.connect(lambda on: self._session.apply(tr("Repeat"), self._edit(repeat=on)))
        self.rows.addWidget(self.repeat)
        self.irregular = self._rule(
            "Irregular", SHARE, 0.3, "How much the rounds differ in size and time", lambda v: {"irregular": v}
        )
        self.heading("Scatter keys")
        self.every = NumberField(
            "Every",
            NumberScale(0.04, 3, "s", 2, bend=2, least=0.01, most=60),
            value=0.4,
            reset=0.4,
            tip="About so far apart: from half of it to one and a half",
        )
        self.reach = NumberField(
            "Within",
            NumberScale(0, 5, "", 2, bend=2, least=0, most=100),
            value=0.6,
            reset=0.6,
            tip="Plus or minus this, in the curve's unit",
        )
        scatter, between = QPushButton(tr("Scatter")), QPushButton(tr("One in each gap"))
        scatter.setToolTip(tr("Seeded keys on the edited curve, over the marked stretch or the shot"))
        between.setToolTip(tr("A key in the middle of each gap of the edited curve"))
        scatter.clicked.connect(self._scatter)
        between.clicked.connect(self._between)
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

    def _here(self, name: str, value: float) -> dict[str, Any]:
        return {name: curve_edits.with_key(self._strand.curve(name), self.now, value)} if self._strand else {}

    def _scatter(self) -> None:
        if self._strand is None:
            return
        every, reach = self.every.value, self.reach.value
        made = curve_edits.scatter_keys(
            self._strand.curve(self.channel),
            self._strand.seed,
            start=self.span[0],
            end=self.span[1],
            least=0.5 * every,
            most=1.5 * every,
            reach=reach,
            low=-100,
            high=100,
        )
        self._session.apply(tr("Scatter keys"), self._edit(**{self.channel: made}))

    def _between(self) -> None:
        if self._strand is not None:
            made = curve_edits.between(self._strand.curve(self.channel))
            self._session.apply(tr("Keys between"), self._edit(**{self.channel: made}))

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Plotted, now: float) -> None:
        self._show_common(shot, info, strand, now)
        for name, rule in self.values.items():
            rule.set_value(round(float(strand.curve(name).at(np.array([now]))[0]), 4))
        self.repeat.setChecked(strand.repeat)
        self.irregular.set_value(strand.irregular)
