"""``deliver``: films, numbered pictures and stems of projects, as the list in the window writes them."""

from __future__ import annotations

import json
import time
from pathlib import Path
from typing import Any

import click

from young_tremor import api
from young_tremor.base.errors import RequestError, UnreadableValue
from young_tremor.cli import reporting
from young_tremor.cli.reporting import FILE
from young_tremor.engine.delivery import actions, delivery_plan

EVERY = 0.5  # seconds between two lines of progress


def frames_of(text: str | None) -> tuple[int, int] | None:
    """Numbers written A-B."""
    if text is None:
        return None
    low, dash, high = text.partition("-")
    if not (low.isdigit() and (high.isdigit() if dash else True)) or (dash and int(high) < int(low)):
        raise UnreadableValue(f"“{text}” are no frames: write the first and the last, like 1-48.")
    return int(low), int(high) if dash else int(low)


@click.command()
@click.argument("projects", type=FILE, nargs=-1, required=True)
@click.option("--form", default="h264", show_default=True, type=click.Choice(api.FORMS), help="Output format.")
@click.option("--to", "folder", type=FILE, required=True, help="The folder to write into.")
@click.option("--shot", help="One shot by name; the whole reel if left out.")
@click.option("--each", is_flag=True, help="Write every shot as a file of its own.")
@click.option("--variants", is_flag=True, help="Write every variant of a shot; with --each or --shot.")
@click.option("--pattern", default="", help="File names from {project}, {shot}, {variant}, {number} and {date}.")
@click.option("--handles", type=click.IntRange(0, 1000), default=0, help="Extra frames at each end of a shot.")
@click.option("--clean", is_flag=True, help="Also write each without shake and crop.")
@click.option("--frames", help="Render only pictures A to B of a sequence, as A-B; existing ones stay.")
@click.option("--stem", "stems", multiple=True, help="Also write this sound as WAV; repeatable.")
@click.option(
    "--quality", type=click.IntRange(1, 5), default=3, show_default=True, help="From 1 (small files) to 5 (best)."
)
@click.option(
    "--speed", type=click.IntRange(1, 3), default=2, show_default=True, help="From 1 (small files) to 3 (quick)."
)
@click.option("--everywhere", is_flag=True, help="H.264 that every player plays: 8 bit, 4:2:0, even size.")
@click.option("--full-chroma", is_flag=True, help="Keep 4:2:2 and 4:4:4 in H.264 and H.265; many players refuse it.")
@click.option("--hardware", is_flag=True, help="Use a hardware encoder, if one works.")
@click.option("--out-space", default="", metavar="NAME", help="Colour space of the film; the first shot's if left out.")
@click.option("--light-level", is_flag=True, help="Measure MaxCLL and MaxFALL of a film in PQ, in a pass before.")
@click.option("--motion", is_flag=True, help="Also write the motion of each shot as CSV.")
@click.option("--camera", is_flag=True, help="Also write each shot's motion as a USD camera, 5 m from the subject.")
@click.option("--maps", is_flag=True, help="Also write the ST maps of each shot.")
@click.option("--loudness", type=float, help="Target loudness in LUFS: -14, -16 or -23.")
@click.option("--timeline", type=FILE, help="Also write the cut (.otio, .edl) with the films in place; with --each.")
@click.option(
    "--timeline-start",
    default="",
    metavar="TIMECODE",
    help="Timecode at which the timeline begins. [default: 01:00:00:00]",
)
@click.option("--json", "as_json", is_flag=True, help="Print progress as lines of JSON.")
@click.option("--cluster", default="", metavar="ADDRESS", help="Render on a Dask cluster: tcp://HOST:8786, or local.")
@click.option("--overwrite", is_flag=True, help="Replace existing outputs.")
def deliver(projects: tuple[Path, ...], folder: Path, frames: str | None, as_json: bool, **options: Any) -> None:
    """Write films, numbered pictures and stems of projects.

    Everything is checked before the first frame. With --frames any part of numbered pictures is rendered under its
    final names, each whole or absent and the same whoever renders it: see docs/farm.md.
    """
    form, numbers = options["form"], frames_of(frames)
    if numbers is not None and not actions.is_numbered(form):
        raise RequestError("--frames is for numbered pictures: choose --form png, tiff or exr.")
    if options["timeline"] is not None and (len(projects) > 1 or not options["each"]):
        raise RequestError("A timeline is written of one project whose shots are delivered with --each.")
    sentences, bars, progress = reporting.SentenceQueue(), reporting.ProgressBars(), JsonProgress()

    def report(name: str, done: int, total: int) -> None:
        if as_json:
            progress(name, done, total)
        else:
            sentences.now()
            bars(name, done, total)

    def written(name: str, path: Path) -> None:
        if as_json:
            click.echo(json.dumps({"delivery": name, "done": str(path)}))
            return
        sentences.now()
        many = actions.is_numbered(form) and "#" not in path.name
        click.echo(f"{f'{path.stem}.####{path.suffix}' if many else path.name} is written.")

    api.deliver(
        ((path.stem, api.open(path)) for path in projects),
        folder,
        frames=numbers,
        **options,
        tell=sentences.tell,
        report=report,
        written=written,
    )


class JsonProgress:
    """Lines of JSON, not too many."""

    def __init__(self) -> None:
        self._name, self._pace, self._last = "", delivery_plan.DeliveryPace(), 0.0

    def __call__(self, name: str, done: int, total: int) -> None:
        if name != self._name:
            self._name, self._pace, self._last = name, delivery_plan.DeliveryPace(), 0.0
        if time.monotonic() - self._last > EVERY or done == total:
            self._last = time.monotonic()
            click.echo(json.dumps({"delivery": name, **self._pace.told(done, total)}))
