"""The chart of the reel: one ruler over all shots, spans, contact prints, and what moves them."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QContextMenuEvent,
    QCursor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QWheelEvent,
)
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QPushButton, QWidget

from young_tremor.desk.chart.chart import SCOPES
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.focus import give_back
from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.reel import reel_chart_paint as paint
from young_tremor.desk.reel import reel_chart_pointer as hands
from young_tremor.desk.reel.reel_chart_jobs import ReelChartJobs
from young_tremor.desk.reel.reel_list import ReelList
from young_tremor.desk.state.desk_state import DeskState, Selection
from young_tremor.desk.state.task_runner import TaskRunner
from young_tremor.engine.analysis.reel_layout import PlacedShot
from young_tremor.model import reel_edits
from young_tremor.model.project import Span

LATER = 120  # milliseconds
ROWS = (
    ("spans", "Spans", "run on through the cuts"),
    ("shots", "Shots", "drag to move, ends to trim"),
    ("level", "Intensity", "each shot's own, and the spans'"),
    ("sound", "Sound", "all that is heard"),
    ("camera", "Camera", "the reel, everything added up"),
)


class ReelChart(QWidget):
    """Headers at the left, the reel's paper at the right."""

    def __init__(self, state: DeskState, reel: ReelList, runner: TaskRunner) -> None:
        super().__init__()
        self.paper = ReelChartPaper(state, reel, runner)
        self.paper.traced.connect(self.update)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        corner = QWidget()
        corner.setFixedSize(theme.HEADS, paint.RULER)
        inner = QHBoxLayout(corner)
        inner.setContentsMargins(8, 0, 8, 0)
        self.scope = Segments(SCOPES, "What the chart shows")
        self.scope.setFixedHeight(24)
        self.scope.chosen.connect(lambda scope: state.choose(scope=scope))
        self.add = QPushButton(tr("Add span +"))
        self.add.setProperty("quiet", True)
        self.add.setToolTip(tr("A shake that lies over several shots and runs on through the cuts"))
        inner.addWidget(self.scope)
        inner.addStretch(1)
        inner.addWidget(self.add)
        row.addWidget(corner, 0, Qt.AlignmentFlag.AlignTop)
        row.addWidget(self.paper, 1)
        state.changed.connect(lambda before, now: self.scope.choose(now.scope))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(QRectF(0, 0, theme.HEADS, self.height()), QColor(theme.RECESS))
        painter.fillRect(QRectF(0, 0, theme.HEADS, paint.RULER), QColor(theme.DEEP))
        for key, name, note in ROWS:
            top = paint.TOPS[key]
            painter.fillRect(QRectF(0, top - 1, theme.HEADS, 1), QColor("#29302d"))
            painter.setFont(theme.text_font(15))
            painter.setPen(QColor(theme.TEXT))
            painter.drawText(QPointF(32, top + 20), tr(name))
            painter.setFont(theme.text_font(13))
            painter.setPen(QColor(theme.FAINT))
            painter.drawText(QPointF(32, top + 37), tr(note))
        painter.setFont(theme.numbers(12, medium=False))
        painter.setPen(QColor(theme.DIM))
        painter.drawText(QPointF(13, paint.TOPS["camera"] + 63), self.paper.peak_words())


class ReelChartPaper(QWidget):
    """The paper: scrubbed, shots moved and trimmed, spans moved and drawn out."""

    scrubbed = Signal(int)  # a frame of the reel
    trimming = Signal(str, float)  # the shot, and the second of it that is to be seen meanwhile
    menu_asked = Signal(object, str)  # a menu, and what it is for: "shot" or "span"
    traced = Signal()
    arrows = True

    def __init__(self, state: DeskState, reel: ReelList, runner: TaskRunner) -> None:
        super().__init__()
        self._state, self._reel, self._runner = state, reel, runner
        self.view = state.reel_time
        self.work = ReelChartJobs(state, runner, lambda: (self.isVisible() and self.places) or ())
        self.work.setParent(self)
        self.work.came.connect(self._came)
        self._drag: dict[str, Any] | None = None
        self._later = QTimer(self)  # the traces follow what was done, once that is seen
        self._later.setSingleShot(True)
        self._later.setInterval(LATER)
        self._later.timeout.connect(self.work.look)
        self._news = 0  # how often a picture or a trace has come
        self._sheet: tuple[object, object, object, QPixmap] = ((), None, None, QPixmap())
        self._whole = True  # all of the reel was in view as a drag began
        self._mark: float | None = None  # where dragged shots would go
        self._naming: QLineEdit | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName(tr("The reel"))
        self.setMinimumHeight(paint.TOPS["camera"] + paint.CAMERA)
        state.changed.connect(self._chosen)
        self.view.changed.connect(self.update)
        self.view.moved.connect(lambda old, new: self.update())

    @property
    def places(self) -> tuple[PlacedShot, ...]:
        """The shots where they lie in the reel."""
        return self._state.places

    def follow(self) -> None:
        """Follow the document: how long the reel is, and what moves it."""
        places = self.places
        total = places[-1].first + places[-1].frames if places else 0
        rate = places[0].rate if places else self.view.rate
        self.view.set_length(total, rate, still=self._drag is not None)
        self._later.start()
        self.update()

    def _chosen(self, before: Selection, now: Selection) -> None:
        if (before.shot, before.also, before.span, before.scope) != (now.shot, now.also, now.span, now.scope):
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        width, height = self.width(), self.height()
        look = paint.ReelChartPicture(
            self.places,
            self._state.chosen_shots,
            self._state.session.project.spans,
            self._state.now.span,
            self.view.frame,
            self._reel.image_of,
            self.work.traces,
            self.work.waves,
        )
        sheet = self._drawn(look, width, height)
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawPixmap(0, 0, sheet)
        paint.ticks(painter, self.view, width, look)
        if look.places:
            paint.playhead(painter, self.view, width, height, look)
        if self._mark is not None:
            x = self.view.x(self._mark, width)
            painter.fillRect(QRectF(x - 2, paint.TOPS["shots"], 4, paint.SHOTS), QColor(theme.GREASE))
        if self.hasFocus():
            painter.setPen(QColor(theme.LAMP))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        if not look.places:
            painter.setPen(theme.paper.colour("ink"))
            painter.setFont(theme.text_font(15))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, tr("Drop footage here, or press Ctrl+O."))

    def _drawn(self, look: paint.ReelChartPicture, width: int, height: int) -> QPixmap:
        """All that stays while the playhead moves and shots are chosen; drawn anew when any of it differs."""
        view, ratio = self.view, self.devicePixelRatioF()
        key = (
            width,
            height,
            ratio,
            view.t0,
            view.t1,
            view.marks,
            look.span,
            theme.paper.night,
            theme.paper.strong,
            self._news,
            id(look.places),
            id(look.spans),
        )
        if self._sheet[0] == key and self._sheet[1] is look.places and self._sheet[2] is look.spans:
            return self._sheet[3]
        sheet = QPixmap(round(width * ratio), round(height * ratio))
        sheet.setDevicePixelRatio(ratio)
        painter = QPainter(sheet)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        paint.paper(painter, view, width, height)
        paint.pins(painter, view, width, look)
        paint.spans(painter, view, width, look)
        paint.shots(painter, view, width, look)
        paint.curves(painter, view, width, height, look)
        paint.waves(painter, view, width, look)
        paint.cuts(painter, view, width, height, look)
        painter.end()
        self._sheet = key, look.places, look.spans, sheet
        return sheet

    def _came(self) -> None:
        self.refresh()
        self.traced.emit()

    def refresh(self) -> None:
        """A picture or a trace has come."""
        self._news += 1
        self.update()

    # what is under the pointer

    def _under(self, x: float, y: float) -> tuple[tuple[Span, str] | None, tuple[PlacedShot, str] | None]:
        """The span and the shot under a place, and what of them."""
        spans, width = self._state.session.project.spans, self.width()
        return hands.span_at(spans, self.view, width, x, y), hands.shot_at(self.places, self.view, width, x, y)

    # hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._whole = self.view.t0 <= 0 and self.view.t1 >= self.view.length
        self.setFocus()
        x, y = event.position().x(), event.position().y()
        t, state = self.view.t(x, self.width()), self._state
        span, shot = self._under(x, y)
        if span is not None:
            state.choose(span=span[0].id, strand=None)
            words = tr("Move span") if span[1] == "move" else tr("Draw out span")
            self._drag = {"kind": "span", "role": span[1], "span": span[0], "t": t, "words": words}
            state.session.begin_gesture(words)
        elif shot is not None:
            place, end = shot
            self._choose(place, event.modifiers())
            kind = "trim" if end else "shots"
            self._drag = {"kind": kind, "role": end, "place": place, "t": t, "from": event.position(), "moved": False}
            if end:
                state.session.begin_gesture(tr("Trim shot"))
        elif self.view.frames:
            state.choose(span=None, target="")
            self._drag = {"kind": "scrub"}
            self.scrubbed.emit(self.view.frame_at(x, self.width()))

    def _choose(self, place: PlacedShot, modifiers: Qt.KeyboardModifier) -> None:
        """Choose a shot; with Ctrl besides the others, with Shift all on the way to it."""
        beside = bool(modifiers & Qt.KeyboardModifier.ControlModifier)
        through = bool(modifiers & Qt.KeyboardModifier.ShiftModifier)
        if beside or through or place.shot.id not in self._state.chosen_shots:
            self._state.pick_shot(place.shot.id, beside=beside, through=through)
        else:  # it may be dragged with the others
            self._state.choose(target="shot", span=None)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        x, y = event.position().x(), event.position().y()
        drag, t = self._drag, self.view.t(x, self.width())
        if drag is None:
            self._show_hand(x, y)
        elif drag["kind"] == "scrub":
            self.scrubbed.emit(self.view.frame_at(x, self.width()))
        elif drag["kind"] == "span":
            hands.drag_span(self._state, drag, t)
        elif drag["kind"] == "trim":
            self.trimming.emit(drag["place"].shot.id, hands.drag_trim(self._state, drag, t))
        elif (event.position() - drag["from"]).manhattanLength() > 6 or drag["moved"]:
            drag["moved"] = True
            ends = [place.at for place in self.places] + [self.places[-1].end]
            self._mark = min(ends, key=lambda end: abs(end - t))
            self.update()

    def _show_hand(self, x: float, y: float) -> None:
        span, shot = self._under(x, y)
        side = (span is not None and span[1] != "move") or (shot is not None and shot[1])
        held = span is not None or shot is not None
        shape = Qt.CursorShape.SizeHorCursor if side else Qt.CursorShape.PointingHandCursor
        self.setCursor(QCursor(shape if held else Qt.CursorShape.ArrowCursor))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        drag, self._drag = self._drag, None
        if drag is None:
            return
        session = self._state.session
        if drag["kind"] in ("span", "trim"):
            session.end_gesture()
            if self._whole:
                self.view.fit()
        elif drag["kind"] == "shots" and drag["moved"] and self._mark is not None:
            ends = [place.at for place in self.places] + [self.places[-1].end]
            session.apply(tr("Move shots"), reel_edits.move(self._state.chosen_shots, ends.index(self._mark)))
        elif drag["kind"] == "shots" and not event.modifiers():
            self._state.pick_shot(drag["place"].shot.id)
            self.scrubbed.emit(self.view.frame_at(event.position().x(), self.width()))
        self._mark = None
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        shot = self._under(event.position().x(), event.position().y())[1]
        if shot is not None:
            self.name_shot(shot[0].shot.id)

    def name_shot(self, shot_id: str) -> None:
        """Let a shot be renamed in its place."""
        place = next((place for place in self.places if place.shot.id == shot_id), None)
        if place is None or self._naming is not None:
            return
        card = paint.box(place, self.view, self.width())
        line = QLineEdit(place.shot.name, self)
        line.setAccessibleName(tr("Name of the shot"))
        left = max(card.left(), 0.0)
        line.setGeometry(round(left + 18), round(card.bottom() - 22), max(round(card.width() - 22), 120), 24)
        line.selectAll()
        line.show()
        line.setFocus()
        self._naming = line

        def done() -> None:
            if self._naming is None:
                return
            name, self._naming = line.text().strip(), None
            line.deleteLater()
            give_back(self)
            if name and name != place.shot.name:
                self._state.session.apply(tr("Rename shot"), reel_edits.set_all([shot_id], {"name": name}, of="shot"))

        line.editingFinished.connect(done)

    def wheelEvent(self, event: QWheelEvent) -> None:
        turns = (event.angleDelta().y() or event.angleDelta().x()) / 120
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier or event.angleDelta().x():
            self.view.pan(-0.12 * turns)
        else:
            self.view.zoom(0.82**turns, event.position().x(), self.width())
        event.accept()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        span = self._under(event.pos().x(), event.pos().y())[0]
        if span is not None:
            self._state.choose(span=span[0].id)
        self.menu_asked.emit(menu, "span" if span is not None else "shot")
        if menu.actions():
            menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            menu.popup(event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right go to the shot before and after, with Shift choosing it too."""
        ids = [place.shot.id for place in self.places]
        way = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if way is None or self._state.now.shot not in ids:
            super().keyPressEvent(event)
            return
        number = ids.index(self._state.now.shot) + way
        if 0 <= number < len(ids):
            more = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            also = self._state.now.also | {self._state.now.shot} if more else frozenset()
            self._state.choose(shot=ids[number], also=also - {ids[number]}, target="shot")

    def peak_words(self) -> str:
        """The largest that the camera of the reel does."""
        known = [self.work.traces[place.shot.id] for place in self.places if place.shot.id in self.work.traces]
        if not known:
            return ""
        return tr("peak {0:.1f} px · {1:.2f}°", max(t.far for t in known), max(t.turn for t in known))

    def told(self) -> str:
        """The reel in words."""
        return tr("{0}, {1} chosen", counted(len(self.places), "shot"), len(self._state.chosen_shots))


tell(ReelChartPaper, QAccessible.Role.Chart, ReelChartPaper.told)
