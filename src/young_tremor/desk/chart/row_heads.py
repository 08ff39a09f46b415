"""The left part of the chart: one header a row, with its lamp, name and two rules."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QRadialGradient,
)
from PySide6.QtWidgets import QMenu, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField

LOW = 40  # pixels, the lowest row
OPEN = 120  # pixels, a row that is opened to draw in
EDGE = 5  # pixels at a header's foot that pull it taller


class Lamp(QWidget):
    """On or off, as a small amber lamp."""

    toggled = Signal(bool)
    pressable = True

    def __init__(self, name: str, *, on: bool = True, fixed: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.on, self._fixed = on, fixed
        self.setFixedSize(22, 22)
        self.set_name(name)
        if not fixed:
            self.setToolTip(tr("On or off"))
            self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def set_name(self, name: str) -> None:
        """Tell a screen reader what it turns on and off."""
        self.setAccessibleName(tr("{0}, on or off", name))

    def set_on(self, on: bool) -> None:
        """Turn the lamp on or off."""
        self.on = on
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = QPointF(11, 11)
        painter.setPen(Qt.PenStyle.NoPen)
        if self.on:
            glow = QRadialGradient(middle, 10)
            amber = QColor(theme.LAMP)
            amber.setAlpha(90)
            glow.setColorAt(0, amber)
            amber.setAlpha(0)
            glow.setColorAt(1, amber)
            painter.setBrush(glow)
            painter.drawEllipse(middle, 10, 10)
            painter.setBrush(QColor(theme.LAMP))
            painter.drawEllipse(middle, 5, 5)
        else:
            painter.setPen(QPen(QColor("#161a18"), 1.2))
            painter.setBrush(QColor("#232927"))
            painter.drawEllipse(middle, 5, 5)
        if self.hasFocus():
            painter.setPen(QPen(QColor(theme.TEXT), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(middle, 8, 8)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if not self._fixed and event.button() == Qt.MouseButton.LeftButton:
            self.toggled.emit(not self.on)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space) and not self._fixed:
            self.toggled.emit(not self.on)
        else:
            super().keyPressEvent(event)


tell(Lamp, QAccessible.Role.CheckBox, lambda lamp: tr("on") if lamp.on else tr("off"))


class RowHead(QWidget):
    """A row's header. ``chosen`` when it is clicked beside its controls."""

    chosen = Signal()
    menu = Signal(object)
    heightened = Signal(int)

    def __init__(self, name: str, note: str, height: int, *, fixed: bool = False, choosable: bool = False) -> None:
        super().__init__()
        self.name, self.note = name, note
        self.selected = self.changed = False
        self.lamp = Lamp(name, fixed=fixed, parent=self)
        self.lamp.move(7, 7)
        self.least = LOW
        self._pull: float | None = None
        self.setFixedSize(theme.HEADS, height)
        self.setMouseTracking(True)
        self.setAccessibleName(name)
        self._choosable, self._opens = choosable, False
        if choosable:
            self.setCursor(Qt.CursorShape.PointingHandCursor)
            self.setToolTip(tr("Click for all controls of this strand"))
            self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def let_open(self) -> None:
        """Let a click on it make its row tall enough to draw in, and low again."""
        self._opens = True
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setToolTip(tr("Click to make the row tall enough to draw in, and low again"))
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def add_rules(self, *rules: NumberField) -> None:
        """At most two."""
        for rule, x in zip(rules, (140, 226), strict=False):
            rule.setParent(self)
            rule.setGeometry(x, 5, 80, 34)
            rule.setCursor(Qt.CursorShape.ArrowCursor)

    def set_words(self, name: str, note: str) -> None:
        """Show a name and a note."""
        if (name, note) != (self.name, self.note):
            self.name, self.note = name, note
            self.setAccessibleName(name)
            self.lamp.set_name(name)
            self.update()

    def set_changed(self, changed: bool) -> None:
        """Mark what differs from the preset it came from."""
        if changed != self.changed:
            self.changed = changed
            self.setAccessibleDescription(tr("changed from its preset") if changed else "")
            self.update()

    def set_selected(self, selected: bool) -> None:
        """Mark it as chosen, or not."""
        if selected != self.selected:
            self.selected = selected
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self.selected:
            painter.fillRect(self.rect(), QColor("#414c47"))
            painter.fillRect(QRectF(0, 0, 3, self.height()), QColor(theme.LAMP))
        else:
            painter.fillRect(self.rect(), QColor(theme.RECESS))
        painter.fillRect(QRectF(0, self.height() - 1, self.width(), 1), QColor("#29302d"))
        if self.hasFocus():
            painter.setPen(QPen(QColor(theme.LAMP), 1))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.setFont(theme.text_font(15))
        painter.setPen(QColor(theme.TEXT if self.lamp.on else theme.FAINT))
        name = painter.fontMetrics().elidedText(self.name, Qt.TextElideMode.ElideRight, 104)
        painter.drawText(QRectF(32, 6, 114, 22), Qt.AlignmentFlag.AlignVCenter, name)
        low = self.height() < theme.INTENSITY_ROW - 2
        if self.changed:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(theme.GREASE))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.drawEllipse(QPointF(130, 18 if low else 35), 3, 3)
        if low:
            return
        painter.setFont(theme.text_font(13))
        painter.setPen(QColor(theme.FAINT))
        note = painter.fontMetrics().elidedText(self.note, Qt.TextElideMode.ElideRight, 92 if self.changed else 104)
        painter.drawText(QRectF(32, 25, 114, 18), Qt.AlignmentFlag.AlignVCenter, note)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if event.position().y() > self.height() - EDGE:
            self._pull = event.position().y() - self.height()
        else:
            self._act()

    def _act(self) -> None:
        """What a click or Return does."""
        if self._choosable:
            self.chosen.emit()
        elif self._opens:
            self.heightened.emit(OPEN if self.height() < OPEN else theme.INTENSITY_ROW)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pull is not None:
            self.heightened.emit(round(event.position().y() - self._pull))
            return
        edge = event.position().y() > self.height() - EDGE
        acts = self._choosable or self._opens
        plain = Qt.CursorShape.PointingHandCursor if acts else Qt.CursorShape.ArrowCursor
        self.setCursor(Qt.CursorShape.SizeVerCursor if edge else plain)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._pull = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if (self._choosable or self._opens) and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._act()
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        self.menu.emit(menu)
        if menu.actions():
            menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            menu.popup(event.globalPos())


class CameraHead(RowHead):
    """The sum's header: which inks are drawn, and the peak."""

    shown_changed = Signal()

    CHIPS = (("x", "X"), ("y", "Y"), ("roll", "Roll"), ("zoom", "Zoom"))

    def __init__(self, height: int) -> None:
        super().__init__(tr("Camera"), tr("everything added up"), height, fixed=True)
        self.shown = {"x", "y", "roll", "zoom"}
        self.peak = ""
        self.setToolTip(tr("Click an ink to hide or show it"))
        theme.paper.changed.connect(self.update)

    def _chip(self, number: int) -> QRectF:
        return QRectF(141 + 42 * number, 10, 38, 18)

    def set_peak(self, words: str) -> None:
        """Show how far the camera goes at most."""
        if words != self.peak:
            self.peak = words
            self.setAccessibleDescription(words)
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.text_font(13))
        for number, (role, words) in enumerate(self.CHIPS):
            on = role in self.shown
            ink = theme.paper.colour(role)
            painter.setPen(QPen(ink if on else QColor(theme.LINE), 1))
            painter.setBrush(ink if on else QColor(theme.DEEP))
            painter.drawRoundedRect(self._chip(number), 3, 3)
            text = QColor("#16213a") if on and theme.paper.night else QColor("#ffffff") if on else QColor(theme.FAINT)
            painter.setPen(text)
            said = painter.fontMetrics().elidedText(tr(words), Qt.TextElideMode.ElideRight, 36)
            painter.drawText(self._chip(number), Qt.AlignmentFlag.AlignCenter, said)
        painter.setFont(theme.numbers(12))
        painter.setPen(QColor(theme.DIM))
        painter.drawText(QRectF(141, 34, 168, 20), Qt.AlignmentFlag.AlignVCenter, self.peak)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for number, (role, _) in enumerate(self.CHIPS):
            if event.button() == Qt.MouseButton.LeftButton and self._chip(number).contains(event.position()):
                self.shown ^= {role}
                self.update()
                self.shown_changed.emit()
                return
        super().mousePressEvent(event)


tell(RowHead, QAccessible.Role.ListItem, lambda head: head.note)
