"""What a person can do, as commands know it."""

from __future__ import annotations

from collections.abc import Callable

from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.window.deleting import Deletion
from young_tremor.desk.window.desk import Desk
from young_tremor.desk.window.file_actions import FileActions
from young_tremor.desk.window.footage_actions import FootageActions
from young_tremor.desk.window.full_screen import FullScreen
from young_tremor.desk.window.overlays import Overlays
from young_tremor.desk.window.picture_placing import PicturePlacing
from young_tremor.desk.window.picture_plotting import PicturePlotting
from young_tremor.desk.window.plate_mover import PlateMover
from young_tremor.desk.window.reel_actions import ReelActions
from young_tremor.desk.window.shake_actions import ShakeActions
from young_tremor.desk.window.sound_actions import SoundActions
from young_tremor.desk.window.take_actions import TakeActions


class Actions:
    """Actions by what they act on, and those on the whole desk. The window sets ``overlays``, ``full_screen``, and
    ``ask``, which begins to ask in one's own words."""

    overlays: Overlays
    full_screen: FullScreen
    ask: Callable[[], None]

    def __init__(self, desk: Desk) -> None:
        self.desk = desk
        self.files = FileActions(desk)
        self.takes = TakeActions(desk)
        self.shake = ShakeActions(desk, self.takes.show)
        self.reel = ReelActions(desk)
        self.footage = FootageActions(desk)
        self.sound = SoundActions(desk)
        self.placing = PicturePlacing(desk)
        self.mover = PlateMover(desk)
        self.deletion = Deletion(desk)
        self.plotting = PicturePlotting(desk.state, desk.picture, desk.stage.go)

    def show_render(self) -> None:
        """Open the render sheet for the shot, or close it."""
        shot, info = self.desk.state.shot, self.desk.state.info
        if shot is None or info is None:
            self.desk.notice.say(tr("Open some footage first; there is nothing to render yet."))
            return
        if self.desk.sheet.isVisible():
            self.desk.sheet.hide()
            return
        chosen = tuple(s.id for s in self.desk.session.project.shots if s.id in self.desk.state.chosen_shots)
        self.place_sheet()
        self.desk.sheet.open_for(shot, chosen, info, self.desk.view.frames, self.desk.folder())

    def render_as(self, form: str) -> None:
        """Open the render sheet with a form."""
        if not self.desk.sheet.isVisible():
            self.show_render()
        self.desk.sheet.form.choose_form(form)

    def place_sheet(self) -> None:
        """Over the chart: the picture stays free."""
        over = self.desk.charts.parentWidget() or self.desk.window
        tall = max(over.height(), self.desk.sheet.minimumSizeHint().height())
        place = over.mapTo(self.desk.window, over.rect().bottomLeft())
        self.desk.sheet.setGeometry(6, place.y() - tall + 1, self.desk.window.width() - 12, tall - 1)

    def toggle_full(self) -> None:
        """Let the picture fill the screen, or bring the rest of the desk back."""
        self.desk.window.showNormal() if self.desk.window.isFullScreen() else self.desk.window.showFullScreen()

    def escape(self) -> None:
        """Take back a drag, or close the topmost of what is open."""
        if self.desk.session.in_gesture:
            self.desk.session.drop_gesture()
        elif self.desk.sheet.isVisible() or self.overlays.shown:
            self.desk.sheet.hide()
            self.overlays.hide()
        elif self.desk.state.now.tool:
            self.desk.state.choose(tool="")
        elif self.desk.window.isFullScreen():
            self.toggle_full()
        elif self.desk.measure.isVisible():
            self.desk.show_measure(False)
        elif self.desk.state.now.filled:
            self.desk.state.choose(filled="")
        elif self.desk.state.now.target or self.desk.state.now.also:
            self.desk.state.choose(strand=None, hit=None, also=frozenset(), target="")
        else:
            self.desk.state.choose(strand=None)

    def play(self) -> None:
        """Play or stop; a clip that is being measured has the picture's place otherwise."""
        if self.desk.picture.isVisible():
            self.desk.stage.toggle_play()

    def undo_step(self) -> None:
        """Undo the last step, and say which."""
        label = self.desk.session.undo()
        self.desk.notice.say(tr("Undone: {0}", label) if label else tr("Nothing to undo."))

    def redo_step(self) -> None:
        """Redo the next step, and say which."""
        label = self.desk.session.redo()
        self.desk.notice.say(tr("Redone: {0}", label) if label else tr("Nothing to redo."))

    def go_back_to(self, number: int) -> None:
        """Undo or redo until so many steps are done."""
        session = self.desk.session
        while session.steps[1] > number and session.undo() is not None:
            pass
        while session.steps[1] < number and session.redo() is not None:
            pass

    def mark(self, *, start: bool) -> None:
        """Let the marked stretch begin or end at the playhead."""
        first, last = self.desk.clock.marks or (0, max(self.desk.clock.frames - 1, 0))
        frame = self.desk.clock.frame
        self.desk.set_marks((frame, max(last, frame)) if start else (min(first, frame), frame))

    def go(self, by: int) -> None:
        """Put the playhead so many frames on, in the reel's chart also over a cut."""
        if self.desk.state.now.scope == "reel":
            self.desk.stage.go_in_reel(self.desk.clock.frame + by)
        else:
            self.desk.stage.go(self.desk.view.frame + by)
