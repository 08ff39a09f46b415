"""Nothing is lost: documents that load can be saved, files keep what they are, and nothing odd comes in."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path
from typing import get_args, get_type_hints

import numpy as np
import pytest
from msgspec.structs import replace

import fuzz
from clips import clip
from test_document import project
from test_films import quiet, still
from young_tremor.base import files
from young_tremor.base.errors import (
    BrokenDocument,
    ChangedOnDisk,
    RequestError,
    TremorError,
    UnreadableValue,
    WriteProtected,
)
from young_tremor.cli.main import main
from young_tremor.desk.panels import panel
from young_tremor.document import codec, store
from young_tremor.engine.delivery import actions
from young_tremor.engine.document import recovery
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library, settings, takes
from young_tremor.engine.system import log
from young_tremor.engine.system.jobs import Job
from young_tremor.model import fields, shake, shot_edits
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Project, Size
from young_tremor.model.take import Take, pack_rows
from young_tremor.motion.strand_kinds import STRAND_KINDS

RUN = [sys.executable, "-m", "young_tremor"]


@pytest.mark.parametrize("kind", ["project", "preset", "table", "clip"])
def test_whatever_comes_in_only_our_own_errors_come_out(tmp_path: Path, kind: str) -> None:
    found, bad, memory = fuzz.run(kind, 150, fuzz.seeds(tmp_path)[kind], first=50_000)
    assert bad == []
    assert found["taken"] > 0 < found["refused"]
    assert memory < fuzz.MOST_BYTES


ABSURD = {
    '"share": 1.0': '"share": Infinity',
    '"rate": {"value": 0.6': '"rate": {"value": 1e999999999',
    '"focal_mm": 85.0': '"focal_mm": 1e-300',
    '"hold": 1.2': '"hold": 1e-9',
    '"pace": {"value": 1.0': '"pace": {"value": -1e999',
    '"seed": 1': '"seed": 9223372036854775808',
}


def test_absurd_numbers_are_refused_by_name_and_the_file_is_left_alone(tmp_path: Path) -> None:
    data = codec.encode_project(project(tmp_path), tmp_path).decode()
    flat = json.dumps(json.loads(data))
    tried = 0
    for was, absurd in ABSURD.items():
        if was in flat:
            tried += 1
            path = tmp_path / "absurd.tremor"
            path.write_text(flat.replace(was, absurd))
            with pytest.raises(BrokenDocument, match=r"absurd\.tremor is"):
                store.load(path)
    assert tried >= 4
    for text in ("[" * 900, '{"format": "young-tremor project", "version": 3, "project": ' + "[" * 900, "\x00"):
        with pytest.raises(TremorError):
            codec.decode_project(text.encode(), tmp_path, "deep.tremor")
    many = shake.Shake((shake.Drift("d"),))
    for bad in (
        lambda: Size(1920, 1080, "abc"),
        lambda: Size(1920, 1080, "1/0"),
        lambda: Size(0, 1080),
        lambda: Size(2**62, 1080),
        lambda: shake.Shimmer("s", speed=1e300),
        lambda: shake.Shimmer("s", octaves=10**9),
        lambda: shake.Rests(0.5, 1e-9),
        lambda: shake.Drift("d", name="\ud800"),
        lambda: replace(many, strands=tuple(shake.Drift(str(k)) for k in range(100_000))),
        lambda: replace(many, strands=many.strands * 2),
        lambda: Curve(0.0, (Key(1.0, 1.0), Key(0.5, 1.0))),
        lambda: Take("t", "t", 1920, 1080, pack_rows(np.full((3, 8), 1e308))),
        lambda: replace(project(tmp_path).shots[0], plates=()),
    ):
        with pytest.raises(UnreadableValue) as caught:
            bad()
        assert "\n" not in str(caught.value)


def test_every_number_is_within_its_bounds_as_it_comes_and_as_it_is_typed() -> None:
    structs = {**fields.structs_below(codec.ProjectFile), **fields.structs_below(settings.Settings)}
    numbers = {f"{kind}.{name}": (struct, name) for kind, struct in structs.items() for name in fields.numbers(struct)}
    assert len(numbers) > 150
    for where, (struct, name) in numbers.items():
        field, default = fields.number_at(struct, name), fields.default_at(struct, name)
        low, high = field.bounds
        value = default.value if isinstance(default, Curve) else default
        assert value is None or low <= value <= high, where
        assert field.label[:1].isupper(), where
        assert field.tip, where
        if field.scale is not None and "0 is not known" not in field.tip:
            least, most = field.scale.limits
            assert low <= least / field.per <= most / field.per <= high, where
    for struct in structs.values():
        for name, field in fields.fields(struct).items():
            if isinstance(field, fields.Choice):
                hint = get_type_hints(struct)[name]
                if hint is str:  # one of these, or of what a person brings along
                    assert [struct(**{name: key}) for key, _ in field.options]
                    with pytest.raises(TremorError):
                        struct(**{name: "none of these"})
                    continue
                words = {True, False, None} if hint == bool | None else set(get_args(hint))
                assert {key for key, _ in field.options} == words, (struct, name)


def test_every_kind_of_strand_has_its_entry_its_row_and_its_panel() -> None:
    assert set(STRAND_KINDS) == set(shake.STRAND_TYPES)
    assert set(panel.PANELS) <= set(STRAND_KINDS)
    for kind in shake.STRAND_TYPES:
        assert isinstance(fields.field_at(kind, kind.SECOND), fields.Number)
    for kind in STRAND_KINDS.values():
        if kind.fresh is not None:
            made = kind.fresh("a", 3)
            assert type(made) is kind.type
            assert kind.reach(made).shape == (6,)
            assert kind.sample(made, np.linspace(0, 1, 9), Curve(1.0), ()).shape == (9, 6)


def test_saving_keeps_what_the_file_is_and_nobodys_work_is_lost(tmp_path: Path) -> None:
    made, real = project(tmp_path), tmp_path / "real.tremor"
    session = Session(made)
    session.save(real)
    real.chmod(0o640)
    link = tmp_path / "link.tremor"
    link.symlink_to(real)
    store.save(Project(), link)
    assert link.is_symlink()
    assert real.stat().st_mode & 0o777 == 0o640
    assert store.load(real) == Project()
    assert store.load(tmp_path / "real.tremor~") == made  # the one before
    assert session.changed_on_disk
    session.apply("Name", shot_edits.set_shot(made.shots[0].id, name="Other"))
    with pytest.raises(ChangedOnDisk, match=r"real\.tremor was changed"):
        session.save()
    assert store.load(real) == Project()
    session.save(force=True)
    assert store.load(real) == session.project
    real.unlink()
    with pytest.raises(ChangedOnDisk, match="moved or deleted"):
        session.save()
    session.save(force=True)
    real.chmod(0o440)
    with pytest.raises(WriteProtected):
        store.save(made, real)
    os.mkfifo(tmp_path / "pipe.tremor")
    for door in (store.load, preset_library.shake_file, takes.read):
        for odd in (tmp_path / "pipe.tremor", Path("/dev/zero"), tmp_path):
            with pytest.raises(RequestError):
                door(odd)


def test_a_take_stands_once_in_a_file_and_is_shared_in_memory(tmp_path: Path) -> None:
    rng = np.random.default_rng(1)
    table = np.column_stack(
        [np.arange(200) / 24, *rng.normal(size=(3, 200)), np.ones(200), np.zeros((200, 2)), np.ones(200)]
    )
    take = Take("t", "Hand", 1920, 1080, pack_rows(table))
    base = project(tmp_path)
    mine = tuple(shake.Taken(f"s{k}", take=take) for k in range(5))
    other = shake.Taken(
        "o", take=replace(take, rows=pack_rows(table * 2 + [*[0] * 4, -1, 0, 0, 0]))
    )  # the same id, other data
    made = shot_edits.add_take(take)(shot_edits.set_shake(base.shots[0].id, strands=(*mine, other))(base))
    made = shot_edits.add_variant(base.shots[0].id)(made)
    data = codec.encode_project(made, tmp_path)
    assert data.count(b'"rows": "') == 2
    again = codec.decode_project(data, tmp_path, "a")
    assert again == made
    strands = again.shots[0].shake.strands
    assert strands[0].take is strands[4].take is again.takes[0]
    assert strands[5].take != take


def test_favourites_and_presets_of_two_windows_are_all_kept(own_data: Path) -> None:
    def star(number: int) -> None:
        for k in range(10):
            settings.update(lambda s, name=f"{number} {k}": replace(s, favourites=(*s.favourites, name)))

    threads = [threading.Thread(target=star, args=(n,)) for n in range(5)]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    assert len(settings.load().favourites) == 50
    walking = preset_library.preset("walking")
    names = ("a/b", "a:b", "a_b", "A_b", "é" * 200, "..", " con ")
    for name in names:
        preset_library.save_own(replace(walking, name=name))
        preset_library.save_own(replace(walking, name=name, note="again"))
    kept, bad = preset_library.own()
    assert sorted(each.name for each in kept) == sorted(name.strip() for name in names)
    assert {each.note for each in kept} == {"again"}
    assert bad == ()
    assert {files.file_name(name, ".json") for name in ("a/b", "a:b", "a_b", "A_b")}.__len__() == 4
    preset_library.remove_own("a:b")
    assert "a/b" in [each.name for each in preset_library.own()[0]]


def test_unexpected_errors_are_kept_with_their_traceback(
    monkeypatch: pytest.MonkeyPatch, capsys, footage: Path
) -> None:  # type: ignore[no-untyped-def]
    def fail(*args: object, **more: object) -> None:
        raise KeyError("ink")

    monkeypatch.setattr("young_tremor.engine.media.description.describe", fail)
    assert main(["info", str(footage)]) == 1
    said = capsys.readouterr().err
    assert said.count("\n") == 1
    assert str(log.path()) in said
    kept = log.path().read_text()
    assert "Traceback" in kept
    assert "KeyError: 'ink'" in kept
    job = Job("test", fail).start()
    assert job.wait(5)
    assert str(log.path()) in job.error


def lose(part: files.PartFile) -> None:
    """Let go of a part as the end of its process does."""
    os.close(part._number)
    part._number, part._unfinished = -1, False


def test_what_was_under_way_when_its_writer_went_is_swept(tmp_path: Path) -> None:
    out = tmp_path / "proof.mp4"
    part = files.PartFile(out)
    part.write(b"half")
    os.utime(part.path, (time.time() - 60,) * 2)
    assert files.sweep_all() == 0  # somebody holds it
    lose(part)
    assert files.sweep_all() == 1
    assert list(tmp_path.iterdir()) == []
    # only the very file that was noted goes: not another of that name, nor one that a forged note names
    replaced = files.PartFile(out)
    lose(replaced)
    replaced.path.rename(tmp_path / "moved")
    replaced.path.write_text("somebody else's")
    plain = tmp_path / "diary.txt"
    plain.write_text("dear diary")
    facts = plain.stat()
    (log.path().parent / "under-way" / "forged").write_text(f"{facts.st_dev}\n{facts.st_ino}\n{plain}")
    (log.path().parent / "under-way" / "older").write_text(str(plain))
    for path in (replaced.path, plain):
        os.utime(path, (time.time() - 60,) * 2)
    assert files.sweep_all() == 0
    assert {path.name for path in tmp_path.iterdir()} == {replaced.path.name, "moved", "diary.txt"}


@pytest.mark.parametrize(("number", "code"), [(signal.SIGTERM, 143), (signal.SIGHUP, 129), (signal.SIGINT, 130)])
def test_a_command_that_is_ended_leaves_nothing(tmp_path: Path, number: int, code: int) -> None:
    source = clip(tmp_path / "in.mp4", frames=480, size=(640, 360), options={"preset": "ultrafast"})
    folder = tmp_path / "out"
    folder.mkdir()
    process = subprocess.Popen(
        [*RUN, "shake", str(source), "-o", str(folder / "a.mp4")],
        stderr=subprocess.PIPE,
        text=True,
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.SIG_DFL),  # whoever runs this may ignore it
    )
    deadline = time.monotonic() + 60
    while not any(folder.glob(".*.part.mp4")) and time.monotonic() < deadline:
        os.sched_yield()
    process.send_signal(number)
    _, said = process.communicate(timeout=60)
    assert process.returncode == code
    assert said.strip().endswith("young-tremor: Stopped.")
    assert "Traceback" not in said
    assert list(folder.iterdir()) == []


def test_without_a_home_or_with_folders_that_cannot_be_written_it_works(tmp_path: Path, footage: Path) -> None:
    odd = {
        "PATH": os.environ["PATH"],
        "XDG_STATE_HOME": "/proc/nothing",
        "XDG_DATA_HOME": "/proc/nothing",
        "XDG_CONFIG_HOME": "/proc/nothing",
    }
    done = subprocess.run([*RUN, "info", str(footage)], env=odd, capture_output=True, text=True, check=False)
    assert done.returncode == 0
    assert "Traceback" not in done.stderr


def test_outputs_that_are_inputs_or_no_files_are_refused_before_any_work(tmp_path: Path, footage: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    path = tmp_path / "p.tremor"
    shot = replace(still(footage), end=0.5)
    store.save(Project((shot,)), path)
    before = path.read_bytes()
    os.mkfifo(tmp_path / "pipe.mp4")
    (tmp_path / "there.mp4").write_text("mine")
    (tmp_path / "link.mp4").symlink_to(tmp_path / "there.mp4")
    for words, said in (
        (("motion", path, "-o", path, "--overwrite"), "what it would be made from"),
        (("shake", footage, "-o", "-"), "name a file"),
        (("shake", footage, "-o", tmp_path / "pipe.mp4", "--overwrite"), "device or a pipe"),
        (("shake", footage, "-o", tmp_path / "a.mp4", "--clean", tmp_path / "no" / "b.mp4"), "is not there"),
        (("shake", footage, "-o", tmp_path / "a.mp4", "--clean", tmp_path / "a.mp4"), "a name of its own"),
        (("shake", footage, "-o", tmp_path / "a.mp4", "--preset", ""), "empty"),
        (("render", footage, "-o", tmp_path / "a.mp4"), "footage, not a project"),
        (("measure", footage, "-o", tmp_path / "a.csv", "--shield", "9000,0,10,10"), "outside the picture"),
        (("shake", "a\0b.mp4", "-o", tmp_path / "a.mp4"), "character 0"),
    ):
        assert main([str(each) for each in words]) == 2
        told = capsys.readouterr().err
        assert said in told
        assert told.count("\n") == 1
    assert path.read_bytes() == before
    assert not (tmp_path / "a.mp4").exists()
    actions.render((shot,), tmp_path / "link.mp4", quiet, overwrite=True)
    assert (tmp_path / "link.mp4").is_symlink()
    assert (tmp_path / "there.mp4").stat().st_size > 1000
    mistyped = subprocess.run([*RUN, "shak", "in.mp4"], capture_output=True, text=True, check=False)
    assert (mistyped.returncode, "did you mean shake?" in mistyped.stderr) == (2, True)
    help_text = subprocess.run(
        [str(Path(__file__).parents[1] / "start"), "--help"], capture_output=True, text=True, check=True
    )
    for command in ("shake", "measure", "motion", "margin", "render", "presets", "info"):
        assert command in help_text.stdout


def test_a_redo_in_a_drag_keeps_the_drag_and_unsaved_work_is_kept_when_ended(tmp_path: Path) -> None:
    session = Session(project(tmp_path))
    name = session.project.shots[0].id
    session.apply("One", shot_edits.set_shot(name, name="One"))
    session.undo()
    session.begin_gesture("Drag")
    session.apply("Drag", shot_edits.set_shot(name, name="Dragged"))
    assert session.redo() is None
    assert session.project.shots[0].name == "Dragged"
    assert session.undo() == "Drag"
    session.redo()
    keeper = recovery.Keeper(session)
    kept = keeper.keep_now()
    assert kept is not None
    assert store.load(kept).shots[0].name == "Dragged"
    assert recovery.left_behind() == []  # this window is still at work
    keeper.release()
    (found,) = recovery.left_behind()
    assert (found.path, found.name) == (kept, "untitled")
    session.recover(recovery.read(found))
    assert session.dirty


def test_timecode_goes_there_and_back() -> None:
    from fractions import Fraction

    from young_tremor.base.units import drops, parse_time, timecode

    for rate in (
        Fraction(24000, 1001),
        Fraction(24),
        Fraction(25),
        Fraction(30000, 1001),
        Fraction(60000, 1001),
        Fraction(50),
    ):
        for drop in (False, True) if drops(rate) else (False,):
            for frame in (0, 1, 1799, 1800, 1801, 1802, 17981, 17982, 17983, 107784, 107892, 215999):
                text = timecode(frame, rate, hours=True, drop=drop)
                assert round(parse_time(text, rate) * rate) == frame
    assert timecode(107892, Fraction(30000, 1001), hours=True, drop=True) == "01:00:00;00"
    with pytest.raises(UnreadableValue):
        parse_time("00:01:00;01", Fraction(30000, 1001))  # a number that is left out
