"""Motion as numbers: measured, written, and what room it needs."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any, get_args

import click

from young_tremor import api
from young_tremor.api.requests import Held
from young_tremor.base.errors import RequestError
from young_tremor.cli import reporting
from young_tremor.cli.reporting import FILE
from young_tremor.engine.delivery import actions


@click.command()
@click.argument("clip", type=FILE)
@click.option("-o", "--output", type=FILE, required=True, help="The CSV to write.")
@click.option("--from", "start", default="0", help="Start: seconds, minutes (1:30) or timecode.")
@click.option("--to", "end", help="End: seconds, minutes (1:30) or timecode; the clip's end if left out.")
@click.option("--shield", "shields", multiple=True, metavar="X,Y,W,H", help="Area to ignore, in pixels; repeatable.")
@click.option("--focal", "focal_mm", type=float, help="Focal length of the clip in mm, for a sensor 36 mm wide.")
@click.option("--other", is_flag=True, help="If two things move, take the other one for the scene.")
@click.option(
    "--leave", type=click.Choice(actions.ASSUMPTIONS), multiple=True, help="What not to assume of it; repeatable."
)
@click.option("--gyro", type=FILE, help="The gyroscope log (CSV) recorded with it: each where it is better.")
@click.option("--held", type=click.Choice(get_args(Held)), help="How the phone was held; found out if left out.")
@click.option("--json", "as_json", is_flag=True, help="Print all that is known of it as one JSON object.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def measure(clip: Path, output: Path, as_json: bool, **options: Any) -> None:
    """Measure the motion of a handheld clip."""
    facts: list[dict[str, object]] = []
    api.measure(clip, output, **options, tell=reporting.say, tell_facts=facts.append, report=reporting.ProgressBars())
    if as_json:
        click.echo(json.dumps(facts[0]))


@click.command()
@click.argument("project", type=FILE, required=False)
@click.option("--shot", help="One shot by name; the first if left out.")
@click.option("--preset", help="A preset instead of a project.")
@click.option("--take", type=FILE, help="A measured motion (CSV) instead of a project.")
@click.option("--size", default="1920x1080", show_default=True)
@click.option("--fps", default="24", show_default=True)
@click.option("--seconds", default="10", show_default=True, help="Seconds, minutes (1:30) or timecode.")
@click.option("--focal", "focal_mm", type=float, help="Focal length in mm; the preset's if left out.")
@click.option("--amount", type=float, default=1.0)
@click.option("--pace", type=float, default=1.0)
@click.option("--seed", type=int)
@click.option("--distance", type=float, default=5.0, show_default=True, help="Metres to the subject, for a USD camera.")
@click.option("--keys", type=float, metavar="TOLERANCE", help="Write keyframes, as few as keep within TOLERANCE.")
@click.option("--channel", help="Write only one channel's keyframes: x, y, roll, scale, pan or tilt.")
@click.option("-o", "--output", type=FILE, required=True, help="A motion file (CSV), or a camera (.usda).")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def motion(project: Path | None, preset: str | None, take: Path | None, output: Path, **options: Any) -> None:
    """Write the motion of a shot, a preset or a take as numbers."""
    if sum(source is not None for source in (project, preset, take)) != 1:
        raise RequestError("Give either a project or --preset or --take.")
    actions.not_over(output, project, take)
    what: api.Project | api.Take | str
    if project is not None:
        what = api.open(project)
    else:
        what = api.read_take(take) if take is not None else str(preset)
    saving = {name: options.pop(name) for name in ("distance", "keys", "channel", "overwrite")}
    api.motion(what, **options).save(output, **saving)


@click.command()
@click.option("--preset", "preset_name", required=True, help="A preset by name.")
@click.option("--focal", "focal_mm", type=float, help="Focal length in mm; the preset's if left out.")
@click.option("--amount", type=float, default=1.0, help="Multiplies the preset's amount.")
@click.option("--size", default="1920x1080", show_default=True, help="Delivered size.")
@click.option("-o", "--output", type=FILE, help="Also write a framing guide as a PNG picture.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def margin(
    preset_name: str, focal_mm: float | None, amount: float, size: str, output: Path | None, overwrite: bool
) -> None:
    """Say how much wider to frame a shot for a preset."""
    click.echo(api.margin(preset_name, size=size, focal_mm=focal_mm, amount=amount, output=output, overwrite=overwrite))
