"""What a person does to the reel: cuts, copies, spans, and carrying a shake from shot to shot."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QInputDialog, QLineEdit, QMenu

from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.library import preset_library, settings
from young_tremor.model import reel_edits, shot_edits
from young_tremor.model.project import Preset, Project, Shot, Span, new_id

WORDS = {
    "shake": "The shake",
    "edges": "Edges and crop",
    "shutter": "Shutter and blur",
    "lens": "Lens and pivot",
    "placement": "Placement",
    "hits": "Hits",
}
APART = "apart"  # another course for each
SPAN = "Standing, breathing"
LONG = 6.0  # seconds of a new span, at the most


class ReelActions:
    """Each is one step that can be undone."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._copied: Shot | None = None
        scene, state = desk.scene, desk.state
        desk.session.propagate = self._along
        scene.paper.scrubbed.connect(desk.stage.go_in_reel)
        scene.paper.trimming.connect(self._look)
        scene.paper.menu_asked.connect(self._fill_menu)
        scene.add.clicked.connect(self.add_span)
        state.changed.connect(lambda before, now: self._scope(before.scope != now.scope))
        desk.session.changed.connect(lambda old, new: self.follow())
        desk.session.replaced.connect(self.follow)
        desk.stage.opened.connect(lambda path, info: self.follow())
        desk.view.moved.connect(lambda old, new: self._show_time())

    def _along(self, before: Project, after: Project) -> Project:
        """With several shots chosen a change of a number goes to all of them."""
        state = self._desk.state
        if not state.now.also or state.now.shot is None:
            return after
        return reel_edits.spread(before, after, state.now.shot, state.now.also)

    def toggle_scope(self) -> None:
        """Between the chart of the shot and that of the reel."""
        state = self._desk.state
        state.choose(scope="reel" if state.now.scope == "shot" else "shot", strand=None)

    def _scope(self, changed: bool) -> None:
        desk = self._desk
        if changed:
            desk.charts.setCurrentWidget(desk.scene if desk.state.now.scope == "reel" else desk.chart)
            self.follow()
            desk.stage.refresh_picture()

    def follow(self) -> None:
        """Let the reel's chart follow the document; what is not known of footage is asked."""
        desk, state = self._desk, self._desk.state
        if state.now.scope != "reel":
            return
        for shot in desk.session.project.shots:
            media = shot.footage.media
            if not media.drawn and media.path not in state.facts:
                desk.stage.open(media.path)
        desk.scene.paper.follow()
        self._show_time()

    def _show_time(self) -> None:
        """The playhead of the reel goes with that of the shot."""
        state, place = self._desk.state, self._desk.state.place
        if state.now.scope == "reel" and place is not None and not self._desk.session.in_gesture:
            inside = round(float(self._desk.view.frame / self._desk.view.rate) * float(place.rate))
            state.reel_time.set_frame(place.first + min(inside, place.frames - 1))

    def _look(self, shot: str, seconds: float) -> None:
        """While an end is dragged the picture shows the frame there."""
        desk = self._desk
        if desk.state.now.shot != shot:
            desk.state.choose(shot=shot)
        desk.stage.go(round(seconds * float(desk.view.rate)))

    def split(self) -> None:
        """Cut the shot in two at the playhead."""
        desk, shot, t = self._desk, self._desk.state.shot, self._desk.state.seconds
        if shot is None or not 0 < desk.view.frame < desk.view.frames - 1:
            desk.notice.say(tr("Put the playhead inside the shot: it is cut there."))
            return
        second = new_id()
        desk.session.apply(tr("Split shot"), reel_edits.split(shot.id, t, second))
        desk.state.choose(shot=second)

    def duplicate(self) -> None:
        """Put a copy of the shot behind it."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is not None:
            copy = new_id()
            desk.session.apply(tr("Duplicate shot"), reel_edits.duplicate(shot.id, copy))
            desk.state.choose(shot=copy)

    def rename(self) -> None:
        """Let the shot be renamed in its place on the reel's chart."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is not None:
            desk.state.choose(scope="reel")
            desk.scene.paper.name_shot(shot.id)

    def move(self, by: int) -> None:
        """Move the chosen shots one place on or back."""
        desk, chosen = self._desk, self._desk.state.chosen_shots
        ids = [shot.id for shot in desk.session.project.shots]
        places = [ids.index(text) for text in chosen]
        if not places:
            return
        to = max(min(places) - 1, 0) if by < 0 else min(max(places) + 2, len(ids))
        desk.session.apply(tr("Move shots"), reel_edits.move(chosen, to))

    def remove(self) -> None:
        """Take the chosen shots out of the reel, or the chosen span away."""
        desk, state = self._desk, self._desk.state
        if state.now.scope == "reel" and state.span is not None:
            desk.session.apply(tr("Remove span"), reel_edits.remove_span(state.span.id))
        elif state.chosen_shots:
            words = tr("Remove shot") if len(state.chosen_shots) == 1 else tr("Remove shots")
            desk.session.apply(words, reel_edits.remove(state.chosen_shots))

    def choose_all(self) -> None:
        """Choose every shot."""
        state = self._desk.state
        state.choose(also=frozenset(shot.id for shot in self._desk.session.project.shots) - {state.now.shot or ""})

    def copy(self) -> None:
        """Remember the shot's shake, and what goes along with it."""
        self._copied = self._desk.state.shot
        if self._copied is not None:
            self._desk.notice.say(tr("Shake of “{0}” copied: choose shots and paste it.", self._copied.name))

    def paste(self) -> None:
        """Give the chosen shots the shake that was copied."""
        desk, source = self._desk, self._copied
        if source is None:
            desk.notice.say(tr("Copy the shake of a shot first, with Ctrl+C."))
            return
        chosen = [shot.id for shot in desk.session.project.shots if shot.id in desk.state.chosen_shots]
        along = settings.load().along
        parts = [part for part in reel_edits.PARTS if part in along]
        desk.session.apply(tr("Paste shake"), reel_edits.paste(source, chosen, parts, apart=APART in along))
        desk.notice.say(tr("Pasted to {0}.", counted(len(chosen), "shot")))

    def fill_along(self, menu: QMenu) -> None:
        """What goes along when a shake is pasted; remembered."""
        along = settings.load().along
        for part, words in (*WORDS.items(), (APART, "Another course for each")):
            action: QAction = menu.addAction(tr(words), partial(self._toggle_along, part))
            action.setCheckable(True)
            action.setChecked(part in along)

    def _toggle_along(self, part: str) -> None:
        now = set(settings.load().along) ^ {part}
        self._desk.attempt(lambda: settings.change(along=tuple(sorted(now))))

    def add_span(self) -> None:
        """Lay a span over the chosen shots, or over some seconds from the playhead on."""
        desk, state = self._desk, self._desk.state
        places = [place for place in state.places if place.shot.id in state.chosen_shots]
        if not places:
            desk.notice.say(tr("Open some footage first; a span then lies over it."))
            return
        start, end = places[0].at, places[-1].end
        if len(places) == 1:
            start = float(state.reel_time.frame / state.reel_time.rate)
            end = min(start + LONG, max(state.places[-1].end, start + 1.0))
        long = end - start
        preset = preset_library.preset(SPAN)
        shake = shot_edits.unlike(shot_edits.from_preset(preset), shot_edits.shakes_of(desk.session.project))
        span = Span(new_id(), tr("Span"), start, end, min(1.0, long / 4), min(1.0, long / 4), shake)
        desk.session.apply(tr("Add span"), reel_edits.add_span(span))
        state.choose(scope="reel", span=span.id, strand=None)

    def keep(self, span: Span) -> None:
        """Keep a span's shake as a preset for any project, under a name that is asked."""
        name, given = QInputDialog.getText(
            self._desk.window, tr("Save as preset"), tr("Name of the preset"), QLineEdit.EchoMode.Normal, span.name
        )
        name = name.strip()
        if not given or not name:
            return
        preset = Preset(name, "own", tr("Saved from the span “{0}”.", span.name), replace(span.shake, preset=""))

        def keep() -> None:
            path = preset_library.save_own(preset)
            self._desk.popup.refresh()
            self._desk.notice.say(tr("Saved as {0} in {1}.", path.name, path.parent))

        self._desk.attempt(keep)

    def _fill_menu(self, menu: QMenu, what: str) -> None:
        """What can be done with what is under the pointer."""
        if what == "span":
            menu.addAction(tr("Remove span"), self.remove)
            return
        for words, act in (
            ("Rename", self.rename),
            ("Split at the playhead", self.split),
            ("Duplicate", self.duplicate),
            ("Copy shake", self.copy),
            ("Paste shake", self.paste),
        ):
            menu.addAction(tr(words), act)
        self.fill_along(menu.addMenu(tr("What goes along")))
        menu.addAction(tr("Span over the chosen shots"), self.add_span)
        menu.addSeparator()
        menu.addAction(tr("Remove from the reel"), self.remove)
