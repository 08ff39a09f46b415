"""The main window: lays the desk out and says what keys and buttons do."""

from __future__ import annotations

import time
from operator import attrgetter
from pathlib import Path

from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QGuiApplication, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QMessageBox, QPlainTextEdit

from young_tremor.base import allocator
from young_tremor.desk.commands.registry import Commands
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.focus import FocusFilter
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.panels.plates_panel import PlatesPanel
from young_tremor.desk.panels.span_panel import SpanPanel
from young_tremor.desk.panels.strand_panel import StrandPanel
from young_tremor.desk.sheets.welcome import Welcome, WelcomeActions
from young_tremor.desk.state.desk_state import Selection
from young_tremor.desk.window.commands import ALL, MENUS
from young_tremor.desk.window.desk import Desk
from young_tremor.desk.window.full_screen import FullScreen
from young_tremor.desk.window.header import RenderLamp
from young_tremor.desk.window.hints import HintTimer
from young_tremor.desk.window.overlays import Overlays
from young_tremor.desk.window.picture_plotting import PicturePlotting
from young_tremor.desk.window.window_geometry import WindowGeometry
from young_tremor.engine.analysis import framing_margins
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, settings
from young_tremor.engine.media import footage
from young_tremor.engine.playback import player
from young_tremor.engine.preview import first_picture
from young_tremor.model import shot_edits

CONTROLS = attrgetter("strand", "page", "plate", "sound", "span", "scope")  # what the panel depends on
PATIENCE = 1500  # milliseconds that chart and panel wait at most for the first picture
AT_REST = 1.5  # seconds without a wish after which pages of the panel are made ahead
CHART_LATER = 400  # milliseconds of rest after which a chart that is not seen follows
HEARD = frozenset(
    {
        QEvent.Type.MouseMove,
        QEvent.Type.ApplicationDeactivate,
        QEvent.Type.MouseButtonRelease,
        QEvent.Type.KeyPress,
        QEvent.Type.KeyRelease,
    }
)
HINT = "Drop a locked-off shot here, or press Ctrl+O.\nIt starts with a little handheld drift."


class MainWindow(Desk):
    """The desk, wired."""

    def __init__(self, session: Session, device: player.Device | None = None) -> None:
        super().__init__(session, device)
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.setMinimumSize(960, 620)
        self.picture.hint = HINT
        self._saved_at: float | None = None
        self._ending = False
        self.place: WindowGeometry | None = None  # where it is, if that is remembered
        self._first = QTimer(self)  # until the first picture is there nothing else is made
        self._first.setSingleShot(True)
        self._first.timeout.connect(self._follow)
        self._ahead = QTimer(self)
        self._ahead.setInterval(300)
        self._ahead.timeout.connect(self._make_ahead)
        self._pages = ["drift", "plates", "jolts"]
        self._dot = RenderLamp(self.header.render_button)
        self._dot.move(13, 10)
        self.welcome = Welcome(self.picture, self._ways)
        self.plotter = PicturePlotting(self.state, self.picture, self.stage.go)
        self.commands = Commands(self, ALL, MENUS, self.header.menus, settings.load().keys)
        self.sheets = Overlays(self, self.commands)
        self.sheets.followed.append(lambda kept: self.hints.follow(kept.hints))
        self.full_screen = FullScreen(
            self, lambda: [self.commands.action(command.name) for command in ALL if command.fill is None]
        )
        self.hints = HintTimer(self)
        self._connect()
        self._focus = FocusFilter(self, self.state.release)
        for each in (self, self._focus):
            QApplication.instance().installEventFilter(each)  # type: ignore[union-attr]
        self._chart_later = QTimer(self)
        self._chart_later.setSingleShot(True)
        self._chart_later.setInterval(CHART_LATER)
        self._chart_later.timeout.connect(self._show_chart)
        self._clock = QTimer(self)
        self._clock.timeout.connect(self._second)
        self._clock.start(250)
        if session.project.shots:
            self._first.start(PATIENCE)
        self.state.follow()
        self.whole.setFocus()
        self._replaced()
        self.stage.refresh()

    def _connect(self) -> None:
        stage, paper, state = self.stage, self.chart.paper, self.state
        stage.shot_changed.connect(self._shot_changed)
        stage.answered.connect(self._answered)
        stage.read.connect(self._read)
        stage.played.connect(self.transport.show_playing)
        stage.opened.connect(self._opened)
        for teller in (stage, self.runner, paper, self.popup, self.popup.keep):
            teller.told.connect(self.notice.say)
        state.changed.connect(self._chosen)
        self.prints.came.connect(self.scene.paper.refresh)
        self.session.saved_changed.connect(self._saved)
        self.session.replaced.connect(self._replaced)
        self.transport.play.connect(stage.toggle_play)
        self.transport.step.connect(self.go)
        self.transport.mode.connect(lambda mode: state.choose(mode=mode))
        self.transport.overlays.connect(self.picture.fill_overlays)
        self.transport.zoomed.connect(lambda: self.picture.zoom_to(0.0 if state.now.zoom.scale else 1.0))
        paper.scrubbed.connect(stage.go)
        paper.find_hits.connect(self.deeds.find_hits)
        paper.compared.connect(self.deeds.compare)
        paper.kept.connect(self.deeds.show_presets)
        paper.motion_coming.connect(self.make_room)
        paper.reset.connect(self.deeds.reset_shake)
        self.chart.camera.traced.connect(self._show_trace)
        self.chart.add_strand.connect(self.deeds.add_strand)
        self.figures.closed.connect(self.toggle_figures)
        self.panel.frame.go_to.connect(stage.go)
        self.panel.frame.shape.connect(self.chart.shape)
        self.panel.frame.framing.limit_asked.connect(self.deeds.limit)
        self.panel.made.connect(self._panel_made)
        self.picture.clicked.connect(lambda: state.choose(strand=None, target=""))
        self.reel.chosen.connect(self._pick_shot)
        self.reel.removed.connect(lambda i: self.session.apply(tr("Remove shot"), shot_edits.remove_shot(i)))
        self.view.moved.connect(lambda old, new: self._show_time())
        self.state.reel_time.moved.connect(lambda old, new: self._show_time())
        self.header.open_button.clicked.connect(self.files.ask_open)
        self.header.presets_button.clicked.connect(lambda: self.deeds.show_presets())
        self.header.render_button.clicked.connect(self.show_render)
        self.popup.picked.connect(self.deeds.apply_preset)
        self.popup.tried.connect(self.deeds.try_preset)
        self.popup.keep.saved.connect(self.deeds.save_preset)
        self.keeper.failed.connect(self._not_kept)
        self.keeper.kept_again.connect(lambda: self.notice.say(tr("Unsaved work is kept again.")))
        self.sheet.begun.connect(self.keeper.keep_soon)
        self.measure.begun.connect(self.keeper.keep_soon)
        self.sheet.progressed.connect(lambda words: self.header.render_button.setText(words or tr("Render")))

    def _ways(self) -> WelcomeActions:
        """The ways to begin, for the empty desk."""
        return WelcomeActions(
            ask_open=self.files.ask_open,
            ask_clip=self.take_deeds.ask_clip,
            demo=lambda: self.files.start(preset_library.demo_project()),
            open=self.files.open_path,
            recover=self.files.recover,
            look=self.files.look_at,
        )

    def _chosen(self, before: Selection, now: Selection) -> None:
        """Follow what is chosen."""
        if before.mode != now.mode:
            self.transport.modes.choose(now.mode)
        if before.zoom != now.zoom:
            self.transport.show_zoom(now.zoom.scale)
        if before.filled != now.filled:
            self.top.setVisible(not now.filled)
        if before.scope != now.scope:
            self._show_chart()
            self._show_time()
        if CONTROLS(before) != CONTROLS(now):
            self._show_panel()
            self.show_figures()
        if before.also != now.also:
            self._show_panel()
        if (before.also, before.target) != (now.also, now.target):
            self._show_reel()
            self.commands.refresh()

    def _pick_shot(self, shot: str, modifiers: Qt.KeyboardModifier) -> None:
        """A print was clicked."""
        beside = bool(modifiers & Qt.KeyboardModifier.ControlModifier)
        self.state.pick_shot(shot, beside=beside, through=bool(modifiers & Qt.KeyboardModifier.ShiftModifier))

    def _show_reel(self) -> None:
        now = self.state.now
        self.reel.show_project(self.session.project, now.shot, self.state.chosen_shots, aimed=now.target == "shot")

    def _shot_changed(self) -> None:
        project, shot = self.session.project, self.state.shot
        self.picture.hint = HINT if shot is None else self.picture.hint
        self.welcome.show_for(empty=not project.shots and not self.files.adding)
        self._show_reel()
        if not self._first.isActive():
            self._follow()

    def _answered(self) -> None:
        """The first picture is there: everything else follows once it is painted."""
        if self._first.isActive():
            self._first.start(0)
            self._ahead.start()

    def _make_ahead(self) -> None:
        """Make what is likely wanted while the person wants nothing: pages of the panel, one at a time, then what the
        first take needs."""
        if self.runner.rest.seconds < AT_REST or self.stage.playing or self.session.in_gesture:
            return
        if self._pages:
            getattr(self.panel, self._pages.pop(0))
        else:
            self._ahead.stop()
            self.runner.run("libraries", lambda _: first_picture.import_libraries(), lambda _: None, quiet=True)

    def _follow(self) -> None:
        """Let all but picture and reel follow the shot."""
        shot = self.state.shot
        if self.state.now.scope == "reel":
            self._chart_later.start()  # it is not seen: whatever is seen comes first
        else:
            self._show_chart()
        self._show_panel()
        self.show_figures()
        self._show_trace()
        if shot is None:
            self.panel.frame.show_readings(None, None)
        self._show_time()
        self._show_state()
        self.prints.look()

    def _show_chart(self) -> None:
        """Let the shot's chart follow."""
        self._chart_later.stop()
        self.chart.show_shot(self.state.shot, self.state.info)

    def _show_trace(self) -> None:
        """The shot's little trace on its print."""
        shot, trace, of = self.state.shot, self.chart.camera.trace, self.chart.paper.shot
        if shot is not None and trace is not None and of is not None and of.id == shot.id:
            self.reel.set_look(shot.id, None, trace.centre[:: max(1, len(trace.t) // 60)])

    def _show_panel(self) -> None:
        self.panel.show_shot(self.state.shot, self.state.info, self.state.now.strand, self.state.seconds)
        marks = self.view.marks
        first, last = marks if marks else (0, self.view.frames)
        if isinstance(self.panel.current, StrandPanel):
            self.panel.current.span = (float(first / self.view.rate), float(last / self.view.rate))
        self.plotter.show_path()
        self.placer.show()

    def _show_time(self) -> None:
        clock = self.clock
        self.transport.show_time(clock.frame, clock.frames, clock.rate, clock.drop)
        self.picture.set_scope(self.chart.camera.at(self.state.seconds), self.state.seconds)
        self.chart.show_numbers()
        self._show_boxes()
        self.mover.show()
        if not self.stage.playing:
            self._show_panel()

    def _panel_made(self, panel: Column) -> None:
        """Listen to a page of the panel."""
        if isinstance(panel, PlatesPanel):
            panel.add_asked.connect(self.deeds.add_plate)
            panel.print_asked.connect(self.plate_prints.ask)
            panel.title.faces_asked.connect(self._list_faces)
            panel.deep.shown.connect(self.mover.show)
            panel.deep.region.drawing.connect(self.placer.draw_region)
            panel.nudged.connect(self.mover.nudge)
        elif isinstance(panel, SpanPanel):
            panel.kept.connect(self.reel_deeds.keep)
        elif isinstance(panel, StrandPanel):
            self._strand_panel_made(panel)

    def _strand_panel_made(self, panel: StrandPanel) -> None:
        panel.region_drawing.connect(self.placer.draw_region)
        panel.channel_chosen.connect(self.chart.set_channel)
        panel.ahead_changed.connect(self.plotter.set_ahead)
        panel.match_asked.connect(self.take_deeds.ask_match)

    def _list_faces(self) -> None:
        """Look for the faces that are installed, which may take a second, in the background."""
        self.runner.run(
            "faces",
            lambda report: footage.installed_fonts(),
            self.panel.plates.title.set_faces,
            quiet=True,
        )

    def _show_boxes(self) -> None:
        """Draw the keep-clear boxes where they lie on the present frame."""
        shot = self.state.shot
        mine = self.plan is not None and shot is not None and self.plan.shot.frame.keep and shot.frame.keep
        boxes = framing_margins.boxes_on(self.plan, self.view.frame) if mine and self.plan is not None else []
        if boxes or self.picture.boxes:
            self.picture.boxes = boxes
            self.picture.update()

    def _read(self, plan, readings, error: str) -> None:  # type: ignore[no-untyped-def]
        self.plan = plan
        self._show_boxes()
        self.mover.show()
        self.panel.frame.show_readings(plan, readings, error)
        gaps = readings.need > 1 if readings is not None and plan.shot.frame.edges == "open" else None
        self.chart.show_gaps(gaps)

    def _opened(self, path: str, info) -> None:  # type: ignore[no-untyped-def]
        if info is not None and info.notes:
            self.notice.say(f"{info.name}: {'; '.join(info.notes)}.")

    def _replaced(self) -> None:
        self._saved_at = None
        path = self.session.path
        if self.presence.hold(path) and path is not None:
            self.notice.say(tr("{0} is open in another window too: what is saved last is what stays.", path.name))
        self._show_state()

    def _saved(self) -> None:
        self._saved_at = time.monotonic()
        self.presence.hold(self.session.path)
        self._show_state()

    def _not_kept(self, reason: str) -> None:
        self.notice.say(
            tr("Unsaved work cannot be kept: {0} It is tried again; save the project (Ctrl+S) meanwhile.", reason)
        )

    def _second(self) -> None:
        self._show_state()
        self.keeper.look()
        self.sheet.list.look()
        request = self.stage._request
        if request is not None:
            self.chart.show_ready(self.stage.preview.ready(request))

    def _show_state(self) -> None:
        session = self.session
        name = session.path.name if session.path else tr("Untitled")
        if self.header.project.text() != name or not self.windowTitle():
            self.header.project.setText(name)
            self.setWindowTitle(tr("{0} – Young Tremor", name))
        self.header.show_saved(session.dirty, self._saved_at)
        self.hints.look()
        self.commands.refresh()

    def _may_stop(self) -> bool:
        """Whether what runs may be stopped: asked only if something does."""
        running = [
            words
            for words, on in (("A render is", self.sheet.running), ("A measuring is", self.take_deeds.measuring))
            if on
        ]
        if not running:
            return True
        box = QMessageBox(self)
        box.setText(tr("{0} still running.", running[0]))
        box.setInformativeText(tr("Stop it and close? What is not whole by then is not kept."))
        stop = box.addButton(tr("Stop and close"), QMessageBox.ButtonRole.DestructiveRole)
        finish = None
        if self.sheet.running:
            finish = box.addButton(tr("Let it finish, then close"), QMessageBox.ButtonRole.AcceptRole)
        box.addButton(tr("Go on"), QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if finish is not None and box.clickedButton() is finish and self.files.may_leave():
            self._go_when_done()
        return box.clickedButton() is stop

    def _go_when_done(self) -> None:
        """Out of sight, until all that is to be delivered is."""
        QApplication.setQuitOnLastWindowClosed(False)  # it lives while it is at work
        self.hide()
        self.sheet.progressed.connect(lambda words: None if words or self.sheet.running else self._gone())

    def _gone(self) -> None:
        self._ending = True
        self.keeper.drop()
        self.close()
        QApplication.setQuitOnLastWindowClosed(True)
        if not any(widget.isVisible() for widget in QApplication.topLevelWidgets()):
            QApplication.quit()

    # Qt

    def changeEvent(self, event: QEvent) -> None:
        """Full screen comes and goes also by the window manager's hand."""
        if event.type() == QEvent.Type.WindowStateChange and hasattr(self, "full_screen"):
            self.full_screen.follow()
        super().changeEvent(event)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        kind = event.type()
        if kind not in HEARD:
            return False
        if kind == QEvent.Type.MouseMove and self.isFullScreen():
            self.full_screen.wake()
        if kind == QEvent.Type.ApplicationDeactivate:
            self.state.choose(peek=False)  # its key may be let go where we do not hear of it
            self.session.end_gesture()
        elif kind == QEvent.Type.MouseButtonRelease and self.session.in_gesture:
            QTimer.singleShot(0, self, self._let_go)  # after whoever owns the drag
        elif (
            isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_C
            and not event.modifiers()
            and not event.isAutoRepeat()
            and not isinstance(QGuiApplication.focusObject(), QLineEdit | QPlainTextEdit)
        ):
            self.state.choose(peek=kind == QEvent.Type.KeyPress)
        return False

    def _let_go(self) -> None:
        """No drag outlives the button that began it."""
        if QGuiApplication.mouseButtons() == Qt.MouseButton.NoButton:
            self.session.end_gesture()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls() and event.source() is None:  # what is dragged out does not come in again
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()]
        place = self.picture.mapFrom(self, event.position().toPoint())
        if self.picture.isVisible() and self.picture.rect().contains(place) and self.deeds.may_lay(paths):
            self.deeds.ask_where(paths, self.mapToGlobal(event.position().toPoint()), self.files.open_all)
        else:
            self.files.open_all(paths)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self.sheet.isVisible():
            self.place_sheet()

    def end_now(self) -> None:
        """Go without a question: the system says so. What is not saved is kept for the next start."""
        self.keeper.keep_now()
        self._ending = True
        self.close()

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._ending and not (self._may_stop() and self.files.may_leave()):
            event.ignore()
            return
        self.full_screen.close()
        if self.place is not None:
            self.place.keep(self.picture.wanted())
        for each in (self, self._focus):
            QApplication.instance().removeEventFilter(each)  # type: ignore[union-attr]
        if not self._ending:  # what the system ends is kept for the next start
            self.keeper.drop()
        self.keeper.release()
        self.presence.leave()
        self.sheet.stop()
        self._clock.stop()
        self._ahead.stop()
        self.runner.stop()
        self.measure.stop()
        self.stage.close()
        for signal in (self.session.changed, self.session.replaced, self.session.saved_changed):
            signal.clear()
        event.accept()
        allocator.give_back()
