"""``completion`` and ``desktop``: Young Tremor made known to the shell and to the desktop."""

from __future__ import annotations

from pathlib import Path

import click
from click.shell_completion import get_completion_class

from young_tremor.cli.reporting import FILE
from young_tremor.engine.system import menu_entry

SHELLS = tuple(menu_entry.COMPLETIONS)


def completion_text(shell: str, commands: click.Group) -> str:
    """What lets a shell complete commands and options."""
    made = get_completion_class(shell)
    assert made is not None  # click knows these three
    return made(commands, {}, "young-tremor", "_YOUNG_TREMOR_COMPLETE").source()


@click.command()
@click.argument("shell", type=click.Choice(SHELLS))
@click.pass_context
def completion(ctx: click.Context, shell: str) -> None:
    """Print the completion script for a shell."""
    click.echo(completion_text(shell, _command_group(ctx)))


@click.command()
@click.option("--to", "share", type=FILE, help="Share folder; ~/.local/share if left out.")
@click.option("--command", help="Command the entry starts; this installation if left out.")
@click.option("--remove", is_flag=True, help="Remove the entry again.")
@click.pass_context
def desktop(ctx: click.Context, share: Path | None, command: str | None, remove: bool) -> None:
    """Add Young Tremor to the desktop's menu, with icons, file type, manual page and completions."""
    at = menu_entry.home() if share is None else share
    if remove:
        gone = menu_entry.take_away(at)
        text = f"{len(gone)} files are removed from {at}." if gone else f"There was nothing of it in {at}."
    else:
        texts = {shell: completion_text(shell, _command_group(ctx)) for shell in SHELLS}
        paths = menu_entry.install(at, command=command or menu_entry.own_command(), completions=texts)
        text = f"{len(paths)} files are written into {at}: Young Tremor stands in the menu."
    if share is None:
        menu_entry.refresh(at)
    click.echo(text)


def _command_group(ctx: click.Context) -> click.Group:
    group = ctx.find_root().command
    assert isinstance(group, click.Group)
    return group
