"""With how much light the picture is looked at: a button under it, and the rule that it opens."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QMenu, QPushButton, QVBoxLayout, QWidget, QWidgetAction

from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField

SCALE = NumberScale(-6, 6, "stops", 1, least=-12, most=12)
STEP = 0.5  # stops by which commands and the wheel go


class ExposureButton(QPushButton):
    """Says the stops; a click opens their rule, the wheel turns them."""

    def __init__(self, turn: Callable[[float], None]) -> None:
        super().__init__()
        self._turn, self._stops = turn, 0.0
        self.setProperty("flat", True)
        self.setFixedWidth(48)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName(tr("Exposure for looking"))
        self.setToolTip(tr("Exposure for looking, in stops: never delivered. The wheel turns it"))
        self.clicked.connect(self._offer)
        self.show_stops(0.0)

    def show_stops(self, stops: float) -> None:
        """Say with how many stops more or less the picture is shown."""
        self._stops = stops
        self.setText(f"{stops:+.1f}".replace("-", "−") if stops else "±0")
        self.setStyleSheet(f"color: {theme.LAMP};" if stops else "")

    def wheelEvent(self, event: QWheelEvent) -> None:
        turned = event.angleDelta().y() or event.angleDelta().x()
        self._turn(SCALE.clamp(self._stops + STEP * turned / 120))
        event.accept()

    def _offer(self) -> None:
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        inside = QWidget()
        inside.setMinimumWidth(280)
        column = QVBoxLayout(inside)
        column.setContentsMargins(10, 8, 10, 6)
        tip = "Light added for looking only: films and pictures are delivered without it."
        rule = NumberField("Exposure", SCALE, value=self._stops, reset=0.0, tip=tip)
        rule.changed.connect(self._turn)
        column.addWidget(rule)
        action = QWidgetAction(menu)
        action.setDefaultWidget(inside)
        menu.addAction(action)
        menu.popup(self.mapToGlobal(self.rect().topLeft()) - QPoint(0, menu.sizeHint().height()))
        rule.setFocus()
