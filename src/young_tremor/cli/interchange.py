"""``stmap`` and ``gyro``: motion out for other tools, and in from a telephone."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

import click

from young_tremor import api
from young_tremor.cli import reporting
from young_tremor.cli.deliver import frames_of
from young_tremor.cli.reporting import FILE


@click.command()
@click.argument("source", type=FILE)
@click.option(
    "-o", "--output", type=FILE, required=True, help="The EXR pictures to write (name.####.exr), or a folder."
)
@click.option("--shot", "shot_name", help="One shot of a project by name; the first if left out.")
@click.option("--preset", "preset_name", help="Of footage instead of a project: the preset that moves it.")
@click.option("--exposures", type=click.IntRange(1, 256), default=1, show_default=True, help="Maps for each frame.")
@click.option("--small", is_flag=True, help="Packed without loss: a third of the size, but slow.")
@click.option("--frames", help="Only the frames from A to B, written A-B.")
@click.option("--overwrite", is_flag=True, help="Replace existing outputs.")
def stmap(
    source: Path,
    output: Path,
    shot_name: str | None,
    preset_name: str | None,
    exposures: int,
    small: bool,
    frames: str | None,
    overwrite: bool,
) -> None:
    """Write where each delivered pixel looks in the source, as ST maps for a compositor.

    Red goes from 0 at the source's left edge to 1 at its right, green from 0 at the bottom to 1 at the top; 32-bit
    float. SOURCE is a project, or footage with --preset.
    """
    if source.suffix.lower() == ".tremor":
        what: api.Project | api.Shot = api.open(source)
    else:
        what = api.shake(source, preset=preset_name)
    count = api.stmap(
        what,
        output,
        shot=shot_name,
        exposures=exposures,
        frames=frames_of(frames),
        small=small,
        overwrite=overwrite,
        report=reporting.ProgressBars(),
    )
    click.echo(f"{count} maps are written to {output.parent if output.suffix.lower() == '.exr' else output}.")


@click.command()
@click.argument("log", type=FILE)
@click.option("-o", "--output", type=FILE, required=True, help="The take (CSV) to write.")
@click.option(
    "--held",
    type=click.Choice(("upright", "left", "right", "upside-down")),
    default="upright",
    show_default=True,
    help="How the telephone was held; left: on its left side.",
)
@click.option("--axes", help="Which of its axes are the camera's right, up and back: like -y,x,z.")
@click.option("--time", "time_unit", type=click.Choice(("s", "ms", "us", "ns")), help="Unit of time, if not as found.")
@click.option("--unit", "rate_unit", type=click.Choice(("rad", "deg")), help="Unit of turning, if not as found.")
@click.option("--fps", default="60", show_default=True, help="Rows a second of the take.")
@click.option("--whole", is_flag=True, help="Take nothing off: neither bias nor drift.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def gyro(
    log: Path,
    output: Path,
    held: Literal["upright", "left", "right", "upside-down"],
    axes: str | None,
    time_unit: str | None,
    rate_unit: str | None,
    fps: str,
    whole: bool,
    overwrite: bool,
) -> None:
    """Make a take of a gyroscope's log: a time and three turn rates in each line of a CSV file.

    Units and columns are recognised, and said.
    """
    text = api.gyro(
        log,
        output,
        axes=axes,
        held=held,
        time_unit=time_unit,
        rate_unit=rate_unit,
        fps=fps,
        whole=whole,
        overwrite=overwrite,
    )
    click.echo(f"{log.name}: {text}.")
