"""What a person does to the shake as a whole: presets, strands, hits, variants."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec.structs import replace

from young_tremor.base.units import duration_text
from young_tremor.desk.bridge import on_desk
from young_tremor.desk.presets import Saving, Way, has_jolts
from young_tremor.engine import framing, hits, library, log, origins, settings
from young_tremor.engine.jobs import Job
from young_tremor.model import edits, keys
from young_tremor.model.project import Preset
from young_tremor.model.shake import Shake

if TYPE_CHECKING:
    from young_tremor.desk.window import Window


class Deeds:
    """Each is one step that can be undone."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self.finding: Job | None = None
        self.limiting: Job | None = None

    def apply_preset(self, preset: Preset, way: Way) -> None:
        """Put a preset in place of the shot's shake, or under it."""
        shot = self._window.stage.shot
        if shot is None:
            return
        self._window.chart.choose(None)
        if way.add:
            edit = edits.add_preset(shot.id, preset, with_frame=way.with_frame)
        else:
            edit = edits.apply_preset(shot.id, preset, keep_amount=way.keep_amount, with_frame=way.with_frame)
        self._window.session.apply(f"{'Add preset' if way.add else 'Preset'} {preset.name}", self._held(shot.id, edit))
        if has_jolts(preset) and not shot.hits:
            self._window.notice.say("Jolts answer to hits: press H to set one, Shift+H to find them in the sound.")

    def _held(self, shot_id: str, edit: edits.Edit) -> edits.Edit:
        """An edit after which the reach holds in the shot, if its length is known."""
        view = self._window.stage.view
        return edits.in_turn(edit, edits.hold_reach(shot_id, float(view.frames / view.rate))) if view.frames else edit

    def save_preset(self, saving: Saving) -> None:
        """Keep the shot's shake, or one of its strands, for any project."""
        shot = self._window.stage.shot
        if shot is None:
            return
        shake, frame = replace(shot.shake, preset=""), shot.frame
        if saving.strand is not None:
            shake = Shake(tuple(s for s in shake.strands if s.id == saving.strand))
        note = saving.note or f"Saved from “{shot.name}”, a shake of your own, made at {frame.focal_mm:g} mm."
        more = {"edges": frame.edges, "shutter": frame.shutter} if saving.with_frame else {}
        made = Preset(saving.name, "own", note, shake, frame.focal_mm, **more)  # type: ignore[arg-type]

        def keep() -> None:
            path = library.save_own(made)
            self._window.popup.refresh()
            self._window.notice.say(f"Saved as {path.name} in {path.parent}.")

        self._window.attempt(keep)

    def show_presets(self, strand: str | None = None) -> None:
        """Open the presets; with a strand's id, ready to keep that strand."""
        shot, popup = self._window.stage.shot, self._window.popup
        if shot is None:
            self._window.notice.say("Open some footage first; a preset then moves it.")
            return
        button = self._window.header.presets_button
        corner = button.mapToGlobal(button.rect().bottomRight())
        info = self._window.stage.info
        size = (shot.size.width, shot.size.height) if shot.size else info.size if info else (1920, 1080)
        popup.show_for(shot, size, self._window.reel.image_of(shot.id))
        popup.move(corner.x() - popup.width(), corner.y() + 4)
        popup.show()
        if strand is not None:
            popup.keep_strand(strand)

    def add_strand(self, kind: str) -> None:
        shot = self._window.stage.shot
        if shot is None:
            self._window.notice.say("Open some footage first; a strand then moves it.")
            return
        if kind == "take":
            self._window.take_deeds.show()
            return
        strand = origins.plain(kind, edits.new_id(), len(shot.shake.strands) * 7 + 5)
        self._window.session.apply("Add strand", edits.add_strand(shot.id, strand))
        self._window.chart.choose(strand.id)
        if kind == "plotted":
            self._window.notice.say("Drag the picture: each drag sets a key at the playhead. Handles turn and scale.")

    def remove_shot(self) -> None:
        shot = self._window.stage.shot
        if shot is not None:
            self._window.session.apply("Remove shot", edits.remove_shot(shot.id))

    def tell_log(self) -> None:
        self._window.notice.say(f"Unexpected errors are kept in {log.path()}.")

    def reset_shake(self) -> None:
        """Put the whole shake back to the preset it came from."""
        shot = self._window.stage.shot
        preset = library.by_name().get(shot.shake.preset.casefold()) if shot else None
        if shot is not None and preset is not None:
            self._window.session.apply(
                f"Reset to {preset.name}", self._held(shot.id, edits.apply_preset(shot.id, preset))
            )

    def limit(self, percent: float) -> None:
        """Turn the intensity down until a crop of so many percent is enough."""
        shot, info = self._window.stage.shot, self._window.stage.info
        if shot is None or info is None or self.limiting is not None:
            return
        found: list[float] = []
        job = self.limiting = Job("limit", lambda report: found.append(framing.limit(shot, info, percent, report)))

        def ended(state: str) -> None:
            self.limiting = None
            if state != "done":
                self._window.notice.say(job.error)
                return
            factor = found[0]
            if factor >= 1:
                self._window.notice.say(f"A crop of {percent:g} % is enough as it is.")
                return
            intensity = keys.times(shot.shake.intensity, factor)
            with self._window.session.gesture(f"Limit to {percent:g} %"):
                self._window.session.apply("Limit", edits.set_shake(shot.id, intensity=intensity))
                if shot.frame.edges not in ("crop", "crop-as-needed"):
                    self._window.session.apply("Edges", edits.set_frame(shot.id, edges="crop"))
            self._window.notice.say(f"Intensity turned down to {100 * factor:.0f} % of what it was.")

        job.ended.connect(on_desk(self._window, ended))
        job.start()

    def hit(self) -> None:
        """A hit where the playhead is; tapped in while playing, a person's lag is taken off."""
        if self._window.stage.shot is None:
            return
        late = settings.load().tap_lag if self._window.stage.playing else 0.0
        rate = float(self._window.view.rate)
        self._window.chart.hits.drop(round((self._window.chart.now - late) * rate) / rate)

    def compare(self, letter: str) -> None:
        self._window.stage.set_against(letter or None)
        if self._window.stage.mode in ("shaken", "still"):
            self._window.set_mode("split")

    def find_hits(self, where: str) -> None:
        """Look for hits in the sound or the picture, in the background; what is found is proposed on the chart."""
        shot = self._window.stage.shot
        if shot is None or self.finding is not None:
            return
        found: list[hits.Onsets] = []
        look = hits.in_sound if where == "sound" else hits.in_picture
        job = self.finding = Job(f"hits in the {where}", lambda report: found.append(look(shot, report)))

        def ended(state: str) -> None:
            self.finding = None
            if state != "done":
                self._window.notice.say(job.error)
            elif not len(found[0].times):
                self._window.notice.say(f"No sudden change was found in the {where}. Press H to set hits by hand.")
            elif self._window.stage.shot is not None and self._window.stage.shot.id == shot.id:
                self._window.chart.hits.propose(found[0], where)
                self._window.notice.say("Drag the threshold on the chart, then keep what was found.")

        job.progress.connect(
            on_desk(self._window, lambda done, total, left: self._tell_finding(where, done, total, left))
        )
        job.ended.connect(on_desk(self._window, ended))
        job.start()

    def _tell_finding(self, where: str, done: int, total: int, left: float) -> None:
        if self.finding is not None and left > 1.0:
            self._window.notice.say(
                f"Looking for hits in the {where}: {100 * done // total} %, {duration_text(left)} left."
            )
