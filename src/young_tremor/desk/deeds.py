"""What a person does to the shake as a whole: presets, strands, hits, variants."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec.structs import replace

from young_tremor.base.units import duration_text
from young_tremor.desk.bridge import on_desk
from young_tremor.desk.presets import has_jolts
from young_tremor.engine import hits, library
from young_tremor.engine.jobs import Job
from young_tremor.model import edits
from young_tremor.model.curve import Curve
from young_tremor.model.project import Preset
from young_tremor.model.shake import Drift, DriftChannel, DriftChannels, Jolts, Plotted, Strand

if TYPE_CHECKING:
    from young_tremor.desk.window import Window

TAP_LAG = 0.12  # seconds by which a person taps late


class Deeds:
    """Each is one step that can be undone."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self.finding: Job | None = None

    def apply_preset(self, preset: Preset, add: bool = False) -> None:
        """Put a preset in place of the shot's shake, or under it."""
        shot = self._window.stage.shot
        if shot is None:
            return
        self._window.chart.choose(None)
        edit = edits.add_preset(shot.id, preset) if add else edits.apply_preset(shot.id, preset)
        self._window.session.apply(f"{'Add preset' if add else 'Preset'} {preset.name}", edit)
        if has_jolts(preset) and not shot.hits:
            self._window.notice.say("Jolts answer to hits: press H to set one, Shift+H to find them in the sound.")

    def save_preset(self, name: str) -> None:
        shot = self._window.stage.shot
        if shot is None:
            return
        note = f"Saved from “{shot.name}”, a shake of your own, made at {shot.frame.focal_mm:g} mm."
        made = Preset(name, "own", note, replace(shot.shake, preset=""), shot.frame.focal_mm)

        def keep() -> None:
            path = library.save_own(made)
            self._window.popup.refresh()
            self._window.notice.say(f"Saved as {path.name} in {path.parent}.")

        self._window.attempt(keep)

    def show_presets(self) -> None:
        shot = self._window.stage.shot
        if shot is None:
            self._window.notice.say("Open some footage first; a preset then moves it.")
            return
        button = self._window.header.presets_button
        corner = button.mapToGlobal(button.rect().bottomRight())
        self._window.popup.show_for(self._window.reel.image_of(shot.id))
        self._window.popup.move(corner.x() - self._window.popup.width(), corner.y() + 4)
        self._window.popup.show()

    def add_strand(self, kind: str) -> None:
        shot = self._window.stage.shot
        if shot is None:
            self._window.notice.say("Open some footage first; a strand then moves it.")
            return
        seed = len(shot.shake.strands) * 7 + 5
        strand: Strand
        if kind == "plotted":
            strand = Plotted(edits.new_id(), seed=seed)
        elif kind == "jolts":
            strand = Jolts(edits.new_id(), note="your own", seed=seed)
        else:
            channels = DriftChannels(x=DriftChannel(0.3), y=DriftChannel(0.25), roll=DriftChannel(0.08))
            strand = Drift(edits.new_id(), note="your own", rate=Curve(0.8), seed=seed, channels=channels)
        self._window.session.apply("Add strand", edits.add_strand(shot.id, strand))
        self._window.chart.choose(strand.id)
        if kind == "plotted":
            self._window.notice.say("Drag the picture: each drag sets a key at the playhead. Handles turn and scale.")

    def hit(self) -> None:
        """A hit where the playhead is; tapped in while playing, a person's lag is taken off."""
        if self._window.stage.shot is None:
            return
        late = TAP_LAG if self._window.stage.playing else 0.0
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
