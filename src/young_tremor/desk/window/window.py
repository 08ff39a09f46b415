"""The main window: lays the desk out and says what keys and buttons do."""

from __future__ import annotations

import time
from operator import attrgetter
from pathlib import Path

from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QGuiApplication, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QMainWindow, QMessageBox, QPlainTextEdit

from young_tremor.base import allocator
from young_tremor.base.colour_spaces import is_mapped_for_screens
from young_tremor.desk.commands.registry import Commands
from young_tremor.desk.kit.column import Column
from young_tremor.desk.kit.focus import FOCUS_EVENTS, FocusFilter
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.number_field import NumberField
from young_tremor.desk.panels.plates_panel import PlatesPanel
from young_tremor.desk.panels.span_panel import SpanPanel
from young_tremor.desk.panels.strand_panel import StrandPanel
from young_tremor.desk.sheets.welcome import Welcome, WelcomeActions
from young_tremor.desk.state.desk_state import Selection
from young_tremor.desk.window.actions import Actions
from young_tremor.desk.window.asking import Asking
from young_tremor.desk.window.commands import COMMANDS
from young_tremor.desk.window.desk import Desk
from young_tremor.desk.window.full_screen import FullScreen
from young_tremor.desk.window.header import RenderLamp
from young_tremor.desk.window.hints import HintTimer
from young_tremor.desk.window.overlays import Overlays
from young_tremor.desk.window.window_geometry import WindowGeometry
from young_tremor.engine.analysis import framing_margins
from young_tremor.engine.asking.command_texts import MENUS
from young_tremor.engine.asking.units import Surroundings
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


class MainWindow(QMainWindow):
    """The desk, wired: it has its parts (``desk``), what can be done with them (``act``) and the commands for that."""

    def __init__(self, session: Session, device: player.Device | None = None) -> None:
        super().__init__()
        self.desk = Desk(self, session, device)
        self.act = Actions(self.desk)
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.setMinimumSize(960, 620)
        self.desk.picture.hint = HINT
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
        self._dot = RenderLamp(self.desk.header.render_button)
        self._dot.move(13, 10)
        self.welcome = Welcome(self.desk.picture, self._ways)
        self.commands = Commands(self, self.act, COMMANDS, MENUS, self.desk.header.menus, settings.load().keys)
        self.act.overlays = Overlays(self.desk, self.commands)
        self.act.overlays.followed.append(lambda kept: self.hints.follow(kept.hints))
        self.asking = Asking(self.act, self.commands)
        self.act.ask = self.asking.open
        self.act.overlays.ask_word = self._ask_from_manual
        self.act.full_screen = FullScreen(
            self.desk, lambda: [self.commands.action(command.name) for command in COMMANDS if command.fill is None]
        )
        self.hints = HintTimer(self.desk)
        self._connect()
        self._focus = FocusFilter(self, self.desk.state.release)
        QApplication.instance().installEventFilter(self)  # type: ignore[union-attr]
        self._chart_later = QTimer(self)
        self._chart_later.setSingleShot(True)
        self._chart_later.setInterval(CHART_LATER)
        self._chart_later.timeout.connect(self._show_chart)
        self._clock = QTimer(self)
        self._clock.timeout.connect(self._second)
        self._clock.start(250)
        if session.project.shots:
            self._first.start(PATIENCE)
        self.desk.state.follow()
        self.desk.whole.setFocus()
        self._replaced()
        self.desk.stage.refresh()

    def _connect(self) -> None:
        stage, paper, state = self.desk.stage, self.desk.chart.paper, self.desk.state
        stage.shot_changed.connect(self._shot_changed)
        stage.answered.connect(self._answered)
        stage.read.connect(self._read)
        stage.played.connect(self.desk.transport.show_playing)
        stage.opened.connect(self._opened)
        for teller in (stage, self.desk.runner, paper, self.desk.popup, self.desk.popup.keep):
            teller.told.connect(self.desk.notice.say)
        state.changed.connect(self._chosen)
        self.desk.prints.came.connect(self.desk.scene.paper.refresh)
        self.desk.session.saved_changed.connect(self._saved)
        self.desk.session.replaced.connect(self._replaced)
        self.desk.transport.play.connect(stage.toggle_play)
        self.desk.transport.step.connect(self.act.go)
        self.desk.transport.mode.connect(lambda mode: state.choose(mode=mode))
        self.desk.transport.overlays.connect(self.desk.picture.fill_overlays)
        self.desk.transport.stops.connect(state.expose)
        self.desk.transport.zoomed.connect(lambda: self.desk.picture.zoom_to(0.0 if state.now.zoom.scale else 1.0))
        paper.scrubbed.connect(stage.go)
        paper.find_hits.connect(self.act.shake.find_hits)
        paper.compared.connect(self.act.shake.compare)
        paper.kept.connect(self.act.shake.show_presets)
        paper.motion_coming.connect(self.desk.make_room)
        paper.reset.connect(self.act.shake.reset_shake)
        self.desk.chart.camera.traced.connect(self._show_trace)
        self.desk.chart.add_strand.connect(self.act.shake.add_strand)
        self.desk.figures.closed.connect(self.desk.toggle_figures)
        self.desk.panel.frame.go_to.connect(stage.go)
        self.desk.panel.frame.shape.connect(self.desk.chart.shape)
        self.desk.panel.frame.framing.limit_asked.connect(self.act.shake.limit)
        self.desk.panel.made.connect(self._panel_made)
        self.desk.picture.clicked.connect(lambda: state.choose(strand=None, target=""))
        self.desk.reel.chosen.connect(self._pick_shot)
        self.desk.reel.removed.connect(lambda i: self.desk.session.apply(tr("Remove shot"), shot_edits.remove_shot(i)))
        self.desk.view.moved.connect(lambda old, new: self._show_time())
        self.desk.state.reel_time.moved.connect(lambda old, new: self._show_time())
        self.desk.header.open_button.clicked.connect(self.act.files.ask_open)
        self.desk.header.presets_button.clicked.connect(lambda: self.act.shake.show_presets())
        self.desk.header.render_button.clicked.connect(self.act.show_render)
        self.desk.popup.picked.connect(self.act.shake.apply_preset)
        self.desk.popup.tried.connect(self.act.shake.try_preset)
        self.desk.popup.keep.saved.connect(self.act.shake.save_preset)
        self.desk.keeper.failed.connect(self._not_kept)
        self.desk.keeper.kept_again.connect(lambda: self.desk.notice.say(tr("Unsaved work is backed up again.")))
        self.desk.sheet.begun.connect(self.desk.keeper.keep_soon)
        self.desk.measure.begun.connect(self.desk.keeper.keep_soon)
        self.desk.sheet.progressed.connect(lambda words: self.desk.header.render_button.setText(words or tr("Render")))

    def _ways(self) -> WelcomeActions:
        """The ways to begin, for the empty desk."""
        return WelcomeActions(
            ask_open=self.act.files.ask_open,
            ask_clip=self.act.takes.ask_clip,
            demo=lambda: self.act.files.start(preset_library.demo_project()),
            open=self.act.files.open_path,
            recover=self.act.files.recover,
            ask=self.asking.open_with,
            look=self.act.files.look_at,
        )

    def _chosen(self, before: Selection, now: Selection) -> None:
        """Follow what is chosen."""
        if before.mode != now.mode:
            self.desk.transport.modes.choose(now.mode)
        if before.stops != now.stops:
            self.desk.transport.exposure.show_stops(now.stops)
        if before.zoom != now.zoom:
            self.desk.transport.show_zoom(now.zoom.scale)
        if before.filled != now.filled:
            self.desk.top.setVisible(not now.filled)
        if before.scope != now.scope:
            self._show_chart()
            self._show_time()
        if CONTROLS(before) != CONTROLS(now):
            self._show_panel()
            self.desk.show_figures()
        if before.also != now.also:
            self._show_panel()
        if (before.also, before.target) != (now.also, now.target):
            self._show_reel()
            self.commands.refresh()

    def _ask_from_manual(self, word: str) -> None:
        """Ask for a word of the manual's index, in this window."""
        self.raise_()
        self.activateWindow()
        self.asking.open_with(word)

    def _pick_shot(self, shot: str, modifiers: Qt.KeyboardModifier) -> None:
        """A print was clicked."""
        beside = bool(modifiers & Qt.KeyboardModifier.ControlModifier)
        self.desk.state.pick_shot(shot, beside=beside, through=bool(modifiers & Qt.KeyboardModifier.ShiftModifier))

    def _show_reel(self) -> None:
        now = self.desk.state.now
        self.desk.reel.show_project(
            self.desk.session.project, now.shot, self.desk.state.chosen_shots, aimed=now.target == "shot"
        )

    def _shot_changed(self) -> None:
        project, shot = self.desk.session.project, self.desk.state.shot
        self.desk.picture.hint = HINT if shot is None else self.desk.picture.hint
        self.welcome.show_for(empty=not project.shots and not self.act.files.adding)
        self._show_reel()
        info = self.desk.state.info
        if info is not None:
            height = shot.size.height if shot is not None and shot.size else info.size[1]
            NumberField.around = Surroundings(self.desk.view.rate, height)
        self.desk.transport.show_mapped(info is not None and is_mapped_for_screens(info.colour))
        if self._first.isActive():
            return
        if self.desk.session.in_gesture and not self._is_dragged_in_place():
            self.desk.view.after_picture.follow(self._follow)
        else:
            self.desk.view.after_picture.end()
            self._follow()

    def _is_dragged_in_place(self) -> bool:
        """Whether what is dragged is drawn where the pointer is, and so has to follow it at once."""
        return any(part.underMouse() for part in (self.desk.chart, self.desk.scene, self.desk.picture))

    def _answered(self) -> None:
        """The first picture is there: everything else follows once it is painted."""
        if self._first.isActive():
            self._first.start(0)
            self._ahead.start()

    def _make_ahead(self) -> None:
        """Make what is likely wanted while the person wants nothing: pages of the panel, one at a time, then what the
        first take needs."""
        if self.desk.runner.rest.seconds < AT_REST or self.desk.stage.playing or self.desk.session.in_gesture:
            return
        if self._pages:
            getattr(self.desk.panel, self._pages.pop(0))
        else:
            self._ahead.stop()
            self.desk.runner.run_quietly("libraries", lambda _: first_picture.import_libraries(), lambda _: None)

    def _follow(self) -> None:
        """Let all but picture and reel follow the shot."""
        shot = self.desk.state.shot
        if self.desk.state.now.scope == "reel":
            self._chart_later.start()  # it is not seen: whatever is seen comes first
        else:
            self._show_chart()
        self.desk.show_figures()
        self._show_trace()
        if shot is None:
            self.desk.panel.frame.show_readings(None, None)
        self._show_clock()
        self._show_panel()
        self._show_state()
        self.desk.prints.look()

    def _show_chart(self) -> None:
        """Let the shot's chart follow."""
        self._chart_later.stop()
        self.desk.chart.show_shot(self.desk.state.shot, self.desk.state.info)

    def _show_trace(self) -> None:
        """The shot's little trace on its print."""
        shot, trace, of = self.desk.state.shot, self.desk.chart.camera.trace, self.desk.chart.paper.shot
        if shot is not None and trace is not None and of is not None and of.id == shot.id:
            self.desk.reel.set_look(shot.id, None, trace.centre[:: max(1, len(trace.t) // 60)])

    def _show_panel(self) -> None:
        self.desk.panel.show_shot(
            self.desk.state.shot, self.desk.state.info, self.desk.state.now.strand, self.desk.state.seconds
        )
        marks = self.desk.view.marks
        first, last = marks if marks else (0, self.desk.view.frames)
        if isinstance(self.desk.panel.current, StrandPanel):
            self.desk.panel.current.span = (float(first / self.desk.view.rate), float(last / self.desk.view.rate))
        self.act.plotting.show_path()
        self.act.placing.show()

    def _show_time(self) -> None:
        """Let all that depends on the time follow it; the panel only while it stands still."""
        self._show_clock()
        if not self.desk.stage.playing:
            self._show_panel()

    def _show_clock(self) -> None:
        """What shows where the playhead is, but for the panel."""
        clock = self.desk.clock
        self.desk.transport.show_time(clock.frame, clock.frames, clock.rate, clock.drop)
        self.desk.picture.set_scope(self.desk.chart.camera.at(self.desk.state.seconds), self.desk.state.seconds)
        self.desk.chart.show_numbers()
        self._show_boxes()
        self.act.mover.show()

    def _panel_made(self, panel: Column) -> None:
        """Listen to a page of the panel."""
        if isinstance(panel, PlatesPanel):
            panel.add_asked.connect(self.act.shake.add_plate)
            panel.print_asked.connect(self.desk.plate_prints.ask)
            panel.title.faces_asked.connect(self._list_faces)
            panel.deep.shown.connect(self.act.mover.show)
            panel.deep.region.drawing.connect(self.act.placing.draw_region)
            panel.nudged.connect(self.act.mover.nudge)
        elif isinstance(panel, SpanPanel):
            panel.kept.connect(self.act.reel.keep)
        elif isinstance(panel, StrandPanel):
            self._strand_panel_made(panel)

    def _strand_panel_made(self, panel: StrandPanel) -> None:
        panel.region_drawing.connect(self.act.placing.draw_region)
        panel.channel_chosen.connect(self.desk.chart.set_channel)
        panel.ahead_changed.connect(self.act.plotting.set_ahead)
        panel.match_asked.connect(self.act.takes.ask_match)

    def _list_faces(self) -> None:
        """Look for the faces that are installed, which may take a second, in the background."""
        self.desk.runner.run_quietly(
            "faces",
            lambda report: footage.installed_fonts(),
            self.desk.panel.plates.title.set_faces,
        )

    def _show_boxes(self) -> None:
        """Draw the keep-clear boxes where they lie on the present frame."""
        shot = self.desk.state.shot
        mine = self.desk.plan is not None and shot is not None and self.desk.plan.shot.frame.keep and shot.frame.keep
        boxes = (
            framing_margins.boxes_on(self.desk.plan, self.desk.view.frame)
            if mine and self.desk.plan is not None
            else []
        )
        if boxes or self.desk.picture.boxes:
            self.desk.picture.boxes = boxes
            self.desk.picture.update()

    def _read(self, plan, readings, error: str) -> None:  # type: ignore[no-untyped-def]
        self.desk.plan = plan
        self._show_boxes()
        self.act.mover.show()
        self.desk.panel.frame.show_readings(plan, readings, error)
        gaps = readings.need > 1 if readings is not None and plan.shot.frame.edges == "open" else None
        self.desk.chart.show_gaps(gaps)

    def _opened(self, path: str, info) -> None:  # type: ignore[no-untyped-def]
        if info is not None and info.notes:
            self.desk.notice.say(f"{info.name}: {'; '.join(info.notes)}.")

    def _replaced(self) -> None:
        self._saved_at = None
        path = self.desk.session.path
        if self.desk.presence.hold(path) and path is not None:
            self.desk.notice.say(tr("{0} is open in another window too: what is saved last is what stays.", path.name))
        self._show_state()

    def _saved(self) -> None:
        self._saved_at = time.monotonic()
        self.desk.presence.hold(self.desk.session.path)
        self._show_state()

    def _not_kept(self, reason: str) -> None:
        self.desk.notice.say(tr("Unsaved work cannot be backed up: {0} Save the project (Ctrl+S).", reason))

    def _second(self) -> None:
        self._show_state()
        self.desk.keeper.look()
        self.desk.sheet.list.look()
        request = self.desk.stage._request
        if request is not None:
            self.desk.chart.show_ready(self.desk.stage.preview.ready(request))

    def _show_state(self) -> None:
        session = self.desk.session
        name = session.path.name if session.path else tr("Untitled")
        if self.desk.header.project.text() != name or not self.windowTitle():
            self.desk.header.project.setText(name)
            self.setWindowTitle(tr("{0} – Young Tremor", name))
        self.desk.header.show_saved(session.dirty, self._saved_at)
        self.hints.look()
        self.commands.refresh()

    def _may_stop(self) -> bool:
        """Whether what runs may be stopped: asked only if something does."""
        running = [
            words
            for words, on in (("A render is", self.desk.sheet.running), ("A measuring is", self.act.takes.measuring))
            if on
        ]
        if not running:
            return True
        box = QMessageBox(self)
        box.setText(tr("{0} still running.", running[0]))
        box.setInformativeText(tr("Stop it and close? Unfinished files will be discarded."))
        stop = box.addButton(tr("Stop and close"), QMessageBox.ButtonRole.DestructiveRole)
        finish = None
        if self.desk.sheet.running:
            finish = box.addButton(tr("Finish, then close"), QMessageBox.ButtonRole.AcceptRole)
        box.addButton(tr("Go on"), QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if finish is not None and box.clickedButton() is finish and self.act.files.may_leave():
            self._go_when_done()
        return box.clickedButton() is stop

    def _go_when_done(self) -> None:
        """Out of sight, until all that is to be delivered is."""
        QApplication.setQuitOnLastWindowClosed(False)  # it lives while it is at work
        self.hide()
        self.desk.sheet.progressed.connect(lambda words: None if words or self.desk.sheet.running else self._gone())

    def _gone(self) -> None:
        self._ending = True
        self.desk.keeper.drop()
        self.close()
        QApplication.setQuitOnLastWindowClosed(True)
        if not any(widget.isVisible() for widget in QApplication.topLevelWidgets()):
            QApplication.quit()

    # Qt

    def changeEvent(self, event: QEvent) -> None:
        """Full screen comes and goes also by the window manager's hand."""
        if event.type() == QEvent.Type.WindowStateChange and hasattr(self, "act") and hasattr(self.act, "full_screen"):
            self.act.full_screen.follow()
        super().changeEvent(event)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        kind = event.type()
        if kind in FOCUS_EVENTS and self._focus.eventFilter(watched, event):
            return True
        if kind not in HEARD:  # it hears everything, thousands of times a second
            return False
        if kind == QEvent.Type.MouseMove and self.isFullScreen():
            self.act.full_screen.wake()
        if kind == QEvent.Type.ApplicationDeactivate:
            self.desk.state.choose(peek=False)  # its key may be let go where we do not hear of it
            self.desk.session.end_gesture()
        elif kind == QEvent.Type.MouseButtonRelease and self.desk.session.in_gesture:
            QTimer.singleShot(0, self, self._let_go)  # after whoever owns the drag
        elif isinstance(event, QKeyEvent) and _peeks(event):
            self.desk.state.choose(peek=kind == QEvent.Type.KeyPress)
        return False

    def _let_go(self) -> None:
        """No drag outlives the button that began it."""
        if QGuiApplication.mouseButtons() == Qt.MouseButton.NoButton:
            self.desk.session.end_gesture()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls() and event.source() is None:  # what is dragged out does not come in again
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()]
        place = self.desk.picture.mapFrom(self, event.position().toPoint())
        if self.desk.picture.isVisible() and self.desk.picture.rect().contains(place) and self.act.shake.may_lay(paths):
            self.act.shake.ask_where(paths, self.mapToGlobal(event.position().toPoint()), self.act.files.open_all)
        else:
            self.act.files.open_all(paths)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self.desk.sheet.isVisible():
            self.act.place_sheet()

    def end_now(self) -> None:
        """Go without a question: the system says so. What is not saved is kept for the next start."""
        self.desk.keeper.keep_now()
        self._ending = True
        self.close()

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._ending and not (self._may_stop() and self.act.files.may_leave()):
            event.ignore()
            return
        self.act.full_screen.close()
        if self.place is not None:
            self.place.keep(self.desk.picture.wanted())
        for item in (self, self._focus):
            QApplication.instance().removeEventFilter(item)  # type: ignore[union-attr]
        if not self._ending:  # what the system ends is kept for the next start
            self.desk.keeper.drop()
        self.desk.keeper.release()
        self.desk.presence.leave()
        self.desk.sheet.stop()
        self._clock.stop()
        self._ahead.stop()
        self.desk.runner.stop()
        self.desk.measure.stop()
        self.desk.stage.close()
        for signal in (self.desk.session.changed, self.desk.session.replaced, self.desk.session.saved_changed):
            signal.clear()
        event.accept()
        allocator.give_back()


def _peeks(event: QKeyEvent) -> bool:
    """Whether a key shows the original while it is held: C, where nobody writes."""
    writes = isinstance(QGuiApplication.focusObject(), QLineEdit | QPlainTextEdit)
    return event.key() == Qt.Key.Key_C and not event.modifiers() and not event.isAutoRepeat() and not writes
