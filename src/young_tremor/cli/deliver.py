"""``deliver``: films, numbered pictures and stems of projects, as the list in the window writes them."""

from __future__ import annotations

import json
import time
from pathlib import Path

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
@click.option("--form", default="h264", show_default=True, type=click.Choice(api.FORMS), help="What of.")
@click.option("--to", "folder", type=FILE, required=True, help="The folder to write into.")
@click.option("--shot", "shot_name", help="One shot by name; the whole reel if left out.")
@click.option("--each", is_flag=True, help="Every shot by itself.")
@click.option("--variants", is_flag=True, help="Each variant of a shot by itself; with --each or --shot.")
@click.option("--pattern", default="", help="Names by {project}, {shot}, {variant}, {number} and {date}.")
@click.option("--handles", type=click.IntRange(0, 1000), default=0, help="Frames beyond a shot's ends.")
@click.option("--clean", is_flag=True, help="Each also without shake and crop.")
@click.option("--frames", help="Of numbered pictures only those from A to B, written A-B; what is there stays.")
@click.option("--stem", "stems", multiple=True, help="A sound by name, as WAV beside the film; repeatable.")
@click.option("--quality", type=click.IntRange(1, 5), default=3, show_default=True, help="1 small, 5 best.")
@click.option("--speed", type=click.IntRange(1, 3), default=2, show_default=True, help="1 small files, 3 quick.")
@click.option("--everywhere", is_flag=True, help="H.264 as every player knows it: 8 bit, 4:2:0, even size.")
@click.option("--full-chroma", is_flag=True, help="Keep 4:2:2 and 4:4:4 in H.264, H.265; many players refuse it.")
@click.option("--hardware", is_flag=True, help="By an encoder in the graphics hardware, where one works.")
@click.option("--motion", is_flag=True, help="The motion of each shot as CSV beside its film.")
@click.option("--maps", is_flag=True, help="The ST maps of each shot beside its film.")
@click.option("--loudness", "wanted", type=float, help="Level the sound to so many LUFS: -14, -16 or -23.")
@click.option("--timeline", type=FILE, help="Also write the cut (.otio, .edl) with the films in place; with --each.")
@click.option("--timeline-start", default="", metavar="TIMECODE", help="Where that cut begins. [default: 01:00:00:00]")
@click.option("--json", "as_json", is_flag=True, help="Progress as lines of JSON on standard output.")
@click.option("--cluster", default="", metavar="ADDRESS", help="Share the work: tcp://HOST:8786 of Dask, or local.")
@click.option("--overwrite", is_flag=True, help="Replace existing outputs.")
def deliver(
    projects: tuple[Path, ...],
    form: str,
    folder: Path,
    shot_name: str | None,
    each: bool,
    variants: bool,
    pattern: str,
    handles: int,
    clean: bool,
    frames: str | None,
    stems: tuple[str, ...],
    wanted: float | None,
    timeline: Path | None,
    timeline_start: str,
    as_json: bool,
    overwrite: bool,
    quality: int,
    speed: int,
    everywhere: bool,
    full_chroma: bool,
    hardware: bool,
    motion: bool,
    maps: bool,
    cluster: str,
) -> None:
    """Write films, numbered pictures and stems of projects.

    Everything is checked before the first frame. With --frames any part of numbered pictures is rendered under its
    final names, each whole or absent and the same whoever renders it: see docs/farm.md.
    """
    numbers = frames_of(frames)
    if numbers is not None and not actions.is_numbered(form):
        raise RequestError("--frames is for numbered pictures: choose --form png, tiff or exr.")
    if timeline is not None and (len(projects) > 1 or not each):
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
        form=form,
        shot=shot_name,
        each=each,
        variants=variants,
        pattern=pattern,
        handles=handles,
        clean=clean,
        frames=numbers,
        stems=stems,
        quality=quality,
        speed=speed,
        everywhere=everywhere,
        full_chroma=full_chroma,
        hardware=hardware,
        motion=motion,
        maps=maps,
        loudness=wanted,
        timeline=timeline,
        timeline_start=timeline_start,
        overwrite=overwrite,
        cluster=cluster,
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
