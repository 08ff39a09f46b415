from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

import pytest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from clips import clip
from young_tremor.engine.system import log


@pytest.fixture(autouse=True)
def own_data(tmp_path_factory: pytest.TempPathFactory, monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    """Presets, settings and a log of the tests' own."""
    folder = tmp_path_factory.mktemp("data")
    monkeypatch.setenv("LANGUAGE", "en")
    monkeypatch.setenv("XDG_DATA_HOME", str(folder))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(folder / "config"))
    monkeypatch.setenv("XDG_STATE_HOME", str(folder / "state"))
    monkeypatch.setenv("XDG_CACHE_HOME", str(folder / "cache"))
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(folder))
    yield folder
    log.stop()


@pytest.fixture(scope="session")
def footage(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Two seconds of numbered footage with sound."""
    return clip(tmp_path_factory.mktemp("footage") / "wall.mp4", frames=48, size=(640, 360), audio=True)
