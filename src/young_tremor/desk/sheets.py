"""The finder and the preferences over the desk, and what follows from the preferences."""

from __future__ import annotations

from typing import TYPE_CHECKING

from young_tremor.desk import theme
from young_tremor.desk.finder import Finder
from young_tremor.desk.preferences import Preferences
from young_tremor.engine import settings

if TYPE_CHECKING:
    from young_tremor.desk.window import Window


class Sheets:
    """Opens what lies over the panel and the chart."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self.finder = Finder(window, window.commands.found)
        self.preferences = Preferences(window)
        self.preferences.changed.connect(self._follow)
        self.preferences.told.connect(window.notice.say)
        self._follow(settings.load())

    @property
    def shown(self) -> bool:
        """Whether one of them is open."""
        return self.finder.isVisible() or self.preferences.isVisible()

    def hide(self) -> None:
        self.finder.hide()
        self.preferences.hide()

    def show_finder(self) -> None:
        """Show every command with its keys, to be found by a few letters."""
        window, finder = self._window, self.finder
        finder.open()
        finder.move((window.width() - finder.width()) // 2, window.height() - finder.height() - 8)

    def show_preferences(self) -> None:
        self.preferences.open()
        self.preferences.move(self._window.width() - self.preferences.width() - 4, theme.HEADER + 2)

    def open_menus(self) -> None:
        """Go to the menus with the keyboard; hidden ones are shown for it."""
        menus = self._window.header.menus
        menus.show()
        menus.setFocus()
        menus.setActiveAction(menus.actions()[0])

    def toggle_menus(self) -> None:
        """Show the menu bar or hide it; its keys work all the same."""
        shown = self._window.header.menus.isVisibleTo(self._window.header)
        self._window.attempt(lambda: self._follow(settings.change(menus=not shown)))

    def toggle_night(self) -> None:
        """Night paper or day paper, from now on."""
        self._window.attempt(lambda: self._follow(settings.change(night=not theme.paper.night)))

    def _follow(self, kept: settings.Settings) -> None:
        self._window.header.menus.setVisible(kept.menus)
        self._window.keeper.every = kept.autosave
        if theme.paper.night != kept.night:
            theme.paper.set_night(kept.night)
