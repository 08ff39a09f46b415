"""What the commands share: what is said, what has to be there, and how films are written."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Any

import click
from msgspec.structs import replace

from young_tremor.base.errors import MissingFile, RequestError
from young_tremor.engine import actions
from young_tremor.model.project import Preset, Shot

FILE = click.Path(path_type=Path)


def say(text: str) -> None:
    """One line on standard error."""
    print("young-tremor: " + " ".join(text.split()), file=sys.stderr)


def tuned(preset: Preset, amount: float, pace: float, seed: int | None) -> Preset:
    """A preset multiplied, in another course if one is said."""
    return Preset(
        preset.name, preset.group, preset.note,
        actions.tuned(preset.shake, amount=amount, pace=pace, seed=seed), preset.focal_mm,
    )  # fmt: skip


def tuned_shot(shot: Shot, amount: float, pace: float, seed: int | None) -> Shot:
    """A shot's shake multiplied, in another course if one is said."""
    return replace(shot, shake=actions.tuned(shot.shake, amount=amount, pace=pace, seed=seed))


def there(path: Path) -> None:
    """Refuse what is not there, or is a folder."""
    if not exists(path):
        raise MissingFile(f"{path} is not there: check the name and the folder.")
    if path.is_dir():
        raise RequestError(f"{path} is a folder: name a file.")


def pictures_there(path: Path) -> None:
    """The same for what may be a sequence: a pattern or a folder."""
    if not actions.is_sequence(path):
        there(path)


def exists(path: Path) -> bool:
    """Whether a path is there; what cannot be asked is not."""
    try:
        return path.exists()
    except (OSError, ValueError):
        return False


def focal(mm: float | None) -> None:
    """Refuse a focal length that no lens has."""
    if mm is not None and not 1 <= mm <= 1e5:
        raise RequestError(f"A focal length of {mm:g} mm cannot be used: give 1 mm or more.")


def write(
    shots: tuple[Shot, ...], output: Path, clean: Path | None, codec: str, overwrite: bool,
    loudness: float | None = None,
) -> None:  # fmt: skip
    """Write a film and, if wanted, a clean one; what should be known of them is said first."""
    outputs = (output,) if clean is None else (output, clean)
    if notes := actions.check(outputs, codec, shots, overwrite=overwrite):
        say("; ".join(notes) + ".")
    for number, path in enumerate(outputs):
        actions.render(
            shots, path, Bar(path.name), codec_name=codec, overwrite=overwrite, shaken=number == 0,
            loudness=loudness if number == 0 else None,
        )  # fmt: skip


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
