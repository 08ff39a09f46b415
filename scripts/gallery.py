"""One sheet with every factory preset: its trace, its spectrum and its figures. python scripts/gallery.py [FILE].

Runs without a screen and writes docs/screenshots/gallery.png. Traces are ten seconds of each channel in pixels of 1080
lines at the preset's own focal length (roll in tenths of a degree); jolts are struck at 1, 4 and 7 s.
"""

from __future__ import annotations

import os
import sys
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import QApplication

from young_tremor.desk.kit import theme
from young_tremor.engine.analysis import motion_figures
from young_tremor.engine.library import preset_library
from young_tremor.model.project import Preset
from young_tremor.model.shake import Hit

OUT = Path(__file__).parents[1] / "docs" / "screenshots" / "gallery.png"
ACROSS, CELL = 4, (480, 230)
FPS, SECONDS, LONG = motion_figures.COURSE_HZ, 10.0, 120.0
HITS = tuple(Hit(f"h{k}", t) for k, t in enumerate((1.0, 4.0, 7.0)))
ROLES = ("x", "y", "roll")


def words(way: np.ndarray) -> str:
    """Its figures in two lines."""
    figures = motion_figures.portrait(way)
    return (
        f"{figures.reach:.1f} px   {figures.turn:.2f}°   {figures.rate:.2f} Hz   "
        f"above 4 Hz {100 * figures.fast:.0f} %   kurtosis {figures.kurtosis:.1f}\n"
        f"kurtosis of speed {figures.blows:.1f}   axes together {figures.together:.2f}   "
        f"like itself half a minute later {figures.repeats:.2f}"
    )


def draw(painter: QPainter, preset: Preset, left: float, top: float) -> None:
    paper, dim = theme.paper, QColor(theme.DIM)
    width, height = CELL[0] - 12, CELL[1] - 12
    painter.setPen(QColor(theme.TEXT))
    painter.drawText(QRectF(left + 8, top + 4, width - 90, 20), Qt.AlignmentFlag.AlignVCenter, preset.name)
    painter.setPen(dim)
    painter.drawText(
        QRectF(left + width - 92, top + 4, 84, 20),
        Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
        preset.group,
    )
    trace = QRectF(left + 8, top + 26, 316, height - 70)
    lines = QRectF(left + 334, top + 26, width - 342, height - 70)
    for box in (trace, lines):
        painter.fillRect(box, paper.colour("paper"))
    long = motion_figures.course(preset, LONG, HITS)
    course = long[: round(SECONDS * FPS)] * (1, 1, 10)
    high = max(float(np.abs(course).max()) * 1.05, 0.5)
    painter.setPen(QPen(paper.colour("grid"), 1))
    for second in range(1, int(SECONDS)):
        x = trace.left() + trace.width() * second / SECONDS
        painter.drawLine(QPointF(x, trace.top()), QPointF(x, trace.bottom()))
    painter.drawLine(QPointF(trace.left(), trace.center().y()), QPointF(trace.right(), trace.center().y()))
    for decade in (0.1, 1.0, 10.0):
        x = lines.left() + lines.width() * (np.log10(decade) + 1.3) / 2.8
        painter.drawLine(QPointF(x, lines.top()), QPointF(x, lines.bottom()))
    t = np.linspace(0, 1, len(course))
    for column, role in enumerate(ROLES):
        painter.setPen(QPen(paper.colour(role), 1.2))
        xs = trace.left() + trace.width() * t
        ys = trace.center().y() - course[:, column] / high * trace.height() / 2
        painter.drawPolyline(QPolygonF([QPointF(a, b) for a, b in zip(xs.tolist(), ys.tolist(), strict=True)]))
        power = np.abs(np.fft.rfft(long[:, column] * np.hanning(len(long)))) ** 2
        hz = np.fft.rfftfreq(len(long), 1 / FPS)
        edges = np.logspace(-1.3, 1.5, 57)
        each = [power[(hz >= a) & (hz < b)].sum() for a, b in zip(edges, edges[1:], strict=False)]
        level = 10 * np.log10(np.array(each) / max(power.sum(), 1e-12) + 1e-5)
        xs = lines.left() + lines.width() * (np.arange(56) + 0.5) / 56
        ys = lines.bottom() - (level + 50) / 50 * (lines.height() - 4)
        painter.drawPolyline(QPolygonF([QPointF(a, b) for a, b in zip(xs.tolist(), ys.tolist(), strict=True)]))
    painter.setPen(dim)
    painter.drawText(
        QRectF(left + 8, top + height - 42, width - 16, 40),
        Qt.AlignmentFlag.AlignVCenter,
        f"± {high:.1f} px     " + words(long),
    )


def main() -> None:
    app = QApplication(sys.argv[:1])
    theme.dress(app)
    presets = preset_library.factory()
    rows = -(-len(presets) // ACROSS)
    image = QImage(ACROSS * CELL[0], rows * CELL[1], QImage.Format.Format_RGB32)
    image.fill(QColor(theme.PANEL_COLOUR))
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setFont(app.font())
    for number, preset in enumerate(presets):
        draw(painter, preset, 6 + (number % ACROSS) * CELL[0], 6 + (number // ACROSS) * CELL[1])
    painter.end()
    image.save(str(Path(sys.argv[1]) if len(sys.argv) > 1 else OUT))


if __name__ == "__main__":
    main()
