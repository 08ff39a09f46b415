"""Drawn buttons, and segments: one choice out of a few, side by side."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QAbstractButton, QMenu, QSizePolicy, QWidget

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.thread_bridge import guard_event


class Glyph(QAbstractButton):
    """A round or bare button with a drawn sign: play, pause, back, on."""

    def __init__(self, sign: str, tip: str, *, round_: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.sign, self._round, self.strong = sign, round_, True
        self.setToolTip(tr(tip))
        self.setAccessibleName(tr(tip).split(" (")[0])
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(38, 30) if self._round else QSize(26, 30)

    def set_sign(self, sign: str) -> None:
        """Show another sign."""
        self.sign = sign
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = QRectF(self.rect()).center()
        ink = QColor(theme.TEXT if self.isEnabled() else theme.OFF)
        if self._round:
            painter.setPen(QPen(QColor(theme.LINE), 1))
            painter.setBrush(QColor("#4a5550" if self.underMouse() else "#424c48"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 14, 14)
        elif self.underMouse():
            ink = QColor(theme.LAMP)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ink)
        if self.sign == "play":
            painter.drawPolygon(QPolygonF([middle + QPointF(-4, -7), middle + QPointF(8, 0), middle + QPointF(-4, 7)]))
        elif self.sign == "pause":
            painter.drawRect(QRectF(middle.x() - 6, middle.y() - 6, 4, 12))
            painter.drawRect(QRectF(middle.x() + 2, middle.y() - 6, 4, 12))
        elif self.sign == "thirds":
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(ink, 1.2))
            box = QRectF(middle.x() - 9, middle.y() - 6.5, 18, 13)
            painter.drawRect(box)
            for k in (1, 2):
                x, y = box.left() + 6 * k, box.top() + box.height() * k / 3
                painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
                painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
        elif self.sign in ("sound", "mute"):
            horn = [(-8, -3), (-4, -3), (1, -7), (1, 7), (-4, 3), (-8, 3)]
            painter.drawPolygon(QPolygonF([middle + QPointF(x, y) for x, y in horn]))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(ink, 1.5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            if self.sign == "mute":
                painter.drawLine(middle + QPointF(5, -4), middle + QPointF(11, 4))
                painter.drawLine(middle + QPointF(5, 4), middle + QPointF(11, -4))
            else:
                for size in (4.0, 8.0)[: 2 if self.strong else 1]:
                    arc = QRectF(middle.x() + 3 - size, middle.y() - size, 2 * size, 2 * size)
                    painter.drawArc(arc, -45 * 16, 90 * 16)
        else:
            way = -1 if self.sign == "back" else 1
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(ink, 1.8, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin))
            painter.drawPolyline(
                QPolygonF(
                    [
                        middle + QPointF(-3 * way, -6),
                        middle + QPointF(3 * way, 0),
                        middle + QPointF(-3 * way, 6),
                    ]
                )
            )


ARROW = 26  # pixels of the triangle beside the choice, where all are folded into a menu
_ARROWS = (Qt.Key.Key_Left, Qt.Key.Key_Right)


class Segments(QWidget):
    """One choice out of a few, side by side; ``foldable``: one button with a menu where there is no room for that."""

    chosen = Signal(str)

    def __init__(
        self,
        choices: tuple[tuple[str, str, str], ...],
        name: str,
        parent: QWidget | None = None,
        *,
        foldable: bool = False,
    ) -> None:
        super().__init__(parent)
        self._foldable = foldable
        self._choices = tuple((key, tr(words), tr(tip)) for key, words, tip in choices)
        self.current = choices[0][0]
        self.setAccessibleDescription(self._choices[0][1])
        self.setAccessibleName(tr(name))
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        self.setMouseTracking(True)

    def _widths(self) -> list[float]:
        """What each cell needs."""
        metrics = QFontMetricsF(theme.text_font(14))
        return [max(metrics.horizontalAdvance(words) + 14, 30.0) for _, words, _ in self._choices]

    def sizeHint(self) -> QSize:
        return QSize(max(66 * len(self._choices) + 4, round(sum(self._widths()) + 4)), 28)

    def minimumSizeHint(self) -> QSize:
        return QSize(round(max(self._widths()) + ARROW) if self._foldable else self.whole_width, 28)

    @property
    def whole_width(self) -> int:
        """How wide it has to be for all choices to stand side by side."""
        return round(sum(self._widths()) + 4)

    @property
    def folded(self) -> bool:
        """Whether it is one button with a menu now."""
        return self._foldable and self.width() < self.whole_width

    def set_words(self, key: str, words: str) -> None:
        """Call a choice otherwise."""
        made = tuple((k, tr(words) if k == key else w, tip) for k, w, tip in self._choices)
        if made != self._choices:
            self._choices = made
            self.update()

    def choose(self, key: str) -> None:
        """Show a choice; nothing is emitted."""
        self.current = key
        self.setAccessibleDescription(next(words for k, words, _ in self._choices if k == key))
        self.update()

    def _cell(self, number: int) -> QRectF:
        widths, room = self._widths(), self.width() - 4
        even = room / len(widths)
        if max(widths) > even:  # too narrow for all to be alike
            widths = [width * room / sum(widths) for width in widths]
        else:
            widths = [even] * len(widths)
        return QRectF(2 + sum(widths[:number]), 2, widths[number], self.height() - 4)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(theme.LAMP if self.hasFocus() else theme.LINE), 1))
        painter.setBrush(QColor(theme.DEEP))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        painter.setFont(theme.text_font(14))
        if self.folded:
            self._paint_folded(painter)
            return
        for number, (key, words, _) in enumerate(self._choices):
            on = key == self.current
            if on:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(QColor("#4b5651"))
                painter.drawRoundedRect(self._cell(number), 3, 3)
            painter.setPen(QColor(theme.TEXT if on else theme.DIM))
            painter.drawText(self._cell(number), Qt.AlignmentFlag.AlignCenter, words)

    def _paint_folded(self, painter: QPainter) -> None:
        words = next(words for key, words, _ in self._choices if key == self.current)
        painter.setPen(QColor(theme.TEXT))
        area = QRectF(self.rect())
        painter.drawText(area.adjusted(10, 0, -ARROW + 8, 0), Qt.AlignmentFlag.AlignCenter, words)
        tip = QPointF(area.right() - 12, area.center().y() + 3)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme.DIM))
        painter.drawPolygon(QPolygonF([tip, tip + QPointF(-4, -5), tip + QPointF(4, -5)]))

    def _open_menu(self) -> None:
        menu = QMenu(self)
        for key, words, tip in self._choices:
            action = menu.addAction(words, partial(self.chosen.emit, key))
            action.setToolTip(tip)
            action.setCheckable(True)
            action.setChecked(key == self.current)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.mapToGlobal(self.rect().topLeft()) - QPoint(0, menu.sizeHint().height()))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.folded:
            if event.button() == Qt.MouseButton.LeftButton:
                self._open_menu()
            return
        for number, (key, _, _) in enumerate(self._choices):
            if event.button() == Qt.MouseButton.LeftButton and self._cell(number).contains(event.position()):
                self.chosen.emit(key)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        for number, (_, _, tip) in enumerate(self._choices):
            if self._cell(number).contains(event.position()) and self.toolTip() != tip:
                self.setToolTip(tip)

    @guard_event
    def event(self, event: QEvent) -> bool:
        """With the focus, the arrows choose: they are not for the frames then."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride and event.key() in _ARROWS:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = [key for key, _, _ in self._choices]
        way = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if way is None:
            super().keyPressEvent(event)
        else:
            self.chosen.emit(keys[(keys.index(self.current) + way) % len(keys)])


tell(Segments, QAccessible.Role.ComboBox, lambda segments: segments.accessibleDescription())
