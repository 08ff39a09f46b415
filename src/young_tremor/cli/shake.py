"""``shake``: a shot, a picture or several of them, given a shake and written."""

from __future__ import annotations

from pathlib import Path
from typing import Any, get_args

import click

from young_tremor import api
from young_tremor.api.requests import Part
from young_tremor.base.errors import RequestError
from young_tremor.cli import reporting
from young_tremor.cli.reporting import FILE
from young_tremor.engine.delivery import actions, batch
from young_tremor.model.project import EDGES
from young_tremor.model.take import Beyond


@click.command()
@click.argument("inputs", type=FILE, nargs=-1, required=True)
@click.option("-o", "--output", type=FILE, help="The film to write.")
@click.option("--to", "folder", type=FILE, help="Folder for one film per input, instead of -o.")
@click.option(
    "--preset",
    "preset",
    help="A preset by name or its beginning; see young-tremor presets. “Standing, breathing” if left out.",
)
@click.option("--take", type=FILE, help="A measured motion, as a CSV file.")
@click.option("--mirror", is_flag=True, help="The take seen in a mirror: left for right.")
@click.option(
    "--gain",
    "gains",
    multiple=True,
    metavar="TEXT",
    help="Multiplies the take: 0.5, or one channel, roll 0.5; repeatable.",
)
@click.option(
    "--part",
    type=click.Choice(get_args(Part)),
    default="whole",
    show_default=True,
    help="Of the take: its whole move, or the shake only (without what is slower than 2 s).",
)
@click.option(
    "--after",
    type=click.Choice(get_args(Beyond)),
    help="Where the shot is longer than the take: again, back and forth, a drift of its kind (the default), or rest.",
)
@click.option(
    "--shake", "saved", type=FILE, help="A saved shake: a presets file, or a project's shot as PROJECT.tremor#SHOT."
)
@click.option(
    "--move",
    multiple=True,
    metavar="TEXT",
    help="A motion in figures: “30 px 2 Hz”, “roll 0.3° 5 Hz, rising”; repeatable.",
)
@click.option(
    "--holder", default="", metavar="TEXT", help="Who holds the camera: “2 kg, two hands, walks 4 km/h, nervous”."
)
@click.option(
    "--follow",
    type=float,
    metavar="PERCENT",
    help="Follow what moves in the shot, by so much of the frame's height at most.",
)
@click.option("--set", multiple=True, metavar="TEXT", help="A setting in words: “shutter 90”, “rough 0.4”; repeatable.")
@click.option("--shape", default="", metavar="TEXT", help="Strength over time: “0 at 2 s, 1 at 3 s, 0 at 5 s”.")
@click.option("--motion-from", "motion_start", help="The motion acts from here on: seconds or timecode of the input.")
@click.option("--motion-to", "motion_end", help="The motion acts until here.")
@click.option("--amount", type=float, default=1.0, help="Multiplies the preset's amount; 0 is still.")
@click.option("--pace", type=float, default=1.0, help="Multiplies how fast the motion runs.")
@click.option("--seed", type=int, help="Random seed: a different motion of the same kind.")
@click.option(
    "--hits",
    help="Times of impacts: seconds, with a strength if wanted (1.2,3.5@0.6), or sound, or picture: found there.",
)
@click.option(
    "--edges",
    type=click.Choice(EDGES),
    default="crop",
    show_default=True,
    help="crop: the least crop that hides all edges; crop-as-needed: following the motion; soft: a blurred picture "
    "behind; mirror, hold, repeat: the picture goes on; open: black, or transparent.",
)
@click.option("--shutter", type=float, default=180.0, show_default=True, help="Shutter angle in degrees, 0 to 720.")
@click.option(
    "--focal", "focal_mm", type=float, help="Focal length in mm (36 mm wide sensor); the preset's if left out."
)
@click.option("--size", help="Delivered size, as 1920x1080; the input's if left out.")
@click.option("--fps", help="Delivered rate; the input's if left out.")
@click.option("--from", "start", help="Start in the input: seconds or timecode.")
@click.option("--to-time", "end", help="End in the input.")
@click.option("--sound", type=click.Choice(("with",)), help="with: add the sound that belongs to the preset.")
@click.option("--rumble", multiple=True, metavar="NAME[@dB]", help="Add low noise that follows the motion; repeatable.")
@click.option("--knocks", multiple=True, metavar="NAME[@dB]", help="Add a sound at each impact; repeatable.")
@click.option("--sound-sway", type=float, default=0.0, metavar="DB", help="Let the footage's sound tremble by ± DB.")
@click.option("--loudness", type=float, metavar="LUFS", help="Target loudness: -14, -16 or -23.")
@click.option("--seconds", help="Length: seconds or timecode; 5 s for a still, all of a film.")
@click.option("--over", type=FILE, multiple=True, help="Graphic over the footage that shakes along; repeatable.")
@click.option("--on-glass", type=FILE, multiple=True, help="Graphic over the footage that stands still; repeatable.")
@click.option(
    "--in-space",
    default="",
    metavar="NAME",
    help="Colour space of the input, where its file is wrong: rec709, pq, hlg, linear…",
)
@click.option("--white", type=float, default=203.0, show_default=True, help="White of graphics in HDR, in cd/m².")
@click.option("--peak", type=float, default=1000.0, show_default=True, help="HDR peak that is mapped to SDR, in cd/m².")
@click.option("--out-space", default="", metavar="NAME", help="Colour space of the film; the first shot's if left out.")
@click.option("--light-level", is_flag=True, help="Measure MaxCLL and MaxFALL of a film in PQ, in a pass before.")
@click.option("--codec", "form", type=click.Choice(api.FORMS), default="h264", show_default=True)
@click.option("--clean", type=FILE, help="Also write the same stretch without shake and crop.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def shake(
    inputs: tuple[Path, ...], output: Path | None, folder: Path | None, form: str, clean: Path | None, **options: Any
) -> None:
    """Shake a film, a picture or a sequence, and write the result.

    INPUT is a film, a picture, or a sequence: a pattern (name.####.exr), one of its pictures, or their folder. Several
    are written into a folder with --to, each in a course of its own.
    """
    outputs = _outputs(inputs, output, folder, form)
    if clean is not None and len(inputs) > 1:
        raise RequestError("A clean version has one name: give --clean with one input.")
    if sum(options[name] is not None for name in ("preset", "take", "saved")) > 1:
        raise RequestError("Give either --preset, --take or --shake, only one of them.")
    film = api.FilmRequest(
        form=form, **{name: options.pop(name) for name in ("loudness", "out_space", "light_level", "overwrite")}
    )
    request = api.ShakeRequest(**options | {"sound": options["sound"] is not None})
    sentences = reporting.SentenceQueue()
    shots = [
        api.shake(path, request=request, course=number, tell=reporting.say if not number else lambda words: None)
        for number, path in enumerate(inputs)
    ]
    for path in outputs:
        actions.not_over(path, options["take"], options["saved"])
    for shot, path in zip(shots, outputs, strict=True):
        bars = reporting.ProgressBars(sentences)
        api.render(shot, path, clean=clean, request=film, tell=sentences.tell, report=bars)
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
