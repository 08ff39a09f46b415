"""Under the picture: where we are, play and step, and how to compare."""

from __future__ import annotations

from fractions import Fraction

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
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
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QLabel, QSizePolicy, QWidget

from young_tremor.base.units import format_rate, timecode
from young_tremor.desk import theme
from young_tremor.desk.accessible import tell
from young_tremor.engine.preview import Mode

MODES: tuple[tuple[Mode, str, str], ...] = (
    ("shaken", "Shaken", "The shaken picture (1)"),
    ("still", "Still", "The still original (2); hold C to see it for a moment"),
    ("split", "Split", "One beside the other, with a line to drag (3)"),
    ("side", "Both", "Both pictures whole, side by side (4)"),
    ("overlay", "Overlay", "One over the other, half and half (5)"),
    ("difference", "Difference", "What differs between them (6)"),
)


class Glyph(QAbstractButton):
    """A round or bare button with a drawn sign: play, pause, back, on."""

    def __init__(self, sign: str, tip: str, *, round_: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.sign, self._round = sign, round_
        self.setToolTip(tip)
        self.setAccessibleName(tip.split(" (")[0])
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(38, 30) if self._round else QSize(26, 30)

    def set_sign(self, sign: str) -> None:
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


class Segments(QWidget):
    """One choice out of a few, side by side."""

    chosen = Signal(str)

    def __init__(self, choices: tuple[tuple[str, str, str], ...], name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._choices = choices
        self.current = choices[0][0]
        self.setAccessibleDescription(choices[0][1])
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        self.setMouseTracking(True)

    def _widths(self) -> list[float]:
        """What each cell needs."""
        metrics = QFontMetricsF(theme.words(14))
        return [max(metrics.horizontalAdvance(words) + 14, 30.0) for _, words, _ in self._choices]

    def sizeHint(self) -> QSize:
        return QSize(max(66 * len(self._choices) + 4, round(sum(self._widths()) + 4)), 28)

    def minimumSizeHint(self) -> QSize:
        return QSize(round(sum(self._widths()) + 4), 28)

    def choose(self, key: str) -> None:
        """Show a choice; nothing is emitted."""
        self.current = key
        self.setAccessibleDescription(next(words for k, words, _ in self._choices if k == key))
        self.update()

    def _cell(self, number: int) -> QRectF:
        widths, room = self._widths(), self.width() - 4
        even = room / len(widths)
        if max(widths) > even:  # too narrow for all to be alike
            widths = [each * room / sum(widths) for each in widths]
        else:
            widths = [even] * len(widths)
        return QRectF(2 + sum(widths[:number]), 2, widths[number], self.height() - 4)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(theme.LAMP if self.hasFocus() else theme.LINE), 1))
        painter.setBrush(QColor(theme.DEEP))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        painter.setFont(theme.words(14))
        for number, (key, words, _) in enumerate(self._choices):
            on = key == self.current
            if on:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(QColor("#4b5651"))
                painter.drawRoundedRect(self._cell(number), 3, 3)
            painter.setPen(QColor(theme.TEXT if on else theme.DIM))
            painter.drawText(self._cell(number), Qt.AlignmentFlag.AlignCenter, words)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for number, (key, _, _) in enumerate(self._choices):
            if event.button() == Qt.MouseButton.LeftButton and self._cell(number).contains(event.position()):
                self.chosen.emit(key)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        for number, (_, _, tip) in enumerate(self._choices):
            if self._cell(number).contains(event.position()) and self.toolTip() != tip:
                self.setToolTip(tip)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = [key for key, _, _ in self._choices]
        way = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if way is None:
            super().keyPressEvent(event)
        else:
            self.chosen.emit(keys[(keys.index(self.current) + way) % len(keys)])


tell(Segments, QAccessible.Role.ComboBox, lambda segments: segments.accessibleDescription())


class Transport(QWidget):
    """The strip under the picture."""

    play = Signal()
    step = Signal(int)
    mode = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(38)
        self._time = QLabel("00:00:00")
        self._time.setFont(theme.numbers(20))
        self._time.setStyleSheet('font-family: "Spline Sans Mono"; font-size: 20px;')
        self._time.setAccessibleName("Time")
        self._length = QLabel("")
        self._length.setStyleSheet(f"color: {theme.FAINT}; font-size: 13px;")
        self._late = QLabel("")
        self._late.setStyleSheet(f"color: {theme.LAMP}; font-size: 13px;")
        self._late.setAccessibleName("Achieved rate")
        back = Glyph("back", "One frame back (Left)")
        self.button = Glyph("play", "Play or stop (Space)", round_=True)
        on = Glyph("on", "One frame on (Right)")
        self.modes = Segments(MODES, "Compare")
        left, right = QHBoxLayout(), QHBoxLayout()
        for widget in (self._time, self._length, self._late):
            left.addWidget(widget, 0, Qt.AlignmentFlag.AlignVCenter)
        left.addStretch(1)
        right.addStretch(1)
        right.addWidget(self.modes)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 2, 14, 4)
        row.setSpacing(4)
        row.addLayout(left, 1)
        for button in (back, self.button, on):
            row.addWidget(button)
        row.addLayout(right, 1)
        back.clicked.connect(lambda: self.step.emit(-1))
        on.clicked.connect(lambda: self.step.emit(1))
        self.button.clicked.connect(self.play.emit)
        self.modes.chosen.connect(self.mode.emit)

    def paintEvent(self, event: QPaintEvent) -> None:
        QPainter(self).fillRect(self.rect(), QColor(theme.WELL))

    def show_time(self, frame: int, frames: int, rate: Fraction, drop: bool = False) -> None:
        self._time.setText(timecode(frame, rate, drop=drop))
        self._length.setText(f" / {timecode(frames, rate, drop=drop)} · {format_rate(rate)} fps" if frames else "")

    def show_playing(self, playing: bool, late: str = "") -> None:
        self.button.set_sign("pause" if playing else "play")
        self._late.setText(late)
