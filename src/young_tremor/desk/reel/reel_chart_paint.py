"""How the chart of the reel looks: its ruler, spans, prints, cuts and curves, painted into given places."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen, QPolygonF

from young_tremor.desk.kit import theme
from young_tremor.desk.kit.time_format import mark_text, short_text
from young_tremor.desk.state.time_view import TimeView
from young_tremor.engine.analysis.reel_layout import PlacedShot
from young_tremor.engine.sound import peaks
from young_tremor.model.project import Span

RULER, SPANS, SHOTS, LEVEL, SOUND, CAMERA = 26, 46, 74, 42, 42, 72
TOPS = {
    "spans": RULER,
    "shots": RULER + SPANS,
    "level": RULER + SPANS + SHOTS,
    "sound": RULER + SPANS + SHOTS + LEVEL,
    "camera": RULER + SPANS + SHOTS + LEVEL + SOUND,
}
KEPT = 8  # widths in which a wave is kept
COARSE, SPECK = 20, 6  # moments of a camera that is drawn small, and very small
SPAN_INK = "#8a6a10"


class TracedCamera:
    """The camera of a shot: ``made`` of what, how far it goes in pixels and degrees, and its lines from 0 to 1 in time
    and in pixels, from fine to coarse."""

    def __init__(self, made: object, pixels: np.ndarray, degrees: np.ndarray) -> None:
        self.made = made
        self.far = float(np.abs(pixels[:, :2]).max(initial=0))
        self.most = float(np.abs(pixels).max(initial=0))
        self.turn = float(np.abs(degrees).max(initial=0))
        self.lines = tuple(
            tuple(_polygon(pixels[:: max(1, len(pixels) // count), column]) for column in (2, 1, 0))
            for count in (len(pixels), COARSE, SPECK)
        )


def _polygon(values: np.ndarray) -> QPolygonF:
    xs = np.linspace(0.0, 1.0, len(values))
    return QPolygonF([QPointF(x, y) for x, y in zip(xs.tolist(), values.tolist(), strict=True)])


@dataclass(frozen=True)
class Wave:
    """What is heard of a shot: ``made`` of what, and its peaks (n,) at ``peaks.RATE`` a second."""

    made: object
    peaks: np.ndarray
    whole: dict[tuple[float, int], QPolygonF] = field(default_factory=dict)  # all of it, as it was drawn

    def shape(self, seconds: float, count: int) -> QPolygonF:
        """All of it in so many columns: from 0 to 1 in time, and in pixels about the middle of its row."""
        outline = self.whole.get((seconds, count))
        if outline is None:
            if len(self.whole) >= KEPT:
                self.whole.clear()
            outline = self.whole[seconds, count] = _about(0.0, 1.0, peaks.columns(self.peaks, 0.0, seconds, count))
        return outline


@dataclass(frozen=True)
class ReelChartPicture:
    """What is painted: the shots in their places, which are chosen, the spans, and where the playhead is."""

    places: tuple[PlacedShot, ...]
    chosen: frozenset[str]
    spans: tuple[Span, ...]
    span: str | None
    frame: int
    image: Callable[[str], QImage | None]
    traces: dict[str, TracedCamera]  # by shot
    waves: dict[str, Wave]  # by shot


def paper(painter: QPainter, view: TimeView, width: int, height: int) -> None:
    """Paper, its grid, and the ruler."""
    colour = theme.paper.colour
    painter.fillRect(QRectF(0, 0, width, height), colour("paper"))
    step = view.step(width)
    t = math.floor(view.t0 / step) * step
    fine = step / 5
    k = math.floor(view.t0 / fine)
    painter.setPen(QPen(colour("grid"), 1))
    while k * fine <= view.t1:
        x = view.x(k * fine, width)
        painter.drawLine(QPointF(x, RULER), QPointF(x, height))
        k += 1
    for y in range(RULER + 9, height, 9):
        painter.drawLine(QPointF(0, y), QPointF(width, y))
    painter.fillRect(QRectF(0, 0, width, RULER), colour("ruler"))
    if view.marks:
        left, right = (view.frame_x(frame, width) for frame in (view.marks[0], view.marks[1] + 1))
        wash = QColor(theme.LAMP)
        wash.setAlpha(70)
        painter.fillRect(QRectF(left, 0, right - left, RULER), wash)
        wash.setAlpha(22)
        painter.fillRect(QRectF(left, RULER, right - left, height), wash)
    painter.setFont(theme.numbers(13))
    while t <= view.t1:
        x = view.x(t, width)
        painter.setPen(QPen(colour("bold"), 1))
        painter.drawLine(QPointF(x, RULER), QPointF(x, height))
        painter.setPen(colour("ink"))
        painter.drawText(QPointF(x + 4, 17), mark_text(t, step, view.rate))
        t += step


def pins(painter: QPainter, view: TimeView, width: int, look: ReelChartPicture) -> None:
    """Hits on the ruler: those of the shots and, hollow, those of the spans."""
    ink = theme.paper.colour("hit")
    every = [
        (place.at + hit.t, True) for place in look.places for hit in place.shot.hits if hit.t < place.end - place.at
    ]
    every += [(hit.t, False) for span in look.spans if span.on for hit in span.hits]
    painter.setPen(QPen(ink, 1.4))
    for t, own in every:
        x = view.x(t, width)
        if -6 < x < width + 6:
            painter.setBrush(ink if own else Qt.BrushStyle.NoBrush)
            painter.drawPolygon(QPolygonF([QPointF(x - 5, 15), QPointF(x + 5, 15), QPointF(x, 24)]))


def spans(painter: QPainter, view: TimeView, width: int, look: ReelChartPicture) -> None:
    """Each span as a bracket that rises and falls as it comes and goes."""
    low, high = TOPS["spans"] + SPANS - 8, TOPS["spans"] + 12
    for span in look.spans:
        ends = (span.start, span.start + span.fade_in, span.end - span.fade_out, span.end)
        xs = [view.x(t, width) for t in ends]
        ys = (low, high, high, low)
        shape = QPolygonF([QPointF(x, y) for x, y in zip(xs, ys, strict=True)])
        ink = QColor(SPAN_INK) if span.on else theme.paper.colour("bold")
        wash = QColor(theme.LAMP)
        wash.setAlpha(70 if span.id == look.span else 30 if span.on else 10)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(wash)
        painter.drawPolygon(shape)
        painter.setPen(QPen(ink, 2.4 if span.id == look.span else 1.6))
        painter.drawPolyline(shape)
        painter.setPen(theme.paper.colour("ink"))
        painter.setFont(theme.text_font(14))
        room = QRectF(max(xs[1], 0) + 6, high + 2, max(min(xs[2], width) - max(xs[1], 0) - 8, 0), 20)
        words = painter.fontMetrics().elidedText(span.name, Qt.TextElideMode.ElideRight, round(room.width()))
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, words)


def box(place: PlacedShot, view: TimeView, width: int) -> QRectF:
    """Where a shot's prints lie."""
    x0, x1 = view.x(place.at, width), view.x(place.end, width)
    return QRectF(x0, TOPS["shots"] + 3, x1 - x0, SHOTS - 8)


def shots(painter: QPainter, view: TimeView, width: int, look: ReelChartPicture) -> None:
    """Contact prints, one after the other."""
    for number, place in enumerate(look.places, start=1):
        card = box(place, view, width)
        if card.right() < 0 or card.left() > width:
            continue
        painter.fillRect(card.adjusted(0.5, 0, -0.5, 0), QColor(theme.PRINT))
        strip = QRectF(card.left() + 3, card.top() + 4, max(card.width() - 6, 0), card.height() - 24)
        painter.save()
        painter.setClipRect(strip)
        painter.fillRect(strip, QColor("#15181a"))
        image = look.image(place.shot.id)
        if image is not None and strip.width() > 2:
            wide = image.width() * strip.height() / max(image.height(), 1)
            first = max(math.floor((0 - strip.left()) / max(wide, 1)), 0)
            x = strip.left() + first * wide
            while x < min(strip.right(), width):
                painter.drawImage(QRectF(x, strip.top(), wide, strip.height()), image)
                x += wide
        painter.restore()
        if card.width() > 14:
            painter.setFont(theme.text_font(14, medium=True))
            painter.setPen(QColor("#8a1f3d"))
            left = max(card.left(), 0) + 5
            painter.drawText(QPointF(left, card.bottom() - 5), str(number))
            painter.setFont(theme.text_font(13))
            painter.setPen(QColor(theme.PRINT_INK))
            words = painter.fontMetrics().elidedText(
                place.shot.name, Qt.TextElideMode.ElideRight, round(max(min(card.right(), width) - left - 24, 0))
            )
            painter.drawText(QPointF(left + 18, card.bottom() - 5), words)


def ticks(painter: QPainter, view: TimeView, width: int, look: ReelChartPicture) -> None:
    """Grease-pencil corners at the chosen shots."""
    painter.setPen(QPen(QColor(theme.GREASE), 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    for place in look.places:
        if place.shot.id not in look.chosen:
            continue
        card = box(place, view, width)
        arm = min(9.0, card.width() / 2)
        for sx, x in ((1, card.left() + 1), (-1, card.right() - 1)):
            for sy, y in ((1, card.top() - 1), (-1, card.bottom() + 1)):
                painter.drawLine(QPointF(x, y), QPointF(x + sx * arm, y))
                painter.drawLine(QPointF(x, y), QPointF(x, y + sy * 9))


def curves(painter: QPainter, view: TimeView, width: int, height: int, look: ReelChartPicture) -> None:
    """How much of everything there is, and the camera of the whole reel."""
    low, high = TOPS["level"] + LEVEL - 6, TOPS["level"] + 8
    scale = _scale(look)
    tall = height - TOPS["camera"]
    middle, half = TOPS["camera"] + tall / 2, tall / 2 - 8
    ink, pens = QPen(theme.paper.colour("ink"), 1.4), []
    for role in ("roll", "y", "x"):
        pens.append(QPen(theme.paper.colour(role), 1.2))
        pens[-1].setCosmetic(True)
    for place in look.places:
        x0, x1 = view.x(place.at, width), view.x(place.end, width)
        if x1 < 0 or x0 > width or x1 - x0 < 1:
            continue
        intensity = place.shot.shake.intensity
        if intensity.constant or not place.shot.shake.strands:
            y = low + (high - low) * (min(max(intensity.value, 0.0), 2.0) / 2 if place.shot.shake.strands else 0.0)
            painter.setPen(ink)
            painter.drawLine(QPointF(x0, y), QPointF(x1, y))
        else:
            count = min(max(round(x1 - x0), 2), 400)
            level = np.clip(intensity.at(np.linspace(0.0, place.end - place.at, count)), 0, 2) / 2
            _line(painter, np.linspace(x0, x1, count), low + (high - low) * level, ink.color(), 1.4)
        trace = look.traces.get(place.shot.id)
        if trace is not None:
            painter.save()
            painter.translate(x0, middle)
            painter.scale(x1 - x0, -half / scale)
            lines = trace.lines[(x1 - x0 < 2 * COARSE) + (x1 - x0 < 2 * SPECK)]
            for pen, line in zip(pens, lines, strict=True):
                painter.setPen(pen)
                painter.drawPolyline(line)
            painter.restore()
    for span in look.spans:
        ends = np.array([span.start, span.start + span.fade_in, span.end - span.fade_out, span.end])
        size = float(np.clip(span.shake.intensity.at(np.array([span.start]))[0], 0, 2)) / 2 if span.on else 0.0
        ys = low + (high - low) * np.array([0, size, size, 0])
        _line(painter, np.array([view.x(t, width) for t in ends]), ys, QColor(SPAN_INK), 1.6)
    painter.setPen(theme.paper.colour("ink"))
    painter.setFont(theme.numbers(11))
    room = QRectF(0, TOPS["camera"], width - 6, 16)
    painter.drawText(room, Qt.AlignmentFlag.AlignRight, f"± {scale:g} px")


def waves(painter: QPainter, view: TimeView, width: int, look: ReelChartPicture) -> None:
    """What is heard of the whole reel."""
    middle = TOPS["sound"] + SOUND / 2
    painter.setPen(Qt.PenStyle.NoPen)
    ink = theme.paper.colour("ink")
    ink.setAlphaF(0.82)
    painter.setBrush(ink)
    for place in look.places:
        known = look.waves.get(place.shot.id)
        x0, x1 = view.x(place.at, width), view.x(place.end, width)
        if known is None or not len(known.peaks) or x1 < 0 or x0 > width or x1 - x0 < 2:
            continue
        painter.save()
        if x0 >= 0 and x1 <= width:
            painter.translate(x0, middle)
            painter.scale(x1 - x0, 1.0)
            painter.drawPolygon(known.shape(place.end - place.at, max(round(x1 - x0), 2)))
        else:
            left, right = max(x0, 0.0), min(x1, float(width))
            t0, t1 = view.t(left, width) - place.at, view.t(right, width) - place.at
            painter.translate(0.0, middle)
            painter.drawPolygon(_about(left, right, peaks.columns(known.peaks, t0, t1, max(round(right - left), 2))))
        painter.restore()


def _about(left: float, right: float, loud: np.ndarray) -> QPolygonF:
    """Peaks 0…1 (n,) from left to right, as tall above a middle as below it, in pixels."""
    tall = np.maximum(np.sqrt(loud) * (SOUND / 2 - 4), 0.35)
    xs = np.linspace(left, right, len(loud))
    x, y = np.concatenate([xs, xs[::-1]]), np.concatenate([-tall, tall[::-1]])
    return QPolygonF([QPointF(*at) for at in zip(x.tolist(), y.tolist(), strict=True)])


def _scale(look: ReelChartPicture) -> float:
    most = max((trace.most for trace in look.traces.values()), default=0.0)
    return next((n for n in (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000) if n >= most), 2000.0)


def _line(painter: QPainter, xs: np.ndarray, ys: np.ndarray, ink: QColor, weight: float) -> None:
    painter.setPen(QPen(ink, weight))
    painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in zip(xs.tolist(), ys.tolist(), strict=True)]))


def cuts(painter: QPainter, view: TimeView, width: int, height: int, look: ReelChartPicture) -> None:
    """Where one shot ends and the next begins."""
    painter.setPen(QPen(theme.paper.colour("hit"), 1, Qt.PenStyle.DashLine))
    for place in look.places[1:]:
        x = view.x(place.at, width)
        if 0 <= x <= width:
            painter.drawLine(QPointF(x, RULER), QPointF(x, height))


def playhead(painter: QPainter, view: TimeView, width: int, height: int, look: ReelChartPicture) -> None:
    """Where the playhead is, and its flag."""
    x = view.frame_x(look.frame, width)
    painter.fillRect(QRectF(x - 1, 0, 2, height), theme.paper.colour("playhead"))
    words = short_text(look.frame, view.rate)
    painter.setFont(theme.numbers(13))
    wide = painter.fontMetrics().horizontalAdvance(words) + 10
    flag = QRectF(min(max(x - wide / 2, 0), max(width - wide, 0)), 3, wide, 18)
    painter.fillRect(flag, theme.paper.colour("playhead"))
    painter.setPen(theme.paper.colour("on_playhead"))
    painter.drawText(flag, Qt.AlignmentFlag.AlignCenter, words)
