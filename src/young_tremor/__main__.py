"""``young-tremor``: the command line, or the window."""

from __future__ import annotations

import sys


def main(args: list[str] | None = None) -> int:
    """Run a command; without one, open the window (on ``demo``, a project, or footage)."""
    args = sys.argv[1:] if args is None else args
    from young_tremor.cli.main import COMMANDS
    from young_tremor.cli.main import main as run

    if args and (args[0] in COMMANDS or args[0].startswith("-")):
        return run(args)
    from young_tremor.desk.app import main as open_desk

    return open_desk(args)


if __name__ == "__main__":
    sys.exit(main())
