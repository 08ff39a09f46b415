"""The library: its page's examples, its promises, and that it says no in one sentence."""

from __future__ import annotations

import inspect
import re
from pathlib import Path

import numpy as np
import pytest

from clips import decoded, reduced
from young_tremor import api
from young_tremor.engine.library import preset_library

PAGE = Path(__file__).parents[1] / "docs/api.md"


def test_the_examples_of_the_page_run_as_they_stand(tmp_path: Path, monkeypatch, capsys) -> None:  # type: ignore[no-untyped-def]
    for name in ("press-wide.mp4", "platen-close.mp4", "aisle-walk.mp4"):
        reduced(preset_library.ASSETS / "demo" / name, tmp_path / name)
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


#: What an argument of a kind cannot be, by a word of its annotation.
NEVER = {
    "str": (0, b"press", [], None, object()),
    "FilePath": (0, b"press", 1.5, [], object(), "x" * 5000, "\ud800"),
    "float": ("loud", float("nan"), float("inf"), 10**400, True, 1j),
    "int": (1.5, "two", 2**60, True),
    "bool": (1, "yes", None, []),
    "Iterable": (5, "press", b"press", {"a": 1}, [object()], [b"a"]),
    "Literal": (0, "sideways", None),
    "Callable": (5, "print"),
    "tuple": (5, (1,), (1, 2, 3), ("a", "b")),
}


FITTING = {
    "project": api.Project(),
    "what": api.Project(),
    "inputs": ["a.mp4"],
    "shot": preset_library.demo_project().shots[0],
}


def test_every_argument_that_does_not_fit_is_named_in_one_sentence() -> None:
    calls = 0
    for name in api.__all__:
        function = getattr(api, name)
        if not inspect.isfunction(function):
            continue
        signature = inspect.signature(function)
        for argument, parameter in signature.parameters.items():
            kind = str(parameter.annotation).split("[")[0].split(" | ")[0].strip()
            for value in (*NEVER.get(kind, ()), object()):
                if value is None and "None" in str(parameter.annotation):
                    continue
                needed = [k for k, p in signature.parameters.items() if p.default is p.empty]
                given = {k: FITTING.get(k, "a.mp4") for k in needed}
                with pytest.raises(api.RequestError) as raised:
                    function(**(given | {argument: value}))
                words = str(raised.value)
                assert "\n" not in words
                assert f"{name}: “{argument}” cannot be" in words or isinstance(value, str), words
                calls += 1
    assert calls > 400
    with pytest.raises(api.RequestError, match="held"):
        api.gyro("log.csv", "take.csv", held=0)
    with pytest.raises(api.RequestError, match="hits"):
        api.shake(preset_library.DEMO, hits=0)
    with pytest.raises(api.RequestError, match="unexpected"):
        api.shake(preset_library.DEMO, preset_name="Walking")  # type: ignore[call-arg]


def test_hits_count_in_the_inputs_time_and_stillness_is_said(footage: Path) -> None:
    told: list[str] = []
    shot = api.shake(footage, preset="Press strike", start=0.5, hits="0.75@0.5", tell=told.append)
    assert [(hit.t, hit.strength) for hit in shot.hits] == [(0.25, 0.5)]
    assert not told
    for hits in ("0.25", "7"):
        with pytest.raises(api.RequestError, match="outside"):
            api.shake(footage, preset="Press strike", start=0.5, hits=hits)
    api.shake(footage, preset="Walking", amount=0, tell=told.append)
    assert "Nothing moves" in told[-1]
    mirrored = api.shake(footage, preset="Walking", amount=8, edges="mirror")
    assert "no frame shows an edge" in api.framing(mirrored, "a.mp4")
    assert "mirrored" in api.framing(mirrored, "a.mp4")


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
