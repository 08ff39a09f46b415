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
        desk, state = self._desk, self._desk.state
        words, now, shot = self.words(), state.now, state.shot
        if now.target == "keys" and shot is not None:
            desk.chart.delete_keys()
            return
        if refusal := self._refusal():
            desk.notice.say(refusal)
            return
        edit = None
        if now.target == "shot" and state.chosen_shots:
            edit = reel_edits.remove(state.chosen_shots)
        elif now.target == "span" and state.span is not None:
            edit = reel_edits.remove_span(state.span.id)
        elif shot is not None:
            edit = self._edit_of(shot.id)
        if edit is None:
            desk.notice.say(tr("Nothing is chosen. Click what Delete should remove."))
        else:
            desk.session.apply(words, edit)

    def _refusal(self) -> str:
        """Why what was clicked last cannot be taken away; empty if it can."""
        now, shot = self._desk.state.now, self._desk.state.shot
        if shot is not None and now.target == "plate" and now.plate == shot.footage.id:
            return tr("The lowest plate is the footage. Replace it, or remove the shot.")
        if now.target == "sound" and now.sound == "footage":
            return tr("The footage’s own sound stays with it: its lamp turns it off.")
        return ""

    def _edit_of(self, shot_id: str) -> shot_edits.Edit | None:
        """The edit that takes away a part of a shot; None where nothing is chosen."""
        now = self._desk.state.now
        if now.target == "strand" and now.strand is not None:
            return shot_edits.remove_strand(shot_id, now.strand)
        if now.target == "hit" and now.hit is not None:
            return shot_edits.remove_hits(shot_id, frozenset((now.hit,)))
        if now.target == "plate" and now.plate is not None:
            return shot_edits.remove_plate(shot_id, now.plate)
        if now.target == "sound" and now.sound == "sway":
            return sound_edits.set_sway(shot_id, on=False)
        if now.target == "sound" and now.sound is not None:
            return sound_edits.remove_sound(shot_id, now.sound)
        return None
