"""``sound``: what is heard of a project, as a WAV file."""

from __future__ import annotations

from pathlib import Path

import click

from young_tremor import api
from young_tremor.cli.reporting import FILE


@click.command()
@click.argument("project", type=FILE)
@click.option("--shot", "shot_name", help="One shot by name; the whole reel if left out.")
@click.option("--stem", help="Sound by name, or footage; the mix if left out.")
@click.option("--loudness", "wanted", type=float, help="Target loudness in LUFS: -14, -16 or -23.")
@click.option("-o", "--output", type=FILE, required=True, help="The WAV file to write.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def sound(
    project: Path, shot_name: str | None, stem: str | None, wanted: float | None, output: Path, overwrite: bool
) -> None:
    """Write a project's sound, or one stem, as 24-bit WAV."""
    text = api.sound(api.open(project), output, shot=shot_name, stem=stem, loudness=wanted, overwrite=overwrite)
    click.echo(f"{output.name}: {text}.")
