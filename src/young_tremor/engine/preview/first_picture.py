"""The first picture of a window, made while the window itself is still being built."""

from __future__ import annotations

import importlib
from contextlib import suppress
from pathlib import Path

from msgspec.structs import replace

from young_tremor.base.errors import TremorError
from young_tremor.document import store
from young_tremor.engine.analysis import reel_layout
from young_tremor.engine.library import preset_library, settings
from young_tremor.engine.media import footage
from young_tremor.engine.preview.preview_worker import PictureRequest, PreviewWorker
from young_tremor.model import shot_edits
from young_tremor.model.project import Preset, Project, Shot

LARGEST = 4096  # pixels of a side


def read_first(preview: PreviewWorker, begun_with: list[str]) -> None:
    """Make the first picture of what a window is begun with, ``demo`` or files, as large as the last window showed it.
    What is wrong with a file is said to whoever asks for it next."""
    with suppress(TremorError):
        if begun_with == ["demo"]:
            shot = _first_shot(preset_library.demo_project())
        elif begun_with and begun_with[0].endswith(".tremor"):
            shot = _first_shot(store.load(Path(begun_with[0])))
        else:
            shot = _footage(begun_with, preset_library.starting_preset())
        if shot is not None:
            width, height = (min(max(side, 2), LARGEST) for side in settings.load().looked)
            preview.ask(PictureRequest(replace(shot, others=()), (width, height), "shaken", 0, fill=False))


def import_libraries() -> None:
    """Import what the first take, sound or figures need, which takes a second. For a thread that nobody waits for."""
    for name in ("ndimage", "interpolate", "optimize", "signal"):
        importlib.import_module(f"scipy.{name}")


def _first_shot(project: Project) -> Shot | None:
    """The first shot as it is looked at, before anything is known of the others."""
    if not project.shots:
        return None
    media = project.shots[0].footage.media
    info = footage.info_of(media, footage.HD)
    return reel_layout.viewed_shot(project, project.shots[0].id, lambda other: info if other == media else None)


def _footage(paths: list[str], preset: Preset) -> Shot | None:
    if not paths or not Path(paths[0]).is_file() or paths[0].endswith((".otio", ".edl")):
        return None
    name = footage.resolve_path(paths[0])
    seconds = float(footage.facts(name).info.seconds)
    return shot_edits.add_shot(Path(name), preset, seconds)(Project()).shots[0]
