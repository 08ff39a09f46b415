"""What this machine has for the work: versions, kernels, encoders, folders. For *About* and ``info --system``."""

from __future__ import annotations

import os
import platform
from pathlib import Path

from young_tremor import __version__, kernels
from young_tremor.base import xdg
from young_tremor.base.lazy_import import lazily
from young_tremor.engine.preview import preview_worker
from young_tremor.media import codecs

metadata = lazily("importlib.metadata")
LIBRARIES = ("numpy", "scipy", "opencv-python-headless", "av", "PySide6-Essentials", "msgspec")


def facts() -> dict[str, object]:
    """Everything, by name: text, numbers, lists of text and tables of text."""
    return {
        "version": __version__,
        "python": platform.python_version(),
        "system": f"{platform.system()} {platform.release()}",
        "processor": f"{platform.machine()}, {os.cpu_count()} cores",
        "kernels": kernels.describe(),
        "libraries": {name: _version(name) for name in LIBRARIES},
        "encoders": [codec.words for codec in codecs.CODECS.values() if codecs.is_there(codec.encoder)],
        "picture_cache_mb": (preview_worker.PICTURES + preview_worker.SOURCES) >> 20,
        "proxies_mb": _size(xdg.caches() / "reduced") >> 20,
        "folders": {
            "settings": str(xdg.config()),
            "library": str(xdg.data()),
            "state": str(xdg.state()),
            "cache": str(xdg.caches()),
        },
    }


def kernels_in_use() -> str:
    """Which kernels run."""
    return kernels.describe()


def _version(name: str) -> str:
    try:
        return str(metadata.version(name))
    except metadata.PackageNotFoundError:
        return "not installed"


def _size(folder: Path) -> int:
    """Bytes of the files in a folder; 0 if there is none."""
    try:
        return sum(entry.stat().st_size for entry in os.scandir(folder) if entry.is_file())
    except OSError:
        return 0
