"""``shake``: a shot, a picture or several of them, given a shake and written."""

from __future__ import annotations

from pathlib import Path

import click

from young_tremor import api
from young_tremor.base.errors import RequestError
from young_tremor.cli import reporting
from young_tremor.cli.reporting import FILE
from young_tremor.engine.delivery import actions, batch
from young_tremor.model.project import EDGES


@click.command()
@click.argument("inputs", type=FILE, nargs=-1, required=True)
@click.option("-o", "--output", type=FILE, help="The film to write.")
@click.option("--to", "folder", type=FILE, help="A folder to write the film of each input into, instead of -o.")
@click.option(
    "--preset",
    "preset_name",
    help="A preset by name or its beginning; see young-tremor presets. “Standing, breathing” if left out.",
)
@click.option("--take", "take_path", type=FILE, help="A measured motion, as a CSV file.")
@click.option("--shake", "shake_path", type=FILE, help="A saved shake, as a JSON file.")
@click.option("--amount", type=float, default=1.0, help="Multiplies the preset's amount; 0 is still.")
@click.option("--pace", type=float, default=1.0, help="Multiplies how fast the motion runs.")
@click.option("--seed", type=int, help="Another course of the same motion.")
@click.option(
    "--hits",
    help="When blows fall, in the input's time: seconds with a strength if wanted (1.2,3.5@0.6), or sound, or picture: "
    "found there.",
)
@click.option(
    "--edges",
    type=click.Choice(EDGES),
    default="crop",
    show_default=True,
    help="crop: in by the computed least; crop-as-needed: following the motion; soft: a blurred picture "
    "behind; mirror, hold, repeat: the picture goes on; open: black, or transparent.",
)
@click.option("--shutter", type=float, default=180.0, show_default=True, help="Shutter angle in degrees, 0 to 720.")
@click.option("--focal", type=float, help="Focal length in mm (36 mm wide sensor); the preset's if left out.")
@click.option("--size", help="Delivered size, as 1920x1080; the input's if left out.")
@click.option("--fps", help="Delivered rate; the input's if left out.")
@click.option("--from", "start", help="Where in the input to begin: seconds or timecode.")
@click.option("--to-time", "end", help="Where in the input to end.")
@click.option("--sound", "sound_with", type=click.Choice(("with",)), help="with: the sound that belongs to the preset.")
@click.option("--rumble", multiple=True, metavar="NAME[@dB]", help="Low noise that follows the motion; repeatable.")
@click.option("--knocks", multiple=True, metavar="NAME[@dB]", help="A sound at each hit; repeatable.")
@click.option(
    "--sound-sway", "sway", type=float, default=0.0, metavar="DB", help="The footage's sound trembles by ± dB."
)
@click.option("--loudness", "wanted", type=float, metavar="LUFS", help="Level the sound: -14, -16 or -23.")
@click.option("--seconds", help="How long: seconds or timecode; of a still 5 s, of others all of it.")
@click.option("--over", type=FILE, multiple=True, help="A graphic laid over it, that shakes along; repeatable.")
@click.option("--on-glass", type=FILE, multiple=True, help="A graphic on the glass, that stands still; repeatable.")
@click.option("--codec", type=click.Choice(api.FORMS), default="h264", show_default=True)
@click.option("--clean", type=FILE, help="Also write the same stretch without shake and crop.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def shake(
    inputs: tuple[Path, ...],
    output: Path | None,
    folder: Path | None,
    preset_name: str | None,
    take_path: Path | None,
    shake_path: Path | None,
    amount: float,
    pace: float,
    seed: int | None,
    hits: str | None,
    edges: str,
    shutter: float,
    focal: float | None,
    size: str | None,
    fps: str | None,
    start: str | None,
    end: str | None,
    sound_with: str | None,
    rumble: tuple[str, ...],
    knocks: tuple[str, ...],
    sway: float,
    wanted: float | None,
    seconds: str | None,
    over: tuple[Path, ...],
    on_glass: tuple[Path, ...],
    codec: str,
    clean: Path | None,
    overwrite: bool,
) -> None:
    """Give a still shot, a picture or numbered pictures a shake, and write it.

    INPUT is a film, a picture, or a sequence: a pattern (name.####.exr), one of its pictures, or their folder. Several
    are written into a folder with --to, each in a course of its own.
    """
    outputs = _outputs(inputs, output, folder, codec)
    if clean is not None and len(inputs) > 1:
        raise RequestError("A clean version has one name: give --clean with one input.")
    if sum(each is not None for each in (preset_name, take_path, shake_path)) > 1:
        raise RequestError("Give either --preset, --take or --shake, only one of them.")
    sentences = reporting.SentenceQueue()
    shots = [
        api.shake(
            path,
            preset=preset_name,
            take=take_path,
            saved=shake_path,
            amount=amount,
            pace=pace,
            seed=seed,
            course=number,
            hits=hits,
            edges=edges,
            shutter=shutter,
            focal_mm=focal,
            size=size,
            fps=fps,
            seconds=seconds,
            start=start,
            end=end,
            over=over,
            on_glass=on_glass,
            sound=sound_with is not None,
            rumble=rumble,
            knocks=knocks,
            sound_sway=sway,
            tell=reporting.say if not number else lambda words: None,
        )
        for number, path in enumerate(inputs)
    ]
    for path in outputs:
        actions.not_over(path, take_path, shake_path)
    for shot, path in zip(shots, outputs, strict=True):
        api.render(
            shot,
            path,
            clean=clean,
            form=codec,
            loudness=wanted,
            overwrite=overwrite,
            tell=sentences.tell,
            report=reporting.ProgressBars(sentences),
        )
        sentences.now()
        print(api.framing(shot, path.name))


def _outputs(inputs: tuple[Path, ...], output: Path | None, folder: Path | None, codec: str) -> tuple[Path, ...]:
    if (output is None) == (folder is None):
        raise RequestError("Say where the output goes: -o with a film, or --to with a folder.")
    if output is not None:
        if len(inputs) > 1:
            raise RequestError(f"{len(inputs)} inputs do not go into one film: give --to with a folder.")
        if str(output) == "-":
            raise RequestError(
                "A film cannot go to standard output, since its end is written into its beginning: name a file."
            )
        return (output,)
    assert folder is not None
    return batch.named_in(folder, [batch.plain_name(path) for path in inputs], codec)
