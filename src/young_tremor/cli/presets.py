"""The list of presets and sounds."""

from __future__ import annotations

import click

from young_tremor.base.lazy_import import lazily
from young_tremor.engine.library import preset_names

actions = lazily("young_tremor.engine.delivery.actions")


@click.command()
@click.option("--json", "as_json", is_flag=True, help="Print a JSON list.")
def presets(as_json: bool) -> None:
    """List presets and sounds."""
    if as_json:
        click.echo(actions.presets_json())
        return
    for name, group, note in preset_names.presets():
        click.echo(f"{name}  ({group})\n    {note}")
    for name, kind, note in preset_names.sounds():
        click.echo(f"{name}  ({kind}, a sound)\n    {note}")
