"""One plate of a shot's stack: its lamp, its name, and how it goes along with the shake."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QAccessible, QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from young_tremor.desk.chart.row_heads import Lamp
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.i18n import tr
from young_tremor.model.project import Plate

ROW = 44
PRINT = QRectF(8, 6, 54, 31)
WAYS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}


class PlateRow(QWidget):
    """One plate of the stack: its little picture, its lamp, its name and kind, and its share of the shake."""

    chosen = Signal(str)
    moved = Signal(str, int)
    nudged = Signal(int, int)  # thousandths of the frame's height, right and down
    pressable = arrows = True

    def __init__(self, plate: Plate) -> None:
        super().__init__()
        self.plate, self.current, self.lowest = plate, False, False
        self._image: QImage | None = None
        self._from: QPointF | None = None  # where a drag in the stack began
        self.setFixedHeight(ROW)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setToolTip(
            tr("Click for its controls, drag to reorder. Arrows move it on the picture, Delete removes it.")
        )
        self.lamp = Lamp(plate.name, parent=self)
        self.lamp.move(64, 2)

    def show_plate(self, plate: Plate, *, current: bool, lowest: bool) -> None:
        """Show a plate: whether it is the chosen one, and the lowest."""
        self.plate, self.current, self.lowest = plate, current, lowest
        self.setAccessibleName(tr("Plate {0}", plate.name))
        self.lamp.set_name(plate.name)
        self.lamp.set_on(plate.on)
        self.update()

    def set_image(self, image: QImage) -> None:
        """Show its thumbnail."""
        self._image = image
        self.update()

    @property
    def words(self) -> str:
        """What it is and how it goes along with the shake."""
        return f"{self.share}, {self.kind}"

    @property
    def share(self) -> str:
        """Its share of the shake in words."""
        return tr("glass") if self.plate.glass else f"{self.plate.share:.2f}×"

    @property
    def kind(self) -> str:
        """What it is, in a few words."""
        plate, title = self.plate, self.plate.media.title
        file = tr("footage") if self.lowest else tr("file")
        out = [{"title": tr("title"), "fill": tr("fill")}.get(plate.media.kind, file)]
        if title is not None and title.apart != "whole":
            out.append(tr("by {0}", tr(title.apart)))
        if plate.shake is not None:
            out.append(tr("own shake"))
        if plate.depth is not None:
            out.append(tr("depth picture"))
        elif plate.distance != 1 and not plate.glass:
            out.append(tr("at {0}", f"{plate.distance:g}"))
        return " · ".join(out)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        if self.current or self.hasFocus():
            painter.setPen(QPen(QColor(theme.LAMP if self.hasFocus() else theme.LINE), 1))
            painter.setBrush(QColor("#47524d" if self.current else theme.RECESS))
            painter.drawRoundedRect(box, 3, 3)
        if self.current:
            painter.fillRect(QRectF(0, 2, 3, self.height() - 4), QColor(theme.LAMP))
        painter.setOpacity(1.0 if self.plate.on else 0.45)
        painter.fillRect(PRINT, QColor("#15181a"))
        if self._image is not None:
            fitted = self._image.size().scaled(PRINT.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio)
            place = QRectF(0, 0, fitted.width(), fitted.height())
            place.moveCenter(PRINT.center())
            painter.drawImage(place, self._image)
        painter.setPen(QPen(QColor(theme.PRINT), 1.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(PRINT)
        painter.setOpacity(1.0)
        painter.setFont(theme.numbers(13))
        painter.setPen(QColor(theme.TEXT if self.plate.on else theme.OFF))
        wide = painter.fontMetrics().horizontalAdvance(self.share)
        right = self.width() - 8
        painter.drawText(QPointF(right - wide, 18), self.share)
        painter.setFont(theme.text_font(14))
        room = right - wide - 96
        painter.drawText(QPointF(88, 18), self._fitted(painter, self.plate.name, room))
        painter.setPen(QColor(theme.DIM))
        painter.setFont(theme.text_font(12))
        painter.drawText(QPointF(88, 35), self._fitted(painter, self.kind, right - 88))

    @staticmethod
    def _fitted(painter: QPainter, words: str, room: float) -> str:
        return painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, round(room))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._from = event.position()
            self.chosen.emit(self.plate.id)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Dragged past its neighbour's middle it changes places with it."""
        if self._from is None or self.lowest:
            return
        way = event.position().y() - self._from.y()
        if abs(way) > 0.7 * ROW:
            self.moved.emit(self.plate.id, 1 if way < 0 else -1)  # the stack is shown top first

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._from = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(event.key()))
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit(self.plate.id)
        elif way is not None and event.modifiers() & Qt.KeyboardModifier.AltModifier:
            self.moved.emit(self.plate.id, way)
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
