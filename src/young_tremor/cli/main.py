"""Arguments in, engine called, errors to exit codes: 0 done, 1 the work failed, 2 the request was wrong."""

from __future__ import annotations

import signal
import sys
from collections.abc import Sequence
from contextlib import suppress

import click

from young_tremor import __version__
from young_tremor.base import files
from young_tremor.base.errors import RequestError, TremorError
from young_tremor.cli import reporting
from young_tremor.cli.lazy_commands import LazyCommands
from young_tremor.engine.system import log


def main(args: Sequence[str] | None = None) -> int:
    """Run one command; the exit code. One clear line on standard error, never a traceback."""
    for item in (signal.SIGTERM, signal.SIGHUP):
        with suppress(ValueError):  # not the main thread: whoever called has the signals
            signal.signal(item, _raise_stop)
    log.start()
    files.sweep_all()
    try:
        if any("\0" in text for text in (sys.argv[1:] if args is None else args)):
            raise RequestError("A name or value cannot hold the character 0: give another.")
        result = commands.main(
            args=args, prog_name="young-tremor", standalone_mode=False, complete_var="_YOUNG_TREMOR_COMPLETE"
        )
    except (click.exceptions.Abort, KeyboardInterrupt):
        reporting.say("Stopped.")
        return 130
    except click.UsageError as error:
        reporting.say(f"{error.format_message().rstrip('.')}. See young-tremor {_name(error)}--help.")
        return 2
    except click.ClickException as error:
        reporting.say(error.format_message())
        return 2
    except TremorError as error:
        reporting.say(str(error))
        return error.exit_code
    except StopRequested as stopped:
        reporting.say("Stopped.")
        return 128 + stopped.number
    except BrokenPipeError:
        sys.stderr.close()
        return 1
    except MemoryError:
        reporting.say("There is not enough memory for this picture size.")
        return 1
    except Exception as error:
        reporting.say(log.unexpected(error))
        return 1
    return result if isinstance(result, int) else 0


class StopRequested(BaseException):
    """The system asks the command to end."""

    def __init__(self, number: int) -> None:
        self.number = number


def _raise_stop(number: int, frame: object) -> None:
    for item in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
        signal.signal(item, signal.SIG_IGN)  # it is ending; nothing comes between
    raise StopRequested(number)


def _name(error: click.UsageError) -> str:
    name = error.ctx.info_name if error.ctx and error.ctx.parent else None
    return f"{name} " if name else ""


@click.group(cls=LazyCommands, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="Young Tremor")
def commands() -> None:
    """Handheld and impact shake for locked-off footage. Without a command, a window opens."""
