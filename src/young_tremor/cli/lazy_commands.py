"""Commands whose modules are imported when one of them is run: help and lists come at once."""

from __future__ import annotations

from collections.abc import MutableMapping
from importlib import import_module

import click

from young_tremor.cli import examples

#: By name: the module that holds a command, and its help in the list.
COMMANDS = {
    "measure": ("motion", "Measure the motion of a handheld clip."),
    "motion": ("motion", "Write the motion of a project's shot, of a preset or of a take, as numbers."),
    "margin": ("motion", "Say how much wider to frame a shot that will be shaken by a preset."),
    "presets": ("presets", "List the presets, and the sounds after them."),
    "info": ("info", "Say what a file holds, or what this machine has."),
    "shake": ("shake", "Give a still shot, a picture or numbered pictures a shake, and write it."),
    "reel": ("reel", "Make a project of films, pictures and sequences, or of a timeline."),
    "render": ("reel", "Render a project's reel in order, one shot of it, or every shot by itself."),
    "sound": ("sound", "Write what is heard of a project, or one stem of it."),
    "deliver": ("deliver", "Write films, numbered pictures and stems of projects."),
    "stmap": ("interchange", "Write where each delivered pixel looks in the source, as ST maps."),
    "gyro": ("interchange", "Make a take of a gyroscope's log."),
    "completion": ("desktop_entry", "Print what lets a shell complete commands and options."),
    "desktop": ("desktop_entry", "Put Young Tremor into the desktop's menu, or take it out."),
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
