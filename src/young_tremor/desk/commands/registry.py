"""The machinery of commands: what one is, and how menus, keys and the finder come out of a list of them."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu, QMenuBar, QWidget

from young_tremor.desk.kit.i18n import tr
from young_tremor.engine.asking.command_texts import CommandText

Keys = tuple[str, ...]


@dataclass(frozen=True)
class Command:
    """One thing that can be done; its functions are given the desk.

    ``text``: its name, its menu, what stands there (``says``: as it is now), its keys. ``open``: whether it can be done
    now; ``on``: for what is on or off, which it is. ``fill``: fills a menu of its own instead of doing something.
    """

    text: CommandText
    do: Callable[[Any], object]
    open: Callable[[Any], bool] = lambda desk: True
    on: Callable[[Any], bool] | None = None
    fill: Callable[[Any, QMenu], object] | None = None
    says: Callable[[Any], str] | None = None

    @property
    def name(self) -> str:
        """What it is called in code and in the settings."""
        return self.text.name

    @property
    def menu(self) -> str:
        """The menu that it is in."""
        return self.text.menu

    @property
    def words(self) -> str:
        """What stands in its menu."""
        return self.text.words

    @property
    def keys(self) -> Keys:
        """The keys that it comes with."""
        return self.text.keys


def keys_of(command: Command, own: dict[str, Keys]) -> Keys:
    """The keys of a command: a person's own, or those it comes with."""
    return own.get(command.name, command.keys)


class Commands:
    """The commands of a window: its menu bar, its keys, and all of them as a flat list. ``target``: what the functions
    of commands are called with."""

    def __init__(
        self,
        window: QWidget,
        target: object,
        listed: tuple[Command, ...],
        menus: tuple[str, ...],
        bar: QMenuBar,
        own: dict[str, Keys],
    ) -> None:
        self._window, self._target, self._listed, self._menus = window, target, listed, menus
        self._actions: dict[str, QAction] = {}
        self._shown: list[QMenu] = []  # what the finder shows, until it is asked again
        for command in listed:
            if command.fill is None:
                self._actions[command.name] = self._action(command)
        self.set_keys(own)
        for title in menus:
            menu = bar.addMenu(tr(title))
            menu.setToolTipsVisible(True)
            menu.aboutToShow.connect(partial(self._fill, title, menu))
            menu.aboutToHide.connect(self._open_all)

    def _action(self, command: Command) -> QAction:
        action = QAction(tr(command.words), self._window)
        action.setObjectName(command.name)
        action.setCheckable(command.on is not None)
        action.triggered.connect(lambda: command.do(self._target))
        self._window.addAction(action)
        return action

    def set_keys(self, own: dict[str, Keys]) -> None:
        """Let the commands answer to a person's own keys, the others to those they come with."""
        for command in self._listed:
            if command.fill is None:
                self._actions[command.name].setShortcuts([QKeySequence(key) for key in keys_of(command, own)])

    def owner(self, key: str, own: dict[str, Keys]) -> Command | None:
        """The command that a key belongs to."""
        wanted = QKeySequence(key).toString()
        return next(
            (
                command
                for command in self._listed
                if wanted in (QKeySequence(k).toString() for k in keys_of(command, own))
            ),
            None,
        )

    def action(self, name: str) -> QAction:
        """The action of a command."""
        return self._actions[name]

    def do(self, name: str) -> None:
        """Do a command, or open the menu that it is."""
        command = next(command for command in self._listed if command.name == name)
        if command.fill is None:
            self._actions[name].trigger()
            return
        menu = QMenu(self._window)
        menu.setToolTipsVisible(True)
        if command.open(self._target):
            command.fill(self._target, menu)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self._window.mapToGlobal(self._window.rect().center()))

    def _fill(self, title: str, menu: QMenu) -> None:
        """The menu as it is now."""
        menu.clear()
        for command in (command for command in self._listed if command.menu == title):
            is_open = command.open(self._target)
            if command.fill is None:
                action = self._actions[command.name]
                action.setEnabled(is_open)
                if command.on is not None:
                    action.setChecked(command.on(self._target))
                menu.addAction(action)
                continue
            under = menu.addMenu(tr(command.words))
            under.setToolTipsVisible(True)
            if is_open:
                command.fill(self._target, under)
            under.setEnabled(not under.isEmpty())

    def _open_all(self) -> None:
        """Keys work without a menu having been looked at since."""
        for command in self._listed:
            if command.fill is None and command.says is None:
                self._actions[command.name].setEnabled(True)

    def found(self) -> Iterator[tuple[str, QAction]]:
        """Everything that can be done now, with the way to it through the menus."""
        for menu in self._shown:
            menu.deleteLater()
        self._shown = [QMenu(self._window) for _ in self._menus]
        for title, menu in zip(self._menus, self._shown, strict=True):
            self._fill(title, menu)
            yield from _flat(tr(title), menu)
        self._open_all()

    def refresh(self) -> None:
        """Let the commands whose words change say what they do now."""
        for command in self._listed:
            if command.says is not None:
                self._actions[command.name].setText(command.says(self._target))
                self._actions[command.name].setEnabled(command.open(self._target))


def _flat(way: str, menu: QMenu) -> Iterator[tuple[str, QAction]]:
    for action in menu.actions():
        under = action.menu()
        if isinstance(under, QMenu):
            yield from _flat(f"{way} › {action.text()}", under)
        elif not action.isSeparator() and action.isEnabled():
            yield way, action
