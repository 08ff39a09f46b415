"""Which line of advice is shown when: the first that fits and was not put away."""

from __future__ import annotations

from collections.abc import Callable

from young_tremor.desk.state.desk_state import Selection
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.library import settings

FIRST: tuple[tuple[str, str], ...] = (  # after the first footage, in this order
    ("ask", "Ctrl+K: say what you want, like 30 px 2 Hz, motion blur 90 or swell here."),
    ("presets", "P chooses another shake."),
    ("still", "Hold C to see the still original."),
)
LATER: tuple[tuple[str, Callable[[Desk], bool], str], ...] = (  # once these are known
    ("zoomed", lambda desk: desk.state.now.zoom.scale > 0, "Drag moves the picture, Ctrl+0 shows all of it again."),
    (
        "pin",
        lambda desk: desk.state.now.hit is not None,
        "Drag a pin sideways for time, up and down for strength. Delete removes it.",
    ),
    (
        "strand",
        lambda desk: desk.state.now.strand is not None,
        "Esc goes back to the frame. A right click on the row shapes its amount over time.",
    ),
)


class HintTimer:
    """Shows the first hint that fits and was neither followed nor put away: either way it stays away."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._away = settings.load().hints
        desk.hint.dismissed.connect(self.dismiss)
        desk.state.changed.connect(self._changed)
        desk.header.ask.active.connect(self._asked)

    def _changed(self, before: Selection, now: Selection) -> None:
        if (now.peek and not before.peek) or (now.mode == "still" and before.mode != "still"):
            self._follow("still")
        self.look()

    def _asked(self, on: bool) -> None:
        if on:
            self._follow("ask")

    def look(self) -> None:
        """Show the first hint that fits now."""
        desk = self._desk
        if desk.popup.isVisible():
            self._follow("presets")
        fitting = [(name, words) for name, words in FIRST if desk.state.shot is not None]
        if all(name in self._away for name, _ in FIRST):
            fitting = [(name, words) for name, fits, words in LATER if fits(desk)]
        if desk.state.now.tool:
            fitting = [("tool", "Esc cancels the tool.")]
        desk.hint.show_hint(*next((hint for hint in fitting if hint[0] not in self._away), ("", "")))

    def follow(self, away: tuple[str, ...]) -> None:
        """What is put away, as the settings have it now."""
        self._away = away
        self.look()

    def _follow(self, name: str) -> None:
        """What a hint says has been done: it is not needed any more."""
        if name not in self._away and self._desk.state.shot is not None:
            self.dismiss(name)

    def dismiss(self, name: str) -> None:
        """Put a hint away for good."""
        self._away = (*self._away, name)  # also where that cannot be kept
        self._desk.attempt(lambda: self.follow(settings.update(lambda now: settings.without_hint(now, name)).hints))
