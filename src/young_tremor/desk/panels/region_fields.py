"""Where on the picture a strand, or the whole shake, acts: the controls of a region."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QPushButton

from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.number_scale import NumberScale
from young_tremor.engine.document.session import Session
from young_tremor.model import curve_edits, shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.curve_edits import with_value_at
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
        place = NumberScale(-100, 100, "%", 1, least=-1000, most=1000)
        size = NumberScale(1, 250, "%", 1, bend=1.6, least=0.1, most=1000)
        self.rules: dict[str, NumberField] = {
            "x": NumberField(
                "Across", place, value=0, reset=0, tip="Its centre, percent of frame height right of the middle"
            ),
            "y": NumberField(
                "Down", place, value=0, reset=0, tip="Its centre, percent of frame height below the middle"
            ),
            "width": NumberField("Width", size, value=80, reset=80, tip="Percent of frame height"),
            "height": NumberField("Height", size, value=60, reset=60, tip="Percent of frame height"),
            "feather": NumberField(
                "Feather",
                NumberScale(0, 60, "%", 1, bend=2, least=0, most=400),
                value=15,
                reset=15,
                tip="Over which it fades, percent of frame height",
            ),
        }
        for field, rule in self.rules.items():
            rule.began.connect(lambda: session.begin_gesture(tr("Region")))
            rule.changed.connect(partial(self._set, field))
            rule.ended.connect(session.end_gesture)
            if field != "feather":
                rule.menu = lambda menu, field=field: menu.addAction(
                    tr("Set a key at the playhead"), partial(self._key, field)
                )
            column.rows.addWidget(rule)
        self.outside = QCheckBox(tr("Outside of it instead"))
        self.outside.clicked.connect(lambda on: self._apply(outside=on))
        column.rows.addWidget(self.outside)

    def _set_shape(self, number: int) -> None:
        key = self.shape.itemData(number)
        if key == "everywhere":
            self._session.apply(tr("Region"), self._edit(None))
        else:
            self._apply(shape=key)
            if key == "polygon" and self.region is not None and not self.region.outline:
                self.drawing.emit(self)

    def _apply(self, **changes: Any) -> None:
        self._session.apply(tr("Region"), self._edit(replace(self.region or Region(), **changes)))

    def _curve(self, field: str) -> Curve:
        region = self.region or Region()
        owner: Any = region.centre if field in ("x", "y") else region
        curve: Curve = getattr(owner, field)
        return curve

    def _put(self, field: str, curve: Curve) -> None:
        region = self.region or Region()
        if field in ("x", "y"):
            self._apply(centre=replace(region.centre, **{field: curve}))
        else:
            self._apply(**{field: curve})

    def _set(self, field: str, value: float) -> None:
        if field == "feather":
            self._apply(feather=value / 100)
        else:
            self._put(field, with_value_at(self._curve(field), self.now, value / 100))

    def _key(self, field: str) -> None:
        self._put(field, curve_edits.with_key(self._curve(field), self.now))

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
        at = np.array([now])
        for field, rule in self.rules.items():
            rule.setVisible(region is not None and (shape != "polygon" or field not in ("width", "height")))
            if region is not None:
                value = region.feather if field == "feather" else float(self._curve(field).at(at)[0])
                rule.set_value(round(100 * value, 3))
        self.draw.setVisible(region is not None)
        self.outside.setVisible(region is not None)
        self.outside.setChecked(region is not None and region.outside)
