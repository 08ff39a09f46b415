"""Under the picture: where we are, play and step, and how to compare."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QMenu, QPushButton, QWidget

from young_tremor.base.units import format_rate
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.segments import Glyph, Segments
from young_tremor.desk.kit.time_format import frame_text, times
from young_tremor.desk.picture.exposure_button import ExposureButton
from young_tremor.engine.preview.preview_worker import Mode

MODES: tuple[tuple[Mode, str, str], ...] = (
    ("shaken", "Shaken", "The shaken picture (1)"),
    ("still", "Still", "The still original (2); hold C to see it for a moment"),
    ("split", "Split", "One beside the other, with a line to drag (3)"),
    ("side", "Both", "Both pictures whole, side by side (4)"),
    ("overlay", "Overlay", "One over the other, half and half (5)"),
    ("difference", "Difference", "What differs between them (6)"),
)

BUTTONS = 150  # pixels, those in the middle with the margins


class _Volume(Glyph):
    """A click mutes, the wheel or the arrows turn it up and down."""

    def __init__(self, turn: Callable[[float | None], None]) -> None:
        super().__init__("sound", "Volume")
        self._turn = turn
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.clicked.connect(lambda: turn(None))

    def wheelEvent(self, event: QWheelEvent) -> None:
        self._turn(0.05 * (event.angleDelta().y() or event.angleDelta().x()) / 120)
        event.accept()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = {Qt.Key.Key_Up: 0.05, Qt.Key.Key_Down: -0.05}.get(Qt.Key(event.key()))
        if way is not None:
            self._turn(way)
        else:
            super().keyPressEvent(event)


class Transport(QWidget):
    """The strip under the picture."""

    play = Signal()
    step = Signal(int)
    mode = Signal(str)
    overlays = Signal(object)  # the menu to fill with what can be drawn over the picture
    volume = Signal(float, bool)  # how loud, and whether it is muted
    stops = Signal(float)  # of light more or less, for looking
    zoomed = Signal()  # pixel for pixel, or as large as fits

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(38)
        self._volume, self._muted = 1.0, False
        self._shown = (0, 0, Fraction(24), False)  # the frame, how many there are, their rate, whether numbers drop
        times.changed.connect(self._show_again)
        self._time = QLabel("00:00:00")
        self._time.setFont(theme.numbers(20))
        self._time.setStyleSheet('font-family: "Spline Sans Mono"; font-size: 20px;')
        self._time.setAccessibleName(tr("Time"))
        self._length = QLabel("")
        self._length.setStyleSheet(f"color: {theme.FAINT}; font-size: 13px;")
        self._late = QLabel("")
        self._late.setStyleSheet(f"color: {theme.LAMP}; font-size: 13px;")
        self._late.setAccessibleName(tr("Achieved rate"))
        self._mapped = QLabel(tr("Mapped"))
        self._mapped.setStyleSheet(f"color: {theme.LAMP}; font-size: 13px;")
        self._mapped.setToolTip(tr("The screen cannot show these colours as they are; what is delivered keeps them"))
        self._mapped.hide()
        back = Glyph("back", "One frame back (Left)")
        self.button = Glyph("play", "Play or stop (Space)", round_=True)
        on = Glyph("on", "One frame on (Right)")
        self.modes = Segments(MODES, "Compare", foldable=True)
        self.marks = Glyph("thirds", "Safe areas, thirds and more over the picture")
        self.sound = _Volume(self._turn)
        self.exposure = ExposureButton(self.stops.emit)
        self.zoom = QPushButton(tr("Fit"))
        self.zoom.setProperty("flat", True)
        self.zoom.setFixedWidth(max(48, self.zoom.sizeHint().width()))
        self.zoom.setToolTip(tr("Pixel for pixel, or as large as fits (Ctrl+1, Ctrl+0); Ctrl and the wheel zoom"))
        self.zoom.setAccessibleName(tr("Zoom"))
        self.zoom.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.zoom.clicked.connect(self.zoomed.emit)
        self.marks.clicked.connect(self._ask_overlays)
        left, right = QHBoxLayout(), QHBoxLayout()
        self._right = right
        for widget in (self._time, self._length, self._mapped, self._late):
            left.addWidget(widget, 0, Qt.AlignmentFlag.AlignVCenter)
        left.addStretch(1)
        right.addStretch(1)
        right.setSpacing(2)
        right.addWidget(self.sound)
        right.addWidget(self.exposure)
        right.addWidget(self.zoom)
        right.addWidget(self.marks)
        right.addWidget(self.modes)
        row = self._row = QHBoxLayout(self)
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

    def _ask_overlays(self) -> None:
        menu = QMenu(self)
        self.overlays.emit(menu)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.marks.mapToGlobal(self.marks.rect().topLeft()) - QPoint(0, menu.sizeHint().height()))

    def _turn(self, by: float | None) -> None:
        """Louder or softer by so much; None: muted or no longer."""
        if by is None:
            self.volume.emit(self._volume, not self._muted)
        else:
            self.volume.emit(min(max(self._volume + by, 0.0), 1.0), False)

    def show_volume(self, volume: float, *, muted: bool) -> None:
        """Show how loud it plays."""
        self._volume, self._muted = volume, muted or volume == 0
        self.sound.strong = volume > 0.5
        self.sound.set_sign("mute" if self._muted else "sound")
        text = tr("muted") if self._muted else f"{100 * volume:.0f} %"
        self.sound.setAccessibleDescription(text)
        self.sound.setToolTip(tr("Volume: {0}. A click mutes, the wheel turns it", text))

    def show_zoom(self, scale: float) -> None:
        """Say at how many device pixels for a delivered one the picture is looked at; 0 is as large as fits."""
        self.zoom.setText(f"{100 * scale:.0f} %" if scale else tr("Fit"))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Where there is little room the length goes and the buttons leave the middle."""
        whole = self._right.minimumSize().width() - self.modes.minimumSizeHint().width() + self.modes.whole_width
        narrow = (self.width() - BUTTONS) / 2 < whole
        self._length.setVisible(not narrow)
        self._row.setStretch(self._row.count() - 1, 0 if narrow else 1)

    def paintEvent(self, event: QPaintEvent) -> None:
        QPainter(self).fillRect(self.rect(), QColor(theme.WELL))

    def show_time(self, frame: int, frames: int, rate: Fraction, drop: bool = False) -> None:
        """Show where the playhead is."""
        self._shown = (frame, frames, rate, drop)
        self._time.setText(frame_text(frame, rate, drop=drop))
        self._length.setText(
            tr(" / {0} · {1} fps", frame_text(frames, rate, drop=drop), format_rate(rate)) if frames else ""
        )

    def _show_again(self) -> None:
        self.show_time(*self._shown)

    def show_mapped(self, mapped: bool) -> None:
        """Say whether the picture is mapped for the screen."""
        self._mapped.setVisible(mapped)

    def show_playing(self, playing: bool, late: str = "") -> None:
        """Show whether it plays."""
        self.button.set_sign("pause" if playing else "play")
        self._late.setText(late)
