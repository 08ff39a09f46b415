"""Which line of advice is shown when: the first that fits and was not put away."""

from __future__ import annotations

from collections.abc import Callable

from young_tremor.desk.window.desk import Desk
from young_tremor.engine.library import settings

HINTS: tuple[tuple[str, Callable[[Desk], bool], str], ...] = (
    ("zoomed", lambda desk: desk.state.now.zoom.scale > 0, "Drag moves the picture, Ctrl+0 shows all of it again."),
    ("tool", lambda desk: bool(desk.state.now.tool), "Esc cancels the tool."),
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
    ("start", lambda desk: desk.state.shot is not None, "P chooses another shake. Hold C to see the still original."),
    (
        "shape",
        lambda desk: desk.state.shot is not None and len(desk.session.steps[0]) > 6,
        "Double click on the Intensity row sets a key: let the shake swell and rest.",
    ),
    (
        "find",
        lambda desk: desk.state.shot is not None and len(desk.session.steps[0]) > 15,
        "Ctrl+K finds every command by a few letters.",
    ),
)


class HintTimer:
    """Looks now and then; what was put away stays away."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._away = settings.load().hints
        desk.hint.dismissed.connect(self._dismiss)
        desk.state.changed.connect(lambda before, now: self.look())

    def look(self) -> None:
        """Show the first hint that fits now."""
        for name, fits, words in HINTS:
            if name not in self._away and fits(self._desk):
                self._desk.hint.show_hint(name, words)
                return
        self._desk.hint.show_hint("", "")

    def follow(self, away: tuple[str, ...]) -> None:
        """What is put away, as the settings have it now."""
        self._away = away
        self.look()

    def _dismiss(self, name: str) -> None:
        self._desk.attempt(lambda: self.follow(settings.update(lambda now: settings.without_hint(now, name)).hints))
