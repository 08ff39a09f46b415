"""Arguments in, engine called, errors to exit codes: 0 done, 1 the work failed, 2 the request was wrong."""

from __future__ import annotations

import json
import signal
import sys
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path
from typing import Any

import click
from msgspec.structs import replace

from young_tremor import __version__
from young_tremor.base import files
from young_tremor.base.errors import MissingFile, RequestError, TremorError
from young_tremor.base.units import parse_rate, parse_size, parse_time
from young_tremor.engine import actions, library, log, takes
from young_tremor.model.project import EDGES, Preset, Shot

FILE = click.Path(path_type=Path)


def main(args: Sequence[str] | None = None) -> int:
    """Run one command; the exit code. One clear line on standard error, never a traceback."""
    for each in (signal.SIGTERM, signal.SIGHUP):
        with suppress(ValueError):  # not the main thread: whoever called has the signals
            signal.signal(each, _stopped)
    log.start()
    files.sweep_all()
    try:
        if any("\0" in each for each in (sys.argv[1:] if args is None else args)):
            raise RequestError("A name or value cannot hold the character 0: give another.")
        result = commands.main(args=args, prog_name="young-tremor", standalone_mode=False)
    except (click.exceptions.Abort, KeyboardInterrupt):
        _say("Stopped.")
        return 130
    except click.UsageError as error:
        _say(f"{error.format_message().rstrip('.')}. See young-tremor {_name(error)}--help.")
        return 2
    except click.ClickException as error:
        _say(error.format_message())
        return 2
    except TremorError as error:
        _say(str(error))
        return error.exit_code
    except Stopped as stopped:
        _say("Stopped.")
        return 128 + stopped.number
    except BrokenPipeError:
        sys.stderr.close()
        return 1
    except MemoryError:
        _say("There is not enough memory for this picture size.")
        return 1
    except Exception as error:
        _say(log.unexpected(error))
        return 1
    finally:
        files.abandon_all()
    return result if isinstance(result, int) else 0


class Stopped(BaseException):
    """The system asks the command to end."""

    def __init__(self, number: int) -> None:
        self.number = number


def _stopped(number: int, frame: object) -> None:
    for each in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
        signal.signal(each, signal.SIG_IGN)  # it is ending; nothing comes between
    raise Stopped(number)


def _name(error: click.UsageError) -> str:
    name = error.ctx.info_name if error.ctx and error.ctx.parent else None
    return f"{name} " if name else ""


def _say(text: str) -> None:
    print("young-tremor: " + " ".join(text.split()), file=sys.stderr)


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="Young Tremor")
def commands() -> None:
    """Handheld and impact shake for locked-off footage. Without a command, a window opens."""


@commands.command()
@click.argument("input", type=FILE)
@click.option("-o", "--output", type=FILE, required=True, help="The film to write.")
@click.option("--preset", "preset_name", help="A preset by name; see young-tremor presets.")
@click.option("--take", "take_path", type=FILE, help="A measured motion, as a CSV file.")
@click.option("--shake", "shake_path", type=FILE, help="A saved shake, as a JSON file.")
@click.option("--amount", type=float, default=1.0, help="Multiplies the preset's amount; 0 is still.")
@click.option("--pace", type=float, default=1.0, help="Multiplies how fast the motion runs.")
@click.option("--seed", type=int, help="Another course of the same motion.")
@click.option("--edges", type=click.Choice(EDGES), default="crop", show_default=True, help="What fills the edges.")
@click.option("--shutter", type=float, default=180.0, show_default=True, help="Shutter angle in degrees, 0 to 720.")
@click.option("--focal", type=float, help="Focal length in mm (36 mm wide sensor); the preset's if left out.")
@click.option("--size", help="Delivered size, as 1920x1080; the input's if left out.")
@click.option("--fps", help="Delivered rate; the input's if left out.")
@click.option("--seconds", help="How long: seconds or timecode; of a still 5 s, of others all of it.")
@click.option("--over", type=FILE, multiple=True, help="A graphic laid over it, that shakes along; repeatable.")
@click.option("--on-glass", type=FILE, multiple=True, help="A graphic on the glass, that stands still; repeatable.")
@click.option("--codec", type=click.Choice(actions.codec_names()), default="h264", show_default=True)
@click.option("--clean", type=FILE, help="Also write the same stretch without shake and crop.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def shake(
    input: Path, output: Path, preset_name: str | None, take_path: Path | None, shake_path: Path | None,
    amount: float, pace: float, seed: int | None, edges: str, shutter: float, focal: float | None, size: str | None,
    fps: str | None, seconds: str | None, over: tuple[Path, ...], on_glass: tuple[Path, ...], codec: str,
    clean: Path | None, overwrite: bool,
) -> None:  # fmt: skip
    """Give a still shot, a picture or numbered pictures a shake, and write it.

    INPUT is a film, a picture, or a sequence: a pattern (name.####.exr), one of its pictures, or their folder.
    """
    if sum(each is not None for each in (preset_name, take_path, shake_path)) > 1:
        raise RequestError("Give either --preset, --take or --shake, only one of them.")
    _focal(focal)
    if take_path:
        read = takes.read(take_path)
        if words := takes.gap_words(read):
            _say(words)
        preset = takes.preset_of(read, focal)
    else:
        preset = (
            library.shake_file(shake_path)
            if shake_path
            else library.preset(library.DEFAULT_PRESET if preset_name is None else preset_name)
        )
    for each in (input, *over, *on_glass):
        _pictures_there(each)
    rate = parse_rate(fps) if fps else None
    shot = actions.one_shot(
        input,
        _tuned(preset, amount, pace, seed),
        edges=edges,  # type: ignore[arg-type]
        shutter=shutter,
        focal_mm=focal,
        size=parse_size(size) if size else None,
        rate=rate,
        seconds=parse_time(seconds, rate or parse_rate("24")) if seconds else None,
        over=over,
        on_glass=on_glass,
    )
    actions.not_over(output, take_path, shake_path)
    _render((shot,), output, clean, codec, overwrite)


@commands.command()
@click.argument("clip", type=FILE)
@click.option("-o", "--output", type=FILE, required=True, help="The CSV to write.")
@click.option("--from", "start", default="0", help="Seconds or timecode at which to begin.")
@click.option("--to", "end", help="Seconds or timecode at which to end; the clip's end if left out.")
@click.option("--shield", "shields", multiple=True, metavar="X,Y,W,H", help="A part not to look at, in pixels.")
@click.option("--focal", type=float, help="Focal length of the clip in mm, for a sensor 36 mm wide.")
@click.option("--other", is_flag=True, help="Of two things that move, take the other one for the scene.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def measure(
    clip: Path, output: Path, start: str, end: str | None, shields: tuple[str, ...], focal: float | None,
    other: bool, overwrite: bool,
) -> None:  # fmt: skip
    """Measure the motion of a handheld clip."""
    _there(clip)
    _focal(focal)
    said = actions.measure_to(
        clip, output, Bar(output.name), start=start, end=end, shields=shields, focal_mm=focal, other=other,
        overwrite=overwrite,
    )  # fmt: skip
    _say(said)


@commands.command()
@click.argument("project", type=FILE)
@click.option("--shot", "shot_name", help="One shot by name; the whole reel if left out.")
@click.option("-o", "--output", type=FILE, required=True, help="The film to write.")
@click.option("--codec", type=click.Choice(actions.codec_names()), default="h264", show_default=True)
@click.option("--clean", type=FILE, help="Also write the same stretch without shake and crop.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def render(project: Path, shot_name: str | None, output: Path, codec: str, clean: Path | None, overwrite: bool) -> None:
    """Render a project's reel in order, or one shot of it."""
    _there(project)
    shots = actions.pick_shots(actions.open_project(project), shot_name)
    actions.not_over(output, project)
    if clean is not None:
        actions.not_over(clean, project)
    _render(shots, output, clean, codec, overwrite)


@commands.command()
@click.argument("project", type=FILE, required=False)
@click.option("--shot", "shot_name", help="One shot by name; the first if left out.")
@click.option("--preset", "preset_name", help="A preset instead of a project.")
@click.option("--take", "take_path", type=FILE, help="A measured motion (CSV) instead of a project.")
@click.option("--size", default="1920x1080", show_default=True)
@click.option("--fps", default="24", show_default=True)
@click.option("--seconds", default="10", show_default=True, help="Seconds or timecode.")
@click.option("--focal", type=float, help="Focal length in mm; the preset's if left out.")
@click.option("--amount", type=float, default=1.0)
@click.option("--pace", type=float, default=1.0)
@click.option("--seed", type=int)
@click.option("-o", "--output", type=FILE, required=True, help="The motion file (CSV) to write.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def motion(
    project: Path | None, shot_name: str | None, preset_name: str | None, take_path: Path | None, size: str, fps: str,
    seconds: str, focal: float | None, amount: float, pace: float, seed: int | None, output: Path, overwrite: bool,
) -> None:  # fmt: skip
    """Write the motion of a project's shot, of a preset or of a take, as numbers."""
    if sum(each is not None for each in (project, preset_name, take_path)) != 1:
        raise RequestError("Give either a project or --preset or --take.")
    _focal(focal)
    actions.not_over(output, project, take_path)
    if project is not None:
        _there(project)
        shots = actions.pick_shots(actions.open_project(project), shot_name)
        if not shots:
            raise RequestError(f"{project.name} has no shots: nothing moves in it.")
        shot = shots[0]
        text = actions.shot_motion(_tuned_shot(shot, amount, pace, seed))
    else:
        rate = parse_rate(fps)
        preset = takes.preset_of(takes.read(take_path), focal) if take_path else library.preset(preset_name)  # type: ignore[arg-type]
        text = actions.preset_motion(
            _tuned(preset, amount, pace, seed),
            size=parse_size(size), rate=rate, seconds=parse_time(seconds, rate), focal_mm=focal,
        )  # fmt: skip
    actions.write_text(output, text, overwrite=overwrite)


@commands.command()
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
    _focal(focal)
    preset = _tuned(library.preset(preset_name), amount, 1.0, None)
    click.echo(actions.margin(preset, parse_size(size), focal, output, overwrite=overwrite))


@commands.command()
@click.option("--json", "as_json", is_flag=True, help="As a JSON list.")
def presets(as_json: bool) -> None:
    """List the presets."""
    if as_json:
        click.echo(actions.presets_json())
        return
    for each in library.presets():
        click.echo(f"{each.name}  ({each.group})\n    {each.note}")


@commands.command()
@click.argument("file", type=FILE)
@click.option("--json", "as_json", is_flag=True, help="As one JSON object.")
def info(file: Path, as_json: bool) -> None:
    """Say what a file holds."""
    _pictures_there(file)
    facts = actions.describe(file)
    if as_json:
        click.echo(json.dumps(facts, indent=2, ensure_ascii=False))
        return
    for key, value in facts.items():
        if isinstance(value, dict):
            value = ", ".join(f"{k} {v}" for k, v in value.items())
        elif isinstance(value, list):
            value = "; ".join(v if isinstance(v, str) else ", ".join(map(str, v.values())) for v in value) or "none"
        click.echo(f"{key.replace('_', ' ')}: {value}")


def _tuned(preset: Preset, amount: float, pace: float, seed: int | None) -> Preset:
    return Preset(
        preset.name, preset.group, preset.note,
        actions.tuned(preset.shake, amount=amount, pace=pace, seed=seed), preset.focal_mm,
    )  # fmt: skip


def _tuned_shot(shot: Shot, amount: float, pace: float, seed: int | None) -> Shot:
    return replace(shot, shake=actions.tuned(shot.shake, amount=amount, pace=pace, seed=seed))


def _there(path: Path) -> None:
    if not _exists(path):
        raise MissingFile(f"{path} is not there: check the name and the folder.")
    if path.is_dir():
        raise RequestError(f"{path} is a folder: name a file.")


def _pictures_there(path: Path) -> None:
    """The same for what may be a sequence: a pattern or a folder."""
    if not actions.is_sequence(path):
        _there(path)


def _exists(path: Path) -> bool:
    try:
        return path.exists()
    except (OSError, ValueError):
        return False


def _focal(focal: float | None) -> None:
    if focal is not None and not 1 <= focal <= 1e5:
        raise RequestError(f"A focal length of {focal:g} mm cannot be used: give 1 mm or more.")


def _render(shots: tuple[Shot, ...], output: Path, clean: Path | None, codec: str, overwrite: bool) -> None:
    outputs = (output,) if clean is None else (output, clean)
    if notes := actions.check(outputs, codec, shots, overwrite=overwrite):
        _say("; ".join(notes) + ".")
    for number, path in enumerate(outputs):
        actions.render(shots, path, Bar(path.name), codec_name=codec, overwrite=overwrite, shaken=number == 0)


class Bar:
    """A progress bar with time left, on a terminal only."""

    def __init__(self, name: str) -> None:
        self._name = name
        self._bar: Any = None
        self._done = 0

    def __call__(self, done: int, total: int) -> None:
        if not sys.stderr.isatty():
            return
        if self._bar is None:
            self._bar = click.progressbar(length=total, label=self._name, file=sys.stderr, show_pos=True)
            self._bar.render_progress()
        self._bar.update(done - self._done)
        self._done = done
        if done >= total:
            self._bar.render_finish()
