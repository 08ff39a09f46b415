"""The library: its page's examples, its promises, and that it says no in one sentence."""

from __future__ import annotations

import inspect
import re
import shutil
from pathlib import Path

import numpy as np
import pytest

from clips import decoded
from young_tremor import api
from young_tremor.engine import library

PAGE = Path(__file__).parents[1] / "docs/api.md"


def test_the_examples_of_the_page_run_as_they_stand(tmp_path: Path, monkeypatch, capsys) -> None:  # type: ignore[no-untyped-def]
    for name in ("press-wide.mp4", "platen-close.mp4", "aisle-walk.mp4"):
        shutil.copy(library.ASSETS / "demo" / name, tmp_path)
    monkeypatch.chdir(tmp_path)
    known: dict = {}
    for code in re.findall(r"```python\n(.*?)```", PAGE.read_text(), re.DOTALL):
        exec(compile(code, PAGE.name, "exec"), known)
    made = {path.name for path in tmp_path.iterdir()}
    assert {"press-shaken.mp4", "press-clean.mp4", "walk.csv", "press.usda", "scene.tremor", "maps"} <= made
    assert [film.name for film in known["films"]] == ["01 press-wide.mov", "02 platen-close.mov"]
    assert "01 press-wide motion.csv" in made
    assert len(list((tmp_path / "maps").iterdir())) == 2
    said = capsys.readouterr().out
    assert "01 press-wide: 24 frames" in said
    assert "press-shaken.mp4 exists already" in said
    for name in re.findall(r"`(\w+)`", PAGE.read_text().partition("| function |")[2]):
        assert name in api.__all__


def test_everything_public_is_typed_told_and_grows_by_keyword_only() -> None:
    for name in api.__all__:
        each = getattr(api, name)
        if not inspect.isfunction(each):
            continue
        assert each.__doc__, name
        asked = inspect.signature(each)
        assert asked.return_annotation is not inspect.Parameter.empty, name
        places = [p for p in asked.parameters.values() if p.kind is p.POSITIONAL_OR_KEYWORD]
        assert len(places) <= 2, f"{name}: more than two by place would freeze their order"
        assert all(p.annotation is not p.empty for p in asked.parameters.values()), name


def test_a_still_project_is_bit_for_bit_its_footage(footage: Path, tmp_path: Path) -> None:
    project = api.open(footage)
    api.render(project, tmp_path / "same.mkv", form="ffv1", end=0.25)
    before, after = decoded(footage)[:18], decoded(tmp_path / "same.mkv")
    assert len(after) == 18, "three planes of six frames"
    assert all(np.array_equal(a, b) for a, b in zip(before, after, strict=True))


def test_what_stops_the_work_leaves_nothing_and_wrong_requests_are_one_sentence(footage: Path, tmp_path: Path) -> None:
    class Enough(Exception):
        pass

    def enough(name: str, done: int, total: int) -> None:
        raise Enough

    shot = api.shake(footage, seconds=0.5)
    with pytest.raises(Enough):
        api.render(shot, tmp_path / "a.mp4", report=enough)
    assert not list(tmp_path.iterdir())
    for wrong in (
        lambda: api.shake(tmp_path / "none.mp4"),
        lambda: api.shake(footage, preset="walking", take=footage),
        lambda: api.shake(footage, preset="no such thing"),
        lambda: api.shake(footage, shutter=900),
        lambda: api.shake(footage, edges="upwards"),
        lambda: api.shake(footage, size="wide"),
        lambda: api.render(shot, tmp_path / "a.mp4", form="celluloid"),
        lambda: api.render(shot, tmp_path / "a.mp4", loudness=3),
        lambda: api.render((), tmp_path / "a.mp4"),
        lambda: api.render(shot, tmp_path / "a.mp4", start=1.0),
        lambda: api.deliver(api.open(footage), tmp_path, frames=(1, 2)),
        lambda: api.motion("walking", seconds=-1),
        lambda: api.open("a\0b"),
    ):
        with pytest.raises(api.TremorError) as error:
            wrong()
        assert str(error.value).strip()
        assert "\n" not in str(error.value)
    assert not list(tmp_path.iterdir())
