"""``stmap`` and ``gyro``: motion out for other tools, and in from a telephone."""

from __future__ import annotations

from pathlib import Path
from typing import Any, get_args

import click

from young_tremor import api
from young_tremor.api.requests import Held
from young_tremor.cli import reporting
from young_tremor.cli.deliver import frames_of
from young_tremor.cli.reporting import FILE


@click.command()
@click.argument("source", type=FILE)
@click.option(
    "-o", "--output", type=FILE, required=True, help="The EXR pictures to write (name.####.exr), or a folder."
)
@click.option("--shot", help="Shot by name; the project's first if left out.")
@click.option("--preset", help="Preset that moves the footage, if SOURCE is no project.")
@click.option("--exposures", type=click.IntRange(1, 256), default=1, show_default=True, help="Maps per frame.")
@click.option("--small", is_flag=True, help="Compress without loss: a third of the size, but slow.")
@click.option("--frames", help="Write only frames A to B, as A-B.")
@click.option("--overwrite", is_flag=True, help="Replace existing outputs.")
def stmap(source: Path, output: Path, preset: str | None, frames: str | None, **options: Any) -> None:
    """Write ST maps for a compositor: where each delivered pixel looks in the source.

    Red goes from 0 at the source's left edge to 1 at its right, green from 0 at the bottom to 1 at the top; 32-bit
    float. SOURCE is a project, or footage with --preset.
    """
    if source.suffix.lower() == ".tremor":
        what: api.Project | api.Shot = api.open(source)
    else:
        what = api.shake(source, preset=preset)
    count = api.stmap(what, output, frames=frames_of(frames), **options, report=reporting.ProgressBars())
    click.echo(f"{count} maps are written to {output.parent if output.suffix.lower() == '.exr' else output}.")


@click.command()
@click.argument("log", type=FILE)
@click.option("-o", "--output", type=FILE, required=True, help="The take (CSV) to write.")
@click.option(
    "--held",
    type=click.Choice(get_args(Held)),
    default="upright",
    show_default=True,
    help="How the phone was held; left: on its left side.",
)
@click.option("--axes", help="Log axes for the camera's right, up and back, as -y,x,z.")
@click.option(
    "--time", "time_unit", type=click.Choice(("s", "ms", "us", "ns")), help="Unit of time; recognised if left out."
)
@click.option(
    "--unit", "rate_unit", type=click.Choice(("rad", "deg")), help="Unit of turn rates; recognised if left out."
)
@click.option("--fps", default="60", show_default=True, help="Samples per second of the take.")
@click.option("--whole", is_flag=True, help="Keep bias and drift.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def gyro(log: Path, output: Path, **options: Any) -> None:
    """Make a take from a gyroscope log: a CSV file with a time and three turn rates in each line.

    Units and columns are recognised and printed.
    """
    text = api.gyro(log, output, **options)
    click.echo(f"{log.name}: {text}.")
