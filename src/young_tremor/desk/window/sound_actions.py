"""What a person does with sound: adds it, hears a hit alone, sets how loud it plays."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QFileDialog

from young_tremor.desk.kit.i18n import counted, tr
from young_tremor.desk.panels.sound_panel import AUDIO
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.library import settings
from young_tremor.engine.sound import mixing, sound_presets
from young_tremor.model import sound_edits
from young_tremor.model.project import new_id
from young_tremor.model.sound import Knocks, Layer, Rumble, Sound

LONG = 1.6  # seconds of a hit that is heard alone


class SoundActions:
    """Each is one step that can be undone."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        desk.chart.add_sound.connect(self.add)
        desk.chart.sounds.thud_asked.connect(self.strike_with)
        desk.chart.ruler.hit_grabbed.connect(self.hear)
        desk.transport.volume.connect(self.set_volume)
        kept = settings.load()
        desk.transport.show_volume(kept.volume, muted=kept.muted)
        desk.stage.set_volume(0.0 if kept.muted else kept.volume)

    def add(self, kind: str, name: str = "") -> None:
        """Add what goes with the shake (*with*), a rumble or knocks by name, a file (*layer*), or the *sway*."""
        desk, shot = self._desk, self._desk.state.shot
        if shot is None:
            desk.notice.say(tr("Open some footage first; a sound then goes with it."))
            return
        if kind == "sway":
            desk.session.apply(tr("Add sound sway"), sound_edits.set_sway(shot.id, on=True))
            desk.state.choose(sound="sway", strand=None, target="")
            return
        if kind in ("layer", "thud"):
            path, _ = QFileDialog.getOpenFileName(desk.window, tr("Sound file"), str(desk.folder()), AUDIO)
            if path:
                (self.lay if kind == "layer" else self.strike)(Path(path))
            return
        if kind == "with":
            made = sound_presets.propose_sounds(shot.shake)
            if not made:
                desk.notice.say(tr("Nothing moves here yet: choose a rumble or knocks by name."))
                return
        else:
            made = (sound_presets.find_sound(Rumble if kind == "rumble" else Knocks, name),)
        self._put(made)

    def lay(self, path: Path) -> None:
        """Lay a sound file under the shot."""
        self._put((Layer(id=new_id(), name=path.stem[:60], path=str(path.absolute())),))

    def strike(self, path: Path) -> None:
        """Let a sound file be heard at each hit."""
        self._put((Knocks(id=new_id(), name=path.stem[:60], path=str(path.absolute())),))

    def strike_with(self, layer: str) -> None:
        """Let a layer's file be heard at each hit, in place of the layer."""
        desk, shot = self._desk, self._desk.state.shot
        sound = next((row for row in shot.sound.rows if row.id == layer), None) if shot is not None else None
        if shot is None or not isinstance(sound, Layer):
            return
        with desk.session.gesture(tr("Thud at each hit")):
            desk.session.apply(tr("Thud at each hit"), sound_edits.remove_sound(shot.id, layer))
            self.strike(Path(sound.path))

    def _put(self, made: tuple[Sound, ...]) -> None:
        desk, shot = self._desk, self._desk.state.shot
        if shot is None:
            return
        words = tr("Add {0}", made[0].name) if len(made) == 1 else tr("Add sound to the shake")
        desk.session.apply(words, sound_edits.add_sounds(shot.id, made))
        desk.state.choose(sound=made[0].id, strand=None, target="")
        if len(made) > 1:
            desk.notice.say(tr("{0} added: {1}.", counted(len(made), "sound"), ", ".join(s.name for s in made)))
        if any(isinstance(row, Knocks) for row in made) and not shot.hits:
            desk.notice.say(tr("Knocks come at hits: press H to set one, Shift+H to find them in the sound."))

    def hear(self, hit_id: str) -> None:
        """Play one hit alone."""
        desk, shot = self._desk, self._desk.state.seen
        hit = next((hit for hit in shot.hits if hit.id == hit_id), None) if shot is not None else None
        if shot is not None and hit is not None and not desk.stage.playing:
            desk.stage.hear(mixing.only_hit(shot, hit), hit.t, LONG)

    def set_volume(self, volume: float, muted: bool) -> None:
        """How loud it plays; kept."""
        desk = self._desk
        desk.stage.set_volume(0.0 if muted else volume)
        desk.transport.show_volume(volume, muted=muted)
        desk.attempt(lambda: settings.change(volume=round(volume, 2), muted=muted))
