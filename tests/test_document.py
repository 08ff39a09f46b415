from __future__ import annotations

import json
from pathlib import Path

import jsonschema
import pytest

from young_tremor.base.errors import BrokenDocument, DiskError, DocumentError, ForeignDocument, NewerDocument
from young_tremor.document import codec, store
from young_tremor.document.migrations import VERSION
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.model import shot_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Project
from young_tremor.model.shake import Point

DOCS = Path(__file__).parents[1] / "docs"


def project(folder: Path) -> Project:
    made = shot_edits.add_shot(folder / "clips" / "press.mp4", preset_library.preset("walking"))(Project())
    shot = made.shots[0]
    made = shot_edits.set_shake(shot.id, intensity=Curve(1.0, (Key(0, 0.2), Key(1.5, 1.4, "free", 0.1, 0.2))))(made)
    return shot_edits.set_frame(shot.id, edges="mirror", focal_mm=85.0)(made)


def test_round_trip_relative_paths_and_schema(tmp_path: Path) -> None:
    made, path = project(tmp_path), tmp_path / "proof night.tremor"
    store.save(made, path)
    raw = json.loads(path.read_text())
    assert raw["project"]["shots"][0]["plates"][0]["media"]["path"] == "clips/press.mp4"
    assert store.load(path) == made
    schema = json.loads((preset_library.ASSETS / "project.schema.json").read_text())
    assert schema == json.loads(codec.schema_json()), "refresh src/young_tremor/assets/project.schema.json"
    jsonschema.validate(raw, schema)
    jsonschema.validate(json.loads(preset_library.DEMO.read_text()), schema)
    moved = tmp_path / "elsewhere"
    moved.mkdir()
    path.rename(moved / path.name)
    assert store.load(moved / path.name).shots[0].plates[0].media.path == str(moved / "clips/press.mp4")


@pytest.mark.parametrize(
    ("content", "error"),
    [
        (b"", BrokenDocument),
        (b"\xff\xfe\x00", BrokenDocument),
        (b'{"format": "young-tremor project", "version": 1, "project": {"shots": [{"id": 3}]}}', BrokenDocument),
        (b'{"format": "young-tremor project", "version": 1, "project": {"later": 1}, "extra": 2}', BrokenDocument),
        (b'{"format": "young-tremor project", "version": "x", "project": {}}', BrokenDocument),
        (b'{"format": "young-tremor project", "version": 99, "anything": []}', NewerDocument),
        (b'{"some": "json"}', ForeignDocument),
        (b"[1, 2]", ForeignDocument),
    ],
)
def test_bad_files_say_one_sentence_and_change_nothing(tmp_path: Path, content: bytes, error: type) -> None:
    path = tmp_path / "bad.tremor"
    path.write_bytes(content)
    session = Session(project(tmp_path))
    before = session.project
    with pytest.raises(error) as caught:
        session.load(path)
    assert session.project is before
    assert "bad.tremor" in str(caught.value)
    assert "\n" not in str(caught.value)
    assert isinstance(caught.value, DocumentError)
    assert path.read_bytes() == content


def test_saving_is_whole_or_not_at_all(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "kept.tremor"
    store.save(project(tmp_path), path)
    kept = path.read_bytes()

    def full(fd: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    with pytest.raises(DiskError, match=r"disk is full.*kept\.tremor"):
        store.save(Project(), path)
    assert path.read_bytes() == kept
    assert not list(tmp_path.glob("*.part*")) + list(tmp_path.glob(".*"))
    monkeypatch.undo()
    path.write_text('{"format": "young-tremor project", "version": 99}')
    with pytest.raises(NewerDocument):
        store.save(Project(), path)


def test_presets_file_round_trip(tmp_path: Path) -> None:
    data = codec.encode_presets(preset_library.presets())
    assert codec.decode_presets(data, "own.json") == preset_library.presets()


def test_a_file_of_version_1_opens_with_its_pivots(tmp_path: Path) -> None:
    made = project(tmp_path)
    raw = json.loads(codec.encode_project(made, tmp_path))
    raw["version"] = 1
    raw["project"]["shots"][0]["frame"]["pivot"] = {"x": 0.25, "y": -0.5}
    raw["project"]["shots"][0]["shake"]["strands"][0]["pivot"] = {"x": 0.1}
    opened = codec.decode_project(json.dumps(raw).encode(), tmp_path, "old.tremor").shots[0]
    assert opened.frame.pivot == Point(Curve(0.25), Curve(-0.5))
    assert opened.shake.strands[0].pivot == Point(Curve(0.1))
    assert opened.shake.strands[1:] == made.shots[0].shake.strands[1:]


@pytest.mark.parametrize("version", [1, 2, 3, 4, 5, 6])
def test_stored_files_of_every_older_version_open_and_are_written_as_today(tmp_path: Path, version: int) -> None:
    path = tmp_path / "old.tremor"
    path.write_bytes((Path(__file__).parent / "data" / f"version-{version}.tremor").read_bytes())
    assert json.loads(path.read_text())["version"] == version
    opened = store.load(path)
    assert opened.shots[0].name == "Press, wide"
    assert all(shot.shake.strands for shot in opened.shots)
    store.save(opened, path)
    raw = json.loads(path.read_text())
    assert raw["version"] == VERSION
    assert raw["project"]["shots"][0]["frame"]["shutter"]["phase"] == 0  # defaults are written out
    assert store.load(path) == opened
