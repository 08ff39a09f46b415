"""Writes the manual page of the command line from its own help: python scripts/man_page.py."""

from __future__ import annotations

import click

from young_tremor import __version__
from young_tremor.cli.main import commands
from young_tremor.engine.library import preset_library

OUT = preset_library.ASSETS / "young-tremor.1"
LEADS = """\
.TH YOUNG-TREMOR 1 "" "Young Tremor {version}" "User commands"
.SH NAME
young-tremor \\- handheld and impact shake for locked-off footage and graphics
.SH SYNOPSIS
.B young-tremor
[new-window] [\\fIPROJECT\\fR | \\fIFOOTAGE\\fR ... | demo]
.br
.B young-tremor
\\fICOMMAND\\fR [\\fIOPTION\\fR ...]
.SH DESCRIPTION
Without a command a window opens on what is named: the one that is there if it can take it, another after
new-window. Exit codes: 0 done, 1 the work failed, 2 the request was wrong,
130 stopped by Ctrl+C.
.SH COMMANDS
"""


def plain(text: str) -> str:
    """Text in which nothing is a request to the formatter."""
    text = text.replace("\\", "\\e").replace("-", "\\-")
    return "\n".join(f"\\&{line}" if line[:1] in (".", "'") else line for line in text.splitlines())


def one(name: str, command: click.Command) -> str:
    """A command: how it is called, what it does, its options."""
    context = click.Context(command, info_name=f"young-tremor {name}")
    usage = " ".join(command.collect_usage_pieces(context))
    lines = [f".SS {plain(name)}", ".nf", plain(f"young-tremor {name} {usage}"), ".fi"]
    for block in (command.help or "").strip().split("\n\n"):
        if block.startswith("\b"):
            lines += [".PP", ".nf", plain(block.removeprefix("\b").strip("\n")), ".fi"]
        else:
            lines += [".PP", plain(" ".join(block.split()))]
    for block in (command.epilog or "").split("\b\n")[1:]:
        lines += [".PP", ".nf", plain(block), ".fi"]
    for parameter in command.params:
        record = parameter.get_help_record(context)
        if record is not None and record[1]:
            lines += [".TP", f"\\fB{plain(record[0])}\\fR", plain(" ".join(record[1].split()))]
    return "\n".join(lines)


def page() -> str:
    """The whole page."""
    parts = [one(name, command) for name, command in commands.commands.items()]
    return LEADS.format(version=__version__) + "\n".join(parts) + "\n"


if __name__ == "__main__":
    OUT.write_text(page(), encoding="utf-8")
    print(OUT)
