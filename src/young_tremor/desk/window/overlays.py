"""The finder and the preferences over the desk, and what follows from the preferences."""

from __future__ import annotations

from collections.abc import Callable

from young_tremor.desk.commands.registry import Commands
from young_tremor.desk.kit import theme
from young_tremor.desk.kit.i18n import tr
from young_tremor.desk.kit.time_format import times
from young_tremor.desk.sheets.about import AboutWindow
from young_tremor.desk.sheets.command_finder import CommandFinder
from young_tremor.desk.sheets.manual_window import ManualWindow
from young_tremor.desk.sheets.preferences import Preferences
from young_tremor.desk.window.desk import Desk
from young_tremor.engine.library import settings


class Overlays:
    """Opens what lies over the panel and the chart."""

    def __init__(self, desk: Desk, commands: Commands) -> None:
        self._desk, self._commands = desk, commands
        self._manual: ManualWindow | None = None
        self._about: AboutWindow | None = None
        self._clash = ("", "")  # a command and a key that was said to be another one's
        self.finder = CommandFinder(desk.window, commands.found, self._rekey)
        self.preferences = Preferences(desk.window)
        self.preferences.changed.connect(self._follow)
        self.preferences.told.connect(desk.notice.say)
        self.ask_word: Callable[[str], None] = desk.notice.say  # what a word of the manual's index is given to
        self.followed: list[Callable[[settings.Settings], None]] = []  # who else follows the settings
        self._follow(settings.load())
        desk.panel.height_button.toggled.connect(self.toggle_tall_panel)

    def show_about(self) -> None:
        """Say what this is, and under which licences."""
        self._about = self._about or AboutWindow(self._desk.window)
        self._about.open()

    def show_manual(self, page: str = "") -> None:
        """Show the manual beside the work, at a page by its file's name, or where it was read last."""
        if self._manual is None:
            self._manual = ManualWindow(self._desk.window)
            self._manual.word_clicked.connect(self.ask_word)
        self._manual.open(page)

    @property
    def shown(self) -> bool:
        """Whether one of them is open."""
        return self.finder.isVisible() or self.preferences.isVisible()

    def hide(self) -> None:
        """Close what is open."""
        self.finder.hide()
        self.preferences.hide()

    def show_finder(self) -> None:
        """Show every command with its keys, to be found by a few letters."""
        desk, finder = self._desk, self.finder
        finder.open()
        finder.move((desk.window.width() - finder.width()) // 2, desk.window.height() - finder.height() - 8)

    def show_preferences(self) -> None:
        """Show the preferences."""
        self.preferences.open()
        self.preferences.move(self._desk.window.width() - self.preferences.width() - 4, theme.HEADER + 2)

    def open_menus(self) -> None:
        """Go to the menus with the keyboard; hidden ones are shown for it."""
        menus = self._desk.header.menus
        menus.show()
        menus.setFocus()
        menus.setActiveAction(menus.actions()[0])

    def toggle_menus(self) -> None:
        """Show the menu bar or hide it; its keys work all the same."""
        shown = self._desk.header.menus.isVisibleTo(self._desk.header)
        self._desk.attempt(lambda: self._follow(settings.change(menus=not shown)))

    def toggle_compact(self) -> None:
        """Low rows on the chart, or as tall as they come."""
        self._desk.attempt(lambda: self._follow(settings.change(compact=not self._desk.chart.compact)))

    def toggle_tall_panel(self) -> None:
        """Let the panel take the window's whole height, or stand above the chart."""
        self._desk.attempt(lambda: self._follow(settings.change(tall_panel=not self._desk.panel.tall)))

    def toggle_frames(self) -> None:
        """Show times as frames everywhere, or as seconds and timecode."""
        self._desk.attempt(lambda: self._follow(settings.change(frames=not times.in_frames)))

    def toggle_night(self) -> None:
        """Night paper or day paper, from now on."""
        self._desk.attempt(lambda: self._follow(settings.change(night=not theme.paper.night)))

    def _rekey(self, name: str, key: str | None) -> str:
        """Give a command a key (None: those it comes with); what came of it, in words. A key that another command has
        is taken from there when it is asked for twice."""
        own = dict(settings.load().keys)
        if key is None:
            own.pop(name, None)
        else:
            command = self._commands.owner(key, own) if key else None
            if command is not None and command.name != name:
                if self._clash != (name, key):
                    self._clash = (name, key)
                    return tr("{0} is the key of “{1}”: Set key once more takes it.", key, command.words)
                own[command.name] = ()
            own[name] = (key,) if key else ()
        self._clash = ("", "")
        self._desk.attempt(lambda: self._commands.set_keys(settings.change(keys=own).keys))
        return tr("Set.") if key else tr("It has no key.") if key == "" else tr("As it comes.")

    def _follow(self, kept: settings.Settings) -> None:
        self._desk.header.menus.setVisible(kept.menus)
        self._desk.keeper.every = kept.autosave
        for item in self.followed:
            item(kept)
        self._desk.chart.set_compact(kept.compact)
        self._desk.set_tall_panel(kept.tall_panel)
        times.set_frames(kept.frames)
        self._desk.stage.preview.keep(kept.pictures << 20)
        self._desk.stage.follow_settings(kept)
        if theme.paper.night != kept.night:
            theme.paper.set_night(kept.night)
        if theme.paper.strong != kept.strong:
            theme.paper.set_strong(kept.strong)
