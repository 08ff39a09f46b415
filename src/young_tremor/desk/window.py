"""The main window: lays the desk out and says what keys and buttons do."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QGuiApplication, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QMainWindow

from young_tremor.base.errors import TremorError
from young_tremor.desk import theme
from young_tremor.desk.chart import Chart
from young_tremor.desk.commands import Commands
from young_tremor.desk.deeds import Deeds
from young_tremor.desk.drift_panel import DriftPanel
from young_tremor.desk.figures import FiguresView
from young_tremor.desk.files import Files
from young_tremor.desk.focus import Focus
from young_tremor.desk.header import Dot, Header
from young_tremor.desk.layout import lay_out
from young_tremor.desk.measure_view import MeasureView
from young_tremor.desk.notice import Notice
from young_tremor.desk.panel import Panel
from young_tremor.desk.picture import PictureView
from young_tremor.desk.place import Place
from young_tremor.desk.placer import Placer
from young_tremor.desk.plotted_panel import PlottedPanel
from young_tremor.desk.plotter import Plotter
from young_tremor.desk.presets import PresetsPopup
from young_tremor.desk.prints import Prints
from young_tremor.desk.reel import Reel
from young_tremor.desk.render_sheet import RenderSheet
from young_tremor.desk.sheets import Sheets
from young_tremor.desk.stage import Stage
from young_tremor.desk.strand_panel import StrandPanel
from young_tremor.desk.take_deeds import TakeDeeds
from young_tremor.desk.takes import TakesPopup
from young_tremor.desk.timeview import TimeView
from young_tremor.desk.transport import Transport
from young_tremor.desk.welcome import Welcome
from young_tremor.engine import framing, playback, recovery
from young_tremor.engine.preview import Plan
from young_tremor.engine.session import Session
from young_tremor.model import edits
from young_tremor.model.project import Shot

HINT = "Drop a locked-off shot here, or press Ctrl+O.\nIt starts with a little handheld drift."


class Window(QMainWindow):
    """The desk."""

    session: Session
    view: TimeView
    header: Header
    picture: PictureView
    figures: FiguresView
    chart: Chart
    stage: Stage
    files: Files
    deeds: Deeds
    take_deeds: TakeDeeds
    commands: Commands
    sheets: Sheets
    notice: Notice

    def __init__(self, session: Session, device: playback.Device | None = None) -> None:
        super().__init__()
        self.session = session
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.setMinimumSize(960, 620)
        self.view = TimeView()
        self.view.setParent(self)  # goes with the window, and with it what is connected to it
        self.header = Header()
        self.reel = Reel()
        self.picture = PictureView()
        self.transport = Transport()
        self.panel = Panel(session)
        self.figures = FiguresView()
        self.measure = MeasureView()
        self.chart = Chart(session, self.view)
        self.stage = Stage(session, self.view, self.picture, device)
        self.stage.setParent(self)
        self.picture.hint = HINT
        self._saved_at: float | None = None
        self._ending = False
        self.place: Place | None = None  # where it is, if that is remembered
        self.plan: Plan | None = None  # as the preview has it
        self.files = Files(self)
        self.deeds = Deeds(self)
        self.prints = Prints(self.session, self.reel)
        self.prints.came.connect(self._shot_changed)
        self.keeper = recovery.Keeper(session)
        self._top, self.splitter, self._whole = lay_out(self)
        self.setCentralWidget(self._whole)
        self._dot = Dot(self.header.render_button)
        self._dot.move(13, 10)
        self.notice = Notice(self._whole, theme.HEADER)
        self.welcome = Welcome(self.picture, self)
        self.sheet = RenderSheet(self, self._shot_of)
        self.popup = PresetsPopup(self)
        self.takes = TakesPopup(self, session)
        self.take_deeds = TakeDeeds(self)
        self.placer = Placer(self)
        self._connect()
        self.commands = Commands(self, self.header.menus)
        self.sheets = Sheets(self)
        self._focus = Focus(self)
        for each in (self, self._focus):
            QApplication.instance().installEventFilter(each)  # type: ignore[union-attr]
        self._clock = QTimer(self)
        self._clock.timeout.connect(self._second)
        self._clock.start(250)
        self._replaced()
        self.stage.refresh()

    def _connect(self) -> None:
        stage = self.stage
        stage.shot_changed.connect(self._shot_changed)
        stage.read.connect(self._read)
        stage.played.connect(self.transport.show_playing)
        stage.told.connect(self.notice.say)
        stage.opened.connect(self._opened)
        self.session.saved_changed.connect(self._saved)
        self.session.replaced.connect(self._replaced)
        self.transport.play.connect(stage.toggle_play)
        self.transport.step.connect(lambda n: stage.go(self.view.frame + n))
        self.transport.mode.connect(self.set_mode)
        self.chart.scrubbed.connect(stage.go)
        self.chart.strand_chosen.connect(lambda _: self._show_panel())
        self.chart.strand_chosen.connect(lambda _: self._show_figures())
        self.figures.closed.connect(self.toggle_figures)
        self.chart.add_strand.connect(self.deeds.add_strand)
        self.chart.find_hits.connect(self.deeds.find_hits)
        self.chart.compared.connect(self.deeds.compare)
        self.chart.told.connect(self.notice.say)
        self.chart.kept.connect(self.deeds.show_presets)
        self.chart.reset.connect(self.deeds.reset_shake)
        self.panel.frame.go_to.connect(stage.go)
        self.panel.frame.shape.connect(self.chart.shape)
        self.panel.frame.framing.limit_asked.connect(self.deeds.limit)
        self.panel.made.connect(self._panel_made)
        self.chart.row_filled.connect(lambda filled: self._top.setVisible(not filled))
        self.picture.clicked.connect(lambda: self.chart.choose(None))
        self.plotter = Plotter(self.session, self.chart, self.picture, stage.go)
        self.reel.chosen.connect(stage.choose)
        self.reel.removed.connect(lambda i: self.session.apply("Remove shot", edits.remove_shot(i)))
        self.view.moved.connect(lambda old, new: self._show_time())
        self.header.open_button.clicked.connect(self.files.ask_open)
        self.header.presets_button.clicked.connect(lambda: self.deeds.show_presets())
        self.header.render_button.clicked.connect(self.show_render)
        self.popup.picked.connect(self.deeds.apply_preset)
        self.popup.saved.connect(self.deeds.save_preset)
        self.popup.told.connect(self.notice.say)
        self.sheet.progressed.connect(lambda words: self.header.render_button.setText(words or "Render"))

    # what the person does

    def set_mode(self, mode: str) -> None:
        self.transport.modes.choose(mode)
        self.stage.set_mode(mode)  # type: ignore[arg-type]

    def show_render(self) -> None:
        shot, info = self.stage.shot, self.stage.info
        if shot is None or info is None:
            self.notice.say("Open some footage first; there is nothing to render yet.")
            return
        if self.sheet.isVisible():
            self.sheet.hide()
            return
        self.sheet.open_for(shot, info, self.view.frames, self.files.folder())
        self._place_sheet()

    def toggle_figures(self) -> None:
        """Show the spectrum and the figures of the motion beside the picture, or close them."""
        self.figures.set_against(None)
        self.figures.setVisible(self.figures.isHidden())
        self._show_figures()

    def show_figures(self, against: tuple[np.ndarray, float] | None, name: str) -> None:
        """Show the figures with a measured motion over them."""
        self.figures.set_against(against, name)
        self.figures.show()
        self._show_figures()

    def show_measure(self, on: bool) -> None:
        """Let the clip that is measured take the picture's place, or give it back."""
        self.measure.setVisible(on)
        self.picture.setVisible(not on)
        self.transport.setVisible(not on)

    def _show_figures(self) -> None:
        marks, rate = self.view.marks, float(self.view.rate)
        first, last = (marks[0] / rate, (marks[1] + 1) / rate) if marks else (0.0, self.view.frames / rate)
        shot = self.stage.shot
        self.figures.show_shot(shot, self.stage.info, first, last, self.chart.chosen, marks is not None)

    def toggle_full(self) -> None:
        full = not self.isFullScreen()
        for widget in (self.header, self.reel, self.panel, self.chart):
            widget.setVisible(not full)
        self.showFullScreen() if full else self.showNormal()

    def escape(self) -> None:
        if self.session.in_gesture:
            self.session.drop_gesture()
            return
        if self.sheet.isVisible() or self.sheets.shown:
            self.sheet.hide()
            self.sheets.hide()
        elif self.picture.drawing:
            self.placer.stop_drawing()
        elif self.measure.isVisible():
            self.show_measure(False)
        elif self.isFullScreen():
            self.toggle_full()
        elif self.chart.filled:
            self.chart.open_row(None)
        else:
            self.chart.choose(None)

    def set_marks(self, marks: tuple[int, int] | None) -> None:
        self.view.set_marks(marks)
        self._show_figures()
        self.stage.refresh_picture()

    def _shot_changed(self) -> None:
        project, shot, info = self.session.project, self.stage.shot, self.stage.info
        self.picture.hint = HINT if shot is None else self.picture.hint
        self.welcome.show_for(empty=not project.shots and self.files.adding is None)
        self.reel.show_project(project, self.stage.shot_id)
        self.chart.show_shot(shot, info)
        self._show_panel()
        self._show_figures()
        if shot is not None and info is not None and self.chart.trace is not None:
            self.reel.set_look(shot.id, None, self.chart.trace.centre[:: max(1, len(self.chart.trace.t) // 60)])
        elif shot is None:
            self.panel.frame.show_readings(None, None)
        self._show_time()
        self._show_state()
        self.prints.look()

    def _show_panel(self) -> None:
        self.panel.show_shot(self.stage.shot, self.stage.info, self.chart.chosen, self.chart.now)
        marks = self.view.marks
        first, last = marks if marks else (0, self.view.frames)
        if isinstance(self.panel.current, PlottedPanel):
            self.panel.current.span = (float(first / self.view.rate), float(last / self.view.rate))
        self.plotter.show_path()
        self.placer.show()

    def _show_time(self) -> None:
        self.transport.show_time(self.view.frame, self.view.frames, self.view.rate, self.view.drop)
        self.picture.set_scope(self.chart.trace, float(self.view.frame / self.view.rate))
        self.chart.show_numbers()
        self._show_boxes()
        if not self.stage.playing:
            self._show_panel()

    def _panel_made(self, panel: StrandPanel) -> None:
        panel.closed.connect(lambda: self.chart.choose(None))
        panel.region_drawing.connect(self.placer.draw_region)
        if isinstance(panel, PlottedPanel):
            panel.channel_chosen.connect(self.chart.set_channel)
            panel.ahead_changed.connect(self.plotter.set_ahead)
        elif isinstance(panel, DriftPanel):
            panel.match_asked.connect(self.take_deeds.ask_match)

    def _show_boxes(self) -> None:
        """Draw the keep-clear boxes where they lie on the present frame."""
        shot = self.stage.shot
        mine = self.plan is not None and shot is not None and self.plan.shot.frame.keep and shot.frame.keep
        boxes = framing.boxes_on(self.plan, self.view.frame) if mine and self.plan is not None else []
        if boxes or self.picture.boxes:
            self.picture.boxes = boxes
            self.picture.update()

    def _read(self, plan, readings, error: str) -> None:  # type: ignore[no-untyped-def]
        self.plan = plan
        self._show_boxes()
        self.panel.frame.show_readings(plan, readings, error)
        gaps = readings.need > 1 if readings is not None and plan.shot.frame.edges == "open" else None
        self.chart.show_gaps(gaps)

    def _opened(self, path: str, info) -> None:  # type: ignore[no-untyped-def]
        if info is not None and info.notes:
            self.notice.say(f"{info.name}: {'; '.join(info.notes)}.")

    def _replaced(self) -> None:
        self._saved_at = None
        self._show_state()

    def _saved(self) -> None:
        self._saved_at = time.monotonic()
        self._show_state()

    def _second(self) -> None:
        self._show_state()
        self.keeper.look()
        request = self.stage._request
        if request is not None:
            self.chart.show_ready(self.stage.preview.ready(request))

    def _show_state(self) -> None:
        session = self.session
        name = session.path.name if session.path else "Untitled"
        if self.header.project.text() != name or not self.windowTitle():
            self.header.project.setText(name)
            self.setWindowTitle(f"{name} – Young Tremor")
        self.header.show_saved(session.dirty, self._saved_at)
        self.commands.show_undo()

    def _shot_of(self, shot_id: str) -> Shot | None:
        return next((shot for shot in self.session.project.shots if shot.id == shot_id), None)

    def attempt(self, act: Callable[[], object]) -> None:
        try:
            act()
        except TremorError as error:
            self.notice.say(str(error))

    def _place_sheet(self) -> None:
        self.sheet.move(self.width() - self.sheet.width() - 16, theme.HEADER + 2)

    # Qt

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ApplicationDeactivate:
            self.stage.set_peek(False)  # its key may be let go where we do not hear of it
            self.session.end_gesture()
        elif event.type() == QEvent.Type.MouseButtonRelease and self.session.in_gesture:
            QTimer.singleShot(0, self, self._let_go)  # after whoever owns the drag
        elif (
            isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_C
            and not event.modifiers()
            and not event.isAutoRepeat()
            and not isinstance(QGuiApplication.focusObject(), QLineEdit)
            and event.type() in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease)
        ):
            self.stage.set_peek(event.type() == QEvent.Type.KeyPress)
        return False

    def _let_go(self) -> None:
        """No drag outlives the button that began it."""
        if QGuiApplication.mouseButtons() == Qt.MouseButton.NoButton:
            self.session.end_gesture()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.files.open_all([Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()])

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self.sheet.isVisible():
            self._place_sheet()

    def end_now(self) -> None:
        """Go without a question: the system says so. What is not saved is kept for the next start."""
        self.keeper.keep_now()
        self._ending = True
        self.close()

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._ending and not self.files.may_leave():
            event.ignore()
            return
        if self.place is not None:
            self.place.keep()
        for each in (self, self._focus):
            QApplication.instance().removeEventFilter(each)  # type: ignore[union-attr]
        if not self._ending:  # what the system ends is kept for the next start
            self.keeper.drop()
        self.sheet.stop()
        self._clock.stop()
        for job in (self.deeds.finding, self.deeds.limiting, self.files.adding):
            if job is not None:
                job.cancel()
                job.wait()
        self.take_deeds.stop()
        self.prints.wait()
        self.stage.close()
        for signal in (self.session.changed, self.session.replaced, self.session.saved_changed):
            signal.clear()
        event.accept()
