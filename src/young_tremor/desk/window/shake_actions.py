"""What a person does to the shake as a whole: presets, strands, hits, variants."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QFileDialog, QMenu

from young_tremor.base.errors import TremorError
from young_tremor.base.units import duration_text
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.sheets.preset_saving import PresetDraft
from young_tremor.desk.sheets.preset_sheet import ApplyWay, has_jolts
from young_tremor.desk.state.task_runner import Report
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.analysis import found_hits, framing_margins, subject
from young_tremor.engine.library import preset_diff, preset_library, settings
from young_tremor.engine.library.holders import with_holder
from young_tremor.engine.media import footage
from young_tremor.engine.system import log
from young_tremor.model import curve_edits, shot_edits
from young_tremor.model.curve import Curve
from young_tremor.model.edge_modes import crops
from young_tremor.model.holder import Holder
from young_tremor.model.project import Plate, Preset, Project
from young_tremor.model.shake import Plotted, Shake
from young_tremor.model.sound import Rumble


class ShakeActions:
    """Each is one step that can be undone."""

    def __init__(self, desk: Desk, show_takes: Callable[[], None]) -> None:
        self._desk, self._show_takes = desk, show_takes

    def apply_preset(self, preset: Preset, way: ApplyWay) -> None:
        """Put a preset in place of the shot's shake, or under it."""
        shot = self._desk.state.shot
        if shot is None:
            return
        self._desk.state.choose(strand=None)
        texts = [place.shot.id for place in self._desk.state.places if place.shot.id in self._desk.state.chosen_shots]
        steps = []
        targets = texts or [shot.id]
        others = shot_edits.shakes_of(self._desk.session.project, without=frozenset(targets))
        for shot_id in targets:
            mine = replace(preset, shake=shot_edits.unlike(preset.shake, others))  # no two of them move alike
            others.append(mine.shake)
            if way.add and not self._desk.takes_over(shot_id):
                edit = shot_edits.add_preset(shot_id, mine, with_frame=way.with_frame)
            else:
                edit = shot_edits.apply_preset(shot_id, mine, keep_amount=way.keep_amount, with_frame=way.with_frame)
            steps.append(self._held(shot_id, edit))
        self._desk.session.apply(f"{'Add preset' if way.add else 'Preset'} {preset.name}", shot_edits.in_turn(*steps))
        if has_jolts(preset) and not shot.hits:
            self._desk.notice.say(tr("Jolts answer to hits: press H to set one, Shift+H to find them in the sound."))

    def _held(self, shot_id: str, edit: shot_edits.Edit) -> shot_edits.Edit:
        """An edit after which the reach holds in the shot, if its length is known."""
        place = next((place for place in self._desk.state.places if place.shot.id == shot_id), None)
        known = place is not None and self._desk.state.know(place.shot.footage.media) is not None
        return (
            shot_edits.in_turn(edit, shot_edits.hold_reach(shot_id, place.end - place.at)) if known and place else edit
        )

    def try_preset(self, preset: Preset | None, way: ApplyWay | None) -> None:
        """Let a preset be seen on the picture as if it were put on; None: what is there again."""
        desk, shot = self._desk, self._desk.state.seen
        if preset is None or way is None or shot is None:
            desk.stage.audition(None)
            return
        edit = shot_edits.apply_preset(shot.id, preset, keep_amount=way.keep_amount, with_frame=way.with_frame)
        desk.stage.audition(self._held(shot.id, edit)(Project((shot,))).shots[0])

    def save_preset(self, saving: PresetDraft) -> None:
        """Keep the shot's shake, or one of its strands, for any project."""
        shot = self._desk.state.shot
        if shot is None:
            return
        shake, frame = replace(shot.shake, preset=""), shot.frame
        if saving.strand is not None:
            shake = Shake(tuple(s for s in shake.strands if s.id == saving.strand))
        note = saving.note or tr("Saved from “{0}”, a shake of your own, made at {1:g} mm.", shot.name, frame.focal_mm)
        more: dict[str, object] = {"edges": frame.edges, "shutter": frame.shutter} if saving.with_frame else {}
        if saving.strand is None:  # what is heard with it, but for files, which stay where they are
            made_up = [row for row in shot.sound.rows if isinstance(row, Rumble) or not row.path]
            more["sounds"] = tuple(
                replace(row, level=Curve(row.level.value), place=Curve(row.place.value)) for row in made_up
            )
        preset = Preset(saving.name, "own", note, shake, frame.focal_mm, **more)  # type: ignore[arg-type]

        def keep() -> None:
            path = preset_library.save_own(preset)
            self._desk.popup.refresh()
            self._desk.notice.say(tr("Saved as {0} in {1}.", path.name, path.parent))

        self._desk.attempt(keep)

    def show_presets(self, strand: str | None = None) -> None:
        """Open the presets; with a strand's id, ready to keep that strand."""
        shot, popup = self._desk.state.shot, self._desk.popup
        if shot is None:
            self._desk.notice.say(tr("Open some footage first; a preset then moves it."))
            return
        info = self._desk.state.info
        size = (shot.size.width, shot.size.height) if shot.size else info.size if info else (1920, 1080)
        popup.show_for(shot, size, self._desk.reel.image_of(shot.id))
        self._desk.lay_low(popup)
        if strand is not None:
            popup.keep.keep_strand(strand)

    def hold(self) -> None:
        """Let somebody hold the camera, in place of the shot's shake; their strands and dials follow."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is None:
            return
        seconds = desk.view.length

        def edit(project: Project) -> Project:
            shots = (with_holder(item, Holder(), seconds) if item.id == shot.id else item for item in project.shots)
            return replace(project, shots=tuple(shots))

        with desk.session.gesture(tr("Holder")):
            desk.make_room(shot.id)
            desk.session.apply(tr("Holder"), edit)
        changed = desk.shot_of(shot.id)
        if changed is not None:
            desk.state.choose(strand=changed.shake.strands[0].id)
            desk.notice.say(tr("Its dials are under “Who holds it”. A strand that you change yourself is left alone."))

    def add_strand(self, kind: str) -> None:
        """Add a strand of a kind to the shot, by its word in documents."""
        shot = self._desk.state.shot
        if shot is None:
            self._desk.notice.say(tr("Open some footage first; a strand then moves it."))
            return
        if kind == "take":
            self._show_takes()
            return
        strand = preset_diff.plain(kind, shot_edits.new_id(), len(shot.shake.strands) * 7 + 5)
        with self._desk.session.gesture(tr("Add strand")):
            self._desk.make_room(shot.id)
            self._desk.session.apply(tr("Add strand"), shot_edits.add_strand(shot.id, strand))
        self._desk.state.choose(strand=strand.id)
        if kind == "plotted":
            self._desk.notice.say(
                tr("Drag the picture: each drag sets a key at the playhead, with Ctrl it moves the key under it.")
            )

    def add_plate(self, kind: str) -> None:
        """Lay a title, a fill, or a file over the shot; without one a title or a fill makes a shot of its own."""
        if kind in ("file", "glass"):
            self.ask_graphic(glass=kind == "glass")
            return
        desk, shot = self._desk, self._desk.state.shot
        plate = shot_edits.title_plate() if kind == "title" else shot_edits.fill_plate()
        words = tr("Add a title") if kind == "title" else tr("Add a fill")
        if shot is None:
            alone = footage.graphic_shot(plate, desk.session.project)
            desk.session.apply(words, shot_edits.put_shot(alone))
            desk.state.choose(shot=alone.id)
        else:
            desk.session.apply(words, shot_edits.add_plate(shot.id, plate))
        desk.state.choose(page="plates", plate=plate.id, strand=None)
        if kind == "title":
            desk.panel.plates.title.begin()

    def ask_graphic(self, glass: bool) -> None:
        """Choose a picture, numbered pictures or a film to lay over the shot, or on its glass."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is None:
            desk.notice.say(tr("Open some footage first; graphics then lie over it."))
            return
        name, _ = QFileDialog.getOpenFileName(desk.window, tr("Lay over the shot"), str(desk.folder()))
        if name:
            self.lay(Path(name), glass=glass)

    def may_lay(self, paths: list[Path]) -> bool:
        """Whether files could be laid over the shot: there is one, and they are pictures."""
        return self._desk.state.shot is not None and bool(paths) and all(map(footage.is_picture, paths))

    def ask_where(self, paths: list[Path], place: QPoint, open_all: Callable[[list[Path]], None]) -> None:
        """Pictures were dropped on the picture: a shot of their own, over this one, or on its glass."""
        menu = QMenu(self._desk.window)
        menu.addAction(tr("A shot of its own"), lambda: open_all(paths))
        menu.addAction(tr("Lay over this shot"), lambda: self.lay_all(paths, glass=False))
        menu.addAction(tr("Lay on the glass"), lambda: self.lay_all(paths, glass=True))
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(place)

    def lay(self, path: Path, *, glass: bool) -> None:
        """Lay a graphic over the shot, once it is known that it can be read."""
        self.lay_all([path], glass=glass)

    def lay_all(self, paths: list[Path], *, glass: bool) -> None:
        """Lay graphics over the shot in their order, as one step, and say in one line which of them cannot be used."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is None:
            return

        info = desk.state.info
        size = (shot.size.width, shot.size.height) if shot.size else info.size if info else (1920, 1080)

        bad: list[str] = []

        def look(report: Report) -> list[Plate]:
            out, known = [], set()
            for path in paths:
                try:
                    name = footage.resolve_path(path)
                    if name not in known:  # another picture of the same sequence is not laid again
                        out.append(footage.fit_graphic(shot_edits.plate_of(Path(name), glass=glass), size))
                    known.add(name)
                except TremorError as error:
                    bad.append(str(error))
            return out

        def land(made: list[Plate]) -> None:
            if bad:
                more = tr("{0} of {1} files could not be used; the first: ", len(bad), len(paths))
                desk.notice.say((more if len(paths) > 1 else "") + bad[0])
            if made:
                with desk.session.gesture(tr("Lay {0} over it", made[0].name)):
                    for plate in made:
                        desk.session.apply(tr("Lay {0} over it", plate.name), shot_edits.add_plate(shot.id, plate))
                desk.state.choose(page="plates", plate=made[-1].id, strand=None)

        desk.runner.run("lay over", look, land, still=lambda: desk.shot_of(shot.id) is not None)

    def tell_log(self) -> None:
        """Say where errors are logged."""
        self._desk.notice.say(tr("Errors are logged in {0}.", log.path()))

    def take_new_course(self) -> None:
        """Let the shot, and each that is chosen with it, move as before in another course."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is None:
            return
        ids = desk.state.chosen_shots | {shot.id}

        def edit(project: Project) -> Project:
            others = shot_edits.shakes_of(project)
            shots = []
            for item in project.shots:
                moved = shot_edits.unlike(item.shake, others) if item.id in ids else item.shake
                others.append(moved)
                shots.append(replace(item, shake=moved))
            return replace(project, shots=tuple(shots))

        desk.session.apply(tr("Another course"), edit)
        desk.notice.say(tr("The same motion, in another course."))

    def reset_shake(self) -> None:
        """Put the whole shake back to the preset it came from."""
        shot = self._desk.state.shot
        preset = preset_library.by_name().get(shot.shake.preset.casefold()) if shot else None
        if shot is not None and preset is not None:
            self._desk.session.apply(
                tr("Reset to {0}", tr(preset.name)), self._held(shot.id, shot_edits.apply_preset(shot.id, preset))
            )

    def limit(self, percent: float) -> None:
        """Turn the intensity down until a crop of so many percent is enough."""
        desk, shot, info = self._desk, self._desk.state.shot, self._desk.state.info
        if shot is None or info is None:
            return

        def land(factor: float) -> None:
            if desk.shot_of(shot.id) != shot:
                desk.notice.say(tr("The shot was changed meanwhile: press Limit once more."))
                return
            if factor >= 1:
                desk.notice.say(tr("A crop of {0:g} % is enough as it is.", percent))
                return
            with desk.session.gesture(tr("Limit to {0:g} %", percent)):
                intensity = curve_edits.times(shot.shake.intensity, factor)
                desk.session.apply(tr("Limit"), shot_edits.set_shake(shot.id, intensity=intensity))
                if not crops(shot.frame.edges):
                    desk.session.apply(tr("Edges"), shot_edits.set_frame(shot.id, edges="crop"))
            desk.notice.say(tr("Intensity turned down to {0:.0f} % of what it was.", 100 * factor))

        desk.runner.run("limit", lambda report: framing_margins.limit(shot, info, percent, report), land)

    def hit(self) -> None:
        """A hit where the playhead is; tapped in while playing, a person's lag is taken off."""
        if self._desk.state.shot is None:
            return
        late = settings.load().tap_lag if self._desk.stage.playing else 0.0
        rate = float(self._desk.view.rate)
        self._desk.chart.hits.drop(round((self._desk.state.seconds - late) * rate) / rate)

    def go_to_hit(self, way: int) -> None:
        """Put the playhead on the next hit after it (``way`` 1), or before it (-1)."""
        shot, view = self._desk.state.shot, self._desk.view
        if shot is None:
            return
        frames = sorted(round(hit.t * float(view.rate)) for hit in shot.hits)
        beyond = [frame for frame in frames[::way] if (frame - view.frame) * way > 0 and 0 <= frame < view.frames]
        if beyond:
            self._desk.stage.go(beyond[0])
        else:
            self._desk.notice.say(
                tr("There is no hit after the playhead.") if way > 0 else tr("There is no hit before the playhead.")
            )

    def clear_hits(self) -> None:
        """Take all hits of the shot away."""
        shot = self._desk.state.shot
        if shot is not None and shot.hits:
            gone = frozenset(hit.id for hit in shot.hits)
            self._desk.session.apply(tr("Remove all hits"), shot_edits.remove_hits(shot.id, gone))

    def compare(self, letter: str) -> None:
        """Compare with the variant of a letter, or with the still original where there is none."""
        state = self._desk.state
        state.choose(against=letter or None)
        if state.now.mode in ("shaken", "still"):
            state.choose(mode="split")

    def follow(self) -> None:
        """Look for what moves in the locked-off shot, in the background, and go after it as a hand does."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is None:
            return

        def land(path: subject.SubjectPath) -> None:
            need = subject.needed_reserve(path)
            if need <= path.reserve:
                self._put_follow(shot.id, subject.strand_of(path))
                return
            menu = QMenu(desk.window)
            menu.addAction(
                tr("Follow by {0:.0f} % of the height, as the crop allows", 100 * path.reserve),
                partial(self._put_follow, shot.id, subject.strand_of(path)),
            )
            menu.addAction(
                tr("Follow all the way, by {0:.0f} %", 100 * need),
                partial(self._put_follow, shot.id, subject.unlimited_strand_of(path)),
            )
            menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            picture = desk.picture
            menu.popup(picture.mapToGlobal(picture.rect().center()))

        def progress(done: int, total: int, left: float) -> None:
            if left > 1.0:
                desk.notice.say(
                    tr("Looking for what moves: {0} %, {1} left.", 100 * done // total, duration_text(left))
                )

        def still_here() -> bool:
            return desk.state.now.shot == shot.id

        find = partial(subject.find_path, shot)
        desk.runner.run("follow", find, land, still=still_here, progress=progress, failed=desk.notice.say)

    def _put_follow(self, shot_id: str, strand: Plotted) -> None:
        """Let a shot follow by a strand, in place of the one it follows by."""
        shot = self._desk.shot_of(shot_id)
        if shot is None:
            return
        shake = shot_edits.put_strand(shot.shake, strand)
        self._desk.session.apply(tr("Follow"), shot_edits.set_shake(shot_id, strands=shake.strands))
        (chosen,) = (item.id for item in shake.strands if item.origin == subject.ORIGIN)
        self._desk.state.choose(strand=chosen)

    def find_hits(self, where: str) -> None:
        """Look for hits in the sound or the picture, in the background; what is found is proposed on the chart."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is None:
            return
        look = found_hits.in_sound if where == "sound" else found_hits.in_picture

        def land(found: found_hits.Onsets) -> None:
            if not len(found.times):
                desk.notice.say(tr("No sudden change was found in the {0}. Press H to set hits by hand.", where))
            else:
                desk.chart.hits.propose(found, where)
                desk.notice.say(tr("Drag the threshold on the chart, then keep what was found."))

        def progress(done: int, total: int, left: float) -> None:
            if left > 1.0:
                desk.notice.say(
                    tr("Looking for hits in the {0}: {1} %, {2} left.", where, 100 * done // total, duration_text(left))
                )

        def still_here() -> bool:
            return desk.state.now.shot == shot.id

        desk.runner.run("hits", lambda report: look(shot, report), land, still=still_here, progress=progress)
