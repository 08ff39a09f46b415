"""``sound``: what is heard of a project, as a WAV file; and what the other commands say of sound."""

from __future__ import annotations

from pathlib import Path

import click

from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.cli import parts
from young_tremor.cli.parts import FILE
from young_tremor.engine import actions, stems

LEVELS = (-40.0, -5.0)  # LUFS that sound may be levelled to


def loudness(value: float | None) -> float | None:
    """Refuse a loudness that nothing is delivered at."""
    if value is not None and not LEVELS[0] <= value <= LEVELS[1]:
        raise UnreadableValue(f"A loudness of {value:g} LUFS cannot be used: give {LEVELS[0]:g} to {LEVELS[1]:g}.")
    return value


@click.command()
@click.argument("project", type=FILE)
@click.option("--shot", "shot_name", help="One shot by name; the whole reel if left out.")
@click.option("--stem", help="One sound by its name, or footage; the mix if left out.")
@click.option("--loudness", "wanted", type=float, help="Level it to so many LUFS: -14, -16 or -23.")
@click.option("-o", "--output", type=FILE, required=True, help="The WAV file to write.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def sound(
    project: Path, shot_name: str | None, stem: str | None, wanted: float | None, output: Path, overwrite: bool
) -> None:
    """Write what is heard of a project, or one stem of it, as a WAV file of 24 bits."""
    parts.there(project)
    actions.not_over(output, project)
    shots = actions.pick_shots(actions.open_project(project), shot_name)
    if not shots:
        raise RequestError(f"{project.name} has no shots: nothing is heard of it.")
    said = stems.write(shots, output, stem=stem, loudness=loudness(wanted), overwrite=overwrite)
    click.echo(f"{output.name}: {said}.")
