"""The panel on the right: *Frame* while nothing is selected, the chosen strand's full controls otherwise."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import TypeVar, cast

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QColor,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QHBoxLayout, QLabel, QStackedLayout, QVBoxLayout, QWidget

from young_tremor.base.frames import SourceInfo
from young_tremor.desk.chart.row_groups import groups
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.accessible import tell
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.kit.pressable import Pressable
from young_tremor.desk.kit.segments import Segments
from young_tremor.desk.panels.drift_panel import DriftPanel
from young_tremor.desk.panels.frame_panel import FramePanel
from young_tremor.desk.panels.jolts_panel import JoltsPanel
from young_tremor.desk.panels.plates_panel import PlatesPanel
from young_tremor.desk.panels.plotted_panel import PlottedPanel
from young_tremor.desk.panels.shimmer_panel import ShimmerPanel
from young_tremor.desk.panels.sound_panel import SoundPanel
from young_tremor.desk.panels.span_panel import SpanPanel
from young_tremor.desk.panels.strand_panel import StrandPanel
from young_tremor.desk.panels.take_panel import TakePanel
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.engine.document.session import Session
from young_tremor.model.project import Shot
from young_tremor.model.shake import Common, Drift, Jolts, Plotted, Shimmer, Taken

C = TypeVar("C", bound=Column)
#: Kinds of strands whose panel does more than their fields say.
PANELS: dict[type, Callable[[Session], StrandPanel]] = {
    Drift: DriftPanel,
    Jolts: JoltsPanel,
    Plotted: PlottedPanel,
    Taken: TakePanel,
    Shimmer: ShimmerPanel,
}

PAGES = (
    ("frame", "Frame", "Edges, shutter, lens"),
    ("plates", "Plates", "Layers of the shot"),
    ("strand", "Strand", "The chosen strand, or the one chosen last"),
)


class HeightButton(Pressable):
    """In the panel's head: lets it take the window's whole height, or gives the room back to the chart."""

    toggled = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(22, 22)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.show_tall(False)

    def show_tall(self, tall: bool) -> None:
        """Show what a click does."""
        self._tall = tall
        words = tr("Give the chart the window's whole width") if tall else tr("Take the window's whole height")
        self.setToolTip(words)
        self.setAccessibleName(words)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(theme.LAMP if self.hasFocus() else theme.DIM), 1.4))
        painter.drawLine(QPointF(5, 18), QPointF(17, 18))
        tip, tail, wing = (5.0, 14.0, 9.0) if self._tall else (14.0, 5.0, 10.0)
        painter.drawLine(QPointF(11, tail), QPointF(11, tip))
        painter.drawPolyline(QPolygonF([QPointF(7, wing), QPointF(11, tip), QPointF(15, wing)]))

    def press(self) -> None:
        """Ask for the other height."""
        self.toggled.emit()


tell(HeightButton, QAccessible.Role.Button, lambda button: "")


class Panel(QWidget):
    """The hammertone plate that holds the one or the other. Its pages are made when they are first wanted."""

    made = Signal(object)  # a page other than *Frame*, when it is first wanted

    def __init__(self, state: DeskState) -> None:
        super().__init__()
        self.setMaximumWidth(2 * theme.PANEL)
        self.setAccessibleName(tr("Panel"))
        self._state, self._session = state, state.session
        self.frame = FramePanel(state.session)
        self.pages = Segments(PAGES, "Panel")
        self.pages.chosen.connect(self._turn)
        self._kinds: dict[type, StrandPanel] = {}
        self._last: str | None = None  # the strand that was chosen last
        self._differing: list[NumberField] = []
        self._compared: tuple[object, ...] = ()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 8, 0, 4)
        column.setSpacing(0)
        self.tall = False
        head = QHBoxLayout()
        head.setContentsMargins(16, 0, 14, 0)
        head.addWidget(self.pages, 1)
        self.height_button = HeightButton()
        head.addWidget(self.height_button)
        column.addLayout(head)
        self.several = QLabel()
        self.several.setStyleSheet(f"color: {theme.LAMP}; font-size: 13px; padding: 4px 16px 0 16px;")
        self.several.hide()
        column.addWidget(self.several)
        self._stack = QStackedLayout()
        column.addLayout(self._stack, 1)
        self._add(self.frame)

    @cached_property
    def plates(self) -> PlatesPanel:
        """The page of the plates."""
        return self._added(PlatesPanel(self._state))

    @cached_property
    def span(self) -> SpanPanel:
        """The page of a span."""
        return self._added(SpanPanel(self._state))

    @cached_property
    def sound(self) -> SoundPanel:
        """The page of a sound."""
        return self._added(SoundPanel(self._state))

    def _added(self, column: C) -> C:
        """A page that is first wanted."""
        self._add(column)
        self.made.emit(column)
        return column

    def _add(self, column: Column) -> None:
        """Put in a page; longer words make the panel wider."""
        self._stack.addWidget(column)
        self.setMinimumWidth(max(self.minimumWidth(), theme.PANEL, column.least_width))

    def _turn(self, page: str) -> None:
        """Another page is wanted: with it no strand is chosen any more."""
        if page != "strand":
            self._state.choose(page=page, strand=None, span=None, sound=None)
        elif self._state.now.scope == "reel" and self._session.project.spans:
            self._state.choose(span=self._session.project.spans[0].id, strand=None)
        elif self._last is not None:
            self._state.choose(strand=self._last)

    def page_of(self, kind: type[Common]) -> StrandPanel:
        """The page of a kind of strand: its own, or one made of its fields."""
        page = self._kinds.get(kind)
        if page is None:
            own = PANELS.get(kind)
            page = own(self._session) if own else StrandPanel(kind, kind.LABEL, self._session)
            self._kinds[kind] = self._added(page)
        return page

    @property
    def drift(self) -> DriftPanel:
        """The page of a drift."""
        return cast("DriftPanel", self.page_of(Drift))

    @property
    def jolts(self) -> JoltsPanel:
        """The page of jolts."""
        return cast("JoltsPanel", self.page_of(Jolts))

    @property
    def plotted(self) -> PlottedPanel:
        """The page of a plotted strand."""
        return cast("PlottedPanel", self.page_of(Plotted))

    @property
    def take(self) -> TakePanel:
        """The page of a take."""
        return cast("TakePanel", self.page_of(Taken))

    @property
    def shimmer(self) -> ShimmerPanel:
        """The page of a shimmer."""
        return cast("ShimmerPanel", self.page_of(Shimmer))

    @property
    def current(self) -> QWidget | None:
        """What is shown."""
        return self._stack.currentWidget()

    def sizeHint(self) -> QSize:
        return QSize(theme.PANEL, 300)

    def set_tall(self, on: bool) -> None:
        """Whether it takes the window's whole height."""
        self.tall = on
        self.height_button.show_tall(on)

    def show_shot(self, shot: Shot | None, info: SourceInfo | None, chosen: str | None, now: float = 0.0) -> None:
        """Show the chosen strand, or the page that is turned to; ``now`` is the playhead in seconds. Where several
        shots are chosen, a number that differs among them says so."""
        self._show(shot, info, chosen, now)
        self._say_what_differs(shot, info, chosen, now)

    def _say_what_differs(self, shot: Shot | None, info: SourceInfo | None, chosen: str | None, now: float) -> None:
        varied, page = self._state.varied, self.current
        if self._compared == (shot, varied, page):
            return
        for rule in self._differing:
            rule.set_differs(False)
        self._differing = []
        if varied is not None and page is not None and not isinstance(page, SpanPanel):
            before = {rule: rule.value for rule in page.findChildren(NumberField)}
            self._show(varied, info, chosen, now)
            self._differing = [rule for rule, value in before.items() if rule.value != value]
            self._show(shot, info, chosen, now)
            for rule in self._differing:
                rule.set_differs(True)
        self._compared = (shot, varied, page)

    def _show(self, shot: Shot | None, info: SourceInfo | None, chosen: str | None, now: float) -> None:
        span = self._state.span if self._state.now.scope == "reel" else None
        several = len(self._state.chosen_shots)
        self.several.setVisible(several > 1 and span is None)
        self.several.setText(tr("{0} shots chosen: what is changed goes to all", several))
        self.frame.now = now
        self.frame.show_shot(shot)
        owners = [owner for _, owner in groups(shot)] if shot and info else []
        owner, strand = next(
            ((owner, s) for owner in owners for s in owner.shake.strands if s.id == chosen), (None, None)
        )
        heard = self._state.now.sound
        self.pages.set_words("strand", "Span" if span is not None and strand is None else "Strand")
        if strand is not None and owner is not None and info is not None:
            self._last = strand.id
            panel = self.page_of(type(strand))
            panel.show_strand(owner, info, strand, now)
            self._turn_to(panel, "strand")
        elif span is not None:
            self.span.show_span(span)
            self._turn_to(self.span, "strand")
        elif heard is not None and shot is not None:
            self.pages.set_words("strand", "Sound")
            self.sound.show_sound(shot, heard)
            self._turn_to(self.sound, "strand")
        else:
            self._show_page(shot, tuple(s.id for owner in owners for s in owner.shake.strands), now)

    def _show_page(self, shot: Shot | None, strands: tuple[str, ...], now: float) -> None:
        """Show *Frame* or *Plates*, whichever is turned to; the strand chosen last is one of ``strands``."""
        page = self._state.now.page
        if self._last not in strands:
            self._last = strands[0] if strands else None
        if page == "plates":
            self.plates.show_shot(shot, now)
        self._turn_to(self.plates if page == "plates" else self.frame, page)

    def _turn_to(self, column: Column, page: str) -> None:
        self.pages.choose(page)
        self._stack.setCurrentWidget(column)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme.hammertone(painter, 0, 0, self.width(), self.height())
        painter.fillRect(QRectF(0, 0, 1.5, self.height()), QColor(theme.DEEP))
        for x in (8.0, self.width() - 8.0):
            for y in (8.0, self.height() - 8.0):
                painter.setPen(QPen(QColor("#252b28"), 1))
                painter.setBrush(QColor("#2b322f"))
                painter.drawEllipse(QPointF(x, y), 3.5, 3.5)
                painter.setPen(QPen(QColor("#4d5853"), 0.8))
                painter.drawPolyline(QPolygonF([QPointF(x - 2, y + 1.2), QPointF(x + 2, y - 1.2)]))
