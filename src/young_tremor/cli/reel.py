"""``reel`` and ``render``: projects made and rendered without a window."""

from __future__ import annotations

from pathlib import Path

import click

from young_tremor import api
from young_tremor.base.errors import RequestError
from young_tremor.cli import reporting
from young_tremor.cli.reporting import FILE
from young_tremor.engine.analysis import reel_layout as reels
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library


@click.command()
@click.argument("inputs", type=FILE, nargs=-1, required=True)
@click.option("-o", "--output", type=FILE, required=True, help="The project to write, ending in .tremor.")
@click.option("--preset", "preset_name", help="A preset by name or its beginning, for all shots.")
@click.option("--size", help="The reel's delivered size, as 1920x1080; the first shot's if left out.")
@click.option("--fps", help="The reel's rate; the first shot's if left out.")
@click.option("--overwrite", is_flag=True, help="Replace an existing project.")
def reel(
    inputs: tuple[Path, ...], output: Path, preset_name: str | None, size: str | None, fps: str | None, overwrite: bool
) -> None:
    """Make a project of films, pictures and sequences, or of a timeline (.otio, .edl), each in its own course."""
    notes: list[str] = []
    preset = preset_library.DEFAULT_PRESET if preset_name is None else preset_name
    project = api.reel(inputs, preset=preset, size=size, fps=fps, tell=notes.append)
    api.save(project, output, overwrite=overwrite)
    lying = reels.place_shots(project)
    text = f"{output.name}: {len(lying)} shots, {lying[-1].end:.2f} s at {float(lying[0].rate):g} frames/s"
    reporting.say(f"{'; '.join((text, *notes))}.")


@click.command()
@click.argument("project", type=FILE)
@click.option("--shot", "shot_name", help="One shot by name; the whole reel if left out.")
@click.option("-o", "--output", type=FILE, help="The film to write.")
@click.option("--each", "folder", type=FILE, help="A folder to write every shot by itself into, instead of -o.")
@click.option("--pattern", default="{number} {shot}", show_default=True, help="How they are called with --each.")
@click.option("--size", help="Delivered size, as 1920x1080; the reel's if left out, with --each the shot's.")
@click.option("--fps", help="Delivered rate; likewise.")
@click.option("--from", "start", help="Where to begin: seconds or timecode of the reel, or of the shot.")
@click.option("--to-time", "end", help="Where to end.")
@click.option("--codec", type=click.Choice(api.FORMS), default="h264", show_default=True)
@click.option("--loudness", "wanted", type=float, help="Level the sound to so many LUFS: -14, -16 or -23.")
@click.option("--clean", type=FILE, help="Also write the same stretch without shake and crop.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def render(
    project: Path,
    shot_name: str | None,
    output: Path | None,
    folder: Path | None,
    pattern: str,
    size: str | None,
    fps: str | None,
    start: str | None,
    end: str | None,
    codec: str,
    wanted: float | None,
    clean: Path | None,
    overwrite: bool,
) -> None:
    """Render a project's reel in order, one shot of it, or every shot by itself."""
    if (output is None) == (folder is None):
        raise RequestError("Say where the output goes: -o with a film, or --each with a folder.")
    sentences, opened = reporting.SentenceQueue(), actions.open_project(api.existing(project))
    more = {
        "size": size,
        "fps": fps,
        "start": start,
        "end": end,
        "loudness": wanted,
        "overwrite": overwrite,
        "tell": sentences.tell,
        "report": reporting.ProgressBars(sentences),
    }
    if folder is not None:
        if clean is not None:
            raise RequestError("With --each a clean version has no name: render it by itself.")
        api.render_each(opened, folder, shot=shot_name, pattern=pattern, name=project.stem, form=codec, **more)  # type: ignore[arg-type]
    elif output is not None:
        for path in (output, clean):
            if path is not None:
                actions.not_over(path, project)
        api.render(opened, output, shot=shot_name, clean=clean, form=codec, **more)  # type: ignore[arg-type]
    sentences.now()
