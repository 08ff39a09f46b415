"""The controls of a plate's depth: from where its nearness comes, and how far the ends are."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout, QPushButton, QWidget

from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.controls import Controls
from young_tremor.desk.panels.region_fields import RegionFields
from young_tremor.engine.document.session import Session
from young_tremor.model.depth import Depth, Raised, Ramp
from young_tremor.model.shake import Region
from young_tremor.model.shot_edits import Edit

WORDS, SHAPE = "Depth", "Shape of the depth"
KINDS = (
    ("none", "None: all at one distance"),
    ("horizon", "Horizon: a floor below it"),
    ("slope", "Slope"),
    ("shapes", "Shapes"),
    ("file", "A grey picture…"),
)
FRESH = {
    "horizon": Depth(ramp=Ramp(90.0, 0.05, 0.5)),
    "slope": Depth(ramp=Ramp(90.0, -0.5, 0.5)),
    "shapes": Depth(shapes=(Raised(Region("ellipse")),)),
}
FAR = NumberScale(0.2, 5, "×", 2, bend=2.3, least=0.05, most=1000)
PLACE = NumberScale(-60, 60, "%", 0, least=-1000, most=1000)


def kind_of(depth: Depth | None) -> str:
    """Under which of the kinds a depth stands."""
    if depth is None:
        return "none"
    if depth.path:
        return "file"
    ramp = depth.ramp
    if ramp is None:
        return "shapes"
    return "horizon" if (ramp.angle, ramp.end) == (90.0, 0.5) and ramp.start > -0.5 else "slope"


class DepthFields(QObject):
    """Puts its controls into two groups of a column; ``edit`` makes the edit that sets a plate's depth, or None."""

    shown = Signal()  # whether its lines are wanted over the picture may have changed

    def __init__(self, session: Session, column: Column, edit: Callable[[Depth | None], Edit]) -> None:
        super().__init__(column)
        self._session, self._edit, self._column = session, edit, column
        self.depth: Depth | None = None
        self._number = 0
        column.heading(WORDS, folded=True)
        column.folds[WORDS][0].toggled.connect(lambda folded: self.shown.emit())
        self.kind = QComboBox()
        self.kind.setAccessibleName(tr("Depth picture"))
        self.kind.setToolTip(tr("Distance of each point: what is near moves more. White is near"))
        self.kind.setMinimumContentsLength(10)
        self.kind.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        for key, words in KINDS:
            self.kind.addItem(tr(words), key)
        self.kind.activated.connect(lambda number: self._set_kind(self.kind.itemData(number)))
        column.rows.addWidget(self.kind)
        self._controls = Controls(Depth, session, column, self._changed, step="Depth")
        paths = ("near", "far", "ramp.angle", "ramp.start", "ramp.end")
        self.rules = {path.rpartition(".")[2]: self._controls.number(path) for path in paths}
        self.inverted = self._controls.switch("inverted")
        line = QHBoxLayout()
        self.shape = QComboBox()
        self.shape.setAccessibleName(tr("Shape"))
        self.shape.activated.connect(self._choose)
        line.addWidget(self.shape, 1)
        self.add, self.remove = QPushButton(tr("Add")), QPushButton(tr("Remove"))
        self.add.setToolTip(tr("Another shape that stands at a distance of its own"))
        self.add.clicked.connect(self._add)
        self.remove.clicked.connect(self._remove)
        for button in (self.add, self.remove):
            line.addWidget(button)
        self._shapes = QWidget()
        self._shapes.setLayout(line)
        line.setContentsMargins(0, 0, 0, 0)
        column.rows.addWidget(self._shapes)
        self.region = RegionFields(session, column, self._set_region, words=SHAPE)
        self._shape = Controls(Raised, session, column, self._reshaped, step="Depth")
        self._raised = self._shape.number("near")

    @property
    def open(self) -> bool:
        """Whether its group is unfolded, so that its lines are wanted over the picture."""
        return self.depth is not None and not self._column.folds[WORDS][0].folded

    def show_depth(self, depth: Depth | None, now: float) -> None:
        """Show a plate's depth."""
        self.depth, kind = depth, kind_of(depth)
        self.kind.setCurrentIndex(self.kind.findData(kind))
        for field, rule in self.rules.items():
            rule.setVisible(depth is not None and (field in ("near", "far") or self._has(field, kind)))
        self.inverted.setVisible(depth is not None)
        drawn = depth is not None and not depth.path
        self._shapes.setVisible(drawn)
        shapes = depth.shapes if depth is not None else ()
        self._number = min(self._number, max(len(shapes) - 1, 0))
        self._column.show_group(SHAPE, shown=drawn and bool(shapes))
        self._raised.setVisible(bool(shapes))
        self.remove.setEnabled(bool(shapes))
        if depth is None:
            return
        self._controls.show(depth if depth.ramp is not None else replace(depth, ramp=Ramp()), now)
        if self.shape.count() != len(shapes):
            self.shape.clear()
            for number in range(len(shapes)):
                self.shape.addItem(tr("Shape {0}", number + 1))
        self.shape.setCurrentIndex(self._number)
        if shapes:
            self.region.show(shapes[self._number].region, now)
            self._shape.show(shapes[self._number], now)

    @staticmethod
    def _has(field: str, kind: str) -> bool:
        return kind == "slope" or (kind == "horizon" and field == "start")

    def _set_kind(self, kind: str) -> None:
        if kind == "file":
            window = self._column.window()
            name, _ = QFileDialog.getOpenFileName(window, tr("A grey picture: white is near"))
            if name:
                self._session.apply(tr("Depth"), self._edit(Depth(path=name)))
            else:
                self.kind.setCurrentIndex(self.kind.findData(kind_of(self.depth)))
            return
        depth = FRESH.get(kind)
        if depth is not None and self.depth is not None:
            depth = replace(depth, near=self.depth.near, far=self.depth.far)
        self._session.apply(tr("Depth"), self._edit(depth))

    def _changed(self, **changes: Any) -> Edit:
        return self._edit(replace(self.depth, **changes)) if self.depth is not None else lambda project: project

    def _apply(self, words: str, **changes: Any) -> None:
        if self.depth is not None:
            self._session.apply(tr(words), self._edit(replace(self.depth, **changes)))

    def _choose(self, number: int) -> None:
        self._number = number
        self.show_depth(self.depth, self.region.now)
        self.shown.emit()

    def _add(self) -> None:
        if self.depth is not None:
            self._number = len(self.depth.shapes)
            self._apply("Add shape", shapes=(*self.depth.shapes, Raised(Region("ellipse"))))

    def _remove(self) -> None:
        if self.depth is not None:
            shapes = tuple(raised for n, raised in enumerate(self.depth.shapes) if n != self._number)
            self._apply("Remove shape", shapes=shapes)

    def _reshaped(self, **changes: Any) -> Edit:
        if self.depth is None or not self.depth.shapes:
            return lambda project: project
        shapes = list(self.depth.shapes)
        shapes[self._number] = replace(shapes[self._number], **changes)
        return self._edit(replace(self.depth, shapes=tuple(shapes)))

    def _set_region(self, region: Region | None) -> Edit:
        return self._reshaped(region=region or Region("rectangle"))
