"""A take strand's full controls."""

from __future__ import annotations

from functools import partial
from typing import Any

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLabel, QSizePolicy, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.chart.row_heads import SLOW, SLOW_TIP
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.panels.strand_panel import INKS, StrandPanel
from young_tremor.engine.library import takes
from young_tremor.model.project import Shot
from young_tremor.model.shake import Taken
from young_tremor.model.take import BEYOND, Take

GAIN = NumberScale(0, 300, "%", 0, bend=1.585, least=-1000, most=1000)
BEYOND_WORDS = {
    "carry": "Carry on like it",
    "loop": "Loop, crossfaded",
    "back": "There and back",
    "rest": "Come to rest",
}


class PathPrint(QWidget):
    """The way of the frame's centre on a scrap of chart paper; the slow part of it in grease pencil."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(104)
        self.setAccessibleName(tr("Path of the take"))
        self._whole, self._slow = np.zeros((0, 2)), np.zeros((0, 2))
        theme.paper.changed.connect(self.update)

    def show_path(self, whole: np.ndarray, slow: np.ndarray) -> None:
        """Both (n, 2), in pixels."""
        self._whole, self._slow = whole, slow
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        paint_path(painter, QRectF(self.rect()), self._whole, self._slow)


def paint_path(painter: QPainter, box: QRectF, whole: np.ndarray, slow: np.ndarray | None = None) -> None:
    """A path on paper, fitted into a box."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    colour = theme.paper.colour
    painter.setPen(QPen(QColor(0, 0, 0, 60), 1))
    painter.setBrush(colour("paper"))
    painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5))
    if len(whole) < 2:
        return
    low, high = whole.min(axis=0), whole.max(axis=0)
    scale = 0.86 * min(box.width() / max(high[0] - low[0], 1.0), box.height() / max(high[1] - low[1], 1.0))
    middle = (low + high) / 2
    for path, ink, weight in ((whole, colour("x"), 1.1), (slow, QColor(theme.GREASE), 1.8)):
        if path is not None and len(path) > 1:
            painter.setPen(QPen(ink, weight))
            places = (path - middle) * scale
            painter.drawPolyline(QPolygonF([box.center() + QPointF(x, y) for x, y in places.tolist()]))


def about(take: Take) -> str:
    """What a take comes from, in a line."""
    parts = [
        take.source,
        f"{take.width}×{take.height}",
        f"{takes.rate_words(take)}\u00a0fps",
        f"{take.seconds:.1f}\u00a0s",
    ]
    if take.focal_mm:
        parts.append(f"{take.focal_mm:g}\u00a0mm")
    return " · ".join(part for part in parts if part)


class TakePanel(StrandPanel):
    """A take strand's full controls."""

    title = "Take"
    _strand: Taken | None

    def _fill(self) -> None:
        self.about = QLabel("")
        self.about.setWordWrap(True)
        self.about.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        self.path = PathPrint()
        self.rows.addWidget(self.about)
        self.rows.addWidget(self.path)
        self.cutoff = self._rule("Slow part", SLOW, 0, SLOW_TIP, lambda v: self._learned(cutoff=v))
        self.cutoff.set_note(lambda v: "shake only" if v else "whole move")
        self.way = Segments(
            (("filmed", "As filmed", "As the hand moved that filmed it"), ("opposed", "Opposed", "The other way")),
            "Direction",
        )
        self.way.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.way.chosen.connect(lambda key: self._session.apply(tr("Direction"), self._edit(opposed=key == "opposed")))
        self.mirrored = QCheckBox(tr("Mirrored, left for right"))
        self.mirrored.clicked.connect(lambda on: self._session.apply(tr("Mirror"), self._edit(mirrored=on)))
        self.rows.addWidget(self.way)
        self.rows.addWidget(self.mirrored)
        self.heading("How much of each")
        self.gains = {
            name: self._rule(
                f"{name.capitalize()} gain",
                GAIN,
                100,
                "Percent of what was measured; below 0 is opposed",
                partial(self._gain, name),
                INKS[name],
            )
            for name in ("x", "y", "roll", "zoom")
        }
        self._lens()
        self._time()

    def _lens(self) -> None:
        self.heading("Lens")
        self.by_angle = QCheckBox(tr("From lens to lens, as angles"))
        self.by_angle.setToolTip(tr("Needs the focal length it was filmed at; otherwise percent of the frame's height"))
        self.by_angle.clicked.connect(
            lambda on: self._session.apply(tr("By angle"), self._edit(**self._learned(by_angle=on)))
        )
        self.focal = self._rule(
            "Filmed at",
            NumberScale(0, 200, "mm", 0, bend=1.8, least=0, most=5000),
            0,
            "Focal length of the clip, for a sensor 36 mm wide; 0 is not known",
            self._filmed_at,
        )
        self.focal.set_note(lambda v: "" if v else "not known")
        self.rows.addWidget(self.by_angle)

    def _time(self) -> None:
        self.heading("Time")
        seconds = NumberScale(0, 30, "s", 2, bend=2, least=0, most=36000)
        self.offset = self._rule(
            "Offset",
            NumberScale(-10, 10, "s", 2, least=-36000, most=36000),
            0,
            "So far into the take it begins",
            lambda v: {"offset": v},
        )
        self.trim_start = self._rule(
            "Take from", seconds, 0, "Leaves out its beginning", lambda v: self._learned(start=v)
        )
        self.trim_end = self._rule(
            "Take to", seconds, 0, "Leaves out its end; 0 keeps it", lambda v: self._learned(end=v or None)
        )
        self.trim_end.set_note(lambda v: "" if v else "to its end")
        words = QLabel(tr("After it"))
        words.setStyleSheet(f"color: {theme.DIM};")
        self.beyond = QComboBox()
        self.beyond.setAccessibleName(tr("After the take"))
        self.beyond.setToolTip(tr("What moves the shot when it is longer than the take"))
        for key in BEYOND:
            self.beyond.addItem(tr(BEYOND_WORDS[key]), key)
        self.beyond.activated.connect(
            lambda n: self._session.apply(tr("After the take"), self._edit(beyond=self.beyond.itemData(n)))
        )
        row = QHBoxLayout()
        row.addWidget(words)
        row.addSpacing(8)
        row.addWidget(self.beyond, 1)
        self.rows.addLayout(row)
        self.fade = self._rule(
            "Crossfade",
            NumberScale(0, 5, "s", 1, bend=2, least=0, most=60),
            1,
            "From the one to the other",
            lambda v: {"fade": v},
        )
        self.endless = QCheckBox(tr("Endless: a drift learned from it"))
        self.endless.setToolTip(tr("The same spectrum and play of channels at any length, never the same twice"))
        self.endless.clicked.connect(lambda on: self._session.apply(tr("Learn"), self._edit(only_endless=on)))
        self.rows.addWidget(self.endless)

    def _learned(self, **changes: Any) -> dict[str, Any]:
        return takes.relearn_changes(self._strand, **changes) if self._strand else {}

    def _gain(self, name: str, value: float) -> dict[str, Any]:
        return {"gains": replace(self._strand.gains, **{name: value / 100})} if self._strand else {}

    def _filmed_at(self, value: float) -> dict[str, Any]:
        if self._strand is None:
            return {}
        take = replace(self._strand.take, focal_mm=value or None)
        return self._learned(take=take, by_angle=self._strand.by_angle and value > 0)

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Taken, now: float) -> None:
        before = self._strand
        self._show_common(shot, info, strand, now)
        if before is None or before.take is not strand.take or before.cutoff != strand.cutoff:
            self.about.setText(about(strand.take))
            self.path.show_path(*takes.paths(strand.take, strand.cutoff))
        self.way.choose("opposed" if strand.opposed else "filmed")
        for box, on in (
            (self.mirrored, strand.mirrored),
            (self.by_angle, strand.by_angle),
            (self.endless, strand.only_endless),
        ):
            box.setChecked(on)
        self.by_angle.setEnabled(bool(strand.take.focal_mm))
        self.beyond.setCurrentIndex(BEYOND.index(strand.beyond))
        for name, rule in self.gains.items():
            rule.set_value(round(100 * getattr(strand.gains, name), 2))
        for rule, value in (
            (self.cutoff, strand.cutoff),
            (self.focal, strand.take.focal_mm or 0.0),
            (self.offset, strand.offset),
            (self.trim_start, strand.start),
            (self.trim_end, strand.end or 0.0),
            (self.fade, strand.fade),
        ):
            rule.set_value(value)
