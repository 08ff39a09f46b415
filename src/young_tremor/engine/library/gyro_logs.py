"""Files of gyroscopes' logs: told from other tables, and read."""

from __future__ import annotations

from pathlib import Path

from young_tremor.base import files
from young_tremor.base.errors import RequestError, TremorError
from young_tremor.exchange import gyro_log

MOST_LOG = 512 << 20  # bytes of a log


def log_text(log: Path) -> str:
    """The text of a gyroscope's log."""
    data = files.read_regular(log, MOST_LOG, "gyroscope log")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise RequestError(f"{log.name} is no text: a log is a CSV file.") from None


def is_log(path: Path) -> bool:
    """Whether a CSV looks like a gyroscope's log, and not like motion."""
    try:
        text = log_text(path)
        if "x_px" in text[:4096]:
            return False
        gyro_log.read("\n".join(text[:65536].splitlines()[:64]), path.name)
    except TremorError:
        return False
    return True
