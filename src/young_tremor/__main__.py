"""``young-tremor``: the command line, or the window."""

from __future__ import annotations

import gc
import os
import sys
from contextlib import suppress

COMMANDS = (
    "shake",
    "measure",
    "motion",
    "margin",
    "reel",
    "render",
    "deliver",
    "sound",
    "stmap",
    "gyro",
    "presets",
    "info",
    "ask",
    "completion",
    "desktop",
)


def main(args: list[str] | None = None) -> int:
    """Run a command; without one, open the window (on ``demo``, a project, or footage): the one that is open if it can
    take them, a new one after ``new-window``."""
    args = sys.argv[1:] if args is None else args
    try:
        return _run(args)
    except KeyboardInterrupt:  # so early that nobody else has caught it
        print("young-tremor: Stopped.", file=sys.stderr)
        return 130


def _run(args: list[str]) -> int:
    asked = "_YOUNG_TREMOR_COMPLETE" in os.environ  # by a shell that completes
    if asked or (args and (args[0] in COMMANDS or args[0].startswith("-"))):
        from young_tremor.cli.main import main as run

        return run(args)
    if args and args[0] not in ("demo", "new-window") and len(args) > 1 and not os.path.exists(args[0]):
        import difflib

        near = difflib.get_close_matches(args[0], COMMANDS, 1)
        meant = f": did you mean {near[0]}?" if near else f" among {', '.join(COMMANDS)}."
        print(f"young-tremor: There is no command “{args[0]}”{meant}", file=sys.stderr)
        return 2
    fresh = args[:1] == ["new-window"]
    args = args[1:] if fresh else args
    if not fresh and args != ["demo"]:
        from young_tremor.base import single_instance

        if single_instance.hand_over(args):
            return 0
    gc.disable()  # until the window stands: all that is made before that stays
    from young_tremor.engine.preview import launch

    launch.begin(args)
    from young_tremor.desk.window.app import main as open_desk  # isort: skip

    code = open_desk(args)
    for stream in (sys.stdout, sys.stderr):
        with suppress(OSError, ValueError):
            stream.flush()
    os._exit(code)  # all is kept; threads that still read or render must not meet the end of the interpreter


if __name__ == "__main__":
    sys.exit(main())
