"""A take strand's full controls."""

from __future__ import annotations

from typing import Any

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import remark
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.panels.strand_panel import INKS, StrandPanel
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import takes
from young_tremor.model.project import Shot
from young_tremor.model.shake import Taken
from young_tremor.model.take import Take


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

    elsewhere = ("opposed",)

    def __init__(self, session: Session) -> None:
        super().__init__(Taken, "Take", session)

    def _fill(self) -> None:
        self.about = remark()
        self.path = PathPrint()
        self.rows.addWidget(self.about)
        self.rows.addWidget(self.path)
        number, switch = self.controls.number, self.controls.switch
        self.cutoff = number("cutoff", changes=lambda v: self._relearn(cutoff=v))
        self.cutoff.set_note(lambda v: "shake only" if v else "whole move")
        self.way = Segments(
            (("filmed", "As filmed", "As the hand moved that filmed it"), ("opposed", "Opposed", "The other way")),
            "Direction",
        )
        self.way.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.way.chosen.connect(lambda key: self.controls.apply("Direction", opposed=key == "opposed"))
        self.rows.addWidget(self.way)
        self.mirrored = switch("mirrored")
        self.heading("How much of each")
        self.gains = {name: number(f"gains.{name}", ink=INKS[name]) for name in ("x", "y", "roll", "zoom")}
        self.heading("Lens")
        self.focal = number("take.focal_mm", empty=0.0, changes=self._set_focal_length)
        self.focal.set_note(lambda v: "" if v else "not known")
        self.by_angle = switch("by_angle", changes=lambda on: self._relearn(by_angle=on))
        self.heading("Time")
        self.offset = number("offset")
        self.trim_start = number("start", changes=lambda v: self._relearn(start=v))
        self.trim_end = number("end", empty=0.0, changes=lambda v: self._relearn(end=v or None))
        self.trim_end.set_note(lambda v: "" if v else "to its end")
        self.beyond = self.controls.choice("beyond")
        self.fade = number("fade")
        self.endless = switch("only_endless")

    def _relearn(self, **changes: Any) -> dict[str, Any]:
        return takes.relearn_changes(self._strand, **changes)

    def _set_focal_length(self, value: float) -> dict[str, Any]:
        take = replace(self._strand.take, focal_mm=value or None)
        return self._relearn(take=take, by_angle=self._strand.by_angle and value > 0)

    def show_strand(self, shot: Shot, info: SourceInfo, strand: Taken, now: float) -> None:  # type: ignore[override]
        before = self._strand
        super().show_strand(shot, info, strand, now)
        if before is None or before.take is not strand.take or before.cutoff != strand.cutoff:
            self.about.setText(about(strand.take))
            self.path.show_path(*takes.paths(strand.take, strand.cutoff))
        self.way.choose("opposed" if strand.opposed else "filmed")
        self.by_angle.setEnabled(bool(strand.take.focal_mm))
