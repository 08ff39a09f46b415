"""The window's parts in their places: head, reel, picture, panel, chart, and what lies over them."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QMainWindow, QSplitter, QStackedLayout, QVBoxLayout, QWidget

from young_tremor.base.errors import TremorError
from young_tremor.desk.chart.chart import Chart
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.hint import HintBar
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.notice import Notice
from young_tremor.desk.panels.motion_figures import FiguresView
from young_tremor.desk.panels.panel import Panel
from young_tremor.desk.picture.picture_view import PictureView
from young_tremor.desk.picture.transport import Transport
from young_tremor.desk.picture.viewer import ViewerController
from young_tremor.desk.reel.reel_chart import ReelChart
from young_tremor.desk.reel.reel_list import ReelList
from young_tremor.desk.reel.thumbnail_loader import PlateThumbnails, ShotThumbnails
from young_tremor.desk.sheets.measure_sheet import MeasureView
from young_tremor.desk.sheets.preset_sheet import PresetSheet
from young_tremor.desk.sheets.render_sheet import RenderSheet
from young_tremor.desk.sheets.take_sheet import TakeSheet
from young_tremor.desk.state.desk_state import DeskState
from young_tremor.desk.state.task_runner import TaskRunner
from young_tremor.desk.state.time_view import TimeView
from young_tremor.desk.window.header import Header
from young_tremor.engine.document import presence, recovery
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_diff, preset_library
from young_tremor.engine.playback import player
from young_tremor.engine.preview.preview_worker import Plan
from young_tremor.model import shot_edits
from young_tremor.model.project import Shot
from young_tremor.model.shake import Shake

LEAST = 300  # pixels of what is opened over the chart


class Desk:
    """What stands on the desk, and how it is shown. What a person does with it stands in :class:`Actions`."""

    def __init__(self, window: QMainWindow, session: Session, device: player.Device | None = None) -> None:
        self.window = window
        self.session = session
        self.state = DeskState(session)
        self.state.setParent(window)  # goes with the window, and with it what is connected to it
        self.view = self.state.time
        self.runner = TaskRunner(self.state)
        self.header = Header()
        self.reel = ReelList()
        self.picture = PictureView(self.state)
        self.transport = Transport()
        self.panel = Panel(self.state)
        self.figures = FiguresView(self.runner)
        self.measure = MeasureView()
        self.chart = Chart(self.state, self.runner)
        self.scene = ReelChart(self.state, self.reel, self.runner)
        self.stage = ViewerController(self.state, self.picture, self.runner, device)
        self.stage.setParent(window)
        self.prints = ShotThumbnails(self.state, self.reel, self.runner)
        self.plate_prints = PlateThumbnails(self.state, self.runner, lambda *seen: self.panel.plates.set_print(*seen))
        self.keeper = recovery.Keeper(session)
        self.presence = presence.Presence()
        self.plan: Plan | None = None  # as the preview has it
        self.hint = HintBar()
        self._lay_out()
        self.notice = Notice(self.whole, theme.HEADER)
        window.setProperty("home", self.whole)  # has the keys while no field has them
        window.setProperty("notice", self.notice)
        self.sheet = RenderSheet(window, session, self.marked)
        self.popup = PresetSheet(window, self.runner)
        self.takes = TakeSheet(window, session)

    def _lay_out(self) -> None:
        # from the outside in: whatever changes its parent has all inside of it styled anew
        self.whole = QWidget()
        self.window.setCentralWidget(self.whole)
        outer = _column(self.whole)
        self.splitter = _line(Qt.Orientation.Vertical)
        self.body = _line(Qt.Orientation.Horizontal)  # the panel stands in it where it is as high as the window
        self.body.addWidget(self.splitter)
        self.body.setStretchFactor(0, 1)
        outer.addWidget(self.header)
        outer.addWidget(self.body, 1)
        self.top = _line(Qt.Orientation.Horizontal)
        lower = QWidget()
        self.splitter.addWidget(self.top)
        self.splitter.addWidget(lower)
        self.splitter.setStretchFactor(0, 1)
        self.splitter.setStretchFactor(1, 0)
        self.splitter.setSizes([444, 312])
        middle, self.side = QWidget(), QWidget()
        for part in (self.reel, middle, self.side):
            self.top.addWidget(part)
        self.top.setCollapsible(0, True)
        self.top.setStretchFactor(1, 1)
        self.top.setSizes([theme.REEL, 868, theme.PANEL])
        self.middle, self.pictures = _column(middle), QHBoxLayout()
        self.pictures.setSpacing(0)
        self.middle.addLayout(self.pictures, 1)
        self.pictures.addWidget(self.picture, 1)
        self.pictures.addWidget(self.measure, 1)
        self.pictures.addWidget(self.figures)
        self.middle.addWidget(self.transport)
        side = _column(self.side)
        side.addWidget(self.panel, 1)
        side.addWidget(self.hint)
        self.charts = QStackedLayout(lower)
        self.charts.addWidget(self.chart)
        self.charts.addWidget(self.scene)

    def attempt(self, act: Callable[[], object]) -> None:
        """Do something that can fail, and say why if it does."""
        try:
            act()
        except TremorError as error:
            self.notice.say(str(error))

    def takes_over(self, shot_id: str) -> bool:
        """Whether a shot still has the drift that footage is opened with: motion that is put on takes its place."""
        shot = self.shot_of(shot_id)
        return shot is not None and preset_diff.gives_way(shot)

    def make_room(self, *shot_ids: str) -> None:
        """Take the drift that footage is opened with away from shots that still have it, and say so."""
        ids = [shot_id for shot_id in shot_ids if self.takes_over(shot_id)]
        if ids:
            steps = (shot_edits.set_shot(shot_id, shake=Shake()) for shot_id in ids)
            self.session.apply(tr("Make room"), shot_edits.in_turn(*steps))
            self.notice.say(tr("The starting drift was replaced. Ctrl+Z brings it back."))

    def shot_of(self, shot_id: str) -> Shot | None:
        """A shot as the document has it now."""
        return next((shot for shot in self.session.project.shots if shot.id == shot_id), None)

    def marked(self) -> tuple[float, float] | None:
        """The marked stretch, in seconds of the reel."""
        clock, place = self.clock, self.state.place
        if clock.marks is None:
            return None
        first, last = clock.marks[0] / float(clock.rate), (clock.marks[1] + 1) / float(clock.rate)
        at = place.at if clock is self.view and place is not None else 0.0
        return at + first, at + last

    def folder(self) -> Path:
        """Where files are looked for first: beside the project, or beside the footage."""
        shot = self.state.shot
        if self.session.path:
            return self.session.path.parent
        path = shot.footage.media.path if shot is not None else ""
        if path and not Path(path).is_relative_to(preset_library.ASSETS):
            return Path(path).parent
        return Path.home()

    def lay_low(self, popup: QWidget) -> None:
        """Open something over the chart, so that the picture stays free."""
        over = self.charts.parentWidget() or self.window
        place, tall = over.mapToGlobal(over.rect().topLeft()), max(over.height(), LEAST)
        popup.setGeometry(place.x() + 6, place.y() + over.height() - tall, over.width() - 12, tall - 6)
        popup.show()

    @property
    def clock(self) -> TimeView:
        """The time that is worked in: the shot's, or the reel's while its chart is shown."""
        return self.state.reel_time if self.state.now.scope == "reel" else self.view

    def set_marks(self, marks: tuple[int, int] | None) -> None:
        """Mark a stretch of the shot, or of the reel while its chart is shown, or none."""
        self.clock.set_marks(marks)
        self.show_figures()
        self.stage.refresh_picture()

    @property
    def reel_folded(self) -> bool:
        """Whether the reel is folded away."""
        return self.top.sizes()[0] == 0

    def toggle_reel(self) -> None:
        """Fold the reel away, or bring it back."""
        reel, middle, *right = self.top.sizes()
        self.top.setSizes([theme.REEL if reel == 0 else 0, middle + (reel or -theme.REEL), *right])

    @property
    def across(self) -> tuple[int, int, int]:
        """How wide the reel, the picture and the panel are."""
        reel, middle, *right = self.top.sizes()
        return reel, middle, right[0] if right else self.body.sizes()[1]

    def set_across(self, reel: int, middle: int, right: int) -> None:
        """Make the reel, the picture and the panel so wide, as far as the window goes."""
        if self.panel.tall:
            self.body.setSizes([reel + middle, right])
            self.top.setSizes([reel, middle])
        else:
            self.top.setSizes([reel, middle, right])

    def set_tall_panel(self, on: bool) -> None:
        """Let the panel take the window's whole height, so that the chart ends beside it, or stand above the chart."""
        if on != self.panel.tall:
            sizes = self.across
            self.panel.set_tall(on)
            (self.body if on else self.top).addWidget(self.side)
            self.set_across(*sizes)

    def show_measure(self, on: bool) -> None:
        """Let the clip that is measured take the picture's place, or give it back."""
        self.measure.setVisible(on)
        self.picture.setVisible(not on)
        self.transport.setVisible(not on)

    def toggle_figures(self) -> None:
        """Show the spectrum and the figures of the motion beside the picture, or close them."""
        self.figures.set_against(None)
        self.figures.setVisible(self.figures.isHidden())
        self.show_figures()

    def compare_figures(self, against: tuple[np.ndarray, float] | None, name: str) -> None:
        """Show the figures with a measured motion over them."""
        self.figures.set_against(against, name)
        self.figures.show()
        self.show_figures()

    def show_figures(self) -> None:
        """Let the figures follow the shot, the chosen strand and the marks."""
        marks, rate = self.view.marks, float(self.view.rate)
        first, last = (marks[0] / rate, (marks[1] + 1) / rate) if marks else (0.0, self.view.frames / rate)
        shot, info, strand = self.state.shot, self.state.info, self.state.now.strand
        self.figures.show_shot(shot, info, first, last, strand, marks is not None)


def _column(widget: QWidget) -> QVBoxLayout:
    """A widget's parts below each other, without room between them."""
    column = QVBoxLayout(widget)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(0)
    return column


def _line(way: Qt.Orientation) -> QSplitter:
    """Parts with lines between them that can be dragged."""
    line = QSplitter(way)
    line.setHandleWidth(3)
    line.setChildrenCollapsible(False)
    return line
