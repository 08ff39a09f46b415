"""Arguments in, engine called, errors to exit codes: 0 done, 1 the work failed, 2 the request was wrong."""

from __future__ import annotations

import json
import signal
import sys
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path

import click

from young_tremor import __version__, api
from young_tremor.base import files
from young_tremor.base.errors import RequestError, TremorError
from young_tremor.cli import at_home, delivering, examples, interchanging, parts, reels, shaking, sounding
from young_tremor.cli.parts import FILE
from young_tremor.engine import actions, log, sounds, system_info


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
        result = commands.main(
            args=args, prog_name="young-tremor", standalone_mode=False, complete_var="_YOUNG_TREMOR_COMPLETE"
        )
    except (click.exceptions.Abort, KeyboardInterrupt):
        parts.say("Stopped.")
        return 130
    except click.UsageError as error:
        parts.say(f"{error.format_message().rstrip('.')}. See young-tremor {_name(error)}--help.")
        return 2
    except click.ClickException as error:
        parts.say(error.format_message())
        return 2
    except TremorError as error:
        parts.say(str(error))
        return error.exit_code
    except Stopped as stopped:
        parts.say("Stopped.")
        return 128 + stopped.number
    except BrokenPipeError:
        sys.stderr.close()
        return 1
    except MemoryError:
        parts.say("There is not enough memory for this picture size.")
        return 1
    except Exception as error:
        parts.say(log.unexpected(error))
        return 1
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


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="Young Tremor")
def commands() -> None:
    """Handheld and impact shake for locked-off footage. Without a command, a window opens."""


@commands.command()
@click.argument("clip", type=FILE)
@click.option("-o", "--output", type=FILE, required=True, help="The CSV to write.")
@click.option("--from", "start", default="0", help="Seconds, minutes (1:30) or timecode at which to begin.")
@click.option("--to", "end", help="Seconds, minutes (1:30) or timecode at which to end; the clip's end if left out.")
@click.option("--shield", "shields", multiple=True, metavar="X,Y,W,H", help="A part not to look at, in pixels.")
@click.option("--focal", type=float, help="Focal length of the clip in mm, for a sensor 36 mm wide.")
@click.option("--other", is_flag=True, help="Of two things that move, take the other one for the scene.")
@click.option("--overwrite", is_flag=True, help="Replace an existing output.")
def measure(
    clip: Path, output: Path, start: str, end: str | None, shields: tuple[str, ...], focal: float | None,
    other: bool, overwrite: bool,
) -> None:  # fmt: skip
    """Measure the motion of a handheld clip."""
    api.measure(
        clip, output, start=start, end=end, shields=shields, focal_mm=focal, other=other, overwrite=overwrite,
        tell=parts.say, report=parts.Bars(),
    )  # fmt: skip


@commands.command()
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
    project: Path | None, shot_name: str | None, preset_name: str | None, take_path: Path | None, size: str, fps: str,
    seconds: str, focal: float | None, amount: float, pace: float, seed: int | None, distance: float,
    keys: float | None, channel: str | None, output: Path, overwrite: bool,
) -> None:  # fmt: skip
    """Write the motion of a project's shot, of a preset or of a take, as numbers."""
    if sum(each is not None for each in (project, preset_name, take_path)) != 1:
        raise RequestError("Give either a project or --preset or --take.")
    actions.not_over(output, project, take_path)
    what: api.Project | api.Take | str
    if project is not None:
        what = api.open(project)
    else:
        what = api.read_take(take_path) if take_path is not None else str(preset_name)
    found = api.motion(
        what, shot=shot_name, size=size, fps=fps, seconds=seconds, focal_mm=focal, amount=amount, pace=pace, seed=seed
    )
    found.save(output, distance=distance, keys=keys, channel=channel, overwrite=overwrite)


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
    click.echo(api.margin(preset_name, size=size, focal_mm=focal, amount=amount, output=output, overwrite=overwrite))


@commands.command()
@click.option("--json", "as_json", is_flag=True, help="As a JSON list.")
def presets(as_json: bool) -> None:
    """List the presets, and the sounds after them."""
    if as_json:
        click.echo(actions.presets_json())
        return
    for each in api.presets():
        click.echo(f"{each.name}  ({each.group})\n    {each.note}")
    for name, kind, note in sounds.listed():
        click.echo(f"{name}  ({kind}, a sound)\n    {note}")


@commands.command()
@click.argument("file", type=FILE, required=False)
@click.option("--json", "as_json", is_flag=True, help="As one JSON object.")
@click.option("--loudness", is_flag=True, help="Measure how loud it is, also where that takes a while.")
@click.option("--system", is_flag=True, help="Versions, kernels, encoders, cache sizes and folders of this machine.")
def info(file: Path | None, as_json: bool, loudness: bool, system: bool) -> None:
    """Say what a file holds, or what this machine has."""
    if system == (file is not None):
        raise click.UsageError("Name one file, or ask for --system.")
    facts = system_info.facts() if file is None else api.info(file, loudness=loudness)
    if as_json:
        click.echo(json.dumps(facts, indent=2, ensure_ascii=False))
        return
    for key, value in facts.items():
        if isinstance(value, dict):
            value = ", ".join(f"{k} {v}" for k, v in value.items())
        elif isinstance(value, list):
            value = "; ".join(v if isinstance(v, str) else ", ".join(map(str, v.values())) for v in value) or "none"
        click.echo(f"{key.replace('_', ' ')}: {value}")


for each in (
    shaking.shake,
    reels.reel,
    reels.render,
    sounding.sound,
    delivering.deliver,
    interchanging.stmap,
    interchanging.gyro,
    at_home.completion,
    at_home.desktop,
):
    commands.add_command(each)
for each in commands.commands.values():
    examples.show_under(each)
