"""``reel`` and ``render``: projects made and rendered without a window."""

from __future__ import annotations

from pathlib import Path
from typing import Any

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
    """Make a project from films, pictures and sequences, or from a timeline (.otio, .edl)."""
    notes: list[str] = []
    preset = preset_library.DEFAULT_PRESET if preset_name is None else preset_name
    project = api.reel(inputs, preset=preset, size=size, fps=fps, tell=notes.append)
    api.save(project, output, overwrite=overwrite)
    lying = reels.place_shots(project)
    text = f"{output.name}: {len(lying)} shots, {lying[-1].end:.2f} s at {float(lying[0].rate):g} frames/s"
    reporting.say(f"{'; '.join((text, *notes))}.")


@click.command()
@click.argument("project", type=FILE)
@click.option("--shot", help="One shot by name; the whole reel if left out.")
@click.option("-o", "--output", type=FILE, help="The film to write.")
@click.option("--each", "folder", type=FILE, help="Folder for one file per shot, instead of -o.")
@click.option("--pattern", default="{number} {shot}", show_default=True, help="File names with --each.")
@click.option("--size", help="Delivered size, as 1920x1080; the reel's if left out, with --each the shot's.")
@click.option("--fps", help="Delivered frame rate; the reel's if left out, with --each the shot's.")
@click.option("--from", "start", help="Start in the reel, or in the shot: seconds or timecode.")
@click.option("--to-time", "end", help="End, likewise.")
@click.option("--codec", "form", type=click.Choice(api.FORMS), default="h264", show_default=True)
@click.option("--out-space", default="", metavar="NAME", help="Colour space of the film; the first shot's if left out.")
@click.option("--light-level", is_flag=True, help="Measure MaxCLL and MaxFALL of a film in PQ, in a pass before.")
@click.option("--loudness", type=float, help="Target loudness in LUFS: -14, -16 or -23.")
@click.option("--clean", type=FILE, help="Also write the same stretch without shake and crop.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def render(
    project: Path, output: Path | None, folder: Path | None, pattern: str, clean: Path | None, **options: Any
) -> None:
    """Render a project's reel, one shot, or every shot."""
    if (output is None) == (folder is None):
        raise RequestError("Say where the output goes: -o with a film, or --each with a folder.")
    document, request = actions.open_project(api.existing(project)), api.FilmRequest(**options)
    sentences = reporting.SentenceQueue()
    bars = reporting.ProgressBars(sentences)
    if folder is not None:
        if clean is not None:
            raise RequestError("With --each a clean version has no name: render it by itself.")
        api.render_each(
            document,
            folder,
            pattern=pattern,
            name=project.stem,
            request=request,
            tell=sentences.tell,
            report=bars,
        )
    elif output is not None:
        for path in (output, clean):
            if path is not None:
                actions.not_over(path, project)
        api.render(document, output, clean=clean, request=request, tell=sentences.tell, report=bars)
    sentences.now()
