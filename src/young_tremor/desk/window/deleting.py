"""The Delete key: it takes away what was clicked last, and nothing else. Whatever a step takes away is said."""

from __future__ import annotations

from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.document.removals import describe_removals
from young_tremor.model import reel_edits, shot_edits, sound_edits
from young_tremor.model.project import Project


class Deletion:
    """Each deletion is one step that can be undone."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        desk.session.stepped.connect(self._tell)

    def _tell(self, before: Project, after: Project) -> None:
        if words := describe_removals(before, after):
            self._desk.notice.say(tr("{0} Ctrl+Z brings it back.", words))

    def words(self) -> str:
        """What Delete would do now."""
        words = {
            "shot": tr("Delete shot") if len(self._desk.state.chosen_shots) == 1 else tr("Delete shots"),
            "span": tr("Delete span"),
            "strand": tr("Delete strand"),
            "sound": tr("Delete sound"),
            "plate": tr("Delete plate"),
            "hit": tr("Delete hit"),
            "keys": tr("Delete keys"),
        }
        return words.get(self._desk.state.now.target, tr("Delete"))

    def delete(self) -> None:
        """Take away what was clicked last."""
        desk, state, now, shot = self._desk, self._desk.state, self._desk.state.now, self._desk.state.shot
        words, edit = self.words(), None
        if now.target == "shot" and state.chosen_shots:
            edit = reel_edits.remove(state.chosen_shots)
        elif now.target == "span" and state.span is not None:
            edit = reel_edits.remove_span(state.span.id)
        elif shot is None:
            pass
        elif now.target == "keys":
            desk.chart.delete_keys()
            return
        elif now.target == "strand" and now.strand is not None:
            edit = shot_edits.remove_strand(shot.id, now.strand)
        elif now.target == "hit" and now.hit is not None:
            edit = shot_edits.remove_hits(shot.id, frozenset((now.hit,)))
        elif now.target == "plate" and now.plate == shot.footage.id:
            desk.notice.say(tr("The lowest plate is the shot itself: replace its footage, or remove the shot."))
            return
        elif now.target == "plate" and now.plate is not None:
            edit = shot_edits.remove_plate(shot.id, now.plate)
        elif now.target == "sound" and now.sound == "footage":
            desk.notice.say(tr("The footage’s own sound stays with it: its lamp turns it off."))
            return
        elif now.target == "sound" and now.sound == "sway":
            edit = sound_edits.set_sway(shot.id, on=False)
        elif now.target == "sound" and now.sound is not None:
            edit = sound_edits.remove_sound(shot.id, now.sound)
        if edit is None:
            desk.notice.say(tr("Nothing is marked: click what Delete should take away."))
        else:
            desk.session.apply(words, edit)
