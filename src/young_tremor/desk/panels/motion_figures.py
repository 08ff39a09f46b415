"""The figures beside the picture: the spectrum of every channel, and peak, reach and rate of a stretch."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.column import section
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.time_format import seconds_text
from young_tremor.desk.panels.strand_panel import CHANNEL_WORDS
from young_tremor.desk.state.task_runner import Report, TaskRunner
from young_tremor.engine.analysis import motion_figures
from young_tremor.model.project import Shot
from young_tremor.model.shake import CHANNELS

WIDTH = 372
LOW, HIGH = 0.1, 40.0  # Hz
DECADES = 3
TICKS = (0.1, 0.2, 0.5, 1, 2, 5, 10, 20)
LATER = 120  # milliseconds


class SpectrumPlot(QWidget):
    """Amplitude in pixels over frequency, both in powers of ten, on chart paper."""

    def __init__(self) -> None:
        super().__init__()
        self.found: motion_figures.MotionFigures | None = None
        self.against: motion_figures.MotionFigures | None = None  # drawn dotted over it
        self.setMinimumHeight(120)
        self.setAccessibleName(tr("Spectrum"))
        theme.paper.changed.connect(self.update)

    def show_figures(
        self, found: motion_figures.MotionFigures | None, against: motion_figures.MotionFigures | None = None
    ) -> None:
        """Show the spectrum of a motion, and one to compare it with."""
        self.found, self.against = found, against
        self.update()

    @property
    def top(self) -> float:
        """The amplitude at the upper edge: a round number of pixels."""
        most = float(self.found.pixels.max(initial=0.0)) if self.found is not None else 0.0
        steps = [m * 10.0**e for e in range(-3, 5) for m in (1, 2, 5)]
        return next((step for step in steps if step >= 1.1 * most), steps[-1])

    def place(self, hz: np.ndarray) -> np.ndarray:
        """Where a frequency stands across the plot, in pixels."""
        return self.width() * np.log(hz / LOW) / math.log(HIGH / LOW)

    def height_of(self, amplitude: np.ndarray) -> np.ndarray:
        """Where an amplitude stands on the plot, in pixels from the top."""
        share = 1 + np.log10(np.maximum(amplitude, 1e-12) / self.top) / DECADES
        return self.height() - 16 - share * (self.height() - 22)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        colour = theme.paper.colour
        painter.fillRect(self.rect(), colour("paper"))
        foot = self.height() - 16.0
        painter.setFont(theme.numbers(11, medium=False))
        for decade in range(-1, 2):
            for k in range(1, 10):
                hz = k * 10.0**decade
                if LOW <= hz <= HIGH:
                    x = round(float(self.place(np.array([hz]))[0])) + 0.5
                    painter.setPen(QPen(colour("bold" if k == 1 else "grid"), 1))
                    painter.drawLine(QPointF(x, 0), QPointF(x, foot))
        for down in range(DECADES + 1):
            y = round(float(self.height_of(np.array([self.top / 10**down]))[0])) + 0.5
            painter.setPen(QPen(colour("bold"), 1))
            painter.drawLine(QPointF(0, y), QPointF(self.width(), y))
            painter.setPen(colour("ink"))
            painter.setOpacity(0.65)
            if down < DECADES:
                painter.drawText(QRectF(4, y, 90, 14), Qt.AlignmentFlag.AlignLeft, f"{self.top / 10**down:g} px")
            painter.setOpacity(1.0)
        painter.fillRect(QRectF(0, foot, self.width(), 16), colour("ruler"))
        painter.setPen(colour("ink"))
        for tick in TICKS:
            x = float(self.place(np.array([tick]))[0])
            align = Qt.AlignmentFlag.AlignLeft if tick == LOW else Qt.AlignmentFlag.AlignHCenter
            painter.drawText(QRectF(x + 3 if tick == LOW else x - 20, foot + 1, 40, 14), align, f"{tick:g}")
        painter.drawText(QRectF(0, foot + 1, self.width() - 4, 14), Qt.AlignmentFlag.AlignRight, "Hz")
        if self.found is not None:
            self._paint_lines(painter, self.found, foot, Qt.PenStyle.SolidLine)
        if self.against is not None:
            self._paint_lines(painter, self.against, foot, Qt.PenStyle.DotLine)

    def _paint_lines(
        self, painter: QPainter, found: motion_figures.MotionFigures, foot: float, style: Qt.PenStyle
    ) -> None:
        painter.setClipRect(QRectF(0, 0, self.width(), foot))
        inside = (found.hz >= LOW * 0.8) & (found.hz <= HIGH)
        bins = np.floor(self.place(found.hz[inside]) / 3).astype(int)
        starts = np.flatnonzero(np.diff(bins, prepend=bins[0] - 1))
        counts = np.diff(np.append(starts, len(bins)))
        for row in found.rows:
            number = CHANNELS.index(row.channel)
            # lines that fall on the same place are drawn as their root mean square
            power = np.add.reduceat(found.pixels[number][inside] ** 2, starts) / counts
            xs = np.add.reduceat(self.place(found.hz[inside]), starts) / counts
            ys = self.height_of(np.sqrt(power))
            painter.setPen(QPen(theme.paper.colour(row.channel), 1.4, style))
            painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in zip(xs.tolist(), ys.tolist(), strict=True)]))


class ChannelTable(QWidget):
    """Peak, reach and rate of every channel that moves."""

    ENDS = (112, 164, 232, 284, WIDTH - 24)  # where columns end

    def __init__(self) -> None:
        super().__init__()
        self.rows: tuple[motion_figures.ChannelFigures, ...] = ()
        self.setAccessibleName(tr("Figures of the channels"))
        self.setFixedHeight(44)

    def show_rows(self, rows: tuple[motion_figures.ChannelFigures, ...]) -> None:
        """Show the figures of the channels that move."""
        self.rows = rows
        self.setFixedHeight(24 + 19 * max(len(rows), 1))
        self.setAccessibleDescription("; ".join(f"{row.channel}: {', '.join(_cells(row))}" for row in rows))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(theme.text_font(12))
        painter.setPen(QColor(theme.FAINT))
        for words, end in (("Peak", self.ENDS[1]), ("Reach (95 %)", self.ENDS[3]), ("Rate", self.ENDS[4])):
            painter.drawText(
                QRectF(end - 120, 0, 120, 20), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, tr(words)
            )
        if not self.rows:
            painter.setPen(QColor(theme.DIM))
            painter.drawText(QRectF(0, 20, self.width(), 20), Qt.AlignmentFlag.AlignVCenter, tr("Nothing moves here."))
        for line, row in enumerate(self.rows):
            y = 22 + 19 * line
            painter.fillRect(QRectF(0, y + 4, 4, 11), theme.paper.colour(row.channel))
            painter.setFont(theme.text_font(14))
            painter.setPen(QColor(theme.DIM))
            painter.drawText(QRectF(10, y, 60, 19), Qt.AlignmentFlag.AlignVCenter, tr(CHANNEL_WORDS[row.channel]))
            painter.setFont(theme.numbers(12))
            painter.setPen(QColor(theme.TEXT))
            for cell, end in zip(_cells(row), self.ENDS, strict=True):
                painter.drawText(
                    QRectF(end - 80, y, 80, 19), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, cell
                )


def _cells(row: motion_figures.ChannelFigures) -> tuple[str, ...]:
    return (
        f"{row.peak_px:.1f} px",
        f"{row.peak:.2f}{row.unit}",
        f"{row.reach_px:.1f} px",
        f"{row.reach:.2f}{row.unit}",
        f"{row.rate:.2f} Hz",
    )


class FiguresView(QWidget):
    """Follows the shot, the chosen strand and the marked stretch while it is open."""

    closed = Signal()

    def __init__(self, runner: TaskRunner) -> None:
        super().__init__()
        self._runner = runner
        self.setFixedWidth(WIDTH)
        self.setAccessibleName(tr("Figures"))
        self.subject, self.stretch = QLabel(""), QLabel("")
        self.stretch.setStyleSheet(f"color: {theme.DIM}; font-size: 13px;")
        close = QPushButton(tr("Close"))
        close.setProperty("quiet", True)
        close.setToolTip(tr("Close the figures (G)"))
        close.clicked.connect(self.closed.emit)
        self.plot, self.table = SpectrumPlot(), ChannelTable()
        head = QHBoxLayout()
        head.addWidget(section("Figures"))
        head.addStretch(1)
        head.addWidget(close)
        words = QHBoxLayout()
        words.addWidget(self.subject)
        words.addStretch(1)
        words.addWidget(self.stretch)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 10)
        column.setSpacing(6)
        column.addLayout(head)
        column.addLayout(words)
        column.addWidget(self.plot, 1)
        column.addWidget(self.table)
        self._against: tuple[np.ndarray, float, str] | None = None
        self._wanted: tuple[Shot, SourceInfo, float, float, str | None] | None = None
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._ask)
        self.hide()

    def show_shot(
        self, shot: Shot | None, info: SourceInfo | None, first: float, last: float, strand: str | None, marked: bool
    ) -> None:
        """Show what is in a stretch of a shot, a moment later; nothing while it is closed."""
        if self.isHidden() or shot is None or info is None or last <= first:
            return
        name = next((s.name for s in shot.shake.strands if s.id == strand), "Camera, everything added up")
        self.subject.setText(name)
        self.stretch.setText(
            f"{seconds_text(first, info.rate).rpartition(' ')[0]} – {seconds_text(last, info.rate)}"
            if marked
            else tr("the whole shot")
        )
        self._wanted = (shot, info, first, last, strand)
        if not self._timer.isActive():
            self._timer.start(LATER)

    def set_against(self, motion: tuple[np.ndarray, float] | None, name: str = "") -> None:
        """Draw the spectrum of a measured motion, channels (n, 6) and looks per second, dotted over the other."""
        self._against = (*motion, name) if motion is not None else None

    def _ask(self) -> None:
        """Work them out in a thread; what has changed by then is asked for again."""
        wanted, against = self._wanted, self._against
        if wanted is None or self.isHidden():
            return
        shot, info, *_ = wanted

        def work(report: Report) -> tuple[motion_figures.MotionFigures, motion_figures.MotionFigures | None]:
            figures = (
                motion_figures.of_channels(*against[:2], motion_figures.pixels_of(shot, info)) if against else None
            )
            return motion_figures.of_shot(*wanted), figures

        def show(found: tuple[motion_figures.MotionFigures, motion_figures.MotionFigures | None]) -> None:
            if against is not None:
                self.subject.setText(tr("{0} · dotted: {1}", self.subject.text().split(" · ")[0], against[2]))
            self.plot.show_figures(*found)
            self.table.show_rows(found[0].rows)

        def ended() -> None:
            if self._wanted is not wanted or self._against is not against:
                self._ask()

        def still() -> bool:
            return self._wanted is wanted

        self._runner.run("figures", work, show, still=still, ended=ended)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        theme.hammertone(painter, 0, 0, self.width(), self.height())
