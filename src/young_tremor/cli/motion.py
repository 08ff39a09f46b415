"""Motion as numbers: measured, written, and what room it needs."""

from __future__ import annotations

from pathlib import Path

import click

from young_tremor import api
from young_tremor.base.errors import RequestError
from young_tremor.cli import reporting
from young_tremor.cli.reporting import FILE
from young_tremor.engine.delivery import actions


@click.command()
@click.argument("clip", type=FILE)
@click.option("-o", "--output", type=FILE, required=True, help="The CSV to write.")
@click.option("--from", "start", default="0", help="Seconds, minutes (1:30) or timecode at which to begin.")
@click.option("--to", "end", help="Seconds, minutes (1:30) or timecode at which to end; the clip's end if left out.")
@click.option("--shield", "shields", multiple=True, metavar="X,Y,W,H", help="A part not to look at, in pixels.")
@click.option("--focal", type=float, help="Focal length of the clip in mm, for a sensor 36 mm wide.")
@click.option("--other", is_flag=True, help="Of two things that move, take the other one for the scene.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def measure(
    clip: Path,
    output: Path,
    start: str,
    end: str | None,
    shields: tuple[str, ...],
    focal: float | None,
    other: bool,
    overwrite: bool,
) -> None:
    """Measure the motion of a handheld clip."""
    api.measure(
        clip,
        output,
        start=start,
        end=end,
        shields=shields,
        focal_mm=focal,
        other=other,
        overwrite=overwrite,
        tell=reporting.say,
        report=reporting.ProgressBars(),
    )


@click.command()
@click.argument("project", type=FILE, required=False)
@click.option("--shot", "shot_name", help="One shot by name; the first if left out.")
@click.option("--preset", "preset_name", help="A preset instead of a project.")
@click.option("--take", "take_path", type=FILE, help="A measured motion (CSV) instead of a project.")
@click.option("--size", default="1920x1080", show_default=True)
@click.option("--fps", default="24", show_default=True)
@click.option("--seconds", default="10", show_default=True, help="Seconds, minutes (1:30) or timecode.")
@click.option("--focal", type=float, help="Focal length in mm; the preset's if left out.")
@click.option("--amount", type=float, default=1.0)
@click.option("--pace", type=float, default=1.0)
@click.option("--seed", type=int)
@click.option("--distance", type=float, default=5.0, show_default=True, help="Of what is filmed; for a USD camera.")
@click.option("--keys", type=float, metavar="TOLERANCE", help="As keys instead, as few as keep within this.")
@click.option("--channel", help="Of keys only one channel: x, y, roll, scale, pan or tilt.")
@click.option("-o", "--output", type=FILE, required=True, help="A motion file (CSV), or a camera (.usda).")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def motion(
    project: Path | None,
    shot_name: str | None,
    preset_name: str | None,
    take_path: Path | None,
    size: str,
    fps: str,
    seconds: str,
    focal: float | None,
    amount: float,
    pace: float,
    seed: int | None,
    distance: float,
    keys: float | None,
    channel: str | None,
    output: Path,
    overwrite: bool,
) -> None:
    """Write the motion of a project's shot, of a preset or of a take, as numbers."""
    if sum(each is not None for each in (project, preset_name, take_path)) != 1:
        raise RequestError("Give either a project or --preset or --take.")
    actions.not_over(output, project, take_path)
    what: api.Project | api.Take | str
    if project is not None:
        what = api.open(project)
    else:
        what = api.read_take(take_path) if take_path is not None else str(preset_name)
    motion = api.motion(
        what, shot=shot_name, size=size, fps=fps, seconds=seconds, focal_mm=focal, amount=amount, pace=pace, seed=seed
    )
    motion.save(output, distance=distance, keys=keys, channel=channel, overwrite=overwrite)


@click.command()
@click.option("--preset", "preset_name", required=True, help="A preset by name.")
@click.option("--focal", type=float, help="Focal length in mm; the preset's if left out.")
@click.option("--amount", type=float, default=1.0, help="Multiplies the preset's amount.")
@click.option("--size", default="1920x1080", show_default=True, help="What is delivered.")
@click.option("-o", "--output", type=FILE, help="Also write a framing guide as a PNG picture.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def margin(
    preset_name: str, focal: float | None, amount: float, size: str, output: Path | None, overwrite: bool
) -> None:
    """Say how much wider to frame a shot that will be shaken by a preset."""
    click.echo(api.margin(preset_name, size=size, focal_mm=focal, amount=amount, output=output, overwrite=overwrite))
