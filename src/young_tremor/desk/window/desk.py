"""The desk as commands know it: its parts, and what a person does with them."""

from __future__ import annotations

from young_tremor.desk.commands.registry import Commands
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.window.deleting import Deletion
from young_tremor.desk.window.file_actions import FileActions
from young_tremor.desk.window.footage_actions import FootageActions
from young_tremor.desk.window.full_screen import FullScreen
from young_tremor.desk.window.layout import Hall
from young_tremor.desk.window.overlays import Overlays
from young_tremor.desk.window.picture_placing import PicturePlacing
from young_tremor.desk.window.plate_mover import PlateMover
from young_tremor.desk.window.reel_actions import ReelActions
from young_tremor.desk.window.shake_actions import ShakeActions
from young_tremor.desk.window.sound_actions import SoundActions
from young_tremor.desk.window.take_actions import TakeActions
from young_tremor.engine.document.session import Session
from young_tremor.engine.playback import player


class Desk(Hall):
    """``commands``, ``sheets`` and ``full_screen`` are set by the window."""

    commands: Commands
    sheets: Overlays
    full_screen: FullScreen

    def __init__(self, session: Session, device: player.Device | None = None) -> None:
        super().__init__(session, device)
        self.files = FileActions(self)
        self.take_deeds = TakeActions(self)
        self.deeds = ShakeActions(self, self.take_deeds.show)
        self.reel_deeds = ReelActions(self)
        self.footage_deeds = FootageActions(self)
        self.sound_deeds = SoundActions(self)
        self.placer = PicturePlacing(self)
        self.mover = PlateMover(self)
        self.remover = Deletion(self)

    def show_render(self) -> None:
        """Open the render sheet for the shot, or close it."""
        shot, info = self.state.shot, self.state.info
        if shot is None or info is None:
            self.notice.say(tr("Open some footage first; there is nothing to render yet."))
            return
        if self.sheet.isVisible():
            self.sheet.hide()
            return
        chosen = tuple(s.id for s in self.session.project.shots if s.id in self.state.chosen_shots)
        self.place_sheet()
        self.sheet.open_for(shot, chosen, info, self.view.frames, self.folder())

    def place_sheet(self) -> None:
        """Over the chart: the picture stays free."""
        over = self.charts.parentWidget() or self
        tall = max(over.height(), self.sheet.minimumSizeHint().height())
        place = over.mapTo(self, over.rect().bottomLeft())
        self.sheet.setGeometry(6, place.y() - tall + 1, self.width() - 12, tall - 1)

    def toggle_full(self) -> None:
        """Let the picture fill the screen, or bring the rest of the desk back."""
        self.showNormal() if self.isFullScreen() else self.showFullScreen()

    def escape(self) -> None:
        """Take back a drag, or close the topmost of what is open."""
        if self.session.in_gesture:
            self.session.drop_gesture()
        elif self.sheet.isVisible() or self.sheets.shown:
            self.sheet.hide()
            self.sheets.hide()
        elif self.state.now.tool:
            self.state.choose(tool="")
        elif self.isFullScreen():
            self.toggle_full()
        elif self.measure.isVisible():
            self.show_measure(False)
        elif self.state.now.filled:
            self.state.choose(filled="")
        elif self.state.now.target or self.state.now.also:
            self.state.choose(strand=None, hit=None, also=frozenset(), target="")
        else:
            self.state.choose(strand=None)

    def play(self) -> None:
        """Play or stop; a clip that is being measured has the picture's place otherwise."""
        if self.picture.isVisible():
            self.stage.toggle_play()

    def undo_step(self) -> None:
        label = self.session.undo()
        self.notice.say(tr("Undone: {0}", label) if label else tr("Nothing to undo."))

    def redo_step(self) -> None:
        label = self.session.redo()
        self.notice.say(tr("Redone: {0}", label) if label else tr("Nothing to redo."))

    def go_back_to(self, number: int) -> None:
        """Undo or redo until so many steps are done."""
        session = self.session
        while session.steps[1] > number and session.undo() is not None:
            pass
        while session.steps[1] < number and session.redo() is not None:
            pass

    def mark(self, *, start: bool) -> None:
        """Let the marked stretch begin or end at the playhead."""
        first, last = self.clock.marks or (0, max(self.clock.frames - 1, 0))
        frame = self.clock.frame
        self.set_marks((frame, max(last, frame)) if start else (min(first, frame), frame))

    def go(self, by: int) -> None:
        """Put the playhead so many frames on, in the reel's chart also over a cut."""
        if self.state.now.scope == "reel":
            self.stage.go_in_reel(self.clock.frame + by)
        else:
            self.stage.go(self.view.frame + by)
