"""Where on the picture a strand, or the whole shake, acts: the controls of a region."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton

from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.controls import Controls
from young_tremor.engine.document.session import Session
from young_tremor.model import curve_edits, shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.fields import number_at, value_at, with_value
from young_tremor.model.shake import Point, Region

SHAPES = (("everywhere", "Everywhere"), ("ellipse", "Ellipse"), ("rectangle", "Rectangle"), ("polygon", "Drawn shape"))


class RegionFields(QObject):
    """Puts its controls into a column; ``edit`` makes the edit that sets a region, or None for everywhere."""

    drawing = Signal(object)  # itself: the region is to be drawn on the picture

    def __init__(
        self,
        session: Session,
        column: Column,
        edit: Callable[[Region | None], shot_edits.Edit],
        words: str = "Where it acts",
    ) -> None:
        super().__init__(column)
        self._session, self._edit = session, edit
        self.region: Region | None = None
        self.now = 0.0
        self.of_plate = words != "Where it acts"  # its places are told before any placement and crop
        column.heading(words)
        self.shape = QComboBox()
        self.shape.setAccessibleName(tr("Region"))
        for key, words in SHAPES:
            self.shape.addItem(tr(words), key)
        self.shape.activated.connect(self._set_shape)
        self.draw = QPushButton(tr("Draw"))
        self.draw.setToolTip(tr("Drag the region on the picture"))
        self.draw.clicked.connect(lambda: self.drawing.emit(self))
        row = QHBoxLayout()
        row.addWidget(self.shape, 1)
        row.addWidget(self.draw)
        column.rows.addLayout(row)
        controls = self._controls = Controls(
            Region, session, column, lambda **changes: self._changed(**changes), "Region"
        )
        across, down = number_at(Point, "x").tip, number_at(Point, "y").tip
        self.rules = {
            "x": controls.number("centre.x", tip=f"Its centre: {across[0].lower()}{across[1:]}"),
            "y": controls.number("centre.y", tip=f"Its centre: {down[0].lower()}{down[1:]}"),
        }
        self.rules |= {name: controls.number(name) for name in ("width", "height", "feather")}
        for path, control in controls.numbers.items():
            if path != "feather":
                control.menu = lambda menu, path=path: menu.addAction(
                    tr("Set a key at the playhead"), partial(self._set_key, path)
                )
        self.outside = controls.switch("outside")

    def _set_shape(self, number: int) -> None:
        key = self.shape.itemData(number)
        if key == "everywhere":
            self._session.apply(tr("Region"), self._edit(None))
        else:
            self._apply(shape=key)
            if key == "polygon" and self.region is not None and not self.region.outline:
                self.drawing.emit(self)

    def _changed(self, **changes: Any) -> shot_edits.Edit:
        return self._edit(replace(self.region or Region(), **changes))

    def _apply(self, **changes: Any) -> None:
        self._session.apply(tr("Region"), self._changed(**changes))

    def _set_key(self, path: str) -> None:
        region = self.region or Region()
        self._session.apply(
            tr("Region"), self._edit(with_value(region, path, curve_edits.with_key(value_at(region, path), self.now)))
        )

    def draw_path(self, path: np.ndarray) -> None:
        """Take a drag on the picture, (n, 2) in frame units: its rectangle, or the shape that was drawn."""
        low, high = path.min(axis=0), path.max(axis=0)
        middle, size = (low + high) / 2, np.maximum(high - low, 0.02)
        centre = Point(Curve(round(float(middle[0]), 4)), Curve(round(float(middle[1]), 4)))
        changes: dict[str, Any] = {"centre": centre}
        if self.region is not None and self.region.shape == "polygon":
            outline = np.round(path - middle, 4)
            changes["outline"] = tuple((float(x), float(y)) for x, y in outline.tolist())
        else:
            changes |= {"width": Curve(round(float(size[0]), 4)), "height": Curve(round(float(size[1]), 4))}
        self._apply(**changes)

    def show(self, region: Region | None, now: float) -> None:
        """Show a region as it is at ``now`` seconds."""
        self.region, self.now = region, now
        shape = region.shape if region else "everywhere"
        self.shape.setCurrentIndex(self.shape.findData(shape))
        self._controls.show(region or Region(), now)
        for field, rule in self.rules.items():
            rule.setVisible(region is not None and (shape != "polygon" or field not in ("width", "height")))
        self.draw.setVisible(region is not None)
        self.outside.setVisible(region is not None)
