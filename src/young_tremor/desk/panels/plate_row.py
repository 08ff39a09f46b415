"""One plate of a shot's stack: its lamp, its name, and how it goes along with the shake."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QAccessible, QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from young_tremor.desk.chart.heads import Lamp
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.words import tr
from young_tremor.model.project import Plate

ROW = 30
WAYS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}


class PlateRow(QWidget):
    """One plate of the stack: its lamp, its name, and its share of the shake."""

    chosen = Signal(str)
    moved = Signal(str, int)
    removed = Signal(str)
    nudged = Signal(int, int)  # thousandths of the frame's height, right and down
    pressable = arrows = True

    def __init__(self, plate: Plate) -> None:
        super().__init__()
        self.plate, self.current = plate, False
        self.setFixedHeight(ROW)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setToolTip(
            tr("Click for its controls. Arrows move it on the picture, with Alt in the stack. Delete takes it away.")
        )
        self.lamp = Lamp(plate.name, parent=self)
        self.lamp.move(4, 4)

    def show_plate(self, plate: Plate, *, current: bool) -> None:
        self.plate, self.current = plate, current
        self.setAccessibleName(tr("Plate {0}", plate.name))
        self.lamp.set_on(plate.on)
        self.update()

    @property
    def words(self) -> str:
        """How it goes along with the shake."""
        own = f" + {tr('own')}" if self.plate.shake is not None else ""
        if self.plate.glass:
            return tr("on the glass") + own
        near = f" · {self.plate.distance:g}×" if self.plate.distance != 1 else ""
        return f"{100 * self.plate.share:.0f} %{own}{near}"

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -1.5)
        painter.setPen(QPen(QColor(theme.LAMP if self.hasFocus() else theme.LINE), 1))
        painter.setBrush(QColor("#47524d" if self.current else theme.RECESS))
        painter.drawRoundedRect(box, 3, 3)
        if self.current:
            painter.fillRect(QRectF(0, 3, 3, self.height() - 7), QColor(theme.LAMP))
        painter.setFont(theme.numbers(11))
        painter.setPen(QColor(theme.DIM))
        wide = painter.fontMetrics().horizontalAdvance(self.words)
        room = QRectF(self.rect()).adjusted(0, 0, -8, -1)
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, self.words)
        painter.setFont(theme.words(14))
        painter.setPen(QColor(theme.TEXT if self.plate.on else theme.OFF))
        name = painter.fontMetrics().elidedText(self.plate.name, Qt.TextElideMode.ElideRight, self.width() - wide - 50)
        painter.drawText(QPointF(32, 20), name)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.chosen.emit(self.plate.id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(event.key()))
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit(self.plate.id)
        elif way is not None and event.modifiers() & Qt.KeyboardModifier.AltModifier:
            self.moved.emit(self.plate.id, way)
        elif event.key() == Qt.Key.Key_Delete:
            self.removed.emit(self.plate.id)
        elif event.key() in WAYS:
            far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            x, y = WAYS[Qt.Key(event.key())]
            self.nudged.emit(far * x, far * y)
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: object) -> None:
        self.update()

    focusOutEvent = focusInEvent


tell(PlateRow, QAccessible.Role.ListItem, lambda row: f"{row.words}, {tr('chosen')}" if row.current else row.words)
