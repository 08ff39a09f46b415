"""The log: errors with their tracebacks, in a file that rotates, in the XDG state folder."""

from __future__ import annotations

import logging
import logging.handlers
from pathlib import Path

from young_tremor.base import xdg

_NAME = "young_tremor"
_log = logging.getLogger(_NAME)


def path() -> Path:
    """Where the log is."""
    return xdg.state() / "young-tremor.log"


def start() -> bool:
    """Keep a log from now on; whether that can be. More than once is once."""
    if any(isinstance(handler, logging.handlers.RotatingFileHandler) for handler in _log.handlers):
        return True
    if not xdg.make_folder(path().parent):
        return False
    try:
        handler = logging.handlers.RotatingFileHandler(
            path(), maxBytes=1 << 20, backupCount=3, encoding="utf-8", delay=True
        )
    except OSError:
        return False
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(threadName)s %(name)s: %(message)s"))
    _log.addHandler(handler)
    _log.setLevel(logging.INFO)
    _log.propagate = False
    logging.raiseExceptions = False  # a log that cannot be written (disk full) is no reason to say anything
    return True


def stop() -> None:
    """Close the log."""
    for handler in [handler for handler in _log.handlers if isinstance(handler, logging.handlers.RotatingFileHandler)]:
        _log.removeHandler(handler)
        handler.close()
    _log.propagate = True


def unexpected(error: BaseException) -> str:
    """Keep an error that should not have happened, with its traceback; the sentence for the person."""
    _log.warning("unexpected", exc_info=error)
    where = f"what happened is kept in {path()}" if path().exists() else "no log could be kept"
    text = " ".join(str(error).split())[:160]
    return f"This should not have happened ({type(error).__name__}: {text}): {where}. Please report it."
