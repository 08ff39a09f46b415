"""What a person does with takes: measure, use, learn from them."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QFileDialog, QMenu

from young_tremor.base.units import duration_text
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.analysis import measuring
from young_tremor.engine.library import takes
from young_tremor.model import reel_edits, shot_edits
from young_tremor.model.shake import Drift
from young_tremor.model.take import Take

OWN = "measure the shot"
OWN_CUTOFF = 1.0  # seconds: of a shot's own motion only the shake is added again
CLIPS = "Footage (*.mp4 *.mov *.mkv *.avi *.webm *.m4v *.mxf *.mts);;All files (*)"


class TakeActions:
    """Each is one step that can be undone; measuring runs in the background."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        view, popup = desk.measure, desk.takes
        view.closed.connect(self.close_measure)
        view.taken.connect(self._land)
        view.used.connect(self.use)
        view.told.connect(desk.notice.say)
        view.progressed.connect(lambda words: desk.header.takes_button.setText(words or tr("Takes")))
        popup.used.connect(self.use)
        popup.tried.connect(self.try_on)
        popup.measure.connect(self.ask_clip)
        popup.again.connect(self.ask_clip)
        popup.own.connect(self.measure_own)
        popup.told.connect(desk.notice.say)
        desk.header.takes_button.clicked.connect(self.show)
        desk.header.takes_button.dropped.connect(lambda name: self.open_clip(Path(name)))

    def show(self) -> None:
        """Open the takes; while one is measured or was just measured, that view."""
        if self._desk.measure.measuring:
            self._show_measure()
            return
        self._desk.lay_low(self._desk.takes)

    def ask_clip(self, replaces: Take | None = None) -> None:
        """Choose a clip to be measured; ``replaces``: in place of a take."""
        words = tr("Clip to measure “{0}” from", replaces.name) if replaces else tr("Clip to measure")
        name, _ = QFileDialog.getOpenFileName(self._desk.window, words, str(self._desk.folder()), CLIPS)
        if name:
            self.open_clip(Path(name), replaces)

    def open_clip(self, path: Path, replaces: Take | None = None) -> None:
        """Show a clip in the measure view."""
        self._show_measure()
        self._desk.measure.open_clip(path, replaces)

    def _show_measure(self) -> None:
        self._desk.stage.stop()
        self._desk.show_measure(True)

    def close_measure(self) -> None:
        """Back to the picture."""
        self._desk.show_measure(False)

    def _land(self, take: Take, replaces: str | None) -> None:
        if replaces is not None:
            self._desk.session.apply(tr("Measure {0} again", take.name), shot_edits.replace_take(replaces, take))
        else:
            self._desk.session.apply(tr("Measure {0}", take.name), shot_edits.add_take(take))
        if self._desk.measure.isHidden():
            self._desk.notice.say(tr("“{0}” is measured: it is among the takes.", take.name))

    def use(self, take: Take) -> None:
        """Let a take move the shot."""
        self.close_measure()
        shot = self._desk.state.shot
        if shot is None:
            self._desk.notice.say(tr("Open a locked-off shot; the take then moves it."))
            return
        strand = takes.strand_of(take)
        places = [place for place in self._desk.state.places if place.shot.id in self._desk.state.chosen_shots]
        if len(places) > 1:
            pieces = {place.shot.id: sum(p.end - p.at for p in places[:k]) for k, place in enumerate(places)}
            with self._desk.session.gesture(tr("Use {0} for a scene", take.name)):
                self._desk.make_room(*pieces)
                self._desk.session.apply(tr("Use {0} for a scene", take.name), reel_edits.lay_take(strand, pieces))
            words = tr("“{0}” runs on over {1} shots, each with its own stretch of it.", take.name, len(places))
            self._desk.notice.say(words)
            return
        with self._desk.session.gesture(tr("Use {0}", take.name)):
            self._desk.make_room(shot.id)
            self._desk.session.apply(tr("Use {0}", take.name), shot_edits.add_strand(shot.id, strand))
        self._desk.state.choose(strand=strand.id)

    def try_on(self, take: Take | None) -> None:
        """Let the shot be seen under a take, while that is looked at; None: it is over."""
        shot = self._desk.state.seen
        if take is None or shot is None:
            self._desk.stage.audition(None)
            return
        self._desk.stage.audition(replace(shot, shake=replace(shot.shake, strands=(takes.strand_of(take),))))

    def measure_own(self) -> None:
        """Measure the shot's own motion, and add its shake once more."""
        desk, shot, info = self._desk, self._desk.state.shot, self._desk.state.info
        if shot is None or info is None:
            return
        if shot.footage.media.drawn:
            desk.notice.say(tr("A title has no motion of its own to measure."))
            return
        path = Path(shot.footage.media.path)

        def land(found: measuring.Measured) -> None:
            if desk.shot_of(shot.id) is None:
                return
            if found.still:
                desk.notice.say(tr("{0} stands still: there is no shake of its own to add to.", info.name))
                return
            take = takes.of_path(found, info, f"{shot.name}, own motion", None)
            strand = takes.learn_endless(replace(takes.strand_of(take), cutoff=OWN_CUTOFF, note="its own shake again"))
            with desk.session.gesture(tr("Measure the shot")):
                desk.make_room(shot.id)
                desk.session.apply(tr("Measure the shot"), shot_edits.add_take(take))
                desk.session.apply(tr("Add its own shake"), shot_edits.add_strand(shot.id, strand))
            if desk.state.now.shot == shot.id:
                desk.state.choose(strand=strand.id)
            desk.notice.say(tr("Its own shake is added again. The amount sets the exaggeration."))

        def progress(done: int, total: int, left: float) -> None:
            desk.header.takes_button.setText(f"{100 * done // max(total, 1)} %")
            if left > 2.0 and done % 50 == 0:
                desk.notice.say(tr("Measuring {0}: {1} left.", shot.name, duration_text(left)))

        desk.runner.run(
            OWN,
            lambda report: measuring.measure(path, report, start=shot.start, end=shot.end),
            land,
            progress=progress,
            ended=lambda: desk.header.takes_button.setText(tr("Takes")),
        )

    @property
    def measuring(self) -> bool:
        """Whether a clip or the shot is being measured."""
        return self._desk.measure.measuring or self._desk.runner.busy(OWN)

    def ask_match(self, place: QPoint) -> None:
        """Choose the take that the chosen drift is fitted to."""
        menu = QMenu(self._desk.window)
        for take in (*self._desk.session.project.takes, *takes.library_takes()[0]):
            menu.addAction(take.name, partial(self.match, take))
        if not menu.actions():
            menu.addAction(tr("No takes yet: measure a clip first")).setEnabled(False)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(place)

    def match(self, take: Take) -> None:
        """Fit the chosen drift to a take, and show both spectra."""
        shot, info = self._desk.state.shot, self._desk.state.info
        strand = next((s for s in shot.shake.strands if s.id == self._desk.state.now.strand), None) if shot else None
        if shot is None or info is None or not isinstance(strand, Drift):
            return
        self._desk.session.apply(
            tr("Match {0}", take.name), shot_edits.set_strand(shot.id, strand.id, **takes.match_changes(strand, take))
        )
        self._desk.compare_figures(takes.channels_of(strand, take), take.name)
