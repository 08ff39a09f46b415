"""A number with a ruler's edge: drag, wheel, type, arrow keys; double click resets."""

from __future__ import annotations

import math
import re
from collections.abc import Callable

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QContextMenuEvent,
    QFocusEvent,
    QFont,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QLineEdit, QMenu, QSizePolicy, QWidget

from young_tremor.base.number_scale import NumberScale
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.focus import give_back
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.notice import say_over
from young_tremor.desk.kit.thread_bridge import guard_event
from young_tremor.desk.kit.time_format import seconds_text, times
from young_tremor.engine.asking.units import Surroundings, read_typed

LINE = 26  # pixels: the height of a field on one line
LABELS, VALUES, LEAST_RAIL = 92, 62, 34  # pixels of a line that the label, the number and the ruler's edge take
EDITOR = "padding: 0 3px; min-height: 0; border-radius: 2px;"
BEGINNINGS = "-.,−+*/"  # of what is typed, besides digits
BARE = re.compile(r"[+\-−±]?\s*[\d.,]+")  # a number without a unit
RUN = 500  # ms between notches of the wheel that are still one step
MOVES = (
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_PageUp,
    Qt.Key.Key_PageDown,
    Qt.Key.Key_Home,
    Qt.Key.Key_End,
    Qt.Key.Key_Return,
    Qt.Key.Key_Enter,
    Qt.Key.Key_Escape,
)


class _Editor(QLineEdit):
    """The field a number is typed into. The second click of a double click means reset, here as anywhere."""

    twice = Signal()
    cancelled = Signal()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.twice.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.cancelled.emit()
        else:
            super().keyPressEvent(event)
        event.accept()  # or Return would go on to the rule and open the field again


class NumberField(QWidget):
    """One number. ``changed`` carries every step of a gesture, ``began`` and ``ended`` stand around it."""

    began = Signal()
    changed = Signal(float)
    ended = Signal()
    taken_back = Signal()  # the drag under way is not to have been
    shown = Signal()  # another value is shown, by whomever
    is_field = True  # keys go into it while it has the focus
    around = Surroundings()  # of the shot on the desk, for all of them

    def __init__(
        self,
        label: str,
        scale: NumberScale,
        *,
        value: float = 0.0,
        reset: float | None = None,
        ink: str | None = None,
        tip: str = "",
        small: bool = False,
    ) -> None:
        super().__init__()
        self.label, self.scale, self.small = tr(label), scale, small
        self.reset_value = value if reset is None else reset
        self._value = value
        self.in_shot_time = True  # its seconds are some of the shot, and shown as frames where times are
        self._ink = ink
        self.meaning = ""  # the document's unit, where pixels can be typed
        self._drag: float | None = None
        self._exact = value  # while it is dragged, before it is rounded
        self._run = QTimer(self)  # of notches, which are one step
        self._run.setSingleShot(True)
        self._run.setInterval(RUN)
        self._run.timeout.connect(self.ended.emit)
        self._hover = self._moved = self._differs = False
        self.short = ""  # the label on a line that is shared
        self._note: Callable[[float], str] | None = None
        self._editor: _Editor | None = None
        self.menu: Callable[[QMenu], object] | None = None
        self.setAccessibleName(self.label)
        self.setAccessibleDescription(self.value_text(value))
        how = tr(
            "Drag or type; the wheel turns it once it is clicked, or with Alt.\n"
            "Shift is fine, Ctrl coarse. Double click resets."
        )
        self.setToolTip(f"{tr(tip)}\n{how}" if tip else how)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setMouseTracking(True)
        if scale.unit == "s":
            times.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(76 if self.small else 200, 34 if self.small else LINE)

    minimumSizeHint = sizeHint

    @property
    def _as_frames(self) -> bool:
        return times.in_frames and self.in_shot_time and self.scale.unit == "s"

    def value_text(self, value: float) -> str:
        """A value as it is shown, with its unit."""
        if self._as_frames:
            return seconds_text(value, NumberField.around.rate)
        return self.scale.text(value).replace("frames", tr("frames"))

    @property
    def value(self) -> float:
        """The number that is shown."""
        return self._value

    def set_value(self, value: float) -> None:
        """Show a value; nothing is emitted."""
        if value != self._value:
            self._value = value
            self.setAccessibleDescription(self.value_text(value))
            self.shown.emit()
            self.update()

    def set_note(self, note: Callable[[float], str] | None) -> None:
        """Words beside the number that follow from it (pixels, a remark)."""
        self._note = note
        self.update()

    def set_differs(self, differs: bool) -> None:
        """Say, or no longer, that among all that are chosen the number differs."""
        if differs != self._differs:
            self._differs = differs
            more = tr(", differs among the chosen shots") if differs else ""
            self.setAccessibleDescription(self.value_text(self._value) + more)
            self.update()

    def shorten(self, words: str) -> None:
        """Let it stand beside another one, under a short label."""
        self.short = tr(words)

    def _label_width(self) -> float:
        """What the label takes of a line, the mark of its ink included."""
        width = QFontMetricsF(theme.text_font(14)).horizontalAdvance(self.label) + 8 + (10 if self._ink else 0)
        return min(max(width, LABELS), max(self.width() - self._value_width() - LEAST_RAIL, LEAST_RAIL))

    def _value_width(self) -> float:
        width = QFontMetricsF(self._number_font()).horizontalAdvance(self.value_text(self._value)) + 8
        return max(width, VALUES)

    def _rail(self) -> QRectF:
        if self.small:
            return QRectF(0.5, 19, self.width() - 1, 12)
        left = self._label_width()
        return QRectF(left, 13, max(self.width() - left - self._value_width(), LEAST_RAIL), 12)

    def _number_rect(self) -> QRectF:
        width = QFontMetricsF(self._number_font()).horizontalAdvance(self.value_text(self._value)) + 10
        return QRectF(self.width() - width, 0, width, 19 if self.small else LINE)

    def _number_font(self) -> QFont:
        return theme.numbers(11 if self.small else 13)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.isEnabled()
        top = 19.0 if self.small else float(LINE)
        ink = QColor(self._ink or theme.LAMP) if live else QColor(theme.OFF)
        painter.setFont(theme.text_font(13 if self.small else 14))
        painter.setPen(QColor(theme.DIM if live else theme.OFF))
        label_x = 0.0
        if self._ink:
            painter.setBrush(ink)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.drawRoundedRect(QRectF(0, top / 2 - 4, 4, 9), 1, 1)
            painter.setPen(QColor(theme.DIM))
            label_x = 10
        number = self._number_rect()
        room = (number.left() + 6 if self.small else self._rail().left() - 4) - label_x
        words = self.short or self.label
        label = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, math.ceil(room))
        painter.drawText(QRectF(label_x, 0, room + 2, top), Qt.AlignmentFlag.AlignVCenter, label)
        if self._note or self._differs:
            used = label_x + painter.fontMetrics().horizontalAdvance(label) + 6
            self._paint_note(painter, QRectF(used, 0, number.left() - used, top) if self.small else None)
        painter.setFont(self._number_font())
        painter.setPen(QColor(theme.LAMP if self.hasFocus() else theme.TEXT) if live else QColor(theme.OFF))
        painter.drawText(
            QRectF(0, 0, self.width(), top),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            self.value_text(self._value),
        )
        self._paint_rail(painter, ink)

    def _paint_note(self, painter: QPainter, room: QRectF | None) -> None:
        """The words that follow from the number: in the room beside it, or above the ruler's edge."""
        painter.setFont(theme.text_font(11))
        painter.setPen(QColor(theme.LAMP if self._differs else theme.FAINT))
        words = self._note(self._value) if self._note and not self._differs else tr("differs")
        room = room or self._rail().adjusted(-2, -13, 0, -12)
        words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, math.ceil(room.width()))
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, words)

    def _paint_rail(self, painter: QPainter, ink: QColor) -> None:
        rail = self._rail()
        y = round(rail.top()) + 0.5
        left, width = rail.left() + 3, rail.width() - 6
        painter.setPen(QPen(QColor("#59645f"), 1))
        painter.drawLine(QPointF(left, y), QPointF(left + width, y))
        steps = 10 if self.small or width < 90 else 20
        for k in range(steps + 1):
            tall = 5 if k % 5 == 0 else 3
            x = left + width * k / steps
            painter.drawLine(QPointF(x, y), QPointF(x, y + tall))
        place = left + width * self.scale.place(self._value)
        zero = left + width * self.scale.place(0.0) if self.scale.low < 0 < self.scale.high else left
        painter.setPen(QPen(ink, 2))
        painter.drawLine(QPointF(zero, y), QPointF(place, y))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ink.lighter(118) if self._hover or self._drag else ink)
        size = 4.5
        painter.drawPolygon(
            QPolygonF([QPointF(place, y - 0.5), QPointF(place + size, y + 8), QPointF(place - size, y + 8)])
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._moved = False
        left, width = self._rail().left() + 3, self._rail().width() - 6
        pointer = left + width * self.scale.place(self._value)
        self.began.emit()
        on_rail = event.position().y() >= self._rail().top() - (6 if self.small else self._rail().top() + 6)
        on_rail &= left - 3 <= event.position().x() <= left + width + 3
        if on_rail and abs(event.position().x() - pointer) > 9:
            self._set(self.scale.value((event.position().x() - left) / width))
        self._exact = self._value
        self._drag = event.position().x()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._hover = True
        if self._drag is None:
            self.update()
            return
        x, self._drag = self._drag, event.position().x()
        if self._drag == x:
            return
        self._moved = True
        share = (self._drag - x) / max(1.0, self._rail().width() - 6) * self._factor(event.modifiers())
        low, high = sorted((self.scale.low, self.scale.high))
        if (self._exact > high and share < 0) or (self._exact < low and share > 0):
            self._exact = min(max(self._exact, low), high)  # the pointer that is dragged stands at the end
        self._exact = self._held_in(self.scale.moved(self._exact, share), share)
        self._set(self._exact)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._drag is not None:
            self._drag = None
            self.ended.emit()
            self.update()
            if not self._moved and self._number_rect().contains(event.position()):
                self._edit()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self._once(self.reset_value)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction(tr("Reset"), lambda: self._once(self.reset_value))
        if self.menu is not None:
            self.menu(menu)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(event.globalPos())

    def leaveEvent(self, event: object) -> None:
        self._hover = False
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        alt = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if not self.isEnabled() or not (self.hasFocus() or alt):
            event.ignore()  # what lies behind it scrolls
            return
        turns = (event.angleDelta().y() or event.angleDelta().x()) / 120
        if not self._run.isActive():
            self.began.emit()
        self._run.start()
        self._set(self._nudged(turns * self._factor(event.modifiers())))
        event.accept()

    def _end_run(self) -> None:
        if self._run.isActive():
            self._run.stop()
            self.ended.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {
            Qt.Key.Key_Up: 1,
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Down: -1,
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_PageUp: 5,
            Qt.Key.Key_PageDown: -5,
        }
        if event.key() in ways:
            self._once(self._nudged(ways[Qt.Key(event.key())] * self._factor(event.modifiers())))
        elif event.key() == Qt.Key.Key_Escape and self._drag is not None:
            event.ignore()  # the drag is taken back, by the window
            self._drag = None
            self.taken_back.emit()
        elif event.key() == Qt.Key.Key_Escape:
            give_back(self)
        elif event.key() in (Qt.Key.Key_Home, Qt.Key.Key_End):
            low, high = sorted((self.scale.low, self.scale.high))
            self._once(low if event.key() == Qt.Key.Key_Home else high)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._edit()
        elif event.text() and (event.text().isdigit() or event.text() in BEGINNINGS):
            self._edit(event.text())
        else:
            super().keyPressEvent(event)

    @guard_event
    def event(self, event: QEvent) -> bool:
        """Typed digits belong to the rule before they belong to the window's keys."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            typed = event.text()
            if event.key() in MOVES or (typed and not event.modifiers() and (typed.isdigit() or typed in BEGINNINGS)):
                event.accept()
                return True
        return super().event(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self._end_run()
        self.update()

    @staticmethod
    def _factor(modifiers: Qt.KeyboardModifier) -> float:
        if modifiers & Qt.KeyboardModifier.ShiftModifier:
            return 0.1
        return 4.0 if modifiers & Qt.KeyboardModifier.ControlModifier else 1.0

    def _nudged(self, steps: float) -> float:
        """The value so many notches on."""
        least = 10.0**-self.scale.digits
        value = self._held_in(self.scale.moved(self._value, 0.02 * steps), steps)
        if abs(value - self._value) < least * min(1.0, abs(steps)):
            value = self._value + math.copysign(least, steps)
        return self._held_in(value, steps)

    def _held_in(self, value: float, way: float) -> float:
        """Not over the rule's ends, unless it is beyond them already, and never further out."""
        low, high = sorted((self.scale.low, self.scale.high))
        return min(value, max(high, self._value)) if way > 0 else max(value, min(low, self._value))

    def _once(self, value: float) -> None:
        self.began.emit()
        self._set(value)
        self.ended.emit()

    def _set(self, value: float, *, typed: bool = False) -> None:
        """Take a value; one that was typed counts even where it is what is shown (it sets a key)."""
        value = self.scale.clamp(round(value, self.scale.digits + 1))
        if value != self._value or typed:
            self.set_value(value)
            self.changed.emit(value)

    def _edit(self, text: str | None = None) -> None:
        editor = self._editor = _Editor(self)
        editor.twice.connect(self._reset_instead)
        editor.cancelled.connect(self._close_editor)
        editor.setFont(self._number_font())
        editor.setAlignment(Qt.AlignmentFlag.AlignRight)
        editor.setAccessibleName(self.label)
        editor.setStyleSheet(EDITOR)
        editor.setGeometry(max(0, self.width() - 84), 0, min(84, self.width()), 20 if self.small else LINE - 2)
        editor.setText(self.value_text(self._value) if text is None else text)
        editor.setModified(text is not None)
        if text is None:
            editor.selectAll()
        editor.editingFinished.connect(self._typed)
        editor.show()
        editor.setFocus()

    def _reset_instead(self) -> None:
        editor, self._editor = self._editor, None
        if editor is not None:
            editor.deleteLater()
            self._once(self.reset_value)

    def _typed(self) -> None:
        """Take what was typed; what is no number stays in the field, marked, until it is mended or Esc is pressed."""
        editor = self._editor
        if editor is None:
            return
        text = editor.text().strip()
        if not text or not editor.isModified():
            self._close_editor()
            return
        if self._as_frames and BARE.fullmatch(text):
            text += " f"
        value = read_typed(text, self.scale, self._value, self.meaning, NumberField.around)
        if value is None:
            editor.setStyleSheet(f"{EDITOR} border: 1px solid {theme.BAD}; color: {theme.BAD};")
            words = tr("“{0}” is no number: write it like {1}, or press Esc.", text[:40], self.value_text(self._value))
            editor.setToolTip(words)
            say_over(self, words)
            return
        self._close_editor()
        self.began.emit()
        self._set(value, typed=True)
        self.ended.emit()

    def _close_editor(self) -> None:
        """End the field and give the keys back to the playhead, unless they have gone elsewhere already."""
        editor, self._editor = self._editor, None
        if editor is not None:
            had = editor.hasFocus()
            editor.hide()
            editor.deleteLater()
            if had:
                give_back(self)


tell(NumberField, QAccessible.Role.Slider, lambda rule: rule.accessibleDescription())
