"""Commands whose modules are imported when one of them is run: help and lists come at once."""

from __future__ import annotations

from collections.abc import MutableMapping
from importlib import import_module

import click

from young_tremor.cli import examples

#: By name: the module that holds a command, and its help in the list.
COMMANDS = {
    "measure": ("motion", "Measure the motion of a handheld clip."),
    "motion": ("motion", "Write the motion of a shot, a preset or a take as numbers."),
    "margin": ("motion", "Say how much wider to frame a shot for a preset."),
    "presets": ("presets", "List presets and sounds."),
    "ask": ("ask", "Say how a sentence is understood, and what the window would offer."),
    "info": ("info", "Describe a file, or this machine."),
    "shake": ("shake", "Shake a film, a picture or a sequence, and write the result."),
    "reel": ("reel", "Make a project from films, pictures and sequences, or from a timeline."),
    "render": ("reel", "Render a project's reel, one shot, or every shot."),
    "sound": ("sound", "Write a project's sound, or one stem."),
    "deliver": ("deliver", "Write films, numbered pictures and stems of projects."),
    "stmap": ("interchange", "Write ST maps: where each delivered pixel looks in the source."),
    "gyro": ("interchange", "Make a take from a gyroscope log."),
    "completion": ("desktop_entry", "Print the completion script for a shell."),
    "desktop": ("desktop_entry", "Add Young Tremor to the desktop's menu, or remove it."),
}


class LazyCommands(click.Group):
    """The group of all commands."""

    @property
    def commands(self) -> MutableMapping[str, click.Command]:
        """All commands by name, imported."""
        return {name: self._command(name) for name in COMMANDS}

    @commands.setter
    def commands(self, given: object) -> None:
        """Where click would keep commands that are there from the start: none are."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return list(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        return self._command(cmd_name) if cmd_name in COMMANDS else None

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, words) for name, (_, words) in COMMANDS.items()])

    @staticmethod
    def _command(name: str) -> click.Command:
        command: click.Command = getattr(import_module(f"young_tremor.cli.{COMMANDS[name][0]}"), name)
        command.short_help = COMMANDS[name][1]
        if not command.epilog:
            examples.show_under(command)
        return command
